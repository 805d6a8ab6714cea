//! What people type about themselves and their workspace: names, zones, addresses, new passwords. Each is taken, or
//! refused with what to do.

use lumbo_people::{password as rules, sign_in_email};

use crate::busy::Busy;
use crate::{Problem, password};

/// Longest name of a person or workspace, characters.
const NAME_LIMIT: usize = 80;

/// Longest link, bytes.
const LINK_LIMIT: usize = 500;

/// A name of a person or workspace, trimmed and bounded.
pub(crate) fn name<'a>(text: &'a str, whose: &str) -> Result<&'a str, Problem> {
    let text = text.trim();
    if text.is_empty() {
        return Err(Problem::bad(format!("Type {whose} name.")));
    }
    if text.chars().count() > NAME_LIMIT || text.chars().any(char::is_control) {
        return Err(Problem::bad(format!("A name has at most {NAME_LIMIT} characters, on one line.")));
    }
    Ok(text)
}

/// A link to a page on the web, or none where nothing was typed.
pub(crate) fn web_link(text: &str) -> Result<Option<String>, Problem> {
    let text = text.trim();
    if text.is_empty() {
        return Ok(None);
    }
    let plain = text.len() <= LINK_LIMIT
        && !text.chars().any(|letter| letter.is_control() || letter.is_whitespace() || "\"<>\\".contains(letter))
        && text.strip_prefix("https://").is_some_and(|rest| rest.contains('.') && !rest.starts_with(['.', '/']));
    if plain { Ok(Some(text.to_owned())) } else { Err(Problem::bad("Type a link that begins with https://.")) }
}

/// A zone of the IANA list.
pub(crate) fn zone(text: &str) -> Result<&str, Problem> {
    let text = text.trim();
    jiff::tz::TimeZone::get(text).map(|_| text).map_err(|_| {
        Problem::bad(format!(
            "“{}” is no time zone. Take one such as Europe/London.",
            text.chars().take(40).collect::<String>()
        ))
    })
}

/// An address to sign in with.
pub(crate) fn email(text: &str) -> Result<&str, Problem> {
    sign_in_email(text).map_err(|error| Problem::bad(error.says()))
}

/// Hashes a new password that is good enough. `own` is what others know of the person.
pub(crate) async fn new_password(busy: &Busy, password: &str, own: &[&str]) -> Result<String, Problem> {
    rules::check(password, own).map_err(|error| Problem::bad(error.says()))?;
    let password = password.to_owned();
    busy.hash(move || password::hash(&password)).await?.map_err(|_| Problem::internal())
}

#[cfg(test)]
#[allow(clippy::unwrap_used, reason = "tests")]
mod tests {
    use super::*;

    #[test]
    fn a_link_is_one_of_the_web_or_none() {
        let good = "https://winterlode.example/privacy?lang=en#kept";
        assert_eq!(web_link(&format!(" {good} ")).unwrap().as_deref(), Some(good));
        assert_eq!(web_link("  ").unwrap(), None);
        for wrong in [
            "winterlode.example",
            "http://winterlode.example",
            "javascript:alert(1)",
            "https://",
            "https:///x.y",
            "https://a b.example",
            "https://a.example/\"onclick",
            &format!("https://a.example/{}", "x".repeat(500)),
        ] {
            assert!(web_link(wrong).is_err(), "{wrong}");
        }
    }
}
