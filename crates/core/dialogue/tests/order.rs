//! The order in which a reply to an open question is understood, what a try costs, and what comes of the last one.

#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

mod talked;

use lumbo_dialogue::file::Dialogue;
use lumbo_dialogue::talk::{Event, WhyOut};
use lumbo_value::Missing;
use serde_json::{Value as Json, json};
use talked::{Talked, ask, dialogue, section, with};

fn one(turn: Json) -> Dialogue {
    dialogue(section(vec![turn]), json!({}))
}

/// A question, and side-talk that stands in its way.
fn beside(turn: Json, phrases: &[&str]) -> Dialogue {
    let talk = json!([{"id": "talk", "phrases": {"en": phrases},
        "does": {"answer": [{"line": {"text": {"en": "By the way."}}}]}}]);
    dialogue(section(vec![turn]), json!({ "side_talk": talk }))
}

fn answered(talked: &Talked) -> bool {
    talked.said().iter().any(|line| line == "By the way.")
}

fn tries(talked: &Talked) -> usize {
    talked.events.iter().filter(|event| matches!(event, Event::NotKept { .. })).count()
}

#[test]
fn a_control_word_counts_only_where_it_is_the_whole_reply() {
    let file = dialogue(
        section(vec![ask("t", "temperature", "Frozen or chilled?"), ask("c", "company", "Which company?")]),
        json!({}),
    );
    assert_eq!(Talked::run(&file, &["frozen", "back"]).last(), "Frozen or chilled?");
    assert_eq!(
        Talked::run(&file, &["frozen", "Back Lane Bakery"]).shows("company").as_deref(),
        Some("Back Lane Bakery")
    );
}

#[test]
fn an_option_goes_before_side_talk_of_the_same_words() {
    let file = beside(ask("t", "temperature", "Frozen or chilled?"), &["frozen"]);
    let talked = Talked::run(&file, &["frozen"]);
    assert_eq!((talked.shows("temperature").as_deref(), answered(&talked)), (Some("Frozen"), false));
}

#[test]
fn for_a_name_or_a_company_exact_side_talk_goes_before_the_value() {
    let company = beside(ask("c", "company", "Which company?"), &["opening hours"]);
    let talked = Talked::run(&company, &["opening hours"]);
    assert_eq!((talked.shows("company"), answered(&talked)), (None, true));
    // With a typo it is a name that somebody gave.
    let near = Talked::run(&company, &["opening hourz"]);
    assert_eq!((near.shows("company").as_deref(), answered(&near)), (Some("opening hourz"), false));
    // What is shaped like a question is none either.
    assert_eq!(Talked::run(&company, &["who are you?"]).shows("company"), None);
}

#[test]
fn a_value_that_the_type_reads_goes_before_side_talk_with_typos() {
    let file = beside(ask("p", "pallets", "How many?"), &["fourty pallets"]);
    let talked = Talked::run(&file, &["forty pallets"]);
    assert_eq!((talked.shows("pallets").as_deref(), answered(&talked)), (Some("40 pallets"), false));
}

#[test]
fn a_value_that_a_rule_refuses_is_a_try_and_nothing_else_is_looked_for() {
    let ruled = with(ask("p", "pallets", "How many?"), json!({"rules": [{"rule": "range", "min": "10"}]}));
    let file = beside(ruled, &["five pallets"]);
    let talked = Talked::run(&file, &["4 pallets"]);
    assert_eq!((tries(&talked), answered(&talked)), (1, false));
    assert!(talked.last().contains("4 pallets") && talked.last().contains("10"), "{}", talked.last());
}

#[test]
fn an_option_with_a_typo_goes_before_side_talk_with_one() {
    let file = beside(ask("t", "temperature", "Frozen or chilled?"), &["frozzen"]);
    let talked = Talked::run(&file, &["frozn"]);
    assert_eq!((talked.shows("temperature").as_deref(), answered(&talked)), (Some("Frozen"), false));
}

#[test]
fn why_do_you_ask_is_answered_by_the_questions_own_line_and_costs_no_try() {
    let why = with(ask("p", "phone", "Which number?"), json!({"why": {"en": "To ring you back."}, "tries": 1}));
    let talked = Talked::run(&one(why), &["why do you need it?", "020 7946 0958"]);
    assert!(talked.said().iter().any(|line| line == "To ring you back."), "{:?}", talked.said());
    assert_eq!((tries(&talked), talked.shows("phone").as_deref()), (0, Some("+44 20 7946 0958")));
}

#[test]
fn each_try_has_its_own_message_and_the_last_repeats() {
    let messages = json!([{"on": "type", "say": [{"en": "A number, please."}, {"en": "Just digits."}]}]);
    let file = one(with(ask("p", "pallets", "How many?"), json!({"messages": messages, "tries": 4})));
    let last = |replies: &[&str]| Talked::run(&file, replies).last();
    assert_eq!(last(&["lots"]), "A number, please.");
    assert_eq!(last(&["lots", "many"]), "Just digits.");
    assert_eq!(last(&["lots", "many", "heaps"]), "Just digits.");
}

#[test]
fn after_the_last_try_the_field_is_missing_because_it_could_not_be_read() {
    let file = dialogue(
        section(vec![with(ask("p", "pallets", "How many?"), json!({"tries": 2})), ask("e", "email", "Which address?")]),
        json!({}),
    );
    let talked = Talked::run(&file, &["lots", "many"]);
    assert_eq!(
        (talked.last().as_str(), talked.state.missing.get("f_pallets")),
        ("Which address?", Some(&Missing::NotReadable))
    );
    let left =
        talked.events.iter().find_map(|event| if let Event::LeftOpen { why, .. } = event { Some(*why) } else { None });
    assert_eq!(left, Some(WhyOut::Tries));
}

