//! Listed words per language: yes and no, declining, skipping, numbers, and the built-in phrases.
//!
//! The lists are data in `data/`; to add a language, add a file there and a line in [`Language::get`].

mod bare;
mod lexicon;
pub mod near;
mod scan;
mod shared;

use std::sync::OnceLock;

pub use bare::variants;
pub use lexicon::Lexicon;
pub use scan::{Kind, Scan, Token};
use serde::Deserialize;
pub use shared::shared;
use unicode_normalization::UnicodeNormalization;

/// Listed words by what they mean, hashed for speed: they are ours, so nobody can make them collide.
pub type HashMap<K, V> = std::collections::HashMap<K, V, foldhash::fast::RandomState>;
/// Listed words, hashed likewise.
pub type HashSet<T> = std::collections::HashSet<T, foldhash::fast::RandomState>;

/// Languages with listed words, as BCP 47 primary tags; in the order of the files below, English first.
pub const LANGUAGES: [&str; 6] = ["en", "de", "fr", "es", "nl", "pl"];

/// The files, in the order of their tags.
pub const FILES: [&str; 6] = [
    include_str!("../data/en.json"),
    include_str!("../data/de.json"),
    include_str!("../data/fr.json"),
    include_str!("../data/es.json"),
    include_str!("../data/nl.json"),
    include_str!("../data/pl.json"),
];

/// The listed words of one language.
#[derive(Debug, Default, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Language {
    /// Between thousands.
    pub group: char,
    /// Before decimals.
    pub decimal: char,
    /// Ways to say yes.
    pub yes: HashSet<String>,
    /// Words that say no (0) or yes (1) at the beginning of whatever follows.
    pub firm: Lexicon<u8>,
    /// Ways to say no.
    pub no: HashSet<String>,
    /// Words of politeness and of the moment around a reply that declines.
    pub manners: Vec<String>,
    /// Pronouns, possessives and auxiliaries, which written small are no part of a name.
    pub talk: HashSet<String>,
    /// Words that say how surely, or since when, beside a plain yes or no: "probably not", "not at the moment".
    pub hedges: Lexicon<()>,
    /// Words that say somebody is not sure of what they answer: "probably", "I think", "maybe".
    pub doubts: Lexicon<()>,
    /// Words for several days, by how many they are, where days are asked for: "a weekend".
    pub days_of: Lexicon<u8>,
    /// Yes in one word, as it stands beside a hedge.
    pub plain_yes: HashSet<String>,
    /// No in one word, as it stands beside a hedge.
    pub plain_no: HashSet<String>,
    /// What says yes in this language and no in English, or the other way round.
    #[serde(default)]
    pub unclear: HashSet<String>,
    /// Ways to have none, not know, or rather not.
    pub declined: HashSet<String>,
    /// Words by which a sentence begins that says there is none.
    pub declined_begins: Lexicon<()>,
    /// Words before what there is none of: "no budget", "keine Firma".
    pub none_begins: Lexicon<()>,
    /// Behind a number that is a difference: "10 less than", "5 more than".
    #[serde(default)]
    pub differs: Lexicon<()>,
    /// True where every noun begins with a capital.
    #[serde(default)]
    pub nouns_are_large: bool,
    /// Where a person has two family names as a rule: the words that are given names all the same.
    #[serde(default)]
    pub given_before_two_family_names: HashSet<String>,
    /// Ways to skip.
    pub skip: HashSet<String>,
    /// Words before or after an approximate number.
    pub about: Lexicon<()>,
    /// Words between the ends of a span.
    pub to: Lexicon<()>,
    /// Number words.
    pub words: HashMap<String, u32>,
    /// Words that multiply the number before them.
    pub times: HashMap<String, u32>,
    /// Words that may stand inside a number in words.
    pub join: HashSet<String>,
    /// Words for a part of one: decimal texts.
    pub fractions: HashMap<String, String>,
    /// "And a half" behind a number.
    pub and_half: Lexicon<()>,
    /// Words for the decimal mark: "one point five".
    pub point: Lexicon<()>,
    /// Behind degrees: "18 below zero".
    pub below_zero: Lexicon<()>,
    /// Words for the minus sign.
    pub minus: HashSet<String>,
    /// Words that open a span.
    pub between: Lexicon<()>,
    /// Words that make "hundred" no number: a few, several.
    pub vague: HashSet<String>,
    /// Words that negate what follows.
    pub not: HashSet<String>,
    /// Words that leave out what follows.
    pub except: Lexicon<()>,
    /// Words by which a prospect takes back what stands before.
    pub instead: Lexicon<()>,
    /// Words that end a negation.
    pub but: HashSet<String>,
    /// Ways to mean every option.
    pub all: HashSet<String>,
    /// Ways to mean two options of two.
    pub both: HashSet<String>,
    /// Ways to mean no option.
    pub none_of: HashSet<String>,
    /// Ordinal words.
    pub ordinals: HashMap<String, u32>,
    /// Ways to mean the last option.
    pub last: HashSet<String>,
    /// Words that may stand around a position.
    pub position_words: HashSet<String>,
    /// Control words and what is said at a Read back.
    pub control: Control,
    /// Words that a question begins with.
    pub questions: Lexicon<()>,
    /// Words around a person's name.
    pub names: NameWords,
    /// Words around a company's name.
    pub company: CompanyWords,
    /// Words around a place.
    pub place: PlaceWords,
    /// Words around a list.
    pub list: ListWords,
    /// Words that make a number one end of a range.
    pub bounds: BoundWords,
    /// Ways to agree beside yes.
    pub consent: HashSet<String>,
    /// How numbers are put together in words.
    #[serde(default)]
    pub compounds: Compounds,
    /// Words of dates.
    pub dates: DateWords,
    /// Order of day and month in digits: `dmy`, or `dmy_or_mdy` where the country decides.
    pub order: String,
    /// Those of the phrases that address a friend in other words.
    #[serde(default)]
    pub informal: HashMap<String, String>,
    /// Built-in phrases by key.
    pub phrases: HashMap<String, String>,
}

