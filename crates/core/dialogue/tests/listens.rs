//! The prospect is listened to: what a reply gives besides, corrections while another question is open, questions that
//! cost no try, and what is said and left out where an answer is missing.
#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use lumbo_dialogue::Plan;
use lumbo_dialogue::file::load;
use lumbo_dialogue::talk::script::{line, run};
use lumbo_dialogue::talk::{Context, Env, Event, Line, State};
use lumbo_reading::domains::DomainLists;
use serde_json::{Value, json};

/// An outline of a firm that hires out things for events.
fn events() -> Value {
    let option = |key: &str, label: &str| json!({"key": key, "label": {"en": label}});
    let field = |key: &str, label: &str, kind: &str| {
        json!({"id": format!("fld_{key}"), "key": key, "label": label,
        "type": kind})
    };
    let ask = |id: &str, field: &str| {
        json!({"kind": "ask", "id": id, "say": {"text": {"en": format!("{field}?")}},
        "field": field})
    };
    let mut occasion = field("occasion", "Occasion", "choice");
    occasion["options"] =
        json!([option("wedding", "Wedding"), option("party", "Party"), option("conference", "Conference")]);
    let mut days = field("days", "Days of hire", "whole_number");
    days["unit"] = json!("day");
    json!({
        "format": "lumbo.dialogue/1", "id": "events", "title": "Events", "language": "en",
        "opening": {"say": {"en": "Hello"}, "button": {"en": "Go"}},
        "outcomes": [{"id": "lead", "label": "Lead", "class": "lead"}],
        "fields": [occasion, field("event_date", "Date of the event", "date"), field("guests", "Number of guests",
            "whole_number"),
            field("town", "Town", "place"), days, field("email", "E-mail", "email"), field("estimate", "Estimate", "money")],
        "sections": [{"id": "s", "title": "S", "then": "carry_on", "turns": [
            ask("t_occasion", "occasion"), ask("t_date", "event_date"), ask("t_guests", "guests"), ask("t_town", "town"),
            ask("t_days", "days"),
            {"kind": "work_out", "id": "t_work", "fills": [{"field": "estimate",
                "formula": "MONEY(guests * days * 3)"}]},
            {"kind": "tell", "id": "t_tell",
                "say": [{"line": {"text": {"en": "We expect about {estimate}, set-up included."}}}]},
            ask("t_email", "email"),
            {"kind": "read_back", "id": "t_back", "say": {"text": {"en": "Right?"}},
                "fields": ["occasion", "guests", "estimate", "email"]},
            {"kind": "close", "id": "t_end", "outcome": "lead"}]}]
    })
}

fn talked(file: &Value, replies: &[&str]) -> (Vec<Event>, State, Plan) {
    let (plan, faults) = Plan::new(&load(&file.to_string()).unwrap());
    assert_eq!(faults, []);
    let (context, domains) = (Context::default(), DomainLists::default());
    let now = "2026-11-28T10:00:00Z".parse().unwrap();
    let env = Env { now, seed: 1, context: &context, known: &[], domains: &domains };
    let lines: Vec<_> = replies.iter().enumerate().map(|(place, text)| line(text, place + 1).unwrap()).collect();
    let (events, state) = run(&plan, &lines, env).unwrap_or_else(|error| panic!("{error}"));
    (events, state, plan)
}

fn kept(state: &State, key: &str) -> String {
    state.values.get(&format!("fld_{key}")).map(|held| held.value.to_string()).unwrap_or_default()
}

fn open(state: &State) -> (&str, u8) {
    state.asking.as_ref().map(|asking| (asking.turn.as_str(), asking.tries)).unwrap_or_default()
}

fn said(events: &[Event]) -> Vec<String> {
    let texts = |lines: &[Line]| -> Vec<String> {
        lines.iter().filter_map(|line| if let Line::Text { text } = line { Some(text.clone()) } else { None }).collect()
    };
    events
        .iter()
        .flat_map(|event| match event {
            Event::Said { lines, .. } | Event::SideTalked { lines, .. } => texts(lines),
            Event::LeftOpen { message, .. } => message.iter().cloned().collect(),
            _ => Vec::new(),
        })
        .collect()
}

#[test]
fn one_reply_answers_the_open_question_and_gives_others() {
    let (events, state, _) = talked(&events(), &["a wedding", "14 June next year, about 120 guests, in York"]);
    assert_eq!(
        (kept(&state, "event_date"), kept(&state, "guests"), kept(&state, "town")),
        ("14 June 2027".into(), "120".into(), "York".into())
    );
    assert_eq!(open(&state), ("t_days", 0), "what was given besides is not asked for");
    assert_eq!(said(&events), ["Noted: number of guests 120, York."]);
}

#[test]
fn what_is_not_unmistakable_is_not_taken_besides() {
    // Two fields could be meant by a bare number, no field by a month.
    let (_, state, _) = talked(&events(), &["a party, 60 of it", "in June"]);
    assert_eq!((kept(&state, "guests"), kept(&state, "days")), (String::new(), String::new()));
    let (_, state, _) = talked(&events(), &["a party some time in June"]);
    assert_eq!(kept(&state, "event_date"), "", "a month is no day");
}

#[test]
fn an_earlier_answer_is_corrected_at_any_open_question() {
    let begun = ["wedding", "2027-06-14", "120", "York", "3 days"];
    for (reply, key, value) in [
        ("actually make it 60 guests", "guests", "60"),
        ("the guests are wrong, it's 80", "guests", "80"),
        ("sorry, the occasion is a conference", "occasion", "conference"),
        ("no, Saturday", "event_date", "5 December 2026"),
        ("make it 4 days", "days", "4"),
        ("no, a party", "occasion", "party"),
    ] {
        let (_, state, _) = talked(&events(), &[&begun[..], &[reply]].concat());
        assert_eq!(kept(&state, key), value, "{reply}");
        assert_eq!(open(&state), ("t_email", 0), "{reply}: the open question stays, and no try is used");
    }
}

