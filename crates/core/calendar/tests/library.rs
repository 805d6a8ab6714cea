//! Working time against a business-hours library: `data/businesstimedelta.csv` was computed by the Python package
//! businesstimedelta 1.0.1 with pytz 2026.6, for 240 random moments of 2026 in zones whose clocks change and one with a
//! quarter of an hour in its offset. Its week is Monday to Friday from 08:30 to 17:30 with a rest from 12:00 to 13:00.
#![allow(clippy::unwrap_used, reason = "a test")]

use jiff::Timestamp;
use lumbo_calendar::{Calendar, Written};

fn office(zone: &str) -> Calendar {
    let day = [["08:30", "12:00"], ["13:00", "17:30"]];
    let holidays: &[&str] = match zone {
        "Europe/London" => &["2026-04-03", "2026-04-06", "2026-12-25"],
        "America/New_York" => &["2026-11-26", "2026-12-25"],
        "Australia/Lord_Howe" => &["2026-04-25"],
        _ => &[],
    };
    let written = serde_json::json!({"zone": zone, "holidays": holidays,
        "hours": {"mon": day, "tue": day, "wed": day, "thu": day, "fri": day}});
    Calendar::new(&serde_json::from_value::<Written>(written).unwrap()).unwrap()
}

#[test]
fn minutes_and_moments_are_those_of_a_library() {
    let mut seen = 0;
    for line in include_str!("data/businesstimedelta.csv").lines().skip(1) {
        let cells: Vec<&str> = line.split(',').collect();
        let office = office(cells[0]);
        let moment = |text: &str| text.parse::<Timestamp>().unwrap();
        let (from, to) = (moment(cells[1]), moment(cells[2]));
        assert_eq!(office.between(from, to).as_mins(), cells[3].parse::<i64>().unwrap(), "{line}");
        assert_eq!(office.after(from, cells[4].parse().unwrap()), Some(moment(cells[5])), "{line}");
        seen += 1;
    }
    assert_eq!(seen, 240);
}
