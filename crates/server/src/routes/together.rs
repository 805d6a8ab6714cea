//! Working on one draft together: who is here, and comments.

use aide::axum::ApiRouter;
use aide::axum::routing::{get_with, post_with};
use axum::Json;
use axum::extract::State;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

use super::DialoguePath;
use crate::api::named;
use crate::body::{Body, Path};
use crate::signed::Writer;
use crate::wire::together::{Comment, Presence};
use crate::{App, Problem};

/// The name of this area in the document.
const TAG: &str = "Writing together";

/// Who else is here, and comments.
pub(crate) fn api() -> ApiRouter<App> {
    ApiRouter::new()
        .api_route(
            "/api/dialogues/{dialogue}/presence",
            post_with(present, named(TAG, "present", "Say that a draft is open, and learn who else has it open")),
        )
        .api_route(
            "/api/dialogues/{dialogue}/comments",
            get_with(comments, named(TAG, "comments", "Comments on a draft"))
                .post_with(add, named(TAG, "addComment", "Comment on a row")),
        )
        .api_route(
            "/api/dialogues/{dialogue}/comments/{comment}",
            post_with(resolve, named(TAG, "resolveComment", "Resolve a comment, or open it again")),
        )
}

/// Longest comment, characters.
const COMMENT_LIMIT: usize = 2_000;
/// Longest name of a row, bytes.
const ROW_LIMIT: usize = 60;

/// Where somebody is.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Here {
    /// The row they are at.
    #[serde(default)]
    at: Option<String>,
}

pub(crate) async fn present(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<DialoguePath>,
    Body(here): Body<Here>,
) -> Result<Json<Presence>, Problem> {
    let at = here.at.as_deref().filter(|at| at.len() <= ROW_LIMIT);
    Ok(Json(app.store.present(person.workspace_id, path.dialogue, person.id, at).await?.into()))
}

pub(crate) async fn comments(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<DialoguePath>,
) -> Result<Json<Vec<Comment>>, Problem> {
    app.store.has_dialogue(person.workspace_id, path.dialogue).await?;
    Ok(Json(app.store.comments(person.workspace_id, path.dialogue).await?.into_iter().map(Into::into).collect()))
}

/// A comment to make.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NewComment {
    /// The row it is about, as `turn:ID`, `arm:ID` or `section:ID`.
    at: String,
    /// What it says, 1 to 2,000 characters.
    says: String,
}

/// A comment that was made.
#[derive(Serialize, JsonSchema)]
pub(crate) struct MadeComment {
    /// Its id.
    id: Uuid,
}

pub(crate) async fn add(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<DialoguePath>,
    Body(new): Body<NewComment>,
) -> Result<Json<MadeComment>, Problem> {
    let says = new.says.trim();
    if says.is_empty() || says.chars().count() > COMMENT_LIMIT || new.at.is_empty() || new.at.len() > ROW_LIMIT {
        return Err(Problem::bad(format!("A comment has 1 to {COMMENT_LIMIT} characters and stands at a row.")));
    }
    let id = app.store.add_comment(person.workspace_id, path.dialogue, person.id, &new.at, says).await?;
    Ok(Json(MadeComment { id }))
}

/// A comment of a dialogue.
#[derive(Deserialize, JsonSchema)]
pub(crate) struct CommentPath {
    /// The dialogue.
    dialogue: Uuid,
    /// The comment.
    comment: Uuid,
}

/// What becomes of a comment.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Resolve {
    /// True to resolve it, false to open it again.
    resolved: bool,
}

pub(crate) async fn resolve(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<CommentPath>,
    Body(body): Body<Resolve>,
) -> Result<Json<MadeComment>, Problem> {
    app.store.resolve_comment(person.workspace_id, path.dialogue, path.comment, person.id, body.resolved).await?;
    Ok(Json(MadeComment { id: path.comment }))
}
