//! Compiling: sections, arms and what follows what.

use std::collections::HashMap;

use jiff::tz::TimeZone;

use super::ahead::most_questions;
use super::{
    ArmNode, Changes, Fault, Kind, Next, Node, Plan, ReadyEnding, ReadyFollow, ReadyWayOut, ReadyWhen, SectionNode,
};
use crate::file::{Arm, Dialogue, Ending, FieldType, Follow, Text, Then, Turn, WayOut, When, Wording};
use crate::score::Card;
use crate::turns::words::LACKS;
use lumbo_condition as condition;
use lumbo_condition::circumstances::CONTEXT_NAMES;
use lumbo_language::Phrases;
use lumbo_route::Rules;
use lumbo_value::text::{self, Piece};

/// What a part of a dialogue lacks to be run: a check's key and a sentence.
pub(crate) type Wrong = (&'static str, String);

/// That this version cannot run a kind of turn.
pub(crate) fn cannot_run_yet(label: &str) -> Wrong {
    ("cannot_run_yet", format!("{label} cannot be run by this version yet"))
}

/// A dialogue being made ready.
pub(crate) struct Compiler<'a> {
    pub(crate) file: &'a Dialogue,
    pub(crate) language: &'a str,
    pub(crate) sections: HashMap<&'a str, usize>,
    pub(crate) fields: HashMap<&'a str, usize>,
    pub(crate) turns: Vec<Node>,
    pub(crate) endings: Vec<ReadyEnding>,
    pub(crate) faults: Vec<Fault>,
    pub(crate) phrases: Phrases,
}

impl Plan {
    /// Compiles a dialogue in its own language, and lists what cannot be run.
    #[must_use]
    pub fn new(file: &Dialogue) -> (Self, Vec<Fault>) {
        let language = file.language.as_str();
        let mut compiler = Compiler {
            file,
            language,
            sections: file
                .sections
                .iter()
                .enumerate()
                .rev()
                .map(|(index, section)| (section.id.as_str(), index))
                .collect(),
            fields: file.fields.iter().enumerate().rev().map(|(index, field)| (field.key.as_str(), index)).collect(),
            turns: Vec::new(),
            endings: Vec::new(),
            faults: Vec::new(),
            phrases: file.phrases(language),
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
            compiler.faults.extend(faults.into_iter().map(|(id, says)| Fault {
                key: "scoring",
                at: format!("scoring/{id}"),
                says,
            }));
            cards.push(card);
        }
        let named = file.named_fields();
        let (routes, faults) =
            Rules::new(&file.routing, &file.fields, &|holds| condition::say(holds, &named, language));
        compiler.faults.extend(faults.into_iter().map(|(id, says)| Fault {
            key: "routing",
            at: format!("routing/{id}"),
            says,
        }));
        let zone = TimeZone::get(&file.settings.time_zone).unwrap_or_else(|_| {
            compiler.fault(
                "settings",
                "settings",
                format!("“{}” is not a time zone of the IANA list", file.settings.time_zone),
            );
            TimeZone::UTC
        });
        let side_talk = compiler.side_talk();
        let offers = compiler.offers();
        let readers = compiler.readers();
        let volunteered = compiler.volunteered(&readers);
        let corrected = compiler.corrected(&readers);
        let mut worked_out = vec![false; file.fields.len()];
        for node in &compiler.turns {
            if let Kind::WorkOut(fills) = &node.kind {
                fills.iter().for_each(|(field, _)| worked_out[*field] = true);
            }
        }
        let Compiler { turns, endings, faults, phrases, .. } = compiler;
        let mut asked_by = vec![None; file.fields.len()];
        for (index, node) in turns.iter().enumerate().rev() {
            if let Kind::Ask(ask) = &node.kind {
                asked_by[ask.field] = Some(index);
            }
        }
        let mut country_fields: Vec<usize> = Vec::new();
        for kind in [FieldType::Country, FieldType::Address, FieldType::Place] {
            country_fields
                .extend(file.fields.iter().enumerate().filter(|(_, field)| field.kind == kind).map(|(index, _)| index));
        }
        let places = |keys: &[String]| -> Vec<usize> {
            keys.iter().filter_map(|key| file.fields.iter().position(|field| field.key == *key)).collect()
        };
        let mut plan = Self {
            file: file.clone(),
            language: language.to_owned(),
            by_id: turns.iter().enumerate().rev().map(|(index, node)| (node.id.clone(), index)).collect(),
            sections_by_id: file
                .sections
                .iter()
                .enumerate()
                .rev()
                .map(|(index, section)| (section.id.clone(), index))
                .collect(),
            field_ids: file.fields.iter().enumerate().rev().map(|(index, field)| (field.id.clone(), index)).collect(),
            field_keys: file.fields.iter().enumerate().rev().map(|(index, field)| (field.key.clone(), index)).collect(),
            ahead: vec![0; turns.len()],
            asked_by,
            country_fields,
            readers,
            volunteered,
            corrected,
            worked_out,
            changes: Changes::default(),
            side_talk,
            offers,
            turns,
            sections,
            endings,
            default_card: file.default_card_place(),
            needs: file.brief.needs.iter().map(|need| places(need)).filter(|need| !need.is_empty()).collect(),
            cards,
            routes,
            zone,
            phrases,
        };
        plan.ahead = most_questions(&plan);
        plan.changes = Changes::of(&plan);
        (plan, faults)
    }
}

