//! Territories: a table of the workspace that says which queue has a place. Rows begin postcodes, phone numbers or
//! other texts, or name a country, a region or a town; the longest beginning that fits goes first.
//!
//! Rules are frozen by a release and tables are not, so a rule only says where it would look ([`Look`]); the table is
//! looked at in the transaction that files the lead, as is what the firm is to us.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use lumbo_value::field::{Choice, FieldType};
use lumbo_value::{Field, Value};

use super::{Decision, Firm, FirmIs, RouteStep};

/// Most rows of a table.
pub const MOST_ROWS: usize = 5_000;
/// Most characters of a row's beginning.
pub const MOST_LETTERS: usize = 60;

/// Which queue has which places.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Territories {
    /// Its key in the workspace.
    pub key: String,
    /// Its name.
    pub name: String,
    /// Its rows, in any order.
    #[serde(default)]
    pub rows: Vec<Territory>,
    /// Key of the queue for every place without a row; the rules after this one go on where absent.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub otherwise: Option<String>,
}

/// A row of a table.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Territory {
    /// How the place begins, or its whole name: `SW1`, `DE`, `+44 20`, `Tarn Quay`.
    pub starts: String,
    /// The queue's key.
    pub queue: String,
}

/// One way to write where somebody is.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Spot {
    /// The text as kept.
    pub text: String,
    /// True where a row must name all of it, as for a town; false where a row may be its beginning, as for a postcode.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub whole: bool,
}

/// What a rule wants looked at: the firm, a table, or one after the other.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Look {
    /// Place of its first step in the decision.
    pub step: usize,
    /// What the firm must be.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub firm: Option<FirmIs>,
    /// The table's key; empty where the rule names a queue.
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub table: String,
    /// Key of the queue that the rule names; empty where a table does.
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub queue: String,
    /// Where the lead is, what says most first; empty where that is not known.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub at: Vec<Spot>,
    /// What a rep must have.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub skills: Vec<String>,
    /// True where it decides even for somebody who has an owner already.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub even_if_owned: bool,
    /// Words that the lead is tagged with where the table names a queue.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub tags: Vec<String>,
}

/// What a table says of a lead.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Looked {
    /// It has not been looked at: only the rules were tried.
    NotYet,
    /// A row fits.
    Row {
        /// The table's name.
        table: String,
        /// The row.
        starts: String,
        /// What of the lead it fits.
        at: String,
        /// The queue's key.
        queue: String,
    },
    /// No row fits, and a queue is named for that.
    Otherwise {
        /// The table's name.
        table: String,
        /// What of the lead was looked up.
        at: String,
        /// The queue's key.
        queue: String,
    },
    /// No row fits, and the rules go on.
    NoRow {
        /// The table's name.
        table: String,
        /// What of the lead was looked up.
        at: String,
    },
    /// Where the lead is was not said; the rules go on.
    NotSaid {
        /// The table's name.
        table: String,
    },
    /// The workspace has no such table any more; the rules go on.
    NoSuchTable,
}

impl Looked {
    /// Key of the queue that it names.
    #[must_use]
    pub fn queue(&self) -> Option<&str> {
        match self {
            Self::Row { queue, .. } | Self::Otherwise { queue, .. } => Some(queue),
            Self::NotYet | Self::NoRow { .. } | Self::NotSaid { .. } | Self::NoSuchTable => None,
        }
    }
}

/// Where somebody is, by the value of a field: what says most comes first.
#[must_use]
pub fn spots(kind: FieldType, value: &Value) -> Vec<Spot> {
    let begins = |text: &str| Spot { text: text.to_owned(), whole: false };
    let whole = |text: &str| Spot { text: text.to_owned(), whole: true };
    match value {
        Value::Text { text } if kind == FieldType::Country => vec![whole(text)],
        Value::Text { text } => vec![begins(text)],
        Value::Phone { number, .. } => vec![begins(number)],
        Value::Choice { key } => vec![whole(key)],
        Value::Choices { keys } => keys.iter().map(|key| whole(key)).collect(),
        Value::Place(place) => {
            let country = place.country.as_deref();
            let mut out = Vec::new();
            if let Some(postcode) = place.postcode.as_deref() {
                out.extend(country.map(|country| begins(&format!("{country} {postcode}"))));
                out.push(begins(postcode));
            }
            out.extend([place.town.as_deref(), place.region.as_deref(), country].into_iter().flatten().map(whole));
            out
        }
        Value::Number(_)
        | Value::Money { .. }
        | Value::Name(_)
        | Value::YesNo { .. }
        | Value::Date { .. }
        | Value::List { .. }
        | Value::Consent { .. } => Vec::new(),
    }
}

