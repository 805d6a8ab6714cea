//! An outline to begin from, made of a brief: an easy tap first, the need before the contact, the address last.

use std::collections::BTreeMap;

use super::gesture::Ids;
use lumbo_dialogue::file::Format;
use lumbo_dialogue::file::{
    Brief, Dialogue, Field, FieldType, Opening, Outcome, OutcomeClass, Routing, Section, Settings, Text, Turn,
};
use lumbo_dialogue::file::{Follow, Wording};
use lumbo_dialogue::turns::{Ask, Close, FileLead};
use lumbo_language::{Language, fill};

/// What a new dialogue is made of.
#[derive(Debug, Clone)]
pub struct NewDialogue {
    /// Its id.
    pub id: String,
    /// Its title.
    pub title: String,
    /// Its language.
    pub language: String,
    /// The fields a lead must carry, in any order; none makes a blank dialogue.
    pub fields: Vec<Field>,
    /// Who counts as a fit, in a sentence.
    pub fit: String,
    /// The queue that takes the leads, by key.
    pub queue: Option<String>,
}

/// When a field is best asked: smaller first.
fn turn_of(field: &Field) -> u8 {
    match field.kind {
        FieldType::Choice | FieldType::YesNo | FieldType::Scale => 0,
        FieldType::Choices => 1,
        FieldType::WholeNumber | FieldType::Quantity | FieldType::Money | FieldType::Date => 2,
        FieldType::Place | FieldType::Country | FieldType::List | FieldType::Text | FieldType::LongText => 3,
        FieldType::Company | FieldType::Website => 4,
        FieldType::PersonName => 5,
        FieldType::Phone => 6,
        FieldType::Email | FieldType::Address => 7,
        FieldType::Consent => 8,
    }
}

/// First of the fields that say who the prospect is.
const CONTACT: u8 = 4;

/// Makes the dialogue. Every check passes as far as its fields can be read by this version.
#[must_use]
pub fn from_brief(new: NewDialogue) -> Dialogue {
    let words = Language::get(&new.language);
    let text = |key: &str| Text::new(&new.language, words.phrase(key));
    let mut fields = new.fields;
    fields.sort_by_key(turn_of);
    let outcome = |id: &str, class| Outcome {
        id: id.into(),
        label: words.phrase(&format!("new.outcome.{id}")).to_owned(),
        class,
        request: None,
        tags: Vec::new(),
    };
    let mut dialogue = Dialogue {
        format: Format::V1,
        id: new.id,
        title: new.title,
        language: new.language.clone(),
        opening: Opening { say: text("new.opening"), button: text("new.begin") },
        brief: Brief {
            needs: fields.iter().map(|field| vec![field.key.clone()]).collect(),
            fit: new.fit,
            fits: Vec::new(),
            taker: new.queue.clone().unwrap_or_default(),
        },
        fields: fields.clone(),
        outcomes: vec![
            outcome("lead", OutcomeClass::Lead),
            outcome("not_a_fit", OutcomeClass::NotAFit),
            outcome("looking", OutcomeClass::Looking),
        ],
        sections: Vec::new(),
        side_talk: Vec::new(),
        offers: Vec::new(),
        scorecards: Vec::new(),
        default_scorecard: None,
        routing: Routing { otherwise: new.queue, ..Routing::default() },
        phrases: BTreeMap::new(),
        tables: Vec::new(),
        media: BTreeMap::new(),
        settings: Settings::default(),
        rehearsals: Vec::new(),
        promises: Vec::new(),
        accepted: Vec::new(),
    };
    let mut ids = Ids::new(&dialogue, 1);
    let ask = |field: &Field, ids: &mut Ids| {
        let key = format!("new.question.{}", field.kind.name());
        let label = field.label.clone();
        let pattern = if words.phrase(&key) == key { words.phrase("new.question") } else { words.phrase(&key) };
        let say = fill(pattern, &[("label", &label)]);
        let mut ask = Ask::plain(ids.fresh("t"), Text::new(&new.language, say), field.key.clone());
        ask.why = field.personal.then(|| text("new.why"));
        Turn::Ask(ask)
    };
    let close = |outcome: &str, say: &str, ids: &mut Ids| {
        let say = Some(Wording { text: text(say), or: Vec::new() });
        Turn::Close(Close { id: ids.fresh("t"), outcome: outcome.into(), say, link: None })
    };
    let section = |id: &str, turns| Section {
        id: id.into(),
        title: words.phrase(&format!("new.section.{id}")).to_owned(),
        turns,
        then: Follow::CarryOn,
    };
    let (need, contact): (Vec<&Field>, Vec<&Field>) = fields.iter().partition(|field| turn_of(field) < CONTACT);
    if !need.is_empty() {
        dialogue.sections.push(section("need", need.iter().map(|field| ask(field, &mut ids)).collect()));
    }
    let mut last: Vec<Turn> = contact.iter().map(|field| ask(field, &mut ids)).collect();
    if fields.is_empty() {
        last.push(close("looking", "new.thanks", &mut ids));
        dialogue.sections.push(section("start", last));
    } else {
        last.push(Turn::FileLead(FileLead { id: ids.fresh("t"), scorecard: None, early: false, arms: Vec::new() }));
        last.push(close("lead", "new.thanks_lead", &mut ids));
        dialogue.sections.push(section("contact", last));
    }
    dialogue
}

