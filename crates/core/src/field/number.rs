//! Numbers as people write them: digits with local separators, words, multipliers, spans, approximations.

use rust_decimal::Decimal;

use super::{Found, Heard};
use crate::language::Language;
use crate::value::{Number, Value};

/// Largest number kept; anything larger is a slip of the keyboard.
const LIMIT: i64 = 1_000_000_000_000;

/// A number found in a reply, with byte ends.
#[derive(Debug, Clone, PartialEq)]
struct Mention {
    amount: Decimal,
    start: usize,
    end: usize,
    /// The word right after it, folded.
    after: String,
}

/// A word or a run of digits, with byte ends.
struct Token<'a> {
    text: &'a str,
    lower: String,
    start: usize,
    end: usize,
}

/// Reads a whole number or a span of them. With several numbers in a reply, the one followed by the field's unit counts.
pub(super) fn read_whole(raw: &str, language: &Language, unit: Option<&str>) -> Found {
    let tokens = tokens(raw);
    let (mentions, spans) = mentions(&tokens, language);
    if mentions.len() > 2 && unit.is_none() {
        return Found::Several(Heard::whole(raw));
    }
    if let Some(&(first, second)) = spans.first()
        && spans.len() == 1
    {
        let (low, high) = (&mentions[first], &mentions[second]);
        if mentions.len() == 2 && low.amount.is_integer() && high.amount.is_integer() && low.amount < high.amount {
            let amount = ((low.amount + high.amount) / Decimal::TWO).floor();
            let value = Value::Number(Number { amount, low: Some(low.amount), high: Some(high.amount), unit: None });
            return Found::Value(value, Heard::at(raw, low.start, high.end));
        }
    }
    let chosen = match mentions.as_slice() {
        [] => return Found::Nothing,
        [only] => only,
        several => {
            let mut with_unit = several.iter().filter(|mention| unit.is_some_and(|unit| same_unit(&mention.after, unit)));
            match (with_unit.next(), with_unit.next()) {
                (Some(one), None) => one,
                _ => return Found::Several(Heard::whole(raw)),
            }
        }
    };
    let heard = Heard::at(raw, chosen.start, chosen.end);
    let value = Value::number(chosen.amount);
    if chosen.amount.is_integer() { Found::Value(value, heard) } else { Found::Refused(value, heard, "whole") }
}

fn same_unit(word: &str, unit: &str) -> bool {
    let unit = unit.to_lowercase();
    let stem = unit.strip_suffix('s').unwrap_or(&unit);
    !word.is_empty() && (word == unit || word.strip_suffix('s').unwrap_or(word) == stem)
}

fn tokens(raw: &str) -> Vec<Token<'_>> {
    let mut out: Vec<Token<'_>> = Vec::new();
    let mut chars = raw.char_indices().peekable();
    while let Some((start, c)) = chars.next() {
        let class = |c: char| {
            if c.is_ascii_digit() {
                1
            } else if c.is_alphabetic() || c == '\'' || c == '’' {
                2
            } else {
                0
            }
        };
        let kind = class(c);
        if c.is_whitespace() {
            continue;
        }
        let mut end = start + c.len_utf8();
        if kind > 0 {
            while let Some(&(at, next)) = chars.peek() {
                // A separator stays inside a number only between two digits.
                let inside = kind == 1
                    && matches!(next, '.' | ',' | '\'' | '’' | '\u{a0}' | '\u{202f}')
                    && raw[at + next.len_utf8()..].starts_with(|c: char| c.is_ascii_digit());
                if class(next) != kind && !inside {
                    break;
                }
                end = at + next.len_utf8();
                chars.next();
            }
        }
        out.push(Token { text: &raw[start..end], lower: raw[start..end].to_lowercase(), start, end });
    }
    out
}

