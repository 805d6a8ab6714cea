//! Working a lead: calls and what comes next, taking a step back, notes, and handing it on.

use jiff::tz::TimeZone;
use jiff::{SignedDuration, Timestamp};
use jiff_sqlx::{Timestamp as SqlTimestamp, ToSqlx};
use lumbo_calendar::{Calendar, Weekday, Written};
use lumbo_deliver::webhook::EventKind;
use lumbo_records::{CallOutcome, LeadStatus, NextWhat, TriesPlan, working_minutes};
use serde_json::Value as Json;
use sqlx::PgConnection;
use sqlx::types::Json as SqlJson;
use uuid::Uuid;

use super::list::status;
use super::{Activity, LeadDetail, log, turns};
use crate::live::{self, Topic};
use crate::notices::{NoticeKind, tell_owner};
use crate::{Person, Store, StoreError, sending};

/// How long a step can be taken back.
pub(super) const TAKEN_BACK_WITHIN: SignedDuration = SignedDuration::from_mins(10);

/// A call that was made.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Call {
    /// The revision that was looked at.
    pub revision: i64,
    /// What came of it.
    pub outcome: CallOutcome,
    /// What was said, in the rep's words.
    pub note: Option<String>,
}

/// What comes next, by a person's word.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct NextChange {
    /// The revision that was looked at.
    pub revision: i64,
    /// When.
    pub at: Timestamp,
}

/// Whose a lead is from now on.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct OwnerChange {
    /// The revision that was looked at.
    pub revision: i64,
    /// The one who takes it.
    pub to: Uuid,
    /// What they should know.
    pub note: Option<String>,
}

/// Somebody who can take a lead.
#[derive(Debug, Clone)]
pub struct Taker {
    /// Id.
    pub id: Uuid,
    /// Name.
    pub name: String,
    /// True while they take no new leads.
    pub paused: bool,
}

fn meanwhile() -> StoreError {
    StoreError::Conflict("somebody changed this lead meanwhile. Look at it again".into())
}

/// When calls can be made: the queue's hours; where it is always open, office hours in the workspace's zone.
fn calling(hours: Option<Written>, zone: &str) -> Calendar {
    let office = || {
        let day = vec![("09:00".to_owned(), "17:00".to_owned())];
        let week = [Weekday::Mon, Weekday::Tue, Weekday::Wed, Weekday::Thu, Weekday::Fri].map(|on| (on, day.clone()));
        let written = Written { zone: zone.to_owned(), hours: week.into(), ..Written::default() };
        Calendar::new(&written).unwrap_or_else(|_| Calendar::always(TimeZone::UTC))
    };
    hours.and_then(|hours| Calendar::new(&hours).ok()).unwrap_or_else(office)
}

/// Keeps what a lead was before a step, so that it can be taken back; locks its row.
pub(super) async fn before(
    db: &mut PgConnection,
    workspace: Uuid,
    lead: Uuid,
    revision: i64,
) -> Result<Json, StoreError> {
    sqlx::query_scalar!(
        "select jsonb_build_object('status', status, 'reason', reason, 'amount', amount, 'currency', currency,
           'later_on', later_on, 'touched_at', touched_at, 'tries', tries, 'next_what', next_what, 'next_at', next_at,
           'first_try_at', first_try_at, 'first_contact_at', first_contact_at,
           'first_try_minutes', first_try_minutes, 'first_contact_minutes', first_contact_minutes,
           'owner_id', owner_id, 'waits_until', waits_until) as \"before!\"
         from leads where workspace_id = $1 and id = $2 and revision = $3 for update",
        workspace,
        lead,
        revision
    )
    .fetch_optional(db)
    .await?
    .ok_or_else(meanwhile)
}

/// Adds a step that can be taken back to a lead's timeline.
pub(super) async fn log_step(
    db: &mut PgConnection,
    person: &Person,
    lead: Uuid,
    kind: Activity,
    outcome: Option<CallOutcome>,
    what: &str,
    before: &Json,
    now: Timestamp,
) -> Result<(), StoreError> {
    sqlx::query!(
        "insert into activities (workspace_id, lead_id, person_id, kind, what, at, outcome, before, revision)
         select $1, $2, $3, $4, $5, $6, $7, $8, l.revision from leads l where l.workspace_id = $1 and l.id = $2",
        person.workspace_id,
        lead,
        person.id,
        kind.as_str(),
        what,
        now.to_sqlx() as _,
        outcome.map(CallOutcome::as_str),
        before
    )
    .execute(&mut *db)
    .await?;
    sending::set(db, person.workspace_id, EventKind::LeadStatus, lead, now).await
}

