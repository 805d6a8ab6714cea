//! Words that several languages share, each list under what it is for. They are data in `data/words.json`.

use std::sync::OnceLock;

use serde::Deserialize;

/// Folded words, in order, with the bytes that any of them begins with: a reply is looked up in many lists word by
/// word, and nearly every word is told to be in none by its first byte.
#[derive(Debug, Default, Deserialize)]
#[serde(from = "Vec<Box<str>>")]
pub struct Words {
    sorted: Vec<Box<str>>,
    begins: [u64; 4],
}

impl From<Vec<Box<str>>> for Words {
    fn from(mut sorted: Vec<Box<str>>) -> Self {
        sorted.sort_unstable();
        let mut begins = [0_u64; 4];
        for byte in sorted.iter().filter_map(|word| word.bytes().next()) {
            begins[usize::from(byte >> 6)] |= 1 << (byte & 63);
        }
        Self { sorted, begins }
    }
}

impl Words {
    /// Words listed one a line, those with marks on their letters also without.
    fn of_lines(lines: &str) -> Self {
        lines
            .lines()
            .flat_map(|line| {
                std::iter::once(line.into()).chain(super::variants(line).into_iter().map(String::into_boxed_str))
            })
            .collect::<Vec<_>>()
            .into()
    }

    /// True where the word is listed.
    pub fn contains(&self, word: &str) -> bool {
        let may = word.bytes().next().is_some_and(|byte| self.begins[usize::from(byte >> 6)] >> (byte & 63) & 1 == 1);
        may && self.sorted.binary_search_by(|known| (**known).cmp(word)).is_ok()
    }
}

/// The lists; words are folded.
#[derive(Debug, Default, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Shared {
    /// Legal forms of companies, without dots.
    pub legal_forms: Words,
    /// Words that belong to the family name behind them.
    pub particles: Words,
    /// Names that are also words which end one; with a capital they are names.
    pub names_that_are_words: Words,
    /// Before an extension of a phone number.
    pub extensions: Words,
    /// British counties that do not end in "shire"; they tell a region from a town.
    pub counties: Words,
    /// Behind a family name.
    pub name_suffixes: Words,
    /// Money that several countries call so.
    pub crowns: Words,
    /// Parts of a pound.
    pub pence: Words,
    /// "And", between an amount and its smaller coins.
    pub ands: Words,
    /// Small coins that are told only behind an amount: "20 dollars 43c".
    pub coins: Words,
    /// Parts of other currencies.
    pub cents: Words,
    /// Between a step and the top of a scale: "4 out of 5".
    pub out_of: Words,
    /// Articles, before dates.
    pub articles: Words,
    /// Between "week" and its day: "week commencing 14 December".
    pub week_openers: Words,
    /// Between a count and its unit: "two more weeks".
    pub more: Words,
    /// Behind a year: "2027 r."
    pub year_marks: Words,
    /// Names of months that mean something else as well.
    pub months_that_are_words: Words,
    /// Before a day with a name, of which they leave open how long before or after is meant: "after Christmas".
    pub beside_feasts: Words,
    /// Before what a rate is counted by: "40 per week".
    pub per: Words,
    /// Before an e-mail address that is spelt out: "it is ana at heron dot example".
    pub before_addresses: Words,
    /// Small words that a reply begins with which names no company: "my company", "same as above", "retired".
    pub begin_no_company: Words,
    /// Words that alone or together name no town: "up north", "our warehouse", "everywhere".
    pub no_places: Words,
    /// Before an item of a list that is left out: "fish, not peas".
    pub leaves_out: Words,
    /// Words of a yes that is no explicit one: "yes, but only by mail".
    pub conditions: Words,
    /// Words that open a reply whose number counts nothing of its own: "qty 45".
    pub counters: Words,
    /// Between two ends: "between March and May".
    pub between: Words,
    /// Behind an amount of money without a sign: "500 total", "500 plus VAT".
    pub behind_sums: Words,
    /// What leads to a name, and as often to what they are or want: "I'm Ana", "I'm hungry".
    pub weak_leads: Words,
    /// Before a thing that is one of many: "a small bakery", "eine Bäckerei".
    pub indefinite: Words,
    /// Given names, as `data/given_names.txt` has them.
    #[serde(skip)]
    pub given_names: Words,
    /// Small words inside the names of towns: "Newcastle upon Tyne", "Frankfurt am Main".
    pub inside_places: Words,
    /// Behind a word for one that counts: "une seule".
    pub alone: Words,
    /// Words behind which something else begins: "not frozen starting in March".
    pub leads_on: Words,
    /// Before a part of what was counted before: "80, including 5 children".
    pub subsets: Words,
    /// Before a number that is to be multiplied: "twice 40".
    pub factors: Words,
    /// Beside a yes or a no that is none: "yes, maybe".
    pub perhaps: Words,
    /// Between the sides of something: "10 by 12 metres".
    pub by: Words,
    /// Before a weekday: "next week on Monday".
    pub before_weekdays: Words,
    /// Before a month, which makes such a word one.
    pub before_months: Words,
    /// Behind a name, makes what follows a code: "order number 10045".
    pub numbering: Words,
    /// Behind "and", ends the name of a firm: "Kron & Söhne".
    pub firm_tails: Words,
    /// Says how things were: "it was 14, now 16".
    pub was: Words,
    /// Before a day that comes again and again: "every Monday".
    pub recurring: Words,
    /// Right before the first day of something: "starting 1/15".
    pub leads_to_start: Words,
    /// Last words of the names of organisations, which no person is called: "St Osyth School".
    pub organisations: Words,
    /// Says that there is none of what follows: "nothing frozen".
    pub nothing: Words,
    /// Said of each of two parts: "half flat, half tiled".
    pub halves: Words,
    /// Before the article of a day: "on the 12th".
    pub before_days: Words,
    /// Names what stands behind it as a postcode: "postcode AB1 2CD".
    pub postcode_labels: Words,
    /// Glued behind digits that are then no number: "3pm".
    pub behind_no_number: Words,
    /// Between a fraction and what it is of: "half a million".
    pub after_fractions: Words,
    /// Units that are raised to a power: "m2".
    pub powers_of: Words,
}

/// The lists.
pub fn shared() -> &'static Shared {
    static SHARED: OnceLock<Shared> = OnceLock::new();
    // A file that does not load would be empty; a test reads it.
    SHARED.get_or_init(|| {
        let lists: Shared = serde_json::from_str(include_str!("../data/words.json")).unwrap_or_default();
        Shared { given_names: Words::of_lines(include_str!("../data/given_names.txt")), ..lists }
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_file_loads_and_its_words_are_folded() {
        let all: std::collections::BTreeMap<String, Vec<String>> =
            serde_json::from_str(include_str!("../data/words.json")).unwrap();
        assert!(shared().legal_forms.contains("gmbh") && shared().articles.contains("der"));
        for (list, words) in all {
            assert!(!words.is_empty(), "{list}");
            assert!(words.iter().all(|word| crate::fold(word) == *word), "{list}: {words:?}");
            let words: Words = words.into_iter().map(String::into_boxed_str).collect::<Vec<_>>().into();
            assert!(
                words.sorted.iter().all(|word| words.contains(word)) && !words.contains("") && !words.contains("zzz"),
                "{list}"
            );
        }
    }
}
