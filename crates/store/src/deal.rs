//! Dealing: leads that waited for their queue to open get their owners, the best first.

use jiff_sqlx::ToSqlx;
use lumbo_deliver::webhook::EventKind;
use lumbo_records::Turn;
use lumbo_route::{Decision, RouteStep, Wanted, choose};
use sqlx::types::Json;
use uuid::Uuid;

use crate::jobs::{self, JobKind};
use crate::leads::{Activity, goes_by_company, log, owners_of_company};
use crate::live::{self, Topic};
use crate::notices::{NoticeKind, tell_owner};
use crate::{Ended, Store, StoreError, queues, sending};

/// Most leads that are dealt in one transaction.
const AT_ONCE: i64 = 200;

impl Store {
    /// Deals what waits in a queue, by band, then by the moment it was filed. One that cannot be given to anybody of
    /// the chain stays in the queue for whoever takes it, or waits for the next queue to open; where the queue itself
    /// is closed still, it is looked at again when it opens. Safe to do again: what was dealt waits no longer.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn deal(&self, workspace: Uuid, queue: Uuid) -> Result<Ended, StoreError> {
        let now = self.now();
        let mut db = self.pool.begin().await?;
        let chain = queues::chain(&mut db, workspace, queue).await?;
        let mut locked = queues::lock(&mut db, workspace, &chain, now).await?;
        locked.sort_by_key(|queue| chain.iter().position(|id| *id == queue.id));
        let waiting = sqlx::query!(
            "select id, company_id, decision as \"decision: Json<Decision>\" from leads
             where workspace_id = $1 and queue_id = $2 and waits_until is not null and owner_id is null and not closed
             order by band_rank desc, filed_at, id limit $3 for update",
            workspace,
            queue,
            AT_ONCE
        )
        .fetch_all(&mut *db)
        .await?;
        let count = waiting.len();
        for lead in waiting {
            let mut decision = lead.decision.0;
            let company = match lead.company_id.filter(|_| goes_by_company(&locked)) {
                Some(company) => owners_of_company(&mut db, workspace, company, Some(lead.id), now).await?,
                None => Vec::new(),
            };
            let wanted = Wanted { now, skills: &decision.skills, company: &company };
            let Some(chosen) = choose(&locked, &wanted) else { break };
            if let (0, Some(opens)) = (chosen.queue, chosen.picked.waits) {
                // The queue itself is closed still: that is so for every lead, and nothing was done yet.
                return Ok(Ended::Later(opens));
            }
            for (place, pick) in &chosen.steps {
                decision.steps.push(RouteStep::Picked { queue: locked[*place].name.clone(), pick: pick.clone() });
            }
            let to = locked[chosen.queue].id;
            let turn = chosen.picked.owner.zip(chosen.picked.carried.as_ref()).map(|(owner, carried)| Turn {
                queue: to,
                moved: locked[chosen.queue].moved(carried),
                last: Some(owner),
            });
            sqlx::query!(
                "update leads set queue_id = $3, owner_id = $4, decision = $5, waits_until = $6, turn = $8,
                 turn_back = false, revision = revision + 1, changed_at = $7 where workspace_id = $1 and id = $2",
                workspace,
                lead.id,
                to,
                chosen.picked.owner,
                Json(&decision) as _,
                chosen.picked.waits.map(ToSqlx::to_sqlx) as _,
                now.to_sqlx() as _,
                turn.as_ref().map(Json) as _
            )
            .execute(&mut *db)
            .await?;
            if let Some(opens) = chosen.picked.waits {
                // Nobody here was free, and the next queue keeps it for its own opening.
                jobs::set(&mut db, workspace, JobKind::Deal, to, &to.to_string(), opens, now).await?;
                continue;
            }
            log(&mut db, workspace, lead.id, None, Activity::Owner, "Dealt by its queue", now).await?;
            if chosen.picked.owner.is_some() {
                tell_owner(&mut db, workspace, lead.id, NoticeKind::Yours, None, now).await?;
                sending::set(&mut db, workspace, EventKind::LeadUpdated, lead.id, now).await?;
            }
            if let Some(turn) = &turn {
                queues::keep_turn(&mut db, workspace, turn).await?;
                locked[chosen.queue].move_by(&turn.moved);
                locked[chosen.queue].last = turn.last;
            }
            if let Some(owner) = chosen.picked.owner {
                // What somebody was just given counts against what they take.
                for member in locked.iter_mut().flat_map(|queue| &mut queue.members) {
                    if member.person == owner {
                        member.load.untried += 1;
                        member.load.today += 1;
                        member.load.open += 1;
                    }
                }
            }
        }
        if count > 0 {
            live::add(&mut db, workspace, Topic::Leads, "lead", now).await?;
        }
        db.commit().await?;
        self.wakes.stream(workspace);
        self.wakes.jobs();
        let more = i64::try_from(count).is_ok_and(|count| count == AT_ONCE);
        Ok(if more { Ended::Later(now) } else { Ended::Done })
    }
}
