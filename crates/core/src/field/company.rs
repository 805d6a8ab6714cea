//! A company's name, as given, without the words around it.

use super::{Found, Heard};
use crate::value::Value;

const CUES: [&str; 12] =
    ["on behalf of ", "i'm from ", "i am from ", "we're from ", "we are from ", "i work at ", "i work for ", "from ", "at ", "we're ", "we are ", "it's "];

pub(super) fn read(raw: &str) -> Found {
    let trimmed = raw.trim();
    let lower = trimmed.to_lowercase().replace('’', "'");
    // Lower-casing can change lengths outside ASCII; a cue is cut only where it is plainly there.
    let cue = CUES
        .iter()
        .find(|cue| lower.starts_with(**cue) && trimmed.is_char_boundary(cue.len()) && trimmed.chars().take(cue.len()).all(|c| c.is_ascii() || c == '’'));
    let start = cue.map_or(0, |cue| trimmed.char_indices().nth(cue.chars().count()).map_or(0, |(at, _)| at));
    let name = trimmed[start..].trim_end_matches(['.', '!', '?']).trim();
    let tidy: String = name.split_whitespace().collect::<Vec<_>>().join(" ").chars().filter(|c| !c.is_control()).collect();
    let dotted = if raw.trim_end().ends_with('.') && ["Ltd", "Inc", "Co", "B.V", "S.A", "S.r.l", "S.L"].iter().any(|form| tidy.ends_with(form)) {
        format!("{tidy}.")
    } else {
        tidy
    };
    if !dotted.chars().any(char::is_alphanumeric) || dotted.chars().count() > 120 || trimmed.ends_with('?') {
        return Found::Nothing;
    }
    let at = raw.find(name).unwrap_or(0);
    Found::Value(Value::text(dotted), Heard::at(raw, at, at + name.len()))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_words_around_a_company_are_left_out() {
        for (reply, expected) in [
            ("Harrow & Peel Foods", "Harrow & Peel Foods"),
            ("I’m from Vaal Sea Produce B.V.", "Vaal Sea Produce B.V."),
            ("on behalf of Kettle Lane Bakehouse", "Kettle Lane Bakehouse"),
            ("  At  Mossfield   Dairy. ", "Mossfield Dairy"),
            ("Ätna GmbH", "Ätna GmbH"),
        ] {
            let Found::Value(Value::Text { text }, _) = read(reply) else { panic!("{reply}") };
            assert_eq!(text, expected);
        }
        for reply in ["???", "why?", "  "] {
            assert!(matches!(read(reply), Found::Nothing), "{reply}");
        }
    }
}
