//! Ends conversations that were silent for longer than their dialogue allows, also where no page is open any more.

use lumbo_store::{Ended, Job, Store, StoreError};

/// Ends the conversation that the job is about, or looks again when it may be silent for long enough.
pub(super) async fn handle(store: &Store, job: &Job) -> Result<Ended, StoreError> {
    let ended = store.end_silent(job.workspace, job.subject).await?;
    if ended == Ended::Done {
        metrics::counter!("lumbo_conversations_ended_by_silence_total").increment(1);
    }
    Ok(ended)
}
