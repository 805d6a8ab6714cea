//! What people are told in the application: that a lead is theirs, is offered to them, is late; that a request came;
//! that a destination fails;
//! that a task is due.

use jiff::{SignedDuration, Timestamp};
use jiff_sqlx::{Timestamp as SqlTimestamp, ToSqlx};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use sqlx::PgConnection;
use sqlx::types::Json;
use uuid::Uuid;

use crate::jobs::{self, JobKind};
use crate::live::{self, Topic};
use crate::{Person, Store, StoreError};

/// How many are shown.
const SHOWN: i64 = 50;
/// How long they are kept.
pub(crate) const KEPT: SignedDuration = SignedDuration::from_hours(24 * 30);

/// What somebody is told.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum NoticeKind {
    /// A lead is theirs.
    Yours,
    /// Nobody has touched a good lead: whoever takes it has it.
    Offered,
    /// A lead was not called in time.
    Late,
    /// A lead of theirs has a better band.
    Rose,
    /// A request came to a queue of theirs.
    Request,
    /// A destination has been failing.
    Failing,
    /// The moment of a task has come.
    Task,
}

impl NoticeKind {
    const ALL: [Self; 7] =
        [Self::Yours, Self::Offered, Self::Late, Self::Rose, Self::Request, Self::Failing, Self::Task];

    /// Its name in the database.
    #[must_use]
    pub fn as_str(self) -> &'static str {
        match self {
            Self::Yours => "yours",
            Self::Offered => "offered",
            Self::Late => "late",
            Self::Rose => "rose",
            Self::Request => "request",
            Self::Failing => "failing",
            Self::Task => "task",
        }
    }

    fn parse(text: &str) -> Result<Self, StoreError> {
        let found = Self::ALL.into_iter().find(|kind| kind.as_str() == text);
        found.ok_or_else(|| StoreError::Kept(format!("there is no notice “{text}”")))
    }
}

/// What a notice is about.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum About {
    Lead(Uuid),
    Request(Uuid),
    Destination(Uuid),
    Task(Uuid),
}

/// How somebody wants to be told.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(rename = "AlertSettings")]
pub struct Alerts {
    /// Only leads of bands from this place on, counted from the lowest, 0; -1 for all.
    #[serde(default = "every_band")]
    pub from_rank: i32,
    /// Whether each notice also comes as a mail.
    #[serde(default)]
    pub mail: bool,
    /// Whether a sound is played.
    #[serde(default)]
    pub sound: bool,
    /// Whether the desktop shows it while the window is in the background.
    #[serde(default)]
    pub desktop: bool,
    /// The hours of one's own zone in which sound and desktop tell one something: from this hour.
    #[serde(default)]
    pub from_hour: u8,
    /// To this hour; the whole day where both are the same.
    #[serde(default)]
    pub until_hour: u8,
}

fn every_band() -> i32 {
    -1
}

impl Default for Alerts {
    fn default() -> Self {
        Self { from_rank: -1, mail: false, sound: false, desktop: false, from_hour: 0, until_hour: 0 }
    }
}

/// What a notice that goes by mail is about.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum MailedNotice {
    /// A lead.
    Lead(Uuid),
    /// A request, by its id and what it is called.
    Request(Uuid, String),
    /// A destination, by its name.
    Destination(String),
    /// A task: its lead, and what is owed.
    Task(Uuid, String),
}

/// A lead as a notice tells of it.
#[derive(Debug, Clone)]
pub struct NoticeLead {
    /// Its id.
    pub id: Uuid,
    /// Its revision; whoever takes it names it.
    pub revision: i64,
    /// Who.
    pub name: Option<String>,
    /// Their company.
    pub company: Option<String>,
    /// What they want.
    pub wants: String,
    /// Their number.
    pub phone: Option<String>,
    /// The band's name.
    pub band: Option<String>,
    /// Its place from the lowest.
    pub band_rank: i32,
    /// When to call at the latest.
    pub call_by: Option<Timestamp>,
    /// Who has it.
    pub owner: Option<String>,
    /// Whether it is the reader's.
    pub mine: bool,
    /// Whether nobody tried to reach them yet.
    pub untried: bool,
}

/// A notice.
#[derive(Debug, Clone)]
pub struct NoticeRow {
    /// Its id.
    pub id: Uuid,
    /// What it says.
    pub kind: NoticeKind,
    /// When.
    pub at: Timestamp,
    /// Whether it was seen.
    pub seen: bool,
    /// The lead it is about.
    pub lead: Option<NoticeLead>,
    /// The request it is about: its id, what it is called, who asks.
    pub request: Option<(Uuid, String, Option<String>)>,
    /// The destination it is about: its id and name.
    pub destination: Option<(Uuid, String)>,
    /// The task it is about: its lead, what is owed, the lead's name.
    pub task: Option<(Uuid, String, Option<String>)>,
}

