//! How conversations end, and what is filed on the way: points, bands, queues, questions, each with a conversation that
//! does it.

use std::collections::{BTreeMap, BTreeSet};

use lumbo_dialogue::talk::{Event, State};

use super::super::explore::{End, Explorer, Filing};
use super::super::graph::{Edge, spans};
use super::super::score::{Cloud, Sums, endless};
use super::super::witness::Goal;
use super::{Confirm, Questions, Reach, Row, Span, wider};

impl Explorer<'_, '_> {
    pub(super) fn outcomes(&self, reach: &mut Reach, confirmed: &mut Confirm<'_>) {
        let plan = self.model.plan;
        let spans = spans(self.found.nodes.len(), &self.edges(), &self.starts());
        let card = plan.default_card;
        let mut rows: BTreeMap<End, (Option<Questions>, Vec<usize>)> = BTreeMap::new();
        for (from, end, questions, part) in &self.found.ends {
            let (row, parts) = rows.entry(end.clone()).or_default();
            let span = match from {
                Some(node) => spans[*node].map(|(least, most)| Questions {
                    least: least + questions,
                    most: most.map(|most| most + questions),
                }),
                None => Some(Questions { least: 0, most: Some(0) }),
            };
            *row = wider(*row, span);
            parts.push(*part);
        }
        let mut all: Option<(i64, i64, bool)> = None;
        for (end, (questions, parts)) in rows {
            reach.questions = wider(reach.questions, questions);
            let outcome = match &end {
                End::Closed(outcome) => outcome.clone(),
                End::Fell => String::new(),
            };
            let ended = |state: &State| state.closed.as_deref() == Some(outcome.as_str());
            let mut span = None;
            let mut witness = None;
            if let Some(card) = card {
                let totals = |part: &usize| -> Vec<(i64, Sums)> {
                    let cloud = &self.found.parts[*part].set.clouds[card];
                    cloud.sums.iter().map(|sums| (self.model.cards[card].total(sums), sums.clone())).collect()
                };
                let every: Vec<(i64, usize, Sums)> = parts
                    .iter()
                    .flat_map(|part| totals(part).into_iter().map(|(total, sums)| (total, *part, sums)))
                    .collect();
                let low = every.iter().min_by_key(|one| one.0);
                let high = every.iter().max_by_key(|one| one.0);
                if let (Some(low), Some(high)) = (low, high) {
                    let mut reached = true;
                    for (total, part, sums) in [low, high] {
                        let found = confirmed(&Goal::Part(*part, Some((card, sums.clone()))), &|_, state| {
                            ended(state) && state.points == *total
                        });
                        reached &= found.is_some();
                        witness = witness.or(found);
                    }
                    all = Some(all.map_or((low.0, high.0, reached), |(l, h, exact)| {
                        (l.min(low.0), h.max(high.0), exact && reached)
                    }));
                    span = Some(ends(low.0, high.0, reached));
                }
            }
            let witness = witness.or_else(|| confirmed(&Goal::Part(*parts.first()?, None), &|_, state| ended(state)));
            if let End::Closed(key) = end {
                reach.outcomes.push(Row { key, questions, score: span, witness });
            }
        }
        reach.score = all.map(|(low, high, exact)| ends(low, high, exact));
    }

    pub(super) fn filings(&self, reach: &mut Reach, confirmed: &mut Confirm<'_>) {
        let plan = self.model.plan;
        let count = self.found.nodes.len();
        let edges = self.edges();
        let before = spans(count, &edges, &self.starts());
        let back: Vec<Edge> = edges.iter().map(|(from, to, least, most)| (*to, *from, *least, *most)).collect();
        let mut closing: BTreeMap<usize, (u32, Option<u32>)> = BTreeMap::new();
        for (from, _, questions, _) in &self.found.ends {
            if let Some(node) = from {
                let entry = closing.entry(*node).or_insert((*questions, Some(*questions)));
                entry.0 = entry.0.min(*questions);
                entry.1 = entry.1.map(|most| most.max(*questions));
            }
        }
        let after = spans(count, &back, &closing.into_iter().collect::<Vec<_>>());
        let mut bands: BTreeMap<String, Vec<&Filing>> = BTreeMap::new();
        let mut queues: BTreeMap<String, Vec<&Filing>> = BTreeMap::new();
        for filing in &self.found.filings {
            let band = if filing.out { Some("ruled_out") } else { filing.band.as_deref() };
            if let Some(band) = band {
                bands.entry(band.to_owned()).or_default().push(filing);
            }
            for queue in &filing.queues {
                queues.entry(queue.clone().unwrap_or_else(|| "none".to_owned())).or_default().push(filing);
            }
        }
        let questions = |filings: &[&Filing]| {
            filings.iter().fold(None, |all, filing| {
                let span = before[filing.node].zip(after[filing.node]).map(|(one, two)| Questions {
                    least: one.0 + two.0,
                    most: one.1.zip(two.1).map(|(one, two)| one + two),
                });
                wider(all, span)
            })
        };
        for (key, filings) in bands {
            let out = key == "ruled_out";
            let did = |total: Option<i64>| {
                let key = key.clone();
                move |events: &[Event], _: &State| {
                    events.iter().any(|event| match event {
                        Event::Filed { score: Some(score), .. } => {
                            let band =
                                if out { !score.rule_outs.is_empty() } else { score.band.as_deref() == Some(&key) };
                            band && total.is_none_or(|total| score.total == total)
                        }
                        _ => false,
                    })
                }
            };
            let low = filings.iter().min_by_key(|filing| filing.low);
            let high = filings.iter().max_by_key(|filing| filing.high);
            let (mut witness, mut span) = (None, None);
            if let (Some(low), Some(high)) = (low, high) {
                let mut reached = true;
                for (filing, total) in [(low, low.low), (high, high.high)] {
                    let Some(card) = filing.card else { continue };
                    let model = &self.model.cards[card];
                    let fits = |sums: &Sums| {
                        let one = Cloud { sums: BTreeSet::from([sums.clone()]), loose: false };
                        model.finals(&one, &plan.cards[card]).iter().any(|one| {
                            one.low == total
                                && one.out == filing.out
                                && one.band.and_then(|band| model.band(band)) == filing.band.as_deref()
                        })
                    };
                    let found = confirmed(&Goal::Filing(filing.node, card, &fits), &did(Some(total)));
                    reached &= found.is_some();
                    witness = witness.or(found);
                }
                span = Some(ends(low.low, high.high, reached));
            }
            reach.bands.push(Row { key: key.clone(), questions: questions(&filings), score: span, witness });
        }
        for (key, filings) in queues {
            let low = filings.iter().map(|filing| filing.low).min().unwrap_or(0);
            let high = filings.iter().map(|filing| filing.high).max().unwrap_or(0);
            let card = filings.iter().any(|filing| filing.card.is_some());
            let score = card.then(|| ends(low, high, false));
            reach.queues.push(Row { key, questions: questions(&filings), score, witness: None });
        }
    }
}

fn ends(low: i64, high: i64, exact: bool) -> Span {
    let end = |points: i64| (!endless(points)).then_some(points);
    Span { low: end(low), high: end(high), exact: exact && !endless(low) && !endless(high) }
}
