use proptest::prelude::*;
use serde_json::json;

use super::*;
use lumbo_dialogue::file::canonical;

fn demo() -> Dialogue {
    lumbo_dialogue::file::load(include_str!("../../../../../demo/storage-enquiry.json")).unwrap()
}

fn edit(json: serde_json::Value) -> Edit {
    serde_json::from_value(json).unwrap()
}

fn tell(id: &str) -> serde_json::Value {
    json!({"kind": "tell", "id": id, "say": [{"line": {"text": {"en": "Hello"}}}]})
}

/// Makes an edit, undoes it, and makes it again.
fn check(json: serde_json::Value) -> Dialogue {
    let mut dialogue = demo();
    let inverse = apply(&mut dialogue, edit(json.clone())).unwrap_or_else(|error| panic!("{json}: {error}"));
    let after = dialogue.clone();
    let again = apply(&mut dialogue, inverse).unwrap();
    assert_eq!(canonical(&dialogue), canonical(&demo()), "the inverse of {json} brings everything back");
    apply(&mut dialogue, again).unwrap();
    assert_eq!(canonical(&dialogue), canonical(&after), "redo does the same again");
    after
}

#[test]
fn every_edit_is_undone_by_its_inverse() {
    let arm = json!({"id": "a_new", "when": "otherwise", "turns": [tell("t_in_arm")], "then": {"go_to": "small"}});
    for change in [
        json!({"op": "insert_turn", "at": {"parent": {"section": "load"}, "index": 2}, "turn": tell("t_new")}),
        json!({"op": "insert_turn", "at": {"parent": {"arm": "a_chilled"}, "index": 99}, "turn": tell("t_new")}),
        json!({"op": "change_turn", "turn": tell("t_load")}),
        json!({"op": "move_turn", "id": "t_pallets", "to": {"parent": {"arm": "a_frozen"}, "index": 0}}),
        json!({"op": "move_turn", "id": "t_blast", "to": {"parent": {"section": "timing"}, "index": 1}}),
        json!({"op": "remove_turn", "id": "t_temperature"}),
        json!({"op": "insert_arm", "turn": "t_big", "index": 1, "arm": arm}),
        json!({"op": "change_arm", "arm": {"id": "a_frozen", "label": "Ice", "when": {"options": ["frozen"]},
            "then": {"go_to": "who"}}}),
        json!({"op": "move_arm", "id": "a_ambient", "index": 0}),
        json!({"op": "remove_arm", "id": "a_frozen"}),
        json!({"op": "insert_section", "index": 1, "section": {"id": "s_new", "title": "New", "turns": [tell("t_new")],
            "then": "carry_on"}}),
        json!({"op": "change_section", "id": "timing", "title": "When", "then": {"go_to": "who"}}),
        json!({"op": "move_section", "id": "small", "index": 0}),
        json!({"op": "remove_section", "id": "customers"}),
        json!({"op": "put_field", "field": {"id": "fld_new", "key": "depot", "label": "Depot", "type": "text"}}),
        json!({"op": "set_title", "title": "Other"}),
        json!({"op": "set_phrase", "key": "fallback", "text": {"en": "Bye"}}),
        json!({"op": "set_routing", "routing": {"otherwise": "saltwick"}}),
        json!({"op": "set_accepted", "accepted": ["long_text at load/t_load"]}),
        json!({"op": "set_scorecards", "scorecards": []}),
    ] {
        check(change);
    }
}

#[test]
fn changing_a_turn_keeps_its_arms_and_changing_an_arm_keeps_its_turns() {
    let after = check(json!({"op": "change_turn", "turn": {"kind": "ask", "id": "t_temperature",
            "say": {"text": {"en": "How cold?"}}, "field": "temperature"}}));
    let mut arms = 0;
    after.each_turn(&mut |_, _, turn| {
        if turn.id() == "t_temperature" {
            arms = turn.arms().len();
        }
    });
    assert_eq!(arms, 3);
}

#[test]
fn a_turn_with_arms_does_not_become_a_kind_without() {
    let mut dialogue = demo();
    assert_eq!(
        apply(&mut dialogue, edit(json!({"op": "change_turn", "turn": tell("t_temperature")}))),
        Err(EditError::NoArms("Tell"))
    );
    assert_eq!(dialogue, demo());
}

#[test]
fn a_renamed_field_is_followed_by_every_reference() {
    let mut field = demo().fields.into_iter().find(|field| field.key == "pallets").unwrap();
    field.key = "pallet_count".into();
    let after = check(json!({"op": "put_field", "field": field}));
    let text = canonical(&after);
    assert!(
        text.contains("MONEY(pallet_count * COALESCE(LOOKUP(temperature")
            && text.contains("For {pallet_count|that many pallets}")
    );
    assert_eq!(lumbo_checks::check(&after), []);
    assert_eq!(references::count(&after, "pallets"), 0);
}

