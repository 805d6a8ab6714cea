//! Several scorecards in one dialogue: each File lead and each condition names one, or means the default.

#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

mod talked;

use lumbo_dialogue::plan::Plan;
use lumbo_dialogue::talk::Event;
use serde_json::{Value, json};
use talked::{Talked, ask, dialogue};

fn card(id: &str, option: &str, points: i64) -> Value {
    json!({
        "id": id, "title": id,
        "dimensions": [{"id": format!("{id}_d"), "title": "Need", "criteria": [
            {"id": format!("{id}_c"), "gives": {"when": {"holds": {"compare": {"what": "temperature", "is": "is",
                "to": option}}, "points": points}}}
        ]}],
        "bands": [{"id": format!("{id}_low"), "label": "Low"}, {"id": format!("{id}_high"), "label": "High",
            "from": 10}]
    })
}

/// Files by the second card, then goes by its points and its band, and by the default's.
fn two_cards(default: Option<&str>) -> lumbo_dialogue::file::Dialogue {
    let close = |id: &str, outcome: &str| json!({"kind": "close", "id": id, "outcome": outcome});
    let arm = |id: &str, what: &str, to: &str, outcome: &str| {
        let is = if what.starts_with("@band") { "is" } else { "at_least" };
        json!({"id": id, "when": {"holds": {"compare": {"what": what, "is": is, "to": to}}},
            "turns": [close(&format!("{id}_close"), outcome)]})
    };
    let turns = json!([
        ask("t_temp", "temperature", "Frozen or chilled?"),
        {"kind": "file_lead", "id": "t_file", "scorecard": "chilled_card"},
        {"kind": "fork", "id": "t_fork", "arms": [
            arm("a_named", "@score.chilled_card", "20", "lead"),
            arm("a_band", "@band.chilled_card", "chilled_card_high", "looking"),
            arm("a_default", "@score", "15", "looking")
        ]}
    ]);
    let mut extra = json!({"scorecards": [card("frozen_card", "frozen", 15), card("chilled_card", "chilled", 25)]});
    if let Some(default) = default {
        extra["default_scorecard"] = json!(default);
    }
    dialogue(json!([{"id": "main", "title": "Main", "turns": turns, "then": {"close": {"outcome": "looking"}}}]), extra)
}

#[test]
fn points_and_bands_are_each_cards_own() {
    let file = two_cards(Some("frozen_card"));
    let chilled = Talked::run(&file, &["chilled"]);
    assert_eq!((chilled.state.points, chilled.state.points_by.get("chilled_card")), (0, Some(&25)));
    assert_eq!(chilled.state.bands.get("chilled_card").map(String::as_str), Some("chilled_card_high"));
    assert!(
        chilled.events.iter().any(|event| matches!(event, Event::Took { arm, .. } if arm == "a_named")),
        "{:?}",
        chilled.events
    );
    let frozen = Talked::run(&file, &["frozen"]);
    assert_eq!((frozen.state.points, frozen.state.points_by.get("chilled_card")), (15, Some(&0)));
    let Some(Event::Filed { score: Some(score), .. }) =
        frozen.events.iter().find(|event| matches!(event, Event::Filed { .. }))
    else {
        panic!()
    };
    assert_eq!(
        (score.scorecard.as_str(), score.total, score.band.as_deref()),
        ("chilled_card", 0, Some("chilled_card_low"))
    );
    assert!(frozen.events.iter().any(|event| matches!(event, Event::Took { arm, .. } if arm == "a_default")));
}

#[test]
fn a_scorecard_that_is_named_and_not_there_is_a_finding() {
    let mut file = two_cards(Some("frozen_card"));
    let says = |file: &lumbo_dialogue::file::Dialogue| -> Vec<String> {
        lumbo_checks::check(file)
            .into_iter()
            .filter(|finding| finding.says.contains("no scorecard"))
            .map(|finding| finding.at)
            .collect()
    };
    assert_eq!(says(&file), Vec::<String>::new());
    file.scorecards.pop();
    assert_eq!(
        says(&file).iter().filter(|at| matches!(at.as_str(), "main/t_fork/a_named" | "main/t_fork/a_band")).count(),
        2,
        "{:?}",
        says(&file)
    );
    file.default_scorecard = Some("gone".into());
    assert!(says(&file).contains(&"scoring".to_owned()));
}

#[test]
fn where_there_are_several_none_is_taken_for_being_first() {
    let file = two_cards(None);
    assert_eq!(file.default_card_place(), None);
    let chilled = Talked::run(&file, &["frozen"]);
    assert_eq!(chilled.state.points, 0, "no card is the default");
    let mut unnamed = serde_json::to_value(&file).unwrap();
    unnamed["sections"][0]["turns"][1].as_object_mut().unwrap().remove("scorecard");
    let (_, faults) = Plan::new(&serde_json::from_value(unnamed.clone()).unwrap());
    assert!(faults.iter().any(|fault| fault.says.contains("several scorecards")), "{faults:?}");
    unnamed["default_scorecard"] = json!("chilled_card");
    assert_eq!(Plan::new(&serde_json::from_value(unnamed).unwrap()).1, []);
}
