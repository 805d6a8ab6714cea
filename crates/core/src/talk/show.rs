//! What the prospect sees, and the margin notes that an author sees beside it. Pure functions of events.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use super::step::open_ask;
use super::{Event, Line, State, WhyOut};
use crate::file::FieldType;
use crate::outline::Plan;

/// What a prospect's page needs: lines, the open question, nothing about points, rules or turns to come.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct ProspectView {
    /// Inputs taken; the next input must expect this.
    pub sequence: u32,
    /// Lines in order.
    pub lines: Vec<ProspectLine>,
    /// The open question.
    pub question: Option<Question>,
    /// True after the end.
    pub ended: bool,
}

/// One line on the prospect's page.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct ProspectLine {
    /// `us`, `you`, or `again` for a message about an answer that was not kept.
    pub who: Who,
    /// What it shows.
    pub line: Line,
}

/// Who a line is from.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Who {
    /// We said it.
    Us,
    /// The prospect said it.
    You,
    /// We asked again.
    Again,
}

/// The open question.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Question {
    /// What sort of answer it takes, for the keyboard of a phone.
    pub answer: FieldType,
    /// Options to tap.
    pub options: Vec<QuestionOption>,
    /// Label of the skip.
    pub skip: Option<String>,
    /// Questions answered or left so far.
    pub done: u16,
    /// Most questions that can still come, this one included.
    pub ahead: u16,
}

/// An option to tap.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct QuestionOption {
    /// Its key.
    pub key: String,
    /// Its label.
    pub label: String,
    /// A short line under it.
    pub hint: Option<String>,
}

/// The prospect's view after `state`, with the lines of `events`.
#[must_use]
pub fn prospect_view(plan: &Plan, state: &State, events: &[Event]) -> ProspectView {
    let mut lines = Vec::new();
    let mut say = |who: Who, line: Line| lines.push(ProspectLine { who, line });
    for event in events {
        match event {
            Event::Said { lines, .. } | Event::Closed { lines, .. } => lines.iter().for_each(|line| say(Who::Us, line.clone())),
            Event::Asked { text, .. } => say(Who::Us, Line::Text { text: text.clone() }),
            Event::Replied { text, .. } => say(Who::You, Line::Text { text: text.clone() }),
            Event::NotKept { message, attempt, of, .. } if attempt < of => say(Who::Again, Line::Text { text: message.clone() }),
            Event::Tied { message, .. } => say(Who::Again, Line::Text { text: message.clone() }),
            Event::FellBack { message, .. } => say(Who::Us, Line::Text { text: message.clone() }),
            _ => {}
        }
    }
    ProspectView { sequence: state.sequence(), lines, question: question(plan, state), ended: state.closed.is_some() }
}

fn question(plan: &Plan, state: &State) -> Option<Question> {
    let (index, _, ask) = open_ask(plan, state)?;
    let field = &plan.file.fields[ask.field];
    let plain = |pieces: &Vec<crate::file::text::Piece>| {
        pieces.iter().map(|piece| if let crate::file::text::Piece::Words(words) = piece { words.as_str() } else { "" }).collect::<String>()
    };
    let options = ask
        .reader
        .options()
        .map(|(key, label)| {
            let hint = field.options.iter().find(|option| option.key == key).and_then(|option| option.hint.as_ref());
            QuestionOption { key: key.to_owned(), label: label.to_owned(), hint: hint.map(|hint| hint.get(&plan.language, &plan.file.language).to_owned()) }
        })
        .collect();
    Some(Question {
        answer: field.kind,
        options,
        skip: ask.skip.as_ref().map(plain),
        done: state.questions,
        ahead: plan.ahead.get(index).copied().unwrap_or(1),
    })
}

/// A line of a rehearsal with the notes beside it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct MarginLine {
    /// Who said it.
    pub who: Who,
    /// What it shows.
    pub line: Line,
    /// The turn it belongs to.
    pub turn: Option<String>,
    /// Why: what was kept, which rule refused, which arm was taken, points before and after.
    pub notes: Vec<MarginNote>,
}

/// One note.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct MarginNote {
    /// How it is coloured.
    pub tone: Tone,
    /// Its words.
    pub text: String,
}

/// How a note is coloured.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Tone {
    /// Kept, went well.
    Good,
    /// Worth a look.
    Watch,
    /// Refused, ruled out.
    Bad,
    /// Plain.
    Plain,
}

/// A value without a unit that only says its field's label again: "Pallets 340".
fn without_unit<'a>(plan: &Plan, field: &str, shown: &'a str) -> &'a str {
    let unit = plan.field(field).and_then(|field| field.unit.as_ref().filter(|unit| field.label.eq_ignore_ascii_case(unit)));
    unit.and_then(|unit| shown.strip_suffix(unit.as_str())).map_or(shown, str::trim_end)
}

/// A failed rule in words.
fn rule_words(key: &str) -> &str {
    match key {
        "type" => "could not be read",
        "required" => "nothing said",
        "length" => "too short or too long",
        "range" => "outside the range",
        "whole" => "not a whole number",
        "company_address" => "company address needed",
        "full_name" => "full name needed",
        "phone_valid" => "no such phone number",
        other => other,
    }
}

