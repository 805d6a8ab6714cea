//! Dates in digits and with month names.

use jiff::civil::Date;

use super::{Calendar, Period, Said, Sure, placed, relative};
use lumbo_language::{Kind, Language, Scan, Token, shared};
use lumbo_value::Precision;

/// The date that begins at a token.
pub(super) fn at(scan: &Scan<'_>, index: usize, calendar: Calendar<'_>) -> Option<Said> {
    let token = scan.tokens.get(index)?;
    match token.kind {
        Kind::Digits => digits(scan, index, calendar),
        Kind::Word => worded(scan, index, calendar),
        Kind::Mark => None,
    }
}

fn number(scan: &Scan<'_>, index: usize) -> Option<(i64, usize)> {
    let token = scan.tokens.get(index).filter(|token| token.kind == Kind::Digits && token.folded.len() <= 8)?;
    Some((token.folded.parse().ok()?, token.folded.len()))
}

/// The mark between two glued groups of digits.
fn between(scan: &Scan<'_>, index: usize) -> Option<char> {
    let mark = scan.tokens.get(index).filter(|mark| mark.kind == Kind::Mark && mark.glued)?;
    let c = mark.folded.chars().next()?;
    let next = scan.tokens.get(index + 1)?;
    // "5. 3. 2027" has spaces behind its dots.
    (matches!(c, '/' | '.' | '-' | '–') && next.kind == Kind::Digits && (next.glued || c == '.'))
        .then_some(if c == '–' { '-' } else { c })
}

fn full_year(year: i64, width: usize) -> Option<i16> {
    match width {
        4 if (1900..2200).contains(&year) => i16::try_from(year).ok(),
        2 => i16::try_from(if year < 70 { 2000 + year } else { 1900 + year }).ok(),
        _ => None,
    }
}

fn date(year: i16, month: i64, day: i64) -> Option<Date> {
    Date::new(year, i8::try_from(month).ok()?, i8::try_from(day).ok()?).ok()
}

/// Day and month of two numbers, in the order of the language and the country; nothing where both orders are open.
fn day_month(one: i64, two: i64, calendar: Calendar<'_>) -> Result<(i64, i64), bool> {
    let can = |month: i64, day: i64| (1..=12).contains(&month) && (1..=31).contains(&day);
    match (can(two, one), can(one, two)) {
        (false, false) => Err(false),
        (true, false) => Ok((one, two)),
        (false, true) => Ok((two, one)),
        (true, true) if one == two => Ok((one, two)),
        (true, true) if calendar.language.order == "dmy" => Ok((one, two)),
        (true, true) => match calendar.country {
            Some("US" | "PH" | "FM" | "PW" | "MH") => Ok((two, one)),
            // Canada writes all three orders.
            Some("CA") | None => Err(true),
            Some(_) => Ok((one, two)),
        },
    }
}

/// The coming occurrence of a day and a month.
fn coming(month: i64, day: i64, today: Option<Date>) -> Option<Option<Date>> {
    // A leap year has every day there is.
    date(2028, month, day)?;
    let Some(today) = today else { return Some(None) };
    Some((0..5).find_map(|ahead| date(today.year() + ahead, month, day).filter(|date| *date >= today)))
}

/// A day of the month so many months ahead.
fn day_of(today: Date, ahead: i64, day: i64) -> Option<Date> {
    let month = today.first_of_month().checked_add(jiff::Span::new().try_months(ahead).ok()?).ok()?;
    date(month.year(), i64::from(month.month()), day)
}

/// The first date from one on, with the same day of the month, that agrees; within fifteen months.
fn month_with(from: Date, agrees: impl Fn(&Date) -> bool) -> Option<Date> {
    (0..15).find_map(|ahead| day_of(from, ahead, i64::from(from.day())).filter(&agrees))
}

/// A day's number in words, up to thirty-one: "first", "twenty-first", "cinco".
fn day_in_words(scan: &Scan<'_>, index: usize, language: &Language) -> Option<(i64, usize)> {
    scan.word(index)?;
    let ordinal = placed::ordinal_at(scan, index, language).map(|(day, next)| (i64::from(day), next));
    let counted = || {
        let amount = crate::number::amount_at(scan, index, language).ok().filter(|amount| amount.span.is_none())?;
        Some((i64::try_from(amount.amount).ok().filter(|_| amount.amount.is_integer())?, amount.next))
    };
    ordinal.or_else(counted).filter(|(day, _)| (1..=31).contains(day))
}

