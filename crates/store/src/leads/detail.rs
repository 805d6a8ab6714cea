//! One lead with everything a rep needs.

use std::collections::BTreeMap;

use jiff::Timestamp;
use jiff_sqlx::{Timestamp as SqlTimestamp, ToSqlx};
use lumbo_condition::circumstances::Context;
use lumbo_dialogue::file::{Brief, Field};
use lumbo_dialogue::score::ScoreResult;
use lumbo_records::{AlsoGiven, NextWhat, NotGiven, RecordField, Standing, lacks, not_given};
use lumbo_route::Decision;
use lumbo_value::{Missing, Value};
use sqlx::types::Json;
use uuid::Uuid;

use super::change::also_given;
use super::list::status;
use super::mails::MailRow;
use super::on_file::standing;
use super::{LeadRow, TaskRow, TranscriptLine};
use crate::{Person, Reach, Store, StoreError};

/// An entry of a lead's timeline.
#[derive(Debug, Clone)]
pub struct LogRow {
    /// When, RFC 3339.
    pub at: Timestamp,
    /// Who; nobody for what Lumbo did.
    pub person: Option<String>,
    /// What kind of thing: filing, conversation, call, status, record.
    pub kind: String,
    /// What, in words.
    pub what: String,
}

/// One conversation of a lead.
#[derive(Debug, Clone)]
pub struct SnapshotRow {
    /// The conversation.
    pub conversation: Uuid,
    /// When it was filed, RFC 3339.
    pub filed_at: Timestamp,
    /// The band's name.
    pub band: Option<String>,
    /// The score.
    pub total: Option<i64>,
    /// Up to four things they want, in words.
    pub wants: String,
    /// True for the one whose answers the lead shows.
    pub shown: bool,
    /// True where its newer answers wait for a person's word.
    pub waits: bool,
}

/// Something a conversation gave that differs from what is on file.
#[derive(Debug, Clone)]
pub struct AlsoGivenRow {
    /// Its id.
    pub id: Uuid,
    /// What it is.
    pub what: AlsoGiven,
    /// What was given.
    pub value: String,
    /// What is on file.
    pub on_file: Option<String>,
    /// When it was given, RFC 3339.
    pub given_at: Timestamp,
}

/// A lead with everything a rep needs.
#[derive(Debug, Clone)]
pub struct LeadDetail {
    /// As in the list.
    pub row: LeadRow,
    /// Its revision; a change names it.
    pub revision: i64,
    /// Why it was lost, is not a fit or no lead.
    pub reason: Option<String>,
    /// What it was won for, a decimal number.
    pub amount: Option<String>,
    /// ISO 4217 code of the amount.
    pub currency: Option<String>,
    /// When to call again, a date.
    pub later_on: Option<String>,
    /// Whether it was a fit after all, by a rep's word.
    pub fits: Option<bool>,
    /// Id of the criterion that misled.
    pub misled: Option<String>,
    /// E-mail address, as this lead's conversation gave it.
    pub email: Option<String>,
    /// Phone number, E.164, as this lead's conversation gave it.
    pub phone: Option<String>,
    /// What they told us.
    pub fields: Vec<RecordField>,
    /// What it must carry and lacks, in words.
    pub lacks: Vec<String>,
    /// What was asked for and not given.
    pub not_given: Vec<NotGiven>,
    /// Why they qualify.
    pub score: Option<ScoreResult>,
    /// Why it is whose it is: the steps of routing.
    pub decision: Decision,
    /// Names of the workspace's queues by their keys.
    pub queue_names: BTreeMap<String, String>,
    /// In their words.
    pub transcript: Vec<TranscriptLine>,
    /// The dialogue.
    pub dialogue_id: Uuid,
    /// The dialogue's title.
    pub dialogue: String,
    /// Number of the release.
    pub release: i32,
    /// Its conversations, the first one first.
    pub conversations: Vec<SnapshotRow>,
    /// What differs from what is on file and waits for a person's word.
    pub also_given: Vec<AlsoGivenRow>,
    /// What happened so far.
    pub log: Vec<LogRow>,
    /// Working minutes from filing to the first try.
    pub first_try_minutes: Option<i64>,
    /// Working minutes from filing to the first contact.
    pub first_contact_minutes: Option<i64>,
    /// Whether the one who asks can take their last step back.
    pub step_back: bool,
    /// Where the conversation that it shows came from.
    pub came: Came,
    /// The question that was left open, where it was left unfinished.
    pub left_at: Option<String>,
    /// Mails that people wrote from it, the newest first.
    pub mails: Vec<MailRow>,
    /// What people owe on it, open tasks first.
    pub tasks: Vec<TaskRow>,
    /// The contact.
    pub contact: Uuid,
    /// How they want to be reached.
    pub reach: Reach,
    /// Where else it is kept: the customer system's name, and a link to the record there.
    pub elsewhere: Vec<(String, String)>,
    /// The company on file, with its name there and what it is to us.
    pub company: Option<(Uuid, String, Standing)>,
}

