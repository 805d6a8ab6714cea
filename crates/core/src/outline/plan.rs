//! The outline compiled: every turn in one list, every "what comes next" resolved, every condition, formula, text and
//! reader made ready once, so that a step of the conversation only follows indices.
//!
//! Compiling never fails. A part that cannot be run becomes [`Kind::Broken`] with a sentence, so that an author can
//! rehearse a draft up to the broken place; checks report the same sentences.

use std::collections::HashMap;

use jiff::tz::TimeZone;

use crate::condition;
use crate::field::{FreeReader, Reader, ReaderSpec};
use crate::file::brief::{OfferWhen, PhraseMatch, SideTalkDoes};
use crate::file::text::{self, Piece};
use crate::file::turn::{Ask, AskMissing, Ending, Follow, IfKnown, Link, Part, TryMessage, Turn, Wording};
use crate::file::{Arm, Dialogue, Field, Rule, Text, Then, WayOut, When};
use crate::formula::{self, Formula, Names, Type};
use crate::language::{Phrases, fold};
use crate::route::Rules;
use crate::score::Card;

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
    /// For each field a reader under the rules of its own ask, or its own rules alone.
    pub readers: Vec<Option<Reader>>,
    /// Reads what a reply to another question says besides, with the fields it can fill.
    pub volunteered: (FreeReader, Vec<usize>),
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
    FileLead(Option<usize>),
    /// Visits a section.
    Visit(usize),
    /// Closes.
    Close {
        /// The outcome's id.
        outcome: String,
        /// The last line, with its other wordings.
        say: Option<Vec<Vec<Piece>>>,
        /// A link.
        link: Option<(Vec<Piece>, String)>,
    },
    /// Cannot be run, and why.
    Broken(String),
}

impl Kind {
    /// True for turns that wait for the prospect.
    #[must_use]
    pub fn asks(&self) -> bool {
        matches!(self, Self::Ask(_) | Self::AskTogether(_) | Self::OpenAsk(_) | Self::ReadBack(_))
    }
}

/// An Ask made ready.
#[derive(Debug, Clone)]
pub struct AskNode {
    /// The wordings.
    pub say: Vec<Vec<Piece>>,
    /// The question in short.
    pub short: Option<Vec<Piece>>,
    /// Why we ask.
    pub why: Option<Vec<Piece>>,
    /// The field's index.
    pub field: usize,
    /// Reads the reply.
    pub reader: Reader,
    /// Failed tries before the way out.
    pub tries: u8,
    /// Where it leads then.
    pub way_out: ReadyWayOut,
    /// Label of the skip.
    pub skip: Option<Vec<Piece>>,
    /// When the field is known already.
    pub if_known: IfKnown,
    /// Side-talk answers but never leaves while this is open.
    pub held: bool,
}

/// An Ask together made ready.
#[derive(Debug, Clone)]
pub struct FormNode {
    /// The line above the form.
    pub say: Vec<Vec<Piece>>,
    /// Its fields.
    pub fields: Vec<FormFieldNode>,
    /// Failed tries before the way out.
    pub tries: u8,
    /// Where it leads then.
    pub way_out: ReadyWayOut,
}

/// One field of a form.
#[derive(Debug, Clone)]
pub struct FormFieldNode {
    /// The field's index.
    pub field: usize,
    /// Its label on the form.
    pub label: String,
    /// Reads what was written.
    pub reader: Reader,
}

/// An Open ask made ready.
#[derive(Debug, Clone)]
pub struct OpenNode {
    /// The question.
    pub say: Vec<Vec<Piece>>,
    /// The fields it reads, by index.
    pub fields: Vec<usize>,
    /// Reads them.
    pub reader: FreeReader,
    /// True where what is missing is asked on one form.
    pub together: bool,
}

/// A Read back made ready.
#[derive(Debug, Clone)]
pub struct ReadBackNode {
    /// The line above.
    pub say: Vec<Vec<Piece>>,
    /// The fields shown, by index.
    pub fields: Vec<usize>,
    /// Reads a correction.
    pub reader: FreeReader,
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

struct Compiler<'a> {
    file: &'a Dialogue,
    language: &'a str,
    sections: HashMap<&'a str, usize>,
    fields: HashMap<&'a str, usize>,
    turns: Vec<Node>,
    endings: Vec<ReadyEnding>,
    faults: Vec<Fault>,
    phrases: Phrases,
}

