//! A person's name: the words around it left out, given and family name split.

mod extent;
mod made;

use extent::extent;
pub use made::split;
use made::{make, split_in};

use super::took_back::behind_correction;
use super::{Found, Heard};
use lumbo_language::{Kind, Language, Lexicon, Scan, fold, shared};
use lumbo_value::{PersonName, Value};

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

/// Reads one name; of one that was taken back, what stands behind. A single word completes a given name that was heard
/// before.
pub(super) fn read(scan: &Scan<'_>, language: &Language, earlier: Option<&Value>) -> Found {
    if let Some(found) = behind_correction(scan, language, |rest| read(rest, language, earlier)) {
        return found;
    }
    let Some(mention) = in_parts(scan, language)
        .or_else(|| whole(scan, language))
        .or_else(|| cued(scan, language))
        .or_else(|| signed(scan, language))
    else {
        return Found::Nothing;
    };
    // "ana.ruiz@heron.example" is an address, and no name.
    if super::email::mentions(scan.raw).iter().any(|address| address.start < mention.end && mention.start < address.end)
    {
        return Found::Nothing;
    }
    let mut person = mention.name;
    if let Some(Value::Name(before)) = earlier
        && before.family.is_empty()
        && !person.full.contains(' ')
        && !before.full.eq_ignore_ascii_case(&person.full)
    {
        person = PersonName {
            given: before.full.clone(),
            family: person.full.clone(),
            full: format!("{} {}", before.full, person.full),
        };
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
    let first = language
        .names
        .greetings
        .at(scan, 0)
        .or_else(|| english.names.greetings.at(scan, 0))
        .map_or(0, |(_, next)| next);
    let first = first + usize::from(scan.tokens.get(first).is_some_and(|token| first > 0 && token.kind == Kind::Mark));
    let (end, clean) = extent(scan, language, first);
    let words = scan.tokens.get(first..end)?.iter().filter(|token| token.kind == Kind::Word).count();
    // "Ben from Tall Oak"
    let one = words == 1
        && shared().given_names.contains(&scan.tokens[first].folded)
        && language.company.inner.at(scan, end).is_some();
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
    let followed = end < scan.tokens.len() && (!scan.tokens[end].is('.') || scan.breaks_before(end + 1));
    let company = scan.tokens[first..end].iter().any(|token| shared().organisations.contains(&token.folded));
    (clean && (one || (2..=4).contains(&words)) && large && followed && !company)
        .then(|| make(scan, language, first, end))
        .flatten()
}

/// A clause that is a listed given name and what follows it, beside an address or a number to reach them by:
/// "…, Ana Ruiz, ana@heron.example".
pub(super) fn beside_contact(scan: &Scan<'_>, language: &Language, claimed: &[(usize, usize)]) -> Option<Mention> {
    let contact = |(start, end): &&(usize, usize)| {
        let text = scan.raw.get(*start..*end).unwrap_or_default();
        text.contains('@') || text.chars().filter(char::is_ascii_digit).count() >= 7
    };
    let mark = |index: usize| scan.tokens.get(index).is_some_and(|token| token.kind == Kind::Mark);
    claimed.iter().filter(contact).find_map(|(start, stop)| {
        let (first, next) = (scan.at_byte(*start), scan.at_byte(*stop));
        let begins = |index: &usize| *index == 0 || mark(*index - 1) || scan.breaks_before(*index);
        let before = (first.saturating_sub(8)..first).rev().filter(begins);
        let behind = (next..next + 3).find(|index| !mark(*index));
        // "ana.ruiz@heron.example (Ana Ruiz)" says the name in the address.
        let in_address = |index: usize| {
            let large = |index: usize| scan.word(index).is_some() && capital(scan.raw, scan.tokens[index].start);
            large(index)
                && large(index + 1)
                && scan.tokens[first..next].iter().any(|token| token.folded == scan.tokens[index].folded)
        };
        before
            .chain(behind)
            .filter(|index| begins(index) && (listed_pair(scan, *index) || in_address(*index)))
            .find_map(|index| {
                let (end, clean) = extent(scan, language, index);
                let large = (index..end).all(|at| {
                    scan.word(at).is_none_or(|word| shared().particles.contains(word))
                        || capital(scan.raw, scan.tokens[at].start)
                });
                let ends = end >= scan.tokens.len() || mark(end) || scan.breaks_before(end) || end == first;
                let beside = index > first || (end..first).all(mark);
                (clean && large && ends && beside && end - index <= 4)
                    .then(|| make(scan, language, index, end))
                    .flatten()
            })
    })
}

/// True where a cue leads to a name and as often to what they are: "I'm Ana", "I'm hungry". What is written small
/// behind it, or as every noun is, is a name only where it is a given one.
fn told(scan: &Scan<'_>, language: &Language, cue: (usize, usize), end: usize) -> bool {
    let (from, first) = cue;
    let said = fold(scan.raw.get(scan.tokens[from].start..scan.tokens[first - 1].end).unwrap_or_default());
    if !shared().weak_leads.contains(&said) || scan.tokens.len() <= first {
        return true;
    }
    let large = capital(scan.raw, scan.tokens[first].start) && !(language.nouns_are_large && end == first + 1);
    large || shared().given_names.contains(&scan.tokens[first].folded)
}

/// True where a listed given name and one more word written large stand at a token: a person, not a town.
pub(super) fn listed_pair(scan: &Scan<'_>, index: usize) -> bool {
    let large = |index: usize| scan.word(index).is_some() && capital(scan.raw, scan.tokens[index].start);
    large(index) && large(index + 1) && shared().given_names.contains(&scan.tokens[index].folded)
}

fn capital(raw: &str, at: usize) -> bool {
    raw.get(at..).and_then(|rest| rest.chars().next()).is_some_and(|c| !c.is_lowercase())
}

/// "First name Ana, last name Ruiz", in either order.
fn in_parts(scan: &Scan<'_>, language: &Language) -> Option<Mention> {
    let words = &language.names;
    let part = |cues: &Lexicon<()>| {
        let next = (0..scan.tokens.len().min(40)).find_map(|index| cues.at(scan, index).map(|(_, next)| next))?;
        let next = next
            + (next..scan.tokens.len())
                .take_while(|at| scan.tokens[*at].is(':') || scan.tokens[*at].is('=') || scan.word(*at) == Some("is"))
                .count();
        let goes_on = |at: &usize| {
            scan.word(*at).is_some()
                && words.given_cues.at(scan, *at).is_none()
                && words.family_cues.at(scan, *at).is_none()
        };
        let end = next + (next..scan.tokens.len()).take_while(goes_on).count();
        let end = (next..end)
            .find(|at| *at > next && (scan.breaks_before(*at) || language.join.contains(&*scan.tokens[*at].folded)))
            .unwrap_or(end);
        make(scan, language, next, end).filter(|_| end > next)
    };
    let (given, family) = (part(&words.given_cues)?, part(&words.family_cues)?);
    if given.start == family.start {
        return None;
    }
    let full = format!("{} {}", given.name.full, family.name.full);
    let name = PersonName { given: given.name.full, family: family.name.full, full };
    Some(Mention { name, start: given.start.min(family.start), end: given.end.max(family.end) })
}

/// A reply that is a name, with greetings, cues and endings around it.
fn whole(scan: &Scan<'_>, language: &Language) -> Option<Mention> {
    let words = &language.names;
    let english = &Language::get("en").names;
    let mut first = 0;
    let mut led = false;
    let mut cue = None;
    for _ in 0..4 {
        if let Some((_, next)) = words
            .cues
            .at(scan, first)
            .or_else(|| english.cues.at(scan, first))
            .filter(|(_, next)| *next < scan.tokens.len())
        {
            cue = Some((first, next));
            first = next;
            led = true;
        } else if let Some((_, next)) = words
            .greetings
            .at(scan, first)
            .or_else(|| english.greetings.at(scan, first))
            .filter(|(_, next)| *next < scan.tokens.len())
        {
            first = next;
        } else if scan
            .tokens
            .get(first)
            .is_some_and(|token| token.kind == Kind::Mark && !token.is('<') && !token.is('@'))
            && first + 1 < scan.tokens.len()
        {
            // "'t Hooft" begins with its mark.
            if scan.tokens[first].is('\'') && scan.tokens[first + 1].folded.len() == 1 {
                return None;
            }
            first += 1;
        } else {
            break;
        }
    }
    // "Best, Ana Ruiz" is signed, not a name with its family first.
    let signs =
        language.names.sign_offs.at(scan, first).or_else(|| Language::get("en").names.sign_offs.at(scan, first));
    if signs
        .is_some_and(|(_, next)| scan.tokens.get(next).is_some_and(|token| token.is(',') || scan.breaks_before(next)))
    {
        return None;
    }
    let (end, clean) = extent(scan, language, first);
    if cue.is_some_and(|cue| cue.1 == first && !told(scan, language, cue, end)) {
        return None;
    }
    if let Some(mention) = nicknamed(scan, language, first, end).or_else(|| family_first(scan, language, first, end)) {
        return Some(mention);
    }
    // "holt, joss": written small, either could be the family's.
    let small_pair = end == first + 1
        && scan.tokens.len() == first + 3
        && scan.tokens[end].is(',')
        && scan.word(first + 2).is_some();
    if small_pair
        && !capital(scan.raw, scan.tokens[first].start)
        && !shared().given_names.contains(&scan.tokens[first].folded)
    {
        return None;
    }
    // "The name is Calder, Joss Calder": said again in full.
    if end == first + 1 && scan.tokens.get(end).is_some_and(|token| token.is(',') || token.is('.')) {
        let (close, again) = extent(scan, language, end + 1);
        let said_again = |index: usize| scan.tokens[index].folded == scan.tokens[first].folded;
        if again && close > end + 2 && (said_again(close - 1) || said_again(end + 1)) {
            return make(scan, language, end + 1, close);
        }
    }
    (clean || led).then(|| make(scan, language, first, end)).flatten()
}

/// "Thomas (Tom) Bright", "Thomas 'Tom' Bright": what they are called by stands inside the name and is left out.
fn nicknamed(scan: &Scan<'_>, language: &Language, first: usize, end: usize) -> Option<Mention> {
    let closes = match &*scan.tokens.get(end)?.folded {
        "(" => ")",
        "\"" => "\"",
        "“" => "”",
        _ => return None,
    };
    scan.word(end + 1)?;
    let behind = end + 3;
    if end == first || scan.tokens.get(end + 2)?.folded != closes || !capital(scan.raw, scan.tokens.get(behind)?.start)
    {
        return None;
    }
    let (close, clean) = extent(scan, language, behind);
    let (before, after) = (make(scan, language, first, end)?, make(scan, language, behind, close).filter(|_| clean)?);
    let name = split_in(&format!("{} {}", before.name.full, after.name.full), &language.given_before_two_family_names);
    Some(Mention { name, start: before.start, end: after.end })
}

/// "Ruiz, Ana"
fn family_first(scan: &Scan<'_>, language: &Language, first: usize, end: usize) -> Option<Mention> {
    if !scan.tokens.get(end)?.is(',') || end == first {
        return None;
    }
    let (close, clean) = extent(scan, language, end + 1);
    let given = close.checked_sub(end + 1)?;
    // "Jong, Sanne de"
    let particle_last = given == 2
        && shared().particles.contains(&scan.tokens[close - 1].folded)
        && !capital(scan.raw, scan.tokens[close - 1].start);
    let initial = particle_last
        || given == 2 && scan.tokens[close - 1].folded.chars().count() == 1
        || given == 3 && scan.tokens[close - 1].is('.');
    // "O'Neill" is one word of two tokens.
    let family_words = (first..end)
        .map(|index| &scan.tokens[index])
        .enumerate()
        .filter(|(step, token)| {
            token.kind == Kind::Word && (*step == 0 || !token.glued) && !shared().particles.contains(&token.folded)
        })
        .count();
    if !clean
        || family_words != 1
        || !(given == 1 || initial)
        || scan.tokens.len() > close + 1
        || !capital(scan.raw, scan.tokens[end + 1].start)
    {
        return None;
    }
    let one = make(scan, language, first, end)?;
    let other = make(scan, language, end + 1, close)?;
    let name = match other.name.full.split_once(' ').filter(|_| particle_last) {
        Some((given, particle)) => {
            let family = format!("{particle} {}", one.name.full);
            PersonName { given: given.to_owned(), full: format!("{given} {family}"), family }
        }
        None => PersonName {
            given: other.name.full.clone(),
            family: one.name.full.clone(),
            full: format!("{} {}", other.name.full, one.name.full),
        },
    };
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
        (capital(scan.raw, found.start) && told(scan, language, (index, next), end)).then_some(found)
    })
}