/// A call in words, with the rep's note.
fn call_words(call: &Call) -> String {
    let words = match call.outcome {
        CallOutcome::Spoke => "Called: spoke with them",
        CallOutcome::NoReply => "Called: no reply",
        CallOutcome::MessageLeft => "Called: left a message",
        CallOutcome::WrongNumber => "Called: wrong number",
    };
    call.note.as_ref().map_or_else(|| words.to_owned(), |note| format!("{words}. {note}"))
}

impl Store {
    /// Logs a call: how often the lead was tried, its status, how long the first try and the first contact took, and
    /// what comes next by the plan of its band.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where the person may not see the lead; [`StoreError::Conflict`] where it was changed
    /// meanwhile.
    #[crate::compiled_here]
    pub async fn log_call(&self, person: &Person, lead: Uuid, call: &Call) -> Result<LeadDetail, StoreError> {
        self.lead(person, lead).await?;
        let (workspace, now) = (person.workspace_id, self.now());
        let mut db = self.pool.begin().await?;
        let before = before(&mut db, workspace, lead, call.revision).await?;
        let row = sqlx::query!(
            "select l.status, l.tries, l.tries_planned, l.filed_at as \"filed_at: SqlTimestamp\",
             l.first_try_at as \"first_try_at: SqlTimestamp\" from leads l where l.workspace_id = $1 and l.id = $2",
            workspace,
            lead
        )
        .fetch_one(&mut *db)
        .await?;
        let calendar = calling_of(&mut db, workspace, lead).await?;
        let tries = u32::try_from(row.tries).unwrap_or(0).saturating_add(u32::from(call.outcome.is_try()));
        let first = row.first_try_at.map_or(now, SqlTimestamp::to_jiff);
        let plan = TriesPlan::of_count(u32::try_from(row.tries_planned).unwrap_or(0));
        let next = plan.after(call.outcome, tries, first, &calendar, now);
        let status = call.outcome.status(status(&row.status)?);
        let minutes = working_minutes(&calendar, row.filed_at.to_jiff(), now);
        let (tried, spoke) = (call.outcome.is_try(), call.outcome == CallOutcome::Spoke);
        sqlx::query!(
            "update leads set status = $3, tries = $4, touched_at = coalesce(touched_at, $5), next_what = $6,
             next_at = $7, first_try_at = coalesce(first_try_at, case when $8 then $5::timestamptz end),
             first_try_minutes = coalesce(first_try_minutes, case when $8 then $9::bigint end),
             first_contact_at = coalesce(first_contact_at, case when $10 then $5::timestamptz end),
             first_contact_minutes = coalesce(first_contact_minutes, case when $10 then $9::bigint end),
             owner_id = coalesce(owner_id, $11), waits_until = null,
             revision = revision + 1, changed_at = $5 where workspace_id = $1 and id = $2",
            workspace,
            lead,
            status.as_str(),
            i32::try_from(tries).unwrap_or(i32::MAX),
            now.to_sqlx() as _,
            status.is_open().then_some(next.what.as_str()),
            status.is_open().then(|| next.at.to_sqlx()) as _,
            tried,
            minutes,
            spoke,
            person.id
        )
        .execute(&mut *db)
        .await?;
        let says = call_words(call);
        log_step(&mut db, person, lead, Activity::Call, Some(call.outcome), &says, &before, now).await?;
        self.changed(db, person, now).await?;
        self.lead(person, lead).await
    }

    /// Puts what comes next on another moment.
    ///
    /// # Errors
    /// As [`Self::log_call`]; [`StoreError::Conflict`] on a lead that is closed.
    #[crate::compiled_here]
    pub async fn change_next(&self, person: &Person, lead: Uuid, change: NextChange) -> Result<LeadDetail, StoreError> {
        let known = self.lead(person, lead).await?;
        if !known.row.status.is_open() {
            return Err(StoreError::Conflict("this lead is closed; open it again first".into()));
        }
        let now = self.now();
        let mut db = self.pool.begin().await?;
        let changed = sqlx::query!(
            "update leads set next_at = $4, next_what = case when next_what = 'give_up' then 'call' else next_what end,
             revision = revision + 1, changed_at = $5 where workspace_id = $1 and id = $2 and revision = $3",
            person.workspace_id,
            lead,
            change.revision,
            change.at.to_sqlx() as _,
            now.to_sqlx() as _
        )
        .execute(&mut *db)
        .await?;
        if changed.rows_affected() == 0 {
            return Err(meanwhile());
        }
        self.changed(db, person, now).await?;
        self.lead(person, lead).await
    }

