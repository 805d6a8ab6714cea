//! Destinations: outside places, and what each gets.

use jiff::{SignedDuration, Timestamp};
use jiff_sqlx::{Timestamp as SqlTimestamp, ToSqlx};
use lumbo_deliver::webhook::EventKind;
use lumbo_people::Audited;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use sqlx::PgConnection;
use uuid::Uuid;

use crate::jobs::{self, JobKind};
use crate::{Person, Store, StoreError};

/// How long the secret before counts beside the new one.
const BOTH_COUNT: SignedDuration = SignedDuration::from_hours(24 * 7);
/// Most destinations of a workspace.
const MOST: i64 = 50;

/// What a destination is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum DestinationKind {
    /// Gets events as signed JSON.
    Webhook,
    /// Gets one short message an event.
    Chat,
    /// Keeps companies, contacts and leads as records of its own.
    CustomerSystem,
    /// Keeps a row for each lead.
    Sheet,
    /// Gets each lead as a mail.
    Mail,
}

impl DestinationKind {
    fn as_str(self) -> &'static str {
        match self {
            Self::Webhook => "webhook",
            Self::Chat => "chat",
            Self::CustomerSystem => "customer_system",
            Self::Sheet => "sheet",
            Self::Mail => "mail",
        }
    }

    pub(super) fn parse(text: &str) -> Self {
        match text {
            "chat" => Self::Chat,
            "customer_system" => Self::CustomerSystem,
            "sheet" => Self::Sheet,
            "mail" => Self::Mail,
            _ => Self::Webhook,
        }
    }

    /// Whether a person says what goes where there.
    #[must_use]
    pub fn is_mapped(self) -> bool {
        matches!(self, Self::CustomerSystem | Self::Sheet)
    }
}

/// A destination, as it is set.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct DestinationChange {
    /// Its id; absent for a new one.
    pub id: Option<Uuid>,
    /// The revision that was looked at; 0 for a new one.
    pub revision: i64,
    /// Its name.
    pub name: String,
    /// What it is.
    pub kind: DestinationKind,
    /// Where it is; checked.
    pub address: String,
    /// What it gets.
    pub events: Vec<EventKind>,
    /// Whose leads; every dialogue's where empty.
    pub dialogues: Vec<Uuid>,
    /// Only bands from this place on, counted from the lowest.
    pub from_rank: Option<i32>,
}

/// A destination, as a list of them shows it.
#[derive(Debug, Clone)]
pub struct DestinationRow {
    /// What is set.
    pub set: DestinationChange,
    /// When it was paused.
    pub paused_at: Option<Timestamp>,
    /// Why, where nobody did it.
    pub paused_why: Option<String>,
    /// Since when nothing arrived.
    pub failing_since: Option<Timestamp>,
    /// When something arrived last.
    pub worked_at: Option<Timestamp>,
    /// Until when the secret before counts too.
    pub before_until: Option<Timestamp>,
    /// On their way.
    pub waiting: i64,
    /// Kept aside.
    pub parked: i64,
}

/// What a sending needs of its destination.
#[derive(Debug, Clone)]
pub struct Destination {
    /// Id.
    pub id: Uuid,
    /// Name.
    pub name: String,
    /// What it is.
    pub kind: DestinationKind,
    /// Where it is.
    pub address: String,
    /// Secrets that count, encrypted, the newest first.
    pub sealed: Vec<Vec<u8>>,
}

pub(super) fn changed_meanwhile() -> StoreError {
    StoreError::Conflict("somebody changed this destination meanwhile. Look at it again".into())
}

