//! What each row shows beside its words: what changed since the last release, and how long its text is.

use std::collections::BTreeMap;

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use super::compare::{Change, compare_rows};
use super::rows::RowKind;
use lumbo_dialogue::file::Dialogue;
use lumbo_dialogue::turns::texts::{Measure, longest};

/// A row's mark: what became of it since the last release, with its old words.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct ChangeMark {
    /// What became of it.
    pub change: Change,
    /// What it said then, where it said something else.
    pub before: Option<String>,
    /// Words of rows right below it that are gone.
    pub gone: Vec<String>,
}

/// Marks by row, as `turn:ID`, `arm:ID`, `section:ID`, `then:ID`; rows without change and without removed rows below
/// have none.
#[must_use]
pub fn change_marks(released: &Dialogue, draft: &Dialogue) -> BTreeMap<String, ChangeMark> {
    let mut out: BTreeMap<String, ChangeMark> = BTreeMap::new();
    let mut last: Option<String> = None;
    for row in compare_rows(released, draft, false) {
        let kind = match row.kind {
            RowKind::Section => "section",
            RowKind::Turn => "turn",
            RowKind::Arm => "arm",
            RowKind::Then => "then",
        };
        if row.change == Change::Removed {
            if let Some(last) = &last {
                let mark = out.entry(last.clone()).or_insert_with(|| ChangeMark {
                    change: Change::Same,
                    before: None,
                    gone: Vec::new(),
                });
                mark.gone.extend(row.before);
            }
            continue;
        }
        let key = format!("{kind}:{}", row.id);
        if row.change != Change::Same {
            out.insert(key.clone(), ChangeMark { change: row.change, before: row.before, gone: Vec::new() });
        }
        last = Some(key);
    }
    out
}

/// Lengths of texts by turn.
#[must_use]
pub fn measures(dialogue: &Dialogue) -> BTreeMap<String, Measure> {
    let mut out = BTreeMap::new();
    dialogue.each_turn(&mut |_, _, turn| {
        if let Some(measure) = longest(turn, dialogue) {
            out.insert(turn.id().to_owned(), measure);
        }
    });
    out
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::{Edit, apply};

    #[test]
    fn a_row_that_is_gone_is_marked_at_the_row_above_it() {
        let released = lumbo_dialogue::file::load(include_str!("../../../../demo/storage-enquiry.json")).unwrap();
        let mut draft = released.clone();
        apply(&mut draft, Edit::RemoveTurn { id: "t_load".into() }).unwrap();
        let marks = change_marks(&released, &draft);
        assert_eq!(marks.len(), 1);
        let mark = &marks["section:load"];
        assert_eq!((mark.change, mark.gone.len()), (Change::Same, 1));
        assert!(change_marks(&released, &released).is_empty());
    }
}
