//! Fields of a dialogue from elsewhere beside the workspace's own: which seem to be the same, and taking them on as
//! somebody decided.

use std::collections::BTreeMap;

use lumbo_dialogue::file::{Dialogue, Field, FieldType};
use lumbo_language::fold;
use lumbo_outline::gesture::fields::fresh_key;
use lumbo_outline::{Edit, apply};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// How much two names must be alike by Jaro-Winkler before one field is proposed as the other.
const ALIKE: f64 = 0.92;

/// A field that a dialogue brings along.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Newcomer {
    /// Its id in the file.
    pub id: String,
    /// Its key in the file.
    pub key: String,
    /// Its name.
    pub label: String,
    /// Its type.
    #[serde(rename = "type")]
    pub kind: FieldType,
    /// Id of the workspace's field that it seems to be.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub seems: Option<String>,
    /// Ids of all of the workspace's fields that it can be, by name.
    pub can_be: Vec<String>,
}

/// True where what a dialogue says of one field holds for the other: of one type, with all the options of the first.
fn fits(own: &Field, known: &Field) -> bool {
    let has = |key: &str| known.options.iter().any(|option| option.key == key);
    own.kind == known.kind && own.options.iter().all(|option| has(&option.key))
}

/// A name without case, spaces and marks.
fn plain(name: &str) -> String {
    fold(name).chars().filter(|c| c.is_alphanumeric()).collect()
}

/// The fields of a dialogue from elsewhere, each with what it seems to be and can be in the workspace.
///
/// ```
/// use lumbo_catalogue::newcomers;
/// use lumbo_value::{Field, FieldType};
/// let mut file = lumbo_dialogue::file::load(include_str!("../../../../demo/callback.json")).unwrap();
/// file.fields = vec![Field::plain("x1".into(), "tel".into(), "Phone number".into(), FieldType::Phone)];
/// let ours = [Field::plain("f_phone".into(), "phone".into(), "Phone-number".into(), FieldType::Phone)];
/// assert_eq!(newcomers(&file, &ours)[0].seems.as_deref(), Some("f_phone"));
/// assert_eq!(newcomers(&file, &[])[0].seems, None);
/// ```
#[must_use]
pub fn newcomers(dialogue: &Dialogue, catalogue: &[Field]) -> Vec<Newcomer> {
    let mut ours: Vec<(&Field, String)> = catalogue.iter().map(|known| (known, plain(&known.label))).collect();
    ours.sort_by_cached_key(|(known, _)| fold(&known.label));
    let mut given: Vec<&str> = Vec::new();
    let mut out = Vec::new();
    for own in &dialogue.fields {
        let name = plain(&own.label);
        let can_be: Vec<&(&Field, String)> = ours.iter().filter(|(known, _)| fits(own, known)).collect();
        let near = |known: &Field, other: &str| {
            if own.id == known.id {
                3.0
            } else if own.key == known.key || name == other {
                2.0
            } else {
                strsim::jaro_winkler(&name, other)
            }
        };
        let open = can_be.iter().filter(|(known, _)| !given.contains(&known.id.as_str()));
        let measured = open.map(|(known, other)| (*known, near(known, other)));
        let best = measured.max_by(|one, two| one.1.total_cmp(&two.1)).filter(|(_, near)| *near >= ALIKE);
        if let Some((known, _)) = best {
            given.push(&known.id);
        }
        out.push(Newcomer {
            id: own.id.clone(),
            key: own.key.clone(),
            label: own.label.clone(),
            kind: own.kind,
            seems: best.map(|(known, _)| known.id.clone()),
            can_be: can_be.iter().map(|(known, _)| known.id.clone()).collect(),
        });
    }
    out
}

/// Why fields were not taken on as decided.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum AdoptError {
    /// A field of the workspace that is not there, or cannot be this one.
    #[error("“{0}” cannot be that field of the workspace; look at the fields again")]
    Unfit(String),
    /// Two fields as one.
    #[error("“{0}” and “{1}” cannot both be the same field of the workspace")]
    Both(String, String),
}

/// Takes fields on as decided, by their ids in the file: as one of the workspace's, or as a new one of its own. What is
/// not decided stays as it is. References follow.
///
/// # Errors
/// An [`AdoptError`]; the dialogue may be changed in part then.
pub fn adopt(
    dialogue: &mut Dialogue,
    catalogue: &[Field],
    decided: &BTreeMap<String, Option<String>>,
) -> Result<(), AdoptError> {
    let mut taken: Vec<String> = catalogue.iter().chain(&dialogue.fields).map(|field| field.key.clone()).collect();
    let mut fresh = |key: &str| {
        let fresh = fresh_key(key, &taken, "field");
        taken.push(fresh.clone());
        fresh
    };
    let put = |dialogue: &mut Dialogue, field: Field| {
        // A key that is fresh and well formed is never refused.
        let _ = apply(dialogue, Edit::PutField { field });
    };
    let mut used: BTreeMap<&str, String> = BTreeMap::new();
    for own in dialogue.fields.clone() {
        let Some(decision) = decided.get(&own.id) else { continue };
        match decision {
            None => {
                let known = catalogue.iter().any(|known| known.id == own.id || known.key == own.key);
                if known {
                    let key = fresh(&own.key);
                    put(dialogue, Field { key: key.clone(), ..own.clone() });
                    let mut id = format!("fld_{key}");
                    while catalogue.iter().chain(&dialogue.fields).any(|field| field.id == id) {
                        id.push('x');
                    }
                    if let Some(field) = dialogue.fields.iter_mut().find(|field| field.key == key) {
                        field.id = id;
                    }
                }
            }
            Some(to) => {
                let known = catalogue.iter().find(|known| known.id == *to && fits(&own, known));
                let Some(known) = known else { return Err(AdoptError::Unfit(own.label)) };
                if let Some(other) = used.insert(&known.id, own.label.clone()) {
                    return Err(AdoptError::Both(other, own.label));
                }
                let rival = |field: &&Field| field.id != own.id && (field.key == known.key || field.id == known.id);
                if let Some(rival) = dialogue.fields.iter().find(rival).cloned() {
                    let key = fresh(&rival.key);
                    put(dialogue, Field { key, ..rival });
                }
                put(dialogue, Field { key: known.key.clone(), ..own.clone() });
                if let Some(field) = dialogue.fields.iter_mut().find(|field| field.id == own.id) {
                    field.clone_from(known);
                }
            }
        }
    }
    Ok(())
}

