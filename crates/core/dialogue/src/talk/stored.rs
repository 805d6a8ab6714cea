//! Events and states as they are kept. What is stored can be read for ever: each document carries the version that
//! wrote it as `v`, a document without one is of version 1, and an older one is brought up to date before it is read.
//! One that a newer version wrote is told apart, so that an older server leaves the conversation alone.
//!
//! To change what an event or a state holds: raise [`EVENT_VERSION`], add a step to [`upcast_event`] or
//! [`upcast_state`], and keep a corpus of the version before under `tests/data/stored`.

use serde::de::DeserializeOwned;
use serde::{Deserialize, Serialize};
use serde_json::Value as Json;

use super::{Event, State};

/// The version that this code writes. Version 2 tells inputs that the prospect did not make (`unheard`); version 3
/// keeps the steps of routing as data, and reads those that were kept as sentences; version 4 knows leads that were
/// left unfinished, and what was erased; version 5 knows tables of territories that routing is to look at; version 6
/// knows leads that are filed early, and tags that arms set.
pub const EVENT_VERSION: u64 = 6;

/// Why something kept cannot be read.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum Unreadable {
    /// A newer version wrote it.
    #[error("it was written by a newer version of Lumbo ({found}; this one reads up to {EVENT_VERSION})")]
    Newer {
        /// The version it carries.
        found: u64,
    },
    /// It is not what it should be.
    #[error("it cannot be read: {0}")]
    Broken(String),
}

#[derive(Serialize)]
struct Kept<'a, T> {
    v: u64,
    #[serde(flatten)]
    body: &'a T,
}

/// An event as it is kept.
///
/// # Errors
/// [`Unreadable::Broken`] where it cannot be written as JSON; no event of the engine is such.
pub fn keep_event(event: &Event) -> Result<Json, Unreadable> {
    serde_json::to_value(Kept { v: EVENT_VERSION, body: event }).map_err(broken)
}

/// A state as it is kept, as JSON text.
///
/// # Errors
/// [`Unreadable::Broken`] where it cannot be written as JSON; no state of the engine is such.
pub fn keep_state(state: &State) -> Result<String, Unreadable> {
    serde_json::to_string(&Kept { v: EVENT_VERSION, body: state }).map_err(broken)
}

/// Reads an event of any version.
///
/// # Errors
/// [`Unreadable`].
pub fn read_event(text: &str) -> Result<Event, Unreadable> {
    read(text, upcast_event)
}

/// Reads a state of any version.
///
/// # Errors
/// [`Unreadable`].
pub fn read_state(text: &str) -> Result<State, Unreadable> {
    read(text, upcast_state)
}

fn broken(error: impl std::fmt::Display) -> Unreadable {
    Unreadable::Broken(error.to_string())
}

#[derive(Deserialize)]
struct Version {
    #[serde(default = "first")]
    v: u64,
}

fn first() -> u64 {
    1
}

fn read<T: DeserializeOwned>(text: &str, upcast: fn(u64, &mut Json)) -> Result<T, Unreadable> {
    let Version { v } = serde_json::from_str(text).map_err(broken)?;
    match v {
        EVENT_VERSION => serde_json::from_str(text).map_err(broken),
        0..EVENT_VERSION => {
            let mut body: Json = serde_json::from_str(text).map_err(broken)?;
            (v..EVENT_VERSION).for_each(|from| upcast(from, &mut body));
            serde_json::from_value(body).map_err(broken)
        }
        found => Err(Unreadable::Newer { found }),
    }
}

/// Brings an event from one version to the next.
fn upcast_event(from: u64, body: &mut Json) {
    // In version 1 the worker that ended silent conversations named its inputs so; a prospect could, too, which did no
    // more than this does.
    if from == 1
        && body["event"] == "taken"
        && body["input"]
            .as_str()
            .is_some_and(|id| id.strip_prefix("silence-").is_some_and(|number| number.parse::<u32>().is_ok()))
    {
        body["unheard"] = true.into();
    }
}

/// Brings a state from one version to the next. Version 1 did not keep when the prospect was last heard; the store
/// knows.
fn upcast_state(_from: u64, _body: &mut Json) {}
