//! Ask as the conversation comes to it.

use lumbo_reading::shown;
use lumbo_value::Missing;

use super::{AskNode, IfKnown};
use crate::plan::{Kind, Next, Node};
use crate::talk::step::One;
use crate::talk::step::Run;
use crate::talk::{Came, Event, Stage, WhyOut};

/// Passes it where its field is known or was left open elsewhere; else asks.
pub(crate) fn run<'a>(run: &mut Run<'a>, index: usize, node: &'a Node, ask: &'a AskNode) -> Option<Next> {
    let plan = run.plan;
    let field = &plan.file.fields[ask.field];
    if let Some(held) = run.state.values.get(&field.id)
        && (ask.if_known != IfKnown::Ask || held.turn.is_empty())
    {
        // What the site knows, and an ask that asks anyway: asked again only to confirm.
        if ask.if_known != IfKnown::Skip {
            let value = shown(field, &held.value, &plan.language, &plan.file.language);
            let text = lumbo_language::fill(plan.phrases.get("confirm.known"), &[("value", &value)]);
            run.emit(Event::Asked { turn: node.id.clone(), text, stage: Stage::Confirm });
            return None;
        }
        run.emit(Event::KnownAlready { turn: node.id.clone(), field: field.id.clone() });
        return Some(run.answer_arm(index, node, ask));
    }
    if let Some(why) = left_elsewhere(run, node, &field.id)
        && !run.state.values.contains_key(&field.id)
    {
        let missing = match why {
            WhyOut::Skipped => Missing::Skipped,
            WhyOut::Declined => Missing::Declined,
            WhyOut::Tries | WhyOut::Extras => Missing::NotReadable,
        };
        run.emit(Event::LeftOpen { turn: node.id.clone(), field: field.id.clone(), why, missing, message: None });
        return Some(run.way_out(One::of(index, node, ask), why));
    }
    let text = run.wording(&node.id, &ask.say);
    run.emit(Event::Asked { turn: node.id.clone(), text, stage: Stage::Ask });
    None
}

/// Why the field was left open at another turn, where that settles it: who skipped or declined it is not asked a second
/// time; nor who ran out of tries at an Open ask, which asked in the words of this one.
fn left_elsewhere(run: &Run<'_>, node: &Node, field: &str) -> Option<WhyOut> {
    let left = run.state.answers.iter().rev().find(|answer| answer.field == field && answer.turn != node.id)?;
    let opened = |node: &Node| matches!(node.kind, Kind::OpenAsk(_));
    match &left.came {
        Came::Left(why @ (WhyOut::Skipped | WhyOut::Declined)) => Some(*why),
        Came::Left(WhyOut::Tries) if run.plan.turn(&left.turn).is_some_and(|(_, node)| opened(node)) => {
            Some(WhyOut::Tries)
        }
        _ => None,
    }
}
