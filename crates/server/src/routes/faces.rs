//! Pictures of people and of the workspace.

use aide::axum::ApiRouter;
use aide::axum::routing::{get_with, post_with};
use axum::extract::State;
use axum::http::StatusCode;
use base64::Engine as _;
use lumbo_store::Medium;
use schemars::JsonSchema;
use serde::Deserialize;
use uuid::Uuid;

use super::media::{media_type, shown};
use crate::answer::{Sent, Shown};
use crate::api::named;
use crate::body::{Body, Path};
use crate::signed::{Administrator, Signed};
use crate::{App, Problem, picture};

/// The name of this area in the document.
const TAG: &str = "Pictures of people";

/// Pictures of people and of the workspace.
pub(crate) fn api() -> ApiRouter<App> {
    ApiRouter::new()
        .api_route("/api/profile/picture", post_with(set, named(TAG, "setPicture", "Change one’s own picture")))
        .api_route("/api/people/{person}/picture", get_with(of_person, named(TAG, "picture", "Somebody’s picture")))
        .api_route(
            "/api/workspace/picture",
            get_with(of_workspace, named(TAG, "workspacePicture", "The workspace’s picture"))
                .post_with(set_workspace, named(TAG, "setWorkspacePicture", "Change the workspace’s picture")),
        )
}

/// Largest picture that is taken, bytes; what is kept of it is small.
const LIMIT: usize = 2 * 1024 * 1024;

/// A picture of somebody, or none.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NewFace {
    /// Its bytes as base64: PNG, JPEG, GIF or WebP, 2 MB at most; absent to take the picture out.
    #[serde(default)]
    content: Option<String>,
}

/// The picture as it is kept: square, small and written anew.
async fn read(app: &App, new: NewFace) -> Result<Option<Medium>, Problem> {
    let Some(text) = new.content else { return Ok(None) };
    let content = base64::engine::general_purpose::STANDARD
        .decode(&text)
        .map_err(|_| Problem::bad("The content is not base64."))?;
    if content.len() > LIMIT {
        return Err(Problem::bad("A picture has at most 2 MB. Save it smaller and try again."));
    }
    let kind = media_type(&content).filter(|kind| kind.starts_with("image/"));
    let kind = kind.ok_or_else(|| Problem::bad("This is no PNG, JPEG, GIF or WebP picture."))?;
    let face = app.busy.work(move || picture::face(kind, &content)).await?;
    let face = face.map_err(|error| Problem::bad(crate::problem::sentence(&error.to_string())))?;
    Ok(Some(Medium { media_type: face.media_type.into(), content: face.content }))
}

pub(crate) async fn set(
    State(app): State<App>,
    Signed(person): Signed,
    Body(new): Body<NewFace>,
) -> Result<StatusCode, Problem> {
    let face = read(&app, new).await?;
    app.store.set_face(person.account, face.as_ref()).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Somebody that an address names.
#[derive(Deserialize, JsonSchema)]
pub(crate) struct FacePath {
    /// Their id.
    person: Uuid,
}

pub(crate) async fn of_person(
    State(app): State<App>,
    Signed(person): Signed,
    Path(path): Path<FacePath>,
) -> Result<Sent<Shown>, Problem> {
    Ok(shown(app.store.face(person.workspace_id, path.person).await?))
}

pub(crate) async fn set_workspace(
    State(app): State<App>,
    Administrator(person): Administrator,
    Body(new): Body<NewFace>,
) -> Result<StatusCode, Problem> {
    let face = read(&app, new).await?;
    app.store.set_workspace_face(&person, face.as_ref()).await?;
    Ok(StatusCode::NO_CONTENT)
}

pub(crate) async fn of_workspace(State(app): State<App>, Signed(person): Signed) -> Result<Sent<Shown>, Problem> {
    Ok(shown(app.store.workspace_face(person.workspace_id).await?))
}
