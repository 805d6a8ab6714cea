//! What is said: words with other wordings, pictures, documents, links.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use lumbo_value::Text;

/// Something said: the text and, if wanted, other wordings of which one is picked.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Wording {
    /// The text.
    pub text: Text,
    /// Other wordings.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub or: Vec<Text>,
}

/// A part of what a Tell says.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Part {
    /// A line.
    Line(Wording),
    /// A picture.
    Picture(Picture),
    /// A document to open.
    Document(Document),
    /// A button with a link.
    Link(Link),
    /// Several pictures, documents and links side by side.
    Beside(Vec<Part>),
}

/// A picture.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Picture {
    /// Hash of its content.
    pub media: String,
    /// What it shows, for those who cannot see it.
    pub alt: Text,
}

/// A document.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Document {
    /// Hash of its content.
    pub media: String,
    /// What it is called.
    pub label: Text,
}

/// A link.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Link {
    /// What the button says.
    pub label: Text,
    /// An http or https address.
    pub url: String,
}
