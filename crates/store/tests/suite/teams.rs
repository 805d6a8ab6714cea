//! A sales lead with a team sees that team's leads and queues, and steers its people; one without sees all.
#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use crate::common::Fixture;
use lumbo_store::{AbsenceChange, LeadFilter, NewAccount, NewInvitation, Person, Place, Role, StoreError, Taking};
use sqlx::Connection;
use uuid::Uuid;

/// A sales lead of the home workspace.
async fn sales_lead(fixture: &Fixture) -> Person {
    let (workspace, hash) = (fixture.home.workspace, b"a way in".to_vec());
    let new = NewInvitation { email: "lea@home.example", role: Role::RepLead, token_hash: &hash, mailed: false };
    fixture.store.invite(workspace, None, &new).await.unwrap();
    let account = NewAccount { email: "lea@home.example", name: "lea", zone: None, password_hash: "-" };
    fixture.store.take_invitation(&hash, &Taking::New(account)).await.unwrap()
}

async fn put(fixture: &Fixture, person: &Person, team: Option<&str>) -> Person {
    let home = &fixture.home;
    fixture.store.change_place(&home.author, person.id, Place::Team(team.map(str::to_owned))).await.unwrap();
    fixture.store.person(home.workspace, person.id).await.unwrap().unwrap()
}

/// Names of those whose leads somebody sees.
async fn owners(fixture: &Fixture, person: &Person) -> Vec<String> {
    let rows = fixture.leads_by(person, LeadFilter::All, "").await;
    let mut names: Vec<String> = rows.into_iter().filter_map(|row| row.owner).collect();
    names.sort();
    names.dedup();
    names
}

#[tokio::test]
async fn who_leads_a_team_sees_its_leads_and_steers_its_people_only() {
    let fixture = Fixture::new().await;
    let lea = sales_lead(&fixture).await;
    let [ina, udo] = &fixture.home.reps;
    for (token, name) in [(b"one", "one"), (b"two", "two"), (b"thr", "three"), (b"fou", "four")] {
        fixture.lead_of(token, "Pia Lindqvist", name, &format!("pia@{name}.example")).await;
    }
    assert!(lea.sees_all());
    assert_eq!(owners(&fixture, &lea).await, ["ina", "udo"], "without a team everybody is theirs");
    // Both are in the same queues, which would show each the other’s: leads of no queue tell them apart.
    let mut db = sqlx::PgConnection::connect(&fixture.url).await.unwrap();
    sqlx::query("update leads set queue_id = null").execute(&mut db).await.unwrap();

    let lea = put(&fixture, &lea, Some("North")).await;
    assert!(!lea.sees_all());
    assert_eq!(owners(&fixture, &lea).await, Vec::<String>::new(), "nobody is in it yet");
    put(&fixture, ina, Some("north")).await;
    put(&fixture, udo, Some("South")).await;
    assert_eq!(owners(&fixture, &lea).await, ["ina"], "whatever the case of the name");
    let team = fixture.store.team(&lea).await.unwrap();
    assert_eq!(team.people.iter().map(|row| row.name.as_str()).collect::<Vec<_>>(), ["ina", "lea"]);
    let filed: i64 = team.weeks.iter().map(|week| week.filed).sum();
    assert_eq!(filed, 2, "the weeks are the team’s as well");

    // Each lead of the other team is as if it were not there.
    for row in fixture.leads_by(&fixture.home.author, LeadFilter::All, "").await {
        let seen = fixture.store.lead(&lea, row.id).await;
        assert_eq!(seen.is_ok(), row.owner.as_deref() == Some("ina"), "{row:?}");
    }
    assert!(fixture.store.set_paused(&lea, ina.id, true).await.is_ok());
    let days =
        AbsenceChange { from: "2027-01-04".parse().unwrap(), until: "2027-01-05".parse().unwrap(), deputy: None };
    assert!(fixture.store.add_absence(&lea, ina.id, &days).await.is_ok());
    let refused = [
        fixture.store.set_paused(&lea, udo.id, true).await.err(),
        fixture.store.add_absence(&lea, udo.id, &days).await.map(drop).err(),
        fixture.store.share_out(&lea, udo.id).await.map(drop).err(),
    ];
    assert!(refused.iter().all(|error| matches!(error, Some(StoreError::NotFound(_)))), "{refused:?}");
    assert_eq!(fixture.store.absences(&lea).await.unwrap().len(), 1);

    let lea = put(&fixture, &lea, None).await;
    assert_eq!(owners(&fixture, &lea).await, ["ina", "udo"]);
}

#[tokio::test]
async fn a_rep_in_a_team_sees_own_leads_as_before_and_nothing_crosses() {
    let fixture = Fixture::new().await;
    let [ina, udo] = &fixture.home.reps;
    put(&fixture, ina, Some("North")).await;
    put(&fixture, udo, Some("North")).await;
    fixture.lead_of(b"one", "Pia Lindqvist", "one", "pia@one.example").await;
    let mut db = sqlx::PgConnection::connect(&fixture.url).await.unwrap();
    sqlx::query("update leads set queue_id = null").execute(&mut db).await.unwrap();
    let seen = [owners(&fixture, ina).await.len(), owners(&fixture, udo).await.len()];
    assert_eq!(seen.iter().sum::<usize>(), 1, "belonging together shows reps nothing of each other: {seen:?}");
    // The same name in another workspace is another team.
    let stranger = fixture.store.change_place(&fixture.other.author, ina.id, Place::Team(None)).await;
    assert!(matches!(stranger, Err(StoreError::NotFound(_))));
    let nobody: Vec<Uuid> = sqlx::query_scalar(
        "select s.seen_id from sees s join people p on p.id = s.seen_id where p.workspace_id <> s.workspace_id",
    )
    .fetch_all(&mut db)
    .await
    .unwrap();
    assert!(nobody.is_empty());
}
