//! What an author does in one move, turned into edits: moving several rows, making a section of a run of turns,
//! pasting, writing an outline as text, replacing words. The edits go through [`super::edit::apply`] like any others,
//! so that undo and the log know nothing of gestures.

pub mod fields;

mod clip;
mod shift;
mod understood;

use std::collections::{HashMap, HashSet};

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

pub use clip::{CLIP_FORMAT, Clip, ClipFormat};
pub use shift::Way;
pub use understood::{Understood, UnderstoodField, UnderstoodTurn, understood};

use super::edit::{Edit, EditError, Parent, Place, apply};
use super::rows::{Row, RowKind, rows};
use super::search::{FIND_LIMIT, Search, replace};
use super::written::written;
use lumbo_dialogue::file::Follow;
use lumbo_dialogue::file::{Dialogue, Field, Id, Section, Turn};
use lumbo_dialogue::turns::Visit;

/// Most rows in one gesture.
const ROW_LIMIT: usize = 2_000;

/// A move by an author. Rows are named by the id of their section, turn or arm; what stands inside a named row goes
/// with it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(tag = "gesture", rename_all = "snake_case", deny_unknown_fields)]
pub enum Gesture {
    /// Copies rows right below themselves.
    Duplicate {
        /// Which.
        ids: Vec<Id>,
    },
    /// Takes rows out.
    Remove {
        /// Which.
        ids: Vec<Id>,
    },
    /// Moves rows one step.
    Shift {
        /// Which.
        ids: Vec<Id>,
        /// Where to.
        way: Way,
    },
    /// Moves turns to a place; its index counts before anything is taken out.
    Move {
        /// Which turns.
        ids: Vec<Id>,
        /// Where to.
        to: Place,
    },
    /// Makes a section of turns that stand in a row, and leads there and back.
    ToSection {
        /// The turns.
        ids: Vec<Id>,
        /// The section's title.
        title: String,
    },
    /// Pastes copied turns, or sections below the section of the place.
    Paste {
        /// What was copied.
        clip: Box<Clip>,
        /// Where the first goes.
        at: Place,
    },
    /// Reads a written outline and puts it in.
    Write {
        /// The text; docs/outline-text.md has its forms.
        text: String,
        /// Where its first turn goes.
        at: Place,
    },
    /// Replaces words.
    Replace {
        /// What is looked for.
        search: Search,
        /// What takes its place.
        with: String,
        /// Numbers of the places, from 0, in the order they are found; all where absent.
        #[serde(default)]
        only: Option<Vec<u32>>,
    },
}

/// What a gesture comes to.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Made {
    /// The edits, in order.
    pub edits: Vec<Edit>,
    /// Rows that are new or were moved, as `turn:ID`, `arm:ID`, `section:ID`; the first is the one to look at.
    pub rows: Vec<String>,
    /// What the author should know.
    pub notes: Vec<String>,
}

/// Why a gesture cannot be made. Nothing is changed then.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum GestureError {
    /// One of its edits cannot be made.
    #[error(transparent)]
    Edit(#[from] EditError),
    /// Something else; a sentence for the author.
    #[error("{0}")]
    Says(String),
}

/// Ids that nothing has. The same seed gives the same ids.
#[derive(Debug)]
pub(crate) struct Ids {
    seed: u64,
    taken: HashSet<Id>,
}

impl Ids {
    /// Ids for a dialogue.
    pub(crate) fn new(dialogue: &Dialogue, seed: u64) -> Self {
        let mut taken: HashSet<Id> = dialogue.sections.iter().map(|section| section.id.clone()).collect();
        dialogue.each_turn(&mut |_, _, turn| {
            taken.insert(turn.id().to_owned());
            taken.extend(turn.arms().iter().map(|arm| arm.id.clone()));
        });
        taken.extend(dialogue.fields.iter().map(|field| field.id.clone()));
        Self { seed, taken }
    }

    /// A fresh id with a prefix.
    pub(crate) fn fresh(&mut self, prefix: &str) -> Id {
        loop {
            // SplitMix64 (Steele, Lea and Flood, 2014): distinct for every seed, without randomness of our own.
            self.seed = self.seed.wrapping_add(0x9e37_79b9_7f4a_7c15);
            let mut z = self.seed;
            z = (z ^ (z >> 30)).wrapping_mul(0xbf58_476d_1ce4_e5b9);
            z = (z ^ (z >> 27)).wrapping_mul(0x94d0_49bb_1331_11eb);
            z ^= z >> 31;
            let digits = "0123456789abcdefghijklmnopqrstuvwxyz".as_bytes();
            let mut id = format!("{prefix}_");
            for _ in 0..7 {
                id.push(char::from(digits[usize::try_from(z % 36).unwrap_or(0)]));
                z /= 36;
            }
            if self.taken.insert(id.clone()) {
                return id;
            }
        }
    }
}

