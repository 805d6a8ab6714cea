//! `lumbo score`.

use std::path::PathBuf;

use anyhow::{anyhow, bail};
use lumbo_condition::circumstances::{Circumstances, Context};
use lumbo_condition::{Facts, Scored};
use lumbo_formula::PlainLookup;
use lumbo_reading::from_json;

use crate::commands::print;
use crate::{Done, input};

/// Options.
#[derive(clap::Args)]
pub struct Options {
    /// A dialogue file.
    file: PathBuf,
    /// Answers by field key; a path, or JSON itself.
    #[arg(long)]
    answers: String,
    /// Id of the scorecard; the dialogue's default where absent.
    #[arg(long)]
    card: Option<String>,
    /// Today for TODAY in formulas, as 2027-01-05; the machine's where absent.
    #[arg(long)]
    now: Option<jiff::civil::Date>,
    /// Write one JSON document.
    #[arg(long)]
    json: bool,
}

/// Scores answers with one of the file's scorecards.
pub fn run(options: &Options) -> Done {
    let plan = input::plan(&options.file)?;
    let card = match &options.card {
        Some(id) => plan
            .cards
            .iter()
            .find(|card| card.file.id == *id)
            .ok_or_else(|| anyhow!("this dialogue has no scorecard “{id}”"))?,
        None => match plan.default_card.and_then(|card| plan.cards.get(card)) {
            Some(card) => card,
            None if plan.cards.is_empty() => bail!("this dialogue has no scorecard"),
            None => bail!("this dialogue has several scorecards and none is its default; name one with --card"),
        },
    };
    let answers = input::json(&options.answers)?;
    let mut lookup = PlainLookup {
        currency: plan.file.settings.currency.clone(),
        today: Some(options.now.unwrap_or_else(|| jiff::Zoned::now().date())),
        ..PlainLookup::default()
    };
    for (key, value) in
        answers.as_object().ok_or_else(|| anyhow!("answers are a JSON object of field keys and values"))?
    {
        let field = plan.field_by_key(key).ok_or_else(|| anyhow!("this dialogue has no field “{key}”"))?;
        lookup.values.insert(key.clone(), from_json(field, value).map_err(|says| anyhow!(says))?);
    }
    let context = Context::default();
    let result = card.score(
        Facts { lookup: &lookup, scores: &Scored::default(), around: Circumstances::of(&context) },
        &plan.language,
    );
    if options.json {
        return print(&result);
    }
    println!("{} points: {}", result.total, result.band_label);
    for dimension in &result.dimensions {
        println!(
            "{}: {}{}",
            dimension.title,
            dimension.counts,
            if dimension.sum == dimension.counts { String::new() } else { format!(" (of {})", dimension.sum) }
        );
        for criterion in dimension.criteria.iter().filter(|criterion| criterion.points != 0 || criterion.unknown) {
            println!(
                "  {:+}  {}{}",
                criterion.points,
                criterion.label,
                if criterion.unknown { " (not known)" } else { "" }
            );
        }
    }
    for cap in &result.caps {
        println!(
            "Must have, {}: {}; the band stops at {}",
            if cap.open { "not known" } else { "does not hold" },
            cap.label,
            cap.cap
        );
    }
    for out in &result.rule_outs {
        println!("Ruled out: {} ({})", out.label, out.reason);
    }
    Ok(false)
}
