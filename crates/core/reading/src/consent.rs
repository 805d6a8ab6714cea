//! Consent: an explicit yes, and nothing less.

use super::{Found, Heard, yes_no};
use lumbo_language::{Language, Scan, shared};
use lumbo_value::Value;

/// Reads an explicit yes. A no is declining, not an answer; the wording's version and the time are put in by the
/// conversation.
pub(super) fn read(scan: &Scan<'_>, folded: &str, language: &Language) -> Option<Found> {
    let english = Language::get("en");
    let given = Value::Consent { wording: 0, at: String::new() };
    if language.consent.contains(folded) || english.consent.contains(folded) {
        return Some(Found::Value(given, Heard::whole(scan.raw)));
    }
    // A yes with a condition is asked for again.
    if (0..scan.tokens.len().min(200))
        .any(|index| scan.word(index).is_some_and(|word| shared().conditions.contains(word)))
    {
        return Some(Found::Nothing);
    }
    match yes_no::read(scan, folded, language) {
        Found::Value(Value::YesNo { yes: true }, heard) => Some(Found::Value(given, heard)),
        Found::Value(..) => None,
        _ => {
            let agreed = folded.split([',', '.', '!']).map(str::trim).any(|part| language.consent.contains(part));
            Some(if agreed { Found::Value(given, Heard::whole(scan.raw)) } else { Found::Nothing })
        }
    }
}
