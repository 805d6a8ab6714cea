//! What authors are promised: a consent's no is kept, leads that lack something are not filed, rules are loosened where
//! the catalogue lets them, counters count, doubts are heard.

mod talked;

use lumbo_dialogue::file::Dialogue;
use lumbo_dialogue::plan::Plan;
use lumbo_dialogue::talk::Event;
use lumbo_value::Value;
use serde_json::json;
use talked::{Talked, ask, dialogue, section, with};

fn close(id: &str, outcome: &str) -> serde_json::Value {
    json!({"kind": "close", "id": id, "outcome": outcome})
}

#[test]
fn the_no_to_a_consent_is_kept_and_takes_its_arm_else_the_way_out() {
    let consent = |more: serde_json::Value| with(ask("c", "consent", "May we write to you?"), more);
    let file = |more: serde_json::Value| {
        let mut sections = section(vec![consent(more), ask("e", "email", "Your e-mail?")]);
        sections.as_array_mut().unwrap().push(json!({"id": "off", "title": "Off", "turns": [close("x", "looking")],
            "then": "carry_on"}));
        dialogue(sections, json!({}))
    };
    let arms = json!({"arms": [{"id": "a_no", "when": {"options": ["no"]}, "turns": [], "then": {"go_to": "off"}}]});
    let out = json!({"way_out": {"go_to": "off"}});
    for (says, more) in [("an arm", arms), ("the way out", out)] {
        for reply in ["no", ">tap no", "I do not agree"] {
            let talk = Talked::run(&file(more.clone()), &[reply]);
            let held = &talk.state.values["f_consent"].value;
            let Value::Consent { given: false, wording: 1, at } = held else { panic!("{says}, {reply}: {held:?}") };
            assert!(at.starts_with("2026-11-23T10:00"), "{at}");
            assert_eq!(talk.state.closed.as_deref(), Some("looking"), "{says}, {reply}");
            assert_eq!(talk.shows("consent").as_deref(), Some("No"));
        }
        let yes = Talked::run(&file(more), &["yes"]);
        assert_eq!((yes.shows("consent").as_deref(), yes.state.closed.as_deref()), (Some("Yes"), None));
    }
    // What is neither leaves it open; where an answer is required, only a yes goes on.
    let rather = Talked::run(&file(json!({"way_out": {"go_to": "off"}})), &["rather not"]);
    assert_eq!((rather.shows("consent"), rather.state.closed.as_deref()), (None, Some("looking")));
    let required = json!({"rules": [{"rule": "required"}], "way_out": {"go_to": "off"}});
    let twice = Talked::run(&file(required.clone()), &["no", "yes"]);
    assert_eq!((twice.shows("consent").as_deref(), twice.state.closed.as_deref()), (Some("Yes"), None));
    let never = Talked::run(&file(required), &["no", "no", "no"]);
    assert_eq!((never.shows("consent"), never.state.closed.as_deref()), (None, Some("looking")));
}

#[test]
fn a_condition_reads_a_consents_no_and_a_change_of_it_is_replayed() {
    let fork = json!({"kind": "fork", "id": "f", "arms": [{"id": "a_no", "turns": [], "then": {"close": {"outcome":
        "looking"}}, "when": {"holds": {"compare": {"what": "consent", "is": "is", "to": "no"}}}}]});
    let turns = vec![ask("c", "consent", "May we write to you?"), ask("e", "email", "Your e-mail?"), fork];
    let file = dialogue(section(turns), json!({}));
    let ended = |replies: &[&str]| Talked::run(&file, replies).state.closed;
    assert_eq!(ended(&["no", "ana@quay.example"]).as_deref(), Some("looking"));
    assert_eq!(ended(&["yes", "ana@quay.example"]).as_deref(), Some("lead"));
    let changed = Talked::run(&file, &["no", ">revise c yes", "ana@quay.example"]);
    assert_eq!(changed.state.closed.as_deref(), Some("lead"));
}

/// Asks for an e-mail address and a phone number, and files a lead that must carry one of the two.
fn filing(arms: serde_json::Value) -> Dialogue {
    let file = json!({"kind": "file_lead", "id": "file", "arms": arms});
    let turns = vec![ask("e", "email", "Your e-mail?"), ask("p", "phone", "Your phone?"), file];
    dialogue(section(turns), json!({"brief": {"needs": [["email", "phone"]]}}))
}

#[test]
fn a_lead_that_lacks_what_it_must_carry_takes_its_arm_and_is_not_filed() {
    let stopped = filing(json!([{"id": "a", "when": "lacks", "turns": [], "then": {"close": {"outcome": "looking"}}}]));
    let filed = |talk: &Talked| talk.events.iter().any(|event| matches!(event, Event::Filed { .. }));
    let lacking = Talked::run(&stopped, &["rather not", "rather not"]);
    assert_eq!((filed(&lacking), lacking.state.closed.as_deref()), (false, Some("looking")));
    for replies in [["ana@quay.example", "rather not"], ["rather not", "020 7946 0958"]] {
        let enough = Talked::run(&stopped, &replies);
        assert_eq!((filed(&enough), enough.state.closed.as_deref()), (true, Some("lead")), "{replies:?}");
    }
    // Without the arm it is filed all the same.
    assert!(filed(&Talked::run(&filing(json!([])), &["rather not", "rather not"])));
}

