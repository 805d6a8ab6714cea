//! Conversations with prospects who answer like people: everything in one sentence, off script, correcting themselves.

#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

mod talked;

use lumbo_dialogue::file::Dialogue;
use lumbo_dialogue::talk::{Event, QuestionKind, prospect_view};
use talked::{Talked, ask, dialogue, section, with};

#[test]
fn an_open_ask_reads_everything_says_it_back_and_asks_only_for_what_is_missing() {
    let open = serde_json::json!({"kind": "open_ask", "id": "open", "say": {"text": {"en": "What do you need?"}},
        "fields": ["temperature", "pallets", "start", "email"]});
    let file = dialogue(
        section(vec![
            open,
            ask("ask_pallets", "pallets", "How many pallets?"),
            ask("ask_email", "email", "Which address?"),
        ]),
        serde_json::json!({}),
    );
    let talked = Talked::run(&file, &["About 340 pallets frozen from March, ana@heron.example"]);
    assert_eq!(talked.shows("pallets").as_deref(), Some("340 pallets"));
    assert_eq!(talked.shows("start").as_deref(), Some("March 2027"));
    assert_eq!(talked.state.closed.as_deref(), Some("lead"));
    assert!(
        talked.said().iter().any(|line| line == "Thanks. We have: 340 pallets, Frozen, March 2027, ana@heron.example."),
        "{:?}",
        talked.said()
    );
    let part = Talked::run(&file, &["about 340 pallets frozen"]);
    assert_eq!(part.last(), "Start?");
    let on = Talked::run(&file, &["about 340 pallets frozen", "in 3 weeks"]);
    // The missing address is asked in the words of its own ask.
    assert_eq!(on.last(), "Which address?");
}

#[test]
fn what_was_declined_at_an_open_ask_is_not_asked_a_second_time() {
    let open = serde_json::json!({"kind": "open_ask", "id": "open", "say": {"text": {"en": "What do you need?"}},
        "fields": ["temperature", "email"]});
    let file = dialogue(
        section(vec![
            open,
            ask("t", "temperature", "Frozen or chilled?"),
            ask("e", "email", "Which address?"),
            ask("n", "name", "And your name?"),
        ]),
        serde_json::json!({}),
    );
    let talked = Talked::run(&file, &["frozen", "I'd rather not say"]);
    assert_eq!(talked.last(), "And your name?");
    assert_eq!(talked.said().iter().filter(|line| *line == "Which address?").count(), 1);
}

#[test]
fn who_ran_out_of_tries_at_an_open_ask_takes_the_way_out_of_its_own_ask() {
    let open = serde_json::json!({"kind": "open_ask", "id": "open", "say": {"text": {"en": "What do you need?"}},
        "fields": ["temperature", "email"]});
    let own = with(ask("e", "email", "Which address?"), serde_json::json!({"tries": 2, "way_out": {"go_to": "other"}}));
    let mut sections = section(vec![open, own, ask("n", "name", "And your name?")]);
    let other = section(vec![ask("p", "phone", "A number then?")])[0].clone();
    sections.as_array_mut().unwrap().push(with(other, serde_json::json!({"id": "other", "title": "Other"})));
    let talked = Talked::run(&dialogue(sections, serde_json::json!({})), &["frozen", "hm", "well"]);
    assert_eq!(talked.last(), "A number then?", "{:?}", talked.said());
    assert_eq!(talked.said().iter().filter(|line| *line == "Which address?").count(), 1);
}

#[test]
fn what_was_declined_can_still_be_given_at_the_read_back() {
    let open = serde_json::json!({"kind": "open_ask", "id": "open", "say": {"text": {"en": "What do you need?"}},
        "fields": ["temperature", "email"]});
    let back = serde_json::json!({"kind": "read_back", "id": "back", "say": {"text": {"en": "Is this right?"}},
        "fields": ["temperature", "email"]});
    let file = dialogue(section(vec![open, ask("e", "email", "Which address?"), back]), serde_json::json!({}));
    let talked = Talked::run(&file, &["frozen", "I'd rather not say", ">tap email", "ana@heron.example", "all good"]);
    assert_eq!(
        (talked.shows("email").as_deref(), talked.state.closed.as_deref()),
        (Some("ana@heron.example"), Some("lead"))
    );
}

