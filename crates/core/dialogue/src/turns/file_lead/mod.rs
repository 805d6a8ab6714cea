//! File lead: scores, writes the records, routes, queues the sending.

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

/// Scores, writes the records, routes, queues the sending.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct FileLead {
    /// Its id.
    pub id: Id,
    /// The scorecard's id; the dialogue's default when absent.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub scorecard: Option<Id>,
    /// Arms on the band or on being ruled out.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub arms: Vec<Arm>,
}

impl OfKind for FileLead {
    const NAME: &'static str = "file_lead";
    const LABEL: &'static str = "File lead";
    const RUNS: bool = true;

    fn id(&self) -> &Id {
        &self.id
    }
    fn id_mut(&mut self) -> &mut Id {
        &mut self.id
    }
    fn arms(&self) -> &[Arm] {
        &self.arms
    }
    fn arms_mut(&mut self) -> Option<&mut Vec<Arm>> {
        Some(&mut self.arms)
    }
    fn takes(when: &When) -> bool {
        matches!(when, When::Band(_) | When::RuledOut | When::Holds(_) | When::Otherwise)
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
        None
    }
    fn leads_to_mut(&mut self) -> Option<&mut Id> {
        None
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
    fn words(&self, _dialogue: &Dialogue) -> String {
        "File the lead".to_owned()
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