/// Where a conversation came from.
#[derive(Debug, Clone, Default)]
pub struct Came {
    /// Name of the placement it was started in.
    pub placement: Option<String>,
    /// What the page saw.
    pub context: Context,
}

impl Store {
    /// One lead with everything, where the person may see it.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], also where it is somebody else's.
    #[crate::compiled_here]
    pub async fn lead(&self, person: &Person, id: Uuid) -> Result<LeadDetail, StoreError> {
        let row = sqlx::query!(
            "select l.id, l.name, l.company, l.email, l.phone, l.wants, l.total, l.band_label, l.band_rank,
             l.band_from, l.status, l.reason, l.amount::text as amount, l.currency,
               l.later_on::text as later_on, l.call_by as \"call_by: SqlTimestamp\",
               l.tries, l.tries_planned, l.next_what, l.next_at as \"next_at: SqlTimestamp\",
               l.first_try_minutes, l.first_contact_minutes,
               l.zone, l.tags, nullif(case when l.next_what = 'call' and not l.closed
                 then callable_at(l.zone, $6, w.calls_from, w.calls_until) else $6 end, $6)
                 as \"callable_at: SqlTimestamp\",
               l.unfinished, s.left_at, l.contact_id, f.id as \"company_id?\",
               coalesce(f.name, f.domain) as \"company_name?\", f.standing as \"standing?\",
               exists(select from activities a where a.workspace_id = l.workspace_id and a.lead_id = l.id
                 and a.revision = l.revision and a.person_id = $2 and a.before is not null and a.taken_back_at is null
                 and a.at > $5) as \"step_back!\", l.fits, l.misled, l.dialogue_id,
               l.revision, l.decision as \"decision: Json<Decision>\", q.name as
                   \"queue?\", o.name as \"owner?\",
               coalesce(l.owner_id = $2, false) as \"mine!\", l.filed_at as \"filed_at: SqlTimestamp\", d.title,
                   r.number,
               s.fields as \"fields: Json<Vec<RecordField>>\", s.score as \"score: Json<ScoreResult>\", s.transcript
                   as \"transcript: Json<Vec<TranscriptLine>>\",
               c.state->'context' as \"context: Json<Context>\",
               c.state->'missing' as \"missing: Json<BTreeMap<String, Missing>>\",
               c.state->'refused' as \"refused: Json<BTreeMap<String, Value>>\",
               r.body->>'language' as language, p.draft->>'name' as \"placement?\",
               r.body->'brief' as \"brief: Json<Brief>\", r.body->'fields' as \"definitions: Json<Vec<Field>>\"
             from leads l join workspaces w on w.id = l.workspace_id
             join lead_snapshots s on s.workspace_id = l.workspace_id and s.conversation_id = l.shows
             join dialogues d on d.workspace_id = l.workspace_id and d.id = l.dialogue_id
             join releases r on r.workspace_id = s.workspace_id and r.id = s.release_id
             join conversations c on c.workspace_id = l.workspace_id and c.id = l.shows
             left join placements p on p.workspace_id = l.workspace_id and p.id = c.placement_id
             left join queues q on q.workspace_id = l.workspace_id and q.id = l.queue_id
             left join people o on o.workspace_id = l.workspace_id and o.id = l.owner_id
             left join companies f on f.workspace_id = l.workspace_id and f.id = l.company_id
             where l.workspace_id = $1 and l.id = $4
               and ($3 or l.owner_id in (select seen_by($1, $2))
                 or exists (select from queue_members m where m.workspace_id = l.workspace_id
                 and m.queue_id = l.queue_id and m.person_id in (select seen_by($1, $2))))",
            person.workspace_id,
            person.id,
            person.sees_all(),
            id,
            self.now().checked_sub(super::work::TAKEN_BACK_WITHIN).unwrap_or(self.now()).to_sqlx() as _,
            self.now().to_sqlx() as _
        )
        .fetch_optional(&self.pool)
        .await?
        .ok_or(StoreError::NotFound("lead"))?;
        let definitions = row.definitions.map(|definitions| definitions.0).unwrap_or_default();
        let of = |key: &str| definitions.iter().find(|field| field.key == key);
        let lacks = lacks(
            &row.brief.map(|brief| brief.0.needs).unwrap_or_default(),
            &|key| of(key).map(|field| field.label.clone()),
            &|key| of(key).is_some_and(|field| row.fields.0.iter().any(|given| given.id == field.id)),
        );
        let queue_names = self.queues(person.workspace_id).await?.into_iter().collect();
        Ok(LeadDetail {
            row: LeadRow {
                id: row.id,
                name: row.name,
                company: row.company,
                wants: row.wants,
                total: row.total,
                band: row.band_label,
                band_rank: row.band_rank,
                band_from: row.band_from,
                status: status(&row.status)?,
                queue: row.queue,
                owner: row.owner,
                mine: row.mine,
                filed_at: row.filed_at.to_jiff(),
                call_by: row.call_by.map(SqlTimestamp::to_jiff),
                phone: row.phone.clone(),
                tries: row.tries,
                tries_planned: row.tries_planned,
                next_what: row.next_what.as_deref().and_then(NextWhat::parse),
                next_at: row.next_at.map(SqlTimestamp::to_jiff),
                unfinished: row.unfinished,
                zone: row.zone,
                callable_at: row.callable_at.map(SqlTimestamp::to_jiff),
                tags: row.tags,
                cells: Vec::new(),
            },
            left_at: row.left_at,
            tasks: self.tasks_of(person, id).await?,
            contact: row.contact_id,
            reach: self.reach_of(person.workspace_id, row.contact_id).await?,
            elsewhere: self.elsewhere(person.workspace_id, id).await?,
            company: match (row.company_id, row.company_name, row.standing) {
                (Some(id), name, Some(text)) => Some((id, name.unwrap_or_default(), standing(&text)?)),
                _ => None,
            },
            first_try_minutes: row.first_try_minutes,
            first_contact_minutes: row.first_contact_minutes,
            step_back: row.step_back,
            came: Came { placement: row.placement, context: row.context.map(|context| context.0).unwrap_or_default() },
            revision: row.revision,
            reason: row.reason,
            amount: row.amount,
            currency: row.currency,
            later_on: row.later_on,
            fits: row.fits,
            misled: row.misled,
            email: row.email,
            phone: row.phone,
            fields: row.fields.0,
            lacks,
            not_given: not_given(
                &definitions,
                row.language.as_deref().unwrap_or("en"),
                &row.missing.map(|missing| missing.0).unwrap_or_default(),
                &row.refused.map(|refused| refused.0).unwrap_or_default(),
            ),
            score: row.score.map(|score| score.0),
            decision: row.decision.0,
            queue_names,
            transcript: row.transcript.0,
            dialogue_id: row.dialogue_id,
            dialogue: row.title,
            release: row.number,
            conversations: self.snapshots(person.workspace_id, id).await?,
            also_given: self.also_given(person.workspace_id, id).await?,
            log: self.timeline(person.workspace_id, id).await?,
            mails: self.mails_of(person, id).await?,
        })
    }

