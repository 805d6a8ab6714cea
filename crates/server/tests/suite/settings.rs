//! Settings of a workspace: its catalogue of fields, its own e-mail domains, what its sites sign about their visitors;
//! and what follows from them in conversations.
#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use crate::common::{Answer, Fixture};
use axum::http::{HeaderValue, Method, StatusCode};
use jiff::{Timestamp, ToSpan};
use jsonwebtoken::{Algorithm, EncodingKey, Header, encode};
use lumbo_server::Config;
use serde_json::{Value, json};

const AUTHOR: &str = "author@a.example";

async fn field(fixture: &Fixture, cookie: &str, key: &str) -> Value {
    let all = fixture.get("/api/fields", cookie).await.json;
    all.as_array().unwrap().iter().find(|field| field["key"] == key).unwrap().clone()
}

fn changed(field: &Value, part: &Value) -> Value {
    let mut field = field.clone();
    for (key, value) in part.as_object().unwrap() {
        field[key] = value.clone();
    }
    field
}

/// A second dialogue of the workspace, from the first one's file.
async fn second(fixture: &Fixture, cookie: &str) -> String {
    let mut file: Value = serde_json::from_str(crate::common::DEMO).unwrap();
    file["id"] = json!("other");
    let made = fixture.post("/api/dialogues", cookie, json!({"title": "Other", "file": file})).await;
    assert_eq!(made.status, StatusCode::OK, "{made:?}");
    made.json["id"].as_str().unwrap().to_owned()
}

async fn draft(fixture: &Fixture, cookie: &str, dialogue: &str) -> Value {
    crate::common::whole_draft(fixture, cookie, dialogue).await
}

