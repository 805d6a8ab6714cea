//! Options that are ranges: "1–10 pallets", "11 to 50", "More than 50", "In 9 to 26 weeks". A number is the option that
//! holds it.

use rust_decimal::Decimal;

use super::number::{Amount, amounts};
use super::took_back::negated;
use super::units::{Unit, Units};
use lumbo_language::{Kind, Language, Scan, shared};

/// Numbers from one end to the other; an end that is missing has no bound, one that is open is not held itself.
#[derive(Debug, Clone, Copy, PartialEq)]
struct Interval {
    low: Option<Decimal>,
    low_open: bool,
    high: Option<Decimal>,
    high_open: bool,
}

impl Interval {
    fn closed(low: Decimal, high: Decimal) -> Self {
        Self { low: Some(low), low_open: false, high: Some(high), high_open: false }
    }

    /// True where no number is in both.
    fn is_apart(self, other: Self) -> bool {
        let ends_before = |one: Self, other: Self| match (one.high, other.low) {
            (Some(high), Some(low)) => high < low || high == low && (one.high_open || other.low_open),
            _ => false,
        };
        ends_before(self, other) || ends_before(other, self)
    }

    /// True where every number of the other is in this one.
    fn holds(self, other: Self) -> bool {
        let low = match (self.low, other.low) {
            (None, _) => true,
            (Some(_), None) => false,
            (Some(own), Some(low)) => own < low || own == low && (!self.low_open || other.low_open),
        };
        let high = match (self.high, other.high) {
            (None, _) => true,
            (Some(_), None) => false,
            (Some(own), Some(high)) => high < own || own == high && (!self.high_open || other.high_open),
        };
        low && high
    }
}

/// What a label or a reply says in numbers.
#[derive(Debug, Clone, Copy)]
struct Said {
    interval: Interval,
    /// True for a range, false for one number.
    range: bool,
    unit: Option<&'static Unit>,
    /// Tokens of it.
    first: usize,
    next: usize,
}

/// The options of a field that are ranges, each by its place.
#[derive(Debug, Clone, Default)]
pub(super) struct Ranges {
    options: Vec<(usize, Said)>,
}

/// The options that hold what a reply says, with its tokens.
#[derive(Debug, PartialEq, Eq)]
pub(super) struct Held {
    pub options: Vec<usize>,
    pub first: usize,
    pub next: usize,
}

impl Ranges {
    /// The ranges among labels: none where no label is one, or only one says a number at all, or two count different
    /// things.
    pub(super) fn new<'a>(labels: impl Iterator<Item = &'a str>, language: &Language) -> Self {
        let options: Vec<(usize, Said)> = labels
            .enumerate()
            .filter_map(|(place, label)| {
                Some((place, said(&Scan::new(label), language).filter(|said| opens(label, *said, language))?))
            })
            .collect();
        let dimension = |said: &Said| said.unit.map(|unit| unit.dimension.as_str());
        let alike =
            options.iter().filter_map(|(_, said)| dimension(said)).collect::<std::collections::BTreeSet<_>>().len()
                <= 1;
        if options.len() < 2 || !alike || !options.iter().any(|(_, said)| said.range) {
            return Self::default();
        }
        Self { options }
    }

    /// True where no option is a range.
    pub(super) fn is_empty(&self) -> bool {
        self.options.is_empty()
    }

    /// The options that hold the one number or range of a reply. Of several that share a part of it, the one that holds
    /// all of it; else all of them, which is a tie.
    pub(super) fn held(&self, scan: &Scan<'_>, language: &Language) -> Option<Held> {
        if self.is_empty() || scan.raw.trim_end().ends_with('?') {
            return None;
        }
        let reply = said(scan, language).filter(|reply| !negated(scan, reply.first, language))?;
        let mut shared = Vec::new();
        for (place, option) in &self.options {
            let interval = converted(reply, option.unit)?;
            if !option.interval.is_apart(interval) {
                shared.push((*place, option.interval.holds(interval)));
            }
        }
        let whole: Vec<usize> = shared.iter().filter(|(_, holds)| *holds).map(|(place, _)| *place).collect();
        let options = if whole.len() == 1 { whole } else { shared.into_iter().map(|(place, _)| place).collect() };
        (!options.is_empty()).then_some(Held { options, first: reply.first, next: reply.next })
    }
}

