//! What the audit names.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// Something that is kept in the audit: who did it, when, to what.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Audited {
    /// Signed in.
    SignedIn,
    /// Tried to sign in with a wrong password or code.
    SignInRefused,
    /// Changed the own password.
    PasswordChanged,
    /// Turned the second factor on or off.
    SecondFactorChanged,
    /// Linked the own account with a sign-in provider, or took the link back.
    ProviderLinked,
    /// Looked at a lead.
    LeadSeen,
    /// Read a conversation.
    ConversationSeen,
    /// Looked at a contact.
    ContactSeen,
    /// Changed a contact or a company by hand.
    RecordChanged,
    /// Erased what is held on a person.
    Erased,
    /// Took data out of Lumbo.
    Exported,
    /// Changed fields, e-mail domains, the workspace's name or zone.
    SettingsChanged,
    /// Made a secret, or took one out.
    SecretChanged,
    /// Released a dialogue or a placement, or put it on or off air.
    Released,
    /// Changed a queue, or who takes leads.
    QueueChanged,
    /// Invited somebody, or took an invitation back.
    Invited,
    /// Took an invitation up.
    Joined,
    /// Changed somebody's role.
    RoleChanged,
    /// Ended or restored somebody's access.
    AccessChanged,
    /// Shared out what somebody left.
    SharedOut,
    /// Entered leads, or took them out again.
    RecordsEntered,
    /// Had a job that was given up run again.
    JobRunAgain,
}

impl Audited {
    /// Everything there is, in the order in which it is offered as a filter.
    pub const ALL: [Self; 22] = [
        Self::SignedIn,
        Self::SignInRefused,
        Self::PasswordChanged,
        Self::SecondFactorChanged,
        Self::ProviderLinked,
        Self::LeadSeen,
        Self::ConversationSeen,
        Self::ContactSeen,
        Self::RecordChanged,
        Self::Erased,
        Self::Exported,
        Self::SettingsChanged,
        Self::SecretChanged,
        Self::Released,
        Self::QueueChanged,
        Self::Invited,
        Self::Joined,
        Self::RoleChanged,
        Self::AccessChanged,
        Self::SharedOut,
        Self::RecordsEntered,
        Self::JobRunAgain,
    ];

    /// Its name in the database and on the wire.
    #[must_use]
    pub fn as_str(self) -> &'static str {
        match self {
            Self::SignedIn => "signed_in",
            Self::SignInRefused => "sign_in_refused",
            Self::PasswordChanged => "password_changed",
            Self::SecondFactorChanged => "second_factor_changed",
            Self::ProviderLinked => "provider_linked",
            Self::LeadSeen => "lead_seen",
            Self::ConversationSeen => "conversation_seen",
            Self::ContactSeen => "contact_seen",
            Self::RecordChanged => "record_changed",
            Self::Erased => "erased",
            Self::Exported => "exported",
            Self::SettingsChanged => "settings_changed",
            Self::SecretChanged => "secret_changed",
            Self::Released => "released",
            Self::QueueChanged => "queue_changed",
            Self::Invited => "invited",
            Self::Joined => "joined",
            Self::RoleChanged => "role_changed",
            Self::AccessChanged => "access_changed",
            Self::SharedOut => "shared_out",
            Self::RecordsEntered => "records_entered",
            Self::JobRunAgain => "job_run_again",
        }
    }
}

#[cfg(test)]
#[allow(clippy::unwrap_used, reason = "tests")]
mod tests {
    use super::*;

    #[test]
    fn what_is_audited_has_one_name_everywhere() {
        for what in Audited::ALL {
            assert_eq!(serde_json::to_value(what).unwrap(), what.as_str());
        }
    }
}