#[test]
fn an_ask_leaves_out_a_rule_that_may_be_left_out_and_no_other() {
    let file = |may: serde_json::Value, loosens: serde_json::Value| {
        let asked = with(ask("n", "name", "Who are you?"), json!({"loosens": loosens}));
        let mut file = serde_json::to_value(dialogue(section(vec![asked]), json!({}))).unwrap();
        file["fields"][3]["may_loosen"] = may;
        serde_json::from_value::<Dialogue>(file).unwrap()
    };
    let loose = file(json!(["full_name"]), json!(["full_name"]));
    assert_eq!(Talked::run(&loose, &["Ana"]).shows("name").as_deref(), Some("Ana"));
    let strict = file(json!(["full_name"]), json!([]));
    assert_eq!(Talked::run(&strict, &["Ana"]).shows("name"), None);
    let faults = |file: &Dialogue| Plan::new(file).1.into_iter().map(|fault| fault.says).collect::<Vec<_>>();
    assert_eq!(
        faults(&file(json!([]), json!(["full_name"]))),
        ["the fields’ settings do not let an ask leave out the rule “full_name” of Name"]
    );
    assert_eq!(faults(&file(json!([]), json!(["whole"]))), ["Name has no rule “whole” that could be left out here"]);
}

#[test]
fn a_counter_begins_where_it_says_and_is_raised_each_time() {
    let count = json!({"kind": "work_out", "id": "w", "fills": [
        {"field": "rounds", "formula": "rounds + 1", "starts": "0"}]});
    let again = json!({"kind": "fork", "id": "f", "arms": [{"id": "a", "turns": [], "then": {"go_to": "main"},
        "when": {"holds": {"compare": {"what": "rounds", "is": "less_than", "to": "3"}}}}]});
    let mut file = serde_json::to_value(dialogue(section(vec![count, again]), json!({}))).unwrap();
    let field = json!({"id": "f_rounds", "key": "rounds", "label": "Rounds", "type": "whole_number"});
    file["fields"].as_array_mut().unwrap().push(field);
    let talk = Talked::run(&serde_json::from_value(file.clone()).unwrap(), &[]);
    assert_eq!((talk.shows("rounds").as_deref(), talk.state.closed.as_deref()), (Some("3"), Some("lead")));
    file["sections"][0]["turns"][0]["fills"][0]["starts"] = json!("\"none\"");
    let faults = Plan::new(&serde_json::from_value(file).unwrap()).1;
    assert_eq!(faults[0].says, "Rounds keeps a number; where it starts gives text");
}

#[test]
fn a_word_of_doubt_beside_an_option_is_heard() {
    let file = dialogue(section(vec![ask("t", "temperature", "Frozen or chilled?")]), json!({}));
    let unsure = |reply: &str| {
        let talk = Talked::run(&file, &[reply]);
        assert_eq!(talk.shows("temperature").as_deref(), Some("Frozen"), "{reply}");
        talk.state.values["f_temp"].unsure
    };
    for reply in ["probably frozen", "frozen I think", "Frozen, maybe", "I'd say frozen", "perhaps the frozen one"] {
        assert!(unsure(reply), "{reply}");
    }
    for reply in ["frozen", "definitely frozen", "frozen please", ">tap frozen"] {
        assert!(!unsure(reply), "{reply}");
    }
}

#[test]
fn an_address_with_a_letter_wrong_in_a_well_known_service_is_asked_back_once() {
    let file = dialogue(section(vec![ask("e", "email", "Your e-mail?")]), json!({}));
    let kept = |replies: &[&str]| Talked::run(&file, replies).shows("email");
    let asked = Talked::run(&file, &["bob@gmial.com"]);
    assert!(asked.last().contains("Did you mean bob@gmail.com?"), "{}", asked.last());
    assert_eq!(asked.state.asking.as_ref().map(|asking| asking.tries), Some(0), "it uses no try");
    assert_eq!(kept(&["bob@gmial.com", "yes"]).as_deref(), Some("bob@gmail.com"));
    assert_eq!(kept(&["bob@gmial.com", "no"]).as_deref(), Some("bob@gmial.com"));
    assert_eq!(kept(&["bob@gmial.com", "bob@gmial.com"]).as_deref(), Some("bob@gmial.com"), "said twice it is meant");
    assert_eq!(kept(&["bob@gmial.com", "ann@quay.example"]).as_deref(), Some("ann@quay.example"));
    assert_eq!(kept(&["bob@gmail.com"]).as_deref(), Some("bob@gmail.com"));
    assert_eq!(kept(&["bob@quayside.example"]).as_deref(), Some("bob@quayside.example"));
}

#[test]
fn a_weekend_is_days_and_an_example_fits_the_field() {
    let days = json!({"id": "f_days", "key": "days", "label": "Days", "type": "whole_number", "unit": "days",
        "rules": [{"rule": "range", "min": "1", "max": "30"}]});
    let mut file = serde_json::to_value(dialogue(section(vec![ask("d", "days", "For how long?")]), json!({}))).unwrap();
    file["fields"].as_array_mut().unwrap().push(days);
    let file: Dialogue = serde_json::from_value(file).unwrap();
    for (reply, days) in [("a weekend", "2 days"), ("a long weekend", "3 days"), ("3 days, fri to sun", "3 days")] {
        assert_eq!(Talked::run(&file, &[reply]).shows("days").as_deref(), Some(days), "{reply}");
    }
    assert_eq!(Talked::run(&file, &["a weekend or two weekends"]).shows("days"), None);
    let refused = |replies: &[&str]| Talked::run(&file, replies).last();
    assert_eq!(refused(&["heaps"]), "Please write a number, for example 15 days.");
    assert_eq!(refused(&["heaps", "loads"]), "Sorry, not quite yet. Please write a number, for example 15 days.");
}
