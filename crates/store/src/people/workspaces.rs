//! Workspaces: how they begin, and what holds for the whole of one.

use jiff_sqlx::ToSqlx;
use lumbo_people::{Audited, Role};
use uuid::Uuid;

use super::accounts::{self, NewAccount};
use super::invitations::{self, let_in};
use super::{NewInvitation, Person};
use crate::audit::{self, Entry};
use crate::{Store, StoreError};

/// A workspace to begin.
#[derive(Debug, Clone)]
pub struct NewWorkspace<'a> {
    /// Its name.
    pub name: &'a str,
    /// IANA name of its zone.
    pub zone: &'a str,
}

/// What holds for the whole of a workspace.
#[derive(Debug, Clone)]
pub struct WorkspaceSettings {
    /// Counts changes; a change names the one it knows.
    pub revision: i64,
    /// Its name.
    pub name: String,
    /// IANA name of its zone.
    pub zone: String,
    /// The hour of their own day from which prospects are called, 0 to 23.
    pub calls_from: i32,
    /// The hour until which they are called, 1 to 24, behind the first.
    pub calls_until: i32,
    /// Mail domains of its own people, in small letters: who answers with such an address is testing.
    pub own_mail_domains: Vec<String>,
    /// Seconds that a person needs at least from the first line to the lead, 0 to 600; 0 asks for none.
    pub least_seconds: i32,
    /// Where prospects read what becomes of what they say.
    pub privacy_link: Option<String>,
}

/// The short name that a workspace gets of its name; what would be nothing becomes "workspace".
fn slug(name: &str) -> String {
    let plain: String =
        name.chars().map(|c| if c.is_ascii_alphanumeric() { c.to_ascii_lowercase() } else { '-' }).collect();
    let parts: Vec<&str> = plain.split('-').filter(|part| !part.is_empty()).collect();
    if parts.is_empty() { "workspace".into() } else { parts.join("-").chars().take(40).collect() }
}

