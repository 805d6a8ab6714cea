//! File lead: what a filing comes to, which queues it can name, and its arms.

use std::collections::BTreeSet;
use std::rc::Rc;

use lumbo_dialogue::plan::Next;
use lumbo_route::Goes;

use super::super::cells::{MISSING, Mask};
use super::super::explore::{Filing, Set};
use super::super::model::Take;
use super::super::score::{Cloud, Final, Seen};
use super::super::test::Filed;
use super::{Exit, Kinds, Leaving, Move};

/// Most pieces into which a filing is cut.
const MOST_PIECES: usize = 128;

impl Leaving<'_, '_, '_> {
    /// Where an arm waits for leads that lack something, only what is complete is filed.
    pub(super) fn file(&mut self, card: Option<usize>) {
        let model = self.model;
        let Some(arm) = model.takes[self.turn].iter().position(|take| matches!(take, Take::Lacks)) else {
            return self.filing(card);
        };
        let (complete, lacking) = model.complete(self.cells());
        let entry = model.plan.turns[self.turn].arms[arm].entry;
        for cells in lacking {
            let cells: Rc<[Mask]> = cells.into();
            self.put(Exit::Passed, Some(arm), Rc::clone(&cells), cells, entry, 0);
        }
        self.explorer.found.arm_fails[self.turn][arm] |= !complete.is_empty();
        for cells in complete {
            let set =
                Set { cells: cells.into(), added: Rc::clone(&self.set.added), clouds: Rc::clone(&self.set.clouds) };
            let (node, turn, visits) = (self.node, self.turn, self.visits);
            let mut filing =
                Leaving { explorer: &mut *self.explorer, model, node, turn, visits, set: &set, out: Vec::new() };
            filing.filing(card);
            let out = filing.out;
            self.out.extend(out);
        }
    }

    fn filing(&mut self, card: Option<usize>) {
        let model = self.model;
        let set = self.set;
        for field in &model.consents {
            if !model.loose[*field] && set.cells[*field] & MISSING != 0 {
                self.explorer.found.unsettled.entry((self.turn, *field)).or_insert(self.node);
            }
        }
        for (place, need) in model.needs.iter().enumerate() {
            let followed = need.iter().all(|field| !model.loose[*field]);
            if followed && need.iter().all(|field| set.cells[*field] & MISSING != 0) {
                self.explorer.found.lacks.entry((self.turn, place)).or_insert(self.node);
            }
        }
        let pieces = match card {
            Some(card) => {
                self.explorer.found.filed_by[card] = true;
                self.explorer.see_filed(set, card);
                self.pieces(card)
            }
            None => vec![(self.cells(), Cloud::default())],
        };
        let mut filings: Vec<Filing> = Vec::new();
        for (cells, adds) in &pieces {
            for one in self.finals(card, adds) {
                let band = self.band_id(card, &one);
                let queues = self.queues(cells, band.clone(), one.low, one.high);
                // Points are joined where the band is the same, so that few filings are kept.
                match filings.iter_mut().find(|known| known.band == band && known.out == one.out) {
                    Some(known) => {
                        (known.low, known.high) = (known.low.min(one.low), known.high.max(one.high));
                        known.queues.extend(queues);
                    }
                    None => filings.push(Filing {
                        node: self.node,
                        band,
                        out: one.out,
                        low: one.low,
                        high: one.high,
                        queues,
                        card,
                    }),
                }
            }
        }
        let kinds: Vec<Kinds> = filings.iter().map(|filing| (filing.band.clone(), filing.out)).collect();
        self.explorer.found.filings.extend(filings);
        self.filed_arms(card, &pieces, &kinds);
    }

    /// What a filing comes to for a piece, once what its groups give is added.
    pub(super) fn finals(&self, card: Option<usize>, adds: &Cloud) -> BTreeSet<Final> {
        match card {
            Some(card) => {
                let cloud = adds.plus(&self.set.clouds[card]);
                self.model.cards[card].finals(&cloud, &self.model.plan.cards[card])
            }
            None => BTreeSet::from([Final { band: None, out: false, low: 0, high: 0 }]),
        }
    }

    pub(super) fn band_id(&self, card: Option<usize>, one: &Final) -> Option<String> {
        let card = &self.model.cards[card?];
        one.band.and_then(|band| card.band(band)).map(str::to_owned)
    }

    /// Queues that rules can name, and which rules can hold.
    pub(super) fn queues(
        &mut self,
        cells: &[Mask],
        band: Option<String>,
        low: i64,
        high: i64,
    ) -> BTreeSet<Option<String>> {
        let model = self.model;
        let filed = Filed { band, low, high };
        let mut queues = BTreeSet::new();
        let mut rest = vec![cells.to_vec()];
        for (place, (_, test, goes)) in model.routes.iter().enumerate() {
            let mut fails = Vec::new();
            for piece in &rest {
                let (held, failed) = test.split(piece, Some(&filed));
                fails.extend(failed);
                if held.is_empty() {
                    continue;
                }
                self.explorer.found.routes[place] = true;
                match goes {
                    Goes::Queue(queue) => queues.insert(Some((*queue).to_owned())),
                    // What is on file of a firm may be anything.
                    Goes::QueueOfFirm(queue) => {
                        fails.extend(held);
                        queues.insert(Some((*queue).to_owned()))
                    }
                    // Any queue of the table, or none: the rules go on.
                    Goes::Table { table, .. } => {
                        fails.extend(held);
                        queues.insert(Some(format!("territories {table}")))
                    }
                };
            }
            rest = fails;
        }
        if !rest.is_empty() {
            queues.insert(model.plan.routes.otherwise().map(str::to_owned));
        }
        queues
    }

    /// The arms of a filing, by band, by being ruled out, and by conditions.
    pub(super) fn filed_arms(&mut self, card: Option<usize>, pieces: &[(Vec<Mask>, Cloud)], kinds: &[Kinds]) {
        let by_band = |take: &Take| matches!(take, Take::Band(_) | Take::RuledOut);
        match card.filter(|_| self.model.takes[self.turn].iter().any(by_band)) {
            Some(card) => {
                for (cells, adds) in pieces {
                    let kinds: BTreeSet<Kinds> = self
                        .finals(Some(card), adds)
                        .iter()
                        .map(|one| (self.band_id(Some(card), one), one.out))
                        .collect();
                    self.piece_arms(cells.clone(), &kinds.into_iter().collect::<Vec<_>>(), Some((card, adds)));
                }
            }
            None => self.piece_arms(self.cells(), kinds, None),
        }
    }

    /// The cells at a filing, cut so that each piece says what its groups give that are not added up yet.
    pub(super) fn pieces(&mut self, card: usize) -> Vec<(Vec<Mask>, Cloud)> {
        let model = self.model;
        let scorecard = &model.cards[card];
        let mut pieces = vec![(self.cells(), scorecard.zero())];
        for group in self.explorer.not_added(self.set, card) {
            let group = &scorecard.groups[group];
            let mut next: Vec<(Vec<Mask>, Cloud)> = Vec::new();
            for (cells, sums) in &pieces {
                for at in scorecard.combinations(group, cells, model).unwrap_or_else(|| vec![cells.clone()]) {
                    let gives = scorecard.gives(group, &at, model, &mut Seen::default());
                    next.push((at, gives.plus(sums)));
                }
            }
            pieces = joined(next);
            if pieces.len() > MOST_PIECES {
                return self.in_one(card);
            }
        }
        pieces
    }

    /// Too many pieces to keep apart: all together, with whatever they may give.
    pub(super) fn in_one(&self, card: usize) -> Vec<(Vec<Mask>, Cloud)> {
        let model = self.model;
        let mut sums = model.cards[card].zero();
        for group in self.explorer.not_added(self.set, card) {
            sums = model.cards[card]
                .gives(&model.cards[card].groups[group], &self.set.cells, model, &mut Seen::default())
                .plus(&sums);
        }
        vec![(self.cells(), sums)]
    }

    pub(super) fn piece_arms(&mut self, cells: Vec<Mask>, kinds: &[Kinds], narrow: Option<(usize, &Cloud)>) {
        let turn = &self.model.plan.turns[self.turn];
        let mut rest: Vec<(Vec<Mask>, Vec<Kinds>)> = vec![(cells, kinds.to_vec())];
        for (arm, take) in self.model.takes[self.turn].iter().enumerate() {
            let mut after: Vec<(Vec<Mask>, Vec<Kinds>)> = Vec::new();
            for (cells, kinds) in rest {
                let by_kind = |holds: &dyn Fn(&Kinds) -> bool| {
                    let (held, failed): (Vec<_>, Vec<_>) = kinds.iter().cloned().partition(|kind| holds(kind));
                    (vec![(cells.clone(), held)], vec![(cells.clone(), failed)])
                };
                let (held, failed) = match take {
                    Take::Band(ids) => by_kind(&|(band, _)| band.as_ref().is_some_and(|band| ids.contains(band))),
                    Take::RuledOut => by_kind(&|(_, out)| *out),
                    Take::Otherwise => (vec![(cells.clone(), kinds.clone())], Vec::new()),
                    Take::Holds(test) => {
                        let (held, failed) = test.split(&cells, None);
                        let with =
                            |pieces: Vec<Vec<Mask>>| pieces.into_iter().map(|piece| (piece, kinds.clone())).collect();
                        (with(held), with(failed))
                    }
                    Take::Perhaps => (vec![(cells.clone(), kinds.clone())], vec![(cells.clone(), kinds.clone())]),
                    Take::Options(_) | Take::Lacks | Take::Never => (Vec::new(), vec![(cells.clone(), kinds.clone())]),
                };
                for (cells, kinds) in held.into_iter().filter(|(_, kinds)| !kinds.is_empty()) {
                    self.filed(Some(arm), cells, &kinds, turn.arms[arm].entry, narrow);
                }
                after.extend(failed.into_iter().filter(|(_, kinds)| !kinds.is_empty()));
            }
            if !after.is_empty() {
                self.explorer.found.arm_fails[self.turn][arm] = true;
            }
            rest = after;
        }
        for (cells, kinds) in rest {
            self.filed(None, cells, &kinds, turn.next, narrow);
        }
    }

    pub(super) fn filed(
        &mut self,
        arm: Option<usize>,
        cells: Vec<Mask>,
        kinds: &[Kinds],
        next: Next,
        narrow: Option<(usize, &Cloud)>,
    ) {
        let clouds = narrow.map(|(card, adds)| {
            let mut clouds: Vec<Rc<Cloud>> = self.set.clouds.to_vec();
            let model = &self.model.cards[card];
            clouds[card] = model.only(&clouds[card], adds, &self.model.plan.cards[card], |one| {
                let band = one.band.and_then(|band| model.band(band));
                kinds.iter().any(|(known, out)| known.as_deref() == band && *out == one.out)
            });
            clouds.into()
        });
        let cells: Rc<[Mask]> = cells.into();
        let visits = self.visits.clone();
        let (before, after) = (Rc::clone(&cells), cells);
        self.out.push(Move { exit: Exit::Filed, arm, before, after, next, clouds, questions: 0, visits });
    }
}

/// Pieces that give the same and differ in one field, put together.
fn joined(pieces: Vec<(Vec<Mask>, Cloud)>) -> Vec<(Vec<Mask>, Cloud)> {
    let mut by_sums: Vec<(Cloud, Vec<Vec<Mask>>)> = Vec::new();
    for (cells, sums) in pieces {
        match by_sums.iter_mut().find(|(known, _)| *known == sums) {
            Some((_, all)) => all.push(cells),
            None => by_sums.push((sums, vec![cells])),
        }
    }
    by_sums
        .into_iter()
        .flat_map(|(sums, all)| super::super::test::union(all).into_iter().map(move |cells| (cells, sums.clone())))
        .collect()
}
