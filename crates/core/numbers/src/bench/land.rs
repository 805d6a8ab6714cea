//! Where past leads land by their totals, and who lands elsewhere than by another card.

use std::collections::BTreeMap;

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

use lumbo_dialogue::score::{Card, Placed, bounds};

use super::{Counted, Landed};
use crate::{Answered, Case, Fit, Share, brier, fit};

/// Leads whose total lies in one stretch of the scale.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Bin {
    /// From this total, included.
    pub from: i64,
    /// To this total, excluded.
    pub below: i64,
    /// How many leads.
    pub leads: u32,
    /// How many of them were won.
    pub won: u32,
}

/// Leads with totals close to each other.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Group {
    /// Lowest total.
    pub low: i64,
    /// Highest total.
    pub high: i64,
    /// How they fared.
    pub leads: Counted,
    /// The won rate that the curve expects; absent where there is no curve.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub expected: Option<f64>,
}

/// How many leads went from one band to another; nothing stands for being ruled out.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Moved {
    /// The band's id by the other card.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub from: Option<String>,
    /// The band's id by this card.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub to: Option<String>,
    /// How many leads.
    pub leads: u32,
}

/// A lead that changes band.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Move {
    /// The lead.
    pub lead: Uuid,
    /// The band's id by the other card; absent where ruled out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub from: Option<String>,
    /// The band's id by this card; absent where ruled out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub to: Option<String>,
    /// Points by the other card.
    pub before: i64,
    /// Points by this card.
    pub after: i64,
}

/// Who changes band.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Moves {
    /// How many, of all leads, open ones too.
    pub leads: u32,
    /// From where to where.
    pub between: Vec<Moved>,
    /// The newest of them, 100 at most.
    pub newest: Vec<Move>,
}

/// Most stretches of the scale.
const BINS: i64 = 24;
/// Groups of the calibration.
const GROUPS: usize = 8;
/// Most leads that are listed.
const LISTED: usize = 100;

/// Stretches of the scale, all as wide, with the leads that land in each.
pub(super) fn bins(card: &Card, landed: &[Landed]) -> Vec<Bin> {
    let (least, most) =
        landed.iter().fold(bounds(&card.file), |ends, lead| (ends.0.min(lead.total), ends.1.max(lead.total)));
    let span = most.saturating_sub(least).saturating_add(1);
    let mut width = 1_i64;
    // Widths that one can read off a scale: 1, 2, 5, 10, 20, 50 and so on.
    while span / width > BINS {
        let head = width / 10_i64.pow(width.ilog10());
        width = if head == 2 { width / 2 * 5 } else { width * 2 };
    }
    let start = least.div_euclid(width);
    let count = usize::try_from(most.div_euclid(width) - start + 1).unwrap_or(1);
    let mut out: Vec<Bin> = (0..count as i64)
        .map(|place| Bin { from: (start + place) * width, below: (start + place + 1) * width, leads: 0, won: 0 })
        .collect();
    for lead in landed {
        if let Some(bin) = usize::try_from(lead.total.div_euclid(width) - start).ok().and_then(|at| out.get_mut(at)) {
            bin.leads += 1;
            bin.won += u32::from(lead.won);
        }
    }
    out
}

/// The curve of being won over the total: its odds double every so many points. A light penalty holds it where totals
/// tell won from lost entirely.
pub(super) fn curve(scored: &[(f64, bool)]) -> Option<Fit> {
    let mut cases: BTreeMap<i64, (f64, f64)> = BTreeMap::new();
    for (total, won) in scored {
        let case = cases.entry(*total as i64).or_default();
        case.0 += f64::from(u8::from(*won));
        case.1 += 1.0;
    }
    let cases: Vec<Case> =
        cases.into_iter().map(|(total, (hits, of))| Case { features: vec![total as f64 / 10.0], hits, of }).collect();
    if cases.len() < 2 {
        return None;
    }
    fit(&cases, 0.1).ok()
}

