//! A scorecard held against past leads: where they land, which bands and criteria go with being won, how well the total
//! tells, and who would change band.
//!
//! Leads count that were closed and that the card does not rule out; junk, those never reached and those still open are
//! left out, and how many they are is said. Unknown is a group of its own: a rate without its opposite misleads.

mod land;
mod rows;

use std::panic::resume_unwind;

use jiff::Timestamp;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use lumbo_condition::Truth;
use lumbo_dialogue::score::Card;

use crate::{Answered, Apart, Difference, End, Interval, Named, Share, Tells, apart, difference, tells};
pub(crate) use land::doubles_of;
pub use land::{Bin, Group, Move, Moved, Moves};
pub(crate) use rows::{Row, rows};

/// What counts as won.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Counts {
    /// Won leads; accepted ones are still open.
    #[default]
    Won,
    /// Leads that sales took as theirs, won ones too: known months earlier.
    Accepted,
}

/// What a scorecard is held against, and how.
#[derive(Clone, Copy)]
pub struct Asked<'a> {
    /// The scorecard.
    pub card: &'a Card,
    /// The one it is compared with.
    pub against: Option<&'a Card>,
    /// What counts as won.
    pub counts: Counts,
    /// Leads that were filed before this moment are left aside.
    pub since: Timestamp,
    /// Now.
    pub now: Timestamp,
    /// How many people call.
    pub people: u32,
}

/// A share with its rate and interval.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Counted {
    /// How many were won.
    pub won: u32,
    /// Of how many.
    pub leads: u32,
    /// The won rate, from 0 to 1; absent where there are none.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub rate: Option<f64>,
    /// Its 95% interval (Wilson).
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub interval: Option<Interval>,
}

impl From<Share> for Counted {
    fn from(share: Share) -> Self {
        Self { won: share.hits, leads: share.of, rate: share.rate(), interval: share.interval() }
    }
}

/// A criterion, a row of its table, a must-have or a rule-out, and how leads fared with and without.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct RowBench {
    /// Its id.
    pub id: String,
    /// Which row of its table, from 0.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub row: Option<u32>,
    /// Leads that met it.
    pub met: Counted,
    /// Leads that did not.
    pub not_met: Counted,
    /// Leads of which it could not be told.
    pub unknown: Counted,
    /// Won rate when met less won rate when not met (Newcombe); absent where either is of nothing.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub difference: Option<Difference>,
}

/// A band and how its leads fared.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct BandBench {
    /// Its id.
    pub id: String,
    /// Its leads.
    pub leads: Counted,
    /// Leads a week.
    pub a_week: f64,
    /// First calls for each person and working day, five days a week; absent where nobody calls.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub calls: Option<f64>,
}

/// Leads that are left out, and why.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct LeftOut {
    /// Closed, and ruled out by the scorecard.
    pub ruled_out: u32,
    /// Junk.
    pub junk: u32,
    /// Never reached.
    pub not_reached: u32,
    /// Not closed yet.
    pub open: u32,
}

impl LeftOut {
    fn and(&mut self, more: Self) {
        self.ruled_out += more.ruled_out;
        self.junk += more.junk;
        self.not_reached += more.not_reached;
        self.open += more.open;
    }
}

/// Two criteria that no lead met at once.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct NeverTogether {
    /// Place of the one among the rows.
    pub first: usize,
    /// Place of the other.
    pub second: usize,
    /// How many leads would have met both, did neither know of the other.
    pub expected: f64,
}

/// A scorecard held against past leads.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Bench {
    /// The leads that count.
    pub counted: Counted,
    /// Those that do not.
    pub left_out: LeftOut,
    /// Weeks from the first lead to now, at most a year.
    pub weeks: f64,
    /// Criteria and rows of tables, then must-haves, then rule-outs, in the order of the card.
    pub rows: Vec<RowBench>,
    /// Bands, lowest first.
    pub bands: Vec<BandBench>,
    /// Where leads land.
    pub bins: Vec<Bin>,
    /// How well the total tells; absent where all were won, or all lost.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub tells: Option<Tells>,
    /// Where won and lost leads are furthest apart; absent where no points tell them apart.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub apart: Option<Apart>,
    /// Leads by their totals, in groups of about equal size, with what a curve through all expects of them.
    pub calibration: Vec<Group>,
    /// Mean squared distance of what that curve expects from what came; 0 is perfect.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub brier: Option<f64>,
    /// The points that double the odds of being won, by that curve; absent where more points do not win more.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub doubles: Option<f64>,
    /// Pairs of criteria that no lead met at once, though five or more were to be expected.
    pub never_together: Vec<NeverTogether>,
    /// Who changes band against the card it is compared with; absent where there is none.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub moves: Option<Moves>,
}

