//! Pages of the list of leads, in the order to call, and searching it. A page begins behind the last lead of the one
//! before, so that leads that come meanwhile neither repeat nor hide any.

use std::collections::HashMap;

use jiff::Timestamp;
use jiff_sqlx::{Timestamp as SqlTimestamp, ToSqlx};
use lumbo_records::{LeadStatus, ListLook, NextWhat, fold};
use serde_json::{Map, Value as Json};
use uuid::Uuid;

use crate::{Person, Store, StoreError};

/// Most leads of one page.
const PAGE: i64 = 100;
/// Longest text that is searched for, characters.
const SEARCH_LIMIT: usize = 200;

/// A line of a list of leads.
#[derive(Debug, Clone)]
pub struct LeadRow {
    /// Its id.
    pub id: Uuid,
    /// The prospect's name, as this lead's conversation gave it.
    pub name: Option<String>,
    /// The company's name, as this lead's conversation gave it.
    pub company: Option<String>,
    /// Up to four things they want, in words.
    pub wants: String,
    /// The score.
    pub total: Option<i64>,
    /// The band's name.
    pub band: Option<String>,
    /// Place of the band from the lowest, 0; -1 where the lead was ruled out.
    pub band_rank: i32,
    /// The threshold that the band begins at.
    pub band_from: Option<i64>,
    /// What became of it so far.
    pub status: LeadStatus,
    /// The queue's name.
    pub queue: Option<String>,
    /// The owner's name.
    pub owner: Option<String>,
    /// True where the owner is the one who asks.
    pub mine: bool,
    /// When it was filed, RFC 3339.
    pub filed_at: Timestamp,
    /// When to call at the latest, RFC 3339; absent without a target.
    pub call_by: Option<Timestamp>,
    /// Phone number, E.164.
    pub phone: Option<String>,
    /// How often it was tried.
    pub tries: i32,
    /// How often it is tried at most.
    pub tries_planned: i32,
    /// What comes next; nothing on a closed one.
    pub next_what: Option<NextWhat>,
    /// When, RFC 3339.
    pub next_at: Option<Timestamp>,
    /// True where they left before the end.
    pub unfinished: bool,
    /// IANA name of the zone that their clock shows, where it is known.
    pub zone: Option<String>,
    /// When they can be called again, where a call is next and it is outside calling hours there, RFC 3339.
    pub callable_at: Option<Timestamp>,
    /// Words that people put on it.
    pub tags: Vec<String>,
    /// What it says in the fields that were asked for, in their order; empty where nothing was said.
    pub cells: Vec<String>,
}

/// Which leads a list shows.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum LeadFilter {
    /// Open and mine.
    Mine,
    /// Open, in a queue of mine, and nobody's.
    Queue,
    /// Open, and left before the end.
    Unfinished,
    /// Everything I may see, closed ones too.
    All,
}

impl LeadFilter {
    /// The list of a name.
    pub(super) fn parse(text: &str) -> Option<Self> {
        [Self::Mine, Self::Queue, Self::Unfinished, Self::All].into_iter().find(|filter| filter.as_str() == text)
    }

    pub(super) fn as_str(self) -> &'static str {
        match self {
            Self::Mine => "mine",
            Self::Queue => "queue",
            Self::Unfinished => "unfinished",
            Self::All => "all",
        }
    }
}

/// A page of leads to read.
#[derive(Debug, Clone)]
pub struct LeadQuery<'a> {
    /// Which leads.
    pub filter: LeadFilter,
    /// What name, company, address, number or wishes hold; how a tag begins, behind a `#`; everything where empty.
    pub search: &'a str,
    /// What else they hold, what columns they have and what they are sorted by.
    pub look: &'a ListLook,
    /// Where the page before ended; the first page where absent.
    pub after: Option<&'a str>,
}

/// A list of everything, in the order to call.
pub static PLAIN: ListLook = ListLook { tests: Vec::new(), columns: Vec::new(), sort: None };

