//! Jobs: all that happens later. A row is written in the transaction that causes it, taken by a worker under a lease,
//! and done at least once: what a handler does must be safe to do again.
//!
//! | step | how |
//! |---|---|
//! | set | [`set`] in the caller's transaction; the same kind and key are never waiting twice |
//! | take | [`Store::take_jobs`]: due ones, and those whose lease ran out, with `skip locked` |
//! | keep | [`Store::renew_lease`] while it is worked on |
//! | end | [`Store::end_job`]: done, later, failed (tried again by the timetable, parked after it), or given back |
//!
//! To add a kind: a variant of [`JobKind`], what sets it, and a handler of its own in the server's `workers/`.

mod running;
mod wake;

use jiff::{SignedDuration, Timestamp};
use jiff_sqlx::{Timestamp as SqlTimestamp, ToSqlx};
use lumbo_deliver::retry;
use lumbo_people::waits::FORGOTTEN;
use sqlx::PgConnection;
use uuid::Uuid;

use crate::people::forget_resets;
use crate::records::begin_retention;
use crate::{Store, StoreError};

pub use running::{ParkedJob, Running, Size};
pub use wake::Wakes;

/// How long a worker has a job before others may take it; it renews the lease while it works.
pub const LEASE: SignedDuration = SignedDuration::from_secs(30);
/// How long ended jobs are kept.
const KEPT: SignedDuration = SignedDuration::from_hours(24 * 7);
/// How long what was sent is kept.
const SENDINGS_KEPT: SignedDuration = SignedDuration::from_hours(24 * 30);
/// How long the audit is kept: 24 months.
const AUDIT_KEPT: SignedDuration = SignedDuration::from_hours(24 * 731);

/// What a job does.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum JobKind {
    /// Ends a conversation that was silent past its author's limit.
    Silence,
    /// Makes a lead of a conversation that was left before its end.
    Unfinished,
    /// Chooses the owner of a lead that was filed early.
    Owner,
    /// Deals the leads of a queue that waited for its opening.
    Deal,
    /// Sends an event of a lead to a destination.
    Send,
    /// Erases what a workspace keeps no longer.
    Retain,
    /// Looks after a lead that has a moment to call by.
    Late,
    /// Reminds of a task whose moment has come.
    TaskDue,
    /// Sends an invitation by mail.
    InvitationMail,
    /// Sends a way to a new password.
    ResetMail,
    /// Sends what somebody is told.
    NoticeMail,
    /// Sends a mail that somebody wrote from a lead.
    Mail,
}

impl JobKind {
    /// Every kind.
    pub const ALL: [Self; 12] = [
        Self::Silence,
        Self::Unfinished,
        Self::Owner,
        Self::Deal,
        Self::Send,
        Self::Retain,
        Self::Late,
        Self::TaskDue,
        Self::InvitationMail,
        Self::ResetMail,
        Self::NoticeMail,
        Self::Mail,
    ];

    /// Its name in the table and in metrics.
    #[must_use]
    pub fn as_str(self) -> &'static str {
        match self {
            Self::Silence => "silence",
            Self::Unfinished => "unfinished",
            Self::Owner => "owner",
            Self::Deal => "deal",
            Self::Send => "send",
            Self::Retain => "retain",
            Self::Late => "late",
            Self::TaskDue => "task_due",
            Self::InvitationMail => "invitation_mail",
            Self::ResetMail => "reset_mail",
            Self::NoticeMail => "notice_mail",
            Self::Mail => "mail",
        }
    }

    fn parse(text: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|kind| kind.as_str() == text)
    }
}

/// A job that a worker has taken.
#[derive(Debug, Clone)]
pub struct Job {
    /// Its workspace.
    pub workspace: Uuid,
    /// Its id.
    pub id: Uuid,
    /// What it does.
    pub kind: JobKind,
    /// What it is about.
    pub subject: Uuid,
    /// Failed attempts so far.
    pub attempts: u32,
    /// When the first of them was.
    pub failing_since: Option<Timestamp>,
    lease: Uuid,
}

/// A job as a query gives it; the kind is text there.
struct Row {
    workspace_id: Uuid,
    id: Uuid,
    kind: String,
    subject: Uuid,
    attempts: i32,
    failing_since: Option<SqlTimestamp>,
}

/// How an attempt ended.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Ended {
    /// Nothing is left to do.
    Done,
    /// It is not time yet; no failure.
    Later(Timestamp),
    /// It failed: tried again by the timetable, parked after it.
    Failed(String),
    /// It failed, and is tried again at a moment that was asked for; the timetable's end holds all the same.
    FailedUntil(Timestamp, String),
    /// It cannot be done by this server: given back as it was, for another one, a little later.
    GivenBack,
}

