//! A draft: reading it, changing it, and what is computed of it.

use aide::axum::ApiRouter;
use aide::axum::routing::{get_with, post_with};
use std::collections::BTreeMap;
use std::sync::Arc;

use axum::Json;
use axum::extract::State;
use axum::http::header;
use jiff::Timestamp;
use lumbo_analysis::{Analysis, Happens};
use lumbo_checks::Finding;
use lumbo_dialogue::file::{self, Dialogue};
use lumbo_dialogue::turns::texts::Measure;
use lumbo_dialogue::turns::uses::Arrival;
use lumbo_language::{Phrases, phrase_keys};
use lumbo_outline::Place;
use lumbo_outline::change::{DialogueChange, OutlineChange, dialogue_change, outline_change};
use lumbo_outline::gesture::{Understood, understood};
use lumbo_outline::marks::ChangeMark;
use lumbo_outline::rails::{Rails, rails};
use lumbo_outline::search::{Found, Search, find};
use lumbo_outline::{Edit, Gesture, Row, rows};
use lumbo_store::{Change, Draft};
use lumbo_ways::ledger::LedgerRow;
use lumbo_ways::reach::Questions;
use rand::RngCore;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use super::DialoguePath;
use crate::answer::{DialogueFile, Sent};
use crate::api::named;
use crate::body::{Body, Path};
use crate::signed::Writer;
use crate::wire::drafts::EditLogRow;
use crate::{App, Problem, analyses};

/// The name of this area in the document.
const TAG: &str = "Drafts";

/// A draft and what is computed of it.
pub(crate) fn api() -> ApiRouter<App> {
    ApiRouter::new()
        .api_route(
            "/api/dialogues/{dialogue}/draft",
            get_with(draft, named(TAG, "draft", "A dialogue’s draft"))
                .post_with(edit, named(TAG, "editDraft", "Change a draft")),
        )
        .api_route(
            "/api/dialogues/{dialogue}/history",
            get_with(history, named(TAG, "history", "Who changed a draft, and how")),
        )
        .api_route(
            "/api/dialogues/{dialogue}/understand",
            post_with(understand, named(TAG, "understandText", "What a typed line would become")),
        )
        .api_route(
            "/api/dialogues/{dialogue}/file",
            get_with(file, named(TAG, "dialogueFile", "The draft as a dialogue file")),
        )
        .api_route(
            "/api/dialogues/{dialogue}/find",
            post_with(find_words, named(TAG, "findWords", "Find words in a draft")),
        )
        .api_route(
            "/api/dialogues/{dialogue}/draft/analysis",
            get_with(analysis, named(TAG, "analysis", "What is computed of a draft")),
        )
        .api_route(
            "/api/dialogues/{dialogue}/ledger",
            get_with(field_ledger, named(TAG, "fieldLedger", "Where each field is captured and read")),
        )
        .api_route(
            "/api/dialogues/{dialogue}/phrases",
            get_with(phrases, named(TAG, "phrases", "Built-in phrases in the dialogue’s language")),
        )
}

/// Most edits in one request.
const EDIT_LIMIT: usize = 4_000;
/// Most characters of a text that is looked at while it is typed.
const TYPED: usize = 20_000;

