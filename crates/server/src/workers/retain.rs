//! Erases what a workspace keeps no longer, once a day.

use jiff::SignedDuration;
use lumbo_store::{Ended, Job, Store, StoreError};

/// How long after one round the next begins.
const ROUND: SignedDuration = SignedDuration::from_hours(24);
/// How soon the rest follows where one round did not reach the end.
const REST: SignedDuration = SignedDuration::from_secs(5);

/// Erases a part of what has had its time in the job's workspace, and comes again for the rest, or tomorrow.
pub(super) async fn handle(store: &Store, job: &Job) -> Result<Ended, StoreError> {
    let more = store.erase_old(job.workspace).await?;
    let wait = if more { REST } else { ROUND };
    let next = store.now().checked_add(wait).unwrap_or_else(|_| store.now());
    Ok(Ended::Later(next))
}
