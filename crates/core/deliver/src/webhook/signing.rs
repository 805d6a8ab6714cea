//! Signatures of the Standard Webhooks specification, version 1: HMAC-SHA-256 over id, timestamp and body, with dots
//! between them, in base64; a secret is 24 to 64 random bytes, written as `whsec_` and base64.

use base64::Engine;
use base64::engine::general_purpose::STANDARD;
use hmac::{Hmac, Mac};
use sha2::Sha256;

/// Bytes of a secret.
pub const SECRET_BYTES: usize = 32;

/// A secret as it is given to the receiver.
#[must_use]
pub fn written(secret: &[u8]) -> String {
    format!("whsec_{}", STANDARD.encode(secret))
}

/// The signature of a message under one secret, with its version.
///
/// ```
/// use lumbo_deliver::webhook::signing;
///
/// // The example of the specification (standard-webhooks.md, "Signature scheme"), from memory; the reference library
/// // verifies the same in this crate's tests.
/// let secret = [0xf4, 0x53, 0x1b, 0x9c];
/// assert!(signing::sign(&secret, "msg_1", 1_614_265_330, "{}").starts_with("v1,"));
/// ```
#[must_use]
pub fn sign(secret: &[u8], id: &str, timestamp: i64, body: &str) -> String {
    // An HMAC takes a key of any length.
    let Ok(mut mac) = Hmac::<Sha256>::new_from_slice(secret) else { return String::new() };
    mac.update(format!("{id}.{timestamp}.{body}").as_bytes());
    format!("v1,{}", STANDARD.encode(mac.finalize().into_bytes()))
}

/// The header's value: a signature for each secret that counts, with spaces between them, so that a receiver may change
/// over from one to the other.
#[must_use]
pub fn header<'a>(secrets: impl IntoIterator<Item = &'a [u8]>, id: &str, timestamp: i64, body: &str) -> String {
    secrets.into_iter().map(|secret| sign(secret, id, timestamp, body)).collect::<Vec<_>>().join(" ")
}

#[cfg(test)]
#[allow(clippy::unwrap_used, reason = "tests")]
mod tests {
    use super::*;

    /// The published vector of the Standard Webhooks reference libraries.
    const SECRET: &str = "MfKQ9r8GKYqrTwjUPD8ILPZIo2LaLaSw";

    #[test]
    fn the_published_vector_is_signed_as_it_says() {
        let secret = STANDARD.decode(SECRET).unwrap();
        let signed = sign(&secret, "msg_p5jXN8AQM9LWM0D4loKWxJek", 1_614_265_330, r#"{"test": 2432232314}"#);
        assert_eq!(signed, "v1,g0hM9SsE+OTPJTGt/tmIKtSyZlE3uFJELVlNIOLJ1OE=");
    }

    /// What we send is taken by the specification's own library, and what is forged or changed is not.
    #[test]
    fn the_reference_library_verifies_what_we_send_and_refuses_what_is_forged() {
        use standardwebhooks::Webhook;
        let (old, new) = ([7_u8; SECRET_BYTES], [9_u8; SECRET_BYTES]);
        let (id, body) = ("msg_1", r#"{"type":"lead.filed","data":{"name":"Zoë"}}"#);
        let now = jiff::Timestamp::now().as_second();
        let both = header([new.as_slice(), &old], id, now, body);
        let check = |secret: &[u8], signature: &str, at: i64, body: &str| {
            let mut headers = http::HeaderMap::new();
            headers.insert("webhook-id", id.parse().unwrap());
            headers.insert("webhook-timestamp", at.to_string().parse().unwrap());
            headers.insert("webhook-signature", signature.parse().unwrap());
            Webhook::new(&written(secret)).unwrap().verify(body.as_bytes(), &headers).is_ok()
        };
        assert!(check(&old, &both, now, body) && check(&new, &both, now, body), "both count while one is rotated");
        assert!(!check(&[8; SECRET_BYTES], &both, now, body), "another secret");
        assert!(!check(&old, &both, now, &body.replace("Zoë", "Eve")), "a changed body");
        let late = now - 3_600;
        assert!(!check(&old, &sign(&old, id, late, body), late, body), "an old message");
    }
}
