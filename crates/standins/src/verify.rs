//! What a receiver does with a signature of the Standard Webhooks specification; written apart from the sender, so that
//! one checks the other.

use base64::Engine;
use base64::engine::general_purpose::STANDARD;
use hmac::{Hmac, Mac};
use sha2::Sha256;

/// Whether a message is signed with a secret (`whsec_…`); nothing where there is no secret to look with.
pub fn verify(secret: &str, id: &str, timestamp: &str, signatures: &str, body: &str) -> Option<bool> {
    let key = STANDARD.decode(secret.strip_prefix("whsec_")?).ok()?;
    let good = signatures.split(' ').filter_map(|signature| signature.strip_prefix("v1,")).any(|signature| {
        let Ok(mut mac) = Hmac::<Sha256>::new_from_slice(&key) else { return false };
        mac.update(format!("{id}.{timestamp}.{body}").as_bytes());
        STANDARD.decode(signature).is_ok_and(|signature| mac.verify_slice(&signature).is_ok())
    });
    Some(good)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_published_vector_is_verified_and_a_changed_one_is_not() {
        let secret = "whsec_MfKQ9r8GKYqrTwjUPD8ILPZIo2LaLaSw";
        let (id, at, body) = ("msg_p5jXN8AQM9LWM0D4loKWxJek", "1614265330", r#"{"test": 2432232314}"#);
        let good = "v1,g0hM9SsE+OTPJTGt/tmIKtSyZlE3uFJELVlNIOLJ1OE=";
        assert_eq!(verify(secret, id, at, good, body), Some(true));
        assert_eq!(verify(secret, id, at, &format!("v1,AAAA {good}"), body), Some(true));
        assert_eq!(verify(secret, id, at, good, "{}"), Some(false));
        assert_eq!(verify(secret, id, at, "", body), Some(false));
        assert_eq!(verify("", id, at, good, body), None);
    }
}