#[test]
fn who_declines_takes_the_way_out_at_once_with_the_reason_kept() {
    for reply in ["I'd rather not say", "don't know", "none", "n/a", "not now"] {
        let file = dialogue(
            section(vec![ask("e", "email", "Which address?"), ask("t", "temperature", "Frozen or chilled?")]),
            json!({}),
        );
        let talked = Talked::run(&file, &[reply]);
        assert_eq!(talked.last(), "Frozen or chilled?", "{reply}");
        assert_eq!((talked.state.missing.get("f_email"), tries(&talked)), (Some(&Missing::Declined), 0), "{reply}");
    }
}

#[test]
fn a_way_out_may_be_an_arm_whose_option_was_not_picked() {
    let arms = json!({"tries": 1, "way_out": {"arm": "a_none"}, "arms": [
        {"id": "a_frozen", "when": {"options": ["frozen"]}, "turns": [ask("p", "pallets", "How many?")]},
        {"id": "a_none", "when": "way_out", "turns": [ask("c", "company", "Which company?")]}
    ]});
    let file = one(with(ask("t", "temperature", "Frozen or chilled?"), arms));
    assert_eq!(Talked::run(&file, &["frozen"]).last(), "How many?");
    assert_eq!(Talked::run(&file, &["purple"]).last(), "Which company?");
}

#[test]
fn a_skip_goes_on_with_the_reason_kept_where_the_author_allows_it() {
    let file = dialogue(
        section(vec![
            with(ask("p", "phone", "Which number?"), json!({"skip": {"en": "Rather by e-mail"}})),
            ask("e", "email", "Which address?"),
        ]),
        json!({}),
    );
    for reply in [">skip", "Rather by e-mail", "skip"] {
        let talked = Talked::run(&file, &[reply]);
        assert_eq!(
            (talked.last().as_str(), talked.state.missing.get("f_phone")),
            ("Which address?", Some(&Missing::Skipped)),
            "{reply}"
        );
    }
    // Where there is no skip, the word declines.
    let held = Talked::run(&one(ask("p", "phone", "Which number?")), &["skip"]);
    assert_eq!(held.state.missing.get("f_phone"), Some(&Missing::Declined));
}

#[test]
fn a_tie_is_asked_back_with_its_candidates_and_costs_no_try() {
    let file = one(with(ask("t", "temperature", "Frozen or chilled?"), json!({"tries": 1})));
    let talked = Talked::run(&file, &["frozen or chilled"]);
    let Some(Event::Tied { options, .. }) = talked.events.iter().find(|event| matches!(event, Event::Tied { .. }))
    else {
        panic!("{:?}", talked.events)
    };
    assert_eq!((options.as_slice(), tries(&talked)), (["frozen".to_owned(), "chilled".to_owned()].as_slice(), 0));
    assert_eq!(Talked::run(&file, &["frozen or chilled", "chilled"]).shows("temperature").as_deref(), Some("Chilled"));
}

#[test]
fn ties_and_side_talk_together_are_bounded() {
    let file = beside(ask("t", "temperature", "Frozen or chilled?"), &["hello there"]);
    let replies =
        ["frozen or chilled", "hello there", "frozen or chilled", "hello there", "frozen or chilled", "hello there"];
    let talked = Talked::run(&file, &replies);
    let left =
        talked.events.iter().find_map(|event| if let Event::LeftOpen { why, .. } = event { Some(*why) } else { None });
    assert_eq!((left, tries(&talked)), (Some(WhyOut::Extras), 0));
    assert!(Talked::run(&file, &replies[..5]).state.closed.is_none());
}

#[test]
fn a_later_reply_completes_a_name_and_one_that_a_rule_refused_stays_beside() {
    let file = dialogue(
        section(vec![ask("n", "name", "Your name?"), with(ask("e", "email", "Which address?"), json!({"tries": 1}))]),
        json!({}),
    );
    let talked = Talked::run(&file, &["Pia", "Lindqvist"]);
    assert_eq!(talked.shows("name").as_deref(), Some("Pia Lindqvist"));
    let short = Talked::run(&file, &["Pia", "don't know"]);
    assert_eq!((short.shows("name"), short.state.missing.get("f_name")), (None, Some(&Missing::Declined)));
    assert_eq!(short.state.refused.get("f_name").map(ToString::to_string).as_deref(), Some("Pia"));
}

#[test]
fn an_ask_may_offer_some_of_the_options_and_then_reads_no_other() {
    let file = one(with(ask("t", "temperature", "Frozen?"), json!({"only": ["frozen"], "tries": 2})));
    assert_eq!(tries(&Talked::run(&file, &["chilled"])), 1);
    assert_eq!(Talked::run(&file, &["frozen"]).shows("temperature").as_deref(), Some("Frozen"));
}

#[test]
fn a_reply_that_only_volunteers_something_costs_no_try() {
    let file = dialogue(
        section(vec![
            with(ask("t", "temperature", "Frozen or chilled?"), json!({"tries": 1})),
            ask("e", "email", "Which address?"),
        ]),
        json!({}),
    );
    let talked = Talked::run(&file, &["ana@heron.example", "chilled"]);
    assert_eq!(
        (talked.shows("email").as_deref(), talked.shows("temperature").as_deref(), tries(&talked)),
        (Some("ana@heron.example"), Some("Chilled"), 0)
    );
    assert_eq!(talked.state.closed.as_deref(), Some("lead"));
}
