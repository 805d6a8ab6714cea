//! What leaves Lumbo, or is done later: when an attempt that failed is made again ([`retry`]), tables as files
//! ([`table`]).

pub mod retry;
pub mod table;
