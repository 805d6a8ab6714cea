//! Conversations as they are kept: taken once, never half, filed with the answer that caused it.

#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use crate::common::{Fixture, now};
use jiff::SignedDuration;
use lumbo_dialogue::talk::{Context, ProspectInput, ProspectMessage, Refusal};
use lumbo_records::LeadStatus;
use lumbo_store::{Ended, JobKind, LeadFilter, NewConversation, OutcomeChange, StoreError, TakeError};
use sqlx::{Connection, PgConnection};

fn reply(id: &str, expects: u32, text: &str) -> ProspectMessage {
    ProspectMessage { id: id.into(), expects, body: ProspectInput::Reply { text: text.into() } }
}

#[tokio::test]
async fn a_repeated_input_gives_the_first_result_and_changes_nothing() {
    let fixture = Fixture::new().await;
    let started = fixture.start(&fixture.home.slug, b"one").await;
    let input = reply("a", started.view.sequence, "storage");
    let first = fixture.store.take_input(b"one", input.clone(), now()).await.unwrap();
    let again = fixture.store.take_input(b"one", input.clone(), now()).await.unwrap();
    assert!(!first.repeated && again.repeated);
    assert_eq!(first.view.sequence, again.view.sequence);
    assert_eq!(fixture.store.resume(b"one").await.unwrap().view.sequence, first.view.sequence);
}

#[tokio::test]
async fn an_input_that_expects_another_number_is_refused_and_nothing_is_lost() {
    let fixture = Fixture::new().await;
    let started = fixture.start(&fixture.home.slug, b"one").await;
    let ahead = fixture.store.take_input(b"one", reply("a", started.view.sequence + 3, "storage"), now()).await;
    assert!(matches!(ahead, Err(TakeError::Refused(_))), "{ahead:?}");
    let taken = fixture.store.take_input(b"one", reply("a", started.view.sequence, "storage"), now()).await.unwrap();
    assert_eq!(taken.view.sequence, started.view.sequence + 1);
}

#[tokio::test]
async fn a_token_opens_its_own_conversation_and_no_other() {
    let fixture = Fixture::new().await;
    fixture.start(&fixture.home.slug, b"one").await;
    let forged = fixture.store.take_input(b"two", reply("a", 1, "storage"), now()).await;
    assert!(matches!(forged, Err(TakeError::Store(StoreError::NotFound(_)))), "{forged:?}");
    assert!(matches!(fixture.store.resume(b"two").await, Err(StoreError::NotFound(_))));
}

#[tokio::test]
async fn a_token_opens_its_conversation_for_a_week_after_the_last_thing_that_happened() {
    let fixture = Fixture::new().await;
    let started = fixture.start(&fixture.home.slug, b"one").await;
    let days = |days: i64| SignedDuration::from_hours(24 * days);
    fixture.clock.advance(days(6));
    let later = fixture.clock.now();
    let taken = fixture.store.take_input(b"one", reply("a", started.view.sequence, "storage"), later).await.unwrap();
    fixture.clock.advance(days(7) - SignedDuration::from_mins(1));
    assert!(fixture.store.resume(b"one").await.is_ok(), "the week begins anew with each answer");
    fixture.clock.advance(SignedDuration::from_mins(2));
    assert!(matches!(fixture.store.resume(b"one").await, Err(StoreError::NotFound(_))));
    let late = fixture.store.take_input(b"one", reply("b", taken.view.sequence, "frozen"), fixture.clock.now()).await;
    assert!(matches!(late, Err(TakeError::Store(StoreError::NotFound(_)))), "{late:?}");
    let longer = fixture.another().await.with_tokens_for(days(30));
    assert!(longer.resume(b"one").await.is_ok(), "another while, where one wants it");
}

