//! The page of the customer system: its records, what came in, and the faults.

use serde_json::Value as Json;

use super::records::{Record, Records};
use crate::page::{escaped, fault_form, frame};

/// Most rows of a table.
const ROWS: usize = 30;

pub(super) fn page(there: &Records) -> String {
    let lead = "A simulated customer system. Lumbo writes companies, contacts and leads to \
        /customers/api on this address, with the token below.";
    let forms = format!(
        "<form method=post action=/customers/token><label>Token it takes<input name=token size=32 autocomplete=off \
         value=\"{}\"></label><button>Keep</button></form>{}\
         <form method=post action=/customers/clear><button>Forget everything</button></form>",
        escaped(&there.token),
        fault_form("/customers/faults", &there.faults, true),
    );
    let tables: String = [("leads", "Leads"), ("contacts", "Contacts"), ("companies", "Companies")]
        .into_iter()
        .map(|(objects, title)| table(objects, title, there.of(objects)))
        .collect();
    let log: String = there
        .log
        .iter()
        .take(ROWS)
        .map(|line| {
            let look = if line.answered < 300 { "good" } else { "bad" };
            format!(
                "<tr><td>{}<td>{}<td class={look}>{}",
                line.at.strftime("%T UTC"),
                escaped(&line.call),
                line.answered
            )
        })
        .collect();
    let log = if log.is_empty() { "<p>Nobody called yet.</p>".to_owned() } else { format!("<table>{log}</table>") };
    frame("Customer system", lead, &format!("{forms}{tables}<h2>Calls</h2>{log}"))
}

fn table(objects: &str, title: &str, records: &[Record]) -> String {
    if records.is_empty() {
        return format!("<h2>{title}</h2><p>None yet.</p>");
    }
    let rows: String = records
        .iter()
        .rev()
        .take(ROWS)
        .map(|record| {
            let cells: String = record
                .properties
                .iter()
                .chain(&record.links)
                .map(|(name, value)| format!("<dt>{}<dd>{}", escaped(name), escaped(&shown(value))))
                .collect();
            format!("<article id={objects}-{id}><b>{id}</b><dl>{cells}</dl></article>", id = escaped(&record.id))
        })
        .collect();
    format!("<h2>{title} <small>{}</small></h2>{rows}", records.len())
}

fn shown(value: &Json) -> String {
    match value {
        Json::String(text) => text.clone(),
        Json::Array(items) => items.iter().map(shown).collect::<Vec<_>>().join(", "),
        other => other.to_string(),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_was_written_is_shown_as_text_and_never_as_markup() {
        let mut there = Records::read(None, "http://there.example");
        let body = r#"{"properties": {"family_name": "<img src=x onerror=alert(1)>"}}"#;
        assert!(there.make("contacts", "", body).is_ok());
        let page = page(&there);
        assert!(page.contains("&lt;img") && !page.contains("<img"), "{page}");
    }
}
