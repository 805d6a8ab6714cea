//! Dates as people say them: ISO, local orders, month names, weekdays, "in 3 weeks", "end of Q2".
//!
//! | file | what it holds |
//! |---|---|
//! | `written` | dates in digits and with month names |
//! | `relative` | what is counted from today |
//! | `placed` | a day or a week within something larger, and days with a name |
//! | `loose` | words of time beside a date that were not read with it |
//! | this | every date of a reply, and which one is meant |
//!
//! A date is the first day of what was said, or the last after "end of", with how exact it was. Digits whose order the
//! language and the country leave open are not guessed.

mod loose;
mod placed;
mod relative;
mod written;

use jiff::civil::Date;

use super::took_back::TookBack;
use super::{Found, Heard};
use lumbo_language::{Kind, Language, Scan, shared};
use lumbo_value::{Precision, Value};

/// What reading a date may use.
#[derive(Debug, Clone, Copy)]
pub(super) struct Calendar<'a> {
    pub language: &'a Language,
    pub today: Option<Date>,
    pub country: Option<&'a str>,
}

/// How surely a mention is a date.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Sure {
    /// Nothing else it could be.
    Yes,
    /// A date where the whole reply is one: "may", "3 weeks", "2027".
    Alone,
}

/// A date in a reply, by its tokens.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) struct Mention {
    /// Nothing where it counts from a day that is not known, where its order is open, or where it is one end of a span.
    pub date: Option<(Date, Precision)>,
    pub sure: Sure,
    pub first: usize,
    pub next: usize,
}

/// A stretch of the calendar.
#[derive(Debug, Clone, Copy, PartialEq)]
struct Period {
    first: Date,
    last: Date,
    precision: Precision,
}

impl Period {
    fn day(date: Date) -> Self {
        Self { first: date, last: date, precision: Precision::Day }
    }

    fn week(any: Date) -> Option<Self> {
        let first = any.checked_sub(jiff::Span::new().days(i64::from(any.weekday().to_monday_zero_offset()))).ok()?;
        Some(Self { first, last: first.checked_add(jiff::Span::new().days(6)).ok()?, precision: Precision::Week })
    }

    fn month(year: i16, month: i8) -> Option<Self> {
        let first = Date::new(year, month, 1).ok()?;
        Some(Self { first, last: first.last_of_month(), precision: Precision::Month })
    }

    fn quarter(year: i16, quarter: i8) -> Option<Self> {
        let first = Date::new(year, (quarter - 1) * 3 + 1, 1).ok()?;
        let last = Date::new(year, quarter * 3, 1).ok()?.last_of_month();
        Some(Self { first, last, precision: Precision::Quarter })
    }

    fn year(year: i16) -> Option<Self> {
        Some(Self {
            first: Date::new(year, 1, 1).ok()?,
            last: Date::new(year, 12, 31).ok()?,
            precision: Precision::Year,
        })
    }
}

/// A period at a token: what it is where it can be told, how surely, and the token after it.
type Said = (Option<Period>, Sure, usize);

/// True for a word for a day, a week, a month, a quarter or a year.
pub(super) fn is_period(word: &str, language: &Language) -> bool {
    relative::is_unit(word, language)
}

/// Every date of a reply, in order.
pub(super) fn mentions(scan: &Scan<'_>, calendar: Calendar<'_>) -> Vec<Mention> {
    let dates = &calendar.language.dates;
    let mut out = Vec::new();
    let mut index = 0;
    // What follows within a breath of a date that says more than was read is a part of it.
    let mut spoiled = 0;
    while index < scan.tokens.len() && out.len() < 16 {
        // "Guten Morgen"
        if let Some((_, next)) = calendar.language.names.greetings.at(scan, index).filter(|(_, next)| *next > index + 1)
        {
            index = next;
            continue;
        }
        match at(scan, index, calendar) {
            Some(mut mention) => {
                // "Between March and May", "every Monday", "tous les lundis"
                let led = |back: usize| mention.first.checked_sub(back).and_then(|at| scan.word(at));
                let named =
                    dates.weekdays.at(scan, mention.first).is_some() || dates.months.at(scan, mention.first).is_some();
                let recurs = |word: &str| named && shared().recurring.contains(word);
                let article = led(1).is_some_and(|word| shared().articles.contains(word));
                let between = led(1).is_some_and(|word| shared().between.contains(word) || recurs(word))
                    || article && led(2).is_some_and(recurs);
                // "Przyszłego lata" is next summer.
                let stretch = dates.open.at(scan, mention.first).is_some_and(|(_, next)| next >= mention.next);
                if between || stretch || loose::touches(scan, &mention, calendar) {
                    mention.date = None;
                    spoiled = mention.next + 3;
                } else if mention.first < spoiled {
                    mention.date = None;
                }
                index = mention.next.max(index + 1);
                out.push(mention);
            }
            None => index += 1,
        }
    }
    out
}

/// Every date of a reply that may say how long something takes as well: "24 months from January 2027" is a time and a
/// beginning.
pub(super) fn beside_times(scan: &Scan<'_>, calendar: Calendar<'_>) -> Vec<Mention> {
    let counted = |mention: &Mention| {
        let amount = super::number::amount_at(scan, mention.first, calendar.language).ok();
        amount.and_then(|amount| scan.word(amount.next)).is_some_and(|word| is_period(word, calendar.language))
    };
    let mut out: Vec<Mention> = Vec::new();
    let mut behind_time = None;
    for mention in mentions(scan, calendar) {
        if counted(&mention) {
            let ending = |index: usize| {
                at(scan, index, calendar).filter(|found| found.next == mention.next && found.sure == Sure::Yes)
            };
            out.extend((mention.first + 1..mention.next).find_map(ending));
            behind_time = Some(mention.next);
        } else if mention.date.is_none() && behind_time.is_some_and(|next| mention.first <= next + 3) {
            out.extend(at(scan, mention.first, calendar));
        } else {
            out.push(mention);
        }
    }
    out
}

