//! What can happen in a conversation.

use std::collections::BTreeMap;

use jiff::Timestamp;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use super::Context;
use crate::field::domains::DomainLists;
use crate::file::FieldType;

/// Longest reply taken at all, in bytes; reading has its own, lower limit and says so to the prospect.
pub const REPLY_INPUT_LIMIT: usize = 65_536;

/// One input. A repeated id gives the first result again; another sequence number than expected is refused.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Input {
    /// Chosen by the sender, unique in the conversation; 1 to 64 characters.
    pub id: String,
    /// How many inputs the sender has seen acknowledged.
    pub expects: u32,
    /// What happened.
    pub body: InputBody,
}

/// What happened.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(tag = "kind", rename_all = "snake_case")]
pub enum InputBody {
    /// The conversation begins.
    Start,
    /// A typed reply.
    Reply {
        /// As typed.
        text: String,
    },
    /// An option was tapped.
    Pick {
        /// Its key.
        option: String,
    },
    /// Several options were tapped.
    PickSeveral {
        /// Their keys.
        options: Vec<String>,
    },
    /// The skip was tapped.
    Skip,
    /// A form was sent: what was written or chosen, by field key.
    Form {
        /// Texts, or option keys.
        values: BTreeMap<String, String>,
    },
    /// An earlier answer is changed.
    Revise {
        /// The turn whose answer it is.
        turn: String,
        /// As typed, or an option's key where `picked`.
        text: String,
        /// True where `text` is an option's key.
        #[serde(default)]
        picked: bool,
    },
    /// One question back.
    Back,
    /// Time has passed in silence.
    Tick {
        /// Seconds since the last input.
        seconds: u32,
    },
}

/// Most fields of one form, and longest text of one of them in bytes.
pub const FORM_LIMIT: (usize, usize) = (50, 16_384);

/// A value known from a signed-in visitor or a channel.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Prefill {
    /// The field it is for.
    pub to: PrefillTo,
    /// As they would type it.
    pub text: String,
}

/// The field that a known value is for.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum PrefillTo {
    /// The field with this key.
    Key(String),
    /// The first field of this type.
    Type(FieldType),
}

/// Time and chance, handed in by the shell.
#[derive(Debug, Clone, Copy)]
pub struct Env<'a> {
    /// Now.
    pub now: Timestamp,
    /// Picks among other wordings; the same seed picks the same.
    pub seed: u64,
    /// What is known without asking; read at the start only.
    pub context: &'a Context,
    /// Values known from a signed-in visitor or a channel, as they would type them; read at the start only.
    pub known: &'a [Prefill],
    /// The workspace's own e-mail domains.
    pub domains: &'a DomainLists,
}
