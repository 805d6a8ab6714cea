//! Conversations that a machine or a flood may have held: looked at by somebody, then filed or left.

use aide::axum::ApiRouter;
use aide::axum::routing::{get_with, post_with};
use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use jiff::Timestamp;
use lumbo_store::Suspicion;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

use crate::api::named;
use crate::body::{Body, Path};
use crate::signed::TeamLead;
use crate::{App, Problem};

/// The name of this area in the document.
const TAG: &str = "Held back";

/// What is held back.
pub(crate) fn api() -> ApiRouter<App> {
    ApiRouter::new()
        .api_route(
            "/api/held-back",
            get_with(list, named(TAG, "heldBack", "Conversations that wait for somebody to look at them")),
        )
        .api_route(
            "/api/held-back/{conversation}",
            post_with(settle, named(TAG, "settleHeldBack", "File what was held back, or leave it")),
        )
}

/// A conversation that waits.
#[derive(Serialize, JsonSchema)]
pub(crate) struct HeldBackRow {
    /// Its id.
    id: Uuid,
    /// The dialogue's id.
    dialogue: Uuid,
    /// The dialogue's title.
    title: String,
    /// When it began.
    #[schemars(with = "String")]
    started_at: Timestamp,
    /// Why it is held back.
    doubt: Suspicion,
    /// Their name, as they gave it.
    name: Option<String>,
    /// Their company.
    company: Option<String>,
    /// Their e-mail address.
    email: Option<String>,
    /// Their phone number.
    phone: Option<String>,
}

impl From<lumbo_store::HeldBackRow> for HeldBackRow {
    fn from(from: lumbo_store::HeldBackRow) -> Self {
        let lumbo_store::HeldBackRow { id, dialogue, title, started_at, doubt, who } = from;
        Self {
            id,
            dialogue,
            title,
            started_at,
            doubt,
            name: who.name,
            company: who.company,
            email: who.email,
            phone: who.phone,
        }
    }
}

pub(crate) async fn list(
    State(app): State<App>,
    TeamLead(person): TeamLead,
) -> Result<Json<Vec<HeldBackRow>>, Problem> {
    Ok(Json(app.store.held_back(person.workspace_id).await?.into_iter().map(Into::into).collect()))
}

/// The conversation that an address names.
#[derive(Deserialize, JsonSchema)]
pub(crate) struct HeldBackPath {
    /// Its id.
    conversation: Uuid,
}

/// What becomes of it.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Settled {
    /// True to file it as it would have been, also after it was left; else nothing of it is filed.
    file: bool,
}

pub(crate) async fn settle(
    State(app): State<App>,
    TeamLead(person): TeamLead,
    Path(path): Path<HeldBackPath>,
    Body(settled): Body<Settled>,
) -> Result<StatusCode, Problem> {
    app.store.settle_held_back(&person, path.conversation, settled.file).await?;
    Ok(StatusCode::NO_CONTENT)
}
