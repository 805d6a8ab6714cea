//! Workers take due jobs and do them. Every server has some; a job is done by one of them at a time, at least once.
//!
//! To add a kind of job: its variant in the store's `JobKind`, a file here with its handler, and an arm in [`handle`].

mod deal;
mod late;
mod mail;
mod retain;
mod send;
mod silence;
mod task;

use std::collections::HashMap;
use std::sync::{Arc, Mutex, PoisonError};
use std::time::Duration;

use lumbo_store::{Ended, Job, JobKind, LEASE, Store, StoreError};
use rand::Rng;
use tokio::sync::{OwnedSemaphorePermit, Semaphore, watch};
use tokio::task::JoinSet;
use uuid::Uuid;

use crate::tools::Tools;

/// Kinds that are done together, and how many of them at once by one server. What waits for somebody outside has a room
/// of its own, so that a place that hangs holds up nothing else.
const ROOMS: [(&[JobKind], usize); 2] = [
    (
        &[
            JobKind::Silence,
            JobKind::Unfinished,
            JobKind::Owner,
            JobKind::Deal,
            JobKind::Retain,
            JobKind::Late,
            JobKind::TaskDue,
        ],
        4,
    ),
    (&[JobKind::Send, JobKind::InvitationMail, JobKind::ResetMail, JobKind::NoticeMail, JobKind::Mail], 16),
];
/// How often jobs are looked for without being woken: polling is the truth, waking a hint.
const POLL: Duration = Duration::from_secs(5);
/// How often what has had its time is cleared away and counted.
const TIDY: Duration = Duration::from_secs(60);
/// How long a stopping server waits for jobs under way before it gives them back.
const FINISH: Duration = Duration::from_secs(8);

/// Jobs under way, to be given back where they are not finished in time.
type UnderWay = Arc<Mutex<HashMap<Uuid, Job>>>;

/// Works until told to stop, then finishes what is under way or gives it back.
pub(crate) async fn work(tools: Tools, stop: watch::Receiver<bool>) {
    let [one, other] = ROOMS.map(|(kinds, at_once)| work_on(tools.clone(), kinds, at_once, stop.clone()));
    tokio::join!(one, other, tidy(tools.store, stop));
}

/// Does the jobs of a room.
async fn work_on(tools: Tools, kinds: &[JobKind], at_once: usize, mut stop: watch::Receiver<bool>) {
    let room = Arc::new(Semaphore::new(at_once));
    let (mut tasks, jobs) = (JoinSet::new(), UnderWay::default());
    let mut woken = tools.store.wakes().jobs_woken();
    while !*stop.borrow() {
        // As many are taken as there is place for: one that waited with its lease running could be taken by another.
        let Ok(place) = Arc::clone(&room).acquire_owned().await else { return };
        let mut places = vec![place];
        places.extend(std::iter::from_fn(|| Arc::clone(&room).try_acquire_owned().ok()));
        if take(&tools, kinds, places, &mut tasks, &jobs).await {
            continue;
        }
        tokio::select! {
            _ = woken.changed() => {}
            () = tokio::time::sleep(POLL) => {}
            _ = stop.changed() => {}
        }
        while tasks.try_join_next().is_some() {}
    }
    let _ = tokio::time::timeout(FINISH, async { while tasks.join_next().await.is_some() {} }).await;
    tasks.abort_all();
    let unfinished: Vec<Job> =
        jobs.lock().unwrap_or_else(PoisonError::into_inner).drain().map(|(_, job)| job).collect();
    for job in unfinished {
        if let Err(error) = tools.store.end_job(&job, Ended::GivenBack, 0.5).await {
            tracing::warn!(job = %job.id, %error, "a job could not be given back; its lease runs out");
        }
    }
}

/// Takes what is due, one for each place, and begins it; true where there may be more.
async fn take(
    tools: &Tools,
    kinds: &[JobKind],
    places: Vec<OwnedSemaphorePermit>,
    tasks: &mut JoinSet<()>,
    under_way: &UnderWay,
) -> bool {
    let jobs = match tools.store.take_jobs(kinds, i64::try_from(places.len()).unwrap_or(i64::MAX)).await {
        Ok(jobs) => jobs,
        Err(error) => {
            tracing::warn!(%error, "jobs could not be taken");
            return false;
        }
    };
    let more = !jobs.is_empty();
    under_way.lock().unwrap_or_else(PoisonError::into_inner).extend(jobs.iter().map(|job| (job.id, job.clone())));
    for (job, place) in jobs.into_iter().zip(places) {
        let (tools, under_way) = (tools.clone(), Arc::clone(under_way));
        tasks.spawn(async move {
            attempt(&tools, &job).await;
            under_way.lock().unwrap_or_else(PoisonError::into_inner).remove(&job.id);
            drop(place);
        });
    }
    more
}

