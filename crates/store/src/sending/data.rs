//! A lead as an event carries it.

use jiff::Timestamp;
use jiff_sqlx::Timestamp as SqlTimestamp;
use lumbo_deliver::webhook::{Event, EventKind, LeadData, Owner, Said, Score};
use lumbo_dialogue::talk::Who;
use lumbo_records::RecordField;
use sqlx::types::Json;
use uuid::Uuid;

use crate::leads::TranscriptLine;
use crate::{Store, StoreError};

impl Store {
    /// An event about a lead, as the lead is now. `site` is where people open Lumbo.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub async fn lead_event(
        &self,
        workspace: Uuid,
        lead: Uuid,
        kind: EventKind,
        at: Timestamp,
        site: &str,
    ) -> Result<Event, StoreError> {
        let row = sqlx::query!(
            "select l.id, l.revision, l.name, l.email, l.phone, l.company, l.wants, l.total, l.band_label, l.status,
             l.unfinished,
             l.reason, l.amount::text as amount, l.currency, l.filed_at as \"filed_at: SqlTimestamp\",
             d.title, r.number, q.name as \"queue?\", o.name as \"owner?\", o.email as \"owner_email?\",
             s.fields as \"fields: Json<Vec<RecordField>>\",
             s.transcript as \"transcript: Json<Vec<TranscriptLine>>\"
             from leads l join lead_snapshots s on s.workspace_id = l.workspace_id and s.conversation_id = l.shows
             join dialogues d on d.workspace_id = l.workspace_id and d.id = l.dialogue_id
             join releases r on r.workspace_id = s.workspace_id and r.id = s.release_id
             left join queues q on q.workspace_id = l.workspace_id and q.id = l.queue_id
             left join people o on o.workspace_id = l.workspace_id and o.id = l.owner_id
             where l.workspace_id = $1 and l.id = $2",
            workspace,
            lead
        )
        .fetch_optional(&self.pool)
        .await?
        .ok_or(StoreError::NotFound("lead"))?;
        let data = LeadData {
            id: row.id.to_string(),
            revision: row.revision,
            link: format!("{}/leads/{}", site.trim_end_matches('/'), row.id),
            dialogue: row.title,
            release: row.number,
            filed_at: row.filed_at.to_jiff().to_string(),
            status: row.status,
            reason: row.reason,
            amount: row.amount,
            currency: row.currency,
            name: row.name,
            email: row.email,
            phone: row.phone,
            company: row.company,
            wants: row.wants,
            score: row.total.map(|total| Score { total, band: row.band_label }),
            queue: row.queue,
            owner: row.owner.zip(row.owner_email).map(|(name, email)| Owner { name, email }),
            fields: row.fields.0.into_iter().map(|field| (field.key, field.value)).collect(),
            transcript: row.transcript.0.into_iter().map(said).collect(),
            unfinished: row.unfinished,
            test: false,
        };
        Ok(Event { kind, timestamp: at, data })
    }

    /// The newest lead of a workspace, to try a destination with.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where there is none yet.
    pub async fn newest_lead(&self, workspace: Uuid) -> Result<Uuid, StoreError> {
        sqlx::query_scalar!(
            "select id from leads where workspace_id = $1 order by filed_at desc, id desc limit 1",
            workspace
        )
        .fetch_optional(&self.pool)
        .await?
        .ok_or(StoreError::NotFound("lead yet to try it with"))
    }
}

fn said(line: TranscriptLine) -> Said {
    Said { who: if line.who == Who::You { "prospect" } else { "dialogue" }.to_owned(), text: line.text }
}
