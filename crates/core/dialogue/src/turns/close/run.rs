//! Close as the conversation comes to it.

use super::CloseNode;
use crate::plan::{Next, Node};
use crate::talk::step::Run;
use crate::talk::{Event, Line};

pub(crate) fn run(run: &mut Run<'_>, node: &Node, close: &CloseNode) -> Option<Next> {
    let say = close.say.as_ref().map(|say| Line::Text { text: run.wording(&node.id, say) });
    let link = close.link.as_ref().map(|(label, url)| Line::Link { label: run.render(label), url: url.clone() });
    let lines = say.into_iter().chain(link).collect();
    run.emit(Event::Closed { turn: Some(node.id.clone()), outcome: close.outcome.clone(), lines });
    None
}
