//! Whose turn it is: turns that junk gives back, leads of the same company, and leads whose owner is chosen later.

#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use jiff::SignedDuration;
use lumbo_records::LeadStatus;
use lumbo_store::{Change, Ended, JobKind, OutcomeChange, OwnerChange, Person};
use uuid::Uuid;

use crate::common::Fixture;
use crate::routing::{aldermoor, change, found, lead, put, says};

async fn becomes(fixture: &Fixture, by: &Person, id: Uuid, status: LeadStatus) {
    let revision = fixture.store.lead(by, id).await.unwrap().revision;
    let reason = status.needs_reason().then(|| "no person".to_owned());
    let change = OutcomeChange { revision, status, reason, amount: None, currency: None, later_on: None };
    fixture.store.change_outcome(by, id, &change).await.unwrap();
}

/// Where members stand in the rotation.
async fn places(fixture: &Fixture) -> Vec<i64> {
    let mut db = <sqlx::PgConnection as sqlx::Connection>::connect(&fixture.url).await.unwrap();
    sqlx::query_scalar("select rotation from queue_members where queue_id = $1 order by position, person_id")
        .bind(aldermoor(fixture).await.id)
        .fetch_all(&mut db)
        .await
        .unwrap()
}

#[tokio::test]
async fn junk_gives_its_turn_back_and_takes_it_again_where_it_is_none_after_all() {
    let fixture = Fixture::new().await;
    let [ina, udo] = &fixture.home.reps;
    lead(&fixture, b"1", "Ada").await;
    let (ada, taken) = (found(&fixture, "Ada").await, places(&fixture).await);
    assert_eq!((ada.owner.as_deref(), taken.as_slice()), (Some("ina"), [-1, 1].as_slice()));
    becomes(&fixture, ina, ada.id, LeadStatus::Junk).await;
    assert_eq!(places(&fixture).await, [0, 0], "as if it had never come");
    // Saying so once more gives nothing more.
    becomes(&fixture, ina, ada.id, LeadStatus::Junk).await;
    assert_eq!(places(&fixture).await, [0, 0]);
    fixture.store.take_back(ina, ada.id).await.unwrap();
    fixture.store.lead(ina, ada.id).await.unwrap();
    becomes(&fixture, ina, ada.id, LeadStatus::New).await;
    assert_eq!(places(&fixture).await, taken, "it is a lead after all");
    // The next is udo's, and junk: ina, who had hers, still does not come before him.
    lead(&fixture, b"2", "Bram").await;
    let bram = found(&fixture, "Bram").await;
    assert_eq!(bram.owner.as_deref(), Some("udo"));
    becomes(&fixture, udo, bram.id, LeadStatus::Junk).await;
    lead(&fixture, b"3", "Ciara").await;
    assert_eq!(found(&fixture, "Ciara").await.owner.as_deref(), Some("udo"));
}

#[tokio::test]
async fn what_turns_out_to_be_junk_after_two_working_days_keeps_its_turn() {
    let fixture = Fixture::new().await;
    let ina = &fixture.home.reps[0];
    lead(&fixture, b"1", "Ada").await;
    let ada = found(&fixture, "Ada").await;
    // Monday to Thursday: the queue has no hours, so every day is a working day.
    fixture.clock.advance(SignedDuration::from_hours(3 * 24));
    becomes(&fixture, ina, ada.id, LeadStatus::Junk).await;
    assert_eq!(places(&fixture).await, [-1, 1]);
    // What was lost took a turn as any other.
    lead(&fixture, b"2", "Bram").await;
    becomes(&fixture, &fixture.home.reps[1], found(&fixture, "Bram").await.id, LeadStatus::Lost).await;
    assert_eq!(places(&fixture).await, [0, 0]);
}

#[tokio::test]
async fn whoever_has_a_lead_of_the_company_gets_the_next_without_a_turn() {
    let fixture = Fixture::new().await;
    let mut same = change(&fixture).await;
    same.picks = "same_company".into();
    put(&fixture, &same).await;
    let of = async |token: &'static [u8], name: &str, email: &str| {
        let full = format!("{name} Quarmby");
        let said = ["storage", "frozen", "no", "60", "later", "manager", &full, "Pellworth", email, ">skip"];
        fixture.talk(token, &said).await;
        found(&fixture, name).await
    };
    let first = of(b"1", "Ada", "ada@pellworth.example").await;
    assert_eq!(first.owner.as_deref(), Some("ina"));
    let before = places(&fixture).await;
    let second = of(b"2", "Bram", "bram@pellworth.example").await;
    assert_eq!(second.owner.as_deref(), Some("ina"));
    assert!(says(&fixture, "Bram").await.contains(&"aldermoor: ina has a lead of the same company".to_owned()));
    assert_eq!(places(&fixture).await, before, "no turn was spent");
    let other = of(b"3", "Ciara", "ciara@elmsgate.example").await;
    assert_eq!(other.owner.as_deref(), Some("udo"), "another company goes by rotation");
    // Once theirs are closed for longer than 90 days, it is anybody's.
    for id in [first.id, second.id] {
        becomes(&fixture, &fixture.home.reps[0], id, LeadStatus::Lost).await;
    }
    fixture.clock.advance(SignedDuration::from_hours(91 * 24));
    of(b"4", "Dov", "dov@pellworth.example").await;
    assert!(says(&fixture, "Dov").await.iter().any(|says| says.contains("in the rotation")));
}

