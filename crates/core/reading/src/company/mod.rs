//! A company's name, as given, without the words around it.

mod made;
mod told;

pub(super) use made::{form_at, is_form};
use made::{make, tidy};
use told::{either, indefinite, leads_elsewhere, person_of, two_names, with_form_anywhere};

use super::took_back::behind_correction;
use super::{Found, Heard};
use lumbo_language::{Kind, Language, Scan, Token, fold, shared};
use lumbo_value::Value;

const CHARACTERS: usize = 120;

/// A company in a reply, by its bytes.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(super) struct Mention {
    pub name: String,
    pub start: usize,
    pub end: usize,
}

fn capital(raw: &str, at: usize) -> bool {
    raw.get(at..).and_then(|rest| rest.chars().next()).is_some_and(|c| c.is_uppercase() || c.is_ascii_digit())
}

/// Reads one company's name.
pub(super) fn read(scan: &Scan<'_>, language: &Language) -> Found {
    if let Some(found) = behind_correction(scan, language, |rest| read(rest, language)) {
        return found;
    }
    if either(scan, language) || person_of(scan) {
        return Found::Several(Heard::whole(scan.raw));
    }
    // "This is Ana Ruiz from Blue Heron Ices", "Priya from Coldway" lead to the person first.
    let given = scan.word(0).is_some_and(|word| shared().given_names.contains(word));
    let begins_with_person = given && (1..3).any(|index| language.company.inner.at(scan, index).is_some());
    let person = begins_with_person
        || language.names.cues.at(scan, 0).is_some()
        || Language::get("en").names.cues.at(scan, 0).is_some();
    let inner = inner(scan, language, person);
    let named = inner
        .as_ref()
        .is_some_and(|((word, length), _)| *length >= 2 || word.contains("call") || word.contains("name"));
    let first = if person || named { inner.map(|(_, mention)| mention) } else { None };
    if first.is_none() && (indefinite(scan, language) || two_names(scan, language)) {
        return Found::Nothing;
    }
    let found =
        first.or_else(|| led(scan, language)).or_else(|| mention(scan, language)).or_else(|| plain(scan, language));
    found.map_or(Found::Nothing, |mention| {
        Found::Value(Value::text(mention.name), Heard::at(scan.raw, mention.start, mention.end))
    })
}

/// A company by its cues inside a free reply: behind "from" or "on behalf of", in brackets, with a legal form, under a
/// signature.
pub(super) fn mention(scan: &Scan<'_>, language: &Language) -> Option<Mention> {
    let english = Language::get("en");
    let large = |index: usize| scan.tokens.get(index).is_some_and(|token| capital(scan.raw, token.start));
    let led_to_person = |index: usize| {
        language
            .names
            .cues
            .at(scan, index)
            .or_else(|| english.names.cues.at(scan, index))
            .is_some_and(|(_, next)| large(next))
    };
    let person = (0..scan.tokens.len().min(60)).any(led_to_person);
    // "We come from Hull": one word behind a short cue may be a town.
    let sure = |((_, length), mention): &((&str, usize), Mention)| person || *length > 1 || mention.name.contains(' ');
    inner(scan, language, person)
        .filter(sure)
        .map(|(_, mention)| mention)
        .or_else(|| {
            led(scan, language).filter(|mention| mention.name.contains(' ') && capital(scan.raw, mention.start))
        })
        .or_else(|| bracketed(scan))
        .or_else(|| with_form(scan, language))
        .or_else(|| signed(scan, language))
}

/// The reply begins with words that lead to the name.
fn led(scan: &Scan<'_>, language: &Language) -> Option<Mention> {
    let english = Language::get("en");
    let mut first = 0;
    let mut led = false;
    for _ in 0..3 {
        if let Some((_, next)) = language
            .company
            .cues
            .at(scan, first)
            .or_else(|| english.company.cues.at(scan, first))
            .filter(|(_, next)| *next < scan.tokens.len())
        {
            first = next;
            led = true;
        } else if let Some((_, next)) =
            language.names.greetings.at(scan, first).filter(|(_, next)| *next < scan.tokens.len())
        {
            first = next;
        } else if scan.tokens.get(first).is_some_and(|token| matches!(&*token.folded, "," | ":" | "!" | "="))
            && first + 1 < scan.tokens.len()
        {
            first += 1;
        } else {
            break;
        }
    }
    // "It's personal": behind words that lead to many things, a name is written as one.
    if !led {
        return None;
    }
    let lead = fold(scan.raw.get(..scan.tokens.get(first)?.start)?);
    let told =
        !shared().weak_leads.contains(&lead) || capital(scan.raw, scan.tokens[first].start) || with_form_anywhere(scan);
    told.then(|| make(scan, language, first)).flatten()
}

