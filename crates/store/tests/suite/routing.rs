//! Queues: who is free, when they are open, whom they ask next, and dealing what came at night.

#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use crate::common::{Fixture, patient};
use jiff::SignedDuration;
use lumbo_records::LeadStatus;
use lumbo_route::{Territories, Territory, words};
use lumbo_store::{Ended, LeadRow, MemberChange, OutcomeChange, QueueChange, QueueRow, ReleaseError, StoreError};
use sqlx::Connection;

/// A frozen load, not hot: no rule holds, so it goes to the queue for that, aldermoor.
pub(crate) async fn lead(fixture: &Fixture, token: &[u8], name: &str) {
    let address = format!("{}@{}.example", name.to_lowercase(), name.to_lowercase());
    let firm = format!("{name} Foods");
    let full = format!("{name} Quarmby");
    fixture.talk(token, &["storage", "frozen", "no", "60", "later", "manager", &full, &firm, &address, ">skip"]).await;
}

pub(crate) async fn found(fixture: &Fixture, name: &str) -> LeadRow {
    fixture.leads_by(&fixture.home.author, lumbo_store::LeadFilter::All, name).await.remove(0)
}

pub(crate) async fn says(fixture: &Fixture, name: &str) -> Vec<String> {
    let id = found(fixture, name).await.id;
    words::says(&fixture.store.lead(&fixture.home.author, id).await.unwrap().decision, &|_| None)
}

pub(crate) async fn aldermoor(fixture: &Fixture) -> QueueRow {
    let rows = fixture.store.queue_rows(fixture.home.workspace).await.unwrap();
    rows.into_iter().find(|row| row.key == "aldermoor").unwrap()
}

/// Aldermoor as it stands, to be changed.
pub(crate) async fn change(fixture: &Fixture) -> QueueChange {
    let row = aldermoor(fixture).await;
    let members = row.members.iter().map(|member| MemberChange {
        person: member.person,
        weight: member.weight,
        untried_limit: member.untried_limit,
        day_limit: member.day_limit,
    });
    QueueChange {
        members: members.collect(),
        key: row.key,
        revision: row.revision,
        name: row.name,
        picks: row.picks,
        fixed_owner: row.fixed_owner,
        hours: row.hours,
        passes_on: row.passes_on,
        offer_after: row.offer_after,
        next: row.next,
    }
}

pub(crate) async fn put(fixture: &Fixture, change: &QueueChange) {
    fixture.store.put_queue(fixture.home.workspace, fixture.home.author.id, change).await.unwrap();
}

fn table(rows: &[(&str, &str)], otherwise: Option<&str>) -> Territories {
    let row = |(starts, queue): &(&str, &str)| Territory { starts: (*starts).into(), queue: (*queue).into() };
    Territories {
        key: "firms".into(),
        name: "By firm".into(),
        rows: rows.iter().map(row).collect(),
        otherwise: otherwise.map(str::to_owned),
    }
}

/// Lets the dialogue look its leads up by the firm before any other rule, and releases it.
async fn look_up_firms(fixture: &Fixture) {
    let home = &fixture.home;
    let draft = fixture.store.draft(home.workspace, home.dialogue).await.unwrap();
    let mut routing = draft.body.routing.clone();
    let rule = serde_json::json!({"id": "by_firm", "holds": {"all": []}, "skills": [],
        "table": {"table": "firms", "field": "company"}});
    routing.rules.insert(0, serde_json::from_value(rule).unwrap());
    let edits = lumbo_store::Change::Edits(vec![lumbo_outline::Edit::SetRouting { routing }]);
    let changed =
        fixture.store.change_draft(home.workspace, home.dialogue, home.author.id, draft.revision, edits).await.unwrap();
    let author = Some(home.author.id);
    fixture.store.release(home.workspace, home.dialogue, author, changed.revision, "by firm").await.unwrap();
}

