//! Invitations: a link that lets somebody into a workspace, once, for a week.

use jiff::{SignedDuration, Timestamp};
use jiff_sqlx::{Timestamp as SqlTimestamp, ToSqlx};
use lumbo_people::{Audited, Role};
use sqlx::PgConnection;
use uuid::Uuid;

use super::accounts::{self, NewAccount};
use super::{Person, role_of};
use crate::audit::{self, Entry};
use crate::jobs::{self, JobKind};
use crate::{Store, StoreError};

/// How long a link counts.
const COUNTS_FOR: SignedDuration = SignedDuration::from_hours(24 * 7);
/// Most open invitations of a workspace.
const MOST: i64 = 200;

/// An invitation to make.
#[derive(Debug, Clone)]
pub struct NewInvitation<'a> {
    /// Address of whoever is invited, checked.
    pub email: &'a str,
    /// What they will be.
    pub role: Role,
    /// SHA-256 of what the link holds.
    pub token_hash: &'a [u8],
    /// Whether a mail with another link goes to them.
    pub mailed: bool,
}

/// An invitation that is open, as a list of them shows it.
#[derive(Debug, Clone)]
pub struct InvitationRow {
    /// Id.
    pub id: Uuid,
    /// Address.
    pub email: String,
    /// What they will be.
    pub role: Role,
    /// Who invited them.
    pub made_by: Option<String>,
    /// When.
    pub made_at: Timestamp,
    /// Until when the link counts.
    pub expires_at: Timestamp,
}

/// What a link lets somebody into.
#[derive(Debug, Clone)]
pub struct Invitation {
    /// Id.
    pub id: Uuid,
    /// The workspace.
    pub workspace_id: Uuid,
    /// Its name.
    pub workspace: String,
    /// Address of whoever is invited.
    pub email: String,
    /// What they will be.
    pub role: Role,
    /// Who invited them.
    pub made_by: Option<String>,
    /// Whether the address has an account already.
    pub known: bool,
}

/// Who takes an invitation up.
#[derive(Debug, Clone)]
pub enum Taking<'a> {
    /// Whoever has the account already; their password was looked at.
    Known(Uuid),
    /// Somebody new.
    New(NewAccount<'a>),
}

/// Lets an account into a workspace, or back into it.
pub(crate) async fn let_in(
    db: &mut PgConnection,
    workspace: Uuid,
    account: Uuid,
    role: Role,
) -> Result<Uuid, StoreError> {
    Ok(sqlx::query_scalar!(
        "insert into people (id, workspace_id, account_id, email, name, role)
         select $1, $2, a.id, a.email, a.name, $4 from accounts a where a.id = $3
         on conflict (workspace_id, account_id) do update set active = true, ended_at = null, role = excluded.role
         returning id",
        Uuid::now_v7(),
        workspace,
        account,
        role.as_str()
    )
    .fetch_one(db)
    .await?)
}

