//! Leads as records of a customer system and as rows of a sheet: found or made there, never twice, through failures
//! and lost answers; the stand-ins that ship with Lumbo are at the other end.
#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use std::time::Duration;

use crate::common::Working;
use crate::common::outside::{form_post, get, spoken, standins};
use axum::http::StatusCode;
use lumbo_server::Config;
use serde_json::{Value, json};

/// A fixture whose workers send to stand-ins of its own.
struct Outside {
    working: Working,
    standins: String,
}

impl Outside {
    async fn new() -> Self {
        let (standins, host) = standins().await;
        let config = Config { allowed_private: vec![host], ..Config::default() };
        Self { working: Working::with(config).await, standins }
    }

    async fn destination(&self, kind: &str, path: &str) -> String {
        let set = json!({"revision": 0, "name": kind, "kind": kind, "address": format!("{}{path}", self.standins),
            "events": ["lead.filed", "lead.updated", "lead.status"], "token": "let-me-in"});
        let made = self.working.fixture.post("/api/destinations", &self.working.admin, set).await;
        assert_eq!(made.status, StatusCode::OK, "{made:?}");
        assert!(made.json["secret"].is_null(), "the token that was typed is not shown again");
        made.json["id"].as_str().unwrap().to_owned()
    }

    async fn post(&self, path: &str, body: Value) -> Value {
        let answer = self.working.fixture.post(path, &self.working.admin, body).await;
        assert!(answer.status.is_success(), "{path}: {answer:?}");
        answer.json
    }

    /// A customer system whose properties are mapped as they suggest themselves, with what its lists call otherwise.
    async fn customers(&self) -> String {
        let id = self.destination("customer_system", "/customers/api").await;
        let at = format!("/api/destinations/{id}");
        let view = self.post(&format!("{at}/schema"), json!({})).await;
        let mut rules = view["suggested"].as_array().unwrap().clone();
        let rating = rules.iter_mut().find(|rule| rule["property"] == "rating").unwrap();
        rating["options"] = json!({"Nurture": "3"});
        let stage = rules.iter_mut().find(|rule| rule["property"] == "stage").unwrap();
        stage["options"] = json!({"new": "open", "spoken": "working", "junk": "lost"});
        rules.push(json!({"object": "company", "property": "source", "from": {"text": "web"}, "write": "if_empty"}));
        rules.push(json!({"object": "lead", "property": "goods", "from": {"field": "temperature"},
            "options": {"frozen": "minus22", "chilled": "plus2", "ambient": "room"}}));
        let body = json!({"revision": view["revision"], "mapping": {"rules": rules}, "keep": true});
        let kept = self.post(&format!("{at}/mapping"), body).await;
        assert_eq!(kept["suggested"], json!([]));
        let stops = |what: &Value| what != "twice" && what["no_options"].is_null() && what["no_people"].is_null();
        let faults: Vec<&Value> =
            kept["faults"].as_array().unwrap().iter().filter(|fault| stops(&fault["what"])).collect();
        let required = json!({"can_be_missing": ["Storage enquiry"]});
        for fault in faults {
            assert_eq!(fault["what"], required, "{fault}: only what a lead can come without is to mend");
        }
        id
    }

    async fn there(&self) -> Value {
        let text = get(&format!("{}/customers/all.json", self.standins)).await;
        serde_json::from_str(&text).unwrap()
    }

    /// Waits until the customer system looks so.
    async fn until(&self, what: impl Fn(&Value) -> bool) -> Value {
        for _ in 0..300 {
            let there = self.there().await;
            if what(&there) {
                return there;
            }
            tokio::time::sleep(Duration::from_millis(50)).await;
        }
        panic!("{}", self.there().await);
    }

    async fn faults(&self, place: &str, form: &str) {
        let (_, text) = form_post(&format!("{}/{place}/faults", self.standins), form).await;
        drop(text);
    }

