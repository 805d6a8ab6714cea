//! What a reply means where its words could mislead, one rule a test. The corpora in `data/` hold many more replies;
//! these say which rule each of them stands for. All replies are made up.

#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

mod readings;

use lumbo_reading::{Reader, ReaderSpec};
use readings::{Around, field, outcome};
use serde_json::{Value as Json, json};

/// Reads each reply with a field's spec; "type" and the other keys of rules stand for a reply that is refused by them.
fn check(spec: &Json, replies: &[(&str, Json)]) {
    let mut spec = spec.clone();
    spec.as_object_mut().unwrap().entry("today").or_insert(json!("2026-11-23"));
    let around = Around::of(&spec);
    let field = field(&spec, &around.language);
    let reader = Reader::new(ReaderSpec::of(&field, &around.language)).unwrap();
    for (raw, wanted) in replies {
        let found = outcome(&reader.read(raw, around.context(), 0));
        let refused = wanted.as_str().filter(|key| ["type", "declined", "whole", "phone_valid"].contains(key));
        let wanted = refused.map_or_else(|| wanted.clone(), |key| json!({ "fails": key }));
        assert_eq!(found, wanted, "{} {}: {raw}", field.kind.name(), around.language);
    }
}

/// Every reply of a language, for one field, comes to the same.
fn all(spec: &Json, wanted: &Json, replies: &[(&str, &str)]) {
    for (language, raw) in replies {
        let mut spec = spec.clone();
        spec["language"] = json!(language);
        check(&spec, &[(raw, wanted.clone())]);
    }
}

fn day(date: &str) -> Json {
    json!({"date": date, "precision": "day"})
}

fn name(given: &str, family: &str) -> Json {
    json!({"given": given, "family": family, "full": format!("{given} {family}")})
}

#[test]
fn a_number_that_is_a_difference_a_part_or_a_base_is_not_the_answer() {
    check(
        &json!({"type": "whole_number", "unit": "pallets"}),
        &[
            ("10 pallets less than last year, so 40", json!("40")),
            ("a third of 90", json!("type")),
            ("40% of 200", json!("type")),
            ("40 of them", json!("40")),
        ],
    );
}

#[test]
fn two_numbers_that_make_one_between_them_are_asked_again() {
    check(
        &json!({"type": "quantity", "unit": "m2"}),
        &[
            ("10 by 12 metres", json!("type")),
            ("10 x 12 m", json!("type")),
            ("10x12", json!("type")),
            ("120 m2", json!({"amount": "120", "unit": "m2"})),
        ],
    );
    check(
        &json!({"type": "whole_number", "unit": "pallets"}),
        &[
            ("40 + 20", json!("type")),
            ("20 pallets x 3", json!("type")),
            ("40 pallets by 1 March", json!("40")),
            ("twenty twenty", json!("type")),
            ("twenty (20)", json!("20")),
            ("a pallet or two", json!("type")),
        ],
    );
}

#[test]
fn a_bare_number_beside_one_with_the_unit_counts_where_nothing_says_what_it_counts() {
    check(
        &json!({"type": "whole_number", "unit": "pallets"}),
        &[
            ("5 pallets today, 10 next week", json!("type")),
            ("we open at 9, 40 pallets", json!("40")),
            ("40 pallets, 3 drivers", json!("40")),
            ("min 3, max 7", json!("type")),
        ],
    );
    check(
        &json!({"type": "quantity", "unit": "pallet", "language": "de"}),
        &[
            ("mindestens 40, höchstens 60 Paletten", json!("type")),
            ("höchstens 60 Paletten", json!({"amount": "60", "unit": "pallet"})),
        ],
    );
}

#[test]
fn a_half_behind_what_multiplies_is_half_of_that() {
    let pallets = |amount: &str| json!({"amount": amount, "unit": "pallet"});
    for (language, raw, amount) in [
        ("en", "a million and a half", "1500000"),
        ("en", "a dozen and a half pallets", "18"),
        ("en", "two and a half thousand", "2500"),
        ("es", "un millón y medio", "1500000"),
        ("fr", "une douzaine et demie", "18"),
        ("de", "zweieinhalbtausend", "2500"),
        ("pl", "dwa i pół tysiąca", "2500"),
    ] {
        check(&json!({"type": "quantity", "unit": "pallet", "language": language}), &[(raw, pallets(amount))]);
    }
}

