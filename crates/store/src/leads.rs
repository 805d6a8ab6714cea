//! Leads with their contacts and companies: filed by conversations, worked by reps.

use jiff::Timestamp;
use jiff_sqlx::{Timestamp as SqlTimestamp, ToSqlx};
use lumbo_core::field::domains::DomainLists;
use lumbo_core::field::shown;
use lumbo_core::file::field::Record;
use lumbo_core::file::{Field, FieldType};
use lumbo_core::outline::Plan;
use lumbo_core::route::Decision;
use lumbo_core::score::ScoreResult;
use lumbo_core::talk::{Event, Line, State, Who, prospect_view};
use lumbo_core::value::Value;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use sqlx::PgConnection;
use sqlx::types::Json;
use uuid::Uuid;

use crate::conversations::{Spot, events_of};
use crate::queues::pick_owner;
use crate::{Person, Store, StoreError};

/// A field of a record, typed and as shown. A missing field has no such entry.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct RecordField {
    /// The field's immutable id.
    pub id: String,
    /// Its key at the time of filing.
    pub key: String,
    /// Its label at the time of filing.
    pub label: String,
    /// Its type.
    #[serde(rename = "type")]
    pub kind: FieldType,
    /// The record it belongs to.
    pub record: Record,
    /// The value, in the JSON form of its type.
    pub value: serde_json::Value,
    /// The value in plain words.
    pub shown: String,
}

/// A line of what was said.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct TranscriptLine {
    /// Who said it.
    pub who: Who,
    /// The words.
    pub text: String,
}

/// A line of a list of leads.
#[derive(Debug, Clone, Serialize, Deserialize, JsonSchema)]
pub struct LeadRow {
    /// Its id.
    pub id: Uuid,
    /// The prospect's name, where it is known.
    pub name: Option<String>,
    /// The company's name, where it is known.
    pub company: Option<String>,
    /// Up to four things they want, in words.
    pub wants: String,
    /// The score.
    pub total: Option<i64>,
    /// The band's name.
    pub band: Option<String>,
    /// Place of the band from the lowest, 0; -1 where the lead was ruled out.
    pub band_rank: i32,
    /// The threshold that the band begins at.
    pub band_from: Option<i64>,
    /// `new`, `called`, `won`, `lost` or `not_a_fit`.
    pub status: String,
    /// The queue's name.
    pub queue: Option<String>,
    /// The owner's name.
    pub owner: Option<String>,
    /// True where the owner is the one who asks.
    pub mine: bool,
    /// When it was filed, RFC 3339.
    #[schemars(with = "String")]
    pub filed_at: Timestamp,
}

/// An entry of a lead's log.
#[derive(Debug, Clone, Serialize, Deserialize, JsonSchema)]
pub struct LogRow {
    /// When, RFC 3339.
    #[schemars(with = "String")]
    pub at: Timestamp,
    /// Who; nobody for what Lumbo did.
    pub person: Option<String>,
    /// What, in words.
    pub what: String,
}

/// A lead with everything a rep needs.
#[derive(Debug, Clone, Serialize, Deserialize, JsonSchema)]
pub struct LeadDetail {
    /// As in the list.
    pub row: LeadRow,
    /// Its revision; a change names it.
    pub revision: i64,
    /// Why it was lost, or is not a fit.
    pub reason: Option<String>,
    /// Email of the contact.
    pub email: Option<String>,
    /// Phone of the contact, E.164.
    pub phone: Option<String>,
    /// What they told us.
    pub fields: Vec<RecordField>,
    /// Why they qualify.
    pub score: Option<ScoreResult>,
    /// Why it is whose it is: the steps of routing.
    pub decision: Decision,
    /// In their words.
    pub transcript: Vec<TranscriptLine>,
    /// The dialogue's title.
    pub dialogue: String,
    /// Number of the release.
    pub release: i32,
    /// What happened so far.
    pub log: Vec<LogRow>,
}

/// Which leads a list shows.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum LeadFilter {
    /// Open and mine.
    Mine,
    /// Open, in a queue of mine, and nobody's.
    Queue,
    /// Everything I may see, closed ones too.
    All,
}

