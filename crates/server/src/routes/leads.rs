//! Leads, as reps work them.

use aide::axum::ApiRouter;
use aide::axum::routing::{get_with, post_with};
use axum::Json;
use axum::extract::State;
use lumbo_dialogue::score::{Differs, ScoreResult, differs};
use lumbo_records::{LeadStatus, ListHolds, ListLook, list_holds};
use lumbo_store::LeadQuery;
use lumbo_value::Field;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

use super::scoring::score_of;
use crate::api::named;
use crate::body::{Body, Path, Query};
use crate::signed::{LeadReader, LeadWorker};
use crate::wire::leads::{
    AlsoGivenChange, Call, LeadDetail, LeadFilter, LeadPage, NextChange, Note, OutcomeChange, OwnerChange, Taker,
};
use crate::{App, Problem};

/// The name of this area in the document.
const TAG: &str = "Leads";

/// Leads.
pub(crate) fn api() -> ApiRouter<App> {
    ApiRouter::new()
        .api_route("/api/leads", get_with(list, named(TAG, "leads", "Leads in the order to call")))
        .api_route(
            "/api/leads/looked-for",
            get_with(looked_for, named(TAG, "lookedFor", "What leads can be looked for by")),
        )
        .api_route("/api/leads/{lead}", get_with(detail, named(TAG, "lead", "One lead")))
        .api_route(
            "/api/leads/{lead}/outcome",
            post_with(outcome, named(TAG, "leadOutcome", "Say what became of a lead")),
        )
        .api_route("/api/leads/{lead}/calls", post_with(call, named(TAG, "logCall", "Log a call")))
        .api_route("/api/leads/{lead}/next", post_with(next, named(TAG, "changeNext", "Say when what comes next is")))
        .api_route("/api/leads/{lead}/back", post_with(back, named(TAG, "takeBack", "Take one’s last step back")))
        .api_route("/api/leads/{lead}/notes", post_with(note, named(TAG, "addNote", "Write something about a lead")))
        .api_route("/api/leads/{lead}/owner", post_with(owner, named(TAG, "changeOwner", "Take a lead, or pass it on")))
        .api_route("/api/takers", get_with(takers, named(TAG, "takers", "Who can take a lead")))
        .api_route(
            "/api/leads/{lead}/fit",
            post_with(fit, named(TAG, "leadFit", "Say whether a lead was a fit after all")),
        )
        .api_route(
            "/api/leads/{lead}/today",
            get_with(today, named(TAG, "scoreToday", "What today’s scorecard would give a lead")),
        )
        .api_route(
            "/api/leads/{lead}/given/{given}",
            post_with(settle, named(TAG, "settleGiven", "Put on file what was also given, or leave what is there")),
        )
        .api_route(
            "/api/leads/{lead}/newer",
            post_with(accept_newer, named(TAG, "acceptNewer", "Show the newer answers that wait on a lead")),
        )
}

/// Which leads.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Wanted {
    /// Mine, my queues', or all that I may see.
    show: LeadFilter,
    /// What name, company, address, number or wishes hold; how a tag begins, behind a `#`.
    #[serde(default)]
    search: String,
    /// What else they hold, their columns and what they are sorted by: a `ListLook` as JSON.
    #[serde(default)]
    look: Option<String>,
    /// The `next` of the page before.
    #[serde(default)]
    after: Option<String>,
}

/// Longest look, bytes.
const LOOK_LIMIT: usize = 8_000;

/// How a list is looked at, by the text of an address.
pub(super) fn look_of(text: Option<&str>) -> Result<ListLook, Problem> {
    let Some(text) = text.filter(|text| !text.is_empty()) else { return Ok(ListLook::default()) };
    if text.len() > LOOK_LIMIT {
        return Err(Problem::bad("These filters are too long. Take some out."));
    }
    serde_json::from_str(text).map_err(|_| Problem::bad("These filters cannot be read. Choose them anew."))
}

/// A list of leads as a whole.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Listed {
    /// Mine, my queues', or all that I may see.
    pub(super) show: LeadFilter,
    /// What name, company, address, number or wishes hold; how a tag begins, behind a `#`.
    #[serde(default)]
    pub(super) search: String,
    /// What else they hold, their columns and what they are sorted by: a `ListLook` as JSON.
    #[serde(default)]
    pub(super) look: Option<String>,
}

/// The lead that an address names.
#[derive(Deserialize, JsonSchema)]
pub(crate) struct LeadPath {
    /// Its id.
    pub(super) lead: Uuid,
}

pub(crate) async fn list(
    State(app): State<App>,
    LeadReader(person): LeadReader,
    Query(wanted): Query<Wanted>,
) -> Result<Json<LeadPage>, Problem> {
    let look = look_of(wanted.look.as_deref())?;
    let query =
        LeadQuery { filter: wanted.show.into(), search: &wanted.search, look: &look, after: wanted.after.as_deref() };
    Ok(Json(app.store.leads(&person, &query).await?.into()))
}