/// "20 02 2027": three groups with spaces, the last a year of four digits.
fn spaced(scan: &Scan<'_>, index: usize, one: i64, calendar: Calendar<'_>) -> Option<Said> {
    let apart = |index: usize| scan.tokens.get(index).is_some_and(|token| token.kind == Kind::Digits && !token.glued);
    let (two, width) = number(scan, index + 1).filter(|_| apart(index + 1) && apart(index + 2))?;
    let (year, 4) = number(scan, index + 2)? else { return None };
    let year = full_year(year, 4).filter(|year| (2000..2100).contains(year) && width <= 2)?;
    if scan.tokens.get(index + 3).is_some_and(|token| token.kind == Kind::Digits) {
        return None;
    }
    match day_month(one, two, calendar) {
        Ok((day, month)) => Some((Some(Period::day(date(year, month, day)?)), Sure::Alone, index + 3)),
        Err(true) => Some((None, Sure::Alone, index + 3)),
        Err(false) => None,
    }
}

fn digits(scan: &Scan<'_>, index: usize, calendar: Calendar<'_>) -> Option<Said> {
    let (one, width) = number(scan, index)?;
    let glued_before =
        scan.tokens[index].glued && index > 0 && !matches!(&*scan.tokens[index - 1].folded, "(" | "'" | "\"" | "[");
    if glued_before {
        return None;
    }
    if width == 8 {
        let day = date(full_year(one / 10_000, 4)?, one / 100 % 100, one % 100)?;
        return Some((Some(Period::day(day)), Sure::Yes, index + 1));
    }
    if let Some(mark) = between(scan, index + 1) {
        let (two, second_width) = number(scan, index + 2)?;
        let third = between(scan, index + 3).filter(|next| *next == mark).and_then(|_| number(scan, index + 4));
        if let Some((three, third_width)) = third {
            let more = between(scan, index + 5).is_some();
            if more || second_width > 2 {
                return None;
            }
            if width == 4 {
                let day = date(full_year(one, 4)?, two, three)?;
                return Some((Some(Period::day(day)), Sure::Yes, index + 5));
            }
            let year = full_year(three, third_width)?;
            return match day_month(one, two, calendar) {
                Ok((day, month)) => Some((Some(Period::day(date(year, month, day)?)), Sure::Yes, index + 5)),
                Err(true) => Some((None, Sure::Yes, index + 5)),
                Err(false) => None,
            };
        }
        // "03/2027", "3.2027", "2027-03"
        if width <= 2 && second_width == 4 && mark != '-' && (1..=12).contains(&one) {
            return Some((Some(Period::month(full_year(two, 4)?, i8::try_from(one).ok()?)?), Sure::Yes, index + 3));
        }
        if width == 4 && second_width == 2 && mark == '-' && (1..=12).contains(&two) {
            return Some((Some(Period::month(full_year(one, 4)?, i8::try_from(two).ok()?)?), Sure::Yes, index + 3));
        }
        // "3/4", "3.4.": without a year. A dash would be a span.
        let dotted = mark == '.'
            && (scan.tokens.get(index + 3).is_some_and(|token| token.is('.') && token.glued)
                && !matches!(calendar.language.order.as_str(), "dmy_or_mdy"));
        // "10.10" and, in Dutch, "15-2" where nothing else is said.
        let bare_dot = mark == '.' && calendar.language.order == "dmy";
        let dash = mark == '-' && calendar.language.dates.dash_parts_day_and_month;
        if width <= 2 && second_width <= 2 && (mark == '/' || dotted || bare_dot || dash) {
            let next = index + 3 + usize::from(dotted);
            return match day_month(one, two, calendar) {
                Ok((day, month)) => Some((
                    coming(month, day, calendar.today)?.map(Period::day),
                    if dotted { Sure::Yes } else { Sure::Alone },
                    next,
                )),
                Err(true) => Some((None, Sure::Alone, next)),
                Err(false) => None,
            };
        }
    }
    if width <= 2
        && let Some(said) = spaced(scan, index, one, calendar)
    {
        return Some(said);
    }
    // "2027-W10"
    if width == 4
        && scan.tokens.get(index + 1).is_some_and(|mark| mark.is_dash() && mark.glued)
        && scan.word(index + 2) == Some("w")
        && let Some((week, _)) = number(scan, index + 3)
    {
        return Some((relative::iso_week(full_year(one, 4)?, week), Sure::Yes, index + 4));
    }
    let dates = &calendar.language.dates;
    let mut next = placed::ordinal_end(scan, index, calendar.language);
    let ordinal = (next > index + 1).then(|| &scan.tokens[next - 1]);
    if width <= 2 && (1..=31).contains(&one) {
        let after_day = next;
        while scan.tokens.get(next).is_some_and(|token| dates.of.contains(&*token.folded) || token.is_dash())
            && next < after_day + 2
        {
            next += 1;
        }
        if let Some((month, end)) = dates.months.at(scan, next) {
            // "5-7 March" is a span of days; its first end was looked at before.
            return Some(with_year(scan, end, i64::from(month) + 1, one, calendar));
        }
        // "5-7 March", "5 to 7 March": neither end is the answer.
        let spanned = scan.tokens.get(after_day).is_some_and(Token::is_dash)
            || calendar.language.to.at(scan, after_day).is_some();
        if spanned
            && let Some((second, _)) = number(scan, after_day + 1).filter(|(second, _)| (1..=31).contains(second))
        {
            let behind = after_day
                + 2
                + usize::from(
                    scan.tokens
                        .get(after_day + 2)
                        .is_some_and(|token| token.glued && dates.ordinal.contains(&*token.folded)),
                );
            // "Del 1 al 5 de marzo"
            let behind = behind + usize::from(scan.word(behind).is_some_and(|word| dates.of.contains(word)));
            if let Some((_, end)) = dates.months.at(scan, behind)
                && second != one
            {
                return Some((None, Sure::Yes, end));
            }
        }
        // "The 30th of this month", "1st quarter", "the 2nd week".
        if ordinal.is_some()
            && let Some((Some(period), _, end)) = relative::counted_unit(scan, next, calendar, false)
            && period.precision == Precision::Month
        {
            return date(period.first.year(), i64::from(period.first.month()), one)
                .map(|day| (Some(Period::day(day)), Sure::Yes, end));
        }
        if scan.word(after_day).is_some_and(|word| relative::is_unit(word, calendar.language) || word == "half") {
            return None;
        }
        // "The 5th"; in languages whose ordinal is a dot, that would be the end of a sentence.
        let opened = dates.day_opener.before(scan, index).is_some() && scan.tokens.len() <= after_day + 1;
        if ordinal.is_some_and(|token| !token.is('.')) || opened {
            let period = calendar
                .today
                .and_then(|today| (0..4).find_map(|ahead| day_of(today, ahead, one).filter(|date| *date >= today)));
            let sure = opened
                || ordinal.is_some_and(|token| !token.is('.')) && is_placed(scan, index, after_day, calendar.language);
            return Some((period.map(Period::day), if sure { Sure::Yes } else { Sure::Alone }, after_day));
        }
    }
    // "W 2027 roku" is a year and nothing else.
    let marked = scan.word(index + 1).is_some_and(|word| shared().year_marks.contains(word));
    let (sure, end) = if marked { (Sure::Yes, index + 2) } else { (Sure::Alone, index + 1) };
    (width == 4 && (2000..2100).contains(&one)).then(|| (full_year(one, 4).and_then(Period::year), sure, end))
}

