//! Matching a typed reply to options: label, key, other words, position, words in a sentence, small typos.

use std::collections::BTreeSet;

use super::ranges::{Held, Ranges};
use super::took_back::TookBack;
use lumbo_language::near::{Sketch, within};
use lumbo_language::{HashSet, Kind, Language, Lexicon, Scan, fold, shared};
use lumbo_value::Choice;

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
            also: option.also.iter().map(|word| fold(word)).filter(|word| !word.is_empty()).collect(),
        }
    }

    pub(super) fn plain(key: &str, label: &str) -> Self {
        Self {
            key: key.to_owned(),
            label: label.to_owned(),
            folded_label: fold(label),
            folded_key: key.to_owned(),
            also: Vec::new(),
        }
    }

    /// True where the label or any other word is itself a number, so that "2" cannot mean a position.
    fn is_number(&self) -> bool {
        std::iter::once(&self.folded_label)
            .chain(&self.also)
            .any(|word| !word.is_empty() && word.parse::<f64>().is_ok())
    }

    fn words(&self) -> impl Iterator<Item = &str> {
        [self.folded_label.as_str(), self.folded_key.as_str()]
            .into_iter()
            .chain(self.also.iter().map(String::as_str))
            .filter(|word| !word.is_empty())
    }
}

/// The options of a field, ready to be found in replies.
#[derive(Debug, Clone)]
pub(super) struct Options {
    pub all: Vec<Option_>,
    /// Words of three letters or more, each with the group of options that have it.
    words: Lexicon<usize>,
    /// Words of two letters, which count inside a reply in capitals only: "EV".
    short: Lexicon<usize>,
    groups: Vec<Vec<usize>>,
    positions: bool,
    /// Options that are ranges; beside such, "2" is a number and no position.
    ranges: Ranges,
}

/// An option in a reply, by its tokens: the options whose words stand there.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(super) struct Mention {
    pub options: Vec<usize>,
    pub first: usize,
    pub next: usize,
}

pub(super) enum Match {
    /// One option, with the tokens it was heard at.
    One(usize, usize, usize),
    Tie(Vec<String>),
    None,
}

impl Options {
    pub(super) fn new(all: Vec<Option_>, positions: bool) -> Self {
        let mut words = Lexicon::default();
        let mut groups: Vec<Vec<usize>> = Vec::new();
        let mut phrases: Vec<(String, usize)> = Vec::new();
        let mut short = Lexicon::default();
        for (index, option) in all.iter().enumerate() {
            let shown = [&option.folded_label]
                .into_iter()
                .chain(&option.also)
                .filter(|word| word.chars().count() == 2 && word.chars().all(char::is_alphabetic));
            let of_one =
                |word: &&String| all.iter().filter(|other| other.words().any(|own| own == word.as_str())).count() == 1;
            shown.filter(of_one).for_each(|word| short.add(word, index));
            for word in option.words().filter(|word| word.chars().count() >= 3) {
                match phrases.iter().find(|(known, _)| known == word) {
                    Some((_, group)) => {
                        if !groups[*group].contains(&index) {
                            groups[*group].push(index);
                        }
                    }
                    None => {
                        phrases.push((word.to_owned(), groups.len()));
                        words.add(word, groups.len());
                        groups.push(vec![index]);
                    }
                }
            }
        }
        // "Macs" names the option "Mac" where no other is worded so.
        for (word, group) in
            phrases.iter().filter(|(word, _)| !word.ends_with('s') && word.chars().all(char::is_alphabetic))
        {
            words.add(&format!("{word}s"), *group);
        }
        let positions = positions && all.iter().all(|option| !option.is_number());
        Self { all, words, short, groups, positions, ranges: Ranges::default() }
    }

    /// Looks for ranges among the labels.
    pub(super) fn with_ranges(self, language: &Language) -> Self {
        Self { ranges: Ranges::new(self.all.iter().map(|option| option.label.as_str()), language), ..self }
    }

    fn keys(&self, indices: impl IntoIterator<Item = usize>) -> Vec<String> {
        let unique: BTreeSet<usize> = indices.into_iter().collect();
        unique.into_iter().filter_map(|index| self.all.get(index)).map(|option| option.key.clone()).collect()
    }

