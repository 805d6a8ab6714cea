//! Visit: runs another section and comes back.

mod compile;
mod run;

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use super::{Lead, OfKind, when_never};
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
    const RUNS: bool = true;

    fn id(&self) -> &Id {
        &self.id
    }
    fn id_mut(&mut self) -> &mut Id {
        &mut self.id
    }
    fn arms(&self) -> &[Arm] {
        &[]
    }
    fn arms_mut(&mut self) -> Option<&mut Vec<Arm>> {
        None
    }
    fn takes(when: &When) -> bool {
        when_never(when)
    }
    fn asks_for(&self) -> Vec<&str> {
        Vec::new()
    }
    fn fills(&self) -> Vec<&str> {
        Vec::new()
    }
    fn formulas(&self) -> Vec<&str> {
        Vec::new()
    }
    fn leads_to(&self) -> Option<(&Id, Lead)> {
        Some((&self.section, Lead::Visit))
    }
    fn leads_to_mut(&mut self) -> Option<&mut Id> {
        Some(&mut self.section)
    }
    fn ends_as(&self) -> Option<&Id> {
        None
    }
    fn ends_as_mut(&mut self) -> Option<&mut Id> {
        None
    }
    fn media(&self) -> Vec<&str> {
        Vec::new()
    }
    fn words(&self, dialogue: &Dialogue) -> String {
        format!("visit {}", section_name(dialogue, &self.section))
    }
    fn texts(&mut self) -> Vec<&mut Text> {
        Vec::new()
    }
    fn said(&self) -> Vec<&Text> {
        Vec::new()
    }
    fn compile(&self, compiler: &mut Compiler<'_>, at: &str) -> Result<Kind, Wrong> {
        compile::compile(self, compiler, at)
    }
}
