//! Lines of a scorecard in words.

use lumbo_value::field::FieldType;

use crate::file::{Criterion, Dialogue, Field, Gives, TableRow};
use lumbo_condition as condition;

/// The field that a criterion's table reads.
#[must_use]
pub fn table_field<'a>(dialogue: &'a Dialogue, criterion: &Criterion) -> Option<&'a Field> {
    match &criterion.gives {
        Gives::Table { field, .. } => dialogue.fields.iter().find(|known| known.key == *field),
        Gives::When { .. } | Gives::Formula(_) => None,
    }
}

/// A row of a table of points in words, with the field's name: "Pallets 50 to 199", "Pallets 200 and over", "Role is
/// Manager or Owner".
#[must_use]
pub fn row_words(dialogue: &Dialogue, field: Option<&Field>, row: &TableRow) -> String {
    let label = field.map_or("", |field| field.label.as_str());
    if !row.values.is_empty() {
        let name = |key: &String| {
            let option = field.and_then(|field| field.options.iter().find(|option| option.key == *key));
            option.map_or_else(
                || key.clone(),
                |option| option.label.get(&dialogue.language, &dialogue.language).to_owned(),
            )
        };
        return format!("{label} is {}", row.values.iter().map(name).collect::<Vec<_>>().join(" or "));
    }
    let whole = field.is_some_and(|field| matches!(field.kind, FieldType::WholeNumber | FieldType::Scale));
    // Below 200 of what is counted in whole numbers is up to 199.
    let last = |below: &str| match below.parse::<i64>() {
        Ok(below) if whole => (below - 1).to_string(),
        _ => below.to_owned(),
    };
    match (&row.from, &row.below) {
        (Some(from), Some(below)) if whole => format!("{label} {from} to {}", last(below)),
        (Some(from), Some(below)) => format!("{label} from {from} to below {below}"),
        (Some(from), None) => format!("{label} {from} and over"),
        (None, Some(below)) => format!("{label} under {below}"),
        (None, None) => format!("{label} in no range"),
    }
}

/// What a criterion gives points for, in words.
#[must_use]
pub fn criterion_words(dialogue: &Dialogue, criterion: &Criterion) -> String {
    match &criterion.gives {
        Gives::When { holds, points } => {
            format!("{points:+} when {}", condition::say(holds, &dialogue.fields, &dialogue.language))
        }
        Gives::Formula(formula) => format!("by the formula {formula}"),
        Gives::Table { rows, .. } => {
            let field = table_field(dialogue, criterion);
            let row = |row: &TableRow| format!("{:+} for {}", row.points, row_words(dialogue, field, row));
            rows.iter().map(row).collect::<Vec<_>>().join(", ")
        }
    }
}
