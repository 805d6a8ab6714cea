//! A row of a file, held against what is on file, and written.

use std::collections::BTreeMap;

use jiff::Timestamp;
use jiff_sqlx::ToSqlx;
use lumbo_reading::domains::DomainLists;
use lumbo_records::{AlsoGiven, FileHolds, FirmOfRow, Keeper, PersonOfRow, firm_of_row, person_of_row};
use sqlx::PgConnection;
use uuid::Uuid;

use super::{Becomes, FileRow};
use crate::StoreError;
use crate::leads::{add_contact_tags, lock_keys, put_from_file};

/// What a row wrote of a field: what stood there, and what stands there now.
pub(super) type Wrote = BTreeMap<String, (Option<String>, Option<String>)>;

/// What rows are read by.
pub(super) struct ReadBy {
    pub(super) holds: FileHolds,
    pub(super) keepers: Vec<Keeper>,
    pub(super) lists: DomainLists,
}

/// What a row did.
pub(super) struct Did {
    pub(super) id: Uuid,
    pub(super) made: bool,
    pub(super) made_company: Option<Uuid>,
    pub(super) wrote: Wrote,
    pub(super) says: Vec<String>,
}

/// A row as it was read.
enum Read {
    Firm(FirmOfRow),
    Person(PersonOfRow),
}

impl ReadBy {
    fn read(&self, row: &FileRow) -> Result<Read, String> {
        match self.holds {
            FileHolds::Companies => firm_of_row(&row.cells, &self.keepers, &self.lists).map(Read::Firm),
            FileHolds::Contacts => person_of_row(&row.cells, &self.lists).map(Read::Person),
        }
    }

    /// Reads rows and writes them. What they are known by is locked for all of them first, in the order of every
    /// filing: so that none waits for one that waits for it.
    pub(super) async fn take(
        &self,
        db: &mut PgConnection,
        workspace: Uuid,
        rows: impl Iterator<Item = &FileRow>,
        now: Timestamp,
    ) -> Result<Vec<(i32, Result<Did, String>)>, StoreError> {
        let read: Vec<(i32, Result<Read, String>)> = rows.map(|row| (row.line, self.read(row))).collect();
        let keys = read.iter().filter_map(|(_, read)| read.as_ref().ok()).flat_map(|read| match read {
            Read::Firm(firm) => [("domain", Some(firm.domain.as_str())), ("email", None)],
            Read::Person(person) => [("domain", person.domain.as_deref()), ("email", Some(person.email.as_str()))],
        });
        lock_keys(db, workspace, keys).await?;
        let mut out = Vec::with_capacity(read.len());
        for (line, read) in read {
            out.push((
                line,
                match read {
                    Ok(Read::Firm(firm)) => Ok(take_firm(db, workspace, &firm, &self.keepers, now).await?),
                    Ok(Read::Person(person)) => Ok(take_person(db, workspace, &person, now).await?),
                    Err(says) => Err(says),
                },
            ));
        }
        Ok(out)
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

impl Did {
    pub(super) fn becomes(&self) -> Becomes {
        match (self.made, self.wrote.is_empty()) {
            (true, _) => Becomes::New,
            (false, true) => Becomes::Same,
            (false, false) => Becomes::Changes,
        }
    }
}
