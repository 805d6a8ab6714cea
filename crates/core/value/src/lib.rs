//! What is known about a prospect, and what an author says is to be known: typed values, texts, money, fields with
//! their rules. The ground that reading, formulas, conditions and the dialogue stand on.
//!
//! | module | what it holds |
//! |---|---|
//! | [`value`] | typed values, and reasons why one is missing |
//! | [`money`] | currencies |
//! | [`field`] | the definition of a field, its rules, the tables that formulas read |
//! | [`text`] | words in several languages, with chips for values |
//! | [`id`] | what ids and keys look like |

pub mod field;
pub mod id;
pub mod money;
pub mod permits;
pub mod text;
pub mod value;

pub use field::{Choice, Field, FieldType, Policy, Record, Rule, Table, TryMessage};
pub use id::{ID_LIMIT, Id, is_id, is_key};
pub use text::Text;
pub use value::*;
