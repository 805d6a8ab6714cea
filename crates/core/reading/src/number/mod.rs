//! Numbers as people write them: digits with local separators, words, multipliers, spans, approximations.
//!
//! | file | what it holds |
//! |---|---|
//! | `digits` | digits and separators |
//! | `words` | one number of digits, words and multipliers |
//! | this | every number of a reply, and which two are the ends of a span |

mod digits;
mod words;

use rust_decimal::Decimal;

use super::took_back::TookBack;
use super::units::{Unit, Units};
use super::{Found, Heard};
use lumbo_language::{Kind, Language, Scan, Token, shared};
use lumbo_value::{Number, Value};

/// A number or a span in a reply, by its tokens.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) struct Amount {
    pub amount: Decimal,
    /// Both ends, where a span was given.
    pub span: Option<(Decimal, Decimal)>,
    pub first: usize,
    pub next: usize,
    /// The first token heard: the word that opens a span, where "and" joins it.
    pub heard_from: usize,
    /// Written with a mark that may part thousands or decimals.
    pub doubtful: bool,
    /// Nothing but a word for one, which is also an article.
    pub article: bool,
    /// Begins with digits, not with a word.
    pub in_digits: bool,
}

impl Amount {
    /// True where two mentions say the same number.
    pub(super) fn says_the_same(&self, scan: &Scan<'_>, other: &Self) -> bool {
        // "20 + 20" and "twenty twenty" are two; "twenty 20" says it again.
        let bracket = scan.tokens.get(self.next).is_some_and(|token| token.is('('));
        let joined =
            other.first == self.next + 1 && !bracket || other.first == self.next && self.in_digits == other.in_digits;
        !joined && (self.amount, self.span) == (other.amount, other.span)
    }

    /// True where a number is the day or the year beside the name of a month: "July, 2027".
    pub(super) fn is_of_a_date(&self, scan: &Scan<'_>, language: &Language) -> bool {
        let could = self.span.is_none()
            && self.amount.is_integer()
            && (self.amount <= Decimal::from(31) || (Decimal::from(1900)..Decimal::from(2200)).contains(&self.amount));
        // "May 40", written small, may be another word; a year behind one is a year.
        let year = self.amount >= Decimal::from(1900);
        let named = |from: usize, to: usize| {
            year || (from..to).all(|index| {
                !scan.is_small(index)
                    || scan.word(index).is_none_or(|word| !shared().months_that_are_words.contains(word))
            })
        };
        let months = &language.dates.months;
        let behind =
            self.next + usize::from(scan.tokens.get(self.next).is_some_and(|token| token.is('.') || token.is(',')));
        let before = self.first
            - usize::from(
                self.first > 0 && (scan.tokens[self.first - 1].is('.') || scan.tokens[self.first - 1].is(',')),
            );
        // "3 de marzo"
        let behind = behind + usize::from(scan.word(behind).is_some_and(|word| language.dates.of.contains(word)));
        could
            && (months.at(scan, behind).is_some_and(|(_, end)| named(behind, end))
                || months.before(scan, before).is_some_and(|(_, start)| named(start, before)))
    }

    /// True where a number is part of a code: "ISO 9001".
    fn is_of_a_code(&self, scan: &Scan<'_>, language: &Language) -> bool {
        let Some(before) = self.first.checked_sub(1).filter(|_| self.in_digits) else { return false };
        let Some(word) = scan.word(before) else { return false };
        let written = scan.raw.get(scan.tokens[before].start..scan.tokens[before].end).unwrap_or_default();
        let capitals = (2..=5).contains(&written.len()) && written.bytes().all(|byte| byte.is_ascii_uppercase());
        capitals
            && !language.is_small(word)
            && language.about.before(scan, self.first).is_none()
            && !shared().counters.contains(word)
    }

    /// True where nothing beside a number says what it counts: "5 pallets today, 10 next week".
    pub(super) fn stands_alone(&self, scan: &Scan<'_>, language: &Language) -> bool {
        let mut first = self.first;
        while let Some((_, start)) = language.about.before(scan, first) {
            first = start;
        }
        let no = first > 1
            && scan.tokens[first - 2].is(',')
            && scan.word(first - 1).is_some_and(|word| language.no.contains(word));
        let opens = first == 0
            || no
            || scan.tokens[first - 1].is(',')
            || scan.word(first - 1).is_some_and(|word| shared().ands.contains(word) || language.join.contains(word));
        let ends = scan.tokens.get(self.next).is_none_or(|token| token.is(',') || token.is('.') || token.is('!'))
            || language.dates.next.at(scan, self.next).is_some()
            || language.dates.today.at(scan, self.next).is_some()
            || language.dates.tomorrow.at(scan, self.next).is_some()
            || language.dates.hence.at(scan, self.next).is_some();
        opens && ends && !self.article
    }