/// Tells people something, in the caller's transaction; who was told the same and has not seen it yet is not told
/// twice. The stream's row is locked, so this comes late in it.
pub(crate) async fn tell(
    db: &mut PgConnection,
    workspace: Uuid,
    people: &[Uuid],
    kind: NoticeKind,
    about: About,
    now: Timestamp,
) -> Result<(), StoreError> {
    let (mut lead, mut request, mut destination, mut task) = (None, None, None, None);
    match about {
        About::Lead(id) => lead = Some(id),
        About::Request(id) => request = Some(id),
        About::Destination(id) => destination = Some(id),
        About::Task(id) => task = Some(id),
    }
    let told = sqlx::query!(
        "with told as (insert into notices (workspace_id, id, person_id, kind, lead_id, request_id, destination_id, at,
             task_id)
         select $1, gen_random_uuid(), n.person, $3, $4, $5, $6, $7, $8 from unnest($2::uuid[]) as n (person)
         where not exists (select from notices o where o.workspace_id = $1 and o.person_id = n.person and o.kind = $3
           and o.seen_at is null and (o.lead_id = $4 or o.request_id = $5 or o.destination_id = $6 or o.task_id = $8))
         returning id, person_id)
         select t.id, coalesce((p.alerts->>'mail')::boolean, false) as \"mail!\" from told t
         join people p on p.workspace_id = $1 and p.id = t.person_id",
        workspace,
        people,
        kind.as_str(),
        lead,
        request,
        destination,
        now.to_sqlx() as _,
        task
    )
    .fetch_all(&mut *db)
    .await?;
    for notice in told.iter().filter(|notice| notice.mail) {
        jobs::set(db, workspace, JobKind::NoticeMail, notice.id, &notice.id.to_string(), now, now).await?;
    }
    if !told.is_empty() {
        live::add(db, workspace, Topic::Notices, "notice", now).await?;
    }
    Ok(())
}

/// Tells whoever has a lead, and their deputy while they are away; not who did it themselves.
pub(crate) async fn tell_owner(
    db: &mut PgConnection,
    workspace: Uuid,
    lead: Uuid,
    kind: NoticeKind,
    but: Option<Uuid>,
    now: Timestamp,
) -> Result<(), StoreError> {
    let people = sqlx::query_scalar!(
        "select distinct p.id from leads l join people p on p.workspace_id = l.workspace_id
           and (p.id = l.owner_id or p.id = stands_in(l.workspace_id, l.owner_id, $4)) and p.active
         where l.workspace_id = $1 and l.id = $2 and not l.closed and p.id is distinct from $3",
        workspace,
        lead,
        but,
        now.to_sqlx() as _
    )
    .fetch_all(&mut *db)
    .await?;
    tell(db, workspace, &people, kind, About::Lead(lead), now).await
}

