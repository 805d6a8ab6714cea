//! Conditions: three-valued, on what is known; and said in words.
//!
//! A comparison on a missing answer holds for `is missing` only. Inside a criterion it counts as unknown, so that the
//! score can say what it does not know; everywhere else unknown does not hold.

pub mod circumstances;
mod typed;
mod words;
mod written;

use jiff::civil::Date;
use rust_decimal::Decimal;

use circumstances::{CONTEXT_NAMES, Circumstances, WEEKDAYS, time_of_day};
use lumbo_formula::Lookup;
use lumbo_value::{Field, FieldType};
use lumbo_value::{Number, Value};

pub use typed::{TypedError, typed};
pub use words::{around_words, operator_words, say};
pub use written::{Comparison, Condition, Operand, Operator};

/// Deepest nesting of all and any.
pub const DEPTH_LIMIT: usize = 20;

/// Holds, does not hold, or cannot be told because answers are missing.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Truth {
    /// It holds.
    True,
    /// It does not.
    False,
    /// Answers are missing.
    Unknown,
}

impl Truth {
    fn of(holds: bool) -> Self {
        if holds { Self::True } else { Self::False }
    }

    /// Unknown does not hold.
    #[must_use]
    pub fn holds(self) -> bool {
        self == Self::True
    }
}

/// What a condition may read.
#[derive(Clone, Copy)]
pub struct Facts<'a> {
    /// Fields.
    pub lookup: &'a dyn Lookup,
    /// Points and bands, where they are known.
    pub scores: &'a dyn Scores,
    /// What is known without asking.
    pub around: Circumstances<'a>,
}

/// Points and bands by scorecard; without one, the dialogue's default.
pub trait Scores {
    /// The points so far.
    fn points(&self, card: Option<&str>) -> Option<i64>;
    /// The band's id, once a lead was filed by the card.
    fn band(&self, card: Option<&str>) -> Option<&str>;
    /// Whether only one band is left, whatever is still answered; nothing where that is not looked at.
    fn settled(&self) -> Option<bool> {
        None
    }
}

/// The same points and band by whatever card; nothing by default.
#[derive(Debug, Clone, Copy, Default)]
pub struct Scored<'a> {
    /// The points.
    pub points: Option<i64>,
    /// The band's id.
    pub band: Option<&'a str>,
}

impl Scores for Scored<'_> {
    fn points(&self, _card: Option<&str>) -> Option<i64> {
        self.points
    }

    fn band(&self, _card: Option<&str>) -> Option<&str> {
        self.band
    }
}

/// A condition with its values parsed.
#[derive(Debug, Clone)]
pub enum Ready {
    /// All of them.
    All(Vec<Ready>),
    /// Any of them.
    Any(Vec<Ready>),
    /// A comparison.
    Compare {
        /// What is compared.
        subject: Subject,
        /// How.
        is: Operator,
        /// With what.
        to: Vec<Comparand>,
    },
}

/// What a comparison is about.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Subject {
    /// A field by key.
    Field(String),
    /// The points by a scorecard; by the dialogue's default where none is named.
    Score(Option<String>),
    /// The band by a scorecard; by the dialogue's default where none is named.
    Band(Option<String>),
    /// Whether one band is left, by the dialogue's default scorecard.
    Settled,
    /// Something known without asking.
    Context(String),
}

/// A parsed value of a comparison.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Comparand {
    /// Folded text or an option's key.
    Text(String),
    /// A number.
    Number(Decimal),
    /// Money.
    Money(Decimal, String),
    /// Yes or no.
    YesNo(bool),
    /// A date.
    Date(Date),
}

/// Parses a condition's values by the types of the fields it reads.
///
/// # Errors
/// A sentence that says which comparison cannot be and why.
pub fn ready(condition: &Condition, fields: &[Field]) -> Result<Ready, String> {
    if condition.depth() > DEPTH_LIMIT {
        return Err(format!("a condition nests at most {DEPTH_LIMIT} deep"));
    }
    Ok(match condition {
        Condition::All(parts) => Ready::All(parts.iter().map(|part| ready(part, fields)).collect::<Result<_, _>>()?),
        Condition::Any(parts) => Ready::Any(parts.iter().map(|part| ready(part, fields)).collect::<Result<_, _>>()?),
        Condition::Compare(comparison) => compare_ready(comparison, fields)?,
    })
}

