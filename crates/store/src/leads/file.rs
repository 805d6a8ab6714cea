//! A filing: what is on file is read under locks, the core decides, rows are written; all in the caller's transaction.

use jiff::Timestamp;
use jiff::tz::TimeZone;
use jiff_sqlx::ToSqlx;
use lumbo_calendar::{Calendar, Written};
use lumbo_deliver::webhook::EventKind;
use lumbo_dialogue::plan::Plan;
use lumbo_dialogue::score::ScoreResult;
use lumbo_dialogue::talk::{Event, Line, State, prospect_view};
use lumbo_reading::domains::DomainLists;
use lumbo_records::{
    AlsoGiven, CompanyPlan, ContactPlan, FieldChange, Filing, Had, LeadPlan, OwnerPlan, RecordField, Said, Source,
    TriesPlan, fold, permissions, plan_filing, said, typed_values, wants,
};
use lumbo_route::{Decision, RouteStep};
use lumbo_value::field::Record;
use sqlx::PgConnection;
use sqlx::types::Json;
use uuid::Uuid;

use super::early::undecided;
use super::entered::take_out_records;
use super::tags::add_tags;
use super::values::{self, Named, Of};
use super::{Activity, TranscriptLine, log, on_file};
use crate::conversations::{Spot, events_of};
use crate::jobs::{self, JobKind};
use crate::live::{self, Topic};
use crate::notices::{NoticeKind, tell_owner};
use crate::records::{keep_said, move_words};
use crate::{StoreError, late, queues, sending, territories};

/// What is filed.
#[derive(Clone, Copy)]
pub(crate) struct FilingOf<'a> {
    pub spot: Spot,
    pub plan: &'a Plan,
    pub state: &'a State,
    pub domains: &'a DomainLists,
    /// Which filing of the conversation, from 1.
    pub filing: u32,
    pub score: Option<&'a ScoreResult>,
    pub decision: &'a Decision,
    /// True where they went silent before the dialogue came to its File lead.
    pub unfinished: bool,
    /// True where more may be told, and its owner is chosen later.
    pub early: bool,
    /// True where nothing new was said: the owner of what was filed early is chosen.
    pub choosing: bool,
    pub now: Timestamp,
}

impl FilingOf<'_> {
    /// Where values go that this conversation said of a record.
    fn values_of(&self, record: &'static str, id: Uuid) -> Of {
        Of {
            workspace: self.spot.workspace,
            record,
            id,
            source: Source::Conversation(self.spot.conversation),
            at: self.now,
        }
    }
}

/// Files a lead, or updates the one that this conversation filed or joined before.
pub(crate) async fn file(db: &mut PgConnection, of: &FilingOf<'_>) -> Result<(), StoreError> {
    let Spot { workspace, conversation, .. } = of.spot;
    let subject = sqlx::query_scalar!(
        "select subject from conversations where workspace_id = $1 and id = $2",
        workspace,
        conversation
    )
    .fetch_one(&mut *db)
    .await?;
    let said = said(of.plan, of.state, conversation, subject, of.score, of.domains, of.unfinished);
    let said = Said { early: of.early, ..said };
    let decision = territories::looked_up(db, workspace, of.decision.clone(), &said).await?;
    let of = &FilingOf { decision: &decision, ..*of };
    let on_file = on_file::read(db, of, &said).await?;
    let filing = plan_filing(&said, &on_file, of.now);
    let company = write_company(db, of, &said, &filing).await?;
    let contact = write_contact(db, of, &said, &filing, company).await?;
    for change in &filing.changes {
        let (record, id) =
            if change.field.record == Record::Company { ("company", company) } else { ("contact", Some(contact)) };
        if let Some(id) = id {
            put_change(db, of, record, id, change).await?;
        }
    }
    let lead = write_lead(db, of, &said, &filing, contact, company).await?;
    write_also_given(db, of, &filing, contact, lead).await?;
    keep_said(db, workspace, contact, conversation, &permissions(of.plan, of.state, of.now)).await?;
    if let Some(taken_out) = filing.takes_out {
        move_words(db, workspace, taken_out, contact).await?;
        sqlx::query!("delete from also_given where workspace_id = $1 and contact_id = $2", workspace, taken_out)
            .execute(&mut *db)
            .await?;
        sqlx::query!(
            "delete from record_values where workspace_id = $1 and record = 'contact' and record_id = $2",
            workspace,
            taken_out
        )
        .execute(&mut *db)
        .await?;
        sqlx::query!("delete from contacts where workspace_id = $1 and id = $2", workspace, taken_out)
            .execute(&mut *db)
            .await?;
    }
    if let Some(double) = filing.takes_out_company {
        // One that another lead shows after all stays.
        take_out_records(db, workspace, &[], &[double], Timestamp::UNIX_EPOCH).await?;
    }
    live::add(db, workspace, Topic::Leads, "lead", of.now).await
}