#[tokio::test]
async fn a_table_of_territories_names_the_queue_at_the_filing_and_changes_without_a_release() {
    let fixture = Fixture::new().await;
    let (store, home) = (&fixture.store, &fixture.home);
    let (workspace, author) = (home.workspace, home.author.id);
    let put = async |table: &Territories, revision| store.put_territories(workspace, author, table, revision).await;
    let nowhere = put(&table(&[("Ada", "nowhere")], None), 0).await;
    assert!(matches!(nowhere, Err(StoreError::NotFound("queue that a row names"))), "{nowhere:?}");
    put(&table(&[("Ada", "saltwick"), ("A", "aldermoor")], None), 0).await.unwrap();
    assert!(matches!(put(&table(&[], None), 0).await, Err(StoreError::Conflict(_))), "its key is taken");
    look_up_firms(&fixture).await;
    lead(&fixture, b"1", "Ada").await;
    lead(&fixture, b"2", "Bram").await;
    let queue = async |name: &str| {
        let key = &says(&fixture, name).await;
        key.iter().find(|says| says.contains("By firm")).cloned().unwrap_or_default()
    };
    assert!(
        queue("Ada").await.ends_with("By firm has Ada for Ada Foods: saltwick"),
        "{:?}",
        says(&fixture, "Ada").await
    );
    assert!(queue("Bram").await.ends_with("By firm has no row for Bram Foods"), "{:?}", says(&fixture, "Bram").await);
    let names = store.queues(workspace).await.unwrap();
    let named = |key: &str| names.iter().find(|(known, _)| known == key).map(|(_, name)| name.clone());
    assert_eq!(found(&fixture, "Ada").await.queue, named("saltwick"));
    // Where no row fits, the other rules decide.
    assert_eq!(found(&fixture, "Bram").await.queue, named("aldermoor"));
    // The table is not part of the release.
    put(&table(&[("Cleo", "aldermoor")], Some("saltwick")), 1).await.unwrap();
    assert!(matches!(put(&table(&[], None), 1).await, Err(StoreError::Conflict(_))), "somebody changed it meanwhile");
    lead(&fixture, b"3", "Dirk").await;
    assert_eq!(found(&fixture, "Dirk").await.queue, named("saltwick"));
    let rows = store.territories_rows(workspace).await.unwrap();
    assert_eq!((rows[0].revision, rows[0].serves.len()), (2, 1));
    // One that is used stays; another workspace has none.
    let stays = store.drop_territories(workspace, author, "firms", 2).await;
    assert!(matches!(&stays, Err(StoreError::Conflict(says)) if says.contains("looks leads up")), "{stays:?}");
    assert!(store.territories(fixture.other.workspace).await.unwrap().is_empty());
    let theirs = store.drop_territories(fixture.other.workspace, fixture.other.author.id, "firms", 2).await;
    assert!(matches!(theirs, Err(StoreError::NotFound(_))), "{theirs:?}");
}

#[tokio::test]
async fn a_rule_for_customers_asks_what_their_firm_is_when_the_lead_is_filed() {
    let fixture = Fixture::new().await;
    let (store, home) = (&fixture.store, &fixture.home);
    let draft = store.draft(home.workspace, home.dialogue).await.unwrap();
    let mut routing = draft.body.routing.clone();
    let rule = serde_json::json!({"id": "ours", "holds": {"all": []}, "firm": "customer", "queue": "saltwick"});
    routing.rules.insert(0, serde_json::from_value(rule).unwrap());
    let edits = lumbo_store::Change::Edits(vec![lumbo_outline::Edit::SetRouting { routing }]);
    let changed =
        store.change_draft(home.workspace, home.dialogue, home.author.id, draft.revision, edits).await.unwrap();
    store.release(home.workspace, home.dialogue, Some(home.author.id), changed.revision, "ours").await.unwrap();
    lead(&fixture, b"1", "Ada").await;
    let steps = async |name: &str| says(&fixture, name).await;
    assert!(steps("Ada").await[0].contains("their firm is a customer: "), "{:?}", steps("Ada").await);
    let one = found(&fixture, "Ada").await;
    let names = store.queues(home.workspace).await.unwrap();
    let named = |key: &str| names.iter().find(|(known, _)| known == key).map(|(_, name)| name.clone());
    assert_eq!(one.queue, named("aldermoor"), "nothing is said of a new firm");
    let company = store.lead(&home.author, one.id).await.unwrap().company.unwrap().0;
    let standing = Some(lumbo_records::Standing::Customer);
    let change = lumbo_store::CompanyChange { standing, ..lumbo_store::CompanyChange::default() };
    store.change_company(&home.author, company, &change).await.unwrap();
    // Another person of the same firm.
    fixture
        .talk(
            b"2",
            &["storage", "frozen", "no", "60", "later", "manager", "Cleo Tran", "Ada", "cleo@ada.example", ">skip"],
        )
        .await;
    assert_eq!(found(&fixture, "Cleo").await.queue, named("saltwick"));
    assert!(steps("Cleo").await[0].contains("their firm is a customer ("), "{:?}", steps("Cleo").await);
    // Without a release, the firm of another workspace says nothing here.
    let domain = store.firm_of_domain(fixture.other.workspace, "ada.example", store.now()).await.unwrap();
    assert_eq!(domain, lumbo_store::FirmOnFile::default());
    let firms = store.firms(home.workspace).await.unwrap();
    assert_eq!(firms.get(&company).map(|firm| (firm.customer, firm.looked_after)), Some((true, false)));
}

