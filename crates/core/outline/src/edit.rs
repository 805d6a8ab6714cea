//! Editing a dialogue by operations addressed by id. Every operation gives its inverse, so that undo is an edit like
//! any other and a log of edits can be read back in both directions.

use std::collections::HashSet;

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use lumbo_dialogue::file::Follow;
use lumbo_dialogue::file::{
    Arm, Brief, Dialogue, Field, Id, Offer, Opening, Outcome, Routing, Scorecard, Section, Settings, SideTalk, Table,
    Text, Turn, is_id,
};
use lumbo_dialogue::turns::references;
use lumbo_formula::Names;

/// Deepest nesting of arms.
pub const DEPTH_LIMIT: usize = 12;
/// Most turns in a dialogue.
pub const TURN_LIMIT: usize = 5_000;

/// A place for a turn.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Place {
    /// The section or arm it stands in.
    pub parent: Parent,
    /// Its index there; larger than there are turns means last.
    pub index: u32,
}

/// What a turn stands in.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Parent {
    /// A section by id.
    Section(Id),
    /// An arm by id.
    Arm(Id),
}

/// One change.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(tag = "op", rename_all = "snake_case", deny_unknown_fields)]
pub enum Edit {
    /// Puts in a turn with everything in its arms.
    InsertTurn {
        /// Where.
        at: Place,
        /// The turn.
        turn: Turn,
    },
    /// Changes a turn; its arms stay as they are, whatever the new one carries.
    ChangeTurn {
        /// The turn, with the id of the one it replaces.
        turn: Turn,
    },
    /// Moves a turn with everything in its arms.
    MoveTurn {
        /// Which.
        id: Id,
        /// Where to; the index counts after it was taken out.
        to: Place,
    },
    /// Takes out a turn with everything in its arms.
    RemoveTurn {
        /// Which.
        id: Id,
    },
    /// Puts in an arm with its turns.
    InsertArm {
        /// The turn.
        turn: Id,
        /// Its index among the turn's arms.
        index: u32,
        /// The arm.
        arm: Arm,
    },
    /// Changes an arm; its turns stay as they are.
    ChangeArm {
        /// The arm, with the id of the one it replaces.
        arm: Arm,
    },
    /// Moves an arm among its turn's arms.
    MoveArm {
        /// Which.
        id: Id,
        /// Where to; counts after it was taken out.
        index: u32,
    },
    /// Takes out an arm with its turns.
    RemoveArm {
        /// Which.
        id: Id,
    },
    /// Puts in a section with its turns.
    InsertSection {
        /// Its index.
        index: u32,
        /// The section.
        section: Section,
    },
    /// Changes a section's title and what follows it.
    ChangeSection {
        /// Which.
        id: Id,
        /// Its title.
        title: String,
        /// What follows it.
        then: Follow,
    },
    /// Moves a section.
    MoveSection {
        /// Which.
        id: Id,
        /// Where to; counts after it was taken out.
        index: u32,
    },
    /// Takes out a section with its turns.
    RemoveSection {
        /// Which.
        id: Id,
    },
    /// Adds a field, or changes the one with its id. A new key is followed by every reference.
    PutField {
        /// The field.
        field: Field,
    },
    /// Takes out a field.
    RemoveField {
        /// Which.
        id: Id,
    },
    /// Changes the title.
    SetTitle {
        /// The title.
        title: String,
    },
    /// Changes the opening.
    SetOpening {
        /// The opening.
        opening: Opening,
    },
    /// Changes the brief.
    SetBrief {
        /// The brief.
        brief: Brief,
    },
    /// Changes which findings the author accepts.
    SetAccepted {
        /// Each as `check key at place`.
        accepted: Vec<String>,
    },
    /// Changes the outcomes.
    SetOutcomes {
        /// The outcomes.
        outcomes: Vec<Outcome>,
    },
    /// Changes the scorecards.
    SetScorecards {
        /// The scorecards.
        scorecards: Vec<Scorecard>,
        /// The one that is used where none is named.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        default: Option<Id>,
    },
    /// Changes the routing rules.
    SetRouting {
        /// The routing.
        routing: Routing,
    },
    /// Changes the tables.
    SetTables {
        /// The tables.
        tables: Vec<Table>,
    },
    /// Changes side-talk and offers.
    SetAnyTime {
        /// Side-talk.
        side_talk: Vec<SideTalk>,
        /// Offers.
        offers: Vec<Offer>,
    },
    /// Changes the author's wording for one built-in phrase; absent means the built-in one.
    SetPhrase {
        /// Its key.
        key: String,
        /// The wording.
        text: Option<Text>,
    },
    /// Changes the settings.
    SetSettings {
        /// The settings.
        settings: Settings,
    },
    /// Names the media type of a picture or document that texts show, by the hash of its content; absent takes it out.
    SetMedia {
        /// The hash.
        hash: String,
        /// The media type.
        media_type: Option<String>,
    },
    /// Replaces the whole dialogue: an old release brought back as the draft.
    SetAll {
        /// The dialogue.
        dialogue: Box<Dialogue>,
    },
}