/// A draft, whole: what a screen begins with. What is computed of it comes beside it, as [`AnalysisView`].
#[derive(Serialize, JsonSchema)]
pub(crate) struct DraftView {
    /// Its revision; a change names it.
    revision: i64,
    /// The dialogue.
    dialogue: Arc<Dialogue>,
    /// The outline as rows.
    rows: Vec<Row>,
    /// The rails beside the rows.
    rails: Rails,
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

pub(crate) async fn draft(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<DialoguePath>,
) -> Result<Json<DraftView>, Problem> {
    let Draft { revision, body, changed_at, changed_by, changes, newest_release, on_air, slug } =
        app.store.draft(person.workspace_id, path.dialogue).await?;
    let (rows, rails) = (rows(&body), rails(&body));
    Ok(Json(DraftView {
        revision,
        dialogue: body,
        rows,
        rails,
        changed_at,
        changed_by,
        changes,
        newest_release,
        on_air,
        slug,
    }))
}

/// What is computed of a draft.
#[derive(Serialize, JsonSchema)]
pub(crate) struct AnalysisView {
    /// The revision it is of.
    revision: i64,
    /// Findings, worst first.
    findings: Vec<Finding>,
    /// Conditions in words, by the id of what carries them.
    words: BTreeMap<String, String>,
    /// What changed since the newest release, by row as `turn:ID` and the like.
    marks: BTreeMap<String, ChangeMark>,
    /// Lengths of texts, by turn.
    measures: BTreeMap<String, Measure>,
    /// Who leads to which section.
    arrivals: Vec<Arrival>,
    /// Fewest and most questions on one conversation; absent where none ends.
    questions: Option<Questions>,
    /// What can happen to a conversation from its beginning.
    reach: Happens,
}

pub(crate) async fn analysis(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<DialoguePath>,
) -> Result<Json<AnalysisView>, Problem> {
    let draft = app.store.draft(person.workspace_id, path.dialogue).await?;
    let analysis = analyses::of(&app, person.workspace_id, path.dialogue, &draft).await?;
    let Analysis { findings, words, marks, measures, arrivals, questions, reach, ledger: _ } =
        Analysis::clone(&analysis);
    let revision = draft.revision;
    Ok(Json(AnalysisView { revision, findings, words, marks, measures, arrivals, questions, reach }))
}

/// Changes to make: edits, or one gesture.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Edits {
    /// The revision that the sender looked at.
    base: i64,
    /// The edits, in order; 1 to 4,000, or none where there is a gesture.
    #[serde(default)]
    edits: Vec<Edit>,
    /// What the author did in one move.
    #[serde(default)]
    gesture: Option<Box<Gesture>>,
}

/// What a change made different, and the edits that undo it.
#[derive(Serialize, JsonSchema)]
pub(crate) struct Edited {
    /// The revision it made.
    revision: i64,
    /// When, RFC 3339.
    #[schemars(with = "String")]
    changed_at: Timestamp,
    /// Changes since the newest release; absent before the first.
    changes: Option<i64>,
    /// Parts of the dialogue that say something else now.
    dialogue: DialogueChange,
    /// Rows that are others now.
    outline: OutlineChange,
    /// The edits that undo, in order.
    inverse: Vec<Edit>,
    /// Rows that a gesture made or moved, as `turn:ID` and the like; the first is the one to look at.
    made: Vec<String>,
    /// What the author should know of the gesture.
    notes: Vec<String>,
}

pub(crate) async fn edit(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<DialoguePath>,
    Body(body): Body<Edits>,
) -> Result<Json<Edited>, Problem> {
    let change = match body.gesture {
        Some(gesture) if body.edits.is_empty() => Change::Gesture(gesture, rand::rng().next_u64()),
        None if !body.edits.is_empty() && body.edits.len() <= EDIT_LIMIT => Change::Edits(body.edits),
        _ => return Err(Problem::bad(format!("A change has 1 to {EDIT_LIMIT} edits, or one gesture."))),
    };
    let changed = app.store.change_draft(person.workspace_id, path.dialogue, person.id, body.base, change).await?;
    Ok(Json(Edited {
        revision: changed.revision,
        changed_at: changed.at,
        changes: changed.changes,
        dialogue: dialogue_change(&changed.before, &changed.after),
        outline: outline_change(&changed.before, &changed.after),
        inverse: changed.inverse,
        made: changed.rows,
        notes: changed.notes,
    }))
}

/// Words to find, and what would take their place.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct WordsToFind {
    /// What is looked for.
    search: Search,
    /// What would take its place.
    #[serde(default)]
    with: String,
}

pub(crate) async fn find_words(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<DialoguePath>,
    Body(body): Body<WordsToFind>,
) -> Result<Json<Vec<Found>>, Problem> {
    if body.with.chars().count() > 2_000 {
        return Err(Problem::bad("The new words have at most 2,000 characters."));
    }
    let draft = app.store.draft(person.workspace_id, path.dialogue).await?;
    Ok(Json(find(&draft.body, &body.search, &body.with)))
}