#[tokio::test]
async fn two_hundred_leads_at_once_over_two_servers_are_shared_out_as_one_after_the_other() {
    let fixture = Fixture::new().await;
    let [ina, udo] = &fixture.home.reps;
    let mut weighted = change(&fixture).await;
    for member in &mut weighted.members {
        member.weight = if member.person == ina.id { 3 } else { 1 };
        (member.untried_limit, member.day_limit) = (None, None);
    }
    put(&fixture, &weighted).await;
    let servers = [fixture.store.clone(), fixture.another().await];
    let mut tasks = tokio::task::JoinSet::new();
    for n in 0..200_u32 {
        let (store, slug, at) = (servers[n as usize % 2].clone(), fixture.home.slug.clone(), fixture.clock.now());
        let (firm, address) = (format!("Firm {n} Foods"), format!("ada@firm{n}.example"));
        let replies = ["storage", "frozen", "no", "60", "later", "manager", "Ada Quarmby", &firm, &address, ">skip"];
        let replies = replies.map(str::to_owned);
        tasks.spawn(async move { patient(&store, &slug, &n.to_le_bytes(), at, &replies).await });
    }
    while let Some(done) = tasks.join_next().await {
        done.unwrap();
    }
    let mut db = sqlx::PgConnection::connect(&fixture.url).await.unwrap();
    let rows: Vec<(Option<uuid::Uuid>, serde_json::Value)> =
        sqlx::query_as("select owner_id, decision from leads where workspace_id = $1")
            .bind(fixture.home.workspace)
            .fetch_all(&mut db)
            .await
            .unwrap();
    let had = |person: uuid::Uuid| rows.iter().filter(|(owner, _)| *owner == Some(person)).count();
    // The smooth weighted rotation of 3 and 1, as in sequence: three of every four.
    assert_eq!((rows.len(), had(ina.id), had(udo.id)), (200, 150, 50));
    // Every reason names whoever was picked before: all but the last were, once for each time they were picked.
    let said: Vec<String> = rows
        .iter()
        .map(|(_, decision)| {
            let decision: lumbo_route::Decision = serde_json::from_value(decision.clone()).unwrap();
            words::says(&decision, &|_| None).pop().unwrap()
        })
        .collect();
    let ends = |what: &str| said.iter().filter(|says| says.ends_with(what)).count();
    let followed = |one: &str, other: &str| {
        ends(&format!("{other} is next in the rotation after {one}"))
            + ends(&format!("{one} is next in the rotation again"))
    };
    assert_eq!(ends("is first in the rotation"), 1, "{said:?}");
    let (of_ina, of_udo) = (followed("ina", "udo"), followed("udo", "ina"));
    assert!(matches!((150 - of_ina, 50 - of_udo), (1, 0) | (0, 1)), "{of_ina} {of_udo}");
    // Two of three in a row are hers, at most: the rotation is smooth.
    assert!(ends("ina is next in the rotation again") <= 100, "{said:?}");
}

