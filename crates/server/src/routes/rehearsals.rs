//! Rehearsing a draft. Nothing is kept: every request carries the whole conversation, and the engine runs it again.

use aide::axum::ApiRouter;
use aide::axum::routing::{get_with, post_with};
use std::collections::BTreeMap;

use axum::Json;
use axum::extract::State;
use jiff::Timestamp;
use lumbo_condition as condition;
use lumbo_dialogue::file::{Condition, Dialogue};
use lumbo_dialogue::plan::Plan;
use lumbo_dialogue::talk::script::{self, ScriptError};
use lumbo_dialogue::talk::{
    Beginning, Context, Env, Event, Known, MarginLine, ProspectInput, ProspectView, Question, State as Talk, Told,
    margin, prospect_view,
};
use lumbo_formula::{Names, compile, with_keys};
use lumbo_reading::domains::DomainLists;
use lumbo_reading::{ReadContext, Reader, ReaderSpec, Reading};
use lumbo_value::Value;
use lumbo_ways::reach::{Still, still};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use super::DialoguePath;
use crate::api::named;
use crate::body::{Body, Path};
use crate::signed::Writer;
use crate::{App, Problem};

/// The name of this area in the document.
const TAG: &str = "Rehearsals";

/// Talking to a draft, and looking at parts of it.
pub(crate) fn api() -> ApiRouter<App> {
    ApiRouter::new()
        .api_route(
            "/api/dialogues/{dialogue}/opening",
            get_with(
                super::prospects::draft_opening,
                named(TAG, "draftOpening", "What a prospect would see first of a draft"),
            ),
        )
        .api_route(
            "/api/dialogues/{dialogue}/rehearsal",
            post_with(rehearse, named(TAG, "rehearse", "Talk to the draft as a prospect would")),
        )
        .api_route(
            "/api/dialogues/{dialogue}/formula",
            post_with(try_formula, named(TAG, "tryFormula", "Look at a formula")),
        )
        .api_route(
            "/api/dialogues/{dialogue}/condition",
            post_with(read_condition, named(TAG, "readCondition", "Read a condition typed as a sentence")),
        )
}

/// A rehearsal so far.
#[derive(Default, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Rehearse {
    /// What the author did, after the start; 500 at most.
    inputs: Vec<ProspectInput>,
    /// The turn it begins at; the start where absent.
    #[serde(default)]
    from: Option<String>,
    /// Answers taken as given before, as typed, by the field's key; 200 at most.
    #[serde(default)]
    assumed: BTreeMap<String, String>,
    /// Who the prospect is: what is known of them without asking.
    #[serde(default)]
    visitor: Context,
    /// The time it is, RFC 3339; now where absent.
    #[serde(default)]
    at: Option<String>,
}

/// A rehearsal with its reasons.
#[derive(Serialize, JsonSchema)]
pub(crate) struct Rehearsal {
    /// Lines with notes.
    lines: Vec<MarginLine>,
    /// The open question.
    question: Option<Question>,
    /// The turn that is open.
    turn: Option<String>,
    /// Turns that were passed, oldest first.
    passed: Vec<String>,
    /// True after the end.
    ended: bool,
    /// Points so far.
    points: i64,
    /// Bands with their thresholds, lowest first.
    bands: Vec<BandMark>,
    /// Least and most that the scorecard can give, whatever is answered.
    least: i64,
    /// See `least`.
    most: i64,
    /// What the score can still come to; absent after the end and without a scorecard.
    still: Option<StillView>,
    /// Why the last input was not taken, where it was not; the rehearsal is as it was before it.
    refused: Option<String>,
    /// Assumed answers that could not be read, by the field's key, with why.
    unread: BTreeMap<String, String>,
    /// What a prospect would see of it.
    page: ProspectView,
}

/// A band on the scale of points.
#[derive(Serialize, JsonSchema)]
pub(crate) struct BandMark {
    /// Its name.
    label: String,
    /// Its threshold.
    from: Option<i64>,
}

/// What the score of a rehearsal can still come to.
#[derive(Serialize, JsonSchema)]
pub(crate) struct StillView {
    /// Lowest points at the end; absent where there is no end.
    low: Option<i64>,
    /// Highest points at the end.
    high: Option<i64>,
    /// Names of the bands that a filing can still give, lowest first; “Ruled out” where that is possible.
    bands: Vec<String>,
    /// True where one band is left.
    settled: bool,
    /// False where too much can happen to follow all of it; the ends are then wider than they need be.
    in_full: bool,
}

