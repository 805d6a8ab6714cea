//! Digits with separators, by the language's own habit.

use rust_decimal::Decimal;

use lumbo_language::{Kind, Language, Scan};

/// A number in digits.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) struct Digits {
    pub amount: Decimal,
    /// The token after it.
    pub next: usize,
    /// True where exactly three decimals stand behind a mark that elsewhere parts thousands: "1.200" in English.
    pub doubtful: bool,
}

/// What begins at a token of digits: a number, or a run of digits and marks that is none (a date, a time, a version),
/// with the token after it.
pub(super) fn at(scan: &Scan<'_>, start: usize, language: &Language) -> Result<Digits, usize> {
    let tokens = &scan.tokens;
    let mut next = start + 1;
    // ".5" is half of one.
    let leads = start > 0
        && matches!(&*tokens[start - 1].folded, "." | ",")
        && tokens[start].glued
        && !(tokens[start - 1].glued
            && start > 1
            && !matches!(&*tokens[start - 2].folded, "$" | "€" | "£" | "¥" | "("));
    if leads && tokens[start].folded.len() <= 6 {
        let amount = format!("0.{}", tokens[start].folded).parse().map_err(|_| next)?;
        return Ok(Digits { amount, next, doubtful: false });
    }
    let glued = |index: usize| tokens.get(index).is_some_and(|token| token.glued);
    let is_digits = |index: usize| tokens.get(index).is_some_and(|token| token.kind == Kind::Digits);
    let separator = |index: usize| {
        let mark = tokens.get(index).filter(|token| token.glued && token.kind == Kind::Mark)?;
        let c = mark.folded.chars().next()?;
        (matches!(c, '.' | ',' | '\'') && glued(index + 1) && is_digits(index + 1)).then_some(c)
    };
    while separator(next).is_some() {
        next += 2;
    }
    // "1 200": groups of three after one to three digits go on with the number. A line break or a longer run does not.
    let first = &tokens[start].folded;
    let mut spaced = false;
    if next == start + 1 && first.len() <= 3 && !first.starts_with('0') {
        // A decimal has 28 digits at most.
        while let Some(group) = tokens
            .get(next)
            .filter(|token| token.kind == Kind::Digits && token.folded.len() == 3 && !token.glued && next - start < 11)
        {
            let between = scan.raw.get(tokens[next - 1].end..group.start).unwrap_or_default();
            // A glued dash, slash or letter behind it makes it something else; a decimal mark may follow.
            let ends = !glued(next + 1)
                || separator(next + 1).is_some()
                || tokens.get(next + 1).is_some_and(|token| !matches!(&*token.folded, "-" | "/" | ":"));
            if between.chars().count() != 1 || between == "\n" || !ends {
                break;
            }
            spaced = true;
            next += 1;
        }
        // "1 200,50": the mark behind groups with spaces is the decimals' in every language.
        if spaced && separator(next).is_some_and(|mark| mark != '\'') {
            next += 2;
        }
    }
    // "3/4" is a part of one; any other run with a slash, a colon or two dashes is no number.
    let joined = |index: usize| {
        tokens.get(index).is_some_and(|mark| mark.glued && (mark.is('/') || mark.is(':') || mark.is_dash()))
            && glued(index + 1)
            && is_digits(index + 1)
    };
    if joined(next) {
        let mark = &tokens[next];
        let (low, high) = (value(scan, start, next, language), value(scan, next + 1, next + 2, language));
        let more = joined(next + 2);
        if mark.is('/') && !more {
            if let (Some((top, _)), Some((bottom, _))) = (low, high)
                && [2, 3, 4, 5, 8, 10, 16].iter().any(|known| Decimal::from(*known) == bottom)
                && top < bottom
                && !top.is_zero()
            {
                return Ok(Digits { amount: (top / bottom).round_dp(4), next: next + 2, doubtful: false });
            }
            return Err(next + 2);
        }
        let leading_zero = |index: usize| {
            tokens.get(index).is_some_and(|token| token.folded.len() > 1 && token.folded.starts_with('0'))
        };
        if !mark.is_dash() || more || leading_zero(start) || leading_zero(next + 1) {
            let mut end = next;
            while joined(end) {
                end += 2;
            }
            return Err(end);
        }
    }
    let plain_run = next == start + 1 && first.len() > 1 && first.starts_with('0');
    if plain_run {
        return Err(next);
    }
    let Some((amount, doubtful)) = value(scan, start, next, language) else { return Err(next) };
    Ok(Digits { amount, next, doubtful })
}

/// The value of the digits and separators between two tokens.
fn value(scan: &Scan<'_>, start: usize, next: usize, language: &Language) -> Option<(Decimal, bool)> {
    let from = scan.tokens.get(start)?.start;
    let to = scan.tokens.get(next.checked_sub(1)?)?.end;
    let mut text = String::with_capacity(to - from);
    for token in &scan.tokens[start..next] {
        if !text.is_empty() && !token.glued {
            text.push(' ');
        }
        text.push_str(&token.folded);
    }
    parse(&text, language)
}

fn parse(text: &str, language: &Language) -> Option<(Decimal, bool)> {
    let marks: Vec<(usize, char)> = text.char_indices().filter(|(_, c)| !c.is_ascii_digit()).collect();
    let Some(&(last_at, last)) = marks.last() else { return text.parse().ok().map(|amount| (amount, false)) };
    let parts = |text: &str| text.split(|c: char| !c.is_ascii_digit()).map(str::len).collect::<Vec<_>>();
    let groups_of_three = |text: &str| {
        let parts = parts(text);
        parts.len() > 1 && (1..=3).contains(&parts[0]) && parts[1..].iter().all(|part| *part == 3)
    };
    // 12,34,567: two digits a group but the last.
    let lakh = |text: &str| {
        let parts = parts(text);
        parts.len() > 2
            && (1..=2).contains(&parts[0])
            && parts.last() == Some(&3)
            && parts[1..parts.len() - 1].iter().all(|part| *part == 2)
    };
    let bare = |text: &str| text.chars().filter(char::is_ascii_digit).collect::<String>();
    let same = marks.iter().all(|(_, c)| *c == last);
    let spaces = matches!(last, ' ' | '\'');
    if same
        && !text.starts_with('0')
        && groups_of_three(text)
        && (last == language.group || spaces || marks.len() > 1 || last == '.' && language.decimal == ',')
    {
        return bare(text).parse().ok().map(|amount| (amount, false));
    }
    if same && last == ',' && lakh(text) && language.group == ',' {
        return bare(text).parse().ok().map(|amount| (amount, false));
    }
    let whole = &text[..last_at];
    let part = &text[last_at + last.len_utf8()..];
    if !matches!(last, '.' | ',') {
        return None;
    }
    let single = marks.len() == 1;
    let mixed = !same
        && (groups_of_three(whole) || lakh(whole))
        && marks[..marks.len() - 1].iter().all(|(_, c)| *c != last && *c == marks[0].1);
    // "1,5" in English or "1.5" in German: three digits would be a group, any other number of them can only be
    // decimals.
    let own = single && last == language.decimal;
    let foreign = single && (part.len() != 3 || whole == "0");
    let amount: Decimal =
        (own || mixed || foreign).then(|| format!("{}.{part}", bare(whole)).parse().ok()).flatten()?;
    Some((amount, single && part.len() == 3 && whole != "0" && (1..=3).contains(&whole.len())))
}
