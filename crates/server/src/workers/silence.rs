//! Ends conversations that were silent for longer than their dialogue allows, also where no page is open any more.

use lumbo_store::{Ended, Job, Store, StoreError};

/// Ends the conversation that the job is about, or looks again when it may be silent for long enough. How it ended
/// stands in the metric of all jobs; an end that came otherwise meanwhile counts as done there too.
pub(super) async fn handle(store: &Store, job: &Job) -> Result<Ended, StoreError> {
    store.end_silent(job.workspace, job.subject).await
}
