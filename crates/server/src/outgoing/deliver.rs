//! One sending to one destination: its body, its signature, what the answer means.

use std::time::Duration;

use jiff::Timestamp;
use lumbo_deliver::answer::{Verdict, verdict};
use lumbo_deliver::webhook::signing;
use lumbo_store::{AttemptRow, Destination, DestinationKind};
use uuid::Uuid;

use super::mail::Mailer;
use super::prepare::Addressed;
use super::{Outgoing, OutgoingError};
use crate::Problem;
use crate::vault::Vault;

/// What a destination's secret is sealed for.
pub(crate) fn purpose(workspace: Uuid, destination: Uuid) -> String {
    format!("destination {destination} of {workspace}")
}

/// Sends a mail to a destination; gives what came of it as the log keeps it.
pub(crate) async fn send_mail(mailer: &Mailer, id: Uuid, mail: &Addressed, now: Timestamp) -> Sent {
    let begun = std::time::Instant::now();
    let mailed = mailer.send(&mail.to, &mail.letter, &id.simple().to_string()).await;
    let took_ms = i32::try_from(begun.elapsed().as_millis()).unwrap_or(i32::MAX);
    let answer = format!("to {}: {}", mail.to, mailed.answer);
    let attempt = AttemptRow { at: now, took_ms, status: mailed.code, answer };
    Sent { headers: Vec::new(), verdict: mailed.verdict, attempt }
}

/// What was sent, and what came of it.
pub(crate) struct Sent {
    /// Headers, without the usual ones.
    pub(crate) headers: Vec<(&'static str, String)>,
    /// What the answer means.
    pub(crate) verdict: Verdict,
    /// For the log.
    pub(crate) attempt: AttemptRow,
}

/// Sends a body to a destination.
pub(crate) async fn send(
    outgoing: &Outgoing,
    vault: &Vault,
    workspace: Uuid,
    to: &Destination,
    id: Uuid,
    body: String,
    now: Timestamp,
) -> Result<Sent, Problem> {
    let id = format!("msg_{}", id.simple());
    let mut headers = vec![("webhook-id", id.clone()), ("webhook-timestamp", now.as_second().to_string())];
    if to.kind == DestinationKind::Webhook {
        let secrets = to
            .sealed
            .iter()
            .map(|sealed| vault.open(&purpose(workspace, to.id), sealed))
            .collect::<Result<Vec<_>, _>>()?;
        let signed = signing::header(secrets.iter().map(Vec::as_slice), &id, now.as_second(), &body);
        headers.push(("webhook-signature", signed));
    }
    let (done, took) = outgoing.post(&to.address, &headers, body).await;
    let took_ms = i32::try_from(took.min(Duration::from_secs(3_600)).as_millis()).unwrap_or(i32::MAX);
    let (verdict, status, answer) = match done {
        Ok(answer) => {
            let verdict = verdict(answer.status, answer.retry_after.as_deref());
            (verdict, Some(i32::from(answer.status)), answer.text)
        }
        // An address that may not be called stays one until a person changes it.
        Err(error @ OutgoingError::Guard(_)) => (Verdict::Refused, None, error.to_string()),
        Err(error) => (Verdict::Again(None), None, error.to_string()),
    };
    Ok(Sent { headers, verdict, attempt: AttemptRow { at: now, took_ms, status, answer } })
}
