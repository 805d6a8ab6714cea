//! Destinations: where leads are sent, what went there, and trying them.

use aide::axum::ApiRouter;
use aide::axum::routing::{get_with, post_with};
use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use lumbo_deliver::answer::Verdict;
use lumbo_deliver::mapping::row;
use lumbo_deliver::webhook::{Event, EventKind, signing};
use lumbo_store::{DestinationChange, DestinationKind, SendingState};
use rand::RngCore;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

use crate::api::named;
use crate::body::{Body, Path, Query};
use crate::outgoing::deliver::{purpose, send, send_mail};
use crate::outgoing::prepare::{Addressed, OWNER, addressed, text};
use crate::outgoing::records::{Place, put_row};
use crate::problem::sentence;
use crate::signed::{SecretKeeper, SendingWatcher};
use crate::typed::{email, name};
use crate::wire::destinations::{AttemptRow, DestinationRow, DestinationSet, SendingRow};
use crate::{App, Problem};

/// The name of this area in the document.
const TAG: &str = "Destinations";
/// Longest token, bytes.
const LONGEST_TOKEN: usize = 4_000;

/// Destinations.
pub(crate) fn api() -> ApiRouter<App> {
    ApiRouter::new()
        .api_route(
            "/api/destinations",
            get_with(list, named(TAG, "destinations", "Where leads are sent"))
                .post_with(put, named(TAG, "putDestination", "Make a destination, or change one")),
        )
        .api_route(
            "/api/destinations/{destination}",
            post_with(act, named(TAG, "actOnDestination", "Pause a destination, let it go on, or take it out")),
        )
        .api_route(
            "/api/destinations/{destination}/secret",
            post_with(rotate, named(TAG, "rotateSecret", "Give a destination another secret")),
        )
        .api_route(
            "/api/destinations/{destination}/test",
            post_with(test, named(TAG, "testDestination", "Send a test, and see request and answer")),
        )
        .api_route(
            "/api/destinations/{destination}/sendings",
            get_with(sendings, named(TAG, "sendings", "What was sent, newest first")),
        )
        .api_route(
            "/api/destinations/{destination}/again",
            post_with(again, named(TAG, "sendAgain", "Send again what was kept aside")),
        )
        .api_route("/api/webhook-schema", get_with(schema, named(TAG, "webhookSchema", "The JSON Schema of events")))
}

/// A destination that an address names.
#[derive(Deserialize, JsonSchema)]
pub(crate) struct DestinationPath {
    /// Its id.
    pub(super) destination: Uuid,
}

pub(crate) async fn list(
    State(app): State<App>,
    SendingWatcher(person): SendingWatcher,
) -> Result<Json<Vec<DestinationRow>>, Problem> {
    Ok(Json(app.store.destinations(person.workspace_id).await?.into_iter().map(Into::into).collect()))
}

/// A destination that was made or changed.
#[derive(Serialize, JsonSchema)]
pub(crate) struct DestinationPut {
    /// Its id.
    id: Uuid,
    /// The secret that it verifies with; only where it was just made, and shown this once.
    secret: Option<String>,
}

/// A new secret, as it is written, and sealed.
fn new_secret(app: &App, workspace: Uuid, destination: Uuid) -> Result<(String, Vec<u8>), Problem> {
    let mut secret = [0_u8; signing::SECRET_BYTES];
    rand::rng().fill_bytes(&mut secret);
    Ok((signing::written(&secret), app.tools.vault.seal(&purpose(workspace, destination), &secret)?))
}