/// A company behind a cue inside the reply, with the cue's first word and its length in tokens; longer cues are surer.
/// Words that join names too ("de", "von") count only where the reply began with a person.
fn inner<'a>(scan: &'a Scan<'_>, language: &Language, person: bool) -> Option<((&'a str, usize), Mention)> {
    let english = Language::get("en");
    let mut found: Vec<((&str, usize), Mention)> = Vec::new();
    for index in 0..scan.tokens.len().min(400) {
        let Some((_, next)) = language.company.inner.at(scan, index).or_else(|| english.company.inner.at(scan, index))
        else {
            continue;
        };
        let weak = next == index + 1 && matches!(scan.word(index), Some("de" | "von" | "van" | "z"));
        let with_form = (next..next + 5)
            .take_while(|at| scan.tokens.get(*at).is_some_and(|token| !token.is(',')))
            .any(|at| form_at(scan, at));
        if weak && !person && !with_form {
            continue;
        }
        let at = if scan.tokens.get(next).is_some_and(|token| token.is(':')) { next + 1 } else { next };
        if !scan
            .tokens
            .get(at)
            .is_some_and(|token| capital(scan.raw, token.start) && !starts_otherwise(scan, at, language))
        {
            continue;
        }
        // "At 4 Silk Street, Derby"
        let address = || {
            super::place::address(scan, language, None, at)
                .is_some_and(|(place, ..)| place.town.is_some() && !place.lines.is_empty())
        };
        if scan.tokens[at].kind == Kind::Digits && address() {
            continue;
        }
        if let Some(mention) = make(scan, language, at) {
            found.push(((scan.word(index).unwrap_or_default(), next - index), mention));
        }
    }
    found.into_iter().max_by_key(|((_, length), mention)| (*length, std::cmp::Reverse(mention.start)))
}

/// A month, a weekday, a number, a country: "from March", "at 3", "from Germany".
fn starts_otherwise(scan: &Scan<'_>, index: usize, language: &Language) -> bool {
    let english = Language::get("en");
    let one = !scan.tokens.get(index + 1).is_some_and(|next| next.kind == Kind::Word && capital(scan.raw, next.start));
    let date = [language, english].iter().any(|language| {
        language.dates.months.at(scan, index).is_some()
            || language.dates.weekdays.at(scan, index).is_some_and(|_| scan.tokens[index].folded.chars().count() > 2)
    });
    let country = super::country::at(scan, index).is_some_and(|(_, next)| {
        !scan.tokens.get(next).is_some_and(|token| token.kind == Kind::Word && capital(scan.raw, token.start))
    });
    let month = [language, english].iter().any(|language| language.dates.months.at(scan, index + 1).is_some());
    let digits = scan.tokens[index].kind == Kind::Digits && (one || month);
    let pronoun = matches!(&*scan.tokens[index].folded, "i" | "we" | "you");
    date && one || country || digits || pronoun
}

fn bracketed(scan: &Scan<'_>) -> Option<Mention> {
    // "Heron (UK) Ltd" has its bracket inside.
    let within = scan
        .tokens
        .iter()
        .position(|token| token.is(')'))
        .and_then(|close| scan.tokens.get(close + 1))
        .is_some_and(|next| is_form(&next.folded));
    if within {
        return None;
    }
    // "Blue Heron Ices (Leeds)": one word in brackets is where they are, unless a person stands before it.
    let open_at = scan.tokens.iter().position(|token| token.is('('))?;
    let words = scan.tokens[..open_at].iter().filter(|token| token.kind == Kind::Word).count();
    let one = scan.tokens.get(open_at + 2).is_some_and(|token| token.is(')'));
    // "020 7946 0958 (Ana)" is whom to ask for.
    let numbered = open_at > 0 && scan.tokens[open_at - 1].kind == Kind::Digits;
    // "ana@heron.example (Ana Ruiz)"
    let before = &scan.tokens[..open_at];
    let said = scan.word(open_at + 1).is_some_and(|word| before.iter().any(|token| token.folded == word));
    let person = before.iter().any(|token| token.is('@')) && (said || super::name::listed_pair(scan, open_at + 1));
    if numbered || person || words > 2 && one || scan.tokens[..open_at].iter().any(|token| is_form(&token.folded)) {
        return None;
    }
    let open = scan.raw.find('(')?;
    let close = scan.raw[open..].find(')')? + open;
    let inside = scan.raw.get(open + 1..close)?;
    let text = inside.trim();
    let start = open + 1 + (inside.len() - inside.trim_start().len());
    let named = capital(scan.raw, start)
        && !text.contains('@')
        && text.chars().any(char::is_lowercase)
        && text.split_whitespace().count() <= 6
        && !text.chars().all(|c| c.is_ascii_digit());
    named.then(|| Mention { name: tidy(text), start, end: start + text.len() })
}