#[tokio::test]
async fn a_table_that_is_not_there_stops_a_release() {
    let fixture = Fixture::new().await;
    let home = &fixture.home;
    let draft = fixture.store.draft(home.workspace, home.dialogue).await.unwrap();
    let mut routing = draft.body.routing.clone();
    let rule =
        serde_json::json!({"id": "by_firm", "holds": {"all": []}, "table": {"table": "gone", "field": "company"}});
    routing.rules.push(serde_json::from_value(rule).unwrap());
    let edits = lumbo_store::Change::Edits(vec![lumbo_outline::Edit::SetRouting { routing }]);
    let changed =
        fixture.store.change_draft(home.workspace, home.dialogue, home.author.id, draft.revision, edits).await.unwrap();
    let refused = fixture.store.release(home.workspace, home.dialogue, None, changed.revision, "").await;
    let Err(ReleaseError::Blocked(findings)) = refused else { panic!("it went out") };
    assert_eq!(findings[0].says, "there is no table of territories “gone” in this workspace");
}

#[tokio::test]
async fn who_is_paused_gets_nothing_until_they_take_leads_again() {
    let fixture = Fixture::new().await;
    let [ina, udo] = &fixture.home.reps;
    let pause = async |paused: bool| {
        fixture
            .store
            .set_colleague(fixture.home.workspace, fixture.home.author.id, ina.id, paused, &["Polish".into()])
            .await
            .unwrap();
    };
    pause(true).await;
    lead(&fixture, b"1", "Ada").await;
    lead(&fixture, b"2", "Bram").await;
    for name in ["Ada", "Bram"] {
        assert_eq!(found(&fixture, name).await.owner.as_deref(), Some(udo.name.as_str()));
    }
    assert!(says(&fixture, "Ada").await.contains(&"aldermoor: ina takes no new leads at the moment".to_owned()));
    pause(false).await;
    lead(&fixture, b"3", "Ciara").await;
    assert_eq!(found(&fixture, "Ciara").await.owner.as_deref(), Some(ina.name.as_str()));
    // Nobody pauses people of another workspace.
    let other = fixture.store.set_colleague(fixture.other.workspace, fixture.other.author.id, ina.id, true, &[]).await;
    assert!(matches!(other, Err(StoreError::NotFound(_))));
}

#[tokio::test]
async fn who_has_as_many_untried_leads_as_they_take_is_passed_over_until_they_try_one() {
    let fixture = Fixture::new().await;
    let [ina, udo] = &fixture.home.reps;
    let mut limited = change(&fixture).await;
    limited.members[0].untried_limit = Some(1);
    put(&fixture, &limited).await;
    for (token, name) in [(b"1", "Ada"), (b"2", "Bram"), (b"3", "Ciara")] {
        lead(&fixture, token, name).await;
    }
    assert_eq!(found(&fixture, "Ada").await.owner.as_deref(), Some(ina.name.as_str()));
    assert_eq!(found(&fixture, "Bram").await.owner.as_deref(), Some(udo.name.as_str()));
    assert_eq!(found(&fixture, "Ciara").await.owner.as_deref(), Some(udo.name.as_str()), "ina is full");
    assert!(says(&fixture, "Ciara").await.contains(&"aldermoor: ina is full, 1 of 1 untried".to_owned()));
    let id = found(&fixture, "Ada").await.id;
    let revision = fixture.store.lead(ina, id).await.unwrap().revision;
    let status = LeadStatus::Trying;
    let called = OutcomeChange { revision, status, reason: None, amount: None, currency: None, later_on: None };
    fixture.store.change_outcome(ina, id, &called).await.unwrap();
    // Free again, she is owed no turn for those she missed: the one she took first counts still.
    lead(&fixture, b"4", "Dov").await;
    lead(&fixture, b"5", "Elif").await;
    assert_eq!(found(&fixture, "Dov").await.owner.as_deref(), Some(udo.name.as_str()));
    assert_eq!(found(&fixture, "Elif").await.owner.as_deref(), Some(ina.name.as_str()));
}

