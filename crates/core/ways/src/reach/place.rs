//! In which cell a value lies.

use std::cmp::Ordering;

use lumbo_value::Value;

use super::cells::Cells;

/// Place of the cell that holds a value, among those that hold values; nothing where it cannot be told.
pub(crate) fn of(cells: &Cells, value: &Value) -> Option<usize> {
    if cells.blurred {
        return (cells.values.len() == 1).then_some(0);
    }
    if let Some(place) = cells.values.iter().position(|known| known.as_ref().is_some_and(|known| alike(known, value))) {
        return Some(place);
    }
    let other = cells.values.iter().position(Option::is_none);
    if other.is_some() {
        return other;
    }
    if matches!(value, Value::Choices { .. }) {
        return None;
    }
    // Numbers and dates: the cell that stands between its neighbours.
    let below = cells
        .values
        .iter()
        .enumerate()
        .filter(|(_, known)| known.as_ref().and_then(|known| order(known, value)) == Some(Ordering::Less))
        .map(|(place, _)| place)
        .max();
    let above = cells
        .values
        .iter()
        .enumerate()
        .filter(|(_, known)| known.as_ref().and_then(|known| order(known, value)) == Some(Ordering::Greater))
        .map(|(place, _)| place)
        .min();
    // Between a constant and what stands for the values beside it, the value is beside it.
    let open = |place: usize| cells.fixed.get(place).is_some_and(|fixed| !fixed);
    match (below, above) {
        (None, Some(place)) | (Some(place), None) => open(place).then_some(place),
        (Some(low), Some(high)) => [low, high].into_iter().find(|place| open(*place)),
        (None, None) => None,
    }
}

fn alike(known: &Value, value: &Value) -> bool {
    match (known, value) {
        (Value::Number(one), Value::Number(two)) => one.amount == two.low.unwrap_or(two.amount),
        (Value::Date { date: one, .. }, Value::Date { date: two, .. }) => one == two,
        (Value::Consent { given: one, .. }, Value::Consent { given: two, .. }) => one == two,
        (Value::Text { text: one }, Value::Text { text: two }) => one.to_lowercase() == two.to_lowercase(),
        _ => known == value,
    }
}

fn order(one: &Value, two: &Value) -> Option<Ordering> {
    match (one, two) {
        (Value::Number(one), Value::Number(two)) => Some(one.amount.cmp(&two.low.unwrap_or(two.amount))),
        (Value::Money { amount, currency }, Value::Money { amount: other, currency: code }) => {
            (currency == code).then(|| amount.cmp(other))
        }
        (Value::Date { date, .. }, Value::Date { date: other, .. }) => Some(date.cmp(other)),
        _ => None,
    }
}
