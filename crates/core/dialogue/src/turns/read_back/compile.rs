//! Read back made ready.

use lumbo_reading::FreeReader;
use lumbo_value::text::Piece;

use super::ReadBack;
use crate::plan::Kind;
use crate::plan::compile::{Compiler, Wrong};

/// A Read back made ready.
#[derive(Debug, Clone)]
pub struct ReadBackNode {
    /// The line above.
    pub say: Vec<Vec<Piece>>,
    /// The fields shown, by index.
    pub fields: Vec<usize>,
    /// Reads a correction.
    pub reader: FreeReader,
}

pub(super) fn compile(back: &ReadBack, compiler: &mut Compiler<'_>, at: &str) -> Result<Kind, Wrong> {
    let (fields, reader) = compiler.free_reader(&back.fields)?;
    if fields.is_empty() {
        compiler.fault("text", at, "this Read back shows no fields");
    }
    Ok(Kind::ReadBack(Box::new(ReadBackNode { say: compiler.wordings(&back.say, at), fields, reader })))
}
