//! Where the demo's dialogues show: on Winterlode's own pages, which the stand-ins serve.

use anyhow::{Context as _, Result};
use jiff::ToSpan;
use lumbo_placement::Placement;
use lumbo_store::{Seen, Store};
use serde::Deserialize;
use uuid::Uuid;

const PLACEMENTS: &str = include_str!("../../../../demo/placements.json");
/// The key in the line of script on Winterlode's pages.
const PAGE_KEY: &str = "winterlode";

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Written {
    /// Of which of the two dialogues.
    second: bool,
    address: String,
    note: String,
    /// Page visits of a day on which it appeared, and on which it was opened.
    a_day: (i64, i64),
    placement: Placement,
}

/// Placements of the demo by the pages on which they show.
pub(super) struct Places {
    prices: Option<Uuid>,
    everywhere: Option<Uuid>,
}

impl Places {
    /// The placement in which a conversation on a page was started.
    pub(super) fn of(&self, page: Option<&str>) -> Option<Uuid> {
        if page.is_some_and(|page| page.starts_with("/prices")) { self.prices } else { self.everywhere }
    }
}

/// Makes and releases the demo's placements.
pub(super) async fn place(store: &Store, workspace: Uuid, storage: Uuid, call_back: Uuid) -> Result<Places> {
    store.set_page_key(workspace, PAGE_KEY).await?;
    let edda = store.person_by_email("edda@winterlode.example").await?.context("the demo has an author")?;
    let today = store.now().to_zoned(jiff::tz::TimeZone::UTC).date();
    let (mut ids, mut seen) = (Vec::new(), Vec::new());
    for written in serde_json::from_str::<Vec<Written>>(PLACEMENTS)? {
        let dialogue = if written.second { call_back } else { storage };
        let id = store.add_placement(workspace, dialogue, &written.address, &written.placement).await?;
        store.release_placement(&edda, id, 1, &written.note).await?;
        for ago in 0..14_i64 {
            let (shown, opened) = written.a_day;
            // Fewer at the end of a week.
            let day = today.checked_sub(ago.days())?;
            let quiet = day.weekday().to_monday_zero_offset() >= 5;
            let part = |count: i64| if quiet { count / 3 } else { count + (ago * 7) % 11 };
            seen.push(Seen { workspace, placement: id, day, shown: part(shown), opened: part(opened) });
        }
        ids.push(id);
    }
    store.add_seen(&seen).await?;
    Ok(Places { prices: ids.first().copied(), everywhere: ids.get(1).copied() })
}
