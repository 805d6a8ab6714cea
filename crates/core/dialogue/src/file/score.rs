//! Scorecards as written. Meaning in [`crate::score`].

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use super::{Condition, Id, Text};

/// Whole points.
pub type Points = i64;

/// Criteria with points, grouped by dimension; must-haves; rule-outs; bands.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Scorecard {
    /// Its id.
    pub id: Id,
    /// Its title.
    pub title: String,
    /// Groups of criteria.
    #[serde(default)]
    pub dimensions: Vec<Dimension>,
    /// What must hold at filing, or the band is capped.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub must_haves: Vec<MustHave>,
    /// What puts a lead out.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub rule_outs: Vec<RuleOut>,
    /// Bands, lowest first; the lowest has no threshold.
    pub bands: Vec<Band>,
}

/// A group of criteria whose sum is held between a floor and a ceiling.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Dimension {
    /// Its id.
    pub id: Id,
    /// Its title.
    pub title: String,
    /// The least its sum can count.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub floor: Option<Points>,
    /// The most its sum can count.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub ceiling: Option<Points>,
    /// Its criteria.
    #[serde(default)]
    pub criteria: Vec<Criterion>,
}

/// One reason for points.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Criterion {
    /// Its id.
    pub id: Id,
    /// The author's words for it; said from its condition when absent.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub label: Option<String>,
    /// How it gives points.
    pub gives: Gives,
}

/// How a criterion gives points.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Gives {
    /// Points when a condition holds.
    When {
        /// The condition.
        holds: Condition,
        /// The points.
        points: Points,
    },
    /// Points by the first row that the field's value is in.
    Table {
        /// The field's key.
        field: String,
        /// The rows.
        rows: Vec<TableRow>,
    },
    /// Points from a formula, rounded to whole points half away from zero.
    Formula(String),
}

/// A row of a table of points.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct TableRow {
    /// From this number, included; decimal string.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub from: Option<String>,
    /// Below this number, excluded; decimal string.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub below: Option<String>,
    /// One of these options.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub values: Vec<String>,
    /// The points.
    pub points: Points,
}

/// What must hold at filing.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct MustHave {
    /// Its id.
    pub id: Id,
    /// The author's words for it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub label: Option<String>,
    /// What must hold.
    pub holds: Condition,
    /// The highest band without it.
    pub cap: Id,
}

/// What puts a lead out.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct RuleOut {
    /// Its id.
    pub id: Id,
    /// The author's words for it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub label: Option<String>,
    /// What puts it out.
    pub holds: Condition,
    /// Why, for the rep.
    pub reason: Text,
    /// True where the prospect reads the reason too, right after the filing.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub told: bool,
}

/// A named range of the score.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Band {
    /// Its id.
    pub id: Id,
    /// Its name.
    pub label: String,
    /// The threshold, included; absent for the lowest.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub from: Option<Points>,
    /// The colour of its name; by its place where absent.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub tone: Option<Tone>,
    /// Whether its leads count as qualified; all but the lowest band do where absent.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub qualified: Option<bool>,
    /// Working minutes of the queue within which its leads are called; no target where absent.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub call_within: Option<u32>,
}

/// A colour of the application's own.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Tone {
    /// Green: good.
    Spruce,
    /// Yellow: watch.
    Amber,
    /// Red: wrong.
    Clay,
    /// Blue: the fast lane.
    Indigo,
    /// Grey.
    Soft,
}

impl Tone {
    /// Its name for people.
    #[must_use]
    pub fn name(self) -> &'static str {
        match self {
            Self::Spruce => "green",
            Self::Amber => "yellow",
            Self::Clay => "red",
            Self::Indigo => "blue",
            Self::Soft => "grey",
        }
    }
}

impl Scorecard {
    /// Whether the leads of a band count as qualified: as its author says, else all but the lowest.
    #[must_use]
    pub fn is_qualified(&self, band: usize) -> bool {
        self.bands.get(band).is_some_and(|known| known.qualified.unwrap_or(band > 0))
    }
}
