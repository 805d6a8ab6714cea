//! Listed phrases, found in the tokens of a reply.

use serde::{Deserialize, Deserializer};

use super::HashMap;
use super::scan::Scan;

/// Phrases of one or more tokens, each with what it means.
///
/// A reply is looked up in many lexicons token by token, and nearly every token begins no phrase: a bit for the ends
/// and the length of each first token says so before anything is hashed.
#[derive(Debug, Clone)]
pub struct Lexicon<T> {
    by_first: HashMap<Box<str>, Vec<Phrase<T>>>,
    begins: [u64; 8],
}

/// Which bit stands for a token.
fn bit(token: &str) -> usize {
    let bytes = token.as_bytes();
    let (first, last) = (bytes.first().copied().unwrap_or_default(), bytes.last().copied().unwrap_or_default());
    (usize::from(first) * 31 + usize::from(last) * 7 + bytes.len()) & 511
}

/// The tokens behind the first, and what the phrase means.
type Phrase<T> = (Box<[Box<str>]>, T);

impl<T> Default for Lexicon<T> {
    fn default() -> Self {
        Self { by_first: HashMap::default(), begins: [0; 8] }
    }
}

impl<T: Copy> Lexicon<T> {
    /// Makes a lexicon of phrases. Of phrases that begin alike, the longest is found.
    pub fn new<'a>(phrases: impl IntoIterator<Item = (&'a str, T)>) -> Self {
        let mut out = Self::default();
        for (phrase, meaning) in phrases {
            out.add(phrase, meaning);
        }
        out
    }

    /// Adds a phrase; one that is there keeps its meaning.
    pub fn add(&mut self, phrase: &str, meaning: T) {
        // "Pas d'" ends with an article that is one token only before a word.
        let before_word = phrase.ends_with('\'').then(|| format!("{phrase}word"));
        let scan = Scan::new(before_word.as_deref().unwrap_or(phrase));
        let length = scan.tokens.len() - usize::from(before_word.is_some() && scan.tokens.len() > 1);
        let mut tokens = scan.tokens[..length].iter().map(|token| Box::<str>::from(&*token.folded));
        let Some(first) = tokens.next() else { return };
        let rest: Box<[Box<str>]> = tokens.collect();
        let place = bit(&first);
        self.begins[place >> 6] |= 1 << (place & 63);
        let listed = self.by_first.entry(first).or_default();
        if !listed.iter().any(|(known, _)| *known == rest) {
            let place = listed.partition_point(|(known, _)| known.len() >= rest.len());
            listed.insert(place, (rest, meaning));
        }
    }

    /// The longest phrase that begins at a token: what it means, and the token after it.
    pub fn at(&self, scan: &Scan<'_>, index: usize) -> Option<(T, usize)> {
        let first = scan.tokens.get(index)?;
        let place = bit(&first.folded);
        if self.begins[place >> 6] >> (place & 63) & 1 == 0 {
            return None;
        }
        let listed = self.by_first.get(&*first.folded)?;
        listed.iter().find_map(|(rest, meaning)| {
            let there = rest
                .iter()
                .enumerate()
                .all(|(step, word)| scan.tokens.get(index + 1 + step).is_some_and(|token| *token.folded == **word));
            there.then_some((*meaning, index + 1 + rest.len()))
        })
    }

    /// The phrase that ends right before a token: what it means, and its first token. Looks back at most six tokens.
    pub fn before(&self, scan: &Scan<'_>, index: usize) -> Option<(T, usize)> {
        (1..=6.min(index)).rev().find_map(|back| {
            let start = index - back;
            let (meaning, end) = self.at(scan, start)?;
            (end == index).then_some((meaning, start))
        })
    }
}

impl<'de> Deserialize<'de> for Lexicon<()> {
    fn deserialize<D: Deserializer<'de>>(deserializer: D) -> Result<Self, D::Error> {
        let phrases = Vec::<String>::deserialize(deserializer)?;
        Ok(Self::new(phrases.iter().map(|phrase| (phrase.as_str(), ()))))
    }
}

