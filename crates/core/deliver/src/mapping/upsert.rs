//! Which call to a customer system comes next. A record whose id is known is changed; else it is looked up, and made
//! only where nobody there is it. What came of each call decides the next one, so that an attempt that breaks off goes
//! on where it was: the ids that were learnt are kept, and what was made without our hearing of it is found.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use serde_json::{Map, Value as Json};

use super::{Holds, RecordPlan, RecordPlans};

/// A record there.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Their {
    /// Its id there.
    pub id: String,
    /// Where people see it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub link: Option<String>,
    /// What stands on it.
    #[serde(default)]
    pub properties: Map<String, Json>,
}

/// Ids there that are known.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Known {
    /// The company's.
    pub company: Option<String>,
    /// The contact's.
    pub contact: Option<String>,
    /// The lead's.
    pub lead: Option<String>,
}

impl Known {
    /// The id of an object.
    #[must_use]
    pub fn of(&self, object: Holds) -> Option<&str> {
        match object {
            Holds::Company => self.company.as_deref(),
            Holds::Contact => self.contact.as_deref(),
            Holds::Lead => self.lead.as_deref(),
        }
    }

    fn put(&mut self, object: Holds, id: Option<String>) {
        match object {
            Holds::Company => self.company = id,
            Holds::Contact => self.contact = id,
            Holds::Lead => self.lead = id,
        }
    }
}

/// A call.
#[derive(Debug, Clone, PartialEq)]
pub enum Call {
    /// `GET /contacts?email=…`
    Find {
        /// What is looked for.
        object: Holds,
        /// The value of the property it is found by.
        value: String,
    },
    /// `GET /contacts/ID`
    Read {
        /// What is read.
        object: Holds,
        /// Its id.
        id: String,
    },
    /// `POST /contacts`
    Create {
        /// What is made.
        object: Holds,
        /// `properties` and `links`.
        body: Json,
    },
    /// `PATCH /contacts/ID`
    Change {
        /// What is changed.
        object: Holds,
        /// Its id.
        id: String,
        /// `properties` and `links`.
        body: Json,
    },
    /// `DELETE /contacts/ID`
    Delete {
        /// What is taken out.
        object: Holds,
        /// Its id.
        id: String,
    },
}

/// What a call was answered.
#[derive(Debug, Clone, PartialEq)]
pub enum Answered {
    /// The records that were found.
    Found(Vec<Their>),
    /// The record, as it stands or as it was made.
    Record(Their),
    /// There is no such record.
    Gone,
    /// It is done.
    Done,
}

/// An id that was learnt, to be kept at once; or one that leads nowhere any more.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Written {
    /// Of what.
    pub object: Holds,
    /// Its id there; nothing where the one that was known is gone.
    pub id: Option<String>,
    /// Where people see it.
    pub link: Option<String>,
}

/// What comes next.
#[derive(Debug, Clone, PartialEq)]
pub enum Next {
    /// A call.
    Call(Call),
    /// Several records there could be it: a person says which.
    Several {
        /// Of what.
        object: Holds,
        /// Which.
        candidates: Vec<Their>,
    },
    /// Everything is as it should be.
    Done,
}

/// Where one record stands.
#[derive(Debug, Clone, PartialEq)]
enum Stage {
    /// Nothing was asked yet.
    Begun,
    /// Nobody there is it.
    Nobody,
    /// It is there, and says this.
    Read(Their),
    /// Several could be it.
    Several(Vec<Their>),
    /// It is as it should be.
    Over,
}

/// The writing of one lead, and of whom it belongs to.
#[derive(Debug, Clone)]
pub struct Upsert {
    plans: RecordPlans,
    known: Known,
    at: usize,
    stage: Stage,
    /// Whether the id that was known of this record turned out to lead nowhere: it is looked up once more.
    lost: bool,
}

impl Upsert {
    /// Begins it.
    #[must_use]
    pub fn new(plans: RecordPlans, known: Known) -> Self {
        let mut upsert = Self { plans, known, at: 0, stage: Stage::Begun, lost: false };
        upsert.skip();
        upsert
    }

    fn order(&self) -> [Holds; 3] {
        let mut order = Holds::ALL;
        // A lead goes before the one it belongs to.
        if self.plans.erase {
            order.reverse();
        }
        order
    }

    fn object(&self) -> Option<Holds> {
        self.order().get(self.at).copied()
    }

    fn plan(&self, object: Holds) -> Option<&RecordPlan> {
        self.plans.of(object)
    }

