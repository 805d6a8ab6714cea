//! Tasks: what people owe on leads.

use aide::axum::ApiRouter;
use aide::axum::routing::{get_with, post_with};
use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use jiff::{SignedDuration, Timestamp};
use lumbo_store::NewTask;
use schemars::JsonSchema;
use serde::Deserialize;
use uuid::Uuid;

use super::leads::LeadPath;
use crate::api::named;
use crate::body::{Body, Path};
use crate::signed::{LeadReader, LeadWorker};
use crate::wire::leads::{LeadDetail, TaskRow};
use crate::{App, Problem};

/// The name of this area in the document.
const TAG: &str = "Leads";
/// Longest task, characters.
const LONGEST: usize = 300;
/// The furthest that a task may be due from now, either way.
const FURTHEST: SignedDuration = SignedDuration::from_hours(24 * 365 * 5);

/// Tasks.
pub(crate) fn api() -> ApiRouter<App> {
    ApiRouter::new()
        .api_route("/api/tasks", get_with(list, named(TAG, "tasks", "What one owes, by when it is due")))
        .api_route(
            "/api/tasks/{task}",
            post_with(settle, named(TAG, "settleTask", "Say that a task is done, or is not")),
        )
        .api_route("/api/leads/{lead}/tasks", post_with(add, named(TAG, "addTask", "Make a task on a lead")))
}

pub(crate) async fn list(
    State(app): State<App>,
    LeadReader(person): LeadReader,
) -> Result<Json<Vec<TaskRow>>, Problem> {
    Ok(Json(app.store.tasks(&person).await?.into_iter().map(Into::into).collect()))
}

/// A task to make.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct TaskToMake {
    /// What is owed, 1 to 300 characters.
    says: String,
    /// By when, RFC 3339.
    #[schemars(with = "String")]
    due_at: Timestamp,
    /// Who owes it; whoever makes it where absent.
    #[serde(default)]
    person: Option<Uuid>,
}

pub(crate) async fn add(
    State(app): State<App>,
    LeadWorker(person): LeadWorker,
    Path(path): Path<LeadPath>,
    Body(new): Body<TaskToMake>,
) -> Result<Json<LeadDetail>, Problem> {
    let says = new.says.split_whitespace().collect::<Vec<_>>().join(" ");
    if says.is_empty() || says.chars().count() > LONGEST {
        return Err(Problem::bad(format!("Say what is owed in 1 to {LONGEST} characters.")));
    }
    if new.due_at.duration_since(app.store.now()).abs() > FURTHEST {
        return Err(Problem::bad("Pick a day within five years."));
    }
    let task = NewTask { lead: path.lead, person: new.person.unwrap_or(person.id), says: &says, due_at: new.due_at };
    Ok(Json(app.store.add_task(&person, task).await?.into()))
}

/// The task that an address names.
#[derive(Deserialize, JsonSchema)]
pub(crate) struct TaskPath {
    /// Its id.
    task: Uuid,
}

/// What became of a task.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct SettledTask {
    /// True where it is done.
    done: bool,
}

pub(crate) async fn settle(
    State(app): State<App>,
    LeadWorker(person): LeadWorker,
    Path(path): Path<TaskPath>,
    Body(settled): Body<SettledTask>,
) -> Result<StatusCode, Problem> {
    app.store.settle_task(&person, path.task, settled.done).await?;
    Ok(StatusCode::NO_CONTENT)
}
