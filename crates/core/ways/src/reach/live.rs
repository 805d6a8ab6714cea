//! What may still be read and written from each turn on (liveness, as compilers compute it), so that the exploration
//! can forget what nothing reads any more.

use lumbo_dialogue::plan::{Kind, Next};
use lumbo_dialogue::turns::IfKnown;

use super::model::{Model, Take};

/// A set of fields.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub(crate) struct Bits(Vec<u64>);

impl Bits {
    pub fn new(width: usize) -> Self {
        Self(vec![0; width.div_ceil(64)])
    }
    pub fn put(&mut self, field: usize) {
        self.0[field / 64] |= 1 << (field % 64);
    }
    pub fn has(&self, field: usize) -> bool {
        self.0.get(field / 64).is_some_and(|word| word >> (field % 64) & 1 == 1)
    }
    /// Adds another set; true where that changed anything.
    fn add(&mut self, other: &Self) -> bool {
        let mut changed = false;
        for (word, other) in self.0.iter_mut().zip(&other.0) {
            changed |= *word | other != *word;
            *word |= other;
        }
        changed
    }
}

/// For each turn, what it and everything that may come after it does with the fields.
#[derive(Debug, Default)]
pub(crate) struct Live {
    /// Compared by value.
    pub value: Vec<Bits>,
    /// Read for whether it is known: asked, shown, needed.
    pub known: Vec<Bits>,
    /// Asked by a turn, so that the reason why it is missing matters.
    pub asked: Vec<Bits>,
    /// Written whether it is known or not.
    pub written: Vec<Bits>,
    /// Written where it is missing.
    pub filled: Vec<Bits>,
    /// True where the turn can come round again.
    pub again: Vec<bool>,
}

impl Live {
    pub fn of(model: &Model<'_>) -> Self {
        let plan = model.plan;
        let count = plan.turns.len();
        let mut live = Self {
            value: vec![model.bits(); count],
            known: vec![model.bits(); count],
            asked: vec![model.bits(); count],
            written: vec![model.bits(); count],
            filled: vec![model.bits(); count],
            again: vec![false; count],
        };
        (0..count).for_each(|turn| live.itself(model, turn));
        let after: Vec<Vec<usize>> = (0..count).map(|turn| successors(model, turn)).collect();
        loop {
            let mut changed = false;
            for turn in (0..count).rev() {
                for next in &after[turn] {
                    for set in [&mut live.value, &mut live.known, &mut live.asked, &mut live.written, &mut live.filled]
                    {
                        if turn != *next {
                            let from = std::mem::take(&mut set[*next]);
                            changed |= set[turn].add(&from);
                            set[*next] = from;
                        }
                    }
                }
            }
            if !changed {
                break;
            }
        }
        live.again = circles(&after);
        live
    }

    /// What a turn does itself.
    fn itself(&mut self, model: &Model<'_>, turn: usize) {
        let node = &model.plan.turns[turn];
        for take in &model.takes[turn] {
            match take {
                Take::Holds(test) => test.each_field(&mut |field| self.value[turn].put(field)),
                Take::Options(_) => {
                    if let Kind::Ask(ask) = &node.kind {
                        self.value[turn].put(ask.field);
                    }
                }
                Take::Otherwise | Take::Band(_) | Take::RuledOut | Take::Never | Take::Perhaps => {}
            }
        }
        model.shows[turn].iter().for_each(|field| self.known[turn].put(*field));
        if !model.personal_asks[turn].is_empty() {
            model.consents.iter().for_each(|field| {
                self.known[turn].put(*field);
                self.asked[turn].put(*field);
            });
        }
        let mut asks = |field: usize| {
            self.known[turn].put(field);
            self.asked[turn].put(field);
            self.filled[turn].put(field);
        };
        match &node.kind {
            Kind::Ask(ask) => {
                asks(ask.field);
                if ask.if_known != IfKnown::Skip {
                    self.written[turn].put(ask.field);
                }
            }
            Kind::AskTogether(form) => {
                for wanted in &form.fields {
                    asks(wanted.field);
                    self.written[turn].put(wanted.field);
                }
            }
            Kind::OpenAsk(open) => {
                for field in &open.fields {
                    asks(*field);
                    self.written[turn].put(*field);
                }
            }
            Kind::ReadBack(back) => {
                for field in &back.fields {
                    asks(*field);
                    if model.may_be_known[*field] {
                        self.written[turn].put(*field);
                    }
                }
            }
            Kind::WorkOut(fills) => {
                for (field, formula) in fills {
                    self.written[turn].put(*field);
                    for key in formula.reads() {
                        if let Some(read) = model.field_by_key.get(key.as_str()) {
                            self.known[turn].put(*read);
                            if model.cells[*read].single {
                                self.value[turn].put(*read);
                            }
                        }
                    }
                }
            }
            Kind::FileLead(_) => {
                for (_, test, _) in &model.routes {
                    test.each_field(&mut |field| self.value[turn].put(field));
                }
                model.needs.iter().flatten().for_each(|field| self.known[turn].put(*field));
            }
            Kind::Broken(_) => model.may_fill[turn].iter().for_each(|field| self.written[turn].put(*field)),
            Kind::Tell(_) | Kind::Fork | Kind::Visit(_) | Kind::Close(_) => {}
        }
        if node.kind.asks() {
            model.volunteered.iter().for_each(|field| self.filled[turn].put(*field));
        }
    }
}

/// Turns that may come right after a turn.
pub(crate) fn successors(model: &Model<'_>, turn: usize) -> Vec<usize> {
    let plan = model.plan;
    let mut out = Vec::new();
    let mut todo = model.leads(turn);
    let mut ends = vec![false; plan.sections.len()];
    let mut entered = vec![false; plan.sections.len()];
    while let Some(next) = todo.pop() {
        match next {
            Next::Turn(index) => out.push(index),
            Next::GoTo(section) if !std::mem::replace(&mut entered[section], true) => {
                todo.push(plan.sections[section].entry);
            }
            Next::EndOf(section) if !std::mem::replace(&mut ends[section], true) => todo.extend(model.after(section)),
            Next::GoTo(_) | Next::EndOf(_) | Next::Close(_) | Next::Nowhere | Next::Wait => {}
        }
    }
    out.sort_unstable();
    out.dedup();
    out
}

/// Which turns can come round again: those on a circle of the graph (Tarjan's strongly connected components).
fn circles(after: &[Vec<usize>]) -> Vec<bool> {
    let groups = super::graph::components(after.len(), |turn| after[turn].iter().copied());
    let mut size = vec![0_usize; after.len()];
    groups.iter().for_each(|group| size[*group] += 1);
    (0..after.len()).map(|turn| size[groups[turn]] > 1 || after[turn].contains(&turn)).collect()
}
