//! What a person says became of a lead, and what they accept of what was also given.

use jiff::civil::Date;
use jiff_sqlx::{Timestamp as SqlTimestamp, ToSqlx};
use lumbo_dialogue::talk::read_state;
use lumbo_records::{AlsoGiven, LeadStatus, Source};
use sqlx::PgConnection;
use sqlx::types::{Json, JsonRawValue};
use uuid::Uuid;

use super::file::{keep_typed_values, show_snapshot};
use super::values::{self, Of};
use super::{Activity, LeadDetail, log, turns, work};
use crate::live::{self, Topic};
use crate::{Person, Store, StoreError};

/// What became of a lead.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct OutcomeChange {
    /// The revision that was looked at.
    pub revision: i64,
    /// The status it has from now on.
    pub status: LeadStatus,
    /// Why, for lost, not a fit and no lead; 500 characters at most.
    pub reason: Option<String>,
    /// What it was won for, a decimal number that is not negative.
    pub amount: Option<String>,
    /// ISO 4217 code of the amount.
    pub currency: Option<String>,
    /// When to call again, for later.
    pub later_on: Option<Date>,
}

/// A rep's word on whether a lead was a fit after all.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct FitChange {
    /// The revision that was looked at.
    pub revision: i64,
    /// Whether it fits; absent takes the word back.
    pub fits: Option<bool>,
    /// Id of the criterion that misled, and its words.
    pub misled: Option<(String, String)>,
}

/// A person's word on something that was also given.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct AlsoGivenChange {
    /// True to put it on file, false to leave what is there.
    pub accepted: bool,
}

pub(super) fn also_given_name(what: AlsoGiven) -> &'static str {
    match what {
        AlsoGiven::Name => "name",
        AlsoGiven::Email => "email",
        AlsoGiven::Phone => "phone",
        AlsoGiven::Company => "company",
    }
}

pub(crate) fn also_given(name: &str) -> Result<AlsoGiven, StoreError> {
    [AlsoGiven::Name, AlsoGiven::Email, AlsoGiven::Phone, AlsoGiven::Company]
        .into_iter()
        .find(|what| also_given_name(*what) == name)
        .ok_or_else(|| StoreError::Kept(format!("nothing is given as “{name}”")))
}

/// A change of status in words.
pub(crate) fn words(change: &OutcomeChange) -> String {
    let reason = change.reason.as_deref().unwrap_or("no reason given");
    match change.status {
        LeadStatus::New => "Open again".to_owned(),
        LeadStatus::Trying => "Called".to_owned(),
        LeadStatus::Spoken => "Spoke with them".to_owned(),
        LeadStatus::Booked => "Booked a meeting".to_owned(),
        LeadStatus::Accepted => "Accepted".to_owned(),
        LeadStatus::Won => match (&change.amount, &change.currency) {
            (Some(amount), Some(currency)) => format!("Won: {amount} {currency}"),
            (Some(amount), None) => format!("Won: {amount}"),
            (None, _) => "Won".to_owned(),
        },
        LeadStatus::Lost => format!("Lost: {reason}"),
        LeadStatus::NotAFit => format!("Not a fit: {reason}"),
        LeadStatus::NotReached => "Not reached".to_owned(),
        LeadStatus::Later => change.later_on.map_or_else(|| "Later".to_owned(), |date| format!("Call again on {date}")),
        LeadStatus::Junk => format!("No lead: {reason}"),
    }
}

