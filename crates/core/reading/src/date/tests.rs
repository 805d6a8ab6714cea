use super::*;
use lumbo_language::Language;

/// Monday, 23 November 2026.
fn read_on(language: &str, country: Option<&str>, today: Option<&str>, reply: &str) -> String {
    let scan = Scan::new(reply);
    let calendar =
        Calendar { language: Language::get(language), today: today.map(|day| day.parse().unwrap()), country };
    match read(&scan, calendar) {
        Found::Value(Value::Date { date, precision }, heard) => {
            assert!(reply.contains(&heard.text), "{reply}");
            format!("{date} {}", serde_json::to_value(precision).unwrap().as_str().unwrap())
        }
        Found::Several(_) => "several".into(),
        _ => "nothing".into(),
    }
}

fn check(language: &str, cases: &[(&str, &str)]) {
    let wrong: Vec<String> = cases
        .iter()
        .filter_map(|(reply, expected)| {
            let found = read_on(language, Some("GB"), Some("2026-11-23"), reply);
            (found != *expected).then(|| format!("{reply}: {found}, not {expected}"))
        })
        .collect();
    assert!(wrong.is_empty(), "{language}: {wrong:#?}");
}

#[test]
fn days_in_digits_and_with_month_names() {
    check(
        "en",
        &[
            ("2027-03-04", "2027-03-04 day"),
            ("03/04/2027", "2027-04-03 day"),
            ("13/04/2027", "2027-04-13 day"),
            ("04/13/2027", "2027-04-13 day"),
            ("3.4.27", "2027-04-03 day"),
            ("20270304", "2027-03-04 day"),
            ("5 March", "2027-03-05 day"),
            ("5th of March 2028", "2028-03-05 day"),
            ("March 5th, 2027", "2027-03-05 day"),
            ("Mar 5", "2027-03-05 day"),
            ("the first of May", "2027-05-01 day"),
            ("Thursday 4 March 2027", "2027-03-04 day"),
            ("4-Mar-2027", "2027-03-04 day"),
            ("23 November", "2026-11-23 day"),
            ("22 November", "2027-11-22 day"),
            ("12 March next year", "2027-03-12 day"),
            ("the 5th", "2026-12-05 day"),
            ("3/4", "2027-04-03 day"),
            ("we could start on 5 January if that works", "2027-01-05 day"),
            ("31 February", "nothing"),
            ("99/99/2027", "nothing"),
        ],
    );
}

#[test]
fn the_order_of_digits_follows_language_and_country_and_is_not_guessed() {
    for (language, country, expected) in [
        ("en", Some("GB"), "2027-04-03 day"),
        ("en", Some("US"), "2027-03-04 day"),
        ("en", None, "nothing"),
        ("en", Some("CA"), "nothing"),
        ("de", None, "2027-04-03 day"),
        ("fr", Some("US"), "2027-04-03 day"),
    ] {
        assert_eq!(read_on(language, country, Some("2026-11-23"), "03/04/2027"), expected, "{language} {country:?}");
    }
    assert_eq!(read_on("en", None, None, "4/4/2027"), "2027-04-04 day");
}

#[test]
fn months_quarters_weeks_and_years() {
    check(
        "en",
        &[
            ("March", "2027-03-01 month"),
            ("in November", "2026-11-01 month"),
            ("next March", "2027-03-01 month"),
            ("March 2028", "2028-03-01 month"),
            ("03/2027", "2027-03-01 month"),
            ("end of March", "2027-03-31 month"),
            ("by the end of Feb 2028", "2028-02-29 month"),
            ("early March", "2027-03-01 month"),
            ("mid-March", "2027-03-01 month"),
            ("Q2", "2027-04-01 quarter"),
            ("Q4", "2026-10-01 quarter"),
            ("end of Q2", "2027-06-30 quarter"),
            ("Q3 2028", "2028-07-01 quarter"),
            ("second quarter of 2027", "2027-04-01 quarter"),
            ("next quarter", "2027-01-01 quarter"),
            ("2028", "2028-01-01 year"),
            ("next year", "2027-01-01 year"),
            ("end of the year", "2026-12-31 year"),
            ("end of next month", "2026-12-31 month"),
            ("week 10", "2027-03-08 week"),
            ("2027-W10", "2027-03-08 week"),
            ("next week", "2026-11-30 week"),
            ("this week", "2026-11-23 week"),
            ("end of this week", "2026-11-29 week"),
            ("May", "2027-05-01 month"),
            ("we may start in June", "2027-06-01 month"),
        ],
    );
}

