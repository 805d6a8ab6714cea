//! When a calendar is open, and how many of its minutes pass.

use jiff::civil::Date;
use jiff::{SignedDuration, Timestamp, ToSpan};

use super::Calendar;

/// How far ahead an opening is looked for, days: what is closed for longer never opens.
const AHEAD: usize = 366 * 8;
/// Most days between two moments whose openings are counted one by one.
const COUNTED: i64 = 366 * 200;

/// A stretch of time in which a calendar is open: from the first moment, up to but without the second.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Opening {
    /// When it opens.
    pub from: Timestamp,
    /// When it closes.
    pub to: Timestamp,
}

impl Calendar {
    /// The moment of a time of a day, in minutes from midnight.
    fn moment(&self, date: Date, minutes: u16) -> Option<Timestamp> {
        let (date, minutes) = if minutes == 1_440 { (date.tomorrow().ok()?, 0) } else { (date, minutes) };
        let time = date.at((minutes / 60) as i8, (minutes % 60) as i8, 0, 0);
        self.zone().to_ambiguous_timestamp(time).compatible().ok()
    }

    /// Openings of a day, in order; one that clocks skip entirely is none.
    fn openings(&self, date: Date) -> impl Iterator<Item = Opening> {
        let hours = self.hours_of(date).iter();
        hours.filter_map(move |(from, to)| {
            let opening = Opening { from: self.moment(date, *from)?, to: self.moment(date, *to)? };
            (opening.from < opening.to).then_some(opening)
        })
    }

    fn date(&self, at: Timestamp) -> Date {
        at.to_zoned(self.zone().clone()).date()
    }

    /// Openings that end after a moment, in order. They begin the day before, whose last one may reach into this day.
    fn openings_after(&self, at: Timestamp) -> impl Iterator<Item = Opening> {
        let mut date = self.date(at).yesterday().ok();
        let days = std::iter::from_fn(move || {
            let day = date?;
            date = day.tomorrow().ok();
            Some(day)
        });
        days.take(AHEAD).flat_map(|day| self.openings(day)).filter(move |opening| opening.to > at)
    }

    /// True while it is open.
    #[must_use]
    pub fn is_open(&self, at: Timestamp) -> bool {
        self.openings_after(at).next().is_some_and(|opening| opening.from <= at)
    }

    /// The first moment from one on at which it is open; nothing where it never opens again.
    #[must_use]
    pub fn opens(&self, at: Timestamp) -> Option<Timestamp> {
        self.openings_after(at).next().map(|opening| opening.from.max(at))
    }

    /// The earliest moment by which so many minutes have passed while it was open; nothing where they never do.
    #[must_use]
    pub fn after(&self, from: Timestamp, minutes: u64) -> Option<Timestamp> {
        let mut left = SignedDuration::from_mins(i64::try_from(minutes).ok()?);
        if left.is_zero() {
            return Some(from);
        }
        for opening in self.openings_after(from) {
            let begin = opening.from.max(from);
            let passes = opening.to.duration_since(begin);
            if passes >= left {
                return begin.checked_add(left).ok();
            }
            left -= passes;
        }
        None
    }

    /// How much time passes between two moments while it is open; none where they are the wrong way round.
    #[must_use]
    pub fn between(&self, from: Timestamp, to: Timestamp) -> SignedDuration {
        let mut sum = SignedDuration::ZERO;
        if to <= from {
            return sum;
        }
        let Ok(mut date) = self.date(from).yesterday() else { return sum };
        let last = self.date(to);
        for _ in 0..COUNTED {
            if date > last {
                break;
            }
            for opening in self.openings(date) {
                let (begin, end) = (opening.from.max(from), opening.to.min(to));
                if end > begin {
                    sum += end.duration_since(begin);
                }
            }
            match date.checked_add(1.day()) {
                Ok(next) => date = next,
                Err(_) => break,
            }
        }
        sum
    }
}
