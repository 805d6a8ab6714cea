//! Open ask: an open question that reads several fields out of the free reply.

mod answer;
mod compile;
mod run;

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use super::{Lead, OfKind};
use crate::file::{Arm, Dialogue, When, Wording};
use crate::plan::Kind;
use crate::plan::compile::{Compiler, Wrong};
use crate::turns::texts::wording_texts;
use crate::turns::words::{labels, text_words};
use lumbo_value::{Id, Text};

pub use compile::OpenNode;
pub(crate) use run::run;

/// An open question that reads several fields out of the free reply.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct OpenAsk {
    /// Its id.
    pub id: Id,
    /// The question.
    pub say: Wording,
    /// Keys of the fields that it reads.
    pub fields: Vec<String>,
    /// What is missing afterwards is asked one by one, or together.
    #[serde(default)]
    pub missing: AskMissing,
}

/// How an Open ask asks for what is missing.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum AskMissing {
    /// One by one.
    #[default]
    OneByOne,
    /// On one form.
    Together,
}

impl OfKind for OpenAsk {
    const NAME: &'static str = "open_ask";
    const LABEL: &'static str = "Open ask";

    id!();
    no_arms!();
    fn asks_for(&self) -> Vec<&str> {
        self.fields.iter().map(String::as_str).collect()
    }
    works_out_nothing!();
    leads_nowhere!();
    ends_nothing!();
    shows_nothing!();
    fn words(&self, dialogue: &Dialogue) -> String {
        let keys: Vec<&str> = self.asks_for();
        format!("{} [{}]", text_words(dialogue, &self.say.text), labels(dialogue, &keys))
    }
    says_its_wording!();
    can_run!();
}
