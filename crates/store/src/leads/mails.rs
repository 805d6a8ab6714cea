//! Mails that people write from a lead, and the replies that they saved for it. A mail waits a moment before it leaves,
//! so that it can be taken back; it leaves by a job, once.

use std::collections::BTreeMap;

use jiff::{SignedDuration, Timestamp};
use jiff_sqlx::{Timestamp as SqlTimestamp, ToSqlx};
use lumbo_deliver::webhook::EventKind;
use lumbo_records::{Identity, LeadStatus, Standing, fill, known_of, working_minutes};
use lumbo_value::permits::Channel;
use uuid::Uuid;

use super::work::calling_of;
use super::{Activity, LeadDetail, log, status, turns};
use crate::jobs::{self, JobKind};
use crate::{Person, Store, StoreError, sending};

/// How long a mail can be taken back.
pub const LEAVES_AFTER: SignedDuration = SignedDuration::from_secs(10);
/// Most mails of one lead in a day.
const MOST_A_DAY: i64 = 20;
/// Most saved replies of a workspace.
const MOST_REPLIES: i64 = 200;

/// A mail that somebody wrote from a lead.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct MailRow {
    /// Its id.
    pub id: Uuid,
    /// Name of whoever wrote it.
    pub person: String,
    /// True where the one who asks wrote it.
    pub mine: bool,
    /// The address it goes to.
    pub recipient: String,
    /// Its subject.
    pub subject: String,
    /// Its text.
    pub body: String,
    /// Where it is: `waiting`, `sent`, `refused` or `taken_back`.
    pub state: String,
    /// What the mail server said, where it refused it.
    pub answer: String,
    /// When it leaves, or left.
    pub at: Timestamp,
}

/// A mail that is to leave.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct MailOut {
    /// The address it goes to.
    pub recipient: String,
    /// Name of whoever wrote it.
    pub name: String,
    /// Where answers go: the address of whoever wrote it.
    pub reply_to: Option<String>,
    /// Its subject.
    pub subject: String,
    /// Its text.
    pub body: String,
}

/// A saved reply.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct SavedReply {
    /// Its id.
    pub id: Uuid,
    /// What it is called.
    pub name: String,
    /// Its subject, with chips.
    pub subject: String,
    /// Its text, with chips.
    pub body: String,
    /// Its revision; a change names it.
    pub revision: i64,
}

/// A saved reply, filled with what is known of a lead.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct FilledReply {
    /// Its id.
    pub id: Uuid,
    /// What it is called.
    pub name: String,
    /// Its subject.
    pub subject: String,
    /// Its text.
    pub body: String,
    /// Chips that nothing is known for.
    pub missing: Vec<String>,
}

/// What somebody begins a mail with.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct MailBegin {
    /// The address it goes to; absent where they left none.
    pub recipient: Option<String>,
    /// Why nobody may write to them, in a sentence.
    pub stopped: Option<String>,
    /// Saved replies, by name.
    pub replies: Vec<FilledReply>,
    /// What chips show of the lead, by their names.
    pub chips: BTreeMap<String, String>,
}

/// Why nobody may write to a lead; nothing where they may.
fn stopped(lead: &LeadDetail) -> Option<&'static str> {
    let never = lead.company.as_ref().is_some_and(|(_, _, standing)| *standing == Standing::DoNotContact);
    if lead.email.is_none() {
        Some("they left no address")
    } else if never {
        Some("their firm is not to be contacted")
    } else if lead.reach.refuses.contains(&Channel::Mail) {
        Some("they want no mail")
    } else if lead.reach.withdrawn.contains(&Channel::Mail) {
        Some("they withdrew their permission to be written to")
    } else {
        None
    }
}

