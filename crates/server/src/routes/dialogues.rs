//! Dialogues, their drafts, and the catalogues that writing one needs.

use std::collections::BTreeMap;

use axum::Json;
use axum::extract::{Path, State};
use axum::http::header;
use axum::response::{IntoResponse, Response};
use jiff::Timestamp;
use lumbo_core::checks::{Finding, check};
use lumbo_core::condition;
use lumbo_core::file::{self, Dialogue, Field, Gives, When};
use lumbo_core::outline::{Edit, Plan, Row, rows};
use lumbo_core::rails::{Rails, rails};
use lumbo_store::{DialogueRow, Draft, EditLogRow};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

use super::DialoguePath;
use crate::body::Body;
use crate::signed::Writer;
use crate::{App, Problem};

/// Most edits in one request.
const EDIT_LIMIT: usize = 500;

/// A draft with everything that its screens show.
#[derive(Serialize, JsonSchema)]
pub(crate) struct DraftView {
    /// Its revision; a change names it.
    revision: i64,
    /// The dialogue.
    dialogue: Dialogue,
    /// The outline as rows.
    rows: Vec<Row>,
    /// The rails beside the rows.
    rails: Rails,
    /// Findings, worst first.
    findings: Vec<Finding>,
    /// Conditions in words, by the id of what carries them.
    words: BTreeMap<String, String>,
    /// What the bottom line says.
    figures: Figures,
    /// When it was last changed, RFC 3339.
    #[schemars(with = "String")]
    changed_at: Timestamp,
    /// Who changed it.
    changed_by: Option<String>,
    /// Changes since the newest release; absent before the first.
    changes: Option<i64>,
    /// Number of the newest release.
    newest_release: Option<i32>,
    /// Number of the release on air.
    on_air: Option<i32>,
    /// Address on the prospects' side.
    slug: String,
}

/// Live figures of a draft.
#[derive(Serialize, JsonSchema)]
pub(crate) struct Figures {
    /// Turns.
    turns: usize,
    /// Most questions on one conversation.
    questions_most: u16,
    /// Fields that are asked or worked out.
    fields: usize,
}

fn words(dialogue: &Dialogue) -> BTreeMap<String, String> {
    let mut out = BTreeMap::new();
    let say = |holds: &file::Condition| condition::say(holds, &dialogue.fields, &dialogue.language);
    dialogue.each_turn(&mut |_, _, turn| {
        for arm in turn.arms() {
            if let When::Holds(holds) = &arm.when {
                out.insert(arm.id.clone(), say(holds));
            }
        }
    });
    for card in &dialogue.scorecards {
        for criterion in card.dimensions.iter().flat_map(|dimension| &dimension.criteria) {
            if let Gives::When { holds, .. } = &criterion.gives {
                out.insert(criterion.id.clone(), say(holds));
            }
        }
        out.extend(card.must_haves.iter().map(|must| (must.id.clone(), say(&must.holds))));
        out.extend(card.rule_outs.iter().map(|rule_out| (rule_out.id.clone(), say(&rule_out.holds))));
    }
    out.extend(dialogue.routing.rules.iter().map(|rule| (rule.id.clone(), say(&rule.holds))));
    out
}

impl DraftView {
    fn new(draft: Draft) -> Self {
        let Draft { revision, body, changed_at, changed_by, changes, newest_release, on_air, slug } = draft;
        let plan = Plan::new(&body).0;
        let rows = rows(&body);
        let figures = Figures { turns: plan.turns.len(), questions_most: plan.ahead.first().copied().unwrap_or(0), fields: body.fields.len() };
        Self {
            revision,
            rails: rails(&body),
            rows,
            findings: check(&body),
            words: words(&body),
            figures,
            changed_at,
            changed_by,
            changes,
            newest_release,
            on_air,
            slug,
            dialogue: body,
        }
    }
}

pub(crate) async fn list(State(app): State<App>, Writer(person): Writer) -> Result<Json<Vec<DialogueRow>>, Problem> {
    Ok(Json(app.store.dialogues(person.workspace_id).await?))
}

/// A dialogue to make: from a file, or blank with a title.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NewDialogue {
    /// Its title, 1 to 80 characters.
    title: String,
    /// A dialogue file to begin from.
    #[serde(default)]
    file: Option<serde_json::Value>,
}

/// The id of a dialogue that was made.
#[derive(Serialize, JsonSchema)]
pub(crate) struct MadeDialogue {
    /// Its id.
    id: Uuid,
}

/// A name for addresses, made from a title.
fn slug_of(title: &str) -> String {
    let mut slug = String::new();
    for c in title.chars().flat_map(char::to_lowercase) {
        if c.is_ascii_alphanumeric() {
            slug.push(c);
        } else if !slug.ends_with('-') && !slug.is_empty() {
            slug.push('-');
        }
    }
    let slug: String = slug.chars().take(32).collect();
    let slug = slug.trim_matches('-');
    if slug.is_empty() { "dialogue".to_owned() } else { slug.to_owned() }
}