fn compare_ready(comparison: &Comparison, fields: &[Field]) -> Result<Ready, String> {
    let Comparison { what, is, to } = comparison;
    let values = to.as_ref().map_or(&[][..], |to| to.values());
    let (least, most) = is.takes();
    if !(least..=most).contains(&values.len()) {
        return Err(format!(
            "“{}” takes {} value{}, found {}",
            operator_words(*is),
            if least == most { least.to_string() } else { format!("{least} or more") },
            if most == 1 { "" } else { "s" },
            values.len()
        ));
    }
    if what == "@local_time" || what == "@weekday" {
        return clock_ready(what, *is, values);
    }
    let (subject, kind) = match what.as_str() {
        "@score" => (Subject::Score(None), FieldType::WholeNumber),
        "@band" => (Subject::Band(None), FieldType::Text),
        name if name.starts_with("@score.") => (Subject::Score(Some(name[7..].to_owned())), FieldType::WholeNumber),
        name if name.starts_with("@band.") => (Subject::Band(Some(name[6..].to_owned())), FieldType::Text),
        "@settled" => (Subject::Settled, FieldType::YesNo),
        name if CONTEXT_NAMES.contains(&name) => (Subject::Context(name[1..].to_owned()), FieldType::Text),
        key => {
            let field =
                fields.iter().find(|field| field.key == key).ok_or_else(|| format!("there is no field “{key}”"))?;
            if field.kind == FieldType::Choice || field.kind == FieldType::Choices {
                for value in values {
                    if !field.options.iter().any(|option| option.key == *value) {
                        return Err(format!("{} has no option “{value}”", field.label));
                    }
                }
            }
            (Subject::Field(key.to_owned()), field.kind)
        }
    };
    if !fits(kind, *is) {
        return Err(format!("“{}” does not fit {what}", operator_words(*is)));
    }
    let to = values
        .iter()
        .map(|value| comparand(kind, *is, value).map_err(|says| format!("{what}: {says}")))
        .collect::<Result<_, _>>()?;
    Ok(Ready::Compare { subject, is: *is, to })
}

/// A comparison with the prospect's clock.
fn clock_ready(what: &str, is: Operator, values: &[String]) -> Result<Ready, String> {
    use Operator as O;
    let time = what == "@local_time";
    let fits = match is {
        O::IsMissing | O::IsKnown => true,
        O::AtLeast | O::AtMost | O::MoreThan | O::LessThan | O::Between => time,
        O::Is | O::IsNot | O::IsOneOf | O::IsNoneOf => !time,
        O::Contains | O::WithinDays => false,
    };
    if !fits {
        return Err(format!("“{}” does not fit {what}", operator_words(is)));
    }
    let read = |value: &String| {
        if time {
            return time_of_day(value).ok_or_else(|| format!("“{value}” is not a time of day like 09:30"));
        }
        let folded = value.to_lowercase();
        if WEEKDAYS.contains(&folded.as_str()) {
            Ok(folded)
        } else {
            Err(format!("“{value}” is not a day of the week like monday"))
        }
    };
    let to = values.iter().map(|value| read(value).map(Comparand::Text)).collect::<Result<_, _>>()?;
    Ok(Ready::Compare { subject: Subject::Context(what[1..].to_owned()), is, to })
}

/// True where an operator makes sense for a type.
#[must_use]
pub fn fits(kind: FieldType, is: Operator) -> bool {
    use FieldType as T;
    use Operator as O;
    match is {
        O::IsMissing | O::IsKnown => true,
        O::Is | O::IsNot => !matches!(kind, T::Choices | T::List),
        O::IsOneOf | O::IsNoneOf => !matches!(kind, T::Choices | T::List | T::YesNo),
        O::AtLeast | O::AtMost | O::MoreThan | O::LessThan | O::Between => {
            matches!(kind, T::WholeNumber | T::Quantity | T::Money | T::Scale | T::Date)
        }
        O::Contains => matches!(
            kind,
            T::Choices | T::List | T::Text | T::LongText | T::Company | T::Email | T::Website | T::Place | T::Address
        ),
        O::WithinDays => kind == T::Date,
    }
}

