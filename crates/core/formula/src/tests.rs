use serde_json::json;

use super::*;

fn fields() -> Vec<Field> {
    serde_json::from_value(json!([
        {"id": "f1", "key": "pallets", "label": "Pallets", "type": "whole_number"},
        {"id": "f2", "key": "cold", "label": "Cold", "type": "choice", "options": [{"key": "frozen",
            "label": {"en": "Frozen"}}, {"key": "chilled", "label": {"en": "Chilled"}}]},
        {"id": "f3", "key": "price", "label": "Price", "type": "money"},
        {"id": "f4", "key": "start", "label": "Start", "type": "date"},
        {"id": "f5", "key": "blast", "label": "Blast", "type": "yes_no"},
        {"id": "f6", "key": "goods", "label": "Goods", "type": "list"},
        {"id": "f7", "key": "note", "label": "Note", "type": "text"}
    ]))
    .unwrap()
}

fn tables() -> Vec<Table> {
    serde_json::from_value(json!([{"key": "rates", "columns": ["kind", "rate", "link"], "rows": [["frozen", "4.10",
        "https://a.example"], ["chilled", "3.35", "https://b.example"]]}]))
    .unwrap()
}

/// Pallets are 12, frozen, starting on 5 January 2027; everything else is missing. Today is 23 November 2026.
fn known() -> PlainLookup {
    let mut values = BTreeMap::new();
    values.insert("pallets".to_owned(), Value::number(12.into()));
    values.insert("cold".to_owned(), Value::choice("frozen"));
    values.insert(
        "start".to_owned(),
        Value::Date { date: jiff::civil::date(2027, 1, 5), precision: lumbo_value::Precision::Day },
    );
    values.insert("goods".to_owned(), Value::List { items: vec!["Peas".into(), "sorbet".into()] });
    PlainLookup { values, today: Some(jiff::civil::date(2026, 11, 23)), currency: "GBP".into() }
}

fn shown(text: &str) -> String {
    let (fields, tables) = (fields(), tables());
    match compile(text, Names { fields: &fields, tables: &tables }) {
        Err(error) => format!("{}: {}", error.at, error.says),
        Ok(formula) => match formula.run(&known()) {
            Err(error) => format!("error: {error}"),
            Ok(None) => "missing".to_owned(),
            Ok(Some(value)) => value.to_string(),
        },
    }
}

fn check(cases: &[(&str, &str)]) {
    for (text, expected) in cases {
        assert_eq!(shown(text), *expected, "{text}");
    }
}

#[test]
fn a_missing_operand_makes_the_result_missing_except_where_it_is_asked_about() {
    check(&[
        ("price * 2", "missing"),
        ("ISMISSING(price)", "yes"),
        ("ISMISSING(pallets)", "no"),
        ("COALESCE(price, MONEY(5))", "£5.00"),
        ("IF(blast, 1, 2)", "missing"),
        ("IF(pallets > 10, 1, 1 / 0)", "1"),
        ("IF(pallets > 20, 1)", "missing"),
        ("1 / 0 + AMOUNT", "8: there is no field “AMOUNT”"),
        ("IF(ISMISSING(price), 1/0, 2)", "error: it divides by zero"),
        ("COALESCE(1 / 0, 5)", "error: it divides by zero"),
    ]);
}

#[test]
fn and_or_not_are_three_valued() {
    check(&[
        ("AND(blast, FALSE)", "no"),
        ("AND(blast, TRUE)", "missing"),
        ("OR(blast, TRUE)", "yes"),
        ("OR(blast, FALSE)", "missing"),
        ("NOT(blast)", "missing"),
        ("OR(TRUE, 1 / 0 > 1)", "error: it divides by zero"),
    ]);
}

