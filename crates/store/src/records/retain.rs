//! What has had its time is erased by a job, once a day: conversations of which nothing came, leads that were left
//! unfinished, leads that nobody has touched for long.

use jiff::{SignedDuration, Timestamp};
use jiff_sqlx::ToSqlx;
use lumbo_people::Audited;
use sqlx::PgConnection;
use uuid::Uuid;

use super::erase;
use crate::audit::Entry;
use crate::jobs::{self, JobKind};
use crate::{Person, Store, StoreError};

/// How long a workspace keeps what it was told.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Keeping {
    /// Days that a conversation is kept of which no lead came; 1 to 3,650.
    pub unreached_days: i32,
    /// Days that a lead is kept that was left unfinished and not worked since; 1 to 3,650.
    pub unfinished_days: i32,
    /// Months that a lead is kept after the last that happened with it; 1 to 120.
    pub lead_months: i32,
}

/// A month, as retention counts it: a twelfth of 365.25 days.
const MONTH: SignedDuration = SignedDuration::from_hours(24 * 3_653 / 120);
/// Most rows of a kind that one round erases.
const AT_ONCE: i64 = 100;

/// How long after it is first set the first round begins: after an upgrade there is a week to say how long things are
/// kept.
const FIRST: SignedDuration = SignedDuration::from_hours(24 * 7);

/// Sets the job that erases what has had its time, for every workspace that has none.
pub(crate) async fn begin(db: &mut PgConnection, now: Timestamp) -> Result<(), StoreError> {
    let without = sqlx::query_scalar!(
        "select w.id from workspaces w where not exists (select from jobs j where j.workspace_id = w.id
         and j.kind = $1)",
        JobKind::Retain.as_str()
    )
    .fetch_all(&mut *db)
    .await?;
    let first = now.checked_add(FIRST).unwrap_or(now);
    for workspace in without {
        jobs::set(db, workspace, JobKind::Retain, workspace, "every day", first, now).await?;
    }
    Ok(())
}

