//! Routing: ordered rules name a queue; the queue picks a rep.

mod queue;
mod written;

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use lumbo_condition as condition;

use lumbo_condition::Facts;
use lumbo_value::Field;

pub use queue::{Carried, Member, Pick, Picks, Queue};
pub use written::{Routing, RoutingRule};

/// Routing rules with their conditions parsed.
#[derive(Debug, Clone)]
pub struct Rules {
    rules: Vec<(String, condition::Ready, String, String)>,
    otherwise: Option<String>,
}

/// Which queue, and every step that led to it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Decision {
    /// The queue's key; absent where no rule held and none was named for that.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub queue: Option<String>,
    /// The steps, as sentences.
    pub steps: Vec<String>,
}

impl Rules {
    /// Parses routing rules; a rule that cannot be read never holds and is listed as id and sentence.
    #[must_use]
    pub fn new(routing: &Routing, fields: &[Field], language: &str) -> (Self, Vec<(String, String)>) {
        let mut faults = Vec::new();
        let rules = routing
            .rules
            .iter()
            .map(|rule| {
                let ready = condition::ready(&rule.holds, fields).unwrap_or_else(|says| {
                    faults.push((rule.id.clone(), says));
                    condition::Ready::Any(Vec::new())
                });
                (rule.id.clone(), ready, rule.queue.clone(), condition::say(&rule.holds, fields, language))
            })
            .collect();
        (Self { rules, otherwise: routing.otherwise.clone() }, faults)
    }

    /// Looks at the condition of every rule, with the rule's id.
    pub fn each_rule<'a>(&'a self, mut look: impl FnMut(&'a str, &'a condition::Ready)) {
        self.rules.iter().for_each(|(id, condition, ..)| look(id, condition));
    }

    /// Finds the queue.
    #[must_use]
    pub fn decide(&self, facts: Facts<'_>) -> Decision {
        let mut steps = Vec::new();
        for (_, ready, queue, words) in &self.rules {
            if ready.decide(facts).holds() {
                steps.push(format!("{words}: queue {queue}"));
                return Decision { queue: Some(queue.clone()), steps };
            }
            steps.push(format!("{words}: does not hold"));
        }
        match &self.otherwise {
            Some(queue) => steps.push(format!("otherwise: queue {queue}")),
            None => steps.push("no rule holds and none is named for that".to_owned()),
        }
        Decision { queue: self.otherwise.clone(), steps }
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
