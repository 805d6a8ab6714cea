//! Tell as the conversation comes to it.

use crate::plan::{Next, Node, ReadyPart};
use crate::talk::Event;
use crate::talk::step::Run;

pub(crate) fn run(run: &mut Run<'_>, node: &Node, parts: &[ReadyPart]) -> Option<Next> {
    let lines = parts.iter().map(|part| run.part(&node.id, part)).collect();
    run.emit(Event::Said { turn: node.id.clone(), lines });
    Some(node.next)
}
