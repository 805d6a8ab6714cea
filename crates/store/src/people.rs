//! People who sign in.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

use crate::{Store, StoreError};

/// What a person may do.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Role {
    /// Writes dialogues, reads leads.
    Author,
    /// Works own and queue's leads.
    Rep,
    /// Works all leads.
    RepLead,
    /// Everything.
    Administrator,
}

impl Role {
    fn parse(text: &str) -> Self {
        match text {
            "author" => Self::Author,
            "rep_lead" => Self::RepLead,
            "administrator" => Self::Administrator,
            _ => Self::Rep,
        }
    }

    pub(crate) fn as_str(self) -> &'static str {
        match self {
            Self::Author => "author",
            Self::Rep => "rep",
            Self::RepLead => "rep_lead",
            Self::Administrator => "administrator",
        }
    }

    /// May read and change dialogues.
    #[must_use]
    pub fn writes_dialogues(self) -> bool {
        matches!(self, Self::Author | Self::Administrator)
    }

    /// May change what became of leads.
    #[must_use]
    pub fn works_leads(self) -> bool {
        matches!(self, Self::Rep | Self::RepLead | Self::Administrator)
    }

    /// Sees every lead of the workspace.
    #[must_use]
    pub fn sees_all_leads(self) -> bool {
        self != Self::Rep
    }
}

/// A person, with what signing in needs.
#[derive(Debug, Clone)]
pub struct Person {
    /// Id.
    pub id: Uuid,
    /// Their workspace.
    pub workspace_id: Uuid,
    /// Its name.
    pub workspace: String,
    /// Name.
    pub name: String,
    /// Address they sign in with.
    pub email: String,
    /// What they may do.
    pub role: Role,
    /// PHC string.
    pub password_hash: String,
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
    /// PHC string.
    pub password_hash: &'a str,
}

/// A person as a query gives it; the role is text there.
struct PersonRow {
    id: Uuid,
    workspace_id: Uuid,
    workspace: String,
    name: String,
    email: String,
    role: String,
    password_hash: String,
}

impl From<PersonRow> for Person {
    fn from(row: PersonRow) -> Self {
        let PersonRow { id, workspace_id, workspace, name, email, role, password_hash } = row;
        Self { id, workspace_id, workspace, name, email, role: Role::parse(&role), password_hash }
    }
}

impl Store {
    /// An active person by the address they sign in with.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    pub async fn person_by_email(&self, email: &str) -> Result<Option<Person>, StoreError> {
        let row = sqlx::query_as!(
            PersonRow,
            "select p.id, p.workspace_id, w.name as workspace, p.name, p.email, p.role, p.password_hash
             from people p join workspaces w on w.id = p.workspace_id where lower(p.email) = lower($1) and p.active",
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
    pub async fn person(&self, workspace: Uuid, id: Uuid) -> Result<Option<Person>, StoreError> {
        let row = sqlx::query_as!(
            PersonRow,
            "select p.id, p.workspace_id, w.name as workspace, p.name, p.email, p.role, p.password_hash
             from people p join workspaces w on w.id = p.workspace_id where p.workspace_id = $1 and p.id = $2
               and p.active",
            workspace,
            id
        )
        .fetch_optional(&self.pool)
        .await?;
        Ok(row.map(Person::from))
    }
}