/// Every number in the tokens, and the pairs that are the ends of a span.
fn mentions(tokens: &[Token<'_>], language: &Language) -> (Vec<Mention>, Vec<(usize, usize)>) {
    let mut found: Vec<Mention> = Vec::new();
    let mut spans = Vec::new();
    let mut joiner = false;
    let mut index = 0;
    while index < tokens.len() {
        if let Some((amount, next)) = number_at(tokens, index, language) {
            let negative = index > 0
                && matches!(tokens[index - 1].text, "-" | "−")
                && tokens[index - 1].end == tokens[index].start
                && (index < 2 || tokens[index - 2].end < tokens[index - 1].start);
            let amount = if negative { -amount } else { amount };
            let start = if negative { tokens[index - 1].start } else { tokens[index].start };
            let after = tokens.get(next).map(|token| token.lower.clone()).unwrap_or_default();
            found.push(Mention { amount, start, end: tokens[next - 1].end, after });
            if joiner && found.len() >= 2 {
                spans.push((found.len() - 2, found.len() - 1));
            }
            joiner = false;
            index = next;
            continue;
        }
        let token = &tokens[index];
        let joins = matches!(token.text, "-" | "–" | "—") || language.to.contains(&token.lower);
        joiner = joins && !found.is_empty();
        index += 1;
    }
    (found, spans)
}

/// The number that begins at a token, and the token after it.
fn number_at(tokens: &[Token<'_>], start: usize, language: &Language) -> Option<(Decimal, usize)> {
    let english = Language::get("en");
    let word = |token: &Token<'_>| language.words.get(&token.lower).or_else(|| english.words.get(&token.lower)).copied();
    let times = |token: &Token<'_>| language.times.get(&token.lower).or_else(|| english.times.get(&token.lower)).copied();
    let first = &tokens[start];
    // "a hundred", "a dozen"
    let article =
        matches!(first.lower.as_str(), "a" | "an") && tokens.get(start + 1).is_some_and(|next| times(next).is_some_and(|n| n >= 12) && next.lower.len() > 1);
    let mut index = start;
    let mut total = Decimal::ZERO;
    let mut group = Decimal::ZERO;
    let mut seen = false;
    let mut smallest = Decimal::from(LIMIT);
    if article {
        group = Decimal::ONE;
        index += 1;
        seen = true;
    }
    let mut digits_before = false;
    while let Some(token) = tokens.get(index) {
        if token.text.starts_with(|c: char| c.is_ascii_digit()) {
            if seen && (digits_before || group != Decimal::ZERO && smallest <= Decimal::from(99)) {
                break;
            }
            let value = digits(token.text, language)?;
            // "1 200": a group of three after one to three digits goes on with the number where the language groups by space.
            let mut value = value;
            while language.group == ' '
                && token.text.len() <= 3
                && let Some(next) = tokens.get(index + 1)
                && next.text.len() == 3
                && next.text.bytes().all(|b| b.is_ascii_digit())
                && value < Decimal::from(1_000_000)
            {
                value = value.checked_mul(Decimal::from(1000))?.checked_add(next.text.parse().ok()?)?;
                index += 1;
            }
            group = group.checked_add(value)?;
            digits_before = true;
            smallest = Decimal::ONE;
        } else if let Some(value) = word(token) {
            let value = Decimal::from(value);
            let fits = !digits_before || smallest >= Decimal::from(100);
            if seen && (!fits || value >= smallest) {
                break;
            }
            group = group.checked_add(value)?;
            smallest = if value >= Decimal::from(20) { Decimal::TEN } else { Decimal::ONE };
        } else if let Some(value) = times(token) {
            let glued = index > start && tokens[index - 1].end == token.start;
            let letter = token.lower.len() == 1;
            if !seen && value < 100 || letter && (!glued || !digits_before) {
                break;
            }
            let value = Decimal::from(value);
            let base = if group.is_zero() { Decimal::ONE } else { group };
            if value >= Decimal::from(1000) {
                total = total.checked_add(base.checked_mul(value)?)?;
                group = Decimal::ZERO;
            } else {
                group = base.checked_mul(value)?;
            }
            smallest = value;
            digits_before = false;
        } else if seen
            && smallest >= Decimal::from(100)
            && language.join.contains(&token.lower)
            && token.lower != "a"
            && tokens.get(index + 1).is_some_and(|next| word(next).is_some() || next.text.starts_with(|c: char| c.is_ascii_digit()))
        {
            // "three hundred and forty"
        } else if seen
            && token.text == "-"
            && index > start
            && tokens[index - 1].end == token.start
            && word(&tokens[index - 1]).is_some_and(|n| n >= 20)
            && tokens.get(index + 1).is_some_and(|next| next.start == token.end && word(next).is_some_and(|n| n < 10))
        {
            // "forty-five"
        } else {
            break;
        }
        seen = true;
        index += 1;
    }
    let amount = total.checked_add(group)?;
    (seen && index > start && amount <= Decimal::from(LIMIT)).then_some((amount, index))
}

/// Digits with separators, by the language's own habit; the other habit counts only where it cannot be meant otherwise.
fn digits(text: &str, language: &Language) -> Option<Decimal> {
    let marks: Vec<(usize, char)> = text.char_indices().filter(|(_, c)| !c.is_ascii_digit()).collect();
    let Some(&(last_at, last)) = marks.last() else { return text.parse().ok() };
    let groups_of_three = |text: &str| {
        let parts: Vec<&str> = text.split(|c: char| !c.is_ascii_digit()).collect();
        parts.len() > 1 && (1..=3).contains(&parts[0].len()) && parts[1..].iter().all(|part| part.len() == 3)
    };
    let bare = |text: &str| text.chars().filter(char::is_ascii_digit).collect::<String>();
    let all_same = marks.iter().all(|(_, c)| *c == last);
    let is_space = |c: char| matches!(c, '\u{a0}' | '\u{202f}' | '\'' | '’');
    if all_same && groups_of_three(text) && (last == language.group || is_space(last) || marks.len() > 1) {
        return bare(text).parse().ok();
    }
    let whole = &text[..last_at];
    let part = &text[last_at + last.len_utf8()..];
    let decimal_mark = matches!(last, '.' | ',');
    let own_decimal = last == language.decimal && marks.len() == 1;
    let mixed = !all_same && groups_of_three(whole);
    // "1,5" in English or "1.5" in German: three digits would be a group, one or two can only be decimals.
    let foreign_decimal = marks.len() == 1 && decimal_mark && part.len() != 3;
    (decimal_mark && (own_decimal || mixed || foreign_decimal)).then(|| format!("{}.{part}", bare(whole)).parse().ok()).flatten()
}

#[cfg(test)]
mod tests {
    use super::*;

    fn check(language: &str, reply: &str, expected: &str) {
        let shown = match read_whole(reply, Language::get(language), Some("pallets")) {
            Found::Value(Value::Number(Number { amount, low: Some(low), high: Some(high), .. }), _) => format!("{amount} ({low} to {high})"),
            Found::Value(Value::Number(number), heard) => {
                assert!(reply.contains(&heard.text));
                crate::value::plain(number.amount)
            }
            Found::Refused(value, _, rule) => format!("{rule}: {value}"),
            Found::Several(_) => "several".into(),
            _ => "nothing".into(),
        };
        assert_eq!(shown, expected, "{language}: {reply}");
    }

    #[test]
    fn numbers_are_read_in_digits_words_and_both() {
        for (reply, expected) in [
            ("340", "340"),
            ("about 340", "340"),
            ("~340 pallets", "340"),
            ("3 hundred", "300"),
            ("about 3 hundred and forty", "340"),
            ("three hundred and forty-five", "345"),
            ("twelve hundred", "1200"),
            ("1.2k", "1200"),
            ("2k", "2000"),
            ("two thousand five hundred", "2500"),
            ("a hundred", "100"),
            ("a dozen", "12"),
            ("1,200", "1200"),
            ("1,200,000", "1200000"),
            ("60ish", "60"),
            ("forty", "40"),
            ("one hundred thousand", "100000"),
            ("-5", "-5"),
            ("12 pallets in 3 weeks", "12"),
            ("0", "0"),
        ] {
            check("en", reply, expected);
        }
    }

    #[test]
    fn separators_follow_the_language() {
        for (language, reply, expected) in [
            ("de", "1.200", "1200"),
            ("de", "1.200,50", "whole: 1,200.5"),
            ("en", "1.200,50", "whole: 1,200.5"),
            ("fr", "1 200", "1200"),
            ("fr", "1\u{202f}200", "1200"),
            ("pl", "1 200 000", "1200000"),
            ("nl", "2.500", "2500"),
            ("es", "1,5", "whole: 1.5"),
            ("en", "1.200", "whole: 1.2"),
            ("en", "12.5", "whole: 12.5"),
            ("de", "2 tausend", "2000"),
        ] {
            check(language, reply, expected);
        }
    }

    #[test]
    fn a_span_keeps_both_ends_and_its_middle_rounded_down() {
        for (reply, expected) in [
            ("40-50", "45 (40 to 50)"),
            ("40 to 51 pallets", "45 (40 to 51)"),
            ("between 100 and 200", "150 (100 to 200)"),
            ("forty or fifty", "45 (40 to 50)"),
        ] {
            check("en", reply, expected);
        }
    }

    #[test]
    fn what_is_not_one_number_is_not_guessed() {
        for (reply, expected) in [
            ("", "nothing"),
            ("lots", "nothing"),
            ("100 boxes or 5 vans and 3 men", "several"),
            ("99999999999999999999999999999999", "nothing"),
            ("k", "nothing"),
            ("20 today 30 tomorrow", "several"),
        ] {
            check("en", reply, expected);
        }
    }
}
