use super::*;

fn read(language: &str, unit: Option<&str>, reply: &str) -> String {
    let language = Language::get(language);
    match read_whole(&Scan::new(reply), language, &Units::new(unit, language)) {
        Found::Value(Value::Number(Number { amount, low: Some(low), high: Some(high), .. }), _) => {
            format!("{amount} ({low} to {high})")
        }
        Found::Value(Value::Number(number), heard) => {
            assert!(reply.contains(&heard.text));
            lumbo_value::plain(number.amount)
        }
        Found::Refused(value, _, rule) => format!("{rule}: {value}"),
        Found::Several(_) => "several".into(),
        _ => "nothing".into(),
    }
}

fn check(language: &str, cases: &[(&str, &str)]) {
    let wrong: Vec<String> = cases
        .iter()
        .filter_map(|(reply, expected)| {
            let found = read(language, Some("pallets"), reply);
            (found != *expected).then(|| format!("{reply}: {found}, not {expected}"))
        })
        .collect();
    assert!(wrong.is_empty(), "{language}: {wrong:#?}");
}

#[test]
fn numbers_are_read_in_digits_words_and_both() {
    check(
        "en",
        &[
            ("340", "340"),
            ("about 340", "340"),
            ("~340 pallets", "340"),
            ("3 hundred", "300"),
            ("about 3 hundred and forty", "340"),
            ("three hundred and forty-five", "345"),
            ("twelve hundred", "1200"),
            ("1.2k", "1200"),
            ("2k", "2000"),
            ("two thousand five hundred", "2500"),
            ("a hundred", "100"),
            ("a dozen", "12"),
            ("half a dozen", "6"),
            ("a couple of hundred", "200"),
            ("two and a half thousand", "2500"),
            ("1,200", "1200"),
            ("1 200", "1200"),
            ("1,200,000", "1200000"),
            ("60ish", "60"),
            ("forty", "40"),
            ("one hundred thousand", "100000"),
            ("-5", "-5"),
            ("minus five", "-5"),
            ("12 pallets in 3 weeks", "12"),
            ("from 3 March we need 40 pallets", "40"),
            ("call 020 7946 0958, we have 40", "40"),
            ("40 full pallets a week", "40"),
            ("not 40 but 50", "50"),
            ("40, sorry, 50", "50"),
            ("no more than 40", "40"),
            ("40+", "40"),
            ("0", "0"),
            ("one of our sites has 40 pallets", "40"),
            ("two lakh", "200000"),
        ],
    );
}

#[test]
fn number_words_of_other_languages() {
    check(
        "de",
        &[
            ("dreihundertvierzig", "340"),
            ("zweihundertfünfundzwanzig", "225"),
            ("tausendzweihundert", "1200"),
            ("eineinhalb tausend", "1500"),
            ("2 tausend", "2000"),
            ("ein Dutzend", "12"),
            ("rund 340 Paletten", "340"),
            ("zwischen vierzig und fünfzig", "45 (40 to 50)"),
        ],
    );
    check(
        "fr",
        &[
            ("trois cent quarante", "340"),
            ("quatre-vingt-dix-sept", "97"),
            ("soixante et onze", "71"),
            ("deux mille cinq cents", "2500"),
            ("quatre-vingts", "80"),
            ("une centaine", "100"),
            ("mille deux cents", "1200"),
            ("entre 40 et 50 palettes", "45 (40 to 50)"),
        ],
    );
    check(
        "es",
        &[
            ("trescientos cuarenta", "340"),
            ("cuarenta y cinco", "45"),
            ("mil doscientos", "1200"),
            ("medio millar", "500"),
            ("unos 340 palés", "340"),
            ("entre 40 y 50", "45 (40 to 50)"),
        ],
    );
    check(
        "nl",
        &[
            ("driehonderdveertig", "340"),
            ("vijfentwintig", "25"),
            ("tweeëntwintig", "22"),
            ("twaalfhonderd", "1200"),
            ("anderhalf duizend", "1500"),
            ("tussen 40 en 50", "45 (40 to 50)"),
        ],
    );
    check(
        "pl",
        &[
            ("trzysta czterdzieści", "340"),
            ("dwa tysiące pięćset", "2500"),
            ("półtora tysiąca", "1500"),
            ("tysiąc dwieście", "1200"),
            ("około 340 palet", "340"),
            ("od 40 do 50", "45 (40 to 50)"),
        ],
    );
}

#[test]
fn separators_follow_the_language() {
    for (language, reply, expected) in [
        ("de", "1.200", "1200"),
        ("de", "1.200,50", "whole: 1,200.5"),
        ("en", "1.200,50", "whole: 1,200.5"),
        ("fr", "1 200", "1200"),
        ("fr", "1\u{202f}200", "1200"),
        ("pl", "1 200 000", "1200000"),
        ("nl", "2.500", "2500"),
        ("es", "1,5", "whole: 1.5"),
        ("en", "1.200", "whole: 1.2"),
        ("en", "3.000", "whole: 3"),
        ("en", "12.5", "whole: 12.5"),
        ("en", "1,20,000", "120000"),
        ("de", "1'200", "1200"),
    ] {
        check(language, &[(reply, expected)]);
    }
}

#[test]
fn a_span_keeps_both_ends_and_its_middle_rounded_down() {
    check(
        "en",
        &[
            ("40-50", "45 (40 to 50)"),
            ("40 to 51 pallets", "45 (40 to 51)"),
            ("40 pallets to 50 pallets", "45 (40 to 50)"),
            ("between 100 and 200", "150 (100 to 200)"),
            ("forty or fifty", "45 (40 to 50)"),
            ("2-3k", "2500 (2000 to 3000)"),
            ("two or three hundred", "250 (200 to 300)"),
        ],
    );
}

#[test]
fn what_is_not_one_number_is_not_guessed() {
    check(
        "en",
        &[
            ("", "nothing"),
            ("lots", "nothing"),
            ("a few hundred", "nothing"),
            ("100 boxes or 5 vans and 3 men", "several"),
            ("99999999999999999999999999999999", "nothing"),
            ("k", "nothing"),
            ("20 today 30 tomorrow", "several"),
            ("50-40", "nothing"),
            ("12 tonnes", "nothing"),
            ("£2,000", "nothing"),
            ("24/7", "nothing"),
            ("at 14:30", "nothing"),
            ("asap", "nothing"),
        ],
    );
}
