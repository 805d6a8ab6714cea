//! Silence, whether or not a page is still open: conversations whose author set a limit end by themselves, and who can
//! be reached becomes a lead marked unfinished.

use jiff::Timestamp;
use jiff_sqlx::Timestamp as SqlTimestamp;
use lumbo_dialogue::plan::Plan;
use lumbo_dialogue::talk::{Input, Refusal, SystemInput, silence_limit, unfinished_limit};
use sqlx::types::{Json, JsonRawValue};
use uuid::Uuid;

use crate::conversations::Row;
use crate::{Ended, Store, StoreError, TakeError};

impl Store {
    /// Ends a conversation that was silent for longer than its dialogue allows. One that is not silent for long enough
    /// is looked at again when it may be; one that ended meanwhile is left alone. Safe to do again: the engine takes it
    /// once.
    ///
    /// # Errors
    /// [`StoreError`], [`StoreError::Newer`] where a newer version has gone on with it.
    #[crate::compiled_here]
    pub async fn end_silent(&self, workspace: Uuid, conversation: Uuid) -> Result<Ended, StoreError> {
        self.after_silence(workspace, conversation, "silence", SystemInput::Silence, silence_limit).await
    }

    /// Makes a lead marked unfinished of a conversation that was left, where its dialogue says so. Looks again later,
    /// leaves alone and is safe to do again as [`Self::end_silent`].
    ///
    /// # Errors
    /// As [`Self::end_silent`].
    #[crate::compiled_here]
    pub async fn file_unfinished(&self, workspace: Uuid, conversation: Uuid) -> Result<Ended, StoreError> {
        self.after_silence(workspace, conversation, "unfinished", SystemInput::Unfinished, unfinished_limit).await
    }

    /// Gives the engine what the system says after silence, once it has lasted until the limit.
    async fn after_silence(
        &self,
        workspace: Uuid,
        conversation: Uuid,
        sender: &str,
        body: SystemInput,
        limit: fn(&Plan, Timestamp) -> Option<Timestamp>,
    ) -> Result<Ended, StoreError> {
        let now = self.now();
        let mut db = self.pool.acquire().await?;
        let row = sqlx::query_as!(
            Row,
            "select c.id, c.workspace_id, c.dialogue_id, c.release_id, c.state as \"state: Json<Box<JsonRawValue>>\",
             c.last_at as \"last_at: SqlTimestamp\",
               w.domains_revision from conversations c join workspaces w on w.id = c.workspace_id
                 where c.workspace_id = $1 and c.id = $2",
            workspace,
            conversation
        )
        .fetch_optional(&mut *db)
        .await?;
        let Some(row) = row else { return Ok(Ended::Done) };
        let state = row.state()?;
        let plan = self.plan_of(&mut db, workspace, row.release_id).await?;
        let limit = state.heard_at.and_then(|heard_at| limit(&plan, heard_at));
        let Some(limit) = limit.filter(|_| state.closed.is_none()) else { return Ok(Ended::Done) };
        if now < limit {
            return Ok(Ended::Later(limit));
        }
        let expects = state.sequence();
        let input = Input::system(sender, expects, expects, body);
        match self.take_at(&mut db, row, &input, now).await {
            Ok(Some(_)) | Err(TakeError::Refused(Refusal::Ended | Refusal::NoLead)) => Ok(Ended::Done),
            // It went on at this moment: looked at again at once.
            Ok(None) => Ok(Ended::Later(now)),
            Err(TakeError::Refused(refusal)) => Ok(Ended::Failed(refusal.to_string())),
            Err(TakeError::Store(error)) => Err(error),
        }
    }
}
