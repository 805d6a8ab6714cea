//! Values of contacts and companies with where they came from.

use jiff::Timestamp;
use jiff_sqlx::Timestamp as SqlTimestamp;
use lumbo_records::Source;
use serde_json::Value as Json;
use sqlx::types::Json as SqlJson;
use uuid::Uuid;

use crate::{Store, StoreError};

/// A value of a record.
#[derive(Debug, Clone)]
pub struct ValueRow {
    /// The field by id; a part of who they are begins with an at sign.
    pub field: String,
    /// Its label.
    pub label: String,
    /// The value in plain words.
    pub shown: String,
    /// Where it came from.
    pub source: Source,
    /// Name of the person, or title of the dialogue, that it came from.
    pub from: Option<String>,
    /// When.
    pub at: Timestamp,
    /// What stood there before, in the JSON form of its type.
    pub before: Option<Json>,
}

impl Store {
    /// Values of a contact or a company, in the order of their labels.
    pub(super) async fn values_of(&self, workspace: Uuid, record: &str, id: Uuid) -> Result<Vec<ValueRow>, StoreError> {
        let rows = sqlx::query!(
            "select v.field_id, v.label, v.shown, v.source as \"source: SqlJson<Source>\",
             v.at as \"at: SqlTimestamp\", v.before, coalesce(p.name, d.title) as \"from?\"
             from record_values v
             left join people p on p.workspace_id = v.workspace_id and p.id = (v.source ->> 'person')::uuid
             left join conversations c on c.workspace_id = v.workspace_id
               and c.id = (v.source ->> 'conversation')::uuid
             left join dialogues d on d.workspace_id = c.workspace_id and d.id = c.dialogue_id
             where v.workspace_id = $1 and v.record = $2 and v.record_id = $3 order by v.label, v.field_id",
            workspace,
            record,
            id
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows
            .into_iter()
            .map(|row| ValueRow {
                field: row.field_id,
                label: row.label,
                shown: row.shown,
                source: row.source.0,
                from: row.from,
                at: row.at.to_jiff(),
                before: row.before,
            })
            .collect())
    }
}
