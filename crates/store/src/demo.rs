//! What a workspace begins with: people, queues, and a past.

use jiff::Timestamp;
use jiff_sqlx::ToSqlx;
use lumbo_dialogue::talk::ProspectMessage;
use uuid::Uuid;

use crate::leads::{Activity, calling_of, keep_pace, log, words};
use crate::people::{NewAccount, let_in, make};
use crate::{NewConversation, NewPerson, OutcomeChange, Store, StoreError, TakeError};

/// A conversation that took place already, and what became of its lead.
#[derive(Debug)]
pub struct TookPlace<'a> {
    /// How it began.
    pub new: NewConversation<'a>,
    /// What was said, each at its moment.
    pub inputs: Vec<(ProspectMessage, Timestamp)>,
    /// What became of its lead, and when.
    pub became: Vec<(OutcomeChange, Timestamp)>,
}

/// A queue to make.
#[derive(Debug, Clone)]
pub struct NewQueue<'a> {
    /// Its key, which routing rules name.
    pub key: &'a str,
    /// Its name.
    pub name: &'a str,
    /// Addresses of its members with their weights, in the order of rotation.
    pub members: &'a [(&'a str, i64)],
    /// Address of the one who always gets its leads.
    pub fixed_owner: Option<&'a str>,
}

impl Store {
    /// Sets the key in a workspace's line of script, so that pages that ship with Lumbo can carry it.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn set_page_key(&self, workspace: Uuid, key: &str) -> Result<(), StoreError> {
        sqlx::query!("update workspaces set page_key = $2 where id = $1", workspace, key).execute(&self.pool).await?;
        Ok(())
    }

    /// A workspace's id by its short name.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn workspace(&self, slug: &str) -> Result<Option<Uuid>, StoreError> {
        Ok(sqlx::query_scalar!("select id from workspaces where slug = $1", slug).fetch_optional(&self.pool).await?)
    }

    /// Runs a conversation that took place already, and says what became of its lead by its owner's word, nothing where
    /// it filed none; gives the conversation's id.
    ///
    /// # Errors
    /// As [`Store::take_input`].
    #[crate::compiled_here]
    pub async fn put_past(&self, past: TookPlace<'async_recursion>) -> Result<Uuid, TakeError> {
        let conversation = self.run_past(past.new, past.inputs).await?;
        let mut db = self.pool.begin().await?;
        for (change, at) in &past.became {
            let row = sqlx::query!(
                "update leads set status = $2, reason = $3, amount = $4::text::numeric, currency = $5,
                 touched_at = coalesce(touched_at, $6),
                 next_what = case when $7 then coalesce(next_what, 'call') end,
                 next_at = case when $7 then coalesce(next_at, $6) end,
                 revision = revision + 1, changed_at = $6
                 where shows = $1 returning id, workspace_id, owner_id",
                conversation,
                change.status.as_str(),
                change.reason,
                change.amount,
                change.currency,
                at.to_sqlx() as _,
                change.status.is_open()
            )
            .fetch_optional(&mut *db)
            .await?;
            let Some(lead) = row else { break };
            let calendar = calling_of(&mut db, lead.workspace_id, lead.id).await?;
            keep_pace(&mut db, lead.workspace_id, lead.id, change.status, &calendar, *at).await?;
            let kind =
                if change.status == lumbo_records::LeadStatus::Trying { Activity::Call } else { Activity::Status };
            log(&mut db, lead.workspace_id, lead.id, lead.owner_id, kind, &words(change), *at).await?;
        }
        db.commit().await?;
        Ok(conversation)
    }

    /// Makes a workspace with its people and queues, in one transaction.
    ///
    /// # Errors
    /// [`StoreError::Database`], also where an address is taken.
    #[crate::compiled_here]
    pub async fn create_workspace(
        &self,
        slug: &str,
        name: &str,
        people: &[NewPerson<'_>],
        queues: &[NewQueue<'_>],
    ) -> Result<Uuid, StoreError> {
        let mut db = self.pool.begin().await?;
        let workspace = Uuid::now_v7();
        // Whoever makes one in one go with its people and queues is the demo, or a test.
        sqlx::query!(
            "insert into workspaces (id, slug, name, demo, least_seconds) values ($1, $2, $3, true, 0)",
            workspace,
            slug,
            name
        )
        .execute(&mut *db)
        .await?;
        for person in people {
            let account =
                NewAccount { email: person.email, name: person.name, zone: None, password_hash: person.password_hash };
            let account = match make(&mut db, &account).await? {
                Some(made) => made,
                None => {
                    sqlx::query_scalar!("select id from accounts where lower(email) = lower($1)", person.email)
                        .fetch_one(&mut *db)
                        .await?
                }
            };
            let_in(&mut db, workspace, account, person.role).await?;
        }
        for queue in queues {
            let id = Uuid::now_v7();
            sqlx::query!(
                "insert into queues (id, workspace_id, key, name, picks, fixed_owner) values ($1, $2, $3, $4, $5,
                 (select id from people where workspace_id = $2 and email = $6))",
                id,
                workspace,
                queue.key,
                queue.name,
                if queue.fixed_owner.is_some() { "fixed_owner" } else { "rotation" },
                queue.fixed_owner
            )
            .execute(&mut *db)
            .await?;
            for (position, (email, weight)) in queue.members.iter().enumerate() {
                sqlx::query!(
                    "insert into queue_members (workspace_id, queue_id, person_id, position, weight) select $1, $2,
                     id, $4, $5 from people where workspace_id = $1 and email = $3",
                    workspace,
                    id,
                    email,
                    i32::try_from(position).unwrap_or(i32::MAX),
                    weight
                )
                .execute(&mut *db)
                .await?;
            }
        }
        db.commit().await?;
        Ok(workspace)
    }
}