#[tokio::test]
async fn what_comes_at_night_waits_and_is_dealt_in_the_morning_best_first() {
    let fixture = Fixture::new().await;
    let hours = serde_json::json!({"zone": "UTC", "hours": {"mon": [["08:00", "17:00"]], "tue": [["08:00", "17:00"]]}});
    let mut office = change(&fixture).await;
    office.hours = Some(serde_json::from_value(hours).unwrap());
    put(&fixture, &office).await;
    // Monday, nine o'clock in the evening.
    fixture.clock.advance(SignedDuration::from_hours(12));
    for (token, name) in [(b"1", "Ada"), (b"2", "Bram"), (b"3", "Ciara")] {
        lead(&fixture, token, name).await;
        assert_eq!(found(&fixture, name).await.owner, None);
    }
    assert!(says(&fixture, "Ada").await.contains(&"aldermoor is closed until 24 November, 08:00 UTC".to_owned()));
    let queue = aldermoor(&fixture).await;
    assert_eq!(queue.waiting, 3);
    let deal = async || fixture.store.deal(fixture.home.workspace, queue.id).await.unwrap();
    let opens = "2026-11-24T08:00:00Z".parse().unwrap();
    assert_eq!(deal().await, Ended::Later(opens), "too early");
    fixture.clock.advance(SignedDuration::from_hours(11));
    assert_eq!(deal().await, Ended::Done);
    let owners = [found(&fixture, "Ada").await, found(&fixture, "Bram").await, found(&fixture, "Ciara").await];
    let owners: Vec<&str> = owners.iter().map(|row| row.owner.as_deref().unwrap()).collect();
    assert_eq!(owners, ["ina", "udo", "ina"], "in turn, by the moment they came");
    assert_eq!(deal().await, Ended::Done, "once more deals nothing twice");
    assert_eq!(aldermoor(&fixture).await.waiting, 0);
}

#[tokio::test]
async fn what_nobody_can_take_in_the_morning_waits_for_the_next_queue_and_holds_up_nobody() {
    let fixture = Fixture::new().await;
    let week = |from: &str| {
        serde_json::json!({"zone": "UTC", "hours": {"mon": [["08:00", "17:00"]],
        "tue": [[from, "17:00"]]}})
    };
    let rows = fixture.store.queue_rows(fixture.home.workspace).await.unwrap();
    let senior = rows.iter().find(|row| row.key == "senior").unwrap();
    let mut late = change(&fixture).await;
    (late.key, late.name, late.revision) = ("senior".into(), "senior".into(), senior.revision);
    late.hours = Some(serde_json::from_value(week("10:00")).unwrap());
    put(&fixture, &late).await;
    let mut office = change(&fixture).await;
    office.hours = Some(serde_json::from_value(week("08:00")).unwrap());
    office.next = Some("senior".into());
    office.members.truncate(1);
    office.members[0].untried_limit = Some(1);
    put(&fixture, &office).await;
    fixture.clock.advance(SignedDuration::from_hours(12));
    for (token, name) in [(b"1", "Ada"), (b"2", "Bram")] {
        lead(&fixture, token, name).await;
    }
    fixture.clock.advance(SignedDuration::from_hours(11));
    let deal = async |queue| fixture.store.deal(fixture.home.workspace, queue).await.unwrap();
    assert_eq!(deal(aldermoor(&fixture).await.id).await, Ended::Done);
    assert_eq!(found(&fixture, "Ada").await.owner.as_deref(), Some("ina"));
    let waits = found(&fixture, "Bram").await;
    assert_eq!((waits.queue.as_deref(), waits.owner), (Some("senior"), None), "ina is full, senior opens at ten");
    fixture.clock.advance(SignedDuration::from_hours(2));
    assert_eq!(deal(senior.id).await, Ended::Done);
    assert!(found(&fixture, "Bram").await.owner.is_some());
}

#[tokio::test]
async fn where_nobody_is_free_the_next_queue_is_asked_and_circles_are_refused() {
    let fixture = Fixture::new().await;
    let mut passing = change(&fixture).await;
    passing.next = Some("senior".into());
    passing.members.clear();
    put(&fixture, &passing).await;
    lead(&fixture, b"1", "Ada").await;
    let row = found(&fixture, "Ada").await;
    assert_eq!((row.queue.as_deref(), row.owner.is_some()), (Some("senior"), true));
    assert!(says(&fixture, "Ada").await.contains(&"aldermoor passes it on".to_owned()));
    let rows = fixture.store.queue_rows(fixture.home.workspace).await.unwrap();
    let senior = rows.iter().find(|row| row.key == "senior").unwrap();
    let circle = QueueChange {
        key: "senior".into(),
        revision: senior.revision,
        name: "senior".into(),
        picks: "rotation".into(),
        fixed_owner: None,
        hours: None,
        passes_on: false,
        offer_after: None,
        next: Some("aldermoor".into()),
        members: Vec::new(),
    };
    let refused = fixture.store.put_queue(fixture.home.workspace, fixture.home.author.id, &circle).await;
    assert!(matches!(refused, Err(StoreError::Conflict(says)) if says.contains("circle")));
    // Nothing of it was kept.
    let rows = fixture.store.queue_rows(fixture.home.workspace).await.unwrap();
    assert_eq!(rows.iter().find(|row| row.key == "senior").unwrap().members.len(), 2);
    // What somebody changed meanwhile is not overwritten.
    let stale = fixture.store.put_queue(fixture.home.workspace, fixture.home.author.id, &passing).await;
    assert!(matches!(stale, Err(StoreError::Conflict(says)) if says.contains("meanwhile")));
}

