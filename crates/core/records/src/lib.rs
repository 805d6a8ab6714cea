//! Records: what a filing makes of what was said and of what is on file. Pure functions over values; the store reads
//! what they need under its locks, and writes what they decide.
//!
//! | file | the rule it holds |
//! |---|---|
//! | `said` | what one conversation said, as a lead shows it |
//! | `filing` | which contact, company and lead it becomes, what changes on them, whose it is |
//! | `policy` | how a field changes on a record that has one already |
//! | `alike` | which two contacts may be one person |
//! | `merge` | two contacts become one |
//! | `answers` | which conversations a table of answers shows, and what stands in it |
//! | `by_hand` | what people type about a contact, read as its type |
//! | `calls` | what came of a call, when the next one is |
//! | `from_file` | companies and contacts of a file, row by row |
//! | `looked_for` | how a list of leads is looked at |
//! | `letters` | saved replies, and mails that people write from a lead |
//! | `permissions` | what people permitted, and withdrew |
//! | `reach` | how a contact wants to be reached, and how not |
//! | `standing` | what a firm is to us |
//! | `status` | what can become of a lead |
//! | `tags` | what a tag is |
//! | `summary` | a lead in one line |
//!
//! What a filing does not do: alerts, tasks and sendings follow from the rows it writes. To add a field's policy: a
//! variant of [`Policy`](lumbo_value::field::Policy), an arm in `policy`, and its words in the web.

mod alike;
mod answers;
mod by_hand;
mod calls;
mod filing;
mod from_file;
mod letters;
mod looked_for;
mod merge;
mod permissions;
mod policy;
mod reach;
mod said;
mod standing;
mod status;
mod summary;
mod tags;
#[cfg(test)]
mod tests;

pub use alike::{Alike, WhoTheyAre, alike};
pub use answers::{Wanted, answers, left_open};
pub use by_hand::by_hand;
pub use calls::{CallOutcome, NextStep, NextWhat, TriesPlan, gives_turn_back, working_minutes};
pub use filing::{
    AlsoGiven, CompanyOnFile, CompanyPlan, ContactOnFile, ContactPlan, FieldChange, Filing, Had, JOINED_WITHIN, Kept,
    LeadOnFile, LeadPlan, OnFile, OwnerPlan, Source, Turn, plan_filing,
};
pub use from_file::{FileHolds, FirmOfRow, Keeper, PersonOfRow, firm_of_row, person_of_row};
pub use letters::{BODY_LIMIT, Filled, REPLY_NAME_LIMIT, SUBJECT_LIMIT, checked_mail, checked_reply, fill, known_of};
pub use looked_for::{ListHolds, ListLook, ListOp, ListSort, ListTest, list_holds};
pub use merge::{Keeps, Pair, Side, Takes, plan_merge};
pub use permissions::{Permission, PermissionSaid, permissions, stands};
pub use policy::merged;
pub use reach::reach_says;
pub use said::{
    Identity, NotGiven, RecordField, Said, TypedValue, fields, firm_domain, lacks, not_given, said, typed_values,
};
pub use standing::Standing;
pub use status::LeadStatus;
pub use summary::{fold, wants};
pub use tags::{TAG_LIMIT, tag};
