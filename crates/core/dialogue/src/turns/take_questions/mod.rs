//! Take questions: answers the prospect's questions from the facts until they are done.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use super::{Lead, OfKind};
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

    id!();
    no_arms!();
    asks_nothing!();
    works_out_nothing!();
    leads_nowhere!();
    ends_nothing!();
    shows_nothing!();
    fn words(&self, dialogue: &Dialogue) -> String {
        text_words(dialogue, &self.say.text)
    }
    fn texts(&mut self) -> Vec<&mut Text> {
        wording_texts(&mut self.say).chain([&mut self.no_answer, &mut self.done]).collect()
    }
    fn said(&self) -> Vec<&Text> {
        std::iter::once(&self.say.text).chain(&self.say.or).collect()
    }
    cannot_run!();
}
