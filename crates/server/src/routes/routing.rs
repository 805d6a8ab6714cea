//! Routing: queues as people set them, a lead that is tried, and past leads given out again.

use std::collections::BTreeMap;

use aide::axum::ApiRouter;
use aide::axum::routing::{get_with, post_with};
use axum::Json;
use axum::extract::State;
use jiff::{SignedDuration, Timestamp};
use lumbo_calendar::{Calendar, Written};
use lumbo_condition::{Facts, Scored};
use lumbo_dialogue::file::{Condition, Dialogue, Routing};
use lumbo_dialogue::score::Card;
use lumbo_numbers::again::{Again, AgainBy, again};
use lumbo_numbers::{End, Filed, PastLeads};
use lumbo_reading::domains::DomainLists;
use lumbo_records::firm_domain;
use lumbo_route::{RouteStep, Rules, Territories, Wanted, choose, words};
use lumbo_store::{FirmOnFile, MemberChange, QueueChange};
use lumbo_value::Value;
use lumbo_value::field::FieldType;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

use super::DialoguePath;
use super::scoring::{read_answers, sentence};
use crate::api::named;
use crate::body::{Body, Path};
use crate::signed::Writer;
use crate::wire::queues::{ColleagueView, QueueSetting};
use crate::{App, Problem, pasts};

/// The name of this area in the document.
const TAG: &str = "Routing";

/// Routing.
pub(crate) fn api() -> ApiRouter<App> {
    ApiRouter::new()
        .api_route(
            "/api/routing",
            get_with(settings, named(TAG, "routing", "Queues with their members, and who can be one"))
                .post_with(put, named(TAG, "putQueue", "Make a queue, or change one")),
        )
        .api_route(
            "/api/routing/people/{person}",
            post_with(colleague, named(TAG, "putColleague", "Say whether somebody takes new leads, and what they can")),
        )
        .api_route(
            "/api/dialogues/{dialogue}/route",
            post_with(route, named(TAG, "tryRoute", "Route typed answers at a moment")),
        )
        .api_route(
            "/api/dialogues/{dialogue}/route/again",
            post_with(given_again, named(TAG, "routeAgain", "Past leads given out again")),
        )
}

/// Queues, tables of territories, and people who can be members.
#[derive(Serialize, JsonSchema)]
pub(crate) struct RoutingView {
    /// The workspace's queues, by name.
    queues: Vec<QueueSetting>,
    /// Its tables of territories, by name.
    territories: Vec<TerritoriesView>,
    /// Who can be a member.
    colleagues: Vec<ColleagueView>,
}

/// A table of territories as people work on it.
#[derive(Serialize, JsonSchema)]
struct TerritoriesView {
    /// The table.
    table: Territories,
    /// Its revision; a change names it.
    revision: i64,
    /// Titles of the dialogues whose drafts look leads up in it.
    serves: Vec<String>,
    /// Places of rows that are never found, because another of the same beginning stands before them, from 0.
    hidden: Vec<usize>,
}

pub(super) async fn view(app: &App, workspace: Uuid) -> Result<Json<RoutingView>, Problem> {
    let tables = app.store.territories_rows(workspace).await?.into_iter().map(|row| TerritoriesView {
        hidden: row.table.hidden(),
        table: row.table,
        revision: row.revision,
        serves: row.serves,
    });
    let territories = tables.collect();
    let queues = app.store.queue_rows(workspace).await?.into_iter().map(Into::into).collect();
    let colleagues = app.store.colleagues(workspace).await?.into_iter().map(Into::into).collect();
    Ok(Json(RoutingView { queues, territories, colleagues }))
}

pub(crate) async fn settings(State(app): State<App>, Writer(person): Writer) -> Result<Json<RoutingView>, Problem> {
    view(&app, person.workspace_id).await
}

/// A member as they are to be.
#[derive(Debug, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
struct MemberBody {
    /// The person.
    person: Uuid,
    /// How many turns out of the sum of weights, 0 to 1000.
    weight: i64,
    /// Untried leads they take at once, 1 to 10,000; no limit where absent.
    #[serde(default)]
    untried_limit: Option<i32>,
    /// New leads they take a day, 1 to 10,000; no limit where absent.
    #[serde(default)]
    day_limit: Option<i32>,
}

/// How a queue picks.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub(crate) enum PicksBody {
    /// By smooth weighted rotation.
    Rotation,
    /// Who has the fewest open leads for their weight.
    FewestOpen,
    /// Whoever has a lead of the same company; by rotation where none of them has.
    SameCompany,
    /// Always the same person.
    FixedOwner,
}

