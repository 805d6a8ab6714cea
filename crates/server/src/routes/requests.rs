//! Requests: what outcomes that are no lead leave behind for somebody.

use aide::axum::ApiRouter;
use aide::axum::routing::get_with;
use axum::Json;
use axum::extract::State;
use lumbo_store::RequestAct;
use schemars::JsonSchema;
use serde::Deserialize;
use uuid::Uuid;

use super::leads::note_of;
use crate::api::named;
use crate::body::{Body, Path, Query};
use crate::signed::{LeadReader, LeadWorker};
use crate::wire::requests::{RequestChange, RequestDeed, RequestDetail, RequestRow};
use crate::{App, Problem};

/// The name of this area in the document.
const TAG: &str = "Requests";

/// Requests.
pub(crate) fn api() -> ApiRouter<App> {
    ApiRouter::new()
        .api_route("/api/requests", get_with(list, named(TAG, "requests", "Requests, by when they are to be answered")))
        .api_route(
            "/api/requests/{request}",
            get_with(detail, named(TAG, "request", "One request"))
                .post_with(change, named(TAG, "changeRequest", "Take a request, pass it on, say that it is done")),
        )
}

/// Which requests.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct WantedRequests {
    /// True for those that are done, the newest first.
    #[serde(default)]
    done: bool,
}

/// The request that an address names.
#[derive(Deserialize, JsonSchema)]
pub(crate) struct RequestPath {
    /// Its id.
    request: Uuid,
}

pub(crate) async fn list(
    State(app): State<App>,
    LeadReader(person): LeadReader,
    Query(wanted): Query<WantedRequests>,
) -> Result<Json<Vec<RequestRow>>, Problem> {
    Ok(Json(app.store.requests(&person, wanted.done).await?.into_iter().map(Into::into).collect()))
}

pub(crate) async fn detail(
    State(app): State<App>,
    LeadReader(person): LeadReader,
    Path(path): Path<RequestPath>,
) -> Result<Json<RequestDetail>, Problem> {
    Ok(Json(app.store.request(&person, path.request).await?.into()))
}

pub(crate) async fn change(
    State(app): State<App>,
    LeadWorker(person): LeadWorker,
    Path(path): Path<RequestPath>,
    Body(change): Body<RequestChange>,
) -> Result<Json<RequestDetail>, Problem> {
    let act = match change.act {
        RequestDeed::Give => RequestAct::Give(change.to.unwrap_or(person.id)),
        RequestDeed::Done => RequestAct::Done(note_of(change.note)?),
        RequestDeed::Reopen => RequestAct::Reopen,
    };
    Ok(Json(app.store.change_request(&person, path.request, change.revision, &act).await?.into()))
}
