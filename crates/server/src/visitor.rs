//! What a site knows of its signed-in visitor, signed by the site: a JSON Web Token (RFC 7519) with HMAC-SHA-256 (RFC
//! 7518) under one of the workspace's secrets. Its claims are the standard ones of OpenID Connect Core 1.0, section 5.1
//! (`name`,
//! `given_name`, `family_name`, `email`, `phone_number`, `website`), and `fields` with values by field key.
//!
//! A token counts for one conversation, for at most [`LONGEST`]; one that is forged, out of date or used before does
//! nothing.

use jiff::{SignedDuration, Timestamp};
use jsonwebtoken::{Algorithm, DecodingKey, Validation, decode, decode_header};
use lumbo_dialogue::file::FieldType;
use lumbo_dialogue::talk::{Prefill, PrefillTo};
use lumbo_store::SignedOnce;
use serde::Deserialize;
use serde_json::Value;
use sha2::{Digest, Sha256};

/// Longest life of a token: an hour from now.
const LONGEST: SignedDuration = SignedDuration::from_hours(1);
/// Clocks may differ by this much.
const LEEWAY: SignedDuration = SignedDuration::from_secs(60);
/// Longest token, bytes.
const TOKEN_LIMIT: usize = 8_192;
/// Longest value, characters.
const TEXT_LIMIT: usize = 500;
/// Longest subject, bytes.
const SUBJECT_LIMIT: usize = 255;
/// Most values by field key.
const FIELD_LIMIT: usize = 20;

/// Why a token is not taken.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub(crate) enum VisitorError {
    #[error("this is not a JSON Web Token: three parts with dots between them, 8 kB at most")]
    NotOne,
    #[error("the token is signed with {0}; sign it with HS256")]
    Algorithm(String),
    #[error("the token’s header names no secret; put the secret’s id in as “kid”")]
    NoKey,
    #[error("there is no secret with the id “{0}” here; it may have been taken out")]
    UnknownKey(String),
    #[error("the signature does not fit; sign with the secret as it was shown, not decoded")]
    Signature,
    #[error("the token has no time of expiry; put one in as “exp”, in seconds since 1970, at most an hour ahead")]
    NoExpiry,
    #[error("the token expired {0} ago; sign a new one for every page")]
    Expired(String),
    #[error("the token expires {0} ahead; an hour is the most")]
    TooLong(String),
    #[error("the token is for the dialogue “{0}”")]
    Audience(String),
    #[error("the claims cannot be read: {0}")]
    Claims(String),
}

impl VisitorError {
    /// The reason without any word of the claims, for the log.
    pub(crate) fn for_log(&self) -> String {
        match self {
            Self::Claims(_) => "the claims cannot be read".to_owned(),
            other => other.to_string(),
        }
    }
}

/// Claims that are looked at; others are passed over.
#[derive(Deserialize)]
struct Claims {
    exp: Option<i64>,
    aud: Option<Value>,
    sub: Option<String>,
    name: Option<String>,
    given_name: Option<String>,
    family_name: Option<String>,
    email: Option<String>,
    email_verified: Option<bool>,
    phone_number: Option<String>,
    phone_number_verified: Option<bool>,
    website: Option<String>,
    #[serde(default)]
    fields: serde_json::Map<String, Value>,
}

/// What a good token brings.
#[derive(Debug, Clone)]
pub(crate) struct Visitor {
    /// Who they are on the site (`sub`), at most [`SUBJECT_LIMIT`] characters: OpenID Connect Core 1.0, section 2.
    pub subject: Option<String>,
    pub known: Vec<Prefill>,
    pub signed: SignedOnce,
}

/// The id of the secret that a token names.
pub(crate) fn key_of(token: &str) -> Result<String, VisitorError> {
    if token.len() > TOKEN_LIMIT {
        return Err(VisitorError::NotOne);
    }
    let header = decode_header(token).map_err(|error| match error.kind() {
        // An algorithm that nobody lists cannot be read as a header at all.
        jsonwebtoken::errors::ErrorKind::Json(_) => VisitorError::Algorithm("an algorithm that we do not know".into()),
        _ => VisitorError::NotOne,
    })?;
    if header.alg != Algorithm::HS256 {
        return Err(VisitorError::Algorithm(format!("{:?}", header.alg)));
    }
    header.kid.filter(|kid| !kid.is_empty()).map(|kid| kid.chars().take(60).collect()).ok_or(VisitorError::NoKey)
}

