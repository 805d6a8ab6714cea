//! Queues and their rotation.

use lumbo_route::{Member, Picks, Queue, Share};
use sqlx::PgConnection;
use uuid::Uuid;

use lumbo_records::Turn;

use crate::{Store, StoreError};

/// Reads queues and locks them until the transaction ends, so that two leads filed at once never count one turn of a
/// rotation twice, and that who was picked before is really who was.
pub(crate) async fn lock(db: &mut PgConnection, workspace: Uuid, ids: &[Uuid]) -> Result<Vec<Queue>, StoreError> {
    if ids.is_empty() {
        return Ok(Vec::new());
    }
    let queues = sqlx::query!(
        "select q.id, q.name, q.picks, q.last_picked, o.id as \"owner?\", o.name as \"owner_name?\" from queues q
         left join people o on o.workspace_id = q.workspace_id and o.id = q.fixed_owner and o.active
         where q.workspace_id = $1 and q.id = any($2) order by q.id for update of q",
        workspace,
        ids
    )
    .fetch_all(&mut *db)
    .await?;
    let members = sqlx::query!(
        "select m.queue_id, m.person_id, m.weight, m.rotation, p.name from queue_members m
         join people p on p.workspace_id = m.workspace_id and p.id = m.person_id
         where m.workspace_id = $1 and m.queue_id = any($2) and p.active order by m.queue_id, m.position, m.person_id",
        workspace,
        ids
    )
    .fetch_all(db)
    .await?;
    Ok(queues
        .into_iter()
        .map(|queue| Queue {
            id: queue.id,
            picks: if queue.picks == "fixed_owner" {
                Picks::FixedOwner(queue.owner.zip(queue.owner_name))
            } else {
                Picks::Rotation
            },
            members: members
                .iter()
                .filter(|member| member.queue_id == queue.id)
                .map(|member| Member {
                    person: member.person_id,
                    name: member.name.clone(),
                    share: Share { weight: member.weight, current: member.rotation },
                })
                .collect(),
            name: queue.name,
            last: queue.last_picked,
        })
        .collect())
}

/// Keeps what a turn made of a queue's rotation; the caller holds the queue's lock.
pub(crate) async fn keep_turn(db: &mut PgConnection, workspace: Uuid, turn: &Turn) -> Result<(), StoreError> {
    let (people, carried): (Vec<Uuid>, Vec<i64>) = turn.carried.iter().copied().unzip();
    sqlx::query!(
        "update queue_members m set rotation = n.rotation from unnest($3::uuid[], $4::bigint[]) as n (person_id,
         rotation)
         where m.workspace_id = $1 and m.queue_id = $2 and m.person_id = n.person_id",
        workspace,
        turn.queue,
        &people,
        &carried
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
    /// Keys and names of a workspace's queues.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    pub async fn queues(&self, workspace: Uuid) -> Result<Vec<(String, String)>, StoreError> {
        let rows = sqlx::query!("select key, name from queues where workspace_id = $1 order by name", workspace)
            .fetch_all(&self.pool)
            .await?;
        Ok(rows.into_iter().map(|row| (row.key, row.name)).collect())
    }
}
