//! A value in plain words, in the language of the conversation, such that reading the words gives the value again.

use jiff::civil::Date;
use rust_decimal::Decimal;

use super::{phone, place, units};
use lumbo_language::Language;
use lumbo_value::money::minor_units;
use lumbo_value::{Field, FieldType};
use lumbo_value::{Number, PersonName, Precision, Value, separated};

/// Between the digits of a number, so that a line does not break there.
const THIN: char = '\u{202f}';

/// A value in plain words, with option labels and the field's unit.
#[must_use]
pub fn shown(field: &Field, value: &Value, language: &str, required_language: &str) -> String {
    let listed = Language::get(language);
    let label = |key: &str| {
        field
            .options
            .iter()
            .find(|option| option.key == key)
            .map_or_else(|| key.to_owned(), |option| option.label.get(language, required_language).to_owned())
    };
    match value {
        Value::Choice { key } => label(key),
        Value::Choices { keys } => keys.iter().map(|key| label(key)).collect::<Vec<_>>().join(", "),
        Value::YesNo { yes } => listed.phrase(if *yes { "yes" } else { "no" }).to_owned(),
        Value::Consent { given, .. } => listed.phrase(if *given { "yes" } else { "no" }).to_owned(),
        Value::Phone { number, extension } => phone::shown(number, extension.as_deref()),
        Value::Text { text } if field.kind == FieldType::Phone => phone::shown(text, None),
        Value::Text { text } if field.kind == FieldType::Country => super::country_name(text, language),
        Value::Number(number) => number_words(number, field.unit.as_deref(), language),
        Value::Money { amount, currency } => money_words(*amount, currency, listed),
        Value::Date { .. } => date_words(value, language),
        Value::Place(found) => place::shown(found, language),
        Value::Text { .. } | Value::Name(_) | Value::List { .. } => value.to_string(),
    }
}

/// A decimal with the language's separators.
pub(super) fn digits(amount: Decimal, language: &Language) -> String {
    separated(amount, if language.group == ' ' { THIN } else { language.group }, language.decimal)
}

/// A number or a span with its unit, in a language.
pub(super) fn number_words(number: &Number, unit: Option<&str>, tag: &str) -> String {
    let language = Language::get(tag);
    let words = match (number.low, number.high) {
        (Some(low), Some(high)) => {
            format!("{} {} {}", digits(low, language), language.phrase("to"), digits(high, language))
        }
        _ => digits(number.amount, language),
    };
    match number.unit.as_deref().or(unit) {
        Some("%") => format!("{words}%"),
        Some(unit) => format!("{words} {}", units::shown(unit, number.high.unwrap_or(number.amount), tag)),
        None => words,
    }
}

/// An amount of money with its sign or code, as the language writes it.
fn money_words(amount: Decimal, currency: &str, language: &Language) -> String {
    let least = minor_units(currency);
    let normal = amount.normalize();
    let scaled = if normal.scale() < least {
        let mut wide = normal;
        wide.rescale(least);
        wide
    } else {
        normal
    };
    let text = scaled.abs().to_string();
    let (whole, part) = text.split_once('.').unwrap_or((&text, ""));
    let whole = digits(whole.parse().unwrap_or_default(), language);
    let number = if part.is_empty() { whole } else { format!("{whole}{}{part}", language.decimal) };
    let minus = if amount.is_sign_negative() && !amount.is_zero() { "−" } else { "" };
    let sign = match currency {
        "GBP" => "£",
        "EUR" => "€",
        "USD" => "$",
        code => code,
    };
    let before = language.decimal == '.';
    if before && (sign.len() < 3 || sign == "€") {
        format!("{minus}{sign}{number}")
    } else if before {
        format!("{minus}{sign} {number}")
    } else {
        format!("{minus}{number} {sign}")
    }
}

/// The last day of the stretch that a date stands for.
pub(super) fn last_day(date: Date, precision: Precision) -> Date {
    let added = |span: jiff::Span| date.checked_add(span).unwrap_or(date);
    match precision {
        Precision::Day => date,
        // The last day of its week, whichever day of it was kept.
        Precision::Week => added(jiff::Span::new().days(6 - i64::from(date.weekday().to_monday_zero_offset()))),
        Precision::Month => date.last_of_month(),
        Precision::Quarter => {
            let ahead = (3 - (i32::from(date.month()) - 1) % 3) - 1;
            date.first_of_month().checked_add(jiff::Span::new().months(ahead)).map_or(date, Date::last_of_month)
        }
        Precision::Year => Date::new(date.year(), 12, 31).unwrap_or(date),
    }
}

/// A date in words, as exact as it was said.
pub(super) fn date_words(value: &Value, language: &str) -> String {
    let Value::Date { date, precision } = value else { return value.to_string() };
    let words = &Language::get(language).dates.shown;
    let month = |names: &[String]| names.get(usize::from(date.month().unsigned_abs()) - 1).cloned().unwrap_or_default();
    // A week is told by its Monday.
    let monday =
        date.checked_sub(jiff::Span::new().days(i64::from(date.weekday().to_monday_zero_offset()))).unwrap_or(*date);
    let named = if *precision == Precision::Week { monday } else { *date };
    let parts = |pattern: &str, month: String| {
        let quarter = (date.month() - 1) / 3 + 1;
        let year = named.year();
        lumbo_language::fill(
            pattern,
            &[
                ("day", &named.day().to_string()),
                ("month", &month),
                ("year", &year.to_string()),
                ("quarter", &quarter.to_string()),
            ],
        )
    };
    let (said, starts) = match precision {
        Precision::Day => return parts(&words.day, month(&words.day_months)),
        Precision::Week => (
            parts(
                &words.week,
                words.day_months.get(usize::from(monday.month().unsigned_abs()) - 1).cloned().unwrap_or_default(),
            ),
            date.weekday() == jiff::civil::Weekday::Monday,
        ),
        Precision::Month => (parts(&words.month, month(&words.months)), date.day() == 1),
        Precision::Quarter => (parts(&words.quarter, String::new()), date.day() == 1),
        Precision::Year => (date.year().to_string(), date.day() == 1),
    };
    if starts { said } else { lumbo_language::fill(&words.end, &[("period", &said)]) }
}

/// A part of a value for a chip: `given` and `family` of a name, `town` of a place.
#[must_use]
pub fn part(value: &Value, part: &str) -> Option<String> {
    let text = match (value, part) {
        (Value::Name(PersonName { given, .. }), "given") => given.clone(),
        (Value::Name(PersonName { family, .. }), "family") => family.clone(),
        (Value::Name(PersonName { full, .. }), "full") => full.clone(),
        (Value::Place(place), "town") => place.town.clone()?,
        (Value::Place(place), "region") => place.region.clone()?,
        (Value::Place(place), "postcode") => place.postcode.clone()?,
        (Value::Place(place), "country") => place.country.clone()?,
        _ => return None,
    };
    (!text.is_empty()).then_some(text)
}
