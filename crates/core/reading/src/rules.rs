//! The rules on a value, and what to say when one fails: what was heard, and what would pass.

use jiff::civil::Date;
use regex::Regex;
use rlibphonenumber::{PhoneNumber, enums::Region};
use rust_decimal::Decimal;

use super::domains::{DomainLists, NotCompany, not_company};
use super::{ReadContext, ReaderError, country, email, phone, shown};
use lumbo_formula as formula;
use lumbo_formula::{Formula, Lookup, Names};
use lumbo_language::{Language, Phrases, fill};
use lumbo_value::{Field, Rule, Table, Text};
use lumbo_value::{Number, Value, money};

/// Longest regular expression, in characters.
const PATTERN_LIMIT: usize = 500;
/// Name by which a formula rule may call the value that it judges, beside the field's own key.
pub const VALUE_NAME: &str = "value";

/// A rule with its parameters parsed.
#[derive(Debug, Clone)]
pub(super) enum Ready {
    Required,
    Length { min: Option<u32>, max: Option<u32> },
    Pattern(Regex),
    Range { min: Option<Decimal>, max: Option<Decimal> },
    Whole,
    CompanyAddress(DomainLists),
    FullName,
    PhoneCountry(Vec<String>),
    PhoneValid,
    NotPast,
    WithinDays(u32),
    AtLeast(u32),
    AtMost(u32),
    Formula(Box<Formula>, Text),
}

/// A value under judgement, with what is known beside it.
pub(super) struct Judged<'a> {
    pub key: &'a str,
    pub value: &'a Value,
    pub context: ReadContext<'a>,
}

impl Lookup for Judged<'_> {
    fn value(&self, key: &str) -> Option<&Value> {
        if key == self.key || key == VALUE_NAME {
            return Some(self.value);
        }
        self.context.known.and_then(|known| known.value(key))
    }
    fn today(&self) -> Option<Date> {
        self.context.today
    }
    fn currency(&self) -> &str {
        self.context.known.map_or("GBP", Lookup::currency)
    }
}

impl Ready {
    pub(super) fn new(rule: &Rule, field: &Field, fields: &[Field], tables: &[Table]) -> Result<Self, ReaderError> {
        let wrong = |says: String| ReaderError::Parameter { rule: rule.key(), says };
        let number = |text: &Option<String>| {
            text.as_ref()
                .map(|text| text.parse::<Decimal>().map_err(|_| wrong(format!("“{text}” is not a number"))))
                .transpose()
        };
        Ok(match rule {
            Rule::Required {} => Self::Required,
            Rule::Length { min, max } => Self::Length { min: *min, max: *max },
            Rule::Pattern { regex } => {
                if regex.chars().count() > PATTERN_LIMIT {
                    return Err(wrong(format!("a pattern has at most {PATTERN_LIMIT} characters")));
                }
                let built = regex::RegexBuilder::new(regex).size_limit(1 << 20).build();
                Self::Pattern(built.map_err(|error| {
                    wrong(format!("“{regex}” is not a regular expression: {}", last_line(&error.to_string())))
                })?)
            }
            Rule::Range { min, max } => {
                let (min, max) = (number(min)?, number(max)?);
                if min.zip(max).is_some_and(|(min, max)| min > max) {
                    return Err(wrong("the lowest is above the highest".to_owned()));
                }
                Self::Range { min, max }
            }
            Rule::Whole {} => Self::Whole,
            Rule::CompanyAddress { allow, deny } => {
                Self::CompanyAddress(DomainLists::of(allow, deny).map_err(|error| wrong(error.to_string()))?)
            }
            Rule::FullName {} => Self::FullName,
            Rule::PhoneCountry { countries } => {
                if let Some(unknown) = countries.iter().find(|code| !country::is_country(code)) {
                    return Err(wrong(format!("“{unknown}” is not a country’s two-letter code")));
                }
                Self::PhoneCountry(countries.clone())
            }
            Rule::PhoneValid {} => Self::PhoneValid,
            Rule::NotPast {} => Self::NotPast,
            Rule::WithinDays { days } => Self::WithinDays(*days),
            Rule::AtLeast { n } => Self::AtLeast(*n),
            Rule::AtMost { n } => Self::AtMost(*n),
            Rule::Formula { formula, message } => {
                let mut names: Vec<Field> =
                    fields.iter().filter(|other| other.key != field.key && other.key != VALUE_NAME).cloned().collect();
                names.push(field.clone());
                names.push(Field { key: VALUE_NAME.to_owned(), ..field.clone() });
                let compiled = formula::compile(formula, Names { fields: &names, tables })
                    .map_err(|error| wrong(error.to_string()))?;
                if compiled.gives() != formula::Type::YesNo {
                    return Err(wrong(format!(
                        "a formula of a rule gives yes or no; this one gives {}",
                        compiled.gives().name()
                    )));
                }
                Self::Formula(Box::new(compiled), message.clone())
            }
        })
    }