    async fn snapshots(&self, workspace: Uuid, lead: Uuid) -> Result<Vec<SnapshotRow>, StoreError> {
        let rows = sqlx::query!(
            "select s.conversation_id, s.filed_at as \"filed_at: SqlTimestamp\", s.band_label, s.total, s.wants,
             s.conversation_id = l.shows as \"shown!\",
               coalesce(s.conversation_id = l.newer, false) as \"waits!\"
             from lead_snapshots s join leads l on l.workspace_id = s.workspace_id and l.id = s.lead_id
             where s.workspace_id = $1 and s.lead_id = $2 order by s.filed_at, s.conversation_id",
            workspace,
            lead
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows
            .into_iter()
            .map(|row| SnapshotRow {
                conversation: row.conversation_id,
                filed_at: row.filed_at.to_jiff(),
                band: row.band_label,
                total: row.total,
                wants: row.wants,
                shown: row.shown,
                waits: row.waits,
            })
            .collect())
    }

    async fn elsewhere(&self, workspace: Uuid, lead: Uuid) -> Result<Vec<(String, String)>, StoreError> {
        let rows = sqlx::query!(
            "select d.name, o.link as \"link!\" from outside_ids o
             join destinations d on d.workspace_id = o.workspace_id and d.id = o.destination_id and d.removed_at is null
             where o.workspace_id = $1 and o.record = 'lead' and o.record_id = $2 and o.link is not null
             order by lower(d.name), d.id",
            workspace,
            lead
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows.into_iter().map(|row| (row.name, row.link)).collect())
    }

