//! Calls: what came of one, and when the next is. A plan of tries spreads them over working days, so that the second
//! does not follow a minute after the first and no open lead is left without a next step.

use jiff::civil::Date;
use jiff::{SignedDuration, Timestamp, ToSpan};
use lumbo_calendar::Calendar;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use crate::LeadStatus;

/// What came of a call.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum CallOutcome {
    /// They spoke.
    Spoke,
    /// Nobody answered.
    NoReply,
    /// A message was left.
    MessageLeft,
    /// The number is another's, or none.
    WrongNumber,
}

impl CallOutcome {
    /// Every outcome, in the order of their keys.
    pub const ALL: [Self; 4] = [Self::Spoke, Self::NoReply, Self::MessageLeft, Self::WrongNumber];

    /// Its name in the database and on the wire.
    #[must_use]
    pub fn as_str(self) -> &'static str {
        match self {
            Self::Spoke => "spoke",
            Self::NoReply => "no_reply",
            Self::MessageLeft => "message_left",
            Self::WrongNumber => "wrong_number",
        }
    }

    /// True where it is a try: somebody's phone rang.
    #[must_use]
    pub fn is_try(self) -> bool {
        self != Self::WrongNumber
    }

    /// The status that a lead has after it, from the one it had.
    #[must_use]
    pub fn status(self, was: LeadStatus) -> LeadStatus {
        match (self, was) {
            (Self::Spoke, LeadStatus::New | LeadStatus::Trying | LeadStatus::NotReached | LeadStatus::Later) => {
                LeadStatus::Spoken
            }
            (Self::NoReply | Self::MessageLeft, LeadStatus::New | LeadStatus::Later) => LeadStatus::Trying,
            (_, was) => was,
        }
    }
}

/// What comes next on a lead.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum NextWhat {
    /// Call.
    Call,
    /// Say how it goes on, after having spoken.
    GoOn,
    /// Find another number.
    FindNumber,
    /// Decide whether it is given up: the tries are used up.
    GiveUp,
}

impl NextWhat {
    /// Its name in the database and on the wire.
    #[must_use]
    pub fn as_str(self) -> &'static str {
        match self {
            Self::Call => "call",
            Self::GoOn => "go_on",
            Self::FindNumber => "find_number",
            Self::GiveUp => "give_up",
        }
    }

    /// The step of a name.
    #[must_use]
    pub fn parse(text: &str) -> Option<Self> {
        [Self::Call, Self::GoOn, Self::FindNumber, Self::GiveUp].into_iter().find(|what| what.as_str() == text)
    }
}

/// What comes next, and when.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct NextStep {
    /// What.
    pub what: NextWhat,
    /// When.
    pub at: Timestamp,
}

/// How often, and over how many working days, somebody is tried.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct TriesPlan {
    /// So often in all.
    pub count: u32,
    /// Over so many working days, the first one included.
    pub working_days: u32,
    /// So often on the first of them.
    pub first_day: u32,
}

/// A band that is called within so many working minutes is in a hurry.
const HURRY: u32 = 60;
/// Working time between two tries of one day.
const SAME_DAY: u64 = 180;
/// How long after the opening a day's early try is.
const EARLY: u64 = 60;
/// Where in a working day its late try is.
const LATE_SHARE: f64 = 2.0 / 3.0;
/// Days that are looked through for a working one.
const AHEAD: u32 = 400;

impl TriesPlan {
    /// The plan of a band, by its target: a band in a hurry is tried more often, and twice on the first day.
    #[must_use]
    pub fn of_target(call_within: Option<u32>) -> Self {
        match call_within {
            Some(minutes) if minutes <= HURRY => Self { count: 6, working_days: 8, first_day: 2 },
            Some(_) => Self { count: 4, working_days: 10, first_day: 1 },
            None => Self { count: 2, working_days: 10, first_day: 1 },
        }
    }

