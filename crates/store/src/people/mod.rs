//! People in workspaces: a person's place in one, with a role. Who they are everywhere is their account ([`accounts`]).

mod accounts;
mod faces;
mod identities;
mod invitations;
mod places;
mod resets;
mod tokens;
mod tries;
mod workspaces;

use lumbo_people::{Action, Role};
use uuid::Uuid;

use crate::{Store, StoreError};

pub(crate) use accounts::make;
pub use accounts::{Account, NewAccount, SecondFactor};
pub use faces::Faces;
pub(crate) use invitations::let_in;
pub use invitations::{Invitation, InvitationRow, NewInvitation, Taking};
pub use places::{Place, PlaceRow};
pub(crate) use resets::forget_resets;
pub use tokens::{NewToken, TokenHolder, TokenRow};
pub use workspaces::{NewWorkspace, WorkspaceSettings};

/// A person in a workspace.
#[derive(Debug, Clone)]
pub struct Person {
    /// Id of their place in the workspace.
    pub id: Uuid,
    /// Who they are everywhere.
    pub account: Uuid,
    /// The workspace.
    pub workspace_id: Uuid,
    /// Its name.
    pub workspace: String,
    /// Name.
    pub name: String,
    /// Address they sign in with.
    pub email: String,
    /// What they may do.
    pub role: Role,
    /// IANA name of the zone they read moments in; the browser's where absent.
    pub zone: Option<String>,
    /// The team they belong to, where they belong to one.
    pub team: Option<String>,
}

impl Person {
    /// True where they see every lead of the workspace. Whoever leads a team sees the leads of that team.
    #[must_use]
    pub fn sees_all(&self) -> bool {
        self.role.may(Action::ReadAllLeads) && !(self.role == Role::RepLead && self.team.is_some())
    }
}

/// A person to add.
#[derive(Debug, Clone)]
pub struct NewPerson<'a> {
    /// Address they sign in with.
    pub email: &'a str,
    /// Name.
    pub name: &'a str,
    /// What they may do.
    pub role: Role,
    /// PHC string; not looked at where the address has an account already.
    pub password_hash: &'a str,
}

/// A person as a query gives it; the role is text there.
struct PersonRow {
    id: Uuid,
    account: Uuid,
    workspace_id: Uuid,
    workspace: String,
    name: String,
    email: String,
    role: String,
    zone: Option<String>,
    team: Option<String>,
}

impl From<PersonRow> for Person {
    fn from(row: PersonRow) -> Self {
        let PersonRow { id, account, workspace_id, workspace, name, email, role, zone, team } = row;
        Self { id, account, workspace_id, workspace, name, email, role: role_of(&role), zone, team }
    }
}

/// The role of a column, which the database bounds to those there are.
fn role_of(text: &str) -> Role {
    Role::parse(text).unwrap_or(Role::Viewer)
}

impl Store {
    /// An active person by the address they sign in with; of several workspaces, the one they were in last.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn person_by_email(&self, email: &str) -> Result<Option<Person>, StoreError> {
        let row = sqlx::query_as!(
            PersonRow,
            "select p.id, a.id as account, p.workspace_id, w.name as workspace, p.name, a.email, p.role, a.zone, p.team
             from accounts a join people p on p.account_id = a.id join workspaces w on w.id = p.workspace_id
             where lower(a.email) = lower($1) and p.active
             order by (p.workspace_id = a.workspace_id) is true desc, p.made_at, p.id limit 1",
            email
        )
        .fetch_optional(&self.pool)
        .await?;
        Ok(row.map(Person::from))
    }

    /// An active person of a workspace.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn person(&self, workspace: Uuid, id: Uuid) -> Result<Option<Person>, StoreError> {
        let row = sqlx::query_as!(
            PersonRow,
            "select p.id, a.id as account, p.workspace_id, w.name as workspace, p.name, a.email, p.role, a.zone, p.team
             from people p join accounts a on a.id = p.account_id join workspaces w on w.id = p.workspace_id
             where p.workspace_id = $1 and p.id = $2 and p.active",
            workspace,
            id
        )
        .fetch_optional(&self.pool)
        .await?;
        Ok(row.map(Person::from))
    }
}