    pub(super) fn middle(low: Decimal, high: Decimal) -> Decimal {
        (low + high) / Decimal::TWO
    }
}

/// Every number of a reply, in order. Digits that belong to dates, clocks, codes and phone numbers are none.
pub(super) fn amounts(scan: &Scan<'_>, language: &Language) -> Vec<Amount> {
    let mut out: Vec<Amount> = Vec::new();
    let mut index = 0;
    while index < scan.tokens.len() {
        match amount_at(scan, index, language) {
            Ok(mut found) => {
                // "One twenty", "cero uno": two numbers side by side, neither of which is an article.
                // "Ein paar" is no one.
                if found.article && scan.word(found.next).is_some_and(|word| language.vague.contains(word)) {
                    index = found.next + 1;
                    continue;
                }
                let part = scan.word(found.first).is_some_and(|word| language.fractions.contains_key(word));
                // "Eine halbe Stunde" is half of one.
                if part && out.last().is_some_and(|before| before.article && before.next == found.first) {
                    out.pop();
                }
                if let Some(before) = out.last_mut().filter(|before| before.next == found.first && !part) {
                    before.article = false;
                    found.article = false;
                }
                // "Point 77" is no seventy-seven.
                let decimals = (1..=2).any(|back| {
                    found
                        .first
                        .checked_sub(back)
                        .is_some_and(|at| language.point.at(scan, at).is_some_and(|(_, next)| next == found.first))
                });
                index = found.next;
                // "Forty-five (45)" says it twice.
                let bracketed = found.first > 0
                    && scan.tokens[found.first - 1].is('(')
                    && scan.tokens.get(found.next).is_some_and(|token| token.is(')'));
                if bracketed
                    && out.last().is_some_and(|before| {
                        before.next + 1 == found.first && before.amount == found.amount && before.span == found.span
                    })
                {
                    // "40 (forty) pallets" counts pallets.
                    if let Some(before) = out.last_mut() {
                        before.next = found.next + 1;
                    }
                    continue;
                }
                // "10 pallets less than last year" is a difference.
                let goes_on = scan
                    .word(found.next)
                    .is_some_and(|word| language.but.contains(word) || language.join.contains(word));
                let compared = language.differs.at(scan, found.next).is_some()
                    || !goes_on && language.differs.at(scan, found.next + 1).is_some();
                // "A third of 90", "10% of £400", "twice 40", "one in 40"
                let sign = found.first > 0 && matches!(&*scan.tokens[found.first - 1].folded, "£" | "€" | "$");
                let begins = found.first - usize::from(sign);
                let factor = begins
                    .checked_sub(1)
                    .and_then(|index| scan.word(index))
                    .is_some_and(|word| shared().factors.contains(word) && !language.fractions.contains_key(word));
                let one_in = begins >= 2
                    && matches!(scan.word(begins - 1), Some("in"))
                    && out.last().is_some_and(|before| before.article && before.next + 1 == begins);
                // "Four times 10"
                let times = factor && out.last().is_some_and(|before| before.next + 1 == begins);
                if one_in || times {
                    out.pop();
                }
                let part_of = factor
                    || one_in
                    || begins >= 2
                        && scan.word(begins - 1).is_some_and(|word| shared().after_fractions.contains(word))
                        && (scan.tokens[begins - 2].is('%')
                            || scan.word(begins - 2).is_some_and(|word| {
                                language.compounds.parts.contains_key(word) || language.fractions.contains_key(word)
                            }));
                // "80, including 5 vegetarians"
                let subset = !out.is_empty()
                    && found.first > 0
                    && scan.word(found.first - 1).is_some_and(|word| shared().subsets.contains(word));
                let lone_decimals = decimals && out.last().is_none_or(|before| before.next + 2 < found.first);
                if !(compared || part_of || subset || lone_decimals) {
                    out.push(found);
                }
            }
            Err(next) => index = next.max(index + 1),
        }
        // A reply of nothing but numbers is no answer; a bound keeps the readers behind this linear.
        if out.len() >= 64 {
            break;
        }
    }
    out
}

