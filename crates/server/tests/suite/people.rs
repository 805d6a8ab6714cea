//! People of workspaces: how they come in, what ends their access, how they prove who they are, and what is kept of it.
#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use crate::common::{Answer, Fixture, PASSWORD};
use axum::http::{HeaderValue, Method, StatusCode};
use lumbo_people::totp;
use lumbo_server::Config;
use lumbo_store::JobKind;
use serde_json::{Value, json};
use sha2::{Digest, Sha256};

const ADMIN: &str = "admin@a.example";

async fn plain(fixture: &Fixture, path: &str, body: Value) -> Answer {
    fixture.call(Method::POST, path, None, Some(body)).await
}

async fn invite(fixture: &Fixture, admin: &str, email: &str, role: &str) -> (String, String) {
    let made = fixture.post("/api/invitations", admin, json!({"email": email, "role": role})).await;
    assert_eq!(made.status, StatusCode::OK, "{made:?}");
    (made.json["secret"].as_str().unwrap().into(), made.json["id"].as_str().unwrap().into())
}

fn says(answer: &Answer) -> &str {
    answer.json["detail"].as_str().unwrap_or_default()
}

async fn audited(fixture: &Fixture, admin: &str) -> Vec<(String, String)> {
    let page = fixture.get("/api/audit", admin).await.json;
    let text = |value: &Value| value.as_str().unwrap_or_default().to_owned();
    page["entries"].as_array().unwrap().iter().map(|entry| (text(&entry["what"]), text(&entry["about"]))).collect()
}

#[tokio::test]
async fn a_workspace_is_set_up_once_with_the_code_of_the_log() {
    let fixture = Fixture::new().await;
    assert_eq!(fixture.call(Method::GET, "/api/setup", None, None).await.json, json!({"wanted": true, "mails": false}));
    let body = |code: &str, password: &str| {
        json!({"code": code, "workspace": "Heron & Sons", "zone": "Europe/Berlin", "name": "Ana Ruiz",
            "email": "ana@heron.example", "password": password})
    };
    let good = "four words in snow";
    assert!(says(&plain(&fixture, "/api/setup", body("abcde-abcde", good)).await).contains("not the code"));
    fixture.store.keep_setup_code(&Sha256::digest(b"abcde-fghjk")).await.unwrap();
    let common = plain(&fixture, "/api/setup", body("abcde-fghjk", "password123")).await;
    assert!(says(&common).contains("tried first"), "{common:?}");
    let own = plain(&fixture, "/api/setup", body("abcde-fghjk", "anaheron.example")).await;
    assert!(says(&own).contains("too close to your name"), "{own:?}");
    let made = plain(&fixture, "/api/setup", body(" ABCDE-FGHJK ", good)).await;
    assert_eq!((made.status, &made.json["role"]), (StatusCode::OK, &json!("administrator")), "{made:?}");
    let me = fixture.get("/api/me", &made.cookie.unwrap()).await.json;
    assert_eq!((&me["workspace"], &me["zone"]), (&json!("Heron & Sons"), &json!("Europe/Berlin")));
    // It is empty: nothing of the demo is in it.
    let cookie = fixture.sign_in_with("ana@heron.example", good).await;
    assert_eq!(fixture.get("/api/dialogues", &cookie).await.json, json!([]));
    assert_eq!(fixture.get("/api/leads?show=all", &cookie).await.json["leads"], json!([]));
    // And there is no second time.
    fixture.store.keep_setup_code(&Sha256::digest(b"abcde-fghjk")).await.unwrap();
    assert!(says(&plain(&fixture, "/api/setup", body("abcde-fghjk", good)).await).contains("set up already"));
}

