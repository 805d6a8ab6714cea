//! What goes where at a customer system or a sheet: the mapping, what the customer system says that it holds, and the
//! ids that our records have there.

use jiff::Timestamp;
use jiff_sqlx::{Timestamp as SqlTimestamp, ToSqlx};
use lumbo_deliver::mapping::{Holds, Known, Mapping, Schema, Their, Written};
use lumbo_dialogue::file::{Field, Scorecard};
use lumbo_people::Audited;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use sqlx::types::Json;
use uuid::Uuid;

use super::ToSend;
use crate::jobs::{self, JobKind};
use crate::{Person, Store, StoreError};

/// A destination's mapping, with what it was made against.
#[derive(Debug, Clone)]
pub struct MappingRow {
    /// The destination's revision; a change names it.
    pub revision: i64,
    /// The mapping.
    pub mapping: Mapping,
    /// What the customer system holds, as it was read last.
    pub schema: Option<Schema>,
    /// When it was.
    pub schema_read_at: Option<Timestamp>,
    /// Whose leads go there; every dialogue's where empty.
    pub dialogues: Vec<Uuid>,
}

/// What the newest release of a dialogue offers to map.
#[derive(Debug, Clone)]
pub struct ReleasedFields {
    /// The dialogue.
    pub dialogue: Uuid,
    /// Its title.
    pub title: String,
    /// The language its labels are written in.
    pub language: String,
    /// Its fields.
    pub fields: Vec<Field>,
    /// Its scorecards.
    pub scorecards: Vec<Scorecard>,
}

/// Records there that could be one of ours; a person says which.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[schemars(rename = "RecordChoice")]
pub struct Choice {
    /// Of what.
    pub object: Holds,
    /// Which.
    pub candidates: Vec<Their>,
}

impl Store {
    /// What goes where at a destination.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    #[crate::compiled_here]
    pub async fn mapping(&self, workspace: Uuid, destination: Uuid) -> Result<MappingRow, StoreError> {
        let row = sqlx::query!(
            "select revision, mapping as \"mapping: Json<Mapping>\", their_schema as \"schema: Json<Schema>\",
             schema_read_at as \"schema_read_at: SqlTimestamp\", dialogues from destinations
             where workspace_id = $1 and id = $2 and removed_at is null",
            workspace,
            destination
        )
        .fetch_optional(&self.pool)
        .await?
        .ok_or(StoreError::NotFound("destination"))?;
        Ok(MappingRow {
            revision: row.revision,
            mapping: row.mapping.map(|mapping| mapping.0).unwrap_or_default(),
            schema: row.schema.map(|schema| schema.0),
            schema_read_at: row.schema_read_at.map(SqlTimestamp::to_jiff),
            dialogues: row.dialogues,
        })
    }

    /// Keeps a mapping.
    ///
    /// # Errors
    /// [`StoreError::Conflict`] where the destination was changed meanwhile.
    #[crate::compiled_here]
    pub async fn put_mapping(
        &self,
        by: &Person,
        destination: Uuid,
        revision: i64,
        mapping: &Mapping,
    ) -> Result<(), StoreError> {
        let mut db = self.pool.begin().await?;
        let name = sqlx::query_scalar!(
            "update destinations set mapping = $4, revision = revision + 1
             where workspace_id = $1 and id = $2 and revision = $3 and removed_at is null returning name",
            by.workspace_id,
            destination,
            revision,
            Json(mapping) as _
        )
        .fetch_optional(&mut *db)
        .await?
        .ok_or_else(super::destinations::changed_meanwhile)?;
        let about = format!("destination {name}: what goes where");
        self.told(&mut db, by, destination, Audited::SettingsChanged, &about).await?;
        db.commit().await?;
        Ok(())
    }

