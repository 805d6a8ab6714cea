//! A name out of the tokens that belong to it: titles left out, given and family name split.

use super::super::company::is_form;
use super::{CHARACTERS, Mention, capital};
use lumbo_language::{HashSet, Kind, LANGUAGES, Language, Scan, fold, shared};
use lumbo_value::PersonName;

pub(super) fn make(scan: &Scan<'_>, language: &Language, first: usize, end: usize) -> Option<Mention> {
    let tokens = &scan.tokens;
    let mut begin = first;
    let mut stop = end.min(tokens.len());
    // "Ich bin der Chef", "soy el dueño": an article leads to what they are.
    let article = tokens
        .get(begin)
        .is_some_and(|token| shared().articles.contains(&token.folded) && !capital(scan.raw, token.start));
    let particle = tokens.get(begin).is_some_and(|token| matches!(&*token.folded, "de" | "den" | "del" | "du"));
    if article && !particle {
        return None;
    }
    // "Dr. Ana Ruiz", "Frau Ruiz"
    while begin + 1 < stop && is_title(&tokens[begin].folded, language) {
        begin += 1 + usize::from(tokens.get(begin + 1).is_some_and(|token| token.is('.')));
    }
    // "Maren H.", "Joss Calder Jr." keep their dot.
    let keeps_dot = |index: usize| {
        let initial = tokens[index].folded.chars().count() == 1 && capital(scan.raw, tokens[index].start);
        initial && index > begin || is_suffix(&tokens[index].folded)
    };
    let dot =
        tokens.get(stop).filter(|token| token.is('.') && token.glued).is_some() && stop > begin && keeps_dot(stop - 1);
    stop += usize::from(dot);
    while stop > begin
        && tokens[stop - 1].kind == Kind::Mark
        && !(tokens[stop - 1].is('.') && stop > begin + 1 && keeps_dot(stop - 2))
    {
        stop -= 1;
    }
    // "Claire de la société Froidline": what leads on is no part of the name.
    while stop > begin + 1
        && shared().particles.contains(&tokens[stop - 1].folded)
        && !capital(scan.raw, tokens[stop - 1].start)
        && stop < tokens.len()
    {
        stop -= 1;
    }
    let (start, last) = (tokens.get(begin)?.start, tokens.get(stop.checked_sub(1)?)?.end);
    if stop <= begin {
        return None;
    }
    let text = scan.raw.get(start..last)?;
    let letters = text.chars().filter(|c| c.is_alphabetic()).count();
    if begin + 1 == stop
        && is_title(&tokens[begin].folded, language)
        && !shared().given_names.contains(&tokens[begin].folded)
    {
        return None;
    }
    let single = begin + 1 == stop;
    let stopped = single
        && (language.names.stops.contains(&*tokens[begin].folded)
            || Language::get("en").names.stops.contains(&*tokens[begin].folded));
    let too_long =
        text.chars().count() > CHARACTERS || tokens[begin..stop].iter().any(|token| token.folded.chars().count() > 30);
    if letters < 2
        || too_long
        || stopped
        || shared().particles.contains(&tokens[begin].folded)
            && single
            && !(capital(scan.raw, tokens[begin].start) && shared().given_names.contains(&tokens[begin].folded))
    {
        return None;
    }
    if !single && is_form(&tokens[stop - 1].folded) && tokens[stop - 1].folded.chars().count() > 2 {
        return None;
    }
    let name = split_in(text, &language.given_before_two_family_names);
    // "Mrs Ashdown", "Herr Möller": a title goes with the family name.
    // "Mevrouw de Vries"
    let particle = name.given.chars().next().is_some_and(|c| c.is_lowercase() || c == '\'')
        && name.given.split(' ').all(|word| shared().particles.contains(word));
    if begin > first && particle && !name.family.is_empty() {
        let start = tokens[first].start;
        let full = scan.raw.get(start..last)?.split_whitespace().collect::<Vec<_>>().join(" ");
        return Some(Mention { name: PersonName { given: String::new(), family: name.full, full }, start, end: last });
    }
    if begin > first && name.family.is_empty() && !matches!(&*tokens[first].folded, "sir" | "dame" | "don" | "doña") {
        // The title stays in the whole, which is all there is to call them by.
        let start = tokens[first].start;
        let full = scan.raw.get(start..last)?.split_whitespace().collect::<Vec<_>>().join(" ");
        return Some(Mention { name: PersonName { given: String::new(), family: name.given, full }, start, end: last });
    }
    Some(Mention { name, start, end: last })
}

/// Splits a name: the family name is the last word with the particles before it; "Ruiz, Ana" is family first.
#[must_use]
pub fn split(name: &str) -> PersonName {
    split_in(name, &HashSet::default())
}

/// Splits a name in a language where two family names are usual ("Inés Vidal Rey") and so many words are given names,
/// or in one where they are not and none is listed.
pub(super) fn split_in(name: &str, given_names: &HashSet<String>) -> PersonName {
    let tidy = name.split_whitespace().collect::<Vec<_>>().join(" ");
    if let Some((family, given)) = tidy.split_once(',') {
        let (given, family) = (given.trim(), family.trim());
        if !given.is_empty() && !family.is_empty() && !given.contains(',') {
            return PersonName { given: given.into(), family: family.into(), full: format!("{given} {family}") };
        }
    }
    let full = tidy.replace(',', "");
    let words: Vec<&str> = full.split(' ').collect();
    let suffixes = words.iter().rev().take_while(|word| is_suffix(&word.to_lowercase().replace('.', ""))).count();
    let core = words.len() - suffixes;
    if core < 2 {
        return PersonName { given: full.clone(), family: String::new(), full };
    }
    // "MOREAU Luc": a family name in capitals may stand first, as it does in forms.
    let capitals = |word: &str| {
        word.chars().filter(|c| c.is_alphabetic()).count() >= 3
            && !word.contains('.')
            && word.chars().all(|c| !c.is_lowercase())
    };
    if core == 2 && capitals(words[0]) && words[1].chars().any(char::is_lowercase) {
        return PersonName { given: words[1].into(), family: words[0].into(), full };
    }
    let mut first_of_family = core - 1;
    let belongs = |word: &str| {
        let word = word.to_lowercase();
        // "Van Dijk-de Boer"
        shared().particles.contains(&word)
            || word.rsplit_once('-').is_some_and(|(_, tail)| shared().particles.contains(tail))
    };
    while first_of_family > 1 && belongs(words[first_of_family - 1]) {
        first_of_family -= 1;
    }
    let given = |word: &str| given_names.contains(&fold(word));
    if !given_names.is_empty() && first_of_family == 2 && core == 3 && given(words[0]) && !given(words[1]) {
        first_of_family = 1;
    }
    PersonName { given: words[..first_of_family].join(" "), family: words[first_of_family..core].join(" "), full }
}

pub(super) fn is_title(word: &str, language: &Language) -> bool {
    language.names.titles.contains(word)
        || LANGUAGES.iter().any(|tag| word.len() > 1 && Language::get(tag).names.titles.contains(word))
}

pub(super) fn is_suffix(word: &str) -> bool {
    shared().name_suffixes.contains(word)
}
