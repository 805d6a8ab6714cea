//! How long Reach takes over a named corpus of outlines, each in three sizes: the median of five runs, the pieces that
//! were looked at, the fields that could not be followed, and the memory at its highest.
//!
//! `cargo bench -p lumbo-ways`, or `cargo bench -p lumbo-ways -- correlated` for one.
#![allow(clippy::unwrap_used, clippy::panic, reason = "a bench is a test of speed")]

use std::time::Instant;

use lumbo_dialogue::{Plan, file::load};
use lumbo_ways::reach::reach;
use serde_json::{Value, json};

fn main() {
    let only = std::env::args().skip(1).find(|word| !word.starts_with("--"));
    println!("{:<12} {:>6} {:>5} {:>9} {:>8} {:>9}", "outline", "turns", "arms", "ms", "pieces", "loose");
    for (name, make) in CORPUS {
        if only.as_deref().is_some_and(|only| only != *name) {
            continue;
        }
        for size in [125, 250, 500] {
            one(name, &make(size));
        }
    }
    let status = std::fs::read_to_string("/proc/self/status").unwrap_or_default();
    if let Some(line) = status.lines().find(|line| line.starts_with("VmHWM")) {
        println!("memory at its highest: {}", line.trim_start_matches("VmHWM:").trim());
    }
}

fn one(name: &str, file: &Value) {
    let dialogue = load(&file.to_string()).unwrap_or_else(|error| panic!("{name}: {error}"));
    let (plan, _) = Plan::new(&dialogue);
    let arms: usize = plan.turns.iter().map(|node| node.arms.len()).sum();
    let mut times = Vec::new();
    let mut last = None;
    for _ in 0..5 {
        let at = Instant::now();
        last = reach(&plan, "2026-11-23T09:00:00Z".parse().unwrap(), &|| false);
        times.push(at.elapsed().as_secs_f64() * 1_000.0);
    }
    times.sort_by(f64::total_cmp);
    let found = last.unwrap();
    println!(
        "{name:<12} {:>6} {arms:>5} {:>9.1} {:>8} {:>9}",
        plan.turns.len(),
        times[2],
        found.pieces,
        found.over.len()
    );
}

type Make = fn(usize) -> Value;

/// Named outlines of a size in turns.
const CORPUS: &[(&str, Make)] = &[
    ("plain", plain),
    ("wide", wide),
    ("deep", deep),
    ("correlated", correlated),
    ("scored", scored),
    ("loops", loops),
    ("hostile", hostile),
    ("tangled", tangled),
];

fn field(number: usize) -> Value {
    let option = |key: &str| json!({"key": key, "label": {"en": key}});
    let options = ["a", "b", "c"].map(option);
    json!({"id": format!("fld_{number}"), "key": format!("f{number}"), "label": format!("F{number}"), "type": "choice",
        "options": options})
}

fn dialogue(fields: usize, sections: &Value, criteria: &[Value]) -> Value {
    json!({
        "format": "lumbo.dialogue/1", "id": "bench", "title": "Bench", "language": "en",
        "opening": {"say": {"en": "Hello"}, "button": {"en": "Go"}},
        "outcomes": [{"id": "end", "label": "End", "class": "lead"}],
        "fields": (0..fields).map(field).collect::<Vec<_>>(),
        "sections": sections,
        "scorecards": [{"id": "card", "title": "Card", "dimensions": [{"id": "d", "title": "D", "criteria": criteria,
            "ceiling": 100}], "bands": [{"id": "low", "label": "Low"}, {"id": "high", "label": "High", "from": 40}]}]
    })
}

fn ask(id: usize, field: usize, arms: &Value) -> Value {
    json!({"kind": "ask", "id": format!("t{id}"), "say": {"text": {"en": "?"}}, "field": format!("f{field}"),
        "skip": {"en": "Skip"}, "arms": arms})
}

fn tell(id: usize) -> Value {
    json!({"kind": "tell", "id": format!("t{id}"), "say": [{"line": {"text": {"en": "So."}}}]})
}

fn is(field: usize, option: &str) -> Value {
    json!({"compare": {"what": format!("f{field}"), "is": "is", "to": option}})
}

fn criterion(number: usize, field: usize) -> Value {
    json!({"id": format!("c{number}"), "gives": {"when": {"holds": is(field, "a"), "points": 5}}})
}

fn closing(turns: usize) -> Vec<Value> {
    vec![
        json!({"kind": "file_lead", "id": format!("t{turns}"), "arms": [
            {"id": "band", "when": {"band": ["high"]}, "turns": [tell(turns + 1)]}]}),
        json!({"kind": "close", "id": "close", "outcome": "end"}),
    ]
}

fn one_section(turns: Vec<Value>) -> Value {
    json!([{"id": "s0", "title": "S", "turns": turns, "then": "carry_on"}])
}

/// An outline as people write them: sections of a few asks, arms with an ask of their own, 60 arms at 500 turns.
fn plain(size: usize) -> Value {
    let (mut id, mut field) = (0, 0);
    let mut sections = Vec::new();
    let count = size / 25;
    for section in 0..count {
        let mut turns = Vec::new();
        while turns.len() < 16 {
            let arms: Vec<Value> = if turns.len() % 5 == 0 {
                ["a", "b", "c"]
                    .iter()
                    .take(if turns.is_empty() { 2 } else { 1 })
                    .map(|option| {
                        id += 2;
                        json!({"id": format!("a{id}"), "when": {"options": [option]}, "turns": [tell(id), ask(id + 1,
                            field + 1, &json!([]))]})
                    })
                    .collect()
            } else {
                Vec::new()
            };
            id += 2;
            turns.push(ask(id, field, &json!(arms)));
            field += 2;
        }
        if section + 1 == count {
            turns.extend(closing(id + 10));
        }
        sections.push(json!({"id": format!("s{section}"), "title": "S", "turns": turns, "then": "carry_on"}));
    }
    let criteria: Vec<Value> = (0..12).map(|number| criterion(number, number * field / 13 / 2 * 2)).collect();
    dialogue(field + 2, &json!(sections), &criteria)
}

