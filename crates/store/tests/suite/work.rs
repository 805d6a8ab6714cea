//! Working leads: calls and what comes next, the order to call, a step back, notes, handing a lead on.
#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use crate::common::Fixture;
use jiff::{SignedDuration, Timestamp};
use lumbo_records::{CallOutcome, LeadStatus, NextWhat};
use lumbo_store::{Call, LeadDetail, LeadFilter, Lens, NextChange, OutcomeChange, OwnerChange, StoreError};
use sqlx::Connection;

fn call(lead: &LeadDetail, outcome: CallOutcome) -> Call {
    Call { revision: lead.revision, outcome, note: None }
}

fn move_to(fixture: &Fixture, at: Timestamp) {
    fixture.clock.advance(at.duration_since(fixture.clock.now()));
}

/// A lead of Maud's, as its owner sees it, with its owner's place among the reps.
async fn filed(fixture: &Fixture) -> (LeadDetail, usize) {
    fixture.lead(b"a").await;
    let id = fixture.leads(&fixture.home.author).await[0].id;
    for (place, rep) in fixture.home.reps.iter().enumerate() {
        let lead = fixture.store.lead(rep, id).await.unwrap();
        if lead.row.mine {
            return (lead, place);
        }
    }
    panic!("the lead is nobody's");
}

#[tokio::test]
async fn a_call_without_reply_is_a_try_and_proposes_the_next_one() {
    let fixture = Fixture::new().await;
    let (lead, rep) = filed(&fixture).await;
    let rep = &fixture.home.reps[rep];
    assert_eq!((lead.row.tries, lead.row.tries_planned, lead.row.next_what), (0, 6, Some(NextWhat::Call)));
    assert_eq!(lead.row.next_at, Some(lead.row.filed_at), "it can be called from its filing on");
    let (filed, now) = (lead.row.filed_at, fixture.clock.now());
    move_to(&fixture, now + SignedDuration::from_mins(7));
    let first = fixture.store.log_call(rep, lead.row.id, &call(&lead, CallOutcome::NoReply)).await.unwrap();
    assert_eq!((first.row.status, first.row.tries), (LeadStatus::Trying, 1));
    assert_eq!(first.first_try_minutes, Some(fixture.clock.now().duration_since(filed).as_mins().min(7)));
    assert_eq!(first.first_contact_minutes, None, "nobody was reached");
    let next = first.row.next_at.unwrap();
    assert!(next > fixture.clock.now(), "{next}");
    move_to(&fixture, next);
    let spoke = Call { note: Some("wants a site visit".into()), ..call(&first, CallOutcome::Spoke) };
    let second = fixture.store.log_call(rep, lead.row.id, &spoke).await.unwrap();
    assert_eq!((second.row.status, second.row.next_what), (LeadStatus::Spoken, Some(NextWhat::GoOn)));
    assert_eq!(second.first_try_minutes, first.first_try_minutes, "the first try stays the first");
    assert!(second.first_contact_minutes > first.first_try_minutes);
    assert_eq!(second.log.last().unwrap().what, "Called: spoke with them. wants a site visit");
}

#[tokio::test]
async fn a_wrong_number_is_no_try_and_used_up_tries_ask_for_a_decision() {
    let fixture = Fixture::new().await;
    let (mut lead, rep) = filed(&fixture).await;
    let rep = &fixture.home.reps[rep];
    lead = fixture.store.log_call(rep, lead.row.id, &call(&lead, CallOutcome::WrongNumber)).await.unwrap();
    assert_eq!((lead.row.status, lead.row.tries, lead.first_try_minutes), (LeadStatus::New, 0, None));
    assert_eq!(lead.row.next_what, Some(NextWhat::FindNumber));
    for tries in 1..=6 {
        lead = fixture.store.log_call(rep, lead.row.id, &call(&lead, CallOutcome::MessageLeft)).await.unwrap();
        assert_eq!(lead.row.tries, tries);
        let expected = if tries == 6 { NextWhat::GiveUp } else { NextWhat::Call };
        assert_eq!(lead.row.next_what, Some(expected), "after {tries}");
    }
    let later = NextChange { revision: lead.revision, at: fixture.clock.now() + SignedDuration::from_hours(24) };
    lead = fixture.store.change_next(rep, lead.row.id, later).await.unwrap();
    assert_eq!((lead.row.next_what, lead.row.next_at), (Some(NextWhat::Call), Some(later.at)), "one more try");
}