/// A page of leads.
#[derive(Debug, Clone)]
pub struct LeadPage {
    /// The leads, in the order to call; 100 at most.
    pub leads: Vec<LeadRow>,
    /// What the next page begins after; absent where this is the last.
    pub next: Option<String>,
}

/// Where a page ended: among the open ones, whose order changes with the clock, or among the closed ones.
#[derive(Debug, Clone, PartialEq, Eq)]
enum Place {
    /// Behind an open lead, in the order of a moment: its group, its band from the highest, its own moment.
    Open { as_of: Timestamp, group: i32, rank_down: i32, moment: Timestamp, id: Uuid },
    /// Behind a closed lead.
    Closed { rank_down: i32, filed_at: Timestamp, id: Uuid },
    /// Behind a lead of a list that is sorted by something; `number` is its place there, for where it has left the list
    /// meanwhile.
    Sorted { number: i64, id: Uuid },
}

impl Place {
    /// Before every open lead, in the order of a moment.
    fn first(as_of: Timestamp) -> Self {
        Self::Open { as_of, group: -1, rank_down: i32::MIN, moment: Timestamp::UNIX_EPOCH, id: Uuid::nil() }
    }

    /// Before every closed lead.
    fn first_closed() -> Self {
        Self::Closed { rank_down: i32::MIN, filed_at: Timestamp::UNIX_EPOCH, id: Uuid::nil() }
    }

    fn text(&self) -> String {
        match self {
            Self::Open { as_of, group, rank_down, moment, id } => {
                format!("o.{}.{group}.{rank_down}.{}.{}", as_of.as_microsecond(), moment.as_microsecond(), id.simple())
            }
            Self::Closed { rank_down, filed_at, id } => {
                format!("c.{rank_down}.{}.{}", filed_at.as_microsecond(), id.simple())
            }
            Self::Sorted { number, id } => format!("s.{number}.{}", id.simple()),
        }
    }

    fn parse(text: &str) -> Option<Self> {
        let moment = |text: &str| Timestamp::from_microsecond(text.parse().ok()?).ok();
        let parts: Vec<&str> = text.split('.').collect();
        match parts.as_slice() {
            ["o", as_of, group, rank_down, at, id] => Some(Self::Open {
                as_of: moment(as_of)?,
                group: group.parse().ok()?,
                rank_down: rank_down.parse().ok()?,
                moment: moment(at)?,
                id: id.parse().ok()?,
            }),
            ["c", rank_down, at, id] => {
                Some(Self::Closed { rank_down: rank_down.parse().ok()?, filed_at: moment(at)?, id: id.parse().ok()? })
            }
            ["s", number, id] => Some(Self::Sorted { number: number.parse().ok()?, id: id.parse().ok()? }),
            _ => None,
        }
    }
}

struct Row {
    id: Uuid,
    name: Option<String>,
    company: Option<String>,
    wants: String,
    total: Option<i64>,
    band_label: Option<String>,
    band_rank: i32,
    band_from: Option<i64>,
    status: String,
    queue: Option<String>,
    owner: Option<String>,
    mine: bool,
    filed_at: SqlTimestamp,
    call_by: Option<SqlTimestamp>,
    phone: Option<String>,
    tries: i32,
    tries_planned: i32,
    next_what: Option<String>,
    next_at: Option<SqlTimestamp>,
    unfinished: bool,
    zone: Option<String>,
    callable_at: Option<SqlTimestamp>,
    tags: Vec<String>,
    place_group: i32,
    place_rank: i32,
    place_moment: SqlTimestamp,
    place_number: i64,
}

