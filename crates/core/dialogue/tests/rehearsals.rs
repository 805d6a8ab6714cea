//! Whole conversations of the demo, as snapshots; and what must hold for any conversation.

#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use std::fmt::Write;

use lumbo_dialogue::file::load;
use lumbo_dialogue::plan::Plan;
use lumbo_dialogue::talk::{
    Context, Effect, Env, Event, Input, Line, ProspectInput, ProspectMessage, Refusal, State, Step, SystemInput, Timer,
    Told, Who, margin, prospect_view, script, step,
};
use proptest::prelude::*;

const DEMO: &str = include_str!("../../../../demo/storage-enquiry.json");

fn plan() -> Plan {
    let (plan, faults) = Plan::new(&load(DEMO).unwrap());
    assert_eq!(faults, []);
    plan
}

fn said(id: &str, expects: u32, body: ProspectInput) -> Input {
    ProspectMessage { id: id.into(), expects, body }.into()
}

fn env(context: &Context) -> Env<'_> {
    Env {
        now: "2026-11-23T10:00:00Z".parse().unwrap(),
        seed: 7,
        context,
        known: &[],
        domains: lumbo_reading::domains::DomainLists::none(),
    }
}

fn run(replies: &[&str]) -> (Plan, Vec<Event>, State) {
    let plan = plan();
    let context = Context::default();
    let inputs: Vec<script::Line> =
        replies.iter().enumerate().map(|(index, reply)| script::line(reply, index + 1).unwrap()).collect();
    let (events, state) = script::run(&plan, &inputs, env(&context)).unwrap_or_else(|error| panic!("{error}"));
    assert_eq!(State::of(&events), state, "folding the events gives the state");
    (plan, events, state)
}

/// A conversation as an author reads it: lines with notes, then the values and how it ended.
fn transcript(replies: &[&str]) -> String {
    let (plan, events, state) = run(replies);
    let mut out = String::new();
    for line in margin(&plan, &events, Told::Rehearsed) {
        let words = match &line.line {
            Line::Text { text } => text.clone(),
            Line::Link { label, url } => format!("[{label}]({url})"),
            other => format!("{other:?}"),
        };
        let who = match line.who {
            Who::Us => "  ",
            Who::You => "> ",
            Who::Again => "? ",
        };
        writeln!(out, "{who}{words}").unwrap();
        for note in line.notes {
            writeln!(out, "      · {}", note.text).unwrap();
        }
    }
    writeln!(out, "---").unwrap();
    for (field, held) in &state.values {
        writeln!(out, "{}: {}", plan.field(field).unwrap().key, held.value.to_json()).unwrap();
    }
    for (field, why) in &state.missing {
        writeln!(out, "{} is missing: {why:?}", plan.field(field).unwrap().key).unwrap();
    }
    writeln!(
        out,
        "points {}, band {:?}, filings {}, closed {:?}",
        state.points, state.band, state.filings, state.closed
    )
    .unwrap();
    out
}

#[test]
fn a_large_frozen_load_becomes_a_hot_lead() {
    insta::assert_snapshot!(transcript(&[
        "cold storage",
        "minus 18",
        "some, yes",
        "about 3 hundred and forty",
        "owner",
        "I’m Pia Lindqvist",
        "Harrow & Peel Foods",
        "it’s pia@harrowpeel.example",
        "020 7946 0014",
    ]));
}

#[test]
fn a_middling_chilled_load_becomes_a_warm_lead() {
    insta::assert_snapshot!(transcript(&[
        ">tap storage",
        "chiled",
        "60 to 80",
        "spring",
        "ceo",
        "Tom",
        "Adeyemi",
        "Orchard Row Juices",
        "tom@mailinator.com",
        "tom@orchardrow.example",
        ">skip",
    ]));
}

#[test]
fn a_number_of_weeks_picks_the_option_that_holds_it() {
    for (reply, option) in [
        ("in 3 weeks", "Within 8 weeks"),
        ("in 4 months", "In 9 to 26 weeks"),
        ("10 weeks", "In 9 to 26 weeks"),
        ("the second", "In 9 to 26 weeks"),
    ] {
        let talked = transcript(&["storage", "chilled", "70", reply]);
        assert!(talked.contains(&format!("Start {option}")), "{reply}: {talked}");
    }
}

