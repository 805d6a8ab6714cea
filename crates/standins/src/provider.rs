//! A simulated sign-in provider: OpenID Connect Core 1.0, authorization code flow with PKCE, for one client. Its page
//! shows who there is, and what is wrong with the next token where somebody wants it to be.

use std::collections::BTreeMap;
use std::sync::{Arc, Mutex, PoisonError};

use axum::extract::{Form, Query, State};
use axum::http::{HeaderMap, StatusCode, header};
use axum::response::{Html, IntoResponse, Redirect, Response};
use axum::routing::{get, post};
use axum::{Json, Router};
use base64::Engine;
use base64::engine::general_purpose::{STANDARD, URL_SAFE_NO_PAD};
use jiff::Timestamp;
use ring::rand::{SecureRandom, SystemRandom};
use ring::signature::{ECDSA_P256_SHA256_FIXED_SIGNING, EcdsaKeyPair, KeyPair};
use serde::{Deserialize, Serialize};
use serde_json::{Value, json};
use sha2::{Digest, Sha256};

use crate::page::{escaped, frame};

/// What the client is called here, and proves itself with. Everybody may know it: nothing real is behind it.
pub const CLIENT: (&str, &str) = ("lumbo", "stand-in client secret");
/// Where people are sent back to, on whatever address Lumbo is.
const BACK: &str = "/api/sign-in/provider/back";
/// Most codes that wait for being exchanged.
const MOST: usize = 200;
/// How long a token counts, seconds.
const COUNTS: i64 = 300;

/// Who has an account here.
const PEOPLE: [(&str, &str, &str); 4] = [
    ("w-1001", "Solveig Aune", "admin@winterlode.example"),
    ("w-1002", "Edda Quill", "edda@winterlode.example"),
    ("w-1003", "Maren Holt", "maren@winterlode.example"),
    ("w-1009", "Somebody whom Lumbo does not know", "stranger@elsewhere.example"),
];

/// What is wrong with the next token.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
enum Wrong {
    /// Nothing.
    #[default]
    Nothing,
    /// Somebody else's signature.
    Signature,
    /// Meant for another client.
    Audience,
    /// From another issuer.
    Issuer,
    /// Its time is over.
    Expired,
    /// Made for another sign-in.
    Nonce,
}

const WRONGS: [(Wrong, &str, &str); 6] = [
    (Wrong::Nothing, "nothing", "Nothing"),
    (Wrong::Signature, "signature", "Somebody else’s signature"),
    (Wrong::Audience, "audience", "Meant for another client"),
    (Wrong::Issuer, "issuer", "From another issuer"),
    (Wrong::Expired, "expired", "Its time is over"),
    (Wrong::Nonce, "nonce", "Made for another sign-in"),
];

/// A code that waits for being exchanged.
struct Waiting {
    subject: String,
    asked: Asked,
}

/// What a client asks for.
#[derive(Debug, Clone, Deserialize)]
struct Asked {
    #[serde(default)]
    response_type: String,
    #[serde(default)]
    client_id: String,
    #[serde(default)]
    redirect_uri: String,
    #[serde(default)]
    scope: String,
    #[serde(default)]
    state: String,
    #[serde(default)]
    nonce: String,
    #[serde(default)]
    code_challenge: String,
    #[serde(default)]
    code_challenge_method: String,
}

impl Asked {
    /// What cannot be answered, in words.
    fn fault(&self) -> Option<&'static str> {
        let back = self.redirect_uri.split_once("://").and_then(|(_, rest)| rest.find('/').map(|at| &rest[at..]));
        if self.client_id != CLIENT.0 {
            Some("There is no such client here.")
        } else if back != Some(BACK) {
            Some("That is not where this client is sent back to.")
        } else if self.response_type != "code" || !self.scope.split(' ').any(|scope| scope == "openid") {
            Some("Only codes for the scope “openid” are given here.")
        } else if self.code_challenge_method != "S256" || self.code_challenge.is_empty() {
            Some("A challenge by S256 is wanted (RFC 7636).")
        } else {
            None
        }
    }

    /// As hidden boxes of a form.
    fn hidden(&self) -> String {
        [
            ("response_type", &self.response_type),
            ("client_id", &self.client_id),
            ("redirect_uri", &self.redirect_uri),
            ("scope", &self.scope),
            ("state", &self.state),
            ("nonce", &self.nonce),
            ("code_challenge", &self.code_challenge),
            ("code_challenge_method", &self.code_challenge_method),
        ]
        .map(|(name, value)| format!("<input type=hidden name={name} value=\"{}\">", escaped(value)))
        .concat()
    }
}

struct Inner {
    issuer: String,
    key: EcdsaKeyPair,
    other_key: EcdsaKeyPair,
    codes: Mutex<BTreeMap<String, Waiting>>,
    wrong: Mutex<Wrong>,
}

type Provider = Arc<Inner>;