fn put(filing: &Filing, what: AlsoGiven) -> Option<&str> {
    filing.puts.iter().find(|(put, _)| *put == what).map(|(_, text)| text.as_str())
}

/// Keeps a part of who they are with its source, where the filing puts it on the record.
async fn put_who(
    db: &mut PgConnection,
    of: &FilingOf<'_>,
    filing: &Filing,
    what: AlsoGiven,
    id: Uuid,
) -> Result<(), StoreError> {
    let Some(text) = put(filing, what) else { return Ok(()) };
    let (record, field) = values::identity(what);
    values::put_identity(db, of.values_of(record, id), field, text).await
}

async fn write_company(
    db: &mut PgConnection,
    of: &FilingOf<'_>,
    said: &Said,
    filing: &Filing,
) -> Result<Option<Uuid>, StoreError> {
    let workspace = of.spot.workspace;
    let name = put(filing, AlsoGiven::Company);
    let id = match filing.company {
        CompanyPlan::None => return Ok(None),
        CompanyPlan::OnFile(id) => {
            if name.is_some() || filing.domain.is_some() {
                sqlx::query!(
                    "update companies set name = coalesce($3, name), domain = coalesce(domain, $4)
                     where workspace_id = $1 and id = $2",
                    workspace,
                    id,
                    name,
                    filing.domain
                )
                .execute(&mut *db)
                .await?;
            }
            id
        }
        CompanyPlan::New => {
            let id = Uuid::now_v7();
            sqlx::query!(
                "insert into companies (id, workspace_id, name, domain, made_at) values ($1, $2, $3, $4, $5)",
                id,
                workspace,
                name,
                said.domain,
                of.now.to_sqlx() as _
            )
            .execute(&mut *db)
            .await?;
            id
        }
    };
    put_who(db, of, filing, AlsoGiven::Company, id).await?;
    Ok(Some(id))
}

async fn write_contact(
    db: &mut PgConnection,
    of: &FilingOf<'_>,
    said: &Said,
    filing: &Filing,
    company: Option<Uuid>,
) -> Result<Uuid, StoreError> {
    let workspace = of.spot.workspace;
    let (name, email, phone) =
        (put(filing, AlsoGiven::Name), put(filing, AlsoGiven::Email), put(filing, AlsoGiven::Phone));
    let id = match filing.contact {
        ContactPlan::OnFile(id) => {
            sqlx::query!(
                "update contacts set name = coalesce($3, name), email = coalesce($4, email), phone = coalesce($5,
                 phone), company_id = coalesce(nullif(company_id, $8), $6),
                   subject = coalesce(subject, $7) where workspace_id = $1 and id = $2",
                workspace,
                id,
                name,
                email,
                phone,
                company,
                said.subject,
                filing.takes_out_company
            )
            .execute(&mut *db)
            .await?;
            id
        }
        ContactPlan::New => {
            let id = Uuid::now_v7();
            sqlx::query!(
                "insert into contacts (id, workspace_id, company_id, name, email, phone, subject, made_at) values
                 ($1, $2, $3, $4, $5, $6, $7, $8)",
                id,
                workspace,
                company,
                name,
                email,
                phone,
                said.subject,
                of.now.to_sqlx() as _
            )
            .execute(&mut *db)
            .await?;
            id
        }
    };
    for what in [AlsoGiven::Name, AlsoGiven::Email, AlsoGiven::Phone] {
        put_who(db, of, filing, what, id).await?;
    }
    Ok(id)
}

async fn put_change(
    db: &mut PgConnection,
    of: &FilingOf<'_>,
    record: &'static str,
    id: Uuid,
    change: &FieldChange,
) -> Result<(), StoreError> {
    let RecordField { id: field, key, label, kind, shown, .. } = &change.field;
    values::put(db, of.values_of(record, id), Named { id: field, key, label, kind: kind.name() }, &change.value, shown)
        .await
}

