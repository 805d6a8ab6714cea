//! Every conversation of a dialogue with what it said, leads or not: read by pages, the newest first.

use std::sync::Arc;

use jiff::Timestamp;
use jiff_sqlx::{Timestamp as SqlTimestamp, ToSqlx};
use lumbo_dialogue::plan::Plan;
use lumbo_dialogue::talk::{Event, State, read_state};
use sqlx::types::{Json, JsonRawValue};
use uuid::Uuid;

use crate::conversations::events_of;
use crate::{Store, StoreError};

/// How a conversation ended.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum HowEnded {
    /// It has not: they may still go on.
    Open,
    /// They left, or went silent, before an end.
    Left,
    /// With an outcome, by its id.
    With(String),
}

/// Which conversations.
#[derive(Debug, Clone, Default)]
pub struct AnswersQuery {
    /// Only on this release, by its number.
    pub release: Option<i32>,
    /// Only those that ended so.
    pub ended: Option<HowEnded>,
    /// Only those that became a lead, or that did not.
    pub lead: Option<bool>,
    /// Only those that stand at this turn.
    pub turn: Option<String>,
    /// Begun from this moment on.
    pub from: Option<Timestamp>,
    /// Begun before this moment.
    pub until: Option<Timestamp>,
    /// What the workspace's own people tried, in place of what prospects said.
    pub tests: bool,
}

/// Where a reading stands: when the last one that was read began, and its id.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct AnswersPlace {
    /// When it began.
    pub started_at: Timestamp,
    /// Its id.
    pub id: Uuid,
}

impl AnswersPlace {
    /// Behind everything that is still to come.
    #[must_use]
    pub fn first() -> Self {
        Self { started_at: Timestamp::MAX, id: Uuid::max() }
    }
}

/// A conversation with what it said.
#[derive(Debug, Clone)]
pub struct AnswersRow {
    /// Its id.
    pub id: Uuid,
    /// When it began.
    pub started_at: Timestamp,
    /// When something last happened.
    pub last_at: Timestamp,
    /// How it ended.
    pub ended: HowEnded,
    /// Number of its release.
    pub release: i32,
    /// The lead it became.
    pub lead: Option<Uuid>,
    /// The score of its filing.
    pub total: Option<i64>,
    /// The band of its filing.
    pub band: Option<String>,
    /// Place of the band from the lowest, 0; -1 where ruled out.
    pub band_rank: Option<i32>,
    /// The threshold that the band begins at.
    pub band_from: Option<i64>,
    /// True where it was filed unfinished.
    pub unfinished: bool,
    /// Name of the placement it was started in.
    pub placement: Option<String>,
    /// True where its person was erased.
    pub erased: bool,
    /// True where one of the workspace's own people tried it.
    pub test: bool,
    /// What it knows.
    pub state: State,
    /// The release it is held on, made ready.
    pub plan: Arc<Plan>,
}

impl AnswersRow {
    /// Where a reading stands after it.
    #[must_use]
    pub fn place(&self) -> AnswersPlace {
        AnswersPlace { started_at: self.started_at, id: self.id }
    }
}

/// How many conversations there are, and what came of them.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct AnswersCount {
    /// All of them.
    pub all: i64,
    /// Those that ended with an outcome.
    pub ended: i64,
    /// Those that were left, or where silence ended it.
    pub left: i64,
    /// Those that became leads.
    pub leads: i64,
}

/// One conversation to be read.
#[derive(Debug, Clone)]
pub struct ConversationRead {
    /// As in the list.
    pub row: AnswersRow,
    /// Everything that happened, in order.
    pub events: Vec<Event>,
}

struct Row {
    id: Uuid,
    started_at: SqlTimestamp,
    last_at: SqlTimestamp,
    outcome: Option<String>,
    release_id: Uuid,
    release: i32,
    lead: Option<Uuid>,
    total: Option<i64>,
    band: Option<String>,
    band_rank: Option<i32>,
    band_from: Option<i64>,
    unfinished: bool,
    placement: Option<String>,
    erased: bool,
    test: bool,
    state: Json<Box<JsonRawValue>>,
}

/// How an outcome's column is asked for: absent for all, else open, left or an outcome's id.
fn column(ended: Option<&HowEnded>) -> (Option<&'static str>, Option<&str>) {
    match ended {
        None => (None, None),
        Some(HowEnded::Open) => (Some("open"), None),
        Some(HowEnded::Left) => (Some("left"), None),
        Some(HowEnded::With(outcome)) => (Some("with"), Some(outcome)),
    }
}

/// Conversations with their leads: what narrows them, what follows, arguments.
macro_rules! rows {
    ($narrow:literal, $($argument:expr),+ $(,)?) => {
        sqlx::query_as!(
            Row,
            "select c.id, c.started_at as \"started_at: SqlTimestamp\", c.last_at as \"last_at: SqlTimestamp\",
             c.outcome, c.release_id, r.number as release, s.lead_id as \"lead?\", s.total,
             s.band_label as \"band?\", s.band_rank as \"band_rank?\", s.band_from as \"band_from?\",
             s.left_at is not null as \"unfinished!\", p.draft ->> 'name' as \"placement?\",
             c.erased_at is not null as \"erased!\", c.test is not null as \"test!\",
             c.state as \"state: Json<Box<JsonRawValue>>\"
             from conversations c
             join releases r on r.workspace_id = c.workspace_id and r.id = c.release_id
             left join lead_snapshots s on s.workspace_id = c.workspace_id and s.conversation_id = c.id
             left join placements p on p.workspace_id = c.workspace_id and p.id = c.placement_id
             where c.workspace_id = $1 and c.dialogue_id = $2 and not c.entered " + $narrow,
            $($argument),+
        )
    };
}

