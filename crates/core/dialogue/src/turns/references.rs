//! References to a field by its key: in conditions, formulas, chips, asks and everything else. The file is walked as
//! JSON, so that a kind of turn added later is covered by naming its keys here once.

use std::collections::BTreeSet;

use lumbo_formula::{Names, with_keys};
use serde_json::Value as Json;

use crate::file::Dialogue;

/// Object keys whose text is a field's key.
const DIRECT: [&str; 2] = ["field", "what"];
/// Object keys whose list of texts are fields' keys.
const LISTS: [&str; 4] = ["fields", "send", "keep", "always_captured"];

/// Object keys whose text is a formula.
const FORMULAS: [&str; 2] = ["formula", "starts"];

/// How many places refer to a field.
pub fn count(dialogue: &Dialogue, key: &str) -> usize {
    let mut found = 0;
    if let Some(mut json) = body(dialogue) {
        walk(&mut json, "", key, &mut |_| found += 1);
    }
    found
}

/// Keys of the fields that a part of a dialogue, as JSON, refers to; of those known, each once.
pub fn mentioned(part: &impl serde::Serialize, known: &BTreeSet<&str>) -> BTreeSet<String> {
    let mut out = BTreeSet::new();
    if let Ok(json) = serde_json::to_value(part) {
        collect(&json, "", known, &mut out);
    }
    out
}

fn collect(json: &Json, name: &str, known: &BTreeSet<&str>, out: &mut BTreeSet<String>) {
    match json {
        Json::Object(map) => {
            for (name, value) in map {
                match value.as_str() {
                    Some(text) if DIRECT.contains(&name.as_str()) && known.contains(text) => {
                        out.insert(text.to_owned());
                    }
                    Some(text) if FORMULAS.contains(&name.as_str()) => {
                        out.extend(formula_words(text).filter(|word| known.contains(word)).map(str::to_owned));
                    }
                    _ => collect(value, name, known, out),
                }
            }
        }
        Json::Array(items) => {
            for item in items {
                match item.as_str() {
                    Some(text) if (LISTS.contains(&name) || name == "needs") && known.contains(text) => {
                        out.insert(text.to_owned());
                    }
                    _ => collect(item, name, known, out),
                }
            }
        }
        Json::String(text) if name != "id" && name != "key" => {
            let keys = chips(text).map(|(start, end)| &text[start..end]);
            out.extend(keys.filter(|key| known.contains(key)).map(str::to_owned));
        }
        Json::String(_) | Json::Null | Json::Bool(_) | Json::Number(_) => {}
    }
}

/// Words of a formula outside quotation marks.
fn formula_words(text: &str) -> impl Iterator<Item = &str> {
    text.split('"').step_by(2).flat_map(|outside| outside.split(|c| !is_word(Some(c)))).filter(|word| !word.is_empty())
}

/// Puts labels that were typed in place of keys into keys, in every formula and chip of a part of a dialogue as JSON.
pub fn by_key(part: &mut Json, names: Names<'_>) {
    put_keys(part, "", names);
}

fn put_keys(json: &mut Json, name: &str, names: Names<'_>) {
    match json {
        Json::Object(map) => {
            for (name, value) in map.iter_mut() {
                match value {
                    Json::String(text) if FORMULAS.contains(&name.as_str()) => *text = with_keys(text, names),
                    _ => put_keys(value, name, names),
                }
            }
        }
        Json::Array(items) => items.iter_mut().for_each(|item| put_keys(item, name, names)),
        Json::String(text) if name != "id" && name != "key" && text.contains('{') => {
            let mut out = String::with_capacity(text.len());
            let mut done = 0;
            for (start, end) in chips(text) {
                out.push_str(&text[done..start]);
                out.push_str(&with_keys(text[start..end].trim(), names));
                done = end;
            }
            out.push_str(&text[done..]);
            *text = out;
        }
        Json::String(_) | Json::Null | Json::Bool(_) | Json::Number(_) => {}
    }
}

/// Makes every reference follow a field's new key.
pub fn rename(dialogue: &mut Dialogue, old: &str, new: &str) {
    let Some(mut json) = body(dialogue) else { return };
    walk(&mut json, "", old, &mut |place| {
        *place = match &*place {
            Json::String(text) if text == old => Json::from(new),
            Json::String(text) => Json::from(replace_words(text, old, new)),
            other => other.clone(),
        };
    });
    json["fields"] = serde_json::to_value(&dialogue.fields).unwrap_or_default();
    if let Ok(changed) = serde_json::from_value(json) {
        *dialogue = changed;
    }
}

/// The file as JSON without its list of fields.
fn body(dialogue: &Dialogue) -> Option<Json> {
    let mut json = serde_json::to_value(dialogue).ok()?;
    json.as_object_mut()?.insert("fields".into(), Json::Null);
    Some(json)
}

fn walk(json: &mut Json, name: &str, key: &str, found: &mut impl FnMut(&mut Json)) {
    match json {
        Json::Object(map) => {
            for (name, value) in map.iter_mut() {
                let direct = DIRECT.contains(&name.as_str()) && value.as_str() == Some(key);
                let formula =
                    FORMULAS.contains(&name.as_str()) && value.as_str().is_some_and(|text| has_word(text, key));
                if direct || formula {
                    found(value);
                } else {
                    walk(value, name, key, found);
                }
            }
        }
        Json::Array(items) => {
            for item in items {
                if (LISTS.contains(&name) || name == "needs") && item.as_str() == Some(key) {
                    found(item);
                } else {
                    walk(item, name, key, found);
                }
            }
        }
        Json::String(text)
            if name != "id" && name != "key" && chips(text).any(|(start, end)| &text[start..end] == key) =>
        {
            found(json);
        }
        _ => {}
    }
}

/// Byte ends of the keys in a text's chips.
fn chips(text: &str) -> impl Iterator<Item = (usize, usize)> + '_ {
    text.match_indices('{').filter_map(move |(at, _)| {
        let end = text[at + 1..].find(['}', '|', '?', '.', '{'])? + at + 1;
        (end > at + 1).then_some((at + 1, end))
    })
}

fn is_word(c: Option<char>) -> bool {
    c.is_some_and(|c| c.is_alphanumeric() || c == '_')
}

fn has_word(text: &str, word: &str) -> bool {
    words(text, word).next().is_some()
}

/// Places of a whole word outside quotation marks.
fn words<'a>(text: &'a str, word: &'a str) -> impl Iterator<Item = usize> + 'a {
    text.match_indices(word)
        .filter(move |(at, _)| {
            !is_word(text[..*at].chars().next_back())
                && !is_word(text[at + word.len()..].chars().next())
                && text[..*at].matches('"').count().is_multiple_of(2)
        })
        .map(|(at, _)| at)
}

/// Replaces a key in a formula, or in a text's chips.
fn replace_words(text: &str, old: &str, new: &str) -> String {
    let in_chips: Vec<usize> =
        chips(text).filter(|(start, end)| &text[*start..*end] == old).map(|(start, _)| start).collect();
    let places = if in_chips.is_empty() { words(text, old).collect() } else { in_chips };
    let mut out = String::with_capacity(text.len());
    let mut done = 0;
    for at in places {
        out.push_str(&text[done..at]);
        out.push_str(new);
        done = at + old.len();
    }
    out.push_str(&text[done..]);
    out
}