#[tokio::test]
async fn an_invitation_lets_one_person_in_once() {
    let fixture = Fixture::new().await;
    let admin = fixture.sign_in(ADMIN).await;
    let (secret, _) = invite(&fixture, &admin, "Nia@heron.example", "rep").await;
    let seen = plain(&fixture, "/api/join/look", json!({"secret": secret})).await.json;
    assert_eq!(
        seen,
        json!({"workspace": "a", "email": "Nia@heron.example", "role": "rep", "made_by": ADMIN, "known": false})
    );
    let short = plain(&fixture, "/api/join", json!({"secret": secret, "password": "short", "name": "Nia"})).await;
    assert!(says(&short).contains("at least 10 characters"), "{short:?}");
    let join = json!({"secret": secret, "password": "four words in snow", "name": " Nia Obi ", "zone": "Europe/Paris"});
    let joined = plain(&fixture, "/api/join", join.clone()).await;
    assert_eq!(joined.status, StatusCode::OK, "{joined:?}");
    assert_eq!(fixture.get("/api/me", &joined.cookie.unwrap()).await.json["name"], "Nia Obi");
    assert_eq!(plain(&fixture, "/api/join", join).await.status, StatusCode::NOT_FOUND, "a link counts once");
    // Addresses are one whatever their case.
    fixture.sign_in_with("nia@HERON.example", "four words in snow").await;
    let again = fixture.post("/api/invitations", &admin, json!({"email": "nia@heron.example", "role": "rep"})).await;
    assert!(says(&again).contains("already"), "{again:?}");
    // One that is withdrawn, or made again, does nothing.
    let (withdrawn, id) = invite(&fixture, &admin, "guest@heron.example", "viewer").await;
    let path = format!("/api/invitations/{id}");
    assert!(fixture.call(Method::DELETE, &path, Some(&admin), None).await.status.is_success());
    let (first, _) = invite(&fixture, &admin, "two@heron.example", "viewer").await;
    let (second, _) = invite(&fixture, &admin, "two@heron.example", "author").await;
    for gone in [&withdrawn, &first] {
        assert_eq!(plain(&fixture, "/api/join/look", json!({"secret": gone})).await.status, StatusCode::NOT_FOUND);
    }
    assert_eq!(plain(&fixture, "/api/join/look", json!({"secret": second})).await.json["role"], "author");
    let entries = audited(&fixture, &admin).await;
    assert!(entries.contains(&("joined".into(), "Nia@heron.example".into())), "{entries:?}");
}

#[tokio::test]
async fn one_person_works_for_an_agency_and_its_client_and_nothing_crosses() {
    let fixture = Fixture::new().await;
    let (of_a, of_b) = (fixture.sign_in(ADMIN).await, fixture.sign_in("admin@b.example").await);
    fixture.file_lead("storage-b", "kettle").await;
    let (secret, _) = invite(&fixture, &of_b, "author@a.example", "viewer").await;
    assert_eq!(plain(&fixture, "/api/join/look", json!({"secret": secret})).await.json["known"], true);
    let wrong = plain(&fixture, "/api/join", json!({"secret": secret, "password": "not the one"})).await;
    assert_eq!(wrong.status, StatusCode::UNAUTHORIZED);
    let joined = plain(&fixture, "/api/join", json!({"secret": secret, "password": PASSWORD})).await;
    assert_eq!(joined.status, StatusCode::OK, "{joined:?}");
    let cookie = joined.cookie.unwrap();
    let me = fixture.get("/api/me", &cookie).await.json;
    assert_eq!((&me["workspace"], &me["role"]), (&json!("b"), &json!("viewer")));
    assert_eq!(me["workspaces"].as_array().unwrap().len(), 2);
    // A viewer of b reads its leads, and does not write its dialogues, though they are an author in a.
    assert!(fixture.get("/api/leads?show=all", &cookie).await.text.contains("kettle"));
    assert_eq!(fixture.get("/api/dialogues", &cookie).await.status, StatusCode::FORBIDDEN);
    let a = me["workspaces"].as_array().unwrap().iter().find(|place| place["name"] == "a").unwrap()["id"].clone();
    let there = fixture.post("/api/workspace", &cookie, json!({"workspace": a})).await;
    assert_eq!(there.json["role"], "author", "{there:?}");
    let in_a = there.cookie.unwrap();
    assert!(!fixture.get("/api/leads?show=all", &in_a).await.text.contains("kettle"));
    assert_eq!(fixture.get("/api/dialogues", &in_a).await.status, StatusCode::OK);
    assert_eq!(fixture.get("/api/me", &cookie).await.status, StatusCode::UNAUTHORIZED, "the session before ended");
    // Somebody of a only cannot go to b.
    let b = me["workspace_id"].clone();
    let refused = fixture.post("/api/workspace", &of_a, json!({"workspace": b})).await;
    assert_eq!(refused.status, StatusCode::NOT_FOUND);
    // Access that ends in one workspace goes on in the other.
    let people = fixture.get("/api/people", &of_b).await.json;
    let row = people["people"].as_array().unwrap().iter().find(|row| row["email"] == "author@a.example").unwrap();
    let path = format!("/api/people/{}", row["id"].as_str().unwrap());
    assert!(fixture.post(&path, &of_b, json!({"active": false})).await.status.is_success());
    let me = fixture.get("/api/me", &in_a).await.json;
    assert_eq!((&me["workspace"], me["workspaces"].as_array().unwrap().len()), (&json!("a"), 1));
}

