//! Tokens with which programs use the API.

use aide::axum::ApiRouter;
use aide::axum::routing::{get_with, post_with};
use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use jiff::{SignedDuration, Timestamp};
use lumbo_people::{LONGEST_DAYS, Scope};
use lumbo_store::NewToken;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

use crate::api::named;
use crate::body::{Body, Path};
use crate::secret::link_secret;
use crate::signed::SecretKeeper;
use crate::typed::name;
use crate::wire::settings::ApiToken;
use crate::{App, Problem, bearer};

/// The name of this area in the document.
const TAG: &str = "API tokens";

/// Tokens for programs.
pub(crate) fn api() -> ApiRouter<App> {
    ApiRouter::new()
        .api_route(
            "/api/tokens",
            get_with(tokens, named(TAG, "tokens", "Tokens for programs, newest first"))
                .post_with(make, named(TAG, "makeToken", "Make a token for a program")),
        )
        .api_route("/api/tokens/{token}/end", post_with(end, named(TAG, "endToken", "End a token")))
}

pub(crate) async fn tokens(
    State(app): State<App>,
    SecretKeeper(person): SecretKeeper,
) -> Result<Json<Vec<ApiToken>>, Problem> {
    let now = app.store.now();
    Ok(Json(app.store.api_tokens(person.workspace_id).await?.into_iter().map(|row| ApiToken::of(row, now)).collect()))
}

/// A token to make.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NewTokenBody {
    /// What it is for.
    name: String,
    /// What it may be used for.
    scopes: Vec<Scope>,
    /// How many days it lasts, 1 to 366.
    days: u16,
}

/// A token that was made. It is shown this once.
#[derive(Serialize, JsonSchema)]
pub(crate) struct MadeToken {
    /// Its id.
    id: Uuid,
    /// Goes into `Authorization: Bearer`.
    token: String,
    /// When it ends, RFC 3339.
    #[schemars(with = "String")]
    expires_at: Timestamp,
}

pub(crate) async fn make(
    State(app): State<App>,
    SecretKeeper(person): SecretKeeper,
    Body(body): Body<NewTokenBody>,
) -> Result<Json<MadeToken>, Problem> {
    let name = name(&body.name, "the token’s")?;
    let mut scopes = Vec::new();
    for scope in body.scopes {
        if !scopes.contains(&scope) {
            scopes.push(scope);
        }
    }
    if scopes.is_empty() {
        return Err(Problem::bad("Say what the token may be used for: tick one at least."));
    }
    if !(1..=LONGEST_DAYS).contains(&body.days) {
        return Err(Problem::bad(format!("A token lasts 1 to {LONGEST_DAYS} days.")));
    }
    let expires_at = app
        .store
        .now()
        .checked_add(SignedDuration::from_hours(24 * i64::from(body.days)))
        .map_err(|_| Problem::internal())?;
    let (secret, _) = link_secret();
    let token = format!("{}{secret}", bearer::BEGINS);
    let ending = token.get(token.len() - 4..).unwrap_or_default();
    let new = NewToken { name, hash: &bearer::kept_as(&token), ending, scopes: &scopes, expires_at };
    let id = app.store.add_api_token(person.workspace_id, person.id, &new).await?;
    Ok(Json(MadeToken { id, token, expires_at }))
}

/// A token that an address names.
#[derive(Deserialize, JsonSchema)]
pub(crate) struct TokenPath {
    /// Its id.
    token: Uuid,
}

pub(crate) async fn end(
    State(app): State<App>,
    SecretKeeper(person): SecretKeeper,
    Path(path): Path<TokenPath>,
) -> Result<StatusCode, Problem> {
    app.store.end_api_token(person.workspace_id, person.id, path.token).await?;
    Ok(StatusCode::NO_CONTENT)
}