impl Plan {
    /// Compiles a dialogue in its own language, and lists what cannot be run.
    #[must_use]
    pub fn new(file: &Dialogue) -> (Self, Vec<Fault>) {
        let language = file.language.as_str();
        let mut compiler = Compiler {
            file,
            language,
            sections: file.sections.iter().enumerate().rev().map(|(index, section)| (section.id.as_str(), index)).collect(),
            fields: file.fields.iter().enumerate().rev().map(|(index, field)| (field.key.as_str(), index)).collect(),
            turns: Vec::new(),
            endings: Vec::new(),
            faults: Vec::new(),
            phrases: Phrases::of(file, language),
        };
        let mut sections = Vec::new();
        for (index, section) in file.sections.iter().enumerate() {
            let entry = compiler.run_of(index, &section.turns, Next::EndOf(index));
            let at = section.id.clone();
            let follow = match &section.then {
                Follow::CarryOn => ReadyFollow::CarryOn((index + 1 < file.sections.len()).then_some(index + 1)),
                Follow::Return => ReadyFollow::Return,
                Follow::GoTo(target) => ReadyFollow::Go(compiler.go_to(target, &at)),
                Follow::Close(ending) => ReadyFollow::Go(compiler.ending(ending, &at)),
            };
            sections.push(SectionNode { id: section.id.clone(), title: section.title.clone(), entry, follow });
        }
        let mut cards = Vec::new();
        for scorecard in &file.scorecards {
            let (card, faults) = Card::new(scorecard, &file.fields, &file.tables, language);
            compiler.faults.extend(faults.into_iter().map(|(id, says)| Fault { key: "scoring", at: format!("scoring/{id}"), says }));
            cards.push(card);
        }
        let (routes, faults) = Rules::new(&file.routing, &file.fields, language);
        compiler.faults.extend(faults.into_iter().map(|(id, says)| Fault { key: "routing", at: format!("routing/{id}"), says }));
        let zone = TimeZone::get(&file.settings.time_zone).unwrap_or_else(|_| {
            compiler.fault("settings", "settings", format!("“{}” is not a time zone of the IANA list", file.settings.time_zone));
            TimeZone::UTC
        });
        let side_talk = compiler.side_talk();
        let offers = compiler.offers();
        let readers = compiler.readers();
        let volunteered = compiler.volunteered(&readers);
        let Compiler { turns, endings, faults, phrases, .. } = compiler;
        let mut asked_by = vec![None; file.fields.len()];
        for (index, node) in turns.iter().enumerate().rev() {
            if let Kind::Ask(ask) = &node.kind {
                asked_by[ask.field] = Some(index);
            }
        }
        let mut plan = Self {
            file: file.clone(),
            language: language.to_owned(),
            by_id: turns.iter().enumerate().rev().map(|(index, node)| (node.id.clone(), index)).collect(),
            sections_by_id: file.sections.iter().enumerate().rev().map(|(index, section)| (section.id.clone(), index)).collect(),
            field_ids: file.fields.iter().enumerate().rev().map(|(index, field)| (field.id.clone(), index)).collect(),
            field_keys: file.fields.iter().enumerate().rev().map(|(index, field)| (field.key.clone(), index)).collect(),
            ahead: vec![0; turns.len()],
            asked_by,
            readers,
            volunteered,
            side_talk,
            offers,
            turns,
            sections,
            endings,
            cards,
            routes,
            zone,
            phrases,
        };
        plan.ahead = most_questions(&plan);
        (plan, faults)
    }

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

/// Most questions from each turn to an end, counting a loop once. Used for the progress hint only.
fn most_questions(plan: &Plan) -> Vec<u16> {
    #[derive(Clone, Copy, PartialEq)]
    enum Mark {
        New,
        Open,
        Done(u16),
    }
    fn of(plan: &Plan, next: Next, marks: &mut [Mark], depth: usize) -> u16 {
        // Long chains are followed in order from the back (see below), so the recursion stays shallow.
        if depth > 200 {
            return 0;
        }
        match next {
            Next::Turn(index) => match marks[index] {
                Mark::Done(count) => count,
                Mark::Open => 0,
                Mark::New => {
                    marks[index] = Mark::Open;
                    let node = &plan.turns[index];
                    let own = u16::from(node.kind.asks());
                    let inside = match node.kind {
                        Kind::Visit(section) => of(plan, plan.sections[section].entry, marks, depth + 1),
                        _ => 0,
                    };
                    let arms = node.arms.iter().map(|arm| of(plan, arm.entry, marks, depth + 1)).max().unwrap_or(0);
                    let below = if matches!(node.kind, Kind::Close { .. }) { 0 } else { of(plan, node.next, marks, depth + 1) };
                    let count = own + inside + arms.max(below);
                    marks[index] = Mark::Done(count);
                    count
                }
            },
            Next::Close(_) | Next::Nowhere | Next::Wait => 0,
            other => plan.targets(other).into_iter().map(|next| of(plan, next, marks, depth + 1)).max().unwrap_or(0),
        }
    }
    let mut marks = vec![Mark::New; plan.turns.len()];
    // From the back, so that a carrying-on chain finds what follows it done already.
    for index in (0..plan.turns.len()).rev() {
        of(plan, Next::Turn(index), &mut marks, 0);
    }
    marks.into_iter().map(|mark| if let Mark::Done(count) = mark { count } else { 0 }).collect()
}

impl<'a> Compiler<'a> {
    fn fault(&mut self, key: &'static str, at: &str, says: impl Into<String>) {
        self.faults.push(Fault { key, at: at.to_owned(), says: says.into() });
    }