/// A closed lead with its total, its band and the rows that it meets.
pub(crate) struct Landed {
    pub total: i64,
    pub band: usize,
    pub won: bool,
    /// A bit for each of the first 128 rows.
    pub met: u128,
}

/// Most rows that are looked at in pairs.
const PAIRED: usize = 128;
/// Fewest leads that must have been expected to meet two criteria before it is worth saying that none did.
const WORTH_SAYING: f64 = 5.0;
/// A year in weeks.
const YEAR: f64 = 365.0 / 7.0;

/// Whether a lead counts: won or not; nothing where it is left out.
pub(crate) fn closed(end: End, counts: Counts, left: &mut LeftOut) -> Option<bool> {
    match end {
        End::Won => return Some(true),
        End::Accepted if counts == Counts::Accepted => return Some(true),
        End::Lost => return Some(false),
        End::NotReached => left.not_reached += 1,
        End::Junk => left.junk += 1,
        End::Accepted | End::Open => left.open += 1,
    }
    None
}

/// Fewest leads for which it is worth dividing the work among the processors.
const WORTH_DIVIDING: usize = 4_000;
/// Most processors that one bench takes.
const MOST_AT_ONCE: usize = 4;

/// What looking at some of the leads gave; parts are put together in the order of filing.
#[derive(Default)]
struct Part {
    shares: Vec<Shares>,
    left: LeftOut,
    landed: Vec<Landed>,
    moved: Vec<land::Elsewhere>,
}