/// True where values of a type say where somebody is.
#[must_use]
pub fn says_where(kind: FieldType) -> bool {
    matches!(
        kind,
        FieldType::Text
            | FieldType::Company
            | FieldType::Phone
            | FieldType::Choice
            | FieldType::Choices
            | FieldType::Place
            | FieldType::Address
            | FieldType::Country
    )
}

/// Letters and digits in capitals; case, spaces and marks make no difference.
fn letters(text: &str) -> impl Iterator<Item = char> {
    text.chars().filter(|letter| letter.is_alphanumeric()).flat_map(char::to_uppercase)
}

fn fold(text: &str) -> String {
    letters(text).collect()
}

/// Where the first part of a British postcode ends, in a folded text that is one: two to four letters and digits, then
/// a digit and two letters (the format of BS 7666, from memory).
fn outward(folded: &str) -> Option<usize> {
    let all = folded.as_bytes();
    let first = all.len().checked_sub(3).filter(|first| (2..=4).contains(first))?;
    let inward = all[first].is_ascii_digit() && all[first + 1..].iter().all(u8::is_ascii_uppercase);
    let letters = all.iter().take_while(|byte| byte.is_ascii_uppercase()).count();
    (inward && (1..=2).contains(&letters) && all.get(letters).is_some_and(u8::is_ascii_digit) && folded.is_ascii())
        .then_some(first)
}

/// How much of a folded text a row's beginning takes up, in bytes; nothing where it does not fit. Rows are many and are
/// mostly other places, so a row is folded no further than it fits.
fn fits(starts: &str, text: &str, whole: bool) -> Option<usize> {
    let mut rest = text;
    for letter in letters(starts) {
        rest = rest.strip_prefix(letter)?;
    }
    let taken = text.len() - rest.len();
    (taken > 0 && if whole { rest.is_empty() } else { !splits_district(text, taken) }).then_some(taken)
}

/// True where a beginning would end within the digits of a British district: `G1` does not begin `G12 8QQ`, which is
/// another one.
fn splits_district(text: &str, taken: usize) -> bool {
    let (starts, rest) = text.split_at(taken);
    outward(text).is_some_and(|first| taken < first)
        && starts.ends_with(|last: char| last.is_ascii_digit())
        && rest.starts_with(|next: char| next.is_ascii_digit())
}

impl Territories {
    /// The row for a place: of the first spot that any row fits, the longest.
    ///
    /// ```
    /// use lumbo_route::territory::{Spot, Territories, Territory};
    /// let row = |starts: &str, queue: &str| Territory { starts: starts.into(), queue: queue.into() };
    /// let table = Territories { rows: vec![row("G", "north"), row("G1", "city")], ..Territories::default() };
    /// let spot = |text: &str| [Spot { text: text.into(), whole: false }];
    /// assert_eq!(table.find(&spot("g1 1aa")).unwrap().0.queue, "city");
    /// assert_eq!(table.find(&spot("G12 8QQ")).unwrap().0.queue, "north");
    /// assert!(table.find(&spot("EH1 1AA")).is_none());
    /// ```
    #[must_use]
    pub fn find<'a>(&'a self, at: &'a [Spot]) -> Option<(&'a Territory, &'a Spot)> {
        at.iter().find_map(|spot| {
            let text = fold(&spot.text);
            let fitting = self.rows.iter().filter_map(|row| Some((fits(&row.starts, &text, spot.whole)?, row)));
            // Of two equal beginnings the one that stands first.
            fitting.rev().max_by_key(|(taken, _)| *taken).map(|(_, row)| (row, spot))
        })
    }

    /// What the table says of a place.
    #[must_use]
    pub fn look(&self, at: &[Spot]) -> Looked {
        let table = self.name.clone();
        let Some(first) = at.first() else { return Looked::NotSaid { table } };
        match (self.find(at), &self.otherwise) {
            (Some((row, spot)), _) => {
                Looked::Row { table, starts: row.starts.clone(), at: spot.text.clone(), queue: row.queue.clone() }
            }
            (None, Some(queue)) => Looked::Otherwise { table, at: first.text.clone(), queue: queue.clone() },
            (None, None) => Looked::NoRow { table, at: first.text.clone() },
        }
    }

    /// Labels of a field's options that no row has, in their order; none where the table names a queue for the rest, or
    /// where the field has no options.
    #[must_use]
    pub fn gaps(&self, field: &Field, language: &str) -> Vec<String> {
        let missing = |option: &&Choice| {
            self.find(&[Spot { text: option.key.clone(), whole: true }]).is_none() && self.otherwise.is_none()
        };
        field.options.iter().filter(missing).map(|option| option.label.get(language, language).to_owned()).collect()
    }

    /// Rows that can never be found, because another of the same beginning stands before them, by their places.
    #[must_use]
    pub fn hidden(&self) -> Vec<usize> {
        let mut seen = std::collections::BTreeSet::new();
        (0..self.rows.len()).filter(|place| !seen.insert(fold(&self.rows[*place].starts))).collect()
    }
}

