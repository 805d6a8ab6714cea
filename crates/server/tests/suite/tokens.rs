//! Tokens for programs: shown once, never more than their maker may, ended at once.
#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use crate::common::{Answer, Fixture};
use crate::isolation::{Who, table};
use axum::http::{Method, StatusCode, header};
use lumbo_people::{Role, Scope};
use lumbo_server::Config;
use serde_json::{Value, json};

/// Every scope, by its name.
fn all_scopes() -> Value {
    json!(Scope::ALL)
}

async fn make(fixture: &Fixture, admin: &str, scopes: Value) -> (String, String) {
    let made = fixture.post("/api/tokens", admin, json!({"name": "Nightly copy", "scopes": scopes, "days": 30})).await;
    assert_eq!(made.status, StatusCode::OK, "{made:?}");
    (made.json["id"].as_str().unwrap().to_owned(), made.json["token"].as_str().unwrap().to_owned())
}

/// A request as a program makes it: no cookie, no origin.
async fn by(fixture: &Fixture, token: &str, method: Method, path: &str, body: Option<Value>) -> Answer {
    let mut request = Fixture::request(&method, path, None, body.as_ref());
    request.headers_mut().remove(header::ORIGIN);
    request.headers_mut().insert(header::AUTHORIZATION, format!("Bearer {token}").parse().unwrap());
    fixture.send(request).await
}

#[tokio::test]
async fn a_token_is_shown_once_works_for_its_scopes_and_ends_at_once() {
    let fixture = Fixture::new().await;
    let admin = fixture.sign_in("admin@a.example").await;
    fixture.file_lead("storage-a", "harrow").await;
    let (id, token) = make(&fixture, &admin, json!(["read_leads", "read_leads"])).await;
    assert!(token.starts_with("lumbo_") && token.len() > 30, "{token}");
    let listed = fixture.get("/api/tokens", &admin).await;
    assert!(!listed.text.contains(&token), "it is shown once");
    assert_eq!((&listed.json[0]["state"], &listed.json[0]["scopes"]), (&json!("works"), &json!(["read_leads"])));
    assert_eq!(listed.json[0]["ending"], token[token.len() - 4..]);
    assert!(listed.json[0]["used_at"].is_null());
    let mut db = fixture.connect().await;
    let kept: String = sqlx::query_scalar("select t::text from api_tokens t").fetch_one(&mut db).await.unwrap();
    assert!(!kept.contains(&token), "only its SHA-256 is kept");

    let leads = by(&fixture, &token, Method::GET, "/api/leads?show=all", None).await;
    assert_eq!(leads.json["leads"].as_array().unwrap().len(), 1, "{leads:?}");
    let lead = leads.json["leads"][0]["id"].as_str().unwrap().to_owned();
    let won = Some(json!({"revision": 1, "status": "won"}));
    let refused = by(&fixture, &token, Method::POST, &format!("/api/leads/{lead}/outcome"), won).await;
    assert_eq!(
        (refused.status, refused.json["detail"].as_str().unwrap().contains("may not be used")),
        (StatusCode::FORBIDDEN, true)
    );
    for path in ["/api/me", "/api/tokens", "/api/people", "/api/audit", "/api/dialogues"] {
        assert_eq!(by(&fixture, &token, Method::GET, path, None).await.status, StatusCode::FORBIDDEN, "{path}");
    }
    assert!(!fixture.get("/api/tokens", &admin).await.json[0]["used_at"].is_null());

    let ended = fixture.post(&format!("/api/tokens/{id}/end"), &admin, json!({})).await;
    assert_eq!(ended.status, StatusCode::NO_CONTENT, "{ended:?}");
    let after = by(&fixture, &token, Method::GET, "/api/leads?show=all", None).await;
    assert_eq!(
        (after.status, &after.json["type"]),
        (StatusCode::UNAUTHORIZED, &json!("urn:lumbo:problem:no-such-token"))
    );
    let again = fixture.post(&format!("/api/tokens/{id}/end"), &admin, json!({})).await;
    assert_eq!(again.status, StatusCode::NOT_FOUND);
    let audit = fixture.get("/api/audit?what=secret_changed", &admin).await;
    let about: Vec<&str> =
        audit.json["entries"].as_array().unwrap().iter().map(|entry| entry["about"].as_str().unwrap()).collect();
    assert_eq!(about, ["API token “Nightly copy”: ended", "API token “Nightly copy”: made"]);
}

#[tokio::test]
async fn for_every_route_a_token_does_what_its_scopes_allow_and_no_more() {
    let fixture = Fixture::new().await;
    let admin = fixture.sign_in("admin@a.example").await;
    let (_, all) = make(&fixture, &admin, all_scopes()).await;
    let (_, reads) = make(&fixture, &admin, json!(["read_leads", "read_dialogues", "read_audit"])).await;
    let nobody = uuid::Uuid::from_u128(1).to_string();
    let mut looked_at = 0;
    for (method, path, who, body, _) in table() {
        let Who::May(action) = who else { continue };
        // Whatever an address names is not there: what is looked at is who may ask.
        let mut at = path.to_owned();
        while let Some((before, rest)) = at.split_once('{') {
            let after = rest.split_once('}').unwrap().1;
            at = format!("{before}{nobody}{after}");
        }
        let read = method == Method::GET;
        for (token, may) in [
            (&all, Scope::ALL.iter().any(|scope| scope.allows(action, read))),
            (&reads, [Scope::ReadLeads, Scope::ReadDialogues, Scope::ReadAudit].iter().any(|s| s.allows(action, read))),
        ] {
            let answer = by(&fixture, token, method.clone(), &at, body.clone()).await;
            let refused = answer.status == StatusCode::FORBIDDEN
                && answer.json["detail"].as_str().is_some_and(|detail| detail.starts_with("This token may not"));
            assert_eq!(!refused, may, "{method} {path}: {answer:?}");
            assert_ne!(answer.status, StatusCode::UNAUTHORIZED, "{method} {path}");
        }
        looked_at += 1;
    }
    assert!(looked_at > 150, "{looked_at} routes");
}

