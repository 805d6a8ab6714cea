//! What a dialogue's conversations said: one table of them all, leads or not, each to be read with its reasons, and the
//! table as a file.

use std::collections::{BTreeMap, BTreeSet};

use aide::axum::ApiRouter;
use aide::axum::routing::get_with;
use axum::Json;
use axum::extract::State;
use axum::http::header;
use jiff::civil::Date;
use jiff::tz::TimeZone;
use lumbo_condition as condition;
use lumbo_deliver::sheet::{Cell, sheet};
use lumbo_deliver::table;
use lumbo_dialogue::file::{Dialogue, FieldType};
use lumbo_dialogue::talk::{Told, margin};
use lumbo_people::Audited;
use lumbo_records::{answers as said, fold};
use lumbo_store::{AnswersPlace, AnswersQuery, AnswersRow as Kept, Entry, HowEnded, Person, StoreError};
use lumbo_value::Value;
use schemars::JsonSchema;
use serde::Deserialize;
use uuid::Uuid;

use super::DialoguePath;
use crate::answer::{Csv, Sent, Spreadsheet};
use crate::api::named;
use crate::body::{Path, Query};
use crate::signed::Writer;
use crate::wire::answers::{AnswersColumn, AnswersPage, AnswersRow, ConversationView, How};
use crate::{App, Problem};

/// The name of this area in the document.
const TAG: &str = "Answers";

/// What conversations said.
pub(crate) fn api() -> ApiRouter<App> {
    ApiRouter::new()
        .api_route(
            "/api/dialogues/{dialogue}/answers",
            get_with(page, named(TAG, "answers", "What a dialogue’s conversations said, the newest first")),
        )
        .api_route(
            "/api/dialogues/{dialogue}/answers.csv",
            get_with(as_csv, named(TAG, "answersTable", "What a dialogue’s conversations said, as CSV")),
        )
        .api_route(
            "/api/dialogues/{dialogue}/answers.xlsx",
            get_with(as_sheet, named(TAG, "answersSheet", "What a dialogue’s conversations said, as a spreadsheet")),
        )
        .api_route(
            "/api/dialogues/{dialogue}/conversations/{conversation}",
            get_with(conversation, named(TAG, "conversation", "One conversation with its reasons")),
        )
}

/// Rows of a page.
const PAGE: usize = 100;
/// Conversations that are read at once.
const CHUNK: usize = 500;
/// Most conversations that one page looks through.
const LOOKED: usize = 5_000;
/// Most rows of a file.
const FILE: usize = 50_000;
/// Longest condition and longest words that are looked for, characters.
const TYPED: usize = 500;

/// Which conversations.
#[derive(Debug, Default, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Wanted {
    /// Only on this release, by its number.
    #[serde(default)]
    release: Option<i32>,
    /// Only those that ended so.
    #[serde(default)]
    how: Option<How>,
    /// Only those with this outcome, by its id.
    #[serde(default)]
    outcome: Option<String>,
    /// Only those that became leads, or that did not.
    #[serde(default)]
    lead: Option<bool>,
    /// What the workspace's own people tried, in place of what prospects said.
    #[serde(default)]
    tests: bool,
    /// Only those that stand at this turn.
    #[serde(default)]
    turn: Option<String>,
    /// Begun on this day or later, in the workspace's zone.
    #[serde(default)]
    #[schemars(with = "Option<String>")]
    from: Option<Date>,
    /// Begun on this day or before.
    #[serde(default)]
    #[schemars(with = "Option<String>")]
    until: Option<Date>,
    /// A condition that holds, typed as a sentence.
    #[serde(default)]
    holds: String,
    /// Words that some answer holds.
    #[serde(default)]
    search: String,
    /// The `next` of the page before.
    #[serde(default)]
    after: Option<String>,
}

/// What is looked for, made ready.
struct Ready {
    query: AnswersQuery,
    wanted: lumbo_records::Wanted,
    zone: TimeZone,
}

