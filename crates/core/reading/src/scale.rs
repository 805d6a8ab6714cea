//! A number between two worded ends.

use rust_decimal::Decimal;

use super::choice::{Match, Options};
use super::number::{Amount, amounts};
use super::took_back::TookBack;
use super::{Found, Heard};
use lumbo_language::{Kind, Language, Scan, shared};
use lumbo_value::{Number, Value};

/// Reads a place on a scale: a number, "4 out of 5", or the words at an end. `options` have numbers as keys.
pub(super) fn read(scan: &Scan<'_>, folded: &str, language: &Language, options: &Options) -> Found {
    let steps: Vec<Decimal> = options.all.iter().filter_map(|option| option.key.parse().ok()).collect();
    let ends = steps.iter().min().copied().zip(steps.iter().max().copied());
    for found in [options.named(scan, folded, language), options.sought(scan, folded, language)] {
        if let Match::One(index, first, next) = found
            && let Ok(step) = options.all[index].key.parse::<Decimal>()
            && next > first
        {
            return Found::Value(
                Value::number(step),
                Heard::at(scan.raw, scan.tokens[first].start, scan.tokens[next - 1].end),
            );
        }
    }
    let out_of = out_of(scan);
    let found: Vec<Amount> = match out_of {
        Some((amount, _)) => vec![amount],
        None => amounts(scan, language),
    };
    let Some(amount) = TookBack::choose(
        scan,
        language,
        &found,
        |amount| (amount.first, amount.next),
        |one: &Amount, other| one.says_the_same(scan, other),
    )
    .copied() else {
        return match (found.as_slice(), ends) {
            // "4 out of 5", "4 of the 5"
            ([one, top], Some((_, most)))
                if top.amount == most
                    && top.first <= one.next + 3
                    && (one.next..top.first)
                        .any(|index| scan.word(index).is_some_and(|word| shared().out_of.contains(word))) =>
            {
                keep(scan, *one, ends)
            }
            ([], _) => Found::Nothing,
            _ => Found::Several(Heard::whole(scan.raw)),
        };
    };
    if out_of.is_some_and(|(_, top)| ends.is_none_or(|(_, most)| most != top)) {
        return Found::Nothing;
    }
    keep(scan, amount, ends)
}

fn keep(scan: &Scan<'_>, amount: Amount, ends: Option<(Decimal, Decimal)>) -> Found {
    let heard = Heard::at(scan.raw, scan.tokens[amount.heard_from].start, scan.tokens[amount.next - 1].end);
    let (low, high) = amount.span.unwrap_or((amount.amount, amount.amount));
    let number = match amount.span {
        Some(_) => Number { amount: Amount::middle(low, high).floor(), low: Some(low), high: Some(high), unit: None },
        None => Number { amount: amount.amount.normalize(), low: None, high: None, unit: None },
    };
    let value = Value::Number(number);
    if !low.is_integer() || !high.is_integer() {
        return Found::Refused(value, heard, "whole");
    }
    if ends.is_some_and(|(least, most)| low < least || high > most) {
        return Found::Refused(value, heard, "range");
    }
    Found::Value(value, heard)
}

/// "4/5": the number and what it is out of.
fn out_of(scan: &Scan<'_>) -> Option<(Amount, Decimal)> {
    let index = scan.tokens.iter().position(|token| token.is('/'))?;
    let number = |index: usize| {
        scan.tokens
            .get(index)
            .filter(|token| token.kind == Kind::Digits)
            .and_then(|token| token.folded.parse::<Decimal>().ok())
    };
    let (amount, top) = (number(index.checked_sub(1)?)?, number(index + 1)?);
    Some((
        Amount {
            amount,
            span: None,
            first: index - 1,
            next: index + 2,
            heard_from: index - 1,
            doubtful: false,
            article: false,
            in_digits: true,
        },
        top,
    ))
}
