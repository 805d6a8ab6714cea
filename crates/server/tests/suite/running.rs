//! What administrators see of jobs, sizes and versions.
#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use crate::common::Fixture;
use axum::http::StatusCode;
use serde_json::{Value, json};
use uuid::Uuid;

/// How many the page says there are of something.
fn count(view: &Value, what: &str) -> i64 {
    let sizes = view["sizes"].as_array().unwrap();
    sizes.iter().find(|size| size["what"] == what).unwrap()["count"].as_i64().unwrap()
}

#[tokio::test]
async fn sizes_and_jobs_are_the_workspaces_own() {
    let fixture = Fixture::new().await;
    fixture.file_lead("storage-a", "harrow").await;
    let admin = fixture.sign_in("admin@a.example").await;
    let view = fixture.get("/api/running", &admin).await.json;
    assert_eq!((count(&view, "conversations"), count(&view, "leads"), count(&view, "contacts")), (1, 1, 1));
    assert!(count(&view, "events") > 10, "{view}");
    assert!(
        view["migration"].as_i64().unwrap() >= 24 && view["database"].as_str().unwrap().starts_with(char::is_numeric)
    );
    let waiting: i64 = view["jobs"].as_array().unwrap().iter().map(|kind| kind["waiting"].as_i64().unwrap()).sum();
    let mut db = fixture.connect().await;
    let there = "select count(*) from jobs j join workspaces w on w.id = j.workspace_id where w.slug = 'a'
        and state in ('waiting', 'leased')";
    let there: i64 = sqlx::query_scalar(there).fetch_one(&mut db).await.unwrap();
    assert!(waiting > 0 && waiting == there, "{waiting} of {there}");
    let other = fixture.sign_in("admin@b.example").await;
    let view = fixture.get("/api/running", &other).await.json;
    assert_eq!((count(&view, "conversations"), count(&view, "events"), count(&view, "leads")), (0, 0, 0));
}

#[tokio::test]
async fn a_job_that_was_given_up_runs_again_once_and_the_audit_says_who_wanted_it() {
    let fixture = Fixture::new().await;
    let admin = fixture.sign_in("admin@a.example").await;
    let job = Uuid::from_u128(77);
    let mut db = fixture.connect().await;
    let parked = "insert into jobs (workspace_id, id, kind, subject, key, state, attempts, due_at, made_at, ended_at,
          failing_since, last_error)
        select id, $1, 'notice_mail', id, 'k', 'parked', 30, now(), now(), now(), now(), 'the mail server said no'
        from workspaces where slug = 'a'";
    sqlx::query(parked).bind(job).execute(&mut db).await.unwrap();
    let view = fixture.get("/api/running", &admin).await.json;
    assert_eq!(
        (&view["parked"][0]["kind"], &view["parked"][0]["attempts"], &view["parked"][0]["last_error"]),
        (&json!("notice_mail"), &json!(30), &json!("the mail server said no"))
    );
    let path = format!("/api/running/jobs/{job}/again");
    assert_eq!(fixture.post(&path, &admin, json!({})).await.status, StatusCode::NO_CONTENT);
    let (state, attempts): (String, i32) =
        sqlx::query_as("select state, attempts from jobs where id = $1").bind(job).fetch_one(&mut db).await.unwrap();
    assert_eq!((state.as_str(), attempts), ("waiting", 0));
    assert_eq!(fixture.post(&path, &admin, json!({})).await.status, StatusCode::NOT_FOUND, "it waits already");
    let audit = fixture.get("/api/audit?what=job_run_again", &admin).await.json;
    assert_eq!((audit["entries"].as_array().unwrap().len(), &audit["entries"][0]["about"]), (1, &json!("notice mail")));
    let view = fixture.get("/api/running", &admin).await.json;
    assert_eq!(view["parked"], json!([]));
}