pub(super) fn amount_at(scan: &Scan<'_>, index: usize, language: &Language) -> Result<Amount, usize> {
    let tokens = &scan.tokens;
    if phone_like(scan, index) {
        let mut end = index + 1;
        // Behind so many tokens it is no phone number any more; the rest is looked at anew.
        while end - index < 40
            && tokens.get(end).is_some_and(|token| {
                token.kind == Kind::Digits || matches!(&*token.folded, "-" | "." | "/" | "(" | ")" | "+")
            })
        {
            end += 1;
        }
        return Err(end);
    }
    let opener = opens_span(scan, index, language);
    let low = words::at(scan, index, language, opener.is_some())?;
    let in_digits = tokens[low.first].kind != Kind::Word;
    let alone = Amount {
        amount: low.amount,
        span: None,
        first: low.first,
        next: low.next,
        heard_from: low.first,
        doubtful: low.doubtful,
        article: low.article,
        in_digits,
    };
    let Some((after, strong)) = joiner(scan, low.next, language) else { return Ok(alone) };
    // Between the ends may stand the sign of a currency, and words like "about".
    let mut begin = after;
    while tokens.get(begin).is_some_and(|token| matches!(&*token.folded, "£" | "€" | "$" | "~" | "¥"))
        || language.about.at(scan, begin).is_some_and(|(_, next)| next < begin + 3)
    {
        begin = language.about.at(scan, begin).map_or(begin + 1, |(_, next)| next);
    }
    // "£3 or €4" are two amounts.
    let sign = |index: usize| {
        tokens.get(index).filter(|token| matches!(&*token.folded, "£" | "€" | "$" | "¥")).map(|token| &*token.folded)
    };
    let two_signs = low
        .first
        .checked_sub(1)
        .and_then(sign)
        .zip(sign(begin.wrapping_sub(1)))
        .is_some_and(|(one, other)| one != other);
    if two_signs || !(strong || opener.is_some()) {
        return Ok(alone);
    }
    let Ok(high) = words::at(scan, begin, language, false) else {
        // "2026-11-" and the like: a dash that leads nowhere.
        return Ok(alone);
    };
    // "7-Eleven" is a name.
    if tokens[low.next].is_dash()
        && tokens[low.next].glued
        && begin == low.next + 1
        && in_digits
        && tokens[begin].kind == Kind::Word
    {
        return Err(high.next);
    }
    let mut from = low.amount;
    // "2-3k", "two or three hundred": the multiplier counts for both ends.
    if high.times > Decimal::ONE
        && low.times == Decimal::ONE
        && from > Decimal::ZERO
        && from < high.amount / high.times
        && from < high.times
    {
        from *= high.times;
    }
    // "£4-500" may be hundreds.
    let glued_dash = tokens[low.next].is_dash() && tokens[low.next].glued;
    if glued_dash
        && from > Decimal::ZERO
        && from < Decimal::TEN
        && high.times == Decimal::ONE
        && high.amount >= from * Decimal::from(50)
    {
        return Err(high.next);
    }
    let (from, to) = if from < Decimal::ZERO && high.amount < Decimal::ZERO && high.amount < from {
        (high.amount, from)
    } else {
        (from, high.amount)
    };
    if from < to {
        let doubtful = low.doubtful || high.doubtful;
        return Ok(Amount {
            amount: Amount::middle(from, to),
            span: Some((from, to)),
            first: low.first,
            next: high.next,
            heard_from: opener.filter(|_| !strong).unwrap_or(low.first),
            doubtful,
            article: false,
            in_digits,
        });
    }
    // "50-40" is neither a span nor two answers.
    if tokens[low.next].is_dash() && tokens[low.next].glued { Err(high.next) } else { Ok(alone) }
}

