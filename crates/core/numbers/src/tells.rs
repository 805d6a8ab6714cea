//! How well a score tells won leads from lost ones.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use crate::{Interval, Z95};

/// How often a score puts a won lead above a lost one: the area under the receiver's curve; ties count half.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Tells {
    /// From 0 to 1; one half is a coin.
    pub value: f64,
    /// Its 95% interval (DeLong, DeLong and Clarke-Pearson, 1988).
    pub interval: Interval,
}

/// Ranks from 1, the mean rank where values are equal.
fn middle_ranks(values: &[f64]) -> Vec<f64> {
    let mut order: Vec<usize> = (0..values.len()).collect();
    order.sort_by(|one, other| values[*one].total_cmp(&values[*other]));
    let mut ranks = vec![0.0; values.len()];
    let mut at = 0;
    while at < order.len() {
        let mut end = at;
        while end + 1 < order.len() && values[order[end + 1]].total_cmp(&values[order[at]]).is_eq() {
            end += 1;
        }
        let rank = (at + end) as f64 / 2.0 + 1.0;
        order[at..=end].iter().for_each(|place| ranks[*place] = rank);
        at = end + 1;
    }
    ranks
}

/// How well scores tell; nothing where all leads were won, or all lost.
///
/// ```
/// use lumbo_numbers::tells;
/// let scored = [(0.1, false), (0.4, false), (0.35, true), (0.8, true)];
/// assert_eq!(tells(&scored).unwrap().value, 0.75);
/// assert_eq!(tells(&scored[..2]), None);
/// ```
#[must_use]
pub fn tells(scored: &[(f64, bool)]) -> Option<Tells> {
    told(scored).map(Told::with_interval)
}

/// How well scores tell within groups whose scores are not on one scale: pairs are made within each, and groups count
/// by their pairs. Nothing where no group has both won and lost leads.
#[must_use]
pub fn tells_within(groups: &[Vec<(f64, bool)>]) -> Option<Tells> {
    let each: Vec<Told> = groups.iter().filter_map(|group| told(group)).collect();
    let pairs: f64 = each.iter().map(|one| one.pairs).sum();
    (pairs > 0.0).then(|| {
        let value = each.iter().map(|one| one.value * one.pairs / pairs).sum();
        let spread = each.iter().map(|one| one.spread * (one.pairs / pairs).powi(2)).sum();
        Told { value, spread, pairs }.with_interval()
    })
}

/// A share of pairs, its variance, and how many pairs there are.
struct Told {
    value: f64,
    spread: f64,
    pairs: f64,
}

impl Told {
    fn with_interval(self) -> Tells {
        let half = Z95 * self.spread.sqrt();
        let interval = Interval { low: (self.value - half).max(0.0), high: (self.value + half).min(1.0) };
        Tells { value: self.value, interval }
    }
}

fn told(scored: &[(f64, bool)]) -> Option<Told> {
    let all: Vec<f64> = scored.iter().map(|(score, _)| *score).collect();
    let ranks = middle_ranks(&all);
    let part = |won: bool| -> (Vec<f64>, Vec<f64>) {
        scored.iter().zip(&ranks).filter(|((_, hit), _)| *hit == won).map(|((score, _), rank)| (*score, *rank)).unzip()
    };
    let ((won, won_ranks), (lost, lost_ranks)) = (part(true), part(false));
    if won.is_empty() || lost.is_empty() {
        return None;
    }
    let (wins, losses) = (won.len() as f64, lost.len() as f64);
    // Of each won lead the share of lost ones below it, and of each lost one the share of won ones above it.
    let above: Vec<f64> = won_ranks.iter().zip(middle_ranks(&won)).map(|(all, among)| (all - among) / losses).collect();
    let below: Vec<f64> =
        lost_ranks.iter().zip(middle_ranks(&lost)).map(|(all, among)| 1.0 - (all - among) / wins).collect();
    let value = above.iter().sum::<f64>() / wins;
    let spread = |parts: &[f64]| {
        let count = parts.len() as f64;
        if count < 2.0 {
            return 0.25;
        }
        parts.iter().map(|part| (part - value).powi(2)).sum::<f64>() / (count - 1.0) / count
    };
    Some(Told { value, spread: spread(&above) + spread(&below), pairs: wins * losses })
}

/// Where won and lost leads are furthest apart.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Apart {
    /// The points at which they are: from there up.
    pub from: f64,
    /// The share of won leads that stand there or higher, 0 to 1.
    pub won: f64,
    /// The share of lost leads that do.
    pub lost: f64,
}

impl Apart {
    /// The difference of the two shares: the distance of Kolmogorov and Smirnov (N. W. Smirnov, 1939).
    #[must_use]
    pub fn distance(&self) -> f64 {
        self.won - self.lost
    }
}

/// The points from which up the share of won leads is furthest above that of lost ones; the highest such where several
/// are alike. Nothing where all leads were won, or all lost, or no points tell them apart.
///
/// ```
/// use lumbo_numbers::apart;
/// let scored = [(5.0, false), (10.0, false), (15.0, false), (20.0, false), (20.0, true), (40.0, true)];
/// let found = apart(&scored).unwrap();
/// assert_eq!((found.from, found.won, found.lost), (20.0, 1.0, 0.25));
/// assert_eq!(apart(&scored[..4]), None);
/// ```
#[must_use]
pub fn apart(scored: &[(f64, bool)]) -> Option<Apart> {
    let wins = scored.iter().filter(|(_, won)| *won).count();
    let losses = scored.len() - wins;
    if wins == 0 || losses == 0 {
        return None;
    }
    let mut sorted: Vec<(f64, bool)> = scored.to_vec();
    sorted.sort_by(|one, other| other.0.total_cmp(&one.0));
    let (mut won, mut lost) = (0_usize, 0_usize);
    let mut best: Option<Apart> = None;
    for (place, (points, hit)) in sorted.iter().enumerate() {
        *(if *hit { &mut won } else { &mut lost }) += 1;
        // Leads of the same points stand or fall together.
        if sorted.get(place + 1).is_some_and(|(next, _)| next.total_cmp(points).is_eq()) {
            continue;
        }
        let here = Apart { from: *points, won: won as f64 / wins as f64, lost: lost as f64 / losses as f64 };
        if here.distance() > best.map_or(0.0, |best| best.distance() + 1e-12) {
            best = Some(here);
        }
    }
    best
}

/// Mean squared distance of what was expected, from 0 to 1, from what came (G. W. Brier, 1950); nothing of nothing.
#[must_use]
pub fn brier(expected: &[(f64, bool)]) -> Option<f64> {
    let sum: f64 = expected.iter().map(|(chance, came)| (chance - f64::from(u8::from(*came))).powi(2)).sum();
    (!expected.is_empty()).then(|| sum / expected.len() as f64)
}
