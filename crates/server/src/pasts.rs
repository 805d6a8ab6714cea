//! Past leads in memory, so that a scorecard can be held against them while a threshold is dragged. Read once for each
//! dialogue, and from then on only what was changed since.

use std::collections::HashMap;
use std::sync::Arc;

use jiff::{SignedDuration, Timestamp};
use lumbo_numbers::{End, Filed, PastLeads};
use lumbo_records::LeadStatus;
use lumbo_store::PastRow;
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
    loop {
        let rows = app.store.past_leads(workspace, dialogue, place).await?;
        let Some(last) = rows.last() else { break };
        place = (last.changed_at, last.id);
        let mut leads = Arc::clone(&kept.leads);
        let more = rows.len() > 1;
        kept.leads = app
            .busy
            .work(move || {
                let known = Arc::make_mut(&mut leads);
                rows.into_iter().for_each(|row| put(known, row));
                leads
            })
            .await?;
        kept.seen = Some(place.0);
        if !more {
            break;
        }
    }
    Ok(Arc::clone(&kept.leads))
}
