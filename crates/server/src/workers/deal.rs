//! Deals the leads that waited for a queue to open, best first.

use lumbo_store::{Ended, Job, Store, StoreError};

/// Deals the leads of the queue that the job is about.
pub(super) async fn handle(store: &Store, job: &Job) -> Result<Ended, StoreError> {
    store.deal(job.workspace, job.subject).await
}
