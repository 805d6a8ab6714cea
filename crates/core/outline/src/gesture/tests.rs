use proptest::prelude::*;
use serde_json::json;

use super::*;
use lumbo_checks::{Severity, check};
use lumbo_dialogue::file::canonical;

fn demo() -> Dialogue {
    lumbo_dialogue::file::load(include_str!("../../../../../demo/storage-enquiry.json")).unwrap()
}

fn gesture(json: serde_json::Value) -> Gesture {
    serde_json::from_value(json).unwrap()
}

/// Makes a gesture, undoes it, and gives the dialogue after it.
fn make(dialogue: &Dialogue, json: serde_json::Value) -> (Dialogue, Made) {
    let made = expand(dialogue, gesture(json.clone()), &[], 7).unwrap_or_else(|error| panic!("{json}: {error}"));
    let mut after = dialogue.clone();
    let mut inverse: Vec<Edit> = made.edits.iter().map(|edit| apply(&mut after, edit.clone()).unwrap()).collect();
    inverse.reverse();
    let mut undone = after.clone();
    for edit in inverse {
        apply(&mut undone, edit).unwrap();
    }
    assert_eq!(canonical(&undone), canonical(dialogue), "{json} is undone");
    (after, made)
}

fn errors(dialogue: &Dialogue) -> Vec<String> {
    check(dialogue)
        .into_iter()
        .filter(|finding| finding.severity == Severity::Error)
        .map(|finding| format!("{} {}", finding.at, finding.says))
        .collect()
}

fn order(dialogue: &Dialogue, section: &str) -> Vec<String> {
    dialogue
        .sections
        .iter()
        .find(|known| known.id == section)
        .unwrap()
        .turns
        .iter()
        .map(|turn| turn.id().to_owned())
        .collect()
}

fn clip_of(dialogue: &Dialogue, turns: &[&str], sections: &[&str]) -> serde_json::Value {
    let turns: Vec<&Turn> = turns.iter().map(|id| find_turn(dialogue, id).unwrap()).collect();
    let sections: Vec<&Section> =
        dialogue.sections.iter().filter(|section| sections.contains(&section.id.as_str())).collect();
    let titles: HashMap<&str, &str> =
        dialogue.sections.iter().map(|section| (section.id.as_str(), section.title.as_str())).collect();
    json!({"format": CLIP_FORMAT, "turns": turns, "sections": sections, "fields": dialogue.fields,
        "outcomes": dialogue.outcomes, "tables": dialogue.tables, "media": dialogue.media, "titles": titles})
}

#[test]
fn duplicated_rows_stand_right_below_with_ids_of_their_own() {
    let (after, made) = make(&demo(), json!({"gesture": "duplicate", "ids": ["t_temperature", "a_frozen"]}));
    assert_eq!(made.rows.len(), 1, "an arm inside a picked turn goes with it");
    let ids = order(&after, "load");
    let at = ids.iter().position(|id| id == "t_temperature").unwrap();
    assert_eq!(made.rows[0], format!("turn:{}", ids[at + 1]));
    assert_eq!(errors(&after), Vec::<String>::new());
    let (after, made) = make(&demo(), json!({"gesture": "duplicate", "ids": ["a_frozen"]}));
    assert!(made.rows[0].starts_with("arm:"));
    assert_eq!(find_turn(&after, "t_temperature").unwrap().arms().len(), 4);
    let (after, _) = make(&demo(), json!({"gesture": "duplicate", "ids": ["load"]}));
    assert_eq!(after.sections.last().unwrap().title, "The load (copy)");
}

#[test]
fn a_run_of_turns_becomes_a_section_that_is_visited_where_it_stood() {
    let before = demo();
    let ids = order(&before, "load");
    let (after, made) = make(&before, json!({"gesture": "to_section", "ids": [ids[0], ids[1]], "title": "Size"}));
    let id = made.rows[0].strip_prefix("section:").unwrap();
    assert_eq!(order(&after, id), ids[..2]);
    let Turn::Visit(visit) = &after.sections[1].turns[0] else { panic!("a Visit stands where the turns stood") };
    assert_eq!(visit.section, id);
    assert_eq!(errors(&after), Vec::<String>::new());
}

