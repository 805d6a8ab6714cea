//! Handlers, one file per area.

pub(crate) mod answers;
pub(crate) mod audit;
pub(crate) mod catalogue;
pub(crate) mod destinations;
pub(crate) mod dialogues;
pub(crate) mod drafts;
pub(crate) mod embed;
pub(crate) mod entering;
pub(crate) mod faces;
pub(crate) mod finding;
pub(crate) mod held_back;
pub(crate) mod joining;
pub(crate) mod leads;
pub(crate) mod mails;
pub(crate) mod mapping;
pub(crate) mod media;
pub(crate) mod notices;
pub(crate) mod people;
pub(crate) mod placements;
pub(crate) mod profile;
pub(crate) mod prospects;
pub(crate) mod provider;
pub(crate) mod record_files;
pub(crate) mod records;
pub(crate) mod rehearsals;
pub(crate) mod releases;
pub(crate) mod requests;
pub(crate) mod routing;
pub(crate) mod running;
pub(crate) mod scoring;
pub(crate) mod session;
pub(crate) mod settings;
pub(crate) mod tasks;
pub(crate) mod team;
pub(crate) mod territories;
pub(crate) mod together;
pub(crate) mod tokens;

pub(crate) use settings::visitor_purpose;

/// The code that guards setting up, and its SHA-256.
pub(crate) use joining::setup_code;

/// The dialogue that an address names.
#[derive(Debug, serde::Deserialize, schemars::JsonSchema)]
pub(crate) struct DialoguePath {
    /// Its id.
    pub dialogue: uuid::Uuid,
}
