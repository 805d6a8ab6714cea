//! What a firm is to us.

use lumbo_route::NoTurn;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// What a firm is to us: set by hand, or from a file.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Hash, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Standing {
    /// Nothing is said of it.
    #[default]
    None,
    /// It buys from us.
    Customer,
    /// It sells with us, or for us.
    Partner,
    /// It sells against us.
    Competitor,
    /// It asked to be left alone, or is to be.
    DoNotContact,
}

impl Standing {
    /// Every standing, in the order in which they are offered.
    pub const ALL: [Self; 5] = [Self::None, Self::Customer, Self::Partner, Self::Competitor, Self::DoNotContact];

    /// Its name in files, tables and documents.
    #[must_use]
    pub fn as_str(self) -> &'static str {
        match self {
            Self::None => "none",
            Self::Customer => "customer",
            Self::Partner => "partner",
            Self::Competitor => "competitor",
            Self::DoNotContact => "do_not_contact",
        }
    }

    /// The standing of a name.
    #[must_use]
    pub fn parse(name: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|standing| standing.as_str() == name)
    }

    /// Why leads of such a firm take no turn of a rotation; nothing where they do.
    #[must_use]
    pub fn no_turn(self) -> Option<NoTurn> {
        match self {
            Self::None | Self::Customer | Self::Partner => None,
            Self::Competitor => Some(NoTurn::Competitor),
            Self::DoNotContact => Some(NoTurn::DoNotContact),
        }
    }
}
