//! What must follow a step outside the conversation. The engine only says so; the shell writes it down in the
//! transaction that keeps the events, and workers do it afterwards.
//!
//! A kind of turn that waits for the outside adds its variant here, and the input that brings the answer back to
//! [`SystemInput`](super::SystemInput).

use jiff::{SignedDuration, Timestamp};

use crate::score::ScoreResult;
use lumbo_route::Decision;

/// One thing that must follow.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Effect {
    /// The lead is filed, or filed again: company, contact, lead and owner.
    File {
        /// Which filing of this conversation, from 1.
        filing: u32,
        /// The score; absent where the dialogue has no scorecard.
        score: Option<Box<ScoreResult>>,
        /// Which queue, and why.
        decision: Decision,
        /// True where they left before the end, and the dialogue did not come to its File lead.
        unfinished: bool,
        /// True where more may be told: its owner is chosen later.
        early: bool,
    },
    /// The lead that was filed is tagged with these words, by how it ended.
    Tag {
        /// The words.
        tags: Vec<String>,
    },
    /// It ended as what leaves a request behind for somebody.
    Request {
        /// The outcome's id.
        outcome: String,
    },
    /// A timer is set for the conversation; one that runs already stays.
    Wake {
        /// What it is for.
        timer: Timer,
        /// When it is due.
        at: Timestamp,
    },
}

/// What a timer of a conversation is for.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Timer {
    /// Silence past the author's limit ends the conversation. What was said meanwhile is looked at when it is due, so
    /// that an answer need not move it.
    Silence,
    /// Silence makes what was said a lead marked unfinished; looked at when it is due, as [`Self::Silence`].
    Unfinished,
    /// The owner of a lead that was filed early is chosen; looked at when it is due, as [`Self::Silence`]. One that is
    /// due at once is moved there, for the conversation has ended.
    Owner,
}

/// Silence after which the owner of a lead that was filed early is chosen.
const CHOSEN_AFTER: SignedDuration = SignedDuration::from_mins(5);

/// When the owner of a lead that was filed early is chosen, by when the prospect was last heard.
#[must_use]
pub fn owner_limit(heard_at: Timestamp) -> Timestamp {
    heard_at.checked_add(CHOSEN_AFTER).unwrap_or(Timestamp::MAX)
}