/// Reads a token with the secret that it names. `slug` is the dialogue it is brought to; nothing to pass the audience
/// over.
pub(crate) fn read(
    token: &str,
    key: &str,
    secret: &str,
    slug: Option<&str>,
    now: Timestamp,
) -> Result<Visitor, VisitorError> {
    // Time and audience are ours to check: time comes in as an argument, and each failure says what to do.
    let mut rules = Validation::new(Algorithm::HS256);
    rules.required_spec_claims.clear();
    rules.validate_exp = false;
    rules.validate_aud = false;
    let claims: Claims = decode(token, &DecodingKey::from_secret(secret.as_bytes()), &rules)
        .map_err(|error| match error.kind() {
            jsonwebtoken::errors::ErrorKind::InvalidSignature => VisitorError::Signature,
            jsonwebtoken::errors::ErrorKind::Json(json) => VisitorError::Claims(json.to_string()),
            _ => VisitorError::NotOne,
        })?
        .claims;
    let expires = claims.exp.and_then(|seconds| Timestamp::from_second(seconds).ok()).ok_or(VisitorError::NoExpiry)?;
    let left = expires.duration_since(now);
    if left < -LEEWAY {
        return Err(VisitorError::Expired(minutes(-left)));
    }
    if left > LONGEST + LEEWAY {
        return Err(VisitorError::TooLong(minutes(left)));
    }
    if let (Some(slug), Some(audience)) = (slug, &claims.aud) {
        let named: Vec<&str> = audience.as_array().map_or_else(
            || audience.as_str().into_iter().collect(),
            |all| all.iter().filter_map(Value::as_str).collect(),
        );
        if !named.contains(&slug) {
            return Err(VisitorError::Audience(named.join(", ").chars().take(80).collect()));
        }
    }
    let signed = SignedOnce {
        key: key.to_owned(),
        hash: Sha256::digest(token.as_bytes()).to_vec(),
        expires: expires.checked_add(LEEWAY).unwrap_or(expires),
    };
    let subject = claims.sub.clone().filter(|subject| !subject.is_empty() && subject.len() <= SUBJECT_LIMIT);
    Ok(Visitor { subject, known: known(claims), signed })
}

fn minutes(duration: SignedDuration) -> String {
    match duration.as_mins() {
        0 => "less than a minute".to_owned(),
        1 => "1 minute".to_owned(),
        n if n < 120 => format!("{n} minutes"),
        n => format!("{} hours", n / 60),
    }
}

/// Values by field key first, then the standard claims by type. An address or number that the site calls unverified is
/// nothing known.
fn known(claims: Claims) -> Vec<Prefill> {
    let whole = match (&claims.given_name, &claims.family_name) {
        (Some(given), Some(family)) => Some(format!("{given} {family}")),
        _ => claims.name,
    };
    let standard = [
        (FieldType::PersonName, whole),
        (FieldType::Email, claims.email.filter(|_| claims.email_verified != Some(false))),
        (FieldType::Phone, claims.phone_number.filter(|_| claims.phone_number_verified != Some(false))),
        (FieldType::Website, claims.website),
    ];
    let by_key = claims.fields.into_iter().take(FIELD_LIMIT).filter_map(|(key, value)| {
        let text = match value {
            Value::String(text) => text,
            Value::Number(number) => number.to_string(),
            Value::Bool(yes) => if yes { "yes" } else { "no" }.to_owned(),
            _ => return None,
        };
        Some((PrefillTo::Key(key), text))
    });
    by_key
        .chain(standard.into_iter().filter_map(|(kind, text)| Some((PrefillTo::Type(kind), text?))))
        .filter(|(_, text)| !text.trim().is_empty() && text.chars().count() <= TEXT_LIMIT)
        .map(|(to, text)| Prefill { to, text })
        .collect()
}

#[cfg(test)]
#[allow(clippy::unwrap_used, reason = "tests")]
mod tests {
    use base64::Engine;
    use base64::engine::general_purpose::URL_SAFE_NO_PAD;
    use jsonwebtoken::{EncodingKey, Header, encode};
    use serde_json::json;

    use super::*;

    const SECRET: &str = "a secret of the site";

    fn now() -> Timestamp {
        "2026-11-24T10:00:00Z".parse().unwrap()
    }

    fn sign(claims: &Value) -> String {
        let header = Header { kid: Some("k1".into()), ..Header::new(Algorithm::HS256) };
        encode(&header, claims, &EncodingKey::from_secret(SECRET.as_bytes())).unwrap()
    }

    fn exp(minutes: i64) -> i64 {
        now().as_second() + minutes * 60
    }

    fn texts(claims: &Value) -> Vec<String> {
        read(&sign(claims), "k1", SECRET, None, now()).unwrap().known.into_iter().map(|known| known.text).collect()
    }