#[test]
fn numbers_of_codes_names_and_clocks_count_nothing() {
    let spec = json!({"type": "whole_number"});
    check(
        &spec,
        &[
            ("ISO 9001", json!("type")),
            ("7-Eleven", json!("type")),
            ("7pm", json!("type")),
            ("max 40", json!("40")),
            ("40", json!("40")),
        ],
    );
    all(&spec, &json!("type"), &[("de", "12 Uhr"), ("es", "el 3 de marzo"), ("pl", "3 marca")]);
}

#[test]
fn a_mark_that_is_no_decimal_mark_of_the_language_parts_thousands() {
    all(
        &json!({"type": "whole_number"}),
        &json!("1250"),
        &[("en", "1,250"), ("de", "1.250"), ("fr", "1.250"), ("es", "1.250"), ("nl", "1.250"), ("pl", "1 250")],
    );
    all(&json!({"type": "whole_number"}), &json!("whole"), &[("en", "1.250"), ("de", "12,5"), ("fr", "12,5")]);
}

#[test]
fn money_without_a_sign_counts_money_or_it_is_asked_again() {
    let pounds = |amount: &str| json!({"amount": amount, "currency": "GBP"});
    check(
        &json!({"type": "money", "currency": "GBP"}),
        &[
            ("500", pounds("500")),
            ("500 a month plus VAT", pounds("500")),
            ("5 K", pounds("5000")),
            ("six figures", json!("type")),
            ("1 bitcoin", json!("type")),
            ("March 2027", json!("type")),
            ("£3 or €4", json!("type")),
            ("haven't set one", json!("type")),
        ],
    );
    let euros = |amount: &str| json!({"amount": amount, "currency": "EUR"});
    check(
        &json!({"type": "money", "currency": "EUR", "language": "fr"}),
        &[("12€50", euros("12.5")), ("3 k€", euros("3000")), ("un million d'euros", euros("1000000"))],
    );
}

#[test]
fn a_stretch_of_the_year_without_a_first_day_is_no_date() {
    all(
        &json!({"type": "date"}),
        &json!("type"),
        &[
            ("en", "summer 2027"),
            ("en", "the first half of 2027"),
            ("de", "Sommer 2027"),
            ("fr", "été 2027"),
            ("es", "verano de 2027"),
            ("es", "este fin de semana"),
            ("nl", "zomer 2027"),
            ("pl", "latem 2027"),
        ],
    );
}

#[test]
fn a_part_of_what_was_said_about_a_date_is_not_a_date() {
    all(
        &json!({"type": "date"}),
        &json!("type"),
        &[
            ("en", "32 March"),
            ("en", "in a month or two"),
            ("en", "2 weeks after we sign"),
            ("en", "between March and May"),
            ("fr", "dans un mois et demi"),
            ("fr", "entre mars et mai"),
            ("fr", "du 1er au 5 mars"),
            ("es", "del 1 al 5 de marzo"),
            ("nl", "over twee à drie weken"),
        ],
    );
    check(
        &json!({"type": "date"}),
        &[("last quarter of 2027", json!("type")), ("the start of the new year", json!("type"))],
    );
}

#[test]
fn days_are_told_through_what_people_put_around_them() {
    let spec = json!({"type": "date", "country": "GB"});
    check(
        &spec,
        &[
            ("a week today", day("2026-11-30")),
            ("a week tomorrow", day("2026-12-01")),
            ("5pm tomorrow", day("2026-11-24")),
            ("tommorow", day("2026-11-24")),
            ("1st Febuary 2027", day("2027-02-01")),
            ("end 1 June", day("2027-06-01")),
            ("no later than 15 December", day("2026-12-15")),
        ],
    );
    check(&json!({"type": "date", "language": "es"}), &[("el día 15", day("2026-12-15"))]);
    check(
        &json!({"type": "date", "language": "pl"}),
        &[("w 2027 roku", json!({"date": "2027-01-01", "precision": "year"}))],
    );
    check(
        &json!({"type": "date", "language": "pl"}),
        &[("nie wcześniej niż w marcu", json!({"date": "2027-03-01", "precision": "month"}))],
    );
}

#[test]
fn yes_and_no_are_told_beside_how_surely_and_since_when() {
    all(
        &json!({"type": "yes_no"}),
        &json!(false),
        &[
            ("en", "probably not"),
            ("en", "not at the moment"),
            ("en", "currently no"),
            ("de", "wahrscheinlich nicht"),
            ("de", "sicher nicht"),
            ("fr", "probablement pas"),
            ("es", "de momento no"),
            ("nl", "waarschijnlijk niet"),
            ("pl", "na razie nie"),
        ],
    );
    all(
        &json!({"type": "yes_no"}),
        &json!(true),
        &[("en", "most likely yes"), ("de", "vermutlich ja"), ("nl", "waarschijnlijk wel"), ("pl", "raczej tak")],
    );
}

