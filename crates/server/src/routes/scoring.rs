//! Scorecards held against past leads, tried by hand, and points that past leads speak for. Nothing here changes
//! anything: what is applied is an edit of the draft like any other.

use std::collections::BTreeMap;
use std::sync::Arc;

use aide::axum::ApiRouter;
use aide::axum::routing::post_with;
use axum::Json;
use axum::extract::State;
use jiff::{SignedDuration, Timestamp};
use lumbo_dialogue::Plan;
use lumbo_dialogue::file::{Dialogue, Scorecard};
use lumbo_dialogue::score::{Card, Fault, ScoreResult};
use lumbo_numbers::bench::{Asked, Bench, Counts, bench};
use lumbo_numbers::sheet::{self, BadRow, Glance, Mapping};
use lumbo_numbers::suggest::{NoSuggestion, Suggestion, suggest};
use lumbo_numbers::{End, Filed, PastLeads};
use lumbo_outline::compare::{CardChanges, card_changes};
use lumbo_reading::{ReadContext, Reader, ReaderSpec, Reading, shown};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

use super::DialoguePath;
use crate::api::named;
use crate::body::{Body, Path};
use crate::signed::Writer;
use crate::{App, Problem, pasts};

/// The name of this area in the document.
const TAG: &str = "Scoring";

/// Scoring.
pub(crate) fn api() -> ApiRouter<App> {
    ApiRouter::new()
        .api_route(
            "/api/dialogues/{dialogue}/bench",
            post_with(held, named(TAG, "bench", "A scorecard held against past leads")),
        )
        .api_route(
            "/api/dialogues/{dialogue}/bench/glance",
            post_with(look, named(TAG, "benchGlance", "What the columns of a file of past leads hold")),
        )
        .api_route(
            "/api/dialogues/{dialogue}/bench/file",
            post_with(held_file, named(TAG, "benchFile", "A scorecard held against the leads of a file")),
        )
        .api_route(
            "/api/dialogues/{dialogue}/suggest",
            post_with(suggested, named(TAG, "suggestPoints", "Points that past leads speak for")),
        )
        .api_route("/api/dialogues/{dialogue}/score", post_with(score, named(TAG, "tryScore", "Score typed answers")))
}

/// Days of the past that count.
const DAYS: i64 = 365;
/// Most scorecards that are tried at once.
const CARDS: usize = 20;
/// Most answers of a tried lead.
const ANSWERS: usize = 200;

/// Which scorecard, and how it is held against the past.
#[derive(Debug, Default, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Held {
    /// The scorecard's id; the dialogue's default, else its first where absent.
    #[serde(default)]
    card: Option<String>,
    /// Scorecards in the place of the draft's, for a look before they are kept.
    #[serde(default)]
    scorecards: Option<Vec<Scorecard>>,
    /// What counts as won.
    #[serde(default)]
    counts: Counts,
    /// What changes of band are told against.
    #[serde(default)]
    against: Against,
}

/// What a scorecard is compared with.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
enum Against {
    /// The newest release.
    #[default]
    Release,
    /// The draft, where other scorecards are looked at.
    Draft,
}

/// A lead that changes band, for people.
#[derive(Debug, Serialize, JsonSchema)]
struct MovedLead {
    /// The lead.
    lead: Uuid,
    /// Its name.
    name: Option<String>,
    /// Its company.
    company: Option<String>,
}

/// A scorecard held against the past.
#[derive(Debug, Serialize, JsonSchema)]
pub(crate) struct BenchView {
    /// The figures.
    bench: Bench,
    /// Names of the leads that change band, in their order.
    moved: Vec<MovedLead>,
    /// Parts of the card that cannot be read, by id, with a sentence.
    faults: BTreeMap<String, String>,
    /// What of the scorecards is not as in the newest release; nothing before the first.
    changes: CardChanges,
    /// How often reps said that a criterion misled, by its id.
    misled: BTreeMap<String, i64>,
}

/// The card that is meant among a dialogue's, made ready, with what of it cannot be read.
fn card(dialogue: &Dialogue, id: Option<&str>) -> Option<(Card, Vec<Fault>)> {
    let meant = match id {
        Some(id) => dialogue.scorecards.iter().find(|card| card.id == id),
        None => dialogue.default_card().or(dialogue.scorecards.first()),
    };
    meant.map(|card| Card::new(card, &dialogue.fields, &dialogue.tables, &dialogue.language))
}

fn no_card() -> Problem {
    Problem::bad("This dialogue has no such scorecard. Make one first.")
}

/// What is held: the draft with the cards that are looked at, and the cards it is compared with.
struct Cards {
    draft: Arc<Dialogue>,
    released: Option<Arc<Plan>>,
    card: Card,
    faults: Vec<Fault>,
    against: Option<Card>,
}