impl Decision {
    /// The rule that decided, before any queue was asked; absent where none held.
    #[must_use]
    pub fn rule(&self) -> Option<&str> {
        self.steps.iter().find_map(|step| match step {
            RouteStep::Rule { rule, held: true, .. } => Some(rule.as_str()),
            RouteStep::Firm { rule, held: Some(true), queue, .. } if !queue.is_empty() => Some(rule.as_str()),
            RouteStep::Territory { rule, looked, .. } => looked.queue().map(|_| rule.as_str()),
            _ => None,
        })
    }

    /// Rules that held and whose tables named no queue.
    pub fn without_row(&self) -> impl Iterator<Item = &str> {
        self.steps.iter().filter_map(|step| match step {
            RouteStep::Territory {
                rule,
                looked: Looked::NoRow { .. } | Looked::NotSaid { .. } | Looked::NoSuchTable,
                ..
            } => Some(rule.as_str()),
            _ => None,
        })
    }

    /// The decision with its firm and its tables looked at, in order: the first rule that names a queue decides, and
    /// what came after it is no step any more; where none does, the rules that came after stand.
    #[must_use]
    pub fn looked_up<'a>(mut self, firm: &Firm, table: impl Fn(&str) -> Option<&'a Territories>) -> Self {
        let mut taken_out = 0_usize;
        for look in std::mem::take(&mut self.looks) {
            let mut step = look.step.saturating_sub(taken_out);
            if let Some(is) = look.firm {
                let so = is.holds(firm);
                if let Some(RouteStep::Firm { held, firm: name, .. }) = self.steps.get_mut(step) {
                    (*held, *name) = (Some(so), firm.name.clone());
                }
                let then = step.saturating_add(1);
                let by_table = matches!(self.steps.get(then), Some(RouteStep::Territory { .. }));
                if !so {
                    // Its table was not looked at, so that is no step.
                    if !look.table.is_empty() && by_table {
                        self.steps.remove(then);
                        taken_out += 1;
                    }
                    continue;
                }
                step = if look.table.is_empty() { step } else { then };
            }
            let queue = if look.table.is_empty() {
                Some(look.queue)
            } else {
                let said = table(&look.table).map_or(Looked::NoSuchTable, |table| table.look(&look.at));
                let queue = said.queue().map(str::to_owned);
                if let Some(RouteStep::Territory { looked, .. }) = self.steps.get_mut(step) {
                    *looked = said;
                }
                queue
            };
            if queue.is_some() {
                self.steps.truncate(step.saturating_add(1));
                let Look { skills, even_if_owned, tags, .. } = look;
                return Self { queue, skills, even_if_owned, tags, steps: self.steps, looks: Vec::new() };
            }
        }
        self
    }
}

#[cfg(test)]
mod tests {
    use lumbo_value::Place;

    use super::*;

    fn table(rows: &[(&str, &str)]) -> Territories {
        let rows = rows.iter().map(|(starts, queue)| Territory { starts: (*starts).into(), queue: (*queue).into() });
        Territories { key: "uk".into(), name: "Depots".into(), rows: rows.collect(), otherwise: None }
    }

    fn by(table: &Territories, text: &str) -> Option<String> {
        table.find(&[Spot { text: text.into(), whole: false }]).map(|(row, _)| row.queue.clone())
    }