#[test]
fn a_correction_that_could_be_two_is_asked_back() {
    let (events, state, _) = talked(&events(), &["wedding", "2027-06-14", "120", "York", "3 days", "no, 60"]);
    assert_eq!(kept(&state, "guests"), "120");
    assert_eq!(open(&state), ("t_email", 0));
    assert_eq!(
        said(&events).last().unwrap(),
        "Is that for Number of guests or Days of hire? Please name it, for example “Number of guests: 60”."
    );
}

#[test]
fn sorry_before_a_plain_answer_changes_nothing_else() {
    let (_, state, _) = talked(&events(), &["wedding", "2027-06-14", "sorry, about 40"]);
    assert_eq!((kept(&state, "guests"), open(&state).0), ("40".into(), "t_town"));
    for answer in ["let's say 3", "not more than 3", "it should be 3", "wait, 3"] {
        let (_, state, _) = talked(&events(), &["wedding", "2027-06-14", "40", "York", answer]);
        assert_eq!((kept(&state, "guests"), open(&state).0), ("40".into(), "t_email"), "{answer}");
    }
    let (_, state, _) = talked(&events(), &["wedding", "2027-06-14", "40", "York", "sorry, 3 days"]);
    assert_eq!((kept(&state, "guests"), kept(&state, "days")), ("40".into(), "3".into()));
}

#[test]
fn a_question_costs_no_try_whatever_was_asked() {
    for (answers, question) in [
        (&[][..], "Can I book a clown?"),
        (&["party"][..], "How late can we stay?"),
        (&["party", "2027-06-14"][..], "Can I come with fewer than 5?"),
        (&["party", "2027-06-14", "40", "York", "2 days"][..], "What do you do with my data?"),
    ] {
        let (events, state, _) = talked(&events(), &[answers, &[question]].concat());
        assert_eq!(open(&state).1, 0, "{question}");
        assert_eq!(
            said(&events).last().unwrap(),
            "That is a question for a person; somebody can tell you more later.",
            "{question}"
        );
        let next = ["t_occasion", "t_date", "t_guests", "t_email"][answers.len().min(3)];
        assert_eq!(open(&state).0, next, "{question}");
    }
    let (_, state, _) = talked(&events(), &["party", "2027-06-14", "maybe 50?"]);
    assert_eq!(kept(&state, "guests"), "50", "an unsure answer is one");
}

#[test]
fn after_the_last_try_one_sentence_says_that_it_goes_on() {
    let (events, state, _) = talked(&events(), &["party", "zq", "zq", "zq"]);
    assert_eq!(open(&state).0, "t_guests");
    assert_eq!(said(&events), ["No matter, let’s go on without it."]);
}

#[test]
fn a_text_leaves_out_the_clause_that_lacks_a_value() {
    let (events, _, _) = talked(&events(), &["party", "2027-06-14", "zq", "zq", "zq", "York", "2 days"]);
    assert_eq!(said(&events).last().unwrap(), "Set-up included.");
}

#[test]
fn what_is_worked_out_is_changed_by_no_reply() {
    let begun = ["party", "2027-06-14", "40", "York", "2 days", "ana@harbour.example"];
    let (_, before, plan) = talked(&events(), &begun);
    assert_eq!(kept(&before, "estimate"), "£240.00");
    for reply in ["the estimate is 5 GBP", "estimate: £5"] {
        let (_, state, _) = talked(&events(), &[&begun[..], &[reply]].concat());
        assert_eq!(kept(&state, "estimate"), "£240.00", "{reply}");
    }
    let view = lumbo_dialogue::talk::prospect_view(&plan, &before, &[]);
    let lines = view.question.unwrap().kept;
    assert_eq!(
        lines.iter().map(|line| (line.key.as_str(), line.worked_out)).collect::<Vec<_>>(),
        [("occasion", false), ("guests", false), ("estimate", true), ("email", false)]
    );
    // Its field changed, it follows.
    let (_, state, _) = talked(&events(), &[&begun[..], &["the guests are wrong, it's 50"]].concat());
    assert_eq!(kept(&state, "estimate"), "£300.00");
}

#[test]
fn a_read_back_leaves_out_what_was_never_asked() {
    let mut file = events();
    file["sections"][0]["turns"][8]["fields"] = json!(["occasion", "town"]);
    file["sections"][0]["turns"].as_array_mut().unwrap().remove(3);
    let (_, state, plan) = talked(&file, &["party", "2027-06-14", "40", "2 days", "ana@harbour.example"]);
    let kept = lumbo_dialogue::talk::prospect_view(&plan, &state, &[]).question.unwrap().kept;
    assert_eq!(kept.iter().map(|line| line.key.as_str()).collect::<Vec<_>>(), ["occasion"]);
}

#[test]
fn a_count_is_not_below_nothing_unless_a_range_says_so() {
    let (_, state, _) = talked(&events(), &["party", "2027-06-14", "-5"]);
    assert_eq!(open(&state), ("t_guests", 1));
    let mut file = events();
    file["fields"][2]["rules"] = json!([{"rule": "range", "min": "-10"}]);
    let (_, state, _) = talked(&file, &["party", "2027-06-14", "-5"]);
    assert_eq!(kept(&state, "guests"), "−5");
}
