//! Listed words per language: yes and no, declining, skipping, numbers, and the built-in phrases.
//!
//! The lists are data in `data/language/`; to add a language, add a file there and a line in [`Language::get`].

use std::collections::{HashMap, HashSet};
use std::sync::OnceLock;

use serde::Deserialize;
use unicode_normalization::UnicodeNormalization;

/// Languages with listed words, as BCP 47 primary tags; in the order of the files below, English first.
pub const LANGUAGES: [&str; 6] = ["en", "de", "fr", "es", "nl", "pl"];

/// The listed words of one language.
#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Language {
    /// Between thousands.
    pub group: char,
    /// Before decimals.
    pub decimal: char,
    /// Ways to say yes.
    pub yes: HashSet<String>,
    /// Ways to say no.
    pub no: HashSet<String>,
    /// Ways to have none, not know, or rather not.
    pub declined: HashSet<String>,
    /// Ways to skip.
    pub skip: HashSet<String>,
    /// Words before an approximate number.
    pub about: HashSet<String>,
    /// Words between the ends of a span.
    pub to: HashSet<String>,
    /// Number words.
    pub words: HashMap<String, u32>,
    /// Words that multiply the number before them.
    pub times: HashMap<String, u32>,
    /// Words that may stand inside a number in words.
    pub join: HashSet<String>,
    /// Built-in phrases by key.
    pub phrases: HashMap<String, String>,
}

impl Language {
    /// The language of a tag such as `de` or `de-AT`; English where none is listed.
    #[must_use]
    pub fn get(tag: &str) -> &'static Self {
        static ALL: OnceLock<Vec<Option<Language>>> = OnceLock::new();
        let all = ALL.get_or_init(|| {
            let files = [
                include_str!("../../data/language/en.json"),
                include_str!("../../data/language/de.json"),
                include_str!("../../data/language/fr.json"),
                include_str!("../../data/language/es.json"),
                include_str!("../../data/language/nl.json"),
                include_str!("../../data/language/pl.json"),
            ];
            files.into_iter().map(|text| serde_json::from_str(text).ok()).collect()
        });
        static NONE: OnceLock<Language> = OnceLock::new();
        let primary = tag.split(['-', '_']).next().unwrap_or(tag);
        let place = LANGUAGES.iter().position(|known| *known == primary).unwrap_or(0);
        all.get(place).and_then(Option::as_ref).unwrap_or_else(|| {
            NONE.get_or_init(|| Self {
                group: ',',
                decimal: '.',
                yes: HashSet::new(),
                no: HashSet::new(),
                declined: HashSet::new(),
                skip: HashSet::new(),
                about: HashSet::new(),
                to: HashSet::new(),
                words: HashMap::new(),
                times: HashMap::new(),
                join: HashSet::new(),
                phrases: HashMap::new(),
            })
        })
    }

    /// The built-in phrase for a key; the key itself where none is listed.
    #[must_use]
    pub fn phrase<'a>(&'a self, key: &'a str) -> &'a str {
        self.phrases.get(key).map_or(key, String::as_str)
    }
}

/// Built-in phrases of a language, with an author's own wording before them.
#[derive(Debug, Clone)]
pub struct Phrases {
    language: &'static Language,
    own: std::sync::Arc<HashMap<String, String>>,
}

impl Phrases {
    /// The phrases of a language as they stand.
    #[must_use]
    pub fn plain(language: &str) -> Self {
        Self { language: Language::get(language), own: std::sync::Arc::default() }
    }

    /// The phrases of a dialogue, in one of its languages.
    #[must_use]
    pub fn of(dialogue: &crate::file::Dialogue, language: &str) -> Self {
        let own = dialogue.phrases.iter().map(|(key, text)| (key.clone(), text.get(language, &dialogue.language).to_owned()));
        Self { language: Language::get(language), own: std::sync::Arc::new(own.filter(|(_, words)| !words.is_empty()).collect()) }
    }

    /// The phrase for a key; the key itself where none is listed.
    #[must_use]
    pub fn get<'a>(&'a self, key: &'a str) -> &'a str {
        self.own.get(key).map_or_else(|| self.language.phrase(key), String::as_str)
    }
}

