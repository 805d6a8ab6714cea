//! What the exploration found, said by ids. `questions` says what becomes of questions and fields, `ends` how
//! conversations end and what is filed on the way.

mod ends;
mod questions;

use std::collections::{BTreeMap, BTreeSet, HashMap};

use jiff::Timestamp;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use lumbo_dialogue::Plan;
use lumbo_dialogue::plan::Kind;
use lumbo_dialogue::talk::{Event, State};

use super::cells::{FORGOTTEN, MISSING};
use super::explore::Explorer;
use super::graph::Edge;
use super::model::{Model, Take};
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
    /// Consents that may have neither a yes nor a no where a lead is filed.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub without_consent: Vec<Gap>,
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
/// let demo = load(include_str!("../../../../../../demo/storage-enquiry.json")).unwrap();
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
            [true, false].into_iter().find_map(|plainly| {
                let witness = self.witness(goal, plainly)?;
                let (events, state) = self.hold(&witness, now)?;
                did(&events, &state).then_some(witness)
            })
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
        reach.without_consent = at_turns(&found.unsettled);
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
        // What was not looked at to its end has no bounds to give.
        if complete {
            self.outcomes(&mut reach, &mut confirmed);
            self.filings(&mut reach, &mut confirmed);
        }
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

    pub(super) fn edges(&self) -> Vec<Edge> {
        self.found.edges.iter().copied().collect()
    }

    pub(super) fn starts(&self) -> Vec<(usize, (u32, Option<u32>))> {
        let first = |node: &super::explore::Node| node.parts.iter().any(|part| self.found.parts[*part].from.is_none());
        self.found
            .nodes
            .iter()
            .enumerate()
            .filter(|(_, node)| first(node))
            .map(|(place, _)| (place, (0, Some(0))))
            .collect()
    }
}

/// Looks for a witness and holds it with the engine.
type Confirm<'a> = dyn FnMut(&Goal<'_>, &dyn Fn(&[Event], &State) -> bool) -> Option<Witness> + 'a;

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
