//! Checks against values from outside the project. Each names its source; the files in `data/` carry theirs too.

#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use lumbo_formula::{Names, PlainLookup, compile};
use lumbo_reading::{ReadContext, Reader, ReaderSpec, Reading, is_address};
use lumbo_value::Value;
use lumbo_value::{Field, FieldType};

fn field(kind: FieldType) -> Field {
    serde_json::from_value(serde_json::json!({"id": "f", "key": "f", "label": "F", "type": kind})).unwrap()
}

/// WHATWG e-mail rule: 185 addresses of the corpus in npm isemail 1.2.0 (BSD-3, D. Sayers), judged by the WHATWG
/// pattern and by Chromium 156's `<input type=email>`. Rows that are ASCII and that the browser did not sanitise.
#[test]
fn addresses_are_judged_as_a_browser_judges_them() {
    let file: serde_json::Value = serde_json::from_str(include_str!("data/email_cases.json")).unwrap();
    let mut compared = 0;
    for case in file["cases"].as_array().unwrap() {
        let (address, whatwg, chromium, unchanged) =
            (case[1].as_str().unwrap(), case[2] == 1, case[3] == 1, case[4] == 1);
        // Longer than RFC 5321 allows is our own, later rule.
        let within = address.len() <= 254 && address.rfind('@').is_none_or(|at| at <= 64);
        if address.is_ascii() && unchanged && within {
            assert_eq!((is_address(address), is_address(address)), (whatwg, chromium), "{address}");
            compared += 1;
        }
    }
    assert!(compared >= 110, "{compared} rows compared");
}

/// RFC 5321, 4.5.3.1: a local part of at most 64 octets, a path of at most 256 with its brackets. Both libraries named
/// in the outside references agree on 254 and 255.
#[test]
fn addresses_keep_to_the_lengths_of_rfc_5321() {
    let local = |n: usize| format!("{}@firm.example", "a".repeat(n));
    assert!(is_address(&local(64)) && !is_address(&local(65)));
    let labels = |last: usize| format!("a@{0}.{0}.{0}.{1}", "b".repeat(63), "c".repeat(last));
    assert_eq!((labels(60).len(), labels(61).len()), (254, 255));
    assert!(is_address(&labels(60)) && !is_address(&labels(61)));
    assert!(
        is_address(&format!("a@{}.example", "b".repeat(63))) && !is_address(&format!("a@{}.example", "b".repeat(64)))
    );
}

/// PyPI phonenumbers 9.0.43 (Apache-2.0): example and invalid numbers of 245 regions, from libphonenumber's metadata.
#[test]
fn example_numbers_of_every_region_read_as_libphonenumber_says() {
    let reader = Reader::new(ReaderSpec::of(&field(FieldType::Phone), "en")).unwrap();
    let rows =
        csv::ReaderBuilder::new().comment(Some(b'#')).from_reader(include_bytes!("data/phone_examples.csv").as_slice());
    let (mut compared, mut differ) = (0, vec![]);
    for row in rows.into_records() {
        let row = row.unwrap();
        let (region, e164, national, international, valid) =
            (&row[0], &row[2], &row[3], &row[4], row[5].eq_ignore_ascii_case("true"));
        for (written, country) in [(international, None), (e164, None), (national, Some(region))] {
            let read = reader.read(written, ReadContext { country, ..ReadContext::default() }, 0);
            let ok = match &read {
                Reading::Value { value: Value::Phone { number, .. }, .. } => valid && number == e164,
                Reading::Failed { .. } => !valid,
                _ => false,
            };
            compared += 1;
            if !ok {
                differ.push(format!("{region} {written} ({valid}): {read:?}"));
            }
        }
    }
    assert!(compared > 1_000, "{compared}");
    // Numbers of three or four digits are short codes for us, not numbers to call a prospect on.
    differ.retain(|line| {
        line.split(" (").next().is_some_and(|written| written.chars().filter(char::is_ascii_digit).count() >= 5)
    });
    assert!(differ.is_empty(), "{} differ: {differ:#?}", differ.len());
}

