//! Words of time that stand beside a date and were not read with it: "3 days after Easter", "Friday 2 weeks ago".
//!
//! A part of what was said is not what was said. Where such a word touches a date, the date is asked for again.

use super::relative::{self, Unit};
use super::{Calendar, Mention, placed};
use lumbo_language::{Kind, Language, Scan, shared};
use lumbo_value::Precision;

/// True where a word of time that is not part of a mention changes what it means.
pub(super) fn touches(scan: &Scan<'_>, mention: &Mention, calendar: Calendar<'_>) -> bool {
    behind(scan, mention.next, calendar)
        || before(scan, mention, calendar)
        || beside_open(scan, mention, calendar.language)
}

/// "Summer 2027", "the first half of 2027": a stretch without a first day of its own, in the same breath.
fn beside_open(scan: &Scan<'_>, mention: &Mention, language: &Language) -> bool {
    let breath =
        |index: &usize| scan.tokens.get(*index).is_some_and(|token| token.kind != Kind::Mark || token.is_dash());
    let opens = |index: usize| language.dates.open.at(scan, index).is_some();
    (mention.next..mention.next + 3).take_while(breath).any(opens)
        || (mention.first.saturating_sub(3)..mention.first).rev().take_while(breath).any(opens)
}

fn behind(scan: &Scan<'_>, next: usize, calendar: Calendar<'_>) -> bool {
    let dates = &calendar.language.dates;
    if dates.ago.at(scan, next).is_some() || dates.after_next.at(scan, next).is_some() {
        return true;
    }
    // "In a month or two"
    // "Next month's end"
    let end = next + usize::from(scan.word(next) == Some("'s"));
    if scan.word(end).is_some()
        && dates.end.at(scan, end).is_some_and(|(_, behind)| behind == end + 1)
        && scan.tokens.get(end + 1).is_none_or(|token| token.kind == Kind::Mark)
    {
        return true;
    }
    // "Dans un mois et demi"
    if calendar.language.and_half.at(scan, next).is_some() {
        return true;
    }
    let or = scan.word(next) == Some(calendar.language.phrase("or"));
    if or && scan.word(next + 1).is_some_and(|word| calendar.language.words.contains_key(word)) {
        return true;
    }
    // "5 March 74": a number that is no year the date could have.
    let number = scan
        .tokens
        .get(next)
        .is_some_and(|token| token.kind == Kind::Digits && token.folded.len() <= 2 && !token.glued);
    if number && scan.tokens.get(next + 1).is_none_or(|token| token.kind == Kind::Mark && !token.glued) {
        return true;
    }
    // "Friday in 2 weeks", "mittwoch vor 2 wochen"
    let counted = dates.within.at(scan, next).or_else(|| dates.ago_before.at(scan, next)).is_some();
    if counted && relative::ahead(scan, next, calendar).is_some() {
        return true;
    }
    // "4 May of nineteen ninety": a year in words.
    let year = placed::behind_inside(scan, next, calendar.language);
    // "Last quarter of 2027"
    if year > next && scan.tokens.get(year).is_some_and(|token| token.kind == Kind::Digits && token.folded.len() == 4) {
        return true;
    }
    if year > next
        && scan.word(year).is_some()
        && crate::number::amount_at(scan, year, calendar.language).is_ok_and(|amount| amount.amount >= 1000.into())
    {
        return true;
    }
    // "Tuesday after Christmas"
    dates.from_day.at(scan, next).filter(|(weeks_only, _)| *weeks_only == 0).is_some_and(|(_, from)| {
        let from = from + usize::from(scan.word(from).is_some_and(|word| shared().articles.contains(word)));
        super::period_at(scan, from, calendar, false).is_some() || dates.next.at(scan, from).is_some()
    })
}