    /// Compiles turns that follow one another; gives the first, or `after` where there is none. A turn's arms stand
    /// right behind it in the list, so every index is known before its turn is compiled.
    fn run_of(&mut self, section: usize, turns: &'a [Turn], after: Next) -> Next {
        let first = self.turns.len();
        for (order, turn) in turns.iter().enumerate() {
            let index = self.turns.len();
            let next = if order + 1 < turns.len() { Next::Turn(index + size(turn)) } else { after };
            self.turns.push(Node { id: turn.id().to_owned(), section, kind: Kind::Fork, next, arms: Vec::new() });
            let at = self.place(section, turn, None);
            let kind = self.kind(turn, &at).unwrap_or_else(|(key, says)| {
                self.fault(key, &at, says.clone());
                Kind::Broken(says)
            });
            let arms = turn.arms().iter().map(|arm| self.arm(section, turn, arm, next)).collect();
            self.turns[index].kind = kind;
            self.turns[index].arms = arms;
        }
        if turns.is_empty() { after } else { Next::Turn(first) }
    }

    fn place(&self, section: usize, turn: &Turn, arm: Option<&Arm>) -> String {
        let section = &self.file.sections[section].id;
        arm.map_or_else(|| format!("{section}/{}", turn.id()), |arm| format!("{section}/{}/{}", turn.id(), arm.id))
    }

