//! The exploration: from a start, everything that can follow, as sets of cells at each turn, until nothing new comes
//! (a fixpoint of abstract interpretation, with the sets of a turn put together wherever that loses nothing).

use std::cmp::Reverse;
use std::collections::{BTreeSet, BinaryHeap, HashMap, HashSet};
use std::rc::Rc;

use lumbo_dialogue::plan::{Fields, Next, ReadyFollow};

use super::cells::{FORGOTTEN, MISSING, Mask, NOT_ASKED};
use super::graph::Edge;
use super::model::Model;
use super::moves::{Exit, Move, moves};
use super::score::{Cloud, Seen};
use super::test::differing;

/// Most pieces of what can happen that are looked at before the analysis becomes coarser.
pub(crate) const MOST_PARTS: usize = 12_000;

/// Most nodes at one turn under the same visits; more mean that fields which are kept apart multiply each other.
const MOST_AT_ONE_TURN: usize = 160;

/// Visits under way, outermost first, by the turn's index.
pub(crate) type Visits = Vec<usize>;

/// A set of cells with the sums that go with it.
#[derive(Debug, Clone)]
pub(crate) struct Set {
    /// Cells by field.
    pub cells: Rc<[Mask]>,
    /// Groups that are added up, card by card in one row.
    pub added: Rc<[bool]>,
    /// Sums by card.
    pub clouds: Rc<[Rc<Cloud>]>,
}

/// What was found at one turn, under given visits.
#[derive(Debug)]
pub(crate) struct Node {
    pub turn: usize,
    pub visits: Visits,
    pub set: Set,
    waiting: bool,
    /// The pieces it was put together from, oldest first.
    pub parts: Vec<usize>,
}

/// One way in which a piece came about.
#[derive(Debug)]
pub(crate) struct Part {
    /// The node it came from; nothing for the start.
    pub from: Option<usize>,
    /// How that turn was left.
    pub exit: Exit,
    /// Cells before the turn was left.
    pub before: Rc<[Mask]>,
    /// Cells after.
    pub after: Rc<[Mask]>,
    /// Sums before, by card.
    pub sums: Rc<[Rc<Cloud>]>,
    /// What it became once nothing that is read no more was forgotten.
    pub set: Set,
    /// Groups that were added up on the way.
    pub adds: Vec<usize>,
}

/// How a conversation ends.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub(crate) enum End {
    /// With an outcome, by id.
    Closed(String),
    /// By the closing fallback.
    Fell,
}

/// A filing that is possible.
#[derive(Debug)]
pub(crate) struct Filing {
    pub node: usize,
    pub band: Option<String>,
    pub out: bool,
    pub low: i64,
    pub high: i64,
    pub queues: BTreeSet<Option<String>>,
    pub card: Option<usize>,
}

/// Everything that was found.
#[derive(Debug, Default)]
pub(crate) struct Found {
    pub nodes: Vec<Node>,
    pub parts: Vec<Part>,
    /// Between nodes: from, to, least and most questions.
    pub edges: HashSet<Edge>,
    /// Ends: from which node, how, least and most questions of the last turn, the piece.
    pub ends: Vec<(Option<usize>, End, u32, usize)>,
    pub filings: Vec<Filing>,
    pub turns: Vec<bool>,
    pub sections: Vec<bool>,
    pub arms: Vec<Vec<bool>>,
    /// True where an arm was come to and not taken.
    pub arm_fails: Vec<Vec<bool>>,
    /// Where a field that is shown may be missing: turn, field, a node.
    pub gaps: HashMap<(usize, usize), usize>,
    /// Where a formula may lack what it reads: turn, field read, a node.
    pub lacking: HashMap<(usize, usize), usize>,
    /// Where personal data may be asked for before any consent was: turn, field, a node.
    pub unasked: HashMap<(usize, usize), usize>,
    /// Where a lead may be filed without a yes or no to a consent: turn, field, a node.
    pub unsettled: HashMap<(usize, usize), usize>,
    /// Where a field that is known is asked for again: turn, a node.
    pub again: HashMap<usize, usize>,
    /// Where a lead may be filed without what it must carry: turn, place of the need, a node.
    pub lacks: HashMap<(usize, usize), usize>,
    /// True where a routing rule can hold.
    pub routes: Vec<bool>,
    pub seen: Vec<Seen>,
    pub filed_by: Vec<bool>,
    /// True where there was too much to look at all of it.
    pub over: bool,
    /// The turn at which too much came together.
    pub crowded: Option<usize>,
    pub stopped: bool,
}

