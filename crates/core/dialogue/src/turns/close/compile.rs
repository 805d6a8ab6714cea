//! Close made ready.

use lumbo_value::text::Piece;

use super::Close;
use crate::plan::Kind;
use crate::plan::compile::{Compiler, Wrong};

/// A Close made ready.
#[derive(Debug, Clone)]
pub struct CloseNode {
    /// The outcome's id.
    pub outcome: String,
    /// The last line, with its other wordings.
    pub say: Option<Vec<Vec<Piece>>>,
    /// A link.
    pub link: Option<(Vec<Piece>, String)>,
}

pub(super) fn compile(close: &Close, compiler: &mut Compiler<'_>, at: &str) -> Result<Kind, Wrong> {
    compiler.outcome(&close.outcome, at);
    Ok(Kind::Close(Box::new(CloseNode {
        outcome: close.outcome.clone(),
        say: close.say.as_ref().map(|say| compiler.wordings(say, at)),
        link: close.link.as_ref().map(|link| compiler.link(link, at)),
    })))
}
