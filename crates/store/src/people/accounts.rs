//! Accounts: who somebody is in every workspace. Address, name, zone, password, second factor, sessions.

use jiff::Timestamp;
use jiff_sqlx::{Timestamp as SqlTimestamp, ToSqlx};
use lumbo_people::Audited;
use sqlx::PgConnection;
use uuid::Uuid;

use super::Person;
use crate::audit::{self, Entry};
use crate::sessions::end_sessions;
use crate::{Store, StoreError};

/// What signing in looks at.
#[derive(Debug, Clone)]
pub struct Account {
    /// Id.
    pub id: Uuid,
    /// Address.
    pub email: String,
    /// Name.
    pub name: String,
    /// IANA name of the zone they read moments in.
    pub zone: Option<String>,
    /// PHC string.
    pub password_hash: String,
    /// The second factor, where it is asked for.
    pub second_factor: Option<SecondFactor>,
}

/// A second factor that is asked for.
#[derive(Debug, Clone)]
pub struct SecondFactor {
    /// The secret, encrypted.
    pub sealed: Vec<u8>,
    /// The last step that was used.
    pub used: Option<i64>,
    /// Since when it is asked for.
    pub since: Timestamp,
    /// Recovery codes that are left.
    pub codes_left: i64,
}

/// An account to make.
#[derive(Debug, Clone)]
pub struct NewAccount<'a> {
    /// Address, checked.
    pub email: &'a str,
    /// Name.
    pub name: &'a str,
    /// IANA name.
    pub zone: Option<&'a str>,
    /// PHC string.
    pub password_hash: &'a str,
}

struct AccountRow {
    id: Uuid,
    email: String,
    name: String,
    zone: Option<String>,
    password_hash: String,
    totp_sealed: Option<Vec<u8>>,
    totp_used: Option<i64>,
    totp_since: Option<SqlTimestamp>,
    codes_left: i64,
}

impl From<AccountRow> for Account {
    fn from(row: AccountRow) -> Self {
        let second_factor = row.totp_since.zip(row.totp_sealed).map(|(since, sealed)| SecondFactor {
            sealed,
            used: row.totp_used,
            since: since.to_jiff(),
            codes_left: row.codes_left,
        });
        let AccountRow { id, email, name, zone, password_hash, .. } = row;
        Self { id, email, name, zone, password_hash, second_factor }
    }
}

/// Makes an account; nothing where the address has one already.
pub(crate) async fn make(db: &mut PgConnection, new: &NewAccount<'_>) -> Result<Option<Uuid>, StoreError> {
    Ok(sqlx::query_scalar!(
        "insert into accounts (id, email, name, zone, password_hash) values ($1, $2, $3, $4, $5)
         on conflict (lower(email)) do nothing returning id",
        Uuid::now_v7(),
        new.email,
        new.name,
        new.zone,
        new.password_hash
    )
    .fetch_optional(db)
    .await?)
}

