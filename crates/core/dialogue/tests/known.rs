//! What is known without asking: from a signed-in visitor, from the page, from the clock; and the workspace's own
//! domains.

#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

mod talked;

use lumbo_dialogue::file::{Dialogue, FieldType};
use lumbo_dialogue::plan::Plan;
use lumbo_dialogue::talk::{Context, Env, Event, Prefill, PrefillTo, Stage, prospect_view};
use lumbo_reading::domains::DomainLists;
use talked::{Talked, ask, dialogue, section, with};

fn env<'a>(context: &'a Context, known: &'a [Prefill]) -> Env<'a> {
    Env { now: "2026-11-23T10:00:00Z".parse().unwrap(), seed: 7, context, known, domains: DomainLists::none() }
}

fn value(to: PrefillTo, text: &str) -> Prefill {
    Prefill { to, text: text.into() }
}

fn tell(id: &str, words: &str) -> serde_json::Value {
    serde_json::json!({"kind": "tell", "id": id, "say": [{"line": {"text": {"en": words}}}]})
}

#[test]
fn what_a_signed_in_visitor_brings_is_not_asked_again() {
    let file = dialogue(
        section(vec![
            ask("e", "email", "Which address?"),
            with(ask("n", "name", "And your name?"), serde_json::json!({"if_known": "confirm"})),
        ]),
        serde_json::json!({}),
    );
    let known = [
        value(PrefillTo::Type(FieldType::Email), "ana@heron.example"),
        value(PrefillTo::Key("email".into()), "somebody.else@heron.example"),
        value(PrefillTo::Key("name".into()), "Ana Ruiz"),
        value(PrefillTo::Key("phone".into()), "nonsense"),
        value(PrefillTo::Key("consent".into()), "yes"),
        value(PrefillTo::Key("nothing".into()), "x"),
    ];
    let talked = Talked::with(&file, &[], env(&Context::default(), &known));
    assert_eq!((talked.state.values.len(), talked.shows("email").as_deref()), (2, Some("ana@heron.example")));
    let question = prospect_view(&talked.plan, &talked.state, &[]).question.unwrap();
    assert_eq!(question.options.iter().map(|option| option.key.as_str()).collect::<Vec<_>>(), ["yes", "no"]);
}

#[test]
fn an_ask_that_asks_anyway_asks_what_the_site_knows_only_to_confirm() {
    let file = dialogue(
        section(vec![with(ask("e", "email", "Which address?"), serde_json::json!({"if_known": "ask"}))]),
        serde_json::json!({}),
    );
    let known = [value(PrefillTo::Type(FieldType::Email), "ana@heron.example")];
    let talked = Talked::with(&file, &[], env(&Context::default(), &known));
    assert_eq!(talked.state.asking.as_ref().unwrap().stage, Stage::Confirm);
    let corrected = Talked::with(&file, &["no, it's tom@heron.example"], env(&Context::default(), &known));
    assert_eq!(corrected.shows("email").as_deref(), Some("tom@heron.example"));
}

#[test]
fn a_known_value_that_its_ask_would_refuse_is_asked_for() {
    let file = dialogue(
        section(vec![with(
            ask("e", "email", "Which address?"),
            serde_json::json!({"rules": [{"rule": "company_address"}]}),
        )]),
        serde_json::json!({}),
    );
    let known = [value(PrefillTo::Type(FieldType::Email), "ana@gmail.com")];
    let talked = Talked::with(&file, &[], env(&Context::default(), &known));
    assert!(talked.state.values.is_empty());
    assert_eq!(talked.last(), "Which address?");
}

#[test]
fn what_the_site_knows_stays_through_back_and_start_over() {
    let file = dialogue(
        section(vec![
            ask("e", "email", "Which address?"),
            ask("p", "pallets", "How many?"),
            ask("t", "temperature", "Frozen or chilled?"),
        ]),
        serde_json::json!({}),
    );
    let known = [value(PrefillTo::Type(FieldType::Email), "ana@heron.example")];
    for replies in [&["40", "back"][..], &["40", "start over"]] {
        let talked = Talked::with(&file, replies, env(&Context::default(), &known));
        assert_eq!(
            (talked.last().as_str(), talked.shows("email").as_deref()),
            ("How many?", Some("ana@heron.example")),
            "{replies:?}"
        );
    }
}

fn fork(what: &str, is: &str, to: serde_json::Value) -> Dialogue {
    let holds = serde_json::json!({"holds": {"compare": {"what": what, "is": is, "to": to}}});
    let fork = serde_json::json!({"kind": "fork", "id": "f", "arms": [
        {"id": "a1", "when": holds, "turns": [tell("t1", "It holds.")]},
        {"id": "a2", "when": "otherwise", "turns": [tell("t2", "It does not.")]}
    ]});
    dialogue(section(vec![ask("n", "name", "Your name?"), fork]), serde_json::json!({}))
}

fn decides(file: &Dialogue, context: &Context) -> bool {
    let said = Talked::with(file, &["Ana Ruiz"], env(context, &[])).said();
    assert!(said.iter().any(|line| line.starts_with("It ")), "{said:?}");
    said.iter().any(|line| line == "It holds.")
}