fn comparand(kind: FieldType, is: Operator, value: &str) -> Result<Comparand, String> {
    let number = || value.trim().parse::<Decimal>().map_err(|_| format!("“{value}” is not a number"));
    match kind {
        _ if is == Operator::WithinDays => number().map(Comparand::Number),
        FieldType::WholeNumber | FieldType::Quantity | FieldType::Scale => number().map(Comparand::Number),
        FieldType::Money => {
            let (amount, code) =
                value.trim().split_once(' ').ok_or_else(|| format!("“{value}” is not money; write it as 100 GBP"))?;
            let amount = amount.parse().map_err(|_| format!("“{amount}” is not a number"))?;
            Ok(Comparand::Money(amount, code.trim().to_uppercase()))
        }
        FieldType::YesNo | FieldType::Consent => match value {
            "yes" => Ok(Comparand::YesNo(true)),
            "no" => Ok(Comparand::YesNo(false)),
            _ => Err(format!("“{value}” is neither yes nor no")),
        },
        FieldType::Date => {
            value.parse().map(Comparand::Date).map_err(|_| format!("“{value}” is not a date like 2027-01-05"))
        }
        FieldType::Choice | FieldType::Choices => Ok(Comparand::Text(value.to_owned())),
        _ => Ok(Comparand::Text(value.to_lowercase())),
    }
}

impl Ready {
    /// Decides the condition on what is known.
    #[must_use]
    pub fn decide(&self, facts: Facts<'_>) -> Truth {
        match self {
            Self::All(parts) => fold(parts, facts, Truth::False, Truth::True),
            Self::Any(parts) => fold(parts, facts, Truth::True, Truth::False),
            Self::Compare { subject, is, to } => compare(subject, *is, to, facts),
        }
    }

    /// Calls `visit` for every subject in it.
    pub fn each_subject<'a>(&'a self, visit: &mut impl FnMut(&'a Subject)) {
        match self {
            Self::All(parts) | Self::Any(parts) => parts.iter().for_each(|part| part.each_subject(visit)),
            Self::Compare { subject, .. } => visit(subject),
        }
    }
}

fn fold(parts: &[Ready], facts: Facts<'_>, decides: Truth, otherwise: Truth) -> Truth {
    let mut unknown = false;
    for part in parts {
        match part.decide(facts) {
            found if found == decides => return decides,
            Truth::Unknown => unknown = true,
            _ => {}
        }
    }
    if unknown { Truth::Unknown } else { otherwise }
}

fn compare(subject: &Subject, is: Operator, to: &[Comparand], facts: Facts<'_>) -> Truth {
    let context_value;
    let value = match subject {
        Subject::Field(key) => facts.lookup.value(key),
        Subject::Score(card) => {
            context_value = facts.scores.points(card.as_deref()).map(|score| Value::number(score.into()));
            context_value.as_ref()
        }
        Subject::Band(card) => {
            context_value = facts.scores.band(card.as_deref()).map(Value::text);
            context_value.as_ref()
        }
        Subject::Settled => {
            context_value = facts.scores.settled().map(|yes| Value::YesNo { yes });
            context_value.as_ref()
        }
        Subject::Context(name) => {
            context_value = facts.around.get(name).map(|text| Value::text(text.into_owned()));
            context_value.as_ref()
        }
    };
    match (is, value) {
        (Operator::IsMissing, value) => Truth::of(value.is_none()),
        (Operator::IsKnown, value) => Truth::of(value.is_some()),
        (_, None) => Truth::Unknown,
        (_, Some(value)) => Truth::of(holds(is, value, to, facts)),
    }
}