/// Why a change cannot be made. Nothing is changed then.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum EditError {
    /// What it names is gone.
    #[error("the {what} “{id}” is not there any more")]
    Gone {
        /// Turn, arm, section or field.
        what: &'static str,
        /// Its id.
        id: Id,
    },
    /// An id is taken or not well formed.
    #[error("the id “{id}” is {why}")]
    Id {
        /// The id.
        id: Id,
        /// Why.
        why: &'static str,
    },
    /// A field's key is taken or not well formed.
    #[error("the key “{key}” is {why}")]
    Key {
        /// The key.
        key: String,
        /// Why.
        why: &'static str,
    },
    /// A turn of a kind that has no arms.
    #[error("a {0} has no arms")]
    NoArms(&'static str),
    /// A turn moved into its own arm.
    #[error("a turn cannot move into its own arm")]
    IntoItself,
    /// The only section.
    #[error("an outline keeps at least one section")]
    LastSection,
    /// Nested too deep, or too many turns.
    #[error("an outline has at most {TURN_LIMIT} turns, nested {DEPTH_LIMIT} deep")]
    TooLarge,
    /// A field that is still used.
    #[error("“{label}” is still used in {places} place{}; change those first", if *.places == 1 { "" } else { "s" })]
    InUse {
        /// The field's label.
        label: String,
        /// How many.
        places: usize,
    },
}

/// An edit with keys in place of the labels that were typed, in formulas and in chips. Whole dialogues, fields and what
/// only moves or takes out stay as they are.
fn by_key(dialogue: &Dialogue, edit: Edit) -> Edit {
    let writes = matches!(
        edit,
        Edit::InsertTurn { .. }
            | Edit::ChangeTurn { .. }
            | Edit::InsertArm { .. }
            | Edit::InsertSection { .. }
            | Edit::ChangeSection { .. }
            | Edit::SetScorecards { .. }
            | Edit::SetAnyTime { .. }
            | Edit::SetPhrase { .. }
            | Edit::SetOpening { .. }
    );
    if !writes {
        return edit;
    }
    let Ok(mut json) = serde_json::to_value(&edit) else { return edit };
    references::by_key(&mut json, Names { fields: &dialogue.fields, tables: &dialogue.tables });
    serde_json::from_value(json).unwrap_or(edit)
}

