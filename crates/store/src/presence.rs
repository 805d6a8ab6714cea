//! Who has a draft open.

use jiff::SignedDuration;
use jiff_sqlx::ToSqlx;
use uuid::Uuid;

use crate::live::{self, Topic};
use crate::{Store, StoreError};

/// A window that was silent for this long counts as closed.
const GONE_AFTER: SignedDuration = SignedDuration::from_secs(45);

/// Somebody who has a draft open.
#[derive(Debug, Clone)]
pub struct Present {
    /// Who.
    pub person: String,
    /// The row they are at, as `turn:ID`, `arm:ID` or `section:ID`.
    pub at: Option<String>,
}

/// What a window asks for now and then.
#[derive(Debug, Clone)]
pub struct Presence {
    /// The draft's revision.
    pub revision: i64,
    /// The others who have it open.
    pub here: Vec<Present>,
    /// Open comments.
    pub open_comments: i64,
}

impl Store {
    /// Says that somebody has a draft open, and who else has. A window that was silent for 45 seconds counts as closed.
    /// The other windows are told where something is new.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where the workspace has no such dialogue.
    #[crate::compiled_here]
    pub async fn present(
        &self,
        workspace: Uuid,
        dialogue: Uuid,
        person: Uuid,
        at: Option<&str>,
    ) -> Result<Presence, StoreError> {
        let revision = sqlx::query_scalar!(
            "select revision from drafts where workspace_id = $1 and dialogue_id = $2",
            workspace,
            dialogue
        )
        .fetch_optional(&self.pool)
        .await?
        .ok_or(StoreError::NotFound("dialogue"))?;
        let now = self.now();
        let since = now.saturating_sub(GONE_AFTER).map_err(StoreError::kept)?;
        let mut db = self.pool.begin().await?;
        let before = sqlx::query!(
            "select at_row, seen_at > $4 as \"here!\" from presence where workspace_id = $1 and dialogue_id = $2 and
             person_id = $3",
            workspace,
            dialogue,
            person,
            since.to_sqlx() as _
        )
        .fetch_optional(&mut *db)
        .await?;
        sqlx::query!(
            "insert into presence (workspace_id, dialogue_id, person_id, at_row, seen_at) values ($1, $2, $3, $4, $5)
             on conflict (dialogue_id, person_id) do update set at_row = excluded.at_row, seen_at = excluded.seen_at
               where presence.workspace_id = $1",
            workspace,
            dialogue,
            person,
            at,
            now.to_sqlx() as _
        )
        .execute(&mut *db)
        .await?;
        let news = before.is_none_or(|before| !before.here || before.at_row.as_deref() != at);
        if news {
            live::add(&mut db, workspace, Topic::Draft(dialogue), "presence", now).await?;
        }
        db.commit().await?;
        if news {
            self.wakes.stream(workspace);
        }
        let here = sqlx::query_as!(
            Present,
            "select p.name as person, h.at_row as at from presence h join people p on p.workspace_id = h.workspace_id
             and p.id = h.person_id
             where h.workspace_id = $1 and h.dialogue_id = $2 and h.person_id <> $3 and h.seen_at > $4 order by p.name",
            workspace,
            dialogue,
            person,
            since.to_sqlx() as _
        )
        .fetch_all(&self.pool)
        .await?;
        let open_comments = sqlx::query_scalar!(
            "select count(*) as \"count!\" from comments where workspace_id = $1 and dialogue_id = $2 and resolved_at
             is null",
            workspace,
            dialogue
        )
        .fetch_one(&self.pool)
        .await?;
        Ok(Presence { revision, here, open_comments })
    }
}
