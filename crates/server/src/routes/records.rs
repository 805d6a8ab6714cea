//! Contacts and companies, what is held on a person, and how long things are kept.

use std::collections::BTreeMap;

use aide::axum::ApiRouter;
use aide::axum::routing::{get_with, post_with};
use axum::Json;
use axum::extract::State;
use axum::http::header;
use lumbo_deliver::vcard::{Card, vcard};
use lumbo_people::Audited;
use lumbo_records::{AlsoGiven, Standing, Takes, by_hand};
use lumbo_store::{Entry, StoreError};
use lumbo_value::permits::{Channel, Purpose};
use schemars::JsonSchema;
use serde::Deserialize;
use uuid::Uuid;

use super::finding::{TagBody, checked};
use crate::answer::{Card as CardAnswer, Held, Sent};
use crate::api::named;
use crate::body::{Body, Path, Query};
use crate::signed::{DataKeeper, LeadReader, LeadWorker};
use crate::wire::records::{
    AlikeRow, CompanyDetail, CompanyPage, ContactDetail, ContactPage, Erasure, Keeping, MergePreview,
};
use crate::{App, Problem};

/// The name of this area in the document.
const TAG: &str = "Records";

/// Contacts and companies.
pub(crate) fn api() -> ApiRouter<App> {
    ApiRouter::new()
        .api_route("/api/contacts", get_with(contacts, named(TAG, "contacts", "Contacts by name")))
        .api_route(
            "/api/contacts/{contact}",
            get_with(contact, named(TAG, "contact", "One contact with everything"))
                .post_with(change_contact, named(TAG, "changeContact", "Change who a contact is, by hand")),
        )
        .api_route(
            "/api/contacts/{contact}/reach",
            post_with(change_reach, named(TAG, "changeReach", "Say how a contact wants to be reached, and how not")),
        )
        .api_route(
            "/api/contacts/{contact}/permissions",
            post_with(
                change_permission,
                named(TAG, "changePermission", "Keep what a contact permits, or that they withdrew it"),
            ),
        )
        .api_route(
            "/api/contacts/{contact}/tags",
            post_with(tag, named(TAG, "tagContact", "Put a tag on a contact, or take it off")),
        )
        .api_route(
            "/api/contacts/{contact}/card",
            get_with(card, named(TAG, "contactCard", "A contact as a card for an address book")),
        )
        .api_route(
            "/api/contacts/{contact}/held",
            get_with(held, named(TAG, "heldOnContact", "Everything that is held on a contact, as one document")),
        )
        .api_route(
            "/api/contacts/{contact}/erasure",
            get_with(erasure, named(TAG, "erasure", "What erasing a contact would blank"))
                .post_with(erase, named(TAG, "eraseContact", "Erase a contact for good")),
        )
        .api_route(
            "/api/contacts/{contact}/alike",
            get_with(alike, named(TAG, "alikeContacts", "Contacts that may be the same person")),
        )
        .api_route(
            "/api/contacts/{contact}/merge/{other}",
            post_with(merge_preview, named(TAG, "mergePreview", "What making two contacts one would do")),
        )
        .api_route(
            "/api/contacts/{contact}/merge",
            post_with(merge, named(TAG, "mergeContacts", "Make two contacts one")),
        )
        .api_route(
            "/api/merges/{merge}/undo",
            post_with(undo_merge, named(TAG, "undoMerge", "Make two of a contact again")),
        )
        .api_route("/api/companies", get_with(companies, named(TAG, "companies", "Companies by name")))
        .api_route(
            "/api/companies/{company}",
            get_with(company, named(TAG, "company", "One company with everything"))
                .post_with(change_company, named(TAG, "changeCompany", "Change a company by hand")),
        )
        .api_route(
            "/api/settings/keeping",
            get_with(keeping, named(TAG, "keeping", "How long the workspace keeps what it is told"))
                .post_with(change_keeping, named(TAG, "changeKeeping", "Say how long the workspace keeps things")),
        )
}

/// Which part of a list.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Listed {
    /// What a name, an address or a number holds.
    #[serde(default)]
    search: String,
    /// The `next` of the page before.
    #[serde(default)]
    after: Option<String>,
}

