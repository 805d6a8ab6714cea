//! Matching a typed reply to options: label, key, other words, position, small typos.

use strsim::damerau_levenshtein;

use crate::file::Choice;
use crate::language::fold;

/// An option folded for comparison.
#[derive(Debug, Clone)]
pub struct Option_ {
    /// Kept as the value.
    pub key: String,
    /// What the prospect reads.
    pub label: String,
    folded_label: String,
    folded_key: String,
    also: Vec<String>,
}

impl Option_ {
    pub(super) fn new(option: &Choice, language: &str, required_language: &str) -> Self {
        let label = option.label.get(language, required_language).to_owned();
        Self {
            key: option.key.clone(),
            folded_label: fold(&label),
            folded_key: fold(&option.key.replace(['_', '-'], " ")),
            label,
            also: option.also.iter().map(|word| fold(word)).collect(),
        }
    }

    pub(super) fn plain(key: &str, label: &str) -> Self {
        Self { key: key.to_owned(), label: label.to_owned(), folded_label: fold(label), folded_key: key.to_owned(), also: Vec::new() }
    }

    /// True where the label or any other word is itself a number, so that "2" cannot mean a position.
    pub(super) fn is_number(&self) -> bool {
        std::iter::once(&self.folded_label).chain(&self.also).any(|word| !word.is_empty() && word.parse::<f64>().is_ok())
    }

    fn words(&self) -> impl Iterator<Item = &str> {
        [self.folded_label.as_str(), self.folded_key.as_str()].into_iter().chain(self.also.iter().map(String::as_str)).filter(|word| !word.is_empty())
    }
}

pub(super) enum Match {
    One(String),
    Tie(Vec<String>),
    None,
}

/// Finds the option that a folded reply names. The first step that finds any decides; several found there are a tie.
pub(super) fn matching(options: &[Option_], folded: &str, positions: bool, typos: bool) -> Match {
    if folded.is_empty() {
        return Match::None;
    }
    let steps: [&dyn Fn(&Option_) -> bool; 3] = [&|o| o.folded_label == folded, &|o| o.folded_key == folded, &|o| o.also.iter().any(|word| word == folded)];
    for step in steps {
        if let Some(found) = pick(options.iter().filter(|option| step(option))) {
            return found;
        }
    }
    if positions
        && let Some(index) = position(folded, options.len())
        && let Some(option) = options.get(index)
    {
        return Match::One(option.key.clone());
    }
    if !typos || negated(folded) {
        return Match::None;
    }
    // Part of a sentence ("it has to be frozen"): the words of exactly one option stand in it, whole.
    if let Some(found) = pick(options.iter().filter(|option| option.words().any(|word| word.chars().count() >= 3 && has_words(folded, word)))) {
        return longest(options, folded, found);
    }
    let allowed = if folded.chars().count() >= 8 { 2 } else { 1 };
    if folded.chars().count() < 3 || folded.len() > 200 {
        return Match::None;
    }
    let near = options.iter().filter(|option| {
        option.words().any(|word| word.chars().count() >= 3 && word.len().abs_diff(folded.len()) <= 8 && damerau_levenshtein(word, folded) <= allowed)
    });
    pick(near).unwrap_or(Match::None)
}

fn pick<'a>(found: impl Iterator<Item = &'a Option_>) -> Option<Match> {
    let keys: Vec<String> = found.map(|option| option.key.clone()).collect();
    match keys.len() {
        0 => None,
        1 => keys.into_iter().next().map(Match::One),
        _ => Some(Match::Tie(keys)),
    }
}

/// "Not chilled" names the option "Not chilled", though "Chilled" stands in it too: of options whose words contain each
/// other, the longest wins.
fn longest(options: &[Option_], folded: &str, found: Match) -> Match {
    let Match::Tie(keys) = found else { return found };
    let words: Vec<(&String, &str)> = keys
        .iter()
        .filter_map(|key| {
            let option = options.iter().find(|option| option.key == *key)?;
            option.words().filter(|word| has_words(folded, word)).max_by_key(|word| word.len()).map(|word| (key, word))
        })
        .collect();
    let winner = words.iter().find(|(_, word)| words.iter().all(|(_, other)| has_words(word, other)));
    match winner {
        Some((key, word)) if words.iter().filter(|(_, other)| other == word).count() == 1 => Match::One((*key).clone()),
        _ => Match::Tie(keys),
    }
}

