//! What moves when two contacts become one, and goes back when they are two again.

use jiff::Timestamp;
use jiff_sqlx::ToSqlx;
use serde::{Deserialize, Serialize};
use sqlx::PgConnection;
use uuid::Uuid;

use super::values::ValueAsKept;
use crate::StoreError;
use crate::leads::lock_keys;

/// What moved, and what stood there before.
#[derive(Debug, Default, Serialize, Deserialize)]
pub(super) struct Moved {
    pub(super) leads: Vec<Uuid>,
    pub(super) also_given: Vec<Uuid>,
    pub(super) requests: Vec<Uuid>,
    /// Earlier merges into the one that went.
    pub(super) merges: Vec<Uuid>,
    /// Who the one that stays was, and is.
    pub(super) before: Identity,
    pub(super) after: Identity,
    /// Who the one that went was.
    pub(super) gone: Identity,
    /// Values of the one that stays that were written: what stood there, and what was written.
    pub(super) values: Vec<(Option<ValueAsKept>, ValueAsKept)>,
}

#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize)]
pub(super) struct Identity {
    pub(super) name: Option<String>,
    pub(super) email: Option<String>,
    pub(super) phone: Option<String>,
    pub(super) company: Option<Uuid>,
    pub(super) subject: Option<String>,
}

/// What filings match by is locked first, then both rows, each in its order: a filing meanwhile waits.
pub(super) async fn lock_both(
    db: &mut PgConnection,
    workspace: Uuid,
    stays: Uuid,
    goes: Uuid,
) -> Result<(Identity, Identity), StoreError> {
    let known = sqlx::query!(
        "select email, subject from contacts where workspace_id = $1 and id = any($2) order by id",
        workspace,
        &[stays, goes]
    )
    .fetch_all(&mut *db)
    .await?;
    let keys = known.iter().flat_map(|row| [("email", row.email.as_deref()), ("subject", row.subject.as_deref())]);
    lock_keys(db, workspace, keys).await?;
    let rows = sqlx::query!(
        "select id, name, email, phone, company_id, subject from contacts where workspace_id = $1 and id = any($2)
         and erased_at is null order by id for update",
        workspace,
        &[stays, goes]
    )
    .fetch_all(&mut *db)
    .await?;
    let of = |id: Uuid| {
        let row = rows.iter().find(|row| row.id == id).ok_or(StoreError::NotFound("contact"))?;
        Ok::<_, StoreError>(Identity {
            name: row.name.clone(),
            email: row.email.clone(),
            phone: row.phone.clone(),
            company: row.company_id,
            subject: row.subject.clone(),
        })
    };
    Ok((of(stays)?, of(goes)?))
}

pub(super) async fn write_identity(
    db: &mut PgConnection,
    workspace: Uuid,
    id: Uuid,
    identity: &Identity,
) -> Result<(), StoreError> {
    sqlx::query!(
        "update contacts set name = $3, email = $4, phone = $5, company_id = $6, subject = $7
         where workspace_id = $1 and id = $2",
        workspace,
        id,
        identity.name,
        identity.email,
        identity.phone,
        identity.company,
        identity.subject
    )
    .execute(db)
    .await?;
    Ok(())
}

/// Leads, requests and what was also given go to the one that stays, and with them what was merged into the other.
pub(super) async fn move_all(
    db: &mut PgConnection,
    workspace: Uuid,
    stays: Uuid,
    goes: Uuid,
) -> Result<Moved, StoreError> {
    let leads = sqlx::query_scalar!(
        "update leads set contact_id = $3, revision = revision + 1 where workspace_id = $1 and contact_id = $2
         returning id",
        workspace,
        goes,
        stays
    )
    .fetch_all(&mut *db)
    .await?;
    let also_given = sqlx::query_scalar!(
        "update also_given set contact_id = $3 where workspace_id = $1 and contact_id = $2 returning id",
        workspace,
        goes,
        stays
    )
    .fetch_all(&mut *db)
    .await?;
    let requests = sqlx::query_scalar!(
        "update requests set contact_id = $3 where workspace_id = $1 and contact_id = $2 returning id",
        workspace,
        goes,
        stays
    )
    .fetch_all(&mut *db)
    .await?;
    let merges = sqlx::query_scalar!(
        "update merges set kept_id = $3 where workspace_id = $1 and kept_id = $2 and undone_at is null returning id",
        workspace,
        goes,
        stays
    )
    .fetch_all(&mut *db)
    .await?;
    Ok(Moved { leads, also_given, requests, merges, ..Moved::default() })
}

