//! What one conversation said, as its lead shows it.

use std::collections::BTreeMap;

use jiff::Timestamp;
use jiff::civil::Date;
use jiff::tz::TimeZone;
use lumbo_condition::circumstances::only_zone;
use rust_decimal::Decimal;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

use lumbo_dialogue::file::{Field, FieldType};
use lumbo_dialogue::plan::Plan;
use lumbo_dialogue::score::ScoreResult;
use lumbo_dialogue::talk::{Held, State};
use lumbo_reading::domains::DomainLists;
use lumbo_reading::{from_json, phone_country, registrable, shown};
use lumbo_value::field::{Policy, Record};
use lumbo_value::{Missing, Value};

/// A field of a record, typed and as shown. A missing field has no such entry.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct RecordField {
    /// The field's immutable id.
    pub id: String,
    /// Its key at the time of filing.
    pub key: String,
    /// Its label at the time of filing.
    pub label: String,
    /// Its type.
    #[serde(rename = "type")]
    pub kind: FieldType,
    /// The record it belongs to.
    pub record: Record,
    /// The value, in the JSON form of its type.
    pub value: serde_json::Value,
    /// The value in plain words; of a consent also when, and to which wording.
    pub shown: String,
    /// True where they said that they are not sure of it.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub unsure: bool,
}

/// Why something that a turn asked for has no value.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct NotGiven {
    /// The field's label.
    pub label: String,
    /// Why; absent where a value was refused and the question stands open.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub why: Option<Missing>,
    /// What was said and refused by a rule, in plain words.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub refused: Option<String>,
}

/// What was asked for and not given, in the order of the fields: skipped, declined, not readable, or refused by a rule.
/// `language` is the dialogue's.
///
/// ```
/// use lumbo_records::not_given;
/// use lumbo_value::{Field, FieldType, Missing, Value};
/// let fields = [Field::plain("f_budget".into(), "budget".into(), "Budget".into(), FieldType::Money)];
/// let missing = [("f_budget".to_owned(), Missing::Declined)].into();
/// let rows = not_given(&fields, "en", &missing, &Default::default());
/// assert_eq!((rows[0].label.as_str(), rows[0].why), ("Budget", Some(Missing::Declined)));
/// assert!(not_given(&fields, "en", &Default::default(), &Default::default()).is_empty());
/// ```
#[must_use]
pub fn not_given(
    fields: &[Field],
    language: &str,
    missing: &BTreeMap<String, Missing>,
    refused: &BTreeMap<String, Value>,
) -> Vec<NotGiven> {
    let row = |field: &Field| {
        let why = missing.get(&field.id).copied().filter(|why| *why != Missing::NotAsked);
        let refused = refused.get(&field.id).map(|value| shown(field, value, language, language));
        (why.is_some() || refused.is_some()).then(|| NotGiven { label: field.label.clone(), why, refused })
    };
    fields.iter().filter_map(row).collect()
}

impl RecordField {
    /// The value as it was kept; nothing where this version cannot read it. Options are not looked up: one that was
    /// taken out of its field since is still what was said.
    #[must_use]
    pub fn typed(&self) -> Option<Value> {
        match (self.kind, self.value.as_str()) {
            (FieldType::Choice, Some(key)) => Some(Value::choice(key)),
            _ => {
                from_json(&Field::plain(self.id.clone(), self.key.clone(), String::new(), self.kind), &self.value).ok()
            }
        }
    }
}

/// What a lead must carry and lacks, each in words such as "Email or Phone": of every need the labels of its fields,
/// where none of them was given. `labels` are the fields' labels by their keys.
///
/// ```
/// use lumbo_records::lacks;
/// let needs = [vec!["company".to_owned()], vec!["email".to_owned(), "phone".to_owned()]];
/// let label = |key: &str| Some(key.to_uppercase());
/// assert_eq!(lacks(&needs, &label, &|key| key == "company"), ["EMAIL or PHONE"]);
/// assert!(lacks(&needs, &label, &|key| key != "email").is_empty());
/// ```
#[must_use]
pub fn lacks(
    needs: &[Vec<String>],
    label: &dyn Fn(&str) -> Option<String>,
    given: &dyn Fn(&str) -> bool,
) -> Vec<String> {
    let words = |need: &Vec<String>| {
        need.iter().map(|key| label(key).unwrap_or_else(|| key.clone())).collect::<Vec<_>>().join(" or ")
    };
    needs.iter().filter(|need| !need.is_empty() && !need.iter().any(|key| given(key))).map(words).collect()
}