    /// Place in the documented order of rules.
    pub(super) fn order(&self) -> usize {
        match self {
            Self::Required => 0,
            Self::Length { .. } => 1,
            Self::Pattern(_) => 2,
            Self::Range { .. } => 3,
            Self::Whole => 4,
            Self::CompanyAddress(_) => 5,
            Self::FullName => 6,
            Self::PhoneCountry(_) => 7,
            Self::PhoneValid => 8,
            Self::NotPast => 9,
            Self::WithinDays(_) => 10,
            Self::AtLeast(_) => 11,
            Self::AtMost(_) => 12,
            Self::Formula(..) => 13,
        }
    }

    pub(super) fn key(&self) -> &'static str {
        match self {
            Self::Required => "required",
            Self::Length { .. } => "length",
            Self::Pattern(_) => "pattern",
            Self::Range { .. } => "range",
            Self::Whole => "whole",
            Self::CompanyAddress(_) => "company_address",
            Self::FullName => "full_name",
            Self::PhoneCountry(_) => "phone_country",
            Self::PhoneValid => "phone_valid",
            Self::NotPast => "not_past",
            Self::WithinDays(_) => "within_days",
            Self::AtLeast(_) => "at_least",
            Self::AtMost(_) => "at_most",
            Self::Formula(..) => "formula",
        }
    }

    /// Whether a value passes. What cannot be judged, for want of a day or of another field, passes.
    pub(super) fn holds(&self, judged: &Judged<'_>) -> bool {
        match (self, judged.value) {
            (Self::Length { min, max }, value) => {
                let length = value.to_string().chars().count();
                min.is_none_or(|min| length >= min as usize) && max.is_none_or(|max| length <= max as usize)
            }
            (Self::Pattern(pattern), value) => pattern.is_match(&value.to_string()),
            (Self::Range { min, max }, Value::Number(number)) => {
                let (low, high) = ends(number);
                min.is_none_or(|min| low >= min) && max.is_none_or(|max| high <= max)
            }
            (Self::Range { min, max }, Value::Money { amount, .. }) => {
                min.is_none_or(|min| *amount >= min) && max.is_none_or(|max| *amount <= max)
            }
            (Self::Whole, Value::Number(number)) => {
                let (low, high) = ends(number);
                low.is_integer() && high.is_integer() && (number.low.is_some() || number.amount.is_integer())
            }
            (Self::Whole, Value::Money { amount, .. }) => amount.is_integer(),
            (Self::CompanyAddress(own), Value::Text { text }) => {
                company_verdict(text, own, judged.context.domains).is_ok()
            }
            (Self::FullName, Value::Name(name)) => !name.given.is_empty() && !name.family.is_empty(),
            (Self::PhoneCountry(countries), Value::Phone { number, .. } | Value::Text { text: number }) => {
                region(number)
                    .is_some_and(|region| countries.iter().any(|code| phone::region(Some(code)) == Some(region)))
            }
            (Self::NotPast, Value::Date { date, precision }) => {
                judged.context.today.is_none_or(|today| shown::last_day(*date, *precision) >= today)
            }
            (Self::WithinDays(days), Value::Date { date, .. }) => judged
                .context
                .today
                .and_then(|today| today.checked_add(jiff::Span::new().days(i64::from(*days))).ok())
                .is_none_or(|last| *date <= last),
            (Self::AtLeast(n), value) => count(value).is_none_or(|count| count >= *n as usize),
            (Self::AtMost(n), value) => count(value).is_none_or(|count| count <= *n as usize),
            (Self::Formula(formula, _), _) => !matches!(formula.run(judged), Ok(Some(Value::YesNo { yes: false }))),
            _ => true,
        }
    }

    /// What was heard, and what would pass.
    pub(super) fn message(
        &self,
        judged: &Judged<'_>,
        phrases: &Phrases,
        unit: Option<&str>,
        language: &str,
        required_language: &str,
    ) -> String {
        let value = judged.value;
        let heard = match value {
            Value::Number(number) => shown::number_words(number, unit, language),
            other => other.to_string(),
        };
        match self {
            Self::Required => phrases.get("rule.required").to_owned(),
            Self::Length { min, max } => {
                let heard = heard.chars().count();
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
                let end = |end: &Option<Decimal>| {
                    end.map(|end| {
                        if let Value::Money { currency, .. } = value {
                            money(end, currency)
                        } else {
                            shown::digits(end, Language::get(language))
                        }
                    })
                    .unwrap_or_default()
                };
                fill(phrases.get(key), &[("heard", &heard), ("min", &end(min)), ("max", &end(max))])
            }
            Self::CompanyAddress(own) => {
                let Value::Text { text } = value else { return String::new() };
                let Err((domain, why)) = company_verdict(text, own, judged.context.domains) else {
                    return String::new();
                };
                fill(phrases.get(why), &[("heard", &domain)])
            }
            Self::PhoneCountry(countries) => {
                let names: Vec<String> = countries.iter().map(|code| country::country_name(code, language)).collect();
                let listed = super::joined(&names, phrases.get("or"));
                fill(
                    phrases.get("rule.phone_country"),
                    &[("heard", &phone::shown_value(value)), ("countries", &listed)],
                )
            }
            Self::NotPast => fill(phrases.get("rule.not_past"), &[("heard", &shown::date_words(value, language))]),
            Self::WithinDays(days) => fill(
                phrases.get("rule.within_days"),
                &[("heard", &shown::date_words(value, language)), ("days", &days.to_string())],
            ),
            Self::AtLeast(n) => fill(
                phrases.get("rule.at_least"),
                &[("n", &n.to_string()), ("heard", &count(value).unwrap_or(0).to_string())],
            ),
            Self::AtMost(n) => fill(
                phrases.get("rule.at_most"),
                &[("n", &n.to_string()), ("heard", &count(value).unwrap_or(0).to_string())],
            ),
            Self::Formula(_, message) => fill(message.get(language, required_language), &[("heard", &heard)]),
            Self::Pattern(_) | Self::Whole | Self::FullName | Self::PhoneValid => {
                fill(phrases.get(&format!("rule.{}", self.key())), &[("heard", &heard)])
            }
        }
    }
}

