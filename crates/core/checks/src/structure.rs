//! Ids, targets, scorecards, and what this version cannot run.

use std::collections::{BTreeMap, BTreeSet};

use super::{Finding, Severity};
use lumbo_condition::{Ready, Subject};
use lumbo_dialogue::file::{Dialogue, Turn, is_id};
use lumbo_dialogue::plan::Plan;
use lumbo_dialogue::plan::{Fault, ReadyWhen};
use lumbo_value::is_key;

pub(super) fn of_fault(fault: Fault) -> Finding {
    let finding = Finding::new(fault.key, Severity::Error, fault.at, fault.says);
    match fault.key {
        "cannot_run_yet" => finding.mend("Take it out, or keep it in a draft until a version that runs it."),
        "target" => finding.mend("Name one that exists, or make it."),
        _ => finding,
    }
}

/// Scorecards that are named and are not there: as the default, in arms and in routing rules.
pub(super) fn named_cards(dialogue: &Dialogue, plan: &Plan, findings: &mut Vec<Finding>) {
    let there = |id: &str| dialogue.scorecards.iter().any(|card| card.id == id);
    let mut missing = |at: String, id: &str| {
        let says = format!("there is no scorecard “{id}”");
        findings.push(Finding::new("target", Severity::Error, at, says).mend("Name one that exists, or make it."));
    };
    if let Some(id) = dialogue.default_scorecard.as_deref().filter(|id| !there(id)) {
        missing("scoring".to_owned(), id);
    }
    let mut look = |at: &str, condition: &Ready| {
        condition.each_subject(&mut |subject| {
            if let Subject::Score(Some(id)) | Subject::Band(Some(id)) = subject
                && !there(id)
            {
                missing(at.to_owned(), id);
            }
        });
    };
    for node in &plan.turns {
        for arm in &node.arms {
            if let ReadyWhen::Holds(condition) = &arm.when {
                look(&format!("{}/{}/{}", plan.sections[node.section].id, node.id, arm.id), condition);
            }
        }
    }
    plan.routes.each_rule(|id, condition, _| look(&format!("routing/{id}"), condition));
}

pub(super) fn check(dialogue: &Dialogue, findings: &mut Vec<Finding>) {
    ids(dialogue, findings);
    if dialogue.sections.is_empty() {
        findings.push(
            Finding::new(
                "no_start",
                Severity::Error,
                "outline",
                "there is no section, so a conversation has nowhere to start",
            )
            .mend("Add a section."),
        );
    }
    for card in &dialogue.scorecards {
        let at = format!("scoring/{}", card.id);
        if card.bands.is_empty() {
            findings.push(
                Finding::new("scoring", Severity::Error, &at, "this scorecard has no bands")
                    .mend("Add a lowest band without a threshold."),
            );
        }
        let thresholds: Vec<_> = card.bands.iter().skip(1).map(|band| band.from).collect();
        if card.bands.first().is_some_and(|band| band.from.is_some()) {
            findings.push(
                Finding::new(
                    "scoring",
                    Severity::Error,
                    &at,
                    "the lowest band has a threshold; leads below it would be in no band",
                )
                .mend("Take the threshold off the lowest band."),
            );
        }
        if thresholds.iter().any(Option::is_none) || thresholds.windows(2).any(|pair| pair[0] >= pair[1]) {
            findings.push(Finding::new(
                "scoring",
                Severity::Error,
                &at,
                "the bands’ thresholds must rise from the lowest band to the highest",
            ));
        }
        for must in &card.must_haves {
            if !card.bands.iter().any(|band| band.id == must.cap) {
                findings.push(Finding::new(
                    "target",
                    Severity::Error,
                    &at,
                    format!("a must-have stops at the band “{}”, and there is none of that id", must.cap),
                ));
            }
        }
        for dimension in &card.dimensions {
            if let (Some(floor), Some(ceiling)) = (dimension.floor, dimension.ceiling)
                && floor > ceiling
            {
                findings.push(Finding::new(
                    "scoring",
                    Severity::Error,
                    &at,
                    format!("{} counts at least {floor} and at most {ceiling}, which cannot be", dimension.title),
                ));
            }
        }
    }
    let mut files = false;
    dialogue.each_turn(&mut |_, _, turn| files |= matches!(turn, Turn::FileLead(_)));
    if files && dialogue.routing.rules.is_empty() && dialogue.routing.otherwise.is_none() {
        findings.push(
            Finding::new(
                "routing",
                Severity::Warning,
                "routing",
                "leads are filed, and no queue is named to take them",
            )
            .mend("Name a queue in Routing."),
        );
    }
    for table in &dialogue.tables {
        if let Some(row) = table.rows.iter().position(|row| row.len() != table.columns.len()) {
            findings.push(Finding::new(
                "table",
                Severity::Error,
                format!("tables/{}", table.key),
                format!("row {} has not as many cells as the table has columns", row + 1),
            ));
        }
    }
}

fn ids(dialogue: &Dialogue, findings: &mut Vec<Finding>) {
    let mut seen: BTreeMap<&str, String> = BTreeMap::new();
    let mut twice: BTreeSet<(&str, String)> = BTreeSet::new();
    let meet = |id: &str, at: String| -> Option<Finding> {
        (!is_id(id)).then(|| {
            Finding::new(
                "id",
                Severity::Error,
                at,
                format!("“{id}” is not an id: 1 to 40 small letters, digits, _ or -"),
            )
        })
    };
    let mut places: Vec<(&str, String)> = Vec::new();
    for section in &dialogue.sections {
        places.push((&section.id, section.id.clone()));
    }
    dialogue.each_turn(&mut |section, _, turn| {
        places.push((turn.id(), format!("{}/{}", section.id, turn.id())));
        for arm in turn.arms() {
            places.push((&arm.id, format!("{}/{}/{}", section.id, turn.id(), arm.id)));
        }
    });
    for (id, at) in places {
        findings.extend(meet(id, at.clone()));
        if seen.insert(id, at.clone()).is_some() {
            twice.insert((id, at));
        }
    }
    for (id, at) in twice {
        findings.push(Finding::new("id", Severity::Error, at, format!("the id “{id}” stands more than once")));
    }
    let mut keys: BTreeSet<&str> = BTreeSet::new();
    let mut field_ids: BTreeSet<&str> = BTreeSet::new();
    for field in &dialogue.fields {
        let at = format!("fields/{}", field.id);
        if !is_key(&field.key) {
            findings.push(Finding::new(
                "id",
                Severity::Error,
                &at,
                format!("“{}” is not a field’s key: a small letter, then small letters, digits or _", field.key),
            ));
        }
        if !keys.insert(&field.key) || !field_ids.insert(&field.id) {
            findings.push(Finding::new(
                "id",
                Severity::Error,
                &at,
                format!("the field “{}” stands more than once", field.key),
            ));
        }
    }
}
