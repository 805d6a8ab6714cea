//! Kinds of turn, a folder each: its part of the file and what the rest must know of it (`mod`), how it is made ready
//! (`compile`), what it does when the conversation comes to it (`run`), and what becomes of a reply to it (`answer`).
//!
//! To add a kind: a folder whose type implements `OfKind`, its place in `each_kind!` and in [`Turn`], and, once it
//! runs, a variant of [`crate::plan::Kind`] with its arm in `talk::step`. The compiler asks for whatever is missing.
//! Then its refinement in `file/load`, its place in `demo/every-kind.json`, and an editor.

// What many kinds answer alike. Each kind still says so itself, so that a new one cannot forget it.

/// Has its id as such.
macro_rules! id {
    () => {
        fn id(&self) -> &Id {
            &self.id
        }
        fn id_mut(&mut self) -> &mut Id {
            &mut self.id
        }
    };
}

/// Has its arms as such; what takes one of them is its own affair.
macro_rules! arms {
    () => {
        fn arms(&self) -> &[Arm] {
            &self.arms
        }
        fn arms_mut(&mut self) -> Option<&mut Vec<Arm>> {
            Some(&mut self.arms)
        }
    };
}

/// Has no arms, so nothing takes one.
macro_rules! no_arms {
    () => {
        fn arms(&self) -> &[Arm] {
            &[]
        }
        fn arms_mut(&mut self) -> Option<&mut Vec<Arm>> {
            None
        }
        fn takes(_when: &When) -> bool {
            false
        }
    };
}

/// Leads to no section by itself.
macro_rules! leads_nowhere {
    () => {
        fn leads_to(&self) -> Option<(&Id, Lead)> {
            None
        }
        fn leads_to_mut(&mut self) -> Option<&mut Id> {
            None
        }
    };
}

/// Does not end the conversation.
macro_rules! ends_nothing {
    () => {
        fn ends_as(&self) -> Option<&Id> {
            None
        }
        fn ends_as_mut(&mut self) -> Option<&mut Id> {
            None
        }
    };
}

/// Asks for no field.
macro_rules! asks_nothing {
    () => {
        fn asks_for(&self) -> Vec<&str> {
            Vec::new()
        }
    };
}

/// Fills no field without asking.
macro_rules! works_out_nothing {
    () => {
        fn fills(&self) -> Vec<&str> {
            Vec::new()
        }
        fn formulas(&self) -> Vec<&str> {
            Vec::new()
        }
    };
}

/// Shows no picture and no document.
macro_rules! shows_nothing {
    () => {
        fn media(&self) -> Vec<&str> {
            Vec::new()
        }
    };
}

/// Says its wording, and has no other text.
macro_rules! says_its_wording {
    () => {
        fn texts(&mut self) -> Vec<&mut Text> {
            wording_texts(&mut self.say).collect()
        }
        fn said(&self) -> Vec<&Text> {
            std::iter::once(&self.say.text).chain(&self.say.or).collect()
        }
    };
}

/// Has no text.
macro_rules! says_nothing {
    () => {
        fn texts(&mut self) -> Vec<&mut Text> {
            Vec::new()
        }
        fn said(&self) -> Vec<&Text> {
            Vec::new()
        }
    };
}

/// Is made ready in its file `compile`.
macro_rules! can_run {
    () => {
        fn compile(&self, compiler: &mut Compiler<'_>, at: &str) -> Result<Kind, Wrong> {
            compile::compile(self, compiler, at)
        }
        const RUNS: bool = true;
    };
}

/// Cannot be run by this version yet.
macro_rules! cannot_run {
    () => {
        fn compile(&self, _compiler: &mut Compiler<'_>, _at: &str) -> Result<Kind, Wrong> {
            Err(cannot_run_yet(Self::LABEL))
        }
        const RUNS: bool = false;
    };
}

