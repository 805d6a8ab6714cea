//! The list of contacts, one contact with everything, and what people change by hand.

use jiff::Timestamp;
use jiff_sqlx::Timestamp as SqlTimestamp;
use lumbo_people::Audited;
use lumbo_records::{AlsoGiven, LeadStatus, Standing};
use uuid::Uuid;

use super::reach::Reach;
use super::{MergeRow, PAGE, PermissionRow, ValueRow, begins, holding, place, place_text};
use crate::leads::{also_given, put_by_hand, standing, status};
use crate::live::{self, Topic};
use crate::{Person, Store, StoreError};

/// A line of the list of contacts.
#[derive(Debug, Clone)]
pub struct ContactRow {
    /// Its id.
    pub id: Uuid,
    /// Name on file.
    pub name: Option<String>,
    /// E-mail address on file.
    pub email: Option<String>,
    /// Phone number on file, E.164.
    pub phone: Option<String>,
    /// The company's name.
    pub company: Option<String>,
    /// How many leads of theirs there are, and how many of them are open.
    pub leads: i64,
    /// See `leads`.
    pub open: i64,
    /// When the newest was filed.
    pub last_at: Option<Timestamp>,
    /// Name of whoever has the newest.
    pub owner: Option<String>,
}

/// A page of contacts, by name.
#[derive(Debug, Clone)]
pub struct ContactPage {
    /// The contacts, 100 at most.
    pub contacts: Vec<ContactRow>,
    /// What the next page begins after; absent where this is the last.
    pub next: Option<String>,
}

/// A lead, as its contact or company shows it.
#[derive(Debug, Clone)]
pub struct ContactLead {
    /// Its id.
    pub id: Uuid,
    /// The dialogue's title.
    pub dialogue: String,
    /// When it was filed.
    pub filed_at: Timestamp,
    /// Up to four things they want, in words.
    pub wants: String,
    /// The score.
    pub total: Option<i64>,
    /// The band's name.
    pub band: Option<String>,
    /// Place of the band from the lowest, 0; -1 where ruled out.
    pub band_rank: i32,
    /// The threshold that the band begins at.
    pub band_from: Option<i64>,
    /// What became of it so far.
    pub status: LeadStatus,
    /// True where they left before the end.
    pub unfinished: bool,
    /// Whose it is.
    pub owner: Option<String>,
    /// The contact's name, as the lead shows it.
    pub name: Option<String>,
}

/// Something that was given otherwise than it is on file, and waits for a word.
#[derive(Debug, Clone)]
pub struct ContactGiven {
    /// What it is.
    pub what: AlsoGiven,
    /// What was given.
    pub value: String,
    /// When.
    pub given_at: Timestamp,
    /// The lead on which it can be settled.
    pub lead: Uuid,
}

/// A contact with everything.
#[derive(Debug, Clone)]
pub struct ContactDetail {
    /// Its id.
    pub id: Uuid,
    /// Name on file.
    pub name: Option<String>,
    /// E-mail address on file.
    pub email: Option<String>,
    /// Phone number on file, E.164.
    pub phone: Option<String>,
    /// True where the firm's own site knows them by a name of its own.
    pub known_on_site: bool,
    /// The company.
    pub company: Option<(Uuid, String)>,
    /// What the company is to us.
    pub standing: Standing,
    /// How they want to be reached.
    pub reach: Reach,
    /// When the first of them was filed.
    pub made_at: Timestamp,
    /// What they permitted and withdrew, the newest first.
    pub permissions: Vec<PermissionRow>,
    /// Words that people put on them.
    pub tags: Vec<String>,
    /// Values with where they came from.
    pub values: Vec<ValueRow>,
    /// Their leads, the newest first; those that the one who asks may see.
    pub leads: Vec<ContactLead>,
    /// What was also given and waits for a word.
    pub given: Vec<ContactGiven>,
    /// Contacts that became one with it, and can be two again.
    pub merges: Vec<MergeRow>,
}

/// A change of a contact by hand.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct ContactChange {
    /// Which part of who they are.
    pub what: AlsoGiven,
    /// What it is from now on.
    pub value: String,
}

