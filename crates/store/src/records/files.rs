//! Companies and contacts from a file. A file fills in what is not on file; what stands there already stays, but for
//! what a firm is to us and who looks after it, which a file changes as a person does. Nothing is merged, nobody is
//! told, and no destination gets anything.

use std::collections::BTreeMap;

use jiff::Timestamp;
use jiff_sqlx::{Timestamp as SqlTimestamp, ToSqlx};
use lumbo_people::Audited;
use lumbo_reading::domains::DomainLists;
use lumbo_records::{AlsoGiven, FileHolds, FirmOfRow, Keeper, PersonOfRow, firm_of_row, person_of_row};
use sqlx::PgConnection;
use sqlx::types::Json;
use uuid::Uuid;

use crate::audit::{self, Entry};
use crate::leads::{add_contact_tags, lock_keys, put_from_file};
use crate::live::{self, Topic};
use crate::{Person, Store, StoreError};

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

/// What a row wrote of a field: what stood there, and what stands there now.
type Wrote = BTreeMap<String, (Option<String>, Option<String>)>;

/// What rows are read by.
struct ReadBy {
    holds: FileHolds,
    keepers: Vec<Keeper>,
    lists: DomainLists,
}

/// What a row did.
struct Did {
    id: Uuid,
    made: bool,
    made_company: Option<Uuid>,
    wrote: Wrote,
    says: Vec<String>,
}

impl ReadBy {
    /// Reads a row and writes it; the outer failure is the database's, the inner one the row's.
    async fn take(
        &self,
        db: &mut PgConnection,
        workspace: Uuid,
        row: &FileRow,
        now: Timestamp,
    ) -> Result<Result<Did, String>, StoreError> {
        Ok(Ok(match self.holds {
            FileHolds::Companies => match firm_of_row(&row.cells, &self.keepers, &self.lists) {
                Ok(firm) => take_firm(db, workspace, &firm, &self.keepers, now).await?,
                Err(says) => return Ok(Err(says)),
            },
            FileHolds::Contacts => match person_of_row(&row.cells, &self.lists) {
                Ok(person) => take_person(db, workspace, &person, now).await?,
                Err(says) => return Ok(Err(says)),
            },
        }))
    }
}

/// Fills in a part of who somebody is where nothing stands; says what stays where something else does.
fn fills(
    says: &mut Vec<String>,
    wrote: &mut Wrote,
    key: &str,
    label: &str,
    on_file: Option<&str>,
    given: Option<&str>,
) -> bool {
    let Some(given) = given else { return false };
    match on_file {
        None => {
            wrote.insert(key.to_owned(), (None, Some(given.to_owned())));
            says.push(format!("{label}: {given}"));
            true
        }
        Some(known) if known == given => false,
        Some(known) => {
            says.push(format!("{label} stays “{known}”, not “{given}”"));
            false
        }
    }
}