#[tokio::test]
async fn a_step_is_taken_back_whole_and_only_while_nothing_else_happened() {
    let fixture = Fixture::new().await;
    let (lead, place) = filed(&fixture).await;
    let (rep, other) = (&fixture.home.reps[place], &fixture.home.reps[1 - place]);
    let id = lead.row.id;
    let called = fixture.store.log_call(rep, id, &call(&lead, CallOutcome::Spoke)).await.unwrap();
    assert!(called.step_back);
    assert!(!fixture.store.lead(other, id).await.unwrap().step_back, "it was not theirs");
    assert!(matches!(fixture.store.take_back(other, id).await, Err(StoreError::NotFound(_))));
    let back = fixture.store.take_back(rep, id).await.unwrap();
    let same = |lead: &LeadDetail| {
        let row = &lead.row;
        (row.status, row.tries, row.next_what, row.next_at, lead.first_try_minutes, lead.first_contact_minutes)
    };
    assert_eq!(same(&back), same(&lead));
    assert_eq!(back.log.len(), lead.log.len(), "what was taken back is no part of the story");
    assert!(matches!(fixture.store.take_back(rep, id).await, Err(StoreError::NotFound(_))), "once");
    // An outcome too; and not once a colleague went on.
    let lost = OutcomeChange {
        revision: back.revision,
        status: LeadStatus::Lost,
        reason: Some("price".into()),
        amount: None,
        currency: None,
        later_on: None,
    };
    let lost = fixture.store.change_outcome(rep, id, &lost).await.unwrap();
    assert_eq!((lost.row.next_what, lost.row.next_at), (None, None), "a closed lead has nothing to come");
    let back = fixture.store.take_back(rep, id).await.unwrap();
    assert_eq!((back.row.status, back.reason.as_deref()), (LeadStatus::New, None));
    let again = fixture.store.log_call(rep, id, &call(&back, CallOutcome::NoReply)).await.unwrap();
    fixture.store.log_call(other, id, &call(&again, CallOutcome::Spoke)).await.unwrap();
    assert!(matches!(fixture.store.take_back(rep, id).await, Err(StoreError::NotFound(_))));
    // Nor after ten minutes.
    move_to(&fixture, fixture.clock.now() + SignedDuration::from_mins(11));
    assert!(matches!(fixture.store.take_back(other, id).await, Err(StoreError::NotFound(_))));
}

#[tokio::test]
async fn a_call_on_a_lead_of_nobodys_makes_it_ones_own_and_taking_it_back_gives_it_back() {
    let fixture = Fixture::new().await;
    let (lead, place) = filed(&fixture).await;
    let rep = &fixture.home.reps[place];
    let mut db = sqlx::PgConnection::connect(&fixture.url).await.unwrap();
    let waits = "update leads set owner_id = null, waits_until = now() where id = $1";
    sqlx::query(waits).bind(lead.row.id).execute(&mut db).await.unwrap();
    let called = fixture.store.log_call(rep, lead.row.id, &call(&lead, CallOutcome::NoReply)).await.unwrap();
    assert!(called.row.mine, "whoever calls has it");
    let back = fixture.store.take_back(rep, lead.row.id).await.unwrap();
    assert_eq!(back.row.owner, None);
    let still: (bool,) = sqlx::query_as("select waits_until is not null from leads where id = $1")
        .bind(lead.row.id)
        .fetch_one(&mut db)
        .await
        .unwrap();
    assert!(still.0, "it waits for its dealing as before");
}

