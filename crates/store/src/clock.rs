//! The one clock of a process: server, jobs and SQL take the time from here, so that tests can move it.

use std::sync::Arc;
use std::sync::atomic::{AtomicI64, Ordering};

use jiff::{SignedDuration, Timestamp};

/// Gives the time.
#[derive(Debug, Clone, Default)]
pub struct Clock(Option<Arc<AtomicI64>>);

impl Clock {
    /// The machine's clock.
    #[must_use]
    pub fn system() -> Self {
        Self(None)
    }

    /// A clock that stands still until it is moved; copies of it move together.
    #[must_use]
    pub fn standing_at(at: Timestamp) -> Self {
        Self(Some(Arc::new(AtomicI64::new(at.as_microsecond()))))
    }

    /// Moves a clock that stands still; the machine's clock stays as it is.
    pub fn advance(&self, by: SignedDuration) {
        if let Some(at) = &self.0 {
            at.fetch_add(i64::try_from(by.as_micros()).unwrap_or(i64::MAX), Ordering::SeqCst);
        }
    }

    /// Now, to the microsecond, which is what PostgreSQL keeps.
    #[must_use]
    pub fn now(&self) -> Timestamp {
        let now = match &self.0 {
            Some(at) => at.load(Ordering::SeqCst),
            None => Timestamp::now().as_microsecond(),
        };
        Timestamp::from_microsecond(now).unwrap_or(Timestamp::UNIX_EPOCH)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_standing_clock_moves_only_when_it_is_moved_and_its_copies_move_along() {
        let clock = Clock::standing_at(Timestamp::UNIX_EPOCH);
        let copy = clock.clone();
        assert_eq!((clock.now(), copy.now()), (Timestamp::UNIX_EPOCH, Timestamp::UNIX_EPOCH));
        clock.advance(SignedDuration::from_mins(90));
        assert_eq!(copy.now().to_string(), "1970-01-01T01:30:00Z");
        let before = Timestamp::now();
        let now = Clock::system().now();
        assert!(now.duration_since(before).as_secs() < 5, "the machine’s clock: {before} and {now}");
    }
}