impl PicksBody {
    fn as_str(self) -> &'static str {
        match self {
            Self::Rotation => "rotation",
            Self::FewestOpen => "fewest_open",
            Self::SameCompany => "same_company",
            Self::FixedOwner => "fixed_owner",
        }
    }

    /// What is kept, read.
    pub(crate) fn parse(text: &str) -> Self {
        [Self::FewestOpen, Self::SameCompany, Self::FixedOwner]
            .into_iter()
            .find(|kind| kind.as_str() == text)
            .unwrap_or(Self::Rotation)
    }
}

/// A queue as it is to be.
#[derive(Debug, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct QueueBody {
    /// Its key; made of its name where absent, for a new one.
    #[serde(default)]
    key: Option<String>,
    /// The revision that was looked at; absent for a new one.
    #[serde(default)]
    revision: Option<i64>,
    /// Its name, 1 to 60 characters.
    name: String,
    /// How it picks.
    picks: PicksBody,
    /// Who always has its leads.
    #[serde(default)]
    fixed_owner: Option<Uuid>,
    /// When it is open; always where absent.
    #[serde(default)]
    hours: Option<Written>,
    /// Whether a lead goes on to the next queue while it is closed.
    #[serde(default)]
    passes_on: bool,
    /// After how many working minutes an untouched lead of the highest band is offered to the others; never where
    /// absent.
    #[serde(default)]
    offer_after: Option<i32>,
    /// Key of the queue that is asked next.
    #[serde(default)]
    next: Option<String>,
    /// Who takes part, in the order of rotation; 100 at most.
    #[serde(default)]
    members: Vec<MemberBody>,
}

/// A key made of a name: small letters, digits and underscores.
pub(super) fn key_of(name: &str) -> String {
    let plain: String =
        name.to_lowercase().chars().map(|letter| if letter.is_ascii_alphanumeric() { letter } else { '_' }).collect();
    let words: Vec<&str> = plain.split('_').filter(|word| !word.is_empty()).collect();
    let key = words.join("_");
    if key.starts_with(|first: char| first.is_ascii_lowercase()) { key } else { format!("q_{key}") }
}

fn checked(body: QueueBody) -> Result<QueueChange, Problem> {
    let name = body.name.trim().to_owned();
    if name.is_empty() || name.chars().count() > 60 {
        return Err(Problem::bad("A queue’s name has 1 to 60 characters."));
    }
    if body.members.len() > 100 {
        return Err(Problem::bad("A queue has at most 100 members."));
    }
    let limit = |limit: Option<i32>| limit.is_none_or(|limit| (1..=10_000).contains(&limit));
    for member in &body.members {
        if !(0..=1000).contains(&member.weight) || !limit(member.untried_limit) || !limit(member.day_limit) {
            return Err(Problem::bad("A weight is a number from 0 to 1,000, a limit one from 1 to 10,000."));
        }
    }
    if !limit(body.offer_after) {
        return Err(Problem::bad("A lead is offered on after 1 to 10,000 working minutes, or never."));
    }
    if body.picks == PicksBody::FixedOwner && body.fixed_owner.is_none() {
        return Err(Problem::bad("Say whose the leads of this queue always are."));
    }
    if let Some(hours) = &body.hours {
        Calendar::new(hours).map_err(|error| Problem::bad(sentence(&error.to_string())))?;
    }
    let key = match (body.key, body.revision) {
        (Some(key), Some(_)) => key,
        (Some(key), None) if lumbo_value::is_key(&key) => key,
        (Some(_), None) => return Err(Problem::bad("A queue’s key has small letters, digits and underscores.")),
        (None, Some(_)) => return Err(Problem::bad("A change names the queue’s key.")),
        (None, None) => key_of(&name),
    };
    let member = |member: MemberBody| MemberChange {
        person: member.person,
        weight: member.weight,
        untried_limit: member.untried_limit,
        day_limit: member.day_limit,
    };
    Ok(QueueChange {
        key,
        revision: body.revision.unwrap_or(0),
        name,
        picks: body.picks.as_str().to_owned(),
        fixed_owner: body.fixed_owner.filter(|_| body.picks == PicksBody::FixedOwner),
        hours: body.hours,
        passes_on: body.passes_on,
        offer_after: body.offer_after,
        next: body.next,
        members: body.members.into_iter().map(member).collect(),
    })
}

pub(crate) async fn put(
    State(app): State<App>,
    Writer(person): Writer,
    Body(body): Body<QueueBody>,
) -> Result<Json<RoutingView>, Problem> {
    app.store.put_queue(person.workspace_id, person.id, &checked(body)?).await?;
    view(&app, person.workspace_id).await
}