/// What leads can be looked for by, beside words and tags.
#[derive(Serialize, JsonSchema)]
pub(crate) struct LookedFor {
    /// Fields of the catalogue that leads hold something in.
    fields: Vec<LookedForField>,
    /// Names of bands, the highest first.
    bands: Vec<String>,
    /// Who has leads.
    people: Vec<LookedForOne>,
    /// Queues.
    queues: Vec<LookedForOne>,
}

/// A field that leads can be looked for by.
#[derive(Serialize, JsonSchema)]
pub(crate) struct LookedForField {
    /// Its id.
    id: String,
    /// Its name.
    label: String,
    /// What it holds.
    holds: ListHolds,
    /// Its options, where they are listed.
    options: Vec<LookedForOne>,
}

/// A value that can be chosen.
#[derive(Serialize, JsonSchema)]
pub(crate) struct LookedForOne {
    /// What it is kept as.
    key: String,
    /// Its name.
    label: String,
}

pub(crate) async fn looked_for(
    State(app): State<App>,
    LeadReader(person): LeadReader,
) -> Result<Json<LookedFor>, Problem> {
    let workspace = person.workspace_id;
    let held = app.store.fields_of_leads(workspace).await?;
    let one = |key: String, label: String| LookedForOne { key, label };
    let field = |field: Field| {
        let option =
            |option: &lumbo_value::field::Choice| one(option.key.clone(), option.label.get("en", "en").to_owned());
        let options = field.options.iter().map(option).collect();
        LookedForField { holds: list_holds(field.kind), id: field.id, label: field.label, options }
    };
    let fields = app.store.fields(workspace).await?.into_iter().filter(|field| held.contains(&field.id));
    let takers = app.store.takers(workspace).await?;
    let queues = app.store.queue_names(workspace).await?;
    Ok(Json(LookedFor {
        fields: fields.map(field).collect(),
        bands: app.store.bands_of_leads(workspace).await?,
        people: takers.into_iter().map(|taker| one(taker.id.to_string(), taker.name)).collect(),
        queues: queues.into_iter().map(|(id, name)| one(id.to_string(), name)).collect(),
    }))
}

pub(crate) async fn detail(
    State(app): State<App>,
    LeadReader(person): LeadReader,
    Path(path): Path<LeadPath>,
) -> Result<Json<LeadDetail>, Problem> {
    let lead = app.store.lead(&person, path.lead).await?;
    app.store.audit_seen(&person, path.lead, &lead.dialogue).await?;
    Ok(Json(lead.into()))
}

/// Longest reason, characters.
const REASON_LIMIT: usize = 500;

/// Checks what a rep says became of a lead, and drops what does not go with the status.
fn checked(mut change: OutcomeChange) -> Result<OutcomeChange, Problem> {
    let trimmed = |text: Option<String>| text.map(|text| text.trim().to_owned()).filter(|text| !text.is_empty());
    change.reason = trimmed(change.reason).filter(|_| change.status.takes_reason());
    change.amount = trimmed(change.amount).filter(|_| change.status == LeadStatus::Won);
    change.currency = trimmed(change.currency).filter(|_| change.amount.is_some()).map(|code| code.to_uppercase());
    change.later_on = change.later_on.filter(|_| change.status == LeadStatus::Later);
    if change.reason.as_ref().is_some_and(|reason| reason.chars().count() > REASON_LIMIT) {
        return Err(Problem::bad(format!("A reason has at most {REASON_LIMIT} characters.")));
    }
    if change.reason.is_none() && change.status.needs_reason() {
        return Err(Problem::bad("Say why; the numbers are worth nothing without it."));
    }
    if change.status == LeadStatus::Later && change.later_on.is_none() {
        return Err(Problem::bad("Say on which day to call again."));
    }
    if let Some(amount) = &change.amount {
        let decimal = amount.parse::<rust_decimal::Decimal>().ok().filter(|amount| !amount.is_sign_negative());
        let code = change
            .currency
            .as_deref()
            .is_none_or(|code| code.len() == 3 && code.bytes().all(|byte| byte.is_ascii_uppercase()));
        match decimal {
            Some(decimal) if code => change.amount = Some(decimal.to_string()),
            Some(_) => return Err(Problem::bad("A currency is a code of three letters, such as GBP.")),
            None => return Err(Problem::bad("The amount is a number without a sign, such as 12500 or 12500.50.")),
        }
    }
    Ok(change)
}

