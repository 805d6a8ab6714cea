//! What may be known about a prospect: a typed value, or a reason why there is none.

use std::fmt;

use jiff::civil::Date;
use rust_decimal::Decimal;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use serde_json::{Value as Json, json};

/// A typed value that a prospect gave or a formula worked out.
///
/// Amounts are decimals, never binary floating point.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(tag = "kind", rename_all = "snake_case")]
pub enum Value {
    /// Text, a company's name, an address of a mailbox or a page, a country's code.
    Text {
        /// The text as kept.
        text: String,
    },
    /// A phone number.
    Phone {
        /// E.164.
        number: String,
        /// Kept apart, where one was given.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        extension: Option<String>,
    },
    /// A person's name.
    Name(PersonName),
    /// A number, with its unit and, where the prospect gave a span, both ends.
    Number(Number),
    /// An amount of money.
    Money {
        /// The amount in whole units of the currency, with its decimals.
        #[schemars(with = "String")]
        amount: Decimal,
        /// ISO 4217 code.
        currency: String,
    },
    /// Yes or no.
    YesNo {
        /// True for yes.
        yes: bool,
    },
    /// A calendar date and how exact it was.
    Date {
        /// The date.
        #[schemars(with = "String")]
        date: Date,
        /// How exact the prospect was.
        precision: Precision,
    },
    /// One option's key.
    Choice {
        /// The key.
        key: String,
    },
    /// Several options' keys, in the order of the field's options.
    Choices {
        /// The keys.
        keys: Vec<String>,
    },
    /// Open words in a row.
    List {
        /// The items.
        items: Vec<String>,
    },
    /// A place or a postal address, with what is known of it.
    Place(Place),
    /// An explicit yes or no to a worded question.
    Consent {
        /// The version of the wording that was shown.
        wording: u32,
        /// When it was answered, RFC 3339.
        at: String,
        /// True for a yes; only a yes permits anything.
        #[serde(default = "yes", skip_serializing_if = "is_yes")]
        given: bool,
    },
}

fn yes() -> bool {
    true
}

#[allow(clippy::trivially_copy_pass_by_ref, reason = "serde hands over a reference")]
fn is_yes(given: &bool) -> bool {
    *given
}

/// A person's name as given and as split.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct PersonName {
    /// Given name or names; empty when only one word is known.
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub given: String,
    /// Family name with its particles; empty when only a given name is known.
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub family: String,
    /// The whole name as kept.
    pub full: String,
}

/// A number, perhaps a span, perhaps with a unit.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Number {
    /// The number; the middle of a span, rounded down for whole numbers.
    #[schemars(with = "String")]
    pub amount: Decimal,
    /// The low end where a span was given.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[schemars(with = "Option<String>")]
    pub low: Option<Decimal>,
    /// The high end where a span was given.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[schemars(with = "Option<String>")]
    pub high: Option<Decimal>,
    /// The unit, for quantities.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub unit: Option<String>,
}

/// A place or postal address, with what is known of it.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Place {
    /// Lines of a postal address above the town.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub lines: Vec<String>,
    /// Town.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub town: Option<String>,
    /// Region, county or state.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub region: Option<String>,
    /// Postcode.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub postcode: Option<String>,
    /// ISO 3166-1 alpha-2.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub country: Option<String>,
}

/// How exact a date was.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Precision {
    /// One day.
    Day,
    /// A week.
    Week,
    /// A month.
    Month,
    /// A quarter.
    Quarter,
    /// A year.
    Year,
}

/// Why a field has no value. Missing is not zero, not empty text and not "no".
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Missing {
    /// No ask has come up for it.
    NotAsked,
    /// The prospect used the skip.
    Skipped,
    /// The prospect has none, does not know, or would rather not.
    Declined,
    /// The tries ran out.
    NotReadable,
}

impl Value {
    /// A text value.
    pub fn text(text: impl Into<String>) -> Self {
        Self::Text { text: text.into() }
    }

    /// A plain number without span or unit.
    #[must_use]
    pub fn number(amount: Decimal) -> Self {
        Self::Number(Number { amount, low: None, high: None, unit: None })
    }

    /// A choice by its key.
    pub fn choice(key: impl Into<String>) -> Self {
        Self::Choice { key: key.into() }
    }

    /// The value as the command line and the API write it: amounts as decimal strings, unknown parts absent.
    #[must_use]
    pub fn to_json(&self) -> Json {
        match self {
            Self::Text { text } => json!(text),
            Self::Phone { number, .. } => json!(number),
            Self::Name(name) => {
                let mut map = serde_json::Map::new();
                for (key, part) in [("given", &name.given), ("family", &name.family)] {
                    if !part.is_empty() {
                        map.insert(key.to_owned(), json!(part));
                    }
                }
                map.insert("full".to_owned(), json!(name.full));
                Json::Object(map)
            }
            Self::Number(Number { amount, low: None, high: None, unit: None }) => json!(plain(*amount)),
            Self::Number(number) => {
                let mut map = serde_json::Map::new();
                map.insert("amount".to_owned(), json!(plain(number.amount)));
                for (key, end) in [("low", number.low), ("high", number.high)] {
                    if let Some(end) = end {
                        map.insert(key.to_owned(), json!(plain(end)));
                    }
                }
                if let Some(unit) = &number.unit {
                    map.insert("unit".to_owned(), json!(unit));
                }
                Json::Object(map)
            }
            Self::Money { amount, currency } => json!({"amount": amount.to_string(), "currency": currency}),
            Self::YesNo { yes } => json!(yes),
            Self::Date { date, precision } => json!({"date": date.to_string(), "precision": precision}),
            Self::Choice { key } => json!(key),
            Self::Choices { keys } => json!(keys),
            Self::List { items } => json!(items),
            Self::Place(place) => json!(place),
            Self::Consent { given, .. } => json!(given),
        }
    }
}

