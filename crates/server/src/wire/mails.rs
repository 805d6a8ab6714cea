//! Mails that people write from a lead, and saved replies, as they cross.

use jiff::Timestamp;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

use crate::routes::scoring::sentence;

/// A mail that somebody wrote from a lead.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct MailRow {
    /// Its id.
    id: Uuid,
    /// Name of whoever wrote it.
    person: String,
    /// True where the one who asks wrote it.
    mine: bool,
    /// The address it goes to.
    recipient: String,
    /// Its subject.
    subject: String,
    /// Its text.
    body: String,
    /// Where it is: `waiting`, `sent` or `refused`.
    state: String,
    /// What the mail server said, where it refused it.
    answer: String,
    /// When it leaves, or left, RFC 3339.
    #[schemars(with = "String")]
    at: Timestamp,
}

impl From<lumbo_store::MailRow> for MailRow {
    fn from(from: lumbo_store::MailRow) -> Self {
        let lumbo_store::MailRow { id, person, mine, recipient, subject, body, state, answer, at } = from;
        Self { id, person, mine, recipient, subject, body, state, answer, at }
    }
}

/// A mail as it is to be sent.
#[derive(Debug, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NewMail {
    /// An id of whoever writes it: the same mail asked for twice leaves once.
    pub(crate) id: Uuid,
    /// Its subject, 1 to 150 characters.
    pub(crate) subject: String,
    /// Its text, 1 to 10,000 characters.
    pub(crate) body: String,
}

/// A saved reply, filled with what is known of a lead.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct FilledReply {
    /// Its id.
    id: Uuid,
    /// What it is called.
    name: String,
    /// Its subject.
    subject: String,
    /// Its text.
    body: String,
    /// Chips that nothing is known for.
    missing: Vec<String>,
}

/// What a mail from a lead begins with.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct MailBegin {
    /// The address it goes to; absent where they left none.
    recipient: Option<String>,
    /// Why nobody may write to them, as a sentence.
    stopped: Option<String>,
    /// Saved replies, by name.
    replies: Vec<FilledReply>,
    /// Chips that a saved reply can hold for this lead, with what they show.
    chips: Vec<ReplyChip>,
}

/// A chip of a saved reply.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct ReplyChip {
    /// As it is written between the braces.
    name: String,
    /// What it shows.
    shows: String,
}

impl MailBegin {
    /// What a mail begins with; nobody can write where the server has no mail server.
    pub(crate) fn of(from: lumbo_store::MailBegin, mail_is_on: bool) -> Self {
        let off = || "this server was given no mail server; whoever runs it can give it one".to_owned();
        let stopped = from.stopped.or_else(|| (!mail_is_on).then(off));
        let reply = |reply: lumbo_store::FilledReply| {
            let lumbo_store::FilledReply { id, name, subject, body, missing } = reply;
            FilledReply { id, name, subject, body, missing }
        };
        Self {
            recipient: from.recipient,
            stopped: stopped.map(|why| sentence(&why)),
            replies: from.replies.into_iter().map(reply).collect(),
            chips: from.chips.into_iter().map(|(name, shows)| ReplyChip { name, shows }).collect(),
        }
    }
}

/// A saved reply.
#[derive(Debug, Clone, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct SavedReply {
    /// Its id.
    pub(crate) id: Uuid,
    /// What it is called, 1 to 60 characters.
    pub(crate) name: String,
    /// Its subject, with chips.
    pub(crate) subject: String,
    /// Its text, with chips.
    pub(crate) body: String,
    /// Its revision; 0 for a new one.
    pub(crate) revision: i64,
}

impl From<lumbo_store::SavedReply> for SavedReply {
    fn from(from: lumbo_store::SavedReply) -> Self {
        let lumbo_store::SavedReply { id, name, subject, body, revision } = from;
        Self { id, name, subject, body, revision }
    }
}