/// Control words, as whole replies.
#[derive(Debug, Default, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Control {
    /// One question back.
    pub back: HashSet<String>,
    /// From the beginning.
    pub start_over: HashSet<String>,
    /// A person, please.
    pub person: HashSet<String>,
    /// Why do you ask.
    pub why: near::Phrases,
    /// How a correction of an earlier answer begins, beside the words that take something back.
    pub correct: Lexicon<()>,
    /// What says of an earlier answer that it is wrong.
    pub wrong: Lexicon<()>,
    /// At a Read back: all is right.
    pub done: HashSet<String>,
}

/// Words around a person's name.
#[derive(Debug, Default, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct NameWords {
    /// Before a given name: "first name Ana".
    pub given_cues: Lexicon<()>,
    /// Before a family name: "last name Ruiz".
    pub family_cues: Lexicon<()>,
    /// Before a whole name: "my name is".
    pub cues: Lexicon<()>,
    /// "Hello", "dear".
    pub greetings: Lexicon<()>,
    /// Behind a name: "here", "speaking".
    pub endings: Lexicon<()>,
    /// Before a name at the end of a letter: "kind regards".
    pub sign_offs: Lexicon<()>,
    /// "Dr", "Mrs".
    pub titles: HashSet<String>,
    /// Words that show a reply to be a sentence and no name.
    pub stops: HashSet<String>,
}

/// Words around a company's name.
#[derive(Debug, Default, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct CompanyWords {
    /// At the beginning of an answer.
    pub cues: Lexicon<()>,
    /// Inside a free reply.
    pub inner: Lexicon<()>,
    /// Words that end the name.
    pub stops: HashSet<String>,
}

/// Words around a place.
#[derive(Debug, Default, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct PlaceWords {
    /// Before a place: "we are in".
    pub cues: Lexicon<()>,
    /// Words that are no place.
    pub stops: HashSet<String>,
}

/// Words that make a number one end of a range: "more than 50", "50 or more".
#[derive(Debug, Default, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct BoundWords {
    /// Before a number that is not held itself.
    pub over: Lexicon<()>,
    /// Before a number that is the least.
    pub from: Lexicon<()>,
    /// Before a number that is not held itself, with all below it.
    pub under: Lexicon<()>,
    /// Before a number that is the most.
    pub up_to: Lexicon<()>,
    /// Behind the least.
    pub or_more: Lexicon<()>,
    /// Behind the most.
    pub or_less: Lexicon<()>,
}

