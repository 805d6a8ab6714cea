//! Close: ends with an outcome.

mod compile;
mod run;

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use super::{Lead, OfKind};
use crate::file::{Arm, Dialogue, Link, When, Wording};
use crate::plan::Kind;
use crate::plan::compile::{Compiler, Wrong};
use crate::turns::texts::wording_texts;
use crate::turns::words::{outcome_name, text_words};
use lumbo_value::{Id, Text};

pub use compile::CloseNode;
pub(crate) use run::run;

/// Ends with an outcome.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Close {
    /// Its id.
    pub id: Id,
    /// The outcome's id.
    pub outcome: Id,
    /// A last line.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub say: Option<Wording>,
    /// A link to go on to.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub link: Option<Link>,
}

impl OfKind for Close {
    const NAME: &'static str = "close";
    const LABEL: &'static str = "Close";

    id!();
    no_arms!();
    asks_nothing!();
    works_out_nothing!();
    leads_nowhere!();
    fn ends_as(&self) -> Option<&Id> {
        Some(&self.outcome)
    }
    fn ends_as_mut(&mut self) -> Option<&mut Id> {
        Some(&mut self.outcome)
    }
    shows_nothing!();
    fn words(&self, dialogue: &Dialogue) -> String {
        let say = self.say.as_ref().map(|say| text_words(dialogue, &say.text)).unwrap_or_default();
        let link = self.link.as_ref();
        let link = link.map(|link| format!(" {} ({})", text_words(dialogue, &link.label), link.url));
        let ends = format!("(ends as {})", outcome_name(dialogue, &self.outcome));
        format!("{say}{} {ends}", link.unwrap_or_default()).trim_start().to_owned()
    }
    fn texts(&mut self) -> Vec<&mut Text> {
        let mut out: Vec<&mut Text> = self.say.iter_mut().flat_map(wording_texts).collect();
        out.extend(self.link.iter_mut().map(|link| &mut link.label));
        out
    }
    fn said(&self) -> Vec<&Text> {
        self.say.iter().flat_map(|say| std::iter::once(&say.text).chain(&say.or)).collect()
    }
    can_run!();
}