/// The Close of a blank dialogue's only section, where nothing was added yet.
pub(crate) fn blank_close(section: &Section) -> Option<String> {
    let [Turn::Close(Close { id, say: Some(say), link: None, .. })] = section.turns.as_slice() else { return None };
    let untouched = say.text.0.iter().all(|(language, words)| Language::get(language).phrase("new.thanks") == words);
    untouched.then(|| id.clone())
}

#[cfg(test)]
mod tests {
    use super::*;
    use lumbo_checks::check;
    use lumbo_language::LANGUAGES;

    fn catalogue() -> Vec<Field> {
        lumbo_dialogue::file::load(include_str!("../../../../demo/storage-enquiry.json")).unwrap().fields
    }

    fn made(language: &str, fields: Vec<Field>) -> Dialogue {
        from_brief(NewDialogue {
            id: "new".into(),
            title: "New".into(),
            language: language.into(),
            fields,
            fit: "50 pallets and up".into(),
            queue: Some("saltwick".into()),
        })
    }

    #[test]
    fn the_easy_tap_comes_first_and_the_address_last_in_every_language() {
        for language in LANGUAGES {
            let fields: Vec<Field> = catalogue()
                .into_iter()
                .filter(|field| ["email", "pallets", "interest", "name", "company"].contains(&field.key.as_str()))
                .collect();
            let mut dialogue = made(language, fields);
            for option in dialogue.fields.iter_mut().flat_map(|field| &mut field.options) {
                option.label.0.insert(language.into(), option.key.clone());
            }
            let mut asked = Vec::new();
            dialogue.each_turn(&mut |_, _, turn| {
                if let Turn::Ask(ask) = turn {
                    asked.push(ask.field.clone());
                    let said = ask.say.text.get(language, language);
                    assert!(
                        !said.is_empty() && !said.contains("question") && !said.contains("[["),
                        "{language}: {said}"
                    );
                }
            });
            assert_eq!(asked, ["interest", "pallets", "company", "name", "email"], "{language}");
            assert_eq!(check(&dialogue), [], "{language}");
        }
    }

    #[test]
    fn without_fields_it_is_blank_and_may_be_released() {
        for language in LANGUAGES {
            let dialogue = made(language, Vec::new());
            assert_eq!(dialogue.sections.len(), 1);
            assert_eq!(check(&dialogue), []);
        }
    }
}
