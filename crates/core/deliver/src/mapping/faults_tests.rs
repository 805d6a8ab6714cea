use super::*;
use crate::mapping::{ObjectSchema, TheirOption, TheirPerson, Write};

fn schema() -> Schema {
    let property = |name: &str, kind, required, options: &[&str]| Property {
        name: name.into(),
        label: name.into(),
        kind,
        required,
        options: options.iter().map(|value| TheirOption { value: (*value).into(), label: (*value).into() }).collect(),
    };
    let lead = vec![
        property("external_id", PropertyKind::Text, true, &[]),
        property("title", PropertyKind::Text, true, &[]),
        property("volume", PropertyKind::Number, true, &[]),
        property("rating", PropertyKind::Option, false, &["Hot", "B"]),
        property("owner", PropertyKind::Person, false, &[]),
    ];
    let contact =
        vec![property("email", PropertyKind::Text, true, &[]), property("phone", PropertyKind::Text, true, &[])];
    Schema {
        objects: vec![
            ObjectSchema { object: Holds::Contact, properties: contact },
            ObjectSchema { object: Holds::Lead, properties: lead },
        ],
        people: vec![TheirPerson { id: "u1".into(), name: "Maren".into(), email: "maren@winterlode.example".into() }],
    }
}

fn ours() -> Ours {
    let offered = |key: &str, kind, dialogue: &str, always| Offered {
        key: key.into(),
        kind,
        options: Vec::new(),
        dialogue: dialogue.into(),
        always,
    };
    Ours {
        dialogues: vec!["Storage".into(), "Haulage".into()],
        fields: vec![
            offered("pallets", FieldType::Quantity, "Storage", true),
            offered("pallets", FieldType::Quantity, "Haulage", false),
            offered("email", FieldType::Email, "Storage", true),
            offered("email", FieldType::Email, "Haulage", true),
            offered("note", FieldType::LongText, "Storage", true),
        ],
        bands: vec!["Hot".into(), "Warm".into()],
        statuses: vec!["new".into(), "won".into()],
        people: vec!["maren@winterlode.example".into(), "ida@winterlode.example".into()],
    }
}

fn faults(rules: &[(Holds, &str, MapFrom)]) -> Vec<(String, MappingFaultKind)> {
    let rules = rules.iter().map(|(object, property, from)| MapRule {
        object: *object,
        property: (*property).into(),
        from: from.clone(),
        write: Write::Always,
        options: Default::default(),
    });
    let mapping = Mapping { rules: rules.collect(), ..Mapping::default() };
    mapping_faults(&mapping, &schema(), &ours()).into_iter().map(|fault| (fault.property, fault.what)).collect()
}

#[test]
fn what_is_required_there_is_written_on_every_way_or_named() {
    let nothing = |name: &str| (name.to_owned(), MappingFaultKind::NothingWritten);
    assert_eq!(faults(&[]), [nothing("title"), nothing("volume")], "contacts are not mapped at all");
    let pallets = MapFrom::Field("pallets".into());
    let title = MapFrom::Text("Enquiry".into());
    assert_eq!(
        faults(&[(Holds::Lead, "title", title.clone()), (Holds::Lead, "volume", pallets.clone())]),
        [("volume".to_owned(), MappingFaultKind::CanBeMissing(vec!["Haulage".into()]))]
    );
    let contact = faults(&[
        (Holds::Lead, "title", title),
        (Holds::Lead, "volume", pallets),
        (Holds::Contact, "email", MapFrom::Fact(Fact::Email)),
    ]);
    assert_eq!(contact[0], nothing("phone"), "a contact that is made needs a phone there");
    assert_eq!(contact.len(), 2, "the address is asked for on every way of both");
}

#[test]
fn what_does_not_fit_is_named() {
    let of = |property: &str, from: MapFrom| {
        let all = faults(&[(Holds::Lead, property, from)]);
        all.into_iter()
            .filter(|(name, what)| name == property && *what != MappingFaultKind::NothingWritten)
            .map(|(_, what)| what)
            .collect::<Vec<_>>()
    };
    assert_eq!(of("volume", MapFrom::Field("note".into())), [MappingFaultKind::OtherKind]);
    assert_eq!(of("volume", MapFrom::Field("gone".into())), [MappingFaultKind::NoField("gone".into())]);
    assert_eq!(of("rating", MapFrom::Fact(Fact::Band)), [MappingFaultKind::NoOptions(vec!["Warm".into()])]);
    assert_eq!(
        of("rating", MapFrom::Fact(Fact::Status)),
        [MappingFaultKind::NoOptions(vec!["new".into(), "won".into()])]
    );
    assert_eq!(of("rating", MapFrom::Fact(Fact::Transcript)), [MappingFaultKind::OtherKind]);
    assert_eq!(
        of("owner", MapFrom::Fact(Fact::Owner)),
        [MappingFaultKind::NoPeople(vec!["ida@winterlode.example".into()])]
    );
    assert_eq!(of("owner", MapFrom::Text("u1".into())), [MappingFaultKind::OtherKind]);
    assert_eq!(of("gone", MapFrom::Text("x".into())), [MappingFaultKind::NoProperty]);
    let twice =
        faults(&[(Holds::Lead, "title", MapFrom::Text("a".into())), (Holds::Lead, "title", MapFrom::Text("b".into()))]);
    assert_eq!(twice[0], ("title".to_owned(), MappingFaultKind::Twice));
}
