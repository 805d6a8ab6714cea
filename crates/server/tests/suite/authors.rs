//! Authors' drafts and releases, signing in, and what guards the door.
#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use crate::common::{Fixture, PASSWORD};
use axum::http::{Method, StatusCode, header};
use lumbo_server::Config;
use serde_json::json;

#[tokio::test]
async fn an_edit_makes_a_revision_and_its_inverse_undoes_it() {
    let fixture = Fixture::new().await;
    let author = fixture.sign_in("author@a.example").await;
    let path = format!("/api/dialogues/{}/draft", fixture.dialogues[0]);
    let whole = async || crate::common::whole_draft(&fixture, &author, &fixture.dialogues[0].to_string()).await;
    let before = whole().await;
    assert_eq!(
        (before["revision"].as_i64(), before["changes"].as_i64(), before["findings"].as_array().map(Vec::len)),
        (Some(1), Some(0), Some(0))
    );
    assert_eq!(before["rows"].as_array().unwrap().len(), before["rails"]["rows"].as_array().unwrap().len());
    let edited = fixture
        .post(
            &path,
            &author,
            json!({"base": 1, "edits": [{"op": "remove_turn", "id": "t_pallets"}, {"op": "set_title",
            "title": "Shorter"}]}),
        )
        .await
        .json;
    assert_eq!(
        (edited["revision"].as_i64(), edited["dialogue"]["parts"]["title"].as_str()),
        (Some(2), Some("Shorter"))
    );
    assert_eq!(edited["dialogue"]["sections"].as_array().unwrap().len(), 1, "only the section that changed comes");
    let rows = edited["outline"]["rows"].as_array().unwrap().len();
    assert!(rows < before["rows"].as_array().unwrap().len() / 2, "only the rows that changed come: {rows}");
    fixture.post(&path, &author, json!({"base": 2, "edits": edited["inverse"]})).await;
    let undone = whole().await;
    assert_eq!((&undone["dialogue"], &undone["revision"]), (&before["dialogue"], &json!(3)));
    assert_eq!((&undone["findings"], &undone["marks"]), (&before["findings"], &before["marks"]));
    let history = fixture.get(&format!("/api/dialogues/{}/history", fixture.dialogues[0]), &author).await.json;
    assert_eq!(
        history.as_array().unwrap().iter().map(|row| row["revision"].as_i64().unwrap()).collect::<Vec<_>>(),
        [3, 2]
    );
}

#[tokio::test]
async fn a_window_with_an_older_revision_is_told_who_changed_what_and_nothing_is_written() {
    let fixture = Fixture::new().await;
    let path = format!("/api/dialogues/{}/draft", fixture.dialogues[0]);
    let (one, two) = (fixture.sign_in("author@a.example").await, fixture.sign_in("admin@a.example").await);
    fixture.post(&path, &one, json!({"base": 1, "edits": [{"op": "remove_turn", "id": "t_load"}]})).await;
    let stale = fixture.post(&path, &two, json!({"base": 1, "edits": [{"op": "set_title", "title": "Mine"}]})).await;
    assert_eq!(
        (stale.status, stale.json["type"].as_str(), stale.json["current"].as_i64()),
        (StatusCode::CONFLICT, Some("urn:lumbo:problem:stale-draft"), Some(2))
    );
    assert_eq!(
        (stale.json["since"][0]["person"].as_str(), &stale.json["since"][0]["touches"]),
        (Some("author@a.example"), &json!(["t_load"]))
    );
    assert_eq!(fixture.get(&path, &two).await.json["dialogue"]["title"], "Storage enquiry");
    assert_eq!(
        fixture.post(&path, &two, json!({"base": 2, "edits": [{"op": "set_title", "title": "Mine"}]})).await.status,
        StatusCode::OK
    );
}

