//! What came of an input. Events carry outcomes and reasons, so that old ones fold to the same state under any later
//! version without reading a reply again.

use jiff::Timestamp;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use super::{Context, Stage, State};
use crate::score::ScoreResult;
use lumbo_reading::Heard;
use lumbo_route::Decision;
use lumbo_value::{Missing, Value};

/// A line or piece that the prospect sees.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(tag = "kind", rename_all = "snake_case")]
pub enum Line {
    /// Words.
    Text {
        /// The words.
        text: String,
    },
    /// A picture.
    Picture {
        /// Hash of its content.
        media: String,
        /// What it shows.
        alt: String,
    },
    /// A document.
    Document {
        /// Hash of its content.
        media: String,
        /// What it is called.
        label: String,
    },
    /// A link.
    Link {
        /// What the button says.
        label: String,
        /// Its http or https address.
        url: String,
    },
    /// Several of these side by side.
    Beside {
        /// Them.
        lines: Vec<Line>,
    },
}

/// What is wrong with one field of a form.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct FormProblem {
    /// The field's id.
    pub field: String,
    /// Keys of the failed rules.
    pub failed: Vec<String>,
    /// What to tell the prospect.
    pub message: String,
    /// The value that a rule refused.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub refused: Option<Value>,
}

/// Points by one scorecard.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct CardPoints {
    /// The scorecard's id.
    pub card: String,
    /// The points.
    pub points: i64,
}

/// Why an ask was left without an answer.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum WhyOut {
    /// The tries ran out.
    Tries,
    /// The prospect declined.
    Declined,
    /// The prospect used the skip.
    Skipped,
    /// Too many ties and side remarks.
    Extras,
}

