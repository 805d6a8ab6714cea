//! What windows are told as it happens: in order, with nothing missed after a break, and only to who may hear it.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, reason = "helpers of tests are tests")]

use crate::common::Fixture;
use crate::common::real::Real;
use axum::http::StatusCode;
use lumbo_server::Config;

async fn real(fixture: &Fixture) -> Real {
    let config = Config { sign_ins_per_minute: 10_000, prospect_requests_per_minute: 100_000, ..Config::default() };
    Real::serve(fixture.store.clone(), config).await
}

#[tokio::test]
async fn a_window_hears_of_a_lead_and_of_what_was_said_about_a_draft() {
    let fixture = Fixture::new().await;
    let server = real(&fixture).await;
    let author = fixture.sign_in("author@a.example").await;
    let dialogue = fixture.dialogues[0];
    let mut window = server.events(&format!("draft.{dialogue},leads"), &author, None).await;
    assert_eq!(window.next().await.unwrap(), ("at".into(), "0-0".into(), "{}".into()));
    fixture.file_lead("storage-a", "harrow").await;
    assert_eq!(
        window.next().await.unwrap(),
        ("changed".into(), "0-1".into(), "{\"topic\":\"leads\",\"kind\":\"lead\"}".into())
    );
    // What happens in another workspace is not told.
    fixture.file_lead("storage-b", "kettle").await;
    let comment = serde_json::json!({"at": "turn:t_load", "says": "shorter?"});
    assert_eq!(
        fixture.post(&format!("/api/dialogues/{dialogue}/comments"), &author, comment).await.status,
        StatusCode::OK
    );
    let told = window.next().await.unwrap();
    assert_eq!((told.1.as_str(), told.2.contains("\"kind\":\"comment\"")), ("1-1", true), "{told:?}");
    server.stop().await;
}

#[tokio::test]
async fn who_comes_back_gets_what_came_meanwhile_and_who_was_never_there_reads_all() {
    let fixture = Fixture::new().await;
    let server = real(&fixture).await;
    let rep = fixture.sign_in("rep@a.example").await;
    for company in ["harrow", "kettle", "pryce"] {
        fixture.file_lead("storage-a", company).await;
    }
    let mut back = server.events("leads", &rep, Some("1")).await;
    let ids = [back.next().await.unwrap().1, back.next().await.unwrap().1];
    assert_eq!(ids, ["2", "3"]);
    // A number that was never given, and one for other topics.
    let mut forged = server.events("leads", &rep, Some("99")).await;
    assert_eq!(
        forged.next().await.unwrap(),
        ("again".into(), "3".into(), "{\"topic\":\"leads\",\"kind\":\"all\"}".into())
    );
    let mut other = server.events("leads", &rep, Some("1-2")).await;
    assert_eq!(other.next().await.unwrap().0, "at");
    server.stop().await;
}

#[tokio::test]
async fn only_who_may_hear_a_topic_hears_it() {
    let fixture = Fixture::new().await;
    let rep = fixture.sign_in("rep@a.example").await;
    let draft = format!("/api/live?topics=draft.{}", fixture.dialogues[0]);
    let get = |path: String, cookie: Option<String>| {
        let fixture = &fixture;
        async move { fixture.call(axum::http::Method::GET, &path, cookie.as_deref(), None).await.status }
    };
    assert_eq!(get("/api/live?topics=leads".into(), None).await, StatusCode::UNAUTHORIZED);
    assert_eq!(get(draft, Some(rep.clone())).await, StatusCode::FORBIDDEN);
    for topics in ["", "nothing", "leads,nothing", "draft.x", &["leads"; 9].join(",")] {
        assert_eq!(
            get(format!("/api/live?topics={topics}"), Some(rep.clone())).await,
            StatusCode::UNPROCESSABLE_ENTITY,
            "{topics}"
        );
    }
}

#[tokio::test]
async fn who_may_not_hear_it_any_more_hears_nothing_further() {
    let fixture = Fixture::new().await;
    let config = Config {
        sign_ins_per_minute: 10_000,
        prospect_requests_per_minute: 100_000,
        rights_every: std::time::Duration::ZERO,
        ..Config::default()
    };
    let server = Real::serve(fixture.store.clone(), config).await;
    let (rep, author) = (fixture.sign_in("rep@a.example").await, fixture.sign_in("author@a.example").await);
    let draft = format!("draft.{}", fixture.dialogues[0]);
    let mut signed_out = server.events("leads", &rep, None).await;
    let mut turned_rep = server.events(&format!("{draft},leads"), &author, None).await;
    let mut stays = server.events("leads", &author, None).await;
    for window in [&mut signed_out, &mut turned_rep, &mut stays] {
        assert_eq!(window.next().await.unwrap().0, "at");
    }
    let gone = fixture.call(axum::http::Method::POST, "/api/sign-out", Some(&rep), None).await;
    assert!(gone.status.is_success(), "{}", gone.status);
    let mut db = fixture.connect().await;
    sqlx::query("update people set role = 'rep' where email = 'author@a.example'").execute(&mut db).await.unwrap();
    fixture.file_lead("storage-a", "harrow").await;
    assert_eq!(signed_out.next().await, None, "a session that ended hears nothing");
    assert_eq!(turned_rep.next().await, None, "a rep hears nothing of drafts");
    assert_eq!(stays.next().await.unwrap().0, "changed");
    server.stop().await;
}

#[tokio::test]
async fn a_server_that_stops_ends_its_streams() {
    let fixture = Fixture::new().await;
    let server = real(&fixture).await;
    let rep = fixture.sign_in("rep@a.example").await;
    let mut window = server.events("leads", &rep, None).await;
    assert_eq!(window.next().await.unwrap().0, "at");
    server.stop().await;
    assert_eq!(window.next().await, None);
}
