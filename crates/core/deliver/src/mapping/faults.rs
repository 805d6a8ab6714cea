//! What is wrong with a mapping before anything is sent.

use schemars::JsonSchema;
use serde::Serialize;

use lumbo_value::FieldType;

use super::{Fact, Holds, MapFrom, MapRule, Mapping, Property, PropertyKind, Schema};

/// A field that leads can carry, of one dialogue.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Offered {
    /// Its key.
    pub key: String,
    /// Its type.
    pub kind: FieldType,
    /// Keys of its options.
    pub options: Vec<String>,
    /// The dialogue's title.
    pub dialogue: String,
    /// Whether it is captured on every way that comes to a lead.
    pub always: bool,
}

/// What there is on our side.
#[derive(Debug, Clone, Default)]
pub struct Ours {
    /// Titles of the dialogues whose leads go there.
    pub dialogues: Vec<String>,
    /// Their fields.
    pub fields: Vec<Offered>,
    /// Names of their bands.
    pub bands: Vec<String>,
    /// What can become of a lead, as events say it.
    pub statuses: Vec<String>,
    /// Addresses of our people who can own leads.
    pub people: Vec<String>,
}

/// What is wrong.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum MappingFaultKind {
    /// It is required there, and nothing is written to it.
    NothingWritten,
    /// It is required there, and leads of these dialogues can come without.
    CanBeMissing(Vec<String>),
    /// There is no such property any more.
    NoProperty,
    /// No dialogue has this field.
    NoField(String),
    /// What the field holds cannot be written as what the property takes.
    OtherKind,
    /// These options have no counterpart there.
    NoOptions(Vec<String>),
    /// These of our people have no counterpart there.
    NoPeople(Vec<String>),
    /// Two rules write it.
    Twice,
}

impl MappingFaultKind {
    pub(super) fn is_other_kind(&self) -> bool {
        matches!(self, Self::OtherKind)
    }
}

/// Something wrong with one property.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, JsonSchema)]
pub struct MappingFault {
    /// Of which object.
    pub object: Holds,
    /// The property.
    pub property: String,
    /// What.
    pub what: MappingFaultKind,
}

/// Whether something that a field holds can be written as what a property takes.
fn fits(from: FieldType, to: PropertyKind) -> bool {
    use FieldType as F;
    match to {
        PropertyKind::Text | PropertyKind::LongText => true,
        PropertyKind::Number => matches!(from, F::WholeNumber | F::Quantity | F::Money | F::Scale),
        PropertyKind::Boolean => matches!(from, F::YesNo | F::Consent),
        PropertyKind::Date => from == F::Date,
        PropertyKind::Moment | PropertyKind::Person => false,
        PropertyKind::Option => matches!(from, F::Choice | F::Country | F::Text),
        PropertyKind::Options => matches!(from, F::Choice | F::Choices | F::List),
    }
}

fn fact_fits(fact: Fact, to: PropertyKind) -> bool {
    match to {
        PropertyKind::Text | PropertyKind::LongText => true,
        PropertyKind::Number => matches!(fact, Fact::Points | Fact::Amount),
        PropertyKind::Boolean => fact == Fact::Unfinished,
        PropertyKind::Date | PropertyKind::Moment => fact == Fact::FiledAt,
        PropertyKind::Option | PropertyKind::Options => {
            matches!(fact, Fact::Band | Fact::Status | Fact::Queue | Fact::Dialogue | Fact::Campaign | Fact::Currency)
        }
        PropertyKind::Person => fact == Fact::Owner,
    }
}

/// The type of answer that a fact about a person comes from.
fn answered_as(fact: Fact) -> Option<FieldType> {
    Some(match fact {
        Fact::Name | Fact::GivenName | Fact::FamilyName => FieldType::PersonName,
        Fact::Email => FieldType::Email,
        Fact::Phone => FieldType::Phone,
        Fact::Company => FieldType::Company,
        _ => return None,
    })
}

/// Facts that every lead has.
fn always(fact: Fact) -> bool {
    matches!(fact, Fact::Status | Fact::Dialogue | Fact::FiledAt | Fact::Link | Fact::Transcript | Fact::Unfinished)
}

/// Titles of the dialogues whose leads can come without what a rule reads.
fn missing_in(rule: &MapRule, ours: &Ours) -> Vec<String> {
    let known = |dialogue: &String, fits: &dyn Fn(&Offered) -> bool| {
        ours.fields.iter().any(|field| field.dialogue == *dialogue && field.always && fits(field))
    };
    let lacks = |dialogue: &&String| match &rule.from {
        MapFrom::Text(text) => text.trim().is_empty(),
        MapFrom::Field(key) => !known(dialogue, &|field| field.key == *key),
        MapFrom::Fact(fact) if always(*fact) => false,
        MapFrom::Fact(fact) => match answered_as(*fact) {
            Some(kind) => !known(dialogue, &|field| field.kind == kind),
            None => true,
        },
    };
    ours.dialogues.iter().filter(lacks).cloned().collect()
}

