//! Saved replies: what reps write again and again, with chips for what is known of a lead. A chip is written as in a
//! dialogue's texts; a rep sees the mail as it will leave and may change every word of it.

use std::collections::BTreeMap;

use lumbo_value::text::{Chip, Piece, parse};
use serde_json::Value as Json;

use crate::{Identity, RecordField};

/// Longest subject, characters.
pub const SUBJECT_LIMIT: usize = 150;
/// Longest text of a mail, characters.
pub const BODY_LIMIT: usize = 10_000;
/// Longest name of a saved reply, characters.
pub const REPLY_NAME_LIMIT: usize = 60;

/// A text with its chips filled, and the chips that nothing is known for and that have no words for it.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Filled {
    /// The text; an empty chip leaves nothing behind, not even its spaces twice.
    pub text: String,
    /// What is missing, as it is written in the chip.
    pub missing: Vec<String>,
}

/// Fills the chips of a text. `known` is by the chip's name, a part of a value behind a full stop: `name.given`.
///
/// # Errors
/// A sentence, where a chip is not complete.
///
/// ```
/// use lumbo_records::{fill, Filled};
/// let known = [("name.given".to_owned(), "Maud".to_owned())].into();
/// let filled = fill("Dear {name.given|all}, about {pallets} pallets", &known).unwrap();
/// assert_eq!(filled, Filled { text: "Dear Maud, about pallets".into(), missing: vec!["pallets".into()] });
/// assert!(fill("Dear {name", &known).is_err());
/// ```
pub fn fill(text: &str, known: &BTreeMap<String, String>) -> Result<Filled, String> {
    let pieces = parse(text).map_err(|error| format!("{error}."))?;
    let (mut out, mut missing) = (String::new(), Vec::new());
    for piece in pieces {
        match piece {
            Piece::Words(words) => {
                // A chip that says nothing stands between two spaces, of which one is left.
                let twice = out.ends_with(' ') && words.starts_with(' ');
                let starts = out.is_empty() || out.ends_with('\n');
                out.push_str(if twice || (starts && !missing.is_empty()) {
                    words.trim_start_matches(' ')
                } else {
                    &words
                });
            }
            Piece::Chip(chip) => match shown(&chip, known) {
                Some(words) => out.push_str(words),
                None => missing.push(named(&chip)),
            },
        }
    }
    Ok(Filled { text: out, missing })
}

/// What chips can show of a lead: every field that it has a value for, by its key and by the parts of a name; who they
/// are and what they want, whatever the fields are called; and `me` and `me.given`, who writes.
#[must_use]
pub fn known_of(fields: &[RecordField], who: &Identity, wants: &str, me: &str) -> BTreeMap<String, String> {
    let mut out = BTreeMap::new();
    for field in fields {
        out.insert(field.key.clone(), field.shown.clone());
        if let Json::Object(parts) = &field.value {
            let texts = parts.iter().filter_map(|(part, value)| Some((part, value.as_str()?)));
            out.extend(texts.map(|(part, text)| (format!("{}.{part}", field.key), text.to_owned())));
        }
    }
    let given = who.name.as_deref().and_then(|name| name.split_whitespace().next());
    let me_given = me.split_whitespace().next();
    for (key, value) in [
        ("name", who.name.as_deref()),
        ("name.given", given),
        ("email", who.email.as_deref()),
        ("phone", who.phone.as_deref()),
        ("company", who.company.as_deref()),
        ("wants", Some(wants)),
        ("me", Some(me)),
        ("me.given", me_given),
    ] {
        if let Some(value) = value.filter(|value| !value.is_empty()) {
            out.entry(key.to_owned()).or_insert_with(|| value.to_owned());
        }
    }
    out
}

fn named(chip: &Chip) -> String {
    chip.part.as_ref().map_or_else(|| chip.field.clone(), |part| format!("{}.{part}", chip.field))
}

/// What a chip shows: the word for its value, else the value, else its words for where nothing is known.
fn shown<'a>(chip: &'a Chip, known: &'a BTreeMap<String, String>) -> Option<&'a str> {
    let value = known.get(&named(chip)).map(String::as_str).filter(|value| !value.is_empty());
    let form = value.and_then(|value| chip.forms.iter().find(|(of, _)| of == value)).map(|(_, word)| word.as_str());
    let plain = value.filter(|_| chip.forms.is_empty());
    form.or(plain).or(chip.fallback.as_deref())
}

