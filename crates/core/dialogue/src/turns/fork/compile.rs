//! Fork made ready.

use super::Fork;
use crate::plan::Kind;
use crate::plan::compile::{Compiler, Wrong};

pub(super) fn compile(fork: &Fork, compiler: &mut Compiler<'_>, at: &str) -> Result<Kind, Wrong> {
    if fork.arms.is_empty() {
        compiler.fault("arm", at, "this Fork has no arms");
    }
    Ok(Kind::Fork)
}
