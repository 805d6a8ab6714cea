//! A lead in one line, and how names are folded to be found and compared.

use unicode_normalization::UnicodeNormalization;
use unicode_normalization::char::is_combining_mark;

use super::RecordField;
use lumbo_dialogue::file::FieldType;
use lumbo_value::field::Record;

/// Up to four things they want, in words: amounts first, then in the order of the dialogue.
#[must_use]
pub fn wants(fields: &[RecordField]) -> String {
    let mut told: Vec<&RecordField> =
        fields.iter().filter(|field| field.record == Record::Lead && field.kind != FieldType::Money).collect();
    told.sort_by_key(|field| match field.kind {
        FieldType::WholeNumber | FieldType::Quantity => 0,
        FieldType::YesNo => 2,
        _ => 1,
    });
    let words = told.iter().filter_map(|field| match (field.kind, field.value.as_bool()) {
        (FieldType::YesNo, Some(true)) => Some(field.label.to_lowercase()),
        (FieldType::YesNo, _) => None,
        (FieldType::Choice, _) => Some(field.shown.to_lowercase()),
        _ => Some(field.shown.clone()),
    });
    words.take(4).collect::<Vec<_>>().join(", ")
}

/// A text as it is looked for and compared: small letters without accents, single spaces.
///
/// ```
/// use lumbo_records::fold;
/// assert_eq!(fold("  Ekström   BERRIES "), "ekstrom berries");
/// assert_eq!(fold("ẞ Łódź"), "ß łodz");
/// assert_eq!(fold(""), "");
/// ```
#[must_use]
pub fn fold(text: &str) -> String {
    let letters: String =
        text.nfkd().filter(|letter| !is_combining_mark(*letter)).flat_map(char::to_lowercase).collect();
    letters.split_whitespace().collect::<Vec<_>>().join(" ")
}
