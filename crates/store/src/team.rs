//! The team as its lead sees it: who has how much, how soon leads are tried and reached, what waits, how the weeks
//! went.

use jiff::{SignedDuration, Timestamp};
use jiff_sqlx::{Timestamp as SqlTimestamp, ToSqlx};
use lumbo_people::Audited;
use sqlx::PgConnection;
use uuid::Uuid;

use crate::audit::{self, Entry};
use crate::{Person, Store, StoreError};

/// How far back medians look.
const LOOKS_BACK: SignedDuration = SignedDuration::from_hours(24 * 30);
/// Weeks that are told, this one included.
const WEEKS: i32 = 6;

/// A rep's load and pace.
#[derive(Debug, Clone)]
pub struct TeamRow {
    /// Id.
    pub id: Uuid,
    /// Name.
    pub name: String,
    /// True while they take no new leads.
    pub paused: bool,
    /// Open leads.
    pub open: i64,
    /// Of them, never tried.
    pub untried: i64,
    /// Of them, past the moment to call by.
    pub late: i64,
    /// What is due now.
    pub due: i64,
    /// Calls in the last seven days.
    pub calls: i64,
    /// Median working minutes to the first try, of the last 30 days.
    pub first_try: Option<f64>,
    /// Median working minutes to the first contact, of the last 30 days.
    pub first_contact: Option<f64>,
    /// Leads of the last 30 days that sales took as theirs: accepted or won.
    pub accepted: i64,
    /// Leads filed in the last 30 days.
    pub filed: i64,
}

/// What waits in a queue.
#[derive(Debug, Clone)]
pub struct TeamQueueRow {
    /// Name.
    pub name: String,
    /// Open leads that are nobody's.
    pub waiting: i64,
    /// When the oldest of them was filed.
    pub oldest_at: Option<Timestamp>,
    /// Members who take leads.
    pub takers: i64,
}

/// How a week went.
#[derive(Debug, Clone)]
pub struct WeekRow {
    /// Its Monday, in the workspace's zone, as a date.
    pub monday: String,
    /// Leads filed.
    pub filed: i64,
    /// Of them, tried by the moment to call by.
    pub in_time: i64,
    /// Of them, with a moment to call by.
    pub targeted: i64,
    /// Of them, reached.
    pub reached: i64,
    /// Of them, accepted or won.
    pub accepted: i64,
}

/// The team.
#[derive(Debug, Clone)]
pub struct Team {
    /// Those who work leads, by name.
    pub people: Vec<TeamRow>,
    /// Queues, by name.
    pub queues: Vec<TeamQueueRow>,
    /// Weeks, this one first.
    pub weeks: Vec<WeekRow>,
}

