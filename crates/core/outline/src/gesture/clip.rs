//! Copied rows, and pasting them into this or another dialogue with every reference kept whole: fields are matched or
//! made, sections and outcomes found by id or name or made, tables and media brought along.

use std::collections::{BTreeMap, HashMap};

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use super::fields::fresh_key;
use super::{GestureError, Work, put_in, renew};
use crate::edit::{Edit, Parent, Place, apply};
use lumbo_dialogue::file::{Arm, Dialogue, Field, Id, Outcome, Section, Table, Then, Turn};
use lumbo_dialogue::file::{Ending, Follow};
use lumbo_dialogue::turns::references;
use lumbo_language::fold;

/// Format tag of copied rows.
pub const CLIP_FORMAT: &str = "lumbo.clip/1";

/// The format tag.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub enum ClipFormat {
    /// The first format.
    #[serde(rename = "lumbo.clip/1")]
    V1,
}

/// Copied rows with everything that they may refer to; what they do not refer to is left behind when they are pasted.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Clip {
    /// `lumbo.clip/1`.
    pub format: ClipFormat,
    /// Copied turns, in order.
    #[serde(default)]
    pub turns: Vec<Turn>,
    /// Copied arms of one kind of turn, in order.
    #[serde(default)]
    pub arms: Vec<Arm>,
    /// Copied sections, in order.
    #[serde(default)]
    pub sections: Vec<Section>,
    /// Fields of the dialogue they come from.
    #[serde(default)]
    pub fields: Vec<Field>,
    /// Its outcomes.
    #[serde(default)]
    pub outcomes: Vec<Outcome>,
    /// Its tables.
    #[serde(default)]
    pub tables: Vec<Table>,
    /// Media types of its pictures and documents by hash.
    #[serde(default)]
    pub media: BTreeMap<String, String>,
    /// Titles of its sections by id.
    #[serde(default)]
    pub titles: BTreeMap<Id, String>,
}

pub(super) fn paste(work: &mut Work, clip: Clip, at: Place, catalogue: &[Field]) -> Result<(), GestureError> {
    if clip.turns.is_empty() && clip.sections.is_empty() && clip.arms.is_empty() {
        return Err(GestureError::Says("There is nothing to paste.".into()));
    }
    // The copied rows as a dialogue of their own, so that renaming a field's key there finds every reference.
    let Clip { turns, arms, sections, fields, outcomes, tables, media, titles, .. } = clip;
    let holder = Section { id: String::new(), title: String::new(), turns, then: Follow::CarryOn };
    let arms_holder = Section {
        id: String::new(),
        title: String::new(),
        turns: vec![Turn::Fork(lumbo_dialogue::turns::Fork { id: String::new(), arms })],
        then: Follow::CarryOn,
    };
    let mut from = Dialogue {
        sections: [vec![holder, arms_holder], sections].concat(),
        fields,
        tables,
        outcomes,
        media,
        ..empty(&work.dialogue)
    };
    bring_fields(work, &mut from, catalogue)?;
    bring_tables(work, &from)?;
    bring_outcomes(work, &mut from)?;
    bring_media(work, &from)?;

    let mut sections = from.sections.split_off(2);
    let mut map: HashMap<Id, Id> = HashMap::new();
    for section in &mut sections {
        let new = work.ids.fresh("s");
        map.insert(std::mem::replace(&mut section.id, new.clone()), new);
    }
    let mut arms = match from.sections[1].turns.remove(0) {
        Turn::Fork(fork) => fork.arms,
        _ => Vec::new(),
    };
    let mut turns = std::mem::take(&mut from.sections[0].turns);
    let mut all: Vec<&mut Turn> =
        turns.iter_mut().chain(sections.iter_mut().flat_map(|section| &mut section.turns)).collect();
    all.extend(arms.iter_mut().flat_map(|arm| &mut arm.turns));
    let mut inner: HashMap<Id, Id> = HashMap::new();
    for turn in all {
        renew(turn, &mut work.ids, &mut inner);
    }
    for arm in &mut arms {
        arm.id = work.ids.fresh("a");
    }
    let mut missing: Vec<Section> = Vec::new();
    let mut lead = |target: &mut Id| {
        if let Some(new) = map.get(target) {
            target.clone_from(new);
            return;
        }
        let title = titles.get(target).cloned().unwrap_or_else(|| target.clone());
        let known = &work.dialogue.sections;
        // The same id means the same section where the title agrees, as in a copy of the same dialogue.
        let same = known
            .iter()
            .find(|section| section.id == *target && (section.title == title || !titles.contains_key(target)));
        let found = same
            .or_else(|| known.iter().find(|section| fold(&section.title) == fold(&title)))
            .map(|section| section.id.clone());
        let id = found.unwrap_or_else(|| {
            work.notes.push(format!("There was no section “{title}”; an empty one was made."));
            let id = work.ids.fresh("s");
            missing.push(Section { id: id.clone(), title, turns: Vec::new(), then: Follow::CarryOn });
            id
        });
        map.insert(std::mem::replace(target, id.clone()), id);
    };
    for section in &mut sections {
        if let Follow::GoTo(target) = &mut section.then {
            lead(target);
        }
        leads(&mut section.turns, &mut lead);
    }
    leads(&mut turns, &mut lead);
    leads_of_arms(&mut arms, &mut lead);
    for section in missing {
        let last = u32::try_from(work.dialogue.sections.len()).unwrap_or(u32::MAX);
        work.make(Edit::InsertSection { index: last, section })?;
    }
    paste_arms(work, arms, &at)?;
    put_in(work, turns, at, sections)
}

