//! The computation behind Lumbo.
//!
//! Everything here takes values and returns values: no clock, no files, no database, no randomness of its own.
//! Time, seed and looked-up facts come in as arguments; effects go out as values for the shell to carry out.
//!
//! A reader looking for a rule of the job finds it by folder:
//!
//! | folder | the rule it holds |
//! |---|---|
//! | [`file`] | the dialogue file `lumbo.dialogue/1`, its loading, its canonical form |
//! | [`value`] | what a value is, and why one may be missing |
//! | [`language`] | listed words per language: yes and no, declining, skipping, numbers, default messages |
//! | [`field`] | reading a prospect's reply into a value, and the rules on it |
//! | [`catalogue`] | the workspace's fields: sound definitions, what a change breaks, CSV |
//! | [`condition`] | three-valued conditions, and saying them in words |
//! | [`formula`] | typed formulas in the spreadsheet tradition |
//! | [`outline`] | the outline compiled into a plan, its rows, its editing operations |
//! | [`talk`] | the conversation: inputs, events, state, `step` |
//! | [`score`] | scorecards |
//! | [`route`] | routing rules and rotation |
//! | [`records`] | what a filing makes of what was said: contact, company, lead, owner |
//! | [`deliver`] | when an attempt that failed is made again |
//! | [`patterns`] | ready-made dialogues to begin from |
//! | [`checks`] | findings about an outline before it is released |
//! | [`rails`] | the lanes in the outline's gutter |

pub mod catalogue;
pub mod checks;
pub mod condition;
pub mod deliver;
pub mod field;
pub mod file;
pub mod formula;
pub mod language;
pub mod outline;
pub mod patterns;
pub mod rails;
pub mod records;
pub mod route;
pub mod score;
pub mod talk;
pub mod value;
