//! Routing: ordered rules name a queue; the queue picks a rep.

mod firm;
mod queue;
pub mod territory;
pub mod words;
mod written;

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use lumbo_condition as condition;

use lumbo_condition::Facts;
use lumbo_value::Field;
use lumbo_value::field::FieldType;

pub use firm::{Firm, FirmIs};
pub use queue::{
    Carried, Chosen, Holder, Limits, Load, Member, PassedOver, Pick, Picked, Picks, Queue, Wanted, choose, given_back,
};
pub use territory::{Look, Looked, Territories, Territory};
pub use written::{ByTable, Routing, RoutingRule};

/// Routing rules with their conditions parsed.
#[derive(Debug, Clone)]
pub struct Rules {
    rules: Vec<ReadyRule>,
    otherwise: Option<String>,
}

/// A rule with its condition parsed and said.
#[derive(Debug, Clone)]
struct ReadyRule {
    rule: RoutingRule,
    ready: condition::Ready,
    words: String,
    /// The type of the field that a table is looked up by.
    by: Option<FieldType>,
}

/// Where a rule sends leads.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Goes<'a> {
    /// To a queue, by its key.
    Queue(&'a str),
    /// To a queue, by its key, where their firm is as the rule wants; the rules go on where it is not.
    QueueOfFirm(&'a str),
    /// To the queue that a table names; the rules go on where it names none.
    Table {
        /// The table's key.
        table: &'a str,
        /// Key of the field that is looked up.
        field: &'a str,
    },
}

/// Which queue, and every step that led to it, as data; [`words`] makes sentences of them.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Decision {
    /// The queue's key; absent where no rule held and none was named for that.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub queue: Option<String>,
    /// What a rep must have.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub skills: Vec<String>,
    /// True where it decides even for somebody who has an owner already.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub even_if_owned: bool,
    /// Words that the lead is tagged with.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub tags: Vec<String>,
    /// The steps, in order.
    pub steps: Vec<RouteStep>,
    /// Firms and tables to look at before the queue stands, in order.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub looks: Vec<Look>,
}

/// A step of a decision.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case", from = "KeptStep")]
pub enum RouteStep {
    /// A rule was looked at.
    Rule {
        /// Its id.
        rule: String,
        /// Its condition, as it read then.
        condition: String,
        /// True where it held; the last of them then.
        held: bool,
        /// Key of the queue it names.
        queue: String,
    },
    /// A rule held that wants something of the firm.
    Firm {
        /// Its id.
        rule: String,
        /// Its condition, as it read then.
        condition: String,
        /// What it wants.
        is: FirmIs,
        /// True where the firm is so; absent where it was not looked at yet.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        held: Option<bool>,
        /// The firm's name; empty where it is not on file.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        firm: String,
        /// Key of the queue it names; empty where a table names it, by the step after this.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        queue: String,
    },
    /// A rule held that looks up where the lead is.
    Territory {
        /// Its id.
        rule: String,
        /// Its condition, as it read then.
        condition: String,
        /// What the table says.
        looked: Looked,
    },
    /// No rule held.
    Otherwise {
        /// Key of the queue that is named for that.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        queue: Option<String>,
    },
    /// They have an owner already, who has this lead too.
    Owned {
        /// The owner's name.
        name: String,
    },
    /// Whoever would have it is away, and their deputy has it.
    StandsIn {
        /// The deputy's name.
        name: String,
        /// Whom they stand in for.
        of: String,
    },
    /// Somebody looks after their firm, and has this lead too.
    LooksAfter {
        /// The owner's name.
        name: String,
        /// The firm's name.
        company: String,
    },
    /// Leads of their firm take no turn.
    NoTurn {
        /// Why not.
        why: NoTurn,
        /// The firm's name.
        company: String,
    },
    /// A queue did something: it picked an owner, passed somebody over, or waits.
    Picked {
        /// The queue's name.
        queue: String,
        /// Whom, and why.
        pick: Pick,
    },
    /// The workspace has no queue of this key.
    NoSuchQueue {
        /// The key.
        queue: String,
    },
    /// It was filed early, so nobody was chosen yet.
    Early {},
    /// A step that was kept as a sentence, before steps were data.
    Said(String),
}

/// Why leads of a firm take no turn of a rotation.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum NoTurn {
    /// It sells against us.
    Competitor,
    /// It is not to be contacted.
    DoNotContact,
}

