//! The HTTP side of Lumbo. Thin: parse, call core and store, answer.
//!
//! | file | what it holds |
//! |---|---|
//! | `routes/` | one file per area: session, dialogues, rehearsals, releases, leads, prospects |
//! | `problem` | every failure as an RFC 9457 problem document, mapped once |
//! | `visitor` | what a site signs about its visitor |
//! | `body`, `strict`, `answer` | what a request brings, and answers that are no JSON of ours |
//! | `wire/` | what crosses, one file per area |
//! | `workers/` | due jobs, one file per kind |
//! | `live/` | what windows are told as it happens |
//! | `listen` | sockets: how many, how long, and an end in time |
//! | `analyses` | what is computed of drafts, beside the answers |
//! | `picture` | uploaded pictures, written anew |
//! | `pasts` | past leads in memory, for scorecards to be held against |
//! | `placed` | placements on air, and what pages saw of them |
//! | `busy` | work that takes processor time, apart from the answers |
//! | `signed` | who is signed in, and what their role allows |
//! | `provider` | signing in through a provider, by OpenID Connect |
//! | `bearer` | requests of programs, by a token |
//! | `session_store` | sessions in PostgreSQL |
//! | `measured` | metrics, on an address of their own |
//! | `guard` | same-origin check, rate limits, security headers |
//! | `address` | where a request truly comes from, behind proxies |
//! | `vault` | secrets, sealed at rest |
//! | `secret` | secrets of links, kept as their SHA-256 |
//! | `typed` | names, zones, addresses and passwords, as people type them |
//! | `outgoing/` | requests that leave Lumbo: what may be called, signing, what an answer means |
//! | `pages` | the two pages and their files, shipped inside the binary |
//! | `api` | all routes with their OpenAPI document |

mod address;
mod analyses;
mod answer;
mod api;
mod bearer;
mod body;
mod busy;
mod guard;
mod held;
mod listen;
mod live;
mod measured;
mod outgoing;
mod pages;
mod password;
mod pasts;
mod picture;
mod placed;
mod problem;
mod provider;
mod routes;
mod secret;
mod session_store;
mod signed;
mod strict;
mod tools;
mod typed;
mod vault;
mod visitor;
mod wire;
mod workers;

use std::sync::Arc;
use std::time::Duration;

use axum::Router;
use lumbo_store::Store;
use tokio::sync::watch;

pub use api::openapi;
pub use listen::Sockets;
pub use outgoing::mail::{MailError, Mailer};
pub use password::hash as hash_password;
pub use problem::Problem;
pub use secret::link_secret;
pub use vault::KEY_BYTES;

/// A provider that people may sign in through, by OpenID Connect.
#[derive(Clone)]
pub struct Provider {
    /// What people call it.
    pub name: String,
    /// Its issuer, as its tokens name it.
    pub issuer: String,
    /// What it calls this server.
    pub client_id: String,
    /// What proves to it that this server asks.
    pub client_secret: String,
}

impl std::fmt::Debug for Provider {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        f.debug_struct("Provider").field("issuer", &self.issuer).finish_non_exhaustive()
    }
}

/// How the server is run.
#[derive(Debug, Clone)]
pub struct Config {
    /// True where browsers reach it over HTTPS: cookies, origins and headers then insist on it. Off for plain HTTP on
    /// loopback.
    pub behind_tls: bool,
    /// Networks of proxies whose word on the true address is believed.
    pub trusted_proxies: Vec<ipnet::IpNet>,
    /// Where people open Lumbo, for links in what is sent.
    pub site: String,
    /// Hosts with their ports, such as 127.0.0.1:8090, that may be sent to though they are private or speak plain http.
    pub allowed_private: Vec<String>,
    /// Sends mails; none where the server was given no mail server.
    pub mailer: Mailer,
    /// Seals secrets at rest; without one, none can be kept.
    pub secret_key: Option<[u8; KEY_BYTES]>,
    /// People may sign in through it; with passwords alone where there is none.
    pub provider: Option<Provider>,
    /// Where metrics are read, apart from everything else; nowhere where absent.
    pub metrics: Option<std::net::SocketAddr>,
    /// Requests per minute and API token.
    pub token_requests_per_minute: u32,
    /// Sign-ins per minute and address.
    pub sign_ins_per_minute: u32,
    /// Prospects' requests per minute and address.
    pub prospect_requests_per_minute: u32,
    /// Conversations of one dialogue that one network may begin within an hour before they are held back for somebody
    /// to look at.
    pub starts_per_hour: u32,
    /// Leads of one dialogue that one network may file within an hour before what it begins next is held back.
    pub filings_per_hour: u32,
    /// A header with the visitor's country, ISO 3166-1 alpha-2. Only where a proxy in front always sets it: whoever can
    /// reach the server without that proxy can write what they like there.
    pub country_header: Option<axum::http::HeaderName>,
    /// How many sockets.
    pub sockets: Sockets,
    /// How often rights are looked at again while a stream runs.
    pub rights_every: Duration,
}

impl Default for Config {
    fn default() -> Self {
        Self {
            behind_tls: false,
            trusted_proxies: Vec::new(),
            site: "http://127.0.0.1:8080".into(),
            allowed_private: Vec::new(),
            mailer: Mailer::off(),
            secret_key: None,
            provider: None,
            metrics: None,
            token_requests_per_minute: 600,
            sign_ins_per_minute: 10,
            prospect_requests_per_minute: 240,
            starts_per_hour: 60,
            filings_per_hour: 20,
            country_header: None,
            sockets: Sockets::default(),
            rights_every: Duration::from_secs(15),
        }
    }
}

