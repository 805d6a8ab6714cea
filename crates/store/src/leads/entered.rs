//! Leads that people enter, by hand or from a file, and taking them out again as a whole.

use std::sync::Arc;

use jiff::Timestamp;
use jiff_sqlx::{Timestamp as SqlTimestamp, ToSqlx};
use lumbo_dialogue::plan::Plan;
use lumbo_dialogue::talk::{Context, Effect, Entered, Env, State, enter};
use lumbo_people::Audited;
use lumbo_reading::domains::DomainLists;
use lumbo_records::said;
use lumbo_route::{Decision, RouteStep};
use sqlx::PgConnection;
use sqlx::types::Json;
use uuid::Uuid;

use super::file::{FilingOf, file};
use super::{Activity, log};
use crate::audit::{self, Entry};
use crate::conversations::{Spot, append};
use crate::notices::{NoticeKind, tell_owner};
use crate::{Person, Store, StoreError, territories};

/// Most rows in one request.
pub const ROWS_AT_ONCE: usize = 100;
/// Most imports that are listed.
const LISTED: i64 = 50;

/// What is said of leads before they are entered.
#[derive(Debug, Clone)]
pub struct NewImport<'a> {
    /// The dialogue whose fields, scorecard and rules they are read by.
    pub dialogue: Uuid,
    /// The file's name; absent by hand.
    pub file: Option<&'a str>,
    /// Where they come from.
    pub source: &'a str,
    /// On what ground they may be contacted.
    pub ground: &'a str,
    /// Who gets them; by the rules where absent.
    pub owner: Option<Uuid>,
    /// Whether owners are told and destinations get them.
    pub tells: bool,
}

/// A row of a file.
#[derive(Debug, Clone)]
pub struct EnteredRow {
    /// Its line in the file; 1 by hand.
    pub line: i32,
    /// What stands in it, by the keys of fields.
    pub answers: Vec<(String, String)>,
}

/// A row that was not filed, with a sentence.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct UnfiledRow {
    /// Its line in the file.
    pub line: i32,
    /// What is wrong.
    pub says: String,
}

/// What a row would become.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct PreviewRow {
    /// Its line in the file.
    pub line: i32,
    /// The score.
    pub total: Option<i64>,
    /// The band's name.
    pub band: Option<String>,
    /// Key of the queue that the rules name.
    pub queue: Option<String>,
}

/// Leads that were entered together.
#[derive(Debug, Clone)]
pub struct ImportRow {
    /// Its id.
    pub id: Uuid,
    /// The dialogue's title.
    pub dialogue: String,
    /// The file's name; absent by hand.
    pub file: Option<String>,
    /// Where they come from.
    pub source: String,
    /// On what ground they may be contacted.
    pub ground: String,
    /// Who entered them.
    pub made_by: Option<String>,
    /// When.
    pub made_at: Timestamp,
    /// When they were taken out again.
    pub undone_at: Option<Timestamp>,
    /// Leads that are there still.
    pub leads: i64,
    /// Of them, worked on since: undoing leaves them.
    pub worked: i64,
}

/// What undoing did.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
pub struct Undone {
    /// Leads that are gone again.
    pub removed: i64,
    /// Leads that somebody worked on since, and that stay.
    pub kept: i64,
}

/// What rows are read by.
struct ReadBy {
    release: Uuid,
    plan: Arc<Plan>,
    domains: Arc<DomainLists>,
}

impl ReadBy {
    fn read(&self, row: &EnteredRow, now: Timestamp) -> Result<Entered, String> {
        let context = Context::default();
        let env = Env { now, seed: 1, context: &context, known: &[], domains: &self.domains };
        let entered = enter(&self.plan, &format!("entered-{}", row.line), &row.answers, env)
            .ok_or("This dialogue files no leads: add a File lead, and release it.")?;
        if let Some((key, says)) = entered.unread.first() {
            let label = self.plan.file.fields.iter().find(|field| field.key == *key);
            let label = label.map_or(key.as_str(), |field| field.label.as_str());
            let text = row.answers.iter().find(|(known, _)| known == key).map_or("", |(_, text)| text.as_str());
            let text: String = text.chars().take(60).collect();
            return Err(format!("{label} “{text}”: the dialogue would answer “{says}”"));
        }
        if entered.state.values.is_empty() {
            return Err("Nothing stands in it.".to_owned());
        }
        Ok(entered)
    }
}

fn over() -> StoreError {
    StoreError::NotFound("import to add to; it may have been undone")
}

