//! Mails that people write from a lead, and saved replies.

use aide::axum::ApiRouter;
use aide::axum::routing::{delete_with, get_with, post_with};
use axum::Json;
use axum::extract::State;
use lumbo_records::{checked_mail, checked_reply};
use schemars::JsonSchema;
use serde::Deserialize;
use uuid::Uuid;

use crate::api::named;
use crate::body::{Body, Path};
use crate::signed::{LeadReader, LeadWorker};
use crate::wire::leads::LeadDetail;
use crate::wire::mails::{MailBegin, NewMail, SavedReply};
use crate::{App, Problem};

/// The name of this area in the document.
const TAG: &str = "Leads";

/// Mails and saved replies.
pub(crate) fn api() -> ApiRouter<App> {
    ApiRouter::new()
        .api_route(
            "/api/leads/{lead}/mails",
            get_with(begin, named(TAG, "beginMail", "What a mail from a lead begins with"))
                .post_with(write, named(TAG, "writeMail", "Write a mail from a lead; it leaves after ten seconds")),
        )
        .api_route(
            "/api/leads/{lead}/mails/{mail}/back",
            post_with(take_back, named(TAG, "takeMailBack", "Take a mail back that has not left")),
        )
        .api_route(
            "/api/replies",
            get_with(replies, named(TAG, "savedReplies", "Saved replies by name"))
                .post_with(put, named(TAG, "putReply", "Keep a saved reply")),
        )
        .api_route("/api/replies/{reply}", delete_with(drop_reply, named(TAG, "dropReply", "Take a saved reply out")))
}

/// The lead that an address names.
#[derive(Deserialize, JsonSchema)]
pub(crate) struct MailsPath {
    /// Its id.
    lead: Uuid,
}

/// The mail that an address names.
#[derive(Deserialize, JsonSchema)]
pub(crate) struct MailPath {
    /// The lead.
    lead: Uuid,
    /// The mail.
    mail: Uuid,
}

/// The saved reply that an address names.
#[derive(Deserialize, JsonSchema)]
pub(crate) struct ReplyPath {
    /// Its id.
    reply: Uuid,
}

pub(crate) async fn begin(
    State(app): State<App>,
    LeadWorker(person): LeadWorker,
    Path(path): Path<MailsPath>,
) -> Result<Json<MailBegin>, Problem> {
    Ok(Json(MailBegin::of(app.store.begin_mail(&person, path.lead).await?, app.tools.mailer.is_on())))
}

pub(crate) async fn write(
    State(app): State<App>,
    LeadWorker(person): LeadWorker,
    Path(path): Path<MailsPath>,
    Body(new): Body<NewMail>,
) -> Result<Json<LeadDetail>, Problem> {
    let (subject, body) = checked_mail(&new.subject, &new.body).map_err(Problem::bad)?;
    Ok(Json(app.store.write_mail(&person, path.lead, new.id, &subject, &body).await?.into()))
}

pub(crate) async fn take_back(
    State(app): State<App>,
    LeadWorker(person): LeadWorker,
    Path(path): Path<MailPath>,
) -> Result<Json<LeadDetail>, Problem> {
    Ok(Json(app.store.take_mail_back(&person, path.lead, path.mail).await?.into()))
}

fn listed(replies: Vec<lumbo_store::SavedReply>) -> Json<Vec<SavedReply>> {
    Json(replies.into_iter().map(Into::into).collect())
}

pub(crate) async fn replies(
    State(app): State<App>,
    LeadReader(person): LeadReader,
) -> Result<Json<Vec<SavedReply>>, Problem> {
    Ok(listed(app.store.saved_replies(person.workspace_id).await?))
}

pub(crate) async fn put(
    State(app): State<App>,
    LeadWorker(person): LeadWorker,
    Body(reply): Body<SavedReply>,
) -> Result<Json<Vec<SavedReply>>, Problem> {
    let (name, subject, body) = checked_reply(&reply.name, &reply.subject, &reply.body).map_err(Problem::bad)?;
    let reply = lumbo_store::SavedReply { id: reply.id, name, subject, body, revision: reply.revision };
    Ok(listed(app.store.put_reply(&person, &reply).await?))
}

pub(crate) async fn drop_reply(
    State(app): State<App>,
    LeadWorker(person): LeadWorker,
    Path(path): Path<ReplyPath>,
) -> Result<Json<Vec<SavedReply>>, Problem> {
    Ok(listed(app.store.drop_reply(&person, path.reply).await?))
}