/// The contact that an address names.
#[derive(Deserialize, JsonSchema)]
pub(crate) struct ContactPath {
    /// Its id.
    contact: Uuid,
}

/// The company that an address names.
#[derive(Deserialize, JsonSchema)]
pub(crate) struct CompanyPath {
    /// Its id.
    company: Uuid,
}

pub(crate) async fn contacts(
    State(app): State<App>,
    LeadReader(person): LeadReader,
    Query(listed): Query<Listed>,
) -> Result<Json<ContactPage>, Problem> {
    Ok(Json(app.store.contacts(&person, &listed.search, listed.after.as_deref()).await?.into()))
}

pub(crate) async fn contact(
    State(app): State<App>,
    LeadReader(person): LeadReader,
    Path(path): Path<ContactPath>,
) -> Result<Json<ContactDetail>, Problem> {
    let found = app.store.contact(&person, path.contact).await?;
    let entry = Entry {
        person: Some(person.id),
        what: Audited::ContactSeen,
        about: "a contact",
        subject: Some(path.contact),
        network: None,
    };
    app.store.audit(person.workspace_id, &entry).await?;
    Ok(Json(found.into()))
}

/// A change of who a contact is.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct ContactChange {
    /// Which part.
    what: AlsoGiven,
    /// What it is from now on; 200 characters at most.
    value: String,
}

pub(crate) async fn change_contact(
    State(app): State<App>,
    LeadWorker(person): LeadWorker,
    Path(path): Path<ContactPath>,
    Body(change): Body<ContactChange>,
) -> Result<Json<ContactDetail>, Problem> {
    let value = by_hand(change.what, &change.value, None).map_err(Problem::bad)?;
    let change = lumbo_store::ContactChange { what: change.what, value };
    Ok(Json(app.store.change_contact(&person, path.contact, &change).await?.into()))
}

/// How a contact wants to be reached from now on.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct ReachChange {
    /// The way they prefer, where they prefer one.
    prefers: Option<Channel>,
    /// Ways they do not want.
    refuses: Vec<Channel>,
}

pub(crate) async fn change_reach(
    State(app): State<App>,
    LeadWorker(person): LeadWorker,
    Path(path): Path<ContactPath>,
    Body(change): Body<ReachChange>,
) -> Result<Json<ContactDetail>, Problem> {
    Ok(Json(app.store.change_reach(&person, path.contact, change.prefers, &change.refuses).await?.into()))
}

/// What a contact permits from now on.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct PermissionChange {
    /// For what.
    purpose: Purpose,
    /// In which way.
    channel: Channel,
    /// True where it is given, false where it is withdrawn.
    given: bool,
    /// On what ground: how they said so, 1 to 200 characters where it is given.
    #[serde(default)]
    says: String,
}

pub(crate) async fn change_permission(
    State(app): State<App>,
    LeadWorker(person): LeadWorker,
    Path(path): Path<ContactPath>,
    Body(change): Body<PermissionChange>,
) -> Result<Json<ContactDetail>, Problem> {
    let says = change.says.trim().to_owned();
    if says.chars().count() > 200 || says.chars().any(char::is_control) || (change.given && says.is_empty()) {
        return Err(Problem::bad(
            "Say in 1 to 200 characters how they permitted it: on the phone, by mail, at a fair.",
        ));
    }
    let PermissionChange { purpose, channel, given, .. } = change;
    let change = lumbo_store::PermissionChange { purpose, channel, given, says };
    Ok(Json(app.store.change_permission(&person, path.contact, &change).await?.into()))
}

pub(crate) async fn tag(
    State(app): State<App>,
    LeadWorker(person): LeadWorker,
    Path(path): Path<ContactPath>,
    Body(body): Body<TagBody>,
) -> Result<Json<ContactDetail>, Problem> {
    Ok(Json(app.store.tag_contact(&person, path.contact, &checked(&body.tag)?, body.on).await?.into()))
}

