//! Fork: arms on conditions; the first that holds.

mod compile;
mod run;

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use super::{Lead, OfKind};
use crate::file::{Arm, Dialogue, When};
use crate::plan::Kind;
use crate::plan::compile::{Compiler, Wrong};
use lumbo_value::{Id, Text};

pub(crate) use run::run;

/// Arms on conditions; the first that holds.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Fork {
    /// Its id.
    pub id: Id,
    /// Its arms, tried in order.
    pub arms: Vec<Arm>,
}

impl OfKind for Fork {
    const NAME: &'static str = "fork";
    const LABEL: &'static str = "Fork";

    id!();
    arms!();
    fn takes(when: &When) -> bool {
        matches!(when, When::Holds(_) | When::Otherwise)
    }
    asks_nothing!();
    works_out_nothing!();
    leads_nowhere!();
    ends_nothing!();
    shows_nothing!();
    fn words(&self, _dialogue: &Dialogue) -> String {
        "the first arm that holds".to_owned()
    }
    says_nothing!();
    can_run!();
}
