//! Sections, turns and arms: the outline as written.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use lumbo_value::TryMessage;

use super::{Condition, Id, Rule, Text};

/// A titled run of turns; the only thing one can go to.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Section {
    /// Its id.
    pub id: Id,
    /// Its title for authors.
    pub title: String,
    /// Its turns.
    #[serde(default)]
    pub turns: Vec<Turn>,
    /// What follows it.
    pub then: Follow,
}

/// What follows a section.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Follow {
    /// The next section in the file.
    CarryOn,
    /// Back to where a Visit came from.
    Return,
    /// A named section.
    GoTo(Id),
    /// The end.
    Close(Ending),
}

/// How a conversation ends without a Close turn of its own.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Ending {
    /// The outcome's id.
    pub outcome: Id,
    /// A last line.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub say: Option<Text>,
}

/// One branch of a turn.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Arm {
    /// Its id, unique in the file.
    pub id: Id,
    /// The author's name for it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub label: Option<String>,
    /// What makes the conversation take it.
    pub when: When,
    /// Its turns.
    #[serde(default)]
    pub turns: Vec<Turn>,
    /// What follows it.
    #[serde(default)]
    pub then: Then,
}

/// What makes the conversation take an arm.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum When {
    /// The answer is one of these options; `yes` and `no` for a yes-or-no field.
    Options(Vec<String>),
    /// A condition holds.
    Holds(Condition),
    /// Nothing before it was taken.
    Otherwise,
    /// File lead: the band is one of these.
    Band(Vec<Id>),
    /// File lead: a rule-out holds.
    RuledOut,
    /// The way out of an ask leads here, and nothing else.
    WayOut,
    /// Consult: the outside system answered.
    Answered,
    /// Consult: the outside system refused.
    Refused,
    /// Consult: no answer in time. Offer times: nothing fitted.
    NoAnswer,
    /// Offer times: a time was booked.
    Booked,
    /// Bring in a rep: one joined.
    Joined,
}

/// What follows an arm.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Then {
    /// Back to the trunk below the turn.
    #[default]
    Rejoin,
    /// A named section.
    GoTo(Id),
    /// The end.
    Close(Ending),
}

/// Where an ask leads when its tries are used up or the prospect declines.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum WayOut {
    /// On to what follows, the field missing.
    #[default]
    GoOn,
    /// A named section.
    GoTo(Id),
    /// An arm of this ask.
    Arm(Id),
}

/// Something said: the text and, if wanted, other wordings of which one is picked.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Wording {
    /// The text.
    pub text: Text,
    /// Other wordings.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub or: Vec<Text>,
}

/// A part of what a Tell says.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Part {
    /// A line.
    Line(Wording),
    /// A picture.
    Picture(Picture),
    /// A document to open.
    Document(Document),
    /// A button with a link.
    Link(Link),
    /// Several pictures, documents and links side by side.
    Beside(Vec<Part>),
}

/// A picture.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Picture {
    /// Hash of its content.
    pub media: String,
    /// What it shows, for those who cannot see it.
    pub alt: Text,
}

/// A document.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Document {
    /// Hash of its content.
    pub media: String,
    /// What it is called.
    pub label: Text,
}

/// A link.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Link {
    /// What the button says.
    pub label: Text,
    /// An http or https address.
    pub url: String,
}

/// One step of the conversation.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(tag = "kind", rename_all = "snake_case")]
pub enum Turn {
    /// Says something.
    Tell(Tell),
    /// One question, one field.
    Ask(Ask),
    /// Several fields on one small form.
    AskTogether(AskTogether),
    /// An open question that reads several fields.
    OpenAsk(OpenAsk),
    /// Arms on conditions.
    Fork(Fork),
    /// Fills fields from formulas.
    WorkOut(WorkOut),
    /// Shows what was kept.
    ReadBack(ReadBack),
    /// Answers questions from the facts.
    TakeQuestions(TakeQuestions),
    /// Sends chosen fields to an outside system and waits a little.
    Consult(Consult),
    /// Shows free times and books one.
    OfferTimes(OfferTimes),
    /// Scores, writes the records, routes.
    FileLead(FileLead),
    /// Passes the conversation to a person.
    BringInRep(BringInRep),
    /// Runs another section and comes back.
    Visit(Visit),
    /// Ends.
    Close(Close),
}

