//! What is taken out of a free reply for several fields, one rule a test. The corpus in `data/free_replies.json` holds
//! many more replies; these say which rule each of them stands for. All replies are made up.

#![allow(clippy::unwrap_used, reason = "helpers of tests are tests")]

mod readings;

use lumbo_reading::{FreeReader, Reader, ReaderSpec};
use lumbo_value::Field;
use readings::{Around, field};
use serde_json::{Value as Json, json};

/// What is taken out of one free reply, by field. A field's key and its label name it.
fn taken(language: &str, fields: &Json, raw: &str) -> Json {
    let around = Around::of(&json!({"language": language, "today": "2026-11-23", "country": "GB"}));
    let fields: Vec<Field> = fields.as_array().unwrap().iter().map(|spec| field(spec, language)).collect();
    let names = |field: &Field| vec![field.key.clone(), field.label.clone()];
    let readers =
        fields.iter().map(|field| (Reader::new(ReaderSpec::of(field, language)).unwrap(), names(field))).collect();
    let found = FreeReader::new(readers, language).read(raw, around.context());
    for one in &found {
        let span: String = raw.chars().skip(one.heard.start).take(one.heard.end - one.heard.start).collect();
        assert_eq!(span, one.heard.text, "the span of {raw}");
    }
    found
        .into_iter()
        .map(|one| (fields[one.field].key.clone(), one.value.to_json()))
        .collect::<serde_json::Map<_, _>>()
        .into()
}

fn check(language: &str, fields: &Json, replies: &[(&str, Json)]) {
    for (raw, wanted) in replies {
        assert_eq!(taken(language, fields, raw), *wanted, "{language}: {raw}");
    }
}

fn day(date: &str) -> Json {
    json!({"date": date, "precision": "day"})
}

fn month(date: &str) -> Json {
    json!({"date": date, "precision": "month"})
}

fn name(given: &str, family: &str) -> Json {
    json!({"given": given, "family": family, "full": format!("{given} {family}")})
}

fn pounds(amount: &str) -> Json {
    json!({"amount": amount, "currency": "GBP"})
}

#[test]
fn nothing_is_taken_that_only_looks_like_it() {
    let fields = json!([
        {"key": "name", "type": "person_name"}, {"key": "company", "type": "company"}, {"key": "email",
            "type": "email"},
        {"key": "start", "type": "date"}, {"key": "budget", "type": "money", "currency": "GBP"}, {"key": "town",
            "type": "place"},
        {"key": "trial", "type": "yes_no"}
    ]);
    for raw in [
        "No. 5 Harbour Road",
        "we had ten of them last year",
        "two emails: a@heron.example and b@heron.example",
        "I'm PA to Tom Bright",
        "Exeter to Bath",
    ] {
        assert_eq!(taken("en", &fields, raw), json!({}), "{raw}");
    }
    assert_eq!(taken("en", &fields, "we pay £500 now"), json!({"budget": pounds("500")}));
    assert_eq!(taken("en", &fields, "we pay £500 a month today"), json!({"budget": pounds("500")}));
    assert_eq!(taken("en", &fields, "We come from Hull"), json!({"town": {"town": "Hull"}}));
    assert_eq!(
        taken("nl", &fields, "ik ben Jan de Vries van De Vries Vis B.V. en begin op 1 februari. jan@devries.example"),
        json!({"name": name("Jan", "de Vries"), "company": "De Vries Vis B.V.", "start": day("2027-02-01"),
            "email": "jan@devries.example"})
    );
}

