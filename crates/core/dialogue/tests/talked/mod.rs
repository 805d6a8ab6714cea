//! Holding a conversation in a test.

#![allow(dead_code, reason = "each test file uses its part")]
#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use lumbo_dialogue::file::Dialogue;
use lumbo_dialogue::plan::Plan;
use lumbo_dialogue::talk::{Context, Env, Event, MarginLine, State, Told, Who, margin, script};
use lumbo_reading::domains::DomainLists;

pub fn dialogue(sections: serde_json::Value, extra: serde_json::Value) -> Dialogue {
    let mut file = serde_json::json!({
        "format": "lumbo.dialogue/1", "id": "capture", "title": "Capture", "language": "en",
        "opening": {"say": {"en": "Hello"}, "button": {"en": "Begin"}},
        "fields": [
            {"id": "f_temp", "key": "temperature", "label": "Temperature", "type": "choice",
                "options": [{"key": "frozen", "label": {"en": "Frozen"}}, {"key": "chilled",
                "label": {"en": "Chilled"}}]},
            {"id": "f_pallets", "key": "pallets", "label": "Pallets", "type": "quantity", "unit": "pallets"},
            {"id": "f_start", "key": "start", "label": "Start", "type": "date"},
            {"id": "f_name", "key": "name", "label": "Name", "type": "person_name", "rules": [{"rule": "full_name"}]},
            {"id": "f_company", "key": "company", "label": "Company", "type": "company"},
            {"id": "f_email", "key": "email", "label": "E-mail", "type": "email"},
            {"id": "f_phone", "key": "phone", "label": "Phone", "type": "phone"},
            {"id": "f_extras", "key": "extras", "label": "Extras", "type": "choices", "options": [{"key": "blast",
                "label": {"en": "Blast freezing"}}, {"key": "haulage", "label": {"en": "Haulage"}}],
                "rules": [{"rule": "at_most", "n": 1}]},
            {"id": "f_consent", "key": "consent", "label": "Consent", "type": "consent"}
        ],
        "outcomes": [{"id": "lead", "label": "Lead", "class": "lead"}, {"id": "looking", "label": "Looking",
            "class": "looking"}],
        "sections": sections
    });
    for (key, value) in extra.as_object().unwrap() {
        file[key] = value.clone();
    }
    serde_json::from_value(file).unwrap()
}

pub fn ask(id: &str, field: &str, words: &str) -> serde_json::Value {
    serde_json::json!({"kind": "ask", "id": id, "say": {"text": {"en": words}}, "field": field})
}

pub fn with(mut turn: serde_json::Value, more: serde_json::Value) -> serde_json::Value {
    for (key, value) in more.as_object().unwrap() {
        turn[key] = value.clone();
    }
    turn
}

pub fn section(turns: Vec<serde_json::Value>) -> serde_json::Value {
    serde_json::json!([{"id": "main", "title": "Main", "turns": turns, "then": {"close": {"outcome": "lead",
        "say": {"en": "Thank you."}}}}])
}

/// A conversation that was held.
pub struct Talked {
    pub plan: Plan,
    pub events: Vec<Event>,
    pub state: State,
}

impl Talked {
    /// With a prospect in Great Britain of whom nothing else is known.
    pub fn run(file: &Dialogue, replies: &[&str]) -> Self {
        let context = Context { country: Some("GB".into()), ..Context::default() };
        Self::with(
            file,
            replies,
            Env {
                now: "2026-11-23T10:00:00Z".parse().unwrap(),
                seed: 7,
                context: &context,
                known: &[],
                domains: DomainLists::none(),
            },
        )
    }

    pub fn with(file: &Dialogue, replies: &[&str], env: Env<'_>) -> Self {
        let (plan, faults) = Plan::new(file);
        assert!(faults.is_empty(), "{faults:?}");
        let inputs: Vec<script::Line> =
            replies.iter().enumerate().map(|(index, reply)| script::line(reply, index + 1).unwrap()).collect();
        let (events, state) = script::run(&plan, &inputs, env).unwrap();
        // Folding the events again gives the same state.
        assert_eq!(State::of(&events), state);
        // What was recorded can be kept and read again.
        let json = serde_json::to_string(&state).unwrap();
        assert_eq!(serde_json::from_str::<State>(&json).unwrap(), state);
        Self { plan, events, state }
    }

    pub fn shows(&self, key: &str) -> Option<String> {
        let field = self.plan.field_by_key(key)?;
        self.state.values.get(&field.id).map(|held| lumbo_reading::shown(field, &held.value, "en", "en"))
    }

    pub fn said(&self) -> Vec<String> {
        let text = |line: &MarginLine| {
            if let lumbo_dialogue::talk::Line::Text { text } = &line.line { text.clone() } else { String::new() }
        };
        margin(&self.plan, &self.events, Told::Rehearsed).iter().filter(|line| line.who != Who::You).map(text).collect()
    }

    pub fn last(&self) -> String {
        self.said().last().cloned().unwrap_or_default()
    }
}
