//! A lead as an event carries it.

use jiff::Timestamp;
use jiff_sqlx::Timestamp as SqlTimestamp;
use lumbo_condition::circumstances::Context;
use lumbo_deliver::mapping::{FieldFact, LeadFacts};
use lumbo_deliver::webhook::{Came, Event, EventKind, LeadData, Owner, Said, Score};
use lumbo_dialogue::file::FieldType;
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
    #[crate::compiled_here]
    pub async fn lead_event(
        &self,
        workspace: Uuid,
        lead: Uuid,
        kind: EventKind,
        at: Timestamp,
        site: &str,
    ) -> Result<Event, StoreError> {
        Ok(Event { kind, timestamp: at, data: self.lead_facts(workspace, lead, site).await?.data })
    }

    /// A lead with all that a mapping can read. `site` is where people open Lumbo.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    #[crate::compiled_here]
    pub async fn lead_facts(&self, workspace: Uuid, lead: Uuid, site: &str) -> Result<LeadFacts, StoreError> {
        let row = sqlx::query!(
            "select l.id, l.revision, l.name, l.email, l.phone, l.company, f.domain as \"domain?\", l.wants, l.total,
             l.band_label, l.status, l.unfinished,
             l.reason, l.amount::text as amount, l.currency, l.filed_at as \"filed_at: SqlTimestamp\",
             d.title, r.number, q.name as \"queue?\", o.name as \"owner?\", o.email as \"owner_email?\",
             s.fields as \"fields: Json<Vec<RecordField>>\",
             s.transcript as \"transcript: Json<Vec<TranscriptLine>>\", c.state->'context' as \"context: Json<Context>\"
             from leads l join lead_snapshots s on s.workspace_id = l.workspace_id and s.conversation_id = l.shows
             join conversations c on c.workspace_id = l.workspace_id and c.id = l.shows
             join dialogues d on d.workspace_id = l.workspace_id and d.id = l.dialogue_id
             join releases r on r.workspace_id = s.workspace_id and r.id = s.release_id
             left join companies f on f.workspace_id = l.workspace_id and f.id = l.company_id
             left join queues q on q.workspace_id = l.workspace_id and q.id = l.queue_id
             left join people o on o.workspace_id = l.workspace_id and o.id = l.owner_id
             where l.workspace_id = $1 and l.id = $2",
            workspace,
            lead
        )
        .fetch_optional(&self.pool)
        .await?
        .ok_or(StoreError::NotFound("lead"))?;
        let context = row.context.map(|context| context.0).unwrap_or_default();
        let names = row.fields.0.iter().filter(|field| field.kind == FieldType::PersonName).find_map(|field| {
            let part = |name: &str| field.value.get(name)?.as_str().map(str::to_owned);
            part("given").zip(part("family"))
        });
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
            domain: row.domain,
            came: Came {
                page: context.page,
                first_page: context.first_page,
                referrer: context.referrer,
                campaign: context.campaign,
            },
            wants: row.wants,
            score: row.total.map(|total| Score { total, band: row.band_label }),
            queue: row.queue,
            owner: row.owner.zip(row.owner_email).map(|(name, email)| Owner { name, email }),
            fields: row.fields.0.iter().map(|field| (field.key.clone(), field.value.clone())).collect(),
            transcript: row.transcript.0.into_iter().map(said).collect(),
            unfinished: row.unfinished,
            test: false,
        };
        let fact = |field: RecordField| {
            let RecordField { key, kind, value, shown, .. } = field;
            FieldFact { key, kind, value, shown }
        };
        Ok(LeadFacts { data, fields: row.fields.0.into_iter().map(fact).collect(), names })
    }

    /// Names and addresses of people who can own leads, by name.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn owners(&self, workspace: Uuid) -> Result<Vec<(String, String)>, StoreError> {
        let rows = sqlx::query!(
            "select p.name, p.email from people p where p.workspace_id = $1 and p.active
             and (p.role in ('rep', 'rep_lead') or exists (select from queue_members m
               where m.workspace_id = p.workspace_id and m.person_id = p.id)) order by lower(p.name), p.id",
            workspace
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows.into_iter().map(|row| (row.name, row.email)).collect())
    }

    /// The newest lead of dialogues, to try a destination with; of every dialogue where none is named.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where there is none yet.
    #[crate::compiled_here]
    pub async fn newest_lead_of(&self, workspace: Uuid, dialogues: &[Uuid]) -> Result<Uuid, StoreError> {
        sqlx::query_scalar!(
            "select id from leads where workspace_id = $1 and ($2::uuid[] = '{}' or dialogue_id = any($2))
             and erased_at is null order by filed_at desc, id desc limit 1",
            workspace,
            dialogues
        )
        .fetch_optional(&self.pool)
        .await?
        .ok_or(StoreError::NotFound("lead yet to try it with"))
    }
}

fn said(line: TranscriptLine) -> Said {
    Said { who: if line.who == Who::You { "prospect" } else { "dialogue" }.to_owned(), text: line.text }
}
