//! Places and postal addresses: towns, regions, postcodes, countries, lines.
//!
//! Shapes of postcodes are listed in `data/postcodes.json`. What cannot be told apart stays together: a part that
//! is not known is absent.

mod address;
mod postcode;

pub(super) use address::{address, read_address};
use postcode::{postcode, unlabelled};

use super::{Found, Heard, country};
use lumbo_language::{Kind, Language, Scan, Token, fold, shared};
use lumbo_value::{Place, Value};

/// The country that a part of an address is, or ends with; the rest of the part.
fn country_of(part: &str) -> Option<(&'static str, &str)> {
    let scan = Scan::new(part);
    let last = scan.tokens.len();
    (0..last).find_map(|index| {
        let (code, next) = country::at(&scan, index)?;
        let rest = part.get(..scan.tokens[index].start)?.trim_end_matches([' ', ',', '(']);
        // "LS1 4AE" ends with letters that are a code elsewhere.
        if scan.tokens[index].glued && index > 0 && scan.tokens[index - 1].kind == Kind::Digits {
            return None;
        }
        let ends = scan.tokens[next..].iter().all(|token| matches!(&*token.folded, "." | ")"));
        ends.then_some((code, rest))
    })
}

fn has_digit(text: &str) -> bool {
    text.chars().any(|c| c.is_ascii_digit())
}

/// A name of a town or region: letters, a few words, no digits.
fn is_name(text: &str, language: &Language) -> bool {
    let words: Vec<String> = text.split_whitespace().map(fold).collect();
    (1..=5).contains(&words.len())
        && !has_digit(text)
        && text.chars().filter(|c| c.is_alphabetic()).count() >= 2
        && text.chars().all(|c| {
            c.is_alphabetic()
                || matches!(c, ' ' | '-' | '\'' | '’' | '.' | '(' | ')')
                || ('\u{300}'..='\u{36f}').contains(&c)
        })
        && !words.iter().all(|word| shared().no_places.contains(word) || language.place.stops.contains(word))
        && !one_of_many(text)
        && words.first().is_some_and(|word| !language.questions_contains(word) && !language.place.stops.contains(word))
        && !two_places(text, language)
}

/// "A village", "mostly Leeds": beside a name written large, small words are no part of it but those that join names.
fn one_of_many(text: &str) -> bool {
    let large = |word: &&str| word.starts_with(char::is_uppercase);
    let words: Vec<&str> = text.split_whitespace().collect();
    let small = |word: &&str| {
        word.starts_with(char::is_lowercase)
            && !shared().inside_places.contains(&fold(word))
            && !shared().particles.contains(&fold(word))
    };
    words.iter().any(large) && words.iter().any(small)
        || words.first().is_some_and(|word| shared().indefinite.contains(word))
}

/// "Leeds or York", "between Leeds and York": more than one place.
fn two_places(text: &str, language: &Language) -> bool {
    let scan = Scan::new(text);
    (0..scan.tokens.len()).any(|index| {
        let small = scan.is_small(index) && !scan.tokens[index].glued;
        let joins = language.list.joins.at(&scan, index).is_some()
            || scan.word(index).is_some_and(|word| shared().between.contains(word));
        small && joins
    })
}