/// Copied arms go to the turn that the place's arm hangs on, below that arm.
fn paste_arms(work: &mut Work, arms: Vec<Arm>, at: &Place) -> Result<(), GestureError> {
    if arms.is_empty() {
        return Ok(());
    }
    let Parent::Arm(beside) = &at.parent else {
        return Err(GestureError::Says("Arms are pasted below another arm: pick one first.".into()));
    };
    let row = super::rows(&work.dialogue).into_iter().find(|row| row.kind == super::RowKind::Arm && row.id == *beside);
    let Some((owner, index)) = row.and_then(|row| row.turn.map(|turn| (turn, row.index))) else {
        return Err(GestureError::Says("The arm to paste below is not there any more.".into()));
    };
    for (place, arm) in (index + 1..).zip(arms) {
        let id = arm.id.clone();
        work.make(Edit::InsertArm { turn: owner.clone(), index: place, arm })?;
        work.made("arm", &id);
    }
    Ok(())
}

fn empty(like: &Dialogue) -> Dialogue {
    Dialogue {
        sections: Vec::new(),
        fields: Vec::new(),
        side_talk: Vec::new(),
        offers: Vec::new(),
        scorecards: Vec::new(),
        default_scorecard: None,
        tables: Vec::new(),
        routing: lumbo_dialogue::file::Routing::default(),
        brief: lumbo_dialogue::file::Brief::default(),
        rehearsals: Vec::new(),
        promises: Vec::new(),
        accepted: Vec::new(),
        phrases: BTreeMap::new(),
        media: BTreeMap::new(),
        opening: lumbo_dialogue::file::Opening {
            say: lumbo_dialogue::file::Text::default(),
            button: lumbo_dialogue::file::Text::default(),
        },
        ..like.clone()
    }
}

fn leads(turns: &mut [Turn], lead: &mut impl FnMut(&mut Id)) {
    for turn in turns {
        if let Some(section) = turn.leads_to_mut() {
            lead(section);
        }
        if let Some(arms) = turn.arms_mut() {
            leads_of_arms(arms, lead);
        }
    }
}

fn leads_of_arms(arms: &mut [Arm], lead: &mut impl FnMut(&mut Id)) {
    for arm in arms {
        if let Then::GoTo(target) = &mut arm.then {
            lead(target);
        }
        leads(&mut arm.turns, lead);
    }
}

/// True where one field can stand for the other.
fn alike(a: &Field, b: &Field) -> bool {
    let keys = |field: &Field| {
        field.options.iter().map(|option| option.key.clone()).collect::<std::collections::BTreeSet<_>>()
    };
    a.kind == b.kind && keys(a) == keys(b)
}