/// What was said in these events, line by line.
pub(crate) fn lines_of(plan: &Plan, state: &State, events: &[Event]) -> Vec<TranscriptLine> {
    let lines = prospect_view(plan, state, events).lines.into_iter();
    lines
        .filter_map(|line| match line.line {
            Line::Text { text } => Some(TranscriptLine { who: line.who, text }),
            _ => None,
        })
        .collect()
}

/// What was said, up to the filing; and the question that was left open, where it was left unfinished.
async fn transcript(
    db: &mut PgConnection,
    of: &FilingOf<'_>,
) -> Result<(Vec<TranscriptLine>, Option<String>), StoreError> {
    let events = events_of(db, of.spot.workspace, of.spot.conversation).await?;
    let until = events
        .iter()
        .rposition(|event| matches!(event, Event::Filed { filing, .. } if *filing == of.filing))
        .unwrap_or(events.len());
    let open = events[..until].iter().rev().find_map(|event| match event {
        Event::Asked { text, .. } | Event::AskedAgain { text, .. } => Some(text.clone()),
        _ => None,
    });
    let lines = lines_of(of.plan, of.state, &events[..until]);
    Ok((lines, of.unfinished.then(|| open.unwrap_or_default())))
}

async fn write_lead(
    db: &mut PgConnection,
    of: &FilingOf<'_>,
    said: &Said,
    filing: &Filing,
    contact: Uuid,
    company: Option<Uuid>,
) -> Result<Uuid, StoreError> {
    let Spot { workspace, dialogue, conversation, .. } = of.spot;
    let lead = match filing.lead {
        LeadPlan::Own(id) | LeadPlan::Joins(id) => id,
        LeadPlan::New => {
            let id = Uuid::now_v7();
            sqlx::query!(
                "insert into leads (id, workspace_id, dialogue_id, contact_id, company_id, decision, filed_at,
                 changed_at, shows, revision) values ($1, $2, $3, $4, $5, $6, $7, $7, $8, 0)",
                id,
                workspace,
                dialogue,
                contact,
                company,
                Json(of.decision) as _,
                of.now.to_sqlx() as _,
                conversation
            )
            .execute(&mut *db)
            .await?;
            id
        }
    };
    let before = left_at(db, workspace, conversation).await?;
    let stood = match filing.lead {
        LeadPlan::New => None,
        LeadPlan::Own(id) | LeadPlan::Joins(id) => Some(stands(db, workspace, id).await?),
    };
    let open = write_snapshot(db, of, said, lead).await?;
    let title = &of.plan.file.title;
    let what = match (filing.lead, &open) {
        (LeadPlan::New, None) => (Activity::Filing, format!("Filed from “{title}”")),
        (LeadPlan::New, Some(open)) => (Activity::Filing, format!("Left “{title}” unfinished, at “{open}”")),
        (LeadPlan::Own(_), Some(open)) => (Activity::Filing, format!("Left again unfinished, at “{open}”")),
        (LeadPlan::Own(_), None) if before.is_some() => (Activity::Filing, format!("Came back and finished “{title}”")),
        (LeadPlan::Own(_), None) => (Activity::Filing, "Filed again with what was said since".to_owned()),
        (LeadPlan::Joins(_), None) => (Activity::Conversation, format!("They came back to “{title}”")),
        (LeadPlan::Joins(_), Some(open)) => {
            (Activity::Conversation, format!("They came back to “{title}” and left it unfinished, at “{open}”"))
        }
    };
    if filing.shows {
        show_snapshot(db, workspace, lead, conversation, of.now).await?;
        keep_typed_values(db, workspace, lead, of.plan, of.state).await?;
        sqlx::query!(
            "update leads set contact_id = $3, company_id = $4, zone = coalesce(known_zone($5), zone)
             where workspace_id = $1 and id = $2",
            workspace,
            lead,
            contact,
            company,
            said.zone
        )
        .execute(&mut *db)
        .await?;
    } else {
        sqlx::query!(
            "update leads set newer = $3, revision = revision + 1, changed_at = $4 where workspace_id = $1 and id = $2",
            workspace,
            lead,
            conversation,
            of.now.to_sqlx() as _
        )
        .execute(&mut *db)
        .await?;
    }
    write_owner(db, of, &filing.owner, lead).await?;
    let words: Vec<String> = said.tags.iter().chain(&of.decision.tags).cloned().collect();
    add_tags(db, workspace, lead, &words).await?;
    if filing.shows {
        write_next(db, of, lead).await?;
        write_call_by(db, of, lead).await?;
    }
    if of.choosing {
        log(db, workspace, lead, None, Activity::Owner, "Its owner was chosen", of.now).await?;
    } else {
        log(db, workspace, lead, None, what.0, &what.1, of.now).await?;
    }
    let now_stands = stands(db, workspace, lead).await?;
    match stood {
        Some((rank, owner)) if owner == now_stands.1 => {
            if now_stands.0 > rank {
                tell_owner(db, workspace, lead, NoticeKind::Rose, None, of.now).await?;
            }
        }
        _ => tell_owner(db, workspace, lead, NoticeKind::Yours, None, of.now).await?,
    }
    let event = if matches!(filing.lead, LeadPlan::New) { EventKind::LeadFiled } else { EventKind::LeadUpdated };
    sending::set(db, workspace, event, lead, of.now).await?;
    Ok(lead)
}