#[tokio::test]
async fn access_ends_at_once_and_what_somebody_left_is_shared_out() {
    let fixture = Fixture::new().await;
    let admin = fixture.sign_in(ADMIN).await;
    fixture.file_lead("storage-a", "harrow").await;
    let rep = fixture.sign_in("rep@a.example").await;
    let mine = fixture.get("/api/leads?show=mine", &rep).await.json;
    assert_eq!(mine["leads"].as_array().unwrap().len(), 1);
    let people = fixture.get("/api/people", &admin).await.json;
    let row = |name: &str| {
        let email = format!("{name}@a.example");
        people["people"].as_array().unwrap().iter().find(|row| row["email"] == email.as_str()).unwrap().clone()
    };
    assert_eq!(row("rep")["open_leads"], 1);
    let path = |name: &str| format!("/api/people/{}", row(name)["id"].as_str().unwrap());
    let share_out = format!("{}/share-out", path("rep").replace("/people/", "/team/"));
    let early = fixture.post(&share_out, &admin, json!({})).await;
    assert!(says(&early).contains("still takes leads"), "{early:?}");
    assert!(fixture.post(&path("rep"), &admin, json!({"active": false})).await.status.is_success());
    assert_eq!(fixture.get("/api/leads?show=mine", &rep).await.status, StatusCode::UNAUTHORIZED);
    let refused = plain(&fixture, "/api/sign-in", json!({"email": "rep@a.example", "password": PASSWORD})).await;
    assert!(says(&refused).contains("no workspace any more"), "{refused:?}");
    let shared = fixture.post(&share_out, &admin, json!({})).await;
    assert_eq!(shared.json, json!({"leads": 1}));
    // Nobody else is in the queue: the lead waits there for whoever takes it, with its story.
    for job in fixture.store.take_jobs(&JobKind::ALL, 10).await.unwrap() {
        fixture.store.deal(job.workspace, job.subject).await.unwrap();
    }
    let left = fixture.get("/api/leads?show=all", &admin).await.json;
    assert_eq!(left["leads"][0]["owner"], Value::Null, "{left}");
    // The last administrator stays.
    for change in [json!({"active": false}), json!({"role": "viewer"})] {
        let refused = fixture.post(&path("admin"), &admin, change).await;
        assert!(says(&refused).contains("last administrator"), "{refused:?}");
    }
    assert!(fixture.post(&path("lead"), &admin, json!({"role": "administrator"})).await.status.is_success());
    assert!(fixture.post(&path("admin"), &admin, json!({"role": "viewer"})).await.status.is_success());
    assert_eq!(fixture.get("/api/people", &admin).await.status, StatusCode::FORBIDDEN, "the role holds at once");
}

