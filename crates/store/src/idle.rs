//! Silence: conversations whose author set a limit end by themselves, whether or not a page is still open.

use jiff::{SignedDuration, Timestamp};
use jiff_sqlx::{Timestamp as SqlTimestamp, ToSqlx};
use lumbo_core::talk::{Input, InputBody, State};
use sqlx::types::Json;

use crate::conversations::Row;
use crate::{Store, StoreError};

/// Conversations ended in one go.
const BATCH: i64 = 100;
/// When one that could not be ended is tried again.
const AGAIN_AFTER: SignedDuration = SignedDuration::from_hours(1);

impl Store {
    /// Ends conversations that were silent for longer than their dialogue allows; gives how many. Several servers may do so
    /// at once: a conversation that another one ended, or that went on meanwhile, is passed over; one that cannot be ended
    /// is tried again an hour later. Every workspace's are looked at; each is then ended within its own.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    pub async fn end_silent(&self, now: Timestamp) -> Result<usize, StoreError> {
        let rows = sqlx::query!(
            "select c.id, c.workspace_id, c.dialogue_id, c.release_id, c.state as \"state: Json<State>\", c.last_at as \"last_at: SqlTimestamp\", w.domains_revision
             from conversations c join workspaces w on w.id = c.workspace_id
             where c.outcome is null and c.idle_at <= $1 order by c.idle_at limit $2",
            now.to_sqlx() as _,
            BATCH
        )
        .fetch_all(&self.pool)
        .await?;
        let mut ended = 0;
        for row in rows {
            let seconds = u32::try_from(now.duration_since(row.last_at.to_jiff()).as_secs()).unwrap_or(u32::MAX);
            let sequence = row.state.sequence();
            let input = Input { id: format!("silence-{sequence}"), expects: sequence, body: InputBody::Tick { seconds } };
            let row = Row {
                id: row.id,
                workspace_id: row.workspace_id,
                dialogue_id: row.dialogue_id,
                release_id: row.release_id,
                state: row.state,
                domains_revision: row.domains_revision,
            };
            let (workspace, conversation) = (row.workspace_id, row.id);
            let mut db = self.pool.acquire().await?;
            match self.take_at(&mut db, row, &input, now).await {
                Ok(Some(_)) => ended += 1,
                // It went on, or was ended by another server.
                Ok(None) => {}
                // One that cannot be ended must not stand before all others at every look.
                Err(error) => {
                    tracing::error!(%conversation, %error, "a silent conversation could not be ended; it is tried again later");
                    let later = now.saturating_add(AGAIN_AFTER).map_err(StoreError::kept)?;
                    sqlx::query!(
                        "update conversations set idle_at = $3 where workspace_id = $1 and id = $2 and idle_at <= $4",
                        workspace,
                        conversation,
                        later.to_sqlx() as _,
                        now.to_sqlx() as _
                    )
                    .execute(&mut *db)
                    .await?;
                }
            }
        }
        Ok(ended)
    }
}
