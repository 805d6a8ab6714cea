//! The prospect's side: a bearer token per conversation, and nothing that a prospect should not see.

use aide::axum::ApiRouter;
use aide::axum::routing::{get_with, post_with};
use std::collections::BTreeMap;

use aide::OperationInput;
use axum::extract::{FromRequestParts, State};
use axum::http::request::Parts;
use axum::http::{HeaderMap, StatusCode, header};
use axum::{Extension, Json};
use jiff::Timestamp;
use lumbo_dialogue::file::{Dialogue, Pace};
use lumbo_dialogue::talk::{Context, ProspectMessage, ProspectView};
use lumbo_language::phrase_keys;
use lumbo_store::{NewConversation, SignedVisitor, StoreError, Suspicion, TakeError};
use rand::RngCore;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use sha2::{Digest, Sha256};
use tower_sessions::Session;
use uuid::Uuid;

use super::DialoguePath;
use super::settings::visitor_secret;
use crate::address::ClientAddress;
use crate::api::named;
use crate::body::{Body, Path};
use crate::signed::{self, SignedIn, Writer};
use crate::visitor::{self, Visitor, VisitorError};
use crate::{App, Problem};

/// The name of this area in the document.
const TAG: &str = "Prospects";

/// Routes of prospects: a bearer token per conversation. A session is looked at only to tell that one of the
/// workspace’s own people is trying.
pub(crate) fn api() -> ApiRouter<App> {
    ApiRouter::new()
        .api_route("/api/p/{slug}", get_with(opening, named(TAG, "opening", "What a prospect sees first")))
        .api_route(
            "/api/p/{slug}/conversations",
            post_with(start, named(TAG, "startConversation", "Start a conversation")),
        )
        .api_route("/api/conversation", get_with(resume, named(TAG, "resumeConversation", "The conversation so far")))
        .api_route("/api/conversation/inputs", post_with(input, named(TAG, "takeInput", "Answer")))
}

/// The dialogue's address on the prospects' side.
#[derive(Deserialize, JsonSchema)]
pub(crate) struct SlugPath {
    /// The address.
    slug: String,
}

/// What a prospect sees first.
#[derive(Serialize, JsonSchema)]
pub(crate) struct OpeningView {
    /// The greeting.
    pub(crate) say: String,
    /// The button that begins.
    button: String,
    /// Language of the conversation.
    language: String,
    /// The page's own words, by key.
    words: BTreeMap<String, String>,
    /// How fast lines appear.
    pace: Pace,
    /// Where one reads what becomes of what one says.
    privacy: Option<String>,
}

pub(crate) fn nothing_here() -> Problem {
    Problem::new(StatusCode::NOT_FOUND, "not-found", "There is nothing to talk about at this address right now.")
}

/// What a prospect sees first of a dialogue.
pub(crate) fn opening_of(dialogue: &Dialogue, privacy: Option<String>) -> OpeningView {
    let language = &dialogue.language;
    let phrases = dialogue.phrases(language);
    let words = phrase_keys()
        .into_iter()
        .filter_map(|key| key.strip_prefix("ui.").map(|name| (name.to_owned(), phrases.get(key).to_owned())))
        .collect();
    let text = |text: &lumbo_dialogue::file::Text| text.get(language, language).to_owned();
    OpeningView {
        say: text(&dialogue.opening.say),
        button: text(&dialogue.opening.button),
        language: language.clone(),
        words,
        pace: dialogue.settings.pace,
        privacy,
    }
}

pub(crate) async fn opening(State(app): State<App>, Path(path): Path<SlugPath>) -> Result<Json<OpeningView>, Problem> {
    // Only an address at which nothing is says so; a database that does not answer is another matter.
    let (dialogue, privacy) = app.store.on_air(&path.slug).await.map_err(|error| match error {
        StoreError::NotFound(_) => nothing_here(),
        other => other.into(),
    })?;
    Ok(Json(opening_of(&dialogue, privacy)))
}

/// The same of a draft, for rehearsing on the prospect's page.
pub(crate) async fn draft_opening(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<DialoguePath>,
) -> Result<Json<OpeningView>, Problem> {
    let privacy = app.store.workspace_settings(person.workspace_id).await?.privacy_link;
    Ok(Json(opening_of(&app.store.draft(person.workspace_id, path.dialogue).await?.body, privacy)))
}

/// A conversation to start.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Start {
    /// Chosen by the page; unique in the conversation.
    id: String,
    /// What is known without asking.
    #[serde(default)]
    context: Context,
    /// What the site signed about its signed-in visitor: a JSON Web Token. One that is not good does nothing.
    #[serde(default)]
    visitor: Option<String>,
    /// The placement it is started in.
    #[serde(default)]
    placement: Option<Uuid>,
    /// True where the page was opened by a link for trying: nothing is filed then.
    #[serde(default)]
    test: bool,
    /// A field that no person sees; whoever fills it is none.
    #[serde(default)]
    #[schemars(length(max = 500))]
    website: String,
}

/// A conversation that was started.
#[derive(Serialize, JsonSchema)]
pub(crate) struct Started {
    /// Opens this conversation; only the browser has it.
    token: String,
    /// What the prospect sees.
    view: ProspectView,
    /// True where it is only tried: by a link for that, or by somebody of the workspace who is signed in.
    test: bool,
}

