//! Sends an event of a lead to a destination, at least once, in order for each lead.

use jiff::SignedDuration;
use lumbo_deliver::answer::Verdict;
use lumbo_deliver::retry;
use lumbo_store::{Ended, Job, Outcome, StoreError, Turn};

use crate::outgoing::deliver::{body, send};
use crate::tools::Tools;

/// How long one that stands behind another is left, should nobody wake it: its waking can meet it just being looked at.
const BEHIND: SignedDuration = SignedDuration::from_secs(15);
/// How long one of a paused destination is left.
const PAUSED: SignedDuration = SignedDuration::from_mins(10);

/// Sends what the job is about.
pub(super) async fn handle(tools: &Tools, job: &Job) -> Result<Ended, StoreError> {
    let (store, now) = (&tools.store, tools.store.now());
    let later = |wait| Ended::Later(now.checked_add(wait).unwrap_or(now));
    let sending = match store.to_send(job.workspace, job.subject).await? {
        Turn::Now(sending) => sending,
        Turn::Behind => return Ok(later(BEHIND)),
        Turn::Paused => return Ok(later(PAUSED)),
        Turn::Over => return Ok(Ended::Done),
    };
    let to = store.destination(job.workspace, sending.destination).await?;
    let frozen = match &sending.body {
        Some(frozen) => frozen.clone(),
        None => {
            let (lead, kind) = (sending.lead, sending.event);
            let event = store.lead_event(job.workspace, lead, kind, sending.made_at, &tools.site).await?;
            store.freeze_sending(job.workspace, sending.id, &body(to.kind, &event)).await?
        }
    };
    let sent = send(&tools.outgoing, &tools.vault, job.workspace, &to, sending.id, frozen, now)
        .await
        .map_err(|problem| StoreError::Kept(problem.detail))?;
    let failures = job.attempts.saturating_add(1);
    let given_up = retry::next(failures, job.failing_since.unwrap_or(now), store.now(), 0.5).is_none();
    let (outcome, ended) = match sent.verdict {
        Verdict::Arrived => (Outcome::Arrived, Ended::Done),
        Verdict::Refused => (Outcome::Parked, Ended::Done),
        Verdict::Again(_) if given_up => (Outcome::Parked, Ended::Done),
        Verdict::Again(wait) => {
            let why = format!("{} {}", sent.attempt.status.unwrap_or(0), sent.attempt.answer);
            let asked = wait
                .and_then(|seconds| i64::try_from(seconds).ok())
                .and_then(|seconds| now.checked_add(SignedDuration::from_secs(seconds)).ok());
            let ended = asked.map_or_else(|| Ended::Failed(why.clone()), |at| Ended::FailedUntil(at, why.clone()));
            (Outcome::Failed, ended)
        }
        Verdict::Unknown => {
            let status = sent.attempt.status.unwrap_or(0);
            let why = format!("it answered {status}: check the address and the secret, then let it go on");
            (Outcome::Unknown(why), later(PAUSED))
        }
    };
    store.attempted(job.workspace, &sending, &outcome, &sent.attempt).await?;
    Ok(ended)
}