pub(crate) async fn put(
    State(app): State<App>,
    SecretKeeper(person): SecretKeeper,
    Body(set): Body<DestinationSet>,
) -> Result<Json<DestinationPut>, Problem> {
    // An existing one stays what it is, whatever is said: address and token are looked at as of its kind.
    let kind = match set.id {
        Some(id) => app.store.destination(person.workspace_id, id).await?.kind,
        None => set.kind,
    };
    let address = if kind == DestinationKind::Mail {
        if !app.tools.mailer.is_on() {
            return Err(Problem::bad("This server was given no mail server. Whoever runs it names one with --smtp."));
        }
        match set.address.trim() {
            OWNER => OWNER.to_owned(),
            address => email(address)?.to_owned(),
        }
    } else {
        let target = app.tools.outgoing.check(&set.address);
        target.map_err(|error| Problem::bad(sentence(&error.to_string())))?.url.to_string()
    };
    let mut events = set.events;
    events.sort_unstable();
    events.dedup();
    if events.is_empty() {
        return Err(Problem::bad("Say what it gets: one event at least."));
    }
    if set.from_rank.is_some_and(|rank| !(0..100).contains(&rank)) || set.dialogues.len() > 200 {
        return Err(Problem::bad("Pick bands and dialogues that there are."));
    }
    let id = set.id.unwrap_or_else(Uuid::now_v7);
    let change = DestinationChange {
        id: set.id,
        revision: set.revision,
        name: name(&set.name, "the destination’s")?.to_owned(),
        kind,
        address,
        events,
        dialogues: set.dialogues,
        from_rank: set.from_rank,
    };
    let signs = set.id.is_none() && kind == DestinationKind::Webhook;
    let made = if signs { Some(new_secret(&app, person.workspace_id, id)?) } else { None };
    let token = match set.token.as_deref().map(str::trim).filter(|token| !token.is_empty()) {
        Some(_) if !kind.is_mapped() => {
            return Err(Problem::bad("Only a customer system and a sheet are given a token."));
        }
        Some(token) if token.len() > LONGEST_TOKEN || !token.bytes().all(|byte| byte.is_ascii_graphic()) => {
            return Err(Problem::bad("A token is one word of letters, digits and signs, without spaces."));
        }
        Some(token) => Some(app.tools.vault.seal(&purpose(person.workspace_id, id), token.as_bytes())?),
        None => None,
    };
    let sealed = made.as_ref().map(|(_, sealed)| sealed.as_slice()).or(token.as_deref());
    app.store.put_destination(&person, id, &change, sealed).await?;
    Ok(Json(DestinationPut { id, secret: made.map(|(written, _)| written) }))
}

/// What is done with a destination.
#[derive(Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub(crate) enum DestinationAct {
    /// Nothing goes there until it goes on.
    Pause,
    /// What waits for it goes at once.
    GoOn,
    /// Nothing goes there any more.
    TakeOut,
}

/// What is done with a destination.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Act {
    /// It.
    act: DestinationAct,
}

pub(crate) async fn act(
    State(app): State<App>,
    SecretKeeper(person): SecretKeeper,
    Path(path): Path<DestinationPath>,
    Body(body): Body<Act>,
) -> Result<StatusCode, Problem> {
    match body.act {
        DestinationAct::Pause => app.store.pause_destination(&person, path.destination, true).await?,
        DestinationAct::GoOn => app.store.pause_destination(&person, path.destination, false).await?,
        DestinationAct::TakeOut => app.store.remove_destination(&person, path.destination).await?,
    }
    Ok(StatusCode::NO_CONTENT)
}

pub(crate) async fn rotate(
    State(app): State<App>,
    SecretKeeper(person): SecretKeeper,
    Path(path): Path<DestinationPath>,
) -> Result<Json<DestinationPut>, Problem> {
    if app.store.destination(person.workspace_id, path.destination).await?.kind != DestinationKind::Webhook {
        return Err(Problem::bad("Only a webhook is signed. Another token is typed under Change."));
    }
    let (written, sealed) = new_secret(&app, person.workspace_id, path.destination)?;
    app.store.rotate_secret(&person, path.destination, &sealed).await?;
    Ok(Json(DestinationPut { id: path.destination, secret: Some(written) }))
}

/// A test: the request and the answer as they were.
#[derive(Serialize, JsonSchema)]
pub(crate) struct Tested {
    /// Whether it arrived.
    arrived: bool,
    /// The request's method.
    method: &'static str,
    /// The address.
    address: String,
    /// Headers of the request, without the usual ones, as lines.
    headers: Vec<String>,
    /// Its body.
    body: String,
    /// The answer.
    answer: AttemptRow,
}

