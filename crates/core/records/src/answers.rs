//! Which conversations a table of answers shows, and what stands in its cells.

use jiff::Timestamp;
use lumbo_condition::{Facts, Ready};
use lumbo_dialogue::plan::Plan;
use lumbo_dialogue::talk::{Known, State};
use lumbo_reading::domains::DomainLists;
use lumbo_reading::shown;
use lumbo_value::{Missing, Value};

use super::fold;

/// What is looked for in the answers of conversations. Nothing set shows everything.
#[derive(Debug, Clone, Default)]
pub struct Wanted {
    /// A condition that holds.
    pub holds: Option<Ready>,
    /// Words that some answer holds, whatever their case and accents; [`fold`]ed.
    pub words: String,
}

impl Wanted {
    /// True where everything is shown.
    #[must_use]
    pub fn is_all(&self) -> bool {
        self.holds.is_none() && self.words.is_empty()
    }

    /// True for a conversation that is shown. Its condition is decided as it stood when something last happened in it,
    /// at `at`; a field that its release does not have is not known.
    #[must_use]
    pub fn shows(&self, plan: &Plan, state: &State, domains: &DomainLists, at: Timestamp) -> bool {
        let holds = self.holds.as_ref().is_none_or(|condition| {
            let today = plan.zone.to_datetime(at).date();
            let known = Known { plan, state, today, now: at, domains, at: None, with: None };
            condition.decide(Facts { lookup: &known, scores: &known, around: known.around() }).holds()
        });
        holds && (self.words.is_empty() || answers(plan, state).any(|(_, text, _)| fold(&text).contains(&self.words)))
    }
}

/// Answers with their fields' ids, in plain words and typed, in the order of the dialogue.
pub fn answers<'a>(plan: &'a Plan, state: &'a State) -> impl Iterator<Item = (&'a str, String, &'a Value)> {
    plan.file.fields.iter().filter_map(|field| {
        let value = &state.values.get(&field.id)?.value;
        Some((field.id.as_str(), shown(field, value, &plan.language, &plan.file.language), value))
    })
}

/// Fields that were asked for and left open, by id, with why.
pub fn left_open<'a>(plan: &'a Plan, state: &'a State) -> impl Iterator<Item = (&'a str, &'static str)> {
    plan.file.fields.iter().filter_map(|field| {
        let why = match state.missing.get(&field.id)? {
            Missing::NotAsked => return None,
            Missing::Skipped => "skipped",
            Missing::Declined => "declined",
            Missing::NotReadable => "not understood",
        };
        Some((field.id.as_str(), why))
    })
}