#[test]
fn an_answer_that_cannot_be_read_takes_the_way_out_after_three_tries() {
    insta::assert_snapshot!(transcript(&["storage", "chilled", "hard to put a figure on it", "quite a lot", "loads"]));
}

#[test]
fn a_load_too_small_and_a_load_not_cold_get_a_kind_answer_and_no_lead() {
    insta::assert_snapshot!("a load too small", transcript(&["storage", "frozen", "no", "three"]));
    insta::assert_snapshot!("a load not cold", transcript(&["storage", "dry goods"]));
}

#[test]
fn customers_and_people_who_look_are_no_leads() {
    insta::assert_snapshot!("a customer", transcript(&["my order"]));
    insta::assert_snapshot!("somebody who looks", transcript(&["just browsing"]));
}

#[test]
fn who_declines_is_not_asked_three_times_and_the_field_stays_empty() {
    insta::assert_snapshot!(transcript(&[
        "storage",
        "frozen",
        "don't know",
        "rather not",
        "no idea",
        "prefer not to say",
        "none",
        "n/a",
        "no thanks"
    ]));
}

#[test]
fn a_repeated_input_gives_the_first_result_and_changes_nothing() {
    let plan = plan();
    let context = Context::default();
    let mut state = State::default();
    let start = said("a", 0, ProspectInput::Start {});
    let Ok(Step::Took { events: first, .. }) = step(&plan, &mut state, &start, env(&context)) else { panic!() };
    let before = state.clone();
    let Ok(Step::Repeated(range)) = step(&plan, &mut state, &start, env(&context)) else {
        panic!("a repeated id is recognised")
    };
    assert_eq!((range, &state), (0..u32::try_from(first.len()).unwrap(), &before));
    let late = said("b", 0, ProspectInput::Reply { text: "storage".into() });
    assert_eq!(step(&plan, &mut state, &late, env(&context)), Err(Refusal::Sequence { expected: 1, found: 0 }));
    assert_eq!(state, before);
}

#[test]
fn what_cannot_be_taken_is_refused_and_changes_nothing() {
    let plan = plan();
    let context = Context::default();
    let mut state = State::default();
    let mut take =
        |body: ProspectInput, id: &str| step(&plan, &mut state, &said(id, u32::from(id != "a"), body), env(&context));
    assert!(take(ProspectInput::Start {}, "a").is_ok());
    assert_eq!(take(ProspectInput::Start {}, "b"), Err(Refusal::Start));
    assert_eq!(take(ProspectInput::Pick { option: "moon".into() }, "c"), Err(Refusal::NoOption("moon".into())));
    assert_eq!(take(ProspectInput::Skip {}, "d"), Err(Refusal::NoSkip));
    assert_eq!(take(ProspectInput::Reply { text: "x".repeat(70_000) }, "e"), Err(Refusal::TooLong));
    assert_eq!(take(ProspectInput::Reply { text: "storage".into() }, ""), Err(Refusal::Id));
}

#[test]
fn the_prospect_sees_no_points_rules_or_turns_to_come() {
    let (plan, events, state) = run(&["storage"]);
    let view = serde_json::to_string(&prospect_view(&plan, &state, &events)).unwrap();
    for secret in ["points", "t_temperature", "required", "owner", "band", "fld_"] {
        assert!(!view.contains(secret), "{secret} in {view}");
    }
    assert!(view.contains("How cold does it have to be?"));
}

#[test]
fn a_section_that_goes_round_ends_in_the_closing_fallback() {
    let mut file: serde_json::Value = serde_json::from_str(DEMO).unwrap();
    file["sections"][4]["turns"].as_array_mut().unwrap().pop();
    file["sections"][4]["then"] = serde_json::json!({"go_to": "small"});
    let (plan, _) = Plan::new(&load(&file.to_string()).unwrap());
    let context = Context::default();
    let inputs: Vec<script::Line> =
        ["storage", "frozen", "no", "3"].map(|text| ProspectInput::Reply { text: text.into() }.into()).into();
    let (events, state) = script::run(&plan, &inputs, env(&context)).unwrap();
    assert_eq!(state.closed.as_deref(), Some(""));
    let Some(Event::FellBack { why, .. }) = events.last() else { panic!() };
    assert_eq!(why, "the section “Small loads” was entered 25 times");
}