async fn ready(app: &App, person: &Person, draft: &Dialogue, wanted: &Wanted) -> Result<Ready, Problem> {
    if wanted.holds.chars().count() > TYPED || wanted.search.chars().count() > TYPED {
        return Err(Problem::bad(format!("Type at most {TYPED} characters.")));
    }
    let holds = match wanted.holds.trim() {
        "" => None,
        text => {
            let typed = condition::typed(text, &draft.named_fields(), &draft.language)
                .map_err(|error| Problem::bad(crate::problem::sentence(&error.says)))?;
            let ready = condition::ready(&typed, &draft.fields)
                .map_err(|says| Problem::bad(crate::problem::sentence(&says)))?;
            Some(ready)
        }
    };
    let zone = app.store.workspace_settings(person.workspace_id).await?.zone;
    let zone = TimeZone::get(&zone).unwrap_or(TimeZone::UTC);
    let begins = |day: Date| day.to_zoned(zone.clone()).map(|at| at.timestamp()).ok();
    let ended = match (&wanted.outcome, wanted.how) {
        (Some(outcome), _) => Some(HowEnded::With(outcome.clone())),
        (None, Some(How::Open)) => Some(HowEnded::Open),
        (None, Some(How::Left)) => Some(HowEnded::Left),
        (None, Some(How::Ended) | None) => None,
    };
    let query = AnswersQuery {
        release: wanted.release,
        ended,
        lead: wanted.lead,
        turn: wanted.turn.clone(),
        tests: wanted.tests,
        from: wanted.from.and_then(begins),
        until: wanted.until.and_then(|day| day.tomorrow().ok()).and_then(begins),
    };
    Ok(Ready { query, wanted: lumbo_records::Wanted { holds, words: fold(&wanted.search) }, zone })
}

/// A reading of conversations that go by a filter.
struct Read {
    rows: Vec<Kept>,
    /// Where the reading stands; absent at the end.
    next: Option<AnswersPlace>,
    /// How many were looked through.
    looked: usize,
}

/// Reads rows that go by the filter: as many as are wanted, out of as many as may be looked through.
async fn read(
    app: &App,
    person: &Person,
    dialogue: Uuid,
    ready: &Ready,
    after: AnswersPlace,
    (most, looks): (usize, usize),
) -> Result<Read, Problem> {
    let domains = app.store.domains(person.workspace_id).await?.lists;
    let mut read = Read { rows: Vec::new(), next: Some(after), looked: 0 };
    while let Some(place) = read.next.filter(|_| read.rows.len() < most && read.looked < looks) {
        let room = most - read.rows.len();
        // Where every one is shown, no more are read than there is room for, and one to see whether there are more.
        let chunk = if ready.wanted.is_all() { (room + 1).min(CHUNK) } else { CHUNK };
        let asked = i64::try_from(chunk).unwrap_or(i64::MAX);
        let found = app.store.answers(person.workspace_id, dialogue, &ready.query, place, asked).await?;
        let full = found.len() == chunk;
        let (wanted, domains) = (ready.wanted.clone(), domains.clone());
        let (rows, seen, last) = app
            .busy
            .work(move || {
                let (mut rows, mut seen, mut last) = (Vec::new(), 0, None);
                for row in found {
                    if rows.len() == room {
                        return (rows, seen, last);
                    }
                    seen += 1;
                    last = Some(row.place());
                    if wanted.is_all() || wanted.shows(&row.plan, &row.state, &domains, row.last_at) {
                        rows.push(row);
                    }
                }
                (rows, seen, if full { last } else { None })
            })
            .await?;
        read.looked += seen;
        read.rows.extend(rows);
        read.next = last;
    }
    Ok(read)
}

fn place(text: Option<&str>) -> Result<AnswersPlace, Problem> {
    let Some(text) = text else { return Ok(AnswersPlace::first()) };
    let parsed = text.split_once('.').and_then(|(at, id)| {
        let started_at = jiff::Timestamp::from_microsecond(at.parse().ok()?).ok()?;
        Some(AnswersPlace { started_at, id: id.parse().ok()? })
    });
    parsed.ok_or_else(|| StoreError::NotFound("page of answers").into())
}

fn place_text(place: AnswersPlace) -> String {
    format!("{}.{}", place.started_at.as_microsecond(), place.id.simple())
}

