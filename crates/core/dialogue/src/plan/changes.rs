//! What follows what, whatever the conditions, and which fields may still change from each turn on: the table that
//! `@settled` looks up, made once with the plan.

use std::collections::HashMap;

use super::{Kind, Next, Plan, ReadyFollow, ReadyTalk, ReadyWayOut};
use crate::file::FieldType;
use crate::turns::{IfKnown, Turn};

/// A set of fields by index.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Fields(Vec<u64>);

impl Fields {
    /// No field of so many.
    #[must_use]
    pub fn none(width: usize) -> Self {
        Self(vec![0; width.div_ceil(64)])
    }

    /// Adds a field.
    pub fn put(&mut self, field: usize) {
        if let Some(word) = self.0.get_mut(field / 64) {
            *word |= 1 << (field % 64);
        }
    }

    /// True where a field is in it.
    #[must_use]
    pub fn has(&self, field: usize) -> bool {
        self.0.get(field / 64).is_some_and(|word| word >> (field % 64) & 1 == 1)
    }

    /// Adds another set; true where that changed anything.
    pub fn add(&mut self, other: &Self) -> bool {
        let mut changed = false;
        for (word, other) in self.0.iter_mut().zip(&other.0) {
            changed |= *word | other != *word;
            *word |= other;
        }
        changed
    }
}

/// Which fields may change, by the turn's index.
#[derive(Debug, Clone, Default)]
pub struct Changes {
    /// Fields that a channel or the site may know before the first question.
    pub may_be_known: Vec<bool>,
    /// From the turn on, itself included: written whether they are known or not.
    pub written: Vec<Fields>,
    /// From the turn on, itself included: written where they are missing.
    pub filled: Vec<Fields>,
    /// The same as `written`, only by what comes after the turn.
    pub written_after: Vec<Fields>,
    /// The same as `filled`, only by what comes after the turn.
    pub filled_after: Vec<Fields>,
}

impl Plan {
    /// Everything that a turn leads to, conditions not looked at.
    #[must_use]
    pub fn leads(&self, turn: usize) -> Vec<Next> {
        let node = &self.turns[turn];
        let mut out: Vec<Next> = node.arms.iter().map(|arm| arm.entry).collect();
        let way_out = |way: ReadyWayOut| if let ReadyWayOut::Go(next) = way { Some(next) } else { None };
        match &node.kind {
            Kind::Close(_) => {}
            Kind::Ask(ask) => out.extend([Some(node.next), way_out(ask.way_out)].into_iter().flatten()),
            Kind::AskTogether(form) => out.extend([Some(node.next), way_out(form.way_out)].into_iter().flatten()),
            Kind::Visit(section) => out.extend([self.sections[*section].entry, node.next]),
            Kind::Tell(_)
            | Kind::OpenAsk(_)
            | Kind::ReadBack(_)
            | Kind::Fork
            | Kind::WorkOut(_)
            | Kind::FileLead(_)
            | Kind::Broken(_) => out.push(node.next),
        }
        if node.kind.asks() {
            let away = |does: &ReadyTalk| if let ReadyTalk::Go(next) = does { Some(*next) } else { None };
            out.extend(self.side_talk.iter().filter_map(|talk| away(&talk.does)));
        }
        out
    }

    /// What follows the end of a section, wherever it was entered from.
    #[must_use]
    pub fn after(&self, section: usize) -> Vec<Next> {
        let returns = || self.turns.iter().filter(|node| matches!(node.kind, Kind::Visit(_))).map(|node| node.next);
        match self.sections[section].follow {
            ReadyFollow::Go(next) => vec![next],
            ReadyFollow::CarryOn(Some(after)) => std::iter::once(Next::GoTo(after)).chain(returns()).collect(),
            ReadyFollow::CarryOn(None) | ReadyFollow::Return => returns().collect(),
        }
    }

    /// Turns that may come right after a turn, each once.
    #[must_use]
    pub fn following(&self, turn: usize) -> Vec<usize> {
        let mut out = Vec::new();
        let mut todo = self.leads(turn);
        let mut ends = vec![false; self.sections.len()];
        let mut entered = vec![false; self.sections.len()];
        while let Some(next) = todo.pop() {
            match next {
                Next::Turn(index) => out.push(index),
                Next::GoTo(section) if !std::mem::replace(&mut entered[section], true) => {
                    todo.push(self.sections[section].entry);
                }
                Next::EndOf(section) if !std::mem::replace(&mut ends[section], true) => {
                    todo.extend(self.after(section));
                }
                Next::GoTo(_) | Next::EndOf(_) | Next::Close(_) | Next::Nowhere | Next::Wait => {}
            }
        }
        out.sort_unstable();
        out.dedup();
        out
    }
}

