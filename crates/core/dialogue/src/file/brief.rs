//! The brief, and what stands beside the outline: tables, side-talk, offers, saved rehearsals, promises.

use std::collections::BTreeMap;

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use super::{Condition, Id, Part};

/// What a dialogue is for.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Brief {
    /// Keys of the fields a lead must carry; an inner list means one of these.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub needs: Vec<Vec<String>>,
    /// Who counts as a fit, in a sentence.
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub fit: String,
    /// The same as conditions, which become the first criteria and rule-outs.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub fits: Vec<Fit>,
    /// Who takes the leads, in a sentence.
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub taker: String,
}

/// A condition that says who is a fit, or who is none.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Fit {
    /// Its id.
    pub id: Id,
    /// The condition.
    pub holds: Condition,
    /// True where it rules out, in place of counting for them.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub out: bool,
}

/// Something a prospect may say at any moment, and what we do.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct SideTalk {
    /// Its id.
    pub id: Id,
    /// Phrases per language.
    pub phrases: BTreeMap<String, Vec<String>>,
    /// How much of the reply a phrase must be.
    #[serde(default)]
    pub matches: PhraseMatch,
    /// What we do.
    pub does: SideTalkDoes,
}

/// How much of the reply a phrase must be.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum PhraseMatch {
    /// The whole reply.
    #[default]
    Whole,
    /// A part of it.
    Part,
    /// Every word of the phrase, anywhere.
    Words,
}

/// What side-talk does.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum SideTalkDoes {
    /// Answers, then asks again.
    Answer(Vec<Part>),
    /// Goes to a section.
    GoTo(Id),
}

/// Something shown now and then.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Offer {
    /// Its id.
    pub id: Id,
    /// When it is shown.
    pub when: OfferWhen,
    /// What is shown.
    pub say: Vec<Part>,
}

/// When an offer is shown.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum OfferWhen {
    /// After every so many free messages, in rotation with the others.
    Every(u8),
    /// When they ask about one of these.
    About(Vec<String>),
}

/// A kept conversation with what must come of it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct SavedRehearsal {
    /// Its id.
    pub id: Id,
    /// Its name.
    pub title: String,
    /// The replies, in the form of the command line's `rehearse`.
    pub replies: Vec<String>,
    /// What must come of it.
    pub expects: Expects,
}

/// What must come of a saved rehearsal; what is absent is not checked.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Expects {
    /// The outcome's id.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub outcome: Option<Id>,
    /// The band's id.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub band: Option<Id>,
    /// The score.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub score: Option<i64>,
    /// The queue's key.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub queue: Option<String>,
    /// What fields show, by key.
    #[serde(default, skip_serializing_if = "BTreeMap::is_empty")]
    pub shows: BTreeMap<String, String>,
}

/// What must hold on every way.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Promise {
    /// No way asks more than this many questions.
    QuestionsAtMost(u16),
    /// Every way that files a lead has these fields.
    AlwaysCaptured(Vec<String>),
    /// No way with this outcome files a lead.
    NeverFiled(Id),
}
