//! What the exploration found, said by ids.

use std::collections::{BTreeMap, BTreeSet, HashMap};

use jiff::Timestamp;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use lumbo_dialogue::Plan;
use lumbo_dialogue::plan::{Kind, ReadyWhen};
use lumbo_dialogue::talk::{Event, State};

use super::cells::{FORGOTTEN, MISSING};
use super::explore::{End, Explorer, Filing};
use super::graph::{Edge, spans};
use super::model::{Model, Take};
use super::score::{Sums, endless};
use super::witness::{Goal, Witness};
use crate::ledger::Captured;

/// Most fields that are made loose to keep the budget, a few at a time.
const MOST_LOOSE_ROUNDS: usize = 12;
/// Most witnesses that are looked for.
const MOST_WITNESSES: usize = 60;

/// Everything that can happen, from the first turn on.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Reach {
    /// Turns that no conversation comes to, by id.
    pub turns_never: Vec<String>,
    /// Sections that no conversation enters, by id.
    pub sections_never: Vec<String>,
    /// Arms that are never taken, by id; those of turns that nobody comes to are left out.
    pub arms_never: Vec<String>,
    /// Arms on a condition that always holds where they are come to, by id.
    pub arms_always: Vec<String>,
    /// Criteria, must-haves and rule-outs that nobody can meet, by id.
    pub criteria_never: Vec<String>,
    /// Criteria, must-haves and rule-outs that everybody meets, by id.
    pub criteria_always: Vec<String>,
    /// Routing rules that never hold, by id.
    pub routes_never: Vec<String>,
    /// Values that may be missing where they are shown.
    pub gaps: Vec<Gap>,
    /// What a formula reads and may lack where it is worked out.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub lacking: Vec<Gap>,
    /// Personal fields that may be asked for before any consent was.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub before_consent: Vec<Gap>,
    /// Turns that ask for what is known already, by id.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub asked_again: Vec<String>,
    /// Turns whose question can be the first, by id.
    pub asked_first: Vec<String>,
    /// Asks whose answer can change no band, queue, outcome, arm, text, formula or need from where they stand, by id.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub changes_nothing: Vec<String>,
    /// Turns on a circle from which only the closing fallback ends the conversation, by id.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub endless: Vec<String>,
    /// Asks that take no reply at all, by id.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub takes_nothing: Vec<String>,
    /// What a lead must carry and may lack where it is filed.
    pub lacks: Vec<Gap>,
    /// On which ways each field is captured, by key; empty where too much can happen to tell.
    pub captured: BTreeMap<String, Captured>,
    /// Ways to end, by outcome.
    pub outcomes: Vec<Row>,
    /// Bands that a filing can give, by id; `ruled_out` where a rule-out holds.
    pub bands: Vec<Row>,
    /// Queues that a filing can name; `none` for no queue.
    pub queues: Vec<Row>,
    /// Points by the default scorecard at the end of a conversation.
    pub score: Option<Span>,
    /// Questions on one conversation; nothing where none ends.
    pub questions: Option<Questions>,
    /// What was not followed in full, and why.
    pub over: Vec<Over>,
    /// Pieces that were looked at, a measure of the work.
    pub pieces: usize,
}

/// Lowest and highest points.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Span {
    /// Lowest; absent where there is no end.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub low: Option<i64>,
    /// Highest; absent where there is no end.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub high: Option<i64>,
    /// True where conversations that the engine held reach both ends.
    pub exact: bool,
}

/// Fewest and most questions.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Questions {
    /// Fewest.
    pub least: u32,
    /// Most; absent where a circle has no end of its own.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub most: Option<u32>,
}

/// One outcome, band or queue.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Row {
    /// Its id or key.
    pub key: String,
    /// Questions on a conversation that comes to it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub questions: Option<Questions>,
    /// Points: at the end for outcomes, at the filing for bands and queues.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub score: Option<Span>,
    /// A conversation that comes to it, held with the engine.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub witness: Option<Witness>,
}

/// A value that may be missing where it is needed.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Gap {
    /// The turn's id.
    pub turn: String,
    /// The fields, by key: one, or the alternatives of which none is there.
    pub fields: Vec<String>,
    /// A conversation that comes there without it, held with the engine.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub witness: Option<Witness>,
}

/// What was not followed in full.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Over {
    /// A field's key, or a turn's id.
    pub at: String,
    /// Why, in words.
    pub why: String,
}

