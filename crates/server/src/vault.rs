//! Secrets at rest: sealed with XChaCha20-Poly1305 under a key from the environment, each bound to what it is for, so
//! that a row moved to another place cannot be opened there.

use chacha20poly1305::aead::{Aead, KeyInit, Payload};
use chacha20poly1305::{XChaCha20Poly1305, XNonce};
use rand::RngCore;

use crate::Problem;

/// Bytes of a key.
pub const KEY_BYTES: usize = 32;
/// Bytes of a nonce; random ones of this length never meet.
const NONCE: usize = 24;

/// Seals and opens secrets.
#[derive(Clone)]
pub(crate) struct Vault(Option<XChaCha20Poly1305>);

impl Vault {
    pub(crate) fn new(key: Option<[u8; KEY_BYTES]>) -> Self {
        Self(key.map(|key| XChaCha20Poly1305::new(&key.into())))
    }

    /// True where there is a key.
    pub(crate) fn is_open(&self) -> bool {
        self.0.is_some()
    }

    fn cipher(&self) -> Result<&XChaCha20Poly1305, Problem> {
        self.0.as_ref().ok_or_else(|| {
            Problem::new(
                axum::http::StatusCode::SERVICE_UNAVAILABLE,
                "no-secret-key",
                "Secrets cannot be kept here yet: start the server with LUMBO_SECRET_KEY, as the page on running says.",
            )
        })
    }

    /// Seals a secret for a purpose.
    pub(crate) fn seal(&self, purpose: &str, secret: &[u8]) -> Result<Vec<u8>, Problem> {
        let cipher = self.cipher()?;
        let mut nonce = [0_u8; NONCE];
        rand::rng().fill_bytes(&mut nonce);
        let payload = Payload { msg: secret, aad: purpose.as_bytes() };
        let sealed = cipher.encrypt(XNonce::from_slice(&nonce), payload).map_err(|_| Problem::internal())?;
        Ok([nonce.as_slice(), &sealed].concat())
    }

    /// Opens what somebody else holds and may have changed; nothing where it was not sealed here for the same purpose.
    pub(crate) fn opened(&self, purpose: &str, sealed: &[u8]) -> Option<Vec<u8>> {
        let (nonce, sealed) = sealed.split_at_checked(NONCE)?;
        let payload = Payload { msg: sealed, aad: purpose.as_bytes() };
        self.0.as_ref()?.decrypt(XNonce::from_slice(nonce), payload).ok()
    }

    /// Opens what was sealed for the same purpose under the same key.
    pub(crate) fn open(&self, purpose: &str, sealed: &[u8]) -> Result<Vec<u8>, Problem> {
        self.cipher()?;
        self.opened(purpose, sealed).ok_or_else(|| {
            tracing::error!(purpose, "a secret cannot be opened: it was sealed with another key");
            Problem::internal()
        })
    }
}

#[cfg(test)]
#[allow(clippy::unwrap_used, reason = "tests")]
mod tests {
    use super::*;

    #[test]
    fn a_secret_is_opened_by_its_key_for_its_purpose_only() {
        let vault = Vault::new(Some([7; KEY_BYTES]));
        let sealed = vault.seal("totp a", b"secret").unwrap();
        assert!(!sealed.windows(6).any(|window| window == b"secret"));
        assert_ne!(sealed, vault.seal("totp a", b"secret").unwrap(), "never the same twice");
        assert_eq!(vault.open("totp a", &sealed).unwrap(), b"secret");
        assert_eq!(vault.open("totp b", &sealed).unwrap_err().status, 500);
        assert_eq!(Vault::new(Some([8; KEY_BYTES])).open("totp a", &sealed).unwrap_err().status, 500);
        assert_eq!(vault.open("totp a", &sealed[..10]).unwrap_err().status, 500);
        let mut changed = sealed;
        if let Some(last) = changed.last_mut() {
            *last ^= 1;
        }
        assert_eq!(vault.open("totp a", &changed).unwrap_err().status, 500);
    }

    #[test]
    fn without_a_key_nothing_is_kept() {
        assert_eq!(Vault::new(None).seal("totp a", b"secret").unwrap_err().status, 503);
    }
}
