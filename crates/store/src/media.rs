//! Pictures and documents that dialogues show.

use uuid::Uuid;

use crate::{Store, StoreError};

/// A picture's or document's content with its media type.
#[derive(Debug, Clone)]
pub struct Medium {
    /// Its media type.
    pub media_type: String,
    /// Its bytes.
    pub content: Vec<u8>,
}

/// A megabyte, bytes.
const MEGABYTE: i64 = 1024 * 1024;
/// Most that a workspace's pictures and documents take together, bytes.
const QUOTA: i64 = 500 * MEGABYTE;

impl Store {
    /// Keeps a picture or document under the hash of its content; the same content twice is kept once.
    ///
    /// # Errors
    /// [`StoreError::Conflict`] where the workspace holds as much as it may.
    #[crate::compiled_here]
    pub async fn put_medium(
        &self,
        workspace: Uuid,
        person: Uuid,
        hash: &str,
        medium: &Medium,
    ) -> Result<(), StoreError> {
        let held = sqlx::query_scalar!(
            "select coalesce(sum(octet_length(content)), 0)::bigint as \"held!\" from media where workspace_id = $1
             and hash <> $2",
            workspace,
            hash
        )
        .fetch_one(&self.pool)
        .await?;
        if held.saturating_add(i64::try_from(medium.content.len()).unwrap_or(i64::MAX)) > QUOTA {
            return Err(StoreError::Conflict(format!(
                "this workspace’s pictures and documents take {} MB, which is the most there may be",
                QUOTA / MEGABYTE
            )));
        }
        sqlx::query!(
            "insert into media (workspace_id, hash, media_type, content, made_by) values ($1, $2, $3, $4, $5) on
             conflict (workspace_id, hash) do nothing",
            workspace,
            hash,
            medium.media_type,
            medium.content,
            person
        )
        .execute(&self.pool)
        .await?;
        Ok(())
    }

    /// A picture or document of a workspace.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    #[crate::compiled_here]
    pub async fn medium(&self, workspace: Uuid, hash: &str) -> Result<Medium, StoreError> {
        sqlx::query_as!(
            Medium,
            "select media_type, content from media where workspace_id = $1 and hash = $2",
            workspace,
            hash
        )
        .fetch_optional(&self.pool)
        .await?
        .ok_or(StoreError::NotFound("picture or document"))
    }

    /// A picture or document that a release of the dialogue at an address shows: the one on air, or one that
    /// conversations are still on.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where no release of it names the hash.
    #[crate::compiled_here]
    pub async fn shown_medium(&self, slug: &str, hash: &str) -> Result<Medium, StoreError> {
        sqlx::query_as!(
            Medium,
            "select m.media_type, m.content from dialogues d join media m on m.workspace_id = d.workspace_id and
             m.hash = $2
             where d.slug = $1 and exists (select 1 from releases r where r.workspace_id = d.workspace_id
               and r.dialogue_id = d.id and r.body -> 'media' ? $2)",
            slug,
            hash
        )
        .fetch_optional(&self.pool)
        .await?
        .ok_or(StoreError::NotFound("picture or document"))
    }

    /// Which of these hashes the workspace has.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    pub(crate) async fn known_media(
        db: &mut sqlx::PgConnection,
        workspace: Uuid,
        hashes: &[String],
    ) -> Result<Vec<String>, StoreError> {
        Ok(sqlx::query_scalar!("select hash from media where workspace_id = $1 and hash = any($2)", workspace, hashes)
            .fetch_all(db)
            .await?)
    }
}
