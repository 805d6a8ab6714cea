//! Sending leads to outside places: signed, in order, at least once, through failures; and nothing to private
//! addresses.
#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use std::sync::{Arc, Mutex};
use std::time::Duration;

use crate::common::Working;
use axum::Router;
use axum::extract::State;
use axum::http::{HeaderMap, StatusCode};
use axum::routing::post;
use lumbo_deliver::webhook::Event;
use lumbo_server::Config;
use serde_json::{Value, json};

/// A receiver that answers what it is told to, and keeps what it got.
#[derive(Clone, Default)]
struct Receiver {
    got: Arc<Mutex<Vec<(HeaderMap, String)>>>,
    answers: Arc<Mutex<Vec<u16>>>,
    /// How long every answer takes.
    slow: Arc<Mutex<Duration>>,
}

impl Receiver {
    async fn start(&self) -> String {
        let app = Router::new().route("/hook", post(take)).with_state(self.clone());
        let listener = tokio::net::TcpListener::bind("127.0.0.1:0").await.unwrap();
        let address = listener.local_addr().unwrap().to_string();
        tokio::spawn(async move { axum::serve(listener, app).await.unwrap() });
        address
    }

    fn events(&self) -> Vec<Event> {
        self.got.lock().unwrap().iter().map(|(_, body)| serde_json::from_str(body).unwrap()).collect()
    }

    async fn wait_for(&self, count: usize) {
        for _ in 0..200 {
            if self.got.lock().unwrap().len() >= count {
                return;
            }
            tokio::time::sleep(Duration::from_millis(50)).await;
        }
        panic!("{} of {count} came", self.got.lock().unwrap().len());
    }
}

async fn take(State(receiver): State<Receiver>, headers: HeaderMap, body: String) -> StatusCode {
    let slow = *receiver.slow.lock().unwrap();
    tokio::time::sleep(slow).await;
    receiver.got.lock().unwrap().push((headers, body));
    let mut answers = receiver.answers.lock().unwrap();
    let code = if answers.is_empty() { 200 } else { answers.remove(0) };
    StatusCode::from_u16(code).unwrap()
}

/// A fixture whose workers send to a receiver of its own.
struct Sending {
    working: Working,
    receiver: Receiver,
    address: String,
}

impl Sending {
    async fn new() -> Self {
        let receiver = Receiver::default();
        let host = receiver.start().await;
        let config = Config { allowed_private: vec![host.clone()], ..Config::default() };
        Self { working: Working::with(config).await, receiver, address: format!("http://{host}/hook") }
    }

    async fn destination(&self, kind: &str, events: Value) -> (String, Option<String>) {
        let set = json!({"revision": 0, "name": "Sales", "kind": kind, "address": self.address, "events": events});
        let made = self.working.fixture.post("/api/destinations", &self.working.admin, set).await;
        assert_eq!(made.status, StatusCode::OK, "{made:?}");
        (made.json["id"].as_str().unwrap().into(), made.json["secret"].as_str().map(str::to_owned))
    }

    async fn row(&self) -> Value {
        self.working.fixture.get("/api/destinations", &self.working.admin).await.json[0].clone()
    }

    async fn log(&self, id: &str) -> Vec<Value> {
        let page =
            self.working.fixture.get(&format!("/api/destinations/{id}/sendings"), &self.working.admin).await.json;
        page["sendings"].as_array().unwrap().clone()
    }

    /// Waits until the destination's row says so.
    async fn until(&self, what: impl Fn(&Value) -> bool) -> Value {
        for _ in 0..200 {
            let row = self.row().await;
            if what(&row) {
                return row;
            }
            tokio::time::sleep(Duration::from_millis(50)).await;
        }
        panic!("{}", self.row().await);
    }
}

#[tokio::test]
async fn a_filed_lead_arrives_signed_with_everything_that_was_collected() {
    let sending = Sending::new().await;
    let (id, secret) = sending.destination("webhook", json!(["lead.filed", "lead.updated"])).await;
    sending.working.fixture.file_lead("storage-a", "harrow").await;
    sending.receiver.wait_for(1).await;
    let (headers, body) = sending.receiver.got.lock().unwrap()[0].clone();
    let webhook = standardwebhooks::Webhook::new(&secret.unwrap()).unwrap();
    assert!(webhook.verify(body.as_bytes(), &headers).is_ok(), "{headers:?}");
    let json: Value = serde_json::from_str(&body).unwrap();
    let schema = sending.working.fixture.get("/api/webhook-schema", &sending.working.admin).await.json;
    assert!(jsonschema::validator_for(&schema).unwrap().is_valid(&json), "{json}");
    let data = &json["data"];
    assert_eq!(json["type"], "lead.filed");
    assert!(data["email"].as_str().unwrap().contains("harrow"), "{data}");
    assert!(data["link"].as_str().unwrap().starts_with("https://lumbo.example/leads/"));
    assert!(data["fields"]["pallets"].is_object() || data["fields"]["pallets"].is_string(), "{data}");
    assert!(data["transcript"].as_array().unwrap().iter().any(|line| line["who"] == "prospect"));
    assert!(!body.contains("null"), "what is missing is absent");
    let row = sending.until(|row| row["worked_at"].is_string()).await;
    assert_eq!((&row["waiting"], &row["parked"], &row["failing_since"]), (&json!(0), &json!(0), &Value::Null));
    // It stands in the lead's story and in the log, and the other workspace saw nothing of it.
    let lead = data["id"].as_str().unwrap();
    let story = sending.working.fixture.get(&format!("/api/leads/{lead}"), &sending.working.admin).await.json;
    assert!(story["log"].as_array().unwrap().iter().any(|entry| entry["what"] == "Sent to Sales"), "{story}");
    assert_eq!(sending.log(&id).await[0]["state"], "done");
    let other = sending.working.fixture.sign_in("admin@b.example").await;
    assert_eq!(sending.working.fixture.get("/api/destinations", &other).await.json, json!([]));
    sending.working.fixture.file_lead("storage-b", "kettle").await;
    tokio::time::sleep(Duration::from_millis(400)).await;
    assert_eq!(sending.receiver.events().len(), 1);
}

