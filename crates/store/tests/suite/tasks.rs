//! Tasks: what people owe on leads.

#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use crate::common::Fixture;
use jiff::SignedDuration;
use lumbo_store::{AbsenceChange, Ended, JobKind, NewTask, NoticeKind, Person, StoreError};
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

/// What somebody was told of tasks, with whether it is news no more.
async fn reminded(fixture: &Fixture, person: &Person) -> Vec<(String, bool)> {
    let rows = fixture.store.notices(person).await.unwrap().0;
    let tasks = rows.into_iter().filter(|row| row.kind == NoticeKind::Task);
    tasks.map(|row| (row.task.unwrap().1, row.seen)).collect()
}

/// Does the reminders that are due.
async fn remind(fixture: &Fixture) -> usize {
    let jobs = fixture.store.take_jobs(&[JobKind::TaskDue], 10).await.unwrap();
    for job in &jobs {
        let ended = fixture.store.remind_of_task(job.workspace, job.subject).await.unwrap();
        assert_eq!(ended, Ended::Done);
        assert!(fixture.store.end_job(job, ended, 0.5).await.unwrap());
    }
    jobs.len()
}

#[tokio::test]
async fn whoever_owes_a_task_is_told_once_when_its_moment_has_come_and_so_is_who_stands_in() {
    let fixture = Fixture::new().await;
    let (store, [ina, udo]) = (&fixture.store, &fixture.home.reps);
    fixture.lead(b"one").await;
    let mine = fixture.leads(ina).await;
    let (owner, other) = if mine.iter().any(|lead| lead.mine) { (ina, udo) } else { (udo, ina) };
    let lead = fixture.leads(owner).await[0].id;
    let due = |hours: i64| fixture.clock.now() + SignedDuration::from_hours(hours);
    for (says, hours) in [("Send the price list", 2), ("Ask about the start", 2), ("Ring again", 30)] {
        store.add_task(owner, NewTask { lead, person: owner.id, says, due_at: due(hours) }).await.unwrap();
    }
    assert_eq!(remind(&fixture).await, 0, "not before its moment");
    let done = store.tasks(owner).await.unwrap().into_iter().find(|task| task.says == "Ask about the start").unwrap();
    store.settle_task(owner, done.id, true).await.unwrap();
    fixture.clock.advance(SignedDuration::from_hours(2));
    assert_eq!(remind(&fixture).await, 2);
    assert_eq!(reminded(&fixture, owner).await, [("Send the price list".to_owned(), false)], "a done one is no news");
    assert_eq!(remind(&fixture).await, 0, "told once");
    let open = store.tasks(owner).await.unwrap()[0].id;
    store.settle_task(owner, open, true).await.unwrap();
    assert_eq!(reminded(&fixture, owner).await, [("Send the price list".to_owned(), true)]);
    // While they are away, who stands in is told as well.
    let today = fixture.clock.now().to_zoned(jiff::tz::TimeZone::UTC).date();
    let until = today.checked_add(jiff::Span::new().days(5)).unwrap();
    let away = AbsenceChange { from: today, until, deputy: Some(other.id) };
    store.add_absence(&fixture.home.author, owner.id, &away).await.unwrap();
    fixture.clock.advance(SignedDuration::from_hours(28));
    assert_eq!(remind(&fixture).await, 1);
    assert_eq!(reminded(&fixture, other).await, [("Ring again".to_owned(), false)]);
    assert_eq!(reminded(&fixture, owner).await[0], ("Ring again".to_owned(), false));
}