#[tokio::test]
async fn one_bad_edit_among_good_ones_changes_nothing_and_says_why() {
    let fixture = Fixture::new().await;
    let author = fixture.sign_in("author@a.example").await;
    let path = format!("/api/dialogues/{}/draft", fixture.dialogues[0]);
    let bad = fixture
        .post(
            &path,
            &author,
            json!({"base": 1, "edits": [{"op": "set_title", "title": "X"}, {"op": "remove_turn", "id": "t_gone"}]}),
        )
        .await;
    assert_eq!(
        (bad.status, bad.json["detail"].as_str()),
        (StatusCode::UNPROCESSABLE_ENTITY, Some("The turn “t_gone” is not there any more."))
    );
    assert_eq!(fixture.get(&path, &author).await.json["revision"], 1);
    let nul =
        fixture.post(&path, &author, json!({"base": 1, "edits": [{"op": "set_title", "title": "a\u{0}b"}]})).await;
    assert!(nul.json["detail"].as_str().unwrap().contains("U+0000"), "{nul:?}");
    for edits in [json!([]), json!([{"op": "shout"}]), json!("x")] {
        assert_eq!(
            fixture.post(&path, &author, json!({"base": 1, "edits": edits})).await.status,
            StatusCode::UNPROCESSABLE_ENTITY
        );
    }
}

#[tokio::test]
async fn what_cannot_run_yet_is_refused_at_release_by_name() {
    let fixture = Fixture::new().await;
    let author = fixture.sign_in("author@a.example").await;
    let path = format!("/api/dialogues/{}", fixture.dialogues[0]);
    let turn = json!({"kind": "offer_times", "id": "t_back", "say": {"text": {"en": "When?"}}, "minutes": 30,
        "days_ahead": 5});
    fixture
        .post(
            &format!("{path}/draft"),
            &author,
            json!({"base": 1, "edits": [{"op": "insert_turn", "at": {"parent": {"section": "timing"}, "index": 0},
                "turn": turn}]}),
        )
        .await;
    let refused =
        fixture.post(&format!("{path}/releases"), &author, json!({"revision": 2, "note": "with times"})).await;
    assert_eq!(refused.json["type"], "urn:lumbo:problem:blocked");
    assert_eq!(refused.json["findings"][0]["says"], "Offer times cannot be run by this version yet");
    let routing = json!({"base": 2, "edits": [{"op": "remove_turn", "id": "t_back"}, {"op": "set_routing",
        "routing": {"otherwise": "nowhere"}}]});
    fixture.post(&format!("{path}/draft"), &author, routing).await;
    let refused = fixture.post(&format!("{path}/releases"), &author, json!({"revision": 3, "note": "n"})).await;
    assert_eq!(refused.json["findings"][0]["says"], "there is no queue “nowhere” in this workspace");
    let stale = fixture.post(&format!("{path}/releases"), &author, json!({"revision": 1, "note": "n"})).await;
    assert_eq!((stale.status, stale.json["current"].as_i64()), (StatusCode::CONFLICT, Some(3)));
    assert_eq!(
        fixture.post(&format!("{path}/releases"), &author, json!({"revision": 3, "note": " "})).await.status,
        StatusCode::UNPROCESSABLE_ENTITY
    );
}

#[tokio::test]
async fn a_rehearsal_shows_reasons_and_keeps_nothing() {
    let fixture = Fixture::new().await;
    let author = fixture.sign_in("author@a.example").await;
    let path = format!("/api/dialogues/{}/rehearsal", fixture.dialogues[0]);
    let inputs = json!([{"kind": "reply", "text": "storage"}, {"kind": "pick", "option": "frozen"}, {"kind": "reply",
        "text": "maybe"}]);
    let rehearsal = fixture.post(&path, &author, json!({ "inputs": inputs })).await.json;
    assert_eq!(
        (rehearsal["points"].as_i64(), rehearsal["least"].as_i64(), rehearsal["most"].as_i64()),
        (Some(15), Some(-10), Some(95))
    );
    let notes: Vec<&str> = rehearsal["lines"]
        .as_array()
        .unwrap()
        .iter()
        .flat_map(|line| line["notes"].as_array().unwrap())
        .map(|note| note["text"].as_str().unwrap())
        .collect();
    assert!(
        notes.contains(&"Temperature Frozen; +15 points, now 15")
            && notes.contains(&"Not kept: could not be read. Try 1 of 3"),
        "{notes:?}"
    );
    let wrong = fixture.post(&path, &author, json!({"inputs": [{"kind": "pick", "option": "moon"}]})).await.json;
    assert_eq!(wrong["refused"], "the open question has no option “moon”");
    let dialogues = fixture.get("/api/dialogues", &author).await.json;
    assert_eq!(dialogues[0]["conversations"], 0);
}