/// Words around a list.
#[derive(Debug, Default, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct ListWords {
    /// Before a list: "we need".
    pub cues: Lexicon<()>,
    /// Between things: "and".
    pub joins: Lexicon<()>,
    /// Behind a list: "and so on".
    pub endings: Lexicon<()>,
}

/// How numbers are put together in words, where the language does so.
#[derive(Debug, Default, Deserialize)]
#[serde(deny_unknown_fields, default)]
pub struct Compounds {
    /// Between a unit and the tens behind it in one word: "fünfundvierzig".
    pub joins: Vec<String>,
    /// Words for hundred and thousand inside one word, the larger first: "zweihundertvierzig".
    pub marks: Vec<String>,
    /// Endings for "and a half": "zweieinhalb".
    pub halves: Vec<String>,
    /// "And" stands between tens and units: "treinta y cinco".
    pub joins_tens: bool,
    /// Teens stand after tens: "soixante-dix".
    pub teens_after_tens: bool,
    /// Parts of one by what they divide by: "three quarters of a tonne".
    pub parts: HashMap<String, u32>,
    /// Words for twenty that are counted: "quatre-vingts".
    pub twenties: HashSet<String>,
}

/// Words of dates.
#[derive(Debug, Default, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct DateWords {
    /// "Next Friday" is the one of next week, not the coming one: English, Dutch and Polish, not German or the Romance
    /// languages.
    #[serde(default)]
    pub next_weekday_is_of_next_week: bool,
    /// A unit alone is one of it: "za tydzień" is in one week.
    #[serde(default)]
    pub one_goes_without_saying: bool,
    /// Months from 1.
    #[serde(deserialize_with = "lexicon::with_slips")]
    pub months: Lexicon<u8>,
    /// Days of the week from 1, Monday first.
    #[serde(deserialize_with = "lexicon::with_slips")]
    pub weekdays: Lexicon<u8>,
    /// "Today".
    pub today: Lexicon<()>,
    /// "Tomorrow".
    pub tomorrow: Lexicon<()>,
    /// "The day after tomorrow".
    pub after_tomorrow: Lexicon<()>,
    /// "Yesterday".
    pub yesterday: Lexicon<()>,
    /// "The day before yesterday".
    pub before_yesterday: Lexicon<()>,
    /// "Day", "days".
    pub day: HashSet<String>,
    /// "Week", "weeks".
    pub week: HashSet<String>,
    /// "Fortnight".
    pub fortnight: HashSet<String>,
    /// "Month", "months".
    pub month: HashSet<String>,
    /// "Quarter", "quarters".
    pub quarter: HashSet<String>,
    /// "Year", "years".
    pub year: HashSet<String>,
    /// "Next".
    pub next: Lexicon<()>,
    /// "This".
    pub this: Lexicon<()>,
    /// "Coming".
    pub coming: Lexicon<()>,
    /// "Last".
    pub last: Lexicon<()>,
    /// Before a count of days from now: "in", "within".
    pub within: Lexicon<()>,
    /// Behind a count of days from now: "from now".
    pub hence: Lexicon<()>,
    /// Between a count and the day it counts from (0), or a count of weeks only (1): "3 days after Friday", "a week on
    /// Friday".
    pub from_day: Lexicon<u8>,
    /// Behind a day, one week later (0) or two (1): "Friday week", "vendredi en huit".
    pub weeks_behind: Lexicon<u8>,
    /// Before a count of weeks that says how long, not when: "for two weeks from Friday".
    pub for_so_long: Lexicon<()>,
    /// Words for "ago" behind the number.
    pub ago: Lexicon<()>,
    /// Words for "ago" before the number: "il y a", "hace", "vor".
    pub ago_before: Lexicon<()>,
    /// The one after the next: "übernächste", "after next".
    pub after_next: Lexicon<()>,
    /// The last one within something: "the last Friday of March".
    #[serde(rename = "final")]
    pub last_within: Lexicon<()>,
    /// Between a day or a week and what it lies within: "Monday of next week".
    pub inside: Lexicon<()>,
    /// Before a number that is a day of the month: "le 16", "el 20".
    pub day_opener: Lexicon<()>,
    /// "15-2" is the fifteenth of February, as the Dutch write it.
    pub dash_parts_day_and_month: bool,
    /// Days that have a name: "Christmas", "Easter Monday".
    pub feasts: Lexicon<Feast>,
    /// "The end of".
    pub end: Lexicon<()>,
    /// "The start of".
    pub start: Lexicon<()>,
    /// "The middle of".
    pub middle: Lexicon<()>,
    /// One: "a week".
    pub a: Lexicon<()>,
    /// Words between the parts of a date.
    pub of: HashSet<String>,
    /// Endings of a day's number.
    pub ordinal: HashSet<String>,
    /// Before the number of a week: "week 14".
    pub week_number: Lexicon<()>,
    /// The letter of a quarter.
    pub quarter_names: HashSet<String>,
    /// Before or behind the number of a half-year.
    pub half_year: Lexicon<()>,
    /// Before a day that something comes earlier than: "two days before 1 January".
    pub before_day: Lexicon<()>,
    /// Words for today that say as often how things stand: "we spend £500 now".
    pub now: Lexicon<()>,
    /// Stretches of the year that have no first day: "spring", "H1". A date beside one is asked for again.
    pub open: Lexicon<()>,
    /// How dates are shown.
    pub shown: DateShown,
}