#[tokio::test]
async fn a_token_never_does_more_than_its_maker_may_and_ends_with_their_access() {
    let fixture = Fixture::new().await;
    let admin = fixture.sign_in("admin@a.example").await;
    let (_, token) = make(&fixture, &admin, all_scopes()).await;
    let stranger = fixture.sign_in("admin@b.example").await;
    assert_eq!(fixture.get("/api/tokens", &stranger).await.json, json!([]), "another workspace’s are not seen");
    let of_a = by(&fixture, &token, Method::GET, &format!("/api/dialogues/{}/draft", fixture.dialogues[1]), None).await;
    assert_eq!(of_a.status, StatusCode::NOT_FOUND, "the token is of its workspace");

    let mut db = fixture.connect().await;
    let set = "update people set role = $1 where email = 'admin@a.example'";
    sqlx::query(set).bind(Role::Rep.as_str()).execute(&mut db).await.unwrap();
    let as_rep = by(&fixture, &token, Method::GET, "/api/dialogues", None).await;
    assert_eq!(as_rep.status, StatusCode::FORBIDDEN, "a rep writes no dialogues, nor does a rep’s token");
    assert_eq!(by(&fixture, &token, Method::GET, "/api/leads?show=mine", None).await.status, StatusCode::OK);
    sqlx::query("update people set active = false where email = 'admin@a.example'").execute(&mut db).await.unwrap();
    let gone = by(&fixture, &token, Method::GET, "/api/leads?show=mine", None).await;
    assert_eq!(gone.status, StatusCode::UNAUTHORIZED);
}

#[tokio::test]
async fn what_is_no_token_or_out_of_date_lets_nobody_in_whatever_cookie_comes_with_it() {
    let fixture = Fixture::new().await;
    let admin = fixture.sign_in("admin@a.example").await;
    let (_, token) = make(&fixture, &admin, all_scopes()).await;
    for wrong in ["", "lumbo_", "lumbo_x", "x", &"lumbo_".repeat(50), &format!("{token}x"), &token[..token.len() - 1]] {
        let answer = by(&fixture, wrong, Method::GET, "/api/dialogues", None).await;
        assert_eq!(answer.status, StatusCode::UNAUTHORIZED, "{wrong}");
    }
    // A request with a token is the token's, never the session's.
    let mut request = Fixture::request(&Method::GET, "/api/dialogues", Some(&admin), None);
    request.headers_mut().insert(header::AUTHORIZATION, "Bearer lumbo_x".parse().unwrap());
    assert_eq!(fixture.send(request).await.status, StatusCode::UNAUTHORIZED);
    let mut db = fixture.connect().await;
    sqlx::query("update api_tokens set expires_at = now()").execute(&mut db).await.unwrap();
    assert_eq!(by(&fixture, &token, Method::GET, "/api/dialogues", None).await.status, StatusCode::UNAUTHORIZED);
    assert_eq!(fixture.get("/api/tokens", &admin).await.json[0]["state"], "expired");
}

#[tokio::test]
async fn what_is_asked_of_a_new_token_is_looked_at() {
    let fixture = Fixture::new().await;
    let admin = fixture.sign_in("admin@a.example").await;
    for (body, says) in [
        (json!({"name": "N", "scopes": [], "days": 1}), "tick one at least"),
        (json!({"name": "N", "scopes": ["read_leads"], "days": 0}), "1 to 366 days"),
        (json!({"name": "N", "scopes": ["read_leads"], "days": 367}), "1 to 366 days"),
        (json!({"name": " ", "scopes": ["read_leads"], "days": 1}), "name"),
    ] {
        let answer = fixture.post("/api/tokens", &admin, body).await;
        let detail = answer.json["detail"].as_str().unwrap_or_default();
        assert!(answer.status.is_client_error() && detail.contains(says), "{answer:?}");
    }
    let unknown = fixture.post("/api/tokens", &admin, json!({"name": "N", "scopes": ["everything"], "days": 1})).await;
    assert!(unknown.status.is_client_error(), "{unknown:?}");
    assert_eq!(fixture.get("/api/tokens", &admin).await.json, json!([]));
}

#[tokio::test]
async fn a_program_that_asks_without_end_is_told_to_wait() {
    let config = Config { token_requests_per_minute: 3, sign_ins_per_minute: 100, ..Config::default() };
    let fixture = Fixture::with(&config).await;
    let admin = fixture.sign_in("admin@a.example").await;
    let (_, token) = make(&fixture, &admin, all_scopes()).await;
    let (_, other) = make(&fixture, &admin, all_scopes()).await;
    for _ in 0..3 {
        assert_eq!(by(&fixture, &token, Method::GET, "/api/dialogues", None).await.status, StatusCode::OK);
    }
    let flooded = by(&fixture, &token, Method::GET, "/api/dialogues", None).await;
    assert_eq!(flooded.status, StatusCode::TOO_MANY_REQUESTS, "{flooded:?}");
    assert_eq!(by(&fixture, &other, Method::GET, "/api/dialogues", None).await.status, StatusCode::OK);
}
