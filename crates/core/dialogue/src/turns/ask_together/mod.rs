//! Ask together: several fields on one small form.

mod answer;
mod compile;
mod run;

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use super::{Lead, OfKind, three, way_out_target, way_out_target_mut};
use crate::file::{Arm, Dialogue, WayOut, When, Wording};
use crate::plan::Kind;
use crate::plan::compile::{Compiler, Wrong};
use crate::turns::texts::{rule_text, wording_texts};
use crate::turns::words::{labels, text_words};
use lumbo_value::{Id, Rule, Text};

pub use compile::{FormFieldNode, FormNode};
pub(crate) use run::run;

/// Several fields on one small form.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct AskTogether {
    /// Its id.
    pub id: Id,
    /// The line above the form.
    pub say: Wording,
    /// The fields, in order.
    pub fields: Vec<FormField>,
    /// Failed tries before the way out.
    #[serde(default = "three")]
    pub tries: u8,
    /// Where it leads then.
    #[serde(default)]
    pub way_out: WayOut,
}

/// One field of a form.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct FormField {
    /// The field's key.
    pub field: String,
    /// Its label on the form; the field's own when absent.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub label: Option<Text>,
    /// Rules beside the field's own.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub rules: Vec<Rule>,
    /// Keys of the field's own rules that do not count here, of those that the catalogue lets an ask loosen.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub loosens: Vec<String>,
}

impl OfKind for AskTogether {
    const NAME: &'static str = "ask_together";
    const LABEL: &'static str = "Ask together";

    id!();
    no_arms!();
    fn asks_for(&self) -> Vec<&str> {
        self.fields.iter().map(|field| field.field.as_str()).collect()
    }
    works_out_nothing!();
    fn leads_to(&self) -> Option<(&Id, Lead)> {
        way_out_target(&self.way_out)
    }
    fn leads_to_mut(&mut self) -> Option<&mut Id> {
        way_out_target_mut(&mut self.way_out)
    }
    ends_nothing!();
    shows_nothing!();
    fn words(&self, dialogue: &Dialogue) -> String {
        let keys: Vec<&str> = self.asks_for();
        format!("{} [{}]", text_words(dialogue, &self.say.text), labels(dialogue, &keys))
    }
    fn texts(&mut self) -> Vec<&mut Text> {
        let mut out: Vec<&mut Text> = wording_texts(&mut self.say).collect();
        for field in &mut self.fields {
            out.extend(field.label.iter_mut());
            out.extend(field.rules.iter_mut().filter_map(rule_text));
        }
        out
    }
    fn said(&self) -> Vec<&Text> {
        std::iter::once(&self.say.text).chain(&self.say.or).collect()
    }
    can_run!();
}
