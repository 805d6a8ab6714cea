//! What authors say to each other about rows of a draft.

use jiff::Timestamp;
use jiff_sqlx::{Timestamp as SqlTimestamp, ToSqlx};
use uuid::Uuid;

use crate::live::{self, Topic};
use crate::{Store, StoreError};

/// Most comments on one dialogue that are listed, newest first.
const COMMENT_LIMIT: i64 = 500;

/// A comment.
#[derive(Debug, Clone)]
pub struct Comment {
    /// Its id.
    pub id: Uuid,
    /// The row it is about, as `turn:ID`, `arm:ID` or `section:ID`.
    pub at: String,
    /// Who says it.
    pub person: String,
    /// What it says.
    pub says: String,
    /// When, RFC 3339.
    pub made_at: Timestamp,
    /// Who resolved it; absent while it is open.
    pub resolved_by: Option<String>,
}

impl Store {
    /// Comments on a dialogue, oldest first; the newest 500.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn comments(&self, workspace: Uuid, dialogue: Uuid) -> Result<Vec<Comment>, StoreError> {
        let rows = sqlx::query!(
            "select c.id, c.at_row, p.name as person, c.says, c.made_at as \"made_at: SqlTimestamp\", r.name as
             \"resolved_by?\"
             from comments c join people p on p.workspace_id = c.workspace_id and p.id = c.person_id
             left join people r on r.workspace_id = c.workspace_id and r.id = c.resolved_by
             where c.workspace_id = $1 and c.dialogue_id = $2 order by c.made_at desc, c.id desc limit $3",
            workspace,
            dialogue,
            COMMENT_LIMIT
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows
            .into_iter()
            .rev()
            .map(|row| Comment {
                id: row.id,
                at: row.at_row,
                person: row.person,
                says: row.says,
                made_at: row.made_at.to_jiff(),
                resolved_by: row.resolved_by,
            })
            .collect())
    }

    /// Says something about a row.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where the workspace has no such dialogue.
    #[crate::compiled_here]
    pub async fn add_comment(
        &self,
        workspace: Uuid,
        dialogue: Uuid,
        person: Uuid,
        at: &str,
        says: &str,
    ) -> Result<Uuid, StoreError> {
        let (id, now) = (Uuid::now_v7(), self.now());
        let mut db = self.pool.begin().await?;
        let made = sqlx::query!(
            "insert into comments (id, workspace_id, dialogue_id, at_row, person_id, says, made_at)
             select $1, d.workspace_id, d.id, $4, $5, $6, $7 from dialogues d where d.workspace_id = $2 and d.id = $3",
            id,
            workspace,
            dialogue,
            at,
            person,
            says,
            now.to_sqlx() as _
        )
        .execute(&mut *db)
        .await?;
        if made.rows_affected() == 0 {
            return Err(StoreError::NotFound("dialogue"));
        }
        live::add(&mut db, workspace, Topic::Draft(dialogue), "comment", now).await?;
        db.commit().await?;
        self.wakes.stream(workspace);
        Ok(id)
    }

    /// Resolves a comment, or opens it again.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    #[crate::compiled_here]
    pub async fn resolve_comment(
        &self,
        workspace: Uuid,
        dialogue: Uuid,
        comment: Uuid,
        person: Uuid,
        resolved: bool,
    ) -> Result<(), StoreError> {
        let now = self.now();
        let mut db = self.pool.begin().await?;
        let changed = sqlx::query!(
            "update comments set resolved_at = case when $4 then $6::timestamptz end, resolved_by = case when $4 then
             $5::uuid end
             where workspace_id = $1 and dialogue_id = $2 and id = $3",
            workspace,
            dialogue,
            comment,
            resolved,
            person,
            now.to_sqlx() as _
        )
        .execute(&mut *db)
        .await?;
        if changed.rows_affected() == 0 {
            return Err(StoreError::NotFound("comment"));
        }
        live::add(&mut db, workspace, Topic::Draft(dialogue), "comment", now).await?;
        db.commit().await?;
        self.wakes.stream(workspace);
        Ok(())
    }
}
