//! What people are told, who stands in for whom, and what becomes of leads that nobody calls in time.

#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use crate::common::Fixture;
use jiff::SignedDuration;
use lumbo_route::words;
use lumbo_store::{
    AbsenceChange, Alerts, Call, CompanyChange, Ended, LeadFilter, NoticeKind, OwnerChange, Person, StoreError,
};
use sqlx::{Connection, PgConnection};
use uuid::Uuid;

async fn told(fixture: &Fixture, person: &Person) -> Vec<NoticeKind> {
    fixture.store.notices(person).await.unwrap().0.into_iter().map(|notice| notice.kind).collect()
}

async fn lead_named(fixture: &Fixture, name: &str) -> (Uuid, Option<String>) {
    let row = fixture.leads_by(&fixture.home.author, LeadFilter::All, name).await.remove(0);
    (row.id, row.owner)
}

/// From today, so many days on.
fn days(fixture: &Fixture, from: i64, until: i64, deputy: Option<Uuid>) -> AbsenceChange {
    let today = fixture.clock.now().to_zoned(jiff::tz::TimeZone::UTC).date();
    let day = |after: i64| today.checked_add(jiff::Span::new().days(after)).unwrap();
    AbsenceChange { from: day(from), until: day(until), deputy }
}

#[tokio::test]
async fn whoever_gets_a_lead_is_told_and_nobody_of_what_they_did_themselves() {
    let fixture = Fixture::new().await;
    let [ina, udo] = &fixture.home.reps;
    fixture.lead(b"one").await;
    assert_eq!(told(&fixture, ina).await, [NoticeKind::Yours]);
    assert!(told(&fixture, udo).await.is_empty());
    let (rows, unseen) = fixture.store.notices(ina).await.unwrap();
    let lead = rows[0].lead.as_ref().unwrap();
    assert_eq!((unseen, lead.name.as_deref(), lead.mine, lead.untried), (1, Some("Maud Ekström"), true, true));
    assert_eq!(lead.phone.as_deref(), Some("+442079460588"));
    fixture.store.notices_seen(udo, Some(rows[0].id)).await.unwrap();
    assert_eq!(fixture.store.notices(ina).await.unwrap().1, 1, "nobody sees for somebody else");
    fixture.store.notices_seen(ina, None).await.unwrap();
    assert_eq!(fixture.store.notices(ina).await.unwrap().1, 0);
    // Passed on, the other one is told; taken back, nobody: who took it knows.
    let change = OwnerChange { revision: lead.revision, to: udo.id, note: None };
    fixture.store.change_owner(ina, lead.id, &change).await.unwrap();
    assert_eq!(told(&fixture, udo).await, [NoticeKind::Yours]);
    let revision = fixture.store.lead(ina, lead.id).await.unwrap().revision;
    fixture.store.change_owner(ina, lead.id, &OwnerChange { revision, to: ina.id, note: None }).await.unwrap();
    assert_eq!(told(&fixture, ina).await.len(), 1);
    assert!(fixture.store.notices(&fixture.other.author).await.unwrap().0.is_empty());
}

#[tokio::test]
async fn how_one_wants_to_be_told_is_ones_own() {
    let fixture = Fixture::new().await;
    let [ina, udo] = &fixture.home.reps;
    let loud = Alerts { from_rank: 2, mail: false, sound: true, desktop: false, from_hour: 8, until_hour: 18 };
    fixture.store.put_alerts(ina, &loud).await.unwrap();
    assert_eq!(fixture.store.alerts(ina).await.unwrap(), loud);
    assert_eq!(fixture.store.alerts(udo).await.unwrap(), Alerts::default());
}

