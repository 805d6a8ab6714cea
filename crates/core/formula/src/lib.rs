//! Formulas: typed text in the spreadsheet tradition, after OpenFormula (ODF 1.3 part 4) for the functions they share.
//!
//! [`compile`] reads the text, checks its types against the fields, and gives a [`Formula`] that [`Formula::run`]
//! evaluates. An error in the text points at the character. What differs from a spreadsheet: there are no blank cells
//! (a missing operand makes the result missing), yes/no and numbers do not mix, and rounding is decimal, half away from
//! zero.

mod labels;
mod lex;
mod parse;
mod run;
mod types;

use std::collections::BTreeMap;

use jiff::civil::Date;
use rust_decimal::Decimal;
use serde::Serialize;

use lumbo_value::Value;
use lumbo_value::{Field, FieldType, Table};

pub use labels::with_keys;

pub(crate) use parse::Node;

/// Longest formula, in characters.
pub const LENGTH_LIMIT: usize = 2_000;
/// Deepest nesting.
pub const DEPTH_LIMIT: usize = 50;
/// Longest text a formula can make, in characters.
pub const TEXT_LIMIT: usize = 10_000;

/// What a formula can give.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, schemars::JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Type {
    /// Text.
    Text,
    /// A number.
    Number,
    /// Money.
    Money,
    /// Yes or no.
    YesNo,
    /// A date.
    Date,
    /// Several keys or words.
    List,
}

impl Type {
    /// Its name in messages.
    #[must_use]
    pub fn name(self) -> &'static str {
        match self {
            Self::Text => "text",
            Self::Number => "a number",
            Self::Money => "money",
            Self::YesNo => "yes or no",
            Self::Date => "a date",
            Self::List => "a list",
        }
    }

    /// What a field of a type gives in a formula.
    #[must_use]
    pub fn of(kind: FieldType) -> Self {
        match kind {
            FieldType::WholeNumber | FieldType::Quantity | FieldType::Scale => Self::Number,
            FieldType::Money => Self::Money,
            FieldType::Date => Self::Date,
            FieldType::YesNo | FieldType::Consent => Self::YesNo,
            FieldType::Choices | FieldType::List => Self::List,
            _ => Self::Text,
        }
    }
}

/// An error in the text of a formula.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, thiserror::Error, schemars::JsonSchema)]
#[error("character {at}: {says}")]
pub struct FormulaError {
    /// Characters before the place.
    pub at: usize,
    /// What was expected.
    pub says: String,
}

/// An error while a formula runs; it leaves the field missing and is reported.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, serde::Deserialize, thiserror::Error, schemars::JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum RunError {
    /// Division by zero.
    #[error("it divides by zero")]
    DivisionByZero,
    /// A number too large or too small.
    #[error("a number grows too large")]
    Number,
    /// A date outside the calendar.
    #[error("a date falls outside the calendar")]
    Date,
    /// Money of two currencies.
    #[error("it mixes currencies")]
    Currency,
    /// LOOKUP found no row.
    #[error("the table has no such row")]
    NoRow,
    /// A text too long.
    #[error("a text grows too long")]
    Text,
}

/// What a formula sees as types: fields by key, and tables.
#[derive(Debug, Clone, Copy)]
pub struct Names<'a> {
    /// The fields.
    pub fields: &'a [Field],
    /// The tables.
    pub tables: &'a [Table],
}

/// What a formula sees as values.
pub trait Lookup {
    /// The value of a field by key.
    fn value(&self, key: &str) -> Option<&Value>;
    /// The day of TODAY.
    fn today(&self) -> Option<Date>;
    /// The currency of MONEY without a code.
    fn currency(&self) -> &str;
}

/// Plain values for tests and the command line.
#[derive(Debug, Clone, Default)]
pub struct PlainLookup {
    /// Values by key.
    pub values: BTreeMap<String, Value>,
    /// The day of TODAY.
    pub today: Option<Date>,
    /// The currency of MONEY.
    pub currency: String,
}

impl Lookup for PlainLookup {
    fn value(&self, key: &str) -> Option<&Value> {
        self.values.get(key)
    }
    fn today(&self) -> Option<Date> {
        self.today
    }
    fn currency(&self) -> &str {
        if self.currency.is_empty() { "GBP" } else { &self.currency }
    }
}

/// A formula that was read and whose types fit.
#[derive(Debug, Clone)]
pub struct Formula {
    root: Node,
    gives: Type,
    tables: Vec<Table>,
    reads: Vec<String>,
}

/// Reads a formula and checks its types.
///
/// # Errors
/// The character and what was expected there.
///
/// ```
/// use lumbo_formula::{compile, Names, PlainLookup};
/// let names = Names { fields: &[], tables: &[] };
/// let formula = compile("ROUND(2.5, 0) * 2", names).unwrap();
/// assert_eq!(formula.run(&PlainLookup::default()).unwrap().unwrap().to_string(), "6");
/// assert_eq!(compile("1 + ", names).unwrap_err().at, 4);
/// ```
pub fn compile(text: &str, names: Names<'_>) -> Result<Formula, FormulaError> {
    let length = text.chars().count();
    if length > LENGTH_LIMIT {
        return Err(FormulaError {
            at: LENGTH_LIMIT,
            says: format!("a formula has at most {LENGTH_LIMIT} characters; this one has {length}"),
        });
    }
    let tokens = lex::tokens(text)?;
    let root = parse::parse(&tokens, length)?;
    let gives = types::check(&root, names)?;
    let mut reads = Vec::new();
    root.each_name(&mut |name| {
        if !reads.iter().any(|known| known == name) {
            reads.push(name.to_owned());
        }
    });
    let tables = names.tables.iter().filter(|table| root.uses_table(&table.key)).cloned().collect();
    Ok(Formula { root, gives, tables, reads })
}

