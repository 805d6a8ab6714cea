//! The workspace's catalogue of fields.

use aide::axum::ApiRouter;
use aide::axum::routing::{delete_with, get_with, post_with};
use axum::Json;
use axum::extract::State;
use axum::http::header;
use lumbo_catalogue::{Consequences, from_csv, to_csv};
use lumbo_dialogue::file::Field;
use lumbo_store::{DraftConsequences, FieldRow};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

use crate::answer::{Csv, Sent};
use crate::api::named;
use crate::body::{Body, Path};
use crate::problem::sentence;
use crate::signed::Writer;
use crate::{App, Problem};

/// The name of this area in the document.
const TAG: &str = "Fields";

/// The catalogue of fields.
pub(crate) fn api() -> ApiRouter<App> {
    ApiRouter::new()
        .api_route(
            "/api/fields",
            get_with(fields, named(TAG, "fields", "The catalogue of fields"))
                .post_with(change, named(TAG, "changeField", "Make a field, or change one")),
        )
        .api_route(
            "/api/fields/preview",
            post_with(preview, named(TAG, "previewField", "What a change of a field would do")),
        )
        .api_route("/api/fields/import", post_with(import, named(TAG, "importFields", "Take in a catalogue as CSV")))
        .api_route(
            "/api/fields/{field}",
            delete_with(remove, named(TAG, "removeField", "Take out a field that nothing uses")),
        )
        .api_route("/api/catalogue", get_with(list, named(TAG, "catalogue", "The catalogue with what uses each field")))
        .api_route("/api/catalogue.csv", get_with(export, named(TAG, "exportFields", "The catalogue as CSV")))
}

/// The catalogue, as editors choose from it.
pub(crate) async fn fields(State(app): State<App>, Writer(person): Writer) -> Result<Json<Vec<Field>>, Problem> {
    Ok(Json(app.store.fields(person.workspace_id).await?))
}

/// A field with what uses it.
#[derive(Serialize, JsonSchema)]
pub(crate) struct CatalogueRow {
    /// The field.
    field: Field,
    /// Drafts that carry it.
    dialogues: Vec<CatalogueUse>,
    /// Leads that have a value in it.
    leads: i64,
}

/// A draft that carries a field.
#[derive(Serialize, JsonSchema)]
pub(crate) struct CatalogueUse {
    /// The dialogue.
    dialogue: Uuid,
    /// Its title.
    title: String,
    /// Places that use it.
    places: usize,
}

impl From<FieldRow> for CatalogueRow {
    fn from(row: FieldRow) -> Self {
        let dialogues = row
            .dialogues
            .into_iter()
            .map(|used| CatalogueUse { dialogue: used.dialogue, title: used.title, places: used.places })
            .collect();
        Self { field: row.field, dialogues, leads: row.leads }
    }
}

pub(crate) async fn list(State(app): State<App>, Writer(person): Writer) -> Result<Json<Vec<CatalogueRow>>, Problem> {
    Ok(Json(app.store.catalogue(person.workspace_id).await?.into_iter().map(Into::into).collect()))
}

/// A change of one field.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct FieldChange {
    /// The definition that the sender knew; absent for a new field.
    #[serde(default)]
    was: Option<Field>,
    /// The new one, with the same id.
    field: Field,
}

/// What a change would do.
#[derive(Serialize, JsonSchema)]
pub(crate) struct ChangeReport {
    /// What is wrong with the definition; it cannot be kept then.
    wrong: Vec<String>,
    /// Draft by draft.
    drafts: Vec<DraftReport>,
    /// Leads that keep a value of the old definition.
    leads: i64,
}

/// What a change would do to one draft.
#[derive(Serialize, JsonSchema)]
pub(crate) struct DraftReport {
    /// The dialogue.
    dialogue: Uuid,
    /// Its title.
    title: String,
    /// What would come of it.
    #[serde(flatten)]
    consequences: Consequences,
}

impl From<DraftConsequences> for DraftReport {
    fn from(draft: DraftConsequences) -> Self {
        Self { dialogue: draft.dialogue, title: draft.title, consequences: draft.consequences }
    }
}

pub(crate) async fn preview(
    State(app): State<App>,
    Writer(person): Writer,
    Body(change): Body<FieldChange>,
) -> Result<Json<ChangeReport>, Problem> {
    let (workspace, field) = (person.workspace_id, &change.field);
    let wrong = lumbo_catalogue::faults(field, &app.store.fields(workspace).await?);
    let drafts = app.store.preview_fields(workspace, &[field]).await?.into_iter().flatten();
    let leads = app.store.leads_with(workspace, field).await?;
    Ok(Json(ChangeReport {
        wrong: wrong.iter().map(|text| sentence(text)).collect(),
        drafts: drafts.map(Into::into).collect(),
        leads,
    }))
}

