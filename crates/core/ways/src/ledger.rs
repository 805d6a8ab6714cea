//! The field ledger: where each field is captured, on which share of the ways, and what reads it.
//!
//! The share is counted over the outline's structure: every sequence of arms from the first turn to an end, conditions
//! not looked into, a section that comes round again counted once. A field's share is that of the sequences that pass a
//! turn which asks for it or works it out.

use std::collections::HashMap;

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use lumbo_dialogue::file::{Dialogue, FieldType};
use lumbo_dialogue::plan::{Kind, Next, Node, Plan, ReadyFollow, ReadyWhen};
use lumbo_dialogue::turns::uses::{Use, UseKind, all_uses};

/// What the ledger says of one field.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct LedgerRow {
    /// The field's id.
    pub field: String,
    /// Its key.
    pub key: String,
    /// Its label.
    pub label: String,
    /// What it holds.
    #[serde(rename = "type")]
    pub kind: FieldType,
    /// A lead must carry it.
    pub needed: bool,
    /// Share of the ways that capture it, 0 to 1; absent where there are too many ways to count.
    pub share: Option<f64>,
    /// Every place that captures or reads it.
    pub uses: Vec<Use>,
}

/// The ledger, in the order of the dialogue's fields, and how many ways its structure has (absent: too many).
#[must_use]
pub fn ledger(dialogue: &Dialogue, plan: &Plan) -> (Vec<LedgerRow>, Option<f64>) {
    let all = count(plan, None);
    let mut uses = all_uses(dialogue);
    let rows = dialogue
        .fields
        .iter()
        .enumerate()
        .map(|(index, field)| {
            let share = all
                .filter(|all| *all > 0.0)
                .and_then(|all| count(plan, Some(index)).map(|without| rounded((all - without) / all)));
            let uses = uses.remove(&field.key).unwrap_or_default();
            LedgerRow {
                field: field.id.clone(),
                key: field.key.clone(),
                label: field.label.clone(),
                kind: field.kind,
                needed: uses.iter().any(|place| place.kind == UseKind::Needed),
                share,
                uses,
            }
        })
        .collect();
    (rows, all)
}

/// A share with six decimals, which reads back from JSON as it was.
fn rounded(share: f64) -> f64 {
    (share.clamp(0.0, 1.0) * 1e6).round() / 1e6
}

/// True where a turn captures a field.
fn captures(node: &Node, field: usize) -> bool {
    match &node.kind {
        Kind::Ask(ask) => ask.field == field,
        Kind::AskTogether(form) => form.fields.iter().any(|wanted| wanted.field == field),
        Kind::OpenAsk(open) => open.fields.contains(&field),
        Kind::WorkOut(fills) => fills.iter().any(|(known, _)| *known == field),
        Kind::Tell(_)
        | Kind::ReadBack(_)
        | Kind::Fork
        | Kind::FileLead(_)
        | Kind::Visit(_)
        | Kind::Close(_)
        | Kind::Broken(_) => false,
    }
}

/// A place in the outline with the Visits to come back to, outermost first.
#[derive(Clone, PartialEq, Eq, Hash)]
struct Here(Spot, Vec<usize>);

/// [`Next`] with only what tells places apart.
#[derive(Clone, Copy, PartialEq, Eq, Hash)]
enum Spot {
    Turn(usize),
    EndOf(usize),
    GoTo(usize),
    End,
}

fn plain(next: Next) -> Spot {
    match next {
        Next::Turn(index) => Spot::Turn(index),
        Next::EndOf(index) => Spot::EndOf(index),
        Next::GoTo(index) => Spot::GoTo(index),
        Next::Close(_) | Next::Nowhere | Next::Wait => Spot::End,
    }
}

/// Most places that are looked at.
const PLACE_LIMIT: usize = 200_000;
/// Deepest nesting of Visits that is followed.
const VISIT_LIMIT: usize = 20;

