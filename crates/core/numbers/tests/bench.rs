//! A scorecard held against past leads.
#![allow(clippy::unwrap_used, reason = "a test")]

use lumbo_dialogue::Plan;
use lumbo_dialogue::file::{Dialogue, Gives, load};
use lumbo_dialogue::score::bounds;
use lumbo_numbers::bench::{Asked, Bench, Counts, bench};
use lumbo_numbers::suggest::{Doubt, NoSuggestion, suggest};
use lumbo_numbers::{End, Filed, PastLeads};
use lumbo_value::Value;
use proptest::prelude::*;
use uuid::Uuid;

fn demo() -> Dialogue {
    load(include_str!("../../../../demo/storage-enquiry.json")).unwrap()
}

type Answers = Vec<(&'static str, Value)>;

fn pick(field: &'static str, key: &str) -> (&'static str, Value) {
    (field, Value::choice(key))
}
fn pallets(count: i64) -> (&'static str, Value) {
    ("pallets", Value::number(count.into()))
}
fn address() -> (&'static str, Value) {
    ("email", Value::text("pia@harrowpeel.example"))
}

/// Leads a week apart, the last a week before now.
fn past(leads: &[(Answers, End)]) -> PastLeads {
    let (mut past, fields) = (PastLeads::default(), demo().fields);
    for (place, (answers, end)) in leads.iter().enumerate() {
        let week = i64::try_from(leads.len() - place).unwrap();
        let at = now() - jiff::SignedDuration::from_hours(week * 7 * 24);
        let filed = Filed::new(Uuid::from_u128(place as u128), at, *end);
        let id = |key: &str| fields.iter().find(|field| field.key == key).unwrap().id.clone();
        past.put(filed, answers.iter().map(|(key, value)| (id(key), value.clone())));
    }
    past
}

fn now() -> jiff::Timestamp {
    "2026-11-23T09:00:00Z".parse().unwrap()
}

fn held(dialogue: &Dialogue, against: Option<&Dialogue>, leads: &PastLeads, counts: Counts) -> Bench {
    let (plan, _) = Plan::new(dialogue);
    let other = against.map(|other| Plan::new(other).0);
    let since = now() - jiff::SignedDuration::from_hours(365 * 24);
    let against = other.as_ref().map(|plan| &plan.cards[0]);
    bench(
        &leads.named(&dialogue.fields, "GBP"),
        &Asked { card: &plan.cards[0], against, counts, since, now: now(), people: 2 },
    )
}

fn hot() -> Answers {
    vec![
        pick("temperature", "frozen"),
        ("blast_freezing", Value::YesNo { yes: true }),
        pallets(60),
        pick("role", "owner"),
        pick("start", "soon"),
        address(),
    ]
}

fn poor() -> Answers {
    vec![pick("temperature", "chilled"), pallets(20), pick("role", "quotes"), pick("start", "later"), address()]
}

#[test]
fn leads_that_are_junk_never_reached_open_or_ruled_out_are_left_out_and_counted() {
    let leads = past(&[
        (hot(), End::Won),
        (hot(), End::Lost),
        (hot(), End::Junk),
        (hot(), End::NotReached),
        (hot(), End::Open),
        (hot(), End::Accepted),
        (vec![pick("temperature", "ambient")], End::Lost),
    ]);
    let by_won = held(&demo(), None, &leads, Counts::Won);
    assert_eq!((by_won.counted.won, by_won.counted.leads), (1, 2));
    let left = by_won.left_out;
    assert_eq!((left.ruled_out, left.junk, left.not_reached, left.open), (1, 1, 1, 2));
    let by_accepted = held(&demo(), None, &leads, Counts::Accepted);
    assert_eq!((by_accepted.counted.won, by_accepted.counted.leads, by_accepted.left_out.open), (2, 3, 1));
}

#[test]
fn a_line_counts_leads_with_without_and_unknown_apart() {
    let mut silent = poor();
    silent.retain(|(key, _)| *key != "role");
    let leads = past(&[(hot(), End::Won), (hot(), End::Lost), (poor(), End::Lost), (silent, End::Lost)]);
    let found = held(&demo(), None, &leads, Counts::Won);
    let row = |id: &str, at: Option<u32>| found.rows.iter().find(|row| row.id == id && row.row == at).unwrap();
    let counts = |row: &lumbo_numbers::bench::RowBench| {
        [row.met, row.not_met, row.unknown].map(|counted| (counted.won, counted.leads))
    };
    assert_eq!(counts(row("c_owner", None)), [(1, 2), (0, 1), (0, 1)]);
    assert_eq!(counts(row("c_pallets", Some(0))), [(1, 2), (0, 2), (0, 0)]);
    assert_eq!(counts(row("c_pallets", Some(1))), [(0, 0), (1, 4), (0, 0)]);
    assert_eq!(row("c_pallets", Some(1)).difference, None, "the difference to nothing is nothing");
    // Blast freezing was asked of frozen goods alone.
    assert_eq!(counts(row("c_blast", None)), [(1, 2), (0, 0), (0, 2)]);
    assert_eq!(counts(row("r_ambient", None)), [(0, 0), (1, 4), (0, 0)]);
    let names: Vec<&str> = found.rows.iter().map(|row| row.id.as_str()).collect();
    assert_eq!(names[..4], ["c_frozen", "c_blast", "c_pallets", "c_pallets"]);
    assert_eq!(names[names.len() - 3..], ["m_company", "r_ambient", "r_tiny"]);
}

#[test]
fn bands_say_how_many_a_week_and_how_many_calls_that_is() {
    let leads = past(&[(hot(), End::Won), (hot(), End::Lost), (hot(), End::Lost), (poor(), End::Lost)]);
    let found = held(&demo(), None, &leads, Counts::Won);
    assert_eq!(found.weeks, 4.0);
    let hot = &found.bands[2];
    assert_eq!((hot.id.as_str(), hot.leads.leads, hot.a_week), ("hot", 3, 0.75));
    // Three quarters of a call a week, over five days and two people.
    assert!((hot.calls.unwrap() - 0.075).abs() < 1e-12);
}

#[test]
fn a_moved_threshold_names_who_changes_band() {
    let mut moved = demo();
    moved.scorecards[0].bands[2].from = Some(90);
    let leads = past(&[(hot(), End::Won), (poor(), End::Lost), (hot(), End::Open)]);
    let moves = held(&moved, Some(&demo()), &leads, Counts::Won).moves.unwrap();
    assert_eq!((moves.leads, moves.newest.len(), moves.between.len()), (2, 2, 1), "open ones are listed too");
    let between = &moves.between[0];
    assert_eq!((between.from.as_deref(), between.to.as_deref()), (Some("hot"), Some("warm")));
    assert_eq!((moves.newest[0].before, moves.newest[0].after), (87, 87));
    assert_eq!(held(&demo(), Some(&demo()), &leads, Counts::Won).moves.unwrap().leads, 0);
}

#[test]
fn criteria_that_are_never_met_together_are_named_once_it_is_worth_saying() {
    let owners =
        (0..20).map(|_| (vec![pick("role", "owner"), pick("start", "later"), pallets(20), address()], End::Won));
    let soon =
        (0..20).map(|_| (vec![pick("role", "manager"), pick("start", "soon"), pallets(20), address()], End::Lost));
    let mut leads: Vec<(Answers, End)> = owners.chain(soon).collect();
    let named = |leads: &[(Answers, End)]| {
        let found = held(&demo(), None, &past(leads), Counts::Won);
        let name = |place: usize| found.rows[place].id.clone();
        found.never_together.iter().map(|pair| (name(pair.first), name(pair.second))).collect::<Vec<_>>()
    };
    assert_eq!(named(&leads), [("c_owner".to_owned(), "c_soon".to_owned())]);
    assert!(named(&leads[..10]).is_empty(), "too few to say");
    leads.push((hot(), End::Won));
    assert!(named(&leads).is_empty(), "one lead met both");
}

#[test]
fn without_any_lead_there_is_nothing_to_say_and_nothing_breaks() {
    let found = held(&demo(), Some(&demo()), &past(&[]), Counts::Won);
    assert_eq!((found.counted.leads, found.counted.rate, found.tells, found.brier), (0, None, None, None));
    assert!(found.calibration.is_empty() && found.never_together.is_empty());
    assert!(found.bins.iter().all(|bin| bin.leads == 0));
}

#[test]
fn a_card_with_too_many_criteria_is_not_weighed() {
    let mut dialogue = demo();
    let criteria = &mut dialogue.scorecards[0].dimensions[0].criteria;
    let one = criteria[0].clone();
    criteria.extend((0..100).map(|place| lumbo_dialogue::file::Criterion { id: format!("c_{place}"), ..one.clone() }));
    let (plan, _) = Plan::new(&dialogue);
    let since = now() - jiff::SignedDuration::from_hours(24 * 365);
    let asked = Asked { card: &plan.cards[0], against: None, counts: Counts::Won, since, now: now(), people: 1 };
    let leads = past(&[]);
    let found = suggest(&leads.named(&dialogue.fields, "GBP"), &asked, None);
    assert_eq!(found.unwrap_err(), NoSuggestion::TooMany);
}

fn suggested(leads: &PastLeads) -> Result<lumbo_numbers::suggest::Suggestion, NoSuggestion> {
    let (plan, _) = Plan::new(&demo());
    let since = now() - jiff::SignedDuration::from_hours(24 * 24 * 365);
    let asked = Asked { card: &plan.cards[0], against: None, counts: Counts::Won, since, now: now(), people: 1 };
    suggest(&leads.named(&demo().fields, "GBP"), &asked, Some(20.0))
}

#[test]
fn points_are_suggested_from_enough_leads_with_reasons_to_doubt_them() {
    assert_eq!(suggested(&past(&[(hot(), End::Won)])).unwrap_err(), NoSuggestion::TooFew);
    // Owners win three in four, the others one in four; blast freezing was won whenever it was met.
    let lead = |place: u32| {
        let owner = place.is_multiple_of(2);
        let won = if owner { !place.is_multiple_of(8) } else { place % 8 == 1 };
        let mut answers = vec![pick("role", if owner { "owner" } else { "manager" }), pallets(20), address()];
        if owner && won && place % 16 == 2 {
            answers.push(("blast_freezing", Value::YesNo { yes: true }));
        }
        (answers, if won { End::Won } else { End::Lost })
    };
    let found = suggested(&past(&(0..320).map(lead).collect::<Vec<_>>())).unwrap();
    assert_eq!((found.leads, found.doubles), (320, 20.0));
    let of = |id: &str| found.points.iter().find(|one| one.id == id).unwrap();
    let owner = of("c_owner");
    assert_eq!((owner.today, owner.met, owner.doubts.len()), (25, 160, 0));
    // Nine times the odds are a little over three doublings of 20 points, held somewhat smaller.
    assert!((48..=64).contains(&owner.points), "{owner:?}");
    assert!(owner.interval.low < owner.points as f64 && (owner.points as f64) < owner.interval.high);
    assert_eq!(of("c_blast").doubts, [Doubt::Separates]);
    assert_eq!(of("c_frozen").doubts, [Doubt::Few], "nobody said");
    assert!(found.suggested_tells.unwrap().value > 0.7);
}

#[test]
fn a_criterion_that_is_the_outcome_in_disguise_is_named() {
    let lead = |place: u32| {
        let won = place.is_multiple_of(3);
        (vec![pick("role", if won { "owner" } else { "manager" }), address()], if won { End::Won } else { End::Lost })
    };
    let found = suggested(&past(&(0..90).map(lead).collect::<Vec<_>>())).unwrap();
    let owner = found.points.iter().find(|one| one.id == "c_owner").unwrap();
    assert_eq!(owner.doubts, [Doubt::Separates, Doubt::Leaks]);
}

prop_compose! {
    fn any_lead()(temperature in 0..4_usize, blast in 0..3_usize, count in 0..400_i64, role in 0..4_usize,
        start in 0..4_usize, mail in any::<bool>(), end in 0..6_usize) -> (Answers, End) {
        let mut answers = Vec::new();
        answers.extend(["frozen", "chilled", "ambient"].get(temperature).map(|key| pick("temperature", key)));
        answers.extend([true, false].get(blast).map(|yes| ("blast_freezing", Value::YesNo { yes: *yes })));
        if count > 0 { answers.push(pallets(count)); }
        answers.extend(["owner", "manager", "quotes"].get(role).map(|key| pick("role", key)));
        answers.extend(["soon", "half_year", "later"].get(start).map(|key| pick("start", key)));
        if mail { answers.push(address()); }
        (answers, [End::Won, End::Lost, End::Accepted, End::Open, End::Junk, End::NotReached][end])
    }
}

/// Any points, ends and thresholds in the place of the demo's.
fn any_card() -> impl Strategy<Value = Dialogue> {
    (
        prop::collection::vec(-60..90_i64, 12),
        prop::collection::vec(prop::option::of(-40..60_i64), 6),
        0..60_i64,
        1..60_i64,
    )
        .prop_map(|(points, ends, warm, more)| {
            let mut dialogue = demo();
            let card = &mut dialogue.scorecards[0];
            let mut points = points.into_iter();
            for (dimension, ends) in card.dimensions.iter_mut().zip(ends.chunks(2)) {
                let (floor, ceiling) = (ends[0], ends[1]);
                dimension.floor = floor.zip(ceiling).map_or(floor, |(one, other)| Some(one.min(other)));
                dimension.ceiling = floor.zip(ceiling).map_or(ceiling, |(one, other)| Some(one.max(other)));
                for criterion in &mut dimension.criteria {
                    match &mut criterion.gives {
                        Gives::When { points: given, .. } => *given = points.next().unwrap(),
                        Gives::Table { rows, .. } => {
                            rows.iter_mut().for_each(|row| row.points = points.next().unwrap());
                        }
                        Gives::Formula(_) => {}
                    }
                }
            }
            card.bands[1].from = Some(warm);
            card.bands[2].from = Some(warm + more);
            dialogue
        })
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 60, ..ProptestConfig::default() })]

    /// The arithmetic that is shown adds up to the total, the quick place is the whole result's, and a threshold
    /// belongs to the upper band.
    #[test]
    fn what_is_shown_of_any_card_adds_up(dialogue in any_card(), leads in prop::collection::vec(any_lead(), 1..20)) {
        let (plan, _) = Plan::new(&dialogue);
        let card = &plan.cards[0];
        let (least, most) = bounds(&card.file);
        let past = past(&leads);
        let named = past.named(&dialogue.fields, "GBP");
        for one in named.answered() {
            let (shown, placed) = (card.score(one.facts(), "en"), card.placed(one.facts()));
            let mut sum = 0;
            for dimension in &shown.dimensions {
                let points: i64 = dimension.criteria.iter().map(|criterion| criterion.points).sum();
                prop_assert_eq!(points, dimension.sum);
                let capped = dimension.ceiling.map_or(points, |ceiling| points.min(ceiling));
                prop_assert_eq!(dimension.counts, dimension.floor.map_or(capped, |floor| capped.max(floor)));
                sum += dimension.counts;
            }
            prop_assert_eq!(sum, shown.total);
            prop_assert_eq!(placed.total, shown.total);
            prop_assert_eq!(placed.band.map(|band| card.file.bands[band].id.clone()), shown.band);
            prop_assert!((least..=most).contains(&shown.total));
            if let Some(band) = placed.band.filter(|_| shown.caps.is_empty()) {
                prop_assert!(card.file.bands[band].from.is_none_or(|from| shown.total >= from));
                prop_assert!(card.file.bands.get(band + 1).and_then(|next| next.from).is_none_or(|from| shown.total < from));
            }
        }
    }

    /// Every closed lead is counted once, whatever it is counted by.
    #[test]
    fn all_ways_of_counting_agree(dialogue in any_card(), leads in prop::collection::vec(any_lead(), 0..50)) {
        let found = held(&dialogue, Some(&demo()), &past(&leads), Counts::Won);
        let left = found.left_out;
        prop_assert_eq!(
            found.counted.leads + left.ruled_out + left.junk + left.not_reached + left.open,
            u32::try_from(leads.len()).unwrap()
        );
        let bands: u32 = found.bands.iter().map(|band| band.leads.leads).sum();
        let bins: u32 = found.bins.iter().map(|bin| bin.leads).sum();
        let groups: u32 = found.calibration.iter().map(|group| group.leads.leads).sum();
        prop_assert_eq!((bands, bins, groups), (found.counted.leads, found.counted.leads, found.counted.leads));
        let won: u32 = found.bins.iter().map(|bin| bin.won).sum();
        prop_assert_eq!(won, found.counted.won);
        prop_assert!(found.bins.len() <= 26);
        for row in &found.rows {
            let all = row.met.leads + row.not_met.leads + row.unknown.leads;
            let of = if row.id.starts_with("r_") { found.counted.leads + left.ruled_out } else { found.counted.leads };
            prop_assert_eq!(all, of, "{}", row.id);
        }
    }
}
