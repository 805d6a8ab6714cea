//! Coming in: setting up the first workspace with the code from the log, and taking an invitation up.

use aide::axum::ApiRouter;
use aide::axum::routing::{get_with, post_with};
use axum::extract::State;
use axum::http::{HeaderMap, StatusCode};
use axum::{Extension, Json};
use lumbo_people::totp;
use lumbo_store::{NewAccount, NewWorkspace, Person, Role, Taking};
use rand::RngCore;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use sha2::{Digest, Sha256};
use tower_sessions::Session;

use crate::address::ClientAddress;
use crate::api::named;
use crate::body::Body;
use crate::routes::session::{enter, prove};
use crate::typed::{email, name, new_password, zone};
use crate::{App, Problem};

/// The name of this area in the document.
const TAG: &str = "Coming in";

/// Coming in, which is limited as signing in is.
pub(crate) fn api() -> ApiRouter<App> {
    ApiRouter::new()
        .api_route(
            "/api/setup",
            get_with(wanted, named(TAG, "setupWanted", "Whether a workspace is still to be set up"))
                .post_with(set_up, named(TAG, "setUp", "Set up the first workspace")),
        )
        .api_route(
            "/api/join/look",
            post_with(look, named(TAG, "lookAtInvitation", "What an invitation lets one into")),
        )
        .api_route("/api/join", post_with(join, named(TAG, "join", "Take an invitation up")))
        .api_route("/api/reset/ask", post_with(ask_reset, named(TAG, "askForReset", "Ask for a way to a new password")))
        .api_route(
            "/api/reset/look",
            post_with(look_reset, named(TAG, "lookAtReset", "Whose a way to a new password is")),
        )
        .api_route("/api/reset", post_with(reset, named(TAG, "resetPassword", "Choose a new password by a link")))
}

/// The SHA-256 of what a link or a code holds.
fn secret_hash(secret: &str) -> Vec<u8> {
    Sha256::digest(secret.trim().as_bytes()).to_vec()
}

/// The code that guards setting up, as it is printed, and its SHA-256.
pub(crate) fn setup_code() -> (String, Vec<u8>) {
    let mut random = [0_u8; 10];
    rand::rng().fill_bytes(&mut random);
    let code = totp::recovery_code(&random);
    let hash = secret_hash(&code);
    (code, hash)
}

/// Whether a workspace is still to be set up.
#[derive(Serialize, JsonSchema)]
pub(crate) struct SetupWanted {
    /// True where there is none but the demo's.
    wanted: bool,
    /// Whether the server sends mails.
    mails: bool,
}

pub(crate) async fn wanted(State(app): State<App>) -> Result<Json<SetupWanted>, Problem> {
    Ok(Json(SetupWanted { wanted: app.store.wants_setup().await?, mails: app.tools.mailer.is_on() }))
}

/// The first workspace and its administrator.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct SetUp {
    /// The code from the server's log.
    code: String,
    /// The workspace's name.
    workspace: String,
    /// IANA name of its zone.
    zone: String,
    /// The administrator's name.
    name: String,
    /// The address they sign in with.
    email: String,
    /// Their password.
    password: String,
}

/// Who came in.
#[derive(Serialize, JsonSchema)]
pub(crate) struct CameIn {
    /// Their name.
    name: String,
    /// The workspace.
    workspace: String,
    /// What they are there.
    role: Role,
}

impl From<Person> for CameIn {
    fn from(person: Person) -> Self {
        Self { name: person.name, workspace: person.workspace, role: person.role }
    }
}

pub(crate) async fn set_up(
    State(app): State<App>,
    session: Extension<Session>,
    Extension(address): Extension<ClientAddress>,
    headers: HeaderMap,
    Body(body): Body<SetUp>,
) -> Result<Json<CameIn>, Problem> {
    if !app.store.wants_setup().await? {
        return Err(Problem::bad("A workspace is set up already. Sign in, or ask its administrator to invite you."));
    }
    // The code first: whoever does not have it learns nothing more, and costs no hashing.
    let code = secret_hash(&body.code.to_lowercase());
    if !app.store.setup_code_fits(&code).await? {
        return Err(Problem::bad("That is not the code. It stands in the server’s log, and a new one at every start."));
    }
    let (workspace, zone) = (name(&body.workspace, "the workspace’s")?, zone(&body.zone)?);
    let (person, email) = (name(&body.name, "your")?, email(&body.email)?);
    let hash = new_password(&app.busy, &body.password, &[person, email, workspace]).await?;
    let new = NewAccount { email, name: person, zone: Some(zone), password_hash: &hash };
    let person = app.store.set_up(&code, &NewWorkspace { name: workspace, zone }, &new).await?;
    enter(&app, &session, &headers, address.network(), &person).await?;
    Ok(Json(person.into()))
}

