//! What is stored can be read for ever: conversations that earlier versions kept, folded by this one. A corpus of the
//! version before is added under `data/stored` whenever the version goes up; no file there is ever changed.

#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use std::path::Path;

use lumbo_dialogue::file::Dialogue;
use lumbo_dialogue::plan::Plan;
use lumbo_dialogue::talk::{
    EVENT_VERSION, Event, State, Unreadable, keep_event, keep_state, prospect_view, read_event, read_state,
};
use lumbo_route::RouteStep;
use serde_json::{Value, json};

fn kept(version: u64) -> Vec<(String, Value)> {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join(format!("tests/data/stored/{version}"));
    let mut files: Vec<_> = std::fs::read_dir(folder).unwrap().map(|entry| entry.unwrap().path()).collect();
    files.sort();
    files
        .iter()
        .map(|path| {
            (path.display().to_string(), serde_json::from_str(&std::fs::read_to_string(path).unwrap()).unwrap())
        })
        .collect()
}

#[test]
fn conversations_of_the_first_version_fold_to_what_they_were() {
    let files = kept(1);
    assert_eq!(files.len(), 5);
    for (name, file) in files {
        let events: Vec<Event> =
            file["events"].as_array().unwrap().iter().map(|event| read_event(&event.to_string()).unwrap()).collect();
        let folded = State::of(&events);
        let mut state = read_state(&file["state"].to_string()).unwrap();
        // The first version did not keep when they were last heard, nor bands by scorecard; events tell both.
        state.heard_at = folded.heard_at;
        state.bands.clone_from(&folded.bands);
        assert!(state.heard_at.is_some());
        assert_eq!(state, folded, "{name}");
        let dialogue: Dialogue = serde_json::from_value(file["dialogue"].clone()).unwrap();
        let (plan, faults) = Plan::new(&dialogue);
        assert_eq!(faults, [], "{name}");
        let mut view = serde_json::to_value(prospect_view(&plan, &folded, &events)).unwrap();
        // The first version did not tell the page that it was passed on.
        let filed = view.as_object_mut().unwrap().remove("filed");
        assert_eq!(filed.is_some(), folded.filings > 0, "{name}");
        assert_eq!(view, file["view"], "{name}: a prospect who comes back sees the same");
    }
}

#[test]
fn conversations_of_the_second_version_fold_to_what_they_were() {
    let files = kept(2);
    assert_eq!(files.len(), 5);
    for (name, file) in files {
        let events: Vec<Event> =
            file["events"].as_array().unwrap().iter().map(|event| read_event(&event.to_string()).unwrap()).collect();
        assert_eq!(read_state(&file["state"].to_string()).unwrap(), State::of(&events), "{name}");
        // Steps of routing were sentences then, and are kept as they were said.
        let steps = events.iter().filter_map(|event| match event {
            Event::Filed { decision, .. } => Some(&decision.steps),
            _ => None,
        });
        assert!(steps.flatten().all(|step| matches!(step, RouteStep::Said(_))), "{name}");
    }
}

#[test]
fn conversations_of_the_third_version_fold_to_what_they_were() {
    let files = kept(3);
    assert_eq!(files.len(), 5);
    for (name, file) in files {
        let events: Vec<Event> =
            file["events"].as_array().unwrap().iter().map(|event| read_event(&event.to_string()).unwrap()).collect();
        let folded = State::of(&events);
        assert_eq!(read_state(&file["state"].to_string()).unwrap(), folded, "{name}");
        // Every filing was one that the outline came to.
        assert!(folded.unfinished.is_none(), "{name}");
        let (plan, _) = Plan::new(&serde_json::from_value::<Dialogue>(file["dialogue"].clone()).unwrap());
        assert_eq!(serde_json::to_value(prospect_view(&plan, &folded, &events)).unwrap(), file["view"], "{name}");
    }
}

