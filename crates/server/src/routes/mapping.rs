//! What goes where at a customer system or a sheet.

use std::collections::BTreeMap;

use aide::axum::ApiRouter;
use aide::axum::routing::{get_with, post_with};
use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use jiff::Timestamp;
use lumbo_deliver::mapping::{
    Carried, MapRule, Mapping, MappingFault, Offered, Ours, Schema, carried, mapping_faults, suggested,
};
use lumbo_dialogue::file::FieldType;
use lumbo_records::LeadStatus;
use lumbo_store::{Backfill, DestinationKind, ReleasedFields, StoreError};
use lumbo_ways::ledger::Captured;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

use super::destinations::DestinationPath;
use crate::api::named;
use crate::body::{Body, Path};
use crate::outgoing::records::Place;
use crate::problem::sentence;
use crate::signed::{SecretKeeper, SendingWatcher};
use crate::{App, Problem, analyses};

const TAG: &str = "Destinations";
/// Longest time back that leads are sent again, days.
const LONGEST_BACK: i64 = 3_660;

/// What goes where.
pub(crate) fn api() -> ApiRouter<App> {
    ApiRouter::new()
        .api_route(
            "/api/destinations/{destination}/mapping",
            get_with(show, named(TAG, "mapping", "What goes where at a customer system or a sheet"))
                .post_with(put, named(TAG, "putMapping", "Try or keep what goes where")),
        )
        .api_route(
            "/api/destinations/{destination}/schema",
            post_with(read_schema, named(TAG, "readSchema", "Read anew what a customer system holds")),
        )
        .api_route(
            "/api/destinations/{destination}/choice",
            post_with(choose, named(TAG, "chooseRecord", "Say which record there a lead’s is, and send it again")),
        )
        .api_route(
            "/api/destinations/{destination}/backfill",
            post_with(backfill, named(TAG, "backfill", "Count earlier leads that can be sent there, or send them")),
        )
}

/// An option of a field.
#[derive(Serialize, JsonSchema)]
pub(crate) struct OfferedOption {
    /// Its key.
    key: String,
    /// Its label.
    label: String,
}

/// A field that can be mapped.
#[derive(Serialize, JsonSchema)]
pub(crate) struct OfferedField {
    /// Its key.
    key: String,
    /// Its label.
    label: String,
    /// Its type.
    #[serde(rename = "type")]
    kind: FieldType,
    /// Its options.
    options: Vec<OfferedOption>,
    /// Titles of the dialogues that have it.
    dialogues: Vec<String>,
}

/// One of our people.
#[derive(Serialize, JsonSchema)]
pub(crate) struct OurPerson {
    /// Name.
    name: String,
    /// Address.
    email: String,
}

/// What a real lead would carry.
#[derive(Serialize, JsonSchema)]
pub(crate) struct MappingExample {
    /// The lead.
    lead: Uuid,
    /// The prospect's name.
    name: Option<String>,
    /// For each rule, in their order.
    carried: Vec<Carried>,
}

/// What goes where, and everything one needs to map it.
#[derive(Serialize, JsonSchema)]
pub(crate) struct MappingView {
    /// The destination's name.
    name: String,
    /// What it is.
    kind: DestinationKind,
    /// The destination's revision; a change names it.
    revision: i64,
    /// The rules.
    mapping: Mapping,
    /// What the customer system holds.
    schema: Option<Schema>,
    /// When that was read, RFC 3339.
    #[schemars(with = "Option<String>")]
    schema_read_at: Option<Timestamp>,
    /// Fields of the newest releases.
    fields: Vec<OfferedField>,
    /// Names of their bands, the lowest first.
    bands: Vec<String>,
    /// Our people who can own leads.
    people: Vec<OurPerson>,
    /// What is wrong.
    faults: Vec<MappingFault>,
    /// Rules for properties that have none, by their names.
    suggested: Vec<MapRule>,
    /// What the newest lead would carry; absent where there is none yet.
    example: Option<MappingExample>,
}

