//! Fork: arms on conditions; the first that holds.

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

/// Arms on conditions; the first that holds.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Fork {
    /// Its id.
    pub id: Id,
    /// Its arms, tried in order.
    pub arms: Vec<Arm>,
}

impl OfKind for Fork {
    const NAME: &'static str = "fork";
    const LABEL: &'static str = "Fork";
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
        matches!(when, When::Holds(_) | When::Otherwise)
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
        "the first arm that holds".to_owned()
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
