//! The workspace's catalogue of fields. Drafts carry copies of the fields they use and follow every change; releases do
//! not.
//!
//! A change of a field locks the workspace first and drafts after it, so that two changes never wait for each other.

use std::collections::{BTreeMap, HashMap};

use lumbo_catalogue::{Consequences, FIELD_LIMIT, consequences, faults};
use lumbo_dialogue::file::{Dialogue, Field};
use lumbo_dialogue::turns::uses::{Use, all_uses};
use lumbo_outline::{Edit, apply};
use sqlx::PgConnection;
use sqlx::types::Json;
use uuid::Uuid;

use lumbo_people::Audited;

use crate::audit::{self, Entry};
use crate::dialogues::{By, write_draft};
use crate::{DraftError, Store, StoreError};

/// A field with what uses it.
#[derive(Debug, Clone)]
pub struct FieldRow {
    /// The field.
    pub field: Field,
    /// Drafts that carry it.
    pub dialogues: Vec<FieldUse>,
    /// Leads that have a value in it.
    pub leads: i64,
}

/// A draft that carries a field.
#[derive(Debug, Clone)]
pub struct FieldUse {
    /// The dialogue.
    pub dialogue: Uuid,
    /// Its title.
    pub title: String,
    /// Places that use it.
    pub places: usize,
}

/// What a change would do to one draft.
#[derive(Debug, Clone)]
pub struct DraftConsequences {
    /// The dialogue.
    pub dialogue: Uuid,
    /// Its title.
    pub title: String,
    /// What would come of it.
    pub consequences: Consequences,
}