pub(crate) async fn outcome(
    State(app): State<App>,
    LeadWorker(person): LeadWorker,
    Path(path): Path<LeadPath>,
    Body(change): Body<OutcomeChange>,
) -> Result<Json<LeadDetail>, Problem> {
    Ok(Json(app.store.change_outcome(&person, path.lead, &checked(change)?.into()).await?.into()))
}

/// Longest note, characters.
const NOTE_LIMIT: usize = 2_000;

/// A note, trimmed; nothing where there is none.
pub(super) fn note_of(text: Option<String>) -> Result<Option<String>, Problem> {
    let text = text.map(|text| text.trim().to_owned()).filter(|text| !text.is_empty());
    if text.as_ref().is_some_and(|text| text.chars().count() > NOTE_LIMIT) {
        return Err(Problem::bad(format!("A note has at most {NOTE_LIMIT} characters.")));
    }
    Ok(text)
}

pub(crate) async fn call(
    State(app): State<App>,
    LeadWorker(person): LeadWorker,
    Path(path): Path<LeadPath>,
    Body(call): Body<Call>,
) -> Result<Json<LeadDetail>, Problem> {
    let call = lumbo_store::Call { revision: call.revision, outcome: call.outcome, note: note_of(call.note)? };
    Ok(Json(app.store.log_call(&person, path.lead, &call).await?.into()))
}

/// How far ahead something can be put, and how far back.
const AHEAD: jiff::SignedDuration = jiff::SignedDuration::from_hours(24 * 366 * 2);
const BACK: jiff::SignedDuration = jiff::SignedDuration::from_hours(24);

pub(crate) async fn next(
    State(app): State<App>,
    LeadWorker(person): LeadWorker,
    Path(path): Path<LeadPath>,
    Body(change): Body<NextChange>,
) -> Result<Json<LeadDetail>, Problem> {
    let away = change.at.duration_since(app.store.now());
    if away > AHEAD || away < -BACK {
        return Err(Problem::bad("Take a moment from now on, within two years."));
    }
    let change = lumbo_store::NextChange { revision: change.revision, at: change.at };
    Ok(Json(app.store.change_next(&person, path.lead, change).await?.into()))
}

pub(crate) async fn back(
    State(app): State<App>,
    LeadWorker(person): LeadWorker,
    Path(path): Path<LeadPath>,
) -> Result<Json<LeadDetail>, Problem> {
    Ok(Json(app.store.take_back(&person, path.lead).await?.into()))
}

pub(crate) async fn note(
    State(app): State<App>,
    LeadWorker(person): LeadWorker,
    Path(path): Path<LeadPath>,
    Body(note): Body<Note>,
) -> Result<Json<LeadDetail>, Problem> {
    let text = note_of(Some(note.text))?.ok_or_else(|| Problem::bad("Write something first."))?;
    Ok(Json(app.store.add_note(&person, path.lead, &text).await?.into()))
}

pub(crate) async fn owner(
    State(app): State<App>,
    LeadWorker(person): LeadWorker,
    Path(path): Path<LeadPath>,
    Body(change): Body<OwnerChange>,
) -> Result<Json<LeadDetail>, Problem> {
    let change = lumbo_store::OwnerChange { revision: change.revision, to: change.to, note: note_of(change.note)? };
    Ok(Json(app.store.change_owner(&person, path.lead, &change).await?.into()))
}

pub(crate) async fn takers(
    State(app): State<App>,
    LeadWorker(person): LeadWorker,
) -> Result<Json<Vec<Taker>>, Problem> {
    Ok(Json(app.store.takers(person.workspace_id).await?.into_iter().map(Into::into).collect()))
}

/// A rep's word on whether a lead was a fit after all.
#[derive(Debug, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct FitChange {
    /// The revision that was looked at.
    revision: i64,
    /// Whether it fits; absent takes the word back.
    #[serde(default)]
    fits: Option<bool>,
    /// Id of the criterion that misled.
    #[serde(default)]
    misled: Option<String>,
}

pub(crate) async fn fit(
    State(app): State<App>,
    LeadWorker(person): LeadWorker,
    Path(path): Path<LeadPath>,
    Body(change): Body<FitChange>,
) -> Result<Json<LeadDetail>, Problem> {
    let score = app.store.lead(&person, path.lead).await?.score;
    let criteria = score.iter().flat_map(|score| &score.dimensions).flat_map(|dimension| &dimension.criteria);
    let misled = match change.misled {
        None => None,
        Some(id) => {
            let found = criteria.into_iter().find(|criterion| criterion.id == id);
            let known = found.map(|criterion| (id, criterion.label.clone()));
            Some(known.ok_or_else(|| Problem::bad("This lead’s score has no such criterion."))?)
        }
    };
    let change = lumbo_store::FitChange { revision: change.revision, fits: change.fits, misled };
    Ok(Json(app.store.change_fit(&person, path.lead, &change).await?.into()))
}

