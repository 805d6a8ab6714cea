//! What no conversation comes to, and conversations that come to nothing. Follows every continuation of every turn,
//! whatever its conditions; the exact analysis of which conditions can hold together is a later check.

use super::{Finding, Severity};
use lumbo_dialogue::plan::Plan;
use lumbo_dialogue::plan::{AskNode, Kind, Next, Node, ReadyFollow, ReadyTalk, ReadyWayOut, ReadyWhen};

/// Everything that can follow a turn.
fn continuations(plan: &Plan, node: &Node) -> Vec<Next> {
    let mut out: Vec<Next> =
        node.arms.iter().filter(|arm| !matches!(arm.when, ReadyWhen::Never)).map(|arm| arm.entry).collect();
    let otherwise = node.arms.iter().any(|arm| matches!(arm.when, ReadyWhen::Otherwise));
    match &node.kind {
        Kind::Close(_) => {}
        // What is broken has a finding of its own; what stands below it is looked at as if it were mended.
        Kind::Broken(_) => out.push(node.next),
        Kind::Ask(ask) => {
            match ask.way_out {
                ReadyWayOut::GoOn => out.push(node.next),
                ReadyWayOut::Go(next) => out.push(next),
                ReadyWayOut::Arm(arm) => out.extend(node.arms.get(arm).map(|arm| arm.entry)),
            }
            if ask.skip.is_some() || !(otherwise || every_option_has_an_arm(ask, node)) {
                out.push(node.next);
            }
        }
        Kind::AskTogether(form) => {
            out.push(node.next);
            if let ReadyWayOut::Go(next) = form.way_out {
                out.push(next);
            }
        }
        Kind::Visit(section) => {
            out.push(Next::GoTo(*section));
            out.push(node.next);
        }
        Kind::FileLead(filing) if every_band_has_an_arm(plan, filing.card, node) => {}
        Kind::Fork | Kind::FileLead(_) if otherwise => {}
        Kind::Fork | Kind::FileLead(_) | Kind::Tell(_) | Kind::OpenAsk(_) | Kind::ReadBack(_) | Kind::WorkOut(_) => {
            out.push(node.next);
        }
    }
    out
}

fn every_option_has_an_arm(ask: &AskNode, node: &Node) -> bool {
    let mut options = ask.reader.options().peekable();
    options.peek().is_some()
        && options.all(|(key, _)| {
            node.arms
                .iter()
                .any(|arm| matches!(&arm.when, ReadyWhen::Options(keys) if keys.iter().any(|known| known == key)))
        })
}

fn every_band_has_an_arm(plan: &Plan, card: Option<usize>, node: &Node) -> bool {
    let otherwise = node.arms.iter().any(|arm| matches!(arm.when, ReadyWhen::Otherwise));
    let Some(card) = card.and_then(|card| plan.cards.get(card)) else { return otherwise };
    let ruled_out =
        card.file.rule_outs.is_empty() || node.arms.iter().any(|arm| matches!(arm.when, ReadyWhen::RuledOut));
    let bands =
        card.file.bands.iter().all(|band| {
            node.arms.iter().any(|arm| matches!(&arm.when, ReadyWhen::Band(ids) if ids.contains(&band.id)))
        });
    otherwise || ruled_out && bands
}

