//! Everything that Lumbo keeps, in PostgreSQL.
//!
//! One module per table group; SQL stands nowhere else. A change is one transaction, named by its job (filing a lead is
//! part of [`Store::take_input`], so that it happens with the answer that caused it or not at all). Every query names
//! the workspace; those that begin from a secret (a session's id, a conversation's token, an invitation's link) learn
//! it from the row, and an account is a person's own in all of theirs.

mod absences;
mod analyses;
mod answers;
mod audit;
mod clock;
mod comments;
mod conversations;
mod deal;
mod demo;
mod dialogues;
mod domains;
mod fields;
mod firms;
mod held_back;
mod jobs;
mod late;
mod leads;
mod live;
mod media;
mod notices;
mod past;
mod people;
mod placements;
mod presence;
mod queue_settings;
mod queues;
mod records;
mod releases;
mod requests;
mod sending;
mod sessions;
mod silence;
mod team;
mod territories;
mod visitors;

use std::collections::HashMap;
use std::sync::{Arc, RwLock};
use std::time::Duration;

use jiff::{SignedDuration, Timestamp};
use lumbo_dialogue::file::Dialogue;
use lumbo_dialogue::plan::Plan;
use lumbo_dialogue::talk::Unreadable;
use lumbo_reading::domains::DomainLists;
use sqlx::Connection;
use sqlx::postgres::{PgConnectOptions, PgPool, PgPoolOptions};
use tokio::sync::Semaphore;
use uuid::Uuid;

/// Boxes the future of a public method, so that its code is made once, with this crate. The code of an `async fn` is
/// otherwise made in every crate that awaits it, which kept the server's build and each binary of tests busy for
/// minutes. The package is known for recursive functions; it does to a signature just what is needed here.
/// A type with a lifetime of its own names it `'async_recursion`, the lifetime that the package gives the future.
pub(crate) use async_recursion::async_recursion as compiled_here;

pub use absences::{AbsenceChange, AbsenceRow};
pub use analyses::DraftState;
pub use answers::{AnswersCount, AnswersPlace, AnswersQuery, AnswersRow, ConversationRead, HowEnded};
pub use audit::{AuditQuery, AuditRow, Entry};
pub use clock::Clock;
pub use comments::Comment;
pub use conversations::{NewConversation, Resumed, SignedVisitor, Started, TakeError, Taken};
pub use demo::{NewQueue, TookPlace};
pub use dialogues::{Change, Changed, DialogueRow, Draft, DraftError, EditLogRow, FieldCount, FieldCounts};
pub use domains::Domains;
pub use fields::{CatalogueError, DraftConsequences, FieldRow, FieldUse};
pub use firms::FirmOnFile;
pub use held_back::{HeldBackRow, Suspicion};
pub use jobs::{Ended, Job, JobCount, JobKind, LEASE, ParkedJob, Running, Size, Wakes};
pub use leads::{
    AlsoGivenChange, AlsoGivenRow, Call, Came, EnteredRow, FilledReply, FitChange, ImportRow, LEAVES_AFTER, LeadDetail,
    LeadFilter, LeadPage, LeadQuery, LeadRow, Lens, LogRow, MailBegin, MailOut, MailRow, NewImport, NewTask,
    NextChange, OutcomeChange, OwnerChange, PLAIN, PreviewRow, ROWS_AT_ONCE, SavedReply, SnapshotRow, Taker, TaskRow,
    TranscriptLine, Undone, UnfiledRow,
};
pub use live::{CaughtUp, StreamEntry, Topic};
pub use lumbo_people::{Audited, Role};
pub use lumbo_records::RecordField;
pub use media::Medium;
pub use notices::{Alerts, MailedNotice, NoticeKind, NoticeLead, NoticeRow};
pub use past::{PAST_AT_ONCE, PastPlace, PastRow};
pub use people::{
    Account, Faces, Invitation, InvitationRow, NewAccount, NewInvitation, NewPerson, NewToken, NewWorkspace, Person,
    Place, PlaceRow, SecondFactor, Taking, TokenHolder, TokenRow, WorkspaceSettings,
};
pub use placements::{
    Placed, PlacedNow, PlacementAct, PlacementCounts, PlacementRelease, PlacementRow, Seen, Sighting,
};
pub use presence::{Presence, Present};
pub use queue_settings::{Colleague, MemberChange, MemberRow, QueueChange, QueueRow};
pub use records::{
    AlikeRow, BadFileRow, Becomes, CompanyChange, CompanyContact, CompanyDetail, CompanyPage, CompanyRow,
    ContactChange, ContactDetail, ContactExport, ContactGiven, ContactLead, ContactPage, ContactRow, Erased,
    ExportedConversation, ExportedGiven, ExportedLead, ExportedMail, ExportedPermission, ExportedStep, ExportedTask,
    ExportedValue, FileRow, FileUndone, Keeping, MergeLine, MergePreview, MergeRow, NewRecordFile, PermissionChange,
    PermissionRow, Reach, RecordFileRow, TakenRow, ValueRow,
};
pub use releases::{ReleaseError, ReleaseRow};
pub use requests::{RequestAct, RequestDetail, RequestRow};
pub use sending::{
    AttemptRow, Backfill, Choice, Destination, DestinationChange, DestinationKind, DestinationRow, MappingRow, Outcome,
    ReleasedFields, SendingRow, SendingState, ToSend, Turn,
};
pub use sessions::SessionRow;
pub use team::{Team, TeamQueueRow, TeamRow, WeekRow};
pub use territories::TerritoriesRow;
pub use visitors::{SignedOnce, VisitorKeyRow};