#[cfg(test)]
mod tests {
    use super::*;
    use lumbo_checks::check;
    use lumbo_dialogue::file::load;

    fn demo() -> Dialogue {
        load(include_str!("../../../../demo/callback.json")).unwrap()
    }

    fn renamed(field: &Field, id: &str, key: &str, label: &str) -> Field {
        Field { id: id.into(), key: key.into(), label: label.into(), ..field.clone() }
    }

    #[test]
    fn a_field_of_the_same_type_and_a_name_alike_is_proposed_and_no_two_are_the_same() {
        let dialogue = demo();
        let phone = dialogue.fields.iter().find(|field| field.kind == FieldType::Phone).unwrap();
        let text = Field { kind: FieldType::Text, ..renamed(phone, "f_text", "text_phone", &phone.label) };
        let ours = [renamed(phone, "f_ours", "tel", "phone "), renamed(phone, "f_far", "fax", "Telex"), text];
        let found = newcomers(&dialogue, &ours);
        let of_phone = found.iter().find(|one| one.id == phone.id).unwrap();
        assert_eq!(of_phone.seems.as_deref(), Some("f_ours"));
        assert_eq!(of_phone.can_be, ["f_ours", "f_far"]);
        assert!(found.iter().all(|one| one.id == phone.id || one.seems.is_none()), "{found:?}");
    }

    #[test]
    fn a_field_that_is_taken_on_is_the_workspaces_and_every_reference_follows() {
        let mut dialogue = demo();
        let phone = dialogue.fields.iter().find(|field| field.kind == FieldType::Phone).unwrap().clone();
        let before = check(&dialogue);
        let ours = [renamed(&phone, "f_ours", "tel", "Telephone")];
        adopt(&mut dialogue, &ours, &[(phone.id.clone(), Some("f_ours".to_owned()))].into()).unwrap();
        assert!(dialogue.fields.contains(&ours[0]));
        assert!(!dialogue.fields.iter().any(|field| field.key == phone.key));
        let of = |findings: &[lumbo_checks::Finding]| {
            findings.iter().map(|one| (one.key.clone(), one.at.clone())).collect::<Vec<_>>()
        };
        assert_eq!(of(&check(&dialogue)), of(&before), "nothing is broken by it");
    }

    #[test]
    fn a_field_that_stays_its_own_gets_a_key_and_an_id_of_its_own() {
        let mut dialogue = demo();
        let phone = dialogue.fields.iter().find(|field| field.kind == FieldType::Phone).unwrap().clone();
        adopt(&mut dialogue, std::slice::from_ref(&phone), &[(phone.id.clone(), None)].into()).unwrap();
        let own = dialogue.fields.iter().find(|field| field.kind == FieldType::Phone).unwrap();
        assert_ne!((own.id.as_str(), own.key.as_str()), (phone.id.as_str(), phone.key.as_str()));
        assert!(check(&dialogue).iter().all(|finding| finding.severity != lumbo_checks::Severity::Error));
    }

    #[test]
    fn what_cannot_be_the_same_is_refused() {
        let mut dialogue = demo();
        let phone = dialogue.fields.iter().find(|field| field.kind == FieldType::Phone).unwrap().clone();
        let text = Field { kind: FieldType::Text, ..renamed(&phone, "f_text", "words", "Words") };
        let decided = |to: &str| [(phone.id.clone(), Some(to.to_owned()))].into();
        let catalogue = [text];
        assert_eq!(adopt(&mut dialogue, &catalogue, &decided("f_text")), Err(AdoptError::Unfit(phone.label.clone())));
        assert_eq!(adopt(&mut dialogue, &catalogue, &decided("f_gone")), Err(AdoptError::Unfit(phone.label.clone())));
        // Two fields of the file are not one of the workspace's.
        let twin = renamed(&phone, "f_twin", "twin", "Twin");
        dialogue.fields.push(twin.clone());
        let ours = [renamed(&phone, "f_ours", "tel", "Telephone")];
        let both = [&phone, &twin].map(|field| (field.id.clone(), Some("f_ours".to_owned())));
        let refused = adopt(&mut dialogue, &ours, &both.into()).unwrap_err();
        assert_eq!(refused, AdoptError::Both(phone.label.clone(), twin.label));
    }
}
