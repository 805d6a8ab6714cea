//! Companies and contacts from files, and undoing a file.

use std::collections::BTreeMap;

use aide::axum::ApiRouter;
use aide::axum::routing::{get_with, post_with};
use axum::Json;
use axum::extract::State;
use jiff::Timestamp;
use lumbo_numbers::sheet;
use lumbo_records::FileHolds;
use lumbo_store::{Becomes, FileRow, FileUndone, NewRecordFile, ROWS_AT_ONCE, RecordFileRow, TakenRow};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

use super::entering::{BadLeadRow, ROWS, said};
use crate::api::named;
use crate::body::{Body, Path};
use crate::problem::sentence;
use crate::signed::TeamLead;
use crate::{App, Problem};

/// The name of this area in the document.
const TAG: &str = "Records";
/// Longest cell, characters.
const CELL: usize = 1_000;

/// Files of companies and contacts.
pub(crate) fn api() -> ApiRouter<App> {
    ApiRouter::new()
        .api_route(
            "/api/record-files",
            get_with(list, named(TAG, "recordFiles", "Files of companies and contacts that were taken in"))
                .post_with(begin, named(TAG, "beginRecordFile", "Begin taking in a file of companies or contacts")),
        )
        .api_route(
            "/api/record-files/look",
            post_with(look, named(TAG, "lookAtRecordFile", "Look at a file of companies or contacts")),
        )
        .api_route(
            "/api/record-files/preview",
            post_with(preview, named(TAG, "previewRecordFile", "What rows of a file would become")),
        )
        .api_route(
            "/api/record-files/{file}/rows",
            post_with(rows, named(TAG, "takeRecordRows", "Take rows of a file in")),
        )
        .api_route(
            "/api/record-files/{file}/undo",
            post_with(undo, named(TAG, "undoRecordFile", "Undo a file of companies or contacts")),
        )
}

/// A file.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct RecordFile {
    /// What it holds.
    holds: FileHolds,
    /// The file, as CSV; 3 MB and 5,000 rows at most.
    csv: String,
}

/// What a column can hold.
#[derive(Serialize, JsonSchema)]
pub(crate) struct FileColumn {
    /// Its key.
    key: String,
    /// Its name for people.
    label: String,
}

/// A file, cut into cells.
#[derive(Serialize, JsonSchema)]
pub(crate) struct RecordFileView {
    /// What columns can hold; the first is what a record is known by.
    fields: Vec<FileColumn>,
    /// Its columns, with the keys of what they seem to hold.
    columns: Vec<sheet::Column>,
    /// Its rows, each with its line in the file.
    rows: Vec<sheet::Cells>,
}

pub(crate) async fn look(
    State(app): State<App>,
    TeamLead(_): TeamLead,
    Body(body): Body<RecordFile>,
) -> Result<Json<RecordFileView>, Problem> {
    let fields = body.holds.columns();
    let known = fields.iter().map(|field| FileColumn { key: field.key.clone(), label: field.label.clone() }).collect();
    let work = move || {
        let mut columns = sheet::glance(&body.csv, &fields)?.columns;
        for column in &mut columns {
            column.field = column.field.take().or_else(|| body.holds.guess(&column.name).map(str::to_owned));
        }
        Ok::<_, sheet::SheetError>((columns, sheet::cells(&body.csv, ROWS)?))
    };
    let (columns, rows) = app.busy.work(work).await?.map_err(|error| Problem::bad(sentence(&error.to_string())))?;
    Ok(Json(RecordFileView { fields: known, columns, rows }))
}

/// A row of a file.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct FileRowBody {
    /// Its line in the file.
    line: i32,
    /// What stands in it, by the keys of what its columns hold.
    answers: BTreeMap<String, String>,
}

fn rows_of(bodies: Vec<FileRowBody>) -> Result<Vec<FileRow>, Problem> {
    if bodies.len() > ROWS_AT_ONCE {
        return Err(Problem::bad("At most 100 rows go at once."));
    }
    let too_long =
        |row: &FileRowBody| row.answers.len() > 20 || row.answers.values().any(|text| text.chars().count() > CELL);
    if bodies.iter().any(too_long) {
        return Err(Problem::bad("A row has at most 20 cells of 1,000 characters."));
    }
    Ok(bodies.into_iter().map(|row| FileRow { line: row.line, cells: row.answers }).collect())
}

/// Rows that are tried.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct FileRowsTried {
    /// What the file holds.
    holds: FileHolds,
    /// 100 at most.
    rows: Vec<FileRowBody>,
}

/// What a row becomes.
#[derive(Serialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub(crate) enum RowBecomes {
    /// A new record.
    New,
    /// A change of one on file.
    Changes,
    /// Nothing: all of it is on file already.
    Same,
}

/// A row that was taken in, or would be.
#[derive(Serialize, JsonSchema)]
pub(crate) struct FileRowTaken {
    /// Its line in the file.
    line: i32,
    /// What it becomes.
    becomes: RowBecomes,
    /// What it writes, and what of it stays as it is on file, in words.
    says: Vec<String>,
}

