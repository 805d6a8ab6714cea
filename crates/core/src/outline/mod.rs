//! The outline: compiled into a plan that the conversation runs, listed as rows, changed by operations.

pub mod edit;
pub mod plan;
pub mod rows;

pub use edit::{Edit, EditError, Place, apply};
pub use plan::Plan;
pub use rows::{Row, RowKind, rows};
