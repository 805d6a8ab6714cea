//! Queues and their rotation.

use jiff::Timestamp;
use jiff::tz::TimeZone;
use jiff_sqlx::{Timestamp as SqlTimestamp, ToSqlx};
use lumbo_calendar::{Calendar, Written};
use lumbo_route::{Limits, Load, Member, Picks, Queue, Share};
use sqlx::PgConnection;
use sqlx::types::Json;
use uuid::Uuid;

use lumbo_records::Turn;

use crate::leads::held;
use crate::{Store, StoreError};

/// Most queues of a chain.
const CHAIN: i32 = 6;

/// A queue and those of its chain, by their ids, the one that is asked first before.
pub(crate) async fn chain(db: &mut PgConnection, workspace: Uuid, first: Uuid) -> Result<Vec<Uuid>, StoreError> {
    let ids = sqlx::query_scalar!(
        "with recursive chain (id, next_queue, place) as (
           select id, next_queue, 1 from queues where workspace_id = $1 and id = $2
           union all
           select q.id, q.next_queue, c.place + 1 from chain c join queues q
             on q.workspace_id = $1 and q.id = c.next_queue where c.place < $3)
         select id as \"id!\" from chain order by place",
        workspace,
        first,
        CHAIN
    )
    .fetch_all(db)
    .await?;
    let mut seen = Vec::new();
    ids.into_iter().for_each(|id| {
        if !seen.contains(&id) {
            seen.push(id);
        }
    });
    Ok(seen)
}

/// Reads queues and locks them until the transaction ends, so that two leads filed at once never count one turn of a
/// rotation twice, that who was picked before is really who was, and that nobody gets more than they take.
pub(crate) async fn lock(
    db: &mut PgConnection,
    workspace: Uuid,
    ids: &[Uuid],
    now: Timestamp,
) -> Result<Vec<Queue>, StoreError> {
    if ids.is_empty() {
        return Ok(Vec::new());
    }
    let queues = sqlx::query!(
        "select q.id, q.name, q.picks, q.last_picked, q.passes_on,
             q.hours as \"hours: Json<Written>\", o.id as \"owner?\", o.name as \"owner_name?\",
             h.id as \"holder?\", h.name as \"holder_name?\" from queues q
         left join people o on o.workspace_id = q.workspace_id and o.id = q.fixed_owner
         left join people h on h.workspace_id = q.workspace_id
           and h.id = stands_in(q.workspace_id, q.fixed_owner, $3)
         where q.workspace_id = $1 and q.id = any($2) order by q.id for update of q",
        workspace,
        ids,
        now.to_sqlx() as _
    )
    .fetch_all(&mut *db)
    .await?;
    let mut members = sqlx::query!(
        "select m.queue_id, m.person_id, m.weight, m.rotation, m.untried_limit, m.day_limit, p.name, p.paused, p.skills,
           away_until(p.workspace_id, p.id, $3) as \"away_until: SqlTimestamp\"
         from queue_members m
         join people p on p.workspace_id = m.workspace_id and p.id = m.person_id
         where m.workspace_id = $1 and m.queue_id = any($2) and p.active order by m.queue_id, m.position, m.person_id",
        workspace,
        ids,
        now.to_sqlx() as _
    )
    .fetch_all(&mut *db)
    .await?;
    let mut out = Vec::with_capacity(queues.len());
    for queue in queues {
        let picks = match queue.picks.as_str() {
            "fixed_owner" => Picks::FixedOwner(
                queue
                    .owner
                    .zip(queue.owner_name)
                    .zip(queue.holder.zip(queue.holder_name))
                    .map(|((owner, owner_name), (person, name))| held(owner, owner_name, person, name)),
            ),
            "fewest_open" => Picks::FewestOpen,
            "same_company" => Picks::SameCompany,
            _ => Picks::Rotation,
        };
        // A calendar that this version cannot read is taken as always open, so that no lead is lost to it.
        let hours = queue.hours.and_then(|hours| Calendar::new(&hours.0).ok());
        let (own, others) = members.into_iter().partition(|member| member.queue_id == queue.id);
        members = others;
        let mut own: Vec<Member> = own
            .into_iter()
            .map(|member| Member {
                person: member.person_id,
                name: member.name,
                share: Share { weight: member.weight, current: member.rotation },
                load: Load::default(),
                limits: Limits { untried: positive(member.untried_limit), a_day: positive(member.day_limit) },
                skills: member.skills,
                paused: member.paused,
                away_until: member.away_until.map(SqlTimestamp::to_jiff),
            })
            .collect();
        let counts = picks == Picks::FewestOpen
            || own.iter().any(|member| member.limits.untried.is_some() || member.limits.a_day.is_some());
        if counts {
            let zone = hours.as_ref().map_or(TimeZone::UTC, |hours| hours.zone().clone());
            fill_loads(db, workspace, &mut own, &zone, now).await?;
        }
        out.push(Queue {
            id: queue.id,
            name: queue.name,
            picks,
            members: own,
            last: queue.last_picked,
            hours,
            passes_on: queue.passes_on,
        });
    }
    Ok(out)
}

