//! Settings as they cross.

use jiff::Timestamp;
use schemars::JsonSchema;
use serde::Serialize;

/// A secret, for those who manage it.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct VisitorKeyRow {
    /// Named in what is signed.
    pub(crate) id: String,
    /// Who made it.
    pub(crate) made_by: Option<String>,
    /// When, RFC 3339.
    #[schemars(with = "String")]
    pub(crate) made_at: Timestamp,
    /// When something signed with it was last taken, RFC 3339.
    #[schemars(with = "Option<String>")]
    pub(crate) used_at: Option<Timestamp>,
}

impl From<lumbo_store::VisitorKeyRow> for VisitorKeyRow {
    fn from(from: lumbo_store::VisitorKeyRow) -> Self {
        let lumbo_store::VisitorKeyRow { id, made_by, made_at, used_at } = from;
        Self { id, made_by, made_at, used_at }
    }
}
