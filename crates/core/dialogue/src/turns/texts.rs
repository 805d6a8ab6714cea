//! Every text that a prospect reads, wherever it stands.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use crate::file::turn::{Ending, Follow, Part, Wording};
use crate::file::{Arm, Dialogue, Field, Rule, Text, Then, Turn};
use lumbo_value::text::{Piece, parse};

/// The texts of a turn, without those of its arms.
pub fn turn_texts(turn: &mut Turn) -> Vec<&mut Text> {
    let mut out = Vec::new();
    match turn {
        Turn::Tell(tell) => out.extend(parts_texts(&mut tell.say)),
        Turn::Ask(ask) => {
            out.extend(wording_texts(&mut ask.say));
            out.extend(ask.short.iter_mut().chain(ask.why.iter_mut()).chain(ask.skip.iter_mut()));
            out.extend(ask.messages.iter_mut().flat_map(|message| &mut message.say));
            out.extend(ask.rules.iter_mut().filter_map(rule_text));
        }
        Turn::AskTogether(form) => {
            out.extend(wording_texts(&mut form.say));
            for field in &mut form.fields {
                out.extend(field.label.iter_mut());
                out.extend(field.rules.iter_mut().filter_map(rule_text));
            }
        }
        Turn::OpenAsk(open) => out.extend(wording_texts(&mut open.say)),
        Turn::ReadBack(back) => out.extend(wording_texts(&mut back.say)),
        Turn::TakeQuestions(take) => {
            out.extend(wording_texts(&mut take.say));
            out.extend([&mut take.no_answer, &mut take.done]);
        }
        Turn::Consult(consult) => out.extend(wording_texts(&mut consult.say)),
        Turn::OfferTimes(offer) => out.extend(wording_texts(&mut offer.say)),
        Turn::BringInRep(bring) => out.extend(wording_texts(&mut bring.say)),
        Turn::Close(close) => {
            out.extend(close.say.iter_mut().flat_map(wording_texts));
            out.extend(close.link.iter_mut().map(|link| &mut link.label));
        }
        Turn::Fork(_) | Turn::WorkOut(_) | Turn::FileLead(_) | Turn::Visit(_) => {}
    }
    out
}

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

fn wording_texts(wording: &mut Wording) -> impl Iterator<Item = &mut Text> {
    std::iter::once(&mut wording.text).chain(&mut wording.or)
}

fn rule_text(rule: &mut Rule) -> Option<&mut Text> {
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

/// The longest text of a turn, measured.
#[must_use]
pub fn longest(turn: &Turn, dialogue: &Dialogue) -> Option<Measure> {
    let mut said = match turn {
        Turn::Ask(ask) => {
            Turn::Tell(crate::file::turn::Tell { id: String::new(), say: vec![Part::Line(ask.say.clone())] })
        }
        Turn::Tell(tell) => Turn::Tell(tell.clone()),
        Turn::Close(close) => Turn::Tell(crate::file::turn::Tell {
            id: String::new(),
            say: close.say.iter().cloned().map(Part::Line).collect(),
        }),
        _ => return None,
    };
    turn_texts(&mut said)
        .into_iter()
        .map(|text| measure(text.get(&dialogue.language, &dialogue.language)))
        .max_by_key(|measure| measure.characters)
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