#[test]
fn a_condition_reads_the_prospects_clock() {
    let in_zone = |zone: &str| Context { time_zone: Some(zone.into()), ..Context::default() };
    // It is Monday, 10:00 in London, 19:00 in Tokyo and 05:00 in New York.
    for (is, to, zone, holds) in [
        ("between", serde_json::json!(["9:00", "17:00"]), "Europe/London", true),
        ("between", serde_json::json!(["9:00", "17:00"]), "Asia/Tokyo", false),
        ("between", serde_json::json!(["18:00", "8:00"]), "Asia/Tokyo", true),
        ("between", serde_json::json!(["18:00", "8:00"]), "America/New_York", true),
        ("between", serde_json::json!(["18:00", "8:00"]), "Europe/London", false),
        ("at_least", serde_json::json!("10"), "Europe/London", true),
        ("less_than", serde_json::json!("10:00"), "Europe/London", false),
    ] {
        assert_eq!(decides(&fork("@local_time", is, to.clone()), &in_zone(zone)), holds, "{is} {to} in {zone}");
    }
    assert!(decides(
        &fork("@weekday", "is_one_of", serde_json::json!(["Monday", "sunday"])),
        &in_zone("Europe/London")
    ));
    assert!(!decides(&fork("@weekday", "is", serde_json::json!("tuesday")), &in_zone("Europe/London")));
}

#[test]
fn a_clock_condition_that_cannot_be_is_refused_with_what_would_do() {
    for (what, is, to, says) in [
        ("@local_time", "at_least", serde_json::json!("noon"), "time of day like 09:30"),
        ("@local_time", "contains", serde_json::json!("9"), "does not fit"),
        ("@weekday", "is", serde_json::json!("mon"), "day of the week like monday"),
        ("@weekday", "at_least", serde_json::json!("monday"), "does not fit"),
    ] {
        let faults = Plan::new(&fork(what, is, to)).1;
        assert!(faults.iter().any(|fault| fault.says.contains(says)), "{what} {is}: {faults:?}");
    }
}

#[test]
fn campaign_parameters_are_read_one_by_one() {
    let context = Context {
        campaign_source: Some("Newsletter".into()),
        campaign_medium: Some("email".into()),
        ..Context::default()
    };
    assert!(decides(&fork("@campaign_source", "is", serde_json::json!("newsletter")), &context));
    assert!(!decides(&fork("@campaign", "is", serde_json::json!("newsletter")), &context));
}

#[test]
fn a_text_says_what_is_known_without_asking() {
    let words = "{@country|there}, {@weekday} {@local_time}, {@returning?yes=again|first time}, {@page|no page}";
    let file = dialogue(section(vec![tell("t", words), ask("n", "name", "Name?")]), serde_json::json!({}));
    let context = Context { time_zone: Some("Asia/Tokyo".into()), returning: Some("yes".into()), ..Context::default() };
    assert_eq!(Talked::with(&file, &[], env(&context, &[])).said()[0], "Japan, Monday 19:00, again, no page");
    let unknown = Talked::with(&file, &[], env(&Context::default(), &[]));
    // Nothing tells the prospect's zone: the dialogue's is taken.
    assert_eq!(unknown.said()[0], "there, Monday 10:00, first time, no page");
}

#[test]
fn what_the_prospect_says_of_their_country_goes_before_every_guess() {
    let fork = serde_json::json!({"kind": "fork", "id": "f", "arms": [
        {"id": "a1", "when": {"holds": {"compare": {"what": "@country", "is": "is", "to": "US"}}}, "turns": [tell("t1",
            "America it is.")]},
        {"id": "a2", "when": "otherwise", "turns": []}
    ]});
    let turns = vec![ask("c", "country", "Which country?"), fork, ask("p", "phone", "Your number?")];
    let mut file = serde_json::to_value(dialogue(section(turns), serde_json::json!({}))).unwrap();
    file["fields"]
        .as_array_mut()
        .unwrap()
        .push(serde_json::json!({"id": "f_country", "key": "country", "label": "Country", "type": "country"}));
    let file: Dialogue = serde_json::from_value(file).unwrap();
    let context =
        Context { time_zone: Some("Europe/Berlin".into()), language: Some("de-DE".into()), ..Context::default() };
    // The number is from the range that is set aside for fiction.
    let talked = Talked::with(&file, &["United States", "202 555 0143"], env(&context, &[]));
    assert!(talked.said().iter().any(|line| line == "America it is."), "{:?}", talked.said());
    assert_eq!(talked.shows("phone").as_deref(), Some("+1 202-555-0143"));
    let Event::Started { context, .. } = &talked.events[1] else { panic!("{:?}", talked.events[1]) };
    assert_eq!(context.country.as_deref(), Some("DE"));
}

#[test]
fn the_workspaces_own_domains_decide_before_the_shipped_lists() {
    let company = serde_json::json!({"rules": [{"rule": "company_address", "deny": ["rival.example"]}]});
    let file = dialogue(section(vec![with(ask("e", "email", "Which address?"), company)]), serde_json::json!({}));
    let domains = DomainLists::of(&["gmail.com", "rival.example"], &["harrow.example"]).unwrap();
    for (address, taken) in [
        ("a@gmail.com", true),
        ("a@yahoo.com", false),
        ("a@post.harrow.example", false),
        ("a@heron.example", true),
        ("a@rival.example", false),
    ] {
        let talked = Talked::with(&file, &[address], Env { domains: &domains, ..env(&Context::default(), &[]) });
        assert_eq!(talked.shows("email").is_some(), taken, "{address}: {}", talked.last());
    }
}