impl Store {
    /// The account of an address.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn account_by_email(&self, email: &str) -> Result<Option<Account>, StoreError> {
        let row = sqlx::query_as!(
            AccountRow,
            "select id, email, name, zone, password_hash, totp_sealed, totp_used,
             totp_since as \"totp_since: SqlTimestamp\",
             (select count(*) from recovery_codes c where c.account_id = a.id and c.used_at is null)
               as \"codes_left!\"
             from accounts a where lower(email) = lower($1)",
            email
        )
        .fetch_optional(&self.pool)
        .await?;
        Ok(row.map(Account::from))
    }

    /// An account.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    #[crate::compiled_here]
    pub async fn account(&self, id: Uuid) -> Result<Account, StoreError> {
        let row = sqlx::query_as!(
            AccountRow,
            "select id, email, name, zone, password_hash, totp_sealed, totp_used,
             totp_since as \"totp_since: SqlTimestamp\",
             (select count(*) from recovery_codes c where c.account_id = a.id and c.used_at is null)
               as \"codes_left!\"
             from accounts a where id = $1",
            id
        )
        .fetch_optional(&self.pool)
        .await?;
        row.map(Account::from).ok_or(StoreError::NotFound("account"))
    }

    /// Changes name, address and zone, in every workspace that the person is in.
    ///
    /// # Errors
    /// [`StoreError::Conflict`] where somebody else has the address.
    #[crate::compiled_here]
    pub async fn change_profile(
        &self,
        account: Uuid,
        name: &str,
        email: &str,
        zone: Option<&str>,
    ) -> Result<(), StoreError> {
        let mut db = self.pool.begin().await?;
        sqlx::query!("update accounts set name = $2, email = $3, zone = $4 where id = $1", account, name, email, zone)
            .execute(&mut *db)
            .await
            .map_err(taken)?;
        sqlx::query!("update people set name = $2, email = $3 where account_id = $1", account, name, email)
            .execute(&mut *db)
            .await
            .map_err(taken)?;
        db.commit().await?;
        Ok(())
    }

    /// Gives an account another password and ends its other sessions. `keep` is the hash of the one that goes on.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn change_password(&self, account: Uuid, hash: &str, keep: Option<&str>) -> Result<(), StoreError> {
        let mut db = self.pool.begin().await?;
        sqlx::query!("update accounts set password_hash = $2 where id = $1", account, hash).execute(&mut *db).await?;
        end_sessions(&mut db, account, keep).await?;
        self.audit_everywhere(&mut db, account, Audited::PasswordChanged, "own password").await?;
        db.commit().await?;
        Ok(())
    }

    /// Keeps the secret of a second factor that is not asked for yet.
    ///
    /// # Errors
    /// [`StoreError::Conflict`] where one is asked for already.
    #[crate::compiled_here]
    pub async fn begin_second_factor(&self, account: Uuid, sealed: &[u8]) -> Result<(), StoreError> {
        let changed = sqlx::query!(
            "update accounts set totp_sealed = $2, totp_used = null where id = $1 and totp_since is null",
            account,
            sealed
        )
        .execute(&self.pool)
        .await?
        .rows_affected();
        if changed == 0 { Err(StoreError::Conflict("the second factor is on already".into())) } else { Ok(()) }
    }

    /// The secret of a second factor that is not asked for yet, encrypted.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    #[crate::compiled_here]
    pub async fn begun_second_factor(&self, account: Uuid) -> Result<Vec<u8>, StoreError> {
        sqlx::query_scalar!(
            "select totp_sealed as \"sealed!\" from accounts where id = $1 and totp_sealed is not null
             and totp_since is null",
            account
        )
        .fetch_optional(&self.pool)
        .await?
        .ok_or(StoreError::NotFound("second factor to confirm"))
    }

    /// Asks for the second factor from now on; `codes` are the SHA-256 of the recovery codes.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn turn_second_factor_on(&self, account: Uuid, used: i64, codes: &[Vec<u8>]) -> Result<(), StoreError> {
        let mut db = self.pool.begin().await?;
        sqlx::query!(
            "update accounts set totp_since = $2, totp_used = $3 where id = $1 and totp_sealed is not null",
            account,
            self.now().to_sqlx() as _,
            used
        )
        .execute(&mut *db)
        .await?;
        sqlx::query!("delete from recovery_codes where account_id = $1", account).execute(&mut *db).await?;
        sqlx::query!(
            "insert into recovery_codes (account_id, hash) select $1, * from unnest($2::bytea[])",
            account,
            codes as _
        )
        .execute(&mut *db)
        .await?;
        self.audit_everywhere(&mut db, account, Audited::SecondFactorChanged, "turned on").await?;
        db.commit().await?;
        Ok(())
    }

    /// Asks for no second factor from now on.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn turn_second_factor_off(&self, account: Uuid) -> Result<(), StoreError> {
        let mut db = self.pool.begin().await?;
        sqlx::query!(
            "update accounts set totp_sealed = null, totp_since = null, totp_used = null where id = $1",
            account
        )
        .execute(&mut *db)
        .await?;
        sqlx::query!("delete from recovery_codes where account_id = $1", account).execute(&mut *db).await?;
        self.audit_everywhere(&mut db, account, Audited::SecondFactorChanged, "turned off").await?;
        db.commit().await?;
        Ok(())
    }

    /// Uses up the step of a code; false where it, or a later one, was used meanwhile.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn use_step(&self, account: Uuid, step: i64) -> Result<bool, StoreError> {
        let used = sqlx::query!(
            "update accounts set totp_used = $2 where id = $1 and (totp_used is null or totp_used < $2)",
            account,
            step
        )
        .execute(&self.pool)
        .await?
        .rows_affected();
        Ok(used == 1)
    }

    /// Uses up a recovery code; false where there is none like it left.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn use_recovery_code(&self, account: Uuid, hash: &[u8]) -> Result<bool, StoreError> {
        let used = sqlx::query!(
            "update recovery_codes set used_at = $3 where account_id = $1 and hash = $2 and used_at is null",
            account,
            hash,
            self.now().to_sqlx() as _
        )
        .execute(&self.pool)
        .await?
        .rows_affected();
        Ok(used == 1)
    }

    /// The workspaces that an account is in, by name.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn places(&self, account: Uuid) -> Result<Vec<Person>, StoreError> {
        let rows = sqlx::query_as!(
            super::PersonRow,
            "select p.id, a.id as account, p.workspace_id, w.name as workspace, p.name, a.email, p.role, a.zone, p.team
             from people p join accounts a on a.id = p.account_id join workspaces w on w.id = p.workspace_id
             where a.id = $1 and p.active order by lower(w.name), w.id",
            account
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows.into_iter().map(Person::from).collect())
    }

    /// Keeps in which workspace somebody is, to begin there the next time.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn was_in(&self, account: Uuid, workspace: Uuid) -> Result<(), StoreError> {
        sqlx::query!("update accounts set workspace_id = $2 where id = $1", account, workspace)
            .execute(&self.pool)
            .await?;
        Ok(())
    }

    /// Writes the same entry into the audit of every workspace that the account is in.
    pub(super) async fn audit_everywhere(
        &self,
        db: &mut PgConnection,
        account: Uuid,
        what: Audited,
        about: &str,
    ) -> Result<(), StoreError> {
        let places = sqlx::query!("select workspace_id, id from people where account_id = $1 and active", account)
            .fetch_all(&mut *db)
            .await?;
        for place in places {
            let entry = Entry { person: Some(place.id), what, about, subject: None, network: None };
            audit::write(db, place.workspace_id, &entry, self.now()).await?;
        }
        Ok(())
    }
}

/// An address that somebody else signs in with.
fn taken(error: sqlx::Error) -> StoreError {
    match error.as_database_error() {
        Some(found) if found.is_unique_violation() => {
            StoreError::Conflict("somebody else signs in with that address".into())
        }
        _ => error.into(),
    }
}
