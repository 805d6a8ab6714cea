//! Read back: shows what was kept and lets the prospect correct it.

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

pub use compile::ReadBackNode;
pub(crate) use run::run;

/// Shows what was kept and lets the prospect correct it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct ReadBack {
    /// Its id.
    pub id: Id,
    /// The line above.
    pub say: Wording,
    /// Keys of the fields shown.
    pub fields: Vec<String>,
}

impl OfKind for ReadBack {
    const NAME: &'static str = "read_back";
    const LABEL: &'static str = "Read back";

    id!();
    no_arms!();
    asks_nothing!();
    works_out_nothing!();
    leads_nowhere!();
    ends_nothing!();
    shows_nothing!();
    fn words(&self, dialogue: &Dialogue) -> String {
        let keys: Vec<&str> = self.fields.iter().map(String::as_str).collect();
        format!("{} [{}]", text_words(dialogue, &self.say.text), labels(dialogue, &keys))
    }
    says_its_wording!();
    can_run!();
}
