//! Conversations: events are only added, the state is kept beside them, and a lead is filed in the same transaction as
//! the answer that caused it.

use std::sync::Arc;
use std::time::Duration;

use jiff::{SignedDuration, Timestamp};
use jiff_sqlx::{Timestamp as SqlTimestamp, ToSqlx};
use lumbo_dialogue::file::Dialogue;
use lumbo_dialogue::plan::Plan;
use lumbo_dialogue::talk::{
    Context, Effect, Env, Event, Input, InputBody, Prefill, ProspectInput, ProspectMessage, ProspectView, Refusal,
    State, Step, Timer, keep_event, keep_state, prospect_view, read_event, read_state, step,
};
use lumbo_reading::domains::DomainLists;
use sqlx::types::{Json, JsonRawValue};
use sqlx::{Connection, PgConnection};
use uuid::Uuid;

use crate::held_back::Suspicion;
use crate::jobs::{self, JobKind};
use crate::leads::FilingOf;
use crate::requests::{self, RequestOf};
use crate::visitors::use_once;
use crate::{SignedOnce, Store, StoreError, held_back, leads};

/// Replies of more bytes are read apart from the threads that answer.
const LONG: usize = 400;
/// How long reading one may take, with waiting for its turn.
const READ_WITHIN: Duration = Duration::from_secs(3);

/// True for an input whose reading may take a while.
fn is_long(input: &Input) -> bool {
    match &input.body {
        InputBody::Prospect(ProspectInput::Reply { text } | ProspectInput::Revise { text, .. }) => text.len() > LONG,
        InputBody::Prospect(ProspectInput::Form { values }) => values.values().map(String::len).sum::<usize>() > LONG,
        InputBody::Prospect(_) | InputBody::System(_) => false,
    }
}

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
    /// The placement that it was started in; one of another dialogue's does nothing.
    pub placement: Option<Uuid>,
    /// Picks among wordings.
    pub seed: u64,
    /// What is known without asking.
    pub context: Context,
    /// What the site knows of the visitor, with what was signed; taken once.
    pub known: Option<SignedVisitor>,
    /// True where it was opened by a link for trying.
    pub by_test_link: bool,
    /// The workspace that whoever starts it is signed in to.
    pub signed_in_to: Option<Uuid>,
    /// Why a machine may be starting it.
    pub doubt: Option<Suspicion>,
    /// Now.
    pub now: Timestamp,
}

/// What a site knows of its visitor and signed.
#[derive(Debug, Clone)]
pub struct SignedVisitor {
    /// Who they are on the site.
    pub subject: Option<String>,
    /// Values, as they would type them.
    pub known: Vec<Prefill>,
    /// What was signed.
    pub signed: SignedOnce,
}

/// What an input came to.
#[derive(Debug, Clone)]
pub struct Taken {
    /// What the prospect sees: the lines this input caused, and the open question after it.
    pub view: ProspectView,
    /// True where the input had been taken before.
    pub repeated: bool,
    /// The dialogue, where this input filed a lead.
    pub filed: Option<Uuid>,
}

/// Shortest id of a start that counts once: a shorter one may be anybody's.
const ONCE: usize = 16;
/// How long after a start the page may ask for it again.
const ASKED_AGAIN_WITHIN: SignedDuration = SignedDuration::from_mins(10);

/// The id of a start where it counts once.
fn counts_once(id: &str) -> Option<&str> {
    (id.len() >= ONCE).then_some(id)
}

/// A conversation that was started.
#[derive(Debug, Clone)]
pub struct Started {
    /// What the prospect sees.
    pub view: ProspectView,
    /// True where one of the workspace's own people tries it: nothing of it is filed.
    pub test: bool,
    /// The dialogue.
    pub dialogue: Uuid,
}

