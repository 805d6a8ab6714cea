//! The two pages and their files. They are built by Vite before the binary and shipped inside it; a debug build reads
//! them from the folder, so that the front end can change without a new binary.

use axum::extract::Path;
use axum::http::{StatusCode, Uri, header};
use axum::response::{Html, IntoResponse, Response};
use rust_embed::{EmbeddedFile, RustEmbed};

#[derive(RustEmbed)]
#[folder = "../../web/dist"]
#[allow_missing = true]
struct Files;

fn page(name: &str) -> Response {
    match Files::get(name) {
        Some(file) => (
            [
                (header::CACHE_CONTROL, "no-cache"),
                (
                    header::CONTENT_SECURITY_POLICY,
                    // Radix places floating parts with a style element it makes; scripts stay strict.
                    "default-src 'none'; script-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; \
                     font-src 'self'; connect-src 'self'; frame-src 'self'; form-action 'self'; base-uri 'none'; \
                     frame-ancestors 'none'",
                ),
            ],
            Html(file.data),
        )
            .into_response(),
        None => (
            StatusCode::SERVICE_UNAVAILABLE,
            "The pages are not built. Run ./start, or npm run build in \
            web.",
        )
            .into_response(),
    }
}

/// The application for authors and reps, whatever its own address.
pub(crate) async fn app(_uri: Uri) -> Response {
    page("app/index.html")
}

/// The prospect's page inside an author's page, talking to the draft; nothing but our own pages may frame it.
pub(crate) async fn rehearsal(Path(_dialogue): Path<String>) -> Response {
    match Files::get("chat/index.html") {
        Some(file) => {
            let policy = "default-src 'none'; script-src 'self'; style-src 'self'; style-src-attr 'unsafe-inline'; \
                img-src 'self' data:; font-src 'self'; connect-src 'self'; form-action 'self'; base-uri 'none'; \
                frame-ancestors 'self'";
            ([(header::CACHE_CONTROL, "no-cache"), (header::CONTENT_SECURITY_POLICY, policy)], Html(file.data))
                .into_response()
        }
        None => page("chat/index.html"),
    }
}

/// The prospect's page.
pub(crate) async fn chat(Path(_slug): Path<String>) -> Response {
    match Files::get("chat/index.html") {
        Some(file) => ([(header::CACHE_CONTROL, "no-cache")], Html(file.data)).into_response(),
        None => page("chat/index.html"),
    }
}

/// A file of a page. Names carry a hash of the content, so they never change.
pub(crate) async fn asset(Path((part, name)): Path<(String, String)>) -> Response {
    let path = format!("{part}/assets/{name}");
    match Files::get(&path) {
        Some(EmbeddedFile { data, metadata }) => (
            [
                (header::CONTENT_TYPE, metadata.mimetype().to_owned()),
                (header::CACHE_CONTROL, "public, max-age=31536000, immutable".to_owned()),
            ],
            data,
        )
            .into_response(),
        None => StatusCode::NOT_FOUND.into_response(),
    }
}