/// What is wrong with a mapping, in the order of the schema.
#[must_use]
pub fn mapping_faults(mapping: &Mapping, schema: &Schema, ours: &Ours) -> Vec<MappingFault> {
    let mut out = Vec::new();
    let mut fault = |object: Holds, property: &str, what: MappingFaultKind| {
        out.push(MappingFault { object, property: property.to_owned(), what });
    };
    for object in Holds::ALL {
        let mapped = object == Holds::Lead || mapping.rules.iter().any(|rule| rule.object == object);
        for property in schema.properties(object) {
            let rules: Vec<&MapRule> =
                mapping.rules.iter().filter(|rule| rule.object == object && rule.property == property.name).collect();
            let written = object == Holds::Lead && property.name == object.found_by();
            let Some(rule) = rules.first() else {
                if property.required && mapped && !written {
                    fault(object, &property.name, MappingFaultKind::NothingWritten);
                }
                continue;
            };
            if rules.len() > 1 {
                fault(object, &property.name, MappingFaultKind::Twice);
            }
            if let Some(what) = misfit(rule, property, mapping, schema, ours) {
                fault(object, &property.name, what);
            } else if property.required {
                let missing = missing_in(rule, ours);
                if !missing.is_empty() {
                    fault(object, &property.name, MappingFaultKind::CanBeMissing(missing));
                }
            }
        }
        for rule in mapping.rules.iter().filter(|rule| rule.object == object) {
            if schema.property(object, &rule.property).is_none() {
                fault(object, &rule.property, MappingFaultKind::NoProperty);
            }
        }
    }
    out
}

pub(super) fn misfit(
    rule: &MapRule,
    property: &Property,
    mapping: &Mapping,
    schema: &Schema,
    ours: &Ours,
) -> Option<MappingFaultKind> {
    let named = |key: &String| {
        let name = rule.options.get(key).unwrap_or(key);
        property.options.iter().any(|option| option.value == *name || option.label == *name)
    };
    let takes_options = matches!(property.kind, PropertyKind::Option | PropertyKind::Options);
    let unnamed = |keys: &[String]| {
        let mut keys: Vec<String> = keys.iter().filter(|key| !named(key)).cloned().collect();
        keys.sort();
        keys.dedup();
        (takes_options && !keys.is_empty()).then_some(MappingFaultKind::NoOptions(keys))
    };
    match &rule.from {
        MapFrom::Text(text) => match property.kind {
            PropertyKind::Option | PropertyKind::Options => unnamed(std::slice::from_ref(text)),
            PropertyKind::Number => {
                text.trim().parse::<rust_decimal::Decimal>().err().map(|_| MappingFaultKind::OtherKind)
            }
            PropertyKind::Text | PropertyKind::LongText => None,
            _ => Some(MappingFaultKind::OtherKind),
        },
        MapFrom::Field(key) => {
            let fields: Vec<&Offered> = ours.fields.iter().filter(|field| field.key == *key).collect();
            if fields.is_empty() {
                return Some(MappingFaultKind::NoField(key.clone()));
            }
            if !fields.iter().all(|field| fits(field.kind, property.kind)) {
                return Some(MappingFaultKind::OtherKind);
            }
            let keys: Vec<String> = fields.iter().flat_map(|field| field.options.iter().cloned()).collect();
            unnamed(&keys)
        }
        MapFrom::Fact(fact) if !fact_fits(*fact, property.kind) => Some(MappingFaultKind::OtherKind),
        MapFrom::Fact(Fact::Band) => unnamed(&ours.bands),
        MapFrom::Fact(Fact::Status) => unnamed(&ours.statuses),
        MapFrom::Fact(Fact::Owner) if property.kind == PropertyKind::Person => {
            let there = |address: &&String| match mapping.people.get(*address) {
                Some(id) => schema.people.iter().any(|person| person.id == *id),
                None => schema.people.iter().any(|person| person.email.eq_ignore_ascii_case(address)),
            };
            let lost: Vec<String> = ours.people.iter().filter(|address| !there(address)).cloned().collect();
            (!lost.is_empty()).then_some(MappingFaultKind::NoPeople(lost))
        }
        MapFrom::Fact(_) => None,
    }
}

#[cfg(test)]
#[path = "faults_tests.rs"]
mod tests;
