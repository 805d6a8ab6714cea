//! Rehearsing a draft. Nothing is kept: every request carries the whole conversation, and the engine runs it again.

use axum::Json;
use axum::extract::{Path, State};
use jiff::Timestamp;
use lumbo_core::outline::Plan;
use lumbo_core::talk::script::{self, ScriptError};
use lumbo_core::talk::{Context, Env, Event, InputBody, MarginLine, Question, margin, prospect_view};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use super::DialoguePath;
use crate::body::Body;
use crate::signed::Writer;
use crate::{App, Problem};

/// A rehearsal so far.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Rehearse {
    /// What the author did, after the start; 500 at most.
    inputs: Vec<InputBody>,
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
    /// Why the last input was not taken, where it was not; the rehearsal is as it was before it.
    refused: Option<String>,
}

/// A band on the scale of points.
#[derive(Serialize, JsonSchema)]
pub(crate) struct BandMark {
    /// Its name.
    label: String,
    /// Its threshold.
    from: Option<i64>,
}

pub(crate) async fn rehearse(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<DialoguePath>,
    Body(body): Body<Rehearse>,
) -> Result<Json<Rehearsal>, Problem> {
    if body.inputs.len() > 500 {
        return Err(Problem::bad("A rehearsal has at most 500 answers. Start again."));
    }
    let draft = app.store.draft(person.workspace_id, path.dialogue).await?;
    let (plan, _) = Plan::new(&draft.body);
    let context = Context::default();
    let env = Env { now: Timestamp::now(), seed: 1, context: &context };
    let mut refused = None;
    let ((events, state), taken) = match script::run(&plan, &body.inputs, env) {
        Ok(run) => (run, true),
        Err(error) => {
            // After an edit of the outline, answers further on may not fit any more: keep those that do.
            let line = match &error {
                ScriptError::Refused { line, .. } | ScriptError::Ended { line } | ScriptError::Later { line, .. } | ScriptError::Unknown { line, .. } => *line,
            };
            refused = Some(match error {
                ScriptError::Refused { refusal, .. } => refusal.to_string(),
                _ => "the conversation ended before this answer".to_owned(),
            });
            let kept = &body.inputs[..line.saturating_sub(1).min(body.inputs.len())];
            (script::run(&plan, kept, env).map_err(|error| Problem::bad(error.to_string()))?, false)
        }
    };
    let card = draft.body.scorecards.first();
    let (least, most) = card.map_or((0, 0), lumbo_core::score::bounds);
    Ok(Json(Rehearsal {
        lines: margin(&plan, &events),
        question: prospect_view(&plan, &state, &[] as &[Event]).question,
        turn: state.asking.as_ref().map(|asking| asking.turn.clone()),
        ended: state.closed.is_some(),
        points: state.points,
        bands: card.map(|card| card.bands.iter().map(|band| BandMark { label: band.label.clone(), from: band.from }).collect()).unwrap_or_default(),
        least,
        most,
        refused: refused.filter(|_| !taken),
    }))
}
