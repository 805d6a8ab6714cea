//! What is computed of drafts, beside the answers: apart from the threads that answer, once for each state of a draft,
//! and given up where a newer state has overtaken it.

use std::collections::HashMap;
use std::sync::atomic::{AtomicI64, Ordering};
use std::sync::{Arc, Mutex};

use axum::http::StatusCode;
use lumbo_analysis::{Analysis, analyse};
use lumbo_store::{Draft, DraftState};
use tokio::sync::OnceCell;
use uuid::Uuid;

use crate::{App, Problem};

/// Most drafts whose analysis is kept in memory.
const KEPT: usize = 100;

type Once = Arc<OnceCell<Arc<Analysis>>>;

/// Analyses by draft: the newest state that was asked for, and what was computed of it.
#[derive(Default)]
pub(crate) struct Analyses(Mutex<HashMap<Uuid, Kept>>);

struct Kept {
    state: DraftState,
    once: Once,
    /// The newest revision that anybody asked for; whoever computes an older one stops.
    newest: Arc<AtomicI64>,
}

impl Analyses {
    /// The cell of a state and the newest revision of its draft; nothing where a newer state was asked for already.
    fn cell(&self, dialogue: Uuid, state: DraftState) -> Option<(Once, Arc<AtomicI64>)> {
        let mut all = self.0.lock().ok()?;
        if all.len() >= KEPT && !all.contains_key(&dialogue) {
            all.clear();
        }
        let fresh = || Kept { state, once: Once::default(), newest: Arc::new(AtomicI64::new(state.revision)) };
        let kept = all.entry(dialogue).or_insert_with(fresh);
        if kept.state > state {
            return None;
        }
        if kept.state < state {
            kept.newest.fetch_max(state.revision, Ordering::Relaxed);
            *kept = Kept { state, once: Once::default(), newest: Arc::clone(&kept.newest) };
        }
        Some((Arc::clone(&kept.once), Arc::clone(&kept.newest)))
    }
}

/// That a newer revision has overtaken what was asked for.
fn overtaken() -> Problem {
    Problem::new(StatusCode::CONFLICT, "overtaken", "This draft has been changed meanwhile. Ask again.")
}

/// What is computed of a draft: from memory, from another server, or now.
pub(crate) async fn of(app: &App, workspace: Uuid, dialogue: Uuid, draft: &Draft) -> Result<Arc<Analysis>, Problem> {
    let state = DraftState { revision: draft.revision, release: draft.newest_release.unwrap_or(0) };
    let (once, newest) = app.analyses.cell(dialogue, state).ok_or_else(overtaken)?;
    let computed = once.get_or_try_init(|| compute(app, workspace, dialogue, draft, state, newest)).await?;
    Ok(Arc::clone(computed))
}

async fn compute(
    app: &App,
    workspace: Uuid,
    dialogue: Uuid,
    draft: &Draft,
    state: DraftState,
    newest: Arc<AtomicI64>,
) -> Result<Arc<Analysis>, Problem> {
    if let Some(kept) = app.store.analysis(workspace, dialogue, state).await? {
        return Ok(Arc::new(kept));
    }
    let released = app.store.newest_release(workspace, dialogue).await?;
    let body = Arc::clone(&draft.body);
    let work = move || {
        let is_overtaken = || newest.load(Ordering::Relaxed) > state.revision;
        analyse(&body, released.as_ref().map(|plan| &plan.file), jiff::Timestamp::now(), &is_overtaken).map(Arc::new)
    };
    let analysis = app.busy.work(work).await?.ok_or_else(overtaken)?;
    app.store.keep_analysis(workspace, dialogue, state, &analysis).await?;
    Ok(analysis)
}

#[cfg(test)]
mod tests {
    use super::*;

    fn state(revision: i64) -> DraftState {
        DraftState { revision, release: 0 }
    }

    #[test]
    fn a_newer_state_overtakes_an_older_one_and_the_same_state_is_computed_once() {
        let (analyses, dialogue) = (Analyses::default(), Uuid::from_u128(1));
        let (first, newest) = analyses.cell(dialogue, state(1)).unwrap();
        let (again, _) = analyses.cell(dialogue, state(1)).unwrap();
        assert!(Arc::ptr_eq(&first, &again));
        let (second, _) = analyses.cell(dialogue, state(2)).unwrap();
        assert!(!Arc::ptr_eq(&first, &second));
        assert_eq!(newest.load(Ordering::Relaxed), 2, "who computes the first can see it");
        assert!(analyses.cell(dialogue, state(1)).is_none());
        // A release changes what the same revision is compared with.
        let released = DraftState { revision: 2, release: 1 };
        assert!(!Arc::ptr_eq(&second, &analyses.cell(dialogue, released).unwrap().0));
        assert!(analyses.cell(Uuid::from_u128(2), state(1)).is_some());
    }
}
