//! What a token for programs may be used for.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use crate::Action;

/// Something that a token may be used for. A token never does more than the person may who made it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Scope {
    /// Read leads, contacts, companies and what conversations said.
    ReadLeads,
    /// Enter leads and say what became of them; with reading them.
    WorkLeads,
    /// Read dialogues, fields, releases and settings.
    ReadDialogues,
    /// Change and release dialogues; with reading them.
    WriteDialogues,
    /// Read who did what.
    ReadAudit,
    /// Take out, and erase, what is held on a person.
    KeepData,
}

/// Longest life of a token, days.
pub const LONGEST_DAYS: u16 = 366;

impl Scope {
    /// Every scope, in the order in which they are offered.
    pub const ALL: [Self; 6] =
        [Self::ReadLeads, Self::WorkLeads, Self::ReadDialogues, Self::WriteDialogues, Self::ReadAudit, Self::KeepData];

    /// Its name in the database and on the wire.
    #[must_use]
    pub fn as_str(self) -> &'static str {
        match self {
            Self::ReadLeads => "read_leads",
            Self::WorkLeads => "work_leads",
            Self::ReadDialogues => "read_dialogues",
            Self::WriteDialogues => "write_dialogues",
            Self::ReadAudit => "read_audit",
            Self::KeepData => "keep_data",
        }
    }

    /// The scope of a name; nothing where there is none of that name.
    #[must_use]
    pub fn parse(text: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|scope| scope.as_str() == text)
    }

    /// True where a token of this scope may do it; `reads` says that the request changes nothing. Looking after
    /// oneself, people and secrets stays with people.
    ///
    /// ```
    /// use lumbo_people::{Action, Scope};
    /// assert!(Scope::ReadLeads.allows(Action::ReadAllLeads, true));
    /// assert!(!Scope::ReadLeads.allows(Action::ReadLeads, false), "reading changes nothing");
    /// assert!(!Scope::ALL.iter().any(|scope| scope.allows(Action::HandleSecrets, true)));
    /// ```
    #[must_use]
    pub fn allows(self, action: Action, reads: bool) -> bool {
        match action {
            Action::ReadLeads | Action::ReadAllLeads => self == Self::WorkLeads || self == Self::ReadLeads && reads,
            Action::WorkLeads => self == Self::WorkLeads,
            Action::WriteDialogues => self == Self::WriteDialogues || self == Self::ReadDialogues && reads,
            Action::ReadAudit => self == Self::ReadAudit && reads,
            Action::KeepData => self == Self::KeepData,
            Action::BeSignedIn
            | Action::LeadTeam
            | Action::ManagePeople
            | Action::WatchSending
            | Action::HandleSecrets => false,
        }
    }
}

#[cfg(test)]
#[allow(clippy::unwrap_used, reason = "tests")]
mod tests {
    use super::*;

    #[test]
    fn a_scope_goes_by_its_name() {
        for scope in Scope::ALL {
            assert_eq!(Scope::parse(scope.as_str()), Some(scope));
            assert_eq!(serde_json::to_value(scope).unwrap(), scope.as_str());
        }
        assert_eq!(Scope::parse("everything"), None);
    }

    #[test]
    fn every_scope_allows_something_and_none_allows_what_stays_with_people() {
        let shared = [
            Action::ReadLeads,
            Action::ReadAllLeads,
            Action::WorkLeads,
            Action::WriteDialogues,
            Action::ReadAudit,
            Action::KeepData,
        ];
        let own =
            [Action::BeSignedIn, Action::LeadTeam, Action::ManagePeople, Action::WatchSending, Action::HandleSecrets];
        for scope in Scope::ALL {
            assert!(shared.into_iter().any(|action| scope.allows(action, true)), "{scope:?}");
            for action in own {
                assert!(!scope.allows(action, true) && !scope.allows(action, false), "{scope:?} {action:?}");
            }
        }
        for scope in [Scope::ReadLeads, Scope::ReadDialogues, Scope::ReadAudit] {
            assert!(!shared.into_iter().any(|action| scope.allows(action, false)), "{scope:?} changes nothing");
        }
    }
}
