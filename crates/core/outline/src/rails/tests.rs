use serde_json::json;

use super::*;
use crate::{RowKind, rows};

/// Draws rails as text: one line a row, two characters a lane.
fn draw(dialogue: &Dialogue) -> String {
    let rails = rails(dialogue);
    let rows = rows(dialogue);
    assert_eq!(rails.rows.len(), rows.len(), "one entry per row");
    let mut out = String::new();
    for (marks, row) in rails.rows.iter().zip(&rows) {
        let mut lanes = vec!["  ".to_owned(); rails.lanes as usize];
        for mark in marks {
            let sign = match mark.shape {
                Shape::Pass => "| ".to_owned(),
                Shape::Start => "o ".to_owned(),
                Shape::End => "x ".to_owned(),
                Shape::Part => format!("\\{}", mark.other.unwrap()),
                Shape::Join => format!("/{}", mark.other.unwrap()),
                Shape::Leave => "> ".to_owned(),
                Shape::Tick => "+ ".to_owned(),
            };
            let place = &mut lanes[mark.lane as usize];
            // A tick or an empty arm that leaves stands on its turn's lane, which passes.
            if place.trim().is_empty() || place.starts_with('|') { *place = sign } else { place.push_str(sign.trim()) }
        }
        let indent = "  ".repeat(row.depth as usize);
        let name = match row.kind {
            RowKind::Section => format!("§ {}", row.id),
            RowKind::Turn => row.id.clone(),
            RowKind::Arm => format!("- {}", row.id),
            RowKind::Then => "then".into(),
        };
        out.push_str(&format!("{}{indent}{name}\n", lanes.concat()));
    }
    out
}

fn outline(sections: serde_json::Value) -> Dialogue {
    let mut file: serde_json::Value =
        serde_json::from_str(include_str!("../../../../../demo/storage-enquiry.json")).unwrap();
    file["sections"] = sections;
    lumbo_dialogue::file::load(&file.to_string()).unwrap()
}

fn tell(id: &str) -> serde_json::Value {
    json!({"kind": "tell", "id": id, "say": [{"line": {"text": {"en": "Hello"}}}]})
}

fn fork(id: &str, arms: serde_json::Value) -> serde_json::Value {
    json!({"kind": "fork", "id": id, "arms": arms})
}

fn arm(id: &str, turns: serde_json::Value, then: serde_json::Value) -> serde_json::Value {
    json!({"id": id, "when": "otherwise", "turns": turns, "then": then})
}

#[test]
fn the_demo_is_drawn_with_the_fewest_lanes() {
    let demo = lumbo_dialogue::file::load(include_str!("../../../../../demo/storage-enquiry.json")).unwrap();
    insta::assert_snapshot!("rails of the demo", draw(&demo));
}

#[test]
fn arms_nested_five_deep_part_and_rejoin_without_crossing() {
    let mut inner = json!([tell("t5")]);
    for depth in (1..5).rev() {
        inner = json!([fork(
            &format!("f{depth}"),
            json!([
                arm(&format!("a{depth}"), inner, json!("rejoin")),
                arm(&format!("b{depth}"), json!([tell(&format!("u{depth}"))]), json!("rejoin"))
            ])
        )]);
    }
    insta::assert_snapshot!(
        "rails of arms nested five deep",
        draw(&outline(json!([{"id": "s", "title": "S", "turns": inner, "then": "carry_on"}])))
    );
}

#[test]
fn every_lane_that_parts_ends_joins_or_leaves_once() {
    for file in
        [include_str!("../../../../../demo/storage-enquiry.json"), include_str!("../../../../../demo/every-kind.json")]
    {
        let rails = rails(&lumbo_dialogue::file::load(file).unwrap());
        let mut open: Vec<u16> = vec![];
        for row in &rails.rows {
            for mark in row {
                match mark.shape {
                    Shape::Start => open = vec![mark.lane],
                    Shape::Part => {
                        assert!(open.contains(&mark.other.unwrap()), "parts from an open lane");
                        assert!(!open.contains(&mark.lane), "a lane is free when it parts");
                        open.push(mark.lane);
                    }
                    Shape::Pass | Shape::Tick => assert!(open.contains(&mark.lane), "only open lanes pass"),
                    Shape::Join => assert!(open.contains(&mark.other.unwrap()), "joins an open lane"),
                    Shape::End | Shape::Leave => {}
                }
            }
            for mark in row {
                let passes = row.iter().any(|other| other.lane == mark.lane && other.shape == Shape::Pass);
                if matches!(mark.shape, Shape::Join | Shape::End | Shape::Leave) && !passes {
                    open.retain(|lane| *lane != mark.lane);
                }
            }
        }
    }
}

#[test]
fn a_change_in_one_arm_moves_no_lane_of_another_section() {
    let two = |extra: bool| {
        let mut arms = vec![arm("a", json!([tell("t1")]), json!("rejoin"))];
        if extra {
            arms.push(arm("b", json!([tell("t2")]), json!("rejoin")));
        }
        let second = json!({"id": "s2", "title": "Two", "turns": [fork("f2", json!([arm("c", json!([tell("t3")]),
            json!("rejoin"))]))], "then": "carry_on"});
        outline(json!([{"id": "s1", "title": "One", "turns": [fork("f1", json!(arms))], "then": "carry_on"}, second]))
    };
    let (before, after) = (rails(&two(false)), rails(&two(true)));
    assert_eq!(before.rows[before.rows.len() - 5..], after.rows[after.rows.len() - 5..]);
}

#[test]
fn a_lane_takes_its_class_from_where_its_arm_leads() {
    let demo = lumbo_dialogue::file::load(include_str!("../../../../../demo/storage-enquiry.json")).unwrap();
    let mut classes = std::collections::BTreeMap::new();
    demo.each_turn(&mut |_, _, turn| {
        for arm in turn.arms() {
            classes.insert(arm.id.clone(), arm_class(&demo, arm));
        }
    });
    for (arm, class) in [
        ("a_customer", LaneClass::Customer),
        ("a_looking", LaneClass::Looking),
        ("a_ambient", LaneClass::NotAFit),
        ("a_frozen", LaneClass::Rejoins),
        ("a_big", LaneClass::Ahead),
    ] {
        assert_eq!(classes[arm], class, "{arm}");
    }
}