#[test]
fn yes_and_no_at_once_and_a_no_that_is_denied_say_nothing() {
    all(
        &json!({"type": "yes_no"}),
        &json!("type"),
        &[
            ("en", "both yes and no"),
            ("en", "can't say no"),
            ("de", "ja und nein"),
            ("fr", "oui et non"),
            ("es", "sí y no"),
            ("nl", "ja en nee"),
            ("pl", "i tak i nie"),
            ("pl", "no"),
        ],
    );
}

#[test]
fn behind_i_am_stands_a_name_only_where_it_is_written_as_one_or_is_a_given_one() {
    let spec = json!({"type": "person_name"});
    check(
        &spec,
        &[
            ("i'm ana", json!({"given": "ana", "full": "ana"})),
            ("I'm hungry", json!("type")),
            ("It's complicated", json!("type")),
            ("I'm the owner", json!("type")),
            ("I'm Ana Ruiz", name("Ana", "Ruiz")),
        ],
    );
    all(
        &spec,
        &json!("type"),
        &[
            ("de", "ich bin der Chef"),
            ("de", "ich bin Einkäufer"),
            ("es", "soy el dueño"),
            ("nl", "ik ben de eigenaar"),
            ("pl", "jestem właścicielem"),
        ],
    );
}

#[test]
fn a_greeting_a_thing_and_two_people_are_no_name() {
    all(
        &json!({"type": "person_name"}),
        &json!("type"),
        &[
            ("en", "hello there"),
            ("de", "Hallo"),
            ("fr", "Bonjour"),
            ("es", "hola"),
            ("nl", "hallo"),
            ("pl", "dzień dobry"),
        ],
    );
    check(
        &json!({"type": "person_name"}),
        &[
            ("Mr. & Mrs. Holt", json!("type")),
            ("Dana/Sam", json!("type")),
            ("Dana or Sam", json!("type")),
            ("dana.fox", json!("type")),
            ("Dana here", json!({"given": "Dana", "full": "Dana"})),
        ],
    );
}

#[test]
fn a_reply_of_nothing_but_corrections_is_read_like_any_other() {
    let corrections = "Ana, sorry, ".repeat(800);
    for kind in ["person_name", "company"] {
        let field = field(&json!({ "type": kind }), "en");
        let reader = Reader::new(ReaderSpec::of(&field, "en")).unwrap();
        assert!(
            matches!(
                reader.read(&corrections, Around::of(&json!({})).context(), 0),
                lumbo_reading::Reading::Failed { .. } | lumbo_reading::Reading::Value { .. }
            ),
            "{kind}"
        );
    }
}

#[test]
fn names_are_split_as_their_owners_write_them() {
    let spec = json!({"type": "person_name"});
    check(
        &spec,
        &[
            ("Ana van Dijk-de Boer", name("Ana", "van Dijk-de Boer")),
            ("The name is Calder, Joss Calder", name("Joss", "Calder")),
            ("first name Ana, last name Ruiz", name("Ana", "Ruiz")),
            ("Surname: Ruiz\nFirst name: Ana", name("Ana", "Ruiz")),
            ("Ana, sorry, Anna", json!({"given": "Anna", "full": "Anna"})),
            ("Maren H.", json!({"given": "Maren", "family": "H.", "full": "Maren H."})),
        ],
    );
    check(
        &json!({"type": "person_name", "language": "nl"}),
        &[("Mevrouw de Vries", json!({"family": "de Vries", "full": "Mevrouw de Vries"}))],
    );
    check(
        &json!({"type": "person_name", "language": "nl"}),
        &[("Jong, Sanne de", name("Sanne", "de Jong")), ("Sanne van 't Hof", name("Sanne", "van 't Hof"))],
    );
    check(
        &json!({"type": "person_name", "language": "fr"}),
        &[("Claire de la société Froidline", json!({"given": "Claire", "full": "Claire"}))],
    );
    check(
        &json!({"type": "person_name", "language": "de"}),
        &[("MfG\nAnna Weber", name("Anna", "Weber")), ("Tobias Rell aus Hamburg", name("Tobias", "Rell"))],
    );
}

