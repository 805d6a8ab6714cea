//! The dialogue file `lumbo.dialogue/1`: everything that a release freezes, as one readable JSON document.
//!
//! The types here are the format. Their JSON Schema (2020-12) is what `lumbo schema` prints, and docs/format.md
//! explains them with an example. To add a kind of turn, see [`crate::turns`].

pub mod brief;
pub mod load;
pub mod outline;
pub mod parts;
pub mod score;

use std::collections::BTreeMap;

use lumbo_language::Phrases;

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

pub use brief::{Brief, Offer, OfferWhen, Promise, SavedRehearsal, SideTalk, SideTalkDoes};
pub use load::{LoadError, canonical, load, schema};
pub use lumbo_condition::{Comparison, Condition, Operand, Operator};
pub use lumbo_route::{Routing, RoutingRule};
pub use lumbo_value::{Choice, Field, FieldType, ID_LIMIT, Id, Record, Rule, Table, Text, is_id};
pub use outline::{Arm, Ending, Follow, Section, Then, WayOut, When};
pub use parts::{Document, Link, Part, Picture, Wording};
pub use score::{Band, Criterion, Dimension, Gives, MustHave, Points, RuleOut, Scorecard, TableRow};

pub use crate::turns::Turn;

/// The format tag.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub enum Format {
    /// The first format.
    #[serde(rename = "lumbo.dialogue/1")]
    V1,
}

/// A whole dialogue.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Dialogue {
    /// `lumbo.dialogue/1`.
    pub format: Format,
    /// Name of the dialogue in files and addresses.
    pub id: Id,
    /// What authors call it.
    pub title: String,
    /// The language every text must have, as a BCP 47 primary tag.
    pub language: String,
    /// What a prospect sees before the conversation starts.
    pub opening: Opening,
    /// What the dialogue is for.
    #[serde(default)]
    pub brief: Brief,
    /// The fields used.
    #[serde(default)]
    pub fields: Vec<Field>,
    /// Ways a conversation can end.
    pub outcomes: Vec<Outcome>,
    /// The outline, first section first.
    pub sections: Vec<Section>,
    /// What a prospect may say at any moment.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub side_talk: Vec<SideTalk>,
    /// Things shown now and then.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub offers: Vec<Offer>,
    /// How leads are scored.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub scorecards: Vec<Scorecard>,
    /// Id of the scorecard that File lead and conditions use unless they name one; needed where there are several.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub default_scorecard: Option<Id>,
    /// Who gets the lead.
    #[serde(default)]
    pub routing: Routing,
    /// The author's wording for built-in phrases, by phrase key.
    #[serde(default, skip_serializing_if = "BTreeMap::is_empty")]
    pub phrases: BTreeMap<String, Text>,
    /// Rows the author keeps.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub tables: Vec<Table>,
    /// Media types of pictures and documents, by the hash of their content.
    #[serde(default, skip_serializing_if = "BTreeMap::is_empty")]
    pub media: BTreeMap<String, String>,
    /// Limits and manners.
    #[serde(default)]
    pub settings: Settings,
    /// Kept conversations with what must come of them; not frozen by a release.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub rehearsals: Vec<SavedRehearsal>,
    /// What must hold on every way; not frozen by a release.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub promises: Vec<Promise>,
    /// Findings the author has accepted, as `check key at place`; not frozen by a release.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub accepted: Vec<String>,
}

impl Dialogue {
    /// Place of the scorecard that is used where none is named: the one that is said to be, else the only one.
    #[must_use]
    pub fn default_card_place(&self) -> Option<usize> {
        match &self.default_scorecard {
            Some(id) => self.scorecards.iter().position(|card| card.id == *id),
            None => (self.scorecards.len() == 1).then_some(0),
        }
    }

    /// The fields, and the bands of each scorecard as if a field held them: what conditions are said and typed with, so
    /// that a band stands there by its name.
    #[must_use]
    pub fn named_fields(&self) -> Vec<Field> {
        let mut out = self.fields.clone();
        let mut band = |key: String, card: &Scorecard| {
            let option = |band: &Band| Choice {
                key: band.id.clone(),
                label: Text::new(&self.language, &band.label),
                also: Vec::new(),
                hint: None,
                picture: None,
            };
            let options = card.bands.iter().map(option).collect();
            out.push(Field { options, ..Field::plain(key.clone(), key, "Band".to_owned(), FieldType::Choice) });
        };
        for card in &self.scorecards {
            band(format!("@band.{}", card.id), card);
        }
        if let Some(card) = self.default_card() {
            band("@band".to_owned(), card);
        }
        out
    }

