//! Amounts of money: signs, ISO 4217 codes and everyday names of [`lumbo_value::money`].

use std::sync::OnceLock;

use rust_decimal::Decimal;

use super::number::{Amount, amounts};
use super::took_back::TookBack;
use super::units::Units;
use super::{Found, Heard};
use lumbo_language::{Kind, Language, Lexicon, Scan, shared};
use lumbo_value::Value;
use lumbo_value::money::{currencies, currency, minor_units};

/// Signs, names and codes, to the place of their currency in the list.
fn names() -> &'static Lexicon<usize> {
    static NAMES: OnceLock<Lexicon<usize>> = OnceLock::new();
    NAMES.get_or_init(|| {
        let mut names = Lexicon::default();
        for (index, row) in currencies().iter().enumerate() {
            row.signs.iter().chain(&row.names).for_each(|name| names.add(name, index));
        }
        for (index, row) in currencies().iter().enumerate() {
            names.add(&row.code, index);
        }
        names
    })
}

/// True where a code is listed by ISO 4217.
pub(crate) fn is_currency(code: &str) -> bool {
    currency(code).is_some()
}

/// What a field takes an amount without sign or code to be in, and which dollar or crown is meant.
#[derive(Debug, Clone, Copy, Default)]
pub(super) struct Hints<'a> {
    pub currency: Option<&'a str>,
    pub country: Option<&'a str>,
}

/// An amount of money in a reply, by its tokens.
#[derive(Debug, Clone, PartialEq)]
pub(super) struct Mention {
    pub amount: Decimal,
    pub currency: String,
    pub first: usize,
    pub next: usize,
    /// Tokens of the number alone.
    pub number: (usize, usize),
}

/// Currencies that share a sign or a name.
const DOLLARS: [&str; 7] = ["USD", "AUD", "CAD", "NZD", "HKD", "SGD", "MXN"];
const CROWNS: [&str; 5] = ["SEK", "NOK", "DKK", "CZK", "ISK"];

/// The currency named at a token, with the token after it.
fn at(scan: &Scan<'_>, index: usize, hints: Hints<'_>) -> Option<(String, usize)> {
    let token = scan.tokens.get(index)?;
    if shared().crowns.contains(&token.folded) {
        let by_country = match hints.country {
            Some("SE") => Some("SEK"),
            Some("NO") => Some("NOK"),
            Some("DK") => Some("DKK"),
            Some("IS") => Some("ISK"),
            _ => None,
        };
        let code = hints.currency.filter(|code| CROWNS.contains(code)).or(by_country)?;
        return Some((code.to_owned(), index + 1));
    }
    let (place, next) = names().at(scan, index)?;
    let row = &currencies()[place];
    // "100 pounds of fish" is a weight.
    if row.code == "GBP" && token.folded.len() > 2 && scan.word(next) == Some("of") {
        return None;
    }
    let written = scan.raw.get(token.start..scan.tokens[next - 1].end).unwrap_or_default();
    // A code that is a word too counts in capitals only: "all", "top", "try", "mad".
    if token.kind == Kind::Word
        && next == index + 1
        && written.eq_ignore_ascii_case(&row.code)
        && written.bytes().any(|byte| byte.is_ascii_lowercase())
    {
        let common = matches!(
            row.code.as_str(),
            "EUR" | "GBP" | "USD" | "PLN" | "CHF" | "CAD" | "AUD" | "SEK" | "NOK" | "DKK" | "CZK"
        );
        if !common {
            return None;
        }
    }
    let bare_dollar = row.code == "USD" && next == index + 1 && !written.eq_ignore_ascii_case("USD");
    if bare_dollar {
        let by_country = match hints.country {
            Some("AU") => Some("AUD"),
            Some("CA") => Some("CAD"),
            Some("NZ") => Some("NZD"),
            Some("HK") => Some("HKD"),
            Some("SG") => Some("SGD"),
            _ => None,
        };
        let code = hints.currency.filter(|code| DOLLARS.contains(code)).or(by_country).unwrap_or("USD");
        return Some((code.to_owned(), next));
    }
    if written == "¥" && (hints.currency == Some("CNY") || hints.country == Some("CN")) {
        return Some(("CNY".to_owned(), next));
    }
    Some((row.code.clone(), next))
}

/// True where a token is the code or the name of a currency that digits may be glued to: "USD3.14".
pub(super) fn is_code(scan: &Scan<'_>, index: usize) -> bool {
    !scan.tokens[index].glued && at(scan, index, Hints::default()).is_some_and(|(_, next)| next == index + 1)
}

/// True where a currency stands right beside a number.
pub(super) fn beside(scan: &Scan<'_>, first: usize, next: usize) -> bool {
    around(scan, first, next, Hints::default()).is_some()
}

