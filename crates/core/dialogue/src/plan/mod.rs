//! The outline compiled: every turn in one list, every "what comes next" resolved, every condition, formula, text and
//! reader made ready once, so that a step of the conversation only follows indices.
//!
//! Compiling never fails. A part that cannot be run becomes [`Kind::Broken`] with a sentence, so that an author can
//! rehearse a draft up to the broken place; checks report the same sentences.

mod ahead;
mod changes;
pub(crate) mod compile;
mod parts;
pub(crate) mod readers;

use lumbo_language::HashMap;

use jiff::tz::TimeZone;

use crate::file::brief::PhraseMatch;
use crate::file::{Dialogue, Field};
use crate::score::Card;
use lumbo_condition as condition;
use lumbo_formula::Formula;
use lumbo_language::Phrases;
use lumbo_reading::{FreeReader, Reader};
use lumbo_route::Rules;
use lumbo_value::text::Piece;

pub use changes::{Changes, Fields};

pub use crate::turns::ask::AskNode;
pub use crate::turns::ask_together::{FormFieldNode, FormNode};
pub use crate::turns::close::CloseNode;
pub use crate::turns::open_ask::OpenNode;
pub use crate::turns::read_back::ReadBackNode;

/// Where the conversation goes next.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Next {
    /// A turn by index.
    Turn(usize),
    /// The end of a section by index.
    EndOf(usize),
    /// Into a section by index.
    GoTo(usize),
    /// An ending without a turn, by index.
    Close(usize),
    /// A section that does not exist.
    Nowhere,
    /// Nowhere yet: a question is open.
    Wait,
}

/// A dialogue made ready.
#[derive(Debug, Clone)]
pub struct Plan {
    /// As written.
    pub file: Dialogue,
    /// Language the conversation is held in.
    pub language: String,
    /// Every turn, in reading order.
    pub turns: Vec<Node>,
    /// Every section, in order.
    pub sections: Vec<SectionNode>,
    /// Endings without a turn.
    pub endings: Vec<ReadyEnding>,
    /// Scorecards.
    pub cards: Vec<Card>,
    /// The one that is used where none is named.
    pub default_card: Option<usize>,
    /// What a lead must carry, as places of fields; of an inner list one is enough.
    pub needs: Vec<Vec<usize>>,
    /// Routing rules.
    pub routes: Rules,
    /// The zone of TODAY.
    pub zone: TimeZone,
    /// Built-in phrases, in the author's wording where there is one.
    pub phrases: Phrases,
    /// Most questions still to come from each turn, itself included.
    pub ahead: Vec<u16>,
    /// For each field the Ask that asks for it first, by the turn's index.
    pub asked_by: Vec<Option<usize>>,
    /// Fields that say which country the prospect is in, those of type country first.
    pub country_fields: Vec<usize>,
    /// For each field a reader under the rules of its own ask, or its own rules alone.
    pub readers: Vec<Option<Reader>>,
    /// Reads what a reply to another question says besides, with the fields it can fill.
    pub volunteered: (FreeReader, Vec<usize>),
    /// Reads corrections of earlier answers, with the fields.
    pub corrected: (FreeReader, Vec<usize>),
    /// For each field whether some turn works it out.
    pub worked_out: Vec<bool>,
    /// Which fields may still change from each turn on.
    pub changes: Changes,
    /// What may be said at any moment.
    pub side_talk: Vec<TalkNode>,
    /// What is shown now and then.
    pub offers: Vec<OfferNode>,
    by_id: HashMap<String, usize>,
    sections_by_id: HashMap<String, usize>,
    field_ids: HashMap<String, usize>,
    field_keys: HashMap<String, usize>,
}

/// A turn made ready.
#[derive(Debug, Clone)]
pub struct Node {
    /// Its id.
    pub id: String,
    /// Its section's index.
    pub section: usize,
    /// What it does.
    pub kind: Kind,
    /// What follows it.
    pub next: Next,
    /// Its arms.
    pub arms: Vec<ArmNode>,
}

/// An arm made ready.
#[derive(Debug, Clone)]
pub struct ArmNode {
    /// Its id.
    pub id: String,
    /// What makes the conversation take it.
    pub when: ReadyWhen,
    /// Its first turn, or what follows it.
    pub entry: Next,
    /// How it reads in reasons.
    pub words: String,
    /// Words that a lead is tagged with where it was taken.
    pub tags: Vec<String>,
}

/// What makes the conversation take an arm, made ready.
#[derive(Debug, Clone)]
pub enum ReadyWhen {
    /// One of these options.
    Options(Vec<String>),
    /// A condition.
    Holds(condition::Ready),
    /// Nothing before it was taken.
    Otherwise,
    /// The band is one of these.
    Band(Vec<String>),
    /// A rule-out holds.
    RuledOut,
    /// Something of what a lead must carry is missing.
    Lacks,
    /// Only by the way out, or by something this version does not do.
    Never,
}

/// A section made ready.
#[derive(Debug, Clone)]
pub struct SectionNode {
    /// Its id.
    pub id: String,
    /// Its title.
    pub title: String,
    /// Its first turn, or its own end.
    pub entry: Next,
    /// What follows it.
    pub follow: ReadyFollow,
}

/// What follows a section, made ready.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum ReadyFollow {
    /// The next section, by index.
    CarryOn(Option<usize>),
    /// Back to the Visit.
    Return,
    /// By index, or nowhere.
    Go(Next),
}

