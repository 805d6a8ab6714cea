//! What is counted from today: tomorrow, weekdays, "in 3 weeks", "next month", quarters, numbered weeks.

use jiff::Span;
use jiff::civil::{Date, ISOWeekDate, Weekday};

use super::{Calendar, Period, Said, Sure};
use crate::number;
use lumbo_language::{Kind, Language, Scan, shared};
use lumbo_value::Precision;

/// Units that dates are counted in.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Unit {
    Day,
    Week,
    Fortnight,
    Month,
    Quarter,
    Year,
}

/// The unit a word names.
pub(super) fn unit(word: Option<&str>, language: &Language) -> Option<Unit> {
    let dates = &language.dates;
    let word = word?;
    [
        (&dates.day, Unit::Day),
        (&dates.week, Unit::Week),
        (&dates.fortnight, Unit::Fortnight),
        (&dates.month, Unit::Month),
        (&dates.quarter, Unit::Quarter),
        (&dates.year, Unit::Year),
    ]
    .into_iter()
    .find_map(|(words, unit)| words.contains(word).then_some(unit))
}

/// True for a word for a day, a week, a month, a quarter or a year.
pub(super) fn is_unit(word: &str, language: &Language) -> bool {
    unit(Some(word), language).is_some()
}

/// The period that begins at a token and counts from today.
pub(super) fn at(scan: &Scan<'_>, index: usize, calendar: Calendar<'_>, inside: bool) -> Option<Said> {
    if let Some((day, sure, next)) = day(scan, index, calendar) {
        let dates = &calendar.language.dates;
        // "Tuesday after next" may be either of two.
        if let Some((_, end)) = dates
            .after_next
            .at(scan, next)
            .or_else(|| dates.from_day.at(scan, next).and_then(|(_, from)| dates.next.at(scan, from)))
        {
            return Some((None, Sure::Yes, end));
        }
        // "Friday week", "vendredi en huit"; "Friday, week 10" names a week.
        let later = dates
            .weeks_behind
            .at(scan, next)
            .filter(|(_, end)| !scan.tokens.get(*end).is_some_and(|token| token.kind == Kind::Digits));
        return Some(match later {
            Some((weeks, end)) => {
                (day.and_then(|day| after(day.first, i64::from(weeks) + 1, Unit::Week)), Sure::Yes, end)
            }
            None => (day, sure, next),
        });
    }
    quarter(scan, index, calendar)
        .or_else(|| week_of(scan, index, calendar))
        .or_else(|| numbered_week(scan, index, calendar))
        .or_else(|| within_counted(scan, index, calendar))
        .or_else(|| counted_unit(scan, index, calendar, inside))
        .or_else(|| month_by_word(scan, index, calendar))
        .or_else(|| ahead(scan, index, calendar))
}

/// The day so long after another.
fn after(day: Date, count: i64, unit: Unit) -> Option<Period> {
    let span = match unit {
        Unit::Day => Span::new().try_days(count),
        Unit::Week => Span::new().try_weeks(count),
        Unit::Fortnight => Span::new().try_weeks(count.checked_mul(2)?),
        Unit::Month => Span::new().try_months(count),
        Unit::Quarter => Span::new().try_months(count.checked_mul(3)?),
        Unit::Year => Span::new().try_years(count),
    };
    day.checked_add(span.ok()?).ok().map(Period::day)
}

/// Today, tomorrow or a weekday.
fn day(scan: &Scan<'_>, index: usize, calendar: Calendar<'_>) -> Option<Said> {
    let dates = &calendar.language.dates;
    let shifted =
        |days: i64| calendar.today.and_then(|today| today.checked_add(Span::new().days(days)).ok()).map(Period::day);
    for (words, days) in [
        (&dates.after_tomorrow, 2),
        (&dates.tomorrow, 1),
        (&dates.today, 0),
        (&dates.before_yesterday, -2),
        (&dates.yesterday, -1),
    ] {
        if let Some((_, next)) = words.at(scan, index) {
            // "Ahora no", "jetzt nicht": not now.
            return Some((shifted(days), Sure::Yes, next));
        }
    }
    weekday(scan, index, calendar)
}

