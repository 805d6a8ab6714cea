//! The dialogue file: its schema, its canonical form, and what it refuses.

#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use lumbo_dialogue::file::{FieldType, LoadError, canonical, load, schema};
use serde_json::{Value, json};

const DEMO: &str = include_str!("../../../../demo/storage-enquiry.json");
const EVERY_KIND: &str = include_str!("../../../../demo/every-kind.json");

#[test]
fn the_shipped_files_fit_the_schema() {
    let schema = schema();
    let validator = jsonschema::draft202012::new(&schema).unwrap();
    for file in [DEMO, EVERY_KIND] {
        let json: Value = serde_json::from_str(file).unwrap();
        let errors: Vec<String> =
            validator.iter_errors(&json).map(|error| format!("{}: {error}", error.instance_path())).collect();
        assert_eq!(errors, Vec::<String>::new());
    }
    let mut wrong: Value = serde_json::from_str(DEMO).unwrap();
    wrong["sections"][0]["turns"][0]["colour"] = json!("red");
    assert!(!validator.is_valid(&wrong), "the schema refuses unknown keys inside a turn");
}

#[test]
fn one_example_uses_every_kind_of_everything() {
    let json: Value = serde_json::from_str(EVERY_KIND).unwrap();
    let mut words = std::collections::BTreeSet::new();
    collect(&json, &mut words);
    let schema = schema();
    let mut named = std::collections::BTreeSet::new();
    names(&schema, &mut named);
    let missing: Vec<&String> = named.iter().filter(|name| !words.contains(*name)).collect();
    // A pace and an outcome class are one per dialogue or free to choose; the demo uses others.
    let other: Value = serde_json::from_str(DEMO).unwrap();
    let mut demo_words = std::collections::BTreeSet::new();
    collect(&other, &mut demo_words);
    let missing: Vec<_> = missing.into_iter().filter(|name| !demo_words.contains(*name)).collect();
    let allowed = ["take_newest", "none", "one_by_one", "other", "unfinished", "whole", "words", "ask", "skip", "lead"];
    let missing: Vec<_> = missing.into_iter().filter(|name| !allowed.contains(&name.as_str())).collect();
    assert!(missing.is_empty(), "no example of {missing:?}");
    for kind in FieldType::ALL {
        assert!(words.contains(kind.name()), "no field of type {}", kind.name());
    }
}

/// Every key and every text in a document.
fn collect(json: &Value, out: &mut std::collections::BTreeSet<String>) {
    match json {
        Value::Object(map) => map.iter().for_each(|(key, value)| {
            out.insert(key.clone());
            collect(value, out);
        }),
        Value::Array(items) => items.iter().for_each(|item| collect(item, out)),
        Value::String(text) => {
            out.insert(text.clone());
        }
        _ => {}
    }
}

/// Every property name and constant that a schema names.
fn names(schema: &Value, out: &mut std::collections::BTreeSet<String>) {
    match schema {
        Value::Object(map) => {
            for (key, value) in map {
                match (key.as_str(), value) {
                    ("properties", Value::Object(properties)) => out.extend(properties.keys().cloned()),
                    ("const", Value::String(text)) => {
                        out.insert(text.clone());
                    }
                    ("enum", Value::Array(items)) => {
                        out.extend(items.iter().filter_map(Value::as_str).map(str::to_owned));
                    }
                    _ => {}
                }
                names(value, out);
            }
        }
        Value::Array(items) => items.iter().for_each(|item| names(item, out)),
        _ => {}
    }
}

#[test]
fn the_canonical_form_is_stable_and_keeps_everything() {
    for file in [DEMO, EVERY_KIND] {
        let dialogue = load(file).unwrap();
        let once = canonical(&dialogue);
        assert_eq!(load(&once).unwrap(), dialogue);
        assert_eq!(canonical(&load(&once).unwrap()), once);
    }
}

#[test]
fn an_unknown_key_is_refused_with_its_path() {
    let refused = |change: &dyn Fn(&mut Value)| {
        let mut json: Value = serde_json::from_str(DEMO).unwrap();
        change(&mut json);
        match load(&json.to_string()) {
            Err(LoadError::Shape { path, says }) => (path, says),
            other => panic!("{other:?}"),
        }
    };
    let (path, says) = refused(&|json| json["sections"][1]["turns"][1]["arms"][0]["turns"][0]["color"] = json!(1));
    assert_eq!(path, "sections[1].turns[1].arms[0].turns[0].color");
    assert!(says.starts_with("unknown field `color`"), "{says}");
    let (path, says) = refused(&|json| json["sections"][1]["turns"][1]["tries"] = json!("many"));
    assert_eq!(path, "sections[1].turns[1].tries");
    assert!(says.contains("expected u8"), "{says}");
    let (path, _) = refused(&|json| json["fields"][3]["type"] = json!("integer"));
    assert_eq!(path, "fields[3].type");
    let (path, says) = refused(&|json| json["sections"][0]["turns"][0]["kind"] = json!("shout"));
    assert_eq!(path, "sections[0].turns[0].kind");
    assert!(says.contains("unknown variant `shout`"), "{says}");
}

#[test]
fn what_is_no_dialogue_is_refused() {
    assert!(matches!(load("{"), Err(LoadError::NotJson(_))));
    assert_eq!(load("{\"format\": \"lumbo.dialogue/2\"}"), Err(LoadError::Format { found: "lumbo.dialogue/2".into() }));
    assert!(matches!(load("[]"), Err(LoadError::Shape { .. })));
    assert!(matches!(load(&" ".repeat(5 * 1024 * 1024)), Err(LoadError::TooLarge { .. })));
    let deep = format!("{}1{}", "[".repeat(100_000), "]".repeat(100_000));
    assert!(matches!(load(&deep), Err(LoadError::NotJson(_))), "deep nesting is refused, not a crash");
}