/// The name under "Kind regards," or a line of its own at the end of several lines.
fn signed(scan: &Scan<'_>, language: &Language) -> Option<Mention> {
    let english = Language::get("en");
    let after = (0..scan.tokens.len()).rev().take(60).find_map(|index| {
        let ((), next) =
            language.names.sign_offs.at(scan, index).or_else(|| english.names.sign_offs.at(scan, index))?;
        let begins = index == 0 || scan.breaks_before(index) || scan.tokens[index - 1].kind == Kind::Mark;
        let mark = scan.tokens.get(next).is_some_and(|token| matches!(&*token.folded, "," | "." | "-" | "–" | "!"));
        let lead = next + usize::from(mark);
        (begins && (mark || scan.breaks_before(next)) && lead < scan.tokens.len()).then_some(lead)
    })?;
    let (end, clean) = extent(scan, language, after);
    let ends = clean && (end >= scan.tokens.len() || scan.breaks_before(end) || scan.tokens[end].kind == Kind::Mark);
    make(scan, language, after, end).filter(|found| ends && capital(scan.raw, found.start))
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
        let Found::Value(Value::Name(name), _) = read(&Scan::new("Lindqvist"), Language::get("en"), Some(&earlier))
        else {
            panic!()
        };
        assert_eq!(name, PersonName { given: "Pia".into(), family: "Lindqvist".into(), full: "Pia Lindqvist".into() });
    }
}