/// "Q2", "Q2 2027", "2027 Q2", "second quarter", "2. Quartal", "T2".
pub(super) fn quarter(scan: &Scan<'_>, index: usize, calendar: Calendar<'_>) -> Option<Said> {
    let language = calendar.language;
    let dates = &language.dates;
    let token = scan.tokens.get(index)?;
    if token.kind == Kind::Digits && token.folded.len() == 4 {
        let year = token.folded.parse::<i16>().ok().filter(|year| (2000..2100).contains(year))?;
        let dash = usize::from(scan.tokens.get(index + 1).is_some_and(|token| token.is_dash() || token.is('/')));
        let letter = scan.word(index + 1 + dash).is_some_and(|word| dates.quarter_names.contains(word));
        let number =
            scan.tokens.get(index + 2 + dash).filter(|token| letter && token.glued && token.folded.len() == 1)?;
        let number = number.folded.parse::<i8>().ok().filter(|n| (1..=4).contains(n))?;
        return Some((Period::quarter(year, number), Sure::Yes, index + 3 + dash));
    }
    let digit = |index: usize| {
        scan.tokens
            .get(index)
            .filter(|token| token.kind == Kind::Digits && token.folded.len() == 1)
            .and_then(|token| token.folded.parse::<i8>().ok())
            .filter(|n| (1..=4).contains(n))
    };
    if token.glued && index > 0 && scan.tokens[index - 1].kind == Kind::Digits {
        return None;
    }
    // "Q2", "T 2" only where the digit is glued to its letter, "quarter 2".
    let letter = dates.quarter_names.contains(&*token.folded)
        && scan.tokens.get(index + 1).is_some_and(|next| next.glued || &*token.folded == "q");
    let word = dates.quarter.contains(&*token.folded) && digit(index + 1).is_some();
    let (number, mut next) = if token.kind == Kind::Word && (letter || word) {
        (digit(index + 1)?, index + 2)
    } else {
        let (number, next) = super::placed::ordinal_at(scan, index, language)?;
        let number = i8::try_from(number).ok().filter(|n| (1..=4).contains(n))?;
        if !scan.word(next).is_some_and(|word| dates.quarter.contains(word)) {
            return None;
        }
        (number, next + 1)
    };
    let mut at = next;
    while scan.tokens.get(at).is_some_and(|token| dates.of.contains(&*token.folded) || token.is('/')) && at < next + 2 {
        at += 1;
    }
    let year = scan
        .tokens
        .get(at)
        .filter(|token| token.kind == Kind::Digits && token.folded.len() == 4)
        .and_then(|token| token.folded.parse::<i16>().ok())
        .filter(|year| (2000..2100).contains(year));
    if let Some(year) = year {
        return Some((Period::quarter(year, number), Sure::Yes, at + 1));
    }
    if let Some((Some(period), _, end)) = counted_unit(scan, at, calendar, false)
        && period.precision == Precision::Year
    {
        next = end;
        return Some((Period::quarter(period.first.year(), number), Sure::Yes, next));
    }
    // A quarter that has begun is still this one.
    let period = calendar.today.and_then(|today| {
        let now = (today.month() - 1) / 3 + 1;
        Period::quarter(if number < now { today.year() + 1 } else { today.year() }, number)
    });
    Some((period, Sure::Yes, next))
}

/// A week by its ISO 8601 number.
pub(super) fn iso_week(year: i16, week: i64) -> Option<Period> {
    let monday = ISOWeekDate::new(year, i8::try_from(week).ok()?, Weekday::Monday).ok()?;
    Period::week(monday.date())
}

