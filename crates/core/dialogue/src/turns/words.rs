//! Turns, arms and sections in words, as the outline's rows read: for comparisons, lists of places and copied text.

use crate::file::{Arm, Dialogue, Ending, Field, Follow, Id, Part, Section, Text, Then, Turn, When};
use lumbo_condition as condition;
use lumbo_value::text::{Piece, parse};

/// A text with its chips as words: "Thanks, [first name, or “there”]."
#[must_use]
pub fn text_words(dialogue: &Dialogue, text: &Text) -> String {
    let words = text.get(&dialogue.language, &dialogue.language);
    let Ok(pieces) = parse(words) else { return words.to_owned() };
    pieces
        .into_iter()
        .map(|piece| match piece {
            Piece::Words(words) => words,
            Piece::Chip(chip) => {
                let label = field(dialogue, &chip.field)
                    .map_or_else(|| condition::around_words(&chip.field), |field| field.label.clone());
                let part = chip.part.map(|part| format!(" {part}")).unwrap_or_default();
                let fallback = chip
                    .fallback
                    .filter(|words| !words.is_empty())
                    .map(|words| format!(", or “{words}”"))
                    .unwrap_or_default();
                format!("[{label}{part}{fallback}]")
            }
        })
        .collect()
}

/// The place of a finding in words: "2 The load, Ask “How cold …”", "Scoring".
#[must_use]
pub fn place_words(dialogue: &Dialogue, at: &str) -> String {
    let mut parts = at.split('/');
    let first = parts.next().unwrap_or_default();
    let Some(index) = dialogue.sections.iter().position(|section| section.id == first) else {
        return condition::around_words(first);
    };
    let section = format!("{} {}", index + 1, dialogue.sections[index].title);
    let Some(id) = parts.next() else { return section };
    let mut found = None;
    dialogue.each_turn(&mut |_, _, turn| {
        if turn.id() == id {
            found = Some(turn_name(dialogue, turn));
        }
    });
    found.map_or(section.clone(), |turn| format!("{section}, {turn}"))
}

/// A part of a Tell in words.
fn part_words(dialogue: &Dialogue, part: &Part) -> String {
    match part {
        Part::Line(wording) => std::iter::once(&wording.text)
            .chain(&wording.or)
            .map(|text| text_words(dialogue, text))
            .collect::<Vec<_>>()
            .join(" / "),
        Part::Picture(picture) => format!("picture: {}", text_words(dialogue, &picture.alt)),
        Part::Document(document) => format!("document: {}", text_words(dialogue, &document.label)),
        Part::Link(link) => format!("{} ({})", text_words(dialogue, &link.label), link.url),
        Part::Beside(parts) => parts.iter().map(|part| part_words(dialogue, part)).collect::<Vec<_>>().join(" | "),
    }
}

/// Several parts in words, one after another.
#[must_use]
pub fn parts_words(dialogue: &Dialogue, parts: &[Part]) -> String {
    parts.iter().map(|part| part_words(dialogue, part)).collect::<Vec<_>>().join(" ")
}

/// What a turn says or does, without its arms.
#[must_use]
pub fn turn_words(dialogue: &Dialogue, turn: &Turn) -> String {
    turn.words(dialogue)
}

/// A field's label by its key.
pub(crate) fn label(dialogue: &Dialogue, key: &str) -> String {
    field(dialogue, key).map_or_else(|| key.to_owned(), |field| field.label.clone())
}

/// Fields' labels by their keys, one after another.
pub(crate) fn labels(dialogue: &Dialogue, keys: &[&str]) -> String {
    keys.iter().map(|key| label(dialogue, key)).collect::<Vec<_>>().join(", ")
}

/// A turn as "Ask “How cold does it have to be?”", cut to be short.
#[must_use]
pub fn turn_name(dialogue: &Dialogue, turn: &Turn) -> String {
    let words = turn.name_words(dialogue);
    let short: String =
        if words.chars().count() > 60 { words.chars().take(59).chain(['…']).collect() } else { words };
    format!("{} “{short}”", turn.kind_label())
}

