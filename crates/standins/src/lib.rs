//! Small simulated outside services, to send leads to without a network: a customer system, a sheet, a mailbox, a
//! receiver of webhooks and a chat room; and a provider to sign in through. Each has a page that shows what it got, and
//! faults that one can switch on.
//!
//! | file | what it holds |
//! |---|---|
//! | `got` | what came in, kept in a file |
//! | `faults` | what goes wrong, when somebody wants it to |
//! | `verify` | what a receiver does with a signature, written apart from the sender |
//! | `page` | the pages |
//! | `customers` | a customer system with records and a schema |
//! | `mailbox` | an SMTP server that takes every mail |
//! | `provider` | a sign-in provider, by OpenID Connect |
//! | `sheet` | a sheet, a row for each lead |
//! | `site` | Winterlode's own site, to try placements on |

mod customers;
mod faults;
mod got;
pub mod mailbox;
mod page;
pub mod provider;
mod sheet;
mod site;
mod verify;

use std::path::PathBuf;
use std::sync::{Arc, Mutex, PoisonError};
use std::time::Duration;

use axum::extract::{DefaultBodyLimit, Form, Path, State};
use axum::http::{HeaderMap, StatusCode, header};
use axum::response::{Html, IntoResponse, Redirect, Response};
use axum::routing::{get, post};
use axum::{Json, Router};
use faults::Faults;
use got::{Got, Kept};
use mailbox::Mailbox;
use serde::Deserialize;

/// What the stand-ins are told.
#[derive(Debug, Clone)]
pub struct Options {
    /// Where they are, as links to them begin.
    pub here: String,
    /// Where Lumbo is, for the line of script on Winterlode's pages.
    pub lumbo: String,
    /// The key in that line.
    pub page_key: String,
    /// File that keeps what came in; in memory only where absent.
    pub data: Option<PathBuf>,
}

impl Options {
    /// Stand-ins that keep nothing, for tests.
    #[must_use]
    pub fn quiet(here: &str) -> Self {
        Self { here: here.to_owned(), lumbo: String::new(), page_key: String::new(), data: None }
    }
}

/// What every page sees.
#[derive(Clone)]
struct App(Arc<Mutex<Kept>>);

impl App {
    fn kept<T>(&self, with: impl FnOnce(&mut Kept) -> T) -> T {
        with(&mut self.0.lock().unwrap_or_else(PoisonError::into_inner))
    }
}

/// Largest request that is kept, bytes.
const BODY: usize = 1024 * 1024;

/// Everything that the stand-ins serve.
///
/// # Errors
/// Where what was kept before cannot be read.
pub fn router(options: &Options, mailbox: Mailbox) -> anyhow::Result<Router> {
    let beside = |name: &str| options.data.as_ref().map(|data| data.with_extension(name));
    let app = App(Arc::new(Mutex::new(Kept::read(options.data.clone())?)));
    Ok(Router::new()
        .route("/receiver", get(receiver))
        .route("/chat", get(chat))
        .route("/receive/{place}", post(receive))
        .route("/secret", post(secret))
        .route("/faults", post(set_faults))
        .route("/got.json", get(got_json))
        .route("/clear", post(clear))
        .layer(DefaultBodyLimit::max(BODY))
        .with_state(app)
        .merge(customers::router(beside("customers.json"), &options.here))
        .merge(mailbox.router())
        .merge(provider::router(&options.here)?)
        .merge(sheet::router(beside("sheet.json")))
        .merge(site::router(site::Line {
            lumbo: options.lumbo.as_str().into(),
            key: options.page_key.as_str().into(),
        })))
}

/// Takes what is sent, or does what the faults say.
async fn receive(State(app): State<App>, Path(place): Path<String>, headers: HeaderMap, body: String) -> Response {
    let text = |name: &str| headers.get(name).and_then(|value| value.to_str().ok()).unwrap_or_default().to_owned();
    let fault = app.kept(|kept| kept.faults.next());
    if fault.slow_ms > 0 {
        tokio::time::sleep(Duration::from_millis(fault.slow_ms)).await;
    }
    let secret = app.kept(|kept| kept.secret.clone());
    let signed =
        verify::verify(&secret, &text("webhook-id"), &text("webhook-timestamp"), &text("webhook-signature"), &body);
    let got = Got {
        at: jiff::Timestamp::now(),
        place,
        id: text("webhook-id"),
        signed,
        body,
        answered: fault.code.unwrap_or(200),
    };
    app.kept(|kept| kept.add(got));
    match fault.code {
        None => (StatusCode::OK, Json(serde_json::json!({ "ok": true }))).into_response(),
        Some(code) => {
            let status = StatusCode::from_u16(code).unwrap_or(StatusCode::INTERNAL_SERVER_ERROR);
            let mut answer = (status, "the stand-in was told to answer this").into_response();
            if code == 429 {
                answer.headers_mut().insert(header::RETRY_AFTER, header::HeaderValue::from_static("1"));
            }
            answer
        }
    }
}

async fn receiver(State(app): State<App>) -> Html<String> {
    Html(app.kept(|kept| page::receiver(kept)))
}

async fn chat(State(app): State<App>) -> Html<String> {
    Html(app.kept(|kept| page::chat(kept)))
}

async fn got_json(State(app): State<App>) -> Json<Vec<Got>> {
    Json(app.kept(|kept| kept.got.clone()))
}

/// The secret that the receiver verifies with.
#[derive(Deserialize)]
struct Secret {
    secret: String,
}

async fn secret(State(app): State<App>, Form(form): Form<Secret>) -> Redirect {
    app.kept(|kept| kept.secret = form.secret.trim().to_owned());
    Redirect::to("/receiver")
}

async fn set_faults(State(app): State<App>, Form(faults): Form<Faults>) -> Redirect {
    app.kept(|kept| kept.faults = faults);
    Redirect::to("/receiver")
}

async fn clear(State(app): State<App>) -> Redirect {
    app.kept(Kept::clear);
    Redirect::to("/receiver")
}
