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

/// What a page of its own says of itself, to browsers and to previews of links (the Open Graph protocol).
pub(crate) struct Head {
    pub(crate) title: String,
    pub(crate) description: String,
    pub(crate) address: String,
    pub(crate) picture: Option<String>,
}

/// A text within HTML, between quotes too.
fn escaped(text: &str) -> String {
    let mut out = String::with_capacity(text.len());
    for char in text.chars() {
        match char {
            '&' => out.push_str("&amp;"),
            '<' => out.push_str("&lt;"),
            '>' => out.push_str("&gt;"),
            '"' => out.push_str("&quot;"),
            '\'' => out.push_str("&#39;"),
            other => out.push(other),
        }
    }
    out
}

impl Head {
    fn html(&self) -> String {
        let mut out = format!("<title>{}</title>", escaped(&self.title));
        let mut meta = |kind: &str, name: &str, content: &str| {
            if !content.is_empty() {
                out.push_str(&format!("<meta {kind}=\"{name}\" content=\"{}\">", escaped(content)));
            }
        };
        meta("name", "description", &self.description);
        meta("property", "og:title", &self.title);
        meta("property", "og:description", &self.description);
        meta("property", "og:url", &self.address);
        meta("property", "og:type", "website");
        meta("property", "og:image", self.picture.as_deref().unwrap_or_default());
        out
    }
}

/// The prospect's page. `ancestors`: who may show it in a frame, as a content security policy has them. `first`: JSON
/// of what it shows first, so that it need not ask for it; a block of data, which no policy takes for a script.
pub(crate) fn prospects(head: Option<&Head>, ancestors: &str, first: Option<&str>) -> Response {
    let Some(file) = Files::get("chat/index.html") else { return page("chat/index.html") };
    let policy = format!(
        "default-src 'none'; script-src 'self'; style-src 'self'; style-src-attr 'unsafe-inline'; \
         img-src 'self' data:; font-src 'self'; connect-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors {ancestors}"
    );
    let headers = [(header::CACHE_CONTROL, "no-cache".to_owned()), (header::CONTENT_SECURITY_POLICY, policy)];
    let mut text = String::from_utf8_lossy(&file.data).into_owned();
    if let Some(head) = head {
        text = text.replacen("<title>One moment</title>", &head.html(), 1);
    }
    if let Some(first) = first {
        // Within an element that ends at the first "</script", whatever is around it.
        let data = first.replace('<', "\\u003c");
        let block = format!("<script type=\"application/json\" id=\"first\">{data}</script></head>");
        text = text.replacen("</head>", &block, 1);
    }
    (headers, Html(text)).into_response()
}

/// The prospect's page inside an author's page, talking to the draft; nothing but our own pages may frame it.
pub(crate) async fn rehearsal(Path(_dialogue): Path<String>) -> Response {
    prospects(None, "'self'", None)
}

/// The prospect's page.
pub(crate) async fn chat(Path(_slug): Path<String>) -> Response {
    prospects(None, "'none'", None)
}

/// The script for pages of customers.
pub(crate) fn script() -> Option<String> {
    Files::get("embed/embed.js").map(|file| String::from_utf8_lossy(&file.data).into_owned())
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
