//! Records: what a filing makes of what was said and of what is on file. Pure functions over values; the store reads
//! what they need under its locks, and writes what they decide.
//!
//! | file | the rule it holds |
//! |---|---|
//! | `said` | what one conversation said, as a lead shows it |
//! | `filing` | which contact, company and lead it becomes, what changes on them, whose it is |
//! | `policy` | how a field changes on a record that has one already |
//! | `calls` | what came of a call, when the next one is |
//! | `status` | what can become of a lead |
//! | `summary` | a lead in one line |
//!
//! What a filing does not do: alerts, tasks and sendings follow from the rows it writes. To add a field's policy: a
//! variant of [`Policy`](lumbo_value::field::Policy), an arm in `policy`, and its words in the web.

mod calls;
mod filing;
mod policy;
mod said;
mod status;
mod summary;
#[cfg(test)]
mod tests;

pub use calls::{CallOutcome, NextStep, NextWhat, TriesPlan, working_minutes};
pub use filing::{
    AlsoGiven, CompanyOnFile, CompanyPlan, ContactOnFile, ContactPlan, FieldChange, Filing, JOINED_WITHIN, Kept,
    LeadOnFile, LeadPlan, OnFile, OwnerPlan, Source, Turn, plan_filing,
};
pub use policy::merged;
pub use said::{Identity, RecordField, Said, TypedValue, lacks, said, typed_values};
pub use status::LeadStatus;
pub use summary::{fold, wants};
