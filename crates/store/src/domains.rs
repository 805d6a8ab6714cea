//! The workspace's own e-mail domains: always taken, or never taken, as a company's.

use std::sync::Arc;

use lumbo_reading::domains::DomainLists;
use sqlx::PgConnection;
use sqlx::types::Json;
use uuid::Uuid;

use lumbo_people::Audited;

use crate::audit::{self, Entry};
use crate::{Store, StoreError};

/// Workspaces whose lists are kept in memory.
const MEMORY_LIMIT: usize = 1_000;

/// The lists with the revision that a change must name.
#[derive(Debug, Clone)]
pub struct Domains {
    /// Counts changes.
    pub revision: i64,
    /// The lists.
    pub lists: DomainLists,
}

impl Store {
    /// A workspace's own domains.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    #[crate::compiled_here]
    pub async fn domains(&self, workspace: Uuid) -> Result<Domains, StoreError> {
        let row = sqlx::query!(
            "select domains as \"lists: Json<DomainLists>\", domains_revision as revision from
            workspaces where id = $1",
            workspace
        )
        .fetch_optional(&self.pool)
        .await?
        .ok_or(StoreError::NotFound("workspace"))?;
        Ok(Domains { revision: row.revision, lists: row.lists.0 })
    }

    /// Replaces a workspace's domains, where nobody changed them meanwhile.
    ///
    /// # Errors
    /// [`StoreError::Conflict`] where somebody did.
    #[crate::compiled_here]
    pub async fn set_domains(
        &self,
        workspace: Uuid,
        by: Uuid,
        base: i64,
        lists: &DomainLists,
    ) -> Result<Domains, StoreError> {
        let mut db = self.pool.begin().await?;
        let revision = sqlx::query_scalar!(
            "update workspaces set domains = $3, domains_revision = domains_revision + 1 where id = $1 and
             domains_revision = $2 returning domains_revision",
            workspace,
            base,
            Json(lists) as _
        )
        .fetch_optional(&mut *db)
        .await?
        .ok_or_else(|| {
            StoreError::Conflict(
                "somebody changed these domains meanwhile; copy what you wrote, load the \
            page again and put it in"
                    .into(),
            )
        })?;
        let entry = Entry {
            person: Some(by),
            what: Audited::SettingsChanged,
            about: "own e-mail domains",
            subject: None,
            network: None,
        };
        audit::write(&mut db, workspace, &entry, self.now()).await?;
        db.commit().await?;
        Ok(Domains { revision, lists: lists.clone() })
    }

    /// The lists of a revision, from memory where they were read before; revision 0 has none.
    pub(crate) async fn domains_at(
        &self,
        db: &mut PgConnection,
        workspace: Uuid,
        revision: i64,
    ) -> Result<Arc<DomainLists>, StoreError> {
        if revision == 0 {
            return Ok(Arc::default());
        }
        let known = self.domains.read().ok().and_then(|known| {
            known.get(&workspace).filter(|(at, _)| *at >= revision).map(|(_, lists)| Arc::clone(lists))
        });
        if let Some(lists) = known {
            return Ok(lists);
        }
        let row = sqlx::query!(
            "select domains as \"lists: Json<DomainLists>\", domains_revision as revision from
            workspaces where id = $1",
            workspace
        )
        .fetch_one(db)
        .await?;
        let lists = Arc::new(row.lists.0);
        if let Ok(mut known) = self.domains.write() {
            if known.len() >= MEMORY_LIMIT {
                known.clear();
            }
            known.insert(workspace, (row.revision, Arc::clone(&lists)));
        }
        Ok(lists)
    }
}
