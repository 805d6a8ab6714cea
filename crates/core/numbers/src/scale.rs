//! Weights as points: so many points double the odds.

/// How weights become points. Points are a number of the author's taste; what they mean is by how many of them the odds
/// of being won double.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Scale {
    /// Points for each unit of log odds.
    pub factor: f64,
    /// Points where the odds are even.
    pub offset: f64,
}

impl Scale {
    /// The scale on which `points` stand for `odds` to one, and the odds double every `doubles` points.
    ///
    /// ```
    /// use lumbo_numbers::Scale;
    /// let scale = Scale::new(600.0, 50.0, 20.0);
    /// assert!((scale.factor - 28.853_900_82).abs() < 1e-8 && (scale.offset - 487.122_876_2).abs() < 1e-6);
    /// assert!((scale.points(100_f64.ln()) - 620.0).abs() < 1e-9);
    /// ```
    #[must_use]
    pub fn new(points: f64, odds: f64, doubles: f64) -> Self {
        let factor = doubles / std::f64::consts::LN_2;
        Self { factor, offset: points - factor * odds.ln() }
    }

    /// Points of log odds.
    #[must_use]
    pub fn points(self, log_odds: f64) -> f64 {
        self.offset + self.factor * log_odds
    }
}
