//! Reading a prospect's reply into a field's value, and checking the rules on it.
//!
//! A [`Reader`] is built once per ask (or per `lumbo field` call); it holds the rules with their numbers parsed and
//! the options folded for comparison. [`Reader::read`] takes one reply and never panics, whatever the text.
//!
//! The steps: nothing said → control (declined) → the type's own reader finds a value and where it was heard →
//! every rule is checked → all that failed are named. One file per type; rules in `rules`.

mod choice;
mod company;
pub mod domains;
mod email;
mod name;
mod number;
mod phone;
mod rules;
mod yes_no;

use jiff::civil::Date;
use rust_decimal::Decimal;
use serde::{Deserialize, Serialize};

use crate::file::{Choice, Field, FieldType, Rule, Text, turn::TryMessage};
use crate::language::{Language, Phrases, fill, fold};
use crate::value::{Number, PersonName, Value, grouped};

pub use choice::Option_ as FoldedOption;
pub use email::is_address;
pub use name::split as split_name;

/// Longest reply that is read, in characters.
pub const REPLY_LIMIT: usize = 4_000;

/// Where in the reply something was heard; counts Unicode scalar values.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, schemars::JsonSchema)]
pub struct Heard {
    /// The words.
    pub text: String,
    /// Characters before it.
    pub start: usize,
    /// Characters up to its end.
    pub end: usize,
}

