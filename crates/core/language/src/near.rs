//! Small typos. The distance between two texts is looked at only where a sketch of each, their length and how often
//! they hold each letter, leaves it open: nearly every phrase is told apart by that.

use serde::Deserialize;
use strsim::damerau_levenshtein;

use super::HashSet;

/// Length and letters of a text.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Sketch {
    letters: usize,
    /// How often letters stand in it, those together that share the last five bits.
    held: [u8; 32],
}

impl Sketch {
    /// The sketch of a text.
    #[must_use]
    pub fn of(text: &str) -> Self {
        let mut sketch = Self { letters: 0, held: [0; 32] };
        for letter in text.chars() {
            sketch.letters += 1;
            let held = &mut sketch.held[(u32::from(letter) & 31) as usize];
            *held = held.saturating_add(1);
        }
        sketch
    }

    /// How many characters it has.
    #[must_use]
    pub fn letters(self) -> usize {
        self.letters
    }

    /// True where two texts may be within so many edits: each edit changes the length by one at most, and how often
    /// letters are held by two at most.
    fn may_be_within(self, other: Self, edits: usize) -> bool {
        let apart =
            || self.held.iter().zip(&other.held).map(|(one, other)| usize::from(one.abs_diff(*other))).sum::<usize>();
        self.letters.abs_diff(other.letters) <= edits && apart() <= 2 * edits
    }
}

/// True where two texts are within so many edits: letters put in, left out, changed, or swapped with the next.
pub fn within(one: &str, of_one: Sketch, other: &str, of_other: Sketch, edits: usize) -> bool {
    of_one.may_be_within(of_other, edits) && damerau_levenshtein(one, other) <= edits
}

/// Phrases that may be typed with small typos.
#[derive(Debug, Default, Deserialize)]
#[serde(from = "HashSet<String>")]
pub struct Phrases {
    exact: HashSet<String>,
    sketched: Vec<(Box<str>, Sketch)>,
}

impl From<HashSet<String>> for Phrases {
    fn from(exact: HashSet<String>) -> Self {
        let sketched = exact.iter().map(|phrase| (phrase.as_str().into(), Sketch::of(phrase))).collect();
        Self { exact, sketched }
    }
}

impl Phrases {
    /// True where the text is one of the phrases, or within one letter of it up to 7 letters and two from 8; nothing so
    /// short that it could be anything.
    #[must_use]
    pub fn has_near(&self, text: &str) -> bool {
        if self.exact.contains(text) {
            return true;
        }
        let sketch = Sketch::of(text);
        self.sketched.iter().any(|(phrase, of)| phrase_is_near(phrase, *of, text, sketch))
    }
}

/// Within one letter up to 7 letters, within two from 8; nothing shorter than 4.
pub fn phrase_is_near(phrase: &str, of_phrase: Sketch, said: &str, of_said: Sketch) -> bool {
    let allowed = if of_phrase.letters() >= 8 { 2 } else { 1 };
    of_phrase.letters() >= 4 && within(phrase, of_phrase, said, of_said, allowed)
}

#[cfg(test)]
mod tests {
    use proptest::prelude::*;

    use super::*;

    proptest! {
        #[test]
        fn a_sketch_never_hides_what_is_near(one in "[a-eé ]{0,12}", other in "[a-eé ]{0,12}", edits in 0_usize..4) {
            let found = within(&one, Sketch::of(&one), &other, Sketch::of(&other), edits);
            prop_assert_eq!(found, damerau_levenshtein(&one, &other) <= edits);
        }
    }

    #[test]
    fn short_phrases_have_no_typos() {
        let phrases = Phrases::from(
            ["why", "what for", "what is that for"].map(str::to_owned).into_iter().collect::<HashSet<String>>(),
        );
        for (text, expected) in [
            ("why", true),
            ("wyh", false),
            ("what fro", true),
            ("waht is taht for", true),
            ("what is it", false),
            ("", false),
        ] {
            assert_eq!(phrases.has_near(text), expected, "{text}");
        }
    }
}