    /// Takes the last step back, where it was the person's own, is no more than ten minutes old, and nothing else
    /// happened since: the lead is as it was before.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where there is none like that.
    #[crate::compiled_here]
    pub async fn take_back(&self, person: &Person, lead: Uuid) -> Result<LeadDetail, StoreError> {
        self.lead(person, lead).await?;
        let (workspace, now) = (person.workspace_id, self.now());
        let mut db = self.pool.begin().await?;
        let step = sqlx::query!(
            "select a.id, a.before as \"before!\" from leads l join activities a on a.workspace_id = l.workspace_id
             and a.lead_id = l.id and a.revision = l.revision
             where l.workspace_id = $1 and l.id = $2 and a.person_id = $3 and a.before is not null
               and a.taken_back_at is null and a.at > $4 order by a.id desc limit 1 for update of l",
            workspace,
            lead,
            person.id,
            now.checked_sub(TAKEN_BACK_WITHIN).unwrap_or(now).to_sqlx() as _
        )
        .fetch_optional(&mut *db)
        .await?
        .ok_or(StoreError::NotFound("step to take back; something else happened since"))?;
        sqlx::query!(
            "update leads l set status = r.status, reason = r.reason, amount = r.amount, currency = r.currency,
             later_on = r.later_on, touched_at = r.touched_at, tries = r.tries, next_what = r.next_what,
             next_at = r.next_at, first_try_at = r.first_try_at, first_contact_at = r.first_contact_at,
             first_try_minutes = r.first_try_minutes, first_contact_minutes = r.first_contact_minutes,
             owner_id = r.owner_id, waits_until = r.waits_until, revision = l.revision + 1, changed_at = $4
             from jsonb_populate_record(null::leads, $3) r where l.workspace_id = $1 and l.id = $2",
            workspace,
            lead,
            step.before,
            now.to_sqlx() as _
        )
        .execute(&mut *db)
        .await?;
        sqlx::query!(
            "update activities set taken_back_at = $3 where workspace_id = $1 and id = $2",
            workspace,
            step.id,
            now.to_sqlx() as _
        )
        .execute(&mut *db)
        .await?;
        turns::settle(&mut db, workspace, lead, now).await?;
        sending::set(&mut db, workspace, EventKind::LeadStatus, lead, now).await?;
        self.changed(db, person, now).await?;
        self.lead(person, lead).await
    }

    /// Adds a note.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where the person may not see the lead.
    #[crate::compiled_here]
    pub async fn add_note(&self, person: &Person, lead: Uuid, text: &str) -> Result<LeadDetail, StoreError> {
        self.lead(person, lead).await?;
        let now = self.now();
        let mut db = self.pool.begin().await?;
        log(&mut db, person.workspace_id, lead, Some(person.id), Activity::Note, text, now).await?;
        self.changed(db, person, now).await?;
        self.lead(person, lead).await
    }

    /// Hands a lead to somebody who works leads here, or takes it.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where the person may not see the lead, or nobody like that is here;
    /// [`StoreError::Conflict`] where it was changed meanwhile: of two who take it, one is told.
    #[crate::compiled_here]
    pub async fn change_owner(
        &self,
        person: &Person,
        lead: Uuid,
        change: &OwnerChange,
    ) -> Result<LeadDetail, StoreError> {
        let known = self.lead(person, lead).await?;
        let (workspace, now) = (person.workspace_id, self.now());
        let mut db = self.pool.begin().await?;
        let to = self
            .takers(workspace)
            .await?
            .into_iter()
            .find(|taker| taker.id == change.to)
            .ok_or(StoreError::NotFound("colleague who works leads"))?;
        let changed = sqlx::query!(
            "update leads set owner_id = $4, waits_until = null, undecided = false, revision = revision + 1,
             changed_at = $5 where workspace_id = $1 and id = $2 and revision = $3",
            workspace,
            lead,
            change.revision,
            to.id,
            now.to_sqlx() as _
        )
        .execute(&mut *db)
        .await?;
        if changed.rows_affected() == 0 {
            let whose = known
                .row
                .owner
                .filter(|_| !known.row.mine)
                .map_or_else(String::new, |owner| format!(": it is {owner}’s now"));
            return Err(StoreError::Conflict(format!("somebody changed this lead meanwhile{whose}. Look at it again")));
        }
        let says = if to.id == person.id { "Took it".to_owned() } else { format!("Passed to {}", to.name) };
        let says = change.note.as_ref().map_or_else(|| says.clone(), |note| format!("{says}. {note}"));
        log(&mut db, workspace, lead, Some(person.id), Activity::Owner, &says, now).await?;
        sending::set(&mut db, workspace, EventKind::LeadUpdated, lead, now).await?;
        tell_owner(&mut db, workspace, lead, NoticeKind::Yours, Some(person.id), now).await?;
        self.changed(db, person, now).await?;
        match self.lead(person, lead).await {
            // Whoever passes a lead out of their queues does not see it any more.
            Err(StoreError::NotFound(_)) => Ok(known),
            found => found,
        }
    }

