//! Releases.

use std::sync::Arc;

use axum::Json;
use axum::extract::{Path, Query, State};
use lumbo_dialogue::file::Dialogue;
use lumbo_outline::{Compared, compare};
use lumbo_store::ReleaseRow;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use super::DialoguePath;
use crate::body::Body;
use crate::signed::Writer;
use crate::{App, Problem};

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
    Ok(Json(app.store.releases(person.workspace_id, path.dialogue).await?))
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
    app.store.put_on_air(person.workspace_id, path.dialogue, body.number).await?;
    Ok(Json(app.store.releases(person.workspace_id, path.dialogue).await?))
}
