//! How a field changes on a record that has a value already.

use lumbo_value::Value;
use lumbo_value::field::Policy;

/// What stands after `new` met `old`, by the field's policy; nothing where `old` stays.
#[must_use]
pub fn merged(policy: Policy, old: &Value, new: &Value) -> Option<Value> {
    let changed = match policy {
        Policy::KeepFirst => return None,
        Policy::TakeNewest => new.clone(),
        Policy::AddToList => match (old, new) {
            (Value::List { items: old }, Value::List { items: new }) => {
                let known = |item: &String| old.iter().any(|other| other.to_lowercase() == item.to_lowercase());
                Value::List { items: old.iter().chain(new.iter().filter(|item| !known(item))).cloned().collect() }
            }
            (Value::Choices { keys: old }, Value::Choices { keys: new }) => Value::Choices {
                keys: old.iter().chain(new.iter().filter(|key| !old.contains(key))).cloned().collect(),
            },
            // What is no list has nothing to add to.
            _ => new.clone(),
        },
        Policy::TakeHighest => match (old, new) {
            (Value::Number(low), Value::Number(high)) if low.unit == high.unit && high.amount <= low.amount => {
                return None;
            }
            (Value::Money { amount: low, currency: one }, Value::Money { amount: high, currency: other })
                if one == other && high <= low =>
            {
                return None;
            }
            (Value::Date { date: low, .. }, Value::Date { date: high, .. }) if high <= low => return None,
            _ => new.clone(),
        },
    };
    (changed != *old).then_some(changed)
}