/// Makes one change and gives its inverse.
///
/// # Errors
/// An [`EditError`]; the dialogue is then unchanged.
pub fn apply(dialogue: &mut Dialogue, edit: Edit) -> Result<Edit, EditError> {
    match by_key(dialogue, edit) {
        Edit::InsertTurn { at, turn } => {
            fresh(dialogue, &ids_of(&turn))?;
            let id = turn.id().to_owned();
            let depth = depth_of(dialogue, &at.parent)? + nesting(std::slice::from_ref(&turn));
            within_limits(dialogue, depth, count(std::slice::from_ref(&turn)))?;
            insert(dialogue, &at, turn)?;
            Ok(Edit::RemoveTurn { id })
        }
        Edit::ChangeTurn { mut turn } => {
            let id = turn.id().to_owned();
            let old = turn_mut(&mut dialogue.sections, &id).ok_or(EditError::Gone { what: "turn", id })?;
            let had_arms = old.arms_mut().map(std::mem::take);
            match (turn.arms_mut(), had_arms) {
                (Some(new), Some(arms)) => {
                    // The inverse carries no arms; they stay with the turn.
                    *new = arms;
                }
                (None, Some(arms)) if !arms.is_empty() => {
                    let kind = turn.kind_label();
                    if let Some(place) = old.arms_mut() {
                        *place = arms;
                    }
                    return Err(EditError::NoArms(kind));
                }
                (Some(new), None) => new.clear(),
                _ => {}
            }
            Ok(Edit::ChangeTurn { turn: std::mem::replace(old, turn) })
        }
        Edit::MoveTurn { id, to } => {
            let moved = turn_mut(&mut dialogue.sections, &id)
                .ok_or_else(|| EditError::Gone { what: "turn", id: id.clone() })?;
            if let Parent::Arm(arm) = &to.parent
                && ids_of(moved).contains(&arm.as_str())
            {
                return Err(EditError::IntoItself);
            }
            let depth = nesting(std::slice::from_ref(moved));
            within_limits(dialogue, depth_of(dialogue, &to.parent)? + depth, 0)?;
            let (turn, from) = take(dialogue, &id)?;
            insert(dialogue, &to, turn)?;
            Ok(Edit::MoveTurn { id, to: from })
        }
        Edit::RemoveTurn { id } => {
            let (turn, at) = take(dialogue, &id)?;
            Ok(Edit::InsertTurn { at, turn })
        }
        Edit::InsertArm { turn, index, arm } => {
            let mut ids = vec![arm.id.as_str()];
            arm.turns.iter().for_each(|turn| ids.extend(ids_of(turn)));
            fresh(dialogue, &ids)?;
            let id = arm.id.clone();
            let parent = turn_mut(&mut dialogue.sections, &turn).ok_or(EditError::Gone { what: "turn", id: turn })?;
            let kind = parent.kind_label();
            let arms = parent.arms_mut().ok_or(EditError::NoArms(kind))?;
            arms.insert((index as usize).min(arms.len()), arm);
            Ok(Edit::RemoveArm { id })
        }
        Edit::ChangeArm { mut arm } => {
            let old = arm_mut(&mut dialogue.sections, &arm.id)
                .ok_or_else(|| EditError::Gone { what: "arm", id: arm.id.clone() })?;
            arm.turns = std::mem::take(&mut old.turns);
            Ok(Edit::ChangeArm { arm: std::mem::replace(old, arm) })
        }
        Edit::MoveArm { id, index } => {
            let (turn, from) =
                arm_place(dialogue, &id).ok_or_else(|| EditError::Gone { what: "arm", id: id.clone() })?;
            if let Some(arms) = turn_mut(&mut dialogue.sections, &turn).and_then(Turn::arms_mut) {
                let arm = arms.remove(from);
                arms.insert((index as usize).min(arms.len()), arm);
            }
            Ok(Edit::MoveArm { id, index: place(from) })
        }
        Edit::RemoveArm { id } => {
            let (turn, index) =
                arm_place(dialogue, &id).ok_or_else(|| EditError::Gone { what: "arm", id: id.clone() })?;
            let arms = turn_mut(&mut dialogue.sections, &turn)
                .and_then(Turn::arms_mut)
                .ok_or(EditError::Gone { what: "arm", id })?;
            let arm = arms.remove(index);
            Ok(Edit::InsertArm { turn, index: place(index), arm })
        }
        Edit::InsertSection { index, section } => {
            let mut ids = vec![section.id.as_str()];
            section.turns.iter().for_each(|turn| ids.extend(ids_of(turn)));
            fresh(dialogue, &ids)?;
            within_limits(dialogue, nesting(&section.turns), count(&section.turns))?;
            let id = section.id.clone();
            dialogue.sections.insert((index as usize).min(dialogue.sections.len()), section);
            Ok(Edit::RemoveSection { id })
        }
        Edit::ChangeSection { id, title, then } => {
            let section = dialogue
                .sections
                .iter_mut()
                .find(|section| section.id == id)
                .ok_or_else(|| EditError::Gone { what: "section", id: id.clone() })?;
            Ok(Edit::ChangeSection {
                id,
                title: std::mem::replace(&mut section.title, title),
                then: std::mem::replace(&mut section.then, then),
            })
        }
        Edit::MoveSection { id, index } => {
            let from = section_index(dialogue, &id)?;
            let section = dialogue.sections.remove(from);
            dialogue.sections.insert((index as usize).min(dialogue.sections.len()), section);
            Ok(Edit::MoveSection { id, index: place(from) })
        }
        Edit::RemoveSection { id } => {
            let index = section_index(dialogue, &id)?;
            if dialogue.sections.len() == 1 {
                return Err(EditError::LastSection);
            }
            let section = dialogue.sections.remove(index);
            Ok(Edit::InsertSection { index: place(index), section })
        }
        Edit::PutField { field } => put_field(dialogue, field),
        Edit::RemoveField { id } => {
            let index =
                dialogue.fields.iter().position(|field| field.id == id).ok_or(EditError::Gone { what: "field", id })?;
            let field = &dialogue.fields[index];
            let places = references::count(dialogue, &field.key);
            if places > 0 {
                return Err(EditError::InUse { label: field.label.clone(), places });
            }
            Ok(Edit::PutField { field: dialogue.fields.remove(index) })
        }
        Edit::SetTitle { title } => Ok(Edit::SetTitle { title: std::mem::replace(&mut dialogue.title, title) }),
        Edit::SetOpening { opening } => {
            Ok(Edit::SetOpening { opening: std::mem::replace(&mut dialogue.opening, opening) })
        }
        Edit::SetBrief { brief } => Ok(Edit::SetBrief { brief: std::mem::replace(&mut dialogue.brief, brief) }),
        Edit::SetAccepted { accepted } => {
            Ok(Edit::SetAccepted { accepted: std::mem::replace(&mut dialogue.accepted, accepted) })
        }
        Edit::SetOutcomes { outcomes } => {
            Ok(Edit::SetOutcomes { outcomes: std::mem::replace(&mut dialogue.outcomes, outcomes) })
        }
        Edit::SetScorecards { scorecards, default } => Ok(Edit::SetScorecards {
            scorecards: std::mem::replace(&mut dialogue.scorecards, scorecards),
            default: std::mem::replace(&mut dialogue.default_scorecard, default),
        }),
        Edit::SetRouting { routing } => {
            Ok(Edit::SetRouting { routing: std::mem::replace(&mut dialogue.routing, routing) })
        }
        Edit::SetTables { tables } => Ok(Edit::SetTables { tables: std::mem::replace(&mut dialogue.tables, tables) }),
        Edit::SetAnyTime { side_talk, offers } => Ok(Edit::SetAnyTime {
            side_talk: std::mem::replace(&mut dialogue.side_talk, side_talk),
            offers: std::mem::replace(&mut dialogue.offers, offers),
        }),
        Edit::SetPhrase { key, text } => {
            let old = match text {
                Some(text) => dialogue.phrases.insert(key.clone(), text),
                None => dialogue.phrases.remove(&key),
            };
            Ok(Edit::SetPhrase { key, text: old })
        }
        Edit::SetSettings { settings } => {
            Ok(Edit::SetSettings { settings: std::mem::replace(&mut dialogue.settings, settings) })
        }
        Edit::SetMedia { hash, media_type } => {
            let old = match media_type {
                Some(media_type) => dialogue.media.insert(hash.clone(), media_type),
                None => dialogue.media.remove(&hash),
            };
            Ok(Edit::SetMedia { hash, media_type: old })
        }
        Edit::SetAll { dialogue: new } => {
            if count_all(&new) > TURN_LIMIT || new.sections.iter().any(|section| nesting(&section.turns) > DEPTH_LIMIT)
            {
                return Err(EditError::TooLarge);
            }
            Ok(Edit::SetAll { dialogue: Box::new(std::mem::replace(dialogue, *new)) })
        }
    }
}