#[test]
fn one_of_many_talk_and_one_of_two_are_no_company() {
    all(
        &json!({"type": "company"}),
        &json!("type"),
        &[
            ("en", "a small bakery"),
            ("de", "eine Bäckerei"),
            ("fr", "une boulangerie"),
            ("es", "una panadería"),
            ("nl", "een bakkerij"),
            ("en", "my company is not registered yet"),
            ("en", "it's personal"),
        ],
    );
    check(
        &json!({"type": "company"}),
        &[
            ("Blue Heron or Saltwick Fish", json!("type")),
            ("Coldway / Frostline", json!("type")),
            ("Priya, Coldway", json!("type")),
            ("Priya from Coldway", json!("Coldway")),
            ("not Blue Heron, Saltwick Fish", json!("Saltwick Fish")),
        ],
    );
    all(
        &json!({"type": "company"}),
        &json!("declined"),
        &[
            ("de", "keine Firma"),
            ("fr", "pas d'entreprise"),
            ("es", "no tengo empresa"),
            ("nl", "geen bedrijf"),
            ("pl", "brak firmy"),
            ("en", "sole trader"),
            ("fr", "indépendant"),
            ("nl", "zzp'er"),
        ],
    );
}

#[test]
fn a_company_keeps_what_belongs_to_its_name() {
    check(
        &json!({"type": "company"}),
        &[
            ("Holt, Rell & Nand LLP", json!("Holt, Rell & Nand LLP")),
            ("E.T. Foods Inc.", json!("E.T. Foods Inc.")),
            ("No Limits", json!("No Limits")),
        ],
    );
    check(&json!({"type": "company", "language": "de"}), &[("Hans Weber e.K.", json!("Hans Weber e.K."))]);
    check(
        &json!({"type": "company", "language": "pl"}),
        &[("firma nazywa się Mroźna Linia sp. z o.o.", json!("Mroźna Linia sp. z o.o."))],
    );
}

#[test]
fn a_place_is_one_place_with_a_name() {
    let town = |town: &str| json!({ "town": town });
    check(
        &json!({"type": "place", "country": "GB"}),
        &[
            ("the depot is in Saltwick", town("Saltwick")),
            ("not Leeds, Hull", town("Hull")),
            ("a village near Leeds", town("Leeds")),
            ("postcode is SW1A 1AA", json!({"postcode": "SW1A 1AA"})),
            ("Newcastle upon Tyne", town("Newcastle upon Tyne")),
            ("I live in Harrogate but work in Leeds", json!("type")),
            ("Leeds; also Hull", json!("type")),
            ("near the airport", json!("type")),
            ("our own site", json!("type")),
            ("up north", json!("type")),
        ],
    );
}

#[test]
fn a_label_is_enough_as_far_as_it_was_written() {
    let ranges = json!({"type": "choice", "options": [
        {"key": "s", "label": "Up to 10 pallets"}, {"key": "m", "label": "11 to 50 pallets"}, {"key": "l",
            "label": "More than 50 pallets"}
    ]});
    check(
        &ranges,
        &[
            ("more than 50", json!("l")),
            ("11 to 50", json!("m")),
            ("Up to 10", json!("s")),
            ("40", json!("m")),
            ("up to 60", json!("type")),
        ],
    );
    let none =
        json!({"type": "choice", "options": [{"key": "f", "label": "Frozen"}, {"key": "n", "label": "Neither"}]});
    check(&none, &[("Neither of them", json!("n")), ("none of them", json!("n")), ("the top one", json!("type"))]);
}

#[test]
fn a_country_may_have_one_letter_wrong_where_no_other_is_near() {
    check(
        &json!({"type": "country"}),
        &[("Swizerland", json!("CH")), ("Germny", json!("DE")), ("Austrila", json!("type")), ("Bosnia", json!("BA"))],
    );
}

#[test]
fn an_address_that_is_denied_or_begins_with_a_dot_is_asked_again() {
    check(
        &json!({"type": "email"}),
        &[
            ("not ana@heron.example", json!("type")),
            (".ana@heron.example", json!("type")),
            ("it was ana@heron.example, now it's ana@ices.example", json!("ana@ices.example")),
            ("ana underscore ruiz at heron dot example", json!("ana_ruiz@heron.example")),
        ],
    );
}

#[test]
fn a_day_that_comes_again_is_no_date() {
    all(
        &json!({"type": "date"}),
        &json!("type"),
        &[
            ("en", "every Monday"),
            ("en", "Mondays"),
            ("de", "jeden Montag"),
            ("fr", "tous les lundis"),
            ("es", "cada lunes"),
            ("nl", "elke maandag"),
            ("pl", "każdy poniedziałek"),
        ],
    );
    check(&json!({"type": "date"}), &[("Monday", day("2026-11-30")), ("20 kg each by 1 March", day("2027-03-01"))]);
}