/// Every ask has three arms, each with a line.
fn wide(size: usize) -> Value {
    let mut turns = Vec::new();
    for number in 0..size / 4 {
        let arms: Vec<Value> = ["a", "b", "c"]
            .iter()
            .enumerate()
            .map(|(place, option)| {
                json!({"id": format!("a{number}_{option}"), "when": {"options": [option]},
                    "turns": [tell(number * 4 + place + 1)]})
            })
            .collect();
        turns.push(ask(number * 4, number % 60, &json!(arms)));
    }
    turns.extend(closing(size * 2));
    dialogue(60, &one_section(turns), &[])
}

/// Arms within arms, nine deep.
fn deep(size: usize) -> Value {
    fn arm(id: &mut usize, depth: usize) -> Value {
        *id += 1;
        let here = *id;
        let turns = if depth == 0 { vec![tell(here)] } else { vec![ask(here, depth, &json!([arm(id, depth - 1)]))] };
        json!({"id": format!("a{here}"), "when": {"options": ["a"]}, "turns": turns})
    }
    let (mut id, mut turns) = (0, Vec::new());
    while id < size {
        id += 1;
        let here = id;
        turns.push(ask(here, 20 + here % 20, &json!([arm(&mut id, 8)])));
    }
    turns.extend(closing(id + 10));
    dialogue(40, &one_section(turns), &[])
}

/// Six fields asked first, then forks on them all the way down.
fn correlated(size: usize) -> Value {
    let mut turns: Vec<Value> = (0..6).map(|number| ask(number, number, &json!([]))).collect();
    for number in 6..size / 2 {
        let holds = json!({"all": [is(number % 6, "a"), is((number + 1) % 6, "b")]});
        turns.push(json!({"kind": "fork", "id": format!("t{}", number * 2), "arms": [
            {"id": format!("a{number}"), "when": {"holds": holds}, "turns": [tell(number * 2 + 1)]}]}));
    }
    turns.extend(closing(size * 2));
    dialogue(6, &one_section(turns), &[])
}

/// Forty criteria over as many fields, asked in arms that not everybody takes.
fn scored(size: usize) -> Value {
    let mut turns = Vec::new();
    for number in 0..size / 2 {
        let field = number % 40;
        let arm = json!({"id": format!("a{number}"), "when": {"options": ["a"]}, "turns": [ask(number * 2 + 1,
            40 + field, &json!([]))]});
        turns.push(ask(number * 2, field, &json!([arm])));
    }
    turns.extend(closing(size * 2));
    let criteria: Vec<Value> = (0..40).map(|number| criterion(number, 20 + number)).collect();
    dialogue(80, &one_section(turns), &criteria)
}

/// Sections that lead back to each other.
fn loops(size: usize) -> Value {
    let count = size / 10;
    let sections: Vec<Value> = (0..count)
        .map(|section| {
            let mut turns: Vec<Value> = (0..9)
                .map(|turn| {
                    let id = section * 10 + turn;
                    let back = json!([{"id": format!("a{id}"), "when": {"options": ["c"]}, "turns": [],
                        "then": {"go_to": format!("s{}", section.saturating_sub(3))}}]);
                    ask(id, id % 30, &if turn == 4 { back } else { json!([]) })
                })
                .collect();
            if section + 1 == count {
                turns.extend(closing(size * 2));
            }
            json!({"id": format!("s{section}"), "title": "S", "turns": turns, "then": "carry_on"})
        })
        .collect();
    dialogue(30, &json!(sections), &[])
}

/// As many fields as there are questions, each read again at the end: three to the power of them.
fn hostile(size: usize) -> Value {
    let count = size / 4;
    let mut turns = Vec::new();
    for number in 0..count {
        let arm = json!({"id": format!("a{number}"), "when": {"options": ["a"]}, "turns": [tell(number * 4 + 1)]});
        turns.push(ask(number * 4, number, &json!([arm])));
    }
    for number in 0..count {
        turns.push(json!({"kind": "fork", "id": format!("t{}", number * 4 + 2), "arms": [
            {"id": format!("b{number}"), "when": {"holds": is(number, "a")}, "turns": [tell(number * 4 + 3)]}]}));
    }
    turns.extend(closing(size * 2));
    dialogue(count, &one_section(turns), &[])
}

/// As many pairs of fields as there are questions, the second asked for only in an arm of the first, all read again at
/// the end: no two of them can be put together.
fn tangled(size: usize) -> Value {
    let count = size / 6;
    let mut turns = Vec::new();
    for number in 0..count {
        let arm = json!({"id": format!("a{number}"), "when": {"options": ["a"]},
            "turns": [ask(number * 6 + 1, count + number, &json!([]))]});
        turns.push(ask(number * 6, number, &json!([arm])));
    }
    for number in 0..count {
        let holds = json!({"all": [is(number, "a"), is(count + number, "b")]});
        turns.push(json!({"kind": "fork", "id": format!("t{}", number * 6 + 2), "arms": [
            {"id": format!("b{number}"), "when": {"holds": holds}, "turns": [tell(number * 6 + 3)]}]}));
    }
    turns.extend(closing(size * 2));
    dialogue(2 * count, &one_section(turns), &[])
}
