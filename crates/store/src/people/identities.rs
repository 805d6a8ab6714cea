//! Who somebody is at a sign-in provider: its issuer and subject, which never change hands, and never an address.

use jiff::Timestamp;
use jiff_sqlx::{Timestamp as SqlTimestamp, ToSqlx};
use lumbo_people::Audited;
use uuid::Uuid;

use crate::{Store, StoreError};

impl Store {
    /// The account that is linked with a provider's subject.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn account_of_identity(&self, issuer: &str, subject: &str) -> Result<Option<Uuid>, StoreError> {
        Ok(sqlx::query_scalar!(
            "select account_id from account_identities where issuer = $1 and subject = $2",
            issuer,
            subject
        )
        .fetch_optional(&self.pool)
        .await?)
    }

    /// Since when an account is linked with a provider.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn linked_since(&self, account: Uuid, issuer: &str) -> Result<Option<Timestamp>, StoreError> {
        let since = sqlx::query_scalar!(
            "select linked_at as \"linked_at: SqlTimestamp\" from account_identities where account_id = $1
             and issuer = $2",
            account,
            issuer
        )
        .fetch_optional(&self.pool)
        .await?;
        Ok(since.map(SqlTimestamp::to_jiff))
    }

    /// Links an account with a provider's subject, in place of the one it was linked with there.
    ///
    /// # Errors
    /// [`StoreError::Conflict`] where the subject is somebody else's here.
    #[crate::compiled_here]
    pub async fn link_identity(&self, account: Uuid, issuer: &str, subject: &str) -> Result<(), StoreError> {
        let mut db = self.pool.begin().await?;
        sqlx::query!("delete from account_identities where account_id = $1 and issuer = $2", account, issuer)
            .execute(&mut *db)
            .await?;
        let linked = sqlx::query!(
            "insert into account_identities (issuer, subject, account_id, linked_at) values ($1, $2, $3, $4)
             on conflict (issuer, subject) do nothing",
            issuer,
            subject,
            account,
            self.now().to_sqlx() as _
        )
        .execute(&mut *db)
        .await?;
        if linked.rows_affected() == 0 {
            return Err(StoreError::Conflict("somebody else here is linked with that account there".into()));
        }
        self.audit_everywhere(&mut db, account, Audited::ProviderLinked, "linked").await?;
        db.commit().await?;
        Ok(())
    }

    /// Takes back an account's link with a provider; nothing where there is none.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn unlink_identity(&self, account: Uuid, issuer: &str) -> Result<(), StoreError> {
        let mut db = self.pool.begin().await?;
        let unlinked =
            sqlx::query!("delete from account_identities where account_id = $1 and issuer = $2", account, issuer)
                .execute(&mut *db)
                .await?;
        if unlinked.rows_affected() > 0 {
            self.audit_everywhere(&mut db, account, Audited::ProviderLinked, "taken back").await?;
        }
        db.commit().await?;
        Ok(())
    }
}