/// Ways from a place on: how often each place that follows is taken.
fn follow(plan: &Plan, here: &Here, without: Option<usize>) -> Option<Vec<Here>> {
    let Here(next, visits) = here;
    let go = |next: Next, visits: &Vec<usize>| Here(plain(next), visits.clone());
    Some(match next {
        Spot::End => return None,
        // A go-to leaves every Visit.
        Spot::GoTo(section) => vec![go(plan.sections[*section].entry, visits)],
        Spot::EndOf(section) => match (plan.sections[*section].follow, visits.split_last()) {
            (ReadyFollow::Go(next @ Next::GoTo(_)), _) => vec![go(next, &Vec::new())],
            (ReadyFollow::Go(next), _) => vec![go(next, visits)],
            (_, Some((visit, rest))) => vec![go(plan.turns[*visit].next, &rest.to_vec())],
            (ReadyFollow::CarryOn(Some(after)), None) => vec![go(Next::GoTo(after), visits)],
            (ReadyFollow::CarryOn(None) | ReadyFollow::Return, None) => vec![Here(Spot::End, Vec::new())],
        },
        Spot::Turn(index) => {
            let node = &plan.turns[*index];
            if without.is_some_and(|field| captures(node, field)) {
                return Some(Vec::new());
            }
            match node.kind {
                Kind::Close(_) => vec![Here(Spot::End, Vec::new())],
                Kind::Visit(section) if visits.len() < VISIT_LIMIT => {
                    let mut deeper = visits.clone();
                    deeper.push(*index);
                    vec![go(plan.sections[section].entry, &deeper)]
                }
                _ => {
                    let taken = |arm: &&lumbo_dialogue::plan::ArmNode| !matches!(arm.when, ReadyWhen::Never);
                    let mut out: Vec<Here> =
                        node.arms.iter().filter(taken).map(|arm| leave(arm.entry, visits)).collect();
                    if !covered(plan, node) {
                        out.push(go(node.next, visits));
                    }
                    out
                }
            }
        }
    })
}

fn leave(entry: Next, visits: &[usize]) -> Here {
    match entry {
        Next::GoTo(_) => Here(plain(entry), Vec::new()),
        other => Here(plain(other), visits.to_vec()),
    }
}

/// True where one of the arms is always taken.
fn covered(plan: &Plan, node: &Node) -> bool {
    if node.arms.iter().any(|arm| matches!(arm.when, ReadyWhen::Otherwise)) {
        return true;
    }
    let Kind::Ask(ask) = &node.kind else { return false };
    let field = &plan.file.fields[ask.field];
    let listed: Vec<&str> = node
        .arms
        .iter()
        .flat_map(|arm| if let ReadyWhen::Options(keys) = &arm.when { keys.as_slice() } else { &[] })
        .map(String::as_str)
        .collect();
    let keys: Vec<&str> = if field.kind == FieldType::YesNo {
        vec!["yes", "no"]
    } else {
        ask.reader.options().map(|(key, _)| key).collect()
    };
    field.kind != FieldType::Choices && !keys.is_empty() && keys.iter().all(|key| listed.contains(key))
}

/// How many ways there are, or how many that never capture a field.
fn count(plan: &Plan, without: Option<usize>) -> Option<f64> {
    if plan.sections.is_empty() {
        return Some(0.0);
    }
    let start = Here(Spot::GoTo(0), Vec::new());
    // Depth first with a list of its own: a long outline must not use up the thread's stack.
    let mut done: HashMap<Here, f64> = HashMap::new();
    let mut open: HashMap<Here, ()> = HashMap::new();
    let mut todo = vec![(start.clone(), false)];
    while let Some((here, ready)) = todo.pop() {
        if done.contains_key(&here) {
            continue;
        }
        let Some(next) = follow(plan, &here, without) else {
            done.insert(here, 1.0);
            continue;
        };
        if ready {
            // A place that is still open has come round again: the way ends there.
            let sum = next.iter().map(|after| done.get(after).copied().unwrap_or(1.0)).sum();
            open.remove(&here);
            done.insert(here, sum);
            continue;
        }
        if open.contains_key(&here) {
            continue;
        }
        if open.len() + done.len() > PLACE_LIMIT {
            return None;
        }
        open.insert(here.clone(), ());
        todo.push((here, true));
        todo.extend(
            next.into_iter()
                .filter(|after| !done.contains_key(after) && !open.contains_key(after))
                .map(|after| (after, false)),
        );
    }
    done.get(&start).copied().filter(|count| count.is_finite())
}

#[cfg(test)]
mod tests {
    use serde_json::json;

    use super::*;