/// What became of a lead.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct OutcomeChange {
    /// The revision that was looked at.
    pub revision: i64,
    /// `new`, `called`, `won`, `lost` or `not_a_fit`.
    pub status: String,
    /// Why, for lost and not a fit; 500 characters at most.
    #[serde(default)]
    pub reason: Option<String>,
}

fn record_fields(plan: &Plan, state: &State) -> Vec<RecordField> {
    plan.file
        .fields
        .iter()
        .filter_map(|field| {
            let held = state.values.get(&field.id)?;
            Some(RecordField {
                id: field.id.clone(),
                key: field.key.clone(),
                label: field.label.clone(),
                kind: field.kind,
                record: field.record,
                value: held.value.to_json(),
                shown: shown(field, &held.value, &plan.language, &plan.file.language),
            })
        })
        .collect()
}

fn first_of<'a>(plan: &'a Plan, state: &'a State, fits: impl Fn(&Field) -> bool) -> Option<&'a Value> {
    plan.file.fields.iter().filter(|field| fits(field)).find_map(|field| state.values.get(&field.id)).map(|held| &held.value)
}

fn of_record(fields: &[RecordField], record: Record) -> Vec<&RecordField> {
    fields.iter().filter(|field| field.record == record).collect()
}

/// Files a lead, or updates the one that this conversation filed before: company, contact and lead, in the caller's
/// transaction. The owner is picked once, at the first filing.
pub(crate) async fn file(
    db: &mut PgConnection,
    spot: Spot,
    plan: &Plan,
    state: &State,
    domains: &DomainLists,
    filing: u32,
    score: Option<&ScoreResult>,
    decision: &Decision,
    now: Timestamp,
) -> Result<(), StoreError> {
    let fields = record_fields(plan, state);
    let text = |value: Option<&Value>| value.map(Value::to_string);
    let email = text(first_of(plan, state, |field| field.kind == FieldType::Email));
    let phone = text(first_of(plan, state, |field| field.kind == FieldType::Phone));
    let name = text(first_of(plan, state, |field| field.kind == FieldType::PersonName));
    let company_name = text(first_of(plan, state, |field| field.kind == FieldType::Company));
    let domain = email
        .as_deref()
        .and_then(|email| email.rsplit_once('@'))
        .map(|(_, domain)| domain.to_lowercase())
        .filter(|domain| domains.not_company(domain).is_none());
    let company = put_company(db, spot.workspace, company_name.as_deref(), domain.as_deref(), &of_record(&fields, Record::Company)).await?;
    let contact = put_contact(db, spot, company, name.as_deref(), email.as_deref(), phone.as_deref(), &of_record(&fields, Record::Contact)).await?;

    let events = events_of(db, spot.workspace, spot.conversation).await?;
    let until = events.iter().rposition(|event| matches!(event, Event::Filed { filing: n, .. } if *n == filing)).unwrap_or(events.len());
    let transcript: Vec<TranscriptLine> = prospect_view(plan, state, &events[..until])
        .lines
        .into_iter()
        .filter_map(|line| match line.line {
            Line::Text { text } => Some(TranscriptLine { who: line.who, text }),
            _ => None,
        })
        .collect();
    let rank = score
        .and_then(|score| score.band.as_ref())
        .and_then(|band| plan.cards.iter().flat_map(|card| card.file.bands.iter().enumerate()).find(|(_, known)| known.id == *band))
        .map_or_else(|| if score.is_some_and(|score| !score.rule_outs.is_empty()) { -1 } else { 0 }, |(rank, _)| i32::try_from(rank).unwrap_or(i32::MAX));
    let band = score.and_then(|score| score.band.clone());
    let band_label = score.map(|score| score.band_label.clone());
    let total = score.map(|score| score.total);

    let before = sqlx::query_scalar!("select id from leads where workspace_id = $1 and conversation_id = $2 for update", spot.workspace, spot.conversation)
        .fetch_optional(&mut *db)
        .await?;
    if let Some(lead) = before {
        sqlx::query!(
            "update leads set contact_id = $3, company_id = $4, fields = $5, score = $6, total = $7, band = $8, band_label = $9, band_rank = $10, transcript = $11, filings = $12, revision = revision + 1, changed_at = now()
             where workspace_id = $1 and id = $2",
            spot.workspace,
            lead,
            contact,
            company,
            Json(&fields) as _,
            score.map(Json) as _,
            total,
            band,
            band_label,
            rank,
            Json(&transcript) as _,
            i32::try_from(filing).unwrap_or(i32::MAX)
        )
        .execute(&mut *db)
        .await?;
        return log(db, spot.workspace, lead, None, "Filed again with what was said since").await;
    }
    let mut decision = decision.clone();
    let picked = match &decision.queue {
        Some(key) => {
            let picked = pick_owner(db, spot.workspace, key).await?;
            decision.steps.extend(picked.steps);
            (picked.queue, picked.owner)
        }
        None => (None, None),
    };
    let lead = Uuid::now_v7();
    sqlx::query!(
        "insert into leads (id, workspace_id, dialogue_id, release_id, conversation_id, contact_id, company_id, queue_id, owner_id, fields, score, total, band, band_label, band_rank, decision, transcript, filed_at)
         values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14, $15, $16, $17, $18)",
        lead,
        spot.workspace,
        spot.dialogue,
        spot.release,
        spot.conversation,
        contact,
        company,
        picked.0,
        picked.1,
        Json(&fields) as _,
        score.map(Json) as _,
        total,
        band,
        band_label,
        rank,
        Json(&decision) as _,
        Json(&transcript) as _,
        now.to_sqlx() as _
    )
    .execute(&mut *db)
    .await?;
    log(db, spot.workspace, lead, None, &format!("Filed from “{}”", plan.file.title)).await
}

