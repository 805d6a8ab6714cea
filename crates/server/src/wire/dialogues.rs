//! Dialogues as they cross.

use jiff::Timestamp;
use schemars::JsonSchema;
use serde::Serialize;
use uuid::Uuid;

/// A line of the list of dialogues.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct DialogueRow {
    /// Its id.
    pub(crate) id: Uuid,
    /// Its title.
    pub(crate) title: String,
    /// Its address on the prospects' side.
    pub(crate) slug: String,
    /// Number of the release that is on air.
    pub(crate) on_air: Option<i32>,
    /// Changes of the draft since the newest release; absent before the first.
    pub(crate) changes: Option<i64>,
    /// Conversations started in the last 30 days.
    pub(crate) conversations: i64,
    /// Leads filed in the last 30 days.
    pub(crate) leads: i64,
    /// When the draft was last changed, RFC 3339.
    #[schemars(with = "String")]
    pub(crate) changed_at: Timestamp,
    /// Who changed it.
    pub(crate) changed_by: Option<String>,
}

impl From<lumbo_store::DialogueRow> for DialogueRow {
    fn from(from: lumbo_store::DialogueRow) -> Self {
        let lumbo_store::DialogueRow { id, title, slug, on_air, changes, conversations, leads, changed_at, changed_by } =
            from;
        Self { id, title, slug, on_air, changes, conversations, leads, changed_at, changed_by }
    }
}
