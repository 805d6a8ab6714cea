use serde_json::json;
use uuid::Uuid;

use super::*;
use lumbo_dialogue::file::FieldType;
use lumbo_route::{Holder, Limits, Load, Member, Picks, Queue, Share};
use lumbo_value::field::{Policy, Record};
use lumbo_value::{Number, Value};

const THIS: Uuid = Uuid::from_u128(100);
const EARLIER: Uuid = Uuid::from_u128(99);

fn now() -> jiff::Timestamp {
    "2026-11-23T10:00:00Z".parse().unwrap()
}

fn who(name: &str, email: &str, phone: &str, company: &str) -> Identity {
    let some = |text: &str| (!text.is_empty()).then(|| text.to_owned());
    Identity { name: some(name), email: some(email), phone: some(phone), company: some(company) }
}

fn said(who: Identity) -> Said {
    Said {
        conversation: THIS,
        subject: None,
        domain: None,
        who,
        fields: Vec::new(),
        values: Vec::new(),
        rank: 1,
        unfinished: false,
        early: false,
        tags: Vec::new(),
        zone: None,
    }
}

fn kept(text: &str, conversation: Uuid) -> Option<Kept<String>> {
    Some(Kept { value: text.to_owned(), source: Source::Conversation(conversation) })
}

fn maud(conversation: Uuid) -> ContactOnFile {
    ContactOnFile {
        id: Uuid::from_u128(1),
        name: kept("Maud Ekström", conversation),
        email: kept("maud@ekstromberries.example", conversation),
        phone: kept("+442079460588", conversation),
        company: Some(Uuid::from_u128(2)),
        fields: [].into(),
        of_this_alone: conversation == THIS,
    }
}

fn firm(name: &str, conversation: Uuid) -> CompanyOnFile {
    CompanyOnFile {
        id: Uuid::from_u128(2),
        name: kept(name, conversation),
        standing: Standing::None,
        owner: None,
        fields: [].into(),
    }
}

fn lead(id: u128, shows: Uuid) -> LeadOnFile {
    LeadOnFile {
        id: Uuid::from_u128(id),
        contact: Uuid::from_u128(1),
        company: None,
        shows,
        rank: 1,
        status: LeadStatus::New,
        touched: false,
        queue: Some(Uuid::from_u128(10)),
        owner: Some(Uuid::from_u128(20)),
        turn: None,
        undecided: false,
        filed_at: now(),
    }
}

fn queue(id: u128) -> Queue {
    let member = |place: u128, current| Member {
        person: Uuid::from_u128(19 + place),
        name: format!("rep {place}"),
        share: Share { weight: 1, current },
        load: Load::default(),
        limits: Limits::default(),
        skills: Vec::new(),
        paused: false,
        away_until: None,
    };
    Queue {
        id: Uuid::from_u128(id),
        name: format!("queue {id}"),
        picks: Picks::Rotation,
        members: vec![member(1, -1), member(2, 1)],
        last: Some(Uuid::from_u128(20)),
        hours: None,
        passes_on: false,
    }
}

#[test]
fn a_first_filing_makes_contact_company_and_lead_and_picks_an_owner() {
    let on_file = OnFile { chain: vec![queue(10)], ..OnFile::default() };
    let filing =
        plan_filing(&said(who("Maud Ekström", "maud@ekstromberries.example", "", "Ekström Berries")), &on_file, now());
    assert_eq!(
        (filing.contact, filing.company, filing.lead, filing.shows),
        (ContactPlan::New, CompanyPlan::New, LeadPlan::New, true)
    );
    assert_eq!(
        filing.puts.iter().map(|(what, _)| *what).collect::<Vec<_>>(),
        [AlsoGiven::Name, AlsoGiven::Email, AlsoGiven::Company]
    );
    let OwnerPlan::Gets { queue, owner, turns, .. } = filing.owner else { panic!("{:?}", filing.owner) };
    assert_eq!((queue, owner, turns.len()), (Some(Uuid::from_u128(10)), Some(Uuid::from_u128(21)), 1));
    // Of somebody of whom nothing is known there is a contact all the same: the lead is somebody's.
    let nobody = plan_filing(&said(Identity::default()), &OnFile::default(), now());
    assert_eq!((nobody.contact, nobody.company, nobody.puts.len()), (ContactPlan::New, CompanyPlan::None, 0));
}

