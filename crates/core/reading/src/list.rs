//! Open words in a row: "sorbet, peas and two kinds of fish".

use super::{Found, Heard};
use lumbo_language::{Kind, Language, Scan, shared};
use lumbo_value::Value;

/// "What do you mean?" names nothing.
fn asks(scan: &Scan<'_>, language: &Language) -> bool {
    scan.raw.trim_end().ends_with('?') && scan.word(0).is_some_and(|word| language.questions_contains(word))
}

/// Most items kept.
const LIMIT: usize = 50;

/// Reads a list: split at commas, semicolons, line breaks, bullets and joining words, without the words around it.
pub(super) fn read(scan: &Scan<'_>, language: &Language) -> Found {
    if asks(scan, language) {
        return Found::Nothing;
    }
    let words = &language.list;
    let tokens = &scan.tokens;
    let mut from = 0;
    // "Yes, we make …": a cue at the beginning, perhaps behind a short word and a comma.
    for _ in 0..3 {
        if let Some((_, next)) = words.cues.at(scan, from).filter(|(_, next)| *next < tokens.len()) {
            from = next;
        } else if tokens.get(from).is_some_and(|token| {
            token.kind == Kind::Mark && !matches!(&*token.folded, "(" | "£" | "€" | "$" | "\"" | "“")
        }) {
            from += 1;
        } else {
            break;
        }
    }
    let mut to = tokens.len();
    while to > from && (tokens[to - 1].kind == Kind::Mark && !matches!(&*tokens[to - 1].folded, ")" | "\"" | "”" | "%"))
    {
        to -= 1;
    }
    for _ in 0..2 {
        if let Some((_, start)) = words.endings.before(scan, to).filter(|(_, start)| *start > from) {
            to = start;
            while to > from && tokens[to - 1].kind == Kind::Mark {
                to -= 1;
            }
        }
    }
    let mut items: Vec<String> = Vec::new();
    let mut begin = from;
    let mut depth = 0_u8;
    let mut after_but = false;
    let mut index = from;
    while index <= to {
        let end = index == to;
        let token = tokens.get(index);
        let breaks = index > begin && index < to && scan.breaks_before(index);
        match token.map(|token| &*token.folded) {
            Some("(" | "[") if !end => depth = depth.saturating_add(1),
            Some(")" | "]") if !end => depth = depth.saturating_sub(1),
            _ => {}
        }
        let mark = !end && depth == 0 && token.is_some_and(|token| token.kind == Kind::Mark && splits(scan, index));
        let but =
            !end && depth == 0 && index > from && scan.word(index).is_some_and(|word| language.but.contains(word));
        let joins = but || !end && depth == 0 && index > from && words.joins.at(scan, index).is_some();
        if end || mark || joins || breaks && depth == 0 {
            let mut start = begin;
            while start < index {
                // Bullets, joining words, and the numbers of a numbered list.
                let bullet =
                    tokens[start].kind == Kind::Mark && matches!(&*tokens[start].folded, "-" | "•" | "*" | "·" | "–");
                if let Some((_, next)) = words.joins.at(scan, start) {
                    start = next;
                } else if is_number(scan, start) {
                    start += 2;
                } else if bullet {
                    start += 1;
                } else {
                    break;
                }
            }
            // "Fish but no peas", "fish, not peas"
            let no = scan
                .word(start)
                .is_some_and(|word| shared().leaves_out.contains(word) || after_but && language.not.contains(word));
            // "1) meat 2) fish"
            let numbered = (start + 1..index).any(|at| tokens[at].is(')') && tokens[at - 1].kind == Kind::Digits);
            if numbered {
                return Found::Nothing;
            }
            if start < index
                && !no
                && let Some(text) = scan.raw.get(tokens[start].start..tokens[index - 1].end)
            {
                let tidy = text.split_whitespace().collect::<Vec<_>>().join(" ");
                let known = items.iter().any(|item| item.to_lowercase() == tidy.to_lowercase());
                if tidy.chars().any(char::is_alphanumeric)
                    && tidy.chars().count() <= 200
                    && !known
                    && items.len() < LIMIT
                {
                    items.push(tidy);
                }
            }
            after_but = but;
            begin = if breaks && !mark && !joins {
                index
            } else {
                words.joins.at(scan, index).filter(|_| joins).map_or(index + 1, |(_, next)| next)
            };
            index = index.max(begin.saturating_sub(1));
        }
        index += 1;
    }
    if items.is_empty() {
        return Found::Nothing;
    }
    Found::Value(Value::List { items }, Heard::at(scan.raw, tokens[from].start, tokens[to - 1].end))
}

/// "1." or "2)" at the beginning of a line.
fn is_number(scan: &Scan<'_>, index: usize) -> bool {
    scan.tokens.get(index).is_some_and(|token| token.kind == Kind::Digits && token.folded.len() <= 2)
        && (index == 0 || scan.breaks_before(index))
        && scan.tokens.get(index + 1).is_some_and(|mark| mark.glued && (mark.is('.') || mark.is(')')))
}

/// A mark between two items: a comma that is no decimal's, a semicolon, a slash or bullet with space around.
fn splits(scan: &Scan<'_>, index: usize) -> bool {
    let token = &scan.tokens[index];
    let next_glued = scan.tokens.get(index + 1).is_some_and(|next| next.glued);
    let digits = |index: usize| scan.tokens.get(index).is_some_and(|token| token.kind == Kind::Digits);
    match &*token.folded {
        "," => !(next_glued && token.glued && index > 0 && digits(index - 1) && digits(index + 1)),
        ";" | "•" | "·" | "|" => true,
        "/" => !(index > 0 && digits(index - 1) && digits(index + 1)),
        "." => !(next_glued || index > 0 && is_number(scan, index - 1)),
        "*" | "-" | "–" => !token.glued && !next_glued,
        _ => false,
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn check(language: &str, reply: &str, expected: &[&str]) {
        let read = match read(&Scan::new(reply), Language::get(language)) {
            Found::Value(Value::List { items }, heard) => {
                assert!(reply.contains(&heard.text), "{reply}");
                items
            }
            _ => vec![],
        };
        assert_eq!(read, expected, "{reply}");
    }

    #[test]
    fn open_words_in_a_row_are_split() {
        check("en", "sorbet, peas and two kinds of fish", &["sorbet", "peas", "two kinds of fish"]);
        check("en", "We make sorbet, peas, and fish.", &["sorbet", "peas", "fish"]);
        check("en", "sorbet", &["sorbet"]);
        check("en", "- sorbet\n- peas (frozen, podded)\n- fish", &["sorbet", "peas (frozen, podded)", "fish"]);
        check("en", "peas; Peas; fish", &["peas", "fish"]);
        check("en", "1,5 kg tubs & cones", &["1,5 kg tubs", "cones"]);
        check("de", "Sorbet, Erbsen und Fisch, bitte", &["Sorbet", "Erbsen", "Fisch"]);
        check("fr", "des sorbets et des petits pois", &["des sorbets", "des petits pois"]);
        check("en", ", ,", &[]);
        check("en", "ready-made meals / soups", &["ready-made meals", "soups"]);
    }
}
