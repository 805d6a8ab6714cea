//! Countries: names in six languages, ISO 3166-1 codes, common short forms. Listed in `data/countries.json`.

use std::collections::HashMap;
use std::sync::OnceLock;

use serde::Deserialize;
use strsim::damerau_levenshtein;

use super::took_back::TookBack;
use super::{Found, Heard};
use lumbo_language::{Kind, Language, Lexicon, Scan, Token, fold};
use lumbo_value::Value;

#[derive(Deserialize)]
struct Row {
    code: String,
    alpha3: String,
    label: HashMap<String, String>,
    names: Vec<String>,
}

struct Table {
    rows: Vec<Row>,
    names: Lexicon<usize>,
}

fn table() -> &'static Table {
    static TABLE: OnceLock<Table> = OnceLock::new();
    TABLE.get_or_init(|| {
        // A list that does not load would be empty; a test reads it.
        let rows: Vec<Row> = serde_json::from_str(include_str!("../data/countries.json")).unwrap_or_default();
        let mut names = Lexicon::default();
        for (index, row) in rows.iter().enumerate() {
            row.names.iter().for_each(|name| names.add(name, index));
        }
        Table { rows, names }
    })
}

/// Every code with its name in a language, in the order of the codes.
pub fn countries(language: &str) -> impl Iterator<Item = (&'static str, &'static str)> {
    let language = language.to_owned();
    table().rows.iter().map(move |row| (row.code.as_str(), label(row, &language)))
}

fn label<'a>(row: &'a Row, language: &str) -> &'a str {
    row.label.get(language).or_else(|| row.label.get("en")).map_or(&row.code, String::as_str)
}

/// A country's name in a language; its code where none is listed.
#[must_use]
pub fn country_name(code: &str, language: &str) -> String {
    table()
        .rows
        .iter()
        .find(|row| row.code == code)
        .map_or_else(|| code.to_owned(), |row| label(row, language).to_owned())
}

/// True for an ISO 3166-1 alpha-2 code.
#[must_use]
pub fn is_country(code: &str) -> bool {
    table().rows.iter().any(|row| row.code == code)
}

/// The country named at a token, with the token after it. A code counts in capitals only, so that "it" and "no" stay
/// words.
pub(super) fn at(scan: &Scan<'_>, index: usize) -> Option<(&'static str, usize)> {
    if let Some((place, next)) = table().names.at(scan, index) {
        let token = &scan.tokens[index];
        let written = scan.raw.get(token.start..token.end).unwrap_or_default();
        // "Île-de-France" is no country.
        if token.glued && index > 0 && scan.tokens[index - 1].is_dash() {
            return None;
        }
        // "us" is a word as well.
        if next > index + 1
            || !matches!(&*token.folded, "us" | "stany" | "saudi")
            || written == "US"
            || scan.tokens.len() == 1
        {
            return Some((&table().rows[place].code, next));
        }
    }
    let token = scan.tokens.get(index).filter(|token| token.kind == Kind::Word)?;
    let written = scan.raw.get(token.start..token.end)?;
    if !written.bytes().all(|byte| byte.is_ascii_uppercase()) || !(2..=3).contains(&written.len()) {
        return None;
    }
    // "Île-DE", "CB7 4EE": a part of another word.
    if token.glued && index > 0 && (scan.tokens[index - 1].is_dash() || scan.tokens[index - 1].kind == Kind::Digits) {
        return None;
    }
    // "HU3", "TK-Ware"; "UK-based" is one.
    let glued = |at: usize| scan.tokens.get(at).filter(|next| next.glued);
    let compound = glued(index + 1).is_some_and(Token::is_dash)
        && glued(index + 2).is_some_and(|word| word.kind == Kind::Word && &*word.folded != "based");
    if compound || glued(index + 1).is_some_and(|next| next.kind == Kind::Digits) {
        return None;
    }
    code(written).map(|code| (code, index + 1))
}

fn code(written: &str) -> Option<&'static str> {
    let upper = written.to_ascii_uppercase();
    table().rows.iter().find(|row| row.code == upper || row.alpha3 == upper).map(|row| row.code.as_str())
}

