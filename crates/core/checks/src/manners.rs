//! What loses people, and what is asked for nothing.

use std::collections::BTreeSet;

use super::{Finding, Severity};
use lumbo_dialogue::file::Part;
use lumbo_dialogue::file::{Dialogue, Turn, When};
use lumbo_dialogue::turns::texts::longest;

pub(super) fn check(dialogue: &Dialogue, findings: &mut Vec<Finding>) {
    options_without_arm(dialogue, findings);
    needed_fields(dialogue, findings);
    long_texts(dialogue, findings);
    pictures_without_words(dialogue, findings);
}

/// Pictures that say nothing to those who cannot see them.
fn pictures_without_words(dialogue: &Dialogue, findings: &mut Vec<Finding>) {
    fn bare(parts: &[Part], language: &str) -> bool {
        parts.iter().any(|part| match part {
            Part::Picture(picture) => picture.alt.get(language, language).trim().is_empty(),
            Part::Beside(parts) => bare(parts, language),
            Part::Line(_) | Part::Document(_) | Part::Link(_) => false,
        })
    }
    dialogue.each_turn(&mut |section, _, turn| {
        if let Turn::Tell(tell) = turn
            && bare(&tell.say, &dialogue.language)
        {
            findings.push(
                Finding::new(
                    "picture_without_words",
                    Severity::Warning,
                    format!("{}/{}", section.id, tell.id),
                    "a picture here says nothing to those who cannot see it",
                )
                .mend("Write what it shows."),
            );
        }
    });
}

/// Options without an arm where others have one.
fn options_without_arm(dialogue: &Dialogue, findings: &mut Vec<Finding>) {
    dialogue.each_turn(&mut |section, _, turn| {
        let Turn::Ask(ask) = turn else { return };
        if ask.arms.is_empty() || ask.arms.iter().any(|arm| !matches!(arm.when, When::Options(_))) {
            return;
        }
        let Some(field) = dialogue.fields.iter().find(|field| field.key == ask.field) else { return };
        let covered: BTreeSet<&str> = ask
            .arms
            .iter()
            .flat_map(|arm| if let When::Options(keys) = &arm.when { keys.as_slice() } else { &[] })
            .map(String::as_str)
            .collect();
        let open: Vec<&str> = field
            .options
            .iter()
            .filter(|option| {
                (ask.only.is_empty() || ask.only.contains(&option.key)) && !covered.contains(option.key.as_str())
            })
            .map(|option| option.label.get(&dialogue.language, &dialogue.language))
            .collect();
        if !open.is_empty() {
            let says = format!(
                "{} {} no arm, where other options have one; {} on below",
                open.join(" and "),
                if open.len() == 1 { "has" } else { "have" },
                if open.len() == 1 { "it goes" } else { "they go" }
            );
            findings.push(
                Finding::new("option_without_arm", Severity::Hint, format!("{}/{}", section.id, ask.id), says)
                    .mend("Add an arm, or leave it so if going on is meant."),
            );
        }
    });
}

/// Needed fields that nothing asks for or works out; fields that are asked and read by nothing.
fn needed_fields(dialogue: &Dialogue, findings: &mut Vec<Finding>) {
    let mut filled: BTreeSet<&str> = BTreeSet::new();
    dialogue.each_turn(&mut |_, _, turn| {
        filled.extend(turn.asks_for());
        filled.extend(turn.fills());
    });
    for need in &dialogue.brief.needs {
        if !need.iter().any(|key| filled.contains(key.as_str())) {
            let labels: Vec<String> = need
                .iter()
                .map(|key| {
                    dialogue
                        .fields
                        .iter()
                        .find(|field| field.key == *key)
                        .map_or_else(|| key.clone(), |field| field.label.clone())
                })
                .collect();
            findings.push(
                Finding::new(
                    "needed_never_asked",
                    Severity::Warning,
                    "brief",
                    format!("a lead must carry {}, and no turn asks for it", labels.join(" or ")),
                )
                .mend("Ask for it, or take it off the brief."),
            );
        }
    }
}

/// Most short lines in one bubble.
const BUBBLE_LINES: u32 = 3;

fn long_texts(dialogue: &Dialogue, findings: &mut Vec<Finding>) {
    dialogue.each_turn(&mut |section, _, turn| {
        let Some(measure) = longest(turn, dialogue).filter(|measure| measure.lines > BUBBLE_LINES) else { return };
        findings.push(
            Finding::new(
                "long_text",
                Severity::Hint,
                format!("{}/{}", section.id, turn.id()),
                format!(
                    "this text fills {} lines on a phone ({} characters); more than three short lines are hard to \
                     read in a bubble",
                    measure.lines, measure.characters
                ),
            )
            .mend("Split it into two lines, or say it shorter."),
        );
    });
}