/// A day with a name.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Feast {
    /// Month and day of every year.
    Fixed(i8, i8),
    /// So many days after Easter Sunday.
    Easter(i8),
}

/// A map from phrase to `12-25`, `easter` or `easter+1`.
impl<'de> Deserialize<'de> for Lexicon<Feast> {
    fn deserialize<D: serde::Deserializer<'de>>(deserializer: D) -> Result<Self, D::Error> {
        let map = HashMap::<String, String>::deserialize(deserializer)?;
        let feast = |text: &str| match text.strip_prefix("easter") {
            Some("") => Some(Feast::Easter(0)),
            Some(days) => days.parse().ok().map(Feast::Easter),
            None => {
                text.split_once('-').and_then(|(month, day)| Some(Feast::Fixed(month.parse().ok()?, day.parse().ok()?)))
            }
        };
        let listed: Option<Vec<_>> = map.iter().map(|(phrase, day)| Some((phrase.as_str(), feast(day)?))).collect();
        Ok(Self::new(listed.ok_or_else(|| serde::de::Error::custom("a feast is month-day, easter, or easter+days"))?))
    }
}

/// How dates are shown: patterns with `{day}`, `{month}`, `{year}`, `{quarter}` and `{period}`.
#[derive(Debug, Default, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct DateShown {
    /// A day.
    pub day: String,
    /// A month.
    pub month: String,
    /// A week.
    pub week: String,
    /// A quarter.
    pub quarter: String,
    /// The end of a month.
    pub end: String,
    /// Names of the months, from January.
    pub months: Vec<String>,
    /// Names of the days of the week, from Monday.
    pub weekdays: Vec<String>,
    /// Names of the months behind a day.
    pub day_months: Vec<String>,
}