impl Store {
    /// Says what became of a lead.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where the person may not see it; [`StoreError::Conflict`] where it was changed
    /// meanwhile.
    #[crate::compiled_here]
    pub async fn change_outcome(
        &self,
        person: &Person,
        id: Uuid,
        change: &OutcomeChange,
    ) -> Result<LeadDetail, StoreError> {
        let before = self.lead(person, id).await?;
        let now = self.now();
        let mut db = self.pool.begin().await?;
        let was = match work::before(&mut db, person.workspace_id, id, change.revision).await {
            Err(StoreError::Conflict(_)) => {
                let status = before.row.status.as_str().replace('_', " ");
                return Err(StoreError::Conflict(format!(
                    "somebody changed this lead meanwhile: it is {status} now. Look at it again"
                )));
            }
            was => was?,
        };
        let calendar = work::calling_of(&mut db, person.workspace_id, id).await?;
        let next = work::next_after(change.status, change.later_on, now, &calendar);
        sqlx::query!(
            "update leads set status = $4, reason = $5, amount = $6::text::numeric, currency = $7, later_on =
             $8::text::date, touched_at = coalesce(touched_at, $9), next_what = $10, next_at = $11,
               revision = revision + 1, changed_at = $9 where workspace_id = $1 and id = $2 and revision = $3",
            person.workspace_id,
            id,
            change.revision,
            change.status.as_str(),
            change.reason,
            change.amount,
            change.currency,
            change.later_on.map(|date| date.to_string()),
            now.to_sqlx() as _,
            next.map(|(what, _)| what.as_str()),
            next.map(|(_, at)| at.to_sqlx()) as _
        )
        .execute(&mut *db)
        .await?;
        work::keep_pace(&mut db, person.workspace_id, id, change.status, &calendar, now).await?;
        turns::settle(&mut db, person.workspace_id, id, now).await?;
        let kind = if change.status == LeadStatus::Trying { Activity::Call } else { Activity::Status };
        work::log_step(&mut db, person, id, kind, None, &words(change), &was, now).await?;
        live::add(&mut db, person.workspace_id, Topic::Leads, "lead", now).await?;
        db.commit().await?;
        self.wakes.stream(person.workspace_id);
        self.lead(person, id).await
    }

    /// Says whether a lead was a fit after all, and which criterion misled.
    ///
    /// # Errors
    /// As [`Self::change_outcome`].
    #[crate::compiled_here]
    pub async fn change_fit(&self, person: &Person, id: Uuid, change: &FitChange) -> Result<LeadDetail, StoreError> {
        self.lead(person, id).await?;
        let now = self.now();
        let mut db = self.pool.begin().await?;
        let misled = change.misled.as_ref().filter(|_| change.fits.is_some());
        let changed = sqlx::query!(
            "update leads set fits = $4, misled = $5, revision = revision + 1, changed_at = $6
             where workspace_id = $1 and id = $2 and revision = $3",
            person.workspace_id,
            id,
            change.revision,
            change.fits,
            misled.map(|(id, _)| id),
            now.to_sqlx() as _
        )
        .execute(&mut *db)
        .await?
        .rows_affected();
        if changed == 0 {
            return Err(StoreError::Conflict("somebody changed this lead meanwhile. Look at it again".into()));
        }
        let says = match (change.fits, misled) {
            (Some(true), None) => "Fits".to_owned(),
            (Some(true), Some((_, words))) => format!("Fits, though “{words}” said otherwise"),
            (Some(false), None) => "Does not fit".to_owned(),
            (Some(false), Some((_, words))) => format!("Does not fit: “{words}” misled"),
            (None, _) => "Took back whether it fits".to_owned(),
        };
        log(&mut db, person.workspace_id, id, Some(person.id), Activity::Status, &says, now).await?;
        live::add(&mut db, person.workspace_id, Topic::Leads, "lead", now).await?;
        db.commit().await?;
        self.wakes.stream(person.workspace_id);
        self.lead(person, id).await
    }

    /// Puts something that was also given on file, or leaves what is there.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where the person may not see the lead or nothing waits; [`StoreError::Conflict`] where
    /// the address is another contact's.
    #[crate::compiled_here]
    pub async fn settle_also_given(
        &self,
        person: &Person,
        lead: Uuid,
        given: Uuid,
        change: AlsoGivenChange,
    ) -> Result<LeadDetail, StoreError> {
        self.lead(person, lead).await?;
        let (workspace, now) = (person.workspace_id, self.now());
        let mut db = self.pool.begin().await?;
        let row = sqlx::query!(
            "update also_given set settled_at = $4, settled_by = $5, accepted = $6 where workspace_id = $1 and
             lead_id = $2 and id = $3 and settled_at is null
             returning contact_id, what, value",
            workspace,
            lead,
            given,
            now.to_sqlx() as _,
            person.id,
            change.accepted
        )
        .fetch_optional(&mut *db)
        .await?
        .ok_or(StoreError::NotFound("open question about this lead"))?;
        let what = also_given(&row.what)?;
        if change.accepted {
            put_on_file(&mut db, person, lead, row.contact_id, what, &row.value, now).await?;
        }
        let name = match what {
            AlsoGiven::Name => "name",
            AlsoGiven::Email => "e-mail address",
            AlsoGiven::Phone => "phone number",
            AlsoGiven::Company => "company",
        };
        let says = if change.accepted {
            format!("Put the {name} “{}” on file", row.value)
        } else {
            format!("Left the {name} on file as it is, not “{}”", row.value)
        };
        log(&mut db, workspace, lead, Some(person.id), Activity::Record, &says, now).await?;
        live::add(&mut db, workspace, Topic::Leads, "lead", now).await?;
        db.commit().await?;
        self.wakes.stream(workspace);
        self.lead(person, lead).await
    }

