//! `lumbo clock`.

use std::path::Path;

use anyhow::{Context as _, anyhow, bail};
use jiff::Timestamp;
use lumbo_calendar::{Calendar, Written};
use serde::Deserialize;
use serde_json::{Value as Json, json};

use crate::commands::print_line;
use crate::{Done, input};

/// Options.
#[derive(clap::Args)]
pub struct Options {
    /// The calendar: a path, or JSON itself.
    #[arg(long)]
    calendar: String,
    /// Write one JSON document a line.
    #[arg(long)]
    json: bool,
}

/// A question: so many minutes after a moment, or the minutes between two.
#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Question {
    from: Timestamp,
    add_minutes: Option<u64>,
    to: Option<Timestamp>,
}

/// Answers each line of standard input in working time.
pub fn run(options: &Options) -> Done {
    let written: Written = serde_json::from_value(input::json(&options.calendar)?).context("this is no calendar")?;
    let calendar = Calendar::new(&written)?;
    for (number, line) in input::text(Path::new("-"))?.lines().enumerate() {
        if line.trim().is_empty() {
            continue;
        }
        let question: Question = serde_json::from_str(line).map_err(|error| anyhow!("line {}: {error}", number + 1))?;
        let (answer, words) = answer(&calendar, &question).with_context(|| format!("line {}", number + 1))?;
        if options.json { print_line(&answer)? } else { println!("{words}") }
    }
    Ok(false)
}

fn answer(calendar: &Calendar, question: &Question) -> anyhow::Result<(Json, String)> {
    match (question.add_minutes, question.to) {
        (Some(minutes), None) => {
            let at = calendar.after(question.from, minutes);
            let at =
                at.ok_or_else(|| anyhow!("so many working minutes never pass: the calendar does not open again"))?;
            let local = at.to_zoned(calendar.zone().clone());
            Ok((json!({"at": at}), local.strftime("%A %-d %B %Y, %H:%M").to_string()))
        }
        (None, Some(to)) => {
            let minutes = calendar.between(question.from, to).as_mins();
            Ok((json!({"minutes": minutes}), format!("{minutes} working minutes")))
        }
        _ => bail!("a line has “from” and either “add_minutes” or “to”"),
    }
}
