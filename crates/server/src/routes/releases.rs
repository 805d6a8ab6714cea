//! Releases.

use aide::axum::ApiRouter;
use aide::axum::routing::{get_with, post_with};
use std::sync::Arc;

use axum::Json;
use axum::extract::State;
use lumbo_dialogue::file::Dialogue;
use lumbo_outline::{Compared, compare};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use super::DialoguePath;
use crate::api::named;
use crate::body::{Body, Path, Query};
use crate::signed::Writer;
use crate::wire::releases::ReleaseRow;
use crate::{App, Problem};

/// The name of this area in the document.
const TAG: &str = "Releases";

/// Releases.
pub(crate) fn api() -> ApiRouter<App> {
    ApiRouter::new()
        .api_route(
            "/api/dialogues/{dialogue}/releases",
            get_with(list, named(TAG, "releases", "A dialogue’s releases"))
                .post_with(create, named(TAG, "release", "Release the draft")),
        )
        .api_route(
            "/api/dialogues/{dialogue}/releases/compare",
            get_with(compare_two, named(TAG, "compareReleases", "Compare two releases, or one with the draft")),
        )
        .api_route(
            "/api/dialogues/{dialogue}/releases/{number}",
            get_with(body, named(TAG, "releaseBody", "A release’s dialogue")),
        )
        .api_route(
            "/api/dialogues/{dialogue}/on-air",
            post_with(put_on_air, named(TAG, "putOnAir", "Put a release on air, or take the dialogue off air")),
        )
}

/// A release to make.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NewRelease {
    /// The draft's revision that the author looked at.
    revision: i64,
    /// What changed, 1 to 500 characters.
    note: String,
}

/// A release that was made.
#[derive(Serialize, JsonSchema)]
pub(crate) struct MadeRelease {
    /// Its number.
    number: i32,
}

pub(crate) async fn list(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<DialoguePath>,
) -> Result<Json<Vec<ReleaseRow>>, Problem> {
    app.store.has_dialogue(person.workspace_id, path.dialogue).await?;
    Ok(Json(app.store.releases(person.workspace_id, path.dialogue).await?.into_iter().map(Into::into).collect()))
}

pub(crate) async fn create(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<DialoguePath>,
    Body(new): Body<NewRelease>,
) -> Result<Json<MadeRelease>, Problem> {
    let note = new.note.trim();
    if note.is_empty() || note.chars().count() > 500 {
        return Err(Problem::bad("Say in a note what changed, in 1 to 500 characters."));
    }
    let number = app.store.release(person.workspace_id, path.dialogue, Some(person.id), new.revision, note).await?;
    Ok(Json(MadeRelease { number }))
}

/// A release of a dialogue.
#[derive(Deserialize, JsonSchema)]
pub(crate) struct ReleasePath {
    /// The dialogue.
    dialogue: uuid::Uuid,
    /// The release's number.
    number: i32,
}

/// Two versions to compare.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Versions {
    /// The older one's number.
    from: i32,
    /// The newer one's number; the draft where absent.
    to: Option<i32>,
}

pub(crate) async fn compare_two(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<DialoguePath>,
    Query(versions): Query<Versions>,
) -> Result<Json<Compared>, Problem> {
    let old = app.store.release_body(person.workspace_id, path.dialogue, versions.from).await?;
    let new = match versions.to {
        Some(number) => Arc::new(app.store.release_body(person.workspace_id, path.dialogue, number).await?),
        None => app.store.draft(person.workspace_id, path.dialogue).await?.body,
    };
    Ok(Json(app.busy.work(move || compare(&old, &new)).await?))
}

/// A release's dialogue, to bring it back as the draft.
pub(crate) async fn body(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<ReleasePath>,
) -> Result<Json<Dialogue>, Problem> {
    Ok(Json(app.store.release_body(person.workspace_id, path.dialogue, path.number).await?))
}

/// What is put on air.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct OnAir {
    /// The release's number; absent takes the dialogue off air.
    number: Option<i32>,
}

pub(crate) async fn put_on_air(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<DialoguePath>,
    Body(body): Body<OnAir>,
) -> Result<Json<Vec<ReleaseRow>>, Problem> {
    app.store.put_on_air(person.workspace_id, person.id, path.dialogue, body.number).await?;
    Ok(Json(app.store.releases(person.workspace_id, path.dialogue).await?.into_iter().map(Into::into).collect()))
}
