//! What a change made different, for a screen that knows what stood there before: parts of the dialogue, and rows of
//! the outline with their rails. Small for a small change, however large the dialogue is.

use std::collections::{BTreeMap, HashMap};

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use serde_json::Value as Json;

use super::rails::{Mark, rails};
use super::rows::{Row, rows};
use lumbo_dialogue::file::{Dialogue, Section};

/// The parts of a dialogue that a change made different.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct DialogueChange {
    /// Every section's id in order; absent where no section was changed, added, moved or removed.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub order: Option<Vec<String>>,
    /// The sections that are new or say something else.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub sections: Vec<Section>,
    /// Other parts of the file by their key, as they are now; null for one that is gone.
    #[serde(default, skip_serializing_if = "BTreeMap::is_empty")]
    pub parts: BTreeMap<String, Json>,
}

/// The rows that a change made different: of the rows before, `drop` from place `at` on give way to `rows`.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct OutlineChange {
    /// How many rows at the beginning stay as they are.
    pub at: usize,
    /// How many rows from there on give way.
    pub drop: usize,
    /// The rows that take their place.
    pub rows: Vec<Row>,
    /// Their rails.
    pub rails: Vec<Vec<Mark>>,
    /// Lanes needed by all rows.
    pub lanes: u16,
}

/// What became different between two states of a dialogue.
///
/// ```
/// use lumbo_dialogue::file::load;
/// use lumbo_outline::change::{dialogue_change, outline_change};
/// let before = load(include_str!("../../../../demo/storage-enquiry.json")).unwrap();
/// let mut after = before.clone();
/// after.sections[1].title = "The goods".into();
/// let change = dialogue_change(&before, &after);
/// assert_eq!((change.sections.len(), change.parts.len()), (1, 0));
/// assert!(outline_change(&before, &after).rows.is_empty());
/// ```
#[must_use]
pub fn dialogue_change(before: &Dialogue, after: &Dialogue) -> DialogueChange {
    let mut parts = other_parts(before, after);
    let (old, new) = (by_id(before), by_id(after));
    let (Some(old), Some(_)) = (old, new) else {
        // Ids that are not unique tell no section from another.
        parts.insert("sections".into(), serde_json::to_value(&after.sections).unwrap_or_default());
        return DialogueChange { order: None, sections: Vec::new(), parts };
    };
    if before.sections == after.sections {
        return DialogueChange { order: None, sections: Vec::new(), parts };
    }
    let changed = |section: &&Section| old.get(section.id.as_str()).is_none_or(|known| known != section);
    DialogueChange {
        order: Some(after.sections.iter().map(|section| section.id.clone()).collect()),
        sections: after.sections.iter().filter(changed).cloned().collect(),
        parts,
    }
}

/// Sections by their ids; nothing where two share one.
fn by_id(dialogue: &Dialogue) -> Option<HashMap<&str, &Section>> {
    let map: HashMap<&str, &Section> = dialogue.sections.iter().map(|section| (section.id.as_str(), section)).collect();
    (map.len() == dialogue.sections.len()).then_some(map)
}

/// What stands beside the sections, where it differs.
fn other_parts(before: &Dialogue, after: &Dialogue) -> BTreeMap<String, Json> {
    let (old, new) = (without_sections(before), without_sections(after));
    let mut out: BTreeMap<String, Json> =
        old.keys().filter(|key| !new.contains_key(*key)).map(|key| (key.clone(), Json::Null)).collect();
    out.extend(new.into_iter().filter(|(key, value)| old.get(key) != Some(value)));
    out
}

fn without_sections(dialogue: &Dialogue) -> serde_json::Map<String, Json> {
    let rest = Dialogue { sections: Vec::new(), ..dialogue.clone() };
    match serde_json::to_value(&rest) {
        Ok(Json::Object(map)) => map,
        _ => serde_json::Map::new(),
    }
}

/// A row with its rails.
type Line<'a> = (&'a Row, &'a Vec<Mark>);

