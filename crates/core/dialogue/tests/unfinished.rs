//! Who leaves before the end, and can be reached, becomes a lead marked unfinished; and what stays of a conversation
//! whose person is erased.

#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

mod talked;

use lumbo_dialogue::file::Dialogue;
use lumbo_dialogue::plan::Plan;
use lumbo_dialogue::talk::{
    Context, Effect, Env, Event, Input, ProspectInput, Refusal, State, Step, SystemInput, Timer, erased, prospect_view,
    script, step,
};
use lumbo_reading::domains::DomainLists;
use proptest::prelude::*;
use serde_json::json;
use talked::{Talked, ask, dialogue, section};

/// Asks for temperature, address and pallets, then files.
fn enquiry(extra: serde_json::Value, consent: bool) -> Dialogue {
    let mut turns =
        vec![ask("t_temp", "temperature", "Frozen or chilled?"), ask("t_email", "email", "Your e-mail address?")];
    if consent {
        turns.push(ask("t_consent", "consent", "May we write to you?"));
    }
    turns.push(ask("t_pallets", "pallets", "How many pallets?"));
    turns.push(json!({"kind": "file_lead", "id": "t_file"}));
    dialogue(section(turns), extra)
}

/// A conversation with a clock that can be moved; it begins at 10:00.
struct Clocked {
    plan: Plan,
    context: Context,
    state: State,
    events: Vec<Event>,
}

impl Clocked {
    fn begun(file: &Dialogue) -> Self {
        let plan = Plan::new(file).0;
        let mut begun = Self { plan, context: Context::default(), state: State::default(), events: Vec::new() };
        begun.says("10:00", ProspectInput::Start {}).unwrap();
        begun
    }

    fn take(&mut self, time: &str, input: &Input) -> Result<Vec<Effect>, Refusal> {
        let env = Env {
            now: format!("2026-11-23T{time}:00Z").parse().unwrap(),
            seed: 7,
            context: &self.context,
            known: &[],
            domains: DomainLists::none(),
        };
        match step(&self.plan, &mut self.state, input, env)? {
            Step::Took { events, effects } => {
                self.events.extend(events);
                assert_eq!(State::of(&self.events), self.state);
                Ok(effects)
            }
            Step::Repeated(_) => Ok(Vec::new()),
        }
    }

    fn says(&mut self, time: &str, body: ProspectInput) -> Result<Vec<Effect>, Refusal> {
        let expects = self.state.sequence();
        let body = serde_json::to_value(body).unwrap();
        let message = json!({"id": format!("i{expects}"), "expects": expects, "body": body});
        let message: lumbo_dialogue::talk::ProspectMessage = serde_json::from_value(message).unwrap();
        self.take(time, &Input::from(message))
    }

    fn replies(&mut self, time: &str, text: &str) -> Vec<Effect> {
        self.says(time, ProspectInput::Reply { text: text.into() }).unwrap()
    }

    fn unfinished(&mut self, time: &str) -> Result<Vec<Effect>, Refusal> {
        let expects = self.state.sequence();
        self.take(time, &Input::system("unfinished", expects, expects, SystemInput::Unfinished))
    }
}

fn wakes_at(effects: &[Effect]) -> Option<String> {
    effects.iter().find_map(|effect| match effect {
        Effect::Wake { timer: Timer::Unfinished, at } => Some(at.strftime("%H:%M").to_string()),
        _ => None,
    })
}

fn files(effects: &[Effect]) -> Vec<(u32, bool)> {
    let filing = |effect: &Effect| match effect {
        Effect::File { filing, unfinished, .. } => Some((*filing, *unfinished)),
        Effect::Wake { .. } | Effect::Request { .. } | Effect::Tag { .. } => None,
    };
    effects.iter().filter_map(filing).collect()
}

fn owner_due(effects: &[Effect]) -> Vec<String> {
    let due = |effect: &Effect| match effect {
        Effect::Wake { timer: Timer::Owner, at } => Some(at.strftime("%H:%M").to_string()),
        Effect::File { .. } | Effect::Wake { .. } | Effect::Request { .. } | Effect::Tag { .. } => None,
    };
    effects.iter().filter_map(due).collect()
}

