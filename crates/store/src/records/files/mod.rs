//! Companies and contacts from a file. A file fills in what is not on file; what stands there already stays, but for
//! what a firm is to us and who looks after it, which a file changes as a person does. Nothing is merged, nobody is
//! told, and no destination gets anything.

mod take;
mod undo;

use std::collections::BTreeMap;

use jiff::Timestamp;
use jiff_sqlx::{Timestamp as SqlTimestamp, ToSqlx};
use lumbo_people::Audited;
use lumbo_records::{FileHolds, Keeper};
use sqlx::PgConnection;
use sqlx::types::Json;
use uuid::Uuid;

use crate::audit::{self, Entry};
use crate::live::{self, Topic};
use crate::{Person, Store, StoreError};

use take::{ReadBy, Wrote};
use undo::{give_back, take_out};

/// Most files that are listed.
const LISTED: i64 = 50;

/// A file before its rows are taken in.
#[derive(Debug, Clone)]
pub struct NewRecordFile<'a> {
    /// What it holds.
    pub holds: FileHolds,
    /// Its name.
    pub file: &'a str,
    /// Where it comes from.
    pub source: &'a str,
    /// On what ground its people may be contacted.
    pub ground: &'a str,
}

/// A row: what stands in it, by the keys of its columns.
#[derive(Debug, Clone)]
pub struct FileRow {
    /// Its line in the file.
    pub line: i32,
    /// Its cells.
    pub cells: BTreeMap<String, String>,
}

/// What a row becomes.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Becomes {
    /// A new record.
    New,
    /// A change of one on file.
    Changes,
    /// Nothing: all of it is on file already.
    Same,
}

/// A row that was taken in, or would be.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct TakenRow {
    /// Its line in the file.
    pub line: i32,
    /// What it becomes.
    pub becomes: Becomes,
    /// What it writes, and what of it stays as it is on file, in words.
    pub says: Vec<String>,
}

/// A row that could not be read.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct BadFileRow {
    /// Its line in the file.
    pub line: i32,
    /// What is wrong, in a sentence.
    pub says: String,
}

/// A file that was taken in.
#[derive(Debug, Clone)]
pub struct RecordFileRow {
    /// Its id.
    pub id: Uuid,
    /// What it held.
    pub holds: FileHolds,
    /// Its name.
    pub file: String,
    /// Where it comes from.
    pub source: String,
    /// On what ground its people may be contacted.
    pub ground: String,
    /// Name of whoever took it in.
    pub by: String,
    /// When.
    pub at: Timestamp,
    /// How many records it made.
    pub made: i64,
    /// How many it changed.
    pub changed: i64,
    /// When it was undone.
    pub undone_at: Option<Timestamp>,
}

/// What undoing a file did.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
pub struct FileUndone {
    /// Records that were taken out again.
    pub taken_out: u64,
    /// Records that stay, as something else holds on to them since.
    pub kept: u64,
    /// Records that have again what they had before.
    pub given_back: u64,
}

impl Store {
    async fn read_file_by(&self, workspace: Uuid, holds: FileHolds) -> Result<ReadBy, StoreError> {
        let keepers = sqlx::query_as!(
            Keeper,
            "select p.id, p.name, a.email from people p join accounts a on a.id = p.account_id
             where p.workspace_id = $1 and p.active and p.role in ('rep', 'rep_lead', 'administrator')
             order by p.id",
            workspace
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(ReadBy { holds, keepers, lists: self.domains(workspace).await?.lists })
    }

    /// What rows would become; nothing is kept.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn preview_file(
        &self,
        workspace: Uuid,
        holds: FileHolds,
        rows: &[FileRow],
    ) -> Result<(Vec<TakenRow>, Vec<BadFileRow>), StoreError> {
        let by = self.read_file_by(workspace, holds).await?;
        let now = self.now();
        let mut db = self.pool.begin().await?;
        let (mut taken, mut bad) = (Vec::new(), Vec::new());
        for (line, did) in by.take(&mut db, workspace, rows.iter(), now).await? {
            match did {
                Ok(did) => taken.push(TakenRow { line, becomes: did.becomes(), says: did.says }),
                Err(says) => bad.push(BadFileRow { line, says }),
            }
        }
        db.rollback().await?;
        Ok((taken, bad))
    }

