//! One number: digits, words, or both, with what multiplies it.

use rust_decimal::Decimal;

use super::digits;
use lumbo_language::{Kind, Language, Scan, shared};

/// Largest number kept; anything larger is a slip of the keyboard.
const LIMIT: i64 = 1_000_000_000_000;

/// One number with the token after it.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) struct Single {
    pub amount: Decimal,
    pub first: usize,
    pub next: usize,
    /// Written with a mark that may part thousands or decimals.
    pub doubtful: bool,
    /// Nothing but a word for one, which is also an article.
    pub article: bool,
    /// What the last multiplying word multiplies by; one where there is none.
    pub times: Decimal,
}

/// The value of a word, alone or as a compound: "zweihundertvierzig", "vijfentwintig".
fn word_value(word: &str, language: &Language) -> Option<u32> {
    if let Some(value) = language.words.get(word) {
        return Some(*value);
    }
    if language.times.contains_key(word) {
        return None;
    }
    (!language.compounds.joins.is_empty() && word.len() > 5).then(|| compound(word, language, 0)).flatten()
}

fn compound(word: &str, language: &Language, depth: u8) -> Option<u32> {
    if word.is_empty() || depth > 6 || word.len() > 80 {
        return None;
    }
    if let Some(value) = language.words.get(word) {
        return Some(*value);
    }
    for mark in &language.compounds.marks {
        let Some(times) = language.times.get(mark).copied() else { continue };
        if let Some(at) = word.find(mark.as_str()) {
            let (left, right) = (&word[..at], &word[at + mark.len()..]);
            let left = if left.is_empty() {
                Some(1)
            } else {
                compound(left, language, depth + 1).filter(|left| *left < 1000)
            }?;
            let right = language
                .compounds
                .joins
                .iter()
                .find_map(|join| right.strip_prefix(join.as_str()).filter(|rest| !rest.is_empty()))
                .unwrap_or(right);
            let right = if right.is_empty() {
                0
            } else {
                compound(right, language, depth + 1).filter(|right| *right < times)?
            };
            return left.checked_mul(times)?.checked_add(right);
        }
    }
    // "fünfundvierzig", "tweeëntwintig"
    for join in &language.compounds.joins {
        for (at, _) in word.match_indices(join.as_str()) {
            let unit = language.words.get(&word[..at]).filter(|unit| (1..10).contains(*unit));
            let tens = language.words.get(&word[at + join.len()..]).filter(|tens| **tens >= 20 && **tens % 10 == 0);
            if let (Some(unit), Some(tens)) = (unit, tens) {
                return Some(unit + tens);
            }
        }
    }
    None
}

/// "Zweieinhalb", "tweeënhalf", "anderthalb".
fn with_half(word: &str, language: &Language) -> Option<Decimal> {
    if let Some(part) = language.fractions.get(word) {
        return part.parse().ok();
    }
    // "Zweieinhalbtausend"
    if let Some((stem, times)) = language
        .compounds
        .marks
        .iter()
        .find_map(|mark| Some((word.strip_suffix(mark.as_str())?, *language.times.get(mark)?)))
        && let Some(value) = (!stem.is_empty()).then(|| with_half(stem, language)).flatten()
    {
        return value.checked_mul(Decimal::from(times));
    }
    let stem = language.compounds.halves.iter().find_map(|ending| word.strip_suffix(ending.as_str()))?;
    let value = language.words.get(stem)?;
    Some(Decimal::from(*value) + Decimal::new(5, 1))
}

/// "Three quarters of": so many parts, to four places. Without "of" they are three quarters of a year, or a place.
fn parts_of(scan: &Scan<'_>, index: usize, language: &Language, many: u32) -> Option<Decimal> {
    let parts = *language.compounds.parts.get(scan.word(index + 1)?)?;
    let of = scan.word(index + 2).is_some_and(|word| shared().after_fractions.contains(word));
    (of && many < parts).then(|| (Decimal::from(many) / Decimal::from(parts)).round_dp(4))
}