impl Formula {
    /// What it gives.
    #[must_use]
    pub fn gives(&self) -> Type {
        self.gives
    }

    /// Keys of the fields it reads, in order of first use.
    #[must_use]
    pub fn reads(&self) -> &[String] {
        &self.reads
    }

    /// The same formula, in which a field that is missing counts as what `start` gives: how a counter begins. A start
    /// that gives something else than the field holds is for the caller to refuse.
    ///
    /// ```
    /// use lumbo_formula::{compile, Names, PlainLookup};
    /// use lumbo_value::{Field, FieldType};
    /// let fields = [Field::plain("f".into(), "rounds".into(), "Rounds".into(), FieldType::WholeNumber)];
    /// let names = Names { fields: &fields, tables: &[] };
    /// let counts = compile("rounds + 1", names).unwrap();
    /// assert_eq!(counts.run(&PlainLookup::default()), Ok(None));
    /// let counts = counts.starting("rounds", &compile("0", names).unwrap());
    /// assert_eq!(counts.run(&PlainLookup::default()).unwrap().unwrap().to_string(), "1");
    /// ```
    #[must_use]
    pub fn starting(&self, key: &str, start: &Self) -> Self {
        let mut tables = self.tables.clone();
        tables.extend(start.tables.iter().filter(|table| !self.tables.contains(table)).cloned());
        let mut reads = self.reads.clone();
        reads.extend(start.reads.iter().filter(|name| !self.reads.contains(name)).cloned());
        Self { root: self.root.starting(key, &start.root), gives: self.gives, tables, reads }
    }

    /// True where values that are all there may still give nothing: a division by what may be zero, a power, a table
    /// that may lack the row, a date outside the calendar. Overflow and mixed currencies aside.
    ///
    /// ```
    /// use lumbo_formula::{compile, Names};
    /// let fails = |text| compile(text, Names { fields: &[], tables: &[] }).unwrap().can_fail();
    /// assert_eq!([fails("8 / 2"), fails("8 / (1 - 1)"), fails("2 ^ 3")], [false, true, true]);
    /// ```
    #[must_use]
    pub fn can_fail(&self) -> bool {
        self.root.can_fail()
    }

    /// Keys of the fields whose value, not only whether it is there, decides which operands are needed.
    ///
    /// ```
    /// use lumbo_formula::{compile, Names};
    /// use lumbo_value::{Field, FieldType};
    /// let field = |key: &str| Field::plain(key.into(), key.into(), key.into(), FieldType::YesNo);
    /// let fields = [field("one"), field("two")];
    /// let formula = compile("IF(one, two, TRUE)", Names { fields: &fields, tables: &[] }).unwrap();
    /// assert_eq!(formula.deciders(), ["one"]);
    /// ```
    #[must_use]
    pub fn deciders(&self) -> Vec<String> {
        let mut names = Vec::new();
        self.root.each_decider(&mut |name| names.push(name.to_owned()));
        names
    }

    /// Keys of the fields that it multiplies or raises to a power, in order of first use; what MIN caps is left out.
    ///
    /// ```
    /// use lumbo_formula::{compile, Names};
    /// use lumbo_value::{Field, FieldType};
    /// let field = |key: &str| Field::plain(key.into(), key.into(), key.into(), FieldType::WholeNumber);
    /// let fields = [field("guests"), field("days"), field("fee")];
    /// let reads = |text| compile(text, Names { fields: &fields, tables: &[] }).unwrap().multiplied();
    /// assert_eq!(reads("guests * MAX(days, 1) + fee"), ["guests", "days"]);
    /// assert!(reads("MIN(guests * 2, 500)").is_empty());
    /// ```
    #[must_use]
    pub fn multiplied(&self) -> Vec<String> {
        let mut names: Vec<String> = Vec::new();
        self.root.each_multiplied(&mut |name| {
            if !names.iter().any(|known| known == name) {
                names.push(name.to_owned());
            }
        });
        names
    }

    /// Evaluates it: a value, or nothing where something it needs is missing.
    ///
    /// # Errors
    /// Division by zero, overflow, mixed currencies, or a row that a table does not have.
    pub fn run(&self, lookup: &dyn Lookup) -> Result<Option<Value>, RunError> {
        run::run(&self.root, &self.tables, lookup)
    }

    /// Evaluates it as whole points, rounded half away from zero.
    ///
    /// # Errors
    /// As [`Formula::run`].
    pub fn points(&self, lookup: &dyn Lookup) -> Result<Option<i64>, RunError> {
        use rust_decimal::prelude::ToPrimitive;
        let Some(Value::Number(number)) = self.run(lookup)? else { return Ok(None) };
        let rounded = number.amount.round_dp_with_strategy(0, rust_decimal::RoundingStrategy::MidpointAwayFromZero);
        rounded.to_i64().filter(|points| points.abs() <= 1_000_000).map(Some).ok_or(RunError::Number)
    }
}

/// A decimal of a table's cell, where its column holds only numbers.
fn cell_number(cell: &str) -> Option<Decimal> {
    cell.parse().ok()
}

#[cfg(test)]
mod tests;