#[test]
fn the_owner_of_what_is_filed_early_is_due_after_a_silence_and_at_the_end() {
    let early = |early: bool| {
        let turns = vec![
            ask("t_email", "email", "Your e-mail address?"),
            json!({"kind": "file_lead", "id": "t_early", "early": early}),
            ask("t_pallets", "pallets", "How many pallets?"),
            ask("t_temp", "temperature", "Frozen or chilled?"),
        ];
        dialogue(section(turns), json!({}))
    };
    let mut talk = Clocked::begun(&early(true));
    let filed = talk.replies("10:01", "pia@harrowpeel.example");
    assert!(matches!(filed.as_slice(), [.., Effect::File { early: true, .. }, Effect::Wake { .. }]), "{filed:?}");
    assert_eq!(owner_due(&filed), ["10:06"]);
    assert_eq!(owner_due(&talk.replies("10:03", "40")), [""; 0], "what is said meanwhile sets no timer of its own");
    assert!(talk.state.early);
    assert_eq!(owner_due(&talk.says("10:04", ProspectInput::Leave {}).unwrap()), ["10:04"]);
    // A File lead that is not early leaves nothing to be done.
    let mut talk = Clocked::begun(&early(false));
    assert_eq!(owner_due(&talk.replies("10:01", "pia@harrowpeel.example")), [""; 0]);
    assert_eq!(owner_due(&talk.says("10:04", ProspectInput::Leave {}).unwrap()), [""; 0]);
}

#[test]
fn whoever_can_be_reached_and_goes_silent_becomes_a_lead_once() {
    let mut talk = Clocked::begun(&enquiry(json!({}), false));
    assert_eq!(wakes_at(&talk.replies("10:01", "frozen")), None, "nobody can be reached yet");
    assert_eq!(talk.unfinished("11:00"), Err(Refusal::NoLead), "nor later");
    assert_eq!(wakes_at(&talk.replies("10:02", "pia@harrowpeel.example")), Some("10:32".into()), "30 minutes on");
    assert_eq!(talk.unfinished("10:31"), Err(Refusal::TooSoon));
    assert_eq!(files(&talk.unfinished("10:32").unwrap()), [(1, true)]);
    assert!(matches!(talk.events.last(), Some(Event::Filed { turn, unfinished: true, .. }) if turn == "t_pallets"));
    assert_eq!(talk.unfinished("11:30"), Err(Refusal::NoLead), "nothing was said since");
    // They can go on, and are not told that they were passed on.
    let view = prospect_view(&talk.plan, &talk.state, &talk.events);
    assert!(!view.filed && view.question.is_some() && !view.ended);
    // What is said after it amends the record: at the end in full, and after silence again.
    let effects = talk.replies("12:00", "340");
    assert_eq!(files(&effects), [(2, false)]);
    assert!(talk.state.unfinished.is_none() && talk.state.filings == 2);
    assert!(matches!(talk.unfinished("15:00"), Err(Refusal::Ended)));
}

#[test]
fn more_that_is_said_after_an_unfinished_filing_is_filed_after_silence_again() {
    let mut turns = vec![
        ask("t_email", "email", "Your e-mail address?"),
        ask("t_temp", "temperature", "Frozen or chilled?"),
        ask("t_pallets", "pallets", "How many pallets?"),
    ];
    turns.push(json!({"kind": "file_lead", "id": "t_file"}));
    let mut talk = Clocked::begun(&dialogue(section(turns), json!({"settings": {"unfinished_minutes": 10}})));
    assert_eq!(wakes_at(&talk.replies("10:00", "pia@harrowpeel.example")), Some("10:10".into()));
    assert_eq!(files(&talk.unfinished("10:10").unwrap()), [(1, true)]);
    assert_eq!(wakes_at(&talk.replies("10:20", "chilled")), Some("10:30".into()));
    assert_eq!(files(&talk.unfinished("10:30").unwrap()), [(2, true)]);
    assert_eq!(files(&talk.replies("10:40", "20")), [(3, false)]);
}

#[test]
fn without_consent_where_it_is_asked_for_nothing_is_filed() {
    let mut talk = Clocked::begun(&enquiry(json!({}), true));
    talk.replies("10:01", "frozen");
    assert_eq!(wakes_at(&talk.replies("10:02", "pia@harrowpeel.example")), None);
    assert_eq!(talk.unfinished("11:00"), Err(Refusal::NoLead));
    assert_eq!(wakes_at(&talk.replies("10:03", "yes")), Some("10:33".into()));
    assert_eq!(files(&talk.unfinished("10:33").unwrap()), [(1, true)]);
    // A field of consent that no turn asks for asks for nothing.
    let mut talk = Clocked::begun(&enquiry(json!({}), false));
    talk.replies("10:01", "frozen");
    assert!(wakes_at(&talk.replies("10:02", "pia@harrowpeel.example")).is_some());
}

