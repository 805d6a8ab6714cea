//! What goes wrong, when somebody wants it to.

use serde::Deserialize;

/// Faults that are switched on.
#[derive(Debug, Clone, Default, Deserialize)]
pub struct Faults {
    /// So many of the next requests get the code.
    #[serde(default)]
    pub next: u32,
    /// The code that they get.
    #[serde(default)]
    pub code: u16,
    /// Milliseconds that every answer waits.
    #[serde(default)]
    pub slow_ms: u64,
    /// What they ask is done all the same: only its answer is lost.
    #[serde(default, deserialize_with = "ticked")]
    pub after: bool,
}

/// A box that was ticked, as a form sends it.
fn ticked<'de, D: serde::Deserializer<'de>>(from: D) -> Result<bool, D::Error> {
    Ok(String::deserialize(from)? == "on")
}

/// What happens to one request.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Fault {
    /// The code that it gets in place of 200.
    pub code: Option<u16>,
    /// Milliseconds that its answer waits.
    pub slow_ms: u64,
    /// Whether what was asked is done before the code is answered.
    pub after: bool,
}

/// Longest wait, milliseconds.
const SLOWEST: u64 = 60_000;

impl Faults {
    /// What happens to the next request; uses one of the failures up.
    pub fn next(&mut self) -> Fault {
        let fails = self.next > 0 && (100..600).contains(&self.code);
        if fails {
            self.next -= 1;
        }
        Fault { code: fails.then_some(self.code), slow_ms: self.slow_ms.min(SLOWEST), after: self.after }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn as_many_fail_as_were_asked_for() {
        let mut faults = Faults { next: 2, code: 503, slow_ms: 99_999_999, after: true };
        assert_eq!(faults.next(), Fault { code: Some(503), slow_ms: SLOWEST, after: true });
        assert_eq!((faults.next().code, faults.next().code), (Some(503), None));
        assert_eq!(Faults { next: 5, code: 7, ..Faults::default() }.next().code, None, "no such code");
    }
}
