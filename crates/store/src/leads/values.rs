//! Values of contacts and companies, each with where it came from and what stood there before.

use jiff::Timestamp;
use jiff_sqlx::ToSqlx;
use lumbo_records::{AlsoGiven, Source};
use lumbo_value::Value;
use sqlx::PgConnection;
use sqlx::types::Json;
use uuid::Uuid;

use crate::StoreError;

/// Whose value it is.
#[derive(Debug, Clone, Copy)]
pub(super) struct Of {
    pub workspace: Uuid,
    /// `contact` or `company`.
    pub record: &'static str,
    pub id: Uuid,
    pub source: Source,
    pub at: Timestamp,
}

/// A field as it is kept with a value.
#[derive(Debug, Clone, Copy)]
pub(super) struct Named<'a> {
    pub id: &'a str,
    pub key: &'a str,
    pub label: &'a str,
    pub kind: &'a str,
}

/// The record and the field under which a part of who they are stands.
pub(super) fn identity(what: AlsoGiven) -> (&'static str, Named<'static>) {
    let (record, id, label, kind) = match what {
        AlsoGiven::Name => ("contact", "@name", "Name", "person_name"),
        AlsoGiven::Email => ("contact", "@email", "E-mail", "email"),
        AlsoGiven::Phone => ("contact", "@phone", "Phone", "phone"),
        AlsoGiven::Company => ("company", "@name", "Company", "company"),
    };
    (record, Named { id, key: id.trim_start_matches('@'), label, kind })
}

/// Keeps a part of who they are.
pub(super) async fn put_identity(
    db: &mut PgConnection,
    of: Of,
    field: Named<'_>,
    text: &str,
) -> Result<(), StoreError> {
    let typed = Value::text(text.to_owned());
    put(db, of, field, &typed, text).await
}

/// Keeps a part of who they are that a file says.
pub(crate) async fn put_from_file(
    db: &mut PgConnection,
    workspace: Uuid,
    what: AlsoGiven,
    id: Uuid,
    text: &str,
    at: Timestamp,
) -> Result<(), StoreError> {
    let (record, field) = identity(what);
    put_identity(db, Of { workspace, record, id, source: Source::File, at }, field, text).await
}

/// Keeps a value in the place of the one before.
pub(super) async fn put(
    db: &mut PgConnection,
    of: Of,
    field: Named<'_>,
    value: &Value,
    shown: &str,
) -> Result<(), StoreError> {
    sqlx::query!(
        "insert into record_values as v (workspace_id, record, record_id, field_id, key, label, type, value, shown,
         typed, source, at)
         values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12)
         on conflict (workspace_id, record, record_id, field_id) do update
           set key = excluded.key, label = excluded.label, type = excluded.type,
           value = excluded.value, shown = excluded.shown, typed = excluded.typed,
            source = excluded.source, at = excluded.at, before = v.value",
        of.workspace,
        of.record,
        of.id,
        field.id,
        field.key,
        field.label,
        field.kind,
        value.to_json(),
        shown,
        Json(value) as _,
        Json(of.source) as _,
        of.at.to_sqlx() as _
    )
    .execute(db)
    .await?;
    Ok(())
}
