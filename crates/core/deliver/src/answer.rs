//! What an answer to a sending means.

/// What is done next.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Verdict {
    /// It arrived.
    Arrived,
    /// Try again by the timetable, or after the seconds that the receiver asked for.
    Again(Option<u64>),
    /// It will never be taken: kept aside until a person sends it again.
    Refused,
    /// The receiver does not know us: the destination is paused until somebody looks at its secret.
    Unknown,
}

/// Longest wait that a receiver may ask for, seconds.
const LONGEST_WAIT: u64 = 6 * 3_600;

/// What an HTTP status means, with the answer's `Retry-After` in seconds.
///
/// ```
/// use lumbo_deliver::answer::{Verdict, verdict};
///
/// assert_eq!(verdict(204, None), Verdict::Arrived);
/// assert_eq!(verdict(404, None), Verdict::Refused);
/// assert_eq!(verdict(503, Some("120")), Verdict::Again(Some(120)));
/// ```
#[must_use]
pub fn verdict(status: u16, retry_after: Option<&str>) -> Verdict {
    match status {
        200..=299 => Verdict::Arrived,
        401 | 403 => Verdict::Unknown,
        408 | 425 | 429 | 500.. => Verdict::Again(
            retry_after.and_then(|text| text.trim().parse().ok()).map(|wait: u64| wait.min(LONGEST_WAIT)),
        ),
        // Redirects are not followed: an address that moved is changed by a person.
        _ => Verdict::Refused,
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn each_answer_has_its_consequence() {
        for (status, expected) in [
            (200, Verdict::Arrived),
            (202, Verdict::Arrived),
            (301, Verdict::Refused),
            (302, Verdict::Refused),
            (400, Verdict::Refused),
            (401, Verdict::Unknown),
            (403, Verdict::Unknown),
            (404, Verdict::Refused),
            (408, Verdict::Again(None)),
            (410, Verdict::Refused),
            (422, Verdict::Refused),
            (425, Verdict::Again(None)),
            (429, Verdict::Again(None)),
            (500, Verdict::Again(None)),
            (503, Verdict::Again(None)),
        ] {
            assert_eq!(verdict(status, None), expected, "{status}");
        }
        assert_eq!(verdict(429, Some("99999999")), Verdict::Again(Some(LONGEST_WAIT)));
        // A date, or nonsense, leaves the timetable.
        assert_eq!(verdict(503, Some("Wed, 21 Oct 2026 07:28:00 GMT")), Verdict::Again(None));
    }
}