fn positive(limit: Option<i32>) -> Option<u32> {
    limit.and_then(|limit| u32::try_from(limit).ok())
}

/// Counts what members have on their hands. Snoozed leads do not count as untried or open.
async fn fill_loads(
    db: &mut PgConnection,
    workspace: Uuid,
    members: &mut [Member],
    zone: &TimeZone,
    now: Timestamp,
) -> Result<(), StoreError> {
    let people: Vec<Uuid> = members.iter().map(|member| member.person).collect();
    let today = now.to_zoned(zone.clone()).start_of_day().map_or(now, |start| start.timestamp());
    let rows = sqlx::query!(
        "select owner_id as \"owner!\", count(*) filter (where status = 'new') as \"untried!\",
           count(*) filter (where filed_at >= $3) as \"today!\",
           count(*) filter (where not closed and status <> 'later') as \"open!\"
         from leads where workspace_id = $1 and owner_id = any($2) and (not closed or filed_at >= $3) group by
          owner_id",
        workspace,
        &people,
        today.to_sqlx() as _
    )
    .fetch_all(db)
    .await?;
    let count = |count: i64| u32::try_from(count).unwrap_or(u32::MAX);
    for row in rows {
        if let Some(member) = members.iter_mut().find(|member| member.person == row.owner) {
            member.load = Load { untried: count(row.untried), today: count(row.today), open: count(row.open) };
        }
    }
    Ok(())
}

/// Keeps what a turn made of a queue's rotation; the caller holds the queue's lock.
pub(crate) async fn keep_turn(db: &mut PgConnection, workspace: Uuid, turn: &Turn) -> Result<(), StoreError> {
    let (people, moved): (Vec<Uuid>, Vec<i64>) = turn.moved.iter().copied().unzip();
    sqlx::query!(
        "update queue_members m set rotation = m.rotation + n.moved from unnest($3::uuid[], $4::bigint[]) as n
         (person_id, moved)
         where m.workspace_id = $1 and m.queue_id = $2 and m.person_id = n.person_id",
        workspace,
        turn.queue,
        &people,
        &moved
    )
    .execute(&mut *db)
    .await?;
    if let Some(last) = turn.last {
        sqlx::query!(
            "update queues set last_picked = $3 where workspace_id = $1 and id = $2",
            workspace,
            turn.queue,
            last
        )
        .execute(db)
        .await?;
    }
    Ok(())
}

impl Store {
    /// Ids and names of a workspace's queues.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn queue_names(&self, workspace: Uuid) -> Result<Vec<(Uuid, String)>, StoreError> {
        let rows =
            sqlx::query!("select id, name from queues where workspace_id = $1 order by lower(name), id", workspace)
                .fetch_all(&self.pool)
                .await?;
        Ok(rows.into_iter().map(|row| (row.id, row.name)).collect())
    }

    /// Keys and names of a workspace's queues.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn queues(&self, workspace: Uuid) -> Result<Vec<(String, String)>, StoreError> {
        let rows = sqlx::query!("select key, name from queues where workspace_id = $1 order by name", workspace)
            .fetch_all(&self.pool)
            .await?;
        Ok(rows.into_iter().map(|row| (row.key, row.name)).collect())
    }
}
