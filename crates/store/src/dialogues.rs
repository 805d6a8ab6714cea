//! Dialogues and their drafts. A draft changes by edits, each with its revision, author, time and inverse.

use std::sync::Arc;

use jiff::{SignedDuration, Timestamp};
use jiff_sqlx::{Timestamp as SqlTimestamp, ToSqlx};
use lumbo_catalogue::take_on;
use lumbo_dialogue::file::{Dialogue, canonical};
use lumbo_outline::edit::touches;
use lumbo_outline::{Edit, EditError, Gesture, GestureError, apply, expand};
use sqlx::PgConnection;
use sqlx::types::Json;
use uuid::Uuid;

use crate::live::{self, Topic};
use crate::{Store, StoreError, fields};

/// How far back the list of dialogues counts.
const COUNTED: SignedDuration = SignedDuration::from_hours(30 * 24);

/// Most drafts kept in memory.
const DRAFT_LIMIT: usize = 100;

/// Who changes a draft, and when.
#[derive(Debug, Clone, Copy)]
pub(crate) struct By {
    pub person: Uuid,
    pub at: Timestamp,
}

/// A line of the list of dialogues.
#[derive(Debug, Clone)]
pub struct DialogueRow {
    /// Its id.
    pub id: Uuid,
    /// Its title.
    pub title: String,
    /// Its address on the prospects' side.
    pub slug: String,
    /// Number of the release that is on air.
    pub on_air: Option<i32>,
    /// Changes of the draft since the newest release; absent before the first.
    pub changes: Option<i64>,
    /// Conversations started in the last 30 days.
    pub conversations: i64,
    /// Leads filed in the last 30 days.
    pub leads: i64,
    /// When the draft was last changed, RFC 3339.
    pub changed_at: Timestamp,
    /// Who changed it.
    pub changed_by: Option<String>,
}

/// A draft as it is kept.
#[derive(Debug, Clone)]
pub struct Draft {
    /// Its revision, from 1.
    pub revision: i64,
    /// The dialogue.
    pub body: Arc<Dialogue>,
    /// When it was last changed.
    pub changed_at: Timestamp,
    /// Who changed it.
    pub changed_by: Option<String>,
    /// Changes since the newest release.
    pub changes: Option<i64>,
    /// Number of the newest release.
    pub newest_release: Option<i32>,
    /// Number of the release on air.
    pub on_air: Option<i32>,
    /// Address on the prospects' side.
    pub slug: String,
}

/// A change of a draft: edits, or a gesture that is turned into edits.
#[derive(Debug, Clone)]
pub enum Change {
    /// Edits, in order.
    Edits(Vec<Edit>),
    /// A gesture, with the seed of the ids it makes.
    Gesture(Box<Gesture>, u64),
}

/// A draft that was changed.
#[derive(Debug, Clone)]
pub struct Changed {
    /// Its revision now.
    pub revision: i64,
    /// When it was changed.
    pub at: Timestamp,
    /// Changes since the newest release; absent before the first.
    pub changes: Option<i64>,
    /// The dialogue before.
    pub before: Arc<Dialogue>,
    /// The dialogue now.
    pub after: Arc<Dialogue>,
    /// Edits that undo the change, in order.
    pub inverse: Vec<Edit>,
    /// What was touched, by id.
    pub touches: Vec<String>,
    /// Rows that a gesture made or moved.
    pub rows: Vec<String>,
    /// What a gesture has to say.
    pub notes: Vec<String>,
}

/// What conversations of the last 30 days filled.
#[derive(Debug, Clone)]
pub struct FieldCounts {
    /// By field; those that none filled are left out.
    pub fields: Vec<FieldCount>,
    /// Conversations in all.
    pub conversations: i64,
}

/// How often a field was filled.
#[derive(Debug, Clone)]
pub struct FieldCount {
    /// The field's id.
    pub field: String,
    /// Conversations that filled it.
    pub filled: i64,
}

/// An edit in the log.
#[derive(Debug, Clone)]
pub struct EditLogRow {
    /// The revision it made.
    pub revision: i64,
    /// Who.
    pub person: String,
    /// When, RFC 3339.
    pub at: Timestamp,
    /// What was touched, by id.
    pub touches: Vec<String>,
    /// The edits.
    pub edits: Vec<Edit>,
}

