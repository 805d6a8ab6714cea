//! The people of a workspace: invitations, roles, access; and what holds for the whole workspace.

use aide::axum::ApiRouter;
use aide::axum::routing::{delete_with, get_with, post_with};
use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use lumbo_reading::domains::DomainLists;
use lumbo_store::{NewInvitation, Place, Role};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

use crate::api::named;
use crate::body::{Body, Path};
use crate::secret::link_secret;
use crate::signed::Administrator;
use crate::typed::{email, name, web_link, zone};
use crate::wire::people::{InvitationRow, PersonRow, WorkspaceSettings};
use crate::{App, Problem};

/// The name of this area in the document.
const TAG: &str = "People";

/// Most mail domains of the workspace's own people.
const MAIL_DOMAINS: usize = 50;

/// People.
pub(crate) fn api() -> ApiRouter<App> {
    ApiRouter::new()
        .api_route("/api/people", get_with(people, named(TAG, "people", "The people of the workspace")))
        .api_route(
            "/api/people/{person}",
            post_with(change, named(TAG, "changePerson", "Change a role, or end access")),
        )
        .api_route("/api/invitations", post_with(invite, named(TAG, "invite", "Invite somebody")))
        .api_route(
            "/api/invitations/{invitation}",
            delete_with(withdraw, named(TAG, "withdrawInvitation", "Withdraw an invitation")),
        )
        .api_route(
            "/api/settings/workspace",
            get_with(settings, named(TAG, "workspaceSettings", "What holds for the workspace"))
                .post_with(change_settings, named(TAG, "changeWorkspace", "Change what holds for the workspace")),
        )
}

/// Everybody, and who is invited.
#[derive(Serialize, JsonSchema)]
pub(crate) struct PeopleView {
    /// Those with access first, by name.
    people: Vec<PersonRow>,
    /// Open invitations, newest first.
    invitations: Vec<InvitationRow>,
}

pub(crate) async fn people(
    State(app): State<App>,
    Administrator(person): Administrator,
) -> Result<Json<PeopleView>, Problem> {
    let people = app.store.place_rows(person.workspace_id).await?;
    let invitations = app.store.invitations(person.workspace_id).await?;
    Ok(Json(PeopleView {
        people: people.into_iter().map(Into::into).collect(),
        invitations: invitations.into_iter().map(Into::into).collect(),
    }))
}

/// Somebody that an address names.
#[derive(Deserialize, JsonSchema)]
pub(crate) struct PersonPath {
    /// Their id.
    person: Uuid,
}

/// A change of somebody's place: one of the three.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields, rename_all = "snake_case")]
pub(crate) enum PersonChange {
    /// Another role.
    Role(Role),
    /// Access ended, or restored.
    Active(bool),
    /// Another team, by its name; none where empty.
    Team(String),
}

pub(crate) async fn change(
    State(app): State<App>,
    Administrator(person): Administrator,
    Path(path): Path<PersonPath>,
    Body(change): Body<PersonChange>,
) -> Result<StatusCode, Problem> {
    let change = match change {
        PersonChange::Role(role) => Place::Role(role),
        PersonChange::Active(active) => Place::Active(active),
        PersonChange::Team(team) if team.trim().is_empty() => Place::Team(None),
        PersonChange::Team(team) => Place::Team(Some(name(&team, "the team’s")?.to_owned())),
    };
    app.store.change_place(&person, path.person, change).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Somebody to invite.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Invite {
    /// Their address.
    email: String,
    /// What they will be.
    role: Role,
}

/// An invitation that was made. Its secret is shown this once.
#[derive(Serialize, JsonSchema)]
pub(crate) struct Invited {
    /// Id.
    id: Uuid,
    /// Who is invited.
    email: String,
    /// Goes behind the join page's address, after “#”; counts once, for a week.
    secret: String,
    /// Whether a mail with another link is on its way to them.
    mailed: bool,
}

pub(crate) async fn invite(
    State(app): State<App>,
    Administrator(person): Administrator,
    Body(body): Body<Invite>,
) -> Result<Json<Invited>, Problem> {
    let email = email(&body.email)?;
    let (secret, token_hash) = link_secret();
    let mailed = app.tools.mailer.is_on();
    let new = NewInvitation { email, role: body.role, token_hash: &token_hash, mailed };
    let id = app.store.invite(person.workspace_id, Some(person.id), &new).await?;
    Ok(Json(Invited { id, email: email.to_owned(), secret, mailed }))
}

/// An invitation that an address names.
#[derive(Deserialize, JsonSchema)]
pub(crate) struct InvitationPath {
    /// Its id.
    invitation: Uuid,
}

pub(crate) async fn withdraw(
    State(app): State<App>,
    Administrator(person): Administrator,
    Path(path): Path<InvitationPath>,
) -> Result<StatusCode, Problem> {
    app.store.withdraw_invitation(&person, path.invitation).await?;
    Ok(StatusCode::NO_CONTENT)
}

pub(crate) async fn settings(
    State(app): State<App>,
    Administrator(person): Administrator,
) -> Result<Json<WorkspaceSettings>, Problem> {
    Ok(Json(app.store.workspace_settings(person.workspace_id).await?.into()))
}

/// Mail domains of the workspace's own people, as people write them.
fn mail_domains(written: &[String]) -> Result<Vec<String>, Problem> {
    if written.len() > MAIL_DOMAINS {
        return Err(Problem::bad(format!("Name at most {MAIL_DOMAINS} mail domains of your own.")));
    }
    let lists = DomainLists::of(written, &[] as &[String])
        .map_err(|error| Problem::bad(crate::problem::sentence(&error.to_string())))?;
    Ok(lists.allow.into_iter().collect())
}

pub(crate) async fn change_settings(
    State(app): State<App>,
    Administrator(person): Administrator,
    Body(new): Body<WorkspaceSettings>,
) -> Result<Json<WorkspaceSettings>, Problem> {
    if !(0..=23).contains(&new.calls_from) || !(1..=24).contains(&new.calls_until) || new.calls_from >= new.calls_until
    {
        return Err(Problem::bad("Calls begin at an hour from 0 to 23 and end at a later one, 24 at the latest."));
    }
    if !(0..=600).contains(&new.least_seconds) {
        return Err(Problem::bad("Say 0 to 600 seconds as the least time that a person needs; 0 holds nothing back."));
    }
    let new = lumbo_store::WorkspaceSettings {
        calls_from: new.calls_from,
        calls_until: new.calls_until,
        revision: new.revision,
        name: name(&new.name, "the workspace’s")?.to_owned(),
        zone: zone(&new.zone)?.to_owned(),
        own_mail_domains: mail_domains(&new.own_mail_domains)?,
        least_seconds: new.least_seconds,
        privacy_link: web_link(new.privacy_link.as_deref().unwrap_or_default())?,
    };
    app.store.change_workspace(&person, &new).await?;
    Ok(Json(app.store.workspace_settings(person.workspace_id).await?.into()))
}
