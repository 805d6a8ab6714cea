//! Queues and their members as they cross.

use lumbo_calendar::Written;
use schemars::JsonSchema;
use serde::Serialize;
use uuid::Uuid;

use crate::routes::routing::PicksBody;

/// Who takes part in a queue, and what they have on their hands.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct MemberView {
    /// The person.
    person: Uuid,
    /// Their name.
    name: String,
    /// How many turns out of the sum of weights.
    weight: i64,
    /// Untried leads they take at once; no limit where absent.
    untried_limit: Option<i32>,
    /// New leads they take a day; no limit where absent.
    day_limit: Option<i32>,
    /// Untried leads they have now.
    untried: i64,
    /// Open leads they have now.
    open: i64,
    /// What they can.
    skills: Vec<String>,
    /// True while they take no new leads.
    paused: bool,
}

/// A queue with everything that is set.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct QueueSetting {
    /// Its key.
    key: String,
    /// Its name.
    name: String,
    /// Its revision; a change names it.
    revision: i64,
    /// How it picks.
    picks: PicksBody,
    /// Who always has its leads.
    fixed_owner: Option<Uuid>,
    /// When it is open; always where absent.
    hours: Option<Written>,
    /// Whether a lead goes on to the next queue while it is closed.
    passes_on: bool,
    /// After how many working minutes an untouched lead of the highest band is offered to the others; never where
    /// absent.
    offer_after: Option<i32>,
    /// Key of the queue that is asked next.
    next: Option<String>,
    /// Who takes part, in the order of rotation.
    members: Vec<MemberView>,
    /// Leads that wait in it without an owner.
    waiting: i64,
    /// Titles of the dialogues whose drafts name it.
    serves: Vec<String>,
}

impl From<lumbo_store::QueueRow> for QueueSetting {
    fn from(from: lumbo_store::QueueRow) -> Self {
        let member = |row: lumbo_store::MemberRow| {
            let lumbo_store::MemberRow {
                person,
                name,
                weight,
                untried_limit,
                day_limit,
                untried,
                open,
                skills,
                paused,
            } = row;
            MemberView { person, name, weight, untried_limit, day_limit, untried, open, skills, paused }
        };
        let lumbo_store::QueueRow {
            id: _,
            key,
            name,
            revision,
            picks,
            fixed_owner,
            hours,
            passes_on,
            offer_after,
            next,
            members,
            waiting,
            serves,
        } = from;
        Self {
            key,
            name,
            revision,
            picks: PicksBody::parse(&picks),
            fixed_owner,
            hours,
            passes_on,
            offer_after,
            next,
            members: members.into_iter().map(member).collect(),
            waiting,
            serves,
        }
    }
}

/// Somebody who can be a member.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct ColleagueView {
    /// Their id.
    id: Uuid,
    /// Their name.
    name: String,
    /// What they can.
    skills: Vec<String>,
    /// True while they take no new leads.
    paused: bool,
}

impl From<lumbo_store::Colleague> for ColleagueView {
    fn from(from: lumbo_store::Colleague) -> Self {
        let lumbo_store::Colleague { id, name, skills, paused } = from;
        Self { id, name, skills, paused }
    }
}
