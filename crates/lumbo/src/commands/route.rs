//! `lumbo route`.

use std::path::{Path, PathBuf};

use anyhow::anyhow;
use lumbo_condition::circumstances::{Circumstances, Context};
use lumbo_condition::{Facts, Scored};
use lumbo_dialogue::plan::Plan;
use lumbo_formula::PlainLookup;
use lumbo_reading::from_json;
use lumbo_route::{Decision, Firm, RouteStep, Territories, words};
use serde::Deserialize;
use serde_json::{Map, Value as Json, json};

use crate::commands::print_line;
use crate::{Done, input};

/// Options.
#[derive(clap::Args)]
pub struct Options {
    /// A dialogue file.
    file: PathBuf,
    /// Today for TODAY in formulas, as 2027-01-05; the machine's where absent.
    #[arg(long)]
    now: Option<jiff::civil::Date>,
    /// A JSON list of tables of territories, each with `key`, `name`, `rows` of `starts` and `queue`, and `otherwise`.
    #[arg(long)]
    territories: Option<PathBuf>,
    /// Write one JSON document a line.
    #[arg(long)]
    json: bool,
}

/// A lead: what it says, and what was known without asking.
#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Lead {
    #[serde(default)]
    answers: Map<String, Json>,
    #[serde(default)]
    context: Context,
    /// What is on file of their firm; rules that want something of it stay unsettled without.
    #[serde(default)]
    firm: Option<Firm>,
}

/// Routes the lead of each line of standard input.
pub fn run(options: &Options) -> Done {
    let plan = input::plan(&options.file)?;
    let today = options.now.unwrap_or_else(|| jiff::Zoned::now().date());
    let read = |file: &PathBuf| -> anyhow::Result<Vec<Territories>> {
        serde_json::from_str(&input::text(file)?).map_err(|error| anyhow!("{}: {error}", file.display()))
    };
    let tables = options.territories.as_ref().map(read).transpose()?;
    for (number, line) in input::text(Path::new("-"))?.lines().enumerate() {
        if line.trim().is_empty() {
            continue;
        }
        let lead: Lead = serde_json::from_str(line).map_err(|error| anyhow!("line {}: {error}", number + 1))?;
        let decision = decide(&plan, &lead, today).map_err(|says| anyhow!("line {}: {says}", number + 1))?;
        // Without tables or a firm, a step says that it is still to be looked at.
        let decision = match (&tables, &lead.firm) {
            (None, None) => decision,
            (tables, firm) => decision.looked_up(&firm.clone().unwrap_or_default(), |key| {
                tables.iter().flatten().find(|table| table.key == key)
            }),
        };
        if options.json {
            print_line(&answer(&decision))?;
        } else {
            println!("{}", words::says(&decision, &|_| None).join("; "));
        }
    }
    Ok(false)
}

fn decide(plan: &Plan, lead: &Lead, today: jiff::civil::Date) -> anyhow::Result<Decision> {
    let mut lookup =
        PlainLookup { currency: plan.file.settings.currency.clone(), today: Some(today), ..PlainLookup::default() };
    for (key, value) in &lead.answers {
        let field = plan.field_by_key(key).ok_or_else(|| anyhow!("this dialogue has no field “{key}”"))?;
        lookup.values.insert(key.clone(), from_json(field, value).map_err(|says| anyhow!(says))?);
    }
    let around = Circumstances::of(&lead.context);
    let nothing = Scored::default();
    let card = plan.default_card.and_then(|card| plan.cards.get(card));
    let score = card.map(|card| card.score(Facts { lookup: &lookup, scores: &nothing, around }, &plan.language));
    let filed = Scored {
        points: score.as_ref().map(|score| score.total),
        band: score.as_ref().and_then(|score| score.band.as_deref()),
    };
    Ok(plan.routes.decide(Facts { lookup: &lookup, scores: &filed, around }))
}

fn answer(decision: &Decision) -> Json {
    let step = |step: &RouteStep| match step {
        RouteStep::Rule { rule, held, .. } => Some(json!({"rule": rule, "held": held})),
        RouteStep::Firm { rule, held, .. } => Some(json!({"rule": rule, "held": *held == Some(true)})),
        RouteStep::Territory { rule, looked, .. } => Some(json!({"rule": rule, "held": looked.queue().is_some()})),
        RouteStep::Otherwise { .. }
        | RouteStep::Owned { .. }
        | RouteStep::StandsIn { .. }
        | RouteStep::LooksAfter { .. }
        | RouteStep::NoTurn { .. }
        | RouteStep::Picked { .. }
        | RouteStep::NoSuchQueue { .. }
        | RouteStep::Early {}
        | RouteStep::Said(_) => None,
    };
    let mut out = json!({"steps": decision.steps.iter().filter_map(step).collect::<Vec<_>>()});
    if let Some(queue) = &decision.queue {
        out["queue"] = json!(queue);
    }
    out
}
