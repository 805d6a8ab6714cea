//! When an attempt that failed is made again.

use jiff::{SignedDuration, Timestamp};

/// The waits after the first failures; then the last one again and again.
const WAITS: [SignedDuration; 6] = [
    SignedDuration::from_secs(10),
    SignedDuration::from_mins(1),
    SignedDuration::from_mins(5),
    SignedDuration::from_mins(30),
    SignedDuration::from_hours(2),
    SignedDuration::from_hours(6),
];
/// After this long it is given up. A long weekend gives nothing up.
pub const GIVEN_UP_AFTER: SignedDuration = SignedDuration::from_hours(5 * 24);
/// Each wait is longer or shorter by up to this share, so that what failed together is not tried together.
const SPREAD: f64 = 0.2;

/// When the next attempt is, after `failures` failed ones of which the first was at `since`; nothing where it is given
/// up.
/// `chance`, from 0 up to 1, spreads the wait by up to a fifth either way; 0.5 leaves it as it is.
///
/// ```
/// use jiff::{SignedDuration, Timestamp};
/// use lumbo_deliver::retry;
///
/// let since = Timestamp::UNIX_EPOCH;
/// assert_eq!(retry::next(1, since, since, 0.5), Some(since + SignedDuration::from_secs(10)));
/// assert_eq!(retry::next(3, since, since, 0.5), Some(since + SignedDuration::from_mins(5)));
/// // The sixth wait is the longest, and comes again and again.
/// assert_eq!(retry::next(60, since, since, 0.5), Some(since + SignedDuration::from_hours(6)));
/// // Five days after the first failure it is given up.
/// assert_eq!(retry::next(60, since, since + retry::GIVEN_UP_AFTER, 0.5), None);
/// ```
#[must_use]
pub fn next(failures: u32, since: Timestamp, now: Timestamp, chance: f64) -> Option<Timestamp> {
    if now.duration_since(since) >= GIVEN_UP_AFTER {
        return None;
    }
    let place = usize::try_from(failures.max(1) - 1).unwrap_or(usize::MAX).min(WAITS.len() - 1);
    let factor = 1.0 + SPREAD * (2.0 * chance.clamp(0.0, 1.0) - 1.0);
    let wait = SignedDuration::try_from_secs_f64(WAITS[place].as_secs_f64() * factor).unwrap_or(WAITS[place]);
    now.checked_add(wait).ok()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn waits_spread_by_a_fifth_and_never_more() {
        let at = Timestamp::UNIX_EPOCH;
        let wait = |failures, chance| next(failures, at, at, chance).unwrap().duration_since(at).as_secs_f64();
        for (failures, plain) in
            [(0, 10.0), (1, 10.0), (2, 60.0), (4, 1_800.0), (5, 7_200.0), (6, 21_600.0), (u32::MAX, 21_600.0)]
        {
            assert!(
                (wait(failures, 0.0) - plain * 0.8).abs() < 0.001 && (wait(failures, 1.0) - plain * 1.2).abs() < 0.001,
                "{failures}"
            );
            assert!((wait(failures, 0.5) - plain).abs() < 0.001, "{failures}");
        }
        // A chance that is none does no harm.
        assert!((wait(1, 7.0) - 12.0).abs() < 0.001 && (wait(1, -7.0) - 8.0).abs() < 0.001);
    }

    #[test]
    fn a_failure_over_a_long_weekend_is_not_given_up() {
        let friday: Timestamp = "2026-04-03T08:00:00Z".parse().unwrap();
        let (mut now, mut failures) = (friday, 1);
        while let Some(due) = next(failures, friday, now, 0.5) {
            (now, failures) = (due, failures + 1);
        }
        // Easter 2026: closed from Friday to Monday, open again on Tuesday morning.
        assert!(now >= "2026-04-07T12:00:00Z".parse().unwrap(), "{now}");
        assert!((20..30).contains(&failures), "{failures} attempts");
    }
}
