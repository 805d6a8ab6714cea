//! Numbers with a unit, converted into the field's.

use rust_decimal::Decimal;

use super::number::{Amount, amounts, is_product, or_another};
use super::took_back::TookBack;
use super::units::{FoundUnit, Unit, Units};
use super::{Found, Heard};
use lumbo_language::{Language, Scan, shared};
use lumbo_value::{Number, Value};

/// A quantity in a reply, by its tokens.
#[derive(Debug, Clone, PartialEq)]
pub(super) struct Mention {
    pub value: Number,
    pub first: usize,
    pub next: usize,
    /// Tokens of the number alone.
    pub number: (usize, usize),
    /// True where a unit was said.
    pub with_unit: bool,
}

impl Mention {
    /// "18 below zero", "- 18 degrees".
    fn negate(&mut self) {
        let value = &mut self.value;
        value.amount = -value.amount;
        (value.low, value.high) = (value.high.map(|high| -high), value.low.map(|low| -low));
    }
}

/// Every quantity that the field can take, among the numbers of a reply: those in its unit or one that converts, and
/// bare numbers.
pub(super) fn of(scan: &Scan<'_>, language: &Language, units: &Units, found: &[Amount]) -> Vec<Mention> {
    let mut out: Vec<Mention> = Vec::new();
    // "A tonne", "an hour"
    let single: Vec<Amount> = (0..scan.tokens.len().min(400))
        .filter(|index| {
            matches!(scan.word(*index), Some("a" | "an"))
                && !(*index > 0 && scan.word(index - 1) == Some("of"))
                && language.names.stops.contains("the")
        })
        .filter(|index| {
            units.at(scan, index + 1, language).is_some()
                && !found.iter().any(|amount| {
                    let unit = units.around(scan, amount.first, amount.next, language);
                    amount.first <= *index && amount.next > *index
                        || amount.next == *index
                        || unit.is_some() && !follows_article(scan, *index, amount.first)
                })
        })
        .map(|index| Amount {
            amount: Decimal::ONE,
            span: None,
            first: index,
            next: index + 1,
            heard_from: index,
            doubtful: false,
            article: true,
            in_digits: false,
        })
        .collect();
    let merged: Vec<Amount>;
    let found = if single.is_empty() {
        found
    } else {
        merged = {
            let mut all: Vec<Amount> = found.iter().copied().chain(single).collect();
            all.sort_by_key(|amount| amount.first);
            all
        };
        &merged
    };
    let mut last_unit: Option<&'static Unit> = None;
    for amount in found {
        let Some(amount) = &units.letter_of_unit(scan, amount, language) else { continue };
        let unit = units.around(scan, amount.first, amount.next, language);
        if super::money::beside(scan, amount.first, amount.next) && !unit.is_some_and(|found| units.is_own(found.unit))
        {
            continue;
        }
        // "2 tonnes and a half"
        let half = unit
            .filter(|found| amount.span.is_none() && found.first >= amount.next)
            .and_then(|found| language.and_half.at(scan, found.next));
        let amount = &Amount {
            amount: amount.amount + if half.is_some() { Decimal::new(5, 1) } else { Decimal::ZERO },
            ..*amount
        };
        let Some(mut mention) = mention(amount, unit, units) else { continue };
        if out.last().is_some_and(|before| before.next > amount.first) {
            // The zero of "18 below zero".
            continue;
        }
        if units.is_temperature() && !mention.value.amount.is_sign_negative() {
            let sign = amount.first > 0 && scan.tokens[amount.first - 1].is_dash() && amount.first == 1;
            let below = language.below_zero.at(scan, mention.next);
            if sign || below.is_some() {
                mention.negate();
            }
            mention.next = below.map_or(mention.next, |(_, next)| next);
            mention.first = mention.first.min(if sign { 0 } else { mention.first });
        }
        if let Some((_, next)) = half {
            mention.next = next;
        }
        // "5 ft 6 in", "2 years and 3 months": parts of one quantity, each in a smaller unit than the one before.
        if let Some(before) = out.last_mut()
            && let Some(larger) = last_unit
            && behind_part(scan, before.next, amount.first)
            && before.value.low.is_none()
            && mention.value.low.is_none()
        {
            let part = match unit {
                Some(unit) => {
                    (unit.first >= amount.next && units.is_smaller(unit.unit, larger)).then_some(mention.value.amount)
                }
                None => (before.next == amount.first || amount.next == scan.tokens.len())
                    .then(|| units.bare_part(amount.amount, larger))
                    .flatten(),
            };
            if let Some(part) = part.and_then(|part| before.value.amount.checked_add(part)) {
                before.value.amount = part.normalize();
                before.next = mention.next;
                last_unit = unit.map(|unit| unit.unit);
                continue;
            }
        }
        last_unit = unit.filter(|unit| unit.first >= amount.next).map(|unit| unit.unit);
        out.push(mention);
    }
    out
}