/// The band and the owner that a lead has.
async fn stands(db: &mut PgConnection, workspace: Uuid, lead: Uuid) -> Result<(i32, Option<Uuid>), StoreError> {
    let row =
        sqlx::query!("select band_rank, owner_id from leads where workspace_id = $1 and id = $2", workspace, lead)
            .fetch_one(db)
            .await?;
    Ok((row.band_rank, row.owner_id))
}

/// The question at which a conversation was left, where it was filed unfinished before.
async fn left_at(db: &mut PgConnection, workspace: Uuid, conversation: Uuid) -> Result<Option<String>, StoreError> {
    let row = sqlx::query_scalar!(
        "select left_at from lead_snapshots where workspace_id = $1 and conversation_id = $2",
        workspace,
        conversation
    )
    .fetch_optional(db)
    .await?;
    Ok(row.flatten())
}

/// Keeps what a conversation said with its lead; gives the question that was left open, where it was left unfinished.
async fn write_snapshot(
    db: &mut PgConnection,
    of: &FilingOf<'_>,
    said: &Said,
    lead: Uuid,
) -> Result<Option<String>, StoreError> {
    let (transcript, left_at) = transcript(db, of).await?;
    sqlx::query!(
        "insert into lead_snapshots (workspace_id, conversation_id, lead_id, release_id, name, email, phone, company,
         fields, score, total, band, band_label, band_from, band_rank,
           transcript, wants, filings, filed_at, changed_at, left_at)
         values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14, $15, $16, $17, $18, $19, $19, $20)
         on conflict (workspace_id, conversation_id) do update
           set name = excluded.name, email = excluded.email, phone = excluded.phone, company = excluded.company,
           fields = excluded.fields, score = excluded.score, total = excluded.total,
            band = excluded.band, band_label = excluded.band_label,
            band_from = excluded.band_from,
           band_rank = excluded.band_rank, transcript = excluded.transcript, wants = excluded.wants,
            filings = excluded.filings,
            changed_at = excluded.changed_at, left_at = excluded.left_at",
        of.spot.workspace,
        of.spot.conversation,
        lead,
        of.spot.release,
        said.who.name,
        said.who.email,
        said.who.phone,
        said.who.company,
        Json(&said.fields) as _,
        of.score.map(Json) as _,
        of.score.map(|score| score.total),
        of.score.and_then(|score| score.band.clone()),
        of.score.map(|score| score.band_label.clone()),
        of.score.and_then(|score| score.band_from),
        said.rank,
        Json(&transcript) as _,
        wants(&said.fields),
        i32::try_from(of.filing).unwrap_or(i32::MAX),
        of.now.to_sqlx() as _,
        left_at
    )
    .execute(db)
    .await?;
    Ok(left_at)
}

/// Makes a lead show what one of its conversations said.
pub(super) async fn show_snapshot(
    db: &mut PgConnection,
    workspace: Uuid,
    lead: Uuid,
    conversation: Uuid,
    now: Timestamp,
) -> Result<(), StoreError> {
    let shown = sqlx::query!(
        "update leads l set name = s.name, email = s.email, phone = s.phone, company = s.company, wants = s.wants,
         total = s.total, band = s.band, band_label = s.band_label,
           band_from = s.band_from, band_rank = s.band_rank, shows = s.conversation_id, newer = null,
            unfinished = s.left_at is not null,
            revision = l.revision + 1, changed_at = $4
         from lead_snapshots s where l.workspace_id = $1 and l.id = $2 and s.workspace_id = $1 and s.lead_id = $2
           and s.conversation_id = $3
         returning l.name, l.company, l.email, l.phone, l.wants",
        workspace,
        lead,
        conversation,
        now.to_sqlx() as _
    )
    .fetch_one(&mut *db)
    .await?;
    let said: Vec<String> =
        [shown.name, shown.company, shown.email, shown.phone, Some(shown.wants)].into_iter().flatten().collect();
    sqlx::query!(
        "update leads set search = $3 where workspace_id = $1 and id = $2",
        workspace,
        lead,
        fold(&said.join(" "))
    )
    .execute(db)
    .await?;
    Ok(())
}

