//! Leads that are filed early: written at once, so that nothing is lost where the prospect leaves, and given to somebody
//! when the conversation has ended or gone silent.

use jiff_sqlx::Timestamp as SqlTimestamp;
use lumbo_dialogue::talk::{owner_limit, read_state};
use sqlx::types::{Json, JsonRawValue};
use uuid::Uuid;

use crate::conversations::{Spot, events_of};
use crate::{Ended, Store, StoreError, leads};

impl Store {
    /// Chooses the owner of the lead that a conversation filed early, where nobody has it yet. While the conversation
    /// goes on it is looked at again five minutes after the prospect was last heard. Safe to do again.
    ///
    /// # Errors
    /// [`StoreError`], [`StoreError::Newer`] where a newer version has gone on with it.
    #[crate::compiled_here]
    pub async fn choose_owner(&self, workspace: Uuid, conversation: Uuid) -> Result<Ended, StoreError> {
        let now = self.now();
        let mut db = self.pool.begin().await?;
        let row = sqlx::query!(
            "select c.dialogue_id, c.release_id, c.state as \"state: Json<Box<JsonRawValue>>\",
               c.last_at as \"last_at: SqlTimestamp\", w.domains_revision
             from conversations c join workspaces w on w.id = c.workspace_id
               join lead_snapshots s on s.workspace_id = c.workspace_id and s.conversation_id = c.id
               join leads l on l.workspace_id = s.workspace_id and l.id = s.lead_id
             where c.workspace_id = $1 and c.id = $2 and l.undecided for update of c",
            workspace,
            conversation
        )
        .fetch_optional(&mut *db)
        .await?;
        let Some(row) = row else { return Ok(Ended::Done) };
        let state = read_state(row.state.get())?;
        let limit = owner_limit(state.heard_at.unwrap_or_else(|| row.last_at.to_jiff()));
        if state.closed.is_none() && now < limit {
            return Ok(Ended::Later(limit));
        }
        let plan = self.plan_of(&mut db, workspace, row.release_id).await?;
        let domains = self.domains_at(&mut db, workspace, row.domains_revision).await?;
        let events = events_of(&mut db, workspace, conversation).await?;
        let spot = Spot { workspace, dialogue: row.dialogue_id, release: row.release_id, conversation };
        leads::file_last(&mut db, spot, &plan, &domains, &events, true, now).await?;
        // Whoever took it by hand meanwhile keeps it.
        sqlx::query!(
            "update leads l set undecided = false from lead_snapshots s where l.workspace_id = $1
             and s.workspace_id = $1 and s.conversation_id = $2 and l.id = s.lead_id and l.undecided",
            workspace,
            conversation
        )
        .execute(&mut *db)
        .await?;
        db.commit().await?;
        self.wakes.jobs();
        self.wakes.stream(workspace);
        Ok(Ended::Done)
    }
}
