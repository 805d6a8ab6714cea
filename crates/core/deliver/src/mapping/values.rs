//! The rules of a mapping held against one lead. A missing value is absent: never null, zero, empty or a dash.

use lumbo_value::FieldType;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use serde_json::{Map, Number, Value as Json};

use super::{Fact, Holds, MapFrom, MapRule, Mapping, PropertyKind, Schema, Write};
use crate::webhook::LeadData;

/// An answer of a lead.
#[derive(Debug, Clone)]
pub struct FieldFact {
    /// Its field's key.
    pub key: String,
    /// Its type.
    pub kind: FieldType,
    /// The value, as documented for dialogue files.
    pub value: Json,
    /// The value in plain words.
    pub shown: String,
}

/// A lead with all that a mapping can read.
#[derive(Debug, Clone)]
pub struct LeadFacts {
    /// As events carry it.
    pub data: LeadData,
    /// Its answers with their types.
    pub fields: Vec<FieldFact>,
    /// The given and the family name, where they can be told apart.
    pub names: Option<(String, String)>,
}

/// Why a value that is there is not carried.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Lost {
    /// This option, band or status has no counterpart there.
    NoOption(String),
    /// Nobody there is this person.
    NoPerson(String),
    /// It cannot be written as what the property takes.
    OtherKind,
}

/// What becomes of one rule for one lead.
#[derive(Debug, Clone, PartialEq, Serialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Carried {
    /// It is written.
    Value(Json),
    /// The lead has none: it is left out.
    Missing,
    /// The lead has one that cannot be written: it is left out.
    Lost(Lost),
}

/// What is to stand on one record.
#[derive(Debug, Clone, Default, PartialEq, Serialize, Deserialize)]
pub struct RecordPlan {
    /// What it is looked up by, where its id is not known.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub find: Option<String>,
    /// Written each time.
    #[serde(default, skip_serializing_if = "Map::is_empty")]
    pub always: Map<String, Json>,
    /// Written where nothing stands there.
    #[serde(default, skip_serializing_if = "Map::is_empty")]
    pub if_empty: Map<String, Json>,
}

/// Records to be made or changed, in their order. It is what is frozen by the first attempt.
#[derive(Debug, Clone, Default, PartialEq, Serialize, Deserialize)]
pub struct RecordPlans {
    /// The company, where one is mapped and known.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub company: Option<RecordPlan>,
    /// The contact, where one is mapped.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub contact: Option<RecordPlan>,
    /// The lead.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub lead: Option<RecordPlan>,
    /// True where the person was erased: their records are taken out.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub erase: bool,
}

impl RecordPlans {
    /// The plan of an object.
    #[must_use]
    pub fn of(&self, object: Holds) -> Option<&RecordPlan> {
        match object {
            Holds::Company => self.company.as_ref(),
            Holds::Contact => self.contact.as_ref(),
            Holds::Lead => self.lead.as_ref(),
        }
    }
}

/// A value before it is written: as JSON, and in words.
struct Raw {
    kind: Option<FieldType>,
    value: Json,
    shown: String,
}

impl Raw {
    fn text(text: &str) -> Self {
        Self { kind: None, value: Json::String(text.to_owned()), shown: text.to_owned() }
    }
}