/// A conversation looked at again.
#[derive(Debug, Clone)]
pub struct Resumed {
    /// Every line, and the open question.
    pub view: ProspectView,
    /// True where one of the workspace's own people tries it: nothing of it is filed.
    pub test: bool,
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
    pub state: Json<Box<JsonRawValue>>,
    pub last_at: SqlTimestamp,
    pub domains_revision: i64,
}

impl Row {
    /// The state, brought up to date where an older version wrote it.
    pub(crate) fn state(&self) -> Result<State, StoreError> {
        let mut state = read_state(self.state.get())?;
        state.heard_at.get_or_insert(self.last_at.to_jiff());
        Ok(state)
    }
}

/// Where a conversation's events are written.
#[derive(Clone, Copy)]
pub(crate) struct Spot {
    pub workspace: Uuid,
    pub dialogue: Uuid,
    pub release: Uuid,
    pub conversation: Uuid,
}

/// A conversation that has just begun.
struct Begun {
    spot: Spot,
    plan: Arc<Plan>,
    domains: Arc<DomainLists>,
    state: State,
    events: Vec<Event>,
    wake: Woken,
    /// True where one of the workspace's own people tries it.
    test: bool,
}

impl Store {
    pub(crate) async fn plan_of(
        &self,
        db: &mut PgConnection,
        workspace: Uuid,
        release: Uuid,
    ) -> Result<Arc<Plan>, StoreError> {
        if let Some(plan) = self.known_plan(release) {
            return Ok(plan);
        }
        let body = sqlx::query_scalar!(
            "select body as \"body: Json<Dialogue>\" from releases where workspace_id = $1 and id = $2",
            workspace,
            release
        )
        .fetch_one(db)
        .await?;
        Ok(self.plan(release, || body.0))
    }

    /// Starts a conversation on the release that is on air.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where nothing is on air at the address.
    #[crate::compiled_here]
    pub async fn start_conversation(&self, new: NewConversation<'async_recursion>) -> Result<Started, TakeError> {
        let mut db = self.pool.begin().await?;
        if let Some(again) = self.begun_before(&mut db, &new).await? {
            db.commit().await?;
            return Ok(again);
        }
        let Begun { spot, plan, events, state, wake, test, .. } = self.begin(&mut db, &new).await?;
        db.commit().await?;
        self.wake(spot.workspace, wake);
        Ok(Started { view: prospect_view(&plan, &state, &events), test, dialogue: spot.dialogue })
    }

    /// A conversation that the same page began a moment ago, and of which it never heard: it goes on under the new
    /// token, as long as nothing was said in it.
    async fn begun_before(
        &self,
        db: &mut PgConnection,
        new: &NewConversation<'_>,
    ) -> Result<Option<Started>, StoreError> {
        let Some(once) = counts_once(new.input_id) else { return Ok(None) };
        let row = sqlx::query!(
            "update conversations c set token_hash = $3 from dialogues d where d.slug = $1
             and c.workspace_id = d.workspace_id and c.dialogue_id = d.id and c.start_id = $2
             and c.last_at = c.started_at and c.started_at > $4
             returning c.id, c.workspace_id, c.dialogue_id, c.release_id, c.test",
            new.slug,
            once,
            new.token_hash,
            new.now.checked_sub(ASKED_AGAIN_WITHIN).unwrap_or(new.now).to_sqlx() as _
        )
        .fetch_optional(&mut *db)
        .await?;
        let Some(row) = row else { return Ok(None) };
        let plan = self.plan_of(&mut *db, row.workspace_id, row.release_id).await?;
        let events = events_of(&mut *db, row.workspace_id, row.id).await?;
        let view = prospect_view(&plan, &State::of(&events), &events);
        Ok(Some(Started { view, test: row.test.is_some(), dialogue: row.dialogue_id }))
    }

