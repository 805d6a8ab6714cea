//! Jobs, sizes and versions as they cross.

use jiff::Timestamp;
use lumbo_store::{JobCount, ParkedJob, Running, Size};
use schemars::JsonSchema;
use serde::Serialize;
use uuid::Uuid;

/// How many jobs there are of a kind.
#[derive(Serialize, JsonSchema)]
pub(crate) struct JobCountView {
    /// The kind's name.
    kind: String,
    /// Waiting or being done.
    waiting: i64,
    /// Waiting, and failed before.
    failing: i64,
    /// Given up.
    parked: i64,
    /// Seconds since the oldest due one was due.
    oldest: i64,
}

/// A job that was given up.
#[derive(Serialize, JsonSchema)]
pub(crate) struct ParkedJobView {
    /// Id.
    id: Uuid,
    /// The kind's name.
    kind: String,
    /// Failed attempts.
    attempts: i32,
    /// When the first of them was, RFC 3339.
    #[schemars(with = "Option<String>")]
    failing_since: Option<Timestamp>,
    /// When it was given up, RFC 3339.
    #[schemars(with = "Option<String>")]
    given_up_at: Option<Timestamp>,
    /// Why the last attempt failed.
    last_error: Option<String>,
}

/// How much of something the workspace holds.
#[derive(Serialize, JsonSchema)]
pub(crate) struct SizeView {
    /// What.
    what: String,
    /// So many.
    count: i64,
    /// Bytes, where they are counted.
    bytes: Option<i64>,
}

/// How the workspace's work goes.
#[derive(Serialize, JsonSchema)]
pub(crate) struct RunningView {
    /// Lumbo's version.
    version: String,
    /// PostgreSQL's version.
    database: String,
    /// The last step that the tables were brought to.
    migration: i64,
    /// Jobs by kind.
    jobs: Vec<JobCountView>,
    /// Those that were given up, the newest first, 100 at most.
    parked: Vec<ParkedJobView>,
    /// What is held.
    sizes: Vec<SizeView>,
}

impl From<Running> for RunningView {
    fn from(from: Running) -> Self {
        let Running { database, migration, jobs, parked, sizes } = from;
        let job = |JobCount { kind, waiting, failing, parked, oldest }| JobCountView {
            kind,
            waiting,
            failing,
            parked,
            oldest,
        };
        let given_up = |ParkedJob { id, kind, attempts, failing_since, ended_at, last_error }| ParkedJobView {
            id,
            kind,
            attempts,
            failing_since,
            given_up_at: ended_at,
            last_error,
        };
        Self {
            version: env!("CARGO_PKG_VERSION").into(),
            database,
            migration,
            jobs: jobs.into_iter().map(job).collect(),
            parked: parked.into_iter().map(given_up).collect(),
            sizes: sizes.into_iter().map(|Size { what, count, bytes }| SizeView { what, count, bytes }).collect(),
        }
    }
}
