//! A person's name: the words around it left out, given and family name split.

use super::{Found, Heard};
use crate::value::{PersonName, Value};

const CUES: [&str; 22] = [
    "my name is ",
    "my name's ",
    "the name is ",
    "name is ",
    "i am called ",
    "i'm called ",
    "they call me ",
    "i am ",
    "i'm ",
    "im ",
    "it's ",
    "it is ",
    "this is ",
    "call me ",
    "ich heiße ",
    "ich bin ",
    "mein name ist ",
    "je m'appelle ",
    "je suis ",
    "me llamo ",
    "mijn naam is ",
    "nazywam się ",
];

const GREETINGS: [&str; 9] = ["hello, ", "hello ", "hi, ", "hi ", "hey ", "good morning, ", "hallo, ", "hallo ", "bonjour, "];

const ENDINGS: [&str; 9] = [" here", " speaking", " by the way", ", thanks", " thanks", ", thank you", ", please", ", hello", ", hi"];

/// Words that belong to the family name that follows them.
const PARTICLES: [&str; 30] = [
    "van", "von", "vom", "zu", "zum", "zur", "de", "der", "den", "het", "'t", "ter", "ten", "te", "del", "della", "di", "da", "dos", "das", "do", "du", "la",
    "le", "al", "el", "bin", "ibn", "af", "av",
];

/// Common words that show a reply to be a sentence and no name.
const SENTENCE: [&str; 34] = [
    "is",
    "are",
    "was",
    "we",
    "you",
    "the",
    "a",
    "an",
    "need",
    "want",
    "what",
    "why",
    "how",
    "who",
    "please",
    "my",
    "your",
    "with",
    "for",
    "to",
    "pallets",
    "have",
    "can",
    "do",
    "don't",
    "not",
    "and",
    "about",
    "looking",
    "interested",
    "from",
    "company",
    "yes",
    "no",
];

pub(super) fn read(raw: &str, earlier: Option<&Value>) -> Found {
    let trimmed = raw.trim();
    let mut start = 0;
    let folded = lowered(trimmed);
    let mut folded_start = 0;
    for _ in 0..2 {
        let rest = &trimmed[start..];
        let lower = &folded[folded_start..];
        if let Some(cue) = GREETINGS.iter().chain(&CUES).find(|cue| lower.starts_with(**cue)) {
            start += rest.char_indices().nth(cue.chars().count()).map_or(rest.len(), |(at, _)| at);
            folded_start += cue.len();
        }
    }
    let mut name = trimmed[start..].trim();
    for ending in ENDINGS {
        // All endings are plain letters, so a name that lacks the last of them is not looked at further.
        if name.as_bytes().last().is_some_and(|last| last.eq_ignore_ascii_case(ending.as_bytes().last().unwrap_or(&0))) && lowered(name).ends_with(ending) {
            let keep = name.chars().count() - ending.chars().count();
            name = name[..name.char_indices().nth(keep).map_or(name.len(), |(at, _)| at)].trim();
        }
    }
    let name = name.trim_end_matches(['!', ',', ';', '.']).trim();
    if !is_name(name) {
        return Found::Nothing;
    }
    let at = raw.find(name).unwrap_or(0);
    let mut person = split(name);
    // A single word after a given name alone is the family name that was asked for.
    if let Some(Value::Name(before)) = earlier
        && before.family.is_empty()
        && !person.full.contains(' ')
    {
        person = PersonName { given: before.full.clone(), family: person.full.clone(), full: format!("{} {}", before.full, person.full) };
    }
    Found::Value(Value::Name(person), Heard::at(raw, at, at + name.len()))
}

/// Lower case with straight apostrophes, one character for one, so that positions stay the same.
fn lowered(text: &str) -> String {
    text.chars().map(|c| if c == '’' { '\'' } else { c.to_lowercase().next().unwrap_or(c) }).collect()
}