    /// Begins taking a file in.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn begin_file(&self, by: &Person, new: &NewRecordFile<'_>) -> Result<Uuid, StoreError> {
        let (workspace, now, id) = (by.workspace_id, self.now(), Uuid::now_v7());
        let mut db = self.pool.begin().await?;
        sqlx::query!(
            "insert into record_files (workspace_id, id, holds, file, source, ground, made_by, made_at)
             values ($1, $2, $3, $4, $5, $6, $7, $8)",
            workspace,
            id,
            new.holds.as_str(),
            new.file,
            new.source,
            new.ground,
            by.id,
            now.to_sqlx() as _
        )
        .execute(&mut *db)
        .await?;
        let about = format!("{} from {}", new.holds.as_str(), new.file);
        audit_file(&mut db, by, id, &about, now).await?;
        db.commit().await?;
        Ok(id)
    }

    /// Takes rows in, in one transaction; a line that was taken in before is not taken in again.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where there is no such file, or it was undone.
    #[crate::compiled_here]
    pub async fn take_rows(
        &self,
        person: &Person,
        file: Uuid,
        rows: &[FileRow],
    ) -> Result<(Vec<TakenRow>, Vec<BadFileRow>), StoreError> {
        let (workspace, now) = (person.workspace_id, self.now());
        let mut db = self.pool.begin().await?;
        let holds = sqlx::query_scalar!(
            "select holds from record_files where workspace_id = $1 and id = $2 and undone_at is null for update",
            workspace,
            file
        )
        .fetch_optional(&mut *db)
        .await?
        .ok_or(StoreError::NotFound("file to add to; it may have been undone"))?;
        let by = self.read_file_by(workspace, holds_of(&holds)?).await?;
        let lines: Vec<i32> = rows.iter().map(|row| row.line).collect();
        let done = sqlx::query_scalar!(
            "select line from record_file_rows where workspace_id = $1 and file_id = $2 and line = any($3)",
            workspace,
            file,
            &lines
        )
        .fetch_all(&mut *db)
        .await?;
        let (mut taken, mut bad) = (Vec::new(), Vec::new());
        let fresh = rows.iter().filter(|row| !done.contains(&row.line));
        for (line, did) in by.take(&mut db, workspace, fresh, now).await? {
            let did = match did {
                Ok(did) => did,
                Err(says) => {
                    bad.push(BadFileRow { line, says });
                    continue;
                }
            };
            sqlx::query!(
                "insert into record_file_rows (workspace_id, file_id, line, record_id, made, made_company, wrote)
                 values ($1, $2, $3, $4, $5, $6, $7) on conflict do nothing",
                workspace,
                file,
                line,
                did.id,
                did.made,
                did.made_company,
                Json(&did.wrote) as _
            )
            .execute(&mut *db)
            .await?;
            taken.push(TakenRow { line, becomes: did.becomes(), says: did.says });
        }
        live::add(&mut db, workspace, Topic::Leads, "lead", now).await?;
        db.commit().await?;
        self.wakes.stream(workspace);
        Ok((taken, bad))
    }

    /// Files that were taken in, the newest first; 50 at most.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn record_files(&self, workspace: Uuid) -> Result<Vec<RecordFileRow>, StoreError> {
        let rows = sqlx::query!(
            "select f.id, f.holds, f.file, f.source, f.ground, p.name, f.made_at as \"made_at: SqlTimestamp\",
               f.undone_at as \"undone_at: SqlTimestamp\", r.made as \"made!\", r.changed as \"changed!\"
             from record_files f join people p on p.workspace_id = f.workspace_id and p.id = f.made_by
             cross join lateral (select count(*) filter (where made) as made,
               count(*) filter (where not made and wrote <> '{}') as changed from record_file_rows r
               where r.workspace_id = f.workspace_id and r.file_id = f.id) r
             where f.workspace_id = $1 order by f.made_at desc, f.id limit $2",
            workspace,
            LISTED
        )
        .fetch_all(&self.pool)
        .await?;
        rows.into_iter()
            .map(|row| {
                Ok(RecordFileRow {
                    id: row.id,
                    holds: holds_of(&row.holds)?,
                    file: row.file,
                    source: row.source,
                    ground: row.ground,
                    by: row.name,
                    at: row.made_at.to_jiff(),
                    made: row.made,
                    changed: row.changed,
                    undone_at: row.undone_at.map(SqlTimestamp::to_jiff),
                })
            })
            .collect()
    }

    /// Undoes a file as a whole: what it made goes where nothing else holds on to it, what it wrote has again what
    /// stood there, unless somebody changed it since.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where there is no such file, or it was undone.
    #[crate::compiled_here]
    pub async fn undo_file(&self, person: &Person, file: Uuid) -> Result<FileUndone, StoreError> {
        let (workspace, now) = (person.workspace_id, self.now());
        let mut db = self.pool.begin().await?;
        let holds = sqlx::query_scalar!(
            "update record_files set undone_at = $3 where workspace_id = $1 and id = $2 and undone_at is null
             returning holds",
            workspace,
            file,
            now.to_sqlx() as _
        )
        .fetch_optional(&mut *db)
        .await?
        .ok_or(StoreError::NotFound("file to undo"))?;
        let holds = holds_of(&holds)?;
        let rows = sqlx::query!(
            "select record_id, made, made_company, wrote as \"wrote: Json<Wrote>\" from record_file_rows
             where workspace_id = $1 and file_id = $2 order by line desc",
            workspace,
            file
        )
        .fetch_all(&mut *db)
        .await?;
        let mut undone = FileUndone::default();
        for row in &rows {
            let given_back = give_back(&mut db, workspace, holds, row.record_id, &row.wrote.0).await?;
            if row.made {
                let gone = take_out(&mut db, workspace, holds, row.record_id).await?;
                if gone { undone.taken_out += 1 } else { undone.kept += 1 }
            } else if given_back {
                undone.given_back += 1;
            }
            if let Some(company) = row.made_company {
                take_out(&mut db, workspace, FileHolds::Companies, company).await?;
            }
        }
        audit_file(&mut db, person, file, &format!("{} of a file taken out again", holds.as_str()), now).await?;
        live::add(&mut db, workspace, Topic::Leads, "lead", now).await?;
        db.commit().await?;
        self.wakes.stream(workspace);
        Ok(undone)
    }
}

fn holds_of(name: &str) -> Result<FileHolds, StoreError> {
    FileHolds::parse(name).ok_or_else(|| StoreError::Kept(format!("no file holds “{name}”")))
}

async fn audit_file(
    db: &mut PgConnection,
    by: &Person,
    file: Uuid,
    about: &str,
    now: Timestamp,
) -> Result<(), StoreError> {
    let entry = Entry { person: Some(by.id), what: Audited::RecordsEntered, about, subject: Some(file), network: None };
    audit::write(db, by.workspace_id, &entry, now).await
}
