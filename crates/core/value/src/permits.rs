//! What a consent permits: for which purpose somebody may be reached, and in which ways.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// A way to reach somebody.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Channel {
    /// A call.
    Call,
    /// Mail.
    Mail,
    /// A text message.
    Text,
}

impl Channel {
    /// Every way.
    pub const ALL: [Self; 3] = [Self::Call, Self::Mail, Self::Text];

    /// Its name in the database.
    #[must_use]
    pub fn as_str(self) -> &'static str {
        match self {
            Self::Call => "call",
            Self::Mail => "mail",
            Self::Text => "text",
        }
    }

    /// The way of a name.
    #[must_use]
    pub fn parse(name: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|channel| channel.as_str() == name)
    }

    /// What it is called in a sentence.
    #[must_use]
    pub fn words(self) -> &'static str {
        match self {
            Self::Call => "calls",
            Self::Mail => "mail",
            Self::Text => "text messages",
        }
    }
}

/// What somebody may be reached for.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Purpose {
    /// The enquiry itself.
    #[default]
    Enquiry,
    /// News and offers that they did not ask for.
    Marketing,
}

impl Purpose {
    /// Every purpose.
    pub const ALL: [Self; 2] = [Self::Enquiry, Self::Marketing];

    /// Its name in the database and in files.
    #[must_use]
    pub fn as_str(self) -> &'static str {
        match self {
            Self::Enquiry => "enquiry",
            Self::Marketing => "marketing",
        }
    }

    /// The purpose of a name.
    #[must_use]
    pub fn parse(name: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|purpose| purpose.as_str() == name)
    }

    /// What it is called in a sentence.
    #[must_use]
    pub fn words(self) -> &'static str {
        match self {
            Self::Enquiry => "their enquiry",
            Self::Marketing => "marketing",
        }
    }
}

/// What a yes to a consent permits.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Permits {
    /// For what.
    pub purpose: Purpose,
    /// In which ways; at least one.
    pub channels: Vec<Channel>,
}

impl Default for Permits {
    /// The enquiry, in every way.
    fn default() -> Self {
        Self { purpose: Purpose::Enquiry, channels: Channel::ALL.to_vec() }
    }
}

impl Permits {
    /// As a cell of a table has it.
    ///
    /// ```
    /// use lumbo_value::permits::{Channel, Permits, Purpose};
    /// let permits = Permits { purpose: Purpose::Marketing, channels: vec![Channel::Mail, Channel::Text] };
    /// assert_eq!(permits.cell(), "marketing: mail text");
    /// assert_eq!(Permits::of_cell("Marketing: mail, text"), Some(permits));
    /// assert_eq!(Permits::of_cell("marketing: pigeons"), None);
    /// assert_eq!(Permits::of_cell("marketing:"), None);
    /// ```
    #[must_use]
    pub fn cell(&self) -> String {
        let channels: Vec<&str> = self.channels.iter().map(|channel| channel.as_str()).collect();
        format!("{}: {}", self.purpose.as_str(), channels.join(" "))
    }

    /// What a cell of a table says; nothing where it says no such thing.
    #[must_use]
    pub fn of_cell(cell: &str) -> Option<Self> {
        let cell = cell.to_lowercase();
        let (purpose, channels) = cell.split_once(':')?;
        let channels: Vec<Channel> = channels
            .split([' ', ','])
            .filter(|name| !name.is_empty())
            .map(Channel::parse)
            .collect::<Option<Vec<_>>>()?;
        (!channels.is_empty()).then_some(Self { purpose: Purpose::parse(purpose.trim())?, channels })
    }
}
