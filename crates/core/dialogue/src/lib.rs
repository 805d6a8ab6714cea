//! The dialogue: the file as it is written, the plan it compiles to, its scorecards, and the conversation that runs it.
//!
//! | module | the rule it holds |
//! |---|---|
//! | [`file`] | the dialogue file `lumbo.dialogue/1`, its loading, its canonical form |
//! | [`turns`] | the kinds of turn, a folder each |
//! | [`plan`] | every turn, condition, formula, text and reader made ready once |
//! | [`score`] | scorecards |
//! | [`talk`] | the conversation: inputs, events, state, `step` |

pub mod file;
pub mod plan;
pub mod score;
pub mod talk;
pub mod turns;

pub use plan::Plan;