/// The number that begins at a token.
///
/// # Errors
/// Where none does: the token to look at next.
pub(super) fn at(scan: &Scan<'_>, first: usize, language: &Language, in_span: bool) -> Result<Single, usize> {
    let english = Language::get("en");
    let tokens = &scan.tokens;
    let glued_after =
        |index: usize, kind: Kind| tokens.get(index).is_some_and(|token| token.glued && token.kind == kind);
    let word = |index: usize| {
        scan.word(index).and_then(|word| word_value(word, language).or_else(|| english.words.get(word).copied()))
    };
    let times = |index: usize| {
        scan.word(index).and_then(|word| language.times.get(word).or_else(|| english.times.get(word)).copied())
    };
    if first >= tokens.len() {
        return Err(first + 1);
    }
    let mut index = first;
    let mut doubtful = false;
    // A sign: "-18", "minus 18". A dash glued to something before it is a span's or a word's.
    let mut negative = false;
    let dash = tokens[index].is_dash()
        && tokens.get(index + 1).is_some_and(|next| next.kind == Kind::Digits && next.glued)
        && !tokens[index].glued;
    // "Al menos 40", "au moins 40", "plus/minus 40" are about forty.
    let about = |index: usize| language.about.before(scan, index).or_else(|| english.about.before(scan, index));
    let minus = scan.word(index).is_some_and(|word| language.minus.contains(word))
        && about(index + 1).is_none_or(|(_, start)| start == index)
        && !(index > 0 && (tokens[index - 1].is('/') || tokens[index - 1].is('+')))
        && (tokens.get(index + 1).is_some_and(|next| next.kind == Kind::Digits) || word(index + 1).is_some());
    if dash || minus {
        negative = true;
        index += 1;
    }
    let begin = index;
    let token = tokens.get(index).ok_or(first + 1)?;
    // "B2B", "A4", "#4a": digits inside a code are no number; "USD3.14" is.
    let in_code =
        token.kind == Kind::Digits && token.glued && begin > 0 && tokens[begin - 1].kind == Kind::Word && !negative;
    if in_code && !crate::money::is_code(scan, begin - 1) {
        let mut end = index + 1;
        while tokens.get(end).is_some_and(|token| token.glued && (token.kind != Kind::Mark || token.is('.'))) {
            end += 1;
        }
        return Err(end);
    }
    let mut total = Decimal::ZERO;
    let mut group = Decimal::ZERO;
    let mut seen = false;
    let mut smallest = Decimal::from(LIMIT);
    let mut digits_before = false;
    let mut last_times = Decimal::ONE;
    // The largest of them so far.
    let mut scale = Decimal::ONE;
    let mut article = false;
    // "2k and 3k": a letter ends its number.
    let mut by_letter = false;
    if scan.word(index).is_some_and(|word| matches!(word, "a" | "an"))
        && std::ptr::eq(language, english)
        && times(index + 1).is_some_and(|n| n >= 12)
    {
        group = Decimal::ONE;
        seen = true;
        index += 1;
    } else if let Some((part, behind)) = scan
        .word(index)
        .and_then(|word| with_half(word, language))
        .or_else(|| fraction_mark(scan, index))
        .map(|part| (part, index + 1))
        .or_else(|| Some((parts_of(scan, index, language, word(index)?)?, index + 2)))
    {
        // "Half a million", "anderthalb tausend", "half a tonne", "three quarters of a tonne".
        let mut next = behind;
        while scan.word(next).is_some_and(|word| shared().after_fractions.contains(word)) {
            next += 1;
        }
        group = part;
        seen = true;
        digits_before = true;
        index = next;
        smallest = Decimal::ONE;
    }
    let checked = |left: Decimal, right: Decimal| left.checked_add(right).ok_or(first + 1);
    while let Some(token) = tokens.get(index) {
        if token.kind == Kind::Digits {
            if seen && (digits_before || !group.is_zero() && smallest <= Decimal::from(99)) {
                break;
            }
            let found = match digits::at(scan, index, language) {
                Ok(found) => found,
                Err(_) if seen => break,
                Err(next) => return Err(next),
            };
            if seen && found.amount >= smallest {
                break;
            }
            // A clock, an ordinal or a code: "3pm", "3rd", "3b2".
            // "1_000", "4*10": what is glued on makes it something else.
            let odd = tokens
                .get(found.next)
                .is_some_and(|mark| mark.glued && matches!(&*mark.folded, "_" | "*" | "^" | "=" | "@"))
                && tokens.get(found.next + 1).is_some_and(|next| next.glued);
            let clock = scan.word(found.next) == Some("o'") && scan.word(found.next + 1) == Some("clock")
                || scan.word(found.next) == Some("uhr");
            if odd || clock {
                return Err(found.next + 2);
            }
            let behind = scan.word(found.next).filter(|_| glued_after(found.next, Kind::Word));
            if behind.is_some_and(|word| {
                shared().behind_no_number.contains(word)
                    || word.len() < 3 && glued_after(found.next + 1, Kind::Digits) && !is_power(scan, found.next)
            }) {
                if seen {
                    break;
                }
                return Err(found.next + 1);
            }
            group = checked(group, found.amount)?;
            doubtful |= found.doubtful;
            digits_before = true;
            smallest = Decimal::ONE;
            index = found.next;
            seen = true;
            // "2 1/2", "2½"
            if let Some(part) = fraction_mark(scan, index) {
                group = checked(group, part)?;
                index += 1;
            } else if found.amount.is_integer()
                && tokens.get(index).is_some_and(|token| token.kind == Kind::Digits && !token.glued)
                && tokens.get(index + 1).is_some_and(|token| token.is('/'))
                && let Ok(part) = digits::at(scan, index, language)
                && part.amount < Decimal::ONE
            {
                group = checked(group, part.amount)?;
                index = part.next;
            }
            continue;
        }
        let joins = token.is('&')
            || token.kind == Kind::Word
                && (language.join.contains(&*token.folded)
                    || std::ptr::eq(language, english) && &*token.folded == "and");
        if let Some(value) = word(index) {
            let value = Decimal::from(value);
            // "Quatre-vingts": four twenties.
            if seen
                && group % Decimal::from(100) == Decimal::from(4)
                && value == Decimal::from(20)
                && language.compounds.twenties.contains(&*token.folded)
            {
                group = checked(group, Decimal::from(76))?;
                smallest = Decimal::from(20);
            } else {
                // "Soixante-dix", "quatre-vingt-onze": a teen after sixty or eighty.
                let teen = language.compounds.teens_after_tens
                    && (group % Decimal::from(100) == Decimal::from(60)
                        || group % Decimal::from(100) == Decimal::from(80));
                let below = if teen && smallest >= Decimal::TEN { Decimal::from(20) } else { smallest };
                let fits = !digits_before || smallest >= Decimal::from(100);
                if seen && (!fits || value >= below) {
                    break;
                }
                article |= !seen && value == Decimal::ONE;
                group = checked(group, value)?;
                smallest = if value >= Decimal::from(1000) && value % Decimal::from(1000) == Decimal::ZERO {
                    // "Tweehonderdduizend achthonderd"
                    Decimal::from(1000)
                } else if value >= Decimal::from(100) {
                    Decimal::from(100)
                } else if value >= Decimal::from(20) || value == Decimal::TEN && language.compounds.teens_after_tens {
                    // "Dix-sept" is ten and seven.
                    Decimal::TEN
                } else {
                    Decimal::ONE
                };
                // "Sechzig" and "soixante" leave room for a unit only; a teen after them was dealt with above.
            }
        } else if let Some(value) = times(index) {
            let glued = index > begin && token.glued;
            let letter = token.folded.chars().count() == 1;
            let vague = index == begin
                && begin > 0
                && scan
                    .word(begin - 1)
                    .is_some_and(|word| language.vague.contains(word) || english.vague.contains(word));
            // "Thousands of pallets" say no number; "two thousands" do.
            let many = !seen && (language.vague.contains(&*token.folded) || english.vague.contains(&*token.folded));
            if vague || many {
                return Err(index + 1);
            }
            // "Zero hundred" is no number.
            if seen && group.is_zero() && total.is_zero() {
                break;
            }
            // "3 k€"
            let before_sign = digits_before
                && tokens.get(index + 1).is_some_and(|next| next.glued && matches!(&*next.folded, "€" | "£" | "$"));
            // "5 K"
            let apart = &*token.folded == "k"
                && seen
                && !group.is_zero()
                && !tokens.get(index + 1).is_some_and(|next| next.glued && next.kind != Kind::Mark);
            if !seen && (value < 12 || letter)
                || letter && !before_sign && !apart && (!glued || !digits_before || is_power(scan, index))
            {
                break;
            }
            let value = Decimal::from(value);
            let base = if seen && (!group.is_zero() || total.is_zero()) { group } else { Decimal::ONE };
            if !total.is_zero() && value > scale {
                // "Three thousand millions", "mil doscientos millones"
                total = checked(total, group)?.checked_mul(value).ok_or(first + 1)?;
                group = Decimal::ZERO;
            } else if value >= Decimal::from(1000) {
                total = checked(total, base.checked_mul(value).ok_or(first + 1)?)?;
                group = Decimal::ZERO;
            } else {
                group = base.checked_mul(value).ok_or(first + 1)?;
            }
            last_times = value;
            scale = scale.max(value);
            by_letter = letter;
            smallest = value;
            digits_before = false;
            // "mio." with its dot
            if tokens.get(index + 1).is_some_and(|next| next.is('.') && next.glued)
                && language.times.contains_key(&format!("{}.", token.folded))
            {
                index += 1;
            }
        } else if seen
            && token.is(',')
            && token.glued
            && last_times >= Decimal::from(1000)
            && group.is_zero()
            && tokens[index - 1].kind == Kind::Word
            && word(index + 1).is_some_and(|next| next > 0 && Decimal::from(next) < last_times)
            && (times(index + 2).is_some() || number_ends(scan, index + 2))
        {
            // "Two thousand, five hundred"
        } else if seen && joins && !in_span && !by_letter && and_goes_on(scan, index, smallest, language, &word) {
            // "three hundred and forty", "treinta y cinco", "fünf und zwanzig"
            if let Some(tens) = word(index + 1)
                && tens >= 20
                && tens % 10 == 0
                && smallest == Decimal::ONE
            {
                group = checked(group, Decimal::from(tens))?;
                index += 1;
            }
        } else if seen && let Some((_, next)) = language.and_half.at(scan, index) {
            // "Two and a half thousand" goes on; "a million and a half", "a dozen and a half" are half of what
            // multiplied more.
            let of = if times(index - 1).is_some() { last_times } else { Decimal::ONE };
            group = checked(group, Decimal::new(5, 1) * of)?;
            index = next;
            digits_before = true;
            continue;
        } else if seen && let Some((part, next)) = and_part(scan, index, language, &word) {
            // "Two and a quarter hours"
            group = checked(group, part)?;
            index = next;
            digits_before = true;
            continue;
        } else if seen
            && !digits_before_point(scan, index)
            && let Some((part, next)) = spoken_decimals(scan, index, language, &word)
        {
            group = checked(group, part)?;
            index = next;
            digits_before = true;
            smallest = Decimal::ONE;
            continue;
        } else if seen
            && token.is_dash()
            && token.glued
            && glued_after(index + 1, Kind::Word)
            && (tokens[index - 1].kind == Kind::Word || times(index + 1).is_some_and(|times| times >= 12))
            && goes_on_hyphenated(&word, &times, index, group, smallest)
        {
            // "forty-five", "quatre-vingt-dix"
        } else {
            break;
        }
        seen = true;
        index += 1;
    }
    let amount = checked(total, group)?;
    if !seen || index <= begin || amount > Decimal::from(LIMIT) {
        return Err(first + 1);
    }
    let alone = index == begin + 1 && article;
    Ok(Single {
        amount: if negative { -amount } else { amount },
        first,
        next: index,
        doubtful,
        article: alone,
        times: last_times,
    })
}