#[test]
fn a_town_goes_up_to_what_is_taken_already() {
    let fields = json!([{"key": "town", "type": "place"}, {"key": "country", "type": "country"}, {"key": "start",
        "type": "date"}]);
    check(
        "en",
        &fields,
        &[
            ("our warehouse in Lyon, France", json!({"town": {"town": "Lyon"}, "country": "FR"})),
            ("the fair in Munich in October", json!({"town": {"town": "Munich"}, "start": month("2027-10-01")})),
            ("town: Ely, 40 crates", json!({"town": {"town": "Ely"}})),
            ("our site is in Ely, postcode CB7 4EE", json!({"town": {"town": "Ely", "postcode": "CB7 4EE"}})),
        ],
    );
    check(
        "de",
        &fields,
        &[("Lieferung nach Kassel am 15.3.", json!({"town": {"town": "Kassel"}, "start": day("2027-03-15")}))],
    );
}

#[test]
fn each_number_is_for_the_field_that_is_named_nearest_in_its_clause() {
    let fields = json!([{"key": "users", "type": "whole_number"}, {"key": "locations", "type": "whole_number"},
        {"key": "budget", "type": "money", "currency": "GBP"}]);
    let both = json!({"users": "14", "locations": "2"});
    check(
        "en",
        &fields,
        &[
            ("14 users at 2 locations", both.clone()),
            ("2 locations, 14 users", both.clone()),
            ("users 14 locations 2", both.clone()),
            ("users: 14\nlocations: 2", both.clone()),
            ("14 users and locations: 2", both),
            ("users: 14, budget: 2k", json!({"users": "14", "budget": pounds("2000")})),
            ("the budget's 2k for 14 users", json!({"users": "14", "budget": pounds("2000")})),
            ("14 or 2", json!({})),
            ("our user numbers are secret, call 14", json!({})),
            ("it was 14 users, now 16 users", json!({"users": "16"})),
        ],
    );
}

#[test]
fn a_number_with_the_fields_unit_is_surer_than_one_beside_its_name() {
    let fields = json!([
        {"key": "orders", "type": "quantity", "unit": "order"}, {"key": "skus", "type": "quantity", "unit": "SKU"},
        {"key": "staff", "type": "quantity", "unit": "person"}
    ]);
    let of = |amount: &str, unit: &str| json!({"amount": amount, "unit": unit});
    check(
        "en",
        &fields,
        &[
            (
                "orders 1500 skus 900 staff 12",
                json!({"orders": of("1500", "order"), "skus": of("900", "SKU"), "staff": of("12", "person")}),
            ),
            (
                "1,500 orders, 900 SKUs, 12 people",
                json!({"orders": of("1500", "order"), "skus": of("900", "SKU"), "staff": of("12", "person")}),
            ),
            ("our order number is 10045", json!({})),
            ("we have 900 (nine hundred) SKUs", json!({"skus": of("900", "SKU")})),
        ],
    );
}

#[test]
fn two_dates_go_to_the_fields_that_are_named_beside_them() {
    let fields = json!([{"key": "pickup", "type": "date", "label": "Pickup date"}, {"key": "back", "type": "date",
        "label": "Return date"}]);
    let both = json!({"pickup": day("2027-03-06"), "back": day("2027-03-07")});
    check(
        "en",
        &fields,
        &[
            ("pickup on 6 March and back on 7 March", both.clone()),
            ("pickup date 6 March, return date 7 March", both.clone()),
            ("return on 7 March, pickup on 6 March", both.clone()),
            ("6 March and 7 March", json!({})),
            ("pickup on 6 March", json!({"pickup": day("2027-03-06")})),
        ],
    );
}

#[test]
fn what_was_counted_last_year_is_not_taken() {
    let fields = json!([{"key": "pupils", "type": "quantity", "unit": "pupil"}, {"key": "start", "type": "date"}]);
    let pupils = |amount: &str| json!({"pupils": {"amount": amount, "unit": "pupil"}});
    check(
        "en",
        &fields,
        &[
            ("last year we had 500 pupils", json!({})),
            ("we had 500 pupils last year and 420 pupils now", pupils("420")),
            ("380 pupils (400 next year)", pupils("380")),
            ("420 pupils", pupils("420")),
        ],
    );
    check(
        "de",
        &json!([{"key": "gäste", "type": "whole_number", "unit": "Gäste"}]),
        &[("letztes Jahr waren es 40 Gäste", json!({})), ("40 Gäste", json!({"gäste": "40"}))],
    );
}

