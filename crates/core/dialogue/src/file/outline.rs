//! The outline as written: sections, arms, and what follows them.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use lumbo_condition::Condition;
use lumbo_value::{Id, Text};

use super::Dialogue;
use crate::turns::Turn;

/// A titled run of turns; the only thing one can go to.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Section {
    /// Its id.
    pub id: Id,
    /// Its title for authors.
    pub title: String,
    /// Its turns.
    #[serde(default)]
    pub turns: Vec<Turn>,
    /// What follows it.
    pub then: Follow,
}

/// What follows a section.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Follow {
    /// The next section in the file.
    CarryOn,
    /// Back to where a Visit came from.
    Return,
    /// A named section.
    GoTo(Id),
    /// The end.
    Close(Ending),
}

/// How a conversation ends without a Close turn of its own.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Ending {
    /// The outcome's id.
    pub outcome: Id,
    /// A last line.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub say: Option<Text>,
}

/// One branch of a turn.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Arm {
    /// Its id, unique in the file.
    pub id: Id,
    /// The author's name for it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub label: Option<String>,
    /// What makes the conversation take it.
    pub when: When,
    /// Its turns.
    #[serde(default)]
    pub turns: Vec<Turn>,
    /// What follows it.
    #[serde(default)]
    pub then: Then,
    /// Words that a lead is tagged with where the conversation took this arm.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub tags: Vec<String>,
}

/// What makes the conversation take an arm.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum When {
    /// The answer is one of these options; `yes` and `no` for a yes-or-no field.
    Options(Vec<String>),
    /// A condition holds.
    Holds(Condition),
    /// Nothing before it was taken.
    Otherwise,
    /// File lead: the band is one of these.
    Band(Vec<Id>),
    /// File lead: a rule-out holds.
    RuledOut,
    /// File lead: something of what a lead must carry is missing; nothing is filed then.
    Lacks,
    /// The way out of an ask leads here, and nothing else.
    WayOut,
    /// Consult: the outside system answered.
    Answered,
    /// Consult: the outside system refused.
    Refused,
    /// Consult: no answer in time. Offer times: nothing fitted.
    NoAnswer,
    /// Offer times: a time was booked.
    Booked,
    /// Bring in a rep: one joined.
    Joined,
}

/// What follows an arm.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Then {
    /// Back to the trunk below the turn.
    #[default]
    Rejoin,
    /// A named section.
    GoTo(Id),
    /// The end.
    Close(Ending),
}

/// Where an ask leads when its tries are used up or the prospect declines.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum WayOut {
    /// On to what follows, the field missing.
    #[default]
    GoOn,
    /// A named section.
    GoTo(Id),
    /// An arm of this ask.
    Arm(Id),
}

impl Dialogue {
    /// Calls `visit` for every turn, in reading order, with its section and the arm it stands in.
    pub fn each_turn<'a>(&'a self, visit: &mut impl FnMut(&'a Section, Option<&'a Arm>, &'a Turn)) {
        fn walk<'a>(
            section: &'a Section,
            arm: Option<&'a Arm>,
            turns: &'a [Turn],
            visit: &mut impl FnMut(&'a Section, Option<&'a Arm>, &'a Turn),
        ) {
            for turn in turns {
                visit(section, arm, turn);
                for arm in turn.arms() {
                    walk(section, Some(arm), &arm.turns, visit);
                }
            }
        }
        for section in &self.sections {
            walk(section, None, &section.turns, visit);
        }
    }
}