impl Store {
    /// Conversations of a dialogue behind a place, the newest first.
    ///
    /// # Errors
    /// [`StoreError::Newer`] where a newer version has gone on with one of them.
    #[crate::compiled_here]
    pub async fn answers(
        &self,
        workspace: Uuid,
        dialogue: Uuid,
        query: &AnswersQuery,
        after: AnswersPlace,
        most: i64,
    ) -> Result<Vec<AnswersRow>, StoreError> {
        let (ended, outcome) = column(query.ended.as_ref());
        let rows = rows!(
            "and (c.started_at, c.id) < ($3, $4) and ($5::int is null or r.number = $5)
             and case $6::text when 'open' then c.outcome is null when 'left' then c.outcome = ''
               when 'with' then c.outcome = $7 else true end
             and ($8::boolean is null or (s.lead_id is not null) = $8)
             and ($9::text is null or (c.outcome is null and c.state #>> '{asking,turn}' = $9))
             and ($10::timestamptz is null or c.started_at >= $10)
             and ($11::timestamptz is null or c.started_at < $11) and (c.test is not null) = $13
             order by c.started_at desc, c.id desc limit $12",
            workspace,
            dialogue,
            // The end of time is far ahead of what the database can hold.
            latest(after.started_at).to_sqlx() as _,
            after.id,
            query.release,
            ended,
            outcome,
            query.lead,
            query.turn,
            query.from.map(ToSqlx::to_sqlx) as _,
            query.until.map(ToSqlx::to_sqlx) as _,
            most,
            query.tests
        )
        .fetch_all(&self.pool)
        .await?;
        let mut out = Vec::with_capacity(rows.len());
        for row in rows {
            out.push(self.answers_row(workspace, row).await?);
        }
        Ok(out)
    }

    /// How many conversations of a dialogue there are, and what came of them.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn count_answers(
        &self,
        workspace: Uuid,
        dialogue: Uuid,
        query: &AnswersQuery,
    ) -> Result<AnswersCount, StoreError> {
        let (ended, outcome) = column(query.ended.as_ref());
        Ok(sqlx::query_as!(
            AnswersCount,
            "select count(*) as \"all!\", count(*) filter (where c.outcome <> '') as \"ended!\",
             count(*) filter (where c.outcome = '') as \"left!\", count(s.lead_id) as \"leads!\"
             from conversations c
             join releases r on r.workspace_id = c.workspace_id and r.id = c.release_id
             left join lead_snapshots s on s.workspace_id = c.workspace_id and s.conversation_id = c.id
             where c.workspace_id = $1 and c.dialogue_id = $2 and not c.entered and ($3::int is null or r.number = $3)
               and case $4::text when 'open' then c.outcome is null when 'left' then c.outcome = ''
                 when 'with' then c.outcome = $5 else true end
               and ($6::boolean is null or (s.lead_id is not null) = $6)
               and ($7::text is null or (c.outcome is null and c.state #>> '{asking,turn}' = $7))
               and ($8::timestamptz is null or c.started_at >= $8)
               and ($9::timestamptz is null or c.started_at < $9) and (c.test is not null) = $10",
            workspace,
            dialogue,
            query.release,
            ended,
            outcome,
            query.lead,
            query.turn,
            query.from.map(ToSqlx::to_sqlx) as _,
            query.until.map(ToSqlx::to_sqlx) as _,
            query.tests
        )
        .fetch_one(&self.pool)
        .await?)
    }

    /// One conversation of a dialogue with everything that happened.
    ///
    /// # Errors
    /// [`StoreError::NotFound`]; [`StoreError::Newer`] where a newer version has gone on with it.
    #[crate::compiled_here]
    pub async fn conversation(
        &self,
        workspace: Uuid,
        dialogue: Uuid,
        id: Uuid,
    ) -> Result<ConversationRead, StoreError> {
        let row = rows!("and c.id = $3", workspace, dialogue, id)
            .fetch_optional(&self.pool)
            .await?
            .ok_or(StoreError::NotFound("conversation"))?;
        let row = self.answers_row(workspace, row).await?;
        let events = events_of(&mut *self.pool.acquire().await?, workspace, id).await?;
        Ok(ConversationRead { row, events })
    }

    async fn answers_row(&self, workspace: Uuid, row: Row) -> Result<AnswersRow, StoreError> {
        let plan = match self.known_plan(row.release_id) {
            Some(plan) => plan,
            None => self.plan_of(&mut *self.pool.acquire().await?, workspace, row.release_id).await?,
        };
        Ok(AnswersRow {
            id: row.id,
            started_at: row.started_at.to_jiff(),
            last_at: row.last_at.to_jiff(),
            ended: match row.outcome {
                None => HowEnded::Open,
                Some(outcome) if outcome.is_empty() => HowEnded::Left,
                Some(outcome) => HowEnded::With(outcome),
            },
            release: row.release,
            lead: row.lead,
            total: row.total,
            band: row.band,
            band_rank: row.band_rank,
            band_from: row.band_from,
            unfinished: row.unfinished,
            placement: row.placement,
            erased: row.erased,
            test: row.test,
            state: read_state(row.state.get())?,
            plan,
        })
    }
}

/// A moment as late as the database can hold, at most.
fn latest(moment: Timestamp) -> Timestamp {
    // The year 9999 ends a little before the last moment there is.
    moment.min(Timestamp::from_second(253_000_000_000).unwrap_or(moment))
}