pub(crate) struct Explorer<'m, 'p> {
    pub model: &'m Model<'p>,
    pub found: Found,
    index: HashMap<(usize, Visits), Vec<usize>>,
    todo: BinaryHeap<Reverse<(usize, usize)>>,
    /// First group of each card.
    offsets: Vec<usize>,
    overtaken: &'m dyn Fn() -> bool,
    nothing: Fields,
}

impl<'m, 'p> Explorer<'m, 'p> {
    pub fn new(model: &'m Model<'p>, overtaken: &'m dyn Fn() -> bool) -> Self {
        let plan = model.plan;
        let mut offsets = Vec::new();
        let mut groups = 0;
        for card in &model.cards {
            offsets.push(groups);
            groups += card.groups.len();
        }
        offsets.push(groups);
        let found = Found {
            turns: vec![false; plan.turns.len()],
            sections: vec![false; plan.sections.len()],
            arms: plan.turns.iter().map(|node| vec![false; node.arms.len()]).collect(),
            arm_fails: plan.turns.iter().map(|node| vec![false; node.arms.len()]).collect(),
            routes: vec![false; model.routes.len()],
            seen: vec![Seen::default(); model.cards.len()],
            filed_by: vec![false; model.cards.len()],
            ..Found::default()
        };
        Self {
            model,
            found,
            index: HashMap::new(),
            todo: BinaryHeap::new(),
            offsets,
            overtaken,
            nothing: model.no_fields(),
        }
    }

    /// Cells where nothing was said yet.
    pub fn at_first(&self) -> Vec<Mask> {
        let model = self.model;
        (0..model.width())
            .map(|field| {
                if model.loose[field] {
                    return FORGOTTEN;
                }
                let Some(may) = model.plan.changes.may_be_known.get(field) else {
                    return super::cells::NOT_ASKED | model.cells[field].known();
                };
                super::cells::NOT_ASKED | if *may { model.taken_anywhere(field) } else { 0 }
            })
            .collect()
    }

    /// Explores from a place with given cells.
    pub fn run(&mut self, start: Next, visits: Visits, cells: Vec<Mask>) {
        let groups = self.offsets.last().copied().unwrap_or(0);
        let clouds: Rc<[Rc<Cloud>]> = self.model.cards.iter().map(|card| Rc::new(card.nothing())).collect();
        let set = Set { cells: cells.into(), added: vec![false; groups].into(), clouds };
        let way = Way { from: None, exit: Exit::Start, before: Rc::clone(&set.cells), questions: 0 };
        self.arrive(&way, start, visits, &set);
        let mut steps = 0_usize;
        while let Some(Reverse((_, node))) = self.todo.pop() {
            self.found.nodes[node].waiting = false;
            steps += 1;
            if steps.is_multiple_of(64) && (self.overtaken)() {
                self.found.stopped = true;
                return;
            }
            self.found.over |= self.found.parts.len() > MOST_PARTS;
            if self.found.over {
                return;
            }
            self.leave(node);
        }
    }

    /// Follows every way out of a node.
    fn leave(&mut self, node: usize) {
        let (turn, visits, set) = {
            let node = &self.found.nodes[node];
            (node.turn, node.visits.clone(), node.set.clone())
        };
        self.notice(node, turn, &set);
        for step in moves(self, node, turn, &visits, &set) {
            let Move { exit, arm, before, after, next, clouds, questions, visits } = step;
            if let Some(arm) = arm {
                self.found.arms[turn][arm] = true;
            }
            let clouds = clouds.unwrap_or_else(|| Rc::clone(&set.clouds));
            let moved = Set { cells: after, added: Rc::clone(&set.added), clouds };
            let way = Way { from: Some(node), exit, before, questions };
            self.arrive(&way, next, visits, &moved);
        }
    }

    /// What is missing where it is shown, and what is asked for before consent.
    fn notice(&mut self, node: usize, turn: usize, set: &Set) {
        let model = self.model;
        if !model.consents.is_empty() && model.consents.iter().all(|field| set.cells[*field] & NOT_ASKED != 0) {
            for field in &model.personal_asks[turn] {
                if set.cells[*field] & MISSING != 0 && !model.loose[*field] {
                    self.found.unasked.entry((turn, *field)).or_insert(node);
                }
            }
        }
        for field in &model.shows[turn] {
            if set.cells[*field] & MISSING != 0 && !model.loose[*field] {
                self.found.gaps.entry((turn, *field)).or_insert(node);
            }
        }
    }