impl Language {
    /// The language of a tag such as `de` or `de-AT`; English where none is listed.
    #[must_use]
    pub fn get(tag: &str) -> &'static Self {
        static ALL: OnceLock<Vec<Language>> = OnceLock::new();
        let all = ALL.get_or_init(|| {
            // A file that does not load would be an empty language; a test loads every one.
            FILES.into_iter().map(|text| bare::load(text).unwrap_or_default()).collect()
        });
        let end = tag.bytes().position(|byte| matches!(byte, b'-' | b'_')).unwrap_or(tag.len());
        let primary = &tag[..end];
        let place = LANGUAGES.iter().position(|known| *known == primary).unwrap_or(0);
        // Six files, six places.
        &all[place]
    }

    /// True where a reply begins like a question.
    pub fn opens_question(&self, text: &str) -> bool {
        let scan = Scan::new(text);
        scan.tokens.len() >= 3 && self.questions.at(&scan, 0).is_some()
    }

    /// True where a word begins questions.
    /// A folded reply without the words of politeness around it: "sorry, no idea really" says "no idea".
    pub fn without_manners<'a>(&self, folded: &'a str) -> &'a str {
        let mut said = folded;
        for _ in 0..3 {
            // The longest: "I'm sorry" before "sorry".
            let shorter = self.manners.iter().filter_map(|word| {
                said.strip_suffix(word.as_str())
                    .and_then(|rest| rest.strip_suffix(' '))
                    .or_else(|| said.strip_prefix(word.as_str()).and_then(|rest| rest.strip_prefix(' ')))
                    .filter(|rest| !rest.is_empty())
            });
            let Some(rest) = shorter.min_by_key(|rest| rest.len()) else { break };
            said = rest;
        }
        said
    }

    /// True where a text talks instead of naming: a greeting, a yes, or a pronoun or an auxiliary written small in it.
    pub fn talks(&self, text: &str) -> bool {
        let folded = fold(text);
        let whole = Scan::new(text);
        let greets = |lexicon: &Lexicon<()>| {
            lexicon
                .at(&whole, 0)
                .is_some_and(|(_, next)| whole.tokens[next..].iter().all(|token| token.kind == Kind::Mark))
        };
        let polite = [&self.names.greetings, &self.names.endings, &self.names.sign_offs].into_iter().any(greets);
        if polite || self.yes.contains(&folded) || self.no.contains(&folded) {
            return true;
        }
        (0..whole.tokens.len()).any(|index| {
            let said = whole.word(index).is_some_and(|word| self.talk.contains(word));
            // "My garage" begins a sentence, "My Cakes" a name.
            said && !whole.tokens[index].glued && (whole.is_small(index) || index == 0 && whole.is_small(1))
        })
    }

    /// True for a word that names nothing: pronouns, articles, prepositions, what leads to a name.
    pub fn is_small(&self, word: &str) -> bool {
        self.names.stops.contains(word) || self.company.stops.contains(word) || self.place.stops.contains(word)
    }

    /// True where a reply begins with a word that asks.
    #[must_use]
    pub fn questions_contains(&self, word: &str) -> bool {
        let scan = Scan::new(word);
        self.questions.at(&scan, 0).is_some()
    }

    /// The built-in phrase for a key; the key itself where none is listed.
    #[must_use]
    pub fn phrase<'a>(&'a self, key: &'a str) -> &'a str {
        self.phrases.get(key).map_or(key, String::as_str)
    }
}

/// Built-in phrases of a language, with an author's own wording before them.
#[derive(Debug, Clone)]
pub struct Phrases {
    language: &'static Language,
    informal: bool,
    own: std::sync::Arc<HashMap<String, String>>,
}

impl Phrases {
    /// The phrases of a language as they stand.
    #[must_use]
    pub fn plain(language: &str) -> Self {
        Self { language: Language::get(language), informal: false, own: std::sync::Arc::default() }
    }

    /// The phrases of a language, with an author's own words by phrase key before them; empty words stand for none.
    #[must_use]
    pub fn worded(language: &str, own: impl Iterator<Item = (String, String)>) -> Self {
        Self {
            language: Language::get(language),
            informal: false,
            own: std::sync::Arc::new(own.filter(|(_, words)| !words.is_empty()).collect()),
        }
    }

    /// The same, in which the prospect is addressed as one addresses friends, where the language tells the two apart.
    #[must_use]
    pub fn informal(mut self, informal: bool) -> Self {
        self.informal = informal;
        self
    }

    /// The phrase for a key; the key itself where none is listed.
    ///
    /// ```
    /// use lumbo_language::Phrases;
    /// let formal = Phrases::plain("de");
    /// assert_eq!(formal.get("tie"), "Meinen Sie {candidates}?");
    /// assert_eq!(formal.clone().informal(true).get("tie"), "Meinst du {candidates}?");
    /// assert_eq!(formal.get("no such key"), "no such key");
    /// ```
    #[must_use]
    pub fn get<'a>(&'a self, key: &'a str) -> &'a str {
        if let Some(own) = self.own.get(key) {
            return own;
        }
        let informal = self.informal.then(|| self.language.informal.get(key)).flatten();
        informal.map_or_else(|| self.language.phrase(key), String::as_str)
    }
}

