//! Leads as records of a customer system, or as rows of a sheet.
//!
//! | file | what it holds |
//! |---|---|
//! | `schema` | what a customer system says that it holds: objects, their properties, its people |
//! | `rules` | which property comes from what, as an administrator maps it |
//! | `values` | the rules held against one lead: what would be written, and what finds no counterpart |
//! | `suggest` | rules that suggest themselves by names |
//! | `faults` | what is wrong with a mapping before anything is sent |
//! | `upsert` | which call comes next, from what was answered so far, so that nothing is made twice |
//!
//! docs/customer-system.md describes the interface that a customer system offers.

mod faults;
mod rules;
mod schema;
mod suggest;
mod upsert;
mod values;

pub use faults::{MappingFault, MappingFaultKind, Offered, Ours, mapping_faults};
pub use rules::{Fact, MapFrom, MapRule, Mapping, Write};
pub use schema::{Holds, ObjectSchema, Property, PropertyKind, Schema, SchemaError, TheirOption, TheirPerson};
pub use suggest::suggested;
pub use upsert::{Answered, Call, Known, Next, Their, Upsert, Written};
pub use values::{Carried, FieldFact, LeadFacts, Lost, RecordPlan, RecordPlans, carried, row, upserts};
