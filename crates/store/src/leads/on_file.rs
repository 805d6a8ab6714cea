//! Reading what is on file. Locks are taken in one order always: the identities that filings match by, sorted; then
//! rows of contacts, companies, leads and queues, each by id. Two filings at once so see each other, and never wait in
//! a circle.

use std::collections::BTreeMap;

use jiff_sqlx::{Timestamp as SqlTimestamp, ToSqlx};
use lumbo_records::{
    CompanyOnFile, ContactOnFile, JOINED_WITHIN, Kept, LeadOnFile, LeadStatus, OnFile, Said, Source, Standing, Turn,
};
use lumbo_route::{Holder, Picks, Queue};
use lumbo_value::Value;
use sha2::{Digest, Sha256};
use sqlx::PgConnection;
use sqlx::types::Json;
use uuid::Uuid;

use super::file::FilingOf;
use crate::{StoreError, queues};

/// A contact whose lead was closed within this time goes to its owner again.
const OWNED_FOR: jiff::SignedDuration = jiff::SignedDuration::from_hours(90 * 24);

/// Reads everything that the filing is decided on, and locks it.
pub(super) async fn read(db: &mut PgConnection, filing: &FilingOf<'_>, said: &Said) -> Result<OnFile, StoreError> {
    let workspace = filing.spot.workspace;
    lock_identities(db, workspace, said).await?;
    let own_lead = sqlx::query_scalar!(
        "select lead_id from lead_snapshots where workspace_id = $1 and conversation_id = $2",
        workspace,
        filing.spot.conversation
    )
    .fetch_optional(&mut *db)
    .await?;
    let own_contact = match own_lead {
        Some(lead) => Some(
            sqlx::query_scalar!("select contact_id from leads where workspace_id = $1 and id = $2", workspace, lead)
                .fetch_one(&mut *db)
                .await?,
        ),
        None => None,
    };
    // The one that the site signed comes before the one with the address.
    let matched = sqlx::query_scalar!(
        "select id as \"id!\" from (
           select id, subject is not distinct from $2 as signed from contacts
             where workspace_id = $1 and merged_into is null and (subject = $2 or lower(email) = lower($3))
           union all select kept_id, gone_subject is not distinct from $2 from merges
             where workspace_id = $1 and undone_at is null and (gone_subject = $2 or emails @> array[lower($3)])) c
         order by signed desc limit 1",
        workspace,
        said.subject,
        said.who.email
    )
    .fetch_optional(&mut *db)
    .await?;
    let mut contacts =
        contacts(db, workspace, &[own_contact, matched].into_iter().flatten().collect::<Vec<_>>(), own_lead).await?;
    let own_contact = own_contact.and_then(|id| contacts.iter().find(|contact| contact.id == id).cloned());
    let contact = matched
        .and_then(|id| contacts.iter().position(|contact| contact.id == id))
        .map(|place| contacts.swap_remove(place));

    let mut company = match &said.domain {
        Some(domain) => {
            sqlx::query_scalar!("select id from companies where workspace_id = $1 and domain = $2", workspace, domain)
                .fetch_optional(&mut *db)
                .await?
        }
        None => None,
    };
    if company.is_none() && said.domain.is_none() {
        company = match own_lead {
            Some(lead) => {
                sqlx::query_scalar!("select company_id from leads where workspace_id = $1 and id = $2", workspace, lead)
                    .fetch_one(&mut *db)
                    .await?
            }
            None => None,
        };
        company = company.or_else(|| own_contact.as_ref().or(contact.as_ref()).and_then(|contact| contact.company));
    }
    let own_company = match (own_lead, &said.domain) {
        (Some(lead), Some(_)) => made_by_name(db, workspace, lead).await?,
        (None, _) | (_, None) => None,
    };
    let mut companies = [None, None];
    for (place, id) in [company, own_company].into_iter().enumerate() {
        if let Some(id) = id {
            let even_if_owned = filing.decision.even_if_owned;
            companies[place] = Some(company_on_file(db, workspace, id, even_if_owned, filing.now).await?);
        }
    }
    let [company, own_company] = companies;

    let open = match (&own_lead, own_contact.as_ref().or(contact.as_ref())) {
        (None, Some(contact)) => {
            sqlx::query_scalar!(
                "select id from leads where workspace_id = $1 and contact_id = $2 and dialogue_id = $3 and not closed
                 and filed_at > $4 order by filed_at desc, id desc limit 1",
                workspace,
                contact.id,
                filing.spot.dialogue,
                filing.now.saturating_sub(JOINED_WITHIN).map_err(StoreError::kept)?.to_sqlx() as _
            )
            .fetch_optional(&mut *db)
            .await?
        }
        _ => None,
    };
    let own = lead(db, workspace, own_lead).await?;
    let open = lead(db, workspace, open).await?;

    let mut named = match &filing.decision.queue {
        Some(key) => {
            sqlx::query_scalar!("select id from queues where workspace_id = $1 and key = $2", workspace, key)
                .fetch_optional(&mut *db)
                .await?
        }
        None => None,
    };
    // Where it stays whose it is, the rotation is not looked at.
    let stays = own
        .as_ref()
        .map_or(open.is_some(), |lead| lead.touched || (lead.queue == named && (filing.early || !lead.undecided)));
    let former = own.as_ref().filter(|_| !stays).and_then(|lead| lead.turn.as_ref()).map(|turn| turn.queue);
    if stays {
        named = None;
    }
    let chain = match named {
        Some(first) => queues::chain(db, workspace, first).await?,
        None => Vec::new(),
    };
    let ids: Vec<Uuid> = chain.iter().copied().chain(former).collect();
    let mut rotating = queues::lock(db, workspace, &ids, filing.now).await?;
    let mut take = |id: Uuid| rotating.iter().position(|queue| queue.id == id).map(|place| rotating.swap_remove(place));
    let chain: Vec<Queue> = chain.into_iter().filter_map(&mut take).collect();
    let contact_of = own_contact.as_ref().or(contact.as_ref()).map(|contact| contact.id);
    let has_owner = match contact_of.filter(|_| !stays && !filing.decision.even_if_owned) {
        Some(contact) => owner_of(db, workspace, contact, own_lead, filing.now).await?,
        None => None,
    };
    let skills = filing.decision.skills.clone();
    let of = company.as_ref().or(own_company.as_ref()).map(|company| company.id);
    let company_owners = match of.filter(|_| goes_by_company(&chain)) {
        Some(company) => owners_of_company(db, workspace, company, own_lead, filing.now).await?,
        None => Vec::new(),
    };
    Ok(OnFile { contact, own_contact, company, own_company, own, open, chain, skills, has_owner, company_owners })
}

