//! Days on which somebody is away, and who stands in for them.

use jiff::Timestamp;
use jiff::civil::Date;
use jiff::tz::TimeZone;
use jiff_sqlx::ToSqlx;
use lumbo_people::Audited;
use uuid::Uuid;

use crate::audit::{self, Entry};
use crate::team::led_by;
use crate::{Person, Store, StoreError};

/// Most absences of one person that are to come.
const MOST: i64 = 50;

/// An absence.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct AbsenceRow {
    /// Its id.
    pub id: Uuid,
    /// Who is away.
    pub person: Uuid,
    /// The first day, of their own zone.
    pub from: String,
    /// The last day.
    pub until: String,
    /// Whether they are away now.
    pub now: bool,
    /// Name of who stands in.
    pub deputy: Option<String>,
}

/// An absence as it is entered.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct AbsenceChange {
    /// The first day.
    pub from: Date,
    /// The last day.
    pub until: Date,
    /// Who stands in.
    pub deputy: Option<Uuid>,
}

/// When the first day begins and the last one ends, in a zone; nothing where the days go backwards or out of time.
fn moments(change: &AbsenceChange, zone: &TimeZone) -> Option<(Timestamp, Timestamp)> {
    let begins = |day: Date| day.to_zoned(zone.clone()).ok().map(|day| day.timestamp());
    let (from, until) = (begins(change.from)?, begins(change.until.tomorrow().ok()?)?);
    (until > from).then_some((from, until))
}

impl Store {
    /// Absences that are not over of those whom somebody looks after, by their days.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn absences(&self, by: &Person) -> Result<Vec<AbsenceRow>, StoreError> {
        let rows = sqlx::query!(
            "select a.id, a.person_id, a.from_day::text as \"from!\", a.until_day::text as \"until!\",
             a.from_at <= $2 as \"now!\", d.name as \"deputy?\" from absences a
             left join people d on d.workspace_id = a.workspace_id and d.id = a.deputy_id
             where a.workspace_id = $1 and a.until_at > $2
               and ($4 or a.person_id in (select seen_by($1, $3)))
             order by a.from_at, a.id limit 2000",
            by.workspace_id,
            self.now().to_sqlx() as _,
            by.id,
            by.sees_all()
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows
            .into_iter()
            .map(|row| AbsenceRow {
                id: row.id,
                person: row.person_id,
                from: row.from,
                until: row.until,
                now: row.now,
                deputy: row.deputy,
            })
            .collect())
    }

    /// Enters days on which somebody is away.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where there is no such person or deputy; [`StoreError::Conflict`] with what is wrong
    /// about the days.
    #[crate::compiled_here]
    pub async fn add_absence(&self, by: &Person, person: Uuid, change: &AbsenceChange) -> Result<Uuid, StoreError> {
        let (workspace, now) = (by.workspace_id, self.now());
        let mut db = self.pool.begin().await?;
        led_by(&mut db, by, person).await?;
        let row = sqlx::query!(
            "select p.name, coalesce(a.zone, w.zone) as \"zone!\" from people p
             join accounts a on a.id = p.account_id join workspaces w on w.id = p.workspace_id
             where p.workspace_id = $1 and p.id = $2 and p.active for update of p",
            workspace,
            person
        )
        .fetch_optional(&mut *db)
        .await?
        .ok_or(StoreError::NotFound("person"))?;
        let zone = TimeZone::get(&row.zone).unwrap_or(TimeZone::UTC);
        let (from, until) = moments(change, &zone)
            .ok_or_else(|| StoreError::Conflict("the last day comes before the first one".into()))?;
        if until <= now {
            return Err(StoreError::Conflict("these days are over already".into()));
        }
        if let Some(deputy) = change.deputy {
            let takes = self.takers(workspace).await?.iter().any(|taker| taker.id == deputy);
            if deputy == person || !takes {
                return Err(StoreError::NotFound("colleague who works leads"));
            }
        }
        let id = Uuid::now_v7();
        let made = sqlx::query!(
            "insert into absences (workspace_id, id, person_id, from_day, until_day, from_at, until_at, deputy_id,
             made_by, made_at)
             select $1, $2, $3, $4::text::date, $5::text::date, $6, $7, $8, $9, $10
             where (select count(*) from absences where workspace_id = $1 and person_id = $3 and until_at > $10) < $11",
            workspace,
            id,
            person,
            change.from.to_string(),
            change.until.to_string(),
            from.to_sqlx() as _,
            until.to_sqlx() as _,
            change.deputy,
            by.id,
            now.to_sqlx() as _,
            MOST
        )
        .execute(&mut *db)
        .await?;
        if made.rows_affected() == 0 {
            return Err(StoreError::Conflict(format!("{} has {MOST} absences to come already", row.name)));
        }
        let about = format!("{}: away from {} to {}", row.name, change.from, change.until);
        audit_absence(&mut db, by, person, &about, now).await?;
        db.commit().await?;
        Ok(id)
    }

    /// Takes an absence out; who is away now is here again.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    #[crate::compiled_here]
    pub async fn remove_absence(&self, by: &Person, person: Uuid, id: Uuid) -> Result<(), StoreError> {
        let mut db = self.pool.begin().await?;
        led_by(&mut db, by, person).await?;
        let name = sqlx::query_scalar!(
            "delete from absences a using people p where a.workspace_id = $1 and a.id = $2 and a.person_id = $3
             and p.workspace_id = $1 and p.id = $3 returning p.name",
            by.workspace_id,
            id,
            person
        )
        .fetch_optional(&mut *db)
        .await?
        .ok_or(StoreError::NotFound("absence"))?;
        audit_absence(&mut db, by, person, &format!("{name}: an absence taken out"), self.now()).await?;
        db.commit().await?;
        Ok(())
    }
}

async fn audit_absence(
    db: &mut sqlx::PgConnection,
    by: &Person,
    person: Uuid,
    about: &str,
    now: Timestamp,
) -> Result<(), StoreError> {
    let entry = Entry { person: Some(by.id), what: Audited::QueueChanged, about, subject: Some(person), network: None };
    audit::write(db, by.workspace_id, &entry, now).await
}

#[cfg(test)]
#[allow(clippy::unwrap_used, reason = "tests")]
mod tests {
    use super::*;

    #[test]
    fn days_are_whole_days_of_the_zone_also_where_the_clock_changes() {
        let change = |from: &str, until: &str| AbsenceChange {
            from: from.parse().unwrap(),
            until: until.parse().unwrap(),
            deputy: None,
        };
        let london = TimeZone::get("Europe/London").unwrap();
        // 25 October 2026 has 25 hours there.
        let (from, until) = moments(&change("2026-10-25", "2026-10-25"), &london).unwrap();
        assert_eq!(
            (from.to_string(), until.to_string()),
            ("2026-10-24T23:00:00Z".into(), "2026-10-26T00:00:00Z".into())
        );
        assert_eq!(moments(&change("2026-10-25", "2026-10-24"), &london), None);
        assert_eq!(moments(&change("9999-12-31", "9999-12-31"), &london), None, "there is no day after it");
    }
}