fn last_line(text: &str) -> &str {
    text.lines().last().unwrap_or(text).trim_start_matches("error: ")
}

fn ends(number: &Number) -> (Decimal, Decimal) {
    (number.low.unwrap_or(number.amount), number.high.unwrap_or(number.amount))
}

fn count(value: &Value) -> Option<usize> {
    match value {
        Value::Choices { keys } => Some(keys.len()),
        Value::List { items } => Some(items.len()),
        _ => None,
    }
}

/// The country a kept number belongs to.
fn region(e164: &str) -> Option<Region> {
    PhoneNumber::parse(e164, None::<Region>).ok()?.get_region_code()
}

/// ISO 3166-1 alpha-2 of the country that a phone number in E.164 belongs to.
///
/// ```
/// use lumbo_reading::phone_country;
/// assert_eq!(phone_country("+442079460588").as_deref(), Some("GB"));
/// assert_eq!(phone_country("a number"), None);
/// ```
#[must_use]
pub fn phone_country(e164: &str) -> Option<String> {
    region(e164)
        .map(|region| region.as_region_str().to_string())
        .filter(|code| code.bytes().all(|byte| byte.is_ascii_uppercase()))
}

/// The rule's own domains decide first, then the workspace's, then the shipped lists.
fn company_verdict(
    address: &str,
    own: &DomainLists,
    workspace: Option<&DomainLists>,
) -> Result<(), (String, &'static str)> {
    let Some(domain) = email::domain(address) else { return Ok(()) };
    let by_lists = || workspace.map_or_else(|| not_company(&domain), |lists| lists.not_company(&domain));
    let why = match own.decides(&domain).map_or_else(by_lists, |taken| (!taken).then_some(NotCompany::Denied)) {
        None => return Ok(()),
        Some(NotCompany::Denied) => "rule.company_address.denied",
        Some(NotCompany::Free) => "rule.company_address.free",
        Some(NotCompany::ThrowAway) => "rule.company_address.throwaway",
        Some(NotCompany::School) => "rule.company_address.school",
    };
    Err((domain, why))
}
