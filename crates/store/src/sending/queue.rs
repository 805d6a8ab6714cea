//! Events on their way. Each is a row, set in the transaction that causes it, and a job that sends it. Of one lead and
//! one destination they go in their order: a later one waits until the earlier one arrived or was kept aside.

use jiff::{SignedDuration, Timestamp};
use jiff_sqlx::{Timestamp as SqlTimestamp, ToSqlx};
use lumbo_deliver::webhook::EventKind;
use lumbo_people::Audited;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use sqlx::PgConnection;
use sqlx::types::Json;
use uuid::Uuid;

use super::Choice;
use crate::audit::{self, Entry};
use crate::jobs::{self, JobKind};
use crate::leads::{Activity, log};
use crate::notices::{About, NoticeKind, tell};
use crate::{Person, Store, StoreError};

/// Rows of a page of the log.
const PAGE: i64 = 50;
/// How long a person's word waits before it is sent, so that it can be taken back.
const TAKEN_BACK_WITHIN: SignedDuration = SignedDuration::from_secs(10);
/// How long a destination fails before people are told.
const FAILS_LONG: SignedDuration = SignedDuration::from_mins(15);
/// How much of an answer is kept, characters.
const ANSWER: usize = 2_000;

/// Where a sending stands.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum SendingState {
    /// On its way.
    Waiting,
    /// It arrived.
    Done,
    /// Kept aside: it was refused for good, or failed for five days.
    Parked,
}

impl SendingState {
    fn as_str(self) -> &'static str {
        match self {
            Self::Waiting => "waiting",
            Self::Done => "done",
            Self::Parked => "parked",
        }
    }

    fn parse(text: &str) -> Self {
        match text {
            "done" => Self::Done,
            "parked" => Self::Parked,
            _ => Self::Waiting,
        }
    }
}

/// A sending, as the log shows it.
#[derive(Debug, Clone)]
pub struct SendingRow {
    /// Id, the same for every attempt.
    pub id: Uuid,
    /// Counts up.
    pub number: i64,
    /// What happened.
    pub event: String,
    /// The lead.
    pub lead: Uuid,
    /// The prospect's name.
    pub name: Option<String>,
    /// Where it stands.
    pub state: SendingState,
    /// When it was set.
    pub made_at: Timestamp,
    /// What was sent, or is to be.
    pub body: Option<String>,
    /// Records there that it could be about, until a person says which.
    pub choose: Option<Choice>,
    /// The last attempts, newest first.
    pub attempts: Vec<AttemptRow>,
}

/// One attempt.
#[derive(Debug, Clone)]
pub struct AttemptRow {
    /// When.
    pub at: Timestamp,
    /// How long it took, milliseconds.
    pub took_ms: i32,
    /// HTTP status of the answer.
    pub status: Option<i32>,
    /// The answer's beginning, or why there was none.
    pub answer: String,
}

/// What a worker is to send.
#[derive(Debug, Clone)]
pub struct ToSend {
    /// Id, the same for every attempt.
    pub id: Uuid,
    /// Where to.
    pub destination: Uuid,
    /// What happened.
    pub event: EventKind,
    /// About which lead.
    pub lead: Uuid,
    /// When it happened.
    pub made_at: Timestamp,
    /// What goes, where it is frozen already.
    pub body: Option<String>,
}

/// Whether a sending has its turn.
#[derive(Debug, Clone)]
pub enum Turn {
    /// It goes.
    Now(ToSend),
    /// An earlier event of its lead goes first, at a customer system one of its contact and company too;
    /// its end makes this one due.
    Behind,
    /// Its destination is paused; letting it go on makes this one due.
    Paused,
    /// It ended, or its destination was taken out.
    Over,
}

/// How an attempt ended.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Outcome {
    /// It arrived.
    Arrived,
    /// It did not, and is tried again.
    Failed,
    /// It never will: kept aside.
    Parked,
    /// The receiver does not know us: the destination is paused, with what it said.
    Unknown(String),
}

