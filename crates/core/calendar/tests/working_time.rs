//! Working time against zones whose clocks change, holidays, and a second way of counting.
#![allow(clippy::unwrap_used, reason = "a test")]

use jiff::{SignedDuration, Timestamp};
use lumbo_calendar::{Calendar, CalendarError, Written};
use proptest::prelude::*;

fn calendar(json: serde_json::Value) -> Calendar {
    Calendar::new(&serde_json::from_value::<Written>(json).unwrap()).unwrap()
}

fn refused(json: serde_json::Value) -> String {
    Calendar::new(&serde_json::from_value::<Written>(json).unwrap()).unwrap_err().to_string()
}

fn at(text: &str) -> Timestamp {
    text.parse().unwrap()
}

fn minutes(calendar: &Calendar, from: &str, to: &str) -> i64 {
    calendar.between(at(from), at(to)).as_mins()
}

fn office() -> Calendar {
    let day = [["08:00", "17:30"]];
    calendar(serde_json::json!({"zone": "Europe/London",
        "hours": {"mon": day, "tue": day, "wed": day, "thu": day, "fri": day},
        "holidays": ["2026-12-25", "2026-12-28"],
        "exceptions": [{"date": "2026-12-24", "hours": [["08:00", "12:00"]]}, {"date": "2026-12-28", "hours": [["10:00", "11:00"]]}]}))
}

#[test]
fn minutes_pass_only_while_it_is_open() {
    let office = office();
    // A Friday afternoon to a Monday morning.
    assert_eq!(minutes(&office, "2026-11-27T17:00:00Z", "2026-11-30T09:00:00Z"), 30 + 60);
    assert_eq!(minutes(&office, "2026-11-28T00:00:00Z", "2026-11-29T23:00:00Z"), 0);
    assert_eq!(minutes(&office, "2026-11-30T09:00:00Z", "2026-11-27T17:00:00Z"), 0, "the wrong way round");
    assert_eq!(
        office.after(at("2026-11-27T17:20:00Z"), 10),
        Some(at("2026-11-27T17:30:00Z")),
        "to the very end of the day"
    );
    assert_eq!(office.after(at("2026-11-27T17:20:00Z"), 11), Some(at("2026-11-30T08:01:00Z")));
    assert_eq!(office.after(at("2026-11-28T12:00:00Z"), 0), Some(at("2026-11-28T12:00:00Z")));
    assert!(office.is_open(at("2026-11-27T08:00:00Z")) && !office.is_open(at("2026-11-27T17:30:00Z")));
    assert_eq!(office.opens(at("2026-11-27T17:30:00Z")), Some(at("2026-11-30T08:00:00Z")));
    assert_eq!(office.opens(at("2026-11-27T10:00:00Z")), Some(at("2026-11-27T10:00:00Z")));
}

#[test]
fn an_exception_goes_before_a_holiday_and_a_holiday_before_the_week() {
    let office = office();
    assert_eq!(minutes(&office, "2026-12-24T00:00:00Z", "2026-12-25T00:00:00Z"), 240);
    assert_eq!(minutes(&office, "2026-12-25T00:00:00Z", "2026-12-28T00:00:00Z"), 0);
    assert_eq!(minutes(&office, "2026-12-28T00:00:00Z", "2026-12-29T00:00:00Z"), 60);
    assert_eq!(office.after(at("2026-12-24T11:30:00Z"), 60), Some(at("2026-12-28T10:30:00Z")));
}

/// Changes of clocks as the IANA database has them (tzdata 2026f): London 29 March and 25 October 2026, New York 8
/// March and 1 November, Lord Howe 5 April by half an hour.
#[test]
fn a_night_in_which_clocks_change_is_as_long_as_it_is() {
    let night = |zone: &str, from: &str, to: &str| {
        let day = [[from, to]];
        calendar(serde_json::json!({"zone": zone, "hours": {"sun": day, "mon": day}}))
    };
    let london = night("Europe/London", "00:00", "08:00");
    assert_eq!(minutes(&london, "2026-03-28T12:00:00Z", "2026-03-29T12:00:00Z"), 7 * 60);
    assert_eq!(minutes(&london, "2026-10-24T12:00:00Z", "2026-10-25T12:00:00Z"), 9 * 60);
    // Six working hours from midnight are 7 o'clock where clocks were put forward, and 5 where they were put back.
    assert_eq!(london.after(at("2026-03-29T00:00:00Z"), 360), Some(at("2026-03-29T06:00:00Z")));
    assert_eq!(london.after(at("2026-10-24T23:00:00Z"), 360), Some(at("2026-10-25T05:00:00Z")));
    let new_york = night("America/New_York", "01:00", "04:00");
    assert_eq!(minutes(&new_york, "2026-03-08T00:00:00Z", "2026-03-08T20:00:00Z"), 2 * 60);
    assert_eq!(minutes(&new_york, "2026-11-01T00:00:00Z", "2026-11-01T20:00:00Z"), 4 * 60);
    let lord_howe = night("Australia/Lord_Howe", "01:00", "03:00");
    assert_eq!(minutes(&lord_howe, "2026-04-04T12:00:00Z", "2026-04-05T12:00:00Z"), 150);
}

