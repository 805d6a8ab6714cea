//! Past leads given out again by today's rules, hours and people.
#![allow(clippy::unwrap_used, reason = "a test")]

use std::collections::BTreeMap;

use lumbo_calendar::Calendar;
use lumbo_dialogue::Plan;
use lumbo_dialogue::file::{Dialogue, load};
use lumbo_numbers::again::{Again, AgainBy, again};
use lumbo_numbers::{End, Filed, PastLeads};
use lumbo_route::{Firm, FirmIs, Limits, Load, Member, Picks, Queue, Share, Territories, Territory};
use lumbo_value::Value;
use uuid::Uuid;

fn demo() -> Dialogue {
    load(include_str!("../../../../demo/storage-enquiry.json")).unwrap()
}

fn person(number: u128) -> Uuid {
    Uuid::from_u128(100 + number)
}

fn queue(number: u128, members: &[(u128, i64)]) -> Queue {
    let member = |(who, weight): &(u128, i64)| Member {
        person: person(*who),
        name: format!("rep {who}"),
        share: Share { weight: *weight, current: 0 },
        load: Load { untried: 9, today: 9, open: 9 },
        limits: Limits::default(),
        skills: Vec::new(),
        paused: false,
        away_until: None,
    };
    Queue {
        id: Uuid::from_u128(number),
        name: format!("queue {number}"),
        picks: Picks::Rotation,
        members: members.iter().map(member).collect(),
        last: None,
        hours: None,
        passes_on: false,
    }
}

/// The demo's three queues.
fn chains(aldermoor: Queue) -> BTreeMap<String, Vec<Queue>> {
    [
        ("aldermoor".to_owned(), vec![aldermoor]),
        ("saltwick".to_owned(), vec![queue(2, &[(3, 1)])]),
        ("senior".to_owned(), vec![queue(3, &[(1, 1)])]),
    ]
    .into()
}

/// Leads an hour apart from a Monday at nine, tried two hours after they came.
fn past(leads: &[(&str, u128, u128)]) -> PastLeads {
    let mut past = PastLeads::default();
    let first: jiff::Timestamp = "2026-11-23T09:00:00Z".parse().unwrap();
    for (place, (temperature, owner, queue)) in leads.iter().enumerate() {
        let at = first + jiff::SignedDuration::from_hours(place as i64);
        let filed = Filed {
            owner: Some(person(*owner)),
            queue: Some(Uuid::from_u128(*queue)),
            tried: Some(at + jiff::SignedDuration::from_hours(2)),
            ..Filed::new(Uuid::from_u128(place as u128), at, End::Open)
        };
        past.put(filed, [("fld_temperature".to_owned(), Value::choice(*temperature))]);
    }
    past
}

fn given_out(past: &PastLeads, chains: &BTreeMap<String, Vec<Queue>>) -> Again {
    given_out_by(&demo(), past, chains, &BTreeMap::new(), &BTreeMap::new())
}

fn given_out_by(
    dialogue: &Dialogue,
    past: &PastLeads,
    chains: &BTreeMap<String, Vec<Queue>>,
    tables: &BTreeMap<String, Territories>,
    firms: &BTreeMap<Uuid, Firm>,
) -> Again {
    let (plan, _) = Plan::new(dialogue);
    let by = AgainBy {
        routes: &plan.routes,
        card: Some(&plan.cards[0]),
        chains,
        tables,
        firms,
        since: "2026-11-01T00:00:00Z".parse().unwrap(),
    };
    again(&past.named(&dialogue.fields, "GBP"), &by)
}

fn now_of(found: &Again, who: u128) -> (u32, u32, u32) {
    let one = found.people.iter().find(|one| one.person == Some(person(who))).unwrap();
    (one.then, one.now, one.full)
}

#[test]
fn rules_are_counted_and_leads_of_another_queue_change_hands() {
    let leads = past(&[("frozen", 1, 1), ("chilled", 1, 1), ("frozen", 2, 1), ("chilled", 3, 2)]);
    let found = given_out(&leads, &chains(queue(1, &[(1, 1), (2, 1)])));
    let rules: Vec<(Option<&str>, u32)> = found.rules.iter().map(|rule| (rule.rule.as_deref(), rule.leads)).collect();
    assert_eq!(rules, [(Some("rt_hot"), 0), (Some("rt_chilled"), 2), (None, 2)]);
    // One chilled lead came by the wrong queue.
    assert_eq!((found.leads, found.changed), (4, 1));
    let moved = &found.newest[0];
    assert_eq!((moved.from_queue, moved.to_queue), (Some(Uuid::from_u128(1)), Some(Uuid::from_u128(2))));
    assert_eq!((moved.from, moved.to), (Some(person(1)), Some(person(3))));
    assert_eq!((now_of(&found, 1), now_of(&found, 3)), ((2, 1, 0), (1, 2, 0)));
}

