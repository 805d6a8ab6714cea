use serde_json::json;

use super::*;
use crate::gesture::{Gesture, expand};
use crate::rows::{RowKind, rows};
use crate::{Edit, apply};
use lumbo_checks::check;
use lumbo_dialogue::file::Dialogue;

fn blank() -> Dialogue {
    crate::from_brief::from_brief(crate::from_brief::NewDialogue {
        id: "blank".into(),
        title: "Blank".into(),
        language: "en".into(),
        fields: vec![],
        fit: String::new(),
        queue: None,
    })
}

fn try_write(dialogue: &Dialogue, text: &str) -> Result<(Dialogue, Vec<String>), String> {
    let gesture: Gesture = serde_json::from_value(
        json!({"gesture": "write", "text": text, "at": {"parent": {"section": "start"}, "index": 0}}),
    )
    .unwrap();
    let catalogue =
        lumbo_dialogue::file::load(include_str!("../../../../../demo/storage-enquiry.json")).unwrap().fields;
    let made = expand(dialogue, gesture, &catalogue, 3).map_err(|error| error.to_string())?;
    let mut after = dialogue.clone();
    for edit in made.edits {
        apply(&mut after, edit).unwrap();
    }
    Ok((after, made.notes))
}

/// The outline as an indented list: what each row is and says.
fn outline(dialogue: &Dialogue) -> String {
    let mut turns = HashMap::new();
    dialogue.each_turn(&mut |_, _, turn| {
        turns.insert(turn.id().to_owned(), turn);
    });
    let mut out = String::new();
    for row in rows(dialogue) {
        let words = match row.kind {
            RowKind::Section => format!("# {}", dialogue.sections[row.index as usize].title),
            RowKind::Then => format!(
                "({})",
                lumbo_dialogue::turns::words::follow_words(dialogue, &dialogue.sections[row.index as usize])
            ),
            RowKind::Turn => format!(
                "{}: {}",
                turns[&row.id].kind_label(),
                lumbo_dialogue::turns::words::turn_words(dialogue, turns[&row.id])
            ),
            RowKind::Arm => {
                let turn = turns[row.turn.as_ref().unwrap()];
                let arm = turn.arms().iter().find(|arm| arm.id == row.id).unwrap();
                format!(
                    "- {} {}",
                    lumbo_dialogue::turns::words::arm_words(dialogue, turn, arm),
                    lumbo_dialogue::turns::words::then_words(dialogue, &arm.then)
                )
            }
        };
        out.push_str(&format!("{}{words}\n", "  ".repeat(row.depth as usize)));
    }
    out
}

#[test]
fn a_written_outline_becomes_turns_arms_sections_and_fields() {
    let text = "
Thanks for your interest.
What do you need to move? Pallets / Parcels / Something else [Goods]
How cold must it be? [Temperature]
  - Frozen
      Does it need blast freezing first? [Blast freezing]
  - Chilled
  - Not chilled -> Not for us
How many trips a week? [Trips, whole number, must answer]
per_week = trips * 33
If trips at least 10 and Temperature is Frozen
    Tell: That is a lot.
    -> Who to call
Otherwise
    We will find a lorry.

# Who to call
What is your name?
Which e-mail address can we write to?
File lead
Close as A lead: Thank you.

# Not for us
Close as Not a fit: We only move cold goods.
";
    let (after, notes) = try_write(&blank(), text).unwrap();
    assert_eq!(notes, Vec::<String>::new());
    insta::assert_snapshot!(outline(&after));
    let field =
        |key: &str| after.fields.iter().find(|field| field.key == key).unwrap_or_else(|| panic!("no field {key}"));
    assert_eq!(field("trips").kind, FieldType::WholeNumber);
    assert_eq!(field("temperature").id, "fld_temperature", "a field of the catalogue is used, not made again");
    assert_eq!(field("goods").options.len(), 3);
    assert_eq!(field("per_week").kind, FieldType::WholeNumber);
    assert_eq!(field("email").kind, FieldType::Email);
}

#[test]
fn options_without_bullets_will_do_and_yes_and_no_make_a_yes_or_no() {
    let (after, _) = try_write(&blank(), "Do you have a dock?\n    Yes\n        Good.\n    No").unwrap();
    let Turn::Ask(ask) = &after.sections[0].turns[0] else { panic!() };
    let field = after.fields.iter().find(|field| field.key == ask.field).unwrap();
    assert_eq!(field.kind, FieldType::YesNo);
    assert_eq!(ask.arms[0].when, When::Options(vec!["yes".into()]));
    assert_eq!((ask.arms[0].turns.len(), ask.arms[1].turns.len()), (1, 0));
}

#[test]
fn an_option_after_the_question_and_below_it_is_one() {
    let (after, _) =
        try_write(&blank(), "How cold? Frozen / Chilled [Temperature]\n- Frozen\n    Very cold.\n- Warm").unwrap();
    let Turn::Ask(ask) = &after.sections[0].turns[0] else { panic!() };
    let arms: Vec<(usize, usize)> = ask
        .arms
        .iter()
        .map(|arm| (if let When::Options(keys) = &arm.when { keys.len() } else { 0 }, arm.turns.len()))
        .collect();
    assert_eq!(arms, [(1, 1), (1, 0), (1, 0)]);
}

