//! Changes of drafts as they cross.

use jiff::Timestamp;
use lumbo_outline::Edit;
use schemars::JsonSchema;
use serde::Serialize;

/// An edit in the log.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub struct EditLogRow {
    /// The revision it made.
    pub revision: i64,
    /// Who.
    pub person: String,
    /// When, RFC 3339.
    #[schemars(with = "String")]
    pub at: Timestamp,
    /// What was touched, by id.
    pub touches: Vec<String>,
    /// The edits.
    pub edits: Vec<Edit>,
}

impl From<lumbo_store::EditLogRow> for EditLogRow {
    fn from(from: lumbo_store::EditLogRow) -> Self {
        let lumbo_store::EditLogRow { revision, person, at, touches, edits } = from;
        Self { revision, person, at, touches, edits }
    }
}
