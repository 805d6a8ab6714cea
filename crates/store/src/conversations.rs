//! Conversations: events are only added, the state is kept beside them, and a lead is filed in the same transaction as the
//! answer that caused it.

use std::sync::Arc;

use jiff::{Timestamp, ToSpan};
use jiff_sqlx::ToSqlx;
use lumbo_core::field::domains::DomainLists;
use lumbo_core::file::Dialogue;
use lumbo_core::outline::Plan;
use lumbo_core::talk::{Context, Env, Event, Input, InputBody, Prefill, ProspectView, Refusal, State, Step, prospect_view, step};
use sqlx::types::Json;
use sqlx::{Connection, PgConnection};
use uuid::Uuid;

use crate::visitors::use_once;
use crate::{SignedOnce, Store, StoreError, leads};

/// How often an input is tried where others come at the same moment.
const COLLISIONS: usize = 8;

/// A conversation to start.
#[derive(Debug, Clone)]
pub struct NewConversation<'a> {
    /// Address of the dialogue.
    pub slug: &'a str,
    /// SHA-256 of the bearer token.
    pub token_hash: &'a [u8],
    /// Id of the input that starts it.
    pub input_id: &'a str,
    /// Picks among wordings.
    pub seed: u64,
    /// What is known without asking.
    pub context: Context,
    /// Values that the site knows of the visitor, with what was signed; taken once.
    pub known: Option<(Vec<Prefill>, SignedOnce)>,
    /// Now.
    pub now: Timestamp,
}

/// What an input came to.
#[derive(Debug, Clone)]
pub struct Taken {
    /// What the prospect sees: the lines this input caused, and the open question after it.
    pub view: ProspectView,
    /// True where the input had been taken before.
    pub repeated: bool,
}

/// A conversation looked at again.
#[derive(Debug, Clone)]
pub struct Resumed {
    /// Every line, and the open question.
    pub view: ProspectView,
}