/// "On the 12th", "from the 1st, please": a day behind a preposition and an article, with nothing behind it that it
/// counts.
fn is_placed(scan: &Scan<'_>, index: usize, next: usize, language: &Language) -> bool {
    let word = |back: usize| index.checked_sub(back).and_then(|at| scan.word(at));
    let led = word(1).is_some_and(|word| shared().articles.contains(word))
        && word(2).is_some_and(|word| shared().before_days.contains(word));
    led && scan.tokens.get(next).is_none_or(|token| {
        token.kind == Kind::Mark && !token.glued
            || matches!(&*token.folded, "," | "." | "!" | "?")
            || language.is_small(&token.folded)
    }) && !scan.word(next).is_some_and(|word| language.dates.of.contains(word))
}

/// A day and a month, with the year behind them where one stands there.
fn with_year(scan: &Scan<'_>, next: usize, month: i64, day: i64, calendar: Calendar<'_>) -> Said {
    match year_at(scan, next, true, calendar) {
        Some((Some(year), end)) => (date(year, month, day).map(Period::day), Sure::Yes, end),
        Some((None, end)) => (None, Sure::Yes, end),
        None => (coming(month, day, calendar.today).flatten().map(Period::day), Sure::Yes, next),
    }
}

/// "14 April 27": two digits that end what is said and are a year soon to come.
fn short_year(scan: &Scan<'_>, at: usize, year: i64, calendar: Calendar<'_>) -> bool {
    let ends = scan.tokens.get(at + 1).is_none_or(|token| token.kind == Kind::Mark && !token.is(':') && !token.is('%'));
    let soon = calendar.today.is_none_or(|today| {
        let ahead = year - i64::from(today.year() % 100);
        (0..=10).contains(&ahead)
    });
    !scan.tokens[at].glued && ends && soon
}

