//! Values of two contacts: compared, taken over, put back.

use std::collections::BTreeMap;

use jiff::Timestamp;
use jiff_sqlx::{Timestamp as SqlTimestamp, ToSqlx};
use lumbo_records::{Keeps, Pair, Side, Takes};
use lumbo_value::Value;
use lumbo_value::field::Policy;
use serde::{Deserialize, Serialize};
use sqlx::PgConnection;
use sqlx::types::Json;
use uuid::Uuid;

use super::moved::Moved;
use crate::StoreError;

/// A row of values as it is kept, but for whose it is.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub(super) struct ValueAsKept {
    pub(super) field_id: String,
    pub(super) key: String,
    pub(super) label: String,
    #[serde(rename = "type")]
    pub(super) kind: String,
    pub(super) value: serde_json::Value,
    pub(super) shown: String,
    pub(super) typed: Option<serde_json::Value>,
    pub(super) source: serde_json::Value,
    pub(super) at: Timestamp,
    pub(super) before: Option<serde_json::Value>,
}

pub(super) async fn values_of(
    db: &mut PgConnection,
    workspace: Uuid,
    contact: Uuid,
) -> Result<Vec<ValueAsKept>, StoreError> {
    let rows = sqlx::query!(
        "select field_id, key, label, type as kind, value, shown, typed, source, at as \"at: SqlTimestamp\", before
         from record_values where workspace_id = $1 and record = 'contact' and record_id = $2 order by field_id",
        workspace,
        contact
    )
    .fetch_all(db)
    .await?;
    Ok(rows
        .into_iter()
        .map(|row| ValueAsKept {
            field_id: row.field_id,
            key: row.key,
            label: row.label,
            kind: row.kind,
            value: row.value,
            shown: row.shown,
            typed: row.typed,
            source: row.source,
            at: row.at.to_jiff(),
            before: row.before,
        })
        .collect())
}

/// The two contacts field by field, with the policies that the workspace's fields have now.
pub(super) async fn pairs(
    db: &mut PgConnection,
    workspace: Uuid,
    stays: Uuid,
    goes: Uuid,
) -> Result<Vec<Pair>, StoreError> {
    let policies: BTreeMap<String, Policy> = sqlx::query!(
        "select id, definition -> 'policy' as \"policy: Json<Policy>\" from fields where workspace_id = $1",
        workspace
    )
    .fetch_all(&mut *db)
    .await?
    .into_iter()
    .filter_map(|row| Some((row.id, row.policy?.0)))
    .collect();
    let side = |value: &ValueAsKept| Side {
        value: value.typed.clone().and_then(|typed| serde_json::from_value::<Value>(typed).ok()),
        shown: value.shown.clone(),
        at: value.at,
    };
    let (one, other) = (values_of(db, workspace, stays).await?, values_of(db, workspace, goes).await?);
    let mut pairs: BTreeMap<&str, Pair> = BTreeMap::new();
    for (value, is_first) in one.iter().map(|value| (value, true)).chain(other.iter().map(|value| (value, false))) {
        let pair = pairs.entry(&value.field_id).or_insert_with(|| Pair {
            field: value.field_id.clone(),
            label: value.label.clone(),
            policy: policies.get(&value.field_id).copied().unwrap_or_default(),
            stays: None,
            goes: None,
        });
        *(if is_first { &mut pair.stays } else { &mut pair.goes }) = Some(side(value));
    }
    Ok(pairs.into_values().collect())
}

/// Writes what the one that stays takes over; gives what stood there, and what was written.
pub(super) async fn write_values(
    db: &mut PgConnection,
    workspace: Uuid,
    stays: Uuid,
    goes: Uuid,
    pairs: &[Pair],
    plan: &BTreeMap<String, Keeps>,
) -> Result<Vec<(Option<ValueAsKept>, ValueAsKept)>, StoreError> {
    let (one, other) = (values_of(db, workspace, stays).await?, values_of(db, workspace, goes).await?);
    let mut written = Vec::new();
    for pair in pairs {
        let Some(keeps) = plan.get(&pair.field).filter(|keeps| keeps.takes != Takes::Stays) else { continue };
        let find = |of: &[ValueAsKept]| of.iter().find(|value| value.field_id == pair.field).cloned();
        let (before, Some(mut after)) = (find(&one), find(&other)) else { continue };
        if let Some(value) = &keeps.value {
            (after.value, after.shown) = (value.to_json(), value.to_string());
            after.typed = serde_json::to_value(value).ok();
        }
        after.before = before.as_ref().map(|before| before.value.clone());
        write_value(db, workspace, stays, &after).await?;
        written.push((before, after));
    }
    Ok(written)
}

pub(super) async fn write_value(
    db: &mut PgConnection,
    workspace: Uuid,
    contact: Uuid,
    value: &ValueAsKept,
) -> Result<(), StoreError> {
    sqlx::query!(
        "insert into record_values (workspace_id, record, record_id, field_id, key, label, type, value, shown, typed,
         source, at, before) values ($1, 'contact', $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12)
         on conflict (workspace_id, record, record_id, field_id) do update
         set key = excluded.key, label = excluded.label, type = excluded.type, value = excluded.value,
           shown = excluded.shown, typed = excluded.typed, source = excluded.source, at = excluded.at,
           before = excluded.before",
        workspace,
        contact,
        value.field_id,
        value.key,
        value.label,
        value.kind,
        value.value,
        value.shown,
        value.typed,
        value.source,
        value.at.to_sqlx() as _,
        value.before
    )
    .execute(db)
    .await?;
    Ok(())
}

/// Puts back what stood there before, where it is still what the merge wrote.
pub(super) async fn restore_values(
    db: &mut PgConnection,
    workspace: Uuid,
    stays: Uuid,
    moved: &Moved,
) -> Result<(), StoreError> {
    let current = values_of(db, workspace, stays).await?;
    for (before, after) in &moved.values {
        if !current.contains(after) {
            continue;
        }
        match before {
            Some(before) => write_value(db, workspace, stays, before).await?,
            None => {
                sqlx::query!(
                    "delete from record_values where workspace_id = $1 and record = 'contact' and record_id = $2
                     and field_id = $3",
                    workspace,
                    stays,
                    after.field_id
                )
                .execute(&mut *db)
                .await?;
            }
        }
    }
    Ok(())
}