/// Ids of sections, turns, arms and fields that an edit touches; two edits that touch none in common do not collide.
#[must_use]
pub fn touches(edit: &Edit) -> Vec<String> {
    let parent = |place: &Place| match &place.parent {
        Parent::Section(id) | Parent::Arm(id) => id.clone(),
    };
    match edit {
        Edit::InsertTurn { at, turn } => vec![parent(at), turn.id().to_owned()],
        Edit::ChangeTurn { turn } => vec![turn.id().to_owned()],
        Edit::MoveTurn { id, to } => vec![id.clone(), parent(to)],
        Edit::RemoveTurn { id }
        | Edit::MoveArm { id, .. }
        | Edit::RemoveArm { id }
        | Edit::ChangeSection { id, .. }
        | Edit::MoveSection { id, .. }
        | Edit::RemoveSection { id }
        | Edit::RemoveField { id } => vec![id.clone()],
        Edit::InsertArm { turn, arm, .. } => vec![turn.clone(), arm.id.clone()],
        Edit::ChangeArm { arm } => vec![arm.id.clone()],
        Edit::InsertSection { section, .. } => vec![section.id.clone()],
        Edit::PutField { field } => vec![field.id.clone()],
        Edit::SetTitle { .. } => vec!["title".into()],
        Edit::SetOpening { .. } => vec!["opening".into()],
        Edit::SetBrief { .. } => vec!["brief".into()],
        Edit::SetAccepted { .. } => vec!["accepted".into()],
        Edit::SetOutcomes { .. } => vec!["outcomes".into()],
        Edit::SetScorecards { .. } => vec!["scoring".into()],
        Edit::SetRouting { .. } => vec!["routing".into()],
        Edit::SetTables { .. } => vec!["tables".into()],
        Edit::SetAnyTime { .. } => vec!["any-time".into()],
        Edit::SetPhrase { key, .. } => vec![key.clone()],
        Edit::SetSettings { .. } => vec!["settings".into()],
        Edit::SetMedia { hash, .. } => vec![hash.clone()],
        Edit::SetAll { .. } => vec!["everything".into()],
    }
}

