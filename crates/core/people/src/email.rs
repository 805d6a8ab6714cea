//! The address that somebody signs in with.

/// Longest address, characters: RFC 5321, section 4.5.3.1.3 (256 for a path with its angle brackets).
const LONGEST: usize = 254;

/// Why an address is not taken.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum EmailError {
    /// It is no address.
    NoAddress,
}

impl EmailError {
    /// What to do.
    #[must_use]
    pub fn says(self) -> &'static str {
        match self {
            Self::NoAddress => "That is not an e-mail address. It has one @ and a domain, such as ana@heron.example.",
        }
    }
}

/// An address to sign in with, trimmed. Whether mail arrives there is seen when it is sent; here it only has to have
/// the shape of one, and nothing that could end a line of a mail's head.
///
/// # Errors
/// [`EmailError::NoAddress`].
pub fn sign_in_email(text: &str) -> Result<&str, EmailError> {
    let text = text.trim();
    let fits = text.split_once('@').is_some_and(|(local, domain)| {
        !local.is_empty()
            && local.len() <= 64
            && domain.contains('.')
            && !domain.starts_with('.')
            && !domain.ends_with('.')
            && !domain.contains("..")
            && !domain.contains('@')
    });
    let plain = text.chars().all(|c| !c.is_whitespace() && !c.is_control() && !"<>(),;:\\\"[]".contains(c));
    if fits && plain && text.chars().count() <= LONGEST { Ok(text) } else { Err(EmailError::NoAddress) }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn only_what_has_the_shape_of_an_address_is_taken() {
        for good in [" ana@heron.example ", "a.b+c@x.co", "o’neil@heron.example", "jürgen@müller.example"] {
            assert_eq!(sign_in_email(good), Ok(good.trim()), "{good}");
        }
        let long = format!("{}@heron.example", "a".repeat(65));
        for bad in [
            "",
            "ana",
            "@heron.example",
            "ana@",
            "ana@heron",
            "a@b@c.example",
            "ana@heron.example\r\nBcc: x@y.example",
            "ana @heron.example",
            "<ana@heron.example>",
            "ana@.example",
            "ana@heron..example",
            &long,
        ] {
            assert_eq!(sign_in_email(bad), Err(EmailError::NoAddress), "{bad}");
        }
    }
}