/// Who they say they are.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize)]
pub struct Identity {
    /// The person's name.
    pub name: Option<String>,
    /// Their e-mail address.
    pub email: Option<String>,
    /// Their phone number, E.164.
    pub phone: Option<String>,
    /// The firm's name.
    pub company: Option<String>,
}

/// What one conversation said.
#[derive(Debug, Clone)]
pub struct Said {
    /// The conversation.
    pub conversation: Uuid,
    /// Who they are on the site they came from, where the site signed it.
    pub subject: Option<String>,
    /// Who they say they are.
    pub who: Identity,
    /// Registrable domain of a company address or website; never of a free-mail, throw-away or school domain.
    pub domain: Option<String>,
    /// Everything they said.
    pub fields: Vec<RecordField>,
    /// The same values with their policies, for those that belong to contact or company and are not who they are.
    pub values: Vec<(RecordField, Value, Policy)>,
    /// Place of the band from the lowest of its card, 0; -1 where ruled out.
    pub rank: i32,
    /// True where they went silent before the dialogue came to its File lead.
    pub unfinished: bool,
    /// True where it is filed early, and its owner chosen later.
    pub early: bool,
    /// Words that the lead is tagged with, by the arms that were taken.
    pub tags: Vec<String>,
    /// IANA name of the zone that their clock shows, where it is known.
    pub zone: Option<String>,
}

/// Where their clock is: as their browser said, else that of the country they named or of their phone number, where the
/// country has one clock.
fn zone(plan: &Plan, state: &State, phone: Option<&str>) -> Option<String> {
    let named = state.context.time_zone.as_deref();
    if let Some(name) = named.filter(|name| TimeZone::get(name).is_ok()) {
        return Some(name.to_owned());
    }
    let said = held(plan, state).find_map(|(field, held)| match &held.value {
        Value::Text { text } if field.kind == FieldType::Country => Some(text.clone()),
        Value::Place(place) => place.country.clone(),
        _ => None,
    });
    let country = said.or_else(|| phone.and_then(phone_country))?;
    only_zone(&country).map(str::to_owned)
}

/// Registrable domain of a company address, else of a website; never of a free-mail, throw-away or school domain.
#[must_use]
pub fn firm_domain(email: Option<&str>, website: Option<&str>, domains: &DomainLists) -> Option<String> {
    let of_email = email.and_then(|email| email.rsplit_once('@')).map(|(_, domain)| domain.to_lowercase());
    let of_website = website.and_then(registrable);
    let domain = [of_email, of_website].into_iter().flatten().find(|domain| domains.not_company(domain).is_none())?;
    Some(psl::domain_str(&domain).map_or_else(|| domain.clone(), str::to_owned))
}

/// The fields that have a value, in the order of the dialogue.
fn held<'a>(plan: &'a Plan, state: &'a State) -> impl Iterator<Item = (&'a Field, &'a Held)> {
    plan.file.fields.iter().filter_map(|field| Some((field, state.values.get(&field.id)?)))
}

/// When a consent was answered, and which wording it was.
fn answered(plan: &Plan, value: &Value) -> Option<String> {
    let Value::Consent { wording, at, .. } = value else { return None };
    let at: Timestamp = at.parse().ok()?;
    let at = at.to_zoned(plan.zone.clone()).strftime("%-d %B %Y, %H:%M").to_string();
    Some(format!(" ({at}, wording {wording})"))
}

fn record_field(plan: &Plan, field: &Field, held: &Held) -> RecordField {
    let value = &held.value;
    let words = shown(field, value, &plan.language, &plan.file.language);
    RecordField {
        id: field.id.clone(),
        key: field.key.clone(),
        label: field.label.clone(),
        kind: field.kind,
        record: field.record,
        value: value.to_json(),
        shown: words + &answered(plan, value).unwrap_or_default(),
        unsure: held.unsure,
    }
}

