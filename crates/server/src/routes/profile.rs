//! One's own account: name, address, zone, password, second factor, sessions.

use aide::axum::ApiRouter;
use aide::axum::routing::{get_with, post_with};
use axum::extract::State;
use axum::http::StatusCode;
use axum::{Extension, Json};
use jiff::Timestamp;
use lumbo_people::totp;
use lumbo_store::Account;
use qrcode::QrCode;
use qrcode::render::svg;
use rand::RngCore;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use sha2::{Digest, Sha256};
use tower_sessions::Session;

use super::session::{purpose, right_password};
use crate::address::ClientAddress;
use crate::api::named;
use crate::body::Body;
use crate::session_store::kept_as;
use crate::signed::Signed;
use crate::typed::{email, name, new_password, zone};
use crate::{App, Problem};

/// The name of this area in the document.
const TAG: &str = "Own account";

/// One's own account.
pub(crate) fn api() -> ApiRouter<App> {
    ApiRouter::new()
        .api_route(
            "/api/profile",
            get_with(profile, named(TAG, "profile", "One’s own account"))
                .post_with(change, named(TAG, "changeProfile", "Change one’s own name, address or zone")),
        )
        .api_route("/api/profile/password", post_with(set_password, named(TAG, "setPassword", "Change one’s password")))
        .api_route(
            "/api/profile/sessions/end-others",
            post_with(end_others, named(TAG, "endOtherSessions", "Sign out everywhere else")),
        )
        .api_route(
            "/api/profile/second-factor",
            post_with(begin, named(TAG, "beginSecondFactor", "Make the secret of a second factor")),
        )
        .api_route(
            "/api/profile/second-factor/on",
            post_with(turn_on, named(TAG, "turnSecondFactorOn", "Ask for the second factor from now on")),
        )
        .api_route(
            "/api/profile/second-factor/off",
            post_with(turn_off, named(TAG, "turnSecondFactorOff", "Ask for no second factor any more")),
        )
}

/// A session of one's own.
#[derive(Serialize, JsonSchema)]
pub(crate) struct SessionView {
    /// True for the one that asks.
    this: bool,
    /// When one signed in, RFC 3339.
    #[schemars(with = "String")]
    made_at: Timestamp,
    /// When it was last used, to within five minutes, RFC 3339.
    #[schemars(with = "Option<String>")]
    seen_at: Option<Timestamp>,
    /// The browser, as it names itself.
    agent: String,
}

/// One's own account.
#[derive(Serialize, JsonSchema)]
pub(crate) struct Profile {
    /// Name.
    name: String,
    /// Address.
    email: String,
    /// IANA name of the zone one reads moments in; the browser's where absent.
    zone: Option<String>,
    /// Since when a second factor is asked for, RFC 3339.
    #[schemars(with = "Option<String>")]
    second_factor_since: Option<Timestamp>,
    /// Recovery codes that are left.
    codes_left: i64,
    /// Sessions, the one used last first.
    sessions: Vec<SessionView>,
}

async fn view(app: &App, session: &Session, account: Account) -> Result<Profile, Problem> {
    let this = session.id().map(|id| kept_as(&id));
    let sessions = app.store.sessions_of(account.id).await?;
    Ok(Profile {
        name: account.name,
        email: account.email,
        zone: account.zone,
        second_factor_since: account.second_factor.as_ref().map(|factor| factor.since),
        codes_left: account.second_factor.as_ref().map_or(0, |factor| factor.codes_left),
        sessions: sessions
            .into_iter()
            .map(|row| SessionView {
                this: Some(&row.id) == this.as_ref(),
                made_at: row.made_at,
                seen_at: row.seen_at,
                agent: row.agent,
            })
            .collect(),
    })
}

pub(crate) async fn profile(
    State(app): State<App>,
    session: Extension<Session>,
    Signed(person): Signed,
) -> Result<Json<Profile>, Problem> {
    let account = app.store.account(person.account).await?;
    Ok(Json(view(&app, &session, account).await?))
}

/// A change of one's own account.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct ProfileChange {
    /// Name.
    name: String,
    /// Address one signs in with.
    email: String,
    /// IANA name; absent for the browser's.
    #[serde(default)]
    zone: Option<String>,
    /// The password, where the address changes.
    #[serde(default)]
    password: Option<String>,
}

/// Looks whether a password is the account's own; whoever found an open session cannot guess at it without end.
pub(super) async fn own_password(
    app: &App,
    address: ClientAddress,
    account: &Account,
    password: &str,
) -> Result<(), Problem> {
    let hash = Some(account.password_hash.clone());
    if right_password(app, address.network(), &account.email, hash, password).await? {
        Ok(())
    } else {
        Err(Problem::bad("That is not your password. Check it and try again."))
    }
}

