//! What can happen on the ways through an outline, computed without holding a conversation.
//!
//! | module | what it computes |
//! |---|---|
//! | [`reach`] | what can still happen from a place with given values: turns, arms, points, bands, what can be missing |
//! | [`ledger`] | for each field where it is asked, filled and used, and where it is used before it can be known |

pub mod ledger;
pub mod reach;