    /// Goes on to the next turn or the end.
    fn arrive(&mut self, way: &Way, next: Next, mut visits: Visits, set: &Set) {
        let plan = self.model.plan;
        let mut next = next;
        // A row of empty sections is no longer than the sections.
        for _ in 0..=2 * plan.sections.len() + 2 {
            next = match next {
                Next::Turn(turn) => return self.put(way, turn, visits, set),
                Next::GoTo(section) => {
                    visits.clear();
                    if way.from.is_some_and(|node| self.model.live.again[self.found.nodes[node].turn]) {
                        // A circle may be ended by the limit on entries.
                        self.end(way, End::Fell, set);
                    }
                    self.found.sections[section] = true;
                    plan.sections[section].entry
                }
                Next::EndOf(section) => match (plan.sections[section].follow, visits.last()) {
                    (ReadyFollow::CarryOn(_) | ReadyFollow::Return, Some(visit)) => {
                        let after = plan.turns[*visit].next;
                        visits.pop();
                        after
                    }
                    (ReadyFollow::CarryOn(Some(after)), None) => {
                        self.found.sections[after] = true;
                        plan.sections[after].entry
                    }
                    (ReadyFollow::CarryOn(None) | ReadyFollow::Return, None) => return self.end(way, End::Fell, set),
                    (ReadyFollow::Go(next), _) => next,
                },
                Next::Close(ending) => {
                    return self.end(way, End::Closed(plan.endings[ending].outcome.clone()), set);
                }
                Next::Nowhere | Next::Wait => return self.end(way, End::Fell, set),
            };
        }
        self.end(way, End::Fell, set);
    }

    pub fn end(&mut self, way: &Way, end: End, set: &Set) {
        let (normal, adds) = self.settled(set, None);
        let known = self.found.ends.iter().any(|(from, known, _, part)| {
            *from == way.from
                && *known == end
                && self.found.parts[*part]
                    .set
                    .clouds
                    .iter()
                    .zip(normal.clouds.iter())
                    .all(|(known, new)| known.covers(new))
        });
        if known {
            return;
        }
        let part = self.part(way, set, normal, adds);
        self.found.ends.push((way.from, end, way.questions, part));
    }

    fn part(&mut self, way: &Way, set: &Set, normal: Set, adds: Vec<usize>) -> usize {
        let sums = match way.from {
            Some(node) => Rc::clone(&self.found.nodes[node].set.clouds),
            None => Rc::clone(&set.clouds),
        };
        self.found.parts.push(Part {
            from: way.from,
            exit: way.exit.clone(),
            before: Rc::clone(&way.before),
            after: Rc::clone(&set.cells),
            sums,
            set: normal,
            adds,
        });
        self.found.parts.len() - 1
    }

    /// Puts a piece down at a turn: joined with what is there where that loses nothing.
    fn put(&mut self, way: &Way, turn: usize, visits: Visits, set: &Set) {
        self.found.turns[turn] = true;
        let section = self.model.plan.turns[turn].section;
        self.found.sections[section] = true;
        let (normal, adds) = self.settled(set, Some(turn));
        let there = self.index.get(&(turn, visits.clone())).cloned().unwrap_or_default();
        for node in &there {
            let known = &self.found.nodes[*node].set;
            if known.added == normal.added && within(&normal, known) {
                self.edge(way, *node);
                return;
            }
        }
        for node in there {
            let known = &self.found.nodes[node].set;
            if known.added != normal.added {
                continue;
            }
            let same_cells = known.cells == normal.cells;
            let same_sums = same_clouds(&known.clouds, &normal.clouds);
            let joined = if same_cells {
                let clouds =
                    known.clouds.iter().zip(normal.clouds.iter()).map(|(one, two)| Rc::new(one.union(two))).collect();
                Set { clouds, ..known.clone() }
            } else if same_sums && differing(&known.cells, &normal.cells).is_some() {
                let cells = known.cells.iter().zip(normal.cells.iter()).map(|(one, two)| one | two).collect();
                Set { cells, ..known.clone() }
            } else {
                continue;
            };
            let part = self.part(way, set, normal, adds);
            let at = &mut self.found.nodes[node];
            at.set = joined;
            at.parts.push(part);
            if !std::mem::replace(&mut at.waiting, true) {
                self.todo.push(Reverse((turn, node)));
            }
            self.edge(way, node);
            return;
        }
        if self.index.get(&(turn, visits.clone())).is_some_and(|there| there.len() >= MOST_AT_ONE_TURN) {
            self.found.over = true;
            self.found.crowded = Some(turn);
            return;
        }
        let part = self.part(way, set, normal.clone(), adds);
        let node = self.found.nodes.len();
        self.found.nodes.push(Node { turn, visits: visits.clone(), set: normal, waiting: true, parts: vec![part] });
        self.index.entry((turn, visits)).or_default().push(node);
        self.todo.push(Reverse((turn, node)));
        self.edge(way, node);
    }

