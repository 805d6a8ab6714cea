//! Leads with their contacts and companies: filed by conversations, worked by reps.
//!
//! | file | what it holds |
//! |---|---|
//! | `file` | a filing: what is on file is read under locks, the core decides, rows are written |
//! | `values` | values of contacts and companies with their sources |
//! | `on_file` | reading what is on file, and the order of locks |
//! | `list` | pages of the list, and searching it |
//! | `detail` | one lead with everything a rep needs |
//! | `early` | the owner of a lead that was filed early |
//! | `turns` | turns of rotations that junk gives back |
//! | `entered` | leads that people enter, by hand or from a file |
//! | `change` | what a person says became of it, and what they accept |
//! | `tasks` | what people owe on leads |
//! | `work` | calls and what comes next, a step back, notes, handing it on |

mod change;
mod detail;
mod early;
mod entered;
mod file;
mod lenses;
mod list;
mod mails;
mod on_file;
mod tags;
mod tasks;
mod turns;
mod values;
mod work;

use jiff::Timestamp;
use lumbo_dialogue::talk::Who;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use sqlx::PgConnection;
use uuid::Uuid;

use crate::StoreError;

pub use change::{AlsoGivenChange, FitChange, OutcomeChange};
pub(crate) use change::{also_given, put_by_hand, words};
pub use detail::{AlsoGivenRow, Came, LeadDetail, LogRow, SnapshotRow};
pub(crate) use early::file_last;
pub use entered::{EnteredRow, ImportRow, NewImport, PreviewRow, ROWS_AT_ONCE, Undone, UnfiledRow};
pub(crate) use file::{FilingOf, file, lines_of};
pub use lenses::Lens;
pub(crate) use list::status;
pub use list::{LeadFilter, LeadPage, LeadQuery, LeadRow, PLAIN};
pub use mails::{FilledReply, LEAVES_AFTER, MailBegin, MailOut, MailRow, SavedReply};
pub(crate) use on_file::{goes_by_company, held, lock_keys, owners_of_company, standing};
pub(crate) use tags::{add_contact_tags, tag_by_ending};
pub use tasks::{NewTask, TaskRow};
pub(crate) use values::put_from_file;
pub use work::{Call, NextChange, OwnerChange, Taker};
pub(crate) use work::{calling_of, keep_pace};

/// A line of what was said.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct TranscriptLine {
    /// Who said it.
    pub who: Who,
    /// The words.
    pub text: String,
}

/// A kind of line in a lead's timeline.
#[derive(Debug, Clone, Copy)]
pub(crate) enum Activity {
    Filing,
    Conversation,
    Call,
    Mail,
    Status,
    Record,
    Owner,
    Note,
    Sending,
}

impl Activity {
    fn as_str(self) -> &'static str {
        match self {
            Self::Filing => "filing",
            Self::Conversation => "conversation",
            Self::Call => "call",
            Self::Mail => "mail",
            Self::Status => "status",
            Self::Record => "record",
            Self::Owner => "owner",
            Self::Note => "note",
            Self::Sending => "sending",
        }
    }
}

/// Adds a line to a lead's timeline.
pub(crate) async fn log(
    db: &mut PgConnection,
    workspace: Uuid,
    lead: Uuid,
    person: Option<Uuid>,
    kind: Activity,
    what: &str,
    now: Timestamp,
) -> Result<(), StoreError> {
    sqlx::query!(
        "insert into activities (workspace_id, lead_id, person_id, kind, what, at) values ($1, $2, $3, $4, $5, $6)",
        workspace,
        lead,
        person,
        kind.as_str(),
        what,
        jiff_sqlx::ToSqlx::to_sqlx(now) as _
    )
    .execute(db)
    .await?;
    Ok(())
}
