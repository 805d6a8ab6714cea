//! Past leads: what they answered, and what became of them.

use std::collections::{BTreeMap, HashMap};
use std::sync::Arc;

use jiff::Timestamp;
use jiff::civil::Date;
use lumbo_condition::circumstances::{Circumstances, Context};
use lumbo_condition::{Facts, Scored};
use lumbo_formula::Lookup;
use lumbo_value::{Field, Value};
use uuid::Uuid;

/// What became of a lead, as far as a scorecard is held against it.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum End {
    /// Won.
    Won,
    /// Sales took it as theirs; neither won nor lost yet.
    Accepted,
    /// Lost, or not a fit after all.
    Lost,
    /// Nothing yet.
    Open,
    /// Tries used up: nobody was reached.
    NotReached,
    /// No person, a duplicate, a wrong territory.
    Junk,
}

/// Ids of fields, once for all leads.
#[derive(Debug, Clone, Default)]
struct Ids {
    count: u16,
    places: HashMap<String, u16>,
}

impl Ids {
    fn place(&mut self, id: &str) -> u16 {
        if let Some(place) = self.places.get(id) {
            return *place;
        }
        let place = self.count;
        self.count = self.count.saturating_add(1);
        self.places.insert(id.to_owned(), place);
        place
    }
}

/// When and as what a lead was filed.
#[derive(Debug, Clone)]
pub struct Filed {
    /// Its id.
    pub id: Uuid,
    /// When it was filed.
    pub at: Timestamp,
    /// What became of it.
    pub end: End,
    /// The queue it came by.
    pub queue: Option<Uuid>,
    /// Whose it is.
    pub owner: Option<Uuid>,
    /// The company it is of.
    pub company: Option<Uuid>,
    /// When somebody first did something with it.
    pub tried: Option<Timestamp>,
    /// What was known without asking.
    pub context: Option<Box<Context>>,
}

/// A past lead.
#[derive(Debug, Clone)]
pub struct PastLead {
    /// When and as what it was filed.
    pub filed: Filed,
    day: Date,
    answers: Vec<(u16, Value)>,
}

/// Past leads of one dialogue. Their answers are kept by the ids of fields, which never change.
#[derive(Debug, Clone, Default)]
pub struct PastLeads {
    ids: Ids,
    /// In the order of their filing. Shared, so that leads that changed are added to a copy without copying all the
    /// others.
    leads: BTreeMap<(Timestamp, Uuid), Arc<PastLead>>,
    /// When each was filed, by its id.
    filed: HashMap<Uuid, Timestamp>,
}

impl PastLeads {
    /// Adds a lead with its answers by field id, in the place of what was known of it.
    pub fn put(&mut self, filed: Filed, answers: impl IntoIterator<Item = (String, Value)>) {
        let answers = answers.into_iter().map(|(id, value)| (self.ids.place(&id), value)).collect();
        let day = filed.at.to_zoned(jiff::tz::TimeZone::UTC).date();
        let (id, at) = (filed.id, filed.at);
        if let Some(before) = self.filed.insert(id, at).filter(|before| *before != at) {
            self.leads.remove(&(before, id));
        }
        self.leads.insert((at, id), Arc::new(PastLead { filed, day, answers }));
    }

    /// How many there are.
    #[must_use]
    pub fn len(&self) -> usize {
        self.leads.len()
    }

    /// True where there are none.
    #[must_use]
    pub fn is_empty(&self) -> bool {
        self.leads.is_empty()
    }

    /// The leads as a dialogue of these fields reads them; `currency` is that of MONEY without a code.
    #[must_use]
    pub fn named<'a>(&'a self, fields: &[Field], currency: &'a str) -> Named<'a> {
        let place = |field: &Field| Some((field.key.clone(), *self.ids.places.get(&field.id)?));
        Named { leads: self, places: fields.iter().filter_map(place).collect(), currency, nothing: Context::default() }
    }
}

/// Past leads whose answers are found by today's keys.
#[derive(Debug)]
pub struct Named<'a> {
    leads: &'a PastLeads,
    places: HashMap<String, u16>,
    currency: &'a str,
    nothing: Context,
}

impl Named<'_> {
    /// All of them, as conditions and formulas read them, in the order of their filing.
    #[must_use]
    pub fn answered(&self) -> Vec<Answered<'_>> {
        self.leads.leads.values().map(|lead| Answered { all: self, lead }).collect()
    }
}

/// A past lead as conditions and formulas read it. TODAY is the day of its filing.
#[derive(Debug, Clone, Copy)]
pub struct Answered<'a> {
    all: &'a Named<'a>,
    /// The lead.
    pub lead: &'a PastLead,
}

/// Criteria may read neither points nor bands.
static NO_SCORES: std::sync::LazyLock<Scored> = std::sync::LazyLock::new(Scored::default);

impl Filed {
    /// A lead that is nobody's yet, without what was known.
    #[must_use]
    pub fn new(id: Uuid, at: Timestamp, end: End) -> Self {
        Self { id, at, end, queue: None, owner: None, company: None, tried: None, context: None }
    }
}

impl Answered<'_> {
    /// What conditions may read.
    #[must_use]
    pub fn facts(&self) -> Facts<'_> {
        let context = self.lead.filed.context.as_deref().unwrap_or(&self.all.nothing);
        Facts { lookup: self, scores: &*NO_SCORES, around: Circumstances::of(context) }
    }
}

impl Lookup for Answered<'_> {
    fn value(&self, key: &str) -> Option<&Value> {
        let place = self.all.places.get(key)?;
        self.lead.answers.iter().find(|(known, _)| known == place).map(|(_, value)| value)
    }
    fn today(&self) -> Option<Date> {
        Some(self.lead.day)
    }
    fn currency(&self) -> &str {
        self.all.currency
    }
}
