use serde_json::json;

use super::*;
use crate::apply;

fn demo() -> Dialogue {
    lumbo_dialogue::file::load(include_str!("../../../../../demo/storage-enquiry.json")).unwrap()
}

fn changed(edits: serde_json::Value) -> Vec<(Change, String, Option<String>, Option<String>)> {
    let mut new = demo();
    for edit in serde_json::from_value::<Vec<crate::Edit>>(edits).unwrap() {
        apply(&mut new, edit).unwrap();
    }
    let compared = compare(&demo(), &new);
    assert_eq!(compared.rows.iter().filter(|row| row.change != Change::Removed).count(), rows(&new).len());
    let rows = compared
        .rows
        .into_iter()
        .filter(|row| row.change != Change::Same)
        .map(|row| (row.change, row.id, row.before, row.after));
    rows.chain(compared.others.into_iter().map(|other| (other.change, other.part, other.before, other.after))).collect()
}

#[test]
fn the_same_has_no_change() {
    assert_eq!(changed(json!([])), []);
}

#[test]
fn each_sort_of_change_is_told_apart() {
    let tell = json!({"kind": "tell", "id": "t_new", "say": [{"line": {"text": {"en": "Hello"}}}]});
    let found =
        changed(json!([{"op": "insert_turn", "at": {"parent": {"section": "load"}, "index": 1}, "turn": tell}]));
    assert_eq!(
        found,
        [(Change::Added, "t_new".into(), None, Some("Hello".into()))],
        "a turn put in between moves nothing"
    );
    let found = changed(json!([{"op": "remove_turn", "id": "t_blast"}]));
    assert_eq!((found.len(), found[0].0, found[0].1.as_str()), (1, Change::Removed, "t_blast"));
    let found =
        changed(json!([{"op": "change_section", "id": "timing", "title": "Timing", "then": {"go_to": "small"}}]));
    assert_eq!((found[0].0, found[0].1.as_str()), (Change::Rerouted, "timing"));
    let found =
        changed(json!([{"op": "move_turn", "id": "t_load", "to": {"parent": {"section": "timing"}, "index": 0}}]));
    assert_eq!((found.len(), found[0].0, found[0].1.as_str()), (1, Change::Moved, "t_load"));
    let found = changed(
        json!([{"op": "set_title", "title": "Other"}, {"op": "set_routing", "routing": {"otherwise": "saltwick"}}]),
    );
    assert_eq!(found[0], (Change::Reworded, "Title".into(), Some("Storage enquiry".into()), Some("Other".into())));
    assert!(found.iter().any(|row| row.0 == Change::Removed && row.1 == "Routing"));
}

#[test]
fn another_score_marks_the_option_and_the_criterion() {
    let mut new = demo();
    let card = &mut new.scorecards[0];
    for criterion in card.dimensions.iter_mut().flat_map(|dimension| &mut dimension.criteria) {
        if let Gives::When { points, holds: lumbo_dialogue::file::Condition::Compare(compare) } = &mut criterion.gives
            && compare.what == "temperature"
        {
            *points += 1;
        }
    }
    let compared = compare(&demo(), &new);
    assert!(compared.rows.iter().any(|row| row.change == Change::Rescored && row.id == "a_frozen"), "{compared:#?}");
    assert!(compared.others.iter().any(|other| other.part == "Scoring" && other.change == Change::Rescored));
}
