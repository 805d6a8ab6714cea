//! Pages of the list of leads, in the order to call, and searching it. A page begins behind the last lead of the one
//! before, so that leads that come meanwhile neither repeat nor hide any.

use jiff::Timestamp;
use jiff_sqlx::{Timestamp as SqlTimestamp, ToSqlx};
use lumbo_records::{LeadStatus, NextWhat, fold};
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
    /// Where the page before ended; the first page where absent.
    pub after: Option<&'a str>,
}

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

/// Rows of the list out of a table named `l` with their places: what makes the table, what is done with it, arguments.
macro_rules! rows {
    ($before:literal, $after:literal, $($argument:expr),+ $(,)?) => {
        sqlx::query_as!(
            Row,
            $before
                + " select l.id, l.name, l.company, l.wants, l.total, l.band_label, l.band_rank, l.band_from, l.status,
               q.name as \"queue?\", o.name as \"owner?\", coalesce(l.owner_id = $2, false) as \"mine!\",
               l.filed_at as \"filed_at: SqlTimestamp\", l.call_by as \"call_by: SqlTimestamp\", l.phone, l.tries,
               l.tries_planned, l.next_what, l.next_at as \"next_at: SqlTimestamp\", l.unfinished, l.zone, l.tags,
               l.callable_at as \"callable_at: SqlTimestamp\",
               l.place_group as \"place_group!\", l.place_rank as \"place_rank!\",
               l.place_moment as \"place_moment!: SqlTimestamp\"
               from placed l left join queues q on q.workspace_id = l.workspace_id and q.id = l.queue_id
               left join people o on o.workspace_id = l.workspace_id and o.id = l.owner_id "
                + $after,
            $($argument),+
        )
    };
}

impl Store {
    /// A page of the leads that a person may see, in the order to call: untried ones of the highest band, then what is
    /// due, by band and by the moment it fell due, then what is to come, by its moment; closed ones last. Who is to be
    /// called and is outside calling hours is to come when those begin, of one moment the higher
    /// band first.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] for a place that no page ended at.
    #[crate::compiled_here]
    pub async fn leads(&self, person: &Person, query: &LeadQuery<'_>) -> Result<LeadPage, StoreError> {
        let place = match query.after {
            Some(text) => Place::parse(text).ok_or(StoreError::NotFound("page of leads"))?,
            None => Place::first(self.now()),
        };
        let needle = Needle::of(query.search);
        let length = usize::try_from(PAGE).unwrap_or(usize::MAX);
        let (mut rows, closed) = match &place {
            Place::Open { .. } => {
                let mut rows = self.open_leads(person, query.filter, &place, &needle).await?;
                let open = rows.len();
                if query.filter == LeadFilter::All && open <= length {
                    let first = Place::first_closed();
                    rows.extend(self.closed_leads(person, &first, &needle).await?);
                }
                (rows, open)
            }
            Place::Closed { .. } => (self.closed_leads(person, &place, &needle).await?, 0),
        };
        let more = rows.len() > length;
        rows.truncate(length);
        let next = rows.last().filter(|_| more).map(|row| {
            let moment = row.place_moment.to_jiff();
            match &place {
                Place::Open { as_of, .. } if rows.len() <= closed => {
                    Place::Open { as_of: *as_of, group: row.place_group, rank_down: row.place_rank, moment, id: row.id }
                }
                _ => Place::Closed { rank_down: row.place_rank, filed_at: moment, id: row.id },
            }
            .text()
        });
        let leads = rows.into_iter().map(Row::lead).collect::<Result<Vec<_>, _>>()?;
        Ok(LeadPage { leads, next })
    }