#[tokio::test]
async fn a_start_whose_answer_was_lost_is_asked_for_again_and_begins_no_second_conversation() {
    let fixture = Fixture::new().await;
    let id = "x7k2m9q4w1z8b5";
    let begin = async |id: &str, token: &[u8]| {
        let (slug, now) = (fixture.home.slug.as_str(), fixture.clock.now());
        let new = NewConversation {
            slug,
            token_hash: token,
            input_id: id,
            placement: None,
            seed: 1,
            context: Context::default(),
            known: None,
            by_test_link: false,
            signed_in_to: None,
            doubt: None,
            now,
        };
        fixture.store.start_conversation(new).await
    };
    let id = format!("{id}{id}");
    let first = begin(&id, b"one").await.unwrap();
    let again = begin(&id, b"two").await.unwrap();
    assert_eq!(fixture.count("conversations").await, 1);
    assert_eq!(first.view.lines.len(), again.view.lines.len());
    // The page holds the second token; the first one was never heard of.
    assert!(matches!(fixture.store.resume(b"one").await, Err(StoreError::NotFound(_))));
    fixture.clock.advance(SignedDuration::from_secs(5));
    let said = reply("a", again.view.sequence, "storage");
    fixture.store.take_input(b"two", said, fixture.clock.now()).await.unwrap();
    // Once something was said, nobody takes it over by its id.
    assert!(matches!(begin(&id, b"thr").await, Err(TakeError::Store(StoreError::Conflict(_)))));
    assert!(fixture.store.resume(b"two").await.is_ok());
    // Short ids, and the same one of another dialogue, are their own.
    begin("start", b"fou").await.unwrap();
    begin("start", b"fiv").await.unwrap();
    assert_eq!(fixture.count("conversations").await, 3);
}

#[tokio::test]
async fn inputs_that_arrive_at_once_are_taken_one_after_another() {
    let fixture = Fixture::new().await;
    let started = fixture.start(&fixture.home.slug, b"one").await;
    let expects = started.view.sequence;
    let (one, other) = (reply("a", expects, "storage"), reply("b", expects, "storage"));
    let (one, other) =
        tokio::join!(fixture.store.take_input(b"one", one, now()), fixture.store.take_input(b"one", other, now()));
    // Both expected the same number: one is taken, the other meets the conversation as it has become and is refused.
    assert_eq!(usize::from(one.is_ok()) + usize::from(other.is_ok()), 1, "{one:?} {other:?}");
    assert_eq!(fixture.store.resume(b"one").await.unwrap().view.sequence, expects + 1);
}

#[tokio::test]
async fn a_lead_is_filed_once_with_what_was_said_and_seen_in_its_workspace_only() {
    let fixture = Fixture::new().await;
    assert!(fixture.lead(b"one").await.view.ended);
    let leads = fixture.leads(&fixture.home.author).await;
    assert_eq!(leads.len(), 1);
    let detail = fixture.store.lead(&fixture.home.author, leads[0].id).await.unwrap();
    assert_eq!(
        (detail.row.name.as_deref(), detail.row.company.as_deref()),
        (Some("Maud Ekström"), Some("Ekström Berries"))
    );
    assert_eq!(
        (detail.email.as_deref(), detail.phone.as_deref()),
        (Some("maud@ekstromberries.example"), Some("+442079460588"))
    );
    assert!(detail.transcript.iter().any(|line| line.text == "250"), "{:?}", detail.transcript);
    assert!(!detail.decision.steps.is_empty());
    assert!(fixture.leads(&fixture.other.author).await.is_empty());
    assert!(matches!(fixture.store.lead(&fixture.other.author, leads[0].id).await, Err(StoreError::NotFound(_))));
}

#[tokio::test]
async fn a_queue_gives_its_leads_in_turn() {
    let fixture = Fixture::new().await;
    for (token, firm) in [(b"one".as_slice(), "heron"), (b"two", "marsh"), (b"three", "orchard"), (b"four", "pryce")] {
        fixture.lead_of(token, "Maud Ekström", firm, &format!("maud@{firm}.example")).await;
    }
    let mut owners: Vec<String> =
        fixture.leads(&fixture.home.author).await.into_iter().filter_map(|lead| lead.owner).collect();
    owners.sort();
    assert_eq!(owners, ["ina", "ina", "udo", "udo"]);
    // A rep sees their own and their queues', an own one is marked.
    let mine = fixture.leads_by(&fixture.home.reps[0], LeadFilter::Mine, "").await;
    assert_eq!((mine.len(), mine.iter().all(|lead| lead.mine)), (2, true));
}

