//! Writing a lead to a customer system or a sheet: the calls, one after another, and what came of them.

use std::time::Duration;

use axum::http::Method;
use jiff::Timestamp;
use lumbo_deliver::answer::{Verdict, verdict};
use lumbo_deliver::mapping::{Answered, Call, Next, RecordPlans, Schema, Their, Upsert};
use lumbo_store::{AttemptRow, Choice, Destination, Store, ToSend};
use percent_encoding::{AsciiSet, NON_ALPHANUMERIC, utf8_percent_encode};
use serde::Deserialize;
use uuid::Uuid;

use super::deliver::{Sent, purpose};
use super::{Answer, Outgoing, OutgoingError};
use crate::Problem;
use crate::vault::Vault;

/// What stands as it is in one segment of a path. Not a dot: an id of two of them would lead elsewhere.
const SEGMENT: &AsciiSet = &NON_ALPHANUMERIC.remove(b'-').remove(b'_').remove(b'~');
/// What stands as it is in one value of a query.
const VALUE: &AsciiSet = &SEGMENT.remove(b'.').remove(b'@');
/// Most calls of one attempt: three records, each looked for, read, made or changed, and once more where it was gone.
const CALLS: usize = 20;

/// Who speaks to a place outside, and with which word.
pub(crate) struct Place<'a> {
    outgoing: &'a Outgoing,
    address: &'a str,
    token: Option<String>,
}

impl<'a> Place<'a> {
    pub(crate) fn new(
        outgoing: &'a Outgoing,
        vault: &Vault,
        workspace: Uuid,
        to: &'a Destination,
    ) -> Result<Self, Problem> {
        let opened = to.sealed.first().map(|sealed| vault.open(&purpose(workspace, to.id), sealed)).transpose()?;
        let token = opened.map(|token| String::from_utf8_lossy(&token).into_owned());
        Ok(Self { outgoing, address: to.address.trim_end_matches('/'), token })
    }

    async fn call(
        &self,
        method: Method,
        path: &str,
        key: Option<&str>,
        body: Option<String>,
    ) -> (Result<Answer, OutgoingError>, Duration) {
        let mut headers = Vec::new();
        if let Some(token) = &self.token {
            headers.push(("authorization", format!("Bearer {token}")));
        }
        if let Some(key) = key {
            headers.push(("idempotency-key", key.to_owned()));
        }
        self.outgoing.request(method, &format!("{}/{path}", self.address), &headers, body).await
    }

    /// What the customer system says that it holds, with the answer as it came.
    pub(crate) async fn schema(&self, now: Timestamp) -> (Result<Schema, String>, AttemptRow) {
        let (done, took) = self.call(Method::GET, "schema", None, None).await;
        let took_ms = millis(took);
        match done {
            Ok(answer) if (200..300).contains(&answer.status) => {
                let read = Schema::read(&answer.text).map_err(|error| error.to_string());
                (read, AttemptRow { at: now, took_ms, status: Some(answer.status.into()), answer: answer.text })
            }
            Ok(answer) => {
                let why = match answer.status {
                    401 | 403 => "it does not know this token".to_owned(),
                    404 => "nothing there answers to /schema; look at the address again".to_owned(),
                    status => format!("it answered {status}"),
                };
                (Err(why), AttemptRow { at: now, took_ms, status: Some(answer.status.into()), answer: answer.text })
            }
            Err(error) => {
                let why = error.to_string();
                (Err(why.clone()), AttemptRow { at: now, took_ms, status: None, answer: why })
            }
        }
    }
}

fn millis(took: Duration) -> i32 {
    i32::try_from(took.min(Duration::from_secs(3_600)).as_millis()).unwrap_or(i32::MAX)
}

/// A call as it goes over the wire: method, path, key and body.
fn wire(call: &Call, sending: Uuid) -> (Method, String, Option<String>, Option<String>) {
    let encoded = |text: &str| utf8_percent_encode(text, SEGMENT).to_string();
    match call {
        Call::Find { object, value } => {
            let path = format!("{}?{}={}", object.path(), object.found_by(), utf8_percent_encode(value, VALUE));
            (Method::GET, path, None, None)
        }
        Call::Read { object, id } => (Method::GET, format!("{}/{}", object.path(), encoded(id)), None, None),
        Call::Create { object, body } => {
            // The same for every attempt: what was made without our hearing of it is given again.
            let key = format!("{}-{}", sending.simple(), object.as_str());
            (Method::POST, object.path().to_owned(), Some(key), Some(body.to_string()))
        }
        Call::Change { object, id, body } => {
            (Method::PATCH, format!("{}/{}", object.path(), encoded(id)), None, Some(body.to_string()))
        }
        Call::Delete { object, id } => (Method::DELETE, format!("{}/{}", object.path(), encoded(id)), None, None),
    }
}

/// Records that were found.
#[derive(Deserialize)]
struct FoundBody {
    #[serde(default)]
    records: Vec<Their>,
}

