//! A person's name: the words around it left out, given and family name split.

use super::{Found, Heard};
use crate::language::{Kind, LANGUAGES, Language, Scan, shared};
use crate::value::{PersonName, Value};

/// Longest name, in words and in characters.
const WORDS: usize = 6;
const CHARACTERS: usize = 80;

/// A name in a reply, by its bytes.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(super) struct Mention {
    pub name: PersonName,
    pub start: usize,
    pub end: usize,
}

/// Reads one name. A single word completes a given name that was heard before.
pub(super) fn read(scan: &Scan<'_>, language: &Language, earlier: Option<&Value>) -> Found {
    let Some(mention) = whole(scan, language).or_else(|| cued(scan, language)).or_else(|| signed(scan, language)) else { return Found::Nothing };
    // "ana.ruiz@heron.example" is an address, and no name.
    if super::email::mentions(scan.raw).iter().any(|address| address.start < mention.end && mention.start < address.end) {
        return Found::Nothing;
    }
    let mut person = mention.name;
    if let Some(Value::Name(before)) = earlier
        && before.family.is_empty()
        && !person.full.contains(' ')
        && !before.full.eq_ignore_ascii_case(&person.full)
    {
        person = PersonName { given: before.full.clone(), family: person.full.clone(), full: format!("{} {}", before.full, person.full) };
    }
    Found::Value(Value::Name(person), Heard::at(scan.raw, mention.start, mention.end))
}

/// Names by their cues inside a free reply: "this is Ana Ruiz from Blue Heron Ices", a signature.
pub(super) fn mention(scan: &Scan<'_>, language: &Language) -> Option<Mention> {
    cued(scan, language).filter(|found| capital(scan.raw, found.start)).or_else(|| signed(scan, language))
}

/// A name that opens a free reply: two capitalised words or more before a comma or where they are from.
pub(super) fn opening(scan: &Scan<'_>, language: &Language) -> Option<Mention> {
    let english = Language::get("en");
    let first = language.names.greetings.at(scan, 0).or_else(|| english.names.greetings.at(scan, 0)).map_or(0, |(_, next)| next);
    let first = first + usize::from(scan.tokens.get(first).is_some_and(|token| first > 0 && token.kind == Kind::Mark));
    let (end, clean) = extent(scan, language, first);
    let words = scan.tokens.get(first..end)?.iter().filter(|token| token.kind == Kind::Word).count();
    let large = scan
        .tokens
        .get(first..end)?
        .iter()
        .filter(|token| token.kind == Kind::Word && !shared().particles.contains(&token.folded))
        .all(|token| capital(scan.raw, token.start));
    // "We're Peel Bros, need 25 pallets": a sentence has begun.
    let stops = |word: &str| language.names.stops.contains(word) || english.names.stops.contains(word);
    if scan.word(first).is_some_and(|word| stops(word) && !shared().names_that_are_words.contains(word)) {
        return None;
    }
    let followed = end < scan.tokens.len() && !scan.tokens[end].is('.');
    let company =
        scan.tokens[first..end].iter().any(|token| matches!(&*token.folded, "foods" | "ltd" | "gmbh" | "bv" | "group" | "company" | "limited" | "inc"));
    (clean && (2..=4).contains(&words) && large && followed && !company).then(|| make(scan, language, first, end)).flatten()
}

fn capital(raw: &str, at: usize) -> bool {
    raw.get(at..).and_then(|rest| rest.chars().next()).is_some_and(|c| !c.is_lowercase())
}

/// A reply that is a name, with greetings, cues and endings around it.
fn whole(scan: &Scan<'_>, language: &Language) -> Option<Mention> {
    let words = &language.names;
    let english = &Language::get("en").names;
    let mut first = 0;
    let mut led = false;
    for _ in 0..4 {
        if let Some((_, next)) = words.cues.at(scan, first).or_else(|| english.cues.at(scan, first)).filter(|(_, next)| *next < scan.tokens.len()) {
            first = next;
            led = true;
        } else if let Some((_, next)) =
            words.greetings.at(scan, first).or_else(|| english.greetings.at(scan, first)).filter(|(_, next)| *next < scan.tokens.len())
        {
            first = next;
        } else if scan.tokens.get(first).is_some_and(|token| token.kind == Kind::Mark && !token.is('<') && !token.is('@')) && first + 1 < scan.tokens.len() {
            first += 1;
        } else {
            break;
        }
    }
    // "Best, Ana Ruiz" is signed, not a name with its family first.
    let signs = language.names.sign_offs.at(scan, first).or_else(|| Language::get("en").names.sign_offs.at(scan, first));
    if signs.is_some_and(|(_, next)| scan.tokens.get(next).is_some_and(|token| token.is(','))) {
        return None;
    }
    let (end, clean) = extent(scan, language, first);
    if let Some(mention) = family_first(scan, language, first, end) {
        return Some(mention);
    }
    (clean || led).then(|| make(scan, language, first, end)).flatten()
}

