//! What leaves Lumbo, or is done later: when an attempt that failed is made again.

pub mod retry;
