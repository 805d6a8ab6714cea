//! What people type about themselves and their workspace: names, zones, addresses, new passwords. Each is taken, or
//! refused with what to do.

use lumbo_people::{password as rules, sign_in_email};

use crate::busy::Busy;
use crate::{Problem, password};

/// Longest name of a person or workspace, characters.
const NAME_LIMIT: usize = 80;

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
