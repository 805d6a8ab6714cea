//! Tables of territories: which queue has which places.

use std::collections::{BTreeMap, BTreeSet};

use jiff_sqlx::ToSqlx;
use lumbo_records::Said;
use lumbo_route::{Decision, Firm, Territories, Territory};
use sqlx::PgConnection;
use sqlx::types::Json;
use uuid::Uuid;

use lumbo_people::Audited;

use crate::audit::{self, Entry};
use crate::firms::firm_of;
use crate::{Store, StoreError};

/// Most tables of a workspace.
const MOST: i64 = 50;

/// A table as people work on it.
#[derive(Debug, Clone)]
pub struct TerritoriesRow {
    /// The table.
    pub table: Territories,
    /// Its revision; a change names it.
    pub revision: i64,
    /// Titles of the dialogues whose drafts look things up in it.
    pub serves: Vec<String>,
}

/// The decision with what its rules want looked at: the firm on file, and the workspace's tables.
pub(crate) async fn looked_up(
    db: &mut PgConnection,
    workspace: Uuid,
    decision: Decision,
    said: &Said,
) -> Result<Decision, StoreError> {
    if decision.looks.is_empty() {
        return Ok(decision);
    }
    let wants_firm = decision.looks.iter().any(|look| look.firm.is_some());
    let firm = if wants_firm { firm_of(&mut *db, workspace, said).await? } else { Firm::default() };
    let keys: Vec<String> =
        decision.looks.iter().map(|look| look.table.clone()).filter(|table| !table.is_empty()).collect();
    let tables = if keys.is_empty() { BTreeMap::new() } else { read(db, workspace, Some(&keys)).await? };
    Ok(decision.looked_up(&firm, |key| tables.get(key)))
}

/// Tables by key; those of the keys where some are given.
pub(crate) async fn read(
    db: &mut PgConnection,
    workspace: Uuid,
    keys: Option<&[String]>,
) -> Result<BTreeMap<String, Territories>, StoreError> {
    let rows = sqlx::query!(
        "select key, name, rows as \"rows: Json<Vec<Territory>>\", otherwise from territories
         where workspace_id = $1 and ($2::text[] is null or key = any($2))",
        workspace,
        keys
    )
    .fetch_all(db)
    .await?;
    let table =
        |key: &str, name, rows: Json<_>, otherwise| Territories { key: key.to_owned(), name, rows: rows.0, otherwise };
    Ok(rows.into_iter().map(|row| (row.key.clone(), table(&row.key, row.name, row.rows, row.otherwise))).collect())
}