/// Keys of the phrases that a dialogue may word for itself, in order. Those a new outline is made of are not among
/// them.
#[must_use]
pub fn phrase_keys() -> Vec<&'static str> {
    let mut keys: Vec<&str> =
        Language::get("en").phrases.keys().map(String::as_str).filter(|key| !key.starts_with("new.")).collect();
    keys.sort_unstable();
    keys
}

/// Folds a reply for comparison: NFKC, lower case, straight apostrophes, single spaces, no punctuation at the ends.
#[must_use]
pub fn fold(text: &str) -> String {
    let mut out = String::with_capacity(text.len());
    if text.is_ascii() {
        push_folded(&mut out, text.chars());
    } else {
        push_folded(&mut out, text.nfkc());
    }
    let trimmed = out.trim_matches(|c: char| {
        c == ' ' || matches!(c, '.' | ',' | '!' | '?' | ';' | ':' | '"' | '“' | '”' | '«' | '»' | '(' | ')' | '¡' | '¿')
    });
    if trimmed.len() == out.len() { out } else { trimmed.to_owned() }
}

fn push_folded(out: &mut String, chars: impl Iterator<Item = char>) {
    let mut space = false;
    for c in chars {
        if c.is_whitespace() {
            space = true;
            continue;
        }
        if space && !out.is_empty() {
            out.push(' ');
        }
        space = false;
        match c {
            '’' | '‘' | '`' | '´' => out.push('\''),
            c if c.is_ascii() => out.push(c.to_ascii_lowercase()),
            c => out.extend(c.to_lowercase()),
        }
    }
}

/// Puts values into a built-in phrase: `{heard}`, `{min}` and the like.
#[must_use]
pub fn fill(phrase: &str, parts: &[(&str, &str)]) -> String {
    let mut out = String::with_capacity(phrase.len() + 16);
    let mut rest = phrase;
    while let Some(open) = rest.find('{') {
        out.push_str(&rest[..open]);
        let after = &rest[open + 1..];
        let Some((name, tail)) = after.split_once('}') else {
            out.push_str(&rest[open..]);
            return out;
        };
        out.push_str(parts.iter().find(|(key, _)| *key == name).map_or("", |(_, value)| value));
        rest = tail;
    }
    out.push_str(rest);
    out
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_language_loads_and_has_every_phrase() {
        let english: HashSet<_> = Language::get("en").phrases.keys().collect();
        assert!(english.len() > 30);
        for tag in LANGUAGES {
            let language = Language::get(tag);
            assert_eq!(language.phrases.keys().collect::<HashSet<_>>(), english, "{tag}");
            assert!(tag == "en" || !std::ptr::eq(language, Language::get("en")), "{tag} does not load");
        }
    }

    #[test]
    fn listed_words_are_stored_folded_and_yes_is_never_no() {
        for tag in LANGUAGES {
            let language = Language::get(tag);
            for word in language.yes.iter().chain(&language.no) {
                assert_eq!(*word, fold(word), "{tag}: {word}");
            }
            for word in language.skip.iter().chain(&language.declined) {
                let folded = fold(word);
                assert!(
                    folded.is_empty()
                        || language.declined.contains(&folded)
                        || language.skip.contains(&folded)
                        || word.contains('.'),
                    "{tag}: {word}"
                );
            }
            assert!(language.yes.is_disjoint(&language.no), "{tag}");
        }
    }

    #[test]
    fn a_reply_is_folded_for_comparison() {
        for (raw, folded) in [
            ("  Yes,  PLEASE! ", "yes, please"),
            ("I don’t know.", "i don't know"),
            ("ＦＲＯＺＥＮ", "frozen"),
            ("ﬁsh", "fish"),
            ("", ""),
            ("?!", ""),
        ] {
            assert_eq!(fold(raw), folded);
        }
    }

    #[test]
    fn phrases_take_values_and_leave_unknown_names_out() {
        assert_eq!(fill("from {min} to {max}{x}", &[("min", "1"), ("max", "4,000")]), "from 1 to 4,000");
        assert_eq!(fill("open {", &[]), "open {");
    }
}