    /// The plan of so many tries.
    #[must_use]
    pub fn of_count(count: u32) -> Self {
        [Some(HURRY), Some(u32::MAX), None]
            .map(Self::of_target)
            .into_iter()
            .find(|plan| plan.count == count)
            .unwrap_or(Self { count, working_days: 10, first_day: 1 })
    }

    /// What comes after a call. `tries` counts this one; `first` is when the first was.
    ///
    /// ```
    /// use lumbo_calendar::{Calendar, Weekday, Written};
    /// use lumbo_records::{CallOutcome, NextWhat, TriesPlan};
    ///
    /// let day = vec![("09:00".to_owned(), "17:00".to_owned())];
    /// let hours = [Weekday::Mon, Weekday::Tue, Weekday::Wed, Weekday::Thu, Weekday::Fri].map(|on| (on, day.clone()));
    /// let written = Written { zone: "Europe/London".into(), hours: hours.into(), ..Written::default() };
    /// let calendar = Calendar::new(&written).unwrap();
    /// let plan = TriesPlan::of_target(Some(5));
    /// let monday = "2026-11-23T10:00:00Z".parse().unwrap();
    /// // A band in a hurry is tried again the same day, three working hours later.
    /// let next = plan.after(CallOutcome::NoReply, 1, monday, &calendar, monday);
    /// assert_eq!((next.what, next.at), (NextWhat::Call, "2026-11-23T13:00:00Z".parse().unwrap()));
    /// // The last try leaves a decision.
    /// assert_eq!(plan.after(CallOutcome::MessageLeft, 6, monday, &calendar, monday).what, NextWhat::GiveUp);
    /// ```
    #[must_use]
    pub fn after(
        self,
        outcome: CallOutcome,
        tries: u32,
        first: Timestamp,
        calendar: &Calendar,
        now: Timestamp,
    ) -> NextStep {
        let (what, at) = match outcome {
            CallOutcome::WrongNumber => (NextWhat::FindNumber, now),
            CallOutcome::Spoke => (NextWhat::GoOn, next_morning(calendar, now).unwrap_or(now)),
            CallOutcome::NoReply | CallOutcome::MessageLeft if tries >= self.count => (NextWhat::GiveUp, now),
            CallOutcome::NoReply | CallOutcome::MessageLeft => {
                (NextWhat::Call, self.next_try(tries, first, calendar, now).unwrap_or(now))
            }
        };
        NextStep { what, at }
    }

    /// The moment of the next try, after `tries` of them.
    fn next_try(self, tries: u32, first: Timestamp, calendar: &Calendar, now: Timestamp) -> Option<Timestamp> {
        let date = |at: Timestamp| at.to_zoned(calendar.zone().clone()).date();
        if tries < self.first_day && date(first) == date(now) {
            let soon = calendar.after(now, SAME_DAY)?;
            // Too late for a second one today: it is the first of the next working day.
            return if date(soon) == date(now) { Some(soon) } else { next_morning(calendar, now) };
        }
        // What is left is spread evenly over the days that are left: the k-th of n falls on day k × last ÷ n.
        let (k, n) =
            ((tries + 1).saturating_sub(self.first_day).max(1), self.count.saturating_sub(self.first_day).max(1));
        let last = self.working_days.saturating_sub(1).max(1);
        let day = (k * last + n / 2) / n;
        let planned = working_day(calendar, date(first), day)?;
        let tomorrow = working_day(calendar, date(now), 1)?;
        on(calendar, planned.max(tomorrow), k % 2 == 1)
    }
}

/// When a working day begins, and how many minutes it is open; nothing where it is closed.
fn opening(calendar: &Calendar, date: Date) -> Option<(Timestamp, u64)> {
    let midnight = |date: Date| date.to_zoned(calendar.zone().clone()).ok().map(|zoned| zoned.timestamp());
    let (from, to) = (midnight(date)?, midnight(date.tomorrow().ok()?)?);
    let opens = calendar.opens(from).filter(|opens| *opens < to)?;
    let minutes = calendar.between(from, to).as_mins();
    Some((opens, u64::try_from(minutes).ok()?))
}