impl Row {
    fn lead(self) -> Result<LeadRow, StoreError> {
        Ok(LeadRow {
            id: self.id,
            name: self.name,
            company: self.company,
            wants: self.wants,
            total: self.total,
            band: self.band_label,
            band_rank: self.band_rank,
            band_from: self.band_from,
            status: status(&self.status)?,
            queue: self.queue,
            owner: self.owner,
            mine: self.mine,
            filed_at: self.filed_at.to_jiff(),
            call_by: self.call_by.map(SqlTimestamp::to_jiff),
            phone: self.phone,
            tries: self.tries,
            tries_planned: self.tries_planned,
            next_what: self.next_what.as_deref().and_then(NextWhat::parse),
            next_at: self.next_at.map(SqlTimestamp::to_jiff),
            unfinished: self.unfinished,
            zone: self.zone,
            callable_at: self.callable_at.map(SqlTimestamp::to_jiff),
            tags: self.tags,
            cells: Vec::new(),
        })
    }
}

/// The status of a column.
pub(crate) fn status(text: &str) -> Result<LeadStatus, StoreError> {
    LeadStatus::parse(text).ok_or_else(|| StoreError::Kept(format!("there is no status “{text}”")))
}

/// A text as a pattern of LIKE that holds it.
fn pattern(search: &str) -> String {
    let folded: String = fold(search).chars().take(SEARCH_LIMIT).collect();
    format!("%{}%", folded.replace('\\', "\\\\").replace('%', "\\%").replace('_', "\\_"))
}

/// What is searched for: words that a lead holds, or how one of its tags begins.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
struct Needle {
    words: Option<String>,
    tag: Option<String>,
}

impl Needle {
    /// What leads are asked for: the tests of a look, and what is searched for.
    fn asked(self, mut tests: Map<String, Json>) -> Json {
        for (key, text) in [("search", self.words), ("tag", self.tag)] {
            tests.extend(text.map(|text| (key.to_owned(), text.into())));
        }
        Json::Object(tests)
    }

    fn of(search: &str) -> Self {
        match search.trim() {
            "" | "#" => Self::default(),
            text => match text.strip_prefix('#') {
                Some(tag) => Self { tag: Some(begins(tag)), ..Self::default() },
                None => Self { words: Some(pattern(text)), ..Self::default() },
            },
        }
    }
}

/// A text as a pattern of LIKE that begins with it, in small letters.
fn begins(tag: &str) -> String {
    let small: String = tag.trim().to_lowercase().chars().take(SEARCH_LIMIT).collect();
    format!("{}%", small.replace('\\', "\\\\").replace('%', "\\%").replace('_', "\\_"))
}

