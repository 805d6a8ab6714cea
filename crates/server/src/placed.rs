//! What pages that carry the line of script ask for most: placements on air, kept for a moment, and what pages saw,
//! added up here and written down now and then. Nothing of a visitor is in it.

use std::collections::{HashMap, HashSet};
use std::sync::{Arc, Mutex, PoisonError};
use std::time::{Duration, Instant};

use jiff::civil::Date;
use lumbo_store::{PlacedNow, Seen, Store, StoreError};
use tokio::sync::watch;
use uuid::Uuid;

/// How long what is on air is not asked for again.
const FRESH: Duration = Duration::from_secs(2);
/// Most workspaces kept.
const MOST: usize = 1_000;
/// Most pages of one workspace that wait to be written down.
const PAGES: usize = 200;
/// How often what pages saw is written down.
const EVERY: Duration = Duration::from_secs(2);

#[derive(Default)]
struct Counted {
    days: HashMap<(Uuid, Uuid, Date), (i64, i64)>,
    pages: HashMap<Uuid, HashSet<String>>,
}

/// Placements on air, and counts that wait.
#[derive(Default)]
pub(crate) struct Placed {
    known: Mutex<HashMap<String, (Instant, Arc<PlacedNow>)>>,
    counted: Mutex<Counted>,
}

/// What pages saw of a placement.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Sight {
    Shown,
    Opened,
}

impl Placed {
    /// What is on air under a key.
    pub(crate) async fn now(&self, store: &Store, key: &str) -> Result<Arc<PlacedNow>, StoreError> {
        if let Some((at, known)) = self.known.lock().unwrap_or_else(PoisonError::into_inner).get(key)
            && at.elapsed() < FRESH
        {
            return Ok(Arc::clone(known));
        }
        let found = Arc::new(store.placed_now(key).await?);
        let mut known = self.known.lock().unwrap_or_else(PoisonError::into_inner);
        if known.len() >= MOST {
            known.retain(|_, (at, _)| at.elapsed() < FRESH);
        }
        if known.len() < MOST {
            known.insert(key.to_owned(), (Instant::now(), Arc::clone(&found)));
        }
        Ok(found)
    }

    /// Counts what a page saw.
    pub(crate) fn count(&self, workspace: Uuid, placement: Uuid, day: Date, sight: Sight) {
        let mut counted = self.counted.lock().unwrap_or_else(PoisonError::into_inner);
        let (shown, opened) = counted.days.entry((workspace, placement, day)).or_default();
        match sight {
            Sight::Shown => *shown += 1,
            Sight::Opened => *opened += 1,
        }
    }

    /// Notes a page on which the line was seen.
    pub(crate) fn note(&self, workspace: Uuid, page: String) {
        let mut counted = self.counted.lock().unwrap_or_else(PoisonError::into_inner);
        let pages = counted.pages.entry(workspace).or_default();
        if pages.len() < PAGES {
            pages.insert(page);
        }
    }

    /// Writes down what waits. What could not be written is lost: counts are figures, not records.
    pub(crate) async fn write_down(&self, store: &Store) -> Result<(), StoreError> {
        let counted = std::mem::take(&mut *self.counted.lock().unwrap_or_else(PoisonError::into_inner));
        let seen: Vec<Seen> = counted
            .days
            .into_iter()
            .map(|((workspace, placement, day), (shown, opened))| Seen { workspace, placement, day, shown, opened })
            .collect();
        if !seen.is_empty() {
            store.add_seen(&seen).await?;
        }
        for (workspace, pages) in counted.pages {
            store.add_sightings(workspace, &pages.into_iter().collect::<Vec<_>>()).await?;
        }
        Ok(())
    }

    /// Writes down what waits now and then, and once more at the end.
    pub(crate) async fn keep_written(&self, store: &Store, mut stop: watch::Receiver<bool>) {
        loop {
            let stopped = *stop.borrow();
            if let Err(error) = self.write_down(store).await {
                tracing::warn!(%error, "what pages saw could not be written down");
            }
            if stopped {
                return;
            }
            tokio::select! {
                () = tokio::time::sleep(EVERY) => {}
                _ = stop.changed() => {}
            }
        }
    }
}
