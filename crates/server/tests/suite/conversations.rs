//! Prospects' conversations through HTTP and PostgreSQL: nothing twice, nothing lost, records whole.
#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use crate::common::Fixture;
use axum::http::{Method, StatusCode};
use lumbo_server::Config;
use serde_json::{Value, json};
use sqlx::{Connection, PgConnection, Row};

async fn count(db: &mut PgConnection, table: &str) -> i64 {
    sqlx::query(sqlx::AssertSqlSafe(format!("select count(*) from {table}"))).fetch_one(db).await.unwrap().get(0)
}

#[tokio::test]
async fn a_conversation_files_contact_company_and_lead_with_typed_fields() {
    let fixture = Fixture::new().await;
    fixture.file_lead("storage-a", "harrow").await;
    let rep = fixture.sign_in("rep@a.example").await;
    let rows = fixture.get("/api/leads?show=mine", &rep).await.json;
    let id = rows["leads"][0]["id"].as_str().unwrap();
    let lead = fixture.get(&format!("/api/leads/{id}"), &rep).await.json;
    assert_eq!((lead["row"]["total"].as_i64(), lead["row"]["band"].as_str()), (Some(65), Some("Warm")));
    let field = |key: &str| {
        lead["fields"].as_array().unwrap().iter().find(|field| field["key"] == key).map(|field| field["value"].clone())
    };
    assert_eq!(field("pallets"), Some(json!("340")));
    assert_eq!(field("blast_freezing"), Some(json!(false)));
    assert_eq!(field("name"), Some(json!({"given": "Pia", "family": "Lindqvist", "full": "Pia Lindqvist"})));
    assert_eq!(field("phone"), Some(json!("+442079460014")));
    assert_eq!(field("weekly_estimate"), Some(json!({"amount": "1394.00", "currency": "GBP"})));
    // Never asked on this way: absent, not empty and not zero.
    assert_eq!(field("start"), None);
    assert_eq!(lead["score"]["unknown"], json!(["c_soon", "c_half"]));
    let said: Vec<&str> = lead["transcript"]
        .as_array()
        .unwrap()
        .iter()
        .filter(|line| line["who"] == "you")
        .map(|line| line["text"].as_str().unwrap())
        .collect();
    assert_eq!(said[..4], ["storage", "frozen", "no", "340"]);
    assert!(
        lead["decision"]
            .as_array()
            .unwrap()
            .iter()
            .any(|step| step.as_str().unwrap().contains("first in the rotation"))
    );
    let mut db = PgConnection::connect(&fixture.url).await.unwrap();
    for table in ["leads", "contacts", "companies"] {
        assert_eq!(count(&mut db, table).await, 1, "{table}");
    }
}

#[tokio::test]
async fn a_resent_or_doubled_answer_counts_once() {
    let fixture = Fixture::new().await;
    let token = fixture.begin("storage-a").await;
    let first = fixture.say(&token, 1, "storage").await;
    let again = fixture.say(&token, 1, "storage").await;
    assert_eq!((first.status, &first.json), (again.status, &again.json), "the first result is given again");
    fixture.say(&token, 2, "frozen").await;
    let late = fixture.say(&token, 1, "storage").await;
    assert_eq!(late.json, first.json, "even after the conversation has gone on");
    let mut db = PgConnection::connect(&fixture.url).await.unwrap();
    let before = count(&mut db, "conversation_events").await;
    // Two clicks with ids of their own, sent at once: one is taken, the other is told that the conversation has gone
    // on.
    let input = |id: &str| json!({"id": id, "expects": 3, "body": {"kind": "pick", "option": "no"}});
    let (one, two) = tokio::join!(
        fixture.prospect(Method::POST, "/api/conversation/inputs", Some(&token), Some(input("x"))),
        fixture.prospect(Method::POST, "/api/conversation/inputs", Some(&token), Some(input("y")))
    );
    let mut statuses = [one.status, two.status];
    statuses.sort();
    assert_eq!(statuses, [StatusCode::OK, StatusCode::CONFLICT]);
    let after = count(&mut db, "conversation_events").await;
    assert_eq!(after - before, 4, "taken, replied, kept, asked");
}

#[tokio::test]
async fn the_kept_state_is_the_fold_of_the_kept_events() {
    let fixture = Fixture::new().await;
    fixture.file_lead("storage-a", "harrow").await;
    let mut db = PgConnection::connect(&fixture.url).await.unwrap();
    let rows = sqlx::query("select body from conversation_events order by number").fetch_all(&mut db).await.unwrap();
    let events: Vec<lumbo_dialogue::talk::Event> =
        rows.iter().map(|row| serde_json::from_value(row.get::<Value, _>(0)).unwrap()).collect();
    let state: Value = sqlx::query("select state from conversations").fetch_one(&mut db).await.unwrap().get(0);
    assert_eq!(lumbo_dialogue::talk::State::of(&events), serde_json::from_value(state).unwrap());
}

