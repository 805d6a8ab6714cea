//! `lumbo formula`.

use std::path::Path;

use anyhow::anyhow;
use lumbo_dialogue::file::{Choice, Field, FieldType};
use lumbo_formula::{Names, PlainLookup, compile};
use serde_json::{Value as Json, json};

use crate::commands::print_line;
use crate::{Done, input};

/// Options.
#[derive(clap::Args)]
pub struct Options {
    /// Types of the fields by key: a type's name, or a list of option keys for a choice; a path, or JSON itself.
    #[arg(long)]
    types: Option<String>,
    /// Values by key; a path, or JSON itself.
    #[arg(long)]
    values: Option<String>,
    /// Write one JSON document a line.
    #[arg(long)]
    json: bool,
}

fn field(key: &str, kind: &Json) -> anyhow::Result<Field> {
    let (kind, options) = match kind {
        Json::Array(keys) => {
            let options = keys
                .iter()
                .filter_map(Json::as_str)
                .map(|key| Choice {
                    key: key.into(),
                    label: lumbo_dialogue::file::Text::new("en", key),
                    also: vec![],
                    hint: None,
                    picture: None,
                })
                .collect();
            (FieldType::Choice, options)
        }
        other => {
            (serde_json::from_value(other.clone()).map_err(|_| anyhow!("{key}: {other} is not a type"))?, Vec::new())
        }
    };
    Ok(Field {
        id: key.into(),
        key: key.into(),
        label: key.into(),
        kind,
        options,
        unit: None,
        currency: None,
        rules: vec![],
        may_loosen: vec![],
        personal: false,
        record: Default::default(),
        policy: lumbo_value::field::Policy::default(),
        permits: None,
        note: None,
    })
}

/// Evaluates each line of standard input.
pub fn run(options: &Options) -> Done {
    let object = |argument: &Option<String>| -> anyhow::Result<serde_json::Map<String, Json>> {
        match argument {
            None => Ok(serde_json::Map::new()),
            Some(argument) => {
                input::json(argument)?.as_object().cloned().ok_or_else(|| anyhow!("expected a JSON object"))
            }
        }
    };
    let fields: Vec<Field> =
        object(&options.types)?.iter().map(|(key, kind)| field(key, kind)).collect::<anyhow::Result<_>>()?;
    let mut lookup = PlainLookup { today: Some(jiff::Zoned::now().date()), ..PlainLookup::default() };
    for (key, value) in object(&options.values)? {
        let field =
            fields.iter().find(|field| field.key == key).ok_or_else(|| anyhow!("{key} has a value and no type"))?;
        // A choice whose options were not listed takes any key.
        let value = if field.kind == FieldType::Choice && field.options.is_empty() {
            Ok(lumbo_value::Value::choice(value.as_str().unwrap_or_default()))
        } else {
            lumbo_reading::from_json(field, &value)
        };
        lookup.values.insert(key, value.map_err(|says| anyhow!(says))?);
    }
    for raw in input::lines(&input::text(Path::new("-"))?) {
        let out = match compile(&raw, Names { fields: &fields, tables: &[] }) {
            Err(error) => json!({"raw": raw, "ok": false, "at": error.at, "says": error.says}),
            Ok(formula) => match formula.run(&lookup) {
                Err(error) => json!({"raw": raw, "ok": false, "at": 0, "says": error.to_string()}),
                Ok(value) => {
                    let mut out = json!({"raw": raw, "ok": true});
                    // A missing value is absent.
                    if let Some(value) = value {
                        out["value"] = value.to_json();
                    }
                    out["type"] = json!(formula.gives());
                    out
                }
            },
        };
        if options.json {
            print_line(&out)?;
        } else {
            match (out.get("value"), out.get("says")) {
                (Some(value), _) => println!("{raw} = {value}"),
                (None, Some(says)) => println!("{raw}: character {}: {}", out["at"], says.as_str().unwrap_or_default()),
                (None, None) => println!("{raw}: missing"),
            }
        }
    }
    Ok(false)
}