    async fn log(&self, id: &str) -> Vec<Value> {
        let page =
            self.working.fixture.get(&format!("/api/destinations/{id}/sendings"), &self.working.admin).await.json;
        page["sendings"].as_array().unwrap().clone()
    }

    /// Waits until nothing is on its way any more.
    async fn settled(&self, id: &str) -> Vec<Value> {
        let mut db = self.working.fixture.connect().await;
        for _ in 0..400 {
            let log = self.log(id).await;
            if !log.is_empty() && log.iter().all(|row| row["state"] != "waiting") {
                return log;
            }
            // Nobody waits for the timetable of attempts.
            sqlx::query("update jobs set due_at = now() where kind = 'send'").execute(&mut db).await.unwrap();
            self.working.fixture.store.wakes().jobs();
            tokio::time::sleep(Duration::from_millis(50)).await;
        }
        panic!("{:?}", self.log(id).await);
    }
}

fn count(there: &Value, objects: &str) -> usize {
    there[objects].as_array().unwrap().len()
}

#[tokio::test]
async fn a_lead_becomes_company_contact_and_lead_and_later_words_change_them() {
    let outside = Outside::new().await;
    let id = outside.customers().await;
    let tested = outside.post(&format!("/api/destinations/{id}/test"), json!({})).await;
    assert_eq!((&tested["arrived"], &tested["method"]), (&json!(true), &json!("GET")));
    outside.working.fixture.file_lead("storage-a", "harrow").await;
    let there = outside.until(|there| count(there, "leads") == 1).await;
    let lead = &there["leads"][0];
    assert_eq!(there["companies"][0]["properties"]["domain"], "harrow.example");
    assert_eq!(there["companies"][0]["properties"]["source"], "web");
    assert_eq!(there["contacts"][0]["properties"]["family_name"], "Lindqvist");
    assert_eq!(lead["properties"]["goods"], "minus22");
    assert_eq!(lead["properties"]["pallets"], 340);
    assert_eq!(lead["properties"]["rating"], "2", "Warm goes by its name there");
    assert_eq!(lead["properties"]["stage"], "open");
    let said = lead["properties"]["conversation"].as_str().unwrap();
    assert!(said.contains("\n> 340\n"), "with its line breaks: {said}");
    assert_eq!(lead["links"]["contact"], there["contacts"][0]["id"]);
    // A call, and what came of it, goes on to the same record.
    let rep = outside.working.fixture.sign_in("rep@a.example").await;
    let ours = lead["properties"]["external_id"].as_str().unwrap().to_owned();
    let detail = outside.working.fixture.get(&format!("/api/leads/{ours}"), &rep).await.json;
    let body = json!({"revision": detail["revision"], "outcome": "spoke"});
    let called = outside.working.fixture.post(&format!("/api/leads/{ours}/calls"), &rep, body).await;
    assert_eq!(called.status, StatusCode::OK, "{called:?}");
    let there = outside.until(|there| there["leads"][0]["properties"]["stage"] == "working").await;
    assert_eq!((count(&there, "companies"), count(&there, "contacts"), count(&there, "leads")), (1, 1, 1));
    assert!(outside.settled(&id).await.iter().all(|row| row["state"] == "done"));
}

#[tokio::test]
async fn whatever_fails_there_or_whose_answer_is_lost_everything_arrives_once() {
    let outside = Outside::new().await;
    let id = outside.customers().await;
    // Three answers are lost though what they answer was done, then three calls fail.
    outside.faults("customers", "next=3&code=503&slow_ms=0&after=on").await;
    for person in ["harrow", "harrow", "kettle"] {
        outside.working.fixture.file_lead("storage-a", person).await;
    }
    outside.until(|there| count(there, "companies") >= 1).await;
    outside.faults("customers", "next=3&code=429&slow_ms=5").await;
    let log = outside.settled(&id).await;
    assert!(log.iter().all(|row| row["state"] == "done"), "{log:?}");
    let there = outside.there().await;
    assert_eq!((count(&there, "companies"), count(&there, "contacts")), (2, 2));
    let leads = there["leads"].as_array().unwrap();
    let distinct: std::collections::BTreeSet<&str> =
        leads.iter().map(|lead| lead["properties"]["external_id"].as_str().unwrap()).collect();
    assert_eq!(distinct.len(), leads.len());
}

