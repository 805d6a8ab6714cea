//! What contacts permitted, and withdrew. Words of contacts who became one with another count for both, for as long as
//! they are one.

use jiff_sqlx::{Timestamp as SqlTimestamp, ToSqlx};
use lumbo_records::{Permission, PermissionSaid, stands};
use lumbo_value::permits::{Channel, Purpose};
use sqlx::PgConnection;
use uuid::Uuid;

use super::ContactDetail;
use crate::{Person, Store, StoreError};

/// A word that somebody said of being reached.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct PermissionRow {
    /// For what, in which way, yes or no, and when.
    pub word: Permission,
    /// True where it is the last word for its purpose and way.
    pub stands: bool,
    /// Title of the dialogue that asked.
    pub dialogue: Option<String>,
    /// Version of the wording that was shown.
    pub wording: Option<i32>,
    /// Name of whoever here kept it.
    pub person: Option<String>,
    /// On what ground, where somebody here kept it.
    pub says: String,
}

/// A permission that a person here keeps, or withdraws.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct PermissionChange {
    /// For what.
    pub purpose: Purpose,
    /// In which way.
    pub channel: Channel,
    /// True where it is given, false where it is withdrawn.
    pub given: bool,
    /// On what ground.
    pub says: String,
}

/// Keeps what a conversation said to its consents; what it said before is corrected.
pub(crate) async fn keep_said(
    db: &mut PgConnection,
    workspace: Uuid,
    contact: Uuid,
    conversation: Uuid,
    said: &[PermissionSaid],
) -> Result<(), StoreError> {
    for word in said {
        sqlx::query!(
            "insert into permissions (workspace_id, id, contact_id, purpose, channel, given, conversation_id, field_id,
               wording, at) values ($1, gen_random_uuid(), $2, $3, $4, $5, $6, $7, $8, $9)
             on conflict (workspace_id, conversation_id, field_id, channel) do update
               set contact_id = excluded.contact_id, given = excluded.given, wording = excluded.wording,
               at = excluded.at",
            workspace,
            contact,
            word.purpose.as_str(),
            word.channel.as_str(),
            word.given,
            conversation,
            word.field,
            i32::try_from(word.wording).unwrap_or(i32::MAX),
            word.at.to_sqlx() as _
        )
        .execute(&mut *db)
        .await?;
    }
    Ok(())
}

/// Gives the words of a contact that a conversation made to the one it turned out to be.
pub(crate) async fn move_words(db: &mut PgConnection, workspace: Uuid, from: Uuid, to: Uuid) -> Result<(), StoreError> {
    sqlx::query!(
        "update permissions set contact_id = $3 where workspace_id = $1 and contact_id = $2",
        workspace,
        from,
        to
    )
    .execute(db)
    .await?;
    Ok(())
}

fn kept(what: &str) -> StoreError {
    StoreError::Kept(format!("nobody is reached for or by “{what}”"))
}

impl Store {
    /// Every word of a contact, the newest first; 200 at most.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    pub(crate) async fn permissions_of(
        &self,
        workspace: Uuid,
        contact: Uuid,
    ) -> Result<Vec<PermissionRow>, StoreError> {
        let rows = sqlx::query!(
            "with recursive one (id) as (
               select $2::uuid union select k.id from contacts k join one on k.merged_into = one.id
               where k.workspace_id = $1)
             select p.purpose, p.channel, p.given, p.wording, p.says, p.at as \"at: SqlTimestamp\",
               d.title as \"dialogue?\", w.name as \"person?\"
             from permissions p
             left join conversations c on c.workspace_id = p.workspace_id and c.id = p.conversation_id
             left join dialogues d on d.workspace_id = c.workspace_id and d.id = c.dialogue_id
             left join people w on w.workspace_id = p.workspace_id and w.id = p.person_id
             where p.workspace_id = $1 and p.contact_id in (select id from one)
             order by p.at desc, p.given, p.purpose, p.channel limit 200",
            workspace,
            contact
        )
        .fetch_all(&self.pool)
        .await?;
        let words = rows
            .iter()
            .map(|row| {
                Ok(Permission {
                    purpose: Purpose::parse(&row.purpose).ok_or_else(|| kept(&row.purpose))?,
                    channel: Channel::parse(&row.channel).ok_or_else(|| kept(&row.channel))?,
                    given: row.given,
                    at: row.at.to_jiff(),
                })
            })
            .collect::<Result<Vec<_>, StoreError>>()?;
        let last: Vec<usize> = stands(&words).into_values().collect();
        Ok(rows
            .into_iter()
            .zip(words)
            .enumerate()
            .map(|(place, (row, word))| PermissionRow {
                word,
                stands: last.contains(&place),
                dialogue: row.dialogue,
                wording: row.wording,
                person: row.person,
                says: row.says,
            })
            .collect())
    }

    /// Ways in which a contact withdrew that they may be reached for their enquiry.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    pub(crate) async fn withdrawn_of(&self, workspace: Uuid, contact: Uuid) -> Result<Vec<Channel>, StoreError> {
        let words = self.permissions_of(workspace, contact).await?;
        let no = words.iter().filter(|row| row.stands && !row.word.given && row.word.purpose == Purpose::Enquiry);
        let mut out: Vec<Channel> = no.map(|row| row.word.channel).collect();
        out.sort_unstable();
        Ok(out)
    }

    /// Keeps what a contact told a person here: that they may be reached, or that they may not any more.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where the person may not see the contact.
    #[crate::compiled_here]
    pub async fn change_permission(
        &self,
        person: &Person,
        id: Uuid,
        change: &PermissionChange,
    ) -> Result<ContactDetail, StoreError> {
        let known = self.contact(person, id).await?;
        let stands = known
            .permissions
            .iter()
            .find(|row| row.stands && (row.word.purpose, row.word.channel) == (change.purpose, change.channel));
        if stands.is_some_and(|row| row.word.given == change.given) || (stands.is_none() && !change.given) {
            return Ok(known);
        }
        let (workspace, now) = (person.workspace_id, self.now());
        let mut db = self.pool.begin().await?;
        sqlx::query!(
            "insert into permissions (workspace_id, id, contact_id, purpose, channel, given, person_id, says, at)
             values ($1, $2, $3, $4, $5, $6, $7, $8, $9)",
            workspace,
            Uuid::now_v7(),
            id,
            change.purpose.as_str(),
            change.channel.as_str(),
            change.given,
            person.id,
            change.says,
            now.to_sqlx() as _
        )
        .execute(&mut *db)
        .await?;
        let verb = if change.given { "They permit" } else { "They permit no more" };
        let says = format!("{verb} {} for {}", change.channel.words(), change.purpose.words());
        self.contact_changed(db, person, id, &says, "what a contact permits").await
    }
}