/// Clears away what has had its time, now and then, until told to stop.
async fn tidy(store: Store, mut stop: watch::Receiver<bool>) {
    let mut due = tokio::time::interval(TIDY);
    due.set_missed_tick_behavior(tokio::time::MissedTickBehavior::Delay);
    while !*stop.borrow() {
        tokio::select! {
            _ = due.tick() => look_after(&store).await,
            _ = stop.changed() => {}
        }
    }
}

/// One attempt at a job, its lease renewed while it lasts.
async fn attempt(tools: &Tools, job: &Job) {
    let store = &tools.store;
    let kind = job.kind.as_str();
    let renewing = async {
        let third = Duration::from_secs(LEASE.as_secs().unsigned_abs() / 3);
        loop {
            tokio::time::sleep(third).await;
            if matches!(store.renew_lease(job).await, Ok(false)) {
                return;
            }
        }
    };
    let ended = tokio::select! {
        ended = handle(tools, job) => ended,
        // Another worker has it now.
        () = renewing => return,
    };
    let ended = ended.unwrap_or_else(|error| match error {
        StoreError::Newer(_) | StoreError::Away(_) => Ended::GivenBack,
        other => Ended::Failed(other.to_string()),
    });
    if let Ended::Failed(error) | Ended::FailedUntil(_, error) = &ended {
        tracing::warn!(kind, job = %job.id, error, "a job failed");
    }
    let outcome = match &ended {
        Ended::Done => "done",
        Ended::Later(_) => "later",
        Ended::Failed(_) | Ended::FailedUntil(..) => "failed",
        Ended::GivenBack => "given_back",
    };
    metrics::counter!("lumbo_job_attempts_total", "kind" => kind, "outcome" => outcome).increment(1);
    let chance = rand::rng().random_range(0.0..1.0);
    if let Err(error) = store.end_job(job, ended, chance).await {
        tracing::warn!(kind, job = %job.id, %error, "what came of a job could not be kept; it is done again");
    }
}

async fn handle(tools: &Tools, job: &Job) -> Result<Ended, StoreError> {
    match job.kind {
        JobKind::Silence => silence::handle(&tools.store, job).await,
        JobKind::Unfinished => silence::handle_unfinished(&tools.store, job).await,
        JobKind::Owner => silence::handle_owner(&tools.store, job).await,
        JobKind::Retain => retain::handle(&tools.store, job).await,
        JobKind::Deal => deal::handle(&tools.store, job).await,
        JobKind::Late => late::handle(&tools.store, job).await,
        JobKind::TaskDue => task::handle(&tools.store, job).await,
        JobKind::InvitationMail => mail::invite(tools, job).await,
        JobKind::ResetMail => mail::way_back(tools, job).await,
        JobKind::NoticeMail => mail::notice(tools, job).await,
        JobKind::Mail => mail::from_lead(tools, job).await,
        JobKind::Send => send::handle(tools, job).await,
    }
}

/// Clears away what has had its time, and counts jobs.
async fn look_after(store: &Store) {
    if let Err(error) = store.tidy().await {
        tracing::warn!(%error, "what has had its time could not be cleared away");
    }
    match store.job_counts().await {
        Ok(counts) => {
            for count in counts {
                let gauge = |name: &'static str, value: i64| {
                    metrics::gauge!(name, "kind" => count.kind.clone())
                        .set(f64::from(i32::try_from(value).unwrap_or(i32::MAX)));
                };
                gauge("lumbo_jobs_waiting", count.waiting);
                gauge("lumbo_jobs_failing", count.failing);
                gauge("lumbo_jobs_parked", count.parked);
                gauge("lumbo_jobs_oldest_seconds", count.oldest);
            }
        }
        Err(error) => tracing::warn!(%error, "jobs could not be counted"),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_kind_of_job_is_done_in_one_room() {
        for kind in JobKind::ALL {
            assert_eq!(ROOMS.iter().filter(|(kinds, _)| kinds.contains(&kind)).count(), 1, "{kind:?}");
        }
    }
}
