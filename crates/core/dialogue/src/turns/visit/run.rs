//! Visit as the conversation comes to it.

use crate::plan::{Next, Node};
use crate::talk::Event;
use crate::talk::step::Run;

/// Deepest nesting of visits.
const VISIT_LIMIT: usize = 50;

pub(crate) fn run(run: &mut Run<'_>, node: &Node, section: usize) -> Option<Next> {
    if run.state.visits.len() >= VISIT_LIMIT || run.state.visits.contains(&node.id) {
        run.fall_back("visits nest in a circle");
        return None;
    }
    run.emit(Event::Visited { turn: node.id.clone() });
    run.enter(section)
}