/// A decimal without trailing zeros.
#[must_use]
pub fn plain(amount: Decimal) -> String {
    amount.normalize().to_string()
}

/// A decimal with commas between thousands, for people.
#[must_use]
pub fn grouped(amount: Decimal) -> String {
    separated(amount, ',', '.')
}

/// A decimal with marks between thousands and before decimals.
pub fn separated(amount: Decimal, group: char, decimal: char) -> String {
    let text = plain(amount);
    let (sign, rest) = text.strip_prefix('-').map_or(("", text.as_str()), |rest| ("−", rest));
    let (whole, part) = rest.split_once('.').map_or((rest, ""), |(whole, part)| (whole, part));
    let mut out = String::from(sign);
    for (index, digit) in whole.chars().enumerate() {
        if index > 0 && (whole.len() - index).is_multiple_of(3) {
            out.push(group);
        }
        out.push(digit);
    }
    if !part.is_empty() {
        out.push(decimal);
        out.push_str(part);
    }
    out
}

/// An amount of money for people: `£246.00`, or the code where there is no common sign.
#[must_use]
pub fn money(amount: Decimal, currency: &str) -> String {
    let digits = crate::money::minor_units(currency);
    let fixed = format!(
        "{:.*}",
        digits as usize,
        amount.abs().round_dp_with_strategy(digits, rust_decimal::RoundingStrategy::MidpointAwayFromZero)
    );
    let (whole, part) = fixed.split_once('.').unwrap_or((fixed.as_str(), ""));
    let whole = grouped(whole.parse().unwrap_or_default());
    let number = if part.is_empty() { whole } else { format!("{whole}.{part}") };
    let sign = if amount.is_sign_negative() && !amount.is_zero() { "−" } else { "" };
    match currency {
        "GBP" => format!("{sign}£{number}"),
        "EUR" => format!("{sign}€{number}"),
        "USD" => format!("{sign}${number}"),
        code => format!("{sign}{code} {number}"),
    }
}

impl fmt::Display for Value {
    /// The value in plain words, without knowing option labels; `lumbo_reading::shown` knows them.
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Self::Text { text } => f.write_str(text),
            Self::Phone { number, .. } => f.write_str(number),
            Self::Name(name) => f.write_str(&name.full),
            Self::Number(number) => {
                match (number.low, number.high) {
                    (Some(low), Some(high)) => write!(f, "{} to {}", grouped(low), grouped(high))?,
                    _ => f.write_str(&grouped(number.amount))?,
                }
                number.unit.as_ref().map_or(Ok(()), |unit| write!(f, " {unit}"))
            }
            Self::Money { amount, currency } => f.write_str(&money(*amount, currency)),
            Self::YesNo { yes } => f.write_str(if *yes { "yes" } else { "no" }),
            Self::Date { date, .. } => write!(f, "{}", date.strftime("%-d %B %Y")),
            Self::Choice { key } => f.write_str(key),
            Self::Choices { keys } => f.write_str(&keys.join(", ")),
            Self::List { items } => f.write_str(&items.join(", ")),
            Self::Place(place) => {
                let parts = place
                    .lines
                    .iter()
                    .chain(&place.town)
                    .chain(&place.region)
                    .chain(&place.postcode)
                    .chain(&place.country);
                f.write_str(&parts.cloned().collect::<Vec<_>>().join(", "))
            }
            Self::Consent { given, .. } => f.write_str(if *given { "yes" } else { "no" }),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn numbers_are_shown_with_thousands_and_without_trailing_zeros() {
        for (amount, shown) in
            [("0", "0"), ("340", "340"), ("1200.50", "1,200.5"), ("-1234567", "−1,234,567"), ("999", "999")]
        {
            assert_eq!(grouped(amount.parse().unwrap()), shown);
        }
    }

    #[test]
    fn money_is_shown_with_the_digits_of_its_currency() {
        for (amount, code, shown) in [
            ("246", "GBP", "£246.00"),
            ("1999.995", "EUR", "€2,000.00"),
            ("-5", "USD", "−$5.00"),
            ("1200", "JPY", "JPY 1,200"),
            ("1.5", "KWD", "KWD 1.500"),
        ] {
            assert_eq!(money(amount.parse().unwrap(), code), shown);
        }
    }

    #[test]
    fn a_span_keeps_its_ends_and_leaves_out_what_is_unknown() {
        let span = Value::Number(Number { amount: 45.into(), low: Some(40.into()), high: Some(50.into()), unit: None });
        assert_eq!(span.to_json(), json!({"amount": "45", "low": "40", "high": "50"}));
        assert_eq!(span.to_string(), "40 to 50");
    }
}