#[tokio::test]
async fn of_two_who_take_a_lead_one_is_told_whose_it_is() {
    let fixture = Fixture::new().await;
    let (lead, place) = filed(&fixture).await;
    let (rep, other) = (&fixture.home.reps[place], &fixture.home.reps[1 - place]);
    let id = lead.row.id;
    let take = |person: &lumbo_store::Person| OwnerChange { revision: lead.revision, to: person.id, note: None };
    let taken = fixture.store.change_owner(other, id, &take(other)).await.unwrap();
    assert!(taken.row.mine);
    assert_eq!(taken.log.last().unwrap().what, "Took it");
    let error = fixture.store.change_owner(rep, id, &take(rep)).await.unwrap_err().to_string();
    assert!(error.contains(&format!("it is {}’s now", other.name)), "{error}");
    let passed = OwnerChange { revision: taken.revision, to: rep.id, note: Some("knows the site".into()) };
    let passed = fixture.store.change_owner(other, id, &passed).await.unwrap();
    assert_eq!(passed.log.last().unwrap().what, format!("Passed to {}. knows the site", rep.name));
    // An author works no leads, and nobody of another workspace is here.
    for nobody in [&fixture.home.author, &fixture.other.reps[0]] {
        let to = OwnerChange { revision: passed.revision, to: nobody.id, note: None };
        assert!(matches!(fixture.store.change_owner(rep, id, &to).await, Err(StoreError::NotFound(_))));
    }
}

#[tokio::test]
async fn the_list_begins_with_untried_ones_of_the_highest_band_and_ends_with_what_is_to_come() {
    let fixture = Fixture::new().await;
    fixture.lead_of(b"a", "Ana Ruiz", "Heron Foods", "ana@heron.example").await;
    fixture.lead_of(b"b", "Ben Okoro", "Kestrel Foods", "ben@kestrel.example").await;
    // In the band below.
    let warm = ["storage", "chilled", "70", "spring", "owner", "Cy Lund", "Plover Ltd", "cy@plover.example", ">skip"];
    fixture.talk(b"c", &warm).await;
    let author = &fixture.home.author;
    let names = async || {
        let rows = fixture.leads_by(author, LeadFilter::All, "").await;
        rows.into_iter().filter_map(|row| row.name).collect::<Vec<_>>()
    };
    assert_eq!(names().await, ["Ana Ruiz", "Ben Okoro", "Cy Lund"]);
    // Ana is not reached: what is to come stands behind what is due.
    let rows = fixture.leads(author).await;
    let owner = |name: &str| fixture.home.reps.iter().find(|rep| rep.name == name).unwrap();
    let rep = owner(rows[0].owner.as_deref().unwrap());
    let lead = fixture.store.lead(rep, rows[0].id).await.unwrap();
    let called = fixture.store.log_call(rep, lead.row.id, &call(&lead, CallOutcome::NoReply)).await.unwrap();
    assert_eq!(names().await, ["Ben Okoro", "Cy Lund", "Ana Ruiz"]);
    // Once it is due, its band goes before Cy's, and behind the untried one of the highest band.
    move_to(&fixture, called.row.next_at.unwrap());
    assert_eq!(names().await, ["Ben Okoro", "Ana Ruiz", "Cy Lund"]);
}

