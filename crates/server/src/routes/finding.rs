//! Finding leads again: tags, lists of one’s own, and the list as a file.

use aide::axum::ApiRouter;
use aide::axum::routing::{delete_with, get_with, post_with};
use axum::Json;
use axum::extract::State;
use axum::http::header;
use lumbo_deliver::table;
use lumbo_people::Audited;
use lumbo_records::{ListLook, TAG_LIMIT};
use lumbo_store::{Entry, LeadQuery, LeadRow};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

use super::leads::{LeadPath, Listed, look_of};
use crate::answer::{Csv, Sent};
use crate::api::named;
use crate::body::{Body, Path, Query};
use crate::signed::{LeadReader, LeadWorker};
use crate::wire::leads::{LeadDetail, LeadFilter};
use crate::{App, Problem};

/// The name of this area in the document.
const TAG: &str = "Leads";
/// Longest tag, and longest name of a list, characters.
const LONGEST: usize = TAG_LIMIT;
/// Most leads of one file.
const MOST: usize = 10_000;

/// Tags, own lists, and the list as a file.
pub(crate) fn api() -> ApiRouter<App> {
    ApiRouter::new()
        .api_route("/api/leads.csv", get_with(as_csv, named(TAG, "leadsTable", "Leads in the order to call, as CSV")))
        .api_route(
            "/api/leads/{lead}/tags",
            post_with(tag, named(TAG, "tagLead", "Put a tag on a lead, or take it off")),
        )
        .api_route(
            "/api/lenses",
            get_with(lenses, named(TAG, "lenses", "Lists of leads that one keeps"))
                .post_with(keep, named(TAG, "keepLens", "Keep a list of leads under a name")),
        )
        .api_route("/api/lenses/{lens}", delete_with(let_go, named(TAG, "dropLens", "Take a list out")))
        .api_route("/api/tags", get_with(tags, named(TAG, "tags", "Tags that leads have")))
}

/// A list of leads under a name.
#[derive(Debug, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Lens {
    /// Its id, chosen by whoever keeps it.
    id: Uuid,
    /// Its name, 1 to 30 characters.
    name: String,
    /// Which leads it shows.
    shows: LeadFilter,
    /// What is searched for among them; 200 characters at most.
    search: String,
    /// What else they hold, their columns, and what they are sorted by.
    #[serde(default)]
    look: ListLook,
}

impl From<lumbo_store::Lens> for Lens {
    fn from(from: lumbo_store::Lens) -> Self {
        let lumbo_store::Lens { id, name, shows, search, look } = from;
        Self { id, name, shows: shows.into(), search, look }
    }
}

pub(crate) async fn lenses(State(app): State<App>, LeadReader(person): LeadReader) -> Result<Json<Vec<Lens>>, Problem> {
    Ok(Json(app.store.lenses(&person).await?.into_iter().map(Into::into).collect()))
}

pub(crate) async fn keep(
    State(app): State<App>,
    LeadReader(person): LeadReader,
    Body(lens): Body<Lens>,
) -> Result<Json<Vec<Lens>>, Problem> {
    let name = lens.name.trim().to_owned();
    if name.is_empty() || name.chars().count() > LONGEST || lens.search.chars().count() > 200 {
        return Err(Problem::bad(format!("A list’s name has 1 to {LONGEST} characters, its search at most 200.")));
    }
    // One that cannot be asked is not kept.
    lens.look.ready(&app.store.fields(person.workspace_id).await?).map_err(Problem::bad)?;
    let Lens { id, shows, search, look, .. } = lens;
    let kept = lumbo_store::Lens { id, name, shows: shows.into(), search, look };
    app.store.keep_lens(&person, &kept).await?;
    lenses(State(app), LeadReader(person)).await
}

/// The list that an address names.
#[derive(Deserialize, JsonSchema)]
pub(crate) struct LensPath {
    /// Its id.
    lens: Uuid,
}

pub(crate) async fn let_go(
    State(app): State<App>,
    LeadReader(person): LeadReader,
    Path(path): Path<LensPath>,
) -> Result<Json<Vec<Lens>>, Problem> {
    app.store.drop_lens(&person, path.lens).await?;
    lenses(State(app), LeadReader(person)).await
}

/// A tag that is put on or taken off.
#[derive(Debug, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct TagBody {
    /// The tag, 1 to 30 characters.
    pub(crate) tag: String,
    /// True where it is put on.
    pub(crate) on: bool,
}

