//! What questions about several fields share.

use super::step::Run;
use crate::plan::{Kind, Node};
use lumbo_reading::Taken;

impl<'a> Run<'a> {
    /// The line above a form, an open question or a list.
    pub(crate) fn line_above(&self, node: &Node) -> String {
        match &node.kind {
            Kind::AskTogether(form) => self.wording(&node.id, &form.say),
            Kind::OpenAsk(open) => self.wording(&node.id, &open.say),
            Kind::ReadBack(back) => self.wording(&node.id, &back.say),
            _ => String::new(),
        }
    }

    pub(crate) fn node_of_open(&self) -> Option<(usize, &'a Node)> {
        let plan = self.plan;
        plan.turn(&self.state.asking.as_ref()?.turn)
    }

    pub(crate) fn read_free(&self, reader: &lumbo_reading::FreeReader, text: &str) -> Vec<Taken> {
        reader.read(text, self.known(None).reading())
    }
}