async fn put_company(
    db: &mut PgConnection,
    workspace: Uuid,
    name: Option<&str>,
    domain: Option<&str>,
    fields: &[&RecordField],
) -> Result<Option<Uuid>, StoreError> {
    if name.is_none() && domain.is_none() {
        return Ok(None);
    }
    // A company is the same where its domain is, else where its name is and no domain is known.
    let id = match domain {
        Some(domain) => {
            sqlx::query_scalar!(
                "insert into companies (id, workspace_id, name, domain, fields) values ($1, $2, $3, $4, $5)
                 on conflict (workspace_id, domain) where domain is not null do update set name = coalesce(excluded.name, companies.name), fields = excluded.fields returning id",
                Uuid::now_v7(),
                workspace,
                name,
                domain,
                Json(fields) as _
            )
            .fetch_one(db)
            .await?
        }
        None => {
            sqlx::query_scalar!(
                "insert into companies (id, workspace_id, name, fields) values ($1, $2, $3, $4)
                 on conflict (workspace_id, lower(name)) where domain is null and name is not null do update set fields = excluded.fields returning id",
                Uuid::now_v7(),
                workspace,
                name,
                Json(fields) as _
            )
            .fetch_one(db)
            .await?
        }
    };
    Ok(Some(id))
}

async fn put_contact(
    db: &mut PgConnection,
    spot: Spot,
    company: Option<Uuid>,
    name: Option<&str>,
    email: Option<&str>,
    phone: Option<&str>,
    fields: &[&RecordField],
) -> Result<Uuid, StoreError> {
    // Filing again in one conversation keeps its contact, even where an address came only later.
    let before = sqlx::query_scalar!("select contact_id from leads where workspace_id = $1 and conversation_id = $2", spot.workspace, spot.conversation)
        .fetch_optional(&mut *db)
        .await?;
    if let Some(id) = before {
        sqlx::query!(
            "update contacts set company_id = coalesce($3, company_id), name = coalesce($4, name), phone = coalesce($5, phone), fields = $6 where workspace_id = $1 and id = $2",
            spot.workspace,
            id,
            company,
            name,
            phone,
            Json(fields) as _
        )
        .execute(db)
        .await?;
        return Ok(id);
    }
    Ok(sqlx::query_scalar!(
        "insert into contacts (id, workspace_id, company_id, name, email, phone, fields) values ($1, $2, $3, $4, $5, $6, $7)
         on conflict (workspace_id, lower(email)) where email is not null
         do update set company_id = coalesce(excluded.company_id, contacts.company_id), name = coalesce(excluded.name, contacts.name), phone = coalesce(excluded.phone, contacts.phone), fields = excluded.fields
         returning id",
        Uuid::now_v7(),
        spot.workspace,
        company,
        name,
        email,
        phone,
        Json(fields) as _
    )
    .fetch_one(db)
    .await?)
}