#[tokio::test]
async fn what_is_refused_for_good_is_kept_aside_and_sent_again_by_hand() {
    let sending = Sending::new().await;
    let (id, _) = sending.destination("webhook", json!(["lead.filed"])).await;
    *sending.receiver.answers.lock().unwrap() = vec![422];
    sending.working.fixture.file_lead("storage-a", "harrow").await;
    let row = sending.until(|row| row["parked"] == 1).await;
    assert!(row["failing_since"].is_string(), "{row}");
    let log = sending.log(&id).await;
    assert_eq!((&log[0]["state"], &log[0]["attempts"][0]["status"]), (&json!("parked"), &json!(422)));
    let again = format!("/api/destinations/{id}/again");
    assert_eq!(sending.working.fixture.post(&again, &sending.working.admin, json!({})).await.json, json!({"count": 1}));
    let row = sending.until(|row| row["parked"] == 0 && row["waiting"] == 0).await;
    assert_eq!(row["failing_since"], Value::Null, "it works again");
    let ids: Vec<String> = sending
        .receiver
        .got
        .lock()
        .unwrap()
        .iter()
        .map(|(headers, _)| headers["webhook-id"].to_str().unwrap().to_owned())
        .collect();
    assert!(ids.len() == 2 && ids[0] == ids[1], "receivers drop repeats by an id that never changes: {ids:?}");
}

#[tokio::test]
async fn a_receiver_that_does_not_know_us_pauses_the_destination_until_somebody_lets_it_go_on() {
    let sending = Sending::new().await;
    let (id, _) = sending.destination("webhook", json!(["lead.filed"])).await;
    *sending.receiver.answers.lock().unwrap() = vec![401];
    sending.working.fixture.file_lead("storage-a", "harrow").await;
    let row = sending.until(|row| row["paused_at"].is_string()).await;
    assert!(row["paused_why"].as_str().unwrap().contains("401"), "{row}");
    assert_eq!(row["waiting"], 1, "nothing is lost");
    // The secret is rotated meanwhile: both count for a week.
    let rotated = sending
        .working
        .fixture
        .post(&format!("/api/destinations/{id}/secret"), &sending.working.admin, json!({}))
        .await;
    let secret = rotated.json["secret"].as_str().unwrap().to_owned();
    let act = sending
        .working
        .fixture
        .post(&format!("/api/destinations/{id}"), &sending.working.admin, json!({"act": "go_on"}))
        .await;
    assert!(act.status.is_success(), "{act:?}");
    let row = sending.until(|row| row["waiting"] == 0).await;
    assert!(row["before_until"].is_string() && row["paused_why"] == Value::Null, "{row}");
    let (headers, body) = sending.receiver.got.lock().unwrap()[1].clone();
    assert_eq!(headers["webhook-signature"].to_str().unwrap().split(' ').count(), 2);
    assert!(standardwebhooks::Webhook::new(&secret).unwrap().verify(body.as_bytes(), &headers).is_ok());
}

#[tokio::test]
async fn events_of_one_lead_keep_their_order_through_failures() {
    let sending = Sending::new().await;
    sending.destination("webhook", json!(["lead.filed", "lead.updated", "lead.status"])).await;
    // The first answer fails for now: what follows waits behind it.
    *sending.receiver.answers.lock().unwrap() = vec![503];
    sending.working.fixture.file_lead("storage-a", "harrow").await;
    sending.receiver.wait_for(1).await;
    let rep = sending.working.fixture.sign_in("rep@a.example").await;
    let lead = sending.working.fixture.get("/api/leads?show=mine", &rep).await.json["leads"][0]["id"].clone();
    let path = format!("/api/leads/{}", lead.as_str().unwrap());
    let revision = sending.working.fixture.get(&path, &rep).await.json["revision"].clone();
    let me = sending.working.fixture.get("/api/me", &rep).await.json["id"].clone();
    let taken = json!({"revision": revision, "to": me});
    let taken = sending.working.fixture.post(&format!("{path}/owner"), &rep, taken).await;
    assert_eq!(taken.status, StatusCode::OK, "{taken:?}");
    tokio::time::sleep(Duration::from_millis(500)).await;
    assert_eq!(sending.receiver.events().len(), 1, "the second waits behind the first");
    // Ten seconds later the first is tried again, and the second follows at once.
    let mut db = sending.working.fixture.connect().await;
    sqlx::query("update jobs set due_at = now() where kind = 'send' and attempts > 0").execute(&mut db).await.unwrap();
    sending.working.fixture.store.wakes().jobs();
    sending.receiver.wait_for(3).await;
    let events = sending.receiver.events();
    let kinds: Vec<&str> = events.iter().map(|event| event.kind.as_str()).collect();
    assert_eq!(kinds, ["lead.filed", "lead.filed", "lead.updated"]);
    assert_eq!(events[0], events[1], "every attempt sends the same");
    assert!(events[2].data.revision > events[1].data.revision);
}

