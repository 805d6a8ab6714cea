//! Dialogues: the list, making one, and the catalogues that making one needs.

use std::collections::BTreeMap;

use aide::axum::ApiRouter;
use aide::axum::routing::{get_with, post_with};
use axum::Json;
use axum::extract::State;
use lumbo_catalogue::{AdoptError, Newcomer, adopt, newcomers, patterns};
use lumbo_dialogue::Plan;
use lumbo_dialogue::file::{self, Dialogue, Field};
use lumbo_language::LANGUAGES;
use lumbo_outline::from_brief::{NewDialogue as FromBrief, from_brief};
use lumbo_store::Person;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

use crate::api::named;
use crate::body::Body;
use crate::signed::Writer;
use crate::wire::dialogues::DialogueRow;
use crate::{App, Problem};

/// The name of this area in the document.
const TAG: &str = "Dialogues";

/// Dialogues, and what making one needs.
pub(crate) fn api() -> ApiRouter<App> {
    ApiRouter::new()
        .api_route(
            "/api/dialogues",
            get_with(list, named(TAG, "dialogues", "The workspace’s dialogues"))
                .post_with(create, named(TAG, "createDialogue", "Make a dialogue")),
        )
        .api_route(
            "/api/dialogues/read",
            post_with(read, named(TAG, "readDialogueFile", "What a dialogue file or a pattern brings along")),
        )
        .api_route(
            "/api/patterns",
            get_with(list_patterns, named(TAG, "patterns", "Ready-made dialogues to begin from")),
        )
        .api_route("/api/queues", get_with(queues, named(TAG, "queues", "The workspace’s queues")))
}

pub(crate) async fn list(State(app): State<App>, Writer(person): Writer) -> Result<Json<Vec<DialogueRow>>, Problem> {
    Ok(Json(app.store.dialogues(person.workspace_id).await?.into_iter().map(Into::into).collect()))
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
    /// Which of the workspace's fields each field of the file or pattern is, by their ids: null for one of its own.
    /// What is not named is the workspace's where both have one id, or one key and the same options.
    #[serde(default)]
    #[schemars(length(max = 1000))]
    fields: BTreeMap<String, Option<String>>,
}

/// A dialogue to look into before it is made.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct LookInto {
    /// A dialogue file.
    #[serde(default)]
    file: Option<serde_json::Value>,
    /// A pattern, by its key.
    #[serde(default)]
    pattern: Option<String>,
}

/// What a dialogue file or a pattern brings along.
#[derive(Serialize, JsonSchema)]
pub(crate) struct LookedInto {
    /// Its title.
    title: String,
    /// Its language.
    language: String,
    /// How many turns it has.
    turns: usize,
    /// Its fields, with the workspace's that they seem to be.
    fields: Vec<Newcomer>,
    /// Queues that its rules name and the workspace does not have, by key.
    queues: Vec<String>,
    /// How many pictures and documents it names: they do not travel in the file.
    media: usize,
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

/// The dialogue of a file or a pattern.
fn brought(file: Option<&serde_json::Value>, pattern: Option<&str>) -> Result<Option<Dialogue>, Problem> {
    match (file, pattern) {
        (Some(json), _) => file::load::from_json(json)
            .map(Some)
            .map_err(|error| Problem::bad(format!("This is not a dialogue file: {error}"))),
        (None, Some(key)) => patterns::pattern(key).map(Some).ok_or_else(|| Problem::bad("There is no such pattern.")),
        (None, None) => Ok(None),
    }
}

pub(crate) async fn read(
    State(app): State<App>,
    Writer(person): Writer,
    Body(look): Body<LookInto>,
) -> Result<Json<LookedInto>, Problem> {
    let dialogue = brought(look.file.as_ref(), look.pattern.as_deref())?
        .ok_or_else(|| Problem::bad("Name a pattern, or give a dialogue file."))?;
    let known = app.store.queues(person.workspace_id).await?;
    let mut queues: Vec<String> = dialogue
        .routing
        .rules
        .iter()
        .map(|rule| &rule.queue)
        .chain(&dialogue.routing.otherwise)
        .filter(|queue| !queue.is_empty() && !known.iter().any(|(key, _)| key == *queue))
        .cloned()
        .collect();
    queues.sort();
    queues.dedup();
    let catalogue = app.store.fields(person.workspace_id).await?;
    let looked = move || {
        let mut turns = 0;
        dialogue.each_turn(&mut |_, _, _| turns += 1);
        LookedInto {
            fields: newcomers(&dialogue, &catalogue),
            turns,
            queues,
            media: dialogue.media.len(),
            title: dialogue.title,
            language: dialogue.language,
        }
    };
    Ok(Json(app.busy.work(looked).await?))
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
    let mut dialogue = match brought(new.file.as_ref(), new.pattern.as_deref())? {
        Some(mut dialogue) => {
            let catalogue = app.store.fields(person.workspace_id).await?;
            // A file keeps the queues that it names, and says where one is not there; a pattern has made them up.
            let queues: Option<Vec<String>> = match new.file {
                Some(_) => None,
                None => Some(app.store.queues(person.workspace_id).await?.into_iter().map(|(key, _)| key).collect()),
            };
            let taken_on = move || {
                adopt(&mut dialogue, &catalogue, &new.fields)?;
                if let Some(queues) = queues {
                    patterns::fit_workspace(&mut dialogue, &catalogue, &queues);
                }
                Ok(dialogue)
            };
            let refused = |error: AdoptError| Problem::bad(crate::problem::sentence(&error.to_string()));
            app.busy.work(taken_on).await?.map_err(refused)?
        }
        None => from_brief(brief(&app, &person, title, language, new.brief).await?),
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
