//! Units, their names and conversions. Listed in `data/units.json`; a field may have a unit of its own as well.
//!
//! Factors are those of the international yard and pound agreement of 1959 and of NIST SP 811, appendix B; bytes in
//! thousands and in powers of 1,024 those of IEC 80000-13.

use std::collections::HashMap;
use std::sync::OnceLock;

use rust_decimal::Decimal;
use serde::Deserialize;

use super::number::Amount;
use lumbo_language::{Kind, LANGUAGES, Language, Lexicon, Scan, fold, shared, variants};

/// A listed unit.
#[derive(Debug)]
pub(super) struct Unit {
    /// Its symbol, as kept.
    pub unit: String,
    /// Units of one dimension convert into each other.
    pub dimension: String,
    /// Into the dimension's base: (amount + offset) × top ÷ bottom.
    top: Decimal,
    bottom: Decimal,
    offset: Decimal,
    shown: HashMap<String, Vec<String>>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Row {
    unit: String,
    dimension: String,
    factor: String,
    offset: Option<String>,
    names: HashMap<String, Vec<String>>,
    /// How amounts of it are shown: one, several, and in Polish many; by language.
    #[serde(default)]
    shown: HashMap<String, Vec<String>>,
}

struct Table {
    units: Vec<Unit>,
    /// One per language, English names after its own.
    names: Vec<Lexicon<usize>>,
}

fn table() -> &'static Table {
    static TABLE: OnceLock<Table> = OnceLock::new();
    TABLE.get_or_init(|| {
        // A list that does not load would be empty; a test reads it.
        let rows: Vec<Row> = serde_json::from_str(include_str!("../data/units.json")).unwrap_or_default();
        let mut names: Vec<Lexicon<usize>> = LANGUAGES.iter().map(|_| Lexicon::default()).collect();
        for (language, lexicon) in LANGUAGES.iter().zip(&mut names) {
            for from in [*language, "*", "en"] {
                for (index, row) in rows.iter().enumerate() {
                    row.names.get(from).into_iter().flatten().for_each(|name| lexicon.add(name, index));
                }
            }
            // Names without the marks of their letters, after all that are written in full.
            for from in [*language, "*", "en"] {
                for (index, row) in rows.iter().enumerate() {
                    row.names
                        .get(from)
                        .into_iter()
                        .flatten()
                        .flat_map(|name| variants(name))
                        .for_each(|name| lexicon.add(&name, index));
                }
            }
        }
        let units = rows
            .into_iter()
            .map(|row| {
                let (top, bottom) = row.factor.split_once('/').unwrap_or((&row.factor, "1"));
                let number = |text: &str| text.parse().unwrap_or(Decimal::ONE);
                let offset = row.offset.as_deref().map_or(Decimal::ZERO, number);
                Unit {
                    top: number(top),
                    bottom: number(bottom),
                    offset,
                    unit: row.unit,
                    dimension: row.dimension,
                    shown: row.shown,
                }
            })
            .collect();
        Table { units, names }
    })
}

fn names(language: &Language) -> &'static Lexicon<usize> {
    let place = LANGUAGES.iter().position(|tag| std::ptr::eq(Language::get(tag), language)).unwrap_or(0);
    &table().names[place]
}

/// The unit of a field: one that is listed, one of the author's own, or none.
#[derive(Debug, Clone)]
pub(super) struct Units {
    /// As the author wrote it.
    pub name: Option<String>,
    listed: Option<&'static Unit>,
    own: Lexicon<()>,
}

/// A unit heard beside a number, by its tokens.
#[derive(Debug, Clone, Copy)]
pub(super) struct FoundUnit {
    pub unit: &'static Unit,
    pub first: usize,
    pub next: usize,
}

fn own_unit() -> &'static Unit {
    static OWN: OnceLock<Unit> = OnceLock::new();
    OWN.get_or_init(|| Unit {
        unit: String::new(),
        dimension: String::new(),
        top: Decimal::ONE,
        bottom: Decimal::ONE,
        offset: Decimal::ZERO,
        shown: HashMap::new(),
    })
}

