//! A simulated customer system: companies, contacts and leads behind a small interface with a bearer token, as
//! docs/customer-system.md describes it, and a page that shows them.
//!
//! | file | what it holds |
//! |---|---|
//! | `records` | what it holds: its schema, its records, what it refuses |
//! | `page` | the page |

mod page;
mod records;

use std::path::PathBuf;
use std::sync::{Arc, Mutex, PoisonError};
use std::time::Duration;

use axum::Router;
use axum::extract::{DefaultBodyLimit, Form, Path, Query, State};
use axum::http::{HeaderMap, Method, StatusCode, header};
use axum::response::{Html, IntoResponse, Redirect, Response};
use axum::routing::{any, get, post};
use serde::Deserialize;
use serde_json::{Value as Json, json};

use crate::faults::Faults;
use records::{Line, Records};

/// Largest request, bytes.
const BODY: usize = 1024 * 1024;

/// What every request sees.
#[derive(Clone)]
struct There(Arc<Mutex<Records>>);

impl There {
    fn with<T>(&self, with: impl FnOnce(&mut Records) -> T) -> T {
        with(&mut self.0.lock().unwrap_or_else(PoisonError::into_inner))
    }
}

/// The customer system, with its records kept in a file, where one is named.
pub(crate) fn router(file: Option<PathBuf>, here: &str) -> Router {
    let there = There(Arc::new(Mutex::new(Records::read(file, here))));
    Router::new()
        .route("/customers", get(show))
        .route("/customers/faults", post(set_faults))
        .route("/customers/token", post(set_token))
        .route("/customers/clear", post(clear))
        .route("/customers/all.json", get(all))
        .route("/customers/api/schema", get(schema))
        .route("/customers/api/{objects}", any(many))
        .route("/customers/api/{objects}/{id}", any(one))
        .layer(DefaultBodyLimit::max(BODY))
        .with_state(there)
}

fn refused(status: StatusCode, says: &str) -> Response {
    (status, axum::Json(json!({ "error": says }))).into_response()
}

fn text<'a>(headers: &'a HeaderMap, name: &str) -> &'a str {
    headers.get(name).and_then(|value| value.to_str().ok()).unwrap_or_default()
}

/// What every call goes through: the token, the faults, the log.
async fn call(
    there: &There,
    headers: &HeaderMap,
    line: String,
    does: impl Fn(&mut Records) -> Result<(StatusCode, Json), (StatusCode, String)>,
) -> Response {
    let fault = there.with(|records| records.faults.next());
    if fault.slow_ms > 0 {
        tokio::time::sleep(Duration::from_millis(fault.slow_ms)).await;
    }
    let allowed = there.with(|records| text(headers, "authorization") == format!("Bearer {}", records.token));
    let does_it = || there.with(&does);
    let (status, body) = if !allowed {
        (StatusCode::UNAUTHORIZED, json!({ "error": "this token is not known here" }))
    } else if let (Some(code), false) = (fault.code, fault.after) {
        let status = StatusCode::from_u16(code).unwrap_or(StatusCode::INTERNAL_SERVER_ERROR);
        (status, json!({ "error": "the stand-in was told to answer this" }))
    } else {
        let done = does_it();
        match (done, fault.code) {
            (Ok(_), Some(code)) => {
                let status = StatusCode::from_u16(code).unwrap_or(StatusCode::INTERNAL_SERVER_ERROR);
                (status, json!({ "error": "the stand-in did it, and was told to answer this" }))
            }
            (Ok(done), None) => done,
            (Err((status, says)), _) => (status, json!({ "error": says })),
        }
    };
    there.with(|records| records.note(Line { at: jiff::Timestamp::now(), call: line, answered: status.as_u16() }));
    (status, axum::Json(body)).into_response()
}

async fn schema(State(there): State<There>, headers: HeaderMap) -> Response {
    call(&there, &headers, "GET schema".into(), |records| Ok((StatusCode::OK, records.schema.clone()))).await
}

async fn many(
    State(there): State<There>,
    method: Method,
    Path(objects): Path<String>,
    Query(wanted): Query<Vec<(String, String)>>,
    headers: HeaderMap,
    body: String,
) -> Response {
    match method {
        Method::GET => {
            let asked: Vec<String> = wanted.iter().map(|(name, value)| format!("{name}={value}")).collect();
            let line = format!("GET {objects}?{}", asked.join("&"));
            call(&there, &headers, line, |records| {
                let found = records.find(&objects, &wanted)?;
                Ok((StatusCode::OK, json!({ "records": found })))
            })
            .await
        }
        Method::POST => {
            let key = text(&headers, "idempotency-key").to_owned();
            call(&there, &headers, format!("POST {objects}"), |records| {
                records.make(&objects, &key, &body).map(|record| (StatusCode::CREATED, record))
            })
            .await
        }
        _ => refused(StatusCode::METHOD_NOT_ALLOWED, "GET or POST"),
    }
}

async fn one(
    State(there): State<There>,
    method: Method,
    Path((objects, id)): Path<(String, String)>,
    headers: HeaderMap,
    body: String,
) -> Response {
    let line = format!("{method} {objects}/{id}");
    match method {
        Method::GET => {
            call(&there, &headers, line, |records| {
                records.read_one(&objects, &id).map(|record| (StatusCode::OK, record))
            })
            .await
        }
        Method::PATCH => {
            call(&there, &headers, line, |records| {
                records.change(&objects, &id, &body).map(|record| (StatusCode::OK, record))
            })
            .await
        }
        Method::DELETE => {
            call(&there, &headers, line, |records| records.remove(&objects, &id).map(|()| (StatusCode::OK, json!({}))))
                .await
        }
        _ => refused(StatusCode::METHOD_NOT_ALLOWED, "GET, PATCH or DELETE"),
    }
}

async fn show(State(there): State<There>) -> Html<String> {
    Html(there.with(|records| page::page(records)))
}

async fn all(State(there): State<There>) -> Response {
    let json = there.with(|records| records.all());
    ([(header::CONTENT_TYPE, "application/json")], json.to_string()).into_response()
}

async fn set_faults(State(there): State<There>, Form(faults): Form<Faults>) -> Redirect {
    there.with(|records| records.faults = faults);
    Redirect::to("/customers")
}

/// The token that it takes.
#[derive(Deserialize)]
struct Token {
    token: String,
}

async fn set_token(State(there): State<There>, Form(form): Form<Token>) -> Redirect {
    there.with(|records| form.token.trim().clone_into(&mut records.token));
    Redirect::to("/customers")
}

async fn clear(State(there): State<There>) -> Redirect {
    there.with(Records::clear);
    Redirect::to("/customers")
}