/// Everything that a conversation said so far, typed and as shown, in the order of the dialogue.
#[must_use]
pub fn fields(plan: &Plan, state: &State) -> Vec<RecordField> {
    held(plan, state).map(|(field, held)| record_field(plan, field, held)).collect()
}

/// Gathers what a conversation said so far.
#[must_use]
pub fn said(
    plan: &Plan,
    state: &State,
    conversation: Uuid,
    subject: Option<String>,
    score: Option<&ScoreResult>,
    domains: &DomainLists,
    unfinished: bool,
) -> Said {
    let mut identity: Vec<&str> = Vec::new();
    let mut first = |kind: FieldType| {
        let (field, held) = plan
            .file
            .fields
            .iter()
            .filter(|field| field.kind == kind)
            .find_map(|field| Some((field, state.values.get(&field.id)?)))?;
        identity.push(&field.id);
        Some(held.value.to_string())
    };
    let who = Identity {
        name: first(FieldType::PersonName),
        email: first(FieldType::Email),
        phone: first(FieldType::Phone),
        company: first(FieldType::Company),
    };
    let website = plan
        .file
        .fields
        .iter()
        .filter(|field| field.kind == FieldType::Website)
        .find_map(|field| state.values.get(&field.id));
    let website = website.map(|held| held.value.to_string());
    let domain = firm_domain(who.email.as_deref(), website.as_deref(), domains);
    let values = held(plan, state)
        .filter(|(field, _)| field.record != Record::Lead && !identity.contains(&field.id.as_str()))
        .map(|(field, held)| (record_field(plan, field, held), held.value.clone(), field.policy))
        .collect();
    let fields = fields(plan, state);
    let rank = score.map_or(0, |score| rank(plan, score));
    let zone = zone(plan, state, who.phone.as_deref());
    Said {
        conversation,
        subject,
        who,
        domain,
        fields,
        values,
        rank,
        unfinished,
        early: false,
        tags: state.tags.iter().cloned().collect(),
        zone,
    }
}

/// Place of a score's band on the card that gave it.
fn rank(plan: &Plan, score: &ScoreResult) -> i32 {
    let Some(band) = &score.band else { return -1 };
    let card = plan.cards.iter().find(|card| card.file.id == score.scorecard);
    let place = card.and_then(|card| card.file.bands.iter().position(|known| known.id == *band));
    place.map_or(0, |place| i32::try_from(place).unwrap_or(i32::MAX))
}

/// A value as it is looked for: one of its sides is set.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct TypedValue {
    /// The field by id.
    pub field: String,
    /// Words, an option's key, an address; folded.
    pub text: Option<String>,
    /// A number, an amount.
    pub number: Option<Decimal>,
    /// A date.
    pub date: Option<Date>,
    /// Yes or no.
    pub yes: Option<bool>,
}

/// Everything they said as it is looked for; several for a list.
#[must_use]
pub fn typed_values(plan: &Plan, state: &State) -> Vec<TypedValue> {
    let mut out = Vec::new();
    for (field, held) in plan.file.fields.iter().filter_map(|field| Some((field, state.values.get(&field.id)?))) {
        let typed = TypedValue { field: field.id.clone(), ..TypedValue::default() };
        let text =
            |text: &str| TypedValue { text: Some(super::fold(text).chars().take(500).collect()), ..typed.clone() };
        match &held.value {
            Value::Choices { keys } => out.extend(keys.iter().map(|key| text(key))),
            Value::List { items } => out.extend(items.iter().map(|item| text(item))),
            Value::Number(number) => out.push(TypedValue { number: Some(number.amount), ..typed }),
            Value::Money { amount, .. } => out.push(TypedValue { number: Some(*amount), ..typed }),
            Value::Date { date, .. } => out.push(TypedValue { date: Some(*date), ..typed }),
            Value::YesNo { yes } => out.push(TypedValue { yes: Some(*yes), ..typed }),
            Value::Consent { given, .. } => out.push(TypedValue { yes: Some(*given), ..typed }),
            Value::Choice { key } => out.push(text(key)),
            Value::Text { .. } | Value::Phone { .. } | Value::Name(_) | Value::Place(_) => {
                out.push(text(&held.value.to_string()));
            }
        }
    }
    out
}
