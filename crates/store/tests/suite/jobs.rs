//! Jobs: taken by one worker at a time, done at least once, tried again by the timetable, never lost with a worker.

#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use std::collections::BTreeSet;

use crate::common::{Fixture, now};
use jiff::SignedDuration;
use lumbo_store::{Ended, Job, JobKind, LEASE, Store};
use sqlx::{Connection, PgConnection};

/// So many jobs that are due: conversations that fall silent.
async fn due(fixture: &Fixture, count: u8) {
    for token in 0..count {
        fixture.start(&fixture.home.slug, &[token]).await;
    }
    fixture.clock.advance(SignedDuration::from_mins(31));
}

async fn only(store: &Store) -> Job {
    let mut jobs = store.take_jobs(&JobKind::ALL, 10).await.unwrap();
    assert_eq!(jobs.len(), 1);
    jobs.remove(0)
}

#[tokio::test]
async fn a_job_is_taken_by_one_worker_at_a_time() {
    let fixture = Fixture::new().await;
    due(&fixture, 12).await;
    // Two servers, each with a store of its own, take at the same moment.
    let other = Store::connect_at(&fixture.url, 2, fixture.clock.clone()).await.unwrap();
    let (one, two) = tokio::join!(fixture.store.take_jobs(&JobKind::ALL, 10), other.take_jobs(&JobKind::ALL, 10));
    let (one, two) = (one.unwrap(), two.unwrap());
    let ids: BTreeSet<_> = one.iter().chain(&two).map(|job| job.id).collect();
    assert_eq!((one.len() + two.len(), ids.len()), (12, 12), "each once");
    assert_eq!(fixture.store.take_jobs(&JobKind::ALL, 10).await.unwrap().len(), 0);
}

#[tokio::test]
async fn a_dead_workers_lease_runs_out_and_its_word_counts_for_nothing() {
    let fixture = Fixture::new().await;
    due(&fixture, 1).await;
    let dead = only(&fixture.store).await;
    fixture.clock.advance(LEASE - SignedDuration::from_secs(1));
    assert_eq!(fixture.store.take_jobs(&JobKind::ALL, 10).await.unwrap().len(), 0);
    assert!(fixture.store.renew_lease(&dead).await.unwrap());
    fixture.clock.advance(LEASE - SignedDuration::from_secs(1));
    assert_eq!(fixture.store.take_jobs(&JobKind::ALL, 10).await.unwrap().len(), 0, "the lease was renewed");
    fixture.clock.advance(SignedDuration::from_secs(1));
    let next = only(&fixture.store).await;
    assert_eq!((next.id, next.kind), (dead.id, JobKind::Silence));
    assert!(!fixture.store.renew_lease(&dead).await.unwrap());
    assert!(!fixture.store.end_job(&dead, Ended::Done, 0.5).await.unwrap(), "who lost the lease ends nothing");
    assert!(fixture.store.end_job(&next, Ended::Done, 0.5).await.unwrap());
    fixture.clock.advance(SignedDuration::from_hours(1));
    assert_eq!(fixture.store.take_jobs(&JobKind::ALL, 10).await.unwrap().len(), 0);
}

#[tokio::test]
async fn a_failed_job_is_tried_again_by_the_timetable_and_parked_after_five_days() {
    let fixture = Fixture::new().await;
    due(&fixture, 1).await;
    let began = fixture.clock.now();
    let mut waits = Vec::new();
    let mut db = PgConnection::connect(&fixture.url).await.unwrap();
    loop {
        let job = only(&fixture.store).await;
        let failed = Ended::Failed("the other side said no".into());
        assert!(fixture.store.end_job(&job, failed, 0.5).await.unwrap());
        let due = sqlx::query_scalar(
            "select (extract(epoch from min(due_at)) * 1000000)::bigint from jobs where state = 'waiting'",
        );
        let due: Option<i64> = due.fetch_one(&mut db).await.unwrap();
        let Some(due) = due else { break };
        let wait = jiff::Timestamp::from_microsecond(due).unwrap().duration_since(fixture.clock.now());
        waits.push(wait.as_secs());
        fixture.clock.advance(wait - SignedDuration::from_secs(1));
        assert_eq!(fixture.store.take_jobs(&JobKind::ALL, 10).await.unwrap().len(), 0, "not before its time");
        fixture.clock.advance(SignedDuration::from_secs(1));
    }
    assert_eq!(waits[..7], [10, 60, 300, 1_800, 7_200, 21_600, 21_600]);
    let took = fixture.clock.now().duration_since(began);
    assert!((120..127).contains(&took.as_hours()), "five days: {took}");
    let counts = fixture.store.job_counts().await.unwrap();
    assert_eq!(
        counts.iter().map(|count| (count.kind.as_str(), count.waiting, count.parked)).collect::<Vec<_>>(),
        [("silence", 0, 1)]
    );
    let said: String =
        sqlx::query_scalar("select last_error from jobs where state = 'parked'").fetch_one(&mut db).await.unwrap();
    assert_eq!(said, "the other side said no");
}