/// How many jobs there are of a kind.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct JobCount {
    /// The kind's name.
    pub kind: String,
    /// Waiting or being done.
    pub waiting: i64,
    /// Waiting, and failed before.
    pub failing: i64,
    /// Given up.
    pub parked: i64,
    /// Seconds since the oldest due one was due.
    pub oldest: i64,
}

/// Sets a job, in the caller's transaction. One of the same kind and key that waits or is being done stays as it is.
pub(crate) async fn set(
    db: &mut PgConnection,
    workspace: Uuid,
    kind: JobKind,
    subject: Uuid,
    key: &str,
    due: Timestamp,
    now: Timestamp,
) -> Result<(), StoreError> {
    sqlx::query!(
        "insert into jobs (workspace_id, id, kind, subject, key, due_at, made_at) values ($1, $2, $3, $4, $5, $6, $7)
         on conflict (workspace_id, kind, key) do update
         set state = 'waiting', due_at = excluded.due_at, attempts = 0, failing_since = null,
            last_error = null, ended_at = null
         where jobs.state in ('done', 'parked')",
        workspace,
        Uuid::now_v7(),
        kind.as_str(),
        subject,
        key,
        due.to_sqlx() as _,
        now.to_sqlx() as _
    )
    .execute(db)
    .await?;
    Ok(())
}

/// Makes the waiting job of a key due now, in the caller's transaction.
pub(crate) async fn hurry(
    db: &mut PgConnection,
    workspace: Uuid,
    kind: JobKind,
    key: Uuid,
    now: Timestamp,
) -> Result<(), StoreError> {
    sqlx::query!(
        "update jobs set due_at = least(due_at, $4) where workspace_id = $1 and kind = $2 and key = $3
         and state = 'waiting'",
        workspace,
        kind.as_str(),
        key.to_string(),
        now.to_sqlx() as _
    )
    .execute(db)
    .await?;
    Ok(())
}

/// How long a job waits that a server gave back, so that another one can take it.
const GIVEN_BACK_FOR: SignedDuration = SignedDuration::from_secs(5);

