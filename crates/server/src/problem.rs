//! Failures as RFC 9457 problem documents.

use aide::OperationOutput;
use aide::generate::GenContext;
use aide::openapi::{MediaType, Operation, Response as ApiResponse, SchemaObject};
use axum::http::{StatusCode, header};
use axum::response::{IntoResponse, Response};
use lumbo_checks::Finding;
use lumbo_dialogue::talk::Refusal;
use lumbo_store::{CatalogueError, DraftError, ReleaseError, StoreError, TakeError};
use schemars::JsonSchema;
use serde::Serialize;

use crate::wire::drafts::EditLogRow;

/// A failure: a stable code for programs, a sentence for people.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub struct Problem {
    /// `urn:lumbo:problem:` and a stable code.
    #[serde(rename = "type")]
    pub kind: String,
    /// The code in words.
    pub title: String,
    /// HTTP status.
    pub status: u16,
    /// What went wrong and what to do.
    pub detail: String,
    /// The revision or sequence number that is current, for conflicts.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub current: Option<i64>,
    /// What was changed meanwhile, for stale drafts.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub since: Vec<EditLogRow>,
    /// What blocks a release.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub findings: Vec<Finding>,
}

impl Problem {
    /// A problem by code.
    pub fn new(status: StatusCode, code: &str, detail: impl Into<String>) -> Self {
        Self {
            kind: format!("urn:lumbo:problem:{code}"),
            title: code.replace('-', " "),
            status: status.as_u16(),
            detail: detail.into(),
            current: None,
            since: Vec::new(),
            findings: Vec::new(),
        }
    }

    /// Nobody is signed in.
    #[must_use]
    pub fn signed_out() -> Self {
        Self::new(StatusCode::UNAUTHORIZED, "signed-out", "You are signed out. Sign in and try again.")
    }

    /// The role does not allow it.
    #[must_use]
    pub fn forbidden(detail: &str) -> Self {
        Self::new(StatusCode::FORBIDDEN, "forbidden", detail)
    }

    /// Input that cannot be taken.
    pub fn bad(detail: impl Into<String>) -> Self {
        Self::new(StatusCode::UNPROCESSABLE_ENTITY, "bad-input", detail)
    }

    /// Nothing has this address.
    #[must_use]
    pub fn no_address() -> Self {
        Self::new(StatusCode::NOT_FOUND, "not-found", "There is nothing at this address.")
    }

    /// What we stand on does not answer at the moment.
    #[must_use]
    pub fn away() -> Self {
        Self::new(
            StatusCode::SERVICE_UNAVAILABLE,
            "away",
            "Something we need does not answer at the moment. Nothing was changed; try again in a few seconds.",
        )
    }

    /// Our own failure; what happened is in the log, not in the answer.
    #[must_use]
    pub fn internal() -> Self {
        Self::new(
            StatusCode::INTERNAL_SERVER_ERROR,
            "failed",
            "Something failed on our side. Nothing was changed; try again in a moment.",
        )
    }
}

impl IntoResponse for Problem {
    fn into_response(self) -> Response {
        let status = StatusCode::from_u16(self.status).unwrap_or(StatusCode::INTERNAL_SERVER_ERROR);
        let body = serde_json::to_string(&self).unwrap_or_default();
        let mut response = (status, [(header::CONTENT_TYPE, "application/problem+json")], body).into_response();
        if matches!(status, StatusCode::TOO_MANY_REQUESTS | StatusCode::SERVICE_UNAVAILABLE) {
            response.headers_mut().insert(header::RETRY_AFTER, header::HeaderValue::from_static("5"));
        }
        response
    }
}

impl OperationOutput for Problem {
    type Inner = Self;

    fn operation_response(context: &mut GenContext, _operation: &mut Operation) -> Option<ApiResponse> {
        let json_schema = context.schema.subschema_for::<Self>();
        let media = MediaType {
            schema: Some(SchemaObject { json_schema, external_docs: None, example: None }),
            ..MediaType::default()
        };
        Some(ApiResponse {
            description: "A problem document (RFC 9457)".into(),
            content: [("application/problem+json".to_owned(), media)].into_iter().collect(),
            ..ApiResponse::default()
        })
    }

    fn inferred_responses(context: &mut GenContext, operation: &mut Operation) -> Vec<(Option<u16>, ApiResponse)> {
        Self::operation_response(context, operation).map(|response| (None, response)).into_iter().collect()
    }
}

