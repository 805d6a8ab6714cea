//! E-mail addresses: found in a sentence, checked by the WHATWG rule and the lengths of RFC 5321.

use std::sync::OnceLock;

use regex::Regex;

use super::took_back::TookBack;
use super::{Found, Heard, REPLY_LIMIT};
use lumbo_language::{Language, Scan, shared};
use lumbo_value::Value;

/// The pattern of the WHATWG HTML standard, "valid e-mail address" (the text of the pattern is from memory; its
/// verdicts are tested against those of a browser, see `tests/outside_email.rs`). No crate follows this rule: those
/// that parse addresses follow RFC 5322, which allows quoted local parts and comments that no mail form takes.
const WHATWG: &str = concat!(
    r"^[a-zA-Z0-9.!#$%&'*+/=?^_`{|}~-]+@",
    r"[a-zA-Z0-9](?:[a-zA-Z0-9-]{0,61}[a-zA-Z0-9])?(?:\.[a-zA-Z0-9](?:[a-zA-Z0-9-]{0,61}[a-zA-Z0-9])?)*$",
);

/// Longest local part, octets: RFC 5321, 4.5.3.1.1.
const LOCAL_LIMIT: usize = 64;
/// Longest address, octets: RFC 5321, 4.5.3.1.3, less the angle brackets.
const ADDRESS_LIMIT: usize = 254;

fn whatwg() -> Option<&'static Regex> {
    static PATTERN: OnceLock<Option<Regex>> = OnceLock::new();
    PATTERN.get_or_init(|| Regex::new(WHATWG).ok()).as_ref()
}

/// True where `text` is an address by the WHATWG rule and within the lengths of RFC 5321.
#[must_use]
pub fn is_address(text: &str) -> bool {
    text.len() <= ADDRESS_LIMIT
        && text.rfind('@').is_some_and(|at| at <= LOCAL_LIMIT)
        && whatwg().is_some_and(|pattern| pattern.is_match(text))
}

/// The domain of a kept address, in A-labels and lower case.
#[must_use]
pub(super) fn domain(address: &str) -> Option<String> {
    let (_, domain) = address.rsplit_once('@')?;
    idna::domain_to_ascii(domain).ok().filter(|domain| !domain.is_empty())
}

/// An address in a reply, by its bytes.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(super) struct Mention {
    pub address: String,
    pub start: usize,
    pub end: usize,
}

/// Every address of a reply, those that are spelt out too.
pub(super) fn mentions(raw: &str) -> Vec<Mention> {
    let mut out: Vec<Mention> = Vec::new();
    for (at, _) in raw.match_indices('@').take(64) {
        let Some((start, end)) = around(raw, at) else { continue };
        if let Some(address) = keep(&raw[start..end]) {
            out.push(Mention { address, start, end });
        }
    }
    if out.is_empty()
        && let Some((address, start, end)) = spoken(raw)
    {
        out.push(Mention { address, start, end });
    }
    out
}

/// Reads one address.
pub(super) fn read(scan: &Scan<'_>, language: &Language) -> Found {
    let found = mentions(scan.raw);
    let Some(first) = found.first() else { return Found::Nothing };
    let tokens = |mention: &Mention| (scan.at_byte(mention.start), scan.at_byte(mention.end));
    match TookBack::choose(scan, language, &found, tokens, |one, other| one.address == other.address) {
        Some(mention) => {
            Found::Value(Value::text(mention.address.clone()), Heard::at(scan.raw, mention.start, mention.end))
        }
        None if found.iter().all(|other| other.address == first.address) => Found::Nothing,
        None => Found::Several(Heard::whole(scan.raw)),
    }
}

/// The address as typed with a lower-case domain, where it is one that can be reached from outside: the domain has a
/// dot and its last label is no number.
fn keep(candidate: &str) -> Option<String> {
    let (local, host) = candidate.rsplit_once('@')?;
    let ascii = idna::domain_to_ascii(host).ok()?;
    let last = ascii.rsplit('.').next()?;
    let reachable = ascii.contains('.') && last.len() >= 2 && !last.bytes().all(|b| b.is_ascii_digit());
    let tidy_local = !local.starts_with('.') && !local.ends_with('.') && !local.contains("..");
    (reachable && tidy_local && is_address(&format!("{local}@{ascii}")))
        .then(|| format!("{local}@{}", host.to_lowercase()))
}

fn is_local(c: char) -> bool {
    c.is_ascii_alphanumeric() || ".!#$%&'*+/=?^_`{|}~-".contains(c)
}

fn is_host(c: char) -> bool {
    c.is_alphanumeric() || c == '-' || c == '.'
}

/// True where a letter stands right before: "Öla@heron.example" is no address of La. A script without capitals has no
/// spaces between words either, so there the address begins where it begins.
fn is_torn(raw: &str, start: usize) -> bool {
    raw[..start].chars().next_back().is_some_and(|before| before.is_uppercase() || before.is_lowercase())
}

/// Byte ends of the address around an at sign, without the punctuation that belongs to the sentence. Bounded, so that a
/// reply of at signs stays linear.
fn around(raw: &str, at: usize) -> Option<(usize, usize)> {
    let mut start = at;
    for (index, c) in raw[..at].char_indices().rev().take(LOCAL_LIMIT + 1) {
        if !is_local(c) {
            break;
        }
        start = index;
    }
    if is_torn(raw, start) {
        return None;
    }
    let trimmed = raw[start..at].trim_start_matches(['\'', '.', '=', '*', '`', '/', '{', '|']);
    // "...ana@heron.example" ends a sentence before; ".ana@heron.example" is another address than the one without.
    let own_dot = raw[start..at].strip_prefix('.').is_some_and(|rest| rest.len() == trimmed.len());
    let start = if own_dot { start } else { at - trimmed.len() };
    let mut end = at + 1;
    for (index, c) in raw[at + 1..].char_indices().take(ADDRESS_LIMIT) {
        if !is_host(c) {
            break;
        }
        end = at + 1 + index + c.len_utf8();
    }
    let end = at + 1 + raw[at + 1..end].trim_end_matches(['.', '-']).len();
    (start < at && end > at + 1).then_some((start, end))
}

