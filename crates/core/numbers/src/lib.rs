//! Numbers: what came of it. Pure functions over values; every figure carries what it was counted from.
//!
//! | file | the figure it holds |
//! |---|---|
//! | `share` | a share of a count, its interval, and the difference of two |
//! | `tells` | how well a score tells won leads from lost ones |
//! | `logistic` | the weights under which what was seen is likeliest |
//! | `scale` | weights as points |
//! | `past` | past leads with their answers and what became of them |
//! | `bench` | a scorecard held against past leads |
//! | `suggest` | points that past leads speak for |
//! | `again` | past leads given out again by other rules, hours and people |
//! | `sheet` | past leads from a CSV file |
//!
//! What stands here reads no clock and no database: leads come in with their moments.

pub mod again;
pub mod bench;
mod logistic;
mod past;
mod scale;
mod share;
pub mod sheet;
pub mod suggest;
mod tells;

pub use logistic::{Case, Fit, FitError, fit};
pub use past::{Answered, End, Filed, Named, PastLead, PastLeads};
pub use scale::Scale;
pub use share::{Difference, Interval, Share, Z95, difference};
pub use tells::{Apart, Tells, apart, brier, tells, tells_within};
