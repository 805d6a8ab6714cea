//! Winterlode's own site, on another origin than Lumbo: the pages of an invented firm, to try placements on.

use axum::http::header;
use axum::response::{Html, IntoResponse, Response};
use axum::routing::get;
use axum::{Router, extract::State};
use std::sync::Arc;

/// Where Lumbo is, and the key in the line of script.
#[derive(Clone)]
pub(crate) struct Line {
    pub(crate) lumbo: Arc<str>,
    pub(crate) key: Arc<str>,
}

/// The site's pages.
pub(crate) fn router(line: Line) -> Router {
    Router::new()
        .route("/", get(|State(line): State<Line>| async move { page(&line, "Cold storage in the north", HOME) }))
        .route("/prices", get(|State(line): State<Line>| async move { page(&line, "Prices", PRICES) }))
        .route("/prices/frozen", get(|State(line): State<Line>| async move { page(&line, "Frozen storage", PRICES) }))
        .route("/prices/haulage", get(|State(line): State<Line>| async move { page(&line, "Haulage", PRICES) }))
        .route("/depots", get(|State(line): State<Line>| async move { page(&line, "Depots", DEPOTS) }))
        .route("/jobs/driver", get(|State(line): State<Line>| async move { page(&line, "Drivers", HOME) }))
        .route("/phone", get(|State(line): State<Line>| async move { page(&line, "On a phone", PHONE) }))
        .route("/twice", get(|State(line): State<Line>| async move { twice(&line) }))
        .route("/plain", get(|| async { Html(frame("Without the line", HOME, "")) }))
        .route("/strict", get(|State(line): State<Line>| async move { strict(&line) }))
        .route("/app", get(|State(line): State<Line>| async move { page(&line, "Home", TURNS) }))
        .route("/app/{*rest}", get(|State(line): State<Line>| async move { page(&line, "Home", TURNS) }))
        .route("/site.css", get(|| async { ([(header::CONTENT_TYPE, "text/css")], include_str!("../site/site.css")) }))
        .route(
            "/site.js",
            get(|| async { ([(header::CONTENT_TYPE, "text/javascript")], include_str!("../site/site.js")) }),
        )
        .with_state(line)
}

const HOME: &str = r#"<p>Winterlode keeps food cold at Aldermoor and Saltwick: chilled at 2 °C, frozen at −22 °C, and
a blast freezer that takes forty pallets a day.</p>
<p><button class="ask" data-lumbo-open>Ask for a price</button></p>
<p>Lorries come in from six. Every pallet is weighed, probed and photographed before it goes up.</p>"#;

const PRICES: &str = r#"<table><tr><th>Storage</th><th>A pallet and week</th></tr>
<tr><td>Chilled</td><td>from 3.10</td></tr><tr><td>Frozen</td><td>from 2.65</td></tr>
<tr><td>Blast freezing</td><td>from 19.00 once</td></tr></table>
<p class="tall">Prices are without VAT, and fall from two hundred pallets on.</p>"#;

const DEPOTS: &str = r#"<p>Two depots, four thousand places. Ask us to call you back:</p>
<div class="room" data-lumbo="depots"></div>"#;

const PHONE: &str = r#"<p>A page with a footer that stays.</p><div class="sticky">Call us: 020 7946 0018</div>"#;

const TURNS: &str = r#"<p>Pages of this part change without loading.</p>
<p><a data-turn href="/prices/inside">Prices inside</a> · <a data-turn href="/jobs/inside">Jobs inside</a> ·
<a data-turn href="/app/other">Another page</a></p>"#;

fn line(line: &Line) -> String {
    format!("<script async src=\"{}/e/{}.js\"></script>", line.lumbo, line.key)
}

fn frame(title: &str, content: &str, line: &str) -> String {
    format!(
        r#"<!doctype html><html lang="en"><head><meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1"><title>{title} · Winterlode</title>
<link rel="stylesheet" href="/site.css"><link rel="icon" href="data:,">{line}</head><body>
<header><b>Winterlode</b> <a href="/">Home</a> <a href="/prices">Prices</a> <a href="/depots">Depots</a>
<a href="/app">In one page</a> <a href="/strict">Strict</a></header>
<main><h1>{title}</h1>{content}</main>
<footer>Winterlode is invented; these pages ship with Lumbo to try placements on. May this site remember you?
<button id="allow">Yes</button> <button id="refuse">No</button>
· What leads are sent to: <a href="/customers">customer system</a>,
<a href="/sheet">sheet</a>, <a href="/mailbox">mailbox</a>,
<a href="/receiver">receiver</a>, <a href="/chat">chat room</a></footer>
<script src="/site.js"></script></body></html>"#
    )
}

fn page(at: &Line, title: &str, content: &str) -> Html<String> {
    Html(frame(title, content, &line(at)))
}

fn twice(at: &Line) -> Html<String> {
    Html(frame("The line twice", HOME, &line(at).repeat(2)))
}

/// A page with a strict content security policy: what docs/on-a-page.md says is all it takes.
fn strict(at: &Line) -> Response {
    let lumbo = &at.lumbo;
    let policy = format!(
        "default-src 'self'; script-src 'self' {lumbo}; connect-src 'self' {lumbo}; frame-src {lumbo}; \
         style-src 'self'; img-src 'self' data:; base-uri 'none'; require-trusted-types-for 'script'"
    );
    ([(header::CONTENT_SECURITY_POLICY, policy)], page(at, "A strict policy", HOME)).into_response()
}