impl Store {
    async fn read_by(&self, db: &mut PgConnection, workspace: Uuid, dialogue: Uuid) -> Result<ReadBy, StoreError> {
        let row = sqlx::query!(
            "select r.id, w.domains_revision from releases r join workspaces w on w.id = r.workspace_id
             where r.workspace_id = $1 and r.dialogue_id = $2 order by r.number desc limit 1",
            workspace,
            dialogue
        )
        .fetch_optional(&mut *db)
        .await?
        .ok_or(StoreError::NotFound("release of this dialogue yet"))?;
        let plan = self.plan_of(db, workspace, row.id).await?;
        let domains = self.domains_at(db, workspace, row.domains_revision).await?;
        Ok(ReadBy { release: row.id, plan, domains })
    }

    /// What rows would become; nothing is filed.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where the dialogue was never released.
    #[crate::compiled_here]
    pub async fn preview_leads(
        &self,
        workspace: Uuid,
        dialogue: Uuid,
        rows: &[EnteredRow],
    ) -> Result<(Vec<PreviewRow>, Vec<UnfiledRow>), StoreError> {
        let mut db = self.pool.acquire().await?;
        let by = self.read_by(&mut db, workspace, dialogue).await?;
        let now = self.now();
        let (mut good, mut bad) = (Vec::new(), Vec::new());
        for row in rows {
            match by.read(row, now) {
                Err(says) => bad.push(UnfiledRow { line: row.line, says }),
                Ok(entered) => {
                    let state = &entered.state;
                    let Some(Effect::File { score, decision, .. }) = entered.effects.into_iter().next() else {
                        continue;
                    };
                    let said = said(&by.plan, state, Uuid::nil(), None, score.as_deref(), &by.domains, false);
                    let decision = territories::looked_up(&mut db, workspace, decision, &said).await?;
                    good.push(PreviewRow {
                        line: row.line,
                        total: score.as_ref().map(|score| score.total),
                        band: score.map(|score| score.band_label),
                        queue: decision.queue,
                    });
                }
            }
        }
        Ok((good, bad))
    }