#[test]
fn an_author_can_want_none_and_a_dialogue_that_files_nothing_has_none() {
    let mut talk = Clocked::begun(&enquiry(json!({"settings": {"unfinished_minutes": 0}}), false));
    talk.replies("10:01", "frozen");
    assert_eq!(wakes_at(&talk.replies("10:02", "pia@harrowpeel.example")), None);
    assert!(talk.unfinished("23:00").is_err());
    let turns = vec![ask("t_email", "email", "Your e-mail address?"), ask("t_temp", "temperature", "Which?")];
    let mut talk = Clocked::begun(&dialogue(section(turns), json!({})));
    assert_eq!(wakes_at(&talk.replies("10:02", "pia@harrowpeel.example")), None);
}

#[test]
fn an_end_by_silence_files_what_was_said_before_it_ends() {
    let settings = json!({"settings": {"idle_minutes": 15}});
    let mut talk = Clocked::begun(&enquiry(settings, false));
    talk.replies("10:01", "frozen");
    talk.replies("10:02", "pia@harrowpeel.example");
    let expects = talk.state.sequence();
    let silence = Input::system("silence", expects, expects, SystemInput::Silence);
    assert_eq!(files(&talk.take("10:17", &silence).unwrap()), [(1, true)]);
    assert_eq!(talk.state.closed.as_deref(), Some(""));
    // What was filed before, and nothing was said since, is not filed again at the end.
    let settings = json!({"settings": {"idle_minutes": 60, "nudge_seconds": 60}});
    let mut talk = Clocked::begun(&enquiry(settings, false));
    talk.replies("10:01", "frozen");
    talk.replies("10:02", "pia@harrowpeel.example");
    assert_eq!(files(&talk.unfinished("10:32").unwrap()), [(1, true)]);
    talk.says("10:40", ProspectInput::Nudge {}).unwrap();
    let expects = talk.state.sequence();
    let silence = Input::system("silence", expects, expects, SystemInput::Silence);
    assert_eq!(files(&talk.take("11:02", &silence).unwrap()), []);
    // Who leaves of their own will is left alone.
    let mut talk = Clocked::begun(&enquiry(json!({}), false));
    talk.replies("10:01", "frozen");
    talk.replies("10:02", "pia@harrowpeel.example");
    assert_eq!(files(&talk.says("10:03", ProspectInput::Leave {}).unwrap()), []);
}

#[test]
fn what_they_do_next_is_not_steered_by_an_unfinished_filing() {
    let turns = vec![
        ask("t_email", "email", "Your e-mail address?"),
        json!({"kind": "ask", "id": "t_temp", "say": {"text": {"en": "Frozen or chilled?"}}, "field": "temperature"}),
        json!({"kind": "file_lead", "id": "t_file"}),
    ];
    let mut talk = Clocked::begun(&dialogue(section(turns), json!({})));
    talk.replies("10:00", "pia@harrowpeel.example");
    talk.unfinished("10:30").unwrap();
    assert_eq!((&talk.state.band, talk.state.bands.len()), (&None, 0));
}

/// Every conversation of the corpus of what is kept, and some held here.
fn conversations() -> Vec<Vec<Event>> {
    let mut all = Vec::new();
    for version in 1..=3 {
        let folder = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join(format!("tests/data/stored/{version}"));
        for entry in std::fs::read_dir(folder).unwrap() {
            let text = std::fs::read_to_string(entry.unwrap().path()).unwrap();
            let file: serde_json::Value = serde_json::from_str(&text).unwrap();
            let read = |event: &serde_json::Value| lumbo_dialogue::talk::read_event(&event.to_string()).unwrap();
            all.push(file["events"].as_array().unwrap().iter().map(read).collect());
        }
    }
    all
}

/// Every text of a JSON document that somebody could be known by: longer than a key.
fn texts(json: &serde_json::Value, out: &mut Vec<String>) {
    match json {
        serde_json::Value::String(text) => out.push(text.clone()),
        serde_json::Value::Array(items) => items.iter().for_each(|item| texts(item, out)),
        serde_json::Value::Object(map) => map.values().for_each(|item| texts(item, out)),
        _ => {}
    }
}

