//! Nobody sees another workspace, and nobody does what their role does not allow: for every route there is.
#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

mod common;

use std::collections::BTreeSet;

use axum::http::{Method, StatusCode};
use common::Fixture;
use serde_json::{Value, json};

/// The head of a PNG picture, as base64.
const PICTURE: &str = "iVBORw0KGgo=";

/// Who may use a route.
#[derive(Clone, Copy, PartialEq)]
enum Who {
    /// Whoever signs in.
    Anybody,
    Signed,
    Writer,
    LeadWorker,
    /// A prospect without a token.
    Prospect,
    /// A prospect with the conversation's token.
    Token,
    /// Anybody who is signed in, as a stream of events.
    Stream,
}

/// Every route: method, path, who may use it, a body, and whether it names something of a workspace.
fn table() -> Vec<(Method, &'static str, Who, Option<Value>, bool)> {
    let (get, post) = (Method::GET, Method::POST);
    vec![
        (
            post.clone(),
            "/api/sign-in",
            Who::Anybody,
            Some(json!({"email": "author@a.example", "password": common::PASSWORD})),
            false,
        ),
        (get.clone(), "/api/me", Who::Signed, None, false),
        (get.clone(), "/api/dialogues", Who::Writer, None, false),
        (post.clone(), "/api/dialogues", Who::Writer, Some(json!({"title": "New one"})), false),
        (get.clone(), "/api/dialogues/{dialogue}/draft", Who::Writer, None, true),
        (get.clone(), "/api/dialogues/{dialogue}/draft/analysis", Who::Writer, None, true),
        (
            post.clone(),
            "/api/dialogues/{dialogue}/draft",
            Who::Writer,
            Some(json!({"base": 2, "edits": [{"op": "set_title", "title": "T"}]})),
            true,
        ),
        (get.clone(), "/api/dialogues/{dialogue}/history", Who::Writer, None, true),
        (get.clone(), "/api/dialogues/{dialogue}/file", Who::Writer, None, true),
        (post.clone(), "/api/dialogues/{dialogue}/rehearsal", Who::Writer, Some(json!({"inputs": []})), true),
        (get.clone(), "/api/dialogues/{dialogue}/releases", Who::Writer, None, true),
        (
            post.clone(),
            "/api/dialogues/{dialogue}/releases",
            Who::Writer,
            Some(json!({"revision": 3, "note": "n"})),
            true,
        ),
        (get.clone(), "/api/dialogues/{dialogue}/opening", Who::Writer, None, true),
        (get.clone(), "/api/dialogues/{dialogue}/releases/compare", Who::Writer, None, true),
        (get.clone(), "/api/dialogues/{dialogue}/releases/{number}", Who::Writer, None, true),
        (post.clone(), "/api/dialogues/{dialogue}/on-air", Who::Writer, Some(json!({"number": 2})), true),
        (
            post.clone(),
            "/api/dialogues/{dialogue}/find",
            Who::Writer,
            Some(json!({"search": {"find": "pallets"}})),
            true,
        ),
        (get.clone(), "/api/dialogues/{dialogue}/ledger", Who::Writer, None, true),
        (get.clone(), "/api/dialogues/{dialogue}/phrases", Who::Writer, None, true),
        (post.clone(), "/api/dialogues/{dialogue}/formula", Who::Writer, Some(json!({"formula": "pallets * 2"})), true),
        (
            post.clone(),
            "/api/dialogues/{dialogue}/condition",
            Who::Writer,
            Some(json!({"text": "Pallets at least 2"})),
            true,
        ),
        (post.clone(), "/api/dialogues/{dialogue}/presence", Who::Writer, Some(json!({"at": "turn:t_load"})), true),
        (get.clone(), "/api/dialogues/{dialogue}/comments", Who::Writer, None, true),
        (
            post.clone(),
            "/api/dialogues/{dialogue}/comments",
            Who::Writer,
            Some(json!({"at": "turn:t_load", "says": "harrow?"})),
            true,
        ),
        (
            post.clone(),
            "/api/dialogues/{dialogue}/comments/{comment}",
            Who::Writer,
            Some(json!({"resolved": true})),
            true,
        ),
        (post.clone(), "/api/dialogues/{dialogue}/bench", Who::Writer, Some(json!({})), true),
        (post.clone(), "/api/dialogues/{dialogue}/bench/glance", Who::Writer, Some(json!({"csv": "a,b\n1,2\n"})), true),
        (
            post.clone(),
            "/api/dialogues/{dialogue}/bench/file",
            Who::Writer,
            Some(json!({"csv": "a,b\n1,2\n", "mapping": {"fields": {}, "outcome": 0, "won": [], "lost": []}})),
            true,
        ),
        (post.clone(), "/api/dialogues/{dialogue}/suggest", Who::Writer, Some(json!({})), true),
        (
            post.clone(),
            "/api/dialogues/{dialogue}/score",
            Who::Writer,
            Some(json!({"answers": {"pallets": "60"}})),
            true,
        ),
        (get.clone(), "/api/patterns", Who::Writer, None, false),
        (post.clone(), "/api/media", Who::Writer, Some(json!({"content": PICTURE})), false),
        (get.clone(), "/api/media/{hash}", Who::Writer, None, true),
        (get.clone(), "/api/p/{slug}/media/{hash}", Who::Prospect, None, false),
        (get.clone(), "/api/fields", Who::Writer, None, false),
        (
            post.clone(),
            "/api/fields",
            Who::Writer,
            Some(json!({"field": {"id": "fld_x", "key": "x", "label": "X", "type": "text"}})),
            false,
        ),
        (
            post.clone(),
            "/api/fields/preview",
            Who::Writer,
            Some(json!({"field": {"id": "fld_x", "key": "x", "label": "X", "type": "text"}})),
            false,
        ),
        (post.clone(), "/api/fields/import", Who::Writer, Some(json!({"csv": "key,label,type\n"})), false),
        (Method::DELETE, "/api/fields/{field}", Who::Writer, None, true),
        (get.clone(), "/api/catalogue", Who::Writer, None, false),
        (get.clone(), "/api/catalogue.csv", Who::Writer, None, false),
        (get.clone(), "/api/settings/domains", Who::Writer, None, false),
        (post.clone(), "/api/settings/domains", Who::Writer, Some(json!({"base": 0, "allow": [], "deny": []})), false),
        (get.clone(), "/api/settings/visitor-keys", Who::Writer, None, false),
        (post.clone(), "/api/settings/visitor-keys", Who::Writer, Some(json!({})), false),
        (Method::DELETE, "/api/settings/visitor-keys/{key}", Who::Writer, None, true),
        (post.clone(), "/api/settings/visitor-token", Who::Writer, Some(json!({"token": "x"})), false),
        (get.clone(), "/api/queues", Who::Writer, None, false),
        (get.clone(), "/api/routing", Who::Writer, None, false),
        (post.clone(), "/api/routing", Who::Writer, Some(json!({"name": "New queue", "picks": "rotation"})), false),
        (post.clone(), "/api/routing/people/{person}", Who::Writer, Some(json!({"paused": false})), true),
        (post.clone(), "/api/dialogues/{dialogue}/route", Who::Writer, Some(json!({"answers": {}})), true),
        (post.clone(), "/api/dialogues/{dialogue}/route/again", Who::Writer, Some(json!({"days": 30})), true),
        (get.clone(), "/api/leads", Who::Signed, None, false),
        // A stream that does not end by itself: tests/live.rs.
        (get.clone(), "/api/live", Who::Stream, None, false),
        (get.clone(), "/api/leads/{lead}", Who::Signed, None, true),
        (
            post.clone(),
            "/api/leads/{lead}/outcome",
            Who::LeadWorker,
            Some(json!({"revision": 1, "status": "trying"})),
            true,
        ),
        (post.clone(), "/api/leads/{lead}/given/{given}", Who::LeadWorker, Some(json!({"accepted": true})), true),
        (post.clone(), "/api/leads/{lead}/newer", Who::LeadWorker, None, true),
        (post.clone(), "/api/leads/{lead}/fit", Who::LeadWorker, Some(json!({"revision": 3, "fits": true})), true),
        (get.clone(), "/api/leads/{lead}/today", Who::Signed, None, true),
        (get.clone(), "/api/p/{slug}", Who::Prospect, None, false),
        (post.clone(), "/api/p/{slug}/conversations", Who::Prospect, Some(json!({"id": "s"})), false),
        (get, "/api/conversation", Who::Token, None, false),
        (
            post.clone(),
            "/api/conversation/inputs",
            Who::Token,
            Some(json!({"id": "x", "expects": 10, "body": {"kind": "reply", "text": "a"}})),
            false,
        ),
        (post, "/api/sign-out", Who::Signed, None, false),
    ]
}