async fn take_firm(
    db: &mut PgConnection,
    workspace: Uuid,
    firm: &FirmOfRow,
    keepers: &[Keeper],
    now: Timestamp,
) -> Result<Did, StoreError> {
    lock_keys(db, workspace, [("domain", Some(firm.domain.as_str()))]).await?;
    let known = sqlx::query!(
        "select id, name, standing, owner_id from companies where workspace_id = $1 and domain = $2 for update",
        workspace,
        firm.domain
    )
    .fetch_optional(&mut *db)
    .await?;
    let made = known.is_none();
    let id = known.as_ref().map_or_else(Uuid::now_v7, |row| row.id);
    let (mut says, mut wrote) = (Vec::new(), Wrote::new());
    let on_file = known.as_ref().and_then(|row| row.name.as_deref());
    if made {
        sqlx::query!(
            "insert into companies (id, workspace_id, domain, made_at) values ($1, $2, $3, $4)",
            id,
            workspace,
            firm.domain,
            now.to_sqlx() as _
        )
        .execute(&mut *db)
        .await?;
    }
    if fills(&mut says, &mut wrote, "name", "Name", on_file, firm.name.as_deref()) {
        sqlx::query!("update companies set name = $3 where workspace_id = $1 and id = $2", workspace, id, firm.name)
            .execute(&mut *db)
            .await?;
        let name = firm.name.as_deref().unwrap_or_default();
        put_from_file(db, workspace, AlsoGiven::Company, id, name, now).await?;
    }
    let before = known.as_ref().map_or("none", |row| row.standing.as_str());
    if let Some(standing) = firm.standing.map(lumbo_records::Standing::as_str).filter(|standing| *standing != before) {
        sqlx::query!("update companies set standing = $3 where workspace_id = $1 and id = $2", workspace, id, standing)
            .execute(&mut *db)
            .await?;
        wrote.insert("standing".to_owned(), (Some(before.to_owned()), Some(standing.to_owned())));
        says.push(format!("What it is to us: {}, before: {}", standing.replace('_', " "), before.replace('_', " ")));
    }
    let before = known.as_ref().and_then(|row| row.owner_id);
    if let Some(owner) = firm.owner.filter(|owner| Some(*owner) != before) {
        sqlx::query!("update companies set owner_id = $3 where workspace_id = $1 and id = $2", workspace, id, owner)
            .execute(&mut *db)
            .await?;
        wrote.insert("owner".to_owned(), (before.map(|id| id.to_string()), Some(owner.to_string())));
        let name = |id: Uuid| keepers.iter().find(|keeper| keeper.id == id).map_or("somebody else", |one| &one.name);
        let was = before.map_or_else(|| "nobody".to_owned(), |id| name(id).to_owned());
        says.push(format!("{} looks after it, before: {was}", name(owner)));
    }
    Ok(Did { id, made, made_company: None, wrote, says })
}

async fn take_person(
    db: &mut PgConnection,
    workspace: Uuid,
    person: &PersonOfRow,
    now: Timestamp,
) -> Result<Did, StoreError> {
    let keys = [("email", Some(person.email.as_str())), ("domain", person.domain.as_deref())];
    lock_keys(db, workspace, keys).await?;
    // An address of a contact that became one with another leads to the one that stayed.
    let known = sqlx::query!(
        "select c.id, c.name, c.phone, c.company_id, c.tags from contacts c where c.workspace_id = $1 and c.id = (
           select id from (
             select id, 0 as place from contacts where workspace_id = $1 and merged_into is null
               and erased_at is null and lower(email) = lower($2)
             union all select kept_id, 1 from merges where workspace_id = $1 and undone_at is null
               and emails @> array[lower($2)]) n order by place limit 1) for update",
        workspace,
        person.email
    )
    .fetch_optional(&mut *db)
    .await?;
    let made = known.is_none();
    let id = known.as_ref().map_or_else(Uuid::now_v7, |row| row.id);
    let (mut says, mut wrote) = (Vec::new(), Wrote::new());
    if made {
        sqlx::query!(
            "insert into contacts (id, workspace_id, email, made_at) values ($1, $2, $3, $4)",
            id,
            workspace,
            person.email,
            now.to_sqlx() as _
        )
        .execute(&mut *db)
        .await?;
        put_from_file(db, workspace, AlsoGiven::Email, id, &person.email, now).await?;
    }
    let of = |text: &Option<String>| text.clone();
    let (name, phone) = known.as_ref().map_or((None, None), |row| (of(&row.name), of(&row.phone)));
    if fills(&mut says, &mut wrote, "name", "Name", name.as_deref(), person.name.as_deref()) {
        let name = person.name.as_deref().unwrap_or_default();
        sqlx::query!("update contacts set name = $3 where workspace_id = $1 and id = $2", workspace, id, name)
            .execute(&mut *db)
            .await?;
        put_from_file(db, workspace, AlsoGiven::Name, id, name, now).await?;
    }
    if fills(&mut says, &mut wrote, "phone", "Phone", phone.as_deref(), person.phone.as_deref()) {
        let phone = person.phone.as_deref().unwrap_or_default();
        sqlx::query!("update contacts set phone = $3 where workspace_id = $1 and id = $2", workspace, id, phone)
            .execute(&mut *db)
            .await?;
        put_from_file(db, workspace, AlsoGiven::Phone, id, phone, now).await?;
    }
    let has_company = known.as_ref().is_some_and(|row| row.company_id.is_some());
    let made_company =
        if has_company { None } else { join_company(db, workspace, id, person, &mut says, &mut wrote, now).await? };
    let there: Vec<String> = known.map(|row| row.tags).unwrap_or_default();
    let fresh: Vec<String> = person
        .tags
        .iter()
        .filter(|tag| !there.iter().any(|known| known.to_lowercase() == tag.to_lowercase()))
        .cloned()
        .collect();
    if !fresh.is_empty() {
        add_contact_tags(db, workspace, id, &fresh).await?;
        says.push(format!("Tags: {}", fresh.join(", ")));
        wrote.insert("tags".to_owned(), (None, Some(fresh.join(","))));
    }
    Ok(Did { id, made, made_company, wrote, says })
}

