//! Sessions of signed-in people; the server decides what is in them.

use jiff::Timestamp;
use jiff_sqlx::{Timestamp as SqlTimestamp, ToSqlx};
use serde_json::Value as Json;

use crate::{Store, StoreError};

impl Store {
    /// Keeps a session under its id.
    ///
    /// # Errors
    /// [`StoreError::Database`].
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
    pub async fn delete_session(&self, id: &str) -> Result<(), StoreError> {
        sqlx::query!("delete from sessions where id = $1", id).execute(&self.pool).await?;
        Ok(())
    }
}