#[tokio::test]
async fn what_became_of_a_lead_is_changed_once_per_look() {
    let fixture = Fixture::new().await;
    fixture.file_lead("storage-a", "harrow").await;
    let rep = fixture.sign_in("rep@a.example").await;
    let id = fixture.get("/api/leads?show=mine", &rep).await.json["leads"][0]["id"].as_str().unwrap().to_owned();
    let path = format!("/api/leads/{id}/outcome");
    let called = fixture.post(&path, &rep, json!({"revision": 1, "status": "trying"})).await;
    assert_eq!((called.json["row"]["status"].as_str(), called.json["revision"].as_i64()), (Some("trying"), Some(2)));
    assert_eq!(fixture.post(&path, &rep, json!({"revision": 1, "status": "won"})).await.status, StatusCode::CONFLICT);
    assert_eq!(
        fixture.post(&path, &rep, json!({"revision": 2, "status": "lost"})).await.status,
        StatusCode::UNPROCESSABLE_ENTITY
    );
    let lost = fixture.post(&path, &rep, json!({"revision": 2, "status": "lost", "reason": "price"})).await;
    assert_eq!((lost.json["reason"].as_str(), lost.json["log"].as_array().map(Vec::len)), (Some("price"), Some(3)));
    assert_eq!(fixture.get("/api/leads?show=mine", &rep).await.json["leads"], json!([]));
}

#[tokio::test]
async fn a_change_from_another_origin_does_nothing() {
    let fixture = Fixture::new().await;
    let author = fixture.sign_in("author@a.example").await;
    for origin in [None, Some("https://evil.example"), Some("null")] {
        let mut request =
            Fixture::request(&Method::POST, "/api/dialogues", Some(&author), Some(&json!({"title": "Forged"})));
        request.headers_mut().remove(header::ORIGIN);
        if let Some(origin) = origin {
            request.headers_mut().insert(header::ORIGIN, origin.parse().unwrap());
        }
        assert_eq!(fixture.send(request).await.status, StatusCode::FORBIDDEN, "{origin:?}");
    }
    assert_eq!(fixture.get("/api/dialogues", &author).await.json.as_array().unwrap().len(), 1);
}

#[tokio::test]
async fn signing_in_says_nothing_about_which_part_was_wrong_and_is_limited() {
    let fixture = Fixture::with(&Config { sign_ins_per_minute: 3, ..Config::default() }).await;
    let attempt = async |email: &str, password: &str| {
        fixture.call(Method::POST, "/api/sign-in", None, Some(json!({"email": email, "password": password}))).await
    };
    let unknown = attempt("nobody@a.example", PASSWORD).await;
    let wrong = attempt("author@a.example", "wrong").await;
    assert_eq!((unknown.status, unknown.text), (StatusCode::UNAUTHORIZED, wrong.text));
    let right = attempt("AUTHOR@a.example", PASSWORD).await;
    assert_eq!(right.status, StatusCode::OK);
    let cookie = right.headers.get(header::SET_COOKIE).unwrap().to_str().unwrap();
    assert!(cookie.contains("HttpOnly") && cookie.contains("SameSite=Strict"), "{cookie}");
    let limited = attempt("author@a.example", PASSWORD).await;
    assert_eq!(
        (limited.status, limited.json["type"].as_str()),
        (StatusCode::TOO_MANY_REQUESTS, Some("urn:lumbo:problem:too-many-requests"))
    );
    let session = right.cookie.unwrap();
    assert_eq!(fixture.post("/api/sign-out", &session, json!(null)).await.status, StatusCode::NO_CONTENT);
    assert_eq!(fixture.get("/api/me", &session).await.status, StatusCode::UNAUTHORIZED);
}