/// The person that an address names.
#[derive(Deserialize, JsonSchema)]
pub(crate) struct PersonPath {
    /// Their id.
    person: Uuid,
}

/// Whether somebody takes new leads, and what they can.
#[derive(Debug, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct ColleagueBody {
    /// True while they take no new leads.
    paused: bool,
    /// Languages, regions, products; 40 at most, of 40 characters.
    #[serde(default)]
    skills: Vec<String>,
}

pub(crate) async fn colleague(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<PersonPath>,
    Body(body): Body<ColleagueBody>,
) -> Result<Json<RoutingView>, Problem> {
    let mut skills: Vec<String> = Vec::new();
    for skill in body.skills.iter().map(|skill| skill.trim()).filter(|skill| !skill.is_empty()) {
        if !skills.iter().any(|known| known.eq_ignore_ascii_case(skill)) {
            skills.push(skill.to_owned());
        }
    }
    if skills.len() > 40 || skills.iter().any(|skill| skill.chars().count() > 40) {
        return Err(Problem::bad("A person has at most 40 skills of 40 characters."));
    }
    app.store.set_colleague(person.workspace_id, person.id, path.person, body.paused, &skills).await?;
    view(&app, person.workspace_id).await
}

/// A lead to route: what is typed for each field, and when it comes.
#[derive(Debug, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct TryRoute {
    /// What is typed for each field, by its key.
    answers: BTreeMap<String, String>,
    /// The moment, RFC 3339; now where absent.
    #[serde(default)]
    #[schemars(with = "Option<String>")]
    at: Option<Timestamp>,
}

/// Where a tried lead goes, and why.
#[derive(Debug, Serialize, JsonSchema)]
pub(crate) struct TriedRoute {
    /// The score; absent without a scorecard.
    total: Option<i64>,
    /// The band's name.
    band: Option<String>,
    /// Every step of the decision, as a sentence, with whether it leads on.
    steps: Vec<StepView>,
    /// When to call at the latest, RFC 3339; absent without a target.
    #[schemars(with = "Option<String>")]
    call_by: Option<Timestamp>,
    /// When it is dealt, where it waits for an opening, RFC 3339.
    #[schemars(with = "Option<String>")]
    waits: Option<Timestamp>,
    /// What could not be read, by field, with a sentence.
    unread: BTreeMap<String, String>,
}

/// A step of a decision.
#[derive(Debug, Serialize, JsonSchema)]
struct StepView {
    /// The sentence.
    says: String,
    /// How it counts: `no` for a rule that does not hold, `over` for somebody passed over, `on` for what leads on.
    kind: StepKind,
}

#[derive(Debug, Clone, Copy, Serialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
enum StepKind {
    No,
    Over,
    On,
}

fn kind(step: &RouteStep) -> StepKind {
    match step {
        RouteStep::Rule { held: false, .. } | RouteStep::NoTurn { .. } => StepKind::No,
        RouteStep::Territory { looked, .. } if looked.queue().is_some() => StepKind::On,
        RouteStep::Territory { .. } => StepKind::No,
        RouteStep::Firm { held, .. } if *held != Some(true) => StepKind::No,
        RouteStep::Picked { pick: lumbo_route::Pick::Over { .. }, .. } => StepKind::Over,
        RouteStep::Picked { pick: lumbo_route::Pick::NobodyFree | lumbo_route::Pick::Nobody, .. } => StepKind::Over,
        RouteStep::Rule { .. }
        | RouteStep::Firm { .. }
        | RouteStep::Otherwise { .. }
        | RouteStep::Owned { .. }
        | RouteStep::StandsIn { .. }
        | RouteStep::LooksAfter { .. }
        | RouteStep::Picked { .. }
        | RouteStep::NoSuchQueue { .. }
        | RouteStep::Early {}
        | RouteStep::Said(_) => StepKind::On,
    }
}

pub(crate) async fn route(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<DialoguePath>,
    Body(body): Body<TryRoute>,
) -> Result<Json<TriedRoute>, Problem> {
    if body.answers.len() > 200 || body.answers.values().any(|typed| typed.chars().count() > 2_000) {
        return Err(Problem::bad("A tried lead has at most 200 answers of 2,000 characters."));
    }
    let draft = app.store.draft(person.workspace_id, path.dialogue).await?.body;
    let chains = app.store.queues_now(person.workspace_id).await?;
    let names: BTreeMap<String, String> = app.store.queues(person.workspace_id).await?.into_iter().collect();
    let tables = app.store.territories(person.workspace_id).await?;
    let now = body.at.unwrap_or_else(|| app.store.now());
    let read = move || {
        let (_, unread, values) = read_answers(&draft, &body.answers, now);
        (draft, unread, values)
    };
    let (draft, unread, values) = app.busy.work(read).await?;
    let lists = app.store.domains(person.workspace_id).await?.lists;
    let on_file = match domain_of(&draft, &values, &lists) {
        Some(domain) => app.store.firm_of_domain(person.workspace_id, &domain, now).await?,
        None => FirmOnFile::default(),
    };
    let work = move || tried(&draft, (unread, values), &Workspace { chains, names, tables, on_file }, now);
    Ok(Json(app.busy.work(work).await?))
}

