//! Routing rules as written. Meaning in [`crate`].

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use lumbo_condition::Condition;
use lumbo_value::Id;

use crate::FirmIs;

/// Ordered rules from a lead to a queue of the workspace.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Routing {
    /// The rules, tried in order.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub rules: Vec<RoutingRule>,
    /// Key of the queue when no rule holds.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub otherwise: Option<String>,
}

/// One rule.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct RoutingRule {
    /// Its id.
    pub id: Id,
    /// When it names the queue; may read `@score` and `@band`.
    pub holds: Condition,
    /// The queue's key; empty where a table names the queue.
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub queue: String,
    /// The table of territories that names the queue; the next rules are tried where it names none.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub table: Option<ByTable>,
    /// What their firm must be; any firm where absent. It is looked at when the lead is filed.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub firm: Option<FirmIs>,
    /// What a rep must have: languages, regions, products.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub skills: Vec<String>,
    /// True where it decides even for somebody who has an owner already.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub even_if_owned: bool,
    /// Words that its leads are tagged with.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub tags: Vec<String>,
}

/// A table of territories, and what is looked up in it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct ByTable {
    /// The table's key in the workspace.
    pub table: String,
    /// Key of the field that says where they are: a place, a country, a phone number, a company, an
    /// option, or a text.
    pub field: String,
}
