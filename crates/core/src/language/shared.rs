//! Words that several languages share, each list under what it is for. They are data in `data/lists/words.json`.

use std::collections::HashSet;
use std::sync::OnceLock;

use serde::Deserialize;

/// The lists; words are folded.
#[derive(Debug, Default, Deserialize)]
#[serde(deny_unknown_fields)]
pub(crate) struct Shared {
    /// Legal forms of companies, without dots.
    pub legal_forms: HashSet<String>,
    /// Words that belong to the family name behind them.
    pub particles: HashSet<String>,
    /// Names that are also words which end one; with a capital they are names.
    pub names_that_are_words: HashSet<String>,
    /// Before an extension of a phone number.
    pub extensions: HashSet<String>,
    /// British counties that do not end in "shire"; they tell a region from a town.
    pub counties: HashSet<String>,
    /// Behind a family name.
    pub name_suffixes: HashSet<String>,
    /// Money that several countries call so.
    pub crowns: HashSet<String>,
    /// Parts of a pound.
    pub pence: HashSet<String>,
    /// Parts of other currencies.
    pub cents: HashSet<String>,
    /// Between a step and the top of a scale: "4 out of 5".
    pub out_of: HashSet<String>,
    /// Articles, before dates.
    pub articles: HashSet<String>,
    /// Between "week" and its day: "week commencing 14 December".
    pub week_openers: HashSet<String>,
    /// Between a count and its unit: "two more weeks".
    pub more: HashSet<String>,
    /// Behind a year: "2027 r."
    pub year_marks: HashSet<String>,
    /// Names of months that mean something else as well.
    pub months_that_are_words: HashSet<String>,
    /// Before a month, which makes such a word one.
    pub before_months: HashSet<String>,
    /// Glued behind digits that are then no number: "3pm".
    pub behind_no_number: HashSet<String>,
    /// Between a fraction and what it is of: "half a million".
    pub after_fractions: HashSet<String>,
    /// Units that are raised to a power: "m2".
    pub powers_of: HashSet<String>,
}

/// The lists.
pub(crate) fn shared() -> &'static Shared {
    static SHARED: OnceLock<Shared> = OnceLock::new();
    // A file that does not load would be empty; a test reads it.
    SHARED.get_or_init(|| serde_json::from_str(include_str!("../../data/lists/words.json")).unwrap_or_default())
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_file_loads_and_its_words_are_folded() {
        let all: std::collections::BTreeMap<String, Vec<String>> = serde_json::from_str(include_str!("../../data/lists/words.json")).unwrap();
        assert!(shared().legal_forms.contains("gmbh") && shared().articles.contains("der"));
        for (list, words) in all {
            assert!(!words.is_empty(), "{list}");
            assert!(words.iter().all(|word| crate::language::fold(word) == *word), "{list}: {words:?}");
        }
    }
}