/// Gives back what moved and has not gone elsewhere since.
pub(super) async fn give_back(
    db: &mut PgConnection,
    workspace: Uuid,
    stays: Uuid,
    goes: Uuid,
    moved: &Moved,
) -> Result<(), StoreError> {
    sqlx::query!(
        "update leads set contact_id = $3, revision = revision + 1 where workspace_id = $1 and contact_id = $2
         and id = any($4)",
        workspace,
        stays,
        goes,
        &moved.leads
    )
    .execute(&mut *db)
    .await?;
    sqlx::query!(
        "update also_given set contact_id = $3 where workspace_id = $1 and contact_id = $2 and id = any($4)",
        workspace,
        stays,
        goes,
        &moved.also_given
    )
    .execute(&mut *db)
    .await?;
    sqlx::query!(
        "update requests set contact_id = $3 where workspace_id = $1 and contact_id = $2 and id = any($4)",
        workspace,
        stays,
        goes,
        &moved.requests
    )
    .execute(&mut *db)
    .await?;
    sqlx::query!(
        "update merges set kept_id = $3 where workspace_id = $1 and kept_id = $2 and id = any($4)",
        workspace,
        stays,
        goes,
        &moved.merges
    )
    .execute(db)
    .await?;
    Ok(())
}

/// Ends the undo of every merge that a contact had a part in, and blanks what they kept; those that went into it go
/// with it.
pub(crate) async fn end_merges(
    db: &mut PgConnection,
    workspace: Uuid,
    contact: Uuid,
    now: Timestamp,
) -> Result<(), StoreError> {
    let gone = sqlx::query_scalar!(
        "update merges set moved = '{}', gone_name = null, emails = '{}', gone_subject = null, ended_at = $3
         where workspace_id = $1 and (kept_id = $2 or gone_id = $2) returning gone_id",
        workspace,
        contact,
        now.to_sqlx() as _
    )
    .fetch_all(&mut *db)
    .await?;
    sqlx::query!(
        "delete from record_values where workspace_id = $1 and record = 'contact' and record_id = any($2)
         and exists (select from contacts c where c.workspace_id = $1 and c.id = record_id and c.merged_into = $3)",
        workspace,
        &gone,
        contact
    )
    .execute(&mut *db)
    .await?;
    sqlx::query!(
        "update record_file_rows set wrote = '{}' where workspace_id = $1 and record_id = any($2)",
        workspace,
        &gone
    )
    .execute(&mut *db)
    .await?;
    sqlx::query!("delete from permissions where workspace_id = $1 and contact_id = any($2)", workspace, &gone)
        .execute(&mut *db)
        .await?;
    sqlx::query!(
        "update contacts set name = null, phone = null, email = null, subject = null, company_id = null,
           prefers = null, refuses = '{}', reach_by = null, reach_at = null, tags = '{}', erased_at = $4
         where workspace_id = $1 and id = any($2) and merged_into = $3",
        workspace,
        &gone,
        contact,
        now.to_sqlx() as _
    )
    .execute(db)
    .await?;
    Ok(())
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_moved_is_read_back_as_it_was_kept() {
        let value = ValueAsKept {
            field_id: "f".into(),
            key: "role".into(),
            label: "Role".into(),
            kind: "text".into(),
            value: "owner".into(),
            shown: "owner".into(),
            typed: None,
            source: "file".into(),
            at: Timestamp::UNIX_EPOCH,
            before: None,
        };
        let moved = Moved { values: vec![(None, value.clone()), (Some(value.clone()), value)], ..Moved::default() };
        let kept = serde_json::to_value(&moved).unwrap_or_default();
        let read: Moved = serde_json::from_value(kept).unwrap_or_default();
        assert_eq!(read.values, moved.values);
    }
}