impl Store {
    /// Takes due jobs of some kinds, those first that are due longest, and those whose worker has died. Every
    /// workspace's: a worker serves them all; each job is then done within its own. A kind that only a newer server
    /// knows is left to it.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn take_jobs(&self, kinds: &[JobKind], most: i64) -> Result<Vec<Job>, StoreError> {
        let now = self.now();
        let lease = Uuid::new_v4();
        let kinds: Vec<String> = kinds.iter().map(|kind| kind.as_str().to_owned()).collect();
        let rows = sqlx::query_as!(
            Row,
            "with due as (select workspace_id, id from jobs where state = 'waiting' and due_at <= $3
               and kind = any($5) order by due_at
             limit $4 for update skip locked),
               lost as (select workspace_id, id from jobs where state = 'leased' and leased_until <= $3
                 and kind = any($5)
                 order by leased_until limit $4 for update skip locked)
             update jobs set state = 'leased', lease = $1, leased_until = $2 from (select * from lost union all
               select * from due limit $4) due
             where jobs.workspace_id = due.workspace_id and jobs.id = due.id
             returning jobs.workspace_id, jobs.id, kind, subject, attempts, failing_since
                 as \"failing_since: SqlTimestamp\"",
            lease,
            now.saturating_add(LEASE).map_err(StoreError::kept)?.to_sqlx() as _,
            now.to_sqlx() as _,
            most,
            &kinds
        )
        .fetch_all(&self.pool)
        .await?;
        let job = |row| {
            let Row { workspace_id, id, kind, subject, attempts, failing_since } = row;
            Some(Job {
                workspace: workspace_id,
                id,
                kind: JobKind::parse(&kind)?,
                subject,
                attempts: u32::try_from(attempts).unwrap_or(0),
                failing_since: failing_since.map(SqlTimestamp::to_jiff),
                lease,
            })
        };
        Ok(rows.into_iter().filter_map(job).collect())
    }

    /// Keeps a job for longer; false where the lease was lost and another worker may be at it.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn renew_lease(&self, job: &Job) -> Result<bool, StoreError> {
        let until = self.now().saturating_add(LEASE).map_err(StoreError::kept)?;
        let renewed = sqlx::query!(
            "update jobs set leased_until = $4 where workspace_id = $1 and id = $2 and lease = $3 and state = 'leased'",
            job.workspace,
            job.id,
            job.lease,
            until.to_sqlx() as _
        )
        .execute(&self.pool)
        .await?;
        Ok(renewed.rows_affected() > 0)
    }

    /// Says how an attempt ended. `chance`, from 0 up to 1, spreads the next attempt; false where the lease was lost,
    /// and nothing was written.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn end_job(&self, job: &Job, ended: Ended, chance: f64) -> Result<bool, StoreError> {
        let now = self.now();
        let (state, due, attempts, failing_since, error) = match ended {
            Ended::Done => ("done", now, 0, None, None),
            Ended::Later(due) => ("waiting", due, 0, None, None),
            Ended::GivenBack => {
                let due = now.saturating_add(GIVEN_BACK_FOR).map_err(StoreError::kept)?;
                ("waiting", due, job.attempts, job.failing_since, None)
            }
            Ended::Failed(_) | Ended::FailedUntil(..) => {
                let attempts = job.attempts.saturating_add(1);
                let since = job.failing_since.unwrap_or(now);
                let (asked, error) = match ended {
                    Ended::FailedUntil(asked, error) => (Some(asked), Some(error)),
                    Ended::Failed(error) => (None, Some(error)),
                    _ => (None, None),
                };
                match retry::next(attempts, since, now, chance) {
                    Some(due) => ("waiting", asked.unwrap_or(due), attempts, Some(since), error),
                    None => ("parked", now, attempts, Some(since), error),
                }
            }
        };
        let written = sqlx::query!(
            "update jobs set state = $4, due_at = $5, attempts = $6, failing_since = $7, last_error = coalesce($8,
             last_error), lease = null, leased_until = null,
               ended_at = case when $4 in ('done', 'parked') then $9::timestamptz end
             where workspace_id = $1 and id = $2 and lease = $3 and state = 'leased'",
            job.workspace,
            job.id,
            job.lease,
            state,
            due.to_sqlx() as _,
            i32::try_from(attempts).unwrap_or(i32::MAX),
            failing_since.map(ToSqlx::to_sqlx) as _,
            error.map(|error| error.chars().take(500).collect::<String>()),
            now.to_sqlx() as _
        )
        .execute(&self.pool)
        .await?;
        Ok(written.rows_affected() > 0)
    }

    /// How many jobs there are, by kind; for metrics, over all workspaces.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn job_counts(&self) -> Result<Vec<JobCount>, StoreError> {
        Ok(sqlx::query_as!(
            JobCount,
            "select kind, count(*) filter (where state in ('waiting', 'leased')) as \"waiting!\", count(*) filter
             (where state = 'waiting' and attempts > 0) as \"failing!\",
               count(*) filter (where state = 'parked') as \"parked!\",
               coalesce(extract(epoch from $1 - min(due_at) filter (where state = 'waiting'
                 and due_at <= $1))::bigint, 0) as \"oldest!\"
             from jobs where state <> 'done' group by kind order by kind",
            self.now().to_sqlx() as _
        )
        .fetch_all(&self.pool)
        .await?)
    }

    /// Clears away what has had its time: ended jobs, old entries of streams, sessions that expired.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn tidy(&self) -> Result<(), StoreError> {
        let now = self.now();
        let before = now.saturating_sub(KEPT).map_err(StoreError::kept)?;
        sqlx::query!("delete from jobs where state = 'done' and ended_at < $1", before.to_sqlx() as _)
            .execute(&self.pool)
            .await?;
        self.forget_entries(now).await?;
        begin_retention(&mut *self.pool.acquire().await?, now).await?;
        sqlx::query!("delete from sessions where expires_at < $1", now.to_sqlx() as _).execute(&self.pool).await?;
        let forgotten = now.saturating_sub(FORGOTTEN).map_err(StoreError::kept)?;
        sqlx::query!("delete from sign_in_tries where last_at < $1", forgotten.to_sqlx() as _)
            .execute(&self.pool)
            .await?;
        let sent = now.saturating_sub(SENDINGS_KEPT).map_err(StoreError::kept)?;
        sqlx::query!("delete from sendings where made_at < $1 and state <> 'waiting'", sent.to_sqlx() as _)
            .execute(&self.pool)
            .await?;
        let told = now.saturating_sub(crate::notices::KEPT).map_err(StoreError::kept)?;
        sqlx::query!("delete from notices where at < $1", told.to_sqlx() as _).execute(&self.pool).await?;
        forget_resets(&self.pool, now).await?;
        let audited = now.saturating_sub(AUDIT_KEPT).map_err(StoreError::kept)?;
        sqlx::query!("delete from audit where at < $1", audited.to_sqlx() as _).execute(&self.pool).await?;
        Ok(())
    }
}