/// "An hour and 45 minutes": a number within a few tokens behind an article and its unit.
fn follows_article(scan: &Scan<'_>, article: usize, first: usize) -> bool {
    first > article + 2 && first <= article + 4 && behind_part(scan, first - 1, first)
}

/// True where the number at a token goes on with the quantity that ends before another: nothing, a comma or "and"
/// between.
fn behind_part(scan: &Scan<'_>, end: usize, first: usize) -> bool {
    let joins = |index: usize| {
        scan.tokens.get(index).is_some_and(|token| token.is(',') || shared().ands.contains(&token.folded))
    };
    (end..first).all(joins) && first - end <= 2 && end <= first
}

fn mention(amount: &Amount, unit: Option<FoundUnit>, units: &Units) -> Option<Mention> {
    let own = |value: Decimal| match unit {
        Some(found) if units.name.is_some() => {
            units.is_own(found.unit).then(|| units.convert(value, found.unit)).flatten()
        }
        _ => Some(value.normalize()),
    };
    let name = units.name.clone().or_else(|| unit.map(|found| found.unit.unit.clone()).filter(|name| !name.is_empty()));
    let value = match amount.span {
        Some((low, high)) => {
            let (low, high) = (own(low)?, own(high)?);
            Number { amount: Amount::middle(low, high).normalize(), low: Some(low), high: Some(high), unit: name }
        }
        None => Number { amount: own(amount.amount)?, low: None, high: None, unit: name },
    };
    let (first, next) = unit.map_or((amount.heard_from, amount.next), |found| {
        (found.first.min(amount.heard_from), found.next.max(amount.next))
    });
    Some(Mention { value, first, next, number: (amount.first, amount.next), with_unit: unit.is_some() })
}

/// Reads one quantity. One with a unit goes before bare numbers.
pub(super) fn read(scan: &Scan<'_>, language: &Language, units: &Units) -> Found {
    let all = amounts(scan, language);
    if is_product(scan, &all, language) || or_another(scan, &all, language) {
        return Found::Several(Heard::whole(scan.raw));
    }
    let mut found = of(scan, language, units, &all);
    found.retain(|mention| {
        mention.with_unit
            || !all.iter().any(|amount| amount.first == mention.number.0 && amount.is_of_a_date(scan, language))
    });
    if found.iter().any(|mention| mention.with_unit) {
        let alone = |mention: &Mention| {
            all.iter().any(|amount| amount.first == mention.number.0 && amount.stands_alone(scan, language))
        };
        found.retain(|mention| mention.with_unit || alone(mention));
    } else {
        let plain = |mention: &Mention| all.iter().any(|amount| amount.first == mention.number.0 && !amount.article);
        if found.iter().any(plain) {
            found.retain(plain);
        }
    }
    if found.is_empty() {
        return Found::Nothing;
    }
    match TookBack::choose(
        scan,
        language,
        &found,
        |mention| mention.number,
        |one, other| one.value == other.value && (other.first != one.next + 1 || scan.tokens[one.next].is('(')),
    ) {
        Some(mention) => {
            let heard = Heard::at(scan.raw, scan.tokens[mention.first].start, scan.tokens[mention.next - 1].end);
            Found::Value(Value::Number(mention.value.clone()), heard)
        }
        None => Found::Several(Heard::whole(scan.raw)),
    }
}