#[test]
fn a_visit_comes_back_and_a_go_to_leaves_it() {
    let mut file: serde_json::Value = serde_json::from_str(DEMO).unwrap();
    file["sections"][0]["turns"]
        .as_array_mut()
        .unwrap()
        .push(serde_json::json!({"kind": "visit", "id": "v", "section": "chat"}));
    file["sections"].as_array_mut().unwrap().push(serde_json::json!({"id": "chat", "title": "Chat",
        "turns": [{"kind": "tell", "id": "t_chat", "say": [{"line": {"text": {"en": "A word first."}}}]}],
        "then": "return"}));
    let (plan, faults) = Plan::new(&load(&file.to_string()).unwrap());
    assert_eq!(faults, []);
    let context = Context::default();
    let (events, state) =
        script::run(&plan, &[ProspectInput::Reply { text: "storage".into() }.into()], env(&context)).unwrap();
    let order: Vec<&str> = events
        .iter()
        .filter_map(|event| match event {
            Event::Visited { .. } => Some("visit"),
            Event::Returned { .. } => Some("back"),
            Event::Asked { turn, .. } => Some(turn.as_str()),
            _ => None,
        })
        .collect();
    assert_eq!(order, ["t_interest", "visit", "back", "t_temperature"]);
    assert!(state.visits.is_empty());
}

/// The demo with a nudge after a minute and an end after half an hour.
fn watched() -> Plan {
    let mut dialogue = load(DEMO).unwrap();
    dialogue.settings.nudge_seconds = 60;
    dialogue.settings.idle_minutes = 30;
    Plan::new(&dialogue).0
}

/// A conversation that has begun at 10:00 and is at some later time.
struct At {
    plan: Plan,
    context: Context,
    state: State,
}

impl At {
    fn begun() -> Self {
        let mut at = Self { plan: watched(), context: Context::default(), state: State::default() };
        assert!(at.take("10:00:00", &said("a", 0, ProspectInput::Start {})).is_ok());
        at
    }

    fn take(&mut self, time: &str, input: &Input) -> Result<Step, Refusal> {
        let now = format!("2026-11-23T{time}Z").parse().unwrap();
        step(&self.plan, &mut self.state, input, Env { now, ..env(&self.context) })
    }
}

#[test]
fn a_prospect_cannot_name_an_input_as_the_system_does() {
    let mut at = At::begun();
    for id in ["silence:1", ":", "a:b", "a b", "ä", "a/b", ""] {
        assert_eq!(at.take("10:00:01", &said(id, 1, ProspectInput::Skip {})), Err(Refusal::Id), "{id}");
    }
    let system = Input::system("silence", 1, 1, SystemInput::Silence);
    assert_eq!(system.id, "silence:1");
    // A message from outside can hold no input of the system at all.
    for kind in ["silence", "end", "tick", "system"] {
        let text = format!("{{\"id\": \"a\", \"expects\": 1, \"body\": {{\"kind\": \"{kind}\"}}}}");
        assert!(serde_json::from_str::<ProspectMessage>(&text).is_err(), "{kind}");
    }
    assert!(
        serde_json::from_str::<ProspectMessage>("{\"id\": \"a\", \"expects\": 1, \"body\": {\"kind\": \"nudge\"}}")
            .is_ok()
    );
}

#[test]
fn a_nudge_only_asks_and_only_after_the_time_by_our_clock() {
    let mut at = At::begun();
    let nudge = |id: &str, expects| said(id, expects, ProspectInput::Nudge {});
    assert_eq!(at.take("10:00:59", &nudge("b", 1)), Err(Refusal::TooSoon));
    let Ok(Step::Took { events, effects }) = at.take("10:01:00", &nudge("c", 1)) else { panic!("it is time") };
    assert!(
        matches!(events.as_slice(), [Event::Taken { unheard: true, .. }, Event::Nudged { .. }]) && effects.is_empty(),
        "{events:?}"
    );
    assert_eq!(at.take("10:05:00", &nudge("d", 2)), Err(Refusal::TooSoon), "once, until they are heard again");
    // However often a page asks, nothing ends by it, and the silence goes on.
    assert_eq!(at.take("11:00:00", &nudge("e", 2)), Err(Refusal::TooSoon));
    assert_eq!(at.state.heard_at, Some("2026-11-23T10:00:00Z".parse().unwrap()));
    assert!(at.take("11:00:01", &said("f", 2, ProspectInput::Reply { text: "storage".into() })).is_ok());
    assert!(at.take("11:01:01", &nudge("g", 3)).is_ok(), "they were heard and went quiet again");
}