pub(crate) async fn card(
    State(app): State<App>,
    LeadReader(person): LeadReader,
    Path(path): Path<ContactPath>,
) -> Result<Sent<CardAnswer>, Problem> {
    let contact = app.store.contact(&person, path.contact).await?;
    let entry = Entry {
        person: Some(person.id),
        what: Audited::Exported,
        about: "a contact’s card",
        subject: Some(path.contact),
        network: None,
    };
    app.store.audit(person.workspace_id, &entry).await?;
    let uid = format!("urn:uuid:{}", contact.id);
    let text = vcard(&Card {
        uid: &uid,
        name: contact.name.as_deref(),
        email: contact.email.as_deref(),
        phone: contact.phone.as_deref(),
        company: contact.company.as_ref().map(|(_, name)| name.as_str()),
    });
    Ok(Sent::new((
        [
            (header::CONTENT_TYPE, "text/vcard; charset=utf-8"),
            (header::CONTENT_DISPOSITION, "attachment; filename=\"contact.vcf\""),
        ],
        text,
    )))
}

/// In what form everything is taken out.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub(crate) enum HeldForm {
    /// A JSON document.
    #[default]
    Document,
    /// A page that one can read.
    Page,
}

/// In what form everything is taken out.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct HeldWanted {
    /// The form.
    #[serde(default)]
    form: HeldForm,
}

pub(crate) async fn held(
    State(app): State<App>,
    DataKeeper(person): DataKeeper,
    Path(path): Path<ContactPath>,
    Query(wanted): Query<HeldWanted>,
) -> Result<Sent<Held>, Problem> {
    let held = app.store.export_contact(&person, path.contact).await?;
    if wanted.form == HeldForm::Page {
        return Ok(Sent::new((
            [
                (header::CONTENT_TYPE, "text/html; charset=utf-8"),
                (header::CONTENT_DISPOSITION, "attachment; filename=\"held.html\""),
            ],
            crate::held::page(&held),
        )));
    }
    let text = serde_json::to_string_pretty(&held).map_err(|_| Problem::internal())?;
    Ok(Sent::new((
        [
            (header::CONTENT_TYPE, "application/json"),
            (header::CONTENT_DISPOSITION, "attachment; filename=\"held.json\""),
        ],
        text,
    )))
}

pub(crate) async fn erasure(
    State(app): State<App>,
    DataKeeper(person): DataKeeper,
    Path(path): Path<ContactPath>,
) -> Result<Json<Erasure>, Problem> {
    Ok(Json(app.store.erasure_of(person.workspace_id, path.contact).await?.into()))
}

/// A word that an erasure is meant.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Erase {
    /// How many leads whoever asks was told that it blanks.
    leads: usize,
    /// How many conversations.
    conversations: usize,
}

pub(crate) async fn erase(
    State(app): State<App>,
    DataKeeper(person): DataKeeper,
    Path(path): Path<ContactPath>,
    Body(erase): Body<Erase>,
) -> Result<Json<Erasure>, Problem> {
    let now = app.store.erasure_of(person.workspace_id, path.contact).await?;
    if (now.leads, now.conversations) != (erase.leads, erase.conversations) {
        let says = "there is more of them meanwhile; look again at what would be erased";
        return Err(StoreError::Conflict(says.to_owned()).into());
    }
    Ok(Json(app.store.erase_contact(&person, path.contact).await?.into()))
}

pub(crate) async fn alike(
    State(app): State<App>,
    LeadWorker(person): LeadWorker,
    Path(path): Path<ContactPath>,
) -> Result<Json<Vec<AlikeRow>>, Problem> {
    Ok(Json(app.store.alike(&person, path.contact).await?.into_iter().map(Into::into).collect()))
}

/// Two contacts.
#[derive(Deserialize, JsonSchema)]
pub(crate) struct TwoPath {
    /// The one that stays.
    contact: Uuid,
    /// The one that goes.
    other: Uuid,
}

/// Most fields that somebody chooses.
const CHOSEN: usize = 200;

/// What somebody chose, field by field; by policy where absent.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Choices {
    /// Where a value is taken from, by the field's id.
    #[serde(default)]
    takes: BTreeMap<String, Takes>,
}

