//! Our own corpus of made-up replies with the reading that CORE meanings ask for: `data/replies.json` for one field at
//! a time, `data/free_replies.json` for several fields out of one reply. Prints the accuracy per type; docs/reading.md
//! shows the last one.

#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

mod readings;

use std::collections::BTreeMap;

use lumbo_reading::{FreeReader, Reader, ReaderSpec, Reading, shown};
use lumbo_value::Field;
use readings::{Around, field, outcome};
use serde_json::Value as Json;

fn fails(json: &Json) -> bool {
    json.get("fails").is_some()
}

#[derive(Default)]
struct Tally {
    cases: usize,
    exact: usize,
    wrong: usize,
}

#[test]
fn replies_are_read_as_the_corpus_says() {
    let groups: Vec<Json> = serde_json::from_str(include_str!("data/replies.json")).unwrap();
    let mut tallies: BTreeMap<String, Tally> = BTreeMap::new();
    let mut misses = Vec::new();
    let mut nasty = 0;
    for group in &groups {
        let spec = &group["spec"];
        let around = Around::of(spec);
        let field = field(spec, &around.language);
        let reader = Reader::new(ReaderSpec::of(&field, &around.language)).unwrap();
        for case in group["cases"].as_array().unwrap() {
            let (raw, expected) = (case[0].as_str().unwrap(), &case[1]);
            let reading = reader.read(raw, around.context(), 0);
            let found = outcome(&reading);
            nasty += usize::from(group["nasty"] == true);
            for name in [field.kind.name(), "all"] {
                let tally = tallies.entry(name.into()).or_default();
                tally.cases += 1;
                tally.exact += usize::from(found == *expected);
                // A value that is not the expected one is wrong; asking again is not.
                tally.wrong += usize::from(!fails(&found) && found != *expected);
            }
            if found != *expected {
                misses.push(format!("{} {} {raw:?}: {found}, not {expected}", field.kind.name(), around.language));
            }
            if let Reading::Value { value, heard } = &reading {
                let span: String = raw.chars().skip(heard.start).take(heard.end - heard.start).collect();
                assert_eq!(span, heard.text, "the span of {raw:?}");
                // What is shown for a value reads back as the same value.
                let words = shown(&field, value, &around.language, &around.language);
                let again = reader.read(&words, around.context(), 0);
                let same = matches!(&again, Reading::Value { value: other, .. } if other == value);
                if !same {
                    misses.push(format!(
                        "shown {} {} {raw:?}: “{words}” reads {}",
                        field.kind.name(),
                        around.language,
                        outcome(&again)
                    ));
                }
            }
        }
    }
    println!("| type | replies | exact | wrong value |\n|---|---|---|---|");
    for (name, tally) in &tallies {
        println!(
            "| {name} | {} | {:.1}% | {} |",
            tally.cases,
            100.0 * tally.exact as f64 / tally.cases as f64,
            tally.wrong
        );
    }
    println!("nasty: {nasty}");
    let all = &tallies["all"];
    assert!(all.cases >= 400 && nasty >= 60, "{} cases, {nasty} nasty", all.cases);
    assert!(misses.is_empty(), "{} misses: {misses:#?}", misses.len());
    assert!(
        all.exact * 100 >= all.cases * 97 && all.wrong * 1000 < all.cases * 5,
        "{} of {} exact, {} wrong",
        all.exact,
        all.cases,
        all.wrong
    );
}

#[test]
fn several_fields_are_read_out_of_one_reply() {
    let cases: Vec<Json> = serde_json::from_str(include_str!("data/free_replies.json")).unwrap();
    let mut misses = Vec::new();
    for case in &cases {
        let around = Around::of(&case["spec"]);
        let fields: Vec<Field> =
            case["spec"]["fields"].as_array().unwrap().iter().map(|spec| field(spec, &around.language)).collect();
        let readers = fields
            .iter()
            .map(|field| {
                (
                    Reader::new(ReaderSpec::of(field, &around.language)).unwrap(),
                    vec![field.key.clone(), field.label.clone()],
                )
            })
            .collect();
        let free = FreeReader::new(readers, &around.language);
        let raw = case["raw"].as_str().unwrap();
        let taken = free.read(raw, around.context());
        let mut last = 0;
        for one in &taken {
            let span: String = raw.chars().skip(one.heard.start).take(one.heard.end - one.heard.start).collect();
            assert_eq!(span, one.heard.text, "the span of {raw:?}");
            assert!(one.heard.start >= last, "the order of {raw:?}");
            last = one.heard.start;
        }
        let found: Json = taken
            .iter()
            .map(|one| (fields[one.field].key.clone(), one.value.to_json()))
            .collect::<serde_json::Map<_, _>>()
            .into();
        let same = found.as_object().unwrap().len() == case["found"].as_object().unwrap().len()
            && case["found"].as_object().unwrap().iter().all(|(key, value)| found.get(key) == Some(value));
        if !same {
            misses.push(format!("{raw:?}: {found}, not {}", case["found"]));
        }
    }
    assert!(misses.is_empty(), "{} of {} miss: {misses:#?}", misses.len(), cases.len());
}