    fn exact(&self, folded: &str) -> Option<Vec<usize>> {
        if folded.is_empty() {
            return None;
        }
        let steps: [&dyn Fn(&Option_) -> bool; 3] =
            [&|o| o.folded_label == folded, &|o| o.folded_key == folded, &|o| o.also.iter().any(|word| word == folded)];
        steps.into_iter().find_map(|step| {
            let found: Vec<usize> = (0..self.all.len()).filter(|index| step(&self.all[*index])).collect();
            (!found.is_empty()).then_some(found)
        })
    }

    /// The option that a reply names by its label, key, other words or position, without typos: step 2 of the order in
    /// which a reply is understood. Several found at one step are a tie.
    pub(super) fn named(&self, scan: &Scan<'_>, folded: &str, language: &Language) -> Match {
        let whole = (0, scan.tokens.len());
        if let Some(found) = self.exact(folded) {
            return match found.as_slice() {
                [one] => Match::One(*one, whole.0, whole.1),
                several => Match::Tie(self.keys(several.iter().copied())),
            };
        }
        match self.position(scan, folded, language) {
            Some(index) => Match::One(index, whole.0, whole.1),
            None => Match::None,
        }
    }

    /// The option that a reply names in a sentence, or with small typos.
    pub(super) fn sought(&self, scan: &Scan<'_>, folded: &str, language: &Language) -> Match {
        let english = Language::get("en");
        // "Half flat, half tiled"
        if scan.tokens.iter().filter(|token| shared().halves.contains(&token.folded)).count() >= 2 {
            return Match::None;
        }
        let found = self.mentions(scan);
        let kept = TookBack::kept(scan, language, &found, &|mention: &Mention| (mention.first, mention.next));
        if let Some(last) = kept.last() {
            let common: Vec<usize> = last
                .options
                .iter()
                .copied()
                .filter(|option| kept.iter().all(|other| other.options.contains(option)))
                .collect();
            if let [one] = common.as_slice() {
                return Match::One(*one, last.first, last.next);
            }
            return Match::Tie(self.keys(kept.iter().flat_map(|mention| mention.options.iter().copied())));
        }
        if !found.is_empty() {
            return Match::None;
        }
        if let Some(held) = self.ranges.held(scan, language) {
            return match held.options.as_slice() {
                [one] => Match::One(*one, held.first, held.next),
                several => Match::Tie(self.keys(several.iter().copied())),
            };
        }
        let any = language.all.contains(folded)
            || language.both.contains(folded)
            || std::ptr::eq(language, english) && matches!(folded, "either" | "either one" | "any of them");
        if any && self.all.len() <= 4 {
            return Match::Tie(self.keys(0..self.all.len()));
        }
        match self.begun(folded).as_slice() {
            [] => self.typo(scan, 0, scan.tokens.len(), language),
            [one] => Match::One(*one, 0, scan.tokens.len()),
            several => Match::Tie(self.keys(several.iter().copied())),
        }
    }

    /// The one option that a prospect picks who wants none of the others: "None", "Neither".
    pub(super) fn named_none(&self, language: &Language) -> Option<usize> {
        let mut found =
            (0..self.all.len()).filter(|index| self.all[*index].words().any(|word| language.none_of.contains(word)));
        let first = found.next()?;
        found.next().is_none().then_some(first)
    }

    /// The options whose label begins with the whole reply: "more than 50" of "More than 50 pallets".
    fn begun(&self, folded: &str) -> Vec<usize> {
        let enough = folded.chars().filter(|c| c.is_alphanumeric()).count() >= 4;
        let begins =
            |option: &Option_| option.folded_label.strip_prefix(folded).is_some_and(|rest| rest.starts_with(' '));
        (0..self.all.len()).filter(|index| enough && begins(&self.all[*index])).collect()
    }