#[test]
fn typing_somebodys_address_changes_nothing_that_is_on_file() {
    let on_file =
        OnFile { contact: Some(maud(EARLIER)), company: Some(firm("Ekström Berries", EARLIER)), ..OnFile::default() };
    let stranger = said(who("Rex Marlow", "MAUD@ekstromberries.example", "+442079460999", "Marlow Ltd"));
    let filing = plan_filing(&stranger, &on_file, now());
    assert_eq!(
        (filing.contact, filing.company, filing.puts.len()),
        (ContactPlan::OnFile(Uuid::from_u128(1)), CompanyPlan::OnFile(Uuid::from_u128(2)), 0)
    );
    let given: Vec<(AlsoGiven, &str)> = filing.also_given.iter().map(|(what, text)| (*what, text.as_str())).collect();
    assert_eq!(
        given,
        [(AlsoGiven::Name, "Rex Marlow"), (AlsoGiven::Phone, "+442079460999"), (AlsoGiven::Company, "Marlow Ltd")]
    );
    // However the same is written, it is the same.
    let again = plan_filing(
        &said(who("maud ekstrom", "maud@EKSTROMBERRIES.example", "+442079460588", "EKSTRÖM  berries")),
        &on_file,
        now(),
    );
    assert_eq!((again.puts.len(), again.also_given.len()), (0, 0), "{again:?}");
}

#[test]
fn what_is_missing_on_file_is_filled_and_what_only_this_conversation_said_it_corrects() {
    let mut contact = maud(EARLIER);
    contact.phone = None;
    let filing = plan_filing(
        &said(who("", "maud@ekstromberries.example", "+442079460111", "")),
        &OnFile { contact: Some(contact), ..OnFile::default() },
        now(),
    );
    assert_eq!((filing.puts, filing.also_given.len()), (vec![(AlsoGiven::Phone, "+442079460111".to_owned())], 0));
    let mine = OnFile {
        own_contact: Some(maud(THIS)),
        contact: Some(maud(THIS)),
        own: Some(lead(30, THIS)),
        ..OnFile::default()
    };
    let corrected =
        plan_filing(&said(who("Maud Ekstrand", "maud@ekstromberries.example", "+442079460588", "")), &mine, now());
    assert_eq!((corrected.puts, corrected.also_given.len()), (vec![(AlsoGiven::Name, "Maud Ekstrand".to_owned())], 0));
}

#[test]
fn an_address_that_was_corrected_to_somebody_elses_moves_the_lead_to_them() {
    let nils = ContactOnFile {
        id: Uuid::from_u128(7),
        email: kept("nils@ekstromberries.example", EARLIER),
        of_this_alone: false,
        ..maud(EARLIER)
    };
    let corrected = said(who("Maud Ekström", "nils@ekstromberries.example", "", ""));
    let mut on_file =
        OnFile { own_contact: Some(maud(THIS)), contact: Some(nils), own: Some(lead(30, THIS)), ..OnFile::default() };
    let filing = plan_filing(&corrected, &on_file, now());
    assert_eq!(
        (filing.contact, filing.takes_out, filing.lead),
        (ContactPlan::OnFile(Uuid::from_u128(7)), Some(Uuid::from_u128(1)), LeadPlan::Own(Uuid::from_u128(30)))
    );
    // Who has other leads stays, and the address waits: two contacts never have one.
    on_file.own_contact.as_mut().unwrap().of_this_alone = false;
    let filing = plan_filing(&corrected, &on_file, now());
    assert_eq!((filing.contact, filing.takes_out), (ContactPlan::OnFile(Uuid::from_u128(1)), None));
    assert_eq!(filing.also_given, [(AlsoGiven::Email, "nils@ekstromberries.example".to_owned())]);
}

