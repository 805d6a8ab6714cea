//! Who has a draft open.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

use crate::{Store, StoreError};

/// Somebody who has a draft open.
#[derive(Debug, Clone, Serialize, Deserialize, JsonSchema)]
pub struct Present {
    /// Who.
    pub person: String,
    /// The row they are at, as `turn:ID`, `arm:ID` or `section:ID`.
    pub at: Option<String>,
}

/// What a window asks for now and then.
#[derive(Debug, Clone, Serialize, Deserialize, JsonSchema)]
pub struct Presence {
    /// The draft's revision.
    pub revision: i64,
    /// The others who have it open.
    pub here: Vec<Present>,
    /// Open comments.
    pub open_comments: i64,
}

impl Store {
    /// Says that somebody has a draft open, and who else has. A window that was silent for 25 seconds counts as closed.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where the workspace has no such dialogue.
    pub async fn present(&self, workspace: Uuid, dialogue: Uuid, person: Uuid, at: Option<&str>) -> Result<Presence, StoreError> {
        let revision = sqlx::query_scalar!("select revision from drafts where workspace_id = $1 and dialogue_id = $2", workspace, dialogue)
            .fetch_optional(&self.pool)
            .await?
            .ok_or(StoreError::NotFound("dialogue"))?;
        sqlx::query!(
            "insert into presence (workspace_id, dialogue_id, person_id, at_row) values ($1, $2, $3, $4)
             on conflict (dialogue_id, person_id) do update set at_row = excluded.at_row, seen_at = now() where presence.workspace_id = $1",
            workspace,
            dialogue,
            person,
            at
        )
        .execute(&self.pool)
        .await?;
        let here = sqlx::query_as!(
            Present,
            "select p.name as person, h.at_row as at from presence h join people p on p.workspace_id = h.workspace_id and p.id = h.person_id
             where h.workspace_id = $1 and h.dialogue_id = $2 and h.person_id <> $3 and h.seen_at > now() - interval '25 seconds' order by p.name",
            workspace,
            dialogue,
            person
        )
        .fetch_all(&self.pool)
        .await?;
        let open_comments = sqlx::query_scalar!(
            "select count(*) as \"count!\" from comments where workspace_id = $1 and dialogue_id = $2 and resolved_at is null",
            workspace,
            dialogue
        )
        .fetch_one(&self.pool)
        .await?;
        Ok(Presence { revision, here, open_comments })
    }
}
