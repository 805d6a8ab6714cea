//! What leaves Lumbo, or is done later: events as signed JSON ([`webhook`]), where they may go ([`guard`]), what an
//! answer means ([`answer`]), when an attempt that failed is made again ([`retry`]), tables as files ([`table`],
//! [`sheet`]), contact cards ([`vcard`]).

pub mod answer;
pub mod guard;
pub mod retry;
pub mod sheet;
pub mod table;
pub mod vcard;
pub mod webhook;
