//! Past leads given out again: by today's rules, queues, hours and people, each at its own moment. When a lead was
//! first tried stays as it was; so what somebody has on their hands is what they would have had.
//!
//! A lead that comes while its queue is closed is dealt when it opens, the best first, as it would be.

use std::collections::{BTreeMap, HashMap};

use jiff::Timestamp;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

use lumbo_condition::{Facts, Scored};
use lumbo_dialogue::score::Card;
use lumbo_route::{Firm, PassedOver, Pick, Queue, Rules, Territories, Wanted, choose};

use crate::{Answered, End, Named};

/// What leads are given out by.
#[derive(Clone, Copy)]
pub struct AgainBy<'a> {
    /// The rules.
    pub routes: &'a Rules,
    /// The scorecard, where there is one.
    pub card: Option<&'a Card>,
    /// Queues by key, each with its chain behind it.
    pub chains: &'a BTreeMap<String, Vec<Queue>>,
    /// Tables of territories by key.
    pub tables: &'a BTreeMap<String, Territories>,
    /// What is on file today of the firms of leads, by their ids.
    pub firms: &'a BTreeMap<Uuid, Firm>,
    /// Leads that were filed before this moment are left aside.
    pub since: Timestamp,
}

/// A person's share.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct PersonAgain {
    /// The person; absent for leads that nobody had.
    pub person: Option<Uuid>,
    /// Leads they had.
    pub then: u32,
    /// Leads they would have had.
    pub now: u32,
    /// How often they would have been passed over because they were full.
    pub full: u32,
}

/// How many leads a rule sends on.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct RuleAgain {
    /// The rule's id; absent for leads that no rule holds for.
    pub rule: Option<String>,
    /// How many leads.
    pub leads: u32,
    /// How many of them in the highest band.
    pub top: u32,
    /// How many more it holds for, whose place has no row in its table of territories.
    pub missed: u32,
}

/// A lead that would go to another queue, or whose owner could not take it from the same one.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct ChangesHands {
    /// The lead.
    pub lead: Uuid,
    /// Whose it was.
    pub from: Option<Uuid>,
    /// Whose it would be.
    pub to: Option<Uuid>,
    /// The queue it came by.
    pub from_queue: Option<Uuid>,
    /// The queue it would come by.
    pub to_queue: Option<Uuid>,
}

/// Past leads given out again.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Again {
    /// How many leads.
    pub leads: u32,
    /// Shares of people, who would get the most first.
    pub people: Vec<PersonAgain>,
    /// Rules in their order, then leads that none holds for.
    pub rules: Vec<RuleAgain>,
    /// Leads that came while their queue was closed.
    pub outside_hours: u32,
    /// Leads that would go to another queue, or whose owner could not take them. Who of a queue has a turn changes with
    /// every lead before, and is no change of this kind.
    pub changed: u32,
    /// The newest of them, 100 at most.
    pub newest: Vec<ChangesHands>,
}

/// Most leads that are listed.
const LISTED: usize = 100;

/// A lead on its way.
struct Coming<'a> {
    one: Answered<'a>,
    queue: Option<String>,
    skills: Vec<String>,
    rank: usize,
    /// When it is given out: at its filing, or when its queue opens.
    at: Timestamp,
}