#[tokio::test]
async fn who_sleeps_where_they_are_waits_until_calling_hours_begin_there() {
    let fixture = Fixture::new().await;
    let author = &fixture.home.author;
    fixture.lead(b"a").await;
    fixture.lead_of(b"b", "Wade Orr", "Orr Foods", "wade@orrfoods.example").await;
    let rows = async || fixture.leads(author).await;
    let row = async |name: &str| rows().await.into_iter().find(|row| row.name.as_deref() == Some(name)).unwrap();
    let (maud, wade) = (row("Maud Ekström").await, row("Wade Orr").await);
    // Her number is British, which tells her clock; nothing tells his.
    assert_eq!((maud.zone.as_deref(), maud.callable_at), (Some("Europe/London"), None));
    assert_eq!((wade.zone.as_deref(), wade.callable_at), (None, None));
    let order = async || rows().await.into_iter().map(|row| row.name.unwrap()).collect::<Vec<_>>();
    assert_eq!(order().await, ["Maud Ekström", "Wade Orr"], "both are untried in the highest band");
    let mut db = sqlx::PgConnection::connect(&fixture.url).await.unwrap();
    let there = "update leads set zone = known_zone($1) where name = 'Maud Ekström' returning zone";
    let known: Option<String> = sqlx::query_scalar(there).bind("Nowhere/Nothing").fetch_one(&mut db).await.unwrap();
    assert_eq!(known, None, "a zone that the database does not know stops no list");
    sqlx::query(there).bind("America/Los_Angeles").execute(&mut db).await.unwrap();
    // Nine in the morning in London is one at night there.
    let at = |text: &str| Some(text.parse::<Timestamp>().unwrap());
    assert_eq!(row("Maud Ekström").await.callable_at, at("2026-11-23T16:00:00Z"));
    assert_eq!(order().await, ["Wade Orr", "Maud Ekström"]);
    assert_eq!(fixture.store.lead(author, maud.id).await.unwrap().row.callable_at, at("2026-11-23T16:00:00Z"));
    // Of those who wake at the same moment, the higher band first.
    let both =
        "update leads set zone = 'America/Los_Angeles', band_rank = case name when 'Wade Orr' then 2 else $1 end";
    for (rank, first) in [(1, "Wade Orr"), (2, "Maud Ekström")] {
        sqlx::query(both).bind(rank).execute(&mut db).await.unwrap();
        assert_eq!(order().await[0], first, "{rank}");
    }
    sqlx::query("update leads set zone = null where name = 'Wade Orr'").execute(&mut db).await.unwrap();
    move_to(&fixture, "2026-11-23T16:00:00Z".parse().unwrap());
    assert_eq!(row("Maud Ekström").await.callable_at, None);
    assert_eq!(order().await, ["Maud Ekström", "Wade Orr"]);
    // Past seven in the evening there, on the night in which clocks go forward.
    move_to(&fixture, "2027-03-14T03:30:00Z".parse().unwrap());
    assert_eq!(row("Maud Ekström").await.callable_at, at("2027-03-14T15:00:00Z"));
    let settings = fixture.store.workspace_settings(fixture.home.workspace).await.unwrap();
    let late = lumbo_store::WorkspaceSettings { calls_until: 24, ..settings };
    fixture.store.change_workspace(author, &late).await.unwrap();
    assert_eq!(row("Maud Ekström").await.callable_at, None, "the workspace calls until midnight");
    // Once it is no call that comes next, the hour does not matter.
    let early = lumbo_store::WorkspaceSettings {
        revision: fixture.store.workspace_settings(fixture.home.workspace).await.unwrap().revision,
        calls_until: 9,
        ..late
    };
    fixture.store.change_workspace(author, &early).await.unwrap();
    assert!(row("Maud Ekström").await.callable_at.is_some());
    let lead = fixture.store.lead(author, maud.id).await.unwrap();
    fixture.store.log_call(author, maud.id, &call(&lead, CallOutcome::Spoke)).await.unwrap();
    assert_eq!(row("Maud Ekström").await.callable_at, None);
}