#[test]
fn a_second_conversation_joins_an_open_lead_of_the_last_thirty_days() {
    let on_file = |lead: LeadOnFile| OnFile {
        contact: Some(maud(EARLIER)),
        open: Some(lead),
        chain: vec![queue(10)],
        ..OnFile::default()
    };
    let maud = said(who("Maud Ekström", "maud@ekstromberries.example", "", ""));
    let joined = plan_filing(&maud, &on_file(lead(30, EARLIER)), now());
    assert_eq!(
        (joined.lead, joined.shows, joined.owner),
        (LeadPlan::Joins(Uuid::from_u128(30)), true, OwnerPlan::Stays)
    );
    // A lower band waits for a person's word, a higher one is shown at once.
    for (rank, shows) in [(0, false), (1, true), (2, true), (-1, false)] {
        let plan = plan_filing(&Said { rank, ..maud.clone() }, &on_file(lead(30, EARLIER)), now());
        assert_eq!(plan.shows, shows, "rank {rank}");
    }
    let old = LeadOnFile { filed_at: now() - JOINED_WITHIN, ..lead(30, EARLIER) };
    assert_eq!(plan_filing(&maud, &on_file(old), now()).lead, LeadPlan::New);
    for status in LeadStatus::ALL {
        let plan = plan_filing(&maud, &on_file(LeadOnFile { status, ..lead(30, EARLIER) }), now());
        assert_eq!(matches!(plan.lead, LeadPlan::Joins(_)), status.is_open(), "{status:?}");
    }
}

#[test]
fn until_a_person_touches_it_a_lead_is_routed_again_and_the_turn_given_back() {
    let [one, two] = [20, 21].map(Uuid::from_u128);
    let turn = Turn { queue: Uuid::from_u128(10), moved: vec![(one, -1), (two, 1)], last: Some(one) };
    let own = |touched: bool| OnFile {
        own_contact: Some(maud(THIS)),
        own: Some(LeadOnFile { touched, turn: Some(turn.clone()), ..lead(30, THIS) }),
        chain: vec![queue(11)],
        ..OnFile::default()
    };
    let moved = plan_filing(&said(who("Maud Ekström", "", "", "")), &own(false), now());
    let OwnerPlan::Gets { queue: to, owner, turns, .. } = moved.owner else { panic!("{:?}", moved.owner) };
    assert_eq!((to, owner), (Some(Uuid::from_u128(11)), Some(Uuid::from_u128(21))));
    let back: Vec<(Uuid, Option<Uuid>)> = turns.iter().map(|turn| (turn.queue, turn.last)).collect();
    assert_eq!(back, [(Uuid::from_u128(10), None), (Uuid::from_u128(11), Some(Uuid::from_u128(21)))]);
    assert_eq!(turns[0].moved, [(one, 1), (two, -1)], "as if rep 1 had not had the turn");
    assert_eq!(plan_filing(&said(who("Maud Ekström", "", "", "")), &own(true), now()).owner, OwnerPlan::Stays);
    let same = OnFile { chain: vec![queue(10)], ..own(false) };
    assert_eq!(plan_filing(&said(who("Maud Ekström", "", "", "")), &same, now()).owner, OwnerPlan::Stays);
}

#[test]
fn a_lead_that_is_filed_early_gets_its_owner_later_and_takes_no_turn_until_then() {
    let maud_said = said(who("Maud Ekström", "", "", ""));
    let early = Said { early: true, ..maud_said.clone() };
    let new = OnFile { chain: vec![queue(10)], ..OnFile::default() };
    let later = OwnerPlan::Later { queue: Some(Uuid::from_u128(10)) };
    assert_eq!(plan_filing(&early, &new, now()).owner, later);
    let own = |touched| OnFile {
        own_contact: Some(maud(THIS)),
        own: Some(LeadOnFile { touched, undecided: true, ..lead(30, THIS) }),
        chain: vec![queue(10)],
        ..OnFile::default()
    };
    assert_eq!(plan_filing(&early, &own(false), now()).owner, OwnerPlan::Stays, "filed early again, it still waits");
    let OwnerPlan::Gets { owner, turns, .. } = plan_filing(&maud_said, &own(false), now()).owner else { panic!() };
    assert!(owner.is_some() && turns.len() == 1 && turns[0].last == owner, "one turn, none given back: {turns:?}");
    assert_eq!(plan_filing(&maud_said, &own(true), now()).owner, OwnerPlan::Stays, "somebody took it meanwhile");
    // Another conversation of theirs joined it meanwhile, and it shows that one's answers.
    let joined = OnFile { own: Some(LeadOnFile { undecided: true, ..lead(30, EARLIER) }), ..own(false) };
    assert!(matches!(plan_filing(&maud_said, &joined, now()).owner, OwnerPlan::Gets { owner: Some(_), .. }));
    let joining = OnFile { open: joined.own.clone(), own: None, chain: Vec::new(), ..own(false) };
    assert_eq!(plan_filing(&maud_said, &joining, now()).owner, OwnerPlan::Stays, "it waits for its own");
}

