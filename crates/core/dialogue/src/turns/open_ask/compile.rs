//! Open ask made ready.

use lumbo_reading::FreeReader;
use lumbo_value::text::Piece;

use super::{AskMissing, OpenAsk};
use crate::plan::Kind;
use crate::plan::compile::{Compiler, Wrong};

/// An Open ask made ready.
#[derive(Debug, Clone)]
pub struct OpenNode {
    /// The question.
    pub say: Vec<Vec<Piece>>,
    /// The fields it reads, by index.
    pub fields: Vec<usize>,
    /// Reads them.
    pub reader: FreeReader,
    /// True where what is missing is asked on one form.
    pub together: bool,
}

pub(super) fn compile(open: &OpenAsk, compiler: &mut Compiler<'_>, at: &str) -> Result<Kind, Wrong> {
    let (fields, reader) = compiler.free_reader(&open.fields)?;
    if fields.is_empty() {
        compiler.fault("text", at, "this Open ask reads no fields");
    }
    let (say, together) = (compiler.wordings(&open.say, at), open.missing == AskMissing::Together);
    Ok(Kind::OpenAsk(Box::new(OpenNode { say, fields, reader, together })))
}
