//! Work out as the conversation comes to it.

use lumbo_formula::Formula;
use lumbo_reading::shown;
use lumbo_value::{FieldType, Value};

use crate::plan::{Next, Node};
use crate::talk::Event;
use crate::talk::step::Run;

pub(crate) fn run(run: &mut Run<'_>, node: &Node, fills: &[(usize, Formula)]) -> Option<Next> {
    for (field, formula) in fills {
        run.work_out(&node.id, *field, formula);
    }
    Some(node.next)
}

impl Run<'_> {
    fn work_out(&mut self, turn: &str, field: usize, formula: &Formula) {
        let field = &self.plan.file.fields[field];
        let known = self.known(None);
        let (value, words) = match formula.run(&known) {
            Ok(Some(value)) => {
                // A text that equals an option's key fills a choice; a formula knows only texts.
                let value = match (&value, field.kind) {
                    (Value::Text { text }, FieldType::Choice) => Value::choice(text.clone()),
                    _ => value,
                };
                let words = shown(field, &value, &self.plan.language, &self.plan.file.language);
                (Some(value), words)
            }
            Ok(None) => (None, "missing: something it needs is missing".to_owned()),
            Err(error) => (None, format!("missing: {error}")),
        };
        let before = self.state.points;
        let after = match &value {
            Some(value) => self.points_with(field, Some(value)),
            None => {
                self.state.values.remove(&field.id);
                self.points_with(field, None)
            }
        };
        let others = self.others_with(field, value.as_ref());
        self.emit(Event::WorkedOut {
            turn: turn.to_owned(),
            field: field.id.clone(),
            value,
            shown: words,
            before,
            after,
            others,
        });
    }
}