#[tokio::test]
async fn a_place_that_hangs_holds_up_no_dealing_and_the_new_owner_is_told_of() {
    let sending = Sending::new().await;
    sending.destination("webhook", json!(["lead.filed", "lead.updated"])).await;
    *sending.receiver.slow.lock().unwrap() = Duration::from_secs(6);
    // More than one room for both would have places.
    for company in ["harrow", "kettle", "orchard", "plover", "heron"] {
        sending.working.fixture.file_lead("storage-a", company).await;
    }
    let lead = sending.working.fixture.sign_in("lead@a.example").await;
    let rep = sending.working.fixture.sign_in("rep@a.example").await;
    let me = sending.working.fixture.get("/api/me", &rep).await.json["id"].as_str().unwrap().to_owned();
    let paused = sending.working.fixture.post(&format!("/api/team/{me}"), &lead, json!({"paused": true})).await;
    assert!(paused.status.is_success(), "{paused:?}");
    let shared = sending.working.fixture.post(&format!("/api/team/{me}/share-out"), &lead, json!({})).await;
    assert_eq!(shared.json, json!({"leads": 5}));
    sending.working.fixture.post(&format!("/api/team/{me}"), &lead, json!({"paused": false})).await;
    let mut db = sending.working.fixture.connect().await;
    let mut dealt = 0_i64;
    for _ in 0..60 {
        let done = "select count(*) from jobs where kind = 'deal' and state = 'done'";
        dealt = sqlx::query_scalar(done).fetch_one(&mut db).await.unwrap();
        if dealt > 0 {
            break;
        }
        tokio::time::sleep(Duration::from_millis(50)).await;
    }
    assert!(dealt > 0, "within three seconds, while five sendings hang");
    assert_eq!(sending.receiver.got.lock().unwrap().len(), 0, "they hang still");
}

#[tokio::test]
async fn a_test_shows_request_and_answer_and_is_marked_as_one() {
    let sending = Sending::new().await;
    let (id, _) = sending.destination("chat", json!(["lead.filed"])).await;
    let path = format!("/api/destinations/{id}/test");
    let early = sending.working.fixture.post(&path, &sending.working.admin, json!({})).await;
    assert!(early.json["detail"].as_str().unwrap().contains("lead yet to try it with"), "{early:?}");
    sending.working.fixture.file_lead("storage-a", "harrow").await;
    *sending.receiver.answers.lock().unwrap() = vec![200, 418];
    sending.receiver.wait_for(1).await;
    let tested = sending.working.fixture.post(&path, &sending.working.admin, json!({})).await.json;
    assert_eq!((&tested["arrived"], &tested["answer"]["status"]), (&json!(false), &json!(418)), "{tested}");
    let text: Value = serde_json::from_str(tested["body"].as_str().unwrap()).unwrap();
    assert!(text["text"].as_str().unwrap().starts_with("Test: "), "{text}");
    assert!(
        !tested["headers"]
            .as_array()
            .unwrap()
            .iter()
            .any(|line| line.as_str().unwrap().starts_with("webhook-signature"))
    );
    assert_eq!(sending.log(&id).await.len(), 1, "a test stands in no log");
}

#[tokio::test]
async fn private_addresses_are_refused_with_a_sentence() {
    let sending = Sending::new().await;
    for (address, says) in [
        ("http://127.0.0.1:1/x", "must begin with https"),
        ("https://169.254.169.254/x", "not a public one"),
        ("https://[::ffff:10.0.0.1]/x", "not a public one"),
        ("nonsense", "not a web address"),
        ("https://a:b@example.com/", "leave name and password out"),
    ] {
        let set = json!({"revision": 0, "name": "x", "kind": "webhook", "address": address, "events": ["lead.filed"]});
        let refused = sending.working.fixture.post("/api/destinations", &sending.working.admin, set).await;
        let detail = refused.json["detail"].as_str().unwrap().to_lowercase();
        assert!(detail.contains(says), "{address}: {detail}");
    }
    let none = json!({"revision": 0, "name": "x", "kind": "webhook", "address": sending.address, "events": []});
    let none = sending.working.fixture.post("/api/destinations", &sending.working.admin, none).await;
    assert!(none.json["detail"].as_str().unwrap().contains("one event at least"));
}