/// True where a queue of a chain goes to whoever has a lead of the same company.
pub(crate) fn goes_by_company(chain: &[Queue]) -> bool {
    chain.iter().any(|queue| queue.picks == Picks::SameCompany)
}

/// Who has leads of a company that are open, or were closed in the last 90 days, the newest lead's owner first.
pub(crate) async fn owners_of_company(
    db: &mut PgConnection,
    workspace: Uuid,
    company: Uuid,
    but: Option<Uuid>,
    now: jiff::Timestamp,
) -> Result<Vec<Uuid>, StoreError> {
    let lately = now.saturating_sub(OWNED_FOR).map_err(StoreError::kept)?;
    let owners = sqlx::query_scalar!(
        "select owner_id as \"owner!\" from leads where workspace_id = $1 and company_id = $2
           and id is distinct from $3 and owner_id is not null and status <> 'junk'
           and (not closed or changed_at > $4) order by filed_at desc, id desc limit 50",
        workspace,
        company,
        but,
        lately.to_sqlx() as _
    )
    .fetch_all(db)
    .await?;
    Ok(owners)
}

/// Who has a lead of a contact that is open, or was closed in the last 90 days, and takes new ones; the newest first.
async fn owner_of(
    db: &mut PgConnection,
    workspace: Uuid,
    contact: Uuid,
    but: Option<Uuid>,
    now: jiff::Timestamp,
) -> Result<Option<Holder>, StoreError> {
    let lately = now.saturating_sub(OWNED_FOR).map_err(StoreError::kept)?;
    let row = sqlx::query!(
        "select p.id as owner, p.name as owner_name, h.id, h.name from leads l
         join people p on p.workspace_id = l.workspace_id and p.id = l.owner_id
         join people h on h.workspace_id = l.workspace_id and h.id = stands_in(l.workspace_id, l.owner_id, $5)
         where l.workspace_id = $1 and l.contact_id = $2 and l.id is distinct from $3
           and l.status <> 'junk' and (not l.closed or l.changed_at > $4)
         order by l.closed, l.filed_at desc, l.id desc limit 1",
        workspace,
        contact,
        but,
        lately.to_sqlx() as _,
        now.to_sqlx() as _
    )
    .fetch_optional(db)
    .await?;
    Ok(row.map(|row| held(row.owner, row.owner_name, row.id, row.name)))
}