#[tokio::test]
async fn a_second_factor_is_asked_for_and_a_code_counts_once() {
    let fixture = Fixture::new().await;
    let cookie = fixture.sign_in("author@a.example").await;
    let wrong = fixture.post("/api/profile/second-factor", &cookie, json!({"password": "no"})).await;
    assert!(says(&wrong).contains("not your password"), "{wrong:?}");
    let begun = fixture.post("/api/profile/second-factor", &cookie, json!({"password": PASSWORD})).await;
    let secret = begun.json["secret"].as_str().unwrap().to_owned();
    assert!(begun.json["picture"].as_str().unwrap().contains("<svg"));
    let code = |at: jiff::Timestamp| code_at(&secret, at);
    let now = jiff::Timestamp::now();
    let off = fixture.post("/api/profile/second-factor/on", &cookie, json!({"code": "000000"})).await;
    assert!(says(&off).contains("not right"), "{off:?}");
    let on = fixture.post("/api/profile/second-factor/on", &cookie, json!({"code": code(now)})).await;
    let codes = on.json["codes"].as_array().unwrap().clone();
    assert_eq!(codes.len(), totp::RECOVERY_CODES);
    let sign_in = async |code: Option<&str>| {
        let body = json!({"email": "author@a.example", "password": PASSWORD, "code": code});
        plain(&fixture, "/api/sign-in", body).await
    };
    assert_eq!(sign_in(None).await.json["type"], "urn:lumbo:problem:second-factor");
    assert_eq!(
        sign_in(Some(&code(now))).await.json["type"],
        "urn:lumbo:problem:wrong-code",
        "it was used to turn it on"
    );
    let next = now + jiff::SignedDuration::from_secs(30);
    assert_eq!(sign_in(Some(&code(next))).await.status, StatusCode::OK);
    assert_eq!(sign_in(Some(&code(next))).await.status, StatusCode::UNAUTHORIZED, "a code counts once");
    let recovery = codes[0].as_str().unwrap().to_uppercase();
    assert_eq!(sign_in(Some(&recovery)).await.status, StatusCode::OK);
    assert_eq!(sign_in(Some(&recovery)).await.status, StatusCode::UNAUTHORIZED, "a recovery code counts once");
    let profile = fixture.get("/api/profile", &cookie).await.json;
    assert_eq!(profile["codes_left"], 9);
    let mut db = fixture.connect().await;
    let sealed: (Vec<u8>,) = sqlx::query_as("select totp_sealed from accounts where totp_since is not null")
        .fetch_one(&mut db)
        .await
        .unwrap();
    assert_eq!(sealed.0.len(), 24 + totp::SECRET_BYTES + 16, "nonce, sealed secret, tag: nothing in the clear");
    let off = fixture.post("/api/profile/second-factor/off", &cookie, json!({"password": PASSWORD})).await;
    assert!(off.status.is_success());
    assert_eq!(sign_in(None).await.status, StatusCode::OK);
}

/// The code that an authenticator shows for a secret at a moment: by the library, as a phone would.
fn code_at(secret: &str, at: jiff::Timestamp) -> String {
    let totp = totp_rs::Builder::new()
        .with_secret(totp_rs::Secret::try_from_base32(secret).unwrap())
        .with_account_name("ana")
        .build()
        .unwrap();
    totp.generate(u64::try_from(at.as_second()).unwrap()).to_string()
}