    async fn also_given(&self, workspace: Uuid, lead: Uuid) -> Result<Vec<AlsoGivenRow>, StoreError> {
        let rows = sqlx::query!(
            "select a.id, a.what, a.value, a.given_at as \"given_at: SqlTimestamp\",
               case a.what when 'name' then k.name when 'email' then k.email when 'phone' then k.phone
                 else c.name end as on_file
             from also_given a join contacts k on k.workspace_id = a.workspace_id and k.id = a.contact_id
             join leads l on l.workspace_id = a.workspace_id and l.id = a.lead_id
             left join companies c on c.workspace_id = l.workspace_id and c.id = l.company_id
             where a.workspace_id = $1 and a.lead_id = $2 and a.settled_at is null order by a.given_at, a.what",
            workspace,
            lead
        )
        .fetch_all(&self.pool)
        .await?;
        rows.into_iter()
            .map(|row| {
                Ok(AlsoGivenRow {
                    id: row.id,
                    what: also_given(&row.what)?,
                    value: row.value,
                    on_file: row.on_file,
                    given_at: row.given_at.to_jiff(),
                })
            })
            .collect()
    }

    pub(crate) async fn timeline(&self, workspace: Uuid, lead: Uuid) -> Result<Vec<LogRow>, StoreError> {
        let rows = sqlx::query!(
            "select g.at as \"at: SqlTimestamp\", p.name as \"person?\", g.kind as \"kind!\", g.what from activities g
             left join people p on p.workspace_id = g.workspace_id and p.id = g.person_id
             where g.workspace_id = $1 and g.lead_id = $2 and g.taken_back_at is null order by g.at, g.id",
            workspace,
            lead
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows
            .into_iter()
            .map(|row| LogRow { at: row.at.to_jiff(), person: row.person, kind: row.kind, what: row.what })
            .collect())
    }
}