pub(crate) async fn create(State(app): State<App>, Writer(person): Writer, Body(new): Body<NewDialogue>) -> Result<Json<MadeDialogue>, Problem> {
    let title = new.title.trim();
    if title.is_empty() || title.chars().count() > 80 {
        return Err(Problem::bad("A title has 1 to 80 characters."));
    }
    let mut dialogue = match &new.file {
        Some(json) => file::load::from_json(json).map_err(|error| Problem::bad(format!("This is not a dialogue file: {error}")))?,
        None => {
            let blank = serde_json::json!({
                "format": "lumbo.dialogue/1", "id": "blank", "title": title, "language": "en",
                "opening": {"say": {"en": "Hello. What can we help you with?"}, "button": {"en": "Begin"}},
                "outcomes": [{"id": "lead", "label": "A lead", "class": "lead"}, {"id": "not_a_fit", "label": "Not a fit", "class": "not_a_fit"}, {"id": "looking", "label": "Just looking", "class": "looking"}],
                "sections": [{"id": "start", "title": "Start", "turns": [{"kind": "close", "id": "t_end", "outcome": "looking", "say": {"text": {"en": "Thank you."}}}], "then": "carry_on"}]
            });
            file::load::from_json(&blank).map_err(|_| Problem::internal())?
        }
    };
    title.clone_into(&mut dialogue.title);
    dialogue.id = slug_of(title);
    let id = app.store.create_dialogue(person.workspace_id, Some(person.id), &dialogue).await?;
    Ok(Json(MadeDialogue { id }))
}

pub(crate) async fn draft(State(app): State<App>, Writer(person): Writer, Path(path): Path<DialoguePath>) -> Result<Json<DraftView>, Problem> {
    Ok(Json(DraftView::new(app.store.draft(person.workspace_id, path.dialogue).await?)))
}

/// Changes to make.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Edits {
    /// The revision that the sender looked at.
    base: i64,
    /// The edits, in order; 1 to 500.
    edits: Vec<Edit>,
}

/// A changed draft, and the edits that undo the change.
#[derive(Serialize, JsonSchema)]
pub(crate) struct Edited {
    /// The draft.
    draft: DraftView,
    /// The edits that undo, in order.
    inverse: Vec<Edit>,
}

pub(crate) async fn edit(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<DialoguePath>,
    Body(body): Body<Edits>,
) -> Result<Json<Edited>, Problem> {
    if body.edits.is_empty() || body.edits.len() > EDIT_LIMIT {
        return Err(Problem::bad(format!("A change has 1 to {EDIT_LIMIT} edits.")));
    }
    let (draft, inverse) = app.store.edit_draft(person.workspace_id, path.dialogue, person.id, body.base, body.edits).await?;
    Ok(Json(Edited { draft: DraftView::new(draft), inverse }))
}

pub(crate) async fn history(State(app): State<App>, Writer(person): Writer, Path(path): Path<DialoguePath>) -> Result<Json<Vec<EditLogRow>>, Problem> {
    let draft = app.store.draft(person.workspace_id, path.dialogue).await?;
    let mut rows = app.store.edits_since(person.workspace_id, path.dialogue, (draft.revision - 100).max(0)).await?;
    rows.reverse();
    Ok(Json(rows))
}

pub(crate) async fn file(State(app): State<App>, Writer(person): Writer, Path(path): Path<DialoguePath>) -> Result<Response, Problem> {
    let draft = app.store.draft(person.workspace_id, path.dialogue).await?;
    // The slug is made of small letters, digits and hyphens, so it needs no quoting.
    let name = format!("attachment; filename=\"{}.json\"", draft.slug);
    Ok(([(header::CONTENT_TYPE, "application/json".to_owned()), (header::CONTENT_DISPOSITION, name)], file::canonical(&draft.body)).into_response())
}

pub(crate) async fn fields(State(app): State<App>, Writer(person): Writer) -> Result<Json<Vec<Field>>, Problem> {
    Ok(Json(app.store.fields(person.workspace_id).await?))
}

/// A queue of the workspace.
#[derive(Serialize, JsonSchema)]
pub(crate) struct QueueView {
    /// Its key, which routing rules name.
    key: String,
    /// Its name.
    name: String,
}

pub(crate) async fn queues(State(app): State<App>, Writer(person): Writer) -> Result<Json<Vec<QueueView>>, Problem> {
    Ok(Json(app.store.queues(person.workspace_id).await?.into_iter().map(|(key, name)| QueueView { key, name }).collect()))
}

#[cfg(test)]
mod tests {
    use super::slug_of;

    #[test]
    fn an_address_is_made_of_the_title() {
        for (title, slug) in [
            ("Storage enquiry", "storage-enquiry"),
            ("  Ä & Ö!  ", "dialogue"),
            ("Tarn Quay — 2027", "tarn-quay-2027"),
            ("x".repeat(100).as_str(), &"x".repeat(32)),
        ] {
            assert_eq!(slug_of(title), slug);
        }
    }
}
