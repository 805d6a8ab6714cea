//! `lumbo field`.

use std::path::Path;

use anyhow::anyhow;
use lumbo_dialogue::file::Field;
use lumbo_reading::{Reader, Reading, shown};
use serde_json::{Value as Json, json};

use super::spec::{FieldSpec, reader};
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

/// Reads each line of standard input as a reply.
pub fn run(options: &Options) -> Done {
    let spec: FieldSpec = serde_json::from_value(input::json(&options.spec)?)
        .map_err(|error| anyhow!("the spec does not fit: {error}"))?;
    let around = spec.around();
    let language = around.language().to_owned();
    let field = spec.field(&language)?;
    let reader = reader(&field, &language)?;
    for raw in input::lines(&input::text(Path::new("-"))?) {
        let reading = reader.read(&raw, around.context(), 0);
        if options.json {
            print_line(&line(&field, &reader, &raw, &reading, &language))?;
        } else {
            match &reading {
                Reading::Value { value, .. } => println!("{raw:?}: {}", shown(&field, value, &language, &language)),
                Reading::Failed { failed, message, .. } => {
                    println!("{raw:?}: refused ({}): {message}", failed.join(", "));
                }
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
            json!({"raw": raw, "ok": true, "value": value.to_json(), "shown": shown(field, value, language, language),
                "heard": heard})
        }
        Reading::Failed { failed, message, heard, .. } => {
            let mut out = json!({"raw": raw, "ok": false, "failed": failed, "message": message});
            if let Some(heard) = heard {
                out["heard"] = json!(heard);
            }
            out
        }
        Reading::Declined => {
            json!({"raw": raw, "ok": false, "failed": ["declined"], "message": "The prospect said there is none, or \
                that they would rather not."})
        }
        Reading::Tie(keys) => {
            json!({"raw": raw, "ok": false, "failed": ["type"], "message": reader.tie_question(keys)})
        }
    }
}
