//! What can happen in a conversation.

use std::collections::BTreeMap;

use jiff::Timestamp;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

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

/// What is known without asking.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields, default)]
pub struct Context {
    /// Address of the page, without its query.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub page: Option<String>,
    /// Where the prospect came from.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub referrer: Option<String>,
    /// Campaign parameter.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub campaign: Option<String>,
    /// Language of the browser.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub language: Option<String>,
    /// `phone`, `tablet` or `computer`.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub device: Option<String>,
    /// ISO 3166-1 alpha-2.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub country: Option<String>,
    /// IANA time zone.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub time_zone: Option<String>,
    /// `yes` where the same browser was here before.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub returning: Option<String>,
}

impl Context {
    /// A part by its name in conditions, without the at sign.
    #[must_use]
    pub fn get(&self, name: &str) -> Option<&str> {
        match name {
            "page" => self.page.as_deref(),
            "referrer" => self.referrer.as_deref(),
            "campaign" => self.campaign.as_deref(),
            "language" => self.language.as_deref(),
            "device" => self.device.as_deref(),
            "country" => self.country.as_deref(),
            "time_zone" => self.time_zone.as_deref(),
            "returning" => self.returning.as_deref(),
            _ => None,
        }
    }

    /// Cuts every part to a length that is safe to keep, and drops control characters.
    #[must_use]
    pub fn bounded(self) -> Self {
        let cut = |part: Option<String>, limit: usize| {
            part.map(|text| text.chars().filter(|c| !c.is_control()).take(limit).collect::<String>()).filter(|text| !text.is_empty())
        };
        Self {
            page: cut(self.page, 500),
            referrer: cut(self.referrer, 500),
            campaign: cut(self.campaign, 200),
            language: cut(self.language, 20),
            device: cut(self.device, 20),
            country: cut(self.country, 2),
            time_zone: cut(self.time_zone, 60),
            returning: cut(self.returning, 3),
        }
    }
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
    /// Values known from a signed-in visitor or a channel, by field key, as they would type them; read at the start only.
    pub known: &'a [(String, String)],
}
