//! Evaluating a formula whose types fit.

use jiff::{Span, civil::Date};
use rust_decimal::prelude::{MathematicalOps, ToPrimitive};
use rust_decimal::{Decimal, RoundingStrategy};

use super::parse::{Kind, Node};
use super::types::column_type;
use super::{Lookup, RunError, TEXT_LIMIT, Type, cell_number};
use lumbo_value::Table;
use lumbo_value::money::minor_units;
use lumbo_value::{Precision, Value, plain};

/// A value while a formula runs.
#[derive(Debug, Clone, PartialEq)]
enum Cell {
    Text(String),
    Number(Decimal),
    Money(Decimal, String),
    YesNo(bool),
    Date(Date),
    List(Vec<String>),
}

/// A value, nothing where something is missing, or an error value.
type Result_ = Result<Option<Cell>, RunError>;

pub(super) fn run(node: &Node, tables: &[Table], lookup: &dyn Lookup) -> Result<Option<Value>, RunError> {
    let run = Run { tables, lookup };
    Ok(run.cell(node)?.map(|cell| match cell {
        Cell::Text(text) => Value::Text { text },
        Cell::Number(number) => Value::number(number),
        Cell::Money(amount, currency) => Value::Money { amount, currency },
        Cell::YesNo(yes) => Value::YesNo { yes },
        Cell::Date(date) => Value::Date { date, precision: Precision::Day },
        Cell::List(items) => Value::List { items },
    }))
}

fn known(value: &Value) -> Cell {
    match value {
        Value::Text { text } | Value::Phone { number: text, .. } => Cell::Text(text.clone()),
        Value::Name(name) => Cell::Text(name.full.clone()),
        Value::Number(number) => Cell::Number(number.amount),
        Value::Money { amount, currency } => Cell::Money(*amount, currency.clone()),
        Value::YesNo { yes } => Cell::YesNo(*yes),
        Value::Date { date, .. } => Cell::Date(*date),
        Value::Choice { key } => Cell::Text(key.clone()),
        Value::Choices { keys } => Cell::List(keys.clone()),
        Value::List { items } => Cell::List(items.clone()),
        Value::Place(_) => Cell::Text(value.to_string()),
        Value::Consent { given, .. } => Cell::YesNo(*given),
    }
}

macro_rules! present {
    ($value:expr) => {
        match $value? {
            Some(cell) => cell,
            None => return Ok(None),
        }
    };
}

struct Run<'a> {
    tables: &'a [Table],
    lookup: &'a dyn Lookup,
}

