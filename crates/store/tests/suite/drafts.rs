//! Drafts and releases as they are kept.

#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use std::sync::Arc;

use crate::common::{Fixture, demo};
use lumbo_analysis::analyse;
use lumbo_outline::Edit;
use lumbo_store::{Change, DraftError, DraftState, ReleaseError, StoreError};
use uuid::Uuid;

fn titled(title: &str) -> Change {
    Change::Edits(vec![Edit::SetTitle { title: title.into() }])
}

#[tokio::test]
async fn a_change_on_an_older_revision_is_refused_with_what_was_changed_since() {
    let fixture = Fixture::new().await;
    let home = &fixture.home;
    let changed =
        fixture.store.change_draft(home.workspace, home.dialogue, home.author.id, 1, titled("First")).await.unwrap();
    assert_eq!(changed.revision, 2);
    let late = fixture.store.change_draft(home.workspace, home.dialogue, home.reps[0].id, 1, titled("Second")).await;
    let Err(DraftError::Stale { revision, since }) = late else { panic!("{late:?}") };
    assert_eq!((revision, since.len(), since[0].person.as_str()), (2, 1, "author"));
    assert_eq!(fixture.store.draft(home.workspace, home.dialogue).await.unwrap().body.title, "First");
}

#[tokio::test]
async fn the_inverse_of_a_change_undoes_it_to_the_byte() {
    let fixture = Fixture::new().await;
    let home = &fixture.home;
    let before = fixture.store.draft(home.workspace, home.dialogue).await.unwrap();
    let turn = before.body.sections[0].turns[0].id().to_owned();
    let edits = vec![Edit::SetTitle { title: "Another".into() }, Edit::RemoveTurn { id: turn }];
    let changed = fixture
        .store
        .change_draft(home.workspace, home.dialogue, home.author.id, 1, Change::Edits(edits))
        .await
        .unwrap();
    assert_ne!(changed.after, before.body);
    let undone = fixture
        .store
        .change_draft(home.workspace, home.dialogue, home.author.id, 2, Change::Edits(changed.inverse))
        .await
        .unwrap();
    assert_eq!(undone.after, before.body);
    assert_eq!(undone.revision, 3);
    // Every step is in the log, with who made it.
    let log = fixture.store.edits_since(home.workspace, home.dialogue, 1).await.unwrap();
    assert_eq!(
        log.iter().map(|row| (row.revision, row.person.as_str())).collect::<Vec<_>>(),
        [(2, "author"), (3, "author")]
    );
}

#[tokio::test]
async fn an_edit_that_cannot_be_made_changes_nothing() {
    let fixture = Fixture::new().await;
    let home = &fixture.home;
    let edits = vec![Edit::SetTitle { title: "Half".into() }, Edit::RemoveTurn { id: "no-such-turn".into() }];
    let refused =
        fixture.store.change_draft(home.workspace, home.dialogue, home.author.id, 1, Change::Edits(edits)).await;
    assert!(matches!(refused, Err(DraftError::Edit(_))), "{refused:?}");
    let draft = fixture.store.draft(home.workspace, home.dialogue).await.unwrap();
    assert_eq!((draft.revision, draft.body.title != "Half"), (1, true));
}

#[tokio::test]
async fn a_release_is_frozen_and_the_draft_goes_on() {
    let fixture = Fixture::new().await;
    let home = &fixture.home;
    let first = fixture.store.release_body(home.workspace, home.dialogue, 1).await.unwrap();
    fixture.store.change_draft(home.workspace, home.dialogue, home.author.id, 1, titled("Later")).await.unwrap();
    assert_eq!(fixture.store.release_body(home.workspace, home.dialogue, 1).await.unwrap(), first);
    assert_eq!(fixture.store.draft(home.workspace, home.dialogue).await.unwrap().changes, Some(1));
    assert_eq!(fixture.store.on_air(&home.slug).await.unwrap().0.title, first.title);
    let number = fixture
        .store
        .release(home.workspace, home.dialogue, Some(home.author.id), 2, "with another title")
        .await
        .unwrap();
    assert_eq!((number, fixture.store.on_air(&home.slug).await.unwrap().0.title.as_str()), (2, "Later"));
    // Back to the first, and off the air.
    fixture.store.put_on_air(home.workspace, home.author.id, home.dialogue, Some(1)).await.unwrap();
    assert_eq!(fixture.store.on_air(&home.slug).await.unwrap().0.title, first.title);
    fixture.store.put_on_air(home.workspace, home.author.id, home.dialogue, None).await.unwrap();
    assert!(matches!(fixture.store.on_air(&home.slug).await, Err(StoreError::NotFound(_))));
}

#[tokio::test]
async fn a_release_of_a_draft_that_went_on_or_that_has_errors_is_not_made() {
    let fixture = Fixture::new().await;
    let home = &fixture.home;
    fixture.store.change_draft(home.workspace, home.dialogue, home.author.id, 1, titled("Later")).await.unwrap();
    let stale = fixture.store.release(home.workspace, home.dialogue, None, 1, "too late").await;
    assert!(matches!(stale, Err(ReleaseError::Stale(2))), "{stale:?}");
    let mut broken = demo("broken");
    broken.routing.otherwise = Some("no-such-queue".into());
    let dialogue = fixture.store.create_dialogue(home.workspace, None, &broken).await.unwrap();
    let blocked = fixture.store.release(home.workspace, dialogue, None, 1, "first").await;
    let Err(ReleaseError::Blocked(findings)) = blocked else { panic!("{blocked:?}") };
    assert!(findings.iter().any(|finding| finding.says.contains("no-such-queue")), "{findings:?}");
    assert!(fixture.store.releases(home.workspace, dialogue).await.unwrap().is_empty());
}

