//! Open ask as the conversation comes to it.

use super::OpenNode;
use crate::plan::{Next, Node};
use crate::talk::step::Run;
use crate::talk::{Event, Stage};

/// Passes it where every field is known; else asks.
pub(crate) fn run(run: &mut Run<'_>, node: &Node, open: &OpenNode) -> Option<Next> {
    let known = |field: &usize| run.state.values.contains_key(&run.plan.file.fields[*field].id);
    if open.fields.iter().all(known) {
        return Some(node.next);
    }
    let text = run.wording(&node.id, &open.say);
    run.emit(Event::Asked { turn: node.id.clone(), text, stage: Stage::Open });
    None
}