    /// The token and its secret are the example of RFC 7515, appendix A.1 (as the RFC prints them, typed in from memory
    /// and checked by its signature): signed in 2011, so it is found to be expired only after its signature fits.
    #[test]
    fn the_example_of_rfc_7515_is_signed_as_it_says() {
        let token = "eyJ0eXAiOiJKV1QiLA0KICJhbGciOiJIUzI1NiJ9.\
            eyJpc3MiOiJqb2UiLA0KICJleHAiOjEzMDA4MTkzODAsDQogImh0dHA6Ly9leGFtcGxlLmNvbS9pc19yb290Ijp0cnVlfQ.\
            dBjftJeZ4CVP-mB92K27uhbUJU1p1r_wW1gFWFOEjXk";
        let secret = URL_SAFE_NO_PAD
            .decode("AyM1SysPpbyDfgZld3umj1qzKObwVMkoqQ-EstJQLr_T-1qS0gZH75aKtMN3Yj0iPS4hcgUuTwjAzZr1Z9CAow")
            .unwrap();
        let mut rules = Validation::new(Algorithm::HS256);
        rules.validate_exp = false;
        rules.required_spec_claims.clear();
        let claims = decode::<Value>(token, &DecodingKey::from_secret(&secret), &rules).unwrap().claims;
        assert_eq!(claims["iss"], "joe");
        assert_eq!(key_of(token), Err(VisitorError::NoKey));
        assert!(matches!(read(token, "k", SECRET, None, now()), Err(VisitorError::Signature)));
    }

    #[test]
    fn standard_claims_and_fields_become_known_values() {
        let claims = json!({"exp": exp(30), "given_name": "Ana", "family_name": "Ruiz", "name": "A. Ruiz",
            "email": "ana@heron.example",
            "phone_number": "+442079460018", "picture": "https://heron.example/ana.png", "fields": {"pallets": 40,
                "blast": true, "odd": {"a": 1}}});
        assert_eq!(texts(&claims), ["40", "yes", "Ana Ruiz", "ana@heron.example", "+442079460018"]);
    }

    #[test]
    fn what_the_site_has_not_verified_and_what_is_too_long_is_nothing_known() {
        let claims = json!({"exp": exp(30), "email": "ana@heron.example", "email_verified": false,
            "name": "x".repeat(501), "website": " "});
        assert!(texts(&claims).is_empty());
    }

    #[test]
    fn the_log_holds_no_word_of_the_claims() {
        let token = sign(&json!({"exp": exp(30), "fields": "ana@heron.example"}));
        let error = read(&token, "k1", SECRET, None, now()).unwrap_err();
        assert!(error.to_string().contains("ana@heron.example"), "the one who tries the token is told");
        assert!(!error.for_log().contains("ana"));
    }

    #[test]
    fn a_token_is_refused_with_what_to_do() {
        let said = |token: &str, slug: Option<&str>| {
            key_of(token).and_then(|key| read(token, &key, SECRET, slug, now())).map(|_| ()).unwrap_err().to_string()
        };
        let good = sign(&json!({"exp": exp(30)}));
        let (head, rest) = good.split_once('.').unwrap();
        let (body, signature) = rest.split_once('.').unwrap();
        let other_body = URL_SAFE_NO_PAD.encode(json!({"exp": exp(30), "email": "eve@rival.example"}).to_string());
        let none = URL_SAFE_NO_PAD.encode(r#"{"alg":"none","kid":"k1"}"#);
        let header = Header { kid: Some("k1".into()), ..Header::new(Algorithm::HS512) };
        let other_algorithm =
            encode(&header, &json!({"exp": exp(30)}), &EncodingKey::from_secret(SECRET.as_bytes())).unwrap();
        for (token, slug, says) in [
            ("nonsense".to_owned(), None, "not a JSON Web Token"),
            ("x".repeat(9_000), None, "not a JSON Web Token"),
            (format!("{head}.{other_body}.{signature}"), None, "signature does not fit"),
            (format!("{head}.{body}."), None, "signature does not fit"),
            (format!("{none}.{other_body}."), None, "sign it with HS256"),
            (other_algorithm, None, "sign it with HS256"),
            (sign(&json!({})), None, "no time of expiry"),
            (sign(&json!({"exp": "soon"})), None, "claims cannot be read"),
            (sign(&json!({"exp": exp(-5)})), None, "expired 5 minutes ago"),
            (sign(&json!({"exp": exp(600)})), None, "10 hours ahead"),
            (sign(&json!({"exp": exp(30), "aud": "other"})), Some("storage"), "for the dialogue “other”"),
        ] {
            let found = said(&token, slug);
            assert!(found.contains(says), "{found} does not say {says}");
        }
        assert!(
            read(&sign(&json!({"exp": exp(30), "aud": ["other", "storage"]})), "k1", SECRET, Some("storage"), now())
                .is_ok()
        );
    }
}