    /// Every place where options' words stand, whole.
    pub(super) fn mentions(&self, scan: &Scan<'_>) -> Vec<Mention> {
        let mut out = Vec::new();
        let mut index = 0;
        while index < scan.tokens.len() && out.len() < 64 {
            match self.words.at(scan, index) {
                Some((group, next)) => {
                    out.push(Mention { options: self.groups[group].clone(), first: index, next });
                    index = next;
                }
                None => {
                    let written = scan
                        .tokens
                        .get(index)
                        .and_then(|token| scan.raw.get(token.start..token.end))
                        .unwrap_or_default();
                    if let Some((option, next)) =
                        self.short.at(scan, index).filter(|_| written.chars().all(char::is_uppercase))
                    {
                        out.push(Mention { options: vec![option], first: index, next });
                    }
                    index += 1;
                }
            }
        }
        out
    }

    /// The one option within a small typo of some words between two tokens. "not X" never gives X.
    fn typo(&self, scan: &Scan<'_>, from: usize, to: usize, language: &Language) -> Match {
        if to - from > 40 {
            return Match::None;
        }
        let mut near: Vec<Mention> = Vec::new();
        for (index, option) in self.all.iter().enumerate() {
            for word in option.words().filter(|word| word.chars().count() >= 3) {
                let length = Scan::new(word).tokens.len();
                // A run of as many tokens, or one fewer or more where a space was lost or put in.
                for width in length.saturating_sub(1).max(1)..=length + 1 {
                    for first in from..(to + 1).saturating_sub(width) {
                        let next = first + width;
                        if next > to {
                            break;
                        }
                        let text =
                            fold(scan.raw.get(scan.tokens[first].start..scan.tokens[next - 1].end).unwrap_or_default());
                        let small = width == 1
                            && (language.position_words.contains(&text)
                                || language.is_small(&text)
                                || language.words.contains_key(&text));
                        if is_near(&text, word)
                            && !small
                            && scan.tokens[first].kind != Kind::Mark
                            && !near
                                .iter()
                                .any(|known| known.options == [index] && known.first <= first && known.next >= next)
                        {
                            near.push(Mention { options: vec![index], first, next });
                        }
                    }
                }
            }
        }
        let kept = TookBack::kept(scan, language, &near, &|mention: &Mention| (mention.first, mention.next));
        let unique: BTreeSet<usize> = kept.iter().flat_map(|mention| mention.options.iter().copied()).collect();
        match (unique.len(), kept.first()) {
            (1, Some(mention)) => Match::One(mention.options[0], mention.first, mention.next),
            _ => Match::None,
        }
    }

    /// "2", "2nd", "the second", "second one", "last", in words of the language.
    fn position(&self, scan: &Scan<'_>, folded: &str, language: &Language) -> Option<usize> {
        if !self.positions || scan.tokens.len() > 6 {
            return None;
        }
        if language.last.contains(folded) {
            return self.all.len().checked_sub(1);
        }
        let places = self.places(scan, 0, scan.tokens.len(), language)?;
        if let [one] = places.as_slice() { Some(*one) } else { None }
    }

    /// The options at the positions that are all there is between two tokens.
    fn places(&self, scan: &Scan<'_>, from: usize, to: usize, language: &Language) -> Option<Vec<usize>> {
        let english = Language::get("en");
        let mut places = Vec::new();
        // "Two", "number two"; in "the second one" the word for one says nothing.
        let counted = self.ranges.is_empty()
            && !scan.tokens[from..to].iter().any(|token| {
                token.kind == Kind::Digits
                    || language.ordinals.contains_key(&*token.folded)
                    || language.last.contains(&*token.folded)
            });
        for index in from..to {
            let token = &scan.tokens[index];
            let place = match token.kind {
                // Among ranges only "2nd" is a position.
                Kind::Digits
                    if !self.ranges.is_empty()
                        && !scan.tokens.get(index + 1).is_some_and(|next| next.glued && next.kind == Kind::Word) =>
                {
                    return None;
                }
                Kind::Digits => Some(token.folded.parse::<usize>().ok()?),
                Kind::Word if language.last.contains(&*token.folded) => Some(self.all.len()),
                Kind::Word if counted && language.words.contains_key(&*token.folded) => {
                    language.words.get(&*token.folded).and_then(|place| usize::try_from(*place).ok())
                }
                Kind::Word => match language
                    .ordinals
                    .get(&*token.folded)
                    .or_else(|| english.ordinals.get(&*token.folded))
                {
                    Some(place) => Some(usize::try_from(*place).ok()?),
                    None => {
                        let ending = token.glued
                            && index > from
                            && scan.tokens[index - 1].kind == Kind::Digits
                            && matches!(&*token.folded, "st" | "nd" | "rd" | "th" | "e" | "er" | "ème" | "de" | "ste");
                        let passes = ending
                            || language.position_words.contains(&*token.folded)
                            || english.position_words.contains(&*token.folded)
                            || language.list.joins.at(scan, index).is_some();
                        if !passes {
                            return None;
                        }
                        None
                    }
                },
                Kind::Mark => {
                    if !matches!(&*token.folded, "," | "." | "#" | "&" | "+" | ")" | "(" | "º" | "°" | "ª" | "!" | "/")
                    {
                        return None;
                    }
                    None
                }
            };
            if let Some(place) = place {
                places.push(place.checked_sub(1).filter(|place| *place < self.all.len())?);
            }
        }
        (!places.is_empty()).then_some(places)
    }