impl Run<'_> {
    fn cell(&self, node: &Node) -> Result_ {
        match &node.kind {
            Kind::Number(number) => Ok(Some(Cell::Number(*number))),
            Kind::Text(text) => Ok(Some(Cell::Text(text.clone()))),
            Kind::YesNo(yes) => Ok(Some(Cell::YesNo(*yes))),
            Kind::Name(name) => Ok(self.lookup.value(name).map(known)),
            Kind::Negate(inner) => Ok(Some(match present!(self.cell(inner)) {
                Cell::Money(amount, currency) => Cell::Money(-amount, currency),
                other => Cell::Number(-number(&other)),
            })),
            Kind::Percent(inner) => {
                let value = number(&present!(self.cell(inner)));
                value.checked_div(Decimal::ONE_HUNDRED).map(|value| Some(Cell::Number(value))).ok_or(RunError::Number)
            }
            Kind::Binary(mark, left, right) => {
                // An error on either side comes before a missing value.
                let (left, right) = (self.cell(left), self.cell(right));
                let (left, right) = (left?, right?);
                match (left, right) {
                    (Some(left), Some(right)) => binary(mark, &left, &right).map(Some),
                    _ => Ok(None),
                }
            }
            Kind::Call(name, arguments) => self.call(name, arguments),
        }
    }

    fn all(&self, arguments: &[Node]) -> Result<Option<Vec<Cell>>, RunError> {
        let mut out = Vec::with_capacity(arguments.len());
        let mut missing = false;
        for argument in arguments {
            match self.cell(argument)? {
                Some(cell) => out.push(cell),
                None => missing = true,
            }
        }
        Ok((!missing).then_some(out))
    }

    fn call(&self, name: &str, arguments: &[Node]) -> Result_ {
        match name {
            "IF" => {
                let Cell::YesNo(test) = present!(self.cell(&arguments[0])) else { return Ok(None) };
                match (test, arguments.get(2)) {
                    (true, _) => self.cell(&arguments[1]),
                    (false, Some(otherwise)) => self.cell(otherwise),
                    (false, None) => Ok(None),
                }
            }
            "AND" | "OR" => self.three_valued(arguments, name == "OR"),
            "ISMISSING" => Ok(Some(Cell::YesNo(self.cell(&arguments[0])?.is_none()))),
            "COALESCE" => {
                for argument in arguments {
                    if let Some(cell) = self.cell(argument)? {
                        return Ok(Some(cell));
                    }
                }
                Ok(None)
            }
            "SWITCH" => {
                let value = present!(self.cell(&arguments[0]));
                for pair in arguments[1..].chunks(2) {
                    match pair {
                        [case, result] => {
                            let case = present!(self.cell(case));
                            if binary("=", &value, &case)? == Cell::YesNo(true) {
                                return self.cell(result);
                            }
                        }
                        [otherwise] => return self.cell(otherwise),
                        _ => {}
                    }
                }
                Ok(None)
            }
            "LOOKUP" => {
                let value = present!(self.cell(&arguments[0]));
                self.look_up(&value, &arguments[1], &arguments[2])
            }
            "TODAY" => Ok(self.lookup.today().map(Cell::Date)),
            _ => {
                let Some(cells) = self.all(arguments)? else { return Ok(None) };
                plain_function(name, &cells, self.lookup.currency()).map(Some)
            }
        }
    }

    /// An error in any argument is the result (spreadsheets do not stop at the first that decides); then one that
    /// decides; then missing.
    fn three_valued(&self, arguments: &[Node], decides: bool) -> Result_ {
        let mut decided = false;
        let mut missing = false;
        for argument in arguments {
            match self.cell(argument)? {
                Some(Cell::YesNo(yes)) if yes == decides => decided = true,
                Some(_) => {}
                None => missing = true,
            }
        }
        Ok(if decided {
            Some(Cell::YesNo(decides))
        } else if missing {
            None
        } else {
            Some(Cell::YesNo(!decides))
        })
    }

    fn look_up(&self, value: &Cell, table: &Node, column: &Node) -> Result_ {
        let (Kind::Name(table), Kind::Name(column)) = (&table.kind, &column.kind) else { return Ok(None) };
        let Some(table) = self.tables.iter().find(|known| known.key == *table) else { return Ok(None) };
        let Some(index) = table.columns.iter().position(|known| known == column) else { return Ok(None) };
        let row = table.rows.iter().find(|row| {
            let first = row.first().map_or("", String::as_str);
            match value {
                Cell::Number(number) => cell_number(first) == Some(*number),
                Cell::Text(text) => folded(first) == folded(text),
                _ => false,
            }
        });
        let cell = row.and_then(|row| row.get(index)).ok_or(RunError::NoRow)?;
        Ok(Some(match column_type(table, index) {
            Type::Number => Cell::Number(cell_number(cell).ok_or(RunError::Number)?),
            _ => Cell::Text(cell.clone()),
        }))
    }
}

fn number(cell: &Cell) -> Decimal {
    match cell {
        Cell::Number(number) | Cell::Money(number, _) => *number,
        _ => Decimal::ZERO,
    }
}

fn text(cell: &Cell) -> String {
    match cell {
        Cell::Text(text) => text.clone(),
        Cell::Number(number) => plain(*number),
        Cell::Money(amount, currency) => lumbo_value::money(*amount, currency),
        Cell::Date(date) => date.to_string(),
        Cell::YesNo(yes) => if *yes { "yes" } else { "no" }.to_owned(),
        Cell::List(items) => items.join(", "),
    }
}

/// Texts compare without regard to case.
fn folded(text: &str) -> String {
    text.to_lowercase()
}

fn bounded(text: String) -> Result<Cell, RunError> {
    if text.chars().count() > TEXT_LIMIT { Err(RunError::Text) } else { Ok(Cell::Text(text)) }
}

