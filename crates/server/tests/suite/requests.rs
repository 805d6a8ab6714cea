//! What cannot be read of a request is a problem document with a sentence, and changes nothing.
#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use crate::common::Fixture;
use axum::http::{Method, StatusCode};
use serde_json::{Value, json};

#[tokio::test]
async fn an_address_or_query_that_is_none_is_said() {
    let fixture = Fixture::new().await;
    let author = fixture.sign_in("author@a.example").await;
    for (path, status) in [
        ("/api/dialogues/not-an-id/draft", StatusCode::NOT_FOUND),
        ("/api/leads/7", StatusCode::NOT_FOUND),
        ("/api/nothing-here", StatusCode::NOT_FOUND),
        ("/api/leads?show=theirs", StatusCode::UNPROCESSABLE_ENTITY),
        ("/api/leads?show=all&colour=red", StatusCode::UNPROCESSABLE_ENTITY),
        ("/api/leads", StatusCode::UNPROCESSABLE_ENTITY),
    ] {
        let answer = fixture.get(path, &author).await;
        assert_eq!(answer.status, status, "{path}: {answer:?}");
        assert_eq!(answer.json["status"], status.as_u16(), "{path}");
        assert!(answer.json["detail"].as_str().is_some_and(|detail| detail.ends_with('.')), "{path}: {answer:?}");
    }
    let answer = fixture.prospect(Method::DELETE, "/api/conversation", None, None).await;
    assert_eq!((answer.status, &answer.json["status"]), (StatusCode::METHOD_NOT_ALLOWED, &json!(405)));
}

#[tokio::test]
async fn a_body_is_read_to_the_letter() {
    let fixture = Fixture::new().await;
    let author = fixture.sign_in("author@a.example").await;
    let path = format!("/api/dialogues/{}", fixture.dialogues[0]);
    let refused = async |part: &str, body: Value| {
        let answer = fixture.post(&format!("{path}/{part}"), &author, body.clone()).await;
        assert_eq!(answer.status, StatusCode::UNPROCESSABLE_ENTITY, "{body}: {answer:?}");
    };
    let title = json!({"op": "set_title", "title": "T"});
    refused("draft", json!([1, [title], null])).await;
    refused("draft", json!({"base": 1, "edits": [title], "colour": "red"})).await;
    refused("draft", json!({"base": 1, "edits": [{"op": "set_title", "title": "T", "colour": "red"}]})).await;
    refused("draft", json!({"base": 1, "edits": [{"op": "paint"}]})).await;
    refused("rehearsal", json!({"inputs": [], "visitor": [null, null]})).await;
    refused("rehearsal", json!({"inputs": [{"kind": "skip", "colour": "red"}]})).await;
    let draft = crate::common::whole_draft(&fixture, &author, &fixture.dialogues[0].to_string()).await;
    assert_eq!(draft["revision"], 1, "nothing was changed");
}
