//! People as they cross.

use jiff::Timestamp;
use lumbo_store::Role;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

/// A person of the workspace.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct PersonRow {
    /// Id.
    pub(crate) id: Uuid,
    /// Name.
    pub(crate) name: String,
    /// Address.
    pub(crate) email: String,
    /// What they may do.
    pub(crate) role: Role,
    /// Whether they may sign in here.
    pub(crate) active: bool,
    /// When they were last here, to within five minutes, RFC 3339; absent where no session is left.
    #[schemars(with = "Option<String>")]
    pub(crate) seen_at: Option<Timestamp>,
    /// Whether a second factor is asked of them.
    pub(crate) second_factor: bool,
    /// Open leads that are theirs.
    pub(crate) open_leads: i64,
    /// Queues that they are in, by name.
    pub(crate) queues: Vec<String>,
    /// The team they belong to.
    pub(crate) team: Option<String>,
    /// The mark of their picture; nothing where they have none.
    pub(crate) picture: Option<String>,
}

impl From<lumbo_store::PlaceRow> for PersonRow {
    fn from(from: lumbo_store::PlaceRow) -> Self {
        let lumbo_store::PlaceRow {
            id,
            name,
            email,
            role,
            active,
            seen_at,
            second_factor,
            open_leads,
            queues,
            team,
            picture,
        } = from;
        Self { id, name, email, role, active, seen_at, second_factor, open_leads, queues, team, picture }
    }
}

/// An invitation that is open.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct InvitationRow {
    /// Id.
    pub(crate) id: Uuid,
    /// Address.
    pub(crate) email: String,
    /// What they will be.
    pub(crate) role: Role,
    /// Who invited them; absent where it came from the command line.
    pub(crate) made_by: Option<String>,
    /// When, RFC 3339.
    #[schemars(with = "String")]
    pub(crate) made_at: Timestamp,
    /// Until when the link counts, RFC 3339.
    #[schemars(with = "String")]
    pub(crate) expires_at: Timestamp,
}

impl From<lumbo_store::InvitationRow> for InvitationRow {
    fn from(from: lumbo_store::InvitationRow) -> Self {
        let lumbo_store::InvitationRow { id, email, role, made_by, made_at, expires_at } = from;
        Self { id, email, role, made_by, made_at, expires_at }
    }
}

/// What holds for the whole of a workspace.
#[derive(Debug, Clone, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct WorkspaceSettings {
    /// Counts changes; a change names the one it knows.
    pub(crate) revision: i64,
    /// Its name.
    pub(crate) name: String,
    /// IANA name of its zone.
    pub(crate) zone: String,
    /// The hour of their own day from which prospects are called, 0 to 23.
    #[serde(default = "eight")]
    pub(crate) calls_from: i32,
    /// The hour until which they are called, 1 to 24.
    #[serde(default = "seven_in_the_evening")]
    pub(crate) calls_until: i32,
    /// Mail domains of its own people: who answers a dialogue with such an address is testing.
    #[serde(default)]
    #[schemars(length(max = 50))]
    pub(crate) own_mail_domains: Vec<String>,
    /// Seconds that a person needs at least from the first line to the lead, 0 to 600; what comes sooner is held back.
    #[serde(default = "four")]
    #[schemars(range(min = 0, max = 600))]
    pub(crate) least_seconds: i32,
    /// Where prospects read what becomes of what they say: an address that begins with https.
    #[serde(default)]
    #[schemars(length(max = 500))]
    pub(crate) privacy_link: Option<String>,
}

fn four() -> i32 {
    4
}

fn eight() -> i32 {
    8
}

fn seven_in_the_evening() -> i32 {
    19
}

impl From<lumbo_store::WorkspaceSettings> for WorkspaceSettings {
    fn from(from: lumbo_store::WorkspaceSettings) -> Self {
        let lumbo_store::WorkspaceSettings {
            revision,
            name,
            zone,
            calls_from,
            calls_until,
            own_mail_domains,
            least_seconds,
            privacy_link,
        } = from;
        Self { revision, name, zone, calls_from, calls_until, own_mail_domains, least_seconds, privacy_link }
    }
}

/// An entry of the audit.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct AuditRow {
    /// Counts up.
    pub(crate) id: i64,
    /// When, RFC 3339.
    #[schemars(with = "String")]
    pub(crate) at: Timestamp,
    /// Who, by name; absent for the command line.
    pub(crate) person: Option<String>,
    /// What: the name of an audited action.
    pub(crate) what: String,
    /// To what, in words.
    pub(crate) about: String,
    /// The network it came from, where it is kept.
    pub(crate) network: Option<String>,
}

impl From<lumbo_store::AuditRow> for AuditRow {
    fn from(from: lumbo_store::AuditRow) -> Self {
        let lumbo_store::AuditRow { id, at, person, what, about, network } = from;
        Self { id, at, person, what, about, network }
    }
}