impl Store {
    /// The team of whoever leads it: everybody who works leads, or their team where they lead one.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn team(&self, by: &Person) -> Result<Team, StoreError> {
        let (workspace, all) = (by.workspace_id, by.sees_all());
        let now = self.now();
        let since = now.checked_sub(LOOKS_BACK).unwrap_or(now);
        let people = sqlx::query_as!(
            TeamRow,
            "select p.id, p.name, p.paused,
               count(l.id) filter (where not l.closed) as \"open!\",
               count(l.id) filter (where not l.closed and l.status = 'new') as \"untried!\",
               count(l.id) filter (where not l.closed and l.status = 'new' and l.call_by < $2) as \"late!\",
               count(l.id) filter (where not l.closed and l.next_at <= $2) as \"due!\",
               (select count(*) from activities a where a.workspace_id = p.workspace_id and a.person_id = p.id
                 and a.outcome is not null and a.taken_back_at is null and a.at > $2 - interval '7 days') as \"calls!\",
               percentile_cont(0.5) within group (order by l.first_try_minutes)
                 filter (where l.filed_at > $3) as first_try,
               percentile_cont(0.5) within group (order by l.first_contact_minutes)
                 filter (where l.filed_at > $3) as first_contact,
               count(l.id) filter (where l.filed_at > $3 and l.status in ('accepted', 'won')) as \"accepted!\",
               count(l.id) filter (where l.filed_at > $3) as \"filed!\"
             from people p left join leads l on l.workspace_id = p.workspace_id and l.owner_id = p.id
             where p.workspace_id = $1 and p.active and (p.role in ('rep', 'rep_lead') or exists (
               select from queue_members m where m.workspace_id = p.workspace_id and m.person_id = p.id))
               and ($5 or p.id in (select seen_by($1, $4)))
             group by p.workspace_id, p.id order by lower(p.name), p.id",
            workspace,
            now.to_sqlx() as _,
            since.to_sqlx() as _,
            by.id,
            all
        )
        .fetch_all(&self.pool)
        .await?;
        let queues = sqlx::query!(
            "select q.name, count(l.id) as \"waiting!\", min(l.filed_at) as \"oldest_at: SqlTimestamp\",
               (select count(*) from queue_members m join people p on p.workspace_id = m.workspace_id
                 and p.id = m.person_id where m.workspace_id = q.workspace_id and m.queue_id = q.id and p.active
                 and not p.paused) as \"takers!\"
             from queues q left join leads l on l.workspace_id = q.workspace_id and l.queue_id = q.id
               and l.owner_id is null and not l.closed
             where q.workspace_id = $1 and ($3 or exists (select from queue_members m join sees s
               on s.workspace_id = m.workspace_id and s.seen_id = m.person_id
               where m.workspace_id = $1 and m.queue_id = q.id and s.person_id = $2))
             group by q.workspace_id, q.id order by lower(q.name), q.id",
            workspace,
            by.id,
            all
        )
        .fetch_all(&self.pool)
        .await?;
        let weeks = sqlx::query_as!(
            WeekRow,
            "select to_char(w.monday, 'YYYY-MM-DD') as \"monday!\", count(l.id) as \"filed!\",
               count(l.id) filter (where l.first_try_at <= l.call_by) as \"in_time!\",
               count(l.id) filter (where l.call_by is not null) as \"targeted!\",
               count(l.id) filter (where l.first_contact_at is not null) as \"reached!\",
               count(l.id) filter (where l.status in ('accepted', 'won')) as \"accepted!\"
             from workspaces s
             cross join lateral (select date_trunc('week', $2::timestamptz at time zone s.zone) - n * interval '7 days'
               as monday from generate_series(0, $3::int - 1) n) w
             left join leads l on l.workspace_id = s.id and l.filed_at >= w.monday at time zone s.zone
               and l.filed_at < (w.monday + interval '7 days') at time zone s.zone
               and ($5 or l.owner_id in (select seen_by($1, $4)))
             where s.id = $1 group by w.monday order by w.monday desc",
            workspace,
            now.to_sqlx() as _,
            WEEKS,
            by.id,
            all
        )
        .fetch_all(&self.pool)
        .await?;
        let queues = queues.into_iter().map(|row| TeamQueueRow {
            name: row.name,
            waiting: row.waiting,
            oldest_at: row.oldest_at.map(SqlTimestamp::to_jiff),
            takers: row.takers,
        });
        Ok(Team { people, queues: queues.collect(), weeks })
    }

    /// Says whether somebody takes new leads; their open ones stay theirs.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    #[crate::compiled_here]
    pub async fn set_paused(&self, by: &Person, person: Uuid, paused: bool) -> Result<(), StoreError> {
        let mut db = self.pool.begin().await?;
        led_by(&mut db, by, person).await?;
        let name = sqlx::query_scalar!(
            "update people set paused = $3 where workspace_id = $1 and id = $2 and active returning name",
            by.workspace_id,
            person,
            paused
        )
        .fetch_optional(&mut *db)
        .await?
        .ok_or(StoreError::NotFound("person"))?;
        let about = format!("{name}: {}", if paused { "takes no new leads" } else { "takes new leads" });
        let entry = Entry {
            person: Some(by.id),
            what: Audited::QueueChanged,
            about: &about,
            subject: Some(person),
            network: None,
        };
        audit::write(&mut db, by.workspace_id, &entry, self.now()).await?;
        db.commit().await?;
        Ok(())
    }
}

/// Lets on only whom somebody looks after: everybody, or those of their team.
///
/// # Errors
/// [`StoreError::NotFound`] where they are of another team.
pub(crate) async fn led_by(db: &mut PgConnection, by: &Person, person: Uuid) -> Result<(), StoreError> {
    if by.sees_all() {
        return Ok(());
    }
    sqlx::query_scalar!(
        "select 1 as \"one!\" from sees where workspace_id = $1 and person_id = $2 and seen_id = $3",
        by.workspace_id,
        by.id,
        person
    )
    .fetch_optional(db)
    .await?
    .map(drop)
    .ok_or(StoreError::NotFound("person in your team"))
}
