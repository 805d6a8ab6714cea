//! Sending leads to outside places.
//!
//! | file | what it holds |
//! |---|---|
//! | `destinations` | the places, and what each gets |
//! | `queue` | events on their way: set with the change that causes them, in order for each lead |
//! | `data` | a lead as an event carries it |
//! | `mapping` | what goes where at a customer system or a sheet, and our records' ids there |
//! | `backfill` | earlier leads, sent after it is shown how many |

mod backfill;
mod data;
mod destinations;
mod mapping;
mod queue;

pub use backfill::Backfill;
pub use destinations::{Destination, DestinationChange, DestinationKind, DestinationRow};
pub use mapping::{Choice, MappingRow, ReleasedFields};
pub(crate) use queue::set;
pub use queue::{AttemptRow, Outcome, SendingRow, SendingState, ToSend, Turn};
