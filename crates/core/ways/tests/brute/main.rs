//! Reach against brute force: small made-up outlines, every answer of every cell given to the conversation engine, and
//! the same turns, arms, ends, points, bands and gaps wanted of both.
//!
//! A fixed seed here; `LUMBO_BRUTE_SEED` and `LUMBO_BRUTE_COUNT` try others.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, reason = "helpers of tests are tests")]

mod enumerate;
mod outline;

use std::collections::BTreeSet;

use lumbo_dialogue::plan::Kind;
use lumbo_dialogue::{Plan, file::load};
use lumbo_ways::reach::{Reach, reach, still};

use enumerate::Held;

/// What reach says, in the terms of the enumeration.
fn said(plan: &Plan, reach: &Reach) -> Held {
    let mut held = Held::default();
    let never: BTreeSet<&str> = reach.turns_never.iter().map(String::as_str).collect();
    let untaken: BTreeSet<&str> = reach.arms_never.iter().map(String::as_str).collect();
    for node in plan.turns.iter().filter(|node| !never.contains(node.id.as_str())) {
        // A Fork that takes no arm and an Open ask that is passed leave no event to see them by.
        if !matches!(node.kind, Kind::Fork | Kind::OpenAsk(_)) {
            held.turns.insert(node.id.clone());
        }
        held.arms.extend(node.arms.iter().map(|arm| arm.id.clone()).filter(|arm| !untaken.contains(arm.as_str())));
    }
    for row in &reach.outcomes {
        let score = row.score.expect("there is a scorecard");
        held.outcomes.insert(row.key.clone(), (score.low.unwrap_or(i64::MIN), score.high.unwrap_or(i64::MAX)));
        let questions = row.questions.expect("an end has questions");
        held.questions.insert(row.key.clone(), (questions.least, questions.most));
    }
    for row in &reach.bands {
        let score = row.score.expect("there is a scorecard");
        held.bands.insert(row.key.clone(), (score.low.unwrap_or(i64::MIN), score.high.unwrap_or(i64::MAX)));
    }
    held.gaps = reach.gaps.iter().map(|gap| (gap.turn.clone(), gap.fields.join(" "))).collect();
    held.lacks = reach.lacks.iter().map(|gap| (gap.turn.clone(), gap.fields.join(" "))).collect();
    held.unsettled = reach.without_consent.iter().map(|gap| (gap.turn.clone(), gap.fields.join(" "))).collect();
    held.queues = reach.queues.iter().map(|row| row.key.clone()).collect();
    held
}

/// What is wrong with one outline, if anything.
fn wrong(file: &serde_json::Value) -> Option<(String, bool)> {
    let dialogue = load(&file.to_string()).unwrap_or_else(|error| panic!("{error}: {file}"));
    let (plan, faults) = Plan::new(&dialogue);
    assert!(faults.is_empty(), "{faults:?} {file}");
    let reach = reach(&plan, enumerate::now(), &|| false).expect("not overtaken");
    let held = enumerate::all(&plan)?;
    let claimed = said(&plan, &reach);
    let missed = held.beyond(&claimed);
    if !missed.is_empty() {
        return Some((format!("missed by reach: {missed:#?}"), true));
    }
    let claims = if reach.over.is_empty() { claimed.beyond(&held) } else { Vec::new() };
    // A witness was held by the engine already; whatever it did, brute force must have seen.
    (!claims.is_empty()).then(|| (format!("claimed by reach alone: {claims:#?}"), false))
}

/// Takes turns, arms, sections and criteria away while the outline stays wrong.
fn shrunk(mut file: serde_json::Value) -> serde_json::Value {
    'again: loop {
        for smaller in outline::smaller(&file) {
            let usable = load(&smaller.to_string()).is_ok_and(|dialogue| Plan::new(&dialogue).1.is_empty());
            if usable && wrong(&smaller).is_some() {
                file = smaller;
                continue 'again;
            }
        }
        return file;
    }
}

#[test]
fn reach_agrees_with_every_conversation() {
    let number = |name: &str, usual: u64| std::env::var(name).ok().and_then(|text| text.parse().ok()).unwrap_or(usual);
    let seed = number("LUMBO_BRUTE_SEED", 20_261_128);
    let count = number("LUMBO_BRUTE_COUNT", 60);
    let (mut looked, mut exact, mut bounds) = (0, 0, 0);
    for case in 0..count {
        let file = outline::made_up(seed.wrapping_mul(1_000_003).wrapping_add(case));
        if let Some((says, unsound)) = wrong(&file) {
            let file = shrunk(file);
            let says = wrong(&file).map_or(says, |(says, _)| says);
            panic!(
                "case {case} of seed {seed}, {}: {says}\n{}",
                if unsound { "unsound" } else { "not exact" },
                serde_json::to_string(&file).unwrap()
            );
        }
        let dialogue = load(&file.to_string()).unwrap();
        let (plan, _) = Plan::new(&dialogue);
        let reach = reach(&plan, enumerate::now(), &|| false).unwrap();
        looked += 1;
        for row in reach.outcomes.iter().chain(&reach.bands) {
            bounds += 1;
            exact += u64::from(row.score.is_some_and(|score| score.exact));
        }
    }
    println!("{looked} outlines; {exact} of {bounds} bounds have a witness at both ends");
    // What brute force agrees with has a witness nearly always: the rest are replies that could not be made up.
    assert!(exact * 100 >= bounds * 85, "{exact} of {bounds}");
}

/// What can still come of a conversation never widens by an answer, and its end lies within it.
#[test]
fn an_answer_never_widens_what_can_still_come() {
    let (mut steps, mut settled) = (0, 0);
    for case in 0..25 {
        let file = outline::made_up(77_000 + case);
        let dialogue = load(&file.to_string()).unwrap();
        let (plan, _) = Plan::new(&dialogue);
        for walk in 0..2 {
            let states = enumerate::walked(&plan, case * 10 + walk);
            let mut before: Option<lumbo_ways::reach::Still> = None;
            let Some(last) = states.last() else { continue };
            for state in &states {
                let Some(now) = still(&plan, state, enumerate::now()) else { continue };
                if let Some(before) = before.filter(|before| before.in_full && now.in_full) {
                    let says = format!("case {case}: {before:?} then {now:?}\n{file}");
                    assert!(before.low <= now.low && now.high <= before.high, "{says}");
                    assert!(now.bands.iter().all(|band| before.bands.contains(band)), "{says}");
                }
                if last.closed.as_deref().is_some_and(|outcome| !outcome.is_empty()) {
                    let (low, high) = (now.low.unwrap_or(i64::MIN), now.high.unwrap_or(i64::MAX));
                    assert!(
                        (low..=high).contains(&last.points),
                        "case {case}: {} is not in {now:?}\n{file}",
                        last.points
                    );
                }
                steps += 1;
                settled += u64::from(now.settled);
                before = Some(now);
            }
        }
    }
    assert!(steps > 60 && settled > 6, "{steps} steps, {settled} of them settled");
}