impl Changes {
    pub(super) fn of(plan: &Plan) -> Self {
        let width = plan.file.fields.len();
        let count = plan.turns.len();
        let mut changes = Self {
            may_be_known: may_be_known(plan),
            written: vec![Fields::none(width); count],
            filled: vec![Fields::none(width); count],
            written_after: Vec::new(),
            filled_after: Vec::new(),
        };
        let mut turns: HashMap<&str, &Turn> = HashMap::new();
        plan.file.each_turn(&mut |_, _, turn| {
            turns.entry(turn.id()).or_insert(turn);
        });
        (0..count).for_each(|turn| changes.itself(plan, turn, turns.get(plan.turns[turn].id.as_str()).copied()));
        let following: Vec<Vec<usize>> = (0..count).map(|turn| plan.following(turn)).collect();
        let mut changed = true;
        while std::mem::take(&mut changed) {
            for turn in (0..count).rev() {
                for next in following[turn].iter().filter(|next| **next != turn) {
                    for sets in [&mut changes.written, &mut changes.filled] {
                        let from = std::mem::take(&mut sets[*next]);
                        changed |= sets[turn].add(&from);
                        sets[*next] = from;
                    }
                }
            }
        }
        let after = |sets: &[Fields]| -> Vec<Fields> {
            following
                .iter()
                .map(|next| {
                    let mut all = Fields::none(width);
                    next.iter().for_each(|next| {
                        all.add(&sets[*next]);
                    });
                    all
                })
                .collect()
        };
        changes.written_after = after(&changes.written);
        changes.filled_after = after(&changes.filled);
        changes
    }

    /// What a turn does itself.
    fn itself(&mut self, plan: &Plan, turn: usize, file: Option<&Turn>) {
        let node = &plan.turns[turn];
        let (written, filled) = (&mut self.written[turn], &mut self.filled[turn]);
        match &node.kind {
            Kind::Ask(ask) => {
                filled.put(ask.field);
                if ask.if_known != IfKnown::Skip {
                    written.put(ask.field);
                }
            }
            Kind::AskTogether(form) => form.fields.iter().for_each(|wanted| written.put(wanted.field)),
            Kind::OpenAsk(open) => open.fields.iter().for_each(|field| written.put(*field)),
            Kind::ReadBack(back) => {
                for field in &back.fields {
                    filled.put(*field);
                    if self.may_be_known[*field] {
                        written.put(*field);
                    }
                }
            }
            Kind::WorkOut(fills) => fills.iter().for_each(|(field, _)| written.put(*field)),
            Kind::Broken(_) => {
                let keys = file.into_iter().flat_map(|turn| turn.asks_for().into_iter().chain(turn.fills()));
                keys.filter_map(|key| plan.field_place(key)).for_each(|field| written.put(field));
            }
            Kind::Tell(_) | Kind::Fork | Kind::FileLead(_) | Kind::Visit(_) | Kind::Close(_) => {}
        }
        if node.kind.asks() {
            plan.volunteered.1.iter().for_each(|field| filled.put(*field));
        }
    }
}

/// Whom the channel knows; and what no turn asks for or works out can only come from the site.
fn may_be_known(plan: &Plan) -> Vec<bool> {
    let mut given = vec![false; plan.file.fields.len()];
    plan.file.each_turn(&mut |_, _, turn| {
        // A Read back shows; what it asks for was asked for before.
        let asked = if matches!(turn, Turn::ReadBack(_)) { Vec::new() } else { turn.asks_for() };
        for field in asked.into_iter().chain(turn.fills()).filter_map(|key| plan.field_place(key)) {
            given[field] = true;
        }
    });
    let fields = plan.file.fields.iter().zip(given);
    fields
        .map(|(field, given)| {
            let contact = matches!(field.kind, FieldType::PersonName | FieldType::Email | FieldType::Phone);
            field.kind != FieldType::Consent && (contact || !given)
        })
        .collect()
}
