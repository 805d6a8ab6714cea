//! Holidays out of an iCalendar file (RFC 5545): whole days, the days of a span, and what comes back every year.

use std::collections::{BTreeMap, BTreeSet};

use icalendar::{Calendar as Ical, CalendarComponent, Component, DatePerhapsTime, Event, EventStatus};
use jiff::civil::Date;
use jiff::{Span, ToSpan};
use rrule::RRuleSet;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use super::DAYS;

/// Longest file that is read, bytes.
pub const LONGEST: usize = 500_000;
/// Most days of one event: a works holiday has weeks, not years.
const MOST_DAYS: i32 = 62;
/// Most years that a yearly event is followed for.
const YEARS: u16 = 30;
/// Most events that are named as left aside.
const NAMED: usize = 20;

/// A day off.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Holiday {
    /// The day.
    #[schemars(with = "String")]
    pub date: Date,
    /// What it is called; empty where the file does not say.
    pub name: String,
}

/// What a file holds.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Holidays {
    /// Days off, in their order, each once.
    pub days: Vec<Holiday>,
    /// What was left aside, a sentence each; the first 20.
    pub left: Vec<String>,
}

/// Why a file cannot be read.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum IcalError {
    /// No calendar.
    #[error("this is no iCalendar file; choose one that ends in .ics")]
    NoCalendar,
    /// Too long.
    #[error("a calendar file has at most {} kB; export the holidays alone", LONGEST / 1_000)]
    TooLong,
    /// Too many days.
    #[error("there are more than {DAYS} days in it; export fewer years")]
    TooMany,
}

/// Reads the days off that an iCalendar file holds from the first day to before the last. Events of some hours and
/// cancelled ones are no holidays; one that repeats more often than yearly is left aside.
///
/// # Errors
/// [`IcalError`] where it is no calendar, too long, or holds too many days.
///
/// ```
/// use jiff::civil::date;
/// use lumbo_calendar::ical::holidays;
/// let file = "BEGIN:VCALENDAR\nBEGIN:VEVENT\nDTSTART;VALUE=DATE:20251225\nRRULE:FREQ=YEARLY\nSUMMARY:Christmas\n\
///             END:VEVENT\nEND:VCALENDAR\n";
/// let found = holidays(file, date(2026, 1, 1), date(2028, 1, 1)).unwrap();
/// assert_eq!(found.days.iter().map(|day| day.date).collect::<Vec<_>>(), [date(2026, 12, 25), date(2027, 12, 25)]);
/// assert!(holidays("Christmas, 25 December", date(2026, 1, 1), date(2028, 1, 1)).is_err());
/// ```
pub fn holidays(text: &str, from: Date, until: Date) -> Result<Holidays, IcalError> {
    if text.len() > LONGEST {
        return Err(IcalError::TooLong);
    }
    let begins = text.trim_start_matches('\u{feff}').trim_start();
    if !begins.get(..15).is_some_and(|head| head.eq_ignore_ascii_case("BEGIN:VCALENDAR")) {
        return Err(IcalError::NoCalendar);
    }
    let calendar: Ical = begins.parse().map_err(|_| IcalError::NoCalendar)?;
    let mut days: BTreeMap<Date, String> = BTreeMap::new();
    let mut left = Vec::new();
    for component in &calendar.components {
        let CalendarComponent::Event(event) = component else { continue };
        if event.get_status() == Some(EventStatus::Cancelled) {
            continue;
        }
        let name: String = event.get_summary().unwrap_or_default().trim().chars().take(100).collect();
        match days_of(event, from, until) {
            Ok(found) => found.into_iter().for_each(|day| {
                days.entry(day).or_insert_with(|| name.clone());
            }),
            Err(why) if left.len() < NAMED => {
                let name = if name.is_empty() { "An event without a name" } else { &name };
                left.push(format!("{name}: {why}"));
            }
            Err(_) => {}
        }
        if days.len() > DAYS {
            return Err(IcalError::TooMany);
        }
    }
    let days = days.into_iter().map(|(date, name)| Holiday { date, name }).collect();
    Ok(Holidays { days, left })
}