#[tokio::test]
async fn wrong_passwords_make_the_next_wait_for_their_network_only() {
    let trusted = vec!["127.0.0.1/32".parse().unwrap()];
    let fixture =
        Fixture::with(&Config { sign_ins_per_minute: 10_000, trusted_proxies: trusted, ..Config::default() }).await;
    let from = async |address: &'static str, password: &str| {
        let body = json!({"email": "Rep@a.example", "password": password});
        let mut request = Fixture::request(&Method::POST, "/api/sign-in", None, Some(&body));
        request.headers_mut().insert("x-forwarded-for", HeaderValue::from_static(address));
        fixture.send(request).await
    };
    for _ in 0..5 {
        assert_eq!(from("203.0.113.9", "wrong one").await.status, StatusCode::UNAUTHORIZED);
    }
    let waits = from("203.0.113.9", PASSWORD).await;
    assert_eq!(waits.json["type"], "urn:lumbo:problem:wait-to-sign-in", "{waits:?}");
    assert!(says(&waits).contains("seconds"), "{waits:?}");
    // The owner, elsewhere, comes in.
    assert_eq!(from("198.51.100.1", PASSWORD).await.status, StatusCode::OK);
    // An address nobody has waits alike: it cannot be told apart.
    for expected in [401, 401, 401, 401, 401, 429] {
        let body = json!({"email": "nobody@a.example", "password": "wrong one"});
        assert_eq!(plain(&fixture, "/api/sign-in", body).await.status.as_u16(), expected);
    }
}

#[tokio::test]
async fn whoever_finds_an_open_session_cannot_guess_at_its_password_without_end() {
    let fixture = Fixture::new().await;
    let cookie = fixture.sign_in("rep@a.example").await;
    for expected in [422, 422, 422, 422, 422, 429] {
        let answer = fixture.post("/api/profile/second-factor/off", &cookie, json!({"password": "a guess"})).await;
        assert_eq!(answer.status.as_u16(), expected, "{answer:?}");
    }
    // The audit of the workspace tells of it, and of nobody where the address is nobody's.
    plain(&fixture, "/api/sign-in", json!({"email": "nobody@a.example", "password": "a guess"})).await;
    let admin = fixture.sign_in(ADMIN).await;
    let refused = fixture.get("/api/audit?what=sign_in_refused", &admin).await.json;
    let entries = refused["entries"].as_array().unwrap();
    assert_eq!(entries.len(), 5, "{refused}");
    assert!(entries.iter().all(|entry| entry["person"] == "rep@a.example" && entry["network"] == "127.0.0.1"));
    let other = fixture.sign_in("admin@b.example").await;
    let refused = fixture.get("/api/audit?what=sign_in_refused", &other).await.json;
    assert_eq!(refused["entries"], json!([]));
}

#[tokio::test]
async fn nobody_comes_in_as_another_by_taking_an_invitation_up_quickly() {
    let fixture = Fixture::new().await;
    let admin = fixture.sign_in(ADMIN).await;
    let (secret, _) = invite(&fixture, &admin, "late@heron.example", "viewer").await;
    // The account is made between the look at the invitation and the taking of it.
    let owner =
        lumbo_store::NewAccount { email: "late@heron.example", name: "The owner", zone: None, password_hash: "x" };
    let hash = Sha256::digest(secret.as_bytes()).to_vec();
    let (first, _) = invite(&fixture, &fixture.sign_in("admin@b.example").await, "LATE@heron.example", "rep").await;
    let elsewhere = Sha256::digest(first.as_bytes()).to_vec();
    fixture.store.take_invitation(&elsewhere, &lumbo_store::Taking::New(owner.clone())).await.unwrap();
    let refused = fixture.store.take_invitation(&hash, &lumbo_store::Taking::New(owner)).await.unwrap_err();
    assert!(refused.to_string().contains("got a password meanwhile"), "{refused}");
    // The link is not used up by it: its owner takes it with their own password.
    assert_eq!(plain(&fixture, "/api/join/look", json!({"secret": secret})).await.json["known"], true);
}

