//! Phone numbers, by libphonenumber's data; an extension is kept apart.

use rlibphonenumber::{PhoneNumber, PhoneNumberFormat, enums::Region};

use super::took_back::TookBack;
use super::{Found, Heard};
use lumbo_language::{Kind, Language, Scan, shared};
use lumbo_value::Value;

pub(super) fn region(country: Option<&str>) -> Option<Region> {
    country.and_then(|code| code.parse::<Region>().ok())
}

/// A phone number in a reply, by its bytes.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(super) struct Mention {
    /// E.164.
    pub number: String,
    pub extension: Option<String>,
    pub valid: bool,
    /// Written with its country code.
    pub international: bool,
    pub start: usize,
    pub end: usize,
}

impl Mention {
    pub(super) fn value(&self) -> Value {
        Value::Phone { number: self.number.clone(), extension: self.extension.clone() }
    }
}

/// Every stretch of a reply that can be a phone number.
pub(super) fn mentions(scan: &Scan<'_>, country: Option<&str>) -> Vec<Mention> {
    stretches(scan.raw)
        .into_iter()
        .filter_map(|(start, end)| {
            let written = scan.raw.get(start..end)?;
            let end = start + without_count(written, country).len();
            let written = scan.raw.get(start..end)?;
            let candidate = written.replace("(0)", "");
            let candidate = candidate.strip_prefix("00").map_or(candidate.clone(), |rest| format!("+{rest}"));
            let number = PhoneNumber::parse(&candidate, region(country)).ok()?;
            let e164 = number.format_as(PhoneNumberFormat::E164).into_owned();
            // ITU-T E.164: at most fifteen digits.
            let digits = e164.len().saturating_sub(1);
            let (extension, end) = extension(scan, end).map_or((None, end), |(extension, end)| (Some(extension), end));
            let international = candidate.trim_start_matches('(').starts_with('+');
            (digits <= 15).then(|| Mention {
                valid: number.is_valid(),
                number: e164,
                extension,
                international,
                start,
                end,
            })
        })
        .collect()
}

/// "+353 1 234 5678 / 2 rooms": a few digits behind a slash that no number needs count something else.
fn without_count<'a>(written: &'a str, country: Option<&str>) -> &'a str {
    let Some((number, count)) = written.rsplit_once(" / ").filter(|(_, count)| count.len() <= 3) else {
        return written;
    };
    let valid = PhoneNumber::parse(number, region(country)).is_ok_and(|number| number.is_valid());
    if valid && !count.is_empty() { number } else { written }
}

/// "ext. 12" right behind a number.
fn extension(scan: &Scan<'_>, end: usize) -> Option<(String, usize)> {
    let mut index = scan.at_byte(end);
    while scan.tokens.get(index).is_some_and(|token| matches!(&*token.folded, "," | "(" | "-")) {
        index += 1;
    }
    if !scan.word(index).is_some_and(|word| shared().extensions.contains(word))
        && !scan.tokens.get(index).is_some_and(|token| token.is('#'))
    {
        return None;
    }
    index += 1;
    while scan.tokens.get(index).is_some_and(|token| matches!(&*token.folded, "." | ":" | "#")) {
        index += 1;
    }
    let digits = scan.tokens.get(index).filter(|token| token.kind == Kind::Digits && token.folded.len() <= 7)?;
    Some((digits.folded.to_string(), digits.end))
}

/// Reads the one number of a reply; a number that no plan allows is refused by the rule `phone_valid`, which every
/// phone field has.
pub(super) fn read(scan: &Scan<'_>, language: &Language, country: Option<&str>) -> Found {
    let mut found = mentions(scan, country);
    if found.iter().any(|mention| mention.valid) {
        found.retain(|mention| mention.valid);
    } else {
        found.truncate(1);
    }
    let Some(first) = found.first() else { return Found::Nothing };
    let same = found.iter().all(|other| other.number == first.number);
    let tokens = |mention: &Mention| (scan.at_byte(mention.start), scan.at_byte(mention.end));
    match if same {
        Some(first)
    } else {
        TookBack::choose(scan, language, &found, tokens, |one, other| one.number == other.number)
    } {
        Some(mention) => {
            let heard = Heard::at(scan.raw, mention.start, mention.end);
            if mention.valid {
                Found::Value(mention.value(), heard)
            } else {
                Found::Refused(mention.value(), heard, "phone_valid")
            }
        }
        None => Found::Several(Heard::whole(scan.raw)),
    }
}

/// Byte ends of stretches of 5 to 20 digits with the marks that people put between them; at most 8 of them.
fn stretches(raw: &str) -> Vec<(usize, usize)> {
    let mut out = Vec::new();
    // Start, end and count of digits, and whether the run began inside a word.
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
        if c.is_ascii_digit() || ('\u{ff10}'..='\u{ff19}').contains(&c) {
            let (start, _, digits) = open.unwrap_or((at, at, 0));
            open = Some((start, at + c.len_utf8(), digits + 1));
        } else if matches!(c, '+' | '(') && open.is_none() {
            open = Some((at, at + 1, 0));
        } else if c == '(' && open.is_some_and(|(.., digits)| digits == 0)
            || c == '+' && open.is_some_and(|(start, ..)| raw[start..at].trim_start_matches('(').is_empty())
        {
            // "(+44", "+(44"
        } else if !matches!(c, ' ' | '\u{a0}' | '\u{202f}' | '.' | '-' | '–' | '/' | '(' | ')' | '‑') {
            close(&mut open);
            if c == '+' {
                open = Some((at, at + 1, 0));
            }
        }
    }
    close(&mut open);
    out
}

/// A kept number as people in another country write it.
pub(super) fn shown(e164: &str, extension: Option<&str>) -> String {
    let number = PhoneNumber::parse(e164, None)
        .map_or_else(|_| e164.to_owned(), |number| number.format_as(PhoneNumberFormat::International).into_owned());
    extension.map_or(number.clone(), |extension| format!("{number} ext. {extension}"))
}

/// The same of a value; its own words where it is no phone number.
pub(super) fn shown_value(value: &Value) -> String {
    match value {
        Value::Phone { number, extension } => shown(number, extension.as_deref()),
        other => other.to_string(),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn check(reply: &str, country: Option<&str>, expected: Result<&str, bool>) {
        let read = match read(&Scan::new(reply), Language::get("en"), country) {
            Found::Value(Value::Phone { number, extension }, heard) => {
                assert!(reply.contains(&heard.text));
                Ok(extension.map_or(number.clone(), |extension| format!("{number} {extension}")))
            }
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
        check("(+44) 20 7946 0958", None, Ok("+442079460958"));
        check("0044 20 7946 0958", None, Ok("+442079460958"));
        check("call me on 020 7946 0014 after nine", Some("GB"), Ok("+442079460014"));
        check("020 7946 0958 ext. 12", Some("GB"), Ok("+442079460958 12"));
        check("020 7946 0014, sorry, 020 7946 0958", Some("GB"), Ok("+442079460958"));
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