#[tokio::test]
async fn who_is_away_gets_no_turn_and_neither_gains_nor_spends_weight() {
    let fixture = Fixture::new().await;
    let (store, [ina, udo]) = (&fixture.store, &fixture.home.reps);
    let by = &fixture.home.author;
    let away = store.add_absence(by, ina.id, &days(&fixture, 0, 1, None)).await.unwrap();
    let rows = store.absences(&fixture.home.author).await.unwrap();
    assert_eq!((rows.len(), rows[0].person, rows[0].now), (1, ina.id, true));
    for (token, name) in [(b"1", "Ada Ohm"), (b"2", "Bram Oster")] {
        let firm = name.split_once(' ').unwrap().1.to_lowercase();
        fixture.lead_of(token, name, &firm, &format!("post@{firm}.example")).await;
        assert_eq!(lead_named(&fixture, name).await.1.as_deref(), Some("udo"));
    }
    let detail = store.lead(udo, lead_named(&fixture, "Ada Ohm").await.0).await.unwrap();
    let says = words::says(&detail.decision, &|_| None);
    assert!(says.iter().any(|step| step.contains("ina is away until")), "{says:?}");
    store.remove_absence(by, ina.id, away).await.unwrap();
    assert!(store.absences(&fixture.home.author).await.unwrap().is_empty());
    // She is owed no turn for those she missed: the rotation goes on as if she had not been asked.
    fixture.lead_of(b"3", "Ciara Moon", "Moon Foods", "ciara@moonfoods.example").await;
    assert_eq!(lead_named(&fixture, "Ciara").await.1.as_deref(), Some("ina"));
    // Days of another workspace, days that are over, days that go backwards, and one's own deputy.
    let stranger = store.add_absence(&fixture.other.author, ina.id, &days(&fixture, 0, 1, None)).await;
    assert!(matches!(stranger, Err(StoreError::NotFound(_))));
    for wrong in [days(&fixture, -5, -3, None), days(&fixture, 3, 1, None)] {
        assert!(matches!(store.add_absence(by, ina.id, &wrong).await, Err(StoreError::Conflict(_))));
    }
    let own = store.add_absence(by, ina.id, &days(&fixture, 0, 1, Some(ina.id))).await;
    assert!(matches!(own, Err(StoreError::NotFound(_))));
}

#[tokio::test]
async fn a_deputy_has_what_would_be_somebodys_alone_and_is_told_of_it() {
    let fixture = Fixture::new().await;
    let (store, [ina, udo]) = (&fixture.store, &fixture.home.reps);
    let by = &fixture.home.author;
    fixture.lead(b"one").await;
    assert_eq!(lead_named(&fixture, "Maud").await.1.as_deref(), Some("ina"));
    let mut db = PgConnection::connect(&fixture.url).await.unwrap();
    // Closed, so that what they say later is a lead of its own, which goes to the same rep again.
    sqlx::query("update leads set status = 'won'").execute(&mut db).await.unwrap();
    store.add_absence(by, ina.id, &days(&fixture, 0, 3, Some(udo.id))).await.unwrap();
    fixture.lead(b"two").await;
    let second = fixture.leads(by).await.into_iter().find(|row| row.status.is_open()).unwrap();
    assert_eq!(second.owner.as_deref(), Some("udo"));
    let says = words::says(&store.lead(by, second.id).await.unwrap().decision, &|_| None);
    assert!(says.contains(&"ina is away: udo stands in, and has it".to_owned()), "{says:?}");
    assert_eq!(told(&fixture, udo).await, [NoticeKind::Yours]);
    // A firm that she looks after: the same.
    let company: Uuid = sqlx::query_scalar("select company_id from leads limit 1").fetch_one(&mut db).await.unwrap();
    sqlx::query("update leads set status = 'junk'").execute(&mut db).await.unwrap();
    let looked = CompanyChange { owner: Some(Some(ina.id)), ..CompanyChange::default() };
    store.change_company(by, company, &looked).await.unwrap();
    fixture.lead_of(b"three", "Elif Aydin", "Ekström Berries", "elif@ekstromberries.example").await;
    let (id, owner) = lead_named(&fixture, "Elif").await;
    assert_eq!(owner.as_deref(), Some("udo"));
    let says = words::says(&store.lead(by, id).await.unwrap().decision, &|_| None);
    assert!(says[says.len() - 2].contains("ina looks after Ekström Berries"), "{says:?}");
    // Both away: nobody stands in, and the queue is asked; nobody there is free either.
    store.add_absence(by, udo.id, &days(&fixture, 0, 3, Some(ina.id))).await.unwrap();
    fixture.lead_of(b"four", "Dov Levin", "Ekström Berries", "dov@ekstromberries.example").await;
    assert_eq!(lead_named(&fixture, "Dov").await.1, None);
}

