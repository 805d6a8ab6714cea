//! Which passwords are good enough: by length, and by not being one that everybody tries first. No rules about kinds of
//! characters (NIST SP 800-63B, section 5.1.1.2, from memory, advises against them).

use zxcvbn::feedback::Warning;

/// Least characters.
pub const LEAST: usize = 10;
/// Most characters.
pub const MOST: usize = 200;

/// Why a password is not taken.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum PasswordError {
    /// Fewer than [`LEAST`] characters.
    TooShort,
    /// More than [`MOST`] characters.
    TooLong,
    /// Among those that are tried first.
    Common,
    /// The person's own address or name, or little more than it.
    Own,
}

impl PasswordError {
    /// What to do.
    #[must_use]
    pub fn says(self) -> String {
        match self {
            Self::TooShort => {
                format!("A password has at least {LEAST} characters. A few words in a row are easy to keep.")
            }
            Self::TooLong => format!("A password has at most {MOST} characters."),
            Self::Common => {
                "That password is among those that are tried first. Take another, such as a few words in a row.".into()
            }
            Self::Own => "That password is too close to your name or address. Take another.".into(),
        }
    }
}

/// Looks at a new password. `own` is what others know of the person: name, address, workspace.
///
/// # Errors
/// [`PasswordError`], the first that holds.
///
/// ```
/// use lumbo_people::password::{PasswordError, check};
///
/// assert_eq!(check("four words in snow", &["ana@heron.example"]), Ok(()));
/// assert_eq!(check("too short", &[]), Err(PasswordError::TooShort));
/// assert_eq!(check("1234567890", &[]), Err(PasswordError::Common));
/// ```
pub fn check(password: &str, own: &[&str]) -> Result<(), PasswordError> {
    let length = password.chars().count();
    if length < LEAST {
        return Err(PasswordError::TooShort);
    }
    if length > MOST {
        return Err(PasswordError::TooLong);
    }
    let folded = password.to_lowercase();
    let parts = own.iter().flat_map(|text| text.split(|c: char| !c.is_alphanumeric()));
    let rest =
        parts.filter(|part| part.chars().count() > 2).fold(folded, |rest, part| rest.replace(&part.to_lowercase(), ""));
    if rest.chars().count() < LEAST / 2 {
        return Err(PasswordError::Own);
    }
    let common =
        zxcvbn::zxcvbn(password, &[]).feedback().and_then(zxcvbn::feedback::Feedback::warning).is_some_and(|warning| {
            matches!(
                warning,
                Warning::ThisIsATop10Password
                    | Warning::ThisIsATop100Password
                    | Warning::ThisIsACommonPassword
                    | Warning::ThisIsSimilarToACommonlyUsedPassword
                    | Warning::RepeatsLikeAaaAreEasyToGuess
                    | Warning::RepeatsLikeAbcAbcAreOnlySlightlyHarderToGuess
                    | Warning::SequencesLikeAbcAreEasyToGuess
                    | Warning::StraightRowsOfKeysAreEasyToGuess
            )
        });
    if common { Err(PasswordError::Common) } else { Ok(()) }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_is_tried_first_is_refused_whatever_characters_it_has() {
        for common in ["password123", "qwertyuiop", "1234567890", "aaaaaaaaaaaa", "abcabcabcabc", "Password1234"] {
            assert_eq!(check(common, &[]), Err(PasswordError::Common), "{common}");
        }
        for good in ["keep it cold tonight", "grey heron, wet field", "zu viel Schnee hier", "😀 is one character"] {
            assert_eq!(check(good, &[]), Ok(()), "{good}");
        }
    }

    #[test]
    fn ones_own_name_or_address_is_refused() {
        let own = ["Ana Heronsgate", "ana@heronsgate.example"];
        for bad in ["heronsgate", "AnaHeronsgate", "heronsgate1", "ana.heronsgate"] {
            assert_eq!(check(bad, &own), Err(PasswordError::Own), "{bad}");
        }
        assert_eq!(check("heronsgate by the river", &own), Ok(()));
    }

    #[test]
    fn length_is_counted_in_characters_and_bounded() {
        assert_eq!(check("ééééééééé", &[]), Err(PasswordError::TooShort));
        assert_eq!(check(&"a winter ".repeat(40), &[]), Err(PasswordError::TooLong));
    }
}
