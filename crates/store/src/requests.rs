//! Requests: what an outcome that is no lead leaves behind for somebody. Never scored, never counted as a lead, never
//! on the call list; a member of its queue takes it and says when it is done.

use jiff::Timestamp;
use jiff::tz::TimeZone;
use jiff_sqlx::{Timestamp as SqlTimestamp, ToSqlx};
use lumbo_calendar::{Calendar, Written};
use lumbo_dialogue::plan::Plan;
use lumbo_dialogue::talk::{Event, State};
use lumbo_reading::domains::DomainLists;
use lumbo_records::{RecordField, said};
use sqlx::PgConnection;
use sqlx::types::Json;
use uuid::Uuid;

use crate::conversations::{Spot, events_of};
use crate::leads::{TranscriptLine, lines_of};
use crate::live::{self, Topic};
use crate::notices::{About, NoticeKind, tell};
use crate::{Person, Store, StoreError};

/// Most of what a list shows.
const MOST: i64 = 200;
/// Longest words that stand for a request in a list, characters.
const WORDS: usize = 300;

/// A request, as a list shows it.
#[derive(Debug, Clone)]
pub struct RequestRow {
    /// Its id.
    pub id: Uuid,
    /// The outcome's name.
    pub label: String,
    /// Who asks.
    pub name: Option<String>,
    /// Their company.
    pub company: Option<String>,
    /// What they typed last in their own words.
    pub words: String,
    /// The dialogue's title.
    pub dialogue: String,
    /// The queue's name.
    pub queue: Option<String>,
    /// Whoever has taken it.
    pub owner: Option<String>,
    /// True where that is the one who asks.
    pub mine: bool,
    /// When it is to be answered.
    pub due_at: Timestamp,
    /// When it came.
    pub made_at: Timestamp,
    /// When it was done.
    pub done_at: Option<Timestamp>,
}

/// A request with everything.
#[derive(Debug, Clone)]
pub struct RequestDetail {
    /// As in the list.
    pub row: RequestRow,
    /// Counts changes; a change names the one it knows.
    pub revision: i64,
    /// E-mail address.
    pub email: Option<String>,
    /// Phone number, E.164.
    pub phone: Option<String>,
    /// The contact, where they are on file.
    pub contact: Option<Uuid>,
    /// What they told us.
    pub fields: Vec<RecordField>,
    /// In their words.
    pub transcript: Vec<TranscriptLine>,
    /// What was said when it was done.
    pub note: Option<String>,
    /// Who said that it is done.
    pub done_by: Option<String>,
}

/// What becomes of a request.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum RequestAct {
    /// It is somebody's from now on.
    Give(Uuid),
    /// It is answered.
    Done(Option<String>),
    /// It is not, after all.
    Reopen,
}

/// A request to leave.
pub(crate) struct RequestOf<'a> {
    pub spot: Spot,
    pub plan: &'a Plan,
    pub state: &'a State,
    pub domains: &'a DomainLists,
    /// The outcome's id.
    pub outcome: &'a str,
    pub now: Timestamp,
}

