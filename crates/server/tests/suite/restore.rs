//! A backup, made and restored as the page on running says, is the same Lumbo again.
#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use std::process::Command;

use crate::common::{Fixture, connected, database};
use axum::http::StatusCode;
use lumbo_server::{Config, router};

/// Runs a tool of PostgreSQL.
fn run(tool: &str, arguments: &[&str]) {
    let done = Command::new(tool).args(arguments).output().unwrap_or_else(|error| panic!("{tool}: {error}"));
    assert!(done.status.success(), "{tool}: {}", String::from_utf8_lossy(&done.stderr));
}

/// Rows of every table, by its name.
async fn rows(url: &str) -> Vec<(String, i64)> {
    use sqlx::Connection;
    let mut db = sqlx::PgConnection::connect(url).await.unwrap();
    let names = "select table_name::text from information_schema.tables where table_schema = 'public'
        and table_type = 'BASE TABLE' order by 1";
    let names: Vec<String> = sqlx::query_scalar(names).fetch_all(&mut db).await.unwrap();
    let mut counted = Vec::new();
    for name in names {
        let count = sqlx::query_scalar(sqlx::AssertSqlSafe(format!("select count(*) from \"{name}\"")));
        counted.push((name.clone(), count.fetch_one(&mut db).await.unwrap()));
    }
    counted
}

#[tokio::test]
async fn a_backup_is_restored_into_an_empty_database_and_goes_on() {
    let fixture = Fixture::new().await;
    fixture.file_lead("storage-a", "harrow").await;
    let token = fixture.begin("storage-a").await;
    assert_eq!(fixture.say(&token, 1, "storage").await.status, StatusCode::OK);
    let session = fixture.sign_in("admin@a.example").await;
    let leads = fixture.get("/api/leads?show=all", &session).await.json;

    let folder = std::env::temp_dir().join(format!("lumbo-backup-{}", uuid::Uuid::new_v4().simple()));
    let file = folder.to_str().unwrap();
    run("pg_dump", &["--format=custom", "--file", file, &fixture.url]);
    let restored = database().await;
    run("pg_restore", &["--no-owner", "--exit-on-error", "--dbname", &restored, file]);
    std::fs::remove_file(&folder).unwrap();

    assert_eq!(rows(&restored).await, rows(&fixture.url).await);
    let store = connected(&restored, 4).await;
    let config = Config {
        secret_key: Some([7; 32]),
        sign_ins_per_minute: 100,
        prospect_requests_per_minute: 1_000,
        ..Config::default()
    };
    let there = Fixture { app: router(store.clone(), &config), store, url: restored, dialogues: fixture.dialogues };
    assert_eq!(there.get("/api/leads?show=all", &session).await.json, leads, "who was signed in still is");
    let said = there.say(&token, 2, "frozen").await;
    assert_eq!(said.status, StatusCode::OK, "and a conversation goes on: {said:?}");
    there.file_lead("storage-a", "kettle").await;
    let after = there.get("/api/leads?show=all", &session).await.json;
    assert_eq!(after["leads"].as_array().unwrap().len(), leads["leads"].as_array().unwrap().len() + 1);
}
