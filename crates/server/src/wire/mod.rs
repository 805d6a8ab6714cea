//! What crosses between server and browser, one file per area. What the core says of a dialogue (a row, a finding, a
//! score) crosses as it is: those types are the format. What the store keeps in tables has a type here, so that neither
//! a column nor a name of the store can change what a browser reads.

pub(crate) mod answers;
pub(crate) mod destinations;
pub(crate) mod dialogues;
pub(crate) mod drafts;
pub(crate) mod leads;
pub(crate) mod mails;
pub(crate) mod people;
pub(crate) mod placements;
pub(crate) mod queues;
pub(crate) mod records;
pub(crate) mod releases;
pub(crate) mod requests;
pub(crate) mod running;
pub(crate) mod settings;
pub(crate) mod together;