/// The registrable domain of their firm, by the address or the website that was typed.
fn domain_of(draft: &Dialogue, values: &[(String, Value)], lists: &DomainLists) -> Option<String> {
    let first = |kind: FieldType| {
        let fields = draft.fields.iter().filter(|field| field.kind == kind);
        fields.into_iter().find_map(|field| values.iter().find(|(id, _)| *id == field.id)).map(|(_, v)| v.to_string())
    };
    firm_domain(first(FieldType::Email).as_deref(), first(FieldType::Website).as_deref(), lists)
}

/// What routing reads of a workspace, by keys.
struct Workspace {
    chains: BTreeMap<String, Vec<lumbo_route::Queue>>,
    names: BTreeMap<String, String>,
    tables: BTreeMap<String, Territories>,
    on_file: FirmOnFile,
}

fn tried(
    draft: &Dialogue,
    (unread, values): (BTreeMap<String, String>, Vec<(String, Value)>),
    Workspace { chains, names, tables, on_file }: &Workspace,
    now: Timestamp,
) -> TriedRoute {
    let mut one = PastLeads::default();
    one.put(Filed::new(Uuid::nil(), now, End::Open), values);
    let named = one.named(&draft.fields, &draft.settings.currency);
    let answered = named.answered();
    let facts = answered[0].facts();
    let card = draft.default_card().map(|card| Card::new(card, &draft.fields, &draft.tables, &draft.language).0);
    let score = card.as_ref().map(|card| card.score(facts, &draft.language));
    let scored = Scored {
        points: score.as_ref().map(|score| score.total),
        band: score.as_ref().and_then(|score| score.band.as_deref()),
    };
    let said = draft.named_fields();
    let say = |holds: &Condition| lumbo_condition::say(holds, &said, &draft.language);
    let (routes, _) = Rules::new(&draft.routing, &draft.fields, &say);
    let decision = routes.decide(Facts { scores: &scored, ..facts });
    let mut decision = decision.looked_up(&on_file.firm, |key| tables.get(key));
    let chain = decision.queue.as_ref().and_then(|key| chains.get(key));
    let mut waits = None;
    let mut hours = None;
    let wanted = Wanted { now, skills: &decision.skills, company: &on_file.owners };
    match chain.and_then(|chain| Some((chain, choose(chain, &wanted)?))) {
        Some((chain, chosen)) => {
            for (place, pick) in &chosen.steps {
                decision.steps.push(RouteStep::Picked { queue: chain[*place].name.clone(), pick: pick.clone() });
            }
            waits = chosen.picked.waits;
            hours = chain[chosen.queue].hours.clone();
        }
        None => decision.steps.extend(decision.queue.clone().map(|queue| RouteStep::NoSuchQueue { queue })),
    }
    let within = card
        .as_ref()
        .zip(scored.band)
        .and_then(|(card, id)| card.file.bands.iter().find(|band| band.id == id).and_then(|band| band.call_within));
    let hours = hours.unwrap_or_else(|| Calendar::always(jiff::tz::TimeZone::UTC));
    let sentences = words::says(&decision, &|key| names.get(key).cloned());
    TriedRoute {
        total: scored.points,
        band: score.as_ref().map(|score| score.band_label.clone()),
        steps: decision.steps.iter().zip(sentences).map(|(step, says)| StepView { says, kind: kind(step) }).collect(),
        call_by: within.and_then(|minutes| hours.after(now, u64::from(minutes))),
        waits,
        unread,
    }
}

/// Which leads are given out again.
#[derive(Debug, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct AgainOf {
    /// Days back, 1 to 365.
    days: u32,
    /// Rules in the place of the draft's, for a look before they are kept.
    #[serde(default)]
    routing: Option<Routing>,
}

/// Past leads given out again, with names.
#[derive(Debug, Serialize, JsonSchema)]
pub(crate) struct AgainView {
    /// The figures.
    again: Again,
    /// Names of people by their ids.
    people: BTreeMap<Uuid, String>,
    /// Names of queues by their ids.
    queues: BTreeMap<Uuid, String>,
    /// Names and companies of the leads that change hands, by their ids.
    leads: BTreeMap<Uuid, String>,
    /// Options that a rule's table has no row for, by the rule's id, where it goes by a field with options.
    gaps: BTreeMap<String, Vec<String>>,
}