/// Rows of a list of leads: tables that it needs first, its leads as a table `placed` in two parts between which stands
/// what every list asks of leads `l`, their order, arguments. Every list has the workspace as `$1`, the person as `$2`,
/// whether they see all as `$3`, and what is asked for as `$4` ([`ListLook::ready`], `search` and `tag`).
macro_rules! rows {
    ($tables:literal, $leads:literal, $placed:literal, $order:literal, $($argument:expr),+ $(,)?) => {
        sqlx::query_as!(
            Row,
            "with recursive " + $tables + "
             matching as materialized (
               select v.lead_id from jsonb_to_recordset(coalesce($4::jsonb->'tests', '[]'))
                   as t(n int, field text, op text, texts jsonb, words text, number numeric, day date, yes boolean)
                 join lead_values v on v.workspace_id = $1 and v.field_id = t.field
                   and case t.op when 'known' then true when 'one_of' then t.texts ? v.text_value
                     when 'has' then position(t.words in v.text_value) > 0 when 'yes' then v.yes_value = t.yes
                     when 'at_least' then v.number_value >= t.number or v.date_value >= t.day
                     when 'at_most' then v.number_value <= t.number or v.date_value <= t.day end
               group by v.lead_id having count(distinct t.n) = jsonb_array_length($4::jsonb->'tests')),
             seen as materialized (select seen_by as person from seen_by($1, $2)),
             seen_queues as materialized (select distinct m.queue_id from queue_members m
               where m.workspace_id = $1 and m.person_id in (select person from seen)), " + $leads + "
                 and ($3 or l.owner_id in (select person from seen)
                   or l.queue_id in (select queue_id from seen_queues))
                 and (not $4 ? 'search' or l.search like $4->>'search')
                 and (not $4 ? 'tag'
                   or l.tags <> '{}' and exists (select from unnest(l.tags) t where lower(t) like $4->>'tag'))
                 and (not $4 ? 'tests' or l.id in (select lead_id from matching))
                 and (not $4 ? 'nots' or not exists (
                   select from jsonb_to_recordset($4->'nots') as t(field text, texts jsonb, yes boolean)
                     join lead_values v on v.workspace_id = $1 and v.lead_id = l.id and v.field_id = t.field
                       and (t.texts is null and t.yes is null or t.texts ? v.text_value or t.yes = v.yes_value)))
                 and (not $4 ? 'status_in' or $4->'status_in' ? l.status)
                 and (not $4 ? 'status_out' or not $4->'status_out' ? l.status)
                 and (not $4 ? 'band_in' or $4->'band_in' ? coalesce(l.band_label, ''))
                 and (not $4 ? 'band_out' or not $4->'band_out' ? coalesce(l.band_label, ''))
                 and (not $4 ? 'owner_in' or $4->'owner_in' ? coalesce(l.owner_id::text, ''))
                 and (not $4 ? 'owner_out' or not $4->'owner_out' ? coalesce(l.owner_id::text, ''))
                 and (not $4 ? 'queue_in' or $4->'queue_in' ? coalesce(l.queue_id::text, ''))
                 and (not $4 ? 'queue_out' or not $4->'queue_out' ? coalesce(l.queue_id::text, ''))
                 and (not $4 ? 'score_from' or l.total >= ($4->>'score_from')::numeric)
                 and (not $4 ? 'score_until' or l.total <= ($4->>'score_until')::numeric)
                 and (not $4 ? 'tries_from' or l.tries >= ($4->>'tries_from')::numeric)
                 and (not $4 ? 'tries_until' or l.tries <= ($4->>'tries_until')::numeric)
                 and (not $4 ? 'filed_from' or l.filed_at >= ($4->>'filed_from')::date::timestamp
                   at time zone (select zone from workspaces where id = $1))
                 and (not $4 ? 'filed_until' or l.filed_at < (($4->>'filed_until')::date + 1)::timestamp
                   at time zone (select zone from workspaces where id = $1)) " + $placed + "
             select l.id, l.name, l.company, l.wants, l.total, l.band_label, l.band_rank, l.band_from, l.status,
               q.name as \"queue?\", o.name as \"owner?\", coalesce(l.owner_id = $2, false) as \"mine!\",
               l.filed_at as \"filed_at: SqlTimestamp\", l.call_by as \"call_by: SqlTimestamp\", l.phone, l.tries,
               l.tries_planned, l.next_what, l.next_at as \"next_at: SqlTimestamp\", l.unfinished, l.zone, l.tags,
               l.callable_at as \"callable_at: SqlTimestamp\",
               l.place_group as \"place_group!\", l.place_rank as \"place_rank!\",
               l.place_moment as \"place_moment!: SqlTimestamp\", l.place_number as \"place_number!\"
               from placed l left join queues q on q.workspace_id = l.workspace_id and q.id = l.queue_id
               left join people o on o.workspace_id = l.workspace_id and o.id = l.owner_id
             order by " + $order,
            $($argument),+
        )
    };
}

