//! Looks after a lead that has a moment to call by: who leads the reps is told once that it is late, and one of the
//! highest band is offered on once.

use lumbo_store::{Ended, Job, Store, StoreError};

/// Looks after the lead that the job is about.
pub(super) async fn handle(store: &Store, job: &Job) -> Result<Ended, StoreError> {
    store.look_after_late(job.workspace, job.subject).await
}