pub mod ask;
pub mod ask_together;
pub mod bring_in_rep;
pub mod close;
pub mod consult;
pub mod file_lead;
pub mod fork;
pub mod offer_times;
pub mod open_ask;
pub mod read_back;
pub mod references;
pub mod take_questions;
pub mod tell;
pub mod texts;
pub mod uses;
pub mod visit;
pub mod words;
pub mod work_out;

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

pub use ask::Ask;
pub use ask::IfKnown;
pub use ask_together::AskTogether;
pub use ask_together::FormField;
pub use bring_in_rep::BringInRep;
pub use close::Close;
pub use consult::Consult;
pub use file_lead::FileLead;
pub use fork::Fork;
pub use offer_times::OfferTimes;
pub use open_ask::AskMissing;
pub use open_ask::OpenAsk;
pub use read_back::ReadBack;
pub use take_questions::TakeQuestions;
pub use tell::Tell;
pub use visit::Visit;
pub use work_out::Fill;
pub use work_out::WorkOut;

use crate::file::{Arm, Dialogue, WayOut, When};
use crate::plan::Kind;
use crate::plan::compile::{Compiler, Wrong};
use lumbo_value::{Id, Text};

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

/// How a turn itself leads to a section.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Lead {
    /// It runs the section and comes back.
    Visit,
    /// Its way out goes there.
    WayOut,
}

/// What the rest must know of a kind of turn.
pub(crate) trait OfKind {
    /// Its name in files.
    const NAME: &'static str;
    /// Its name in the interface.
    const LABEL: &'static str;
    /// True where this version can run it.
    const RUNS: bool;

    fn id(&self) -> &Id;
    fn id_mut(&mut self) -> &mut Id;
    fn arms(&self) -> &[Arm];
    /// Nothing for kinds that have no arms.
    fn arms_mut(&mut self) -> Option<&mut Vec<Arm>>;
    /// True where an arm of it can be taken by this.
    fn takes(when: &When) -> bool;
    /// Keys of the fields it asks for.
    fn asks_for(&self) -> Vec<&str>;
    /// Keys of the fields it fills without asking.
    fn fills(&self) -> Vec<&str>;
    /// Formulas it works out.
    fn formulas(&self) -> Vec<&str>;
    /// The section it leads to by itself, its arms aside.
    fn leads_to(&self) -> Option<(&Id, Lead)>;
    /// The same, to change it.
    fn leads_to_mut(&mut self) -> Option<&mut Id>;
    /// The outcome it ends with, its arms aside.
    fn ends_as(&self) -> Option<&Id>;
    /// The same, to change it.
    fn ends_as_mut(&mut self) -> Option<&mut Id>;
    /// Hashes of pictures and documents it shows.
    fn media(&self) -> Vec<&str>;
    /// What it says or does in words, without its arms.
    fn words(&self, dialogue: &Dialogue) -> String;
    /// The words of its name.
    fn name_words(&self, dialogue: &Dialogue) -> String {
        self.words(dialogue)
    }
    /// Every text that a prospect reads, without those of its arms.
    fn texts(&mut self) -> Vec<&mut Text>;
    /// What it says when the conversation comes to it, in every wording.
    fn said(&self) -> Vec<&Text>;
    /// Makes it ready.
    fn compile(&self, compiler: &mut Compiler<'_>, at: &str) -> Result<Kind, Wrong>;
}

/// Tries of a question where its author says nothing.
fn three() -> u8 {
    3
}

fn way_out_target(way: &WayOut) -> Option<(&Id, Lead)> {
    match way {
        WayOut::GoTo(section) => Some((section, Lead::WayOut)),
        WayOut::GoOn | WayOut::Arm(_) => None,
    }
}

fn way_out_target_mut(way: &mut WayOut) -> Option<&mut Id> {
    match way {
        WayOut::GoTo(section) => Some(section),
        WayOut::GoOn | WayOut::Arm(_) => None,
    }
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
        each_kind!(self, turn => turn.id())
    }

