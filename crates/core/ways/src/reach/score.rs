//! Points over sets of cells. A scorecard falls into groups of criteria that share fields; each group is added up as
//! soon as its fields can change no more, and only the sums are carried on.

use std::collections::BTreeSet;
use std::rc::Rc;

use jiff::civil::Date;
use lumbo_dialogue::score::{Card, ReadyCriterion};
use lumbo_formula::{Formula, Lookup};
use lumbo_value::Value;

use super::cells::{MISSING, Mask, each};
use super::model::Model;
use super::test::{FAILS, HOLDS, Test, Truths, UNKNOWN};

/// Stands for points without an end.
const ENDLESS: i64 = 1_000_000_000;
/// Most combinations of cells that one group of criteria is worked out for.
const MOST_COMBINATIONS: usize = 20_000;
/// Most different sums that are carried along.
const MOST_SUMS: usize = 1_500;
/// No must-have caps the band.
const NO_CAP: u8 = u8::MAX;

/// A scorecard in groups.
#[derive(Debug)]
pub(crate) struct CardModel {
    /// Groups of criteria that share fields.
    pub groups: Vec<Group>,
    /// Floors and ceilings of the dimensions that have one, from slot 1 on; slot 0 is for all others.
    ends: Vec<(Option<i64>, Option<i64>)>,
    /// Ids of the bands, lowest first.
    bands: Vec<String>,
    /// What counts whatever is answered.
    base: i64,
}

/// Criteria, must-haves and rule-outs that share fields.
#[derive(Debug, Default)]
pub(crate) struct Group {
    /// The fields.
    pub fields: Vec<usize>,
    items: Vec<Item>,
}

#[derive(Debug)]
struct Item {
    id: String,
    does: Does,
}

#[derive(Debug)]
enum Does {
    When(usize, Test, i64),
    Table(usize, Option<usize>, Vec<(Test, i64)>),
    Formula(usize, Formula, Vec<usize>),
    Must(Test, u8),
    Out(Test),
}

/// Sums so far: points by slot, the lowest cap, whether a rule-out holds.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub(crate) struct Sums {
    slots: Vec<i64>,
    cap: u8,
    out: bool,
}

/// Every combination of sums that is possible.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub(crate) struct Cloud {
    /// The combinations; where it is loose, the corners of what is possible.
    pub sums: BTreeSet<Sums>,
    /// True where whatever lies between may be possible too.
    pub loose: bool,
}

/// What a filing can come to.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord)]
pub(crate) struct Final {
    /// Place of the band; nothing where a rule-out holds or the scorecard has no bands.
    pub band: Option<usize>,
    /// True where a rule-out holds.
    pub out: bool,
    /// Lowest points.
    pub low: i64,
    /// Highest points.
    pub high: i64,
}

/// Which criteria, must-haves and rule-outs were seen to hold and to fail, by id.
#[derive(Debug, Default, Clone)]
pub(crate) struct Seen {
    pub held: BTreeSet<String>,
    pub failed: BTreeSet<String>,
}

impl CardModel {
    pub fn new(card: &Card, model: &Model<'_>) -> Self {
        let mut ends = vec![(None, None)];
        let mut items: Vec<(BTreeSet<usize>, Item)> = Vec::new();
        let mut base = 0;
        let held = |test: &Test| {
            let mut fields = BTreeSet::new();
            test.each_field(&mut |field| {
                fields.insert(field);
            });
            fields
        };
        for (file, criteria) in card.file.dimensions.iter().zip(card.criteria()) {
            let slot = if file.floor.is_none() && file.ceiling.is_none() {
                0
            } else {
                ends.push((file.floor, file.ceiling));
                ends.len() - 1
            };
            if criteria.is_empty() && slot > 0 {
                ends.pop();
                base += clamp(0, file.floor, file.ceiling);
                continue;
            }
            for (criterion, ready) in file.criteria.iter().zip(criteria) {
                let (fields, does) = match ready {
                    ReadyCriterion::When(ready, points) => {
                        let test = Test::of(ready, model);
                        (held(&test), Does::When(slot, test, *points))
                    }
                    ReadyCriterion::Table(key, rows) => {
                        let field = model.field_by_key.get(key.as_str()).copied();
                        let rows: Vec<(Test, i64)> =
                            rows.iter().map(|(ready, points)| (Test::of(ready, model), *points)).collect();
                        (field.into_iter().collect(), Does::Table(slot, field, rows))
                    }
                    ReadyCriterion::Formula(formula) => {
                        let fields: Vec<usize> = formula
                            .reads()
                            .iter()
                            .filter_map(|key| model.field_by_key.get(key.as_str()).copied())
                            .collect();
                        (fields.iter().copied().collect(), Does::Formula(slot, formula.clone(), fields))
                    }
                    ReadyCriterion::Broken => continue,
                };
                items.push((fields, Item { id: criterion.id.clone(), does }));
            }
        }
        let place = |id: &str| card.file.bands.iter().position(|band| band.id == id).unwrap_or(0);
        for (must, ready) in card.file.must_haves.iter().zip(card.must_haves()) {
            let test = Test::of(ready, model);
            let cap = u8::try_from(place(&must.cap)).unwrap_or(NO_CAP);
            items.push((held(&test), Item { id: must.id.clone(), does: Does::Must(test, cap) }));
        }
        for (out, ready) in card.file.rule_outs.iter().zip(card.rule_outs()) {
            let test = Test::of(ready, model);
            items.push((held(&test), Item { id: out.id.clone(), does: Does::Out(test) }));
        }
        let bands = card.file.bands.iter().map(|band| band.id.clone()).collect();
        Self { groups: grouped(items), ends, bands, base }
    }

