//! Checks: findings about a dialogue, each with a stable key, a severity, a place, a sentence, and where possible a
//! mend.
//!
//! One file per group: `bounds` (numbers that may be far too large), `structure` (ids, targets, what cannot run),
//! `flow` (what follows what, whatever the conditions), `happens` (what can happen and what cannot, from [`Reach`]),
//! `manners` (what loses people), `ranges` (tables of points). What `happens` finds is data; `words` makes the
//! sentences. A finding of severity error blocks a release.

mod bounds;
mod flow;
mod happens;
mod manners;
mod ranges;
mod structure;
mod words;

use jiff::Timestamp;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use lumbo_dialogue::file::Dialogue;
use lumbo_dialogue::plan::Fault;
use lumbo_dialogue::plan::Plan;
use lumbo_ways::reach::{Reach, Witness, reach};

/// How bad a finding is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Severity {
    /// Blocks a release.
    Error,
    /// Likely wrong.
    Warning,
    /// Could be better.
    Hint,
}

/// One finding.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Finding {
    /// Stable key of the check.
    pub key: String,
    /// How bad it is.
    pub severity: Severity,
    /// Where, as `section/turn` or `section/turn/arm` by id.
    pub at: String,
    /// What is wrong.
    pub says: String,
    /// How to mend it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub mend: Option<String>,
    /// A conversation that shows it, held with the engine.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub way: Option<Witness>,
}

impl Finding {
    /// A finding without a mend.
    #[must_use]
    pub fn new(key: &str, severity: Severity, at: impl Into<String>, says: impl Into<String>) -> Self {
        Self { key: key.to_owned(), severity, at: at.into(), says: says.into(), mend: None, way: None }
    }

    /// The same with how to mend it.
    #[must_use]
    pub fn mend(mut self, mend: &str) -> Self {
        self.mend = Some(mend.to_owned());
        self
    }
}

/// Runs every check that needs no look at what can happen; nothing else can be an error. Findings in the order of
/// severity, then of the outline.
#[must_use]
pub fn check(dialogue: &Dialogue) -> Vec<Finding> {
    let (plan, faults) = Plan::new(dialogue);
    check_plan(dialogue, &plan, faults, None)
}

/// Runs every check, those on what can happen among them.
///
/// ```
/// use lumbo_checks::check_fully;
/// let demo = lumbo_dialogue::file::load(include_str!("../../../../demo/callback.json")).unwrap();
/// let found = check_fully(&demo, "2026-11-23T09:00:00Z".parse().unwrap());
/// assert!(found.iter().all(|finding| finding.key != "unreachable_turn"));
/// ```
#[must_use]
pub fn check_fully(dialogue: &Dialogue, now: Timestamp) -> Vec<Finding> {
    let (plan, faults) = Plan::new(dialogue);
    let reach = reach(&plan, now, &|| false);
    check_plan(dialogue, &plan, faults, reach.as_ref())
}

/// Runs every check on a dialogue that was compiled already, and of which it is known what can happen, or not.
#[must_use]
pub fn check_plan(dialogue: &Dialogue, plan: &Plan, faults: Vec<Fault>, reach: Option<&Reach>) -> Vec<Finding> {
    let mut findings: Vec<Finding> = faults.into_iter().map(structure::of_fault).collect();
    structure::check(dialogue, &mut findings);
    structure::named_cards(dialogue, plan, &mut findings);
    flow::check(plan, &mut findings);
    ranges::check(dialogue, &mut findings);
    manners::check(dialogue, &mut findings);
    bounds::check(dialogue, plan, &mut findings);
    if let Some(reach) = reach {
        happens::check(dialogue, plan, reach, &mut findings);
    }
    findings.retain(|finding| {
        !dialogue.accepted.contains(&format!("{} at {}", finding.key, finding.at))
            || finding.severity == Severity::Error
    });
    findings.sort_by_key(|finding| finding.severity);
    findings
}

/// True where nothing blocks a release.
#[must_use]
pub fn may_release(findings: &[Finding]) -> bool {
    findings.iter().all(|finding| finding.severity != Severity::Error)
}

#[cfg(test)]
mod tests;
