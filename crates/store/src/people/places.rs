//! The people of a workspace, for those who look after them.

use jiff::Timestamp;
use jiff_sqlx::{Timestamp as SqlTimestamp, ToSqlx};
use lumbo_people::{Audited, Role};
use sqlx::PgConnection;
use uuid::Uuid;

use super::{Person, role_of};
use crate::audit::{self, Entry};
use crate::jobs::{self, JobKind};
use crate::leads::{Activity, log};
use crate::live::{self, Topic};
use crate::team::led_by;
use crate::{Store, StoreError};

/// A person, as a list of them shows it.
#[derive(Debug, Clone)]
pub struct PlaceRow {
    /// Id of their place.
    pub id: Uuid,
    /// Name.
    pub name: String,
    /// Address.
    pub email: String,
    /// What they may do.
    pub role: Role,
    /// Whether they may sign in here.
    pub active: bool,
    /// When they were last here.
    pub seen_at: Option<Timestamp>,
    /// Whether a second factor is asked of them.
    pub second_factor: bool,
    /// Open leads that are theirs.
    pub open_leads: i64,
    /// Queues that they are in, by name.
    pub queues: Vec<String>,
    /// The team they belong to.
    pub team: Option<String>,
    /// The mark of their picture.
    pub picture: Option<String>,
}

/// A change of somebody's place.
#[derive(Debug, Clone)]
pub enum Place {
    /// Another role.
    Role(Role),
    /// Another team, or none.
    Team(Option<String>),
    /// Access ended, or restored.
    Active(bool),
}