/// A step as any version kept it.
#[derive(Deserialize)]
#[serde(untagged)]
enum KeptStep {
    Sentence(String),
    Step(Step),
}

/// [`RouteStep`] as it is written.
#[derive(Deserialize)]
#[serde(rename_all = "snake_case")]
enum Step {
    Rule {
        rule: String,
        condition: String,
        held: bool,
        queue: String,
    },
    Firm {
        rule: String,
        condition: String,
        is: FirmIs,
        held: Option<bool>,
        #[serde(default)]
        firm: String,
        #[serde(default)]
        queue: String,
    },
    Territory {
        rule: String,
        condition: String,
        looked: Looked,
    },
    Otherwise {
        queue: Option<String>,
    },
    Owned {
        name: String,
    },
    StandsIn {
        name: String,
        of: String,
    },
    LooksAfter {
        name: String,
        company: String,
    },
    NoTurn {
        why: NoTurn,
        company: String,
    },
    Picked {
        queue: String,
        pick: Pick,
    },
    NoSuchQueue {
        queue: String,
    },
    Early {},
    Said(String),
}

impl From<KeptStep> for RouteStep {
    fn from(kept: KeptStep) -> Self {
        match kept {
            KeptStep::Sentence(says) | KeptStep::Step(Step::Said(says)) => Self::Said(says),
            KeptStep::Step(Step::Rule { rule, condition, held, queue }) => Self::Rule { rule, condition, held, queue },
            KeptStep::Step(Step::Firm { rule, condition, is, held, firm, queue }) => {
                Self::Firm { rule, condition, is, held, firm, queue }
            }
            KeptStep::Step(Step::Territory { rule, condition, looked }) => Self::Territory { rule, condition, looked },
            KeptStep::Step(Step::Otherwise { queue }) => Self::Otherwise { queue },
            KeptStep::Step(Step::Owned { name }) => Self::Owned { name },
            KeptStep::Step(Step::StandsIn { name, of }) => Self::StandsIn { name, of },
            KeptStep::Step(Step::LooksAfter { name, company }) => Self::LooksAfter { name, company },
            KeptStep::Step(Step::NoTurn { why, company }) => Self::NoTurn { why, company },
            KeptStep::Step(Step::Picked { queue, pick }) => Self::Picked { queue, pick },
            KeptStep::Step(Step::NoSuchQueue { queue }) => Self::NoSuchQueue { queue },
            KeptStep::Step(Step::Early {}) => Self::Early {},
        }
    }
}

impl Rules {
    /// Parses routing rules, each condition in words as `say` says it; a rule that cannot be read never holds and is
    /// listed as id and sentence.
    #[must_use]
    pub fn new(
        routing: &Routing,
        fields: &[Field],
        say: &dyn Fn(&condition::Condition) -> String,
    ) -> (Self, Vec<(String, String)>) {
        let mut faults = Vec::new();
        let rules = routing
            .rules
            .iter()
            .map(|rule| {
                let ready = condition::ready(&rule.holds, fields).unwrap_or_else(|says| {
                    faults.push((rule.id.clone(), says));
                    condition::Ready::Any(Vec::new())
                });
                let by = rule.table.as_ref().and_then(|table| fields.iter().find(|field| field.key == table.field));
                if let Some(says) = fault(rule, by) {
                    faults.push((rule.id.clone(), says));
                }
                ReadyRule { rule: rule.clone(), ready, words: say(&rule.holds), by: by.map(|field| field.kind) }
            })
            .collect();
        (Self { rules, otherwise: routing.otherwise.clone() }, faults)
    }

    /// Looks at every rule in order: its id, its condition, where it sends leads.
    pub fn each_rule<'a>(&'a self, mut look: impl FnMut(&'a str, &'a condition::Ready, Goes<'a>)) {
        for ReadyRule { rule, ready, .. } in &self.rules {
            let goes = match &rule.table {
                Some(by) => Goes::Table { table: &by.table, field: &by.field },
                None if rule.firm.is_some() => Goes::QueueOfFirm(&rule.queue),
                None => Goes::Queue(&rule.queue),
            };
            look(&rule.id, ready, goes);
        }
    }

    /// Key of the queue where no rule holds.
    #[must_use]
    pub fn otherwise(&self) -> Option<&str> {
        self.otherwise.as_deref()
    }

