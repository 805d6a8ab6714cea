//! Tell: says something.

mod compile;
mod run;

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use super::{Lead, OfKind, when_never};
use crate::file::{Arm, Dialogue, Part, When};
use crate::plan::Kind;
use crate::plan::compile::{Compiler, Wrong};
use crate::turns::texts::{media_of, parts_said, parts_texts};
use crate::turns::words::parts_words;
use lumbo_value::{Id, Text};

pub(crate) use run::run;

/// Says something.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Tell {
    /// Its id.
    pub id: Id,
    /// What is said, in order.
    pub say: Vec<Part>,
}

impl OfKind for Tell {
    const NAME: &'static str = "tell";
    const LABEL: &'static str = "Tell";
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
        media_of(&self.say)
    }
    fn words(&self, dialogue: &Dialogue) -> String {
        parts_words(dialogue, &self.say)
    }
    fn texts(&mut self) -> Vec<&mut Text> {
        parts_texts(&mut self.say)
    }
    fn said(&self) -> Vec<&Text> {
        parts_said(&self.say)
    }
    fn compile(&self, compiler: &mut Compiler<'_>, at: &str) -> Result<Kind, Wrong> {
        compile::compile(self, compiler, at)
    }
}
