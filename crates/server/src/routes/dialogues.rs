//! Dialogues, their drafts, and the catalogues that writing one needs.

use std::collections::BTreeMap;

use axum::Json;
use axum::extract::{Path, State};
use axum::http::header;
use axum::response::{IntoResponse, Response};
use jiff::Timestamp;
use lumbo_catalogue::patterns;
use lumbo_checks::{Finding, check_plan};
use lumbo_condition as condition;
use lumbo_dialogue::Plan;
use lumbo_dialogue::file::{self, Dialogue, Field, Gives, When};
use lumbo_dialogue::turns::texts::Measure;
use lumbo_dialogue::turns::uses::{Arrival, arrivals};
use lumbo_language::{LANGUAGES, Phrases, phrase_keys};
use lumbo_outline::from_brief::{NewDialogue as FromBrief, from_brief};
use lumbo_outline::marks::{ChangeMark, change_marks, measures};
use lumbo_outline::rails::{Rails, rails};
use lumbo_outline::search::{Found, Search, find};
use lumbo_outline::{Edit, Gesture, Row, rows};
use lumbo_store::{Change, DialogueRow, Draft, EditLogRow, Person};
use lumbo_ways::ledger::{LedgerRow, ledger};
use rand::RngCore;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

use super::DialoguePath;
use crate::body::Body;
use crate::signed::Writer;
use crate::{App, Problem};

