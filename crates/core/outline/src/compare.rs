//! Two versions of a dialogue compared as rows of the outline: what was added, taken out, reworded, led elsewhere,
//! moved; and what changed in scoring, routing, fields and the rest.

use std::collections::{BTreeMap, HashMap, HashSet};

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use super::rows::{Row, RowKind, rows};
use lumbo_dialogue::file::{Arm, Dialogue, Gives, Section, Then, Turn};
use lumbo_dialogue::turns::words::{arm_words, follow_words, then_words, turn_words};

mod others;

pub use others::{CardChange, CardChanges, card_changes};

/// What became of a row.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Change {
    /// Nothing.
    Same,
    /// It is new.
    Added,
    /// It is gone.
    Removed,
    /// It says something else.
    Reworded,
    /// It leads elsewhere.
    Rerouted,
    /// It gives other points.
    Rescored,
    /// It stands elsewhere and is otherwise the same.
    Moved,
    /// Something else of it changed.
    Changed,
}

/// A row of the newer version, or one that is gone, with what became of it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct ComparedRow {
    /// What it stands for.
    pub kind: RowKind,
    /// Id of the section, turn or arm.
    pub id: String,
    /// How deep it is nested.
    pub depth: u16,
    /// The turn's kind, for turns.
    pub label: String,
    /// What became of it.
    pub change: Change,
    /// What it said before, where that differs or it is gone.
    pub before: Option<String>,
    /// What it says now; absent where it is gone.
    pub after: Option<String>,
}

/// A change beside the outline.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct OtherChange {
    /// Where: Scoring, Routing, Fields, Brief, Any time, Phrases, Tables, Opening, Settings, Outcomes, Title.
    pub part: String,
    /// What became of it.
    pub change: Change,
    /// What it was.
    pub before: Option<String>,
    /// What it is.
    pub after: Option<String>,
}

/// Two versions compared.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Compared {
    /// Every row of the newer one, with those that are gone at their old places.
    pub rows: Vec<ComparedRow>,
    /// What changed beside the outline.
    pub others: Vec<OtherChange>,
}

/// A row with what it stands for.
struct Seen<'a> {
    dialogue: &'a Dialogue,
    row: Row,
    part: Part<'a>,
}

enum Part<'a> {
    Section(&'a Section),
    Turn(&'a Turn),
    Arm(&'a Turn, &'a Arm),
}

fn seen(dialogue: &Dialogue) -> Vec<Seen<'_>> {
    let mut turns: HashMap<&str, &Turn> = HashMap::new();
    dialogue.each_turn(&mut |_, _, turn| {
        turns.insert(turn.id(), turn);
    });
    let sections: HashMap<&str, &Section> =
        dialogue.sections.iter().map(|section| (section.id.as_str(), section)).collect();
    rows(dialogue)
        .into_iter()
        .filter_map(|row| {
            let part = match row.kind {
                RowKind::Section | RowKind::Then => Part::Section(sections.get(row.id.as_str())?),
                RowKind::Turn => Part::Turn(turns.get(row.id.as_str())?),
                RowKind::Arm => {
                    let turn = turns.get(row.turn.as_deref()?)?;
                    Part::Arm(turn, turn.arms().iter().find(|arm| arm.id == row.id)?)
                }
            };
            Some(Seen { dialogue, row, part })
        })
        .collect()
}