fn expects(curve: &Fit, total: f64) -> f64 {
    curve.chance(&[total / 10.0])
}

pub(super) fn brier_of(scored: &[(f64, bool)], curve: &Fit) -> Option<f64> {
    let expected: Vec<(f64, bool)> = scored.iter().map(|(total, won)| (expects(curve, *total), *won)).collect();
    brier(&expected)
}

/// Points that double the odds of being won.
pub(super) fn doubles(curve: &Fit) -> Option<f64> {
    curve.weights.first().filter(|weight| **weight > 0.0).map(|weight| std::f64::consts::LN_2 * 10.0 / weight)
}

/// Points that double the odds of being won, of totals and what became of them.
pub(crate) fn doubles_of(scored: &[(f64, bool)]) -> Option<f64> {
    doubles(&curve(scored)?)
}

/// Groups of about as many leads, equal totals in one.
pub(super) fn calibration(scored: &[(f64, bool)], curve: Option<&Fit>) -> Vec<Group> {
    let mut sorted = scored.to_vec();
    sorted.sort_by(|one, other| one.0.total_cmp(&other.0));
    let size = sorted.len().div_ceil(GROUPS).max(1);
    let mut groups: Vec<Vec<(f64, bool)>> = Vec::new();
    for equal in sorted.chunk_by(|one, other| one.0 == other.0) {
        match groups.last_mut() {
            Some(group) if group.len() < size => group.extend_from_slice(equal),
            _ => groups.push(equal.to_vec()),
        }
    }
    groups
        .into_iter()
        .map(|group| {
            let mut share = Share::default();
            group.iter().for_each(|(_, won)| share.add(*won));
            let expected = curve
                .map(|curve| group.iter().map(|(total, _)| expects(curve, *total)).sum::<f64>() / group.len() as f64);
            let (low, high) = (group[0].0 as i64, group[group.len() - 1].0 as i64);
            Group { low, high, leads: share.into(), expected }
        })
        .collect()
}

/// A lead that lands in another band than by another card.
pub(super) struct Elsewhere {
    lead: Uuid,
    before: Placed,
    after: Placed,
}

/// The id of a band; nothing for being ruled out.
fn band_id(card: &Card, band: Option<usize>) -> Option<&str> {
    band.and_then(|band| card.file.bands.get(band)).map(|band| band.id.as_str())
}

impl Elsewhere {
    /// Nothing where a lead lands in the same band by both cards. Bands are the same where their ids are.
    pub(super) fn of(one: &Answered<'_>, against: &Card, card: &Card, after: Placed) -> Option<Self> {
        let before = against.placed(one.facts());
        let stays = band_id(against, before.band) == band_id(card, after.band);
        (!stays).then_some(Self { lead: one.lead.filed.id, before, after })
    }
}

/// Who lands in another band than by another card; they come in the order of their filing.
pub(super) fn moves(moved: Vec<Elsewhere>, card: &Card, against: &Card) -> Moves {
    let mut between: BTreeMap<(Option<&str>, Option<&str>), u32> = BTreeMap::new();
    let owned = |id: Option<&str>| id.map(str::to_owned);
    for one in &moved {
        let ends = (band_id(against, one.before.band), band_id(card, one.after.band));
        *between.entry(ends).or_default() += 1;
    }
    let mut between: Vec<Moved> =
        between.into_iter().map(|((from, to), leads)| Moved { from: owned(from), to: owned(to), leads }).collect();
    between.sort_by_key(|moved| std::cmp::Reverse(moved.leads));
    let leads = u32::try_from(moved.len()).unwrap_or(u32::MAX);
    let newest = moved.into_iter().rev().take(LISTED).map(|Elsewhere { lead, before, after }| Move {
        lead,
        from: owned(band_id(against, before.band)),
        to: owned(band_id(card, after.band)),
        before: before.total,
        after: after.total,
    });
    Moves { leads, between, newest: newest.collect() }
}
