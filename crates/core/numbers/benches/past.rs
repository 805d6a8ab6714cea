//! How long past leads take: a scorecard held against them, points suggested, leads given out again. The median of five
//! runs for each count.
//!
//! `cargo bench -p lumbo-numbers`
#![allow(clippy::unwrap_used, reason = "a bench is a test of speed")]

use std::collections::BTreeMap;
use std::hint::black_box;
use std::time::Instant;

use lumbo_dialogue::Plan;
use lumbo_dialogue::file::load;
use lumbo_numbers::again::{AgainBy, again};
use lumbo_numbers::bench::{Asked, Counts, bench};
use lumbo_numbers::suggest::suggest;
use lumbo_numbers::{End, Filed, PastLeads};
use lumbo_route::{Limits, Load, Member, Picks, Queue, Share};
use lumbo_value::Value;
use uuid::Uuid;

fn now() -> jiff::Timestamp {
    "2026-11-23T09:00:00Z".parse().unwrap()
}

/// Leads with answers that a small generator of numbers draws.
fn past(count: u64) -> PastLeads {
    let mut past = PastLeads::default();
    let mut state = 7_u64;
    let mut draw = |of: u64| {
        state = state.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        (state >> 33) % of
    };
    for number in 0..count {
        let pick = |key: &str, of: &[&str], at: u64| (key.to_owned(), Value::choice(of[at as usize % of.len()]));
        let answers = vec![
            pick("fld_temperature", &["frozen", "chilled"], draw(2)),
            ("fld_blast".to_owned(), Value::YesNo { yes: draw(3) == 0 }),
            ("fld_pallets".to_owned(), Value::number((5 + draw(400)).into())),
            pick("fld_role", &["owner", "manager", "quotes"], draw(3)),
            pick("fld_start", &["soon", "half_year", "later"], draw(3)),
            ("fld_email".to_owned(), Value::text("a@b.example")),
            ("fld_company".to_owned(), Value::text("Gorse Larder")),
        ];
        let at = now() - jiff::SignedDuration::from_secs((draw(360 * 86_400)) as i64);
        let end = if draw(5) == 0 { End::Won } else { End::Lost };
        let filed = Filed {
            owner: Some(Uuid::from_u128(u128::from(draw(4)) + 1)),
            tried: Some(at + jiff::SignedDuration::from_hours(3)),
            ..Filed::new(Uuid::from_u128(u128::from(number)), at, end)
        };
        past.put(filed, answers);
    }
    past
}

fn queue(number: u128) -> Queue {
    let member = |who: u128| Member {
        person: Uuid::from_u128(who),
        name: format!("rep {who}"),
        share: Share { weight: 1, current: 0 },
        load: Load::default(),
        limits: Limits { untried: Some(40), a_day: Some(80) },
        skills: Vec::new(),
        paused: false,
        away_until: None,
    };
    Queue {
        id: Uuid::from_u128(1_000 + number),
        name: format!("queue {number}"),
        picks: Picks::Rotation,
        members: (1..=4).map(member).collect(),
        last: None,
        hours: None,
        passes_on: false,
    }
}

fn timed(mut work: impl FnMut()) -> f64 {
    let mut times: Vec<f64> = (0..5)
        .map(|_| {
            let at = Instant::now();
            work();
            at.elapsed().as_secs_f64() * 1_000.0
        })
        .collect();
    times.sort_by(f64::total_cmp);
    times[2]
}

fn main() {
    let dialogue = load(include_str!("../../../../demo/storage-enquiry.json")).unwrap();
    let (plan, _) = Plan::new(&dialogue);
    let mut other = dialogue.clone();
    other.scorecards[0].bands[2].from = Some(65);
    let (against, _) = Plan::new(&other);
    let chains: BTreeMap<String, Vec<Queue>> = ["aldermoor", "saltwick", "senior"]
        .iter()
        .enumerate()
        .map(|(number, key)| ((*key).to_owned(), vec![queue(number as u128)]))
        .collect();
    println!("{:>8} {:>12} {:>12} {:>12}", "leads", "held, ms", "suggest, ms", "again, ms");
    for count in [431, 5_000, 10_000, 50_000] {
        let leads = past(count);
        let named = leads.named(&dialogue.fields, "GBP");
        let since = now() - jiff::SignedDuration::from_hours(365 * 24);
        let (card, against) = (&plan.cards[0], Some(&against.cards[0]));
        let asked = Asked { card, against, counts: Counts::Won, since, now: now(), people: 4 };
        let held = timed(|| {
            black_box(bench(&named, &asked));
        });
        let suggested = timed(|| {
            let _ = black_box(suggest(&named, &asked, None));
        });
        let (tables, firms) = (BTreeMap::new(), BTreeMap::new());
        let (chains, tables, firms) = (&chains, &tables, &firms);
        let by = AgainBy { routes: &plan.routes, card: Some(card), chains, tables, firms, since };
        let given = timed(|| {
            black_box(again(&named, &by));
        });
        println!("{count:>8} {held:>12.1} {suggested:>12.1} {given:>12.1}");
    }
}