pub(crate) async fn merge_preview(
    State(app): State<App>,
    LeadWorker(person): LeadWorker,
    Path(path): Path<TwoPath>,
    Body(choices): Body<Choices>,
) -> Result<Json<MergePreview>, Problem> {
    let takes = bounded(choices.takes)?;
    Ok(Json(app.store.merge_preview(&person, path.contact, path.other, &takes).await?.into()))
}

fn bounded(takes: BTreeMap<String, Takes>) -> Result<BTreeMap<String, Takes>, Problem> {
    if takes.len() > CHOSEN {
        return Err(Problem::bad(format!("Choose for at most {CHOSEN} fields.")));
    }
    Ok(takes)
}

/// Two contacts to make one.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Merge {
    /// The one that goes.
    other: Uuid,
    /// Where a value is taken from, by the field's id; by policy where absent.
    #[serde(default)]
    takes: BTreeMap<String, Takes>,
}

pub(crate) async fn merge(
    State(app): State<App>,
    LeadWorker(person): LeadWorker,
    Path(path): Path<ContactPath>,
    Body(merge): Body<Merge>,
) -> Result<Json<ContactDetail>, Problem> {
    let takes = bounded(merge.takes)?;
    Ok(Json(app.store.merge_contacts(&person, path.contact, merge.other, &takes).await?.into()))
}

/// The merge that an address names.
#[derive(Deserialize, JsonSchema)]
pub(crate) struct MergePath {
    /// Its id.
    merge: Uuid,
}

pub(crate) async fn undo_merge(
    State(app): State<App>,
    LeadWorker(person): LeadWorker,
    Path(path): Path<MergePath>,
) -> Result<Json<ContactDetail>, Problem> {
    Ok(Json(app.store.undo_merge(&person, path.merge).await?.into()))
}

pub(crate) async fn companies(
    State(app): State<App>,
    LeadReader(person): LeadReader,
    Query(listed): Query<Listed>,
) -> Result<Json<CompanyPage>, Problem> {
    Ok(Json(app.store.companies(&person, &listed.search, listed.after.as_deref()).await?.into()))
}

pub(crate) async fn company(
    State(app): State<App>,
    LeadReader(person): LeadReader,
    Path(path): Path<CompanyPath>,
) -> Result<Json<CompanyDetail>, Problem> {
    Ok(Json(app.store.company(&person, path.company).await?.into()))
}

/// A change of a company; what is absent stays.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct CompanyChange {
    /// Its name; 200 characters at most.
    #[serde(default)]
    name: Option<String>,
    /// What it is to us.
    #[serde(default)]
    standing: Option<Standing>,
    /// Whether who looks after it changes.
    #[serde(default)]
    changes_owner: bool,
    /// Who looks after it; nobody where absent.
    #[serde(default)]
    owner: Option<Uuid>,
}

pub(crate) async fn change_company(
    State(app): State<App>,
    LeadWorker(person): LeadWorker,
    Path(path): Path<CompanyPath>,
    Body(change): Body<CompanyChange>,
) -> Result<Json<CompanyDetail>, Problem> {
    let name = change.name.map(|name| by_hand(AlsoGiven::Company, &name, None)).transpose().map_err(Problem::bad)?;
    let owner = change.changes_owner.then_some(change.owner);
    let change = lumbo_store::CompanyChange { name, standing: change.standing, owner };
    Ok(Json(app.store.change_company(&person, path.company, &change).await?.into()))
}

pub(crate) async fn keeping(State(app): State<App>, DataKeeper(person): DataKeeper) -> Result<Json<Keeping>, Problem> {
    Ok(Json(app.store.keeping(person.workspace_id).await?.into()))
}

pub(crate) async fn change_keeping(
    State(app): State<App>,
    DataKeeper(person): DataKeeper,
    Body(new): Body<Keeping>,
) -> Result<Json<Keeping>, Problem> {
    let days = 1..=3_650;
    if !days.contains(&new.unreached_days) || !days.contains(&new.unfinished_days) {
        return Err(Problem::bad("Take 1 to 3,650 days."));
    }
    if !(1..=120).contains(&new.lead_months) {
        return Err(Problem::bad("Take 1 to 120 months."));
    }
    app.store.change_keeping(&person, new.into()).await?;
    Ok(Json(app.store.keeping(person.workspace_id).await?.into()))
}
