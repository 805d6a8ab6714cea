//! A database as the version before left it, with people, conversations and leads, is brought up to date and goes on.

#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use lumbo_records::LeadStatus;
use lumbo_store::{Clock, JobKind, LeadFilter, LeadQuery, PLAIN, Store};
use sqlx::{Connection, Executor, PgConnection};
use uuid::Uuid;

/// Made by `lumbo demo` of the version with three migrations, with most conversations taken out, one lead called and
/// one conversation due to end by silence.
const THREE: &str = include_str!("data/schema-3.sql");

#[tokio::test]
async fn what_the_version_with_three_migrations_kept_is_carried_over() {
    let server = std::env::var("LUMBO_TEST_DATABASE_SERVER")
        .expect("set LUMBO_TEST_DATABASE_SERVER to a PostgreSQL server, or run ./test, which does");
    let name = format!("upgrade_{}", Uuid::new_v4().simple());
    let mut admin = PgConnection::connect(&format!("{server}/postgres")).await.unwrap();
    admin.execute(sqlx::AssertSqlSafe(format!("create database {name}"))).await.unwrap();
    let url = format!("{server}/{name}");
    let mut db = PgConnection::connect(&url).await.unwrap();
    sqlx::raw_sql(THREE).execute(&mut db).await.unwrap();
    db.close().await.unwrap();

    let clock = Clock::standing_at("2026-11-29T09:00:01Z".parse().unwrap());
    let store = Store::connect_at(&url, 2, clock).await.unwrap();
    let edda = store.person_by_email("edda@winterlode.example").await.unwrap().unwrap();
    let leads = store
        .leads(&edda, &LeadQuery { filter: LeadFilter::All, search: "", look: &PLAIN, after: None })
        .await
        .unwrap()
        .leads;
    assert_eq!(leads.len(), 6);
    let called = leads.iter().find(|lead| lead.status == LeadStatus::Trying).expect("who was called has been tried");
    assert!(leads.iter().all(|lead| lead.name.is_some() && lead.wants.contains("pallets")), "{leads:?}");
    for lead in &leads {
        let detail = store.lead(&edda, lead.id).await.unwrap();
        assert!(
            !detail.fields.is_empty()
                && !detail.transcript.is_empty()
                && detail.conversations.len() == 1
                && detail.score.is_some()
        );
        assert!(detail.email.is_some() && detail.also_given.is_empty());
        let kinds: Vec<&str> = detail.log.iter().map(|row| row.kind.as_str()).collect();
        assert_eq!(kinds, if lead.id == called.id { vec!["filing", "call"] } else { vec!["filing"] });
        // Everything that stands in a column of its own is found by it.
        let (first, _) = detail.row.name.as_deref().unwrap().split_once(' ').unwrap();
        let query = LeadQuery { filter: LeadFilter::All, search: first, look: &PLAIN, after: None };
        assert!(store.leads(&edda, &query).await.unwrap().leads.iter().any(|found| found.id == lead.id));
    }
    // The typed values are those of the snapshots.
    let mut db = PgConnection::connect(&url).await.unwrap();
    let pallets: Vec<(String,)> =
        sqlx::query_as("select number_value::text from lead_values where field_id = 'fld_pallets'")
            .fetch_all(&mut db)
            .await
            .unwrap();
    assert_eq!(pallets.len(), 6);
    let sources: Vec<(String,)> =
        sqlx::query_as("select distinct source::text from record_values").fetch_all(&mut db).await.unwrap();
    assert_eq!(sources, [("\"system\"".to_owned(),)]);
    // The conversation that was due to end by silence still is, as a job.
    let jobs = store.take_jobs(&JobKind::ALL, 10).await.unwrap();
    assert_eq!(jobs.len(), 1);
    store.end_silent(jobs[0].workspace, jobs[0].subject).await.unwrap();
}
