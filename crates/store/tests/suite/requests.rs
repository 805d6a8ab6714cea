//! What an outcome that is no lead leaves behind for somebody.

#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use crate::common::{Fixture, demo, now};
use jiff::{SignedDuration, Timestamp};
use lumbo_dialogue::talk::{ProspectInput, ProspectMessage};
use lumbo_store::{RequestAct, StoreError};
use serde_json::json;

/// A dialogue that takes a customer's question; the demo's fields, its queue at Saltwick.
fn questions(asks_for_address: bool) -> lumbo_dialogue::file::Dialogue {
    let mut file = serde_json::to_value(demo("questions")).unwrap();
    let ask = |id: &str, field: &str, words: &str| {
        json!({"kind": "ask", "id": id, "field": field,
        "say": {"text": {"en": words}}})
    };
    let mut turns = vec![ask("t_who", "name", "Your name?")];
    if asks_for_address {
        turns.push(ask("t_mail", "email", "Where do we write to?"));
    }
    turns.push(ask("t_firm", "company", "Which company?"));
    file["sections"] = json!([{"id": "only", "title": "Only", "turns": turns,
        "then": {"close": {"outcome": "customer", "say": {"en": "Thank you, we will write to you."}}}}]);
    file["outcomes"] = json!([{"id": "customer", "label": "A customer’s question", "class": "customer",
        "request": {"queue": "saltwick", "within": 240}}]);
    for key in ["side_talk", "offers", "rehearsals", "promises", "accepted", "scorecards", "routing", "tables", "brief"]
    {
        file.as_object_mut().unwrap().remove(key);
    }
    serde_json::from_value(file).unwrap()
}

/// Talks to a dialogue that takes questions.
async fn talk(fixture: &Fixture, token: &[u8], asks_for_address: bool, replies: &[&str]) {
    let home = &fixture.home;
    let dialogue = questions(asks_for_address);
    let id = fixture.store.create_dialogue(home.workspace, None, &dialogue).await.unwrap();
    fixture.store.release(home.workspace, id, None, 1, "first").await.unwrap();
    let slug = fixture.store.draft(home.workspace, id).await.unwrap().slug;
    let mut last = fixture.start(&slug, token).await;
    for (index, text) in replies.iter().enumerate() {
        let body = ProspectInput::Reply { text: (*text).to_owned() };
        let input = ProspectMessage { id: format!("i{index}"), expects: last.view.sequence, body };
        last = fixture.store.take_input(token, input, fixture.clock.now()).await.unwrap();
    }
    assert!(last.view.ended, "{:?}", last.view);
}

#[tokio::test]
async fn a_question_waits_in_its_queue_and_is_no_lead() {
    let fixture = Fixture::new().await;
    let (store, home) = (&fixture.store, &fixture.home);
    talk(&fixture, b"one", true, &["Pia Lindqvist", "pia@harrowpeel.example", "Harrow & Peel Foods"]).await;
    assert_eq!((fixture.count("requests").await, fixture.count("leads").await), (1, 0));
    let row = store.requests(&home.reps[0], false).await.unwrap().remove(0);
    assert_eq!(
        (row.label.as_str(), row.name.as_deref(), row.queue.as_deref(), row.owner.clone()),
        ("A customer’s question", Some("Pia Lindqvist"), Some("saltwick"), None)
    );
    // The queue is always open: four hours later.
    assert_eq!(row.due_at, now() + SignedDuration::from_hours(4));
    let detail = store.request(&home.reps[0], row.id).await.unwrap();
    assert_eq!(detail.email.as_deref(), Some("pia@harrowpeel.example"));
    assert_eq!(detail.transcript.last().unwrap().text, "Thank you, we will write to you.");
    // Two see it at once; the second is told.
    let taken = store.change_request(&home.reps[0], row.id, 1, &RequestAct::Give(home.reps[0].id)).await.unwrap();
    assert!(taken.row.mine && taken.revision == 2);
    let late = store.change_request(&home.reps[1], row.id, 1, &RequestAct::Give(home.reps[1].id)).await;
    assert!(matches!(late, Err(StoreError::Conflict(_))), "{late:?}");
    // It cannot be given to somebody who answers none.
    let author = store.change_request(&home.reps[0], row.id, 2, &RequestAct::Give(home.author.id)).await;
    assert!(matches!(author, Err(StoreError::Conflict(_))));
    let done = RequestAct::Done(Some("sent the new price list".into()));
    let done = store.change_request(&home.reps[0], row.id, 2, &done).await.unwrap();
    assert_eq!((done.done_by.as_deref(), done.note.as_deref()), (Some("ina"), Some("sent the new price list")));
    assert!(store.requests(&home.reps[0], false).await.unwrap().is_empty());
    assert_eq!(store.requests(&home.reps[1], true).await.unwrap().len(), 1);
    let open = store.change_request(&home.reps[1], row.id, 3, &RequestAct::Reopen).await.unwrap();
    assert!(open.row.done_at.is_none() && open.done_by.is_none());
}

