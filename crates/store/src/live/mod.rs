//! What windows are told as it happens. A stream is a workspace and a topic; its entries are numbered by the stream's
//! own counter, which the writing transaction locks, so that whoever has seen a number has seen all before it (identity
//! columns commit out of order). An entry says only what kind of thing changed: the window reads it with its own
//! rights.

use jiff::{SignedDuration, Timestamp};
use jiff_sqlx::ToSqlx;
use sqlx::PgConnection;
use uuid::Uuid;

use crate::{Store, StoreError};

/// How long entries are kept; a window that was away for longer reads everything again.
const KEPT: SignedDuration = SignedDuration::from_hours(1);
/// Most entries read at once.
const BATCH: i64 = 500;

/// What a stream is about.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Topic {
    /// Leads of the workspace.
    Leads,
    /// What people are told.
    Notices,
    /// A dialogue's draft: its revision, who is at it, comments.
    Draft(Uuid),
}

impl Topic {
    /// Its name: `leads`, `notices`, or `draft.` and the dialogue.
    #[must_use]
    pub fn name(self) -> String {
        match self {
            Self::Leads => "leads".to_owned(),
            Self::Notices => "notices".to_owned(),
            Self::Draft(dialogue) => format!("draft.{dialogue}"),
        }
    }

    /// The topic of a name.
    #[must_use]
    pub fn parse(name: &str) -> Option<Self> {
        match name.split_once('.') {
            None if name == "leads" => Some(Self::Leads),
            None if name == "notices" => Some(Self::Notices),
            Some(("draft", dialogue)) => dialogue.parse().ok().map(Self::Draft),
            _ => None,
        }
    }
}

/// What a window is told.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct StreamEntry {
    /// Its number in the stream.
    pub number: i64,
    /// What changed: `lead`, `edit`, `presence`, `comment`, `notice`.
    pub kind: String,
}

/// What a window that was away gets.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum CaughtUp {
    /// What came since, in order.
    Since(Vec<StreamEntry>),
    /// It was away for too long: everything is to be read again, and this is the newest number.
    FromAnew(i64),
}

/// Adds an entry in the caller's transaction. The counter's row stays locked until the commit, so this comes last in
/// it.
pub(crate) async fn add(
    db: &mut PgConnection,
    workspace: Uuid,
    topic: Topic,
    kind: &str,
    now: Timestamp,
) -> Result<(), StoreError> {
    sqlx::query!(
        "with next as (
           insert into streams (workspace_id, topic, number) values ($1, $2, 1)
           on conflict (workspace_id, topic) do update set number = streams.number + 1 returning number)
         insert into stream_entries (workspace_id, topic, number, at, kind) select $1, $2, next.number, $4, $3
           from next",
        workspace,
        topic.name(),
        kind,
        now.to_sqlx() as _
    )
    .execute(db)
    .await?;
    Ok(())
}

impl Store {
    /// The newest number of a stream; 0 where nothing was ever said.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn stream_at(&self, workspace: Uuid, topic: Topic) -> Result<i64, StoreError> {
        let number = sqlx::query_scalar!(
            "select number from streams where workspace_id = $1 and topic = $2",
            workspace,
            topic.name()
        )
        .fetch_optional(&self.pool)
        .await?;
        Ok(number.unwrap_or(0))
    }

    /// What came after a number.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn stream_since(&self, workspace: Uuid, topic: Topic, after: i64) -> Result<CaughtUp, StoreError> {
        // The counter first: what it has reached is committed, so what then is not there has been cleared away.
        let newest = self.stream_at(workspace, topic).await?;
        let entries = sqlx::query_as!(
            StreamEntry,
            "select number, kind from stream_entries where workspace_id = $1 and topic = $2 and number > $3 order by
             number limit $4",
            workspace,
            topic.name(),
            after,
            BATCH
        )
        .fetch_all(&self.pool)
        .await?;
        match entries.first() {
            Some(first) if first.number == after + 1 => Ok(CaughtUp::Since(entries)),
            None if newest == after => Ok(CaughtUp::Since(entries)),
            // What came is gone; a number that was never given is not trusted either.
            _ => Ok(CaughtUp::FromAnew(entries.last().map_or(newest, |last| last.number))),
        }
    }

    /// Clears away entries that have had their time.
    pub(crate) async fn forget_entries(&self, now: Timestamp) -> Result<(), StoreError> {
        let before = now.saturating_sub(KEPT).map_err(StoreError::kept)?;
        sqlx::query!("delete from stream_entries where at < $1", before.to_sqlx() as _).execute(&self.pool).await?;
        Ok(())
    }
}