#[test]
fn the_table_names_every_route() {
    let document = serde_json::to_value(lumbo_server::openapi()).unwrap();
    let mut documented = BTreeSet::new();
    for (path, item) in document["paths"].as_object().unwrap() {
        for method in item
            .as_object()
            .unwrap()
            .keys()
            .filter(|key| ["get", "post", "put", "patch", "delete"].contains(&key.as_str()))
        {
            documented.insert(format!("{} {path}", method.to_uppercase()));
        }
    }
    let listed: BTreeSet<String> = table().iter().map(|(method, path, ..)| format!("{method} {path}")).collect();
    assert_eq!(listed, documented, "a route that is not in the table is not tested for isolation");
}

#[tokio::test]
async fn every_route_keeps_its_workspace_and_its_role() {
    let fixture = Fixture::new().await;
    let token = fixture.file_lead("storage-a", "harrow").await;
    fixture.file_lead("storage-b", "kettle").await;
    let rep = fixture.sign_in("rep@a.example").await;
    let lead = fixture.get("/api/leads?show=mine", &rep).await.json["leads"][0]["id"].as_str().unwrap().to_owned();
    // A picture that release 2 shows, and a comment.
    let author = fixture.sign_in("author@a.example").await;
    let dialogue = fixture.dialogues[0].to_string();
    let hash = fixture.post("/api/media", &author, json!({"content": PICTURE})).await.json["hash"]
        .as_str()
        .unwrap()
        .to_owned();
    let edits = json!({"base": 1, "edits": [{"op": "set_media", "hash": hash, "media_type": "image/png"}]});
    assert_eq!(fixture.post(&format!("/api/dialogues/{dialogue}/draft"), &author, edits).await.status, StatusCode::OK);
    let released = fixture
        .post(&format!("/api/dialogues/{dialogue}/releases"), &author, json!({"revision": 2, "note": "with a picture"}))
        .await;
    assert_eq!(released.status, StatusCode::OK, "{released:?}");
    let comment = fixture
        .post(&format!("/api/dialogues/{dialogue}/comments"), &author, json!({"at": "turn:t_load", "says": "harrow?"}))
        .await
        .json["id"]
        .clone();
    let field = json!({"id": "fld_gone", "key": "gone", "label": "harrow's", "type": "text"});
    assert_eq!(fixture.post("/api/fields", &author, json!({"field": field})).await.status, StatusCode::OK);
    let key = fixture.post("/api/settings/visitor-keys", &author, json!({})).await.json["id"].clone();
    let person = fixture.get("/api/me", &rep).await.json["id"].clone();
    let given = uuid::Uuid::from_u128(5).to_string();
    let mut db = fixture.connect().await;
    let waits = "insert into also_given (workspace_id, id, contact_id, lead_id, conversation_id, what, value, given_at)
        select workspace_id, $1::uuid, contact_id, id, shows, 'name', 'Pia Harrow', now() from leads
          where id = $2::uuid";
    sqlx::query(waits).bind(&given).bind(&lead).execute(&mut db).await.unwrap();
    sqlx::query("update leads set newer = shows where id = $1::uuid").bind(&lead).execute(&mut db).await.unwrap();
    let fill = |path: &str| {
        let query = match path {
            "/api/leads" => "?show=all",
            "/api/dialogues/{dialogue}/releases/compare" => "?from=1",
            _ => "",
        };
        path.replace("{dialogue}", &dialogue)
            .replace("{lead}", &lead)
            .replace("{given}", &given)
            .replace("{slug}", "storage-a")
            .replace("{number}", "1")
            .replace("{hash}", &hash)
            .replace("{comment}", comment.as_str().unwrap())
            .replace("{person}", person.as_str().unwrap())
            .replace("{field}", "fld_gone")
            .replace("{key}", key.as_str().unwrap())
            + query
    };
    for (method, path, who, body, names) in table() {
        if matches!(who, Who::Stream) {
            continue;
        }
        let at = fill(path);
        let call = async |cookie: Option<&str>| fixture.call(method.clone(), &at, cookie, body.clone()).await;
        if matches!(who, Who::Signed | Who::Writer | Who::LeadWorker) {
            assert_eq!(call(None).await.status, StatusCode::UNAUTHORIZED, "{method} {path} without a session");
            assert_eq!(
                call(Some("lumbo=forged")).await.status,
                StatusCode::UNAUTHORIZED,
                "{method} {path} with a forged session"
            );
        }
        if names {
            for stranger in ["admin@b.example", "lead@b.example", "author@b.example", "rep@b.example"] {
                let session = fixture.sign_in(stranger).await;
                let answer = call(Some(&session)).await;
                assert!(
                    matches!(answer.status, StatusCode::NOT_FOUND | StatusCode::FORBIDDEN),
                    "{method} {path} as {stranger}: {answer:?}"
                );
                assert!(!answer.text.contains("harrow"), "{method} {path} tells {stranger} something");
            }
        } else if method == Method::GET && !matches!(who, Who::Prospect | Who::Token) {
            let session = fixture.sign_in("admin@b.example").await;
            let answer = call(Some(&session)).await;
            assert_eq!(answer.status, StatusCode::OK, "{method} {path}");
            assert!(
                !answer.text.contains("harrow") && !answer.text.contains(&fixture.dialogues[0].to_string()),
                "{method} {path} shows another workspace"
            );
        }
        let (allowed, refused): (&[&str], &[&str]) = match who {
            Who::Writer => (&["author@a.example"], &["rep@a.example", "lead@a.example"]),
            Who::LeadWorker => (&["rep@a.example"], &["author@a.example"]),
            Who::Signed => (&["author@a.example", "rep@a.example"], &[]),
            _ => (&[], &[]),
        };
        for one in refused {
            let session = fixture.sign_in(one).await;
            assert_eq!(call(Some(&session)).await.status, StatusCode::FORBIDDEN, "{method} {path} as {one}");
        }
        for one in allowed {
            let session = fixture.sign_in(one).await;
            let answer = call(Some(&session)).await;
            assert!(answer.status.is_success(), "{method} {path} as {one}: {answer:?}");
        }
        match who {
            Who::Prospect => assert!(
                fixture.prospect(method.clone(), &at, None, body.clone()).await.status.is_success(),
                "{method} {path}"
            ),
            Who::Token => {
                for wrong in [None, Some("short"), Some("0".repeat(64).as_str())] {
                    let status = fixture.prospect(method.clone(), &at, wrong, body.clone()).await.status;
                    assert!(
                        matches!(status, StatusCode::UNAUTHORIZED | StatusCode::NOT_FOUND),
                        "{method} {path} with {wrong:?}: {status}"
                    );
                }
                let answer = fixture.prospect(method.clone(), &at, Some(&token), body.clone()).await;
                assert!(
                    answer.status.is_success() || answer.json["type"] == "urn:lumbo:problem:ended",
                    "{method} {path}: {answer:?}"
                );
            }
            _ => {}
        }
    }
}

