//! Everything that Lumbo keeps, in PostgreSQL.
//!
//! One module per table group; SQL stands nowhere else. A change is one transaction, named by its job (filing a lead is
//! part of [`Store::take_input`], so that it happens with the answer that caused it or not at all). Every query names the
//! workspace; the two that begin from a secret (a session's id, a conversation's token) learn it from the row.

mod comments;
mod conversations;
mod demo;
mod dialogues;
mod domains;
mod fields;
mod idle;
mod leads;
mod media;
mod people;
mod presence;
mod queues;
mod releases;
mod sessions;
mod visitors;

use std::collections::HashMap;
use std::sync::{Arc, RwLock};

use lumbo_core::field::domains::DomainLists;
use lumbo_core::outline::Plan;
use sqlx::postgres::{PgConnectOptions, PgPool, PgPoolOptions};
use uuid::Uuid;

pub use comments::Comment;
pub use conversations::{NewConversation, Resumed, TakeError, Taken};
pub use demo::NewQueue;
pub use dialogues::{Change, Changed, DialogueRow, Draft, DraftError, EditLogRow, FieldCount};
pub use domains::Domains;
pub use fields::{CatalogueError, DraftConsequences, FieldRow, FieldUse};
pub use leads::{LeadDetail, LeadFilter, LeadRow, LogRow, OutcomeChange, RecordField, TranscriptLine};
pub use media::Medium;
pub use people::{NewPerson, Person, Role};
pub use presence::{Presence, Present};
pub use releases::{ReleaseError, ReleaseRow};
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
    /// What is kept cannot be read by this version.
    #[error("what is kept cannot be read: {0}")]
    Kept(String),
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
            _ => Self::Database(error),
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
    domains: Arc<RwLock<KnownDomains>>,
}

/// Domain lists by workspace, each with its revision.
type KnownDomains = HashMap<Uuid, (i64, Arc<DomainLists>)>;

/// Plans kept in memory; releases never change, so they only ever leave to make room.
const PLAN_LIMIT: usize = 200;

impl Store {
    /// Connects and brings the tables up to date.
    ///
    /// # Errors
    /// A database that cannot be reached, or migrations that cannot run.
    pub async fn connect(url: &str, connections: u32) -> Result<Self, StoreError> {
        let options: PgConnectOptions = url.parse().map_err(StoreError::Database)?;
        let pool = PgPoolOptions::new()
            .max_connections(connections)
            .acquire_timeout(std::time::Duration::from_secs(10))
            .connect_with(options.application_name("lumbo"))
            .await?;
        sqlx::migrate!().run(&pool).await.map_err(|error| StoreError::Database(error.into()))?;
        Ok(Self { pool, plans: Arc::default(), domains: Arc::default() })
    }

    /// True where the database answers.
    pub async fn is_ready(&self) -> bool {
        sqlx::query_scalar!("select 1 as \"one!\"").fetch_one(&self.pool).await.is_ok()
    }

    /// The plan of a release that was read before.
    pub(crate) fn known_plan(&self, release: Uuid) -> Option<Arc<Plan>> {
        self.plans.read().ok().and_then(|plans| plans.get(&release).cloned())
    }

    /// The plan of a release, from memory where it was read before.
    pub(crate) fn plan(&self, release: Uuid, body: impl FnOnce() -> lumbo_core::file::Dialogue) -> Arc<Plan> {
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

    pub(crate) fn cached_plan(&self, release: Uuid) -> Option<Arc<Plan>> {
        self.plans.read().ok().and_then(|plans| plans.get(&release).cloned())
    }
}