fn role(value: Value, policy: Policy) -> (RecordField, Value, Policy) {
    let field = RecordField {
        id: "f_role".into(),
        key: "role".into(),
        label: "Role".into(),
        kind: FieldType::Choice,
        record: Record::Contact,
        value: value.to_json(),
        shown: "Role".into(),
        unsure: false,
    };
    (field, value, policy)
}

#[test]
fn a_field_of_a_contact_changes_by_its_policy_and_a_missing_one_not_at_all() {
    let on_file = |value: Option<Value>, conversation: Uuid| {
        let kept = Kept { value, source: Source::Conversation(conversation) };
        OnFile {
            contact: Some(ContactOnFile { fields: [("f_role".to_owned(), kept)].into(), ..maud(EARLIER) }),
            ..OnFile::default()
        }
    };
    let change = |value: Value, policy: Policy, on_file: &OnFile| {
        let said = Said { values: vec![role(value, policy)], ..said(who("", "maud@ekstromberries.example", "", "")) };
        plan_filing(&said, on_file, now()).changes.into_iter().map(|change| change.value).next()
    };
    let (owner, buyer) = (Value::choice("owner"), Value::choice("buyer"));
    let known = on_file(Some(owner.clone()), EARLIER);
    assert_eq!(change(buyer.clone(), Policy::TakeNewest, &known), Some(buyer.clone()));
    assert_eq!(change(owner.clone(), Policy::TakeNewest, &known), None, "the same is no change");
    assert_eq!(change(buyer.clone(), Policy::KeepFirst, &known), None);
    assert_eq!(
        change(buyer.clone(), Policy::KeepFirst, &on_file(Some(owner.clone()), THIS)),
        Some(buyer.clone()),
        "its own words it corrects"
    );
    assert_eq!(change(buyer.clone(), Policy::KeepFirst, &on_file(None, EARLIER)), None);
    assert_eq!(
        change(buyer.clone(), Policy::KeepFirst, &OnFile { contact: Some(maud(EARLIER)), ..OnFile::default() }),
        Some(buyer)
    );
    let silent = plan_filing(&said(who("", "maud@ekstromberries.example", "", "")), &known, now());
    assert_eq!(silent.changes, [], "a conversation that asks less wipes nothing");
}

#[test]
fn policies_add_to_lists_and_take_the_highest() {
    let list = |items: &[&str]| Value::List { items: items.iter().map(|item| (*item).to_owned()).collect() };
    assert_eq!(
        merged(Policy::AddToList, &list(&["peas", "fish"]), &list(&["Fish", "sorbet"])),
        Some(list(&["peas", "fish", "sorbet"]))
    );
    assert_eq!(merged(Policy::AddToList, &list(&["peas"]), &list(&["PEAS"])), None);
    let pallets = |amount: i64| {
        Value::Number(Number { amount: amount.into(), low: None, high: None, unit: Some("pallets".into()) })
    };
    assert_eq!(merged(Policy::TakeHighest, &pallets(50), &pallets(200)), Some(pallets(200)));
    assert_eq!(merged(Policy::TakeHighest, &pallets(200), &pallets(50)), None);
    let money = |amount: i64, currency: &str| Value::Money { amount: amount.into(), currency: currency.into() };
    assert_eq!(merged(Policy::TakeHighest, &money(9, "GBP"), &money(5, "GBP")), None);
    // What cannot be compared is the newest.
    assert_eq!(merged(Policy::TakeHighest, &money(9, "GBP"), &money(5, "EUR")), Some(money(5, "EUR")));
}

#[test]
fn every_status_has_its_name_and_is_read_by_it() {
    for status in LeadStatus::ALL {
        assert_eq!(LeadStatus::parse(status.as_str()), Some(status));
        assert_eq!(json!(status), json!(status.as_str()), "files and tables use one name");
        assert!(!status.needs_reason() || status.takes_reason());
    }
    assert_eq!(LeadStatus::parse("called"), None);
}