/// What one rule gives for a lead. Of a sheet there is no schema: what are numbers and yes or no stay so, all else goes
/// in words.
#[must_use]
pub fn carried(rule: &MapRule, mapping: &Mapping, schema: Option<&Schema>, lead: &LeadFacts) -> Carried {
    let Some(raw) = raw(&rule.from, lead) else { return Carried::Missing };
    let property = schema.and_then(|schema| schema.property(rule.object, &rule.property));
    let Some(property) = property else {
        return written(match raw.value {
            Json::Number(_) | Json::Bool(_) => raw.value,
            _ => number_of_kind(&raw).unwrap_or(Json::String(raw.shown)),
        });
    };
    let named = |key: &str| rule.options.get(key).cloned().unwrap_or_else(|| key.to_owned());
    let option = |key: &str| {
        let name = named(key);
        let there = property.options.iter().find(|option| option.value == name || option.label == name);
        there.map(|option| option.value.clone()).ok_or_else(|| Lost::NoOption(key.to_owned()))
    };
    let out = match property.kind {
        PropertyKind::Text | PropertyKind::LongText => {
            let key = raw.value.as_str().filter(|key| rule.options.contains_key(*key));
            Some(Json::String(key.map_or(raw.shown, named)))
        }
        PropertyKind::Number => number(&raw.value),
        PropertyKind::Boolean => raw.value.as_bool().map(Json::Bool),
        PropertyKind::Date => date(&raw).map(Json::String),
        PropertyKind::Moment => raw
            .value
            .as_str()
            .and_then(|text| text.parse::<jiff::Timestamp>().ok())
            .map(|at| Json::String(at.to_string())),
        PropertyKind::Option => match raw.value.as_str().map(option) {
            Some(Ok(value)) => Some(Json::String(value)),
            Some(Err(lost)) => return Carried::Lost(lost),
            None => None,
        },
        PropertyKind::Options => {
            let keys = match &raw.value {
                Json::Array(keys) => keys.iter().map(Json::as_str).collect::<Option<Vec<_>>>(),
                Json::String(key) => Some(vec![key.as_str()]),
                _ => None,
            };
            match keys.map(|keys| keys.into_iter().map(option).collect::<Result<Vec<_>, _>>()) {
                Some(Ok(values)) => Some(Json::from(values)),
                Some(Err(lost)) => return Carried::Lost(lost),
                None => None,
            }
        }
        PropertyKind::Person => {
            let address = raw.value.as_str().unwrap_or_default();
            let people = schema.map(|schema| schema.people.as_slice()).unwrap_or_default();
            let theirs = match mapping.people.get(address) {
                Some(id) => people.iter().find(|person| person.id == *id),
                None => people.iter().find(|person| person.email.eq_ignore_ascii_case(address)),
            };
            match theirs {
                Some(person) => Some(Json::String(person.id.clone())),
                None => return Carried::Lost(Lost::NoPerson(raw.shown)),
            }
        }
    };
    out.map_or(Carried::Lost(Lost::OtherKind), written)
}

/// A text without a word in it is no value.
fn written(value: Json) -> Carried {
    if value.as_str().is_some_and(|text| text.trim().is_empty()) { Carried::Missing } else { Carried::Value(value) }
}

fn raw(from: &MapFrom, lead: &LeadFacts) -> Option<Raw> {
    let fact = match from {
        MapFrom::Text(text) => return Some(Raw::text(text)),
        MapFrom::Field(key) => {
            let field = lead.fields.iter().find(|field| field.key == *key)?;
            return Some(Raw { kind: Some(field.kind), value: field.value.clone(), shown: field.shown.clone() });
        }
        MapFrom::Fact(fact) => *fact,
    };
    let data = &lead.data;
    let some = |text: &Option<String>| text.as_deref().map(Raw::text);
    match fact {
        Fact::Name => some(&data.name),
        Fact::GivenName => lead.names.as_ref().map(|(given, _)| Raw::text(given)),
        Fact::FamilyName => lead.names.as_ref().map(|(_, family)| Raw::text(family)).or_else(|| some(&data.name)),
        Fact::Email => some(&data.email),
        Fact::Phone => some(&data.phone),
        Fact::Company => some(&data.company),
        Fact::Domain => some(&data.domain),
        Fact::Wants => Some(Raw::text(&data.wants)),
        Fact::Points => data.score.as_ref().map(|score| Raw {
            kind: None,
            value: Json::from(score.total),
            shown: score.total.to_string(),
        }),
        Fact::Band => data.score.as_ref().and_then(|score| some(&score.band)),
        Fact::Status => Some(Raw::text(&data.status)),
        Fact::Reason => some(&data.reason),
        Fact::Amount => some(&data.amount),
        Fact::Currency => some(&data.currency),
        Fact::Owner => data.owner.as_ref().map(|owner| Raw {
            kind: None,
            value: Json::String(owner.email.clone()),
            shown: owner.name.clone(),
        }),
        Fact::Queue => some(&data.queue),
        Fact::Dialogue => Some(Raw::text(&data.dialogue)),
        Fact::FiledAt => Some(Raw::text(&data.filed_at)),
        Fact::Link => Some(Raw::text(&data.link)),
        Fact::Transcript => Some(Raw::text(&transcript(data))),
        Fact::Page => some(&data.came.page),
        Fact::FirstPage => some(&data.came.first_page),
        Fact::Referrer => some(&data.came.referrer),
        Fact::Campaign => some(&data.came.campaign),
        Fact::Unfinished => Some(Raw {
            kind: None,
            value: Json::Bool(data.unfinished),
            shown: if data.unfinished { "yes" } else { "no" }.to_owned(),
        }),
    }
}

