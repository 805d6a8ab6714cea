//! Words a prospect reads: one text per language, with chips for known values.
//!
//! A chip is `{key}`, `{key|fallback}` or `{key?value=word;value=word|fallback}`; `{name.given|there}` takes a part of
//! a name. `{@country}` and the like take what is known without asking. `{{` is a literal brace. Chips are parsed once,
//! when the outline is compiled.

use std::collections::BTreeMap;

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// One text per language; the dialogue's language must be among them.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(transparent)]
pub struct Text(pub BTreeMap<String, String>);

impl Text {
    /// A text in one language.
    pub fn new(language: &str, words: impl Into<String>) -> Self {
        Self(BTreeMap::from([(language.to_owned(), words.into())]))
    }

    /// The words in `language`, else in `fallback`, else in any, else nothing.
    #[must_use]
    pub fn get(&self, language: &str, fallback: &str) -> &str {
        self.0
            .get(language)
            .or_else(|| self.0.get(fallback))
            .or_else(|| self.0.values().next())
            .map_or("", String::as_str)
    }
}

/// A piece of a parsed text.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Piece {
    /// Plain words.
    Words(String),
    /// A known value.
    Chip(Chip),
}

/// A place in a text that a known value fills.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Chip {
    /// The field's key, or a name such as `@country`.
    pub field: String,
    /// A part of the value, such as `given`.
    pub part: Option<String>,
    /// Words shown for particular values, in order.
    pub forms: Vec<(String, String)>,
    /// Shown when the value is missing or no form fits.
    pub fallback: Option<String>,
}

/// A chip that was not closed, or holds no key, with the character it begins at.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[error("the chip that begins at character {at} is not complete; write it as {{key}} or {{key|fallback}}")]
pub struct ChipError {
    /// Characters before the opening brace.
    pub at: usize,
}

/// Parses a text into words and chips.
///
/// # Errors
/// A brace that is opened and not closed, or a chip without a well-formed key.
///
/// ```
/// use lumbo_value::text::{parse, Piece};
/// assert_eq!(parse("Thanks, {name.given|there}.").unwrap().len(), 3);
/// assert_eq!(parse("{{literal").unwrap(), [Piece::Words("{literal".into())]);
/// assert!(parse("Hello {name").is_err());
/// ```
pub fn parse(text: &str) -> Result<Vec<Piece>, ChipError> {
    let mut pieces = Vec::new();
    let mut words = String::new();
    let mut rest = text;
    while let Some(open) = rest.find('{') {
        words.push_str(&rest[..open]);
        let inside = &rest[open + 1..];
        if let Some(after) = inside.strip_prefix('{') {
            words.push('{');
            rest = after;
            continue;
        }
        let error = ChipError { at: text[..text.len() - rest.len() + open].chars().count() };
        let (body, after) = inside.split_once('}').ok_or_else(|| error.clone())?;
        let chip = parse_chip(body).ok_or(error)?;
        if !words.is_empty() {
            pieces.push(Piece::Words(std::mem::take(&mut words)));
        }
        pieces.push(Piece::Chip(chip));
        rest = after;
    }
    words.push_str(rest);
    if !words.is_empty() {
        pieces.push(Piece::Words(words));
    }
    Ok(pieces)
}

fn parse_chip(body: &str) -> Option<Chip> {
    let (head, fallback) =
        body.split_once('|').map_or((body, None), |(head, fallback)| (head, Some(fallback.to_owned())));
    let (name, forms) = match head.split_once('?') {
        None => (head, Vec::new()),
        Some((name, forms)) => {
            let forms: Option<Vec<_>> = forms
                .split(';')
                .map(|form| form.split_once('=').map(|(value, word)| (value.trim().to_owned(), word.to_owned())))
                .collect();
            (name, forms?)
        }
    };
    let (field, part) = name.split_once('.').map_or((name, None), |(field, part)| (field, Some(part.to_owned())));
    let known = crate::id::is_key(field) || field.strip_prefix('@').is_some_and(crate::id::is_key);
    known.then(|| Chip { field: field.to_owned(), part, forms, fallback })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_chip_has_a_key_a_part_forms_and_a_fallback() {
        let pieces = parse("for {temperature?frozen=freezer space;chilled=cold space|space}").unwrap();
        let [Piece::Words(words), Piece::Chip(chip)] = pieces.as_slice() else { panic!("{pieces:?}") };
        assert_eq!(words, "for ");
        assert_eq!(chip.forms, [("frozen".into(), "freezer space".into()), ("chilled".into(), "cold space".into())]);
        assert_eq!(chip.fallback.as_deref(), Some("space"));
    }

    #[test]
    fn an_unfinished_chip_names_its_character() {
        for (text, at) in [("é {name", 2), ("a {} b", 2), ("{Name}", 0), ("x{a?b}", 1)] {
            assert_eq!(parse(text), Err(ChipError { at }), "{text}");
        }
    }

    #[test]
    fn a_text_falls_back_to_the_required_language() {
        let text = Text(BTreeMap::from([("de".into(), "Hallo".into()), ("en".into(), "Hello".into())]));
        assert_eq!(
            (text.get("de", "en"), text.get("fr", "en"), Text::default().get("en", "en")),
            ("Hallo", "Hello", "")
        );
    }
}