    /// Starts a conversation in the caller's transaction.
    async fn begin(&self, db: &mut PgConnection, new: &NewConversation<'_>) -> Result<Begun, TakeError> {
        let row = sqlx::query!(
            "select d.workspace_id, d.id, d.on_air as \"on_air!\", w.domains_revision from dialogues d join
             workspaces w on w.id = d.workspace_id
             where d.slug = $1 and d.on_air is not null",
            new.slug
        )
        .fetch_optional(&mut *db)
        .await?
        .ok_or(StoreError::NotFound("dialogue"))?;
        let plan = self.plan_of(&mut *db, row.workspace_id, row.on_air).await?;
        let spot =
            Spot { workspace: row.workspace_id, dialogue: row.id, release: row.on_air, conversation: Uuid::now_v7() };
        let domains = self.domains_at(&mut *db, row.workspace_id, row.domains_revision).await?;
        let visitor = match &new.known {
            Some(visitor) if use_once(&mut *db, row.workspace_id, &visitor.signed, new.now).await? => Some(visitor),
            _ => None,
        };
        let known = visitor.map_or(&[][..], |visitor| &visitor.known);
        let mut state = State::default();
        let input =
            Input { id: new.input_id.to_owned(), expects: 0, body: InputBody::Prospect(ProspectInput::Start {}) };
        let env = Env { now: new.now, seed: new.seed, context: &new.context, known, domains: &domains };
        let Step::Took { events, effects } = step(&plan, &mut state, &input, env)? else {
            return Err(StoreError::Conflict("this conversation was started before".into()).into());
        };
        let test = held_back::at_start(new, row.workspace_id);
        sqlx::query!(
            "insert into conversations (id, workspace_id, dialogue_id, release_id, token_hash, state, events,
             started_at, last_at, subject, placement_id, test, doubt, start_id) values ($1, $2, $3, $4, $5, $6, $7, $8,
             $8, $9, (select id from placements where workspace_id = $2 and dialogue_id = $3 and id = $10), $11, $12,
             $13)",
            spot.conversation,
            spot.workspace,
            spot.dialogue,
            spot.release,
            new.token_hash,
            Json(State::default()) as _,
            0,
            new.now.to_sqlx() as _,
            visitor.and_then(|visitor| visitor.subject.clone()),
            new.placement,
            test,
            new.doubt.map(Suspicion::name),
            counts_once(new.input_id)
        )
        .execute(&mut *db)
        .await
        .map_err(|error| match error.as_database_error() {
            Some(found) if found.is_unique_violation() => {
                StoreError::Conflict("this conversation was begun before; start a new one".into())
            }
            _ => error.into(),
        })?;
        append(&mut *db, spot, &state, 0, &events, new.now).await?;
        let follow = Follow { spot, plan: &plan, state: &state, domains: &domains, now: new.now };
        let wake = follow.write(&mut *db, &effects).await?;
        Ok(Begun { spot, plan, domains, state, events, wake, test: test.is_some() })
    }

    /// Runs a conversation that took place already, each input at its moment, in one transaction; gives its id.
    ///
    /// # Errors
    /// As [`Self::start_conversation`] and [`Self::take_input`].
    pub(crate) async fn run_past(
        &self,
        new: NewConversation<'_>,
        inputs: Vec<(ProspectMessage, Timestamp)>,
    ) -> Result<Uuid, TakeError> {
        let mut db = self.pool.begin().await?;
        let Begun { spot, plan, domains, mut state, .. } = self.begin(&mut db, &new).await?;
        for (message, now) in inputs {
            let (first, seed) = (state.events, state.seed);
            let env = Env { now, seed, context: &Context::default(), known: &[], domains: &domains };
            let Step::Took { events, effects } = step(&plan, &mut state, &Input::from(message), env)? else {
                return Err(StoreError::Conflict("an input was taken before".into()).into());
            };
            append(&mut db, spot, &state, first, &events, now).await?;
            // What time would have brought, the past has had.
            let effects: Vec<Effect> =
                effects.into_iter().filter(|effect| !matches!(effect, Effect::Wake { .. })).collect();
            Follow { spot, plan: &plan, state: &state, domains: &domains, now }.write(&mut db, &effects).await?;
        }
        db.commit().await?;
        Ok(spot.conversation)
    }

    /// Takes one input of the conversation that a token opens. Acknowledged means committed.
    ///
    /// The row is read without a lock and written where nothing was written since; on a collision it is read again, and
    /// the input then meets the conversation as it has become.
    ///
    /// # Errors
    /// [`TakeError::Refused`]; [`StoreError::NotFound`] for a token that opens nothing.
    #[crate::compiled_here]
    pub async fn take_input(
        &self,
        token_hash: &[u8],
        message: ProspectMessage,
        now: Timestamp,
    ) -> Result<Taken, TakeError> {
        let input = Input::from(message);
        for _ in 0..COLLISIONS {
            let mut db = self.pool.acquire().await?;
            let row = sqlx::query_as!(
                Row,
                "select c.id, c.workspace_id, c.dialogue_id, c.release_id, c.state
                 as \"state: Json<Box<JsonRawValue>>\", c.last_at as \"last_at: SqlTimestamp\",
                   w.domains_revision from conversations c join workspaces w on w.id = c.workspace_id
                     where c.token_hash = $1 and c.last_at > $2",
                token_hash,
                self.tokens_since().to_sqlx() as _
            )
            .fetch_optional(&mut *db)
            .await?
            .ok_or(StoreError::NotFound("conversation"))?;
            if let Some(taken) = self.take_at(&mut db, row, &input, now).await? {
                return Ok(taken);
            }
        }
        Err(StoreError::Conflict("this conversation changes faster than it can be answered; try again".into()).into())
    }

    /// Takes an input at the state that was read; nothing where the conversation has gone on since.
    pub(crate) async fn take_at(
        &self,
        db: &mut PgConnection,
        row: Row,
        input: &Input,
        now: Timestamp,
    ) -> Result<Option<Taken>, TakeError> {
        let spot = Spot {
            workspace: row.workspace_id,
            dialogue: row.dialogue_id,
            release: row.release_id,
            conversation: row.id,
        };
        let plan = self.plan_of(db, spot.workspace, spot.release).await?;
        let domains = self.domains_at(db, spot.workspace, row.domains_revision).await?;
        let state = row.state()?;
        let first = state.events;
        let (state, stepped) = self.stepped(&plan, &domains, state, input, now).await;
        let (events, effects) = match stepped? {
            Step::Took { events, effects } => (events, effects),
            Step::Repeated(range) => {
                let events = events_of(db, spot.workspace, spot.conversation).await?;
                let end = (range.end as usize).min(events.len());
                let then = State::of(&events[..end]);
                return Ok(Some(Taken {
                    view: prospect_view(&plan, &then, &events[(range.start as usize).min(end)..end]),
                    repeated: true,
                    filed: None,
                }));
            }
        };
        let left = events.contains(&Event::Left);
        let written = if effects.is_empty() && !left {
            // One statement is a transaction of its own.
            append(db, spot, &state, first, &events, now).await?
        } else {
            let mut transaction = db.begin().await?;
            let written = append(&mut transaction, spot, &state, first, &events, now).await?;
            if written {
                let follow = Follow { spot, plan: &plan, state: &state, domains: &domains, now };
                let wake = follow.write(&mut transaction, &effects).await?;
                if left {
                    revoke_token(&mut transaction, spot).await?;
                }
                transaction.commit().await?;
                self.wake(spot.workspace, wake);
            }
            written
        };
        let filed = effects.iter().any(|effect| matches!(effect, Effect::File { .. })).then_some(spot.dialogue);
        Ok(written.then(|| Taken { view: prospect_view(&plan, &state, &events), repeated: false, filed }))
    }

    /// Takes a step. A long reply is read apart from the threads that answer, few at once; one that takes too long is
    /// asked again, as if nothing had been typed.
    async fn stepped(
        &self,
        plan: &Arc<Plan>,
        domains: &Arc<DomainLists>,
        mut state: State,
        input: &Input,
        now: Timestamp,
    ) -> (State, Result<Step, Refusal>) {
        let stepping = move |plan: &Plan, domains: &DomainLists, state: &mut State, input: &Input| {
            let env = Env { now, seed: state.seed, context: &Context::default(), known: &[], domains };
            step(plan, state, input, env)
        };
        if !is_long(input) {
            let stepped = stepping(plan, domains, &mut state, input);
            return (state, stepped);
        }
        let before = state.clone();
        let reading = async {
            let permit = Arc::clone(&self.reading).acquire_owned().await.ok();
            let (plan, domains, input) = (Arc::clone(plan), Arc::clone(domains), input.clone());
            // The permit goes along: a reading that nobody waits for any more still counts until it is done.
            let read = tokio::task::spawn_blocking(move || {
                let stepped = stepping(&plan, &domains, &mut state, &input);
                drop(permit);
                (state, stepped)
            });
            read.await.ok()
        };
        match tokio::time::timeout(READ_WITHIN, reading).await {
            Ok(Some(read)) => read,
            _ => {
                tracing::warn!("a long reply was not read in time; it is asked again");
                let mut state = before;
                let asked =
                    Input { body: InputBody::Prospect(ProspectInput::Reply { text: String::new() }), ..input.clone() };
                let stepped = stepping(plan, domains, &mut state, &asked);
                (state, stepped)
            }
        }
    }

    /// Looks at the conversation that a token opens, from its first line.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] for a token that opens nothing.
    #[crate::compiled_here]
    pub async fn resume(&self, token_hash: &[u8]) -> Result<Resumed, StoreError> {
        let mut db = self.pool.acquire().await?;
        let row = sqlx::query!(
            "select id, workspace_id, release_id, test from conversations where token_hash = $1 and last_at > $2",
            token_hash,
            self.tokens_since().to_sqlx() as _
        )
        .fetch_optional(&mut *db)
        .await?
        .ok_or(StoreError::NotFound("conversation"))?;
        let plan = self.plan_of(&mut db, row.workspace_id, row.release_id).await?;
        let events = events_of(&mut db, row.workspace_id, row.id).await?;
        Ok(Resumed { view: prospect_view(&plan, &State::of(&events), &events), test: row.test.is_some() })
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
            let body = keep_event(event)?;
            columns.kinds.push(body.get("event").and_then(serde_json::Value::as_str).unwrap_or_default().to_owned());
            columns.numbers.push(i32::try_from(first as usize + index).unwrap_or(i32::MAX));
            columns.bodies.push(body);
        }
        Ok(columns)
    }
}

