//! Pages of the list of leads, in the order to call, and searching it. A page begins behind the last lead of the one
//! before, so that leads that come meanwhile neither repeat nor hide any.

use jiff::Timestamp;
use jiff_sqlx::{Timestamp as SqlTimestamp, ToSqlx};
use lumbo_records::{LeadStatus, fold};
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
}

/// Which leads a list shows.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum LeadFilter {
    /// Open and mine.
    Mine,
    /// Open, in a queue of mine, and nobody's.
    Queue,
    /// Everything I may see, closed ones too.
    All,
}

/// A page of leads to read.
#[derive(Debug, Clone)]
pub struct LeadQuery<'a> {
    /// Which leads.
    pub filter: LeadFilter,
    /// What name, company, address, number or wishes hold; everything where empty.
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

/// Where a page ended.
#[derive(Debug, Clone, PartialEq, Eq)]
struct Place {
    closed: bool,
    rank_down: i32,
    tried: bool,
    filed_at: Timestamp,
    id: Uuid,
}

impl Place {
    /// Before every lead.
    fn first() -> Self {
        Self { closed: false, rank_down: i32::MIN, tried: false, filed_at: Timestamp::UNIX_EPOCH, id: Uuid::nil() }
    }

    fn text(&self) -> String {
        format!(
            "{}.{}.{}.{}.{}",
            u8::from(self.closed),
            self.rank_down,
            u8::from(self.tried),
            self.filed_at.as_microsecond(),
            self.id.simple()
        )
    }

    fn parse(text: &str) -> Option<Self> {
        let parts: Vec<&str> = text.split('.').collect();
        let [closed, rank_down, tried, filed_at, id] = parts.as_slice() else { return None };
        let flag = |text: &str| match text {
            "0" => Some(false),
            "1" => Some(true),
            _ => None,
        };
        Some(Self {
            closed: flag(closed)?,
            rank_down: rank_down.parse().ok()?,
            tried: flag(tried)?,
            filed_at: Timestamp::from_microsecond(filed_at.parse().ok()?).ok()?,
            id: id.parse().ok()?,
        })
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

/// One page by a filter of its own, so that each is read from its index. `$1` workspace, `$2` person, `$3` sees all,
/// `$4` to
/// `$8` the place, `$9` the length, `$10` the pattern.
macro_rules! page {
    ($db:expr, $person:expr, $place:expr, $pattern:expr, $where:literal) => {
        sqlx::query_as!(
            Row,
            "select l.id, l.name, l.company, l.wants, l.total, l.band_label, l.band_rank, l.band_from, l.status,
             q.name as \"queue?\", o.name as \"owner?\",
               coalesce(l.owner_id = $2, false) as \"mine!\", l.filed_at as \"filed_at: SqlTimestamp\",
               l.call_by as \"call_by: SqlTimestamp\"
             from leads l
             left join queues q on q.workspace_id = l.workspace_id and q.id = l.queue_id
             left join people o on o.workspace_id = l.workspace_id and o.id = l.owner_id
             where l.workspace_id = $1
               and ($3 or l.owner_id = $2 or l.queue_id in (select m.queue_id from queue_members m
                 where m.workspace_id = $1 and m.person_id = $2))
               and (l.closed, l.rank_down, l.tried, l.filed_at, l.id) > ($4, $5, $6, $7, $8) and "
                + $where
                + " order by l.closed, l.rank_down, l.tried, l.filed_at, l.id limit $9",
            $person.workspace_id,
            $person.id,
            $person.role.may(lumbo_people::Action::ReadAllLeads),
            $place.closed,
            $place.rank_down,
            $place.tried,
            $place.filed_at.to_sqlx() as _,
            $place.id,
            PAGE + 1,
            $pattern
        )
        .fetch_all($db)
        .await?
    };
}

impl Store {
    /// A page of the leads that a person may see, in the order to call: the highest band first, untried ones before
    /// tried ones, then who has waited longest; closed ones last.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] for a place that no page ended at.
    pub async fn leads(&self, person: &Person, query: &LeadQuery<'_>) -> Result<LeadPage, StoreError> {
        let place = match query.after {
            Some(text) => Place::parse(text).ok_or(StoreError::NotFound("page of leads"))?,
            None => Place::first(),
        };
        let pattern = (!query.search.trim().is_empty()).then(|| pattern(query.search));
        let mut rows = match (query.filter, pattern) {
            (LeadFilter::Mine, None) => page!(
                &self.pool,
                person,
                place,
                None::<String>,
                "l.owner_id = $2 and not l.closed and $10::text is null"
            ),
            (LeadFilter::Queue, None) => {
                page!(
                    &self.pool,
                    person,
                    place,
                    None::<String>,
                    "l.owner_id is distinct from $2 and not l.closed and $10::text is null"
                )
            }
            (LeadFilter::All, None) => page!(&self.pool, person, place, None::<String>, "$10::text is null"),
            (LeadFilter::Mine, Some(pattern)) => page!(
                &self.pool,
                person,
                place,
                Some(pattern),
                "l.owner_id = $2 and not l.closed and l.search like $10"
            ),
            (LeadFilter::Queue, Some(pattern)) => {
                page!(
                    &self.pool,
                    person,
                    place,
                    Some(pattern),
                    "l.owner_id is distinct from $2 and not l.closed and l.search like $10"
                )
            }
            (LeadFilter::All, Some(pattern)) => page!(&self.pool, person, place, Some(pattern), "l.search like $10"),
        };
        let length = usize::try_from(PAGE).unwrap_or(usize::MAX);
        let more = rows.len() > length;
        rows.truncate(length);
        let leads = rows.into_iter().map(Row::lead).collect::<Result<Vec<_>, _>>()?;
        let next = leads.last().filter(|_| more).map(|lead| {
            let place = Place {
                closed: !lead.status.is_open(),
                rank_down: lead.band_rank.saturating_neg(),
                tried: lead.status != LeadStatus::New,
                filed_at: lead.filed_at,
                id: lead.id,
            };
            place.text()
        });
        Ok(LeadPage { leads, next })
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_place_is_read_back_and_anything_else_is_none() {
        let place = Place {
            closed: true,
            rank_down: -2,
            tried: true,
            filed_at: "2026-11-23T09:00:00.123456Z".parse().unwrap(),
            id: Uuid::from_u128(7),
        };
        assert_eq!(Place::parse(&place.text()), Some(place));
        assert_eq!(Place::parse(&Place::first().text()), Some(Place::first()));
        for text in [
            "",
            "1",
            "0.0.0.0",
            "2.0.0.0.00000000000000000000000000000007",
            "0.0.0.x.y",
            "0.0.0.99999999999999999999.0",
            "0.0.0.0.0.0",
        ] {
            assert_eq!(Place::parse(text), None, "{text}");
        }
    }

    #[test]
    fn what_is_searched_for_stands_for_itself() {
        assert_eq!(pattern(" 100% Ekström_AB\\ "), "%100\\% ekstrom\\_ab\\\\%");
    }
}
