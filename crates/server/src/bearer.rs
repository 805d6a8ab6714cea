//! Requests of programs: a token in `Authorization: Bearer` (RFC 6750) in place of a session's cookie. Such a request
//! looks at no cookie, so that no page somebody visits can send one.

use axum::http::{HeaderMap, Method, StatusCode, header};
use lumbo_people::Action;
use lumbo_store::{Person, TokenHolder};
use sha2::{Digest, Sha256};

use crate::{App, Problem};

/// How every token begins, so that one that was left lying about can be found by its look.
pub(crate) const BEGINS: &str = "lumbo_";
/// Longest token that is looked at, bytes.
const LONGEST: usize = 100;

/// What a token is kept under.
pub(crate) fn kept_as(token: &str) -> Vec<u8> {
    Sha256::digest(token.as_bytes()).to_vec()
}

/// True where a request names no cookie's session but brings authorization of its own.
pub(crate) fn is_brought(headers: &HeaderMap) -> bool {
    headers.contains_key(header::AUTHORIZATION)
}

fn refused(says: &'static str) -> Problem {
    Problem::new(StatusCode::UNAUTHORIZED, "no-such-token", says)
}

/// Whom a request's token acts as, where it may do it.
pub(crate) async fn holder(app: &App, headers: &HeaderMap, method: &Method, action: Action) -> Result<Person, Problem> {
    let token = headers
        .get(header::AUTHORIZATION)
        .and_then(|value| value.to_str().ok())
        .and_then(|value| value.split_once(' '))
        .filter(|(scheme, _)| scheme.eq_ignore_ascii_case("bearer"))
        .map(|(_, token)| token.trim())
        .filter(|token| token.starts_with(BEGINS) && token.len() <= LONGEST)
        .ok_or_else(|| {
            refused("Send a token as “Authorization: Bearer lumbo_…”. Administrators make them under Settings.")
        })?;
    let holder = app.store.token_holder(&kept_as(token)).await?;
    let TokenHolder { token, person, scopes } = holder
        .ok_or_else(|| refused("There is no such token any more, or whoever made it has no access. Make a new one."))?;
    if app.guard.token_floods(token) {
        return Err(Problem::new(
            StatusCode::TOO_MANY_REQUESTS,
            "too-many-requests",
            "This token has been used too often within a minute. Wait for a few seconds and go on more slowly.",
        ));
    }
    let reads = matches!(*method, Method::GET | Method::HEAD);
    if !scopes.iter().any(|scope| scope.allows(action, reads)) {
        return Err(Problem::forbidden("This token may not be used for that. Make one with the right that it lacks."));
    }
    Ok(person)
}