/// A gesture under way: the dialogue as changed so far, and the edits that changed it.
pub(crate) struct Work {
    pub(crate) dialogue: Dialogue,
    pub(crate) ids: Ids,
    pub(crate) notes: Vec<String>,
    edits: Vec<Edit>,
    rows: Vec<String>,
}

impl Work {
    fn make(&mut self, edit: Edit) -> Result<(), GestureError> {
        apply(&mut self.dialogue, edit.clone())?;
        self.edits.push(edit);
        Ok(())
    }

    fn made(&mut self, kind: &str, id: &str) {
        self.rows.push(format!("{kind}:{id}"));
    }
}

/// Turns a gesture into edits. `catalogue` are the workspace's fields, `seed` picks new ids.
///
/// # Errors
/// A [`GestureError`].
pub fn expand(dialogue: &Dialogue, gesture: Gesture, catalogue: &[Field], seed: u64) -> Result<Made, GestureError> {
    let mut work = Work {
        dialogue: dialogue.clone(),
        ids: Ids::new(dialogue, seed),
        notes: Vec::new(),
        edits: Vec::new(),
        rows: Vec::new(),
    };
    match gesture {
        Gesture::Duplicate { ids } => duplicate(&mut work, &ids)?,
        Gesture::Remove { ids } => {
            for row in tops(&work.dialogue, &ids)? {
                let id = row.id;
                work.make(match row.kind {
                    RowKind::Turn => Edit::RemoveTurn { id },
                    RowKind::Arm => Edit::RemoveArm { id },
                    RowKind::Section | RowKind::Then => Edit::RemoveSection { id },
                })?;
            }
        }
        Gesture::Shift { ids, way } => shift::shift(&mut work, &ids, way)?,
        Gesture::Move { ids, to } => move_to(&mut work, &ids, to)?,
        Gesture::ToSection { ids, title } => to_section(&mut work, &ids, &title)?,
        Gesture::Paste { clip, at } => clip::paste(&mut work, *clip, at, catalogue)?,
        Gesture::Write { text, at } => write(&mut work, &text, at, catalogue)?,
        Gesture::Replace { search, with, only } => {
            if search.find.is_empty() || search.find.chars().count() > FIND_LIMIT || with.chars().count() > 2_000 {
                return Err(GestureError::Says(format!(
                    "Say what to find, in 1 to {FIND_LIMIT} characters, and what to put there, in at most 2,000."
                )));
            }
            for edit in replace(&work.dialogue, &search, &with, only.as_deref()) {
                work.make(edit)?;
            }
        }
    }
    if work.edits.is_empty() {
        return Err(GestureError::Says("There is nothing to change here.".into()));
    }
    Ok(Made { edits: work.edits, rows: work.rows, notes: work.notes })
}

/// The named rows that do not stand inside another named one, in the order of the outline.
fn tops(dialogue: &Dialogue, ids: &[Id]) -> Result<Vec<Row>, GestureError> {
    if ids.len() > ROW_LIMIT {
        return Err(GestureError::Says(format!("At most {ROW_LIMIT} rows are changed at once.")));
    }
    let named: HashSet<&str> = ids.iter().map(String::as_str).collect();
    let all = rows(dialogue);
    let owners: HashMap<&str, &Row> =
        all.iter().filter(|row| row.kind == RowKind::Arm).map(|row| (row.id.as_str(), row)).collect();
    // Whether a row stands inside a named one: its section, the arm it stands in, that arm's turn, and so on upwards.
    let inside = |row: &Row| {
        if row.kind != RowKind::Section && named.contains(row.section.as_str()) {
            return true;
        }
        if row.turn.as_deref().is_some_and(|turn| named.contains(turn)) {
            return true;
        }
        let mut arm = row.arm.as_deref();
        while let Some(id) = arm {
            let Some(owner) = owners.get(id) else { return false };
            if named.contains(id) || owner.turn.as_deref().is_some_and(|turn| named.contains(turn)) {
                return true;
            }
            arm = owner.arm.as_deref();
        }
        false
    };
    let out: Vec<Row> = all
        .iter()
        .filter(|row| row.kind != RowKind::Then && named.contains(row.id.as_str()) && !inside(row))
        .cloned()
        .collect();
    if out.is_empty() {
        return Err(GestureError::Says("What was picked is not there any more.".into()));
    }
    Ok(out)
}

/// The run of turns that a turn's row stands in.
fn parent_of(row: &Row) -> Parent {
    row.arm.as_ref().map_or_else(|| Parent::Section(row.section.clone()), |arm| Parent::Arm(arm.clone()))
}