/// Matches every field that is referred to: the same id, else one of the same key or name that is alike, in the
/// dialogue, then in the workspace's catalogue; else a new one.
fn bring_fields(work: &mut Work, from: &mut Dialogue, catalogue: &[Field]) -> Result<(), GestureError> {
    let mut renames: Vec<(Field, String)> = Vec::new();
    for field in from.fields.clone() {
        if references::count(from, &field.key) == 0 {
            continue;
        }
        let known = &work.dialogue.fields;
        let like = |list: &[Field]| {
            let by_name = |known: &&Field| {
                (known.key == field.key || fold(&known.label) == fold(&field.label)) && alike(known, &field)
            };
            list.iter().find(|known| known.id == field.id).or_else(|| list.iter().find(by_name)).cloned()
        };
        let key = match (like(known), like(catalogue)) {
            (Some(known), _) => known.key,
            (None, Some(listed)) if !known.iter().any(|known| known.key == listed.key) => {
                let key = listed.key.clone();
                work.make(Edit::PutField { field: listed })?;
                key
            }
            _ => {
                let taken: Vec<String> = known.iter().chain(catalogue).map(|known| known.key.clone()).collect();
                let key = fresh_key(&field.key, &taken, "field");
                let mut made = field.clone();
                made.key.clone_from(&key);
                if known.iter().chain(catalogue).any(|known| known.id == made.id) {
                    made.id = work.ids.fresh("fld");
                }
                work.make(Edit::PutField { field: made })?;
                key
            }
        };
        if key != field.key {
            renames.push((field, key));
        }
    }
    // In two steps, so that two fields may swap their keys.
    for (place, (field, _)) in renames.iter_mut().enumerate() {
        field.key = format!("pasted_{place}_{}", field.key);
        apply(from, Edit::PutField { field: field.clone() })?;
    }
    for (mut field, key) in renames {
        from.fields.retain(|known| known.id == field.id || known.key != key);
        field.key = key;
        apply(from, Edit::PutField { field })?;
    }
    Ok(())
}

fn bring_tables(work: &mut Work, from: &Dialogue) -> Result<(), GestureError> {
    let text = serde_json::to_string(&from.sections).unwrap_or_default();
    let mut tables = work.dialogue.tables.clone();
    for table in &from.tables {
        if text.contains(&table.key) && text.contains("LOOKUP") && !tables.iter().any(|known| known.key == table.key) {
            tables.push(table.clone());
        }
    }
    if tables.len() > work.dialogue.tables.len() { work.make(Edit::SetTables { tables }) } else { Ok(()) }
}

fn bring_outcomes(work: &mut Work, from: &mut Dialogue) -> Result<(), GestureError> {
    let mut outcomes = work.dialogue.outcomes.clone();
    let sources = from.outcomes.clone();
    let mut meet = |id: &mut Id| {
        let source = sources.iter().find(|outcome| outcome.id == *id);
        let label = source.map_or(id.as_str(), |outcome| outcome.label.as_str());
        let same = outcomes
            .iter()
            .find(|known| known.id == *id)
            .or_else(|| outcomes.iter().find(|known| fold(&known.label) == fold(label)));
        match (same, source) {
            (Some(known), _) => id.clone_from(&known.id),
            (None, Some(source)) => outcomes.push(source.clone()),
            (None, None) => {}
        }
    };
    for section in &mut from.sections {
        if let Follow::Close(Ending { outcome, .. }) = &mut section.then {
            meet(outcome);
        }
        endings(&mut section.turns, &mut meet);
    }
    if outcomes.len() > work.dialogue.outcomes.len() { work.make(Edit::SetOutcomes { outcomes }) } else { Ok(()) }
}

fn endings(turns: &mut [Turn], meet: &mut impl FnMut(&mut Id)) {
    for turn in turns {
        if let Some(outcome) = turn.ends_as_mut() {
            meet(outcome);
        }
        for arm in turn.arms_mut().into_iter().flatten() {
            if let Then::Close(Ending { outcome, .. }) = &mut arm.then {
                meet(outcome);
            }
            endings(&mut arm.turns, meet);
        }
    }
}

fn bring_media(work: &mut Work, from: &Dialogue) -> Result<(), GestureError> {
    let mut hashes: Vec<String> = Vec::new();
    from.each_turn(&mut |_, _, turn| {
        hashes.extend(turn.media().into_iter().map(str::to_owned));
    });
    for hash in hashes {
        if let Some(media_type) = from.media.get(&hash).filter(|_| !work.dialogue.media.contains_key(&hash)) {
            work.make(Edit::SetMedia { hash: hash.clone(), media_type: Some(media_type.clone()) })?;
        }
    }
    Ok(())
}