/// Most edits in one request.
const EDIT_LIMIT: usize = 4_000;

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
    /// What changed since the newest release, by row as `turn:ID` and the like.
    marks: BTreeMap<String, ChangeMark>,
    /// Lengths of texts, by turn.
    measures: BTreeMap<String, Measure>,
    /// Who leads to which section.
    arrivals: Vec<Arrival>,
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
    /// Everything that is computed for the screens.
    async fn of(app: &App, person: &Person, dialogue: Uuid, draft: Draft) -> Result<Self, Problem> {
        let released = app.store.newest_release(person.workspace_id, dialogue).await?;
        Ok(Self::new(draft, released.as_ref().map(|plan| &plan.file)))
    }

    fn new(draft: Draft, released: Option<&Dialogue>) -> Self {
        let Draft { revision, body, changed_at, changed_by, changes, newest_release, on_air, slug } = draft;
        let (plan, faults) = Plan::new(&body);
        let rows = rows(&body);
        let figures = Figures {
            turns: plan.turns.len(),
            questions_most: plan.ahead.first().copied().unwrap_or(0),
            fields: body.fields.len(),
        };
        Self {
            revision,
            rails: rails(&body),
            rows,
            findings: check_plan(&body, &plan, faults),
            words: words(&body),
            marks: released.map(|released| change_marks(released, &body)).unwrap_or_default(),
            measures: measures(&body),
            arrivals: arrivals(&body),
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

/// A dialogue to make: from a file, a pattern, or a brief; blank where none is given.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NewDialogue {
    /// Its title, 1 to 80 characters.
    title: String,
    /// Its language: en, de, fr, es, nl or pl; English where absent. Files and patterns bring their own.
    #[serde(default)]
    language: Option<String>,
    /// A dialogue file to begin from.
    #[serde(default)]
    file: Option<serde_json::Value>,
    /// A pattern to begin from, by its key.
    #[serde(default)]
    pattern: Option<String>,
    /// A brief to begin from.
    #[serde(default)]
    brief: Option<NewBrief>,
}

/// What a lead must carry, and who takes it.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NewBrief {
    /// Keys of fields of the catalogue, 60 at most.
    fields: Vec<String>,
    /// Who counts as a fit, in a sentence of at most 500 characters.
    #[serde(default)]
    fit: String,
    /// The queue that takes the leads, by key.
    #[serde(default)]
    queue: Option<String>,
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

pub(crate) async fn create(
    State(app): State<App>,
    Writer(person): Writer,
    Body(new): Body<NewDialogue>,
) -> Result<Json<MadeDialogue>, Problem> {
    let title = new.title.trim();
    if title.is_empty() || title.chars().count() > 80 {
        return Err(Problem::bad("A title has 1 to 80 characters."));
    }
    let language = new.language.as_deref().unwrap_or("en");
    if !LANGUAGES.contains(&language) {
        return Err(Problem::bad(format!("A dialogue is held in one of these languages: {}.", LANGUAGES.join(", "))));
    }
    let mut dialogue = match (&new.file, &new.pattern) {
        (Some(json), _) => file::load::from_json(json)
            .map_err(|error| Problem::bad(format!("This is not a dialogue file: {error}")))?,
        (None, Some(key)) => {
            let mut dialogue = patterns::pattern(key).ok_or_else(|| Problem::bad("There is no such pattern."))?;
            let queues: Vec<String> =
                app.store.queues(person.workspace_id).await?.into_iter().map(|(key, _)| key).collect();
            patterns::fit_workspace(&mut dialogue, &app.store.fields(person.workspace_id).await?, &queues);
            dialogue
        }
        (None, None) => from_brief(brief(&app, &person, title, language, new.brief).await?),
    };
    title.clone_into(&mut dialogue.title);
    dialogue.id = slug_of(title);
    let id = app.store.create_dialogue(person.workspace_id, Some(person.id), &dialogue).await?;
    Ok(Json(MadeDialogue { id }))
}

/// Looks up what a brief names.
async fn brief(
    app: &App,
    person: &Person,
    title: &str,
    language: &str,
    brief: Option<NewBrief>,
) -> Result<FromBrief, Problem> {
    let blank = FromBrief {
        id: "new".into(),
        title: title.into(),
        language: language.into(),
        fields: Vec::new(),
        fit: String::new(),
        queue: None,
    };
    let Some(NewBrief { fields, fit, queue }) = brief else { return Ok(blank) };
    if fields.len() > 60 || fit.chars().count() > 500 {
        return Err(Problem::bad("A brief names at most 60 fields, and says who is a fit in at most 500 characters."));
    }
    let catalogue = app.store.fields(person.workspace_id).await?;
    let found: Result<Vec<Field>, Problem> = fields
        .iter()
        .map(|key| {
            catalogue
                .iter()
                .find(|field| field.key == *key)
                .cloned()
                .ok_or_else(|| Problem::bad(format!("There is no field “{key}” in the catalogue.")))
        })
        .collect();
    if let Some(queue) = &queue
        && !app.store.queues(person.workspace_id).await?.iter().any(|(key, _)| key == queue)
    {
        return Err(Problem::bad(format!("There is no queue “{queue}”.")));
    }
    Ok(FromBrief { fields: found?, fit, queue, ..blank })
}

/// A ready-made dialogue to begin from.
#[derive(Serialize, JsonSchema)]
pub(crate) struct PatternView {
    /// Its key.
    key: String,
    /// Its title.
    title: String,
    /// What it is for, in a sentence.
    says: String,
    /// Questions on its longest way.
    questions: u16,
}

pub(crate) async fn list_patterns(Writer(_): Writer) -> Json<Vec<PatternView>> {
    let view = |(key, dialogue): (&str, Dialogue)| {
        let questions = Plan::new(&dialogue).0.ahead.first().copied().unwrap_or(0);
        PatternView { key: key.into(), says: dialogue.brief.fit.clone(), title: dialogue.title, questions }
    };
    Json(patterns::all().into_iter().map(view).collect())
}

pub(crate) async fn draft(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<DialoguePath>,
) -> Result<Json<DraftView>, Problem> {
    let draft = app.store.draft(person.workspace_id, path.dialogue).await?;
    Ok(Json(DraftView::of(&app, &person, path.dialogue, draft).await?))
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

/// A changed draft, and the edits that undo the change.
#[derive(Serialize, JsonSchema)]
pub(crate) struct Edited {
    /// The draft.
    draft: DraftView,
    /// The edits that undo, in order.
    inverse: Vec<Edit>,
    /// Rows that a gesture made or moved, as `turn:ID` and the like; the first is the one to look at.
    rows: Vec<String>,
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
    let draft = DraftView::of(&app, &person, path.dialogue, changed.draft).await?;
    Ok(Json(Edited { draft, inverse: changed.inverse, rows: changed.rows, notes: changed.notes }))
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
    /// Ways through the outline's structure; absent where there are too many to count.
    ways: Option<f64>,
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
    let filled = app
        .store
        .field_counts(person.workspace_id, path.dialogue)
        .await?
        .into_iter()
        .map(|count| (count.field, count.filled))
        .collect();
    let list = app.store.dialogues(person.workspace_id).await?;
    let conversations = list.iter().find(|row| row.id == path.dialogue).map_or(0, |row| row.conversations);
    let (rows, ways) = ledger(&draft.body);
    Ok(Json(LedgerView { rows, ways, filled, conversations }))
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
    let plain = Phrases::plain(&draft.body.language);
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
    Ok(Json(rows))
}

pub(crate) async fn file(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<DialoguePath>,
) -> Result<Response, Problem> {
    let draft = app.store.draft(person.workspace_id, path.dialogue).await?;
    // The slug is made of small letters, digits and hyphens, so it needs no quoting.
    let name = format!("attachment; filename=\"{}.json\"", draft.slug);
    Ok((
        [(header::CONTENT_TYPE, "application/json".to_owned()), (header::CONTENT_DISPOSITION, name)],
        file::canonical(&draft.body),
    )
        .into_response())
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
    Ok(Json(
        app.store.queues(person.workspace_id).await?.into_iter().map(|(key, name)| QueueView { key, name }).collect(),
    ))
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