/// The two wall times that REFERENCES give for London: half past one does not exist in March and comes twice in
/// October.
#[test]
fn a_time_that_clocks_skip_begins_later_and_one_that_comes_twice_is_the_first() {
    let from =
        |zone: &str, time: &str| calendar(serde_json::json!({"zone": zone, "hours": {"sun": [[time, "12:00"]]}}));
    let opens = |calendar: &Calendar, after: &str| calendar.opens(at(after)).unwrap();
    let london = from("Europe/London", "01:30");
    assert_eq!(opens(&london, "2026-03-28T12:00:00Z"), at("2026-03-29T01:30:00Z"));
    assert_eq!(opens(&london, "2026-10-24T12:00:00Z"), at("2026-10-25T00:30:00Z"));
    let new_york = from("America/New_York", "02:30");
    assert_eq!(opens(&new_york, "2026-03-07T12:00:00Z"), at("2026-03-08T07:30:00Z"));
    assert_eq!(opens(&from("America/New_York", "01:30"), "2026-10-31T12:00:00Z"), at("2026-11-01T05:30:00Z"));
    assert_eq!(opens(&from("Australia/Lord_Howe", "01:45"), "2026-04-04T00:00:00Z"), at("2026-04-04T14:45:00Z"));
}

#[test]
fn openings_that_touch_are_one_and_a_night_goes_on_after_midnight() {
    let all_night = calendar(serde_json::json!({"zone": "UTC",
        "hours": {"mon": [["20:00", "24:00"]], "tue": [["00:00", "06:00"], ["05:00", "07:00"], ["7:00", "08:00"]]}}));
    assert_eq!(minutes(&all_night, "2026-11-23T00:00:00Z", "2026-11-25T00:00:00Z"), 12 * 60);
    assert_eq!(all_night.after(at("2026-11-23T23:59:00Z"), 2), Some(at("2026-11-24T00:01:00Z")));
    assert!(all_night.is_open(at("2026-11-24T00:00:00Z")));
}

#[test]
fn what_is_never_open_never_comes_to_a_moment() {
    let never = calendar(serde_json::json!({"zone": "UTC", "hours": {}}));
    assert_eq!((never.after(at("2026-11-23T00:00:00Z"), 1), never.opens(at("2026-11-23T00:00:00Z"))), (None, None));
    assert_eq!(minutes(&never, "1970-01-01T00:00:00Z", "2026-11-23T00:00:00Z"), 0);
}

#[test]
fn what_is_no_calendar_says_what_to_write() {
    assert_eq!(
        refused(serde_json::json!({"zone": "Europe/Londn"})),
        "“Europe/Londn” is no time zone; write one such as Europe/London"
    );
    for time in ["8", "08.30", "25:00", "24:01", "08:60", "-1:00", "008:00", "+8:00", ""] {
        let said = refused(serde_json::json!({"zone": "UTC", "hours": {"mon": [[time, "12:00"]]}}));
        assert!(said.contains("write hours and minutes"), "{time}: {said}");
    }
    assert!(
        refused(serde_json::json!({"zone": "UTC", "hours": {"mon": [["22:00", "06:00"]]}})).contains("as two openings")
    );
    let twice = serde_json::json!({"zone": "UTC", "exceptions": [{"date": "2026-12-24"}, {"date": "2026-12-24"}]});
    assert!(matches!(Calendar::new(&serde_json::from_value(twice).unwrap()), Err(CalendarError::Twice(_))));
}

/// The other way of counting: minute by minute, by what a clock on the wall shows. It agrees wherever no opening begins
/// or ends in a time that clocks skip or repeat.
fn slowly(openings: &[(u8, u16, u16)], zone: &jiff::tz::TimeZone, from: Timestamp, count: i64) -> i64 {
    (0..count)
        .filter(|minute| {
            let local = (from + SignedDuration::from_mins(*minute)).to_zoned(zone.clone());
            let (day, now) =
                (local.weekday().to_monday_zero_offset(), i32::from(local.hour()) * 60 + i32::from(local.minute()));
            openings.iter().any(|(weekday, start, end)| {
                i32::from(*weekday) == i32::from(day) && (i32::from(*start)..i32::from(*end)).contains(&now)
            })
        })
        .count() as i64
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 60, ..ProptestConfig::default() })]

    #[test]
    fn counting_by_openings_agrees_with_counting_every_minute(
        openings in prop::collection::vec((0..7_u8, 0..8_u16, 1..9_u16), 0..8),
        zone in prop::sample::select(vec!["Europe/London", "America/New_York", "Australia/Lord_Howe", "Asia/Kolkata", "UTC"]),
        start in 0..365_i64 * 24 * 12, length in 0..9_i64 * 24 * 12,
    ) {
        // Openings at hours at which no clock of these zones changes: from 3 o'clock on.
        let openings: Vec<(u8, u16, u16)> =
            openings.into_iter().map(|(day, from, long)| (day, 180 + from * 120, (180 + from * 120 + long * 60).min(1_440))).collect();
        let text = |minutes: &u16| format!("{:02}:{:02}", minutes / 60, minutes % 60);
        let names = ["mon", "tue", "wed", "thu", "fri", "sat", "sun"];
        let mut hours = serde_json::Map::new();
        for (day, from, to) in &openings {
            let list = hours.entry(names[usize::from(*day)]).or_insert_with(|| serde_json::json!([]));
            list.as_array_mut().unwrap().push(serde_json::json!([text(from), text(to)]));
        }
        let calendar = calendar(serde_json::json!({"zone": zone, "hours": hours}));
        let from = at("2026-01-01T00:00:00Z") + SignedDuration::from_mins(start * 5);
        let to = from + SignedDuration::from_mins(length * 5);
        let counted = calendar.between(from, to).as_mins();
        prop_assert_eq!(counted, slowly(&openings, calendar.zone(), from, length * 5));
        // The moment after so many minutes is the earliest by which they have passed.
        if counted > 0 {
            let after = calendar.after(from, counted as u64).unwrap();
            prop_assert!(after <= to);
            prop_assert_eq!(calendar.between(from, after).as_mins(), counted);
            prop_assert!(calendar.between(from, after - SignedDuration::from_secs(1)) < SignedDuration::from_mins(counted));
        }
    }
}