impl Store {
    /// What a mail from a lead begins with: where it goes, and the saved replies filled.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where the person may not see the lead.
    #[crate::compiled_here]
    pub async fn begin_mail(&self, person: &Person, lead: Uuid) -> Result<MailBegin, StoreError> {
        let lead = self.lead(person, lead).await?;
        let who = Identity {
            name: lead.row.name.clone(),
            email: lead.email.clone(),
            phone: lead.phone.clone(),
            company: lead.row.company.clone(),
        };
        let known: BTreeMap<String, String> = known_of(&lead.fields, &who, &lead.row.wants, &person.name);
        let replies = self.saved_replies(person.workspace_id).await?;
        let filled = |reply: SavedReply| {
            let (subject, body) = (fill(&reply.subject, &known).ok()?, fill(&reply.body, &known).ok()?);
            let mut missing = subject.missing;
            missing.extend(body.missing);
            missing.sort();
            missing.dedup();
            Some(FilledReply { id: reply.id, name: reply.name, subject: subject.text, body: body.text, missing })
        };
        Ok(MailBegin {
            stopped: stopped(&lead).map(str::to_owned),
            recipient: lead.email,
            replies: replies.into_iter().filter_map(filled).collect(),
            chips: known,
        })
    }

    /// Writes a mail from a lead; it leaves after [`LEAVES_AFTER`]. The same id asked for again changes nothing.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where the person may not see the lead; [`StoreError::Conflict`] where nobody may write
    /// to them, or too much was written today.
    #[crate::compiled_here]
    pub async fn write_mail(
        &self,
        person: &Person,
        lead: Uuid,
        id: Uuid,
        subject: &str,
        body: &str,
    ) -> Result<LeadDetail, StoreError> {
        let known = self.lead(person, lead).await?;
        let there = sqlx::query_scalar!(
            "select lead_id from mails where workspace_id = $1 and id = $2",
            person.workspace_id,
            id
        )
        .fetch_optional(&self.pool)
        .await?;
        match there {
            // Also one that was taken back: asked for again, it does not leave after all.
            Some(of) if of == lead => return Ok(known),
            Some(_) => return Err(StoreError::Conflict("this mail was written from another lead".into())),
            None => {}
        }
        if let Some(why) = stopped(&known) {
            return Err(StoreError::Conflict(format!("{why}. Reach them in another way")));
        }
        let recipient = known.email.unwrap_or_default();
        let (workspace, now) = (person.workspace_id, self.now());
        let leaves = now.checked_add(LEAVES_AFTER).unwrap_or(now);
        let mut db = self.pool.begin().await?;
        // One after the other, so that the limit of a day holds.
        sqlx::query_scalar!("select id from leads where workspace_id = $1 and id = $2 for update", workspace, lead)
            .fetch_one(&mut *db)
            .await?;
        let made = sqlx::query!(
            "insert into mails (workspace_id, id, lead_id, person_id, recipient, subject, body, made_at, leaves_at)
             select $1, $2, $3, $4, $5, $6, $7, $8, $9
             where (select count(*) from mails where workspace_id = $1 and lead_id = $3
               and made_at > $8::timestamptz - interval '1 day' and state <> 'taken_back') < $10
             on conflict (workspace_id, id) do nothing",
            workspace,
            id,
            lead,
            person.id,
            recipient,
            subject,
            body,
            now.to_sqlx() as _,
            leaves.to_sqlx() as _,
            MOST_A_DAY
        )
        .execute(&mut *db)
        .await?;
        if made.rows_affected() == 0 {
            return Err(StoreError::Conflict(format!(
                "{MOST_A_DAY} mails of a day were written from this lead already. Write the next one tomorrow"
            )));
        }
        jobs::set(&mut db, workspace, JobKind::Mail, id, &id.to_string(), leaves, now).await?;
        self.changed(db, person, now).await?;
        self.lead(person, lead).await
    }

    /// Takes a mail back that has not left; only whoever wrote it can.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where it is another's, or has left.
    #[crate::compiled_here]
    pub async fn take_mail_back(&self, person: &Person, lead: Uuid, mail: Uuid) -> Result<LeadDetail, StoreError> {
        self.lead(person, lead).await?;
        let now = self.now();
        let mut db = self.pool.begin().await?;
        sqlx::query_scalar!(
            "update mails set state = 'taken_back', ended_at = $5 where workspace_id = $1 and id = $2 and lead_id = $3
             and person_id = $4 and state = 'waiting' returning id",
            person.workspace_id,
            mail,
            lead,
            person.id,
            now.to_sqlx() as _
        )
        .fetch_optional(&mut *db)
        .await?
        .ok_or(StoreError::NotFound("mail to take back; it has left"))?;
        self.changed(db, person, now).await?;
        self.lead(person, lead).await
    }

