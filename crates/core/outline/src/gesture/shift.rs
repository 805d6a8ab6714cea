//! Moving rows one step: among their siblings, on into the next arm or section at an end, into the arm above, and out.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use super::{GestureError, Work, find_turn, index, parent_of, tops, turns_of};
use crate::edit::{Edit, Parent, Place};
use crate::rows::{Row, RowKind, rows};
use lumbo_dialogue::file::{Dialogue, Id};

/// Which way rows are moved.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Way {
    /// Above the row before.
    Up,
    /// Below the row after.
    Down,
    /// Into the last arm of the turn above.
    In,
    /// Out of the arm, below its turn.
    Out,
}

/// Moves rows one step. Rows that follow one another stay together.
pub(super) fn shift(work: &mut Work, ids: &[Id], way: Way) -> Result<(), GestureError> {
    let mut tops = tops(&work.dialogue, ids)?;
    // The row that goes first makes room for the others.
    if matches!(way, Way::Down | Way::Out) {
        tops.reverse();
    }
    for top in tops {
        let Some(row) = rows(&work.dialogue).into_iter().find(|row| row.kind == top.kind && row.id == top.id) else {
            continue;
        };
        let Some(edit) = one(&work.dialogue, &row, way) else {
            // The first that cannot go holds back those behind it.
            break;
        };
        work.make(edit)?;
        let kind = match row.kind {
            RowKind::Turn => "turn",
            RowKind::Arm => "arm",
            RowKind::Section | RowKind::Then => "section",
        };
        work.made(kind, &row.id);
    }
    if work.edits.is_empty() { Err(GestureError::Says(cannot(way).into())) } else { Ok(()) }
}

fn cannot(way: Way) -> &'static str {
    match way {
        Way::Up => "It is the first already.",
        Way::Down => "It is the last already.",
        Way::In => "There is no arm above to move it into.",
        Way::Out => "It stands in no arm.",
    }
}

fn one(dialogue: &Dialogue, row: &Row, way: Way) -> Option<Edit> {
    let by = |at: u32, count: usize| match way {
        Way::Up => at.checked_sub(1),
        Way::Down => Some(at + 1).filter(|to| (*to as usize) < count),
        Way::In | Way::Out => None,
    };
    match row.kind {
        RowKind::Section | RowKind::Then => {
            by(row.index, dialogue.sections.len()).map(|index| Edit::MoveSection { id: row.id.clone(), index })
        }
        RowKind::Arm => {
            let owner = find_turn(dialogue, row.turn.as_deref()?)?;
            by(row.index, owner.arms().len()).map(|index| Edit::MoveArm { id: row.id.clone(), index })
        }
        RowKind::Turn => {
            let parent = parent_of(row);
            let run = turns_of(dialogue, &parent);
            let to = match way {
                Way::Up | Way::Down => match by(row.index, run.len()) {
                    Some(index) => Place { parent, index },
                    None => past_the_end(dialogue, row, way)?,
                },
                Way::In => {
                    let above = run.get((row.index as usize).checked_sub(1)?)?;
                    let arm = above.arms().last()?;
                    Place { parent: Parent::Arm(arm.id.clone()), index: index(arm.turns.len()) }
                }
                Way::Out => beside_owner(dialogue, row, 1)?,
            };
            Some(Edit::MoveTurn { id: row.id.clone(), to })
        }
    }
}

/// The place above (0) or below (1) the turn that an arm's turn hangs on.
fn beside_owner(dialogue: &Dialogue, row: &Row, below: u32) -> Option<Place> {
    let all = rows(dialogue);
    let arm = all.iter().find(|known| known.kind == RowKind::Arm && Some(&known.id) == row.arm.as_ref())?;
    let owner = all.iter().find(|known| known.kind == RowKind::Turn && Some(&known.id) == arm.turn.as_ref())?;
    Some(Place { parent: parent_of(owner), index: owner.index + below })
}

/// At the end of its run a turn goes on into the next arm, out of the arms, or into the next section.
fn past_the_end(dialogue: &Dialogue, row: &Row, way: Way) -> Option<Place> {
    let up = way == Way::Up;
    let neighbour = |at: usize| if up { at.checked_sub(1) } else { Some(at + 1) };
    let at_end = |length: usize| if up { index(length) } else { 0 };
    if let Some(arm) = &row.arm {
        let all = rows(dialogue);
        let arm_row = all.iter().find(|known| known.kind == RowKind::Arm && known.id == *arm)?;
        let owner = find_turn(dialogue, arm_row.turn.as_deref()?)?;
        return match neighbour(arm_row.index as usize).and_then(|at| owner.arms().get(at)) {
            Some(next) => Some(Place { parent: Parent::Arm(next.id.clone()), index: at_end(next.turns.len()) }),
            None => beside_owner(dialogue, row, u32::from(!up)),
        };
    }
    let at = dialogue.sections.iter().position(|section| section.id == row.section)?;
    let next = dialogue.sections.get(neighbour(at)?)?;
    Some(Place { parent: Parent::Section(next.id.clone()), index: at_end(next.turns.len()) })
}
