//! What one is told in the application, and how one wants to be.

use aide::axum::ApiRouter;
use aide::axum::routing::{get_with, post_with};
use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use jiff::Timestamp;
use lumbo_store::{Alerts, NoticeKind};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

use crate::api::named;
use crate::body::Body;
use crate::signed::Signed;
use crate::{App, Problem};

const TAG: &str = "Notices";

/// Notices.
pub(crate) fn api() -> ApiRouter<App> {
    ApiRouter::new()
        .api_route("/api/notices", get_with(list, named(TAG, "notices", "What one was told lately")))
        .api_route("/api/notices/seen", post_with(seen, named(TAG, "seeNotices", "Note that one has seen it")))
        .api_route(
            "/api/alerts",
            get_with(alerts, named(TAG, "alerts", "How one wants to be told"))
                .post_with(put_alerts, named(TAG, "putAlerts", "Say how one wants to be told")),
        )
}

/// A lead as a notice tells of it.
#[derive(Serialize, JsonSchema)]
pub(crate) struct NoticeLead {
    /// Its id.
    id: Uuid,
    /// Its revision; whoever takes it names it.
    revision: i64,
    /// Who.
    name: Option<String>,
    /// Their company.
    company: Option<String>,
    /// What they want.
    wants: String,
    /// Their number, E.164.
    phone: Option<String>,
    /// The band's name.
    band: Option<String>,
    /// Its place from the lowest, 0.
    band_rank: i32,
    /// When to call at the latest, RFC 3339.
    #[schemars(with = "Option<String>")]
    call_by: Option<Timestamp>,
    /// Who has it.
    owner: Option<String>,
    /// Whether it is the reader's.
    mine: bool,
    /// Whether nobody tried to reach them yet.
    untried: bool,
}

/// Something else that a notice tells of.
#[derive(Serialize, JsonSchema)]
pub(crate) struct NoticeAbout {
    /// Its id.
    id: Uuid,
    /// What it is called.
    label: String,
    /// Who asks.
    name: Option<String>,
}

/// A notice.
#[derive(Serialize, JsonSchema)]
pub(crate) struct NoticeRow {
    /// Its id.
    id: Uuid,
    /// What it says.
    kind: NoticeKind,
    /// When, RFC 3339.
    #[schemars(with = "String")]
    at: Timestamp,
    /// Whether it was seen.
    seen: bool,
    /// The lead it is about.
    lead: Option<NoticeLead>,
    /// The request it is about.
    request: Option<NoticeAbout>,
    /// The destination it is about.
    destination: Option<NoticeAbout>,
    /// The task it is about: its lead, what is owed, the lead's name.
    task: Option<NoticeAbout>,
}

impl From<lumbo_store::NoticeRow> for NoticeRow {
    fn from(from: lumbo_store::NoticeRow) -> Self {
        let lumbo_store::NoticeRow { id, kind, at, seen, lead, request, destination, task } = from;
        let lead = lead.map(|lead| {
            let lumbo_store::NoticeLead {
                id,
                revision,
                name,
                company,
                wants,
                phone,
                band,
                band_rank,
                call_by,
                owner,
                mine,
                untried,
            } = lead;
            NoticeLead { id, revision, name, company, wants, phone, band, band_rank, call_by, owner, mine, untried }
        });
        let request = request.map(|(id, label, name)| NoticeAbout { id, label, name });
        let destination = destination.map(|(id, label)| NoticeAbout { id, label, name: None });
        let task = task.map(|(id, label, name)| NoticeAbout { id, label, name });
        Self { id, kind, at, seen, lead, request, destination, task }
    }
}

/// What one was told.
#[derive(Serialize, JsonSchema)]
pub(crate) struct NoticesView {
    /// The newest first.
    notices: Vec<NoticeRow>,
    /// How many one has not seen.
    unseen: i64,
}

pub(crate) async fn list(State(app): State<App>, Signed(person): Signed) -> Result<Json<NoticesView>, Problem> {
    let (rows, unseen) = app.store.notices(&person).await?;
    Ok(Json(NoticesView { notices: rows.into_iter().map(Into::into).collect(), unseen }))
}

/// What one has seen.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NoticesSeen {
    /// This one; all of them where absent.
    #[serde(default)]
    notice: Option<Uuid>,
}

pub(crate) async fn seen(
    State(app): State<App>,
    Signed(person): Signed,
    Body(body): Body<NoticesSeen>,
) -> Result<StatusCode, Problem> {
    app.store.notices_seen(&person, body.notice).await?;
    Ok(StatusCode::NO_CONTENT)
}

pub(crate) async fn alerts(State(app): State<App>, Signed(person): Signed) -> Result<Json<Alerts>, Problem> {
    Ok(Json(app.store.alerts(&person).await?))
}

pub(crate) async fn put_alerts(
    State(app): State<App>,
    Signed(person): Signed,
    Body(alerts): Body<Alerts>,
) -> Result<StatusCode, Problem> {
    if !(-1..100).contains(&alerts.from_rank) || alerts.from_hour > 23 || alerts.until_hour > 24 {
        return Err(Problem::bad("Pick a band and hours that there are."));
    }
    app.store.put_alerts(&person, &alerts).await?;
    Ok(StatusCode::NO_CONTENT)
}