/// The text behind the words that lead to a place, up to what goes on about something else; with its bytes.
fn stretch(scan: &Scan<'_>, language: &Language, from: usize, lines: bool) -> (usize, usize) {
    let tokens = &scan.tokens;
    let mut first = from;
    for _ in 0..3 {
        if let Some((_, next)) = language.place.cues.at(scan, first).filter(|(_, next)| *next < tokens.len()) {
            first = next;
        } else if tokens.get(first).is_some_and(|token| {
            matches!(&*token.folded, "," | ":" | "!" | "-")
                || token.folded == "the" && scan.raw[token.start..].starts_with('t')
        }) && first + 1 < tokens.len()
        {
            first += 1;
        } else {
            break;
        }
    }
    let mut end = first;
    while let Some(token) = tokens.get(end) {
        let small = scan.is_small(end);
        let stop = end > first
            && !token.glued
            && small
            && language.place.stops.contains(&*token.folded)
            && !matches!(&*token.folded, "in" | "en" | "w" | "and" | "und" | "et" | "y" | "i")
            && !(lines && matches!(&*token.folded, "the" | "of"));
        // "St. Albans", "Hauptstr. 5": a full stop ends it only before a capital that begins a sentence.
        let before = end.checked_sub(1).map(|before| &tokens[before]);
        let long = before.is_some_and(|before| before.folded.chars().count() > 3 && !before.folded.ends_with("str"));
        // "CB7 4EE. We open in May"
        let code = end > first + 1
            && before.is_some_and(|before| before.glued && before.kind == Kind::Word)
            && tokens[end - 2].kind == Kind::Digits;
        let full_stop = token.is('.')
            && !tokens.get(end + 1).is_some_and(|next| next.glued)
            && (end == first || end + 1 == tokens.len() || long || code);
        let breaks = end > first && !lines && scan.breaks_before(end);
        // "In Leeds and want 30": what goes on small is no second town.
        let opens_large = scan.is_large(first);
        let goes_on = end > first
            && !lines
            && small
            && opens_large
            && language.list.joins.at(scan, end).is_some_and(|(_, next)| {
                tokens.get(next).is_some_and(|after| {
                    scan.raw
                        .get(after.start..)
                        .is_some_and(|rest| rest.starts_with(|c: char| c.is_lowercase() || c.is_ascii_digit()))
                })
            });
        if stop || full_stop || breaks || goes_on || matches!(&*token.folded, "!" | "?" | ";" | "@") {
            break;
        }
        end += 1;
    }
    // "Munich in" before a month: what leads on is no part of it.
    let leads = |end: usize| language.place.cues.at(scan, end - 1).is_some_and(|(_, next)| next == end);
    while end > first + 1 && leads(end) && scan.is_small(end - 1) {
        end -= 1;
    }
    (first, end)
}

/// Reads a place: a town, perhaps with its region, postcode and country.
pub(super) fn read(scan: &Scan<'_>, language: &Language, hint: Option<&str>) -> Found {
    // "Leeds; also Hull", "Leeds / Hull"
    let parted = scan
        .tokens
        .iter()
        .enumerate()
        .any(|(index, token)| (token.is(';') || token.is('/') && !token.glued) && index + 1 < scan.tokens.len());
    if scan.raw.trim_end().ends_with('?') || parted {
        return Found::Nothing;
    }
    // "Not Leeds, Hull": what is not meant comes first.
    let mut begin = 0;
    let led = language.place.cues.at(scan, 0).is_some();
    if !led && scan.word(0).is_some_and(|word| language.not.contains(word) || shared().leaves_out.contains(word)) {
        let parts = |token: &Token<'_>| {
            matches!(&*token.folded, "," | ";" | "-" | "–") && !token.glued
                || token.is(',')
                || language.but.contains(&*token.folded)
        };
        let Some(end) = scan.tokens.iter().position(parts) else { return Found::Nothing };
        begin = end + 1 + usize::from(scan.word(end + 1).is_some_and(|word| language.but.contains(word)));
    }
    // "The depot is in Saltwick": where nothing reads from the beginning, the one place behind a word that leads to
    // one.
    let within = || {
        let mut led = (1..scan.tokens.len().min(40))
            .filter(|index| language.place.cues.at(scan, *index).is_some_and(|(_, next)| scan.is_large(next)));
        let first = led.next()?;
        // "In" of "based in" is no second one.
        led.all(|other| language.place.cues.at(scan, first).is_some_and(|(_, next)| other < next))
            .then(|| from(scan, language, hint, first))
            .flatten()
    };
    // "I live in Harrogate but work in Leeds": another one behind.
    let other = |stop: usize| {
        (scan.at_byte(stop)..scan.tokens.len().min(60)).any(|index| {
            let led = language.place.cues.at(scan, index).filter(|(_, next)| scan.is_large(*next));
            led.is_some_and(|(_, next)| {
                let dated =
                    language.dates.months.at(scan, next).is_some() || language.dates.weekdays.at(scan, next).is_some();
                !dated
                    && country::at(scan, next).is_none()
                    && from(scan, language, hint, next).is_some_and(|(place, ..)| place.town.is_some())
            })
        })
    };
    let found = from(scan, language, hint, begin).or_else(within).filter(|(_, _, stop)| !other(*stop));
    found.map_or(Found::Nothing, |(place, start, end)| {
        Found::Value(Value::Place(place), Heard::at(scan.raw, start, end))
    })
}

