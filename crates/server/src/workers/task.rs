//! Reminds whoever owes a task when its moment has come.

use lumbo_store::{Ended, Job, Store, StoreError};

/// Looks after the task that the job is about.
pub(super) async fn handle(store: &Store, job: &Job) -> Result<Ended, StoreError> {
    store.remind_of_task(job.workspace, job.subject).await
}