fn binary(mark: &str, left: &Cell, right: &Cell) -> Result<Cell, RunError> {
    use std::cmp::Ordering;
    if mark == "&" {
        return bounded(format!("{}{}", text(left), text(right)));
    }
    if matches!(mark, "=" | "<>" | "<" | "<=" | ">" | ">=") {
        let order = match (left, right) {
            (Cell::Text(a), Cell::Text(b)) => folded(a).cmp(&folded(b)),
            (Cell::Money(_, a), Cell::Money(_, b)) if a != b => return Err(RunError::Currency),
            (Cell::Date(a), Cell::Date(b)) => a.cmp(b),
            (Cell::YesNo(a), Cell::YesNo(b)) => a.cmp(b),
            (a, b) => number(a).cmp(&number(b)),
        };
        return Ok(Cell::YesNo(match mark {
            "=" => order == Ordering::Equal,
            "<>" => order != Ordering::Equal,
            "<" => order == Ordering::Less,
            "<=" => order != Ordering::Greater,
            ">" => order == Ordering::Greater,
            _ => order != Ordering::Less,
        }));
    }
    if let (Cell::Date(date), Cell::Number(days)) | (Cell::Number(days), Cell::Date(date)) = (left, right) {
        let days = days.trunc().to_i32().ok_or(RunError::Date)?;
        let days = if mark == "-" { days.checked_neg().ok_or(RunError::Date)? } else { days };
        return days_on(*date, days);
    }
    if let (Cell::Date(a), Cell::Date(b)) = (left, right) {
        return Ok(Cell::Number(Decimal::from(days_between(*a, *b))));
    }
    let (a, b) = (number(left), number(right));
    let value = match mark {
        "+" => a.checked_add(b),
        "-" => a.checked_sub(b),
        "*" => a.checked_mul(b),
        "/" if b.is_zero() => return Err(RunError::DivisionByZero),
        "/" => a.checked_div(b),
        _ => power(a, b)?,
    };
    let value = value.ok_or(RunError::Number)?;
    Ok(match (left, right) {
        (Cell::Money(_, one), Cell::Money(_, other)) if one != other => return Err(RunError::Currency),
        (Cell::Money(..), Cell::Money(..)) if mark == "/" => Cell::Number(value),
        (Cell::Money(_, currency), _) | (_, Cell::Money(_, currency)) => Cell::Money(value, currency.clone()),
        _ => Cell::Number(value),
    })
}

/// Days from `b` to `a`; negative where `a` is earlier.
fn days_between(a: Date, b: Date) -> i32 {
    b.until(a).map_or(0, |span| span.get_days())
}

fn power(base: Decimal, exponent: Decimal) -> Result<Option<Decimal>, RunError> {
    if base.is_zero() && exponent.is_sign_negative() && !exponent.is_zero() {
        return Err(RunError::DivisionByZero);
    }
    if exponent.is_integer() {
        // Beyond this a decimal can hold only 0 and 1, and the loop inside would be long.
        let exponent = exponent.to_i64().filter(|n| n.abs() <= 10_000).ok_or(RunError::Number)?;
        return Ok(base.checked_powi(exponent));
    }
    // A root is an approximation to begin with; twenty decimals keep its last digits from showing.
    if base.is_sign_negative() {
        Err(RunError::Number)
    } else {
        Ok(base.checked_powd(exponent).map(|value| value.round_dp(20)))
    }
}

fn digits(cells: &[Cell]) -> Result<i32, RunError> {
    cells.get(1).map_or(Ok(0), |cell| number(cell).trunc().to_i32().filter(|n| n.abs() <= 28).ok_or(RunError::Number))
}

fn rounded(value: Decimal, digits: i32, strategy: RoundingStrategy) -> Result<Decimal, RunError> {
    if digits >= 0 {
        return Ok(value.round_dp_with_strategy(digits.unsigned_abs(), strategy));
    }
    let scale = Decimal::TEN.checked_powi(i64::from(-digits)).ok_or(RunError::Number)?;
    value
        .checked_div(scale)
        .map(|value| value.round_dp_with_strategy(0, strategy))
        .and_then(|value| value.checked_mul(scale))
        .ok_or(RunError::Number)
}

fn like(cell: &Cell, value: Decimal) -> Cell {
    match cell {
        Cell::Money(_, currency) => Cell::Money(value, currency.clone()),
        _ => Cell::Number(value),
    }
}

