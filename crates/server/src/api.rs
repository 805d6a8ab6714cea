//! Every route, with the OpenAPI document made from it.

use std::time::Duration;

use aide::axum::ApiRouter;
use aide::axum::routing::{delete_with, get_with, post_with};
use aide::openapi::{Info, OpenApi};
use aide::transform::TransformOperation;
use axum::extract::{DefaultBodyLimit, MatchedPath, Request, State};
use axum::http::{HeaderName, StatusCode};
use axum::middleware::{Next, from_fn, from_fn_with_state};
use axum::response::{IntoResponse, Response};
use axum::routing::get;
use axum::{Extension, Json, Router};
use lumbo_store::Store;
use tower_http::catch_panic::CatchPanicLayer;
use tower_http::compression::CompressionLayer;
use tower_http::request_id::{MakeRequestUuid, PropagateRequestIdLayer, SetRequestIdLayer};
use tower_http::timeout::{RequestBodyTimeoutLayer, TimeoutLayer};
use tower_http::trace::TraceLayer;
use tower_sessions::cookie::SameSite;
use tower_sessions::{Expiry, SessionManagerLayer};

use crate::routes::{
    catalogue, dialogues, drafts, leads, media, prospects, rehearsals, releases, session, settings, together,
};
use crate::session_store::Sessions;
use crate::{App, Config, Problem, guard, live, pages};

/// Largest body of an author's request, bytes.
const AUTHOR_BODY: usize = 4 * 1024 * 1024;
/// Largest body of a prospect's request, bytes.
const PROSPECT_BODY: usize = 96 * 1024;

/// Longest pause within a request's body.
const BODY_PAUSE: Duration = Duration::from_secs(10);

