//! Signing in and out, and going from one workspace to another.

use std::net::IpAddr;

use aide::axum::ApiRouter;
use aide::axum::routing::{get_with, post_with};
use axum::extract::State;
use axum::http::{HeaderMap, StatusCode, header};
use axum::{Extension, Json};
use lumbo_people::totp;
use lumbo_store::{Account, Audited, Entry, Person, Role};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use sha2::{Digest, Sha256};
use tower_sessions::Session;
use uuid::Uuid;

use crate::address::ClientAddress;
use crate::api::named;
use crate::body::Body;
use crate::signed::{AGENT, KEY, Signed, SignedIn};
use crate::{App, Problem, password};

/// The name of this area in the document.
const TAG: &str = "Signing in";

/// Who is signed in.
pub(crate) fn api() -> ApiRouter<App> {
    ApiRouter::new()
        .api_route("/api/me", get_with(me, named(TAG, "me", "Who is signed in")))
        .api_route("/api/sign-out", post_with(sign_out, named(TAG, "signOut", "Sign out")))
        .api_route("/api/workspace", post_with(switch, named(TAG, "switchWorkspace", "Go to another workspace")))
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
    /// Six digits of the second factor, or a recovery code, where one is asked for.
    #[serde(default)]
    code: Option<String>,
}

/// A workspace that somebody is in.
#[derive(Serialize, JsonSchema)]
pub(crate) struct Workplace {
    /// Id.
    id: Uuid,
    /// Name.
    name: String,
    /// What they are there.
    role: Role,
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
    /// Id of the workspace.
    workspace_id: Uuid,
    /// IANA name of the zone they read moments in; the browser's where absent.
    zone: Option<String>,
    /// Every workspace that they are in, by name.
    workspaces: Vec<Workplace>,
    /// May read and change dialogues.
    writes_dialogues: bool,
    /// May say what became of leads.
    works_leads: bool,
    /// May see the team's load and pace.
    leads_team: bool,
    /// May look after people, secrets and the audit.
    administers: bool,
    /// Whether the server sends mails.
    mails: bool,
    /// The mark of one's own picture; nothing where there is none.
    picture: Option<String>,
    /// The mark of the workspace's picture.
    workspace_picture: Option<String>,
}

impl Me {
    async fn of(app: &App, person: Person) -> Result<Self, Problem> {
        use lumbo_people::Action;
        let places = app.store.places(person.account).await?;
        let faces = app.store.faces(&person).await?;
        Ok(Self {
            picture: faces.person,
            workspace_picture: faces.workspace,
            id: person.id,
            role: person.role,
            writes_dialogues: person.role.may(Action::WriteDialogues),
            works_leads: person.role.may(Action::WorkLeads),
            leads_team: person.role.may(Action::LeadTeam),
            administers: person.role.may(Action::ManagePeople),
            mails: app.tools.mailer.is_on(),
            workspaces: places
                .into_iter()
                .map(|place| Workplace { id: place.workspace_id, name: place.workspace, role: place.role })
                .collect(),
            name: person.name,
            email: person.email,
            workspace: person.workspace,
            workspace_id: person.workspace_id,
            zone: person.zone,
        })
    }
}

/// Longest address and password that are looked at.
const LIMIT: usize = 300;
/// Longest name of a browser that is kept, characters.
const AGENT_LIMIT: usize = 200;

fn refused() -> Problem {
    Problem::new(
        StatusCode::UNAUTHORIZED,
        "wrong-sign-in",
        "That address and password do not go together. Check both and try again.",
    )
}

/// What wrong passwords of an address are counted under.
fn counted(email: &str) -> Vec<u8> {
    Sha256::digest(email.trim().to_lowercase().as_bytes()).to_vec()
}

/// Looks whether a password fits an account. After wrong ones it waits, longer each time, per address and network; an
/// address that nobody has is looked at alike.
pub(super) async fn right_password(
    app: &App,
    network: IpAddr,
    email: &str,
    hash: Option<String>,
    password: &str,
) -> Result<bool, Problem> {
    let (counted, network) = (counted(email), network.to_string());
    if let Some(until) = app.store.sign_in_waits(&counted, &network).await? {
        let seconds = until.duration_since(app.store.now()).as_secs() + 1;
        let detail = format!(
            "That was wrong several times. The next try is looked at in {}; until then nothing is.",
            in_words(seconds)
        );
        return Err(Problem::new(StatusCode::TOO_MANY_REQUESTS, "wait-to-sign-in", detail));
    }
    let password = password.to_owned();
    let fits = app.busy.hash(move || password::fits(&password, hash.as_deref())).await?;
    if !fits {
        was_wrong(app, email, &network).await?;
    }
    Ok(fits)
}

/// Counts a wrong password or code, and tells the audit of it.
async fn was_wrong(app: &App, email: &str, network: &str) -> Result<(), Problem> {
    app.store.sign_in_was_wrong(&counted(email), network).await?;
    app.store.audit_refused(email.trim(), network).await?;
    Ok(())
}