pub(crate) async fn test(
    State(app): State<App>,
    SecretKeeper(person): SecretKeeper,
    Path(path): Path<DestinationPath>,
) -> Result<Json<Tested>, Problem> {
    let workspace = person.workspace_id;
    let to = app.store.destination(workspace, path.destination).await?;
    let now = app.store.now();
    if to.kind == DestinationKind::CustomerSystem {
        // Reads, and writes nothing: a customer system has no place for leads that are none.
        let (read, answer) = Place::new(&app.tools.outgoing, &app.tools.vault, workspace, &to)?.schema(now).await;
        let address = format!("{}/schema", to.address.trim_end_matches('/'));
        let (method, headers, body) = ("GET", Vec::new(), String::new());
        return Ok(Json(Tested { arrived: read.is_ok(), method, address, headers, body, answer: answer.into() }));
    }
    let lead = app.store.newest_lead_of(workspace, &[]).await?;
    if to.kind == DestinationKind::Sheet {
        let mapping = app.store.mapping(workspace, path.destination).await?.mapping;
        if mapping.rules.is_empty() {
            return Err(Problem::bad("Say first what goes where: a row without columns tells nobody anything."));
        }
        let row = row(&mapping, &app.store.lead_facts(workspace, lead, &app.tools.site).await?).to_string();
        let place = Place::new(&app.tools.outgoing, &app.tools.vault, workspace, &to)?;
        let sent = put_row(&place, "test", Some(row.clone()), now).await;
        let address = format!("{}/rows/test", to.address.trim_end_matches('/'));
        let arrived = sent.verdict == Verdict::Arrived;
        let (method, headers) = ("PUT", Vec::new());
        return Ok(Json(Tested { arrived, method, address, headers, body: row, answer: sent.attempt.into() }));
    }
    let mut event = app.store.lead_event(workspace, lead, EventKind::LeadFiled, now, &app.tools.site).await?;
    event.data.test = true;
    if to.kind == DestinationKind::Mail {
        let body = addressed(&to.address, &event).map_err(|why| Problem::bad(sentence(why)))?;
        let mail: Addressed = serde_json::from_str(&body).map_err(|_| Problem::away())?;
        let sent = send_mail(&app.tools.mailer, Uuid::now_v7(), &mail, now).await;
        let arrived = sent.verdict == Verdict::Arrived;
        let (method, headers) = ("MAIL", vec![format!("Subject: {}", mail.letter.subject)]);
        let (address, body) = (mail.to.clone(), mail.letter.text());
        return Ok(Json(Tested { arrived, method, address, headers, body, answer: sent.attempt.into() }));
    }
    let text = text(to.kind, &event);
    let sent = send(&app.tools.outgoing, &app.tools.vault, workspace, &to, Uuid::now_v7(), text.clone(), now).await?;
    Ok(Json(Tested {
        arrived: sent.verdict == Verdict::Arrived,
        method: "POST",
        headers: sent.headers.iter().map(|(name, value)| format!("{name}: {value}")).collect(),
        address: to.address,
        body: text,
        answer: sent.attempt.into(),
    }))
}

/// What is looked for in the log.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct LogWanted {
    /// Only those that stand there.
    #[serde(default)]
    state: Option<SendingState>,
    /// Older than this one.
    #[serde(default)]
    before: Option<i64>,
}

/// A page of the log.
#[derive(Serialize, JsonSchema)]
pub(crate) struct SendingPage {
    /// Newest first.
    sendings: Vec<SendingRow>,
    /// Whether there are older ones.
    more: bool,
}

pub(crate) async fn sendings(
    State(app): State<App>,
    SendingWatcher(person): SendingWatcher,
    Path(path): Path<DestinationPath>,
    Query(wanted): Query<LogWanted>,
) -> Result<Json<SendingPage>, Problem> {
    app.store.destination(person.workspace_id, path.destination).await?;
    let (rows, more) = app.store.sendings(person.workspace_id, path.destination, wanted.state, wanted.before).await?;
    Ok(Json(SendingPage { sendings: rows.into_iter().map(Into::into).collect(), more }))
}

/// What is sent again.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct SendAgain {
    /// This one; all that were kept aside where absent.
    #[serde(default)]
    sending: Option<Uuid>,
}

/// How many are sent again.
#[derive(Serialize, JsonSchema)]
pub(crate) struct SentAgain {
    /// So many.
    count: i64,
}

pub(crate) async fn again(
    State(app): State<App>,
    SecretKeeper(person): SecretKeeper,
    Path(path): Path<DestinationPath>,
    Body(body): Body<SendAgain>,
) -> Result<Json<SentAgain>, Problem> {
    app.store.destination(person.workspace_id, path.destination).await?;
    Ok(Json(SentAgain { count: app.store.send_again(&person, path.destination, body.sending).await? }))
}

pub(crate) async fn schema(SendingWatcher(_): SendingWatcher) -> Json<serde_json::Value> {
    Json(serde_json::to_value(schemars::schema_for!(Event)).unwrap_or_default())
}