fn plain_function(name: &str, cells: &[Cell], currency: &str) -> Result<Cell, RunError> {
    let first = &cells[0];
    let count = |index: usize, default: usize| -> Result<usize, RunError> {
        cells.get(index).map_or(Ok(default), |cell| {
            number(cell).trunc().to_i64().and_then(|n| usize::try_from(n).ok()).ok_or(RunError::Number)
        })
    };
    match name {
        "NOT" => Ok(Cell::YesNo(*first == Cell::YesNo(false))),
        "MIN" | "MAX" | "SUM" => {
            let mut best = first.clone();
            for cell in &cells[1..] {
                best = match name {
                    "SUM" => binary("+", &best, cell)?,
                    _ => {
                        let mark = if name == "MIN" { "<" } else { ">" };
                        if binary(mark, cell, &best)? == Cell::YesNo(true) { cell.clone() } else { best }
                    }
                };
            }
            Ok(best)
        }
        "ROUND" => rounded(number(first), digits(cells)?, RoundingStrategy::MidpointAwayFromZero)
            .map(|value| like(first, value)),
        "ROUNDUP" => {
            rounded(number(first), digits(cells)?, RoundingStrategy::AwayFromZero).map(|value| like(first, value))
        }
        "ROUNDDOWN" => rounded(number(first), digits(cells)?, RoundingStrategy::ToZero).map(|value| like(first, value)),
        "INT" => Ok(Cell::Number(number(first).floor())),
        "MOD" => {
            let (value, by) = (number(first), number(&cells[1]));
            if by.is_zero() {
                return Err(RunError::DivisionByZero);
            }
            // The remainder takes the sign of the divisor.
            let rest = value.checked_rem(by).ok_or(RunError::Number)?;
            let rest = if !rest.is_zero() && rest.is_sign_negative() != by.is_sign_negative() {
                rest.checked_add(by).ok_or(RunError::Number)?
            } else {
                rest
            };
            Ok(Cell::Number(rest))
        }
        "ABS" => Ok(like(first, number(first).abs())),
        "LEN" => Ok(Cell::Number(Decimal::from(match first {
            Cell::List(items) => items.len(),
            other => text(other).chars().count(),
        }))),
        "LEFT" => Ok(Cell::Text(text(first).chars().take(count(1, 1)?).collect())),
        "RIGHT" => {
            let text = text(first);
            let skip = text.chars().count().saturating_sub(count(1, 1)?);
            Ok(Cell::Text(text.chars().skip(skip).collect()))
        }
        "MID" => {
            let start = count(1, 1)?.checked_sub(1).ok_or(RunError::Number)?;
            Ok(Cell::Text(text(first).chars().skip(start).take(count(2, 0)?).collect()))
        }
        "LOWER" => bounded(text(first).to_lowercase()),
        "UPPER" => bounded(text(first).to_uppercase()),
        "TRIM" => Ok(Cell::Text(text(first).split(' ').filter(|word| !word.is_empty()).collect::<Vec<_>>().join(" "))),
        "CONTAINS" => {
            let needle = folded(&text(&cells[1]));
            Ok(Cell::YesNo(match first {
                Cell::List(items) => items.iter().any(|item| folded(item) == needle),
                other => folded(&text(other)).contains(&needle),
            }))
        }
        "DATE" => date(number(first), number(&cells[1]), number(&cells[2])),
        "DAYS" => match (first, &cells[1]) {
            (Cell::Date(end), Cell::Date(start)) => Ok(Cell::Number(Decimal::from(days_between(*end, *start)))),
            _ => Err(RunError::Date),
        },
        "MONEY" => {
            let currency = cells.get(1).map_or_else(|| currency.to_owned(), text);
            let amount = rounded(
                number(first),
                i32::try_from(minor_units(&currency)).unwrap_or(2),
                RoundingStrategy::MidpointAwayFromZero,
            )?;
            Ok(Cell::Money(amount, currency))
        }
        _ => Ok(Cell::Number(number(first))),
    }
}

/// A date so many days on; an error value where it leaves the calendar, however far.
fn days_on(date: Date, days: i32) -> Result<Cell, RunError> {
    Span::new().try_days(days).and_then(|span| date.checked_add(span)).map(Cell::Date).map_err(|_| RunError::Date)
}

/// Months and days beyond their ends carry over: 30 February is 2 March.
fn date(year: Decimal, month: Decimal, day: Decimal) -> Result<Cell, RunError> {
    let whole = |value: Decimal| value.trunc().to_i32().ok_or(RunError::Date);
    let (year, month, day) = (whole(year)?, whole(month)?, whole(day)?);
    let year = i16::try_from(year).map_err(|_| RunError::Date)?;
    let first = Date::new(year, 1, 1).map_err(|_| RunError::Date)?;
    let months = month.checked_sub(1).ok_or(RunError::Date)?;
    let moved = Span::new().try_months(months).and_then(|span| first.checked_add(span)).map_err(|_| RunError::Date)?;
    days_on(moved, day.checked_sub(1).ok_or(RunError::Date)?)
}