fn holds(is: Operator, value: &Value, to: &[Comparand], facts: Facts<'_>) -> bool {
    use std::cmp::Ordering as Order;
    let order = |to: &Comparand| order(value, to);
    let first = to.first();
    match is {
        Operator::Is => first.and_then(order) == Some(Order::Equal),
        Operator::IsNot => first.and_then(order).is_some_and(|order| order != Order::Equal),
        Operator::IsOneOf => to.iter().any(|to| order(to) == Some(Order::Equal)),
        Operator::IsNoneOf => to.iter().all(|to| order(to).is_some_and(|order| order != Order::Equal)),
        Operator::AtLeast => first.and_then(order).is_some_and(|order| order != Order::Less),
        Operator::AtMost => first.and_then(order).is_some_and(|order| order != Order::Greater),
        Operator::MoreThan => first.and_then(order) == Some(Order::Greater),
        Operator::LessThan => first.and_then(order) == Some(Order::Less),
        Operator::Between => {
            let from = first.and_then(order).is_some_and(|order| order != Order::Less);
            let until = to.get(1).and_then(order).is_some_and(|order| order != Order::Greater);
            // From 18:00 to 08:00 goes over midnight; only times of day are texts here.
            let over_midnight =
                matches!((first, to.get(1)), (Some(Comparand::Text(low)), Some(Comparand::Text(high))) if low > high);
            if over_midnight { from || until } else { from && until }
        }
        Operator::Contains => first.is_some_and(|to| contains(value, to)),
        Operator::WithinDays => match (value, first, facts.lookup.today()) {
            (Value::Date { date, .. }, Some(Comparand::Number(days)), Some(today)) => {
                today.until(*date).is_ok_and(|span| span.get_days() >= 0 && Decimal::from(span.get_days()) <= *days)
            }
            _ => false,
        },
        Operator::IsMissing | Operator::IsKnown => false,
    }
}

/// Compares a value with a parsed one; nothing where they cannot be compared. A span counts by its low end.
fn order(value: &Value, to: &Comparand) -> Option<std::cmp::Ordering> {
    match (value, to) {
        (Value::Number(Number { amount, low, .. }), Comparand::Number(to)) => Some(low.unwrap_or(*amount).cmp(to)),
        (Value::Money { amount, currency }, Comparand::Money(to, code)) => (currency == code).then(|| amount.cmp(to)),
        (Value::YesNo { yes }, Comparand::YesNo(to)) => Some(yes.cmp(to)),
        (Value::Consent { given, .. }, Comparand::YesNo(to)) => Some(given.cmp(to)),
        (Value::Date { date, .. }, Comparand::Date(to)) => Some(date.cmp(to)),
        (Value::Choice { key }, Comparand::Text(to)) => Some(key.as_str().cmp(to)),
        (Value::Text { .. } | Value::Phone { .. } | Value::Name(_) | Value::Place(_), Comparand::Text(to)) => {
            Some(value.to_string().to_lowercase().cmp(to))
        }
        _ => None,
    }
}

fn contains(value: &Value, to: &Comparand) -> bool {
    let Comparand::Text(to) = to else { return false };
    match value {
        Value::Choices { keys } => keys.contains(to),
        Value::List { items } => items.iter().any(|item| item.to_lowercase() == *to),
        other => other.to_string().to_lowercase().contains(to),
    }
}

/// True where a span's ends decide a comparison differently, so that the reason must say that the low end was used.
#[must_use]
pub fn span_decides(ready: &Ready, facts: Facts<'_>) -> bool {
    match ready {
        Ready::All(parts) | Ready::Any(parts) => parts.iter().any(|part| span_decides(part, facts)),
        Ready::Compare { subject: Subject::Field(key), is, to } => match facts.lookup.value(key) {
            Some(Value::Number(Number { low: Some(low), high: Some(high), .. })) => {
                let at = |end: &Decimal| holds(*is, &Value::number(*end), to, facts);
                at(low) != at(high)
            }
            _ => false,
        },
        Ready::Compare { .. } => false,
    }
}

#[cfg(test)]
mod tests;
