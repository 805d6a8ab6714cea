//! Queues and their rotation.

use lumbo_core::route::{Share, rotate};
use sqlx::PgConnection;
use uuid::Uuid;

use crate::{Store, StoreError};

/// Who a queue picked, and why.
pub(crate) struct Picked {
    /// The queue; none where the workspace has none of that key.
    pub queue: Option<Uuid>,
    /// The owner; none where nobody takes part.
    pub owner: Option<Uuid>,
    /// The steps, as sentences.
    pub steps: Vec<String>,
}

/// Picks a queue's owner for a new lead. Locks the queue's members, so that two leads filed at once never count one turn
/// of the rotation twice.
pub(crate) async fn pick_owner(db: &mut PgConnection, workspace: Uuid, key: &str) -> Result<Picked, StoreError> {
    let queue = sqlx::query!(
        "select q.id, q.name, q.picks, q.fixed_owner, p.name as \"owner_name?\", p.active as \"owner_active?\" from queues q
         left join people p on p.workspace_id = q.workspace_id and p.id = q.fixed_owner
         where q.workspace_id = $1 and q.key = $2 for update of q",
        workspace,
        key
    )
    .fetch_optional(&mut *db)
    .await?;
    let Some(queue) = queue else {
        return Ok(Picked { queue: None, owner: None, steps: vec![format!("there is no queue {key} in this workspace: nobody owns it")] });
    };
    if queue.picks == "fixed_owner" {
        let there = queue.owner_active == Some(true);
        let step = match queue.owner_name {
            Some(name) if there => format!("{} goes to {name} always", queue.name),
            _ => format!("{} has no owner at the moment: it waits in the queue", queue.name),
        };
        return Ok(Picked { queue: Some(queue.id), owner: queue.fixed_owner.filter(|_| there), steps: vec![step] });
    }
    let members = sqlx::query!(
        "select m.person_id, m.weight, m.rotation, p.name from queue_members m join people p on p.workspace_id = m.workspace_id and p.id = m.person_id
         where m.workspace_id = $1 and m.queue_id = $2 and p.active order by m.position, m.person_id for update of m",
        workspace,
        queue.id
    )
    .fetch_all(&mut *db)
    .await?;
    let mut shares: Vec<Share> = members.iter().map(|member| Share { weight: member.weight, current: member.rotation }).collect();
    let Some(picked) = rotate(&mut shares) else {
        return Ok(Picked { queue: Some(queue.id), owner: None, steps: vec![format!("nobody takes part in {}: it waits in the queue", queue.name)] });
    };
    let people: Vec<Uuid> = members.iter().map(|member| member.person_id).collect();
    let rotations: Vec<i64> = shares.iter().map(|share| share.current).collect();
    sqlx::query!(
        "update queue_members m set rotation = n.rotation from unnest($3::uuid[], $4::bigint[]) as n (person_id, rotation)
         where m.workspace_id = $1 and m.queue_id = $2 and m.person_id = n.person_id",
        workspace,
        queue.id,
        &people,
        &rotations
    )
    .execute(&mut *db)
    .await?;
    // Who had the turn before, for the sentence that the rep reads.
    let before = sqlx::query_scalar!(
        "select p.name from leads l join people p on p.workspace_id = l.workspace_id and p.id = l.owner_id
         where l.workspace_id = $1 and l.queue_id = $2 order by l.filed_at desc, l.id desc limit 1",
        workspace,
        queue.id
    )
    .fetch_optional(&mut *db)
    .await?;
    let name = &members[picked].name;
    let step = match before {
        Some(before) if before != *name => format!("{}: {name} is next in rotation after {before}", queue.name),
        Some(_) => format!("{}: {name} is next in rotation again", queue.name),
        None => format!("{}: {name} is first in rotation", queue.name),
    };
    Ok(Picked { queue: Some(queue.id), owner: Some(members[picked].person_id), steps: vec![step] })
}

impl Store {
    /// Keys and names of a workspace's queues.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    pub async fn queues(&self, workspace: Uuid) -> Result<Vec<(String, String)>, StoreError> {
        let rows = sqlx::query!("select key, name from queues where workspace_id = $1 order by name", workspace).fetch_all(&self.pool).await?;
        Ok(rows.into_iter().map(|row| (row.key, row.name)).collect())
    }
}
