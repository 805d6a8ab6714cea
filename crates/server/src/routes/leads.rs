//! Leads, as reps work them.

use axum::Json;
use axum::extract::{Path, Query, State};
use lumbo_store::{LeadDetail, LeadFilter, LeadRow, OutcomeChange};
use schemars::JsonSchema;
use serde::Deserialize;
use uuid::Uuid;

use crate::body::Body;
use crate::signed::{LeadWorker, Signed};
use crate::{App, Problem};

/// Which leads.
#[derive(Deserialize, JsonSchema)]
pub(crate) struct LeadQuery {
    /// Mine, my queues', or all that I may see.
    show: LeadFilter,
}

/// The lead that an address names.
#[derive(Deserialize, JsonSchema)]
pub(crate) struct LeadPath {
    /// Its id.
    lead: Uuid,
}

pub(crate) async fn list(State(app): State<App>, Signed(person): Signed, Query(query): Query<LeadQuery>) -> Result<Json<Vec<LeadRow>>, Problem> {
    Ok(Json(app.store.leads(&person, query.show).await?))
}

pub(crate) async fn detail(State(app): State<App>, Signed(person): Signed, Path(path): Path<LeadPath>) -> Result<Json<LeadDetail>, Problem> {
    Ok(Json(app.store.lead(&person, path.lead).await?))
}

/// Checks what a rep says became of a lead.
fn checked(mut change: OutcomeChange) -> Result<OutcomeChange, Problem> {
    if !matches!(change.status.as_str(), "new" | "called" | "won" | "lost" | "not_a_fit") {
        return Err(Problem::bad("A lead is new, called, won, lost or not a fit."));
    }
    change.reason = change.reason.map(|reason| reason.trim().to_owned()).filter(|reason| !reason.is_empty());
    if change.reason.as_ref().is_some_and(|reason| reason.chars().count() > 500) {
        return Err(Problem::bad("A reason has at most 500 characters."));
    }
    if change.status == "lost" && change.reason.is_none() {
        return Err(Problem::bad("Say why it was lost; the numbers are worth nothing without it."));
    }
    if !matches!(change.status.as_str(), "lost" | "not_a_fit") {
        change.reason = None;
    }
    Ok(change)
}

pub(crate) async fn outcome(
    State(app): State<App>,
    LeadWorker(person): LeadWorker,
    Path(path): Path<LeadPath>,
    Body(change): Body<OutcomeChange>,
) -> Result<Json<LeadDetail>, Problem> {
    Ok(Json(app.store.change_outcome(&person, path.lead, &checked(change)?).await?))
}

#[cfg(test)]
mod tests {
    use super::*;

    fn check(status: &str, reason: Option<&str>) -> Result<Option<String>, u16> {
        checked(OutcomeChange { revision: 1, status: status.into(), reason: reason.map(str::to_owned) })
            .map(|change| change.reason)
            .map_err(|problem| problem.status)
    }

    #[test]
    fn lost_needs_a_reason_and_won_takes_none() {
        assert_eq!(check("lost", Some(" price ")), Ok(Some("price".into())));
        assert_eq!(check("lost", Some("  ")), Err(422));
        assert_eq!(check("won", Some("price")), Ok(None));
        assert_eq!(check("not_a_fit", None), Ok(None));
        assert_eq!(check("gone", None), Err(422));
        assert_eq!(check("lost", Some(&"x".repeat(501))), Err(422));
    }
}