#[test]
fn tables_switches_texts_and_lists() {
    check(&[
        ("LOOKUP(cold, rates, rate) * pallets", "49.2"),
        ("LOOKUP(cold, rates, link)", "https://a.example"),
        ("LOOKUP(\"warm\", rates, rate)", "error: the table has no such row"),
        ("LOOKUP(cold, prices, rate)", "13: there is no table “prices”"),
        ("LOOKUP(cold, rates, cost)", "20: the table rates has no column “cost”; it has kind, rate, link"),
        ("SWITCH(cold, \"chilled\", 1, \"frozen\", 2, 3)", "2"),
        ("SWITCH(pallets, 1, \"one\", \"many\")", "many"),
        ("CONTAINS(goods, \"peas\")", "yes"),
        ("CONTAINS(\"Deep freeze\", \"FREEZE\")", "yes"),
        ("LEN(goods) & \" of \" & UPPER(LEFT(\"peas\", 1)) & MID(\"peas\", 2, 9)", "2 of Peas"),
        ("TRIM(\"  a   b \")", "a b"),
        ("MID(\"abc\", 0, 1)", "error: a number grows too large"),
    ]);
}

#[test]
fn dates_and_money_keep_their_kind() {
    check(&[
        ("DAYS(start, TODAY())", "43"),
        ("start - TODAY()", "43"),
        ("TODAY() + 14", "7 December 2026"),
        ("DATE(2026, 2, 30)", "2 March 2026"),
        ("DATE(99999, 1, 1)", "error: a date falls outside the calendar"),
        ("TODAY() + 99999999", "error: a date falls outside the calendar"),
        ("MONEY(pallets * 4.1)", "£49.20"),
        ("MONEY(1.005, \"EUR\")", "€1.01"),
        ("MONEY(1) + MONEY(1, \"EUR\")", "error: it mixes currencies"),
        ("MONEY(10) / MONEY(4)", "2.5"),
        ("MAX(MONEY(3), MONEY(5))", "£5.00"),
        ("MIN(start, TODAY())", "23 November 2026"),
    ]);
}

#[test]
fn types_are_checked_when_it_is_written_and_the_error_points_at_the_character() {
    check(&[
        ("", "0: expected a value: a number, a text between quotation marks, a field, or a function"),
        ("pallets + ", "10: expected a value: a number, a text between quotation marks, a field, or a function"),
        ("pallets cold", "8: expected an operator or the end, found “cold”"),
        ("palets * 2", "0: there is no field “palets”; did you mean “pallets”?"),
        ("cold = \"frozn\"", "7: cold has no option “frozn”; it has frozen, chilled"),
        ("pallets + TRUE", "8: “+” cannot join a number and yes or no"),
        ("note + 1", "5: “+” cannot join text and a number"),
        ("SUMM(1)", "0: there is no function SUMM; did you mean SUM?"),
        ("ROUND(1, 2, 3)", "0: ROUND takes 1 to 2 values, found 3"),
        ("IF(pallets, 1, 2)", "3: expected yes or no, found a number"),
        ("IF(blast, 1, \"a\")", "13: expected a number like the value before it, found text"),
        ("(1 + 2", "6: expected “)” for what opens at character 0"),
        ("\"open", "0: this text has no closing quotation mark"),
        ("1 ? 2", "2: “?” means nothing in a formula; texts stand between straight quotation marks"),
        ("1.2.3", "0: “1.2.3” is not a number; write decimals with a point"),
    ]);
}

#[test]
fn depth_size_and_numbers_are_bounded() {
    assert!(shown(&"(".repeat(3_000)).starts_with("2000: a formula has at most 2000 characters"));
    assert!(shown(&format!("{}1{}", "(".repeat(60), ")".repeat(60))).contains("nests at most 50 deep"));
    assert!(shown(&"-".repeat(400)).contains("nests at most 50 deep"));
    assert!(shown(&vec!["1"; 600].join("+")).contains("too long"));
    check(&[
        ("10 ^ 30", "error: a number grows too large"),
        ("2 ^ 99999", "error: a number grows too large"),
        ("0 ^ -1", "error: it divides by zero"),
        ("79228162514264337593543950335 + 1", "error: a number grows too large"),
        ("MOD(5, 0)", "error: it divides by zero"),
        ("(-8) ^ 0.5", "error: a number grows too large"),
        ("4 ^ 0.5", "2"),
    ]);
}