    /// Finds the queue, and the firms and tables to look at before it stands ([`Decision::looked_up`]).
    #[must_use]
    pub fn decide(&self, facts: Facts<'_>) -> Decision {
        let mut steps = Vec::new();
        let mut looks = Vec::new();
        for ReadyRule { rule, ready, words, by } in &self.rules {
            let held = ready.decide(facts).holds();
            let RoutingRule { queue, skills, even_if_owned, tags, firm, .. } = rule.clone();
            if held && (firm.is_some() || rule.table.is_some()) {
                let value = rule.table.as_ref().and_then(|table| facts.lookup.value(&table.field));
                let at = by.zip(value).map_or_else(Vec::new, |(kind, value)| territory::spots(kind, value));
                let table = rule.table.as_ref().map_or_else(String::new, |table| table.table.clone());
                let by_table = !table.is_empty();
                looks.push(Look { step: steps.len(), firm, table, queue, at, skills, even_if_owned, tags });
                steps.extend(unsettled(rule, words, by_table));
                continue;
            }
            steps.push(RouteStep::Rule { rule: rule.id.clone(), condition: words.clone(), held, queue: queue.clone() });
            if held {
                return Decision { queue: Some(queue), skills, even_if_owned, tags, steps, looks };
            }
        }
        steps.push(RouteStep::Otherwise { queue: self.otherwise.clone() });
        Decision { queue: self.otherwise.clone(), steps, looks, ..Decision::default() }
    }
}

/// The steps of a rule that held, whose firm and table are not looked at yet: what it wants of the firm comes first.
fn unsettled(rule: &RoutingRule, words: &str, by_table: bool) -> impl Iterator<Item = RouteStep> {
    let (id, condition) = (rule.id.clone(), words.to_owned());
    let table = RouteStep::Territory { rule: id.clone(), condition: condition.clone(), looked: Looked::NotYet };
    let queue = rule.queue.clone();
    let firm = rule.firm.map(|is| RouteStep::Firm { rule: id, condition, is, held: None, firm: String::new(), queue });
    firm.into_iter().chain(by_table.then_some(table))
}

/// Why a rule cannot send leads anywhere, whatever its condition.
fn fault(rule: &RoutingRule, by: Option<&Field>) -> Option<String> {
    match (&rule.table, by) {
        (None, _) if rule.queue.is_empty() => Some("this rule names neither a queue nor a table of territories".into()),
        (Some(_), _) if !rule.queue.is_empty() => {
            Some("this rule names a queue and a table of territories, and can go by one of them only".into())
        }
        (Some(table), None) => {
            Some(format!("this rule looks up “{}”, and this dialogue has no such field", table.field))
        }
        (Some(_), Some(field)) if !territory::says_where(field.kind) => Some(format!(
            "“{}” does not say where somebody is: choose a place, a country, a phone number, a company, an option or a \
             text",
            field.label
        )),
        (None | Some(_), _) => None,
    }
}

/// A rep's place in a queue's rotation.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Share {
    /// How many turns out of the sum of weights; 0 sits out.
    pub weight: i64,
    /// What the rotation carries over; 0 at first.
    pub current: i64,
}

/// Picks the next by smooth weighted rotation: every share gains its weight, the largest is picked (the first of
/// equals) and gives back the sum of weights. Returns its place, or nothing where nobody takes part.
///
/// ```
/// use lumbo_route::{rotate, Share};
/// let mut shares = [5, 1, 1].map(|weight| Share { weight, current: 0 });
/// let picked: Vec<usize> = (0..7).filter_map(|_| rotate(&mut shares)).collect();
/// assert_eq!(picked, [0, 0, 1, 0, 2, 0, 0]);
/// ```
pub fn rotate(shares: &mut [Share]) -> Option<usize> {
    let sum: i64 = shares.iter().map(|share| share.weight.max(0)).sum();
    let mut picked: Option<usize> = None;
    for index in 0..shares.len() {
        let weight = shares[index].weight.max(0);
        if weight == 0 {
            continue;
        }
        shares[index].current = shares[index].current.saturating_add(weight);
        if picked.is_none_or(|best| shares[index].current > shares[best].current) {
            picked = Some(index);
        }
    }
    if let Some(index) = picked {
        shares[index].current = shares[index].current.saturating_sub(sum);
    }
    picked
}
