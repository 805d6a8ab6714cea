//! Erasing a person: their words and values are blanked everywhere, in one transaction. What the numbers need stays:
//! that there was a conversation and a lead, when, from which campaign, with which score and band, and what came of it.

use jiff::Timestamp;
use jiff_sqlx::ToSqlx;
use lumbo_deliver::webhook::EventKind;
use lumbo_dialogue::talk::{State, erased, keep_event, keep_state};
use lumbo_people::Audited;
use sqlx::PgConnection;
use sqlx::types::{Json, JsonRawValue};
use uuid::Uuid;

use super::merge::end_merges;
use crate::audit::{self, Entry};
use crate::conversations::events_of;
use crate::jobs::{self, JobKind};
use crate::leads::lock_keys;
use crate::live::{self, Topic};
use crate::{Person, Store, StoreError, requests};

/// What an erasure blanked.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
pub struct Erased {
    /// Conversations.
    pub conversations: usize,
    /// Leads.
    pub leads: usize,
    /// Places outside that are told to erase it too.
    pub told: usize,
}

/// What a lead says that was open when its person was erased.
const REASON: &str = "erased";

impl Store {
    /// What erasing a contact would blank.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where there is no such contact, or it was erased.
    #[crate::compiled_here]
    pub async fn erasure_of(&self, workspace: Uuid, contact: Uuid) -> Result<Erased, StoreError> {
        let mut db = self.pool.acquire().await?;
        let of = Of::contact(&mut db, workspace, contact).await?;
        let told = places(&mut db, workspace, &of.leads).await?;
        Ok(Erased { conversations: of.conversations.len(), leads: of.leads.len(), told: told.distinct() })
    }

    /// Erases a contact for good. Nothing brings back what was blanked; backups run out by themselves.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where there is no such contact, or it was erased before.
    #[crate::compiled_here]
    pub async fn erase_contact(&self, by: &Person, contact: Uuid) -> Result<Erased, StoreError> {
        let mut db = self.pool.begin().await?;
        let now = self.now();
        let done = contact_in(&mut db, by.workspace_id, contact, now).await?;
        let entry = Entry {
            person: Some(by.id),
            what: Audited::Erased,
            about: "what was held on a contact",
            subject: Some(contact),
            network: None,
        };
        audit::write(&mut db, by.workspace_id, &entry, now).await?;
        db.commit().await?;
        self.wakes.jobs();
        self.wakes.stream(by.workspace_id);
        Ok(done)
    }
}

/// What belongs to a person.
struct Of {
    leads: Vec<Uuid>,
    conversations: Vec<Uuid>,
}

impl Of {
    /// The contact's leads, and conversations: those of the leads, those their site signed, and others in which their
    /// address was given.
    async fn contact(db: &mut PgConnection, workspace: Uuid, contact: Uuid) -> Result<Self, StoreError> {
        let row = sqlx::query!(
            "select email, subject, array(select unnest(m.emails) from merges m where m.workspace_id = $1
               and m.kept_id = $2 and m.undone_at is null) as \"merged!\" from contacts
             where workspace_id = $1 and id = $2 and erased_at is null",
            workspace,
            contact
        )
        .fetch_optional(&mut *db)
        .await?
        .ok_or(StoreError::NotFound("contact"))?;
        // A filing of the same person meanwhile waits, and then meets nobody.
        let keys = [("email", row.email.as_deref()), ("subject", row.subject.as_deref())];
        lock_keys(db, workspace, keys).await?;
        sqlx::query_scalar!(
            "select id from contacts where workspace_id = $1 and id = $2 and erased_at is null for update",
            workspace,
            contact
        )
        .fetch_optional(&mut *db)
        .await?
        .ok_or(StoreError::NotFound("contact"))?;
        // As addresses stand within the JSON text of the values.
        let emails: Vec<String> =
            row.merged.iter().chain(&row.email).map(|email| format!("\"{}\"", email.to_lowercase())).collect();
        let leads = sqlx::query_scalar!(
            "select id from leads where workspace_id = $1 and contact_id = $2 order by id for update",
            workspace,
            contact
        )
        .fetch_all(&mut *db)
        .await?;
        let conversations = sqlx::query_scalar!(
            "select c.id from conversations c where c.workspace_id = $1 and c.erased_at is null
               and (c.id in (select s.conversation_id from lead_snapshots s where s.workspace_id = $1
                 and s.lead_id = any($2)) or c.subject = $3
                 or (not exists (select from lead_snapshots s where s.workspace_id = $1 and s.conversation_id = c.id)
                   and exists (select from unnest($4::text[]) e
                     where position(e in lower(c.state ->> 'values')) > 0)))
             order by c.id for update",
            workspace,
            &leads,
            row.subject,
            &emails
        )
        .fetch_all(&mut *db)
        .await?;
        Ok(Self { leads, conversations })
    }
}

