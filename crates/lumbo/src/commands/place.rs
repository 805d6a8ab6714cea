//! `lumbo place`.

use std::path::{Path, PathBuf};

use anyhow::anyhow;
use jiff::Timestamp;
use jiff::tz::TimeZone;
use lumbo_calendar::Calendar;
use lumbo_placement::{Address, Chosen, Device, FORMAT, Known, PlacementsFile, Visit, choose};
use serde::Deserialize;
use serde_json::{Map, Value as Json, json};

use crate::commands::print_line;
use crate::{Done, input};

/// Options.
#[derive(clap::Args)]
pub struct Options {
    /// A file of placements.
    #[arg(required_unless_present = "schema")]
    file: Option<PathBuf>,
    /// Print the JSON Schema of the file.
    #[arg(long)]
    schema: bool,
}

/// A visit, as a line of standard input says it.
#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Line {
    url: String,
    /// Kept for later: a lead carries it, no rule reads it.
    #[serde(default)]
    #[expect(dead_code, reason = "a visit may bring it; no rule reads it")]
    referrer: Option<String>,
    #[serde(default)]
    device: Option<Device>,
    #[serde(default)]
    language: Option<String>,
    #[serde(default)]
    country: Option<String>,
    #[serde(default)]
    returning: bool,
    #[serde(default)]
    signed_in: bool,
    #[serde(default)]
    filed_days_ago: Option<u32>,
    #[serde(default)]
    visitor: Option<String>,
    #[serde(default)]
    at: Option<Timestamp>,
}

/// Says what shows on the visit of each line of standard input, and why.
pub fn run(options: &Options) -> Done {
    let Some(file) = options.file.as_deref().filter(|_| !options.schema) else {
        return super::print(&lumbo_placement::schema());
    };
    let file: PlacementsFile =
        serde_json::from_str(&input::text(file)?).map_err(|error| anyhow!("{}: {error}", file.display()))?;
    if let Some(format) = file.format.as_deref().filter(|format| *format != FORMAT) {
        return Err(anyhow!("this file says “{format}”; lumbo place reads {FORMAT}"));
    }
    let known = known(&file)?;
    for (number, line) in input::text(Path::new("-"))?.lines().enumerate() {
        if line.trim().is_empty() {
            continue;
        }
        let visit = visit(line).map_err(|error| anyhow!("line {}: {error}", number + 1))?;
        let slots: Map<String, Json> = choose(&file.placements, &visit, &known)
            .into_iter()
            .map(|(slot, chosen)| (slot.to_string(), answer(&chosen)))
            .collect();
        print_line(&json!({"slots": slots}))?;
    }
    Ok(false)
}

fn known(file: &PlacementsFile) -> anyhow::Result<Known> {
    let name = file.zone.as_deref().unwrap_or("UTC");
    let zone = TimeZone::get(name).map_err(|_| anyhow!("“{name}” is not a time zone"))?;
    let calendar = |(key, written): (&String, &lumbo_calendar::Written)| {
        Calendar::new(written).map(|calendar| (key.clone(), calendar)).map_err(|error| anyhow!("{key}: {error}"))
    };
    Ok(Known { zone, calendars: file.calendars.iter().map(calendar).collect::<anyhow::Result<_>>()? })
}

fn visit(line: &str) -> anyhow::Result<Visit> {
    let line: Line = serde_json::from_str(line)?;
    Ok(Visit {
        address: Address::parse(&line.url)?,
        device: line.device,
        language: line.language,
        country: line.country,
        returning: line.returning,
        signed_in: line.signed_in,
        filed_days_ago: line.filed_days_ago,
        visitor: line.visitor,
        at: line.at.unwrap_or_else(Timestamp::now),
    })
}

fn answer(chosen: &Chosen<'_>) -> Json {
    let reasons: Vec<Json> = chosen
        .reasons
        .iter()
        .map(|judged| json!({"placement": judged.placement.id, "fits": judged.fits, "why": judged.says()}))
        .collect();
    match chosen.placement {
        Some(placement) => json!({
            "placement": placement.id,
            "opens": chosen.opens,
            "away": chosen.away,
            "reasons": reasons,
        }),
        None => json!({"reasons": reasons}),
    }
}
