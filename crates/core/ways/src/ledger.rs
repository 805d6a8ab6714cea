//! The field ledger: where each field is captured, whether on every way that comes to a lead, and what reads it.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use lumbo_dialogue::file::{Dialogue, FieldType};
use lumbo_dialogue::turns::uses::{Use, UseKind, all_uses};

use crate::reach::Reach;

/// What the ledger says of one field.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
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
    /// On which ways it is captured; absent where too much can happen to tell.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub captured: Option<Captured>,
    /// A lead must carry it, alone or as one of several, and may be filed without.
    pub may_lack: bool,
    /// Every place that captures or reads it.
    pub uses: Vec<Use>,
}

/// On which of the ways that come to a lead, or to an end where none is filed, a field is asked for or worked out.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Captured {
    /// On every one.
    Every,
    /// On some.
    Some,
    /// On none.
    None,
}

/// The ledger, in the order of the dialogue's fields.
#[must_use]
pub fn ledger(dialogue: &Dialogue, reach: &Reach) -> Vec<LedgerRow> {
    let mut uses = all_uses(dialogue);
    dialogue
        .fields
        .iter()
        .map(|field| {
            let uses = uses.remove(&field.key).unwrap_or_default();
            LedgerRow {
                field: field.id.clone(),
                key: field.key.clone(),
                label: field.label.clone(),
                kind: field.kind,
                needed: uses.iter().any(|place| place.kind == UseKind::Needed),
                captured: reach.captured.get(&field.key).copied(),
                may_lack: reach.lacks.iter().any(|gap| gap.fields.contains(&field.key)),
                uses,
            }
        })
        .collect()
}

#[cfg(test)]
mod tests {
    use serde_json::json;

    use lumbo_dialogue::plan::Plan;

    use super::*;
    use crate::reach::reach;

    fn of(dialogue: &Dialogue) -> Vec<LedgerRow> {
        let (plan, _) = Plan::new(dialogue);
        ledger(dialogue, &reach(&plan, "2026-11-23T09:00:00Z".parse().unwrap(), &|| false).unwrap())
    }

    fn outline(turns: serde_json::Value) -> Dialogue {
        let option = |key: &str| json!({"key": key, "label": {"en": key}});
        let field = |key: &str| {
            json!({"id": format!("fld_{key}"), "key": key, "label": key, "type": "choice",
            "options": [option("a"), option("b")]})
        };
        let file = json!({
            "format": "lumbo.dialogue/1", "id": "x", "title": "X", "language": "en",
            "opening": {"say": {"en": "Hello"}, "button": {"en": "Go"}},
            "outcomes": [{"id": "end", "label": "End", "class": "lead"}],
            "fields": [field("one"), field("two"), field("three")],
            "sections": [{"id": "s", "title": "S", "then": "carry_on", "turns": turns}]
        });
        lumbo_dialogue::file::load(&file.to_string()).unwrap()
    }

    fn ask(id: &str, field: &str, arms: &serde_json::Value) -> serde_json::Value {
        json!({"kind": "ask", "id": id, "say": {"text": {"en": "?"}}, "field": field, "arms": arms})
    }

    #[test]
    fn a_field_is_captured_on_every_way_on_some_or_on_none() {
        let close = json!({"kind": "close", "id": "end", "outcome": "end"});
        let inner = json!([{"id": "a1", "when": {"options": ["a"]}, "turns": [ask("t2", "two", &json!([]))]}]);
        let rows = of(&outline(json!([ask("t1", "one", &inner), close])));
        let captured: Vec<_> = rows.iter().map(|row| row.captured).collect();
        assert_eq!(captured, [Some(Captured::Every), Some(Captured::Some), Some(Captured::None)]);
    }

    #[test]
    fn a_way_that_its_condition_rules_out_does_not_count() {
        // The arm below can only be taken where the field is a, which the ask does not offer.
        let mut first = ask("t1", "one", &json!([]));
        first["only"] = json!(["b"]);
        first["rules"] = json!([{"rule": "required"}]);
        let fork = json!({"kind": "fork", "id": "t2", "arms": [{"id": "a1",
            "when": {"holds": {"compare": {"what": "one", "is": "is", "to": "a"}}},
            "turns": [ask("t3", "two", &json!([]))]}]});
        let rows = of(&outline(json!([first, fork, {"kind": "close", "id": "end", "outcome": "end"}])));
        assert_eq!(rows[1].captured, Some(Captured::None));
    }

    #[test]
    fn the_demo_says_which_needs_a_lead_may_lack() {
        let demo = lumbo_dialogue::file::load(include_str!("../../../../demo/storage-enquiry.json")).unwrap();
        let rows = of(&demo);
        let row = |key: &str| rows.iter().find(|row| row.key == key).unwrap();
        assert_eq!((row("interest").captured, row("interest").may_lack), (Some(Captured::Every), false));
        assert_eq!((row("email").captured, row("email").may_lack), (Some(Captured::Every), true));
        assert_eq!(row("blast_freezing").captured, Some(Captured::Some));
    }
}
