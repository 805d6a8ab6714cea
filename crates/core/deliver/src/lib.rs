//! What leaves Lumbo, or is done later: events as signed JSON ([`webhook`]), where they may go ([`guard`]), what an
//! answer means ([`answer`]), when an attempt that failed is made again ([`retry`]), leads as records of a customer
//! system or as rows of a sheet ([`mapping`]), tables as files ([`table`], [`sheet`]), contact cards ([`vcard`]),
//! mails ([`mail`]).

pub mod answer;
pub mod guard;
pub mod mail;
pub mod mapping;
pub mod retry;
pub mod sheet;
pub mod table;
pub mod vcard;
pub mod webhook;
