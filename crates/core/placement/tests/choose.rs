//! What shows on a visit, and why. Rules and their order are this product's own.
#![allow(clippy::unwrap_used, reason = "tests")]

use lumbo_calendar::Calendar;
use lumbo_placement::{Address, Device, Known, Moment, Placement, Shows, Slot, Visit, check, choose};
use serde_json::{Value, json};

fn known() -> Known {
    let written = json!({"zone": "Europe/London", "hours": {"mon": [["08:00", "17:30"]]}});
    let calendar = Calendar::new(&serde_json::from_value(written).unwrap()).unwrap();
    Known {
        zone: jiff::tz::TimeZone::get("Europe/London").unwrap(),
        calendars: [("aldermoor".into(), calendar)].into(),
    }
}

fn placement(settings: Value) -> Placement {
    let mut whole = json!({"id": "p", "name": "P", "form": "corner"});
    whole.as_object_mut().unwrap().extend(settings.as_object().unwrap().clone());
    serde_json::from_value(whole).unwrap()
}

/// A Monday at noon in London, on a computer.
fn visit(url: &str) -> Visit {
    Visit {
        address: Address::parse(url).unwrap(),
        device: Some(Device::Computer),
        language: Some("de-AT,en;q=0.5".into()),
        country: Some("AT".into()),
        returning: false,
        signed_in: false,
        filed_days_ago: None,
        visitor: None,
        at: "2026-11-30T12:00:00Z".parse().unwrap(),
    }
}

/// Whether a placement with these settings fits, and why.
fn asked(settings: Value, visit: &Visit) -> (bool, String) {
    let placements = [placement(settings)];
    let slots = choose(&placements, visit, &known());
    let judged = &slots[&Slot::Floating].reasons[0];
    (judged.fits, judged.says())
}

#[test]
fn each_rule_lets_in_or_keeps_out_and_says_so() {
    let page = visit("https://winterlode.example/prices/frozen?utm_campaign=Autumn-26&plan=cold");
    let table = [
        (json!({}), true, "it shows on every page"),
        (json!({"on_air": false}), false, "off air"),
        (json!({"where": {"sites": ["*.winterlode.example"]}}), false, "winterlode.example is not one of its sites"),
        (json!({"where": {"include": ["/depots", "/prices/*"]}}), true, "the page fits /prices/*"),
        (json!({"where": {"include": ["/depots"]}}), false, "/prices/frozen is not one of its pages"),
        (
            json!({"where": {"include": ["/**"], "exclude": ["/prices/**"]}}),
            false,
            "the page is excluded by /prices/**",
        ),
        (
            json!({"where": {"parameters": [{"name": "plan", "is": "c*"}]}}),
            true,
            "it shows on every page, the address has plan with “c*”",
        ),
        (json!({"where": {"parameters": [{"name": "size"}]}}), false, "the address does not have size"),
        (
            json!({"where": {"exclude_parameters": [{"name": "plan"}]}}),
            false,
            "the address has plan, which is excluded",
        ),
        (json!({"where": {"campaigns": ["autumn-*"]}}), true, "it shows on every page, the campaign is Autumn-26"),
        (json!({"where": {"campaigns": ["spring"]}}), false, "the campaign Autumn-26 is not one of its own"),
        (json!({"where": {"exclude_campaigns": ["autumn-26"]}}), false, "the campaign Autumn-26 is excluded"),
        (json!({"when": {"from": "2026-12-01"}}), false, "it begins on 1 December 2026"),
        (json!({"when": {"from": "2026-11-30", "until": "2026-11-30"}}), true, "it shows on every page"),
        (json!({"when": {"until": "2026-11-29"}}), false, "it ended on 29 November 2026"),
        (json!({"when": {"hours_of": "aldermoor"}}), true, "it shows on every page, within its hours"),
        (json!({"when": {"hours_of": "gone", "only_in_hours": true}}), false, "the hours of “gone” are not known"),
        (json!({"who": {"visitors": "returning"}}), false, "the visitor is not known to have been here before"),
        (json!({"who": {"visitors": "new"}}), true, "it shows on every page, a new visitor"),
        (json!({"who": {"signed_in": "yes"}}), false, "the visitor is not signed in"),
        (json!({"who": {"devices": ["phone", "tablet"]}}), false, "the device is computer"),
        (json!({"who": {"devices": ["desktop"]}}), true, "it shows on every page, on a computer"),
        (json!({"who": {"languages": ["de"]}}), true, "it shows on every page, the language is de-AT"),
        (json!({"who": {"languages": ["en"]}}), false, "the language is de-AT"),
        (json!({"who": {"countries": ["de", "at"]}}), true, "it shows on every page, the country is AT"),
        (json!({"who": {"not_filed_days": 30}}), true, "it shows on every page, not filed yet"),
        (json!({"who": {"share": 40}}), false, "for 40% of visitors, and this one has no id without consent"),
        (json!({"who": {"share": 100}}), true, "it shows on every page"),
    ];
    for (settings, fits, says) in table {
        assert_eq!(asked(settings.clone(), &page), (fits, says.to_owned()), "{settings}");
    }
}

#[test]
fn days_begin_and_end_in_the_workspaces_zone() {
    // 23:30 UTC on 24 June is already the 25th in London's summer.
    let late = Visit { at: "2026-06-24T23:30:00Z".parse().unwrap(), ..visit("https://w.example/") };
    assert!(asked(json!({"when": {"from": "2026-06-25"}}), &late).0);
    assert!(!asked(json!({"when": {"until": "2026-06-24"}}), &late).0);
}

