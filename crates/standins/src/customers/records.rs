//! What the customer system holds, and what it refuses.

use std::collections::{BTreeMap, VecDeque};
use std::path::PathBuf;

use axum::http::StatusCode;
use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use serde_json::{Map, Value as Json, json};

use crate::faults::Faults;

/// The token it takes until another one is set.
const TOKEN: &str = "let-me-in";
/// Most records and most lines of the log.
const MOST: usize = 20_000;
const MOST_LINES: usize = 200;

/// What a request asks for: properties, and what a record belongs to.
type Asked = (Map<String, Json>, Map<String, Json>);

/// Why a request is refused.
pub(super) type Refusal = (StatusCode, String);

/// A record.
#[derive(Debug, Clone, Serialize, Deserialize)]
pub(super) struct Record {
    /// Its id.
    pub(super) id: String,
    /// What stands on it.
    pub(super) properties: Map<String, Json>,
    /// What it belongs to, by id.
    #[serde(default)]
    pub(super) links: Map<String, Json>,
}

/// A call that came in.
#[derive(Debug, Clone)]
pub(super) struct Line {
    pub(super) at: Timestamp,
    pub(super) call: String,
    pub(super) answered: u16,
}

/// What is kept in the file.
#[derive(Debug, Default, Serialize, Deserialize)]
struct Kept {
    next: u64,
    records: BTreeMap<String, Vec<Record>>,
    /// What was made under which key.
    made: BTreeMap<String, String>,
}

/// Everything.
pub(super) struct Records {
    kept: Kept,
    file: Option<PathBuf>,
    /// Where people see it.
    here: String,
    pub(super) schema: Json,
    pub(super) faults: Faults,
    pub(super) token: String,
    pub(super) log: VecDeque<Line>,
}

const OBJECTS: [(&str, &str); 3] = [("companies", "company"), ("contacts", "contact"), ("leads", "lead")];

impl Records {
    pub(super) fn read(file: Option<PathBuf>, here: &str) -> Self {
        let text = file.as_ref().and_then(|file| std::fs::read_to_string(file).ok()).unwrap_or_default();
        Self {
            kept: serde_json::from_str(&text).unwrap_or_default(),
            file,
            here: here.to_owned(),
            schema: serde_json::from_str(include_str!("../../site/customers.json")).unwrap_or_default(),
            faults: Faults::default(),
            token: TOKEN.to_owned(),
            log: VecDeque::new(),
        }
    }

    fn keep(&self) {
        if let (Some(file), Ok(text)) = (&self.file, serde_json::to_string(&self.kept))
            && let Err(error) = std::fs::write(file, text)
        {
            eprintln!("the customer system could not keep its records: {error}");
        }
    }

    pub(super) fn note(&mut self, line: Line) {
        self.log.truncate(MOST_LINES - 1);
        self.log.push_front(line);
    }

    pub(super) fn clear(&mut self) {
        self.kept = Kept::default();
        self.log.clear();
        self.keep();
    }

    pub(super) fn of(&self, objects: &str) -> &[Record] {
        self.kept.records.get(objects).map(Vec::as_slice).unwrap_or_default()
    }

    pub(super) fn all(&self) -> Json {
        let of = |objects: &str| self.of(objects).iter().map(|record| self.shown(objects, record)).collect::<Vec<_>>();
        json!({ "companies": of("companies"), "contacts": of("contacts"), "leads": of("leads") })
    }

