//! Labels in place of keys: what people type is put into the keys that are kept.

use lumbo_value::Field;

use super::Names;

/// Puts fields' labels, as people type them, into keys: whatever their case and the spaces between their words. What
/// stands in quotation marks, a function, a field's key, a table's or a column's key stays as it is.
///
/// ```
/// use lumbo_formula::{with_keys, Names};
/// use lumbo_value::{Field, FieldType};
/// let field = |key: &str, label: &str| Field::plain(key.into(), key.into(), label.into(), FieldType::WholeNumber);
/// let fields = [field("guests", "Guest count"), field("day", "Date"), field("count", "Count")];
/// let names = Names { fields: &fields, tables: &[] };
/// assert_eq!(with_keys("MONEY(guest  Count * 20)", names), "MONEY(guests * 20)");
/// assert_eq!(with_keys("IF(Date > DATE(2027, 1, 1), \"Guest count\", count)", names),
///     "IF(day > DATE(2027, 1, 1), \"Guest count\", count)");
/// ```
#[must_use]
pub fn with_keys(text: &str, names: Names<'_>) -> String {
    let mut labels: Vec<(Vec<String>, &str)> = names.fields.iter().filter_map(label).collect();
    labels.sort_by_key(|(words, _)| std::cmp::Reverse(words.iter().map(String::len).sum::<usize>()));
    let kept = |word: &str| {
        let key = |field: &Field| field.key == word;
        let of_table =
            |table: &lumbo_value::Table| table.key == word || table.columns.iter().any(|known| known == word);
        names.fields.iter().any(key) || names.tables.iter().any(of_table) || is_constant(word)
    };
    let mut out = String::with_capacity(text.len());
    let mut at = 0;
    let mut quoted = false;
    while let Some(next) = text[at..].chars().next() {
        let begins = !quoted && next.is_alphanumeric() && !text[..at].chars().next_back().is_some_and(is_word);
        if begins {
            let found = labels.iter().find_map(|(words, key)| {
                let end = at + matched(&text[at..], words)?;
                let calls = text[end..].trim_start().starts_with('(');
                let alone = words.len() == 1 && kept(&text[at..end]);
                (!calls && !alone).then_some((end, *key))
            });
            if let Some((end, key)) = found {
                out.push_str(key);
                at = end;
                continue;
            }
        }
        quoted ^= next == '"';
        out.push(next);
        at += next.len_utf8();
    }
    out
}

fn label(field: &Field) -> Option<(Vec<String>, &str)> {
    let words: Vec<String> = field.label.split_whitespace().map(str::to_lowercase).collect();
    let plain = words.first().is_some_and(|word| word.chars().next().is_some_and(char::is_alphanumeric));
    plain.then_some((words, field.key.as_str()))
}

fn is_word(c: char) -> bool {
    c.is_alphanumeric() || c == '_'
}

fn is_constant(word: &str) -> bool {
    word.eq_ignore_ascii_case("true") || word.eq_ignore_ascii_case("false")
}

/// How many bytes of a text its beginning words take, where they are these, whole.
fn matched(text: &str, words: &[String]) -> Option<usize> {
    let mut at = 0;
    for (place, word) in words.iter().enumerate() {
        if place > 0 {
            let rest = &text[at..];
            let spaces = rest.len() - rest.trim_start().len();
            if spaces == 0 {
                return None;
            }
            at += spaces;
        }
        let mut wanted = word.chars();
        let mut wants = wanted.next();
        for c in text[at..].chars() {
            if wants.is_none() {
                break;
            }
            // A letter may be several in small: each must be there.
            for small in c.to_lowercase() {
                if wants != Some(small) {
                    return None;
                }
                wants = wanted.next();
            }
            at += c.len_utf8();
        }
        if wants.is_some() {
            return None;
        }
    }
    (!text[at..].chars().next().is_some_and(is_word)).then_some(at)
}

#[cfg(test)]
mod tests {
    use super::*;
    use lumbo_value::{FieldType, Table};
    use proptest::prelude::*;

    fn fields() -> Vec<Field> {
        [("guests", "Guest count"), ("mail", "E-mail"), ("price", "Price"), ("len", "Länge des Raums")]
            .map(|(key, label)| Field::plain(key.into(), key.into(), label.into(), FieldType::WholeNumber))
            .into()
    }

    #[test]
    fn a_label_is_taken_whole_or_not_at_all() {
        let fields = fields();
        let table = Table {
            key: "rates".into(),
            columns: vec!["what".into(), "Price".into()],
            rows: vec![vec![String::new(); 2]],
        };
        let names = Names { fields: &fields, tables: &[table] };
        for (typed, kept) in [
            ("Guest counts * 2", "Guest counts * 2"),
            ("aGuest count", "aGuest count"),
            ("Guest-count", "Guest-count"),
            ("E-mail & \"E-mail\"", "mail & \"E-mail\""),
            ("LÄNGE DES RAUMS + 1", "len + 1"),
            // A column of a table keeps its name.
            ("LOOKUP(mail, rates, Price)", "LOOKUP(mail, rates, Price)"),
            ("price + guest count", "price + guests"),
            ("", ""),
        ] {
            assert_eq!(with_keys(typed, names), kept, "{typed}");
        }
    }

    proptest! {
        #[test]
        fn keys_stay_as_they_are_whatever_is_typed(text in "\\PC{0,40}") {
            let fields = fields();
            let names = Names { fields: &fields, tables: &[] };
            let once = with_keys(&text, names);
            prop_assert_eq!(with_keys(&once, names), once);
        }
    }
}
