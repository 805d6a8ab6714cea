//! Writing an outline together: gestures, find and replace, comments, presence, releases compared and put on air,
//! rehearsals from a turn, pictures, patterns.
#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use crate::common::Fixture;
use axum::http::StatusCode;
use serde_json::{Value, json};

struct Author {
    fixture: Fixture,
    session: String,
    at: String,
}

impl Author {
    async fn new() -> Self {
        let fixture = Fixture::new().await;
        let session = fixture.sign_in("author@a.example").await;
        let at = format!("/api/dialogues/{}", fixture.dialogues[0]);
        Self { fixture, session, at }
    }

    async fn get(&self, path: &str) -> Value {
        let answer = self.fixture.get(&format!("{}{path}", self.at), &self.session).await;
        assert_eq!(answer.status, StatusCode::OK, "{path}: {answer:?}");
        answer.json
    }

    /// The draft with what is computed of it.
    async fn draft(&self) -> Value {
        crate::common::whole_draft(&self.fixture, &self.session, &self.fixture.dialogues[0].to_string()).await
    }

    async fn post(&self, path: &str, body: Value) -> Value {
        let answer = self.fixture.post(&format!("{}{path}", self.at), &self.session, body).await;
        assert_eq!(answer.status, StatusCode::OK, "{path}: {answer:?}");
        answer.json
    }

    async fn refused(&self, path: &str, body: Value) -> (StatusCode, String) {
        let answer = self.fixture.post(&format!("{}{path}", self.at), &self.session, body).await;
        assert!(!answer.status.is_success(), "{path}: {answer:?}");
        (answer.status, answer.json["detail"].as_str().unwrap_or_default().to_owned())
    }
}

fn row_keys(draft: &Value) -> Vec<String> {
    draft["rows"]
        .as_array()
        .unwrap()
        .iter()
        .map(|row| format!("{}:{}", row["kind"].as_str().unwrap(), row["id"].as_str().unwrap()))
        .collect()
}

#[tokio::test]
async fn a_gesture_is_made_and_undone_like_any_edit() {
    let author = Author::new().await;
    let before = author.get("/draft").await;
    let made = author
        .post(
            "/draft",
            json!({"base": 1, "gesture": {"gesture": "write", "text": "Which depot? \
        Aldermoor / Saltwick [Depot]", "at": {"parent": {"section": "load"}, "index": 0}}}),
        )
        .await;
    let row = made["made"][0].as_str().unwrap();
    let draft = author.draft().await;
    assert!(row_keys(&draft).contains(&row.to_owned()));
    assert_eq!(draft["marks"][row]["change"], "added", "the row is new since the release");
    assert!(draft["dialogue"]["fields"].as_array().unwrap().iter().any(|field| field["key"] == "depot"));
    author.post("/draft", json!({"base": 2, "edits": made["inverse"]})).await;
    let undone = author.draft().await;
    assert_eq!(undone["dialogue"], before["dialogue"]);
    assert_eq!(undone["marks"], json!({}));
}

#[tokio::test]
async fn what_cannot_be_written_says_which_line_and_why_and_changes_nothing() {
    let author = Author::new().await;
    let place = json!({"parent": {"section": "load"}, "index": 0});
    let (status, says) = author
        .refused(
            "/draft",
            json!({"base": 1, "gesture": {"gesture": "write", "text": "Hello\nIf nothing at least 2", "at": place}}),
        )
        .await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(says.starts_with("Line 2: “nothing at least 2” is no condition"), "{says}");
    let (status, says) = author.refused("/draft", json!({"base": 1, "edits": [], "gesture": null})).await;
    assert_eq!(
        (status, says.as_str()),
        (StatusCode::UNPROCESSABLE_ENTITY, "A change has 1 to 4000 edits, or one gesture.")
    );
    assert_eq!(author.get("/draft").await["revision"], 1);
}

#[tokio::test]
async fn found_words_are_shown_before_they_are_replaced() {
    let author = Author::new().await;
    let search = json!({"find": "pallets", "whole_words": true});
    let found = author.post("/find", json!({"search": search, "with": "crates"})).await;
    let places = found.as_array().unwrap().len();
    assert!(places > 2 && found[0]["after"].as_str().unwrap().contains("crates"));
    let replaced = author
        .post(
            "/draft",
            json!({"base": 1, "gesture": {"gesture": "replace", "search": search, "with": "crates", "only": [0]}}),
        )
        .await;
    assert_eq!(replaced["inverse"].as_array().unwrap().len(), 1);
    assert_eq!(author.post("/find", json!({"search": search, "with": ""})).await.as_array().unwrap().len(), places - 1);
}