impl<'a> Compiler<'a> {
    pub(crate) fn fault(&mut self, key: &'static str, at: &str, says: impl Into<String>) {
        self.faults.push(Fault { key, at: at.to_owned(), says: says.into() });
    }

    /// Compiles turns that follow one another; gives the first, or `after` where there is none. A turn's arms stand
    /// right behind it in the list, so every index is known before its turn is compiled.
    pub(crate) fn run_of(&mut self, section: usize, turns: &'a [Turn], after: Next) -> Next {
        let first = self.turns.len();
        for (order, turn) in turns.iter().enumerate() {
            let index = self.turns.len();
            let next = if order + 1 < turns.len() { Next::Turn(index + size(turn)) } else { after };
            self.turns.push(Node { id: turn.id().to_owned(), section, kind: Kind::Fork, next, arms: Vec::new() });
            let at = self.place(section, turn, None);
            let kind = turn.compile(self, &at).unwrap_or_else(|(key, says)| {
                self.fault(key, &at, says.clone());
                Kind::Broken(says)
            });
            let arms = turn.arms().iter().map(|arm| self.arm(section, turn, arm, next)).collect();
            self.turns[index].kind = kind;
            self.turns[index].arms = arms;
        }
        if turns.is_empty() { after } else { Next::Turn(first) }
    }

    pub(crate) fn place(&self, section: usize, turn: &Turn, arm: Option<&Arm>) -> String {
        let section = &self.file.sections[section].id;
        arm.map_or_else(|| format!("{section}/{}", turn.id()), |arm| format!("{section}/{}/{}", turn.id(), arm.id))
    }