#[tokio::test]
async fn nothing_of_a_dialogue_is_to_be_had_from_another_workspace() {
    let fixture = Fixture::new().await;
    let (home, other) = (&fixture.home, &fixture.other);
    let foreign = other.workspace;
    assert!(matches!(fixture.store.draft(foreign, home.dialogue).await, Err(StoreError::NotFound(_))));
    assert!(matches!(fixture.store.release_body(foreign, home.dialogue, 1).await, Err(StoreError::NotFound(_))));
    assert!(fixture.store.releases(foreign, home.dialogue).await.unwrap().is_empty());
    assert!(fixture.store.edits_since(foreign, home.dialogue, 0).await.unwrap().is_empty());
    let changed = fixture.store.change_draft(foreign, home.dialogue, other.author.id, 1, titled("Mine now")).await;
    assert!(matches!(changed, Err(DraftError::Store(StoreError::NotFound(_)))), "{changed:?}");
    assert!(fixture.store.release(foreign, home.dialogue, None, 1, "mine").await.is_err());
    assert!(fixture.store.put_on_air(foreign, home.author.id, home.dialogue, None).await.is_err());
    assert!(fixture.store.on_air(&home.slug).await.is_ok());
    assert!(!fixture.store.dialogues(foreign).await.unwrap().iter().any(|row| row.id == home.dialogue));
    assert!(matches!(fixture.store.draft(home.workspace, Uuid::nil()).await, Err(StoreError::NotFound(_))));
}

#[tokio::test]
async fn a_field_that_changes_follows_into_every_draft_and_no_release() {
    let fixture = Fixture::new().await;
    let home = &fixture.home;
    let before = fixture.store.catalogue(home.workspace).await.unwrap();
    let row = before.iter().find(|row| row.dialogues.iter().any(|used| used.places > 0)).unwrap();
    let renamed = lumbo_dialogue::file::Field { key: format!("{}_renamed", row.field.key), ..row.field.clone() };
    fixture
        .store
        .change_fields(home.workspace, home.author.id, &[(Some(row.field.clone()), renamed.clone())])
        .await
        .unwrap();
    let draft = fixture.store.draft(home.workspace, home.dialogue).await.unwrap();
    assert_eq!(draft.revision, 2, "the change is an edit of the draft");
    assert!(
        draft.body.fields.iter().any(|field| field.key == renamed.key)
            && !draft.body.fields.iter().any(|field| field.key == row.field.key)
    );
    let released = fixture.store.release_body(home.workspace, home.dialogue, 1).await.unwrap();
    assert!(released.fields.iter().any(|field| field.key == row.field.key));
    assert!(!fixture.store.fields(fixture.other.workspace).await.unwrap().iter().any(|field| field.key == renamed.key));
    // Made on what somebody else changed meanwhile, it is refused.
    let late = fixture
        .store
        .change_fields(home.workspace, home.author.id, &[(Some(row.field.clone()), row.field.clone())])
        .await;
    assert!(late.is_err(), "{late:?}");
}

#[tokio::test]
async fn a_server_that_has_read_a_draft_sees_what_another_server_made_of_it() {
    let fixture = Fixture::new().await;
    let home = &fixture.home;
    let other = fixture.another().await;
    for (base, (server, title)) in
        [(&fixture.store, "One"), (&other, "Two"), (&fixture.store, "Three")].iter().enumerate()
    {
        let base = i64::try_from(base).unwrap() + 1;
        let made =
            server.change_draft(home.workspace, home.dialogue, home.author.id, base, titled(title)).await.unwrap();
        assert_eq!((made.revision, made.changes), (base + 1, Some(base)));
        for reader in [&fixture.store, &other] {
            let draft = reader.draft(home.workspace, home.dialogue).await.unwrap();
            assert_eq!((draft.revision, draft.body.title.as_str()), (base + 1, *title));
            assert_eq!(draft.body, made.after);
        }
    }
}

#[tokio::test]
async fn what_was_computed_of_a_draft_is_kept_for_its_newest_state_only() {
    let fixture = Fixture::new().await;
    let (home, store) = (&fixture.home, &fixture.store);
    let state = |revision, release| DraftState { revision, release };
    let body = store.draft(home.workspace, home.dialogue).await.unwrap().body;
    let made = Arc::new(analyse(&body, None, jiff::Timestamp::UNIX_EPOCH, &|| false).unwrap());
    let kept = async |of| store.analysis(home.workspace, home.dialogue, of).await.unwrap();
    let keep = async |of| store.keep_analysis(home.workspace, home.dialogue, of, &made).await.unwrap();
    assert_eq!(kept(state(5, 1)).await, None);
    keep(state(5, 1)).await;
    assert_eq!(kept(state(5, 1)).await.as_ref(), Some(&*made));
    assert_eq!((kept(state(5, 2)).await, kept(state(4, 1)).await), (None, None), "it is of one state");
    keep(state(4, 1)).await;
    assert!(kept(state(5, 1)).await.is_some(), "one that comes late takes the place of none");
    keep(state(5, 2)).await;
    assert!(kept(state(5, 2)).await.is_some() && kept(state(5, 1)).await.is_none());
    assert_eq!(
        store.analysis(Uuid::nil(), home.dialogue, state(5, 2)).await.unwrap(),
        None,
        "nor of another workspace"
    );
}