/// Which rows became different between two states of a dialogue.
#[must_use]
pub fn outline_change(before: &Dialogue, after: &Dialogue) -> OutlineChange {
    let (old_rows, old_rails) = (rows(before), rails(before).rows);
    let (new_rows, new_rails) = (rows(after), rails(after));
    let lanes = new_rails.lanes;
    let old: Vec<Line<'_>> = old_rows.iter().zip(&old_rails).collect();
    let new: Vec<Line<'_>> = new_rows.iter().zip(&new_rails.rows).collect();
    let same = |(one, other): &(&Line<'_>, &Line<'_>)| one == other;
    let at = old.iter().zip(&new).take_while(same).count();
    let behind = old[at..].iter().rev().zip(new[at..].iter().rev()).take_while(same).count();
    let made = &new[at..new.len() - behind];
    OutlineChange {
        at,
        drop: old.len() - behind - at,
        rows: made.iter().map(|(row, _)| (*row).clone()).collect(),
        rails: made.iter().map(|(_, marks)| (*marks).clone()).collect(),
        lanes,
    }
}

#[cfg(test)]
mod tests {
    use proptest::prelude::*;

    use super::*;
    use crate::{Edit, apply};

    fn demo() -> Dialogue {
        lumbo_dialogue::file::load(include_str!("../../../../demo/storage-enquiry.json")).unwrap()
    }

    /// What a screen makes of a change.
    fn shown(before: &Dialogue, after: &Dialogue) {
        let change = dialogue_change(before, after);
        let mut json = serde_json::to_value(before).unwrap();
        for (key, part) in &change.parts {
            match part {
                Json::Null => drop(json.as_object_mut().unwrap().shift_remove(key)),
                part => json[key] = part.clone(),
            }
        }
        if let Some(order) = &change.order {
            let known = |id: &String| {
                let new = change.sections.iter().find(|section| section.id == *id);
                new.or_else(|| before.sections.iter().find(|section| section.id == *id)).unwrap().clone()
            };
            json["sections"] = serde_json::to_value(order.iter().map(known).collect::<Vec<_>>()).unwrap();
        }
        assert_eq!(serde_json::from_value::<Dialogue>(json).unwrap(), *after);
        let (mut old_rows, mut old_rails) = (rows(before), rails(before).rows);
        let change = outline_change(before, after);
        old_rows.splice(change.at..change.at + change.drop, change.rows);
        old_rails.splice(change.at..change.at + change.drop, change.rails);
        assert_eq!((old_rows, old_rails), (rows(after), rails(after).rows));
        assert_eq!(change.lanes, rails(after).lanes);
    }

    #[test]
    fn nothing_is_told_where_nothing_changed() {
        let demo = demo();
        assert_eq!(dialogue_change(&demo, &demo), DialogueChange::default());
        assert_eq!(outline_change(&demo, &demo).rows, []);
    }

    #[test]
    fn a_part_that_is_gone_is_null_and_sections_that_share_an_id_come_whole() {
        let before = demo();
        let after = Dialogue { scorecards: Vec::new(), routing: Default::default(), ..before.clone() };
        let change = dialogue_change(&before, &after);
        assert!(change.order.is_none());
        assert_eq!(change.parts["scorecards"], Json::Null);
        assert_eq!(change.parts["routing"], serde_json::json!({}));
        shown(&before, &after);
        let mut twice = before.clone();
        twice.sections.push(twice.sections[0].clone());
        assert!(dialogue_change(&before, &twice).parts.contains_key("sections"));
        shown(&before, &twice);
        shown(&twice, &before);
    }

    proptest! {
        #![proptest_config(ProptestConfig { cases: 64, ..ProptestConfig::default() })]
        #[test]
        fn the_change_of_any_edits_makes_the_one_out_of_the_other(
            steps in prop::collection::vec((any::<u8>(), any::<u16>(), any::<u16>()), 1..30),
        ) {
            let before = demo();
            let mut after = before.clone();
            for (kind, a, b) in steps {
                let all: Vec<String> = rows(&after).into_iter().map(|row| row.id).collect();
                let id = all[a as usize % all.len()].clone();
                let section = &after.sections[b as usize % after.sections.len()].id;
                let edit = match kind % 4 {
                    0 => serde_json::json!({"op": "remove_turn", "id": id}),
                    1 => serde_json::json!({"op": "insert_turn", "at": {"parent": {"section": section}, "index": 0},
                        "turn": {"kind": "fork", "id": format!("n{a}_{b}"), "arms": []}}),
                    2 => serde_json::json!({"op": "set_title", "title": format!("Title {a}")}),
                    _ => serde_json::json!({"op": "remove_section", "id": section}),
                };
                let edit: Edit = serde_json::from_value(edit).unwrap();
                let mut tried = after.clone();
                if apply(&mut tried, edit).is_ok() && !tried.sections.is_empty() {
                    after = tried;
                }
            }
            shown(&before, &after);
            shown(&after, &before);
        }
    }
}