#[tokio::test]
async fn another_password_ends_the_other_sessions() {
    let fixture = Fixture::new().await;
    let (one, two) = (fixture.sign_in("rep@a.example").await, fixture.sign_in("rep@a.example").await);
    let sessions = fixture.get("/api/profile", &one).await.json["sessions"].as_array().unwrap().clone();
    assert_eq!(sessions.iter().filter(|session| session["this"] == true).count(), 1, "{sessions:?}");
    let change = json!({"old": PASSWORD, "new": "another winter again"});
    assert!(fixture.post("/api/profile/password", &one, change).await.status.is_success());
    assert_eq!(fixture.get("/api/me", &one).await.status, StatusCode::OK);
    assert_eq!(fixture.get("/api/me", &two).await.status, StatusCode::UNAUTHORIZED);
    let three = fixture.sign_in_with("rep@a.example", "another winter again").await;
    assert_eq!(fixture.post("/api/profile/sessions/end-others", &one, json!({})).await.json, json!({"ended": 1}));
    assert_eq!(fixture.get("/api/me", &three).await.status, StatusCode::UNAUTHORIZED);
    // The table holds no id that a browser could send.
    let mut db = fixture.connect().await;
    let kept: Vec<(String,)> = sqlx::query_as("select id from sessions").fetch_all(&mut db).await.unwrap();
    assert!(kept.iter().all(|(id,)| !one.contains(id.as_str()) && id.len() == 64), "{kept:?}");
}

#[tokio::test]
async fn a_session_ends_after_thirty_days_however_much_it_is_used() {
    let fixture = Fixture::new().await;
    let cookie = fixture.sign_in("rep@a.example").await;
    let mut db = fixture.connect().await;
    let older = "update sessions set data = jsonb_set(data, '{person,since}',
        to_jsonb((data->'person'->>'since')::bigint - $1))";
    sqlx::query(older).bind(29 * 86_400_i64).execute(&mut db).await.unwrap();
    assert_eq!(fixture.get("/api/me", &cookie).await.status, StatusCode::OK);
    sqlx::query(older).bind(86_401_i64).execute(&mut db).await.unwrap();
    assert_eq!(fixture.get("/api/me", &cookie).await.status, StatusCode::UNAUTHORIZED);
}

#[tokio::test]
async fn a_session_in_use_is_written_down_again_so_that_it_does_not_end_in_the_middle_of_work() {
    let fixture = Fixture::new().await;
    let cookie = fixture.sign_in("rep@a.example").await;
    let mut db = fixture.connect().await;
    let older = "update sessions set expires_at = now() + interval '1 hour',
        data = jsonb_set(data, '{person,seen}', to_jsonb((data->'person'->>'seen')::bigint - 301))";
    sqlx::query(older).execute(&mut db).await.unwrap();
    assert_eq!(fixture.get("/api/me", &cookie).await.status, StatusCode::OK);
    let left: (bool,) = sqlx::query_as("select expires_at > now() + interval '11 hours' from sessions")
        .fetch_one(&mut db)
        .await
        .unwrap();
    assert!(left.0);
}

#[tokio::test]
async fn the_audit_tells_what_was_done_and_no_word_of_a_lead() {
    let fixture = Fixture::new().await;
    let admin = fixture.sign_in(ADMIN).await;
    let author = fixture.sign_in("author@a.example").await;
    fixture.file_lead("storage-a", "harrow").await;
    let leads = fixture.get("/api/leads?show=all", &admin).await.json;
    let path = format!("/api/leads/{}", leads["leads"][0]["id"].as_str().unwrap());
    for _ in 0..3 {
        assert_eq!(fixture.get(&path, &author).await.status, StatusCode::OK);
    }
    fixture.post("/api/settings/visitor-keys", &admin, json!({})).await;
    fixture.post("/api/settings/domains", &author, json!({"base": 0, "allow": ["heron.example"], "deny": []})).await;
    let dialogue = fixture.dialogues[0];
    fixture.post(&format!("/api/dialogues/{dialogue}/on-air"), &author, json!({"number": null})).await;
    let entries = audited(&fixture, &admin).await;
    let whats: Vec<&str> = entries.iter().map(|(what, _)| what.as_str()).collect();
    assert_eq!(whats[..4], ["released", "settings_changed", "secret_changed", "lead_seen"], "{entries:?}");
    assert_eq!(whats.iter().filter(|what| **what == "lead_seen").count(), 1, "once an hour");
    assert!(!format!("{entries:?}").contains("harrow"));
    let me = fixture.get("/api/me", &author).await.json["id"].as_str().unwrap().to_owned();
    let only = fixture.get(&format!("/api/audit?person={me}&what=released"), &admin).await.json;
    assert_eq!(only["entries"].as_array().unwrap().len(), 1, "{only}");
    let file = fixture.get("/api/audit.csv?what=secret_changed", &admin).await;
    assert_eq!(file.text.lines().count(), 2, "{}", file.text);
    assert_eq!(audited(&fixture, &admin).await[0], ("exported".into(), "1 entry of the audit".into()));
}