#[test]
fn silence_ends_by_the_system_and_only_after_the_time() {
    let mut at = At::begun();
    let silence = |expects| Input::system("silence", expects, expects, SystemInput::Silence);
    assert_eq!(at.take("10:29:59", &silence(1)), Err(Refusal::TooSoon));
    let Ok(Step::Took { events, .. }) = at.take("10:30:00", &silence(1)) else { panic!("it is time") };
    assert!(matches!(events.last(), Some(Event::FellBack { .. })), "{events:?}");
    assert!(matches!(at.take("10:30:00", &silence(1)), Ok(Step::Repeated(_))), "sent again it is the same");
    assert_eq!(at.take("10:30:01", &silence(2)), Err(Refusal::Ended));
}

#[test]
fn who_leaves_ends_the_conversation_as_unfinished() {
    let mut at = At::begun();
    let Ok(Step::Took { events, .. }) = at.take("10:00:05", &said("b", 1, ProspectInput::Leave {})) else { panic!() };
    assert_eq!(events.last(), Some(&Event::Left));
    assert_eq!((at.state.closed.as_deref(), &at.state.asking), (Some(""), &None));
    assert_eq!(
        at.take("10:00:06", &said("c", 2, ProspectInput::Reply { text: "storage".into() })),
        Err(Refusal::Ended)
    );
    assert_eq!(
        at.take(
            "10:00:06",
            &said("d", 2, ProspectInput::Revise { turn: "t_need".into(), text: "haulage".into(), picked: false })
        ),
        Err(Refusal::Ended)
    );
}

#[test]
fn what_follows_a_step_leaves_it_as_effects() {
    let (plan, context) = (watched(), Context::default());
    let mut state = State::default();
    let mut take = |index: u32, body: ProspectInput| match step(
        &plan,
        &mut state,
        &said(&format!("i{index}"), index, body),
        env(&context),
    )
    .unwrap()
    {
        Step::Took { effects, .. } => effects,
        Step::Repeated(_) => panic!("ids are unique"),
    };
    let limit = "2026-11-23T10:30:00Z".parse().unwrap();
    assert_eq!(take(0, ProspectInput::Start {}), [Effect::Wake { timer: Timer::Silence, at: limit }]);
    let replies = [
        "storage",
        "frozen",
        "yes",
        "340",
        "within 8 weeks",
        "owner",
        "Pia Lindqvist",
        "Harrow Peel",
        "pia@harrowpeel.example",
        "020 7946 0014",
    ];
    let mut filed = Vec::new();
    for (index, reply) in replies.iter().enumerate() {
        let effects = take(u32::try_from(index + 1).unwrap(), ProspectInput::Reply { text: (*reply).into() });
        filed.extend(effects);
        if filed.iter().any(|effect| matches!(effect, Effect::File { .. })) {
            break;
        }
    }
    let [
        Effect::Wake { timer: Timer::Unfinished, at },
        Effect::File { filing: 1, score: Some(score), decision, unfinished: false, early: false },
    ] = filed.as_slice()
    else {
        panic!("{filed:?}")
    };
    assert!(score.total > 0 && decision.queue.is_some());
    assert_eq!(*at, limit, "they can be reached once the address is kept");
}

#[test]
fn a_rehearsal_says_that_a_table_of_territories_is_looked_at_first() {
    let mut dialogue = load(DEMO).unwrap();
    let rule = serde_json::json!({"id": "rt_firms", "holds": {"all": []},
        "table": {"table": "firms", "field": "company"}});
    dialogue.routing.rules.insert(0, serde_json::from_value(rule).unwrap());
    let (plan, faults) = Plan::new(&dialogue);
    assert_eq!(faults, []);
    let context = Context::default();
    let replies = ["Blast freezing", "frozen", "yes", "250", "owner", "Maud Ekström", "Ekström Berries"];
    let replies = replies.into_iter().chain(["maud@ekstromberries.example", "020 7946 0588"]);
    let inputs: Vec<script::Line> =
        replies.enumerate().map(|(index, reply)| script::line(reply, index + 1).unwrap()).collect();
    let (events, _) = script::run(&plan, &inputs, env(&context)).unwrap();
    let notes: Vec<String> =
        margin(&plan, &events, Told::Rehearsed).into_iter().flat_map(|line| line.notes).map(|note| note.text).collect();
    let said = notes.iter().find(|note| note.contains("Would file a lead")).unwrap();
    assert!(said.ends_with("the queue that territories have for Ekström Berries, else queue senior"), "{said}");
}