    fn arm(&mut self, section: usize, turn: &Turn, arm: &'a Arm, rejoins: Next) -> ArmNode {
        let at = self.place(section, turn, Some(arm));
        let after = match &arm.then {
            Then::Rejoin => rejoins,
            Then::GoTo(target) => self.go_to(target, &at),
            Then::Close(ending) => self.ending(ending, &at),
        };
        let entry = self.run_of(section, &arm.turns, after);
        let (when, words) = match &arm.when {
            When::Options(keys) => (ReadyWhen::Options(keys.clone()), self.option_words(turn, keys, &at)),
            When::Holds(holds) => match condition::ready(holds, &self.file.fields) {
                Ok(ready) => (ReadyWhen::Holds(ready), condition::say(holds, &self.file.fields, self.language)),
                Err(says) => {
                    self.fault("condition", &at, says.clone());
                    (ReadyWhen::Never, says)
                }
            },
            When::Otherwise => (ReadyWhen::Otherwise, "otherwise".to_owned()),
            When::Band(bands) => {
                let known: Vec<&crate::file::Band> = self.file.scorecards.iter().flat_map(|card| &card.bands).collect();
                let labels: Vec<String> =
                    bands.iter().map(|id| known.iter().find(|band| band.id == *id).map_or_else(|| id.clone(), |band| band.label.clone())).collect();
                if let Some(missing) = bands.iter().find(|id| !known.iter().any(|band| band.id == **id)) {
                    self.fault("target", &at, format!("there is no band “{missing}”"));
                }
                (ReadyWhen::Band(bands.clone()), labels.join(" or "))
            }
            When::RuledOut => (ReadyWhen::RuledOut, "ruled out".to_owned()),
            When::WayOut => (ReadyWhen::Never, "way out".to_owned()),
            When::Answered => (ReadyWhen::Never, "answered".to_owned()),
            When::Refused => (ReadyWhen::Never, "refused".to_owned()),
            When::NoAnswer => (ReadyWhen::Never, "no answer".to_owned()),
            When::Booked => (ReadyWhen::Never, "booked".to_owned()),
            When::Joined => (ReadyWhen::Never, "joined".to_owned()),
        };
        if !arm_fits(turn, &arm.when) {
            self.fault("arm", &at, format!("an arm of {} cannot be taken by {words}", turn.kind_label()));
        }
        ArmNode { id: arm.id.clone(), when, entry, words: arm.label.clone().unwrap_or(words) }
    }

    fn option_words(&mut self, turn: &Turn, keys: &[String], at: &str) -> String {
        let Turn::Ask(ask) = turn else { return keys.join(" or ") };
        let Some(field) = self.fields.get(ask.field.as_str()).map(|index| &self.file.fields[*index]) else { return keys.join(" or ") };
        let mut words = Vec::new();
        for key in keys {
            let option = field.options.iter().find(|option| option.key == *key);
            let yes_no = field.kind == crate::file::FieldType::YesNo && matches!(key.as_str(), "yes" | "no");
            if option.is_none() && !yes_no {
                self.fault("target", at, format!("{} has no option “{key}”", field.label));
            }
            words.push(option.map_or_else(|| key.clone(), |option| option.label.get(self.language, self.language).to_owned()));
        }
        words.join(" or ")
    }

    fn go_to(&mut self, target: &str, at: &str) -> Next {
        self.sections.get(target).copied().map_or_else(
            || {
                self.fault("target", at, format!("there is no section “{target}” to go to"));
                Next::Nowhere
            },
            Next::GoTo,
        )
    }

    fn ending(&mut self, ending: &'a Ending, at: &str) -> Next {
        self.outcome(&ending.outcome, at);
        let say = ending.say.as_ref().map(|say| self.text(say, at));
        self.endings.push(ReadyEnding { outcome: ending.outcome.clone(), say });
        Next::Close(self.endings.len() - 1)
    }

    fn outcome(&mut self, outcome: &str, at: &str) {
        if !self.file.outcomes.iter().any(|known| known.id == outcome) {
            self.fault("target", at, format!("there is no outcome “{outcome}”"));
        }
    }

    fn text(&mut self, text: &Text, at: &str) -> Vec<Piece> {
        let words = text.get(self.language, self.language);
        if words.trim().is_empty() {
            self.fault("text", at, "this text is empty");
        } else if !text.0.contains_key(self.language) {
            self.fault("text", at, format!("this text is missing in the dialogue’s language, {}", self.language));
        }
        match text::parse(words) {
            Ok(pieces) => {
                for piece in &pieces {
                    if let Piece::Chip(chip) = piece
                        && !self.fields.contains_key(chip.field.as_str())
                    {
                        self.fault("text", at, format!("this text shows “{}”, and there is no such field", chip.field));
                    }
                }
                pieces
            }
            Err(error) => {
                self.fault("text", at, error.to_string());
                vec![Piece::Words(words.to_owned())]
            }
        }
    }

    fn wordings(&mut self, wording: &Wording, at: &str) -> Vec<Vec<Piece>> {
        std::iter::once(&wording.text).chain(&wording.or).map(|text| self.text(text, at)).collect()
    }

    fn field(&self, key: &str) -> Result<usize, (&'static str, String)> {
        self.fields.get(key).copied().ok_or_else(|| ("target", format!("there is no field “{key}”")))
    }

