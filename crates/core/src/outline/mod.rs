//! The outline: compiled into a plan that the conversation runs, listed as rows, changed by operations and by moves that
//! an author makes in one go, compared, searched, and counted.

pub mod compare;
pub mod edit;
pub mod from_brief;
pub mod gesture;
pub mod ledger;
pub mod marks;
pub mod plan;
pub mod rows;
pub mod search;
pub mod texts;
pub mod uses;
pub mod words;
pub mod written;

pub use compare::{Compared, compare};
pub use edit::{Edit, EditError, Place, apply};
pub use gesture::{Gesture, GestureError, Made, expand};
pub use plan::Plan;
pub use rows::{Row, RowKind, rows};
