//! Tasks: what a person owes on a lead, with a due moment.

use jiff::Timestamp;
use jiff_sqlx::{Timestamp as SqlTimestamp, ToSqlx};
use lumbo_people::Action;
use uuid::Uuid;

use super::{Activity, LeadDetail, log};
use crate::jobs::{self, Ended, JobKind};
use crate::notices::{About, NoticeKind, tell};
use crate::{Person, Store, StoreError};

/// Most open tasks of one lead.
const MOST: usize = 50;
/// Most tasks in one list.
const SHOWN: i64 = 500;

/// A task to make.
#[derive(Debug, Clone)]
pub struct NewTask<'a> {
    /// The lead.
    pub lead: Uuid,
    /// Who owes it.
    pub person: Uuid,
    /// What is owed, 1 to 300 characters.
    pub says: &'a str,
    /// By when.
    pub due_at: Timestamp,
}

/// A task.
#[derive(Debug, Clone)]
pub struct TaskRow {
    /// Its id.
    pub id: Uuid,
    /// The lead.
    pub lead: Uuid,
    /// The lead's name.
    pub name: Option<String>,
    /// The lead's company.
    pub company: Option<String>,
    /// What is owed.
    pub says: String,
    /// By when.
    pub due_at: Timestamp,
    /// When it was done.
    pub done_at: Option<Timestamp>,
    /// Who owes it.
    pub person: String,
    /// True where that is whoever asks.
    pub mine: bool,
}

struct Row {
    id: Uuid,
    lead_id: Uuid,
    name: Option<String>,
    company: Option<String>,
    says: String,
    due_at: SqlTimestamp,
    done_at: Option<SqlTimestamp>,
    person: String,
    mine: bool,
}

impl From<Row> for TaskRow {
    fn from(row: Row) -> Self {
        Self {
            id: row.id,
            lead: row.lead_id,
            name: row.name,
            company: row.company,
            says: row.says,
            due_at: row.due_at.to_jiff(),
            done_at: row.done_at.map(SqlTimestamp::to_jiff),
            person: row.person,
            mine: row.mine,
        }
    }
}

/// Tasks with their leads: what narrows them, in which order, arguments.
macro_rules! rows {
    ($and:literal, $($argument:expr),+ $(,)?) => {
        sqlx::query_as!(
            Row,
            "select t.id, t.lead_id, l.name, l.company, t.says, t.due_at as \"due_at: SqlTimestamp\",
             t.done_at as \"done_at: SqlTimestamp\", p.name as person, t.person_id = $2 as \"mine!\"
             from tasks t join leads l on l.workspace_id = t.workspace_id and l.id = t.lead_id
             join people p on p.workspace_id = t.workspace_id and p.id = t.person_id
             where t.workspace_id = $1 " + $and,
            $($argument),+
        )
    };
}

