//! The audit: who did what, when. Entries are written in the transaction of what they tell; they name people, roles and
//! settings, never a value of a lead, so that erasing a person leaves them standing.

use jiff::{SignedDuration, Timestamp};
use jiff_sqlx::{Timestamp as SqlTimestamp, ToSqlx};
use lumbo_people::Audited;
use sqlx::PgConnection;
use uuid::Uuid;

use crate::{Person, Store, StoreError};

/// Rows of a page.
const PAGE: i64 = 100;
/// Most rows of a file.
const FILE: i64 = 50_000;
/// A lead that somebody looks at again within this time makes no new entry.
const SEEN_AGAIN: SignedDuration = SignedDuration::from_hours(1);

/// What is written.
#[derive(Debug, Clone)]
pub struct Entry<'a> {
    /// Who.
    pub person: Option<Uuid>,
    /// What.
    pub what: Audited,
    /// To what, in words.
    pub about: &'a str,
    /// Id of what it was done to.
    pub subject: Option<Uuid>,
    /// The network it came from.
    pub network: Option<&'a str>,
}

/// What is looked for.
#[derive(Debug, Clone, Default)]
pub struct AuditQuery {
    /// Only by this person.
    pub person: Option<Uuid>,
    /// Only this.
    pub what: Option<Audited>,
    /// From this moment on.
    pub from: Option<Timestamp>,
    /// Before this moment.
    pub to: Option<Timestamp>,
    /// Older than this entry.
    pub before: Option<i64>,
}

/// An entry, as a list of them shows it.
#[derive(Debug, Clone)]
pub struct AuditRow {
    /// Counts up.
    pub id: i64,
    /// When.
    pub at: Timestamp,
    /// Who, by name.
    pub person: Option<String>,
    /// What; its name in the database.
    pub what: String,
    /// To what, in words.
    pub about: String,
    /// The network it came from.
    pub network: Option<String>,
}

/// Longest text about what it was done to, characters.
const ABOUT: usize = 300;

/// Writes an entry, in the caller's transaction.
pub(crate) async fn write(
    db: &mut PgConnection,
    workspace: Uuid,
    entry: &Entry<'_>,
    now: Timestamp,
) -> Result<(), StoreError> {
    let about: String = entry.about.chars().take(ABOUT).collect();
    sqlx::query!(
        "insert into audit (workspace_id, at, person_id, what, about, subject, network)
         values ($1, $2, $3, $4, $5, $6, $7)",
        workspace,
        now.to_sqlx() as _,
        entry.person,
        entry.what.as_str(),
        about,
        entry.subject,
        entry.network
    )
    .execute(db)
    .await?;
    Ok(())
}

impl Store {
    /// Keeps in the audit what somebody did, in the caller's transaction.
    pub(crate) async fn told(
        &self,
        db: &mut PgConnection,
        by: &Person,
        id: Uuid,
        what: Audited,
        about: &str,
    ) -> Result<(), StoreError> {
        let entry = Entry { person: Some(by.id), what, about, subject: Some(id), network: None };
        write(db, by.workspace_id, &entry, self.now()).await
    }

    /// Writes an entry by itself, for what is no change of ours: signing in, taking out a file.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn audit(&self, workspace: Uuid, entry: &Entry<'_>) -> Result<(), StoreError> {
        write(&mut *self.pool.acquire().await?, workspace, entry, self.now()).await
    }

    /// Keeps in every workspace of an address that somebody failed to sign in with it; does as much for one that nobody
    /// has.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn audit_refused(&self, email: &str, network: &str) -> Result<(), StoreError> {
        sqlx::query!(
            "insert into audit (workspace_id, at, person_id, what, about, network)
             select p.workspace_id, $3, p.id, $4, 'wrong password or code', $2 from accounts a
             join people p on p.account_id = a.id and p.active where lower(a.email) = lower($1)",
            email,
            network,
            self.now().to_sqlx() as _,
            Audited::SignInRefused.as_str()
        )
        .execute(&self.pool)
        .await?;
        Ok(())
    }

    /// Keeps that somebody looked at a lead, once an hour. The entry names the dialogue, not the prospect.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn audit_seen(&self, person: &Person, lead: Uuid, dialogue: &str) -> Result<(), StoreError> {
        let now = self.now();
        sqlx::query!(
            "insert into audit (workspace_id, at, person_id, what, about, subject)
             select $1, $2, $3, 'lead_seen', $4, $5 where not exists (select from audit where workspace_id = $1
               and subject = $5 and person_id = $3 and what = 'lead_seen' and at > $6)",
            person.workspace_id,
            now.to_sqlx() as _,
            person.id,
            dialogue,
            lead,
            now.checked_sub(SEEN_AGAIN).unwrap_or(now).to_sqlx() as _
        )
        .execute(&self.pool)
        .await?;
        Ok(())
    }

    /// A page of entries, newest first, and whether there are more.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn audit_page(&self, workspace: Uuid, query: &AuditQuery) -> Result<(Vec<AuditRow>, bool), StoreError> {
        let mut rows = self.audit_rows(workspace, query, PAGE + 1).await?;
        let more = i64::try_from(rows.len()).is_ok_and(|count| count > PAGE);
        rows.truncate(usize::try_from(PAGE).unwrap_or(usize::MAX));
        Ok((rows, more))
    }

    /// Entries for a file, newest first, at most 50,000. Taking them out is an entry of its own.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn audit_file(&self, by: &Person, query: &AuditQuery) -> Result<Vec<AuditRow>, StoreError> {
        let rows = self.audit_rows(by.workspace_id, query, FILE).await?;
        let about = format!("{} {} of the audit", rows.len(), if rows.len() == 1 { "entry" } else { "entries" });
        let entry = Entry { person: Some(by.id), what: Audited::Exported, about: &about, subject: None, network: None };
        self.audit(by.workspace_id, &entry).await?;
        Ok(rows)
    }

    async fn audit_rows(&self, workspace: Uuid, query: &AuditQuery, most: i64) -> Result<Vec<AuditRow>, StoreError> {
        let rows = sqlx::query!(
            "select a.id, a.at as \"at: SqlTimestamp\", p.name as \"person?\", a.what, a.about, a.network from audit a
             left join people p on p.workspace_id = a.workspace_id and p.id = a.person_id
             where a.workspace_id = $1 and ($2::uuid is null or a.person_id = $2) and ($3::text is null or a.what = $3)
               and ($4::timestamptz is null or a.at >= $4) and ($5::timestamptz is null or a.at < $5)
               and ($6::bigint is null or a.id < $6)
             order by a.id desc limit $7",
            workspace,
            query.person,
            query.what.map(Audited::as_str),
            query.from.map(ToSqlx::to_sqlx) as _,
            query.to.map(ToSqlx::to_sqlx) as _,
            query.before,
            most
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows
            .into_iter()
            .map(|row| AuditRow {
                id: row.id,
                at: row.at.to_jiff(),
                person: row.person,
                what: row.what,
                about: row.about,
                network: row.network,
            })
            .collect())
    }
}