/// The days of an event, or why it is left aside.
fn days_of(event: &Event, from: Date, until: Date) -> Result<Vec<Date>, &'static str> {
    let Some(DatePerhapsTime::Date(start)) = event.get_start() else { return Err("it is not a whole day") };
    let start = dated(&start).ok_or("its day cannot be read")?;
    // The end is the day after the last.
    let length = match event.get_end() {
        Some(DatePerhapsTime::Date(end)) => {
            dated(&end).and_then(|end| start.until(end).ok()).map_or(1, |span: Span| span.get_days())
        }
        _ => 1,
    };
    if length > MOST_DAYS {
        return Err("it lasts longer than two months");
    }
    let starts = match event.property_value("RRULE") {
        None => vec![start],
        Some(rule) => yearly(rule, start, until)?,
    };
    let without = but(event);
    let mut out = Vec::new();
    for first in starts.into_iter().filter(|first| !without.contains(first)) {
        for ahead in 0..length.max(1) {
            let day = first.checked_add(ahead.days()).map_err(|_| "its day cannot be read")?;
            if day >= from && day < until {
                out.push(day);
            }
        }
    }
    Ok(out)
}

/// The first days of an event that comes back every year.
fn yearly(rule: &str, start: Date, until: Date) -> Result<Vec<Date>, &'static str> {
    let upper = rule.to_ascii_uppercase();
    if !upper.split(';').any(|part| part.trim() == "FREQ=YEARLY") {
        return Err("it repeats, and not by the year");
    }
    let set = format!("DTSTART:{}T000000Z\nRRULE:{rule}", start.strftime("%Y%m%d"));
    let set: RRuleSet = set.parse().map_err(|_| "how it repeats cannot be read")?;
    let most = YEARS.saturating_mul(u16::try_from(MOST_DAYS).unwrap_or(u16::MAX));
    let found = set.all(most).dates;
    let dates = found.iter().filter_map(|moment| dated(&moment.date_naive()));
    Ok(dates.take_while(|day| *day < until).collect())
}

/// Days on which an event that comes back does not.
fn but(event: &Event) -> BTreeSet<Date> {
    let several = event.multi_properties().get("EXDATE").into_iter().flatten().map(icalendar::Property::value);
    let days = several.chain(event.property_value("EXDATE")).flat_map(|value| value.split(','));
    days.filter_map(|day| Date::strptime("%Y%m%d", day.trim().get(..8)?).ok()).collect()
}

/// A date of the reader's kind as one of ours.
fn dated(date: &impl std::fmt::Display) -> Option<Date> {
    date.to_string().parse().ok()
}

#[cfg(test)]
mod tests {
    use jiff::civil::date;
    use proptest::prelude::*;

    use super::*;

    fn file(events: &[&str]) -> String {
        let events: Vec<String> = events
            .iter()
            .enumerate()
            .map(|(n, event)| {
                format!("BEGIN:VEVENT\r\nUID:{n}\r\nDTSTAMP:20260101T000000Z\r\n{event}\r\nEND:VEVENT\r\n")
            })
            .collect();
        format!("BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//a//b//EN\r\n{}END:VCALENDAR\r\n", events.concat())
    }

    fn read(events: &[&str]) -> Holidays {
        holidays(&file(events), date(2026, 1, 1), date(2029, 1, 1)).unwrap()
    }

    fn dates(found: &Holidays) -> Vec<String> {
        found.days.iter().map(|day| day.date.to_string()).collect()
    }

    #[test]
    fn a_span_ends_before_its_end_and_folded_names_are_read() {
        let found =
            read(&["DTSTART;VALUE=DATE:20261225\r\nDTEND;VALUE=DATE:20261229\r\nSUMMARY:Between\\, the\r\n  years"]);
        assert_eq!(dates(&found), ["2026-12-25", "2026-12-26", "2026-12-27", "2026-12-28"]);
        assert_eq!(found.days[0].name, "Between, the years");
        assert_eq!(dates(&read(&["DTSTART;VALUE=DATE:20260501"])), ["2026-05-01"]);
    }

