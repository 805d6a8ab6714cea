//! Contacts that may be one person, making them one, and undoing that.
//!
//! Undoing gives back what moved and what stood before. What somebody changed since stays as it was changed, and what
//! was added since stays with the one that stayed.

use std::collections::BTreeMap;

use jiff::Timestamp;
use jiff_sqlx::{Timestamp as SqlTimestamp, ToSqlx};
use lumbo_people::Audited;
use lumbo_records::{Alike, Keeps, Pair, Side, Takes, WhoTheyAre, alike, plan_merge};
use lumbo_value::Value;
use lumbo_value::field::Policy;
use serde::{Deserialize, Serialize};
use sqlx::PgConnection;
use sqlx::types::Json;
use uuid::Uuid;

use super::ContactDetail;
use crate::leads::{Activity, lock_keys, log};
use crate::live::{self, Topic};
use crate::{Person, Store, StoreError};

/// Most contacts that are proposed.
const PROPOSED: usize = 10;

/// A contact that may be the same person.
#[derive(Debug, Clone)]
pub struct AlikeRow {
    /// Its id.
    pub id: Uuid,
    /// Name on file.
    pub name: Option<String>,
    /// E-mail address on file.
    pub email: Option<String>,
    /// Phone number on file.
    pub phone: Option<String>,
    /// The company's name.
    pub company: Option<String>,
    /// How many leads of theirs there are.
    pub leads: i64,
    /// Why they may be one.
    pub why: Alike,
}

/// A field of two contacts, and what would be kept.
#[derive(Debug, Clone)]
pub struct MergeLine {
    /// The field by id.
    pub field: String,
    /// Its label.
    pub label: String,
    /// What the one that stays has.
    pub stays: Option<String>,
    /// What the one that goes has.
    pub goes: Option<String>,
    /// What is kept.
    pub keeps: Takes,
    /// What is kept, in words.
    pub shown: String,
}

/// What making two contacts one would do.
#[derive(Debug, Clone)]
pub struct MergePreview {
    /// Field by field.
    pub lines: Vec<MergeLine>,
    /// How many leads move.
    pub leads: i64,
}

/// Two contacts that became one.
#[derive(Debug, Clone)]
pub struct MergeRow {
    /// Its id.
    pub id: Uuid,
    /// Name of the one that went.
    pub gone: Option<String>,
    /// Who did it.
    pub by: Option<String>,
    /// When.
    pub at: Timestamp,
}

/// What moved, and what stood there before.
#[derive(Debug, Default, Serialize, Deserialize)]
struct Moved {
    leads: Vec<Uuid>,
    also_given: Vec<Uuid>,
    requests: Vec<Uuid>,
    /// Earlier merges into the one that went.
    merges: Vec<Uuid>,
    /// Who the one that stays was, and is.
    before: Identity,
    after: Identity,
    /// Who the one that went was.
    gone: Identity,
    /// Values of the one that stays that were written: what stood there, and what was written.
    values: Vec<(Option<ValueAsKept>, ValueAsKept)>,
}

#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize)]
struct Identity {
    name: Option<String>,
    email: Option<String>,
    phone: Option<String>,
    company: Option<Uuid>,
    subject: Option<String>,
}

/// A row of values as it is kept, but for whose it is.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
struct ValueAsKept {
    field_id: String,
    key: String,
    label: String,
    #[serde(rename = "type")]
    kind: String,
    value: serde_json::Value,
    shown: String,
    typed: Option<serde_json::Value>,
    source: serde_json::Value,
    at: Timestamp,
    before: Option<serde_json::Value>,
}