    /// The built-in phrases of a language, in this dialogue's wording where it has one.
    #[must_use]
    pub fn phrases(&self, language: &str) -> Phrases {
        let own = self.phrases.iter().map(|(key, text)| (key.clone(), text.get(language, &self.language).to_owned()));
        let informal = self.settings.informal.iter().any(|tag| tag == language);
        Phrases::worded(language, own).informal(informal)
    }

    /// The scorecard that is used where none is named.
    #[must_use]
    pub fn default_card(&self) -> Option<&Scorecard> {
        self.default_card_place().map(|place| &self.scorecards[place])
    }
}

/// What a prospect sees before the conversation starts; pressing the button starts it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Opening {
    /// The greeting.
    pub say: Text,
    /// The button's label.
    pub button: Text,
}

/// One way a conversation can end.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Outcome {
    /// Its id.
    pub id: Id,
    /// Its name for authors and reps.
    pub label: String,
    /// What sort of ending it is; lanes take their colour from it.
    pub class: OutcomeClass,
    /// What it leaves behind for somebody, where it is no lead.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub request: Option<LeavesRequest>,
    /// Words that a lead is tagged with where its conversation ends so.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub tags: Vec<String>,
}

/// A request that an outcome leaves behind for somebody: a customer's question. It is never scored, and no lead.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct LeavesRequest {
    /// Key of the queue whose members answer it.
    pub queue: String,
    /// Working minutes of the queue within which it is to be answered.
    pub within: u32,
}

/// Sorts of ending.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum OutcomeClass {
    /// A lead.
    Lead,
    /// Not a fit.
    NotAFit,
    /// Somebody who is a customer already.
    Customer,
    /// Somebody who only looks.
    Looking,
    /// Left before the end.
    Unfinished,
    /// Anything else.
    Other,
}

/// Limits and manners of a dialogue.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields, default)]
pub struct Settings {
    /// Side-talk, ties and volunteering answers allowed per entry to an ask before its way out; 1 to 50.
    pub extras_per_ask: u8,
    /// Side-talk answered in one conversation before it counts as a failed try; 1 to 200.
    #[serde(skip_serializing_if = "is_usual_side_talk")]
    pub side_talk_in_all: u8,
    /// Version of the wording that consents are given to; raise it when the wording changes.
    #[serde(skip_serializing_if = "is_first")]
    pub consent_wording: u32,
    /// Seconds of silence before we ask whether they are still there; 0 for never.
    #[serde(skip_serializing_if = "is_never")]
    pub nudge_seconds: u16,
    /// Minutes of silence after which the conversation closes by itself; 0 for never.
    #[serde(skip_serializing_if = "is_never")]
    pub idle_minutes: u16,
    /// Minutes of silence after which somebody who can be reached, and has not been passed on, becomes a lead marked
    /// unfinished; 0 for never.
    #[serde(skip_serializing_if = "is_usual_unfinished")]
    pub unfinished_minutes: u16,
    /// How often one section may be entered in a conversation; 1 to 1000.
    pub entries_per_section: u16,
    /// ISO 4217 code that MONEY uses when it is given none.
    pub currency: String,
    /// ISO 3166-1 alpha-2 code used to read national phone numbers when nothing better is known.
    pub country: String,
    /// IANA time zone that TODAY uses.
    pub time_zone: String,
    /// How fast lines appear.
    pub pace: Pace,
    /// Languages in which our own phrases address the prospect as one addresses friends: "du" in place of "Sie".
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub informal: Vec<String>,
}

fn is_usual_side_talk(times: &u8) -> bool {
    *times == Settings::default().side_talk_in_all
}

fn is_first(version: &u32) -> bool {
    *version == 1
}

fn is_usual_unfinished(minutes: &u16) -> bool {
    *minutes == Settings::default().unfinished_minutes
}

fn is_never(time: &u16) -> bool {
    *time == 0
}

impl Default for Settings {
    fn default() -> Self {
        Self {
            extras_per_ask: 6,
            side_talk_in_all: 20,
            consent_wording: 1,
            nudge_seconds: 0,
            idle_minutes: 0,
            unfinished_minutes: 30,
            entries_per_section: 25,
            currency: "GBP".into(),
            country: "GB".into(),
            time_zone: "UTC".into(),
            pace: Pace::None,
            informal: Vec::new(),
        }
    }
}

/// How fast lines appear to a prospect.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Pace {
    /// At once.
    None,
    /// A fixed pause.
    Fixed,
    /// A pause that fits the length.
    ByLength,
}