/// Looks at an address and a password, and at the second factor where one is asked for.
pub(super) async fn prove(
    app: &App,
    network: IpAddr,
    email: &str,
    password: &str,
    code: Option<&str>,
) -> Result<Account, Problem> {
    if email.len() > LIMIT || password.len() > LIMIT {
        return Err(refused());
    }
    let account = app.store.account_by_email(email.trim()).await?;
    let hash = account.as_ref().map(|account| account.password_hash.clone());
    let fits = right_password(app, network, email, hash, password).await?;
    let account = account.filter(|_| fits).ok_or_else(refused)?;
    if let Some(factor) = &account.second_factor {
        let Some(code) = code.map(str::trim).filter(|code| !code.is_empty()) else {
            return Err(Problem::new(
                StatusCode::UNAUTHORIZED,
                "second-factor",
                "Type the six digits that your authenticator shows, or one of your recovery codes.",
            ));
        };
        let good = match totp::folded_recovery_code(code) {
            Some(folded) => app.store.use_recovery_code(account.id, &Sha256::digest(folded.as_bytes())).await?,
            None => {
                let secret = app.tools.vault.open(&purpose(account.id), &factor.sealed)?;
                match totp::check(&secret, code, app.store.now(), factor.used) {
                    Some(step) => app.store.use_step(account.id, step).await?,
                    None => false,
                }
            }
        };
        if !good {
            was_wrong(app, email, &network.to_string()).await?;
            return Err(Problem::new(
                StatusCode::UNAUTHORIZED,
                "wrong-code",
                "That code is not right, or was used already. Wait for the next one and try again.",
            ));
        }
    }
    app.store.sign_in_was_right(&counted(email), &network.to_string()).await?;
    Ok(account)
}

/// What the secret of an account's second factor is sealed for.
pub(super) fn purpose(account: Uuid) -> String {
    format!("second factor of {account}")
}

fn in_words(seconds: i64) -> String {
    match seconds {
        ..=1 => "a second".into(),
        2..=90 => format!("{seconds} seconds"),
        _ => format!("{} minutes", (seconds + 59) / 60),
    }
}

/// Signs somebody in to a workspace, under a new session.
pub(super) async fn enter(
    app: &App,
    session: &Session,
    headers: &HeaderMap,
    network: IpAddr,
    person: &Person,
) -> Result<(), Problem> {
    let agent: String = headers
        .get(header::USER_AGENT)
        .and_then(|agent| agent.to_str().ok())
        .unwrap_or_default()
        .chars()
        .take(AGENT_LIMIT)
        .collect();
    // A new id for the session, so that one fixed beforehand is worth nothing.
    session.cycle_id().await.map_err(|_| Problem::away())?;
    session.insert(KEY, SignedIn::new(person, app.store.now())).await.map_err(|_| Problem::away())?;
    session.insert(AGENT, agent).await.map_err(|_| Problem::away())?;
    app.store.was_in(person.account, person.workspace_id).await?;
    let network = network.to_string();
    let entry =
        Entry { person: Some(person.id), what: Audited::SignedIn, about: "", subject: None, network: Some(&network) };
    app.store.audit(person.workspace_id, &entry).await?;
    Ok(())
}

pub(crate) async fn sign_in(
    State(app): State<App>,
    session: Extension<Session>,
    Extension(address): Extension<ClientAddress>,
    headers: HeaderMap,
    Body(body): Body<SignIn>,
) -> Result<Json<Me>, Problem> {
    let account = prove(&app, address.network(), &body.email, &body.password, body.code.as_deref()).await?;
    let person = app.store.person_by_email(&account.email).await?.ok_or_else(|| {
        Problem::new(
            StatusCode::FORBIDDEN,
            "no-workspace",
            "You are in no workspace any more. Ask an administrator to invite you.",
        )
    })?;
    enter(&app, &session, &headers, address.network(), &person).await?;
    Ok(Json(Me::of(&app, person).await?))
}

/// A workspace to go to.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Switch {
    /// Its id.
    workspace: Uuid,
}

pub(crate) async fn switch(
    State(app): State<App>,
    session: Extension<Session>,
    Extension(address): Extension<ClientAddress>,
    headers: HeaderMap,
    Signed(person): Signed,
    Body(body): Body<Switch>,
) -> Result<Json<Me>, Problem> {
    let places = app.store.places(person.account).await?;
    let there = places.into_iter().find(|place| place.workspace_id == body.workspace);
    let there =
        there.ok_or_else(|| Problem::new(StatusCode::NOT_FOUND, "not-found", "You are in no such workspace."))?;
    enter(&app, &session, &headers, address.network(), &there).await?;
    Ok(Json(Me::of(&app, there).await?))
}

pub(crate) async fn sign_out(session: Extension<Session>, Signed(_): Signed) -> Result<StatusCode, Problem> {
    session.flush().await.map_err(|_| Problem::away())?;
    Ok(StatusCode::NO_CONTENT)
}

pub(crate) async fn me(State(app): State<App>, Signed(person): Signed) -> Result<Json<Me>, Problem> {
    Ok(Json(Me::of(&app, person).await?))
}
