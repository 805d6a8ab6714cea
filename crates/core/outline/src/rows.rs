//! The outline as rows, in the order it is read.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use lumbo_dialogue::file::{Arm, Dialogue, Section, Turn};

/// One row of the outline.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Row {
    /// What it stands for.
    pub kind: RowKind,
    /// Id of the section, turn or arm.
    pub id: String,
    /// Id of the section it stands in.
    pub section: String,
    /// Id of the arm it stands in, where it does.
    pub arm: Option<String>,
    /// Id of the turn that an arm belongs to.
    pub turn: Option<String>,
    /// How deep it is nested; 0 for sections and their turns.
    pub depth: u16,
    /// Its place among its siblings.
    pub index: u32,
}

/// What a row stands for.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum RowKind {
    /// A section's title.
    Section,
    /// A turn.
    Turn,
    /// An arm.
    Arm,
    /// What follows a section.
    Then,
}

/// Lists the rows.
#[must_use]
pub fn rows(dialogue: &Dialogue) -> Vec<Row> {
    let mut out = Vec::new();
    let place = |index: usize| u32::try_from(index).unwrap_or(u32::MAX);
    for (index, section) in dialogue.sections.iter().enumerate() {
        let row = |kind| Row {
            kind,
            id: section.id.clone(),
            section: section.id.clone(),
            arm: None,
            turn: None,
            depth: 0,
            index: place(index),
        };
        out.push(row(RowKind::Section));
        turns(&section.turns, section, None, 0, &mut out);
        out.push(row(RowKind::Then));
    }
    out
}

fn turns(list: &[Turn], section: &Section, inside: Option<&Arm>, depth: u16, out: &mut Vec<Row>) {
    for (index, turn) in list.iter().enumerate() {
        let index = u32::try_from(index).unwrap_or(u32::MAX);
        out.push(Row {
            kind: RowKind::Turn,
            id: turn.id().to_owned(),
            section: section.id.clone(),
            arm: inside.map(|arm| arm.id.clone()),
            turn: None,
            depth,
            index,
        });
        for (order, arm) in turn.arms().iter().enumerate() {
            let order = u32::try_from(order).unwrap_or(u32::MAX);
            out.push(Row {
                kind: RowKind::Arm,
                id: arm.id.clone(),
                section: section.id.clone(),
                arm: inside.map(|arm| arm.id.clone()),
                turn: Some(turn.id().to_owned()),
                depth,
                index: order,
            });
            turns(&arm.turns, section, Some(arm), depth.saturating_add(1), out);
        }
    }
}
