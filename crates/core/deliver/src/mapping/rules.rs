//! Which property comes from what.

use std::collections::BTreeMap;

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use super::Holds;

/// Something about a lead that is no answer of its own.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
#[schemars(rename = "LeadFact")]
pub enum Fact {
    /// The prospect's whole name.
    Name,
    /// Their given name.
    GivenName,
    /// Their family name; the whole name where it cannot be told.
    FamilyName,
    /// E-mail address.
    Email,
    /// Phone number, E.164.
    Phone,
    /// The company's name.
    Company,
    /// The company's domain.
    Domain,
    /// What they want, in a line.
    Wants,
    /// Points.
    Points,
    /// The band's name.
    Band,
    /// What became of it.
    Status,
    /// Why.
    Reason,
    /// What it was won for.
    Amount,
    /// The amount's currency.
    Currency,
    /// Who has it.
    Owner,
    /// The queue's name.
    Queue,
    /// The dialogue's title.
    Dialogue,
    /// When it was filed.
    FiledAt,
    /// Where a person sees it.
    Link,
    /// What was said, with its line breaks.
    Transcript,
    /// The page it was begun on.
    Page,
    /// The first page of the visit.
    FirstPage,
    /// Where they came from.
    Referrer,
    /// The campaign.
    Campaign,
    /// Whether they left before the end.
    Unfinished,
}

/// What a property comes from.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum MapFrom {
    /// An answer, by its field's key.
    Field(String),
    /// Something else about the lead.
    Fact(Fact),
    /// The same words for every lead.
    Text(String),
}

/// When a property is written.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
#[schemars(rename = "MapWrite")]
pub enum Write {
    /// Each time.
    #[default]
    Always,
    /// Only where nothing stands there.
    IfEmpty,
}

/// One property, and what it comes from.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct MapRule {
    /// Of which object; a sheet's columns are all of the lead.
    pub object: Holds,
    /// The property's name, or the column's.
    pub property: String,
    /// What it comes from.
    pub from: MapFrom,
    /// When it is written.
    #[serde(default)]
    pub write: Write,
    /// What is written for an option, a band or a status, by its key here; what is not named goes as it is, where it
    /// is one there.
    #[serde(default, skip_serializing_if = "BTreeMap::is_empty")]
    pub options: BTreeMap<String, String>,
}

/// What goes where.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(rename = "DestinationMapping")]
pub struct Mapping {
    /// The rules; of a sheet in the order of its columns.
    #[serde(default)]
    pub rules: Vec<MapRule>,
    /// Our people's ids there, by their addresses; who is not named is looked for by address.
    #[serde(default, skip_serializing_if = "BTreeMap::is_empty")]
    pub people: BTreeMap<String, String>,
}

impl Mapping {
    /// Most rules.
    pub const MOST: usize = 400;
    /// Longest name of a property and longest text, characters.
    pub const LONGEST: usize = 500;

    /// Whether it is within what one can keep.
    #[must_use]
    pub fn fits(&self) -> bool {
        let short = |text: &str| text.chars().count() <= Self::LONGEST;
        self.rules.len() <= Self::MOST
            && self.people.len() <= 1_000
            && self.people.iter().all(|(ours, theirs)| short(ours) && short(theirs))
            && self.rules.iter().all(|rule| {
                let from = match &rule.from {
                    MapFrom::Field(text) | MapFrom::Text(text) => text,
                    MapFrom::Fact(_) => "",
                };
                !rule.property.trim().is_empty()
                    && short(&rule.property)
                    && short(from)
                    && rule.options.len() <= 500
                    && rule.options.iter().all(|(ours, theirs)| short(ours) && short(theirs))
            })
    }
}