fn place(index: usize) -> u32 {
    u32::try_from(index).unwrap_or(u32::MAX)
}

fn put_field(dialogue: &mut Dialogue, field: Field) -> Result<Edit, EditError> {
    if !is_id(&field.id) {
        return Err(EditError::Id { id: field.id, why: "not well formed" });
    }
    if !lumbo_value::is_key(&field.key) {
        return Err(EditError::Key {
            key: field.key,
            why: "not well formed: a small letter, then small letters, digits or _",
        });
    }
    if dialogue.fields.iter().any(|known| known.key == field.key && known.id != field.id) {
        return Err(EditError::Key { key: field.key, why: "taken by another field" });
    }
    let Some(index) = dialogue.fields.iter().position(|known| known.id == field.id) else {
        let id = field.id.clone();
        dialogue.fields.push(field);
        return Ok(Edit::RemoveField { id });
    };
    let old = std::mem::replace(&mut dialogue.fields[index], field);
    let key = dialogue.fields[index].key.clone();
    if old.key != key {
        references::rename(dialogue, &old.key, &key);
    }
    Ok(Edit::PutField { field: old })
}

/// Ids of a turn and of everything in its arms.
pub(crate) fn ids_of(turn: &Turn) -> Vec<&str> {
    let mut out = vec![turn.id()];
    for arm in turn.arms() {
        out.push(&arm.id);
        for turn in &arm.turns {
            out.extend(ids_of(turn));
        }
    }
    out
}

fn fresh(dialogue: &Dialogue, ids: &[&str]) -> Result<(), EditError> {
    let mut known: HashSet<&str> = HashSet::new();
    for section in &dialogue.sections {
        known.insert(&section.id);
        for turn in &section.turns {
            known.extend(ids_of(turn));
        }
    }
    for id in ids {
        if !is_id(id) {
            return Err(EditError::Id { id: (*id).to_owned(), why: "not well formed" });
        }
        if !known.insert(id) {
            return Err(EditError::Id { id: (*id).to_owned(), why: "taken" });
        }
    }
    Ok(())
}

fn nesting(turns: &[Turn]) -> usize {
    turns.iter().flat_map(Turn::arms).map(|arm| 1 + nesting(&arm.turns)).max().unwrap_or(0)
}

fn count(turns: &[Turn]) -> usize {
    turns.iter().map(|turn| 1 + turn.arms().iter().map(|arm| count(&arm.turns)).sum::<usize>()).sum()
}

fn count_all(dialogue: &Dialogue) -> usize {
    dialogue.sections.iter().map(|section| count(&section.turns)).sum()
}

fn within_limits(dialogue: &Dialogue, depth: usize, added: usize) -> Result<(), EditError> {
    if depth > DEPTH_LIMIT || count_all(dialogue) + added > TURN_LIMIT { Err(EditError::TooLarge) } else { Ok(()) }
}