    fn of(dialogue: &Dialogue) -> (Vec<LedgerRow>, Option<f64>) {
        ledger(dialogue, &Plan::new(dialogue).0)
    }

    fn outline(sections: serde_json::Value) -> Dialogue {
        let option = |key: &str| json!({"key": key, "label": {"en": key}});
        let field = |key: &str| {
            json!({"id": format!("fld_{key}"), "key": key, "label": key, "type": "choice",
            "options": [option("a"), option("b"), option("c")]})
        };
        let file = json!({
            "format": "lumbo.dialogue/1", "id": "x", "title": "X", "language": "en",
            "opening": {"say": {"en": "Hello"}, "button": {"en": "Go"}},
            "outcomes": [{"id": "end", "label": "End", "class": "looking"}],
            "fields": [field("one"), field("two")], "sections": sections
        });
        lumbo_dialogue::file::load(&file.to_string()).unwrap()
    }

    fn ask(id: &str, field: &str, arms: serde_json::Value) -> serde_json::Value {
        json!({"kind": "ask", "id": id, "say": {"text": {"en": "?"}}, "field": field, "arms": arms})
    }

    fn close(id: &str) -> serde_json::Value {
        json!({"kind": "close", "id": id, "outcome": "end"})
    }

    #[test]
    fn ways_multiply_along_the_outline_and_add_up_over_arms() {
        let arm = |id: &str, option: &str, turns: serde_json::Value| {
            json!({"id": id, "when": {"options": [option]},
            "turns": turns})
        };
        let dialogue = outline(json!([{"id": "s", "title": "S", "then": "carry_on", "turns": [
            ask("t1", "one", json!([arm("a1", "a", json!([ask("t2", "two", json!([arm("b1", "a", json!([])), arm("b2",
                "b", json!([])), arm("b3", "c", json!([]))]))])), arm("a2", "b", json!([]))])),
            close("t3")
        ]}]));
        // By hand: option a leads to three ways, b to one, c (no arm) to one.
        let (rows, all) = of(&dialogue);
        assert_eq!(all, Some(5.0));
        assert_eq!((rows[0].share, rows[1].share), (Some(1.0), Some(0.6)));
    }

    #[test]
    fn a_visited_section_is_counted_where_it_is_visited_and_a_loop_once() {
        let dialogue = outline(json!([
            {"id": "s", "title": "S", "then": "carry_on", "turns": [json!({"kind": "visit", "id": "v",
                "section": "r"}), ask("t1", "one", json!([{"id": "a1", "when": {"options": ["a"]}, "turns": [],
                "then": {"go_to": "s"}}])), close("t2")]},
            {"id": "r", "title": "R", "then": "return", "turns": [ask("t3", "two", json!([]))]}
        ]));
        let (rows, all) = of(&dialogue);
        assert_eq!(all, Some(2.0));
        assert_eq!((rows[0].share, rows[1].share), (Some(1.0), Some(1.0)));
    }

    #[test]
    fn the_demo_captures_what_a_lead_must_carry_on_some_ways_and_not_on_others() {
        let demo = lumbo_dialogue::file::load(include_str!("../../../../demo/storage-enquiry.json")).unwrap();
        let (rows, all) = of(&demo);
        assert!(all.unwrap() > 10.0);
        let interest = rows.iter().find(|row| row.key == "interest").unwrap();
        assert_eq!(interest.share, Some(1.0), "the first question is on every way");
        let email = rows.iter().find(|row| row.key == "email").unwrap();
        assert!(email.share.unwrap() > 0.0 && email.share.unwrap() < 1.0);
    }

    #[test]
    fn a_very_long_outline_is_counted_without_running_out_of_stack() {
        let arms = |n: usize| {
            json!([{"id": format!("a{n}"), "when": {"options": ["a"]}, "turns": []},
            {"id": format!("b{n}"), "when": {"options": ["b"]}, "turns": []}])
        };
        let turns: Vec<_> = (0..2_000).map(|n| ask(&format!("t{n}"), "one", arms(n))).chain([close("end")]).collect();
        let (rows, all) = of(&outline(json!([{"id": "s", "title": "S", "then": "carry_on", "turns": turns}])));
        assert_eq!((all, rows[0].share), (None, None), "three to the power of two thousand is past what is counted");
    }
}