/// Gives past leads out again. Junk takes no turn.
#[must_use]
pub fn again(leads: &Named<'_>, by: &AgainBy<'_>) -> Again {
    let mut out = Again::default();
    let mut rules: BTreeMap<Option<String>, (u32, u32)> = BTreeMap::new();
    let mut missed: BTreeMap<String, u32> = BTreeMap::new();
    let mut coming = Vec::new();
    for one in leads.answered() {
        if one.lead.filed.at < by.since || one.lead.filed.end == End::Junk {
            continue;
        }
        let (rule, mut lead) = decided(one, by, &mut missed);
        let top = by.card.is_some_and(|card| lead.rank + 1 == card.file.bands.len());
        let count = rules.entry(rule).or_default();
        (count.0, count.1) = (count.0 + 1, count.1 + u32::from(top));
        let first = lead.queue.as_ref().and_then(|key| by.chains.get(key)).and_then(|chain| chain.first());
        if let Some(hours) = first.and_then(|queue| queue.hours.as_ref())
            && !hours.is_open(lead.at)
        {
            out.outside_hours += 1;
            if let Some(opens) = hours.opens(lead.at).filter(|_| first.is_some_and(|queue| !queue.passes_on)) {
                lead.at = opens;
            }
        }
        coming.push(lead);
    }
    out.leads = u32::try_from(coming.len()).unwrap_or(u32::MAX);
    coming.sort_by_key(|lead| (lead.at, std::cmp::Reverse(lead.rank), lead.one.lead.filed.at, lead.one.lead.filed.id));
    give_out(&coming, by, &mut out);
    let mut named: Vec<RuleAgain> = Vec::new();
    by.routes.each_rule(|id, _, _| {
        let (leads, top) = rules.get(&Some(id.to_owned())).copied().unwrap_or_default();
        let missed = missed.get(id).copied().unwrap_or_default();
        named.push(RuleAgain { rule: Some(id.to_owned()), leads, top, missed });
    });
    let (leads, top) = rules.get(&None).copied().unwrap_or_default();
    named.push(RuleAgain { rule: None, leads, top, missed: 0 });
    out.rules = named;
    out
}

/// Which rule holds, and where it leads; rules whose table has no row for the lead are counted.
fn decided<'a>(
    one: Answered<'a>,
    by: &AgainBy<'_>,
    missed: &mut BTreeMap<String, u32>,
) -> (Option<String>, Coming<'a>) {
    let placed = by.card.map(|card| card.placed(one.facts()));
    let band = placed.and_then(|placed| placed.band);
    let id = by.card.zip(band).and_then(|(card, band)| card.file.bands.get(band)).map(|band| band.id.as_str());
    let scored = Scored { points: placed.map(|placed| placed.total), band: id };
    let firm = one.lead.filed.company.and_then(|company| by.firms.get(&company)).cloned().unwrap_or_default();
    let decision =
        by.routes.decide(Facts { scores: &scored, ..one.facts() }).looked_up(&firm, |key| by.tables.get(key));
    let rule = decision.rule().map(str::to_owned);
    decision.without_row().for_each(|rule| *missed.entry(rule.to_owned()).or_default() += 1);
    let (queue, skills) = (decision.queue, decision.skills);
    (rule, Coming { one, queue, skills, rank: band.unwrap_or(0), at: one.lead.filed.at })
}

