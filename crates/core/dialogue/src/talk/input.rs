//! What can happen in a conversation.

use std::collections::BTreeMap;

use jiff::Timestamp;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use super::Context;
use crate::file::FieldType;
use lumbo_reading::domains::DomainLists;

/// Longest reply taken at all, in bytes; reading has its own, lower limit and says so to the prospect.
pub const REPLY_INPUT_LIMIT: usize = 65_536;

/// One input, by a prospect or by the system. A repeated id gives the first result again; another sequence number than
/// expected is refused.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Input {
    /// Chosen by the sender, unique in the conversation: see [`ProspectMessage`] and [`Input::system`].
    pub id: String,
    /// How many inputs the sender has seen acknowledged.
    pub expects: u32,
    /// What happened.
    pub body: InputBody,
}

/// What happened: what a prospect does, or what only the system can say. The two cross no common wire type, so that a
/// prospect cannot write a system's input.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum InputBody {
    /// Sent by a prospect's page.
    Prospect(ProspectInput),
    /// Sent by a worker, or by a person of the workspace.
    System(SystemInput),
}

/// Stands in every id of a system's input and in none of a prospect's.
const SYSTEM_MARK: char = ':';

impl Input {
    /// An input of the system: what sends it, and which of its kind in this conversation.
    #[must_use]
    pub fn system(sender: &str, number: u32, expects: u32, body: SystemInput) -> Self {
        Self { id: format!("{sender}{SYSTEM_MARK}{number}"), expects, body: InputBody::System(body) }
    }

    /// True where the id is one that this sender may use: 1 to 64 letters, digits, dots, hyphens and underscores for a
    /// prospect; with a colon among them for the system.
    #[must_use]
    pub fn has_good_id(&self) -> bool {
        let plain = |byte: u8| byte.is_ascii_alphanumeric() || matches!(byte, b'-' | b'_' | b'.');
        let (id, mark) = (&self.id, SYSTEM_MARK as u8);
        let system = matches!(self.body, InputBody::System(_));
        (1..=64).contains(&id.len())
            && id.bytes().all(|byte| plain(byte) || system && byte == mark)
            && system == id.bytes().any(|byte| byte == mark)
    }
}

/// An input as a prospect's page sends it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct ProspectMessage {
    /// Chosen by the page, unique in the conversation: 1 to 64 letters, digits, dots, hyphens and underscores.
    pub id: String,
    /// How many inputs the page has seen acknowledged.
    pub expects: u32,
    /// What the prospect did.
    pub body: ProspectInput,
}

impl From<ProspectMessage> for Input {
    fn from(message: ProspectMessage) -> Self {
        Self { id: message.id, expects: message.expects, body: InputBody::Prospect(message.body) }
    }
}

/// What a prospect does.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
pub enum ProspectInput {
    /// Begins the conversation.
    Start {},
    /// Types a reply.
    Reply {
        /// As typed.
        text: String,
    },
    /// Taps an option.
    Pick {
        /// Its key.
        option: String,
    },
    /// Taps several options.
    PickSeveral {
        /// Their keys.
        options: Vec<String>,
    },
    /// Taps the skip.
    Skip {},
    /// Sends a form: what was written or chosen, by field key.
    Form {
        /// Texts, or option keys.
        values: BTreeMap<String, String>,
    },
    /// Changes an earlier answer.
    Revise {
        /// The turn whose answer it is.
        turn: String,
        /// As typed, or an option's key where `picked`.
        text: String,
        /// True where `text` is an option's key.
        #[serde(default)]
        picked: bool,
    },
    /// Goes one question back.
    Back {},
    /// The page has heard nothing for a while: are they still there? Only asks; the server's clock decides whether it
    /// is time, and nothing ends by it.
    Nudge {},
    /// Leaves: the conversation ends as unfinished, and its token opens nothing any more.
    Leave {},
}

/// What only the system can say.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum SystemInput {
    /// Time has passed in silence; the engine ends the conversation where it was long enough.
    Silence,
    /// Time has passed in silence; what was said becomes a lead marked unfinished where it was long enough.
    Unfinished,
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
