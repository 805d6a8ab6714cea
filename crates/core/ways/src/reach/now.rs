//! What can still happen from where a conversation stands.

use std::collections::BTreeSet;

use jiff::Timestamp;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use lumbo_dialogue::Plan;
use lumbo_dialogue::plan::Next;
use lumbo_dialogue::talk::State;
use lumbo_value::Missing;

use super::cells::{FIRST, LEFT, Mask, NOT_ASKED, TRIED};
use super::explore::Explorer;
use super::model::Model;
use super::place;
use super::score::endless;

/// What the score of a conversation can still come to.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Still {
    /// Lowest points at the end; absent where there is no end.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub low: Option<i64>,
    /// Highest points at the end.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub high: Option<i64>,
    /// Bands that a filing can still give, by id, in the order of the scorecard; `ruled_out` first where one holds.
    pub bands: Vec<String>,
    /// True where one band is left.
    pub settled: bool,
    /// False where something was too much to follow in full; what is named is then possible for all that is known.
    pub in_full: bool,
}

/// What can still happen from an open conversation; nothing where it has ended, or no scorecard is used.
#[must_use]
pub fn still(plan: &Plan, state: &State, now: Timestamp) -> Option<Still> {
    let asking = state.asking.as_ref().filter(|_| state.closed.is_none())?;
    let (turn, _) = plan.turn(&asking.turn)?;
    let card = plan.default_card?;
    let mut loose: Vec<usize> = Vec::new();
    loop {
        let model = Model::new(plan, now, &loose);
        let mut explorer = Explorer::new(&model, &|| false);
        let mut cells = explorer.at_first();
        for (field, definition) in plan.file.fields.iter().enumerate() {
            if !model.loose[field] {
                cells[field] = cell_of(&model, state, field, &definition.id);
            }
        }
        let visits = state.visits.iter().filter_map(|id| plan.turn(id).map(|(turn, _)| turn)).collect();
        explorer.run(Next::Turn(turn), visits, cells);
        if explorer.found.over && loose.len() < 64 {
            let more = explorer.loosest(loose.len().max(1));
            if !more.is_empty() {
                loose.extend(more);
                continue;
            }
        }
        let found = &explorer.found;
        let named = plan.cards[card].file.bands.iter().map(|band| band.id.clone());
        if found.over {
            // What was not looked at to its end may be anything.
            let bands: Vec<String> = std::iter::once("ruled_out".to_owned()).chain(named).collect();
            return Some(Still { low: None, high: None, bands, settled: false, in_full: false });
        }
        let totals = found.ends.iter().flat_map(|(_, _, _, part)| {
            let cloud = &found.parts[*part].set.clouds[card];
            cloud.sums.iter().map(|sums| model.cards[card].total(sums))
        });
        let totals: Vec<i64> = totals.collect();
        let end = |points: Option<&i64>| points.copied().filter(|points| !endless(*points));
        let filings = || found.filings.iter().filter(|filing| filing.card == Some(card));
        let possible: BTreeSet<&str> = filings().filter_map(|filing| filing.band.as_deref()).collect();
        let ruled_out = filings().any(|filing| filing.out).then(|| "ruled_out".to_owned());
        let bands: Vec<String> =
            ruled_out.into_iter().chain(named.filter(|band| possible.contains(band.as_str()))).collect();
        return Some(Still {
            low: end(totals.iter().min()),
            high: end(totals.iter().max()),
            settled: bands.len() == 1,
            bands,
            in_full: loose.is_empty(),
        });
    }
}

/// The cell that a field is in.
fn cell_of(model: &Model<'_>, state: &State, field: usize, id: &str) -> Mask {
    let cells = &model.cells[field];
    match state.values.get(id) {
        Some(held) => place::of(cells, &held.value).map_or_else(|| cells.known(), |place| 1 << (FIRST + place)),
        None => match state.missing.get(id) {
            Some(Missing::Skipped | Missing::Declined) => LEFT,
            Some(Missing::NotReadable) => TRIED | LEFT,
            Some(Missing::NotAsked) | None => NOT_ASKED,
        },
    }
}
