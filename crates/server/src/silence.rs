//! Ends conversations that were silent for longer than their dialogue allows, also where no page is open any more.

use std::time::Duration;

use jiff::Timestamp;
use lumbo_store::Store;

/// How often silence is looked at; idle limits count in minutes.
const EVERY: Duration = Duration::from_secs(20);

/// Looks at silence until the task is stopped. A failure is logged and tried again.
pub(crate) async fn watch(store: Store) {
    let mut ticks = tokio::time::interval(EVERY);
    ticks.set_missed_tick_behavior(tokio::time::MissedTickBehavior::Delay);
    loop {
        ticks.tick().await;
        match store.end_silent(Timestamp::now()).await {
            Ok(0) => {}
            Ok(ended) => {
                metrics::counter!("lumbo_conversations_ended_by_silence_total").increment(u64::try_from(ended).unwrap_or(0));
            }
            Err(error) => tracing::error!(%error, "silent conversations could not be ended"),
        }
    }
}