/// Says something.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Tell {
    /// Its id.
    pub id: Id,
    /// What is said, in order.
    pub say: Vec<Part>,
}

/// One question, one field.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Ask {
    /// Its id.
    pub id: Id,
    /// The question.
    pub say: Wording,
    /// The question in short, after side-talk.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub short: Option<Text>,
    /// Key of the field that keeps the answer.
    pub field: String,
    /// Which of the field's options are offered; all when empty.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub only: Vec<String>,
    /// Why we ask, said to whoever wants to know.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub why: Option<Text>,
    /// Rules beside the field's own; they may only narrow.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub rules: Vec<Rule>,
    /// The author's messages by rule, `type`, or `any`; one per try, the last repeats.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub messages: Vec<TryMessage>,
    /// Failed tries before the way out; 1 to 10.
    #[serde(default = "three")]
    pub tries: u8,
    /// Where it leads then.
    #[serde(default)]
    pub way_out: WayOut,
    /// Label of the skip, if it may be skipped.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub skip: Option<Text>,
    /// What to do when the field is known already.
    #[serde(default, skip_serializing_if = "IfKnown::is_default")]
    pub if_known: IfKnown,
    /// Side-talk answers but never leaves while this is open.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub held: bool,
    /// Its arms.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub arms: Vec<Arm>,
}

fn three() -> u8 {
    3
}

impl Ask {
    /// A question that keeps its answer in a field: three tries, then on without it; no arms.
    #[must_use]
    pub fn plain(id: Id, say: Text, field: String) -> Self {
        Self {
            id,
            say: Wording { text: say, or: Vec::new() },
            short: None,
            field,
            only: Vec::new(),
            why: None,
            rules: Vec::new(),
            messages: Vec::new(),
            tries: three(),
            way_out: WayOut::GoOn,
            skip: None,
            if_known: IfKnown::Skip,
            held: false,
            arms: Vec::new(),
        }
    }
}

/// What an ask does when its field is known already.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum IfKnown {
    /// Nothing; the arm of the value still runs.
    #[default]
    Skip,
    /// Asks whether it is still right.
    Confirm,
    /// Asks anyway.
    Ask,
}

impl IfKnown {
    fn is_default(&self) -> bool {
        *self == Self::Skip
    }
}

/// Several fields on one small form.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct AskTogether {
    /// Its id.
    pub id: Id,
    /// The line above the form.
    pub say: Wording,
    /// The fields, in order.
    pub fields: Vec<FormField>,
    /// Failed tries before the way out.
    #[serde(default = "three")]
    pub tries: u8,
    /// Where it leads then.
    #[serde(default)]
    pub way_out: WayOut,
}

/// One field of a form.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct FormField {
    /// The field's key.
    pub field: String,
    /// Its label on the form; the field's own when absent.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub label: Option<Text>,
    /// Rules beside the field's own.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub rules: Vec<Rule>,
}

/// An open question that reads several fields out of the free reply.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct OpenAsk {
    /// Its id.
    pub id: Id,
    /// The question.
    pub say: Wording,
    /// Keys of the fields that it reads.
    pub fields: Vec<String>,
    /// What is missing afterwards is asked one by one, or together.
    #[serde(default)]
    pub missing: AskMissing,
}

/// How an Open ask asks for what is missing.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum AskMissing {
    /// One by one.
    #[default]
    OneByOne,
    /// On one form.
    Together,
}

/// Arms on conditions; the first that holds.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Fork {
    /// Its id.
    pub id: Id,
    /// Its arms, tried in order.
    pub arms: Vec<Arm>,
}

