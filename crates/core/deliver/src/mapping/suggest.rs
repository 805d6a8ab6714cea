//! Rules that suggest themselves: properties whose name or label is that of something a lead has, and that fits there.

use super::faults::{Ours, misfit};
use super::{Fact, Holds, MapFrom, MapRule, Mapping, Schema, Write};

/// Names by which properties go, in letters and digits alone. Common practice; from memory.
const NAMES: [(&str, Fact); 34] = [
    ("name", Fact::Name),
    ("fullname", Fact::Name),
    ("givenname", Fact::GivenName),
    ("firstname", Fact::GivenName),
    ("familyname", Fact::FamilyName),
    ("lastname", Fact::FamilyName),
    ("surname", Fact::FamilyName),
    ("email", Fact::Email),
    ("emailaddress", Fact::Email),
    ("phone", Fact::Phone),
    ("phonenumber", Fact::Phone),
    ("telephone", Fact::Phone),
    ("company", Fact::Company),
    ("companyname", Fact::Company),
    ("domain", Fact::Domain),
    ("subject", Fact::Wants),
    ("title", Fact::Wants),
    ("points", Fact::Points),
    ("score", Fact::Points),
    ("band", Fact::Band),
    ("rating", Fact::Band),
    ("status", Fact::Status),
    ("stage", Fact::Status),
    ("owner", Fact::Owner),
    ("queue", Fact::Queue),
    ("dialogue", Fact::Dialogue),
    ("filedat", Fact::FiledAt),
    ("created", Fact::FiledAt),
    ("link", Fact::Link),
    ("transcript", Fact::Transcript),
    ("conversation", Fact::Transcript),
    ("landingpage", Fact::FirstPage),
    ("referrer", Fact::Referrer),
    ("campaign", Fact::Campaign),
];

fn folded(text: &str) -> String {
    text.chars().filter(|char| char.is_alphanumeric()).flat_map(char::to_lowercase).collect()
}

/// A rule for each property that has none yet and goes by a name that is known here; only where it fits, options and
/// people aside, which are matched one by one.
#[must_use]
pub fn suggested(mapping: &Mapping, schema: &Schema, ours: &Ours) -> Vec<MapRule> {
    let mut out = Vec::new();
    for object in Holds::ALL {
        for property in schema.properties(object) {
            let mapped = mapping.rules.iter().any(|rule| rule.object == object && rule.property == property.name);
            if mapped || property.name == object.found_by() && object == Holds::Lead {
                continue;
            }
            let names = [folded(&property.name), folded(&property.label)];
            let fact = NAMES.iter().find(|(name, _)| names.iter().any(|known| known == name)).map(|(_, fact)| *fact);
            // A company's name is not the person's.
            let fact = if object == Holds::Company && fact == Some(Fact::Name) { Some(Fact::Company) } else { fact };
            let field = ours.fields.iter().find(|field| names.contains(&folded(&field.key)));
            let from = match (fact, field) {
                (Some(fact), _) => MapFrom::Fact(fact),
                (None, Some(field)) => MapFrom::Field(field.key.clone()),
                (None, None) => continue,
            };
            let (property_name, options) = (property.name.clone(), Default::default());
            let rule = MapRule { object, property: property_name, from, write: Write::Always, options };
            if !misfit(&rule, property, mapping, schema, ours).is_some_and(|what| what.is_other_kind()) {
                out.push(rule);
            }
        }
    }
    out
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::mapping::{ObjectSchema, Offered, Property, PropertyKind};
    use lumbo_value::FieldType;

    #[test]
    fn what_goes_by_a_known_name_and_fits_is_suggested() {
        let property = |name: &str, label: &str, kind| Property {
            name: name.into(),
            label: label.into(),
            kind,
            required: false,
            options: Vec::new(),
        };
        let lead = vec![
            property("external_id", "Id", PropertyKind::Text),
            property("p1", "E-mail address", PropertyKind::Text),
            property("Pallets", "How many", PropertyKind::Number),
            property("owner", "Owner", PropertyKind::Number),
            property("shoe", "Shoe size", PropertyKind::Number),
            property("score", "Score", PropertyKind::Number),
        ];
        let company = vec![property("name", "Name", PropertyKind::Text)];
        let schema = Schema {
            objects: vec![
                ObjectSchema { object: Holds::Company, properties: company },
                ObjectSchema { object: Holds::Lead, properties: lead },
            ],
            people: Vec::new(),
        };
        let pallets = Offered {
            key: "pallets".into(),
            kind: FieldType::Quantity,
            options: Vec::new(),
            dialogue: "Storage".into(),
            always: true,
        };
        let ours = Ours { fields: vec![pallets], ..Ours::default() };
        let taken = MapRule {
            object: Holds::Lead,
            property: "score".into(),
            from: MapFrom::Text("7".into()),
            write: Write::Always,
            options: Default::default(),
        };
        let mapping = Mapping { rules: vec![taken], ..Mapping::default() };
        let found: Vec<_> =
            suggested(&mapping, &schema, &ours).into_iter().map(|rule| (rule.property, rule.from)).collect();
        assert_eq!(
            found,
            [
                ("name".to_owned(), MapFrom::Fact(Fact::Company)),
                ("p1".to_owned(), MapFrom::Fact(Fact::Email)),
                ("Pallets".to_owned(), MapFrom::Field("pallets".into())),
            ],
            "an owner is no number, nobody has a shoe size, and the score is mapped"
        );
    }
}