async fn ours(
    app: &App,
    workspace: Uuid,
    released: &[ReleasedFields],
    people: &[(String, String)],
) -> Result<Ours, Problem> {
    let mut fields = Vec::new();
    for dialogue in released {
        // What a lead can come without is followed in the draft: that is what is released next.
        let draft = app.store.draft(workspace, dialogue.dialogue).await?;
        let analysis = analyses::of(app, workspace, dialogue.dialogue, &draft).await?;
        for field in &dialogue.fields {
            let row = analysis.ledger.iter().find(|row| row.field == field.id);
            fields.push(Offered {
                key: field.key.clone(),
                kind: field.kind,
                options: field.options.iter().map(|option| option.key.clone()).collect(),
                dialogue: dialogue.title.clone(),
                always: row.is_some_and(|row| row.captured == Some(Captured::Every)),
            });
        }
    }
    Ok(Ours {
        dialogues: released.iter().map(|dialogue| dialogue.title.clone()).collect(),
        fields,
        bands: bands(released),
        statuses: LeadStatus::ALL.iter().map(|status| status.as_str().to_owned()).collect(),
        people: people.iter().map(|(_, email)| email.clone()).collect(),
    })
}

fn bands(released: &[ReleasedFields]) -> Vec<String> {
    let mut out: Vec<String> = Vec::new();
    for band in released.iter().flat_map(|dialogue| &dialogue.scorecards).flat_map(|card| &card.bands) {
        if !out.contains(&band.label) {
            out.push(band.label.clone());
        }
    }
    out
}

/// Fields by key: those of one key in several dialogues are mapped by one rule.
fn offered(released: &[ReleasedFields]) -> Vec<OfferedField> {
    let mut out: BTreeMap<&str, OfferedField> = BTreeMap::new();
    for (dialogue, field) in
        released.iter().flat_map(|dialogue| dialogue.fields.iter().map(move |field| (dialogue, field)))
    {
        let row = out.entry(&field.key).or_insert_with(|| OfferedField {
            key: field.key.clone(),
            label: field.label.clone(),
            kind: field.kind,
            options: Vec::new(),
            dialogues: Vec::new(),
        });
        row.dialogues.push(dialogue.title.clone());
        for option in &field.options {
            if !row.options.iter().any(|known| known.key == option.key) {
                row.options.push(OfferedOption {
                    key: option.key.clone(),
                    label: option.label.get(&dialogue.language, &dialogue.language).to_owned(),
                });
            }
        }
    }
    let mut out: Vec<OfferedField> = out.into_values().collect();
    out.sort_by_cached_key(|field| field.label.to_lowercase());
    out
}

/// What is seen of a mapping: the one that is kept, or one that is being tried.
async fn view(app: &App, workspace: Uuid, destination: Uuid, tried: Option<Mapping>) -> Result<MappingView, Problem> {
    let to = app.store.destination(workspace, destination).await?;
    if !to.kind.is_mapped() {
        return Err(Problem::bad("A webhook and a chat alert get events as they are: there is nothing to map."));
    }
    let row = app.store.mapping(workspace, destination).await?;
    let mapping = tried.unwrap_or(row.mapping);
    let released = app.store.released_fields(workspace, &row.dialogues).await?;
    let people = app.store.owners(workspace).await?;
    let (faults, suggested) = match &row.schema {
        Some(schema) if to.kind == DestinationKind::CustomerSystem => {
            let ours = ours(app, workspace, &released, &people).await?;
            (mapping_faults(&mapping, schema, &ours), suggested(&mapping, schema, &ours))
        }
        _ => (Vec::new(), Vec::new()),
    };
    let example = match app.store.newest_lead_of(workspace, &row.dialogues).await {
        Ok(lead) => {
            let facts = app.store.lead_facts(workspace, lead, &app.tools.site).await?;
            let schema = row.schema.as_ref().filter(|_| to.kind == DestinationKind::CustomerSystem);
            let carried = mapping.rules.iter().map(|rule| carried(rule, &mapping, schema, &facts)).collect();
            Some(MappingExample { lead, name: facts.data.name, carried })
        }
        Err(StoreError::NotFound(_)) => None,
        Err(error) => return Err(error.into()),
    };
    Ok(MappingView {
        name: to.name,
        kind: to.kind,
        revision: row.revision,
        mapping,
        schema: row.schema,
        schema_read_at: row.schema_read_at,
        bands: bands(&released),
        fields: offered(&released),
        people: people.into_iter().map(|(name, email)| OurPerson { name, email }).collect(),
        faults,
        suggested,
        example,
    })
}