#[test]
fn the_rest_of_a_section_becomes_one_that_follows_it() {
    let before = demo();
    let ids = order(&before, "load");
    let (after, made) = make(&before, json!({"gesture": "to_section", "ids": ids[2..], "title": "Rest"}));
    let id = made.rows[0].strip_prefix("section:").unwrap();
    assert_eq!(after.sections[2].id, id);
    assert_eq!(after.sections[1].then, Follow::CarryOn);
    assert_eq!(after.sections[2].then, before.sections[1].then);
    assert_eq!(errors(&after), Vec::<String>::new());
}

#[test]
fn turns_that_do_not_follow_one_another_make_no_section() {
    let before = demo();
    let ids = order(&before, "load");
    let refused =
        expand(&before, gesture(json!({"gesture": "to_section", "ids": [ids[0], ids[2]], "title": "X"})), &[], 1)
            .unwrap_err();
    assert!(refused.to_string().contains("follow one another"));
}

#[test]
fn rows_are_shifted_among_siblings_into_arms_and_out_together() {
    let before = demo();
    let ids = order(&before, "load");
    let (after, _) = make(&before, json!({"gesture": "shift", "ids": [ids[0], ids[1]], "way": "down"}));
    assert_eq!(order(&after, "load")[..3], [ids[2].clone(), ids[0].clone(), ids[1].clone()]);
    let (after, _) = make(&before, json!({"gesture": "shift", "ids": [ids[0]], "way": "up"}));
    assert_eq!(order(&after, "welcome").last(), Some(&ids[0]), "past the top of a section it goes to the one above");
    let (after, _) = make(&before, json!({"gesture": "shift", "ids": ["t_blast"], "way": "out"}));
    let now = order(&after, "load");
    assert_eq!(now[now.iter().position(|id| id == "t_temperature").unwrap() + 1], "t_blast");
    let (after, _) = make(&after, json!({"gesture": "shift", "ids": ["t_blast"], "way": "in"}));
    assert!(!order(&after, "load").contains(&"t_blast".to_owned()));
    let refused =
        expand(&before, gesture(json!({"gesture": "shift", "ids": ["welcome"], "way": "up"})), &[], 1).unwrap_err();
    assert_eq!(refused.to_string(), "It is the first already.");
}

#[test]
fn turns_are_moved_to_a_place_counted_before_they_were_taken_out() {
    let before = demo();
    let ids = order(&before, "load");
    let (after, _) = make(
        &before,
        json!({"gesture": "move", "ids": [ids[0], ids[1]], "to": {"parent": {"section": "load"}, "index": 3}}),
    );
    assert_eq!(order(&after, "load")[..3], [ids[2].clone(), ids[0].clone(), ids[1].clone()]);
    let (after, _) = make(
        &before,
        json!({"gesture": "move", "ids": [ids[0], "t_blast"], "to": {"parent": {"section": "timing"}, "index": 0}}),
    );
    assert_eq!(order(&after, "timing")[..2], [ids[0].clone(), "t_blast".into()]);
}