    /// Keeps what a customer system says that it holds.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    #[crate::compiled_here]
    pub async fn put_schema(&self, workspace: Uuid, destination: Uuid, schema: &Schema) -> Result<(), StoreError> {
        let done = sqlx::query!(
            "update destinations set their_schema = $3, schema_read_at = $4
             where workspace_id = $1 and id = $2 and removed_at is null",
            workspace,
            destination,
            Json(schema) as _,
            self.now().to_sqlx() as _
        )
        .execute(&self.pool)
        .await?;
        if done.rows_affected() == 0 { Err(StoreError::NotFound("destination")) } else { Ok(()) }
    }

    /// What the newest releases of dialogues offer to map, by title; of every dialogue where none is named.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn released_fields(
        &self,
        workspace: Uuid,
        dialogues: &[Uuid],
    ) -> Result<Vec<ReleasedFields>, StoreError> {
        let rows = sqlx::query!(
            "select distinct on (lower(d.title), d.id) d.id, d.title,
             coalesce(r.body->>'language', '') as \"language!\", r.body->'fields' as \"fields: Json<Vec<Field>>\",
             r.body->'scorecards' as \"scorecards: Json<Vec<Scorecard>>\"
             from dialogues d join releases r on r.workspace_id = d.workspace_id and r.dialogue_id = d.id
             where d.workspace_id = $1 and ($2::uuid[] = '{}' or d.id = any($2))
             order by lower(d.title), d.id, r.number desc limit 200",
            workspace,
            dialogues
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows
            .into_iter()
            .map(|row| ReleasedFields {
                dialogue: row.id,
                title: row.title,
                language: row.language,
                fields: row.fields.map(|fields| fields.0).unwrap_or_default(),
                scorecards: row.scorecards.map(|cards| cards.0).unwrap_or_default(),
            })
            .collect())
    }

    /// The ids that a lead, its contact and its company have at a destination. Of a contact into whom another one went,
    /// the other one's counts where it has none of its own.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    #[crate::compiled_here]
    pub async fn known_outside(&self, workspace: Uuid, destination: Uuid, lead: Uuid) -> Result<Known, StoreError> {
        let row = sqlx::query!(
            "select (select o.outside_id from outside_ids o where o.workspace_id = l.workspace_id
                and o.destination_id = $2 and o.record = 'lead' and o.record_id = l.id) as lead,
              (select o.outside_id from outside_ids o where o.workspace_id = l.workspace_id
                and o.destination_id = $2 and o.record = 'company' and o.record_id = l.company_id) as company,
              (select o.outside_id from outside_ids o
                left join contacts k on k.workspace_id = o.workspace_id and k.id = o.record_id
                where o.workspace_id = l.workspace_id and o.destination_id = $2 and o.record = 'contact'
                  and (o.record_id = l.contact_id or k.merged_into = l.contact_id)
                order by o.record_id = l.contact_id desc, o.at limit 1) as contact
             from leads l where l.workspace_id = $1 and l.id = $3",
            workspace,
            destination,
            lead
        )
        .fetch_optional(&self.pool)
        .await?
        .ok_or(StoreError::NotFound("lead"))?;
        Ok(Known { company: row.company, contact: row.contact, lead: row.lead })
    }

    /// Keeps the id that a record of a lead has at a destination, or forgets one that leads nowhere any more.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn keep_outside(
        &self,
        workspace: Uuid,
        destination: Uuid,
        lead: Uuid,
        written: &Written,
    ) -> Result<(), StoreError> {
        let record = written.object.as_str();
        let Some(id) = &written.id else {
            sqlx::query!(
                "delete from outside_ids o using leads l where o.workspace_id = $1 and o.destination_id = $2
                   and o.record = $3 and l.workspace_id = $1 and l.id = $4
                   and (o.record_id = case $3 when 'lead' then l.id when 'contact' then l.contact_id
                       else l.company_id end
                     or ($3 = 'contact' and o.record_id in (select k.id from contacts k
                       where k.workspace_id = $1 and k.merged_into = l.contact_id)))",
                workspace,
                destination,
                record,
                lead
            )
            .execute(&self.pool)
            .await?;
            return Ok(());
        };
        sqlx::query!(
            "insert into outside_ids (workspace_id, destination_id, record, record_id, outside_id, link, at)
             select $1, $2, $3, case $3 when 'lead' then l.id when 'contact' then l.contact_id else l.company_id end,
               $5, $6, $7
             from leads l where l.workspace_id = $1 and l.id = $4 and ($3 <> 'company' or l.company_id is not null)
             on conflict (workspace_id, destination_id, record, record_id) do update
               set outside_id = excluded.outside_id, link = coalesce(excluded.link, outside_ids.link)",
            workspace,
            destination,
            record,
            lead,
            id,
            written.link,
            self.now().to_sqlx() as _
        )
        .execute(&self.pool)
        .await?;
        Ok(())
    }

    /// Keeps which records at a customer system could be one of a lead's.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn offer_choice(&self, workspace: Uuid, sending: &ToSend, choice: &Choice) -> Result<(), StoreError> {
        sqlx::query!(
            "update sendings set choose = $3 where workspace_id = $1 and id = $2",
            workspace,
            sending.id,
            Json(choice) as _
        )
        .execute(&self.pool)
        .await?;
        Ok(())
    }

    /// A person's word which record there it is; the sending goes again with it.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where there is nothing to say any more, [`StoreError::Conflict`] where that record is
    /// none of those that were offered.
    #[crate::compiled_here]
    pub async fn choose(
        &self,
        by: &Person,
        destination: Uuid,
        sending: Uuid,
        outside_id: &str,
    ) -> Result<(), StoreError> {
        let now = self.now();
        let mut db = self.pool.begin().await?;
        let row = sqlx::query!(
            "select s.lead_id, s.choose as \"choose: Json<Choice>\", d.name from sendings s
             join destinations d on d.workspace_id = s.workspace_id and d.id = s.destination_id and d.removed_at is null
             where s.workspace_id = $1 and s.destination_id = $2 and s.id = $3 and s.state = 'parked'
               and s.choose is not null for update of s",
            by.workspace_id,
            destination,
            sending
        )
        .fetch_optional(&mut *db)
        .await?
        .ok_or(StoreError::NotFound("choice"))?;
        let Some(choice) = row.choose else { return Err(StoreError::NotFound("choice")) };
        let Some(their) = choice.0.candidates.iter().find(|their| their.id == outside_id) else {
            return Err(StoreError::Conflict("that record is none of those that were found. Look again".into()));
        };
        sqlx::query!(
            "insert into outside_ids (workspace_id, destination_id, record, record_id, outside_id, link, at)
             select $1, $2, $3, case $3 when 'lead' then l.id when 'contact' then l.contact_id else l.company_id end,
               $5, $6, $7
             from leads l where l.workspace_id = $1 and l.id = $4 and ($3 <> 'company' or l.company_id is not null)
             on conflict (workspace_id, destination_id, record, record_id) do update
               set outside_id = excluded.outside_id, link = excluded.link",
            by.workspace_id,
            destination,
            choice.0.object.as_str(),
            row.lead_id,
            their.id,
            their.link,
            now.to_sqlx() as _
        )
        .execute(&mut *db)
        .await?;
        sqlx::query!(
            "update sendings set state = 'waiting', ended_at = null, body = null, choose = null
             where workspace_id = $1 and id = $2",
            by.workspace_id,
            sending
        )
        .execute(&mut *db)
        .await?;
        jobs::set(&mut db, by.workspace_id, JobKind::Send, sending, &sending.to_string(), now, now).await?;
        let about = format!("destination {}: said which {} it is", row.name, choice.0.object.as_str());
        self.told(&mut db, by, destination, Audited::SettingsChanged, &about).await?;
        db.commit().await?;
        self.wakes.jobs();
        Ok(())
    }
}
