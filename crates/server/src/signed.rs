//! Who is signed in. The person is read from the database at every request, so that leaving takes effect at once.

use aide::OperationInput;
use axum::extract::FromRequestParts;
use axum::http::request::Parts;
use lumbo_store::Person;
use serde::{Deserialize, Serialize};
use tower_sessions::Session;
use uuid::Uuid;

use crate::{App, Problem};

/// Key of the signed-in person in a session.
pub(crate) const KEY: &str = "person";

/// What a session keeps.
#[derive(Debug, Clone, Copy, Serialize, Deserialize)]
pub(crate) struct SignedIn {
    pub workspace: Uuid,
    pub person: Uuid,
}

/// Anybody who is signed in.
pub struct Signed(pub Person);

/// Somebody who may write dialogues.
pub struct Writer(pub Person);

/// Somebody who may say what became of leads.
pub struct LeadWorker(pub Person);

impl FromRequestParts<App> for Signed {
    type Rejection = Problem;

    async fn from_request_parts(parts: &mut Parts, app: &App) -> Result<Self, Problem> {
        let session = Session::from_request_parts(parts, app).await.map_err(|_| Problem::away())?;
        let signed: SignedIn = session.get(KEY).await.map_err(|_| Problem::away())?.ok_or_else(Problem::signed_out)?;
        let person = app.store.person(signed.workspace, signed.person).await?.ok_or_else(Problem::signed_out)?;
        Ok(Self(person))
    }
}

impl FromRequestParts<App> for Writer {
    type Rejection = Problem;

    async fn from_request_parts(parts: &mut Parts, app: &App) -> Result<Self, Problem> {
        let Signed(person) = Signed::from_request_parts(parts, app).await?;
        if person.role.writes_dialogues() {
            Ok(Self(person))
        } else {
            Err(Problem::forbidden("Dialogues are written by authors. Ask an administrator for that role."))
        }
    }
}

impl FromRequestParts<App> for LeadWorker {
    type Rejection = Problem;

    async fn from_request_parts(parts: &mut Parts, app: &App) -> Result<Self, Problem> {
        let Signed(person) = Signed::from_request_parts(parts, app).await?;
        if person.role.works_leads() {
            Ok(Self(person))
        } else {
            Err(Problem::forbidden("Only reps and sales leads say what became of a lead."))
        }
    }
}

impl OperationInput for Signed {}
impl OperationInput for Writer {}
impl OperationInput for LeadWorker {}
