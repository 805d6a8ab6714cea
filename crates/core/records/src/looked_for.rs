//! How a list of leads is looked at: what is looked for in any field, which columns it has, what it is sorted by.

use jiff::civil::Date;
use lumbo_value::Field;
use lumbo_value::field::FieldType;
use rust_decimal::Decimal;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use serde_json::{Map, Value as Json, json};

use super::{LeadStatus, fold};

/// Most tests of one list.
const TESTS: usize = 12;
/// Most values of one test.
const VALUES: usize = 30;
/// Longest value, characters.
const LONGEST: usize = 200;
/// Most columns beside those that every list has.
const COLUMNS: usize = 5;

/// How a list of leads is looked at.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(default, deny_unknown_fields)]
pub struct ListLook {
    /// What leads must hold, all of it; 12 at most.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub tests: Vec<ListTest>,
    /// Ids of fields that have a column; 5 at most.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub columns: Vec<String>,
    /// What it is sorted by; the order to call where absent.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub sort: Option<ListSort>,
}

/// What a field must hold.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct ListTest {
    /// The field's id; `@status`, `@band`, `@owner`, `@queue`, `@score`, `@tries` and `@filed` are the lead's own.
    pub field: String,
    /// How it is tested.
    pub op: ListOp,
    /// With what: keys of options, ids of people and queues, decimal numbers, ISO 8601 dates, `yes` and `no`, words.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub values: Vec<String>,
}

/// How a field is tested.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum ListOp {
    /// It holds one of the values.
    OneOf,
    /// It holds none of the values.
    NoneOf,
    /// Its text has these words in it.
    Has,
    /// A number or a date, this or more.
    AtLeast,
    /// A number or a date, this or less.
    AtMost,
    /// Something was said.
    Known,
    /// Nothing was said.
    Unknown,
}

/// What a list is sorted by.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct ListSort {
    /// The field's id; `@filed`, `@score`, `@tries`, `@name` and `@company` are the lead's own.
    pub by: String,
    /// True for the highest, the newest or the last of the alphabet first.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub down: bool,
}

/// What a field can be tested for and sorted by.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum ListHolds {
    /// Words.
    Words,
    /// One of listed values.
    Listed,
    /// A number.
    Number,
    /// A date.
    Date,
    /// Yes or no.
    YesNo,
}

/// What fields of a type are tested for.
///
/// ```
/// use lumbo_records::{ListHolds, list_holds};
/// use lumbo_value::field::FieldType;
/// assert_eq!(list_holds(FieldType::Money), ListHolds::Number);
/// assert_eq!(list_holds(FieldType::Consent), ListHolds::YesNo);
/// ```
#[must_use]
pub fn list_holds(kind: FieldType) -> ListHolds {
    match kind {
        FieldType::Choice | FieldType::Choices => ListHolds::Listed,
        FieldType::WholeNumber | FieldType::Quantity | FieldType::Money | FieldType::Scale => ListHolds::Number,
        FieldType::Date => ListHolds::Date,
        FieldType::YesNo | FieldType::Consent => ListHolds::YesNo,
        FieldType::Text
        | FieldType::LongText
        | FieldType::PersonName
        | FieldType::Company
        | FieldType::Email
        | FieldType::Phone
        | FieldType::Website
        | FieldType::Place
        | FieldType::Address
        | FieldType::List
        | FieldType::Country => ListHolds::Words,
    }
}

/// What the lead's own fields hold.
fn own(field: &str) -> Option<ListHolds> {
    match field {
        "@status" | "@band" | "@owner" | "@queue" => Some(ListHolds::Listed),
        "@score" | "@tries" => Some(ListHolds::Number),
        "@filed" => Some(ListHolds::Date),
        _ => None,
    }
}