/// Blanks a contact with all that belongs to it, in the caller's transaction.
pub(super) async fn contact_in(
    db: &mut PgConnection,
    workspace: Uuid,
    contact: Uuid,
    now: Timestamp,
) -> Result<Erased, StoreError> {
    let of = Of::contact(db, workspace, contact).await?;
    conversations_in(db, workspace, &of.conversations, now).await?;
    let told = leads_in(db, workspace, &of.leads, now).await?;
    end_merges(db, workspace, contact, now).await?;
    sqlx::query!("delete from also_given where workspace_id = $1 and contact_id = $2", workspace, contact)
        .execute(&mut *db)
        .await?;
    // What a file said of them goes with them; that the row made them stays.
    sqlx::query!(
        "update record_file_rows set wrote = '{}' where workspace_id = $1 and record_id = $2",
        workspace,
        contact
    )
    .execute(&mut *db)
    .await?;
    sqlx::query!("delete from permissions where workspace_id = $1 and contact_id = $2", workspace, contact)
        .execute(&mut *db)
        .await?;
    sqlx::query!(
        "delete from record_values where workspace_id = $1 and record = 'contact' and record_id = $2",
        workspace,
        contact
    )
    .execute(&mut *db)
    .await?;
    let company = sqlx::query_scalar!(
        "update contacts c set name = null, email = null, phone = null, subject = null, company_id = null,
         prefers = null, refuses = '{}', reach_by = null, reach_at = null, tags = '{}',
         erased_at = $3 from contacts before where c.workspace_id = $1 and c.id = $2
           and before.workspace_id = c.workspace_id and before.id = c.id returning before.company_id",
        workspace,
        contact,
        now.to_sqlx() as _
    )
    .fetch_one(&mut *db)
    .await?;
    if let Some(company) = company {
        forget_company(db, workspace, company).await?;
    }
    live::add(db, workspace, Topic::Leads, "lead", now).await?;
    Ok(Erased { conversations: of.conversations.len(), leads: of.leads.len(), told })
}

/// Takes out a company that nobody is left of, and that nobody has said anything of by hand: it was known by the
/// erased person's words only.
async fn forget_company(db: &mut PgConnection, workspace: Uuid, company: Uuid) -> Result<(), StoreError> {
    let gone = sqlx::query!(
        "delete from companies f where f.workspace_id = $1 and f.id = $2 and f.standing = 'none' and f.owner_id is null
         and not exists (select from contacts c where c.workspace_id = $1 and c.company_id = $2)
         and not exists (select from leads l where l.workspace_id = $1 and l.company_id = $2)",
        workspace,
        company
    )
    .execute(&mut *db)
    .await?
    .rows_affected();
    if gone > 0 {
        sqlx::query!(
            "delete from record_values where workspace_id = $1 and record = 'company' and record_id = $2",
            workspace,
            company
        )
        .execute(db)
        .await?;
    }
    Ok(())
}