/// One outcome. Turns, arms, sections and fields are named by id.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(tag = "event", rename_all = "snake_case")]
pub enum Event {
    /// An input was taken.
    Taken {
        /// Its id.
        input: String,
        /// When.
        #[schemars(with = "String")]
        at: Timestamp,
        /// True where the prospect did nothing: a nudge of the page, or an input of the system.
        #[serde(default, skip_serializing_if = "std::ops::Not::not")]
        unheard: bool,
    },
    /// The conversation began.
    Started {
        /// The language it is held in.
        language: String,
        /// Picks among wordings.
        seed: u64,
        /// What was known without asking; apart, so that every event stays small.
        context: Box<Context>,
        /// Points by the default scorecard before anything was said: a criterion may hold because nothing is known.
        #[serde(default, skip_serializing_if = "is_zero")]
        points: i64,
        /// The same by the other scorecards, where they give any.
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        others: Vec<CardPoints>,
    },
    /// A section was entered.
    Entered {
        /// The section.
        section: String,
    },
    /// We said something.
    Said {
        /// The turn.
        turn: String,
        /// The lines.
        lines: Vec<Line>,
    },
    /// We asked.
    Asked {
        /// The turn.
        turn: String,
        /// The question as shown.
        text: String,
        /// What of the turn is open.
        #[serde(default, skip_serializing_if = "Stage::is_ask")]
        stage: Stage,
    },
    /// We asked the open question again, in short.
    AskedAgain {
        /// The turn.
        turn: String,
        /// The question in short.
        text: String,
    },
    /// The prospect said something beside the question, and we answered.
    SideTalked {
        /// The turn that was open.
        turn: String,
        /// The side-talk's id; absent for what is built in.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        talk: Option<String>,
        /// What was understood, for the author.
        what: String,
        /// The answer.
        lines: Vec<Line>,
    },
    /// An offer was shown.
    Offered {
        /// Its id.
        offer: String,
        /// What was shown.
        lines: Vec<Line>,
    },
    /// A form was sent with answers that cannot be kept yet; a failed try.
    FormReturned {
        /// The turn.
        turn: String,
        /// What is wrong, field by field.
        problems: Vec<FormProblem>,
        /// What we told the prospect.
        message: String,
        /// Which try this was, from 1.
        attempt: u8,
        /// How many there are.
        of: u8,
    },
    /// An open question was answered and read.
    OpenRead {
        /// The turn.
        turn: String,
        /// How many fields it filled.
        filled: u16,
        /// What we said of it.
        lines: Vec<Line>,
    },
    /// The prospect found all right at a Read back.
    AllRight {
        /// The turn.
        turn: String,
    },
    /// A value was known from a signed-in visitor or a channel.
    Prefilled {
        /// The field.
        field: String,
        /// The value.
        value: Value,
        /// The value in plain words.
        shown: String,
        /// Points before it.
        before: i64,
        /// Points after it.
        after: i64,
        /// Points after it by other scorecards than the default.
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        others: Vec<CardPoints>,
    },
    /// A reply was meant to change an earlier answer, and could not be kept.
    NotChanged {
        /// The turn whose answer was to be changed.
        turn: String,
        /// The field.
        field: String,
        /// What we told the prospect.
        message: String,
    },
    /// An earlier answer was changed, taken back, or everything begun again; the outline was replayed from there.
    Revised {
        /// The turn whose answer was changed.
        turn: String,
        /// The field, where an answer was changed.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        field: Option<String>,
        /// The new answer in plain words; absent where it was taken back.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        shown: Option<String>,
        /// What we told the prospect.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        message: Option<String>,
        /// Fields whose answers no longer stand on the way, by id.
        dropped: Vec<String>,
        /// Where the conversation stands after it.
        #[schemars(with = "serde_json::Value")]
        to: Box<State>,
    },
    /// They were silent for a while, and we asked whether they are still there.
    Nudged {
        /// What we said.
        message: String,
    },
    /// The prospect typed or tapped.
    Replied {
        /// The turn that was open.
        turn: String,
        /// Their words, or the label they tapped.
        text: String,
        /// True for a tap.
        picked: bool,
    },
    /// An answer was kept.
    Kept {
        /// The turn.
        turn: String,
        /// The field.
        field: String,
        /// The value.
        value: Value,
        /// The value in plain words.
        shown: String,
        /// Where it was heard, for typed replies.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        heard: Option<Heard>,
        /// True where the reply gave it beside the answer that was asked for.
        #[serde(default, skip_serializing_if = "std::ops::Not::not")]
        besides: bool,
        /// Points before it.
        before: i64,
        /// Points after it.
        after: i64,
        /// Points after it by other scorecards than the default.
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        others: Vec<CardPoints>,
    },
    /// In a rehearsal, an answer was taken as given before its beginning.
    Assumed {
        /// The field.
        field: String,
        /// The value.
        value: Value,
        /// The value in plain words.
        shown: String,
        /// Points before it.
        before: i64,
        /// Points after it.
        after: i64,
        /// Points after it by other scorecards than the default.
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        others: Vec<CardPoints>,
    },
    /// An answer was not kept; a failed try.
    NotKept {
        /// The turn.
        turn: String,
        /// The field.
        field: String,
        /// Keys of the failed rules.
        failed: Vec<String>,
        /// What we told the prospect.
        message: String,
        /// What was heard.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        heard: Option<Heard>,
        /// The value that a rule refused.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        refused: Option<Value>,
        /// Which try this was, from 1.
        attempt: u8,
        /// How many there are.
        of: u8,
    },
    /// Several options fit; asked back.
    Tied {
        /// The turn.
        turn: String,
        /// Their keys.
        options: Vec<String>,
        /// What we asked.
        message: String,
    },
    /// An ask was left without an answer.
    LeftOpen {
        /// The turn.
        turn: String,
        /// The field.
        field: String,
        /// Why.
        why: WhyOut,
        /// The reason the field is missing with.
        missing: Missing,
        /// What was said of it to the prospect, where anything was.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        message: Option<String>,
    },
    /// The field was known already, so the ask was passed.
    KnownAlready {
        /// The turn.
        turn: String,
        /// The field.
        field: String,
    },
    /// An arm was taken.
    Took {
        /// The turn.
        turn: String,
        /// The arm.
        arm: String,
        /// Why, in words.
        because: String,
        /// True where a span's low end decided.
        #[serde(default, skip_serializing_if = "std::ops::Not::not")]
        low_end: bool,
        /// Words that a lead is tagged with for it.
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        tags: Vec<String>,
    },
    /// A field was worked out.
    WorkedOut {
        /// The turn.
        turn: String,
        /// The field.
        field: String,
        /// The value; absent where something it needs is missing.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        value: Option<Value>,
        /// The value in plain words, or why there is none.
        shown: String,
        /// Points before it.
        before: i64,
        /// Points after it.
        after: i64,
        /// Points after it by other scorecards than the default.
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        others: Vec<CardPoints>,
    },
    /// A Visit began.
    Visited {
        /// The Visit.
        turn: String,
    },
    /// A Visit ended.
    Returned {
        /// The Visit.
        turn: String,
    },
    /// All Visits were left by a go-to.
    LeftVisits,
    /// The lead was scored and routed; the shell writes the records in the same transaction.
    Filed {
        /// The turn.
        turn: String,
        /// Which filing of this conversation, from 1.
        filing: u32,
        /// The score; absent where the dialogue has no scorecard.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        score: Option<Box<ScoreResult>>,
        /// Who gets it.
        decision: Decision,
        /// True where they went silent at this turn before the dialogue came to its File lead.
        #[serde(default, skip_serializing_if = "std::ops::Not::not")]
        unfinished: bool,
        /// True where more may be told: its owner is chosen later.
        #[serde(default, skip_serializing_if = "std::ops::Not::not")]
        early: bool,
    },
    /// The end.
    Closed {
        /// The Close, where a turn ended it.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        turn: Option<String>,
        /// The outcome.
        outcome: String,
        /// The last lines.
        lines: Vec<Line>,
    },
    /// The prospect left; what was said so far stays.
    Left,
    /// The closing fallback ended it.
    FellBack {
        /// Why, for the author.
        why: String,
        /// What we told the prospect.
        message: String,
    },
    /// What was said or kept here was erased with its person; that something happened stays, for the numbers.
    Erased {
        /// What it was.
        was: String,
        /// The turn, where it belonged to one.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        turn: Option<String>,
    },
}