#[tokio::test]
async fn one_that_cannot_be_done_does_not_stand_before_the_others() {
    let fixture = Fixture::new().await;
    due(&fixture, 3).await;
    for place in 0..2 {
        let mut jobs = fixture.store.take_jobs(&JobKind::ALL, 1).await.unwrap();
        let job = jobs.remove(0);
        let ended = if place == 0 { Ended::Failed("broken".into()) } else { Ended::Done };
        fixture.store.end_job(&job, ended, 0.5).await.unwrap();
    }
    // The third is taken at once; the broken one waits its ten seconds.
    let third = only(&fixture.store).await;
    assert_eq!(third.attempts, 0);
    fixture.clock.advance(SignedDuration::from_secs(10));
    assert_eq!(only(&fixture.store).await.attempts, 1);
}

#[tokio::test]
async fn what_a_server_gives_back_counts_as_no_failure() {
    let fixture = Fixture::new().await;
    due(&fixture, 1).await;
    let job = only(&fixture.store).await;
    fixture.store.end_job(&job, Ended::GivenBack, 0.5).await.unwrap();
    assert_eq!(fixture.store.take_jobs(&JobKind::ALL, 10).await.unwrap().len(), 0, "another server may take it first");
    fixture.clock.advance(SignedDuration::from_secs(5));
    assert_eq!(only(&fixture.store).await.attempts, 0);
}

#[tokio::test]
async fn the_same_thing_is_never_waiting_twice_and_jobs_that_ended_are_cleared_away() {
    let fixture = Fixture::new().await;
    due(&fixture, 1).await;
    let job = only(&fixture.store).await;
    fixture.store.end_job(&job, Ended::Done, 0.5).await.unwrap();
    assert_eq!(fixture.count("jobs").await, 1);
    fixture.store.tidy().await.unwrap();
    // Beside it the job that erases what has had its time, which every workspace has from the first tidying on.
    assert_eq!(fixture.count("jobs").await, 2, "kept for a week, to be looked at");
    fixture.clock.advance(SignedDuration::from_hours(24 * 8));
    fixture.store.tidy().await.unwrap();
    assert_eq!(fixture.count("jobs").await, 1);
}

#[tokio::test]
async fn a_kind_of_job_that_only_a_newer_server_knows_is_left_to_it() {
    let fixture = Fixture::new().await;
    due(&fixture, 1).await;
    let mut db = PgConnection::connect(&fixture.url).await.unwrap();
    sqlx::query("update jobs set kind = 'of_tomorrow'").execute(&mut db).await.unwrap();
    assert_eq!(fixture.store.take_jobs(&JobKind::ALL, 10).await.unwrap().len(), 0);
    let (state, attempts): (String, i32) =
        sqlx::query_as("select state, attempts from jobs").fetch_one(&mut db).await.unwrap();
    assert_eq!((state.as_str(), attempts), ("waiting", 0));
}

#[tokio::test]
async fn other_servers_are_told_after_the_commit() {
    let fixture = Fixture::new().await;
    let other = Store::connect(&fixture.url, 3).await.unwrap();
    let telling = fixture.store.clone();
    let hearing = other.clone();
    let tasks = [
        tokio::spawn(async move { telling.tell_others().await }),
        tokio::spawn(async move { hearing.hear_others().await }),
    ];
    let (mut hints, mut woken) = (other.wakes().hints(), other.wakes().jobs_woken());
    let heard = async {
        loop {
            // The listener may not listen yet: told again until it is heard.
            fixture.store.wakes().stream(fixture.home.workspace);
            fixture.store.wakes().jobs();
            if let Ok(hint) = tokio::time::timeout(std::time::Duration::from_millis(200), hints.recv()).await {
                return hint.unwrap();
            }
        }
    };
    let hint = tokio::time::timeout(std::time::Duration::from_secs(20), heard).await.unwrap();
    assert_eq!(hint, Some(fixture.home.workspace));
    tokio::time::timeout(std::time::Duration::from_secs(20), woken.changed()).await.unwrap().unwrap();
    tasks.iter().for_each(tokio::task::JoinHandle::abort);
    assert!(now() < other.now(), "the other server goes by the machine’s clock");
}