/// The date that begins at a token.
fn at(scan: &Scan<'_>, index: usize, calendar: Calendar<'_>) -> Option<Mention> {
    let dates = &calendar.language.dates;
    let mention = |(period, sure, next): Said, last: bool| Mention {
        date: period.map(|period| (if last { period.last } else { period.first }, period.precision)),
        sure,
        first: index,
        next,
    };
    // "End of March", "beginning of next week", "mid-2027"
    let part = dates.end.at(scan, index).map(|(_, next)| (next, true)).or_else(|| {
        dates.start.at(scan, index).or_else(|| dates.middle.at(scan, index)).map(|(_, next)| (next, false))
    });
    // "Fin de semana" is a weekend.
    let part = part.filter(|(next, _)| dates.open.at(scan, index).is_none_or(|(_, open)| open <= *next));
    if let Some((behind, last)) = part {
        let mut next = behind;
        while scan.tokens.get(next).is_some_and(|token| {
            token.is_dash() || dates.of.contains(&*token.folded) && period_at(scan, next, calendar, true).is_none()
        }) {
            next += 1;
        }
        if let Some((period, _, end)) = period_at(scan, next, calendar, true) {
            // "The start of the new year" is no part of a day; "end 1 June" says which day it is.
            let day = period.is_some_and(|period| period.precision == Precision::Day);
            if !day || next > behind || dates.feasts.at(scan, next).is_some() {
                return Some(mention((period.filter(|_| !day), Sure::Yes, end), last));
            }
        }
    }
    let said = period_at(scan, index, calendar, false)?;
    Some(mention(with_weekday(scan, said, calendar), false))
}

/// "18 July, Friday": a weekday behind a day has to agree with it.
fn with_weekday(scan: &Scan<'_>, said: Said, calendar: Calendar<'_>) -> Said {
    let (Some(period), sure, next) = said else { return said };
    let at = next + usize::from(scan.tokens.get(next).is_some_and(|token| token.is(',') || token.is('(')));
    let weekday = calendar.language.dates.weekdays.at(scan, at).filter(|_| period.precision == Precision::Day);
    let Some((weekday, end)) = weekday.filter(|(_, end)| scan.tokens[*end - 1].folded.chars().count() > 2) else {
        return said;
    };
    let agrees = period.first.weekday().to_monday_zero_offset() == i8::try_from(weekday).unwrap_or_default();
    (agrees.then_some(period), sure, end)
}

/// The period that begins at a token; `inside` where "the month" may stand for this one.
fn period_at(scan: &Scan<'_>, index: usize, calendar: Calendar<'_>, inside: bool) -> Option<Said> {
    placed::at(scan, index, calendar)
        .or_else(|| written::at(scan, index, calendar))
        .or_else(|| relative::at(scan, index, calendar, inside))
}

/// "5 January, or the 12th": a day of the same month follows.
fn or_another(scan: &Scan<'_>, next: usize, language: &Language) -> bool {
    let at = next + usize::from(scan.tokens.get(next).is_some_and(|token| token.is(',')));
    if scan.word(at) != Some(language.phrase("or")) {
        return false;
    }
    let at = at + 1 + usize::from(scan.word(at + 1).is_some_and(|word| shared().articles.contains(word)));
    scan.tokens.get(at).is_some_and(|token| token.kind == Kind::Digits)
}

/// Reads one date.
pub(super) fn read(scan: &Scan<'_>, calendar: Calendar<'_>) -> Found {
    let mut found = mentions(scan, calendar);
    let words = scan.tokens.len();
    if found.iter().any(|mention| mention.sure == Sure::Yes) {
        // "Early June, ideally the 5th": a day behind a month says more than the month.
        let day = |mention: &Mention| mention.date.is_some_and(|(_, precision)| precision == Precision::Day);
        let month =
            found.iter().position(|mention| mention.date.is_some_and(|(_, precision)| precision == Precision::Month));
        if month.is_some_and(|month| found[month..].iter().any(|mention| mention.sure == Sure::Alone && day(mention))) {
            return Found::Several(Heard::whole(scan.raw));
        }
        found.retain(|mention| mention.sure == Sure::Yes);
    } else {
        // A single word that is also another word ends a reply of two at most: "so", "may".
        let last = scan.tokens.iter().rposition(|token| token.kind != Kind::Mark).map_or(0, |last| last + 1);
        found.retain(|mention| {
            mention.next - mention.first >= 2
                || mention.next == last
                    && words
                        <= mention.next - mention.first
                            + 1
                            + usize::from(scan.tokens.iter().any(|token| token.kind == Kind::Mark))
        });
    }
    if found.is_empty() {
        return Found::Nothing;
    }
    match TookBack::choose(
        scan,
        calendar.language,
        &found,
        |mention| (mention.first, mention.next),
        |one, other| one.date == other.date,
    ) {
        Some(mention) if or_another(scan, mention.next, calendar.language) => Found::Several(Heard::whole(scan.raw)),
        Some(mention) => match mention.date {
            Some((date, precision)) => {
                let heard = Heard::at(scan.raw, scan.tokens[mention.first].start, scan.tokens[mention.next - 1].end);
                Found::Value(Value::Date { date, precision }, heard)
            }
            None => Found::Nothing,
        },
        None if found.len() > 1 => Found::Several(Heard::whole(scan.raw)),
        None => Found::Nothing,
    }
}

#[cfg(test)]
mod tests;
