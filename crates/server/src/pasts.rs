//! Past leads in memory, so that a scorecard can be held against them while a threshold is dragged. Read once for each
//! dialogue, and from then on only what was changed since.

use std::collections::{HashMap, HashSet};
use std::sync::Arc;

use jiff::{SignedDuration, Timestamp};
use lumbo_numbers::{End, Filed, PastLeads};
use lumbo_records::LeadStatus;
use lumbo_store::{PAST_AT_ONCE, PastRow};
use tokio::sync::Mutex;
use uuid::Uuid;

use crate::{App, Problem};

/// Most dialogues whose past is kept in memory.
const KEPT: usize = 20;
/// What was changed so shortly before is read again: a transaction that began earlier may end later.
const OVERLAP: SignedDuration = SignedDuration::from_secs(30);

type Shared = Arc<Mutex<Kept>>;

#[derive(Default)]
struct Kept {
    seen: Option<Timestamp>,
    /// What was read of the overlap, with when it was changed: read again, it is known.
    lately: HashSet<(Uuid, Timestamp)>,
    leads: Arc<PastLeads>,
}

/// Past leads by dialogue.
#[derive(Default)]
pub(crate) struct Pasts(Mutex<HashMap<(Uuid, Uuid), Shared>>);

/// What became of a lead, as a scorecard is held against it.
fn end(status: LeadStatus) -> End {
    match status {
        LeadStatus::Won => End::Won,
        LeadStatus::Accepted => End::Accepted,
        LeadStatus::Lost | LeadStatus::NotAFit => End::Lost,
        LeadStatus::NotReached => End::NotReached,
        LeadStatus::Junk => End::Junk,
        LeadStatus::New | LeadStatus::Trying | LeadStatus::Spoken | LeadStatus::Booked | LeadStatus::Later => End::Open,
    }
}

/// Adds what was read to the leads that are known.
fn put(leads: &mut PastLeads, row: PastRow) {
    let answers = row.fields.iter().filter_map(|field| Some((field.id.clone(), field.typed()?)));
    let filed = Filed {
        queue: row.queue,
        owner: row.owner,
        company: row.company,
        tried: row.touched_at,
        context: row.context.map(Box::new),
        ..Filed::new(row.id, row.filed_at, end(row.status))
    };
    leads.put(filed, answers);
}

/// The leads of a dialogue, as they are now.
pub(crate) async fn of(app: &App, workspace: Uuid, dialogue: Uuid) -> Result<Arc<PastLeads>, Problem> {
    let shared = {
        let mut all = app.pasts.0.lock().await;
        if all.len() >= KEPT && !all.contains_key(&(workspace, dialogue)) {
            all.clear();
        }
        Arc::clone(all.entry((workspace, dialogue)).or_default())
    };
    let mut kept = shared.lock().await;
    let from = kept.seen.map_or(Timestamp::MIN, |seen| seen - OVERLAP);
    let mut place = (from.max(Timestamp::UNIX_EPOCH), Uuid::nil());
    let mut lately = std::mem::take(&mut kept.lately);
    // Copied once, when the first lead comes that is not known yet, however many parts are read.
    let mut leads: Option<PastLeads> = None;
    let mut seen = kept.seen;
    loop {
        let rows = app.store.past_leads(workspace, dialogue, place).await?;
        let Some(last) = rows.last() else { break };
        place = (last.changed_at, last.id);
        seen = seen.max(Some(place.0));
        let full = rows.len() >= PAST_AT_ONCE;
        let new: Vec<PastRow> = rows.into_iter().filter(|row| lately.insert((row.id, row.changed_at))).collect();
        if !new.is_empty() {
            let mut known = leads.take().unwrap_or_else(|| PastLeads::clone(&kept.leads));
            let put_all = move || {
                new.into_iter().for_each(|row| put(&mut known, row));
                known
            };
            leads = Some(app.busy.work(put_all).await?);
        }
        if !full {
            break;
        }
    }
    if let Some(leads) = leads {
        kept.leads = Arc::new(leads);
    }
    kept.seen = seen;
    let from = kept.seen.map_or(Timestamp::MIN, |seen| seen - OVERLAP);
    lately.retain(|(_, changed)| *changed >= from);
    kept.lately = lately;
    Ok(Arc::clone(&kept.leads))
}