#[tokio::test]
async fn of_doubles_there_a_person_picks_one_and_the_token_is_needed() {
    let outside = Outside::new().await;
    let id = outside.customers().await;
    let host = outside.standins.trim_start_matches("http://");
    for given in ["Pia", "P."] {
        let body =
            json!({"properties": {"family_name": "Lindqvist", "given_name": given, "email": "pia@harrow.example"}})
                .to_string();
        let request = format!(
            "POST /customers/api/contacts HTTP/1.1\r\nhost: {host}\r\nconnection: close\r\n\
             authorization: Bearer let-me-in\r\ncontent-length: {}\r\n\r\n{body}",
            body.len()
        );
        assert!(spoken(request, host).await.starts_with("HTTP/1.1 201"));
    }
    outside.working.fixture.file_lead("storage-a", "harrow").await;
    let log = outside.settled(&id).await;
    assert_eq!((&log[0]["state"], count(&outside.there().await, "leads")), (&json!("parked"), 0));
    assert_eq!(log[0]["choose"]["candidates"].as_array().unwrap().len(), 2);
    let at = format!("/api/destinations/{id}");
    let none = json!({"sending": log[0]["id"], "outside_id": "77"});
    assert_eq!(
        outside.working.fixture.post(&format!("{at}/choice"), &outside.working.admin, none).await.status,
        StatusCode::CONFLICT,
        "a record that was not offered"
    );
    let picked = log[0]["choose"]["candidates"][1]["id"].clone();
    outside.post(&format!("{at}/choice"), json!({"sending": log[0]["id"], "outside_id": picked})).await;
    let there = outside.until(|there| count(there, "leads") == 1).await;
    assert_eq!((&there["leads"][0]["links"]["contact"], count(&there, "contacts")), (&picked, 2));
    form_post(&format!("{}/customers/token", outside.standins), "token=another").await;
    let refused = outside.working.fixture.post(&format!("{at}/schema"), &outside.working.admin, json!({})).await;
    assert_eq!(refused.status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(refused.text.contains("does not know this token"), "{refused:?}");
}

#[tokio::test]
async fn an_erased_person_is_taken_out_there_and_out_of_the_sheet() {
    let outside = Outside::new().await;
    let id = outside.customers().await;
    let sheet = outside.destination("sheet", "/sheet").await;
    let rules = json!([{"object": "lead", "property": "Who", "from": {"fact": "name"}},
        {"object": "lead", "property": "Pallets", "from": {"field": "pallets"}},
        {"object": "lead", "property": "Budget", "from": {"field": "weekly_estimate"}}]);
    let body = json!({"revision": 1, "mapping": {"rules": rules}, "keep": true});
    outside.post(&format!("/api/destinations/{sheet}/mapping"), body).await;
    outside.working.fixture.file_lead("storage-a", "harrow").await;
    let there = outside.until(|there| count(there, "leads") == 1).await;
    let csv = format!("{}/sheet.csv", outside.standins);
    outside.settled(&sheet).await;
    assert!(get(&csv).await.contains("\"Pia Lindqvist\",\"340\""), "{}", get(&csv).await);
    let ours = there["leads"][0]["properties"]["external_id"].as_str().unwrap();
    let detail = outside.working.fixture.get(&format!("/api/leads/{ours}"), &outside.working.admin).await.json;
    let contact = detail["contact"].as_str().unwrap();
    let erase = json!({"leads": 1, "conversations": 1});
    let erased =
        outside.working.fixture.post(&format!("/api/contacts/{contact}/erasure"), &outside.working.admin, erase).await;
    assert!(erased.status.is_success(), "{erased:?}");
    let there = outside.until(|there| count(there, "leads") == 0 && count(there, "contacts") == 0).await;
    assert_eq!(count(&there, "companies"), 1, "a firm is no person");
    outside.settled(&sheet).await;
    assert!(!get(&csv).await.contains("Pia"));
    assert!(
        outside.settled(&id).await.iter().all(|row| row["body"].is_null() || !row["body"].to_string().contains("Pia"))
    );
}

#[tokio::test]
async fn earlier_leads_are_counted_before_they_are_sent_and_go_once() {
    let outside = Outside::new().await;
    for company in ["harrow", "kettle", "fennel"] {
        outside.working.fixture.file_lead("storage-a", company).await;
    }
    let id = outside.customers().await;
    let at = format!("/api/destinations/{id}/backfill");
    let counted = outside.post(&at, json!({"days": 7, "send": false})).await;
    assert_eq!(counted, json!({"created": 3, "changed": 0, "skipped": 0}));
    assert!(outside.log(&id).await.is_empty(), "counting sends nothing");
    outside.post(&at, json!({"days": 7, "send": true})).await;
    outside.until(|there| count(there, "leads") == 3).await;
    outside.settled(&id).await;
    let again = outside.post(&at, json!({"days": 7, "send": true})).await;
    assert_eq!(again, json!({"created": 0, "changed": 0, "skipped": 3}));
    let bad = outside.working.fixture.post(&at, &outside.working.admin, json!({"days": 0, "send": true})).await;
    assert_eq!(bad.status, StatusCode::UNPROCESSABLE_ENTITY);
}

#[tokio::test]
async fn what_is_not_mapped_yet_is_kept_aside_with_a_reason() {
    let outside = Outside::new().await;
    let id = outside.destination("customer_system", "/customers/api").await;
    outside.working.fixture.file_lead("storage-a", "harrow").await;
    let log = outside.settled(&id).await;
    assert_eq!(log[0]["state"], "parked");
    assert!(log[0]["attempts"][0]["answer"].as_str().unwrap().contains("nothing is mapped yet"), "{log:?}");
    let webhook = json!({"revision": 0, "name": "hook", "kind": "webhook", "address": "https://receiver.example/x",
        "events": ["lead.filed"], "token": "let-me-in"});
    let refused = outside.working.fixture.post("/api/destinations", &outside.working.admin, webhook).await;
    assert_eq!(refused.status, StatusCode::UNPROCESSABLE_ENTITY, "a webhook signs, it is given no token");
    let rotated = outside
        .working
        .fixture
        .post(&format!("/api/destinations/{id}/secret"), &outside.working.admin, json!({}))
        .await;
    assert_eq!(rotated.status, StatusCode::UNPROCESSABLE_ENTITY, "its token is not thrown away for a secret");
}

#[tokio::test]
async fn a_destination_stays_what_it_is_whatever_a_change_says() {
    let outside = Outside::new().await;
    let webhook = json!({"revision": 0, "name": "hook", "kind": "webhook", "address": "https://receiver.example/x",
        "events": ["lead.filed"]});
    let id = outside.post("/api/destinations", webhook).await["id"].clone();
    for (kind, address) in [("mail", "owner"), ("sheet", "https://receiver.example/x")] {
        let change = json!({"id": id, "revision": 1, "name": "hook", "kind": kind, "address": address,
            "events": ["lead.filed"], "token": "let-me-in"});
        let refused = outside.working.fixture.post("/api/destinations", &outside.working.admin, change).await;
        assert_eq!(refused.status, StatusCode::UNPROCESSABLE_ENTITY, "{kind}: {refused:?}");
    }
    let none = json!({"id": uuid::Uuid::from_u128(9), "revision": 1, "name": "hook", "kind": "webhook",
        "address": "https://receiver.example/x", "events": ["lead.filed"]});
    let missing = outside.working.fixture.post("/api/destinations", &outside.working.admin, none).await;
    assert_eq!(missing.status, StatusCode::NOT_FOUND);
}
