//! Sends an event of a lead to a destination, at least once, in order for each lead.

use jiff::{SignedDuration, Timestamp};
use lumbo_deliver::answer::Verdict;
use lumbo_deliver::retry;
use lumbo_store::{AttemptRow, Destination, DestinationKind, Ended, Job, Outcome, StoreError, ToSend, Turn};
use uuid::Uuid;

use crate::outgoing::deliver::{Sent, send, send_mail};
use crate::outgoing::prepare::prepare;
use crate::outgoing::records::{Place, put_row, write};
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
    let sent = attempt(tools, job.workspace, &to, &sending, now).await?;
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

/// One attempt: freezes what goes where nobody did yet, and sends it the way its destination takes it.
async fn attempt(
    tools: &Tools,
    workspace: Uuid,
    to: &Destination,
    sending: &ToSend,
    now: Timestamp,
) -> Result<Sent, StoreError> {
    let store = &tools.store;
    let refused = |why: &str| Sent {
        headers: Vec::new(),
        verdict: Verdict::Refused,
        attempt: AttemptRow { at: now, took_ms: 0, status: None, answer: why.to_owned() },
    };
    let frozen = match &sending.body {
        Some(frozen) => frozen.clone(),
        None => match prepare(store, workspace, to, sending, &tools.site).await? {
            Ok(body) => store.freeze_sending(workspace, sending.id, &body).await?,
            Err(why) => return Ok(refused(why)),
        },
    };
    let kept = |problem: crate::Problem| StoreError::Kept(problem.detail);
    match to.kind {
        DestinationKind::Webhook | DestinationKind::Chat => {
            send(&tools.outgoing, &tools.vault, workspace, to, sending.id, frozen, now).await.map_err(kept)
        }
        DestinationKind::Mail => {
            let Ok(mail) = serde_json::from_str(&frozen) else { return Ok(refused("what was kept cannot be read")) };
            Ok(send_mail(&tools.mailer, sending.id, &mail, now).await)
        }
        DestinationKind::CustomerSystem => {
            let place = Place::new(&tools.outgoing, &tools.vault, workspace, to).map_err(kept)?;
            let Ok(plans) = serde_json::from_str(&frozen) else { return Ok(refused("what was kept cannot be read")) };
            write(store, &place, workspace, to, sending, plans, now).await
        }
        DestinationKind::Sheet => {
            let place = Place::new(&tools.outgoing, &tools.vault, workspace, to).map_err(kept)?;
            let row = Some(frozen).filter(|row| !row.is_empty());
            Ok(put_row(&place, &sending.lead.to_string(), row, now).await)
        }
    }
}