/// Leaves a request behind, or brings the one of this conversation up to date, in the caller's transaction. One that
/// nobody could answer, because no address, number or name of the site is known, is not left.
pub(crate) async fn leave(db: &mut PgConnection, of: &RequestOf<'_>) -> Result<(), StoreError> {
    let Spot { workspace, dialogue, conversation, .. } = of.spot;
    let Some(outcome) = of.plan.file.outcomes.iter().find(|outcome| outcome.id == of.outcome) else { return Ok(()) };
    let Some(request) = &outcome.request else { return Ok(()) };
    let subject = sqlx::query_scalar!(
        "select subject from conversations where workspace_id = $1 and id = $2",
        workspace,
        conversation
    )
    .fetch_one(&mut *db)
    .await?;
    let said = said(of.plan, of.state, conversation, subject, None, of.domains, false);
    if said.who.email.is_none() && said.who.phone.is_none() && said.subject.is_none() {
        return Ok(());
    }
    let contact = sqlx::query_scalar!(
        "select id from contacts where workspace_id = $1 and merged_into is null and (subject = $2
           or lower(email) = lower($3)) order by subject is not distinct from $2 desc limit 1",
        workspace,
        said.subject,
        said.who.email
    )
    .fetch_optional(&mut *db)
    .await?;
    let queue = sqlx::query!(
        "select id, hours as \"hours: Json<Written>\" from queues where workspace_id = $1 and key = $2",
        workspace,
        request.queue
    )
    .fetch_optional(&mut *db)
    .await?;
    let hours = queue.as_ref().and_then(|queue| queue.hours.as_ref()).and_then(|hours| Calendar::new(&hours.0).ok());
    let hours = hours.unwrap_or_else(|| Calendar::always(TimeZone::UTC));
    let due = hours.after(of.now, u64::from(request.within)).unwrap_or(of.now);
    let events = events_of(db, workspace, conversation).await?;
    sqlx::query!(
        "insert into requests (workspace_id, id, dialogue_id, conversation_id, contact_id, label, queue_id, name, email,
         phone, company, words, fields, transcript, due_at, made_at)
         values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14, $15, $16)
         on conflict (workspace_id, conversation_id) do update
         set contact_id = excluded.contact_id, label = excluded.label, name = excluded.name, email = excluded.email,
           phone = excluded.phone, company = excluded.company, words = excluded.words, fields = excluded.fields,
           transcript = excluded.transcript, revision = requests.revision + 1",
        workspace,
        Uuid::now_v7(),
        dialogue,
        conversation,
        contact,
        outcome.label,
        queue.map(|queue| queue.id),
        said.who.name,
        said.who.email,
        said.who.phone,
        said.who.company,
        own_words(&events),
        Json(&said.fields) as _,
        Json(lines_of(of.plan, of.state, &events)) as _,
        due.to_sqlx() as _,
        of.now.to_sqlx() as _
    )
    .execute(&mut *db)
    .await?;
    let request = sqlx::query!(
        "select r.id, array(select p.id from queue_members m join people p on p.workspace_id = m.workspace_id
           and p.id = m.person_id and p.active and not p.paused where m.workspace_id = r.workspace_id
           and m.queue_id = r.queue_id and away_until(p.workspace_id, p.id, $3) is null) as \"members!: Vec<Uuid>\"
         from requests r where r.workspace_id = $1 and r.conversation_id = $2",
        workspace,
        conversation,
        of.now.to_sqlx() as _
    )
    .fetch_one(&mut *db)
    .await?;
    tell(db, workspace, &request.members, NoticeKind::Request, About::Request(request.id), of.now).await?;
    live::add(db, workspace, Topic::Leads, "request", of.now).await
}

/// The longest of what they typed, not tapped: most likely what they want.
fn own_words(events: &[Event]) -> String {
    let typed = events.iter().filter_map(|event| match event {
        Event::Replied { text, picked: false, .. } => Some(text.trim()),
        _ => None,
    });
    typed.max_by_key(|text| text.chars().count()).unwrap_or_default().chars().take(WORDS).collect()
}

struct Row {
    id: Uuid,
    label: String,
    name: Option<String>,
    company: Option<String>,
    words: String,
    title: String,
    queue: Option<String>,
    owner: Option<String>,
    mine: bool,
    due_at: SqlTimestamp,
    made_at: SqlTimestamp,
    done_at: Option<SqlTimestamp>,
}

impl From<Row> for RequestRow {
    fn from(row: Row) -> Self {
        Self {
            id: row.id,
            label: row.label,
            name: row.name,
            company: row.company,
            words: row.words,
            dialogue: row.title,
            queue: row.queue,
            owner: row.owner,
            mine: row.mine,
            due_at: row.due_at.to_jiff(),
            made_at: row.made_at.to_jiff(),
            done_at: row.done_at.map(SqlTimestamp::to_jiff),
        }
    }
}

/// Requests that a person may see: their own, those of their queues, all for who reads every lead.
macro_rules! rows {
    ($and:literal, $($argument:expr),+ $(,)?) => {
        sqlx::query_as!(
            Row,
            "select r.id, r.label, r.name, r.company, r.words, d.title, q.name as \"queue?\", o.name as \"owner?\",
             coalesce(r.owner_id = $2, false) as \"mine!\", r.due_at as \"due_at: SqlTimestamp\",
             r.made_at as \"made_at: SqlTimestamp\", r.done_at as \"done_at: SqlTimestamp\"
             from requests r join dialogues d on d.workspace_id = r.workspace_id and d.id = r.dialogue_id
             left join queues q on q.workspace_id = r.workspace_id and q.id = r.queue_id
             left join people o on o.workspace_id = r.workspace_id and o.id = r.owner_id
             where r.workspace_id = $1 and ($3 or r.owner_id in (select seen_by($1, $2))
               or r.queue_id in (select m.queue_id
               from queue_members m where m.workspace_id = $1 and m.person_id in (select seen_by($1, $2)))) " + $and,
            $($argument),+
        )
    };
}

