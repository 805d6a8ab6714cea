//! The workspace's catalogue of fields.

use lumbo_core::file::Field;
use sqlx::PgConnection;
use sqlx::types::Json;
use uuid::Uuid;

use crate::{Store, StoreError};

/// Adds a field, or changes the definition of the one with its id; the id never changes.
pub(crate) async fn put(db: &mut PgConnection, workspace: Uuid, field: &Field) -> Result<(), StoreError> {
    sqlx::query!(
        "insert into fields (workspace_id, id, key, definition) values ($1, $2, $3, $4)
         on conflict (workspace_id, id) do update set key = excluded.key, definition = excluded.definition, changed_at = now()",
        workspace,
        field.id,
        field.key,
        Json(field) as _
    )
    .execute(db)
    .await
    .map_err(|error| match error.as_database_error() {
        Some(database) if database.is_unique_violation() => {
            StoreError::Conflict(format!("another field of this workspace has the key “{}”; choose another key", field.key))
        }
        _ => error.into(),
    })?;
    Ok(())
}

impl Store {
    /// The catalogue, by key.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    pub async fn fields(&self, workspace: Uuid) -> Result<Vec<Field>, StoreError> {
        let rows = sqlx::query_scalar!("select definition as \"definition: Json<Field>\" from fields where workspace_id = $1 order by key", workspace)
            .fetch_all(&self.pool)
            .await?;
        Ok(rows.into_iter().map(|row| row.0).collect())
    }
}