impl Units {
    /// The unit of a field, by its name in the field's language.
    pub(super) fn new(unit: Option<&str>, language: &Language) -> Self {
        let Some(name) = unit.map(str::trim).filter(|name| !name.is_empty()) else {
            return Self { name: None, listed: None, own: Lexicon::default() };
        };
        let scan = Scan::new(name);
        let known = |language: &Language| {
            names(language)
                .at(&scan, 0)
                .filter(|(_, next)| *next == scan.tokens.len())
                .map(|(index, _)| &table().units[index])
        };
        let exact = table().units.iter().find(|unit| unit.unit == name);
        let listed =
            exact.or_else(|| known(language)).or_else(|| LANGUAGES.iter().find_map(|tag| known(Language::get(tag))));
        let mut own = Lexicon::default();
        if listed.is_none() {
            forms(&fold(name)).iter().for_each(|form| own.add(form, ()));
        }
        Self { name: Some(name.to_owned()), listed, own }
    }

    /// True where the field counts days.
    pub(super) fn counts_days(&self) -> bool {
        self.listed.is_some_and(|unit| unit.unit == "day")
    }

    /// The units of a field that counts in a listed one.
    pub(super) fn of(unit: &'static Unit) -> Self {
        Self { name: Some(unit.unit.clone()), listed: Some(unit), own: Lexicon::default() }
    }

    /// True where a unit is the field's, or converts into it.
    pub(super) fn is_own(&self, unit: &Unit) -> bool {
        std::ptr::eq(unit, own_unit()) || self.listed.is_some_and(|own| own.dimension == unit.dimension)
    }

    /// An amount in a unit, in the field's own; exact to eight decimals.
    pub(super) fn convert(&self, amount: Decimal, unit: &Unit) -> Option<Decimal> {
        let Some(own) = self.listed.filter(|own| !std::ptr::eq(*own, unit)) else { return Some(amount) };
        if own.dimension != unit.dimension {
            return None;
        }
        let base = amount.checked_add(unit.offset)?.checked_mul(unit.top)?.checked_div(unit.bottom)?;
        let converted = base.checked_mul(own.bottom)?.checked_div(own.top)?.checked_sub(own.offset)?;
        Some(converted.round_dp(8).normalize())
    }

    /// True where a unit is smaller than another of its dimension.
    pub(super) fn is_smaller(&self, unit: &Unit, than: &Unit) -> bool {
        unit.dimension == than.dimension
            && unit
                .top
                .checked_mul(than.bottom)
                .zip(than.top.checked_mul(unit.bottom))
                .is_some_and(|(unit, than)| unit < than)
    }

    /// A bare number behind hours or feet, in the field's unit: "1h30", "6 ft 2".
    pub(super) fn bare_part(&self, amount: Decimal, larger: &Unit) -> Option<Decimal> {
        let (name, below) = match larger.unit.as_str() {
            "h" => ("min", 60),
            "ft" => ("in", 12),
            _ => return None,
        };
        let unit = table().units.iter().find(|unit| unit.unit == name)?;
        let whole = amount.is_integer() && amount >= Decimal::ZERO && amount < Decimal::from(below);
        if self.listed.is_none() {
            // A field without a unit keeps the one that was said first.
            return whole.then(|| amount.checked_div(Decimal::from(below)).map(|part| part.round_dp(8))).flatten();
        }
        whole.then(|| self.convert(amount, unit)).flatten()
    }

    /// True where the field counts in days, weeks, months or the like.
    pub(super) fn is_time(&self) -> bool {
        self.listed.is_some_and(|own| own.dimension == "time")
    }

    /// True where the field's unit is one of temperature.
    pub(super) fn is_temperature(&self) -> bool {
        self.listed.is_some_and(|own| own.dimension == "temperature")
    }

