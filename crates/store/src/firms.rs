//! What is on file of a lead's firm, for rules that want something of it.

use std::collections::BTreeMap;

use jiff::Timestamp;
use lumbo_records::{Said, Standing};
use lumbo_route::Firm;
use sqlx::PgConnection;
use uuid::Uuid;

use crate::leads::owners_of_company;
use crate::{Store, StoreError};

/// A firm, and whose its leads are.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct FirmOnFile {
    /// What it is to us.
    pub firm: Firm,
    /// Who has leads of it that are open or were closed lately, the newest lead's owner first.
    pub owners: Vec<Uuid>,
}

fn firm(name: Option<String>, standing: &str, looked_after: bool) -> Firm {
    let standing = Standing::parse(standing).unwrap_or_default();
    Firm {
        name: name.unwrap_or_default(),
        customer: standing == Standing::Customer,
        partner: standing == Standing::Partner,
        looked_after,
    }
}

/// The firm that a conversation's lead will belong to: the one of its domain; where it names none, that of the lead it
/// filed before, else that of the contact whom the site signed or who has the address.
pub(crate) async fn firm_of(db: &mut PgConnection, workspace: Uuid, said: &Said) -> Result<Firm, StoreError> {
    let row = sqlx::query!(
        "select coalesce(c.name, c.domain) as name, c.standing, c.owner_id is not null as \"looked_after!\"
         from companies c where c.workspace_id = $1 and case when $2::text is not null then c.domain = $2
           else c.id = coalesce(
             (select l.company_id from lead_snapshots s join leads l on l.workspace_id = $1 and l.id = s.lead_id
               where s.workspace_id = $1 and s.conversation_id = $3),
             (select p.company_id from contacts p where p.workspace_id = $1 and p.merged_into is null
               and (p.subject = $4 or lower(p.email) = lower($5))
               order by p.subject is not distinct from $4 desc limit 1)) end",
        workspace,
        said.domain,
        said.conversation,
        said.subject,
        said.who.email
    )
    .fetch_optional(db)
    .await?;
    Ok(row.map_or_else(Firm::default, |row| firm(row.name, &row.standing, row.looked_after)))
}

impl Store {
    /// The firm of a registrable domain, with whose its leads are; one that is not on file where there is none.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn firm_of_domain(
        &self,
        workspace: Uuid,
        domain: &str,
        now: Timestamp,
    ) -> Result<FirmOnFile, StoreError> {
        let mut db = self.pool.acquire().await?;
        let row = sqlx::query!(
            "select id, coalesce(name, domain) as name, standing, owner_id is not null as \"looked_after!\"
             from companies where workspace_id = $1 and domain = $2",
            workspace,
            domain
        )
        .fetch_optional(&mut *db)
        .await?;
        let Some(row) = row else { return Ok(FirmOnFile::default()) };
        let owners = owners_of_company(&mut db, workspace, row.id, None, now).await?;
        Ok(FirmOnFile { firm: firm(row.name, &row.standing, row.looked_after), owners })
    }

    /// Firms that are something to us or that somebody looks after, by their ids; any other is neither.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn firms(&self, workspace: Uuid) -> Result<BTreeMap<Uuid, Firm>, StoreError> {
        let rows = sqlx::query!(
            "select id, coalesce(name, domain) as name, standing, owner_id is not null as \"looked_after!\"
             from companies where workspace_id = $1 and (standing <> 'none' or owner_id is not null)",
            workspace
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows.into_iter().map(|row| (row.id, firm(row.name, &row.standing, row.looked_after))).collect())
    }
}