impl Store {
    /// A page of the contacts that a person may see, by name.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] for a place that no page ended at.
    #[crate::compiled_here]
    pub async fn contacts(
        &self,
        person: &Person,
        search: &str,
        after: Option<&str>,
    ) -> Result<ContactPage, StoreError> {
        let (sorted, id) = place(after)?;
        // A `#` begins a tag, as in the list of leads.
        let tag = search.trim().strip_prefix('#').map(|tag| begins(tag.trim()));
        let rows = sqlx::query!(
            "with shown as (
               select c.* from contacts c left join companies f on f.workspace_id = c.workspace_id
                 and f.id = c.company_id
               where c.workspace_id = $1 and c.erased_at is null and c.merged_into is null
                 and (c.sorted, c.id) > ($4, $5)
                 and ($6::text is null or c.name ilike $6 or c.email ilike $6 or c.phone ilike $6 or f.name ilike $6)
                 and ($8::text is null or c.tags <> '{}' and exists (select from unnest(c.tags) t
                   where lower(t) like $8))
                 and ($3 or exists (select from leads l where l.workspace_id = c.workspace_id and l.contact_id = c.id
                   and (l.owner_id in (select seen_by($1, $2)) or l.queue_id in (select m.queue_id from queue_members m
                     where m.workspace_id = $1 and m.person_id in (select seen_by($1, $2))))))
               order by c.sorted, c.id limit $7)
             select c.id, c.name, c.email, c.phone, c.sorted as \"sorted!\", f.name as \"company?\",
               t.leads as \"leads!\", t.open as \"open!\", n.filed_at as \"last_at?: SqlTimestamp\",
               o.name as \"owner?\"
             from shown c left join companies f on f.workspace_id = c.workspace_id and f.id = c.company_id
             cross join lateral (select count(*) as leads, count(*) filter (where not l.closed) as open from leads l
               where l.workspace_id = $1 and l.contact_id = c.id) t
             left join lateral (select l.filed_at, l.owner_id from leads l where l.workspace_id = $1
               and l.contact_id = c.id order by l.filed_at desc, l.id desc limit 1) n on true
             left join people o on o.workspace_id = c.workspace_id and o.id = n.owner_id
             order by c.sorted, c.id",
            person.workspace_id,
            person.id,
            person.sees_all(),
            sorted,
            id,
            if tag.is_some() { None } else { holding(search) },
            PAGE + 1,
            tag
        )
        .fetch_all(&self.pool)
        .await?;
        let length = usize::try_from(PAGE).unwrap_or(usize::MAX);
        let next = (rows.len() > length).then(|| rows.get(length - 1).map(|row| place_text(&row.sorted, row.id)));
        let contacts = rows
            .into_iter()
            .take(length)
            .map(|row| ContactRow {
                id: row.id,
                name: row.name,
                email: row.email,
                phone: row.phone,
                company: row.company,
                leads: row.leads,
                open: row.open,
                last_at: row.last_at.map(SqlTimestamp::to_jiff),
                owner: row.owner,
            })
            .collect();
        Ok(ContactPage { contacts, next: next.flatten() })
    }

    /// One contact with everything, where the person may see a lead of theirs.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], also where it is somebody else's, or was erased.
    #[crate::compiled_here]
    pub async fn contact(&self, person: &Person, id: Uuid) -> Result<ContactDetail, StoreError> {
        let workspace = person.workspace_id;
        let row = sqlx::query!(
            "select c.id, c.name, c.email, c.phone, c.subject is not null as \"known!\",
             c.made_at as \"made_at: SqlTimestamp\", f.id as \"company?\",
             coalesce(f.name, f.domain) as \"company_name?\", coalesce(f.standing, 'none') as \"standing!\"
             from contacts c left join companies f on f.workspace_id = c.workspace_id and f.id = c.company_id
             where c.workspace_id = $1 and c.id = $4 and c.erased_at is null and c.merged_into is null
               and ($3 or exists (select from leads l where l.workspace_id = c.workspace_id and l.contact_id = c.id
                 and (l.owner_id in (select seen_by($1, $2)) or l.queue_id in (select m.queue_id from queue_members m
                   where m.workspace_id = $1 and m.person_id in (select seen_by($1, $2))))))",
            workspace,
            person.id,
            person.sees_all(),
            id
        )
        .fetch_optional(&self.pool)
        .await?
        .ok_or(StoreError::NotFound("contact"))?;
        let given = sqlx::query!(
            "select what, value, given_at as \"given_at: SqlTimestamp\", lead_id from also_given
             where workspace_id = $1 and contact_id = $2 and settled_at is null order by given_at, what",
            workspace,
            id
        )
        .fetch_all(&self.pool)
        .await?
        .into_iter()
        .map(|row| {
            let what = also_given(&row.what)?;
            Ok(ContactGiven { what, value: row.value, given_at: row.given_at.to_jiff(), lead: row.lead_id })
        })
        .collect::<Result<_, StoreError>>()?;
        Ok(ContactDetail {
            id: row.id,
            name: row.name,
            email: row.email,
            phone: row.phone,
            known_on_site: row.known,
            company: row.company.zip(row.company_name),
            standing: standing(&row.standing)?,
            reach: self.reach_of(workspace, id).await?,
            permissions: self.permissions_of(workspace, id).await?,
            tags: self.contact_tags(workspace, id).await?,
            made_at: row.made_at.to_jiff(),
            values: self.values_of(workspace, "contact", id).await?,
            leads: self.leads_of(person, Some(id), None).await?,
            given,
            merges: self.merges_of(workspace, id).await?,
        })
    }

    /// Leads of a contact or a company that a person may see, the newest first; 200 at most.
    pub(super) async fn leads_of(
        &self,
        person: &Person,
        contact: Option<Uuid>,
        company: Option<Uuid>,
    ) -> Result<Vec<ContactLead>, StoreError> {
        let rows = sqlx::query!(
            "select l.id, d.title, l.filed_at as \"filed_at: SqlTimestamp\", l.wants, l.total, l.band_label,
             l.band_rank, l.band_from, l.status, l.unfinished, o.name as \"owner?\", l.name
             from leads l join dialogues d on d.workspace_id = l.workspace_id and d.id = l.dialogue_id
             left join people o on o.workspace_id = l.workspace_id and o.id = l.owner_id
             where l.workspace_id = $1 and ($4::uuid is null or l.contact_id = $4)
               and ($5::uuid is null or l.company_id = $5) and l.erased_at is null
               and ($3 or l.owner_id in (select seen_by($1, $2))
                 or l.queue_id in (select m.queue_id from queue_members m
                 where m.workspace_id = $1 and m.person_id in (select seen_by($1, $2))))
             order by l.filed_at desc, l.id desc limit 200",
            person.workspace_id,
            person.id,
            person.sees_all(),
            contact,
            company
        )
        .fetch_all(&self.pool)
        .await?;
        rows.into_iter()
            .map(|row| {
                Ok(ContactLead {
                    id: row.id,
                    dialogue: row.title,
                    filed_at: row.filed_at.to_jiff(),
                    wants: row.wants,
                    total: row.total,
                    band: row.band_label,
                    band_rank: row.band_rank,
                    band_from: row.band_from,
                    status: status(&row.status)?,
                    unfinished: row.unfinished,
                    owner: row.owner,
                    name: row.name,
                })
            })
            .collect()
    }

    /// Changes a part of who a contact is, by a person's hand. What stood there before is kept with the value.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where the person may not see it, or it has no company to name;
    /// [`StoreError::Conflict`] where the address is another contact's.
    #[crate::compiled_here]
    pub async fn change_contact(
        &self,
        person: &Person,
        id: Uuid,
        change: &ContactChange,
    ) -> Result<ContactDetail, StoreError> {
        let before = self.contact(person, id).await?;
        let now = self.now();
        let mut db = self.pool.begin().await?;
        let record = match change.what {
            AlsoGiven::Company => before.company.ok_or(StoreError::NotFound("company of this contact"))?.0,
            AlsoGiven::Name | AlsoGiven::Email | AlsoGiven::Phone => id,
        };
        put_by_hand(&mut db, person, change.what, record, &change.value, now).await?;
        let about = match change.what {
            AlsoGiven::Name => "a contact’s name",
            AlsoGiven::Email => "a contact’s e-mail address",
            AlsoGiven::Phone => "a contact’s phone number",
            AlsoGiven::Company => "a company’s name",
        };
        self.told(&mut db, person, record, Audited::RecordChanged, about).await?;
        live::add(&mut db, person.workspace_id, Topic::Leads, "lead", now).await?;
        db.commit().await?;
        self.wakes.stream(person.workspace_id);
        self.contact(person, id).await
    }
}
