//! Entering leads, by hand or from a file, and taking them out again.

use std::collections::BTreeMap;

use aide::axum::ApiRouter;
use aide::axum::routing::{get_with, post_with};
use axum::Json;
use axum::extract::State;
use jiff::Timestamp;
use lumbo_dialogue::file::FieldType;
use lumbo_numbers::sheet;
use lumbo_store::{EnteredRow, NewImport, ROWS_AT_ONCE};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

use crate::api::named;
use crate::body::{Body, Path};
use crate::problem::sentence;
use crate::signed::{LeadWorker, TeamLead};
use crate::{App, Problem};

const TAG: &str = "Entering leads";
/// Longest source and ground, characters.
const WORDS: usize = 300;
/// Most rows of a file.
pub(crate) const ROWS: usize = 5_000;
/// Longest answer, characters.
const ANSWER: usize = 2_000;
/// Most text of the rows of one request, bytes.
const LETTERS: usize = 200_000;

/// Entering leads.
pub(crate) fn api() -> ApiRouter<App> {
    ApiRouter::new()
        .api_route(
            "/api/imports",
            get_with(list, named(TAG, "imports", "What was entered"))
                .post_with(begin, named(TAG, "beginImport", "Begin entering leads from a file")),
        )
        .api_route("/api/imports/form", get_with(form, named(TAG, "enteringForm", "What leads are entered by")))
        .api_route("/api/imports/look", post_with(look, named(TAG, "lookAtLeadFile", "Look at a file of leads")))
        .api_route("/api/imports/preview", post_with(preview, named(TAG, "previewLeads", "What rows would become")))
        .api_route("/api/imports/hand", post_with(by_hand, named(TAG, "enterLead", "Enter a lead by hand")))
        .api_route("/api/imports/{import}/rows", post_with(rows, named(TAG, "enterLeads", "File rows as leads")))
        .api_route("/api/imports/{import}/undo", post_with(undo, named(TAG, "undoImport", "Take leads out again")))
}

/// An option of a field.
#[derive(Serialize, JsonSchema)]
pub(crate) struct EntryOption {
    /// Its key.
    key: String,
    /// Its label.
    label: String,
}

/// A field that a lead is entered with.
#[derive(Serialize, JsonSchema)]
pub(crate) struct EntryField {
    /// Its key.
    key: String,
    /// Its label.
    label: String,
    /// Its type.
    #[serde(rename = "type")]
    kind: FieldType,
    /// Its options.
    options: Vec<EntryOption>,
}

/// A dialogue that leads are entered by.
#[derive(Serialize, JsonSchema)]
pub(crate) struct EntryDialogue {
    /// Its id.
    id: Uuid,
    /// Its title.
    title: String,
    /// The fields of its newest release.
    fields: Vec<EntryField>,
}

/// Somebody who can get leads.
#[derive(Serialize, JsonSchema)]
pub(crate) struct EntryOwner {
    /// Id.
    id: Uuid,
    /// Name.
    name: String,
}

/// What leads are entered by.
#[derive(Serialize, JsonSchema)]
pub(crate) struct EnteringForm {
    /// Released dialogues, by title.
    dialogues: Vec<EntryDialogue>,
    /// Who can get them.
    owners: Vec<EntryOwner>,
    /// Whether one may enter a file.
    files: bool,
}