/// Lets the dialogue file early, before it asks for a phone number, and releases it.
async fn file_early(fixture: &Fixture) {
    let home = &fixture.home;
    let draft = fixture.store.draft(home.workspace, home.dialogue).await.unwrap();
    let who = draft.body.sections.iter().find(|section| section.id == "who").unwrap();
    let index = who.turns.iter().position(|turn| turn.id() == "t_phone").unwrap();
    let edit = serde_json::json!({"op": "insert_turn", "at": {"parent": {"section": "who"}, "index": index},
        "turn": {"kind": "file_lead", "id": "t_early", "early": true}});
    let edits = Change::Edits(vec![serde_json::from_value(edit).unwrap()]);
    let changed =
        fixture.store.change_draft(home.workspace, home.dialogue, home.author.id, draft.revision, edits).await.unwrap();
    fixture
        .store
        .release(home.workspace, home.dialogue, Some(home.author.id), changed.revision, "early")
        .await
        .unwrap();
}

/// What is due now of choosing owners.
async fn choose(fixture: &Fixture) -> Vec<Ended> {
    let jobs = fixture.store.take_jobs(&[JobKind::Owner], 10).await.unwrap();
    let mut out = Vec::new();
    for job in jobs {
        let ended = fixture.store.choose_owner(job.workspace, job.subject).await.unwrap();
        fixture.store.end_job(&job, ended.clone(), 0.5).await.unwrap();
        out.push(ended);
    }
    out
}

const UP_TO_THE_PHONE: [&str; 9] =
    ["storage", "frozen", "no", "60", "later", "manager", "Ada Quarmby", "Ada Foods", "ada@ada.example"];

#[tokio::test]
async fn what_is_filed_early_is_on_file_at_once_and_gets_its_owner_after_a_silence() {
    let fixture = Fixture::new().await;
    file_early(&fixture).await;
    fixture.talk(b"1", &UP_TO_THE_PHONE).await;
    let ada = found(&fixture, "Ada").await;
    assert_eq!((ada.owner, ada.queue.as_deref()), (None, Some("aldermoor")));
    assert_eq!(places(&fixture).await, [0, 0], "nobody has had a turn");
    assert!(says(&fixture, "Ada").await.last().unwrap().contains("filed early"));
    fixture.clock.advance(SignedDuration::from_mins(4));
    assert_eq!(choose(&fixture).await, [], "they may still be typing");
    fixture.clock.advance(SignedDuration::from_mins(1));
    assert_eq!(choose(&fixture).await, [Ended::Done]);
    assert_eq!(found(&fixture, "Ada").await.owner.as_deref(), Some("ina"));
    assert!(says(&fixture, "Ada").await.contains(&"aldermoor: ina is first in the rotation".to_owned()));
    assert_eq!(places(&fixture).await, [-1, 1]);
    let detail = fixture.store.lead(&fixture.home.author, ada.id).await.unwrap();
    assert!(detail.log.iter().any(|row| row.what == "Its owner was chosen"), "{:?}", detail.log);
    // Once more chooses nobody anew.
    assert_eq!(
        fixture.store.choose_owner(fixture.home.workspace, ada_conversation(&fixture).await).await.unwrap(),
        Ended::Done
    );
    assert_eq!(places(&fixture).await, [-1, 1]);
}

async fn ada_conversation(fixture: &Fixture) -> Uuid {
    let mut db = <sqlx::PgConnection as sqlx::Connection>::connect(&fixture.url).await.unwrap();
    sqlx::query_scalar("select conversation_id from lead_snapshots").fetch_one(&mut db).await.unwrap()
}

#[tokio::test]
async fn the_next_filing_or_the_end_chooses_the_owner_of_what_was_filed_early() {
    let fixture = Fixture::new().await;
    file_early(&fixture).await;
    let said: Vec<&str> = UP_TO_THE_PHONE.into_iter().chain([">skip"]).collect();
    fixture.talk(b"1", &said).await;
    assert_eq!(found(&fixture, "Ada").await.owner.as_deref(), Some("ina"), "the File lead at the end");
    assert_eq!(fixture.leads(&fixture.home.author).await.len(), 1);
    fixture.clock.advance(SignedDuration::from_mins(5));
    assert_eq!(choose(&fixture).await, [Ended::Done]);
    assert_eq!(places(&fixture).await, [-1, 1], "one turn, not two");
}

#[tokio::test]
async fn who_takes_it_meanwhile_keeps_it_and_nobody_has_a_turn() {
    let fixture = Fixture::new().await;
    file_early(&fixture).await;
    fixture.talk(b"1", &UP_TO_THE_PHONE).await;
    let udo = &fixture.home.reps[1];
    let ada = found(&fixture, "Ada").await;
    let revision = fixture.store.lead(udo, ada.id).await.unwrap().revision;
    fixture.store.change_owner(udo, ada.id, &OwnerChange { revision, to: udo.id, note: None }).await.unwrap();
    fixture.clock.advance(SignedDuration::from_mins(5));
    assert_eq!(choose(&fixture).await, [Ended::Done]);
    assert_eq!(found(&fixture, "Ada").await.owner.as_deref(), Some("udo"));
    assert_eq!(places(&fixture).await, [0, 0]);
}

#[tokio::test]
async fn who_leaves_has_told_all_and_the_owner_is_chosen_at_once() {
    let fixture = Fixture::new().await;
    file_early(&fixture).await;
    let last = fixture.talk(b"1", &UP_TO_THE_PHONE).await;
    let leave = lumbo_dialogue::talk::ProspectMessage {
        id: "leave".into(),
        expects: last.view.sequence,
        body: lumbo_dialogue::talk::ProspectInput::Leave {},
    };
    fixture.store.take_input(b"1", leave, fixture.clock.now()).await.unwrap();
    assert_eq!(choose(&fixture).await, [Ended::Done]);
    assert_eq!(found(&fixture, "Ada").await.owner.as_deref(), Some("ina"));
}
