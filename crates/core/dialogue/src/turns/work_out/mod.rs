//! Work out: fills fields from formulas.

mod compile;
mod run;

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use super::{Lead, OfKind, when_never};
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
}

impl OfKind for WorkOut {
    const NAME: &'static str = "work_out";
    const LABEL: &'static str = "Work out";
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
        self.fills.iter().map(|fill| fill.field.as_str()).collect()
    }
    fn formulas(&self) -> Vec<&str> {
        self.fills.iter().map(|fill| fill.formula.as_str()).collect()
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
        self.fills.iter().map(|fill| format!("{} = {}", fill.field, fill.formula)).collect::<Vec<_>>().join("; ")
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
