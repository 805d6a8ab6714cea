//! Small made-up outlines with loops, visits, correlated conditions, clamps, caps and rule-outs; and smaller ones of a
//! given one.

use serde_json::{Value, json};

/// A small generator of numbers (SplitMix64, Steele, Lea and Flood 2014, from memory).
pub struct Chance(pub u64);

impl Chance {
    fn next(&mut self) -> u64 {
        self.0 = self.0.wrapping_add(0x9e37_79b9_7f4a_7c15);
        let mut z = self.0;
        z = (z ^ (z >> 30)).wrapping_mul(0xbf58_476d_1ce4_e5b9);
        z = (z ^ (z >> 27)).wrapping_mul(0x94d0_49bb_1331_11eb);
        z ^ (z >> 31)
    }
    fn below(&mut self, end: usize) -> usize {
        usize::try_from(self.next() % end as u64).unwrap()
    }
    fn one_in(&mut self, end: usize) -> bool {
        self.below(end) == 0
    }
    pub fn of<'a, T>(&mut self, among: &'a [T]) -> &'a T {
        &among[self.below(among.len())]
    }
}

struct Maker {
    chance: Chance,
    ids: usize,
    sections: usize,
}

const CHOICES: [(&str, [&str; 3]); 2] = [("fruit", ["apple", "pear", "plum"]), ("metal", ["iron", "copper", "zinc"])];

/// A made-up dialogue.
pub fn made_up(seed: u64) -> Value {
    let mut maker = Maker { chance: Chance(seed), ids: 0, sections: 0 };
    maker.sections = 1 + maker.chance.below(3);
    let sections: Vec<Value> = (0..maker.sections).map(|section| maker.section(section)).collect();
    let option = |key: &str| json!({"key": key, "label": {"en": key}});
    let mut fields: Vec<Value> = CHOICES
        .iter()
        .map(|(key, options)| {
            json!({"id": format!("fld_{key}"), "key": key, "label": key, "type": "choice",
                "options": options.map(option)})
        })
        .collect();
    for (key, kind) in
        [("sure", "yes_no"), ("count", "whole_number"), ("sum", "whole_number"), ("kind", "text"), ("agree", "consent")]
    {
        fields.push(json!({"id": format!("fld_{key}"), "key": key, "label": key, "type": kind}));
    }
    let mut side_talk = Vec::new();
    if maker.chance.one_in(5) {
        let to = format!("s{}", maker.chance.below(maker.sections));
        side_talk.push(
            json!({"id": "away", "phrases": {"en": ["take me elsewhere"]}, "matches": "whole", "does": {"go_to": to}}),
        );
    }
    json!({
        "format": "lumbo.dialogue/1", "id": "made-up", "title": "Made up", "language": "en",
        "opening": {"say": {"en": "Hello"}, "button": {"en": "Go"}},
        "brief": {"needs": [["fruit"], ["count", "sure"]]},
        "outcomes": [{"id": "good", "label": "Good", "class": "lead"}, {"id": "bad", "label": "Bad",
            "class": "looking"}],
        "fields": fields,
        "sections": sections,
        "side_talk": side_talk,
        "scorecards": [maker.card()],
        "routing": {"rules": [{"id": "r1", "holds": maker.condition(1), "queue": "one"},
            {"id": "r2", "holds": {"compare": {"what": "@band", "is": "is", "to": "high"}}, "queue": "two"}],
                "otherwise": "three"},
        "settings": {"entries_per_section": 4, "extras_per_ask": 2}
    })
}

impl Maker {
    fn id(&mut self, what: &str) -> String {
        self.ids += 1;
        format!("{what}{}", self.ids)
    }

    fn section(&mut self, number: usize) -> Value {
        let turns = self.turns(number, 0, 2 + usize::from(number == 0));
        let last = number + 1 == self.sections;
        let then = if last || self.chance.one_in(4) {
            json!({"close": {"outcome": self.outcome()}})
        } else if self.chance.one_in(5) {
            json!("return")
        } else if self.chance.one_in(4) {
            json!({"go_to": format!("s{}", self.chance.below(self.sections))})
        } else {
            json!("carry_on")
        };
        json!({"id": format!("s{number}"), "title": format!("Section {number}"), "turns": turns, "then": then})
    }