/// Gives leads out in order, each queue's rotation as it stands today at the beginning.
fn give_out(coming: &[Coming<'_>], by: &AgainBy<'_>, out: &mut Again) {
    let mut chains = by.chains.clone();
    for member in chains.values_mut().flatten().flat_map(|queue| &mut queue.members) {
        member.load = lumbo_route::Load::default();
    }
    let mut people: BTreeMap<Option<Uuid>, PersonAgain> = BTreeMap::new();
    // Whose each lead would be, from when, and until when it is untried.
    let mut given: Vec<(Uuid, Timestamp, Option<Timestamp>)> = Vec::new();
    // Who would have leads of a company, the last first.
    let mut companies: HashMap<Uuid, Vec<Uuid>> = HashMap::new();
    for lead in coming {
        let then = lead.one.lead.filed.owner;
        let chosen = lead.queue.as_ref().and_then(|key| chains.get_mut(key)).and_then(|chain| {
            load(chain, &given, lead.at);
            let company = lead.one.lead.filed.company.and_then(|company| companies.get(&company));
            let company = company.map_or(&[][..], Vec::as_slice);
            let chosen = choose(chain, &Wanted { now: lead.at, skills: &lead.skills, company })?;
            for (_, step) in &chosen.steps {
                if let Pick::Over { name, why: PassedOver::Full { .. } | PassedOver::FullToday { .. } } = step {
                    let member = chain.iter().flat_map(|queue| &queue.members).find(|member| member.name == *name);
                    if let Some(member) = member {
                        person(&mut people, Some(member.person)).full += 1;
                    }
                }
            }
            let queue = &chain[chosen.queue];
            let over = |name: &str| {
                chosen.steps.iter().any(|(_, step)| matches!(step, Pick::Over { name: known, .. } if known == name))
            };
            let takes = then.is_none_or(|then| {
                let member = queue.members.iter().find(|member| member.person == then);
                chosen.picked.owner == Some(then)
                    || member.is_some_and(|member| member.share.weight > 0 && !over(&member.name))
            });
            Some((queue.id, takes, chosen))
        });
        let owner = chosen.as_ref().and_then(|(_, _, chosen)| chosen.picked.owner);
        let to_queue = chosen.as_ref().map(|(queue, _, _)| *queue);
        let takes = chosen.as_ref().is_some_and(|(_, takes, _)| *takes);
        if let Some((queue, _, chosen)) = chosen {
            carry(&mut chains, queue, &chosen.picked.carried.unwrap_or_default(), owner);
        }
        if let Some(owner) = owner {
            if let Some(company) = lead.one.lead.filed.company {
                companies.entry(company).or_default().insert(0, owner);
            }
            given.push((owner, lead.at, lead.one.lead.filed.tried));
        }
        person(&mut people, then).then += 1;
        person(&mut people, owner).now += 1;
        let from_queue = lead.one.lead.filed.queue;
        if to_queue != from_queue || !takes {
            out.changed += 1;
            out.newest.push(ChangesHands { lead: lead.one.lead.filed.id, from: then, to: owner, from_queue, to_queue });
        }
    }
    out.newest.reverse();
    out.newest.truncate(LISTED);
    out.people = people.into_values().collect();
    out.people.sort_by_key(|person| (person.person.is_none(), std::cmp::Reverse(person.now), person.person));
}

fn person(people: &mut BTreeMap<Option<Uuid>, PersonAgain>, who: Option<Uuid>) -> &mut PersonAgain {
    people.entry(who).or_insert(PersonAgain { person: who, then: 0, now: 0, full: 0 })
}

/// What members have on their hands at a moment, of what they were given before.
fn load(chain: &mut [Queue], given: &[(Uuid, Timestamp, Option<Timestamp>)], now: Timestamp) {
    for queue in chain {
        let limited = queue.picks == lumbo_route::Picks::FewestOpen
            || queue.members.iter().any(|member| member.limits.untried.is_some() || member.limits.a_day.is_some());
        if !limited {
            continue;
        }
        let zone = queue.hours.as_ref().map_or(jiff::tz::TimeZone::UTC, |hours| hours.zone().clone());
        let today = now.to_zoned(zone).start_of_day().map_or(now, |start| start.timestamp());
        for member in &mut queue.members {
            member.load = lumbo_route::Load::default();
        }
        // A month back is as far as anything of it can still be untried in good faith.
        let from = now - jiff::SignedDuration::from_hours(30 * 24);
        for (owner, at, tried) in given.iter().rev().take_while(|(_, at, _)| *at >= from) {
            let Some(member) = queue.members.iter_mut().find(|member| member.person == *owner) else { continue };
            let untried = tried.is_none_or(|tried| tried > now);
            member.load.untried += u32::from(untried);
            member.load.open += u32::from(untried);
            member.load.today += u32::from(*at >= today);
        }
    }
}

/// Keeps what a rotation carries over, wherever the queue stands in a chain.
fn carry(chains: &mut BTreeMap<String, Vec<Queue>>, queue: Uuid, carried: &[(Uuid, i64)], owner: Option<Uuid>) {
    for known in chains.values_mut().flatten().filter(|known| known.id == queue) {
        for (person, current) in carried {
            if let Some(member) = known.members.iter_mut().find(|member| member.person == *person) {
                member.share.current = *current;
            }
        }
        known.last = owner.or(known.last);
    }
}