impl Store {
    /// A page of the leads that a person may see. Where they are not sorted by anything, in the order to call: untried
    /// ones of the highest band, then what is due, by band and by the moment it fell due, then what is to come, by its
    /// moment; closed ones last. Who is to be called and is outside calling hours is to come when those begin, of one
    /// moment the higher band first.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] for a place that no page ended at; [`StoreError::Wrong`] for a look that cannot be
    /// asked.
    #[crate::compiled_here]
    pub async fn leads(&self, person: &Person, query: &LeadQuery<'_>) -> Result<LeadPage, StoreError> {
        let sort = query.look.sort.as_ref();
        let place = match query.after {
            Some(text) => Place::parse(text)
                .filter(|place| matches!(place, Place::Sorted { .. }) == sort.is_some())
                .ok_or(StoreError::NotFound("page of leads"))?,
            None if sort.is_some() => Place::Sorted { number: 0, id: Uuid::nil() },
            None => Place::first(self.now()),
        };
        let fields = if *query.look == PLAIN { Vec::new() } else { self.fields(person.workspace_id).await? };
        let asked = Needle::of(query.search).asked(query.look.ready(&fields).map_err(StoreError::Wrong)?);
        let length = usize::try_from(PAGE).unwrap_or(usize::MAX);
        let (mut rows, closed) = match &place {
            Place::Open { .. } => {
                let mut rows = self.open_leads(person, query.filter, &place, &asked).await?;
                let open = rows.len();
                if query.filter == LeadFilter::All && open <= length {
                    let first = Place::first_closed();
                    rows.extend(self.closed_leads(person, &first, &asked).await?);
                }
                (rows, open)
            }
            Place::Closed { .. } => (self.closed_leads(person, &place, &asked).await?, 0),
            Place::Sorted { .. } => (self.sorted_leads(person, query, &place, &asked).await?, 0),
        };
        let more = rows.len() > length;
        rows.truncate(length);
        let next = rows.last().filter(|_| more).map(|row| {
            let moment = row.place_moment.to_jiff();
            match &place {
                Place::Open { as_of, .. } if rows.len() <= closed => {
                    Place::Open { as_of: *as_of, group: row.place_group, rank_down: row.place_rank, moment, id: row.id }
                }
                Place::Sorted { .. } => Place::Sorted { number: row.place_number, id: row.id },
                Place::Open { .. } | Place::Closed { .. } => {
                    Place::Closed { rank_down: row.place_rank, filed_at: moment, id: row.id }
                }
            }
            .text()
        });
        let mut leads = rows.into_iter().map(Row::lead).collect::<Result<Vec<_>, _>>()?;
        self.fill_cells(person.workspace_id, &mut leads, &query.look.columns).await?;
        Ok(LeadPage { leads, next })
    }

    /// Fills in what leads say in some fields.
    async fn fill_cells(&self, workspace: Uuid, leads: &mut [LeadRow], columns: &[String]) -> Result<(), StoreError> {
        if columns.is_empty() {
            return Ok(());
        }
        let ids: Vec<Uuid> = leads.iter().map(|lead| lead.id).collect();
        let cells = sqlx::query!(
            "select l.id, f->>'id' as \"field!\", f->>'shown' as \"shown!\"
             from leads l join lead_snapshots s on s.workspace_id = l.workspace_id and s.conversation_id = l.shows,
               jsonb_array_elements(s.fields) f
             where l.workspace_id = $1 and l.id = any($2) and f->>'id' = any($3)",
            workspace,
            &ids,
            columns
        )
        .fetch_all(&self.pool)
        .await?;
        let mut cells: HashMap<(Uuid, String), String> =
            cells.into_iter().map(|cell| ((cell.id, cell.field), cell.shown)).collect();
        for lead in leads {
            lead.cells =
                columns.iter().map(|field| cells.remove(&(lead.id, field.clone())).unwrap_or_default()).collect();
        }
        Ok(())
    }

