//! What the corpora of replies share: who wrote where, the field that was asked for, and what a reading came to.

#![allow(dead_code, reason = "each test file uses its part")]

use jiff::civil::Date;
use lumbo_reading::{ReadContext, Reading};
use lumbo_value::Field;
use serde_json::{Value as Json, json};

/// Where, when and in which language a reply was written.
pub struct Around {
    pub language: String,
    country: Option<String>,
    today: Option<Date>,
}

impl Around {
    pub fn of(spec: &Json) -> Self {
        let text = |key: &str| spec.get(key).and_then(Json::as_str).map(str::to_owned);
        Self {
            language: text("language").unwrap_or_else(|| "en".into()),
            country: text("country"),
            today: text("today").map(|day| day.parse().unwrap()),
        }
    }

    pub fn context(&self) -> ReadContext<'_> {
        ReadContext { country: self.country.as_deref(), today: self.today, ..ReadContext::default() }
    }
}

/// The field that a corpus describes.
pub fn field(spec: &Json, language: &str) -> Field {
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
pub fn outcome(reading: &Reading) -> Json {
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
