//! What the prospect sees, and the margin notes that an author sees beside it. Pure functions of events.

use std::collections::BTreeMap;

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use super::step::open_one;
use super::{Event, FormProblem, Line, Stage, State, WhyOut};
use crate::file::{Field, FieldType};
use crate::plan::Kind;
use crate::plan::Plan;
use crate::score::ScoreResult;
use lumbo_reading::{Reader, shown};
use lumbo_route::{Decision, Look};
use lumbo_value::text::Piece;

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
    /// True once it was passed on.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub filed: bool,
}

/// One line on the prospect's page.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct ProspectLine {
    /// `us`, `you`, or `again` for a message about an answer that was not kept.
    pub who: Who,
    /// What it shows.
    pub line: Line,
    /// The turn whose answer it is, where that can be changed.
    pub turn: Option<String>,
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
    /// What is open.
    pub kind: QuestionKind,
    /// What sort of answer it takes, for the keyboard of a phone.
    pub answer: FieldType,
    /// Options to tap.
    pub options: Vec<QuestionOption>,
    /// Least and most options to choose, where several may be.
    pub least: Option<u32>,
    /// See `least`.
    pub most: Option<u32>,
    /// Fields of a form.
    pub form: Vec<FormField>,
    /// What was kept, at a Read back.
    pub kept: Vec<KeptLine>,
    /// Label of the skip.
    pub skip: Option<String>,
    /// Questions answered or left so far.
    pub done: u16,
    /// Most questions that can still come, this one included.
    pub ahead: u16,
    /// Seconds of silence after which the page says that time has passed; 0 for never.
    pub nudge_seconds: u16,
}

/// What is open.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum QuestionKind {
    /// One question, one answer.
    One,
    /// One question, several of its options.
    Several,
    /// A form.
    Form,
    /// An open question.
    Open,
    /// What was kept, to be found right or changed.
    ReadBack,
}

/// One field of a form on the page.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct FormField {
    /// The field's key.
    pub key: String,
    /// Its label.
    pub label: String,
    /// What sort of answer it takes.
    pub answer: FieldType,
    /// Options to choose from.
    pub options: Vec<QuestionOption>,
    /// True where it must be filled.
    pub required: bool,
    /// What is known already, in plain words.
    pub value: Option<String>,
    /// What is wrong with what was sent last.
    pub problem: Option<String>,
}

/// One line of a Read back.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct KeptLine {
    /// The field's key.
    pub key: String,
    /// Its label.
    pub label: String,
    /// The value in plain words, or that there is none.
    pub value: String,
    /// True where there is one.
    pub given: bool,
    /// True where it follows from other answers and cannot be changed by itself.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub worked_out: bool,
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
    /// Hash of a picture.
    pub picture: Option<String>,
}

/// The prospect's view after `state`, with the lines of `events`.
#[must_use]
pub fn prospect_view(plan: &Plan, state: &State, events: &[Event]) -> ProspectView {
    let mut lines: Vec<ProspectLine> = Vec::new();
    let text = |text: &String| Line::Text { text: text.clone() };
    let mut problems: &[FormProblem] = &[];
    for event in events {
        let mut say = |who: Who, line: Line| lines.push(ProspectLine { who, line, turn: None });
        match event {
            Event::Said { lines, .. }
            | Event::Closed { lines, .. }
            | Event::SideTalked { lines, .. }
            | Event::Offered { lines, .. }
            | Event::OpenRead { lines, .. } => {
                lines.iter().for_each(|line| say(Who::Us, line.clone()));
            }
            Event::Asked { text: words, .. } | Event::AskedAgain { text: words, .. } => say(Who::Us, text(words)),
            Event::Replied { turn, text: words, .. } => {
                lines.push(ProspectLine { who: Who::You, line: text(words), turn: Some(turn.clone()) });
            }
            Event::NotKept { message, attempt, of, .. } if attempt < of => say(Who::Again, text(message)),
            Event::FormReturned { message, problems: found, .. } => {
                problems = found;
                say(Who::Again, text(message));
            }
            Event::Tied { message, .. } | Event::NotChanged { message, .. } => say(Who::Again, text(message)),
            Event::Revised { message: Some(message), .. } | Event::Nudged { message } => say(Who::Us, text(message)),
            Event::FellBack { message, .. } => say(Who::Us, text(message)),
            _ => {}
        }
    }
    // The answer to one question can be changed by its line; what came out of a form or a free reply, at the Read back.
    for line in &mut lines {
        let asks = line
            .turn
            .as_ref()
            .and_then(|turn| plan.turn(turn))
            .is_some_and(|(_, node)| matches!(node.kind, Kind::Ask(_)));
        let answered = line
            .turn
            .as_ref()
            .is_some_and(|turn| state.answers.iter().any(|answer| answer.turn == *turn && !answer.besides));
        if !(asks && answered) {
            line.turn = None;
        }
    }
    ProspectView {
        sequence: state.sequence(),
        lines,
        question: question(plan, state, problems),
        ended: state.closed.is_some(),
        filed: state.filings > 0 && state.unfinished.is_none(),
    }
}