    fn way_out(&mut self, way: &WayOut, arms: &[Arm], at: &str) -> Result<ReadyWayOut, (&'static str, String)> {
        Ok(match way {
            WayOut::GoOn => ReadyWayOut::GoOn,
            WayOut::GoTo(target) => ReadyWayOut::Go(self.go_to(target, at)),
            WayOut::Arm(arm) => {
                let index = arms.iter().position(|known| known.id == *arm);
                index.map(ReadyWayOut::Arm).ok_or_else(|| ("target", format!("the way out names the arm “{arm}”, and this ask has none of that id")))?
            }
        })
    }

    /// For each field a reader under the rules of the first Ask for it, or under its own rules alone.
    fn readers(&self) -> Vec<Option<Reader>> {
        let mut found: Vec<Option<Reader>> = vec![None; self.file.fields.len()];
        for node in self.turns.iter().rev() {
            if let Kind::Ask(ask) = &node.kind {
                found[ask.field] = Some(ask.reader.clone());
            }
        }
        found.into_iter().zip(&self.file.fields).map(|(reader, field)| reader.or_else(|| self.reader(field, &[], &[], &[]).ok())).collect()
    }

    /// A reader of several fields by their keys, each under the rules of its own ask where the file has one.
    fn free_reader(&self, keys: &[String]) -> Result<(Vec<usize>, FreeReader), (&'static str, String)> {
        let mut fields = Vec::new();
        let mut readers = Vec::new();
        for key in keys {
            let index = self.field(key)?;
            let definition = &self.file.fields[index];
            let mut own: Option<&Ask> = None;
            self.file.each_turn(&mut |_, _, turn| {
                if let Turn::Ask(ask) = turn
                    && ask.field == *key
                    && own.is_none()
                {
                    own = Some(ask);
                }
            });
            let reader = match own {
                Some(ask) => self.reader(definition, &ask.rules, &ask.only, &[])?,
                None => self.reader(definition, &[], &[], &[])?,
            };
            readers.push((reader, vec![definition.key.clone(), definition.label.clone()]));
            fields.push(index);
        }
        Ok((fields, FreeReader::new(readers, self.language)))
    }

    /// A reader of the fields that a reply to another question may fill, of those that some Ask asks for.
    fn volunteered(&self, readers: &[Option<Reader>]) -> (FreeReader, Vec<usize>) {
        use crate::file::FieldType as T;
        let mut fields: Vec<usize> = self
            .turns
            .iter()
            .filter_map(|node| if let Kind::Ask(ask) = &node.kind { Some(ask.field) } else { None })
            .filter(|field| matches!(self.file.fields[*field].kind, T::Email | T::Phone | T::Website | T::Money | T::Quantity))
            .collect();
        fields.sort_unstable();
        fields.dedup();
        let ready = fields
            .iter()
            .filter_map(|field| {
                let definition = &self.file.fields[*field];
                readers[*field].clone().map(|reader| (reader, vec![definition.key.clone(), definition.label.clone()]))
            })
            .collect();
        (FreeReader::new(ready, self.language), fields)
    }

    fn side_talk(&mut self) -> Vec<TalkNode> {
        let file = self.file;
        file.side_talk
            .iter()
            .map(|talk| {
                let at = format!("any-time/{}", talk.id);
                let phrases: Vec<String> =
                    talk.phrases.get(self.language).into_iter().flatten().map(|phrase| fold(phrase)).filter(|phrase| !phrase.is_empty()).collect();
                if phrases.is_empty() {
                    self.fault("text", &at, format!("this side-talk has no phrases in the dialogue’s language, {}", self.language));
                }
                let does = match &talk.does {
                    SideTalkDoes::Answer(parts) => ReadyTalk::Answer(parts.iter().map(|part| self.part(part, &at)).collect()),
                    SideTalkDoes::GoTo(section) => ReadyTalk::Go(self.go_to(section, &at)),
                };
                TalkNode { id: talk.id.clone(), phrases, matches: talk.matches, does }
            })
            .collect()
    }

