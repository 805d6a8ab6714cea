//! Bring in a rep: passes the live conversation to a person.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use super::{Lead, OfKind};
use crate::file::{Arm, Dialogue, When, Wording};
use crate::plan::Kind;
use crate::plan::compile::{Compiler, Wrong, cannot_run_yet};
use crate::turns::texts::wording_texts;
use crate::turns::words::text_words;
use lumbo_value::{Id, Text};

/// Passes the live conversation to a person.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct BringInRep {
    /// Its id.
    pub id: Id,
    /// The line while we look for one.
    pub say: Wording,
    /// Seconds to wait; 5 to 600.
    pub wait_seconds: u16,
    /// Arms on joined, no answer.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub arms: Vec<Arm>,
}

impl OfKind for BringInRep {
    const NAME: &'static str = "bring_in_rep";
    const LABEL: &'static str = "Bring in a rep";
    const RUNS: bool = false;

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
        matches!(when, When::Joined | When::NoAnswer)
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
    fn words(&self, dialogue: &Dialogue) -> String {
        text_words(dialogue, &self.say.text)
    }
    fn texts(&mut self) -> Vec<&mut Text> {
        wording_texts(&mut self.say).collect()
    }
    fn said(&self) -> Vec<&Text> {
        std::iter::once(&self.say.text).chain(&self.say.or).collect()
    }
    fn compile(&self, _compiler: &mut Compiler<'_>, _at: &str) -> Result<Kind, Wrong> {
        Err(cannot_run_yet(Self::LABEL))
    }
}
