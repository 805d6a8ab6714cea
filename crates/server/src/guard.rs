//! What stands before every route: same origin for changes, rate limits, security headers.

use std::collections::HashMap;
use std::net::IpAddr;
use std::num::NonZeroU32;
use std::sync::{Mutex, PoisonError};
use std::time::{Duration, Instant};

use axum::extract::{Request, State};
use axum::http::{HeaderMap, HeaderName, HeaderValue, Method, StatusCode, header};
use axum::middleware::Next;
use axum::response::{IntoResponse, Response};
use governor::clock::DefaultClock;
use governor::state::keyed::DashMapStateStore;
use governor::{Quota, RateLimiter};
use uuid::Uuid;

use crate::address::ClientAddress;
use crate::{App, Config, Problem, bearer};

type ByAddress = RateLimiter<IpAddr, DashMapStateStore<IpAddr>, DefaultClock>;

/// Rate limits per address. Each server keeps its own count; they guard a machine, not a rule of the job.
pub(crate) struct Limits {
    sign_in: ByAddress,
    prospect: ByAddress,
    starts: RateLimiter<(IpAddr, String), DashMapStateStore<(IpAddr, String)>, DefaultClock>,
    filings: RateLimiter<(IpAddr, Uuid), DashMapStateStore<(IpAddr, Uuid)>, DefaultClock>,
    /// Networks that filed too many leads of a dialogue, by its address, with when they did so last.
    filed_too_many: Mutex<HashMap<(IpAddr, String), Instant>>,
    /// Addresses of dialogues.
    slugs: Mutex<HashMap<Uuid, String>>,
    tokens: RateLimiter<Uuid, DashMapStateStore<Uuid>, DefaultClock>,
}

impl Limits {
    pub(crate) fn new(config: &Config) -> Self {
        let quota = |per_minute: u32| Quota::per_minute(NonZeroU32::new(per_minute).unwrap_or(NonZeroU32::MIN));
        Self {
            sign_in: RateLimiter::keyed(quota(config.sign_ins_per_minute)),
            prospect: RateLimiter::keyed(quota(config.prospect_requests_per_minute)),
            starts: RateLimiter::keyed(Quota::per_hour(
                NonZeroU32::new(config.starts_per_hour).unwrap_or(NonZeroU32::MIN),
            )),
            filings: RateLimiter::keyed(Quota::per_hour(
                NonZeroU32::new(config.filings_per_hour).unwrap_or(NonZeroU32::MIN),
            )),
            filed_too_many: Mutex::default(),
            slugs: Mutex::default(),
            tokens: RateLimiter::keyed(quota(config.token_requests_per_minute)),
        }
    }

    /// True where a program asks more within the minute than its token may.
    pub(crate) fn token_floods(&self, token: Uuid) -> bool {
        if self.tokens.len() > ADDRESS_LIMIT {
            self.tokens.retain_recent();
        }
        self.tokens.check_key(&token).is_err()
    }

    /// True where one network has begun more conversations of a dialogue within the hour than people would, or filed
    /// more leads of it.
    pub(crate) fn floods(&self, network: IpAddr, slug: &str) -> bool {
        if self.starts.len() > ADDRESS_LIMIT {
            self.starts.retain_recent();
        }
        let key = (network, slug.to_owned());
        let filed = self.filed_too_many.lock().unwrap_or_else(PoisonError::into_inner);
        let too_many = filed.get(&key).is_some_and(|last| last.elapsed() < REMEMBERED);
        drop(filed);
        self.starts.check_key(&key).is_err() || too_many
    }

    /// Keeps under which address a dialogue was begun.
    pub(crate) fn begun(&self, dialogue: Uuid, slug: &str) {
        let mut slugs = self.slugs.lock().unwrap_or_else(PoisonError::into_inner);
        if slugs.len() > ADDRESS_LIMIT {
            slugs.clear();
        }
        slugs.entry(dialogue).or_insert_with(|| slug.to_owned());
    }

    /// Counts a lead that a network filed; where there were too many within the hour, what it begins for an hour from
    /// now on is held back.
    pub(crate) fn filed(&self, network: IpAddr, dialogue: Uuid) {
        if self.filings.len() > ADDRESS_LIMIT {
            self.filings.retain_recent();
        }
        if self.filings.check_key(&(network, dialogue)).is_ok() {
            return;
        }
        let slug = self.slugs.lock().unwrap_or_else(PoisonError::into_inner).get(&dialogue).cloned();
        let Some(slug) = slug else { return };
        let mut filed = self.filed_too_many.lock().unwrap_or_else(PoisonError::into_inner);
        if filed.len() > ADDRESS_LIMIT {
            filed.retain(|_, last| last.elapsed() < REMEMBERED);
        }
        filed.insert((network, slug), Instant::now());
    }
}

/// How long a network is held back that filed too many leads.
const REMEMBERED: Duration = Duration::from_secs(3_600);

/// Addresses remembered before those that have been quiet are forgotten.
const ADDRESS_LIMIT: usize = 20_000;

