//! Phone numbers, by libphonenumber's data.

use rlibphonenumber::{PhoneNumber, PhoneNumberFormat, enums::Region};

use super::{Found, Heard};
use crate::value::Value;

fn region(country: Option<&str>) -> Option<Region> {
    country.and_then(|code| code.parse::<Region>().ok())
}

/// Reads the one stretch of the reply that can be a phone number; a number that no plan allows is refused by the rule
/// `phone_valid`, which every phone field has.
pub(super) fn read(raw: &str, country: Option<&str>) -> Found {
    let mut best: Option<(Value, bool, Heard)> = None;
    for (start, end) in stretches(raw) {
        let candidate: String = raw[start..end].replace("(0)", "");
        let candidate = candidate.strip_prefix("00").map_or(candidate.clone(), |rest| format!("+{rest}"));
        let Ok(number) = PhoneNumber::parse(&candidate, region(country)) else { continue };
        let valid = number.is_valid();
        let value = Value::text(number.format_as(PhoneNumberFormat::E164).into_owned());
        match &best {
            Some((earlier, true, _)) if valid && *earlier != value => return Found::Several(Heard::whole(raw)),
            Some((_, true, _)) => {}
            _ if valid || best.is_none() => best = Some((value, valid, Heard::at(raw, start, end))),
            _ => {}
        }
    }
    match best {
        Some((value, true, heard)) => Found::Value(value, heard),
        Some((value, false, heard)) => Found::Refused(value, heard, "phone_valid"),
        None => Found::Nothing,
    }
}

/// Byte ends of stretches of 5 to 20 digits with the marks that people put between them; at most 8 of them.
fn stretches(raw: &str) -> Vec<(usize, usize)> {
    let mut out = Vec::new();
    let mut open: Option<(usize, usize, usize)> = None;
    let mut close = |open: &mut Option<(usize, usize, usize)>| {
        if let Some((start, end, digits)) = open.take()
            && (5..=20).contains(&digits)
            && out.len() < 8
        {
            out.push((start, end));
        }
    };
    for (at, c) in raw.char_indices() {
        let digit = c.is_ascii_digit() || c.is_ascii_digit();
        if digit {
            let (start, _, digits) = open.unwrap_or((at, at, 0));
            open = Some((start, at + c.len_utf8(), digits + 1));
        } else if matches!(c, '+' | '(') && open.is_none() {
            open = Some((at, at + 1, 0));
        } else if !matches!(c, ' ' | '\u{a0}' | '\u{202f}' | '.' | '-' | '–' | '/' | '(' | ')') {
            close(&mut open);
            if c == '+' {
                open = Some((at, at + 1, 0));
            }
        }
    }
    close(&mut open);
    out
}

/// A kept number as people in its country write it abroad.
pub(super) fn shown(e164: &str) -> String {
    PhoneNumber::parse(e164, None).map_or_else(|_| e164.to_owned(), |number| number.format_as(PhoneNumberFormat::International).into_owned())
}

#[cfg(test)]
mod tests {
    use super::*;

    fn check(reply: &str, country: Option<&str>, expected: Result<&str, bool>) {
        let read = match read(reply, country) {
            Found::Value(Value::Text { text }, _) => Ok(text),
            Found::Refused(..) => Err(true),
            _ => Err(false),
        };
        assert_eq!(read, expected.map(str::to_owned), "{reply}");
    }

    /// GB 020 7946 0958 is the libphonenumber example recorded in the outside references, topic 3; the range is one
    /// that the British regulator sets aside for fiction.
    #[test]
    fn national_and_international_numbers_are_kept_as_e164() {
        check("020 7946 0958", Some("GB"), Ok("+442079460958"));
        check("+44 (0)20 7946 0958", None, Ok("+442079460958"));
        check("0044 20 7946 0958", None, Ok("+442079460958"));
        check("call me on 020 7946 0014 after nine", Some("GB"), Ok("+442079460014"));
    }

    #[test]
    fn a_number_that_cannot_exist_is_refused_and_other_text_is_not_one() {
        check("+12001230101", None, Err(true));
        check("020 7946", Some("GB"), Err(true));
        for reply in ["call me", "1234", "", "+", "((((", "340 pallets"] {
            check(reply, Some("GB"), Err(false));
        }
        check("020 7946 0958", None, Err(false));
        check("020 7946 0958 or 020 7946 0959", Some("GB"), Err(false));
    }
}
