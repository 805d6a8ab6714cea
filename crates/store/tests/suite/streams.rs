//! Streams: whoever has seen a number has seen all before it; who was away gets what came, or is told to read all
//! again.

#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use crate::common::Fixture;
use jiff::SignedDuration;
use lumbo_store::{CaughtUp, StreamEntry, Topic};

fn since(caught: CaughtUp) -> Vec<StreamEntry> {
    match caught {
        CaughtUp::Since(entries) => entries,
        CaughtUp::FromAnew(newest) => panic!("to be read again, up to {newest}"),
    }
}

#[tokio::test]
async fn numbers_are_seen_in_their_order_whatever_commits_first() {
    let fixture = Fixture::new().await;
    let (store, home) = (&fixture.store, &fixture.home);
    let topic = Topic::Draft(home.dialogue);
    let reader = async {
        let mut seen: Vec<i64> = Vec::new();
        while seen.len() < 40 {
            let entries =
                since(store.stream_since(home.workspace, topic, seen.last().copied().unwrap_or(0)).await.unwrap());
            seen.extend(entries.iter().map(|entry| entry.number));
            tokio::task::yield_now().await;
        }
        seen
    };
    let writers = (0..40).map(|n| {
        let store = store.clone();
        let (workspace, dialogue, person) = (home.workspace, home.dialogue, home.author.id);
        tokio::spawn(
            async move { store.add_comment(workspace, dialogue, person, "t_need", &format!("{n}")).await.unwrap() },
        )
    });
    let writers: Vec<_> = writers.collect();
    let seen = reader.await;
    assert_eq!(seen, (1..=40).collect::<Vec<i64>>(), "none is missed and none comes late");
    for writer in writers {
        writer.await.unwrap();
    }
}

#[tokio::test]
async fn what_happens_to_a_draft_and_to_leads_is_told_in_its_workspace() {
    let fixture = Fixture::new().await;
    let (store, home) = (&fixture.store, &fixture.home);
    let draft = Topic::Draft(home.dialogue);
    let kinds = async |topic| {
        since(store.stream_since(home.workspace, topic, 0).await.unwrap())
            .into_iter()
            .map(|entry| entry.kind)
            .collect::<Vec<_>>()
    };
    store.present(home.workspace, home.dialogue, home.author.id, Some("t_need")).await.unwrap();
    store.present(home.workspace, home.dialogue, home.author.id, Some("t_need")).await.unwrap();
    let title = lumbo_outline::Edit::SetTitle { title: "Another title".into() };
    store
        .change_draft(home.workspace, home.dialogue, home.author.id, 1, lumbo_store::Change::Edits(vec![title]))
        .await
        .unwrap();
    store.add_comment(home.workspace, home.dialogue, home.author.id, "t_need", "shorter?").await.unwrap();
    assert_eq!(kinds(draft).await, ["presence", "edit", "comment"], "who stays where they are is no news");
    fixture.lead(b"one").await;
    assert_eq!(kinds(Topic::Leads).await, ["lead"]);
    assert_eq!(store.stream_at(fixture.other.workspace, Topic::Leads).await.unwrap(), 0);
    assert_eq!(since(store.stream_since(fixture.other.workspace, draft, 0).await.unwrap()), []);
}

#[tokio::test]
async fn who_was_away_for_too_long_reads_everything_again() {
    let fixture = Fixture::new().await;
    let (store, home) = (&fixture.store, &fixture.home);
    let topic = Topic::Draft(home.dialogue);
    for says in ["one", "two"] {
        store.add_comment(home.workspace, home.dialogue, home.author.id, "t_need", says).await.unwrap();
    }
    fixture.clock.advance(SignedDuration::from_hours(2));
    store.tidy().await.unwrap();
    assert_eq!(store.stream_since(home.workspace, topic, 1).await.unwrap(), CaughtUp::FromAnew(2));
    assert_eq!(since(store.stream_since(home.workspace, topic, 2).await.unwrap()), []);
    store.add_comment(home.workspace, home.dialogue, home.author.id, "t_need", "three").await.unwrap();
    assert_eq!(
        store.stream_since(home.workspace, topic, 1).await.unwrap(),
        CaughtUp::FromAnew(3),
        "two is gone, so three alone is not all"
    );
    assert_eq!(since(store.stream_since(home.workspace, topic, 2).await.unwrap())[0].number, 3);
    // A number that was never given is trusted as little.
    assert_eq!(store.stream_since(home.workspace, topic, 99).await.unwrap(), CaughtUp::FromAnew(3));
}

#[test]
fn a_topic_is_read_by_its_name() {
    let topic = Topic::Draft(uuid::Uuid::from_u128(7));
    assert_eq!((Topic::parse(&topic.name()), Topic::parse("leads")), (Some(topic), Some(Topic::Leads)));
    for name in ["", "lead", "leads.", "draft", "draft.", "draft.x", "leads.7"] {
        assert_eq!(Topic::parse(name), None, "{name}");
    }
}