    /// Begins entering leads.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where there is no such dialogue, no release of it, or no such owner.
    #[crate::compiled_here]
    pub async fn begin_import(&self, by: &Person, new: &NewImport<'_>) -> Result<Uuid, StoreError> {
        let (workspace, now) = (by.workspace_id, self.now());
        let mut db = self.pool.begin().await?;
        self.read_by(&mut db, workspace, new.dialogue).await?;
        if let Some(owner) = new.owner
            && !self.takers(workspace).await?.iter().any(|taker| taker.id == owner)
        {
            return Err(StoreError::NotFound("colleague who works leads"));
        }
        let id = Uuid::now_v7();
        sqlx::query!(
            "insert into imports (workspace_id, id, dialogue_id, file, source, ground, owner_id, tells, made_by,
             made_at) values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10)",
            workspace,
            id,
            new.dialogue,
            new.file,
            new.source,
            new.ground,
            new.owner,
            new.tells,
            by.id,
            now.to_sqlx() as _
        )
        .execute(&mut *db)
        .await?;
        let about = format!("leads entered {}", new.file.map_or("by hand".into(), |file| format!("from {file}")));
        let entry = Entry {
            person: Some(by.id),
            what: Audited::RecordsEntered,
            about: &about,
            subject: Some(id),
            network: None,
        };
        audit::write(&mut db, workspace, &entry, now).await?;
        db.commit().await?;
        Ok(id)
    }

    /// Files rows in one transaction; a row that was filed before is not filed again. Gives the leads of those that
    /// were filed, by line, and those that could not be.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where there is no such import, or it was undone.
    #[crate::compiled_here]
    pub async fn enter_leads(
        &self,
        by: &Person,
        import: Uuid,
        rows: &[EnteredRow],
    ) -> Result<(Vec<(i32, Uuid)>, Vec<UnfiledRow>), StoreError> {
        let (workspace, now) = (by.workspace_id, self.now());
        let mut db = self.pool.begin().await?;
        let of = sqlx::query!(
            "select i.dialogue_id, i.file, i.source, i.ground, i.owner_id, i.tells, p.name as \"owner?\" from imports i
             left join people p on p.workspace_id = i.workspace_id and p.id = i.owner_id
             where i.workspace_id = $1 and i.id = $2 and i.undone_at is null for update of i",
            workspace,
            import
        )
        .fetch_optional(&mut *db)
        .await?
        .ok_or_else(over)?;
        let read_by = self.read_by(&mut db, workspace, of.dialogue_id).await?;
        let lines: Vec<i32> = rows.iter().map(|row| row.line).collect();
        let before = sqlx::query!(
            "select line, lead_id from import_rows where workspace_id = $1 and import_id = $2 and line = any($3)",
            workspace,
            import,
            &lines
        )
        .fetch_all(&mut *db)
        .await?;
        let mut filed: Vec<(i32, Uuid)> = before.into_iter().map(|row| (row.line, row.lead_id)).collect();
        let mut bad = Vec::new();
        for row in rows.iter().take(ROWS_AT_ONCE) {
            if filed.iter().any(|(line, _)| *line == row.line) {
                continue;
            }
            let entered = match read_by.read(row, now) {
                Ok(entered) => entered,
                Err(says) => {
                    bad.push(UnfiledRow { line: row.line, says });
                    continue;
                }
            };
            let spot =
                Spot { workspace, dialogue: of.dialogue_id, release: read_by.release, conversation: Uuid::now_v7() };
            let named = of.owner_id.zip(of.owner.clone());
            let lead = write(&mut db, by, &read_by, spot, entered, named, now).await?;
            let from =
                of.file.as_ref().map_or_else(|| "Entered by hand".to_owned(), |file| format!("Entered from {file}"));
            let says = format!("{from}. From: {}. May be contacted: {}", of.source, of.ground);
            log(&mut db, workspace, lead, Some(by.id), Activity::Filing, &says, now).await?;
            if !of.tells {
                keep_quiet(&mut db, workspace, lead, now).await?;
            }
            sqlx::query!(
                "insert into import_rows (workspace_id, import_id, line, conversation_id, lead_id, revision)
                 select $1, $2, $3, $4, l.id, l.revision from leads l where l.workspace_id = $1 and l.id = $5",
                workspace,
                import,
                row.line,
                spot.conversation,
                lead
            )
            .execute(&mut *db)
            .await?;
            filed.push((row.line, lead));
        }
        db.commit().await?;
        self.wakes.jobs();
        self.wakes.stream(workspace);
        Ok((filed, bad))
    }

    /// What was entered, the newest first.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn imports(&self, workspace: Uuid) -> Result<Vec<ImportRow>, StoreError> {
        let rows = sqlx::query!(
            "select i.id, d.title, i.file, i.source, i.ground, p.name as \"made_by?\",
               i.made_at as \"made_at: SqlTimestamp\", i.undone_at as \"undone_at: SqlTimestamp\",
               count(l.id) as \"leads!\", count(l.id) filter (where l.revision <> r.revision) as \"worked!\"
             from imports i join dialogues d on d.workspace_id = i.workspace_id and d.id = i.dialogue_id
             left join people p on p.workspace_id = i.workspace_id and p.id = i.made_by
             left join import_rows r on r.workspace_id = i.workspace_id and r.import_id = i.id
             left join leads l on l.workspace_id = r.workspace_id and l.id = r.lead_id
             where i.workspace_id = $1 group by i.workspace_id, i.id, d.title, p.name
             order by i.made_at desc, i.id desc limit $2",
            workspace,
            LISTED
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows
            .into_iter()
            .map(|row| ImportRow {
                id: row.id,
                dialogue: row.title,
                file: row.file,
                source: row.source,
                ground: row.ground,
                made_by: row.made_by,
                made_at: row.made_at.to_jiff(),
                undone_at: row.undone_at.map(SqlTimestamp::to_jiff),
                leads: row.leads,
                worked: row.worked,
            })
            .collect())
    }

    /// Takes out again what was entered together: leads that nobody worked on since, with contacts and companies that
    /// came with them and that nothing else holds on to. Turns of rotations are not given back.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] where there is no such import, or it was undone before.
    #[crate::compiled_here]
    pub async fn undo_import(&self, by: &Person, import: Uuid) -> Result<Undone, StoreError> {
        let (workspace, now) = (by.workspace_id, self.now());
        let mut db = self.pool.begin().await?;
        let begun = sqlx::query_scalar!(
            "update imports set undone_at = $3 where workspace_id = $1 and id = $2 and undone_at is null
             returning made_at as \"made_at: SqlTimestamp\"",
            workspace,
            import,
            now.to_sqlx() as _
        )
        .fetch_optional(&mut *db)
        .await?
        .ok_or_else(over)?;
        let rows = sqlx::query!(
            "select r.lead_id, r.conversation_id, l.contact_id, l.company_id,
               l.revision = r.revision and l.touched_at is null and l.shows = r.conversation_id
                 and not exists (select from lead_snapshots s where s.workspace_id = l.workspace_id
                   and s.lead_id = l.id and s.conversation_id <> r.conversation_id)
                 and not exists (select from sendings s where s.workspace_id = l.workspace_id and s.lead_id = l.id
                   and s.attempts > 0) as \"untouched!\"
             from import_rows r join leads l on l.workspace_id = r.workspace_id and l.id = r.lead_id
             where r.workspace_id = $1 and r.import_id = $2 order by l.id for update of l",
            workspace,
            import
        )
        .fetch_all(&mut *db)
        .await?;
        let (gone, stay): (Vec<_>, Vec<_>) = rows.into_iter().partition(|row| row.untouched);
        let leads: Vec<Uuid> = gone.iter().map(|row| row.lead_id).collect();
        let conversations: Vec<Uuid> = gone.iter().map(|row| row.conversation_id).collect();
        let contacts: Vec<Uuid> = gone.iter().map(|row| row.contact_id).collect();
        let companies: Vec<Uuid> = gone.iter().filter_map(|row| row.company_id).collect();
        take_out_leads(&mut db, workspace, &leads, &conversations).await?;
        take_out_records(&mut db, workspace, &contacts, &companies, begun.to_jiff()).await?;
        let entry = Entry {
            person: Some(by.id),
            what: Audited::RecordsEntered,
            about: &format!("{} entered leads taken out again", gone.len()),
            subject: Some(import),
            network: None,
        };
        audit::write(&mut db, workspace, &entry, now).await?;
        crate::live::add(&mut db, workspace, crate::live::Topic::Leads, "lead", now).await?;
        db.commit().await?;
        self.wakes.stream(workspace);
        let count = |rows: usize| i64::try_from(rows).unwrap_or(i64::MAX);
        Ok(Undone { removed: count(gone.len()), kept: count(stay.len()) })
    }
}