impl Store {
    /// How long a workspace keeps what it was told.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn keeping(&self, workspace: Uuid) -> Result<Keeping, StoreError> {
        let row = sqlx::query!(
            "select keep_unreached_days, keep_unfinished_days, keep_lead_months from workspaces where id = $1",
            workspace
        )
        .fetch_one(&self.pool)
        .await?;
        Ok(Keeping {
            unreached_days: row.keep_unreached_days,
            unfinished_days: row.keep_unfinished_days,
            lead_months: row.keep_lead_months,
        })
    }

    /// Says how long a workspace keeps what it is told, from the next round on.
    ///
    /// # Errors
    /// [`StoreError::Database`], also outside the limits of [`Keeping`].
    #[crate::compiled_here]
    pub async fn change_keeping(&self, by: &Person, keeping: Keeping) -> Result<(), StoreError> {
        let mut db = self.pool.begin().await?;
        set_keeping(&mut db, by.workspace_id, keeping).await?;
        self.told(&mut db, by, by.workspace_id, Audited::SettingsChanged, "how long things are kept").await?;
        db.commit().await?;
        Ok(())
    }

    /// Says how long a workspace keeps what it is told, where nobody says so by hand.
    ///
    /// # Errors
    /// As [`Self::change_keeping`].
    #[crate::compiled_here]
    pub async fn begin_keeping(&self, workspace: Uuid, keeping: Keeping) -> Result<(), StoreError> {
        set_keeping(&mut *self.pool.acquire().await?, workspace, keeping).await
    }

    /// Erases some of what a workspace keeps no longer; true where there is more.
    ///
    /// # Errors
    /// [`StoreError::Newer`] where a newer version has gone on with a conversation.
    #[crate::compiled_here]
    pub async fn erase_old(&self, workspace: Uuid) -> Result<bool, StoreError> {
        let now = self.now();
        let keeping = self.keeping(workspace).await?;
        let before = |time: SignedDuration| now.saturating_sub(time).map_err(StoreError::kept);
        let days = |days: i32| SignedDuration::from_hours(24 * i64::from(days));
        let unreached = sqlx::query_scalar!(
            "select c.id from conversations c where c.workspace_id = $1 and c.erased_at is null and c.last_at < $2
             and not exists (select from lead_snapshots s where s.workspace_id = $1 and s.conversation_id = c.id)
             and not exists (select from requests r where r.workspace_id = $1 and r.conversation_id = c.id
               and r.done_at is null)
             order by c.last_at limit $3",
            workspace,
            before(days(keeping.unreached_days))?.to_sqlx() as _,
            AT_ONCE
        )
        .fetch_all(&self.pool)
        .await?;
        let leads = sqlx::query!(
            "select l.id, l.contact_id from leads l where l.workspace_id = $1 and l.erased_at is null
             and l.changed_at < case when l.unfinished and l.touched_at is null then $2::timestamptz
               else $3::timestamptz end
             order by l.changed_at limit $4",
            workspace,
            before(days(keeping.unfinished_days))?.to_sqlx() as _,
            before(MONTH.saturating_mul(keeping.lead_months))?.to_sqlx() as _,
            AT_ONCE
        )
        .fetch_all(&self.pool)
        .await?;
        let more = unreached.len().max(leads.len()) >= usize::try_from(AT_ONCE).unwrap_or(usize::MAX);
        let mut erased = 0_usize;
        for id in &unreached {
            let mut db = self.pool.begin().await?;
            erase::conversations_in(&mut db, workspace, &[*id], now).await?;
            db.commit().await?;
            erased += 1;
        }
        for lead in &leads {
            let mut db = self.pool.begin().await?;
            erase_lead(&mut db, workspace, lead.id, lead.contact_id, now).await?;
            db.commit().await?;
            erased += 1;
        }
        if erased > 0 {
            let about = format!("{} conversations and {} leads that had had their time", unreached.len(), leads.len());
            let entry = Entry { person: None, what: Audited::Erased, about: &about, subject: None, network: None };
            self.audit(workspace, &entry).await?;
            self.wakes.stream(workspace);
        }
        Ok(more)
    }
}

async fn set_keeping(db: &mut PgConnection, workspace: Uuid, keeping: Keeping) -> Result<(), StoreError> {
    sqlx::query!(
        "update workspaces set keep_unreached_days = $2, keep_unfinished_days = $3, keep_lead_months = $4
         where id = $1",
        workspace,
        keeping.unreached_days,
        keeping.unfinished_days,
        keeping.lead_months
    )
    .execute(db)
    .await?;
    Ok(())
}

/// Erases a lead; its contact with it, where no other lead of theirs is kept.
async fn erase_lead(
    db: &mut PgConnection,
    workspace: Uuid,
    lead: Uuid,
    contact: Uuid,
    now: Timestamp,
) -> Result<(), StoreError> {
    let others = sqlx::query_scalar!(
        "select exists (select from leads where workspace_id = $1 and contact_id = $2 and id <> $3
           and erased_at is null) or not exists (select from contacts where workspace_id = $1 and id = $2
           and erased_at is null) as \"others!\"",
        workspace,
        contact,
        lead
    )
    .fetch_one(&mut *db)
    .await?;
    if !others {
        erase::contact_in(db, workspace, contact, now).await?;
        return Ok(());
    }
    let conversations = sqlx::query_scalar!(
        "select s.conversation_id from lead_snapshots s where s.workspace_id = $1 and s.lead_id = $2",
        workspace,
        lead
    )
    .fetch_all(&mut *db)
    .await?;
    erase::conversations_in(db, workspace, &conversations, now).await?;
    sqlx::query!("delete from also_given where workspace_id = $1 and lead_id = $2", workspace, lead)
        .execute(&mut *db)
        .await?;
    erase::leads_in(db, workspace, &[lead], now).await?;
    Ok(())
}