impl ListLook {
    /// The tests as the store asks for them, every value read by its field's type:
    ///
    /// | key | what it holds |
    /// |---|---|
    /// | `tests` | tests on values of fields, each with its number `n` from 1 |
    /// | `nots` | fields that must not hold the `texts` or `yes`, or anything at all |
    /// | `status_in`, `status_out` and so on | values that a lead's own field must have, or must not |
    /// | `score_from`, `score_until` and so on | ends of a lead's own number or date, both included |
    ///
    /// # Errors
    /// A sentence that says which test cannot be asked, and what to do.
    pub fn ready(&self, fields: &[Field]) -> Result<Map<String, Json>, String> {
        if self.tests.len() > TESTS {
            return Err(format!("A list has at most {TESTS} filters. Take one out."));
        }
        if self.columns.len() > COLUMNS {
            return Err(format!("A list has at most {COLUMNS} columns of your choice. Take one out."));
        }
        let named = self.columns.iter().chain(self.sort.as_ref().map(|sort| &sort.by));
        if named.into_iter().any(|field| field.chars().count() > LONGEST) {
            return Err("There is no such field. Choose another column, or another order.".into());
        }
        let (mut out, mut tests, mut nots) = (Map::new(), Vec::new(), Vec::new());
        for test in &self.tests {
            if test.values.len() > VALUES || test.values.iter().any(|value| value.chars().count() > LONGEST) {
                return Err(format!("A filter has at most {VALUES} values of {LONGEST} characters each."));
            }
            if let Some(held) = own(&test.field) {
                own_test(&mut out, test, held)?;
                continue;
            }
            let field = fields.iter().find(|field| field.id == test.field);
            let field = field.ok_or("There is no such field any more. Take this filter out.")?;
            match field_test(field, test)? {
                (true, holds) => nots.push(holds),
                (false, mut holds) => {
                    holds.insert("n".into(), (tests.len() + 1).into());
                    tests.push(holds);
                }
            }
        }
        for (key, list) in [("tests", tests), ("nots", nots)] {
            if !list.is_empty() {
                out.insert(key.into(), list.into_iter().map(Json::Object).collect());
            }
        }
        Ok(out)
    }
}

/// The one value of a test.
fn only<'a>(test: &'a ListTest, label: &str) -> Result<&'a str, String> {
    match test.values.as_slice() {
        [one] if !one.trim().is_empty() => Ok(one.trim()),
        _ => Err(format!("Say what “{label}” is compared with.")),
    }
}

fn number(text: &str, label: &str) -> Result<Decimal, String> {
    text.parse().map_err(|_| format!("“{label}” is compared with a number, such as 200 or 12.5."))
}

fn date(text: &str, label: &str) -> Result<Date, String> {
    text.parse().map_err(|_| format!("“{label}” is compared with a day, such as 2026-11-30."))
}

fn cannot(label: &str) -> String {
    format!("“{label}” cannot be tested so. Choose another way.")
}

/// A test of a lead's own field.
fn own_test(out: &mut Map<String, Json>, test: &ListTest, held: ListHolds) -> Result<(), String> {
    let name = test.field.trim_start_matches('@');
    let key = match (held, test.op) {
        (ListHolds::Listed, ListOp::OneOf) => format!("{name}_in"),
        (ListHolds::Listed, ListOp::NoneOf) => format!("{name}_out"),
        (ListHolds::Number | ListHolds::Date, ListOp::AtLeast) => format!("{name}_from"),
        (ListHolds::Number | ListHolds::Date, ListOp::AtMost) => format!("{name}_until"),
        (ListHolds::Listed | ListHolds::Number | ListHolds::Date | ListHolds::Words | ListHolds::YesNo, _) => {
            return Err(cannot(name));
        }
    };
    let value = match held {
        ListHolds::Number => json!(number(only(test, name)?, name)?.to_string()),
        ListHolds::Date => json!(date(only(test, name)?, name)?.to_string()),
        ListHolds::Listed | ListHolds::Words | ListHolds::YesNo => {
            if test.values.is_empty() {
                return Err(format!("Choose at least one value for “{name}”."));
            }
            let status = |value: &String| name != "status" || LeadStatus::parse(value).is_some();
            if !test.values.iter().all(status) {
                return Err("There is no such status.".into());
            }
            json!(test.values)
        }
    };
    if out.insert(key, value).is_some() {
        return Err(format!("“{name}” is tested twice in the same way. Take one of the two out."));
    }
    Ok(())
}