/// Fills fields from formulas.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct WorkOut {
    /// Its id.
    pub id: Id,
    /// The formulas, in order; later ones see what earlier ones filled.
    pub fills: Vec<Fill>,
}

/// One formula and where its result is kept.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Fill {
    /// The field's key.
    pub field: String,
    /// The formula.
    pub formula: String,
}

/// Shows what was kept and lets the prospect correct it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct ReadBack {
    /// Its id.
    pub id: Id,
    /// The line above.
    pub say: Wording,
    /// Keys of the fields shown.
    pub fields: Vec<String>,
}

/// Answers the prospect's questions from the facts until they are done.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct TakeQuestions {
    /// Its id.
    pub id: Id,
    /// The invitation.
    pub say: Wording,
    /// Said when nothing in the facts answers.
    pub no_answer: Text,
    /// Label of the button that goes on.
    pub done: Text,
}

/// Sends chosen fields to an outside system and waits a little.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Consult {
    /// Its id.
    pub id: Id,
    /// The line that holds the moment.
    pub say: Wording,
    /// The destination's key.
    pub destination: String,
    /// Keys of the fields sent.
    pub send: Vec<String>,
    /// Keys of the fields that may be kept from what comes back.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub keep: Vec<String>,
    /// Seconds to wait; 1 to 30.
    pub wait_seconds: u8,
    /// Arms on answered, refused, no answer.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub arms: Vec<Arm>,
}

/// Shows free times and books one.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct OfferTimes {
    /// Its id.
    pub id: Id,
    /// The question.
    pub say: Wording,
    /// Length of a meeting, minutes; 10 to 240.
    pub minutes: u16,
    /// How many days ahead are offered; 1 to 60.
    pub days_ahead: u8,
    /// Arms on booked, no answer.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub arms: Vec<Arm>,
}

/// Scores, writes the records, routes, queues the sending.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct FileLead {
    /// Its id.
    pub id: Id,
    /// The scorecard's id; the first when absent.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub scorecard: Option<Id>,
    /// Arms on the band or on being ruled out.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub arms: Vec<Arm>,
}

/// Passes the live conversation to a person.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct BringInRep {
    /// Its id.
    pub id: Id,
    /// The line while we look for one.
    pub say: Wording,
    /// Seconds to wait; 5 to 600.
    pub wait_seconds: u16,
    /// Arms on joined, no answer.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub arms: Vec<Arm>,
}

/// Runs another section and comes back.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Visit {
    /// Its id.
    pub id: Id,
    /// The section's id.
    pub section: Id,
}

/// Ends with an outcome.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Close {
    /// Its id.
    pub id: Id,
    /// The outcome's id.
    pub outcome: Id,
    /// A last line.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub say: Option<Wording>,
    /// A link to go on to.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub link: Option<Link>,
}

macro_rules! each_kind {
    ($turn:expr, $inner:ident => $result:expr) => {
        match $turn {
            Turn::Tell($inner) => $result,
            Turn::Ask($inner) => $result,
            Turn::AskTogether($inner) => $result,
            Turn::OpenAsk($inner) => $result,
            Turn::Fork($inner) => $result,
            Turn::WorkOut($inner) => $result,
            Turn::ReadBack($inner) => $result,
            Turn::TakeQuestions($inner) => $result,
            Turn::Consult($inner) => $result,
            Turn::OfferTimes($inner) => $result,
            Turn::FileLead($inner) => $result,
            Turn::BringInRep($inner) => $result,
            Turn::Visit($inner) => $result,
            Turn::Close($inner) => $result,
        }
    };
}

impl Turn {
    /// Its id.
    #[must_use]
    pub fn id(&self) -> &str {
        each_kind!(self, turn => &turn.id)
    }