    fn outcome(&mut self) -> &'static str {
        if self.chance.one_in(2) { "good" } else { "bad" }
    }

    fn turns(&mut self, section: usize, depth: usize, most: usize) -> Vec<Value> {
        let count = self.chance.below(most + 1) + usize::from(depth == 0);
        (0..count).map(|_| self.turn(section, depth)).collect()
    }

    fn then(&mut self) -> Value {
        match self.chance.below(8) {
            0 => json!({"go_to": format!("s{}", self.chance.below(self.sections))}),
            1 => json!({"close": {"outcome": self.outcome()}}),
            _ => json!("rejoin"),
        }
    }

    fn arm(&mut self, when: Value, section: usize, depth: usize) -> Value {
        let turns = if depth < 2 { self.turns(section, depth + 1, 1) } else { Vec::new() };
        json!({"id": self.id("a"), "when": when, "turns": turns, "then": self.then()})
    }

    fn condition_arms(&mut self, section: usize, depth: usize) -> Vec<Value> {
        let count = 1 + self.chance.below(2);
        let mut arms: Vec<Value> = (0..count)
            .map(|_| {
                let condition = self.condition(2);
                self.arm(json!({"holds": condition}), section, depth)
            })
            .collect();
        if self.chance.one_in(2) {
            arms.push(self.arm(json!("otherwise"), section, depth));
        }
        arms
    }

    fn turn(&mut self, section: usize, depth: usize) -> Value {
        match self.chance.below(14) {
            0..=4 => self.ask(section, depth),
            5 | 6 => json!({"kind": "fork", "id": self.id("t"), "arms": self.condition_arms(section, depth)}),
            7 => {
                let key = *self.chance.of(&["fruit", "count", "sum", "sure"]);
                json!({"kind": "tell", "id": self.id("t"),
                    "say": [{"line": {"text": {"en": format!("So {{{key}}}")}}}]})
            }
            8 => {
                let (field, formula) = *self.chance.of(&[
                    ("sum", "count * 2"),
                    ("sum", "IF(fruit = \"apple\", 3, 12)"),
                    ("sum", "COALESCE(count, 0) + 1"),
                    ("kind", "IF(sure, metal, \"none\")"),
                    ("sum", "8 / 2"),
                ]);
                json!({"kind": "work_out", "id": self.id("t"), "fills": [{"field": field, "formula": formula}]})
            }
            9 | 10 => {
                let mut arms = Vec::new();
                if self.chance.one_in(2) {
                    let band = *self.chance.of(&["low", "middle", "high"]);
                    arms.push(self.arm(json!({"band": [band]}), section, depth));
                    if self.chance.one_in(2) {
                        arms.push(self.arm(json!("ruled_out"), section, depth));
                    }
                }
                if self.chance.one_in(3) {
                    arms.push(self.arm(json!("lacks"), section, depth));
                }
                json!({"kind": "file_lead", "id": self.id("t"), "arms": arms})
            }
            11 if section + 1 < self.sections => {
                json!({"kind": "visit", "id": self.id("t"), "section": format!("s{}", section + 1)})
            }
            12 => match self.chance.below(3) {
                0 => json!({"kind": "ask_together", "id": self.id("t"), "say": {"text": {"en": "These?"}}, "tries": 2,
                    "fields": [{"field": "fruit", "rules": [{"rule": "required"}]}, {"field": "sure"}],
                    "way_out": if self.chance.one_in(2) { json!("go_on") } else { json!({"go_to": format!("s{}",
                        self.chance.below(self.sections))}) }}),
                1 => json!({"kind": "open_ask", "id": self.id("t"), "say": {"text": {"en": "Tell us"}},
                    "fields": ["fruit", "metal"],
                        "missing": if self.chance.one_in(2) { "together" } else { "one_by_one" }}),
                _ => {
                    json!({"kind": "read_back", "id": self.id("t"), "say": {"text": {"en": "Right?"}},
                        "fields": ["fruit", "count"]})
                }
            },
            _ if self.chance.one_in(3) => json!({"kind": "close", "id": self.id("t"), "outcome": self.outcome()}),
            _ => self.ask(section, depth),
        }
    }

    fn ask(&mut self, section: usize, depth: usize) -> Value {
        let field = *self.chance.of(&["fruit", "metal", "sure", "count", "fruit", "sure", "count", "agree"]);
        let id = self.id("t");
        let mut arms = Vec::new();
        let options: Vec<&str> = match field {
            "sure" | "agree" => vec!["yes", "no"],
            "count" => Vec::new(),
            key => CHOICES.iter().find(|(known, _)| *known == key).unwrap().1.to_vec(),
        };
        if options.is_empty() {
            if self.chance.one_in(2) {
                arms = self.condition_arms(section, depth);
            }
        } else if self.chance.one_in(2) {
            let count = 1 + self.chance.below(options.len());
            for option in &options[..count] {
                arms.push(self.arm(json!({"options": [option]}), section, depth));
            }
        }
        let mut way_out = match self.chance.below(5) {
            0 => json!({"go_to": format!("s{}", self.chance.below(self.sections))}),
            _ => json!("go_on"),
        };
        if self.chance.one_in(5) {
            let arm = self.arm(json!("way_out"), section, depth);
            way_out = json!({"arm": arm["id"]});
            arms.push(arm);
        }
        let mut ask = json!({"kind": "ask", "id": id, "say": {"text": {"en": format!("{field}?")}}, "field": field,
            "tries": 1,
            "arms": arms, "way_out": way_out});
        if self.chance.one_in(4) {
            ask["skip"] = json!({"en": "Skip"});
        } else if self.chance.one_in(4) {
            ask["rules"] = json!([{"rule": "required"}]);
        }
        if field == "count" && self.chance.one_in(3) {
            ask["rules"] = json!([{"rule": "range", "min": "5"}]);
        }
        if self.chance.one_in(5) {
            ask["if_known"] = json!("confirm");
        }
        ask
    }

    fn condition(&mut self, depth: usize) -> Value {
        if depth > 0 && self.chance.one_in(3) {
            let parts = [self.condition(depth - 1), self.condition(depth - 1)];
            return if self.chance.one_in(2) { json!({"all": parts}) } else { json!({"any": parts}) };
        }
        let compare = |what: &str, is: &str, to: Value| {
            let mut comparison = json!({"what": what, "is": is});
            if !to.is_null() {
                comparison["to"] = to;
            }
            json!({ "compare": comparison })
        };
        match self.chance.below(8) {
            0 => compare("fruit", "is", json!(*self.chance.of(&["apple", "pear", "plum"]))),
            1 => compare("fruit", "is_not", json!(*self.chance.of(&["apple", "pear"]))),
            2 => compare("metal", "is_one_of", json!(["iron", "zinc"])),
            3 => compare("sure", "is", json!(*self.chance.of(&["yes", "no"]))),
            4 => {
                let is = *self.chance.of(&["at_least", "less_than"]);
                compare("count", is, json!(*self.chance.of(&["5", "10"])))
            }
            5 => {
                let what = *self.chance.of(&["fruit", "count", "sure"]);
                let is = *self.chance.of(&["is_missing", "is_known"]);
                compare(what, is, Value::Null)
            }
            6 => compare("count", "between", json!(["5", "9"])),
            _ => compare("agree", "is", json!(*self.chance.of(&["yes", "no"]))),
        }
    }

    fn points(&mut self) -> i64 {
        *self.chance.of(&[5, 10, 15, -5, -20, 30])
    }

    fn card(&mut self) -> Value {
        let mut dimensions = Vec::new();
        for dimension in 0..1 + self.chance.below(2) {
            let criteria: Vec<Value> = (0..1 + self.chance.below(3))
                .map(|_| {
                    let id = self.id("c");
                    let gives = if self.chance.one_in(4) {
                        json!({"table": {"field": "count", "rows": [{"from": "10", "points": self.points()},
                            {"from": "5", "below": "10", "points": self.points()}]}})
                    } else if self.chance.one_in(6) {
                        json!({"formula": "IF(sure, 7, 2)"})
                    } else {
                        json!({"when": {"holds": self.condition(1), "points": self.points()}})
                    };
                    json!({"id": id, "gives": gives})
                })
                .collect();
            let mut one = json!({"id": format!("d{dimension}"), "title": "D", "criteria": criteria});
            if self.chance.one_in(2) {
                one["ceiling"] = json!(20);
            }
            if self.chance.one_in(3) {
                one["floor"] = json!(-5);
            }
            dimensions.push(one);
        }
        let mut card = json!({"id": "card", "title": "Card", "dimensions": dimensions,
            "bands": [{"id": "low", "label": "Low"}, {"id": "middle", "label": "Middle", "from": 10}, {"id": "high",
                "label": "High", "from": 25}]});
        if self.chance.one_in(2) {
            card["must_haves"] = json!([{"id": "m1", "holds": self.condition(1), "cap": "middle"}]);
        }
        if self.chance.one_in(3) {
            card["rule_outs"] = json!([{"id": "o1", "holds": self.condition(1), "reason": {"en": "No"}}]);
        }
        card
    }
}