/// The one number or range of a text, with the words that say on which side of it.
fn said(scan: &Scan<'_>, language: &Language) -> Option<Said> {
    let all = amounts(scan, language);
    let [amount] = all.as_slice() else { return None };
    if amount.doubtful || amount.article {
        return None;
    }
    let units = Units::new(None, language);
    let unit = units.at(scan, amount.next, language);
    let next = unit.as_ref().map_or(amount.next, |unit| unit.next);
    let (interval, first, next) = match amount.span {
        Some((low, high)) => (Interval::closed(low, high), amount.heard_from, next),
        None => bounded(scan, amount, next, language),
    };
    let range = amount.span.is_some() || interval != Interval::closed(amount.amount, amount.amount);
    Some(Said { interval, range, unit: unit.map(|unit| unit.unit), first, next })
}

/// "More than 50", "50+", "under 10", "10 or fewer", "within 4 weeks"; a number alone is itself.
fn bounded(scan: &Scan<'_>, amount: &Amount, next: usize, language: &Language) -> (Interval, usize, usize) {
    let number = amount.amount;
    let alone = (Interval::closed(number, number), amount.first, next);
    let mut at = amount.first;
    while at > 0 && matches!(&*scan.tokens[at - 1].folded, "£" | "€" | "$" | "~" | "=") {
        at -= 1;
    }
    let above = |open: bool| Interval { low: Some(number), low_open: open, high: None, high_open: false };
    let below = |open: bool| Interval { low: None, low_open: false, high: Some(number), high_open: open };
    let sign = at.checked_sub(1).map(|before| &*scan.tokens[before].folded);
    let equal = scan.tokens.get(at).is_some_and(|token| token.is('='));
    match sign {
        Some(">") => return (above(!equal), at - 1, next),
        Some("<") => return (below(!equal), at - 1, next),
        Some("≥") => return (above(false), at - 1, next),
        Some("≤") => return (below(false), at - 1, next),
        _ => {}
    }
    let bounds = &language.bounds;
    let sides = [
        (&bounds.over, above(true)),
        (&bounds.from, above(false)),
        (&bounds.under, below(true)),
        (&bounds.up_to, below(false)),
    ];
    // The longest counts: "no more than" is not "more than".
    let side = sides
        .into_iter()
        .filter_map(|(words, interval)| Some((words.before(scan, at)?.1, interval)))
        .min_by_key(|(start, _)| *start);
    if let Some((start, interval)) = side {
        return (interval, start, next);
    }
    for from in [amount.next, next] {
        let plus = scan.tokens.get(from).is_some_and(|token| token.is('+'));
        if plus || bounds.or_more.at(scan, from).is_some() {
            let end = bounds.or_more.at(scan, from).map_or(from + 1, |(_, end)| end);
            return (above(false), amount.first, end.max(next));
        }
        if let Some((_, end)) = bounds.or_less.at(scan, from) {
            return (below(false), amount.first, end.max(next));
        }
    }
    alone
}

/// True where a label begins with its range: "In 9 to 26 weeks", not "Top 10 list".
fn opens(label: &str, said: Said, language: &Language) -> bool {
    let scan = Scan::new(label);
    let leads = |index: usize| {
        let token = &scan.tokens[index];
        let small = shared().before_months.contains(&token.folded)
            || shared().particles.contains(&token.folded)
            || language.is_small(&token.folded);
        token.kind == Kind::Mark || small || language.about.at(&scan, index).is_some()
    };
    (0..said.first).all(leads)
}

/// What a reply says, in an option's unit; nothing where it counts something else.
fn converted(reply: Said, unit: Option<&'static Unit>) -> Option<Interval> {
    let (Some(own), Some(other)) = (unit, reply.unit) else { return Some(reply.interval) };
    if std::ptr::eq(own, other) {
        return Some(reply.interval);
    }
    let units = Units::of(own);
    let end = |end: Option<Decimal>| match end {
        Some(amount) => units.convert(amount, other).map(Some),
        None => Some(None),
    };
    Some(Interval { low: end(reply.interval.low)?, high: end(reply.interval.high)?, ..reply.interval })
}

