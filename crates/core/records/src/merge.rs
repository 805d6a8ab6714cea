//! Two contacts become one: what the one that stays keeps, field by field, and what undoing it gives back.

use std::collections::BTreeMap;

use jiff::Timestamp;
use lumbo_value::Value;
use lumbo_value::field::Policy;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use super::merged;

/// Which of two contacts a value is taken from.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Takes {
    /// The one that stays.
    Stays,
    /// The one that goes.
    Goes,
    /// Both, put together by the field's policy.
    Both,
}

/// A value of one of the two.
#[derive(Debug, Clone, PartialEq)]
pub struct Side {
    /// The value; absent where an older version kept none to compare with.
    pub value: Option<Value>,
    /// The value in plain words.
    pub shown: String,
    /// When it was put on file.
    pub at: Timestamp,
}

/// A field of the two, with how it changes on a record that has one.
#[derive(Debug, Clone, PartialEq)]
pub struct Pair {
    /// The field by id; a part of who they are begins with an at sign.
    pub field: String,
    /// Its label.
    pub label: String,
    /// How it changes; identity never changes by it.
    pub policy: Policy,
    /// What the one that stays has.
    pub stays: Option<Side>,
    /// What the one that goes has.
    pub goes: Option<Side>,
}

/// What is kept of a field.
#[derive(Debug, Clone, PartialEq)]
pub struct Keeps {
    /// Where it is taken from.
    pub takes: Takes,
    /// The value, where it is neither side's own.
    pub value: Option<Value>,
}

/// What the one that stays keeps, by field: what a person chose, else its own value of who they are, else what the
/// field's policy makes of both, the older one first.
#[must_use]
pub fn plan_merge(pairs: &[Pair], chosen: &BTreeMap<String, Takes>) -> BTreeMap<String, Keeps> {
    pairs.iter().map(|pair| (pair.field.clone(), keeps(pair, chosen.get(&pair.field).copied()))).collect()
}

fn keeps(pair: &Pair, chosen: Option<Takes>) -> Keeps {
    let from = |takes| Keeps { takes, value: None };
    let (Some(stays), Some(goes)) = (&pair.stays, &pair.goes) else {
        return from(if pair.stays.is_some() { Takes::Stays } else { Takes::Goes });
    };
    match chosen {
        Some(takes @ (Takes::Stays | Takes::Goes)) => return from(takes),
        Some(Takes::Both) | None => {}
    }
    if pair.field.starts_with('@') {
        return from(Takes::Stays);
    }
    let goes_is_newer = goes.at > stays.at;
    let (Some(one), Some(other)) = (&stays.value, &goes.value) else {
        // What cannot be compared is kept as a newer one would be, unless the first stands.
        let newer = goes_is_newer && pair.policy != Policy::KeepFirst;
        return from(if newer { Takes::Goes } else { Takes::Stays });
    };
    let (older, newer) = if goes_is_newer { (one, other) } else { (other, one) };
    let result = merged(pair.policy, older, newer);
    let result = result.as_ref().unwrap_or(older);
    if result == one {
        from(Takes::Stays)
    } else if result == other {
        from(Takes::Goes)
    } else {
        Keeps { takes: Takes::Both, value: Some(result.clone()) }
    }
}

#[cfg(test)]
#[allow(clippy::unwrap_used, reason = "tests")]
mod tests {
    use super::*;

    fn side(value: Value, day: i64) -> Option<Side> {
        let at = Timestamp::from_second(day * 86_400).unwrap();
        Some(Side { shown: value.to_string(), value: Some(value), at })
    }

    fn pair(field: &str, policy: Policy, stays: Option<Side>, goes: Option<Side>) -> Pair {
        Pair { field: field.into(), label: field.into(), policy, stays, goes }
    }

    fn one(pair: Pair, chosen: Option<Takes>) -> Keeps {
        let chosen = chosen.map(|takes| (pair.field.clone(), takes)).into_iter().collect();
        plan_merge(&[pair], &chosen).into_values().next().unwrap()
    }

    #[test]
    fn who_they_are_stays_unless_a_person_says_otherwise_and_what_is_missing_is_filled_in() {
        let name = || pair("@name", Policy::TakeNewest, side(Value::text("Maud"), 1), side(Value::text("Maude"), 2));
        assert_eq!(one(name(), None).takes, Takes::Stays);
        assert_eq!(one(name(), Some(Takes::Goes)).takes, Takes::Goes);
        let missing = pair("@phone", Policy::TakeNewest, None, side(Value::text("+44"), 1));
        assert_eq!(one(missing, Some(Takes::Stays)).takes, Takes::Goes, "there is nothing else");
    }

    #[test]
    fn other_fields_go_by_their_policy_the_older_value_first() {
        let text = |one: i64, other: i64, policy| {
            one_of(pair("f", policy, side(Value::text("a"), one), side(Value::text("b"), other)))
        };
        assert_eq!(text(1, 2, Policy::TakeNewest), Takes::Goes);
        assert_eq!(text(2, 1, Policy::TakeNewest), Takes::Stays);
        assert_eq!(text(1, 2, Policy::KeepFirst), Takes::Stays);
        assert_eq!(text(2, 1, Policy::KeepFirst), Takes::Goes, "the older one is the first");
        let list = |items: &[&str]| Value::List { items: items.iter().map(|item| (*item).to_owned()).collect() };
        let both = one(pair("f", Policy::AddToList, side(list(&["a", "b"]), 1), side(list(&["B", "c"]), 2)), None);
        assert_eq!((both.takes, both.value), (Takes::Both, Some(list(&["a", "b", "c"]))));
        let same = one(pair("f", Policy::AddToList, side(list(&["a", "b"]), 1), side(list(&["a"]), 2)), None);
        assert_eq!(same.takes, Takes::Stays, "nothing is added");
    }

    fn one_of(pair: Pair) -> Takes {
        one(pair, None).takes
    }

    #[test]
    fn what_cannot_be_compared_is_kept_as_its_policy_says() {
        let old = |day| Some(Side { value: None, shown: "?".into(), at: Timestamp::from_second(day).unwrap() });
        assert_eq!(one_of(pair("f", Policy::TakeNewest, old(1), old(2))), Takes::Goes);
        assert_eq!(one_of(pair("f", Policy::TakeHighest, old(2), old(1))), Takes::Stays);
        assert_eq!(one_of(pair("f", Policy::KeepFirst, old(1), old(2))), Takes::Stays);
    }
}
