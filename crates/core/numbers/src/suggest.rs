//! Points that past leads speak for: the weights of a logistic regression over the card's criteria, held small, scaled
//! to whole points, beside today's, with the reasons to doubt them. Nothing is applied here.
//!
//! A criterion whose outcome is unknown counts as not met, as it does in the score. Criteria by formula have no single
//! number of points and are left as they are.

use std::collections::BTreeMap;

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use lumbo_condition::Truth;
use lumbo_dialogue::score::ReadyCriterion;

use crate::bench::{Asked, LeftOut, Row, closed, doubles_of, rows};
use crate::{Case, FitError, Interval, Named, Scale, Tells, Z95, fit, tells, tells_within};

/// Why a suggestion is to be doubted.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Doubt {
    /// Fewer than ten leads met it.
    Few,
    /// Every lead that met it was won, or none was.
    Separates,
    /// It tells the outcome almost alone: is it known only after the outcome?
    Leaks,
    /// It is met by exactly the same leads as another.
    Twin,
}

/// Points for a criterion or a row of its table.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Suggested {
    /// The criterion's id.
    pub id: String,
    /// Which row of its table, from 0.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub row: Option<u32>,
    /// Points today.
    pub today: i64,
    /// Points that past leads speak for.
    pub points: i64,
    /// Their 95% interval, in points.
    pub interval: Interval,
    /// How many leads met it.
    pub met: u32,
    /// Reasons to doubt it.
    pub doubts: Vec<Doubt>,
}

/// Why nothing is suggested.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum NoSuggestion {
    /// Fewer than 30 leads were closed, or fewer than 10 won or lost.
    TooFew,
    /// The card has no criterion with points of its own.
    NoCriteria,
    /// The card has more than 100 of them: too many to be weighed at once.
    TooMany,
}

/// Suggested points.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Suggestion {
    /// How many closed leads speak.
    pub leads: u32,
    /// How many of them were won.
    pub won: u32,
    /// For each ten leads that were won or lost, whichever are fewer, one criterion can be told; this is how many there
    /// are for each criterion.
    pub cases_each: f64,
    /// Points that double the odds of being won.
    pub doubles: f64,
    /// How strongly weights were held small.
    pub penalty: f64,
    /// A line for each criterion and each row of a table.
    pub points: Vec<Suggested>,
    /// How well today's card tells.
    pub today_tells: Option<Tells>,
    /// How well the suggested points tell, each tenth of the leads told by points from the other nine.
    pub suggested_tells: Option<Tells>,
}

/// Fewest closed leads, and fewest won or lost ones.
const FEWEST: (u32, u32) = (30, 10);
/// Most criteria that are weighed at once: the work grows with the cube of their number.
const MOST: usize = 100;
/// A criterion that fewer leads met is doubted.
const FEW: u32 = 10;
/// Parts that are told by the others.
const FOLDS: usize = 10;
/// Penalties that are tried; the one whose weights tell best what they were not made from is taken.
const PENALTIES: [f64; 5] = [0.3, 1.0, 3.0, 10.0, 30.0];
/// Points that double the odds, where today's card does not say.
const DOUBLES: f64 = 15.0;
/// A criterion that puts a won lead above a lost one so often, alone, is likely an outcome in disguise.
const LEAKS: f64 = 0.95;

/// A lead: which criteria it met, and whether it was won.
type Lead = (Vec<bool>, bool);

/// What past leads speak for; `doubles` is the author's points that double the odds, today's where absent.
///
/// # Errors
/// Why nothing is suggested.
pub fn suggest(leads: &Named<'_>, asked: &Asked<'_>, doubles: Option<f64>) -> Result<Suggestion, NoSuggestion> {
    let all = rows(asked.card);
    let criteria: Vec<&Row<'_>> = all
        .iter()
        .filter(|row| match row {
            Row::Criterion(_, ready) => matches!(ready, ReadyCriterion::When(..)),
            Row::InTable(..) => true,
            Row::Must(..) | Row::Out(..) => false,
        })
        .collect();
    if criteria.is_empty() {
        return Err(NoSuggestion::NoCriteria);
    }
    if criteria.len() > MOST {
        return Err(NoSuggestion::TooMany);
    }
    let (seen, totals) = seen(leads, asked, &criteria);
    let won = seen.iter().filter(|(_, won)| *won).count() as u32;
    let lost = seen.len() as u32 - won;
    if (seen.len() as u32) < FEWEST.0 || won.min(lost) < FEWEST.1 {
        return Err(NoSuggestion::TooFew);
    }
    // Whole points can hardly say what fewer than two of them mean.
    let today = || doubles_of(&totals).filter(|doubles| (2.0..=200.0).contains(doubles));
    let scale = Scale::new(0.0, 1.0, doubles.or_else(today).unwrap_or(DOUBLES));
    let told = |penalty: f64| told_apart(&seen, penalty);
    let (penalty, apart) = PENALTIES
        .iter()
        .map(|penalty| (*penalty, told(*penalty)))
        .max_by(|one, other| one.1.1.total_cmp(&other.1.1))
        .unwrap_or((1.0, (Vec::new(), 0.0)));
    let Ok(found) = fit(&cases(seen.iter()), penalty) else { return Err(NoSuggestion::TooFew) };
    let points = criteria
        .iter()
        .enumerate()
        .map(|(place, row)| {
            let (weight, error) = (found.weights[place], found.errors[place + 1]);
            let (id, at) = row.name();
            Suggested {
                id: id.to_owned(),
                row: at,
                today: points_of(row),
                points: (scale.factor * weight).round() as i64,
                interval: Interval {
                    low: scale.factor * (weight - Z95 * error),
                    high: scale.factor * (weight + Z95 * error),
                },
                met: seen.iter().filter(|(met, _)| met[place]).count() as u32,
                doubts: doubts(&seen, place),
            }
        })
        .collect();
    Ok(Suggestion {
        leads: seen.len() as u32,
        won,
        cases_each: f64::from(won.min(lost)) / criteria.len() as f64,
        doubles: scale.factor * std::f64::consts::LN_2,
        penalty,
        points,
        today_tells: tells(&totals),
        suggested_tells: tells_within(&apart.0),
    })
}