    /// "9m" is nine metres or minutes where the field counts such, not nine million; "3k" may be either of two there
    /// and is nothing.
    pub(super) fn letter_of_unit(&self, scan: &Scan<'_>, amount: &Amount, language: &Language) -> Option<Amount> {
        let measures =
            self.listed.is_some_and(|own| matches!(own.dimension.as_str(), "length" | "time" | "area" | "volume"));
        let letter =
            amount.next.checked_sub(1).filter(|last| measures && *last > amount.first).and_then(|last| scan.word(last));
        match letter {
            Some("m") => {
                let million = Decimal::from(1_000_000);
                let bare = |amount: Decimal| if amount < million { amount } else { (amount / million).normalize() };
                Some(Amount {
                    amount: bare(amount.amount),
                    span: amount.span.map(|(low, high)| (bare(low), bare(high))),
                    next: amount.next - 1,
                    ..*amount
                })
            }
            // "15k km" says the unit as well.
            Some("k") if self.at(scan, amount.next, language).is_none() => None,
            _ => Some(*amount),
        }
    }

    /// The unit at a token.
    pub(super) fn at(&self, scan: &Scan<'_>, index: usize, language: &Language) -> Option<FoundUnit> {
        if let Some(((), next)) = self.own.at(scan, index) {
            return Some(FoundUnit { unit: own_unit(), first: index, next });
        }
        let (found, next) = names(language).at(scan, index)?;
        let token = &scan.tokens[index];
        // "30m" counts minutes where time is asked for.
        if &*token.folded == "m" && next == index + 1 && self.listed.is_some_and(|own| own.dimension == "time") {
            return table().units.iter().find(|unit| unit.unit == "min").map(|unit| FoundUnit {
                unit,
                first: index,
                next,
            });
        }
        // "6 ft 2" is no area.
        if next > index + 1 && scan.tokens[next - 1].kind == Kind::Digits && !scan.tokens[next - 1].glued {
            return None;
        }
        // Short words that mean something else when they stand alone: "40 in Leeds", "40 to 50".
        let glued_only =
            matches!(&*token.folded, "in" | "to" | "c" | "f" | "st" | "s" | "j" | "w") && next == index + 1;
        // "10 in" ends a length.
        let inches = &*token.folded == "in"
            && next == scan.tokens.len()
            && self.listed.is_some_and(|own| own.dimension == "length");
        let asked = inches
            || self.listed.is_some_and(|own| own.dimension == "temperature") && matches!(&*token.folded, "c" | "f")
            || self.listed.is_some_and(|own| own.dimension == "power") && &*token.folded == "w";
        (!glued_only || asked || token.glued && index > 0 && scan.tokens[index - 1].kind == Kind::Digits)
            .then(|| FoundUnit { unit: &table().units[found], first: index, next })
    }

    /// The unit that belongs to the number between two tokens: right behind it, behind at most two describing words
    /// ("340 full pallets"), or right before it ("pallets: 340").
    pub(super) fn around(&self, scan: &Scan<'_>, first: usize, next: usize, language: &Language) -> Option<FoundUnit> {
        let behind = next
            + usize::from(scan.tokens.get(next).is_some_and(|token| token.is('+') || token.is_dash() && token.glued));
        if let Some(found) = self.at(scan, next, language).or_else(|| self.at(scan, behind, language)) {
            // "SKUs 900 staff 12" counts what stands before, where that is the field's.
            let own = (!self.is_own(found.unit)).then(|| self.right_before(scan, first, language)).flatten();
            // "40 pallets = 32 t" has counted its pallets before.
            let counted =
                |own: &FoundUnit| own.next < first && own.first > 0 && scan.tokens[own.first - 1].kind == Kind::Digits;
            return own.filter(|own| self.is_own(own.unit) && !counted(own)).or(Some(found));
        }
        for index in behind..behind + 3 {
            if index > behind
                && let Some(found) = self.at(scan, index, language)
            {
                return Some(found);
            }
            let passes = scan.word(index).is_some_and(|word| describes(word, language))
                && language.dates.next.at(scan, index).is_none();
            if !passes {
                break;
            }
        }
        self.right_before(scan, first, language)
    }