#[test]
fn conversations_of_the_fourth_version_fold_to_what_they_were() {
    let files = kept(4);
    assert_eq!(files.len(), 5);
    let mut unfinished = 0;
    for (name, file) in files {
        let events: Vec<Event> =
            file["events"].as_array().unwrap().iter().map(|event| read_event(&event.to_string()).unwrap()).collect();
        let folded = State::of(&events);
        assert_eq!(read_state(&file["state"].to_string()).unwrap(), folded, "{name}");
        // No table was to be looked at.
        for event in &events {
            if let Event::Filed { decision, unfinished: left, .. } = event {
                assert!(decision.looks.is_empty(), "{name}");
                unfinished += usize::from(*left);
            }
        }
        // Of the one that was left, no page is open any more.
        if let Some(view) = file.get("view") {
            let (plan, _) = Plan::new(&serde_json::from_value::<Dialogue>(file["dialogue"].clone()).unwrap());
            assert_eq!(serde_json::to_value(prospect_view(&plan, &folded, &events)).unwrap(), *view, "{name}");
        }
    }
    assert_eq!(unfinished, 1);
}

#[test]
fn conversations_of_the_fifth_version_fold_to_what_they_were() {
    let files = kept(5);
    assert_eq!(files.len(), 6);
    let mut looks = 0;
    for (name, file) in files {
        let events: Vec<Event> =
            file["events"].as_array().unwrap().iter().map(|event| read_event(&event.to_string()).unwrap()).collect();
        let folded = State::of(&events);
        assert_eq!(read_state(&file["state"].to_string()).unwrap(), folded, "{name}");
        // Every owner was chosen at once.
        assert!(!folded.early, "{name}");
        for event in &events {
            if let Event::Filed { decision, early, .. } = event {
                assert!(!early, "{name}");
                looks += decision.looks.len();
            }
        }
        if let Some(view) = file.get("view") {
            let (plan, _) = Plan::new(&serde_json::from_value::<Dialogue>(file["dialogue"].clone()).unwrap());
            assert_eq!(serde_json::to_value(prospect_view(&plan, &folded, &events)).unwrap(), *view, "{name}");
        }
    }
    assert_eq!(looks, 1, "one was to be looked up in a table");
}

#[test]
fn what_is_kept_is_read_back() {
    for (name, file) in (1..EVENT_VERSION).flat_map(kept) {
        for event in file["events"].as_array().unwrap() {
            let event = read_event(&event.to_string()).unwrap();
            let text = keep_event(&event).unwrap();
            assert_eq!((text["v"].as_u64(), read_event(&text.to_string())), (Some(EVENT_VERSION), Ok(event)), "{name}");
        }
        let state = read_state(&file["state"].to_string()).unwrap();
        assert_eq!(read_state(&keep_state(&state).unwrap()), Ok(state), "{name}");
    }
}

#[test]
fn a_newer_version_is_told_apart_from_what_is_broken() {
    let newer = json!({"v": EVENT_VERSION + 1, "event": "something_new", "turn": "t"}).to_string();
    assert_eq!(read_event(&newer), Err(Unreadable::Newer { found: EVENT_VERSION + 1 }));
    assert_eq!(read_state(&newer), Err(Unreadable::Newer { found: EVENT_VERSION + 1 }));
    for broken in ["", "[]", "{", "{\"event\": \"something_new\"}", "{\"v\": \"two\"}", "{\"v\": -1}"] {
        assert!(matches!(read_event(broken), Err(Unreadable::Broken(_))), "{broken}");
    }
}

#[test]
fn what_the_worker_of_the_first_version_sent_was_not_heard() {
    let taken = |id: &str| match read_event(
        &json!({"event": "taken", "input": id, "at": "2026-11-23T10:00:00Z"}).to_string(),
    ) {
        Ok(Event::Taken { unheard, .. }) => unheard,
        other => panic!("{other:?}"),
    };
    assert!(taken("silence-12") && !taken("silence-") && !taken("silence-x") && !taken("i12"));
}