#[test]
fn an_erased_conversation_holds_no_word_of_theirs_and_took_place_all_the_same() {
    for events in conversations() {
        let state = State::of(&events);
        let blank: Vec<Event> = events.iter().map(erased).collect();
        assert_eq!(blank.len(), events.len());
        let left = State::of(&blank);
        assert_eq!(
            (left.events, left.inputs.len(), left.filings, &left.closed, &left.band),
            (state.events, state.inputs.len(), state.filings, &state.closed, &state.band)
        );
        assert!(left.values.is_empty() && left.answers.is_empty() && left.missing.is_empty());
        let kept = serde_json::to_string(&blank).unwrap() + &serde_json::to_string(&left).unwrap();
        // Their words and values, as they typed them and as they were shown.
        for event in &events {
            let words: Vec<&String> = match event {
                Event::Replied { text, .. } => vec![text],
                Event::Kept { shown, .. } | Event::WorkedOut { shown, .. } | Event::Prefilled { shown, .. } => {
                    vec![shown]
                }
                _ => continue,
            };
            for word in words.into_iter().filter(|word| word.chars().count() > 3) {
                assert!(!kept.contains(word.as_str()), "“{word}” stayed");
            }
        }
    }
}

proptest! {
    /// Whatever they typed: nothing of it is left, and erasing again changes nothing.
    #[test]
    fn nothing_that_was_typed_stays(name in "[A-Z][a-z]{5,12} [A-Z][a-z]{5,12}", pallets in 10_000u32..99_999) {
        let turns = vec![ask("t_name", "name", "Your name?"), ask("t_pallets", "pallets", "How many?")];
        let file = dialogue(section(turns), json!({}));
        let talk = Talked::run(&file, &[&name, &pallets.to_string()]);
        prop_assume!(talk.state.values.len() == 2);
        let blank: Vec<Event> = talk.events.iter().map(erased).collect();
        prop_assert_eq!(&blank, &blank.iter().map(erased).collect::<Vec<_>>());
        let mut all = Vec::new();
        texts(&serde_json::to_value(&blank).unwrap(), &mut all);
        let all = all.join("\n");
        prop_assert!(!all.contains(&name) && !all.contains(&pallets.to_string()), "{}", all);
        prop_assert!(all.contains("replied") && all.contains("t_name"), "that they replied stays");
    }
}

#[test]
fn a_rehearsal_can_wait_until_what_was_said_becomes_a_lead() {
    let file = enquiry(json!({}), false);
    let plan = Plan::new(&file).0;
    let lines: Vec<script::Line> = ["frozen", "pia@harrowpeel.example", ">tick 1800"]
        .iter()
        .enumerate()
        .map(|(index, line)| script::line(line, index + 1).unwrap())
        .collect();
    let env = Env {
        now: "2026-11-23T10:00:00Z".parse().unwrap(),
        seed: 7,
        context: &Context::default(),
        known: &[],
        domains: DomainLists::none(),
    };
    let (events, state) = script::run(&plan, &lines, env).unwrap();
    assert!(matches!(events.last(), Some(Event::Filed { unfinished: true, .. })));
    assert!(state.asking.is_some(), "they can still go on");
}

#[test]
fn an_outcome_that_is_no_lead_can_leave_a_request_behind() {
    let sections = json!([{"id": "main", "title": "Main", "turns": [
        ask("t_email", "email", "Your e-mail address?"), ask("t_temp", "temperature", "Frozen or chilled?"),
    ], "then": {"close": {"outcome": "question", "say": {"en": "We will write to you."}}}}]);
    let outcomes = json!([{"id": "question", "label": "A customer’s question", "class": "customer",
        "request": {"queue": "saltwick", "within": 240}}]);
    let mut talk = Clocked::begun(&dialogue(sections.clone(), json!({"outcomes": outcomes})));
    assert_eq!(talk.replies("10:00", "pia@harrowpeel.example"), []);
    assert_eq!(talk.replies("10:01", "frozen"), [Effect::Request { outcome: "question".into() }]);
    // Without one, nothing is left behind.
    let outcomes = json!([{"id": "question", "label": "A customer’s question", "class": "customer"}]);
    let mut talk = Clocked::begun(&dialogue(sections, json!({"outcomes": outcomes})));
    talk.replies("10:00", "pia@harrowpeel.example");
    assert_eq!(talk.replies("10:01", "frozen"), []);
}
