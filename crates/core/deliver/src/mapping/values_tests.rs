use serde_json::json;

use super::*;
use crate::mapping::{ObjectSchema, Property, TheirOption, TheirPerson};
use crate::webhook::{Came, Owner, Said, Score};

fn property(name: &str, kind: PropertyKind, options: &[&str]) -> Property {
    Property {
        name: name.into(),
        label: name.to_uppercase(),
        kind,
        required: false,
        options: options
            .iter()
            .map(|value| TheirOption { value: (*value).into(), label: format!("The {value}") })
            .collect(),
    }
}

fn schema() -> Schema {
    let lead = vec![
        property("text", PropertyKind::Text, &[]),
        property("number", PropertyKind::Number, &[]),
        property("yes", PropertyKind::Boolean, &[]),
        property("day", PropertyKind::Date, &[]),
        property("moment", PropertyKind::Moment, &[]),
        property("rating", PropertyKind::Option, &["A", "B"]),
        property("needs", PropertyKind::Options, &["chilled", "frozen"]),
        property("owner", PropertyKind::Person, &[]),
    ];
    let contact = vec![property("email", PropertyKind::Text, &[]), property("source", PropertyKind::Text, &[])];
    let company = vec![property("name", PropertyKind::Text, &[])];
    Schema {
        objects: vec![
            ObjectSchema { object: Holds::Company, properties: company },
            ObjectSchema { object: Holds::Contact, properties: contact },
            ObjectSchema { object: Holds::Lead, properties: lead },
        ],
        people: vec![TheirPerson { id: "u7".into(), name: "Maren".into(), email: "Maren@Winterlode.example".into() }],
    }
}

fn field(key: &str, kind: FieldType, value: Json, shown: &str) -> FieldFact {
    FieldFact { key: key.into(), kind, value, shown: shown.into() }
}

fn lead() -> LeadFacts {
    LeadFacts {
        data: LeadData {
            id: "l1".into(),
            name: Some("Ana Ruiz".into()),
            email: Some("ana@heron.example".into()),
            domain: Some("heron.example".into()),
            company: Some("Heron Foods".into()),
            status: "new".into(),
            filed_at: "2026-11-24T10:00:00Z".into(),
            score: Some(Score { total: 82, band: Some("Hot".into()) }),
            owner: Some(Owner { name: "Maren Holt".into(), email: "maren@winterlode.example".into() }),
            transcript: vec![
                Said { who: "dialogue".into(), text: "What do you need?".into() },
                Said { who: "prospect".into(), text: "40 pallets,\nfrozen".into() },
            ],
            came: Came { page: Some("https://winterlode.example/prices".into()), ..Came::default() },
            ..LeadData::default()
        },
        fields: vec![
            field("pallets", FieldType::Quantity, json!({"amount": "40.5", "unit": "pallet"}), "40.5 pallets"),
            field("sites", FieldType::WholeNumber, json!("3"), "3"),
            field("frozen", FieldType::YesNo, json!(false), "no"),
            field("start", FieldType::Date, json!({"date": "2026-12-01", "precision": "day"}), "1 December 2026"),
            field("about", FieldType::Date, json!({"date": "2026-12-01", "precision": "month"}), "December 2026"),
            field("temperature", FieldType::Choice, json!("deep"), "Deep frozen"),
            field("needs", FieldType::Choices, json!(["frozen", "chilled"]), "frozen and chilled"),
        ],
        names: Some(("Ana".into(), "Ruiz".into())),
    }
}

fn one(property: &str, from: MapFrom) -> MapRule {
    MapRule { object: Holds::Lead, property: property.into(), from, write: Write::Always, options: Default::default() }
}

fn gives(rule: &MapRule) -> Carried {
    carried(rule, &Mapping::default(), Some(&schema()), &lead())
}

fn answer(key: &str) -> MapFrom {
    MapFrom::Field(key.into())
}

#[test]
fn a_value_goes_as_what_the_property_takes() {
    for (property, from, value) in [
        ("text", answer("pallets"), json!("40.5 pallets")),
        ("text", answer("temperature"), json!("Deep frozen")),
        ("number", answer("pallets"), json!(40.5)),
        ("number", answer("sites"), json!(3)),
        ("number", MapFrom::Fact(Fact::Points), json!(82)),
        ("yes", answer("frozen"), json!(false)),
        ("day", answer("start"), json!("2026-12-01")),
        ("day", MapFrom::Fact(Fact::FiledAt), json!("2026-11-24")),
        ("moment", MapFrom::Fact(Fact::FiledAt), json!("2026-11-24T10:00:00Z")),
        ("needs", answer("needs"), json!(["frozen", "chilled"])),
        ("owner", MapFrom::Fact(Fact::Owner), json!("u7")),
        ("text", MapFrom::Fact(Fact::Transcript), json!("– What do you need?\n> 40 pallets,\nfrozen")),
        ("text", MapFrom::Text("Website".into()), json!("Website")),
    ] {
        assert_eq!(gives(&one(property, from.clone())), Carried::Value(value), "{property} from {from:?}");
    }
}

