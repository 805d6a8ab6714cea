//! The conversation: `step(plan, state, input, env)` appends events and folds them into the state.
//!
//! | file | what it holds |
//! |---|---|
//! | `input` | what can happen: what a prospect does, and what only the system says |
//! | `event` | what came of it, with reasons: events store outcomes, never replies to be read again |
//! | `effect` | what must follow outside the conversation |
//! | `state` | the fold over events |
//! | `stored` | events and states as they are kept, with their version; older ones are brought up to date |
//! | `step` | the engine: understanding a reply, taking arms, going on until the next question or the end |
//! | `clause` | a text without the clause that lacks a value |
//! | `correct` | corrections of earlier answers while another question is open |
//! | `show` | what the prospect sees, and the margin notes an author sees |
//! | `unfinished` | who leaves before the end, and can be reached, becomes a lead |
//! | `entered` | a lead that a person enters, by hand or from a file |
//! | `erase` | what stays of an event when its person is erased |
//! | `script` | rehearsal lines of the command line and of saved rehearsals |
//!
//! To add a kind of turn that runs, see [`crate::turns`].

mod answer;
pub(crate) mod clause;
mod correct;
mod effect;
mod entered;
mod erase;
mod event;
mod input;
mod known;
pub(crate) mod replay;
mod say;
pub mod script;
mod several;
mod show;
mod side;
mod state;
pub(crate) mod step;
mod stored;
mod unfinished;

pub use effect::{Effect, Timer, owner_limit};
pub use entered::{Entered, enter};
pub use erase::erased;
pub use event::{CardPoints, Event, FormProblem, Line, WhyOut};
pub use input::{
    Env, FORM_LIMIT, Input, InputBody, Prefill, PrefillTo, ProspectInput, ProspectMessage, REPLY_INPUT_LIMIT,
    SystemInput,
};
pub use known::Known;
pub use lumbo_condition::circumstances::Context;
pub use show::{
    FormField, KeptLine, MarginLine, MarginNote, ProspectLine, ProspectView, Question, QuestionKind, QuestionOption,
    Told, Tone, Who, margin, prospect_view,
};
pub use state::{Answer, Asking, Came, Held, Stage, State};
pub use step::{ALL_RIGHT, Beginning, Refusal, Step, begin, silence_limit, step};
pub use stored::{EVENT_VERSION, Unreadable, keep_event, keep_state, read_event, read_state};
pub use unfinished::unfinished_limit;
