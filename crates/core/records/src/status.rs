//! What can become of a lead.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// Where a lead stands. Unfinished, doubtful and test are marks, not statuses.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum LeadStatus {
    /// Nobody has tried yet.
    New,
    /// Called or written, not reached yet.
    Trying,
    /// Spoken to.
    Spoken,
    /// A meeting is booked.
    Booked,
    /// Sales takes it as theirs.
    Accepted,
    /// Won, with an amount where there is one.
    Won,
    /// Lost, with a reason.
    Lost,
    /// Not a fit, with a reason.
    NotAFit,
    /// All tries are used up.
    NotReached,
    /// To be called again on a date.
    Later,
    /// No lead: no person, a duplicate, the wrong territory, or for another reason.
    Junk,
}

impl LeadStatus {
    /// True where somebody was reached to get there.
    #[must_use]
    pub fn was_reached(self) -> bool {
        matches!(self, Self::Spoken | Self::Booked | Self::Accepted | Self::Won | Self::Lost)
    }

    /// True where somebody was tried, at least, to get there.
    #[must_use]
    pub fn was_tried(self) -> bool {
        self.was_reached() || matches!(self, Self::Trying | Self::NotReached)
    }

    /// Every status, in the order in which they follow one another.
    pub const ALL: [Self; 11] = [
        Self::New,
        Self::Trying,
        Self::Spoken,
        Self::Booked,
        Self::Accepted,
        Self::Later,
        Self::Won,
        Self::Lost,
        Self::NotAFit,
        Self::NotReached,
        Self::Junk,
    ];

    /// Its name in files, tables and documents.
    #[must_use]
    pub fn as_str(self) -> &'static str {
        match self {
            Self::New => "new",
            Self::Trying => "trying",
            Self::Spoken => "spoken",
            Self::Booked => "booked",
            Self::Accepted => "accepted",
            Self::Won => "won",
            Self::Lost => "lost",
            Self::NotAFit => "not_a_fit",
            Self::NotReached => "not_reached",
            Self::Later => "later",
            Self::Junk => "junk",
        }
    }

    /// The status of a name.
    #[must_use]
    pub fn parse(name: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|status| status.as_str() == name)
    }

    /// True while somebody still works it.
    #[must_use]
    pub fn is_open(self) -> bool {
        match self {
            Self::New | Self::Trying | Self::Spoken | Self::Booked | Self::Accepted | Self::Later => true,
            Self::Won | Self::Lost | Self::NotAFit | Self::NotReached | Self::Junk => false,
        }
    }

    /// True where a reason is kept with it.
    #[must_use]
    pub fn takes_reason(self) -> bool {
        matches!(self, Self::Lost | Self::NotAFit | Self::Junk)
    }

    /// True where it cannot be said without a reason.
    #[must_use]
    pub fn needs_reason(self) -> bool {
        matches!(self, Self::Lost | Self::Junk)
    }
}