/// Who has what falls to somebody: they themselves, or their deputy.
pub(crate) fn held(owner: Uuid, owner_name: String, person: Uuid, name: String) -> Holder {
    Holder { person, name, stands_in_for: (owner != person).then_some(owner_name) }
}

/// Locks what filings match by until the transaction ends, so that two filings of one person, or of one firm, go one
/// after the other.
async fn lock_identities(db: &mut PgConnection, workspace: Uuid, said: &Said) -> Result<(), StoreError> {
    let keys = [("subject", &said.subject), ("email", &said.who.email), ("domain", &said.domain)];
    lock_keys(db, workspace, keys.into_iter().map(|(what, text)| (what, text.as_deref()))).await
}

/// Locks parts of who somebody is until the transaction ends, in one order always.
pub(crate) async fn lock_keys(
    db: &mut PgConnection,
    workspace: Uuid,
    keys: impl IntoIterator<Item = (&str, Option<&str>)>,
) -> Result<(), StoreError> {
    let key = |what: &str, text: &str| {
        let digest = Sha256::new()
            .chain_update(workspace.as_bytes())
            .chain_update(what)
            .chain_update(text.to_lowercase())
            .finalize();
        digest.first_chunk().map_or(0, |bytes| i64::from_le_bytes(*bytes))
    };
    let mut keys: Vec<i64> = keys.into_iter().filter_map(|(what, text)| text.map(|text| key(what, text))).collect();
    keys.sort_unstable();
    for key in keys {
        sqlx::query!("select pg_advisory_xact_lock($1)", key).execute(&mut *db).await?;
    }
    Ok(())
}

/// Values of records, by record and field.
type Values = BTreeMap<(Uuid, String), Kept<Option<Value>>>;

async fn values(db: &mut PgConnection, workspace: Uuid, record: &str, ids: &[Uuid]) -> Result<Values, StoreError> {
    let rows = sqlx::query!(
        "select record_id, field_id, typed as \"typed: Json<Value>\", source as \"source: Json<Source>\" from
         record_values
         where workspace_id = $1 and record = $2 and record_id = any($3)",
        workspace,
        record,
        ids
    )
    .fetch_all(db)
    .await?;
    Ok(rows
        .into_iter()
        .map(|row| {
            ((row.record_id, row.field_id), Kept { value: row.typed.map(|typed| typed.0), source: row.source.0 })
        })
        .collect())
}

fn of_record(values: &Values, id: Uuid) -> BTreeMap<String, Kept<Option<Value>>> {
    values
        .iter()
        .filter(|((record, field), _)| *record == id && !field.starts_with('@'))
        .map(|((_, field), kept)| (field.clone(), kept.clone()))
        .collect()
}

/// A column with where it came from.
fn identity(values: &Values, id: Uuid, field: &str, text: Option<String>) -> Option<Kept<String>> {
    let source = values.get(&(id, field.to_owned())).map_or(Source::System, |kept| kept.source);
    text.map(|value| Kept { value, source })
}

async fn contacts(
    db: &mut PgConnection,
    workspace: Uuid,
    ids: &[Uuid],
    own_lead: Option<Uuid>,
) -> Result<Vec<ContactOnFile>, StoreError> {
    if ids.is_empty() {
        return Ok(Vec::new());
    }
    let rows = sqlx::query!(
        "select id, name, email, phone, company_id from contacts where workspace_id = $1 and id =
            any($2) order by id for update",
        workspace,
        ids
    )
    .fetch_all(&mut *db)
    .await?;
    let values = values(db, workspace, "contact", ids).await?;
    let mut out = Vec::with_capacity(rows.len());
    for row in rows {
        let others = sqlx::query_scalar!(
            "select exists (select from leads where workspace_id = $1 and contact_id = $2 and id is distinct from $3)
               or exists (select from lead_snapshots where workspace_id = $1 and lead_id = $3 having count(*) > 1)
                 as \"others!\"",
            workspace,
            row.id,
            own_lead
        )
        .fetch_one(&mut *db)
        .await?;
        out.push(ContactOnFile {
            id: row.id,
            name: identity(&values, row.id, "@name", row.name),
            email: identity(&values, row.id, "@email", row.email),
            phone: identity(&values, row.id, "@phone", row.phone),
            company: row.company_id,
            fields: of_record(&values, row.id),
            of_this_alone: own_lead.is_some() && !others,
        });
    }
    Ok(out)
}

