//! Placements: drafts, releases, their order, and what pages saw of them.

use std::collections::BTreeMap;

use jiff::civil::Date;
use jiff::{SignedDuration, Timestamp};
use jiff_sqlx::{Date as SqlDate, Timestamp as SqlTimestamp, ToSqlx};
use lumbo_calendar::{Calendar, Written};
use lumbo_people::Audited;
use lumbo_placement::{Known, Placement};
use schemars::JsonSchema;
use serde::Deserialize;
use sqlx::types::Json;
use uuid::Uuid;

use crate::{Person, Store, StoreError};

/// Most placements of a workspace.
const MOST: i64 = 100;
/// Most pages on which the line was seen that are kept, the newest.
const PAGES: i64 = 500;
/// Days that counts look back.
const COUNTED_DAYS: i64 = 7;

/// A placement as a list of them shows it.
#[derive(Debug, Clone)]
pub struct PlacementRow {
    /// What is written.
    pub draft: Placement,
    /// Its id.
    pub id: Uuid,
    /// The dialogue it shows.
    pub dialogue: Uuid,
    /// The dialogue's title.
    pub title: String,
    /// True where that dialogue has a release on air.
    pub dialogue_on_air: bool,
    /// Its own address behind `/at/`.
    pub address: String,
    /// The draft's revision.
    pub revision: i64,
    /// What pages get.
    pub released: Option<Placement>,
    /// Number of the release that pages get; 0 before the first.
    pub number: i32,
    /// False where somebody took it off air.
    pub on_air: bool,
    /// Counts of the last seven days.
    pub counts: PlacementCounts,
}

/// What became of a placement within the last seven days.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
pub struct PlacementCounts {
    /// It appeared on so many page visits.
    pub shown: i64,
    /// It was opened.
    pub opened: i64,
    /// Conversations were started.
    pub started: i64,
    /// Conversations filed a lead.
    pub filed: i64,
}

/// A release of a placement.
#[derive(Debug, Clone)]
pub struct PlacementRelease {
    /// From 1.
    pub number: i32,
    /// The author's note.
    pub note: String,
    /// Who.
    pub made_by: Option<String>,
    /// When.
    pub made_at: Timestamp,
}

/// A page on which the line of script was seen.
#[derive(Debug, Clone)]
pub struct Sighting {
    /// Host and path.
    pub page: String,
    /// When last.
    pub seen_at: Timestamp,
}

/// What is on air of a workspace, and what its rules look up.
#[derive(Debug, Clone)]
pub struct PlacedNow {
    /// The workspace.
    pub workspace: Uuid,
    /// In the workspace's order, those of dialogues that are on air.
    pub placements: Vec<Placement>,
    /// What rules look up.
    pub known: Known,
}

/// What a page that shows a placement needs.
#[derive(Debug, Clone)]
pub struct Placed {
    /// Its id.
    pub id: Uuid,
    /// The workspace.
    pub workspace: Uuid,
    /// The dialogue's address.
    pub slug: String,
    /// What pages get.
    pub placement: Placement,
    /// What its rules look up.
    pub known: Known,
}

/// What pages saw of a placement on a day, to be added.
#[derive(Debug, Clone, Copy)]
pub struct Seen {
    /// The workspace.
    pub workspace: Uuid,
    /// It.
    pub placement: Uuid,
    /// The day in UTC.
    pub day: Date,
    /// Page visits on which it appeared.
    pub shown: i64,
    /// How often it was opened.
    pub opened: i64,
}

/// What is done with a placement beside changing it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum PlacementAct {
    /// Pages get it, where it was released.
    OnAir,
    /// Pages do not get it.
    OffAir,
    /// It goes, and its address with it.
    TakeOut,
    /// It comes back, off air.
    PutBack,
    /// One place up in the workspace's order.
    Up,
    /// One place down.
    Down,
}

fn changed_meanwhile() -> StoreError {
    StoreError::Conflict("somebody changed this placement meanwhile. Look at it again".into())
}

/// What is kept of a placement: its id and whether it is on air stand in columns.
fn read(id: Uuid, on_air: bool, kept: Placement) -> Placement {
    Placement { id: id.to_string(), on_air, ..kept }
}