impl Seen<'_> {
    fn label(&self) -> &'static str {
        match (&self.part, self.row.kind) {
            (Part::Section(_), RowKind::Then) => "then",
            (Part::Section(_), _) => "Section",
            (Part::Turn(turn), _) => turn.kind_label(),
            (Part::Arm(..), _) => "Arm",
        }
    }

    /// What it says.
    fn words(&self) -> String {
        match (&self.part, self.row.kind) {
            (Part::Section(_), RowKind::Then) => String::new(),
            (Part::Section(section), _) => section.title.clone(),
            (Part::Turn(turn), _) => turn_words(self.dialogue, turn),
            (Part::Arm(turn, arm), _) => arm_words(self.dialogue, turn, arm),
        }
    }

    /// What it says and where it leads.
    fn full(&self) -> String {
        match (&self.part, self.row.kind) {
            (Part::Section(section), RowKind::Then) => follow_words(self.dialogue, section),
            (Part::Arm(_, arm), _) if arm.then != Then::Rejoin => {
                format!("{} {}", self.words(), then_words(self.dialogue, &arm.then))
            }
            _ => self.words(),
        }
    }

    /// True where nothing of it differs; what stands inside is looked at by itself.
    fn same(&self, other: &Self) -> bool {
        match (&self.part, &other.part) {
            (Part::Section(a), Part::Section(b)) => {
                if self.row.kind == RowKind::Then {
                    a.then == b.then
                } else {
                    a.title == b.title
                }
            }
            (Part::Turn(a), Part::Turn(b)) => same_turn(a, b),
            (Part::Arm(_, a), Part::Arm(_, b)) => a.label == b.label && a.when == b.when && a.then == b.then,
            _ => false,
        }
    }

    /// True where it leads to the same.
    fn leads_as(&self, other: &Self) -> bool {
        match (&self.part, &other.part) {
            (Part::Section(a), Part::Section(b)) => self.row.kind != RowKind::Then || a.then == b.then,
            (Part::Turn(Turn::Ask(a)), Part::Turn(Turn::Ask(b))) => a.way_out == b.way_out,
            (Part::Turn(a), Part::Turn(b)) => a.leads_to() == b.leads_to() && a.ends_as() == b.ends_as(),
            (Part::Arm(_, a), Part::Arm(_, b)) => a.then == b.then,
            _ => true,
        }
    }
}

/// True where two turns are the same but for their arms.
fn same_turn(a: &Turn, b: &Turn) -> bool {
    if a == b {
        return true;
    }
    let bare = |turn: &Turn| {
        let mut bare = turn.clone();
        if let Some(arms) = bare.arms_mut() {
            arms.clear();
        }
        bare
    };
    !(a.arms().is_empty() && b.arms().is_empty()) && bare(a) == bare(b)
}

/// What a row stands in.
fn parent(row: &Row) -> String {
    match row.kind {
        RowKind::Section => "outline".to_owned(),
        RowKind::Then => format!("then {}", row.section),
        RowKind::Arm => format!("turn {}", row.turn.as_deref().unwrap_or_default()),
        RowKind::Turn => {
            row.arm.as_deref().map_or_else(|| format!("section {}", row.section), |arm| format!("arm {arm}"))
        }
    }
}

/// A row that is still there: its old place, and its kind and id.
type Kept<'a> = (usize, (RowKind, &'a str));

/// Rows of both versions that stand elsewhere: in something else, or out of the longest run that kept its order.
fn moved<'a>(before: &[Seen<'_>], after: &'a [Seen<'_>]) -> HashSet<(RowKind, &'a str)> {
    let stood: HashMap<(RowKind, &str), (usize, String)> = before
        .iter()
        .enumerate()
        .map(|(place, seen)| ((seen.row.kind, seen.row.id.as_str()), (place, parent(&seen.row))))
        .collect();
    let mut out = HashSet::new();
    let mut runs: BTreeMap<String, Vec<Kept<'a>>> = BTreeMap::new();
    for seen in after {
        let key = (seen.row.kind, seen.row.id.as_str());
        let Some((place, was)) = stood.get(&key) else { continue };
        let is = parent(&seen.row);
        if *was == is {
            runs.entry(is).or_default().push((*place, key));
        } else {
            out.insert(key);
        }
    }
    for run in runs.into_values() {
        let kept = longest_rising(&run.iter().map(|(place, _)| *place).collect::<Vec<_>>());
        out.extend(run.iter().enumerate().filter(|(at, _)| !kept.contains(at)).map(|(_, (_, key))| *key));
    }
    out
}

/// Indices of a longest rising subsequence (patience sorting).
fn longest_rising(list: &[usize]) -> HashSet<usize> {
    let mut tails: Vec<usize> = Vec::new();
    let mut previous: Vec<Option<usize>> = Vec::with_capacity(list.len());
    for (at, value) in list.iter().enumerate() {
        let pile = tails.partition_point(|tail| list[*tail] < *value);
        previous.push(pile.checked_sub(1).map(|below| tails[below]));
        if pile == tails.len() {
            tails.push(at);
        } else {
            tails[pile] = at;
        }
    }
    let mut out = HashSet::new();
    let mut at = tails.last().copied();
    while let Some(here) = at {
        out.insert(here);
        at = previous[here];
    }
    out
}