/// The currency beside the number between two tokens, with the tokens of both.
fn around(scan: &Scan<'_>, first: usize, next: usize, hints: Hints<'_>) -> Option<(String, usize, usize)> {
    // "10 kg" may be pounds of weight, "10 pounds" never; a unit of weight is told by the quantity's own names.
    let before = (1..=3.min(first)).rev().find_map(|back| {
        at(scan, first - back, hints).filter(|(_, end)| *end == first).map(|(code, _)| (code, first - back, next))
    });
    // "Un million d'euros", "un millón de euros"
    let of = usize::from(scan.word(next).is_some_and(|word| matches!(word, "d'" | "de")));
    before.or_else(|| at(scan, next + of, hints).map(|(code, end)| (code, first, end)))
}

/// Every amount of money with a sign, a code or a name, among the numbers of a reply.
pub(super) fn of(scan: &Scan<'_>, hints: Hints<'_>, found: &[Amount]) -> Vec<Mention> {
    let mut out: Vec<Mention> = Vec::new();
    for amount in found {
        if let Some(before) = out.last_mut()
            && let Some(coins) = coins_behind(scan, before, amount, hints)
        {
            match coins {
                Some((part, next)) => {
                    before.amount = (before.amount + part).normalize();
                    before.next = next;
                }
                // "20 dollars 43" may be two amounts.
                None => {
                    out.pop();
                }
            }
            continue;
        }
        out.extend(mention(scan, amount, hints));
    }
    out
}

/// "20 dollars 43 cents", "$20 and 43c": the smaller coins of the amount before, with the token after them; nothing
/// inside where the number behind the amount does not say what it counts.
fn coins_behind(
    scan: &Scan<'_>,
    before: &Mention,
    amount: &Amount,
    hints: Hints<'_>,
) -> Option<Option<(Decimal, usize)>> {
    let joined = amount.first == before.next
        || amount.first == before.next + 1 && scan.word(before.next).is_some_and(|word| shared().ands.contains(word));
    if !joined || amount.span.is_some() {
        return None;
    }
    // "12€50"
    let sign = before.next - 1;
    let glued = |index: usize| scan.tokens[index].glued;
    if amount.first == before.next
        && scan.tokens[sign].kind == Kind::Mark
        && glued(sign)
        && glued(amount.first)
        && scan.tokens[amount.first].folded.len() == 2
    {
        return Some(before.amount.is_integer().then(|| (amount.amount / Decimal::ONE_HUNDRED, amount.next)));
    }
    let hundredth = amount.amount.is_integer() && amount.amount < Decimal::ONE_HUNDRED && before.amount.is_integer();
    let coin = scan.word(amount.next).is_some_and(|word| shared().coins.contains(word)).then_some(amount.next + 1);
    match coin.or_else(|| minor(scan, amount.next, hints).map(|(_, next)| next)) {
        Some(next) if hundredth => Some(Some((amount.amount / Decimal::ONE_HUNDRED, next))),
        Some(_) => Some(None),
        None => {
            (hundredth && at(scan, amount.next, hints).is_none() && scan.word(amount.next).is_none()).then_some(None)
        }
    }
}

/// "130, 38 zł", "$119. 95": two digits behind a mark and a space may be decimals or another number.
fn torn(scan: &Scan<'_>, amount: &Amount) -> bool {
    let digits = |index: usize| scan.tokens.get(index).is_some_and(|token| token.kind == Kind::Digits);
    let mark =
        |index: usize| scan.tokens.get(index).is_some_and(|token| token.glued && (token.is('.') || token.is(',')));
    let two = |index: usize| {
        scan.tokens
            .get(index)
            .is_some_and(|token| token.kind == Kind::Digits && token.folded.len() == 2 && !token.glued)
    };
    let behind = digits(amount.next - 1) && mark(amount.next) && two(amount.next + 1) && !mark(amount.next + 2);
    let before = amount.first >= 2 && two(amount.first) && mark(amount.first - 1) && digits(amount.first - 2);
    amount.span.is_none() && (behind || before)
}

/// The amount of money that a number of a reply is part of.
fn mention(scan: &Scan<'_>, amount: &Amount, hints: Hints<'_>) -> Option<Mention> {
    if let Some((currency, next)) = minor(scan, amount.next, hints) {
        let kept = amount.amount.checked_div(Decimal::ONE_HUNDRED)?.normalize();
        return amount.span.is_none().then_some(Mention {
            amount: kept,
            currency,
            first: amount.first,
            next,
            number: (amount.first, amount.next),
        });
    }
    // "¢50"
    if amount.first > 0 && scan.tokens[amount.first - 1].is('¢') {
        return None;
    }
    if torn(scan, amount) {
        return None;
    }
    let (currency, first, next) = around(scan, amount.first, amount.next, hints)?;
    let mut kept = sum(scan, amount, &currency)?;
    // "-£5": the sign stands before the currency's.
    if first < amount.first
        && first > 0
        && scan.tokens[first - 1].is_dash()
        && !scan.tokens[first - 1].glued
        && scan.tokens[first].glued
    {
        kept = -kept;
    }
    Some(Mention {
        amount: kept,
        currency,
        first: first.min(amount.heard_from),
        next,
        number: (amount.first, amount.next),
    })
}