impl Part {
    fn of(answered: &[Answered<'_>], asked: &Asked<'_>, rows: &[Row<'_>], outs: usize) -> Self {
        let mut part = Self { shares: vec![Shares::default(); rows.len()], ..Self::default() };
        part.landed.reserve(answered.len());
        for one in answered {
            let facts = one.facts();
            let won = closed(one.lead.filed.end, asked.counts, &mut part.left);
            if won.is_none() && asked.against.is_none() {
                continue;
            }
            let placed = asked.card.placed(facts);
            part.moved.extend(asked.against.and_then(|against| land::Elsewhere::of(one, against, asked.card, placed)));
            let Some(won) = won else { continue };
            let mut met = 0_u128;
            // Rule-outs are told of every closed lead, the rest of those that none of them holds for.
            for (place, row) in rows.iter().enumerate() {
                if placed.band.is_none() && place < outs {
                    continue;
                }
                let truth = row.decide(facts);
                part.shares[place].add(truth, won);
                if truth.holds() && place < PAIRED {
                    met |= 1 << place;
                }
            }
            match placed.band {
                Some(band) => part.landed.push(Landed { total: placed.total, band, won, met }),
                None => part.left.ruled_out += 1,
            }
        }
        part
    }

    /// Adds the part that comes after.
    fn and(mut self, next: Self) -> Self {
        self.shares.iter_mut().zip(next.shares).for_each(|(shares, more)| shares.and(more));
        self.left.and(next.left);
        self.landed.extend(next.landed);
        self.moved.extend(next.moved);
        self
    }

    /// Looks at all leads, with several processors where they are many.
    fn all(answered: &[Answered<'_>], asked: &Asked<'_>, rows: &[Row<'_>], outs: usize) -> Self {
        let processors = std::thread::available_parallelism().map_or(1, usize::from).min(MOST_AT_ONCE);
        if answered.len() < WORTH_DIVIDING || processors < 2 {
            return Self::of(answered, asked, rows, outs);
        }
        std::thread::scope(|scope| {
            let parts: Vec<_> = answered
                .chunks(answered.len().div_ceil(processors))
                .map(|chunk| scope.spawn(move || Self::of(chunk, asked, rows, outs)))
                .collect();
            let whole = Self { shares: vec![Shares::default(); rows.len()], ..Self::default() };
            let done = parts.into_iter().map(|part| part.join().unwrap_or_else(|ended| resume_unwind(ended)));
            done.fold(whole, Self::and)
        })
    }
}

/// Holds a scorecard against past leads.
#[must_use]
pub fn bench(leads: &Named<'_>, asked: &Asked<'_>) -> Bench {
    let answered: Vec<Answered<'_>> =
        leads.answered().into_iter().filter(|one| one.lead.filed.at >= asked.since).collect();
    let rows = rows(asked.card);
    let outs = rows.iter().position(|row| matches!(row, Row::Out(..))).unwrap_or(rows.len());
    let Part { shares, left, landed, moved } = Part::all(&answered, asked, &rows, outs);
    let first = answered.first().map_or(asked.now, |one| one.lead.filed.at);
    let weeks = (asked.now.duration_since(first).as_secs_f64() / (7.0 * 86_400.0)).clamp(1.0, YEAR);
    let scored: Vec<(f64, bool)> = landed.iter().map(|lead| (lead.total as f64, lead.won)).collect();
    let curve = land::curve(&scored);
    Bench {
        counted: share_of(&landed, |_| true).into(),
        left_out: left,
        weeks,
        bands: bands(asked, &landed, weeks),
        bins: land::bins(asked.card, &landed),
        tells: tells(&scored),
        apart: apart(&scored),
        calibration: land::calibration(&scored, curve.as_ref()),
        brier: curve.as_ref().and_then(|curve| land::brier_of(&scored, curve)),
        doubles: curve.as_ref().and_then(land::doubles),
        never_together: never_together(&landed, outs.min(PAIRED)),
        moves: asked.against.map(|against| land::moves(moved, asked.card, against)),
        rows: rows.iter().zip(shares).map(|(row, shares)| row_bench(row, shares)).collect(),
    }
}

fn share_of(landed: &[Landed], which: impl Fn(&Landed) -> bool) -> Share {
    let mut share = Share::default();
    landed.iter().filter(|lead| which(lead)).for_each(|lead| share.add(lead.won));
    share
}

/// How leads fared that met a line, that did not, and of which it could not be told.
#[derive(Debug, Clone, Copy, Default)]
struct Shares {
    met: Share,
    not_met: Share,
    unknown: Share,
}

impl Shares {
    fn add(&mut self, truth: Truth, won: bool) {
        match truth {
            Truth::True => self.met.add(won),
            Truth::False => self.not_met.add(won),
            Truth::Unknown => self.unknown.add(won),
        }
    }

    fn and(&mut self, more: Self) {
        self.met.and(more.met);
        self.not_met.and(more.not_met);
        self.unknown.and(more.unknown);
    }
}

fn row_bench(row: &Row<'_>, Shares { met, not_met, unknown }: Shares) -> RowBench {
    let (id, place) = row.name();
    RowBench {
        id: id.to_owned(),
        row: place,
        met: met.into(),
        not_met: not_met.into(),
        unknown: unknown.into(),
        difference: difference(met, not_met),
    }
}

fn bands(asked: &Asked<'_>, landed: &[Landed], weeks: f64) -> Vec<BandBench> {
    let of = |(place, band): (usize, &lumbo_dialogue::file::Band)| {
        let share = share_of(landed, |lead| lead.band == place);
        let a_week = f64::from(share.of) / weeks;
        let calls = (asked.people > 0).then(|| a_week / 5.0 / f64::from(asked.people));
        BandBench { id: band.id.clone(), leads: share.into(), a_week, calls }
    };
    asked.card.file.bands.iter().enumerate().map(of).collect()
}

fn never_together(landed: &[Landed], rows: usize) -> Vec<NeverTogether> {
    let mut met = vec![0_u32; rows];
    let mut both = vec![false; rows * rows];
    for lead in landed {
        let places: Vec<usize> = (0..rows).filter(|place| lead.met >> place & 1 == 1).collect();
        for (at, first) in places.iter().enumerate() {
            met[*first] += 1;
            places[at + 1..].iter().for_each(|second| both[first * rows + second] = true);
        }
    }
    let all = landed.len().max(1) as f64;
    let mut out = Vec::new();
    for first in 0..rows {
        for second in first + 1..rows {
            let expected = f64::from(met[first]) * f64::from(met[second]) / all;
            if !both[first * rows + second] && expected >= WORTH_SAYING {
                out.push(NeverTogether { first, second, expected });
            }
        }
    }
    out.sort_by(|one, other| other.expected.total_cmp(&one.expected));
    out
}