/// What makes the conversation take an arm.
#[must_use]
pub fn when_words(dialogue: &Dialogue, turn: &Turn, when: &When) -> String {
    match when {
        When::Options(keys) => {
            let field = turn.asks_for().first().and_then(|key| field(dialogue, key));
            keys.iter().map(|key| option_name(dialogue, field, key)).collect::<Vec<_>>().join(" or ")
        }
        When::Holds(holds) => condition::say(holds, &dialogue.named_fields(), &dialogue.language),
        When::Band(ids) => {
            let bands: Vec<_> = dialogue.scorecards.iter().flat_map(|card| &card.bands).collect();
            ids.iter()
                .map(|id| bands.iter().find(|band| band.id == *id).map_or(id.as_str(), |band| band.label.as_str()))
                .collect::<Vec<_>>()
                .join(" or ")
        }
        When::Otherwise => "otherwise".to_owned(),
        When::RuledOut => "ruled out".to_owned(),
        When::Lacks => LACKS.to_owned(),
        When::WayOut => "way out".to_owned(),
        When::Answered => "answered".to_owned(),
        When::Refused => "refused".to_owned(),
        When::NoAnswer => "no answer".to_owned(),
        When::Booked => "booked".to_owned(),
        When::Joined => "joined".to_owned(),
    }
}

/// What takes the arm of a File lead that stops a filing, in words.
pub(crate) const LACKS: &str = "lacks what a lead must carry";

/// An arm: its name or condition, without where it leads.
#[must_use]
pub fn arm_words(dialogue: &Dialogue, turn: &Turn, arm: &Arm) -> String {
    let when = when_words(dialogue, turn, &arm.when);
    match &arm.label {
        Some(label) if *label != when => format!("{label}: {when}"),
        _ => when,
    }
}

/// Where an arm leads.
#[must_use]
pub fn then_words(dialogue: &Dialogue, then: &Then) -> String {
    match then {
        Then::Rejoin => "rejoins below".to_owned(),
        Then::GoTo(section) => format!("→ {}", section_name(dialogue, section)),
        Then::Close(ending) => ending_words(dialogue, ending),
    }
}

/// What follows a section.
#[must_use]
pub fn follow_words(dialogue: &Dialogue, section: &Section) -> String {
    match &section.then {
        Follow::CarryOn => "carry on".to_owned(),
        Follow::Return => "return".to_owned(),
        Follow::GoTo(target) => format!("→ {}", section_name(dialogue, target)),
        Follow::Close(ending) => ending_words(dialogue, ending),
    }
}

fn ending_words(dialogue: &Dialogue, ending: &Ending) -> String {
    let say = ending.say.as_ref().map(|say| format!(", saying “{}”", text_words(dialogue, say))).unwrap_or_default();
    format!("ends as {}{say}", outcome_name(dialogue, &ending.outcome))
}

/// A section's title by its id.
#[must_use]
pub fn section_name(dialogue: &Dialogue, id: &Id) -> String {
    dialogue
        .sections
        .iter()
        .find(|section| section.id == *id)
        .map_or_else(|| id.clone(), |section| section.title.clone())
}

pub(crate) fn outcome_name(dialogue: &Dialogue, id: &Id) -> String {
    dialogue
        .outcomes
        .iter()
        .find(|outcome| outcome.id == *id)
        .map_or_else(|| id.clone(), |outcome| outcome.label.clone())
}

/// An option's label by its key.
#[must_use]
pub fn option_name(dialogue: &Dialogue, field: Option<&Field>, key: &str) -> String {
    match field.and_then(|field| field.options.iter().find(|option| option.key == key)) {
        Some(option) => option.label.get(&dialogue.language, &dialogue.language).to_owned(),
        None if key == "yes" => "Yes".to_owned(),
        None if key == "no" => "No".to_owned(),
        None => key.to_owned(),
    }
}

/// The field with a key.
#[must_use]
pub fn field<'a>(dialogue: &'a Dialogue, key: &str) -> Option<&'a Field> {
    dialogue.fields.iter().find(|field| field.key == key)
}
