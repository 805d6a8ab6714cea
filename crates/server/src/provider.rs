//! Signing in through a provider: OpenID Connect Core 1.0, authorization code flow, with PKCE (RFC 7636). The package
//! openidconnect speaks the protocol; requests leave by [`Outgoing`], which looks at every address first.
//!
//! What has to come back to the same browser (state, nonce, PKCE's verifier, whose account is to be linked) goes along
//! in a cookie that is sealed and ends after ten minutes, so that nothing is kept of sign-ins that nobody finishes.

use std::sync::Arc;

use axum::http::{Response, StatusCode, header};
use base64::Engine;
use base64::engine::general_purpose::URL_SAFE_NO_PAD;
use jiff::{SignedDuration, Timestamp};
use openidconnect::core::{CoreAuthenticationFlow, CoreClient, CoreProviderMetadata};
use openidconnect::{
    AuthorizationCode, ClientId, ClientSecret, CsrfToken, EndpointMaybeSet, EndpointNotSet, EndpointSet, HttpRequest,
    HttpResponse, IssuerUrl, Nonce, PkceCodeChallenge, PkceCodeVerifier, RedirectUrl, Scope, TokenResponse,
};
use serde::{Deserialize, Serialize};
use uuid::Uuid;

use crate::outgoing::{Outgoing, OutgoingError};
use crate::vault::Vault;
use crate::{Problem, Provider};

/// The cookie that goes along.
pub(crate) const COOKIE: &str = "lumbo_way";
/// Where the provider sends people back to.
pub(crate) const BACK: &str = "/api/sign-in/provider/back";
/// How long somebody may take at the provider.
pub(crate) const PATIENCE: SignedDuration = SignedDuration::from_mins(10);
/// What the cookie is sealed for.
const PURPOSE: &str = "the way through a sign-in provider";
/// Longest cookie, code and state that are looked at, bytes.
const LONGEST: usize = 4_096;

type Client =
    CoreClient<EndpointSet, EndpointNotSet, EndpointNotSet, EndpointNotSet, EndpointMaybeSet, EndpointMaybeSet>;

/// What goes along in the cookie.
#[derive(Debug, Serialize, Deserialize)]
struct Way {
    state: String,
    nonce: String,
    verifier: String,
    /// The account that is to be linked; signs in where absent.
    link: Option<Uuid>,
    /// Where they wanted to go.
    then: String,
    /// Seconds since 1970.
    until: i64,
}

/// Where to go, and what goes along.
#[derive(Debug)]
pub(crate) struct Begun {
    /// The provider's page.
    pub(crate) address: String,
    /// The sealed cookie's value.
    pub(crate) cookie: String,
}

/// Who came back.
#[derive(Debug)]
pub(crate) struct CameBack {
    /// The provider's name for them, which never changes hands.
    pub(crate) subject: String,
    /// The account that is to be linked.
    pub(crate) link: Option<Uuid>,
    /// Where they wanted to go.
    pub(crate) then: String,
}

/// Why nobody came in. The names stand in the address of the page that says it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, thiserror::Error)]
pub(crate) enum NotIn {
    /// The browser brought no cookie, or one that is not ours, or the wrong state.
    #[error("another-way")]
    AnotherWay,
    /// It took too long.
    #[error("late")]
    Late,
    /// They said no there, or the provider did.
    #[error("refused-there")]
    RefusedThere,
    /// The provider does not answer, or what it says does not hold.
    #[error("not-proved")]
    NotProved,
    /// Nobody here is linked with that account.
    #[error("not-linked")]
    NotLinked,
    /// Somebody else here is.
    #[error("linked-elsewhere")]
    LinkedElsewhere,
}

/// Speaks to the provider.
#[derive(Clone)]
pub(crate) struct Speaks {
    pub(crate) provider: Arc<Provider>,
    pub(crate) outgoing: Outgoing,
    pub(crate) vault: Vault,
    pub(crate) site: Arc<str>,
}

