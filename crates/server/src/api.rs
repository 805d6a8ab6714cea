//! Every route, with the OpenAPI document made from it.

use std::time::Duration;

use aide::axum::ApiRouter;
use aide::openapi::{Info, OpenApi};
use aide::transform::TransformOperation;
use axum::extract::{DefaultBodyLimit, MatchedPath, Request, State};
use axum::http::{HeaderName, StatusCode};
use axum::middleware::{Next, from_fn, from_fn_with_state};
use axum::response::{IntoResponse, Response};
use axum::routing::{any, get};
use axum::{Extension, Json, Router};
use tower_http::catch_panic::CatchPanicLayer;
use tower_http::compression::CompressionLayer;
use tower_http::request_id::{MakeRequestUuid, PropagateRequestIdLayer, SetRequestIdLayer};
use tower_http::timeout::{RequestBodyTimeoutLayer, TimeoutLayer};
use tower_http::trace::TraceLayer;
use tower_sessions::cookie::SameSite;
use tower_sessions::{Expiry, SessionManagerLayer};

use crate::routes::{
    answers, audit, catalogue, destinations, dialogues, drafts, embed, entering, faces, finding, held_back, joining,
    leads, mails, mapping, media, notices, people, placements, profile, prospects, provider, record_files, records,
    rehearsals, releases, requests, routing, running, scoring, session, settings, tasks, team, territories, together,
    tokens,
};
use crate::session_store::Sessions;
use crate::{App, Config, Problem, address, guard, live, pages};

/// Largest body of an author's request, bytes.
const AUTHOR_BODY: usize = 4 * 1024 * 1024;
/// Largest body of a prospect's request, bytes.
const PROSPECT_BODY: usize = 96 * 1024;

/// How long the database may take to say that it is there.
const READY_WITHIN: Duration = Duration::from_secs(1);
/// Longest pause within a request's body.
const BODY_PAUSE: Duration = Duration::from_secs(10);