/// Fields of a dialogue as columns, then those that only earlier releases asked for and some row holds.
fn columns(draft: &Dialogue, rows: &[Kept]) -> Vec<AnswersColumn> {
    let mut columns: Vec<AnswersColumn> = draft.fields.iter().map(AnswersColumn::of).collect();
    let mut known: BTreeSet<String> = columns.iter().map(|column| column.id.clone()).collect();
    for row in rows {
        for field in &row.plan.file.fields {
            if row.state.values.contains_key(&field.id) && known.insert(field.id.clone()) {
                columns.push(AnswersColumn::of(field));
            }
        }
    }
    columns
}

pub(crate) async fn page(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<DialoguePath>,
    Query(wanted): Query<Wanted>,
) -> Result<Json<AnswersPage>, Problem> {
    let draft = app.store.draft(person.workspace_id, path.dialogue).await?.body;
    let ready = ready(&app, &person, &draft, &wanted).await?;
    let after = place(wanted.after.as_deref())?;
    let read = read(&app, &person, path.dialogue, &ready, after, (PAGE, LOOKED)).await?;
    let count = app.store.count_answers(person.workspace_id, path.dialogue, &ready.query).await?;
    Ok(Json(AnswersPage {
        columns: columns(&draft, &read.rows),
        rows: read.rows.iter().map(|row| AnswersRow::of(row, &draft)).collect(),
        next: read.next.map(place_text),
        looked: read.looked,
        all: count.all,
        ended: count.ended,
        left: count.left,
        leads: count.leads,
    }))
}

/// A conversation of a dialogue.
#[derive(Deserialize, JsonSchema)]
pub(crate) struct ConversationPath {
    /// The dialogue.
    dialogue: Uuid,
    /// The conversation.
    conversation: Uuid,
}

pub(crate) async fn conversation(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<ConversationPath>,
) -> Result<Json<ConversationView>, Problem> {
    let workspace = person.workspace_id;
    let draft = app.store.draft(workspace, path.dialogue).await?.body;
    let read = app.store.conversation(workspace, path.dialogue, path.conversation).await?;
    let queues: BTreeMap<String, String> = app.store.queues(workspace).await?.into_iter().collect();
    let entry = Entry {
        person: Some(person.id),
        what: Audited::ConversationSeen,
        about: &draft.title,
        subject: Some(path.conversation),
        network: None,
    };
    app.store.audit(workspace, &entry).await?;
    let lines = margin(&read.row.plan, &read.events, Told::TookPlace(&queues));
    Ok(Json(ConversationView::of(&read.row, &draft, lines)))
}

/// What a file holds: its head, and a line for each conversation.
struct File {
    title: String,
    head: Vec<String>,
    lines: Vec<Vec<Cell>>,
}

/// Columns of a file before the answers.
const HEAD: [&str; 11] = [
    "Began",
    "Last heard of",
    "Release",
    "Ended",
    "Lead",
    "Band",
    "Points",
    "Placement",
    "Page",
    "Campaign",
    "Conversation",
];

async fn file(app: &App, person: &Person, dialogue: Uuid, wanted: &Wanted) -> Result<File, Problem> {
    let draft = app.store.draft(person.workspace_id, dialogue).await?.body;
    let ready = ready(app, person, &draft, wanted).await?;
    let read = read(app, person, dialogue, &ready, AnswersPlace::first(), (FILE, usize::MAX)).await?;
    let columns = columns(&draft, &read.rows);
    let head = HEAD.iter().map(|head| (*head).to_owned()).chain(columns.iter().map(|column| column.label.clone()));
    let head = head.collect();
    let about = format!("answers of “{}”, {} conversations", draft.title, read.rows.len());
    let entry = Entry {
        person: Some(person.id),
        what: Audited::Exported,
        about: &about,
        subject: Some(dialogue),
        network: None,
    };
    app.store.audit(person.workspace_id, &entry).await?;
    let title = draft.title.clone();
    let lines =
        app.busy.work(move || read.rows.iter().map(|row| line(row, &draft, &columns, &ready.zone)).collect()).await?;
    Ok(File { title, head, lines })
}