/// "Week of 14 December", "Woche vom 14. Dezember", "week commencing 14 December".
fn week_of(scan: &Scan<'_>, index: usize, calendar: Calendar<'_>) -> Option<Said> {
    if unit(scan.word(index), calendar.language) != Some(Unit::Week) {
        return None;
    }
    let mut at = index + 1;
    while at < index + 4
        && (scan
            .word(at)
            .is_some_and(|word| calendar.language.dates.of.contains(word) || shared().week_openers.contains(word)))
    {
        at += 1;
    }
    let (period, _, next) = super::written::at(scan, at, calendar).filter(|_| at > index + 1)?;
    match period {
        Some(day) if day.precision == Precision::Day => Some((Period::week(day.first), Sure::Yes, next)),
        None => Some((None, Sure::Yes, next)),
        Some(_) => None,
    }
}

/// "Week 10", "KW 10", "week 10 of 2027".
fn numbered_week(scan: &Scan<'_>, index: usize, calendar: Calendar<'_>) -> Option<Said> {
    let dates = &calendar.language.dates;
    let (_, at) = dates.week_number.at(scan, index)?;
    let token = scan.tokens.get(at).filter(|token| token.kind == Kind::Digits && token.folded.len() <= 2)?;
    let week: i64 = token.folded.parse().ok().filter(|week| (1..=53).contains(week))?;
    let mut next = at + 1;
    let mut year_at = next;
    while scan.tokens.get(year_at).is_some_and(|token| dates.of.contains(&*token.folded) || token.is('/'))
        && year_at < next + 2
    {
        year_at += 1;
    }
    let year = scan
        .tokens
        .get(year_at)
        .filter(|token| token.kind == Kind::Digits && token.folded.len() == 4)
        .and_then(|token| token.folded.parse::<i16>().ok())
        .filter(|year| (2000..2100).contains(year));
    let period = match (year, calendar.today) {
        (Some(year), _) => {
            next = year_at + 1;
            iso_week(year, week)
        }
        (None, Some(today)) => {
            let this = today.iso_week_date().year();
            iso_week(this, week).filter(|period| period.last >= today).or_else(|| iso_week(this + 1, week))
        }
        (None, None) => None,
    };
    Some((period, Sure::Yes, next))
}

/// "Friday", "next Friday", "this Friday", "Friday next week".
fn weekday(scan: &Scan<'_>, index: usize, calendar: Calendar<'_>) -> Option<Said> {
    let language = calendar.language;
    let dates = &language.dates;
    let before = dates
        .coming
        .at(scan, index)
        .map(|(_, next)| (next, false))
        .or_else(|| dates.next.at(scan, index).map(|(_, next)| (next, true)));
    let last = dates.last.at(scan, index).filter(|_| before.is_none());
    let after_next = dates.after_next.at(scan, index).filter(|_| before.is_none() && last.is_none());
    let at = before.map(|(next, _)| next).or(last.or(after_next).map(|(_, next)| next)).unwrap_or(index);
    let (day, mut next) = dates.weekdays.at(scan, at)?;
    let behind = dates.next.at(scan, next).filter(|_| before.is_none() && last.is_none());
    let last_behind = dates.last.at(scan, next).filter(|_| before.is_none() && last.is_none());
    let skips = dates.next_weekday_is_of_next_week;
    let next_week =
        before.is_some_and(|(_, next)| next && !dates.coming.at(scan, index).is_some_and(|_| true)) && skips;
    let mut of_week = None;
    if let Some((period, _, end)) =
        counted_unit(scan, super::placed::behind_inside(scan, next, language), calendar, false)
        && period.is_some_and(|period| period.precision == Precision::Week)
    {
        of_week = period;
        next = end;
    } else if let Some((_, end)) = behind.or(last_behind) {
        next = end;
    }
    let over = of_week.is_none() && (last.is_some() || last_behind.is_some());
    let offset = i64::from(day);
    let date = |today: Date| -> Option<Date> {
        if let Some(week) = of_week {
            return week.first.checked_add(Span::new().days(offset)).ok();
        }
        let monday = Period::week(today)?.first;
        if next_week {
            return monday.checked_add(Span::new().days(7 + offset)).ok();
        }
        let this = monday.checked_add(Span::new().days(offset)).ok()?;
        if over {
            return if this < today { Some(this) } else { this.checked_sub(Span::new().days(7)).ok() };
        }
        if after_next.is_some() {
            return this.checked_add(Span::new().days(if this > today { 7 } else { 14 })).ok();
        }
        if this > today { Some(this) } else { this.checked_add(Span::new().days(7)).ok() }
    };
    let short = scan.tokens[at].folded.chars().count() <= 3;
    let sure = if short && before.is_none() && of_week.is_none() && !over { Sure::Alone } else { Sure::Yes };
    Some((calendar.today.and_then(date).map(Period::day), sure, next))
}

