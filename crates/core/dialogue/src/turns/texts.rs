//! Every text that a prospect reads, wherever it stands.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use crate::file::{Arm, Dialogue, Ending, Field, Follow, Part, Rule, Text, Then, Turn, Wording};
use lumbo_value::text::{Piece, parse};

/// The texts of parts of a Tell, of side-talk or of an offer.
pub fn parts_texts(parts: &mut [Part]) -> Vec<&mut Text> {
    let mut out = Vec::new();
    for part in parts {
        match part {
            Part::Line(wording) => out.extend(wording_texts(wording)),
            Part::Picture(picture) => out.push(&mut picture.alt),
            Part::Document(document) => out.push(&mut document.label),
            Part::Link(link) => out.push(&mut link.label),
            Part::Beside(parts) => out.extend(parts_texts(parts)),
        }
    }
    out
}

pub(crate) fn wording_texts(wording: &mut Wording) -> impl Iterator<Item = &mut Text> {
    std::iter::once(&mut wording.text).chain(&mut wording.or)
}

pub(crate) fn rule_text(rule: &mut Rule) -> Option<&mut Text> {
    if let Rule::Formula { message, .. } = rule { Some(message) } else { None }
}

/// The texts of an arm itself: the last line where it ends the conversation.
pub fn arm_texts(arm: &mut Arm) -> Vec<&mut Text> {
    match &mut arm.then {
        Then::Close(Ending { say: Some(say), .. }) => vec![say],
        _ => Vec::new(),
    }
}

/// The text of what follows a section.
pub fn follow_texts(then: &mut Follow) -> Vec<&mut Text> {
    match then {
        Follow::Close(Ending { say: Some(say), .. }) => vec![say],
        _ => Vec::new(),
    }
}

/// The texts of a field: its options and the messages of its rules.
pub fn field_texts(field: &mut Field) -> Vec<&mut Text> {
    let mut out = Vec::new();
    for option in &mut field.options {
        out.push(&mut option.label);
        out.extend(option.hint.iter_mut());
    }
    out.extend(field.rules.iter_mut().filter_map(rule_text));
    out
}

/// Characters that fit on one short line of a bubble on a phone, 360 px wide.
pub const SHORT_LINE: usize = 42;
/// Characters that a chip is taken to show.
const CHIP: usize = 10;

/// How long a text is, and how easily it reads.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Measure {
    /// Characters.
    pub characters: u32,
    /// Short lines it fills in a bubble on a phone.
    pub lines: u32,
    /// LIX: words per sentence plus the share of words longer than six letters in hundredths, rounded. Under 30 reads
    /// very easily, over 50 hard. The same in every language (C. H. Björnsson, Läsbarhet, 1968).
    pub lix: u32,
}

/// Measures words with their chips.
#[must_use]
pub fn measure(words: &str) -> Measure {
    let mut plain = String::new();
    match parse(words) {
        Ok(pieces) => {
            for piece in pieces {
                match piece {
                    Piece::Words(words) => plain.push_str(&words),
                    Piece::Chip(chip) => {
                        plain.push_str(&"x".repeat(chip.fallback.map_or(CHIP, |words| words.chars().count().max(4))));
                    }
                }
            }
        }
        Err(_) => plain.push_str(words),
    }
    let characters = plain.chars().count();
    let lines: usize = plain.split('\n').map(|line| line.chars().count().div_ceil(SHORT_LINE).max(1)).sum();
    let count = |n: usize| u32::try_from(n).unwrap_or(u32::MAX);
    Measure { characters: count(characters), lines: if plain.is_empty() { 0 } else { count(lines) }, lix: lix(&plain) }
}

/// LIX, rounded half up: words / sentences + 100 · words of more than six letters / words. A sentence ends with a full
/// stop, colon, question or exclamation mark.
fn lix(text: &str) -> u32 {
    let words: Vec<&str> = text
        .split(|c: char| !c.is_alphanumeric() && c != '\'' && c != '’' && c != '-')
        .filter(|word| !word.is_empty())
        .collect();
    if words.is_empty() {
        return 0;
    }
    let long = words.iter().filter(|word| word.chars().filter(|c| c.is_alphabetic()).count() > 6).count();
    let mut sentences = 0;
    let mut inside = false;
    for c in text.chars() {
        match c {
            '.' | ':' | '?' | '!' | '…' if inside => {
                sentences += 1;
                inside = false;
            }
            c if c.is_alphanumeric() => inside = true,
            _ => {}
        }
    }
    sentences += usize::from(inside);
    let (words, sentences) = (words.len(), sentences.max(1));
    u32::try_from((2 * (words * words + 100 * long * sentences) + words * sentences) / (2 * words * sentences))
        .unwrap_or(u32::MAX)
}

/// The longest text that a turn says, measured.
#[must_use]
pub fn longest(turn: &Turn, dialogue: &Dialogue) -> Option<Measure> {
    turn.said()
        .into_iter()
        .map(|text| measure(text.get(&dialogue.language, &dialogue.language)))
        .max_by_key(|measure| measure.characters)
}

/// The texts of parts, to read them.
#[must_use]
pub fn parts_said(parts: &[Part]) -> Vec<&Text> {
    let mut out = Vec::new();
    for part in parts {
        match part {
            Part::Line(wording) => out.extend(std::iter::once(&wording.text).chain(&wording.or)),
            Part::Picture(picture) => out.push(&picture.alt),
            Part::Document(document) => out.push(&document.label),
            Part::Link(link) => out.push(&link.label),
            Part::Beside(parts) => out.extend(parts_said(parts)),
        }
    }
    out
}

/// Hashes of pictures and documents that parts show.
#[must_use]
pub fn media_of(parts: &[Part]) -> Vec<&str> {
    let mut out = Vec::new();
    for part in parts {
        match part {
            Part::Picture(picture) => out.push(picture.media.as_str()),
            Part::Document(document) => out.push(document.media.as_str()),
            Part::Beside(parts) => out.extend(media_of(parts)),
            Part::Line(_) | Part::Link(_) => {}
        }
    }
    out
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn lix_is_words_per_sentence_plus_the_share_of_long_words() {
        // Worked by hand from the definition: 8 words, 2 sentences, 2 words of more than six letters: 4 + 25.
        assert_eq!(measure("We store pallets. How many of yours, roughly?").lix, 29);
        assert_eq!(measure("").lix, 0);
        assert_eq!(measure("Yes").lix, 1);
    }

    #[test]
    fn a_long_text_fills_lines_as_a_phone_shows_it() {
        assert_eq!(measure(&"a".repeat(SHORT_LINE)).lines, 1);
        assert_eq!(measure(&"a".repeat(SHORT_LINE + 1)).lines, 2);
        assert_eq!(measure("one\ntwo").lines, 2);
        assert_eq!(measure("{name.given|there}").characters, 5);
    }
}