#[tokio::test]
async fn the_fewest_open_leads_decide_where_a_queue_says_so() {
    let fixture = Fixture::new().await;
    let mut fewest = change(&fixture).await;
    fewest.picks = "fewest_open".into();
    put(&fixture, &fewest).await;
    for (token, name, owner) in [(b"1", "Ada", "ina"), (b"2", "Bram", "udo"), (b"3", "Ciara", "ina")] {
        lead(&fixture, token, name).await;
        assert_eq!(found(&fixture, name).await.owner.as_deref(), Some(owner));
    }
    assert!(says(&fixture, "Ciara").await.contains(&"aldermoor: ina has the fewest open leads, 1".to_owned()));
}

#[tokio::test]
async fn somebody_whose_lead_was_closed_lately_goes_to_its_owner_again() {
    let fixture = Fixture::new().await;
    lead(&fixture, b"1", "Ada").await;
    let first = found(&fixture, "Ada").await;
    let detail = fixture.store.lead(&fixture.home.author, first.id).await.unwrap();
    let lost = OutcomeChange {
        revision: detail.revision,
        status: LeadStatus::Lost,
        reason: Some("price".into()),
        amount: None,
        currency: None,
        later_on: None,
    };
    fixture.store.change_outcome(&fixture.home.reps[0], first.id, &lost).await.unwrap();
    fixture.clock.advance(SignedDuration::from_hours(24 * 40));
    lead(&fixture, b"2", "Ada").await;
    let newest = fixture.leads(&fixture.home.author).await.into_iter().find(|row| row.id != first.id).unwrap();
    assert_eq!(newest.owner, first.owner);
    let decision = fixture.store.lead(&fixture.home.author, newest.id).await.unwrap().decision;
    let said = words::says(&decision, &|_| None);
    assert_eq!(said.last().map(String::as_str), Some("ina has a lead of theirs already: it is ina’s too"));
    // Half a year later it is anybody's.
    fixture.clock.advance(SignedDuration::from_hours(24 * 200));
    lead(&fixture, b"3", "Ada").await;
    assert!(!says(&fixture, "Ada").await.is_empty());
}

#[tokio::test]
async fn a_target_says_when_to_call_in_working_time() {
    let fixture = Fixture::new().await;
    let hours = serde_json::json!({"zone": "Europe/London", "hours": {"mon": [["08:00", "09:02"]],
        "wed": [["10:00", "12:00"]]}});
    let rows = fixture.store.queue_rows(fixture.home.workspace).await.unwrap();
    let senior = rows.iter().find(|row| row.key == "senior").unwrap();
    let members = senior.members.iter().map(|member| MemberChange {
        person: member.person,
        weight: 1,
        untried_limit: None,
        day_limit: None,
    });
    let timed = QueueChange {
        key: "senior".into(),
        revision: senior.revision,
        name: "senior".into(),
        picks: "rotation".into(),
        fixed_owner: None,
        hours: Some(serde_json::from_value(hours).unwrap()),
        passes_on: false,
        offer_after: None,
        next: None,
        members: members.collect(),
    };
    put(&fixture, &timed).await;
    // Monday at nine: hot leads are called within five working minutes, of which two are left that day.
    fixture.lead(b"hot").await;
    let mut db = <sqlx::PgConnection as sqlx::Connection>::connect(&fixture.url).await.unwrap();
    let call_by: String =
        sqlx::query_scalar("select to_char(call_by at time zone 'UTC', 'YYYY-MM-DD HH24:MI') from leads")
            .fetch_one(&mut db)
            .await
            .unwrap();
    assert_eq!(call_by, "2026-11-25 10:03");
}
