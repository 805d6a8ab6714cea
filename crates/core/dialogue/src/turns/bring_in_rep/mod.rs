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

    id!();
    arms!();
    fn takes(when: &When) -> bool {
        matches!(when, When::Joined | When::NoAnswer)
    }
    asks_nothing!();
    works_out_nothing!();
    leads_nowhere!();
    ends_nothing!();
    shows_nothing!();
    fn words(&self, dialogue: &Dialogue) -> String {
        text_words(dialogue, &self.say.text)
    }
    says_its_wording!();
    cannot_run!();
}
