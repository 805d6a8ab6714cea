//! Queues as people set them: who takes part, how they pick, when they are open, whom they ask next.

use std::collections::BTreeMap;

use lumbo_calendar::Written;
use sqlx::types::Json;
use uuid::Uuid;

use lumbo_people::Audited;

use crate::audit::{self, Entry};
use crate::{Store, StoreError};

/// Who takes part in a queue, and how much.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct MemberRow {
    /// The person.
    pub person: Uuid,
    /// Their name.
    pub name: String,
    /// How many turns out of the sum of weights.
    pub weight: i64,
    /// Untried leads they take at once.
    pub untried_limit: Option<i32>,
    /// New leads they take a day.
    pub day_limit: Option<i32>,
    /// Untried leads they have now.
    pub untried: i64,
    /// Open leads they have now.
    pub open: i64,
    /// What they can.
    pub skills: Vec<String>,
    /// True while they take no new leads.
    pub paused: bool,
}

/// A queue with everything that is set.
#[derive(Debug, Clone)]
pub struct QueueRow {
    /// Its id.
    pub id: Uuid,
    /// Its key.
    pub key: String,
    /// Its name.
    pub name: String,
    /// Its revision; a change names it.
    pub revision: i64,
    /// How it picks: `rotation`, `fewest_open`, `fixed_owner`.
    pub picks: String,
    /// Who always has its leads.
    pub fixed_owner: Option<Uuid>,
    /// When it is open; always where absent.
    pub hours: Option<Written>,
    /// Whether a lead goes on while it is closed.
    pub passes_on: bool,
    /// After how many working minutes an untouched lead of the highest band is offered to the others; never where
    /// absent.
    pub offer_after: Option<i32>,
    /// Key of the queue that is asked next.
    pub next: Option<String>,
    /// Who takes part, in the order of rotation.
    pub members: Vec<MemberRow>,
    /// Leads that wait in it without an owner.
    pub waiting: i64,
    /// Titles of the dialogues whose drafts name it.
    pub serves: Vec<String>,
}

/// Who takes part, as it is to be.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct MemberChange {
    /// The person.
    pub person: Uuid,
    /// How many turns out of the sum of weights, 0 to 1000.
    pub weight: i64,
    /// Untried leads they take at once.
    pub untried_limit: Option<i32>,
    /// New leads they take a day.
    pub day_limit: Option<i32>,
}

/// A queue as it is to be.
#[derive(Debug, Clone)]
pub struct QueueChange {
    /// Its key.
    pub key: String,
    /// The revision that was looked at; 0 for a new one.
    pub revision: i64,
    /// Its name.
    pub name: String,
    /// How it picks.
    pub picks: String,
    /// Who always has its leads.
    pub fixed_owner: Option<Uuid>,
    /// When it is open.
    pub hours: Option<Written>,
    /// Whether a lead goes on while it is closed.
    pub passes_on: bool,
    /// After how many working minutes an untouched lead of the highest band is offered to the others.
    pub offer_after: Option<i32>,
    /// Key of the queue that is asked next.
    pub next: Option<String>,
    /// Who takes part, in the order of rotation.
    pub members: Vec<MemberChange>,
}

/// Somebody who can be a member.
#[derive(Debug, Clone)]
pub struct Colleague {
    /// Their id.
    pub id: Uuid,
    /// Their name.
    pub name: String,
    /// What they can.
    pub skills: Vec<String>,
    /// True while they take no new leads.
    pub paused: bool,
}

