//! What leaves Lumbo, or is done later: events as signed JSON ([`webhook`]), where they may go ([`guard`]), what an
//! answer means ([`answer`]), when an attempt that failed is made again ([`retry`]), tables as files ([`table`]).

pub mod answer;
pub mod guard;
pub mod retry;
pub mod table;
pub mod webhook;
