//! What formulas, conditions and readers see of a running conversation.

use jiff::Timestamp;
use jiff::civil::Date;

use super::State;
use crate::plan::Plan;
use lumbo_condition::circumstances::Circumstances;
use lumbo_condition::{Facts, Scores};
use lumbo_formula::Lookup;
use lumbo_reading::ReadContext;
use lumbo_reading::domains::DomainLists;
use lumbo_value::Value;

/// What formulas and conditions see of a running conversation.
#[derive(Debug, Clone, Copy)]
pub struct Known<'a> {
    /// The outline.
    pub plan: &'a Plan,
    /// The conversation.
    pub state: &'a State,
    /// The day of TODAY.
    pub today: Date,
    /// Now.
    pub now: Timestamp,
    /// The workspace's own e-mail domains.
    pub domains: &'a DomainLists,
    /// The turn whose arms are decided, by index: `@settled` looks from there.
    pub at: Option<usize>,
    /// A value not kept yet, by field id.
    pub with: Option<(&'a str, &'a Value)>,
}

impl<'a> Known<'a> {
    /// What is known without asking, with what the prospect said of it.
    #[must_use]
    pub fn around(&self) -> Circumstances<'a> {
        let said_country = self.plan.country_fields.iter().find_map(|field| {
            match &self.state.values.get(&self.plan.file.fields[*field].id)?.value {
                Value::Text { text } => Some(text.as_str()),
                Value::Place(place) => place.country.as_deref(),
                _ => None,
            }
        });
        let context = &self.state.context;
        Circumstances { context, said_country, clock: Some((self.now, &self.plan.zone)) }
    }

    /// What reading a reply may use: the prospect's country, else the dialogue's.
    #[must_use]
    pub fn reading(&'a self) -> ReadContext<'a> {
        let country = self.around().country().unwrap_or(&self.plan.file.settings.country);
        ReadContext {
            country: Some(country),
            today: Some(self.today),
            earlier: None,
            known: Some(self),
            domains: Some(self.domains),
        }
    }
}

impl Scores for Known<'_> {
    fn points(&self, card: Option<&str>) -> Option<i64> {
        match self.named(card) {
            Some(card) => self
                .plan
                .cards
                .iter()
                .any(|known| known.file.id == card)
                .then(|| self.state.points_by.get(card).copied().unwrap_or(0)),
            None => Some(self.state.points),
        }
    }

    fn band(&self, card: Option<&str>) -> Option<&str> {
        match self.named(card).or_else(|| self.plan.default_card.map(|card| self.plan.cards[card].file.id.as_str())) {
            // Before there were several, only the band of the last filing was kept.
            Some(card) if !self.state.bands.is_empty() => self.state.bands.get(card).map(String::as_str),
            _ => self.state.band.as_deref(),
        }
    }

    fn settled(&self) -> Option<bool> {
        let (plan, at) = (self.plan, self.at?);
        let card = &plan.cards[plan.default_card?];
        let changes = &plan.changes;
        let open = |key: &str| {
            plan.field_place(key).is_some_and(|field| {
                changes.written_after[at].has(field) || changes.filled_after[at].has(field) && self.value(key).is_none()
            })
        };
        Some(card.bands_left(Facts { lookup: self, scores: self, around: self.around() }, &open).len() == 1)
    }
}

impl<'a> Known<'a> {
    /// A card that is named and is not the default.
    fn named<'b>(&self, card: Option<&'b str>) -> Option<&'b str> {
        card.filter(|card| self.plan.default_card.is_none_or(|default| self.plan.cards[default].file.id != *card))
    }
}

impl Lookup for Known<'_> {
    fn value(&self, key: &str) -> Option<&Value> {
        let id = &self.plan.field_by_key(key)?.id;
        match self.with {
            Some((field, value)) if field == id => Some(value),
            _ => self.state.values.get(id).map(|held| &held.value),
        }
    }
    fn today(&self) -> Option<Date> {
        Some(self.today)
    }
    fn currency(&self) -> &str {
        &self.plan.file.settings.currency
    }
}