    /// A mail whose moment to leave has come; nothing where it was taken back or has left.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn mail_to_send(&self, workspace: Uuid, id: Uuid) -> Result<Option<MailOut>, StoreError> {
        let row = sqlx::query!(
            "select m.recipient, m.subject, m.body, p.name, a.email as \"reply_to?\" from mails m
             join people p on p.workspace_id = m.workspace_id and p.id = m.person_id
             left join accounts a on a.id = p.account_id
             where m.workspace_id = $1 and m.id = $2 and m.state = 'waiting'",
            workspace,
            id
        )
        .fetch_optional(&self.pool)
        .await?;
        Ok(row.map(|row| MailOut {
            recipient: row.recipient,
            name: row.name,
            reply_to: row.reply_to,
            subject: row.subject,
            body: row.body,
        }))
    }

    /// Keeps that a mail has left: the first contact was made, as a person wrote it; the lead is tried.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn mail_left(&self, workspace: Uuid, id: Uuid) -> Result<(), StoreError> {
        let now = self.now();
        let mut db = self.pool.begin().await?;
        let Some(mail) = sqlx::query!(
            "update mails set state = 'sent', ended_at = $3 where workspace_id = $1 and id = $2 and state = 'waiting'
             returning lead_id, person_id, subject",
            workspace,
            id,
            now.to_sqlx() as _
        )
        .fetch_optional(&mut *db)
        .await?
        else {
            return Ok(());
        };
        let row = sqlx::query!(
            "select status, filed_at as \"filed_at: SqlTimestamp\" from leads where workspace_id = $1 and id = $2
             for update",
            workspace,
            mail.lead_id
        )
        .fetch_one(&mut *db)
        .await?;
        let calendar = calling_of(&mut db, workspace, mail.lead_id).await?;
        let was = status(&row.status)?;
        let is = if matches!(was, LeadStatus::New | LeadStatus::Later) { LeadStatus::Trying } else { was };
        sqlx::query!(
            "update leads set status = $3, touched_at = coalesce(touched_at, $4), waits_until = null,
             first_contact_at = coalesce(first_contact_at, $4),
             first_contact_minutes = coalesce(first_contact_minutes, $5), owner_id = coalesce(owner_id, $6),
             revision = revision + 1, changed_at = $4 where workspace_id = $1 and id = $2",
            workspace,
            mail.lead_id,
            is.as_str(),
            now.to_sqlx() as _,
            working_minutes(&calendar, row.filed_at.to_jiff(), now),
            mail.person_id
        )
        .execute(&mut *db)
        .await?;
        let says = format!("Wrote “{}”", mail.subject);
        log(&mut db, workspace, mail.lead_id, Some(mail.person_id), Activity::Mail, &says, now).await?;
        if is != was {
            turns::settle(&mut db, workspace, mail.lead_id, now).await?;
            sending::set(&mut db, workspace, EventKind::LeadStatus, mail.lead_id, now).await?;
        }
        crate::live::add(&mut db, workspace, crate::live::Topic::Leads, "lead", now).await?;
        db.commit().await?;
        self.wakes.stream(workspace);
        self.wakes.jobs();
        Ok(())
    }

    /// Keeps that a mail was refused for good, with what the mail server said.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn mail_refused(&self, workspace: Uuid, id: Uuid, answer: &str) -> Result<(), StoreError> {
        let now = self.now();
        let mut db = self.pool.begin().await?;
        let row = sqlx::query!(
            "update mails set state = 'refused', answer = left($4, 500), ended_at = $3
             where workspace_id = $1 and id = $2 and state = 'waiting' returning lead_id, person_id, subject",
            workspace,
            id,
            now.to_sqlx() as _,
            answer
        )
        .fetch_optional(&mut *db)
        .await?;
        if let Some(row) = row {
            let says = format!("“{}” was refused by their mail server, and did not leave", row.subject);
            log(&mut db, workspace, row.lead_id, Some(row.person_id), Activity::Mail, &says, now).await?;
            crate::live::add(&mut db, workspace, crate::live::Topic::Leads, "lead", now).await?;
        }
        db.commit().await?;
        self.wakes.stream(workspace);
        Ok(())
    }

    /// Mails of a lead, the newest first.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    pub(crate) async fn mails_of(&self, person: &Person, lead: Uuid) -> Result<Vec<MailRow>, StoreError> {
        let rows = sqlx::query!(
            "select m.id, p.name, m.person_id, m.recipient, m.subject, m.body, m.state, m.answer,
               coalesce(m.ended_at, m.leaves_at) as \"at!: SqlTimestamp\"
             from mails m join people p on p.workspace_id = m.workspace_id and p.id = m.person_id
             where m.workspace_id = $1 and m.lead_id = $2 and m.state <> 'taken_back'
             order by m.made_at desc, m.id limit 100",
            person.workspace_id,
            lead
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows
            .into_iter()
            .map(|row| MailRow {
                id: row.id,
                person: row.name,
                mine: row.person_id == person.id,
                recipient: row.recipient,
                subject: row.subject,
                body: row.body,
                state: row.state,
                answer: row.answer,
                at: row.at.to_jiff(),
            })
            .collect())
    }

    /// A workspace's saved replies, by name.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn saved_replies(&self, workspace: Uuid) -> Result<Vec<SavedReply>, StoreError> {
        Ok(sqlx::query_as!(
            SavedReply,
            "select id, name, subject, body, revision from saved_replies where workspace_id = $1
             order by lower(name), id",
            workspace
        )
        .fetch_all(&self.pool)
        .await?)
    }

    /// Keeps a saved reply: a new one where its revision is 0, else the one of its id.
    ///
    /// # Errors
    /// [`StoreError::Conflict`] where the name is taken, there are too many, or somebody changed it meanwhile.
    #[crate::compiled_here]
    pub async fn put_reply(&self, person: &Person, reply: &SavedReply) -> Result<Vec<SavedReply>, StoreError> {
        let workspace = person.workspace_id;
        let mut db = self.pool.begin().await?;
        sqlx::query_scalar!("select id from workspaces where id = $1 for update", workspace)
            .fetch_one(&mut *db)
            .await?;
        let taken = sqlx::query_scalar!(
            "select exists (select from saved_replies where workspace_id = $1 and lower(name) = lower($2) and id <> $3)
               as \"taken!\"",
            workspace,
            reply.name,
            reply.id
        )
        .fetch_one(&mut *db)
        .await?;
        if taken {
            return Err(StoreError::Conflict(format!("“{}” is another reply. Give this one another name", reply.name)));
        }
        let done = sqlx::query!(
            "with many as (select count(*) as n from saved_replies where workspace_id = $1),
               changed as (update saved_replies set name = $3, subject = $4, body = $5, revision = revision + 1,
                 changed_by = $7, changed_at = $8 where workspace_id = $1 and id = $2 and revision = $6 returning id),
               made as (insert into saved_replies (workspace_id, id, name, subject, body, changed_by, changed_at)
                 select $1, $2, $3, $4, $5, $7, $8 from many where $6 = 0 and many.n < $9
                 on conflict do nothing returning id)
             select (select count(*) from changed) + (select count(*) from made) as \"done!\"",
            workspace,
            reply.id,
            reply.name,
            reply.subject,
            reply.body,
            reply.revision,
            person.id,
            self.now().to_sqlx() as _,
            MOST_REPLIES
        )
        .fetch_one(&mut *db)
        .await?
        .done;
        if done == 0 {
            return Err(StoreError::Conflict(if reply.revision == 0 {
                format!("a workspace has at most {MOST_REPLIES} saved replies. Take one out first")
            } else {
                "somebody changed this reply meanwhile. Look at it again".to_owned()
            }));
        }
        db.commit().await?;
        self.saved_replies(workspace).await
    }

    /// Takes a saved reply out.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where there is none.
    #[crate::compiled_here]
    pub async fn drop_reply(&self, person: &Person, id: Uuid) -> Result<Vec<SavedReply>, StoreError> {
        sqlx::query_scalar!(
            "delete from saved_replies where workspace_id = $1 and id = $2 returning id",
            person.workspace_id,
            id
        )
        .fetch_optional(&self.pool)
        .await?
        .ok_or(StoreError::NotFound("saved reply"))?;
        self.saved_replies(person.workspace_id).await
    }
}
