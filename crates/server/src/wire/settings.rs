//! Settings as they cross.

use jiff::Timestamp;
use lumbo_people::Scope;
use lumbo_store::TokenRow;
use schemars::JsonSchema;
use serde::Serialize;
use uuid::Uuid;

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

/// A token for a program, without the token itself.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct ApiToken {
    /// Id.
    id: Uuid,
    /// What it is for.
    name: String,
    /// Its last four characters.
    ending: String,
    /// What it may be used for.
    scopes: Vec<Scope>,
    /// Who made it, and whom it acts as.
    made_by: String,
    /// When it was made, RFC 3339.
    #[schemars(with = "String")]
    made_at: Timestamp,
    /// When it ends, RFC 3339.
    #[schemars(with = "String")]
    expires_at: Timestamp,
    /// When it was last used, to within five minutes, RFC 3339.
    #[schemars(with = "Option<String>")]
    used_at: Option<Timestamp>,
    /// Whether it still does something.
    state: TokenState,
}

/// Whether a token still does something.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub(crate) enum TokenState {
    /// It does.
    Works,
    /// Its time is over.
    Expired,
    /// Somebody ended it.
    Ended,
    /// Whoever made it has no access any more.
    MakerLeft,
}

impl ApiToken {
    /// A token as it stands at a moment.
    pub(crate) fn of(row: TokenRow, now: Timestamp) -> Self {
        let state = if row.ended_at.is_some() {
            TokenState::Ended
        } else if row.expires_at <= now {
            TokenState::Expired
        } else if row.made_by_active {
            TokenState::Works
        } else {
            TokenState::MakerLeft
        };
        let TokenRow { id, name, ending, scopes, made_by, made_at, expires_at, used_at, .. } = row;
        Self { id, name, ending, scopes, made_by, made_at, expires_at, used_at, state }
    }
}