pub(crate) async fn change(
    State(app): State<App>,
    Writer(person): Writer,
    Body(change): Body<FieldChange>,
) -> Result<Json<Field>, Problem> {
    let field = change.field.clone();
    app.store.change_fields(person.workspace_id, person.id, &[(change.was, change.field)]).await?;
    Ok(Json(field))
}

/// A field that an address names.
#[derive(Deserialize, JsonSchema)]
pub(crate) struct FieldPath {
    /// Its id.
    field: String,
}

/// Takes out a field that nothing uses; gives it, so that it can be put back.
pub(crate) async fn remove(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<FieldPath>,
) -> Result<Json<Field>, Problem> {
    Ok(Json(app.store.remove_field(person.workspace_id, person.id, &path.field).await?))
}

/// The catalogue as CSV, for a spreadsheet.
pub(crate) async fn export(State(app): State<App>, Writer(person): Writer) -> Result<Sent<Csv>, Problem> {
    let text = to_csv(&app.store.fields(person.workspace_id).await?);
    let headers = [
        (header::CONTENT_TYPE, "text/csv; charset=utf-8"),
        (header::CONTENT_DISPOSITION, "attachment; filename=\"fields.csv\""),
    ];
    Ok(Sent::new((headers, text)))
}

/// A catalogue to take in.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Import {
    /// The CSV.
    csv: String,
    /// False: only says what would come of it.
    #[serde(default)]
    apply: bool,
}

/// What a file would do, or did.
#[derive(Serialize, JsonSchema)]
pub(crate) struct ImportReport {
    /// True where it was done.
    applied: bool,
    /// Line by line.
    lines: Vec<ImportLine>,
}

/// One line of a file.
#[derive(Serialize, JsonSchema)]
pub(crate) struct ImportLine {
    /// Its number, from 1.
    line: u64,
    /// What comes of it.
    does: ImportDoes,
    /// The field, where it can be read.
    field: Option<Field>,
    /// What is wrong with it.
    wrong: Vec<String>,
    /// Findings that it brings, by the dialogue's title.
    breaks: Vec<String>,
}

/// What comes of a line.
#[derive(Clone, Copy, PartialEq, Eq, Serialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub(crate) enum ImportDoes {
    /// A new field.
    New,
    /// A change of a known one.
    Changed,
    /// As it is.
    Same,
    /// Nothing, for what is wrong with it.
    Wrong,
}

/// Takes in a catalogue: all lines or, where one is wrong, none.
pub(crate) async fn import(
    State(app): State<App>,
    Writer(person): Writer,
    Body(import): Body<Import>,
) -> Result<Json<ImportReport>, Problem> {
    let workspace = person.workspace_id;
    let known = app.store.fields(workspace).await?;
    let (csv, of) = (import.csv, known.clone());
    let rows = app
        .busy
        .work(move || from_csv(&csv, &of))
        .await?
        .map_err(|error| Problem::bad(sentence(&error.to_string())))?;
    let was = |field: &Field| known.iter().find(|known| known.id == field.id);
    let fields: Vec<&Field> = rows
        .iter()
        .filter_map(|row| row.field.as_ref().ok())
        .filter(|field| was(field).is_some_and(|was| was != *field))
        .collect();
    let mut previews = app.store.preview_fields(workspace, &fields).await?.into_iter();
    let mut lines = Vec::with_capacity(rows.len());
    let mut changes: Vec<(Option<Field>, Field)> = Vec::new();
    for row in rows {
        let mut line =
            ImportLine { line: row.line, does: ImportDoes::Same, field: None, wrong: Vec::new(), breaks: Vec::new() };
        match row.field {
            Err(wrong) => {
                line.does = ImportDoes::Wrong;
                line.wrong = wrong.iter().map(|text| sentence(text)).collect();
            }
            Ok(field) => {
                let was = was(&field);
                if was.is_none_or(|was| *was != field) {
                    line.does = if was.is_some() { ImportDoes::Changed } else { ImportDoes::New };
                    changes.push((was.cloned(), field.clone()));
                }
                if line.does == ImportDoes::Changed {
                    let said = |draft: &DraftConsequences| -> Vec<String> {
                        draft
                            .consequences
                            .breaks
                            .iter()
                            .map(|broken| format!("{}, {}: {}", draft.title, broken.place, broken.finding.says))
                            .collect()
                    };
                    line.breaks = previews.next().unwrap_or_default().iter().flat_map(said).collect();
                }
                line.field = Some(field);
            }
        }
        lines.push(line);
    }
    let applied = import.apply && lines.iter().all(|line| line.does != ImportDoes::Wrong);
    if applied {
        app.store.change_fields(workspace, person.id, &changes).await?;
    }
    Ok(Json(ImportReport { applied, lines }))
}