#[test]
fn a_table_of_territories_sends_leads_on_and_what_has_no_row_is_counted() {
    let mut dialogue = demo();
    let rule = serde_json::json!({"id": "by_kind", "holds": {"all": []},
        "table": {"table": "kinds", "field": "temperature"}});
    dialogue.routing.rules.insert(0, serde_json::from_value(rule).unwrap());
    let chilled = Territory { starts: "chilled".into(), queue: "senior".into() };
    let kinds =
        Territories { key: "kinds".into(), name: "Kinds".into(), rows: vec![chilled], ..Territories::default() };
    let leads = past(&[("frozen", 1, 1), ("chilled", 1, 1), ("frozen", 2, 1), ("chilled", 3, 2)]);
    let tables: BTreeMap<String, Territories> = [("kinds".to_owned(), kinds)].into();
    let (chains, firms) = (chains(queue(1, &[(1, 1), (2, 1)])), BTreeMap::new());
    let found = given_out_by(&dialogue, &leads, &chains, &tables, &firms);
    let rules: Vec<(Option<&str>, u32, u32)> =
        found.rules.iter().map(|rule| (rule.rule.as_deref(), rule.leads, rule.missed)).collect();
    assert_eq!(rules, [(Some("by_kind"), 2, 2), (Some("rt_hot"), 0, 0), (Some("rt_chilled"), 0, 0), (None, 2, 0)]);
    // Without the table, the rules go on as if it were not there.
    let found = given_out_by(&dialogue, &leads, &chains, &BTreeMap::new(), &firms);
    let rules: Vec<(u32, u32)> = found.rules.iter().map(|rule| (rule.leads, rule.missed)).collect();
    assert_eq!(rules, [(0, 4), (0, 0), (2, 0), (2, 0)]);
}

#[test]
fn a_rule_for_customers_goes_by_what_their_firms_are_today() {
    let mut dialogue = demo();
    let rule = serde_json::json!({"id": "customers", "holds": {"all": []}, "queue": "senior", "firm": "customer"});
    dialogue.routing.rules.insert(0, serde_json::from_value(rule).unwrap());
    let mut leads = PastLeads::default();
    for number in 0..4_u128 {
        let at = "2026-11-23T09:00:00Z".parse().unwrap();
        // The last of them has no firm.
        let company = (number < 3).then(|| Uuid::from_u128(50 + number));
        let filed = Filed { company, ..Filed::new(Uuid::from_u128(number), at, End::Open) };
        leads.put(filed, [("fld_temperature".to_owned(), Value::choice("frozen"))]);
    }
    let customer = Firm { name: "Ada Foods".into(), customer: true, ..Firm::default() };
    let partner = Firm { customer: false, partner: true, ..customer.clone() };
    let firms: BTreeMap<Uuid, Firm> = [(Uuid::from_u128(50), customer), (Uuid::from_u128(51), partner)].into();
    let count = |dialogue: &Dialogue| {
        let chains = chains(queue(1, &[(1, 1), (2, 1)]));
        let found = given_out_by(dialogue, &leads, &chains, &BTreeMap::new(), &firms);
        (found.rules[0].rule.clone(), found.rules[0].leads)
    };
    assert_eq!(count(&dialogue), (Some("customers".into()), 1));
    dialogue.routing.rules[0].firm = Some(FirmIs::Neither);
    assert_eq!(count(&dialogue).1, 2, "one that is not on file, and one whose lead names no firm");
}

#[test]
fn weights_give_everybody_their_share() {
    let leads = past(&[("frozen", 1, 1); 12]);
    let found = given_out(&leads, &chains(queue(1, &[(1, 1), (2, 2)])));
    assert_eq!((now_of(&found, 1), now_of(&found, 2)), ((12, 4, 0), (0, 8, 0)));
    assert_eq!(found.changed, 0, "who had them could take them");
}

#[test]
fn who_is_full_is_passed_over_until_a_lead_was_tried() {
    let mut aldermoor = queue(1, &[(1, 1), (2, 1)]);
    aldermoor.members[0].limits.untried = Some(1);
    let found = given_out(&past(&[("frozen", 1, 1); 6]), &chains(aldermoor));
    // Each lead is tried two hours on: the first of two hands is full at every other lead of theirs.
    let (then, now, full) = now_of(&found, 1);
    assert_eq!(then, 6);
    assert!(full > 0 && now < 6, "{found:?}");
    assert!(found.changed > 0);
    assert_eq!(now_of(&found, 1).1 + now_of(&found, 2).1, 6);
}

#[test]
fn what_comes_at_night_is_counted_and_dealt_at_the_opening() {
    let hours = serde_json::json!({"zone": "UTC", "hours": {"mon": [["09:00", "12:00"]], "tue": [["09:00", "17:00"]]}});
    let mut aldermoor = queue(1, &[(1, 1), (2, 1)]);
    aldermoor.hours = Some(Calendar::new(&serde_json::from_value(hours).unwrap()).unwrap());
    let found = given_out(&past(&[("frozen", 1, 1); 6]), &chains(aldermoor));
    assert_eq!(found.outside_hours, 3);
    assert_eq!(now_of(&found, 1).1 + now_of(&found, 2).1, 6, "dealt on Tuesday");
}

#[test]
fn junk_takes_no_turn_and_a_queue_that_is_gone_leaves_leads_with_nobody() {
    let mut leads = past(&[("frozen", 1, 1); 2]);
    let junk = Filed::new(Uuid::from_u128(50), "2026-11-24T09:00:00Z".parse().unwrap(), End::Junk);
    leads.put(junk, [("fld_temperature".to_owned(), Value::choice("frozen"))]);
    let found = given_out(&leads, &BTreeMap::new());
    assert_eq!((found.leads, found.changed), (2, 2));
    assert_eq!(found.people.last().map(|one| (one.person, one.now)), Some((None, 2)));
    assert_eq!(given_out(&PastLeads::default(), &BTreeMap::new()).leads, 0);
}