/// A saved reply as it is to be kept, trimmed.
///
/// # Errors
/// A sentence for people, where it cannot be kept.
pub fn checked_reply(name: &str, subject: &str, body: &str) -> Result<(String, String, String), String> {
    let (name, subject, body) = (name.trim(), subject.trim(), body.trim());
    if name.is_empty() || name.chars().count() > REPLY_NAME_LIMIT {
        return Err(format!("A saved reply needs a name of 1 to {REPLY_NAME_LIMIT} characters."));
    }
    let (subject, body) = checked_mail(subject, body)?;
    for text in [&subject, &body] {
        parse(text).map_err(|error| format!("{error}."))?;
    }
    Ok((name.to_owned(), subject, body))
}

/// A mail as it is to be sent, trimmed.
///
/// # Errors
/// A sentence for people, where it cannot be sent.
pub fn checked_mail(subject: &str, body: &str) -> Result<(String, String), String> {
    let (subject, body) = (subject.trim(), body.trim());
    if subject.is_empty() || subject.chars().count() > SUBJECT_LIMIT || subject.chars().any(char::is_control) {
        return Err(format!("A subject has 1 to {SUBJECT_LIMIT} characters, on one line."));
    }
    if body.is_empty() || body.chars().count() > BODY_LIMIT {
        return Err(format!("A mail has 1 to {BODY_LIMIT} characters."));
    }
    if body.chars().any(|letter| letter.is_control() && letter != '\n') {
        return Err("A mail holds letters and line breaks only.".to_owned());
    }
    Ok((subject.to_owned(), body.to_owned()))
}

#[cfg(test)]
mod tests {
    use super::*;

    fn known() -> BTreeMap<String, String> {
        [("name.given", "Maud"), ("company", "Ekström Berries"), ("temperature", "frozen"), ("empty", "")]
            .map(|(key, value)| (key.to_owned(), value.to_owned()))
            .into()
    }

    #[test]
    fn chips_show_what_is_known_their_word_for_it_or_their_words_for_nothing() {
        let text = |written: &str| fill(written, &known()).unwrap();
        assert_eq!(
            text("Dear {name.given|all},\n\nyour {temperature?frozen=freezer;chilled=fridge|store} at {company}").text,
            "Dear Maud,\n\nyour freezer at Ekström Berries"
        );
        assert_eq!(text("{temperature?chilled=fridge|store}").text, "store", "no word for it");
        assert_eq!(text("{empty|nothing}").text, "nothing");
        assert_eq!(text("{{braces} and {zone|}.").text, "{braces} and .");
        let gone = text("Hello {first} you,\n{second} there");
        assert_eq!(
            (gone.text.as_str(), gone.missing),
            ("Hello you,\nthere", vec!["first".to_owned(), "second".to_owned()])
        );
        assert!(fill("{", &known()).unwrap_err().contains("character 0"));
    }

    #[test]
    fn a_chip_can_show_every_field_of_a_lead_and_who_they_are() {
        let field = |key: &str, value: Json, shown: &str| -> RecordField {
            serde_json::from_value(serde_json::json!({"id": key, "key": key, "label": key, "type": "text",
                "record": "lead", "value": value, "shown": shown}))
            .unwrap()
        };
        let fields = [
            field("full_name", serde_json::json!({"given": "Maud", "full": "Maud Ekström"}), "Maud Ekström"),
            field("pallets", serde_json::json!("340"), "340 pallets"),
        ];
        let who = Identity { name: Some("Maud Ekström".into()), company: None, ..Identity::default() };
        let known = known_of(&fields, &who, "", "Priya Nand");
        let text = |written: &str| fill(written, &known).unwrap().text;
        assert_eq!(text("{full_name.given} and {name.given}, {pallets}"), "Maud and Maud, 340 pallets");
        assert_eq!(
            text("{me}, {me.given}; {company|your firm}; {wants|nothing}"),
            "Priya Nand, Priya; your firm; nothing"
        );
    }

    #[test]
    fn a_reply_is_kept_where_it_can_be_sent() {
        let kept = checked_reply(" Price ", " Your {company|price} ", "Hello\n").unwrap();
        assert_eq!(kept, ("Price".into(), "Your {company|price}".into(), "Hello".into()));
        for (name, subject, body) in [
            ("", "a", "b"),
            ("a", "", "b"),
            ("a", "b", " "),
            ("a", "b\nBcc: x@example.com", "c"),
            ("a", "b", "c\u{0}"),
            ("a", "{open", "c"),
            ("a", "b", "{Not a key}"),
        ] {
            assert!(checked_reply(name, subject, body).is_err(), "{name} {subject} {body}");
        }
        assert!(checked_mail("a", &"x".repeat(BODY_LIMIT)).is_ok());
        assert!(checked_mail("a", &"x".repeat(BODY_LIMIT + 1)).is_err());
    }
}