/// "Ruiz, Ana"
fn family_first(scan: &Scan<'_>, language: &Language, first: usize, end: usize) -> Option<Mention> {
    if !scan.tokens.get(end)?.is(',') || end == first {
        return None;
    }
    let (close, clean) = extent(scan, language, end + 1);
    let given = close.checked_sub(end + 1)?;
    let initial = given == 2 && scan.tokens[close - 1].folded.chars().count() == 1 || given == 3 && scan.tokens[close - 1].is('.');
    // "O'Neill" is one word of two tokens.
    let family_words = (first..end)
        .map(|index| &scan.tokens[index])
        .enumerate()
        .filter(|(step, token)| token.kind == Kind::Word && (*step == 0 || !token.glued) && !shared().particles.contains(&token.folded))
        .count();
    if !clean || family_words != 1 || !(given == 1 || initial) || scan.tokens.len() > close + 1 || !capital(scan.raw, scan.tokens[end + 1].start) {
        return None;
    }
    let one = make(scan, language, first, end)?;
    let other = make(scan, language, end + 1, close)?;
    let name = PersonName { given: other.name.full.clone(), family: one.name.full.clone(), full: format!("{} {}", other.name.full, one.name.full) };
    Some(Mention { name, start: one.start, end: other.end })
}

/// The name behind the first cue that leads to one, anywhere in the reply.
fn cued(scan: &Scan<'_>, language: &Language) -> Option<Mention> {
    let english = Language::get("en");
    (0..scan.tokens.len()).take(400).find_map(|index| {
        let ((), next) = language.names.cues.at(scan, index).or_else(|| english.names.cues.at(scan, index))?;
        let next = if scan.tokens.get(next).is_some_and(|token| token.is(':')) { next + 1 } else { next };
        let (end, _) = extent(scan, language, next);
        let found = make(scan, language, next, end)?;
        capital(scan.raw, found.start).then_some(found)
    })
}

/// The name under "Kind regards," or a line of its own at the end of several lines.
fn signed(scan: &Scan<'_>, language: &Language) -> Option<Mention> {
    let english = Language::get("en");
    let after = (0..scan.tokens.len()).rev().take(60).find_map(|index| {
        let ((), next) = language.names.sign_offs.at(scan, index).or_else(|| english.names.sign_offs.at(scan, index))?;
        let begins = index == 0 || scan.breaks_before(index) || scan.tokens[index - 1].kind == Kind::Mark;
        let mark = scan.tokens.get(next).is_some_and(|token| matches!(&*token.folded, "," | "." | "-" | "–" | "!"));
        let lead = next + usize::from(mark);
        (begins && (mark || scan.breaks_before(next)) && lead < scan.tokens.len()).then_some(lead)
    })?;
    let (end, clean) = extent(scan, language, after);
    let ends = clean && (end >= scan.tokens.len() || scan.breaks_before(end) || scan.tokens[end].kind == Kind::Mark);
    make(scan, language, after, end).filter(|found| ends && capital(scan.raw, found.start))
}