/// Cents and pence behind a number, with the currency they are part of.
fn minor(scan: &Scan<'_>, index: usize, hints: Hints<'_>) -> Option<(String, usize)> {
    let pound = shared().pence.contains(scan.word(index)?);
    let cent = shared().cents.contains(scan.word(index)?);
    let code = if pound { "GBP" } else { hints.currency.unwrap_or("EUR") };
    (pound && (scan.tokens[index].glued || scan.word(index) != Some("p")) || cent).then(|| (code.to_owned(), index + 1))
}

/// "Six figures", "1 bitcoin": the word behind a number names what it counts, and that is not the field's currency.
fn counts_something(scan: &Scan<'_>, amount: &Amount, language: &Language, units: &Units) -> bool {
    let Some(word) = scan.word(amount.next).filter(|word| word.chars().count() > 1) else { return false };
    if units.around(scan, amount.first, amount.next, language).is_some() {
        return false;
    }
    let goes_on = language.is_small(word)
        || shared().per.contains(word)
        || shared().behind_sums.contains(word)
        || super::date::is_period(word, language)
        || language.about.at(scan, amount.next).is_some()
        || language.instead.at(scan, amount.next).is_some()
        || language.names.endings.at(scan, amount.next).is_some()
        || language.but.contains(word)
        || language.not.contains(word);
    !goes_on
}

/// True where a word for several currencies stands beside a number, and nothing tells which is meant.
fn unknown_beside(scan: &Scan<'_>, amount: &Amount) -> bool {
    let crown = |index: usize| scan.word(index).is_some_and(|word| shared().crowns.contains(word));
    amount.first > 0 && scan.tokens[amount.first - 1].is('¢')
        || crown(amount.next)
        || amount.first > 0 && crown(amount.first - 1)
}

/// The amount, with three digits behind one mark read as thousands: no price has a tenth of a cent.
fn sum(scan: &Scan<'_>, amount: &Amount, currency: &str) -> Option<Decimal> {
    let digits = minor_units(currency);
    let glued_letter = scan.word(amount.next).is_some();
    let middle = amount.span.map_or(amount.amount, |(low, high)| Amount::middle(low, high));
    if amount.doubtful && digits < 3 && amount.span.is_none() {
        let single = amount.next == amount.first + 3;
        return if single {
            middle.checked_mul(Decimal::from(1000)).map(|value| value.normalize())
        } else {
            (!glued_letter && middle.normalize().scale() <= digits).then_some(middle.normalize())
        };
    }
    // No price has parts of the smallest coin.
    let kept = middle.normalize();
    (kept.scale() <= digits.max(2)).then_some(kept)
}

/// Every bare number that can be an amount in the field's currency, those that count something else left out.
pub(super) fn bare(scan: &Scan<'_>, language: &Language, hints: Hints<'_>, all: &[Amount]) -> Vec<Mention> {
    let units = Units::new(None, language);
    let Some(currency) = hints.currency else { return Vec::new() };
    all.iter()
        .filter(|amount| !counts_something(scan, amount, language, &units))
        .filter(|amount| {
            (!amount.article || scan.tokens.len() == 1)
                && !unknown_beside(scan, amount)
                && !amount.is_of_a_date(scan, language)
        })
        .filter(|amount| {
            units
                .around(scan, amount.first, amount.next, language)
                .is_none_or(|unit| unit.unit.dimension == "length" && scan.tokens[unit.first].folded.len() == 1)
        })
        .filter_map(|amount| {
            let kept = sum(scan, amount, currency)?;
            Some(Mention {
                amount: kept,
                currency: currency.to_owned(),
                first: amount.heard_from,
                next: amount.next,
                number: (amount.first, amount.next),
            })
        })
        .collect()
}

/// Reads one amount; a bare number is in the field's currency, where no number counts something else.
pub(super) fn read(scan: &Scan<'_>, language: &Language, hints: Hints<'_>) -> Found {
    let all = amounts(scan, language);
    let mut found = of(scan, hints, &all);
    if found.is_empty()
        && !all.iter().any(|amount| counts_something(scan, amount, language, &Units::new(None, language)))
    {
        found = bare(scan, language, hints, &all);
    }
    if found.is_empty() {
        return Found::Nothing;
    }
    match TookBack::choose(
        scan,
        language,
        &found,
        |mention| mention.number,
        |one, other| {
            (one.amount, &one.currency) == (other.amount, &other.currency)
                && (other.first != one.next + 1 || scan.tokens[one.next].is('('))
        },
    ) {
        Some(mention) => {
            let heard = Heard::at(scan.raw, scan.tokens[mention.first].start, scan.tokens[mention.next - 1].end);
            Found::Value(Value::Money { amount: mention.amount, currency: mention.currency.clone() }, heard)
        }
        None => Found::Several(Heard::whole(scan.raw)),
    }
}
