//! What may still be read from each turn on (liveness, as compilers compute it), so that the exploration can forget
//! what nothing reads any more. What may still be written is a table of the plan.

use lumbo_dialogue::plan::{Fields, Kind};
use lumbo_route::Goes;

use super::model::{Model, Take};

/// For each turn, what it and everything that may come after it does with the fields.
#[derive(Debug, Default)]
pub(crate) struct Live {
    /// Compared by value.
    pub value: Vec<Fields>,
    /// Read for whether it is known: asked, shown, needed.
    pub known: Vec<Fields>,
    /// Asked by a turn, so that the reason why it is missing matters.
    pub asked: Vec<Fields>,
    /// True where the turn can come round again.
    pub again: Vec<bool>,
}

impl Live {
    pub fn of(model: &Model<'_>) -> Self {
        let plan = model.plan;
        let count = plan.turns.len();
        let mut live = Self {
            value: vec![model.no_fields(); count],
            known: vec![model.no_fields(); count],
            asked: vec![model.no_fields(); count],
            again: vec![false; count],
        };
        (0..count).for_each(|turn| live.itself(model, turn));
        let after: Vec<Vec<usize>> = (0..count).map(|turn| plan.following(turn)).collect();
        loop {
            let mut changed = false;
            for turn in (0..count).rev() {
                for next in &after[turn] {
                    for set in [&mut live.value, &mut live.known, &mut live.asked] {
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
                Take::Otherwise | Take::Band(_) | Take::RuledOut | Take::Lacks | Take::Never | Take::Perhaps => {}
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
        };
        match &node.kind {
            Kind::Ask(ask) => asks(ask.field),
            Kind::AskTogether(form) => form.fields.iter().for_each(|wanted| asks(wanted.field)),
            Kind::OpenAsk(open) => open.fields.iter().for_each(|field| asks(*field)),
            Kind::ReadBack(back) => back.fields.iter().for_each(|field| asks(*field)),
            Kind::WorkOut(fills) => {
                for (_, formula) in fills {
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
                for (_, test, goes) in &model.routes {
                    test.each_field(&mut |field| self.value[turn].put(field));
                    // The table's queue differs by it, and nothing else does.
                    if let Goes::Table { field, .. } = goes
                        && let Some(field) = model.plan.field_place(field)
                    {
                        self.value[turn].put(field);
                    }
                }
                model.needs.iter().flatten().for_each(|field| self.known[turn].put(*field));
                model.consents.iter().for_each(|field| self.known[turn].put(*field));
            }
            Kind::Broken(_) | Kind::Tell(_) | Kind::Fork | Kind::Visit(_) | Kind::Close(_) => {}
        }
    }
}

/// Which turns can come round again: those on a circle of the graph (Tarjan's strongly connected components).
fn circles(after: &[Vec<usize>]) -> Vec<bool> {
    let groups = super::graph::components(after.len(), |turn| after[turn].iter().copied());
    let mut size = vec![0_usize; after.len()];
    groups.iter().for_each(|group| size[*group] += 1);
    (0..after.len()).map(|turn| size[groups[turn]] > 1 || after[turn].contains(&turn)).collect()
}