fn named(id: &'static str, summary: &'static str) -> impl FnOnce(TransformOperation<'_>) -> TransformOperation<'_> {
    move |operation| operation.id(id).summary(summary)
}

/// Routes of people who sign in.
fn people() -> ApiRouter<App> {
    ApiRouter::new()
        .api_route("/api/me", get_with(session::me, named("me", "Who is signed in")))
        .api_route("/api/sign-out", post_with(session::sign_out, named("signOut", "Sign out")))
        .api_route(
            "/api/dialogues",
            get_with(dialogues::list, named("dialogues", "The workspace’s dialogues"))
                .post_with(dialogues::create, named("createDialogue", "Make a dialogue")),
        )
        .api_route(
            "/api/dialogues/{dialogue}/draft",
            get_with(drafts::draft, named("draft", "A dialogue’s draft"))
                .post_with(drafts::edit, named("editDraft", "Change a draft")),
        )
        .api_route(
            "/api/dialogues/{dialogue}/history",
            get_with(drafts::history, named("history", "Who changed a draft, and how")),
        )
        .api_route(
            "/api/dialogues/{dialogue}/file",
            get_with(drafts::file, named("dialogueFile", "The draft as a dialogue file")),
        )
        .api_route(
            "/api/dialogues/{dialogue}/opening",
            get_with(prospects::draft_opening, named("draftOpening", "What a prospect would see first of a draft")),
        )
        .api_route(
            "/api/dialogues/{dialogue}/rehearsal",
            post_with(rehearsals::rehearse, named("rehearse", "Talk to the draft as a prospect would")),
        )
        .api_route(
            "/api/dialogues/{dialogue}/releases",
            get_with(releases::list, named("releases", "A dialogue’s releases"))
                .post_with(releases::create, named("release", "Release the draft")),
        )
        .api_route(
            "/api/dialogues/{dialogue}/releases/compare",
            get_with(releases::compare_two, named("compareReleases", "Compare two releases, or one with the draft")),
        )
        .api_route(
            "/api/dialogues/{dialogue}/releases/{number}",
            get_with(releases::body, named("releaseBody", "A release’s dialogue")),
        )
        .api_route(
            "/api/dialogues/{dialogue}/on-air",
            post_with(releases::put_on_air, named("putOnAir", "Put a release on air, or take the dialogue off air")),
        )
        .api_route(
            "/api/dialogues/{dialogue}/find",
            post_with(drafts::find_words, named("findWords", "Find words in a draft")),
        )
        .api_route(
            "/api/dialogues/{dialogue}/draft/analysis",
            get_with(drafts::analysis, named("analysis", "What is computed of a draft")),
        )
        .api_route(
            "/api/dialogues/{dialogue}/ledger",
            get_with(drafts::field_ledger, named("fieldLedger", "Where each field is captured and read")),
        )
        .api_route(
            "/api/dialogues/{dialogue}/phrases",
            get_with(drafts::phrases, named("phrases", "Built-in phrases in the dialogue’s language")),
        )
        .api_route(
            "/api/dialogues/{dialogue}/formula",
            post_with(rehearsals::try_formula, named("tryFormula", "Look at a formula")),
        )
        .api_route(
            "/api/dialogues/{dialogue}/condition",
            post_with(rehearsals::read_condition, named("readCondition", "Read a condition typed as a sentence")),
        )
        .api_route(
            "/api/dialogues/{dialogue}/presence",
            post_with(together::present, named("present", "Say that a draft is open, and learn who else has it open")),
        )
        .api_route(
            "/api/dialogues/{dialogue}/comments",
            get_with(together::comments, named("comments", "Comments on a draft"))
                .post_with(together::add, named("addComment", "Comment on a row")),
        )
        .api_route(
            "/api/dialogues/{dialogue}/comments/{comment}",
            post_with(together::resolve, named("resolveComment", "Resolve a comment, or open it again")),
        )
        .api_route(
            "/api/patterns",
            get_with(dialogues::list_patterns, named("patterns", "Ready-made dialogues to begin from")),
        )
        .api_route("/api/media", post_with(media::add, named("addMedium", "Keep a picture or document")))
        .api_route("/api/media/{hash}", get_with(media::of_workspace, named("medium", "A picture or document")))
        .api_route(
            "/api/fields",
            get_with(catalogue::fields, named("fields", "The catalogue of fields"))
                .post_with(catalogue::change, named("changeField", "Make a field, or change one")),
        )
        .api_route(
            "/api/fields/preview",
            post_with(catalogue::preview, named("previewField", "What a change of a field would do")),
        )
        .api_route(
            "/api/fields/import",
            post_with(catalogue::import, named("importFields", "Take in a catalogue as CSV")),
        )
        .api_route(
            "/api/fields/{field}",
            delete_with(catalogue::remove, named("removeField", "Take out a field that nothing uses")),
        )
        .api_route(
            "/api/catalogue",
            get_with(catalogue::list, named("catalogue", "The catalogue with what uses each field")),
        )
        .api_route("/api/catalogue.csv", get_with(catalogue::export, named("exportFields", "The catalogue as CSV")))
        .api_route(
            "/api/settings/domains",
            get_with(settings::domains, named("domains", "The workspace’s own e-mail domains"))
                .post_with(settings::set_domains, named("setDomains", "Change the workspace’s own e-mail domains")),
        )
        .api_route(
            "/api/settings/visitor-keys",
            get_with(settings::visitor_keys, named("visitorKeys", "Secrets that sites sign with"))
                .post_with(settings::add_visitor_key, named("addVisitorKey", "Make a secret")),
        )
        .api_route(
            "/api/settings/visitor-keys/{key}",
            delete_with(settings::remove_visitor_key, named("removeVisitorKey", "Take out a secret")),
        )
        .api_route(
            "/api/settings/visitor-token",
            post_with(settings::try_token, named("tryVisitorToken", "Look at a token that a site signed")),
        )
        .api_route("/api/queues", get_with(dialogues::queues, named("queues", "The workspace’s queues")))
        .api_route("/api/leads", get_with(leads::list, named("leads", "Leads in the order to call")))
        .api_route("/api/leads/{lead}", get_with(leads::detail, named("lead", "One lead")))
        .api_route(
            "/api/leads/{lead}/outcome",
            post_with(leads::outcome, named("leadOutcome", "Say what became of a lead")),
        )
        .api_route(
            "/api/leads/{lead}/given/{given}",
            post_with(leads::settle, named("settleGiven", "Put on file what was also given, or leave what is there")),
        )
        .api_route(
            "/api/leads/{lead}/newer",
            post_with(leads::accept_newer, named("acceptNewer", "Show the newer answers that wait on a lead")),
        )
        .api_route("/api/live", get_with(live::listen, named("live", "What changes, as it happens")))
}

/// Routes of prospects: no cookie, a bearer token per conversation.
fn of_prospects() -> ApiRouter<App> {
    ApiRouter::new()
        .api_route("/api/p/{slug}", get_with(prospects::opening, named("opening", "What a prospect sees first")))
        .api_route(
            "/api/p/{slug}/media/{hash}",
            get_with(media::of_release, named("shownMedium", "A picture or document that a release shows")),
        )
        .api_route(
            "/api/p/{slug}/conversations",
            post_with(prospects::start, named("startConversation", "Start a conversation")),
        )
        .api_route(
            "/api/conversation",
            get_with(prospects::resume, named("resumeConversation", "The conversation so far")),
        )
        .api_route("/api/conversation/inputs", post_with(prospects::input, named("takeInput", "Answer")))
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
    document(people().merge(sign_in()).merge(of_prospects())).1
}

fn sign_in() -> ApiRouter<App> {
    ApiRouter::new().api_route("/api/sign-in", post_with(session::sign_in, named("signIn", "Sign in")))
}

pub(crate) fn router(app: App, store: &Store, config: &Config) -> Router {
    let sessions = SessionManagerLayer::new(Sessions(store.clone()))
        .with_name("lumbo")
        .with_secure(config.secure_cookies)
        .with_http_only(true)
        .with_same_site(SameSite::Strict)
        .with_expiry(Expiry::OnInactivity(time::Duration::hours(12)));
    collect_schemas();
    let people = people()
        .merge(sign_in().route_layer(from_fn_with_state(app.clone(), guard::limit_sign_in)))
        .layer(sessions)
        .layer(from_fn(guard::same_origin))
        .layer(DefaultBodyLimit::max(AUTHOR_BODY));
    let prospects = of_prospects()
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
    .route("/metrics", get(|State(app): State<App>| async move { app.metrics.render() }))
    .route("/p/{slug}", get(pages::chat))
    .route("/rehearse/{dialogue}", get(pages::rehearsal))
    .route("/assets/{part}/{name}", get(pages::asset))
    .route("/api/{*rest}", get(no_such_route).post(no_such_route))
    .fallback(get(pages::app))
    .layer(from_fn(count))
    .layer(from_fn(guard::security_headers))
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
    Problem::new(StatusCode::NOT_FOUND, "not-found", "There is nothing at this address.")
}

async fn ready(State(app): State<App>) -> Response {
    if app.store.is_ready().await {
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
