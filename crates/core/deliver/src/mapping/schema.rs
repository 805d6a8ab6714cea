//! What a customer system says that it holds.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// Most properties of an object.
const MOST: usize = 500;
/// Most people, and most options of a property.
const MOST_NAMED: usize = 2_000;
/// Longest name, characters.
const NAME: usize = 200;

/// Why a schema cannot be used.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum SchemaError {
    /// It is not the document it should be.
    #[error("the customer system’s schema cannot be read: {0}")]
    Unreadable(String),
    /// There is too much of something, or a name is none.
    #[error("the customer system’s schema is no good: {0}")]
    Unfit(&'static str),
}

/// What a record there is of.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Holds {
    /// A firm.
    Company,
    /// A person.
    Contact,
    /// A wish of theirs.
    Lead,
}

impl Holds {
    /// Every one, in the order in which they are written: each names those before it.
    pub const ALL: [Self; 3] = [Self::Company, Self::Contact, Self::Lead];

    /// Its name in the database.
    #[must_use]
    pub fn as_str(self) -> &'static str {
        match self {
            Self::Company => "company",
            Self::Contact => "contact",
            Self::Lead => "lead",
        }
    }

    /// Its part of an address.
    #[must_use]
    pub fn path(self) -> &'static str {
        match self {
            Self::Company => "companies",
            Self::Contact => "contacts",
            Self::Lead => "leads",
        }
    }

    /// The property that one is looked up by there.
    #[must_use]
    pub fn found_by(self) -> &'static str {
        match self {
            Self::Company => "domain",
            Self::Contact => "email",
            Self::Lead => "external_id",
        }
    }
}

/// What a property takes.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum PropertyKind {
    /// A line of text.
    Text,
    /// Several lines.
    LongText,
    /// A number.
    Number,
    /// True or false.
    Boolean,
    /// A day, `2026-11-24`.
    Date,
    /// A moment, RFC 3339.
    Moment,
    /// One of its options.
    Option,
    /// Some of its options.
    Options,
    /// One of its people, by id.
    Person,
}

/// A value that an option property takes.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct TheirOption {
    /// What is written.
    pub value: String,
    /// What people there see.
    pub label: String,
}

/// A property of an object there.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[schemars(rename = "CustomerProperty")]
pub struct Property {
    /// Its name in requests.
    pub name: String,
    /// What people there see.
    pub label: String,
    /// What it takes.
    #[serde(rename = "type")]
    pub kind: PropertyKind,
    /// True where a record cannot be made without it.
    #[serde(default)]
    pub required: bool,
    /// What it takes, where it takes options.
    #[serde(default)]
    pub options: Vec<TheirOption>,
}

/// Somebody who works there.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct TheirPerson {
    /// Id there.
    pub id: String,
    /// Name.
    pub name: String,
    /// Address; whoever has the same one here is the same person.
    #[serde(default)]
    pub email: String,
}

/// Properties of one object.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct ObjectSchema {
    /// Which.
    pub object: Holds,
    /// In its order.
    pub properties: Vec<Property>,
}

/// What a customer system holds.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[schemars(rename = "CustomerSchema")]
pub struct Schema {
    /// Objects with their properties.
    pub objects: Vec<ObjectSchema>,
    /// People who can own records.
    #[serde(default)]
    pub people: Vec<TheirPerson>,
}

impl Schema {
    /// Reads what `GET /schema` answered.
    ///
    /// # Errors
    /// [`SchemaError`], with what is wrong.
    pub fn read(text: &str) -> Result<Self, SchemaError> {
        let schema: Self = serde_json::from_str(text).map_err(|error| SchemaError::Unreadable(error.to_string()))?;
        let properties = || schema.objects.iter().flat_map(|object| &object.properties);
        if schema.objects.len() > Holds::ALL.len() || schema.objects.iter().any(|of| of.properties.len() > MOST) {
            return Err(SchemaError::Unfit("it has too many properties"));
        }
        if schema.people.len() > MOST_NAMED || properties().any(|property| property.options.len() > MOST_NAMED) {
            return Err(SchemaError::Unfit("it has too many people or options"));
        }
        let fits = |name: &str| !name.is_empty() && name.chars().count() <= NAME;
        if !properties().all(|property| fits(&property.name) && fits(&property.label)) {
            return Err(SchemaError::Unfit("a property has no name, or too long a one"));
        }
        Ok(schema)
    }

    /// A property.
    #[must_use]
    pub fn property(&self, object: Holds, name: &str) -> Option<&Property> {
        self.properties(object).find(|property| property.name == name)
    }

    /// The properties of an object.
    pub fn properties(&self, object: Holds) -> impl Iterator<Item = &Property> {
        self.objects.iter().filter(move |of| of.object == object).flat_map(|of| &of.properties)
    }
}

#[cfg(test)]
#[allow(clippy::unwrap_used, reason = "tests")]
mod tests {
    use super::*;

    #[test]
    fn a_schema_is_read_or_refused_with_a_reason() {
        let text = r#"{"objects": [{"object": "lead", "properties": [
            {"name": "rating", "label": "Rating", "type": "option", "options": [{"value": "A", "label": "A"}]}]}]}"#;
        let schema = Schema::read(text).unwrap();
        assert_eq!(schema.property(Holds::Lead, "rating").unwrap().kind, PropertyKind::Option);
        assert!(schema.property(Holds::Contact, "rating").is_none());
        assert!(matches!(Schema::read("<html>"), Err(SchemaError::Unreadable(_))));
        let nameless = text.replace("\"rating\"", "\"\"");
        assert!(matches!(Schema::read(&nameless), Err(SchemaError::Unfit(_))));
    }
}