impl Store {
    /// A workspace's tables by key.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn territories(&self, workspace: Uuid) -> Result<BTreeMap<String, Territories>, StoreError> {
        read(&mut *self.pool.acquire().await?, workspace, None).await
    }

    /// A workspace's tables as people work on them, by name.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn territories_rows(&self, workspace: Uuid) -> Result<Vec<TerritoriesRow>, StoreError> {
        let rows = sqlx::query!(
            "select key, name, rows as \"rows: Json<Vec<Territory>>\", otherwise, revision,
             array(select d.body->>'title' from drafts d where d.workspace_id = t.workspace_id
               and exists (select from jsonb_array_elements(coalesce(d.body->'routing'->'rules', '[]'::jsonb)) r
                 where r->'table'->>'table' = t.key) order by 1) as \"serves!\"
             from territories t where workspace_id = $1 order by name, key",
            workspace
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows
            .into_iter()
            .map(|row| TerritoriesRow {
                table: Territories { key: row.key, name: row.name, rows: row.rows.0, otherwise: row.otherwise },
                revision: row.revision,
                serves: row.serves,
            })
            .collect())
    }

    /// Makes a table, or changes one; revision 0 makes one.
    ///
    /// # Errors
    /// [`StoreError::Conflict`] where it was changed meanwhile, a new one's key is taken, or there are too many;
    /// [`StoreError::NotFound`] where a queue that it names is not there.
    #[crate::compiled_here]
    pub async fn put_territories(
        &self,
        workspace: Uuid,
        by: Uuid,
        table: &Territories,
        revision: i64,
    ) -> Result<(), StoreError> {
        let mut db = self.pool.begin().await?;
        let named: BTreeSet<&str> =
            table.rows.iter().map(|row| row.queue.as_str()).chain(table.otherwise.as_deref()).collect();
        let named: Vec<String> = named.into_iter().map(str::to_owned).collect();
        let known = sqlx::query_scalar!(
            "select count(*) as \"known!\" from queues where workspace_id = $1 and key = any($2)",
            workspace,
            &named
        )
        .fetch_one(&mut *db)
        .await?;
        if usize::try_from(known) != Ok(named.len()) {
            return Err(StoreError::NotFound("queue that a row names"));
        }
        let now = self.now();
        let rows = Json(&table.rows);
        let done = if revision == 0 {
            sqlx::query!(
                "insert into territories (workspace_id, key, name, rows, otherwise, changed_at)
                 select $1, $2, $3, $4, $5, $6 where (select count(*) from territories where workspace_id = $1) < $7
                 on conflict (workspace_id, key) do nothing",
                workspace,
                table.key,
                table.name,
                rows as _,
                table.otherwise,
                now.to_sqlx() as _,
                MOST
            )
            .execute(&mut *db)
            .await?
        } else {
            sqlx::query!(
                "update territories set name = $3, rows = $4, otherwise = $5, changed_at = $6, revision = revision + 1
                 where workspace_id = $1 and key = $2 and revision = $7",
                workspace,
                table.key,
                table.name,
                rows as _,
                table.otherwise,
                now.to_sqlx() as _,
                revision
            )
            .execute(&mut *db)
            .await?
        };
        if done.rows_affected() == 0 {
            return Err(StoreError::Conflict(if revision == 0 {
                format!("there is a table of this key already, or there are {MOST}")
            } else {
                "somebody changed this table meanwhile. Look at it again".into()
            }));
        }
        self.note(&mut db, workspace, by, &format!("territories {}", table.name)).await?;
        db.commit().await?;
        Ok(())
    }

    /// Takes a table out. One that a dialogue's draft or newest release looks things up in stays.
    ///
    /// # Errors
    /// [`StoreError::Conflict`] where it was changed meanwhile or is used; [`StoreError::NotFound`] where it is not
    /// there.
    #[crate::compiled_here]
    pub async fn drop_territories(
        &self,
        workspace: Uuid,
        by: Uuid,
        key: &str,
        revision: i64,
    ) -> Result<(), StoreError> {
        let mut db = self.pool.begin().await?;
        let row = sqlx::query!(
            "select name, revision from territories where workspace_id = $1 and key = $2 for update",
            workspace,
            key
        )
        .fetch_optional(&mut *db)
        .await?
        .ok_or(StoreError::NotFound("table of territories"))?;
        if row.revision != revision {
            return Err(StoreError::Conflict("somebody changed this table meanwhile. Look at it again".into()));
        }
        let used = sqlx::query_scalar!(
            "select body->>'title' as \"title!\" from (
               select body from drafts where workspace_id = $1
               union all (select distinct on (dialogue_id) body from releases where workspace_id = $1
                 order by dialogue_id, number desc)) d
             where exists (select from jsonb_array_elements(coalesce(body->'routing'->'rules', '[]'::jsonb)) r
               where r->'table'->>'table' = $2) limit 1",
            workspace,
            key
        )
        .fetch_optional(&mut *db)
        .await?;
        if let Some(title) = used {
            return Err(StoreError::Conflict(format!("“{title}” looks leads up in it. Change its rules first")));
        }
        sqlx::query!("delete from territories where workspace_id = $1 and key = $2", workspace, key)
            .execute(&mut *db)
            .await?;
        self.note(&mut db, workspace, by, &format!("territories {} taken out", row.name)).await?;
        db.commit().await?;
        Ok(())
    }

    async fn note(&self, db: &mut PgConnection, workspace: Uuid, by: Uuid, about: &str) -> Result<(), StoreError> {
        let entry = Entry { person: Some(by), what: Audited::QueueChanged, about, subject: None, network: None };
        audit::write(db, workspace, &entry, self.now()).await
    }
}
