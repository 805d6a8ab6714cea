//! Passwords, hashed with Argon2id. The parameters are the crate's defaults, which follow OWASP's advice.

use argon2::Argon2;
use argon2::password_hash::rand_core::OsRng;
use argon2::password_hash::{PasswordHash, PasswordHasher, PasswordVerifier, SaltString};

/// Hashes a password as a PHC string.
///
/// # Errors
/// What the hasher reports.
pub fn hash(password: &str) -> Result<String, String> {
    let salt = SaltString::generate(&mut OsRng);
    Argon2::default()
        .hash_password(password.as_bytes(), &salt)
        .map(|hash| hash.to_string())
        .map_err(|error| error.to_string())
}

/// True where a password fits a PHC string. Without one it hashes all the same, so that an unknown address takes as
/// long as a wrong password.
pub(crate) fn fits(password: &str, phc: Option<&str>) -> bool {
    match phc.and_then(|phc| PasswordHash::new(phc).ok()) {
        Some(parsed) => Argon2::default().verify_password(password.as_bytes(), &parsed).is_ok(),
        None => {
            let _ = hash(password);
            false
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn only_the_right_password_fits_and_hashes_are_argon2id() {
        let phc = hash("winter is long").unwrap();
        assert!(phc.starts_with("$argon2id$v=19$"));
        assert!(fits("winter is long", Some(&phc)));
        assert!(
            !fits("winter is short", Some(&phc))
                && !fits("", Some(&phc))
                && !fits("x", None)
                && !fits("x", Some("no hash"))
        );
    }
}