/// Sets an event of a lead for every destination that gets it, in the caller's transaction. A person's word waits for
/// ten seconds; one that waits already stands for this one too.
pub(crate) async fn set(
    db: &mut PgConnection,
    workspace: Uuid,
    event: EventKind,
    lead: Uuid,
    now: Timestamp,
) -> Result<(), StoreError> {
    let due = if event == EventKind::LeadStatus { now.checked_add(TAKEN_BACK_WITHIN).unwrap_or(now) } else { now };
    let made = sqlx::query_scalar!(
        "insert into sendings (workspace_id, id, destination_id, lead_id, event, made_at)
         select d.workspace_id, gen_random_uuid(), d.id, l.id, $2, $4 from destinations d
         join leads l on l.workspace_id = d.workspace_id and l.id = $3
         where d.workspace_id = $1 and d.removed_at is null and $2 = any(d.events)
           and (d.dialogues = '{}' or l.dialogue_id = any(d.dialogues))
           and (d.from_rank is null or l.band_rank >= d.from_rank)
           and not exists (select from sendings s where s.workspace_id = d.workspace_id and s.destination_id = d.id
             and s.lead_id = l.id and s.event = $2 and s.state = 'waiting' and s.body is null)
         returning id",
        workspace,
        event.as_str(),
        lead,
        now.to_sqlx() as _
    )
    .fetch_all(&mut *db)
    .await?;
    for id in made {
        jobs::set(db, workspace, JobKind::Send, id, &id.to_string(), due, now).await?;
    }
    Ok(())
}

/// Tells administrators and authors, once, that nothing arrives at a destination any more.
async fn tell_of_failing(
    db: &mut PgConnection,
    workspace: Uuid,
    destination: Uuid,
    now: Timestamp,
) -> Result<(), StoreError> {
    let people = sqlx::query_scalar!(
        "select id from people where workspace_id = $1 and active and role in ('administrator', 'author')",
        workspace
    )
    .fetch_all(&mut *db)
    .await?;
    sqlx::query!(
        "update destinations set failing_told_at = $3 where workspace_id = $1 and id = $2",
        workspace,
        destination,
        now.to_sqlx() as _
    )
    .execute(&mut *db)
    .await?;
    tell(db, workspace, &people, NoticeKind::Failing, About::Destination(destination), now).await
}