/// "And a quarter", "and three quarters of": a part of one behind a number, with the token after it.
fn and_part(
    scan: &Scan<'_>,
    index: usize,
    language: &Language,
    word: &impl Fn(usize) -> Option<u32>,
) -> Option<(Decimal, usize)> {
    let mut at = index + 1;
    if !shared().ands.contains(scan.word(index)?) {
        return None;
    }
    let counted = word(at)
        .and_then(|many| Some((many, *language.compounds.parts.get(scan.word(at + 1)?)?)))
        .filter(|(many, parts)| many < parts);
    let part = match counted {
        Some((many, parts)) => {
            at += 2;
            (Decimal::from(many) / Decimal::from(parts)).round_dp(4)
        }
        None => {
            at += usize::from(scan.word(at).is_some_and(|word| shared().after_fractions.contains(word)));
            let part = scan.word(at).and_then(|word| language.fractions.get(word))?.parse().ok()?;
            at += 1;
            part
        }
    };
    if part >= Decimal::ONE {
        return None;
    }
    at += usize::from(scan.word(at).is_some_and(|word| shared().after_fractions.contains(word)));
    Some((part, at))
}

/// "Point five", "Komma fünfzehn", "virgule 25": what stands behind the decimal mark where it is said as a word.
fn spoken_decimals(
    scan: &Scan<'_>,
    index: usize,
    language: &Language,
    word: &impl Fn(usize) -> Option<u32>,
) -> Option<(Decimal, usize)> {
    scan.word(index)?;
    let (_, mut at) = language.point.at(scan, index)?;
    let mut digits = String::new();
    while digits.len() < 6 {
        let part = match scan.tokens.get(at) {
            Some(token) if token.kind == Kind::Digits && digits.is_empty() && token.folded.len() <= 6 => {
                token.folded.to_string()
            }
            // "One point two five" goes on digit by digit.
            Some(token) if token.kind == Kind::Word => match word(at) {
                Some(value) if value < 10 || digits.is_empty() && value < 100 => value.to_string(),
                _ => break,
            },
            _ => break,
        };
        let whole = part.len() > 1;
        digits.push_str(&part);
        at += 1;
        if whole {
            break;
        }
    }
    let amount = (!digits.is_empty()).then(|| format!("0.{digits}").parse().ok()).flatten()?;
    Some((amount, at))
}