impl Store {
    /// What somebody was told lately, the newest first, and how much of it they have not seen; what was dealt with
    /// since is news no more.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn notices(&self, person: &Person) -> Result<(Vec<NoticeRow>, i64), StoreError> {
        let all = person.sees_all();
        let rows = sqlx::query!(
            "select n.id, n.kind, n.at as \"at: SqlTimestamp\", n.seen_at is not null or coalesce(
                 case when n.kind in ('yours', 'offered', 'late') then l.closed or l.touched_at > n.at
                   when n.kind = 'rose' then l.closed when n.kind = 'request' then r.done_at is not null
                   when n.kind = 'task' then k.done_at is not null
                   else d.failing_since is null and d.paused_why is null end, false) as \"seen!\", l.id as \"lead?\",
               l.revision as \"revision?\", l.name, l.company, l.wants as \"wants?\", l.phone, l.band_label,
               l.band_rank as \"band_rank?\", l.call_by as \"call_by: SqlTimestamp\", o.name as \"owner?\",
               coalesce(l.owner_id = $2, false) as \"mine!\", coalesce(l.status = 'new', false) as \"untried!\",
               r.id as \"request?\", r.label as \"request_label?\", r.name as request_name,
               d.id as \"destination?\", d.name as \"destination_name?\",
               k.lead_id as \"task_lead?\", k.says as \"task_says?\", tl.name as \"task_name?\"
             from notices n
             left join leads l on l.workspace_id = n.workspace_id and l.id = n.lead_id and l.erased_at is null
               and ($4 or l.owner_id in (select seen_by($1, $2))
                 or exists (select from queue_members m where m.workspace_id = l.workspace_id
                 and m.queue_id = l.queue_id and m.person_id in (select seen_by($1, $2))))
             left join people o on o.workspace_id = l.workspace_id and o.id = l.owner_id
             left join requests r on r.workspace_id = n.workspace_id and r.id = n.request_id
             left join destinations d on d.workspace_id = n.workspace_id and d.id = n.destination_id
               and d.removed_at is null
             left join tasks k on k.workspace_id = n.workspace_id and k.id = n.task_id
             left join leads tl on tl.workspace_id = k.workspace_id and tl.id = k.lead_id
             where n.workspace_id = $1 and n.person_id = $2 and coalesce(l.id, r.id, d.id, k.id) is not null
             order by n.at desc, n.id desc limit $3",
            person.workspace_id,
            person.id,
            SHOWN,
            all
        )
        .fetch_all(&self.pool)
        .await?;
        let rows: Vec<NoticeRow> = rows
            .into_iter()
            .map(|row| {
                let lead = row.lead.map(|id| NoticeLead {
                    id,
                    revision: row.revision.unwrap_or_default(),
                    name: row.name,
                    company: row.company,
                    wants: row.wants.unwrap_or_default(),
                    phone: row.phone,
                    band: row.band_label,
                    band_rank: row.band_rank.unwrap_or_default(),
                    call_by: row.call_by.map(SqlTimestamp::to_jiff),
                    owner: row.owner,
                    mine: row.mine,
                    untried: row.untried,
                });
                let (request, request_name) = (row.request.zip(row.request_label), row.request_name);
                Ok(NoticeRow {
                    id: row.id,
                    kind: NoticeKind::parse(&row.kind)?,
                    at: row.at.to_jiff(),
                    seen: row.seen,
                    lead,
                    request: request.map(|(id, label)| (id, label, request_name)),
                    destination: row.destination.zip(row.destination_name),
                    task: row.task_lead.zip(row.task_says).map(|(lead, says)| (lead, says, row.task_name)),
                })
            })
            .collect::<Result<_, StoreError>>()?;
        let unseen = i64::try_from(rows.iter().filter(|row| !row.seen).count()).unwrap_or(i64::MAX);
        Ok((rows, unseen))
    }

    /// Notes that somebody has seen a notice, or all of them.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn notices_seen(&self, person: &Person, one: Option<Uuid>) -> Result<(), StoreError> {
        sqlx::query!(
            "update notices set seen_at = $4 where workspace_id = $1 and person_id = $2 and seen_at is null
             and ($3::uuid is null or id = $3)",
            person.workspace_id,
            person.id,
            one,
            self.now().to_sqlx() as _
        )
        .execute(&self.pool)
        .await?;
        Ok(())
    }

    /// A notice that is to go by mail: whose address, what it says, what about. Nothing where they want no mails, have
    /// seen it, or it is news no more.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn notice_to_mail(
        &self,
        workspace: Uuid,
        id: Uuid,
    ) -> Result<Option<(String, NoticeKind, MailedNotice)>, StoreError> {
        let row = sqlx::query!(
            "select p.email, n.kind, l.id as \"lead?\", r.id as \"request?\", r.label as \"label?\",
               d.name as \"destination?\", k.lead_id as \"task?\", k.says as \"says?\"
             from notices n join people p on p.workspace_id = n.workspace_id and p.id = n.person_id
             left join leads l on l.workspace_id = n.workspace_id and l.id = n.lead_id and l.erased_at is null
               and not l.closed and (n.kind = 'rose' or l.touched_at is null or l.touched_at <= n.at)
               and l.band_rank >= coalesce((p.alerts->>'from_rank')::integer, -1)
             left join requests r on r.workspace_id = n.workspace_id and r.id = n.request_id and r.done_at is null
             left join destinations d on d.workspace_id = n.workspace_id and d.id = n.destination_id
               and d.removed_at is null
             left join tasks k on k.workspace_id = n.workspace_id and k.id = n.task_id and k.done_at is null
             where n.workspace_id = $1 and n.id = $2 and n.seen_at is null and p.active
               and coalesce((p.alerts->>'mail')::boolean, false)",
            workspace,
            id
        )
        .fetch_optional(&self.pool)
        .await?;
        let Some(row) = row else { return Ok(None) };
        let about = match (row.lead, row.request.zip(row.label), row.destination, row.task.zip(row.says)) {
            (Some(lead), ..) => MailedNotice::Lead(lead),
            (None, Some((id, label)), ..) => MailedNotice::Request(id, label),
            (None, None, Some(name), _) => MailedNotice::Destination(name),
            (None, None, None, Some((lead, says))) => MailedNotice::Task(lead, says),
            (None, None, None, None) => return Ok(None),
        };
        Ok(Some((row.email, NoticeKind::parse(&row.kind)?, about)))
    }

    /// How somebody wants to be told.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn alerts(&self, person: &Person) -> Result<Alerts, StoreError> {
        let alerts = sqlx::query_scalar!(
            "select alerts as \"alerts: Json<Alerts>\" from people where workspace_id = $1 and id = $2",
            person.workspace_id,
            person.id
        )
        .fetch_one(&self.pool)
        .await?;
        Ok(alerts.map(|alerts| alerts.0).unwrap_or_default())
    }

    /// Keeps how somebody wants to be told.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn put_alerts(&self, person: &Person, alerts: &Alerts) -> Result<(), StoreError> {
        sqlx::query!(
            "update people set alerts = $3 where workspace_id = $1 and id = $2",
            person.workspace_id,
            person.id,
            Json(alerts) as _
        )
        .execute(&self.pool)
        .await?;
        Ok(())
    }
}
