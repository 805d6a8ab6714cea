//! What undoing a file does with each of its rows.

use lumbo_records::FileHolds;
use sqlx::PgConnection;
use uuid::Uuid;

use super::take::Wrote;
use crate::StoreError;

/// Gives a record again what stood there before a row, where what the row wrote still stands; true where it did.
pub(super) async fn give_back(
    db: &mut PgConnection,
    workspace: Uuid,
    holds: FileHolds,
    id: Uuid,
    wrote: &Wrote,
) -> Result<bool, StoreError> {
    let mut gave = false;
    for (key, (before, after)) in wrote {
        let done = match (holds, key.as_str()) {
            (FileHolds::Companies, "standing") => sqlx::query!(
                "update companies set standing = $3 where workspace_id = $1 and id = $2 and standing = $4",
                workspace,
                id,
                before.as_deref().unwrap_or("none"),
                after.as_deref()
            )
            .execute(&mut *db)
            .await?
            .rows_affected(),
            (FileHolds::Companies, "owner") => sqlx::query!(
                "update companies set owner_id = $3::text::uuid where workspace_id = $1 and id = $2
                 and owner_id = $4::text::uuid",
                workspace,
                id,
                before.as_deref(),
                after.as_deref()
            )
            .execute(&mut *db)
            .await?
            .rows_affected(),
            (FileHolds::Companies, "name") => sqlx::query!(
                "update companies set name = null where workspace_id = $1 and id = $2 and name = $3",
                workspace,
                id,
                after.as_deref()
            )
            .execute(&mut *db)
            .await?
            .rows_affected(),
            (FileHolds::Contacts, "name") => sqlx::query!(
                "update contacts set name = null where workspace_id = $1 and id = $2 and name = $3",
                workspace,
                id,
                after.as_deref()
            )
            .execute(&mut *db)
            .await?
            .rows_affected(),
            (FileHolds::Contacts, "phone") => sqlx::query!(
                "update contacts set phone = null where workspace_id = $1 and id = $2 and phone = $3",
                workspace,
                id,
                after.as_deref()
            )
            .execute(&mut *db)
            .await?
            .rows_affected(),
            (FileHolds::Contacts, "company") => sqlx::query!(
                "update contacts c set company_id = null where c.workspace_id = $1 and c.id = $2
                 and c.company_id = $3::text::uuid and not exists (select from leads l where l.workspace_id = $1
                   and l.contact_id = c.id)",
                workspace,
                id,
                after.as_deref()
            )
            .execute(&mut *db)
            .await?
            .rows_affected(),
            (FileHolds::Contacts, "tags") => {
                let words: Vec<String> =
                    after.iter().flat_map(|words| words.split(',')).map(str::to_lowercase).collect();
                sqlx::query!(
                    "update contacts set tags = array(select t from unnest(tags) with ordinality as t(t, n)
                       where lower(t) <> all($3) order by n) where workspace_id = $1 and id = $2 and tags <> '{}'",
                    workspace,
                    id,
                    &words
                )
                .execute(&mut *db)
                .await?
                .rows_affected()
            }
            (FileHolds::Companies | FileHolds::Contacts, _) => 0,
        };
        gave |= done > 0;
        if done > 0 && matches!(key.as_str(), "name" | "phone") {
            let record = if holds == FileHolds::Companies { "company" } else { "contact" };
            sqlx::query!(
                "delete from record_values where workspace_id = $1 and record = $2 and record_id = $3
                 and field_id = '@' || $4::text and source = '\"file\"'",
                workspace,
                record,
                id,
                key
            )
            .execute(&mut *db)
            .await?;
        }
    }
    Ok(gave)
}

/// Takes out a record that a row made, where nothing else holds on to it and nobody has said anything of it since.
pub(super) async fn take_out(
    db: &mut PgConnection,
    workspace: Uuid,
    holds: FileHolds,
    id: Uuid,
) -> Result<bool, StoreError> {
    let (record, gone) = match holds {
        FileHolds::Companies => (
            "company",
            sqlx::query!(
                "delete from companies f where f.workspace_id = $1 and f.id = $2 and f.standing = 'none'
                   and f.owner_id is null
                   and not exists (select from leads l where l.workspace_id = $1 and l.company_id = f.id)
                   and not exists (select from contacts k where k.workspace_id = $1 and k.company_id = f.id)",
                workspace,
                id
            )
            .execute(&mut *db)
            .await?
            .rows_affected(),
        ),
        FileHolds::Contacts => (
            "contact",
            sqlx::query!(
                "delete from contacts k where k.workspace_id = $1 and k.id = $2 and k.tags = '{}' and k.refuses = '{}'
                   and not exists (select from leads l where l.workspace_id = $1 and l.contact_id = k.id)
                   and not exists (select from requests r where r.workspace_id = $1 and r.contact_id = k.id)
                   and not exists (select from permissions p where p.workspace_id = $1 and p.contact_id = k.id)
                   and not exists (select from merges m where m.workspace_id = $1
                     and (m.kept_id = k.id or m.gone_id = k.id))",
                workspace,
                id
            )
            .execute(&mut *db)
            .await?
            .rows_affected(),
        ),
    };
    if gone > 0 {
        sqlx::query!(
            "delete from record_values where workspace_id = $1 and record = $2 and record_id = $3",
            workspace,
            record,
            id
        )
        .execute(db)
        .await?;
    }
    Ok(gone > 0)
}