/// Keeps what a lead holds, typed, in the place of what it held before.
pub(super) async fn keep_typed_values(
    db: &mut PgConnection,
    workspace: Uuid,
    lead: Uuid,
    plan: &Plan,
    state: &State,
) -> Result<(), StoreError> {
    let values = typed_values(plan, state);
    sqlx::query!("delete from lead_values where workspace_id = $1 and lead_id = $2", workspace, lead)
        .execute(&mut *db)
        .await?;
    let fields: Vec<String> = values.iter().map(|value| value.field.clone()).collect();
    let texts: Vec<Option<String>> = values.iter().map(|value| value.text.clone()).collect();
    let numbers: Vec<Option<String>> =
        values.iter().map(|value| value.number.map(|number| number.to_string())).collect();
    let dates: Vec<Option<String>> = values.iter().map(|value| value.date.map(|date| date.to_string())).collect();
    let yes: Vec<Option<bool>> = values.iter().map(|value| value.yes).collect();
    sqlx::query!(
        "insert into lead_values (workspace_id, lead_id, field_id, place, text_value, number_value, date_value,
         yes_value)
         select $1, $2, n.field, n.place, n.words, n.number::numeric, n.day::date, n.yes
         from unnest($3::text[], $4::text[], $5::text[], $6::text[], $7::boolean[])
            with ordinality as n (field, words, number, day, yes, place)",
        workspace,
        lead,
        &fields,
        &texts as _,
        &numbers as _,
        &dates as _,
        &yes as _
    )
    .execute(db)
    .await?;
    Ok(())
}

/// Writes whose the lead is, with every step that led there, while the rotation is locked.
async fn write_owner(db: &mut PgConnection, of: &FilingOf<'_>, plan: &OwnerPlan, lead: Uuid) -> Result<(), StoreError> {
    let workspace = of.spot.workspace;
    let (queue, owner, turns, steps, had, waits) = match plan {
        OwnerPlan::Stays => return Ok(()),
        OwnerPlan::Later { queue } => return undecided(db, of, *queue, lead).await,
        OwnerPlan::Gets { queue, owner, turns, steps, had, waits } => (queue, owner, turns, steps, had, waits),
    };
    for turn in turns {
        queues::keep_turn(db, workspace, turn).await?;
    }
    let mut decision = of.decision.clone();
    decision.steps.extend(
        had.clone()
            .map(|had| match had {
                Had::Lead { name, deputy } => had_by(deputy, name, |name| RouteStep::Owned { name }),
                Had::Account { name, deputy, company } => {
                    had_by(deputy, name, |name| RouteStep::LooksAfter { name, company })
                }
                Had::NoTurn { why, company } => vec![RouteStep::NoTurn { why, company }],
            })
            .into_iter()
            .flatten(),
    );
    decision
        .steps
        .extend(steps.iter().map(|(queue, pick)| RouteStep::Picked { queue: queue.clone(), pick: pick.clone() }));
    if queue.is_none() {
        decision.steps.extend(decision.queue.clone().map(|queue| RouteStep::NoSuchQueue { queue }));
    }
    sqlx::query!(
        "update leads set queue_id = $3, owner_id = $4, decision = $5, waits_until = $6, turn = $7, turn_back = false,
           undecided = false where workspace_id = $1 and id = $2",
        workspace,
        lead,
        *queue,
        *owner,
        Json(&decision) as _,
        waits.map(ToSqlx::to_sqlx) as _,
        turns.iter().find(|turn| turn.last.is_some()).map(Json) as _
    )
    .execute(&mut *db)
    .await?;
    if let (Some(queue), Some(at)) = (queue, waits) {
        jobs::set(db, workspace, JobKind::Deal, *queue, &queue.to_string(), *at, of.now).await?;
    }
    Ok(())
}

/// Whose it is by right, and who has it in their place.
fn had_by(deputy: Option<String>, name: String, step: impl FnOnce(String) -> RouteStep) -> Vec<RouteStep> {
    let stands_in = deputy.map(|deputy| RouteStep::StandsIn { name: deputy, of: name.clone() });
    std::iter::once(step(name)).chain(stands_in).collect()
}