#[test]
fn words_between_a_number_and_its_unit_are_left_to_other_fields() {
    let fields = json!([
        {"key": "pallets", "type": "quantity", "unit": "pallet"},
        {"key": "kept", "type": "choice", "options": [{"key": "frozen", "label": "Frozen"}, {"key": "chilled",
            "label": "Chilled"}]}
    ]);
    check(
        "en",
        &fields,
        &[
            ("40 frozen pallets", json!({"pallets": {"amount": "40", "unit": "pallet"}, "kept": "frozen"})),
            ("40 full pallets", json!({"pallets": {"amount": "40", "unit": "pallet"}})),
            ("nothing frozen, 40 pallets", json!({"pallets": {"amount": "40", "unit": "pallet"}})),
        ],
    );
}

#[test]
fn no_before_a_thing_says_no_to_that_thing_alone() {
    let fields = json!([
        {"key": "bar", "type": "yes_no", "label": "Bar"},
        {"key": "meal", "type": "choices", "options": [{"key": "lunch", "label": "Lunch"}, {"key": "dinner",
            "label": "Dinner"}]}
    ]);
    check(
        "en",
        &fields,
        &[
            ("No dinner, just lunch", json!({"meal": ["lunch"]})),
            ("no bar", json!({"bar": false})),
            ("No, just lunch", json!({"bar": false, "meal": ["lunch"]})),
            ("a bar and dinner", json!({"bar": true, "meal": ["dinner"]})),
        ],
    );
}

#[test]
fn a_time_and_a_beginning_are_told_apart_where_both_are_asked_for() {
    let fields = json!([{"key": "contract", "type": "quantity", "unit": "month"}, {"key": "begin", "type": "date"}]);
    let both = json!({"contract": {"amount": "24", "unit": "month"}, "begin": month("2027-01-01")});
    check(
        "en",
        &fields,
        &[("24 months from January 2027", both.clone()), ("in 3 months", json!({"begin": month("2027-02-01")}))],
    );
    check("de", &fields, &[("24 Monate ab Januar 2027", both.clone())]);
    check("es", &fields, &[("24 meses desde enero de 2027", both.clone())]);
    check("nl", &fields, &[("24 maanden vanaf januari 2027", both)]);
}

#[test]
fn a_date_that_could_be_a_fraction_is_one_behind_what_leads_to_it() {
    let fields = json!([{"key": "start", "type": "date"}]);
    check(
        "en",
        &fields,
        &[
            ("starting 15/1, evenings", json!({"start": day("2027-01-15")})),
            ("dinner on the 12th", json!({"start": day("2026-12-12")})),
            ("on the 12th floor", json!({})),
            ("1/2 of them", json!({})),
        ],
    );
    check(
        "de",
        &fields,
        &[("Guten Morgen, bitte ein Angebot", json!({})), ("bitte morgen", json!({"start": day("2026-11-24")}))],
    );
}

#[test]
fn a_person_stands_beside_what_they_are_reached_by_or_before_where_they_are_from() {
    let fields = json!([{"key": "name", "type": "person_name"}, {"key": "email", "type": "email"}, {"key": "company",
        "type": "company"}, {"key": "start", "type": "date"}]);
    check(
        "en",
        &fields,
        &[
            (
                "Two vans, please. Ana Ruiz, ana@heron.example",
                json!({"name": name("Ana", "Ruiz"), "email": "ana@heron.example"}),
            ),
            (
                "Ben from Tall Oak, about two vans",
                json!({"name": {"given": "Ben", "full": "Ben"}, "company": "Tall Oak"}),
            ),
            ("St Osyth School, 12 pupils", json!({})),
        ],
    );
    check(
        "pl",
        &fields,
        &[("Ewa Lis, ewa@lody.example", json!({"name": name("Ewa", "Lis"), "email": "ewa@lody.example"}))],
    );
    check(
        "de",
        &fields,
        &[("Hallo, Malte Kron von Kron & Söhne", json!({"name": name("Malte", "Kron"), "company": "Kron & Söhne"}))],
    );
}

