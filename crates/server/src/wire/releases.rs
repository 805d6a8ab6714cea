//! Releases as they cross.

use jiff::Timestamp;
use schemars::JsonSchema;
use serde::Serialize;
use uuid::Uuid;

/// A line of the list of releases.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct ReleaseRow {
    /// Its id.
    pub(crate) id: Uuid,
    /// Its number, from 1.
    pub(crate) number: i32,
    /// The author's note.
    pub(crate) note: String,
    /// Who made it.
    pub(crate) made_by: Option<String>,
    /// When, RFC 3339.
    #[schemars(with = "String")]
    pub(crate) made_at: Timestamp,
    /// True for the one that new conversations get.
    pub(crate) on_air: bool,
    /// Conversations on it.
    pub(crate) conversations: i64,
    /// Of those, still open.
    pub(crate) open: i64,
}

impl From<lumbo_store::ReleaseRow> for ReleaseRow {
    fn from(from: lumbo_store::ReleaseRow) -> Self {
        let lumbo_store::ReleaseRow { id, number, note, made_by, made_at, on_air, conversations, open } = from;
        Self { id, number, note, made_by, made_at, on_air, conversations, open }
    }
}