/// Compares an older with a newer version.
#[must_use]
pub fn compare(old: &Dialogue, new: &Dialogue) -> Compared {
    Compared { rows: compare_rows(old, new, true), others: others::others(old, new) }
}

/// Compares the outlines; rows without a change have words only where they are asked for.
pub(super) fn compare_rows(old: &Dialogue, new: &Dialogue, all_words: bool) -> Vec<ComparedRow> {
    let (before, after) = (seen(old), seen(new));
    let known: HashMap<(RowKind, &str), &Seen<'_>> =
        before.iter().map(|seen| ((seen.row.kind, seen.row.id.as_str()), seen)).collect();
    let kept: HashSet<(RowKind, &str)> = after.iter().map(|seen| (seen.row.kind, seen.row.id.as_str())).collect();
    let moved = moved(&before, &after);
    // Rows that are gone stand after the last row before them that is still there.
    let mut gone: BTreeMap<Option<(RowKind, String)>, Vec<&Seen<'_>>> = BTreeMap::new();
    let mut anchor: Option<(RowKind, String)> = None;
    for seen in &before {
        let key = (seen.row.kind, seen.row.id.as_str());
        if kept.contains(&key) {
            anchor = Some((seen.row.kind, seen.row.id.clone()));
        } else {
            gone.entry(anchor.clone()).or_default().push(seen);
        }
    }
    let mut out = Vec::new();
    let removed = |seen: &&Seen<'_>| ComparedRow {
        kind: seen.row.kind,
        id: seen.row.id.clone(),
        depth: seen.row.depth,
        label: seen.label().to_owned(),
        change: Change::Removed,
        before: Some(seen.full()),
        after: None,
    };
    out.extend(gone.get(&None).into_iter().flatten().map(removed));
    for seen in &after {
        let key = (seen.row.kind, seen.row.id.as_str());
        let was = known.get(&key).copied();
        let change = match was {
            None => Change::Added,
            Some(was) if !was.same(seen) => {
                if !was.leads_as(seen) {
                    Change::Rerouted
                } else if was.words() != seen.words() {
                    Change::Reworded
                } else {
                    Change::Changed
                }
            }
            Some(was) if rescored(old, new, &was.part, &seen.part) => Change::Rescored,
            Some(_) if moved.contains(&key) => Change::Moved,
            Some(_) => Change::Same,
        };
        out.push(ComparedRow {
            kind: seen.row.kind,
            id: seen.row.id.clone(),
            depth: seen.row.depth,
            label: seen.label().to_owned(),
            change,
            before: was.filter(|_| !matches!(change, Change::Same | Change::Moved)).map(Seen::full),
            after: (all_words || change != Change::Same).then(|| seen.full()),
        });
        out.extend(gone.get(&Some((seen.row.kind, seen.row.id.clone()))).into_iter().flatten().map(removed));
    }
    out
}

/// True where an option arm's answer is worth other points by plain conditions.
fn rescored(old: &Dialogue, new: &Dialogue, was: &Part<'_>, is: &Part<'_>) -> bool {
    let (Part::Arm(Turn::Ask(old_ask), _), Part::Arm(Turn::Ask(ask), arm)) = (was, is) else { return false };
    let lumbo_dialogue::file::When::Options(keys) = &arm.when else { return false };
    keys.iter().any(|key| option_points(old, &old_ask.field, key) != option_points(new, &ask.field, key))
}

/// Points that the default scorecard gives for one option by plain conditions.
fn option_points(dialogue: &Dialogue, field: &str, option: &str) -> i64 {
    let criteria =
        dialogue.default_card().into_iter().flat_map(|card| &card.dimensions).flat_map(|dimension| &dimension.criteria);
    criteria
        .filter_map(|criterion| match &criterion.gives {
            Gives::When { holds: lumbo_dialogue::file::Condition::Compare(compare), points }
                if compare.what == field && compare.is == lumbo_dialogue::file::Operator::Is =>
            {
                compare.to.as_ref().filter(|to| to.values().iter().any(|value| value == option)).map(|_| *points)
            }
            _ => None,
        })
        .sum()
}

#[cfg(test)]
mod tests;