#[tokio::test]
async fn a_tag_is_put_on_once_found_by_its_beginning_and_taken_off() {
    let fixture = Fixture::new().await;
    let (lead, place) = filed(&fixture).await;
    let (store, rep) = (&fixture.store, &fixture.home.reps[place]);
    fixture.lead_of(b"b", "Wade Orr", "Orr Foods", "wade@orrfoods.example").await;
    let tagged = store.tag_lead(rep, lead.row.id, "Trade fair", true).await.unwrap();
    assert_eq!(tagged.row.tags, ["Trade fair"]);
    assert_eq!(tagged.log.last().unwrap().what, "Tagged “Trade fair”");
    assert_eq!(tagged.revision, lead.revision, "nobody has to look at it again");
    let again = store.tag_lead(rep, lead.row.id, "TRADE FAIR", true).await.unwrap();
    assert_eq!((again.row.tags.len(), again.log.len()), (1, tagged.log.len()));
    let found = async |search: &str| {
        let rows = fixture.leads_by(rep, LeadFilter::All, search).await;
        rows.into_iter().filter_map(|row| row.name).collect::<Vec<_>>()
    };
    assert_eq!(found("#trade").await, ["Maud Ekström"]);
    assert_eq!(found("#Trade Fair").await, ["Maud Ekström"]);
    assert_eq!(found("#fair").await, Vec::<String>::new(), "a tag is found by its beginning");
    assert_eq!(found("trade").await, Vec::<String>::new(), "words are not looked for in tags");
    assert_eq!(store.tags(fixture.home.workspace).await.unwrap(), ["Trade fair"]);
    assert!(store.tags(fixture.other.workspace).await.unwrap().is_empty());
    let theirs = store.tag_lead(&fixture.other.author, lead.row.id, "x", true).await;
    assert!(matches!(theirs, Err(StoreError::NotFound(_))), "{theirs:?}");
    for n in 1..20 {
        store.tag_lead(rep, lead.row.id, &format!("tag {n}"), true).await.unwrap();
    }
    let full = store.tag_lead(rep, lead.row.id, "one more", true).await;
    assert!(matches!(full, Err(StoreError::Conflict(_))), "{full:?}");
    let off = store.tag_lead(rep, lead.row.id, "trade FAIR", false).await.unwrap();
    assert_eq!((off.row.tags.len(), off.row.tags[0].as_str()), (19, "tag 1"));
}

#[tokio::test]
async fn a_lead_is_tagged_by_the_arms_it_took_by_its_rule_and_by_how_it_ended() {
    let fixture = Fixture::new().await;
    let home = &fixture.home;
    let draft = fixture.store.draft(home.workspace, home.dialogue).await.unwrap();
    let mut body = serde_json::to_value(&draft.body).unwrap();
    let arm = serde_json::json!({"id": "a_frozen", "when": {"options": ["frozen"]}, "tags": ["cold chain", "#Fair"]});
    let outcomes = body["outcomes"].as_array_mut().unwrap();
    outcomes.iter_mut().for_each(|outcome| outcome["tags"] = serde_json::json!(["fair", "to its end", "a, comma"]));
    let rule = serde_json::json!({"id": "r_all", "holds": {"all": []}, "queue": "saltwick", "tags": ["everybody"]});
    let edits = [
        serde_json::json!({"op": "change_arm", "arm": arm}),
        serde_json::json!({"op": "set_outcomes", "outcomes": outcomes}),
        serde_json::json!({"op": "set_routing", "routing": {"rules": [rule]}}),
    ];
    let edits = edits.into_iter().map(|edit| serde_json::from_value(edit).unwrap()).collect();
    let author = home.author.id;
    let changed = fixture
        .store
        .change_draft(home.workspace, home.dialogue, author, draft.revision, lumbo_store::Change::Edits(edits))
        .await
        .unwrap();
    fixture.store.release(home.workspace, home.dialogue, Some(author), changed.revision, "tags").await.unwrap();
    fixture.lead(b"1").await;
    let tags = fixture.leads(&home.author).await.remove(0).tags;
    // One word in two cases is one tag, what is no tag is left out.
    assert_eq!(tags.len(), 4, "{tags:?}");
    for word in ["cold chain", "Fair", "everybody", "to its end"] {
        assert!(tags.contains(&word.to_owned()), "{tags:?}");
    }
    // An arm that was not taken tags nothing.
    let replies =
        ["storage", "chilled", "60", "later", "manager", "Bo Ash", "Ash Foods", "bo@ashfoods.example", ">skip"];
    fixture.talk(b"2", &replies).await;
    let other = fixture.leads_by(&home.author, LeadFilter::All, "Bo Ash").await.remove(0).tags;
    assert!(!other.contains(&"cold chain".to_owned()) && other.contains(&"everybody".to_owned()), "{other:?}");
}