    /// Its id, to change it when a turn is copied.
    pub fn id_mut(&mut self) -> &mut Id {
        each_kind!(self, turn => turn.id_mut())
    }

    /// Its kind's name in files.
    #[must_use]
    pub fn kind(&self) -> &'static str {
        each_kind!(self, turn => name_of(turn))
    }

    /// Its kind's name in the interface.
    #[must_use]
    pub fn kind_label(&self) -> &'static str {
        each_kind!(self, turn => label_of(turn))
    }

    /// True for the kinds that this version can run.
    #[must_use]
    pub fn can_run(&self) -> bool {
        each_kind!(self, turn => runs(turn))
    }

    /// Its arms.
    #[must_use]
    pub fn arms(&self) -> &[Arm] {
        each_kind!(self, turn => turn.arms())
    }

    /// Its arms to change; nothing for kinds that have none.
    pub fn arms_mut(&mut self) -> Option<&mut Vec<Arm>> {
        each_kind!(self, turn => turn.arms_mut())
    }

    /// True where an arm of it can be taken by this.
    #[must_use]
    pub fn takes(&self, when: &When) -> bool {
        each_kind!(self, turn => takes(turn, when))
    }

    /// Keys of the fields it asks for.
    #[must_use]
    pub fn asks_for(&self) -> Vec<&str> {
        each_kind!(self, turn => turn.asks_for())
    }

    /// Keys of the fields it fills without asking.
    #[must_use]
    pub fn fills(&self) -> Vec<&str> {
        each_kind!(self, turn => turn.fills())
    }

    /// Formulas it works out.
    #[must_use]
    pub fn formulas(&self) -> Vec<&str> {
        each_kind!(self, turn => turn.formulas())
    }

    /// The section it leads to by itself, its arms aside.
    #[must_use]
    pub fn leads_to(&self) -> Option<(&Id, Lead)> {
        each_kind!(self, turn => turn.leads_to())
    }

    /// The same, to change it.
    pub fn leads_to_mut(&mut self) -> Option<&mut Id> {
        each_kind!(self, turn => turn.leads_to_mut())
    }

    /// The outcome it ends with, its arms aside.
    #[must_use]
    pub fn ends_as(&self) -> Option<&Id> {
        each_kind!(self, turn => turn.ends_as())
    }

    /// The same, to change it.
    pub fn ends_as_mut(&mut self) -> Option<&mut Id> {
        each_kind!(self, turn => turn.ends_as_mut())
    }

    /// Hashes of pictures and documents it shows.
    #[must_use]
    pub fn media(&self) -> Vec<&str> {
        each_kind!(self, turn => turn.media())
    }

    /// Every text that a prospect reads, without those of its arms.
    #[must_use]
    pub fn texts(&mut self) -> Vec<&mut Text> {
        each_kind!(self, turn => turn.texts())
    }

    /// What it says when the conversation comes to it, in every wording.
    #[must_use]
    pub fn said(&self) -> Vec<&Text> {
        each_kind!(self, turn => turn.said())
    }

    pub(crate) fn words(&self, dialogue: &Dialogue) -> String {
        each_kind!(self, turn => turn.words(dialogue))
    }

    pub(crate) fn name_words(&self, dialogue: &Dialogue) -> String {
        each_kind!(self, turn => turn.name_words(dialogue))
    }

    pub(crate) fn compile(&self, compiler: &mut Compiler<'_>, at: &str) -> Result<Kind, Wrong> {
        each_kind!(self, turn => turn.compile(compiler, at))
    }
}

fn name_of<K: OfKind>(_: &K) -> &'static str {
    K::NAME
}

fn label_of<K: OfKind>(_: &K) -> &'static str {
    K::LABEL
}

fn runs<K: OfKind>(_: &K) -> bool {
    K::RUNS
}

fn takes<K: OfKind>(_: &K, when: &When) -> bool {
    K::takes(when)
}
