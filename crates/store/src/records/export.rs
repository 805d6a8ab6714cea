//! Everything that is held on one contact, as one document.

use jiff::Timestamp;
use jiff_sqlx::Timestamp as SqlTimestamp;
use lumbo_people::Audited;
use lumbo_records::{RecordField, reach_says};
use serde::Serialize;
use sqlx::types::Json;
use uuid::Uuid;

use crate::leads::TranscriptLine;
use crate::{LogRow, MailRow, PermissionRow, Person, Store, StoreError, TaskRow, ValueRow};

/// What the document's `format` says.
const FORMAT: &str = "lumbo.contact/1";

/// Everything that is held on a contact.
#[derive(Debug, Clone, Serialize)]
pub struct ContactExport {
    /// `lumbo.contact/1`.
    pub format: &'static str,
    /// When it was taken out.
    pub taken_out_at: Timestamp,
    /// Name on file.
    pub name: Option<String>,
    /// E-mail address on file.
    pub email: Option<String>,
    /// Phone number on file.
    pub phone: Option<String>,
    /// The company's name.
    pub company: Option<String>,
    /// How they want to be reached, and how not, in words; absent where nobody said.
    pub reach: Option<String>,
    /// Words that people put on them.
    pub tags: Vec<String>,
    /// What they permitted and withdrew, the newest first.
    pub permissions: Vec<ExportedPermission>,
    /// Values on file, with where they came from.
    pub values: Vec<ExportedValue>,
    /// What was also given, settled or not.
    pub also_given: Vec<ExportedGiven>,
    /// Leads with what happened.
    pub leads: Vec<ExportedLead>,
}

/// A value on file.
#[derive(Debug, Clone, Serialize)]
pub struct ExportedValue {
    /// The field's label.
    pub field: String,
    /// The value in plain words.
    pub value: String,
    /// Name of the person, or title of the dialogue, that it came from.
    pub from: Option<String>,
    /// When.
    pub at: Timestamp,
    /// What stood there before.
    pub before: Option<serde_json::Value>,
}

/// A word on being reached.
#[derive(Debug, Clone, Serialize)]
pub struct ExportedPermission {
    /// `enquiry` or `marketing`.
    pub purpose: &'static str,
    /// `call`, `mail` or `text`.
    pub channel: &'static str,
    /// True where it was given, false where it was withdrawn or refused.
    pub given: bool,
    /// When.
    pub at: Timestamp,
    /// Title of the dialogue that asked, or name of whoever here kept it.
    pub from: Option<String>,
    /// Version of the wording that was shown.
    pub wording: Option<i32>,
    /// On what ground, where somebody here kept it.
    pub says: String,
}

/// A mail that somebody wrote to them.
#[derive(Debug, Clone, Serialize)]
pub struct ExportedMail {
    /// When it left, or is to.
    pub at: Timestamp,
    /// Who wrote it.
    pub by: String,
    /// The address it went to.
    pub to: String,
    /// Its subject.
    pub subject: String,
    /// Its text.
    pub body: String,
    /// `waiting`, `sent` or `refused`.
    pub state: String,
}

/// Something that was given otherwise.
#[derive(Debug, Clone, Serialize)]
pub struct ExportedGiven {
    /// What it is.
    pub what: String,
    /// What was given.
    pub value: String,
    /// When.
    pub at: Timestamp,
    /// True where it was put on file, false where it was not; absent where nobody has said yet.
    pub accepted: Option<bool>,
}

/// A lead.
#[derive(Debug, Clone, Serialize)]
pub struct ExportedLead {
    /// The dialogue's title.
    pub dialogue: String,
    /// When it was filed.
    pub filed_at: Timestamp,
    /// What became of it.
    pub status: String,
    /// Words that people put on it.
    pub tags: Vec<String>,
    /// IANA name of the zone that their clock shows, where it is known.
    pub zone: Option<String>,
    /// Each conversation of it: answers and what was said.
    pub conversations: Vec<ExportedConversation>,
    /// What happened since.
    pub timeline: Vec<ExportedStep>,
    /// Mails that people wrote from it, the newest first.
    pub mails: Vec<ExportedMail>,
    /// What people owed or owe on it.
    pub tasks: Vec<ExportedTask>,
}

/// A conversation.
#[derive(Debug, Clone, Serialize)]
pub struct ExportedConversation {
    /// When it was filed.
    pub filed_at: Timestamp,
    /// Answers, typed and as shown.
    pub answers: Vec<RecordField>,
    /// What was said.
    pub said: Vec<TranscriptLine>,
}

