//! Words as people type them without the marks of their letters: "naechste", "manana", "piatek".

use serde_json::Value;
use unicode_normalization::UnicodeNormalization;

use super::Language;

/// What is shown, not read, and stays as it is written.
const SHOWN: [&str; 4] = ["phrases", "shown", "group", "decimal"];

/// French "dès" without its accent is another word that stands everywhere.
const OTHER_WORDS: [&str; 1] = ["des"];

/// Loads a language's file, each listed word also without the marks of its letters.
///
/// # Errors
/// Where the file is no language.
pub(super) fn load(text: &str) -> serde_json::Result<Language> {
    let mut file: Value = serde_json::from_str(text)?;
    widen(&mut file);
    serde_json::from_value(file)
}

fn widen(value: &mut Value) {
    match value {
        Value::Array(items) => {
            let more: Vec<Value> = items.iter().filter_map(Value::as_str).flat_map(variants).map(Value::from).collect();
            items.extend(more);
            items.iter_mut().for_each(widen);
        }
        Value::Object(map) => {
            let listed = map.values().all(|value| value.is_number() || value.is_string());
            if listed {
                let more: Vec<(String, Value)> = map
                    .iter()
                    .flat_map(|(word, meaning)| variants(word).into_iter().map(|bare| (bare, meaning.clone())))
                    .collect();
                more.into_iter().for_each(|(bare, meaning)| {
                    map.entry(bare).or_insert(meaning);
                });
            } else {
                map.iter_mut().filter(|(key, _)| !SHOWN.contains(&key.as_str())).for_each(|(_, value)| widen(value));
            }
        }
        _ => {}
    }
}

/// The word without its marks, and with German umlauts written as two letters; words of two letters or fewer stay.
pub fn variants(word: &str) -> Vec<String> {
    if word.is_ascii() {
        return Vec::new();
    }
    let bare = |word: &str| -> String {
        let plain = word.replace('ł', "l").replace('ß', "ss");
        plain.nfd().filter(|c| !matches!(c, '\u{300}'..='\u{36f}')).collect()
    };
    let two_letters = word.replace('ä', "ae").replace('ö', "oe").replace('ü', "ue");
    let mut out = vec![bare(word), bare(&two_letters)];
    out.dedup();
    out.retain(|variant| variant != word && variant.chars().count() > 2 && !OTHER_WORDS.contains(&variant.as_str()));
    out
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn marks_are_left_out_and_umlauts_written_as_two_letters() {
        for (word, expected) in [
            ("nächste", vec!["nachste", "naechste"]),
            ("dreißig", vec!["dreissig"]),
            ("mañana", vec!["manana"]),
            ("piątek", vec!["piatek"]),
            ("osiemdziesiąt", vec!["osiemdziesiat"]),
            ("łódź", vec!["lodz"]),
            ("à", vec![]),
            ("dès", vec![]),
            ("plain", vec![]),
        ] {
            assert_eq!(variants(word), expected, "{word}");
        }
    }

    #[test]
    fn what_is_listed_is_found_without_its_marks_and_what_is_shown_keeps_them() {
        let polish = Language::get("pl");
        assert_eq!(polish.words.get("osiemdziesiat"), Some(&80));
        assert!(polish.dates.shown.months.contains(&"październik".to_owned()));
        assert!(!polish.dates.shown.months.contains(&"pazdziernik".to_owned()));
        assert!(Language::get("de").yes.contains("natuerlich"));
    }
}