#[cfg(test)]
mod tests {
    use super::*;

    fn held(language: &str, labels: &[&str], reply: &str) -> Option<Vec<usize>> {
        let language = Language::get(language);
        Ranges::new(labels.iter().copied(), language).held(&Scan::new(reply), language).map(|held| held.options)
    }

    #[test]
    fn a_number_is_the_option_that_holds_it() {
        let pallets = ["1–10 pallets", "11–50 pallets", "More than 50 pallets"];
        for (reply, option) in [
            ("2", Some(0)),
            ("10", Some(0)),
            ("11", Some(1)),
            ("about 30", Some(1)),
            ("we have 40 pallets", Some(1)),
            ("50", Some(1)),
            ("51", Some(2)),
            ("over 50", Some(2)),
            ("fifty-one", Some(2)),
            ("a couple of hundred", Some(2)),
            ("200", Some(2)),
            ("20 to 30", Some(1)),
            ("11-50", Some(1)),
            ("10.5", None),
            ("0", None),
            ("40 kg", None),
            ("not 40", None),
            ("40?", None),
            ("40 or so", Some(1)),
            ("3 sites, 40 pallets", None),
        ] {
            assert_eq!(held("en", &pallets, reply), option.map(|option| vec![option]), "{reply}");
        }
        // What two of them share is asked back.
        assert_eq!(held("en", &pallets, "40 to 60"), Some(vec![1, 2]));
        assert_eq!(held("en", &pallets, "under 30"), Some(vec![0, 1]));
    }

    #[test]
    fn an_end_that_two_options_name_is_both_of_theirs() {
        let both = ["Under 10", "10 to 50", "50+"];
        assert_eq!(held("en", &both, "9"), Some(vec![0]));
        assert_eq!(held("en", &both, "10"), Some(vec![1]));
        assert_eq!(held("en", &both, "50"), Some(vec![1, 2]));
        assert_eq!(held("en", &both, "50+"), Some(vec![2]));
    }

    #[test]
    fn bounds_are_told_by_words_and_signs_in_every_language() {
        for (language, labels) in [
            ("en", ["Up to 10", "11 to 50", "51 or more"]),
            ("en", ["10 or fewer", "11–50", "> 50"]),
            ("en", ["≤ 10", "11 - 50", "At least 51"]),
            ("de", ["bis zu 10", "11 bis 50", "mehr als 50"]),
            ("fr", ["jusqu'à 10", "11 à 50", "plus de 50"]),
            ("es", ["hasta 10", "de 11 a 50", "más de 50"]),
            ("nl", ["maximaal 10", "11 tot 50", "meer dan 50"]),
            ("pl", ["do 10", "11 do 50", "ponad 50"]),
        ] {
            for (reply, option) in [("5", 0), ("10", 0), ("11", 1), ("50", 1), ("51", 2)] {
                assert_eq!(held(language, &labels, reply), Some(vec![option]), "{language} {labels:?}: {reply}");
            }
        }
    }

    #[test]
    fn units_of_time_and_money_are_compared_as_what_they_are() {
        let weeks = ["Within 4 weeks", "In 5 to 12 weeks", "Later"];
        assert_eq!(held("en", &weeks, "in 3 weeks"), Some(vec![0]));
        assert_eq!(held("en", &weeks, "2 months"), Some(vec![1]));
        assert_eq!(held("en", &weeks, "10 days"), Some(vec![0]));
        assert_eq!(held("en", &weeks, "a year"), None);
        let money = ["Under £5,000", "£5,000 to £20,000 a year", "Over £20,000 a year"];
        assert_eq!(held("en", &money, "£7k"), Some(vec![1]));
        assert_eq!(held("en", &money, "25000"), Some(vec![2]));
    }

    #[test]
    fn labels_that_only_hold_a_number_are_no_ranges() {
        for labels in [
            ["Plan 2", "Plan 3"],
            ["Top 10 list", "Top 50 list"],
            ["2 years' warranty", "3 years' warranty"],
            ["More than 50", "Fewer"],
            ["1–10 kg", "11–50 pallets"],
        ] {
            assert!(Ranges::new(labels.iter().copied(), Language::get("en")).is_empty(), "{labels:?}");
        }
    }
}
