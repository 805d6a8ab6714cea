//! Tell: says something.

mod compile;
mod run;

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use super::{Lead, OfKind};
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

    id!();
    no_arms!();
    asks_nothing!();
    works_out_nothing!();
    leads_nowhere!();
    ends_nothing!();
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
    can_run!();
}
