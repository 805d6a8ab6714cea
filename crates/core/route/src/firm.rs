//! What a rule wants of a lead's firm. It is settled with the tables of territories, in the transaction that files the
//! lead: rules are frozen by a release, and what a firm is to us changes any day.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// What a firm must be for a rule to hold.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum FirmIs {
    /// A customer.
    Customer,
    /// A partner.
    Partner,
    /// Neither of them, or not on file.
    Neither,
    /// One that somebody looks after: it has an account owner.
    LookedAfter,
    /// One that nobody looks after, or that is not on file.
    NotLookedAfter,
}

/// What is on file of a lead's firm; the default is a firm that is not on file.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Firm {
    /// Its name, else its domain; empty where it is not on file.
    #[serde(default)]
    pub name: String,
    /// True where it buys from us.
    #[serde(default)]
    pub customer: bool,
    /// True where it sells with us, or for us.
    #[serde(default)]
    pub partner: bool,
    /// True where it has an account owner, here today or not.
    #[serde(default)]
    pub looked_after: bool,
}

impl FirmIs {
    /// Everything that a rule can want, in the order in which it is offered.
    pub const ALL: [Self; 5] = [Self::Customer, Self::Partner, Self::Neither, Self::LookedAfter, Self::NotLookedAfter];

    /// True where the firm is so.
    ///
    /// ```
    /// use lumbo_route::{Firm, FirmIs};
    /// let firm = Firm { customer: true, ..Firm::default() };
    /// assert!(FirmIs::Customer.holds(&firm) && !FirmIs::Neither.holds(&firm));
    /// assert!(FirmIs::Neither.holds(&Firm::default()), "a firm that is not on file is neither");
    /// ```
    #[must_use]
    pub fn holds(self, firm: &Firm) -> bool {
        match self {
            Self::Customer => firm.customer,
            Self::Partner => firm.partner,
            Self::Neither => !firm.customer && !firm.partner,
            Self::LookedAfter => firm.looked_after,
            Self::NotLookedAfter => !firm.looked_after,
        }
    }

    /// Words behind a rule's condition: “their firm is a customer”.
    #[must_use]
    pub fn says(self) -> &'static str {
        match self {
            Self::Customer => "their firm is a customer",
            Self::Partner => "their firm is a partner",
            Self::Neither => "their firm is neither a customer nor a partner",
            Self::LookedAfter => "somebody looks after their firm",
            Self::NotLookedAfter => "nobody looks after their firm",
        }
    }
}

#[cfg(test)]
mod tests {
    use lumbo_condition::circumstances::{Circumstances, Context};
    use lumbo_condition::{Facts, Scored};
    use lumbo_formula::PlainLookup;
    use lumbo_value::{Field, Value};

    use super::*;
    use crate::{Decision, Routing, Rules, Territories, Territory, words};

    /// What rules decide for somebody in a county.
    fn decide(routing: serde_json::Value, county: &str) -> Decision {
        let routing: Routing = serde_json::from_value(routing).unwrap();
        let field = serde_json::json!({"id": "f", "key": "county", "label": "County", "type": "text"});
        let fields: Vec<Field> = vec![serde_json::from_value(field).unwrap()];
        let (rules, faults) = Rules::new(&routing, &fields, &|_| "Always".to_owned());
        assert_eq!(faults, []);
        let mut lookup = PlainLookup::default();
        lookup.values.insert("county".to_owned(), Value::Text { text: county.to_owned() });
        let (scores, context) = (Scored::default(), Context::default());
        rules.decide(Facts { lookup: &lookup, scores: &scores, around: Circumstances::of(&context) })
    }

    fn settled(decision: &Decision, firm: &Firm) -> (Option<String>, Vec<String>) {
        let rows = vec![Territory { starts: "Kent".into(), queue: "south".into() }];
        let table = Territories { key: "t".into(), name: "Counties".into(), rows, otherwise: None };
        let decision = decision.clone().looked_up(firm, |key| (key == "t").then_some(&table));
        (decision.queue.clone(), words::says(&decision, &|_| None))
    }

    #[test]
    fn a_rule_holds_for_a_firm_that_is_so_and_the_next_ones_are_tried_for_any_other() {
        let routing = serde_json::json!({"otherwise": "rest", "rules": [
            {"id": "one", "holds": {"all": []}, "firm": "customer", "table": {"table": "t", "field": "county"}},
            {"id": "two", "holds": {"all": []}, "firm": "customer", "queue": "care", "tags": ["ours"]},
            {"id": "three", "holds": {"all": []}, "firm": "looked_after", "queue": "accounts"},
        ]});
        let customer = Firm { name: "Ada Foods".into(), customer: true, ..Firm::default() };
        let kent = decide(routing.clone(), "Kent");
        assert_eq!(kent.queue.as_deref(), Some("rest"), "nothing was looked at yet");
        let (queue, says) = settled(&kent, &customer);
        assert_eq!(queue.as_deref(), Some("south"));
        assert_eq!(
            says,
            ["Always, and their firm is a customer (Ada Foods)", "Always: Counties has Kent for Kent: south"]
        );
        let fife = decide(routing, "Fife");
        let (queue, says) = settled(&fife, &customer);
        assert_eq!(queue.as_deref(), Some("care"));
        assert_eq!(says[1], "Always: Counties has no row for Fife");
        assert_eq!(says[2], "Always, and their firm is a customer (Ada Foods): care");
        // The table of a rule that does not hold is no step; what comes after it stays in its place.
        let (queue, says) = settled(&fife, &Firm { looked_after: true, ..Firm::default() });
        assert_eq!(queue.as_deref(), Some("accounts"));
        assert_eq!(
            says,
            [
                "Always, and their firm is a customer: theirs is not on file",
                "Always, and their firm is a customer: theirs is not on file",
                "Always, and somebody looks after their firm, as theirs is not on file: accounts",
            ]
        );
        let (queue, says) = settled(&fife, &Firm { name: "Bram Ltd".into(), partner: true, ..Firm::default() });
        assert_eq!((queue.as_deref(), says.len()), (Some("rest"), 4));
        assert_eq!(says[0], "Always, and their firm is a customer: Bram Ltd is not so");
    }

    #[test]
    fn what_decided_is_the_rule_that_held_to_its_end() {
        let routing = serde_json::json!({"rules": [
            {"id": "one", "holds": {"all": []}, "firm": "neither", "table": {"table": "t", "field": "county"}},
            {"id": "two", "holds": {"all": []}, "firm": "not_looked_after", "queue": "new", "tags": ["cold"]},
        ]});
        let decided = decide(routing, "Fife");
        assert_eq!(decided.rule(), None, "nothing was looked at yet");
        let decided = decided.looked_up(&Firm::default(), |_| None);
        assert_eq!((decided.rule(), decided.tags.as_slice()), (Some("two"), &["cold".to_owned()][..]));
        let kept: Decision = serde_json::from_value(serde_json::to_value(&decided).unwrap()).unwrap();
        assert_eq!(kept, decided);
    }

    #[test]
    fn each_kind_of_firm_is_told_from_the_others() {
        let firm = |customer, partner, looked_after| Firm { customer, partner, looked_after, ..Firm::default() };
        let held = |firm: &Firm| FirmIs::ALL.map(|is| is.holds(firm));
        assert_eq!(held(&firm(true, false, true)), [true, false, false, true, false]);
        assert_eq!(held(&firm(false, true, false)), [false, true, false, false, true]);
        assert_eq!(held(&firm(false, false, false)), [false, false, true, false, true]);
    }
}
