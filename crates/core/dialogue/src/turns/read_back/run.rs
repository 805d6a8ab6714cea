//! Read back as the conversation comes to it.

use super::ReadBackNode;
use crate::plan::{Next, Node};
use crate::talk::step::Run;
use crate::talk::{Event, Stage};

pub(crate) fn run(run: &mut Run<'_>, node: &Node, back: &ReadBackNode) -> Option<Next> {
    let text = run.wording(&node.id, &back.say);
    run.emit(Event::Asked { turn: node.id.clone(), text, stage: Stage::ReadBack });
    None
}
