//! What a workspace's own sites know of a visitor: the secrets they sign it with, and what was used already.

use jiff::Timestamp;
use jiff_sqlx::{Timestamp as SqlTimestamp, ToSqlx};
use sqlx::PgConnection;
use uuid::Uuid;

use lumbo_people::Audited;

use crate::audit::{self, Entry};
use crate::{Store, StoreError};

/// Most secrets of one workspace: one in use, and others while sites change over.
const KEY_LIMIT: i64 = 5;

/// A secret, for those who manage it.
#[derive(Debug, Clone)]
pub struct VisitorKeyRow {
    /// Named in what is signed.
    pub id: String,
    /// Who made it.
    pub made_by: Option<String>,
    /// When, RFC 3339.
    pub made_at: Timestamp,
    /// When something signed with it was last taken, RFC 3339.
    pub used_at: Option<Timestamp>,
}

/// What was signed, to be taken once.
#[derive(Debug, Clone)]
pub struct SignedOnce {
    /// The secret's id.
    pub key: String,
    /// SHA-256 of what was signed.
    pub hash: Vec<u8>,
    /// When it expires.
    pub expires: Timestamp,
}

impl Store {
    /// The workspace's secrets, newest first, without the secrets themselves.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn visitor_keys(&self, workspace: Uuid) -> Result<Vec<VisitorKeyRow>, StoreError> {
        let rows = sqlx::query!(
            "select k.id, p.name as \"made_by?\", k.made_at as \"made_at: SqlTimestamp\", k.used_at
             as \"used_at: SqlTimestamp\" from visitor_keys k
             left join people p on p.workspace_id = k.workspace_id and p.id = k.made_by
             where k.workspace_id = $1 order by k.made_at desc, k.id",
            workspace
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows
            .into_iter()
            .map(|row| VisitorKeyRow {
                id: row.id,
                made_by: row.made_by,
                made_at: row.made_at.to_jiff(),
                used_at: row.used_at.map(SqlTimestamp::to_jiff),
            })
            .collect())
    }

    /// Keeps a new secret.
    ///
    /// # Errors
    /// [`StoreError::Conflict`] where there are enough already.
    #[crate::compiled_here]
    pub async fn add_visitor_key(
        &self,
        workspace: Uuid,
        person: Uuid,
        id: &str,
        sealed: &[u8],
    ) -> Result<(), StoreError> {
        let mut db = self.pool.begin().await?;
        let added = sqlx::query!(
            "insert into visitor_keys (workspace_id, id, sealed, made_by)
             select $1, $2, $3, $4 where (select count(*) from visitor_keys where workspace_id = $1) < $5",
            workspace,
            id,
            sealed,
            person,
            KEY_LIMIT
        )
        .execute(&mut *db)
        .await?;
        if added.rows_affected() == 0 {
            return Err(StoreError::Conflict(format!(
                "a workspace has at most {KEY_LIMIT} secrets; take out one that no site uses any more"
            )));
        }
        let about = format!("signed-in visitors: made {id}");
        let entry =
            Entry { person: Some(person), what: Audited::SecretChanged, about: &about, subject: None, network: None };
        audit::write(&mut db, workspace, &entry, self.now()).await?;
        db.commit().await?;
        Ok(())
    }

    /// Takes out a secret; what is signed with it is not taken from now on.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    #[crate::compiled_here]
    pub async fn remove_visitor_key(&self, workspace: Uuid, person: Uuid, id: &str) -> Result<(), StoreError> {
        let mut db = self.pool.begin().await?;
        let removed = sqlx::query!("delete from visitor_keys where workspace_id = $1 and id = $2", workspace, id)
            .execute(&mut *db)
            .await?;
        if removed.rows_affected() == 0 {
            return Err(StoreError::NotFound("secret"));
        }
        let about = format!("signed-in visitors: took out {id}");
        let entry =
            Entry { person: Some(person), what: Audited::SecretChanged, about: &about, subject: None, network: None };
        audit::write(&mut db, workspace, &entry, self.now()).await?;
        db.commit().await?;
        Ok(())
    }

    /// Secrets that are kept as they are, of every workspace, from a version that did not encrypt them.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn plain_visitor_keys(&self) -> Result<Vec<(Uuid, String, String)>, StoreError> {
        let rows =
            sqlx::query!("select workspace_id, id, secret as \"secret!\" from visitor_keys where secret is not null")
                .fetch_all(&self.pool)
                .await?;
        Ok(rows.into_iter().map(|row| (row.workspace_id, row.id, row.secret)).collect())
    }

    /// Keeps a secret encrypted that was kept as it is.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn seal_visitor_key(&self, workspace: Uuid, id: &str, sealed: &[u8]) -> Result<(), StoreError> {
        sqlx::query!(
            "update visitor_keys set sealed = $3, secret = null where workspace_id = $1 and id = $2",
            workspace,
            id,
            sealed
        )
        .execute(&self.pool)
        .await?;
        Ok(())
    }

    /// The secret that a workspace's sites sign with, by its id, encrypted.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn visitor_secret(&self, workspace: Uuid, id: &str) -> Result<Option<Vec<u8>>, StoreError> {
        Ok(sqlx::query_scalar!(
            "select sealed as \"sealed!\" from visitor_keys where workspace_id = $1 and id = $2
             and sealed is not null",
            workspace,
            id
        )
        .fetch_optional(&self.pool)
        .await?)
    }

    /// The same for the workspace of a dialogue that is on air, with the workspace.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn visitor_secret_at(&self, slug: &str, id: &str) -> Result<Option<(Uuid, Vec<u8>)>, StoreError> {
        let row = sqlx::query!(
            "select k.workspace_id, k.sealed as \"sealed!\" from dialogues d
             join visitor_keys k on k.workspace_id = d.workspace_id
             where d.slug = $1 and d.on_air is not null and k.id = $2 and k.sealed is not null",
            slug,
            id
        )
        .fetch_optional(&self.pool)
        .await?;
        Ok(row.map(|row| (row.workspace_id, row.sealed)))
    }
}

/// Marks what was signed as used; false where it was before.
pub(crate) async fn use_once(
    db: &mut PgConnection,
    workspace: Uuid,
    signed: &SignedOnce,
    now: Timestamp,
) -> Result<bool, StoreError> {
    let now = now.to_sqlx();
    sqlx::query!("delete from visitor_tokens where workspace_id = $1 and expires_at < $2", workspace, now as _)
        .execute(&mut *db)
        .await?;
    let fresh = sqlx::query!(
        "insert into visitor_tokens (workspace_id, hash, expires_at) values ($1, $2, $3) on conflict do nothing",
        workspace,
        signed.hash,
        signed.expires.to_sqlx() as _
    )
    .execute(&mut *db)
    .await?;
    sqlx::query!(
        "update visitor_keys set used_at = $3 where workspace_id = $1 and id = $2",
        workspace,
        signed.key,
        now as _
    )
    .execute(db)
    .await?;
    Ok(fresh.rows_affected() > 0)
}
