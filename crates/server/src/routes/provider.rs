//! Signing in through a provider, and linking one's account with it.

use aide::axum::ApiRouter;
use aide::axum::routing::{get_with, post_with};
use axum::extract::State;
use axum::http::{HeaderMap, StatusCode, header};
use axum::{Extension, Json};
use jiff::Timestamp;
use lumbo_store::StoreError;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use tower_sessions::Session;

use super::profile::{WithPassword, own_password};
use super::session::enter;
use crate::address::ClientAddress;
use crate::answer::{GoOn, WithCookie};
use crate::api::named;
use crate::body::{Body, Query};
use crate::provider::{BACK, Begun, COOKIE, CameBack, NotIn, PATIENCE, Speaks};
use crate::signed::Signed;
use crate::{App, Problem};

/// The name of this area in the document.
const TAG: &str = "Signing in through a provider";

/// Signing in through a provider, which is limited as signing in is.
pub(crate) fn sign_in_api() -> ApiRouter<App> {
    ApiRouter::new()
        .api_route(
            "/api/sign-in/provider",
            get_with(known, named(TAG, "signInProvider", "The provider that people may sign in through"))
                .post_with(begin, named(TAG, "beginSignIn", "Begin to sign in through the provider")),
        )
        .api_route(BACK, get_with(back, named(TAG, "cameBack", "Where the provider sends people back to")))
}

/// Linking one's own account.
pub(crate) fn api() -> ApiRouter<App> {
    ApiRouter::new()
        .api_route(
            "/api/profile/provider",
            get_with(link, named(TAG, "providerLink", "Whether one’s account is linked with the provider"))
                .post_with(begin_link, named(TAG, "beginLink", "Begin to link one’s account with the provider")),
        )
        .api_route(
            "/api/profile/provider/off",
            post_with(unlink, named(TAG, "unlink", "Take one’s account’s link with the provider back")),
        )
}

/// The provider that people may sign in through.
#[derive(Serialize, JsonSchema)]
pub(crate) struct ProviderView {
    /// Its name; absent where there is none.
    name: Option<String>,
}

pub(crate) async fn known(State(app): State<App>) -> Json<ProviderView> {
    Json(ProviderView { name: app.provider.as_ref().map(|speaks| speaks.provider.name.clone()) })
}

/// Where one wants to go.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct WantsTo {
    /// A path of Lumbo's own.
    #[serde(default)]
    then: String,
}

/// Where to go for it.
#[derive(Serialize, JsonSchema)]
pub(crate) struct GoTo {
    /// The provider's page.
    address: String,
}

fn speaks(app: &App) -> Result<&Speaks, Problem> {
    app.provider.as_ref().ok_or_else(|| {
        Problem::new(StatusCode::NOT_FOUND, "not-found", "Nobody signs in through a provider on this server.")
    })
}

/// An answer that hands the browser what has to come back. The cookie crosses with the provider's redirect, which one
/// that is same-site strict would not.
fn handing(app: &App, begun: Begun) -> WithCookie<GoTo> {
    let cookie = cookie(app, &begun.cookie, PATIENCE.as_secs());
    WithCookie { cookie, answer: GoTo { address: begun.address } }
}

fn cookie(app: &App, value: &str, seconds: i64) -> String {
    let secure = if app.behind_tls { "; Secure" } else { "" };
    format!("{COOKIE}={value}; Path={BACK}; Max-Age={seconds}; HttpOnly; SameSite=Lax{secure}")
}

pub(crate) async fn begin(State(app): State<App>, Body(body): Body<WantsTo>) -> Result<WithCookie<GoTo>, Problem> {
    let begun = speaks(&app)?.begin(None, &body.then, app.store.now()).await?;
    Ok(handing(&app, begun))
}

/// What the provider sends along.
#[derive(Deserialize, JsonSchema)]
pub(crate) struct Brought {
    /// What was sent there.
    #[serde(default)]
    state: String,
    /// What is exchanged for the ID token.
    #[serde(default)]
    code: Option<String>,
}