impl Store {
    /// Contacts that may be the same person as one: proposed, never made one by themselves.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where the person may not see the contact.
    pub async fn alike(&self, person: &Person, contact: Uuid) -> Result<Vec<AlikeRow>, StoreError> {
        self.contact(person, contact).await?;
        // Few have the same number, company, domain or seven last digits; which of them are alike is decided by the
        // core.
        let rows = sqlx::query!(
            "with of as (select c.*, f.domain from contacts c left join companies f on f.workspace_id = c.workspace_id
               and f.id = c.company_id where c.workspace_id = $1 and c.erased_at is null and c.merged_into is null),
             this as (select * from of where id = $2)
             select o.id as \"id!\", o.name, o.email, o.phone, o.company_id, o.domain,
               (select coalesce(f.name, f.domain) from companies f where f.workspace_id = $1 and f.id = o.company_id)
                 as company,
               (select count(*) from leads l where l.workspace_id = $1 and l.contact_id = o.id) as \"leads!\"
             from of o, this t where o.id = t.id or o.phone = t.phone or o.company_id = t.company_id
               or o.domain = t.domain or right(o.phone, 7) = right(t.phone, 7)
             order by o.id = t.id desc, o.sorted, o.id limit 2000",
            person.workspace_id,
            contact
        )
        .fetch_all(&self.pool)
        .await?;
        let who = |name: &Option<String>, phone: &Option<String>, company, domain: &Option<String>| WhoTheyAre {
            name: name.clone(),
            phone: phone.clone(),
            company,
            domain: domain.clone(),
        };
        let mut rows = rows.into_iter();
        let Some(this) = rows.next() else { return Ok(Vec::new()) };
        let this = who(&this.name, &this.phone, this.company_id, &this.domain);
        let mut out = Vec::new();
        for row in rows {
            if let Some(why) = alike(&this, &who(&row.name, &row.phone, row.company_id, &row.domain)) {
                out.push(AlikeRow {
                    id: row.id,
                    name: row.name,
                    email: row.email,
                    phone: row.phone,
                    company: row.company,
                    leads: row.leads,
                    why,
                });
                if out.len() == PROPOSED {
                    break;
                }
            }
        }
        Ok(out)
    }

    /// What making two contacts one would do.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where the person may not see both.
    pub async fn merge_preview(
        &self,
        person: &Person,
        stays: Uuid,
        goes: Uuid,
        chosen: &BTreeMap<String, Takes>,
    ) -> Result<MergePreview, StoreError> {
        self.both(person, stays, goes).await?;
        let mut db = self.pool.acquire().await?;
        let pairs = pairs(&mut db, person.workspace_id, stays, goes).await?;
        let plan = plan_merge(&pairs, chosen);
        let leads = sqlx::query_scalar!(
            "select count(*) as \"leads!\" from leads where workspace_id = $1 and contact_id = $2",
            person.workspace_id,
            goes
        )
        .fetch_one(&mut *db)
        .await?;
        Ok(MergePreview { lines: pairs.iter().map(|pair| line(pair, plan.get(&pair.field))).collect(), leads })
    }

    /// Makes two contacts one. Leads, requests and what was also given move along; later conversations with the address
    /// of the one that went belong to the one that stays.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where the person may not see both; [`StoreError::Conflict`] for one contact twice.
    pub async fn merge_contacts(
        &self,
        person: &Person,
        stays: Uuid,
        goes: Uuid,
        chosen: &BTreeMap<String, Takes>,
    ) -> Result<ContactDetail, StoreError> {
        self.both(person, stays, goes).await?;
        let (workspace, now) = (person.workspace_id, self.now());
        let mut db = self.pool.begin().await?;
        let (before, gone) = lock_both(&mut db, workspace, stays, goes).await?;
        let pairs = pairs(&mut db, workspace, stays, goes).await?;
        let plan = plan_merge(&pairs, chosen);
        let mut moved = move_all(&mut db, workspace, stays, goes).await?;
        moved.values = write_values(&mut db, workspace, stays, goes, &pairs, &plan).await?;
        let takes = |field: &str, one: &Option<String>, other: &Option<String>| {
            let goes = plan.get(field).is_some_and(|keeps| keeps.takes == Takes::Goes);
            if goes { other.clone().or_else(|| one.clone()) } else { one.clone().or_else(|| other.clone()) }
        };
        let after = Identity {
            name: takes("@name", &before.name, &gone.name),
            email: takes("@email", &before.email, &gone.email),
            phone: takes("@phone", &before.phone, &gone.phone),
            company: before.company.or(gone.company),
            subject: before.subject.clone().or_else(|| gone.subject.clone()),
        };
        write_identity(&mut db, workspace, goes, &Identity { email: None, subject: None, ..gone.clone() }).await?;
        write_identity(&mut db, workspace, stays, &after).await?;
        sqlx::query!(
            "update contacts set merged_into = $3 where workspace_id = $1 and id = $2",
            workspace,
            goes,
            stays
        )
        .execute(&mut *db)
        .await?;
        let emails: Vec<String> =
            [&before.email, &gone.email].into_iter().flatten().map(|email| email.to_lowercase()).collect();
        (moved.before, moved.after, moved.gone) = (before, after, gone);
        for lead in &moved.leads {
            let what = format!(
                "Their contact became one with {}",
                moved.after.name.as_deref().or(moved.after.email.as_deref()).unwrap_or("another")
            );
            log(&mut db, workspace, *lead, Some(person.id), Activity::Record, &what, now).await?;
        }
        let id = Uuid::now_v7();
        sqlx::query!(
            "insert into merges (workspace_id, id, kept_id, gone_id, gone_name, emails, gone_subject, moved, made_by,
             made_at) values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10)",
            workspace,
            id,
            stays,
            goes,
            moved.gone.name.as_ref().or(moved.gone.email.as_ref()),
            &emails,
            moved.gone.subject,
            Json(&moved) as _,
            person.id,
            now.to_sqlx() as _
        )
        .execute(&mut *db)
        .await?;
        self.told(&mut db, person, stays, Audited::RecordChanged, "two contacts that became one").await?;
        live::add(&mut db, workspace, Topic::Leads, "lead", now).await?;
        db.commit().await?;
        self.wakes.stream(workspace);
        self.contact(person, stays).await
    }

    /// Undoes a merge; gives the contact that stayed.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where the person may not see the contact, or there is nothing to undo any more.
    pub async fn undo_merge(&self, person: &Person, merge: Uuid) -> Result<ContactDetail, StoreError> {
        let (workspace, now) = (person.workspace_id, self.now());
        let row = sqlx::query!(
            "select kept_id, gone_id from merges where workspace_id = $1 and id = $2 and undone_at is null
             and ended_at is null",
            workspace,
            merge
        )
        .fetch_optional(&self.pool)
        .await?
        .ok_or(StoreError::NotFound("merge to undo"))?;
        self.contact(person, row.kept_id).await?;
        let (stays, goes) = (row.kept_id, row.gone_id);
        let mut db = self.pool.begin().await?;
        let (current, _) = lock_both(&mut db, workspace, stays, goes).await?;
        let moved = sqlx::query_scalar!(
            "update merges set undone_at = $3 where workspace_id = $1 and id = $2 and undone_at is null
             and ended_at is null returning moved as \"moved: Json<Moved>\"",
            workspace,
            merge,
            now.to_sqlx() as _
        )
        .fetch_optional(&mut *db)
        .await?
        .ok_or(StoreError::NotFound("merge to undo"))?
        .0;
        give_back(&mut db, workspace, stays, goes, &moved).await?;
        restore_values(&mut db, workspace, stays, &moved).await?;
        // What somebody changed since stays as it is.
        let back = |now: &Option<String>, after: &Option<String>, before: &Option<String>| {
            if now == after { before.clone() } else { now.clone() }
        };
        let was = Identity {
            name: back(&current.name, &moved.after.name, &moved.before.name),
            email: back(&current.email, &moved.after.email, &moved.before.email),
            phone: back(&current.phone, &moved.after.phone, &moved.before.phone),
            company: if current.company == moved.after.company { moved.before.company } else { current.company },
            subject: back(&current.subject, &moved.after.subject, &moved.before.subject),
        };
        write_identity(&mut db, workspace, stays, &was).await?;
        // An address that is somebody else's by now stays theirs.
        let free = sqlx::query!(
            "select not exists (select from contacts where workspace_id = $1 and lower(email) = lower($2)) as \"email!\",
             not exists (select from contacts where workspace_id = $1 and subject = $3) as \"subject!\"",
            workspace,
            moved.gone.email,
            moved.gone.subject
        )
        .fetch_one(&mut *db)
        .await?;
        let gone = Identity {
            email: moved.gone.email.clone().filter(|_| free.email),
            subject: moved.gone.subject.clone().filter(|_| free.subject),
            ..moved.gone.clone()
        };
        write_identity(&mut db, workspace, goes, &gone).await?;
        sqlx::query!("update contacts set merged_into = null where workspace_id = $1 and id = $2", workspace, goes)
            .execute(&mut *db)
            .await?;
        for lead in &moved.leads {
            log(&mut db, workspace, *lead, Some(person.id), Activity::Record, "Their contact is its own again", now)
                .await?;
        }
        self.told(&mut db, person, stays, Audited::RecordChanged, "two contacts that are two again").await?;
        live::add(&mut db, workspace, Topic::Leads, "lead", now).await?;
        db.commit().await?;
        self.wakes.stream(workspace);
        self.contact(person, stays).await
    }

    /// Merges into a contact that can be undone, the newest first.
    pub(super) async fn merges_of(&self, workspace: Uuid, contact: Uuid) -> Result<Vec<MergeRow>, StoreError> {
        let rows = sqlx::query!(
            "select m.id, m.gone_name, p.name as \"by?\", m.made_at as \"at: SqlTimestamp\" from merges m
             left join people p on p.workspace_id = m.workspace_id and p.id = m.made_by
             where m.workspace_id = $1 and m.kept_id = $2 and m.undone_at is null and m.ended_at is null
             order by m.made_at desc, m.id",
            workspace,
            contact
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows
            .into_iter()
            .map(|row| MergeRow { id: row.id, gone: row.gone_name, by: row.by, at: row.at.to_jiff() })
            .collect())
    }

    /// Both contacts are there, are two, and may be seen.
    async fn both(&self, person: &Person, stays: Uuid, goes: Uuid) -> Result<(), StoreError> {
        if stays == goes {
            return Err(StoreError::Conflict("a contact cannot become one with itself; pick another".into()));
        }
        self.contact(person, stays).await?;
        self.contact(person, goes).await?;
        Ok(())
    }
}