#[test]
fn a_number_behind_a_date_is_a_year_only_where_it_counts_nothing() {
    let spec = json!({"type": "date", "country": "GB"});
    check(
        &spec,
        &[
            ("12 March, 2000 pounds", day("2027-03-12")),
            ("12 March, 2000 guests", day("2027-03-12")),
            ("12 March 2028", day("2028-03-12")),
            ("12 March, 2028 at the latest", day("2028-03-12")),
            ("from February 30 crates", json!({"date": "2027-02-01", "precision": "month"})),
            ("30 February", json!("type")),
        ],
    );
    all(
        &spec,
        &day("2027-03-12"),
        &[
            ("pl", "12 marca, 2000 zł"),
            ("pl", "12 marca 2027 roku"),
            ("de", "12. März, 2000 Euro"),
            ("fr", "12 mars, 2000 €"),
        ],
    );
}

#[test]
fn a_long_month_or_weekday_may_have_one_slip_in_it() {
    let spec = json!({"type": "date", "country": "GB"});
    check(
        &spec,
        &[
            ("15 janury", day("2027-01-15")),
            ("3 octber", day("2027-10-03")),
            ("5 nvmber", json!("type")),
            ("5 jne", json!("type")),
        ],
    );
    all(&spec, &day("2027-01-15"), &[("fr", "15 janveir"), ("nl", "15 jannuari"), ("pl", "15 stycnia")]);
}

#[test]
fn a_person_of_two_family_names_keeps_both_in_spanish() {
    let spec = json!({"type": "person_name", "language": "es"});
    check(
        &spec,
        &[
            ("me llamo Ana Ruiz García", name("Ana", "Ruiz García")),
            ("José Luis Vega", name("José Luis", "Vega")),
            ("Ana María de la Cruz", name("Ana María", "de la Cruz")),
        ],
    );
    check(&json!({"type": "person_name"}), &[("Ana Ruiz García", name("Ana Ruiz", "García"))]);
}

#[test]
fn what_somebody_is_called_by_may_stand_inside_the_name() {
    check(
        &json!({"type": "person_name"}),
        &[
            ("Thomas (Tom) Bright", name("Thomas", "Bright")),
            ("Thomas “Tom” Bright", name("Thomas", "Bright")),
            ("Thomas (sales)", json!({"given": "Thomas", "full": "Thomas"})),
        ],
    );
}

#[test]
fn a_full_stop_behind_a_postcode_ends_an_address() {
    let spec = json!({"type": "address", "country": "GB"});
    let address = json!({"lines": ["12 Church Lane"], "town": "Ely", "postcode": "CB7 4EE"});
    check(
        &spec,
        &[
            ("Our address is 12 Church Lane, Ely, CB7 4EE.", address.clone()),
            ("12 Church Lane, Ely CB7 4EE. We open in May.", address.clone()),
            ("12 Church Lane, Ely, CB7 4EE", address),
        ],
    );
}

#[test]
fn letters_of_a_code_are_no_country() {
    check(
        &json!({"type": "country"}),
        &[
            ("CB7 4EE", json!("type")),
            ("HU3", json!("type")),
            ("TK-Ware", json!("type")),
            ("UK-based", json!("GB")),
            ("HU", json!("HU")),
        ],
    );
    all(&json!({"type": "country"}), &json!("PL"), &[("pl", "z Polski"), ("pl", "w Polsce"), ("pl", "Polska")]);
}

#[test]
fn halves_of_two_options_are_no_choice() {
    let spec =
        json!({"type": "choice", "options": [{"key": "flat", "label": "Flat"}, {"key": "tile", "label": "Tiled"}]});
    check(
        &spec,
        &[("half flat, half tiled", json!("type")), ("half of it is flat", json!("flat")), ("not flat", json!("type"))],
    );
}

#[test]
fn a_unit_may_stand_behind_a_thousand_in_short() {
    check(
        &json!({"type": "quantity", "unit": "km"}),
        &[
            ("15k km", json!({"amount": "15000", "unit": "km"})),
            ("15k", json!("type")),
            ("15 km", json!({"amount": "15", "unit": "km"})),
        ],
    );
    check(
        &json!({"type": "quantity", "unit": "kWh"}),
        &[
            ("4 MWh", json!({"amount": "4000", "unit": "kWh"})),
            ("300 kWh a month", json!({"amount": "300", "unit": "kWh"})),
            ("4 kW", json!("type")),
        ],
    );
}
