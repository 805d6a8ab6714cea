//! Requests as they cross.

use jiff::Timestamp;
use lumbo_records::RecordField;
use lumbo_store::TranscriptLine;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

/// A request, as a list shows it.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct RequestRow {
    /// Its id.
    id: Uuid,
    /// The outcome's name.
    label: String,
    /// Who asks.
    name: Option<String>,
    /// Their company.
    company: Option<String>,
    /// What they typed, the longest of it.
    words: String,
    /// The dialogue's title.
    dialogue: String,
    /// The queue's name.
    queue: Option<String>,
    /// Whoever has taken it.
    owner: Option<String>,
    /// True where that is the one who asks.
    mine: bool,
    /// When it is to be answered, RFC 3339.
    #[schemars(with = "String")]
    due_at: Timestamp,
    /// When it came, RFC 3339.
    #[schemars(with = "String")]
    made_at: Timestamp,
    /// When it was done, RFC 3339.
    #[schemars(with = "Option<String>")]
    done_at: Option<Timestamp>,
}

impl From<lumbo_store::RequestRow> for RequestRow {
    fn from(from: lumbo_store::RequestRow) -> Self {
        let lumbo_store::RequestRow {
            id,
            label,
            name,
            company,
            words,
            dialogue,
            queue,
            owner,
            mine,
            due_at,
            made_at,
            done_at,
        } = from;
        Self { id, label, name, company, words, dialogue, queue, owner, mine, due_at, made_at, done_at }
    }
}

/// A request with everything.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct RequestDetail {
    /// As in the list.
    row: RequestRow,
    /// Counts changes; a change names the one it knows.
    revision: i64,
    /// E-mail address.
    email: Option<String>,
    /// Phone number, E.164.
    phone: Option<String>,
    /// The contact, where they are on file.
    contact: Option<Uuid>,
    /// What they told us.
    fields: Vec<RecordField>,
    /// In their words.
    transcript: Vec<TranscriptLine>,
    /// What was said when it was done.
    note: Option<String>,
    /// Who said that it is done.
    done_by: Option<String>,
}

impl From<lumbo_store::RequestDetail> for RequestDetail {
    fn from(from: lumbo_store::RequestDetail) -> Self {
        Self {
            row: from.row.into(),
            revision: from.revision,
            email: from.email,
            phone: from.phone,
            contact: from.contact,
            fields: from.fields,
            transcript: from.transcript,
            note: from.note,
            done_by: from.done_by,
        }
    }
}

/// What becomes of a request.
#[derive(Debug, Clone, PartialEq, Eq, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct RequestChange {
    /// The revision that was looked at.
    pub(crate) revision: i64,
    /// What happens.
    pub(crate) act: RequestDeed,
    /// Whose it is from now on, where it is given; one's own where absent.
    #[serde(default)]
    pub(crate) to: Option<Uuid>,
    /// What to remember of it, where it is done.
    #[serde(default)]
    pub(crate) note: Option<String>,
}

/// What happens to a request.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub(crate) enum RequestDeed {
    /// Somebody takes it, or gets it.
    Give,
    /// It is answered.
    Done,
    /// It is not, after all.
    Reopen,
}
