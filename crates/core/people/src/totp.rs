//! The second factor: six digits that change every half minute (RFC 6238, with HMAC-SHA-1 and 30 seconds, which every
//! authenticator takes), and codes to get in without it.

use jiff::Timestamp;
use totp_rs::{Algorithm, Builder, Totp};

/// Bytes of a secret: as long as the hash, as RFC 4226, section 4, recommends.
pub const SECRET_BYTES: usize = 20;
/// How many codes one gets for the day on which the phone is lost.
pub const RECOVERY_CODES: usize = 10;
/// Letters and digits of recovery codes, without those that are taken for one another.
const RECOVERY_LETTERS: &[u8] = b"abcdefghjkmnpqrstuvwxyz23456789";
/// Seconds that a code counts.
const STEP: u64 = 30;

fn totp(secret: &[u8], account: &str) -> Option<Totp> {
    // A colon would end the issuer in the address that authenticators read.
    let account = account.replace(':', "");
    Builder::new()
        .with_algorithm(Algorithm::SHA1)
        .with_digits(6)
        .with_step_duration(STEP)
        .with_skew(1)
        .with_secret(secret.to_vec())
        .with_account_name(account)
        .with_issuer(Some("Lumbo"))
        .build()
        .ok()
}

/// The address that an authenticator reads from a picture; nothing where the secret is too short.
#[must_use]
pub fn address(secret: &[u8], email: &str) -> Option<String> {
    totp(secret, email)?.to_url().ok()
}

/// The secret as it is typed into an authenticator: base32 (RFC 4648).
#[must_use]
pub fn typed(secret: &[u8]) -> String {
    totp_rs::Secret::from(secret.to_vec()).to_base32()
}

/// The step that a code is of, where it is right: this one, the one before or the one after, and later than the last
/// one that was used, so that a code counts once.
#[must_use]
pub fn check(secret: &[u8], code: &str, now: Timestamp, used: Option<i64>) -> Option<i64> {
    let digits: String = code.chars().filter(|c| !c.is_whitespace()).collect();
    if digits.len() != 6 || !digits.bytes().all(|byte| byte.is_ascii_digit()) {
        return None;
    }
    let totp = totp(secret, "account")?;
    let now = u64::try_from(now.as_second()).ok()?;
    let step = i64::try_from(totp.check(&digits, now)?).ok()?;
    (used.is_none_or(|used| step > used)).then_some(step)
}

/// A recovery code made of random bytes: two groups of five.
#[must_use]
pub fn recovery_code(random: &[u8; 10]) -> String {
    let letter = |byte: &u8| char::from(RECOVERY_LETTERS[usize::from(*byte) % RECOVERY_LETTERS.len()]);
    let (first, second) = random.split_at(5);
    format!("{}-{}", first.iter().map(letter).collect::<String>(), second.iter().map(letter).collect::<String>())
}

/// A recovery code as it is compared: without case, spaces and dashes; nothing where it is none.
#[must_use]
pub fn folded_recovery_code(code: &str) -> Option<String> {
    let folded: String =
        code.chars().filter(|c| !c.is_whitespace() && *c != '-').flat_map(char::to_lowercase).collect();
    (folded.len() == 10 && folded.bytes().all(|byte| RECOVERY_LETTERS.contains(&byte))).then_some(folded)
}

#[cfg(test)]
#[allow(clippy::unwrap_used, reason = "tests")]
mod tests {
    use super::*;

    /// RFC 6238, appendix B, the rows for SHA-1 (eight digits there; six digits are their last six).
    #[test]
    fn the_codes_of_rfc_6238_are_right_at_their_moments() {
        let secret = b"12345678901234567890";
        for (second, code) in [
            (59, "94287082"),
            (1_111_111_109, "07081804"),
            (1_111_111_111, "14050471"),
            (1_234_567_890, "89005924"),
            (2_000_000_000, "69279037"),
            (20_000_000_000, "65353130"),
        ] {
            let now = Timestamp::from_second(second).unwrap();
            assert_eq!(check(secret, &code[2..], now, None), Some(second / 30), "{second}");
        }
    }

    #[test]
    fn a_code_counts_once_and_for_a_minute_and_a_half_at_most() {
        let secret = b"12345678901234567890";
        let at = |second| Timestamp::from_second(second).unwrap();
        assert_eq!(check(secret, "050 471", at(1_111_111_111), None), Some(37_037_037));
        assert_eq!(check(secret, "050471", at(1_111_111_111 + 30), None), Some(37_037_037), "a slow phone");
        assert_eq!(check(secret, "050471", at(1_111_111_111 + 90), None), None);
        assert_eq!(check(secret, "050471", at(1_111_111_111), Some(37_037_037)), None, "it was used");
        for wrong in ["", "05047", "0504711", "05047a", "050472"] {
            assert_eq!(check(secret, wrong, at(1_111_111_111), None), None, "{wrong}");
        }
    }

    #[test]
    fn what_an_authenticator_reads_names_us_and_the_account() {
        let address = address(b"12345678901234567890", "ana@heron.example").unwrap();
        assert!(address.starts_with("otpauth://totp/Lumbo:ana%40heron.example?"), "{address}");
        assert!(address.contains(&format!("secret={}", typed(b"12345678901234567890"))), "{address}");
        assert!(super::address(b"short", "ana@heron.example").is_none());
    }

    #[test]
    fn recovery_codes_are_read_however_they_are_typed() {
        let code = recovery_code(&[0, 31, 62, 255, 7, 9, 11, 13, 200, 100]);
        assert_eq!(folded_recovery_code(&code.to_uppercase()), Some(code.replace('-', "")));
        assert_eq!(folded_recovery_code(&format!(" {} ", code.replace('-', " "))), Some(code.replace('-', "")));
        assert_eq!(folded_recovery_code("123456"), None);
    }
}