fn options(plan: &Plan, field: &Field, reader: &Reader) -> Vec<QuestionOption> {
    reader
        .options()
        .map(|(key, label)| {
            let option = field.options.iter().find(|option| option.key == key);
            let hint = option
                .and_then(|option| option.hint.as_ref())
                .map(|hint| hint.get(&plan.language, &plan.file.language).to_owned());
            let picture =
                option.and_then(|option| option.picture.clone()).filter(|hash| plan.file.media.contains_key(hash));
            QuestionOption { key: key.to_owned(), label: label.to_owned(), hint, picture }
        })
        .collect()
}

fn question(plan: &Plan, state: &State, problems: &[FormProblem]) -> Option<Question> {
    let asking = state.asking.as_ref()?;
    let (index, node) = plan.turn(&asking.turn)?;
    let language = (plan.language.as_str(), plan.file.language.as_str());
    let mut question = Question {
        kind: QuestionKind::Open,
        answer: FieldType::LongText,
        options: Vec::new(),
        least: None,
        most: None,
        form: Vec::new(),
        kept: Vec::new(),
        skip: None,
        done: state.questions,
        ahead: plan.ahead.get(index).copied().unwrap_or(1),
        nudge_seconds: silence(plan, state),
    };
    match &asking.stage {
        Stage::Open => {}
        Stage::ReadBack => {
            let Kind::ReadBack(back) = &node.kind else { return None };
            question.kind = QuestionKind::ReadBack;
            // What was never asked is left out; what is worked out follows from the rest and is shown as it is.
            question.kept = back
                .fields
                .iter()
                .filter(|field| {
                    let id = &plan.file.fields[**field].id;
                    state.values.contains_key(id) || state.answers.iter().any(|answer| answer.field == *id)
                })
                .map(|field| {
                    let worked_out = plan.worked_out[*field];
                    let field = &plan.file.fields[*field];
                    let value =
                        state.values.get(&field.id).map(|held| shown(field, &held.value, language.0, language.1));
                    KeptLine {
                        key: field.key.clone(),
                        label: field.label.clone(),
                        given: value.is_some(),
                        worked_out,
                        value: value.unwrap_or_else(|| plan.phrases.get("read_back.missing").to_owned()),
                    }
                })
                .collect();
        }
        Stage::Form(ids) => {
            question.kind = QuestionKind::Form;
            question.form = ids.iter().filter_map(|id| form_field(plan, state, &node.kind, id, problems)).collect();
        }
        stage => {
            let one = open_one(plan, state)?;
            let field = &plan.file.fields[one.field];
            question.answer = field.kind;
            question.kind = if field.kind == FieldType::Choices { QuestionKind::Several } else { QuestionKind::One };
            (question.least, question.most) = one.reader.limits();
            question.skip = one.skip.map(|pieces| {
                pieces.iter().map(|piece| if let Piece::Words(words) = piece { words.as_str() } else { "" }).collect()
            });
            question.options = match stage {
                Stage::Confirm => ["yes", "no"].map(|key| plain_option(key, plan.phrases.get(key))).into(),
                _ if field.kind == FieldType::Consent => {
                    vec![
                        plain_option("yes", plan.phrases.get("ui.agree")),
                        plain_option("no", plan.phrases.get("ui.disagree")),
                    ]
                }
                _ => options(plan, field, one.reader),
            };
        }
    }
    Some(question)
}

/// Seconds after which silence comes to something next: the question whether they are there, then the end.
fn silence(plan: &Plan, state: &State) -> u16 {
    let settings = &plan.file.settings;
    if settings.nudge_seconds > 0 && !state.nudged {
        settings.nudge_seconds
    } else {
        settings.idle_minutes.saturating_mul(60)
    }
}

