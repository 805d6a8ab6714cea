//! The smaller things that are kept: comments, pictures, presence, sessions, secrets, domains.

#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use crate::common::{Fixture, now};
use jiff::SignedDuration;
use lumbo_dialogue::talk::{Context, Prefill, PrefillTo};
use lumbo_reading::domains::DomainLists;
use lumbo_store::{Medium, NewConversation, SignedOnce, SignedVisitor, StoreError};
use serde_json::json;

#[tokio::test]
async fn a_comment_is_made_resolved_and_opened_again_in_its_workspace() {
    let fixture = Fixture::new().await;
    let (home, other) = (&fixture.home, &fixture.other);
    let id =
        fixture.store.add_comment(home.workspace, home.dialogue, home.author.id, "t_need", "too long?").await.unwrap();
    assert!(matches!(
        fixture.store.add_comment(other.workspace, home.dialogue, other.author.id, "t", "hello").await,
        Err(StoreError::NotFound(_))
    ));
    assert!(matches!(
        fixture.store.resolve_comment(other.workspace, home.dialogue, id, other.author.id, true).await,
        Err(StoreError::NotFound(_))
    ));
    fixture.store.resolve_comment(home.workspace, home.dialogue, id, home.reps[0].id, true).await.unwrap();
    let listed = fixture.store.comments(home.workspace, home.dialogue).await.unwrap();
    assert_eq!(
        (listed[0].says.as_str(), listed[0].person.as_str(), listed[0].resolved_by.as_deref()),
        ("too long?", "author", Some("ina"))
    );
    fixture.store.resolve_comment(home.workspace, home.dialogue, id, home.author.id, false).await.unwrap();
    assert_eq!(fixture.store.comments(home.workspace, home.dialogue).await.unwrap()[0].resolved_by, None);
    assert!(fixture.store.comments(other.workspace, home.dialogue).await.unwrap().is_empty());
}

#[tokio::test]
async fn a_character_that_cannot_be_kept_is_said_in_words() {
    let fixture = Fixture::new().await;
    let home = &fixture.home;
    let refused = fixture.store.add_comment(home.workspace, home.dialogue, home.author.id, "t", "a\0b").await;
    assert!(matches!(refused, Err(StoreError::Unkeepable)), "{refused:?}");
}

#[tokio::test]
async fn who_else_is_at_a_draft_is_seen_by_the_others_only() {
    let fixture = Fixture::new().await;
    let home = &fixture.home;
    let alone = fixture.store.present(home.workspace, home.dialogue, home.author.id, Some("t_need")).await.unwrap();
    assert_eq!((alone.revision, alone.here.len(), alone.open_comments), (1, 0, 0));
    let two = fixture.store.present(home.workspace, home.dialogue, home.reps[0].id, None).await.unwrap();
    assert_eq!(
        two.here.iter().map(|one| (one.person.as_str(), one.at.as_deref())).collect::<Vec<_>>(),
        [("author", Some("t_need"))]
    );
    assert!(
        fixture.store.present(fixture.other.workspace, home.dialogue, fixture.other.author.id, None).await.is_err()
    );
}

#[tokio::test]
async fn a_picture_is_shown_to_prospects_only_where_a_release_shows_it() {
    let fixture = Fixture::new().await;
    let home = &fixture.home;
    let hash = "ab".repeat(32);
    let medium = Medium { media_type: "image/png".into(), content: vec![1, 2, 3] };
    fixture.store.put_medium(home.workspace, home.author.id, &hash, &medium).await.unwrap();
    // The same picture again is no second one.
    fixture
        .store
        .put_medium(home.workspace, home.author.id, &hash, &Medium { content: vec![9], ..medium.clone() })
        .await
        .unwrap();
    assert_eq!(fixture.store.medium(home.workspace, &hash).await.unwrap().content, [1, 2, 3]);
    assert!(matches!(fixture.store.medium(fixture.other.workspace, &hash).await, Err(StoreError::NotFound(_))));
    assert!(matches!(fixture.store.shown_medium(&home.slug, &hash).await, Err(StoreError::NotFound(_))));
}

#[tokio::test]
async fn a_session_ends_when_it_should() {
    let fixture = Fixture::new().await;
    let later = now() + SignedDuration::from_hours(1);
    fixture.store.save_session("s", &json!({"person": 1}), later).await.unwrap();
    fixture.store.save_session("s", &json!({"person": 2}), later).await.unwrap();
    assert_eq!(fixture.store.load_session("s").await.unwrap().unwrap().0, json!({"person": 2}));
    fixture.store.save_session("gone", &json!({}), now() - SignedDuration::from_secs(1)).await.unwrap();
    assert!(fixture.store.load_session("gone").await.unwrap().is_none());
    fixture.store.delete_session("s").await.unwrap();
    assert!(fixture.store.load_session("s").await.unwrap().is_none());
}