/// A conversation as a line of a file.
fn line(row: &Kept, draft: &Dialogue, columns: &[AnswersColumn], zone: &TimeZone) -> Vec<Cell> {
    let text = |text: Option<&str>| text.map_or(Cell::Empty, |text| Cell::Text(text.to_owned()));
    let shown = AnswersRow::of(row, draft);
    let context = &row.state.context;
    let mut cells = vec![
        Cell::Moment(zone.to_datetime(row.started_at)),
        Cell::Moment(zone.to_datetime(row.last_at)),
        Cell::Number(row.release.into(), None),
        Cell::Text(shown.ended),
        text(row.lead.map(|lead| lead.to_string()).as_deref()),
        text(row.band.as_deref()),
        row.total.map_or(Cell::Empty, |total| Cell::Number(total.into(), None)),
        text(row.placement.as_deref()),
        text(context.page.as_deref()),
        text(context.campaign.as_deref()),
        Cell::Text(row.id.to_string()),
    ];
    let values: BTreeMap<&str, (String, &Value)> =
        said(&row.plan, &row.state).map(|(id, text, value)| (id, (text, value))).collect();
    cells.extend(columns.iter().map(|column| match values.get(column.id.as_str()) {
        None => Cell::Empty,
        // A span stays as it was said.
        Some((_, Value::Number(number))) if number.low.is_none() && number.high.is_none() => {
            Cell::Number(number.amount, number.unit.clone())
        }
        Some((_, Value::Money { amount, currency })) => Cell::Number(*amount, Some(currency.clone())),
        Some((_, Value::Date { date, .. })) if column.kind == FieldType::Date => Cell::Day(*date),
        Some((text, _)) => Cell::Text(text.clone()),
    }));
    cells
}

/// A cell as a text, for a table without types.
fn plain(cell: Cell) -> String {
    match cell {
        Cell::Empty => String::new(),
        Cell::Text(text) => text,
        Cell::Number(amount, _) => amount.to_string(),
        Cell::Day(date) => date.to_string(),
        Cell::Moment(at) => at.strftime("%Y-%m-%d %H:%M").to_string(),
    }
}

pub(crate) async fn as_csv(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<DialoguePath>,
    Query(wanted): Query<Wanted>,
) -> Result<Sent<Csv>, Problem> {
    let file = file(&app, &person, path.dialogue, &wanted).await?;
    let head: Vec<&str> = file.head.iter().map(String::as_str).collect();
    let text = table::csv(&head, file.lines.into_iter().map(|line| line.into_iter().map(plain).collect::<Vec<_>>()));
    Ok(Sent::new((
        [
            (header::CONTENT_TYPE, "text/csv; charset=utf-8"),
            (header::CONTENT_DISPOSITION, "attachment; filename=\"answers.csv\""),
        ],
        text,
    )))
}

pub(crate) async fn as_sheet(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<DialoguePath>,
    Query(wanted): Query<Wanted>,
) -> Result<Sent<Spreadsheet>, Problem> {
    let file = file(&app, &person, path.dialogue, &wanted).await?;
    let bytes = app
        .busy
        .work(move || sheet(&file.title, &file.head, file.lines))
        .await?
        .map_err(|says| Problem::bad(crate::problem::sentence(&says)))?;
    Ok(Sent::new((
        [
            (header::CONTENT_TYPE, "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"),
            (header::CONTENT_DISPOSITION, "attachment; filename=\"answers.xlsx\""),
        ],
        bytes,
    )))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_place_is_what_its_text_says() {
        let at = AnswersPlace { started_at: "2026-11-23T10:00:00.000123Z".parse().unwrap(), id: Uuid::now_v7() };
        assert_eq!(place(Some(&place_text(at))).ok(), Some(at));
        assert_eq!(place(None).ok(), Some(AnswersPlace::first()));
        for text in ["", ".", "1", "x.y", "99999999999999999999.1"] {
            assert!(place(Some(text)).is_err(), "{text}");
        }
    }

    #[test]
    fn a_cell_without_types_is_its_text() {
        assert_eq!(plain(Cell::Number("12.50".parse().unwrap(), Some("GBP".into()))), "12.50");
        assert_eq!(plain(Cell::Moment("2026-11-23T09:05:59".parse().unwrap())), "2026-11-23 09:05");
        assert_eq!(
            (plain(Cell::Day("2027-02-01".parse().unwrap())), plain(Cell::Empty)),
            ("2027-02-01".into(), String::new())
        );
    }
}
