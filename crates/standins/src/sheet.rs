//! A simulated sheet: a row for each lead under named columns, by a key of its own, and a page that shows it.

use std::collections::BTreeMap;
use std::path::PathBuf;
use std::sync::{Arc, Mutex, PoisonError};

use axum::extract::{Form, Path, State};
use axum::http::{HeaderMap, StatusCode, header};
use axum::response::{Html, IntoResponse, Redirect, Response};
use axum::routing::{get, post, put};
use axum::{Json, Router};
use serde::{Deserialize, Serialize};
use serde_json::{Map, Value, json};

use crate::faults::Faults;
use crate::page::{escaped, fault_form, frame};

/// Most rows that are kept.
const MOST: usize = 20_000;

/// What is sent for a row.
#[derive(Debug, Clone, Serialize, Deserialize)]
struct Sent {
    columns: Vec<String>,
    #[serde(default)]
    values: Map<String, Value>,
}

#[derive(Debug, Default, Serialize, Deserialize)]
struct Kept {
    columns: Vec<String>,
    rows: Vec<(String, BTreeMap<String, Value>)>,
}

#[derive(Default)]
struct Inner {
    kept: Kept,
    file: Option<PathBuf>,
    faults: Faults,
}

impl Inner {
    fn keep(&self) {
        if let (Some(file), Ok(text)) = (&self.file, serde_json::to_string(&self.kept))
            && let Err(error) = std::fs::write(file, text)
        {
            eprintln!("the sheet could not be kept: {error}");
        }
    }

    /// Puts a row in its place: a new one at the end, columns that are new at the right.
    fn put(&mut self, key: &str, sent: Sent) {
        for column in sent.columns {
            if !self.kept.columns.contains(&column) {
                self.kept.columns.push(column);
            }
        }
        let values = sent.values.into_iter().collect();
        let full = self.kept.rows.len() >= MOST;
        match self.kept.rows.iter_mut().find(|(row, _)| row == key) {
            Some((_, row)) => *row = values,
            None if !full => self.kept.rows.push((key.to_owned(), values)),
            None => {}
        }
        self.keep();
    }

    fn csv(&self) -> String {
        let cell = |text: &str| format!("\"{}\"", text.replace('"', "\"\""));
        let line = |cells: Vec<String>| format!("{}\r\n", cells.join(","));
        let head = line(self.kept.columns.iter().map(|column| cell(column)).collect());
        let row = |values: &BTreeMap<String, Value>| {
            line(self.kept.columns.iter().map(|column| cell(&shown(values.get(column)))).collect())
        };
        head + &self.kept.rows.iter().map(|(_, values)| row(values)).collect::<String>()
    }

    fn page(&self) -> String {
        let lead = "A simulated sheet. Lumbo puts a row for each lead to /sheet on this address.";
        let head: String = self.kept.columns.iter().map(|column| format!("<th>{}", escaped(column))).collect();
        let rows: String = self
            .kept
            .rows
            .iter()
            .rev()
            .take(200)
            .map(|(_, values)| {
                let cells =
                    self.kept.columns.iter().map(|column| format!("<td>{}", escaped(&shown(values.get(column)))));
                format!("<tr>{}", cells.collect::<String>())
            })
            .collect();
        let table = if self.kept.rows.is_empty() {
            "<p>No row yet.</p>".to_owned()
        } else {
            format!("<p><a href=/sheet.csv>As CSV</a></p><div class=wide><table><tr>{head}{rows}</table></div>")
        };
        let forms = fault_form("/sheet/faults", &self.faults, true);
        let clear = "<form method=post action=/sheet/clear><button>Forget everything</button></form>";
        frame("Sheet", lead, &format!("{forms}{clear}{table}"))
    }
}

fn shown(value: Option<&Value>) -> String {
    match value {
        None => String::new(),
        Some(Value::String(text)) => text.clone(),
        Some(other) => other.to_string(),
    }
}

#[derive(Clone)]
struct Sheet(Arc<Mutex<Inner>>);

impl Sheet {
    fn with<T>(&self, with: impl FnOnce(&mut Inner) -> T) -> T {
        with(&mut self.0.lock().unwrap_or_else(PoisonError::into_inner))
    }
}

/// The sheet, kept in a file where one is named.
pub(crate) fn router(file: Option<PathBuf>) -> Router {
    let text = file.as_ref().and_then(|file| std::fs::read_to_string(file).ok()).unwrap_or_default();
    let kept = serde_json::from_str(&text).unwrap_or_default();
    let sheet = Sheet(Arc::new(Mutex::new(Inner { kept, file, ..Inner::default() })));
    Router::new()
        .route("/sheet", get(|State(sheet): State<Sheet>| async move { Html(sheet.with(|inner| inner.page())) }))
        .route("/sheet/rows/{key}", put(row).delete(remove))
        .route("/sheet/faults", post(set_faults))
        .route("/sheet/clear", post(clear))
        .route("/sheet.csv", get(csv))
        .with_state(sheet)
}

async fn answer(sheet: &Sheet, does: impl FnOnce(&mut Inner)) -> Response {
    let fault = sheet.with(|inner| inner.faults.next());
    tokio::time::sleep(std::time::Duration::from_millis(fault.slow_ms)).await;
    if fault.code.is_none() || fault.after {
        sheet.with(does);
    }
    match fault.code {
        None => (StatusCode::OK, Json(json!({ "ok": true }))).into_response(),
        Some(code) => StatusCode::from_u16(code).unwrap_or(StatusCode::INTERNAL_SERVER_ERROR).into_response(),
    }
}

async fn row(State(sheet): State<Sheet>, Path(key): Path<String>, _: HeaderMap, Json(sent): Json<Sent>) -> Response {
    answer(&sheet, |inner| inner.put(&key, sent)).await
}

async fn remove(State(sheet): State<Sheet>, Path(key): Path<String>) -> Response {
    answer(&sheet, |inner| {
        inner.kept.rows.retain(|(row, _)| *row != key);
        inner.keep();
    })
    .await
}

async fn csv(State(sheet): State<Sheet>) -> Response {
    ([(header::CONTENT_TYPE, "text/csv; charset=utf-8")], sheet.with(|inner| inner.csv())).into_response()
}

async fn set_faults(State(sheet): State<Sheet>, Form(faults): Form<Faults>) -> Redirect {
    sheet.with(|inner| inner.faults = faults);
    Redirect::to("/sheet")
}

async fn clear(State(sheet): State<Sheet>) -> Redirect {
    sheet.with(|inner| {
        inner.kept = Kept::default();
        inner.keep();
    });
    Redirect::to("/sheet")
}

#[cfg(test)]
#[allow(clippy::unwrap_used, reason = "tests")]
mod tests {
    use super::*;

    #[test]
    fn an_update_changes_its_row_and_a_new_column_comes_at_the_right() {
        let mut inner = Inner::default();
        let sent = |json: Value| serde_json::from_value::<Sent>(json).unwrap();
        inner.put("a", sent(json!({"columns": ["Who", "Points"], "values": {"Who": "An\"a", "Points": 82}})));
        inner.put("b", sent(json!({"columns": ["Who"], "values": {"Who": "<b>Bo</b>"}})));
        inner.put("a", sent(json!({"columns": ["Who", "Status"], "values": {"Who": "Ana", "Status": "won"}})));
        assert_eq!(inner.csv(), "\"Who\",\"Points\",\"Status\"\r\n\"Ana\",\"\",\"won\"\r\n\"<b>Bo</b>\",\"\",\"\"\r\n");
        assert!(!inner.page().contains("<b>Bo"));
    }
}