#[test]
fn an_answer_given_twice_is_changed_where_it_was_changed() {
    let open = serde_json::json!({"kind": "open_ask", "id": "open", "say": {"text": {"en": "What do you need?"}},
        "fields": ["temperature"]});
    let again = with(ask("t", "temperature", "Frozen or chilled?"), serde_json::json!({"if_known": "ask"}));
    let file = dialogue(section(vec![open, again, ask("e", "email", "Which address?")]), serde_json::json!({}));
    let talked = Talked::run(&file, &["frozen", "frozen", ">revise t chilled"]);
    assert_eq!((talked.shows("temperature").as_deref(), talked.last().as_str()), (Some("Chilled"), "Which address?"));
}

#[test]
fn an_open_ask_can_ask_for_the_rest_together() {
    let open = serde_json::json!({"kind": "open_ask", "id": "open", "say": {"text": {"en": "What do you need?"}},
        "fields": ["temperature", "pallets", "email"], "missing": "together"});
    let file = dialogue(section(vec![open]), serde_json::json!({}));
    let part = Talked::run(&file, &["frozen please"]);
    let question = prospect_view(&part.plan, &part.state, &part.events).question.unwrap();
    assert_eq!(question.kind, QuestionKind::Form);
    assert_eq!(question.form.iter().map(|field| field.key.as_str()).collect::<Vec<_>>(), ["pallets", "email"]);
    let done = Talked::run(&file, &["frozen please", r#">form {"pallets": "40", "email": "ana@heron.example"}"#]);
    assert_eq!((done.shows("pallets").as_deref(), done.state.closed.as_deref()), (Some("40 pallets"), Some("lead")));
}

#[test]
fn a_form_names_every_problem_at_once_and_keeps_nothing_until_all_is_right() {
    let form = serde_json::json!({"kind": "ask_together", "id": "form", "say": {"text": {"en": "Who are you?"}},
        "fields": [{"field": "name"}, {"field": "email", "rules": [{"rule": "required"}]}, {"field": "phone"}],
        "tries": 2});
    let file = dialogue(section(vec![form]), serde_json::json!({}));
    let bad = Talked::run(&file, &[r#">form {"name": "Ana", "email": "", "phone": "020 7946 0958"}"#]);
    let Some(Event::FormReturned { problems, .. }) =
        bad.events.iter().find(|event| matches!(event, Event::FormReturned { .. }))
    else {
        panic!("{:?}", bad.events)
    };
    assert_eq!(
        problems.iter().map(|problem| (problem.field.as_str(), problem.failed.join(","))).collect::<Vec<_>>(),
        [("f_name", "full_name".into()), ("f_email", "required".into())]
    );
    assert!(bad.state.values.is_empty());
    let good = Talked::run(&file, &[r#">form {"name": "Ana Ruiz", "email": "ana@heron.example"}"#]);
    assert_eq!((good.shows("name").as_deref(), good.shows("phone")), (Some("Ana Ruiz"), None));
    // After the last try what is right is kept and the rest is left.
    let out = Talked::run(
        &file,
        &[r#">form {"name": "Ana", "email": ""}"#, r#">form {"name": "Ana Ruiz", "email": "nonsense"}"#],
    );
    assert_eq!(
        (out.shows("name").as_deref(), out.shows("email"), out.state.closed.as_deref()),
        (Some("Ana Ruiz"), None, Some("lead"))
    );
    // A free reply fills a form as well.
    let typed = Talked::run(&file, &["I'm Ana Ruiz, ana@heron.example, +44 20 7946 0958"]);
    assert_eq!(
        (typed.shows("name").as_deref(), typed.shows("email").as_deref()),
        (Some("Ana Ruiz"), Some("ana@heron.example"))
    );
}

#[test]
fn what_was_said_before_stands_in_the_form_that_asks_for_it() {
    let form = serde_json::json!({"kind": "ask_together", "id": "form", "say": {"text": {"en": "Who are you?"}},
        "fields": [{"field": "name"}, {"field": "email", "rules": [{"rule": "required"}]}, {"field": "phone"}]});
    let file = dialogue(section(vec![ask("t", "temperature", "Frozen or chilled?"), form]), serde_json::json!({}));
    let asked = Talked::run(&file, &["ana@heron.example", "frozen"]);
    let question = prospect_view(&asked.plan, &asked.state, &asked.events).question.unwrap();
    let stands: Vec<(&str, Option<&str>)> =
        question.form.iter().map(|field| (field.key.as_str(), field.value.as_deref())).collect();
    assert_eq!(stands, [("name", None), ("email", Some("ana@heron.example")), ("phone", None)]);
    // It cost no try, and a typed reply that says the rest does not take it back.
    assert!(!asked.events.iter().any(|event| matches!(event, Event::NotKept { .. })), "{:?}", asked.events);
    let typed = Talked::run(&file, &["ana@heron.example", "frozen", "I'm Ana Ruiz"]);
    assert_eq!(
        (typed.shows("email").as_deref(), typed.shows("name").as_deref()),
        (Some("ana@heron.example"), Some("Ana Ruiz"))
    );
}

#[test]
fn a_reply_that_gives_more_than_was_asked_is_kept_and_not_asked_again() {
    let file = dialogue(
        section(vec![
            ask("t", "temperature", "Frozen or chilled?"),
            ask("e", "email", "Which address?"),
            ask("p", "phone", "Which number?"),
        ]),
        serde_json::json!({}),
    );
    let talked = Talked::run(&file, &["frozen, write to ana@heron.example", "+44 20 7946 0958"]);
    assert_eq!(
        (talked.shows("email").as_deref(), talked.state.closed.as_deref()),
        (Some("ana@heron.example"), Some("lead"))
    );
    assert!(!talked.said().iter().any(|line| line == "Which address?"));
    // A reply that only fills another field costs no try.
    let besides = Talked::run(&file, &["ana@heron.example", "frozen", "+44 20 7946 0958"]);
    assert!(!besides.events.iter().any(|event| matches!(event, Event::NotKept { .. })));
    assert_eq!(besides.state.closed.as_deref(), Some("lead"));
}

#[test]
fn a_known_answer_is_skipped_confirmed_or_asked_anyway() {
    for (setting, expected) in [
        ("skip", "Thank you."),
        ("confirm", "We have ana@heron.example for this. Is that still right?"),
        ("ask", "Which address?"),
    ] {
        let file = dialogue(
            section(vec![
                ask("t", "temperature", "Frozen or chilled?"),
                with(ask("e", "email", "Which address?"), serde_json::json!({"if_known": setting})),
            ]),
            serde_json::json!({}),
        );
        let talked = Talked::run(&file, &["chilled, ana@heron.example"]);
        assert_eq!(talked.last(), expected, "{setting}");
        if setting == "confirm" {
            let yes = Talked::run(&file, &["chilled, ana@heron.example", "yes"]);
            assert_eq!(yes.state.closed.as_deref(), Some("lead"));
            let no = Talked::run(&file, &["chilled, ana@heron.example", "no", "tom@heron.example"]);
            assert_eq!(no.shows("email").as_deref(), Some("tom@heron.example"));
            let at_once = Talked::run(&file, &["chilled, ana@heron.example", "no, it's tom@heron.example"]);
            assert_eq!(at_once.shows("email").as_deref(), Some("tom@heron.example"));
            let other = Talked::run(&file, &["chilled, ana@heron.example", "tom@heron.example"]);
            assert_eq!(other.shows("email").as_deref(), Some("tom@heron.example"));
        }
    }
}

fn with_side_talk() -> Dialogue {
    let temperature = with(
        ask("t", "temperature", "Frozen or chilled?"),
        serde_json::json!({"short": {"en": "Frozen, or chilled?"}, "why": {"en": "Each has its own halls."}}),
    );
    let held = with(ask("e", "email", "Which address?"), serde_json::json!({"held": true}));
    let sections = serde_json::json!([
        {"id": "main", "title": "Main", "turns": [temperature, ask("c", "company", "Which company?"), held],
            "then": {"close": {"outcome": "lead"}}},
        {"id": "look", "title": "Look", "turns": [{"kind": "tell", "id": "bye",
            "say": [{"line": {"text": {"en": "Have a look round."}}}]}], "then": {"close": {"outcome": "looking"}}}
    ]);
    dialogue(
        sections,
        serde_json::json!({
            "side_talk": [
                {"id": "price", "phrases": {"en": ["how much does it cost", "price"]}, "matches": "part",
                    "does": {"answer": [{"line": {"text": {"en": "From £4 a pallet."}}}]}},
                {"id": "bye", "phrases": {"en": ["just looking"]}, "does": {"go_to": "look"}}
            ],
            "offers": [{"id": "guide", "when": {"every": 2},
                "say": [{"line": {"text": {"en": "Our guide may help."}}}]}]
        }),
    )
}

#[test]
fn side_talk_is_answered_and_the_question_asked_again_in_short() {
    let file = with_side_talk();
    let talked = Talked::run(&file, &["how much does it cost?"]);
    assert_eq!(&talked.said()[talked.said().len() - 2..], ["From £4 a pallet.", "Frozen, or chilled?"]);
    // With a small typo, inside a sentence, and why we ask.
    for (reply, answer) in [
        ("how much dose it cost", "From £4 a pallet."),
        ("what is the price for frozen?", "From £4 a pallet."),
        ("why do you ask?", "Each has its own halls."),
    ] {
        let talked = Talked::run(&file, &[reply]);
        assert_eq!(talked.said()[talked.said().len() - 2], answer, "{reply}");
        assert!(talked.state.values.is_empty(), "{reply}");
    }
    // Off script three times and still through; every second remark brings the offer.
    let through = Talked::run(
        &file,
        &[
            "price?",
            "why do you ask",
            "price",
            "frozen",
            "what do you want that for?",
            "Blue Heron Ices",
            "ana@heron.example",
        ],
    );
    assert_eq!(
        (through.state.closed.as_deref(), through.shows("company").as_deref()),
        (Some("lead"), Some("Blue Heron Ices"))
    );
    assert_eq!(through.said().iter().filter(|line| *line == "Our guide may help.").count(), 2);
    assert!(!through.events.iter().any(|event| matches!(event, Event::NotKept { .. })));
}

#[test]
fn side_talk_may_go_to_a_section_unless_the_question_is_held() {
    let file = with_side_talk();
    assert_eq!(Talked::run(&file, &["just looking"]).state.closed.as_deref(), Some("looking"));
    let held = Talked::run(&file, &["frozen", "Blue Heron Ices", "just looking"]);
    assert_eq!((held.state.closed.as_deref(), held.last().as_str()), (None, "Which address?"));
}

#[test]
fn nobody_is_held_in_a_loop_of_side_talk() {
    let file = with_side_talk();
    let talked = Talked::run(&file, &["price"; 6]);
    assert!(talked.events.iter().any(|event| matches!(event, Event::LeftOpen { .. })), "{:?}", talked.said());
}

#[test]
fn read_back_shows_what_was_kept_and_takes_a_correction_by_tap_or_in_words() {
    let back = serde_json::json!({"kind": "read_back", "id": "back", "say": {"text": {"en": "Is this right?"}},
        "fields": ["temperature", "email", "phone"]});
    let file = dialogue(
        section(vec![
            ask("t", "temperature", "Frozen or chilled?"),
            ask("e", "email", "Which address?"),
            ask("p", "phone", "Which number?"),
            back,
        ]),
        serde_json::json!({}),
    );
    let given = ["frozen", "ana@heron.example", "+44 20 7946 0958"];
    let after = |more: &[&'static str]| Talked::run(&file, &[&given[..], more].concat());
    let shown = after(&[]);
    let question = prospect_view(&shown.plan, &shown.state, &shown.events).question.unwrap();
    assert_eq!(
        question.kept.iter().map(|line| line.value.as_str()).collect::<Vec<_>>(),
        ["Frozen", "ana@heron.example", "+44 20 7946 0958"]
    );
    assert_eq!(after(&["that's right"]).state.closed.as_deref(), Some("lead"));
    assert_eq!(after(&[">tap all_right"]).state.closed.as_deref(), Some("lead"));
    let typed = after(&["the phone is wrong, it's 020 7946 0014", "yes"]);
    assert_eq!(
        (typed.shows("phone").as_deref(), typed.state.closed.as_deref()),
        (Some("+44 20 7946 0014"), Some("lead"))
    );
    let named = after(&["the phone is wrong", "020 7946 0014", "all good"]);
    assert_eq!(
        (named.shows("phone").as_deref(), named.state.closed.as_deref()),
        (Some("+44 20 7946 0014"), Some("lead"))
    );
    let tapped = after(&[">tap email", "tom@heron.example", ">tap all_right"]);
    assert_eq!(
        (tapped.shows("email").as_deref(), tapped.shows("phone").as_deref()),
        (Some("tom@heron.example"), Some("+44 20 7946 0958"))
    );
    assert_eq!(after(&["no"]).last(), "Which one should we change?");
}

fn branching() -> Dialogue {
    let arms = serde_json::json!({"arms": [
        {"id": "a_frozen", "when": {"options": ["frozen"]}, "turns": [ask("p", "pallets", "How many frozen pallets?")]},
        {"id": "a_chilled", "when": {"options": ["chilled"]}, "turns": [{"kind": "tell", "id": "note",
            "say": [{"line": {"text": {"en": "Chilled is in Saltwick."}}}]}, ask("s", "start", "When do you start?")]}
    ]});
    dialogue(
        section(vec![
            with(ask("t", "temperature", "Frozen or chilled?"), arms),
            ask("e", "email", "Which address?"),
            ask("n", "name", "And your name?"),
        ]),
        serde_json::json!({}),
    )
}

#[test]
fn a_changed_answer_replays_the_outline_and_drops_what_is_no_longer_on_the_way() {
    let file = branching();
    let talked = Talked::run(&file, &["frozen", "40", "ana@heron.example", ">revise t chilled"]);
    // The new arm is told and asked; the pallets are gone; the address stays.
    assert_eq!(talked.last(), "When do you start?");
    assert!(talked.said().iter().any(|line| line == "Chilled is in Saltwick."));
    assert_eq!(talked.shows("pallets"), None);
    let Some(Event::Revised { dropped, .. }) =
        talked.events.iter().find(|event| matches!(event, Event::Revised { .. }))
    else {
        panic!()
    };
    assert!(dropped.contains(&"f_pallets".to_owned()));
    let done =
        Talked::run(&file, &["frozen", "40", ">revise t chilled", "in 3 weeks", "ana@heron.example", "Ana Ruiz"]);
    assert_eq!(
        (done.shows("start").as_deref(), done.state.closed.as_deref()),
        (Some("week of 14 December 2026"), Some("lead"))
    );
    // An answer that still fits keeps everything after it.
    let same = Talked::run(&file, &["frozen", "40", "ana@heron.example", ">revise p 60"]);
    assert_eq!(
        (same.shows("pallets").as_deref(), same.shows("email").as_deref(), same.last().as_str()),
        (Some("60 pallets"), Some("ana@heron.example"), "And your name?")
    );
    // One that cannot be read changes nothing.
    let unread = Talked::run(&file, &["frozen", "40", ">revise p lots"]);
    assert_eq!((unread.shows("pallets").as_deref(), unread.last().as_str()), (Some("40 pallets"), "Which address?"));
    // After the end it amends.
    let ended = Talked::run(&file, &["frozen", "40", "ana@heron.example", "Ana Ruiz", ">revise p 60"]);
    assert_eq!((ended.shows("pallets").as_deref(), ended.state.closed.as_deref()), (Some("60 pallets"), Some("lead")));
}

#[test]
fn back_takes_the_last_answer_back_and_start_over_takes_all() {
    let file = branching();
    let back = Talked::run(&file, &["frozen", "40", "back"]);
    assert_eq!(
        (back.shows("temperature").as_deref(), back.shows("pallets"), back.last().as_str()),
        (Some("Frozen"), None, "How many frozen pallets?")
    );
    let twice = Talked::run(&file, &["frozen", "40", ">back", ">back"]);
    assert_eq!((twice.shows("temperature"), twice.last().as_str()), (None, "Frozen or chilled?"));
    let over = Talked::run(&file, &["frozen", "40", "start over", "chilled"]);
    assert_eq!((over.shows("temperature").as_deref(), over.last().as_str()), (Some("Chilled"), "When do you start?"));
}

#[test]
fn several_options_are_tapped_or_typed_within_their_limit_and_consent_is_explicit() {
    let file = dialogue(
        section(vec![ask("x", "extras", "Which extras?"), ask("c", "consent", "May we write to you?")]),
        serde_json::json!({}),
    );
    let both = Talked::run(&file, &[">tap blast,haulage"]);
    assert!(both.last().contains("at most 1"), "{}", both.last());
    let one = Talked::run(&file, &[">tap haulage", "maybe", "I agree"]);
    assert_eq!(one.shows("extras").as_deref(), Some("Haulage"));
    let held = &one.state.values["f_consent"].value;
    let lumbo_value::Value::Consent { wording: 1, at, given: true } = held else { panic!("{held:?}") };
    assert!(at.starts_with("2026-11-23T10:00"), "{at}");
    let no = Talked::run(&file, &["blast freezing", "no"]);
    assert_eq!((no.shows("consent").as_deref(), no.state.closed.as_deref()), (Some("No"), Some("lead")));
}

#[test]
fn silence_is_nudged_once_and_then_closed() {
    let file = dialogue(
        section(vec![ask("t", "temperature", "Frozen or chilled?")]),
        serde_json::json!({"settings": {"nudge_seconds": 60, "idle_minutes": 30}}),
    );
    let nudged = Talked::run(&file, &[">tick 30", ">tick 70", ">tick 90"]);
    assert_eq!(nudged.events.iter().filter(|event| matches!(event, Event::Nudged { .. })).count(), 1);
    // The page waits for the question first, then for the end.
    let waits =
        |talked: &Talked| prospect_view(&talked.plan, &talked.state, &talked.events).question.unwrap().nudge_seconds;
    assert_eq!((waits(&Talked::run(&file, &[])), waits(&nudged)), (60, 1_800));
    let closed = Talked::run(&file, &[">tick 1900"]);
    assert_eq!(closed.state.closed.as_deref(), Some(""));
    assert_eq!(Talked::run(&file, &[">tick 70", "frozen"]).state.closed.as_deref(), Some("lead"));
}
