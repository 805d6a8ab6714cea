//! What a typed line or outline would become, before it is taken: the author sees what was understood while typing.

use lumbo_dialogue::file::{Dialogue, Field, FieldType, Turn};
use lumbo_dialogue::plan::Plan;
use lumbo_dialogue::turns::words::{turn_words, when_words};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use super::{Gesture, GestureError, expand};
use crate::edit::{Edit, Place, apply};

/// A field of a turn that was understood.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct UnderstoodField {
    /// Its name.
    pub label: String,
    /// Its type.
    #[serde(rename = "type")]
    pub kind: FieldType,
    /// True where it is made; else the dialogue or the workspace has it.
    pub made: bool,
}

/// A turn that was understood.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct UnderstoodTurn {
    /// Its kind, in words.
    pub kind: String,
    /// What it says or does.
    pub says: String,
    /// The fields that it asks for or fills.
    pub fields: Vec<UnderstoodField>,
    /// What its arms wait for.
    pub arms: Vec<String>,
}

/// What a typed text would become.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Understood {
    /// Its turns, from top to bottom, without those inside arms.
    pub turns: Vec<UnderstoodTurn>,
    /// Titles of sections that it makes.
    pub sections: Vec<String>,
    /// What the author should know of it.
    pub notes: Vec<String>,
    /// What would be wrong then and is not now.
    pub wrong: Vec<String>,
}

/// What a text would become at a place.
///
/// # Errors
/// A [`GestureError`] that says what cannot be read, with its line.
///
/// ```
/// use lumbo_outline::gesture::understood;
/// use lumbo_outline::edit::{Parent, Place};
/// let demo = lumbo_dialogue::file::load(include_str!("../../../../../demo/callback.json")).unwrap();
/// let at = Place { parent: Parent::Section(demo.sections[0].id.clone()), index: 0 };
/// let found = understood(&demo, "How many crates? [Crates, whole number]", at.clone(), &[]).unwrap();
/// assert_eq!((found.turns[0].kind.as_str(), found.turns[0].fields[0].made), ("Ask", true));
/// assert!(understood(&demo, "If nothing of the kind -> X", at, &[]).is_err());
/// ```
pub fn understood(dialogue: &Dialogue, text: &str, at: Place, catalogue: &[Field]) -> Result<Understood, GestureError> {
    let made = expand(dialogue, Gesture::Write { text: text.to_owned(), at }, catalogue, 1)?;
    let mut after = dialogue.clone();
    let mut out = Understood { notes: made.notes, ..Understood::default() };
    for edit in &made.edits {
        apply(&mut after, edit.clone())?;
    }
    let known = |field: &Field| dialogue.fields.iter().chain(catalogue).any(|known| known.id == field.id);
    let view = |turn: &Turn| {
        let keys = turn.asks_for().into_iter().chain(turn.fills());
        let fields = keys.filter_map(|key| after.fields.iter().find(|field| field.key == key));
        UnderstoodTurn {
            kind: turn.kind_label().to_owned(),
            says: turn_words(&after, turn),
            fields: fields
                .map(|field| UnderstoodField { label: field.label.clone(), kind: field.kind, made: !known(field) })
                .collect(),
            arms: turn.arms().iter().map(|arm| when_words(&after, turn, &arm.when)).collect(),
        }
    };
    for edit in &made.edits {
        match edit {
            Edit::InsertTurn { turn, .. } => out.turns.push(view(turn)),
            Edit::InsertSection { section, .. } => {
                out.sections.push(section.title.clone());
                out.turns.extend(section.turns.iter().map(view));
            }
            _ => {}
        }
    }
    let before = Plan::new(dialogue).1;
    let wrong = Plan::new(&after).1.into_iter().filter(|fault| !before.contains(fault));
    out.wrong = wrong.map(|fault| fault.says).collect();
    Ok(out)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::edit::Parent;
    use lumbo_dialogue::file::load;

    fn demo() -> Dialogue {
        load(include_str!("../../../../../demo/storage-enquiry.json")).unwrap()
    }

    fn at(dialogue: &Dialogue) -> Place {
        Place { parent: Parent::Section(dialogue.sections[0].id.clone()), index: 0 }
    }

    #[test]
    fn a_line_says_what_it_becomes_and_whether_its_field_is_there() {
        let demo = demo();
        let read = |text: &str| understood(&demo, text, at(&demo), &[]).unwrap();
        let told = read("Thanks for asking.");
        assert_eq!((told.turns[0].kind.as_str(), told.turns[0].says.as_str()), ("Tell", "Thanks for asking."));
        let known = &demo.fields[0];
        let asked = read(&format!("And again? [{}]", known.label));
        assert_eq!((asked.turns[0].fields[0].label.as_str(), asked.turns[0].fields[0].made), (&*known.label, false));
        let options = read("Which door? North / South [Door]");
        assert_eq!(
            (options.turns[0].arms.clone(), options.turns[0].fields[0].made),
            (vec!["North".into(), "South".into()], true)
        );
        let section = read("# Afterwards\nAnything else?");
        assert_eq!((section.sections, section.turns.len()), (vec!["Afterwards".to_owned()], 1));
    }

    #[test]
    fn what_would_be_wrong_is_told_and_nothing_is_changed() {
        let demo = demo();
        let before = demo.clone();
        let wrong = understood(&demo, "Hello {nobody}.", at(&demo), &[]).unwrap().wrong;
        assert_eq!(wrong, ["this text shows “nobody”, and there is no such field"]);
        assert_eq!(demo, before);
    }
}