impl Store {
    /// A workspace's placements, in its order.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn placements(&self, workspace: Uuid) -> Result<Vec<PlacementRow>, StoreError> {
        self.placement_rows(workspace, None).await
    }

    /// One of a workspace's placements.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    #[crate::compiled_here]
    pub async fn placement(&self, workspace: Uuid, id: Uuid) -> Result<PlacementRow, StoreError> {
        let found = self.placement_rows(workspace, Some(id)).await?;
        found.into_iter().next().ok_or(StoreError::NotFound("placement"))
    }

    async fn placement_rows(&self, workspace: Uuid, only: Option<Uuid>) -> Result<Vec<PlacementRow>, StoreError> {
        let since = self.now().checked_sub(SignedDuration::from_hours(24 * COUNTED_DAYS)).unwrap_or(Timestamp::MIN);
        let rows = sqlx::query!(
            "select p.id, p.dialogue_id, d.title, d.on_air is not null as \"dialogue_on_air!\", p.address,
             p.draft as \"draft: Json<Placement>\", p.revision, p.released as \"released: Json<Placement>\", p.number,
             p.on_air, n.shown as \"shown!\", n.opened as \"opened!\", c.started as \"started!\", c.filed as \"filed!\"
             from placements p join dialogues d on d.workspace_id = p.workspace_id and d.id = p.dialogue_id
             cross join lateral (select coalesce(sum(s.shown), 0)::bigint as shown,
               coalesce(sum(s.opened), 0)::bigint as opened from placement_days s
               where s.workspace_id = p.workspace_id and s.placement_id = p.id
                 and s.day > ($2::timestamptz at time zone 'UTC')::date) n
             cross join lateral (select count(*) as started, count(*) filter (where exists (select from lead_snapshots l
                 where l.workspace_id = c.workspace_id and l.conversation_id = c.id)) as filed from conversations c
               where c.workspace_id = p.workspace_id and c.placement_id = p.id and c.started_at >= $2
                 and c.test is null) c
             where p.workspace_id = $1 and p.removed_at is null and ($3::uuid is null or p.id = $3)
             order by p.position, p.id",
            workspace,
            since.to_sqlx() as _,
            only
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows
            .into_iter()
            .map(|row| PlacementRow {
                draft: read(row.id, row.on_air, row.draft.0),
                id: row.id,
                dialogue: row.dialogue_id,
                title: row.title,
                dialogue_on_air: row.dialogue_on_air,
                address: row.address,
                revision: row.revision,
                released: row.released.map(|kept| read(row.id, row.on_air, kept.0)),
                number: row.number,
                on_air: row.on_air,
                counts: PlacementCounts {
                    shown: row.shown,
                    opened: row.opened,
                    started: row.started,
                    filed: row.filed,
                },
            })
            .collect())
    }

    /// Makes a placement of a dialogue, at the end of the workspace's order; gives its id.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where there is no such dialogue; [`StoreError::Conflict`] where there are too many.
    #[crate::compiled_here]
    pub async fn add_placement(
        &self,
        workspace: Uuid,
        dialogue: Uuid,
        address: &str,
        draft: &Placement,
    ) -> Result<Uuid, StoreError> {
        let id = Uuid::now_v7();
        let mut db = self.pool.begin().await?;
        sqlx::query_scalar!(
            "select 1 as \"one!\" from dialogues where workspace_id = $1 and id = $2",
            workspace,
            dialogue
        )
        .fetch_optional(&mut *db)
        .await?
        .ok_or(StoreError::NotFound("dialogue"))?;
        let done = sqlx::query!(
            "insert into placements (workspace_id, id, dialogue_id, position, address, draft, made_at)
             select $1, $2, $3,
               (select coalesce(max(position), 0) + 1 from placements where workspace_id = $1), $4, $5, $6
             where (select count(*) from placements where workspace_id = $1 and removed_at is null) < $7",
            workspace,
            id,
            dialogue,
            address,
            Json(draft) as _,
            self.now().to_sqlx() as _,
            MOST
        )
        .execute(&mut *db)
        .await?;
        if done.rows_affected() == 0 {
            let says = format!("a workspace has at most {MOST} placements; take one out first");
            return Err(StoreError::Conflict(says));
        }
        db.commit().await?;
        Ok(id)
    }

    /// Changes a placement's draft, where nobody changed it meanwhile; gives its new revision.
    ///
    /// # Errors
    /// [`StoreError::Conflict`].
    #[crate::compiled_here]
    pub async fn change_placement(
        &self,
        workspace: Uuid,
        id: Uuid,
        revision: i64,
        draft: &Placement,
    ) -> Result<i64, StoreError> {
        let revision = sqlx::query_scalar!(
            "update placements set draft = $4, revision = revision + 1
             where workspace_id = $1 and id = $2 and revision = $3 and removed_at is null returning revision",
            workspace,
            id,
            revision,
            Json(draft) as _
        )
        .fetch_optional(&self.pool)
        .await?;
        match revision {
            Some(revision) => Ok(revision),
            None => Err(self.why_unchanged(workspace, id).await?),
        }
    }

    /// Why a placement could not be changed: it is at another revision, or it is not there.
    async fn why_unchanged(&self, workspace: Uuid, id: Uuid) -> Result<StoreError, StoreError> {
        let there = sqlx::query_scalar!(
            "select exists (select from placements where workspace_id = $1 and id = $2 and removed_at is null)
             as \"there!\"",
            workspace,
            id
        )
        .fetch_one(&self.pool)
        .await?;
        Ok(if there { changed_meanwhile() } else { StoreError::NotFound("placement") })
    }

    /// Freezes a placement's draft under a note; pages get it from now on, where it is on air.
    ///
    /// # Errors
    /// [`StoreError::Conflict`] where the draft is at another revision.
    #[crate::compiled_here]
    pub async fn release_placement(&self, by: &Person, id: Uuid, revision: i64, note: &str) -> Result<i32, StoreError> {
        let mut db = self.pool.begin().await?;
        let row = sqlx::query!(
            "update placements set released = draft, number = number + 1
             where workspace_id = $1 and id = $2 and revision = $3 and removed_at is null
             returning number, draft as \"draft: Json<Placement>\"",
            by.workspace_id,
            id,
            revision
        )
        .fetch_optional(&mut *db)
        .await?;
        let Some(row) = row else { return Err(self.why_unchanged(by.workspace_id, id).await?) };
        sqlx::query!(
            "insert into placement_releases (workspace_id, placement_id, number, note, body, made_by, made_at)
             values ($1, $2, $3, $4, $5, $6, $7)",
            by.workspace_id,
            id,
            row.number,
            note,
            Json(&row.draft.0) as _,
            by.id,
            self.now().to_sqlx() as _
        )
        .execute(&mut *db)
        .await?;
        let about = format!("release {} of placement {}", row.number, row.draft.0.title());
        self.told(&mut db, by, id, Audited::Released, &about).await?;
        db.commit().await?;
        Ok(row.number)
    }

    /// Puts a placement on or off air, moves it in the workspace's order, or takes it out.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    #[crate::compiled_here]
    pub async fn act_on_placement(&self, by: &Person, id: Uuid, act: PlacementAct) -> Result<(), StoreError> {
        let mut db = self.pool.begin().await?;
        if act == PlacementAct::PutBack {
            sqlx::query!(
                "update placements set removed_at = null where workspace_id = $1 and id = $2",
                by.workspace_id,
                id
            )
            .execute(&mut *db)
            .await?;
        }
        // One at a time in a workspace, so that two that move cannot end at one place.
        let rows = sqlx::query!(
            "select id, draft as \"draft: Json<Placement>\" from placements
             where workspace_id = $1 and removed_at is null order by position, id for update",
            by.workspace_id
        )
        .fetch_all(&mut *db)
        .await?;
        let at = rows.iter().position(|row| row.id == id).ok_or(StoreError::NotFound("placement"))?;
        let title = rows.get(at).map(|row| row.draft.0.title().to_owned()).unwrap_or_default();
        let about = match act {
            PlacementAct::OnAir => format!("placement {title} on air"),
            PlacementAct::OffAir => format!("placement {title} off air"),
            PlacementAct::TakeOut => format!("placement {title} taken out"),
            PlacementAct::PutBack => format!("placement {title} put back"),
            PlacementAct::Up | PlacementAct::Down => format!("order of placement {title}"),
        };
        match act {
            PlacementAct::OnAir | PlacementAct::OffAir => {
                sqlx::query!(
                    "update placements set on_air = $3 where workspace_id = $1 and id = $2",
                    by.workspace_id,
                    id,
                    act == PlacementAct::OnAir
                )
                .execute(&mut *db)
                .await?;
            }
            PlacementAct::PutBack => {}
            PlacementAct::TakeOut => {
                sqlx::query!(
                    "update placements set removed_at = $3, on_air = false where workspace_id = $1 and id = $2",
                    by.workspace_id,
                    id,
                    self.now().to_sqlx() as _
                )
                .execute(&mut *db)
                .await?;
            }
            PlacementAct::Up | PlacementAct::Down => {
                let mut order: Vec<Uuid> = rows.iter().map(|row| row.id).collect();
                let to = if act == PlacementAct::Up { at.checked_sub(1) } else { Some(at + 1) };
                if let Some(to) = to.filter(|to| *to < order.len()) {
                    order.swap(at, to);
                }
                sqlx::query!(
                    "update placements p set position = o.position::integer
                     from unnest($2::uuid[]) with ordinality as o (id, position)
                     where p.workspace_id = $1 and p.id = o.id",
                    by.workspace_id,
                    &order
                )
                .execute(&mut *db)
                .await?;
            }
        }
        self.told(&mut db, by, id, Audited::Released, &about).await?;
        db.commit().await?;
        Ok(())
    }

    /// Releases of a placement, newest first.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    #[crate::compiled_here]
    pub async fn placement_releases(&self, workspace: Uuid, id: Uuid) -> Result<Vec<PlacementRelease>, StoreError> {
        let rows = sqlx::query!(
            "select r.number, r.note, p.name as \"made_by?\", r.made_at as \"made_at: SqlTimestamp\"
             from placement_releases r left join people p on p.workspace_id = r.workspace_id and p.id = r.made_by
             where r.workspace_id = $1 and r.placement_id = $2 order by r.number desc limit 200",
            workspace,
            id
        )
        .fetch_all(&self.pool)
        .await?;
        if rows.is_empty()
            && let gone @ StoreError::NotFound(_) = self.why_unchanged(workspace, id).await?
        {
            return Err(gone);
        }
        Ok(rows
            .into_iter()
            .map(|row| PlacementRelease {
                number: row.number,
                note: row.note,
                made_by: row.made_by,
                made_at: row.made_at.to_jiff(),
            })
            .collect())
    }

    /// The key in the workspace's line of script, and the pages on which it was seen, newest first.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    #[crate::compiled_here]
    pub async fn page_line(&self, workspace: Uuid) -> Result<(String, Vec<Sighting>), StoreError> {
        let key = sqlx::query_scalar!("select page_key from workspaces where id = $1", workspace)
            .fetch_optional(&self.pool)
            .await?
            .ok_or(StoreError::NotFound("workspace"))?;
        let rows = sqlx::query!(
            "select page, seen_at as \"seen_at: SqlTimestamp\" from page_sightings where workspace_id = $1
             order by seen_at desc limit 50",
            workspace
        )
        .fetch_all(&self.pool)
        .await?;
        let seen = rows.into_iter().map(|row| Sighting { page: row.page, seen_at: row.seen_at.to_jiff() }).collect();
        Ok((key, seen))
    }

    /// Zone and working times that a workspace's rules look up.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn placement_known(&self, workspace: Uuid) -> Result<Known, StoreError> {
        let zone =
            sqlx::query_scalar!("select zone from workspaces where id = $1", workspace).fetch_one(&self.pool).await?;
        let rows = sqlx::query!(
            "select key, hours as \"hours: Json<Written>\" from queues where workspace_id = $1 and hours is not null",
            workspace
        )
        .fetch_all(&self.pool)
        .await?;
        let calendars: BTreeMap<String, Calendar> =
            rows.into_iter().filter_map(|row| Some((row.key, Calendar::new(&row.hours?.0).ok()?))).collect();
        let zone = jiff::tz::TimeZone::get(&zone).unwrap_or(jiff::tz::TimeZone::UTC);
        Ok(Known { zone, calendars })
    }

    /// What is on air under a key.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where there is no such key.
    #[crate::compiled_here]
    pub async fn placed_now(&self, key: &str) -> Result<PlacedNow, StoreError> {
        let workspace = sqlx::query_scalar!("select id from workspaces where page_key = $1", key)
            .fetch_optional(&self.pool)
            .await?
            .ok_or(StoreError::NotFound("workspace"))?;
        let rows = sqlx::query!(
            "select p.id, p.released as \"released!: Json<Placement>\" from placements p
             join dialogues d on d.workspace_id = p.workspace_id and d.id = p.dialogue_id
             where p.workspace_id = $1 and p.on_air and p.released is not null and p.removed_at is null
               and d.on_air is not null order by p.position, p.id",
            workspace
        )
        .fetch_all(&self.pool)
        .await?;
        let placements = rows.into_iter().map(|row| read(row.id, true, row.released.0)).collect();
        Ok(PlacedNow { workspace, placements, known: self.placement_known(workspace).await? })
    }

    /// The placement of an id or address, as pages get it.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where it is off air, or its dialogue is.
    #[crate::compiled_here]
    pub async fn placed(&self, name: &str) -> Result<Placed, StoreError> {
        let row = sqlx::query!(
            "select p.id, p.workspace_id, d.slug, p.released as \"released!: Json<Placement>\" from placements p
             join dialogues d on d.workspace_id = p.workspace_id and d.id = p.dialogue_id
             where (p.address = $1 or p.id = $2) and p.on_air and p.released is not null and p.removed_at is null
               and d.on_air is not null",
            name,
            Uuid::parse_str(name).ok()
        )
        .fetch_optional(&self.pool)
        .await?
        .ok_or(StoreError::NotFound("placement"))?;
        Ok(Placed {
            id: row.id,
            workspace: row.workspace_id,
            slug: row.slug,
            placement: read(row.id, true, row.released.0),
            known: self.placement_known(row.workspace_id).await?,
        })
    }

    /// Adds what pages saw; what is of no placement does nothing.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn add_seen(&self, seen: &[Seen]) -> Result<(), StoreError> {
        let (mut workspaces, mut ids, mut days, mut shown, mut opened) = (vec![], vec![], vec![], vec![], vec![]);
        for one in seen {
            workspaces.push(one.workspace);
            ids.push(one.placement);
            days.push(SqlDate::from(one.day));
            shown.push(one.shown);
            opened.push(one.opened);
        }
        sqlx::query!(
            "insert into placement_days (workspace_id, placement_id, day, shown, opened)
             select n.workspace_id, n.id, n.day, n.shown, n.opened
             from unnest($1::uuid[], $2::uuid[], $3::date[], $4::bigint[], $5::bigint[])
               as n (workspace_id, id, day, shown, opened)
             join placements p on p.workspace_id = n.workspace_id and p.id = n.id
             order by n.workspace_id, n.id, n.day
             on conflict (workspace_id, placement_id, day) do update
               set shown = placement_days.shown + excluded.shown, opened = placement_days.opened + excluded.opened",
            &workspaces,
            &ids,
            &days as _,
            &shown,
            &opened
        )
        .execute(&self.pool)
        .await?;
        Ok(())
    }

    /// Keeps the pages on which a workspace's line was seen, the newest of them.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn add_sightings(&self, workspace: Uuid, pages: &[String]) -> Result<(), StoreError> {
        sqlx::query!(
            "insert into page_sightings (workspace_id, page, seen_at)
             select $1, page, $3 from unnest($2::text[]) as page order by page
             on conflict (workspace_id, page) do update set seen_at = excluded.seen_at",
            workspace,
            pages,
            self.now().to_sqlx() as _
        )
        .execute(&self.pool)
        .await?;
        sqlx::query!(
            "delete from page_sightings where workspace_id = $1 and page in (select page from page_sightings
               where workspace_id = $1 order by seen_at desc offset $2)",
            workspace,
            PAGES
        )
        .execute(&self.pool)
        .await?;
        Ok(())
    }
}