pub(crate) async fn back(
    State(app): State<App>,
    session: Extension<Session>,
    Extension(address): Extension<ClientAddress>,
    headers: HeaderMap,
    Query(brought): Query<Brought>,
) -> Result<GoOn, Problem> {
    let speaks = speaks(&app)?;
    let brings = cookie_of(&headers);
    let came = speaks.came_back(brings.as_deref(), &brought.state, brought.code.as_deref(), app.store.now()).await;
    let issuer = speaks.provider.issuer.as_str();
    let to = match came {
        Ok(CameBack { subject, link: Some(account), .. }) => {
            match app.store.link_identity(account, issuer, &subject).await {
                Ok(()) => "/settings/account".to_owned(),
                Err(StoreError::Conflict(_)) => format!("/settings/account?why={}", NotIn::LinkedElsewhere),
                Err(other) => return Err(other.into()),
            }
        }
        Ok(CameBack { subject, link: None, then }) => {
            if signed_in(&app, &session, &headers, address, issuer, &subject).await? {
                then
            } else {
                format!("/sign-in?why={}", NotIn::NotLinked)
            }
        }
        Err(why) => format!("/sign-in?why={why}"),
    };
    Ok(GoOn { cookie: cookie(&app, "", 0), to })
}

/// Signs the person in whose account is linked; false where nobody's is. The provider has asked for what it asks for:
/// no second factor of ours comes on top.
async fn signed_in(
    app: &App,
    session: &Session,
    headers: &HeaderMap,
    address: ClientAddress,
    issuer: &str,
    subject: &str,
) -> Result<bool, Problem> {
    let Some(account) = app.store.account_of_identity(issuer, subject).await? else { return Ok(false) };
    let account = app.store.account(account).await?;
    let Some(person) = app.store.person_by_email(&account.email).await? else { return Ok(false) };
    enter(app, session, headers, address.network(), &person).await?;
    Ok(true)
}

fn cookie_of(headers: &HeaderMap) -> Option<String> {
    headers
        .get_all(header::COOKIE)
        .iter()
        .filter_map(|value| value.to_str().ok())
        .flat_map(|value| value.split(';'))
        .find_map(|each| each.trim().strip_prefix(COOKIE)?.strip_prefix('=').map(str::to_owned))
}

/// Whether one's account is linked.
#[derive(Serialize, JsonSchema)]
pub(crate) struct LinkView {
    /// The provider's name; absent where there is none.
    name: Option<String>,
    /// Since when it is linked, RFC 3339.
    #[schemars(with = "Option<String>")]
    since: Option<Timestamp>,
}

pub(crate) async fn link(State(app): State<App>, Signed(person): Signed) -> Result<Json<LinkView>, Problem> {
    let Some(speaks) = &app.provider else { return Ok(Json(LinkView { name: None, since: None })) };
    let since = app.store.linked_since(person.account, &speaks.provider.issuer).await?;
    Ok(Json(LinkView { name: Some(speaks.provider.name.clone()), since }))
}

pub(crate) async fn begin_link(
    State(app): State<App>,
    Extension(address): Extension<ClientAddress>,
    Signed(person): Signed,
    Body(body): Body<WithPassword>,
) -> Result<WithCookie<GoTo>, Problem> {
    let speaks = speaks(&app)?;
    let account = app.store.account(person.account).await?;
    own_password(&app, address, &account, &body.password).await?;
    let begun = speaks.begin(Some(person.account), "/settings/account", app.store.now()).await?;
    Ok(handing(&app, begun))
}

pub(crate) async fn unlink(
    State(app): State<App>,
    Extension(address): Extension<ClientAddress>,
    Signed(person): Signed,
    Body(body): Body<WithPassword>,
) -> Result<StatusCode, Problem> {
    let speaks = speaks(&app)?;
    let account = app.store.account(person.account).await?;
    own_password(&app, address, &account, &body.password).await?;
    app.store.unlink_identity(person.account, &speaks.provider.issuer).await?;
    Ok(StatusCode::NO_CONTENT)
}