pub(crate) async fn change(
    State(app): State<App>,
    session: Extension<Session>,
    Extension(address): Extension<ClientAddress>,
    Signed(person): Signed,
    Body(body): Body<ProfileChange>,
) -> Result<Json<Profile>, Problem> {
    let account = app.store.account(person.account).await?;
    let (new_name, new_email) = (name(&body.name, "your")?, email(&body.email)?);
    let new_zone = body.zone.as_deref().filter(|text| !text.trim().is_empty()).map(zone).transpose()?;
    if !new_email.eq_ignore_ascii_case(&account.email) {
        own_password(&app, address, &account, body.password.as_deref().unwrap_or_default()).await?;
    }
    app.store.change_profile(account.id, new_name, new_email, new_zone).await?;
    let account = app.store.account(account.id).await?;
    Ok(Json(view(&app, &session, account).await?))
}

/// A new password.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct PasswordChange {
    /// The one that is.
    old: String,
    /// The one that is to be.
    new: String,
}

pub(crate) async fn set_password(
    State(app): State<App>,
    session: Extension<Session>,
    Extension(address): Extension<ClientAddress>,
    Signed(person): Signed,
    Body(body): Body<PasswordChange>,
) -> Result<StatusCode, Problem> {
    let account = app.store.account(person.account).await?;
    own_password(&app, address, &account, &body.old).await?;
    let hash = new_password(&app.busy, &body.new, &[&account.name, &account.email, &person.workspace]).await?;
    let keep = session.id().map(|id| kept_as(&id));
    app.store.change_password(account.id, &hash, keep.as_deref()).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// How many sessions were ended.
#[derive(Serialize, JsonSchema)]
pub(crate) struct Ended {
    /// So many.
    ended: u64,
}

pub(crate) async fn end_others(
    State(app): State<App>,
    session: Extension<Session>,
    Signed(person): Signed,
) -> Result<Json<Ended>, Problem> {
    let keep = session.id().map(|id| kept_as(&id)).ok_or_else(Problem::signed_out)?;
    Ok(Json(Ended { ended: app.store.end_other_sessions(person.account, &keep).await? }))
}

/// One's password, for what it guards.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct WithPassword {
    /// It.
    pub(super) password: String,
}

/// The secret of a second factor that is not asked for yet.
#[derive(Serialize, JsonSchema)]
pub(crate) struct NewSecondFactor {
    /// As it is typed into an authenticator.
    secret: String,
    /// As an authenticator on the same phone opens it.
    address: String,
    /// As an authenticator reads it: an SVG picture, to be shown as an image.
    picture: String,
}

pub(crate) async fn begin(
    State(app): State<App>,
    Extension(address): Extension<ClientAddress>,
    Signed(person): Signed,
    Body(body): Body<WithPassword>,
) -> Result<Json<NewSecondFactor>, Problem> {
    let account = app.store.account(person.account).await?;
    own_password(&app, address, &account, &body.password).await?;
    let mut secret = [0_u8; totp::SECRET_BYTES];
    rand::rng().fill_bytes(&mut secret);
    let sealed = app.tools.vault.seal(&purpose(account.id), &secret)?;
    app.store.begin_second_factor(account.id, &sealed).await?;
    let address = totp::address(&secret, &account.email).ok_or_else(Problem::internal)?;
    let code = QrCode::new(address.as_bytes()).map_err(|_| Problem::internal())?;
    let picture = code.render::<svg::Color<'_>>().min_dimensions(200, 200).build();
    Ok(Json(NewSecondFactor { secret: totp::typed(&secret), address, picture }))
}

/// A code of the authenticator.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct WithCode {
    /// Six digits.
    code: String,
}

/// Codes for the day on which the phone is lost. They are shown this once.
#[derive(Serialize, JsonSchema)]
pub(crate) struct RecoveryCodes {
    /// Each counts once.
    codes: Vec<String>,
}

pub(crate) async fn turn_on(
    State(app): State<App>,
    Signed(person): Signed,
    Body(body): Body<WithCode>,
) -> Result<Json<RecoveryCodes>, Problem> {
    let sealed = app.store.begun_second_factor(person.account).await?;
    let secret = app.tools.vault.open(&purpose(person.account), &sealed)?;
    let step = totp::check(&secret, &body.code, app.store.now(), None).ok_or_else(|| {
        Problem::bad("That code is not right. Check that the phone’s clock is, and type the one it shows now.")
    })?;
    let codes: Vec<String> = (0..totp::RECOVERY_CODES)
        .map(|_| {
            let mut random = [0_u8; 10];
            rand::rng().fill_bytes(&mut random);
            totp::recovery_code(&random)
        })
        .collect();
    let hashes: Vec<Vec<u8>> = codes
        .iter()
        .filter_map(|code| totp::folded_recovery_code(code))
        .map(|code| Sha256::digest(code.as_bytes()).to_vec())
        .collect();
    app.store.turn_second_factor_on(person.account, step, &hashes).await?;
    Ok(Json(RecoveryCodes { codes }))
}

pub(crate) async fn turn_off(
    State(app): State<App>,
    Extension(address): Extension<ClientAddress>,
    Signed(person): Signed,
    Body(body): Body<WithPassword>,
) -> Result<StatusCode, Problem> {
    let account = app.store.account(person.account).await?;
    own_password(&app, address, &account, &body.password).await?;
    app.store.turn_second_factor_off(account.id).await?;
    Ok(StatusCode::NO_CONTENT)
}
