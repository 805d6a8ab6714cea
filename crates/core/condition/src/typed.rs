//! A condition typed as a sentence, the way [`super::say`] says one: "Pallets at least 200 and (Temperature is Frozen
//! or Depot is missing)". Names of fields and options are taken without regard to case; keys are taken too.

use crate::{Comparison, Condition, Operand, Operator};
use lumbo_language::fold;
use lumbo_value::{Field, FieldType};

use crate::circumstances::CONTEXT_NAMES;

/// A sentence that is no condition.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[error("character {at}: {says}")]
pub struct TypedError {
    /// Characters before the place.
    pub at: usize,
    /// What was expected there.
    pub says: String,
}

/// Longest sentence, in characters.
const LENGTH_LIMIT: usize = 2_000;

/// Ways to write operators, longest first among those that begin alike.
const OPERATORS: [(&str, Operator); 27] = [
    ("is none of", Operator::IsNoneOf),
    ("is one of", Operator::IsOneOf),
    ("is missing", Operator::IsMissing),
    ("is not known", Operator::IsMissing),
    ("is unknown", Operator::IsMissing),
    ("is known", Operator::IsKnown),
    ("is at least", Operator::AtLeast),
    ("is at most", Operator::AtMost),
    ("is more than", Operator::MoreThan),
    ("is less than", Operator::LessThan),
    ("is between", Operator::Between),
    ("is within", Operator::WithinDays),
    ("is not", Operator::IsNot),
    ("at least", Operator::AtLeast),
    ("at most", Operator::AtMost),
    ("more than", Operator::MoreThan),
    ("less than", Operator::LessThan),
    ("between", Operator::Between),
    ("contains", Operator::Contains),
    ("within", Operator::WithinDays),
    ("from", Operator::Between),
    (">=", Operator::AtLeast),
    ("<=", Operator::AtMost),
    ("is", Operator::Is),
    (">", Operator::MoreThan),
    ("<", Operator::LessThan),
    ("=", Operator::Is),
];

/// Reads a sentence as a condition.
///
/// # Errors
/// The character and what was expected there.
pub fn typed(text: &str, fields: &[Field], language: &str) -> Result<Condition, TypedError> {
    if text.chars().count() > LENGTH_LIMIT {
        return Err(TypedError {
            at: LENGTH_LIMIT,
            says: format!("a condition has at most {LENGTH_LIMIT} characters"),
        });
    }
    let mut names: Vec<(String, String)> = Vec::new();
    for field in fields {
        names.push((field.label.to_lowercase(), field.key.clone()));
        names.push((field.key.clone(), field.key.clone()));
    }
    for name in CONTEXT_NAMES.iter().chain(&["@score", "@band", "@settled"]) {
        names.push((name[1..].replace('_', " "), (*name).to_owned()));
        names.push(((*name).to_owned(), (*name).to_owned()));
    }
    // The longest name that fits is meant: "Pallets now" before "Pallets".
    names.sort_by_key(|(name, _)| std::cmp::Reverse(name.chars().count()));
    let mut reader = Typed { chars: text.chars().collect(), at: 0, depth: 0, fields, names, language };
    let condition = reader.joined()?;
    reader.spaces();
    if reader.at < reader.chars.len() {
        return Err(reader.error("“and”, “or” or the end"));
    }
    Ok(condition)
}

struct Typed<'a> {
    chars: Vec<char>,
    at: usize,
    depth: usize,
    fields: &'a [Field],
    names: Vec<(String, String)>,
    language: &'a str,
}

