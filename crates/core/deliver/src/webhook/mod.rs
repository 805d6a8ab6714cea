//! Webhooks: what happened ([`Event`]), as signed JSON ([`signing`]) by the Standard Webhooks specification.

mod payload;
pub mod signing;

pub use payload::{Came, Event, EventKind, LeadData, Owner, Said, Score, chat_text};