#[tokio::test]
async fn a_list_is_kept_under_a_name_by_each_for_themselves() {
    let fixture = Fixture::new().await;
    let (store, [ina, udo]) = (&fixture.store, &fixture.home.reps);
    let lens = |n: u128, name: &str| Lens {
        id: uuid::Uuid::from_u128(n),
        name: name.into(),
        shows: LeadFilter::All,
        search: "#fair".into(),
        look: serde_json::from_value(serde_json::json!({"columns": ["fld_pallets"]})).unwrap(),
    };
    store.keep_lens(ina, &lens(1, "Fairs")).await.unwrap();
    // Sent twice, it is one; sent again with another name, it is named anew.
    store.keep_lens(ina, &lens(1, "Fairs")).await.unwrap();
    store.keep_lens(ina, &lens(1, "All fairs")).await.unwrap();
    assert_eq!(store.lenses(ina).await.unwrap(), [lens(1, "All fairs")]);
    assert!(store.lenses(udo).await.unwrap().is_empty());
    assert!(matches!(store.drop_lens(udo, lens(1, "").id).await, Err(StoreError::NotFound(_))));
    for n in 2..=20 {
        store.keep_lens(ina, &lens(n, "More")).await.unwrap();
    }
    assert!(matches!(store.keep_lens(ina, &lens(21, "Too many")).await, Err(StoreError::Conflict(_))));
    store.keep_lens(ina, &lens(20, "The last")).await.unwrap();
    store.drop_lens(ina, lens(1, "").id).await.unwrap();
    let names: Vec<String> = store.lenses(ina).await.unwrap().into_iter().map(|lens| lens.name).collect();
    assert_eq!((names.len(), names.last().map(String::as_str)), (19, Some("The last")));
}

#[tokio::test]
async fn a_call_on_the_day_after_is_counted_in_working_minutes() {
    let fixture = Fixture::new().await;
    let (lead, rep) = filed(&fixture).await;
    let rep = &fixture.home.reps[rep];
    // The queue has no hours of its own: office hours in the workspace's zone count, London here.
    let monday: Timestamp = "2026-11-30T09:20:00Z".parse().unwrap();
    move_to(&fixture, monday.max(lead.row.filed_at));
    let called = fixture.store.log_call(rep, lead.row.id, &call(&lead, CallOutcome::MessageLeft)).await.unwrap();
    let plain = fixture.clock.now().duration_since(lead.row.filed_at).as_mins();
    let working = called.first_try_minutes.unwrap();
    assert!(working < plain && working >= 20, "{working} of {plain}");
}

#[tokio::test]
async fn the_team_shows_load_pace_and_weeks() {
    let fixture = Fixture::new().await;
    let (lead, place) = filed(&fixture).await;
    let rep = &fixture.home.reps[place];
    let row = async || {
        let team = fixture.store.team(&fixture.home.author).await.unwrap();
        team.people.into_iter().find(|row| row.id == rep.id).unwrap()
    };
    let before = row().await;
    assert_eq!((before.open, before.untried, before.late, before.due, before.calls), (1, 1, 0, 1, 0));
    move_to(&fixture, lead.row.filed_at + SignedDuration::from_hours(24 * 4));
    assert_eq!(row().await.late, i64::from(lead.row.call_by.is_some()));
    fixture.store.log_call(rep, lead.row.id, &call(&lead, CallOutcome::Spoke)).await.unwrap();
    let after = row().await;
    assert_eq!((after.untried, after.late, after.due, after.calls), (0, 0, 0, 1));
    assert!(after.first_contact.unwrap() > 0.0 && after.first_try == after.first_contact);
    let team = fixture.store.team(&fixture.home.author).await.unwrap();
    assert_eq!(team.weeks.len(), 6);
    assert_eq!(
        team.weeks.iter().map(|week| (week.filed, week.reached)).fold((0, 0), |(a, b), (c, d)| (a + c, b + d)),
        (1, 1)
    );
    let of_other = fixture.store.team(&fixture.other.author).await.unwrap();
    assert!(of_other.people.iter().all(|row| row.open == 0) && of_other.weeks.iter().all(|week| week.filed == 0));
}