/// What filings match by is locked first, then both rows, each in its order: a filing meanwhile waits.
async fn lock_both(
    db: &mut PgConnection,
    workspace: Uuid,
    stays: Uuid,
    goes: Uuid,
) -> Result<(Identity, Identity), StoreError> {
    let known = sqlx::query!(
        "select email, subject from contacts where workspace_id = $1 and id = any($2) order by id",
        workspace,
        &[stays, goes]
    )
    .fetch_all(&mut *db)
    .await?;
    let keys = known.iter().flat_map(|row| [("email", row.email.as_deref()), ("subject", row.subject.as_deref())]);
    lock_keys(db, workspace, keys).await?;
    let rows = sqlx::query!(
        "select id, name, email, phone, company_id, subject from contacts where workspace_id = $1 and id = any($2)
         and erased_at is null order by id for update",
        workspace,
        &[stays, goes]
    )
    .fetch_all(&mut *db)
    .await?;
    let of = |id: Uuid| {
        let row = rows.iter().find(|row| row.id == id).ok_or(StoreError::NotFound("contact"))?;
        Ok::<_, StoreError>(Identity {
            name: row.name.clone(),
            email: row.email.clone(),
            phone: row.phone.clone(),
            company: row.company_id,
            subject: row.subject.clone(),
        })
    };
    Ok((of(stays)?, of(goes)?))
}

