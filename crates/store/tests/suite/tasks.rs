//! Tasks: what people owe on leads.

#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use crate::common::Fixture;
use jiff::SignedDuration;
use lumbo_store::{NewTask, StoreError};
use uuid::Uuid;

#[tokio::test]
async fn a_task_is_owed_by_somebody_until_it_is_done_and_stands_on_the_timeline() {
    let fixture = Fixture::new().await;
    let (store, [ina, udo]) = (&fixture.store, &fixture.home.reps);
    fixture.lead(b"one").await;
    let mine = fixture.leads(ina).await;
    let (owner, other) = if mine.iter().any(|lead| lead.mine) { (ina, udo) } else { (udo, ina) };
    let lead = fixture.leads(owner).await[0].id;
    let later = fixture.clock.now() + SignedDuration::from_hours(2);
    let task = |person: Uuid, says: &'static str, hours: i64| NewTask {
        lead,
        person,
        says,
        due_at: later + SignedDuration::from_hours(hours),
    };
    store.add_task(owner, task(owner.id, "Send the price list", 3)).await.unwrap();
    let detail = store.add_task(owner, task(owner.id, "Ask about the start", 0)).await.unwrap();
    let says: Vec<&str> = detail.tasks.iter().map(|task| task.says.as_str()).collect();
    assert_eq!(says, ["Ask about the start", "Send the price list"], "what is due first");
    assert!(detail.log.iter().any(|row| row.what == "Task: Send the price list"), "{:?}", detail.log);
    let open = store.tasks(owner).await.unwrap();
    assert_eq!((open.len(), store.tasks(other).await.unwrap().len()), (2, 0));
    // Another's task is not theirs to tick off.
    let refused = store.settle_task(other, open[0].id, true).await.unwrap_err();
    assert!(matches!(refused, StoreError::NotFound(_)), "{refused:?}");
    store.settle_task(owner, open[0].id, true).await.unwrap();
    store.settle_task(owner, open[0].id, true).await.unwrap();
    let detail = store.lead(owner, lead).await.unwrap();
    assert_eq!(detail.log.iter().filter(|row| row.what == "Done: Ask about the start").count(), 1, "said once");
    assert_eq!(store.tasks(owner).await.unwrap().len(), 1);
    assert!(detail.tasks[1].done_at.is_some(), "done ones stand last");
    store.settle_task(owner, open[0].id, false).await.unwrap();
    assert_eq!(store.tasks(owner).await.unwrap().len(), 2);
    // Nobody owes anything who does not work leads.
    let author = store.add_task(owner, task(fixture.home.author.id, "Write it", 1)).await.unwrap_err();
    assert!(matches!(author, StoreError::Conflict(_)), "{author:?}");
    let nobody = store.add_task(owner, task(Uuid::from_u128(9), "Write it", 1)).await.unwrap_err();
    assert!(matches!(nobody, StoreError::Conflict(_)), "{nobody:?}");
    // A lead has 50 open tasks at most.
    for _ in 2..50 {
        store.add_task(owner, task(owner.id, "Again", 5)).await.unwrap();
    }
    let full = store.add_task(owner, task(owner.id, "Once more", 5)).await.unwrap_err();
    assert_eq!(full.to_string(), "this lead has 50 open tasks already; tick off those that are done");
}