#[test]
fn what_is_pasted_into_another_dialogue_keeps_its_references_whole() {
    let before = demo();
    let blank = crate::from_brief::from_brief(crate::from_brief::NewDialogue {
        id: "blank".into(),
        title: "Blank".into(),
        language: "en".into(),
        fields: vec![],
        fit: String::new(),
        queue: None,
    });
    let at = json!({"parent": {"section": "start"}, "index": 0});
    let ids = order(&before, "load");
    let all: Vec<&str> = ids.iter().map(String::as_str).collect();
    let (after, made) = make(&blank, json!({"gesture": "paste", "clip": clip_of(&before, &all, &[]), "at": at}));
    // Only the sections that were made empty are unfinished.
    assert!(errors(&after).iter().all(|error| error.contains("carries on to nothing")), "{:?}", errors(&after));
    for field in ["pallets", "temperature"] {
        assert!(after.fields.iter().any(|known| known.key == field), "{field} came along");
    }
    assert!(!after.fields.iter().any(|known| known.key == "phone"), "what is not referred to stays behind");
    assert!(made.notes.iter().any(|note| note.contains("an empty one was made")), "{:?}", made.notes);
    // Pasted once more, it finds the fields and sections of the first time.
    let (again, made) = make(&after, json!({"gesture": "paste", "clip": clip_of(&before, &all, &[]), "at": at}));
    assert_eq!((again.fields.len(), again.sections.len()), (after.fields.len(), after.sections.len()));
    assert_eq!(made.notes, Vec::<String>::new());
}

#[test]
fn whole_sections_are_pasted_with_the_ways_between_them() {
    let before = demo();
    let (after, _) = make(
        &before,
        json!({"gesture": "paste", "clip": clip_of(&before, &[], &["load", "timing"]),
            "at": {"parent": {"section": "small"}, "index": 0}}),
    );
    assert_eq!(after.sections.len(), before.sections.len() + 2);
    assert_eq!(errors(&after), Vec::<String>::new());
}

#[test]
fn a_field_of_the_same_name_that_is_not_alike_is_made_anew() {
    let source = demo();
    let mut target = demo();
    let field = target.fields.iter_mut().find(|field| field.key == "temperature").unwrap();
    field.id = "fld_other".into();
    field.options.pop();
    let (after, _) = make(
        &target,
        json!({"gesture": "paste", "clip": clip_of(&source, &["t_temperature"], &[]),
            "at": {"parent": {"section": "load"}, "index": 0}}),
    );
    let Turn::Ask(ask) = &after.sections[1].turns[0] else { panic!() };
    assert_eq!(ask.field, "temperature_2");
    assert!(after.fields.iter().any(|field| field.key == "temperature_2" && field.options.len() == 3));
}

#[test]
fn a_pasted_field_that_the_catalogue_has_is_taken_from_there_and_its_key_is_never_taken_twice() {
    let source = demo();
    let mut target = demo();
    target.sections = vec![Section { id: "start".into(), title: "Start".into(), turns: vec![], then: Follow::CarryOn }];
    target.fields.clear();
    let clip = clip_of(&source, &["t_temperature"], &[]);
    let paste: Gesture = serde_json::from_value(
        json!({"gesture": "paste", "clip": clip, "at": {"parent": {"section": "start"}, "index": 0}}),
    )
    .unwrap();
    let fields_made = |catalogue: &[lumbo_dialogue::file::Field]| {
        let made = expand(&target, paste.clone(), catalogue, 1).unwrap();
        made.edits
            .into_iter()
            .filter_map(|edit| if let Edit::PutField { field } = edit { Some((field.id, field.key)) } else { None })
            .collect::<Vec<_>>()
    };
    let mut renamed = source.fields.clone();
    for field in &mut renamed {
        field.key = format!("{}_now", field.key);
    }
    assert_eq!(fields_made(&renamed)[0].1, "temperature_now", "the catalogue renamed it since");
    let mut other = source.fields.clone();
    for field in &mut other {
        field.id = format!("other_{}", field.id);
        field.options.clear();
    }
    assert_eq!(
        fields_made(&other)[0],
        ("fld_temperature".into(), "temperature_2".into()),
        "another field of the workspace has that key"
    );
}

#[test]
fn a_gesture_on_what_is_gone_says_so() {
    for refused in [
        json!({"gesture": "remove", "ids": ["t_gone"]}),
        json!({"gesture": "duplicate", "ids": []}),
        json!({"gesture": "replace", "search": {"find": ""}, "with": "x"}),
    ] {
        assert!(expand(&demo(), gesture(refused), &[], 1).is_err());
    }
}