#[test]
fn what_is_missing_is_left_out_and_what_does_not_fit_says_why() {
    assert_eq!(gives(&one("text", answer("budget"))), Carried::Missing);
    assert_eq!(gives(&one("text", MapFrom::Fact(Fact::Phone))), Carried::Missing);
    assert_eq!(gives(&one("text", MapFrom::Text("  ".into()))), Carried::Missing);
    assert_eq!(gives(&one("day", answer("about"))), Carried::Lost(Lost::OtherKind), "a month is no day");
    assert_eq!(gives(&one("number", answer("temperature"))), Carried::Lost(Lost::OtherKind));
    assert_eq!(gives(&one("needs", answer("temperature"))), Carried::Lost(Lost::NoOption("deep".into())));
    let mut owner = lead();
    owner.data.owner = Some(Owner { name: "Ida".into(), email: "ida@winterlode.example".into() });
    let rule = one("owner", MapFrom::Fact(Fact::Owner));
    let lost = carried(&rule, &Mapping::default(), Some(&schema()), &owner);
    assert_eq!(lost, Carried::Lost(Lost::NoPerson("Ida".into())));
    let mapping = Mapping { people: [("ida@winterlode.example".into(), "u7".into())].into(), ..Mapping::default() };
    assert_eq!(carried(&rule, &mapping, Some(&schema()), &owner), Carried::Value(json!("u7")));
}

#[test]
fn options_go_by_their_counterparts_or_by_their_own_name_there() {
    let mut rule = one("rating", MapFrom::Fact(Fact::Band));
    assert_eq!(gives(&rule), Carried::Lost(Lost::NoOption("Hot".into())));
    rule.options.insert("Hot".into(), "A".into());
    assert_eq!(gives(&rule), Carried::Value(json!("A")));
    rule.options.insert("Hot".into(), "The B".into());
    assert_eq!(gives(&rule), Carried::Value(json!("B")), "people map by what they see");
}

#[test]
fn a_lead_becomes_records_with_what_each_is_found_by() {
    let rules = [
        ("name", Holds::Company, MapFrom::Fact(Fact::Company), Write::IfEmpty),
        ("email", Holds::Contact, MapFrom::Fact(Fact::Email), Write::Always),
        ("source", Holds::Contact, MapFrom::Text("Website".into()), Write::IfEmpty),
        ("number", Holds::Lead, answer("pallets"), Write::Always),
        ("text", Holds::Lead, answer("budget"), Write::Always),
    ]
    .map(|(property, object, from, write)| MapRule {
        object,
        property: property.into(),
        from,
        write,
        options: Default::default(),
    });
    let plans = upserts(&Mapping { rules: rules.into(), ..Mapping::default() }, &schema(), &lead());
    assert_eq!(
        serde_json::to_value(&plans).unwrap(),
        json!({
            "company": {"find": "heron.example", "if_empty": {"name": "Heron Foods"}},
            "contact": {"find": "ana@heron.example", "always": {"email": "ana@heron.example"},
                "if_empty": {"source": "Website"}},
            "lead": {"find": "l1", "always": {"number": 40.5, "external_id": "l1"}}
        })
    );
    assert_eq!(serde_json::from_value::<RecordPlans>(serde_json::to_value(&plans).unwrap()).unwrap(), plans);
    let mut alone = lead();
    (alone.data.company, alone.data.domain) = (None, None);
    let rules = vec![one("text", answer("sites"))];
    let plans = upserts(&Mapping { rules, ..Mapping::default() }, &schema(), &alone);
    assert!(plans.company.is_none() && plans.contact.is_none(), "nothing is mapped to them");
}

#[test]
fn a_row_of_a_sheet_has_its_columns_in_order_and_no_empty_cells() {
    let rules = vec![
        one("Who", MapFrom::Fact(Fact::Name)),
        one("Pallets", answer("pallets")),
        one("Sites", answer("sites")),
        one("Budget", answer("budget")),
        one("Points", MapFrom::Fact(Fact::Points)),
        one("Owner", MapFrom::Fact(Fact::Owner)),
    ];
    let row = row(&Mapping { rules, ..Mapping::default() }, &lead());
    assert_eq!(
        row,
        json!({"columns": ["Who", "Pallets", "Sites", "Budget", "Points", "Owner"], "values":
            {"Who": "Ana Ruiz", "Pallets": "40.5 pallets", "Sites": 3, "Points": 82, "Owner": "Maren Holt"}})
    );
}
