//! How a workspace's work goes: jobs, sizes, versions.

use aide::axum::ApiRouter;
use aide::axum::routing::{get_with, post_with};
use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use schemars::JsonSchema;
use serde::Deserialize;
use uuid::Uuid;

use crate::api::named;
use crate::body::Path;
use crate::signed::Administrator;
use crate::wire::running::RunningView;
use crate::{App, Problem};

/// The name of this area in the document.
const TAG: &str = "Jobs and sizes";

/// Jobs, sizes, versions.
pub(crate) fn api() -> ApiRouter<App> {
    ApiRouter::new()
        .api_route("/api/running", get_with(running, named(TAG, "running", "How the workspace’s work goes")))
        .api_route(
            "/api/running/jobs/{job}/again",
            post_with(again, named(TAG, "runAgain", "Run a job that was given up again")),
        )
}

pub(crate) async fn running(
    State(app): State<App>,
    Administrator(person): Administrator,
) -> Result<Json<RunningView>, Problem> {
    Ok(Json(app.store.running(person.workspace_id).await?.into()))
}

/// A job that an address names.
#[derive(Deserialize, JsonSchema)]
pub(crate) struct JobPath {
    /// Its id.
    job: Uuid,
}

pub(crate) async fn again(
    State(app): State<App>,
    Administrator(person): Administrator,
    Path(path): Path<JobPath>,
) -> Result<StatusCode, Problem> {
    app.store.run_again(person.workspace_id, person.id, path.job).await?;
    Ok(StatusCode::NO_CONTENT)
}