#[test]
fn whoever_looks_after_a_firm_gets_its_leads_unless_somebody_has_one_of_the_contacts() {
    let ina = Holder { person: Uuid::from_u128(30), name: "Ina".into(), stands_in_for: None };
    let looked_after = CompanyOnFile { owner: Some(ina.clone()), ..firm("Ekström Berries", EARLIER) };
    let mut on_file = OnFile { chain: vec![queue(10)], company: Some(looked_after), ..OnFile::default() };
    let said = said(who("Maud Ekström", "maud@ekstromberries.example", "", "Ekström Berries"));
    let OwnerPlan::Gets { queue, owner, turns, had, .. } = plan_filing(&said, &on_file, now()).owner else { panic!() };
    assert_eq!((queue, owner, turns.len()), (Some(Uuid::from_u128(10)), Some(ina.person), 0), "nobody spends a turn");
    assert_eq!(had, Some(Had::Account { name: "Ina".into(), deputy: None, company: "Ekström Berries".into() }));
    // Their own rep comes first.
    on_file.has_owner =
        Some(Holder { person: Uuid::from_u128(31), name: "Udo".into(), stands_in_for: Some("Ina".into()) });
    let OwnerPlan::Gets { owner, had, .. } = plan_filing(&said, &on_file, now()).owner else { panic!() };
    assert_eq!(
        (owner, had),
        (Some(Uuid::from_u128(31)), Some(Had::Lead { name: "Ina".into(), deputy: Some("Udo".into()) }))
    );
}

#[test]
fn competitors_and_who_is_not_to_be_contacted_take_no_turn() {
    for standing in Standing::ALL {
        let company = CompanyOnFile {
            standing,
            owner: Some(Holder { person: Uuid::from_u128(30), name: "Ina".into(), stands_in_for: None }),
            ..firm("Ekström Berries", EARLIER)
        };
        let on_file = OnFile { chain: vec![queue(10)], company: Some(company), ..OnFile::default() };
        let said = said(who("Maud Ekström", "maud@ekstromberries.example", "", "Ekström Berries"));
        let filing = plan_filing(&said, &on_file, now());
        assert_eq!((filing.lead, filing.shows), (LeadPlan::New, true), "it is filed all the same");
        let OwnerPlan::Gets { queue, owner, turns, had, .. } = filing.owner else { panic!() };
        let takes_none = matches!(standing, Standing::Competitor | Standing::DoNotContact);
        assert_eq!((queue.is_none(), owner.is_none(), turns.len()), (takes_none, takes_none, 0), "{standing:?}");
        assert_eq!(matches!(had, Some(Had::NoTurn { .. })), takes_none);
        assert_eq!(Standing::parse(standing.as_str()), Some(standing));
    }
    assert_eq!(Standing::parse("enemy"), None);
}

#[test]
fn what_was_left_unfinished_never_takes_the_place_of_what_was_said_to_its_end() {
    let on_file = OnFile {
        contact: Some(maud(EARLIER)),
        open: Some(LeadOnFile { rank: 0, ..lead(5, EARLIER) }),
        ..OnFile::default()
    };
    let back = |unfinished| {
        let said = said(who("Maud Ekström", "maud@ekstromberries.example", "", ""));
        plan_filing(&Said { unfinished, ..said }, &on_file, now())
    };
    assert_eq!((back(false).lead, back(false).shows), (LeadPlan::Joins(Uuid::from_u128(5)), true));
    assert_eq!((back(true).lead, back(true).shows), (LeadPlan::Joins(Uuid::from_u128(5)), false));
}

#[test]
fn a_company_that_was_named_before_its_domain_was_known_stays_one_company() {
    let mut said = said(who("Maud Ekström", "maud@ekstromberries.example", "", "Ekström Berries"));
    said.domain = Some("ekstromberries.example".to_owned());
    let own = || OnFile {
        own_contact: Some(maud(THIS)),
        own_company: Some(firm("Ekström Berries", THIS)),
        own: Some(lead(30, THIS)),
        ..OnFile::default()
    };
    let filing = plan_filing(&said, &own(), now());
    assert_eq!(
        (filing.company, filing.domain.as_deref(), filing.takes_out_company),
        (CompanyPlan::OnFile(Uuid::from_u128(2)), Some("ekstromberries.example"), None)
    );
    // The domain is that of a company on file: the one by its name was a double.
    let there = CompanyOnFile { id: Uuid::from_u128(3), ..firm("Ekström Berries AB", EARLIER) };
    let filing = plan_filing(&said, &OnFile { company: Some(there), ..own() }, now());
    assert_eq!(
        (filing.company, filing.domain, filing.takes_out_company),
        (CompanyPlan::OnFile(Uuid::from_u128(3)), None, Some(Uuid::from_u128(2)))
    );
    // Its other name is no news to the one on file.
    assert_eq!(filing.also_given.last(), Some(&(AlsoGiven::Company, "Ekström Berries".to_owned())));
}
