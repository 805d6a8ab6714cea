//! How many replies are read in a second: per type, with twelve fields at once, and against the length of a reply.
//! Plain timing of whole passes over the corpus in `tests/data`; run it with `cargo bench -p lumbo-reading`.

#![allow(clippy::unwrap_used, clippy::print_stdout, missing_docs, reason = "a program that measures")]

use std::hint::black_box;
use std::time::{Duration, Instant};

use lumbo_reading::{FreeReader, ReadContext, Reader, ReaderSpec};
use lumbo_value::{Field, FieldType};
use serde_json::{Value as Json, json};

fn field(spec: &Json) -> Field {
    let mut json = json!({"id": "f", "key": spec.get("key").cloned().unwrap_or_else(|| json!("f")), "label": "F",
        "type": spec["type"]});
    for key in ["unit", "currency", "options"] {
        if let Some(value) = spec.get(key) {
            json[key] = value.clone();
        }
    }
    for option in json.get_mut("options").and_then(Json::as_array_mut).into_iter().flatten() {
        let label = option["label"].clone();
        option["label"] = json!({ "en": label });
    }
    serde_json::from_value(json).unwrap()
}

/// Repeats `pass` for about a second; replies a second.
fn rate(replies: usize, mut pass: impl FnMut()) -> f64 {
    pass();
    let begun = Instant::now();
    let mut passes = 0_u32;
    while begun.elapsed() < Duration::from_secs(1) {
        pass();
        passes += 1;
    }
    f64::from(passes) * replies as f64 / begun.elapsed().as_secs_f64()
}

fn main() {
    let context =
        ReadContext { country: Some("GB"), today: Some("2026-11-23".parse().unwrap()), ..ReadContext::default() };
    let groups: Vec<Json> = serde_json::from_str(include_str!("../tests/data/replies.json")).unwrap();
    println!("replies a second, one core");
    for kind in FieldType::ALL {
        let of: Vec<(Reader, Vec<String>)> = groups
            .iter()
            .filter(|group| group["spec"]["type"] == kind.name() && group["spec"].get("language").is_none())
            .map(|group| {
                let reader = Reader::new(ReaderSpec::of(&field(&group["spec"]), "en")).unwrap();
                (
                    reader,
                    group["cases"]
                        .as_array()
                        .unwrap()
                        .iter()
                        .map(|case| case[0].as_str().unwrap().to_owned())
                        .collect(),
                )
            })
            .collect();
        let count = of.iter().map(|(_, replies)| replies.len()).sum();
        let rate = rate(count, || {
            for (reader, replies) in &of {
                for raw in replies {
                    black_box(reader.read(black_box(raw), context, 0));
                }
            }
        });
        println!("{:>14} {rate:>12.0}", kind.name());
    }
    let free: Vec<Json> = serde_json::from_str(include_str!("../tests/data/free_replies.json")).unwrap();
    let spec = &free[0]["spec"];
    let readers: Vec<(Reader, Vec<String>)> = spec["fields"]
        .as_array()
        .unwrap()
        .iter()
        .map(|spec| {
            (Reader::new(ReaderSpec::of(&field(spec), "en")).unwrap(), vec![spec["key"].as_str().unwrap().to_owned()])
        })
        .collect();
    let wanted = readers.len();
    let reader = FreeReader::new(readers, "en");
    let replies: Vec<&str> =
        free.iter().filter(|case| case["spec"] == *spec).map(|case| case["raw"].as_str().unwrap()).collect();
    let several = rate(replies.len(), || {
        for raw in &replies {
            black_box(reader.read(black_box(raw), context));
        }
    });
    println!("{:>14} {several:>12.0}", format!("{wanted} fields"));
    // Linear: time for each thousand characters, at one, three and ten thousand.
    println!("microseconds for each thousand characters of a reply, all types one after another");
    for kilo in [1_usize, 3, 10] {
        let story =
            "We need about 340 pallets frozen from March 2027, £2,000 a month at most, please write to nobody. ";
        let raw: String = story.chars().cycle().take(kilo * 1000).collect();
        let all: Vec<Reader> = FieldType::ALL
            .into_iter()
            .map(|kind| {
                let options = if kind.has_options() {
                    json!([{"key": "1", "label": "Frozen"}, {"key": "2", "label": "Chilled"}])
                } else {
                    json!([])
                };
                Reader::new(ReaderSpec::of(&field(&json!({"type": kind.name(), "options": options})), "en")).unwrap()
            })
            .collect();
        let per_second = rate(1, || {
            for reader in &all {
                black_box(reader.read(black_box(&raw), context, 0));
            }
            black_box(reader.read(black_box(&raw), context));
        });
        println!("{:>14} {:>12.1}", format!("{kilo} thousand"), 1_000_000.0 / per_second / kilo as f64);
    }
}
