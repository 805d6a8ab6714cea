//! Yes or no, in the ways people say it.

use super::choice::Option_;
use super::{Found, Heard};
use crate::language::Language;
use crate::value::Value;

pub(super) fn options(language: &Language) -> Vec<Option_> {
    ["yes", "no"].into_iter().map(|key| Option_::plain(key, language.phrase(key))).collect()
}

/// Reads the whole reply, else its first words before a comma ("yes, about half", "no, all chilled"). English words are
/// understood in every language.
pub(super) fn read(raw: &str, folded: &str, language: &Language) -> Found {
    let english = Language::get("en");
    let decide = |said: &str| {
        let said = said.trim();
        if language.yes.contains(said) || english.yes.contains(said) && !language.no.contains(said) {
            Some(true)
        } else if language.no.contains(said) || english.no.contains(said) {
            Some(false)
        } else {
            None
        }
    };
    let mut verdict = decide(folded);
    if verdict.is_none() {
        let cleaned: String = folded.chars().map(|c| if matches!(c, ',' | '.' | ';' | '!' | '-' | '–') { ',' } else { c }).collect();
        let parts: Vec<Option<bool>> = cleaned.split(',').map(decide).collect();
        // "yes, no" says nothing; "some, yes" and "no, not at all" agree with themselves.
        let said: Vec<bool> = parts.iter().flatten().copied().collect();
        verdict = said.first().copied().filter(|first| said.iter().all(|other| other == first));
        let first_decides = parts.first().is_some_and(Option::is_some) || parts.last().is_some_and(Option::is_some);
        if !first_decides {
            verdict = None;
        }
    }
    verdict.map_or(Found::Nothing, |yes| Found::Value(Value::YesNo { yes }, Heard::whole(raw)))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::language::fold;

    fn check(language: &str, reply: &str, expected: Option<bool>) {
        let read = match read(reply, &fold(reply), Language::get(language)) {
            Found::Value(Value::YesNo { yes }, _) => Some(yes),
            _ => None,
        };
        assert_eq!(read, expected, "{language}: {reply}");
    }

    #[test]
    fn people_say_yes_and_no_in_many_ways() {
        for (language, reply, yes) in [
            ("en", "Yes", true),
            ("en", "yep!", true),
            ("en", "some, yes", true),
            ("en", "Yes, about half of it", true),
            ("en", "no, all of it is chilled", false),
            ("en", "Nope.", false),
            ("de", "Ja, bitte", true),
            ("de", "nö", false),
            ("fr", "Oui", true),
            ("es", "Sí", true),
            ("es", "no", false),
            ("nl", "nee", false),
            ("pl", "tak", true),
            ("pl", "nie", false),
            ("de", "yes", true),
        ] {
            check(language, reply, Some(yes));
        }
        for reply in ["yes no", "yes, no", "perhaps", "yesterday", "we said to him no then left", "?"] {
            check("en", reply, None);
        }
    }
}
