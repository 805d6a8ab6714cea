//! Ask: one question, one field.

mod compile;
mod run;

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use super::{Lead, OfKind, three, way_out_target, way_out_target_mut};
use crate::file::{Arm, Dialogue, WayOut, When, Wording};
use crate::plan::Kind;
use crate::plan::compile::{Compiler, Wrong};
use crate::turns::texts::{rule_text, wording_texts};
use crate::turns::words::{label, text_words};
use lumbo_value::{Id, Rule, Text, TryMessage};

pub use compile::AskNode;
pub(crate) use run::run;

/// One question, one field.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Ask {
    /// Its id.
    pub id: Id,
    /// The question.
    pub say: Wording,
    /// The question in short, after side-talk.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub short: Option<Text>,
    /// Key of the field that keeps the answer.
    pub field: String,
    /// Which of the field's options are offered; all when empty.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub only: Vec<String>,
    /// Why we ask, said to whoever wants to know.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub why: Option<Text>,
    /// Rules beside the field's own; they may only narrow.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub rules: Vec<Rule>,
    /// Keys of the field's own rules that do not count here, of those that the catalogue lets an ask loosen.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub loosens: Vec<String>,
    /// The author's messages by rule, `type`, or `any`; one per try, the last repeats.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub messages: Vec<TryMessage>,
    /// Failed tries before the way out; 1 to 10.
    #[serde(default = "three")]
    pub tries: u8,
    /// Where it leads then.
    #[serde(default)]
    pub way_out: WayOut,
    /// Label of the skip, if it may be skipped.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub skip: Option<Text>,
    /// What to do when the field is known already.
    #[serde(default, skip_serializing_if = "IfKnown::is_default")]
    pub if_known: IfKnown,
    /// Side-talk answers but never leaves while this is open.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub held: bool,
    /// Its arms.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub arms: Vec<Arm>,
}

/// What an ask does when its field is known already.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum IfKnown {
    /// Nothing; the arm of the value still runs.
    #[default]
    Skip,
    /// Asks whether it is still right.
    Confirm,
    /// Asks anyway.
    Ask,
}

impl IfKnown {
    fn is_default(&self) -> bool {
        *self == Self::Skip
    }
}

impl Ask {
    /// A question that keeps its answer in a field: three tries, then on without it; no arms.
    #[must_use]
    pub fn plain(id: Id, say: Text, field: String) -> Self {
        Self {
            id,
            say: Wording { text: say, or: Vec::new() },
            short: None,
            field,
            only: Vec::new(),
            why: None,
            rules: Vec::new(),
            loosens: Vec::new(),
            messages: Vec::new(),
            tries: three(),
            way_out: WayOut::GoOn,
            skip: None,
            if_known: IfKnown::Skip,
            held: false,
            arms: Vec::new(),
        }
    }
}

impl OfKind for Ask {
    const NAME: &'static str = "ask";
    const LABEL: &'static str = "Ask";

    id!();
    arms!();
    fn takes(when: &When) -> bool {
        matches!(when, When::Options(_) | When::Holds(_) | When::Otherwise | When::WayOut)
    }
    fn asks_for(&self) -> Vec<&str> {
        vec![&self.field]
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
        let others: String = self.say.or.iter().map(|text| format!(" / {}", text_words(dialogue, text))).collect();
        format!("{}{others} [{}]", text_words(dialogue, &self.say.text), label(dialogue, &self.field))
    }
    fn name_words(&self, dialogue: &Dialogue) -> String {
        text_words(dialogue, &self.say.text)
    }
    fn texts(&mut self) -> Vec<&mut Text> {
        let mut out: Vec<&mut Text> = wording_texts(&mut self.say).collect();
        out.extend(self.short.iter_mut().chain(self.why.iter_mut()).chain(self.skip.iter_mut()));
        out.extend(self.messages.iter_mut().flat_map(|message| &mut message.say));
        out.extend(self.rules.iter_mut().filter_map(rule_text));
        out
    }
    fn said(&self) -> Vec<&Text> {
        std::iter::once(&self.say.text).chain(&self.say.or).collect()
    }
    can_run!();
}