#[tokio::test]
async fn prospects_are_limited_per_address_and_told_so() {
    let fixture = Fixture::with(&Config { prospect_requests_per_minute: 2, ..Config::default() }).await;
    let mut statuses = vec![];
    for _ in 0..3 {
        statuses.push(fixture.prospect(Method::GET, "/api/p/storage-a", None, None).await.status);
    }
    assert_eq!(statuses, [StatusCode::OK, StatusCode::OK, StatusCode::TOO_MANY_REQUESTS]);
}

#[tokio::test]
async fn every_answer_carries_its_guards_and_its_id() {
    let fixture = Fixture::new().await;
    for path in ["/healthz", "/readyz", "/api/openapi.json", "/api/nothing", "/api/me"] {
        let answer = fixture.call(Method::GET, path, None, None).await;
        let header =
            |name: &str| answer.headers.get(name).and_then(|value| value.to_str().ok()).unwrap_or_default().to_owned();
        assert!(
            header("content-security-policy").contains("script-src 'self'")
                && !header("content-security-policy").contains("script-src 'self' 'unsafe"),
            "{path}"
        );
        assert_eq!(header("x-content-type-options"), "nosniff", "{path}");
        assert!(!header("x-request-id").is_empty(), "{path}");
    }
    let missing = fixture.call(Method::GET, "/api/nothing", None, None).await;
    assert_eq!(
        (missing.status, missing.headers["content-type"].to_str().unwrap()),
        (StatusCode::NOT_FOUND, "application/problem+json")
    );
    assert_eq!(fixture.call(Method::GET, "/api/openapi.json", None, None).await.json["openapi"], "3.1.0");
    let metrics = fixture.call(Method::GET, "/metrics", None, None).await;
    assert!(!metrics.text.contains("lumbo_requests_total"), "they are read on an address of their own");
}

#[tokio::test]
async fn a_dialogue_is_made_from_a_title_or_a_file_and_goes_out_as_it_came() {
    let fixture = Fixture::new().await;
    let author = fixture.sign_in("author@a.example").await;
    let made = fixture.post("/api/dialogues", &author, json!({"title": "Haulage enquiry"})).await.json;
    let draft = fixture.get(&format!("/api/dialogues/{}/draft", made["id"].as_str().unwrap()), &author).await.json;
    assert_eq!((draft["slug"].as_str(), draft["on_air"].as_i64()), (Some("haulage-enquiry"), None));
    let file: serde_json::Value = serde_json::from_str(crate::common::DEMO).unwrap();
    let copy = fixture.post("/api/dialogues", &author, json!({"title": "Storage enquiry", "file": file})).await.json;
    let out = fixture.get(&format!("/api/dialogues/{}/file", copy["id"].as_str().unwrap()), &author).await;
    assert_eq!(out.text, lumbo_dialogue::file::canonical(&lumbo_dialogue::file::load(crate::common::DEMO).unwrap()));
    let wrong = fixture
        .post("/api/dialogues", &author, json!({"title": "X", "file": {"format": "lumbo.dialogue/1", "sections": 3}}))
        .await;
    assert_eq!(wrong.status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(wrong.json["detail"].as_str().unwrap().starts_with("This is not a dialogue file: sections:"), "{wrong:?}");
    assert_eq!(
        fixture.post("/api/dialogues", &author, json!({"title": "  "})).await.status,
        StatusCode::UNPROCESSABLE_ENTITY
    );
}
