//! The conversation: `step(plan, state, input, env)` appends events and folds them into the state.
//!
//! | file | what it holds |
//! |---|---|
//! | `input` | what can happen: start, a typed reply, a picked option, a skip |
//! | `context` | what is known without asking |
//! | `event` | what came of it, with reasons: events store outcomes, never replies to be read again |
//! | `state` | the fold over events |
//! | `step` | the engine: understanding a reply, taking arms, going on until the next question or the end |
//! | `show` | what the prospect sees, and the margin notes an author sees |
//! | `script` | rehearsal lines of the command line and of saved rehearsals |
//!
//! To add a kind of turn that runs: a variant in `outline::plan::Kind`, an arm in `step::Run::go_on`, and the events
//! that record its outcome.

mod answer;
mod context;
mod event;
mod input;
mod replay;
mod say;
pub mod script;
mod several;
mod show;
mod side;
mod state;
mod step;

pub use context::{CONTEXT_NAMES, Circumstances, Context, WEEKDAYS};
pub(crate) use context::{time_of_day, weekday_index};
pub use event::{Event, FormProblem, Line, WhyOut};
pub use input::{Env, FORM_LIMIT, Input, InputBody, Prefill, PrefillTo, REPLY_INPUT_LIMIT};
pub use show::{
    FormField, KeptLine, MarginLine, MarginNote, ProspectLine, ProspectView, Question, QuestionKind, QuestionOption, Tone, Who, margin, prospect_view,
};
pub use state::{Answer, Asking, Came, Held, Stage, State};
pub use step::{ALL_RIGHT, Beginning, Known, Refusal, Step, begin, step};