#[tokio::test]
async fn events_are_only_added() {
    let fixture = Fixture::new().await;
    fixture.begin("storage-a").await;
    let mut db = PgConnection::connect(&fixture.url).await.unwrap();
    for change in ["update conversation_events set body = '{}'", "delete from conversation_events"] {
        let error = sqlx::query(change).execute(&mut db).await.unwrap_err();
        assert!(error.to_string().contains("conversation events are only added"), "{change}");
    }
}

#[tokio::test]
async fn a_reload_shows_the_whole_conversation_and_a_release_leaves_running_ones_alone() {
    let fixture = Fixture::new().await;
    let token = fixture.begin("storage-a").await;
    fixture.say(&token, 1, "storage").await;
    let author = fixture.sign_in("author@a.example").await;
    let draft = format!("/api/dialogues/{}", fixture.dialogues[0]);
    let edit = json!({"base": 1, "edits": [{"op": "change_turn", "turn": {"kind": "ask", "id": "t_temperature",
        "say": {"text": {"en": "Cold, how cold?"}}, "field": "temperature"}}]});
    assert_eq!(fixture.post(&format!("{draft}/draft"), &author, edit).await.status, StatusCode::OK);
    assert_eq!(
        fixture
            .post(
                &format!("{draft}/releases"),
                &author,
                json!({"revision": 2,
            "note": "shorter"})
            )
            .await
            .json["number"],
        2
    );
    let seen = fixture.prospect(Method::GET, "/api/conversation", Some(&token), None).await;
    assert!(seen.text.contains("How cold does it have to be?") && !seen.text.contains("Cold, how cold?"));
    assert_eq!(seen.json["question"]["done"], 1);
    let new = fixture.begin("storage-a").await;
    assert!(fixture.say(&new, 1, "storage").await.text.contains("Cold, how cold?"));
}

/// Bad input in every prospect field: kept as typed or refused with a clear message, and never a failure of ours.
#[tokio::test]
async fn no_input_breaks_a_conversation() {
    let fixture = Fixture::new().await;
    let nasty = [
        String::new(),
        " ".into(),
        "\0\u{1}\u{7f}".into(),
        "\u{202e}txet tfel ot thgir".into(),
        "😀👩‍👩‍👧🏴‍☠️".into(),
        "<script>alert(1)</script>".into(),
        "'; drop table leads; --".into(),
        "=HYPERLINK(\"http://x.example\")".into(),
        "{name|x} {{ {".into(),
        "x".repeat(5_000),
        "\u{feff}\u{200b}".into(),
        "ﷺ".repeat(500),
    ];
    for text in &nasty {
        let token = fixture.begin("storage-a").await;
        let mut sequence = 1;
        for good in ["storage", "frozen", "no", "340", "owner", "Pia Lindqvist", "Harrow", "pia@harrow.example"] {
            let answer = fixture.say(&token, sequence, text).await;
            assert_eq!(answer.status, StatusCode::OK, "{text:?} before {good}: {answer:?}");
            sequence += 1;
            if answer.json["question"].is_null() {
                break;
            }
            let answer = fixture.say(&token, sequence, good).await;
            assert!(matches!(answer.status, StatusCode::OK | StatusCode::CONFLICT), "{answer:?}");
            sequence += 1;
            if answer.json["ended"] == true || answer.status == StatusCode::CONFLICT {
                break;
            }
        }
    }
    let token = fixture.begin("storage-a").await;
    let huge = fixture.say(&token, 1, &"x".repeat(1_000_000)).await;
    assert_eq!(
        (huge.status, huge.json["type"].as_str()),
        (StatusCode::PAYLOAD_TOO_LARGE, Some("urn:lumbo:problem:too-long"))
    );
    for body in
        ["", "{", "[]", "{\"id\": 1}", "{\"id\":\"a\",\"expects\":-1,\"body\":{\"kind\":\"reply\",\"text\":\"x\"}}"]
    {
        let mut request = Fixture::request(&Method::POST, "/api/conversation/inputs", None, None);
        request.headers_mut().insert("authorization", format!("Bearer {token}").parse().unwrap());
        *request.body_mut() = body.to_owned().into();
        let answer = fixture.send(request).await;
        assert_eq!(answer.status, StatusCode::UNPROCESSABLE_ENTITY, "{body}: {answer:?}");
    }
}