    /// The unit right before a number: "pallets: 340".
    fn right_before(&self, scan: &Scan<'_>, first: usize, language: &Language) -> Option<FoundUnit> {
        let mut before = first;
        while before > 0 && (scan.tokens[before - 1].is(':') || scan.tokens[before - 1].is('=')) {
            before -= 1;
        }
        // "Min 8" is at least eight, not minutes.
        if language.about.before(scan, before).is_some() {
            return None;
        }
        (1..=3.min(before)).find_map(|back| self.at(scan, before - back, language).filter(|found| found.next == before))
    }
}

/// The name of a unit behind an amount, in a language: "1 pallet", "2 pallets", "5 palet". A unit that is not listed,
/// or that the author calls by another name, stays as it was written.
pub(super) fn shown(name: &str, amount: Decimal, language: &str) -> String {
    let language = language.split(['-', '_']).next().unwrap_or(language);
    let named =
        |unit: &&Unit| unit.unit == name || unit.shown.values().flatten().any(|form| form.eq_ignore_ascii_case(name));
    let forms = table().units.iter().find(named).and_then(|unit| unit.shown.get(language));
    forms
        .and_then(|forms| forms.get(plural(amount.abs(), language)).or(forms.last()))
        .map_or_else(|| name.to_owned(), Clone::clone)
}

/// Which form of a noun goes with an amount, by the plural rules of Unicode CLDR: 0 one, 1 several (in Polish a few,
/// and parts of one), 2 many.
fn plural(amount: Decimal, language: &str) -> usize {
    let whole = amount.is_integer();
    let digits = |of: i64| i64::try_from(amount.trunc() % Decimal::from(of)).unwrap_or_default();
    match language {
        "fr" => usize::from(amount >= Decimal::TWO),
        "pl" if amount == Decimal::ONE => 0,
        "pl" if !whole || matches!(digits(10), 2..=4) && !matches!(digits(100), 12..=14) => 1,
        "pl" => 2,
        _ => usize::from(amount != Decimal::ONE),
    }
}

/// A word that may stand between a number and its unit.
fn describes(word: &str, language: &Language) -> bool {
    let english = Language::get("en");
    word.chars().count() >= 3
        && !language.company.stops.contains(word)
        && !english.company.stops.contains(word)
        && !language.names.stops.contains(word)
        && !language.words.contains_key(word)
        && !language.times.contains_key(word)
        && !language.join.contains(word)
        && !matches!(word, "or" | "plus")
        && !shared().per.contains(word)
}

/// Nouns whose plural has another stem, alone or at the end of a longer one: "grandchild".
const IRREGULAR: [(&str, &str); 6] = [
    ("child", "children"),
    ("woman", "women"),
    ("man", "men"),
    ("person", "people"),
    ("shelf", "shelves"),
    ("half", "halves"),
];

/// Singular and plural forms of an author's own unit.
fn forms(name: &str) -> Vec<String> {
    let mut stems = vec![name.to_owned()];
    for (one, several) in IRREGULAR {
        stems.extend(name.strip_suffix(several).map(|begin| format!("{begin}{one}")));
        stems.extend(name.strip_suffix(one).map(|begin| format!("{begin}{several}")));
    }
    for ending in ["s", "es", "en", "n", "e"] {
        if let Some(stem) = name.strip_suffix(ending).filter(|stem| stem.chars().count() >= 3) {
            stems.push(stem.to_owned());
        }
    }
    if let Some(stem) = name.strip_suffix("ies") {
        stems.push(format!("{stem}y"));
    }
    let mut out = stems.clone();
    for stem in &stems {
        out.extend(["s", "es", "en", "n", "e", "y", "i", "ów"].iter().map(|ending| format!("{stem}{ending}")));
        if let Some(short) = stem.strip_suffix('y') {
            out.push(format!("{short}ies"));
        }
    }
    out
}

#[cfg(test)]
mod tests {
    use super::*;

    fn converted(amount: &str, from: &str, to: &str) -> Option<String> {
        let english = Language::get("en");
        let units = Units::new(Some(to), english);
        let scan = Scan::new(from);
        let found = units.at(&scan, 0, english)?;
        units.convert(amount.parse().ok()?, found.unit).map(|amount| amount.to_string())
    }

