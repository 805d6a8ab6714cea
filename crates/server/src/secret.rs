//! Secrets of links: shown or mailed once, kept as their SHA-256.

use base64::Engine;
use base64::engine::general_purpose::URL_SAFE_NO_PAD;
use rand::RngCore;
use sha2::{Digest, Sha256};

/// A secret for a link, and its SHA-256.
#[must_use]
pub fn link_secret() -> (String, Vec<u8>) {
    let mut bytes = [0_u8; 24];
    rand::rng().fill_bytes(&mut bytes);
    let secret = URL_SAFE_NO_PAD.encode(bytes);
    let hash = Sha256::digest(secret.as_bytes()).to_vec();
    (secret, hash)
}
