//! `lumbo rehearse`.

use std::path::PathBuf;

use anyhow::{anyhow, bail};
use jiff::Timestamp;
use lumbo_dialogue::talk::{Context, Env, Event, Line, Told, Who, margin, script};
use serde_json::{Map, Value as Json, json};

use crate::commands::print;
use crate::{Done, input};

/// Options.
#[derive(clap::Args)]
pub struct Options {
    /// A dialogue file.
    file: PathBuf,
    /// One reply a line; - for standard input.
    #[arg(long)]
    replies: PathBuf,
    /// Picks among other wordings.
    #[arg(long, default_value_t = 1)]
    seed: u64,
    /// The time it happens at, RFC 3339; now where absent.
    #[arg(long)]
    now: Option<Timestamp>,
    /// What is known without asking: page, campaign, country and so on; a path, or JSON itself.
    #[arg(long)]
    known: Option<String>,
    /// Write one JSON document.
    #[arg(long)]
    json: bool,
}

/// Runs the replies through the engine.
pub fn run(options: &Options) -> Done {
    let plan = input::plan(&options.file)?;
    let context: Context = match &options.known {
        None => Context::default(),
        Some(known) => serde_json::from_value(input::json(known)?).map_err(|error| anyhow!("--known: {error}"))?,
    };
    let mut inputs = Vec::new();
    for (index, line) in input::lines(&input::text(&options.replies)?).iter().enumerate() {
        match script::line(line, index + 1) {
            Ok(body) => inputs.push(body),
            Err(error) => bail!("{error}"),
        }
    }
    let env = Env {
        now: options.now.unwrap_or_else(Timestamp::now),
        seed: options.seed,
        context: &context,
        known: &[],
        domains: lumbo_reading::domains::DomainLists::none(),
    };
    let (events, state) = script::run(&plan, &inputs, env).map_err(|error| anyhow!("{error}"))?;
    let lines = margin(&plan, &events, Told::Rehearsed);
    let key = |id: &String| plan.field(id).map_or_else(|| id.clone(), |field| field.key.clone());
    let filed = events.iter().rev().find_map(|event| {
        if let Event::Filed { score, decision, .. } = event { Some((score, decision)) } else { None }
    });
    if options.json {
        let values: Map<String, Json> = state.values.iter().map(|(id, held)| (key(id), held.value.to_json())).collect();
        let missing: Map<String, Json> = state.missing.iter().map(|(id, why)| (key(id), json!(why))).collect();
        let mut out = json!({"transcript": lines, "values": values, "missing": missing, "points": state.points,
            "filed": state.filings > 0, "ended": state.closed.is_some()});
        if let Some((score, decision)) = filed {
            out["score"] = json!(score);
            out["band"] = json!(score.as_ref().map(|score| &score.band_label));
            out["queue"] = json!(decision.queue);
            out["decision"] = json!(decision);
        }
        if let Some(outcome) = state.closed.as_ref().filter(|outcome| !outcome.is_empty()) {
            out["outcome"] = json!(outcome);
        }
        if let Some(Event::Closed { lines, .. }) = events.last() {
            out["close"] = json!(lines);
        }
        return print(&out);
    }
    for line in &lines {
        let words = line_words(&line.line);
        let who = match line.who {
            Who::Us => "  ",
            Who::You => "> ",
            Who::Again => "? ",
        };
        println!("{who}{words}");
        for note in &line.notes {
            println!("      · {}", note.text);
        }
    }
    println!(
        "\n{} points{}",
        state.points,
        if state.closed.is_some() { "" } else { "; the conversation is still open" }
    );
    Ok(false)
}

/// A line as plain text.
fn line_words(line: &Line) -> String {
    match line {
        Line::Text { text } => text.clone(),
        Line::Picture { alt, .. } => format!("[picture: {alt}]"),
        Line::Document { label, .. } => format!("[document: {label}]"),
        Line::Link { label, url } => format!("[{label}: {url}]"),
        Line::Beside { lines } => lines.iter().map(line_words).collect::<Vec<_>>().join(" "),
    }
}
