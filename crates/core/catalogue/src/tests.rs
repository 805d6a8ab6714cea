use proptest::prelude::*;
use serde_json::json;

use super::*;
use lumbo_dialogue::file::{Choice, FieldType, Rule, Text};
use lumbo_value::permits::{Channel, Permits, Purpose};

fn demo() -> Dialogue {
    lumbo_dialogue::file::load(include_str!("../../../../demo/storage-enquiry.json")).unwrap()
}

fn field(key: &str) -> Field {
    demo().fields.into_iter().find(|field| field.key == key).unwrap()
}

#[test]
fn the_demos_fields_are_sound() {
    let fields = demo().fields;
    for field in &fields {
        assert_eq!(faults(field, &fields), Vec::<String>::new(), "{}", field.key);
    }
}

#[test]
fn what_is_wrong_with_a_definition_is_said_with_what_to_do() {
    let plain = |kind| Field::plain("f_1".into(), "depot_size".into(), "Depot size".into(), kind);
    let wrong = |field: Field| faults(&field, &demo().fields).join(" | ");
    assert_eq!(wrong(plain(FieldType::Text)), "");
    assert!(wrong(Field { key: "Depot".into(), ..plain(FieldType::Text) }).contains("is not a key"));
    assert!(wrong(Field { key: "pallets".into(), ..plain(FieldType::Text) }).contains("taken by Pallets"));
    assert!(wrong(Field { label: "  ".into(), ..plain(FieldType::Text) }).contains("1 to 80"));
    assert!(wrong(plain(FieldType::Choice)).contains("needs options"));
    assert!(
        wrong(Field { options: field("temperature").options, ..plain(FieldType::Date) }).contains("has no options")
    );
    assert!(wrong(Field { rules: vec![Rule::FullName {}], ..plain(FieldType::Date) }).contains("does not fit"));
    assert!(wrong(Field { currency: Some("XYZ".into()), ..plain(FieldType::Money) }).contains("three-letter"));
    let permits = |channels: &[Channel]| Some(Permits { purpose: Purpose::Marketing, channels: channels.to_vec() });
    assert_eq!(wrong(Field { permits: permits(&[Channel::Mail]), ..plain(FieldType::Consent) }), "");
    assert!(wrong(Field { permits: permits(&[Channel::Mail]), ..plain(FieldType::Text) }).contains("only a consent"));
    assert!(wrong(Field { permits: permits(&[]), ..plain(FieldType::Consent) }).contains("at least one way"));
    let both = permits(&[Channel::Mail, Channel::Mail]);
    assert!(wrong(Field { permits: both, ..plain(FieldType::Consent) }).contains("stands twice"));
    let twice = json!([{"key": "a", "label": {"en": "A"}}, {"key": "a", "label": {"en": " "}}]);
    let said = wrong(Field { options: serde_json::from_value(twice).unwrap(), ..plain(FieldType::Choice) });
    assert!(said.contains("stands twice") && said.contains("no words"), "{said}");
}

#[test]
fn a_new_type_tells_every_place_it_breaks_and_a_new_label_breaks_nothing() {
    let dialogue = demo();
    let label = consequences(&dialogue, &Field { label: "How many pallets".into(), ..field("pallets") }).unwrap();
    assert!(label.breaks.is_empty() && label.mends == 0 && label.uses.len() > 3, "{label:?}");
    let key = consequences(&dialogue, &Field { key: "pallet_places".into(), ..field("pallets") }).unwrap();
    assert!(key.breaks.is_empty(), "references follow a key: {:?}", key.breaks);
    let kind =
        consequences(&dialogue, &Field { kind: FieldType::Text, rules: Vec::new(), unit: None, ..field("pallets") })
            .unwrap();
    assert!(
        kind.breaks.iter().any(|broken| broken.finding.at.starts_with("scoring/") && broken.place == "Scoring"),
        "{:?}",
        kind.breaks
    );
    let gone = field("temperature").options.into_iter().filter(|option| option.key != "frozen").collect();
    let option = consequences(&dialogue, &Field { options: gone, ..field("temperature") }).unwrap();
    assert!(
        option.breaks.iter().any(|broken| broken.finding.says.contains("frozen") && !broken.place.is_empty()),
        "{:?}",
        option.breaks
    );
    let other = Field::plain("f_other".into(), "other".into(), "Other".into(), FieldType::Text);
    assert_eq!(consequences(&dialogue, &other), None);
}

#[test]
fn a_dialogue_from_elsewhere_takes_on_the_catalogue() {
    let mut dialogue = demo();
    let pallets = Field { key: "places".into(), label: "Pallet places".into(), ..field("pallets") };
    let mut name = field("name");
    name.id = "f_catalogue_name".into();
    let role = Field { id: "f_else".into(), kind: FieldType::Text, options: Vec::new(), ..field("role") };
    let email = Field { kind: FieldType::Text, rules: Vec::new(), key: "mail_text".into(), ..field("email") };
    let before = check(&dialogue);
    let catalogue = [pallets.clone(), name.clone(), role, email.clone()];
    take_on(&mut dialogue, &catalogue);
    let has = |id: &str| dialogue.fields.iter().find(|field| field.id == id);
    assert_eq!(
        has(&pallets.id),
        Some(&pallets),
        "a known id takes the catalogue's definition, and references follow its key"
    );
    assert!(has("f_catalogue_name").is_some(), "a known key that is alike becomes the catalogue's");
    assert!(
        dialogue.fields.iter().any(|field| field.key == "role_2"),
        "a known key of another type gets a key of its own"
    );
    assert!(has(&email.id).is_none(), "a known id of another type gets an id of its own");
    assert_eq!(check(&dialogue).len(), before.len());
    let twice = dialogue.clone();
    take_on(&mut dialogue, &catalogue);
    assert_eq!(dialogue.fields.iter().filter(|field| field.key.starts_with("role")).count(), 1);
    assert_eq!(twice.fields.len(), dialogue.fields.len());
}

