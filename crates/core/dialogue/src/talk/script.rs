//! Rehearsal scripts: one reply per line. A line is typed text; `>skip`, `>tap KEY`, `>back`,
//! `>leave`, `>revise TURN TEXT` and `>form {json}` are inputs of those kinds; `>tick SECONDS` lets time pass in
//! silence.

use jiff::{SignedDuration, Timestamp};

use super::unfinished::{makes_a_lead, unfinished_limit};
use super::{
    Beginning, Env, Event, Input, InputBody, ProspectInput, Refusal, State, Step, SystemInput, begin, silence_limit,
    step,
};
use crate::plan::Plan;

/// A script that could not be run.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum ScriptError {
    /// A line that is no input.
    #[error(
        "line {line}: “{word}” is not an input; lines that begin with > are skip, tap KEY, back, leave, tick SECONDS, \
         revise TURN TEXT, form {{json}}"
    )]
    Unknown {
        /// Which line, from 1.
        line: usize,
        /// The word after `>`.
        word: String,
    },
    /// The engine refused it.
    #[error("line {line}: {refusal}")]
    Refused {
        /// Which line, from 1.
        line: usize,
        /// Why.
        refusal: Refusal,
    },
    /// More lines than the conversation took.
    #[error("line {line}: the conversation had ended")]
    Ended {
        /// Which line, from 1.
        line: usize,
    },
}

/// One line of a rehearsal.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Line {
    /// The prospect does something.
    Prospect(ProspectInput),
    /// Seconds pass in silence; the page and the system then do what they would do.
    Silence(u32),
}

impl From<ProspectInput> for Line {
    fn from(input: ProspectInput) -> Self {
        Self::Prospect(input)
    }
}

/// Reads one line.
///
/// # Errors
/// A line that begins with `>` and is no input.
pub fn line(text: &str, number: usize) -> Result<Line, ScriptError> {
    let Some(rest) = text.strip_prefix('>') else { return Ok(ProspectInput::Reply { text: text.to_owned() }.into()) };
    let (word, tail) = rest.split_once(' ').unwrap_or((rest, ""));
    let unknown = |word: String| ScriptError::Unknown { line: number, word };
    Ok(Line::Prospect(match word {
        "skip" => ProspectInput::Skip {},
        "tap" if tail.contains(',') => {
            ProspectInput::PickSeveral { options: tail.split(',').map(str::trim).map(str::to_owned).collect() }
        }
        "tap" => ProspectInput::Pick { option: tail.trim().to_owned() },
        "back" => ProspectInput::Back {},
        "leave" => ProspectInput::Leave {},
        "tick" => return tail.trim().parse().map(Line::Silence).map_err(|_| unknown(format!(">tick {tail}"))),
        "revise" => {
            let (turn, text) = tail.split_once(' ').unwrap_or((tail, ""));
            ProspectInput::Revise { turn: turn.to_owned(), text: text.to_owned(), picked: false }
        }
        "form" => serde_json::from_str(tail)
            .map(|values| ProspectInput::Form { values })
            .map_err(|_| unknown(format!(">form {tail}")))?,
        _ => return Err(unknown(format!(">{word}"))),
    }))
}

/// Runs lines from the start, one after another, and gives every event with the state at the end.
///
/// # Errors
/// The first line that was refused.
pub fn run(plan: &Plan, lines: &[Line], env: Env<'_>) -> Result<(Vec<Event>, State), ScriptError> {
    run_from(plan, &Beginning::default(), lines, env)
}

/// Runs lines from a turn, with answers taken as given before. A nudge comes when it is due: a rehearsal has no clock
/// of its own.
///
/// # Errors
/// The first line that was refused.
pub fn run_from(
    plan: &Plan,
    beginning: &Beginning,
    lines: &[Line],
    mut env: Env<'_>,
) -> Result<(Vec<Event>, State), ScriptError> {
    let mut state = State::default();
    let mut events =
        begin(plan, &mut state, beginning, env).map_err(|refusal| ScriptError::Refused { line: 0, refusal })?;
    for (index, one) in lines.iter().enumerate() {
        let line = index + 1;
        if state.closed.is_some() && !matches!(one, Line::Prospect(ProspectInput::Revise { .. })) {
            return Err(ScriptError::Ended { line });
        }
        let body = match one {
            Line::Prospect(body) => {
                if matches!(body, ProspectInput::Nudge {}) {
                    env.now = later(env.now, plan.file.settings.nudge_seconds.into());
                }
                InputBody::Prospect(body.clone())
            }
            Line::Silence(seconds) => {
                env.now = later(env.now, *seconds);
                let heard_at = state.heard_at.unwrap_or(env.now);
                if silence_limit(plan, heard_at).is_some_and(|limit| env.now >= limit) {
                    InputBody::System(SystemInput::Silence)
                } else if unfinished_limit(plan, heard_at).is_some_and(|limit| env.now >= limit)
                    && makes_a_lead(plan, &state)
                {
                    InputBody::System(SystemInput::Unfinished)
                } else {
                    InputBody::Prospect(ProspectInput::Nudge {})
                }
            }
        };
        let expects = state.sequence();
        let input = match body {
            InputBody::System(body) => Input::system("rehearsed", expects, expects, body),
            body @ InputBody::Prospect(_) => Input { id: format!("line-{line}"), expects, body },
        };
        match step(plan, &mut state, &input, env) {
            Ok(Step::Took { events: new, .. }) => events.extend(new),
            // Silence that was too short for anything changes nothing.
            Ok(Step::Repeated(_)) | Err(Refusal::TooSoon) => {}
            Err(refusal) => return Err(ScriptError::Refused { line, refusal }),
        }
    }
    Ok((events, state))
}

fn later(now: Timestamp, seconds: u32) -> Timestamp {
    now.checked_add(SignedDuration::from_secs(seconds.into())).unwrap_or(now)
}