pub(crate) async fn form(
    State(app): State<App>,
    LeadWorker(person): LeadWorker,
) -> Result<Json<EnteringForm>, Problem> {
    let released = app.store.released_fields(person.workspace_id, &[]).await?;
    let dialogues = released.into_iter().map(|dialogue| EntryDialogue {
        id: dialogue.dialogue,
        title: dialogue.title,
        fields: dialogue
            .fields
            .into_iter()
            // Only the prospect can give a consent: of a file, the ground is stated for all of it.
            .filter(|field| field.kind != FieldType::Consent)
            .map(|field| EntryField {
                options: field
                    .options
                    .iter()
                    .map(|option| EntryOption {
                        key: option.key.clone(),
                        label: option.label.get(&dialogue.language, &dialogue.language).to_owned(),
                    })
                    .collect(),
                key: field.key,
                label: field.label,
                kind: field.kind,
            })
            .collect(),
    });
    let owners = app.store.takers(person.workspace_id).await?.into_iter();
    Ok(Json(EnteringForm {
        dialogues: dialogues.collect(),
        owners: owners.map(|taker| EntryOwner { id: taker.id, name: taker.name }).collect(),
        files: person.role.may(lumbo_people::Action::LeadTeam),
    }))
}

/// A file of leads.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct LeadFile {
    /// The dialogue whose fields it is read by.
    dialogue: Uuid,
    /// The file, as CSV; 3 MB and 5,000 rows at most.
    csv: String,
}

/// A file of leads, cut into cells.
#[derive(Serialize, JsonSchema)]
pub(crate) struct LeadFileView {
    /// Its columns, with the keys of the fields that they seem to hold.
    columns: Vec<sheet::Column>,
    /// Its rows, each with its line in the file.
    rows: Vec<sheet::Cells>,
}

pub(crate) async fn look(
    State(app): State<App>,
    TeamLead(person): TeamLead,
    Body(body): Body<LeadFile>,
) -> Result<Json<LeadFileView>, Problem> {
    let released = app.store.released_fields(person.workspace_id, &[body.dialogue]).await?;
    let fields = released.into_iter().next().map(|dialogue| dialogue.fields);
    let fields = fields.ok_or_else(|| Problem::bad("Release the dialogue first: leads are read by its fields."))?;
    let work = move || {
        let columns = sheet::glance(&body.csv, &fields)?.columns;
        Ok::<_, sheet::SheetError>(LeadFileView { columns, rows: sheet::cells(&body.csv, ROWS)? })
    };
    app.busy.work(work).await?.map(Json).map_err(|error| Problem::bad(sentence(&error.to_string())))
}

/// A row of leads that are entered.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct RowBody {
    /// Its line in the file.
    line: i32,
    /// What stands in it, by the keys of fields.
    answers: BTreeMap<String, String>,
}

fn rows_of(bodies: Vec<RowBody>) -> Result<Vec<EnteredRow>, Problem> {
    if bodies.len() > ROWS_AT_ONCE {
        return Err(Problem::bad("At most 100 rows go at once."));
    }
    let too_long =
        |row: &RowBody| row.answers.len() > 200 || row.answers.values().any(|text| text.chars().count() > ANSWER);
    if bodies.iter().any(too_long) {
        return Err(Problem::bad("A lead has at most 200 answers of 2,000 characters."));
    }
    // Reading takes time by the letter.
    let letters: usize = bodies.iter().flat_map(|row| row.answers.values()).map(String::len).sum();
    if letters > LETTERS {
        return Err(Problem::bad(
            "These rows hold too much text to be read at once. Shorten them, or leave columns out.",
        ));
    }
    Ok(bodies
        .into_iter()
        .map(|row| EnteredRow { line: row.line, answers: row.answers.into_iter().collect() })
        .collect())
}

/// Rows that are tried.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct RowsTried {
    /// By which dialogue.
    dialogue: Uuid,
    /// 100 at most.
    rows: Vec<RowBody>,
}

/// What a row would become.
#[derive(Serialize, JsonSchema)]
pub(crate) struct RowPreview {
    /// Its line in the file.
    line: i32,
    /// The score.
    total: Option<i64>,
    /// The band's name.
    band: Option<String>,
    /// The queue's name.
    queue: Option<String>,
}

/// A row that cannot be filed.
#[derive(Serialize, JsonSchema)]
pub(crate) struct BadLeadRow {
    /// Its line in the file.
    pub(crate) line: i32,
    /// What is wrong, in a sentence.
    pub(crate) says: String,
}

