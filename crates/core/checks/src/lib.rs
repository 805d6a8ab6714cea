//! Checks: findings about a dialogue, each with a stable key, a severity, a place, a sentence, and where possible a
//! mend.
//!
//! One file per group: `structure` (ids, targets, what cannot run), `reach` (what no conversation comes to), `manners`
//! (what loses people). A finding of severity error blocks a release.

mod manners;
mod reach;
mod structure;

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use lumbo_dialogue::file::Dialogue;
use lumbo_dialogue::plan::Fault;
use lumbo_dialogue::plan::Plan;

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
}

impl Finding {
    fn new(key: &str, severity: Severity, at: impl Into<String>, says: impl Into<String>) -> Self {
        Self { key: key.to_owned(), severity, at: at.into(), says: says.into(), mend: None }
    }

    fn mend(mut self, mend: &str) -> Self {
        self.mend = Some(mend.to_owned());
        self
    }
}

/// Runs every check; findings in the order of severity, then of the outline.
#[must_use]
pub fn check(dialogue: &Dialogue) -> Vec<Finding> {
    let (plan, faults) = Plan::new(dialogue);
    check_plan(dialogue, &plan, faults)
}

/// Runs every check on a dialogue that was compiled already.
#[must_use]
pub fn check_plan(dialogue: &Dialogue, plan: &Plan, faults: Vec<Fault>) -> Vec<Finding> {
    let mut findings: Vec<Finding> = faults.into_iter().map(structure::of_fault).collect();
    structure::check(dialogue, &mut findings);
    structure::named_cards(dialogue, plan, &mut findings);
    reach::check(plan, &mut findings);
    manners::check(dialogue, &mut findings);
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