async fn log(db: &mut PgConnection, workspace: Uuid, lead: Uuid, person: Option<Uuid>, what: &str) -> Result<(), StoreError> {
    sqlx::query!("insert into lead_log (workspace_id, lead_id, person_id, what) values ($1, $2, $3, $4)", workspace, lead, person, what).execute(db).await?;
    Ok(())
}

/// Up to four things they want: needed fields of the lead first, in the order of the dialogue.
fn wants(fields: &[RecordField]) -> String {
    let mut told: Vec<&RecordField> = fields.iter().filter(|field| field.record == Record::Lead && field.kind != FieldType::Money).collect();
    told.sort_by_key(|field| match field.kind {
        FieldType::WholeNumber | FieldType::Quantity => 0,
        FieldType::YesNo => 2,
        _ => 1,
    });
    let words = told.iter().filter_map(|field| match (field.kind, field.value.as_bool()) {
        (FieldType::YesNo, Some(true)) => Some(field.label.to_lowercase()),
        (FieldType::YesNo, _) => None,
        (FieldType::Choice, _) => Some(field.shown.to_lowercase()),
        _ => Some(field.shown.clone()),
    });
    words.take(4).collect::<Vec<_>>().join(", ")
}

impl Store {
    /// Leads that a person may see, in the order to call: the highest band first, then who has waited longest; closed ones
    /// last. 500 at most.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    pub async fn leads(&self, person: &Person, filter: LeadFilter) -> Result<Vec<LeadRow>, StoreError> {
        let filter = match filter {
            LeadFilter::Mine => "mine",
            LeadFilter::Queue => "queue",
            LeadFilter::All => "all",
        };
        let rows = sqlx::query!(
            "select l.id, k.name as name, c.name as \"company?\", l.fields as \"fields: Json<Vec<RecordField>>\", l.total, l.band_label, l.band_rank, (l.score->>'band_from')::bigint as band_from, l.status,
               q.name as \"queue?\", o.name as \"owner?\", coalesce(l.owner_id = $2, false) as \"mine!\", l.filed_at as \"filed_at: SqlTimestamp\"
             from leads l join contacts k on k.workspace_id = l.workspace_id and k.id = l.contact_id
             left join companies c on c.workspace_id = l.workspace_id and c.id = l.company_id
             left join queues q on q.workspace_id = l.workspace_id and q.id = l.queue_id
             left join people o on o.workspace_id = l.workspace_id and o.id = l.owner_id
             where l.workspace_id = $1
               and ($3 or l.owner_id = $2 or exists (select from queue_members m where m.workspace_id = l.workspace_id and m.queue_id = l.queue_id and m.person_id = $2))
               and case $4::text
                 when 'mine' then l.owner_id = $2 and l.status in ('new', 'called')
                 when 'queue' then l.owner_id is distinct from $2 and l.status in ('new', 'called')
                 else true end
             order by l.status not in ('new', 'called'), l.band_rank desc, l.status = 'called', l.filed_at, l.id limit 500",
            person.workspace_id,
            person.id,
            person.role.sees_all_leads(),
            filter
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows
            .into_iter()
            .map(|row| LeadRow {
                id: row.id,
                name: row.name,
                company: row.company,
                wants: wants(&row.fields.0),
                total: row.total,
                band: row.band_label,
                band_rank: row.band_rank,
                band_from: row.band_from,
                status: row.status,
                queue: row.queue,
                owner: row.owner,
                mine: row.mine,
                filed_at: row.filed_at.to_jiff(),
            })
            .collect())
    }

    /// One lead with everything, where the person may see it.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], also where it is somebody else's.
    pub async fn lead(&self, person: &Person, id: Uuid) -> Result<LeadDetail, StoreError> {
        let row = sqlx::query!(
            "select l.id, k.name as name, k.email, k.phone, c.name as \"company?\", l.fields as \"fields: Json<Vec<RecordField>>\", l.score as \"score: Json<ScoreResult>\", l.total, l.band_label, l.band_rank, l.status, l.reason, l.revision,
               l.decision as \"decision: Json<Decision>\", l.transcript as \"transcript: Json<Vec<TranscriptLine>>\", q.name as \"queue?\", o.name as \"owner?\", coalesce(l.owner_id = $2, false) as \"mine!\", l.filed_at as \"filed_at: SqlTimestamp\",
               d.title, r.number
             from leads l join contacts k on k.workspace_id = l.workspace_id and k.id = l.contact_id
             join dialogues d on d.workspace_id = l.workspace_id and d.id = l.dialogue_id
             join releases r on r.workspace_id = l.workspace_id and r.id = l.release_id
             left join companies c on c.workspace_id = l.workspace_id and c.id = l.company_id
             left join queues q on q.workspace_id = l.workspace_id and q.id = l.queue_id
             left join people o on o.workspace_id = l.workspace_id and o.id = l.owner_id
             where l.workspace_id = $1 and l.id = $4
               and ($3 or l.owner_id = $2 or exists (select from queue_members m where m.workspace_id = l.workspace_id and m.queue_id = l.queue_id and m.person_id = $2))",
            person.workspace_id,
            person.id,
            person.role.sees_all_leads(),
            id
        )
        .fetch_optional(&self.pool)
        .await?
        .ok_or(StoreError::NotFound("lead"))?;
        let log = sqlx::query!(
            "select g.at as \"at: SqlTimestamp\", p.name as \"person?\", g.what from lead_log g left join people p on p.workspace_id = g.workspace_id and p.id = g.person_id
             where g.workspace_id = $1 and g.lead_id = $2 order by g.id",
            person.workspace_id,
            id
        )
        .fetch_all(&self.pool)
        .await?;
        let score = row.score.map(|score| score.0);
        Ok(LeadDetail {
            row: LeadRow {
                id: row.id,
                name: row.name,
                company: row.company,
                wants: wants(&row.fields.0),
                total: row.total,
                band: row.band_label,
                band_rank: row.band_rank,
                band_from: score.as_ref().and_then(|score| score.band_from),
                status: row.status,
                queue: row.queue,
                owner: row.owner,
                mine: row.mine,
                filed_at: row.filed_at.to_jiff(),
            },
            revision: row.revision,
            reason: row.reason,
            email: row.email,
            phone: row.phone,
            fields: row.fields.0,
            score,
            decision: row.decision.0,
            transcript: row.transcript.0,
            dialogue: row.title,
            release: row.number,
            log: log.into_iter().map(|row| LogRow { at: row.at.to_jiff(), person: row.person, what: row.what }).collect(),
        })
    }

    /// Says what became of a lead.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where the person may not see it; [`StoreError::Conflict`] where it was changed meanwhile.
    pub async fn change_outcome(&self, person: &Person, id: Uuid, change: &OutcomeChange) -> Result<LeadDetail, StoreError> {
        let before = self.lead(person, id).await?;
        let mut db = self.pool.begin().await?;
        let changed = sqlx::query!(
            "update leads set status = $4, reason = $5, revision = revision + 1, changed_at = now() where workspace_id = $1 and id = $2 and revision = $3",
            person.workspace_id,
            id,
            change.revision,
            change.status,
            change.reason
        )
        .execute(&mut *db)
        .await?
        .rows_affected();
        if changed == 0 {
            return Err(StoreError::Conflict(format!(
                "somebody changed this lead meanwhile: it is {} now. Look at it again",
                before.row.status.replace('_', " ")
            )));
        }
        let words = match change.status.as_str() {
            "new" => "Open again".to_owned(),
            "called" => "Called".to_owned(),
            "won" => "Won".to_owned(),
            other => format!("{}: {}", if other == "lost" { "Lost" } else { "Not a fit" }, change.reason.as_deref().unwrap_or("no reason given")),
        };
        log(&mut db, person.workspace_id, id, Some(person.id), &words).await?;
        db.commit().await?;
        self.lead(person, id).await
    }
}