impl From<StoreError> for Problem {
    fn from(error: StoreError) -> Self {
        match error {
            StoreError::NotFound(what) => {
                Self::new(StatusCode::NOT_FOUND, "not-found", format!("There is no such {what}."))
            }
            StoreError::Conflict(says) => Self::new(StatusCode::CONFLICT, "conflict", sentence(&says)),
            StoreError::Wrong(says) => Self::bad(sentence(&says)),
            StoreError::Unkeepable => Self::bad(sentence(&error.to_string())),
            StoreError::Away(says) => {
                tracing::error!(error = says, "the database does not answer");
                Self::away()
            }
            StoreError::Newer(error) => {
                tracing::warn!(%error, "a newer version has gone on with it");
                Self::away()
            }
            error @ (StoreError::Kept(_) | StoreError::Database(_)) => {
                tracing::error!(%error, "store");
                Self::internal()
            }
        }
    }
}

impl From<DraftError> for Problem {
    fn from(error: DraftError) -> Self {
        match error {
            DraftError::Stale { revision, since } => {
                let detail = "Somebody changed this draft meanwhile. Your change is not lost: look at theirs, then \
                    make yours again or drop it.";
                let since = since.into_iter().map(Into::into).collect();
                Self { current: Some(revision), since, ..Self::new(StatusCode::CONFLICT, "stale-draft", detail) }
            }
            error @ (DraftError::Edit(_) | DraftError::Gesture(_) | DraftError::TooLarge) => {
                Self::bad(sentence(&error.to_string()))
            }
            DraftError::Store(error) => error.into(),
        }
    }
}

impl From<CatalogueError> for Problem {
    fn from(error: CatalogueError) -> Self {
        match error {
            CatalogueError::Unsound(_) => Self::bad(sentence(&error.to_string())),
            CatalogueError::Stale(_) | CatalogueError::InUse { .. } => {
                Self::new(StatusCode::CONFLICT, "conflict", sentence(&error.to_string()))
            }
            CatalogueError::Draft(error) => error.into(),
            CatalogueError::Store(error) => error.into(),
        }
    }
}

impl From<ReleaseError> for Problem {
    fn from(error: ReleaseError) -> Self {
        match error {
            ReleaseError::Stale(revision) => Self {
                current: Some(revision),
                ..Self::new(StatusCode::CONFLICT, "stale-draft", sentence(&error.to_string()))
            },
            ReleaseError::Blocked(findings) => Self {
                findings,
                ..Self::new(
                    StatusCode::UNPROCESSABLE_ENTITY,
                    "blocked",
                    "Some findings block this release. Mend them first; each says how.",
                )
            },
            ReleaseError::Store(error) => error.into(),
        }
    }
}

impl From<TakeError> for Problem {
    fn from(error: TakeError) -> Self {
        match error {
            TakeError::Refused(refusal) => {
                let (status, code, current) = match refusal {
                    Refusal::Sequence { expected, .. } => (StatusCode::CONFLICT, "gone-on", Some(i64::from(expected))),
                    Refusal::Ended => (StatusCode::CONFLICT, "ended", None),
                    Refusal::TooSoon => (StatusCode::CONFLICT, "too-soon", None),
                    Refusal::TooLong | Refusal::TooMany => (StatusCode::PAYLOAD_TOO_LARGE, "too-long", None),
                    Refusal::Id => (StatusCode::UNPROCESSABLE_ENTITY, "bad-input", None),
                    Refusal::Start
                    | Refusal::NoOption(_)
                    | Refusal::NoSkip
                    | Refusal::NoForm
                    | Refusal::NoAnswer
                    | Refusal::NoLead => (StatusCode::UNPROCESSABLE_ENTITY, "bad-input", None),
                };
                Self { current, ..Self::new(status, code, sentence(&refusal.to_string())) }
            }
            TakeError::Store(error) => error.into(),
        }
    }
}

/// Makes an error's text a sentence.
pub(crate) fn sentence(text: &str) -> String {
    let mut chars = text.chars();
    let first: String = chars.next().map(|c| c.to_uppercase().collect()).unwrap_or_default();
    let rest = chars.as_str().trim_end_matches('.');
    // Three dots end a sentence too.
    format!("{first}{rest}{}", if rest.ends_with('…') { "" } else { "." })
}