/// Appends events and keeps the state they fold to, in one statement; false, and nothing written, where the
/// conversation has had other events since it was read.
pub(crate) async fn append(
    db: &mut PgConnection,
    spot: Spot,
    state: &State,
    first: u32,
    events: &[Event],
    now: Timestamp,
) -> Result<bool, StoreError> {
    let Columns { numbers, kinds, bodies } = Columns::new(first, events)?;
    let written = sqlx::query!(
        "with moved as (
           update conversations set state = $3, events = $4, last_at = $5, outcome = $6 where workspace_id = $1
             and id = $2 and events = $7 returning id)
         insert into conversation_events (workspace_id, conversation_id, at, number, kind, body)
           select $1, moved.id, $5, n.number, n.kind, n.body
             from moved, unnest($8::int[], $9::text[], $10::jsonb[]) as n (number, kind, body)",
        spot.workspace,
        spot.conversation,
        Json(JsonRawValue::from_string(keep_state(state)?).map_err(StoreError::kept)?) as _,
        i32::try_from(state.events).unwrap_or(i32::MAX),
        now.to_sqlx() as _,
        state.closed,
        i32::try_from(first).unwrap_or(i32::MAX),
        &numbers,
        &kinds,
        &bodies
    )
    .execute(db)
    .await?;
    Ok(written.rows_affected() > 0)
}