/// "ana dot ruiz at blueheron dot example".
fn spoken(raw: &str) -> Option<(String, usize, usize)> {
    if raw.len() > 4 * REPLY_LIMIT || !raw.contains(['@', '(', '[']) && !raw.to_ascii_lowercase().contains(" at ") {
        return None;
    }
    static PATTERN: OnceLock<Option<Regex>> = OnceLock::new();
    let pattern = PATTERN
        .get_or_init(|| {
            Regex::new(concat!(
                // The mailbox, the sign between, the domain.
                r"(?i)([a-z0-9_+-]+",
                r"(?:(?:\.|[ \t]+(?:dot|underscore|dash|hyphen|plus)[ \t]+|\(dot\)|\[dot\])[a-z0-9_+-]+)*)",
                r"(?:[ \t]+at[ \t]+|[ \t]*\(at\)[ \t]*|[ \t]*\[at\][ \t]*|[ \t]*@[ \t]*)",
                r"([a-z0-9-]+(?:[ \t]*(?:\.|\bdot\b|\(dot\)|\[dot\])[ \t]*[a-z0-9-]+)+)",
            ))
            .ok()
        })
        .as_ref()?;
    let found = pattern.captures(raw)?;
    if found.get(1).is_none_or(|local| is_torn(raw, local.start())) {
        return None;
    }
    // "Find us at harrow.example" is no address; "pia at harrow.example" is one where it is all there is, and anything
    // with a spelt-out dot is.
    let said = found.get(0)?.as_str().to_ascii_lowercase();
    if raw.get(..found.get(0)?.start())?.ends_with(is_local) {
        return None;
    }
    let spelt = said.contains("dot") || said.contains("(at)") || said.contains("[at]") || said.contains('@');
    let alone = raw.get(..found.get(0)?.start())?.trim().is_empty()
        && raw.get(found.get(0)?.end()..)?.trim_matches(['.', '!', ' ']).is_empty();
    if !spelt && !alone {
        return None;
    }
    // "Ana Ruiz at heron dot example": the word before may be a part of the address.
    let before = raw.get(..found.get(0)?.start())?.trim_end();
    let word = before
        .rsplit(|c: char| !c.is_alphabetic() && !matches!(c, '\'' | '’' | '-'))
        .next()
        .unwrap_or_default()
        .to_lowercase();
    if !said.contains(['@', '(', '[']) && !word.is_empty() && !shared().before_addresses.contains(&word) {
        return None;
    }
    let dots = |text: &str| {
        let lower = text.to_lowercase();
        let marks = [(" underscore ", "_"), (" dash ", "-"), (" hyphen ", "-"), (" plus ", "+")];
        let lower = marks.iter().fold(lower, |text, (word, mark)| text.replace(word, mark));
        ["(dot)", "[dot]", " dot "]
            .iter()
            .fold(lower.split_whitespace().collect::<Vec<_>>().join(" "), |text, dot| text.replace(dot, "."))
            .replace(' ', "")
    };
    let address = keep(&format!("{}@{}", dots(found.get(1)?.as_str()), dots(found.get(2)?.as_str())))?;
    let whole = found.get(0)?;
    Some((address, whole.start(), whole.end()))
}

#[cfg(test)]
mod tests {
    use super::*;

    fn check(reply: &str, expected: Option<&str>) {
        let read = match read(&Scan::new(reply), Language::get("en")) {
            Found::Value(Value::Text { text }, heard) => {
                let span: String = reply.chars().skip(heard.start).take(heard.end - heard.start).collect();
                assert_eq!(span, heard.text, "the span of {reply}");
                Some(text)
            }
            _ => None,
        };
        assert_eq!(read.as_deref(), expected, "{reply}");
    }

    #[test]
    fn an_address_is_found_inside_a_sentence() {
        check("pia@harrowpeel.example", Some("pia@harrowpeel.example"));
        check("it’s Pia.L@Harrow-Peel.Example, thanks.", Some("Pia.L@harrow-peel.example"));
        check("<pia@harrowpeel.example>", Some("pia@harrowpeel.example"));
        check("mail me at pia@harrowpeel.example.", Some("pia@harrowpeel.example"));
        check("pia at harrowpeel dot example", Some("pia@harrowpeel.example"));
        check("pia dot l at harrow dot peel dot example", Some("pia.l@harrow.peel.example"));
        check("grüße: ana@bäckerei.example", Some("ana@bäckerei.example"));
        check("pia @ harrowpeel.example", Some("pia@harrowpeel.example"));
        check("pia(at)harrowpeel.example", Some("pia@harrowpeel.example"));
        check("not pia@harrow.example but tom@harrow.example", Some("tom@harrow.example"));
        check("pia@harrow.example, sorry, pia@harrowpeel.example", Some("pia@harrowpeel.example"));
        check("pia@harrowpeel.example or pia@harrowpeel.example", Some("pia@harrowpeel.example"));
    }

    #[test]
    fn what_is_no_reachable_address_is_not_kept() {
        for reply in [
            "pia@",
            "@harrow.example",
            "pia@harrow",
            "pia@@harrow.example",
            "pia@harrow..example",
            "pia@10.0.0.1",
            "a@b.example or c@d.example",
            "look at this",
        ] {
            check(reply, None);
        }
    }
}
