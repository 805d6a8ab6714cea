//! A condition as a sentence.

use crate::{Comparison, Condition, Operator};
use lumbo_value::grouped;
use lumbo_value::{Field, FieldType};

/// An operator in words.
#[must_use]
pub fn operator_words(is: Operator) -> &'static str {
    match is {
        Operator::Is => "is",
        Operator::IsNot => "is not",
        Operator::IsOneOf => "is one of",
        Operator::IsNoneOf => "is none of",
        Operator::AtLeast => "at least",
        Operator::AtMost => "at most",
        Operator::MoreThan => "more than",
        Operator::LessThan => "less than",
        Operator::Between => "from",
        Operator::Contains => "contains",
        Operator::WithinDays => "within",
        Operator::IsMissing => "is missing",
        Operator::IsKnown => "is known",
    }
}

/// Says a condition: "Pallets at least 200 and Temperature is Frozen".
#[must_use]
pub fn say(condition: &Condition, fields: &[Field], language: &str) -> String {
    said(condition, fields, language, false)
}

fn said(condition: &Condition, fields: &[Field], language: &str, inside: bool) -> String {
    let join = |parts: &[Condition], word: &str, empty: &str| {
        let text = parts.iter().map(|part| said(part, fields, language, true)).collect::<Vec<_>>().join(word);
        match parts.len() {
            0 => empty.to_owned(),
            1 => text,
            _ if inside => format!("({text})"),
            _ => text,
        }
    };
    match condition {
        Condition::All(parts) => join(parts, " and ", "always"),
        Condition::Any(parts) => join(parts, " or ", "never"),
        Condition::Compare(comparison) => compare(comparison, fields, language),
    }
}

fn compare(comparison: &Comparison, fields: &[Field], language: &str) -> String {
    let Comparison { what, is, to } = comparison;
    let field = fields.iter().find(|field| field.key == *what);
    let name = match what.as_str() {
        "@score" => "Score".to_owned(),
        "@band" => "Band".to_owned(),
        name if name.starts_with("@score.") => format!("Score by {}", &name[7..]),
        name if name.starts_with("@band.") => format!("Band by {}", &name[6..]),
        "@settled" => "Settled".to_owned(),
        context if context.starts_with('@') => around_words(context),
        key => field.map_or_else(|| key.to_owned(), |field| field.label.clone()),
    };
    let value = |value: &String| match field {
        Some(field) if field.kind == FieldType::Choice || field.kind == FieldType::Choices => field
            .options
            .iter()
            .find(|option| option.key == *value)
            .map_or_else(|| value.clone(), |option| option.label.get(language, language).to_owned()),
        Some(field) if matches!(field.kind, FieldType::WholeNumber | FieldType::Quantity) => {
            value.parse().map_or_else(|_| value.clone(), grouped)
        }
        _ => value.clone(),
    };
    let values: Vec<String> = to.as_ref().map_or(&[][..], |to| to.values()).iter().map(value).collect();
    let listed = match values.split_last() {
        Some((last, rest)) if !rest.is_empty() => format!("{} or {last}", rest.join(", ")),
        _ => values.join(""),
    };
    match is {
        Operator::IsMissing | Operator::IsKnown => format!("{name} {}", operator_words(*is)),
        Operator::Between => format!("{name} {}", values.join(" to ")),
        Operator::WithinDays => format!("{name} within {listed} days"),
        Operator::IsOneOf => format!("{name} is {listed}"),
        Operator::IsNoneOf => format!("{name} is not {listed}"),
        _ => format!("{name} {} {listed}", operator_words(*is)),
    }
}

/// Something known without asking, in words: `@time_zone` is "Time zone".
#[must_use]
pub fn around_words(name: &str) -> String {
    capital(&name.trim_start_matches('@').replace('_', " "))
}

fn capital(text: &str) -> String {
    let mut chars = text.chars();
    chars.next().map_or_else(String::new, |first| first.to_uppercase().chain(chars).collect())
}