/// What today's scorecard would give a lead.
#[derive(Debug, Serialize, JsonSchema)]
pub(crate) struct ScoreToday {
    /// The score; absent where the dialogue has no scorecard now.
    score: Option<ScoreResult>,
    /// Why it differs from the one it was filed with, by line.
    differs: Vec<Differs>,
}

pub(crate) async fn today(
    State(app): State<App>,
    LeadReader(person): LeadReader,
    Path(path): Path<LeadPath>,
) -> Result<Json<ScoreToday>, Problem> {
    let lead = app.store.lead(&person, path.lead).await?;
    let plan = app.store.newest_release(person.workspace_id, lead.dialogue_id).await?;
    let filed_by = lead.score.as_ref().map(|score| score.scorecard.as_str());
    let card = plan.as_ref().and_then(|plan| {
        let same = plan.cards.iter().find(|card| Some(card.file.id.as_str()) == filed_by);
        same.or_else(|| plan.default_card.and_then(|card| plan.cards.get(card)))
    });
    let score = card.zip(plan.as_ref()).map(|(card, plan)| {
        let values = lead.fields.iter().filter_map(|field| Some((field.id.clone(), field.typed()?))).collect();
        score_of(card, &plan.file, lead.row.filed_at, values)
    });
    let differs = lead.score.as_ref().zip(score.as_ref()).map(|(then, now)| differs(then, now)).unwrap_or_default();
    Ok(Json(ScoreToday { score, differs }))
}

/// Something that was also given on a lead.
#[derive(Deserialize, JsonSchema)]
pub(crate) struct GivenPath {
    /// The lead.
    lead: Uuid,
    /// What was given.
    given: Uuid,
}

pub(crate) async fn settle(
    State(app): State<App>,
    LeadWorker(person): LeadWorker,
    Path(path): Path<GivenPath>,
    Body(change): Body<AlsoGivenChange>,
) -> Result<Json<LeadDetail>, Problem> {
    Ok(Json(app.store.settle_also_given(&person, path.lead, path.given, change.into()).await?.into()))
}

pub(crate) async fn accept_newer(
    State(app): State<App>,
    LeadWorker(person): LeadWorker,
    Path(path): Path<LeadPath>,
) -> Result<Json<LeadDetail>, Problem> {
    Ok(Json(app.store.accept_newer(&person, path.lead).await?.into()))
}

#[cfg(test)]
mod tests {
    use super::*;

    fn change(status: LeadStatus) -> OutcomeChange {
        OutcomeChange { revision: 1, status, reason: None, amount: None, currency: None, later_on: None }
    }

    fn reason(status: LeadStatus, reason: &str) -> Result<Option<String>, u16> {
        checked(OutcomeChange { reason: Some(reason.to_owned()), ..change(status) })
            .map(|change| change.reason)
            .map_err(|problem| problem.status)
    }

    #[test]
    fn lost_needs_a_reason_and_won_takes_none() {
        assert_eq!(reason(LeadStatus::Lost, " price "), Ok(Some("price".into())));
        assert_eq!((reason(LeadStatus::Lost, "  "), reason(LeadStatus::Junk, "")), (Err(422), Err(422)));
        assert_eq!(reason(LeadStatus::Won, "price"), Ok(None));
        assert_eq!(reason(LeadStatus::NotAFit, " "), Ok(None));
        assert_eq!(reason(LeadStatus::Lost, &"x".repeat(501)), Err(422));
    }

    #[test]
    fn won_takes_an_amount_and_later_needs_a_day() {
        let won = |amount: &str, currency: Option<&str>| {
            let change = OutcomeChange {
                amount: Some(amount.into()),
                currency: currency.map(str::to_owned),
                ..change(LeadStatus::Won)
            };
            checked(change).map(|change| (change.amount, change.currency)).map_err(|problem| problem.status)
        };
        assert_eq!(won(" 12500.50 ", Some("gbp")), Ok((Some("12500.50".into()), Some("GBP".into()))));
        assert_eq!(won("", Some("GBP")), Ok((None, None)));
        for (amount, currency) in [("-1", None), ("a lot", None), ("NaN", None), ("1", Some("pounds"))] {
            assert_eq!(won(amount, currency), Err(422), "{amount} {currency:?}");
        }
        assert_eq!(checked(change(LeadStatus::Later)).map_err(|problem| problem.status), Err(422));
        let spoken = OutcomeChange {
            later_on: Some("2026-12-01".parse().unwrap()),
            amount: Some("1".into()),
            ..change(LeadStatus::Spoken)
        };
        assert_eq!(
            checked(spoken).map(|change| (change.later_on, change.amount)).map_err(|problem| problem.status),
            Ok((None, None))
        );
    }
}
