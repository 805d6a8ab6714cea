//! Every reader is linear on any input: replies made of fragments that a reader may look ahead or back over, four times
//! as long, take at most so much longer. A reader that looks at all that follows from each of its places takes sixteen
//! times.

#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use std::time::{Duration, Instant};

use lumbo_reading::{FreeReader, ReadContext, Reader, ReaderSpec};
use lumbo_value::{Field, FieldType};
use proptest::prelude::*;
use proptest::test_runner::Config;

const SHORT: usize = 2_400;
const LONG: usize = 9_600;
/// Four is linear, sixteen is a square; what lies between is noise of the machine and what is done once.
const GROWTH: f64 = 9.0;
/// What is read within this is quick enough, whatever it grows like.
const QUICK: Duration = Duration::from_millis(25);

fn field(kind: FieldType) -> Field {
    let options: Vec<serde_json::Value> = match kind {
        FieldType::Choice | FieldType::Choices => ["frozen", "chilled", "1–10", "11–50"]
            .iter()
            .map(|key| serde_json::json!({"key": key, "label": {"en": key}}))
            .collect(),
        FieldType::Scale => {
            (1..=5).map(|key| serde_json::json!({"key": key.to_string(), "label": {"en": key.to_string()}})).collect()
        }
        _ => Vec::new(),
    };
    serde_json::from_value(serde_json::json!({"id": kind.name(), "key": kind.name(), "label": kind.name(),
        "type": kind, "options": options}))
    .unwrap()
}

fn context() -> ReadContext<'static> {
    ReadContext { country: Some("GB"), today: Some("2026-11-23".parse().unwrap()), ..ReadContext::default() }
}

fn of_length(fragment: &str, length: usize) -> String {
    let mut text = fragment.repeat(length / fragment.len() + 1);
    text.truncate((0..=length).rev().find(|end| text.is_char_boundary(*end)).unwrap());
    text
}

/// The quickest of some readings.
fn took(read: &impl Fn(&str), text: &str, times: usize) -> Duration {
    let once = || {
        let begun = Instant::now();
        read(text);
        begun.elapsed()
    };
    (0..times).map(|_| once()).min().unwrap()
}

fn check(name: &str, fragment: &str, read: impl Fn(&str)) {
    let (short, long) = (of_length(fragment, SHORT), of_length(fragment, LONG));
    if took(&read, &long, 1) <= QUICK {
        return;
    }
    let growth = || took(&read, &long, 5).as_secs_f64() / took(&read, &short, 5).as_secs_f64();
    // A machine that does other work meanwhile makes one measurement large, not three.
    let growth = (0..3).map(|_| growth()).find(|growth| *growth <= GROWTH).unwrap_or(f64::INFINITY);
    assert!(
        growth <= GROWTH,
        "{name}: {fragment:?} four times as long takes more than {GROWTH} times as long, three times out of three"
    );
}

fn check_everywhere(fragment: &str, language: &str) {
    for kind in FieldType::ALL {
        let reader = Reader::new(ReaderSpec::of(&field(kind), language)).unwrap();
        check(kind.name(), fragment, |text| drop(std::hint::black_box(reader.read(text, context(), 0))));
    }
    let readers = FieldType::ALL
        .into_iter()
        .map(|kind| (Reader::new(ReaderSpec::of(&field(kind), language)).unwrap(), vec![kind.name().to_owned()]));
    let free = FreeReader::new(readers.collect(), language);
    check("all fields at once", fragment, |text| drop(std::hint::black_box(free.read(text, context()))));
}

fn fragments() -> Vec<String> {
    serde_json::from_str(include_str!("data/slow_fragments.json")).unwrap()
}

#[test]
fn fragments_that_were_slow_once_are_read_in_time_with_their_length() {
    // The date reader looked at the whole run of digits from each of them.
    for fragment in ["1,1.", "1,1.1,", "100 ", "+4412345 0123456 ", "in 3 1-", "01 from ", "(0in 3 ", "1-van de "] {
        check_everywhere(fragment, "en");
    }
}

proptest! {
    #![proptest_config(Config { cases: 24, ..Config::default() })]
    #[test]
    fn any_fragments_are_read_in_time_with_their_length(
        parts in prop::collection::vec(prop::sample::select(fragments()), 1..4),
        language in 0_usize..6,
    ) {
        check_everywhere(&parts.concat(), ["en", "de", "fr", "es", "nl", "pl"][language]);
    }
}
