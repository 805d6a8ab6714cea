//! Conversations that are held back: nothing of them is filed, and they take nobody's turn.
//!
//! Tests are those that the workspace's own people try: opened by a link for trying, by somebody who is signed in, or
//! answered with an address of their own mail domains. They count nowhere. Doubtful are those that a machine or a flood
//! may have held; they wait until somebody has looked at them, who files them or leaves them.

use jiff::{SignedDuration, Timestamp};
use jiff_sqlx::{Timestamp as SqlTimestamp, ToSqlx};
use lumbo_dialogue::plan::Plan;
use lumbo_dialogue::talk::{Event, State, read_state};
use lumbo_reading::domains::DomainLists;
use lumbo_records::{Identity, said};
use lumbo_value::{FieldType, Value};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use sqlx::PgConnection;
use sqlx::types::{Json, JsonRawValue};
use uuid::Uuid;

use crate::conversations::{NewConversation, Spot, events_of};
use crate::live::{self, Topic};
use crate::requests::RequestOf;
use crate::{Person, Store, StoreError, leads, requests};

/// Most conversations in one list.
const SHOWN: i64 = 200;

/// Why a conversation may be no person's.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Suspicion {
    /// A field was filled that no person sees.
    Trap,
    /// It came to its end faster than a person types.
    Quick,
    /// Many were begun, or many leads filed, from one network within the hour.
    Flood,
}

impl Suspicion {
    /// Its name as it is kept.
    #[must_use]
    pub fn name(self) -> &'static str {
        match self {
            Self::Trap => "trap",
            Self::Quick => "quick",
            Self::Flood => "flood",
        }
    }

    fn parse(text: &str) -> Result<Self, StoreError> {
        match text {
            "trap" => Ok(Self::Trap),
            "quick" => Ok(Self::Quick),
            "flood" => Ok(Self::Flood),
            other => Err(StoreError::Kept(format!("a doubt is not “{other}”"))),
        }
    }
}

/// A conversation that waits for somebody to look at it.
#[derive(Debug, Clone)]
pub struct HeldBackRow {
    /// The conversation.
    pub id: Uuid,
    /// The dialogue, with its title.
    pub dialogue: Uuid,
    /// See `dialogue`.
    pub title: String,
    /// When it began.
    pub started_at: Timestamp,
    /// Why it is held back.
    pub doubt: Suspicion,
    /// Who they say they are.
    pub who: Identity,
}

