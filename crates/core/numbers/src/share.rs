//! Shares of counts, their 95% intervals, and differences of two shares.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// The 97.5% point of the normal distribution.
pub const Z95: f64 = 1.959_963_984_540_054;

/// So many of so many.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Share {
    /// How many did.
    pub hits: u32,
    /// Of how many.
    pub of: u32,
}

/// A 95% interval.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Interval {
    /// Its lower end.
    pub low: f64,
    /// Its upper end.
    pub high: f64,
}

/// The difference of two shares, from −1 to 1.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Difference {
    /// The first share less the second.
    pub value: f64,
    /// Its 95% interval.
    pub interval: Interval,
}

impl Share {
    /// Counts one more.
    pub fn add(&mut self, hit: bool) {
        self.of += 1;
        self.hits += u32::from(hit);
    }

    /// Counts what another share counted, too.
    pub fn and(&mut self, more: Self) {
        self.of += more.of;
        self.hits += more.hits;
    }

    /// The share, from 0 to 1; nothing of nothing is no share.
    #[must_use]
    pub fn rate(self) -> Option<f64> {
        (self.of > 0).then(|| f64::from(self.hits) / f64::from(self.of))
    }

    /// Wilson's score interval, 95% (E. B. Wilson, 1927).
    ///
    /// ```
    /// use lumbo_numbers::Share;
    /// let interval = Share { hits: 81, of: 263 }.interval().unwrap();
    /// assert!((interval.low - 0.2553).abs() < 1e-4 && (interval.high - 0.3662).abs() < 1e-4);
    /// assert_eq!(Share::default().interval(), None);
    /// ```
    #[must_use]
    pub fn interval(self) -> Option<Interval> {
        let rate = self.rate()?;
        let count = f64::from(self.of);
        let square = Z95 * Z95;
        let middle = rate + square / (2.0 * count);
        let half = Z95 * (rate * (1.0 - rate) / count + square / (4.0 * count * count)).sqrt();
        let whole = 1.0 + square / count;
        // At the ends the sums differ from 0 and 1 by rounding alone.
        let low = if self.hits == 0 { 0.0 } else { ((middle - half) / whole).max(0.0) };
        let high = if self.hits == self.of { 1.0 } else { ((middle + half) / whole).min(1.0) };
        Some(Interval { low, high })
    }
}

/// The difference of two shares with Newcombe's interval from two score intervals, 95% (R. G. Newcombe, 1998, the tenth
/// of the methods he compares); nothing where one of them is a share of nothing.
#[must_use]
pub fn difference(first: Share, second: Share) -> Option<Difference> {
    let (one, other) = (first.rate()?, second.rate()?);
    let (of_one, of_other) = (first.interval()?, second.interval()?);
    let value = one - other;
    let below = ((one - of_one.low).powi(2) + (of_other.high - other).powi(2)).sqrt();
    let above = ((of_one.high - one).powi(2) + (other - of_other.low).powi(2)).sqrt();
    Some(Difference { value, interval: Interval { low: value - below, high: value + above } })
}