/// Why edits were not made. Nothing is changed then.
#[derive(Debug, thiserror::Error)]
pub enum DraftError {
    /// The draft is at a later revision; what was changed since.
    #[error("somebody changed this draft meanwhile: it is at revision {revision}")]
    Stale {
        /// Its revision.
        revision: i64,
        /// Edits since the one that the sender knew.
        since: Vec<EditLogRow>,
    },
    /// An edit that cannot be made.
    #[error(transparent)]
    Edit(#[from] EditError),
    /// A gesture that cannot be made.
    #[error(transparent)]
    Gesture(#[from] GestureError),
    /// The draft would grow too large.
    #[error("a dialogue has at most {} bytes", lumbo_dialogue::file::load::SIZE_LIMIT)]
    TooLarge,
    /// The store.
    #[error(transparent)]
    Store(#[from] StoreError),
}

impl From<sqlx::Error> for DraftError {
    fn from(error: sqlx::Error) -> Self {
        Self::Store(error.into())
    }
}

impl Store {
    /// The workspace's dialogues, last changed first.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn dialogues(&self, workspace: Uuid) -> Result<Vec<DialogueRow>, StoreError> {
        let rows = sqlx::query!(
            "select d.id, d.title, d.slug, r.number as \"on_air?\", t.revision - t.released_revision as changes,
             t.changed_at as \"changed_at: SqlTimestamp\", p.name as \"changed_by?\",
               (select count(*) from conversations c where c.workspace_id = d.workspace_id and c.dialogue_id = d.id
                 and c.started_at > $2 and not c.entered and c.test is null) as \"conversations!\",
               (select count(*) from leads l where l.workspace_id = d.workspace_id and l.dialogue_id = d.id
                 and l.filed_at > $2 and not exists (select from conversations c where c.workspace_id = l.workspace_id
                   and c.id = l.shows and c.entered)) as \"leads!\"
             from dialogues d join drafts t on t.workspace_id = d.workspace_id and t.dialogue_id = d.id
             left join releases r on r.workspace_id = d.workspace_id and r.id = d.on_air
             left join people p on p.workspace_id = d.workspace_id and p.id = t.changed_by
             where d.workspace_id = $1 order by t.changed_at desc, d.id",
            workspace,
            self.counted_since()?.to_sqlx() as _
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows
            .into_iter()
            .map(|row| DialogueRow {
                id: row.id,
                title: row.title,
                slug: row.slug,
                on_air: row.on_air,
                changes: row.changes,
                conversations: row.conversations,
                leads: row.leads,
                changed_at: row.changed_at.to_jiff(),
                changed_by: row.changed_by,
            })
            .collect())
    }

    /// Makes a dialogue with a draft at revision 1, its fields as the catalogue has them. Its address is the file's id,
    /// with a number where that is taken.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn create_dialogue(
        &self,
        workspace: Uuid,
        person: Option<Uuid>,
        body: &Dialogue,
    ) -> Result<Uuid, StoreError> {
        let mut db = self.pool.begin().await?;
        fields::lock(&mut db, workspace).await?;
        let catalogue = fields::all(&mut db, workspace).await?;
        let mut fitted = body.clone();
        take_on(&mut fitted, &catalogue);
        let body = &fitted;
        let id = Uuid::now_v7();
        let taken: Vec<String> =
            sqlx::query_scalar!("select slug from dialogues where slug = $1 or slug like $1 || '-%'", body.id)
                .fetch_all(&mut *db)
                .await?;
        let slug = (1..)
            .map(|n| if n == 1 { body.id.clone() } else { format!("{}-{n}", body.id) })
            .find(|slug| !taken.contains(slug))
            .unwrap_or_else(|| id.to_string());
        sqlx::query!(
            "insert into dialogues (id, workspace_id, slug, title) values ($1, $2, $3, $4)",
            id,
            workspace,
            slug,
            body.title
        )
        .execute(&mut *db)
        .await?;
        sqlx::query!(
            "insert into drafts (dialogue_id, workspace_id, revision, body, changed_by) values ($1, $2, 1, $3, $4)",
            id,
            workspace,
            Json(body) as _,
            person
        )
        .execute(&mut *db)
        .await?;
        for field in body.fields.iter().filter(|field| !catalogue.contains(field)) {
            fields::put(&mut db, workspace, field).await?;
        }
        db.commit().await?;
        Ok(id)
    }

    /// A dialogue's draft.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    #[crate::compiled_here]
    pub async fn draft(&self, workspace: Uuid, dialogue: Uuid) -> Result<Draft, StoreError> {
        let row = sqlx::query!(
            "select t.revision, t.changed_at as \"changed_at: SqlTimestamp\", p.name as \"changed_by?\",
               t.revision - t.released_revision as changes,
               d.slug, r.number as \"on_air?\", (select max(number) from releases n where n.workspace_id =
                   t.workspace_id and n.dialogue_id = t.dialogue_id) as newest
             from drafts t join dialogues d on d.workspace_id = t.workspace_id and d.id = t.dialogue_id
             left join people p on p.workspace_id = t.workspace_id and p.id = t.changed_by
             left join releases r on r.workspace_id = d.workspace_id and r.id = d.on_air
             where t.workspace_id = $1 and t.dialogue_id = $2",
            workspace,
            dialogue
        )
        .fetch_optional(&self.pool)
        .await?
        .ok_or(StoreError::NotFound("dialogue"))?;
        // Where somebody changes it between the two questions, the body is a newer one: read again then.
        let Some(body) = self.draft_body(&self.pool, workspace, dialogue, row.revision).await? else {
            return Box::pin(self.draft(workspace, dialogue)).await;
        };
        Ok(Draft {
            revision: row.revision,
            body,
            changed_at: row.changed_at.to_jiff(),
            changed_by: row.changed_by,
            changes: row.changes,
            newest_release: row.newest,
            on_air: row.on_air,
            slug: row.slug,
        })
    }