/// Writes the conversation that an entered lead stands for, and files it; gives the lead.
async fn write(
    db: &mut PgConnection,
    by: &Person,
    read_by: &ReadBy,
    spot: Spot,
    entered: Entered,
    owner: Option<(Uuid, String)>,
    now: Timestamp,
) -> Result<Uuid, StoreError> {
    sqlx::query!(
        "insert into conversations (id, workspace_id, dialogue_id, release_id, state, events, started_at, last_at,
         entered) values ($1, $2, $3, $4, $5, 0, $6, $6, true)",
        spot.conversation,
        spot.workspace,
        spot.dialogue,
        spot.release,
        Json(State::default()) as _,
        now.to_sqlx() as _
    )
    .execute(&mut *db)
    .await?;
    append(db, spot, &entered.state, 0, &entered.events, now).await?;
    // Who was named gets it: no queue is asked, and nobody's turn is spent.
    let named = owner.as_ref().map(|(_, name)| Decision {
        steps: vec![RouteStep::Said(format!("{} entered it for {name}", by.name))],
        ..Decision::default()
    });
    for effect in &entered.effects {
        let Effect::File { filing, score, decision, unfinished, early: _ } = effect else { continue };
        let of = FilingOf {
            spot,
            plan: &read_by.plan,
            state: &entered.state,
            domains: &read_by.domains,
            filing: *filing,
            score: score.as_deref(),
            decision: named.as_ref().unwrap_or(decision),
            unfinished: *unfinished,
            early: false,
            choosing: false,
            now,
        };
        file(db, &of).await?;
    }
    let lead = sqlx::query_scalar!(
        "select lead_id from lead_snapshots where workspace_id = $1 and conversation_id = $2",
        spot.workspace,
        spot.conversation
    )
    .fetch_one(&mut *db)
    .await?;
    if let (Some((owner, _)), Some(decision)) = (&owner, &named) {
        // One that it joined stays whose it is: nobody takes another's lead by entering its person again.
        let given = sqlx::query!(
            "update leads set owner_id = $3, decision = $4 where workspace_id = $1 and id = $2
               and not exists (select from lead_snapshots s where s.workspace_id = $1 and s.lead_id = $2
                 and s.conversation_id <> $5)",
            spot.workspace,
            lead,
            owner,
            Json(decision) as _,
            spot.conversation
        )
        .execute(&mut *db)
        .await?;
        if given.rows_affected() > 0 {
            // The filing knew of no owner yet.
            tell_owner(db, spot.workspace, lead, NoticeKind::Yours, Some(by.id), now).await?;
        }
    }
    Ok(lead)
}