pub(super) fn check(plan: &Plan, findings: &mut Vec<Finding>) {
    let mut turns = vec![false; plan.turns.len()];
    let mut sections = vec![false; plan.sections.len()];
    let mut ends = vec![false; plan.sections.len()];
    let mut closes = false;
    let mut todo: Vec<Next> = if plan.sections.is_empty() { Vec::new() } else { vec![Next::GoTo(0)] };
    // Side-talk may lead to its section from anywhere.
    todo.extend(
        plan.side_talk.iter().filter_map(|talk| if let ReadyTalk::Go(next) = talk.does { Some(next) } else { None }),
    );
    while let Some(next) = todo.pop() {
        match next {
            Next::GoTo(section) if !std::mem::replace(&mut sections[section], true) => todo.extend(plan.targets(next)),
            Next::EndOf(section) if !std::mem::replace(&mut ends[section], true) => todo.extend(plan.targets(next)),
            Next::Turn(index) if !std::mem::replace(&mut turns[index], true) => {
                closes |= matches!(plan.turns[index].kind, Kind::Close(_));
                todo.extend(continuations(plan, &plan.turns[index]));
            }
            Next::Close(_) => closes = true,
            _ => {}
        }
    }
    unreachable(plan, &turns, &sections, findings);
    let visited: Vec<usize> = plan
        .turns
        .iter()
        .enumerate()
        .filter(|(index, _)| turns[*index])
        .filter_map(|(_, node)| if let Kind::Visit(section) = node.kind { Some(section) } else { None })
        .collect();
    for (index, section) in plan.sections.iter().enumerate().filter(|(index, _)| ends[*index]) {
        match section.follow {
            ReadyFollow::CarryOn(None) if !visited.contains(&index) => findings.push(
                Finding::new(
                    "nothing_after",
                    Severity::Error,
                    &section.id,
                    format!(
                        "“{}” is the last section and carries on to nothing; the closing fallback would end the \
                        conversation",
                        section.title
                    ),
                )
                .mend("End it with a Close, or let it go to another section."),
            ),
            ReadyFollow::Return if !visited.contains(&index) => findings.push(
                Finding::new(
                    "nothing_after",
                    Severity::Error,
                    &section.id,
                    format!(
                        "“{}” returns, and no Visit leads \
                    to it",
                        section.title
                    ),
                )
                .mend("Let it carry on, go to a section, or close."),
            ),
            _ => {}
        }
    }
    if !plan.sections.is_empty() && !closes {
        findings.push(
            Finding::new("no_close", Severity::Error, "outline", "no conversation ever reaches a Close")
                .mend("Add a Close at the end."),
        );
    }
    visit_circle(plan, findings);
    loop_without_a_question(plan, findings);
}

fn unreachable(plan: &Plan, turns: &[bool], sections: &[bool], findings: &mut Vec<Finding>) {
    for (index, section) in plan.sections.iter().enumerate() {
        if !sections[index] {
            findings.push(
                Finding::new(
                    "unreachable_section",
                    Severity::Warning,
                    &section.id,
                    format!("no conversation comes to “{}”", section.title),
                )
                .mend("Let an arm or a section go to it, or take it out."),
            );
        }
    }
    for (index, node) in plan.turns.iter().enumerate() {
        if !turns[index] && sections[node.section] {
            let at = format!("{}/{}", plan.sections[node.section].id, node.id);
            findings.push(
                Finding::new("unreachable_turn", Severity::Warning, at, "no conversation comes to this turn")
                    .mend("Move it to where conversations come by, or take it out."),
            );
        }
    }
}

/// Sections that visit each other in a circle.
fn visit_circle(plan: &Plan, findings: &mut Vec<Finding>) {
    let visits: Vec<Vec<usize>> = (0..plan.sections.len())
        .map(|section| {
            plan.turns
                .iter()
                .filter(|node| node.section == section)
                .filter_map(|node| if let Kind::Visit(target) = node.kind { Some(target) } else { None })
                .collect()
        })
        .collect();
    for (start, section) in plan.sections.iter().enumerate() {
        let mut seen = vec![false; plan.sections.len()];
        let mut todo = visits[start].clone();
        while let Some(here) = todo.pop() {
            if here == start {
                findings.push(
                    Finding::new(
                        "visit_circle",
                        Severity::Error,
                        &section.id,
                        format!("“{}” visits itself, directly or by way of another section", section.title),
                    )
                    .mend("Go to the section instead of visiting it."),
                );
                break;
            }
            if !std::mem::replace(&mut seen[here], true) {
                todo.extend(&visits[here]);
            }
        }
    }
}

/// Sections that can be entered again and again without anything being asked: only the bound on entries ends them.
fn loop_without_a_question(plan: &Plan, findings: &mut Vec<Finding>) {
    for (start, section) in plan.sections.iter().enumerate() {
        let mut seen = vec![false; plan.turns.len()];
        let mut entered = vec![false; plan.sections.len()];
        let mut todo = vec![section.entry];
        let mut circle = false;
        while let Some(next) = todo.pop() {
            match next {
                Next::GoTo(target) if target == start => circle = true,
                Next::GoTo(target) if !std::mem::replace(&mut entered[target], true) => todo.extend(plan.targets(next)),
                Next::EndOf(_) => todo.extend(plan.targets(next)),
                Next::Turn(index) if !std::mem::replace(&mut seen[index], true) => {
                    let node = &plan.turns[index];
                    if !node.kind.asks() {
                        todo.extend(continuations(plan, node));
                    }
                }
                _ => {}
            }
        }
        if circle {
            findings.push(
                Finding::new(
                    "loop",
                    Severity::Error,
                    &section.id,
                    format!(
                        "“{}” can come back to itself without asking anything, so the conversation would run in a \
                        circle",
                        section.title
                    ),
                )
                .mend("Ask something on the way round, or go elsewhere."),
            );
        }
    }
}
