//! Settings of the workspace: its own e-mail domains, and the secrets with which its sites sign what they know of
//! visitors.

use aide::axum::ApiRouter;
use aide::axum::routing::{delete_with, get_with, post_with};
use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use base64::Engine;
use base64::engine::general_purpose::URL_SAFE_NO_PAD;
use lumbo_dialogue::talk::PrefillTo;
use lumbo_reading::domains::DomainLists;
use lumbo_store::Domains;
use rand::RngCore;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

use crate::api::named;
use crate::body::{Body, Path};
use crate::signed::{SecretKeeper, Writer};
use crate::visitor::{self, VisitorError};
use crate::wire::settings::VisitorKeyRow;
use crate::{App, Problem};

/// The name of this area in the document.
const TAG: &str = "Settings";

/// Settings of a workspace.
pub(crate) fn api() -> ApiRouter<App> {
    ApiRouter::new()
        .api_route(
            "/api/settings/domains",
            get_with(domains, named(TAG, "domains", "The workspace’s own e-mail domains"))
                .post_with(set_domains, named(TAG, "setDomains", "Change the workspace’s own e-mail domains")),
        )
        .api_route(
            "/api/settings/visitor-keys",
            get_with(visitor_keys, named(TAG, "visitorKeys", "Secrets that sites sign with"))
                .post_with(add_visitor_key, named(TAG, "addVisitorKey", "Make a secret")),
        )
        .api_route(
            "/api/settings/visitor-keys/{key}",
            delete_with(remove_visitor_key, named(TAG, "removeVisitorKey", "Take out a secret")),
        )
        .api_route(
            "/api/settings/visitor-token",
            post_with(try_token, named(TAG, "tryVisitorToken", "Look at a token that a site signed")),
        )
}

/// What a secret of signed-in visitors is sealed for.
pub(crate) fn visitor_purpose(workspace: Uuid, id: &str) -> String {
    format!("signed-in visitors of {workspace}, {id}")
}

/// A secret of signed-in visitors, opened.
pub(super) fn visitor_secret(app: &App, workspace: Uuid, id: &str, sealed: &[u8]) -> Result<String, Problem> {
    let secret = app.tools.vault.open(&visitor_purpose(workspace, id), sealed)?;
    String::from_utf8(secret).map_err(|_| Problem::internal())
}

/// The workspace's own e-mail domains.
#[derive(Serialize, JsonSchema)]
pub(crate) struct DomainsView {
    /// Counts changes; a change names the one it knows.
    revision: i64,
    /// Always a company's.
    allow: Vec<String>,
    /// Never a company's.
    deny: Vec<String>,
}

impl From<Domains> for DomainsView {
    fn from(domains: Domains) -> Self {
        Self {
            revision: domains.revision,
            allow: domains.lists.allow.into_iter().collect(),
            deny: domains.lists.deny.into_iter().collect(),
        }
    }
}

pub(crate) async fn domains(State(app): State<App>, Writer(person): Writer) -> Result<Json<DomainsView>, Problem> {
    Ok(Json(app.store.domains(person.workspace_id).await?.into()))
}

/// New lists of domains.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NewDomains {
    /// The revision that the sender knew.
    base: i64,
    /// Always a company's, as people write them.
    allow: Vec<String>,
    /// Never a company's.
    deny: Vec<String>,
}

pub(crate) async fn set_domains(
    State(app): State<App>,
    Writer(person): Writer,
    Body(new): Body<NewDomains>,
) -> Result<Json<DomainsView>, Problem> {
    let lists = DomainLists::of(&new.allow, &new.deny)
        .map_err(|error| Problem::bad(crate::problem::sentence(&error.to_string())))?;
    Ok(Json(app.store.set_domains(person.workspace_id, person.id, new.base, &lists).await?.into()))
}

pub(crate) async fn visitor_keys(
    State(app): State<App>,
    SecretKeeper(person): SecretKeeper,
) -> Result<Json<Vec<VisitorKeyRow>>, Problem> {
    Ok(Json(app.store.visitor_keys(person.workspace_id).await?.into_iter().map(Into::into).collect()))
}

/// A secret that was made. It is shown this once.
#[derive(Serialize, JsonSchema)]
pub(crate) struct NewVisitorKey {
    /// Goes into a token's header as `kid`.
    id: String,
    /// Signs tokens.
    secret: String,
}

pub(crate) async fn add_visitor_key(
    State(app): State<App>,
    SecretKeeper(person): SecretKeeper,
) -> Result<Json<NewVisitorKey>, Problem> {
    let mut bytes = [0_u8; 38];
    rand::rng().fill_bytes(&mut bytes);
    let made = NewVisitorKey { id: hex::encode(&bytes[..6]), secret: URL_SAFE_NO_PAD.encode(&bytes[6..]) };
    let sealed = app.tools.vault.seal(&visitor_purpose(person.workspace_id, &made.id), made.secret.as_bytes())?;
    app.store.add_visitor_key(person.workspace_id, person.id, &made.id, &sealed).await?;
    Ok(Json(made))
}

/// A secret that an address names.
#[derive(Deserialize, JsonSchema)]
pub(crate) struct KeyPath {
    /// Its id.
    key: String,
}

pub(crate) async fn remove_visitor_key(
    State(app): State<App>,
    SecretKeeper(person): SecretKeeper,
    Path(path): Path<KeyPath>,
) -> Result<StatusCode, Problem> {
    app.store.remove_visitor_key(person.workspace_id, person.id, &path.key).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// A token to look at.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct TriedToken {
    /// As the site would pass it.
    token: String,
}

/// What a token would bring, or why it would do nothing.
#[derive(Serialize, JsonSchema)]
pub(crate) struct TokenView {
    /// Why it would do nothing.
    refused: Option<String>,
    /// What it would bring.
    known: Vec<TokenValue>,
}

/// A value of a token.
#[derive(Serialize, JsonSchema)]
pub(crate) struct TokenValue {
    /// A field's key, or the first of a type.
    to: String,
    /// The text.
    text: String,
}

pub(crate) async fn try_token(
    State(app): State<App>,
    SecretKeeper(person): SecretKeeper,
    Body(tried): Body<TriedToken>,
) -> Result<Json<TokenView>, Problem> {
    let token = tried.token.trim();
    let read = match visitor::key_of(token) {
        Ok(key) => match app.store.visitor_secret(person.workspace_id, &key).await? {
            Some(sealed) => {
                let secret = visitor_secret(&app, person.workspace_id, &key, &sealed)?;
                visitor::read(token, &key, &secret, None, app.store.now())
            }
            None => Err(VisitorError::UnknownKey(key)),
        },
        Err(error) => Err(error),
    };
    Ok(Json(match read {
        Ok(visitor) => {
            let named = |to: PrefillTo| match to {
                PrefillTo::Key(key) => key,
                PrefillTo::Type(kind) => format!("the first {}", kind.name().replace('_', " ")),
            };
            TokenView {
                refused: None,
                known: visitor
                    .known
                    .into_iter()
                    .map(|known| TokenValue { to: named(known.to), text: known.text })
                    .collect(),
            }
        }
        Err(error) => TokenView { refused: Some(crate::problem::sentence(&error.to_string())), known: Vec::new() },
    }))
}
