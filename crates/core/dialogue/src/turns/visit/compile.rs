//! Visit made ready.

use super::Visit;
use crate::plan::Kind;
use crate::plan::Next;
use crate::plan::compile::{Compiler, Wrong};

pub(super) fn compile(visit: &Visit, compiler: &mut Compiler<'_>, at: &str) -> Result<Kind, Wrong> {
    Ok(match compiler.go_to(&visit.section, at) {
        Next::GoTo(section) => Kind::Visit(section),
        _ => Kind::Broken(format!("there is no section “{}” to visit", visit.section)),
    })
}