/// The same outline with one thing less, each in turn.
pub fn smaller(file: &Value) -> Vec<Value> {
    let mut out = Vec::new();
    let mut paths = Vec::new();
    lists(file, String::new(), &mut paths);
    for (path, length) in paths {
        for place in 0..length {
            let mut less = file.clone();
            if let Some(list) = less.pointer_mut(&path).and_then(Value::as_array_mut) {
                list.remove(place);
                out.push(less);
            }
        }
    }
    for path in ["/scorecards/0/must_haves", "/scorecards/0/rule_outs"] {
        if file.pointer(path).is_some() {
            let mut less = file.clone();
            if let Some(list) = less.pointer_mut(path).and_then(Value::as_array_mut) {
                list.clear();
            }
            if less != *file {
                out.push(less);
            }
        }
    }
    out
}

fn lists(value: &Value, path: String, out: &mut Vec<(String, usize)>) {
    match value {
        Value::Object(map) => {
            for (key, inner) in map {
                let path = format!("{path}/{key}");
                if matches!(key.as_str(), "turns" | "arms" | "criteria" | "rules" | "side_talk" | "dimensions")
                    && let Some(list) = inner.as_array()
                {
                    out.push((path.clone(), list.len()));
                }
                if matches!(
                    key.as_str(),
                    "sections" | "turns" | "arms" | "criteria" | "scorecards" | "dimensions" | "routing"
                ) {
                    lists(inner, path, out);
                }
            }
        }
        Value::Array(list) => {
            list.iter().enumerate().for_each(|(place, inner)| lists(inner, format!("{path}/{place}"), out));
        }
        _ => {}
    }
}
