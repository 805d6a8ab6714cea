//! Releases.

use axum::Json;
use axum::extract::{Path, State};
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

pub(crate) async fn list(State(app): State<App>, Writer(person): Writer, Path(path): Path<DialoguePath>) -> Result<Json<Vec<ReleaseRow>>, Problem> {
    app.store.draft(person.workspace_id, path.dialogue).await?;
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