#[tokio::test]
async fn nobody_is_asked_to_answer_whom_nobody_can_reach() {
    let fixture = Fixture::new().await;
    talk(&fixture, b"one", false, &["Pia Lindqvist", "Harrow & Peel Foods"]).await;
    assert_eq!(fixture.count("requests").await, 0);
}

#[tokio::test]
async fn a_request_is_seen_in_its_workspace_and_queue_only_and_goes_with_its_person() {
    let fixture = Fixture::new().await;
    let (store, home, other) = (&fixture.store, &fixture.home, &fixture.other);
    fixture.lead_of(b"lead", "Pia Lindqvist", "Harrow & Peel Foods", "pia@harrowpeel.example").await;
    talk(&fixture, b"one", true, &["Pia Lindqvist", "Pia@HarrowPeel.example", "Harrow & Peel Foods"]).await;
    let row = store.requests(&home.author, false).await.unwrap().remove(0);
    let detail = store.request(&home.author, row.id).await.unwrap();
    let contact = detail.contact.unwrap();
    assert_eq!(store.contact(&home.author, contact).await.unwrap().name.as_deref(), Some("Pia Lindqvist"));
    for stranger in [&other.author, &other.reps[0]] {
        assert!(store.requests(stranger, false).await.unwrap().is_empty());
        assert!(matches!(store.request(stranger, row.id).await, Err(StoreError::NotFound(_))));
        assert!(store.change_request(stranger, row.id, 1, &RequestAct::Reopen).await.is_err());
    }
    store.erase_contact(&home.author, contact).await.unwrap();
    let gone = store.request(&home.author, row.id).await.unwrap();
    assert!(gone.row.name.is_none() && gone.email.is_none() && gone.transcript.is_empty() && gone.fields.is_empty());
    assert!(gone.row.done_at.is_some(), "nobody is left to answer");
}

#[tokio::test]
async fn an_open_question_is_not_erased_before_it_is_answered() {
    let fixture = Fixture::new().await;
    let (store, home) = (&fixture.store, &fixture.home);
    talk(&fixture, b"one", true, &["Pia Lindqvist", "pia@harrowpeel.example", "Harrow & Peel Foods"]).await;
    let at = |days: i64| -> Timestamp { now() + SignedDuration::from_hours(24 * days) };
    let move_to = |at: Timestamp| fixture.clock.advance(at.duration_since(fixture.clock.now()));
    move_to(at(40));
    store.erase_old(home.workspace).await.unwrap();
    let row = store.requests(&home.author, false).await.unwrap().remove(0);
    assert_eq!(row.name.as_deref(), Some("Pia Lindqvist"));
    store.change_request(&home.reps[0], row.id, 1, &RequestAct::Done(None)).await.unwrap();
    store.erase_old(home.workspace).await.unwrap();
    assert_eq!(store.requests(&home.author, true).await.unwrap()[0].name, None);
}