/// Puts a contact without a company into the one of their address's domain; makes one where none is on file.
async fn join_company(
    db: &mut PgConnection,
    workspace: Uuid,
    contact: Uuid,
    person: &PersonOfRow,
    says: &mut Vec<String>,
    wrote: &mut Wrote,
    now: Timestamp,
) -> Result<Option<Uuid>, StoreError> {
    let Some(domain) = &person.domain else {
        // A name alone makes no company the same, and no new one.
        if let Some(name) = &person.company {
            says.push(format!(
                "No company “{name}”: it is known by a domain, and this address has none of a firm’s own"
            ));
        }
        return Ok(None);
    };
    let known =
        sqlx::query_scalar!("select id from companies where workspace_id = $1 and domain = $2", workspace, domain)
            .fetch_optional(&mut *db)
            .await?;
    let id = known.unwrap_or_else(Uuid::now_v7);
    if known.is_none() {
        sqlx::query!(
            "insert into companies (id, workspace_id, name, domain, made_at) values ($1, $2, $3, $4, $5)",
            id,
            workspace,
            person.company,
            domain,
            now.to_sqlx() as _
        )
        .execute(&mut *db)
        .await?;
        if let Some(name) = &person.company {
            put_from_file(db, workspace, AlsoGiven::Company, id, name, now).await?;
        }
    }
    sqlx::query!("update contacts set company_id = $3 where workspace_id = $1 and id = $2", workspace, contact, id)
        .execute(&mut *db)
        .await?;
    wrote.insert("company".to_owned(), (None, Some(id.to_string())));
    says.push(format!("Company: {}", person.company.as_ref().unwrap_or(domain)));
    Ok(known.is_none().then_some(id))
}

fn becomes(did: &Did) -> Becomes {
    if did.made {
        Becomes::New
    } else if did.wrote.is_empty() {
        Becomes::Same
    } else {
        Becomes::Changes
    }
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
        for row in rows {
            match by.take(&mut db, workspace, row, now).await? {
                Ok(did) => taken.push(TakenRow { line: row.line, becomes: becomes(&did), says: did.says }),
                Err(says) => bad.push(BadFileRow { line: row.line, says }),
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
        for row in rows.iter().filter(|row| !done.contains(&row.line)) {
            let did = match by.take(&mut db, workspace, row, now).await? {
                Ok(did) => did,
                Err(says) => {
                    bad.push(BadFileRow { line: row.line, says });
                    continue;
                }
            };
            sqlx::query!(
                "insert into record_file_rows (workspace_id, file_id, line, record_id, made, made_company, wrote)
                 values ($1, $2, $3, $4, $5, $6, $7) on conflict do nothing",
                workspace,
                file,
                row.line,
                did.id,
                did.made,
                did.made_company,
                Json(&did.wrote) as _
            )
            .execute(&mut *db)
            .await?;
            taken.push(TakenRow { line: row.line, becomes: becomes(&did), says: did.says });
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

/// Gives a record again what stood there before a row, where what the row wrote still stands; true where it did.
async fn give_back(
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
async fn take_out(db: &mut PgConnection, workspace: Uuid, holds: FileHolds, id: Uuid) -> Result<bool, StoreError> {
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