    /// Its id, to change it when a turn is copied.
    pub fn id_mut(&mut self) -> &mut Id {
        each_kind!(self, turn => &mut turn.id)
    }

    /// Its kind's name in files.
    #[must_use]
    pub fn kind(&self) -> &'static str {
        match self {
            Self::Tell(_) => "tell",
            Self::Ask(_) => "ask",
            Self::AskTogether(_) => "ask_together",
            Self::OpenAsk(_) => "open_ask",
            Self::Fork(_) => "fork",
            Self::WorkOut(_) => "work_out",
            Self::ReadBack(_) => "read_back",
            Self::TakeQuestions(_) => "take_questions",
            Self::Consult(_) => "consult",
            Self::OfferTimes(_) => "offer_times",
            Self::FileLead(_) => "file_lead",
            Self::BringInRep(_) => "bring_in_rep",
            Self::Visit(_) => "visit",
            Self::Close(_) => "close",
        }
    }

    /// Its kind's name in the interface.
    #[must_use]
    pub fn kind_label(&self) -> &'static str {
        match self {
            Self::Tell(_) => "Tell",
            Self::Ask(_) => "Ask",
            Self::AskTogether(_) => "Ask together",
            Self::OpenAsk(_) => "Open ask",
            Self::Fork(_) => "Fork",
            Self::WorkOut(_) => "Work out",
            Self::ReadBack(_) => "Read back",
            Self::TakeQuestions(_) => "Take questions",
            Self::Consult(_) => "Consult",
            Self::OfferTimes(_) => "Offer times",
            Self::FileLead(_) => "File lead",
            Self::BringInRep(_) => "Bring in a rep",
            Self::Visit(_) => "Visit",
            Self::Close(_) => "Close",
        }
    }

    /// True for the kinds that this version can run.
    #[must_use]
    pub fn can_run(&self) -> bool {
        matches!(
            self,
            Self::Tell(_)
                | Self::Ask(_)
                | Self::AskTogether(_)
                | Self::OpenAsk(_)
                | Self::ReadBack(_)
                | Self::Fork(_)
                | Self::WorkOut(_)
                | Self::FileLead(_)
                | Self::Visit(_)
                | Self::Close(_)
        )
    }

    /// Its arms.
    #[must_use]
    pub fn arms(&self) -> &[Arm] {
        match self {
            Self::Ask(Ask { arms, .. })
            | Self::Fork(Fork { arms, .. })
            | Self::Consult(Consult { arms, .. })
            | Self::OfferTimes(OfferTimes { arms, .. })
            | Self::FileLead(FileLead { arms, .. })
            | Self::BringInRep(BringInRep { arms, .. }) => arms,
            _ => &[],
        }
    }

    /// Its arms to change; nothing for kinds that have none.
    pub fn arms_mut(&mut self) -> Option<&mut Vec<Arm>> {
        match self {
            Self::Ask(Ask { arms, .. })
            | Self::Fork(Fork { arms, .. })
            | Self::Consult(Consult { arms, .. })
            | Self::OfferTimes(OfferTimes { arms, .. })
            | Self::FileLead(FileLead { arms, .. })
            | Self::BringInRep(BringInRep { arms, .. }) => Some(arms),
            _ => None,
        }
    }
}

impl super::Dialogue {
    /// Calls `visit` for every turn, in reading order, with its section and the arm it stands in.
    pub fn each_turn<'a>(&'a self, visit: &mut impl FnMut(&'a Section, Option<&'a Arm>, &'a Turn)) {
        fn walk<'a>(
            section: &'a Section,
            arm: Option<&'a Arm>,
            turns: &'a [Turn],
            visit: &mut impl FnMut(&'a Section, Option<&'a Arm>, &'a Turn),
        ) {
            for turn in turns {
                visit(section, arm, turn);
                for arm in turn.arms() {
                    walk(section, Some(arm), &arm.turns, visit);
                }
            }
        }
        for section in &self.sections {
            walk(section, None, &section.turns, visit);
        }
    }
}