async fn write_identity(
    db: &mut PgConnection,
    workspace: Uuid,
    id: Uuid,
    identity: &Identity,
) -> Result<(), StoreError> {
    sqlx::query!(
        "update contacts set name = $3, email = $4, phone = $5, company_id = $6, subject = $7
         where workspace_id = $1 and id = $2",
        workspace,
        id,
        identity.name,
        identity.email,
        identity.phone,
        identity.company,
        identity.subject
    )
    .execute(db)
    .await?;
    Ok(())
}

/// Leads, requests and what was also given go to the one that stays, and with them what was merged into the other.
async fn move_all(db: &mut PgConnection, workspace: Uuid, stays: Uuid, goes: Uuid) -> Result<Moved, StoreError> {
    let leads = sqlx::query_scalar!(
        "update leads set contact_id = $3, revision = revision + 1 where workspace_id = $1 and contact_id = $2
         returning id",
        workspace,
        goes,
        stays
    )
    .fetch_all(&mut *db)
    .await?;
    let also_given = sqlx::query_scalar!(
        "update also_given set contact_id = $3 where workspace_id = $1 and contact_id = $2 returning id",
        workspace,
        goes,
        stays
    )
    .fetch_all(&mut *db)
    .await?;
    let requests = sqlx::query_scalar!(
        "update requests set contact_id = $3 where workspace_id = $1 and contact_id = $2 returning id",
        workspace,
        goes,
        stays
    )
    .fetch_all(&mut *db)
    .await?;
    let merges = sqlx::query_scalar!(
        "update merges set kept_id = $3 where workspace_id = $1 and kept_id = $2 and undone_at is null returning id",
        workspace,
        goes,
        stays
    )
    .fetch_all(&mut *db)
    .await?;
    Ok(Moved { leads, also_given, requests, merges, ..Moved::default() })
}