impl StillView {
    fn of(still: Still, dialogue: &Dialogue) -> Self {
        let label = |id: &String| {
            let bands = dialogue.scorecards.iter().flat_map(|card| &card.bands);
            bands
                .into_iter()
                .find(|band| band.id == *id)
                .map_or_else(|| "Ruled out".to_owned(), |band| band.label.clone())
        };
        let bands = still.bands.iter().map(label).collect();
        Self { low: still.low, high: still.high, bands, settled: still.settled, in_full: still.in_full }
    }
}

/// A rehearsal that was run.
struct Run {
    plan: Plan,
    events: Vec<Event>,
    state: Talk,
    now: Timestamp,
    refused: Option<String>,
    unread: BTreeMap<String, String>,
}

/// Reads assumed answers as the fields' own types and rules would; those that cannot be read are told.
fn assumed(
    plan: &Plan,
    given: &BTreeMap<String, String>,
    now: Timestamp,
) -> (Vec<(String, Value)>, BTreeMap<String, String>) {
    let mut out = Vec::new();
    let mut unread = BTreeMap::new();
    let today = now.to_zoned(plan.zone.clone()).date();
    for (key, text) in given.iter().filter(|(_, text)| !text.trim().is_empty()) {
        let Some(field) = plan.field_by_key(key) else { continue };
        let mut plain = field.clone();
        plain.rules.clear();
        let context =
            ReadContext { country: Some(&plan.file.settings.country), today: Some(today), ..ReadContext::default() };
        match Reader::new(ReaderSpec {
            currency: Some(&plan.file.settings.currency),
            required_language: &plan.file.language,
            ..ReaderSpec::of(&plain, &plan.language)
        })
        .map(|reader| {
            // An option's key is taken as well as its words.
            reader.pick(text).map_or_else(
                || reader.read(text, context, 0),
                |value| Reading::Value { value, heard: lumbo_reading::Heard::whole(text) },
            )
        }) {
            Ok(Reading::Value { value, .. }) => out.push((field.id.clone(), value)),
            Ok(Reading::Failed { message, .. }) => {
                unread.insert(key.clone(), message);
            }
            Ok(_) => {
                unread.insert(key.clone(), "it could mean several things".into());
            }
            Err(error) => {
                unread.insert(key.clone(), error.to_string());
            }
        }
    }
    (out, unread)
}

fn run(dialogue: &Dialogue, body: &Rehearse, domains: &DomainLists, clock: Timestamp) -> Result<Run, Problem> {
    if body.inputs.len() > 500 || body.assumed.len() > 200 {
        return Err(Problem::bad("A rehearsal has at most 500 answers. Start again."));
    }
    let now = match &body.at {
        Some(text) => text.parse().map_err(|_| Problem::bad("Write the time as 2027-01-05T09:30:00Z."))?,
        None => clock,
    };
    let plan = Plan::new(dialogue).0;
    let (given, unread) = assumed(&plan, &body.assumed, now);
    let beginning = Beginning { turn: body.from.clone(), assumed: given };
    let context = body.visitor.clone().settled();
    let env = Env { now, seed: 1, context: &context, known: &[], domains };
    let mut refused = None;
    let lines: Vec<script::Line> = body.inputs.iter().cloned().map(script::Line::from).collect();
    let (events, state) = match script::run_from(&plan, &beginning, &lines, env) {
        Ok(run) => run,
        Err(error) => {
            // After an edit of the outline, answers further on may not fit any more: keep those that do.
            let line = match &error {
                ScriptError::Refused { line, .. } | ScriptError::Ended { line } | ScriptError::Unknown { line, .. } => {
                    *line
                }
            };
            refused = Some(match error {
                ScriptError::Refused { refusal, .. } => refusal.to_string(),
                _ => "the conversation ended before this answer".to_owned(),
            });
            let kept = &lines[..line.saturating_sub(1).min(lines.len())];
            script::run_from(&plan, &beginning, kept, env).map_err(|error| Problem::bad(error.to_string()))?
        }
    };
    Ok(Run { plan, events, state, now, refused, unread })
}