impl Store {
    /// What a person owes and has not done, by when it is due; 500 at most.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn tasks(&self, person: &Person) -> Result<Vec<TaskRow>, StoreError> {
        let rows = rows!(
            "and t.person_id = $2 and t.done_at is null order by t.due_at, t.id limit $3",
            person.workspace_id,
            person.id,
            SHOWN
        );
        Ok(rows.fetch_all(&self.pool).await?.into_iter().map(Into::into).collect())
    }

    /// The tasks of a lead that was seen: open ones first, by when they are due.
    pub(crate) async fn tasks_of(&self, person: &Person, lead: Uuid) -> Result<Vec<TaskRow>, StoreError> {
        let rows = rows!(
            "and t.lead_id = $3 order by t.done_at is not null, t.due_at, t.id limit $4",
            person.workspace_id,
            person.id,
            lead,
            SHOWN
        );
        Ok(rows.fetch_all(&self.pool).await?.into_iter().map(Into::into).collect())
    }

    /// Makes a task on a lead.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where the maker may not see the lead; [`StoreError::Conflict`] where whoever owes it
    /// does not work leads any more, or the lead has 50 open ones.
    #[crate::compiled_here]
    pub async fn add_task(&self, by: &Person, task: NewTask<'async_recursion>) -> Result<LeadDetail, StoreError> {
        self.lead(by, task.lead).await?;
        let (workspace, now) = (by.workspace_id, self.now());
        if self.tasks_of(by, task.lead).await?.iter().filter(|known| known.done_at.is_none()).count() >= MOST {
            let says = format!("this lead has {MOST} open tasks already; tick off those that are done");
            return Err(StoreError::Conflict(says));
        }
        let id = Uuid::now_v7();
        let mut db = self.pool.begin().await?;
        let made = sqlx::query_scalar!(
            "insert into tasks (workspace_id, id, lead_id, person_id, made_by, says, due_at, made_at)
             select $1, $2, $3, p.id, $5, $6, $7, $8 from people p
             where p.workspace_id = $1 and p.id = $4 and p.active and p.role = any($9)
             returning (select p.name from people p where p.workspace_id = $1 and p.id = $4) as \"name!\"",
            workspace,
            id,
            task.lead,
            task.person,
            by.id,
            task.says,
            task.due_at.to_sqlx() as _,
            now.to_sqlx() as _,
            &working_roles()
        )
        .fetch_optional(&mut *db)
        .await?;
        let Some(name) = made else {
            let says = "whoever you named works no leads any more; pick somebody else".to_owned();
            return Err(StoreError::Conflict(says));
        };
        let says = if task.person == by.id {
            format!("Task: {}", task.says)
        } else {
            format!("Task for {name}: {}", task.says)
        };
        log(&mut db, workspace, task.lead, Some(by.id), Activity::Note, &says, now).await?;
        jobs::set(&mut db, workspace, JobKind::TaskDue, id, &id.to_string(), task.due_at, now).await?;
        self.changed(db, by, now).await?;
        self.lead(by, task.lead).await
    }

    /// Tells whoever owes a task, or their deputy while they are away, that its moment has come; nothing where it is
    /// done.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn remind_of_task(&self, workspace: Uuid, task: Uuid) -> Result<Ended, StoreError> {
        let now = self.now();
        let mut db = self.pool.begin().await?;
        let people = sqlx::query_scalar!(
            "select distinct p.id from tasks t join leads l on l.workspace_id = t.workspace_id and l.id = t.lead_id
             join people p on p.workspace_id = t.workspace_id and p.active
               and (p.id = t.person_id or p.id = stands_in(t.workspace_id, t.person_id, $3))
             where t.workspace_id = $1 and t.id = $2 and t.done_at is null and l.erased_at is null",
            workspace,
            task,
            now.to_sqlx() as _
        )
        .fetch_all(&mut *db)
        .await?;
        tell(&mut db, workspace, &people, NoticeKind::Task, About::Task(task), now).await?;
        db.commit().await?;
        self.wakes.jobs();
        self.wakes.stream(workspace);
        Ok(Ended::Done)
    }

    /// Says that a task is done, or is not after all; who owes it may, and who sees every lead.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where it is not theirs.
    #[crate::compiled_here]
    pub async fn settle_task(&self, by: &Person, task: Uuid, done: bool) -> Result<(), StoreError> {
        let (workspace, now) = (by.workspace_id, self.now());
        let mut db = self.pool.begin().await?;
        let row = sqlx::query!(
            "update tasks t set done_at = case when $4 then $5::timestamptz end from tasks old
             where t.workspace_id = $1 and t.id = $3 and ($6
               or t.person_id in (select seen_by($1, $2))) and old.id = t.id
               and old.workspace_id = t.workspace_id
             returning t.lead_id, t.says, (old.done_at is not null) is distinct from $4 as \"changed!\"",
            workspace,
            by.id,
            task,
            done,
            now.to_sqlx() as _,
            by.sees_all()
        )
        .fetch_optional(&mut *db)
        .await?
        .ok_or(StoreError::NotFound("task"))?;
        if row.changed {
            let says = if done { format!("Done: {}", row.says) } else { format!("Not done after all: {}", row.says) };
            log(&mut db, workspace, row.lead_id, Some(by.id), Activity::Note, &says, now).await?;
        }
        self.changed(db, by, now).await
    }
}

/// Roles whose people work leads, as they are kept.
fn working_roles() -> Vec<String> {
    let works = |role: &&lumbo_people::Role| role.may(Action::WorkLeads);
    lumbo_people::Role::ALL.iter().filter(works).map(|role| role.as_str().to_owned()).collect()
}