/// The provider does not answer, or answers what cannot be used; the log has the reason.
fn away(what: &'static str, error: &dyn std::fmt::Display) -> NotIn {
    tracing::warn!(what, %error, "the sign-in provider");
    NotIn::NotProved
}

impl Speaks {
    async fn client(&self) -> Result<Client, NotIn> {
        let http = |request: HttpRequest| asked(self.outgoing.clone(), request);
        let issuer = IssuerUrl::new(self.provider.issuer.clone()).map_err(|error| away("issuer", &error))?;
        let metadata =
            CoreProviderMetadata::discover_async(issuer, &http).await.map_err(|error| away("discovery", &error))?;
        let back = RedirectUrl::new(format!("{}{BACK}", self.site.trim_end_matches('/')))
            .map_err(|error| away("site", &error))?;
        let secret = ClientSecret::new(self.provider.client_secret.clone());
        let id = ClientId::new(self.provider.client_id.clone());
        Ok(CoreClient::from_provider_metadata(metadata, id, Some(secret)).set_redirect_uri(back))
    }

    /// Begins: where to go, and what goes along.
    pub(crate) async fn begin(&self, link: Option<Uuid>, then: &str, now: Timestamp) -> Result<Begun, Problem> {
        let client = self.client().await.map_err(|_| no_answer(&self.provider.name))?;
        let (challenge, verifier) = PkceCodeChallenge::new_random_sha256();
        let (address, state, nonce) = client
            .authorize_url(CoreAuthenticationFlow::AuthorizationCode, CsrfToken::new_random, Nonce::new_random)
            .add_scope(Scope::new("email".into()))
            .set_pkce_challenge(challenge)
            .url();
        let way = Way {
            state: state.secret().clone(),
            nonce: nonce.secret().clone(),
            verifier: verifier.secret().clone(),
            link,
            then: own_path(then),
            until: now.as_second() + PATIENCE.as_secs(),
        };
        let text = serde_json::to_vec(&way).map_err(|_| Problem::internal())?;
        let cookie = URL_SAFE_NO_PAD.encode(self.vault.seal(PURPOSE, &text)?);
        Ok(Begun { address: address.into(), cookie })
    }

    /// Looks at what came back: the cookie of this browser, and the code that the provider gave.
    pub(crate) async fn came_back(
        &self,
        cookie: Option<&str>,
        state: &str,
        code: Option<&str>,
        now: Timestamp,
    ) -> Result<CameBack, NotIn> {
        let way = cookie.and_then(|cookie| self.opened(cookie)).ok_or(NotIn::AnotherWay)?;
        if state.is_empty() || way.state != state {
            return Err(NotIn::AnotherWay);
        }
        if now.as_second() > way.until {
            return Err(NotIn::Late);
        }
        let code = code.filter(|code| !code.is_empty() && code.len() <= LONGEST).ok_or(NotIn::RefusedThere)?;
        let client = self.client().await?;
        let http = |request: HttpRequest| asked(self.outgoing.clone(), request);
        let tokens = client
            .exchange_code(AuthorizationCode::new(code.to_owned()))
            .map_err(|error| away("token endpoint", &error))?
            .set_pkce_verifier(PkceCodeVerifier::new(way.verifier))
            .request_async(&http)
            .await
            .map_err(|error| away("code", &error))?;
        let token = tokens.id_token().ok_or_else(|| away("answer", &"it holds no ID token"))?;
        let claims = token
            .claims(&client.id_token_verifier(), &Nonce::new(way.nonce))
            .map_err(|error| away("ID token", &error))?;
        Ok(CameBack { subject: claims.subject().as_str().to_owned(), link: way.link, then: way.then })
    }

    fn opened(&self, cookie: &str) -> Option<Way> {
        let sealed = URL_SAFE_NO_PAD.decode(cookie.get(..cookie.len().min(LONGEST))?).ok()?;
        serde_json::from_slice(&self.vault.opened(PURPOSE, &sealed)?).ok()
    }
}

