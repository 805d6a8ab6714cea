//! File lead: scores, writes the records, routes, queues the sending.

mod compile;
mod run;

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use super::{Lead, OfKind};
use crate::file::{Arm, Dialogue, When};
use crate::plan::Kind;
use crate::plan::compile::{Compiler, Wrong};
use lumbo_value::{Id, Text};

pub(crate) use run::{run, scored};

/// Scores, writes the records, routes, queues the sending.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct FileLead {
    /// Its id.
    pub id: Id,
    /// The scorecard's id; the dialogue's default when absent.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub scorecard: Option<Id>,
    /// True where the conversation goes on after it and may tell more: the records are written at once, and the owner
    /// is chosen at the next filing, at the end, or after five minutes of silence.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub early: bool,
    /// Arms on the band or on being ruled out.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub arms: Vec<Arm>,
}

impl OfKind for FileLead {
    const NAME: &'static str = "file_lead";
    const LABEL: &'static str = "File lead";

    id!();
    arms!();
    fn takes(when: &When) -> bool {
        matches!(when, When::Band(_) | When::RuledOut | When::Lacks | When::Holds(_) | When::Otherwise)
    }
    asks_nothing!();
    works_out_nothing!();
    leads_nowhere!();
    ends_nothing!();
    shows_nothing!();
    fn words(&self, _dialogue: &Dialogue) -> String {
        let early = if self.early { ", and choose its owner later" } else { "" };
        format!("File the lead{early}")
    }
    says_nothing!();
    can_run!();
}
