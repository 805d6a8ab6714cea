//! Sessions of signed-in people; the server decides what is in them.

use jiff::Timestamp;
use jiff_sqlx::{Timestamp as SqlTimestamp, ToSqlx};
use serde_json::Value as Json;
use sqlx::PgConnection;
use uuid::Uuid;

use crate::{Store, StoreError};

/// A session, as its owner sees it.
#[derive(Debug, Clone)]
pub struct SessionRow {
    /// SHA-256 of its id.
    pub id: String,
    /// When somebody signed in.
    pub made_at: Timestamp,
    /// When it was last used, to within five minutes.
    pub seen_at: Option<Timestamp>,
    /// The browser, as it names itself.
    pub agent: String,
}

/// Ends the sessions of an account, but the one that is kept.
pub(crate) async fn end_sessions(db: &mut PgConnection, account: Uuid, keep: Option<&str>) -> Result<u64, StoreError> {
    let ended = sqlx::query!("delete from sessions where account_id = $1 and id is distinct from $2", account, keep)
        .execute(db)
        .await?;
    Ok(ended.rows_affected())
}

impl Store {
    /// Keeps a session under the SHA-256 of its id.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn save_session(&self, id: &str, data: &Json, expires_at: Timestamp) -> Result<(), StoreError> {
        sqlx::query!(
            "insert into sessions (id, data, expires_at) values ($1, $2, $3)
             on conflict (id) do update set data = excluded.data, expires_at = excluded.expires_at",
            id,
            data,
            expires_at.to_sqlx() as _
        )
        .execute(&self.pool)
        .await?;
        Ok(())
    }

    /// A session that has not expired, and when it will.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn load_session(&self, id: &str) -> Result<Option<(Json, Timestamp)>, StoreError> {
        let row = sqlx::query!(
            "select data, expires_at as \"expires_at: SqlTimestamp\" from sessions where id = $1 and expires_at > $2",
            id,
            self.now().to_sqlx() as _
        )
        .fetch_optional(&self.pool)
        .await?;
        Ok(row.map(|row| (row.data, row.expires_at.to_jiff())))
    }

    /// Ends a session.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn delete_session(&self, id: &str) -> Result<(), StoreError> {
        sqlx::query!("delete from sessions where id = $1", id).execute(&self.pool).await?;
        Ok(())
    }

    /// The sessions of an account, the one that was used last first.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn sessions_of(&self, account: Uuid) -> Result<Vec<SessionRow>, StoreError> {
        let rows = sqlx::query!(
            "select id, made_at as \"made_at: SqlTimestamp\", data ->> 'agent' as agent,
             to_timestamp((data -> 'person' ->> 'seen')::bigint) as \"seen_at: SqlTimestamp\"
             from sessions where account_id = $1 and expires_at > $2 order by 4 desc nulls last, id",
            account,
            self.now().to_sqlx() as _
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows
            .into_iter()
            .map(|row| SessionRow {
                id: row.id,
                made_at: row.made_at.to_jiff(),
                seen_at: row.seen_at.map(SqlTimestamp::to_jiff),
                agent: row.agent.unwrap_or_default(),
            })
            .collect())
    }

    /// Ends the sessions of an account, but the one that is kept; gives how many.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn end_other_sessions(&self, account: Uuid, keep: &str) -> Result<u64, StoreError> {
        end_sessions(&mut *self.pool.acquire().await?, account, Some(keep)).await
    }
}