pub(crate) async fn show(
    State(app): State<App>,
    SendingWatcher(person): SendingWatcher,
    Path(path): Path<DestinationPath>,
) -> Result<Json<MappingView>, Problem> {
    Ok(Json(view(&app, person.workspace_id, path.destination, None).await?))
}

/// What is to go where.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct MappingSet {
    /// The revision that was looked at.
    revision: i64,
    /// The rules.
    mapping: Mapping,
    /// Whether it is kept; else it is only tried.
    keep: bool,
}

pub(crate) async fn put(
    State(app): State<App>,
    SecretKeeper(person): SecretKeeper,
    Path(path): Path<DestinationPath>,
    Body(set): Body<MappingSet>,
) -> Result<Json<MappingView>, Problem> {
    if !set.mapping.fits() {
        return Err(Problem::bad("Each column needs a name, and nothing may be longer than 500 characters."));
    }
    if set.keep {
        app.store.destination(person.workspace_id, path.destination).await?;
        app.store.put_mapping(&person, path.destination, set.revision, &set.mapping).await?;
    }
    Ok(Json(view(&app, person.workspace_id, path.destination, Some(set.mapping)).await?))
}

pub(crate) async fn read_schema(
    State(app): State<App>,
    SecretKeeper(person): SecretKeeper,
    Path(path): Path<DestinationPath>,
) -> Result<Json<MappingView>, Problem> {
    let workspace = person.workspace_id;
    let to = app.store.destination(workspace, path.destination).await?;
    if to.kind != DestinationKind::CustomerSystem {
        return Err(Problem::bad("Only a customer system says what it holds."));
    }
    let place = Place::new(&app.tools.outgoing, &app.tools.vault, workspace, &to)?;
    let (read, _) = place.schema(app.store.now()).await;
    let schema =
        read.map_err(|why| Problem::bad(format!("The customer system could not be read: {}", sentence(&why))))?;
    app.store.put_schema(workspace, path.destination, &schema).await?;
    Ok(Json(view(&app, workspace, path.destination, None).await?))
}

/// Which record there it is.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct RecordChosen {
    /// The sending that waits for it.
    sending: Uuid,
    /// The record's id there.
    outside_id: String,
}

pub(crate) async fn choose(
    State(app): State<App>,
    SecretKeeper(person): SecretKeeper,
    Path(path): Path<DestinationPath>,
    Body(chosen): Body<RecordChosen>,
) -> Result<StatusCode, Problem> {
    app.store.choose(&person, path.destination, chosen.sending, &chosen.outside_id).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Which earlier leads are sent.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct BackfillAsked {
    /// Those filed in so many days before now.
    days: i64,
    /// Whether they are sent; else they are only counted.
    send: bool,
}

/// How many earlier leads there are to send.
#[derive(Serialize, JsonSchema)]
pub(crate) struct BackfillCount {
    /// They never went there.
    created: i64,
    /// They went there, and changed since.
    changed: i64,
    /// They are there as they are, or on their way.
    skipped: i64,
}

impl From<Backfill> for BackfillCount {
    fn from(Backfill { created, changed, skipped }: Backfill) -> Self {
        Self { created, changed, skipped }
    }
}

pub(crate) async fn backfill(
    State(app): State<App>,
    SecretKeeper(person): SecretKeeper,
    Path(path): Path<DestinationPath>,
    Body(asked): Body<BackfillAsked>,
) -> Result<Json<BackfillCount>, Problem> {
    if !(1..=LONGEST_BACK).contains(&asked.days) {
        return Err(Problem::bad("Say how many days back: from 1 to ten years."));
    }
    let now = app.store.now();
    let from = now.checked_sub(jiff::SignedDuration::from_hours(24 * asked.days)).unwrap_or(Timestamp::MIN);
    Ok(Json(app.store.backfill(&person, path.destination, from, asked.send).await?.into()))
}
