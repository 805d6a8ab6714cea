//! What the workspace's own people try files nothing and counts nowhere; what may be a machine's waits for somebody.

#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use crate::common::Fixture;
use lumbo_dialogue::talk::{Context, ProspectInput, ProspectMessage};
use lumbo_store::{AnswersPlace, AnswersQuery, NewConversation, StoreError, Suspicion};
use uuid::Uuid;

/// A conversation to its lead, begun as said; gives whether it was begun as a test.
async fn tried(fixture: &Fixture, token: &[u8], by_link: bool, signed_in_to: Option<Uuid>, email: &str) -> bool {
    let new = NewConversation {
        slug: &fixture.home.slug,
        token_hash: token,
        input_id: "start",
        placement: None,
        seed: 1,
        context: Context::default(),
        known: None,
        by_test_link: by_link,
        signed_in_to,
        doubt: None,
        now: fixture.clock.now(),
    };
    let started = fixture.store.start_conversation(new).await.unwrap();
    let mut sequence = started.view.sequence;
    let who = ["Ana Ruiz", "Quayside Foods", email, "020 7946 0588"];
    let need = ["Blast freezing", "frozen", "yes", "250", "owner"];
    for (index, text) in need.into_iter().chain(who).enumerate() {
        let body = ProspectInput::Reply { text: text.to_owned() };
        let input = ProspectMessage { id: format!("i{index}"), expects: sequence, body };
        sequence = fixture.store.take_input(token, input, fixture.clock.now()).await.unwrap().view.sequence;
    }
    started.test
}

#[tokio::test]
async fn a_link_for_trying_and_somebody_who_is_signed_in_file_nothing() {
    let fixture = Fixture::new().await;
    let home = &fixture.home;
    assert!(tried(&fixture, b"link", true, None, "ana@quayside.example").await);
    assert!(tried(&fixture, b"signed", false, Some(home.workspace), "ana@quayside.example").await);
    assert_eq!((fixture.count("leads").await, fixture.count("contacts").await), (0, 0));
    // Signed in elsewhere is a prospect like any other.
    assert!(!tried(&fixture, b"other", false, Some(Uuid::from_u128(7)), "ana@quayside.example").await);
    assert_eq!(fixture.count("leads").await, 1);
    let count = async |tests: bool| {
        let query = AnswersQuery { tests, ..AnswersQuery::default() };
        let rows =
            fixture.store.answers(home.workspace, home.dialogue, &query, AnswersPlace::first(), 10).await.unwrap();
        let counted = fixture.store.count_answers(home.workspace, home.dialogue, &query).await.unwrap();
        assert_eq!(counted.all, i64::try_from(rows.len()).unwrap());
        assert!(rows.iter().all(|row| row.test == tests));
        counted.all
    };
    assert_eq!((count(false).await, count(true).await), (1, 2));
    let released = fixture.store.releases(home.workspace, home.dialogue).await.unwrap();
    assert_eq!(released[0].conversations, 1);
}

#[tokio::test]
async fn an_address_at_ones_own_mail_domain_is_a_test_from_its_filing_on() {
    let fixture = Fixture::new().await;
    let (store, home) = (&fixture.store, &fixture.home);
    let mut settings = store.workspace_settings(home.workspace).await.unwrap();
    settings.own_mail_domains = vec!["quayside.example".into()];
    store.change_workspace(&home.author, &settings).await.unwrap();
    for (token, email) in [(b"one".as_slice(), "ana@quayside.example"), (b"two", "ana@mail.QUAYSIDE.example")] {
        tried(&fixture, token, false, None, email).await;
        assert!(store.resume(token).await.unwrap().test, "{email}");
    }
    assert_eq!(fixture.count("leads").await, 0);
    tried(&fixture, b"three", false, None, "ana@notquayside.example").await;
    assert_eq!(fixture.count("leads").await, 1);
}

#[tokio::test]
async fn what_comes_faster_than_a_person_types_waits_and_is_filed_by_hand() {
    let fixture = Fixture::new().await;
    let (store, home) = (&fixture.store, &fixture.home);
    let mut settings = store.workspace_settings(home.workspace).await.unwrap();
    settings.least_seconds = 5;
    store.change_workspace(&home.author, &settings).await.unwrap();
    for token in [b"one".as_slice(), b"two"] {
        tried(&fixture, token, false, None, "ana@quayside.example").await;
    }
    assert_eq!((fixture.count("leads").await, fixture.count("contacts").await), (0, 0));
    let rows = store.held_back(home.workspace).await.unwrap();
    let told: Vec<_> = rows.iter().map(|row| (row.doubt, row.who.email.as_deref())).collect();
    assert_eq!(told, [(Suspicion::Quick, Some("ana@quayside.example")); 2]);
    store.settle_held_back(&home.author, rows[0].id, true).await.unwrap();
    assert_eq!(fixture.count("leads").await, 1);
    let leads = fixture.leads(&home.reps[0]).await.into_iter().chain(fixture.leads(&home.reps[1]).await);
    assert!(
        leads.into_iter().any(|lead| lead.name.as_deref() == Some("Ana Ruiz") && lead.owner.is_some()),
        "it has its turn now"
    );
    store.settle_held_back(&home.author, rows[1].id, false).await.unwrap();
    assert_eq!((store.held_back(home.workspace).await.unwrap().len(), fixture.count("leads").await), (0, 1));
    // What was left may be filed after all, once; what is filed is settled.
    store.settle_held_back(&home.author, rows[1].id, true).await.unwrap();
    assert_eq!((store.held_back(home.workspace).await.unwrap().len(), fixture.count("lead_snapshots").await), (0, 2));
    let again = store.settle_held_back(&home.author, rows[0].id, true).await.unwrap_err();
    assert!(matches!(again, StoreError::NotFound(_)), "{again:?}");
}