/// The token behind what joins the ends of a span, and whether it does so without "between" before. A unit may stand
/// before it where the same stands behind the second end: "40 kg to 50 kg".
fn joiner(scan: &Scan<'_>, next: usize, language: &Language) -> Option<(usize, bool)> {
    let tokens = &scan.tokens;
    let dash = |index: usize| tokens.get(index).is_some_and(Token::is_dash);
    let joined = |index: usize| -> Option<(usize, bool)> {
        if dash(index) {
            return Some((index + 1, true));
        }
        if tokens.get(index).is_some_and(|token| token.is('.'))
            && tokens.get(index + 1).is_some_and(|token| token.is('.'))
        {
            let end = if tokens.get(index + 2).is_some_and(|token| token.is('.')) { index + 3 } else { index + 2 };
            return Some((end, true));
        }
        // "Between 10 & 15"
        if tokens.get(index).is_some_and(|token| token.is('&')) {
            return Some((index + 1, false));
        }
        let english = Language::get("en");
        let (_, end) = language.to.at(scan, index).or_else(|| english.to.at(scan, index))?;
        let and = scan.word(index).is_some_and(|word| language.join.contains(word) || word == "and");
        Some((end, !and))
    };
    if let Some(found) = joined(next) {
        return Some(found);
    }
    // The unit or the currency's sign in between.
    let unit = tokens
        .get(next)
        .filter(|token| token.kind == Kind::Word || matches!(&*token.folded, "€" | "£" | "$" | "%" | "°"))?;
    let (after, strong) = (1..=3)
        .take_while(|skip| {
            *skip == 1 || tokens.get(next + skip - 1).is_some_and(|token| token.kind == Kind::Word || token.glued)
        })
        .find_map(|skip| joined(next + skip))?;
    let again = tokens[after..]
        .iter()
        .take(8)
        .any(|token| token.folded == unit.folded || same_stem(&token.folded, &unit.folded));
    let first = language.about.at(scan, after).map_or(after, |(_, next)| next);
    let number_first =
        tokens.get(first).is_some_and(|token| token.kind == Kind::Digits || matches!(&*token.folded, "€" | "£" | "$"))
            || scan.word(first).is_some_and(|word| language.words.contains_key(word));
    (again && number_first).then_some((after, strong))
}

fn same_stem(one: &str, other: &str) -> bool {
    one.len() > 3 && other.len() > 3 && one.trim_end_matches('s') == other.trim_end_matches('s')
}

/// "Between 40 and 50", "from 40": what opens a span stands right before, with words like "about" or a sign in between.
fn opens_span(scan: &Scan<'_>, first: usize, language: &Language) -> Option<usize> {
    let mut at = first;
    while at > 0 {
        let before = &scan.tokens[at - 1];
        if let Some((_, start)) = language.between.before(scan, at) {
            return Some(start);
        }
        let passes = matches!(&*before.folded, "£" | "€" | "$" | "~") || language.about.before(scan, at).is_some();
        if !passes || first - at > 3 {
            return None;
        }
        at -= 1;
    }
    None
}

/// A run of digits that only a phone number is written like: a plus sign or a leading zero, and seven digits or more.
fn phone_like(scan: &Scan<'_>, index: usize) -> bool {
    let tokens = &scan.tokens;
    let token = &tokens[index];
    let plus = token.is('+') && tokens.get(index + 1).is_some_and(|next| next.glued && next.kind == Kind::Digits);
    let opening = token.is('(') && tokens.get(index + 1).is_some_and(|next| next.folded.starts_with('0'));
    let zero = token.kind == Kind::Digits && token.folded.starts_with('0') && token.folded.len() > 1;
    if !plus && !zero && !opening {
        return false;
    }
    let mut count = 0;
    for token in &tokens[index..] {
        match token.kind {
            Kind::Digits => count += token.folded.len(),
            Kind::Mark if matches!(&*token.folded, "-" | "." | "/" | "(" | ")" | "+") => {}
            _ => break,
        }
        if count >= 7 {
            return true;
        }
    }
    false
}

/// "10 by 12", "10 x 12 m", "10x12": the sides of something, of which neither is what was asked for.
pub(super) fn is_product(scan: &Scan<'_>, found: &[Amount], language: &Language) -> bool {
    let tokens = &scan.tokens;
    let cross = |index: usize| tokens.get(index).is_some_and(|token| matches!(&*token.folded, "x" | "×" | "*"));
    let digits = |index: usize| tokens.get(index).is_some_and(|token| token.kind == Kind::Digits);
    let written = (1..tokens.len()).any(|index| cross(index) && digits(index - 1) && digits(index + 1));
    let counted: Vec<&Amount> = found.iter().filter(|amount| !amount.is_of_a_date(scan, language)).collect();
    let added = (1..tokens.len()).any(|index| tokens[index].is('+') && digits(index - 1) && digits(index + 1));
    written
        || added
        || counted.windows(2).any(|pair| {
            let last = pair[1].first.wrapping_sub(1);
            let near = pair[0].next <= last && last <= pair[0].next + 1;
            near && (cross(last) || scan.word(last).is_some_and(|word| shared().by.contains(word)))
        })
}

