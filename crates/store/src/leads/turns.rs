//! Turns of rotations that junk gives back: whoever was given what was no lead gets the next one all the same.

use jiff::Timestamp;
use jiff::tz::TimeZone;
use jiff_sqlx::Timestamp as SqlTimestamp;
use lumbo_calendar::{Calendar, Written};
use lumbo_records::{LeadStatus, Turn, gives_turn_back};
use sqlx::PgConnection;
use sqlx::types::Json;
use uuid::Uuid;

use super::list::status;
use crate::{StoreError, queues};

/// Gives the turn back that was taken for a lead where it is junk within two working days of its filing, and takes it
/// again where it is junk no longer. The caller holds the lead's row.
pub(super) async fn settle(
    db: &mut PgConnection,
    workspace: Uuid,
    lead: Uuid,
    now: Timestamp,
) -> Result<(), StoreError> {
    let row = sqlx::query!(
        "select l.status, l.filed_at as \"filed_at: SqlTimestamp\", l.turn as \"turn!: Json<Turn>\", l.turn_back,
           q.hours as \"hours: Json<Written>\"
         from leads l join queues q on q.workspace_id = l.workspace_id and q.id = (l.turn->>'queue')::uuid
         where l.workspace_id = $1 and l.id = $2 for update of q",
        workspace,
        lead
    )
    .fetch_optional(&mut *db)
    .await?;
    let Some(row) = row else { return Ok(()) };
    let junk = status(&row.status)? == LeadStatus::Junk;
    let hours = row.hours.and_then(|hours| Calendar::new(&hours.0).ok());
    let hours = hours.unwrap_or_else(|| Calendar::always(TimeZone::UTC));
    let back = junk && (row.turn_back || gives_turn_back(&hours, row.filed_at.to_jiff(), now));
    if back == row.turn_back {
        return Ok(());
    }
    let turn = row.turn.0;
    let settled = if back { turn.back() } else { Turn { last: None, ..turn } };
    queues::keep_turn(db, workspace, &settled).await?;
    sqlx::query!("update leads set turn_back = $3 where workspace_id = $1 and id = $2", workspace, lead, back)
        .execute(db)
        .await?;
    Ok(())
}
