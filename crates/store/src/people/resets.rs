//! A way to a new password, by mail: a link that counts once, for an hour.

use jiff::{SignedDuration, Timestamp};
use jiff_sqlx::ToSqlx;
use lumbo_people::Audited;
use uuid::Uuid;

use crate::jobs::{self, JobKind};
use crate::sessions::end_sessions;
use crate::{Store, StoreError};

/// How long a link counts.
const COUNTS_FOR: SignedDuration = SignedDuration::from_hours(1);
/// Most mails for one account in that time.
const MOST: i64 = 3;

impl Store {
    /// Sets a mail with a way to a new password, where the address has an account that is somewhere, and not too many
    /// were asked for; who asks does not learn which.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn ask_for_reset(&self, email: &str) -> Result<(), StoreError> {
        let now = self.now();
        let mut db = self.pool.begin().await?;
        let since = now.checked_sub(COUNTS_FOR).unwrap_or(now);
        let account = sqlx::query!(
            "select a.id, p.workspace_id from accounts a join people p on p.account_id = a.id and p.active
             where lower(a.email) = lower($1)
               and (select count(*) from resets r where r.account_id = a.id and r.made_at > $2) < $3
             order by p.workspace_id limit 1 for update of a",
            email,
            since.to_sqlx() as _,
            MOST
        )
        .fetch_optional(&mut *db)
        .await?;
        let Some(account) = account else { return Ok(()) };
        let id = Uuid::now_v7();
        sqlx::query!(
            "insert into resets (id, account_id, made_at, expires_at) values ($1, $2, $3, $4)",
            id,
            account.id,
            now.to_sqlx() as _,
            now.checked_add(COUNTS_FOR).unwrap_or(now).to_sqlx() as _
        )
        .execute(&mut *db)
        .await?;
        jobs::set(&mut db, account.workspace_id, JobKind::ResetMail, id, &id.to_string(), now, now).await?;
        db.commit().await?;
        self.wakes.jobs();
        Ok(())
    }

    /// Gives an open way to a new password its secret, by the SHA-256 of it; gives the address that the mail goes to,
    /// or nothing where it has had its time.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn reset_to_mail(&self, id: Uuid, token_hash: &[u8]) -> Result<Option<String>, StoreError> {
        Ok(sqlx::query_scalar!(
            "update resets r set token_hash = $2 from accounts a where r.id = $1 and a.id = r.account_id
             and r.used_at is null and r.expires_at > $3 returning a.email",
            id,
            token_hash,
            self.now().to_sqlx() as _
        )
        .fetch_optional(&self.pool)
        .await?)
    }

    /// Who a way to a new password belongs to: their address and name.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where it was used, or has had its time.
    #[crate::compiled_here]
    pub async fn reset_of(&self, token_hash: &[u8]) -> Result<(String, String), StoreError> {
        let row = sqlx::query!(
            "select a.email, a.name from resets r join accounts a on a.id = r.account_id
             where r.token_hash = $1 and r.used_at is null and r.expires_at > $2",
            token_hash,
            self.now().to_sqlx() as _
        )
        .fetch_optional(&self.pool)
        .await?
        .ok_or_else(no_such_link)?;
        Ok((row.email, row.name))
    }

    /// Gives the account that a link belongs to another password, and ends every session and every other link of it.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where it was used, or has had its time.
    #[crate::compiled_here]
    pub async fn reset_password(&self, token_hash: &[u8], hash: &str) -> Result<(), StoreError> {
        let now = self.now();
        let mut db = self.pool.begin().await?;
        let account = sqlx::query_scalar!(
            "update resets set used_at = $2 where token_hash = $1 and used_at is null and expires_at > $2
             returning account_id",
            token_hash,
            now.to_sqlx() as _
        )
        .fetch_optional(&mut *db)
        .await?
        .ok_or_else(no_such_link)?;
        sqlx::query!(
            "update resets set used_at = $2 where account_id = $1 and used_at is null",
            account,
            now.to_sqlx() as _
        )
        .execute(&mut *db)
        .await?;
        sqlx::query!("update accounts set password_hash = $2 where id = $1", account, hash).execute(&mut *db).await?;
        end_sessions(&mut db, account, None).await?;
        self.audit_everywhere(&mut db, account, Audited::PasswordChanged, "by a link in a mail").await?;
        db.commit().await?;
        Ok(())
    }
}

/// Clears away what has had its time.
pub(crate) async fn forget_resets(db: &sqlx::PgPool, now: Timestamp) -> Result<(), StoreError> {
    let old = now.checked_sub(COUNTS_FOR).unwrap_or(now);
    sqlx::query!("delete from resets where expires_at < $1", old.to_sqlx() as _).execute(db).await?;
    Ok(())
}

fn no_such_link() -> StoreError {
    StoreError::NotFound("open link; it may have been used, or be more than an hour old. Ask for another one")
}