/// Computes everything that can happen; nothing where it was overtaken meanwhile.
///
/// ```
/// use lumbo_dialogue::{Plan, file::load};
/// use lumbo_ways::reach::reach;
/// let demo = load(include_str!("../../../../../demo/storage-enquiry.json")).unwrap();
/// let (plan, _) = Plan::new(&demo);
/// let reach = reach(&plan, "2026-11-23T09:00:00Z".parse().unwrap(), &|| false).unwrap();
/// assert!(reach.turns_never.is_empty() && reach.arms_never.is_empty());
/// ```
#[must_use]
pub fn reach(plan: &Plan, now: Timestamp, overtaken: &dyn Fn() -> bool) -> Option<Reach> {
    let mut loose: Vec<usize> = Vec::new();
    for round in 0..=MOST_LOOSE_ROUNDS {
        let model = Model::new(plan, now, &loose);
        let mut explorer = Explorer::new(&model, overtaken);
        if !plan.sections.is_empty() {
            let cells = explorer.at_first();
            explorer.run(lumbo_dialogue::plan::Next::GoTo(0), Vec::new(), cells);
        }
        if explorer.found.stopped {
            return None;
        }
        if explorer.found.over && round < MOST_LOOSE_ROUNDS {
            let more = explorer.loosest(1 << round);
            if !more.is_empty() {
                loose.extend(more);
                continue;
            }
        }
        return Some(explorer.result(now));
    }
    None
}

impl Explorer<'_, '_> {
    /// Fields that keep most pieces apart where too many came together.
    pub(crate) fn loosest(&self, count: usize) -> Vec<usize> {
        let mut apart: BTreeMap<usize, BTreeSet<(usize, u64)>> = BTreeMap::new();
        let crowded = self.found.crowded;
        for node in self.found.nodes.iter().filter(|node| crowded.is_none_or(|turn| node.turn == turn)) {
            for (field, mask) in node.set.cells.iter().enumerate() {
                if *mask != FORGOTTEN {
                    apart.entry(field).or_default().insert((node.turn, *mask));
                }
            }
        }
        let mut fields: Vec<(usize, usize)> = apart
            .into_iter()
            .map(|(field, masks)| (masks.len(), field))
            .filter(|(masks, field)| *masks > 1 && !self.model.loose[*field])
            .collect();
        fields.sort_unstable_by(|one, two| two.cmp(one));
        fields.into_iter().take(count).map(|(_, field)| field).collect()
    }

