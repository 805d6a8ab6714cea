//! What silence brings, also where no page is open any more: conversations end, and what was left becomes a lead.

use lumbo_store::{Ended, Job, Store, StoreError};

/// Ends the conversation that the job is about, or looks again when it may be silent for long enough. How it ended
/// stands in the metric of all jobs; an end that came otherwise meanwhile counts as done there too.
pub(super) async fn handle(store: &Store, job: &Job) -> Result<Ended, StoreError> {
    store.end_silent(job.workspace, job.subject).await
}

/// Makes a lead of the conversation that the job is about, where nobody has gone on with it.
pub(super) async fn handle_unfinished(store: &Store, job: &Job) -> Result<Ended, StoreError> {
    store.file_unfinished(job.workspace, job.subject).await
}

/// Chooses the owner of what the conversation that the job is about filed early, where it has ended or gone silent.
pub(super) async fn handle_owner(store: &Store, job: &Job) -> Result<Ended, StoreError> {
    store.choose_owner(job.workspace, job.subject).await
}