/// LibreOffice Calc 7.4.7 (Debian 12) over the formulas of the outside references, for the functions that we share. Our
/// names stand for its cells: A1=10, A2=3, A3=-7, A4="abc", A5="ABC", A9=0, A10=2.5, A11=-2.5, A12=" pad  x ".
#[test]
fn formulas_give_what_a_spreadsheet_gives() {
    let fields: Vec<Field> = [("a1", "10"), ("a2", "3"), ("a3", "-7"), ("a9", "0"), ("a10", "2.5"), ("a11", "-2.5")]
        .iter()
        .map(|(key, _)| (key, "quantity"))
        .chain([("a4", "abc"), ("a5", "ABC"), ("a12", " pad  x ")].iter().map(|(key, _)| (key, "text")))
        .map(|(key, kind)| {
            serde_json::from_value(serde_json::json!({"id": key, "key": key, "label": key, "type": kind})).unwrap()
        })
        .collect();
    let mut lookup = PlainLookup::default();
    for (key, amount) in [("a1", "10"), ("a2", "3"), ("a3", "-7"), ("a9", "0"), ("a10", "2.5"), ("a11", "-2.5")] {
        lookup.values.insert(key.into(), Value::number(amount.parse().unwrap()));
    }
    for (key, text) in [("a4", "abc"), ("a5", "ABC"), ("a12", " pad  x ")] {
        lookup.values.insert(key.into(), Value::text(text));
    }
    // Functions we do not have, blanks, and mixing of types, on which our rules differ on purpose.
    let ours_differ = [
        "A6",
        "A7",
        "A8",
        "A10:",
        ":A",
        "TRUE=1",
        "ISBLANK",
        "TRUNC(",
        "AVERAGE",
        "COUNT",
        "EXACT",
        "VALUE",
        "FIND",
        "SEARCH",
        "SUBSTITUTE",
        "SQRT",
        "POWER",
        "FLOOR",
        "CHOOSE",
        "WEEKDAY",
        "TEXT(",
        "NETWORKDAYS",
        "EDATE",
        "\"abc\"+1",
        "IF(FALSE,1)",
        "REPT",
        "CONCAT",
        "PROPER",
        "straße",
    ];
    let rows = csv::ReaderBuilder::new()
        .comment(Some(b'#'))
        .from_reader(include_bytes!("data/formula_reference.csv").as_slice());
    let mut compared = 0;
    for row in rows.into_records() {
        let row = row.unwrap();
        let (text, kind, expected) = (&row[0], &row[1], &row[2]);
        if ours_differ.iter().any(|skip| text.contains(skip)) {
            continue;
        }
        let ours = text
            .split('"')
            .enumerate()
            .map(|(index, part)| {
                if index % 2 == 0 {
                    part.replace('A', "a")
                        .replace("aBS", "ABS")
                        .replace("aND", "AND")
                        .replace("DaTE", "DATE")
                        .replace("MaX", "MAX")
                        .replace("FaLSE", "FALSE")
                } else {
                    part.to_owned()
                }
            })
            .collect::<Vec<_>>()
            .join("\"");
        let formula =
            compile(&ours, Names { fields: &fields, tables: &[] }).unwrap_or_else(|error| panic!("{ours}: {error}"));
        let given = match formula.run(&lookup) {
            Err(_) => ("error", String::new()),
            Ok(Some(Value::Number(number))) => ("number", number.amount.normalize().to_string()),
            Ok(Some(Value::YesNo { yes })) => ("bool", if yes { "True" } else { "False" }.to_owned()),
            Ok(Some(Value::Text { text })) => ("string", text),
            // The sheet's serial of a date counts from 30 December 1899.
            Ok(Some(Value::Date { date, .. })) => {
                ("number", (date - jiff::civil::date(1899, 12, 30)).get_days().to_string())
            }
            other => panic!("{text}: {other:?}"),
        };
        let expected = if kind == "error" { String::new() } else { expected.to_owned() };
        assert_eq!(given, (kind, expected), "{text}");
        compared += 1;
    }
    assert!(compared >= 30, "{compared} formulas compared");
}

/// Damerau-Levenshtein (unrestricted) of the crate that option typos use: PyPI jellyfish 1.3.0 and rapidfuzz 3.14.6.
#[test]
fn the_distance_behind_small_typos_is_the_unrestricted_one() {
    let rows =
        csv::ReaderBuilder::new().comment(Some(b'#')).from_reader(include_bytes!("data/string_metrics.csv").as_slice());
    let mut compared = 0;
    for row in rows.into_records() {
        let row = row.unwrap();
        assert_eq!(
            strsim::damerau_levenshtein(&row[0], &row[1]),
            row[4].parse::<usize>().unwrap(),
            "{} {}",
            &row[0],
            &row[1]
        );
        compared += 1;
    }
    assert_eq!(compared, 17);
}

/// Rounding half away from zero: OpenFormula (ODF 1.3 part 4) 6.17.5; ROUND(1.005, 2) is 1.01 in decimals, where binary
/// programs disagree.
#[test]
fn rounding_is_decimal_and_half_away_from_zero() {
    for (text, expected) in [
        ("ROUND(1.005, 2)", "1.01"),
        ("ROUND(-2.5)", "-3"),
        ("ROUND(2.5)", "3"),
        ("ROUND(0.5)", "1"),
        ("ROUNDUP(-2.1)", "-3"),
        ("ROUNDDOWN(-2.9)", "-2"),
        ("INT(-2.5)", "-3"),
        ("ROUND(1250, -2)", "1300"),
    ] {
        let Ok(Some(Value::Number(number))) =
            compile(text, Names { fields: &[], tables: &[] }).unwrap().run(&PlainLookup::default())
        else {
            panic!("{text}")
        };
        assert_eq!(number.amount.normalize().to_string(), expected, "{text}");
    }
}