/// Says what comes next, and how often it is tried: by the band it has now. One that nobody tried yet is to be called
/// from now on; after the first touch what comes next is left as it is.
async fn write_next(db: &mut PgConnection, of: &FilingOf<'_>, lead: Uuid) -> Result<(), StoreError> {
    let target = of.score.and_then(|score| target(of.plan, score));
    let planned = TriesPlan::of_target(target).count;
    let top = of.score.is_some_and(|score| is_top(of.plan, score));
    sqlx::query!(
        "update leads set tries_planned = $3, top = $4, next_what = coalesce(next_what, 'call'),
         next_at = case when touched_at is null then $5::timestamptz else coalesce(next_at, $5) end
         where workspace_id = $1 and id = $2 and not closed",
        of.spot.workspace,
        lead,
        i32::try_from(planned).unwrap_or(i32::MAX),
        top,
        of.now.to_sqlx() as _
    )
    .execute(db)
    .await?;
    Ok(())
}

/// True where a score's band is the highest of its card.
fn is_top(plan: &Plan, score: &ScoreResult) -> bool {
    let card = plan.cards.iter().find(|card| card.file.id == score.scorecard);
    let highest = card.and_then(|card| card.file.bands.iter().max_by_key(|band| band.from));
    highest.is_some_and(|highest| score.band.as_deref() == Some(highest.id.as_str()))
}

/// Says when to call at the latest: the band's target, in the working time of the lead's queue. A higher band brings it
/// forward, a lower one leaves it.
async fn write_call_by(db: &mut PgConnection, of: &FilingOf<'_>, lead: Uuid) -> Result<(), StoreError> {
    let Some(minutes) = of.score.and_then(|score| target(of.plan, score)) else { return Ok(()) };
    let hours = sqlx::query_scalar!(
        "select q.hours as \"hours: Json<Written>\" from leads l join queues q on q.workspace_id = l.workspace_id
         and q.id = l.queue_id where l.workspace_id = $1 and l.id = $2",
        of.spot.workspace,
        lead
    )
    .fetch_optional(&mut *db)
    .await?
    .flatten();
    let hours = hours.and_then(|hours| Calendar::new(&hours.0).ok()).unwrap_or_else(|| Calendar::always(TimeZone::UTC));
    let Some(at) = hours.after(of.now, u64::from(minutes)) else { return Ok(()) };
    sqlx::query!(
        "update leads set call_by = least(call_by, $3) where workspace_id = $1 and id = $2",
        of.spot.workspace,
        lead,
        at.to_sqlx() as _
    )
    .execute(&mut *db)
    .await?;
    late::watch(db, of.spot.workspace, lead, at, of.now).await
}

/// Working minutes within which a lead of this score is called.
fn target(plan: &Plan, score: &ScoreResult) -> Option<u32> {
    let card = plan.cards.iter().find(|card| card.file.id == score.scorecard)?;
    let band = score.band.as_ref()?;
    card.file.bands.iter().find(|known| known.id == *band)?.call_within
}

/// Keeps beside what is on file what this conversation said otherwise; what it corrected since is taken back.
async fn write_also_given(
    db: &mut PgConnection,
    of: &FilingOf<'_>,
    filing: &Filing,
    contact: Uuid,
    lead: Uuid,
) -> Result<(), StoreError> {
    let (whats, values): (Vec<String>, Vec<String>) = filing
        .also_given
        .iter()
        .map(|(what, value)| (super::change::also_given_name(*what).to_owned(), value.clone()))
        .unzip();
    sqlx::query!(
        "delete from also_given a where workspace_id = $1 and conversation_id = $2 and settled_at is null
           and not exists (select from unnest($3::text[], $4::text[]) as n (what, value) where n.what = a.what
             and n.value = a.value)",
        of.spot.workspace,
        of.spot.conversation,
        &whats,
        &values
    )
    .execute(&mut *db)
    .await?;
    for (what, value) in whats.iter().zip(&values) {
        sqlx::query!(
            "insert into also_given (workspace_id, id, contact_id, lead_id, conversation_id, what, value, given_at)
             values ($1, $2, $3, $4, $5, $6, $7, $8)
             on conflict (workspace_id, conversation_id, what, value) do nothing",
            of.spot.workspace,
            Uuid::now_v7(),
            contact,
            lead,
            of.spot.conversation,
            what,
            value,
            of.now.to_sqlx() as _
        )
        .execute(&mut *db)
        .await?;
    }
    Ok(())
}
