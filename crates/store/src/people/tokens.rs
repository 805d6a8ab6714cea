//! Tokens with which programs use the API, kept as their SHA-256. A token acts as the person who made it, within its
//! scopes; it ends with its time, by hand, and with that person's access.

use jiff::{SignedDuration, Timestamp};
use jiff_sqlx::{Timestamp as SqlTimestamp, ToSqlx};
use lumbo_people::{Audited, Scope};
use uuid::Uuid;

use super::Person;
use crate::audit::{self, Entry};
use crate::{Store, StoreError};

/// Most tokens of a workspace that have not ended.
const MOST: i64 = 50;
/// How often it is written down that a token is in use.
const NOTED: SignedDuration = SignedDuration::from_mins(5);

/// A token to make.
#[derive(Debug, Clone)]
pub struct NewToken<'a> {
    /// What it is for.
    pub name: &'a str,
    /// SHA-256 of the token.
    pub hash: &'a [u8],
    /// How it ends.
    pub ending: &'a str,
    /// What it may be used for.
    pub scopes: &'a [Scope],
    /// When it ends.
    pub expires_at: Timestamp,
}

/// A token, for those who manage it; never the token itself.
#[derive(Debug, Clone)]
pub struct TokenRow {
    /// Id.
    pub id: Uuid,
    /// What it is for.
    pub name: String,
    /// How it ends.
    pub ending: String,
    /// What it may be used for.
    pub scopes: Vec<Scope>,
    /// Who made it, and whom it acts as.
    pub made_by: String,
    /// False where that person has no access any more, and the token does nothing.
    pub made_by_active: bool,
    /// When it was made.
    pub made_at: Timestamp,
    /// When it ends.
    pub expires_at: Timestamp,
    /// When it was last used, to within five minutes.
    pub used_at: Option<Timestamp>,
    /// When it was ended by hand.
    pub ended_at: Option<Timestamp>,
}

/// Whom a token acts as, and for what.
#[derive(Debug, Clone)]
pub struct TokenHolder {
    /// The token's id.
    pub token: Uuid,
    /// The person.
    pub person: Person,
    /// What it may be used for.
    pub scopes: Vec<Scope>,
}

fn scopes(names: &[String]) -> Vec<Scope> {
    names.iter().filter_map(|name| Scope::parse(name)).collect()
}

impl Store {
    /// The workspace's tokens, the newest first; those that ended more than 30 days ago are left out.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn api_tokens(&self, workspace: Uuid) -> Result<Vec<TokenRow>, StoreError> {
        let ended = self.now().saturating_sub(SignedDuration::from_hours(24 * 30)).map_err(StoreError::kept)?;
        let rows = sqlx::query!(
            "select t.id, t.name, t.ending, t.scopes, p.name as made_by, p.active as made_by_active,
               t.made_at as \"made_at: SqlTimestamp\", t.expires_at as \"expires_at: SqlTimestamp\",
               t.used_at as \"used_at: SqlTimestamp\", t.ended_at as \"ended_at: SqlTimestamp\"
             from api_tokens t join people p on p.workspace_id = t.workspace_id and p.id = t.made_by
             where t.workspace_id = $1 and least(t.expires_at, coalesce(t.ended_at, t.expires_at)) > $2
             order by t.made_at desc, t.id",
            workspace,
            ended.to_sqlx() as _
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows
            .into_iter()
            .map(|row| TokenRow {
                id: row.id,
                name: row.name,
                ending: row.ending,
                scopes: scopes(&row.scopes),
                made_by: row.made_by,
                made_by_active: row.made_by_active,
                made_at: row.made_at.to_jiff(),
                expires_at: row.expires_at.to_jiff(),
                used_at: row.used_at.map(SqlTimestamp::to_jiff),
                ended_at: row.ended_at.map(SqlTimestamp::to_jiff),
            })
            .collect())
    }

    /// Keeps a new token; gives its id.
    ///
    /// # Errors
    /// [`StoreError::Conflict`] where there are enough already.
    #[crate::compiled_here]
    pub async fn add_api_token(&self, workspace: Uuid, person: Uuid, new: &NewToken<'_>) -> Result<Uuid, StoreError> {
        let (id, now) = (Uuid::now_v7(), self.now());
        let names: Vec<String> = new.scopes.iter().map(|scope| scope.as_str().to_owned()).collect();
        let mut db = self.pool.begin().await?;
        let added = sqlx::query!(
            "insert into api_tokens (workspace_id, id, name, hash, ending, scopes, made_by, made_at, expires_at)
             select $1, $2, $3, $4, $5, $6, $7, $8, $9 where (select count(*) from api_tokens
               where workspace_id = $1 and ended_at is null and expires_at > $8) < $10",
            workspace,
            id,
            new.name,
            new.hash,
            new.ending,
            &names,
            person,
            now.to_sqlx() as _,
            new.expires_at.to_sqlx() as _,
            MOST
        )
        .execute(&mut *db)
        .await?;
        if added.rows_affected() == 0 {
            return Err(StoreError::Conflict(format!("a workspace has at most {MOST} tokens; end one first")));
        }
        let about = format!("API token “{}”: made", new.name);
        let entry =
            Entry { person: Some(person), what: Audited::SecretChanged, about: &about, subject: None, network: None };
        audit::write(&mut db, workspace, &entry, now).await?;
        db.commit().await?;
        Ok(id)
    }

    /// Ends a token.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where there is none, or it ended before.
    #[crate::compiled_here]
    pub async fn end_api_token(&self, workspace: Uuid, person: Uuid, id: Uuid) -> Result<(), StoreError> {
        let mut db = self.pool.begin().await?;
        let now = self.now();
        let name = sqlx::query_scalar!(
            "update api_tokens set ended_at = $3 where workspace_id = $1 and id = $2 and ended_at is null
             returning name",
            workspace,
            id,
            now.to_sqlx() as _
        )
        .fetch_optional(&mut *db)
        .await?
        .ok_or(StoreError::NotFound("token"))?;
        let about = format!("API token “{name}”: ended");
        let entry =
            Entry { person: Some(person), what: Audited::SecretChanged, about: &about, subject: None, network: None };
        audit::write(&mut db, workspace, &entry, now).await?;
        db.commit().await?;
        Ok(())
    }

    /// Whom a token acts as; nothing where it has ended, or that person has no access any more.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn token_holder(&self, hash: &[u8]) -> Result<Option<TokenHolder>, StoreError> {
        let now = self.now();
        let row = sqlx::query!(
            "select workspace_id, id, made_by, scopes, used_at as \"used_at: SqlTimestamp\" from api_tokens
             where hash = $1 and ended_at is null and expires_at > $2",
            hash,
            now.to_sqlx() as _
        )
        .fetch_optional(&self.pool)
        .await?;
        let Some(row) = row else { return Ok(None) };
        let Some(person) = self.person(row.workspace_id, row.made_by).await? else { return Ok(None) };
        let noted = row.used_at.map(SqlTimestamp::to_jiff);
        if noted.is_none_or(|at| now.duration_since(at) > NOTED) {
            sqlx::query!(
                "update api_tokens set used_at = $3 where workspace_id = $1 and id = $2",
                row.workspace_id,
                row.id,
                now.to_sqlx() as _
            )
            .execute(&self.pool)
            .await?;
        }
        Ok(Some(TokenHolder { token: row.id, person, scopes: scopes(&row.scopes) }))
    }
}