impl Store {
    /// Every queue with its members, by name.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn queue_rows(&self, workspace: Uuid) -> Result<Vec<QueueRow>, StoreError> {
        let queues = sqlx::query!(
            "select q.id, q.key, q.name, q.revision, q.picks, q.fixed_owner,
             q.hours as \"hours: Json<Written>\", q.passes_on, q.offer_after,
             n.key as \"next?\",
             (select count(*) from leads l where l.workspace_id = q.workspace_id and l.queue_id = q.id and not l.closed
               and l.owner_id is null) as \"waiting!\"
             from queues q left join queues n on n.workspace_id = q.workspace_id and n.id = q.next_queue
             where q.workspace_id = $1 order by q.name, q.key",
            workspace
        )
        .fetch_all(&self.pool)
        .await?;
        let members = sqlx::query!(
            "select m.queue_id, m.person_id, p.name, m.weight, m.untried_limit, m.day_limit, p.skills, p.paused,
             (select count(*) from leads l where l.workspace_id = m.workspace_id and l.owner_id = m.person_id
               and l.status = 'new') as \"untried!\",
             (select count(*) from leads l where l.workspace_id = m.workspace_id and l.owner_id = m.person_id
               and not l.closed) as \"open!\"
             from queue_members m join people p on p.workspace_id = m.workspace_id and p.id = m.person_id
             where m.workspace_id = $1 and p.active order by m.queue_id, m.position, m.person_id",
            workspace
        )
        .fetch_all(&self.pool)
        .await?;
        let mut serves = self.queues_in_drafts(workspace).await?;
        let mut of: BTreeMap<Uuid, Vec<MemberRow>> = BTreeMap::new();
        for row in members {
            of.entry(row.queue_id).or_default().push(MemberRow {
                person: row.person_id,
                name: row.name,
                weight: row.weight,
                untried_limit: row.untried_limit,
                day_limit: row.day_limit,
                untried: row.untried,
                open: row.open,
                skills: row.skills,
                paused: row.paused,
            });
        }
        Ok(queues
            .into_iter()
            .map(|row| QueueRow {
                members: of.remove(&row.id).unwrap_or_default(),
                serves: serves.remove(&row.key).unwrap_or_default(),
                id: row.id,
                key: row.key,
                name: row.name,
                revision: row.revision,
                picks: row.picks,
                fixed_owner: row.fixed_owner,
                hours: row.hours.map(|hours| hours.0),
                passes_on: row.passes_on,
                offer_after: row.offer_after,
                next: row.next,
                waiting: row.waiting,
            })
            .collect())
    }

    /// Titles of the dialogues whose drafts name a queue, by its key.
    async fn queues_in_drafts(&self, workspace: Uuid) -> Result<BTreeMap<String, Vec<String>>, StoreError> {
        let rows = sqlx::query!(
            "select q.key, d.body->>'title' as \"title!\" from queues q join drafts d on d.workspace_id = q.workspace_id
               and (d.body->'routing'->>'otherwise' = q.key
                 or exists (select from jsonb_array_elements(coalesce(d.body->'routing'->'rules', '[]'::jsonb)) r
                   where r->>'queue' = q.key))
             where q.workspace_id = $1 order by 2",
            workspace
        )
        .fetch_all(&self.pool)
        .await?;
        let mut out: BTreeMap<String, Vec<String>> = BTreeMap::new();
        rows.into_iter().for_each(|row| out.entry(row.key).or_default().push(row.title));
        Ok(out)
    }

    /// Makes a queue, or changes one.
    ///
    /// # Errors
    /// [`StoreError::Conflict`] where it was changed meanwhile, a new one's key is taken, or the chain comes back to
    /// it; [`StoreError::NotFound`] where a person or the next queue is not there.
    #[crate::compiled_here]
    pub async fn put_queue(&self, workspace: Uuid, by: Uuid, change: &QueueChange) -> Result<(), StoreError> {
        let mut db = self.pool.begin().await?;
        let next = match &change.next {
            Some(key) => Some(
                sqlx::query_scalar!("select id from queues where workspace_id = $1 and key = $2", workspace, key)
                    .fetch_optional(&mut *db)
                    .await?
                    .ok_or(StoreError::NotFound("queue to ask next"))?,
            ),
            None => None,
        };
        let id = if change.revision == 0 {
            sqlx::query_scalar!(
                "insert into queues (id, workspace_id, key, name, picks, fixed_owner, hours, passes_on, next_queue,
                   offer_after)
                 values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10)
                 on conflict (workspace_id, key) do nothing returning id",
                Uuid::now_v7(),
                workspace,
                change.key,
                change.name,
                change.picks,
                change.fixed_owner,
                change.hours.as_ref().map(Json) as _,
                change.passes_on,
                next,
                change.offer_after
            )
            .fetch_optional(&mut *db)
            .await
        } else {
            sqlx::query_scalar!(
                "update queues set name = $3, picks = $4, fixed_owner = $5, hours = $6, passes_on = $7, next_queue = $8,
                 offer_after = $10, revision = revision + 1
                 where workspace_id = $1 and key = $2 and revision = $9 returning id",
                workspace,
                change.key,
                change.name,
                change.picks,
                change.fixed_owner,
                change.hours.as_ref().map(Json) as _,
                change.passes_on,
                next,
                change.revision,
                change.offer_after
            )
            .fetch_optional(&mut *db)
            .await
        };
        let id = id.map_err(no_such_person)?.ok_or_else(|| {
            let says = if change.revision == 0 {
                "there is a queue of this key already"
            } else {
                "somebody changed this queue meanwhile. Look at it again"
            };
            StoreError::Conflict(says.into())
        })?;
        let chain = crate::queues::chain(&mut db, workspace, id).await?;
        let comes_back = sqlx::query_scalar!(
            "select exists (select from queues where workspace_id = $1 and id = any($2) and next_queue = $3) as
             \"back!\"",
            workspace,
            &chain,
            id
        )
        .fetch_one(&mut *db)
        .await?;
        if comes_back {
            return Err(StoreError::Conflict("the queues would ask each other in a circle. Take one out of it".into()));
        }
        let people: Vec<Uuid> = change.members.iter().map(|member| member.person).collect();
        sqlx::query!(
            "delete from queue_members where workspace_id = $1 and queue_id = $2 and person_id <> all($3)",
            workspace,
            id,
            &people
        )
        .execute(&mut *db)
        .await?;
        for (position, member) in change.members.iter().enumerate() {
            sqlx::query!(
                "insert into queue_members (workspace_id, queue_id, person_id, position, weight, untried_limit,
                 day_limit)
                 values ($1, $2, $3, $4, $5, $6, $7) on conflict (queue_id, person_id) do update
                   set position = excluded.position, weight = excluded.weight, untried_limit = excluded.untried_limit,
                   day_limit = excluded.day_limit",
                workspace,
                id,
                member.person,
                i32::try_from(position).unwrap_or(i32::MAX),
                member.weight,
                member.untried_limit,
                member.day_limit
            )
            .execute(&mut *db)
            .await
            .map_err(no_such_person)?;
        }
        let entry = Entry {
            person: Some(by),
            what: Audited::QueueChanged,
            about: &change.name,
            subject: Some(id),
            network: None,
        };
        audit::write(&mut db, workspace, &entry, self.now()).await?;
        db.commit().await?;
        Ok(())
    }

    /// People who can be members of queues, by name.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn colleagues(&self, workspace: Uuid) -> Result<Vec<Colleague>, StoreError> {
        Ok(sqlx::query_as!(
            Colleague,
            "select id, name, skills, paused from people where workspace_id = $1 and active and role <> 'author'
             order by name, id",
            workspace
        )
        .fetch_all(&self.pool)
        .await?)
    }

    /// Says whether somebody takes new leads, and what they can. Their open leads stay theirs.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    #[crate::compiled_here]
    pub async fn set_colleague(
        &self,
        workspace: Uuid,
        by: Uuid,
        person: Uuid,
        paused: bool,
        skills: &[String],
    ) -> Result<(), StoreError> {
        let mut db = self.pool.begin().await?;
        let name = sqlx::query_scalar!(
            "update people set paused = $3, skills = $4 where workspace_id = $1 and id = $2 and active
             returning name",
            workspace,
            person,
            paused,
            skills
        )
        .fetch_optional(&mut *db)
        .await?
        .ok_or(StoreError::NotFound("person"))?;
        let about = format!("{name}: {}", if paused { "takes no new leads" } else { "takes new leads" });
        let entry = Entry {
            person: Some(by),
            what: Audited::QueueChanged,
            about: &about,
            subject: Some(person),
            network: None,
        };
        audit::write(&mut db, workspace, &entry, self.now()).await?;
        db.commit().await?;
        Ok(())
    }

    /// A workspace's queues as they pick now, each with its chain behind it, by key; nothing is locked for longer than
    /// the reading.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn queues_now(&self, workspace: Uuid) -> Result<BTreeMap<String, Vec<lumbo_route::Queue>>, StoreError> {
        let now = self.now();
        let mut db = self.pool.begin().await?;
        let all =
            sqlx::query!("select id, key from queues where workspace_id = $1", workspace).fetch_all(&mut *db).await?;
        let ids: Vec<Uuid> = all.iter().map(|row| row.id).collect();
        let locked = crate::queues::lock(&mut db, workspace, &ids, now).await?;
        let mut out = BTreeMap::new();
        for row in all {
            let chain = crate::queues::chain(&mut db, workspace, row.id).await?;
            let queues = chain.iter().filter_map(|id| locked.iter().find(|queue| queue.id == *id).cloned()).collect();
            out.insert(row.key, queues);
        }
        db.rollback().await?;
        Ok(out)
    }
}

/// A person who is not of this workspace.
fn no_such_person(error: sqlx::Error) -> StoreError {
    match error.as_database_error() {
        Some(found) if found.is_foreign_key_violation() => StoreError::NotFound("person"),
        _ => error.into(),
    }
}
