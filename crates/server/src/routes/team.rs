//! The team, for whoever leads it.

use aide::axum::ApiRouter;
use aide::axum::routing::{delete_with, get_with, post_with};
use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use jiff::Timestamp;
use lumbo_store::AbsenceChange;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

use crate::api::named;
use crate::body::{Body, Path};
use crate::signed::TeamLead;
use crate::{App, Problem};

/// The name of this area in the document.
const TAG: &str = "Team";

/// The team.
pub(crate) fn api() -> ApiRouter<App> {
    ApiRouter::new()
        .api_route("/api/team", get_with(team, named(TAG, "team", "Who has how much, and how soon leads are called")))
        .api_route(
            "/api/team/{person}",
            post_with(pause, named(TAG, "pausePerson", "Pause somebody, or let them go on")),
        )
        .api_route(
            "/api/team/{person}/share-out",
            post_with(share_out, named(TAG, "shareOut", "Share out the open leads of somebody who takes none")),
        )
        .api_route(
            "/api/team/{person}/absences",
            post_with(add_absence, named(TAG, "addAbsence", "Enter days on which somebody is away")),
        )
        .api_route(
            "/api/team/{person}/absences/{absence}",
            delete_with(remove_absence, named(TAG, "removeAbsence", "Take an absence out")),
        )
}

/// A rep's load and pace.
#[derive(Serialize, JsonSchema)]
pub(crate) struct TeamRow {
    /// Id.
    id: Uuid,
    /// Name.
    name: String,
    /// True while they take no new leads.
    paused: bool,
    /// Open leads.
    open: i64,
    /// Of them, never tried.
    untried: i64,
    /// Of them, past the moment to call by.
    late: i64,
    /// What is due now.
    due: i64,
    /// Calls in the last seven days.
    calls: i64,
    /// Median working minutes to the first try, of the last 30 days.
    first_try: Option<f64>,
    /// Median working minutes to the first contact, of the last 30 days.
    first_contact: Option<f64>,
    /// Leads of the last 30 days that were accepted or won.
    accepted: i64,
    /// Leads filed in the last 30 days.
    filed: i64,
}

impl From<lumbo_store::TeamRow> for TeamRow {
    fn from(from: lumbo_store::TeamRow) -> Self {
        let lumbo_store::TeamRow {
            id,
            name,
            paused,
            open,
            untried,
            late,
            due,
            calls,
            first_try,
            first_contact,
            accepted,
            filed,
        } = from;
        Self { id, name, paused, open, untried, late, due, calls, first_try, first_contact, accepted, filed }
    }
}

/// What waits in a queue.
#[derive(Serialize, JsonSchema)]
pub(crate) struct TeamQueueRow {
    /// Name.
    name: String,
    /// Open leads that are nobody's.
    waiting: i64,
    /// When the oldest of them was filed, RFC 3339.
    #[schemars(with = "Option<String>")]
    oldest_at: Option<Timestamp>,
    /// Members who take leads.
    takers: i64,
}

/// How a week went.
#[derive(Serialize, JsonSchema)]
pub(crate) struct WeekRow {
    /// Its Monday, a date.
    monday: String,
    /// Leads filed.
    filed: i64,
    /// Of them, tried by the moment to call by.
    in_time: i64,
    /// Of them, with a moment to call by.
    targeted: i64,
    /// Of them, reached.
    reached: i64,
    /// Of them, accepted or won.
    accepted: i64,
}

/// The team.
#[derive(Serialize, JsonSchema)]
pub(crate) struct TeamView {
    /// Those who work leads, by name.
    people: Vec<TeamRow>,
    /// Queues, by name.
    queues: Vec<TeamQueueRow>,
    /// Weeks, this one first.
    weeks: Vec<WeekRow>,
    /// Absences that are not over, by their days.
    absences: Vec<AbsenceRow>,
    /// Who can stand in: those who work leads.
    deputies: Vec<Deputy>,
}

/// Somebody who can stand in.
#[derive(Serialize, JsonSchema)]
pub(crate) struct Deputy {
    /// Id.
    id: Uuid,
    /// Name.
    name: String,
}

