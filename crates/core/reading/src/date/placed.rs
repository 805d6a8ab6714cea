//! A day or a week within something larger: "first Monday of March", "last week of the year", "20 of next month".
//!
//! The first week of a month is the one that holds at least four of its days, as ISO 8601 has it for years and Unicode
//! Technical Standard 35 for months.

use jiff::Span;
use jiff::civil::Date;

use super::relative::{Unit, counted_unit, unit};
use super::{Calendar, Period, Said, Sure};
use lumbo_language::{Feast, Kind, Language, Scan, shared};
use lumbo_value::Precision;

/// Which one of several is meant.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Nth {
    Counted(u32),
    Last,
}

/// What is counted within the larger period.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Counted {
    Weekday(i64),
    Week,
    Day,
}

/// An ordinal in words or digits, with the token after it: "third", "twenty-first", "3rd", "3.".
pub(super) fn ordinal_at(scan: &Scan<'_>, index: usize, language: &Language) -> Option<(u32, usize)> {
    let token = scan.tokens.get(index)?;
    if token.kind == Kind::Digits && token.folded.len() <= 2 {
        let next = ordinal_end(scan, index, language);
        return (next > index + 1).then(|| Some((token.folded.parse().ok()?, next)))?;
    }
    let word = scan.word(index)?;
    let dash = usize::from(scan.tokens.get(index + 1).is_some_and(|token| token.is_dash() && token.glued));
    let unit = || scan.word(index + 1 + dash).and_then(|word| language.ordinals.get(word)).filter(|unit| **unit < 10);
    // "Twenty-first", "dwudziesty pierwszy"
    let tens =
        language.words.get(word).or_else(|| language.ordinals.get(word)).filter(|tens| matches!(tens, 10 | 20 | 30));
    if let Some((tens, unit)) = tens.zip(unit()) {
        return Some((tens + unit, index + 2 + dash));
    }
    // "Vingt et unième"
    let and = scan.word(index + 1).is_some_and(|word| shared().ands.contains(word));
    if let Some(tens) = tens
        && and
        && scan.word(index + 2).and_then(|word| language.ordinals.get(word)) == Some(&1)
    {
        return Some((tens + 1, index + 3));
    }
    language.ordinals.get(word).map(|ordinal| (*ordinal, index + 1))
}

/// The token after a day in digits and the ending glued to it, if any: "3rd", "15.", "15-tego".
pub(super) fn ordinal_end(scan: &Scan<'_>, index: usize, language: &Language) -> usize {
    let ending = |at: usize| {
        scan.tokens.get(at).is_some_and(|token| token.glued && language.dates.ordinal.contains(&*token.folded))
    };
    if ending(index + 1) {
        index + 2
    } else if scan.tokens.get(index + 1).is_some_and(|token| token.is_dash() && token.glued)
        && ending(index + 2)
        && scan.word(index + 2).is_some()
    {
        index + 3
    } else {
        index + 1
    }
}

/// The token behind words like "of the".
pub(super) fn behind_inside(scan: &Scan<'_>, index: usize, language: &Language) -> usize {
    let mut at = language.dates.inside.at(scan, index).map_or(index, |(_, next)| next);
    if at > index && scan.word(at).is_some_and(|word| shared().articles.contains(word)) {
        at += 1;
    }
    at
}

/// The period that begins at a token and is placed within another.
pub(super) fn at(scan: &Scan<'_>, index: usize, calendar: Calendar<'_>) -> Option<Said> {
    let year_first = scan.tokens.get(index).is_some_and(|token| token.kind == Kind::Digits && token.folded.len() == 4);
    let quarter = year_first.then(|| super::relative::quarter(scan, index, calendar)).flatten();
    quarter
        .or_else(|| feast(scan, index, calendar))
        .or_else(|| nth_within(scan, index, calendar))
        .or_else(|| day_of_month_ahead(scan, index, calendar))
}

/// "First Monday of March", "last week of next month", "dernier jour d’octobre".
fn nth_within(scan: &Scan<'_>, index: usize, calendar: Calendar<'_>) -> Option<Said> {
    let language = calendar.language;
    let dates = &language.dates;
    let start = index + usize::from(scan.word(index).is_some_and(|word| shared().articles.contains(word)));
    let (nth, at) = match dates.last_within.at(scan, start) {
        Some((_, next)) => (Nth::Last, next),
        None => ordinal_at(scan, start, language).map(|(n, next)| (Nth::Counted(n), next))?,
    };
    let (counted, at) = match dates.weekdays.at(scan, at) {
        Some((day, next)) => (Counted::Weekday(i64::from(day)), next),
        None => match unit(scan.word(at), language)? {
            Unit::Week => (Counted::Week, at + 1),
            Unit::Day => (Counted::Day, at + 1),
            _ => return None,
        },
    };
    let within = behind_inside(scan, at, language);
    let (period, _, next) = super::period_at(scan, within, calendar, true)?;
    let Some(period) = period else { return Some((None, Sure::Yes, next)) };
    if !matches!(period.precision, Precision::Month | Precision::Quarter | Precision::Year) {
        return None;
    }
    let mut found = pick(period, nth, counted);
    // A month without its year whose day is over is the one of next year.
    let bare_month = dates.months.at(scan, within).is_some_and(|(_, end)| end == next);
    if let Some(today) = calendar.today
        && bare_month
        && found.is_some_and(|found| found.last < today)
    {
        found = Period::month(period.first.year().checked_add(1)?, period.first.month())
            .and_then(|period| pick(period, nth, counted));
    }
    Some((found, Sure::Yes, next))
}