    /// Makes a change on the revision that the sender knew; gives the new draft and the inverse edits, in the order
    /// that undoes.
    ///
    /// # Errors
    /// [`DraftError::Stale`] with what was changed meanwhile; [`DraftError::Edit`] or [`DraftError::Gesture`] for one
    /// that cannot be made.
    #[crate::compiled_here]
    pub async fn change_draft(
        &self,
        workspace: Uuid,
        dialogue: Uuid,
        person: Uuid,
        base: i64,
        change: Change,
    ) -> Result<Changed, DraftError> {
        let mut db = self.pool.begin().await?;
        let of_fields = match &change {
            Change::Gesture(..) => true,
            Change::Edits(edits) => {
                edits.iter().any(|edit| matches!(edit, Edit::PutField { .. } | Edit::SetAll { .. }))
            }
        };
        let by = By { person, at: self.now() };
        let catalogue = if of_fields {
            fields::lock(&mut db, workspace).await?;
            fields::all(&mut db, workspace).await?
        } else {
            Vec::new()
        };
        let row = sqlx::query!(
            "select revision, released_revision from drafts where workspace_id = $1 and dialogue_id = $2 for update",
            workspace,
            dialogue
        )
        .fetch_optional(&mut *db)
        .await?
        .ok_or(StoreError::NotFound("dialogue"))?;
        if row.revision != base {
            drop(db);
            return Err(DraftError::Stale {
                revision: row.revision,
                since: self.edits_since(workspace, dialogue, base).await?,
            });
        }
        let before = self.draft_body(&mut *db, workspace, dialogue, base).await?;
        let before = before.ok_or(StoreError::NotFound("dialogue"))?;
        let mut body = Dialogue::clone(&before);
        let (edits, rows, notes) = match change {
            Change::Edits(mut edits) => {
                for edit in &mut edits {
                    // A whole dialogue from elsewhere or from before takes on the fields as they are now.
                    if let Edit::SetAll { dialogue } = edit {
                        take_on(dialogue, &catalogue);
                    }
                }
                for index in 0..edits.len() {
                    if let Edit::PutField { field } = &edits[index] {
                        let pictures = fields::pictures(&mut db, workspace, &body, field).await?;
                        edits.extend(pictures);
                    }
                }
                (edits, Vec::new(), Vec::new())
            }
            Change::Gesture(gesture, seed) => {
                let made = expand(&body, *gesture, &catalogue, seed)?;
                (made.edits, made.rows, made.notes)
            }
        };
        let mut inverse = Vec::new();
        for edit in &edits {
            inverse.push(apply(&mut body, edit.clone())?);
        }
        inverse.reverse();
        for edit in &edits {
            let changed = match edit {
                Edit::PutField { field } => std::slice::from_ref(field),
                Edit::SetAll { dialogue } => dialogue.fields.as_slice(),
                _ => &[],
            };
            for field in changed.iter().filter(|field| !catalogue.contains(field)) {
                fields::put(&mut db, workspace, field).await?;
                fields::follow(&mut db, workspace, by, field, Some(dialogue)).await?;
            }
        }
        let touched = write_draft(&mut db, workspace, dialogue, by, base, &body, &edits, &inverse).await?;
        db.commit().await?;
        self.wakes.stream(workspace);
        let (revision, after) = (base + 1, Arc::new(body));
        self.keep_draft(dialogue, revision, &after);
        let changes = row.released_revision.map(|released| revision - released);
        Ok(Changed { revision, at: by.at, changes, before, after, inverse, touches: touched, rows, notes })
    }