#[tokio::test]
async fn authors_see_each_other_and_what_they_say() {
    let author = Author::new().await;
    let other = author.fixture.sign_in("admin@a.example").await;
    let alone = author.post("/presence", json!({"at": "turn:t_load"})).await;
    assert_eq!((&alone["revision"], &alone["here"]), (&json!(1), &json!([])));
    let seen = author.fixture.post(&format!("{}/presence", author.at), &other, json!({"at": null})).await.json;
    assert_eq!(seen["here"], json!([{"person": "author@a.example", "at": "turn:t_load"}]));

    let comment = author.post("/comments", json!({"at": "turn:t_load", "says": " Shorter? "})).await["id"].clone();
    let listed = author.get("/comments").await;
    assert_eq!((&listed[0]["says"], &listed[0]["resolved_by"]), (&json!("Shorter?"), &Value::Null));
    assert_eq!(author.post("/presence", json!({})).await["open_comments"], 1);
    author.post(&format!("/comments/{}", comment.as_str().unwrap()), json!({"resolved": true})).await;
    assert_eq!(author.get("/comments").await[0]["resolved_by"], "author@a.example");
    author.post(&format!("/comments/{}", comment.as_str().unwrap()), json!({"resolved": false})).await;
    assert_eq!(author.get("/comments").await[0]["resolved_by"], Value::Null);
    let (status, _) = author.refused("/comments", json!({"at": "turn:t_load", "says": "  "})).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
}

#[tokio::test]
async fn releases_are_compared_put_on_air_taken_off_and_brought_back() {
    let author = Author::new().await;
    author
        .post(
            "/draft",
            json!({"base": 1, "edits": [{"op": "set_title", "title": "Storage, new"},
        {"op": "remove_turn", "id": "t_load"}]}),
        )
        .await;
    author.post("/releases", json!({"revision": 2, "note": "shorter"})).await;
    let compared = author.get("/releases/compare?from=1&to=2").await;
    let removed: Vec<&Value> =
        compared["rows"].as_array().unwrap().iter().filter(|row| row["change"] == "removed").collect();
    assert_eq!((removed.len(), &removed[0]["id"]), (1, &json!("t_load")));
    assert_eq!(compared["others"][0]["part"], "Title");
    let none = author.get("/releases/compare?from=2").await;
    assert!(none["rows"].as_array().unwrap().iter().all(|row| row["change"] == "same"), "the draft is as release 2");

    let on_air = |rows: Value| {
        rows.as_array().unwrap().iter().find(|row| row["on_air"] == true).map(|row| row["number"].clone())
    };
    assert_eq!(on_air(author.get("/releases").await), Some(json!(2)));
    assert_eq!(on_air(author.post("/on-air", json!({"number": 1})).await), Some(json!(1)));
    assert_eq!(on_air(author.post("/on-air", json!({"number": null})).await), None);
    let gone = author.fixture.prospect(axum::http::Method::GET, "/api/p/storage-a", None, None).await;
    assert_eq!(gone.status, StatusCode::NOT_FOUND, "prospects find nothing while it is off air");
    let (status, _) = author.refused("/on-air", json!({"number": 9})).await;
    assert_eq!(status, StatusCode::NOT_FOUND);

    let body = author.get("/releases/1").await;
    author.post("/draft", json!({"base": 2, "edits": [{"op": "set_all", "dialogue": body}]})).await;
    let back = author.draft().await;
    assert!(row_keys(&back).contains(&"turn:t_load".to_owned()));
    assert_eq!(back["marks"]["turn:t_load"]["change"], "added", "against release 2, the newest");
}

#[tokio::test]
async fn a_rehearsal_begins_at_a_turn_with_answers_and_a_visitor() {
    let author = Author::new().await;
    let answer = author
        .post(
            "/rehearsal",
            json!({"inputs": [], "from": "t_pallets", "assumed": {"temperature": "frozen", "interest": "nonsense of a \
                word"}, "visitor": {"country": "DE"}, "at": "2027-01-05T09:00:00Z"}),
        )
        .await;
    assert_eq!(answer["turn"], "t_pallets");
    assert_eq!(answer["points"], 15, "the assumed answer is scored");
    assert!(answer["unread"]["interest"].is_string(), "what cannot be read is told: {answer}");
    assert_eq!(answer["page"]["question"]["answer"], "whole_number");
    let (status, says) = author.refused("/rehearsal", json!({"inputs": [], "at": "yesterday"})).await;
    assert_eq!((status, says.as_str()), (StatusCode::UNPROCESSABLE_ENTITY, "Write the time as 2027-01-05T09:30:00Z."));
}

