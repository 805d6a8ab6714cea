//! The workspace's catalogue of fields: whether a definition is sound, what a change of it would break in a dialogue,
//! how a dialogue from elsewhere takes it on, and the catalogue as CSV.
//!
//! A field is one thing for the whole workspace. Dialogues carry a copy of each field they use, so that a release
//! freezes it; drafts follow the catalogue, releases never change.

mod adopt;
mod csv;
pub mod patterns;

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use lumbo_checks::{Finding, check};
use lumbo_dialogue::file::{Dialogue, Field, FieldType, is_id};
use lumbo_dialogue::turns::uses::{Use, uses};
use lumbo_dialogue::turns::words::place_words;
use lumbo_outline::{Edit, apply};
use lumbo_reading::{Reader, ReaderSpec};
use lumbo_value::is_key;

pub use self::adopt::{AdoptError, Newcomer, adopt, newcomers};
pub use self::csv::{COLUMNS, CSV_LIMIT, CsvError, CsvRow, from_csv, to_csv};

/// Longest label and note, in characters.
pub const LABEL_LIMIT: usize = 80;
/// See [`LABEL_LIMIT`].
pub const NOTE_LIMIT: usize = 500;
/// Most options of a field.
pub const OPTION_LIMIT: usize = 200;
/// Most fields of a workspace.
pub const FIELD_LIMIT: usize = 1_000;

/// Says what is wrong with a definition, in sentences that say what to do; nothing where it is sound. `others` are the
/// other fields of the catalogue.
#[must_use]
pub fn faults(field: &Field, others: &[Field]) -> Vec<String> {
    let mut out = Vec::new();
    if !is_id(&field.id) {
        out.push(format!("“{}” is not an id: 1 to 40 small letters, digits, _ or -", field.id));
    }
    if !is_key(&field.key) {
        out.push(format!("“{}” is not a key: write a small letter, then small letters, digits or _", field.key));
    }
    if let Some(other) = others.iter().find(|other| other.key == field.key && other.id != field.id) {
        out.push(format!("the key “{}” is taken by {}; choose another", field.key, other.label));
    }
    let label = field.label.trim();
    if label.is_empty() || label.chars().count() > LABEL_LIMIT {
        out.push(format!("a field has a name of 1 to {LABEL_LIMIT} characters"));
    }
    if field.note.as_ref().is_some_and(|note| note.chars().count() > NOTE_LIMIT) {
        out.push(format!("a description has at most {NOTE_LIMIT} characters"));
    }
    for key in &field.may_loosen {
        if !field.rules.iter().any(|rule| rule.key() == key) {
            out.push(format!("the field has no rule “{key}” that an ask could leave out"));
        }
    }
    options(field, &mut out);
    permits(field, &mut out);
    let fields: Vec<Field> =
        others.iter().filter(|other| other.id != field.id).cloned().chain(std::iter::once(field.clone())).collect();
    let language = field.options.first().and_then(|option| option.label.0.keys().next()).map_or("en", String::as_str);
    if let Err(error) = Reader::new(ReaderSpec { fields: &fields, ..ReaderSpec::of(field, language) }) {
        out.push(error.to_string());
    }
    out
}

fn permits(field: &Field, out: &mut Vec<String>) {
    let Some(permits) = &field.permits else { return };
    if field.kind != FieldType::Consent {
        out.push("only a consent permits something; choose that type, or take it out".to_owned());
    }
    if permits.channels.is_empty() {
        out.push("a consent permits at least one way to reach somebody".to_owned());
    }
    if permits.channels.iter().enumerate().any(|(place, way)| permits.channels[..place].contains(way)) {
        out.push("a way to reach somebody stands twice in what a consent permits".to_owned());
    }
}

fn options(field: &Field, out: &mut Vec<String>) {
    if !field.kind.has_options() {
        if !field.options.is_empty() {
            out.push(format!(
                "a field of the type {} has no options; take them out, or choose another type",
                field.kind.name()
            ));
        }
        return;
    }
    if field.options.len() > OPTION_LIMIT {
        out.push(format!("a field has at most {OPTION_LIMIT} options"));
    }
    for (place, option) in field.options.iter().enumerate() {
        if !is_id(&option.key) {
            out.push(format!("“{}” is not an option’s key: 1 to 40 small letters, digits, _ or -", option.key));
        }
        if field.options[..place].iter().any(|other| other.key == option.key) {
            out.push(format!("the option “{}” stands twice", option.key));
        }
        if option.label.0.values().all(|label| label.trim().is_empty()) {
            out.push(format!("the option “{}” has no words", option.key));
        }
    }
}

