use std::collections::BTreeMap;

use super::*;
use crate::talk::Context;
use lumbo_formula::PlainLookup;

fn demo() -> crate::file::Dialogue {
    crate::file::load(include_str!("../../../../../demo/storage-enquiry.json")).unwrap()
}

fn score(answers: &[(&str, Value)]) -> ScoreResult {
    scored(&demo(), answers)
}

fn scored(dialogue: &crate::file::Dialogue, answers: &[(&str, Value)]) -> ScoreResult {
    let (card, faults) = Card::new(&dialogue.scorecards[0], &dialogue.fields, &[], "en");
    assert_eq!(faults, []);
    let lookup = PlainLookup {
        values: answers.iter().map(|(key, value)| ((*key).to_owned(), value.clone())).collect::<BTreeMap<_, _>>(),
        ..PlainLookup::default()
    };
    let context = Context::default();
    let facts = Facts {
        lookup: &lookup,
        scores: &lumbo_condition::Scored::default(),
        around: lumbo_condition::circumstances::Circumstances::of(&context),
    };
    let result = card.score(facts, "en");
    assert_eq!(card.total(facts), result.total, "the quick total agrees with the whole result");
    result
}

fn pallets(n: i64) -> (&'static str, Value) {
    ("pallets", Value::number(n.into()))
}
fn pick(field: &'static str, key: &str) -> (&'static str, Value) {
    (field, Value::choice(key))
}
fn company_address() -> (&'static str, Value) {
    ("email", Value::text("pia@harrowpeel.example"))
}

/// The scorecard is the one that the design lays down for the demo.
#[test]
fn the_demo_scorecard_gives_the_points_that_its_design_lays_down() {
    let blast = || ("blast_freezing", Value::YesNo { yes: true });
    for (answers, total, band) in [
        (vec![], 0, "Nurture"),
        (
            vec![
                pick("temperature", "frozen"),
                blast(),
                pallets(60),
                pick("role", "owner"),
                pick("start", "soon"),
                company_address(),
            ],
            87,
            "Hot",
        ),
        (
            vec![
                pick("temperature", "frozen"),
                blast(),
                pallets(340),
                pick("role", "owner"),
                pick("start", "soon"),
                company_address(),
            ],
            95,
            "Hot",
        ),
        (vec![pick("temperature", "frozen"), pallets(199), pick("role", "quotes"), company_address()], 15, "Nurture"),
        (vec![pick("role", "quotes")], -10, "Nurture"),
        (vec![pallets(49)], 0, "Nurture"),
        (vec![pallets(50), pick("start", "half_year")], 20, "Nurture"),
    ] {
        let result = score(&answers);
        assert_eq!((result.total, result.band_label.as_str()), (total, band), "{answers:?}");
    }
}

#[test]
fn a_dimension_counts_no_more_than_its_ceiling_and_says_what_that_took_away() {
    let result = score(&[pick("temperature", "frozen"), ("blast_freezing", Value::YesNo { yes: true }), pallets(200)]);
    assert_eq!((result.dimensions[0].sum, result.dimensions[0].counts), (52, 45));
}

#[test]
fn a_band_begins_at_its_threshold() {
    let at = |role: &str, start: &str, cold: &str| {
        score(&[pick("role", role), pick("start", start), pick("temperature", cold), pallets(60), company_address()])
    };
    assert_eq!(
        (at("owner", "half_year", "chilled").total, at("owner", "half_year", "chilled").band_label.as_str()),
        (45, "Warm")
    );
    let exactly_70 = score(&[
        pick("role", "owner"),
        pick("start", "soon"),
        pallets(60),
        company_address(),
        ("blast_freezing", Value::YesNo { yes: true }),
    ]);
    assert_eq!((exactly_70.total, exactly_70.band_label.as_str()), (72, "Hot"));
    let dialogue = demo();
    let (card, _) = Card::new(&dialogue.scorecards[0], &dialogue.fields, &[], "en");
    for (total, band) in [(i64::MIN, 0), (39, 0), (40, 1), (69, 1), (70, 2), (i64::MAX, 2)] {
        assert_eq!(card.band_index(total), band, "{total}");
    }
}