fn any_body() -> impl Strategy<Value = ProspectInput> {
    let words = prop::sample::select(vec![
        "storage",
        "frozen",
        "60",
        "yes",
        "no",
        "owner",
        "Pia Lindqvist",
        "pia@harrowpeel.example",
        "020 7946 0014",
        "none",
        "skip",
        "",
        "soon",
        "chilled",
        "😀",
        "<b>",
        "=1+1",
        "\u{202e}abc",
        "\0",
    ]);
    prop_oneof![
        words.prop_map(|text| ProspectInput::Reply { text: text.to_owned() }),
        any::<String>().prop_map(|text| ProspectInput::Reply { text }),
        prop::sample::select(vec!["storage", "frozen", "yes", "owner", "moon"])
            .prop_map(|key| ProspectInput::Pick { option: key.to_owned() }),
        Just(ProspectInput::Skip {}),
        Just(ProspectInput::Start {}),
    ]
}

proptest! {
    #[test]
    fn no_sequence_of_inputs_panics_and_events_always_fold_to_the_state(
        bodies in prop::collection::vec(any_body(), 0..40),
    ) {
        let (plan, _) = Plan::new(&load(DEMO).unwrap());
        let context = Context::default();
        let mut state = State::default();
        let mut events = vec![];
        for (index, body) in std::iter::once(ProspectInput::Start {}).chain(bodies).enumerate() {
            let input = said(&index.to_string(), state.sequence(), body);
            let before = state.clone();
            match step(&plan, &mut state, &input, env(&context)) {
                Ok(Step::Took { events: new, .. }) => events.extend(new),
                Ok(Step::Repeated(_)) => prop_assert!(false, "ids are unique"),
                Err(_) => prop_assert_eq!(&state, &before),
            }
        }
        prop_assert_eq!(State::of(&events), state.clone());
        let json = serde_json::to_string(&state).unwrap();
        prop_assert_eq!(serde_json::from_str::<State>(&json).unwrap(), state.clone());
        let text = serde_json::to_string(&events).unwrap();
        prop_assert_eq!(serde_json::from_str::<Vec<Event>>(&text).unwrap(), events.clone());
        prop_assert!(state.closed.is_some() || state.asking.is_some());
        let _ = (margin(&plan, &events, Told::Rehearsed), prospect_view(&plan, &state, &events));
    }

    #[test]
    fn no_formula_panics(text in "[a-z0-9+*/^&()<>=%,\" .A-Z-]{0,60}") {
        let names = lumbo_formula::Names { fields: &plan().file.fields, tables: &[] };
        if let Ok(formula) = lumbo_formula::compile(&text, names) {
            let _ = formula.run(&lumbo_formula::PlainLookup::default());
        }
    }

    #[test]
    fn no_reply_panics_any_reader(
        text in any::<String>(),
        kind in prop::sample::select(lumbo_dialogue::file::FieldType::ALL.to_vec()),
    ) {
        let field = serde_json::json!({"id": "f", "key": "f", "label": "F", "type": kind, "options": [{"key": "a",
            "label": {"en": "Apples"}}, {"key": "b", "label": {"en": "Beans"}}]});
        let field: lumbo_dialogue::file::Field = serde_json::from_value(field).unwrap();
        if let Ok(reader) = lumbo_reading::Reader::new(lumbo_reading::ReaderSpec::of(&field, "en")) {
            let read = reader.read(&text, lumbo_reading::ReadContext { country: Some("GB"), ..Default::default() }, 0);
            if let lumbo_reading::Reading::Value { heard, .. } = read {
                let span: String = text.chars().skip(heard.start).take(heard.end - heard.start).collect();
                prop_assert_eq!(span, heard.text);
            }
        }
    }
}
