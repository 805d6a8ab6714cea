//! Visit: runs another section and comes back.

mod compile;
mod run;

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use super::{Lead, OfKind};
use crate::file::{Arm, Dialogue, When};
use crate::plan::Kind;
use crate::plan::compile::{Compiler, Wrong};
use crate::turns::words::section_name;
use lumbo_value::{Id, Text};

pub(crate) use run::run;

/// Runs another section and comes back.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Visit {
    /// Its id.
    pub id: Id,
    /// The section's id.
    pub section: Id,
}

impl OfKind for Visit {
    const NAME: &'static str = "visit";
    const LABEL: &'static str = "Visit";

    id!();
    no_arms!();
    asks_nothing!();
    works_out_nothing!();
    fn leads_to(&self) -> Option<(&Id, Lead)> {
        Some((&self.section, Lead::Visit))
    }
    fn leads_to_mut(&mut self) -> Option<&mut Id> {
        Some(&mut self.section)
    }
    ends_nothing!();
    shows_nothing!();
    fn words(&self, dialogue: &Dialogue) -> String {
        format!("visit {}", section_name(dialogue, &self.section))
    }
    says_nothing!();
    can_run!();
}
