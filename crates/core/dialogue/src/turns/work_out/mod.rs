//! Work out: fills fields from formulas.

mod compile;
mod run;

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use super::{Lead, OfKind};
use crate::file::{Arm, Dialogue, When};
use crate::plan::Kind;
use crate::plan::compile::{Compiler, Wrong};
use lumbo_value::{Id, Text};

pub(crate) use run::run;

/// Fills fields from formulas.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct WorkOut {
    /// Its id.
    pub id: Id,
    /// The formulas, in order; later ones see what earlier ones filled.
    pub fills: Vec<Fill>,
}

/// One formula and where its result is kept.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Fill {
    /// The field's key.
    pub field: String,
    /// The formula.
    pub formula: String,
    /// What the field counts as in its own formula while it is missing: a counter's beginning.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub starts: Option<String>,
}

impl OfKind for WorkOut {
    const NAME: &'static str = "work_out";
    const LABEL: &'static str = "Work out";

    id!();
    no_arms!();
    asks_nothing!();
    fn fills(&self) -> Vec<&str> {
        self.fills.iter().map(|fill| fill.field.as_str()).collect()
    }
    fn formulas(&self) -> Vec<&str> {
        self.fills
            .iter()
            .flat_map(|fill| std::iter::once(&fill.formula).chain(&fill.starts))
            .map(String::as_str)
            .collect()
    }
    leads_nowhere!();
    ends_nothing!();
    shows_nothing!();
    fn words(&self, _dialogue: &Dialogue) -> String {
        let one = |fill: &Fill| {
            let starts = fill.starts.as_ref().map_or_else(String::new, |starts| format!(", starting at {starts}"));
            format!("{} = {}{starts}", fill.field, fill.formula)
        };
        self.fills.iter().map(one).collect::<Vec<_>>().join("; ")
    }
    says_nothing!();
    can_run!();
}