#[tokio::test]
async fn a_changed_field_is_followed_by_every_draft_and_by_no_release() {
    let fixture = Fixture::new().await;
    let cookie = fixture.sign_in(AUTHOR).await;
    let other = second(&fixture, &cookie).await;
    let was = field(&fixture, &cookie, "pallets").await;
    let now = changed(&was, &json!({"key": "places", "label": "Pallet places"}));
    let report = fixture.post("/api/fields/preview", &cookie, json!({"field": now})).await.json;
    assert_eq!(report["drafts"].as_array().unwrap().len(), 2);
    assert!(
        report["drafts"]
            .as_array()
            .unwrap()
            .iter()
            .all(|draft| draft["breaks"] == json!([]) && draft["uses"].as_array().unwrap().len() > 3),
        "{report}"
    );
    let answer = fixture.post("/api/fields", &cookie, json!({"was": was, "field": now})).await;
    assert_eq!(answer.status, StatusCode::OK, "{answer:?}");
    for dialogue in [fixture.dialogues[0].to_string(), other.clone()] {
        let draft = draft(&fixture, &cookie, &dialogue).await;
        assert_eq!(draft["revision"], 2, "{dialogue}");
        let text = draft["dialogue"].to_string();
        assert!(
            text.contains(r#""what":"places""#) && !text.contains(r#""what":"pallets""#),
            "references follow in {dialogue}"
        );
        assert!(
            draft["findings"].as_array().unwrap().iter().all(|finding| finding["severity"] != "error"),
            "{}",
            draft["findings"]
        );
        let history = fixture.get(&format!("/api/dialogues/{dialogue}/history"), &cookie).await.json;
        assert_eq!(history[0]["person"], AUTHOR);
    }
    let release = fixture.get(&format!("/api/dialogues/{}/releases/1", fixture.dialogues[0]), &cookie).await.text;
    assert!(release.contains(r#""what":"pallets""#), "a release is frozen");
    // The definition that the first change knew is gone.
    let stale = fixture
        .post("/api/fields", &cookie, json!({"was": was, "field": changed(&was, &json!({"label": "Other"}))}))
        .await;
    assert_eq!(stale.status, StatusCode::CONFLICT);
    assert!(stale.json["detail"].as_str().unwrap().contains("meanwhile"));
}

#[tokio::test]
async fn a_field_changed_in_one_outline_is_followed_by_the_others() {
    let fixture = Fixture::new().await;
    let cookie = fixture.sign_in(AUTHOR).await;
    let other = second(&fixture, &cookie).await;
    let was = field(&fixture, &cookie, "temperature").await;
    let now = changed(&was, &json!({"label": "How cold"}));
    let path = format!("/api/dialogues/{}/draft", fixture.dialogues[0]);
    let edited = fixture.post(&path, &cookie, json!({"base": 1, "edits": [{"op": "put_field", "field": now}]})).await;
    assert_eq!(edited.status, StatusCode::OK, "{edited:?}");
    let followed = draft(&fixture, &cookie, &other).await;
    assert!(followed["dialogue"]["fields"].as_array().unwrap().contains(&now));
    // Undoing it there is followed too.
    let back = fixture.post(&path, &cookie, json!({"base": 2, "edits": edited.json["inverse"]})).await;
    assert_eq!(back.status, StatusCode::OK, "{back:?}");
    assert!(draft(&fixture, &cookie, &other).await["dialogue"]["fields"].as_array().unwrap().contains(&was));
    // An old release brought back takes on the fields as they are now.
    fixture.post(&path, &cookie, json!({"base": 3, "edits": [{"op": "put_field", "field": now}]})).await;
    let old = fixture.get(&format!("/api/dialogues/{}/releases/1", fixture.dialogues[0]), &cookie).await.json;
    let body = if old["dialogue"].is_object() { old["dialogue"].clone() } else { old };
    let brought =
        fixture.post(&path, &cookie, json!({"base": 4, "edits": [{"op": "set_all", "dialogue": body}]})).await;
    assert_eq!(brought.status, StatusCode::OK, "{brought:?}");
    assert_eq!(field(&fixture, &cookie, "temperature").await, now);
}

#[tokio::test]
async fn a_new_type_is_reported_and_an_unsound_definition_refused() {
    let fixture = Fixture::new().await;
    let cookie = fixture.sign_in(AUTHOR).await;
    fixture.file_lead("storage-a", "harrow").await;
    let was = field(&fixture, &cookie, "pallets").await;
    let text = json!({"id": was["id"], "key": "pallets", "label": "Pallets", "type": "text", "record": "lead"});
    let report = fixture.post("/api/fields/preview", &cookie, json!({"was": was, "field": text})).await.json;
    assert_eq!((&report["leads"], &report["wrong"]), (&json!(1), &json!([])));
    let breaks = report["drafts"][0]["breaks"].as_array().unwrap();
    assert!(breaks.iter().any(|finding| finding["at"].as_str().unwrap().starts_with("scoring/")), "{report}");
    let unsound = fixture
        .post("/api/fields", &cookie, json!({"was": was, "field": changed(&was, &json!({"key": "Not a key"}))}))
        .await;
    assert_eq!(unsound.status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(unsound.json["detail"].as_str().unwrap().contains("is not a key"), "{unsound:?}");
    assert_eq!(draft(&fixture, &cookie, &fixture.dialogues[0].to_string()).await["revision"], 1);
}

async fn delete(fixture: &Fixture, path: &str, cookie: &str) -> Answer {
    fixture.call(Method::DELETE, path, Some(cookie), None).await
}

#[tokio::test]
async fn a_field_is_made_found_and_taken_out_where_nothing_uses_it() {
    let fixture = Fixture::new().await;
    let cookie = fixture.sign_in(AUTHOR).await;
    let made = json!({"id": "fld_depot", "key": "depot_wanted", "label": "Depot wanted", "type": "text",
        "record": "lead", "note": "Where it goes"});
    assert_eq!(fixture.post("/api/fields", &cookie, json!({"field": made})).await.status, StatusCode::OK);
    let again = fixture.post("/api/fields", &cookie, json!({"field": made})).await;
    assert_eq!(again.status, StatusCode::CONFLICT, "a field that exists is not made again");
    let rows = fixture.get("/api/catalogue", &cookie).await.json;
    let row = |key: &str| rows.as_array().unwrap().iter().find(|row| row["field"]["key"] == key).unwrap().clone();
    assert_eq!(row("depot_wanted")["dialogues"], json!([]));
    assert!(row("pallets")["dialogues"][0]["places"].as_u64().unwrap() > 3);
    // A draft that carries it without using it lets it go; one that uses it keeps it.
    let path = format!("/api/dialogues/{}/draft", fixture.dialogues[0]);
    fixture.post(&path, &cookie, json!({"base": 1, "edits": [{"op": "put_field", "field": made}]})).await;
    assert_eq!(delete(&fixture, "/api/fields/fld_depot", &cookie).await.status, StatusCode::OK);
    assert!(!draft(&fixture, &cookie, &fixture.dialogues[0].to_string()).await.to_string().contains("fld_depot"));
    let pallets = field(&fixture, &cookie, "pallets").await["id"].as_str().unwrap().to_owned();
    let refused = delete(&fixture, &format!("/api/fields/{pallets}"), &cookie).await;
    assert_eq!(refused.status, StatusCode::CONFLICT);
    assert!(refused.json["detail"].as_str().unwrap().contains("still used in"), "{refused:?}");
    assert_eq!(delete(&fixture, "/api/fields/fld_depot", &cookie).await.status, StatusCode::NOT_FOUND);
}

#[tokio::test]
async fn the_catalogue_goes_out_and_comes_in_as_csv() {
    let fixture = Fixture::new().await;
    let cookie = fixture.sign_in(AUTHOR).await;
    let csv = fixture.get("/api/catalogue.csv", &cookie).await;
    assert!(csv.headers["content-type"].to_str().unwrap().starts_with("text/csv"));
    let same = fixture.post("/api/fields/import", &cookie, json!({"csv": csv.text})).await.json;
    assert!(same["lines"].as_array().unwrap().iter().all(|line| line["does"] == "same"), "{same}");
    let text =
        "key,label,type,options\npallets,Pallet places,text,\ndepot_wanted,Depot wanted,choice,Aldermoor; Saltwick\n";
    let looked = fixture.post("/api/fields/import", &cookie, json!({"csv": text})).await.json;
    assert_eq!(
        (&looked["applied"], &looked["lines"][0]["does"], &looked["lines"][1]["does"]),
        (&json!(false), &json!("changed"), &json!("new"))
    );
    assert!(!looked["lines"][0]["breaks"].as_array().unwrap().is_empty(), "a new type tells what it breaks: {looked}");
    let wrong = fixture
        .post("/api/fields/import", &cookie, json!({"csv": format!("{text}x,X,colour,\n"), "apply": true}))
        .await
        .json;
    assert_eq!((&wrong["applied"], &wrong["lines"][2]["does"]), (&json!(false), &json!("wrong")));
    assert_eq!(field(&fixture, &cookie, "pallets").await["label"], "Pallets", "one wrong line, and none is taken");
    let text = "key,label,type,options\ndepot_wanted,Depot wanted,choice,Aldermoor; Saltwick\n";
    let taken = fixture.post("/api/fields/import", &cookie, json!({"csv": text, "apply": true})).await.json;
    assert_eq!(taken["applied"], true);
    assert_eq!(field(&fixture, &cookie, "depot_wanted").await["options"][1]["key"], "saltwick");
    let broken = fixture.post("/api/fields/import", &cookie, json!({"csv": "colour\n"})).await;
    assert_eq!(broken.status, StatusCode::UNPROCESSABLE_ENTITY);
}

/// Answers up to the question for an address.
async fn until_address(fixture: &Fixture, slug: &str) -> (String, usize) {
    let token = fixture.begin(slug).await;
    let replies = ["storage", "frozen", "no", "340", "owner", "Pia Lindqvist", "Harrow & Peel"];
    for (index, text) in replies.iter().enumerate() {
        assert_eq!(fixture.say(&token, index + 1, text).await.status, StatusCode::OK, "{text}");
    }
    (token, replies.len() + 1)
}

#[tokio::test]
async fn own_domains_decide_at_once_and_only_in_their_workspace() {
    let fixture = Fixture::new().await;
    let cookie = fixture.sign_in(AUTHOR).await;
    let lists = fixture.get("/api/settings/domains", &cookie).await.json;
    assert_eq!(lists, json!({"revision": 0, "allow": [], "deny": []}));
    let wrong =
        fixture.post("/api/settings/domains", &cookie, json!({"base": 0, "allow": ["not a domain"], "deny": []})).await;
    assert_eq!(wrong.status, StatusCode::UNPROCESSABLE_ENTITY);
    let set = fixture
        .post(
            "/api/settings/domains",
            &cookie,
            json!({"base": 0, "allow": ["@Gmail.com"], "deny": ["harrow.example", ""]}),
        )
        .await;
    assert_eq!(set.json, json!({"revision": 1, "allow": ["gmail.com"], "deny": ["harrow.example"]}));
    let stale = fixture.post("/api/settings/domains", &cookie, json!({"base": 0, "allow": [], "deny": []})).await;
    assert_eq!(stale.status, StatusCode::CONFLICT);
    for (slug, address, taken) in [
        ("storage-a", "pia@gmail.com", true),
        ("storage-a", "pia@post.harrow.example", false),
        ("storage-b", "pia@gmail.com", false),
        ("storage-b", "pia@harrow.example", true),
    ] {
        let (token, sequence) = until_address(&fixture, slug).await;
        let answer = fixture.say(&token, sequence, address).await;
        let turn = answer.json["question"]["turn"].clone();
        let asked_again = answer.json["lines"].to_string().contains(r#""who":"again""#);
        assert_eq!(asked_again, !taken, "{slug} {address}: {turn} {}", answer.json["lines"]);
    }
}

fn signed(key: &Value, claims: &Value) -> String {
    let header = Header { kid: key["id"].as_str().map(str::to_owned), ..Header::new(Algorithm::HS256) };
    encode(&header, claims, &EncodingKey::from_secret(key["secret"].as_str().unwrap().as_bytes())).unwrap()
}

fn soon() -> i64 {
    Timestamp::now().checked_add(20.minutes()).unwrap().as_second()
}

/// Starts with a token and answers until the name would be asked; gives the question's turn and every line.
async fn asked_for(fixture: &Fixture, slug: &str, visitor: &str) -> String {
    let started = fixture
        .prospect(
            Method::POST,
            &format!("/api/p/{slug}/conversations"),
            None,
            Some(json!({"id": "s", "visitor": visitor})),
        )
        .await;
    assert_eq!(started.status, StatusCode::OK, "{started:?}");
    let token = started.json["token"].as_str().unwrap().to_owned();
    let mut last = Value::Null;
    for (index, text) in ["storage", "frozen", "no", "340", "owner"].iter().enumerate() {
        last = fixture.say(&token, index + 1, text).await.json;
    }
    last["lines"].as_array().unwrap().last().unwrap().to_string()
}

#[tokio::test]
async fn what_a_site_signs_is_taken_once_and_what_is_forged_does_nothing() {
    let fixture = Fixture::new().await;
    let cookie = fixture.sign_in("admin@a.example").await;
    let key = fixture.post("/api/settings/visitor-keys", &cookie, json!({})).await.json;
    let claims = json!({"exp": soon(), "name": "Ana Ruiz", "email": "ana@heron.example"});
    let token = signed(&key, &claims);
    let tried = fixture.post("/api/settings/visitor-token", &cookie, json!({"token": token})).await.json;
    assert_eq!(
        tried,
        json!({"refused": null, "known": [{"to": "the first person name", "text": "Ana Ruiz"}, {"to": "the first \
            email", "text": "ana@heron.example"}]})
    );
    let asks_name = asked_for(&fixture, "storage-a", "nonsense").await;
    assert!(asks_name.contains("Who should we ask for?"), "{asks_name}");
    let known = asked_for(&fixture, "storage-a", &token).await;
    assert_ne!(known, asks_name, "a known name is not asked for");
    assert_eq!(asked_for(&fixture, "storage-a", &token).await, asks_name, "a token counts once");
    let other = signed(&key, &json!({"exp": soon(), "name": "Ana Ruiz", "nonce": 2}));
    assert_eq!(asked_for(&fixture, "storage-b", &other).await, asks_name, "a secret counts in its own workspace");
    let forged = signed(&json!({"id": key["id"], "secret": "guessed"}), &claims);
    assert_eq!(asked_for(&fixture, "storage-a", &forged).await, asks_name);
    let keys = fixture.get("/api/settings/visitor-keys", &cookie).await.json;
    assert!(keys[0]["used_at"].is_string() && keys[0].get("secret").is_none(), "{keys}");
    let path = format!("/api/settings/visitor-keys/{}", key["id"].as_str().unwrap());
    assert_eq!(delete(&fixture, &path, &cookie).await.status, StatusCode::NO_CONTENT);
    assert_eq!(asked_for(&fixture, "storage-a", &other).await, asks_name, "a secret that was taken out counts no more");
    let refused = fixture.post("/api/settings/visitor-token", &cookie, json!({"token": other})).await.json;
    assert!(refused["refused"].as_str().unwrap().contains("no secret with the id"), "{refused}");
}

#[tokio::test]
async fn a_workspace_has_a_handful_of_secrets() {
    let fixture = Fixture::new().await;
    let cookie = fixture.sign_in("admin@a.example").await;
    for _ in 0..5 {
        assert_eq!(fixture.post("/api/settings/visitor-keys", &cookie, json!({})).await.status, StatusCode::OK);
    }
    assert_eq!(fixture.post("/api/settings/visitor-keys", &cookie, json!({})).await.status, StatusCode::CONFLICT);
}

#[tokio::test]
async fn the_country_comes_from_a_trusted_header_else_from_the_zone_and_never_from_the_page() {
    for (header, expected) in [(Some("x-visitor-country"), "IE"), (None, "DE")] {
        let config = Config {
            country_header: header.map(|name| name.parse().unwrap()),
            prospect_requests_per_minute: 1000,
            ..Config::default()
        };
        let fixture = Fixture::with(&config).await;
        let body = json!({"id": "s", "context": {"country": "FR", "time_zone": "Europe/Berlin", "language": "en-US"}});
        let mut request = Fixture::request(&Method::POST, "/api/p/storage-a/conversations", None, Some(&body));
        request.headers_mut().insert("x-visitor-country", HeaderValue::from_static("IE"));
        assert_eq!(fixture.send(request).await.status, StatusCode::OK);
        let mut db = fixture.connect().await;
        let country: String = sqlx::query_scalar("select state -> 'context' ->> 'country' from conversations")
            .fetch_one(&mut db)
            .await
            .unwrap();
        assert_eq!(country, expected, "{header:?}");
    }
}

#[tokio::test]
async fn a_workspace_s_privacy_page_stands_at_the_foot_of_its_dialogues_only() {
    let fixture = Fixture::new().await;
    let admin = fixture.sign_in("admin@a.example").await;
    let mut settings = fixture.get("/api/settings/workspace", &admin).await.json;
    assert!(settings["privacy_link"].is_null());
    settings["privacy_link"] = json!("javascript:alert(1)");
    let refused = fixture.post("/api/settings/workspace", &admin, settings.clone()).await;
    assert_eq!(refused.json["detail"], "Type a link that begins with https://.");
    settings["privacy_link"] = json!("https://a.example/privacy");
    let kept = fixture.post("/api/settings/workspace", &admin, settings).await;
    assert_eq!((kept.status, &kept.json["privacy_link"]), (StatusCode::OK, &json!("https://a.example/privacy")));
    let opening = async |slug: &str| {
        fixture.prospect(Method::GET, &format!("/api/p/{slug}"), None, None).await.json["privacy"].clone()
    };
    assert_eq!(
        (opening("storage-a").await, opening("storage-b").await),
        (json!("https://a.example/privacy"), json!(null))
    );
}