/// Writes an invitation, in the caller's transaction.
pub(super) async fn write(
    db: &mut PgConnection,
    workspace: Uuid,
    by: Option<Uuid>,
    new: &NewInvitation<'_>,
    now: Timestamp,
) -> Result<Uuid, StoreError> {
    let here = sqlx::query_scalar!(
        "select exists(select from people where workspace_id = $1 and lower(email) = lower($2) and active) as
         \"here!\"",
        workspace,
        new.email
    )
    .fetch_one(&mut *db)
    .await?;
    if here {
        return Err(StoreError::Conflict(format!("{} is in this workspace already", new.email)));
    }
    sqlx::query!(
        "update invitations set withdrawn_at = $3 where workspace_id = $1 and lower(email) = lower($2)
         and taken_at is null and withdrawn_at is null",
        workspace,
        new.email,
        now.to_sqlx() as _
    )
    .execute(&mut *db)
    .await?;
    let id = sqlx::query_scalar!(
        "insert into invitations (workspace_id, id, email, role, token_hash, made_by, made_at, expires_at)
         select $1, $2, $3, $4, $5, $6, $7, $8 where (select count(*) from invitations where workspace_id = $1
           and taken_at is null and withdrawn_at is null and expires_at > $7) < $9 returning id",
        workspace,
        Uuid::now_v7(),
        new.email,
        new.role.as_str(),
        new.token_hash,
        by,
        now.to_sqlx() as _,
        now.checked_add(COUNTS_FOR).unwrap_or(now).to_sqlx() as _,
        MOST
    )
    .fetch_optional(&mut *db)
    .await?
    .ok_or_else(|| StoreError::Conflict(format!("{MOST} people are invited already; withdraw some first")))?;
    if new.mailed {
        jobs::set(db, workspace, JobKind::InvitationMail, id, &id.to_string(), now, now).await?;
    }
    let about = format!("{} as {}", new.email, new.role.in_words());
    let entry = Entry { person: by, what: Audited::Invited, about: &about, subject: Some(id), network: None };
    audit::write(db, workspace, &entry, now).await?;
    Ok(id)
}

impl Store {
    /// Invites somebody; an open invitation of the same address is withdrawn by it. `by` is nobody on the command line.
    ///
    /// # Errors
    /// [`StoreError::Conflict`] where they are in the workspace already, or too many are invited.
    #[crate::compiled_here]
    pub async fn invite(&self, workspace: Uuid, by: Option<Uuid>, new: &NewInvitation<'_>) -> Result<Uuid, StoreError> {
        let mut db = self.pool.begin().await?;
        let id = write(&mut db, workspace, by, new, self.now()).await?;
        db.commit().await?;
        self.wakes.jobs();
        Ok(id)
    }