impl Store {
    /// What a sending's job is to do now.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn to_send(&self, workspace: Uuid, id: Uuid) -> Result<Turn, StoreError> {
        let row = sqlx::query!(
            "select s.id, s.destination_id, s.event, s.lead_id, s.made_at as \"made_at: SqlTimestamp\", s.body,
             d.paused_at is not null as \"paused!\",
             exists (select from sendings e where e.workspace_id = s.workspace_id
               and e.destination_id = s.destination_id and e.lead_id = s.lead_id and e.state = 'waiting'
               and e.number < s.number)
             or d.kind = 'customer_system' and exists (select from leads l
               join leads m on m.workspace_id = l.workspace_id
                 and (m.contact_id = l.contact_id or m.company_id = l.company_id)
               join sendings e on e.workspace_id = m.workspace_id and e.destination_id = s.destination_id
                 and e.lead_id = m.id and e.state = 'waiting' and e.number < s.number
               where l.workspace_id = s.workspace_id and l.id = s.lead_id) as \"behind!\"
             from sendings s join destinations d on d.workspace_id = s.workspace_id and d.id = s.destination_id
             where s.workspace_id = $1 and s.id = $2 and s.state = 'waiting' and d.removed_at is null",
            workspace,
            id
        )
        .fetch_optional(&self.pool)
        .await?;
        let Some(row) = row else { return Ok(Turn::Over) };
        let Some(event) = EventKind::parse(&row.event) else {
            return Err(StoreError::Kept(format!("there is no event “{}”", row.event)));
        };
        if row.paused || row.behind {
            return Ok(if row.paused { Turn::Paused } else { Turn::Behind });
        }
        Ok(Turn::Now(ToSend {
            id: row.id,
            destination: row.destination_id,
            event,
            lead: row.lead_id,
            made_at: row.made_at.to_jiff(),
            body: row.body,
        }))
    }

    /// Freezes what a sending carries; gives what was frozen before where another attempt did.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    #[crate::compiled_here]
    pub async fn freeze_sending(&self, workspace: Uuid, id: Uuid, body: &str) -> Result<String, StoreError> {
        sqlx::query_scalar!(
            "update sendings set body = coalesce(body, $3) where workspace_id = $1 and id = $2
             returning body as \"body!\"",
            workspace,
            id,
            body
        )
        .fetch_optional(&self.pool)
        .await?
        .ok_or(StoreError::NotFound("sending"))
    }

    /// Keeps how an attempt ended, on the sending, its destination and, where it ended for good, the lead's timeline;
    /// the next one of the lead is due then.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn attempted(
        &self,
        workspace: Uuid,
        sending: &ToSend,
        outcome: &Outcome,
        attempt: &AttemptRow,
    ) -> Result<(), StoreError> {
        let now = self.now();
        let mut db = self.pool.begin().await?;
        let state = match outcome {
            Outcome::Arrived => SendingState::Done,
            Outcome::Parked => SendingState::Parked,
            Outcome::Failed | Outcome::Unknown(_) => SendingState::Waiting,
        };
        let number = sqlx::query_scalar!(
            "update sendings set attempts = attempts + 1, state = $3,
             ended_at = case when $3 = 'waiting' then null else $4::timestamptz end
             where workspace_id = $1 and id = $2 returning attempts",
            workspace,
            sending.id,
            state.as_str(),
            now.to_sqlx() as _
        )
        .fetch_one(&mut *db)
        .await?;
        let answer: String = attempt.answer.chars().filter(|c| *c != '\0').take(ANSWER).collect();
        sqlx::query!(
            "insert into sending_attempts (workspace_id, sending_id, number, at, took_ms, status, answer)
             values ($1, $2, $3, $4, $5, $6, $7)",
            workspace,
            sending.id,
            number,
            attempt.at.to_sqlx() as _,
            attempt.took_ms,
            attempt.status,
            answer
        )
        .execute(&mut *db)
        .await?;
        let why = if let Outcome::Unknown(why) = outcome { Some(why.as_str()) } else { None };
        let row = sqlx::query!(
            "update destinations set
               failing_told_at = case when $3 then null else failing_told_at end,
               failing_since = case when $3 then null else coalesce(failing_since, $4::timestamptz) end,
               worked_at = case when $3 then $4 else worked_at end,
               paused_at = case when $5::text is null then paused_at else coalesce(paused_at, $4) end,
               paused_why = coalesce($5, paused_why)
             where workspace_id = $1 and id = $2
             returning name, failing_since as \"failing_since: SqlTimestamp\",
               failing_told_at is not null as \"told!\"",
            workspace,
            sending.destination,
            *outcome == Outcome::Arrived,
            now.to_sqlx() as _,
            why
        )
        .fetch_one(&mut *db)
        .await?;
        let long = row.failing_since.is_some_and(|since| now.duration_since(since.to_jiff()) >= FAILS_LONG);
        if !row.told && (long || why.is_some()) {
            tell_of_failing(&mut db, workspace, sending.destination, now).await?;
        }
        if state != SendingState::Waiting {
            let name = &row.name;
            let says = match outcome {
                Outcome::Arrived => format!("Sent to {name}"),
                _ => format!("Could not be sent to {name}"),
            };
            log(&mut db, workspace, sending.lead, None, Activity::Sending, &says, now).await?;
            // At a customer system, leads of one person or firm wait for one another: it holds one record of each.
            let next = sqlx::query_scalar!(
                "select s.id as \"id!\" from sendings s
                 join leads m on m.workspace_id = s.workspace_id and m.id = s.lead_id
                 join leads l on l.workspace_id = s.workspace_id and l.id = $3
                 join destinations d on d.workspace_id = s.workspace_id and d.id = s.destination_id
                 where s.workspace_id = $1 and s.destination_id = $2 and s.state = 'waiting'
                   and (m.id = l.id or d.kind = 'customer_system'
                     and (m.contact_id = l.contact_id or m.company_id = l.company_id))
                 order by s.number limit 8",
                workspace,
                sending.destination,
                sending.lead
            )
            .fetch_all(&mut *db)
            .await?;
            for next in next {
                jobs::hurry(&mut db, workspace, JobKind::Send, next, now).await?;
            }
        }
        db.commit().await?;
        self.wakes.jobs();
        self.wakes.stream(workspace);
        Ok(())
    }

    /// A page of a destination's log, newest first, and whether there are older ones.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn sendings(
        &self,
        workspace: Uuid,
        destination: Uuid,
        state: Option<SendingState>,
        before: Option<i64>,
    ) -> Result<(Vec<SendingRow>, bool), StoreError> {
        let rows = sqlx::query!(
            "select s.id, s.number, s.event, s.lead_id, l.name, s.state, s.made_at as \"made_at: SqlTimestamp\", s.body,
             s.choose as \"choose: Json<Choice>\"
             from sendings s join leads l on l.workspace_id = s.workspace_id and l.id = s.lead_id
             where s.workspace_id = $1 and s.destination_id = $2 and ($3::text is null or s.state = $3)
               and ($4::bigint is null or s.number < $4) order by s.number desc limit $5",
            workspace,
            destination,
            state.map(SendingState::as_str),
            before,
            PAGE + 1
        )
        .fetch_all(&self.pool)
        .await?;
        let length = usize::try_from(PAGE).unwrap_or(usize::MAX);
        let more = rows.len() > length;
        let ids: Vec<Uuid> = rows.iter().map(|row| row.id).collect();
        let attempts = sqlx::query!(
            "select sending_id, at as \"at: SqlTimestamp\", took_ms, status, answer from sending_attempts
             where workspace_id = $1 and sending_id = any($2) order by number desc",
            workspace,
            &ids
        )
        .fetch_all(&self.pool)
        .await?;
        let rows = rows.into_iter().take(length).map(|row| SendingRow {
            attempts: attempts
                .iter()
                .filter(|attempt| attempt.sending_id == row.id)
                .take(5)
                .map(|attempt| AttemptRow {
                    at: attempt.at.to_jiff(),
                    took_ms: attempt.took_ms,
                    status: attempt.status,
                    answer: attempt.answer.clone(),
                })
                .collect(),
            id: row.id,
            number: row.number,
            event: row.event,
            lead: row.lead_id,
            name: row.name,
            state: SendingState::parse(&row.state),
            made_at: row.made_at.to_jiff(),
            body: row.body,
            choose: row.choose.map(|choose| choose.0),
        });
        Ok((rows.collect(), more))
    }

    /// Sends again what was kept aside, one or all of a destination, with what the lead is today; gives how many.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn send_again(&self, by: &Person, destination: Uuid, one: Option<Uuid>) -> Result<i64, StoreError> {
        let now = self.now();
        let mut db = self.pool.begin().await?;
        let again = sqlx::query!(
            "update sendings s set state = 'waiting', ended_at = null, body = null, choose = null from destinations d
             where s.workspace_id = $1 and s.destination_id = $2 and s.state = 'parked'
               and ($3::uuid is null or s.id = $3)
               and d.workspace_id = s.workspace_id and d.id = s.destination_id and d.removed_at is null
             returning s.id, d.name",
            by.workspace_id,
            destination,
            one
        )
        .fetch_all(&mut *db)
        .await?;
        for row in &again {
            jobs::set(&mut db, by.workspace_id, JobKind::Send, row.id, &row.id.to_string(), now, now).await?;
        }
        let count = i64::try_from(again.len()).unwrap_or(i64::MAX);
        if let Some(first) = again.first() {
            let about = format!("{}: {count} sent again", first.name);
            let entry = Entry {
                person: Some(by.id),
                what: Audited::Exported,
                about: &about,
                subject: Some(destination),
                network: None,
            };
            audit::write(&mut db, by.workspace_id, &entry, now).await?;
        }
        db.commit().await?;
        self.wakes.jobs();
        Ok(count)
    }
}
