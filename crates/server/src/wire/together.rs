//! Who else is here, and comments, as they cross.

use jiff::Timestamp;
use schemars::JsonSchema;
use serde::Serialize;
use uuid::Uuid;

/// Somebody who has a draft open.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct Present {
    /// Who.
    pub(crate) person: String,
    /// The row they are at, as `turn:ID`, `arm:ID` or `section:ID`.
    pub(crate) at: Option<String>,
}

impl From<lumbo_store::Present> for Present {
    fn from(from: lumbo_store::Present) -> Self {
        let lumbo_store::Present { person, at } = from;
        Self { person, at }
    }
}

/// What a window asks for now and then.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct Presence {
    /// The draft's revision.
    pub(crate) revision: i64,
    /// The others who have it open.
    pub(crate) here: Vec<Present>,
    /// Open comments.
    pub(crate) open_comments: i64,
}

impl From<lumbo_store::Presence> for Presence {
    fn from(from: lumbo_store::Presence) -> Self {
        let lumbo_store::Presence { revision, here, open_comments } = from;
        Self { revision, here: here.into_iter().map(Into::into).collect(), open_comments }
    }
}

/// A comment.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct Comment {
    /// Its id.
    pub(crate) id: Uuid,
    /// The row it is about, as `turn:ID`, `arm:ID` or `section:ID`.
    pub(crate) at: String,
    /// Who says it.
    pub(crate) person: String,
    /// What it says.
    pub(crate) says: String,
    /// When, RFC 3339.
    #[schemars(with = "String")]
    pub(crate) made_at: Timestamp,
    /// Who resolved it; absent while it is open.
    pub(crate) resolved_by: Option<String>,
}

impl From<lumbo_store::Comment> for Comment {
    fn from(from: lumbo_store::Comment) -> Self {
        let lumbo_store::Comment { id, at, person, says, made_at, resolved_by } = from;
        Self { id, at, person, says, made_at, resolved_by }
    }
}
