//! How a contact wants to be reached, and how not. What somebody refused who became one with another is refused for
//! both, for as long as they are one.

use jiff::Timestamp;
use jiff_sqlx::{Timestamp as SqlTimestamp, ToSqlx};
use lumbo_people::Audited;
use lumbo_records::reach_says;
use lumbo_value::permits::Channel;
use sqlx::{Postgres, Transaction};
use uuid::Uuid;

use super::ContactDetail;
use crate::leads::{Activity, log};
use crate::live::{self, Topic};
use crate::{Person, Store, StoreError};

/// How a contact wants to be reached.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Reach {
    /// The way they prefer.
    pub prefers: Option<Channel>,
    /// Ways they do not want.
    pub refuses: Vec<Channel>,
    /// Ways for which they withdrew their permission.
    pub withdrawn: Vec<Channel>,
    /// Who kept it.
    pub by: Option<String>,
    /// When.
    pub at: Option<Timestamp>,
}

fn channel(name: &str) -> Result<Channel, StoreError> {
    Channel::parse(name).ok_or_else(|| StoreError::Kept(format!("nobody is reached by “{name}”")))
}

impl Store {
    /// How a contact wants to be reached.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    pub(crate) async fn reach_of(&self, workspace: Uuid, contact: Uuid) -> Result<Reach, StoreError> {
        let row = sqlx::query!(
            "with recursive one (id) as (
               select $2::uuid union select k.id from contacts k join one on k.merged_into = one.id
               where k.workspace_id = $1)
             select c.prefers, p.name as \"by?\", c.reach_at as \"at: SqlTimestamp\",
               array(select distinct r from contacts k, unnest(k.refuses) r where k.workspace_id = $1
                 and k.id in (select id from one) order by r) as \"refuses!\"
             from contacts c left join people p on p.workspace_id = c.workspace_id and p.id = c.reach_by
             where c.workspace_id = $1 and c.id = $2",
            workspace,
            contact
        )
        .fetch_optional(&self.pool)
        .await?;
        let Some(row) = row else { return Ok(Reach::default()) };
        Ok(Reach {
            prefers: row.prefers.as_deref().map(channel).transpose()?,
            withdrawn: self.withdrawn_of(workspace, contact).await?,
            refuses: row.refuses.iter().map(|name| channel(name)).collect::<Result<_, _>>()?,
            by: row.by,
            at: row.at.map(SqlTimestamp::to_jiff),
        })
    }

    /// Ends a change of a contact by a person's hand: their open leads say so, the audit has it, windows are told.
    pub(super) async fn contact_changed(
        &self,
        mut db: Transaction<'_, Postgres>,
        person: &Person,
        contact: Uuid,
        says: &str,
        about: &str,
    ) -> Result<ContactDetail, StoreError> {
        let (workspace, now) = (person.workspace_id, self.now());
        let open = sqlx::query_scalar!(
            "select id from leads where workspace_id = $1 and contact_id = $2 and not closed order by id",
            workspace,
            contact
        )
        .fetch_all(&mut *db)
        .await?;
        for lead in open {
            log(&mut db, workspace, lead, Some(person.id), Activity::Record, says, now).await?;
        }
        self.told(&mut db, person, contact, Audited::RecordChanged, about).await?;
        live::add(&mut db, workspace, Topic::Leads, "lead", now).await?;
        db.commit().await?;
        self.wakes.stream(workspace);
        self.contact(person, contact).await
    }

    /// Keeps how a contact wants to be reached, by a person's hand; their open leads tell of it.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where the person may not see the contact.
    #[crate::compiled_here]
    pub async fn change_reach(
        &self,
        person: &Person,
        id: Uuid,
        prefers: Option<Channel>,
        refuses: &[Channel],
    ) -> Result<ContactDetail, StoreError> {
        let known = self.contact(person, id).await?;
        let (workspace, now) = (person.workspace_id, self.now());
        let before = (known.reach.prefers, known.reach.refuses.as_slice());
        // Nobody prefers what they refuse.
        let prefers = prefers.filter(|channel| !refuses.contains(channel));
        let Some(says) = reach_says(before, (prefers, refuses)) else { return Ok(known) };
        let names: Vec<String> =
            Channel::ALL.into_iter().filter(|one| refuses.contains(one)).map(|one| one.as_str().to_owned()).collect();
        let mut db = self.pool.begin().await?;
        sqlx::query!(
            "with recursive one (id) as (
               select $2::uuid union select k.id from contacts k join one on k.merged_into = one.id
               where k.workspace_id = $1)
             update contacts set prefers = case when id = $2 then $3::text else prefers end,
               reach_by = case when id = $2 then $5 else reach_by end,
               reach_at = case when id = $2 then $6 else reach_at end,
               refuses = case when id = $2 then $4::text[]
                 else array(select r from unnest(refuses) r where r = any($4)) end
             where workspace_id = $1 and id in (select id from one)",
            workspace,
            id,
            prefers.map(Channel::as_str),
            &names,
            person.id,
            now.to_sqlx() as _
        )
        .execute(&mut *db)
        .await?;
        self.contact_changed(db, person, id, &says, "how a contact wants to be reached").await
    }
}
