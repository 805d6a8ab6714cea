//! What stays of an event when the person it came from is erased: that it happened, when, at which turn; never a word
//! or a value.

use super::{Context, Event};
use crate::score::ScoreResult;

/// The event without words and values. What folds from erased events is a conversation that took its inputs, entered
/// its sections, filed and ended as it did, and holds nothing.
///
/// ```
/// use lumbo_dialogue::talk::{Event, erased};
/// let said = Event::Replied { turn: "t_name".into(), text: "Pia Lindqvist".into(), picked: false };
/// assert_eq!(erased(&said), Event::Erased { was: "replied".into(), turn: Some("t_name".into()) });
/// assert_eq!(erased(&erased(&said)), erased(&said));
/// ```
#[must_use]
pub fn erased(event: &Event) -> Event {
    match event {
        Event::Taken { .. }
        | Event::Entered { .. }
        | Event::Visited { .. }
        | Event::Returned { .. }
        | Event::LeftVisits
        | Event::Left
        | Event::AllRight { .. }
        | Event::Erased { .. } => event.clone(),
        Event::Started { language, seed, context, .. } => Event::Started {
            language: language.clone(),
            seed: *seed,
            context: Box::new(without_traces(context)),
            points: 0,
            others: Vec::new(),
        },
        Event::Filed { turn, filing, score, decision, unfinished, early } => Event::Filed {
            turn: turn.clone(),
            filing: *filing,
            score: score.as_deref().map(without_reasons).map(Box::new),
            decision: lumbo_route::Decision { steps: Vec::new(), looks: Vec::new(), ..decision.clone() },
            unfinished: *unfinished,
            early: *early,
        },
        Event::Closed { turn, outcome, .. } => {
            Event::Closed { turn: turn.clone(), outcome: outcome.clone(), lines: Vec::new() }
        }
        Event::FellBack { why, .. } => Event::FellBack { why: why.clone(), message: String::new() },
        Event::Said { .. }
        | Event::Asked { .. }
        | Event::AskedAgain { .. }
        | Event::SideTalked { .. }
        | Event::Offered { .. }
        | Event::FormReturned { .. }
        | Event::OpenRead { .. }
        | Event::Prefilled { .. }
        | Event::NotChanged { .. }
        | Event::Revised { .. }
        | Event::Nudged { .. }
        | Event::Replied { .. }
        | Event::Kept { .. }
        | Event::Assumed { .. }
        | Event::NotKept { .. }
        | Event::Tied { .. }
        | Event::LeftOpen { .. }
        | Event::KnownAlready { .. }
        | Event::Took { .. }
        | Event::WorkedOut { .. } => Event::Erased { was: name(event), turn: event.turn().map(str::to_owned) },
    }
}

/// Which campaign brought them stays, for the numbers; addresses of pages, what they carried and what their browser
/// told go.
fn without_traces(context: &Context) -> Context {
    Context {
        campaign: context.campaign.clone(),
        campaign_source: context.campaign_source.clone(),
        campaign_medium: context.campaign_medium.clone(),
        ..Context::default()
    }
}

/// The total and the band stay; what they were given for goes.
fn without_reasons(score: &ScoreResult) -> ScoreResult {
    ScoreResult {
        scorecard: score.scorecard.clone(),
        total: score.total,
        band: score.band.clone(),
        band_label: score.band_label.clone(),
        band_by_points: score.band_by_points.clone(),
        band_from: score.band_from,
        dimensions: Vec::new(),
        caps: Vec::new(),
        rule_outs: Vec::new(),
        unknown: Vec::new(),
    }
}

/// What an event is called where it is kept.
fn name(event: &Event) -> String {
    let body = serde_json::to_value(event).unwrap_or_default();
    body.get("event").and_then(serde_json::Value::as_str).unwrap_or_default().to_owned()
}