impl Typed<'_> {
    fn error(&self, expected: &str) -> TypedError {
        TypedError { at: self.at, says: format!("expected {expected}") }
    }

    fn spaces(&mut self) {
        while self.chars.get(self.at).is_some_and(|c| c.is_whitespace()) {
            self.at += 1;
        }
    }

    /// Takes a word or sign that stands here as a whole.
    fn take(&mut self, word: &str) -> bool {
        self.spaces();
        let wanted: Vec<char> = word.chars().collect();
        let end = self.at + wanted.len();
        let same = |(c, wanted): (&char, &char)| c.to_lowercase().eq(wanted.to_lowercase());
        if end > self.chars.len() || !self.chars[self.at..end].iter().zip(&wanted).all(same) {
            return false;
        }
        let word_like = |c: Option<&char>| c.is_some_and(|c| c.is_alphanumeric() || *c == '_');
        if word_like(wanted.last()) && word_like(self.chars.get(end)) {
            return false;
        }
        self.at = end;
        true
    }

    /// Parts joined by all "and" or all "or".
    fn joined(&mut self) -> Result<Condition, TypedError> {
        self.depth += 1;
        if self.depth > super::DEPTH_LIMIT {
            return Err(self.error("fewer brackets"));
        }
        let mut parts = vec![self.part()?];
        let mut any = None;
        loop {
            let place = self.at;
            let or = if self.take("and") {
                false
            } else if self.take("or") {
                true
            } else {
                break;
            };
            if any.is_some_and(|any| any != or) {
                self.at = place;
                return Err(self.error("brackets: “and” and “or” side by side could be read in two ways"));
            }
            any = Some(or);
            parts.push(self.part()?);
        }
        self.depth -= 1;
        Ok(match (any, parts.len()) {
            (None, _) => parts.remove(0),
            (Some(true), _) => Condition::Any(parts),
            (Some(false), _) => Condition::All(parts),
        })
    }

    fn part(&mut self) -> Result<Condition, TypedError> {
        if self.take("(") {
            let inside = self.joined()?;
            return if self.take(")") { Ok(inside) } else { Err(self.error("a closing bracket")) };
        }
        let names = std::mem::take(&mut self.names);
        let name = names.iter().find(|(name, _)| self.take(name)).map(|(_, key)| key.clone());
        self.names = names;
        let Some(what) = name else { return Err(self.error("the name of a field, or Score, Band, Page, Country …")) };
        self.spaces();
        // "Pallets 5 to 49" is how a span is said.
        let bare = self
            .chars
            .get(self.at)
            .is_some_and(|c| c.is_ascii_digit() || *c == '-')
            .then_some(&("", Operator::Between));
        let Some((_, is)) = OPERATORS.iter().find(|(words, _)| self.take(words)).or(bare) else {
            return Err(self.error(
                "is, is not, at least, at most, more than, less than, between, contains, is known or is missing",
            ));
        };
        let field = self.fields.iter().find(|field| field.key == what);
        let (least, most) = is.takes();
        if most == 0 {
            return Ok(Condition::Compare(Comparison { what, is: *is, to: None }));
        }
        let mut values = vec![self.value(field)?];
        while most > 1 && values.len() < most {
            let place = self.at;
            let more =
                self.take(",") || self.take("to") || self.take("or") || (*is == Operator::Between && self.take("and"));
            match more.then(|| self.value(field)) {
                Some(Ok(value)) => values.push(value),
                // "or" began another comparison.
                _ => {
                    self.at = place;
                    break;
                }
            }
        }
        if values.len() < least {
            return Err(self.error("a second value, as in “from 10 to 20”"));
        }
        self.take("days");
        // "Temperature is Frozen or Chilled" is one comparison, the way it is said.
        let mut is = *is;
        if matches!(is, Operator::Is | Operator::IsNot) && field.is_some_and(|field| field.kind == FieldType::Choice) {
            loop {
                let place = self.at;
                if !(self.take(",") || self.take("or")) {
                    break;
                }
                match self.option(field) {
                    Some(value) => values.push(value),
                    None => {
                        self.at = place;
                        break;
                    }
                }
            }
            if values.len() > 1 {
                is = if is == Operator::Is { Operator::IsOneOf } else { Operator::IsNoneOf };
            }
        }
        let many = is.takes().1 > 1;
        let to = if many { Operand::Many(values) } else { Operand::One(values.remove(0)) };
        Ok(Condition::Compare(Comparison { what, is, to: Some(to) }))
    }

    /// An option of the field by label or key; the longest that fits.
    fn option(&mut self, field: Option<&Field>) -> Option<String> {
        let field = field?;
        let mut names: Vec<(String, String)> = if field.kind.is_yes_or_no() {
            vec![("yes".into(), "yes".into()), ("no".into(), "no".into())]
        } else {
            let labels = field
                .options
                .iter()
                .map(|option| (option.label.get(self.language, self.language).to_owned(), option.key.clone()));
            labels.chain(field.options.iter().map(|option| (option.key.clone(), option.key.clone()))).collect()
        };
        names.sort_by_key(|(name, _)| std::cmp::Reverse(name.chars().count()));
        names.into_iter().find(|(name, _)| !name.is_empty() && self.take(name)).map(|(_, key)| key)
    }

    fn value(&mut self, field: Option<&Field>) -> Result<String, TypedError> {
        self.spaces();
        if let Some(field) = field.filter(|field| field.kind.has_options() || field.kind.is_yes_or_no()) {
            let labels =
                field.options.iter().map(|option| option.label.get(self.language, self.language)).collect::<Vec<_>>();
            return self.option(Some(field)).ok_or_else(|| {
                self.error(&if labels.is_empty() { "yes or no".to_owned() } else { labels.join(", ") })
            });
        }
        if self.take("\"") || self.take("“") {
            let begin = self.at;
            while self.chars.get(self.at).is_some_and(|c| !matches!(c, '"' | '”')) {
                self.at += 1;
            }
            let value: String = self.chars[begin..self.at].iter().collect();
            self.at = (self.at + 1).min(self.chars.len());
            return Ok(value);
        }
        let begin = self.at;
        let numeric = field
            .is_some_and(|field| matches!(field.kind, FieldType::WholeNumber | FieldType::Quantity | FieldType::Scale));
        while let Some(c) = self.chars.get(self.at) {
            if c.is_whitespace()
                || matches!(c, ')' | '(')
                || (*c == ',' && !(numeric && self.chars.get(self.at + 1).is_some_and(char::is_ascii_digit)))
            {
                break;
            }
            self.at += 1;
        }
        let mut value: String = self.chars[begin..self.at].iter().collect();
        if field.is_some_and(|field| field.kind == FieldType::Money) {
            // "100 GBP": the code is part of the value.
            let place = self.at;
            self.spaces();
            let code: String = self.chars[self.at..].iter().take_while(|c| c.is_ascii_alphabetic()).collect();
            if code.len() == 3 {
                self.at += 3;
                value = format!("{value} {}", code.to_uppercase());
            } else {
                self.at = place;
            }
        }
        if numeric {
            value.retain(|c| c != ',');
        }
        if fold(&value).is_empty() && value.is_empty() {
            return Err(self.error("a value"));
        }
        Ok(value)
    }
}

