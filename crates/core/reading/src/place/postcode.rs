//! Postcodes by the shapes of countries.

use std::sync::OnceLock;

use regex::Regex;
use serde::Deserialize;

use super::has_digit;
use lumbo_language::{fold, shared};

#[derive(Deserialize)]
struct Row {
    country: String,
    pattern: String,
}

/// Countries whose postcodes have a shape of their own, so that one is told without knowing the country.
const OWN_SHAPE: [&str; 9] = ["GB", "NL", "PL", "CA", "IE", "PT", "BR", "JP", "LT"];

fn patterns() -> &'static [(String, Regex)] {
    static PATTERNS: OnceLock<Vec<(String, Regex)>> = OnceLock::new();
    PATTERNS.get_or_init(|| {
        let rows: Vec<Row> = serde_json::from_str(include_str!("../../data/postcodes.json")).unwrap_or_default();
        rows.into_iter()
            .filter_map(|row| {
                Regex::new(&format!(r"(?i-u:\b){}(?i-u:\b)", format_args!("(?i:{})", row.pattern)))
                    .ok()
                    .map(|pattern| (row.country, pattern))
            })
            .collect()
    })
}

/// The postcode in a part of an address, with its bytes: of the country where it is known, else one with a shape of its
/// own, else four or five digits.
pub(super) fn postcode(text: &str, country: Option<&str>) -> Option<(String, usize, usize)> {
    let of = |code: &str| {
        let (_, pattern) = patterns().iter().find(|(known, _)| known == code)?;
        let found = pattern.find_iter(text).last()?;
        Some((found.as_str().to_owned(), found.start(), found.end()))
    };
    let tidy = |(code, start, end): (String, usize, usize)| (written(&code), start, end);
    country
        .and_then(of)
        .or_else(|| OWN_SHAPE.iter().find_map(|code| of(code)))
        .or_else(|| of("US"))
        .or_else(|| of("AT"))
        .map(tidy)
}

/// A postcode in capitals, a British or Dutch one with its space.
fn written(code: &str) -> String {
    let upper = code.to_uppercase();
    let letters = upper.chars().next_back().is_some_and(char::is_alphabetic);
    if letters && !upper.contains(' ') && upper.is_ascii() && upper.len() >= 5 {
        let split = if upper.starts_with(|c: char| c.is_ascii_digit()) { 4 } else { upper.len() - 3 };
        return format!("{} {}", &upper[..split], &upper[split..]);
    }
    upper.split_whitespace().collect::<Vec<_>>().join(" ")
}

/// "Postcode AB1 2CD" without its label.
pub(super) fn unlabelled(part: &str) -> &str {
    let mut rest = part;
    while let Some((word, behind)) = rest.split_once(' ')
        && shared().postcode_labels.contains(&fold(word.trim_end_matches(':')))
    {
        rest = behind.trim_start();
    }
    if has_digit(rest) { rest } else { part }
}