/// An ending made ready.
#[derive(Debug, Clone)]
pub struct ReadyEnding {
    /// The outcome's id.
    pub outcome: String,
    /// The last line.
    pub say: Option<Vec<Piece>>,
}

/// A File lead made ready.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct FileNode {
    /// Place of its scorecard; absent where the dialogue has none.
    pub card: Option<usize>,
    /// True where its owner is chosen later.
    pub early: bool,
}

/// What a turn does, made ready.
#[derive(Debug, Clone)]
pub enum Kind {
    /// Says something.
    Tell(Vec<ReadyPart>),
    /// Asks.
    Ask(Box<AskNode>),
    /// Asks for several fields on one form.
    AskTogether(Box<FormNode>),
    /// Asks an open question.
    OpenAsk(Box<OpenNode>),
    /// Shows what was kept.
    ReadBack(Box<ReadBackNode>),
    /// Arms on conditions.
    Fork,
    /// Fills fields.
    WorkOut(Vec<(usize, Formula)>),
    /// Files.
    FileLead(FileNode),
    /// Visits a section.
    Visit(usize),
    /// Closes.
    Close(Box<CloseNode>),
    /// Cannot be run, and why.
    Broken(String),
}

impl Kind {
    /// True for turns that wait for the prospect.
    #[must_use]
    pub fn asks(&self) -> bool {
        match self {
            Self::Ask(_) | Self::AskTogether(_) | Self::OpenAsk(_) | Self::ReadBack(_) => true,
            Self::Tell(_)
            | Self::Fork
            | Self::WorkOut(_)
            | Self::FileLead(_)
            | Self::Visit(_)
            | Self::Close(_)
            | Self::Broken(_) => false,
        }
    }
}

/// What may be said at any moment, made ready.
#[derive(Debug, Clone)]
pub struct TalkNode {
    /// Its id.
    pub id: String,
    /// Its phrases, folded.
    pub phrases: Vec<String>,
    /// How much of the reply a phrase must be.
    pub matches: PhraseMatch,
    /// What we do.
    pub does: ReadyTalk,
}

/// What side-talk does, made ready.
#[derive(Debug, Clone)]
pub enum ReadyTalk {
    /// Says this, then asks again.
    Answer(Vec<ReadyPart>),
    /// Goes to a section.
    Go(Next),
}

/// Something shown now and then, made ready.
#[derive(Debug, Clone)]
pub struct OfferNode {
    /// Its id.
    pub id: String,
    /// After every so many free messages.
    pub every: Option<u8>,
    /// When they ask about one of these, folded.
    pub about: Vec<String>,
    /// What is shown.
    pub say: Vec<ReadyPart>,
}

/// A way out made ready.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum ReadyWayOut {
    /// On to what follows.
    GoOn,
    /// Into a section.
    Go(Next),
    /// Into an arm by index.
    Arm(usize),
}

/// A part of a Tell, made ready.
#[derive(Debug, Clone)]
pub enum ReadyPart {
    /// A line with its wordings.
    Line(Vec<Vec<Piece>>),
    /// A picture.
    Picture(String, Vec<Piece>),
    /// A document.
    Document(String, Vec<Piece>),
    /// A link.
    Link(Vec<Piece>, String),
    /// Several side by side.
    Beside(Vec<ReadyPart>),
}

/// A part of a dialogue that cannot be run: a check's key, the place as `section/turn` or `section/turn/arm`, and a
/// sentence.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Fault {
    /// The check's key.
    pub key: &'static str,
    /// The place.
    pub at: String,
    /// The sentence.
    pub says: String,
}

impl Plan {
    /// A turn by id.
    #[must_use]
    pub fn turn(&self, id: &str) -> Option<(usize, &Node)> {
        self.by_id.get(id).and_then(|index| self.turns.get(*index).map(|node| (*index, node)))
    }

    /// A section's index by id.
    #[must_use]
    pub fn section(&self, id: &str) -> Option<usize> {
        self.sections_by_id.get(id).copied()
    }

    /// A field by id.
    #[must_use]
    pub fn field(&self, id: &str) -> Option<&Field> {
        self.field_ids.get(id).and_then(|index| self.file.fields.get(*index))
    }

    /// A field by key.
    #[must_use]
    pub fn field_by_key(&self, key: &str) -> Option<&Field> {
        self.field_keys.get(key).and_then(|index| self.file.fields.get(*index))
    }

    /// A field's index by its key.
    #[must_use]
    pub fn field_place(&self, key: &str) -> Option<usize> {
        self.field_keys.get(key).copied()
    }

    /// Where `next` leads without anything being said or asked on the way: every turn or ending it can stand for.
    /// Visits are followed into their section.
    #[must_use]
    pub fn targets(&self, next: Next) -> Vec<Next> {
        match next {
            Next::GoTo(section) => self.sections.get(section).map_or_else(Vec::new, |section| vec![section.entry]),
            Next::EndOf(section) => match self.sections.get(section).map(|section| section.follow) {
                Some(ReadyFollow::CarryOn(Some(after))) => vec![Next::GoTo(after)],
                Some(ReadyFollow::Go(next)) => vec![next],
                _ => Vec::new(),
            },
            other => vec![other],
        }
    }
}