/// A random gesture on whatever stands in the outline.
fn random_gesture(dialogue: &Dialogue, kind: u8, a: usize, b: usize) -> Gesture {
    let rows = rows(dialogue);
    let of = |kinds: &[RowKind], at: usize| {
        let list: Vec<&Row> = rows.iter().filter(|row| kinds.contains(&row.kind)).collect();
        list.get(at % list.len().max(1)).map_or_else(|| "none".to_owned(), |row| row.id.clone())
    };
    let any = [RowKind::Turn, RowKind::Arm, RowKind::Section];
    let parent = if b.is_multiple_of(2) {
        json!({"section": of(&[RowKind::Section], b)})
    } else {
        json!({"arm": of(&[RowKind::Arm], b)})
    };
    let turn = of(&[RowKind::Turn], a);
    gesture(match kind % 8 {
        0 => json!({"gesture": "duplicate", "ids": [of(&any, a)]}),
        1 => json!({"gesture": "remove", "ids": [of(&any, a), of(&any, b)]}),
        2 => {
            json!({"gesture": "shift", "ids": [of(&any, a), of(&any, b)], "way": (["up", "down", "in", "out"][b % 4])})
        }
        3 => {
            json!({"gesture": "move", "ids": [turn, of(&[RowKind::Turn], b)], "to": {"parent": parent, "index": a % 6}})
        }
        4 => json!({"gesture": "to_section", "ids": [turn], "title": "Made"}),
        5 => {
            json!({"gesture": "paste", "clip": find_turn(dialogue, &turn).map_or_else(|| clip_of(dialogue, &[], &[]),
                |_| clip_of(dialogue, &[&turn], &[])), "at": {"parent": parent, "index": a % 6}})
        }
        6 => {
            json!({"gesture": "write", "text": "Hello\nHow cold? Frozen / Chilled [Temperature]\n- Frozen\n  Very \
                cold\nIf pallets at least 5 -> Big\nClose", "at": {"parent": parent, "index": 1}})
        }
        _ => {
            json!({"gesture": "replace", "search": {"find": "e"}, "with": if a.is_multiple_of(2) { "ee" } else { "" }})
        }
    })
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 40, ..ProptestConfig::default() })]
    /// 40 runs of up to 250 gestures: about 5,000 on average and 10,000 at most, each with all its edits undone.
    #[test]
    fn any_run_of_gestures_is_undone_in_reverse_and_keeps_references_whole(
        steps in prop::collection::vec((any::<u8>(), any::<u16>(), any::<u16>()), 1..250),
    ) {
        let mut dialogue = demo();
        let mut undo = vec![];
        for (n, (kind, a, b)) in steps.into_iter().enumerate() {
            if dialogue.sections.len() > 40 || rows(&dialogue).len() > 400 {
                break;
            }
            let gesture = random_gesture(&dialogue, kind, a as usize, b as usize);
            let before = dialogue.clone();
            let Ok(made) = expand(&dialogue, gesture, &[], n as u64) else { continue };
            for edit in made.edits {
                undo.push(apply(&mut dialogue, edit).unwrap());
            }
            let shown = rows(&dialogue).into_iter().filter(|row| row.kind != RowKind::Then);
            let ids: Vec<String> = shown.map(|row| row.id).collect();
            prop_assert_eq!(ids.iter().collect::<HashSet<_>>().len(), ids.len(), "ids are unique");
            // Only taking a section out may leave a way to nowhere; a field that is asked for is always there.
            let missing = |dialogue: &Dialogue| {
                let mut missing = 0;
                let kept = |key: &str| dialogue.fields.iter().any(|field| field.key == key);
                dialogue.each_turn(&mut |_, _, turn| {
                    if let Turn::Ask(ask) = turn {
                        missing += usize::from(!kept(&ask.field));
                    }
                });
                missing
            };
            prop_assert!(missing(&dialogue) <= missing(&before));
        }
        for inverse in undo.into_iter().rev() {
            apply(&mut dialogue, inverse).unwrap();
        }
        prop_assert_eq!(dialogue, demo());
    }
}
