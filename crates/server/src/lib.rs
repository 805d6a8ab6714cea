//! The HTTP side of Lumbo. Thin: parse, call core and store, answer.
//!
//! | file | what it holds |
//! |---|---|
//! | `routes/` | one file per area: session, dialogues, rehearsals, releases, leads, prospects |
//! | `problem` | every failure as an RFC 9457 problem document, mapped once |
//! | `visitor` | what a site signs about its visitor |
//! | `silence` | ending silent conversations |
//! | `signed` | who is signed in, and what their role allows |
//! | `session_store` | sessions in PostgreSQL |
//! | `guard` | same-origin check, rate limits, security headers |
//! | `pages` | the two pages and their files, shipped inside the binary |
//! | `api` | all routes with their OpenAPI document |

mod api;
mod body;
mod guard;
mod pages;
mod password;
mod problem;
mod routes;
mod session_store;
mod signed;
mod silence;
mod visitor;

use std::net::SocketAddr;
use std::sync::Arc;

use axum::Router;
use lumbo_store::Store;
use metrics_exporter_prometheus::PrometheusHandle;

pub use api::openapi;
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
}

impl Default for Config {
    fn default() -> Self {
        Self { secure_cookies: false, sign_ins_per_minute: 10, prospect_requests_per_minute: 240, country_header: None }
    }
}

/// What every handler sees.
#[derive(Clone)]
pub struct App {
    pub(crate) store: Store,
    pub(crate) guard: Arc<guard::Limits>,
    pub(crate) metrics: PrometheusHandle,
    pub(crate) country_header: Option<axum::http::HeaderName>,
}

/// The whole application as a router.
pub fn router(store: Store, config: &Config) -> Router {
    // A second recorder in one process (tests) is not an error: its handle then renders nothing of the first.
    let metrics = metrics_exporter_prometheus::PrometheusBuilder::new()
        .install_recorder()
        .unwrap_or_else(|_| metrics_exporter_prometheus::PrometheusBuilder::new().build_recorder().handle());
    let app = App { store: store.clone(), guard: Arc::new(guard::Limits::new(config)), metrics, country_header: config.country_header.clone() };
    api::router(app, &store, config)
}

/// Serves until told to stop.
///
/// # Errors
/// What the listener reports.
pub async fn serve(listener: tokio::net::TcpListener, store: Store, config: &Config, stop: impl Future<Output = ()> + Send + 'static) -> std::io::Result<()> {
    let silence = tokio::spawn(silence::watch(store.clone()));
    let app = router(store, config).into_make_service_with_connect_info::<SocketAddr>();
    let served = axum::serve(listener, app).with_graceful_shutdown(stop).await;
    silence.abort();
    served
}