    pub(crate) fn arm(&mut self, section: usize, turn: &Turn, arm: &'a Arm, rejoins: Next) -> ArmNode {
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
                let labels: Vec<String> = bands
                    .iter()
                    .map(|id| {
                        known.iter().find(|band| band.id == *id).map_or_else(|| id.clone(), |band| band.label.clone())
                    })
                    .collect();
                if let Some(missing) = bands.iter().find(|id| !known.iter().any(|band| band.id == **id)) {
                    self.fault("target", &at, format!("there is no band “{missing}”"));
                }
                (ReadyWhen::Band(bands.clone()), labels.join(" or "))
            }
            When::RuledOut => (ReadyWhen::RuledOut, "ruled out".to_owned()),
            When::Lacks => (ReadyWhen::Lacks, LACKS.to_owned()),
            When::WayOut => (ReadyWhen::Never, "way out".to_owned()),
            When::Answered => (ReadyWhen::Never, "answered".to_owned()),
            When::Refused => (ReadyWhen::Never, "refused".to_owned()),
            When::NoAnswer => (ReadyWhen::Never, "no answer".to_owned()),
            When::Booked => (ReadyWhen::Never, "booked".to_owned()),
            When::Joined => (ReadyWhen::Never, "joined".to_owned()),
        };
        if !turn.takes(&arm.when) {
            self.fault("arm", &at, format!("an arm of {} cannot be taken by {words}", turn.kind_label()));
        }
        ArmNode { id: arm.id.clone(), when, entry, words: arm.label.clone().unwrap_or(words), tags: arm.tags.clone() }
    }

    pub(crate) fn option_words(&mut self, turn: &Turn, keys: &[String], at: &str) -> String {
        let Some(field) =
            turn.asks_for().first().and_then(|key| self.fields.get(key)).map(|index| &self.file.fields[*index])
        else {
            return keys.join(" or ");
        };
        let mut words = Vec::new();
        for key in keys {
            let option = field.options.iter().find(|option| option.key == *key);
            let yes_no = field.kind.is_yes_or_no() && matches!(key.as_str(), "yes" | "no");
            if option.is_none() && !yes_no {
                self.fault("target", at, format!("{} has no option “{key}”", field.label));
            }
            words.push(
                option.map_or_else(|| key.clone(), |option| option.label.get(self.language, self.language).to_owned()),
            );
        }
        words.join(" or ")
    }

    pub(crate) fn go_to(&mut self, target: &str, at: &str) -> Next {
        self.sections.get(target).copied().map_or_else(
            || {
                self.fault("target", at, format!("there is no section “{target}” to go to"));
                Next::Nowhere
            },
            Next::GoTo,
        )
    }

    pub(crate) fn ending(&mut self, ending: &'a Ending, at: &str) -> Next {
        self.outcome(&ending.outcome, at);
        let say = ending.say.as_ref().map(|say| self.text(say, at));
        self.endings.push(ReadyEnding { outcome: ending.outcome.clone(), say });
        Next::Close(self.endings.len() - 1)
    }

    pub(crate) fn outcome(&mut self, outcome: &str, at: &str) {
        if !self.file.outcomes.iter().any(|known| known.id == outcome) {
            self.fault("target", at, format!("there is no outcome “{outcome}”"));
        }
    }

    pub(crate) fn text(&mut self, text: &Text, at: &str) -> Vec<Piece> {
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
                        && !CONTEXT_NAMES.contains(&chip.field.as_str())
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

    pub(crate) fn wordings(&mut self, wording: &Wording, at: &str) -> Vec<Vec<Piece>> {
        std::iter::once(&wording.text).chain(&wording.or).map(|text| self.text(text, at)).collect()
    }

    pub(crate) fn field(&self, key: &str) -> Result<usize, Wrong> {
        self.fields.get(key).copied().ok_or_else(|| ("target", format!("there is no field “{key}”")))
    }

    pub(crate) fn way_out(&mut self, way: &WayOut, arms: &[Arm], at: &str) -> Result<ReadyWayOut, Wrong> {
        Ok(match way {
            WayOut::GoOn => ReadyWayOut::GoOn,
            WayOut::GoTo(target) => ReadyWayOut::Go(self.go_to(target, at)),
            WayOut::Arm(arm) => {
                let index = arms.iter().position(|known| known.id == *arm);
                index.map(ReadyWayOut::Arm).ok_or_else(|| {
                    ("target", format!("the way out names the arm “{arm}”, and this ask has none of that id"))
                })?
            }
        })
    }
}

/// How many turns a turn is with everything in its arms.
fn size(turn: &Turn) -> usize {
    1 + turn.arms().iter().flat_map(|arm| &arm.turns).map(size).sum::<usize>()
}