#[tokio::test]
async fn a_formula_gives_its_type_its_value_or_its_mistake() {
    let author = Author::new().await;
    let rehearsal = json!({"inputs": [], "from": "t_temperature", "assumed": {"pallets": "340"}});
    let tried = author.post("/formula", json!({"formula": "pallets * 2", "rehearsal": rehearsal})).await;
    assert_eq!((&tried["gives"], &tried["value"]), (&json!("a number"), &json!("680")));
    let tried = author.post("/formula", json!({"formula": "pallets * 2"})).await;
    assert_eq!(tried["value"], "missing: Pallets not answered yet");
    let tried = author.post("/formula", json!({"formula": "pallets * wrong"})).await;
    assert_eq!(tried["at"], 10);
    let tried = author.post("/formula", json!({"formula": "1 / 0"})).await;
    assert_eq!(tried["value"], "none: it divides by zero");
}

#[tokio::test]
async fn a_typed_condition_is_read_or_told_where_it_goes_wrong() {
    let author = Author::new().await;
    let read = author.post("/condition", json!({"text": "Pallets at least 200 and Temperature is Frozen"})).await;
    assert_eq!(read["condition"]["all"][1]["compare"], json!({"what": "temperature", "is": "is", "to": "frozen"}));
    let wrong = author.post("/condition", json!({"text": "Pallets at least 200 und"})).await;
    assert_eq!((&wrong["condition"], &wrong["at"]), (&Value::Null, &json!(21)));
}

#[tokio::test]
async fn the_ledger_counts_what_conversations_filled() {
    let author = Author::new().await;
    author.fixture.file_lead("storage-a", "harrow").await;
    author.fixture.begin("storage-a").await;
    let ledger = author.get("/ledger").await;
    assert_eq!((&ledger["conversations"], &ledger["filled"]["fld_pallets"]), (&json!(2), &json!(1)));
    let pallets = ledger["rows"].as_array().unwrap().iter().find(|row| row["key"] == "pallets").unwrap();
    assert!(pallets["needed"] == true && pallets["captured"] == "every" && pallets["may_lack"] == true);
}

/// What a lead must carry can be declined, and a formula may lack what was; nothing else is found.
fn only_what_may_be_declined(draft: &Value) {
    for finding in draft["findings"].as_array().unwrap() {
        let key = finding["key"].as_str().unwrap();
        assert!(["needed_missing", "computed_missing"].contains(&key), "{finding}");
    }
}

#[tokio::test]
async fn a_dialogue_begins_from_a_pattern_or_a_brief() {
    let author = Author::new().await;
    let patterns = author.fixture.get("/api/patterns", &author.session).await.json;
    assert_eq!(patterns.as_array().unwrap().len(), 5);
    for pattern in patterns.as_array().unwrap() {
        let made = author
            .fixture
            .post("/api/dialogues", &author.session, json!({"title": "Mine", "pattern": pattern["key"]}))
            .await;
        assert_eq!(made.status, StatusCode::OK, "{made:?}");
        let id = made.json["id"].as_str().unwrap().to_owned();
        let draft = crate::common::whole_draft(&author.fixture, &author.session, &id).await;
        only_what_may_be_declined(&draft);
        let released = author
            .fixture
            .post(&format!("/api/dialogues/{id}/releases"), &author.session, json!({"revision": 1, "note": "first"}))
            .await;
        assert_eq!(released.status, StatusCode::OK, "{pattern}: {released:?}");
    }
    let brief = json!({"fields": ["email", "pallets", "temperature"], "fit": "Large and cold", "queue": "saltwick"});
    let made =
        author.fixture.post("/api/dialogues", &author.session, json!({"title": "From a brief", "brief": brief})).await;
    let draft = crate::common::whole_draft(&author.fixture, &author.session, made.json["id"].as_str().unwrap()).await;
    only_what_may_be_declined(&draft);
    assert_eq!(draft["dialogue"]["routing"]["otherwise"], "saltwick");
    for (body, says) in [
        (json!({"title": "X", "pattern": "nothing"}), "There is no such pattern."),
        (
            json!({"title": "X", "language": "xx"}),
            "A dialogue is held in one of these languages: en, de, fr, es, nl, pl.",
        ),
        (json!({"title": "X", "brief": {"fields": ["nothing"]}}), "There is no field “nothing” in the catalogue."),
        (json!({"title": "X", "brief": {"fields": [], "queue": "nothing"}}), "There is no queue “nothing”."),
    ] {
        let refused = author.fixture.post("/api/dialogues", &author.session, body).await;
        assert_eq!(
            (refused.status, refused.json["detail"].as_str().unwrap()),
            (StatusCode::UNPROCESSABLE_ENTITY, says)
        );
    }
}

