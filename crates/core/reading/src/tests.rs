//! Every listed word reads as what it is listed for: data of the languages against the readers that use it.

use lumbo_value::{Field, FieldType};

use super::*;
use lumbo_language::{FILES, LANGUAGES};
use lumbo_value::Precision;

fn reader(kind: FieldType, language: &str) -> Reader {
    reader_of(kind, language, serde_json::json!({}))
}

fn reader_of(kind: FieldType, language: &str, more: serde_json::Value) -> Reader {
    let mut json = serde_json::json!({"id": "f", "key": "f", "label": "F", "type": kind});
    json.as_object_mut().unwrap().extend(more.as_object().unwrap().clone());
    let field: Field = serde_json::from_value(json).unwrap();
    Reader::new(ReaderSpec::of(&field, language)).unwrap()
}

fn context() -> ReadContext<'static> {
    ReadContext { today: Some(jiff::civil::date(2026, 11, 23)), ..ReadContext::default() }
}

/// What a reply is worth: its value, or the key of what failed.
fn worth(reader: &Reader, raw: &str) -> String {
    match reader.read(raw, context(), 0) {
        Reading::Value { value, .. } => value.to_string(),
        Reading::Declined => "declined".into(),
        Reading::Tie(_) => "tie".into(),
        Reading::Failed { failed, .. } => failed.join(","),
    }
}

/// A language as its file has it.
fn file(language: &str) -> serde_json::Value {
    let place = LANGUAGES.iter().position(|known| *known == language).unwrap();
    serde_json::from_str(FILES[place]).unwrap()
}

/// A list of a language, as its file has it.
fn listed(language: &str, path: &[&str]) -> Vec<String> {
    let file = file(language);
    let list = path.iter().fold(&file, |value, key| &value[*key]);
    list.as_array().unwrap().iter().map(|word| word.as_str().unwrap().to_owned()).collect()
}

/// Each listed word put into a sentence, with what it should come to; names every one that does not.
fn each(path: &[&str], allowed: &[(&str, &str)], check: impl Fn(&str, &str) -> Option<String>) {
    let mut wrong = Vec::new();
    for language in LANGUAGES {
        for word in listed(language, path) {
            if !allowed.contains(&(language, word.as_str()))
                && let Some(found) = check(language, &word)
            {
                wrong.push(format!("{language} {word:?}: {found}"));
            }
        }
    }
    assert!(wrong.is_empty(), "{}: {wrong:#?}", path.join("."));
}

#[test]
fn every_listed_yes_is_a_yes_and_every_no_a_no() {
    let is = |wanted: &'static str| {
        move |language: &str, word: &str| {
            let found = worth(&reader(FieldType::YesNo, language), word);
            (found != wanted).then_some(found)
        }
    };
    each(&["yes"], &[], is("yes"));
    // Polish "no" says yes among friends and no to an English ear.
    each(&["no"], &[("pl", "no")], is("no"));
}

#[test]
fn a_hedge_beside_a_plain_yes_or_no_changes_nothing_of_it() {
    each(&["hedges"], &[], |language, hedge| {
        let reader = reader(FieldType::YesNo, language);
        let (yes, no) = (listed(language, &["plain_yes"]), listed(language, &["plain_no"]));
        let wrong = |word: &str, wanted: &str| {
            let found = worth(&reader, &format!("{hedge} {word}"));
            (found != wanted).then(|| format!("{hedge} {word}: {found}"))
        };
        yes.iter().find_map(|word| wrong(word, "yes")).or_else(|| no.iter().find_map(|word| wrong(word, "no")))
    });
}

#[test]
fn every_listed_way_to_decline_declines_every_type_that_may_be_declined() {
    for kind in [
        FieldType::Email,
        FieldType::Phone,
        FieldType::WholeNumber,
        FieldType::Date,
        FieldType::Money,
        FieldType::Company,
        FieldType::PersonName,
    ] {
        each(&["declined"], &[], |language, word| {
            let found = worth(&reader_of(kind, language, serde_json::json!({"currency": "EUR"})), word);
            (found != "declined").then(|| format!("{}: {found}", kind.name()))
        });
    }
}

#[test]
fn manners_around_a_reply_that_declines_take_nothing_from_it() {
    each(&["manners"], &[], |language, manner| {
        let none = listed(language, &["declined"]).remove(0);
        let reader = reader(FieldType::Email, language);
        [format!("{manner} {none}"), format!("{none} {manner}"), format!("{none}, {manner}")]
            .into_iter()
            .find(|reply| worth(&reader, reply) != "declined")
            .map(|reply| format!("{reply}: {}", worth(&reader, &reply)))
    });
}