/// What callers act on.
#[derive(Debug, thiserror::Error)]
pub enum StoreError {
    /// No such row in this workspace.
    #[error("there is no such {0}")]
    NotFound(&'static str),
    /// Somebody changed it meanwhile, or it exists already.
    #[error("{0}")]
    Conflict(String),
    /// What was asked for cannot be; a sentence that says what to do.
    #[error("{0}")]
    Wrong(String),
    /// What is kept cannot be read by this version.
    #[error("what is kept cannot be read: {0}")]
    Kept(String),
    /// A newer version wrote it; this server leaves it alone.
    #[error("a newer version of Lumbo wrote this: {0}")]
    Newer(Unreadable),
    /// The database does not answer at the moment; nothing was changed.
    #[error("the database does not answer: {0}")]
    Away(String),
    /// A text with a character that PostgreSQL cannot keep: U+0000.
    #[error("the text holds a character that cannot be kept, U+0000; take it out and try again")]
    Unkeepable,
    /// The database failed.
    #[error("the database failed: {0}")]
    Database(sqlx::Error),
}

impl From<sqlx::Error> for StoreError {
    fn from(error: sqlx::Error) -> Self {
        // 22021: invalid byte sequence in a text; 22P05: \u0000 in a jsonb.
        match error.as_database_error().and_then(sqlx::error::DatabaseError::code).as_deref() {
            Some("22021" | "22P05") => Self::Unkeepable,
            Some(code) if away(code) => Self::Away(error.to_string()),
            None if matches!(
                error,
                sqlx::Error::Io(_)
                    | sqlx::Error::PoolTimedOut
                    | sqlx::Error::PoolClosed
                    | sqlx::Error::Protocol(_)
                    | sqlx::Error::WorkerCrashed
            ) =>
            {
                Self::Away(error.to_string())
            }
            _ => Self::Database(error),
        }
    }
}

/// True for the codes of a server that is starting, stopping, full, read-only or gone, and of a transaction that met
/// another: trying again may go well. PostgreSQL 15, appendix A.
fn away(code: &str) -> bool {
    matches!(code.get(..2), Some("08" | "53" | "57" | "58")) || matches!(code, "25006" | "40001" | "40P01" | "55P03")
}

impl From<Unreadable> for StoreError {
    fn from(error: Unreadable) -> Self {
        match error {
            Unreadable::Newer { .. } => Self::Newer(error),
            Unreadable::Broken(says) => Self::Kept(says),
        }
    }
}

impl StoreError {
    fn kept(error: impl std::fmt::Display) -> Self {
        Self::Kept(error.to_string())
    }
}

/// The database, with what was read from it and does not change: plans of releases, revisions of domain lists.
#[derive(Debug, Clone)]
pub struct Store {
    pool: PgPool,
    plans: Arc<RwLock<HashMap<Uuid, Arc<Plan>>>>,
    drafts: Arc<RwLock<KnownDrafts>>,
    domains: Arc<RwLock<KnownDomains>>,
    clock: Clock,
    wakes: Wakes,
    /// Turns for reading long replies.
    reading: Arc<Semaphore>,
    /// How long a prospect's token opens its conversation after the last thing that happened there.
    tokens_for: SignedDuration,
}

/// How long a prospect's token goes on after the last thing that happened, unless told otherwise: a week.
const TOKENS_FOR: SignedDuration = SignedDuration::from_hours(24 * 7);

/// Drafts by dialogue, each with its revision.
type KnownDrafts = HashMap<Uuid, (i64, Arc<Dialogue>)>;
/// Domain lists by workspace, each with its revision.
type KnownDomains = HashMap<Uuid, (i64, Arc<DomainLists>)>;

/// Plans kept in memory; releases never change, so they only ever leave to make room.
const PLAN_LIMIT: usize = 200;
/// Long replies read at once: on half of the cores, so that the other half answers.
fn readers() -> usize {
    (std::thread::available_parallelism().map_or(1, usize::from) / 2).max(1)
}

/// How long a request waits for a connection before it is told to try again.
const WAIT_FOR_CONNECTION: Duration = Duration::from_secs(3);
/// How long after its last use a connection is taken to be alive.
const TRUSTED_FOR: Duration = Duration::from_secs(1);

impl Store {
    /// Connects and brings the tables up to date. Tables that a newer version has changed meanwhile are no reason not
    /// to start: migrations are written so that the version before goes on.
    ///
    /// # Errors
    /// A database that cannot be reached, or migrations that cannot run.
    #[crate::compiled_here]
    pub async fn connect(url: &str, connections: u32) -> Result<Self, StoreError> {
        Self::connect_at(url, connections, Clock::system()).await
    }