/// True where the number before a word has decimals of its own: "1.5 point 2" is no number.
fn digits_before_point(scan: &Scan<'_>, index: usize) -> bool {
    index >= 2
        && scan.tokens[index - 1].kind == Kind::Digits
        && scan.tokens[index - 1].glued
        && scan.tokens[index - 2].kind == Kind::Mark
}

/// True where a number in words may end behind a comma: nothing, or "and", follows its first word.
fn number_ends(scan: &Scan<'_>, index: usize) -> bool {
    scan.tokens.get(index).is_none_or(|token| token.is_dash() || shared().ands.contains(&token.folded))
}

fn fraction_mark(scan: &Scan<'_>, index: usize) -> Option<Decimal> {
    let token = scan.tokens.get(index).filter(|token| token.kind == Kind::Mark)?;
    Some(match &*token.folded {
        "½" => Decimal::new(5, 1),
        "¼" => Decimal::new(25, 2),
        "¾" => Decimal::new(75, 2),
        "⅓" => Decimal::new(3333, 4),
        "⅔" => Decimal::new(6667, 4),
        _ => return None,
    })
}

/// Whether the number goes on behind "and": after hundreds with anything smaller, after tens with a unit where the
/// language says so, after a unit with tens ("fünf und zwanzig").
fn and_goes_on(
    scan: &Scan<'_>,
    index: usize,
    smallest: Decimal,
    language: &Language,
    word: &impl Fn(usize) -> Option<u32>,
) -> bool {
    let next_digits = scan.tokens.get(index + 1).is_some_and(|next| next.kind == Kind::Digits);
    // "Vingt-et-un"
    let dash = usize::from(
        scan.tokens[index].glued && scan.tokens.get(index + 1).is_some_and(|next| next.is_dash() && next.glued),
    );
    let next = word(index + 1 + dash);
    if smallest >= Decimal::from(100) {
        return next.is_some() || next_digits;
    }
    let compounds = &language.compounds;
    next.is_some_and(|next| {
        compounds.joins_tens && smallest >= Decimal::TEN && (next < 10 || compounds.teens_after_tens && next < 20)
            || !compounds.joins.is_empty() && smallest == Decimal::ONE && next >= 20 && next % 10 == 0
    })
}

fn goes_on_hyphenated(
    word: &impl Fn(usize) -> Option<u32>,
    times: &impl Fn(usize) -> Option<u32>,
    index: usize,
    group: Decimal,
    smallest: Decimal,
) -> bool {
    let next = word(index + 1).map(Decimal::from);
    next.is_some_and(|next| {
        next < smallest
            || next == Decimal::from(20) && group % Decimal::from(100) == Decimal::from(4)
            || next < Decimal::from(20) && smallest >= Decimal::TEN
    }) || times(index + 1).is_some_and(|next| next >= 12)
        || word(index + 1).is_none()
            && times(index + 1).is_none()
            && smallest >= Decimal::TEN
            && (word(index + 2).is_some() || word(index + 3).is_some())
            && group >= Decimal::from(20)
}

/// "m2", "ft3": a unit to a power, not a code.
fn is_power(scan: &Scan<'_>, index: usize) -> bool {
    scan.word(index).is_some_and(|word| shared().powers_of.contains(word))
        && scan.tokens.get(index + 1).is_some_and(|token| matches!(&*token.folded, "2" | "3"))
}