    /// No points yet.
    pub fn nothing(&self) -> Cloud {
        let mut slots = vec![0; self.ends.len()];
        slots[0] = self.base;
        Cloud { sums: BTreeSet::from([Sums { slots, cap: NO_CAP, out: false }]), loose: false }
    }

    /// Id of a band by its place.
    pub fn band(&self, place: usize) -> Option<&str> {
        self.bands.get(place).map(String::as_str)
    }

    /// Adds one group for the cells its fields have.
    pub fn add(&self, cloud: &Cloud, group: usize, cells: &[Mask], model: &Model<'_>, seen: &mut Seen) -> Cloud {
        self.gives(&self.groups[group], cells, model, seen).plus(cloud)
    }

    /// What one group gives for the cells its fields have.
    pub fn gives(&self, group: &Group, cells: &[Mask], model: &Model<'_>, seen: &mut Seen) -> Cloud {
        let mut cloud = Cloud { sums: BTreeSet::new(), loose: false };
        match self.combinations(group, cells, model) {
            Some(all) => all.iter().for_each(|at| self.each_way(&group.items, at, model, seen, &mut cloud)),
            None => {
                self.each_way(&group.items, cells, model, seen, &mut cloud);
                cloud.loose = true;
            }
        }
        cloud.bounded()
    }

    /// Every combination of cells of a group's fields; nothing where there are too many.
    pub fn combinations(&self, group: &Group, cells: &[Mask], model: &Model<'_>) -> Option<Vec<Vec<Mask>>> {
        let mut out = vec![cells.to_vec()];
        for field in &group.fields {
            // Why a value is missing changes no points.
            let mask = cells[*field];
            let missing = (mask & MISSING != 0).then_some(MISSING & mask);
            let known = each(mask & !MISSING & model.cells[*field].known()).map(|cell| 1 << cell);
            let all: Vec<Mask> = missing.into_iter().chain(known).collect();
            if out.len().saturating_mul(all.len()) > MOST_COMBINATIONS {
                return None;
            }
            if !all.is_empty() {
                out = out
                    .into_iter()
                    .flat_map(|at| {
                        all.iter().map(move |cell| {
                            let mut at = at.clone();
                            at[*field] = *cell;
                            at
                        })
                    })
                    .collect();
            }
        }
        Some(out)
    }

    /// Every way the items can go for the cells at hand: one, unless a comparison may go either way.
    fn each_way(&self, items: &[Item], cells: &[Mask], model: &Model<'_>, seen: &mut Seen, cloud: &mut Cloud) {
        let mut sums = BTreeSet::from([Sums { slots: vec![0; self.ends.len()], cap: NO_CAP, out: false }]);
        for item in items {
            let mut next = BTreeSet::new();
            let ways = self.ways_of(item, cells, model, seen, &mut cloud.loose);
            for one in &sums {
                for way in &ways {
                    next.insert(one.plus(way));
                }
            }
            sums = Cloud { sums: next, loose: false }.bounded_into(&mut cloud.loose);
        }
        cloud.sums.extend(sums);
    }

