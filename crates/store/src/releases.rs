//! Releases: frozen copies of a dialogue that prospects get.

use std::collections::BTreeMap;

use jiff::Timestamp;
use jiff_sqlx::Timestamp as SqlTimestamp;
use lumbo_checks::{Finding, Severity, check};
use lumbo_dialogue::file::Dialogue;
use lumbo_route::Territories;
use sqlx::types::Json;
use uuid::Uuid;

use lumbo_people::Audited;

use crate::audit::{self, Entry};
use crate::{Store, StoreError};

/// A line of the list of releases.
#[derive(Debug, Clone)]
pub struct ReleaseRow {
    /// Its id.
    pub id: Uuid,
    /// Its number, from 1.
    pub number: i32,
    /// The author's note.
    pub note: String,
    /// Who made it.
    pub made_by: Option<String>,
    /// When, RFC 3339.
    pub made_at: Timestamp,
    /// True for the one that new conversations get.
    pub on_air: bool,
    /// Conversations on it.
    pub conversations: i64,
    /// Of those, still open.
    pub open: i64,
}

/// Why a release was not made.
#[derive(Debug, thiserror::Error)]
pub enum ReleaseError {
    /// The draft is at another revision than the one the author looked at.
    #[error("somebody changed this draft meanwhile: it is at revision {0}. Look at it again, then release")]
    Stale(i64),
    /// Findings of severity error.
    #[error("there are findings that block a release")]
    Blocked(Vec<Finding>),
    /// The store.
    #[error(transparent)]
    Store(#[from] StoreError),
}

impl From<sqlx::Error> for ReleaseError {
    fn from(error: sqlx::Error) -> Self {
        Self::Store(error.into())
    }
}

/// Queues and tables of territories that the routing names and the workspace does not have.
fn unknown_queues(body: &Dialogue, known: &[String], tables: &BTreeMap<String, Territories>) -> Vec<Finding> {
    let looked = body.routing.rules.iter().filter_map(|rule| Some((&rule.id, &rule.table.as_ref()?.table)));
    let unknown = looked.filter(|(_, table)| !tables.contains_key(*table)).map(|(id, table)| {
        let says = format!("there is no table of territories “{table}” in this workspace");
        Finding::new("target", Severity::Error, format!("routing/{id}"), says)
            .mend("Name one that exists, or make it in Routing.")
    });
    let named = body
        .routing
        .rules
        .iter()
        .filter(|rule| rule.table.is_none())
        .map(|rule| (&rule.id, &rule.queue))
        .chain(body.routing.otherwise.iter().map(|queue| (queue, queue)))
        .chain(body.outcomes.iter().filter_map(|outcome| Some((&outcome.id, &outcome.request.as_ref()?.queue))));
    named
        .filter(|(_, queue)| !known.contains(queue))
        .map(|(id, queue)| {
            let says = format!("there is no queue “{queue}” in this workspace");
            Finding::new("target", Severity::Error, format!("routing/{id}"), says)
                .mend("Name one that exists, or have an administrator make it.")
        })
        .chain(unknown)
        .collect()
}

/// Pictures and documents that the draft names and the workspace does not have, as after loading a file from elsewhere.
fn unknown_media(named: &[String], known: &[String]) -> Vec<Finding> {
    named
        .iter()
        .filter(|hash| !known.contains(hash))
        .map(|hash| {
            let begins: String = hash.chars().take(12).collect();
            let says = format!("a picture or document is not in this workspace ({begins}…)");
            Finding::new("media", Severity::Error, "media", says).mend("Add it again where it is shown.")
        })
        .collect()
}

impl Store {
    /// Freezes the draft and puts it on air.
    ///
    /// # Errors
    /// [`ReleaseError::Stale`], or [`ReleaseError::Blocked`] with the findings.
    #[crate::compiled_here]
    pub async fn release(
        &self,
        workspace: Uuid,
        dialogue: Uuid,
        person: Option<Uuid>,
        revision: i64,
        note: &str,
    ) -> Result<i32, ReleaseError> {
        let mut db = self.pool.begin().await?;
        let row = sqlx::query!(
            "select revision, body as \"body: Json<Dialogue>\" from drafts where workspace_id = $1 and dialogue_id =
             $2 for update",
            workspace,
            dialogue
        )
        .fetch_optional(&mut *db)
        .await?
        .ok_or(StoreError::NotFound("dialogue"))?;
        if row.revision != revision {
            return Err(ReleaseError::Stale(row.revision));
        }
        let body = row.body.0;
        let known = sqlx::query_scalar!("select key from queues where workspace_id = $1", workspace)
            .fetch_all(&mut *db)
            .await?;
        let (mut body, mut findings) = Self::apart(move || {
            let findings = check(&body);
            (body, findings)
        })
        .await?;
        let tables = crate::territories::read(&mut db, workspace, None).await?;
        findings.extend(unknown_queues(&body, &known, &tables));
        let hashes: Vec<String> = body.media.keys().cloned().collect();
        let media = Self::known_media(&mut db, workspace, &hashes).await?;
        findings.extend(unknown_media(&hashes, &media));
        findings.retain(|finding| finding.severity == Severity::Error);
        if !findings.is_empty() {
            return Err(ReleaseError::Blocked(findings));
        }
        // Saved rehearsals, promises and accepted findings are no part of what is frozen.
        body.rehearsals.clear();
        body.promises.clear();
        body.accepted.clear();
        let number = sqlx::query_scalar!(
            "select coalesce(max(number), 0) + 1 as \"number!\" from releases where workspace_id = $1 and dialogue_id
             = $2",
            workspace,
            dialogue
        )
        .fetch_one(&mut *db)
        .await?;
        let id = Uuid::now_v7();
        sqlx::query!(
            "insert into releases (id, workspace_id, dialogue_id, number, note, body, made_by) values ($1, $2, $3,
             $4, $5, $6, $7)",
            id,
            workspace,
            dialogue,
            number,
            note,
            Json(&body) as _,
            person
        )
        .execute(&mut *db)
        .await?;
        sqlx::query!("update dialogues set on_air = $3 where workspace_id = $1 and id = $2", workspace, dialogue, id)
            .execute(&mut *db)
            .await?;
        sqlx::query!(
            "update drafts set released_revision = $3 where workspace_id = $1 and dialogue_id = $2",
            workspace,
            dialogue,
            revision
        )
        .execute(&mut *db)
        .await?;
        let about = format!("{}: release {number}", body.title);
        let entry = Entry { person, what: Audited::Released, about: &about, subject: Some(dialogue), network: None };
        audit::write(&mut db, workspace, &entry, self.now()).await?;
        db.commit().await?;
        Ok(number)
    }

