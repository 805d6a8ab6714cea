//! Patterns. `*` stands for any characters of one segment or label, `/**` for any number of segments, none included.

use crate::address::{Address, segments};

/// True where a text fits a pattern in which `*` stands for any characters. In time proportional to the product of the
/// lengths, whatever is written.
fn fits(pattern: &str, text: &str) -> bool {
    let (pattern, text): (Vec<char>, Vec<char>) = (pattern.chars().collect(), text.chars().collect());
    let (mut p, mut t) = (0, 0);
    let mut last: Option<(usize, usize)> = None;
    while t < text.len() {
        if p < pattern.len() && pattern[p] == '*' {
            last = Some((p, t));
            p += 1;
        } else if p < pattern.len() && pattern[p] == text[t] {
            p += 1;
            t += 1;
        } else if let Some((star, from)) = last {
            // The last star takes one more character.
            p = star + 1;
            t = from + 1;
            last = Some((star, from + 1));
        } else {
            return false;
        }
    }
    pattern[p..].iter().all(|char| *char == '*')
}

/// True where a value fits a pattern, in whatever case.
#[must_use]
pub fn fits_value(pattern: &str, value: &str) -> bool {
    fits(&pattern.trim().to_lowercase(), &value.to_lowercase())
}

/// A host pattern as hosts go over the wire: lower case, and names beyond ASCII in Punycode (UTS 46).
pub(crate) fn host_pattern(pattern: &str) -> String {
    let lower = pattern.trim().trim_end_matches('.').to_lowercase();
    if lower.is_ascii() {
        return lower;
    }
    let label = |label: &str| {
        if label.is_ascii() { label.to_owned() } else { idna::domain_to_ascii(label).unwrap_or_else(|_| label.into()) }
    };
    lower.split('.').map(label).collect::<Vec<_>>().join(".")
}

/// True where the page's host fits: `winterlode.example`, `*.winterlode.example` with `*` within a label, or
/// `127.0.0.1:8091` with a port, which then must be the page's.
#[must_use]
pub fn fits_host(pattern: &str, address: &Address) -> bool {
    let pattern = host_pattern(pattern);
    let (host, port) = match pattern.rsplit_once(':') {
        Some((host, port)) if !host.ends_with(':') && port.parse::<u16>().is_ok() => (host, port.parse::<u16>().ok()),
        _ => (pattern.as_str(), None),
    };
    if port.is_some_and(|port| port != address.port) {
        return false;
    }
    let (wanted, found): (Vec<&str>, Vec<&str>) = (host.split('.').collect(), address.host.split('.').collect());
    wanted.len() == found.len() && wanted.iter().zip(&found).all(|(wanted, found)| fits(wanted, found))
}

/// True where the page fits a pattern on its path, or on its host and path where the pattern does not begin with a
/// slash. A trailing slash does not matter; upper and lower case do.
#[must_use]
pub fn fits_path(pattern: &str, address: &Address) -> bool {
    let pattern = pattern.trim();
    let path = if pattern.starts_with('/') {
        pattern
    } else {
        let (host, path) = host_and_path(pattern);
        if !fits_host(host, address) {
            return false;
        }
        // A host alone stands for all of its pages.
        if path.is_empty() {
            return true;
        }
        path
    };
    fit_segments(&segments(path), &address.segments)
}

/// Host and path of a pattern, of which people may have copied the scheme too.
fn host_and_path(pattern: &str) -> (&str, &str) {
    let rest = pattern.split_once("://").map_or(pattern, |(_, rest)| rest);
    rest.find('/').map_or((rest, ""), |at| rest.split_at(at))
}

/// Segments against a pattern's, `**` for any number of them. Row by row, so that many `**` cost no more than their
/// product.
fn fit_segments(pattern: &[String], found: &[String]) -> bool {
    let mut reached = vec![false; found.len() + 1];
    reached[0] = true;
    for wanted in pattern {
        let mut next = vec![false; found.len() + 1];
        if wanted == "**" {
            let mut any = false;
            for (at, was) in reached.iter().enumerate() {
                any |= was;
                next[at] = any;
            }
        } else {
            for (at, segment) in found.iter().enumerate() {
                next[at + 1] = reached[at] && fits(wanted, segment);
            }
        }
        reached = next;
    }
    reached[found.len()]
}