fn turns_of<'a>(dialogue: &'a Dialogue, parent: &Parent) -> &'a [Turn] {
    match parent {
        Parent::Section(id) => {
            dialogue.sections.iter().find(|section| section.id == *id).map_or(&[], |section| &section.turns)
        }
        Parent::Arm(id) => {
            let mut found: &[Turn] = &[];
            dialogue.each_turn(&mut |_, _, turn| {
                if let Some(arm) = turn.arms().iter().find(|arm| arm.id == *id) {
                    found = &arm.turns;
                }
            });
            found
        }
    }
}

fn find_turn<'a>(dialogue: &'a Dialogue, id: &str) -> Option<&'a Turn> {
    let mut found = None;
    dialogue.each_turn(&mut |_, _, turn| {
        if turn.id() == id {
            found = Some(turn);
        }
    });
    found
}

/// Gives a turn and everything in its arms fresh ids; ways out that name an arm follow. `map` collects old to new.
fn renew(turn: &mut Turn, ids: &mut Ids, map: &mut HashMap<Id, Id>) {
    let new = ids.fresh("t");
    map.insert(std::mem::replace(turn.id_mut(), new.clone()), new);
    for arm in turn.arms_mut().into_iter().flatten() {
        let new = ids.fresh("a");
        map.insert(std::mem::replace(&mut arm.id, new.clone()), new);
        for turn in &mut arm.turns {
            renew(turn, ids, map);
        }
    }
    if let Turn::Ask(ask) = turn
        && let lumbo_dialogue::file::WayOut::Arm(arm) = &mut ask.way_out
        && let Some(new) = map.get(arm)
    {
        arm.clone_from(new);
    }
}

fn index(index: usize) -> u32 {
    u32::try_from(index).unwrap_or(u32::MAX)
}

fn duplicate(work: &mut Work, ids: &[Id]) -> Result<(), GestureError> {
    let tops = tops(&work.dialogue, ids)?;
    // Copies of turns that stand in one run come as a block below the last of them.
    let mut place: HashMap<String, u32> = HashMap::new();
    for row in &tops {
        if row.kind == RowKind::Turn {
            place.insert(format!("{:?}", parent_of(row)), row.index + 1);
        }
    }
    for row in tops {
        let mut map = HashMap::new();
        match row.kind {
            RowKind::Turn => {
                let Some(turn) = find_turn(&work.dialogue, &row.id) else { continue };
                let mut turn = turn.clone();
                renew(&mut turn, &mut work.ids, &mut map);
                let id = turn.id().to_owned();
                let parent = parent_of(&row);
                let at = place.entry(format!("{parent:?}")).or_insert(row.index + 1);
                let edit = Edit::InsertTurn { at: Place { parent, index: *at }, turn };
                *at += 1;
                work.make(edit)?;
                work.made("turn", &id);
            }
            RowKind::Arm => {
                let owner = row.turn.clone().unwrap_or_default();
                let Some(arm) =
                    find_turn(&work.dialogue, &owner).and_then(|turn| turn.arms().iter().find(|arm| arm.id == row.id))
                else {
                    continue;
                };
                let mut arm = arm.clone();
                arm.id = work.ids.fresh("a");
                for turn in &mut arm.turns {
                    renew(turn, &mut work.ids, &mut map);
                }
                let id = arm.id.clone();
                work.make(Edit::InsertArm { turn: owner, index: row.index + 1, arm })?;
                work.made("arm", &id);
            }
            RowKind::Section | RowKind::Then => {
                let Some(section) = work.dialogue.sections.iter().find(|section| section.id == row.id) else {
                    continue;
                };
                let mut section = section.clone();
                section.id = work.ids.fresh("s");
                section.title = format!("{} (copy)", section.title.chars().take(70).collect::<String>());
                for turn in &mut section.turns {
                    renew(turn, &mut work.ids, &mut map);
                }
                let id = section.id.clone();
                // At the end, so that the section above still carries on to the one it did.
                work.make(Edit::InsertSection { index: index(work.dialogue.sections.len()), section })?;
                work.made("section", &id);
            }
        }
    }
    Ok(())
}

fn only_turns(rows: &[Row]) -> Result<(), GestureError> {
    if rows.iter().all(|row| row.kind == RowKind::Turn) {
        Ok(())
    } else {
        Err(GestureError::Says("Pick turns for this, not arms or sections.".into()))
    }
}

fn move_to(work: &mut Work, ids: &[Id], to: Place) -> Result<(), GestureError> {
    let tops = tops(&work.dialogue, ids)?;
    only_turns(&tops)?;
    let mut at = to.index.min(index(turns_of(&work.dialogue, &to.parent).len()));
    for row in tops {
        // What stands above the place in the same run leaves a gap there.
        let from = super::rows::rows(&work.dialogue)
            .into_iter()
            .find(|known| known.kind == RowKind::Turn && known.id == row.id);
        let above = from.is_some_and(|from| parent_of(&from) == to.parent && from.index < at);
        at -= u32::from(above);
        work.make(Edit::MoveTurn { id: row.id.clone(), to: Place { parent: to.parent.clone(), index: at } })?;
        at += 1;
        work.made("turn", &row.id);
    }
    Ok(())
}

