//! What is computed of a draft beside its editing. An edit is answered before any of this is known; it follows,
//! revision by revision, and stops where a newer revision has overtaken it.

use std::collections::BTreeMap;

use jiff::Timestamp;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use lumbo_checks::{Finding, check_plan};
use lumbo_dialogue::Plan;
use lumbo_dialogue::file::{Condition, Dialogue, Gives, When};
use lumbo_dialogue::score::{row_words, table_field};
use lumbo_dialogue::turns::texts::Measure;
use lumbo_dialogue::turns::uses::{Arrival, arrivals};
use lumbo_outline::marks::{ChangeMark, change_marks, measures};
use lumbo_ways::ledger::{LedgerRow, ledger};
use lumbo_ways::reach::{Questions, Span, reach};

/// Version of what is computed and how it is kept; one that was kept by another version is computed again. Raise it
/// with every change of [`Analysis`] and of what a part of it says.
pub const VERSION: i32 = 5;

/// Everything that is computed of one state of a draft.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Analysis {
    /// Findings, worst first.
    pub findings: Vec<Finding>,
    /// Conditions in words, by the id of what carries them; rows of a table of points by the criterion's id and their
    /// place, as `ID#0`.
    pub words: BTreeMap<String, String>,
    /// What changed since the newest release, by row as `turn:ID` and the like.
    pub marks: BTreeMap<String, ChangeMark>,
    /// Lengths of texts, by turn.
    pub measures: BTreeMap<String, Measure>,
    /// Who leads to which section.
    pub arrivals: Vec<Arrival>,
    /// Fewest and most questions on one conversation; absent where none ends.
    pub questions: Option<Questions>,
    /// What can happen: outcomes, bands, queues, points, and what was not followed in full.
    pub reach: Happens,
    /// Where each field is captured and used, a row for each.
    pub ledger: Vec<LedgerRow>,
}

/// What can happen to a conversation from its beginning.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Happens {
    /// Points by the default scorecard at the end.
    pub score: Option<Span>,
    /// Outcomes that can come, by id.
    pub outcomes: Vec<String>,
    /// Turns whose answer changes nothing that is decided, shown, computed or needed, by id.
    pub changes_nothing: Vec<String>,
}

/// Computes everything of a draft, compared with its newest release; nothing where it was overtaken meanwhile.
///
/// ```
/// use lumbo_analysis::analyse;
/// use lumbo_dialogue::file::load;
/// let demo = load(include_str!("../../../../demo/storage-enquiry.json")).unwrap();
/// let now = "2026-11-23T09:00:00Z".parse().unwrap();
/// let analysis = analyse(&demo, Some(&demo), now, &|| false).unwrap();
/// assert!(analysis.marks.is_empty());
/// assert_eq!(analyse(&demo, None, now, &|| true), None);
/// ```
#[must_use]
pub fn analyse(
    draft: &Dialogue,
    released: Option<&Dialogue>,
    now: Timestamp,
    overtaken: &dyn Fn() -> bool,
) -> Option<Analysis> {
    let go_on = || (!overtaken()).then_some(());
    go_on()?;
    let (plan, faults) = Plan::new(draft);
    go_on()?;
    let reach = reach(&plan, now, overtaken)?;
    let findings = check_plan(draft, &plan, faults, Some(&reach));
    go_on()?;
    let marks = released.map(|released| change_marks(released, draft)).unwrap_or_default();
    go_on()?;
    let ledger = ledger(draft, &reach);
    go_on()?;
    Some(Analysis {
        findings,
        words: words(draft),
        marks,
        measures: measures(draft),
        arrivals: arrivals(draft),
        questions: reach.questions,
        reach: Happens {
            score: reach.score,
            outcomes: reach.outcomes.into_iter().map(|row| row.key).collect(),
            changes_nothing: reach.changes_nothing,
        },
        ledger,
    })
}

/// Every condition of a dialogue in words, by the id of what carries it.
fn words(dialogue: &Dialogue) -> BTreeMap<String, String> {
    let mut out = BTreeMap::new();
    let named = dialogue.named_fields();
    let say = |holds: &Condition| lumbo_condition::say(holds, &named, &dialogue.language);
    dialogue.each_turn(&mut |_, _, turn| {
        for arm in turn.arms() {
            if let When::Holds(holds) = &arm.when {
                out.insert(arm.id.clone(), say(holds));
            }
        }
    });
    for card in &dialogue.scorecards {
        for criterion in card.dimensions.iter().flat_map(|dimension| &dimension.criteria) {
            match &criterion.gives {
                Gives::When { holds, .. } => {
                    out.insert(criterion.id.clone(), say(holds));
                }
                Gives::Table { rows, .. } => {
                    let field = table_field(dialogue, criterion);
                    let word = |(place, row)| (format!("{}#{place}", criterion.id), row_words(dialogue, field, row));
                    out.extend(rows.iter().enumerate().map(word));
                }
                Gives::Formula(_) => {}
            }
        }
        out.extend(card.must_haves.iter().map(|must| (must.id.clone(), say(&must.holds))));
        out.extend(card.rule_outs.iter().map(|rule_out| (rule_out.id.clone(), say(&rule_out.holds))));
    }
    out.extend(dialogue.brief.fits.iter().map(|fit| (fit.id.clone(), say(&fit.holds))));
    out.extend(dialogue.routing.rules.iter().map(|rule| (rule.id.clone(), say(&rule.holds))));
    out
}

#[cfg(test)]
mod tests {
    use std::cell::Cell;

    use super::*;

    fn now() -> Timestamp {
        "2026-11-23T09:00:00Z".parse().unwrap()
    }

    fn demo() -> Dialogue {
        lumbo_dialogue::file::load(include_str!("../../../../demo/storage-enquiry.json")).unwrap()
    }

    #[test]
    fn it_is_read_back_as_it_was_kept() {
        let analysis = analyse(&demo(), None, now(), &|| false).unwrap();
        let kept = serde_json::to_string(&analysis).unwrap();
        assert_eq!(serde_json::from_str::<Analysis>(&kept).unwrap(), analysis);
        assert_eq!(analysis.questions, Some(Questions { least: 1, most: Some(10) }));
        assert_eq!(analysis.ledger.len(), demo().fields.len());
    }

    #[test]
    fn it_stops_at_each_part_once_it_was_overtaken() {
        for looks in 0..5 {
            let left = Cell::new(looks);
            let overtaken = || {
                left.set(left.get() - 1);
                left.get() < 0
            };
            assert_eq!(analyse(&demo(), None, now(), &overtaken), None, "after {looks} looks");
        }
    }

    #[test]
    fn a_changed_turn_is_marked_and_a_condition_is_said() {
        let released = demo();
        let mut draft = released.clone();
        draft.sections[1].title = "Goods".into();
        let analysis = analyse(&draft, Some(&released), now(), &|| false).unwrap();
        assert_eq!(analysis.marks.keys().collect::<Vec<_>>(), [&format!("section:{}", draft.sections[1].id)]);
        assert!(analysis.words.values().any(|words| words.contains("at least")), "{:?}", analysis.words);
    }
}