fn key() -> anyhow::Result<EcdsaKeyPair> {
    let random = SystemRandom::new();
    let made = EcdsaKeyPair::generate_pkcs8(&ECDSA_P256_SHA256_FIXED_SIGNING, &random)
        .map_err(|_| anyhow::anyhow!("no key could be made"))?;
    EcdsaKeyPair::from_pkcs8(&ECDSA_P256_SHA256_FIXED_SIGNING, made.as_ref(), &random)
        .map_err(|_| anyhow::anyhow!("the key cannot be read"))
}

/// The provider; `here` is where the stand-ins are.
pub(crate) fn router(here: &str) -> anyhow::Result<Router> {
    let inner = Inner {
        issuer: format!("{here}/id"),
        key: key()?,
        other_key: key()?,
        codes: Mutex::default(),
        wrong: Mutex::default(),
    };
    Ok(Router::new()
        .route("/id", get(page))
        .route("/id/.well-known/openid-configuration", get(discovery))
        .route("/id/jwks", get(keys))
        .route("/id/authorize", get(authorize))
        .route("/id/choose", post(choose))
        .route("/id/token", post(token))
        .route("/id/wrong", post(set_wrong))
        .with_state(Arc::new(inner)))
}

async fn page(State(provider): State<Provider>) -> Html<String> {
    let now = *provider.wrong.lock().unwrap_or_else(PoisonError::into_inner);
    let choices: String = WRONGS
        .iter()
        .map(|(wrong, name, words)| {
            let chosen = if *wrong == now { " selected" } else { "" };
            format!("<option value={name}{chosen}>{words}</option>")
        })
        .collect();
    let people: String = PEOPLE
        .iter()
        .map(|(subject, name, email)| {
            format!("<tr><td>{}<td>{}<td>{}", escaped(name), escaped(email), escaped(subject))
        })
        .collect();
    let content = format!(
        "<form method=post action=/id/wrong><label>What is wrong with the next token <select name=wrong>{choices}\
         </select></label><button>Switch on</button></form><h2>Who has an account here</h2><div class=wide><table><tr>\
         <th>Name<th>Address<th>Subject{people}</table></div>"
    );
    Html(frame("Sign-in provider", "A simulated sign-in provider, by OpenID Connect.", &content))
}

async fn discovery(State(provider): State<Provider>) -> Json<Value> {
    let at = &provider.issuer;
    Json(json!({
        "issuer": at,
        "authorization_endpoint": format!("{at}/authorize"),
        "token_endpoint": format!("{at}/token"),
        "jwks_uri": format!("{at}/jwks"),
        "response_types_supported": ["code"],
        "subject_types_supported": ["public"],
        "id_token_signing_alg_values_supported": ["ES256"],
        "scopes_supported": ["openid", "email"],
        "token_endpoint_auth_methods_supported": ["client_secret_basic"],
        "code_challenge_methods_supported": ["S256"],
    }))
}

async fn keys(State(provider): State<Provider>) -> Json<Value> {
    // An uncompressed point: a byte that says so, and the two coordinates.
    let point = provider.key.public_key().as_ref();
    let part = |from: usize| URL_SAFE_NO_PAD.encode(point.get(from..from + 32).unwrap_or_default());
    Json(json!({"keys": [
        {"kty": "EC", "crv": "P-256", "use": "sig", "alg": "ES256", "kid": "one", "x": part(1), "y": part(33)}
    ]}))
}

async fn authorize(Query(asked): Query<Asked>) -> Response {
    if let Some(fault) = asked.fault() {
        return (StatusCode::BAD_REQUEST, Html(frame("Sign-in provider", fault, ""))).into_response();
    }
    let people: String = PEOPLE
        .iter()
        .map(|(subject, name, email)| {
            format!(
                "<form method=post action=/id/choose>{}<input type=hidden name=subject value={subject}><button>{}\
                 </button> <small>{}</small></form>",
                asked.hidden(),
                escaped(name),
                escaped(email)
            )
        })
        .collect();
    let not_now = format!("<form method=post action=/id/choose>{}<button>Not now</button></form>", asked.hidden());
    let lead = "Lumbo wants to know who you are. A simulated sign-in provider: no password is asked for.";
    Html(frame("Who are you?", lead, &format!("{people}{not_now}"))).into_response()
}

/// Who somebody said they are.
#[derive(Deserialize)]
struct Chosen {
    #[serde(default)]
    subject: Option<String>,
    #[serde(flatten)]
    asked: Asked,
}

fn with_query(address: &str, pairs: &[(&str, &str)]) -> String {
    let encoded = |text: &str| {
        text.bytes()
            .map(|byte| {
                if byte.is_ascii_alphanumeric() || b"-._~".contains(&byte) {
                    char::from(byte).to_string()
                } else {
                    format!("%{byte:02X}")
                }
            })
            .collect::<String>()
    };
    let query: Vec<String> = pairs.iter().map(|(name, value)| format!("{name}={}", encoded(value))).collect();
    format!("{address}?{}", query.join("&"))
}

