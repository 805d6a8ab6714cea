//! `lumbo read`.

use std::path::Path;

use anyhow::{anyhow, bail};
use jiff::civil::Date;
use lumbo_dialogue::file::Field;
use lumbo_reading::{FreeReader, shown};
use serde::Deserialize;
use serde_json::json;

use super::spec::{Around, FieldSpec, reader};
use crate::commands::print_line;
use crate::{Done, input};

/// Options.
#[derive(clap::Args)]
pub struct Options {
    /// Which fields to read: a path, or JSON itself.
    #[arg(long)]
    spec: String,
    /// Write one JSON document a line.
    #[arg(long)]
    json: bool,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Spec {
    fields: Vec<FieldSpec>,
    country: Option<String>,
    language: Option<String>,
    today: Option<Date>,
}

/// Most fields of one spec.
const FIELD_LIMIT: usize = 200;

/// Reads each line of standard input as a free reply.
pub fn run(options: &Options) -> Done {
    let json = input::json(&options.spec)?;
    let spec: Spec = serde_json::from_value(json).map_err(|error| anyhow!("the spec does not fit: {error}"))?;
    if spec.fields.len() > FIELD_LIMIT {
        bail!("a spec has at most {FIELD_LIMIT} fields");
    }
    // A field may say where, when and in which language as well; the first that does counts for all.
    let around = spec
        .fields
        .iter()
        .fold(Around { country: spec.country, language: spec.language, today: spec.today }, |around, field| {
            around.or(&field.around())
        });
    let language = around.language().to_owned();
    let mut fields: Vec<Field> = Vec::new();
    let mut readers = Vec::new();
    for wanted in &spec.fields {
        let Some(key) = wanted.key.clone() else { bail!("the spec does not fit: every field needs a key") };
        if fields.iter().any(|known| known.key == key) {
            bail!("the spec does not fit: “{key}” is there twice");
        }
        let field = wanted.field(&language)?;
        readers.push((reader(&field, &language)?, wanted.names()));
        fields.push(field);
    }
    let free = FreeReader::new(readers, &language);
    for raw in input::lines(&input::text(Path::new("-"))?) {
        let found = free.read(&raw, around.context());
        if options.json {
            let found: Vec<_> = found
                .iter()
                .map(|taken| {
                    json!({"field": fields[taken.field].key, "value": taken.value.to_json(),
                    "text": taken.heard.text, "start": taken.heard.start, "end": taken.heard.end})
                })
                .collect();
            print_line(&json!({"raw": raw, "found": found}))?;
        } else {
            println!("{raw:?}:");
            for taken in &found {
                println!(
                    "  {}: {}  (“{}”)",
                    fields[taken.field].key,
                    shown(&fields[taken.field], &taken.value, &language, &language),
                    taken.heard.text
                );
            }
        }
    }
    Ok(false)
}