/// Capitalised words that end with a legal form.
fn with_form(scan: &Scan<'_>, language: &Language) -> Option<Mention> {
    let tokens = &scan.tokens;
    for index in 1..tokens.len().min(400) {
        let polish = tokens[index].folded == "sp"
            && tokens.get(index + 1).is_some_and(|token| token.is('.'))
            && scan.word(index + 2) == Some("z");
        // "Kron & Söhne", "Marsh and Daughters"
        let tail = shared().firm_tails.contains(&tokens[index].folded)
            && capital(scan.raw, tokens[index].start)
            && (tokens[index - 1].is('&') || scan.word(index - 1).is_some_and(|word| shared().ands.contains(word)));
        let form = form_at(scan, index) || polish || tail;
        if !form
            || matches!(&*tokens[index].folded, "as" | "se" | "co" | "sp" | "sa")
                && !tokens.get(index + 1).is_some_and(|token| token.is('.'))
        {
            continue;
        }
        let mut first = index;
        while first > 0 {
            let before = &tokens[first - 1];
            let part = capital(scan.raw, before.start) && before.kind == Kind::Word
                || before.is('&')
                || before.is(',') && first == index
                // "Holt, Rell & Nand LLP"
                || before.is(',')
                    && tokens[first..index].iter().any(|token| token.is('&'))
                    && (first == 2 || first > 2 && tokens[first - 3].is(','))
                || before.is('-') && before.glued
                || before.kind == Kind::Digits && before.folded.len() <= 4
                || (before.is('%') || before.is('\'')) && before.glued
                || before.is('.') && before.glued && first >= 2 && tokens[first - 2].folded.chars().count() == 1
                || before.kind == Kind::Word && language.join.contains(&*before.folded);
            let joins =
                language.join.contains(&*before.folded) && first >= 2 && capital(scan.raw, tokens[first - 2].start);
            let stops = language.company.stops.contains(&*before.folded) && !capital(scan.raw, before.start) && !joins;
            if !part || index - first > 7 || scan.breaks_before(first) || stops {
                break;
            }
            first -= 1;
        }
        while first < index
            && tokens[first].kind != Kind::Digits
            && !(tokens[first].kind == Kind::Word && capital(scan.raw, tokens[first].start))
        {
            first += 1;
        }
        if first < index {
            return make(scan, language, first);
        }
    }
    None
}

/// The line under a name that is signed: sign-off, name, company.
fn signed(scan: &Scan<'_>, language: &Language) -> Option<Mention> {
    let english = Language::get("en");
    let lines: Vec<(usize, &str)> = scan
        .raw
        .split('\n')
        .scan(0, |at, line| {
            let start = *at;
            *at += line.len() + 1;
            Some((start, line))
        })
        .filter(|(_, line)| !line.trim().is_empty())
        .take(60)
        .collect();
    let sign_off = lines.iter().position(|(_, line)| {
        let scan = Scan::new(line);
        let end = language.names.sign_offs.at(&scan, 0).or_else(|| english.names.sign_offs.at(&scan, 0));
        end.is_some_and(|(_, next)| scan.tokens[next..].iter().all(|token| token.kind == Kind::Mark))
    })?;
    let (start, line) = lines.get(sign_off + 2)?;
    let text = line.trim();
    let start = start + (line.len() - line.trim_start().len());
    let named = capital(scan.raw, start)
        && !text.contains('@')
        && text.chars().filter(char::is_ascii_digit).count() < 4
        && text.split_whitespace().count() <= 6;
    named.then(|| Mention {
        name: tidy(text.trim_end_matches(',')),
        start,
        end: start + text.trim_end_matches(',').len(),
    })
}

