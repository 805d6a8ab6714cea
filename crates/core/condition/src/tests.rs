use std::collections::BTreeMap;

use serde_json::json;

use super::*;
use lumbo_formula::PlainLookup;

fn fields() -> Vec<Field> {
    serde_json::from_value(json!([
        {"id": "f1", "key": "pallets", "label": "Pallets", "type": "whole_number"},
        {"id": "f2", "key": "temperature", "label": "Temperature", "type": "choice", "options": [
            {"key": "frozen", "label": {"en": "Frozen"}}, {"key": "chilled", "label": {"en": "Chilled"}}]},
        {"id": "f3", "key": "budget", "label": "Budget", "type": "money"},
        {"id": "f4", "key": "start", "label": "Start", "type": "date"},
        {"id": "f5", "key": "blast", "label": "Blast freezing", "type": "yes_no"},
        {"id": "f6", "key": "goods", "label": "Goods", "type": "list"}
    ]))
    .unwrap()
}

fn decide(condition: serde_json::Value, values: &[(&str, Value)]) -> Truth {
    let condition: Condition = serde_json::from_value(condition).unwrap();
    let lookup = PlainLookup {
        values: values.iter().map(|(key, value)| ((*key).to_owned(), value.clone())).collect::<BTreeMap<_, _>>(),
        today: Some(jiff::civil::date(2026, 11, 23)),
        currency: "GBP".into(),
    };
    let context =
        crate::circumstances::Context { page: Some("/storage".into()), ..crate::circumstances::Context::default() };
    let facts = Facts {
        lookup: &lookup,
        scores: &Scored { points: Some(45), band: Some("warm") },
        around: crate::circumstances::Circumstances::of(&context),
    };
    ready(&condition, &fields()).unwrap().decide(facts)
}

fn compare(what: &str, is: &str, to: serde_json::Value) -> serde_json::Value {
    if to.is_null() {
        json!({"compare": {"what": what, "is": is}})
    } else {
        json!({"compare": {"what": what, "is": is, "to": to}})
    }
}

fn pallets(n: i64) -> (&'static str, Value) {
    ("pallets", Value::number(n.into()))
}

#[test]
fn every_operator_decides_on_a_known_answer() {
    use Truth::{False, True};
    for (is, to, at_200, at_60) in [
        ("is", json!("200"), True, False),
        ("is_not", json!("200"), False, True),
        ("is_one_of", json!(["60", "70"]), False, True),
        ("is_none_of", json!(["60", "70"]), True, False),
        ("at_least", json!("200"), True, False),
        ("at_most", json!("60"), False, True),
        ("more_than", json!("200"), False, False),
        ("less_than", json!("200"), False, True),
        ("between", json!(["50", "199"]), False, True),
        ("is_missing", json!(null), False, False),
        ("is_known", json!(null), True, True),
    ] {
        assert_eq!(
            (
                decide(compare("pallets", is, to.clone()), &[pallets(200)]),
                decide(compare("pallets", is, to), &[pallets(60)])
            ),
            (at_200, at_60),
            "{is}"
        );
    }
    assert_eq!(
        decide(compare("goods", "contains", json!("Peas")), &[("goods", Value::List { items: vec!["peas".into()] })]),
        True
    );
    let start =
        |date: &str| ("start", Value::Date { date: date.parse().unwrap(), precision: lumbo_value::Precision::Day });
    assert_eq!(decide(compare("start", "within_days", json!("56")), &[start("2027-01-18")]), True);
    assert_eq!(decide(compare("start", "within_days", json!("56")), &[start("2027-01-19")]), False);
    assert_eq!(decide(compare("start", "within_days", json!("56")), &[start("2026-11-22")]), False);
    assert_eq!(decide(compare("@score", "at_least", json!("45")), &[]), True);
    assert_eq!(decide(compare("@band", "is", json!("warm")), &[]), True);
    assert_eq!(decide(compare("@page", "is", json!("/Storage")), &[]), True);
}

#[test]
fn a_missing_answer_is_unknown_except_to_is_missing() {
    for is in ["is", "is_not", "at_least", "at_most"] {
        assert_eq!(decide(compare("pallets", is, json!("1")), &[]), Truth::Unknown, "{is}");
    }
    assert_eq!(decide(compare("pallets", "is_none_of", json!(["1"])), &[]), Truth::Unknown);
    assert_eq!(decide(compare("pallets", "is_missing", json!(null)), &[]), Truth::True);
    assert_eq!(decide(compare("pallets", "is_known", json!(null)), &[]), Truth::False);
}

#[test]
fn all_and_any_are_three_valued() {
    let (yes, no, unknown) = (
        compare("pallets", "at_least", json!("1")),
        compare("pallets", "less_than", json!("1")),
        compare("blast", "is", json!("yes")),
    );
    for (condition, expected) in [
        (json!({"all": [yes, unknown]}), Truth::Unknown),
        (json!({"all": [no, unknown]}), Truth::False),
        (json!({"any": [yes, unknown]}), Truth::True),
        (json!({"any": [no, unknown]}), Truth::Unknown),
        (json!({"all": []}), Truth::True),
        (json!({"any": []}), Truth::False),
    ] {
        assert_eq!(decide(condition.clone(), &[pallets(5)]), expected, "{condition}");
    }
}

#[test]
fn money_of_another_currency_never_compares() {
    let euros = ("budget", Value::Money { amount: 500.into(), currency: "EUR".into() });
    for is in ["is", "is_not", "at_least", "at_most"] {
        assert_eq!(decide(compare("budget", is, json!("100 GBP")), std::slice::from_ref(&euros)), Truth::False, "{is}");
    }
    assert_eq!(decide(compare("budget", "at_least", json!("100 EUR")), &[euros]), Truth::True);
}

#[test]
fn a_span_counts_by_its_low_end() {
    let span = (
        "pallets",
        Value::Number(Number { amount: 55.into(), low: Some(40.into()), high: Some(70.into()), unit: None }),
    );
    assert_eq!(decide(compare("pallets", "at_least", json!("50")), &[span]), Truth::False);
}

#[test]
fn a_condition_that_cannot_be_is_refused_with_a_sentence() {
    for (condition, says) in [
        (compare("palets", "is", json!("1")), "there is no field “palets”"),
        (compare("@settled", "is", json!("maybe")), "@settled: “maybe” is neither yes nor no"),
        (compare("temperature", "is", json!("warm")), "Temperature has no option “warm”"),
        (compare("temperature", "at_least", json!("frozen")), "“at least” does not fit temperature"),
        (compare("pallets", "between", json!("1")), "“from” takes 2 values, found 1"),
        (compare("pallets", "is", json!("many")), "pallets: “many” is not a number"),
        (compare("budget", "is", json!("100")), "budget: “100” is not money; write it as 100 GBP"),
    ] {
        let condition: Condition = serde_json::from_value(condition).unwrap();
        assert_eq!(ready(&condition, &fields()).unwrap_err(), says);
    }
}

#[test]
fn a_condition_reads_as_a_sentence() {
    let condition = json!({"all": [compare("pallets", "at_least", json!("1200")), {"any": [compare("temperature", "is",
        json!("frozen")), compare("blast", "is", json!("yes"))]}]});
    let condition: Condition = serde_json::from_value(condition).unwrap();
    assert_eq!(
        say(&condition, &fields(), "en"),
        "Pallets at least 1,200 and (Temperature is Frozen or Blast freezing is yes)"
    );
    let condition: Condition = serde_json::from_value(compare("pallets", "between", json!(["50", "199"]))).unwrap();
    assert_eq!(say(&condition, &fields(), "en"), "Pallets 50 to 199");
}
