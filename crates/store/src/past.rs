//! Past leads as a scorecard is held against them: what they answered, what was known, what became of them.

use jiff::Timestamp;
use jiff_sqlx::{Timestamp as SqlTimestamp, ToSqlx};
use lumbo_dialogue::talk::Context;
use lumbo_records::{LeadStatus, RecordField};
use sqlx::types::Json;
use uuid::Uuid;

use crate::leads::status;
use crate::{Store, StoreError};

/// A past lead.
#[derive(Debug, Clone)]
pub struct PastRow {
    /// Its id.
    pub id: Uuid,
    /// When it was filed.
    pub filed_at: Timestamp,
    /// When it was last changed.
    pub changed_at: Timestamp,
    /// What became of it so far.
    pub status: LeadStatus,
    /// The queue it came by.
    pub queue: Option<Uuid>,
    /// Whose it is.
    pub owner: Option<Uuid>,
    /// The company it is of.
    pub company: Option<Uuid>,
    /// When somebody first did something with it.
    pub touched_at: Option<Timestamp>,
    /// What it says, with the ids of fields.
    pub fields: Vec<RecordField>,
    /// What was known without asking.
    pub context: Option<Context>,
}

/// Most leads of one reading.
pub const PAST_AT_ONCE: usize = 5_000;

/// Where a reading ended: when the last lead was changed, and its id.
pub type PastPlace = (Timestamp, Uuid);

impl Store {
    /// Leads of a dialogue that were changed from a moment on, 5,000 at most, the one changed first before.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn past_leads(
        &self,
        workspace: Uuid,
        dialogue: Uuid,
        after: PastPlace,
    ) -> Result<Vec<PastRow>, StoreError> {
        let rows = sqlx::query!(
            "select l.id, l.filed_at as \"filed_at: SqlTimestamp\", l.changed_at as \"changed_at: SqlTimestamp\",
             l.status, l.queue_id, l.owner_id, l.company_id, l.touched_at as \"touched_at: SqlTimestamp\",
             s.fields as \"fields: Json<Vec<RecordField>>\", c.state->'context' as \"context: Json<Context>\"
             from leads l join lead_snapshots s on s.workspace_id = l.workspace_id and s.conversation_id = l.shows
             join conversations c on c.workspace_id = l.workspace_id and c.id = l.shows
             where l.workspace_id = $1 and l.dialogue_id = $2 and (l.changed_at, l.id) > ($3, $4)
             order by l.changed_at, l.id limit $5",
            workspace,
            dialogue,
            after.0.to_sqlx() as _,
            after.1,
            PAST_AT_ONCE as i64
        )
        .fetch_all(&self.pool)
        .await?;
        rows.into_iter()
            .map(|row| {
                Ok(PastRow {
                    id: row.id,
                    filed_at: row.filed_at.to_jiff(),
                    changed_at: row.changed_at.to_jiff(),
                    status: status(&row.status)?,
                    queue: row.queue_id,
                    owner: row.owner_id,
                    company: row.company_id,
                    touched_at: row.touched_at.map(SqlTimestamp::to_jiff),
                    fields: row.fields.0,
                    context: row.context.map(|context| context.0),
                })
            })
            .collect()
    }

    /// How often reps said of a dialogue's leads that a criterion misled, by its id.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn misled(&self, workspace: Uuid, dialogue: Uuid) -> Result<Vec<(String, i64)>, StoreError> {
        let rows = sqlx::query!(
            "select misled as \"misled!\", count(*) as \"count!\" from leads
             where workspace_id = $1 and dialogue_id = $2 and misled is not null group by misled order by misled",
            workspace,
            dialogue
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows.into_iter().map(|row| (row.misled, row.count)).collect())
    }

    /// Names and companies of leads, in the order of their ids given.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn lead_names(
        &self,
        workspace: Uuid,
        leads: &[Uuid],
    ) -> Result<Vec<(Uuid, Option<String>, Option<String>)>, StoreError> {
        let rows = sqlx::query!(
            "select l.id, l.name, l.company from leads l join unnest($2::uuid[]) with ordinality as n (id, place)
             on n.id = l.id where l.workspace_id = $1 order by n.place",
            workspace,
            leads
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows.into_iter().map(|row| (row.id, row.name, row.company)).collect())
    }

    /// Names of everybody of a workspace, those who left too.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn people_names(&self, workspace: Uuid) -> Result<Vec<(Uuid, String)>, StoreError> {
        let rows = sqlx::query!("select id, name from people where workspace_id = $1", workspace)
            .fetch_all(&self.pool)
            .await?;
        Ok(rows.into_iter().map(|row| (row.id, row.name)).collect())
    }

    /// How many people who can sign in are members of any queue.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn people_who_call(&self, workspace: Uuid) -> Result<u32, StoreError> {
        let count = sqlx::query_scalar!(
            "select count(distinct m.person_id) as \"count!\" from queue_members m join people p
             on p.workspace_id = m.workspace_id and p.id = m.person_id where m.workspace_id = $1 and p.active",
            workspace
        )
        .fetch_one(&self.pool)
        .await?;
        Ok(u32::try_from(count).unwrap_or(u32::MAX))
    }
}
