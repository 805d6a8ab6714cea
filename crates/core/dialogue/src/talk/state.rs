//! What a conversation is at: the fold over its events.

use std::collections::{BTreeMap, BTreeSet};

use jiff::Timestamp;
use serde::{Deserialize, Serialize};

use schemars::JsonSchema;

use super::{CardPoints, Context, Event, WhyOut};
use lumbo_value::{Missing, Value};

/// A value with the turn that kept it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct Held {
    /// The value.
    pub value: Value,
    /// The turn.
    pub turn: String,
    /// True where they said that they are not sure of it.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub unsure: bool,
}

/// The open question.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct Asking {
    /// The turn.
    pub turn: String,
    /// Failed tries since it was entered.
    pub tries: u8,
    /// Ties and side remarks since it was entered.
    pub extras: u8,
    /// What of the turn is open.
    #[serde(default, skip_serializing_if = "Stage::is_ask")]
    pub stage: Stage,
    /// What was asked back last, of which one is meant: keys of options, or two addresses, the likelier first.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub either: Vec<String>,
}

/// What of a turn is open.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Stage {
    /// The Ask's own question.
    #[default]
    Ask,
    /// Whether a known value is still right.
    Confirm,
    /// A form with these fields, by id.
    Form(Vec<String>),
    /// The open question.
    Open,
    /// One field of an Open ask, or the one that is changed at a Read back, by id.
    Field(String),
    /// What was kept.
    ReadBack,
}

impl Stage {
    /// True for an Ask's own question.
    #[must_use]
    pub fn is_ask(&self) -> bool {
        *self == Self::Ask
    }
}

/// What came of one question, so that it can be replayed.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct Answer {
    /// The turn that was open.
    pub turn: String,
    /// The field by id; empty for a turn that was passed as a whole.
    pub field: String,
    /// The value, or why there is none.
    pub came: Came,
    /// True where a reply gave it beside the answer that was asked for.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub besides: bool,
}

/// The value of an answer, or why there is none.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
pub enum Came {
    /// A value.
    Value(Value),
    /// Left open.
    Left(WhyOut),
    /// The turn was passed: an open question read, a Read back found right.
    Passed,
}

/// Which events an input caused: from the first, up to but not including the end.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct TakenInput {
    /// Its id.
    pub id: String,
    /// Number of its first event.
    pub first: u32,
}

/// A conversation's state. Two conversations with the same events have the same state.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize)]
#[serde(default)]
pub struct State {
    /// Inputs taken.
    pub inputs: Vec<TakenInput>,
    /// Events so far.
    pub events: u32,
    /// True once started.
    pub started: bool,
    /// Language it is held in.
    pub language: String,
    /// Picks among wordings.
    pub seed: u64,
    /// What was known without asking.
    pub context: Context,
    /// The open question.
    pub asking: Option<Asking>,
    /// Visits under way, outermost first.
    pub visits: Vec<String>,
    /// How often each section was entered.
    pub entered: BTreeMap<String, u16>,
    /// Values by field id.
    pub values: BTreeMap<String, Held>,
    /// Why fields are missing, by field id.
    pub missing: BTreeMap<String, Missing>,
    /// Values that a rule refused, by field id.
    pub refused: BTreeMap<String, Value>,
    /// Points by the default scorecard.
    pub points: i64,
    /// Points by the others, by id.
    pub points_by: BTreeMap<String, i64>,
    /// Questions that got an answer or were left.
    pub questions: u16,
    /// Every answer in order.
    pub answers: Vec<Answer>,
    /// Turns that said something.
    pub said: BTreeSet<String>,
    /// Side-talk so far.
    pub side_talk: u16,
    /// Offers shown so far.
    pub offered: u16,
    /// When the prospect last did something; nudges and silence are counted from here.
    pub heard_at: Option<Timestamp>,
    /// True where they were asked whether they are still there, since their last input.
    pub nudged: bool,
    /// Filings.
    pub filings: u32,
    /// Where the last filing was an unfinished one: when the prospect was last heard before it.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub unfinished: Option<Timestamp>,
    /// True where the last filing was an early one, whose owner is chosen later.
    #[serde(skip_serializing_if = "std::ops::Not::not")]
    pub early: bool,
    /// Words that a lead is tagged with, by the arms that were taken.
    #[serde(skip_serializing_if = "BTreeSet::is_empty")]
    pub tags: BTreeSet<String>,
    /// The band of the last filing.
    pub band: Option<String>,
    /// The band of the last filing by each scorecard, by id.
    pub bands: BTreeMap<String, String>,
    /// How it ended: an outcome's id, or empty for the closing fallback.
    pub closed: Option<String>,
}