    /// Open leads behind a place; one more than a page where there are more.
    async fn open_leads(
        &self,
        person: &Person,
        filter: LeadFilter,
        place: &Place,
        needle: &Needle,
    ) -> Result<Vec<Row>, StoreError> {
        let Place::Open { as_of, group, rank_down, moment, id } = place else { return Ok(Vec::new()) };
        Ok(rows!(
            "with recursive zones (zone) as (
               (select zone from leads where workspace_id = $1 and not closed and zone is not null
                 order by zone limit 1)
               union all
               select (select l.zone from leads l where l.workspace_id = $1 and not l.closed and l.zone > z.zone
                 order by l.zone limit 1) from zones z where z.zone is not null),
             asleep as materialized (
               select z.zone, callable_at(z.zone, $5, w.calls_from, w.calls_until) as callable_at
               from zones z join workspaces w on w.id = $1
               where callable_at(z.zone, $5, w.calls_from, w.calls_until) > $5),
             open as (
               select l.id, l.rank_down, l.filed_at, l.next_at, a.callable_at,
                 case when a.callable_at is not null then 2 when l.top and l.status = 'new' then 0
                   when l.next_at <= $5 then 1 else 2 end as place_group
               from leads l left join asleep a on a.zone = l.zone and l.next_what = 'call'
               where l.workspace_id = $1 and not l.closed
                 and ($3 or l.owner_id in (select seen_by($1, $2))
                   or l.queue_id in (select m.queue_id from queue_members m
                   where m.workspace_id = $1 and m.person_id in (select seen_by($1, $2))))
                 and case $4 when 'mine' then l.owner_id = $2 when 'queue' then l.owner_id is distinct from $2
                   when 'unfinished' then l.unfinished else true end
                 and ($11::text is null or l.search like $11)
                 and ($12::text is null
                   or l.tags <> '{}' and exists (select from unnest(l.tags) t where lower(t) like $12))),
             sorted as (
               select o.id, o.callable_at, o.place_group,
                 case when o.place_group = 2 then 0 else o.rank_down end as place_rank,
                 case when o.place_group = 0 then o.filed_at
                   when o.callable_at >= coalesce(o.next_at, o.filed_at)
                     then o.callable_at + o.rank_down * interval '1 microsecond'
                   else coalesce(o.next_at, o.filed_at) end as place_moment
               from open o offset 0),
             page as (
               select * from sorted s where (s.place_group, s.place_rank, s.place_moment, s.id) > ($6, $7, $8, $9)
               order by s.place_group, s.place_rank, s.place_moment, s.id limit $10),
             placed as (
               select l.*, p.callable_at, p.place_group, p.place_rank, p.place_moment
               from page p join leads l on l.workspace_id = $1 and l.id = p.id)",
            "order by l.place_group, l.place_rank, l.place_moment, l.id",
            person.workspace_id,
            person.id,
            person.sees_all(),
            filter.as_str(),
            as_of.to_sqlx() as _,
            group,
            rank_down,
            moment.to_sqlx() as _,
            id,
            PAGE + 1,
            needle.words,
            needle.tag
        )
        .fetch_all(&self.pool)
        .await?)
    }

    /// Closed leads behind a place, read from their index; one more than a page where there are more.
    async fn closed_leads(&self, person: &Person, place: &Place, needle: &Needle) -> Result<Vec<Row>, StoreError> {
        let Place::Closed { rank_down, filed_at, id } = place else { return Ok(Vec::new()) };
        Ok(rows!(
            "with placed as (
               select l.*, null::timestamptz as callable_at, 3 as place_group, l.rank_down as place_rank,
                 l.filed_at as place_moment
               from leads l where l.workspace_id = $1 and l.closed and l.erased_at is null
                 and ($3 or l.owner_id in (select seen_by($1, $2))
                   or l.queue_id in (select m.queue_id from queue_members m
                   where m.workspace_id = $1 and m.person_id in (select seen_by($1, $2))))
                 and (l.rank_down, l.filed_at, l.id) > ($4, $5, $6) and ($8::text is null or l.search like $8)
                 and ($9::text is null
                   or l.tags <> '{}' and exists (select from unnest(l.tags) t where lower(t) like $9))
               order by l.rank_down, l.filed_at, l.id limit $7)",
            "order by l.place_rank, l.place_moment, l.id",
            person.workspace_id,
            person.id,
            person.sees_all(),
            rank_down,
            filed_at.to_sqlx() as _,
            id,
            PAGE + 1,
            needle.words,
            needle.tag
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
        ] {
            assert_eq!(Place::parse(&place.text()), Some(place));
        }
        for text in ["", "o", "o.0.0.0.0", "c.0.x.y", "c.0.99999999999999999999.0", "x.0.0.0", "c.0.0.0.0.0.0"] {
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
