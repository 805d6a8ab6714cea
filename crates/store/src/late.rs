//! Leads that nobody called in time: the sales leads are told once, and one of the highest band is offered on once to
//! the others of its queue.

use jiff::Timestamp;
use jiff_sqlx::{Timestamp as SqlTimestamp, ToSqlx};
use lumbo_calendar::{Calendar, Written};
use sqlx::PgConnection;
use sqlx::types::Json;
use uuid::Uuid;

use crate::jobs::{self, JobKind};
use crate::leads::{Activity, log};
use crate::notices::{About, NoticeKind, tell};
use crate::{Ended, Store, StoreError};

/// Looks after a lead that has a moment to call by; in the transaction that sets the moment.
pub(crate) async fn watch(
    db: &mut PgConnection,
    workspace: Uuid,
    lead: Uuid,
    call_by: Timestamp,
    now: Timestamp,
) -> Result<(), StoreError> {
    jobs::set(db, workspace, JobKind::Late, lead, &lead.to_string(), call_by, now).await
}

impl Store {
    /// Tells of a lead that is late, and offers it on, as far as it is time for either; says when to look again. Safe
    /// to do again: each is done once.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn look_after_late(&self, workspace: Uuid, lead: Uuid) -> Result<Ended, StoreError> {
        let now = self.now();
        let mut db = self.pool.begin().await?;
        let row = sqlx::query!(
            "select l.owner_id, l.queue_id, l.top, l.filed_at as \"filed_at: SqlTimestamp\",
               l.call_by as \"call_by: SqlTimestamp\", l.late_told_at is not null as \"told!\",
               l.offered_at is not null as \"offered!\", q.offer_after as \"offer_after?\",
               q.hours as \"hours?: Json<Written>\"
             from leads l left join queues q on q.workspace_id = l.workspace_id and q.id = l.queue_id
             where l.workspace_id = $1 and l.id = $2 and not l.closed and l.touched_at is null and l.erased_at is null
             for update of l",
            workspace,
            lead
        )
        .fetch_optional(&mut *db)
        .await?;
        // Somebody called, or it is closed: there is nothing to say any more.
        let Some(row) = row else { return Ok(Ended::Done) };
        let Some(call_by) = row.call_by.map(SqlTimestamp::to_jiff) else { return Ok(Ended::Done) };
        let calendar = row.hours.and_then(|hours| Calendar::new(&hours.0).ok());
        let offer_at = match (row.top && row.queue_id.is_some(), row.offer_after) {
            (true, Some(minutes)) => {
                let after = u64::try_from(minutes).unwrap_or(0);
                let always = || Calendar::always(jiff::tz::TimeZone::UTC);
                calendar.unwrap_or_else(always).after(row.filed_at.to_jiff(), after)
            }
            _ => None,
        };
        let mut next: Option<Timestamp> = None;
        let mut later = |at: Timestamp| next = Some(next.map_or(at, |known| known.min(at)));
        if !row.told {
            if call_by <= now {
                self.tell_late(&mut db, workspace, lead, now).await?;
            } else {
                later(call_by);
            }
        }
        if let Some(at) = offer_at.filter(|_| !row.offered) {
            if at <= now {
                offer(&mut db, workspace, lead, row.queue_id, row.owner_id, now).await?;
            } else {
                later(at);
            }
        }
        db.commit().await?;
        self.wakes.stream(workspace);
        Ok(next.map_or(Ended::Done, Ended::Later))
    }

    async fn tell_late(
        &self,
        db: &mut PgConnection,
        workspace: Uuid,
        lead: Uuid,
        now: Timestamp,
    ) -> Result<(), StoreError> {
        sqlx::query!(
            "update leads set late_told_at = $3 where workspace_id = $1 and id = $2",
            workspace,
            lead,
            now.to_sqlx() as _
        )
        .execute(&mut *db)
        .await?;
        let leads_of_reps = sqlx::query_scalar!(
            "select p.id from people p join leads l on l.workspace_id = p.workspace_id and l.id = $2
             where p.workspace_id = $1 and p.active and p.role = 'rep_lead'
               and (p.team is null or exists (select from sees s where s.workspace_id = $1 and s.person_id = p.id
                 and (s.seen_id = l.owner_id or exists (select from queue_members m where m.workspace_id = $1
                   and m.queue_id = l.queue_id and m.person_id = s.seen_id))))",
            workspace,
            lead
        )
        .fetch_all(&mut *db)
        .await?;
        log(db, workspace, lead, None, Activity::Owner, "Nobody called in time", now).await?;
        tell(db, workspace, &leads_of_reps, NoticeKind::Late, About::Lead(lead), now).await
    }
}

/// Offers a lead to the others of its queue who take leads; whoever takes it first has it.
async fn offer(
    db: &mut PgConnection,
    workspace: Uuid,
    lead: Uuid,
    queue: Option<Uuid>,
    owner: Option<Uuid>,
    now: Timestamp,
) -> Result<(), StoreError> {
    sqlx::query!(
        "update leads set offered_at = $3 where workspace_id = $1 and id = $2",
        workspace,
        lead,
        now.to_sqlx() as _
    )
    .execute(&mut *db)
    .await?;
    let others = sqlx::query_scalar!(
        "select p.id from queue_members m join people p on p.workspace_id = m.workspace_id and p.id = m.person_id
         where m.workspace_id = $1 and m.queue_id = $2 and m.weight > 0 and p.active and not p.paused
           and p.id is distinct from $3 and away_until(p.workspace_id, p.id, $4) is null",
        workspace,
        queue,
        owner,
        now.to_sqlx() as _
    )
    .fetch_all(&mut *db)
    .await?;
    if others.is_empty() {
        return Ok(());
    }
    log(db, workspace, lead, None, Activity::Owner, "Offered to the others of its queue", now).await?;
    tell(db, workspace, &others, NoticeKind::Offered, About::Lead(lead), now).await
}
