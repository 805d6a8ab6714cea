//! What of a scorecard has a line of its own: criteria, each row of a table, must-haves, rule-outs.

use lumbo_condition::{Facts, Ready, Truth};
use lumbo_dialogue::score::{Card, ReadyCriterion};

/// A line of a scorecard.
pub(crate) enum Row<'a> {
    /// A criterion with points for a condition or by a formula.
    Criterion(&'a str, &'a ReadyCriterion),
    /// A row of a criterion's table.
    InTable(&'a str, u32, &'a ReadyCriterion),
    /// A must-have.
    Must(&'a str, &'a Ready),
    /// A rule-out.
    Out(&'a str, &'a Ready),
}

/// The lines of a scorecard: criteria by dimension, then must-haves, then rule-outs.
pub(crate) fn rows(card: &Card) -> Vec<Row<'_>> {
    let mut out = Vec::new();
    for (dimension, ready) in card.file.dimensions.iter().zip(card.criteria()) {
        for (criterion, ready) in dimension.criteria.iter().zip(ready) {
            match ready {
                ReadyCriterion::Table(_, rows) => {
                    out.extend((0..rows.len()).map(|row| Row::InTable(&criterion.id, row as u32, ready)));
                }
                ReadyCriterion::When(..) | ReadyCriterion::Formula(_) | ReadyCriterion::Broken => {
                    out.push(Row::Criterion(&criterion.id, ready));
                }
            }
        }
    }
    out.extend(card.file.must_haves.iter().zip(card.must_haves()).map(|(must, ready)| Row::Must(&must.id, ready)));
    out.extend(card.file.rule_outs.iter().zip(card.rule_outs()).map(|(rule, ready)| Row::Out(&rule.id, ready)));
    out
}

impl Row<'_> {
    /// Its id, and which row of its table it is.
    pub(crate) fn name(&self) -> (&str, Option<u32>) {
        match self {
            Row::InTable(id, row, _) => (id, Some(*row)),
            Row::Criterion(id, _) | Row::Must(id, _) | Row::Out(id, _) => (id, None),
        }
    }

    /// Whether a lead meets it.
    pub(crate) fn decide(&self, facts: Facts<'_>) -> Truth {
        let met = |met: bool| if met { Truth::True } else { Truth::False };
        match self {
            Row::Must(_, ready) | Row::Out(_, ready) => ready.decide(facts),
            Row::Criterion(_, ReadyCriterion::When(ready, _)) => ready.decide(facts),
            Row::Criterion(_, criterion) => match criterion.points(facts) {
                (_, true) => Truth::Unknown,
                (points, false) => met(points != 0),
            },
            Row::InTable(_, row, criterion) => match criterion.row(facts) {
                None => Truth::Unknown,
                Some(found) => met(found == Some(*row as usize)),
            },
        }
    }
}