/// What was said: a line each, what the prospect said behind a mark; line breaks within a line stay.
fn transcript(data: &LeadData) -> String {
    let line =
        |said: &crate::webhook::Said| format!("{} {}", if said.who == "prospect" { ">" } else { "–" }, said.text);
    data.transcript.iter().map(line).collect::<Vec<_>>().join("\n")
}

/// The number in a value: of an answer with a unit, a currency or a span its amount.
fn number(value: &Json) -> Option<Json> {
    let text = match value {
        Json::Number(_) => return Some(value.clone()),
        Json::String(text) => text.as_str(),
        Json::Object(parts) => parts.get("amount")?.as_str()?,
        _ => return None,
    };
    let decimal: rust_decimal::Decimal = text.trim().parse().ok()?;
    let whole = i64::try_from(decimal).ok().filter(|whole| rust_decimal::Decimal::from(*whole) == decimal);
    whole.map(Json::from).or_else(|| Number::from_f64(text.trim().parse().ok()?).map(Json::Number))
}

/// Of a sheet: an answer that is a number alone stays one.
fn number_of_kind(raw: &Raw) -> Option<Json> {
    (raw.kind == Some(FieldType::WholeNumber) || raw.kind == Some(FieldType::Scale))
        .then(|| number(&raw.value))
        .flatten()
}

/// A day: of an answer that names a week or a month only there is none.
fn date(raw: &Raw) -> Option<String> {
    match &raw.value {
        Json::Object(parts) if parts.get("precision").and_then(Json::as_str) == Some("day") => {
            parts.get("date")?.as_str().map(str::to_owned)
        }
        Json::String(text) => {
            let day = text.parse::<jiff::Timestamp>().map(|at| at.to_zoned(jiff::tz::TimeZone::UTC).date());
            day.or_else(|_| text.parse::<jiff::civil::Date>()).ok().map(|day| day.to_string())
        }
        _ => None,
    }
}

/// What is to stand on company, contact and lead of a customer system.
#[must_use]
pub fn upserts(mapping: &Mapping, schema: &Schema, lead: &LeadFacts) -> RecordPlans {
    let plan = |object: Holds, find: Option<String>| {
        let mut plan = RecordPlan { find, ..RecordPlan::default() };
        for rule in mapping.rules.iter().filter(|rule| rule.object == object) {
            if let Carried::Value(value) = carried(rule, mapping, Some(schema), lead) {
                match rule.write {
                    Write::Always => plan.always.insert(rule.property.clone(), value),
                    Write::IfEmpty => plan.if_empty.insert(rule.property.clone(), value),
                };
            }
        }
        plan
    };
    let some = |plan: RecordPlan| (!plan.always.is_empty() || !plan.if_empty.is_empty()).then_some(plan);
    let lead_plan = {
        let mut plan = plan(Holds::Lead, Some(lead.data.id.clone()));
        plan.always.insert(Holds::Lead.found_by().to_owned(), Json::String(lead.data.id.clone()));
        plan
    };
    RecordPlans {
        company: some(plan(Holds::Company, lead.data.domain.clone())),
        contact: some(plan(Holds::Contact, lead.data.email.clone())),
        lead: Some(lead_plan),
        erase: false,
    }
}

/// One row of a sheet: its columns in order, and the values by column.
#[must_use]
pub fn row(mapping: &Mapping, lead: &LeadFacts) -> Json {
    let mut values = Map::new();
    for rule in &mapping.rules {
        if let Carried::Value(value) = carried(rule, mapping, None, lead) {
            values.insert(rule.property.clone(), value);
        }
    }
    let columns: Vec<&str> = mapping.rules.iter().map(|rule| rule.property.as_str()).collect();
    serde_json::json!({ "columns": columns, "values": values })
}

#[cfg(test)]
#[path = "values_tests.rs"]
mod tests;