/// Where and on what a step's effects are written.
struct Follow<'a> {
    spot: Spot,
    plan: &'a Plan,
    state: &'a State,
    domains: &'a DomainLists,
    now: Timestamp,
}

/// Whom to wake after the commit.
#[derive(Debug, Clone, Copy, Default)]
struct Woken {
    jobs: bool,
    stream: bool,
}

impl Follow<'_> {
    /// Turns effects into rows, in the caller's transaction.
    async fn write(&self, db: &mut PgConnection, effects: &[Effect]) -> Result<Woken, StoreError> {
        let (spot, now) = (self.spot, self.now);
        let mut woken = Woken::default();
        let leaves = |effect: &Effect| matches!(effect, Effect::File { .. } | Effect::Request { .. });
        let held = effects.iter().any(leaves) && held_back::is(db, spot, self.plan, self.state, now).await?;
        for effect in effects.iter().filter(|effect| !(held && leaves(effect))) {
            match effect {
                Effect::File { filing, score, decision, unfinished, early } => {
                    let of = FilingOf {
                        spot,
                        plan: self.plan,
                        state: self.state,
                        domains: self.domains,
                        filing: *filing,
                        score: score.as_deref(),
                        decision,
                        unfinished: *unfinished,
                        early: *early,
                        choosing: false,
                        now,
                    };
                    leads::file(db, &of).await?;
                    woken.stream = true;
                    // What is sent of it, and dealt.
                    woken.jobs = true;
                }
                Effect::Tag { tags } => leads::tag_by_ending(db, spot.workspace, spot.conversation, tags).await?,
                Effect::Request { outcome } => {
                    let of =
                        RequestOf { spot, plan: self.plan, state: self.state, domains: self.domains, outcome, now };
                    requests::leave(db, &of).await?;
                    woken.stream = true;
                }
                Effect::Wake { timer, at } => {
                    let key = spot.conversation.to_string();
                    let kind = match timer {
                        Timer::Silence => JobKind::Silence,
                        Timer::Unfinished => JobKind::Unfinished,
                        Timer::Owner => JobKind::Owner,
                    };
                    jobs::set(db, spot.workspace, kind, spot.conversation, &key, *at, now).await?;
                    if kind == JobKind::Owner && *at <= now {
                        jobs::hurry(db, spot.workspace, kind, spot.conversation, now).await?;
                    }
                    // Minutes away: workers see it when they look.
                    woken.jobs |= *at <= now;
                }
            }
        }
        Ok(woken)
    }
}

impl Store {
    fn wake(&self, workspace: Uuid, woken: Woken) {
        if woken.jobs {
            self.wakes.jobs();
        }
        if woken.stream {
            self.wakes.stream(workspace);
        }
    }
}

/// Who leaves takes the token along: it opens nothing any more.
async fn revoke_token(db: &mut PgConnection, spot: Spot) -> Result<(), StoreError> {
    sqlx::query!(
        "update conversations set token_hash = null where workspace_id = $1 and id = $2",
        spot.workspace,
        spot.conversation
    )
    .execute(db)
    .await?;
    Ok(())
}

/// A conversation's events in order, brought up to date where an older version wrote them.
pub(crate) async fn events_of(
    db: &mut PgConnection,
    workspace: Uuid,
    conversation: Uuid,
) -> Result<Vec<Event>, StoreError> {
    let rows = sqlx::query_scalar!(
        "select body as \"body: Json<Box<JsonRawValue>>\" from conversation_events where workspace_id = $1 and
         conversation_id = $2 order by number",
        workspace,
        conversation
    )
    .fetch_all(db)
    .await?;
    rows.into_iter().map(|row| Ok(read_event(row.get())?)).collect()
}