/// The `count`-th working day after a date; 0 is the date itself.
fn working_day(calendar: &Calendar, from: Date, count: u32) -> Option<Date> {
    let (mut date, mut left) = (from, count);
    for _ in 0..AHEAD {
        if left == 0 {
            return Some(date);
        }
        date = date.checked_add(1.day()).ok()?;
        if opening(calendar, date).is_some() {
            left -= 1;
        }
    }
    None
}

/// A moment of a working day: an hour after it opens, or when two thirds of it are over.
fn on(calendar: &Calendar, date: Date, early: bool) -> Option<Timestamp> {
    let (opens, minutes) = opening(calendar, date)?;
    #[allow(
        clippy::cast_precision_loss,
        clippy::cast_possible_truncation,
        clippy::cast_sign_loss,
        reason = "minutes of a day"
    )]
    let into = if early { EARLY.min(minutes / 2) } else { (minutes as f64 * LATE_SHARE) as u64 };
    calendar.after(opens, into)
}

/// An hour after the opening of the next working day.
fn next_morning(calendar: &Calendar, now: Timestamp) -> Option<Timestamp> {
    let today = now.to_zoned(calendar.zone().clone()).date();
    on(calendar, working_day(calendar, today, 1)?, true)
}

/// Working days within which a lead that turns out to be junk gives the turn back that was taken for it.
const GIVEN_BACK_WITHIN: u32 = 2;

/// True where a lead of this moment that is junk now gives the turn back: until the end of the second working day after
/// it was filed.
///
/// ```
/// use lumbo_calendar::Calendar;
/// use lumbo_records::gives_turn_back;
///
/// let always = Calendar::always(jiff::tz::TimeZone::UTC);
/// let at = |text: &str| text.parse().unwrap();
/// assert!(gives_turn_back(&always, at("2026-11-23T10:00:00Z"), at("2026-11-25T23:59:00Z")));
/// assert!(!gives_turn_back(&always, at("2026-11-23T10:00:00Z"), at("2026-11-26T00:00:00Z")));
/// ```
#[must_use]
pub fn gives_turn_back(calendar: &Calendar, filed: Timestamp, now: Timestamp) -> bool {
    let date = |at: Timestamp| at.to_zoned(calendar.zone().clone()).date();
    working_day(calendar, date(filed), GIVEN_BACK_WITHIN).is_some_and(|last| date(now) <= last)
}

/// How long it took, in working minutes of a calendar; a part of a minute counts as none.
#[must_use]
pub fn working_minutes(calendar: &Calendar, from: Timestamp, to: Timestamp) -> i64 {
    let passed: SignedDuration = calendar.between(from, to);
    passed.as_mins()
}

#[cfg(test)]
#[allow(clippy::unwrap_used, reason = "tests")]
mod tests {
    use lumbo_calendar::{Weekday, Written};

    use super::*;

    fn weekdays(holidays: &[&str]) -> Calendar {
        let day = vec![("09:00".to_owned(), "17:00".to_owned())];
        let week = [Weekday::Mon, Weekday::Tue, Weekday::Wed, Weekday::Thu, Weekday::Fri].map(|on| (on, day.clone()));
        let holidays = holidays.iter().map(|date| date.parse().unwrap()).collect();
        Calendar::new(&Written { zone: "Europe/London".into(), hours: week.into(), holidays, ..Written::default() })
            .unwrap()
    }

