//! Take questions: answers the prospect's questions from the facts until they are done.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use super::{Lead, OfKind, when_never};
use crate::file::{Arm, Dialogue, When, Wording};
use crate::plan::Kind;
use crate::plan::compile::{Compiler, Wrong, cannot_run_yet};
use crate::turns::texts::wording_texts;
use crate::turns::words::text_words;
use lumbo_value::{Id, Text};

/// Answers the prospect's questions from the facts until they are done.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct TakeQuestions {
    /// Its id.
    pub id: Id,
    /// The invitation.
    pub say: Wording,
    /// Said when nothing in the facts answers.
    pub no_answer: Text,
    /// Label of the button that goes on.
    pub done: Text,
}

impl OfKind for TakeQuestions {
    const NAME: &'static str = "take_questions";
    const LABEL: &'static str = "Take questions";
    const RUNS: bool = false;

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
        Vec::new()
    }
    fn words(&self, dialogue: &Dialogue) -> String {
        text_words(dialogue, &self.say.text)
    }
    fn texts(&mut self) -> Vec<&mut Text> {
        wording_texts(&mut self.say).chain([&mut self.no_answer, &mut self.done]).collect()
    }
    fn said(&self) -> Vec<&Text> {
        std::iter::once(&self.say.text).chain(&self.say.or).collect()
    }
    fn compile(&self, _compiler: &mut Compiler<'_>, _at: &str) -> Result<Kind, Wrong> {
        Err(cannot_run_yet(Self::LABEL))
    }
}