/// A conversation looked at again.
#[derive(Serialize, JsonSchema)]
pub(crate) struct Resumed {
    /// What the prospect sees.
    #[serde(flatten)]
    view: ProspectView,
    /// True where it is only tried.
    test: bool,
}

fn hash(token: &str) -> Vec<u8> {
    Sha256::digest(token.as_bytes()).to_vec()
}

/// What a site signed about its visitor, where it is good. Why it is not stands in the log, without what was signed.
async fn visitor(app: &App, slug: &str, token: Option<&str>, now: Timestamp) -> Result<Option<Visitor>, Problem> {
    let Some(token) = token else { return Ok(None) };
    let read = match visitor::key_of(token) {
        Ok(key) => match app.store.visitor_secret_at(slug, &key).await? {
            Some((workspace, sealed)) => {
                let secret = visitor_secret(app, workspace, &key, &sealed)?;
                visitor::read(token, &key, &secret, Some(slug), now)
            }
            None => Err(VisitorError::UnknownKey(key)),
        },
        Err(error) => Err(error),
    };
    metrics::counter!("lumbo_visitor_tokens_total", "taken" => if read.is_ok() { "yes" } else { "no" }).increment(1);
    Ok(read.inspect_err(|error| tracing::warn!(slug, error = error.for_log(), "a visitor’s token was not taken")).ok())
}

/// The workspace that whoever asks is signed in to. Prospects have no session; one that cannot be read counts as none.
async fn signed_in_to(session: &Session) -> Option<Uuid> {
    session.get::<SignedIn>(signed::KEY).await.ok().flatten().map(|signed| signed.workspace)
}

/// Why a machine may be starting a conversation.
fn doubt(app: &App, address: Option<&ClientAddress>, slug: &str, website: &str) -> Option<Suspicion> {
    let floods = address.is_some_and(|address| app.guard.floods(address.network(), slug));
    if !website.is_empty() {
        return Some(Suspicion::Trap);
    }
    floods.then_some(Suspicion::Flood)
}

pub(crate) async fn start(
    State(app): State<App>,
    Path(path): Path<SlugPath>,
    headers: HeaderMap,
    session: Extension<Session>,
    address: Option<Extension<ClientAddress>>,
    Body(start): Body<Start>,
) -> Result<Json<Started>, Problem> {
    let mut secret = [0_u8; 32];
    rand::rng().fill_bytes(&mut secret);
    let token = hex::encode(secret);
    let seed = u64::from(rand::rng().next_u32());
    let now = app.store.now();
    // The page cannot know the country; a proxy that is trusted can.
    let country = app
        .country_header
        .as_ref()
        .and_then(|name| headers.get(name))
        .and_then(|value| value.to_str().ok())
        .map(str::to_owned);
    let context = Context { country, ..start.context };
    let known = visitor(&app, &path.slug, start.visitor.as_deref(), now).await?.map(|visitor| SignedVisitor {
        subject: visitor.subject,
        known: visitor.known,
        signed: visitor.signed,
    });
    let new = NewConversation {
        slug: &path.slug,
        token_hash: &hash(&token),
        input_id: &start.id,
        placement: start.placement,
        seed,
        context,
        known,
        by_test_link: start.test,
        signed_in_to: signed_in_to(&session).await,
        doubt: doubt(&app, address.as_deref(), &path.slug, &start.website),
        now,
    };
    let started = app.store.start_conversation(new).await.map_err(|error| match error {
        TakeError::Store(StoreError::NotFound(_)) => nothing_here(),
        other => other.into(),
    })?;
    app.guard.begun(started.dialogue, &path.slug);
    metrics::counter!("lumbo_conversations_started_total").increment(1);
    Ok(Json(Started { token, view: started.view, test: started.test }))
}

/// The bearer token of a conversation.
pub(crate) struct Bearer(Vec<u8>);

impl<S: Send + Sync> FromRequestParts<S> for Bearer {
    type Rejection = Problem;

    async fn from_request_parts(parts: &mut Parts, _state: &S) -> Result<Self, Problem> {
        let token = parts
            .headers
            .get(header::AUTHORIZATION)
            .and_then(|value| value.to_str().ok())
            .and_then(|value| value.strip_prefix("Bearer "))
            .filter(|token| token.len() == 64);
        token.map(|token| Self(hash(token))).ok_or_else(|| {
            Problem::new(
                StatusCode::UNAUTHORIZED,
                "no-conversation",
                "This page has no conversation open. Start a new one.",
            )
        })
    }
}

impl OperationInput for Bearer {}

pub(crate) async fn resume(State(app): State<App>, Bearer(token): Bearer) -> Result<Json<Resumed>, Problem> {
    let resumed = app.store.resume(&token).await?;
    Ok(Json(Resumed { view: resumed.view, test: resumed.test }))
}

pub(crate) async fn input(
    State(app): State<App>,
    Bearer(token): Bearer,
    address: Option<Extension<ClientAddress>>,
    Body(message): Body<ProspectMessage>,
) -> Result<Json<ProspectView>, Problem> {
    let now = app.store.now();
    let taken = app.store.take_input(&token, message, now).await?;
    if let (Some(dialogue), Some(address)) = (taken.filed, address) {
        app.guard.filed(address.network(), dialogue);
    }
    metrics::counter!("lumbo_inputs_total", "repeated" => if taken.repeated { "yes" } else { "no" }).increment(1);
    Ok(Json(taken.view))
}