#[tokio::test]
async fn rotation_takes_turns_even_when_leads_come_at_once() {
    let fixture = Fixture::new().await;
    let mut db = PgConnection::connect(&fixture.url).await.unwrap();
    sqlx::query(
        "insert into queue_members (workspace_id, queue_id, person_id, position) select q.workspace_id, q.id, p.id, 1
         from queues q join people p on p.workspace_id = q.workspace_id
         join workspaces w on w.id = q.workspace_id where q.key = 'aldermoor' and p.email = 'rep2@a.example'
           and w.slug = 'a'",
    )
    .execute(&mut db)
    .await
    .unwrap();
    let companies: Vec<String> = (0..6).map(|n| format!("firm{n}")).collect();
    futures(companies.iter().map(|company| fixture.file_lead("storage-a", company))).await;
    let owners =
        sqlx::query("select p.email, count(*) from leads l join people p on p.id = l.owner_id group by 1 order by 1")
            .fetch_all(&mut db)
            .await
            .unwrap();
    let shares: Vec<(String, i64)> = owners.iter().map(|row| (row.get(0), row.get(1))).collect();
    assert_eq!(shares, [("rep2@a.example".to_owned(), 3), ("rep@a.example".to_owned(), 3)]);
}

/// Runs futures at once.
async fn futures<T>(all: impl Iterator<Item = impl Future<Output = T>>) {
    let mut pinned: Vec<_> = all.map(Box::pin).collect();
    std::future::poll_fn(|context| {
        pinned.retain_mut(|one| one.as_mut().poll(context).is_pending());
        if pinned.is_empty() { std::task::Poll::Ready(()) } else { std::task::Poll::Pending }
    })
    .await;
}

#[tokio::test]
async fn a_queue_with_a_fixed_owner_always_goes_to_them_and_waits_when_they_have_left() {
    let fixture = Fixture::new().await;
    let mut db = PgConnection::connect(&fixture.url).await.unwrap();
    sqlx::query(
        "update queues q set picks = 'fixed_owner', fixed_owner = p.id from people p where p.workspace_id =
        q.workspace_id and p.email = 'rep2@a.example' and q.key = 'aldermoor'",
    )
    .execute(&mut db)
    .await
    .unwrap();
    fixture.file_lead("storage-a", "one").await;
    fixture.file_lead("storage-a", "two").await;
    let rep = fixture.sign_in("rep2@a.example").await;
    assert_eq!(fixture.get("/api/leads?show=mine", &rep).await.json["leads"].as_array().unwrap().len(), 2);
    sqlx::query("update people set active = false where email = 'rep2@a.example'").execute(&mut db).await.unwrap();
    fixture.file_lead("storage-a", "three").await;
    let lead = fixture.sign_in("lead@a.example").await;
    let rows = fixture.get("/api/leads?show=all", &lead).await.json;
    let owners: Vec<Option<&str>> = rows["leads"].as_array().unwrap().iter().map(|row| row["owner"].as_str()).collect();
    assert_eq!(owners, [Some("rep2@a.example"), Some("rep2@a.example"), None]);
    assert_eq!(
        fixture.get("/api/me", &rep).await.status,
        StatusCode::UNAUTHORIZED,
        "who has left is signed out at once"
    );
}

#[tokio::test]
async fn a_network_that_files_too_many_leads_of_a_dialogue_is_held_back_from_then_on() {
    let config = Config {
        filings_per_hour: 2,
        starts_per_hour: 1_000,
        prospect_requests_per_minute: 100_000,
        sign_ins_per_minute: 100,
        ..Config::default()
    };
    let fixture = Fixture::with(&config).await;
    let lead = fixture.sign_in("lead@a.example").await;
    let filed = async || fixture.get("/api/leads?show=all", &lead).await.json["leads"].as_array().unwrap().len();
    for company in ["harrow", "kettle", "larch"] {
        fixture.file_lead("storage-a", company).await;
    }
    assert_eq!(filed().await, 3);
    fixture.file_lead("storage-a", "maple").await;
    assert_eq!(filed().await, 3, "it waits for somebody to look at it");
    let held = fixture.get("/api/held-back", &lead).await.json;
    assert_eq!((held.as_array().unwrap().len(), &held[0]["doubt"]), (1, &json!("flood")), "{held}");
    // The other dialogue has had none.
    fixture.file_lead("storage-b", "maple").await;
    let other = fixture.sign_in("lead@b.example").await;
    assert_eq!(fixture.get("/api/held-back", &other).await.json, json!([]));
}