impl Store {
    /// Requests that a person may see: open ones by when they are due, or the newest done ones; 200 at most.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn requests(&self, person: &Person, done: bool) -> Result<Vec<RequestRow>, StoreError> {
        let all = person.sees_all();
        let rows = if done {
            rows!(
                "and r.done_at is not null order by r.done_at desc, r.id limit $4",
                person.workspace_id,
                person.id,
                all,
                MOST
            )
            .fetch_all(&self.pool)
            .await?
        } else {
            rows!("and r.done_at is null order by r.due_at, r.id limit $4", person.workspace_id, person.id, all, MOST)
                .fetch_all(&self.pool)
                .await?
        };
        Ok(rows.into_iter().map(Into::into).collect())
    }

    /// One request with everything, where the person may see it.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], also where it is somebody else's.
    #[crate::compiled_here]
    pub async fn request(&self, person: &Person, id: Uuid) -> Result<RequestDetail, StoreError> {
        let row = rows!("and r.id = $4", person.workspace_id, person.id, person.sees_all(), id)
            .fetch_optional(&self.pool)
            .await?
            .ok_or(StoreError::NotFound("request"))?;
        let more = sqlx::query!(
            "select r.revision, r.email, r.phone, r.contact_id, r.fields as \"fields: Json<Vec<RecordField>>\",
             r.transcript as \"transcript: Json<Vec<TranscriptLine>>\", r.note, p.name as \"done_by?\"
             from requests r left join people p on p.workspace_id = r.workspace_id and p.id = r.done_by
             where r.workspace_id = $1 and r.id = $2",
            person.workspace_id,
            id
        )
        .fetch_one(&self.pool)
        .await?;
        Ok(RequestDetail {
            row: row.into(),
            revision: more.revision,
            email: more.email,
            phone: more.phone,
            contact: more.contact_id,
            fields: more.fields.0,
            transcript: more.transcript.0,
            note: more.note,
            done_by: more.done_by,
        })
    }

    /// Says what becomes of a request.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where the person may not see it; [`StoreError::Conflict`] where somebody changed it
    /// meanwhile, or it is given to somebody who answers none.
    #[crate::compiled_here]
    pub async fn change_request(
        &self,
        person: &Person,
        id: Uuid,
        revision: i64,
        act: &RequestAct,
    ) -> Result<RequestDetail, StoreError> {
        self.request(person, id).await?;
        let (workspace, now) = (person.workspace_id, self.now());
        let mut db = self.pool.begin().await?;
        let changed = match act {
            RequestAct::Give(to) => {
                sqlx::query!(
                    "update requests r set owner_id = $4, revision = revision + 1
                 where r.workspace_id = $1 and r.id = $2 and r.revision = $3 and exists (select from people p
                   where p.workspace_id = $1 and p.id = $4 and p.active and p.role in ('rep', 'rep_lead',
                     'administrator'))",
                    workspace,
                    id,
                    revision,
                    to
                )
                .execute(&mut *db)
                .await?
            }
            RequestAct::Done(note) => {
                sqlx::query!(
                    "update requests set done_at = $4, done_by = $5, note = $6, owner_id = coalesce(owner_id, $5),
                 revision = revision + 1 where workspace_id = $1 and id = $2 and revision = $3",
                    workspace,
                    id,
                    revision,
                    now.to_sqlx() as _,
                    person.id,
                    note.as_deref()
                )
                .execute(&mut *db)
                .await?
            }
            RequestAct::Reopen => {
                sqlx::query!(
                    "update requests set done_at = null, done_by = null, revision = revision + 1
                 where workspace_id = $1 and id = $2 and revision = $3",
                    workspace,
                    id,
                    revision
                )
                .execute(&mut *db)
                .await?
            }
        };
        if changed.rows_affected() == 0 {
            return Err(StoreError::Conflict(
                "somebody changed this request meanwhile, or whom you named answers none. Look at it again".into(),
            ));
        }
        live::add(&mut db, workspace, Topic::Leads, "request", now).await?;
        db.commit().await?;
        self.wakes.stream(workspace);
        self.request(person, id).await
    }
}

/// Blanks what a conversation's request says; one that is open is done with it: nobody is left to answer.
pub(crate) async fn erase(
    db: &mut PgConnection,
    workspace: Uuid,
    conversation: Uuid,
    now: Timestamp,
) -> Result<(), StoreError> {
    sqlx::query!(
        "update requests set name = null, email = null, phone = null, company = null, contact_id = null, words = '',
         fields = '[]', transcript = '[]', note = null, done_at = coalesce(done_at, $3), revision = revision + 1
         where workspace_id = $1 and conversation_id = $2",
        workspace,
        conversation,
        now.to_sqlx() as _
    )
    .execute(db)
    .await?;
    Ok(())
}
