//! What was computed of drafts, kept so that servers share it: one for each draft, of its newest revision that anybody
//! looked at.

use std::sync::Arc;

use jiff_sqlx::ToSqlx;
use lumbo_analysis::{Analysis, VERSION};
use sqlx::types::Json;
use uuid::Uuid;

use crate::{Store, StoreError};

/// Which state of a draft something was computed of.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub struct DraftState {
    /// The revision.
    pub revision: i64,
    /// Number of the newest release it is compared with; 0 before the first.
    pub release: i32,
}

impl Store {
    /// What was computed of a state of a draft, where somebody kept it.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn analysis(
        &self,
        workspace: Uuid,
        dialogue: Uuid,
        of: DraftState,
    ) -> Result<Option<Analysis>, StoreError> {
        let kept = sqlx::query_scalar!(
            "select body as \"body: Json<Analysis>\" from draft_analyses
             where workspace_id = $1 and dialogue_id = $2 and revision = $3 and release = $4 and version = $5",
            workspace,
            dialogue,
            of.revision,
            of.release,
            VERSION
        )
        .fetch_optional(&self.pool)
        .await?;
        Ok(kept.map(|kept| kept.0))
    }

    /// Keeps what was computed of a state of a draft; one of a later state stays.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn keep_analysis(
        &self,
        workspace: Uuid,
        dialogue: Uuid,
        of: DraftState,
        analysis: &Arc<Analysis>,
    ) -> Result<(), StoreError> {
        sqlx::query!(
            "insert into draft_analyses as kept (workspace_id, dialogue_id, revision, release, version, body, made_at)
             values ($1, $2, $3, $4, $5, $6, $7)
             on conflict (workspace_id, dialogue_id) do update
             set revision = excluded.revision, release = excluded.release, version = excluded.version,
               body = excluded.body, made_at = excluded.made_at
             where (kept.revision, kept.release) <= (excluded.revision, excluded.release)
               or kept.version <> excluded.version",
            workspace,
            dialogue,
            of.revision,
            of.release,
            VERSION,
            Json(&**analysis) as _,
            self.now().to_sqlx() as _
        )
        .execute(&self.pool)
        .await?;
        Ok(())
    }
}