    /// Makes a lead show the newer answers that wait on it, though their band is lower.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where the person may not see the lead or none wait.
    #[crate::compiled_here]
    pub async fn accept_newer(&self, person: &Person, lead: Uuid) -> Result<LeadDetail, StoreError> {
        self.lead(person, lead).await?;
        let (workspace, now) = (person.workspace_id, self.now());
        let mut db = self.pool.begin().await?;
        let newer = sqlx::query!(
            "select c.id, c.release_id, c.state as \"state: Json<Box<JsonRawValue>>\", c.last_at
             as \"last_at: SqlTimestamp\"
             from leads l join conversations c on c.workspace_id = l.workspace_id and c.id = l.newer
             where l.workspace_id = $1 and l.id = $2 for update of l",
            workspace,
            lead
        )
        .fetch_optional(&mut *db)
        .await?
        .ok_or(StoreError::NotFound("newer answer on this lead"))?;
        let plan = self.plan_of(&mut db, workspace, newer.release_id).await?;
        show_snapshot(&mut db, workspace, lead, newer.id, now).await?;
        keep_typed_values(&mut db, workspace, lead, &plan, &read_state(newer.state.get())?).await?;
        log(&mut db, workspace, lead, Some(person.id), Activity::Record, "Took the newer answers", now).await?;
        live::add(&mut db, workspace, Topic::Leads, "lead", now).await?;
        db.commit().await?;
        self.wakes.stream(workspace);
        self.lead(person, lead).await
    }
}

/// Puts a part of who they are on file by a person's hand; a company's where it is the company's name.
async fn put_on_file(
    db: &mut PgConnection,
    person: &Person,
    lead: Uuid,
    contact: Uuid,
    what: AlsoGiven,
    value: &str,
    now: jiff::Timestamp,
) -> Result<(), StoreError> {
    let workspace = person.workspace_id;
    let company =
        sqlx::query_scalar!("select company_id from leads where workspace_id = $1 and id = $2", workspace, lead)
            .fetch_one(&mut *db)
            .await?;
    let id =
        if what == AlsoGiven::Company { company.ok_or(StoreError::NotFound("company on this lead"))? } else { contact };
    put_by_hand(db, person, what, id, value, now).await
}

/// Changes a part of who a contact is, or a company's name, and keeps who said so and what stood there before.
pub(crate) async fn put_by_hand(
    db: &mut PgConnection,
    person: &Person,
    what: AlsoGiven,
    id: Uuid,
    value: &str,
    now: jiff::Timestamp,
) -> Result<(), StoreError> {
    let workspace = person.workspace_id;
    let taken = |error: sqlx::Error| match error.as_database_error() {
        Some(found) if found.is_unique_violation() => StoreError::Conflict(
            "this address is another contact’s. Leave it as it is; two contacts become one by merging them".into(),
        ),
        _ => error.into(),
    };
    let (record, field) = values::identity(what);
    match what {
        AlsoGiven::Name => {
            sqlx::query!("update contacts set name = $3 where workspace_id = $1 and id = $2", workspace, id, value)
                .execute(&mut *db)
                .await
        }
        AlsoGiven::Email => {
            sqlx::query!("update contacts set email = $3 where workspace_id = $1 and id = $2", workspace, id, value)
                .execute(&mut *db)
                .await
        }
        AlsoGiven::Phone => {
            sqlx::query!("update contacts set phone = $3 where workspace_id = $1 and id = $2", workspace, id, value)
                .execute(&mut *db)
                .await
        }
        AlsoGiven::Company => {
            sqlx::query!("update companies set name = $3 where workspace_id = $1 and id = $2", workspace, id, value)
                .execute(&mut *db)
                .await
        }
    }
    .map_err(taken)?;
    values::put_identity(db, Of { workspace, record, id, source: Source::Person(person.id), at: now }, field, value)
        .await
}