    /// The same with a clock of one's own.
    ///
    /// # Errors
    /// As [`Store::connect`].
    #[crate::compiled_here]
    pub async fn connect_at(url: &str, connections: u32, clock: Clock) -> Result<Self, StoreError> {
        let options: PgConnectOptions = url.parse().map_err(StoreError::Database)?;
        let pool = PgPoolOptions::new()
            .max_connections(connections)
            // All are open before the first request: a cold pool would make the first ones wait.
            .min_connections(connections)
            .acquire_timeout(WAIT_FOR_CONNECTION)
            // A question to the database before every use would be one round trip in three of an answered turn. One
            // that was used a moment ago is taken to be alive; where it is not, the request is answered with "try
            // again".
            .test_before_acquire(false)
            .before_acquire(|connection, used| {
                Box::pin(async move {
                    if used.idle_for >= TRUSTED_FOR {
                        connection.ping().await?;
                    }
                    Ok(true)
                })
            })
            .connect_with(options.application_name("lumbo"))
            .await?;
        let mut migrations = sqlx::migrate!();
        migrations.set_ignore_missing(true);
        migrations.run(&pool).await.map_err(|error| StoreError::from(sqlx::Error::from(error)))?;
        Ok(Self {
            pool,
            plans: Arc::default(),
            drafts: Arc::default(),
            domains: Arc::default(),
            clock,
            wakes: Wakes::default(),
            reading: Arc::new(Semaphore::new(readers())),
            tokens_for: TOKENS_FOR,
        })
    }

    /// The same with prospects' tokens that open their conversations for another while.
    #[must_use]
    pub fn with_tokens_for(mut self, tokens_for: SignedDuration) -> Self {
        self.tokens_for = tokens_for;
        self
    }

    /// Conversations in which nothing happened since this moment are opened by no token any more.
    fn tokens_since(&self) -> Timestamp {
        self.now().checked_sub(self.tokens_for).unwrap_or(Timestamp::MIN)
    }

    /// Computes something apart from the threads that answer.
    pub(crate) async fn apart<T: Send + 'static>(work: impl FnOnce() -> T + Send + 'static) -> Result<T, StoreError> {
        tokio::task::spawn_blocking(work).await.map_err(StoreError::kept)
    }

    /// Now.
    #[must_use]
    pub fn now(&self) -> Timestamp {
        self.clock.now()
    }

    /// Who is woken by what is written.
    #[must_use]
    pub fn wakes(&self) -> &Wakes {
        &self.wakes
    }

    /// True where the database answers.
    #[crate::compiled_here]
    pub async fn is_ready(&self) -> bool {
        sqlx::query_scalar!("select 1 as \"one!\"").fetch_one(&self.pool).await.is_ok()
    }

    /// The plan of a release that was read before.
    pub(crate) fn known_plan(&self, release: Uuid) -> Option<Arc<Plan>> {
        self.plans.read().ok().and_then(|plans| plans.get(&release).cloned())
    }

    /// The plan of a release, from memory where it was read before.
    pub(crate) fn plan(&self, release: Uuid, body: impl FnOnce() -> Dialogue) -> Arc<Plan> {
        if let Some(plan) = self.known_plan(release) {
            return plan;
        }
        let plan = Arc::new(Plan::new(&body()).0);
        if let Ok(mut plans) = self.plans.write() {
            if plans.len() >= PLAN_LIMIT {
                plans.clear();
            }
            plans.insert(release, Arc::clone(&plan));
        }
        plan
    }
}