/// Who wants a new password.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct AskReset {
    /// The address they sign in with.
    email: String,
}

/// The same answer whether the address has an account or not.
pub(crate) async fn ask_reset(State(app): State<App>, Body(body): Body<AskReset>) -> Result<StatusCode, Problem> {
    if !app.tools.mailer.is_on() {
        return Err(Problem::bad("This server sends no mails. Ask an administrator for another password."));
    }
    app.store.ask_for_reset(email(&body.email)?).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Whose a way to a new password is.
#[derive(Serialize, JsonSchema)]
pub(crate) struct ResetView {
    /// Their address.
    email: String,
}

pub(crate) async fn look_reset(State(app): State<App>, Body(body): Body<LookAt>) -> Result<Json<ResetView>, Problem> {
    let (email, _) = app.store.reset_of(&secret_hash(&body.secret)).await?;
    Ok(Json(ResetView { email }))
}

/// A new password, by a link.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct ResetPassword {
    /// What the link holds.
    secret: String,
    /// The password.
    password: String,
}

pub(crate) async fn reset(State(app): State<App>, Body(body): Body<ResetPassword>) -> Result<StatusCode, Problem> {
    let hash = secret_hash(&body.secret);
    // The link first: whoever does not have one costs no hashing.
    let (email, name) = app.store.reset_of(&hash).await?;
    let password = new_password(&app.busy, &body.password, &[&name, &email]).await?;
    app.store.reset_password(&hash, &password).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// What an invitation's link holds.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct LookAt {
    /// The secret.
    secret: String,
}

/// What an invitation lets one into.
#[derive(Serialize, JsonSchema)]
pub(crate) struct InvitationView {
    /// The workspace.
    workspace: String,
    /// Who is invited.
    email: String,
    /// What they will be.
    role: Role,
    /// Who invited them.
    made_by: Option<String>,
    /// Whether the address has a password already.
    known: bool,
}

pub(crate) async fn look(State(app): State<App>, Body(body): Body<LookAt>) -> Result<Json<InvitationView>, Problem> {
    let found = app.store.invitation(&secret_hash(&body.secret)).await?;
    Ok(Json(InvitationView {
        workspace: found.workspace,
        email: found.email,
        role: found.role,
        made_by: found.made_by,
        known: found.known,
    }))
}

/// Who takes an invitation up.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Join {
    /// The secret of the link.
    secret: String,
    /// Their password: the one they have, or a new one.
    password: String,
    /// Their name, where they have no account yet.
    #[serde(default)]
    name: Option<String>,
    /// IANA name of the zone they read moments in, where they have no account yet.
    #[serde(default)]
    zone: Option<String>,
    /// The second factor, where one is asked for.
    #[serde(default)]
    code: Option<String>,
}

pub(crate) async fn join(
    State(app): State<App>,
    session: Extension<Session>,
    Extension(address): Extension<ClientAddress>,
    headers: HeaderMap,
    Body(body): Body<Join>,
) -> Result<Json<CameIn>, Problem> {
    let secret = secret_hash(&body.secret);
    let invitation = app.store.invitation(&secret).await?;
    let person = if invitation.known {
        let account = prove(&app, address.network(), &invitation.email, &body.password, body.code.as_deref()).await?;
        app.store.take_invitation(&secret, &Taking::Known(account.id)).await?
    } else {
        let person = name(body.name.as_deref().unwrap_or_default(), "your")?;
        let zone = body.zone.as_deref().map(zone).transpose()?;
        let own = [person, invitation.email.as_str(), invitation.workspace.as_str()];
        let hash = new_password(&app.busy, &body.password, &own).await?;
        let new = NewAccount { email: &invitation.email, name: person, zone, password_hash: &hash };
        app.store.take_invitation(&secret, &Taking::New(new)).await?
    };
    enter(&app, &session, &headers, address.network(), &person).await?;
    Ok(Json(person.into()))
}
