//! The list of companies, one company with everything, its standing and who looks after it.

use jiff::Timestamp;
use jiff_sqlx::Timestamp as SqlTimestamp;
use lumbo_people::Audited;
use lumbo_records::{AlsoGiven, Standing};
use uuid::Uuid;

use super::contacts::ContactLead;
use super::{PAGE, ValueRow, holding, place, place_text};
use crate::leads::{put_by_hand, standing};
use crate::live::{self, Topic};
use crate::{Person, Store, StoreError};

/// A line of the list of companies.
#[derive(Debug, Clone)]
pub struct CompanyRow {
    /// Its id.
    pub id: Uuid,
    /// Its name on file.
    pub name: Option<String>,
    /// Its domain.
    pub domain: Option<String>,
    /// What it is to us.
    pub standing: Standing,
    /// Name of whoever looks after it.
    pub owner: Option<String>,
    /// How many contacts it has.
    pub contacts: i64,
    /// How many leads, and how many of them are open.
    pub leads: i64,
    /// See `leads`.
    pub open: i64,
    /// When the newest was filed.
    pub last_at: Option<Timestamp>,
}

/// A page of companies, by name.
#[derive(Debug, Clone)]
pub struct CompanyPage {
    /// The companies, 100 at most.
    pub companies: Vec<CompanyRow>,
    /// What the next page begins after; absent where this is the last.
    pub next: Option<String>,
}

/// Somebody at a company.
#[derive(Debug, Clone)]
pub struct CompanyContact {
    /// Their id.
    pub id: Uuid,
    /// Name on file.
    pub name: Option<String>,
    /// E-mail address on file.
    pub email: Option<String>,
    /// Phone number on file, E.164.
    pub phone: Option<String>,
    /// How many leads of theirs there are.
    pub leads: i64,
}

/// A company with everything.
#[derive(Debug, Clone)]
pub struct CompanyDetail {
    /// Its id.
    pub id: Uuid,
    /// Its name on file.
    pub name: Option<String>,
    /// Its domain: leads with an address there are its leads.
    pub domain: Option<String>,
    /// What it is to us.
    pub standing: Standing,
    /// Who looks after it.
    pub owner: Option<(Uuid, String)>,
    /// When the first of it was filed.
    pub made_at: Timestamp,
    /// Values with where they came from.
    pub values: Vec<ValueRow>,
    /// Its people, by name; 200 at most.
    pub contacts: Vec<CompanyContact>,
    /// Its leads, the newest first; those that the one who asks may see.
    pub leads: Vec<ContactLead>,
}

/// A change of a company by hand. What is absent stays.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct CompanyChange {
    /// Its name.
    pub name: Option<String>,
    /// What it is to us.
    pub standing: Option<Standing>,
    /// Who looks after it; `Some(None)` for nobody.
    pub owner: Option<Option<Uuid>>,
}