    /// Compared with PyPI `pint` 0.25 (BSD-3), its default registry, on 2026-11-23; a month is a twelfth of 365.2425
    /// days here, where pint counts a twelfth of 365.25, so months are left out.
    #[test]
    fn units_convert_as_pint_says() {
        for (amount, from, to, expected) in [
            ("12", "tonnes", "kg", "12000"),
            ("10", "lbs", "kg", "4.5359237"),
            ("3", "stone", "kg", "19.05087954"),
            ("6", "feet", "m", "1.8288"),
            ("5", "miles", "km", "8.04672"),
            ("2", "acres", "m2", "8093.7128448"),
            ("100", "square feet", "m²", "9.290304"),
            ("10", "gallons", "l", "45.4609"),
            ("3", "cubic feet", "l", "84.95053978"),
            ("0", "°F", "°C", "-17.77777778"),
            ("-18", "celsius", "°F", "-0.4"),
            ("36", "hours", "day", "1.5"),
            ("2", "weeks", "day", "14"),
            ("4", "MWh", "kWh", "4000"),
            ("90", "MJ", "kWh", "25"),
            ("2", "GJ", "kWh", "555.55555556"),
            ("500", "kcal", "kWh", "0.58111111"),
            ("10", "hp", "kW", "7.45699872"),
            ("1500", "watts", "kW", "1.5"),
            ("2", "TB", "GB", "2000"),
            ("1", "GiB", "MB", "1073.741824"),
        ] {
            assert_eq!(converted(amount, from, to).as_deref(), Some(expected), "{amount} {from} in {to}");
        }
        assert_eq!(converted("12", "tonnes", "pallet"), None);
    }

    /// Categories of Unicode CLDR 45 (one, few, many, other) for the numbers of its own samples, from memory.
    #[test]
    fn a_unit_is_shown_in_the_form_that_goes_with_its_amount() {
        for (name, amount, language, expected) in [
            ("pallet", "1", "en", "pallet"),
            ("pallets", "1", "en", "pallet"),
            ("pallet", "0", "en", "pallets"),
            ("pallet", "1.5", "en", "pallets"),
            ("Pallets", "340", "en", "pallets"),
            ("palette", "0", "fr", "palette"),
            ("palette", "1.5", "fr", "palette"),
            ("palette", "2", "fr", "palettes"),
            ("Palette", "1", "de", "Palette"),
            ("pallet", "12", "de", "Paletten"),
            ("paleta", "1", "pl", "paleta"),
            ("paleta", "2", "pl", "palety"),
            ("paleta", "5", "pl", "palet"),
            ("paleta", "12", "pl", "palet"),
            ("paleta", "22", "pl", "palety"),
            ("paleta", "112", "pl", "palet"),
            ("paleta", "1.5", "pl", "palety"),
            ("month", "3", "nl", "maanden"),
            ("pallet spaces", "1", "en", "pallet spaces"),
            ("crate", "2", "en", "crate"),
            ("kg", "2", "en", "kg"),
        ] {
            assert_eq!(shown(name, amount.parse().unwrap(), language), expected, "{amount} {name} in {language}");
        }
    }

    #[test]
    fn every_listed_unit_loads_and_an_own_unit_has_its_plural() {
        assert!(table().units.len() > 40);
        let english = Language::get("en");
        let units = Units::new(Some("crate"), english);
        for (text, there) in [("crates", true), ("crate", true), ("kg", true), ("crater", false)] {
            assert_eq!(units.at(&Scan::new(text), 0, english).is_some(), there, "{text}");
        }
        let batteries = Units::new(Some("battery"), english);
        assert!(batteries.at(&Scan::new("batteries"), 0, english).is_some_and(|found| batteries.is_own(found.unit)));
        for (unit, other) in [("children", "child"), ("child", "children"), ("women", "woman"), ("shelf", "shelves")] {
            assert!(Units::new(Some(unit), english).at(&Scan::new(other), 0, english).is_some(), "{other} of {unit}");
        }
    }
}