async fn choose(State(provider): State<Provider>, Form(chosen): Form<Chosen>) -> Response {
    let Chosen { subject, asked } = chosen;
    if let Some(fault) = asked.fault() {
        return (StatusCode::BAD_REQUEST, fault).into_response();
    }
    let known = subject.filter(|subject| PEOPLE.iter().any(|(known, ..)| known == subject));
    let (back, state) = (asked.redirect_uri.clone(), asked.state.clone());
    let Some(subject) = known else {
        return Redirect::to(&with_query(&back, &[("error", "access_denied"), ("state", &state)])).into_response();
    };
    let mut random = [0_u8; 24];
    if SystemRandom::new().fill(&mut random).is_err() {
        return StatusCode::INTERNAL_SERVER_ERROR.into_response();
    }
    let code = URL_SAFE_NO_PAD.encode(random);
    let mut codes = provider.codes.lock().unwrap_or_else(PoisonError::into_inner);
    if codes.len() >= MOST {
        codes.clear();
    }
    codes.insert(code.clone(), Waiting { subject, asked });
    drop(codes);
    Redirect::to(&with_query(&back, &[("code", &code), ("state", &state)])).into_response()
}

/// A code to be exchanged.
#[derive(Deserialize)]
struct Exchanged {
    #[serde(default)]
    grant_type: String,
    #[serde(default)]
    code: String,
    #[serde(default)]
    redirect_uri: String,
    #[serde(default)]
    code_verifier: String,
}

/// True where the client proves itself (RFC 6749, 2.3.1): both parts are form-encoded before they are joined.
fn proves_itself(headers: &HeaderMap) -> bool {
    let brought = headers
        .get(header::AUTHORIZATION)
        .and_then(|value| value.to_str().ok()?.strip_prefix("Basic "))
        .and_then(|value| String::from_utf8(STANDARD.decode(value).ok()?).ok());
    brought.is_some_and(|brought| brought == format!("{}:{}", CLIENT.0, CLIENT.1.replace(' ', "+")))
}

async fn token(State(provider): State<Provider>, headers: HeaderMap, Form(asked): Form<Exchanged>) -> Response {
    let refuse = |status: StatusCode, error: &str| (status, Json(json!({ "error": error }))).into_response();
    if !proves_itself(&headers) {
        return refuse(StatusCode::UNAUTHORIZED, "invalid_client");
    }
    let waiting = provider.codes.lock().unwrap_or_else(PoisonError::into_inner).remove(&asked.code);
    let challenge = URL_SAFE_NO_PAD.encode(Sha256::digest(asked.code_verifier.as_bytes()));
    let waiting = waiting.filter(|waiting| {
        asked.grant_type == "authorization_code"
            && waiting.asked.redirect_uri == asked.redirect_uri
            && waiting.asked.code_challenge == challenge
    });
    let Some(waiting) = waiting else { return refuse(StatusCode::BAD_REQUEST, "invalid_grant") };
    let wrong = std::mem::take(&mut *provider.wrong.lock().unwrap_or_else(PoisonError::into_inner));
    match id_token(&provider, &waiting, wrong) {
        Some(token) => {
            Json(json!({"access_token": "nothing", "token_type": "Bearer", "expires_in": COUNTS, "id_token": token}))
                .into_response()
        }
        None => refuse(StatusCode::INTERNAL_SERVER_ERROR, "server_error"),
    }
}

/// A signed ID token (RFC 7515, 7519), or one with the fault that was switched on.
fn id_token(provider: &Inner, waiting: &Waiting, wrong: Wrong) -> Option<String> {
    let now = Timestamp::now().as_second();
    let (_, name, email) = PEOPLE.iter().find(|(subject, ..)| *subject == waiting.subject)?;
    let issued = if wrong == Wrong::Expired { now - 2 * COUNTS } else { now };
    let claims = json!({
        "iss": if wrong == Wrong::Issuer { "https://elsewhere.example/id" } else { provider.issuer.as_str() },
        "aud": if wrong == Wrong::Audience { "somebody-else" } else { CLIENT.0 },
        "sub": waiting.subject,
        "name": name,
        "email": email,
        "iat": issued,
        "exp": issued + COUNTS,
        "nonce": if wrong == Wrong::Nonce { "another" } else { waiting.asked.nonce.as_str() },
    });
    let part = |json: Value| URL_SAFE_NO_PAD.encode(json.to_string());
    let text = format!("{}.{}", part(json!({"alg": "ES256", "typ": "JWT", "kid": "one"})), part(claims));
    let key = if wrong == Wrong::Signature { &provider.other_key } else { &provider.key };
    let signature = key.sign(&SystemRandom::new(), text.as_bytes()).ok()?;
    Some(format!("{text}.{}", URL_SAFE_NO_PAD.encode(signature.as_ref())))
}

/// What is to be wrong.
#[derive(Deserialize)]
struct SetWrong {
    wrong: Wrong,
}

async fn set_wrong(State(provider): State<Provider>, Form(set): Form<SetWrong>) -> Redirect {
    *provider.wrong.lock().unwrap_or_else(PoisonError::into_inner) = set.wrong;
    Redirect::to("/id")
}
