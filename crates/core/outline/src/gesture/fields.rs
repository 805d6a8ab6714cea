//! Fields made on the way: their keys, and finding one by name.

use lumbo_dialogue::file::Field;
use lumbo_language::fold;
use unicode_normalization::UnicodeNormalization;

/// A key made from a label, with a number where it is taken; `base` where the label has no plain letters.
#[must_use]
pub fn fresh_key(label: &str, taken: &[String], base: &str) -> String {
    let mut key = String::new();
    for c in label.nfkd().flat_map(char::to_lowercase) {
        if c.is_ascii_lowercase() || (c.is_ascii_digit() && !key.is_empty()) {
            key.push(c);
        } else if !key.is_empty() && !key.ends_with('_') && !('\u{300}'..='\u{36f}').contains(&c) {
            key.push('_');
        }
        if key.len() >= 30 {
            break;
        }
    }
    let key = key.trim_matches('_');
    let key = if key.is_empty() { base } else { key };
    let mut n = 1;
    loop {
        let tried = if n == 1 { key.to_owned() } else { format!("{key}_{n}") };
        if !taken.contains(&tried) {
            return tried;
        }
        n += 1;
    }
}

/// A field by its label or key.
pub(crate) fn named<'a>(fields: &'a [Field], name: &str) -> Option<&'a Field> {
    fields
        .iter()
        .find(|field| field.key == name)
        .or_else(|| fields.iter().find(|field| fold(&field.label) == fold(name)))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_key_has_plain_letters_and_is_not_taken() {
        for (label, key) in [
            ("Größe der Ladung", "gro_e_der_ladung"),
            ("E-mail", "e_mail"),
            ("2nd depot", "nd_depot"),
            ("日本", "field"),
            ("Pallets", "pallets_2"),
        ] {
            assert_eq!(fresh_key(label, &["pallets".into()], "field"), key);
            assert!(lumbo_value::is_key(key));
        }
    }
}