/// What every handler sees.
#[derive(Clone)]
pub struct App {
    pub(crate) store: Store,
    pub(crate) guard: Arc<guard::Limits>,
    pub(crate) country_header: Option<axum::http::HeaderName>,
    pub(crate) behind_tls: bool,
    pub(crate) trusted_proxies: Arc<[ipnet::IpNet]>,
    pub(crate) tools: tools::Tools,
    /// Speaks to the provider that people may sign in through.
    pub(crate) provider: Option<provider::Speaks>,
    pub(crate) placed: Arc<placed::Placed>,
    pub(crate) busy: Arc<busy::Busy>,
    pub(crate) analyses: Arc<analyses::Analyses>,
    pub(crate) pasts: Arc<pasts::Pasts>,
    pub(crate) rooms: Arc<live::Rooms>,
    pub(crate) rights_every: Duration,
    /// Turns true where the server stops, so that streams end.
    pub(crate) stop: watch::Receiver<bool>,
}

/// The whole application as a router, without workers.
pub fn router(store: Store, config: &Config) -> Router {
    // Nobody says stop to it: a sender that is gone leaves the last word, which is to go on.
    router_until(tools::Tools::new(store, config), Arc::default(), config, watch::channel(false).1)
}

fn router_until(
    tools: tools::Tools,
    placed: Arc<placed::Placed>,
    config: &Config,
    stop: watch::Receiver<bool>,
) -> Router {
    let provider = config.provider.clone().map(|provider| provider::Speaks {
        provider: Arc::new(provider),
        outgoing: tools.outgoing.clone(),
        vault: tools.vault.clone(),
        site: Arc::clone(&tools.site),
    });
    let app = App {
        store: tools.store.clone(),
        guard: Arc::new(guard::Limits::new(config)),
        provider,
        country_header: config.country_header.clone(),
        behind_tls: config.behind_tls,
        trusted_proxies: config.trusted_proxies.clone().into(),
        tools,
        placed,
        busy: Arc::default(),
        analyses: Arc::default(),
        pasts: Arc::default(),
        rooms: live::rooms(),
        rights_every: config.rights_every,
        stop,
    };
    api::router(app, config)
}

/// Serves with its workers until told to stop, and then ends within 15 seconds: requests and jobs under way are
/// finished, or cut off and given back.
pub async fn serve(
    listener: tokio::net::TcpListener,
    store: Store,
    config: &Config,
    stop: impl Future<Output = ()> + Send + 'static,
) {
    let (stopping, stopped) = watch::channel(false);
    let measuring = config.metrics.map(|address| tokio::spawn(measured::serve(address, stopped.clone())));
    let telling = tokio::spawn({
        let store = store.clone();
        async move { store.tell_others().await }
    });
    let hearing = tokio::spawn({
        let store = store.clone();
        async move { store.hear_others().await }
    });
    let tools = tools::Tools::new(store, config);
    let working = tokio::spawn(workers::work(tools.clone(), stopped.clone()));
    seal_plain_secrets(&tools).await;
    offer_setup(&tools.store).await;
    let placed = Arc::<placed::Placed>::default();
    let writing = tokio::spawn({
        let (placed, store, stopped) = (Arc::clone(&placed), tools.store.clone(), stopped.clone());
        async move { placed.keep_written(&store, stopped).await }
    });
    let app = router_until(tools, placed, config, stopped);
    let stop = async move {
        stop.await;
        let _ = stopping.send(true);
    };
    listen::serve(listener, app, config.sockets, stop).await;
    let _ = working.await;
    let _ = writing.await;
    if let Some(measuring) = measuring {
        measuring.abort();
    }
    telling.abort();
    hearing.abort();
}

/// Seals what an earlier version kept as it was.
async fn seal_plain_secrets(tools: &tools::Tools) {
    let (store, vault) = (&tools.store, &tools.vault);
    let sealing = async {
        let plain = store.plain_visitor_keys().await?;
        if !plain.is_empty() && !vault.is_open() {
            tracing::warn!(
                count = plain.len(),
                "secrets of signed-in visitors wait for LUMBO_SECRET_KEY, and do nothing"
            );
            return Ok(());
        }
        for (workspace, id, secret) in plain {
            if let Ok(sealed) = vault.seal(&routes::visitor_purpose(workspace, &id), secret.as_bytes()) {
                store.seal_visitor_key(workspace, &id, &sealed).await?;
            }
        }
        Ok::<(), lumbo_store::StoreError>(())
    };
    if let Err(error) = sealing.await {
        tracing::warn!(%error, "secrets could not be sealed");
    }
}

/// Where no workspace but the demo's is there, makes the code that guards setting one up, and prints it in the log. The
/// newest start's code counts.
async fn offer_setup(store: &Store) {
    let (code, hash) = routes::setup_code();
    match store.wants_setup().await {
        Ok(true) => match store.keep_setup_code(&hash).await {
            Ok(()) => tracing::info!(code, "no workspace yet: open /setup and type this code"),
            Err(error) => tracing::warn!(%error, "the code for setting up could not be kept"),
        },
        Ok(false) => {}
        Err(error) => tracing::warn!(%error, "whether a workspace is to be set up is not known"),
    }
}