/// A test of a field's values; true beside what they must not be.
fn field_test(field: &Field, test: &ListTest) -> Result<(bool, Map<String, Json>), String> {
    let label = field.label.as_str();
    let mut out = Map::new();
    out.insert("field".into(), json!(field.id));
    let mut put = |key: &str, value: Json| drop(out.insert(key.into(), value));
    let held = list_holds(field.kind);
    let negative = matches!(test.op, ListOp::NoneOf | ListOp::Unknown);
    match (held, test.op) {
        (_, ListOp::Known) => put("op", json!("known")),
        (_, ListOp::Unknown) => {}
        (ListHolds::Listed | ListHolds::Words, ListOp::OneOf | ListOp::NoneOf) => {
            if test.values.is_empty() {
                return Err(format!("Choose at least one value for “{label}”."));
            }
            put("op", json!("one_of"));
            put("texts", test.values.iter().map(|value| fold(value)).collect());
        }
        (ListHolds::YesNo, ListOp::OneOf | ListOp::NoneOf) => {
            put("op", json!("yes"));
            put("yes", json!(yes(only(test, label)?).ok_or_else(|| format!("“{label}” is yes or no."))?));
        }
        (ListHolds::Words, ListOp::Has) => {
            put("op", json!("has"));
            put("words", json!(fold(only(test, label)?)));
        }
        (ListHolds::Number, ListOp::AtLeast | ListOp::AtMost) => {
            put("op", json!(if test.op == ListOp::AtLeast { "at_least" } else { "at_most" }));
            put("number", json!(number(only(test, label)?, label)?.to_string()));
        }
        (ListHolds::Date, ListOp::AtLeast | ListOp::AtMost) => {
            put("op", json!(if test.op == ListOp::AtLeast { "at_least" } else { "at_most" }));
            put("day", json!(date(only(test, label)?, label)?.to_string()));
        }
        (
            ListHolds::Words | ListHolds::Listed | ListHolds::Number | ListHolds::Date | ListHolds::YesNo,
            ListOp::OneOf | ListOp::NoneOf | ListOp::Has | ListOp::AtLeast | ListOp::AtMost,
        ) => return Err(cannot(label)),
    }
    Ok((negative, out))
}

fn yes(text: &str) -> Option<bool> {
    match text {
        "yes" => Some(true),
        "no" => Some(false),
        _ => None,
    }
}

#[cfg(test)]
#[allow(clippy::unwrap_used, reason = "tests")]
mod tests {
    use super::*;

    fn field(id: &str, kind: FieldType) -> Field {
        Field::plain(id.into(), id.into(), format!("The {id}"), kind)
    }

    fn fields() -> Vec<Field> {
        vec![
            field("pallets", FieldType::Quantity),
            field("goods", FieldType::Choice),
            field("start", FieldType::Date),
            field("frozen", FieldType::YesNo),
            field("town", FieldType::Place),
        ]
    }

    fn ready(tests: &[(&str, ListOp, &[&str])]) -> Result<Json, String> {
        let test = |(field, op, values): &(&str, ListOp, &[&str])| ListTest {
            field: (*field).to_owned(),
            op: *op,
            values: values.iter().map(|value| (*value).to_owned()).collect(),
        };
        let look = ListLook { tests: tests.iter().map(test).collect(), ..ListLook::default() };
        look.ready(&fields()).map(Json::Object)
    }