    fn offers(&mut self) -> Vec<OfferNode> {
        let file = self.file;
        file.offers
            .iter()
            .map(|offer| {
                let at = format!("any-time/{}", offer.id);
                let (every, about) = match &offer.when {
                    OfferWhen::Every(n) => (Some((*n).max(1)), Vec::new()),
                    OfferWhen::About(words) => (None, words.iter().map(|word| fold(word)).filter(|word| !word.is_empty()).collect()),
                };
                OfferNode { id: offer.id.clone(), every, about, say: offer.say.iter().map(|part| self.part(part, &at)).collect() }
            })
            .collect()
    }

    /// A reader for a field under an ask's rules.
    fn reader(&self, field: &Field, rules: &[Rule], only: &[String], messages: &[TryMessage]) -> Result<Reader, (&'static str, String)> {
        let file = self.file;
        let currency = Some(file.settings.currency.as_str());
        let (language, required_language) = (self.language, file.language.as_str());
        let spec = ReaderSpec { field, rules, only, messages, language, required_language, fields: &file.fields, tables: &file.tables, currency };
        Reader::new(spec).map(|reader| reader.wording(&self.phrases)).map_err(|error| ("rule", format!("{}: {error}", field.label)))
    }

    fn link(&mut self, link: &Link, at: &str) -> (Vec<Piece>, String) {
        if !(link.url.starts_with("https://") || link.url.starts_with("http://")) {
            self.fault("link", at, format!("“{}” is not an http or https address", link.url));
        }
        (self.text(&link.label, at), link.url.clone())
    }