/// Gives back what moved and has not gone elsewhere since.
async fn give_back(
    db: &mut PgConnection,
    workspace: Uuid,
    stays: Uuid,
    goes: Uuid,
    moved: &Moved,
) -> Result<(), StoreError> {
    sqlx::query!(
        "update leads set contact_id = $3, revision = revision + 1 where workspace_id = $1 and contact_id = $2
         and id = any($4)",
        workspace,
        stays,
        goes,
        &moved.leads
    )
    .execute(&mut *db)
    .await?;
    sqlx::query!(
        "update also_given set contact_id = $3 where workspace_id = $1 and contact_id = $2 and id = any($4)",
        workspace,
        stays,
        goes,
        &moved.also_given
    )
    .execute(&mut *db)
    .await?;
    sqlx::query!(
        "update requests set contact_id = $3 where workspace_id = $1 and contact_id = $2 and id = any($4)",
        workspace,
        stays,
        goes,
        &moved.requests
    )
    .execute(&mut *db)
    .await?;
    sqlx::query!(
        "update merges set kept_id = $3 where workspace_id = $1 and kept_id = $2 and id = any($4)",
        workspace,
        stays,
        goes,
        &moved.merges
    )
    .execute(db)
    .await?;
    Ok(())
}

async fn values_of(db: &mut PgConnection, workspace: Uuid, contact: Uuid) -> Result<Vec<ValueAsKept>, StoreError> {
    let rows = sqlx::query!(
        "select field_id, key, label, type as kind, value, shown, typed, source, at as \"at: SqlTimestamp\", before
         from record_values where workspace_id = $1 and record = 'contact' and record_id = $2 order by field_id",
        workspace,
        contact
    )
    .fetch_all(db)
    .await?;
    Ok(rows
        .into_iter()
        .map(|row| ValueAsKept {
            field_id: row.field_id,
            key: row.key,
            label: row.label,
            kind: row.kind,
            value: row.value,
            shown: row.shown,
            typed: row.typed,
            source: row.source,
            at: row.at.to_jiff(),
            before: row.before,
        })
        .collect())
}

/// The two contacts field by field, with the policies that the workspace's fields have now.
async fn pairs(db: &mut PgConnection, workspace: Uuid, stays: Uuid, goes: Uuid) -> Result<Vec<Pair>, StoreError> {
    let policies: BTreeMap<String, Policy> = sqlx::query!(
        "select id, definition -> 'policy' as \"policy: Json<Policy>\" from fields where workspace_id = $1",
        workspace
    )
    .fetch_all(&mut *db)
    .await?
    .into_iter()
    .filter_map(|row| Some((row.id, row.policy?.0)))
    .collect();
    let side = |value: &ValueAsKept| Side {
        value: value.typed.clone().and_then(|typed| serde_json::from_value::<Value>(typed).ok()),
        shown: value.shown.clone(),
        at: value.at,
    };
    let (one, other) = (values_of(db, workspace, stays).await?, values_of(db, workspace, goes).await?);
    let mut pairs: BTreeMap<&str, Pair> = BTreeMap::new();
    for (value, is_first) in one.iter().map(|value| (value, true)).chain(other.iter().map(|value| (value, false))) {
        let pair = pairs.entry(&value.field_id).or_insert_with(|| Pair {
            field: value.field_id.clone(),
            label: value.label.clone(),
            policy: policies.get(&value.field_id).copied().unwrap_or_default(),
            stays: None,
            goes: None,
        });
        *(if is_first { &mut pair.stays } else { &mut pair.goes }) = Some(side(value));
    }
    Ok(pairs.into_values().collect())
}

fn line(pair: &Pair, keeps: Option<&Keeps>) -> MergeLine {
    let takes = keeps.map_or(Takes::Stays, |keeps| keeps.takes);
    let of = |side: &Option<Side>| side.as_ref().map(|side| side.shown.clone());
    let shown = match takes {
        Takes::Stays => of(&pair.stays),
        Takes::Goes => of(&pair.goes),
        Takes::Both => keeps.and_then(|keeps| keeps.value.as_ref()).map(ToString::to_string),
    };
    MergeLine {
        field: pair.field.clone(),
        label: pair.label.clone(),
        stays: of(&pair.stays),
        goes: of(&pair.goes),
        keeps: takes,
        shown: shown.unwrap_or_default(),
    }
}