impl From<lumbo_store::UnfiledRow> for BadLeadRow {
    fn from(lumbo_store::UnfiledRow { line, says }: lumbo_store::UnfiledRow) -> Self {
        Self { line, says }
    }
}

/// What rows would become.
#[derive(Serialize, JsonSchema)]
pub(crate) struct RowsPreviewed {
    /// Those that would be filed.
    good: Vec<RowPreview>,
    /// Those that would not.
    bad: Vec<BadLeadRow>,
}

pub(crate) async fn preview(
    State(app): State<App>,
    LeadWorker(person): LeadWorker,
    Body(body): Body<RowsTried>,
) -> Result<Json<RowsPreviewed>, Problem> {
    let rows = rows_of(body.rows)?;
    let (good, bad) = app.store.preview_leads(person.workspace_id, body.dialogue, &rows).await?;
    let queues = app.store.queues(person.workspace_id).await?;
    let named =
        |key: String| queues.iter().find(|(known, _)| *known == key).map_or(key.clone(), |(_, name)| name.clone());
    Ok(Json(RowsPreviewed {
        good: good
            .into_iter()
            .map(|row| RowPreview { line: row.line, total: row.total, band: row.band, queue: row.queue.map(named) })
            .collect(),
        bad: bad.into_iter().map(Into::into).collect(),
    }))
}

/// What is said of leads before they are entered.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct ImportSet {
    /// The dialogue whose fields, scorecard and rules they are read by.
    dialogue: Uuid,
    /// The file's name.
    #[serde(default)]
    file: Option<String>,
    /// Where they come from.
    source: String,
    /// On what ground they may be contacted.
    ground: String,
    /// Who gets them; by the rules where absent.
    #[serde(default)]
    owner: Option<Uuid>,
    /// Whether owners are told and destinations get them.
    #[serde(default)]
    tells: bool,
}

/// What somebody has to say, trimmed.
pub(crate) fn said<'a>(text: &'a str, asks: &str) -> Result<&'a str, Problem> {
    let text = text.trim();
    if text.is_empty() || text.chars().count() > WORDS {
        return Err(Problem::bad(format!("{asks}, in 1 to {WORDS} characters.")));
    }
    Ok(text)
}

async fn begun(app: &App, person: &lumbo_store::Person, set: &ImportSet) -> Result<Uuid, Problem> {
    let file = set.file.as_deref().map(|file| said(file, "Say what the file is called")).transpose()?;
    let source = said(&set.source, "Say where they come from")?;
    let ground = said(&set.ground, "Say on what ground they may be contacted")?;
    let new = NewImport { dialogue: set.dialogue, file, source, ground, owner: set.owner, tells: set.tells };
    Ok(app.store.begin_import(person, &new).await?)
}

/// An import that was begun.
#[derive(Serialize, JsonSchema)]
pub(crate) struct ImportBegun {
    /// Its id.
    id: Uuid,
}

pub(crate) async fn begin(
    State(app): State<App>,
    TeamLead(person): TeamLead,
    Body(set): Body<ImportSet>,
) -> Result<Json<ImportBegun>, Problem> {
    if set.file.is_none() {
        return Err(Problem::bad("Say what the file is called."));
    }
    Ok(Json(ImportBegun { id: begun(&app, &person, &set).await? }))
}

/// An import that an address names.
#[derive(Deserialize, JsonSchema)]
pub(crate) struct ImportPath {
    /// Its id.
    import: Uuid,
}

/// Rows to file.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct RowsEntered {
    /// 100 at most.
    rows: Vec<RowBody>,
}

/// A lead of a row.
#[derive(Serialize, JsonSchema)]
pub(crate) struct FiledRow {
    /// The row's line.
    line: i32,
    /// The lead.
    lead: Uuid,
}

/// What became of rows.
#[derive(Serialize, JsonSchema)]
pub(crate) struct RowsFiled {
    /// Those that were filed.
    filed: Vec<FiledRow>,
    /// Those that were not.
    bad: Vec<BadLeadRow>,
}

