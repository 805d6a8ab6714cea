//! What people type about a contact by hand, read as the field's type reads it.

use lumbo_dialogue::file::{Field, FieldType};
use lumbo_reading::{ReadContext, Reader, ReaderSpec, Reading};

use super::AlsoGiven;

/// Longest text, characters.
const LIMIT: usize = 200;

/// A part of who they are as it is kept: an address without spaces, a number as E.164. A national number is read by
/// `country`, ISO 3166-1 alpha-2, where one is given.
///
/// # Errors
/// A sentence that says what is needed.
///
/// ```
/// use lumbo_records::{AlsoGiven, by_hand};
/// assert_eq!(by_hand(AlsoGiven::Phone, " +44 20 7946 0018 ", None).unwrap(), "+442079460018");
/// assert_eq!(by_hand(AlsoGiven::Name, "pia  lindqvist", None).unwrap(), "pia lindqvist");
/// assert!(by_hand(AlsoGiven::Email, "pia at harrow", None).is_err());
/// assert!(by_hand(AlsoGiven::Company, "  ", None).is_err());
/// ```
pub fn by_hand(what: AlsoGiven, text: &str, country: Option<&str>) -> Result<String, String> {
    let text = text.split_whitespace().collect::<Vec<_>>().join(" ");
    let (kind, needs) = match what {
        AlsoGiven::Name => (FieldType::PersonName, "Type a name."),
        AlsoGiven::Email => (FieldType::Email, "Type an e-mail address, such as pia@harrowpeel.example."),
        AlsoGiven::Phone => (FieldType::Phone, "Type a phone number with its country, such as +44 20 7946 0018."),
        AlsoGiven::Company => (FieldType::Company, "Type a company’s name."),
    };
    if text.is_empty() || text.chars().count() > LIMIT || text.chars().any(char::is_control) {
        return Err(needs.to_owned());
    }
    // A name is kept as it was typed: a person who types it has looked at it.
    if matches!(kind, FieldType::PersonName | FieldType::Company) {
        return Ok(text);
    }
    let field = Field::plain(String::new(), "typed".into(), String::new(), kind);
    let reader = Reader::new(ReaderSpec::of(&field, "en")).map_err(|_| needs.to_owned())?;
    match reader.read(&text, ReadContext { country, ..ReadContext::default() }, 0) {
        Reading::Value { value, .. } => Ok(value.to_string()),
        _ => Err(needs.to_owned()),
    }
}