pub(crate) async fn rehearse(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<DialoguePath>,
    Body(body): Body<Rehearse>,
) -> Result<Json<Rehearsal>, Problem> {
    let draft = app.store.draft(person.workspace_id, path.dialogue).await?;
    let domains = app.store.domains(person.workspace_id).await?.lists;
    let now = app.store.now();
    let (dialogue, ran) = app
        .busy
        .work(move || {
            let ran = run(&draft.body, &body, &domains, now);
            let still = ran.as_ref().ok().and_then(|ran| still(&ran.plan, &ran.state, ran.now));
            (draft.body, ran.map(|ran| (ran, still)))
        })
        .await?;
    let (Run { plan, events, state, refused, unread, .. }, still) = ran?;
    let card = dialogue.default_card();
    let (least, most) = card.map_or((0, 0), lumbo_dialogue::score::bounds);
    let mut passed: Vec<String> = Vec::new();
    for event in &events {
        if let Some(turn) = event.turn()
            && passed.last().is_none_or(|last| last != turn)
        {
            passed.push(turn.to_owned());
        }
    }
    let page = prospect_view(&plan, &state, &events);
    Ok(Json(Rehearsal {
        lines: margin(&plan, &events, Told::Rehearsed),
        question: page.question.clone(),
        turn: state.asking.as_ref().map(|asking| asking.turn.clone()),
        passed,
        ended: state.closed.is_some(),
        points: state.points,
        bands: card
            .map(|card| card.bands.iter().map(|band| BandMark { label: band.label.clone(), from: band.from }).collect())
            .unwrap_or_default(),
        least,
        most,
        still: still.map(|still| StillView::of(still, &dialogue)),
        refused,
        unread,
        page,
    }))
}

/// A formula to look at.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct TryFormula {
    /// The formula.
    formula: String,
    /// The rehearsal whose values it is tried on.
    #[serde(default)]
    rehearsal: Rehearse,
}

/// What a formula gives.
#[derive(Serialize, JsonSchema)]
pub(crate) struct TriedFormula {
    /// The type it gives, in words; absent where it cannot be read.
    gives: Option<String>,
    /// Characters before the place where it cannot be read.
    at: Option<usize>,
    /// What was expected there.
    says: Option<String>,
    /// Its value in the rehearsal, or why there is none.
    value: Option<String>,
}

pub(crate) async fn try_formula(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<DialoguePath>,
    Body(body): Body<TryFormula>,
) -> Result<Json<TriedFormula>, Problem> {
    let draft = app.store.draft(person.workspace_id, path.dialogue).await?;
    let names = Names { fields: &draft.body.fields, tables: &draft.body.tables };
    // Labels may be typed for keys; what is wrong is told at its place in what was typed.
    let typed = compile(&body.formula, names);
    let formula = match typed.or_else(|error| compile(&with_keys(&body.formula, names), names).map_err(|_| error)) {
        Ok(formula) => formula,
        Err(error) => {
            return Ok(Json(TriedFormula { gives: None, at: Some(error.at), says: Some(error.says), value: None }));
        }
    };
    let domains = app.store.domains(person.workspace_id).await?.lists;
    let now = app.store.now();
    let Run { plan, state, now, .. } = app
        .busy
        .work({
            let (dialogue, domains) = (draft.body.clone(), domains.clone());
            move || run(&dialogue, &body.rehearsal, &domains, now)
        })
        .await??;
    let today = now.to_zoned(plan.zone.clone()).date();
    let value =
        match formula.run(&Known { plan: &plan, state: &state, today, now, domains: &domains, at: None, with: None }) {
            Ok(Some(value)) => value.to_string(),
            Ok(None) => {
                let missing: Vec<&str> = formula
                    .reads()
                    .iter()
                    .filter_map(|key| plan.field_by_key(key))
                    .filter(|field| !state.values.contains_key(&field.id))
                    .map(|field| field.label.as_str())
                    .collect();
                if missing.is_empty() {
                    "missing".to_owned()
                } else {
                    format!("missing: {} not answered yet", missing.join(", "))
                }
            }
            Err(error) => format!("none: {error}"),
        };
    Ok(Json(TriedFormula { gives: Some(formula.gives().name().to_owned()), at: None, says: None, value: Some(value) }))
}

/// A condition typed as a sentence.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct TypedCondition {
    /// The sentence.
    text: String,
}

/// What a sentence says.
#[derive(Serialize, JsonSchema)]
pub(crate) struct ReadCondition {
    /// The condition; absent where the sentence cannot be read.
    condition: Option<Condition>,
    /// Characters before the place where it cannot be read.
    at: Option<usize>,
    /// What was expected there.
    says: Option<String>,
}

pub(crate) async fn read_condition(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<DialoguePath>,
    Body(body): Body<TypedCondition>,
) -> Result<Json<ReadCondition>, Problem> {
    let draft = app.store.draft(person.workspace_id, path.dialogue).await?;
    let read = condition::typed(&body.text, &draft.body.named_fields(), &draft.body.language).and_then(|condition| {
        condition::ready(&condition, &draft.body.fields)
            .map(|_| condition)
            .map_err(|says| condition::TypedError { at: 0, says })
    });
    Ok(Json(match read {
        Ok(condition) => ReadCondition { condition: Some(condition), at: None, says: None },
        Err(error) => ReadCondition { condition: None, at: Some(error.at), says: Some(error.says) },
    }))
}