    /// Those who can take leads in a workspace, by name.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn takers(&self, workspace: Uuid) -> Result<Vec<Taker>, StoreError> {
        Ok(sqlx::query_as!(
            Taker,
            "select id, name, paused from people where workspace_id = $1 and active
             and role in ('rep', 'rep_lead', 'administrator') order by lower(name), id",
            workspace
        )
        .fetch_all(&self.pool)
        .await?)
    }

    /// Ends a change of leads: windows are told.
    pub(super) async fn changed(
        &self,
        mut db: sqlx::Transaction<'_, sqlx::Postgres>,
        person: &Person,
        now: Timestamp,
    ) -> Result<(), StoreError> {
        live::add(&mut db, person.workspace_id, Topic::Leads, "lead", now).await?;
        db.commit().await?;
        self.wakes.stream(person.workspace_id);
        self.wakes.jobs();
        Ok(())
    }
}

/// What comes next after a person's word on a lead, and when: nothing on one that is closed.
pub(super) fn next_after(
    status: LeadStatus,
    later_on: Option<jiff::civil::Date>,
    now: Timestamp,
    calendar: &Calendar,
) -> Option<(NextWhat, Timestamp)> {
    match status {
        status if !status.is_open() => None,
        LeadStatus::New | LeadStatus::Trying => Some((NextWhat::Call, now)),
        LeadStatus::Later => {
            let midnight = later_on.and_then(|date| date.to_zoned(calendar.zone().clone()).ok());
            let at = midnight.and_then(|midnight| calendar.opens(midnight.timestamp())).unwrap_or(now);
            Some((NextWhat::Call, at))
        }
        _ => {
            let plan = TriesPlan::of_target(None);
            Some((NextWhat::GoOn, plan.after(CallOutcome::Spoke, 1, now, calendar, now).at))
        }
    }
}

/// Keeps that a lead was tried, or reached, where its status says so and nothing said it before.
pub(crate) async fn keep_pace(
    db: &mut PgConnection,
    workspace: Uuid,
    lead: Uuid,
    status: LeadStatus,
    calendar: &Calendar,
    at: Timestamp,
) -> Result<(), StoreError> {
    if !status.was_tried() {
        return Ok(());
    }
    let filed = sqlx::query_scalar!(
        "select filed_at as \"filed_at: SqlTimestamp\" from leads where workspace_id = $1 and id = $2",
        workspace,
        lead
    )
    .fetch_one(&mut *db)
    .await?;
    sqlx::query!(
        "update leads set tries = greatest(tries, 1), first_try_at = coalesce(first_try_at, $3),
         first_try_minutes = coalesce(first_try_minutes, $4),
         first_contact_at = coalesce(first_contact_at, case when $5 then $3::timestamptz end),
         first_contact_minutes = coalesce(first_contact_minutes, case when $5 then $4::bigint end)
         where workspace_id = $1 and id = $2",
        workspace,
        lead,
        at.to_sqlx() as _,
        working_minutes(calendar, filed.to_jiff(), at),
        status.was_reached()
    )
    .execute(db)
    .await?;
    Ok(())
}

/// When calls can be made for a lead.
pub(crate) async fn calling_of(db: &mut PgConnection, workspace: Uuid, lead: Uuid) -> Result<Calendar, StoreError> {
    let row = sqlx::query!(
        "select q.hours as \"hours: SqlJson<Written>\", w.zone from leads l join workspaces w on w.id = l.workspace_id
         left join queues q on q.workspace_id = l.workspace_id and q.id = l.queue_id
         where l.workspace_id = $1 and l.id = $2",
        workspace,
        lead
    )
    .fetch_one(db)
    .await?;
    Ok(calling(row.hours.map(|hours| hours.0), &row.zone))
}
