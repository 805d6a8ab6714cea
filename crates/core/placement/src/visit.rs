//! What is known of a page visit.

use jiff::Timestamp;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use crate::address::Address;

/// A kind of device.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Device {
    /// A phone.
    Phone,
    /// A tablet.
    Tablet,
    /// A computer.
    #[serde(alias = "desktop")]
    Computer,
}

impl Device {
    /// Its name in a sentence.
    #[must_use]
    pub const fn name(self) -> &'static str {
        match self {
            Self::Phone => "phone",
            Self::Tablet => "tablet",
            Self::Computer => "computer",
        }
    }
}

/// A page visit.
#[derive(Debug, Clone)]
pub struct Visit {
    /// The page.
    pub address: Address,
    /// The kind of device; nothing where it is not known.
    pub device: Option<Device>,
    /// Language of the browser, such as `de-AT`, or several as in `Accept-Language`.
    pub language: Option<String>,
    /// ISO 3166-1 alpha-2; a hint.
    pub country: Option<String>,
    /// True where the visitor was here before, as far as consent lets one know.
    pub returning: bool,
    /// True where the site says that the visitor is signed in.
    pub signed_in: bool,
    /// Days since the visitor filed; nothing where they have not, or it is not known.
    pub filed_days_ago: Option<u32>,
    /// A random id of the visitor's, kept with consent; shares need one.
    pub visitor: Option<String>,
    /// When.
    pub at: Timestamp,
}