/// Why an input was not taken.
#[derive(Debug, thiserror::Error)]
pub enum TakeError {
    /// The engine refused it.
    #[error(transparent)]
    Refused(#[from] Refusal),
    /// The store.
    #[error(transparent)]
    Store(#[from] StoreError),
}

impl From<sqlx::Error> for TakeError {
    fn from(error: sqlx::Error) -> Self {
        Self::Store(error.into())
    }
}

/// A conversation as it is read to take an input.
pub(crate) struct Row {
    pub id: Uuid,
    pub workspace_id: Uuid,
    pub dialogue_id: Uuid,
    pub release_id: Uuid,
    pub state: Json<State>,
    pub domains_revision: i64,
}

/// Where a conversation's events are written.
#[derive(Clone, Copy)]
pub(crate) struct Spot {
    pub workspace: Uuid,
    pub dialogue: Uuid,
    pub release: Uuid,
    pub conversation: Uuid,
}

impl Store {
    async fn plan_of(&self, db: &mut PgConnection, workspace: Uuid, release: Uuid) -> Result<Arc<Plan>, StoreError> {
        if let Some(plan) = self.cached_plan(release) {
            return Ok(plan);
        }
        let body = sqlx::query_scalar!("select body as \"body: Json<Dialogue>\" from releases where workspace_id = $1 and id = $2", workspace, release)
            .fetch_one(db)
            .await?;
        Ok(self.plan(release, || body.0))
    }

    /// Starts a conversation on the release that is on air.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where nothing is on air at the address.
    pub async fn start_conversation(&self, new: NewConversation<'_>) -> Result<Taken, TakeError> {
        let mut db = self.pool.begin().await?;
        let row = sqlx::query!(
            "select d.workspace_id, d.id, d.on_air as \"on_air!\", w.domains_revision from dialogues d join workspaces w on w.id = d.workspace_id
             where d.slug = $1 and d.on_air is not null",
            new.slug
        )
        .fetch_optional(&mut *db)
        .await?
        .ok_or(StoreError::NotFound("dialogue"))?;
        let plan = self.plan_of(&mut db, row.workspace_id, row.on_air).await?;
        let spot = Spot { workspace: row.workspace_id, dialogue: row.id, release: row.on_air, conversation: Uuid::now_v7() };
        let domains = self.domains_at(&mut db, row.workspace_id, row.domains_revision).await?;
        let known = match &new.known {
            Some((known, signed)) if use_once(&mut db, row.workspace_id, signed, new.now).await? => known.as_slice(),
            _ => &[],
        };
        let mut state = State::default();
        let input = Input { id: new.input_id.to_owned(), expects: 0, body: InputBody::Start };
        let env = Env { now: new.now, seed: new.seed, context: &new.context, known, domains: &domains };
        let Step::Events(events) = step(&plan, &mut state, &input, env)? else {
            return Err(StoreError::Conflict("this conversation was started before".into()).into());
        };
        sqlx::query!(
            "insert into conversations (id, workspace_id, dialogue_id, release_id, token_hash, state, events, started_at, last_at, outcome) values ($1, $2, $3, $4, $5, $6, $7, $8, $8, $9)",
            spot.conversation,
            spot.workspace,
            spot.dialogue,
            spot.release,
            new.token_hash,
            Json(State::default()) as _,
            0,
            new.now.to_sqlx() as _,
            None::<String>
        )
        .execute(&mut *db)
        .await?;
        append(&mut db, spot, &plan, &state, 0, &events, new.now).await?;
        file_leads(&mut db, spot, &plan, &state, &domains, &events, new.now).await?;
        db.commit().await?;
        Ok(Taken { view: prospect_view(&plan, &state, &events), repeated: false })
    }

    /// Takes one input of the conversation that a token opens. Acknowledged means committed.
    ///
    /// The row is read without a lock and written where nothing was written since; on a collision it is read again, and the
    /// input then meets the conversation as it has become.
    ///
    /// # Errors
    /// [`TakeError::Refused`]; [`StoreError::NotFound`] for a token that opens nothing.
    pub async fn take_input(&self, token_hash: &[u8], input: &Input, now: Timestamp) -> Result<Taken, TakeError> {
        for _ in 0..COLLISIONS {
            let mut db = self.pool.acquire().await?;
            let row = sqlx::query_as!(
                Row,
                "select c.id, c.workspace_id, c.dialogue_id, c.release_id, c.state as \"state: Json<State>\", w.domains_revision
                 from conversations c join workspaces w on w.id = c.workspace_id where c.token_hash = $1",
                token_hash
            )
            .fetch_optional(&mut *db)
            .await?
            .ok_or(StoreError::NotFound("conversation"))?;
            if let Some(taken) = self.take_at(&mut db, row, input, now).await? {
                return Ok(taken);
            }
        }
        Err(StoreError::Conflict("this conversation changes faster than it can be answered; try again".into()).into())
    }

    /// Takes an input at the state that was read; nothing where the conversation has gone on since.
    pub(crate) async fn take_at(&self, db: &mut PgConnection, row: Row, input: &Input, now: Timestamp) -> Result<Option<Taken>, TakeError> {
        let spot = Spot { workspace: row.workspace_id, dialogue: row.dialogue_id, release: row.release_id, conversation: row.id };
        let plan = self.plan_of(db, spot.workspace, spot.release).await?;
        let domains = self.domains_at(db, spot.workspace, row.domains_revision).await?;
        let mut state = row.state.0;
        let first = state.events;
        let context = Context::default();
        let env = Env { now, seed: state.seed, context: &context, known: &[], domains: &domains };
        let events = match step(&plan, &mut state, input, env)? {
            Step::Events(events) => events,
            Step::Repeated(range) => {
                let events = events_of(db, spot.workspace, spot.conversation).await?;
                let end = (range.end as usize).min(events.len());
                let then = State::of(&events[..end]);
                return Ok(Some(Taken { view: prospect_view(&plan, &then, &events[(range.start as usize).min(end)..end]), repeated: true }));
            }
        };
        let files = events.iter().any(|event| matches!(event, Event::Filed { .. }));
        let written = if files {
            let mut transaction = db.begin().await?;
            let written = append(&mut transaction, spot, &plan, &state, first, &events, now).await?;
            if written {
                file_leads(&mut transaction, spot, &plan, &state, &domains, &events, now).await?;
                transaction.commit().await?;
            }
            written
        } else {
            // One statement is a transaction of its own.
            append(db, spot, &plan, &state, first, &events, now).await?
        };
        Ok(written.then(|| Taken { view: prospect_view(&plan, &state, &events), repeated: false }))
    }

    /// Looks at the conversation that a token opens, from its first line.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] for a token that opens nothing.
    pub async fn resume(&self, token_hash: &[u8]) -> Result<Resumed, StoreError> {
        let mut db = self.pool.acquire().await?;
        let row = sqlx::query!("select id, workspace_id, release_id from conversations where token_hash = $1", token_hash)
            .fetch_optional(&mut *db)
            .await?
            .ok_or(StoreError::NotFound("conversation"))?;
        let plan = self.plan_of(&mut db, row.workspace_id, row.release_id).await?;
        let events = events_of(&mut db, row.workspace_id, row.id).await?;
        Ok(Resumed { view: prospect_view(&plan, &State::of(&events), &events) })
    }
}

/// Events as columns, for one insert of them all.
#[derive(Default)]
struct Columns {
    numbers: Vec<i32>,
    kinds: Vec<String>,
    bodies: Vec<serde_json::Value>,
}

impl Columns {
    fn new(first: u32, events: &[Event]) -> Result<Self, StoreError> {
        let mut columns = Self::default();
        for (index, event) in events.iter().enumerate() {
            let body = serde_json::to_value(event).map_err(StoreError::kept)?;
            columns.kinds.push(body.get("event").and_then(serde_json::Value::as_str).unwrap_or_default().to_owned());
            columns.numbers.push(i32::try_from(first as usize + index).unwrap_or(i32::MAX));
            columns.bodies.push(body);
        }
        Ok(columns)
    }
}

/// Appends events and keeps the state they fold to, in one statement; false, and nothing written, where the conversation
/// has had other events since it was read.
async fn append(db: &mut PgConnection, spot: Spot, plan: &Plan, state: &State, first: u32, events: &[Event], now: Timestamp) -> Result<bool, StoreError> {
    let Columns { numbers, kinds, bodies } = Columns::new(first, events)?;
    let written = sqlx::query!(
        "with moved as (
           update conversations set state = $3, events = $4, last_at = $5, outcome = $6, idle_at = $11 where workspace_id = $1 and id = $2 and events = $7 returning id)
         insert into conversation_events (workspace_id, conversation_id, at, number, kind, body)
           select $1, moved.id, $5, n.number, n.kind, n.body from moved, unnest($8::int[], $9::text[], $10::jsonb[]) as n (number, kind, body)",
        spot.workspace,
        spot.conversation,
        Json(state) as _,
        i32::try_from(state.events).unwrap_or(i32::MAX),
        now.to_sqlx() as _,
        state.closed,
        i32::try_from(first).unwrap_or(i32::MAX),
        &numbers,
        &kinds,
        &bodies,
        idle_at(plan, now) as _
    )
    .execute(db)
    .await?;
    Ok(written.rows_affected() > 0)
}

/// When silence ends the conversation, where the author set a limit.
fn idle_at(plan: &Plan, now: Timestamp) -> Option<jiff_sqlx::Timestamp> {
    let minutes = plan.file.settings.idle_minutes;
    (minutes > 0).then(|| now.checked_add(i64::from(minutes).minutes()).ok()).flatten().map(ToSqlx::to_sqlx)
}

async fn file_leads(
    db: &mut PgConnection,
    spot: Spot,
    plan: &Plan,
    state: &State,
    domains: &DomainLists,
    events: &[Event],
    now: Timestamp,
) -> Result<(), StoreError> {
    for event in events {
        if let Event::Filed { filing, score, decision, .. } = event {
            leads::file(db, spot, plan, state, domains, *filing, score.as_ref(), decision, now).await?;
        }
    }
    Ok(())
}

/// A conversation's events in order.
pub(crate) async fn events_of(db: &mut PgConnection, workspace: Uuid, conversation: Uuid) -> Result<Vec<Event>, StoreError> {
    let rows = sqlx::query_scalar!(
        "select body as \"body: Json<Event>\" from conversation_events where workspace_id = $1 and conversation_id = $2 order by number",
        workspace,
        conversation
    )
    .fetch_all(db)
    .await?;
    Ok(rows.into_iter().map(|row| row.0).collect())
}