fn before(scan: &Scan<'_>, mention: &Mention, calendar: Calendar<'_>) -> bool {
    let language = calendar.language;
    let dates = &language.dates;
    let mut at = mention.first;
    // "From" counts any unit, "on" weeks only: "a week on Friday", "3 days on Friday".
    let mut counts_from = None;
    for _ in 0..3 {
        if let Some((_, start)) = dates.before_day.before(scan, at) {
            counts_from = Some(false);
            at = start;
        } else if let Some((weeks_only, start)) = dates.from_day.before(scan, at) {
            counts_from = Some(weeks_only == 1);
            at = start;
        } else if let Some((_, start)) = dates.inside.before(scan, at) {
            at = start;
        } else if at > 0 && scan.word(at - 1).is_some_and(|word| shared().articles.contains(word)) {
            at -= 1;
        } else {
            break;
        }
    }
    let Some(last) = at.checked_sub(1) else { return false };
    let joined = at < mention.first;
    // "20 of March" was read with its day; what is left is none of this month: "40 March", "third March".
    // "32 March" has no such day.
    let number = scan.tokens[last].kind == Kind::Digits
        && scan.tokens[last].folded.len() <= 2
        && !(scan.tokens[last].glued && last > 0);
    let of_month = mention.date.is_none_or(|(_, precision)| precision == Precision::Month)
        && language.dates.months.at(scan, mention.first).is_some();
    if !joined && number && of_month {
        return true;
    }
    let clock = scan.word(last).is_some_and(|word| matches!(word, "am" | "pm" | "h"));
    let number_ending = !clock
        && scan.tokens[last].glued
        && last > 0
        && scan.tokens[last - 1].kind == Kind::Digits
        && scan.tokens[last].kind == Kind::Word;
    if !joined && (number_ending || placed::ordinal_at(scan, last, language).is_some_and(|(_, next)| next == at)) {
        return true;
    }
    // "2 upcoming weeks", "the third last week"
    let begins_next =
        dates.next.at(scan, mention.first).is_some() || dates.after_next.at(scan, mention.first).is_some();
    if !joined
        && (begins_next && small_number(scan, last, language)
            || dates.after_next.at(scan, last).is_some_and(|(_, next)| next == at))
    {
        return true;
    }
    // "Monday in March", "3 Fridays from now"
    let word = scan.word(last).unwrap_or_default();
    let weekdays = Scan::new(word.strip_suffix('s').unwrap_or(word));
    if dates.weekdays.at(scan, last).is_some_and(|(_, next)| next == at) || dates.weekdays.at(&weekdays, 0).is_some() {
        return word.chars().count() > 3;
    }
    let Some(unit) = relative::unit(scan.word(last), language) else { return false };
    // "El día 15"
    if dates.day_opener.before(scan, mention.first).is_some() {
        return false;
    }
    if counts_from == Some(true) && !matches!(unit, Unit::Week | Unit::Fortnight) {
        return false;
    }
    // "The month of March", "the year 2027" say nothing new.
    let precision = mention.date.map_or(Precision::Day, |(_, precision)| precision);
    let larger = match unit {
        Unit::Day | Unit::Week | Unit::Fortnight => false,
        Unit::Month => matches!(precision, Precision::Month | Precision::Week | Precision::Day),
        Unit::Quarter => precision == Precision::Quarter,
        Unit::Year => true,
    };
    if larger && counts_from.is_none() {
        return false;
    }
    let counted = last.checked_sub(1).is_some_and(|index| {
        let word = scan.word(index).unwrap_or_default();
        scan.tokens[index].kind == Kind::Digits
            || language.words.contains_key(word)
            || language.ordinals.contains_key(word)
            || dates.last_within.before(scan, last).is_some()
            || dates.next.before(scan, last).is_some()
    });
    let opens = last.checked_sub(2).is_none_or(|index| scan.tokens[index].kind == Kind::Mark);
    // "25 pallets a week from March" is a rate, "for 3 weeks from March" says how long.
    let rate = last >= 2 && !opens && scan.tokens[last - 2].kind == Kind::Word && !counted_by_number(scan, last);
    let long =
        (1..=3).any(|back| last.checked_sub(back).is_some_and(|index| dates.for_so_long.at(scan, index).is_some()));
    (counted || opens) && !rate && !long
}

/// True where a token is a number up to twelve, as things are counted: "2 upcoming weeks".
fn small_number(scan: &Scan<'_>, index: usize, language: &Language) -> bool {
    let token = &scan.tokens[index];
    let digits =
        token.kind == Kind::Digits && token.folded.len() <= 2 && token.folded.parse::<u8>().is_ok_and(|n| n <= 12);
    digits || language.words.get(&*token.folded).is_some_and(|n| *n <= 12)
}

/// True where a number in digits stands right before a token.
fn counted_by_number(scan: &Scan<'_>, index: usize) -> bool {
    index.checked_sub(1).is_some_and(|index| scan.tokens[index].kind == Kind::Digits)
}
