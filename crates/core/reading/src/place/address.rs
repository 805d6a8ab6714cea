//! Postal addresses: lines, and what stands at their end.

use super::super::{Found, Heard};
use super::postcode::postcode;
use super::{country_of, has_digit, is_county, is_name, parts, stretch};
use lumbo_language::{Language, Scan};
use lumbo_value::{Place, Value};

/// Reads a postal address: lines, and what stands at its end.
pub(crate) fn read_address(scan: &Scan<'_>, language: &Language, hint: Option<&str>) -> Found {
    let Some((place, start, end)) = address(scan, language, hint, 0) else { return Found::Nothing };
    Found::Value(Value::Place(place), Heard::at(scan.raw, start, end))
}

/// The address behind the words that lead to it, from a token on.
pub(crate) fn address(
    scan: &Scan<'_>,
    language: &Language,
    hint: Option<&str>,
    token: usize,
) -> Option<(Place, usize, usize)> {
    let (first, end) = stretch(scan, language, token, true);
    let (start, stop) = (scan.tokens.get(first)?.start, scan.tokens.get(end.checked_sub(1)?)?.end);
    let text = scan.raw.get(start..stop)?;
    let mut parts: Vec<String> =
        parts(text).into_iter().map(|(_, part)| part.split_whitespace().collect::<Vec<_>>().join(" ")).collect();
    if parts.is_empty() || parts.len() > 10 {
        return None;
    }
    let mut place = Place::default();
    if let Some((code, rest)) =
        parts.last().and_then(|last| country_of(last).map(|(code, rest)| (code, rest.to_owned())))
    {
        place.country = Some(code.to_owned());
        parts.pop();
        if !rest.is_empty() {
            parts.push(rest);
        }
    }
    let country = place.country.clone();
    let found = parts.iter().enumerate().rev().find_map(|(index, part)| {
        // A house number of four or five digits in the first line is no postcode.
        let (code, start, end) = postcode(part, country.as_deref().or(hint))?;
        let house = index == 0 && start == 0 && parts.len() > 1 && code.chars().all(|c| c.is_ascii_digit());
        (!house).then_some((index, code, start, end))
    });
    if let Some((index, code, from, to)) = found {
        let part = parts[index].clone();
        let (before, after) = (part[..from].trim().to_owned(), part[to..].trim().to_owned());
        place.postcode = Some(code);
        parts.truncate(index);
        let state = (2..=3).contains(&before.len()) && before.bytes().all(|byte| byte.is_ascii_uppercase());
        if state && !parts.is_empty() {
            place.region = Some(before);
            place.town = parts.pop_if(|part| !has_digit(part));
        } else if !after.is_empty() {
            place.town = Some(after);
            if !before.is_empty() {
                parts.push(before);
            }
        } else if is_county(&before) && parts.len() > 1 {
            place.region = Some(before);
            place.town = parts.pop_if(|part| !has_digit(part));
        } else if !before.is_empty() && !has_digit(&before) {
            // "Springfield IL 62704"
            let state = before
                .rsplit_once(' ')
                .filter(|(_, state)| state.len() == 2 && state.bytes().all(|byte| byte.is_ascii_uppercase()));
            match state {
                Some((town, state)) => {
                    place.region = Some(state.to_owned());
                    place.town = Some(town.to_owned());
                }
                None => place.town = Some(before),
            }
        } else if !before.is_empty() {
            parts.push(before);
        } else {
            if parts.len() > 2 && parts.last().is_some_and(|last| is_county(last)) {
                place.region = parts.pop();
            }
            if parts.len() > 1 {
                place.town = parts.pop_if(|part| !has_digit(part));
            }
        }
    } else if parts.len() > 1 {
        if parts.len() > 2 && parts.last().is_some_and(|last| is_county(last)) {
            place.region = parts.pop();
        }
        place.town = parts.pop_if(|part| is_name(part, language));
    }
    place.lines = parts;
    // An address has a number somewhere; words alone are a place or a sentence.
    let numbered = place.lines.iter().any(|line| has_digit(line)) || place.postcode.is_some();
    let short = place.lines.iter().all(|line| line.chars().count() <= 100);
    (numbered && short && (!place.lines.is_empty() || place.town.is_some())).then_some((place, start, stop))
}