    fn kind(&mut self, turn: &Turn, at: &str) -> Result<Kind, (&'static str, String)> {
        Ok(match turn {
            Turn::Tell(tell) => {
                if tell.say.is_empty() {
                    self.fault("text", at, "this Tell says nothing");
                }
                Kind::Tell(tell.say.iter().map(|part| self.part(part, at)).collect())
            }
            Turn::Ask(ask) => {
                let field = self.field(&ask.field)?;
                let definition = &self.file.fields[field];
                let reader = self.reader(definition, &ask.rules, &ask.only, &ask.messages)?;
                let way_out = self.way_out(&ask.way_out, &ask.arms, at)?;
                if !(1..=10).contains(&ask.tries) {
                    self.fault("rule", at, "an ask allows 1 to 10 tries");
                }
                Kind::Ask(Box::new(AskNode {
                    say: self.wordings(&ask.say, at),
                    short: ask.short.as_ref().map(|text| self.text(text, at)),
                    why: ask.why.as_ref().map(|text| self.text(text, at)),
                    field,
                    reader,
                    tries: ask.tries.clamp(1, 10),
                    way_out,
                    skip: ask.skip.as_ref().map(|text| self.text(text, at)),
                    if_known: ask.if_known,
                    held: ask.held,
                }))
            }
            Turn::AskTogether(form) => {
                if form.fields.is_empty() {
                    self.fault("text", at, "this form has no fields");
                }
                let mut fields = Vec::new();
                for wanted in &form.fields {
                    let field = self.field(&wanted.field)?;
                    let definition = &self.file.fields[field];
                    let label = wanted.label.as_ref().map_or_else(|| definition.label.clone(), |label| label.get(self.language, self.language).to_owned());
                    fields.push(FormFieldNode { field, label, reader: self.reader(definition, &wanted.rules, &[], &[])? });
                }
                let way_out = self.way_out(&form.way_out, &[], at)?;
                Kind::AskTogether(Box::new(FormNode { say: self.wordings(&form.say, at), fields, tries: form.tries.clamp(1, 10), way_out }))
            }
            Turn::OpenAsk(open) => {
                let (fields, reader) = self.free_reader(&open.fields)?;
                if fields.is_empty() {
                    self.fault("text", at, "this Open ask reads no fields");
                }
                Kind::OpenAsk(Box::new(OpenNode { say: self.wordings(&open.say, at), fields, reader, together: open.missing == AskMissing::Together }))
            }
            Turn::ReadBack(back) => {
                let (fields, reader) = self.free_reader(&back.fields)?;
                if fields.is_empty() {
                    self.fault("text", at, "this Read back shows no fields");
                }
                Kind::ReadBack(Box::new(ReadBackNode { say: self.wordings(&back.say, at), fields, reader }))
            }
            Turn::Fork(fork) => {
                if fork.arms.is_empty() {
                    self.fault("arm", at, "this Fork has no arms");
                }
                Kind::Fork
            }
            Turn::WorkOut(work) => {
                let mut fills = Vec::new();
                for fill in &work.fills {
                    let field = self.field(&fill.field)?;
                    let definition = &self.file.fields[field];
                    let formula = formula::compile(&fill.formula, Names { fields: &self.file.fields, tables: &self.file.tables })
                        .map_err(|error| ("formula", format!("{}: {error}", definition.label)))?;
                    let wanted = Type::of(definition.kind);
                    if formula.gives() != wanted {
                        return Err(("formula", format!("{} keeps {}; this formula gives {}", definition.label, wanted.name(), formula.gives().name())));
                    }
                    fills.push((field, formula));
                }
                Kind::WorkOut(fills)
            }
            Turn::FileLead(file) => {
                let card = match &file.scorecard {
                    None => (!self.file.scorecards.is_empty()).then_some(0),
                    Some(id) => {
                        Some(self.file.scorecards.iter().position(|card| card.id == *id).ok_or_else(|| ("target", format!("there is no scorecard “{id}”")))?)
                    }
                };
                Kind::FileLead(card)
            }
            Turn::Visit(visit) => match self.go_to(&visit.section, at) {
                Next::GoTo(section) => Kind::Visit(section),
                _ => Kind::Broken(format!("there is no section “{}” to visit", visit.section)),
            },
            Turn::Close(close) => {
                self.outcome(&close.outcome, at);
                Kind::Close {
                    outcome: close.outcome.clone(),
                    say: close.say.as_ref().map(|say| self.wordings(say, at)),
                    link: close.link.as_ref().map(|link| self.link(link, at)),
                }
            }
            other => return Err(("cannot_run_yet", format!("{} cannot be run by this version yet", other.kind_label()))),
        })
    }
}

impl<'a> Compiler<'a> {
    fn part(&mut self, part: &Part, at: &str) -> ReadyPart {
        match part {
            Part::Line(wording) => ReadyPart::Line(self.wordings(wording, at)),
            Part::Picture(picture) => {
                self.medium(&picture.media, "picture", at);
                ReadyPart::Picture(picture.media.clone(), self.text(&picture.alt, at))
            }
            Part::Document(document) => {
                self.medium(&document.media, "document", at);
                ReadyPart::Document(document.media.clone(), self.text(&document.label, at))
            }
            Part::Link(link) => {
                let (label, url) = self.link(link, at);
                ReadyPart::Link(label, url)
            }
            Part::Beside(parts) => {
                if parts.is_empty() || parts.len() > 6 || parts.iter().any(|part| matches!(part, Part::Beside(_) | Part::Line(_))) {
                    self.fault("text", at, "side by side stand 1 to 6 pictures, documents or links");
                }
                ReadyPart::Beside(parts.iter().filter(|part| !matches!(part, Part::Beside(_))).map(|part| self.part(part, at)).collect())
            }
        }
    }

    fn medium(&mut self, hash: &str, what: &str, at: &str) {
        if !self.file.media.contains_key(hash) {
            self.fault("media", at, format!("this {what} was never uploaded here"));
        }
    }
}

/// How many turns a turn is with everything in its arms.
fn size(turn: &Turn) -> usize {
    1 + turn.arms().iter().flat_map(|arm| &arm.turns).map(size).sum::<usize>()
}

fn arm_fits(turn: &Turn, when: &When) -> bool {
    match turn {
        Turn::Ask(_) => matches!(when, When::Options(_) | When::Holds(_) | When::Otherwise | When::WayOut),
        Turn::Fork(_) => matches!(when, When::Holds(_) | When::Otherwise),
        Turn::FileLead(_) => matches!(when, When::Band(_) | When::RuledOut | When::Holds(_) | When::Otherwise),
        Turn::Consult(_) => matches!(when, When::Answered | When::Refused | When::NoAnswer),
        Turn::OfferTimes(_) => matches!(when, When::Booked | When::NoAnswer),
        Turn::BringInRep(_) => matches!(when, When::Joined | When::NoAnswer),
        _ => true,
    }
}