    fn ways_of(&self, item: &Item, cells: &[Mask], model: &Model<'_>, seen: &mut Seen, loose: &mut bool) -> Vec<Sums> {
        let zero = Sums { slots: vec![0; self.ends.len()], cap: NO_CAP, out: false };
        let points = |slot: usize, points: i64| {
            let mut sums = zero.clone();
            sums.slots[slot] = points;
            sums
        };
        let mut look = |truths: Truths| {
            if truths & HOLDS != 0 {
                seen.held.insert(item.id.clone());
            }
            if truths & (FAILS | UNKNOWN) != 0 {
                seen.failed.insert(item.id.clone());
            }
            truths
        };
        let both = |truths: Truths, holds: Sums, fails: Sums| {
            let mut ways = Vec::new();
            if truths & HOLDS != 0 {
                ways.push(holds);
            }
            if truths & (FAILS | UNKNOWN) != 0 {
                ways.push(fails);
            }
            ways
        };
        match &item.does {
            Does::When(slot, test, gives) => both(look(test.truths(cells, None)), points(*slot, *gives), zero.clone()),
            Does::Must(test, cap) => {
                both(look(test.truths(cells, None)), zero.clone(), Sums { cap: *cap, ..zero.clone() })
            }
            Does::Out(test) => both(look(test.truths(cells, None)), Sums { out: true, ..zero.clone() }, zero.clone()),
            Does::Table(slot, field, rows) => {
                let mut ways = Vec::new();
                let known = field.is_some_and(|field| cells[field] & !MISSING != 0);
                let missing = field.is_none_or(|field| cells[field] & MISSING != 0);
                if known {
                    let mut open = true;
                    for (test, gives) in rows {
                        let truths = test.truths(cells, None);
                        if truths & HOLDS != 0 {
                            ways.push(points(*slot, *gives));
                        }
                        if truths == HOLDS {
                            open = false;
                            break;
                        }
                    }
                    look(if ways.is_empty() {
                        FAILS
                    } else if open {
                        HOLDS | FAILS
                    } else {
                        HOLDS
                    });
                    if open {
                        ways.push(zero.clone());
                    }
                }
                if missing {
                    look(UNKNOWN);
                    ways.push(zero);
                }
                ways
            }
            Does::Formula(slot, formula, fields) => {
                look(HOLDS | FAILS);
                let exact = fields.iter().all(|field| {
                    let mask = cells[*field];
                    mask & !MISSING == 0 || mask.count_ones() == 1 && model.cells[*field].single
                });
                if exact {
                    let values = Exactly { model, cells };
                    return vec![points(*slot, formula.points(&values).ok().flatten().unwrap_or(0))];
                }
                // Held by the dimension's floor and ceiling, where it has them.
                *loose = true;
                vec![points(*slot, -ENDLESS), zero.clone(), points(*slot, ENDLESS)]
            }
        }
    }

    /// What sums come to at a filing, once every group is added.
    pub fn finals(&self, cloud: &Cloud, card: &Card) -> BTreeSet<Final> {
        let mut out = BTreeSet::new();
        let band = |total: i64, cap: u8| (!self.bands.is_empty()).then(|| card.band_index(total).min(usize::from(cap)));
        let total = |sums: &Sums| self.total(sums);
        if !cloud.loose {
            for sums in &cloud.sums {
                let total = total(sums);
                let band = if sums.out { None } else { band(total, sums.cap) };
                out.insert(Final { band, out: sums.out, low: total, high: total });
            }
            return out;
        }
        let kinds: BTreeSet<(u8, bool)> = cloud.sums.iter().map(|sums| (sums.cap, sums.out)).collect();
        let low = cloud.sums.iter().map(&total).min().unwrap_or(0);
        let high = cloud.sums.iter().map(&total).max().unwrap_or(0);
        for (cap, ruled_out) in kinds {
            if ruled_out {
                out.insert(Final { band: None, out: true, low, high });
                continue;
            }
            // Each band between the ends, with the points that fall into it.
            let froms: Vec<i64> = card.file.bands.iter().skip(1).filter_map(|band| band.from).collect();
            let mut edges = vec![low];
            edges.extend(froms.iter().copied().filter(|from| *from > low && *from <= high));
            for (place, edge) in edges.iter().enumerate() {
                let until = edges.get(place + 1).map_or(high, |next| next - 1);
                out.insert(Final { band: band(*edge, cap), out: false, low: *edge, high: until });
            }
        }
        out
    }

    /// The total that sums come to.
    pub fn total(&self, sums: &Sums) -> i64 {
        sums.slots.iter().zip(&self.ends).map(|(points, (floor, ceiling))| clamp(*points, *floor, *ceiling)).sum()
    }

