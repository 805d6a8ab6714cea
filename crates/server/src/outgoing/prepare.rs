//! What goes for an event, by the kind of destination. It is frozen by the first attempt.

use lumbo_deliver::mail::{Letter, of_lead};
use lumbo_deliver::mapping::{RecordPlans, row, upserts};
use lumbo_deliver::webhook::{Event, EventKind, chat_text};
use lumbo_store::{Destination, DestinationKind, Store, StoreError, ToSend};
use serde::{Deserialize, Serialize};
use uuid::Uuid;

/// What goes, or why nothing can.
pub(crate) type Prepared = Result<String, &'static str>;

/// What goes for a sending.
pub(crate) async fn prepare(
    store: &Store,
    workspace: Uuid,
    to: &Destination,
    sending: &ToSend,
    site: &str,
) -> Result<Prepared, StoreError> {
    let erased = sending.event == EventKind::ContactErased;
    match to.kind {
        DestinationKind::Mail => {
            let event = store.lead_event(workspace, sending.lead, sending.event, sending.made_at, site).await?;
            Ok(addressed(&to.address, &event))
        }
        DestinationKind::Webhook | DestinationKind::Chat => {
            let event = store.lead_event(workspace, sending.lead, sending.event, sending.made_at, site).await?;
            Ok(Ok(text(to.kind, &event)))
        }
        DestinationKind::CustomerSystem if erased => {
            Ok(Ok(serde_json::to_string(&RecordPlans { erase: true, ..RecordPlans::default() }).unwrap_or_default()))
        }
        DestinationKind::Sheet if erased => Ok(Ok(String::new())),
        DestinationKind::CustomerSystem | DestinationKind::Sheet => {
            let known = store.mapping(workspace, to.id).await?;
            if known.mapping.rules.is_empty() {
                return Ok(Err("nothing is mapped yet: say what goes where, then send it again"));
            }
            let lead = store.lead_facts(workspace, sending.lead, site).await?;
            if to.kind == DestinationKind::Sheet {
                return Ok(Ok(row(&known.mapping, &lead).to_string()));
            }
            let Some(schema) = known.schema else {
                return Ok(Err("what the customer system holds was not read yet: read it, then send it again"));
            };
            Ok(Ok(serde_json::to_string(&upserts(&known.mapping, &schema, &lead)).unwrap_or_default()))
        }
    }
}

/// A mail about a lead, to the address of a destination or to whoever has the lead.
pub(crate) fn addressed(address: &str, event: &Event) -> Prepared {
    let owner = event.data.owner.as_ref().map(|owner| owner.email.clone());
    let to = if address == OWNER { owner.ok_or("nobody has this lead yet")? } else { address.to_owned() };
    serde_json::to_string(&Addressed { to, letter: of_lead(event) }).map_err(|_| "it cannot be written")
}

/// A mail with where it goes, as it is frozen.
#[derive(Debug, Serialize, Deserialize)]
pub(crate) struct Addressed {
    /// Where it goes.
    pub(crate) to: String,
    /// What it says.
    pub(crate) letter: Letter,
}

/// The word for whoever has a lead.
pub(crate) const OWNER: &str = "owner";

/// What goes to a place that gets events as they are.
pub(crate) fn text(kind: DestinationKind, event: &Event) -> String {
    match kind {
        DestinationKind::Chat => serde_json::json!({ "text": chat_text(event) }).to_string(),
        _ => serde_json::to_string(event).unwrap_or_default(),
    }
}