    /// Goes on to the next record that there is something to do with.
    fn skip(&mut self) {
        while let Some(object) = self.object() {
            let nothing = if self.plans.erase {
                // A firm is no person.
                object == Holds::Company || self.known.of(object).is_none()
            } else {
                self.plan(object).is_none()
            };
            if self.stage != Stage::Over && !nothing {
                return;
            }
            self.at += 1;
            self.stage = Stage::Begun;
            self.lost = false;
        }
    }

    /// What comes next.
    #[must_use]
    pub fn next(&self) -> Next {
        let Some(object) = self.object() else { return Next::Done };
        let id = self.known.of(object).map(str::to_owned);
        if self.plans.erase {
            return id.map_or(Next::Done, |id| Next::Call(Call::Delete { object, id }));
        }
        let Some(plan) = self.plan(object) else { return Next::Done };
        let create =
            || Next::Call(Call::Create { object, body: self.body(object, plan.if_empty.iter().chain(&plan.always)) });
        match (&self.stage, id) {
            (Stage::Several(candidates), _) => Next::Several { object, candidates: candidates.clone() },
            (Stage::Begun, Some(id)) if plan.if_empty.is_empty() => {
                Next::Call(Call::Change { object, id, body: self.body(object, plan.always.iter()) })
            }
            (Stage::Begun, Some(id)) => Next::Call(Call::Read { object, id }),
            (Stage::Begun, None) => match &plan.find {
                Some(value) => Next::Call(Call::Find { object, value: value.clone() }),
                None => create(),
            },
            (Stage::Nobody, _) => create(),
            (Stage::Read(their), _) => {
                let empty = |name: &str| match their.properties.get(name) {
                    None | Some(Json::Null) => true,
                    Some(Json::String(text)) => text.trim().is_empty(),
                    Some(Json::Array(items)) => items.is_empty(),
                    Some(_) => false,
                };
                let differs = plan.always.iter().filter(|(name, value)| their.properties.get(*name) != Some(*value));
                let fills = plan.if_empty.iter().filter(|(name, _)| empty(name));
                let body = self.body(object, fills.chain(differs));
                Next::Call(Call::Change { object, id: their.id.clone(), body })
            }
            (Stage::Over, _) => Next::Done,
        }
    }

    fn body<'a>(&self, object: Holds, properties: impl Iterator<Item = (&'a String, &'a Json)>) -> Json {
        let properties: Map<String, Json> = properties.map(|(name, value)| (name.clone(), value.clone())).collect();
        let mut links = Map::new();
        for before in Holds::ALL.into_iter().take_while(|before| *before < object) {
            if let Some(id) = self.known.of(before).filter(|_| self.plan(before).is_some()) {
                links.insert(before.as_str().to_owned(), Json::String(id.to_owned()));
            }
        }
        if links.is_empty() {
            serde_json::json!({ "properties": properties })
        } else {
            serde_json::json!({ "properties": properties, "links": links })
        }
    }

    /// Takes what the last call was answered; gives an id that is to be kept, or forgotten.
    pub fn took(&mut self, answered: Answered) -> Option<Written> {
        let object = self.object()?;
        let before = self.known.of(object).map(str::to_owned);
        let mut written = None;
        if self.plans.erase {
            self.known.put(object, None);
            self.stage = Stage::Over;
            written = Some(Written { object, id: None, link: None });
        } else {
            match (&self.stage, answered) {
                (_, Answered::Found(mut found)) => match found.len() {
                    0 => self.stage = Stage::Nobody,
                    1 => self.stage = found.pop().map_or(Stage::Nobody, Stage::Read),
                    _ => self.stage = Stage::Several(found),
                },
                (Stage::Begun, Answered::Record(their)) if before.is_some() => self.stage = Stage::Read(their),
                (_, Answered::Record(their)) => {
                    self.known.put(object, Some(their.id.clone()));
                    written = Some(Written { object, id: Some(their.id), link: their.link });
                    self.stage = Stage::Over;
                }
                (_, Answered::Gone) => {
                    // Somebody took it out there. It is looked up once more; where it is gone again, it is made.
                    self.known.put(object, None);
                    self.stage = if self.lost { Stage::Nobody } else { Stage::Begun };
                    self.lost = true;
                    written = Some(Written { object, id: None, link: None });
                }
                (Stage::Read(their), Answered::Done) => {
                    let (id, link) = (their.id.clone(), their.link.clone());
                    self.known.put(object, Some(id.clone()));
                    written = Some(Written { object, id: Some(id), link });
                    self.stage = Stage::Over;
                }
                (_, Answered::Done) => self.stage = Stage::Over,
            }
        }
        self.skip();
        written
    }
}

#[cfg(test)]
#[path = "upsert_tests.rs"]
mod tests;
