//! Consult: sends chosen fields to an outside system and waits a little.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use super::{Lead, OfKind};
use crate::file::{Arm, Dialogue, When, Wording};
use crate::plan::Kind;
use crate::plan::compile::{Compiler, Wrong, cannot_run_yet};
use crate::turns::texts::wording_texts;
use crate::turns::words::text_words;
use lumbo_value::{Id, Text};

/// Sends chosen fields to an outside system and waits a little.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Consult {
    /// Its id.
    pub id: Id,
    /// The line that holds the moment.
    pub say: Wording,
    /// The destination's key.
    pub destination: String,
    /// Keys of the fields sent.
    pub send: Vec<String>,
    /// Keys of the fields that may be kept from what comes back.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub keep: Vec<String>,
    /// Seconds to wait; 1 to 30.
    pub wait_seconds: u8,
    /// Arms on answered, refused, no answer.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub arms: Vec<Arm>,
}

impl OfKind for Consult {
    const NAME: &'static str = "consult";
    const LABEL: &'static str = "Consult";

    id!();
    arms!();
    fn takes(when: &When) -> bool {
        matches!(when, When::Answered | When::Refused | When::NoAnswer)
    }
    asks_nothing!();
    fn fills(&self) -> Vec<&str> {
        self.keep.iter().map(String::as_str).collect()
    }
    fn formulas(&self) -> Vec<&str> {
        Vec::new()
    }
    leads_nowhere!();
    ends_nothing!();
    shows_nothing!();
    fn words(&self, dialogue: &Dialogue) -> String {
        format!("{} ({})", text_words(dialogue, &self.say.text), self.destination)
    }
    says_its_wording!();
    cannot_run!();
}
