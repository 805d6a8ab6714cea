//! Offer times: shows free times and books one.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use super::{Lead, OfKind};
use crate::file::{Arm, Dialogue, When, Wording};
use crate::plan::Kind;
use crate::plan::compile::{Compiler, Wrong, cannot_run_yet};
use crate::turns::texts::wording_texts;
use crate::turns::words::text_words;
use lumbo_value::{Id, Text};

/// Shows free times and books one.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct OfferTimes {
    /// Its id.
    pub id: Id,
    /// The question.
    pub say: Wording,
    /// Length of a meeting, minutes; 10 to 240.
    pub minutes: u16,
    /// How many days ahead are offered; 1 to 60.
    pub days_ahead: u8,
    /// Arms on booked, no answer.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub arms: Vec<Arm>,
}

impl OfKind for OfferTimes {
    const NAME: &'static str = "offer_times";
    const LABEL: &'static str = "Offer times";

    id!();
    arms!();
    fn takes(when: &When) -> bool {
        matches!(when, When::Booked | When::NoAnswer)
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
