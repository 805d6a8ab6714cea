//! Ask together as the conversation comes to it.

use super::FormNode;
use crate::plan::{Next, Node};
use crate::talk::step::Run;
use crate::talk::{Event, Stage};

/// Passes it where every field is known; else opens the form.
pub(crate) fn run(run: &mut Run<'_>, node: &Node, form: &FormNode) -> Option<Next> {
    let id = |field: usize| run.plan.file.fields[field].id.clone();
    let fields: Vec<String> = form.fields.iter().map(|wanted| id(wanted.field)).collect();
    if fields.iter().all(|field| run.state.values.contains_key(field)) {
        fields.into_iter().for_each(|field| run.emit(Event::KnownAlready { turn: node.id.clone(), field }));
        return Some(node.next);
    }
    let text = run.wording(&node.id, &form.say);
    run.emit(Event::Asked { turn: node.id.clone(), text, stage: Stage::Form(fields) });
    None
}