/// A country in a reply, by its tokens.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) struct Mention {
    pub code: &'static str,
    pub first: usize,
    pub next: usize,
}

/// Every country of a reply.
pub(super) fn mentions(scan: &Scan<'_>) -> Vec<Mention> {
    let mut out = Vec::new();
    let mut index = 0;
    while index < scan.tokens.len() && out.len() < 16 {
        match at(scan, index) {
            Some((code, next)) => {
                out.push(Mention { code, first: index, next });
                index = next;
            }
            None => index += 1,
        }
    }
    out
}

/// Reads one country.
pub(super) fn read(scan: &Scan<'_>, language: &Language) -> Found {
    // A code alone may be in small letters.
    if let [token] = scan.tokens.iter().filter(|token| token.kind != Kind::Mark).collect::<Vec<_>>().as_slice()
        && token.kind == Kind::Word
        && let Some(found) = scan
            .raw
            .get(token.start..token.end)
            .filter(|text| (2..=3).contains(&text.len()) && *text != "no")
            .and_then(code)
    {
        return Found::Value(Value::text(found), Heard::at(scan.raw, token.start, token.end));
    }
    let found = mentions(scan);
    let chosen = TookBack::choose(
        scan,
        language,
        &found,
        |mention| (mention.first, mention.next),
        |one, other| one.code == other.code,
    );
    match chosen {
        Some(mention) => {
            let heard = Heard::at(scan.raw, scan.tokens[mention.first].start, scan.tokens[mention.next - 1].end);
            Found::Value(Value::text(mention.code), heard)
        }
        None if found.len() > 1 => Found::Several(Heard::whole(scan.raw)),
        None => misspelt(scan).map_or(Found::Nothing, |code| Found::Value(Value::text(code), Heard::whole(scan.raw))),
    }
}

/// A reply that is one country's name but for one letter behind the first, where no other country's is within two.
fn misspelt(scan: &Scan<'_>) -> Option<&'static str> {
    let said = fold(scan.raw);
    let letters = said.chars().count();
    let begins = said.chars().next()?;
    if !(6..=40).contains(&letters) {
        return None;
    }
    let like = |name: &&String| name.starts_with(begins) && name.chars().count().abs_diff(letters) <= 2;
    let distance = |row: &Row| {
        row.names
            .iter()
            .filter(like)
            .map(|name| damerau_levenshtein(name, &said))
            .min()
            .filter(|distance| *distance <= 2)
    };
    let near: Vec<(&'static str, usize)> =
        table().rows.iter().filter_map(|row| Some((row.code.as_str(), distance(row)?))).collect();
    match near.as_slice() {
        [(code, 0..=1)] => Some(code),
        _ => None,
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn check(reply: &str, expected: Option<&str>) {
        let read = match read(&Scan::new(reply), Language::get("en")) {
            Found::Value(Value::Text { text }, _) => Some(text),
            _ => None,
        };
        assert_eq!(read.as_deref(), expected, "{reply}");
    }

    /// ISO 3166-1 has 249 officially assigned codes (PyPI pycountry 26.2.16 counts as many).
    #[test]
    fn every_assigned_code_is_listed_and_reads_back() {
        assert_eq!(table().rows.len(), 249);
        for row in &table().rows {
            check(&row.code, Some(&row.code));
            check(&row.alpha3, Some(&row.code));
            let label = label(row, "en");
            check(label, Some(&row.code));
        }
    }

    #[test]
    fn a_country_is_told_by_name_code_or_short_form() {
        for (reply, code) in [
            ("the UK", "GB"),
            ("We're in the Netherlands.", "NL"),
            ("Holland", "NL"),
            ("USA", "US"),
            ("gb", "GB"),
            ("Deutschland", "DE"),
            ("Niemcy", "DE"),
            ("based in South Korea", "KR"),
            ("not France, Belgium", "BE"),
            ("Great Britain", "GB"),
        ] {
            check(reply, Some(code));
        }
        for reply in ["", "it is cold", "tell us more", "France or Spain", "Atlantis", "no"] {
            check(reply, None);
        }
    }
}