/// A task.
#[derive(Debug, Clone, Serialize)]
pub struct ExportedTask {
    /// What is owed.
    pub says: String,
    /// Who owes it.
    pub by: String,
    /// By when.
    pub due_at: Timestamp,
    /// When it was done.
    pub done_at: Option<Timestamp>,
}

/// A line of a timeline.
#[derive(Debug, Clone, Serialize)]
pub struct ExportedStep {
    /// When.
    pub at: Timestamp,
    /// Who.
    pub by: Option<String>,
    /// What.
    pub what: String,
}

impl Store {
    /// Everything that is held on a contact; that it was taken out is kept in the audit.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where there is no such contact, or it was erased.
    #[crate::compiled_here]
    pub async fn export_contact(&self, person: &Person, id: Uuid) -> Result<ContactExport, StoreError> {
        let workspace = person.workspace_id;
        let contact = self.contact(person, id).await?;
        let given = sqlx::query!(
            "select what, value, given_at as \"at: SqlTimestamp\", accepted from also_given
             where workspace_id = $1 and contact_id = $2 order by given_at, what",
            workspace,
            id
        )
        .fetch_all(&self.pool)
        .await?;
        let rows = sqlx::query!(
            "select l.id, d.title, l.filed_at as \"filed_at: SqlTimestamp\", l.status, l.tags, l.zone from leads l
             join dialogues d on d.workspace_id = l.workspace_id and d.id = l.dialogue_id
             where l.workspace_id = $1 and l.contact_id = $2 order by l.filed_at, l.id",
            workspace,
            id
        )
        .fetch_all(&self.pool)
        .await?;
        let mut leads = Vec::with_capacity(rows.len());
        for row in rows {
            leads.push(ExportedLead {
                dialogue: row.title,
                filed_at: row.filed_at.to_jiff(),
                status: row.status,
                tags: row.tags,
                zone: row.zone,
                conversations: self.exported_conversations(workspace, row.id).await?,
                timeline: self.timeline(workspace, row.id).await?.into_iter().map(step).collect(),
                mails: self.mails_of(person, row.id).await?.into_iter().map(mail).collect(),
                tasks: self.tasks_of(person, row.id).await?.into_iter().map(task).collect(),
            });
        }
        let about = "everything that is held on a contact";
        self.told(&mut *self.pool.acquire().await?, person, id, Audited::Exported, about).await?;
        Ok(ContactExport {
            format: FORMAT,
            taken_out_at: self.now(),
            name: contact.name,
            email: contact.email,
            phone: contact.phone,
            company: contact.company.map(|(_, name)| name),
            reach: reach_says((None, &[]), (contact.reach.prefers, &contact.reach.refuses)),
            tags: contact.tags,
            permissions: contact.permissions.into_iter().map(permission).collect(),
            values: contact.values.into_iter().map(value).collect(),
            also_given: given
                .into_iter()
                .map(|row| ExportedGiven {
                    what: row.what,
                    value: row.value,
                    at: row.at.to_jiff(),
                    accepted: row.accepted,
                })
                .collect(),
            leads,
        })
    }

    async fn exported_conversations(
        &self,
        workspace: Uuid,
        lead: Uuid,
    ) -> Result<Vec<ExportedConversation>, StoreError> {
        let rows = sqlx::query!(
            "select filed_at as \"filed_at: SqlTimestamp\", fields as \"fields: Json<Vec<RecordField>>\",
             transcript as \"transcript: Json<Vec<TranscriptLine>>\" from lead_snapshots
             where workspace_id = $1 and lead_id = $2 order by filed_at, conversation_id",
            workspace,
            lead
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows
            .into_iter()
            .map(|row| ExportedConversation {
                filed_at: row.filed_at.to_jiff(),
                answers: row.fields.0,
                said: row.transcript.0,
            })
            .collect())
    }
}

fn value(row: ValueRow) -> ExportedValue {
    ExportedValue { field: row.label, value: row.shown, from: row.from, at: row.at, before: row.before }
}

fn permission(row: PermissionRow) -> ExportedPermission {
    ExportedPermission {
        purpose: row.word.purpose.as_str(),
        channel: row.word.channel.as_str(),
        given: row.word.given,
        at: row.word.at,
        from: row.dialogue.or(row.person),
        wording: row.wording,
        says: row.says,
    }
}

fn mail(row: MailRow) -> ExportedMail {
    let MailRow { person, recipient, subject, body, state, at, .. } = row;
    ExportedMail { at, by: person, to: recipient, subject, body, state }
}

fn task(row: TaskRow) -> ExportedTask {
    ExportedTask { says: row.says, by: row.person, due_at: row.due_at, done_at: row.done_at }
}

fn step(row: LogRow) -> ExportedStep {
    ExportedStep { at: row.at, by: row.person, what: row.what }
}