    /// Days computed by python-dateutil 2.9.0 (`rrulestr`) for the same rules.
    #[test]
    fn what_comes_back_every_year_is_followed() {
        let thanks = "DTSTART;VALUE=DATE:20201126\r\nRRULE:FREQ=YEARLY;BYMONTH=11;BYDAY=4TH\r\nSUMMARY:Thanksgiving";
        assert_eq!(dates(&read(&[thanks])), ["2026-11-26", "2027-11-25", "2028-11-23"]);
        let bank = "DTSTART;VALUE=DATE:20200525\r\nRRULE:FREQ=YEARLY;BYMONTH=5;BYDAY=-1MO";
        assert_eq!(dates(&read(&[bank])), ["2026-05-25", "2027-05-31", "2028-05-29"]);
        let leap = "DTSTART;VALUE=DATE:20240229\r\nRRULE:FREQ=YEARLY";
        assert_eq!(dates(&read(&[leap])), ["2028-02-29"]);
        let some = "DTSTART;VALUE=DATE:20251224\r\nRRULE:FREQ=YEARLY;COUNT=3\r\nEXDATE;VALUE=DATE:20261224";
        assert_eq!(dates(&read(&[some])), ["2027-12-24"]);
    }

    #[test]
    fn what_is_no_holiday_is_left_aside_and_named() {
        let found = read(&[
            "DTSTART:20260504T090000Z\r\nDTEND:20260504T100000Z\r\nSUMMARY:Stand-up",
            "DTSTART;VALUE=DATE:20260504\r\nRRULE:FREQ=WEEKLY\r\nSUMMARY:Bins",
            "DTSTART;VALUE=DATE:20260504\r\nDTEND;VALUE=DATE:20270504\r\nSUMMARY:Sabbatical",
            "DTSTART;VALUE=DATE:20260505\r\nSTATUS:CANCELLED\r\nSUMMARY:Gone",
            "SUMMARY:Some day",
        ]);
        assert_eq!(found.days, []);
        assert_eq!(
            found.left,
            [
                "Stand-up: it is not a whole day",
                "Bins: it repeats, and not by the year",
                "Sabbatical: it lasts longer than two months",
                "Some day: it is not a whole day",
            ]
        );
    }

    #[test]
    fn what_is_no_calendar_says_so() {
        let read = |text: &str| holidays(text, date(2026, 1, 1), date(2029, 1, 1));
        for text in ["", "25 December", "BEGIN:VCARD\r\nEND:VCARD", "PK\u{3}\u{4}"] {
            assert_eq!(read(text), Err(IcalError::NoCalendar), "{text}");
        }
        assert_eq!(read(&"x".repeat(LONGEST + 1)), Err(IcalError::TooLong));
        assert_eq!(read(&format!("\u{feff}{}", file(&[]))), Ok(Holidays::default()));
    }

    proptest! {
        /// Lines in any order, of any values, cost little and break nothing.
        #[test]
        fn no_file_breaks_it(lines in prop::collection::vec(prop_oneof![
            Just("BEGIN:VEVENT".to_owned()), Just("END:VEVENT".to_owned()), Just("END:VCALENDAR".to_owned()),
            "DTSTART;VALUE=DATE:[0-9]{0,9}", "DTEND;VALUE=DATE:[0-9]{8}", "DTSTART:[0-9T]{0,16}Z?", "SUMMARY:.{0,20}",
            "RRULE:FREQ=(YEARLY|DAILY|x)(;(COUNT|INTERVAL|BYMONTH|BYDAY|BYYEARDAY)=-?[0-9]{0,5}(MO|SU)?){0,3}",
            "EXDATE:[0-9,]{0,20}", ".{0,30}",
        ], 0..20)) {
            let text = format!("BEGIN:VCALENDAR\r\n{}\r\nEND:VCALENDAR\r\n", lines.join("\r\n"));
            let _ = holidays(&text, date(2026, 1, 1), date(2029, 1, 1));
        }
    }
}
