//! What a dialogue's conversations said, over HTTP: filters, pages, files, and reading one.
#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use crate::common::Fixture;
use axum::http::StatusCode;

#[tokio::test]
async fn conversations_are_filtered_by_a_typed_condition_and_by_words() {
    let fixture = Fixture::new().await;
    fixture.file_lead("storage-a", "harrow").await;
    fixture.file_lead("storage-a", "quarry").await;
    fixture.begin("storage-a").await;
    let author = fixture.sign_in("author@a.example").await;
    let path = format!("/api/dialogues/{}/answers", fixture.dialogues[0]);
    let all = fixture.get(&path, &author).await.json;
    assert_eq!((all["rows"].as_array().unwrap().len(), &all["all"], &all["leads"]), (3, &3.into(), &2.into()));
    assert_eq!((&all["next"], &all["looked"]), (&serde_json::Value::Null, &3.into()));
    assert!(all["columns"].as_array().unwrap().iter().any(|column| column["key"] == "pallets"));
    let rows = async |query: &str| {
        let answer = fixture.get(&format!("{path}?{query}"), &author).await;
        assert_eq!(answer.status, StatusCode::OK, "{query}: {answer:?}");
        answer.json["rows"].as_array().unwrap().len()
    };
    assert_eq!(rows("holds=Pallets%20at%20least%20340").await, 2);
    assert_eq!(rows("holds=Pallets%20at%20least%20341").await, 0);
    assert_eq!(rows("holds=Pallets%20is%20missing").await, 1);
    assert_eq!(rows("search=QUARRY").await, 1);
    assert_eq!(rows("lead=false").await, 1);
    assert_eq!(rows("how=open").await, 1);
    assert_eq!(rows("release=2").await, 0);
    assert_eq!(rows("from=2020-01-01&until=2020-12-31").await, 0);
    for bad in ["holds=Pallets%20at%20least%20many", "after=x", "from=soon", "how=never", "release=one", "other=1"] {
        let answer = fixture.get(&format!("{path}?{bad}"), &author).await;
        assert!(answer.status.is_client_error(), "{bad}: {answer:?}");
        assert!(answer.json["detail"].as_str().is_some_and(|says| says.ends_with('.')), "{bad}: {answer:?}");
    }
    let long = format!("{path}?search={}", "a".repeat(501));
    assert_eq!(fixture.get(&long, &author).await.status, StatusCode::UNPROCESSABLE_ENTITY);
}

#[tokio::test]
async fn a_conversation_is_read_with_its_reasons_and_the_table_is_taken_out_as_a_file() {
    let fixture = Fixture::new().await;
    fixture.file_lead("storage-a", "harrow").await;
    let author = fixture.sign_in("author@a.example").await;
    let path = format!("/api/dialogues/{}", fixture.dialogues[0]);
    let row = fixture.get(&format!("{path}/answers"), &author).await.json["rows"][0].clone();
    assert!(row["lead"].is_string() && row["total"].is_number(), "{row}");
    let id = row["id"].as_str().unwrap();
    let read = fixture.get(&format!("{path}/conversations/{id}"), &author).await.json;
    let notes: Vec<&str> = read["lines"]
        .as_array()
        .unwrap()
        .iter()
        .flat_map(|line| line["notes"].as_array().unwrap())
        .filter_map(|note| note["text"].as_str())
        .collect();
    assert!(notes.iter().any(|note| note.starts_with("Pallets 340; +")), "{notes:?}");
    assert!(notes.iter().any(|note| note.starts_with("Filed a lead: ")), "{notes:?}");
    let csv = fixture.get(&format!("{path}/answers.csv"), &author).await.text;
    let lines: Vec<&str> = csv.trim_end().split("\r\n").collect();
    assert_eq!(lines.len(), 2, "{csv}");
    assert!(
        lines[0].starts_with("Began,Last heard of,Release,Ended,") && lines[1].contains("pia@harrow.example"),
        "{csv}"
    );
    let sheet = fixture.get(&format!("{path}/answers.xlsx"), &author).await;
    assert_eq!(sheet.status, StatusCode::OK);
    // Both stand in the audit, and so does the reading.
    let admin = fixture.sign_in("admin@a.example").await;
    let audit = fixture.get("/api/audit", &admin).await.json["entries"].clone();
    let done: Vec<&str> = audit.as_array().unwrap().iter().filter_map(|entry| entry["what"].as_str()).collect();
    assert_eq!(done.iter().filter(|what| **what == "exported").count(), 2, "{done:?}");
    assert!(done.contains(&"conversation_seen"), "{done:?}");
}
