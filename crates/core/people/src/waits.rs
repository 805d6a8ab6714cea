//! How long sign-in waits after wrong passwords. Counted per account and network, so that somebody elsewhere who
//! guesses cannot lock the owner out; each wrong one doubles the wait.

use jiff::{SignedDuration, Timestamp};

/// Wrong passwords that cost nothing.
pub const FREE: u32 = 5;
/// Longest wait.
pub const LONGEST: SignedDuration = SignedDuration::from_mins(15);
/// After this long without a wrong one, all are forgotten.
pub const FORGOTTEN: SignedDuration = SignedDuration::from_hours(24);

/// How long after the last wrong password the next one is looked at. `wrong` counts wrong ones in a row.
///
/// ```
/// use jiff::SignedDuration;
/// use lumbo_people::waits;
///
/// assert_eq!(waits::after(4), SignedDuration::ZERO);
/// assert_eq!(waits::after(5), SignedDuration::from_secs(2));
/// assert_eq!(waits::after(8), SignedDuration::from_secs(16));
/// assert_eq!(waits::after(u32::MAX), waits::LONGEST);
/// ```
#[must_use]
pub fn after(wrong: u32) -> SignedDuration {
    if wrong < FREE {
        return SignedDuration::ZERO;
    }
    let doublings = (wrong - FREE + 1).min(20);
    SignedDuration::from_secs(1 << doublings).min(LONGEST)
}

/// The moment from which the next password is looked at; nothing where that is now.
#[must_use]
pub fn until(wrong: u32, last: Timestamp, now: Timestamp) -> Option<Timestamp> {
    if now.duration_since(last) >= FORGOTTEN {
        return None;
    }
    last.checked_add(after(wrong)).ok().filter(|until| *until > now)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn waits_grow_and_end() {
        let at = Timestamp::UNIX_EPOCH;
        let later = |seconds| at + SignedDuration::from_secs(seconds);
        assert_eq!(until(4, at, at), None);
        assert_eq!(until(6, at, later(3)), Some(later(4)));
        assert_eq!(until(6, at, later(4)), None);
        assert_eq!(until(1_000, at, later(899)), Some(later(900)));
        assert_eq!(until(1_000, at, at + FORGOTTEN), None);
        let total: i64 = (0..30).map(|wrong| after(wrong).as_secs()).sum();
        assert!(total > 4 * 3_600, "thirty guesses take hours: {total} s");
    }
}