#[test]
fn every_listed_skip_skips_and_every_listed_consent_consents() {
    each(&["skip"], &[], |language, word| {
        (!reader(FieldType::Email, language).is_skip(word)).then(|| "no skip".into())
    });
    each(&["consent"], &[], |language, word| {
        let reading = reader(FieldType::Consent, language).read(word, context(), 0);
        (!matches!(reading, Reading::Value { value: Value::Consent { given: true, .. }, .. }))
            .then(|| format!("{reading:?}"))
    });
}

#[test]
fn every_number_word_is_its_number() {
    for language in LANGUAGES {
        let reader = reader(FieldType::WholeNumber, language);
        for (word, number) in &Language::get(language).words {
            assert_eq!(worth(&reader, word), number.to_string(), "{language} {word}");
        }
    }
}

#[test]
fn every_month_and_weekday_is_told_in_a_date() {
    for language in LANGUAGES {
        let reader = reader(FieldType::Date, language);
        let read = |raw: &str| match reader.read(raw, context(), 0) {
            Reading::Value { value: Value::Date { date, precision }, .. } => Some((date, precision)),
            _ => None,
        };
        let dates = file(language)["dates"].clone();
        for (names, month) in dates["months"].as_array().unwrap().iter().zip(1_i8..) {
            for name in names.as_array().unwrap().iter().filter_map(serde_json::Value::as_str) {
                assert_eq!(
                    read(&format!("15 {name} 2027")),
                    Some((jiff::civil::date(2027, month, 15), Precision::Day)),
                    "{language} {name}"
                );
            }
        }
        for (names, offset) in dates["weekdays"].as_array().unwrap().iter().zip(0_i8..) {
            for name in names
                .as_array()
                .unwrap()
                .iter()
                .filter_map(serde_json::Value::as_str)
                .filter(|name| name.chars().count() > 3)
            {
                let found = read(name).map(|(date, _)| date.weekday().to_monday_zero_offset());
                assert_eq!(found, Some(offset), "{language} {name}");
            }
        }
    }
}

#[test]
fn every_cue_leads_to_a_name() {
    each(&["names", "cues"], &[], |language, cue| {
        let found = worth(&reader(FieldType::PersonName, language), &format!("{cue} Ana Ruiz"));
        (found != "Ana Ruiz").then_some(found)
    });
    each(&["names", "sign_offs"], &[], |language, sign_off| {
        let found = worth(&reader(FieldType::PersonName, language), &format!("{sign_off},\nAna Ruiz"));
        (found != "Ana Ruiz").then_some(found)
    });
    each(&["names", "greetings"], &[], |language, greeting| {
        let alone = worth(&reader(FieldType::PersonName, language), greeting);
        let found = worth(&reader(FieldType::PersonName, language), &format!("{greeting}, Ana Ruiz"));
        (found != "Ana Ruiz" || alone != "type" && alone != "declined").then(|| format!("{found}; alone {alone}"))
    });
}

#[test]
fn every_cue_leads_to_a_company_or_a_place() {
    each(&["company", "cues"], &[], |language, cue| {
        let found = worth(&reader(FieldType::Company, language), &format!("{cue} Blue Heron Ices GmbH"));
        (found != "Blue Heron Ices GmbH").then_some(found)
    });
    each(&["place", "cues"], &[], |language, cue| {
        let reading = reader(FieldType::Place, language).read(&format!("{cue} Saltwick"), context(), 0);
        let Reading::Value { value: Value::Place(place), .. } = &reading else { panic!("{reading:?}") };
        let town = place.town.as_deref() == Some("Saltwick");
        (!town).then(|| format!("{reading:?}"))
    });
}

#[test]
fn every_word_for_about_leaves_the_number_as_it_is() {
    each(&["about"], &[], |language, about| {
        let found = worth(&reader(FieldType::WholeNumber, language), &format!("{about} 40"));
        (found != "40").then_some(found)
    });
}

#[test]
fn no_word_says_yes_and_no_in_one_language() {
    for language in LANGUAGES {
        let words = Language::get(language);
        let both: Vec<&String> = words.yes.intersection(&words.no).collect();
        assert!(both.is_empty(), "{language}: {both:?}");
        assert!(words.skip.is_disjoint(&words.yes) && words.skip.is_disjoint(&words.no), "{language}");
    }
}
