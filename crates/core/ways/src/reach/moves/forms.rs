//! Ask together, Open ask and Read back.

use lumbo_dialogue::plan::{FormNode, OpenNode, ReadBackNode, ReadyWayOut};

use super::super::cells::{MISSING, Mask, NOT_ASKED, TRIED};
use super::{Exit, Leaving};

impl Leaving<'_, '_, '_> {
    /// Cells for which all fields are known, and those for which one is not.
    pub(super) fn all_known(&self, fields: &[usize]) -> (Option<Vec<Mask>>, Vec<Vec<Mask>>) {
        let mut known = self.cells();
        let mut missing = Vec::new();
        for field in fields {
            let mask = known[*field];
            if self.model.loose[*field] {
                missing.push(known.clone());
                continue;
            }
            if mask & MISSING != 0 {
                let mut lacking = known.clone();
                lacking[*field] = mask & MISSING;
                missing.push(lacking);
            }
            known[*field] = mask & !MISSING;
            if known[*field] == 0 {
                return (None, missing);
            }
        }
        (Some(known), missing)
    }

    pub(super) fn form(&mut self, form: &FormNode) {
        let model = self.model;
        let next = model.plan.turns[self.turn].next;
        let fields: Vec<usize> = form.fields.iter().map(|wanted| wanted.field).collect();
        let (known, missing) = self.all_known(&fields);
        if let Some(known) = known {
            self.pair(Exit::Known, (known.clone(), known), next, 0);
        }
        for before in missing {
            let (mut sent, mut tried) = (before.clone(), before.clone());
            for wanted in &form.fields {
                let field = wanted.field;
                if model.loose[field] {
                    continue;
                }
                let taken = model.taken_at(self.turn, field);
                let stays = before[field] & !MISSING;
                let left = model.left_at(self.turn, field);
                let empty = if before[field] & MISSING != 0 { left } else { 0 };
                sent[field] = taken | if wanted.reader.required() { 0 } else { stays | empty };
                tried[field] = taken | stays | if before[field] & MISSING != 0 { left | TRIED } else { 0 };
            }
            if fields.iter().all(|field| sent[*field] != 0) {
                self.pair(Exit::Form, (before.clone(), sent), next, 1);
            }
            let out = if let ReadyWayOut::Go(next) = form.way_out { next } else { next };
            self.pair(Exit::FormTried, (before.clone(), tried), out, 1);
            self.away(&before, 1, None);
        }
    }

    pub(super) fn open(&mut self, open: &OpenNode) {
        let model = self.model;
        let next = model.plan.turns[self.turn].next;
        let (known, missing) = self.all_known(&open.fields);
        if let Some(known) = known {
            self.pair(Exit::Known, (known.clone(), known), next, 0);
        }
        for before in missing {
            let mut after = before.clone();
            for field in &open.fields {
                if !model.loose[*field] {
                    let reason = if before[*field] & MISSING != 0 { model.left_at(self.turn, *field) } else { 0 };
                    after[*field] = before[*field] & !MISSING | model.taken_anywhere(*field) | reason;
                }
            }
            self.besides(&mut after, None);
            let lacking = open.fields.iter().filter(|field| before[**field] & MISSING != 0).count();
            let most = 1 + u32::try_from(if open.together { lacking.min(1) } else { lacking }).unwrap_or(u32::MAX);
            // Everything may be said at once, or asked for one by one; a call away may come in between.
            self.pair(Exit::Opened, (before.clone(), after.clone()), next, 1);
            if let Some(last) = self.out.last_mut() {
                last.questions = most;
            }
            self.pair(Exit::Opened, (before.clone(), after.clone()), next, 1);
            if !model.away.is_empty() {
                let mut between = after;
                open.fields.iter().for_each(|field| {
                    if !model.loose[*field] {
                        between[*field] |= before[*field];
                    }
                });
                for (talk, next) in model.away.clone() {
                    self.pair(Exit::Away(talk), (before.clone(), between.clone()), next, 1);
                    self.pair(Exit::Away(talk), (before.clone(), between.clone()), next, most);
                }
            }
        }
    }

    pub(super) fn read_back(&mut self, back: &ReadBackNode) {
        let model = self.model;
        let before = self.cells();
        let mut after = before.clone();
        for field in &back.fields {
            if model.loose[*field] || model.plan.worked_out[*field] {
                continue;
            }
            // What was answered is changed by a revision, which is not looked at; what was never asked can be filled
            // here, and what the site knew can be put right.
            if before[*field] & NOT_ASKED != 0 || model.plan.changes.may_be_known[*field] {
                after[*field] |= model.taken_anywhere(*field);
            }
        }
        let next = model.plan.turns[self.turn].next;
        self.pair(Exit::AllRight, (before.clone(), after), next, 1);
        self.away(&before, 1, None);
    }
}