    #[test]
    fn a_table_without_a_row_for_an_option_says_which() {
        let options = serde_json::json!([{"key": "kent", "label": {"en": "Kent"}}, {"key": "fife", "label": {"en":
            "Fife"}}, {"key": "other", "label": {"en": "Somewhere else"}}]);
        let field = serde_json::json!({"id": "f", "key": "county", "label": "County", "type": "choice",
            "options": options});
        let field: Field = serde_json::from_value(field).unwrap();
        let mut counties = table(&[("Kent", "south"), ("fi", "north")]);
        assert_eq!(counties.gaps(&field, "en"), ["Fife", "Somewhere else"], "a row names an option whole");
        counties.otherwise = Some("south".into());
        assert!(counties.gaps(&field, "en").is_empty());
        let plain = Field { options: Vec::new(), ..field };
        assert!(table(&[]).gaps(&plain, "en").is_empty(), "what else people say cannot be counted up");
    }

    #[test]
    fn the_longest_beginning_goes_first_however_it_is_written() {
        let depots =
            table(&[("S", "south"), ("SW", "west"), ("sw1", "city"), ("SW1A", "palace"), ("+44 20", "london")]);
        for (at, queue) in [
            ("SW1A 1AA", "palace"),
            ("sw1a1aa", "palace"),
            ("SW1 4ZZ", "city"),
            ("SW19 5AE", "west"),
            ("S-1 2BC", "south"),
            ("+442071838750", "london"),
        ] {
            assert_eq!(by(&depots, at).as_deref(), Some(queue), "{at}");
        }
        assert_eq!(by(&depots, "NE1 1AA"), None);
        assert_eq!(by(&table(&[("", "all"), (" -", "all")]), "NE1 1AA"), None);
    }

    #[test]
    fn a_british_district_is_not_the_beginning_of_another_and_other_countries_codes_are_only_text() {
        let one = table(&[("G1", "city"), ("M1", "mill"), ("EC1", "east"), ("60", "main")]);
        for (at, queue) in [
            ("G1 1AA", Some("city")),
            ("G11AA", Some("city")),
            ("G12 8QQ", None),
            ("G128QQ", None),
            ("M1 1AE", Some("mill")),
            ("M16 0RA", None),
            ("EC1A 1BB", Some("east")),
            ("60311", Some("main")),
            // Half a postcode is what it is.
            ("G12", Some("city")),
        ] {
            assert_eq!(by(&one, at).as_deref(), queue, "{at}");
        }
    }

    #[test]
    fn a_place_is_looked_up_by_what_says_most_and_names_must_be_whole() {
        let place = Place {
            postcode: Some("10115".into()),
            town: Some("Berlin".into()),
            country: Some("DE".into()),
            ..Place::default()
        };
        let at = spots(FieldType::Place, &Value::Place(place));
        let texts: Vec<(&str, bool)> = at.iter().map(|spot| (spot.text.as_str(), spot.whole)).collect();
        assert_eq!(texts, [("DE 10115", false), ("10115", false), ("Berlin", true), ("DE", true)]);
        let find = |rows: &[(&str, &str)]| table(rows).find(&at).map(|(row, _)| row.queue.clone());
        assert_eq!(find(&[("DE", "all"), ("DE 10", "ten"), ("Berlin", "town")]).as_deref(), Some("ten"));
        assert_eq!(find(&[("Berlin", "town"), ("FR", "far")]).as_deref(), Some("town"));
        // No beginning of a name is the name.
        assert_eq!(find(&[("Ber", "town"), ("D", "far")]), Some("far".into()));
        let country = spots(FieldType::Country, &Value::Text { text: "GB".into() });
        assert_eq!(table(&[("G", "city")]).find(&country), None);
        assert!(table(&[("gb", "home")]).find(&country).is_some());
    }

    #[test]
    fn what_is_not_there_goes_on_to_the_rules_or_to_the_queue_named_for_it() {
        let at = [Spot { text: "NE1 1AA".into(), whole: false }];
        let mut depots = table(&[("SW", "west")]);
        assert_eq!(depots.look(&at), Looked::NoRow { table: "Depots".into(), at: "NE1 1AA".into() });
        assert_eq!(depots.look(&[]), Looked::NotSaid { table: "Depots".into() });
        depots.otherwise = Some("rest".into());
        let rest = Looked::Otherwise { table: "Depots".into(), at: "NE1 1AA".into(), queue: "rest".into() };
        assert_eq!(depots.look(&at), rest);
        assert_eq!(depots.look(&[]), Looked::NotSaid { table: "Depots".into() });
        assert_eq!(table(&[("SW", "a"), ("NE", "b"), ("s w", "c")]).hidden(), [2]);
    }
}
