//! The outline as authors work on it: listed as rows with rails, changed by operations and by moves that an author
//! makes in one go, written as plain lines, compared, searched and measured.

pub mod change;
pub mod compare;
pub mod edit;
pub mod from_brief;
pub mod gesture;
pub mod marks;
pub mod rails;
pub mod rows;
pub mod search;
pub mod written;

pub use compare::{Compared, compare};
pub use edit::{Edit, EditError, Place, apply};
pub use gesture::{Gesture, GestureError, Made, expand};
pub use rows::{Row, RowKind, rows};
