//! Contacts that may be one person, making them one, and undoing that.
//!
//! Undoing gives back what moved and what stood before. What somebody changed since stays as it was changed, and what
//! was added since stays with the one that stayed.

mod moved;
mod values;

use std::collections::BTreeMap;

use jiff::Timestamp;
use jiff_sqlx::{Timestamp as SqlTimestamp, ToSqlx};
use lumbo_people::Audited;
use lumbo_records::{Alike, Keeps, Pair, Side, Takes, WhoTheyAre, alike, plan_merge};
use sqlx::types::Json;
use uuid::Uuid;

use super::ContactDetail;
use crate::leads::{Activity, log};
use crate::live::{self, Topic};
use crate::{Person, Store, StoreError};

pub(super) use moved::end_merges;
use moved::{Identity, Moved, give_back, lock_both, move_all, write_identity};
use values::{pairs, restore_values, write_values};

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

impl Store {
    /// Contacts that may be the same person as one: proposed, never made one by themselves.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where the person may not see the contact.
    #[crate::compiled_here]
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
    #[crate::compiled_here]
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
    #[crate::compiled_here]
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
    #[crate::compiled_here]
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
            "select not exists (select from contacts where workspace_id = $1 and lower(email) = lower($2))
               as \"email!\",
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