    /// Every option that a reply names: labels, other words, positions, "all", "both", "all but X", small typos.
    pub(super) fn several(&self, scan: &Scan<'_>, folded: &str, language: &Language) -> Option<Vec<String>> {
        let all = || self.keys(0..self.all.len());
        if let Some(found) = self.exact(folded) {
            return Some(self.keys(found.into_iter().take(1)));
        }
        let english = Language::get("en");
        let says = |words: &HashSet<String>| words.contains(folded);
        if says(&language.all)
            || says(&english.all)
            || (says(&language.both) || says(&english.both)) && self.all.len() == 2
        {
            return Some(all());
        }
        if self.positions {
            if language.last.contains(folded) {
                return Some(self.keys(self.all.len().checked_sub(1)));
            }
            if scan.tokens.len() <= 24
                && let Some(places) = self.places(scan, 0, scan.tokens.len(), language)
            {
                return Some(self.keys(places));
            }
        }
        let found = self.mentions(scan);
        if found.is_empty()
            && let Some(Held { options, .. }) = self.ranges.held(scan, language)
            && let [one] = options.as_slice()
        {
            return Some(self.keys([*one]));
        }
        // "All except chilled", "alles außer Fisch": what is left out stands behind the word.
        let except = (0..scan.tokens.len().min(64)).find_map(|index| {
            let (_, next) = language.except.at(scan, index).or_else(|| english.except.at(scan, index))?;
            let before = fold(scan.raw.get(..scan.tokens[index].start).unwrap_or_default());
            let says_all = |word: &str| {
                language.all.contains(word) || english.all.contains(word) || matches!(word, "everything" | "anything")
            };
            let opens = if before.is_empty() {
                says_all(scan.word(index).unwrap_or_default())
            } else {
                before.split(' ').any(says_all) || says_all(&before)
            };
            opens.then_some(next)
        });
        if let Some(next) = except {
            let out: BTreeSet<usize> = found
                .iter()
                .filter(|mention| mention.first >= next)
                .flat_map(|mention| mention.options.iter().copied())
                .collect();
            if !out.is_empty() {
                return Some(self.keys((0..self.all.len()).filter(|index| !out.contains(index))));
            }
        }
        let kept = TookBack::kept(scan, language, &found, &|mention: &Mention| (mention.first, mention.next));
        let mut chosen: Vec<usize> = kept
            .iter()
            .filter_map(|mention| if let [one] = mention.options.as_slice() { Some(*one) } else { None })
            .collect();
        // What stands between the mentions may name others with a typo.
        let mut from = 0;
        for index in 0..=scan.tokens.len().min(80) {
            let end = index == scan.tokens.len();
            let parts = end
                || scan
                    .tokens
                    .get(index)
                    .is_some_and(|token| token.kind == Kind::Mark || language.list.joins.at(scan, index).is_some());
            if parts {
                if index > from
                    && !found.iter().any(|mention| mention.first < index && mention.next > from)
                    && let Match::One(option, ..) = self.typo(scan, from, index, language)
                {
                    chosen.push(option);
                }
                from = index + 1;
            }
        }
        (!chosen.is_empty()).then(|| self.keys(chosen))
    }

