//! Ask: what is known, an answer in every arm, leaving without one.

use lumbo_dialogue::plan::{AskNode, Kind, ReadyWayOut};
use lumbo_dialogue::turns::IfKnown;

use super::super::cells::{FORGOTTEN, LEFT, LEFT_ALL, MISSING, Mask, NOT_ASKED, TRIED, left_at};
use super::{Exit, Leaving, Pair};

impl Leaving<'_, '_, '_> {
    pub(super) fn ask(&mut self, ask: &AskNode) {
        let (model, field) = (self.model, ask.field);
        let cells = self.cells();
        let taken = model.taken_at(self.turn, field);
        let written = self.written(field);
        let known = cells[field] & !MISSING;
        if known != 0 {
            let mut before = cells.clone();
            before[field] = if model.loose[field] { FORGOTTEN } else { known };
            if ask.if_known == IfKnown::Skip {
                self.arms(Exit::Known, vec![(before.clone(), before)], 0);
            } else {
                if ask.if_known == IfKnown::Ask && !model.loose[field] {
                    self.explorer.found.again.entry(self.turn).or_insert(self.node);
                }
                self.arms(Exit::Confirmed, vec![(before.clone(), before.clone())], 1);
                let mut after = before.clone();
                after[field] = if model.loose[field] { FORGOTTEN } else { taken };
                self.besides(&mut after, Some(field));
                self.arms_of(&Exit::Answered, vec![(before.clone(), after)], &written, 1);
                let mut after = before.clone();
                self.besides(&mut after, Some(field));
                self.leave_ask(ask, (before.clone(), after), true);
                if !ask.held {
                    self.away(&before, 1, Some(field));
                }
            }
        }
        if model.loose[field] {
            if ask.if_known == IfKnown::Skip {
                self.arms_of(&Exit::Answered, vec![(cells.clone(), cells.clone())], &written, 1);
            }
            self.leave_ask(ask, (cells.clone(), cells.clone()), true);
            if !ask.held {
                self.away(&cells, 1, Some(field));
            }
            return;
        }
        let mine = model.left_at(self.turn, field);
        let elsewhere = cells[field] & LEFT & !if mine == LEFT_ALL { 0 } else { mine };
        if elsewhere != 0 {
            self.left_before(ask, &cells, elsewhere);
        }
        let asked = NOT_ASKED | TRIED | mine;
        let missing = cells[field] & asked;
        if missing == 0 {
            return;
        }
        let mut before = cells;
        before[field] = missing;
        if taken != 0 {
            let mut after = before.clone();
            after[field] = taken;
            self.besides(&mut after, Some(field));
            self.arms_of(&Exit::Answered, vec![(before.clone(), after)], &written, 1);
        }
        let mut after = before.clone();
        self.besides(&mut after, Some(field));
        self.leave_ask(ask, (before.clone(), after), false);
        if !ask.held {
            self.away(&before, 1, Some(field));
        }
    }

    /// A field that another turn left open is not asked for a second time: skipped there, it goes on; declined there,
    /// it takes the way out, unless a skip is on offer.
    pub(super) fn left_before(&mut self, ask: &AskNode, cells: &[Mask], elsewhere: Mask) {
        let (model, turn, field) = (self.model, self.turn, ask.field);
        let others = model.askers[field].iter().enumerate().filter(|(_, asker)| asker.turn != turn);
        let left: Vec<_> = others
            .filter(|(order, _)| elsewhere & (left_at(*order) | LEFT_ALL) != 0)
            .map(|(_, asker)| *asker)
            .collect();
        let mut pair = (cells.to_vec(), cells.to_vec());
        pair.0[field] = elsewhere;
        // Who ran out of tries at an Open ask is asked again by the turn after the next.
        let open = left.iter().any(|asker| matches!(model.plan.turns[asker.turn].kind, Kind::OpenAsk(_)));
        pair.1[field] = LEFT_ALL | if open { TRIED } else { 0 };
        let declined = left.iter().any(|asker| asker.declines);
        if left.iter().any(|asker| asker.skips) || declined && ask.skip.is_some() {
            self.pair(Exit::LeftBefore, pair.clone(), model.plan.turns[turn].next, 0);
        }
        if declined && ask.skip.is_none() {
            self.way_out(&Exit::LeftBefore, ask, pair, 0);
        }
    }

    /// An ask that ends without an answer; `keeps` where a value that is known stays.
    pub(super) fn leave_ask(&mut self, ask: &AskNode, pair: Pair, keeps: bool) {
        let next = self.model.plan.turns[self.turn].next;
        let field = ask.field;
        let left = self.model.left_at(self.turn, field);
        let with = |reason: Mask| {
            let mut pair = pair.clone();
            if !keeps {
                pair.1[field] = reason;
            }
            pair
        };
        // Where an answer is required, declining costs a try like any other reply.
        if ask.skip.is_some() {
            self.pair(Exit::Left, with(left), next, 1);
        } else if !ask.reader.required() {
            self.way_out(&Exit::Left, ask, with(left), 1);
        }
        self.way_out(&Exit::Tried, ask, with(TRIED), 1);
    }

    pub(super) fn way_out(&mut self, exit: &Exit, ask: &AskNode, pair: Pair, questions: u32) {
        let turn = &self.model.plan.turns[self.turn];
        match ask.way_out {
            ReadyWayOut::GoOn => self.pair(exit.clone(), pair, turn.next, questions),
            ReadyWayOut::Go(next) => self.pair(exit.clone(), pair, next, questions),
            ReadyWayOut::Arm(arm) => match turn.arms.get(arm) {
                Some(taken) => self.put(exit.clone(), Some(arm), pair.0.into(), pair.1.into(), taken.entry, questions),
                None => self.pair(exit.clone(), pair, turn.next, questions),
            },
        }
    }
}