fn plain_option(key: &str, label: &str) -> QuestionOption {
    QuestionOption { key: key.to_owned(), label: label.to_owned(), hint: None, picture: None }
}

fn form_field(plan: &Plan, state: &State, kind: &Kind, id: &str, problems: &[FormProblem]) -> Option<FormField> {
    let index = plan.file.fields.iter().position(|field| field.id == id)?;
    let field = &plan.file.fields[index];
    let (label, reader) = match kind {
        Kind::AskTogether(form) => form
            .fields
            .iter()
            .find(|wanted| wanted.field == index)
            .map(|wanted| (wanted.label.clone(), &wanted.reader))?,
        _ => (field.label.clone(), plan.readers.get(index)?.as_ref()?),
    };
    Some(FormField {
        key: field.key.clone(),
        label,
        answer: field.kind,
        options: options(plan, field, reader),
        required: reader.required(),
        value: state.values.get(id).map(|held| shown(field, &held.value, &plan.language, &plan.file.language)),
        problem: problems.iter().find(|problem| problem.field == id).map(|problem| problem.message.clone()),
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
    let unit =
        plan.field(field).and_then(|field| field.unit.as_ref().filter(|unit| field.label.eq_ignore_ascii_case(unit)));
    // "1 pallet" of the field "Pallets" too.
    unit.and_then(|unit| shown.strip_suffix(unit.as_str()).or_else(|| shown.rsplit_once(' ').map(|(amount, _)| amount)))
        .map_or(shown, str::trim_end)
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
        "pattern" => "not of the needed form",
        "phone_country" => "a number of another country",
        "not_past" => "in the past",
        "within_days" => "too far ahead",
        "at_least" => "too few",
        "at_most" => "too many",
        "formula" => "against the author’s own rule",
        "phone_valid" => "no such phone number",
        other => other,
    }
}

/// How the notes beside a conversation speak of it.
#[derive(Debug, Clone, Copy)]
pub enum Told<'a> {
    /// As of one that is rehearsed: nothing was filed.
    Rehearsed,
    /// As of one that took place, with the names of the workspace's queues by their keys.
    TookPlace(&'a BTreeMap<String, String>),
}

impl Told<'_> {
    /// A filing in words.
    fn filing(self, score: Option<&ScoreResult>, decision: &Decision, how: (bool, bool)) -> String {
        let (unfinished, early) = how;
        let score = score
            .map_or_else(|| "without a score".to_owned(), |score| format!("{}, {}", score.total, score.band_label));
        let named = |key: &String| match self {
            Self::Rehearsed => format!("queue {key}"),
            Self::TookPlace(names) => names.get(key).unwrap_or(key).clone(),
        };
        let queue = decision.queue.as_ref().map_or_else(|| "no queue".to_owned(), named);
        // What is on file changes without a release; it is looked at when the lead is filed.
        let queue = match decision.looks.first() {
            None => queue,
            Some(Look { firm: Some(is), queue: to, .. }) if !to.is_empty() => {
                format!("{} where {}, else {queue}", named(to), is.says())
            }
            Some(_) => {
                let at = decision.looks.iter().find_map(|look| look.at.first());
                let at = at.map_or_else(|| "where they are".to_owned(), |spot| spot.text.clone());
                format!("the queue that territories have for {at}, else {queue}")
            }
        };
        let what = match (self, unfinished) {
            (Self::Rehearsed, false) => "Would file a lead",
            (Self::Rehearsed, true) => "Would file a lead left unfinished",
            (Self::TookPlace(_), false) => "Filed a lead",
            (Self::TookPlace(_), true) => "Went silent here; filed a lead left unfinished",
        };
        let later = if early { "; its owner is chosen at the end, or after five minutes of silence" } else { "" };
        format!("{what}: {score}; {queue}{later}")
    }
}