#[tokio::test]
async fn what_became_of_a_lead_is_said_once_and_logged() {
    let fixture = Fixture::new().await;
    fixture.lead(b"one").await;
    let rep = fixture.home.reps.iter().find(|rep| rep.name == "ina").unwrap();
    let lead = fixture.leads(rep).await.remove(0);
    let detail = fixture.store.lead(rep, lead.id).await.unwrap();
    let change = OutcomeChange {
        revision: detail.revision,
        status: LeadStatus::Lost,
        reason: Some("too small".into()),
        amount: None,
        currency: None,
        later_on: None,
    };
    let changed = fixture.store.change_outcome(rep, lead.id, &change).await.unwrap();
    assert_eq!((changed.row.status, changed.reason.as_deref()), (LeadStatus::Lost, Some("too small")));
    assert!(
        changed.log.iter().any(|row| row.what.contains("too small") && row.person.as_deref() == Some("ina")),
        "{:?}",
        changed.log
    );
    // The revision that was looked at is gone.
    assert!(matches!(fixture.store.change_outcome(rep, lead.id, &change).await, Err(StoreError::Conflict(_))));
}

#[tokio::test]
async fn a_conversation_stays_on_the_release_it_began_with() {
    let fixture = Fixture::new().await;
    let home = &fixture.home;
    let started = fixture.start(&home.slug, b"one").await;
    let draft = fixture.store.draft(home.workspace, home.dialogue).await.unwrap();
    let title = lumbo_outline::Edit::SetTitle { title: "Another title".into() };
    let changed = fixture
        .store
        .change_draft(
            home.workspace,
            home.dialogue,
            home.author.id,
            draft.revision,
            lumbo_store::Change::Edits(vec![title]),
        )
        .await
        .unwrap();
    fixture
        .store
        .release(home.workspace, home.dialogue, Some(home.author.id), changed.revision, "second")
        .await
        .unwrap();
    fixture.store.take_input(b"one", reply("a", started.view.sequence, "storage"), now()).await.unwrap();
    let rows = fixture.store.releases(home.workspace, home.dialogue).await.unwrap();
    let open: Vec<(i32, i64)> = rows.iter().map(|row| (row.number, row.open)).collect();
    assert_eq!(open, [(2, 0), (1, 1)]);
}

/// Takes what is due and does it, as a worker would; gives how each attempt ended.
async fn work(fixture: &Fixture) -> Vec<Ended> {
    let mut ends = Vec::new();
    for job in fixture.store.take_jobs(&JobKind::ALL, 10).await.unwrap() {
        let ended = fixture.store.end_silent(job.workspace, job.subject).await.unwrap();
        fixture.store.end_job(&job, ended.clone(), 0.5).await.unwrap();
        ends.push(ended);
    }
    ends
}

#[tokio::test]
async fn silence_ends_only_what_was_silent_for_long_enough() {
    let fixture = Fixture::new().await;
    let started = fixture.start(&fixture.home.slug, b"one").await;
    fixture.clock.advance(SignedDuration::from_mins(29));
    assert_eq!(work(&fixture).await, []);
    // An answer does not move the timer: what was said is looked at when it is due.
    fixture.store.take_input(b"one", reply("a", started.view.sequence, "storage"), fixture.clock.now()).await.unwrap();
    fixture.clock.advance(SignedDuration::from_mins(2));
    let Some(Ended::Later(again)) = work(&fixture).await.pop() else { panic!("it was heard two minutes ago") };
    assert_eq!(again, now() + SignedDuration::from_mins(59));
    assert_eq!(work(&fixture).await, []);
    fixture.clock.advance(SignedDuration::from_mins(28));
    assert_eq!(work(&fixture).await, [Ended::Done]);
    assert!(fixture.store.resume(b"one").await.unwrap().view.ended);
    fixture.clock.advance(SignedDuration::from_hours(24));
    assert_eq!(work(&fixture).await, [], "nothing is ended twice");
}