    /// An open invitation that goes by mail; `mail_hash` is the SHA-256 of what its link holds from now on, beside the
    /// one that was shown. Nothing where it is open no more.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn invitation_to_mail(
        &self,
        workspace: Uuid,
        id: Uuid,
        mail_hash: &[u8],
    ) -> Result<Option<Invitation>, StoreError> {
        let row = sqlx::query!(
            "update invitations i set mail_hash = $3 from workspaces w where i.workspace_id = $1 and i.id = $2
             and w.id = i.workspace_id and i.taken_at is null and i.withdrawn_at is null and i.expires_at > $4
             returning i.id, i.email, i.role, w.name as workspace,
               (select p.name from people p where p.workspace_id = i.workspace_id and p.id = i.made_by) as made_by",
            workspace,
            id,
            mail_hash,
            self.now().to_sqlx() as _
        )
        .fetch_optional(&self.pool)
        .await?;
        Ok(row.map(|row| Invitation {
            id: row.id,
            workspace_id: workspace,
            workspace: row.workspace,
            email: row.email,
            role: role_of(&row.role),
            made_by: row.made_by,
            known: false,
        }))
    }

    /// Open invitations of a workspace, newest first.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn invitations(&self, workspace: Uuid) -> Result<Vec<InvitationRow>, StoreError> {
        let rows = sqlx::query!(
            "select i.id, i.email, i.role, p.name as \"made_by?\", i.made_at as \"made_at: SqlTimestamp\",
             i.expires_at as \"expires_at: SqlTimestamp\" from invitations i
             left join people p on p.workspace_id = i.workspace_id and p.id = i.made_by
             where i.workspace_id = $1 and i.taken_at is null and i.withdrawn_at is null and i.expires_at > $2
             order by i.made_at desc, i.id",
            workspace,
            self.now().to_sqlx() as _
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows
            .into_iter()
            .map(|row| InvitationRow {
                id: row.id,
                email: row.email,
                role: role_of(&row.role),
                made_by: row.made_by,
                made_at: row.made_at.to_jiff(),
                expires_at: row.expires_at.to_jiff(),
            })
            .collect())
    }

    /// Withdraws an invitation: its link does nothing from then on.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where it was taken up or withdrawn already.
    #[crate::compiled_here]
    pub async fn withdraw_invitation(&self, by: &Person, id: Uuid) -> Result<(), StoreError> {
        let mut db = self.pool.begin().await?;
        let email = sqlx::query_scalar!(
            "update invitations set withdrawn_at = $3 where workspace_id = $1 and id = $2 and taken_at is null
             and withdrawn_at is null returning email",
            by.workspace_id,
            id,
            self.now().to_sqlx() as _
        )
        .fetch_optional(&mut *db)
        .await?
        .ok_or(StoreError::NotFound("open invitation"))?;
        let about = format!("{email}: withdrawn");
        let entry =
            Entry { person: Some(by.id), what: Audited::Invited, about: &about, subject: Some(id), network: None };
        audit::write(&mut db, by.workspace_id, &entry, self.now()).await?;
        db.commit().await?;
        Ok(())
    }

    /// What a link lets somebody into. It begins from the link's secret, and learns the workspace from the row.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where it was taken up, withdrawn, or has had its time.
    #[crate::compiled_here]
    pub async fn invitation(&self, token_hash: &[u8]) -> Result<Invitation, StoreError> {
        let row = sqlx::query!(
            "select i.id, i.workspace_id, w.name as workspace, i.email, i.role, p.name as \"made_by?\",
             exists(select from accounts a where lower(a.email) = lower(i.email)) as \"known!\"
             from invitations i join workspaces w on w.id = i.workspace_id
             left join people p on p.workspace_id = i.workspace_id and p.id = i.made_by
             where (i.token_hash = $1 or i.mail_hash = $1) and i.taken_at is null
               and i.withdrawn_at is null and i.expires_at > $2",
            token_hash,
            self.now().to_sqlx() as _
        )
        .fetch_optional(&self.pool)
        .await?
        .ok_or(StoreError::NotFound("open invitation; it may have been used, withdrawn or be more than a week old"))?;
        Ok(Invitation {
            id: row.id,
            workspace_id: row.workspace_id,
            workspace: row.workspace,
            email: row.email,
            role: role_of(&row.role),
            made_by: row.made_by,
            known: row.known,
        })
    }

    /// Takes an invitation up: the account is made where there is none, and let into the workspace. A link counts once.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where it was taken up, withdrawn, or has had its time meanwhile;
    /// [`StoreError::Conflict`] where the address got an account meanwhile.
    #[crate::compiled_here]
    pub async fn take_invitation(&self, token_hash: &[u8], who: &Taking<'_>) -> Result<Person, StoreError> {
        let now = self.now();
        let mut db = self.pool.begin().await?;
        let row = sqlx::query!(
            "update invitations set taken_at = $2 where (token_hash = $1 or mail_hash = $1)
               and taken_at is null and withdrawn_at is null
             and expires_at > $2 returning workspace_id, id, email, role",
            token_hash,
            now.to_sqlx() as _
        )
        .fetch_optional(&mut *db)
        .await?
        .ok_or(StoreError::NotFound("open invitation; it may have been used, withdrawn or be more than a week old"))?;
        let account = match who {
            Taking::Known(account) => *account,
            // Somebody who got a password meanwhile has to type it: nobody comes in as another by being quick.
            Taking::New(new) => accounts::make(&mut db, new).await?.ok_or_else(|| {
                StoreError::Conflict("that address got a password meanwhile; load the page again".into())
            })?,
        };
        let place = let_in(&mut db, row.workspace_id, account, role_of(&row.role)).await?;
        let entry = Entry {
            person: Some(place),
            what: Audited::Joined,
            about: &row.email,
            subject: Some(row.id),
            network: None,
        };
        audit::write(&mut db, row.workspace_id, &entry, now).await?;
        db.commit().await?;
        self.person(row.workspace_id, place).await?.ok_or(StoreError::NotFound("person"))
    }
}