impl From<TakenRow> for FileRowTaken {
    fn from(from: TakenRow) -> Self {
        let becomes = match from.becomes {
            Becomes::New => RowBecomes::New,
            Becomes::Changes => RowBecomes::Changes,
            Becomes::Same => RowBecomes::Same,
        };
        Self { line: from.line, becomes, says: from.says }
    }
}

/// What rows become.
#[derive(Serialize, JsonSchema)]
pub(crate) struct FileRowsTaken {
    /// Those that can be read.
    taken: Vec<FileRowTaken>,
    /// Those that cannot.
    bad: Vec<BadLeadRow>,
}

fn taken((taken, bad): (Vec<TakenRow>, Vec<lumbo_store::BadFileRow>)) -> Json<FileRowsTaken> {
    let bad = bad.into_iter().map(|row| BadLeadRow { line: row.line, says: row.says });
    Json(FileRowsTaken { taken: taken.into_iter().map(Into::into).collect(), bad: bad.collect() })
}

pub(crate) async fn preview(
    State(app): State<App>,
    TeamLead(person): TeamLead,
    Body(body): Body<FileRowsTried>,
) -> Result<Json<FileRowsTaken>, Problem> {
    let rows = rows_of(body.rows)?;
    Ok(taken(app.store.preview_file(person.workspace_id, body.holds, &rows).await?))
}

/// What is said of a file before its rows are taken in.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct RecordFileSet {
    /// What it holds.
    holds: FileHolds,
    /// Its name.
    file: String,
    /// Where it comes from.
    source: String,
    /// On what ground its people may be contacted.
    ground: String,
}

/// A file that was begun.
#[derive(Serialize, JsonSchema)]
pub(crate) struct RecordFileBegun {
    /// Its id.
    id: Uuid,
}

pub(crate) async fn begin(
    State(app): State<App>,
    TeamLead(person): TeamLead,
    Body(set): Body<RecordFileSet>,
) -> Result<Json<RecordFileBegun>, Problem> {
    let new = NewRecordFile {
        holds: set.holds,
        file: said(&set.file, "Say what the file is called")?,
        source: said(&set.source, "Say where it comes from")?,
        ground: said(&set.ground, "Say on what ground these people may be contacted")?,
    };
    Ok(Json(RecordFileBegun { id: app.store.begin_file(&person, &new).await? }))
}

/// A file that an address names.
#[derive(Deserialize, JsonSchema)]
pub(crate) struct RecordFilePath {
    /// Its id.
    file: Uuid,
}

/// Rows to take in.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct FileRowsGiven {
    /// 100 at most.
    rows: Vec<FileRowBody>,
}

pub(crate) async fn rows(
    State(app): State<App>,
    TeamLead(person): TeamLead,
    Path(path): Path<RecordFilePath>,
    Body(body): Body<FileRowsGiven>,
) -> Result<Json<FileRowsTaken>, Problem> {
    let rows = rows_of(body.rows)?;
    Ok(taken(app.store.take_rows(&person, path.file, &rows).await?))
}

/// A file that was taken in.
#[derive(Serialize, JsonSchema)]
pub(crate) struct RecordFileKept {
    /// Its id.
    id: Uuid,
    /// What it held.
    holds: FileHolds,
    /// Its name.
    file: String,
    /// Where it comes from.
    source: String,
    /// On what ground its people may be contacted.
    ground: String,
    /// Name of whoever took it in.
    by: String,
    /// When, RFC 3339.
    #[schemars(with = "String")]
    at: Timestamp,
    /// How many records it made.
    made: i64,
    /// How many it changed.
    changed: i64,
    /// When it was undone, RFC 3339.
    #[schemars(with = "Option<String>")]
    undone_at: Option<Timestamp>,
}

pub(crate) async fn list(
    State(app): State<App>,
    TeamLead(person): TeamLead,
) -> Result<Json<Vec<RecordFileKept>>, Problem> {
    let rows = app.store.record_files(person.workspace_id).await?.into_iter().map(|row| {
        let RecordFileRow { id, holds, file, source, ground, by, at, made, changed, undone_at } = row;
        RecordFileKept { id, holds, file, source, ground, by, at, made, changed, undone_at }
    });
    Ok(Json(rows.collect()))
}

/// What undoing a file did.
#[derive(Serialize, JsonSchema)]
pub(crate) struct RecordFileUndone {
    /// Records that are gone again.
    taken_out: u64,
    /// Records that stay, as something else holds on to them since.
    kept: u64,
    /// Records that have again what they had before.
    given_back: u64,
}

pub(crate) async fn undo(
    State(app): State<App>,
    TeamLead(person): TeamLead,
    Path(path): Path<RecordFilePath>,
) -> Result<Json<RecordFileUndone>, Problem> {
    let FileUndone { taken_out, kept, given_back } = app.store.undo_file(&person, path.file).await?;
    Ok(Json(RecordFileUndone { taken_out, kept, given_back }))
}