#[test]
fn a_line_that_cannot_be_read_says_which_and_why() {
    for (text, says) in [
        ("", "There is no line to read."),
        (
            "Hello\nIf trips about 3",
            "Line 2: “trips about 3” is no condition: expected the name of a field, or Score, Band, Page, Country …",
        ),
        ("Otherwise", "Line 1: “otherwise” stands below an “if”"),
        ("x = 1 +", "Line 1: character 3: expected a value"),
        ("How cold?\n  - Frozen\n  File lead", "Line 3: below a question stand its options."),
    ] {
        let error = try_write(&blank(), text).unwrap_err();
        if text.starts_with('x') {
            assert!(error.starts_with("Line 1: character"), "{error}");
        } else {
            assert_eq!(error, says, "{text}");
        }
    }
    assert!(try_write(&blank(), &"a\n".repeat(LINE_LIMIT + 1)).is_err());
}

#[test]
fn a_section_that_is_nowhere_is_made_and_told() {
    let (after, notes) = try_write(&blank(), "How cold?\n- Frozen -> Somewhere").unwrap();
    assert_eq!(notes, ["There was no section “Somewhere”; an empty one was made."]);
    assert_eq!(after.sections.last().unwrap().title, "Somewhere");
}

#[test]
fn the_demo_written_out_reads_back_with_the_same_rows() {
    let demo = lumbo_dialogue::file::load(include_str!("../../../../../demo/storage-enquiry.json")).unwrap();
    let text = as_text(&demo);
    let mut empty = demo.clone();
    empty.sections = blank().sections;
    let (after, notes) = try_write(&empty, &text).unwrap_or_else(|error| panic!("{error}\n{text}"));
    assert_eq!(notes, Vec::<String>::new());
    let kinds = |dialogue: &Dialogue| {
        let mut kinds = Vec::new();
        dialogue.each_turn(&mut |_, _, turn| kinds.push((turn.kind(), turn.arms().len())));
        kinds
    };
    // The blank one's own Close stands last in its only section.
    let mut read = after.clone();
    apply(&mut read, Edit::RemoveSection { id: "start".into() }).unwrap();
    assert_eq!(read.sections.len(), demo.sections.len());
    let (read, written): (Vec<_>, Vec<_>) = (kinds(&read), kinds(&demo));
    let asks =
        |list: &[(&'static str, usize)]| list.iter().filter(|(kind, _)| *kind == "ask").copied().collect::<Vec<_>>();
    assert_eq!(asks(&read), asks(&written));
    assert!(
        check(&after).iter().all(|finding| finding.key != "condition" && finding.key != "formula"),
        "{:#?}",
        check(&after)
    );
}

/// The dialogue as a written outline, in the forms that can be written.
fn as_text(dialogue: &Dialogue) -> String {
    fn turns(dialogue: &Dialogue, list: &[Turn], depth: usize, out: &mut String) {
        use std::fmt::Write as _;
        let pad = "  ".repeat(depth);
        for turn in list {
            let words = match turn {
                Turn::Ask(ask) => {
                    let label = lumbo_dialogue::turns::words::field(dialogue, &ask.field)
                        .map_or(ask.field.as_str(), |field| field.label.as_str());
                    format!("Ask: {} [{label}]", ask.say.text.get(&dialogue.language, &dialogue.language))
                }
                Turn::Tell(tell) => tell
                    .say
                    .iter()
                    .filter_map(|part| {
                        if let Part::Line(line) = part {
                            Some(format!("Tell: {}", line.text.get(&dialogue.language, &dialogue.language)))
                        } else {
                            None
                        }
                    })
                    .collect::<Vec<_>>()
                    .join(&format!("\n{pad}")),
                Turn::Visit(visit) => {
                    format!("Visit: {}", lumbo_dialogue::turns::words::section_name(dialogue, &visit.section))
                }
                Turn::FileLead(_) => "File lead".to_owned(),
                Turn::Close(close) => {
                    let outcome = dialogue
                        .outcomes
                        .iter()
                        .find(|known| known.id == close.outcome)
                        .map_or(close.outcome.as_str(), |known| known.label.as_str());
                    let say = close.say.as_ref().map_or("", |say| say.text.get(&dialogue.language, &dialogue.language));
                    format!("Close as {outcome}: {say}")
                }
                Turn::WorkOut(work) => work
                    .fills
                    .iter()
                    .map(|fill| {
                        let starts = fill.starts.as_ref().map(|starts| format!(", starting at {starts}"));
                        format!("{} = {}{}", fill.field, fill.formula, starts.unwrap_or_default())
                    })
                    .collect::<Vec<_>>()
                    .join(&format!("\n{pad}")),
                Turn::Fork(_) => String::new(),
                other => lumbo_dialogue::turns::words::turn_words(dialogue, other),
            };
            if !words.is_empty() {
                let _ = writeln!(out, "{pad}{words}");
            }
            for arm in turn.arms() {
                let when = lumbo_dialogue::turns::words::when_words(dialogue, turn, &arm.when);
                let to = if let Then::GoTo(target) = &arm.then {
                    format!(" -> {}", lumbo_dialogue::turns::words::section_name(dialogue, target))
                } else {
                    String::new()
                };
                let (head, inset) = match (&arm.when, turn) {
                    (When::Otherwise, _) => ("Otherwise".to_owned(), usize::from(!matches!(turn, Turn::Fork(_)))),
                    (_, Turn::Fork(_)) => (format!("If {when}"), 0),
                    _ => (format!("- {when}"), 1),
                };
                let _ = writeln!(out, "{}{head}{to}", "  ".repeat(depth + inset));
                turns(dialogue, &arm.turns, depth + inset + 1, out);
            }
        }
    }
    let mut out = String::new();
    for section in &dialogue.sections {
        let to = if let Follow::GoTo(target) = &section.then {
            format!(" -> {}", lumbo_dialogue::turns::words::section_name(dialogue, target))
        } else {
            String::new()
        };
        out.push_str(&format!("# {}{to}\n", section.title));
        turns(dialogue, &section.turns, 0, &mut out);
        out.push('\n');
    }
    out
}
