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
        matches!(when, When::Booked | When::NoAnswer)
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