#[tokio::test]
async fn a_prospect_who_names_inputs_like_the_system_holds_nobody_up() {
    let fixture = Fixture::new().await;
    let started = fixture.start(&fixture.home.slug, b"one").await;
    let forged = fixture.store.take_input(b"one", reply("silence:2", started.view.sequence, "storage"), now()).await;
    assert!(matches!(forged, Err(TakeError::Refused(Refusal::Id))), "{forged:?}");
    // The name that the system used before is a name like any other.
    fixture.store.take_input(b"one", reply("silence-2", started.view.sequence, "storage"), now()).await.unwrap();
    fixture.clock.advance(SignedDuration::from_mins(31));
    assert_eq!(work(&fixture).await, [Ended::Done]);
    assert!(fixture.store.resume(b"one").await.unwrap().view.ended);
}

#[tokio::test]
async fn who_leaves_takes_the_token_along() {
    let fixture = Fixture::new().await;
    let started = fixture.start(&fixture.home.slug, b"one").await;
    let leave = ProspectMessage { id: "bye".into(), expects: started.view.sequence, body: ProspectInput::Leave {} };
    let left = fixture.store.take_input(b"one", leave.clone(), now()).await.unwrap();
    assert!(left.view.ended && left.view.question.is_none());
    for again in [
        fixture.store.take_input(b"one", leave, now()).await.map(drop),
        fixture.store.resume(b"one").await.map(drop).map_err(TakeError::from),
    ] {
        assert!(matches!(again, Err(TakeError::Store(StoreError::NotFound(_)))), "{again:?}");
    }
    fixture.clock.advance(SignedDuration::from_mins(31));
    assert_eq!(work(&fixture).await, [Ended::Done], "there is nothing left to end");
}

#[tokio::test]
async fn what_a_newer_version_wrote_is_left_alone() {
    let fixture = Fixture::new().await;
    let started = fixture.start(&fixture.home.slug, b"one").await;
    let mut db = PgConnection::connect(&fixture.url).await.unwrap();
    sqlx::query("update conversations set state = jsonb_set(state, '{v}', '99')").execute(&mut db).await.unwrap();
    let refused = fixture.store.take_input(b"one", reply("a", started.view.sequence, "storage"), now()).await;
    assert!(matches!(refused, Err(TakeError::Store(StoreError::Newer(_)))), "{refused:?}");
    fixture.clock.advance(SignedDuration::from_mins(31));
    let job = fixture.store.take_jobs(&JobKind::ALL, 10).await.unwrap().remove(0);
    assert!(matches!(fixture.store.end_silent(job.workspace, job.subject).await, Err(StoreError::Newer(_))));
    assert_eq!(fixture.store.take_jobs(&JobKind::ALL, 10).await.unwrap().len(), 0, "its lease runs");
    // A schema one migration ahead is no reason not to start.
    sqlx::query(
        "insert into _sqlx_migrations (version, description, success, checksum, execution_time) values (9999,
        'later', true, '', 0)",
    )
    .execute(&mut db)
    .await
    .unwrap();
    assert!(lumbo_store::Store::connect(&fixture.url, 1).await.is_ok());
}

#[tokio::test]
async fn a_long_reply_is_read_all_the_same() {
    let fixture = Fixture::new().await;
    let started = fixture.start(&fixture.home.slug, b"one").await;
    let long = format!("{} storage", "well ".repeat(400));
    let taken = fixture.store.take_input(b"one", reply("a", started.view.sequence, &long), now()).await.unwrap();
    assert_eq!(taken.view.sequence, started.view.sequence + 1);
}