/// The year at a token: four digits, "’27", or "next year". Nothing inside where today is needed and not known.
fn year_at(scan: &Scan<'_>, index: usize, named_day: bool, calendar: Calendar<'_>) -> Option<(Option<i16>, usize)> {
    let mut next = index;
    while next < index + 2
        && scan
            .tokens
            .get(next)
            .is_some_and(|token| calendar.language.dates.of.contains(&*token.folded) || token.is('.') && token.glued)
    {
        next += 1;
    }
    for begin in [next, index] {
        let quoted =
            scan.tokens.get(begin).is_some_and(|token| token.kind == Kind::Mark && matches!(&*token.folded, "'" | "’"));
        let at = begin + usize::from(quoted);
        if let Some((year, width)) = number(scan, at)
            && (width == 4 || width == 2 && (quoted || named_day && short_year(scan, at, year, calendar)))
            && let Some(year) = full_year(year, width)
            && !scan.tokens.get(at + 1).is_some_and(|token| token.glued && (token.is(':') || token.kind == Kind::Word))
            && !counts(scan, at, year, calendar)
        {
            let unit = scan.word(at + 1).is_some_and(|word| shared().year_marks.contains(word));
            return Some((Some(year), at + 1 + usize::from(unit)));
        }
        if let Some((period, _, end)) = relative::counted_unit(scan, begin, calendar, false)
            && period.is_none_or(|period| period.precision == Precision::Year)
        {
            return Some((period.map(|period| period.first.year()), end));
        }
    }
    None
}

/// "12 March, 2000 pounds", "12 March, 2000 guests": a number that counts what stands behind it is no year.
fn counts(scan: &Scan<'_>, at: usize, year: i16, calendar: Calendar<'_>) -> bool {
    let language = calendar.language;
    if scan.word(at + 1).is_some_and(|word| shared().year_marks.contains(word)) {
        return false;
    }
    let near = calendar.today.is_some_and(|today| (-1..=10).contains(&(year - today.year())));
    let other_word = scan.word(at + 1).is_some_and(|word| !language.is_small(word));
    let unit = super::super::units::Units::new(None, language).at(scan, at + 1, language).is_some();
    super::super::money::beside(scan, at, at + 1) || unit || !near && other_word
}