fn depth_of(dialogue: &Dialogue, parent: &Parent) -> Result<usize, EditError> {
    fn find(turns: &[Turn], id: &str, depth: usize) -> Option<usize> {
        turns
            .iter()
            .flat_map(Turn::arms)
            .find_map(|arm| if arm.id == id { Some(depth + 1) } else { find(&arm.turns, id, depth + 1) })
    }
    match parent {
        Parent::Section(id) => section_index(dialogue, id).map(|_| 0),
        Parent::Arm(id) => dialogue
            .sections
            .iter()
            .find_map(|section| find(&section.turns, id, 0))
            .ok_or_else(|| EditError::Gone { what: "arm", id: id.clone() }),
    }
}

fn section_index(dialogue: &Dialogue, id: &str) -> Result<usize, EditError> {
    dialogue
        .sections
        .iter()
        .position(|section| section.id == id)
        .ok_or_else(|| EditError::Gone { what: "section", id: id.to_owned() })
}

/// Calls `visit` with every run of turns, until it gives something.
fn each_run<T>(sections: &mut [Section], visit: &mut impl FnMut(Parent, &mut Vec<Turn>) -> Option<T>) -> Option<T> {
    fn inside<T>(turns: &mut [Turn], visit: &mut impl FnMut(Parent, &mut Vec<Turn>) -> Option<T>) -> Option<T> {
        for turn in turns {
            for arm in turn.arms_mut().into_iter().flatten() {
                if let Some(found) =
                    visit(Parent::Arm(arm.id.clone()), &mut arm.turns).or_else(|| inside(&mut arm.turns, visit))
                {
                    return Some(found);
                }
            }
        }
        None
    }
    for section in sections {
        if let Some(found) =
            visit(Parent::Section(section.id.clone()), &mut section.turns).or_else(|| inside(&mut section.turns, visit))
        {
            return Some(found);
        }
    }
    None
}

fn take(dialogue: &mut Dialogue, id: &str) -> Result<(Turn, Place), EditError> {
    each_run(&mut dialogue.sections, &mut |parent, turns| {
        let index = turns.iter().position(|turn| turn.id() == id)?;
        Some((turns.remove(index), Place { parent, index: place(index) }))
    })
    .ok_or_else(|| EditError::Gone { what: "turn", id: id.to_owned() })
}

fn insert(dialogue: &mut Dialogue, at: &Place, turn: Turn) -> Result<(), EditError> {
    let mut turn = Some(turn);
    each_run(&mut dialogue.sections, &mut |parent, turns| {
        if parent != at.parent {
            return None;
        }
        turns.insert((at.index as usize).min(turns.len()), turn.take()?);
        Some(())
    })
    .ok_or_else(|| match &at.parent {
        Parent::Section(id) => EditError::Gone { what: "section", id: id.clone() },
        Parent::Arm(id) => EditError::Gone { what: "arm", id: id.clone() },
    })
}

fn turn_mut<'a>(sections: &'a mut [Section], id: &str) -> Option<&'a mut Turn> {
    fn find<'a>(turns: &'a mut [Turn], id: &str) -> Option<&'a mut Turn> {
        for turn in turns {
            if turn.id() == id {
                return Some(turn);
            }
            for arm in turn.arms_mut().into_iter().flatten() {
                if let Some(found) = find(&mut arm.turns, id) {
                    return Some(found);
                }
            }
        }
        None
    }
    sections.iter_mut().find_map(|section| find(&mut section.turns, id))
}

fn arm_mut<'a>(sections: &'a mut [Section], id: &str) -> Option<&'a mut Arm> {
    fn find<'a>(turns: &'a mut [Turn], id: &str) -> Option<&'a mut Arm> {
        for turn in turns {
            for arm in turn.arms_mut().into_iter().flatten() {
                if arm.id == id {
                    return Some(arm);
                }
                if let Some(found) = find(&mut arm.turns, id) {
                    return Some(found);
                }
            }
        }
        None
    }
    sections.iter_mut().find_map(|section| find(&mut section.turns, id))
}

/// The turn an arm belongs to, and its index there.
fn arm_place(dialogue: &Dialogue, id: &str) -> Option<(Id, usize)> {
    let mut found = None;
    dialogue.each_turn(&mut |_, _, turn| {
        if let Some(index) = turn.arms().iter().position(|arm| arm.id == id) {
            found = Some((turn.id().to_owned(), index));
        }
    });
    found
}

#[cfg(test)]
mod tests;
