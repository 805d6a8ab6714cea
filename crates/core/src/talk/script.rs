//! Rehearsal scripts: one reply per line. A line is typed text; `>skip`, `>tap KEY`, `>back`,
//! `>tick SECONDS`, `>revise TURN TEXT` and `>form {json}` are inputs of those kinds.

use super::{Beginning, Env, Event, Input, InputBody, Refusal, State, Step, begin, step};
use crate::outline::Plan;

/// A script that could not be run.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum ScriptError {
    /// A line that is no input.
    #[error("line {line}: “{word}” is not an input; lines that begin with > are skip, tap KEY, back, tick SECONDS, revise TURN TEXT, form {{json}}")]
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

/// Reads one line as an input.
///
/// # Errors
/// A line that begins with `>` and is no input.
pub fn line(text: &str, number: usize) -> Result<InputBody, ScriptError> {
    let Some(rest) = text.strip_prefix('>') else { return Ok(InputBody::Reply { text: text.to_owned() }) };
    let (word, tail) = rest.split_once(' ').unwrap_or((rest, ""));
    match word {
        "skip" => Ok(InputBody::Skip),
        "tap" if tail.contains(',') => Ok(InputBody::PickSeveral { options: tail.split(',').map(str::trim).map(str::to_owned).collect() }),
        "tap" => Ok(InputBody::Pick { option: tail.trim().to_owned() }),
        "back" => Ok(InputBody::Back),
        "tick" => {
            tail.trim().parse().map(|seconds| InputBody::Tick { seconds }).map_err(|_| ScriptError::Unknown { line: number, word: format!(">tick {tail}") })
        }
        "revise" => {
            let (turn, text) = tail.split_once(' ').unwrap_or((tail, ""));
            Ok(InputBody::Revise { turn: turn.to_owned(), text: text.to_owned(), picked: false })
        }
        "form" => serde_json::from_str(tail)
            .map(|values| InputBody::Form { values })
            .map_err(|_| ScriptError::Unknown { line: number, word: format!(">form {tail}") }),
        _ => Err(ScriptError::Unknown { line: number, word: format!(">{word}") }),
    }
}

/// Runs inputs from the start, one after another, and gives every event with the state at the end.
///
/// # Errors
/// The first input that was refused, by its line.
pub fn run(plan: &Plan, inputs: &[InputBody], env: Env<'_>) -> Result<(Vec<Event>, State), ScriptError> {
    run_from(plan, &Beginning::default(), inputs, env)
}

/// Runs inputs from a turn, with answers taken as given before.
///
/// # Errors
/// The first input that was refused, by its line.
pub fn run_from(plan: &Plan, beginning: &Beginning, inputs: &[InputBody], env: Env<'_>) -> Result<(Vec<Event>, State), ScriptError> {
    let mut state = State::default();
    let mut events = begin(plan, &mut state, beginning, env).map_err(|refusal| ScriptError::Refused { line: 0, refusal })?;
    for (index, body) in inputs.iter().enumerate() {
        let line = index + 1;
        if state.closed.is_some() && !matches!(body, InputBody::Revise { .. }) {
            return Err(ScriptError::Ended { line });
        }
        let input = Input { id: format!("line-{line}"), expects: state.sequence(), body: body.clone() };
        match step(plan, &mut state, &input, env) {
            Ok(Step::Events(new)) => events.extend(new),
            Ok(Step::Repeated(_)) => {}
            Err(refusal) => return Err(ScriptError::Refused { line, refusal }),
        }
    }
    Ok((events, state))
}