    /// A dialogue's releases, newest first.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn releases(&self, workspace: Uuid, dialogue: Uuid) -> Result<Vec<ReleaseRow>, StoreError> {
        let rows = sqlx::query!(
            "select r.id, r.number, r.note, p.name as \"made_by?\", r.made_at as \"made_at: SqlTimestamp\",
             coalesce(d.on_air = r.id, false) as \"on_air!\",
               (select count(*) from conversations c where c.workspace_id = r.workspace_id and c.release_id = r.id
                 and not c.entered and c.test is null) as \"conversations!\",
               (select count(*) from conversations c where c.workspace_id = r.workspace_id and c.release_id = r.id
                 and not c.entered and c.test is null and c.outcome is null) as \"open!\"
             from releases r join dialogues d on d.workspace_id = r.workspace_id and d.id = r.dialogue_id
             left join people p on p.workspace_id = r.workspace_id and p.id = r.made_by
             where r.workspace_id = $1 and r.dialogue_id = $2 order by r.number desc",
            workspace,
            dialogue
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows
            .into_iter()
            .map(|row| ReleaseRow {
                id: row.id,
                number: row.number,
                note: row.note,
                made_by: row.made_by,
                made_at: row.made_at.to_jiff(),
                on_air: row.on_air,
                conversations: row.conversations,
                open: row.open,
            })
            .collect())
    }

    /// A release's dialogue, by number.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    #[crate::compiled_here]
    pub async fn release_body(&self, workspace: Uuid, dialogue: Uuid, number: i32) -> Result<Dialogue, StoreError> {
        let body = sqlx::query_scalar!(
            "select body as \"body: Json<Dialogue>\" from releases where workspace_id = $1 and dialogue_id = $2 and
             number = $3",
            workspace,
            dialogue,
            number
        )
        .fetch_optional(&self.pool)
        .await?
        .ok_or(StoreError::NotFound("release"))?;
        Ok(body.0)
    }

    /// Puts a release on air, or takes the dialogue off air; conversations under way stay on theirs.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    #[crate::compiled_here]
    pub async fn put_on_air(
        &self,
        workspace: Uuid,
        person: Uuid,
        dialogue: Uuid,
        number: Option<i32>,
    ) -> Result<(), StoreError> {
        let mut db = self.pool.begin().await?;
        let title = match number {
            Some(number) => {
                sqlx::query_scalar!(
                    "update dialogues d set on_air = r.id from releases r
                     where d.workspace_id = $1 and d.id = $2 and r.workspace_id = $1 and r.dialogue_id = $2
                       and r.number = $3 returning d.title",
                    workspace,
                    dialogue,
                    number
                )
                .fetch_optional(&mut *db)
                .await?
            }
            None => {
                sqlx::query_scalar!(
                    "update dialogues set on_air = null where workspace_id = $1 and id = $2 returning title",
                    workspace,
                    dialogue
                )
                .fetch_optional(&mut *db)
                .await?
            }
        };
        let title = title.ok_or(StoreError::NotFound("release"))?;
        let about = match number {
            Some(number) => format!("{title}: release {number} put on air"),
            None => format!("{title}: taken off air"),
        };
        let entry = Entry {
            person: Some(person),
            what: Audited::Released,
            about: &about,
            subject: Some(dialogue),
            network: None,
        };
        audit::write(&mut db, workspace, &entry, self.now()).await?;
        db.commit().await?;
        Ok(())
    }

    /// The dialogue that is on air at an address, for the prospect's page before a conversation starts, and where its
    /// workspace says what becomes of what one says.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where nothing is on air there.
    #[crate::compiled_here]
    pub async fn on_air(&self, slug: &str) -> Result<(Dialogue, Option<String>), StoreError> {
        let row = sqlx::query!(
            "select r.body as \"body: Json<Dialogue>\", w.privacy_link from dialogues d
             join releases r on r.workspace_id = d.workspace_id and r.id = d.on_air
             join workspaces w on w.id = d.workspace_id where d.slug = $1",
            slug
        )
        .fetch_optional(&self.pool)
        .await?
        .ok_or(StoreError::NotFound("dialogue"))?;
        Ok((row.body.0, row.privacy_link))
    }
}