#[test]
fn a_reply_like_a_form_is_read_field_by_field() {
    let fields = json!([
        {"key": "name", "type": "person_name", "label": "Name"}, {"key": "urgent", "type": "yes_no", "label": "Urgent"},
        {"key": "pallets", "type": "quantity", "unit": "pallet"}, {"key": "goods", "type": "list"}, {"key": "start",
            "type": "date", "label": "Start date"},
        {"key": "home", "type": "address", "label": "Address"}
    ]);
    let pallets = |amount: &str| json!({"amount": amount, "unit": "pallet"});
    check(
        "en",
        &fields,
        &[
            (
                "Urgent: no; pallets: 40; Start date - 1 March",
                json!({"urgent": false, "pallets": pallets("40"), "start": day("2027-03-01")}),
            ),
            (
                "Name - Ana Ruiz, Job title: Buyer, Pallets: 12",
                json!({"name": name("Ana", "Ruiz"), "pallets": pallets("12")}),
            ),
            ("Goods:\n- peas\n- fish\nPallets: 7", json!({"goods": ["peas", "fish"], "pallets": pallets("7")})),
            (
                "Address:\n12 Church Lane\nEly\nCB7 4EE\nUrgent: yes",
                json!({"home": {"lines": ["12 Church Lane"], "town": "Ely", "postcode": "CB7 4EE"}, "urgent": true}),
            ),
            // A label that stands there twice settles nothing; one that is declined leaves its field open.
            ("Pallets: 40, pallets: 50", json!({})),
            ("Name: rather not, Pallets: 40", json!({"pallets": pallets("40")})),
            ("Notes: we have 40 pallets", json!({"pallets": pallets("40")})),
            ("a long-term thing, urgent", json!({"urgent": true})),
        ],
    );
}

#[test]
fn an_address_or_a_name_in_brackets_is_no_company() {
    let fields = json!([
        {"key": "name", "type": "person_name"}, {"key": "company", "type": "company"}, {"key": "email",
            "type": "email"}, {"key": "phone", "type": "phone"},
        {"key": "town", "type": "place"}
    ]);
    check(
        "en",
        &fields,
        &[
            (
                "bea.finch@larklegal.example (Bea Finch)",
                json!({"name": name("Bea", "Finch"), "email": "bea.finch@larklegal.example"}),
            ),
            (
                "info@larklegal.example (Lark Legal)",
                json!({"company": "Lark Legal", "email": "info@larklegal.example"}),
            ),
            ("our firewall is from 2019", json!({})),
            ("+353 1 234 5678 / 2 vans", json!({"phone": "+35312345678"})),
            ("020 7946 0958 (Bea)", json!({"phone": "+442079460958"})),
        ],
    );
    let town = taken("en", &fields, "Our office is at 4 Silk Street, Derby DE1 1AA");
    assert!(town.get("company").is_none(), "{town}");
}

#[test]
fn an_option_of_two_letters_is_named_in_capitals() {
    let fields = json!([{"key": "fuel", "type": "choice", "options": [{"key": "d", "label": "Diesel"}, {"key": "e",
        "label": "Electric", "also": ["EV", "it"]}]}]);
    check(
        "en",
        &fields,
        &[("45 vehicles, EV", json!({"fuel": "e"})), ("EV or diesel", json!({})), ("we like it", json!({}))],
    );
}

#[test]
fn the_plural_of_an_option_names_it_too() {
    let fields = json!([{"key": "os", "type": "choice", "options": [{"key": "win", "label": "Windows"}, {"key": "mac",
        "label": "Mac"}]}]);
    check(
        "en",
        &fields,
        &[("all Macs", json!({"os": "mac"})), ("20 Windows and 15 Macs", json!({})), ("macaroni", json!({}))],
    );
}
