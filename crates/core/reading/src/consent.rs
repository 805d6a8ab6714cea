//! Consent: an explicit yes or an explicit no, and nothing in between.

use super::{Found, Heard, yes_no};
use lumbo_language::{Language, Scan, shared};
use lumbo_value::Value;

/// An answer to a consent; the wording's version and the time are put in by the conversation.
pub(super) fn answered(given: bool) -> Value {
    Value::Consent { wording: 0, at: String::new(), given }
}

/// Reads an explicit yes or no.
pub(super) fn read(scan: &Scan<'_>, folded: &str, language: &Language) -> Found {
    let english = Language::get("en");
    let given = answered(true);
    if language.consent.contains(folded) || english.consent.contains(folded) {
        return Found::Value(given, Heard::whole(scan.raw));
    }
    // A yes with a condition is asked for again.
    if (0..scan.tokens.len().min(200))
        .any(|index| scan.word(index).is_some_and(|word| shared().conditions.contains(word)))
    {
        return Found::Nothing;
    }
    match yes_no::read(scan, folded, language) {
        Found::Value(Value::YesNo { yes }, heard) => Found::Value(answered(yes), heard),
        _ => {
            let agreed = folded.split([',', '.', '!']).map(str::trim).any(|part| language.consent.contains(part));
            if agreed { Found::Value(given, Heard::whole(scan.raw)) } else { Found::Nothing }
        }
    }
}
