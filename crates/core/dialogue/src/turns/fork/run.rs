//! Fork as the conversation comes to it.

use crate::plan::{Next, Node, ReadyWhen};
use crate::talk::step::Run;

pub(crate) fn run(run: &mut Run<'_>, index: usize, node: &Node) -> Option<Next> {
    let taken = node.arms.iter().position(|arm| match &arm.when {
        ReadyWhen::Holds(condition) => run.with_facts(None, |facts| condition.decide(facts).holds()),
        ReadyWhen::Otherwise => true,
        ReadyWhen::Options(_) | ReadyWhen::Band(_) | ReadyWhen::RuledOut | ReadyWhen::Lacks | ReadyWhen::Never => false,
    });
    Some(run.take(index, taken))
}