/// Blanks what was said in conversations; that they took place stays. Their tokens open nothing any more.
pub(super) async fn conversations_in(
    db: &mut PgConnection,
    workspace: Uuid,
    conversations: &[Uuid],
    now: Timestamp,
) -> Result<(), StoreError> {
    // Events are only added; whoever blanks them says so for the transaction.
    sqlx::query_scalar!("select set_config('lumbo.erasing', 'yes', true)").fetch_one(&mut *db).await?;
    for id in conversations {
        // Whoever goes on with it at this moment is waited for.
        sqlx::query_scalar!(
            "select id from conversations where workspace_id = $1 and id = $2 for update",
            workspace,
            id
        )
        .fetch_optional(&mut *db)
        .await?;
        let blank: Vec<_> = events_of(db, workspace, *id).await?.iter().map(erased).collect();
        let state = State::of(&blank);
        let bodies = blank.iter().map(keep_event).collect::<Result<Vec<_>, _>>()?;
        let numbers: Vec<i32> = (0..bodies.len()).map(|number| i32::try_from(number).unwrap_or(i32::MAX)).collect();
        sqlx::query!(
            "update conversation_events e set body = n.body from unnest($3::int[], $4::jsonb[]) as n (number, body)
             where e.workspace_id = $1 and e.conversation_id = $2 and e.number = n.number",
            workspace,
            id,
            &numbers,
            &bodies
        )
        .execute(&mut *db)
        .await?;
        sqlx::query!(
            "update conversations set state = $3, token_hash = null, subject = null, erased_at = $4,
             outcome = coalesce(outcome, '') where workspace_id = $1 and id = $2",
            workspace,
            id,
            Json(JsonRawValue::from_string(keep_state(&state)?).map_err(StoreError::kept)?) as _,
            now.to_sqlx() as _
        )
        .execute(&mut *db)
        .await?;
        requests::erase(db, workspace, *id, now).await?;
        sqlx::query!(
            "update jobs set state = 'done', ended_at = $3 where workspace_id = $1 and subject = $2
             and kind in ('silence', 'unfinished') and state = 'waiting'",
            workspace,
            id,
            now.to_sqlx() as _
        )
        .execute(&mut *db)
        .await?;
    }
    sqlx::query_scalar!("select set_config('lumbo.erasing', '', true)").fetch_one(&mut *db).await?;
    Ok(())
}

/// Blanks leads; score, band, times and what came of them stay. One that was open is closed: nobody is left to call.
/// Gives how many places outside are told.
pub(super) async fn leads_in(
    db: &mut PgConnection,
    workspace: Uuid,
    leads: &[Uuid],
    now: Timestamp,
) -> Result<usize, StoreError> {
    // Who may have got something is known by what the leads were until now.
    let told = places(db, workspace, leads).await?;
    sqlx::query!(
        "update lead_snapshots set name = null, email = null, phone = null, company = null, fields = '[]',
         transcript = '[]', wants = '', left_at = case when left_at is not null then '' end,
         score = score || '{\"dimensions\": [], \"caps\": [], \"rule_outs\": [], \"unknown\": []}'
         where workspace_id = $1 and lead_id = any($2)",
        workspace,
        leads
    )
    .execute(&mut *db)
    .await?;
    sqlx::query!("delete from lead_values where workspace_id = $1 and lead_id = any($2)", workspace, leads)
        .execute(&mut *db)
        .await?;
    sqlx::query!(
        "update leads set name = null, email = null, phone = null, company = null, company_id = null, wants = '',
         search = '', newer = null, misled = null, zone = null, tags = '{}',
         decision = decision || '{\"steps\": [], \"looks\": []}',
         reason = case when closed then null else $4 end, status = case when closed then status else 'junk' end,
         next_what = null, next_at = null, waits_until = null, call_by = null,
         revision = revision + 1, changed_at = $3, erased_at = $3
         where workspace_id = $1 and id = any($2)",
        workspace,
        leads,
        now.to_sqlx() as _,
        REASON
    )
    .execute(&mut *db)
    .await?;
    sqlx::query!("delete from tasks where workspace_id = $1 and lead_id = any($2)", workspace, leads)
        .execute(&mut *db)
        .await?;
    sqlx::query!("delete from mails where workspace_id = $1 and lead_id = any($2)", workspace, leads)
        .execute(&mut *db)
        .await?;
    sqlx::query!(
        "update activities set what = 'Erased', before = null where workspace_id = $1 and lead_id = any($2)",
        workspace,
        leads
    )
    .execute(&mut *db)
    .await?;
    tell(db, workspace, leads, &told, now).await?;
    Ok(told.distinct())
}