impl State {
    /// Folds events, from the beginning.
    #[must_use]
    pub fn of<'a>(events: impl IntoIterator<Item = &'a Event>) -> Self {
        let mut state = Self::default();
        for event in events {
            state.apply(event);
        }
        state
    }

    /// How many inputs were taken; the sequence number that the next must expect.
    #[must_use]
    pub fn sequence(&self) -> u32 {
        u32::try_from(self.inputs.len()).unwrap_or(u32::MAX)
    }

    fn answer(&mut self, turn: &str, field: &str, came: Came, besides: bool) {
        self.answers.push(Answer { turn: turn.to_owned(), field: field.to_owned(), came, besides });
    }

    fn count(&mut self, others: &[CardPoints]) {
        for one in others {
            self.points_by.insert(one.card.clone(), one.points);
        }
    }

    /// Folds one more event.
    pub fn apply(&mut self, event: &Event) {
        match event {
            Event::Taken { input, at, unheard } => {
                self.inputs.push(TakenInput { id: input.clone(), first: self.events });
                if !unheard {
                    self.heard_at = Some(*at);
                }
            }
            Event::Started { language, seed, context, points, others } => {
                self.started = true;
                self.points = *points;
                self.count(others);
                self.language.clone_from(language);
                self.seed = *seed;
                self.context.clone_from(context);
            }
            Event::Entered { section } => {
                let times = self.entered.entry(section.clone()).or_default();
                *times = times.saturating_add(1);
            }
            Event::Asked { turn, stage, .. } => {
                self.asking =
                    Some(Asking { turn: turn.clone(), tries: 0, extras: 0, stage: stage.clone(), either: Vec::new() });
            }
            Event::Kept { turn, field, value, heard, after, besides, others, .. } => {
                self.count(others);
                let unsure = heard.as_ref().is_some_and(|heard| heard.unsure);
                self.values.insert(field.clone(), Held { value: value.clone(), turn: turn.clone(), unsure });
                self.missing.remove(field);
                self.refused.remove(field);
                self.points = *after;
                self.answer(turn, field, Came::Value(value.clone()), *besides);
                if !besides {
                    self.asking = None;
                    self.questions = self.questions.saturating_add(1);
                }
            }
            Event::SideTalked { .. } => {
                self.side_talk = self.side_talk.saturating_add(1);
                if let Some(asking) = &mut self.asking {
                    asking.extras = asking.extras.saturating_add(1);
                }
            }
            Event::Offered { .. } => self.offered = self.offered.saturating_add(1),
            Event::FormReturned { problems, .. } => {
                for problem in problems {
                    if let Some(refused) = &problem.refused {
                        self.refused.insert(problem.field.clone(), refused.clone());
                    }
                }
                if let Some(asking) = &mut self.asking {
                    asking.tries = asking.tries.saturating_add(1);
                }
            }
            Event::OpenRead { turn, .. } | Event::AllRight { turn } => {
                self.asking = None;
                self.questions = self.questions.saturating_add(1);
                self.answer(turn, "", Came::Passed, false);
            }
            Event::KnownAlready { turn, .. } => {
                if self.asking.as_ref().is_some_and(|asking| asking.turn == *turn) {
                    self.asking = None;
                }
            }
            Event::NotChanged { .. } => {
                if let Some(asking) = &mut self.asking {
                    asking.extras = asking.extras.saturating_add(1);
                }
            }
            Event::Revised { to, .. } => {
                let (inputs, events, heard_at) = (std::mem::take(&mut self.inputs), self.events, self.heard_at);
                *self = (**to).clone();
                self.inputs = inputs;
                self.events = events;
                self.heard_at = heard_at;
            }
            Event::Nudged { .. } => self.nudged = true,
            Event::Assumed { field, value, after, others, .. }
            | Event::Prefilled { field, value, after, others, .. } => {
                self.count(others);
                self.values.insert(field.clone(), Held { value: value.clone(), turn: String::new(), unsure: false });
                self.points = *after;
            }
            Event::NotKept { field, refused, .. } => {
                if let Some(refused) = refused {
                    self.refused.insert(field.clone(), refused.clone());
                }
                if let Some(asking) = &mut self.asking {
                    asking.tries = asking.tries.saturating_add(1);
                }
            }
            Event::Tied { options, .. } => {
                if let Some(asking) = &mut self.asking {
                    asking.either.clone_from(options);
                    asking.extras = asking.extras.saturating_add(1);
                }
            }
            Event::LeftOpen { turn, field, missing, why, .. } => {
                self.answer(turn, field, Came::Left(*why), false);
                if !self.values.contains_key(field) {
                    self.missing.insert(field.clone(), *missing);
                }
                self.asking = None;
                self.questions = self.questions.saturating_add(1);
            }
            Event::WorkedOut { turn, field, value, after, others, .. } => {
                self.count(others);
                match value {
                    Some(value) => {
                        self.values
                            .insert(field.clone(), Held { value: value.clone(), turn: turn.clone(), unsure: false });
                    }
                    None => {
                        self.values.remove(field);
                    }
                }
                self.points = *after;
            }
            Event::Visited { turn } => self.visits.push(turn.clone()),
            Event::Returned { .. } => {
                self.visits.pop();
            }
            Event::LeftVisits => self.visits.clear(),
            // What they do next is not steered by a filing that the outline did not come to.
            Event::Filed { filing, unfinished: true, .. } => {
                self.filings = *filing;
                self.unfinished = self.heard_at;
                self.early = false;
            }
            Event::Filed { filing, score, unfinished: false, early, .. } => {
                self.filings = *filing;
                self.unfinished = None;
                self.early = *early;
                self.band = score.as_ref().and_then(|score| score.band.clone());
                if let Some(score) = score {
                    match &score.band {
                        Some(band) => drop(self.bands.insert(score.scorecard.clone(), band.clone())),
                        None => drop(self.bands.remove(&score.scorecard)),
                    }
                }
            }
            Event::Closed { outcome, .. } => {
                self.closed = Some(outcome.clone());
                self.asking = None;
            }
            Event::FellBack { .. } | Event::Left => {
                self.closed = Some(String::new());
                self.asking = None;
            }
            Event::Said { turn, .. } => {
                self.said.insert(turn.clone());
            }
            Event::Replied { .. } => self.nudged = false,
            Event::Took { tags, .. } => self.tags.extend(tags.iter().cloned()),
            Event::AskedAgain { .. } | Event::Erased { .. } => {}
        }
        self.events = self.events.saturating_add(1);
    }
}
