//! Conditions as data: all, any, comparison. Meaning in [`crate`].

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// Something that holds or does not.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Condition {
    /// Every one of them holds; an empty list holds.
    All(Vec<Condition>),
    /// At least one of them holds; an empty list does not.
    Any(Vec<Condition>),
    /// One comparison.
    Compare(Comparison),
}

/// A comparison of one thing with given values.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Comparison {
    /// A field's key, or one of `@score` and `@band` (by the default scorecard, or by one as `@score.ID`), `@settled`,
    /// `@page`, `@referrer`, `@language`, `@device`, `@country`,
    /// `@returning`, `@campaign`.
    pub what: String,
    /// How it is compared.
    pub is: Operator,
    /// With what: decimal strings for numbers, option keys for choices, `yes` or `no`, ISO dates, `100 GBP` for money.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub to: Option<Operand>,
}

/// What a comparison is made with.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(untagged)]
pub enum Operand {
    /// One value.
    One(String),
    /// Several, or the two ends of a span.
    Many(Vec<String>),
}

impl Operand {
    /// The values in order.
    pub fn values(&self) -> &[String] {
        match self {
            Self::One(value) => std::slice::from_ref(value),
            Self::Many(values) => values,
        }
    }
}

/// How a comparison is made.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Operator {
    /// Equal; needs an answer.
    Is,
    /// Not equal; needs an answer.
    IsNot,
    /// Equal to one of several.
    IsOneOf,
    /// Equal to none of several; needs an answer.
    IsNoneOf,
    /// Not less.
    AtLeast,
    /// Not more.
    AtMost,
    /// More.
    MoreThan,
    /// Less.
    LessThan,
    /// Between two ends, both included.
    Between,
    /// Has the text, or the option, in it.
    Contains,
    /// From today to so many days ahead.
    WithinDays,
    /// There is no answer.
    IsMissing,
    /// There is an answer.
    IsKnown,
}

impl Operator {
    /// How many values it takes: least and most.
    #[must_use]
    pub fn takes(self) -> (usize, usize) {
        match self {
            Self::IsMissing | Self::IsKnown => (0, 0),
            Self::Between => (2, 2),
            Self::IsOneOf | Self::IsNoneOf => (1, 200),
            _ => (1, 1),
        }
    }
}

impl Condition {
    /// Calls `visit` for every comparison in it.
    pub fn each<'a>(&'a self, visit: &mut impl FnMut(&'a Comparison)) {
        match self {
            Self::All(parts) | Self::Any(parts) => parts.iter().for_each(|part| part.each(visit)),
            Self::Compare(comparison) => visit(comparison),
        }
    }

    /// How deep it nests; a comparison is 1.
    #[must_use]
    pub fn depth(&self) -> usize {
        match self {
            Self::All(parts) | Self::Any(parts) => 1 + parts.iter().map(Self::depth).max().unwrap_or(0),
            Self::Compare(_) => 1,
        }
    }
}