/// Where erasures are told: destinations, each with a lead.
#[derive(Default)]
struct Told {
    destinations: Vec<Uuid>,
    leads: Vec<Uuid>,
}

impl Told {
    /// How many destinations they are.
    fn distinct(&self) -> usize {
        self.destinations.iter().collect::<std::collections::BTreeSet<_>>().len()
    }
}

/// Every destination that may have got something of leads: what was sent is kept for 30 days only, so that it is asked
/// who could have got it, not who did. One that never did is told of a lead it does not know.
async fn places(db: &mut PgConnection, workspace: Uuid, leads: &[Uuid]) -> Result<Told, StoreError> {
    let rows = sqlx::query!(
        "select d.id as destination, l.id as lead from destinations d join leads l on l.workspace_id = d.workspace_id
         where d.workspace_id = $1 and l.id = any($2) and d.removed_at is null
           and ((d.made_at <= l.changed_at and (d.dialogues = '{}' or l.dialogue_id = any(d.dialogues)))
             or exists (select from sendings s where s.workspace_id = $1 and s.destination_id = d.id
               and s.lead_id = l.id and (s.attempts > 0 or s.body is not null)))
         order by d.id, l.id",
        workspace,
        leads
    )
    .fetch_all(db)
    .await?;
    let (destinations, leads) = rows.into_iter().map(|row| (row.destination, row.lead)).unzip();
    Ok(Told { destinations, leads })
}

/// Forgets what was sent of leads, calls back what has not left, and tells every place that may have got something.
async fn tell(
    db: &mut PgConnection,
    workspace: Uuid,
    leads: &[Uuid],
    told: &Told,
    now: Timestamp,
) -> Result<(), StoreError> {
    sqlx::query!(
        "delete from sendings where workspace_id = $1 and lead_id = any($2) and attempts = 0
         and body is null",
        workspace,
        leads
    )
    .execute(&mut *db)
    .await?;
    sqlx::query!(
        "update sending_attempts a set answer = '' from sendings s where a.workspace_id = $1 and s.workspace_id = $1
         and s.id = a.sending_id and s.lead_id = any($2)",
        workspace,
        leads
    )
    .execute(&mut *db)
    .await?;
    // What was typed of a lead that was entered alone is of its person.
    sqlx::query!(
        "update imports i set source = '', ground = '' from import_rows r where i.workspace_id = $1 and i.file is null
           and r.workspace_id = $1 and r.import_id = i.id and r.lead_id = any($2)",
        workspace,
        leads
    )
    .execute(&mut *db)
    .await?;
    // One that failed before may have arrived all the same: it ends, and the erasure follows it.
    sqlx::query!(
        "update sendings set body = null, choose = null,
           state = case when state = 'waiting' then 'parked' else state end,
         ended_at = coalesce(ended_at, $3) where workspace_id = $1 and lead_id = any($2)",
        workspace,
        leads,
        now.to_sqlx() as _
    )
    .execute(&mut *db)
    .await?;
    let made = sqlx::query_scalar!(
        "insert into sendings (workspace_id, id, destination_id, lead_id, event, made_at)
         select $1, gen_random_uuid(), n.destination, n.lead, $4, $5
         from unnest($2::uuid[], $3::uuid[]) as n (destination, lead) returning id",
        workspace,
        &told.destinations,
        &told.leads,
        EventKind::ContactErased.as_str(),
        now.to_sqlx() as _
    )
    .fetch_all(&mut *db)
    .await?;
    for id in &made {
        jobs::set(db, workspace, JobKind::Send, *id, &id.to_string(), now, now).await?;
    }
    Ok(())
}