/// "A pallet or two": one, or the number behind it.
pub(super) fn or_another(scan: &Scan<'_>, found: &[Amount], language: &Language) -> bool {
    let or = language.phrase("or");
    let article = |index: usize| scan.word(index).is_some_and(|word| shared().indefinite.contains(word));
    found.iter().any(|amount| {
        let before = amount.first.checked_sub(1).filter(|index| scan.word(*index) == Some(or));
        !amount.article
            && language.about.before(scan, amount.first).is_none()
            && before.is_some_and(|index| index >= 2 && scan.word(index - 1).is_some() && article(index - 2))
    })
}

/// Reads a whole number or a span of them. Numbers with a foreign unit do not count; with several left, the one with
/// the field's unit does.
pub(super) fn read_whole(scan: &Scan<'_>, language: &Language, units: &Units) -> Found {
    let found = amounts(scan, language);
    if is_product(scan, &found, language) || or_another(scan, &found, language) {
        return Found::Several(Heard::whole(scan.raw));
    }
    let mut candidates: Vec<(Amount, bool)> = Vec::new();
    for amount in
        found.iter().filter(|amount| !amount.is_of_a_date(scan, language) && !amount.is_of_a_code(scan, language))
    {
        let unit = units.around(scan, amount.first, amount.next, language);
        let own = unit.is_some_and(|found| units.is_own(found.unit));
        // "3 min, 7 max"
        let least = unit.is_some_and(|found| found.unit.unit == "min")
            && (0..scan.tokens.len().min(24)).any(|index| scan.word(index) == Some("max"));
        let foreign = unit.is_some_and(|found| !own && !least && foreign(found.unit))
            || !own && super::money::beside(scan, amount.first, amount.next);
        // "Ein Lager", "one site": an article counts nothing but what is asked for.
        let article =
            amount.article && !own && scan.word(amount.next).is_some_and(|word| !shared().alone.contains(word));
        if !foreign && !article {
            candidates.push((*amount, own));
        }
    }
    if candidates.iter().any(|(amount, own)| !amount.article || *own) {
        candidates.retain(|(amount, own)| !amount.article || *own);
    }
    if candidates.is_empty() {
        // Another unit than the one asked for was heard.
        return Found::Nothing;
    }
    let own = candidates.iter().filter(|(_, own)| *own).count();
    if own > 0 && own < candidates.len() {
        candidates.retain(|(amount, own)| *own || amount.stands_alone(scan, language));
    }
    let chosen = match TookBack::choose(
        scan,
        language,
        &candidates,
        |(amount, _)| (amount.first, amount.next),
        |(one, _), (other, _)| one.says_the_same(scan, other),
    ) {
        Some((amount, _)) => *amount,
        None => return Found::Several(Heard::whole(scan.raw)),
    };
    let heard = Heard::at(scan.raw, scan.tokens[chosen.heard_from].start, scan.tokens[chosen.next - 1].end);
    let whole = match chosen.span {
        Some((low, high)) => low.is_integer() && high.is_integer(),
        None => chosen.amount.is_integer() && !chosen.doubtful,
    };
    let value = match chosen.span {
        Some((low, high)) => {
            Number { amount: Amount::middle(low, high).floor(), low: Some(low), high: Some(high), unit: None }
        }
        None => Number { amount: chosen.amount.normalize(), low: None, high: None, unit: None },
    };
    if whole { Found::Value(Value::Number(value), heard) } else { Found::Refused(Value::Number(value), heard, "whole") }
}

/// A unit that cannot be what a bare count is counted in.
fn foreign(unit: &Unit) -> bool {
    matches!(unit.dimension.as_str(), "mass" | "length" | "area" | "volume" | "temperature" | "time" | "share")
}

#[cfg(test)]
mod tests;
