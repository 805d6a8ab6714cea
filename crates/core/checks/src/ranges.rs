//! Tables of points by ranges: rows that overlap or leave a gap.

use rust_decimal::Decimal;

use lumbo_dialogue::file::{Dialogue, Gives, TableRow};

use super::{Finding, Severity};

/// A row's range; an end that is open is absent.
type Range = (Option<Decimal>, Option<Decimal>);

pub(super) fn check(dialogue: &Dialogue, findings: &mut Vec<Finding>) {
    let criteria =
        dialogue.scorecards.iter().flat_map(|card| &card.dimensions).flat_map(|dimension| &dimension.criteria);
    for criterion in criteria {
        let Gives::Table { rows, .. } = &criterion.gives else { continue };
        if let Some((number, value)) = value_twice(rows) {
            let says = format!("row {number} of this table names “{value}”, which a row above it names already");
            findings.push(
                Finding::new("ranges_overlap", Severity::Warning, &criterion.id, says).mend("Keep it in one row."),
            );
        }
        let mut ranges: Vec<Range> = rows.iter().filter_map(range).collect();
        ranges.sort_by_key(|(from, _)| from.unwrap_or(Decimal::MIN));
        for pair in ranges.windows(2) {
            let (below, from) = (pair[0].1, pair[1].0.unwrap_or(Decimal::MIN));
            match below {
                Some(below) if below == from => {}
                Some(below) if below < from => findings.push(
                    Finding::new(
                        "ranges_gap",
                        Severity::Warning,
                        &criterion.id,
                        format!("no row of this table covers {below} up to {from}; such an answer gets no points"),
                    )
                    .mend("Let one row end where the next begins."),
                ),
                open => findings.push(
                    Finding::new(
                        "ranges_overlap",
                        Severity::Warning,
                        &criterion.id,
                        format!(
                            "two rows of this table cover {}; the upper one counts",
                            open.map_or_else(|| format!("{from} and more"), |below| format!("{from} up to {below}"))
                        ),
                    )
                    .mend("Let one row end where the next begins."),
                ),
            }
        }
    }
}

/// The range of a row that has one and can be read.
fn range(row: &TableRow) -> Option<Range> {
    let read = |end: &Option<String>| match end {
        // Money is written as an amount and a code.
        Some(text) => text.split_whitespace().next().and_then(|amount| amount.parse().ok()).map(Some),
        None => Some(None),
    };
    (row.from.is_some() || row.below.is_some()).then_some(())?;
    Some((read(&row.from)?, read(&row.below)?))
}

/// The first value that two rows name, with the number of the later row.
fn value_twice(rows: &[TableRow]) -> Option<(usize, &str)> {
    let mut seen = std::collections::BTreeSet::new();
    rows.iter().enumerate().find_map(|(place, row)| {
        row.values.iter().find(|value| !seen.insert(value.as_str())).map(|value| (place + 1, value.as_str()))
    })
}