/// "Next week Monday", "next year in March": a counted week or year and what lies within it.
fn within_counted(scan: &Scan<'_>, index: usize, calendar: Calendar<'_>) -> Option<Said> {
    let dates = &calendar.language.dates;
    let (period, _, next) = counted_unit(scan, index, calendar, false)?;
    let comma = usize::from(scan.tokens.get(next).is_some_and(|token| token.is(',')));
    let at = super::placed::behind_inside(scan, next + comma, calendar.language);
    let at = at
        + usize::from(at == next + comma && scan.word(at).is_some_and(|word| shared().before_weekdays.contains(word)));
    let (place, end, precision) = match dates.weekdays.at(scan, at) {
        Some((day, end)) => (day, end, Precision::Week),
        None => dates.months.at(scan, at).map(|(month, end)| (month, end, Precision::Year))?,
    };
    let Some(period) = period else { return Some((None, Sure::Yes, end)) };
    if period.precision != precision || scan.tokens.get(end).is_some_and(|token| token.kind == Kind::Digits) {
        return None;
    }
    let found = match precision {
        Precision::Week => period.first.checked_add(Span::new().days(i64::from(place))).ok().map(Period::day),
        _ => Period::month(period.first.year(), i8::try_from(place).ok()? + 1),
    };
    Some((found, Sure::Yes, end))
}

/// "Next week", "this month", "l’année prochaine", "przyszły rok".
pub(super) fn counted_unit(scan: &Scan<'_>, index: usize, calendar: Calendar<'_>, inside: bool) -> Option<Said> {
    let language = calendar.language;
    let dates = &language.dates;
    let mut at = index;
    // An article before the unit counts only with "next" behind it, or inside "end of".
    let mut shift = None;
    let mut article = false;
    for _ in 0..3 {
        if let Some((_, next)) = dates.after_next.at(scan, at).filter(|_| shift.is_none()) {
            shift = Some(2);
            at = next;
        } else if let Some((_, next)) = dates.next.at(scan, at).filter(|_| shift.is_none()) {
            shift = Some(1);
            at = next;
        } else if let Some((_, next)) = dates.last.at(scan, at).filter(|_| shift.is_none()) {
            shift = Some(-1);
            at = next;
        } else if let Some((_, next)) = dates.this.at(scan, at).filter(|_| shift.is_none() && !article) {
            let word = scan.word(at).unwrap_or_default();
            if shared().articles.contains(word) {
                article = true;
            } else {
                shift = Some(0);
            }
            at = next;
        } else {
            break;
        }
    }
    let unit = unit(scan.word(at), language)?;
    at += 1;
    if shift.is_none() {
        if let Some((_, next)) = dates.after_next.at(scan, at) {
            shift = Some(2);
            at = next;
        } else if let Some((_, next)) = dates.next.at(scan, at) {
            shift = Some(1);
            at = next;
        } else if let Some((_, next)) = dates.last.at(scan, at) {
            shift = Some(-1);
            at = next;
        }
    }
    let shift = shift.or_else(|| (inside && (article || at == index + 1)).then_some(0))?;
    if unit == Unit::Day || unit == Unit::Fortnight {
        return None;
    }
    Some((calendar.today.and_then(|today| of(today, shift, unit)), Sure::Yes, at))
}

