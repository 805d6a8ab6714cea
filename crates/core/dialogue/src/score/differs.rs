//! Why one score of a lead differs from another: by line, so that the lines add up to the difference of the totals.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use super::{Points, ScoreResult};

/// A line that gave other points, or what a floor or ceiling made of them.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Differs {
    /// Words of the criterion; of the dimension where its floor or ceiling counts otherwise.
    pub label: String,
    /// True where it is about a dimension's floor or ceiling.
    pub ends: bool,
    /// Points then; absent where the line did not stand in that card.
    pub then: Option<Points>,
    /// Points now; absent where the line does not stand in this card any more.
    pub now: Option<Points>,
}

/// Points of each line of a score: its id, its words, whether it is a dimension's end, and its points.
fn lines(score: &ScoreResult) -> Vec<(String, String, bool, Points)> {
    let mut out = Vec::new();
    for dimension in &score.dimensions {
        let criteria = dimension.criteria.iter();
        out.extend(criteria.map(|one| (one.id.clone(), one.label.clone(), false, one.points)));
        out.push((dimension.id.clone(), dimension.title.clone(), true, dimension.counts - dimension.sum));
    }
    out
}

/// Lines with other points then than now.
#[must_use]
pub fn differs(then: &ScoreResult, now: &ScoreResult) -> Vec<Differs> {
    let (before, after) = (lines(then), lines(now));
    let points = |of: &[(String, String, bool, Points)], id: &str, ends: bool| {
        of.iter().find(|line| line.0 == id && line.2 == ends).map(|line| line.3)
    };
    let mut out: Vec<Differs> = after
        .iter()
        .map(|(id, label, ends, now)| Differs {
            label: label.clone(),
            ends: *ends,
            then: points(&before, id, *ends),
            now: Some(*now),
        })
        .collect();
    let gone = before.iter().filter(|(id, _, ends, _)| points(&after, id, *ends).is_none());
    out.extend(gone.map(|(_, label, ends, then)| Differs {
        label: label.clone(),
        ends: *ends,
        then: Some(*then),
        now: None,
    }));
    out.retain(|line| line.then.unwrap_or(0) != line.now.unwrap_or(0));
    out
}