/// Why a conversation is a test from its start, as it is kept.
pub(crate) fn at_start(new: &NewConversation<'_>, workspace: Uuid) -> Option<&'static str> {
    if new.by_test_link {
        Some("link")
    } else if new.signed_in_to == Some(workspace) {
        Some("signed_in")
    } else {
        None
    }
}

/// True where nothing of a conversation is filed now: it is a test, or doubtful. One that is answered with an address
/// of the workspace's own becomes a test, one that comes to its lead too fast doubtful, unless it has filed a lead
/// before.
pub(crate) async fn is(
    db: &mut PgConnection,
    spot: Spot,
    plan: &Plan,
    state: &State,
    now: Timestamp,
) -> Result<bool, StoreError> {
    let row = sqlx::query!(
        "select c.test is not null or c.doubt is not null as \"held!\", w.own_mail_domains, w.least_seconds,
           c.started_at as \"started_at: SqlTimestamp\", c.doubt_settled_at is not null as \"looked_at!\",
           exists (select from lead_snapshots s where s.workspace_id = c.workspace_id and s.conversation_id = c.id)
             as \"filed!\"
         from conversations c join workspaces w on w.id = c.workspace_id where c.workspace_id = $1 and c.id = $2",
        spot.workspace,
        spot.conversation
    )
    .fetch_one(&mut *db)
    .await?;
    if row.held || row.filed || row.looked_at {
        return Ok(row.held);
    }
    let least = SignedDuration::from_secs(row.least_seconds.into());
    let (test, doubt) = if has_own_address(plan, state, &row.own_mail_domains) {
        (Some("own_address"), None)
    } else if now.duration_since(row.started_at.to_jiff()) < least {
        (None, Some(Suspicion::Quick.name()))
    } else {
        return Ok(false);
    };
    sqlx::query!(
        "update conversations set test = $3, doubt = $4 where workspace_id = $1 and id = $2",
        spot.workspace,
        spot.conversation,
        test,
        doubt
    )
    .execute(&mut *db)
    .await?;
    live::add(db, spot.workspace, Topic::Leads, "held_back", now).await?;
    Ok(true)
}

/// True where an address that they gave is at one of the domains, or below it.
fn has_own_address(plan: &Plan, state: &State, domains: &[String]) -> bool {
    let emails = plan.file.fields.iter().filter(|field| field.kind == FieldType::Email);
    emails.filter_map(|field| state.values.get(&field.id)).any(|held| {
        let Value::Text { text } = &held.value else { return false };
        let Some((_, at)) = text.rsplit_once('@') else { return false };
        let at = at.to_lowercase();
        domains.iter().any(|own| at == *own || at.strip_suffix(own.as_str()).is_some_and(|host| host.ends_with('.')))
    })
}

impl Store {
    /// Conversations that wait for somebody to look at them and came to where something would be filed, the newest
    /// first, 200 at most.
    ///
    /// # Errors
    /// [`StoreError::Newer`] where a newer version has gone on with one of them.
    #[crate::compiled_here]
    pub async fn held_back(&self, workspace: Uuid) -> Result<Vec<HeldBackRow>, StoreError> {
        let rows = sqlx::query!(
            "select c.id, c.dialogue_id, d.title, c.release_id, c.started_at as \"started_at: SqlTimestamp\",
             c.doubt as \"doubt!\", c.state as \"state: Json<Box<JsonRawValue>>\"
             from conversations c join dialogues d on d.workspace_id = c.workspace_id and d.id = c.dialogue_id
             where c.workspace_id = $1 and c.doubt is not null and c.doubt_settled_at is null
               and c.erased_at is null and c.test is null
               and (c.outcome <> '' or coalesce((c.state ->> 'filings')::int, 0) > 0)
             order by c.started_at desc, c.id limit $2",
            workspace,
            SHOWN
        )
        .fetch_all(&self.pool)
        .await?;
        let domains = self.domains(workspace).await?.lists;
        let mut out = Vec::with_capacity(rows.len());
        for row in rows {
            let plan = self.plan_of(&mut *self.pool.acquire().await?, workspace, row.release_id).await?;
            let state = read_state(row.state.0.get())?;
            out.push(HeldBackRow {
                id: row.id,
                dialogue: row.dialogue_id,
                title: row.title,
                started_at: row.started_at.to_jiff(),
                doubt: Suspicion::parse(&row.doubt)?,
                who: said(&plan, &state, row.id, None, None, &domains, false).who,
            });
        }
        Ok(out)
    }

    /// Files what was held back, as it would have been, or leaves it. What was left may still be filed.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where nothing of it waits any more.
    #[crate::compiled_here]
    pub async fn settle_held_back(&self, by: &Person, conversation: Uuid, file: bool) -> Result<(), StoreError> {
        let (workspace, now) = (by.workspace_id, self.now());
        let mut db = self.pool.begin().await?;
        let row = sqlx::query!(
            "update conversations c set doubt_settled_at = $3, doubt = case when $4 then null else c.doubt end
             from workspaces w where w.id = c.workspace_id and c.workspace_id = $1 and c.id = $2
               and c.doubt is not null and (c.doubt_settled_at is null or $4) and c.erased_at is null
             returning c.dialogue_id, c.release_id, w.domains_revision",
            workspace,
            conversation,
            now.to_sqlx() as _,
            file
        )
        .fetch_optional(&mut *db)
        .await?
        .ok_or(StoreError::NotFound("conversation"))?;
        if file {
            let spot = Spot { workspace, dialogue: row.dialogue_id, release: row.release_id, conversation };
            let plan = self.plan_of(&mut db, workspace, row.release_id).await?;
            let domains = self.domains_at(&mut db, workspace, row.domains_revision).await?;
            let events = events_of(&mut db, workspace, conversation).await?;
            file_now(&mut db, spot, &plan, &domains, &events, now).await?;
        }
        live::add(&mut db, workspace, Topic::Leads, "held_back", now).await?;
        db.commit().await?;
        self.wakes.jobs();
        self.wakes.stream(workspace);
        Ok(())
    }
}

/// Files the last lead that a conversation came to, and leaves the request of its outcome.
async fn file_now(
    db: &mut PgConnection,
    spot: Spot,
    plan: &Plan,
    domains: &DomainLists,
    events: &[Event],
    now: Timestamp,
) -> Result<(), StoreError> {
    let state = State::of(events);
    leads::file_last(db, spot, plan, domains, events, false, now).await?;
    if let Some(outcome) = &state.closed {
        let ended = plan.file.outcomes.iter().find(|known| known.id == *outcome);
        let tags = ended.map_or(&[][..], |outcome| outcome.tags.as_slice());
        leads::tag_by_ending(db, spot.workspace, spot.conversation, tags).await?;
        requests::leave(db, &RequestOf { spot, plan, state: &state, domains, outcome, now }).await?;
    }
    Ok(())
}