/// The place behind the words that lead to it, from a token on.
pub(super) fn from(
    scan: &Scan<'_>,
    language: &Language,
    hint: Option<&str>,
    token: usize,
) -> Option<(Place, usize, usize)> {
    let (first, end) = stretch(scan, language, token, false);
    let (start, stop) = (scan.tokens.get(first)?.start, scan.tokens.get(end.checked_sub(1)?)?.end);
    let text = scan.raw.get(start..stop)?;
    let mut place = Place::default();
    let mut parts = parts(text);
    // "near Leeds, call me": what begins small after a comma goes on about something else.
    let goes_on = |part: &&(usize, &str)| {
        let bare = unlabelled(part.1);
        let labelled = bare.len() < part.1.len() && postcode(bare, hint).is_some();
        let more =
            part.1.starts_with(char::is_lowercase) && country_of(part.1).is_none() && !is_county(part.1) && !labelled;
        // "Norwich, 70 guests"
        more || part.1.starts_with(|c: char| c.is_ascii_digit()) && postcode(part.1, hint).is_none()
    };
    if let Some(cut) = parts.iter().skip(1).position(|part| goes_on(&part)) {
        parts.truncate(cut + 1);
    }
    let stop = start + parts.last().map(|(at, part)| at + part.len())?;
    if parts.len() > 5 {
        return None;
    }
    let mut parts: Vec<&str> = parts.into_iter().map(|(_, part)| part).collect();
    let last = *parts.last()?;
    if let Some((code, rest)) = country_of(last) {
        // A town that is also a country stays a town where it stands alone: Luxembourg, Singapore are both.
        place.country = Some(code.to_owned());
        parts.pop();
        if !rest.is_empty() {
            parts.push(rest);
        }
    }
    let country = place.country.clone();
    let mut names = Vec::new();
    for part in &parts {
        let part = &unlabelled(part);
        let mut rest = (*part).to_owned();
        if place.postcode.is_none()
            && let Some((code, start, end)) = postcode(part, country.as_deref().or(hint))
        {
            place.postcode = Some(code);
            rest = format!("{} {}", &part[..start], &part[end..]).split_whitespace().collect::<Vec<_>>().join(" ");
        }
        if !rest.is_empty() {
            names.push(rest);
        }
    }
    // "The high street" is one of many.
    let article = first > 0 && scan.word(first - 1) == Some("the") && token < first;
    if article && !text.chars().any(char::is_uppercase) && place.country.is_none() && place.postcode.is_none() {
        return None;
    }
    // "The one in Saltwick"
    let small = |name: &String| !name.chars().any(char::is_uppercase) && !is_county(name);
    let mixed = names.iter().any(small) && names.iter().any(|name| name.starts_with(char::is_uppercase));
    if names.len() > 2 || mixed || !names.iter().all(|name| is_name(name, language)) {
        return None;
    }
    let mut names = names.into_iter();
    place.town = names.next();
    place.region = names.next();
    (place != Place::default()).then_some((place, start, stop))
}

/// Parts between commas, line breaks and "in", each with its first byte.
fn parts(text: &str) -> Vec<(usize, &str)> {
    let mut out = Vec::new();
    let mut from = 0;
    let mut cut = |from: usize, to: usize| {
        let part = &text[from..to];
        let tidy = part.trim();
        if !tidy.is_empty() {
            out.push((from + (part.len() - part.trim_start().len()), tidy));
        }
    };
    let mut index = 0;
    while let Some(rest) = text.get(index..).filter(|rest| !rest.is_empty()) {
        let width = [",", "\n", " in ", " en "].iter().find(|mark| rest.starts_with(**mark)).map(|mark| mark.len());
        if let Some(width) = width {
            cut(from, index);
            index += width;
            from = index;
        } else {
            index += rest.chars().next().map_or(1, char::len_utf8);
        }
    }
    cut(from, text.len());
    out
}