    fn edge(&mut self, way: &Way, to: usize) {
        if let Some(from) = way.from {
            self.found.edges.insert((from, to, way.questions, way.questions));
        }
    }

    /// Forgets what nothing reads from a turn on, and adds up what can change no more; at an end, everything.
    fn settled(&mut self, set: &Set, turn: Option<usize>) -> (Set, Vec<usize>) {
        let model = self.model;
        let (live, changes) = (&model.live, &model.plan.changes);
        let at = |fields: &'m [Fields]| turn.map_or(&self.nothing, |turn| &fields[turn]);
        let (value, known, asked, written, filled) =
            (at(&live.value), at(&live.known), at(&live.asked), at(&changes.written), at(&changes.filled));
        let mut cells = set.cells.to_vec();
        let mut added: Vec<bool> = set.added.to_vec();
        let mut clouds: Vec<Rc<Cloud>> = set.clouds.to_vec();
        let mut adds = Vec::new();
        let mut counted = model.no_fields();
        for (place, card) in model.cards.iter().enumerate() {
            for (group, held) in card.groups.iter().enumerate() {
                let number = self.offsets[place] + group;
                if added[number] {
                    continue;
                }
                let fixed = held.fields.iter().all(|field| {
                    let may_change = written.has(*field) || filled.has(*field) && cells[*field] & MISSING != 0;
                    model.loose[*field] || !(value.has(*field) || known.has(*field) || may_change)
                });
                if fixed {
                    clouds[place] =
                        Rc::new(card.add(&clouds[place], group, &set.cells, model, &mut self.found.seen[place]));
                    added[number] = true;
                    adds.push(number);
                } else {
                    held.fields.iter().for_each(|field| counted.put(*field));
                }
            }
        }
        for (field, mask) in cells.iter_mut().enumerate() {
            let by_value = value.has(field) || counted.has(field);
            if model.loose[field] || !by_value && !known.has(field) {
                *mask = FORGOTTEN;
                continue;
            }
            let all = model.cells[field].known();
            if !by_value && *mask & all != 0 {
                *mask |= all;
            }
            if !asked.has(field) && *mask & MISSING != 0 {
                *mask |= MISSING;
            }
        }
        (Set { cells: cells.into(), added: added.into(), clouds: clouds.into() }, adds)
    }

    /// Notes which criteria hold and fail at a filing, of those that are not added up yet.
    pub fn see_filed(&mut self, set: &Set, card: usize) {
        let model = self.model;
        for group in self.not_added(set, card) {
            model.cards[card].gives(&model.cards[card].groups[group], &set.cells, model, &mut self.found.seen[card]);
        }
    }

    /// Groups of a card that are not added up yet.
    pub fn not_added(&self, set: &Set, card: usize) -> Vec<usize> {
        (0..self.model.cards[card].groups.len()).filter(|group| !set.added[self.offsets[card] + group]).collect()
    }

    /// Card and group by the number of a group.
    pub fn group(&self, number: usize) -> (usize, usize) {
        let card = self.offsets.partition_point(|offset| *offset <= number) - 1;
        (card, number - self.offsets[card])
    }
}

/// How a piece came from a node.
pub(crate) struct Way {
    pub from: Option<usize>,
    pub exit: Exit,
    pub before: Rc<[Mask]>,
    pub questions: u32,
}

fn same_clouds(one: &[Rc<Cloud>], two: &[Rc<Cloud>]) -> bool {
    one.iter().zip(two).all(|(one, two)| Rc::ptr_eq(one, two) || one == two)
}

/// True where one set is wholly in another.
fn within(one: &Set, other: &Set) -> bool {
    one.cells.iter().zip(other.cells.iter()).all(|(one, other)| one & !other == 0)
        && one.clouds.iter().zip(other.clouds.iter()).all(|(one, other)| Rc::ptr_eq(one, other) || other.covers(one))
}