impl Store {
    /// A workspace's destinations, by name.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn destinations(&self, workspace: Uuid) -> Result<Vec<DestinationRow>, StoreError> {
        let rows = sqlx::query!(
            "select d.id, d.revision, d.name, d.kind, d.address, d.events, d.dialogues, d.from_rank, d.paused_why,
             d.paused_at as \"paused_at: SqlTimestamp\", d.failing_since as \"failing_since: SqlTimestamp\",
             d.worked_at as \"worked_at: SqlTimestamp\",
             case when d.before_until > $2 then d.before_until end as \"before_until: SqlTimestamp\",
             (select count(*) from sendings s where s.workspace_id = d.workspace_id and s.destination_id = d.id
               and s.state = 'waiting') as \"waiting!\",
             (select count(*) from sendings s where s.workspace_id = d.workspace_id and s.destination_id = d.id
               and s.state = 'parked') as \"parked!\"
             from destinations d where d.workspace_id = $1 and d.removed_at is null order by lower(d.name), d.id",
            workspace,
            self.now().to_sqlx() as _
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows
            .into_iter()
            .map(|row| DestinationRow {
                set: DestinationChange {
                    id: Some(row.id),
                    revision: row.revision,
                    name: row.name,
                    kind: DestinationKind::parse(&row.kind),
                    address: row.address,
                    events: row.events.iter().filter_map(|event| EventKind::parse(event)).collect(),
                    dialogues: row.dialogues,
                    from_rank: row.from_rank,
                },
                paused_at: row.paused_at.map(SqlTimestamp::to_jiff),
                paused_why: row.paused_why,
                failing_since: row.failing_since.map(SqlTimestamp::to_jiff),
                worked_at: row.worked_at.map(SqlTimestamp::to_jiff),
                before_until: row.before_until.map(SqlTimestamp::to_jiff),
                waiting: row.waiting,
                parked: row.parked,
            })
            .collect())
    }

    /// Makes a destination, with its secret sealed, or changes one; a secret that is given takes the place of the one
    /// before.
    ///
    /// # Errors
    /// [`StoreError::Conflict`] where it was changed meanwhile or there are too many.
    #[crate::compiled_here]
    pub async fn put_destination(
        &self,
        by: &Person,
        id: Uuid,
        change: &DestinationChange,
        sealed: Option<&[u8]>,
    ) -> Result<(), StoreError> {
        let now = self.now();
        let events: Vec<String> = change.events.iter().map(|event| event.as_str().to_owned()).collect();
        let mut db = self.pool.begin().await?;
        let done = if change.id.is_none() {
            sqlx::query!(
                "insert into destinations (workspace_id, id, name, kind, address, events, dialogues, from_rank, sealed,
                   made_by, made_at)
                 select $1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11 where (select count(*) from destinations
                   where workspace_id = $1 and removed_at is null) < $12",
                by.workspace_id,
                id,
                change.name,
                change.kind.as_str(),
                change.address,
                &events,
                &change.dialogues,
                change.from_rank,
                sealed,
                by.id,
                now.to_sqlx() as _,
                MOST
            )
            .execute(&mut *db)
            .await?
        } else {
            sqlx::query!(
                "update destinations set name = $4, address = $5, events = $6, dialogues = $7, from_rank = $8,
                 sealed = coalesce($9, sealed), revision = revision + 1
                 where workspace_id = $1 and id = $2 and revision = $3 and removed_at is null",
                by.workspace_id,
                id,
                change.revision,
                change.name,
                change.address,
                &events,
                &change.dialogues,
                change.from_rank,
                sealed
            )
            .execute(&mut *db)
            .await?
        };
        if done.rows_affected() == 0 {
            return Err(if change.id.is_none() {
                StoreError::Conflict(format!("a workspace has at most {MOST} destinations; take one out first"))
            } else {
                changed_meanwhile()
            });
        }
        let about = format!("destination {}", change.name);
        self.told(&mut db, by, id, Audited::SettingsChanged, &about).await?;
        db.commit().await?;
        Ok(())
    }

    /// Gives a destination another secret; the one before counts for a week beside it.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    #[crate::compiled_here]
    pub async fn rotate_secret(&self, by: &Person, id: Uuid, sealed: &[u8]) -> Result<(), StoreError> {
        let now = self.now();
        let mut db = self.pool.begin().await?;
        let name = sqlx::query_scalar!(
            "update destinations set sealed_before = sealed, sealed = $3, before_until = $4
             where workspace_id = $1 and id = $2 and removed_at is null returning name",
            by.workspace_id,
            id,
            sealed,
            now.checked_add(BOTH_COUNT).unwrap_or(now).to_sqlx() as _
        )
        .fetch_optional(&mut *db)
        .await?
        .ok_or(StoreError::NotFound("destination"))?;
        self.told(&mut db, by, id, Audited::SecretChanged, &format!("destination {name}: new secret")).await?;
        db.commit().await?;
        Ok(())
    }

    /// Pauses a destination, or lets it go on: what waits for it is due at once.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    #[crate::compiled_here]
    pub async fn pause_destination(&self, by: &Person, id: Uuid, paused: bool) -> Result<(), StoreError> {
        let now = self.now();
        let mut db = self.pool.begin().await?;
        let name = sqlx::query_scalar!(
            "update destinations set paused_at = case when $3 then $4::timestamptz end, paused_why = null
             where workspace_id = $1 and id = $2 and removed_at is null returning name",
            by.workspace_id,
            id,
            paused,
            now.to_sqlx() as _
        )
        .fetch_optional(&mut *db)
        .await?
        .ok_or(StoreError::NotFound("destination"))?;
        if !paused {
            wake_all(&mut db, by.workspace_id, id, now).await?;
        }
        let about = format!("destination {name}: {}", if paused { "paused" } else { "goes on" });
        self.told(&mut db, by, id, Audited::SettingsChanged, &about).await?;
        db.commit().await?;
        self.wakes.jobs();
        Ok(())
    }

    /// Takes a destination out: nothing goes there any more, and what waits for it is kept aside.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    #[crate::compiled_here]
    pub async fn remove_destination(&self, by: &Person, id: Uuid) -> Result<(), StoreError> {
        let now = self.now();
        let mut db = self.pool.begin().await?;
        let name = sqlx::query_scalar!(
            "update destinations set removed_at = $3, sealed = null, sealed_before = null
             where workspace_id = $1 and id = $2 and removed_at is null returning name",
            by.workspace_id,
            id,
            now.to_sqlx() as _
        )
        .fetch_optional(&mut *db)
        .await?
        .ok_or(StoreError::NotFound("destination"))?;
        sqlx::query!(
            "update sendings set state = 'parked', ended_at = $3 where workspace_id = $1 and destination_id = $2
             and state = 'waiting'",
            by.workspace_id,
            id,
            now.to_sqlx() as _
        )
        .execute(&mut *db)
        .await?;
        self.told(&mut db, by, id, Audited::SettingsChanged, &format!("destination {name}: taken out")).await?;
        db.commit().await?;
        Ok(())
    }

    /// A destination with what a sending needs of it.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    #[crate::compiled_here]
    pub async fn destination(&self, workspace: Uuid, id: Uuid) -> Result<Destination, StoreError> {
        let row = sqlx::query!(
            "select id, name, kind, address, sealed, case when before_until > $3 then sealed_before end as before
             from destinations where workspace_id = $1 and id = $2 and removed_at is null",
            workspace,
            id,
            self.now().to_sqlx() as _
        )
        .fetch_optional(&self.pool)
        .await?
        .ok_or(StoreError::NotFound("destination"))?;
        Ok(Destination {
            id: row.id,
            name: row.name,
            kind: DestinationKind::parse(&row.kind),
            address: row.address,
            sealed: row.sealed.into_iter().chain(row.before).collect(),
        })
    }
}

/// Makes everything that waits for a destination due now.
pub(super) async fn wake_all(
    db: &mut PgConnection,
    workspace: Uuid,
    destination: Uuid,
    now: Timestamp,
) -> Result<(), StoreError> {
    let waiting = sqlx::query_scalar!(
        "select id from sendings where workspace_id = $1 and destination_id = $2 and state = 'waiting'",
        workspace,
        destination
    )
    .fetch_all(&mut *db)
    .await?;
    for id in waiting {
        jobs::hurry(db, workspace, JobKind::Send, id, now).await?;
    }
    Ok(())
}