/// True where an address may go on; forgets quiet addresses now and then, so that the count stays bounded.
fn within(limit: &ByAddress, request: &Request) -> bool {
    if limit.len() > ADDRESS_LIMIT {
        limit.retain_recent();
    }
    limit.check_key(&address(request)).is_ok()
}

fn address(request: &Request) -> IpAddr {
    request.extensions().get::<ClientAddress>().map_or(IpAddr::from([0, 0, 0, 0]), |address| address.network())
}

fn too_many() -> Response {
    Problem::new(
        StatusCode::TOO_MANY_REQUESTS,
        "too-many-requests",
        "That was a lot at once. Please wait a few seconds and try again.",
    )
    .into_response()
}

/// Bounds sign-ins per address.
pub(crate) async fn limit_sign_in(State(app): State<App>, request: Request, next: Next) -> Response {
    if request.method() == Method::POST && !within(&app.guard.sign_in, &request) {
        return too_many();
    }
    next.run(request).await
}

/// Bounds prospects' requests per address.
pub(crate) async fn limit_prospect(State(app): State<App>, request: Request, next: Next) -> Response {
    if !within(&app.guard.prospect, &request) {
        return too_many();
    }
    next.run(request).await
}

/// A change that rides on a cookie must come from our own pages: its origin, which browsers always send with one, is
/// the host it is sent to. Cookies are same-site too; this holds where a browser does not know that.
pub(crate) async fn same_origin(State(app): State<App>, request: Request, next: Next) -> Response {
    let reads = matches!(*request.method(), Method::GET | Method::HEAD | Method::OPTIONS);
    // A program's token rides on no cookie.
    if !reads && !bearer::is_brought(request.headers()) && !is_same_origin(request.headers(), app.behind_tls) {
        return Problem::forbidden("This request did not come from Lumbo’s own pages.").into_response();
    }
    next.run(request).await
}

/// Behind TLS the scheme must be https: a page that somebody on the way has made speaks http.
fn is_same_origin(headers: &HeaderMap, behind_tls: bool) -> bool {
    let text = |name: HeaderName| headers.get(name).and_then(|value| value.to_str().ok());
    let (Some(origin), Some(host)) = (text(header::ORIGIN), text(header::HOST)) else { return false };
    origin
        .split_once("://")
        .is_some_and(|(scheme, rest)| (scheme == "https" || scheme == "http" && !behind_tls) && rest == host)
}

/// Headers on every answer. Scripts, styles and fonts come from us alone; nothing may frame the authors' pages.
pub(crate) async fn security_headers(State(app): State<App>, request: Request, next: Next) -> Response {
    // What the API answers is about persons; nothing on the way may keep it.
    let personal = request.uri().path().starts_with("/api/");
    let mut response = next.run(request).await;
    let headers = response.headers_mut();
    if personal {
        headers.entry(header::CACHE_CONTROL).or_insert(HeaderValue::from_static("no-store"));
    }
    if app.behind_tls {
        headers
            .entry(header::STRICT_TRANSPORT_SECURITY)
            .or_insert(HeaderValue::from_static("max-age=31536000; includeSubDomains"));
    }
    for (name, value) in [
        (
            "content-security-policy",
            "default-src 'none'; script-src 'self'; style-src 'self'; style-src-attr 'unsafe-inline'; img-src 'self' \
             data:; font-src 'self'; connect-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'",
        ),
        ("x-content-type-options", "nosniff"),
        ("referrer-policy", "strict-origin-when-cross-origin"),
        ("cross-origin-opener-policy", "same-origin"),
        ("permissions-policy", "camera=(), microphone=(), geolocation=()"),
    ] {
        headers.entry(HeaderName::from_static(name)).or_insert(HeaderValue::from_static(value));
    }
    response
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn only_our_own_origin_may_change_things() {
        let check = |origin: Option<&'static str>, host: &'static str| {
            let mut headers = HeaderMap::new();
            headers.insert(header::HOST, HeaderValue::from_static(host));
            if let Some(origin) = origin {
                headers.insert(header::ORIGIN, HeaderValue::from_static(origin));
            }
            is_same_origin(&headers, false)
        };
        let mut plain = HeaderMap::new();
        plain.insert(header::HOST, HeaderValue::from_static("lumbo.example"));
        plain.insert(header::ORIGIN, HeaderValue::from_static("http://lumbo.example"));
        assert!(is_same_origin(&plain, false) && !is_same_origin(&plain, true), "http is not ours behind TLS");
        assert!(
            check(Some("http://127.0.0.1:8080"), "127.0.0.1:8080")
                && check(Some("https://lumbo.example"), "lumbo.example")
        );
        for origin in [
            None,
            Some("null"),
            Some("http://evil.example"),
            Some("http://127.0.0.1:8081"),
            Some("http://127.0.0.1:8080.evil.example"),
            Some("ftp://127.0.0.1:8080"),
        ] {
            assert!(!check(origin, "127.0.0.1:8080"), "{origin:?}");
        }
    }
}