#[test]
fn what_counts_from_today() {
    check(
        "en",
        &[
            ("today", "2026-11-23 day"),
            ("tomorrow morning", "2026-11-24 day"),
            ("the day after tomorrow", "2026-11-25 day"),
            ("in 3 weeks", "2026-12-14 week"),
            ("in about three weeks", "2026-12-14 week"),
            ("3 weeks", "2026-12-14 week"),
            ("in 10 days", "2026-12-03 day"),
            ("2 months from now", "2027-01-01 month"),
            ("in a fortnight", "2026-12-07 week"),
            ("in a year", "2027-01-01 year"),
            ("within the next two months", "2027-01-01 month"),
            ("in half a year", "2027-05-01 month"),
            ("Friday", "2026-11-27 day"),
            ("Monday", "2026-11-30 day"),
            ("next Friday", "2026-12-04 day"),
            ("this Friday", "2026-11-27 day"),
            ("Tuesday next week", "2026-12-01 day"),
            ("in 2-3 weeks", "nothing"),
            ("March or April", "several"),
            ("5-7 March", "nothing"),
            ("asap", "nothing"),
            ("soon", "nothing"),
            ("not March, April", "2027-04-01 month"),
            ("in March, sorry, in April", "2027-04-01 month"),
        ],
    );
    assert_eq!(read_on("en", None, None, "in 3 weeks"), "nothing");
    assert_eq!(read_on("en", None, None, "5 March"), "nothing");
}

#[test]
fn other_languages() {
    check(
        "de",
        &[
            ("5. März 2027", "2027-03-05 day"),
            ("am 5.3.2027", "2027-03-05 day"),
            ("5.3.", "2027-03-05 day"),
            ("in drei Wochen", "2026-12-14 week"),
            ("nächsten Monat", "2026-12-01 month"),
            ("nächste Woche", "2026-11-30 week"),
            ("Ende März", "2027-03-31 month"),
            ("Anfang Januar", "2027-01-01 month"),
            ("übermorgen", "2026-11-25 day"),
            ("KW 10", "2027-03-08 week"),
            ("2. Quartal", "2027-04-01 quarter"),
            ("Ende des Jahres", "2026-12-31 year"),
            ("nächstes Jahr", "2027-01-01 year"),
            ("ab April", "2027-04-01 month"),
        ],
    );
    check(
        "fr",
        &[
            ("le 5 mars 2027", "2027-03-05 day"),
            ("1er mars", "2027-03-01 day"),
            ("dans trois semaines", "2026-12-14 week"),
            ("le mois prochain", "2026-12-01 month"),
            ("la semaine prochaine", "2026-11-30 week"),
            ("fin mars", "2027-03-31 month"),
            ("début avril", "2027-04-01 month"),
            ("demain", "2026-11-24 day"),
            ("après-demain", "2026-11-25 day"),
            ("d'avril", "2027-04-01 month"),
            ("l'année prochaine", "2027-01-01 year"),
            ("fin de l'année", "2026-12-31 year"),
        ],
    );
    check(
        "es",
        &[
            ("5 de marzo de 2027", "2027-03-05 day"),
            ("dentro de tres semanas", "2026-12-14 week"),
            ("el próximo mes", "2026-12-01 month"),
            ("el mes que viene", "2026-12-01 month"),
            ("a finales de marzo", "2027-03-31 month"),
            ("mañana", "2026-11-24 day"),
            ("pasado mañana", "2026-11-25 day"),
            ("en 2 meses", "2027-01-01 month"),
            ("el año que viene", "2027-01-01 year"),
        ],
    );
    check(
        "nl",
        &[
            ("5 maart 2027", "2027-03-05 day"),
            ("over drie weken", "2026-12-14 week"),
            ("volgende maand", "2026-12-01 month"),
            ("eind maart", "2027-03-31 month"),
            ("morgen", "2026-11-24 day"),
            ("begin volgend jaar", "2027-01-01 year"),
            ("week 10", "2027-03-08 week"),
        ],
    );
    check(
        "pl",
        &[
            ("5 marca 2027", "2027-03-05 day"),
            ("za trzy tygodnie", "2026-12-14 week"),
            ("za tydzień", "2026-11-30 week"),
            ("w przyszłym miesiącu", "2026-12-01 month"),
            ("koniec marca", "2027-03-31 month"),
            ("jutro", "2026-11-24 day"),
            ("pojutrze", "2026-11-25 day"),
            ("w marcu", "2027-03-01 month"),
            ("w przyszłym roku", "2027-01-01 year"),
        ],
    );
}
