//! Who did what.

use aide::axum::ApiRouter;
use aide::axum::routing::get_with;
use axum::Json;
use axum::extract::State;
use axum::http::header;
use jiff::Timestamp;
use lumbo_deliver::table;
use lumbo_store::{AuditQuery, Audited};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

use crate::answer::{Csv, Sent};
use crate::api::named;
use crate::body::Query;
use crate::signed::Auditor;
use crate::wire::people::AuditRow;
use crate::{App, Problem};

/// The name of this area in the document.
const TAG: &str = "Audit";

/// The audit.
pub(crate) fn api() -> ApiRouter<App> {
    ApiRouter::new()
        .api_route("/api/audit", get_with(page, named(TAG, "audit", "Who did what, newest first")))
        .api_route("/api/audit.csv", get_with(file, named(TAG, "auditFile", "Who did what, as a table")))
}

/// What is looked for.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Wanted {
    /// Only by this person.
    #[serde(default)]
    person: Option<Uuid>,
    /// Only this.
    #[serde(default)]
    what: Option<Audited>,
    /// From this moment on, RFC 3339.
    #[serde(default)]
    #[schemars(with = "Option<String>")]
    from: Option<Timestamp>,
    /// Before this moment, RFC 3339.
    #[serde(default)]
    #[schemars(with = "Option<String>")]
    to: Option<Timestamp>,
    /// Older than this entry.
    #[serde(default)]
    before: Option<i64>,
}

impl From<Wanted> for AuditQuery {
    fn from(wanted: Wanted) -> Self {
        let Wanted { person, what, from, to, before } = wanted;
        Self { person, what, from, to, before }
    }
}

/// A page of entries.
#[derive(Serialize, JsonSchema)]
pub(crate) struct AuditPage {
    /// Newest first.
    entries: Vec<AuditRow>,
    /// Whether there are older ones.
    more: bool,
}

pub(crate) async fn page(
    State(app): State<App>,
    Auditor(person): Auditor,
    Query(wanted): Query<Wanted>,
) -> Result<Json<AuditPage>, Problem> {
    let (entries, more) = app.store.audit_page(person.workspace_id, &wanted.into()).await?;
    Ok(Json(AuditPage { entries: entries.into_iter().map(Into::into).collect(), more }))
}

pub(crate) async fn file(
    State(app): State<App>,
    Auditor(person): Auditor,
    Query(wanted): Query<Wanted>,
) -> Result<Sent<Csv>, Problem> {
    let rows = app.store.audit_file(&person, &wanted.into()).await?;
    let lines = rows.into_iter().map(|row| {
        [row.at.to_string(), row.person.unwrap_or_default(), row.what, row.about, row.network.unwrap_or_default()]
    });
    let text = table::csv(&["at", "person", "what", "about", "network"], lines);
    Ok(Sent::new((
        [
            (header::CONTENT_TYPE, "text/csv; charset=utf-8"),
            (header::CONTENT_DISPOSITION, "attachment; filename=\"audit.csv\""),
        ],
        text,
    )))
}