/// The week, month, quarter or year so many after this one.
fn of(today: Date, shift: i64, unit: Unit) -> Option<Period> {
    match unit {
        Unit::Day => today.checked_add(Span::new().days(shift)).ok().map(Period::day),
        Unit::Week => Period::week(today.checked_add(Span::new().weeks(shift)).ok()?),
        Unit::Fortnight => Period::week(today.checked_add(Span::new().weeks(shift * 2)).ok()?),
        Unit::Month => {
            let month = today.checked_add(Span::new().months(shift)).ok()?;
            Period::month(month.year(), month.month())
        }
        Unit::Quarter => {
            let month = today.first_of_month().checked_add(Span::new().months(shift * 3)).ok()?;
            Period::quarter(month.year(), (month.month() - 1) / 3 + 1)
        }
        Unit::Year => Period::year(today.year().checked_add(i16::try_from(shift).ok()?)?),
    }
}

/// "Next March", "this May", "mars prochain".
fn month_by_word(scan: &Scan<'_>, index: usize, calendar: Calendar<'_>) -> Option<Said> {
    let dates = &calendar.language.dates;
    let (shift, at) = dates
        .next
        .at(scan, index)
        .map(|(_, next)| (1, next))
        .or_else(|| dates.last.at(scan, index).map(|(_, next)| (-1, next)))
        .or_else(|| {
            dates
                .this
                .at(scan, index)
                .filter(|_| !shared().articles.contains(scan.word(index).unwrap_or_default()))
                .map(|(_, next)| (0, next))
        })?;
    let (month, next) = dates.months.at(scan, at)?;
    let month = i8::try_from(month).ok()? + 1;
    // "Next March 5" is read with its day elsewhere.
    if scan.tokens.get(next).is_some_and(|token| token.kind == Kind::Digits && token.folded.len() <= 2) {
        return None;
    }
    let period = calendar.today.and_then(|today| {
        let year = match shift {
            1 if month <= today.month() => today.year() + 1,
            -1 if month >= today.month() => today.year() - 1,
            0 if month < today.month() => today.year() + 1,
            _ => today.year(),
        };
        Period::month(year, month)
    });
    Some((period, Sure::Yes, next))
}