fn rows(text: &str, known: &[Field]) -> Vec<Result<Field, String>> {
    from_csv(text, known).unwrap().into_iter().map(|row| row.field.map_err(|wrong| wrong.join(" | "))).collect()
}

#[test]
fn the_demos_catalogue_reads_back_from_csv() {
    let fields = demo().fields;
    let written = to_csv(&fields);
    assert!(written.starts_with("id,key,label,type,options"));
    assert_eq!(rows(&written, &[]), fields.iter().cloned().map(Ok).collect::<Vec<_>>());
    assert_eq!(rows(&written, &fields), fields.into_iter().map(Ok).collect::<Vec<_>>());
}

#[test]
fn a_short_file_makes_fields_and_changes_known_ones() {
    let known = [field("pallets")];
    let text = "\u{feff}Key;Label;Type;Options;Personal\r\npallets;Pallet \
        places;quantity;;\r\n\r\ndepot;Depot;choice;Aldermoor; no\r\nwho;Who;Person name;;yes";
    let read = rows(text, &known);
    assert_eq!(read[0].as_ref().unwrap().id, known[0].id);
    assert!(read[1].as_ref().unwrap().options.iter().map(|option| option.key.as_str()).eq(["aldermoor"]));
    assert_eq!((read[2].as_ref().unwrap().id.as_str(), read[2].as_ref().unwrap().personal), ("fld_who", true));
    let comma = "key,label,type,options\nsize,Size,choice,\"s=Small; l=Large\"\nsize,Size,text,\n";
    let read = rows(comma, &[]);
    assert_eq!(read[0].as_ref().unwrap().options[1].label, Text::new("en", "Large"));
    assert!(read[1].as_ref().unwrap_err().contains("earlier line"));
}

#[test]
fn what_is_wrong_with_a_file_or_a_line_is_said() {
    assert_eq!(from_csv("key,label\n", &[]).unwrap_err(), CsvError::NoColumn("type"));
    assert_eq!(from_csv("key,label,type,colour\n", &[]).unwrap_err(), CsvError::UnknownColumn("colour".into()));
    assert_eq!(from_csv(&"x".repeat(CSV_LIMIT + 1), &[]).unwrap_err(), CsvError::TooLarge);
    let line =
        |rest: &str| rows(&format!("key,label,type,options,personal,record,rules\n{rest}"), &[]).remove(0).unwrap_err();
    assert!(line("a,A,colour,,,,").contains("the types are text, long_text"));
    assert!(line("A b,A,text,,,,").contains("is not a key"));
    assert!(line("a,A,text,,perhaps,,").contains("yes or no"));
    assert!(line("a,A,text,,,deal,").contains("lead, contact or company"));
    assert!(line("a,A,text,,,,nonsense").contains("the rules"));
    assert!(line("a,A,choice,[nonsense,,,").contains("the options"));
}

#[test]
fn what_a_consent_permits_goes_through_a_file_and_back() {
    let permits = Some(Permits { purpose: Purpose::Marketing, channels: vec![Channel::Mail, Channel::Text] });
    let news = Field::plain("f_news".into(), "news".into(), "News".into(), FieldType::Consent);
    let fields = [Field { permits, ..news }];
    let written = to_csv(&fields);
    assert!(written.contains("marketing: mail text"), "{written}");
    assert_eq!(rows(&written, &[]), fields.into_iter().map(Ok).collect::<Vec<_>>());
    let wrong = rows("key,label,type,permits\nnews,News,consent,everything\n", &[]).remove(0).unwrap_err();
    assert!(wrong.contains("marketing: mail text"), "{wrong}");
}

#[test]
fn cells_that_could_be_formulas_are_defused_and_read_back() {
    let note = Some("=HYPERLINK(\"https://rival.example\")".to_owned());
    let fields = [Field { note, ..Field::plain("f_a".into(), "a".into(), "'+1".into(), FieldType::Text) }];
    let written = to_csv(&fields);
    assert!(written.contains("'=HYPERLINK") && written.contains("''+1"), "{written}");
    assert_eq!(rows(&written, &[]), fields.into_iter().map(Ok).collect::<Vec<_>>());
}

proptest! {
    #[test]
    fn any_label_and_option_words_read_back(
        label in "[ -~äß“”\n\t]{1,40}",
        words in "[ -~äß“”\n;=]{1,30}",
        note in "[ -~\n'=+@-]{0,40}",
    ) {
        prop_assume!(!label.trim().is_empty() && !words.trim().is_empty());
        let (label, note) = (label.trim().to_owned(), note.trim().to_owned());
        let mut field = Field::plain("f_a".into(), "a".into(), label, FieldType::Choice);
        let label = Text::new("de", words);
        field.options = vec![Choice { key: "o".into(), label, also: Vec::new(), hint: None, picture: None }];
        field.note = Some(note).filter(|note| !note.is_empty());
        let written = to_csv(std::slice::from_ref(&field));
        prop_assert_eq!(rows(&written, &[]), vec![Ok(field)]);
    }

    #[test]
    fn nothing_read_as_csv_panics(text in "(key|label|type|options|,|;|\n|\"|=|'|[a-zé]){0,60}") {
        let _ = from_csv(&text, &[]);
        let _ = from_csv(&format!("key,label,type,options,rules\n{text}"), &[]);
    }
}