async fn cards(app: &App, workspace: Uuid, dialogue: Uuid, held: &mut Held) -> Result<Cards, Problem> {
    if held.scorecards.as_ref().is_some_and(|cards| cards.len() > CARDS) {
        return Err(Problem::bad(format!("A dialogue has at most {CARDS} scorecards.")));
    }
    let draft = app.store.draft(workspace, dialogue).await?.body;
    let id = held.card.as_deref();
    let looked_at = match held.scorecards.take() {
        Some(scorecards) => Arc::new(Dialogue { scorecards, ..Dialogue::clone(&draft) }),
        None => Arc::clone(&draft),
    };
    let (made, faults) = card(&looked_at, id).ok_or_else(no_card)?;
    let same = Some(made.file.id.as_str());
    let released = app.store.newest_release(workspace, dialogue).await?;
    let against = match held.against {
        Against::Draft => card(&draft, same),
        Against::Release => released.as_ref().and_then(|plan| card(&plan.file, same)),
    };
    Ok(Cards { draft: looked_at, released, card: made, faults, against: against.map(|(card, _)| card) })
}

impl Cards {
    fn asked(&self, counts: Counts, now: Timestamp, people: u32) -> Asked<'_> {
        let since = now - SignedDuration::from_hours(DAYS * 24);
        Asked { card: &self.card, against: self.against.as_ref(), counts, since, now, people }
    }
}

pub(crate) async fn held(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<DialoguePath>,
    Body(mut body): Body<Held>,
) -> Result<Json<BenchView>, Problem> {
    let workspace = person.workspace_id;
    let cards = cards(&app, workspace, path.dialogue, &mut body).await?;
    let leads = pasts::of(&app, workspace, path.dialogue).await?;
    let people = app.store.people_who_call(workspace).await?;
    let now = app.store.now();
    let (bench, faults, changes) = app
        .busy
        .work(move || {
            let named = leads.named(&cards.draft.fields, &cards.draft.settings.currency);
            let bench = bench(&named, &cards.asked(body.counts, now, people));
            let changes = cards.released.map(|plan| card_changes(&plan.file, &cards.draft)).unwrap_or_default();
            (bench, cards.faults, changes)
        })
        .await?;
    let ids: Vec<Uuid> =
        bench.moves.as_ref().map(|moves| moves.newest.iter().map(|one| one.lead).collect()).unwrap_or_default();
    let moved = if ids.is_empty() { Vec::new() } else { app.store.lead_names(workspace, &ids).await? };
    let moved = moved.into_iter().map(|(lead, name, company)| MovedLead { lead, name, company }).collect();
    let misled = app.store.misled(workspace, path.dialogue).await?.into_iter().collect();
    Ok(Json(BenchView { bench, moved, faults: faults.into_iter().collect(), changes, misled }))
}

/// A file to look at.
#[derive(Debug, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct File {
    /// The file, as CSV; 3 MB at most.
    csv: String,
}

pub(crate) async fn look(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<DialoguePath>,
    Body(body): Body<File>,
) -> Result<Json<Glance>, Problem> {
    let draft = app.store.draft(person.workspace_id, path.dialogue).await?.body;
    let glance = app.busy.work(move || sheet::glance(&body.csv, &draft.fields)).await?;
    glance.map(Json).map_err(|error| Problem::bad(sentence(&error.to_string())))
}

/// A file of past leads, what its columns hold, and the card that it is held against.
#[derive(Debug, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct HeldFile {
    /// The file, as CSV; 3 MB at most.
    csv: String,
    /// What its columns hold.
    mapping: Mapping,
    /// Which card, and how.
    #[serde(default)]
    held: Held,
}

/// A scorecard held against the leads of a file.
#[derive(Debug, Serialize, JsonSchema)]
pub(crate) struct FileBench {
    /// The figures.
    bench: Bench,
    /// How many rows were read.
    read: u32,
    /// Rows that were not, by line; 200 at most.
    bad: Vec<BadRow>,
    /// How many were not.
    bad_rows: u32,
}

pub(crate) async fn held_file(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<DialoguePath>,
    Body(mut body): Body<HeldFile>,
) -> Result<Json<FileBench>, Problem> {
    let cards = cards(&app, person.workspace_id, path.dialogue, &mut body.held).await?;
    let now = app.store.now();
    let work = move || {
        let today = now.to_zoned(jiff::tz::TimeZone::UTC).date();
        let Dialogue { fields, settings, language, .. } = &*cards.draft;
        let sheet = sheet::read(&body.csv, &body.mapping, fields, language, today)?;
        let asked = cards.asked(body.held.counts, now + SignedDuration::from_hours(24), 0);
        let bench = bench(&sheet.leads.named(fields, &settings.currency), &asked);
        let read = u32::try_from(sheet.leads.len()).unwrap_or(u32::MAX);
        Ok::<_, sheet::SheetError>(FileBench { bench, read, bad: sheet.bad, bad_rows: sheet.bad_rows })
    };
    app.busy.work(work).await?.map(Json).map_err(|error| Problem::bad(sentence(&error.to_string())))
}

/// Which points are asked for.
#[derive(Debug, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Suggest {
    /// Which card, and what counts as won.
    #[serde(default)]
    held: Held,
    /// Points that double the odds of being won, 1 to 500; as today's card where absent.
    #[serde(default)]
    doubles: Option<f64>,
}