/// "In 3 weeks", "3 weeks from now", "two months", "a fortnight", "in half a year".
pub(super) fn ahead(scan: &Scan<'_>, index: usize, calendar: Calendar<'_>) -> Option<Said> {
    let language = calendar.language;
    let dates = &language.dates;
    let ago_before = dates.ago_before.at(scan, index);
    let within = ago_before.or_else(|| dates.within.at(scan, index));
    let mut at = within.map_or(index, |(_, next)| next);
    while let Some((_, next)) = language.about.at(scan, at) {
        at = next;
    }
    let (count, step, next) = if let Some((_, next)) = dates.half_year.at(scan, at) {
        (6, Unit::Month, next)
    } else if let Some((_, next)) = dates.a.at(scan, at).filter(|(_, next)| unit(scan.word(*next), language).is_some())
    {
        (1, unit(scan.word(next), language)?, next + 1)
    } else if bare_one(
        scan,
        at,
        language,
        within.is_some() || dates.ago.at(scan, at + 1).or_else(|| dates.hence.at(scan, at + 1)).is_some(),
    ) {
        (1, unit(scan.word(at), language)?, at + 1)
    } else {
        let token = scan.tokens.get(at)?;
        if token.kind == Kind::Mark || token.glued && at > 0 && scan.tokens[at - 1].kind != Kind::Mark {
            return None;
        }
        let amount = number::amount_at(scan, at, language).ok()?;
        let mut next = amount.next;
        let mut step = unit(scan.word(next), language);
        // "10 working days" are not ten days; nothing is guessed.
        if step.is_none() && scan.word(next).is_some_and(|word| shared().more.contains(word)) {
            next += 1;
            step = unit(scan.word(next), language);
        }
        let step = step?;
        let count = match amount.span {
            Some(_) => None,
            None if amount.amount.is_integer() => {
                i64::try_from(amount.amount).ok().filter(|count| (0..=1200).contains(count))
            }
            // "1.5 years" are 18 months.
            None if step == Unit::Year => i64::try_from(amount.amount * rust_decimal::Decimal::from(12))
                .ok()
                .filter(|months| (0..=1200).contains(months))
                .map(|months| -months),
            None => None,
        };
        let (_, end) = dates.hence.at(scan, next + 1).unwrap_or(((), next + 1));
        match count {
            None => return Some((None, if within.is_some() || end > next + 1 { Sure::Yes } else { Sure::Alone }, end)),
            Some(months) if months < 0 => (-months, Unit::Month, next + 1),
            Some(count) => (count, step, next + 1),
        }
    };
    // "A week today", "a week tomorrow"
    if matches!(step, Unit::Week | Unit::Fortnight)
        && dates.today.at(scan, next).or_else(|| dates.tomorrow.at(scan, next)).is_some()
        && let Some((base, _, end)) = day(scan, next, calendar)
    {
        return Some((base.and_then(|base| after(base.first, count, step)), Sure::Yes, end));
    }
    if dates.hence.at(scan, next).is_none()
        && let Some((weeks_only, mut from)) = dates.from_day.at(scan, next)
        && (weeks_only == 0 || matches!(step, Unit::Week | Unit::Fortnight))
    {
        while scan.word(from).is_some_and(|word| shared().articles.contains(word)) && from < next + 4 {
            from += 1;
        }
        // "For two weeks from Friday" says how long: the day is read by itself.
        let long = dates.for_so_long.before(scan, index).is_some();
        // "25 pallets a week on Monday" may be so many each week.
        let rate = weeks_only == 1
            && index >= 2
            && scan.tokens[index - 1].kind == Kind::Word
            && scan.tokens[index - 2].kind == Kind::Digits;
        if let Some((base, _, end)) = day(scan, from, calendar) {
            return (!long)
                .then(|| (base.filter(|_| !rate).and_then(|base| after(base.first, count, step)), Sure::Yes, end));
        }
        // "2 weeks after we sign"
        let opens = index == 0 || scan.tokens[index - 1].kind == Kind::Mark || within.is_some();
        if weeks_only == 0
            && opens
            && !long
            && scan.word(from).is_some()
            && super::written::at(scan, from, calendar).is_none()
        {
            return Some((None, Sure::Yes, from));
        }
        // "Two weeks from 5 January" may be either.
        if let Some((_, _, end)) = super::written::at(scan, from, calendar) {
            return (!long).then_some((None, Sure::Yes, end));
        }
    }
    let ago = dates.ago.at(scan, next);
    let hence = dates.hence.at(scan, next);
    let end = ago.or(hence).map_or(next, |(_, end)| end);
    let count = if ago.is_some() || ago_before.is_some() { -count } else { count };
    let sure = if within.is_some() || hence.is_some() || ago.is_some() { Sure::Yes } else { Sure::Alone };
    Some((calendar.today.and_then(|today| of(today, count, step)), sure, end))
}

/// Polish says "za tydzień" without a word for one, English "fortnight from today".
fn bare_one(scan: &Scan<'_>, at: usize, language: &Language, within: bool) -> bool {
    let step = unit(scan.word(at), language);
    step == Some(Unit::Fortnight) || within && language.dates.one_goes_without_saying && step.is_some()
}
