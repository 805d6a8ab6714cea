//! Working time. A calendar has a zone, weekly hours, holidays and exceptions; minutes count only while it is open, and
//! they are minutes that pass, not differences of what clocks on the wall show, so that a night in which clocks change
//! is as long as it really is.
//!
//! | file | what it holds |
//! |---|---|
//! | `lib` | a calendar as it is written, and what cannot be one |
//! | `ical` | holidays out of an iCalendar file |
//! | `open` | when it is open, the minutes between two moments, the moment after so many minutes |
//!
//! An exception of a day goes before a holiday, a holiday before the week. An opening that clocks skip begins as much
//! later as they skip; a time that comes twice means the first, as jiff and the standards it follows have it.

pub mod ical;
mod open;

use std::collections::{BTreeMap, BTreeSet};

use jiff::civil::Date;
use jiff::tz::TimeZone;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

pub use open::Opening;

/// Most openings of one day.
pub const OPENINGS: usize = 24;
/// Most holidays and exceptions.
pub const DAYS: usize = 5_000;

/// A calendar as it is written.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Written {
    /// IANA name of its zone, such as `Europe/London`.
    pub zone: String,
    /// Openings by day of the week, `mon` to `sun`, each as two times such as `["08:00", "17:30"]`; a day that is not
    /// named is closed. `24:00` is the end of the day.
    #[serde(default)]
    #[schemars(with = "BTreeMap<String, Vec<Vec<String>>>")]
    pub hours: BTreeMap<Weekday, Vec<(String, String)>>,
    /// Days on which it is closed.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    #[schemars(with = "Vec<String>")]
    pub holidays: Vec<Date>,
    /// Days with hours of their own.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub exceptions: Vec<WrittenDay>,
}

/// A day with hours of its own.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct WrittenDay {
    /// The day.
    #[schemars(with = "String")]
    pub date: Date,
    /// Its openings; none for a day that is closed.
    #[serde(default)]
    #[schemars(with = "Vec<Vec<String>>")]
    pub hours: Vec<(String, String)>,
}

/// A day of the week.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Weekday {
    /// Monday.
    Mon,
    /// Tuesday.
    Tue,
    /// Wednesday.
    Wed,
    /// Thursday.
    Thu,
    /// Friday.
    Fri,
    /// Saturday.
    Sat,
    /// Sunday.
    Sun,
}

/// Why a calendar cannot be read.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum CalendarError {
    /// No such zone.
    #[error("“{0}” is no time zone; write one such as Europe/London")]
    Zone(String),
    /// Not a time.
    #[error("“{0}” is no time; write hours and minutes, such as 08:30")]
    Time(String),
    /// It ends before it begins.
    #[error(
        "an opening from {0} to {1} ends before it begins; write a night as two openings, up to 24:00 and from 00:00"
    )]
    Order(String, String),
    /// Two exceptions of one day.
    #[error("{0} is named twice among the exceptions")]
    Twice(Date),
    /// Too many.
    #[error("a calendar has at most {OPENINGS} openings a day and {DAYS} holidays and exceptions")]
    TooLarge,
}

/// Minutes of a day from midnight, both from 0 to 1,440, the first before the second.
type Hours = Vec<(u16, u16)>;

/// A calendar that minutes are counted by.
#[derive(Debug, Clone)]
pub struct Calendar {
    zone: TimeZone,
    week: [Hours; 7],
    holidays: BTreeSet<Date>,
    exceptions: BTreeMap<Date, Hours>,
}

fn minutes(text: &str) -> Result<u16, CalendarError> {
    let wrong = || CalendarError::Time(text.chars().take(20).collect());
    let (hours, minutes) = text.split_once(':').ok_or_else(wrong)?;
    let number = |part: &str| match part.len() {
        1 | 2 if part.bytes().all(|byte| byte.is_ascii_digit()) => part.parse::<u16>().ok(),
        _ => None,
    };
    match (number(hours), number(minutes)) {
        (Some(24), Some(0)) => Ok(1_440),
        (Some(hours @ 0..24), Some(minutes @ 0..60)) => Ok(hours * 60 + minutes),
        _ => Err(wrong()),
    }
}

/// Openings in order, those that touch or overlap as one.
fn hours(written: &[(String, String)]) -> Result<Hours, CalendarError> {
    if written.len() > OPENINGS {
        return Err(CalendarError::TooLarge);
    }
    let mut all = Vec::new();
    for (from, to) in written {
        let (start, end) = (minutes(from)?, minutes(to)?);
        if start >= end {
            return Err(CalendarError::Order(from.clone(), to.clone()));
        }
        all.push((start, end));
    }
    all.sort_unstable();
    let mut out: Hours = Vec::new();
    for (start, end) in all {
        match out.last_mut() {
            Some(last) if start <= last.1 => last.1 = last.1.max(end),
            _ => out.push((start, end)),
        }
    }
    Ok(out)
}

impl Calendar {
    /// Reads a calendar as it is written.
    ///
    /// ```
    /// use lumbo_calendar::{Calendar, Weekday, Written};
    /// let hours = [(Weekday::Mon, vec![("08:00".to_owned(), "17:30".to_owned())])].into();
    /// let calendar = Calendar::new(&Written { zone: "Europe/London".into(), hours, ..Written::default() }).unwrap();
    /// // Friday's question is answered on Monday: five minutes after it opens.
    /// let from = "2026-11-27T15:00:00Z".parse().unwrap();
    /// assert_eq!(calendar.after(from, 5), Some("2026-11-30T08:05:00Z".parse().unwrap()));
    /// ```
    ///
    /// # Errors
    /// A [`CalendarError`].
    pub fn new(written: &Written) -> Result<Self, CalendarError> {
        let zone = TimeZone::get(&written.zone).map_err(|_| CalendarError::Zone(written.zone.clone()))?;
        if written.holidays.len() + written.exceptions.len() > DAYS {
            return Err(CalendarError::TooLarge);
        }
        let mut week: [Hours; 7] = Default::default();
        for (day, openings) in &written.hours {
            week[*day as usize] = hours(openings)?;
        }
        let mut exceptions = BTreeMap::new();
        for day in &written.exceptions {
            if exceptions.insert(day.date, hours(&day.hours)?).is_some() {
                return Err(CalendarError::Twice(day.date));
            }
        }
        Ok(Self { zone, week, holidays: written.holidays.iter().copied().collect(), exceptions })
    }

    /// Always open, in a zone.
    #[must_use]
    pub fn always(zone: TimeZone) -> Self {
        let day = vec![(0, 1_440)];
        Self {
            zone,
            week: std::array::from_fn(|_| day.clone()),
            holidays: BTreeSet::new(),
            exceptions: BTreeMap::new(),
        }
    }

    /// Its zone.
    #[must_use]
    pub fn zone(&self) -> &TimeZone {
        &self.zone
    }

    fn hours_of(&self, date: Date) -> &[(u16, u16)] {
        if let Some(hours) = self.exceptions.get(&date) {
            return hours;
        }
        if self.holidays.contains(&date) {
            return &[];
        }
        &self.week[usize::from(date.weekday().to_monday_zero_offset().unsigned_abs())]
    }
}