    fn result(&self, now: Timestamp) -> Reach {
        let plan = self.model.plan;
        let found = &self.found;
        let complete = !found.over;
        let mut reach = Reach { pieces: found.parts.len(), over: self.over(), ..Reach::default() };
        if complete {
            self.never(&mut reach);
        }
        let mut left = MOST_WITNESSES;
        let mut confirmed = |goal: &Goal<'_>, did: &dyn Fn(&[Event], &State) -> bool| -> Option<Witness> {
            left = left.checked_sub(1)?;
            let witness = self.witness(goal)?;
            let (events, state) = self.hold(&witness, now)?;
            did(&events, &state).then_some(witness)
        };
        let id = |turn: usize| plan.turns[turn].id.as_str();
        let key = |field: usize| plan.file.fields[field].key.clone();
        let mut at_turns = |pairs: &HashMap<(usize, usize), usize>| -> Vec<Gap> {
            let mut pairs: Vec<((usize, usize), usize)> = pairs.iter().map(|(at, node)| (*at, *node)).collect();
            pairs.sort_unstable();
            let gap = |((turn, field), node): ((usize, usize), usize)| {
                let lacking = plan.file.fields[field].id.as_str();
                let witness = confirmed(&Goal::Node(node, &[(field, MISSING)]), &|events, state| {
                    came_to(events, id(turn)) && !state.values.contains_key(lacking)
                });
                Gap { turn: id(turn).to_owned(), fields: vec![key(field)], witness }
            };
            pairs.into_iter().map(gap).collect()
        };
        reach.gaps = at_turns(&found.gaps);
        reach.lacking = at_turns(&found.lacking);
        reach.before_consent = at_turns(&found.unasked);
        self.asking(&mut reach, complete);
        let mut lacks: Vec<((usize, usize), usize)> = found.lacks.iter().map(|(at, node)| (*at, *node)).collect();
        lacks.sort_unstable();
        for ((turn, need), node) in lacks {
            let fields = &self.model.needs[need];
            let wanted: Vec<(usize, u64)> = fields.iter().map(|field| (*field, MISSING)).collect();
            let witness = confirmed(&Goal::Node(node, &wanted), &|events, state| {
                let filed = events.iter().any(|event| matches!(event, Event::Filed { turn: at, .. } if at == id(turn)));
                filed && fields.iter().all(|field| !state.values.contains_key(&plan.file.fields[*field].id))
            });
            reach.lacks.push(Gap {
                turn: id(turn).to_owned(),
                fields: fields.iter().map(|field| key(*field)).collect(),
                witness,
            });
        }
        self.outcomes(&mut reach, &mut confirmed);
        self.filings(&mut reach, &mut confirmed);
        reach
    }

    fn over(&self) -> Vec<Over> {
        let plan = self.model.plan;
        let mut over: Vec<Over> = self
            .model
            .loose
            .iter()
            .enumerate()
            .filter(|(_, loose)| **loose)
            .map(|(field, _)| Over {
                at: plan.file.fields.get(field).map_or_else(
                    || format!("@{}", self.model.circumstances[field - plan.file.fields.len()]),
                    |field| field.key.clone(),
                ),
                why: "too much can happen to follow this field; what depends on it counts as going either way"
                    .to_owned(),
            })
            .collect();
        if self.found.over {
            let why = "too much can happen here to be looked at in full".to_owned();
            over.push(Over { at: plan.file.id.clone(), why });
        }
        over.extend(plan.turns.iter().filter(|node| matches!(node.kind, Kind::Broken(_))).map(|node| Over {
            at: node.id.clone(),
            why: "this turn cannot be run; any of its arms counts as possible".to_owned(),
        }));
        over
    }

    /// What never happens, and what always does.
    fn never(&self, reach: &mut Reach) {
        let plan = self.model.plan;
        let found = &self.found;
        for (turn, node) in plan.turns.iter().enumerate() {
            if !found.turns[turn] {
                reach.turns_never.push(node.id.clone());
                continue;
            }
            for (arm, at) in node.arms.iter().enumerate() {
                let take = &self.model.takes[turn][arm];
                if !found.arms[turn][arm] {
                    reach.arms_never.push(at.id.clone());
                } else if matches!(take, Take::Holds(_)) && !found.arm_fails[turn][arm] {
                    reach.arms_always.push(at.id.clone());
                }
            }
        }
        for (section, node) in plan.sections.iter().enumerate() {
            if !found.sections[section] {
                reach.sections_never.push(node.id.clone());
            }
        }
        for (place, card) in plan.cards.iter().enumerate() {
            let seen = &found.seen[place];
            if !found.filed_by[place] && Some(place) != plan.default_card {
                continue;
            }
            let criteria = card.file.dimensions.iter().flat_map(|dimension| &dimension.criteria).map(|one| &one.id);
            let musts = card.file.must_haves.iter().map(|one| &one.id);
            let outs = card.file.rule_outs.iter().map(|one| &one.id);
            for id in criteria.chain(musts).chain(outs) {
                match (seen.held.contains(id), seen.failed.contains(id)) {
                    (false, true) => reach.criteria_never.push(id.clone()),
                    (true, false) => reach.criteria_always.push(id.clone()),
                    (true, true) | (false, false) => {}
                }
            }
        }
        if !found.filings.is_empty() {
            for (place, (id, ..)) in self.model.routes.iter().enumerate() {
                if !found.routes[place] {
                    reach.routes_never.push(id.clone());
                }
            }
        }
    }

    /// What is said of questions: which come first, which ask again, which take nothing, which never end.
    fn asking(&self, reach: &mut Reach, complete: bool) {
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
    fn changes_nothing(&self) -> Vec<String> {
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
            let after = super::live::successors(model, turn);
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
    fn captured(&self) -> BTreeMap<String, Captured> {
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
    fn bands_ahead(&self) -> Vec<BTreeSet<Option<&str>>> {
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

    fn edges(&self) -> Vec<Edge> {
        self.found.edges.iter().copied().collect()
    }

    fn starts(&self) -> Vec<(usize, (u32, Option<u32>))> {
        let first = |node: &super::explore::Node| node.parts.iter().any(|part| self.found.parts[*part].from.is_none());
        self.found
            .nodes
            .iter()
            .enumerate()
            .filter(|(_, node)| first(node))
            .map(|(place, _)| (place, (0, Some(0))))
            .collect()
    }

    fn outcomes(&self, reach: &mut Reach, confirmed: &mut Confirm<'_>) {
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

    fn filings(&self, reach: &mut Reach, confirmed: &mut Confirm<'_>) {
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
                        let one = super::score::Cloud { sums: BTreeSet::from([sums.clone()]), loose: false };
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

/// Looks for a witness and holds it with the engine.
type Confirm<'a> = dyn FnMut(&Goal<'_>, &dyn Fn(&[Event], &State) -> bool) -> Option<Witness> + 'a;

fn ends(low: i64, high: i64, exact: bool) -> Span {
    let end = |points: i64| (!endless(points)).then_some(points);
    Span { low: end(low), high: end(high), exact: exact && !endless(low) && !endless(high) }
}

fn wider(one: Option<Questions>, two: Option<Questions>) -> Option<Questions> {
    match (one, two) {
        (Some(one), Some(two)) => Some(Questions {
            least: one.least.min(two.least),
            most: one.most.zip(two.most).map(|(one, two)| one.max(two)),
        }),
        (one, two) => one.or(two),
    }
}

/// True where a conversation came to a turn.
fn came_to(events: &[Event], turn: &str) -> bool {
    events.iter().any(|event| match event {
        Event::Asked { turn: at, .. }
        | Event::Said { turn: at, .. }
        | Event::WorkedOut { turn: at, .. }
        | Event::Filed { turn: at, .. }
        | Event::Took { turn: at, .. } => at == turn,
        Event::Closed { turn: at, .. } => at.as_deref() == Some(turn),
        _ => false,
    })
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
