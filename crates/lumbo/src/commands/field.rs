//! `lumbo field`.

use std::path::Path;

use anyhow::{anyhow, bail};
use jiff::civil::Date;
use lumbo_core::field::{ReadContext, Reader, Reading, shown};
use lumbo_core::file::{Choice, Field, FieldType, Rule, Text};
use serde::Deserialize;
use serde_json::{Value as Json, json};

use crate::commands::print_line;
use crate::{Done, input};

/// Options.
#[derive(clap::Args)]
pub struct Options {
    /// What to read: a path, or JSON itself.
    #[arg(long)]
    spec: String,
    /// Write one JSON document a line.
    #[arg(long)]
    json: bool,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Spec {
    #[serde(rename = "type")]
    kind: FieldType,
    #[serde(default)]
    rules: Vec<Rule>,
    country: Option<String>,
    language: Option<String>,
    today: Option<Date>,
    unit: Option<String>,
    currency: Option<String>,
    #[serde(default)]
    options: Vec<SpecOption>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct SpecOption {
    key: String,
    label: String,
    #[serde(default)]
    also: Vec<String>,
}

/// Reads each line of standard input as a reply.
pub fn run(options: &Options) -> Done {
    let spec: Spec = serde_json::from_value(input::json(&options.spec)?).map_err(|error| anyhow!("the spec does not fit: {error}"))?;
    let language = spec.language.unwrap_or_else(|| "en".into());
    let choices = spec
        .options
        .into_iter()
        .map(|option| Choice { key: option.key, label: Text::new(&language, option.label), also: option.also, hint: None, picture: None })
        .collect();
    let field = Field {
        id: "field".into(),
        key: "field".into(),
        label: "Field".into(),
        kind: spec.kind,
        options: choices,
        unit: spec.unit,
        currency: spec.currency,
        rules: spec.rules,
        personal: false,
        record: Default::default(),
        note: None,
    };
    let reader = match Reader::new(&field, &[], &[], &[], &language, &language) {
        Ok(reader) => reader,
        Err(error) => bail!("{error}"),
    };
    let context = ReadContext { country: spec.country.as_deref(), today: spec.today, earlier: None };
    for raw in input::lines(&input::text(Path::new("-"))?) {
        let reading = reader.read(&raw, context, 0);
        if options.json {
            print_line(&line(&field, &reader, &raw, &reading, &language))?;
        } else {
            match &reading {
                Reading::Value { value, .. } => println!("{raw:?}: {}", shown(&field, value, &language, &language)),
                Reading::Failed { failed, message, .. } => println!("{raw:?}: refused ({}): {message}", failed.join(", ")),
                Reading::Declined => println!("{raw:?}: declined"),
                Reading::Tie(keys) => println!("{raw:?}: fits {}", keys.join(", ")),
            }
        }
    }
    Ok(false)
}

fn line(field: &Field, reader: &Reader, raw: &str, reading: &Reading, language: &str) -> Json {
    match reading {
        Reading::Value { value, heard } => {
            json!({"raw": raw, "ok": true, "value": value.to_json(), "shown": shown(field, value, language, language), "heard": heard})
        }
        Reading::Failed { failed, message, heard, .. } => {
            let mut out = json!({"raw": raw, "ok": false, "failed": failed, "message": message});
            if let Some(heard) = heard {
                out["heard"] = json!(heard);
            }
            out
        }
        Reading::Declined => {
            json!({"raw": raw, "ok": false, "failed": ["declined"], "message": "The prospect said there is none, or that they would rather not."})
        }
        Reading::Tie(keys) => json!({"raw": raw, "ok": false, "failed": ["type"], "message": reader.tie_question(keys)}),
    }
}