fn worded(scan: &Scan<'_>, index: usize, calendar: Calendar<'_>) -> Option<Said> {
    let language = calendar.language;
    let dates = &language.dates;
    // "Friday 5 March", "Fri, 5/3": the weekday adds nothing to a day that is named.
    if let Some((weekday, mut next)) = dates.weekdays.at(scan, index) {
        while scan
            .tokens
            .get(next)
            .is_some_and(|token| token.is(',') || token.is('.') || shared().articles.contains(&token.folded))
            && next < index + 4
        {
            next += 1;
        }
        // "Mercredi 13": the next thirteenth that is one.
        if let Some((day, 1..=2)) =
            number(scan, next).filter(|(day, _)| (1..=31).contains(day) && !scan.tokens[next].glued)
            && !scan.tokens[index + 1..next].iter().any(|token| token.is(','))
            && scan.tokens.get(next + 1).is_none_or(|token| {
                token.kind == Kind::Mark && !token.glued || token.is('.') && next + 2 == scan.tokens.len()
            })
        {
            let agrees =
                |date: &Date| date.weekday().to_monday_zero_offset() == i8::try_from(weekday).unwrap_or_default();
            let from = calendar
                .today
                .and_then(|today| (0..4).find_map(|ahead| day_of(today, ahead, day).filter(|date| *date >= today)));
            return Some((from.and_then(|from| month_with(from, agrees)).map(Period::day), Sure::Yes, next + 1));
        }
        if let Some((Some(period), sure, end)) = digits_or_month(scan, next, calendar)
            && period.precision == Precision::Day
        {
            // "Thursday the 15th" is the next fifteenth that is one; of a day and a month that disagree, one is a slip.
            let agrees =
                |date: &Date| date.weekday().to_monday_zero_offset() == i8::try_from(weekday).unwrap_or_default();
            let bare = sure == Sure::Alone
                && scan.tokens[next].kind == Kind::Digits
                && !scan.tokens[next..end].iter().any(|token| token.is('/') || token.is('.'));
            let day = if bare { month_with(period.first, agrees) } else { Some(period.first).filter(agrees) };
            return Some((day.map(Period::day), Sure::Yes, end));
        }
        return None;
    }
    // "First of March", "el cinco de mayo"
    if let Some((day, mut next)) = day_in_words(scan, index, language) {
        let from = next;
        while scan.tokens.get(next).is_some_and(|token| dates.of.contains(&*token.folded)) && next < from + 2 {
            next += 1;
        }
        if let Some((month, end)) = dates.months.at(scan, next) {
            return Some(with_year(scan, end, i64::from(month) + 1, day, calendar));
        }
    }
    let (month, next) = dates.months.at(scan, index)?;
    let month = i64::from(month) + 1;
    let dot = usize::from(scan.tokens.get(next).is_some_and(|token| token.is('.') && token.glued));
    // "March 5", "March 5th, 2027"
    let mut at = next + dot;
    if scan.word(at).is_some_and(|word| shared().articles.contains(word)) {
        at += 1;
    }
    if let Some((day, width)) = number(scan, at)
        && width <= 2
        && (1..=31).contains(&day)
        && !scan.tokens.get(at + 1).is_some_and(|token| token.glued && (token.is(':') || token.is('/')))
    {
        let end = if scan.tokens.get(at + 1).is_some_and(|token| token.is('.')) {
            at + 1
        } else {
            placed::ordinal_end(scan, at, language)
        };
        let span = scan.tokens.get(end).is_some_and(Token::is_dash)
            && number(scan, end + 1).is_some_and(|(_, width)| width <= 2);
        if span {
            return Some((None, Sure::Yes, end + 2));
        }
        let unit = scan.word(end).is_some()
            && super::super::units::Units::new(None, language).at(scan, end, language).is_some();
        // "From February 30 crates": no day of that month, and something is counted.
        let counts = coming(month, day, None).is_none() && scan.word(end).is_some_and(|word| !language.is_small(word));
        if !unit && !counts {
            return Some(with_year(scan, end, month, day, calendar));
        }
    }
    // "March first", "marzec 3ci", "March third, 2027"
    if scan.tokens.get(at).is_some_and(|token| token.kind == Kind::Word)
        && let Some((day, end)) = placed::ordinal_at(scan, at, language).filter(|(day, _)| (1..=31).contains(day))
        && !scan.word(end).is_some_and(|word| relative::is_unit(word, language))
        && dates.weekdays.at(scan, end).is_none()
    {
        return Some(with_year(scan, end, month, i64::from(day), calendar));
    }
    if let Some((year, end)) = year_at(scan, next + dot, false, calendar) {
        let period = year.and_then(|year| Period::month(year, i8::try_from(month).ok()?));
        return Some((period, Sure::Yes, end));
    }
    // A month that has begun is still this one.
    let period = calendar.today.and_then(|today| {
        let year = if month < i64::from(today.month()) { today.year() + 1 } else { today.year() };
        Period::month(year, i8::try_from(month).ok()?)
    });
    Some((period, month_sure(scan, index, next, calendar.language), next))
}

/// "may", "mar", "march" are words too; a capital or a preposition makes them months.
fn month_sure(scan: &Scan<'_>, index: usize, next: usize, language: &Language) -> Sure {
    let token = &scan.tokens[index];
    if !shared().months_that_are_words.contains(&token.folded) {
        return Sure::Yes;
    }
    let capital = scan.is_large(index) && index > 0;
    let preposition = index > 0 && scan.word(index - 1).is_some_and(|word| shared().before_months.contains(word));
    // "March or April", "May."
    let listed = scan.is_large(index)
        && scan.tokens.get(next).is_some_and(|token| token.kind == Kind::Mark || language.to.at(scan, next).is_some());
    if capital || preposition || listed { Sure::Yes } else { Sure::Alone }
}

fn digits_or_month(scan: &Scan<'_>, index: usize, calendar: Calendar<'_>) -> Option<Said> {
    let token = scan.tokens.get(index)?;
    match token.kind {
        Kind::Digits => digits(scan, index, calendar),
        Kind::Word
            if calendar.language.dates.months.at(scan, index).is_some()
                || day_in_words(scan, index, calendar.language).is_some() =>
        {
            worded(scan, index, calendar)
        }
        _ => None,
    }
}