/// Suggested points, or why there are none.
#[derive(Debug, Serialize, JsonSchema)]
pub(crate) struct SuggestView {
    /// The points; absent where there are none.
    suggestion: Option<Suggestion>,
    /// Why there are none.
    none: Option<NoSuggestion>,
}

pub(crate) async fn suggested(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<DialoguePath>,
    Body(mut body): Body<Suggest>,
) -> Result<Json<SuggestView>, Problem> {
    if body.doubles.is_some_and(|doubles| !(1.0..=500.0).contains(&doubles)) {
        return Err(Problem::bad("The points that double the odds are a number from 1 to 500."));
    }
    let cards = cards(&app, person.workspace_id, path.dialogue, &mut body.held).await?;
    let leads = pasts::of(&app, person.workspace_id, path.dialogue).await?;
    let now = app.store.now();
    let found = app
        .busy
        .work(move || {
            let named = leads.named(&cards.draft.fields, &cards.draft.settings.currency);
            suggest(&named, &cards.asked(body.held.counts, now, 0), body.doubles)
        })
        .await?;
    let (suggestion, none) = match found {
        Ok(suggestion) => (Some(suggestion), None),
        Err(none) => (None, Some(none)),
    };
    Ok(Json(SuggestView { suggestion, none }))
}

/// Answers of a lead that is tried by hand.
#[derive(Debug, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct TryLead {
    /// Which card.
    #[serde(default)]
    held: Held,
    /// What is typed for each field, by its key.
    answers: BTreeMap<String, String>,
}

/// What a tried lead scores.
#[derive(Debug, Serialize, JsonSchema)]
pub(crate) struct Tried {
    /// The score, with its reasons.
    score: ScoreResult,
    /// What was read for each field, in words.
    read: BTreeMap<String, String>,
    /// What could not be read, by field, with a sentence.
    unread: BTreeMap<String, String>,
}

pub(crate) async fn score(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<DialoguePath>,
    Body(mut body): Body<TryLead>,
) -> Result<Json<Tried>, Problem> {
    if body.answers.len() > ANSWERS || body.answers.values().any(|typed| typed.chars().count() > 2_000) {
        return Err(Problem::bad("A tried lead has at most 200 answers of 2,000 characters."));
    }
    let cards = cards(&app, person.workspace_id, path.dialogue, &mut body.held).await?;
    let now = app.store.now();
    let work = move || {
        let (read, unread, values) = read_answers(&cards.draft, &body.answers, now);
        let score = score_of(&cards.card, &cards.draft, now, values);
        Tried { score, read, unread }
    };
    Ok(Json(app.busy.work(work).await?))
}

/// What was read of typed answers in words, what could not be read with a sentence, and the values by field id.
type ReadAnswers = (BTreeMap<String, String>, BTreeMap<String, String>, Vec<(String, lumbo_value::Value)>);

/// Reads what is typed for fields, each as a reply would be.
pub(crate) fn read_answers(draft: &Dialogue, answers: &BTreeMap<String, String>, now: Timestamp) -> ReadAnswers {
    let Dialogue { fields, tables, settings, language, .. } = draft;
    let today = now.to_zoned(jiff::tz::TimeZone::UTC).date();
    let (mut read, mut unread, mut values) = (BTreeMap::new(), BTreeMap::new(), Vec::new());
    for field in fields {
        let Some(typed) = answers.get(&field.key).filter(|typed| !typed.trim().is_empty()) else { continue };
        let currency = Some(settings.currency.as_str());
        let reader = Reader::new(ReaderSpec { fields, tables, currency, ..ReaderSpec::of(field, language) });
        let says = match reader {
            Err(error) => sentence(&error.to_string()),
            Ok(reader) => match reader.read(typed, ReadContext { today: Some(today), ..ReadContext::default() }, 0) {
                Reading::Value { value, .. } => {
                    read.insert(field.key.clone(), shown(field, &value, language, language));
                    values.push((field.id.clone(), value));
                    continue;
                }
                Reading::Failed { message, .. } => message,
                Reading::Tie(keys) => reader.tie_question(&keys),
                Reading::Declined => "Declined: counts as not known.".to_owned(),
            },
        };
        unread.insert(field.key.clone(), says);
    }
    (read, unread, values)
}

/// The score of values by field id, as a lead filed at a moment.
pub(crate) fn score_of(
    card: &Card,
    dialogue: &Dialogue,
    at: Timestamp,
    values: Vec<(String, lumbo_value::Value)>,
) -> ScoreResult {
    let mut one = PastLeads::default();
    one.put(Filed::new(Uuid::nil(), at, End::Open), values);
    let named = one.named(&dialogue.fields, &dialogue.settings.currency);
    let answered = named.answered();
    card.score(answered[0].facts(), &dialogue.language)
}

/// A sentence of a clause.
pub(crate) fn sentence(clause: &str) -> String {
    let mut letters = clause.chars();
    let first = letters.next().map(|first| first.to_uppercase().to_string()).unwrap_or_default();
    let rest = letters.as_str();
    format!("{first}{rest}{}", if rest.ends_with(['.', '?', '!']) { "" } else { "." })
}