/// Closed leads that the card does not rule out, with the criteria that each met; and their totals today.
fn seen(leads: &Named<'_>, asked: &Asked<'_>, criteria: &[&Row<'_>]) -> (Vec<Lead>, Vec<(f64, bool)>) {
    let (mut seen, mut totals) = (Vec::new(), Vec::new());
    for one in leads.answered() {
        let Some(won) = closed(one.lead.filed.end, asked.counts, &mut LeftOut::default()) else { continue };
        let placed = asked.card.placed(one.facts());
        if placed.band.is_none() || one.lead.filed.at < asked.since {
            continue;
        }
        seen.push((criteria.iter().map(|row| row.decide(one.facts()) == Truth::True).collect(), won));
        totals.push((placed.total as f64, won));
    }
    (seen, totals)
}

/// Points of a line today.
fn points_of(row: &Row<'_>) -> i64 {
    match row {
        Row::Criterion(_, ReadyCriterion::When(_, points)) => *points,
        Row::InTable(_, row, ReadyCriterion::Table(_, rows)) => {
            rows.get(*row as usize).map_or(0, |(_, points)| *points)
        }
        Row::Criterion(..) | Row::InTable(..) | Row::Must(..) | Row::Out(..) => 0,
    }
}

fn numbers(met: &[bool]) -> Vec<f64> {
    met.iter().map(|met| f64::from(u8::from(*met))).collect()
}

/// Leads that met the same criteria, counted together.
fn cases<'a>(seen: impl Iterator<Item = &'a Lead>) -> Vec<Case> {
    let mut groups: BTreeMap<&[bool], (f64, f64)> = BTreeMap::new();
    for (met, won) in seen {
        let group = groups.entry(met).or_default();
        group.0 += f64::from(u8::from(*won));
        group.1 += 1.0;
    }
    groups.into_iter().map(|(met, (hits, of))| Case { features: numbers(met), hits, of }).collect()
}

/// Each tenth told by the other nine, and the log likelihood of what came. Won and lost leads are dealt to the tenths
/// in turn, so that each has its share of both.
fn told_apart(seen: &[Lead], penalty: f64) -> (Vec<Vec<(f64, bool)>>, f64) {
    let mut dealt = [0_usize; 2];
    let folds: Vec<usize> = seen
        .iter()
        .map(|(_, won)| {
            let next = &mut dealt[usize::from(*won)];
            *next += 1;
            *next % FOLDS
        })
        .collect();
    let (mut out, mut likelihood) = (Vec::new(), 0.0);
    for fold in 0..FOLDS {
        let others = seen.iter().zip(&folds).filter(|(_, at)| **at != fold).map(|(lead, _)| lead);
        let found = match fit(&cases(others), penalty) {
            Ok(found) => found,
            Err(FitError::OneOutcome | FitError::Separated | FitError::Dependent) => continue,
        };
        let mut told = Vec::new();
        for ((met, won), _) in seen.iter().zip(&folds).filter(|(_, at)| **at == fold) {
            let chance = found.chance(&numbers(met));
            told.push((chance, *won));
            likelihood += if *won { chance } else { 1.0 - chance }.max(1e-12).ln();
        }
        out.push(told);
    }
    (out, likelihood)
}

fn doubts(seen: &[Lead], place: usize) -> Vec<Doubt> {
    let mut out = Vec::new();
    let met: Vec<bool> = seen.iter().filter(|(met, _)| met[place]).map(|(_, won)| *won).collect();
    if (met.len() as u32) < FEW {
        out.push(Doubt::Few);
    } else if met.iter().all(|won| *won) || met.iter().all(|won| !won) {
        out.push(Doubt::Separates);
    }
    let alone: Vec<(f64, bool)> = seen.iter().map(|(met, won)| (f64::from(u8::from(met[place])), *won)).collect();
    if tells(&alone).is_some_and(|tells| tells.value >= LEAKS || tells.value <= 1.0 - LEAKS) {
        out.push(Doubt::Leaks);
    }
    let criteria = seen.first().map_or(0, |(met, _)| met.len());
    let twin = |other: usize| other != place && seen.iter().all(|(met, _)| met[place] == met[other]);
    if !met.is_empty() && (0..criteria).any(twin) {
        out.push(Doubt::Twin);
    }
    out
}