/// What a change of a field would do to one dialogue.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Consequences {
    /// Every place that uses the field.
    pub uses: Vec<Use>,
    /// Findings that the change would bring.
    pub breaks: Vec<Broken>,
    /// How many findings it would mend.
    pub mends: usize,
}

/// A finding that a change would bring, with its place in words.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Broken {
    /// The place: "2 The load, Ask “How cold …”".
    pub place: String,
    /// The finding.
    #[serde(flatten)]
    pub finding: Finding,
}

/// Works out what a field's new definition would do to a dialogue; nothing where the dialogue does not carry the field.
#[must_use]
pub fn consequences(dialogue: &Dialogue, field: &Field) -> Option<Consequences> {
    let old = dialogue.fields.iter().find(|known| known.id == field.id)?;
    let used = uses(dialogue, &old.key);
    let mut changed = dialogue.clone();
    if let Err(error) = apply(&mut changed, Edit::PutField { field: field.clone() }) {
        let at = format!("fields/{}", field.id);
        let finding = Finding::new("id", lumbo_checks::Severity::Error, at, error.to_string());
        return Some(Consequences { uses: used, breaks: vec![Broken { place: "Fields".into(), finding }], mends: 0 });
    }
    let (before, after) = (check(dialogue), check(&changed));
    // A key that follows a rename changes the words of a finding that was there before.
    let same = |one: &Finding, other: &Finding| {
        one.key == other.key
            && one.at == other.at
            && (one.says == other.says || one.says.replace(&old.key, &field.key) == other.says)
    };
    let breaks = after
        .iter()
        .filter(|finding| !before.iter().any(|known| same(known, finding)))
        .map(|finding| Broken { place: place_words(&changed, &finding.at), finding: finding.clone() })
        .collect();
    let mends = before.iter().filter(|finding| !after.iter().any(|known| same(finding, known))).count();
    Some(Consequences { uses: used, breaks, mends })
}

/// Makes a dialogue from elsewhere take on the catalogue: a field with a known id takes the catalogue's definition, one
/// with a known key and alike becomes the catalogue's, any other gets a key of its own. References follow.
pub fn take_on(dialogue: &mut Dialogue, catalogue: &[Field]) {
    let options = |field: &Field| field.options.iter().map(|option| option.key.clone()).collect::<Vec<_>>();
    let mut taken: Vec<String> = catalogue.iter().chain(&dialogue.fields).map(|field| field.key.clone()).collect();
    let mut fresh = |key: &str| {
        let fresh = lumbo_outline::gesture::fields::fresh_key(key, &taken, "field");
        taken.push(fresh.clone());
        fresh
    };
    for field in dialogue.fields.clone() {
        let put = |dialogue: &mut Dialogue, field: Field| {
            // A key that is fresh and well formed is never refused.
            let _ = apply(dialogue, Edit::PutField { field });
        };
        match catalogue.iter().find(|known| known.id == field.id) {
            Some(known) if known.kind == field.kind => {
                // Another field of the dialogue may have the catalogue's key for this one.
                if let Some(rival) =
                    dialogue.fields.iter().find(|other| other.key == known.key && other.id != known.id).cloned()
                {
                    put(dialogue, Field { key: fresh(&rival.key), ..rival });
                }
                put(dialogue, known.clone());
                continue;
            }
            Some(_) => {
                let id = format!(
                    "{}_{}",
                    field.id.chars().take(20).collect::<String>(),
                    field.key.chars().take(18).collect::<String>()
                );
                if let Some(own) = dialogue.fields.iter_mut().find(|own| own.id == field.id) {
                    own.id = id;
                }
            }
            None => {}
        }
        let Some(own) = dialogue.fields.iter().find(|own| own.key == field.key).cloned() else { continue };
        let Some(known) = catalogue.iter().find(|known| known.key == own.key) else { continue };
        if known.kind == own.kind
            && options(known) == options(&own)
            && !dialogue.fields.iter().any(|other| other.id == known.id)
        {
            if let Some(own) = dialogue.fields.iter_mut().find(|own| own.key == field.key) {
                own.clone_from(known);
            }
        } else {
            put(dialogue, Field { key: fresh(&own.key), ..own });
        }
    }
}

#[cfg(test)]
mod tests;
