//! Replies that others wrote to try their own readers on: numbers, dates, money and quantities in six languages, in
//! `data/published_readings.json` with their sources. Where we differ, `data/published_differences.json` says why; a
//! difference that has gone has to leave that list. Prints the table of docs/reading.md.

#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

mod readings;

use std::collections::{BTreeMap, BTreeSet};

use lumbo_reading::{Reader, ReaderSpec, Reading};
use lumbo_value::Value;
use readings::{Around, field, outcome};
use rust_decimal::Decimal;
use serde_json::Value as Json;

/// True where a reading says what the source says. Amounts may differ in the eighth digit, as factors of units do; a
/// source that names no unit wants none.
fn agrees(reading: &Reading, wanted: &Json) -> bool {
    let Reading::Value { value, .. } = reading else { return wanted.is_null() };
    let found = match value {
        Value::Number(number) if number.unit.is_none() && number.low.is_none() => {
            serde_json::json!({ "amount": number.amount.normalize().to_string() })
        }
        other => other.to_json(),
    };
    let (Some(found), Some(wanted)) = (found.as_object(), wanted.as_object()) else { return false };
    let close = |one: &Json, other: &Json| {
        let number = |json: &Json| json.as_str().and_then(|text| text.parse::<Decimal>().ok());
        number(one)
            .zip(number(other))
            .is_some_and(|(one, other)| (one - other).abs() <= other.abs() / Decimal::from(100_000))
    };
    let plain = |key: &String| matches!(key.as_str(), "amount" | "low" | "high");
    found.len() == wanted.len()
        && wanted
            .iter()
            .all(|(key, want)| found.get(key).is_some_and(|one| one == want || plain(key) && close(one, want)))
}

#[derive(Default)]
struct Tally {
    replies: usize,
    same: usize,
    asked: usize,
    differ: usize,
}

#[test]
fn what_others_publish_is_read_as_they_say() {
    let groups: Vec<Json> = serde_json::from_str(include_str!("data/published_readings.json")).unwrap();
    let listed: Vec<Json> = serde_json::from_str(include_str!("data/published_differences.json")).unwrap();
    let mut known: BTreeSet<(String, String)> = listed
        .iter()
        .flat_map(|group| group["replies"].as_array().unwrap())
        .map(|row| (row[0].as_str().unwrap().to_owned(), row[1].as_str().unwrap().to_owned()))
        .collect();
    let mut met = BTreeSet::new();
    let mut tallies: BTreeMap<&str, Tally> = BTreeMap::new();
    let mut wrong = Vec::new();
    for group in &groups {
        let around = Around::of(&group["spec"]);
        let reader = Reader::new(ReaderSpec::of(&field(&group["spec"], &around.language), &around.language)).unwrap();
        let tally = tallies.entry(group["source"].as_str().unwrap()).or_default();
        for case in group["cases"].as_array().unwrap() {
            let raw = case[0].as_str().unwrap();
            let reading = reader.read(raw, around.context(), 0);
            tally.replies += 1;
            if agrees(&reading, &case[1]) {
                tally.same += 1;
            } else if !matches!(reading, Reading::Value { .. }) {
                tally.asked += 1;
            } else {
                tally.differ += 1;
                let key = (around.language.clone(), raw.to_owned());
                if known.contains(&key) {
                    met.insert(key);
                } else {
                    wrong.push(format!(
                        "{} {} {raw:?}: {}, not {}",
                        group["source"],
                        around.language,
                        outcome(&reading),
                        case[1]
                    ));
                }
            }
        }
    }
    println!("| source | replies | same | asked again | differ, with a reason |\n|---|---|---|---|---|");
    for (source, tally) in &tallies {
        println!("| {source} | {} | {} | {} | {} |", tally.replies, tally.same, tally.asked, tally.differ);
    }
    let all = |of: fn(&Tally) -> usize| tallies.values().map(of).sum::<usize>();
    println!(
        "| all | {} | {} | {} | {} |",
        all(|tally| tally.replies),
        all(|tally| tally.same),
        all(|tally| tally.asked),
        all(|tally| tally.differ)
    );
    assert!(wrong.is_empty(), "{} wrong: {wrong:#?}", wrong.len());
    known.retain(|key| !met.contains(key));
    assert!(known.is_empty(), "no longer different: {known:?}");
    assert!(
        all(|tally| tally.same) * 100 >= all(|tally| tally.replies) * 89,
        "{} of {} the same",
        all(|tally| tally.same),
        all(|tally| tally.replies)
    );
    assert_eq!(tallies["num2words 0.5.14"].same, tallies["num2words 0.5.14"].replies, "numbers in words");
}