/// A tag as it is kept.
pub(crate) fn checked(typed: &str) -> Result<String, Problem> {
    lumbo_records::tag(typed).ok_or_else(|| Problem::bad(format!("A tag has 1 to {LONGEST} characters, and no comma.")))
}

pub(crate) async fn tag(
    State(app): State<App>,
    LeadWorker(person): LeadWorker,
    Path(path): Path<LeadPath>,
    Body(body): Body<TagBody>,
) -> Result<Json<LeadDetail>, Problem> {
    Ok(Json(app.store.tag_lead(&person, path.lead, &checked(&body.tag)?, body.on).await?.into()))
}

pub(crate) async fn tags(State(app): State<App>, LeadReader(person): LeadReader) -> Result<Json<Vec<String>>, Problem> {
    Ok(Json(app.store.tags(person.workspace_id).await?))
}

/// A lead as a line of the file.
fn line(row: LeadRow, site: &str) -> Vec<String> {
    let moment =
        |at: Option<jiff::Timestamp>| at.map_or_else(String::new, |at| at.strftime("%Y-%m-%d %H:%M").to_string());
    let next = row.next_what.map_or("", lumbo_records::NextWhat::as_str).replace('_', " ");
    vec![
        row.name.unwrap_or_default(),
        row.company.unwrap_or_default(),
        row.phone.unwrap_or_default(),
        row.wants,
        row.total.map_or_else(String::new, |total| total.to_string()),
        row.band.unwrap_or_default(),
        row.status.as_str().replace('_', " "),
        next,
        moment(row.next_at),
        row.tries.to_string(),
        row.owner.unwrap_or_default(),
        row.queue.unwrap_or_default(),
        row.tags.join(", "),
        moment(Some(row.filed_at)),
        format!("{site}/leads/{}", row.id),
    ]
    .into_iter()
    .chain(row.cells)
    .collect()
}

/// The columns of the file; moments are in UTC.
const HEAD: [&str; 15] = [
    "Name",
    "Company",
    "Phone",
    "Wants",
    "Score",
    "Band",
    "Status",
    "Next",
    "Next at (UTC)",
    "Tries",
    "Owner",
    "Queue",
    "Tags",
    "Filed at (UTC)",
    "Link",
];

pub(crate) async fn as_csv(
    State(app): State<App>,
    LeadReader(person): LeadReader,
    Query(wanted): Query<Listed>,
) -> Result<Sent<Csv>, Problem> {
    let look = look_of(wanted.look.as_deref())?;
    let fields = if look.columns.is_empty() { Vec::new() } else { app.store.fields(person.workspace_id).await? };
    let label = |id: &String| fields.iter().find(|field| field.id == *id).map_or("", |field| field.label.as_str());
    let head: Vec<&str> = HEAD.into_iter().chain(look.columns.iter().map(label)).collect();
    let mut lines = Vec::new();
    let mut after: Option<String> = None;
    loop {
        let query =
            LeadQuery { filter: wanted.show.into(), search: &wanted.search, look: &look, after: after.as_deref() };
        let page = app.store.leads(&person, &query).await?;
        lines.extend(page.leads.into_iter().map(|row| line(row, &app.tools.site)));
        after = page.next;
        if after.is_none() || lines.len() >= MOST {
            break;
        }
    }
    if after.is_some() {
        return Err(Problem::bad(format!(
            "A file holds at most {MOST} leads. Search for fewer, or show another list."
        )));
    }
    let about = format!("list of {} leads", lines.len());
    let entry = Entry { person: Some(person.id), what: Audited::Exported, about: &about, subject: None, network: None };
    app.store.audit(person.workspace_id, &entry).await?;
    Ok(Sent::new((
        [
            (header::CONTENT_TYPE, "text/csv; charset=utf-8"),
            (header::CONTENT_DISPOSITION, "attachment; filename=\"leads.csv\""),
        ],
        table::csv(&head, lines),
    )))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_tag_is_kept_without_its_mark_and_in_single_spaces() {
        for (typed, kept) in [("urgent", "urgent"), ("  #Trade  fair ", "Trade fair"), ("É", "É"), ("a#b", "a#b")] {
            assert_eq!(checked(typed).ok().as_deref(), Some(kept), "{typed}");
        }
        for wrong in ["", " # ", "a, b", "x\u{7}", &"x".repeat(31)] {
            assert_eq!(checked(wrong).err().map(|problem| problem.status), Some(422), "{wrong}");
        }
    }
}