/// Names a route in the document, in its area.
pub(crate) fn named(
    tag: &'static str,
    id: &'static str,
    summary: &'static str,
) -> impl FnOnce(TransformOperation<'_>) -> TransformOperation<'_> {
    move |operation| operation.tag(tag).id(id).summary(summary)
}

/// Routes of people who sign in.
fn of_people() -> ApiRouter<App> {
    [
        session::api,
        profile::api,
        provider::api,
        tokens::api,
        running::api,
        notices::api,
        people::api,
        faces::api,
        destinations::api,
        audit::api,
        dialogues::api,
        drafts::api,
        rehearsals::api,
        scoring::api,
        routing::api,
        territories::api,
        releases::api,
        placements::api,
        answers::api,
        together::api,
        mapping::api,
        media::api,
        catalogue::api,
        settings::api,
        leads::api,
        finding::api,
        mails::api,
        tasks::api,
        entering::api,
        record_files::api,
        records::api,
        requests::api,
        held_back::api,
        team::api,
        live::api,
    ]
    .into_iter()
    .fold(ApiRouter::new(), |all, area| all.merge(area()))
}

/// Routes of whoever is not signed in yet; they are limited by themselves.
fn coming_in() -> ApiRouter<App> {
    session::sign_in_api().merge(provider::sign_in_api()).merge(joining::api())
}

/// Routes of prospects.
fn of_prospects() -> ApiRouter<App> {
    prospects::api().merge(media::prospects_api()).merge(embed::api())
}

/// Must come before any route is described: it starts the collection of schemas afresh.
fn collect_schemas() {
    aide::generate::infer_responses(true);
    aide::generate::extract_schemas(true);
}

fn document(router: ApiRouter<App>) -> (Router<App>, OpenApi) {
    let mut api = OpenApi {
        info: Info {
            title: "Lumbo".into(),
            version: env!("CARGO_PKG_VERSION").into(),
            summary: Some("Qualification dialogues, leads and the conversations between them".into()),
            ..Info::default()
        },
        ..OpenApi::default()
    };
    let router = router.finish_api(&mut api);
    (router, api)
}

/// The OpenAPI 3.1 document of every route.
#[must_use]
pub fn openapi() -> OpenApi {
    collect_schemas();
    document(of_people().merge(coming_in()).merge(of_prospects())).1
}

pub(crate) fn router(app: App, config: &Config) -> Router {
    let sessions = SessionManagerLayer::new(Sessions(app.store.clone()))
        .with_name("lumbo")
        .with_secure(config.behind_tls)
        .with_http_only(true)
        .with_same_site(SameSite::Strict)
        .with_expiry(Expiry::OnInactivity(time::Duration::hours(12)));
    collect_schemas();
    let people = of_people()
        .merge(coming_in().route_layer(from_fn_with_state(app.clone(), guard::limit_sign_in)))
        .layer(sessions.clone())
        .layer(from_fn_with_state(app.clone(), guard::same_origin))
        .layer(DefaultBodyLimit::max(AUTHOR_BODY));
    // A session is only read where a conversation starts, to tell the workspace's own people from prospects.
    let prospects = of_prospects()
        .route_layer(from_fn_with_state(app.clone(), guard::limit_prospect))
        .layer(sessions)
        .layer(DefaultBodyLimit::max(PROSPECT_BODY));
    let across = embed::across()
        .route_layer(from_fn_with_state(app.clone(), guard::limit_prospect))
        .layer(DefaultBodyLimit::max(PROSPECT_BODY));
    let (api, document) = document(people.merge(prospects));
    api.route(
        "/api/openapi.json",
        get(|Extension(document): Extension<std::sync::Arc<OpenApi>>| async move { Json((*document).clone()) }),
    )
    .layer(Extension(std::sync::Arc::new(document)))
    .route("/healthz", get(|| async { "ok" }))
    .route("/readyz", get(ready))
    .merge(across)
    .route("/p/{slug}", get(pages::chat))
    .route("/rehearse/{dialogue}", get(pages::rehearsal))
    .route("/assets/{part}/{name}", get(pages::asset))
    .route("/api/{*rest}", any(no_such_route))
    .method_not_allowed_fallback(no_such_method)
    .fallback(get(pages::app))
    .layer(from_fn(count))
    .layer(from_fn_with_state(app.clone(), guard::security_headers))
    .layer(from_fn_with_state(app.clone(), address::find))
    .layer(CompressionLayer::new())
    .layer(CatchPanicLayer::custom(|_: Box<dyn std::any::Any + Send>| Problem::internal().into_response()))
    .layer(RequestBodyTimeoutLayer::new(BODY_PAUSE))
    .layer(TimeoutLayer::with_status_code(StatusCode::REQUEST_TIMEOUT, Duration::from_secs(30)))
    .layer(TraceLayer::new_for_http().make_span_with(|request: &Request| {
        let id = request.headers().get("x-request-id").and_then(|id| id.to_str().ok()).unwrap_or_default();
        // Neither query nor body: addresses and answers do not belong in a log.
        tracing::info_span!("request", method = %request.method(), path = request.uri().path(), id)
    }))
    .layer(PropagateRequestIdLayer::new(HeaderName::from_static("x-request-id")))
    .layer(SetRequestIdLayer::new(HeaderName::from_static("x-request-id"), MakeRequestUuid))
    .with_state(app)
}

async fn no_such_route() -> Problem {
    Problem::no_address()
}

async fn no_such_method() -> Problem {
    Problem::new(StatusCode::METHOD_NOT_ALLOWED, "no-such-method", "This address takes other methods than this one.")
}

async fn ready(State(app): State<App>) -> Response {
    // A probe wants an answer, not a wait.
    if tokio::time::timeout(READY_WITHIN, app.store.is_ready()).await.unwrap_or(false) {
        "ready".into_response()
    } else {
        (StatusCode::SERVICE_UNAVAILABLE, "the database does not answer").into_response()
    }
}

async fn count(request: Request, next: Next) -> Response {
    let route = request.extensions().get::<MatchedPath>().map_or("other", MatchedPath::as_str).to_owned();
    let begun = std::time::Instant::now();
    let response = next.run(request).await;
    let status = response.status().as_u16().to_string();
    metrics::counter!("lumbo_requests_total", "route" => route.clone(), "status" => status).increment(1);
    metrics::histogram!("lumbo_request_seconds", "route" => route).record(begun.elapsed().as_secs_f64());
    response
}