#[test]
fn a_text_that_only_looks_like_the_key_is_left_alone() {
    let after = check(
        json!({"op": "put_field", "field": {"id": "fld_start", "key": "begin", "label": "Start", "type": "choice",
            "options": demo().fields[4].options}}),
    );
    assert!(canonical(&after).contains("Roughly how many pallets"), "words in texts stay");
}

#[test]
fn what_cannot_be_done_says_why_and_changes_nothing() {
    for (change, says) in [
        (json!({"op": "remove_turn", "id": "t_gone"}), "the turn “t_gone” is not there any more"),
        (
            json!({"op": "insert_turn", "at": {"parent": {"section": "gone"}, "index": 0}, "turn": tell("t_new")}),
            "the section “gone” is not there any more",
        ),
        (
            json!({"op": "insert_turn", "at": {"parent": {"section": "load"}, "index": 0}, "turn": tell("t_load")}),
            "the id “t_load” is taken",
        ),
        (
            json!({"op": "insert_turn", "at": {"parent": {"section": "load"}, "index": 0}, "turn": tell("T!")}),
            "the id “T!” is not well formed",
        ),
        (
            json!({"op": "move_turn", "id": "t_temperature", "to": {"parent": {"arm": "a_frozen"}, "index": 0}}),
            "a turn cannot move into its own arm",
        ),
        (json!({"op": "remove_field", "id": "fld_phone"}), "“Phone” is still used in 2 places; change those first"),
        (
            json!({"op": "put_field", "field": {"id": "fld_x", "key": "pallets", "label": "X", "type": "text"}}),
            "the key “pallets” is taken by another field",
        ),
        (
            json!({"op": "insert_arm", "turn": "t_load", "index": 0, "arm": {"id": "a_x", "when": "otherwise"}}),
            "a Tell has no arms",
        ),
    ] {
        let mut dialogue = demo();
        assert_eq!(apply(&mut dialogue, edit(change)).unwrap_err().to_string(), says);
        assert_eq!(dialogue, demo());
    }
}

/// A random edit on whatever stands in the outline.
fn random_edit(dialogue: &Dialogue, kind: u8, a: usize, b: usize, n: usize) -> Edit {
    let mut turns = vec![];
    let mut arms = vec![];
    dialogue.each_turn(&mut |_, _, turn| {
        turns.push(turn.id().to_owned());
        arms.extend(turn.arms().iter().map(|arm| arm.id.clone()));
    });
    let sections: Vec<String> = dialogue.sections.iter().map(|section| section.id.clone()).collect();
    let of =
        |list: &[String], index: usize| list.get(index % list.len().max(1)).cloned().unwrap_or_else(|| "none".into());
    let parent = if b.is_multiple_of(2) || arms.is_empty() {
        json!({"section": of(&sections, b)})
    } else {
        json!({"arm": of(&arms, b)})
    };
    edit(match kind % 9 {
        0 => json!({"op": "insert_turn", "at": {"parent": parent, "index": a % 7}, "turn": tell(&format!("n{n}"))}),
        1 => json!({"op": "move_turn", "id": of(&turns, a), "to": {"parent": parent, "index": b % 7}}),
        2 => json!({"op": "remove_turn", "id": of(&turns, a)}),
        3 => {
            json!({"op": "insert_turn", "at": {"parent": parent, "index": a % 7}, "turn": {"kind": "fork",
                "id": format!("n{n}"), "arms": [{"id": format!("m{n}"), "when": "otherwise",
                "turns": [tell(&format!("o{n}"))]}]}})
        }
        4 => json!({"op": "remove_arm", "id": of(&arms, a)}),
        5 => json!({"op": "move_arm", "id": of(&arms, a), "index": b % 4}),
        6 => json!({"op": "move_section", "id": of(&sections, a), "index": b % 9}),
        7 => json!({"op": "remove_section", "id": of(&sections, a)}),
        _ => json!({"op": "change_section", "id": of(&sections, a), "title": format!("S{n}"), "then": "carry_on"}),
    })
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 50, ..ProptestConfig::default() })]
    /// 50 runs of up to 200 edits: 10,000 at most, each undone.
    #[test]
    fn any_run_of_edits_is_undone_in_reverse(
        steps in prop::collection::vec((any::<u8>(), any::<u16>(), any::<u16>()), 1..200),
    ) {
        let mut dialogue = demo();
        let mut undo = vec![];
        for (n, (kind, a, b)) in steps.into_iter().enumerate() {
            let before = dialogue.clone();
            match apply(&mut dialogue, random_edit(&before, kind, a as usize, b as usize, n)) {
                Ok(inverse) => undo.push(inverse),
                Err(_) => prop_assert_eq!(&dialogue, &before),
            }
            prop_assert_eq!(crate::rails::rails(&dialogue).rows.len(), crate::rows(&dialogue).len());
        }
        for inverse in undo.into_iter().rev() {
            apply(&mut dialogue, inverse).unwrap();
        }
        prop_assert_eq!(dialogue, demo());
    }
}