/// The field ledger.
#[derive(Serialize, JsonSchema)]
pub(crate) struct LedgerView {
    /// A row for each field.
    rows: Vec<LedgerRow>,
    /// Conversations of the last 30 days that filled each field, by the field's id.
    filled: BTreeMap<String, i64>,
    /// Conversations of the last 30 days.
    conversations: i64,
}

pub(crate) async fn field_ledger(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<DialoguePath>,
) -> Result<Json<LedgerView>, Problem> {
    let draft = app.store.draft(person.workspace_id, path.dialogue).await?;
    let counts = app.store.field_counts(person.workspace_id, path.dialogue).await?;
    let analysis = analyses::of(&app, person.workspace_id, path.dialogue, &draft).await?;
    Ok(Json(LedgerView {
        rows: analysis.ledger.clone(),
        filled: counts.fields.into_iter().map(|count| (count.field, count.filled)).collect(),
        conversations: counts.conversations,
    }))
}

/// A built-in phrase.
#[derive(Serialize, JsonSchema)]
pub(crate) struct PhraseView {
    /// Its key.
    key: String,
    /// Its words in the dialogue's language.
    words: String,
}

pub(crate) async fn phrases(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<DialoguePath>,
) -> Result<Json<Vec<PhraseView>>, Problem> {
    let draft = app.store.draft(person.workspace_id, path.dialogue).await?;
    let language = &draft.body.language;
    let plain = Phrases::plain(language).informal(draft.body.settings.informal.contains(language));
    Ok(Json(
        phrase_keys().into_iter().map(|key| PhraseView { key: key.into(), words: plain.get(key).to_owned() }).collect(),
    ))
}

pub(crate) async fn history(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<DialoguePath>,
) -> Result<Json<Vec<EditLogRow>>, Problem> {
    let draft = app.store.draft(person.workspace_id, path.dialogue).await?;
    let mut rows = app.store.edits_since(person.workspace_id, path.dialogue, (draft.revision - 100).max(0)).await?;
    rows.reverse();
    Ok(Json(rows.into_iter().map(Into::into).collect()))
}

/// A line, or several, as typed.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Typed {
    /// The text, 20,000 characters at most.
    text: String,
    /// Where its first turn would go.
    at: Place,
}

/// What a typed text would become, or why it cannot be read.
#[derive(Serialize, JsonSchema)]
pub(crate) struct TypedAs {
    /// What it would become; absent where it cannot be read.
    understood: Option<Understood>,
    /// Why it cannot be read.
    says: Option<String>,
}

pub(crate) async fn understand(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<DialoguePath>,
    Body(typed): Body<Typed>,
) -> Result<Json<TypedAs>, Problem> {
    if typed.text.chars().count() > TYPED {
        return Err(Problem::bad(format!("Type or paste at most {TYPED} characters.")));
    }
    let draft = app.store.draft(person.workspace_id, path.dialogue).await?;
    let catalogue = app.store.fields(person.workspace_id).await?;
    let read = app.busy.work(move || understood(&draft.body, &typed.text, typed.at, &catalogue)).await?;
    Ok(Json(match read {
        Ok(understood) => TypedAs { understood: Some(understood), says: None },
        Err(error) => TypedAs { understood: None, says: Some(crate::problem::sentence(&error.to_string())) },
    }))
}

pub(crate) async fn file(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<DialoguePath>,
) -> Result<Sent<DialogueFile>, Problem> {
    let draft = app.store.draft(person.workspace_id, path.dialogue).await?;
    // The slug is made of small letters, digits and hyphens, so it needs no quoting.
    let name = format!("attachment; filename=\"{}.json\"", draft.slug);
    let headers = [(header::CONTENT_TYPE, "application/json".to_owned()), (header::CONTENT_DISPOSITION, name)];
    Ok(Sent::new((headers, file::canonical(&draft.body))))
}
