//! Numbers that a formula multiplies and that may be as large as a slip of a key makes them.

use lumbo_dialogue::file::{Dialogue, FieldType, Rule, Turn};
use lumbo_dialogue::plan::{Kind, Plan};

use super::{Finding, Severity};

pub(super) fn check(dialogue: &Dialogue, plan: &Plan, findings: &mut Vec<Finding>) {
    for node in &plan.turns {
        let Kind::WorkOut(fills) = &node.kind else { continue };
        let mut labels: Vec<&str> = Vec::new();
        for key in fills.iter().flat_map(|(_, formula)| formula.multiplied()) {
            let Some(field) = dialogue.fields.iter().find(|field| field.key == key) else { continue };
            let counts = matches!(field.kind, FieldType::WholeNumber | FieldType::Quantity | FieldType::Money);
            if counts && unbounded(dialogue, &key) && !labels.contains(&field.label.as_str()) {
                labels.push(&field.label);
            }
        }
        if !labels.is_empty() {
            let at = format!("{}/{}", plan.sections[node.section].id, node.id);
            let says = format!(
                "this multiplies {}, which nothing keeps from being far too large: one digit too many makes a figure \
                 that a prospect would laugh at",
                labels.join(" and ")
            );
            findings.push(Finding::new("unbounded", Severity::Hint, at, says).mend("Give it a range."));
        }
    }
}

/// True where some turn asks for the field and takes any number, however large.
fn unbounded(dialogue: &Dialogue, key: &str) -> bool {
    let bounds = |rules: &[Rule]| rules.iter().any(|rule| matches!(rule, Rule::Range { max: Some(_), .. }));
    let own = dialogue.fields.iter().find(|field| field.key == key);
    let (held, loose) =
        own.map_or((false, false), |field| (bounds(&field.rules), field.may_loosen.iter().any(|rule| rule == "range")));
    let mut found = false;
    dialogue.each_turn(&mut |_, _, turn| match turn {
        Turn::Ask(ask) if ask.field == key => {
            let kept = held && !(loose && ask.loosens.iter().any(|rule| rule == "range"));
            found |= !kept && !bounds(&ask.rules);
        }
        Turn::AskTogether(form) => {
            for wanted in form.fields.iter().filter(|wanted| wanted.field == key) {
                let kept = held && !(loose && wanted.loosens.iter().any(|rule| rule == "range"));
                found |= !kept && !bounds(&wanted.rules);
            }
        }
        _ => {}
    });
    found
}