/// The company of a lead that has no domain and that no other lead and no other contact has.
async fn made_by_name(db: &mut PgConnection, workspace: Uuid, lead: Uuid) -> Result<Option<Uuid>, StoreError> {
    let found = sqlx::query_scalar!(
        "select c.id from leads l join companies c on c.workspace_id = l.workspace_id and c.id = l.company_id
         where l.workspace_id = $1 and l.id = $2 and c.domain is null and c.standing = 'none' and c.owner_id is null
           and not exists (select from leads o where o.workspace_id = $1 and o.company_id = c.id and o.id <> l.id)
           and not exists (select from contacts o where o.workspace_id = $1 and o.company_id = c.id
             and o.id <> l.contact_id)",
        workspace,
        lead
    )
    .fetch_optional(db)
    .await?;
    Ok(found)
}

async fn company_on_file(
    db: &mut PgConnection,
    workspace: Uuid,
    id: Uuid,
    even_if_owned: bool,
    now: jiff::Timestamp,
) -> Result<CompanyOnFile, StoreError> {
    let row = sqlx::query!(
        "select c.name, c.standing, p.id as \"owner?\", p.name as \"owner_name?\", h.id as \"holder?\",
           h.name as \"holder_name?\" from companies c
         left join people p on p.workspace_id = c.workspace_id and p.id = c.owner_id
         left join people h on h.workspace_id = c.workspace_id and h.id = stands_in(c.workspace_id, c.owner_id, $3)
         where c.workspace_id = $1 and c.id = $2 for update of c",
        workspace,
        id,
        now.to_sqlx() as _
    )
    .fetch_one(&mut *db)
    .await?;
    let values = values(db, workspace, "company", &[id]).await?;
    Ok(CompanyOnFile {
        id,
        name: identity(&values, id, "@name", row.name),
        standing: standing(&row.standing)?,
        owner: row
            .owner
            .zip(row.owner_name)
            .zip(row.holder.zip(row.holder_name))
            .filter(|_| !even_if_owned)
            .map(|((owner, owner_name), (person, name))| held(owner, owner_name, person, name)),
        fields: of_record(&values, id),
    })
}

/// The standing of a column.
pub(crate) fn standing(text: &str) -> Result<Standing, StoreError> {
    Standing::parse(text).ok_or_else(|| StoreError::Kept(format!("there is no standing “{text}”")))
}

async fn lead(db: &mut PgConnection, workspace: Uuid, id: Option<Uuid>) -> Result<Option<LeadOnFile>, StoreError> {
    let Some(id) = id else { return Ok(None) };
    let row = sqlx::query!(
        "select id, contact_id, company_id, shows, band_rank, status, touched_at is not null as \"touched!\",
         queue_id, owner_id, case when not turn_back then turn end as \"turn: Json<Turn>\", undecided,
         filed_at as \"filed_at: SqlTimestamp\"
         from leads where workspace_id = $1 and id = $2 for update",
        workspace,
        id
    )
    .fetch_one(db)
    .await?;
    Ok(Some(LeadOnFile {
        id: row.id,
        contact: row.contact_id,
        company: row.company_id,
        shows: row.shows,
        rank: row.band_rank,
        status: LeadStatus::parse(&row.status)
            .ok_or_else(|| StoreError::Kept(format!("there is no status “{}”", row.status)))?,
        touched: row.touched,
        queue: row.queue_id,
        owner: row.owner_id,
        turn: row.turn.map(|turn| turn.0),
        undecided: row.undecided,
        filed_at: row.filed_at.to_jiff(),
    }))
}