/// Why the catalogue was not changed. Nothing is changed then.
#[derive(Debug, thiserror::Error)]
pub enum CatalogueError {
    /// The definition is not sound.
    #[error("{}", .0.join("; "))]
    Unsound(Vec<String>),
    /// Somebody changed the field meanwhile.
    #[error("somebody changed {0} meanwhile; look at it again")]
    Stale(String),
    /// Still used, by the titles of the dialogues.
    #[error("“{label}” is still used in {}; change {} \
        first", .dialogues.join(", "), if .dialogues.len() == 1 { "that one" } else { "those" })]
    InUse {
        /// The field's label.
        label: String,
        /// Titles.
        dialogues: Vec<String>,
    },
    /// A draft that cannot follow.
    #[error(transparent)]
    Draft(#[from] DraftError),
    /// The store.
    #[error(transparent)]
    Store(#[from] StoreError),
}

impl From<sqlx::Error> for CatalogueError {
    fn from(error: sqlx::Error) -> Self {
        Self::Store(error.into())
    }
}

/// Keeps changes of the catalogue in a row until the transaction ends.
pub(crate) async fn lock(db: &mut PgConnection, workspace: Uuid) -> Result<(), StoreError> {
    sqlx::query_scalar!("select id from workspaces where id = $1 for no key update", workspace)
        .fetch_optional(db)
        .await?;
    Ok(())
}

/// The catalogue, by key.
pub(crate) async fn all(db: &mut PgConnection, workspace: Uuid) -> Result<Vec<Field>, StoreError> {
    let rows = sqlx::query_scalar!(
        "select definition as \"definition: Json<Field>\" from fields where workspace_id = $1 order by key",
        workspace
    )
    .fetch_all(db)
    .await?;
    Ok(rows.into_iter().map(|row| row.0).collect())
}

/// Adds a field, or changes the definition of the one with its id; the id never changes.
pub(crate) async fn put(db: &mut PgConnection, workspace: Uuid, field: &Field) -> Result<(), StoreError> {
    sqlx::query!(
        "insert into fields (workspace_id, id, key, definition) values ($1, $2, $3, $4)
         on conflict (workspace_id, id) do update
           set key = excluded.key, definition = excluded.definition, changed_at = now()",
        workspace,
        field.id,
        field.key,
        Json(field) as _
    )
    .execute(db)
    .await
    .map_err(|error| match error.as_database_error() {
        Some(database) if database.is_unique_violation() => StoreError::Conflict(format!(
            "another field of this workspace has the key “{}”; choose another \
                key",
            field.key
        )),
        _ => error.into(),
    })?;
    Ok(())
}

/// Names the pictures of a field's options in a dialogue that is to carry them.
pub(crate) async fn pictures(
    db: &mut PgConnection,
    workspace: Uuid,
    body: &Dialogue,
    field: &Field,
) -> Result<Vec<Edit>, StoreError> {
    let hashes: Vec<String> = field
        .options
        .iter()
        .filter_map(|option| option.picture.clone())
        .filter(|hash| !body.media.contains_key(hash))
        .collect();
    if hashes.is_empty() {
        return Ok(Vec::new());
    }
    let rows = sqlx::query!(
        "select hash, media_type from media where workspace_id = $1 and hash = any($2)",
        workspace,
        &hashes
    )
    .fetch_all(db)
    .await?;
    Ok(rows.into_iter().map(|row| Edit::SetMedia { hash: row.hash, media_type: Some(row.media_type) }).collect())
}

/// A draft that carries a field, locked.
struct Carrier {
    dialogue: Uuid,
    revision: i64,
    body: Dialogue,
}

async fn carriers(
    db: &mut PgConnection,
    workspace: Uuid,
    field: &str,
    but: Option<Uuid>,
) -> Result<Vec<Carrier>, StoreError> {
    let carries = serde_json::json!({ "fields": [{ "id": field }] });
    let rows = sqlx::query!(
        "select dialogue_id, revision, body as \"body: Json<Dialogue>\" from drafts
         where workspace_id = $1 and body @> $2 and dialogue_id is distinct from $3 order by dialogue_id for update",
        workspace,
        carries,
        but
    )
    .fetch_all(db)
    .await?;
    Ok(rows
        .into_iter()
        .map(|row| Carrier { dialogue: row.dialogue_id, revision: row.revision, body: row.body.0 })
        .collect())
}

/// Lets every draft that carries a field follow its new definition, as an edit of that draft; `but` has it already.
pub(crate) async fn follow(
    db: &mut PgConnection,
    workspace: Uuid,
    by: By,
    field: &Field,
    but: Option<Uuid>,
) -> Result<(), DraftError> {
    for carrier in carriers(db, workspace, &field.id, but).await? {
        if carrier.body.fields.contains(field) {
            continue;
        }
        let mut edits = pictures(db, workspace, &carrier.body, field).await?;
        edits.insert(0, Edit::PutField { field: field.clone() });
        write_edits(db, workspace, by, carrier, edits).await?;
    }
    Ok(())
}

async fn write_edits(
    db: &mut PgConnection,
    workspace: Uuid,
    by: By,
    carrier: Carrier,
    edits: Vec<Edit>,
) -> Result<(), DraftError> {
    let Carrier { dialogue, revision, mut body } = carrier;
    let mut inverse = Vec::new();
    for edit in &edits {
        inverse.push(apply(&mut body, edit.clone())?);
    }
    inverse.reverse();
    write_draft(db, workspace, dialogue, by, revision, &body, &edits, &inverse).await?;
    Ok(())
}

/// Changes one field of the catalogue where it is as the sender knew it, and lets drafts follow; `known` is the
/// catalogue.
async fn change(
    db: &mut PgConnection,
    workspace: Uuid,
    by: By,
    known: &mut Vec<Field>,
    was: Option<&Field>,
    field: &Field,
) -> Result<(), CatalogueError> {
    let kept = known.iter().find(|known| known.id == field.id);
    if kept != was {
        return Err(CatalogueError::Stale(
            kept.or(was).map_or_else(|| field.label.clone(), |field| field.label.clone()),
        ));
    }
    if kept.is_none() && known.len() >= FIELD_LIMIT {
        return Err(CatalogueError::Unsound(vec![format!("a catalogue has at most {FIELD_LIMIT} fields")]));
    }
    let wrong = faults(field, known);
    if !wrong.is_empty() {
        return Err(CatalogueError::Unsound(wrong));
    }
    put(db, workspace, field).await?;
    follow(db, workspace, by, field, None).await?;
    known.retain(|known| known.id != field.id);
    known.push(field.clone());
    Ok(())
}

/// Each field with the drafts that use it, and how many leads have it.
fn catalogue_rows(fields: Vec<Field>, drafts: &[(Uuid, Dialogue)], leads: &BTreeMap<String, i64>) -> Vec<FieldRow> {
    let used: Vec<HashMap<String, Vec<Use>>> = drafts.iter().map(|(_, body)| all_uses(body)).collect();
    let row = |field: Field| {
        let dialogues = drafts
            .iter()
            .zip(&used)
            .filter_map(|((id, body), uses)| {
                let own = body.fields.iter().find(|own| own.id == field.id)?;
                let places = uses.get(&own.key).map_or(0, Vec::len);
                Some(FieldUse { dialogue: *id, title: body.title.clone(), places })
            })
            .collect();
        FieldRow { leads: leads.get(&field.id).copied().unwrap_or(0), dialogues, field }
    };
    fields.into_iter().map(row).collect()
}

impl Store {
    /// The catalogue, by key.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn fields(&self, workspace: Uuid) -> Result<Vec<Field>, StoreError> {
        let mut db = self.pool.acquire().await?;
        all(&mut db, workspace).await
    }

    /// Ids of the fields that any lead holds something in.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn fields_of_leads(&self, workspace: Uuid) -> Result<Vec<String>, StoreError> {
        // One look at the index for each field of the catalogue, however many leads there are.
        Ok(sqlx::query_scalar!(
            "select f.id from fields f where f.workspace_id = $1 and exists (
               select from lead_values v where v.workspace_id = $1 and v.field_id = f.id)",
            workspace
        )
        .fetch_all(&self.pool)
        .await?)
    }

    /// The catalogue with what uses each field.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn catalogue(&self, workspace: Uuid) -> Result<Vec<FieldRow>, StoreError> {
        let fields = self.fields(workspace).await?;
        let drafts = self.draft_bodies(workspace).await?;
        let leads = sqlx::query!(
            "select field_id as field, count(distinct lead_id) as \"leads!\" from lead_values where
                workspace_id = $1 group by 1",
            workspace
        )
        .fetch_all(&self.pool)
        .await?;
        let leads: BTreeMap<String, i64> = leads.into_iter().map(|row| (row.field, row.leads)).collect();
        Self::apart(move || catalogue_rows(fields, &drafts, &leads)).await
    }

    async fn draft_bodies(&self, workspace: Uuid) -> Result<Vec<(Uuid, Dialogue)>, StoreError> {
        let rows = sqlx::query!(
            "select dialogue_id, body as \"body: Json<Dialogue>\" from drafts where workspace_id
            = $1 order by dialogue_id",
            workspace
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows.into_iter().map(|row| (row.dialogue_id, row.body.0)).collect())
    }

    /// What new definitions would do, each by itself, draft by draft; in the order of the fields.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn preview_fields(
        &self,
        workspace: Uuid,
        fields: &[&Field],
    ) -> Result<Vec<Vec<DraftConsequences>>, StoreError> {
        if fields.is_empty() {
            return Ok(Vec::new());
        }
        let drafts = self.draft_bodies(workspace).await?;
        let fields: Vec<Field> = fields.iter().map(|field| (*field).clone()).collect();
        let of = move |field: &Field| {
            drafts
                .iter()
                .filter_map(|(dialogue, body)| {
                    let consequences = consequences(body, field)?;
                    Some(DraftConsequences { dialogue: *dialogue, title: body.title.clone(), consequences })
                })
                .collect()
        };
        Self::apart(move || fields.iter().map(of).collect()).await
    }

    /// How many leads have a value in a field.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn leads_with(&self, workspace: Uuid, field: &Field) -> Result<i64, StoreError> {
        Ok(sqlx::query_scalar!(
            "select count(distinct lead_id) as \"count!\" from lead_values where workspace_id = $1 and field_id = $2",
            workspace,
            field.id
        )
        .fetch_one(&self.pool)
        .await?)
    }

    /// Changes fields of the catalogue, all or none, each where it is as the sender knew it (nothing for a new one).
    /// Every draft that carries one follows, with its references.
    ///
    /// # Errors
    /// A [`CatalogueError`].
    #[crate::compiled_here]
    pub async fn change_fields(
        &self,
        workspace: Uuid,
        person: Uuid,
        changes: &[(Option<Field>, Field)],
    ) -> Result<(), CatalogueError> {
        let mut db = self.pool.begin().await?;
        lock(&mut db, workspace).await?;
        let mut known = all(&mut db, workspace).await?;
        for (was, field) in changes {
            change(&mut db, workspace, By { person, at: self.now() }, &mut known, was.as_ref(), field).await?;
            let about = format!("field {}", field.label);
            let entry = Entry {
                person: Some(person),
                what: Audited::SettingsChanged,
                about: &about,
                subject: None,
                network: None,
            };
            audit::write(&mut db, workspace, &entry, self.now()).await?;
        }
        db.commit().await?;
        self.wakes.stream(workspace);
        Ok(())
    }

    /// Takes a field out of the catalogue and out of every draft that carries it without using it.
    ///
    /// # Errors
    /// [`CatalogueError::InUse`] with the dialogues that use it.
    #[crate::compiled_here]
    pub async fn remove_field(&self, workspace: Uuid, person: Uuid, id: &str) -> Result<Field, CatalogueError> {
        let mut db = self.pool.begin().await?;
        lock(&mut db, workspace).await?;
        let field = all(&mut db, workspace)
            .await?
            .into_iter()
            .find(|field| field.id == id)
            .ok_or(StoreError::NotFound("field"))?;
        let mut dialogues = Vec::new();
        for carrier in carriers(&mut db, workspace, id, None).await? {
            let title = carrier.body.title.clone();
            match write_edits(
                &mut db,
                workspace,
                By { person, at: self.now() },
                carrier,
                vec![Edit::RemoveField { id: id.to_owned() }],
            )
            .await
            {
                Ok(()) => {}
                Err(DraftError::Edit(_)) => dialogues.push(format!("“{title}”")),
                Err(error) => return Err(error.into()),
            }
        }
        if !dialogues.is_empty() {
            return Err(CatalogueError::InUse { label: field.label, dialogues });
        }
        sqlx::query!("delete from fields where workspace_id = $1 and id = $2", workspace, id).execute(&mut *db).await?;
        let about = format!("field {}: taken out", field.label);
        let entry =
            Entry { person: Some(person), what: Audited::SettingsChanged, about: &about, subject: None, network: None };
        audit::write(&mut db, workspace, &entry, self.now()).await?;
        db.commit().await?;
        self.wakes.stream(workspace);
        Ok(field)
    }
}