pub(crate) async fn rows(
    State(app): State<App>,
    TeamLead(person): TeamLead,
    Path(path): Path<ImportPath>,
    Body(body): Body<RowsEntered>,
) -> Result<Json<RowsFiled>, Problem> {
    let rows = rows_of(body.rows)?;
    let (filed, bad) = app.store.enter_leads(&person, path.import, &rows).await?;
    Ok(Json(RowsFiled {
        filed: filed.into_iter().map(|(line, lead)| FiledRow { line, lead }).collect(),
        bad: bad.into_iter().map(Into::into).collect(),
    }))
}

/// A lead that is entered by hand.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct HandEntered {
    /// What is said of it.
    about: ImportSet,
    /// What is known, by the keys of fields.
    answers: BTreeMap<String, String>,
}

/// A lead that was entered.
#[derive(Serialize, JsonSchema)]
pub(crate) struct LeadEntered {
    /// It.
    lead: Uuid,
    /// What undoes it.
    import: Uuid,
}

pub(crate) async fn by_hand(
    State(app): State<App>,
    LeadWorker(person): LeadWorker,
    Body(body): Body<HandEntered>,
) -> Result<Json<LeadEntered>, Problem> {
    let rows = rows_of(vec![RowBody { line: 1, answers: body.answers }])?;
    // What cannot be read is said before anything is begun.
    let (_, bad) = app.store.preview_leads(person.workspace_id, body.about.dialogue, &rows).await?;
    if let Some(row) = bad.first() {
        return Err(Problem::bad(row.says.clone()));
    }
    let import = begun(&app, &person, &ImportSet { file: None, ..body.about }).await?;
    let (filed, _) = app.store.enter_leads(&person, import, &rows).await?;
    let lead = filed.first().map(|(_, lead)| *lead).ok_or_else(Problem::away)?;
    Ok(Json(LeadEntered { lead, import }))
}

/// Leads that were entered together.
#[derive(Serialize, JsonSchema)]
pub(crate) struct ImportView {
    /// Its id.
    id: Uuid,
    /// The dialogue's title.
    dialogue: String,
    /// The file's name; absent by hand.
    file: Option<String>,
    /// Where they come from.
    source: String,
    /// On what ground they may be contacted.
    ground: String,
    /// Who entered them.
    made_by: Option<String>,
    /// When, RFC 3339.
    #[schemars(with = "String")]
    made_at: Timestamp,
    /// When they were taken out again, RFC 3339.
    #[schemars(with = "Option<String>")]
    undone_at: Option<Timestamp>,
    /// Leads that are there still.
    leads: i64,
    /// Of them, worked on since: undoing leaves them.
    worked: i64,
}

pub(crate) async fn list(State(app): State<App>, TeamLead(person): TeamLead) -> Result<Json<Vec<ImportView>>, Problem> {
    let rows = app.store.imports(person.workspace_id).await?.into_iter().map(|row| {
        let lumbo_store::ImportRow { id, dialogue, file, source, ground, made_by, made_at, undone_at, leads, worked } =
            row;
        ImportView { id, dialogue, file, source, ground, made_by, made_at, undone_at, leads, worked }
    });
    Ok(Json(rows.collect()))
}

/// What undoing did.
#[derive(Serialize, JsonSchema)]
pub(crate) struct ImportUndone {
    /// Leads that are gone again.
    removed: i64,
    /// Leads that somebody worked on since, and that stay.
    kept: i64,
}

pub(crate) async fn undo(
    State(app): State<App>,
    TeamLead(person): TeamLead,
    Path(path): Path<ImportPath>,
) -> Result<Json<ImportUndone>, Problem> {
    let lumbo_store::Undone { removed, kept } = app.store.undo_import(&person, path.import).await?;
    Ok(Json(ImportUndone { removed, kept }))
}
