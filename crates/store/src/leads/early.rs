//! Leads that are filed early: written at once, so that nothing is lost where the prospect leaves, and given to
//! somebody when the conversation has ended or gone silent. What was held back is filed late by the same way.

use jiff::Timestamp;
use jiff_sqlx::Timestamp as SqlTimestamp;
use lumbo_dialogue::plan::Plan;
use lumbo_dialogue::talk::{Event, State, owner_limit, read_state};
use lumbo_reading::domains::DomainLists;
use lumbo_route::RouteStep;
use sqlx::PgConnection;
use sqlx::types::{Json, JsonRawValue};
use uuid::Uuid;

use super::file::{FilingOf, file};
use crate::conversations::{Spot, events_of};
use crate::{Ended, Store, StoreError};

/// Files the last lead that a conversation came to once more: what was held back, or, `choosing`, only so that the
/// owner of what was filed early is chosen.
pub(crate) async fn file_last(
    db: &mut PgConnection,
    spot: Spot,
    plan: &Plan,
    domains: &DomainLists,
    events: &[Event],
    choosing: bool,
    now: Timestamp,
) -> Result<(), StoreError> {
    let filed = events.iter().rev().find_map(|event| match event {
        Event::Filed { filing, score, decision, unfinished, .. } => Some((*filing, score, decision, *unfinished)),
        _ => None,
    });
    let Some((filing, score, decision, unfinished)) = filed else { return Ok(()) };
    let (state, score) = (&State::of(events), score.as_deref());
    let of = FilingOf { spot, plan, state, domains, filing, score, decision, unfinished, early: false, choosing, now };
    file(db, &of).await
}

/// Writes a lead that was filed early into its queue, without an owner, and has one chosen later.
pub(super) async fn undecided(
    db: &mut PgConnection,
    of: &FilingOf<'_>,
    queue: Option<Uuid>,
    lead: Uuid,
) -> Result<(), StoreError> {
    let mut decision = of.decision.clone();
    decision.steps.push(RouteStep::Early {});
    sqlx::query!(
        "update leads set queue_id = $3, decision = $4, undecided = true where workspace_id = $1 and id = $2",
        of.spot.workspace,
        lead,
        queue,
        Json(&decision) as _
    )
    .execute(db)
    .await?;
    Ok(())
}

impl Store {
    /// Chooses the owner of the lead that a conversation filed early, where nobody has it yet. While the conversation
    /// goes on it is looked at again five minutes after the prospect was last heard. Safe to do again.
    ///
    /// # Errors
    /// [`StoreError`], [`StoreError::Newer`] where a newer version has gone on with it.
    #[crate::compiled_here]
    pub async fn choose_owner(&self, workspace: Uuid, conversation: Uuid) -> Result<Ended, StoreError> {
        let now = self.now();
        let mut db = self.pool.begin().await?;
        let row = sqlx::query!(
            "select c.dialogue_id, c.release_id, c.state as \"state: Json<Box<JsonRawValue>>\",
               c.last_at as \"last_at: SqlTimestamp\", w.domains_revision
             from conversations c join workspaces w on w.id = c.workspace_id
               join lead_snapshots s on s.workspace_id = c.workspace_id and s.conversation_id = c.id
               join leads l on l.workspace_id = s.workspace_id and l.id = s.lead_id
             where c.workspace_id = $1 and c.id = $2 and l.undecided for update of c",
            workspace,
            conversation
        )
        .fetch_optional(&mut *db)
        .await?;
        let Some(row) = row else { return Ok(Ended::Done) };
        let state = read_state(row.state.get())?;
        let limit = owner_limit(state.heard_at.unwrap_or_else(|| row.last_at.to_jiff()));
        if state.closed.is_none() && now < limit {
            return Ok(Ended::Later(limit));
        }
        let plan = self.plan_of(&mut db, workspace, row.release_id).await?;
        let domains = self.domains_at(&mut db, workspace, row.domains_revision).await?;
        let events = events_of(&mut db, workspace, conversation).await?;
        let spot = Spot { workspace, dialogue: row.dialogue_id, release: row.release_id, conversation };
        file_last(&mut db, spot, &plan, &domains, &events, true, now).await?;
        // Whoever took it by hand meanwhile keeps it.
        sqlx::query!(
            "update leads l set undecided = false from lead_snapshots s where l.workspace_id = $1
             and s.workspace_id = $1 and s.conversation_id = $2 and l.id = s.lead_id and l.undecided",
            workspace,
            conversation
        )
        .execute(&mut *db)
        .await?;
        db.commit().await?;
        self.wakes.jobs();
        self.wakes.stream(workspace);
        Ok(Ended::Done)
    }
}