/// The token after the last that can belong to a name, and whether what follows explains itself: nothing, an ending, a
/// comma, where the person is from.
fn extent(scan: &Scan<'_>, language: &Language, first: usize) -> (usize, bool) {
    let english = Language::get("en");
    let tokens = &scan.tokens;
    let mut end = first;
    let mut words = 0;
    let cased = tokens.get(first).is_some_and(|token| capital(scan.raw, token.start));
    while let Some(token) = tokens.get(end) {
        if end > first && scan.breaks_before(end) {
            return (end, true);
        }
        if token.kind == Kind::Digits || words >= WORDS {
            return (end, token.kind == Kind::Digits && token.folded.len() >= 3);
        }
        // "Ana Ruiz ana@heron.example"
        if end > first && !token.glued && is_mail(scan, end) {
            return (end, true);
        }
        if token.kind == Kind::Mark {
            let hyphen = token.is_dash() && token.glued && tokens.get(end + 1).is_some_and(|next| next.glued && next.kind == Kind::Word);
            let initial = token.is('.')
                && token.glued
                && end > first
                && (tokens[end - 1].folded.chars().count() <= 2 || is_title(&tokens[end - 1].folded, language))
                && tokens.get(end + 1).is_some_and(|next| next.kind == Kind::Word);
            let apostrophe = matches!(&*token.folded, "'" | "’") && token.glued && tokens.get(end + 1).is_some_and(|next| next.glued) || token.is('·');
            if hyphen || initial || apostrophe {
                end += 1;
                continue;
            }
            return (end, matches!(&*token.folded, "," | "." | "!" | ";" | "(" | "-" | "–" | "—" | ")" | "\"" | "”" | "/" | "|"));
        }
        let ending = language.names.endings.at(scan, end).or_else(|| english.names.endings.at(scan, end));
        if let Some((_, next)) = ending.filter(|_| end > first)
            && (next >= tokens.len() || tokens[next].kind == Kind::Mark || scan.breaks_before(next))
        {
            return (end, true);
        }
        if language.company.inner.at(scan, end).is_some() && !shared().particles.contains(&token.folded) {
            return (end, end > first);
        }
        // "Jürgen Möller von der Nordkühl GmbH": a legal form behind a cue makes it where they are from.
        if let Some(((), next)) = language.company.inner.at(scan, end)
            && end > first
            && (next..next + 5).any(|index| tokens.get(index).is_some_and(|token| super::company::is_form(&token.folded) && capital(scan.raw, token.start)))
        {
            return (end, true);
        }
        // "Ana de Blue Heron": a particle goes on with the name only before one more capital and the end.
        let particle = shared().particles.contains(&token.folded);
        let small = !capital(scan.raw, token.start);
        let initial = token.folded.chars().count() == 1 && !small && tokens.get(end + 1).is_some_and(|next| next.is('.') && next.glued);
        let ambiguous = !small
            && shared().names_that_are_words.contains(&token.folded)
            && (end > first || &*token.folded == "will" && tokens.get(end + 1).is_some_and(|next| next.kind == Kind::Word && capital(scan.raw, next.start)));
        let stop = !initial && !ambiguous && language.names.stops.contains(&*token.folded);
        if stop && (!particle || small && tokens.get(end + 1).is_none_or(|next| next.kind != Kind::Word)) {
            return (end, false);
        }
        if cased && small && !particle && !is_suffix(&token.folded) && end > first && !tokens[end - 1].folded.ends_with('\'') && !token.glued {
            return (end, false);
        }
        words += 1;
        end += 1;
    }
    (end, true)
}

/// True where the run of tokens without a space that begins here holds an at sign.
fn is_mail(scan: &Scan<'_>, index: usize) -> bool {
    scan.tokens[index..].iter().enumerate().take(12).take_while(|(step, token)| *step == 0 || token.glued).any(|(_, token)| token.is('@'))
}

fn is_title(word: &str, language: &Language) -> bool {
    language.names.titles.contains(word) || LANGUAGES.iter().any(|tag| word.len() > 1 && Language::get(tag).names.titles.contains(word))
}

fn is_suffix(word: &str) -> bool {
    shared().name_suffixes.contains(word)
}