/// Nobody is told of a lead, no destination gets it, and no clock runs: it did not come just now.
async fn keep_quiet(db: &mut PgConnection, workspace: Uuid, lead: Uuid, now: Timestamp) -> Result<(), StoreError> {
    sqlx::query!(
        "delete from notices where workspace_id = $1 and lead_id = $2 and at = $3",
        workspace,
        lead,
        now.to_sqlx() as _
    )
    .execute(&mut *db)
    .await?;
    sqlx::query!(
        "delete from sendings where workspace_id = $1 and lead_id = $2 and made_at = $3 and attempts = 0",
        workspace,
        lead,
        now.to_sqlx() as _
    )
    .execute(&mut *db)
    .await?;
    sqlx::query!(
        "update leads set call_by = null where workspace_id = $1 and id = $2 and filed_at = $3",
        workspace,
        lead,
        now.to_sqlx() as _
    )
    .execute(db)
    .await?;
    Ok(())
}

async fn take_out_leads(
    db: &mut PgConnection,
    workspace: Uuid,
    leads: &[Uuid],
    conversations: &[Uuid],
) -> Result<(), StoreError> {
    sqlx::query_scalar!("select set_config('lumbo.undoing', 'yes', true)").fetch_one(&mut *db).await?;
    for statement in [
        "delete from sendings where workspace_id = $1 and lead_id = any($2)",
        "delete from notices where workspace_id = $1 and lead_id = any($2)",
        "delete from lead_values where workspace_id = $1 and lead_id = any($2)",
        "delete from activities where workspace_id = $1 and lead_id = any($2)",
        "delete from also_given where workspace_id = $1 and lead_id = any($2)",
        "delete from lead_snapshots where workspace_id = $1 and lead_id = any($2)",
        "delete from outside_ids where workspace_id = $1 and record = 'lead' and record_id = any($2)",
        "delete from import_rows where workspace_id = $1 and lead_id = any($2)",
        "delete from leads where workspace_id = $1 and id = any($2)",
    ] {
        sqlx::query(statement).bind(workspace).bind(leads).execute(&mut *db).await?;
    }
    for statement in [
        "delete from conversation_events where workspace_id = $1 and conversation_id = any($2)",
        "delete from conversations where workspace_id = $1 and id = any($2) and entered",
    ] {
        sqlx::query(statement).bind(workspace).bind(conversations).execute(&mut *db).await?;
    }
    sqlx::query_scalar!("select set_config('lumbo.undoing', '', true)").fetch_one(&mut *db).await?;
    Ok(())
}

/// Takes out contacts and companies that came since a moment and that nothing holds on to.
pub(super) async fn take_out_records(
    db: &mut PgConnection,
    workspace: Uuid,
    contacts: &[Uuid],
    companies: &[Uuid],
    since: Timestamp,
) -> Result<(), StoreError> {
    let gone = sqlx::query_scalar!(
        "delete from contacts k where k.workspace_id = $1 and k.id = any($2) and k.made_at >= $3
           and not exists (select from leads l where l.workspace_id = k.workspace_id and l.contact_id = k.id)
           and not exists (select from requests r where r.workspace_id = k.workspace_id and r.contact_id = k.id)
           and not exists (select from contacts o where o.workspace_id = k.workspace_id and o.merged_into = k.id)
           and not exists (select from merges m where m.workspace_id = k.workspace_id
             and (m.kept_id = k.id or m.gone_id = k.id))
         returning k.id",
        workspace,
        contacts,
        since.to_sqlx() as _
    )
    .fetch_all(&mut *db)
    .await?;
    let firms = sqlx::query_scalar!(
        "delete from companies f where f.workspace_id = $1 and f.id = any($2) and f.made_at >= $3
           and f.owner_id is null and f.standing = 'none'
           and not exists (select from leads l where l.workspace_id = f.workspace_id and l.company_id = f.id)
           and not exists (select from contacts k where k.workspace_id = f.workspace_id and k.company_id = f.id)
         returning f.id",
        workspace,
        companies,
        since.to_sqlx() as _
    )
    .fetch_all(&mut *db)
    .await?;
    for (record, ids) in [("contact", gone), ("company", firms)] {
        sqlx::query!(
            "delete from record_values where workspace_id = $1 and record = $2 and record_id = any($3)",
            workspace,
            record,
            &ids
        )
        .execute(&mut *db)
        .await?;
    }
    Ok(())
}
