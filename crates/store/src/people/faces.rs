//! Pictures of people and workspaces. Each has a mark, the beginning of its SHA-256, so that a browser keeps it until it
//! is another one.

use lumbo_people::Audited;
use uuid::Uuid;

use super::Person;
use crate::audit::{self, Entry};
use crate::media::Medium;
use crate::{Store, StoreError};

/// The marks of a person's and their workspace's pictures; nothing where they have none.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Faces {
    /// The person's.
    pub person: Option<String>,
    /// The workspace's.
    pub workspace: Option<String>,
}

impl Store {
    /// The marks of a person's and their workspace's pictures.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn faces(&self, person: &Person) -> Result<Faces, StoreError> {
        Ok(sqlx::query_as!(
            Faces,
            "select left(encode(sha256(a.picture), 'hex'), 12) as person,
               left(encode(sha256(w.picture), 'hex'), 12) as workspace
             from people p join accounts a on a.id = p.account_id join workspaces w on w.id = p.workspace_id
             where p.workspace_id = $1 and p.id = $2",
            person.workspace_id,
            person.id
        )
        .fetch_one(&self.pool)
        .await?)
    }

    /// Keeps a person's picture, in every workspace that they are in; takes it out where there is none.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn set_face(&self, account: Uuid, picture: Option<&Medium>) -> Result<(), StoreError> {
        sqlx::query!(
            "update accounts set picture = $2, picture_type = $3 where id = $1",
            account,
            picture.map(|picture| picture.content.as_slice()),
            picture.map(|picture| picture.media_type.as_str())
        )
        .execute(&self.pool)
        .await?;
        Ok(())
    }

    /// The picture of somebody of a workspace.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where they have none, or are not of it.
    #[crate::compiled_here]
    pub async fn face(&self, workspace: Uuid, person: Uuid) -> Result<Medium, StoreError> {
        sqlx::query_as!(
            Medium,
            "select a.picture_type as \"media_type!\", a.picture as \"content!\" from people p
             join accounts a on a.id = p.account_id
             where p.workspace_id = $1 and p.id = $2 and a.picture is not null",
            workspace,
            person
        )
        .fetch_optional(&self.pool)
        .await?
        .ok_or(StoreError::NotFound("picture"))
    }

    /// Keeps a workspace's picture; takes it out where there is none.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn set_workspace_face(&self, by: &Person, picture: Option<&Medium>) -> Result<(), StoreError> {
        let mut db = self.pool.begin().await?;
        sqlx::query!(
            "update workspaces set picture = $2, picture_type = $3 where id = $1",
            by.workspace_id,
            picture.map(|picture| picture.content.as_slice()),
            picture.map(|picture| picture.media_type.as_str())
        )
        .execute(&mut *db)
        .await?;
        let about = if picture.is_some() { "workspace: another picture" } else { "workspace: no picture" };
        let entry = Entry { person: Some(by.id), what: Audited::SettingsChanged, about, subject: None, network: None };
        audit::write(&mut db, by.workspace_id, &entry, self.now()).await?;
        db.commit().await?;
        Ok(())
    }

    /// A workspace's picture.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where it has none.
    #[crate::compiled_here]
    pub async fn workspace_face(&self, workspace: Uuid) -> Result<Medium, StoreError> {
        sqlx::query_as!(
            Medium,
            "select picture_type as \"media_type!\", picture as \"content!\" from workspaces
             where id = $1 and picture is not null",
            workspace
        )
        .fetch_optional(&self.pool)
        .await?
        .ok_or(StoreError::NotFound("picture"))
    }
}