/// PNG pictures of one pixel, as base64.
const PIXEL: &str = "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNkYPhfDwAChwGA60e6kgAAAABJRU5ErkJggg==";
const OTHER_PIXEL: &str =
    "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==";

#[tokio::test]
async fn pictures_are_taken_by_what_they_are_and_shown_only_where_a_release_shows_them() {
    let author = Author::new().await;
    let post =
        async |content: &str| author.fixture.post("/api/media", &author.session, json!({"content": content})).await;
    let kept = post(PIXEL).await.json;
    assert_eq!(kept["media_type"], "image/png");
    let damaged = post("iVBORw0KGgo=").await;
    assert_eq!(damaged.json["detail"], "This picture cannot be read; it may be damaged: save it anew and try again.");
    assert_eq!(
        post("PHN2Zz48L3N2Zz4=").await.status,
        StatusCode::UNPROCESSABLE_ENTITY,
        "a picture that may carry a script is refused"
    );
    assert_eq!(post("not base64").await.status, StatusCode::UNPROCESSABLE_ENTITY);
    let path = format!("/api/p/storage-a/media/{}", kept["hash"].as_str().unwrap());
    let before = author.fixture.prospect(axum::http::Method::GET, &path, None, None).await;
    assert_eq!(before.status, StatusCode::NOT_FOUND);
    let say = json!([{"picture": {"media": kept["hash"], "alt": {"en": "A hall"}}}]);
    author
        .post(
            "/draft",
            json!({"base": 1, "edits": [{"op": "set_media", "hash": kept["hash"],
        "media_type": "image/png"}, {"op": "change_turn", "turn": {"kind": "tell", "id": "t_load",
        "say": say}}]}),
        )
        .await;
    author.post("/releases", json!({"revision": 2, "note": "a picture"})).await;
    let shown = author.fixture.prospect(axum::http::Method::GET, &path, None, None).await;
    assert_eq!((shown.status, shown.headers["content-type"].to_str().unwrap()), (StatusCode::OK, "image/png"));
    assert!(shown.headers["content-security-policy"].to_str().unwrap().contains("sandbox"));
    let other =
        author.fixture.prospect(axum::http::Method::GET, &path.replace("storage-a", "storage-b"), None, None).await;
    assert_eq!(other.status, StatusCode::NOT_FOUND, "another workspace’s dialogue does not show it");
    // 125 of 4 MB are all that a workspace may hold.
    let full = "insert into media (workspace_id, hash, media_type, content) select id, lpad(to_hex(n), 64, '0'),
        'application/pdf', decode(repeat('00', 4194304), 'hex') from workspaces, generate_series(1, 125) n
        where slug = 'a'";
    let mut db = author.fixture.connect().await;
    sqlx::query(full).execute(&mut db).await.unwrap();
    let refused = post(OTHER_PIXEL).await;
    assert_eq!(
        (refused.status, refused.json["detail"].as_str().unwrap()),
        (StatusCode::CONFLICT, "This workspace’s pictures and documents take 500 MB, which is the most there may be.")
    );
}

#[tokio::test]
async fn a_picture_that_was_never_uploaded_blocks_a_release() {
    let author = Author::new().await;
    author
        .post(
            "/draft",
            json!({"base": 1, "edits": [{"op": "set_media", "hash": "0".repeat(64), "media_type": "image/png"}]}),
        )
        .await;
    let answer = author
        .fixture
        .post(&format!("{}/releases", author.at), &author.session, json!({"revision": 2, "note": "n"}))
        .await;
    assert_eq!(answer.status, StatusCode::UNPROCESSABLE_ENTITY);
    assert_eq!(answer.json["findings"][0]["key"], "media");
}

#[tokio::test]
async fn own_wording_of_a_phrase_is_what_prospects_read() {
    let author = Author::new().await;
    let phrases = author.get("/phrases").await;
    assert!(phrases.as_array().unwrap().iter().any(|phrase| phrase["key"] == "rule.required"));
    author
        .post(
            "/draft",
            json!({"base": 1, "edits": [{"op": "set_phrase", "key": "type.choice",
        "text": {"en": "One of these, please."}}]}),
        )
        .await;
    let rehearsed = author.post("/rehearsal", json!({"inputs": [{"kind": "reply", "text": "gibberish"}]})).await;
    let lines = serde_json::to_string(&rehearsed["lines"]).unwrap();
    assert!(lines.contains("One of these, please."), "{lines}");
    let opening = author.get("/opening").await;
    assert_eq!(opening["pace"], "by_length");
}