impl Store {
    /// True where a workspace is still to be set up: there is none but the demo's.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn wants_setup(&self) -> Result<bool, StoreError> {
        Ok(sqlx::query_scalar!("select not exists(select from workspaces where not demo) as \"wants!\"")
            .fetch_one(&self.pool)
            .await?)
    }

    /// Keeps the code that guards setting up, by SHA-256; the one before counts no longer.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn keep_setup_code(&self, hash: &[u8]) -> Result<(), StoreError> {
        sqlx::query!(
            "insert into setup_code (hash, made_at) values ($1, $2)
             on conflict (one) do update set hash = excluded.hash, made_at = excluded.made_at",
            hash,
            self.now().to_sqlx() as _
        )
        .execute(&self.pool)
        .await?;
        Ok(())
    }

    /// True where a code, by SHA-256, is the one that guards setting up.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn setup_code_fits(&self, hash: &[u8]) -> Result<bool, StoreError> {
        Ok(sqlx::query_scalar!("select exists(select from setup_code where hash = $1) as \"fits!\"", hash)
            .fetch_one(&self.pool)
            .await?)
    }

    /// Sets the first workspace up, with its administrator, and uses the code up.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where the code is another one or was used.
    #[crate::compiled_here]
    pub async fn set_up(
        &self,
        code_hash: &[u8],
        new: &NewWorkspace<'_>,
        administrator: &NewAccount<'_>,
    ) -> Result<Person, StoreError> {
        let mut db = self.pool.begin().await?;
        let used = sqlx::query!("delete from setup_code where hash = $1", code_hash).execute(&mut *db).await?;
        if used.rows_affected() == 0 {
            return Err(StoreError::NotFound("code; it is printed in the log when the server starts"));
        }
        let workspace = begin(&mut db, new).await?;
        let account = accounts::make(&mut db, administrator)
            .await?
            .ok_or_else(|| StoreError::Conflict("somebody signs in with that address already; take another".into()))?;
        let place = let_in(&mut db, workspace, account, Role::Administrator).await?;
        let entry = Entry {
            person: Some(place),
            what: Audited::SettingsChanged,
            about: "the workspace was set up",
            subject: None,
            network: None,
        };
        audit::write(&mut db, workspace, &entry, self.now()).await?;
        db.commit().await?;
        self.person(workspace, place).await?.ok_or(StoreError::NotFound("person"))
    }

    /// Begins a workspace with an invitation for its first administrator.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn begin_workspace(
        &self,
        new: &NewWorkspace<'_>,
        invitation: &NewInvitation<'_>,
    ) -> Result<Uuid, StoreError> {
        let mut db = self.pool.begin().await?;
        let workspace = begin(&mut db, new).await?;
        invitations::write(&mut db, workspace, None, invitation, self.now()).await?;
        db.commit().await?;
        Ok(workspace)
    }

    /// What holds for a workspace.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    #[crate::compiled_here]
    pub async fn workspace_settings(&self, workspace: Uuid) -> Result<WorkspaceSettings, StoreError> {
        sqlx::query_as!(
            WorkspaceSettings,
            "select settings_revision as revision, name, zone, calls_from, calls_until, own_mail_domains,
             least_seconds, privacy_link from workspaces
             where id = $1",
            workspace
        )
        .fetch_optional(&self.pool)
        .await?
        .ok_or(StoreError::NotFound("workspace"))
    }

    /// Changes what holds for a workspace, where nobody changed it meanwhile.
    ///
    /// # Errors
    /// [`StoreError::Conflict`] where somebody did.
    #[crate::compiled_here]
    pub async fn change_workspace(&self, by: &Person, new: &WorkspaceSettings) -> Result<(), StoreError> {
        let mut db = self.pool.begin().await?;
        let changed = sqlx::query!(
            "update workspaces set name = $3, zone = $4, calls_from = $5, calls_until = $6, own_mail_domains = $7,
               least_seconds = $8, privacy_link = $9,
               settings_revision = settings_revision + 1
             where id = $1 and settings_revision = $2",
            by.workspace_id,
            new.revision,
            new.name,
            new.zone,
            new.calls_from,
            new.calls_until,
            &new.own_mail_domains,
            new.least_seconds,
            new.privacy_link
        )
        .execute(&mut *db)
        .await?;
        if changed.rows_affected() == 0 {
            return Err(StoreError::Conflict(
                "somebody changed these settings meanwhile; load the page again, then make your change".into(),
            ));
        }
        let about =
            format!("workspace: {}, {}, calls {}:00 to {}:00", new.name, new.zone, new.calls_from, new.calls_until);
        let entry =
            Entry { person: Some(by.id), what: Audited::SettingsChanged, about: &about, subject: None, network: None };
        audit::write(&mut db, by.workspace_id, &entry, self.now()).await?;
        db.commit().await?;
        Ok(())
    }
}

/// Makes the workspace's row under a short name that nobody has.
async fn begin(db: &mut sqlx::PgConnection, new: &NewWorkspace<'_>) -> Result<Uuid, StoreError> {
    let slug = slug(new.name);
    let workspace = Uuid::now_v7();
    for number in 1..1_000 {
        let tried = if number == 1 { slug.clone() } else { format!("{slug}-{number}") };
        let made = sqlx::query!(
            "insert into workspaces (id, slug, name, zone) values ($1, $2, $3, $4) on conflict (slug) do nothing",
            workspace,
            tried,
            new.name,
            new.zone
        )
        .execute(&mut *db)
        .await?;
        if made.rows_affected() == 1 {
            return Ok(workspace);
        }
    }
    Err(StoreError::Conflict("too many workspaces have this name; take another".into()))
}

#[cfg(test)]
mod tests {
    use super::slug;

    #[test]
    fn a_short_name_is_made_of_any_name() {
        for (name, short) in
            [("Heron & Sons Ltd.", "heron-sons-ltd"), ("  ", "workspace"), ("北风", "workspace"), ("Müller", "m-ller")]
        {
            assert_eq!(slug(name), short);
        }
    }
}