impl Heard {
    /// What stands between two byte positions of `raw`.
    #[must_use]
    pub fn at(raw: &str, start: usize, end: usize) -> Self {
        let text = raw.get(start..end).unwrap_or_default().to_owned();
        let before = raw.get(..start).unwrap_or_default().chars().count();
        let length = text.chars().count();
        Self { text, start: before, end: before + length }
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
enum Found {
    Value(Value, Heard),
    Nothing,
    /// More than one value, and no way to tell which is meant.
    Several(Heard),
    Tie(Vec<String>),
    /// Read, but its own built-in rule refuses it.
    Refused(Value, Heard, &'static str),
}

/// Looked-up facts that reading may use.
#[derive(Debug, Clone, Copy, Default)]
pub struct ReadContext<'a> {
    /// ISO 3166-1 alpha-2 of the prospect's country, where known.
    pub country: Option<&'a str>,
    /// Today in the dialogue's zone.
    pub today: Option<Date>,
    /// A name heard before that a reply may complete.
    pub earlier: Option<&'a Value>,
}

/// Reads replies for one field under one ask's rules.
#[derive(Debug, Clone)]
pub struct Reader {
    kind: FieldType,
    unit: Option<String>,
    required: bool,
    rules: Vec<rules::Ready>,
    options: Vec<choice::Option_>,
    positions: bool,
    language: &'static Language,
    phrases: Phrases,
    language_tag: String,
    required_language: String,
    messages: Vec<TryMessage>,
}

/// Why a reader cannot be built.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum ReaderError {
    /// A type whose reading this version does not have.
    #[error("replies of type {0} cannot be read yet")]
    Type(&'static str),
    /// A rule that this version cannot check.
    #[error("the rule {0} cannot be checked yet")]
    Rule(&'static str),
    /// A rule on a type that it does not fit.
    #[error("the rule {rule} does not fit the type {kind}")]
    Misfit {
        /// The rule's key.
        rule: &'static str,
        /// The type's name.
        kind: &'static str,
    },
    /// A parameter that is not a number, or a pattern that is no regular expression.
    #[error("the rule {rule}: {says}")]
    Parameter {
        /// The rule's key.
        rule: &'static str,
        /// What is wrong.
        says: String,
    },
    /// A choice without options.
    #[error("a {0} needs options")]
    NoOptions(&'static str),
}

impl Reader {
    /// Builds a reader for a field, with an ask's own rules, options and messages.
    ///
    /// # Errors
    /// A type or rule that this version cannot do, a rule that does not fit, or a parameter that is not what it should be.
    pub fn new(
        field: &Field,
        ask_rules: &[Rule],
        only: &[String],
        messages: &[TryMessage],
        language: &str,
        required_language: &str,
    ) -> Result<Self, ReaderError> {
        if !field.kind.can_be_read() {
            return Err(ReaderError::Type(field.kind.name()));
        }
        let mut ready = Vec::new();
        for rule in field.rules.iter().chain(ask_rules) {
            if !rule.can_be_checked() {
                return Err(ReaderError::Rule(rule.key()));
            }
            if !rule.fits(field.kind) {
                return Err(ReaderError::Misfit { rule: rule.key(), kind: field.kind.name() });
            }
            ready.push(rules::Ready::new(rule)?);
        }
        ready.sort_by_key(rules::Ready::order);
        let listed: Vec<&Choice> = field.options.iter().filter(|option| only.is_empty() || only.contains(&option.key)).collect();
        if field.kind == FieldType::Choice && listed.is_empty() {
            return Err(ReaderError::NoOptions(field.kind.name()));
        }
        let words = Language::get(language);
        let options = match field.kind {
            FieldType::YesNo => yes_no::options(words),
            _ => listed.iter().map(|option| choice::Option_::new(option, language, required_language)).collect(),
        };
        let positions = field.kind == FieldType::Choice && options.iter().all(|option: &choice::Option_| !option.is_number());
        Ok(Self {
            kind: field.kind,
            unit: field.unit.clone(),
            required: field.rules.iter().chain(ask_rules).any(|rule| *rule == Rule::Required),
            rules: ready,
            options,
            positions,
            language: words,
            phrases: Phrases::plain(language),
            language_tag: language.to_owned(),
            required_language: required_language.to_owned(),
            messages: messages.to_vec(),
        })
    }

    /// Lets an author's own wording of built-in phrases stand before the built-in one.
    #[must_use]
    pub fn wording(mut self, phrases: &Phrases) -> Self {
        self.phrases = phrases.clone();
        if self.kind == FieldType::YesNo {
            for option in &mut self.options {
                phrases.get(&option.key).clone_into(&mut option.label);
            }
        }
        self
    }

    /// Options a prospect can pick, as key and label.
    pub fn options(&self) -> impl Iterator<Item = (&str, &str)> {
        self.options.iter().map(|option| (option.key.as_str(), option.label.as_str()))
    }

    /// The value for a picked option's key, where there is such an option.
    #[must_use]
    pub fn pick(&self, key: &str) -> Option<Value> {
        self.options.iter().find(|option| option.key == key)?;
        Some(match self.kind {
            FieldType::YesNo => Value::YesNo { yes: key == "yes" },
            _ => Value::choice(key),
        })
    }

    /// True where an answer must be given.
    #[must_use]
    pub fn required(&self) -> bool {
        self.required
    }

    /// True where the whole reply is a way to skip.
    #[must_use]
    pub fn is_skip(&self, raw: &str) -> bool {
        self.language.skip.contains(&fold(raw))
    }

    /// Reads one reply; `tried` counts the failed tries before it and picks among the author's messages.
    #[must_use]
    pub fn read(&self, raw: &str, context: ReadContext<'_>, tried: u8) -> Reading {
        let characters = if raw.len() > REPLY_LIMIT { raw.chars().count() } else { 0 };
        if characters > REPLY_LIMIT {
            let message = fill(self.phrases.get("too_long"), &[("max", &grouped(Decimal::from(REPLY_LIMIT)))]);
            return Reading::Failed { failed: vec!["type"], message, heard: None, refused: None };
        }
        if raw.trim().is_empty() {
            let key = if self.required { "required" } else { "type" };
            return self.failure(vec![key], None, None, tried, None);
        }
        let folded = fold(raw);
        // An option that the author words "Don't know" is an answer, so options come before declining.
        if !self.options.is_empty()
            && let Found::Value(value, heard) = self.read_option(raw, &folded, false)
        {
            return Reading::Value { value, heard };
        }
        if self.declines(raw, &folded) {
            return Reading::Declined;
        }
        let found = match self.kind {
            FieldType::Text | FieldType::LongText => text(raw),
            FieldType::PersonName => name::read(raw, context.earlier),
            FieldType::Company => company::read(raw),
            FieldType::Email => email::read(raw),
            FieldType::Phone => phone::read(raw, context.country),
            FieldType::WholeNumber => number::read_whole(raw, self.language, self.unit.as_deref()),
            FieldType::YesNo | FieldType::Choice => self.read_option(raw, &folded, true),
            _ => Found::Nothing,
        };
        match found {
            Found::Nothing => self.failure(vec!["type"], None, None, tried, None),
            Found::Several(heard) => Reading::Failed { failed: vec!["type"], message: self.phrases.get("two").to_owned(), heard: Some(heard), refused: None },
            Found::Tie(keys) => Reading::Tie(keys),
            Found::Refused(value, heard, rule) => self.failure(vec![rule], Some(heard), Some(value), tried, None),
            Found::Value(value, heard) => {
                let failed: Vec<&rules::Ready> = self.rules.iter().filter(|rule| !rule.holds(&value)).collect();
                if failed.is_empty() {
                    return Reading::Value { value, heard };
                }
                let mut keys: Vec<&'static str> = failed.iter().map(|rule| rule.key()).collect();
                keys.dedup();
                let said = failed.iter().map(|rule| rule.message(&value, &self.phrases, self.unit.as_deref())).collect::<Vec<_>>().join(" ");
                self.failure(keys, Some(heard), Some(value), tried, Some(said))
            }
        }
    }

    fn declines(&self, raw: &str, folded: &str) -> bool {
        let said = if folded.is_empty() { raw.trim() } else { folded };
        let plain_no = matches!(self.kind, FieldType::Email | FieldType::Phone | FieldType::PersonName | FieldType::Company | FieldType::WholeNumber);
        self.kind != FieldType::YesNo && (self.language.declined.contains(said) || plain_no && self.language.no.contains(said))
            || self.kind == FieldType::YesNo && self.language.declined.contains(said) && !self.language.no.contains(said)
    }

    fn read_option(&self, raw: &str, folded: &str, typos: bool) -> Found {
        if self.kind == FieldType::YesNo {
            return yes_no::read(raw, folded, self.language);
        }
        match choice::matching(&self.options, folded, self.positions, typos) {
            choice::Match::One(key) => Found::Value(Value::choice(key), Heard::whole(raw)),
            choice::Match::Tie(keys) if typos => Found::Tie(keys),
            _ => Found::Nothing,
        }
    }

    fn failure(&self, failed: Vec<&'static str>, heard: Option<Heard>, refused: Option<Value>, tried: u8, said: Option<String>) -> Reading {
        let default = said.unwrap_or_else(|| match failed.first() {
            Some(&"required") => self.phrases.get("rule.required").to_owned(),
            Some(key @ (&"phone_valid" | &"whole")) => {
                fill(self.phrases.get(&format!("rule.{key}")), &[("heard", heard.as_ref().map_or("", |heard| heard.text.as_str()))])
            }
            _ => {
                let kind = if self.kind == FieldType::LongText { FieldType::Text } else { self.kind };
                self.phrases.get(&format!("type.{}", kind.name())).to_owned()
            }
        });
        let own = failed.iter().chain(std::iter::once(&"any")).find_map(|key| self.messages.iter().find(|message| message.on == *key));
        let message = own.and_then(|own| own.say.get(usize::from(tried)).or_else(|| own.say.last())).map_or(default, |text: &Text| {
            let heard = heard.as_ref().map_or("", |heard| heard.text.as_str());
            fill(text.get(&self.language_tag, &self.required_language), &[("heard", heard)])
        });
        Reading::Failed { failed, message, heard, refused }
    }

    /// The question that asks a tie back.
    #[must_use]
    pub fn tie_question(&self, keys: &[String]) -> String {
        let labels: Vec<&str> = self.options.iter().filter(|option| keys.contains(&option.key)).map(|option| option.label.as_str()).collect();
        let joined = match labels.split_last() {
            Some((last, rest)) if !rest.is_empty() => format!("{} {} {last}", rest.join(", "), self.phrases.get("or")),
            _ => labels.join(""),
        };
        fill(self.phrases.get("tie"), &[("candidates", &joined)])
    }
}

fn text(raw: &str) -> Found {
    let tidy: String = raw.split_whitespace().collect::<Vec<_>>().join(" ");
    let tidy: String = tidy.chars().filter(|c| !c.is_control()).collect();
    if tidy.is_empty() { Found::Nothing } else { Found::Value(Value::text(tidy), Heard::whole(raw)) }
}

/// A value in plain words, with option labels and the field's unit.
#[must_use]
pub fn shown(field: &Field, value: &Value, language: &str, required_language: &str) -> String {
    let label = |key: &str| {
        field.options.iter().find(|option| option.key == key).map_or_else(|| key.to_owned(), |option| option.label.get(language, required_language).to_owned())
    };
    match value {
        Value::Choice { key } => label(key),
        Value::Choices { keys } => keys.iter().map(|key| label(key)).collect::<Vec<_>>().join(", "),
        Value::YesNo { yes } => Language::get(language).phrase(if *yes { "yes" } else { "no" }).to_owned(),
        Value::Text { text } if field.kind == FieldType::Phone => phone::shown(text),
        Value::Number(Number { unit: None, .. }) => field.unit.as_ref().map_or_else(|| value.to_string(), |unit| format!("{value} {unit}")),
        _ => value.to_string(),
    }
}

/// A part of a value for a chip: `given` and `family` of a name.
#[must_use]
pub fn part(value: &Value, part: &str) -> Option<String> {
    let Value::Name(PersonName { given, family, full }) = value else { return None };
    let text = match part {
        "given" => given,
        "family" => family,
        "full" => full,
        _ => return None,
    };
    (!text.is_empty()).then(|| text.clone())
}

/// Reads a value from the JSON form that the command line and records use.
///
/// # Errors
/// A sentence that says what was expected for the type.
pub fn from_json(field: &Field, json: &serde_json::Value) -> Result<Value, String> {
    use serde_json::Value as Json;
    let decimal = |text: &str| text.parse::<Decimal>().map_err(|_| format!("{}: “{text}” is not a decimal number", field.key));
    match (field.kind, json) {
        (FieldType::Choice | FieldType::Scale, Json::String(key)) if field.kind == FieldType::Choice => {
            if field.options.iter().any(|option| option.key == *key) {
                Ok(Value::choice(key.clone()))
            } else {
                Err(format!("{}: there is no option “{key}”", field.key))
            }
        }
        (FieldType::WholeNumber | FieldType::Scale, Json::String(text)) => Ok(Value::number(decimal(text)?)),
        (FieldType::WholeNumber | FieldType::Scale, Json::Number(number)) => Ok(Value::number(decimal(&number.to_string())?)),
        (FieldType::WholeNumber | FieldType::Quantity, Json::Object(map)) => {
            let get = |key: &str| map.get(key).and_then(Json::as_str).map(decimal).transpose();
            let amount = get("amount")?.ok_or_else(|| format!("{}: amount is missing", field.key))?;
            let unit = map.get("unit").and_then(Json::as_str).map(str::to_owned);
            Ok(Value::Number(Number { amount, low: get("low")?, high: get("high")?, unit }))
        }
        (FieldType::Money, Json::Object(map)) => {
            let text = |key: &str| map.get(key).and_then(Json::as_str).ok_or_else(|| format!("{}: {key} is missing", field.key));
            Ok(Value::Money { amount: decimal(text("amount")?)?, currency: text("currency")?.to_owned() })
        }
        (FieldType::YesNo, Json::Bool(yes)) => Ok(Value::YesNo { yes: *yes }),
        (FieldType::Consent, Json::Bool(true)) => Ok(Value::Consent { wording: 0, at: String::new() }),
        (FieldType::Date, Json::Object(_) | Json::String(_)) => {
            let text = json.as_str().or_else(|| json.get("date").and_then(Json::as_str)).unwrap_or_default();
            let date = text.parse().map_err(|_| format!("{}: “{text}” is not a date like 2027-01-05", field.key))?;
            let precision = json.get("precision").and_then(|found| serde_json::from_value(found.clone()).ok()).unwrap_or(crate::value::Precision::Day);
            Ok(Value::Date { date, precision })
        }
        (FieldType::PersonName, Json::String(full)) => Ok(Value::Name(name::split(full))),
        (FieldType::PersonName, Json::Object(_)) => {
            serde_json::from_value(json.clone()).map(Value::Name).map_err(|_| format!("{}: a name is {{\"given\", \"family\", \"full\"}}", field.key))
        }
        (FieldType::Choices | FieldType::List, Json::Array(items)) => {
            let items: Option<Vec<String>> = items.iter().map(|item| item.as_str().map(str::to_owned)).collect();
            let items = items.ok_or_else(|| format!("{}: a list of texts is expected", field.key))?;
            Ok(if field.kind == FieldType::List { Value::List { items } } else { Value::Choices { keys: items } })
        }
        (FieldType::Place | FieldType::Address, Json::Object(_)) => Ok(Value::Place(crate::value::Place {
            town: json.get("town").and_then(Json::as_str).map(str::to_owned),
            region: json.get("region").and_then(Json::as_str).map(str::to_owned),
            postcode: json.get("postcode").and_then(Json::as_str).map(str::to_owned),
            country: json.get("country").and_then(Json::as_str).map(str::to_owned),
            lines: json
                .get("lines")
                .and_then(Json::as_array)
                .map(|lines| lines.iter().filter_map(Json::as_str).map(str::to_owned).collect())
                .unwrap_or_default(),
        })),
        (
            FieldType::Text | FieldType::LongText | FieldType::Company | FieldType::Email | FieldType::Phone | FieldType::Website | FieldType::Country,
            Json::String(text),
        ) => Ok(Value::text(text.clone())),
        _ => Err(format!("{}: {json} is not a value of type {}", field.key, field.kind.name())),
    }
}