impl Store {
    /// A page of the companies that a person may see, by name.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] for a place that no page ended at.
    #[crate::compiled_here]
    pub async fn companies(
        &self,
        person: &Person,
        search: &str,
        after: Option<&str>,
    ) -> Result<CompanyPage, StoreError> {
        let (sorted, id) = place(after)?;
        let rows = sqlx::query!(
            "with shown as (
               select f.* from companies f
               where f.workspace_id = $1 and (f.sorted, f.id) > ($4, $5)
                 and ($6::text is null or f.name ilike $6 or f.domain ilike $6)
                 and ($3 or f.owner_id in (select seen_by($1, $2))
                   or exists (select from leads l where l.workspace_id = f.workspace_id
                   and l.company_id = f.id and (l.owner_id in (select seen_by($1, $2))
                     or l.queue_id in (select m.queue_id
                     from queue_members m where m.workspace_id = $1 and m.person_id in (select seen_by($1, $2))))))
               order by f.sorted, f.id limit $7)
             select f.id, f.name, f.domain, f.sorted as \"sorted!\", f.standing, o.name as \"owner?\",
               (select count(*) from contacts c where c.workspace_id = $1 and c.company_id = f.id
                 and c.erased_at is null and c.merged_into is null) as \"contacts!\",
               t.leads as \"leads!\", t.open as \"open!\", t.last_at as \"last_at?: SqlTimestamp\"
             from shown f left join people o on o.workspace_id = f.workspace_id and o.id = f.owner_id
             cross join lateral (select count(*) as leads, count(*) filter (where not l.closed) as open,
               max(l.filed_at) as last_at from leads l where l.workspace_id = $1 and l.company_id = f.id) t
             order by f.sorted, f.id",
            person.workspace_id,
            person.id,
            person.sees_all(),
            sorted,
            id,
            holding(search),
            PAGE + 1
        )
        .fetch_all(&self.pool)
        .await?;
        let length = usize::try_from(PAGE).unwrap_or(usize::MAX);
        let next = (rows.len() > length).then(|| rows.get(length - 1).map(|row| place_text(&row.sorted, row.id)));
        let companies = rows
            .into_iter()
            .take(length)
            .map(|row| {
                Ok(CompanyRow {
                    id: row.id,
                    name: row.name,
                    domain: row.domain,
                    standing: standing(&row.standing)?,
                    owner: row.owner,
                    contacts: row.contacts,
                    leads: row.leads,
                    open: row.open,
                    last_at: row.last_at.map(SqlTimestamp::to_jiff),
                })
            })
            .collect::<Result<_, StoreError>>()?;
        Ok(CompanyPage { companies, next: next.flatten() })
    }

    /// One company with everything, where the person looks after it or may see a lead of it.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], also where it is somebody else's.
    #[crate::compiled_here]
    pub async fn company(&self, person: &Person, id: Uuid) -> Result<CompanyDetail, StoreError> {
        let workspace = person.workspace_id;
        let row = sqlx::query!(
            "select f.id, f.name, f.domain, f.standing, f.made_at as \"made_at: SqlTimestamp\",
             o.id as \"owner?\", o.name as \"owner_name?\"
             from companies f left join people o on o.workspace_id = f.workspace_id and o.id = f.owner_id
             where f.workspace_id = $1 and f.id = $4
               and ($3 or f.owner_id in (select seen_by($1, $2))
                 or exists (select from leads l where l.workspace_id = f.workspace_id
                 and l.company_id = f.id and (l.owner_id in (select seen_by($1, $2)) or l.queue_id in (select m.queue_id
                   from queue_members m where m.workspace_id = $1 and m.person_id in (select seen_by($1, $2))))))",
            workspace,
            person.id,
            person.sees_all(),
            id
        )
        .fetch_optional(&self.pool)
        .await?
        .ok_or(StoreError::NotFound("company"))?;
        let contacts = sqlx::query_as!(
            CompanyContact,
            "select c.id, c.name, c.email, c.phone, (select count(*) from leads l where l.workspace_id = $1
               and l.contact_id = c.id) as \"leads!\"
             from contacts c where c.workspace_id = $1 and c.company_id = $4
               and c.erased_at is null and c.merged_into is null
               and ($3 or exists (select from leads l where l.workspace_id = $1 and l.contact_id = c.id
                 and (l.owner_id in (select seen_by($1, $2)) or l.queue_id in (select m.queue_id from queue_members m
                   where m.workspace_id = $1 and m.person_id in (select seen_by($1, $2))))))
             order by c.sorted, c.id limit 200",
            workspace,
            person.id,
            person.sees_all(),
            id
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(CompanyDetail {
            id: row.id,
            name: row.name,
            domain: row.domain,
            standing: standing(&row.standing)?,
            owner: row.owner.zip(row.owner_name),
            made_at: row.made_at.to_jiff(),
            values: self.values_of(workspace, "company", id).await?,
            contacts,
            leads: self.leads_of(person, None, Some(id)).await?,
        })
    }

    /// Changes a company by a person's hand; its standing and who looks after it hold for leads from now on.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where the person may not see it; [`StoreError::Conflict`] for an owner who cannot take
    /// leads.
    #[crate::compiled_here]
    pub async fn change_company(
        &self,
        person: &Person,
        id: Uuid,
        change: &CompanyChange,
    ) -> Result<CompanyDetail, StoreError> {
        self.company(person, id).await?;
        let (workspace, now) = (person.workspace_id, self.now());
        let mut db = self.pool.begin().await?;
        if let Some(name) = &change.name {
            put_by_hand(&mut db, person, AlsoGiven::Company, id, name, now).await?;
            self.told(&mut db, person, id, Audited::RecordChanged, "a company’s name").await?;
        }
        if let Some(standing) = change.standing {
            sqlx::query!(
                "update companies set standing = $3 where workspace_id = $1 and id = $2",
                workspace,
                id,
                standing.as_str()
            )
            .execute(&mut *db)
            .await?;
            self.told(&mut db, person, id, Audited::RecordChanged, "what a company is to us").await?;
        }
        if let Some(owner) = change.owner {
            let changed = sqlx::query!(
                "update companies set owner_id = $3 where workspace_id = $1 and id = $2
                 and ($3::uuid is null or exists (select from people p where p.workspace_id = $1 and p.id = $3
                   and p.active and p.role in ('rep', 'rep_lead', 'administrator')))",
                workspace,
                id,
                owner
            )
            .execute(&mut *db)
            .await?;
            if changed.rows_affected() == 0 {
                return Err(StoreError::Conflict("this person takes no leads; name a rep or a sales lead".into()));
            }
            self.told(&mut db, person, id, Audited::RecordChanged, "who looks after a company").await?;
        }
        live::add(&mut db, workspace, Topic::Leads, "lead", now).await?;
        db.commit().await?;
        self.wakes.stream(workspace);
        self.company(person, id).await
    }
}
