//! Who is signed in, and what their role lets them do. The person is read from the database at every request, so that
//! leaving takes effect at once. Every route of people takes one of these, and with it names its action.

use aide::OperationInput;
use axum::extract::FromRequestParts;
use axum::http::request::Parts;
use jiff::{SignedDuration, Timestamp};
use lumbo_people::Action;
use lumbo_store::Person;
use serde::{Deserialize, Serialize};
use tower_sessions::Session;
use uuid::Uuid;

use crate::{App, Problem, bearer};

/// Key of the signed-in person in a session.
pub(crate) const KEY: &str = "person";
/// Key of the browser's name in a session.
pub(crate) const AGENT: &str = "agent";
/// A session ends this long after signing in, whatever happens meanwhile.
const LONGEST: SignedDuration = SignedDuration::from_hours(30 * 24);
/// How often it is written down that a session is in use.
const NOTED: SignedDuration = SignedDuration::from_mins(5);

/// What a session keeps.
#[derive(Debug, Clone, Copy, Serialize, Deserialize)]
pub(crate) struct SignedIn {
    pub workspace: Uuid,
    pub person: Uuid,
    account: Uuid,
    /// When somebody signed in, seconds since 1970.
    since: i64,
    /// When it was last used, seconds since 1970.
    seen: i64,
}

impl SignedIn {
    pub(crate) fn new(person: &Person, now: Timestamp) -> Self {
        let now = now.as_second();
        Self { workspace: person.workspace_id, person: person.id, account: person.account, since: now, seen: now }
    }
}

/// Who asks for something: a program by its token, or else whoever a session says that has not had its time.
async fn person(parts: &mut Parts, app: &App, action: Action) -> Result<Person, Problem> {
    if bearer::is_brought(&parts.headers) {
        return bearer::holder(app, &parts.headers, &parts.method, action).await;
    }
    let session = Session::from_request_parts(parts, app).await.map_err(|_| Problem::away())?;
    let signed: SignedIn = session.get(KEY).await.map_err(|_| Problem::away())?.ok_or_else(Problem::signed_out)?;
    let now = app.store.now().as_second();
    if now - signed.since > LONGEST.as_secs() {
        session.flush().await.map_err(|_| Problem::away())?;
        return Err(Problem::signed_out());
    }
    if now - signed.seen > NOTED.as_secs() {
        // Written down again, it ends by inactivity from now on.
        session.insert(KEY, SignedIn { seen: now, ..signed }).await.map_err(|_| Problem::away())?;
    }
    app.store.person(signed.workspace, signed.person).await?.ok_or_else(Problem::signed_out)
}

macro_rules! may {
    ($($(#[$says:meta])* $name:ident => $action:expr;)*) => {$(
        $(#[$says])*
        pub struct $name(pub Person);

        impl FromRequestParts<App> for $name {
            type Rejection = Problem;

            async fn from_request_parts(parts: &mut Parts, app: &App) -> Result<Self, Problem> {
                let person = person(parts, app, $action).await?;
                if person.role.may($action) { Ok(Self(person)) } else { Err(Problem::forbidden($action.refused())) }
            }
        }

        impl OperationInput for $name {}
    )*};
}

may! {
    /// Anybody who is signed in.
    Signed => Action::BeSignedIn;
    /// Somebody who reads leads.
    LeadReader => Action::ReadLeads;
    /// Somebody who may write dialogues.
    Writer => Action::WriteDialogues;
    /// Somebody who may say what became of leads.
    LeadWorker => Action::WorkLeads;
    /// Somebody who leads the team.
    TeamLead => Action::LeadTeam;
    /// Somebody who reads who did what.
    Auditor => Action::ReadAudit;
    /// Somebody who looks after people and the workspace.
    Administrator => Action::ManagePeople;
    /// Somebody who sees where leads are sent, and how that goes.
    SendingWatcher => Action::WatchSending;
    /// Somebody who handles secrets.
    SecretKeeper => Action::HandleSecrets;
    /// Somebody who takes out and erases what is held on people.
    DataKeeper => Action::KeepData;
}
