//! What `field` and `read` read: fields as SPEC describes them.

use anyhow::{Result, anyhow};
use jiff::civil::Date;
use lumbo_dialogue::file::{Choice, Field, FieldType, Rule, Text};
use lumbo_reading::{ReadContext, Reader, ReaderSpec};
use serde::Deserialize;
use serde_json::Value as Json;

/// One field of a SPEC.
#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
pub struct FieldSpec {
    /// Its name in the output of `read`, and in formulas.
    pub key: Option<String>,
    /// Its name for people.
    label: Option<String>,
    #[serde(rename = "type")]
    kind: FieldType,
    #[serde(default)]
    rules: Vec<Json>,
    unit: Option<String>,
    currency: Option<String>,
    #[serde(default)]
    options: Vec<SpecOption>,
    country: Option<String>,
    language: Option<String>,
    today: Option<Date>,
}

/// Where, when and in which language a reply was written.
#[derive(Clone, Default)]
pub struct Around {
    /// ISO 3166-1 alpha-2.
    pub country: Option<String>,
    /// A language's tag.
    pub language: Option<String>,
    /// The day that "tomorrow" counts from.
    pub today: Option<Date>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct SpecOption {
    key: String,
    label: Option<String>,
    #[serde(default)]
    also: Vec<String>,
}

impl Around {
    /// The language's tag; English where none is given.
    pub fn language(&self) -> &str {
        self.language.as_deref().unwrap_or("en")
    }

    /// What reading may use.
    pub fn context(&self) -> ReadContext<'_> {
        ReadContext { country: self.country.as_deref(), today: self.today, ..ReadContext::default() }
    }

    /// These, with others where they say nothing.
    pub fn or(&self, other: &Self) -> Self {
        Self {
            country: self.country.clone().or_else(|| other.country.clone()),
            language: self.language.clone().or_else(|| other.language.clone()),
            today: self.today.or(other.today),
        }
    }
}

impl FieldSpec {
    /// Where, when and in which language.
    pub fn around(&self) -> Around {
        Around { country: self.country.clone(), language: self.language.clone(), today: self.today }
    }

    /// The field, in a language.
    pub fn field(&self, language: &str) -> Result<Field> {
        let key = self.key.clone().unwrap_or_else(|| "field".to_owned());
        let options = self
            .options
            .iter()
            .map(|option| Choice {
                key: option.key.clone(),
                label: Text::new(language, option.label.clone().unwrap_or_else(|| option.key.clone())),
                also: option.also.clone(),
                hint: None,
                picture: None,
            })
            .collect();
        let rules = self.rules.iter().map(|rule| worded(rule, language)).collect::<Result<Vec<Rule>>>()?;
        let label = self.label.clone().unwrap_or_else(|| key.clone());
        Ok(Field {
            options,
            unit: self.unit.clone(),
            currency: self.currency.clone(),
            rules,
            ..Field::plain(key.clone(), key, label, self.kind)
        })
    }

    /// Words by which a free reply may name the field.
    pub fn names(&self) -> Vec<String> {
        self.key.iter().chain(&self.label).cloned().collect()
    }
}

/// Builds the reader of a field.
pub fn reader(field: &Field, language: &str) -> Result<Reader> {
    Reader::new(ReaderSpec::of(field, language)).map_err(|error| anyhow!("{}: {error}", field.key))
}

/// A rule whose message may be one plain text.
fn worded(rule: &Json, language: &str) -> Result<Rule> {
    let mut rule = rule.clone();
    if rule.get("rule").and_then(Json::as_str) == Some("formula") {
        let text = rule.get("message").cloned().unwrap_or_else(|| Json::String(String::new()));
        if text.is_string() {
            rule["message"] = serde_json::json!({ language: text });
        }
    }
    // Numbers may stand without quotes.
    for end in ["min", "max"] {
        if rule.get("rule").and_then(Json::as_str) == Some("range") && rule.get(end).is_some_and(Json::is_number) {
            rule[end] = Json::String(rule[end].to_string());
        }
    }
    serde_json::from_value(rule).map_err(|error| anyhow!("the spec does not fit: {error}"))
}
