//! Lists of leads that a person keeps under a name.

use jiff_sqlx::ToSqlx;
use lumbo_records::ListLook;
use sqlx::types::Json;
use uuid::Uuid;

use super::list::LeadFilter;
use crate::{Person, Store, StoreError};

/// Most of one person.
const MOST: i64 = 20;

/// A list of leads under a name.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Lens {
    /// Its id.
    pub id: Uuid,
    /// Its name.
    pub name: String,
    /// Which leads it shows.
    pub shows: LeadFilter,
    /// What is searched for among them.
    pub search: String,
    /// What else they hold, their columns, and what they are sorted by.
    pub look: ListLook,
}

impl Store {
    /// A person's own lists, in the order in which they were made.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn lenses(&self, person: &Person) -> Result<Vec<Lens>, StoreError> {
        let rows = sqlx::query!(
            "select id, name, shows, search, look as \"look: Json<ListLook>\" from lenses
             where workspace_id = $1 and person_id = $2 order by made_at, id",
            person.workspace_id,
            person.id
        )
        .fetch_all(&self.pool)
        .await?;
        let lens = |id, name, shows: &str, search, look: Json<ListLook>| {
            let shows = LeadFilter::parse(shows).ok_or_else(|| StoreError::Kept(format!("no list shows “{shows}”")))?;
            Ok(Lens { id, name, shows, search, look: look.0 })
        };
        rows.into_iter().map(|row| lens(row.id, row.name, &row.shows, row.search, row.look)).collect()
    }

    /// Keeps a list under a name; one that is kept already is only named anew.
    ///
    /// # Errors
    /// [`StoreError::Conflict`] where the person has 20.
    #[crate::compiled_here]
    pub async fn keep_lens(&self, person: &Person, lens: &Lens) -> Result<(), StoreError> {
        let kept = sqlx::query!(
            "insert into lenses (workspace_id, person_id, id, name, shows, search, look, made_at)
             select $1, $2, $3, $4, $5, $6, $9, $7
               where (select count(*) from lenses where workspace_id = $1 and person_id = $2 and id <> $3) < $8
             on conflict (workspace_id, person_id, id) do update set name = excluded.name",
            person.workspace_id,
            person.id,
            lens.id,
            lens.name,
            lens.shows.as_str(),
            lens.search,
            self.now().to_sqlx() as _,
            MOST,
            Json(&lens.look) as _
        )
        .execute(&self.pool)
        .await?;
        if kept.rows_affected() == 0 {
            return Err(StoreError::Conflict(format!("you keep {MOST} lists already. Take one out first")));
        }
        Ok(())
    }

    /// Takes a list of one's own out.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where the person has no such list.
    #[crate::compiled_here]
    pub async fn drop_lens(&self, person: &Person, id: Uuid) -> Result<(), StoreError> {
        let gone = sqlx::query!(
            "delete from lenses where workspace_id = $1 and person_id = $2 and id = $3",
            person.workspace_id,
            person.id,
            id
        )
        .execute(&self.pool)
        .await?;
        if gone.rows_affected() == 0 { Err(StoreError::NotFound("list")) } else { Ok(()) }
    }
}
