//! Tags: words that people put on leads and contacts to find them again.

use jiff_sqlx::ToSqlx;
use lumbo_people::Audited;
use lumbo_records::tag;
use sqlx::PgConnection;
use uuid::Uuid;

use super::{Activity, LeadDetail, log};
use crate::{ContactDetail, Person, Store, StoreError};

/// Most tags of one lead.
const MOST: i32 = 20;

/// Tags a lead with words, without those that it has; case makes no difference, and it never gets more than 20.
pub(crate) async fn add_tags(
    db: &mut PgConnection,
    workspace: Uuid,
    lead: Uuid,
    words: &[String],
) -> Result<(), StoreError> {
    // What a file holds is no tag for being in it.
    let words: Vec<String> = words.iter().filter_map(|word| tag(word)).collect();
    if words.is_empty() {
        return Ok(());
    }
    sqlx::query!(
        "update leads l set tags = (array(
           select (array_agg(n.word order by n.n))[1] from (
             select t.word, t.n from unnest(l.tags) with ordinality as t(word, n)
             union all select w.word, 1000 + w.n from unnest($3::text[]) with ordinality as w(word, n)) n
           group by lower(n.word) order by min(n.n)))[1:$4]
         where l.workspace_id = $1 and l.id = $2",
        workspace,
        lead,
        &words,
        MOST
    )
    .execute(db)
    .await?;
    Ok(())
}

/// Tags a contact with words that they do not have; they never get more than 20.
pub(crate) async fn add_contact_tags(
    db: &mut PgConnection,
    workspace: Uuid,
    contact: Uuid,
    words: &[String],
) -> Result<(), StoreError> {
    sqlx::query!(
        "update contacts set tags = (tags || $3::text[])[1:$4] where workspace_id = $1 and id = $2",
        workspace,
        contact,
        words,
        MOST
    )
    .execute(db)
    .await?;
    Ok(())
}

/// Tags the lead that a conversation filed, by how it ended.
pub(crate) async fn tag_by_ending(
    db: &mut PgConnection,
    workspace: Uuid,
    conversation: Uuid,
    words: &[String],
) -> Result<(), StoreError> {
    let lead = sqlx::query_scalar!(
        "select lead_id from lead_snapshots where workspace_id = $1 and conversation_id = $2",
        workspace,
        conversation
    )
    .fetch_optional(&mut *db)
    .await?;
    match lead {
        Some(lead) => add_tags(db, workspace, lead, words).await,
        None => Ok(()),
    }
}

impl Store {
    /// Puts a tag on a lead, or takes it off; one that is there already, or gone already, changes nothing. Case makes
    /// no difference.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where the person may not see the lead; [`StoreError::Conflict`] where it has 20.
    #[crate::compiled_here]
    pub async fn tag_lead(&self, person: &Person, lead: Uuid, tag: &str, on: bool) -> Result<LeadDetail, StoreError> {
        let known = self.lead(person, lead).await?;
        let there = known.row.tags.iter().any(|known| known.to_lowercase() == tag.to_lowercase());
        if there == on {
            return Ok(known);
        }
        let (workspace, now) = (person.workspace_id, self.now());
        let mut db = self.pool.begin().await?;
        let changed = sqlx::query!(
            "update leads set tags = case when $4 then tags || $3::text
               else array(select t from unnest(tags) with ordinality as t(t, n) where lower(t) <> lower($3) order by n)
             end, changed_at = $5
             where workspace_id = $1 and id = $2 and (not $4 or cardinality(tags) < $6)",
            workspace,
            lead,
            tag,
            on,
            now.to_sqlx() as _,
            MOST
        )
        .execute(&mut *db)
        .await?;
        if changed.rows_affected() == 0 {
            return Err(StoreError::Conflict(format!("a lead has at most {MOST} tags. Take one off first")));
        }
        let says = if on { format!("Tagged “{tag}”") } else { format!("Took off the tag “{tag}”") };
        log(&mut db, workspace, lead, Some(person.id), Activity::Note, &says, now).await?;
        self.changed(db, person, now).await?;
        self.lead(person, lead).await
    }

    /// Words that people put on a contact, and on those who became one with it, in their order.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    pub(crate) async fn contact_tags(&self, workspace: Uuid, contact: Uuid) -> Result<Vec<String>, StoreError> {
        Ok(sqlx::query_scalar!(
            "with recursive one (id, deep) as (
               select $2::uuid, 0 union select k.id, one.deep + 1 from contacts k join one on k.merged_into = one.id
               where k.workspace_id = $1)
             select (array_agg(t.word order by one.deep, t.n))[1] as \"tag!\"
             from one join contacts k on k.workspace_id = $1 and k.id = one.id,
               unnest(k.tags) with ordinality as t (word, n)
             group by lower(t.word) order by min(one.deep), min(t.n)",
            workspace,
            contact
        )
        .fetch_all(&self.pool)
        .await?)
    }

    /// Puts a tag on a contact, or takes it off them and off those who became one with them. Case makes no difference.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where the person may not see the contact; [`StoreError::Conflict`] where they have 20.
    #[crate::compiled_here]
    pub async fn tag_contact(
        &self,
        person: &Person,
        contact: Uuid,
        tag: &str,
        on: bool,
    ) -> Result<ContactDetail, StoreError> {
        let known = self.contact(person, contact).await?;
        let there = known.tags.iter().any(|known| known.to_lowercase() == tag.to_lowercase());
        if there == on {
            return Ok(known);
        }
        if on && known.tags.len() >= usize::try_from(MOST).unwrap_or(0) {
            return Err(StoreError::Conflict(format!("a contact has at most {MOST} tags. Take one off first")));
        }
        let (workspace, now) = (person.workspace_id, self.now());
        let mut db = self.pool.begin().await?;
        sqlx::query!(
            "with recursive one (id) as (
               select $2::uuid union select k.id from contacts k join one on k.merged_into = one.id
               where k.workspace_id = $1)
             update contacts set tags = case when $4 then case when id = $2 then tags || $3::text else tags end
               else array(select t from unnest(tags) with ordinality as t(t, n) where lower(t) <> lower($3) order by n)
             end where workspace_id = $1 and id in (select id from one)",
            workspace,
            contact,
            tag,
            on
        )
        .execute(&mut *db)
        .await?;
        self.told(&mut db, person, contact, Audited::RecordChanged, "a contact’s tags").await?;
        self.changed(db, person, now).await?;
        self.contact(person, contact).await
    }

    /// Tags of the workspace's leads and contacts, the most used first; 200 at most.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn tags(&self, workspace: Uuid) -> Result<Vec<String>, StoreError> {
        Ok(sqlx::query_scalar!(
            "select min(t) as \"tag!\" from (
               select unnest(tags) from leads where workspace_id = $1 and tags <> '{}'
               union all select unnest(tags) from contacts where workspace_id = $1 and tags <> '{}') n (t)
             group by lower(t) order by count(*) desc, 1 limit 200",
            workspace
        )
        .fetch_all(&self.pool)
        .await?)
    }
}