#[test]
fn outside_the_hours_it_shows_with_the_away_words_unless_the_author_says_otherwise() {
    let night = Visit { at: "2026-11-30T20:00:00Z".parse().unwrap(), ..visit("https://w.example/") };
    let placements = [placement(json!({"when": {"hours_of": "aldermoor"}}))];
    let slots = choose(&placements, &night, &known());
    assert!(slots[&Slot::Floating].away && slots[&Slot::Floating].placement.is_some());
    let (fits, says) = asked(json!({"when": {"hours_of": "aldermoor", "only_in_hours": true}}), &night);
    assert_eq!((fits, says.as_str()), (false, "outside its hours until Monday 7 December, 08:00"));
}

#[test]
fn who_filed_is_left_alone_for_so_many_days() {
    for (ago, fits) in [(0, false), (29, false), (30, true), (400, true)] {
        let back = Visit { filed_days_ago: Some(ago), ..visit("https://w.example/") };
        assert_eq!(asked(json!({"who": {"not_filed_days": 30}}), &back).0, fits, "{ago}");
    }
}

#[test]
fn a_share_is_always_the_same_visitors_and_about_as_many() {
    let fits = |visitor: usize, share: u8| {
        let one = Visit { visitor: Some(format!("v{visitor}")), ..visit("https://w.example/") };
        asked(json!({"who": {"share": share}}), &one).0
    };
    let within = (0..2_000).filter(|one| fits(*one, 30)).count();
    assert!((500..=700).contains(&within), "{within} of 2,000");
    assert!((0..200).all(|one| !fits(one, 30) || fits(one, 60)), "a larger share keeps those it had");
    assert!((0..200).all(|one| !fits(one, 0) && fits(one, 100)));
}

#[test]
fn of_several_the_first_goes_and_each_slot_has_its_own() {
    let placements = [
        placement(json!({"id": "prices", "where": {"include": ["/prices/**"]}})),
        placement(json!({"id": "pop", "form": "pop_up"})),
        placement(json!({"id": "in", "form": "inline", "slot": "quote"})),
        placement(json!({"id": "own", "form": "page"})),
    ];
    let at = |url: &str| {
        let (visit, known) = (visit(url), known());
        let slots = choose(&placements, &visit, &known);
        let names: Vec<_> = slots
            .iter()
            .map(|(slot, chosen)| format!("{slot}={}", chosen.placement.map_or("-", |one| &one.id)))
            .collect();
        names.join(" ")
    };
    assert_eq!(at("https://w.example/prices"), "floating=prices inline:quote=in");
    assert_eq!(at("https://w.example/"), "floating=pop inline:quote=in");
    let none = choose(&[], &visit("https://w.example/"), &known());
    assert!(none[&Slot::Floating].placement.is_none());
}

#[test]
fn a_phone_is_never_covered_unasked_and_has_no_pointer() {
    let phone = Visit { device: Some(Device::Phone), ..visit("https://w.example/") };
    let at_once = json!({"when": "at_once", "shows": "open"});
    let placements = [placement(json!({"opens": at_once, "opens_on_phones": at_once}))];
    assert_eq!(choose(&placements, &phone, &known())[&Slot::Floating].opens.shows, Shows::Line);
    assert_eq!(choose(&placements, &visit("https://w.example/"), &known())[&Slot::Floating].opens.shows, Shows::Open);
    let leaving = json!({"when": "leaving", "shows": "open"});
    let placements = [placement(json!({"opens": leaving, "opens_on_phones": leaving}))];
    assert_eq!(choose(&placements, &phone, &known())[&Slot::Floating].opens.when, Moment::AtOnce);
    let asked = json!({"when": "at_click", "shows": "open"});
    let placements = [placement(json!({"opens_on_phones": asked}))];
    assert_eq!(choose(&placements, &phone, &known())[&Slot::Floating].opens.shows, Shows::Open);
}

#[test]
fn what_cannot_go_on_air_is_said_setting_by_setting() {
    let faults = |settings: Value| -> Vec<String> {
        check(&placement(settings)).into_iter().map(|fault| fault.at.to_owned()).collect()
    };
    let sites = json!({"sites": ["winterlode.example"]});
    assert!(faults(json!({"where": sites})).is_empty());
    assert_eq!(faults(json!({})), ["where.sites"]);
    assert!(faults(json!({"form": "page"})).is_empty());
    assert_eq!(faults(json!({"where": {"sites": ["https://winterlode.example/"]}})), ["where.sites"]);
    assert_eq!(faults(json!({"where": sites, "form": "inline"})), ["slot"]);
    assert_eq!(faults(json!({"where": sites, "look": {"colour": "blue", "size": 10}})), ["look.colour", "look.size"]);
    let backwards = json!({"from": "2026-12-02", "until": "2026-12-01", "only_in_hours": true});
    assert_eq!(faults(json!({"where": sites, "when": backwards})), ["when.until", "when.hours_of"]);
    let who = json!({"share": 101, "countries": ["Germany"]});
    assert_eq!(faults(json!({"where": sites, "who": who})), ["who.share", "who.countries"]);
    let query = json!({"sites": ["w.example"], "include": ["/a?b=c"]});
    assert_eq!(faults(json!({"where": query, "name": ""})), ["name", "where.include"]);
}