#[tokio::test]
async fn a_late_lead_is_told_of_once_and_a_hot_one_offered_on_to_who_is_here() {
    let fixture = Fixture::new().await;
    let (store, [ina, udo]) = (&fixture.store, &fixture.home.reps);
    let workspace = fixture.home.workspace;
    let mut db = PgConnection::connect(&fixture.url).await.unwrap();
    sqlx::query("update people set role = 'rep_lead' where id = $1")
        .bind(fixture.home.author.id)
        .execute(&mut db)
        .await
        .unwrap();
    fixture.lead(b"one").await;
    let (lead, _) = lead_named(&fixture, "Maud").await;
    let filed = fixture.clock.now();
    // Its target is five minutes, and it is offered on after ten; both working time, and the queue is always open.
    let look = async || store.look_after_late(workspace, lead).await.unwrap();
    assert_eq!(look().await, Ended::Later(filed + SignedDuration::from_mins(5)));
    fixture.clock.advance(SignedDuration::from_mins(5));
    assert_eq!(look().await, Ended::Later(filed + SignedDuration::from_mins(10)));
    assert_eq!(told(&fixture, &fixture.home.author).await, [NoticeKind::Late]);
    look().await;
    assert_eq!(told(&fixture, &fixture.home.author).await.len(), 1, "once");
    assert!(told(&fixture, udo).await.is_empty());
    fixture.clock.advance(SignedDuration::from_mins(5));
    assert_eq!(look().await, Ended::Done);
    assert_eq!(told(&fixture, udo).await, [NoticeKind::Offered]);
    assert_eq!(told(&fixture, ina).await, [NoticeKind::Yours], "not to whoever has it");
    let (rows, _) = store.notices(udo).await.unwrap();
    let offered = rows[0].lead.as_ref().unwrap();
    assert_eq!((offered.id, offered.mine, offered.owner.as_deref()), (lead, false, Some("ina")));
    // The first who takes it has it; the second is told.
    let change = OwnerChange { revision: offered.revision, to: udo.id, note: None };
    store.change_owner(udo, lead, &change).await.unwrap();
    assert!(matches!(store.change_owner(udo, lead, &change).await, Err(StoreError::Conflict(_))));
    assert_eq!(lead_named(&fixture, "Maud").await.1.as_deref(), Some("udo"));
    look().await;
    assert_eq!(told(&fixture, udo).await.len(), 1, "offered once");
}

#[tokio::test]
async fn a_lead_that_was_called_in_time_is_neither_late_nor_offered() {
    let fixture = Fixture::new().await;
    let (store, [ina, udo]) = (&fixture.store, &fixture.home.reps);
    fixture.lead(b"one").await;
    let (lead, _) = lead_named(&fixture, "Maud").await;
    fixture.clock.advance(SignedDuration::from_mins(3));
    let revision = store.lead(ina, lead).await.unwrap().revision;
    let call = Call { revision, outcome: lumbo_records::CallOutcome::NoReply, note: None };
    store.log_call(ina, lead, &call).await.unwrap();
    fixture.clock.advance(SignedDuration::from_hours(2));
    assert_eq!(store.look_after_late(fixture.home.workspace, lead).await.unwrap(), Ended::Done);
    assert!(told(&fixture, udo).await.is_empty());
}

#[tokio::test]
async fn an_updated_lead_tells_its_owner_only_where_its_band_rose() {
    let fixture = Fixture::new().await;
    let [ina, _] = &fixture.home.reps;
    let cool = [
        "storage",
        "frozen",
        "no",
        "340",
        "quotes",
        "Maud Ekström",
        "Ekström Berries",
        "maud@ekstromberries.example",
        "020 7946 0588",
    ];
    fixture.talk(b"one", &cool).await;
    let (_, owner) = lead_named(&fixture, "Maud").await;
    let who = fixture.home.reps.iter().find(|rep| Some(rep.name.as_str()) == owner.as_deref()).unwrap_or(ina);
    fixture.store.notices_seen(who, None).await.unwrap();
    fixture.clock.advance(SignedDuration::from_hours(1));
    fixture.talk(b"two", &cool).await;
    assert_eq!(told(&fixture, who).await, [NoticeKind::Yours], "the same again is no news");
    fixture.lead(b"three").await;
    assert_eq!(told(&fixture, who).await[0], NoticeKind::Rose);
}
