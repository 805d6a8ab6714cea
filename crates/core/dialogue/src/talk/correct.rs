//! Corrections of an earlier answer while another question is open: "actually make it 60 guests", "no, Saturday",
//! "sorry, the e-mail is …".
//!
//! A reply is one where it begins like one, or says that something is wrong, and either names an earlier field or holds
//! a value that fits one earlier answer and not the open question. It is taken as a revision with its value. Where it
//! could be for two, it is asked back; none of it costs a try. "Sorry" and "actually" also begin plain answers: where
//! the open question can take the value, these two make no correction of it.

use super::replay::Change;
use super::step::{One, Run};
use super::{Came, Line};
use crate::file::FieldType;
use lumbo_language::{Kind, Language, Scan};
use lumbo_reading::{Reading, shown};
use lumbo_value::Value;

/// How surely a reply is a correction.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Opening {
    /// It says so: "make it", "no, …", "is wrong".
    Says,
    /// It may be: "sorry", "actually".
    May,
}

impl<'a> Run<'a> {
    /// Takes a correction of an earlier answer; true where the reply was one, or was asked back.
    pub(crate) fn correction(&mut self, one: One<'a>, text: &str) -> bool {
        let Some(opening) = self.opening(one, text) else { return false };
        let earlier = self.corrigible(one);
        if earlier.is_empty() {
            return false;
        }
        let plan = self.plan;
        let (free, fields) = &plan.corrected;
        let place = |field: usize| fields.iter().position(|known| *known == field);
        let names = |field: usize| place(field).is_some_and(|place| free.names(place, text));
        let named: Vec<usize> = earlier.iter().copied().filter(|field| names(*field)).collect();
        if !named.is_empty() && !names(one.field) {
            let taken = self.read_free(free, text);
            let new: Vec<(usize, Value)> = named
                .iter()
                .filter_map(|field| {
                    let told = taken.iter().find(|one| fields[one.field] == *field).map(|one| one.value.clone());
                    Some((*field, told.or_else(|| self.fits(*field, text, true))?))
                })
                .collect();
            return match new.as_slice() {
                [(field, value)] => self.corrected(*field, value.clone()),
                _ => false,
            };
        }
        // "No, in York": a town behind what leads to one.
        let placed = if earlier.iter().any(|field| plan.file.fields[*field].kind == FieldType::Place) {
            self.read_free(free, text)
        } else {
            Vec::new()
        };
        let told = |field: usize| {
            let found = placed.iter().find(|one| fields[one.field] == field && matches!(one.value, Value::Place(_)))?;
            let held = &self.state.values.get(&plan.file.fields[field].id)?.value;
            (found.value != *held).then(|| found.value.clone())
        };
        let fitting: Vec<(usize, Value)> = earlier
            .iter()
            .filter_map(|field| Some((*field, self.fits(*field, text, false).or_else(|| told(*field))?)))
            .collect();
        if fitting.is_empty() {
            return false;
        }
        let open = names(one.field) || matches!(self.read(one, text, 0), Reading::Value { .. } | Reading::Tie(_));
        match (fitting.as_slice(), open) {
            ([(field, value)], false) => self.corrected(*field, value.clone()),
            (_, true) if opening == Opening::May || names(one.field) => false,
            (_, _) => self.ask_which(one, &fitting, open),
        }
    }

    /// How a reply begins like a correction, if it does.
    fn opening(&self, one: One<'a>, text: &str) -> Option<Opening> {
        // Most replies are one word, or the first answer there is.
        if self.state.answers.is_empty() || !text.contains(' ') {
            return None;
        }
        let language = Language::get(&self.plan.language);
        let scan = Scan::new(text);
        if scan.tokens.len() < 2 || scan.tokens.len() > 60 {
            return None;
        }
        let control = &language.control;
        let wrong = (0..scan.tokens.len()).any(|index| control.wrong.at(&scan, index).is_some());
        if wrong || control.correct.at(&scan, 0).is_some() {
            return Some(Opening::Says);
        }
        // "No, Saturday": a no to the open question is an answer to it.
        let yes_or_no = one.reader.kind().is_yes_or_no();
        let no = scan.word(0).is_some_and(|word| language.plain_no.contains(word));
        if no && !yes_or_no && scan.tokens.get(1).is_some_and(|token| token.kind == Kind::Mark) {
            return Some(Opening::Says);
        }
        // "Sorry, make it 60": what may be one is followed by what says so.
        let ((), next) = language.instead.at(&scan, 0)?;
        let behind = (next..scan.tokens.len())
            .find(|index| scan.word(*index).is_some() || scan.tokens[*index].kind == Kind::Digits);
        let says = behind.is_some_and(|index| control.correct.at(&scan, index).is_some());
        Some(if says { Opening::Says } else { Opening::May })
    }

    /// Fields with an answer that a correction may change: not the open one, and nothing that is worked out.
    fn corrigible(&self, one: One<'a>) -> Vec<usize> {
        let plan = self.plan;
        let answered = |field: usize| {
            let id = &plan.file.fields[field].id;
            self.state.values.contains_key(id)
                && self.state.answers.iter().any(|answer| answer.field == *id && matches!(answer.came, Came::Value(_)))
        };
        let fields = plan.corrected.1.iter().copied();
        fields.filter(|field| *field != one.field && !plan.worked_out[*field] && answered(*field)).collect()
    }

    /// A new value for an earlier field, where its reader finds one. What takes nearly any word must be named.
    pub(crate) fn fits(&self, field: usize, text: &str, named: bool) -> Option<Value> {
        let reader = self.plan.readers.get(field)?.as_ref()?;
        let takes_words = reader.takes_anything() || matches!(reader.kind(), FieldType::Place | FieldType::Address);
        if takes_words && !(named && reader.kind() == FieldType::PersonName) {
            return None;
        }
        let held = &self.state.values.get(&self.plan.file.fields[field].id)?.value;
        match reader.read(text, self.known(None).reading(), 0) {
            Reading::Value { value, .. } if value != *held => Some(value),
            Reading::Value { .. } | Reading::Declined | Reading::Tie(_) | Reading::Failed { .. } => None,
        }
    }

    fn corrected(&mut self, field: usize, value: Value) -> bool {
        let id = self.plan.file.fields[field].id.clone();
        let Some(turn) =
            self.state.answers.iter().rev().find(|answer| answer.field == id).map(|answer| answer.turn.clone())
        else {
            return false;
        };
        let value = self.stamped(value);
        self.change(&Change { turn, field: id, value });
        true
    }

    /// Asks which of several is meant; uses no try.
    fn ask_which(&mut self, one: One<'a>, fitting: &[(usize, Value)], open: bool) -> bool {
        let plan = self.plan;
        let label = |field: usize| plan.file.fields[field].label.clone();
        let mut names: Vec<String> = fitting.iter().map(|(field, _)| label(*field)).collect();
        if open {
            names.push(label(one.field));
        }
        let Some((field, value)) = fitting.first() else { return false };
        let value = shown(&plan.file.fields[*field], value, &plan.language, &plan.file.language);
        let or = format!(" {} ", plan.phrases.get("or"));
        let text = lumbo_language::fill(
            plan.phrases.get("correct.which"),
            &[("candidates", &names.join(&or)), ("example", &format!("{}: {value}", label(*field)))],
        );
        self.talk_back(Some(one), None, "corrects one of several", vec![Line::Text { text }]);
        true
    }
}