/// The lines of a conversation with the notes beside them.
#[must_use]
pub fn margin(plan: &Plan, events: &[Event], told: Told<'_>) -> Vec<MarginLine> {
    let mut lines: Vec<MarginLine> = Vec::new();
    // Notes stand beside the reply that caused them; before the first reply, beside the line before.
    let say = |lines: &mut Vec<MarginLine>, who: Who, line: Line, turn: Option<&String>| {
        lines.push(MarginLine { who, line, turn: turn.cloned(), notes: Vec::new() });
    };
    let note = |lines: &mut Vec<MarginLine>, tone: Tone, text: String| {
        let last_reply = lines.iter().rposition(|line| line.who == Who::You);
        let place = last_reply.or(lines.len().checked_sub(1));
        match place.and_then(|place| lines.get_mut(place)) {
            Some(line) => line.notes.push(MarginNote { tone, text }),
            None => lines.push(MarginLine {
                who: Who::Us,
                line: Line::Text { text: String::new() },
                turn: None,
                notes: vec![MarginNote { tone, text }],
            }),
        }
    };
    let label = |id: &String| plan.field(id).map_or_else(|| id.clone(), |field| field.label.clone());
    let moved = |before: &i64, after: &i64| match after - before {
        0 => String::new(),
        change => format!("; {}{} points, now {after}", if change > 0 { "+" } else { "−" }, change.abs()),
    };
    let title = |id: &String| {
        plan.section(id).map_or_else(|| id.clone(), |index| format!("{} {}", index + 1, plan.sections[index].title))
    };
    for event in events {
        match event {
            Event::Said { turn, lines: said } => {
                said.iter().for_each(|line| say(&mut lines, Who::Us, line.clone(), Some(turn)));
            }
            Event::Asked { turn, text, .. } | Event::AskedAgain { turn, text } => {
                say(&mut lines, Who::Us, Line::Text { text: text.clone() }, Some(turn));
            }
            Event::Replied { turn, text, .. } => {
                say(&mut lines, Who::You, Line::Text { text: text.clone() }, Some(turn));
            }
            Event::Kept { field, shown, before, after, besides, .. } => {
                let besides = if *besides { ", given besides" } else { "" };
                note(
                    &mut lines,
                    Tone::Good,
                    format!("{} {}{besides}{}", label(field), without_unit(plan, field, shown), moved(before, after)),
                );
            }
            Event::Prefilled { field, shown, before, after, .. } => {
                note(
                    &mut lines,
                    Tone::Plain,
                    format!(
                        "Known before: {} {}{}",
                        label(field),
                        without_unit(plan, field, shown),
                        moved(before, after)
                    ),
                );
            }
            Event::SideTalked { turn, talk, what, lines: said } => {
                let name =
                    if talk.is_some() { format!("Side-talk: “{what}”") } else { format!("Side-talk: {what}") };
                note(&mut lines, Tone::Plain, format!("{name}; uses no try"));
                said.iter().for_each(|line| say(&mut lines, Who::Us, line.clone(), Some(turn)));
            }
            Event::Offered { lines: said, .. } => {
                note(&mut lines, Tone::Plain, "Offer shown".to_owned());
                said.iter().for_each(|line| say(&mut lines, Who::Us, line.clone(), None));
            }
            Event::FormReturned { turn, problems, message, attempt, of } => {
                for problem in problems {
                    let failed = problem.failed.iter().map(|key| rule_words(key)).collect::<Vec<_>>().join(", ");
                    note(&mut lines, Tone::Bad, format!("{} not kept: {failed}", label(&problem.field)));
                }
                note(&mut lines, Tone::Bad, format!("Try {attempt} of {of}"));
                say(&mut lines, Who::Again, Line::Text { text: message.clone() }, Some(turn));
            }
            Event::OpenRead { turn, filled, lines: said } => {
                note(
                    &mut lines,
                    if *filled > 0 { Tone::Good } else { Tone::Watch },
                    format!("{filled} {} read", if *filled == 1 { "field" } else { "fields" }),
                );
                said.iter().for_each(|line| say(&mut lines, Who::Us, line.clone(), Some(turn)));
            }
            Event::AllRight { .. } => note(&mut lines, Tone::Good, "Found right".to_owned()),
            Event::NotChanged { turn, message, .. } => {
                note(&mut lines, Tone::Watch, "Not changed".to_owned());
                say(&mut lines, Who::Again, Line::Text { text: message.clone() }, Some(turn));
            }
            Event::Revised { field, shown, message, dropped, .. } => {
                let what = match (field, shown) {
                    (Some(field), Some(shown)) => {
                        format!("Changed: {} {}", label(field), without_unit(plan, field, shown))
                    }
                    _ => "Taken back".to_owned(),
                };
                let gone: Vec<String> = dropped.iter().map(&label).collect();
                let gone =
                    if gone.is_empty() { String::new() } else { format!("; no longer stands: {}", gone.join(", ")) };
                note(&mut lines, Tone::Watch, format!("{what}{gone}"));
                message.iter().for_each(|message| say(&mut lines, Who::Us, Line::Text { text: message.clone() }, None));
            }
            Event::Nudged { message } => say(&mut lines, Who::Us, Line::Text { text: message.clone() }, None),
            Event::Assumed { field, shown, before, after, .. } => {
                note(
                    &mut lines,
                    Tone::Plain,
                    format!(
                        "Taken as given: {} {}{}",
                        label(field),
                        without_unit(plan, field, shown),
                        moved(before, after)
                    ),
                );
            }
            Event::NotKept { turn, failed, message, attempt, of, .. } => {
                note(
                    &mut lines,
                    Tone::Bad,
                    format!(
                        "Not kept: {}. Try {attempt} of {of}",
                        failed.iter().map(|key| rule_words(key)).collect::<Vec<_>>().join(", ")
                    ),
                );
                if attempt < of {
                    say(&mut lines, Who::Again, Line::Text { text: message.clone() }, Some(turn));
                }
            }
            Event::Tied { turn, options, message } => {
                note(&mut lines, Tone::Watch, format!("Fits {} options; uses no try", options.len()));
                say(&mut lines, Who::Again, Line::Text { text: message.clone() }, Some(turn));
            }
            Event::LeftOpen { turn, field, why, message, .. } => {
                let why = match why {
                    WhyOut::Tries => "the tries ran out",
                    WhyOut::Declined => "declined",
                    WhyOut::Skipped => "skipped",
                    WhyOut::Extras => "too many ties",
                };
                note(&mut lines, Tone::Watch, format!("{} missing: {why}", label(field)));
                if let Some(text) = message {
                    say(&mut lines, Who::Us, Line::Text { text: text.clone() }, Some(turn));
                }
            }
            Event::KnownAlready { field, .. } => {
                note(&mut lines, Tone::Plain, format!("{} known already, not asked", label(field)));
            }
            Event::Took { because, low_end, .. } => {
                let low = if *low_end { ", by the low end of the span" } else { "" };
                note(&mut lines, Tone::Plain, format!("Arm: {because}{low}"));
            }
            Event::WorkedOut { field, value, shown, before, after, .. } => {
                let tone = if value.is_some() { Tone::Good } else { Tone::Watch };
                note(&mut lines, tone, format!("{} {shown}{}", label(field), moved(before, after)));
            }
            Event::Entered { section } if !lines.is_empty() => {
                note(&mut lines, Tone::Plain, format!("→ {}", title(section)));
            }
            Event::Visited { .. } => note(&mut lines, Tone::Plain, "Visit".to_owned()),
            Event::Returned { .. } => note(&mut lines, Tone::Plain, "back from the Visit".to_owned()),
            Event::Filed { score, decision, unfinished, early, .. } => {
                let out = score.as_ref().is_some_and(|score| !score.rule_outs.is_empty());
                let tone = match (out, unfinished) {
                    (true, _) => Tone::Bad,
                    (false, true) => Tone::Watch,
                    (false, false) => Tone::Good,
                };
                note(&mut lines, tone, told.filing(score.as_deref(), decision, (*unfinished, *early)));
            }
            Event::Closed { turn, outcome, lines: said } => {
                said.iter().for_each(|line| say(&mut lines, Who::Us, line.clone(), turn.as_ref()));
                let name = plan
                    .file
                    .outcomes
                    .iter()
                    .find(|known| known.id == *outcome)
                    .map_or(outcome.as_str(), |known| known.label.as_str());
                note(&mut lines, Tone::Plain, format!("Ended: {name}"));
            }
            Event::FellBack { why, message } => {
                say(&mut lines, Who::Us, Line::Text { text: message.clone() }, None);
                note(&mut lines, Tone::Bad, format!("Closing fallback: {why}"));
            }
            Event::Left => note(&mut lines, Tone::Watch, "They left".to_owned()),
            Event::Taken { .. }
            | Event::Started { .. }
            | Event::Entered { .. }
            | Event::LeftVisits
            | Event::Erased { .. } => {}
        }
    }
    lines
}