fn to_section(work: &mut Work, ids: &[Id], title: &str) -> Result<(), GestureError> {
    let title = title.trim();
    if title.is_empty() || title.chars().count() > 80 {
        return Err(GestureError::Says("A section’s title has 1 to 80 characters.".into()));
    }
    let tops = tops(&work.dialogue, ids)?;
    only_turns(&tops)?;
    let Some(first) = tops.first() else { return Ok(()) };
    let parent = parent_of(first);
    let in_a_row =
        tops.iter().enumerate().all(|(place, row)| parent_of(row) == parent && row.index == first.index + index(place));
    if !in_a_row {
        return Err(GestureError::Says("Pick turns that follow one another in the same section or arm.".into()));
    }
    let length = turns_of(&work.dialogue, &parent).len();
    let place = work.dialogue.sections.iter().position(|section| section.id == first.section).unwrap_or(0);
    let id = work.ids.fresh("s");
    let to_the_end = matches!(parent, Parent::Section(_)) && first.index as usize + tops.len() == length;
    if to_the_end {
        // The rest of a section: the section carries on to it, and it leads where the section led.
        let old = work.dialogue.sections[place].clone();
        let then = old.then.clone();
        work.make(Edit::InsertSection {
            index: index(place + 1),
            section: Section { id: id.clone(), title: title.to_owned(), turns: Vec::new(), then },
        })?;
        if old.then != Follow::CarryOn {
            work.make(Edit::ChangeSection { id: old.id, title: old.title, then: Follow::CarryOn })?;
        }
    } else {
        let last = index(work.dialogue.sections.len());
        work.make(Edit::InsertSection {
            index: last,
            section: Section { id: id.clone(), title: title.to_owned(), turns: Vec::new(), then: Follow::Return },
        })?;
    }
    for (at, row) in tops.iter().enumerate() {
        work.make(Edit::MoveTurn {
            id: row.id.clone(),
            to: Place { parent: Parent::Section(id.clone()), index: index(at) },
        })?;
    }
    if !to_the_end {
        let visit = work.ids.fresh("t");
        let turn = Turn::Visit(Visit { id: visit, section: id.clone() });
        work.make(Edit::InsertTurn { at: Place { parent, index: first.index }, turn })?;
    }
    work.made("section", &id);
    Ok(())
}

fn write(work: &mut Work, text: &str, at: Place, catalogue: &[Field]) -> Result<(), GestureError> {
    let read = written(work, text, catalogue)?;
    // The Close of a blank dialogue would stand in the way to the sections that are written.
    if !read.sections.is_empty()
        && let Some(blank) = work.dialogue.sections.first().and_then(super::from_brief::blank_close)
    {
        work.make(Edit::RemoveTurn { id: blank })?;
    }
    for field in read.fields {
        work.make(Edit::PutField { field })?;
    }
    put_in(work, read.turns, at, read.sections)
}

/// Puts turns in at a place, and sections below the place's section.
fn put_in(work: &mut Work, turns: Vec<Turn>, at: Place, sections: Vec<Section>) -> Result<(), GestureError> {
    let home = match &at.parent {
        Parent::Section(id) => work.dialogue.sections.iter().position(|section| section.id == *id),
        Parent::Arm(id) => {
            let holder = rows(&work.dialogue).into_iter().find(|row| row.kind == RowKind::Arm && row.id == *id);
            holder.and_then(|row| work.dialogue.sections.iter().position(|section| section.id == row.section))
        }
    };
    // Sections first: turns may lead to them.
    let below = home.map_or(work.dialogue.sections.len(), |home| home + 1);
    let mut later = Vec::new();
    for (place, mut section) in (below..).zip(sections) {
        let id = section.id.clone();
        let turns = std::mem::take(&mut section.turns);
        work.make(Edit::InsertSection { index: index(place), section })?;
        later.push((id, turns));
    }
    let first = at.index.min(index(turns_of(&work.dialogue, &at.parent).len()));
    for (place, turn) in (first..).zip(turns) {
        let id = turn.id().to_owned();
        work.make(Edit::InsertTurn { at: Place { parent: at.parent.clone(), index: place }, turn })?;
        work.made("turn", &id);
    }
    for (id, turns) in later {
        work.made("section", &id);
        for (at, turn) in turns.into_iter().enumerate() {
            work.make(Edit::InsertTurn { at: Place { parent: Parent::Section(id.clone()), index: index(at) }, turn })?;
        }
    }
    Ok(())
}

#[cfg(test)]
mod tests;