#[cfg(test)]
mod tests {
    use proptest::prelude::*;

    use super::*;
    use crate::{ready, say};

    /// The fields of the demo's dialogue.
    #[derive(serde::Deserialize)]
    struct Demo {
        fields: Vec<Field>,
    }

    fn demo() -> Demo {
        serde_json::from_str(include_str!("../../../../demo/storage-enquiry.json")).unwrap()
    }

    fn read(text: &str) -> Result<Condition, String> {
        let demo = demo();
        typed(text, &demo.fields, "en").map_err(|error| error.to_string())
    }

    #[test]
    fn a_sentence_is_read_as_it_is_said() {
        let demo = demo();
        for text in [
            "Pallets at least 200 and Temperature is Frozen",
            "Pallets 5 to 49 or Score at least 40",
            "Temperature is Frozen or Chilled",
            "(Pallets at least 1,200 or Temperature is missing) and Blast freezing is yes",
            "Country is GB and Page contains pricing",
            "Temperature is not Frozen",
        ] {
            let condition = read(text).unwrap();
            assert!(ready(&condition, &demo.fields).is_ok(), "{text}");
            assert_eq!(say(&condition, &demo.fields, "en"), text);
        }
    }

    #[test]
    fn keys_signs_and_any_case_will_do() {
        assert_eq!(
            read("pallets >= 200 and temperature = frozen"),
            read("Pallets at least 200 AND Temperature is Frozen")
        );
        assert_eq!(read("Pallets is between 5 and 49"), read("Pallets 5 to 49"));
    }

    #[test]
    fn an_error_names_its_character_and_what_was_expected() {
        for (text, at) in [
            ("Palets at least 2", 0),
            ("Pallets about 2", 8),
            ("Pallets at least 2 and", 22),
            ("Temperature is Hot", 15),
            ("", 0),
        ] {
            let demo = demo();
            assert_eq!(typed(text, &demo.fields, "en").unwrap_err().at, at, "{text}");
        }
        assert!(read("Pallets at least 2 and Score at least 3 or Band is hot").unwrap_err().contains("two ways"));
        assert!(read(&"(".repeat(100)).is_err());
    }

    const ORDERED: [Operator; 6] =
        [Operator::AtLeast, Operator::AtMost, Operator::MoreThan, Operator::LessThan, Operator::Is, Operator::IsNot];

    proptest! {
        #[test]
        fn nothing_typed_panics(text in "[ -~äß“”]{0,60}") {
            let _ = read(&text);
        }

        #[test]
        fn what_is_said_reads_back(low in 0u32..5000, high in 0u32..5000, which in 0usize..6, join in any::<bool>()) {
            let demo = demo();
            let one = |text: &str| Operand::One(text.to_owned());
            let compare = |what: &str, is, to| Condition::Compare(Comparison { what: what.into(), is, to });
            let parts = vec![
                compare("pallets", ORDERED[which], Some(one(&low.to_string()))),
                compare("temperature", Operator::IsOneOf, Some(Operand::Many(vec!["frozen".into(), "chilled".into()]))),
                compare("@score", Operator::AtLeast, Some(one(&high.to_string()))),
            ];
            let condition = if join { Condition::All(parts) } else { Condition::Any(parts) };
            let said = say(&condition, &demo.fields, "en");
            prop_assert_eq!(typed(&said, &demo.fields, "en").unwrap(), condition, "{}", said);
        }
    }
}