    #[test]
    fn every_value_is_read_by_the_type_of_its_field() {
        assert_eq!(
            ready(&[
                ("pallets", ListOp::AtLeast, &["200"]),
                ("goods", ListOp::NoneOf, &["Fish"]),
                ("start", ListOp::AtMost, &["2026-12-31"]),
                ("town", ListOp::Has, &["Łódź"]),
                ("frozen", ListOp::OneOf, &["no"]),
                ("goods", ListOp::Unknown, &[]),
            ])
            .unwrap(),
            json!({
                "tests": [
                    {"n": 1, "field": "pallets", "op": "at_least", "number": "200"},
                    {"n": 2, "field": "start", "op": "at_most", "day": "2026-12-31"},
                    {"n": 3, "field": "town", "op": "has", "words": "łodz"},
                    {"n": 4, "field": "frozen", "op": "yes", "yes": false},
                ],
                "nots": [{"field": "goods", "op": "one_of", "texts": ["fish"]}, {"field": "goods"}],
            })
        );
        assert_eq!(
            ready(&[
                ("@status", ListOp::OneOf, &["won", "lost"]),
                ("@owner", ListOp::NoneOf, &[""]),
                ("@score", ListOp::AtLeast, &["40"]),
                ("@filed", ListOp::AtMost, &["2026-11-30"]),
            ])
            .unwrap(),
            json!({"status_in": ["won", "lost"], "owner_out": [""], "score_from": "40", "filed_until": "2026-11-30"})
        );
        assert_eq!(ready(&[]).unwrap(), json!({}));
    }

    #[test]
    fn what_cannot_be_asked_says_which_filter_and_what_to_do() {
        let says = |field: &str, op: ListOp, values: &[&str]| ready(&[(field, op, values)]).unwrap_err();
        assert_eq!(says("gone", ListOp::Known, &[]), "There is no such field any more. Take this filter out.");
        assert!(says("pallets", ListOp::AtLeast, &["many"]).contains("a number"));
        assert!(says("pallets", ListOp::AtLeast, &[]).contains("Say what"));
        assert!(says("start", ListOp::AtLeast, &["30/11/2026"]).contains("a day"));
        assert!(says("pallets", ListOp::Has, &["2"]).contains("cannot be tested so"));
        assert!(says("frozen", ListOp::OneOf, &["perhaps"]).contains("yes or no"));
        assert!(says("goods", ListOp::OneOf, &[]).contains("at least one"));
        assert!(says("@status", ListOp::OneOf, &["golden"]).contains("no such status"));
        assert!(says("@status", ListOp::AtLeast, &["won"]).contains("cannot be tested so"));
        assert!(says("town", ListOp::Has, &[&"x".repeat(201)]).contains("at most"));
        let twice: (&str, ListOp, &[&str]) = ("@score", ListOp::AtLeast, &["1"]);
        assert!(ready(&[twice, twice]).unwrap_err().contains("twice"));
        let long = ListLook { columns: vec!["x".repeat(201)], ..ListLook::default() };
        assert!(long.ready(&fields()).unwrap_err().contains("no such field"));
        let thirteen: (&str, ListOp, &[&str]) = ("goods", ListOp::Known, &[]);
        assert!(ready(&[thirteen; 13]).unwrap_err().contains("at most 12"));
    }

    #[test]
    fn a_kept_list_is_read_back_and_an_empty_one_is_empty() {
        assert_eq!(serde_json::from_str::<ListLook>("{}").unwrap(), ListLook::default());
        let look = json!({"tests": [{"field": "goods", "op": "none_of", "values": ["fish"]}], "columns": ["pallets"],
            "sort": {"by": "@filed", "down": true}});
        let read: ListLook = serde_json::from_value(look.clone()).unwrap();
        assert_eq!(serde_json::to_value(read).unwrap(), look);
        assert!(serde_json::from_value::<ListLook>(json!({"colour": "red"})).is_err());
    }
}