    /// Sums for which, with what is still to be added, a final holds.
    pub fn only(&self, cloud: &Rc<Cloud>, adds: &Cloud, card: &Card, keep: impl Fn(&Final) -> bool) -> Rc<Cloud> {
        if cloud.loose || adds.loose {
            return Rc::clone(cloud);
        }
        let sums = cloud
            .sums
            .iter()
            .filter(|sums| {
                let one = Cloud { sums: BTreeSet::from([(*sums).clone()]), loose: false }.plus(adds);
                self.finals(&one, card).iter().any(&keep)
            })
            .cloned()
            .collect();
        Rc::new(Cloud { sums, loose: false })
    }

    /// Nothing that is added.
    pub fn zero(&self) -> Cloud {
        let sums = Sums { slots: vec![0; self.ends.len()], cap: NO_CAP, out: false };
        Cloud { sums: BTreeSet::from([sums]), loose: false }
    }
}

/// True where a total has no end.
pub(crate) fn endless(points: i64) -> bool {
    points.abs() >= ENDLESS / 2
}

/// Values where each field has one cell that holds one value.
pub(crate) struct Exactly<'a> {
    pub model: &'a Model<'a>,
    pub cells: &'a [Mask],
}

impl Lookup for Exactly<'_> {
    fn value(&self, key: &str) -> Option<&Value> {
        let field = *self.model.field_by_key.get(key)?;
        let mask = self.cells[field];
        (mask & MISSING == 0).then(|| self.model.cells[field].value(mask.trailing_zeros() as usize)).flatten()
    }
    fn today(&self) -> Option<Date> {
        Some(self.model.today)
    }
    fn currency(&self) -> &str {
        &self.model.plan.file.settings.currency
    }
}

impl Sums {
    /// Both together.
    pub fn plus(&self, other: &Self) -> Self {
        Self {
            slots: self.slots.iter().zip(&other.slots).map(|(one, two)| (one + two).clamp(-ENDLESS, ENDLESS)).collect(),
            cap: self.cap.min(other.cap),
            out: self.out || other.out,
        }
    }
}

impl Cloud {
    /// Keeps the corners only, where there are too many.
    fn bounded(mut self) -> Self {
        if self.sums.len() <= MOST_SUMS {
            return self;
        }
        let mut corners: std::collections::BTreeMap<(u8, bool), (Vec<i64>, Vec<i64>)> =
            std::collections::BTreeMap::new();
        for sums in &self.sums {
            let entry = corners.entry((sums.cap, sums.out)).or_insert_with(|| (sums.slots.clone(), sums.slots.clone()));
            for (slot, points) in sums.slots.iter().enumerate() {
                entry.0[slot] = entry.0[slot].min(*points);
                entry.1[slot] = entry.1[slot].max(*points);
            }
        }
        self.sums = corners
            .into_iter()
            .flat_map(|((cap, out), (low, high))| [low, high].map(|slots| Sums { slots, cap, out }))
            .collect();
        self.loose = true;
        self
    }

    fn bounded_into(self, loose: &mut bool) -> BTreeSet<Sums> {
        let bounded = self.bounded();
        *loose |= bounded.loose;
        bounded.sums
    }

    /// Every sum of one and the other.
    pub fn plus(&self, other: &Self) -> Self {
        let mut sums = BTreeSet::new();
        for one in &self.sums {
            for other in &other.sums {
                sums.insert(one.plus(other));
            }
        }
        Self { sums, loose: self.loose || other.loose }.bounded()
    }

    /// Both together.
    pub fn union(&self, other: &Self) -> Self {
        let sums = self.sums.union(&other.sums).cloned().collect();
        Self { sums, loose: self.loose || other.loose }.bounded()
    }

    /// True where the other holds nothing more.
    pub fn covers(&self, other: &Self) -> bool {
        (self.loose || !other.loose) && self.sums.is_superset(&other.sums)
    }
}

fn clamp(sum: i64, floor: Option<i64>, ceiling: Option<i64>) -> i64 {
    let sum = ceiling.map_or(sum, |ceiling| sum.min(ceiling));
    floor.map_or(sum, |floor| sum.max(floor))
}

/// Puts items that share fields into one group.
fn grouped(items: Vec<(BTreeSet<usize>, Item)>) -> Vec<Group> {
    let mut groups: Vec<(BTreeSet<usize>, Vec<Item>)> = Vec::new();
    for (fields, item) in items {
        let mut joined = (fields, vec![item]);
        let mut apart = Vec::new();
        for group in groups {
            if group.0.is_disjoint(&joined.0) {
                apart.push(group);
            } else {
                joined.0.extend(group.0);
                joined.1.extend(group.1);
            }
        }
        apart.push(joined);
        groups = apart;
    }
    groups.into_iter().map(|(fields, items)| Group { fields: fields.into_iter().collect(), items }).collect()
}