#[tokio::test]
async fn a_rep_sees_own_and_queue_leads_only() {
    let fixture = Fixture::new().await;
    fixture.file_lead("storage-a", "harrow").await;
    let owner = fixture.sign_in("rep@a.example").await;
    let id = fixture.get("/api/leads?show=mine", &owner).await.json["leads"][0]["id"].as_str().unwrap().to_owned();
    // The other rep of the same workspace is in none of its queues.
    let other = fixture.sign_in("rep2@a.example").await;
    for show in ["mine", "queue", "all"] {
        assert_eq!(fixture.get(&format!("/api/leads?show={show}"), &other).await.json["leads"], json!([]), "{show}");
    }
    assert_eq!(fixture.get(&format!("/api/leads/{id}"), &other).await.status, StatusCode::NOT_FOUND);
    let outcome = json!({"revision": 1, "status": "won"});
    assert_eq!(
        fixture.post(&format!("/api/leads/{id}/outcome"), &other, outcome.clone()).await.status,
        StatusCode::NOT_FOUND
    );
    let lead = fixture.sign_in("lead@a.example").await;
    assert_eq!(fixture.get(&format!("/api/leads/{id}"), &lead).await.status, StatusCode::OK);
    let author = fixture.sign_in("author@a.example").await;
    assert_eq!(fixture.post(&format!("/api/leads/{id}/outcome"), &author, outcome).await.status, StatusCode::FORBIDDEN);
}