    /// A draft's dialogue at a revision, from memory where it was read before; nothing where it has another revision.
    async fn draft_body<'e>(
        &self,
        db: impl sqlx::PgExecutor<'e>,
        workspace: Uuid,
        dialogue: Uuid,
        revision: i64,
    ) -> Result<Option<Arc<Dialogue>>, StoreError> {
        let kept = self.drafts.read().ok().and_then(|drafts| drafts.get(&dialogue).cloned());
        if let Some((known, body)) = kept
            && known == revision
        {
            return Ok(Some(body));
        }
        let body = sqlx::query_scalar!(
            "select body as \"body: Json<Dialogue>\" from drafts
             where workspace_id = $1 and dialogue_id = $2 and revision = $3",
            workspace,
            dialogue,
            revision
        )
        .fetch_optional(db)
        .await?;
        let body = body.map(|body| Arc::new(body.0));
        if let Some(body) = &body {
            self.keep_draft(dialogue, revision, body);
        }
        Ok(body)
    }

    /// Keeps a draft's dialogue in memory. A revision never says two things, so it cannot be wrong, only old.
    fn keep_draft(&self, dialogue: Uuid, revision: i64, body: &Arc<Dialogue>) {
        if let Ok(mut drafts) = self.drafts.write() {
            if drafts.len() >= DRAFT_LIMIT {
                drafts.clear();
            }
            drafts.insert(dialogue, (revision, Arc::clone(body)));
        }
    }

    fn counted_since(&self) -> Result<Timestamp, StoreError> {
        self.now().saturating_sub(COUNTED).map_err(StoreError::kept)
    }

    /// How many conversations of the last 30 days filled each field of a dialogue.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn field_counts(&self, workspace: Uuid, dialogue: Uuid) -> Result<FieldCounts, StoreError> {
        let conversations = sqlx::query_scalar!(
            "select count(*) as \"count!\" from conversations
             where workspace_id = $1 and dialogue_id = $2 and started_at > $3 and not entered and test is null",
            workspace,
            dialogue,
            self.counted_since()?.to_sqlx() as _
        )
        .fetch_one(&self.pool)
        .await?;
        let fields = sqlx::query_as!(
            FieldCount,
            "select e.body ->> 'field' as \"field!\", count(distinct e.conversation_id) as \"filled!\"
             from conversations c join conversation_events e on e.workspace_id = c.workspace_id
               and e.conversation_id = c.id
             where c.workspace_id = $1 and c.dialogue_id = $2 and c.started_at > $3 and not c.entered and c.test is null
               and e.kind in ('kept', 'worked_out') and e.body ->> 'field' is not null and e.body -> 'value' is not null
             group by 1",
            workspace,
            dialogue,
            self.counted_since()?.to_sqlx() as _
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(FieldCounts { fields, conversations })
    }

    /// Says whether a dialogue is there, without reading it.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    #[crate::compiled_here]
    pub async fn has_dialogue(&self, workspace: Uuid, dialogue: Uuid) -> Result<(), StoreError> {
        sqlx::query_scalar!("select id from dialogues where workspace_id = $1 and id = $2", workspace, dialogue)
            .fetch_optional(&self.pool)
            .await?
            .map(drop)
            .ok_or(StoreError::NotFound("dialogue"))
    }

    /// The newest release's dialogue, from memory where it was read before; nothing where it was never released.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn newest_release(
        &self,
        workspace: Uuid,
        dialogue: Uuid,
    ) -> Result<Option<Arc<lumbo_dialogue::plan::Plan>>, StoreError> {
        let id = sqlx::query_scalar!(
            "select id from releases where workspace_id = $1 and dialogue_id = $2 order by number desc limit 1",
            workspace,
            dialogue
        )
        .fetch_optional(&self.pool)
        .await?;
        let Some(id) = id else { return Ok(None) };
        if let Some(plan) = self.known_plan(id) {
            return Ok(Some(plan));
        }
        let body = sqlx::query_scalar!(
            "select body as \"body: Json<Dialogue>\" from releases where workspace_id = $1 and id = $2",
            workspace,
            id
        )
        .fetch_one(&self.pool)
        .await?;
        Ok(Some(self.plan(id, || body.0)))
    }

    /// Edits after a revision, oldest first; 200 at most.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn edits_since(
        &self,
        workspace: Uuid,
        dialogue: Uuid,
        revision: i64,
    ) -> Result<Vec<EditLogRow>, StoreError> {
        let rows = sqlx::query!(
            "select e.revision, p.name as person, e.at as \"at: SqlTimestamp\", e.touches, e.edits
             as \"edits: Json<Vec<Edit>>\" from draft_edits e
             join people p on p.workspace_id = e.workspace_id and p.id = e.person_id
             where e.workspace_id = $1 and e.dialogue_id = $2 and e.revision > $3 order by e.revision limit 200",
            workspace,
            dialogue,
            revision
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows
            .into_iter()
            .map(|row| EditLogRow {
                revision: row.revision,
                person: row.person,
                at: row.at.to_jiff(),
                touches: row.touches,
                edits: row.edits.0,
            })
            .collect())
    }
}

