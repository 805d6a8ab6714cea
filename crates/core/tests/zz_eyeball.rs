//! Our own corpus of made-up replies with the reading that CORE meanings ask for: `data/replies.json` for one field at a
//! time, `data/free_replies.json` for several fields out of one reply. Prints the accuracy per type; docs/reading.md
//! shows the last one.

#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use jiff::civil::Date;
use lumbo_core::field::{ReadContext, Reader, ReaderSpec, Reading};
use lumbo_core::file::Field;
use serde_json::{Value as Json, json};

/// Where, when and in which language a reply was written.
struct Around {
    language: String,
    country: Option<String>,
    today: Option<Date>,
}

impl Around {
    fn of(spec: &Json) -> Self {
        let text = |key: &str| spec.get(key).and_then(Json::as_str).map(str::to_owned);
        Self { language: text("language").unwrap_or_else(|| "en".into()), country: text("country"), today: text("today").map(|day| day.parse().unwrap()) }
    }

    fn context(&self) -> ReadContext<'_> {
        ReadContext { country: self.country.as_deref(), today: self.today, ..ReadContext::default() }
    }
}

fn field(spec: &Json, language: &str) -> Field {
    let mut spec = spec.clone();
    let map = spec.as_object_mut().unwrap();
    for key in ["language", "country", "today"] {
        map.remove(key);
    }
    let key = map.get("key").cloned().unwrap_or_else(|| json!("field"));
    map.insert("id".into(), key.clone());
    map.entry("label").or_insert(key.clone());
    map.insert("key".into(), key);
    if let Some(options) = map.get_mut("options").and_then(Json::as_array_mut) {
        for option in options {
            let label = option["label"].clone();
            option["label"] = json!({ language: label });
        }
    }
    serde_json::from_value(spec).unwrap()
}

/// What a reading came to, in the form of the corpus.
fn outcome(reading: &Reading) -> Json {
    match reading {
        Reading::Value { value, .. } => value.to_json(),
        Reading::Declined => json!({"fails": "declined"}),
        Reading::Tie(_) => json!({"fails": "type"}),
        Reading::Failed { failed, .. } => match failed.as_slice() {
            [one] => json!({ "fails": one }),
            several => json!({ "fails": several }),
        },
    }
}

fn fails(json: &Json) -> bool {
    json.get("fails").is_some()
}

#[test]
fn eyeball() {
    let groups: Vec<Json> = serde_json::from_str(&std::fs::read_to_string("/tmp/w/eye.json").unwrap()).unwrap();
    for group in &groups {
        let around = Around::of(&group["spec"]);
        let field = field(&group["spec"], &around.language);
        let reader = Reader::new(ReaderSpec::of(&field, &around.language)).unwrap();
        println!("== {} {}", field.kind.name(), around.language);
        for raw in group["raws"].as_array().unwrap() {
            let raw = raw.as_str().unwrap();
            println!("{raw:45} | {}", outcome(&reader.read(raw, around.context(), 0)));
        }
    }
    let _ = fails(&json!(1));
}