    fn known(objects: &str) -> Result<&'static str, Refusal> {
        let named = OBJECTS.into_iter().find(|(many, _)| *many == objects);
        named.map(|(_, one)| one).ok_or((StatusCode::NOT_FOUND, format!("there are no {objects} here")))
    }

    fn place(&self, objects: &str, id: &str) -> Result<usize, Refusal> {
        Self::known(objects)?;
        let place = self.of(objects).iter().position(|record| record.id == id);
        place.ok_or((StatusCode::NOT_FOUND, format!("there is no {objects}/{id} here")))
    }

    fn shown(&self, objects: &str, record: &Record) -> Json {
        json!({
            "id": record.id, "link": format!("{}/customers#{objects}-{}", self.here, record.id),
            "properties": record.properties, "links": record.links,
        })
    }

    pub(super) fn find(&self, objects: &str, wanted: &[(String, String)]) -> Result<Vec<Json>, Refusal> {
        Self::known(objects)?;
        let is = |record: &&Record| {
            wanted.iter().all(|(name, value)| {
                let has = record.properties.get(name).and_then(Json::as_str);
                has.is_some_and(|has| has.eq_ignore_ascii_case(value))
            })
        };
        Ok(self.of(objects).iter().filter(is).take(20).map(|record| self.shown(objects, record)).collect())
    }

    pub(super) fn read_one(&self, objects: &str, id: &str) -> Result<Json, Refusal> {
        let place = self.place(objects, id)?;
        Ok(self.shown(objects, &self.of(objects)[place]))
    }

    pub(super) fn make(&mut self, objects: &str, key: &str, body: &str) -> Result<Json, Refusal> {
        let one = Self::known(objects)?;
        if let Some(id) = self.kept.made.get(key).filter(|_| !key.is_empty()).cloned()
            && let Ok(made) = self.read_one(objects, &id)
        {
            return Ok(made);
        }
        let (properties, links) = self.asked(one, body)?;
        let lacks = self.properties(one).find(|property| {
            property["required"] == true && !properties.contains_key(property["name"].as_str().unwrap_or_default())
        });
        if let Some(lacks) = lacks {
            return Err((StatusCode::UNPROCESSABLE_ENTITY, format!("{} is required", lacks["label"])));
        }
        if self.of(objects).len() >= MOST {
            return Err((StatusCode::INSUFFICIENT_STORAGE, "it is full".into()));
        }
        self.kept.next += 1;
        let record = Record { id: (1_000 + self.kept.next).to_string(), properties, links };
        let shown = self.shown(objects, &record);
        if !key.is_empty() {
            self.kept.made.insert(key.to_owned(), record.id.clone());
        }
        self.kept.records.entry(objects.to_owned()).or_default().push(record);
        self.keep();
        Ok(shown)
    }

    pub(super) fn change(&mut self, objects: &str, id: &str, body: &str) -> Result<Json, Refusal> {
        let one = Self::known(objects)?;
        let place = self.place(objects, id)?;
        let (properties, links) = self.asked(one, body)?;
        if let Some(record) = self.kept.records.get_mut(objects).and_then(|records| records.get_mut(place)) {
            record.properties.extend(properties);
            record.links.extend(links);
        }
        self.keep();
        self.read_one(objects, id)
    }

    pub(super) fn remove(&mut self, objects: &str, id: &str) -> Result<(), Refusal> {
        let place = self.place(objects, id)?;
        if let Some(records) = self.kept.records.get_mut(objects) {
            records.remove(place);
        }
        self.keep();
        Ok(())
    }

    fn properties(&self, one: &str) -> impl Iterator<Item = &Json> {
        let objects = self.schema["objects"].as_array().map(Vec::as_slice).unwrap_or_default();
        let object = objects.iter().find(move |object| object["object"] == one);
        object.and_then(|object| object["properties"].as_array()).into_iter().flatten()
    }

    /// What a body asks for, where everything in it is something that there is.
    fn asked(&self, one: &str, body: &str) -> Result<Asked, Refusal> {
        let bad = |says: String| (StatusCode::UNPROCESSABLE_ENTITY, says);
        let mut body: Json = serde_json::from_str(body).map_err(|error| bad(error.to_string()))?;
        let mut take = |part: &str| match body.get_mut(part).map(Json::take) {
            Some(Json::Object(map)) => map,
            _ => Map::new(),
        };
        let (properties, links) = (take("properties"), take("links"));
        for (name, value) in &properties {
            let Some(property) = self.properties(one).find(|property| property["name"] == *name) else {
                return Err(bad(format!("{one} has no property {name}")));
            };
            let options: Vec<&Json> =
                property["options"].as_array().into_iter().flatten().map(|option| &option["value"]).collect();
            let fits = match property["type"].as_str().unwrap_or_default() {
                "number" => value.is_number(),
                "boolean" => value.is_boolean(),
                "option" => options.contains(&value),
                "options" => value.as_array().is_some_and(|values| values.iter().all(|value| options.contains(&value))),
                "person" => self.schema["people"].as_array().into_iter().flatten().any(|person| person["id"] == *value),
                _ => value.is_string(),
            };
            if !fits {
                return Err(bad(format!("{value} is nothing that {name} takes")));
            }
        }
        Ok((properties, links))
    }
}

#[cfg(test)]
#[allow(clippy::unwrap_used, reason = "tests")]
mod tests {
    use super::*;

    #[test]
    fn it_refuses_what_its_schema_does_not_know_and_makes_nothing_twice() {
        let mut there = Records::read(None, "http://there.example");
        let lacks = there.make("contacts", "", r#"{"properties": {"email": "a@b.example"}}"#).unwrap_err();
        assert_eq!(lacks.0, StatusCode::UNPROCESSABLE_ENTITY);
        let unknown = r#"{"properties": {"family_name": "Ruiz", "shoe": 41}}"#;
        assert!(there.make("contacts", "", unknown).unwrap_err().1.contains("shoe"));
        let good = r#"{"properties": {"family_name": "Ruiz", "email": "A@b.example"}, "links": {"company": "7"}}"#;
        let made = there.make("contacts", "k1", good).unwrap();
        assert_eq!(there.make("contacts", "k1", good).unwrap(), made, "one key, one record");
        let found = there.find("contacts", &[("email".into(), "a@B.example".into())]).unwrap();
        assert_eq!((found.len(), &found[0]), (1, &made));
        let id = made["id"].as_str().unwrap();
        let changed = there.change("contacts", id, r#"{"properties": {"given_name": "Ana"}}"#).unwrap();
        assert_eq!(changed["properties"]["family_name"], "Ruiz");
        there.remove("contacts", id).unwrap();
        assert_eq!(there.read_one("contacts", id).unwrap_err().0, StatusCode::NOT_FOUND);
        assert!(there.find("ships", &[]).is_err());
    }
}
