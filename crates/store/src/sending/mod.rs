//! Sending leads to outside places.
//!
//! | file | what it holds |
//! |---|---|
//! | `destinations` | the places, and what each gets |
//! | `queue` | events on their way: set with the change that causes them, in order for each lead |
//! | `data` | a lead as an event carries it |

mod data;
mod destinations;
mod queue;

pub use destinations::{Destination, DestinationChange, DestinationKind, DestinationRow};
pub(crate) use queue::set;
pub use queue::{AttemptRow, Outcome, SendingRow, SendingState, ToSend, Turn};