fn has_words(text: &str, words: &str) -> bool {
    text.match_indices(words).any(|(at, _)| {
        let before = text[..at].chars().next_back();
        let after = text[at + words.len()..].chars().next();
        !before.is_some_and(char::is_alphanumeric) && !after.is_some_and(char::is_alphanumeric)
    })
}

/// "not X" never gives X.
fn negated(folded: &str) -> bool {
    folded.split(|c: char| !c.is_alphanumeric() && c != '\'').any(|word| {
        matches!(word, "not" | "no" | "never" | "without" | "kein" | "keine" | "nicht" | "pas" | "sans" | "sin" | "niet" | "geen" | "nie" | "bez")
            || word.ends_with("n't")
    })
}

/// "2", "2nd", "the second", "second one", "last": the index it names among `count` options.
fn position(folded: &str, count: usize) -> Option<usize> {
    let bare = folded.strip_prefix("the ").unwrap_or(folded);
    let bare = bare.strip_prefix("number ").or_else(|| bare.strip_prefix("option ")).unwrap_or(bare);
    let bare = bare.strip_suffix(" one").or_else(|| bare.strip_suffix(" option")).unwrap_or(bare);
    const WORDS: [&str; 8] = ["first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth"];
    if bare == "last" {
        return count.checked_sub(1);
    }
    if let Some(index) = WORDS.iter().position(|word| *word == bare) {
        return Some(index);
    }
    let digits = bare.trim_end_matches(|c: char| c.is_ascii_alphabetic());
    if !matches!(&bare[digits.len()..], "" | "st" | "nd" | "rd" | "th") {
        return None;
    }
    digits.parse::<usize>().ok().filter(|n| (1..=count).contains(n)).map(|n| n - 1)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::file::Text;

    fn options(list: &[(&str, &str, &[&str])]) -> Vec<Option_> {
        list.iter()
            .map(|(key, label, also)| {
                let also = also.iter().map(|word| (*word).to_owned()).collect();
                Option_::new(&Choice { key: (*key).into(), label: Text::new("en", *label), also, hint: None, picture: None }, "en", "en")
            })
            .collect()
    }

    fn check(options: &[Option_], reply: &str, expected: &[&str]) {
        let positions = options.iter().all(|option| !option.is_number());
        let found = match matching(options, &fold(reply), positions, true) {
            Match::One(key) => vec![key],
            Match::Tie(keys) => keys,
            Match::None => vec![],
        };
        assert_eq!(found, expected, "{reply}");
    }

    #[test]
    fn a_reply_names_an_option_by_label_key_other_words_position_or_small_typo() {
        let options =
            options(&[("frozen", "Frozen", &["minus 18", "deep freeze"]), ("chilled", "Chilled", &["fridge"]), ("none", "Not chilled", &["ambient"])]);
        for (reply, key) in [
            ("Frozen", "frozen"),
            ("  FROZEN. ", "frozen"),
            ("minus 18", "frozen"),
            ("2", "chilled"),
            ("the second one", "chilled"),
            ("third", "none"),
            ("last", "none"),
            ("frozn", "frozen"),
            ("chileld", "chilled"),
            ("it has to be frozen please", "frozen"),
            ("not chilled", "none"),
            ("ambient", "none"),
        ] {
            check(&options, reply, &[key]);
        }
        for reply in ["", "4", "0", "not frozen", "isn't frozen", "warm", "fr", "frozenly good"] {
            check(&options, reply, &[]);
        }
    }

    #[test]
    fn a_tie_keeps_every_candidate() {
        let options = options(&[("a", "North depot", &["depot"]), ("b", "South depot", &["depot"])]);
        check(&options, "depot", &["a", "b"]);
        check(&options, "the north depot", &["a"]);
        check(&options, "South depot", &["b"]);
    }

    #[test]
    fn a_position_is_not_read_where_a_label_is_a_number() {
        let options = options(&[("few", "2", &[]), ("many", "More", &[])]);
        check(&options, "2", &["few"]);
        check(&options, "1", &[]);
    }
}