/// Days on which somebody is away.
#[derive(Serialize, JsonSchema)]
pub(crate) struct AbsenceRow {
    /// Its id.
    id: Uuid,
    /// Who is away.
    person: Uuid,
    /// The first day, a date.
    from: String,
    /// The last day, a date.
    until: String,
    /// Whether they are away now.
    now: bool,
    /// Name of who stands in.
    deputy: Option<String>,
}

pub(crate) async fn team(State(app): State<App>, TeamLead(person): TeamLead) -> Result<Json<TeamView>, Problem> {
    let team = app.store.team(&person).await?;
    let queues = team.queues.into_iter().map(|row| {
        let lumbo_store::TeamQueueRow { name, waiting, oldest_at, takers } = row;
        TeamQueueRow { name, waiting, oldest_at, takers }
    });
    let weeks = team.weeks.into_iter().map(|row| {
        let lumbo_store::WeekRow { monday, filed, in_time, targeted, reached, accepted } = row;
        WeekRow { monday, filed, in_time, targeted, reached, accepted }
    });
    let absences = app.store.absences(&person).await?.into_iter().map(|row| {
        let lumbo_store::AbsenceRow { id, person, from, until, now, deputy } = row;
        AbsenceRow { id, person, from, until, now, deputy }
    });
    let deputies = app.store.takers(person.workspace_id).await?.into_iter();
    let deputies = deputies.map(|taker| Deputy { id: taker.id, name: taker.name });
    Ok(Json(TeamView {
        people: team.people.into_iter().map(Into::into).collect(),
        queues: queues.collect(),
        weeks: weeks.collect(),
        absences: absences.collect(),
        deputies: deputies.collect(),
    }))
}

/// Somebody that an address names.
#[derive(Deserialize, JsonSchema)]
pub(crate) struct TeamPath {
    /// Their id.
    person: Uuid,
}

/// Whether somebody takes new leads.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Pause {
    /// True while they take none.
    paused: bool,
}

pub(crate) async fn pause(
    State(app): State<App>,
    TeamLead(person): TeamLead,
    Path(path): Path<TeamPath>,
    Body(body): Body<Pause>,
) -> Result<StatusCode, Problem> {
    app.store.set_paused(&person, path.person, body.paused).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Days on which somebody is away.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct AbsenceSet {
    /// The first day, a date of their own zone.
    from: String,
    /// The last day, a date.
    until: String,
    /// Who stands in.
    #[serde(default)]
    deputy: Option<Uuid>,
}

pub(crate) async fn add_absence(
    State(app): State<App>,
    TeamLead(person): TeamLead,
    Path(path): Path<TeamPath>,
    Body(body): Body<AbsenceSet>,
) -> Result<StatusCode, Problem> {
    let day = |text: &str| text.parse().map_err(|_| Problem::bad("A day is written as 2026-11-24."));
    let change = AbsenceChange { from: day(&body.from)?, until: day(&body.until)?, deputy: body.deputy };
    app.store.add_absence(&person, path.person, &change).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// An absence that an address names.
#[derive(Deserialize, JsonSchema)]
pub(crate) struct AbsencePath {
    /// Whose.
    person: Uuid,
    /// Its id.
    absence: Uuid,
}

pub(crate) async fn remove_absence(
    State(app): State<App>,
    TeamLead(person): TeamLead,
    Path(path): Path<AbsencePath>,
) -> Result<StatusCode, Problem> {
    app.store.remove_absence(&person, path.person, path.absence).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// How many leads were shared out.
#[derive(Serialize, JsonSchema)]
pub(crate) struct SharedOut {
    /// So many.
    leads: i64,
}

pub(crate) async fn share_out(
    State(app): State<App>,
    TeamLead(person): TeamLead,
    Path(path): Path<TeamPath>,
) -> Result<Json<SharedOut>, Problem> {
    Ok(Json(SharedOut { leads: app.store.share_out(&person, path.person).await? }))
}