impl Store {
    /// Everybody of a workspace, those with access first.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn place_rows(&self, workspace: Uuid) -> Result<Vec<PlaceRow>, StoreError> {
        let rows = sqlx::query!(
            "select p.id, p.name, a.email, p.role, p.active, p.team,
             left(encode(sha256(a.picture), 'hex'), 12) as picture, a.totp_since is not null as \"second_factor!\",
             (select to_timestamp(max((s.data -> 'person' ->> 'seen')::bigint)) from sessions s
               where s.account_id = a.id and s.data -> 'person' ->> 'workspace' = $1::text)
               as \"seen_at: SqlTimestamp\",
             (select count(*) from leads l where l.workspace_id = p.workspace_id and l.owner_id = p.id
               and not l.closed) as \"open_leads!\",
             array(select q.name from queue_members m join queues q on q.workspace_id = m.workspace_id
               and q.id = m.queue_id where m.workspace_id = p.workspace_id and m.person_id = p.id order by q.name)
               as \"queues!\"
             from people p join accounts a on a.id = p.account_id where p.workspace_id = $2
             order by p.active desc, lower(p.name), p.id",
            workspace.to_string(),
            workspace
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows
            .into_iter()
            .map(|row| PlaceRow {
                id: row.id,
                name: row.name,
                email: row.email,
                role: role_of(&row.role),
                active: row.active,
                seen_at: row.seen_at.map(SqlTimestamp::to_jiff),
                second_factor: row.second_factor,
                open_leads: row.open_leads,
                queues: row.queues,
                team: row.team,
                picture: row.picture,
            })
            .collect())
    }

    /// Changes somebody's role, or ends or restores their access; who loses access is signed out here at once. A
    /// workspace keeps one administrator.
    ///
    /// # Errors
    /// [`StoreError::NotFound`]; [`StoreError::Conflict`] where it would be the last administrator's.
    #[crate::compiled_here]
    pub async fn change_place(&self, by: &Person, place: Uuid, change: Place) -> Result<(), StoreError> {
        let mut db = self.pool.begin().await?;
        // Every administrator's row is locked, so that two who leave at once see each other.
        let administrators: Vec<Uuid> = sqlx::query_scalar!(
            "select id from people where workspace_id = $1 and role = 'administrator' and active order by id
             for update",
            by.workspace_id
        )
        .fetch_all(&mut *db)
        .await?;
        let row = sqlx::query!(
            "select name, role, active, team from people where workspace_id = $1 and id = $2 for update",
            by.workspace_id,
            place
        )
        .fetch_optional(&mut *db)
        .await?
        .ok_or(StoreError::NotFound("person"))?;
        let stays = !matches!(change, Place::Active(false))
            && !matches!(change, Place::Role(role) if role != Role::Administrator);
        if administrators == [place] && !stays {
            return Err(StoreError::Conflict(
                "this is the last administrator; make somebody else an administrator first".into(),
            ));
        }
        let (what, about) = match change {
            Place::Role(role) if role == role_of(&row.role) => return Ok(()),
            Place::Active(active) if active == row.active => return Ok(()),
            Place::Team(team) if team == row.team => return Ok(()),
            Place::Team(team) => {
                sqlx::query!(
                    "update people set team = $3 where workspace_id = $1 and id = $2",
                    by.workspace_id,
                    place,
                    team
                )
                .execute(&mut *db)
                .await?;
                let word = team.map_or_else(|| "in no team".to_owned(), |team| format!("in the team {team}"));
                (Audited::RoleChanged, format!("{}: {word}", row.name))
            }
            Place::Role(role) => {
                sqlx::query!(
                    "update people set role = $3 where workspace_id = $1 and id = $2",
                    by.workspace_id,
                    place,
                    role.as_str()
                )
                .execute(&mut *db)
                .await?;
                let about = format!("{}: {} instead of {}", row.name, role.in_words(), role_of(&row.role).in_words());
                (Audited::RoleChanged, about)
            }
            Place::Active(active) => {
                sqlx::query!(
                    "update people set active = $3, ended_at = case when $3 then null else $4::timestamptz end
                     where workspace_id = $1 and id = $2",
                    by.workspace_id,
                    place,
                    active,
                    self.now().to_sqlx() as _
                )
                .execute(&mut *db)
                .await?;
                let word = if active { "access restored" } else { "access ended" };
                (Audited::AccessChanged, format!("{}: {word}", row.name))
            }
        };
        let entry = Entry { person: Some(by.id), what, about: &about, subject: Some(place), network: None };
        audit::write(&mut db, by.workspace_id, &entry, self.now()).await?;
        db.commit().await?;
        Ok(())
    }

    /// Takes the open leads from somebody and has their queues deal them anew, best first; leads without a queue stay.
    /// Gives how many.
    ///
    /// # Errors
    /// [`StoreError::Conflict`] where they still take leads: they would get them again.
    #[crate::compiled_here]
    pub async fn share_out(&self, by: &Person, place: Uuid) -> Result<i64, StoreError> {
        let mut db = self.pool.begin().await?;
        led_by(&mut db, by, place).await?;
        let now = self.now();
        let who = sqlx::query!(
            "select name, active, paused from people where workspace_id = $1 and id = $2 for update",
            by.workspace_id,
            place
        )
        .fetch_optional(&mut *db)
        .await?
        .ok_or(StoreError::NotFound("person"))?;
        if who.active && !who.paused {
            return Err(StoreError::Conflict(format!(
                "{} still takes leads; pause them in a queue, or end their access, first",
                who.name
            )));
        }
        let queues = wait_again(&mut db, by.workspace_id, place, now).await?;
        let count = i64::try_from(queues.len()).unwrap_or(i64::MAX);
        for (lead, queue) in &queues {
            let says = format!("Taken from {} to be shared out", who.name);
            log(&mut db, by.workspace_id, *lead, Some(by.id), Activity::Owner, &says, now).await?;
            jobs::set(&mut db, by.workspace_id, JobKind::Deal, *queue, &queue.to_string(), now, now).await?;
        }
        let about = format!("{}: {count} open leads", who.name);
        let entry =
            Entry { person: Some(by.id), what: Audited::SharedOut, about: &about, subject: Some(place), network: None };
        audit::write(&mut db, by.workspace_id, &entry, now).await?;
        live::add(&mut db, by.workspace_id, Topic::Leads, "lead", now).await?;
        db.commit().await?;
        self.wakes.jobs();
        self.wakes.stream(by.workspace_id);
        Ok(count)
    }
}

/// Puts somebody's open leads to wait in their queues for their next dealing; gives each with its queue.
async fn wait_again(
    db: &mut PgConnection,
    workspace: Uuid,
    owner: Uuid,
    now: Timestamp,
) -> Result<Vec<(Uuid, Uuid)>, StoreError> {
    let rows = sqlx::query!(
        "update leads set owner_id = null, waits_until = $3, revision = revision + 1, changed_at = $3
         where workspace_id = $1 and owner_id = $2 and not closed and queue_id is not null
         returning id, queue_id as \"queue!\"",
        workspace,
        owner,
        now.to_sqlx() as _
    )
    .fetch_all(db)
    .await?;
    Ok(rows.into_iter().map(|row| (row.id, row.queue)).collect())
}