/// The whole reply is the name, where it does not read like a sentence or a question.
fn plain(scan: &Scan<'_>, language: &Language) -> Option<Mention> {
    let words: Vec<&str> =
        scan.tokens.iter().filter(|token| token.kind == Kind::Word).map(|token| &*token.folded).collect();
    if leads_elsewhere(scan, language) {
        return None;
    }
    let question = scan.raw.trim_end().ends_with('?')
        || words.first().is_some_and(|word| language.questions_contains(word)) && words.len() > 2;
    let verbs = words
        .iter()
        .filter(|word| matches!(**word, "i" | "we" | "you" | "need" | "want" | "have" | "please" | "is" | "don't"))
        .count();
    if question
        || verbs >= 2
        || words.len() > 9
        || scan.raw.contains('@')
        || words.is_empty()
        || language.questions_contains(words[0]) && words.len() == 1
    {
        return None;
    }
    // A firm may be called anything; a name with marks that no sentence has is kept as it was written.
    let odd = |token: &Token<'_>| {
        token.kind == Kind::Mark
            && matches!(&*token.folded, "<" | ">" | "=" | "*" | "#" | "™" | "®" | "_" | "^" | "~" | "|")
    };
    if scan.tokens.iter().any(odd) {
        let text = scan.raw.trim();
        let start = scan.raw.len() - scan.raw.trim_start().len();
        let named =
            text.chars().any(char::is_alphanumeric) && text.chars().count() <= CHARACTERS && !text.contains('\n');
        return named.then(|| Mention { name: tidy(text), start, end: start + text.len() });
    }
    let quoted = scan.tokens.iter().take_while(|token| matches!(&*token.folded, "\"" | "“" | "„" | "«" | "'")).count();
    make(scan, language, quoted)
}

#[cfg(test)]
mod tests {
    use super::*;

    fn check(language: &str, reply: &str, expected: Option<&str>) {
        let found = match read(&Scan::new(reply), Language::get(language)) {
            Found::Value(Value::Text { text }, _) => Some(text),
            _ => None,
        };
        assert_eq!(found.as_deref(), expected, "{reply}");
    }

    #[test]
    fn the_words_around_a_company_are_left_out() {
        for (reply, expected) in [
            ("Harrow & Peel Foods", "Harrow & Peel Foods"),
            ("I’m from Vaal Sea Produce B.V.", "Vaal Sea Produce B.V."),
            ("on behalf of Kettle Lane Bakehouse", "Kettle Lane Bakehouse"),
            ("  At  Mossfield   Dairy. ", "Mossfield Dairy"),
            ("Ätna GmbH", "Ätna GmbH"),
            ("This is Ana Ruiz from Blue Heron Ices", "Blue Heron Ices"),
            ("Ana Ruiz (Blue Heron Ices)", "Blue Heron Ices"),
            ("our company is called Peas and Co.", "Peas and Co."),
            ("Blue Heron Ices, we make sorbet", "Blue Heron Ices"),
            ("we're Harrow and Peel Ltd.", "Harrow and Peel Ltd."),
            ("kettle lane bakehouse", "kettle lane bakehouse"),
            ("I work for 3 Bears Foods and need space", "3 Bears Foods"),
            ("<b>Frost</b> & =Sons", "<b>Frost</b> & =Sons"),
            ("Heron (UK) Ltd", "Heron (UK) Ltd"),
            ("Thanks,\nAna Ruiz\nBlue Heron Ices", "Blue Heron Ices"),
        ] {
            check("en", reply, Some(expected));
        }
        check("de", "Ich arbeite bei der Nordkühl GmbH & Co. KG", Some("Nordkühl GmbH & Co. KG"));
        check("fr", "je travaille chez Glaces du Héron", Some("Glaces du Héron"));
        check("pl", "reprezentuję firmę Lody Czapla sp. z o.o.", Some("Lody Czapla sp. z o.o."));
        for reply in ["???", "why?", "  ", "what do you need that for?"] {
            check("en", reply, None);
        }
    }
}
