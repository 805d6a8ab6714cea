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
//! | `pasts` | past leads in memory, for scorecards to be held against |
//! | `busy` | work that takes processor time, apart from the answers |
//! | `signed` | who is signed in, and what their role allows |
//! | `session_store` | sessions in PostgreSQL |
//! | `guard` | same-origin check, rate limits, security headers |
//! | `pages` | the two pages and their files, shipped inside the binary |
//! | `api` | all routes with their OpenAPI document |

mod analyses;
mod answer;
mod api;
mod body;
mod busy;
mod guard;
mod listen;
mod live;
mod pages;
mod password;
mod pasts;
mod problem;
mod routes;
mod session_store;
mod signed;
mod strict;
mod visitor;
mod wire;
mod workers;

use std::sync::Arc;

use axum::Router;
use lumbo_store::Store;
use metrics_exporter_prometheus::PrometheusHandle;
use tokio::sync::watch;

pub use api::openapi;
pub use listen::Sockets;
pub use password::hash as hash_password;
pub use problem::Problem;

/// How the server is run.
#[derive(Debug, Clone)]
pub struct Config {
    /// Cookies only over HTTPS; off for plain HTTP on loopback.
    pub secure_cookies: bool,
    /// Sign-ins per minute and address.
    pub sign_ins_per_minute: u32,
    /// Prospects' requests per minute and address.
    pub prospect_requests_per_minute: u32,
    /// A header with the visitor's country, ISO 3166-1 alpha-2. Only where a proxy in front always sets it: whoever can
    /// reach the server without that proxy can write what they like there.
    pub country_header: Option<axum::http::HeaderName>,
    /// How many sockets.
    pub sockets: Sockets,
}

impl Default for Config {
    fn default() -> Self {
        Self {
            secure_cookies: false,
            sign_ins_per_minute: 10,
            prospect_requests_per_minute: 240,
            country_header: None,
            sockets: Sockets::default(),
        }
    }
}

/// What every handler sees.
#[derive(Clone)]
pub struct App {
    pub(crate) store: Store,
    pub(crate) guard: Arc<guard::Limits>,
    pub(crate) metrics: PrometheusHandle,
    pub(crate) country_header: Option<axum::http::HeaderName>,
    pub(crate) busy: Arc<busy::Busy>,
    pub(crate) analyses: Arc<analyses::Analyses>,
    pub(crate) pasts: Arc<pasts::Pasts>,
    pub(crate) rooms: Arc<live::Rooms>,
    /// Turns true where the server stops, so that streams end.
    pub(crate) stop: watch::Receiver<bool>,
}

/// The whole application as a router, without workers.
pub fn router(store: Store, config: &Config) -> Router {
    // Nobody says stop to it: a sender that is gone leaves the last word, which is to go on.
    router_until(store, config, watch::channel(false).1)
}

fn router_until(store: Store, config: &Config, stop: watch::Receiver<bool>) -> Router {
    // A second recorder in one process (tests) is not an error: its handle then renders nothing of the first.
    let metrics = metrics_exporter_prometheus::PrometheusBuilder::new()
        .install_recorder()
        .unwrap_or_else(|_| metrics_exporter_prometheus::PrometheusBuilder::new().build_recorder().handle());
    let app = App {
        store: store.clone(),
        guard: Arc::new(guard::Limits::new(config)),
        metrics,
        country_header: config.country_header.clone(),
        busy: Arc::default(),
        analyses: Arc::default(),
        pasts: Arc::default(),
        rooms: live::rooms(),
        stop,
    };
    api::router(app, &store, config)
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
    let telling = tokio::spawn({
        let store = store.clone();
        async move { store.tell_others().await }
    });
    let hearing = tokio::spawn({
        let store = store.clone();
        async move { store.hear_others().await }
    });
    let working = tokio::spawn(workers::work(store.clone(), stopped.clone()));
    let app = router_until(store, config, stopped);
    let stop = async move {
        stop.await;
        let _ = stopping.send(true);
    };
    listen::serve(listener, app, config.sockets, stop).await;
    let _ = working.await;
    telling.abort();
    hearing.abort();
}