#[test]
fn without_a_must_have_the_band_is_capped_and_the_lowest_cap_wins() {
    let result = score(&[pick("temperature", "frozen"), pallets(340), pick("role", "owner"), pick("start", "soon")]);
    assert_eq!((result.total, result.band_label.as_str(), result.band_by_points.as_str()), (90, "Warm", "hot"));
    assert!(result.caps[0].lowered);
}

#[test]
fn a_rule_out_takes_the_band_away_and_keeps_the_points() {
    let result = score(&[pallets(3), pick("role", "owner"), company_address()]);
    assert_eq!((result.total, result.band.clone(), result.band_label.as_str()), (25, None, "Ruled out"));
    assert_eq!(result.rule_outs[0].reason, "The smallest bay is 5 pallets.");
    assert_eq!(score(&[pallets(5)]).rule_outs, []);
}

#[test]
fn what_was_not_answered_gives_no_points_and_is_listed_as_unknown() {
    assert_eq!(
        score(&[pick("temperature", "chilled")]).unknown,
        ["c_blast", "c_pallets", "c_owner", "c_quotes", "c_soon", "c_half"]
    );
}

#[test]
fn a_criterion_cannot_read_the_score() {
    let mut dialogue = demo();
    let json = serde_json::json!({"id": "c_self", "gives": {"when": {"holds": {"compare": {"what": "@score",
        "is": "at_least", "to": "1"}}, "points": 5}}});
    dialogue.scorecards[0].dimensions[0].criteria.push(serde_json::from_value(json).unwrap());
    let (_, faults) = Card::new(&dialogue.scorecards[0], &dialogue.fields, &[], "en");
    assert_eq!(
        faults,
        [("c_self".to_owned(), "a criterion cannot read @score: the score would depend on itself".to_owned())]
    );
}

/// −10 to 95 are the bounds that the demo's design names.
#[test]
fn the_scale_of_the_demo_runs_from_minus_10_to_95() {
    assert_eq!(bounds(&demo().scorecards[0]), (-10, 95));
}

#[test]
fn the_lines_that_differ_add_up_to_the_difference_of_the_totals() {
    let answers = [
        pick("temperature", "frozen"),
        ("blast_freezing", Value::YesNo { yes: true }),
        pallets(200),
        pick("role", "owner"),
        pick("start", "soon"),
    ];
    let then = score(&answers);
    let mut other = demo();
    let need = &mut other.scorecards[0].dimensions[0];
    need.ceiling = Some(60);
    need.criteria.remove(1);
    other.scorecards[0].dimensions[2].criteria[0].gives =
        Gives::When { holds: condition_of(&other, "c_soon"), points: 20 };
    let now = scored(&other, &answers);
    let lines: Vec<(String, bool, Option<i64>, Option<i64>)> =
        differs(&then, &now).into_iter().map(|line| (line.label, line.ends, line.then, line.now)).collect();
    assert_eq!(
        lines,
        [
            ("Need".to_owned(), true, Some(-7), Some(0)),
            ("Start is Within 8 weeks".to_owned(), false, Some(25), Some(20)),
            ("Blast freezing is yes".to_owned(), false, Some(12), None),
        ]
    );
    let sum: i64 = lines.iter().map(|line| line.3.unwrap_or(0) - line.2.unwrap_or(0)).sum();
    assert_eq!(sum, now.total - then.total);
    assert_eq!(differs(&then, &then), []);
}

fn condition_of(dialogue: &crate::file::Dialogue, id: &str) -> crate::file::Condition {
    let criteria = dialogue.scorecards[0].dimensions.iter().flat_map(|dimension| &dimension.criteria);
    match &criteria.into_iter().find(|criterion| criterion.id == id).unwrap().gives {
        Gives::When { holds, .. } => holds.clone(),
        other => panic!("{other:?}"),
    }
}

#[test]
fn all_bands_but_the_lowest_count_as_qualified_unless_their_author_says_otherwise() {
    let mut card = demo().scorecards.remove(0);
    let qualified = |card: &Scorecard| (0..4).map(|band| card.is_qualified(band)).collect::<Vec<_>>();
    assert_eq!(qualified(&card), [false, true, true, false]);
    card.bands[0].qualified = Some(true);
    card.bands[1].qualified = Some(false);
    assert_eq!(qualified(&card), [true, false, true, false]);
}