/// Options that the tables of rules have no row for.
fn gaps(routing: &Routing, draft: &Dialogue, tables: &BTreeMap<String, Territories>) -> BTreeMap<String, Vec<String>> {
    let of = |rule: &lumbo_route::RoutingRule| {
        let by = rule.table.as_ref()?;
        let field = draft.fields.iter().find(|field| field.key == by.field)?;
        let gaps = tables.get(&by.table)?.gaps(field, &draft.language);
        (!gaps.is_empty()).then(|| (rule.id.clone(), gaps))
    };
    routing.rules.iter().filter_map(of).collect()
}

pub(crate) async fn given_again(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<DialoguePath>,
    Body(body): Body<AgainOf>,
) -> Result<Json<AgainView>, Problem> {
    if !(1..=365).contains(&body.days) {
        return Err(Problem::bad("Leads of the last 1 to 365 days are given out again."));
    }
    let workspace = person.workspace_id;
    let draft = app.store.draft(workspace, path.dialogue).await?.body;
    let leads = pasts::of(&app, workspace, path.dialogue).await?;
    let chains = app.store.queues_now(workspace).await?;
    let tables = app.store.territories(workspace).await?;
    let firms = app.store.firms(workspace).await?;
    let people = app.store.people_names(workspace).await?.into_iter().collect();
    let queues = chains.values().flatten().map(|queue| (queue.id, queue.name.clone())).collect();
    let since = app.store.now() - SignedDuration::from_hours(i64::from(body.days) * 24);
    let work = move || {
        let routing = body.routing.unwrap_or_else(|| draft.routing.clone());
        let (routes, _) = Rules::new(&routing, &draft.fields, &|_| String::new());
        let card = draft.default_card().map(|card| Card::new(card, &draft.fields, &draft.tables, &draft.language).0);
        let named = leads.named(&draft.fields, &draft.settings.currency);
        let gaps = gaps(&routing, &draft, &tables);
        let (chains, tables, firms) = (&chains, &tables, &firms);
        (again(&named, &AgainBy { routes: &routes, card: card.as_ref(), chains, tables, firms, since }), gaps)
    };
    let (again, gaps) = app.busy.work(work).await?;
    let ids: Vec<Uuid> = again.newest.iter().map(|one| one.lead).collect();
    let leads = if ids.is_empty() { Vec::new() } else { app.store.lead_names(workspace, &ids).await? };
    let said = |name: Option<String>, company: Option<String>| {
        let parts: Vec<String> = [name, company].into_iter().flatten().collect();
        if parts.is_empty() { "No name given".to_owned() } else { parts.join(", ") }
    };
    let leads = leads.into_iter().map(|(id, name, company)| (id, said(name, company))).collect();
    Ok(Json(AgainView { again, people, queues, leads, gaps }))
}

#[cfg(test)]
mod tests {
    use super::*;

    fn body(json: serde_json::Value) -> Result<QueueChange, u16> {
        checked(serde_json::from_value(json).unwrap()).map_err(|problem| problem.status)
    }

    #[test]
    fn a_queue_is_checked_before_it_is_kept() {
        let made = body(serde_json::json!({"name": " Tarn Quay, east ", "picks": "rotation"})).unwrap();
        assert_eq!((made.key.as_str(), made.name.as_str(), made.revision), ("tarn_quay_east", "Tarn Quay, east", 0));
        assert_eq!(key_of("24 hours"), "q_24_hours");
        for wrong in [
            serde_json::json!({"name": "", "picks": "rotation"}),
            serde_json::json!({"name": "x", "picks": "fixed_owner"}),
            serde_json::json!({"name": "x", "key": "Not a key", "picks": "rotation"}),
            serde_json::json!({"name": "x", "revision": 3, "picks": "rotation"}),
            serde_json::json!({"name": "x", "picks": "rotation", "hours": {"zone": "Nowhere"}}),
            serde_json::json!({"name": "x", "picks": "rotation",
                "members": [{"person": "00000000-0000-0000-0000-000000000001", "weight": -1}]}),
            serde_json::json!({"name": "x", "picks": "rotation",
                "members": [{"person": "00000000-0000-0000-0000-000000000001", "weight": 1, "day_limit": 0}]}),
        ] {
            assert_eq!(body(wrong.clone()).unwrap_err(), 422, "{wrong}");
        }
    }
}
