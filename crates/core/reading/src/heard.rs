//! What reading a reply came to: where something was heard, and what it is worth.

use jiff::civil::Date;
use lumbo_formula::Lookup;
use lumbo_value::Value;
use serde::{Deserialize, Serialize};

use super::domains;

/// Where in the reply something was heard; counts Unicode scalar values.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize, schemars::JsonSchema)]
pub struct Heard {
    /// The words.
    pub text: String,
    /// Characters before it.
    pub start: usize,
    /// Characters up to its end.
    pub end: usize,
    /// True where they said that they are not sure of it.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub unsure: bool,
}

impl Heard {
    /// What stands between two byte positions of `raw`.
    #[must_use]
    pub fn at(raw: &str, start: usize, end: usize) -> Self {
        let text = raw.get(start..end).unwrap_or_default().to_owned();
        let before = raw.get(..start).unwrap_or_default().chars().count();
        let length = text.chars().count();
        Self { text, start: before, end: before + length, unsure: false }
    }

    /// The whole reply without the space around it.
    #[must_use]
    pub fn whole(raw: &str) -> Self {
        let start = raw.len() - raw.trim_start().len();
        Self::at(raw, start, start + raw.trim().len())
    }
}

/// What came of reading a reply.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Reading {
    /// A value that passes every rule.
    Value {
        /// The value.
        value: Value,
        /// Where it was heard.
        heard: Heard,
    },
    /// Nothing readable, or a rule failed.
    Failed {
        /// Keys of every failed rule in the documented order; `type` where nothing could be read.
        failed: Vec<&'static str>,
        /// What to tell the prospect.
        message: String,
        /// What was heard, where anything was.
        heard: Option<Heard>,
        /// The value that a rule refused.
        refused: Option<Value>,
    },
    /// The prospect has none, does not know, or would rather not.
    Declined,
    /// Several options fit; their keys.
    Tie(Vec<String>),
}

/// What the type readers found.
pub(crate) enum Found {
    Value(Value, Heard),
    Nothing,
    /// More than one value, and no way to tell which is meant.
    Several(Heard),
    Tie(Vec<String>),
    /// Read, but its own built-in rule refuses it.
    Refused(Value, Heard, &'static str),
    /// A no where only a yes is an answer.
    Declined,
}

/// Looked-up facts that reading may use.
#[derive(Clone, Copy, Default)]
pub struct ReadContext<'a> {
    /// ISO 3166-1 alpha-2 of the prospect's country, where known.
    pub country: Option<&'a str>,
    /// Today in the dialogue's zone.
    pub today: Option<Date>,
    /// A name heard before that a reply may complete.
    pub earlier: Option<&'a Value>,
    /// What is known beside, for rules that are formulas.
    pub known: Option<&'a dyn Lookup>,
    /// The workspace's own e-mail domains.
    pub domains: Option<&'a domains::DomainLists>,
}
