//! Which bands are left: what is closed counts as it is, what may still change as the least and the most it can give.

use std::collections::BTreeSet;

use super::{Card, Points, ReadyCriterion, clamp};
use lumbo_condition::{Facts, Ready, Subject, Truth};

/// Stands for points without an end.
const ENDLESS: Points = 1_000_000_000;

impl Card {
    /// Bands that a filing can still give, by their place; nothing stands for being ruled out. `open` tells the keys of
    /// fields that may still change. Never too few: what is open is taken for itself.
    #[must_use]
    pub fn bands_left(&self, facts: Facts<'_>, open: &dyn Fn(&str) -> bool) -> BTreeSet<Option<usize>> {
        let (mut low, mut high) = (0, 0);
        for (file, criteria) in self.file.dimensions.iter().zip(&self.dimensions) {
            let (least, most) = criteria
                .iter()
                .map(|one| one.ends(facts, open))
                .fold((0_i64, 0_i64), |sum, ends| (sum.0 + ends.0, sum.1 + ends.1));
            low += clamp(least.max(-ENDLESS), file.floor, file.ceiling);
            high += clamp(most.min(ENDLESS), file.floor, file.ceiling);
        }
        let can = |ready: &Ready, truth: bool| {
            if is_open(ready, open) { true } else { (ready.decide(facts) == Truth::True) == truth }
        };
        // Caps that must come, and those that may.
        let top = self.file.bands.len().saturating_sub(1);
        let (mut certain, mut caps) = (top, BTreeSet::from([top]));
        for (must, ready) in self.file.must_haves.iter().zip(&self.must_haves) {
            let cap = self.file.bands.iter().position(|band| band.id == must.cap).unwrap_or(0);
            if !can(ready, true) {
                certain = certain.min(cap);
            } else if can(ready, false) {
                caps.insert(cap);
            }
        }
        let mut left = BTreeSet::new();
        for band in self.band_index(low)..=self.band_index(high) {
            left.extend(caps.iter().map(|cap| Some(band.min(*cap).min(certain))));
        }
        if self.rule_outs.iter().any(|ready| can(ready, true)) {
            left.insert(None);
            if self.rule_outs.iter().any(|ready| !can(ready, false)) {
                left.retain(Option::is_none);
            }
        }
        left
    }
}

fn is_open(ready: &Ready, open: &dyn Fn(&str) -> bool) -> bool {
    let mut found = false;
    ready.each_subject(&mut |subject| found |= matches!(subject, Subject::Field(key) if open(key)));
    found
}

impl ReadyCriterion {
    /// Least and most points that it can still give.
    fn ends(&self, facts: Facts<'_>, open: &dyn Fn(&str) -> bool) -> (Points, Points) {
        let mut is_open = false;
        self.each_field(&mut |key| is_open |= open(key));
        if !is_open {
            let (points, _) = self.points(facts);
            return (points, points);
        }
        match self {
            Self::When(_, points) => ((*points).min(0), (*points).max(0)),
            Self::Table(key, rows) => {
                let reads = open(key);
                let all = rows.iter().map(|(_, points)| *points).chain(reads.then_some(0));
                all.clone().min().zip(all.max()).map_or((0, 0), |(least, most)| (least.min(0), most.max(0)))
            }
            Self::Formula(_) => (-ENDLESS, ENDLESS),
            Self::Broken => (0, 0),
        }
    }
}
