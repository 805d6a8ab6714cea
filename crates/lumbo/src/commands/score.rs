//! `lumbo score`.

use std::path::PathBuf;

use anyhow::{anyhow, bail};
use lumbo_core::condition::Facts;
use lumbo_core::field::from_json;
use lumbo_core::formula::PlainLookup;
use lumbo_core::talk::{Circumstances, Context};

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
    /// Write one JSON document.
    #[arg(long)]
    json: bool,
}

/// Scores answers with the file's first scorecard.
pub fn run(options: &Options) -> Done {
    let plan = input::plan(&options.file)?;
    let Some(card) = plan.cards.first() else { bail!("this dialogue has no scorecard") };
    let answers = input::json(&options.answers)?;
    let mut lookup = PlainLookup { currency: plan.file.settings.currency.clone(), today: Some(jiff::Zoned::now().date()), ..PlainLookup::default() };
    for (key, value) in answers.as_object().ok_or_else(|| anyhow!("answers are a JSON object of field keys and values"))? {
        let field = plan.field_by_key(key).ok_or_else(|| anyhow!("this dialogue has no field “{key}”"))?;
        lookup.values.insert(key.clone(), from_json(field, value).map_err(|says| anyhow!(says))?);
    }
    let context = Context::default();
    let result = card.score(Facts { lookup: &lookup, score: None, band: None, around: Circumstances::of(&context) }, &plan.language);
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
            println!("  {:+}  {}{}", criterion.points, criterion.label, if criterion.unknown { " (not known)" } else { "" });
        }
    }
    for cap in &result.caps {
        println!("Must have, {}: {}; the band stops at {}", if cap.open { "not known" } else { "does not hold" }, cap.label, cap.cap);
    }
    for out in &result.rule_outs {
        println!("Ruled out: {} ({})", out.label, out.reason);
    }
    Ok(false)
}