/// What somebody is told where the provider does not answer.
fn no_answer(name: &str) -> Problem {
    Problem::new(
        StatusCode::BAD_GATEWAY,
        "provider-away",
        format!("{name} does not answer. Try again in a minute, or sign in with your password."),
    )
}

/// A path of our own; the start where it would lead anywhere else.
fn own_path(then: &str) -> String {
    let ours =
        then.starts_with('/') && !then.starts_with("//") && !then.contains(['\\', '\r', '\n']) && then.len() < 500;
    if ours { then.to_owned() } else { "/".to_owned() }
}

/// Makes one of the protocol's requests.
async fn asked(outgoing: Outgoing, request: HttpRequest) -> Result<HttpResponse, OutgoingError> {
    let broken = |error: &dyn std::fmt::Display| OutgoingError::Broken(error.to_string());
    let headers: Vec<(&'static str, String)> = [header::CONTENT_TYPE, header::AUTHORIZATION]
        .iter()
        .filter_map(|name| {
            let value = request.headers().get(name)?.to_str().ok()?;
            Some((if *name == header::CONTENT_TYPE { "content-type" } else { "authorization" }, value.to_owned()))
        })
        .collect();
    let address = request.uri().to_string();
    let (parts, body) = request.into_parts();
    let body = String::from_utf8(body).map_err(|error| broken(&error))?;
    let (answer, _) =
        outgoing.request(parts.method, &address, &headers, Some(body).filter(|body| !body.is_empty())).await;
    let answer = answer?;
    Response::builder().status(answer.status).body(answer.text.into_bytes()).map_err(|error| broken(&error))
}

#[cfg(test)]
#[allow(clippy::unwrap_used, reason = "tests")]
mod tests {
    use super::*;

    #[tokio::test]
    async fn what_goes_along_counts_for_ten_minutes_and_for_its_own_state() {
        let speaks = Speaks {
            provider: Arc::new(Provider {
                name: "ID".into(),
                issuer: "https://id.example".into(),
                client_id: "lumbo".into(),
                client_secret: "s".into(),
            }),
            outgoing: Outgoing::new(&[]),
            vault: Vault::new(Some([7; 32])),
            site: "https://lumbo.example".into(),
        };
        let now = Timestamp::from_second(1_000).unwrap();
        let way = Way {
            state: "s".into(),
            nonce: "n".into(),
            verifier: "v".into(),
            link: None,
            then: "/".into(),
            until: 1_000,
        };
        let sealed = speaks.vault.seal(PURPOSE, &serde_json::to_vec(&way).unwrap()).unwrap();
        let cookie = URL_SAFE_NO_PAD.encode(sealed);
        let late = Timestamp::from_second(1_001).unwrap();
        for (cookie, state, code, at, why) in [
            (Some(cookie.as_str()), "s", Some("c"), late, NotIn::Late),
            (Some(cookie.as_str()), "t", Some("c"), now, NotIn::AnotherWay),
            (Some(cookie.as_str()), "", Some("c"), now, NotIn::AnotherWay),
            (Some("AAAA"), "s", Some("c"), now, NotIn::AnotherWay),
            (None, "s", Some("c"), now, NotIn::AnotherWay),
            (Some(cookie.as_str()), "s", None, now, NotIn::RefusedThere),
        ] {
            assert_eq!(speaks.came_back(cookie, state, code, at).await.unwrap_err(), why, "{state} {code:?}");
        }
    }

    #[test]
    fn only_a_path_of_our_own_is_gone_to() {
        assert_eq!(own_path("/leads/7"), "/leads/7");
        for other in ["https://evil.example/", "//evil.example", "/\\evil.example", "leads", "", "/a\nb"] {
            assert_eq!(own_path(other), "/", "{other:?}");
        }
    }
}