/// A list of lists, each phrase meaning the place of its list, from 0.
impl<'de> Deserialize<'de> for Lexicon<u8> {
    fn deserialize<D: Deserializer<'de>>(deserializer: D) -> Result<Self, D::Error> {
        let groups = Vec::<Vec<String>>::deserialize(deserializer)?;
        let numbered = groups
            .iter()
            .zip(0_u8..)
            .flat_map(|(group, place)| group.iter().map(move |phrase| (phrase.as_str(), place)));
        Ok(Self::new(numbered))
    }
}

/// Names of months or days of the week, each meaning its place, and slips of the keyboard in them: a letter left out,
/// struck twice, or two that changed places. A name shorter than seven letters is not guessed, nor one that would begin
/// with another letter or lose its last.
pub(super) fn with_slips<'de, D: Deserializer<'de>>(deserializer: D) -> Result<Lexicon<u8>, D::Error> {
    let groups = Vec::<Vec<String>>::deserialize(deserializer)?;
    let numbered = || {
        groups.iter().zip(0_u8..).flat_map(|(group, place)| group.iter().map(move |phrase| (phrase.as_str(), place)))
    };
    let mut out = Lexicon::new(numbered());
    for (name, place) in numbered() {
        slips(name).iter().for_each(|slip| out.add(slip, place));
    }
    Ok(out)
}

fn slips(name: &str) -> Vec<String> {
    let letters: Vec<char> = name.chars().collect();
    if letters.len() < 7 || letters.iter().any(|letter| !letter.is_alphabetic()) {
        return Vec::new();
    }
    let mut out = Vec::new();
    for at in 1..letters.len() - 1 {
        let mut without = letters.clone();
        without.remove(at);
        let mut swapped = letters.clone();
        swapped.swap(at, at + 1);
        let mut doubled = letters.clone();
        doubled.insert(at, letters[at]);
        out.extend([without, swapped, doubled].map(|letters| letters.into_iter().collect()));
    }
    out
}

/// A map from phrase to number.
impl<'de> Deserialize<'de> for Lexicon<u64> {
    fn deserialize<D: Deserializer<'de>>(deserializer: D) -> Result<Self, D::Error> {
        let map = HashMap::<String, u64>::deserialize(deserializer)?;
        Ok(Self::new(map.iter().map(|(phrase, number)| (phrase.as_str(), *number))))
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_longest_phrase_that_begins_at_a_token_is_found() {
        let lexicon = Lexicon::new([("the end", 1), ("the end of", 2), ("n/a", 3)]);
        let scan = Scan::new("at the end of N/A");
        assert_eq!(lexicon.at(&scan, 1), Some((2, 4)));
        assert_eq!(lexicon.at(&scan, 4), Some((3, 7)));
        assert_eq!(lexicon.at(&scan, 0), None);
        assert_eq!(lexicon.before(&scan, 4), Some((2, 1)));
    }

    #[test]
    fn a_long_name_is_known_with_one_slip_and_a_short_one_is_not() {
        let json = r#"[["january", "jan"], ["june"], ["february"]]"#;
        let lexicon = with_slips(&mut serde_json::Deserializer::from_str(json)).unwrap();
        let place = |word: &str| lexicon.at(&Scan::new(word), 0).map(|(place, _)| place);
        for (word, expected) in [
            ("january", Some(0)),
            ("janury", Some(0)),
            ("janaury", Some(0)),
            ("jannuary", Some(0)),
            ("feburary", Some(2)),
            ("febuary", Some(2)),
            ("anuary", None),
            ("januar", None),
            ("jun", None),
            ("jnue", None),
            ("jan", Some(0)),
        ] {
            assert_eq!(place(word), expected, "{word}");
        }
    }
}