fn make(scan: &Scan<'_>, language: &Language, first: usize, end: usize) -> Option<Mention> {
    let tokens = &scan.tokens;
    let mut begin = first;
    let mut stop = end.min(tokens.len());
    // "Dr. Ana Ruiz", "Frau Ruiz"
    while begin + 1 < stop && is_title(&tokens[begin].folded, language) {
        begin += 1 + usize::from(tokens.get(begin + 1).is_some_and(|token| token.is('.')));
    }
    while stop > begin && tokens[stop - 1].kind == Kind::Mark && !(tokens[stop - 1].is('.') && stop > begin + 1 && is_suffix(&tokens[stop - 2].folded)) {
        stop -= 1;
    }
    let (start, last) = (tokens.get(begin)?.start, tokens.get(stop.checked_sub(1)?)?.end);
    if stop <= begin {
        return None;
    }
    let text = scan.raw.get(start..last)?;
    let letters = text.chars().filter(|c| c.is_alphabetic()).count();
    let single = begin + 1 == stop;
    let stopped = single && (language.names.stops.contains(&*tokens[begin].folded) || Language::get("en").names.stops.contains(&*tokens[begin].folded));
    let too_long = text.chars().count() > CHARACTERS || tokens[begin..stop].iter().any(|token| token.folded.chars().count() > 30);
    if letters < 2 || too_long || stopped || shared().particles.contains(&tokens[begin].folded) && single {
        return None;
    }
    if !single && super::company::is_form(&tokens[stop - 1].folded) && tokens[stop - 1].folded.chars().count() > 2 {
        return None;
    }
    let name = split(text);
    // "Mrs Ashdown", "Herr Möller": a title goes with the family name.
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
    let capitals = |word: &str| word.chars().filter(|c| c.is_alphabetic()).count() >= 3 && !word.contains('.') && word.chars().all(|c| !c.is_lowercase());
    if core == 2 && capitals(words[0]) && words[1].chars().any(char::is_lowercase) {
        return PersonName { given: words[1].into(), family: words[0].into(), full };
    }
    let mut first_of_family = core - 1;
    while first_of_family > 1 && shared().particles.contains(&words[first_of_family - 1].to_lowercase()) {
        first_of_family -= 1;
    }
    PersonName { given: words[..first_of_family].join(" "), family: words[first_of_family..core].join(" "), full }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn check(language: &str, reply: &str, expected: Option<(&str, &str)>) {
        let name = match read(&Scan::new(reply), Language::get(language), None) {
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
        check("en", "Pia Lindqvist", Some(("Pia", "Lindqvist")));
        check("en", "My name is Ana María Ruiz.", Some(("Ana María", "Ruiz")));
        check("en", "Hi, I’m Renske van der Vaal, thanks", Some(("Renske", "van der Vaal")));
        check("en", "Ruiz, Ana", Some(("Ana", "Ruiz")));
        check("en", "Tom here", Some(("Tom", "")));
        check("en", "Siobhán O’Neill-Byrne", Some(("Siobhán", "O’Neill-Byrne")));
        check("en", "أحمد علي", Some(("أحمد", "علي")));
        check("en", "ana ruiz", Some(("ana", "ruiz")));
        check("en", "Dr. Ana Ruiz", Some(("Ana", "Ruiz")));
        check("en", "this is Ana Ruiz from Blue Heron Ices", Some(("Ana", "Ruiz")));
        check("en", "Ana Ruiz, head of operations", Some(("Ana", "Ruiz")));
        check("en", "Sure, my name is J. R. Hartley", Some(("J. R.", "Hartley")));
        check("en", "We need space soon.\nKind regards,\nAna Ruiz\nBlue Heron Ices", Some(("Ana", "Ruiz")));
        check("de", "Ich heiße Jürgen von der Heide", Some(("Jürgen", "von der Heide")));
        check("fr", "je m'appelle Aurélie Dupuis", Some(("Aurélie", "Dupuis")));
        check("nl", "mijn naam is Renske de Vries", Some(("Renske", "de Vries")));
        check("pl", "Nazywam się Łucja Wrona", Some(("Łucja", "Wrona")));
    }

    #[test]
    fn a_sentence_a_number_or_markup_is_no_name() {
        for reply in [
            "what do you want that for?",
            "340",
            "<b>Pia</b>",
            "=1+1",
            "😀",
            "x",
            "we need 40 pallets",
            "pia@harrow.example",
            "no",
            "Ana wants forty pallets",
            "why",
            "I'm busy",
        ] {
            check("en", reply, None);
        }
    }

    #[test]
    fn a_family_name_completes_a_given_name_heard_before() {
        let earlier = Value::Name(split("Pia"));
        let Found::Value(Value::Name(name), _) = read(&Scan::new("Lindqvist"), Language::get("en"), Some(&earlier)) else { panic!() };
        assert_eq!(name, PersonName { given: "Pia".into(), family: "Lindqvist".into(), full: "Pia Lindqvist".into() });
    }
}