/// Keeps a draft's next revision with the edits that made it; gives what they touched.
pub(crate) async fn write_draft(
    db: &mut PgConnection,
    workspace: Uuid,
    dialogue: Uuid,
    by: By,
    base: i64,
    body: &Dialogue,
    edits: &[Edit],
    inverse: &[Edit],
) -> Result<Vec<String>, DraftError> {
    if canonical(body).len() > lumbo_dialogue::file::load::SIZE_LIMIT {
        return Err(DraftError::TooLarge);
    }
    let mut touched: Vec<String> = edits.iter().flat_map(touches).collect();
    touched.sort();
    touched.dedup();
    let revision = base + 1;
    sqlx::query!(
        "update drafts set revision = $3, body = $4, changed_at = $6, changed_by = $5 where workspace_id = $1 and
         dialogue_id = $2",
        workspace,
        dialogue,
        revision,
        Json(body) as _,
        by.person,
        by.at.to_sqlx() as _
    )
    .execute(&mut *db)
    .await?;
    sqlx::query!(
        "update dialogues set title = $3 where workspace_id = $1 and id = $2",
        workspace,
        dialogue,
        body.title
    )
    .execute(&mut *db)
    .await?;
    sqlx::query!(
        "insert into draft_edits (workspace_id, dialogue_id, revision, person_id, edits, inverse, touches, at) values
         ($1, $2, $3, $4, $5, $6, $7, $8)",
        workspace,
        dialogue,
        revision,
        by.person,
        Json(edits) as _,
        Json(inverse) as _,
        &touched,
        by.at.to_sqlx() as _
    )
    .execute(&mut *db)
    .await?;
    live::add(db, workspace, Topic::Draft(dialogue), "edit", by.at).await.map_err(DraftError::Store)?;
    Ok(touched)
}
