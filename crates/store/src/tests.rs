//! Conversations that the workspace's own people try: opened by a link for trying, by somebody who is signed in, or
//! answered with an address of their own mail domains. They are kept and can be read, file nothing and count nowhere.

use lumbo_dialogue::plan::Plan;
use lumbo_dialogue::talk::State;
use lumbo_value::{FieldType, Value};
use sqlx::PgConnection;
use uuid::Uuid;

use crate::StoreError;
use crate::conversations::{NewConversation, Spot};

/// Why a conversation is a test from its start, as it is kept.
pub(crate) fn at_start(new: &NewConversation<'_>, workspace: Uuid) -> Option<&'static str> {
    if new.by_test_link {
        Some("link")
    } else if new.signed_in_to == Some(workspace) {
        Some("signed_in")
    } else {
        None
    }
}

/// True where a conversation is a test. One that is answered with an address of the workspace's own becomes one, unless
/// it has filed a lead before.
pub(crate) async fn is_one(db: &mut PgConnection, spot: Spot, plan: &Plan, state: &State) -> Result<bool, StoreError> {
    let row = sqlx::query!(
        "select c.test is not null as \"test!\", w.own_mail_domains,
           exists (select from lead_snapshots s where s.workspace_id = c.workspace_id and s.conversation_id = c.id)
             as \"filed!\"
         from conversations c join workspaces w on w.id = c.workspace_id where c.workspace_id = $1 and c.id = $2",
        spot.workspace,
        spot.conversation
    )
    .fetch_one(&mut *db)
    .await?;
    if row.test || row.filed || !has_own_address(plan, state, &row.own_mail_domains) {
        return Ok(row.test);
    }
    sqlx::query!(
        "update conversations set test = 'own_address' where workspace_id = $1 and id = $2",
        spot.workspace,
        spot.conversation
    )
    .execute(&mut *db)
    .await?;
    Ok(true)
}

/// True where an address that they gave is at one of the domains, or below it.
fn has_own_address(plan: &Plan, state: &State, domains: &[String]) -> bool {
    let emails = plan.file.fields.iter().filter(|field| field.kind == FieldType::Email);
    emails.filter_map(|field| state.values.get(&field.id)).any(|held| {
        let Value::Text { text } = &held.value else { return false };
        let Some((_, at)) = text.rsplit_once('@') else { return false };
        let at = at.to_lowercase();
        domains.iter().any(|own| at == *own || at.strip_suffix(own.as_str()).is_some_and(|host| host.ends_with('.')))
    })
}
