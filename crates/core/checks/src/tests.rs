use serde_json::json;

use super::*;

fn demo() -> serde_json::Value {
    serde_json::from_str(include_str!("../../../../demo/storage-enquiry.json")).unwrap()
}

fn findings(json: &serde_json::Value) -> Vec<(String, Severity, String)> {
    let dialogue = lumbo_dialogue::file::load(&json.to_string()).unwrap_or_else(|error| panic!("{error}"));
    check(&dialogue).into_iter().map(|finding| (finding.key, finding.severity, finding.at)).collect()
}

fn has(json: &serde_json::Value, key: &str, severity: Severity, at: &str) {
    let found = findings(json);
    assert!(
        found.iter().any(|finding| *finding == (key.to_owned(), severity, at.to_owned())),
        "{key} at {at} is not in {found:#?}"
    );
}

#[test]
fn the_demo_has_no_finding() {
    assert_eq!(findings(&demo()), []);
}

#[test]
fn a_broken_target_is_an_error_at_its_place() {
    let mut file = demo();
    file["sections"][0]["turns"][0]["arms"][0]["then"] = json!({"go_to": "nowhere"});
    has(&file, "target", Severity::Error, "welcome/t_interest/a_customer");
    // Nothing else goes there, so the section is left alone.
    has(&file, "unreachable_section", Severity::Warning, "customers");
}

#[test]
fn a_turn_below_a_close_is_unreachable() {
    let mut file = demo();
    file["sections"][4]["turns"]
        .as_array_mut()
        .unwrap()
        .push(json!({"kind": "tell", "id": "t_late", "say": [{"line": {"text": {"en": "Late"}}}]}));
    has(&file, "unreachable_turn", Severity::Warning, "small/t_late");
}

#[test]
fn an_outline_that_ends_without_a_close_is_an_error() {
    let mut file = demo();
    file["sections"] = json!([{"id": "only", "title": "Only", "turns": [{"kind": "tell", "id": "t",
        "say": [{"line": {"text": {"en": "Hello"}}}]}], "then": "carry_on"}]);
    file["brief"] = json!({});
    has(&file, "nothing_after", Severity::Error, "only");
    has(&file, "no_close", Severity::Error, "outline");
}

#[test]
fn a_circle_without_a_question_is_an_error() {
    let mut file = demo();
    file["sections"][4]["turns"].as_array_mut().unwrap().pop();
    file["sections"][4]["then"] = json!({"go_to": "small"});
    has(&file, "loop", Severity::Error, "small");
    let mut file = demo();
    file["sections"][4]["turns"][0] = json!({"kind": "visit", "id": "v1", "section": "small"});
    has(&file, "visit_circle", Severity::Error, "small");
}

#[test]
fn a_kind_that_cannot_run_yet_is_refused_by_name() {
    let mut file = demo();
    file["sections"][1]["turns"][0] = json!({"kind": "offer_times", "id": "t_times", "say": {"text": {"en": "When?"}},
        "minutes": 30, "days_ahead": 5});
    let dialogue = lumbo_dialogue::file::load(&file.to_string()).unwrap();
    let found = check(&dialogue);
    let finding = found.iter().find(|finding| finding.key == "cannot_run_yet").unwrap();
    assert_eq!(finding.says, "Offer times cannot be run by this version yet");
    assert!(
        found.iter().all(|finding| !finding.key.starts_with("unreachable")),
        "what stands below it is not blamed: {found:#?}"
    );
    assert!(!may_release(&found));
}

#[test]
fn a_picture_without_words_is_a_warning_and_a_text_over_three_lines_a_hint() {
    let mut file = demo();
    file["media"] = json!({"aa": "image/png"});
    let say = &mut file["sections"][1]["turns"][0]["say"];
    *say = json!([{"beside": [{"picture": {"media": "aa", "alt": {"en": " "}}}]}]);
    has(&file, "picture_without_words", Severity::Warning, "load/t_load");
    // 42 characters fit on a short line: three lines pass, one character more does not.
    for (length, found) in [(126, false), (127, true)] {
        file["sections"][1]["turns"][0]["say"] = json!([{"line": {"text": {"en": "x".repeat(length)}}}]);
        assert_eq!(findings(&file).iter().any(|finding| finding.0 == "long_text"), found, "{length} characters");
    }
}

#[test]
fn other_findings_stand_at_their_place() {
    let mut file = demo();
    file["brief"]["needs"] = json!([["pallets"], ["website_nobody_asks"]]);
    has(&file, "needed_never_asked", Severity::Warning, "brief");

    let mut file = demo();
    file["sections"][1]["turns"][1]["arms"].as_array_mut().unwrap().remove(1);
    has(&file, "option_without_arm", Severity::Hint, "load/t_temperature");

    let mut file = demo();
    file["sections"][1]["turns"][0]["say"][0]["line"]["text"]["en"] = json!("x".repeat(281));
    has(&file, "long_text", Severity::Hint, "load/t_load");

    let mut file = demo();
    file["sections"][1]["turns"][3]["fills"][0]["formula"] = json!("MONEY(palets * 2)");
    has(&file, "formula", Severity::Error, "load/t_estimate");

    let mut file = demo();
    file["sections"][4]["turns"][0]["say"][1]["link"]["url"] = json!("javascript:alert(1)");
    has(&file, "link", Severity::Error, "small/t_small");

    let mut file = demo();
    file["sections"][1]["turns"][1]["id"] = json!("t_load");
    has(&file, "id", Severity::Error, "load/t_load");

    let mut file = demo();
    file["scorecards"][0]["bands"][2]["from"] = json!(30);
    has(&file, "scoring", Severity::Error, "scoring/fit");
}

#[test]
fn an_accepted_finding_is_quiet_and_an_error_never_is() {
    let mut file = demo();
    file["sections"][1]["turns"][0]["say"][0]["line"]["text"]["en"] = json!("x".repeat(281));
    file["accepted"] = json!(["long_text at load/t_load", "target at welcome/t_interest/a_customer"]);
    assert_eq!(findings(&file), []);
    file["sections"][0]["turns"][0]["arms"][0]["then"] = json!({"go_to": "nowhere"});
    has(&file, "target", Severity::Error, "welcome/t_interest/a_customer");
}

#[test]
fn a_picture_that_was_never_uploaded_blocks_a_release() {
    let mut file = demo();
    file["sections"][1]["turns"][0]["say"][0] = json!({"picture": {"media": "sha256-aa", "alt": {"en": "A hall"}}});
    has(&file, "media", Severity::Error, "load/t_load");
}