#[tokio::test]
async fn what_is_personal_is_kept_by_nobody_on_the_way_and_tls_is_insisted_on() {
    let fixture = Fixture::with(&Config { behind_tls: true, ..Config::default() }).await;
    let answer = fixture.call(Method::GET, "/api/setup", None, None).await;
    assert_eq!(answer.headers["cache-control"], "no-store");
    assert!(answer.headers["strict-transport-security"].to_str().unwrap().starts_with("max-age=31536000"));
    let mut request = Fixture::request(&Method::POST, "/api/join/look", None, Some(&json!({"secret": "x"})));
    request.headers_mut().insert("origin", HeaderValue::from_static("http://lumbo.example"));
    assert_eq!(fixture.send(request).await.status, StatusCode::FORBIDDEN);
}

#[tokio::test]
async fn a_face_is_seen_by_colleagues_and_by_nobody_else() {
    let fixture = Fixture::new().await;
    let (rep, admin) = (fixture.sign_in("rep@a.example").await, fixture.sign_in("admin@a.example").await);
    let me = fixture.get("/api/me", &rep).await.json;
    assert!(me["picture"].is_null() && me["workspace_picture"].is_null());
    let path = format!("/api/people/{}/picture", me["id"].as_str().unwrap());
    assert_eq!(fixture.get(&path, &rep).await.status, StatusCode::NOT_FOUND);
    let pixel = "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNkYPhfDwAChwGA60e6kgAAAABJRU5ErkJggg==";
    let refused = fixture.post("/api/profile/picture", &rep, json!({"content": "JVBERi0xLjcK"})).await;
    assert_eq!(refused.json["detail"], "This is no PNG, JPEG, GIF or WebP picture.");
    let kept = fixture.post("/api/profile/picture", &rep, json!({"content": pixel})).await;
    assert_eq!(kept.status, StatusCode::NO_CONTENT);
    let shown = fixture.get(&path, &admin).await;
    assert_eq!((shown.status, shown.headers["content-type"].to_str().unwrap()), (StatusCode::OK, "image/png"));
    assert!(shown.headers["content-security-policy"].to_str().unwrap().contains("sandbox"));
    let stranger = fixture.sign_in("admin@b.example").await;
    assert_eq!(fixture.get(&path, &stranger).await.status, StatusCode::NOT_FOUND);
    let mark = fixture.get("/api/me", &rep).await.json["picture"].as_str().unwrap().to_owned();
    let people = fixture.get("/api/people", &admin).await.json;
    let row = people["people"].as_array().unwrap().iter().find(|row| row["email"] == "rep@a.example").unwrap();
    assert_eq!((mark.len(), row["picture"].as_str()), (12, Some(mark.as_str())));
    let by_rep = fixture.post("/api/workspace/picture", &rep, json!({"content": pixel})).await;
    assert_eq!(by_rep.status, StatusCode::FORBIDDEN);
    fixture.post("/api/workspace/picture", &admin, json!({"content": pixel})).await;
    assert!(fixture.get("/api/me", &rep).await.json["workspace_picture"].is_string());
    assert!(fixture.get("/api/me", &stranger).await.json["workspace_picture"].is_null());
    fixture.post("/api/profile/picture", &rep, json!({})).await;
    assert_eq!(fixture.get(&path, &rep).await.status, StatusCode::NOT_FOUND, "and taken out");
}
