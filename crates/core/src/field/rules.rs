//! The rules on a value, and what to say when one fails.

use rust_decimal::Decimal;

use super::domains::{NotCompany, is_under, not_company};
use super::{ReaderError, email};
use crate::file::Rule;
use crate::language::{Phrases, fill};
use crate::value::{Number, Value, grouped};

/// A rule with its parameters parsed.
#[derive(Debug, Clone)]
pub(super) enum Ready {
    Required,
    Length { min: Option<u32>, max: Option<u32> },
    Range { min: Option<Decimal>, max: Option<Decimal> },
    Whole,
    CompanyAddress { allow: Vec<String>, deny: Vec<String> },
    FullName,
    PhoneValid,
}

impl Ready {
    pub(super) fn new(rule: &Rule) -> Result<Self, ReaderError> {
        let number = |text: &Option<String>| {
            text.as_ref()
                .map(|text| text.parse::<Decimal>().map_err(|_| ReaderError::Parameter { rule: rule.key(), says: format!("“{text}” is not a number") }))
                .transpose()
        };
        let domains = |list: &[String]| list.iter().map(|domain| domain.trim().trim_start_matches('@').to_lowercase()).collect();
        Ok(match rule {
            Rule::Required => Self::Required,
            Rule::Length { min, max } => Self::Length { min: *min, max: *max },
            Rule::Range { min, max } => Self::Range { min: number(min)?, max: number(max)? },
            Rule::Whole => Self::Whole,
            Rule::CompanyAddress { allow, deny } => Self::CompanyAddress { allow: domains(allow), deny: domains(deny) },
            Rule::FullName => Self::FullName,
            Rule::PhoneValid => Self::PhoneValid,
            other => return Err(ReaderError::Rule(other.key())),
        })
    }

    /// Place in the documented order of rules.
    pub(super) fn order(&self) -> usize {
        match self {
            Self::Required => 0,
            Self::Length { .. } => 1,
            Self::Range { .. } => 3,
            Self::Whole => 4,
            Self::CompanyAddress { .. } => 5,
            Self::FullName => 6,
            Self::PhoneValid => 8,
        }
    }

    pub(super) fn key(&self) -> &'static str {
        match self {
            Self::Required => "required",
            Self::Length { .. } => "length",
            Self::Range { .. } => "range",
            Self::Whole => "whole",
            Self::CompanyAddress { .. } => "company_address",
            Self::FullName => "full_name",
            Self::PhoneValid => "phone_valid",
        }
    }

    pub(super) fn holds(&self, value: &Value) -> bool {
        match (self, value) {
            (Self::Length { min, max }, value) => {
                let length = value.to_string().chars().count();
                min.is_none_or(|min| length >= min as usize) && max.is_none_or(|max| length <= max as usize)
            }
            (Self::Range { min, max }, Value::Number(number)) => {
                let (low, high) = ends(number);
                min.is_none_or(|min| low >= min) && max.is_none_or(|max| high <= max)
            }
            (Self::Whole, Value::Number(number)) => number.amount.is_integer(),
            (Self::CompanyAddress { allow, deny }, Value::Text { text }) => company_verdict(text, allow, deny).is_ok(),
            (Self::FullName, Value::Name(name)) => !name.given.is_empty() && !name.family.is_empty(),
            _ => true,
        }
    }

    /// What was heard, and what would pass.
    pub(super) fn message(&self, value: &Value, phrases: &Phrases, unit: Option<&str>) -> String {
        let with_unit = |text: String| unit.map_or_else(|| text.clone(), |unit| format!("{text} {unit}"));
        match self {
            Self::Required => phrases.get("rule.required").to_owned(),
            Self::Length { min, max } => {
                let heard = value.to_string().chars().count();
                let short = min.is_some_and(|min| heard < min as usize);
                let key = if short { "rule.length.min" } else { "rule.length.max" };
                let limit = |limit: &Option<u32>| limit.map(|limit| limit.to_string()).unwrap_or_default();
                fill(phrases.get(key), &[("min", &limit(min)), ("max", &limit(max)), ("heard", &heard.to_string())])
            }
            Self::Range { min, max } => {
                let key = match (min, max) {
                    (Some(_), Some(_)) => "rule.range.between",
                    (Some(_), None) => "rule.range.min",
                    _ => "rule.range.max",
                };
                let end = |end: &Option<Decimal>| end.map(grouped).unwrap_or_default();
                fill(phrases.get(key), &[("heard", &with_unit(value.to_string())), ("min", &end(min)), ("max", &end(max))])
            }
            Self::Whole => fill(phrases.get("rule.whole"), &[("heard", &value.to_string())]),
            Self::CompanyAddress { allow, deny } => {
                let Value::Text { text } = value else { return String::new() };
                let Err((domain, why)) = company_verdict(text, allow, deny) else { return String::new() };
                fill(phrases.get(why), &[("heard", &domain)])
            }
            Self::FullName => fill(phrases.get("rule.full_name"), &[("heard", &value.to_string())]),
            Self::PhoneValid => fill(phrases.get("rule.phone_valid"), &[("heard", &value.to_string())]),
        }
    }
}

fn ends(number: &Number) -> (Decimal, Decimal) {
    (number.low.unwrap_or(number.amount), number.high.unwrap_or(number.amount))
}

/// The deny-list decides first, then the allow-list, then the shipped lists.
fn company_verdict(address: &str, allow: &[String], deny: &[String]) -> Result<(), (String, &'static str)> {
    let Some(domain) = email::domain(address) else { return Ok(()) };
    if deny.iter().any(|listed| is_under(&domain, listed)) {
        return Err((domain, "rule.company_address.denied"));
    }
    if allow.iter().any(|listed| is_under(&domain, listed)) {
        return Ok(());
    }
    match not_company(&domain) {
        None => Ok(()),
        Some(NotCompany::Free) => Err((domain, "rule.company_address.free")),
        Some(NotCompany::ThrowAway) => Err((domain, "rule.company_address.throwaway")),
        Some(NotCompany::School) => Err((domain, "rule.company_address.school")),
    }
}