/// Keys of the phrases that a dialogue may word for itself, in order. Those a new outline is made of are not among them.
#[must_use]
pub fn phrase_keys() -> Vec<&'static str> {
    let mut keys: Vec<&str> = Language::get("en").phrases.keys().map(String::as_str).filter(|key| !key.starts_with("new.")).collect();
    keys.sort_unstable();
    keys
}

/// Folds a reply for comparison: NFKC, lower case, straight apostrophes, single spaces, no punctuation at the ends.
#[must_use]
pub fn fold(text: &str) -> String {
    let mut out = String::with_capacity(text.len());
    if text.is_ascii() {
        push_folded(&mut out, text.chars());
    } else {
        push_folded(&mut out, text.nfkc());
    }
    let trimmed = out.trim_matches(|c: char| c == ' ' || matches!(c, '.' | ',' | '!' | '?' | ';' | ':' | '"' | '“' | '”' | '«' | '»' | '(' | ')' | '¡' | '¿'));
    if trimmed.len() == out.len() { out } else { trimmed.to_owned() }
}

fn push_folded(out: &mut String, chars: impl Iterator<Item = char>) {
    let mut space = false;
    for c in chars {
        if c.is_whitespace() {
            space = true;
            continue;
        }
        if space && !out.is_empty() {
            out.push(' ');
        }
        space = false;
        match c {
            '’' | '‘' | '`' | '´' => out.push('\''),
            c if c.is_ascii() => out.push(c.to_ascii_lowercase()),
            c => out.extend(c.to_lowercase()),
        }
    }
}

/// Puts values into a built-in phrase: `{heard}`, `{min}` and the like.
#[must_use]
pub fn fill(phrase: &str, parts: &[(&str, &str)]) -> String {
    let mut out = String::with_capacity(phrase.len() + 16);
    let mut rest = phrase;
    while let Some(open) = rest.find('{') {
        out.push_str(&rest[..open]);
        let after = &rest[open + 1..];
        let Some((name, tail)) = after.split_once('}') else {
            out.push_str(&rest[open..]);
            return out;
        };
        out.push_str(parts.iter().find(|(key, _)| *key == name).map_or("", |(_, value)| value));
        rest = tail;
    }
    out.push_str(rest);
    out
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_language_loads_and_has_every_phrase() {
        let english: HashSet<_> = Language::get("en").phrases.keys().collect();
        assert!(english.len() > 30);
        for tag in LANGUAGES {
            let language = Language::get(tag);
            assert_eq!(language.phrases.keys().collect::<HashSet<_>>(), english, "{tag}");
            assert!(tag == "en" || !std::ptr::eq(language, Language::get("en")), "{tag} does not load");
        }
    }

    #[test]
    fn listed_words_are_stored_folded_and_yes_is_never_no() {
        for tag in LANGUAGES {
            let language = Language::get(tag);
            for word in language.yes.iter().chain(&language.no) {
                assert_eq!(*word, fold(word), "{tag}: {word}");
            }
            for word in language.skip.iter().chain(&language.declined) {
                let folded = fold(word);
                assert!(folded.is_empty() || language.declined.contains(&folded) || language.skip.contains(&folded) || word.contains('.'), "{tag}: {word}");
            }
            assert!(language.yes.is_disjoint(&language.no), "{tag}");
        }
    }

    #[test]
    fn a_reply_is_folded_for_comparison() {
        for (raw, folded) in
            [("  Yes,  PLEASE! ", "yes, please"), ("I don’t know.", "i don't know"), ("ＦＲＯＺＥＮ", "frozen"), ("ﬁsh", "fish"), ("", ""), ("?!", "")]
        {
            assert_eq!(fold(raw), folded);
        }
    }

    #[test]
    fn phrases_take_values_and_leave_unknown_names_out() {
        assert_eq!(fill("from {min} to {max}{x}", &[("min", "1"), ("max", "4,000")]), "from 1 to 4,000");
        assert_eq!(fill("open {", &[]), "open {");
    }
}
