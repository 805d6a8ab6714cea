//! What administrators see of their workspace's jobs and sizes, and running again what was given up.

use jiff::Timestamp;
use jiff_sqlx::{Timestamp as SqlTimestamp, ToSqlx};
use lumbo_people::Audited;
use uuid::Uuid;

use super::JobCount;
use crate::audit::{self, Entry};
use crate::{Store, StoreError};

/// Most jobs that are listed one by one.
const LISTED: i64 = 100;

/// A job that was given up.
#[derive(Debug, Clone)]
pub struct ParkedJob {
    /// Id.
    pub id: Uuid,
    /// What it does, by name.
    pub kind: String,
    /// Failed attempts.
    pub attempts: i32,
    /// When the first of them was.
    pub failing_since: Option<Timestamp>,
    /// When it was given up.
    pub ended_at: Option<Timestamp>,
    /// Why the last attempt failed.
    pub last_error: Option<String>,
}

/// How much of something a workspace holds.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Size {
    /// What, by the name of its table.
    pub what: String,
    /// So many.
    pub count: i64,
    /// Bytes, where they are counted.
    pub bytes: Option<i64>,
}

/// How a workspace's work goes.
#[derive(Debug, Clone)]
pub struct Running {
    /// PostgreSQL's version.
    pub database: String,
    /// The last step that the tables were brought to.
    pub migration: i64,
    /// Jobs by kind.
    pub jobs: Vec<JobCount>,
    /// Those that were given up, the newest first.
    pub parked: Vec<ParkedJob>,
    /// What is held.
    pub sizes: Vec<Size>,
}

impl Store {
    /// How a workspace's work goes: its jobs, what it holds, and versions.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn running(&self, workspace: Uuid) -> Result<Running, StoreError> {
        let database = sqlx::query_scalar!("select current_setting('server_version') as \"version!\"")
            .fetch_one(&self.pool)
            .await?;
        // The table is made by what runs the migrations, so that the compiler cannot look at it.
        let migration = sqlx::query_scalar("select max(version) from _sqlx_migrations").fetch_one(&self.pool).await?;
        let jobs = sqlx::query_as!(
            JobCount,
            "select kind, count(*) filter (where state in ('waiting', 'leased')) as \"waiting!\", count(*) filter
             (where state = 'waiting' and attempts > 0) as \"failing!\",
               count(*) filter (where state = 'parked') as \"parked!\",
               coalesce(extract(epoch from $2 - min(due_at) filter (where state = 'waiting'
                 and due_at <= $2))::bigint, 0) as \"oldest!\"
             from jobs where workspace_id = $1 and state <> 'done' group by kind order by kind",
            workspace,
            self.now().to_sqlx() as _
        )
        .fetch_all(&self.pool)
        .await?;
        let (parked, sizes) = (self.parked(workspace).await?, self.sizes(workspace).await?);
        Ok(Running { database, migration, jobs, parked, sizes })
    }

    async fn parked(&self, workspace: Uuid) -> Result<Vec<ParkedJob>, StoreError> {
        let rows = sqlx::query!(
            "select id, kind, attempts, failing_since as \"failing_since: SqlTimestamp\",
               ended_at as \"ended_at: SqlTimestamp\", last_error
             from jobs where workspace_id = $1 and state = 'parked' order by ended_at desc, id limit $2",
            workspace,
            LISTED
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows
            .into_iter()
            .map(|row| ParkedJob {
                id: row.id,
                kind: row.kind,
                attempts: row.attempts,
                failing_since: row.failing_since.map(SqlTimestamp::to_jiff),
                ended_at: row.ended_at.map(SqlTimestamp::to_jiff),
                last_error: row.last_error,
            })
            .collect())
    }

    async fn sizes(&self, workspace: Uuid) -> Result<Vec<Size>, StoreError> {
        Ok(sqlx::query_as!(
            Size,
            "select 'conversations' as \"what!\", count(*) as \"count!\", null::bigint as bytes
               from conversations where workspace_id = $1
             union all select 'events', coalesce(sum(events), 0)::bigint, null
               from conversations where workspace_id = $1
             union all select 'leads', count(*), null from leads where workspace_id = $1
             union all select 'contacts', count(*), null from contacts where workspace_id = $1
             union all select 'companies', count(*), null from companies where workspace_id = $1
             union all select 'sendings', count(*), null from sendings where workspace_id = $1
             union all select 'media', count(*), sum(octet_length(content))::bigint from media where workspace_id = $1
             union all select 'audit', count(*), null from audit where workspace_id = $1",
            workspace
        )
        .fetch_all(&self.pool)
        .await?)
    }

    /// Has a job that was given up run again, from its first attempt on.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where no such job is given up.
    #[crate::compiled_here]
    pub async fn run_again(&self, workspace: Uuid, person: Uuid, job: Uuid) -> Result<(), StoreError> {
        let now = self.now();
        let mut db = self.pool.begin().await?;
        let kind = sqlx::query_scalar!(
            "update jobs set state = 'waiting', due_at = $3, attempts = 0, failing_since = null, ended_at = null
             where workspace_id = $1 and id = $2 and state = 'parked' returning kind",
            workspace,
            job,
            now.to_sqlx() as _
        )
        .fetch_optional(&mut *db)
        .await?
        .ok_or(StoreError::NotFound("job that was given up"))?;
        let about = kind.replace('_', " ");
        let entry = Entry {
            person: Some(person),
            what: Audited::JobRunAgain,
            about: &about,
            subject: Some(job),
            network: None,
        };
        audit::write(&mut db, workspace, &entry, now).await?;
        db.commit().await?;
        Ok(())
    }
}