/// Writes what the one that stays takes over; gives what stood there, and what was written.
async fn write_values(
    db: &mut PgConnection,
    workspace: Uuid,
    stays: Uuid,
    goes: Uuid,
    pairs: &[Pair],
    plan: &BTreeMap<String, Keeps>,
) -> Result<Vec<(Option<ValueAsKept>, ValueAsKept)>, StoreError> {
    let (one, other) = (values_of(db, workspace, stays).await?, values_of(db, workspace, goes).await?);
    let mut written = Vec::new();
    for pair in pairs {
        let Some(keeps) = plan.get(&pair.field).filter(|keeps| keeps.takes != Takes::Stays) else { continue };
        let find = |of: &[ValueAsKept]| of.iter().find(|value| value.field_id == pair.field).cloned();
        let (before, Some(mut after)) = (find(&one), find(&other)) else { continue };
        if let Some(value) = &keeps.value {
            (after.value, after.shown) = (value.to_json(), value.to_string());
            after.typed = serde_json::to_value(value).ok();
        }
        after.before = before.as_ref().map(|before| before.value.clone());
        write_value(db, workspace, stays, &after).await?;
        written.push((before, after));
    }
    Ok(written)
}

async fn write_value(
    db: &mut PgConnection,
    workspace: Uuid,
    contact: Uuid,
    value: &ValueAsKept,
) -> Result<(), StoreError> {
    sqlx::query!(
        "insert into record_values (workspace_id, record, record_id, field_id, key, label, type, value, shown, typed,
         source, at, before) values ($1, 'contact', $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12)
         on conflict (workspace_id, record, record_id, field_id) do update
         set key = excluded.key, label = excluded.label, type = excluded.type, value = excluded.value,
           shown = excluded.shown, typed = excluded.typed, source = excluded.source, at = excluded.at,
           before = excluded.before",
        workspace,
        contact,
        value.field_id,
        value.key,
        value.label,
        value.kind,
        value.value,
        value.shown,
        value.typed,
        value.source,
        value.at.to_sqlx() as _,
        value.before
    )
    .execute(db)
    .await?;
    Ok(())
}

/// Puts back what stood there before, where it is still what the merge wrote.
async fn restore_values(db: &mut PgConnection, workspace: Uuid, stays: Uuid, moved: &Moved) -> Result<(), StoreError> {
    let current = values_of(db, workspace, stays).await?;
    for (before, after) in &moved.values {
        if !current.contains(after) {
            continue;
        }
        match before {
            Some(before) => write_value(db, workspace, stays, before).await?,
            None => {
                sqlx::query!(
                    "delete from record_values where workspace_id = $1 and record = 'contact' and record_id = $2
                     and field_id = $3",
                    workspace,
                    stays,
                    after.field_id
                )
                .execute(&mut *db)
                .await?;
            }
        }
    }
    Ok(())
}

/// Ends the undo of every merge that a contact had a part in, and blanks what they kept; those that went into it go
/// with it.
pub(super) async fn end_merges(
    db: &mut PgConnection,
    workspace: Uuid,
    contact: Uuid,
    now: Timestamp,
) -> Result<(), StoreError> {
    let gone = sqlx::query_scalar!(
        "update merges set moved = '{}', gone_name = null, emails = '{}', gone_subject = null, ended_at = $3
         where workspace_id = $1 and (kept_id = $2 or gone_id = $2) returning gone_id",
        workspace,
        contact,
        now.to_sqlx() as _
    )
    .fetch_all(&mut *db)
    .await?;
    sqlx::query!(
        "delete from record_values where workspace_id = $1 and record = 'contact' and record_id = any($2)
         and exists (select from contacts c where c.workspace_id = $1 and c.id = record_id and c.merged_into = $3)",
        workspace,
        &gone,
        contact
    )
    .execute(&mut *db)
    .await?;
    sqlx::query!(
        "update contacts set name = null, phone = null, email = null, subject = null, company_id = null, erased_at = $4
         where workspace_id = $1 and id = any($2) and merged_into = $3",
        workspace,
        &gone,
        contact,
        now.to_sqlx() as _
    )
    .execute(db)
    .await?;
    Ok(())
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_moved_is_read_back_as_it_was_kept() {
        let value = ValueAsKept {
            field_id: "f".into(),
            key: "role".into(),
            label: "Role".into(),
            kind: "text".into(),
            value: "owner".into(),
            shown: "owner".into(),
            typed: None,
            source: "file".into(),
            at: Timestamp::UNIX_EPOCH,
            before: None,
        };
        let moved = Moved { values: vec![(None, value.clone()), (Some(value.clone()), value)], ..Moved::default() };
        let kept = serde_json::to_value(&moved).unwrap_or_default();
        let read: Moved = serde_json::from_value(kept).unwrap_or_default();
        assert_eq!(read.values, moved.values);
    }
}