fn is_county(text: &str) -> bool {
    let folded = fold(text);
    folded.ends_with("shire") || shared().counties.contains(&folded)
}

/// A place in one line, as a person in its country would write it.
#[must_use]
pub fn shown(place: &Place, language: &str) -> String {
    let continental = place.postcode.as_ref().is_some_and(|code| code.chars().all(|c| c.is_ascii_digit() || c == '-'))
        && place.region.is_none();
    let town = match (&place.town, &place.postcode) {
        (Some(town), Some(code)) if continental => Some(format!("{code} {town}")),
        (town, _) => town.clone(),
    };
    let code = place.postcode.clone().filter(|_| !(continental && place.town.is_some()));
    let region = match (&place.region, &code) {
        (Some(region), Some(code)) => Some(format!("{region} {code}")),
        (region, code) => region.clone().or_else(|| code.clone()),
    };
    let country = place.country.as_ref().map(|code| country::country_name(code, language));
    place.lines.iter().cloned().chain(town).chain(region).chain(country).collect::<Vec<_>>().join(", ")
}

#[cfg(test)]
mod tests {
    use super::*;

    fn json(found: Found) -> String {
        match found {
            Found::Value(Value::Place(place), _) => serde_json::to_string(&place).unwrap(),
            _ => "nothing".into(),
        }
    }

    fn check(language: &str, hint: Option<&str>, reply: &str, expected: &str) {
        assert_eq!(json(read(&Scan::new(reply), Language::get(language), hint)), expected, "{reply}");
    }

    fn check_address(hint: Option<&str>, reply: &str, expected: &str) {
        assert_eq!(json(read_address(&Scan::new(reply), Language::get("en"), hint)), expected, "{reply}");
    }

    #[test]
    fn a_place_is_kept_in_parts() {
        check("en", None, "Bristol", r#"{"town":"Bristol"}"#);
        check(
            "en",
            None,
            "we're based in Saltwick, West Yorkshire",
            r#"{"town":"Saltwick","region":"West Yorkshire"}"#,
        );
        check("en", None, "near Leeds", r#"{"town":"Leeds"}"#);
        check("en", None, "Bristol, UK", r#"{"town":"Bristol","country":"GB"}"#);
        check("en", Some("GB"), "Leeds LS1 4AP", r#"{"town":"Leeds","postcode":"LS1 4AP"}"#);
        check("en", None, "sw1a1aa", r#"{"postcode":"SW1A 1AA"}"#);
        check("de", Some("DE"), "10115 Berlin", r#"{"town":"Berlin","postcode":"10115"}"#);
        check(
            "en",
            None,
            "1012 AB Amsterdam, the Netherlands",
            r#"{"town":"Amsterdam","postcode":"1012 AB","country":"NL"}"#,
        );
        check("en", None, "Lyon in France", r#"{"town":"Lyon","country":"FR"}"#);
        check("en", None, "what do you need that for?", "nothing");
        check("en", None, "340", "nothing");
    }

    #[test]
    fn an_address_is_kept_in_lines_and_parts() {
        check_address(
            Some("GB"),
            "12 Mill Lane, Saltwick, AB1 2CD, UK",
            r#"{"lines":["12 Mill Lane"],"town":"Saltwick","postcode":"AB1 2CD","country":"GB"}"#,
        );
        check_address(
            None,
            "Hauptstraße 5, 10115 Berlin",
            r#"{"lines":["Hauptstraße 5"],"town":"Berlin","postcode":"10115"}"#,
        );
        check_address(
            Some("US"),
            "12 Main St, Springfield, IL 62704",
            r#"{"lines":["12 Main St"],"town":"Springfield","region":"IL","postcode":"62704"}"#,
        );
        check_address(
            None,
            "our address is Unit 4\nHarbour Park\nSaltwick\nAB1 2CD",
            r#"{"lines":["Unit 4","Harbour Park"],"town":"Saltwick","postcode":"AB1 2CD"}"#,
        );
        check_address(None, "12 Mill Lane", r#"{"lines":["12 Mill Lane"]}"#);
        check_address(None, "somewhere nice", "nothing");
    }
}