impl Event {
    /// The turn it belongs to, where it belongs to one.
    #[must_use]
    pub fn turn(&self) -> Option<&str> {
        match self {
            Self::Said { turn, .. }
            | Self::Asked { turn, .. }
            | Self::AskedAgain { turn, .. }
            | Self::SideTalked { turn, .. }
            | Self::FormReturned { turn, .. }
            | Self::OpenRead { turn, .. }
            | Self::AllRight { turn }
            | Self::NotChanged { turn, .. }
            | Self::Revised { turn, .. }
            | Self::Replied { turn, .. }
            | Self::Kept { turn, .. }
            | Self::NotKept { turn, .. }
            | Self::Tied { turn, .. }
            | Self::LeftOpen { turn, .. }
            | Self::KnownAlready { turn, .. }
            | Self::Took { turn, .. }
            | Self::WorkedOut { turn, .. }
            | Self::Visited { turn }
            | Self::Returned { turn }
            | Self::Filed { turn, .. } => Some(turn),
            Self::Closed { turn, .. } | Self::Erased { turn, .. } => turn.as_deref(),
            Self::Taken { .. }
            | Self::Started { .. }
            | Self::Entered { .. }
            | Self::Assumed { .. }
            | Self::Prefilled { .. }
            | Self::Offered { .. }
            | Self::Nudged { .. }
            | Self::LeftVisits
            | Self::Left
            | Self::FellBack { .. } => None,
        }
    }
}

fn is_zero(points: &i64) -> bool {
    *points == 0
}
