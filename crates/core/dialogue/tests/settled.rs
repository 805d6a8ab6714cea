//! `@settled`: whether only one band is left, whatever is still answered.
#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use lumbo_dialogue::Plan;
use lumbo_dialogue::file::load;
use lumbo_dialogue::talk::script::{line, run};
use lumbo_dialogue::talk::{Context, Env, Event};
use lumbo_reading::domains::DomainLists;
use serde_json::{Value, json};

/// Three questions worth 10, 20 and 5 points, and a fork on `@settled` after each; 20 points are high.
fn settled() -> Value {
    let field = |key: &str| json!({"id": format!("fld_{key}"), "key": key, "label": key, "type": "yes_no"});
    let ask = |key: &str| {
        json!({"kind": "ask", "id": format!("t_{key}"), "say": {"text": {"en": key}}, "field": key,
        "skip": {"en": "Skip"}})
    };
    let fork = |key: &str| {
        json!({"kind": "fork", "id": format!("t_fork_{key}"), "arms": [{"id": format!("a_{key}"),
            "when": {"holds": {"compare": {"what": "@settled", "is": "is", "to": "yes"}}}, "turns": []}]})
    };
    let criterion = |key: &str, points: i64| {
        json!({"id": format!("c_{key}"),
        "gives": {"when": {"holds": {"compare": {"what": key, "is": "is", "to": "yes"}}, "points": points}}})
    };
    let fields = ["one", "two", "three"].map(field);
    json!({
        "format": "lumbo.dialogue/1", "id": "settled", "title": "Settled", "language": "en",
        "opening": {"say": {"en": "Hello"}, "button": {"en": "Go"}},
        "outcomes": [{"id": "lead", "label": "Lead", "class": "lead"}],
        "fields": fields,
        "sections": [{"id": "s", "title": "S", "then": "carry_on", "turns": [
            ask("one"), fork("one"), ask("two"), fork("two"), ask("three"), fork("three"),
            {"kind": "file_lead", "id": "t_file"}, {"kind": "close", "id": "t_end", "outcome": "lead"}]}],
        "scorecards": [{"id": "card", "title": "Card", "dimensions": [{"id": "d", "title": "D", "criteria": [
            criterion("one", 10), criterion("two", 20), criterion("three", 5)]}],
            "bands": [{"id": "low", "label": "Low"}, {"id": "high", "label": "High", "from": 20}]}]
    })
}

/// Which forks found it settled.
fn found(file: &Value, replies: &[&str]) -> Vec<String> {
    let (plan, faults) = Plan::new(&load(&file.to_string()).unwrap());
    assert_eq!(faults, []);
    let (context, domains) = (Context::default(), DomainLists::default());
    let env =
        Env { now: "2026-11-28T10:00:00Z".parse().unwrap(), seed: 1, context: &context, known: &[], domains: &domains };
    let lines: Vec<_> = replies.iter().enumerate().map(|(place, text)| line(text, place + 1).unwrap()).collect();
    let (events, _) = run(&plan, &lines, env).unwrap_or_else(|error| panic!("{error}"));
    let took = |event: &Event| if let Event::Took { arm, .. } = event { Some(arm.clone()) } else { None };
    events.iter().filter_map(took).collect()
}

#[test]
fn it_is_settled_once_nothing_that_comes_can_change_the_band() {
    // After the first, 20 points are still open; after the second, 5 more cannot undo 20, nor make 10 of none high.
    assert_eq!(found(&settled(), &["yes", "yes", "no"]), ["a_two", "a_three"]);
    assert_eq!(found(&settled(), &["no", "no", "yes"]), ["a_two", "a_three"]);
    assert_eq!(found(&settled(), &["yes", ">skip", "no"]), ["a_two", "a_three"], "10 and 5 are not 20");
}

#[test]
fn points_that_can_still_be_lost_and_a_rule_out_keep_it_open() {
    let mut file = settled();
    file["scorecards"][0]["dimensions"][0]["criteria"][2]["gives"]["when"]["points"] = json!(-5);
    assert_eq!(found(&file, &["no", "yes", "no"]), ["a_three"], "20 less 5 is low again");
    let mut file = settled();
    file["scorecards"][0]["rule_outs"] =
        json!([{"id": "o", "holds": {"compare": {"what": "three", "is": "is", "to": "yes"}}, "reason": {"en": "No"}}]);
    assert_eq!(found(&file, &["yes", "yes", "no"]), ["a_three"]);
}

#[test]
fn a_cap_that_is_certain_settles_it_and_one_that_may_come_does_not() {
    let must =
        |key: &str| json!([{"id": "m", "holds": {"compare": {"what": key, "is": "is", "to": "yes"}}, "cap": "low"}]);
    let mut file = settled();
    file["scorecards"][0]["must_haves"] = must("one");
    assert_eq!(found(&file, &["no", "yes", "yes"]), ["a_one", "a_two", "a_three"], "capped from the first answer on");
    file["scorecards"][0]["must_haves"] = must("three");
    assert_eq!(found(&file, &["yes", "yes", "yes"]), ["a_three"]);
}

#[test]
fn a_criterion_cannot_read_it() {
    let mut file = settled();
    file["scorecards"][0]["dimensions"][0]["criteria"][0]["gives"]["when"]["holds"]["compare"]["what"] =
        json!("@settled");
    let (_, faults) = Plan::new(&load(&file.to_string()).unwrap());
    assert_eq!(faults.len(), 1);
}