/// Only what a browser can safely be sent to is a link.
fn safe(mut their: Their) -> Their {
    their.link = their.link.filter(|link| link.starts_with("https://") || link.starts_with("http://"));
    their
}

fn understood(call: &Call, answer: &Answer) -> Result<Answered, String> {
    let unreadable = |error: serde_json::Error| format!("its answer cannot be read: {error}");
    let good = (200..300).contains(&answer.status);
    match call {
        Call::Read { .. } | Call::Change { .. } | Call::Delete { .. } if matches!(answer.status, 404 | 410) => {
            Ok(Answered::Gone)
        }
        _ if !good => Err(String::new()),
        Call::Find { .. } => serde_json::from_str::<FoundBody>(&answer.text)
            .map(|found| Answered::Found(found.records.into_iter().take(20).map(safe).collect()))
            .map_err(unreadable),
        Call::Read { .. } | Call::Create { .. } => {
            serde_json::from_str::<Their>(&answer.text).map(|their| Answered::Record(safe(their))).map_err(unreadable)
        }
        Call::Change { .. } | Call::Delete { .. } => Ok(Answered::Done),
    }
}

/// Writes a lead, its contact and its company to a customer system, as far as it gets: ids that are learnt are kept at
/// once, so that the next attempt goes on where this one ended.
pub(crate) async fn write(
    store: &Store,
    place: &Place<'_>,
    workspace: Uuid,
    to: &Destination,
    sending: &ToSend,
    plans: RecordPlans,
    now: Timestamp,
) -> Result<Sent, lumbo_store::StoreError> {
    let known = store.known_outside(workspace, to.id, sending.lead).await?;
    let mut upsert = Upsert::new(plans, known);
    let mut lines: Vec<String> = Vec::new();
    let mut total = Duration::ZERO;
    let mut status = None;
    let mut end = Verdict::Again(None);
    for _ in 0..CALLS {
        let call = match upsert.next() {
            Next::Done => {
                end = Verdict::Arrived;
                break;
            }
            Next::Several { object, candidates } => {
                let many = candidates.len();
                let which = object.path();
                lines.push(format!("{many} {which} there could be it: say which one"));
                store.offer_choice(workspace, sending, &Choice { object, candidates }).await?;
                end = Verdict::Refused;
                break;
            }
            Next::Call(call) => call,
        };
        let (method, path, key, body) = wire(&call, sending.id);
        let line = format!("{method} {path}");
        let (done, took) = place.call(method, &path, key.as_deref(), body).await;
        total += took;
        let answer = match done {
            Ok(answer) => answer,
            Err(error) => {
                end = if matches!(error, OutgoingError::Guard(_)) { Verdict::Refused } else { Verdict::Again(None) };
                status = None;
                lines.push(format!("{line}: {error}"));
                break;
            }
        };
        status = Some(i32::from(answer.status));
        match understood(&call, &answer) {
            Ok(answered) => {
                lines.push(format!("{line}: {}", answer.status));
                if let Some(written) = upsert.took(answered) {
                    store.keep_outside(workspace, to.id, sending.lead, &written).await?;
                }
            }
            Err(why) => {
                let says = if why.is_empty() { answer.text.as_str() } else { why.as_str() };
                lines.push(format!("{line}: {} {says}", answer.status));
                end = match verdict(answer.status, answer.retry_after.as_deref()) {
                    // It said yes, with something that is no answer: not to be taken for one.
                    Verdict::Arrived => Verdict::Refused,
                    other => other,
                };
                break;
            }
        }
    }
    // The last line first: it says how it ended.
    lines.reverse();
    let attempt = AttemptRow { at: now, took_ms: millis(total), status, answer: lines.join("\n") };
    Ok(Sent { headers: Vec::new(), verdict: end, attempt })
}

/// Puts a lead's row into a sheet, or takes it out where the person was erased.
pub(crate) async fn put_row(place: &Place<'_>, key: &str, row: Option<String>, now: Timestamp) -> Sent {
    let method = if row.is_some() { Method::PUT } else { Method::DELETE };
    let path = format!("rows/{}", utf8_percent_encode(key, SEGMENT));
    let erased = row.is_none();
    let (done, took) = place.call(method, &path, None, row).await;
    let (verdict, status, answer) = match done {
        Ok(answer) if erased && matches!(answer.status, 404 | 410) => {
            (Verdict::Arrived, Some(i32::from(answer.status)), answer.text)
        }
        Ok(answer) => {
            let verdict = verdict(answer.status, answer.retry_after.as_deref());
            (verdict, Some(i32::from(answer.status)), answer.text)
        }
        Err(error @ OutgoingError::Guard(_)) => (Verdict::Refused, None, error.to_string()),
        Err(error) => (Verdict::Again(None), None, error.to_string()),
    };
    Sent { headers: Vec::new(), verdict, attempt: AttemptRow { at: now, took_ms: millis(took), status, answer } }
}