/// The lines of a conversation with the notes beside them.
#[must_use]
pub fn margin(plan: &Plan, events: &[Event]) -> Vec<MarginLine> {
    let mut lines: Vec<MarginLine> = Vec::new();
    // Notes stand beside the reply that caused them; before the first reply, beside the line before.
    let say =
        |lines: &mut Vec<MarginLine>, who: Who, line: Line, turn: Option<&String>| lines.push(MarginLine { who, line, turn: turn.cloned(), notes: Vec::new() });
    let note = |lines: &mut Vec<MarginLine>, tone: Tone, text: String| {
        let last_reply = lines.iter().rposition(|line| line.who == Who::You);
        let place = last_reply.or(lines.len().checked_sub(1));
        match place.and_then(|place| lines.get_mut(place)) {
            Some(line) => line.notes.push(MarginNote { tone, text }),
            None => lines.push(MarginLine { who: Who::Us, line: Line::Text { text: String::new() }, turn: None, notes: vec![MarginNote { tone, text }] }),
        }
    };
    let label = |id: &String| plan.field(id).map_or_else(|| id.clone(), |field| field.label.clone());
    let moved = |before: &i64, after: &i64| match after - before {
        0 => String::new(),
        change => format!("; {}{} points, now {after}", if change > 0 { "+" } else { "−" }, change.abs()),
    };
    let title = |id: &String| plan.section(id).map_or_else(|| id.clone(), |index| format!("{} {}", index + 1, plan.sections[index].title));
    for event in events {
        match event {
            Event::Said { turn, lines: said } => said.iter().for_each(|line| say(&mut lines, Who::Us, line.clone(), Some(turn))),
            Event::Asked { turn, text } => say(&mut lines, Who::Us, Line::Text { text: text.clone() }, Some(turn)),
            Event::Replied { turn, text, .. } => say(&mut lines, Who::You, Line::Text { text: text.clone() }, Some(turn)),
            Event::Kept { field, shown, before, after, .. } => {
                note(&mut lines, Tone::Good, format!("{} {}{}", label(field), without_unit(plan, field, shown), moved(before, after)));
            }
            Event::Assumed { field, shown, before, after, .. } => {
                note(&mut lines, Tone::Plain, format!("Taken as given: {} {}{}", label(field), without_unit(plan, field, shown), moved(before, after)));
            }
            Event::NotKept { turn, failed, message, attempt, of, .. } => {
                note(
                    &mut lines,
                    Tone::Bad,
                    format!("Not kept: {}. Try {attempt} of {of}", failed.iter().map(|key| rule_words(key)).collect::<Vec<_>>().join(", ")),
                );
                if attempt < of {
                    say(&mut lines, Who::Again, Line::Text { text: message.clone() }, Some(turn));
                }
            }
            Event::Tied { turn, options, message } => {
                note(&mut lines, Tone::Watch, format!("Fits {} options; uses no try", options.len()));
                say(&mut lines, Who::Again, Line::Text { text: message.clone() }, Some(turn));
            }
            Event::LeftOpen { field, why, .. } => {
                let why = match why {
                    WhyOut::Tries => "the tries ran out",
                    WhyOut::Declined => "declined",
                    WhyOut::Skipped => "skipped",
                    WhyOut::Extras => "too many ties",
                };
                note(&mut lines, Tone::Watch, format!("{} missing: {why}", label(field)));
            }
            Event::KnownAlready { field, .. } => note(&mut lines, Tone::Plain, format!("{} known already, not asked", label(field))),
            Event::Took { because, low_end, .. } => {
                let low = if *low_end { ", by the low end of the span" } else { "" };
                note(&mut lines, Tone::Plain, format!("Arm: {because}{low}"));
            }
            Event::WorkedOut { field, value, shown, before, after, .. } => {
                let tone = if value.is_some() { Tone::Good } else { Tone::Watch };
                note(&mut lines, tone, format!("{} {shown}{}", label(field), moved(before, after)));
            }
            Event::Entered { section } if !lines.is_empty() => note(&mut lines, Tone::Plain, format!("→ {}", title(section))),
            Event::Visited { .. } => note(&mut lines, Tone::Plain, "Visit".to_owned()),
            Event::Returned { .. } => note(&mut lines, Tone::Plain, "back from the Visit".to_owned()),
            Event::Filed { score, decision, .. } => {
                let score_words = score.as_ref().map_or_else(|| "without a score".to_owned(), |score| format!("{}, {}", score.total, score.band_label));
                let out = score.as_ref().is_some_and(|score| !score.rule_outs.is_empty());
                note(
                    &mut lines,
                    if out { Tone::Bad } else { Tone::Good },
                    format!(
                        "Would file a lead: {score_words}; {}",
                        decision.queue.as_ref().map_or_else(|| "no queue".to_owned(), |queue| format!("queue {queue}"))
                    ),
                );
            }
            Event::Closed { turn, outcome, lines: said } => {
                said.iter().for_each(|line| say(&mut lines, Who::Us, line.clone(), turn.as_ref()));
                let name = plan.file.outcomes.iter().find(|known| known.id == *outcome).map_or(outcome.as_str(), |known| known.label.as_str());
                note(&mut lines, Tone::Plain, format!("Ended: {name}"));
            }
            Event::FellBack { why, message } => {
                say(&mut lines, Who::Us, Line::Text { text: message.clone() }, None);
                note(&mut lines, Tone::Bad, format!("Closing fallback: {why}"));
            }
            Event::Taken { .. } | Event::Started { .. } | Event::Entered { .. } | Event::LeftVisits => {}
        }
    }
    lines
}
