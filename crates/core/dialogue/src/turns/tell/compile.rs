//! Tell made ready.

use super::Tell;
use crate::plan::Kind;
use crate::plan::compile::{Compiler, Wrong};

pub(super) fn compile(tell: &Tell, compiler: &mut Compiler<'_>, at: &str) -> Result<Kind, Wrong> {
    if tell.say.is_empty() {
        compiler.fault("text", at, "this Tell says nothing");
    }
    Ok(Kind::Tell(tell.say.iter().map(|part| compiler.part(part, at)).collect()))
}
