//! Loading a dialogue file, its canonical form, and its JSON Schema.

use serde::de::DeserializeOwned;
use serde_json::Value as Json;

use super::Dialogue;
use crate::turns;

/// Largest file, in bytes.
pub const SIZE_LIMIT: usize = 4 * 1024 * 1024;

/// A file that is not a dialogue.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum LoadError {
    /// Not JSON.
    #[error("this is not JSON: {0}")]
    NotJson(String),
    /// Too large.
    #[error("the file has {size} bytes; at most {SIZE_LIMIT} are read")]
    TooLarge {
        /// Its size, bytes.
        size: usize,
    },
    /// Another format.
    #[error("the format is “{found}”; this version reads “lumbo.dialogue/1”")]
    Format {
        /// What the file says.
        found: String,
    },
    /// A part that does not fit the format.
    #[error("{path}: {says}")]
    Shape {
        /// Where, as `sections[0].turns[2].field`.
        path: String,
        /// What is wrong.
        says: String,
    },
}

/// Reads a dialogue.
///
/// # Errors
/// What is not JSON, another format, an unknown or missing key, or a value of the wrong shape, each with its path.
pub fn load(text: &str) -> Result<Dialogue, LoadError> {
    if text.len() > SIZE_LIMIT {
        return Err(LoadError::TooLarge { size: text.len() });
    }
    let json: Json = serde_json::from_str(text).map_err(|error| LoadError::NotJson(error.to_string()))?;
    from_json(&json)
}

/// Reads a dialogue from parsed JSON.
///
/// # Errors
/// As [`load`].
pub fn from_json(json: &Json) -> Result<Dialogue, LoadError> {
    match json.get("format") {
        Some(Json::String(tag)) if tag != "lumbo.dialogue/1" => return Err(LoadError::Format { found: tag.clone() }),
        _ => {}
    }
    typed::<Dialogue>(json).map_err(|(path, says)| {
        let (path, says) = refine(json, path, says);
        LoadError::Shape { path, says }
    })
}

fn typed<T: DeserializeOwned>(json: &Json) -> Result<T, (String, String)> {
    serde_path_to_error::deserialize(json).map_err(|error| (error.path().to_string(), error.inner().to_string()))
}

/// Follows an error into a turn. Serde buffers tagged enums, so the path it reports stops at the turn; reading the
/// turn's own struct again gives the rest of the path, as often as turns nest.
fn refine(root: &Json, mut path: String, mut says: String) -> (String, String) {
    loop {
        let Some(Json::Object(object)) = at_path(root, &path) else { return (path, says) };
        let mut object = object.clone();
        let Some(Json::String(kind)) = object.shift_remove("kind") else { return (path, says) };
        let Some((inner, inner_says)) = turn_error(&kind, &Json::Object(object)) else { return (path, says) };
        says = inner_says;
        if inner == "." {
            return (path, says);
        }
        path = format!("{path}.{inner}");
    }
}

fn turn_error(kind: &str, json: &Json) -> Option<(String, String)> {
    match kind {
        "tell" => typed::<turns::Tell>(json).err(),
        "ask" => typed::<turns::Ask>(json).err(),
        "ask_together" => typed::<turns::AskTogether>(json).err(),
        "open_ask" => typed::<turns::OpenAsk>(json).err(),
        "fork" => typed::<turns::Fork>(json).err(),
        "work_out" => typed::<turns::WorkOut>(json).err(),
        "read_back" => typed::<turns::ReadBack>(json).err(),
        "take_questions" => typed::<turns::TakeQuestions>(json).err(),
        "consult" => typed::<turns::Consult>(json).err(),
        "offer_times" => typed::<turns::OfferTimes>(json).err(),
        "file_lead" => typed::<turns::FileLead>(json).err(),
        "bring_in_rep" => typed::<turns::BringInRep>(json).err(),
        "visit" => typed::<turns::Visit>(json).err(),
        "close" => typed::<turns::Close>(json).err(),
        _ => None,
    }
}

/// The part of `root` at a path as serde reports it.
fn at_path<'a>(root: &'a Json, path: &str) -> Option<&'a Json> {
    let mut here = root;
    for step in path.split(['.', '[', ']']).filter(|step| !step.is_empty()) {
        here = match here {
            Json::Array(items) => items.get(step.parse::<usize>().ok()?)?,
            _ => here.get(step)?,
        };
    }
    Some(here)
}

/// The canonical form: two-space JSON in the order of the format, with a line ending at the end. Byte-stable.
#[must_use]
pub fn canonical(dialogue: &Dialogue) -> String {
    // A dialogue has only string keys and no floats, so writing it cannot fail.
    let mut text = serde_json::to_string_pretty(dialogue).unwrap_or_default();
    text.push('\n');
    text
}

/// The JSON Schema (2020-12) of the file.
#[must_use]
pub fn schema() -> Json {
    let schema = schemars::schema_for!(Dialogue);
    let mut json = schema.to_value();
    json["title"] = Json::from("lumbo.dialogue/1");
    json
}
