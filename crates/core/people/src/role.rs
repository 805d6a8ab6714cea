//! Roles, and what each may do: the one table of rights.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// What a person is in a workspace.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Role {
    /// Writes dialogues, reads leads.
    Author,
    /// Works own and queue's leads.
    Rep,
    /// Works all leads.
    RepLead,
    /// Everything.
    Administrator,
    /// Reads every lead, changes nothing.
    Viewer,
}

/// What a route lets somebody do.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Action {
    /// Look after oneself: profile, password, sessions. Anybody who is signed in.
    BeSignedIn,
    /// Read and change dialogues, fields, queues, settings.
    WriteDialogues,
    /// Read leads of one's own and of one's queues.
    ReadLeads,
    /// Read every lead of the workspace.
    ReadAllLeads,
    /// Say what became of leads.
    WorkLeads,
    /// See the team's load and pace, pause people, share out what they leave.
    LeadTeam,
    /// Invite people, change their roles, end their access.
    ManagePeople,
    /// See where leads are sent and how that goes.
    WatchSending,
    /// Make, see and take out secrets.
    HandleSecrets,
    /// Read who did what.
    ReadAudit,
    /// Take out, and erase, what is held on a person; say how long things are kept.
    KeepData,
}

impl Role {
    /// Every role, in the order in which they are offered.
    pub const ALL: [Self; 5] = [Self::Administrator, Self::Author, Self::RepLead, Self::Rep, Self::Viewer];

    /// Its name in the database and on the wire.
    #[must_use]
    pub fn as_str(self) -> &'static str {
        match self {
            Self::Author => "author",
            Self::Rep => "rep",
            Self::RepLead => "rep_lead",
            Self::Administrator => "administrator",
            Self::Viewer => "viewer",
        }
    }

    /// The role of a name; nothing where there is none of that name.
    #[must_use]
    pub fn parse(text: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|role| role.as_str() == text)
    }

    /// Its name as people read it, within a sentence.
    #[must_use]
    pub fn in_words(self) -> &'static str {
        match self {
            Self::Author => "author",
            Self::Rep => "rep",
            Self::RepLead => "sales lead",
            Self::Administrator => "administrator",
            Self::Viewer => "viewer",
        }
    }

    /// True where the role may do it. Each line is an action, so that a new one has to be decided for every role.
    #[must_use]
    pub fn may(self, action: Action) -> bool {
        use Role::{Administrator, Author, Rep, RepLead, Viewer};
        match action {
            Action::BeSignedIn | Action::ReadLeads => true,
            Action::WriteDialogues | Action::WatchSending => matches!(self, Author | Administrator),
            Action::ReadAllLeads => matches!(self, Author | RepLead | Administrator | Viewer),
            Action::WorkLeads => matches!(self, Rep | RepLead | Administrator),
            Action::LeadTeam => matches!(self, RepLead | Administrator),
            Action::ManagePeople | Action::HandleSecrets | Action::ReadAudit | Action::KeepData => {
                matches!(self, Administrator)
            }
        }
    }
}

impl Action {
    /// What somebody is told whose role does not allow it.
    #[must_use]
    pub fn refused(self) -> &'static str {
        match self {
            Self::BeSignedIn => "Sign in first.",
            Self::WriteDialogues => "Dialogues are written by authors. Ask an administrator for that role.",
            Self::ReadLeads | Self::ReadAllLeads => "Your role does not show you these leads.",
            Self::WorkLeads => "Only reps and sales leads say what became of a lead.",
            Self::LeadTeam => "Only sales leads and administrators look after the team.",
            Self::ManagePeople => "Only administrators look after people and the workspace.",
            Self::WatchSending => "Where leads are sent is seen by authors and administrators.",
            Self::HandleSecrets => "Only administrators handle secrets.",
            Self::ReadAudit => "Only administrators read who did what.",
            Self::KeepData => "Only administrators take out or erase what is held on a person.",
        }
    }
}

#[cfg(test)]
#[allow(clippy::unwrap_used, reason = "tests")]
mod tests {
    use super::*;

    #[test]
    fn a_role_goes_by_its_name() {
        for role in Role::ALL {
            assert_eq!(Role::parse(role.as_str()), Some(role));
            assert_eq!(serde_json::to_value(role).unwrap(), role.as_str(), "one name on the wire and in the database");
        }
        assert_eq!(Role::parse("owner"), None);
    }

    #[test]
    fn a_viewer_changes_nothing_and_an_administrator_may_do_everything() {
        let all = [
            Action::BeSignedIn,
            Action::WriteDialogues,
            Action::ReadLeads,
            Action::ReadAllLeads,
            Action::WorkLeads,
            Action::LeadTeam,
            Action::ManagePeople,
            Action::WatchSending,
            Action::HandleSecrets,
            Action::ReadAudit,
            Action::KeepData,
        ];
        let may = |role: Role| all.into_iter().filter(|action| role.may(*action)).collect::<Vec<_>>();
        assert_eq!(may(Role::Administrator), all);
        assert_eq!(may(Role::Viewer), [Action::BeSignedIn, Action::ReadLeads, Action::ReadAllLeads]);
        assert_eq!(may(Role::Rep), [Action::BeSignedIn, Action::ReadLeads, Action::WorkLeads]);
    }
}