    pub(super) fn index_of(&self, key: &str) -> Option<usize> {
        self.all.iter().position(|option| option.key == key)
    }
}

/// Within one letter up to 7 letters, within two from 8.
fn is_near(text: &str, word: &str) -> bool {
    let (of_text, of_word) = (Sketch::of(text), Sketch::of(word));
    let allowed = if of_word.letters() >= 8 { 2 } else { 1 };
    of_text.letters() >= 3 && text != word && within(word, of_word, text, of_text, allowed)
}

#[cfg(test)]
mod tests {
    use super::*;
    use lumbo_value::Text;

    fn options(list: &[(&str, &str, &[&str])]) -> Options {
        let all = list
            .iter()
            .map(|(key, label, also)| {
                let also = also.iter().map(|word| (*word).to_owned()).collect();
                Option_::new(
                    &Choice { key: (*key).into(), label: Text::new("en", *label), also, hint: None, picture: None },
                    "en",
                    "en",
                )
            })
            .collect();
        Options::new(all, true)
    }

    fn check(options: &Options, reply: &str, expected: &[&str]) {
        let (scan, folded, english) = (Scan::new(reply), fold(reply), Language::get("en"));
        let matched = match options.named(&scan, &folded, english) {
            Match::None => options.sought(&scan, &folded, english),
            found => found,
        };
        let found = match matched {
            Match::One(index, ..) => vec![options.all[index].key.clone()],
            Match::Tie(keys) => keys,
            Match::None => vec![],
        };
        assert_eq!(found, expected, "{reply}");
    }

    fn temperatures() -> Options {
        options(&[
            ("frozen", "Frozen", &["minus 18", "deep freeze"]),
            ("chilled", "Chilled", &["fridge"]),
            ("none", "Not chilled", &["ambient"]),
        ])
    }

    #[test]
    fn a_reply_names_an_option_by_label_key_other_words_position_or_small_typo() {
        let options = temperatures();
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
            ("it has to be frozn", "frozen"),
            ("it has to be frozen please", "frozen"),
            ("not frozen, chilled", "chilled"),
            ("frozen, sorry, I mean chilled", "chilled"),
            ("not chilled", "none"),
            ("ambient", "none"),
        ] {
            check(&options, reply, &[key]);
        }
        for reply in ["", "4", "0", "not frozen", "isn't frozen", "warm", "fr", "frozenly good", "we don't need frozen"]
        {
            check(&options, reply, &[]);
        }
        check(&options, "frozen or chilled", &["frozen", "chilled"]);
    }

    #[test]
    fn a_tie_keeps_every_candidate() {
        let options = options(&[("a", "North depot", &["depot"]), ("b", "South depot", &["depot"])]);
        check(&options, "depot", &["a", "b"]);
        check(&options, "the north depot", &["a"]);
        check(&options, "South depot", &["b"]);
        check(&options, "either", &["a", "b"]);
    }

    #[test]
    fn a_position_is_not_read_where_a_label_is_a_number() {
        let options = options(&[("few", "2", &[]), ("many", "More", &[])]);
        check(&options, "2", &["few"]);
        check(&options, "1", &[]);
    }

    #[test]
    fn several_options_are_named_at_once() {
        let options = options(&[
            ("storage", "Storage", &["store"]),
            ("blast", "Blast freezing", &["blast"]),
            ("haulage", "Haulage", &["transport", "delivery"]),
        ]);
        for (reply, expected) in [
            ("storage and transport", &["storage", "haulage"][..]),
            ("1 and 3", &["storage", "haulage"]),
            ("1,2", &["storage", "blast"]),
            ("all of them", &["storage", "blast", "haulage"]),
            ("everything except haulage", &["storage", "blast"]),
            ("storage but not haulage", &["storage"]),
            ("storge, delivery", &["storage", "haulage"]),
            ("the first and the last", &["storage", "haulage"]),
            ("blast freezing", &["blast"]),
            ("nothing you have", &[]),
        ] {
            let found = options.several(&Scan::new(reply), &fold(reply), Language::get("en")).unwrap_or_default();
            assert_eq!(found, expected, "{reply}");
        }
    }
}
