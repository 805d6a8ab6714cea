//! Signing in and out.

use aide::axum::ApiRouter;
use aide::axum::routing::{get_with, post_with};
use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use lumbo_store::{Person, Role};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use tower_sessions::Session;
use uuid::Uuid;

use crate::api::named;
use crate::body::Body;
use crate::signed::{KEY, Signed, SignedIn};
use crate::{App, Problem, password};

/// The name of this area in the document.
const TAG: &str = "Signing in";

/// Who is signed in.
pub(crate) fn api() -> ApiRouter<App> {
    ApiRouter::new()
        .api_route("/api/me", get_with(me, named(TAG, "me", "Who is signed in")))
        .api_route("/api/sign-out", post_with(sign_out, named(TAG, "signOut", "Sign out")))
}

/// Signing in, which is limited by itself.
pub(crate) fn sign_in_api() -> ApiRouter<App> {
    ApiRouter::new().api_route("/api/sign-in", post_with(sign_in, named(TAG, "signIn", "Sign in")))
}

/// What signing in takes.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct SignIn {
    /// Address.
    email: String,
    /// Password.
    password: String,
}

/// Who is signed in, and what they may do.
#[derive(Serialize, JsonSchema)]
pub(crate) struct Me {
    /// Id.
    id: Uuid,
    /// Name.
    name: String,
    /// Address.
    email: String,
    /// Role.
    role: Role,
    /// The workspace's name.
    workspace: String,
    /// May read and change dialogues.
    writes_dialogues: bool,
    /// May say what became of leads.
    works_leads: bool,
}

impl From<Person> for Me {
    fn from(person: Person) -> Self {
        Self {
            id: person.id,
            role: person.role,
            writes_dialogues: person.role.writes_dialogues(),
            works_leads: person.role.works_leads(),
            name: person.name,
            email: person.email,
            workspace: person.workspace,
        }
    }
}

/// Longest address and password that are looked at.
const LIMIT: usize = 300;

pub(crate) async fn sign_in(
    State(app): State<App>,
    session: axum::Extension<Session>,
    Body(body): Body<SignIn>,
) -> Result<Json<Me>, Problem> {
    let refused = || {
        Problem::new(
            StatusCode::UNAUTHORIZED,
            "wrong-sign-in",
            "That address and password do not go together. Check both and try again.",
        )
    };
    if body.email.len() > LIMIT || body.password.len() > LIMIT {
        return Err(refused());
    }
    let person = app.store.person_by_email(body.email.trim()).await?;
    let hash = person.as_ref().map(|person| person.password_hash.clone());
    let fits = app.busy.hash(move || password::fits(&body.password, hash.as_deref())).await?;
    let person = person.filter(|_| fits).ok_or_else(refused)?;
    // A new id for the session, so that one fixed beforehand is worth nothing.
    session.cycle_id().await.map_err(|_| Problem::away())?;
    session
        .insert(KEY, SignedIn { workspace: person.workspace_id, person: person.id })
        .await
        .map_err(|_| Problem::away())?;
    Ok(Json(person.into()))
}

pub(crate) async fn sign_out(session: axum::Extension<Session>, Signed(_): Signed) -> Result<StatusCode, Problem> {
    session.flush().await.map_err(|_| Problem::away())?;
    Ok(StatusCode::NO_CONTENT)
}

pub(crate) async fn me(Signed(person): Signed) -> Json<Me> {
    Json(person.into())
}