    /// Tries until they are used up, each made on the moment it was proposed for; London's wall time.
    fn all(plan: TriesPlan, calendar: &Calendar, first: &str) -> Vec<String> {
        let first: Timestamp = first.parse().unwrap();
        let (mut now, mut out) = (first, Vec::new());
        for tries in 1..=plan.count {
            let next = plan.after(CallOutcome::NoReply, tries, first, calendar, now);
            if next.what == NextWhat::GiveUp {
                break;
            }
            now = next.at;
            out.push(now.to_zoned(calendar.zone().clone()).strftime("%a %d %b %H:%M").to_string());
        }
        out
    }

    #[test]
    fn a_weekend_and_a_holiday_give_nobody_less_time_to_say_that_it_is_junk() {
        let at = |text: &str| text.parse().unwrap();
        let (plain, holiday) = (weekdays(&[]), weekdays(&["2026-11-30"]));
        // Friday afternoon: Monday and Tuesday are the two working days.
        let filed = at("2026-11-27T16:00:00Z");
        assert!(gives_turn_back(&plain, filed, at("2026-12-01T18:00:00Z")));
        assert!(!gives_turn_back(&plain, filed, at("2026-12-02T08:00:00Z")));
        assert!(gives_turn_back(&holiday, filed, at("2026-12-02T08:00:00Z")));
    }

    #[test]
    fn six_tries_in_eight_working_days_two_of_them_on_the_first() {
        assert_eq!(
            all(TriesPlan::of_target(Some(5)), &weekdays(&[]), "2026-11-23T10:00:00Z"),
            ["Mon 23 Nov 13:00", "Wed 25 Nov 10:00", "Fri 27 Nov 14:20", "Mon 30 Nov 10:00", "Wed 02 Dec 14:20"]
        );
    }

    #[test]
    fn four_tries_in_ten_working_days_over_a_holiday_and_the_change_of_the_clocks() {
        assert_eq!(
            all(TriesPlan::of_target(Some(120)), &weekdays(&["2026-10-26"]), "2026-10-22T15:30:00Z"),
            ["Wed 28 Oct 10:00", "Mon 02 Nov 14:20", "Thu 05 Nov 10:00"]
        );
    }

    #[test]
    fn a_late_first_try_is_tried_again_on_the_next_working_day() {
        let next = all(TriesPlan::of_target(Some(5)), &weekdays(&[]), "2026-11-27T16:30:00Z");
        assert_eq!(next[0], "Mon 30 Nov 10:00");
    }

    #[test]
    fn a_try_that_was_late_puts_no_try_into_the_past() {
        let (plan, calendar) = (TriesPlan::of_target(Some(120)), weekdays(&[]));
        let (first, now) = ("2026-11-02T10:00:00Z".parse().unwrap(), "2026-11-27T10:00:00Z".parse().unwrap());
        let next = plan.after(CallOutcome::MessageLeft, 2, first, &calendar, now);
        assert_eq!(next.at, "2026-11-30T14:20:00Z".parse::<Timestamp>().unwrap());
    }

    #[test]
    fn what_comes_next_is_always_something_even_where_nothing_ever_opens() {
        let calendar = Calendar::new(&Written { zone: "UTC".into(), ..Written::default() }).unwrap();
        let now = "2026-11-27T10:00:00Z".parse().unwrap();
        for outcome in CallOutcome::ALL {
            for tries in 0..9 {
                assert!(
                    TriesPlan::of_count(6).after(outcome, tries, now, &calendar, now).at >= now,
                    "{outcome:?} {tries}"
                );
            }
        }
    }

    #[test]
    fn a_wrong_number_stops_nothing_and_a_closed_lead_stays_closed() {
        assert!(!CallOutcome::WrongNumber.is_try());
        assert_eq!(CallOutcome::WrongNumber.status(LeadStatus::New), LeadStatus::New);
        assert_eq!(CallOutcome::NoReply.status(LeadStatus::Spoken), LeadStatus::Spoken);
        assert_eq!(CallOutcome::Spoke.status(LeadStatus::Won), LeadStatus::Won);
        assert_eq!(CallOutcome::Spoke.status(LeadStatus::Trying), LeadStatus::Spoken);
    }
}
