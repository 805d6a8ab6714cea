//! Questions and fields: which come first, which decide nothing, which never end, what is captured on every way.

use std::collections::{BTreeMap, BTreeSet};

use lumbo_dialogue::plan::{Kind, ReadyWhen};

use super::super::explore::{End, Explorer};
use super::super::graph::{Edge, spans};
use super::Reach;
use crate::ledger::Captured;

impl Explorer<'_, '_> {
    /// What is said of questions: which come first, which ask again, which take nothing, which never end.
    pub(super) fn asking(&self, reach: &mut Reach, complete: bool) {
        let plan = self.model.plan;
        let found = &self.found;
        let count = found.nodes.len();
        let edges = self.edges();
        let mut first = vec![false; plan.turns.len()];
        for (node, span) in spans(count, &edges, &self.starts()).iter().enumerate() {
            let turn = found.nodes[node].turn;
            first[turn] |= span.is_some_and(|(least, _)| least == 0) && plan.turns[turn].kind.asks();
        }
        let ids = |among: &[bool]| -> Vec<String> {
            among.iter().zip(&plan.turns).filter(|(there, _)| **there).map(|(_, node)| node.id.clone()).collect()
        };
        reach.asked_first = ids(&first);
        let mut again: Vec<usize> = found.again.keys().copied().collect();
        again.sort_unstable();
        reach.asked_again = again.into_iter().map(|turn| plan.turns[turn].id.clone()).collect();
        for (turn, node) in plan.turns.iter().enumerate() {
            if let Kind::Ask(ask) = &node.kind
                && self.model.taken_at(turn, ask.field) == 0
                && !self.model.loose[ask.field]
            {
                reach.takes_nothing.push(node.id.clone());
            }
        }
        if complete {
            reach.changes_nothing = self.changes_nothing();
            reach.captured = self.captured();
            let back: Vec<Edge> = edges.iter().map(|(from, to, ..)| (*to, *from, 0, 0)).collect();
            let closing: Vec<_> = found
                .ends
                .iter()
                .filter(|(_, end, ..)| matches!(end, End::Closed(_)))
                .filter_map(|(from, ..)| from.map(|node| (node, (0, Some(0)))))
                .collect();
            let mut ends = vec![false; plan.turns.len()];
            for (node, span) in spans(count, &back, &closing).iter().enumerate() {
                ends[found.nodes[node].turn] |= span.is_some();
            }
            // What leads into the circle is not to blame; the circle is.
            let again = &self.model.live.again;
            let endless: Vec<bool> =
                (0..plan.turns.len()).map(|turn| found.turns[turn] && !ends[turn] && again[turn]).collect();
            reach.endless = ids(&endless);
        }
    }

    /// Asks whose answer nothing reads any more, or only a scorecard whose band is settled wherever they stand.
    pub(super) fn changes_nothing(&self) -> Vec<String> {
        let model = self.model;
        let bands = self.bands_ahead();
        let mut idle = Vec::new();
        for (turn, node) in model.plan.turns.iter().enumerate() {
            let Kind::Ask(ask) = &node.kind else { continue };
            let field = ask.field;
            if !self.found.turns[turn]
                || model.loose[field]
                || node.arms.iter().any(|arm| !matches!(arm.when, ReadyWhen::Never))
            {
                continue;
            }
            let after = model.plan.following(turn);
            if after.iter().any(|next| model.live.value[*next].has(field) || model.live.known[*next].has(field)) {
                continue;
            }
            let scored = model.cards.iter().any(|card| card.groups.iter().any(|group| group.fields.contains(&field)));
            let at: Vec<usize> =
                (0..self.found.nodes.len()).filter(|place| self.found.nodes[*place].turn == turn).collect();
            if !scored || at.iter().all(|place| bands[*place].len() <= 1) {
                idle.push(node.id.clone());
            }
        }
        idle
    }

    /// On which of the ways to a filing, or to an end where none is filed, each field is asked for or worked out.
    pub(super) fn captured(&self) -> BTreeMap<String, Captured> {
        let plan = self.model.plan;
        let count = self.found.nodes.len();
        let mut goals = vec![false; count];
        self.found.filings.iter().for_each(|filing| goals[filing.node] = true);
        if self.found.filings.is_empty() {
            self.found.ends.iter().filter_map(|(from, ..)| *from).for_each(|node| goals[node] = true);
        }
        let mut after: Vec<Vec<usize>> = vec![Vec::new(); count];
        self.found.edges.iter().for_each(|(from, to, ..)| after[*from].push(*to));
        let starts: Vec<usize> = self.starts().into_iter().map(|(node, _)| node).collect();
        // Whether a goal can be come to past turns of one sort only.
        let comes = |passes: &dyn Fn(usize) -> bool| {
            let mut seen = vec![false; count];
            let mut todo = starts.clone();
            while let Some(node) = todo.pop() {
                if std::mem::replace(&mut seen[node], true) || !passes(self.found.nodes[node].turn) {
                    continue;
                }
                if goals[node] {
                    return true;
                }
                todo.extend(&after[node]);
            }
            false
        };
        plan.file
            .fields
            .iter()
            .enumerate()
            .map(|(field, definition)| {
                let captures: Vec<bool> = plan.turns.iter().map(|node| captures(&node.kind, field)).collect();
                let met = self.found.nodes.iter().any(|node| captures[node.turn]);
                let captured = match (met, comes(&|turn| !captures[turn])) {
                    (false, _) => Captured::None,
                    (true, true) => Captured::Some,
                    (true, false) => Captured::Every,
                };
                (definition.key.clone(), captured)
            })
            .collect()
    }

    /// Bands that filings from each node on can give.
    pub(super) fn bands_ahead(&self) -> Vec<BTreeSet<Option<&str>>> {
        let mut ahead: Vec<BTreeSet<Option<&str>>> = vec![BTreeSet::new(); self.found.nodes.len()];
        for filing in &self.found.filings {
            ahead[filing.node].insert(filing.band.as_deref());
        }
        loop {
            let mut changed = false;
            for (from, to, ..) in &self.found.edges {
                if from != to {
                    let more = ahead[*to].clone();
                    let before = ahead[*from].len();
                    ahead[*from].extend(more);
                    changed |= ahead[*from].len() != before;
                }
            }
            if !changed {
                return ahead;
            }
        }
    }
}

/// True where a turn asks for a field or works it out.
fn captures(kind: &Kind, field: usize) -> bool {
    match kind {
        Kind::Ask(ask) => ask.field == field,
        Kind::AskTogether(form) => form.fields.iter().any(|wanted| wanted.field == field),
        Kind::OpenAsk(open) => open.fields.contains(&field),
        Kind::WorkOut(fills) => fills.iter().any(|(known, _)| *known == field),
        Kind::Tell(_)
        | Kind::ReadBack(_)
        | Kind::Fork
        | Kind::FileLead(_)
        | Kind::Visit(_)
        | Kind::Close(_)
        | Kind::Broken(_) => false,
    }
}
