//! Earlier leads, sent to a destination after it is shown how many would be new there, changed, or left out.

use jiff::Timestamp;
use jiff_sqlx::ToSqlx;
use lumbo_deliver::webhook::EventKind;
use lumbo_people::Audited;
use uuid::Uuid;

use crate::audit::{self, Entry};
use crate::jobs::{self, JobKind};
use crate::{Person, Store, StoreError};

/// Most leads that are sent at once; what is left is counted, and sent the next time.
const AT_ONCE: i64 = 5_000;

/// How many leads there are to send.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
pub struct Backfill {
    /// They never went there.
    pub created: i64,
    /// They went there, and changed since.
    pub changed: i64,
    /// They are there as they are, or on their way.
    pub skipped: i64,
}

impl Store {
    /// Counts the leads filed since a moment that a destination would get, and sends them where that is asked for: at
    /// most 5,000 at once, the oldest first, each as it is today.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    #[crate::compiled_here]
    pub async fn backfill(
        &self,
        by: &Person,
        destination: Uuid,
        from: Timestamp,
        send: bool,
    ) -> Result<Backfill, StoreError> {
        let now = self.now();
        let mut db = self.pool.begin().await?;
        let name = sqlx::query_scalar!(
            "select name from destinations where workspace_id = $1 and id = $2 and removed_at is null for update",
            by.workspace_id,
            destination
        )
        .fetch_optional(&mut *db)
        .await?
        .ok_or(StoreError::NotFound("destination"))?;
        let rows = sqlx::query!(
            "select l.id, bool_or(s.state = 'done') as \"went?\",
               bool_or(s.state = 'waiting' or (s.state = 'done' and s.ended_at >= l.changed_at)) as \"there?\"
             from leads l join destinations d on d.workspace_id = l.workspace_id and d.id = $2
             left join sendings s on s.workspace_id = l.workspace_id and s.destination_id = $2 and s.lead_id = l.id
             where l.workspace_id = $1 and l.filed_at >= $3 and l.erased_at is null
               and (d.dialogues = '{}' or l.dialogue_id = any(d.dialogues))
               and (d.from_rank is null or l.band_rank >= d.from_rank)
             group by l.workspace_id, l.id order by l.filed_at, l.id",
            by.workspace_id,
            destination,
            from.to_sqlx() as _
        )
        .fetch_all(&mut *db)
        .await?;
        let mut count = Backfill::default();
        let mut leads = Vec::new();
        let mut events = Vec::new();
        for row in rows {
            if row.there == Some(true) {
                count.skipped += 1;
                continue;
            }
            let went = row.went == Some(true);
            if went {
                count.changed += 1;
            } else {
                count.created += 1;
            }
            if i64::try_from(leads.len()).is_ok_and(|so_far| so_far < AT_ONCE) {
                leads.push(row.id);
                events.push(if went { EventKind::LeadUpdated } else { EventKind::LeadFiled }.as_str().to_owned());
            }
        }
        if !send {
            return Ok(count);
        }
        let made = sqlx::query_scalar!(
            "insert into sendings (workspace_id, id, destination_id, lead_id, event, made_at)
             select $1, gen_random_uuid(), $2, n.lead, n.event, $5
             from unnest($3::uuid[], $4::text[]) with ordinality as n (lead, event, place) order by n.place
             returning id",
            by.workspace_id,
            destination,
            &leads,
            &events,
            now.to_sqlx() as _
        )
        .fetch_all(&mut *db)
        .await?;
        for id in &made {
            jobs::set(&mut db, by.workspace_id, JobKind::Send, *id, &id.to_string(), now, now).await?;
        }
        let about = format!("{name}: {} earlier leads sent", made.len());
        let entry = Entry {
            person: Some(by.id),
            what: Audited::Exported,
            about: &about,
            subject: Some(destination),
            network: None,
        };
        audit::write(&mut db, by.workspace_id, &entry, now).await?;
        db.commit().await?;
        self.wakes.jobs();
        Ok(count)
    }
}