fn pick(period: Period, nth: Nth, counted: Counted) -> Option<Period> {
    let shifted = |day: Date, days: i64| day.checked_add(Span::new().try_days(days).ok()?).ok();
    let first_of = |counted: Counted| match counted {
        Counted::Day => Some(period.first),
        Counted::Weekday(weekday) => {
            let from = i64::from(period.first.weekday().to_monday_zero_offset());
            shifted(period.first, (weekday - from).rem_euclid(7))
        }
        // The Monday of the week that holds the period's fourth day.
        Counted::Week => Period::week(shifted(period.first, 3)?).map(|week| week.first),
    };
    let day = match (nth, counted) {
        (Nth::Counted(n), Counted::Day) => shifted(period.first, i64::from(n.checked_sub(1)?))?,
        (Nth::Counted(n), _) => shifted(first_of(counted)?, 7 * i64::from(n.checked_sub(1)?))?,
        (Nth::Last, Counted::Day) => period.last,
        (Nth::Last, Counted::Weekday(weekday)) => {
            let to = i64::from(period.last.weekday().to_monday_zero_offset());
            shifted(period.last, -(to - weekday).rem_euclid(7))?
        }
        (Nth::Last, Counted::Week) => Period::week(shifted(period.last, -3)?)?.first,
    };
    if counted == Counted::Week {
        // The fourth day of the week has to lie within the period.
        let week = Period::week(day)?;
        let middle = shifted(week.first, 3)?;
        return (middle >= period.first && middle <= period.last).then_some(week);
    }
    (day >= period.first && day <= period.last).then(|| Period::day(day))
}

/// "20 of next month", "the 20th of this month", "am 15. des nächsten Monats".
fn day_of_month_ahead(scan: &Scan<'_>, index: usize, calendar: Calendar<'_>) -> Option<Said> {
    let token = scan.tokens.get(index).filter(|token| token.kind == Kind::Digits && token.folded.len() <= 2)?;
    let day: i8 = token.folded.parse().ok()?;
    let end = ordinal_end(scan, index, calendar.language);
    let within = behind_inside(scan, end, calendar.language);
    if within == end {
        return None;
    }
    let (period, _, next) = counted_unit(scan, within, calendar, true)?;
    match period {
        None => Some((None, Sure::Yes, next)),
        Some(month) if month.precision == Precision::Month => {
            let day = Date::new(month.first.year(), month.first.month(), day).ok();
            Some((day.map(Period::day), Sure::Yes, next))
        }
        Some(_) => None,
    }
}

/// A day with a name, with its year where one stands behind it.
fn feast(scan: &Scan<'_>, index: usize, calendar: Calendar<'_>) -> Option<Said> {
    let (feast, next) = calendar.language.dates.feasts.at(scan, index)?;
    let beside = (1..=2).any(|back| {
        index.checked_sub(back).and_then(|at| scan.word(at)).is_some_and(|word| shared().beside_feasts.contains(word))
    });
    if beside {
        return Some((None, Sure::Yes, next));
    }
    let year = scan
        .tokens
        .get(next)
        .filter(|token| token.kind == Kind::Digits && token.folded.len() == 4)
        .and_then(|token| token.folded.parse::<i16>().ok())
        .filter(|year| (2000..2100).contains(year));
    if let Some(year) = year {
        return Some((feast_in(feast, year).map(Period::day), Sure::Yes, next + 1));
    }
    let coming = calendar
        .today
        .and_then(|today| (0..2).find_map(|ahead| feast_in(feast, today.year() + ahead).filter(|day| *day >= today)));
    Some((coming.map(Period::day), Sure::Yes, next))
}

fn feast_in(feast: Feast, year: i16) -> Option<Date> {
    match feast {
        Feast::Fixed(month, day) => Date::new(year, month, day).ok(),
        Feast::Easter(days) => easter(year)?.checked_add(Span::new().days(i64::from(days))).ok(),
    }
}

/// Easter Sunday of the Gregorian calendar, by the anonymous algorithm as Meeus prints it (Astronomical Algorithms,
/// chapter 8).
pub(super) fn easter(year: i16) -> Option<Date> {
    let year = i32::from(year);
    let (a, b, c) = (year % 19, year / 100, year % 100);
    let (d, e) = (b / 4, b % 4);
    let f = (b + 8) / 25;
    let g = (b - f + 1) / 3;
    let h = (19 * a + b - d - g + 15) % 30;
    let (i, k) = (c / 4, c % 4);
    let l = (32 + 2 * e + 2 * i - h - k) % 7;
    let m = (a + 11 * h + 22 * l) / 451;
    let n = h + l - 7 * m + 114;
    Date::new(i16::try_from(year).ok()?, i8::try_from(n / 31).ok()?, i8::try_from(n % 31 + 1).ok()?).ok()
}