    /// Open leads behind a place; one more than a page where there are more.
    async fn open_leads(
        &self,
        person: &Person,
        filter: LeadFilter,
        place: &Place,
        asked: &Json,
    ) -> Result<Vec<Row>, StoreError> {
        let Place::Open { as_of, group, rank_down, moment, id } = place else { return Ok(Vec::new()) };
        Ok(rows!(
            "zones (zone) as (
               (select zone from leads where workspace_id = $1 and not closed and zone is not null
                 order by zone limit 1)
               union all
               select (select l.zone from leads l where l.workspace_id = $1 and not l.closed and l.zone > z.zone
                 order by l.zone limit 1) from zones z where z.zone is not null),
             asleep as materialized (
               select z.zone, callable_at(z.zone, $6, w.calls_from, w.calls_until) as callable_at
               from zones z join workspaces w on w.id = $1
               where callable_at(z.zone, $6, w.calls_from, w.calls_until) > $6),",
            "open as (
               select l.id, l.rank_down, l.filed_at, l.next_at, a.callable_at,
                 case when a.callable_at is not null then 2 when l.top and l.status = 'new' then 0
                   when l.next_at <= $6 then 1 else 2 end as place_group
               from leads l left join asleep a on a.zone = l.zone and l.next_what = 'call'
               where l.workspace_id = $1 and not l.closed
                 and case $5 when 'mine' then l.owner_id = $2 when 'queue' then l.owner_id is distinct from $2
                   when 'unfinished' then l.unfinished else true end",
            "),
             sorted as (
               select o.id, o.callable_at, o.place_group,
                 case when o.place_group = 2 then 0 else o.rank_down end as place_rank,
                 case when o.place_group = 0 then o.filed_at
                   when o.callable_at >= coalesce(o.next_at, o.filed_at)
                     then o.callable_at + o.rank_down * interval '1 microsecond'
                   else coalesce(o.next_at, o.filed_at) end as place_moment
               from open o offset 0),
             page as (
               select * from sorted s where (s.place_group, s.place_rank, s.place_moment, s.id) > ($7, $8, $9, $10)
               order by s.place_group, s.place_rank, s.place_moment, s.id limit $11),
             placed as (
               select l.*, p.callable_at, p.place_group, p.place_rank, p.place_moment, 0::bigint as place_number
               from page p join leads l on l.workspace_id = $1 and l.id = p.id)",
            "l.place_group, l.place_rank, l.place_moment, l.id",
            person.workspace_id,
            person.id,
            person.sees_all(),
            asked,
            filter.as_str(),
            as_of.to_sqlx() as _,
            group,
            rank_down,
            moment.to_sqlx() as _,
            id,
            PAGE + 1
        )
        .fetch_all(&self.pool)
        .await?)
    }

    /// Closed leads behind a place, read from their index; one more than a page where there are more.
    async fn closed_leads(&self, person: &Person, place: &Place, asked: &Json) -> Result<Vec<Row>, StoreError> {
        let Place::Closed { rank_down, filed_at, id } = place else { return Ok(Vec::new()) };
        Ok(rows!(
            "",
            "placed as (
               select l.*, null::timestamptz as callable_at, 3 as place_group, l.rank_down as place_rank,
                 l.filed_at as place_moment, 0::bigint as place_number
               from leads l where l.workspace_id = $1 and l.closed and l.erased_at is null
                 and (l.rank_down, l.filed_at, l.id) > ($5, $6, $7)",
            "order by l.rank_down, l.filed_at, l.id limit $8)",
            "l.place_rank, l.place_moment, l.id",
            person.workspace_id,
            person.id,
            person.sees_all(),
            asked,
            rank_down,
            filed_at.to_sqlx() as _,
            id,
            PAGE + 1
        )
        .fetch_all(&self.pool)
        .await?)
    }

    /// Leads behind a place of a list that is sorted by something, open ones and, in a list of all, closed ones; one
    /// more than a page where there are more. What says nothing there comes last.
    async fn sorted_leads(
        &self,
        person: &Person,
        query: &LeadQuery<'_>,
        place: &Place,
        asked: &Json,
    ) -> Result<Vec<Row>, StoreError> {
        let (Place::Sorted { number, id }, Some(sort)) = (place, &query.look.sort) else { return Ok(Vec::new()) };
        Ok(rows!(
            "",
            "held as (
               select l.id, case $6 when '@filed' then extract(epoch from l.filed_at) when '@score' then l.total
                   when '@tries' then l.tries else v.number end as number,
                 case $6 when '@name' then lower(l.name) when '@company' then lower(l.company) else v.words end as words
               from leads l left join lateral (
                 select min(v.text_value) as words, max(coalesce(v.number_value, extract(epoch from v.date_value),
                     v.yes_value::int)) as number
                   from lead_values v where v.workspace_id = $1 and v.lead_id = l.id and v.field_id = $6) v
                 on left($6, 1) <> '@'
               where l.workspace_id = $1 and l.erased_at is null and (not l.closed or $5 = 'all')
                 and case $5 when 'mine' then l.owner_id = $2 when 'queue' then l.owner_id is distinct from $2
                   when 'unfinished' then l.unfinished else true end",
            "),
             numbered as (
               select h.id, row_number() over (order by h.number is null and h.words is null,
                 case when $7 then -h.number else h.number end, case when not $7 then h.words end,
                 case when $7 then h.words end desc, h.id) as place_number from held h),
             placed as (
               select l.*, null::timestamptz as callable_at, 4 as place_group, 0 as place_rank,
                 l.filed_at as place_moment, n.place_number
               from numbered n join leads l on l.workspace_id = $1 and l.id = n.id
               where n.place_number > coalesce((select place_number from numbered where id = $8), $9)
               order by n.place_number limit $10)",
            "l.place_number",
            person.workspace_id,
            person.id,
            person.sees_all(),
            asked,
            query.filter.as_str(),
            sort.by,
            sort.down,
            id,
            number,
            PAGE + 1
        )
        .fetch_all(&self.pool)
        .await?)
    }

    /// Names of the bands that leads of a workspace were filed in, the highest first; 30 at most.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    #[crate::compiled_here]
    pub async fn bands_of_leads(&self, workspace: Uuid) -> Result<Vec<String>, StoreError> {
        Ok(sqlx::query_scalar!(
            "select band_label as \"band!\" from leads where workspace_id = $1 and band_label is not null
             group by 1 order by max(band_rank) desc, 1 limit 30",
            workspace
        )
        .fetch_all(&self.pool)
        .await?)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_place_is_read_back_and_anything_else_is_none() {
        let (as_of, moment) = ("2026-11-23T09:00:00.123456Z".parse().unwrap(), "2026-11-22T09:00:00Z".parse().unwrap());
        let id = Uuid::from_u128(7);
        for place in [
            Place::Open { as_of, group: 1, rank_down: -2, moment, id },
            Place::Closed { rank_down: -2, filed_at: moment, id },
            Place::first(as_of),
            Place::first_closed(),
            Place::Sorted { number: 12, id },
        ] {
            assert_eq!(Place::parse(&place.text()), Some(place));
        }
        for text in
            ["", "o", "o.0.0.0.0", "c.0.x.y", "c.0.99999999999999999999.0", "x.0.0.0", "c.0.0.0.0.0.0", "s.1", "s.x.0"]
        {
            assert_eq!(Place::parse(text), None, "{text}");
        }
    }

    #[test]
    fn what_is_searched_for_stands_for_itself() {
        assert_eq!(pattern(" 100% Ekström_AB\\ "), "%100\\% ekstrom\\_ab\\\\%");
        let tag = |text: &str| Needle { tag: Some(text.to_owned()), words: None };
        assert_eq!((Needle::of(" #Trade_fair "), Needle::of("# É%")), (tag("trade\\_fair%"), tag("é\\%%")));
        assert_eq!((Needle::of(" # "), Needle::of("  ")), (Needle::default(), Needle::default()));
        assert_eq!(Needle::of("no #tag").words.as_deref(), Some("%no #tag%"));
    }
}
