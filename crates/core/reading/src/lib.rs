//! Reading a prospect's reply into a field's value, and checking the rules on it.
//!
//! A [`Reader`] is built once per ask (or per `lumbo field` call); it holds the rules with their numbers parsed and
//! the options folded for comparison. [`Reader::read`] takes one reply and never panics, whatever the text.
//!
//! The steps: nothing said → an option as it stands → declined → the type's own reader finds a value and where it was
//! heard → every rule is checked → all that failed are named.
//!
//! | file | what it holds |
//! |---|---|
//! | `reader`, `spec` | the reader of a field, what it is built from, why one cannot be |
//! | `heard` | what came of a reply, and what reading may look up |
//! | `text`, `name`, `company`, `email`, `phone`, `website`, `yes_no`, `consent` | one type each |
//! | `choice`, `ranges`, `scale`, `list`, `place`, `country` | one type each, with ranges as options |
//! | `number/`, `units`, `quantity`, `money` | numbers, and what they count |
//! | `date/` | dates |
//! | `took_back` | "not 40 but 50", "40, sorry, 50" |
//! | `free` | several fields out of one free reply |
//! | `rules`, `domains` | rules, and domains that are no company's |
//! | `shown`, `json` | a value in words, and from JSON |
//!
//! To add a type: a file with `read`, an arm in [`Reader::found`], its shape in `json`, its words in `shown`, its
//! default message `type.…` in the data of the crate `language`, cases in `tests/data/replies.json`.

mod choice;
mod company;
mod consent;
mod country;
mod date;
pub mod domains;
mod email;
mod free;
mod heard;
mod json;
mod list;
mod money;
mod name;
mod number;
mod phone;
mod place;
mod quantity;
mod ranges;
mod reader;
mod rules;
mod scale;
mod shown;
mod spec;
mod text;
mod took_back;
mod units;
mod website;
mod yes_no;

use lumbo_language::{Language, Scan, fold};
use lumbo_value::Value;

pub use country::{countries, country_name, is_country};
pub use email::is_address;
pub use free::{FreeReader, Taken};
use heard::Found;
pub use heard::{Heard, ReadContext, Reading};
pub use json::from_json;
pub use name::split as split_name;
pub use reader::Reader;
pub use rules::{VALUE_NAME, phone_country};
pub use shown::{part, shown};
pub use spec::{ReaderError, ReaderSpec};
pub use website::registrable;

/// Longest reply that is read, in characters.
pub const REPLY_LIMIT: usize = 10_000;

/// Yes or no of a reply that is not for any field.
#[must_use]
pub fn yes_or_no(raw: &str, language: &str) -> Option<bool> {
    match yes_no::read(&Scan::new(raw), &fold(raw), Language::get(language)) {
        Found::Value(Value::YesNo { yes }, _) => Some(yes),
        _ => None,
    }
}

/// "a, b or c"
pub(crate) fn joined(words: &[String], last: &str) -> String {
    match words.split_last() {
        Some((end, rest)) if !rest.is_empty() => format!("{} {last} {end}", rest.join(", ")),
        _ => words.join(""),
    }
}

#[cfg(test)]
mod tests;
