//! Wrong passwords in a row, by account and network. Whatever server they come to.

use jiff::Timestamp;
use jiff_sqlx::{Timestamp as SqlTimestamp, ToSqlx};
use lumbo_people::waits;

use crate::{Store, StoreError};

impl Store {
    /// The moment from which the next password of an address is looked at from a network; nothing where that is now.
    /// `email_hash` is the SHA-256 of the folded address.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn sign_in_waits(&self, email_hash: &[u8], network: &str) -> Result<Option<Timestamp>, StoreError> {
        let row = sqlx::query!(
            "select wrong, last_at as \"last_at: SqlTimestamp\" from sign_in_tries where email_hash = $1
             and network = $2",
            email_hash,
            network
        )
        .fetch_optional(&self.pool)
        .await?;
        Ok(row.and_then(|row| waits::until(u32::try_from(row.wrong).unwrap_or(0), row.last_at.to_jiff(), self.now())))
    }

    /// Counts a wrong password; those of more than a day ago are forgotten.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn sign_in_was_wrong(&self, email_hash: &[u8], network: &str) -> Result<(), StoreError> {
        let now = self.now();
        let forgotten = now.checked_sub(waits::FORGOTTEN).unwrap_or(now);
        sqlx::query!(
            "insert into sign_in_tries (email_hash, network, wrong, last_at) values ($1, $2, 1, $3)
             on conflict (email_hash, network) do update set last_at = $3,
               wrong = case when sign_in_tries.last_at < $4 then 1 else least(sign_in_tries.wrong + 1, 1000) end",
            email_hash,
            network,
            now.to_sqlx() as _,
            forgotten.to_sqlx() as _
        )
        .execute(&self.pool)
        .await?;
        Ok(())
    }

    /// Forgets the wrong passwords of an address from a network.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn sign_in_was_right(&self, email_hash: &[u8], network: &str) -> Result<(), StoreError> {
        sqlx::query!("delete from sign_in_tries where email_hash = $1 and network = $2", email_hash, network)
            .execute(&self.pool)
            .await?;
        Ok(())
    }
}
