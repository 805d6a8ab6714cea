//! Destinations and what was sent to them, as they cross.

use jiff::Timestamp;
use lumbo_deliver::webhook::EventKind;
use lumbo_store::{Choice, DestinationKind, SendingState};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

/// A destination, as it is set.
#[derive(Debug, Clone, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct DestinationSet {
    /// Its id; absent for a new one.
    #[serde(default)]
    pub(crate) id: Option<Uuid>,
    /// The revision that was looked at; 0 for a new one.
    pub(crate) revision: i64,
    /// Its name.
    pub(crate) name: String,
    /// What it is; an existing one stays what it is.
    pub(crate) kind: DestinationKind,
    /// Where it is.
    pub(crate) address: String,
    /// What it gets.
    pub(crate) events: Vec<EventKind>,
    /// Whose leads; every dialogue's where empty.
    #[serde(default)]
    pub(crate) dialogues: Vec<Uuid>,
    /// Only bands from this place on, counted from the lowest, 0.
    #[serde(default)]
    pub(crate) from_rank: Option<i32>,
    /// The token that a customer system or a sheet knows us by; never shown again, kept where absent.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub(crate) token: Option<String>,
}

impl From<lumbo_store::DestinationChange> for DestinationSet {
    fn from(from: lumbo_store::DestinationChange) -> Self {
        let lumbo_store::DestinationChange { id, revision, name, kind, address, events, dialogues, from_rank } = from;
        Self { id, revision, name, kind, address, events, dialogues, from_rank, token: None }
    }
}

/// A destination, as a list of them shows it.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct DestinationRow {
    /// What is set.
    pub(crate) set: DestinationSet,
    /// When it was paused, RFC 3339.
    #[schemars(with = "Option<String>")]
    pub(crate) paused_at: Option<Timestamp>,
    /// Why, where nobody did it.
    pub(crate) paused_why: Option<String>,
    /// Since when nothing arrived, RFC 3339.
    #[schemars(with = "Option<String>")]
    pub(crate) failing_since: Option<Timestamp>,
    /// When something arrived last, RFC 3339.
    #[schemars(with = "Option<String>")]
    pub(crate) worked_at: Option<Timestamp>,
    /// Until when the secret before counts too, RFC 3339.
    #[schemars(with = "Option<String>")]
    pub(crate) before_until: Option<Timestamp>,
    /// On their way.
    pub(crate) waiting: i64,
    /// Kept aside.
    pub(crate) parked: i64,
}

impl From<lumbo_store::DestinationRow> for DestinationRow {
    fn from(from: lumbo_store::DestinationRow) -> Self {
        let lumbo_store::DestinationRow {
            set,
            paused_at,
            paused_why,
            failing_since,
            worked_at,
            before_until,
            waiting,
            parked,
        } = from;
        let set = set.into();
        Self { set, paused_at, paused_why, failing_since, worked_at, before_until, waiting, parked }
    }
}

/// One attempt.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct AttemptRow {
    /// When, RFC 3339.
    #[schemars(with = "String")]
    pub(crate) at: Timestamp,
    /// How long it took, milliseconds.
    pub(crate) took_ms: i32,
    /// HTTP status of the answer.
    pub(crate) status: Option<i32>,
    /// The answer's beginning, or why there was none.
    pub(crate) answer: String,
}

impl From<lumbo_store::AttemptRow> for AttemptRow {
    fn from(from: lumbo_store::AttemptRow) -> Self {
        let lumbo_store::AttemptRow { at, took_ms, status, answer } = from;
        Self { at, took_ms, status, answer }
    }
}

/// A sending, as the log shows it.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct SendingRow {
    /// Id, the same for every attempt.
    pub(crate) id: Uuid,
    /// Counts up.
    pub(crate) number: i64,
    /// What happened.
    pub(crate) event: String,
    /// The lead.
    pub(crate) lead: Uuid,
    /// The prospect's name.
    pub(crate) name: Option<String>,
    /// Where it stands.
    pub(crate) state: SendingState,
    /// When it was set, RFC 3339.
    #[schemars(with = "String")]
    pub(crate) made_at: Timestamp,
    /// What was sent; absent before the first attempt.
    pub(crate) body: Option<String>,
    /// Records there that it could be about, until a person says which.
    pub(crate) choose: Option<Choice>,
    /// The last attempts, newest first.
    pub(crate) attempts: Vec<AttemptRow>,
}

impl From<lumbo_store::SendingRow> for SendingRow {
    fn from(from: lumbo_store::SendingRow) -> Self {
        let lumbo_store::SendingRow { id, number, event, lead, name, state, made_at, body, choose, attempts } = from;
        let attempts = attempts.into_iter().map(Into::into).collect();
        Self { id, number, event, lead, name, state, made_at, body, choose, attempts }
    }
}