fn is_name(name: &str) -> bool {
    let words: Vec<&str> = name.split_whitespace().collect();
    let letters = name.chars().filter(|c| c.is_alphabetic()).count();
    let allowed = name.chars().all(|c| c.is_alphabetic() || c.is_whitespace() || matches!(c, '\'' | '’' | '-' | '.' | ',' | '·') || is_mark(c));
    (1..=6).contains(&words.len())
        && letters >= 2
        && name.chars().count() <= 80
        && allowed
        && !words.iter().any(|word| is_sentence_word(word))
        && words.iter().all(|word| word.chars().count() <= 30)
}

fn is_sentence_word(word: &str) -> bool {
    let bare = word.trim_matches(['.', ',']);
    SENTENCE.iter().any(|known| known.eq_ignore_ascii_case(bare)) || bare.contains('’') && SENTENCE.contains(&lowered(bare).as_str())
}

/// Combining marks, which names in many scripts are written with.
fn is_mark(c: char) -> bool {
    matches!(c, '\u{300}'..='\u{36f}' | '\u{64b}'..='\u{652}' | '\u{93a}'..='\u{94f}' | '\u{200c}' | '\u{200d}')
}

/// Splits a name: the family name is the last word with the particles before it; "Ruiz, Ana" is family first.
#[must_use]
pub fn split(name: &str) -> PersonName {
    let tidy = name.split_whitespace().collect::<Vec<_>>().join(" ");
    if let Some((family, given)) = tidy.split_once(',') {
        let (given, family) = (given.trim(), family.trim());
        if !given.is_empty() && !family.is_empty() && !given.contains(',') {
            return PersonName { given: given.into(), family: family.into(), full: format!("{given} {family}") };
        }
    }
    let full = tidy.replace(',', "");
    let words: Vec<&str> = full.split(' ').collect();
    if words.len() < 2 {
        return PersonName { given: full.clone(), family: String::new(), full };
    }
    let mut first_of_family = words.len() - 1;
    while first_of_family > 1 && PARTICLES.contains(&words[first_of_family - 1].to_lowercase().as_str()) {
        first_of_family -= 1;
    }
    PersonName { given: words[..first_of_family].join(" "), family: words[first_of_family..].join(" "), full }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn check(reply: &str, expected: Option<(&str, &str)>) {
        let name = match read(reply, None) {
            Found::Value(Value::Name(name), heard) => {
                assert!(reply.contains(&heard.text), "{reply}");
                Some(name)
            }
            _ => None,
        };
        assert_eq!(name.as_ref().map(|name| (name.given.as_str(), name.family.as_str())), expected, "{reply}");
    }

    #[test]
    fn a_name_is_taken_out_of_the_words_around_it_and_split() {
        check("Pia Lindqvist", Some(("Pia", "Lindqvist")));
        check("My name is Ana María Ruiz.", Some(("Ana María", "Ruiz")));
        check("Hi, I’m Renske van der Vaal, thanks", Some(("Renske", "van der Vaal")));
        check("Ruiz, Ana", Some(("Ana", "Ruiz")));
        check("Tom here", Some(("Tom", "")));
        check("Siobhán O’Neill-Byrne", Some(("Siobhán", "O’Neill-Byrne")));
        check("أحمد علي", Some(("أحمد", "علي")));
        check("de la Cruz", Some(("de", "la Cruz")));
    }

    #[test]
    fn a_sentence_a_number_or_markup_is_no_name() {
        for reply in ["what do you want that for?", "340", "<b>Pia</b>", "=1+1", "😀", "x", "we need 40 pallets", "pia@harrow.example", "no"] {
            check(reply, None);
        }
    }

    #[test]
    fn a_family_name_completes_a_given_name_heard_before() {
        let earlier = Value::Name(split("Pia"));
        let Found::Value(Value::Name(name), _) = read("Lindqvist", Some(&earlier)) else { panic!() };
        assert_eq!(name, PersonName { given: "Pia".into(), family: "Lindqvist".into(), full: "Pia Lindqvist".into() });
    }
}