#[tokio::test]
async fn domains_are_changed_on_the_revision_that_was_looked_at() {
    let fixture = Fixture::new().await;
    let home = &fixture.home;
    let before = fixture.store.domains(home.workspace).await.unwrap();
    let lists: DomainLists =
        serde_json::from_value(json!({"allow": ["gmail.com"], "deny": ["rival.example"]})).unwrap();
    let after = fixture.store.set_domains(home.workspace, home.author.id, before.revision, &lists).await.unwrap();
    assert_eq!((after.revision, &after.lists), (before.revision + 1, &lists));
    assert!(matches!(
        fixture.store.set_domains(home.workspace, home.author.id, before.revision, &DomainLists::default()).await,
        Err(StoreError::Conflict(_))
    ));
    assert_eq!(fixture.store.domains(fixture.other.workspace).await.unwrap().lists, DomainLists::default());
}

#[tokio::test]
async fn secrets_of_sites_are_few_and_of_one_workspace() {
    let fixture = Fixture::new().await;
    let (home, other) = (&fixture.home, &fixture.other);
    for id in ["k1", "k2", "k3", "k4", "k5"] {
        fixture.store.add_visitor_key(home.workspace, home.author.id, id, b"sealed").await.unwrap();
    }
    assert!(matches!(
        fixture.store.add_visitor_key(home.workspace, home.author.id, "k6", b"sealed").await,
        Err(StoreError::Conflict(_))
    ));
    assert_eq!(
        fixture.store.visitor_secret_at(&home.slug, "k1").await.unwrap(),
        Some((home.workspace, b"sealed".to_vec()))
    );
    assert_eq!(fixture.store.visitor_secret_at(&other.slug, "k1").await.unwrap(), None);
    assert_eq!(fixture.store.visitor_secret(other.workspace, "k1").await.unwrap(), None);
    assert!(matches!(
        fixture.store.remove_visitor_key(other.workspace, other.author.id, "k1").await,
        Err(StoreError::NotFound(_))
    ));
    fixture.store.remove_visitor_key(home.workspace, home.author.id, "k1").await.unwrap();
    assert_eq!(fixture.store.visitor_keys(home.workspace).await.unwrap().len(), 4);
}

#[tokio::test]
async fn what_a_site_signed_counts_once() {
    let fixture = Fixture::new().await;
    let home = &fixture.home;
    fixture.store.add_visitor_key(home.workspace, home.author.id, "site", b"sealed").await.unwrap();
    let known = || {
        let signed =
            SignedOnce { key: "site".into(), hash: vec![7; 32], expires: now() + SignedDuration::from_hours(1) };
        let prefill = Prefill {
            to: PrefillTo::Type(lumbo_dialogue::file::FieldType::Email),
            text: "maud@ekstromberries.example".into(),
        };
        Some(SignedVisitor { subject: None, known: vec![prefill], signed })
    };
    let mut knows = Vec::new();
    for token in [b"one".as_slice(), b"two"] {
        let new = NewConversation {
            slug: &home.slug,
            token_hash: token,
            input_id: "start",
            placement: None,
            seed: 1,
            context: Context::default(),
            known: known(),
            by_test_link: false,
            signed_in_to: None,
            doubt: None,
            now: now(),
        };
        fixture.store.start_conversation(new).await.unwrap();
        knows.push(fixture.state(token).await.to_string().contains("maud@ekstromberries.example"));
    }
    // The second brings what was signed for the first: a replay, and nothing is known.
    assert_eq!(knows, [true, false]);
    assert!(fixture.store.visitor_keys(home.workspace).await.unwrap()[0].used_at.is_some());
}

#[tokio::test]
async fn a_workspace_has_its_own_queues_and_people() {
    let fixture = Fixture::new().await;
    let (home, other) = (&fixture.home, &fixture.other);
    let keys: Vec<String> =
        fixture.store.queues(home.workspace).await.unwrap().into_iter().map(|(key, _)| key).collect();
    assert_eq!(keys, ["aldermoor", "saltwick", "senior"]);
    assert!(fixture.store.person(other.workspace, home.author.id).await.unwrap().is_none());
    assert_eq!(
        fixture.store.person(home.workspace, home.author.id).await.unwrap().unwrap().email,
        "author@home.example"
    );
    assert!(fixture.store.person_by_email("nobody@home.example").await.unwrap().is_none());
    assert_eq!(fixture.store.workspace("home").await.unwrap(), Some(home.workspace));
}
